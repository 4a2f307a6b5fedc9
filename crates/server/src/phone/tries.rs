//! Wrong codes, each place by itself: who guesses waits, and nobody else does.

use std::collections::BTreeMap;
use std::net::IpAddr;
use std::time::{Duration, Instant};

/// Wrong codes before a place waits, and for how long.
const MOST_WRONG: u32 = 10;
const WAITS: Duration = Duration::from_secs(60);
/// Places that are remembered; the one that was quiet the longest makes room.
const MOST_PLACES: usize = 1000;

/// Who tried wrong codes lately: how many, and when last.
#[derive(Default)]
pub struct Tries(BTreeMap<IpAddr, (u32, Instant)>);

impl Tries {
    /// Whether a place may come in that gave the right code, or a wrong one, now.
    pub fn may(&mut self, from: IpAddr, right: bool, now: Instant) -> bool {
        self.0.retain(|_, (_, last)| now.saturating_duration_since(*last) < WAITS);
        let wrong = self.0.get(&from).map_or(0, |(count, _)| *count);
        if wrong >= MOST_WRONG {
            return false;
        }
        if right {
            self.0.remove(&from);
            return true;
        }
        if self.0.len() >= MOST_PLACES
            && let Some(quiet) = self.0.iter().min_by_key(|(_, (_, last))| *last).map(|(place, _)| *place)
        {
            self.0.remove(&quiet);
        }
        self.0.insert(from, (wrong + 1, now));
        false
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn who_guesses_waits_a_minute_and_shuts_out_nobody_else() {
        let [guesser, phone] = ["192.168.1.66", "192.168.1.7"].map(|a| a.parse().unwrap());
        let (mut tries, start) = (Tries::default(), Instant::now());
        let at = |s: u64| start + Duration::from_secs(s);
        for _ in 0..MOST_WRONG {
            assert!(!tries.may(guesser, false, start));
        }
        assert!(!tries.may(guesser, true, at(59)), "the right one comes too late");
        assert!(tries.may(phone, true, at(1)));
        assert!(tries.may(guesser, true, at(60)));
        // A slip now and then is forgiven, and a right code forgets it.
        for _ in 0..3 {
            assert!(!tries.may(phone, false, at(61)));
        }
        assert!(tries.may(phone, true, at(62)));
        assert!(tries.0.is_empty());
        for k in 0..2 * MOST_PLACES as u32 {
            tries.may(IpAddr::from(k.to_be_bytes()), false, at(70));
        }
        assert_eq!(tries.0.len(), MOST_PLACES);
    }
}
