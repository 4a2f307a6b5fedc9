//! What breaks things, and what it costs.
#![allow(missing_docs)]

/// Marsaglia's xorshift (J. Stat. Softw. 8(14), 2003).
pub struct Dice(pub u64);

impl Dice {
    pub fn roll(&mut self, below: usize) -> usize {
        self.0 ^= self.0 << 13;
        self.0 ^= self.0 >> 7;
        self.0 ^= self.0 << 17;
        (self.0 % below as u64) as usize
    }
}

/// What this process has in memory (VmRSS), or had at its most (VmHWM), kB.
pub fn resident_kb(which: &str) -> usize {
    let status = std::fs::read_to_string("/proc/self/status").unwrap_or_default();
    let line = status.lines().find(|l| l.starts_with(which)).unwrap_or_default();
    line.split_ascii_whitespace().nth(1).and_then(|n| n.parse().ok()).unwrap_or(0)
}
