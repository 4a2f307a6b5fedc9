//! Wrong codes, each place by itself: who guesses waits, and nobody else does. All places together have a bound
//! too: whoever has many addresses does not guess the quicker for that.

use std::collections::{BTreeMap, BTreeSet, VecDeque};
use std::net::IpAddr;
use std::time::{Duration, Instant};

/// Wrong codes before a place waits, and for how long.
const MOST_WRONG: u32 = 10;
const WAITS: Duration = Duration::from_secs(60);
/// Wrong codes of all addresses together within [`WAITS`]. Beyond that many, only addresses that have given the
/// right code before may come in.
const MOST_TOGETHER: usize = 200;
/// Places that are remembered; the one that was quiet the longest makes room.
const MOST_PLACES: usize = 1000;

/// Wrong codes lately: their number and last time, by address.
#[derive(Default)]
pub struct Tries {
    places: BTreeMap<IpAddr, (u32, Instant)>,
    /// Times of the wrong codes of all addresses, oldest first.
    together: VecDeque<Instant>,
    /// Addresses that have given the right code.
    known: BTreeSet<IpAddr>,
}

impl Tries {
    /// True if an address may come in that gave the right code, or a wrong one, now.
    pub fn may(&mut self, from: IpAddr, right: bool, now: Instant) -> bool {
        let old = |at: &Instant| now.saturating_duration_since(*at) >= WAITS;
        self.places.retain(|_, (_, last)| !old(last));
        while self.together.front().is_some_and(old) {
            self.together.pop_front();
        }
        if self.together.len() >= MOST_TOGETHER && !self.known.contains(&from) {
            return false;
        }
        let wrong = self.places.get(&from).map_or(0, |(count, _)| *count);
        if wrong >= MOST_WRONG {
            return false;
        }
        if right {
            self.places.remove(&from);
            if self.known.len() < MOST_PLACES {
                self.known.insert(from);
            }
            return true;
        }
        self.together.push_back(now);
        if self.places.len() >= MOST_PLACES
            && let Some(quiet) =
                self.places.iter().min_by_key(|(_, (_, last))| *last).map(|(place, _)| *place)
        {
            self.places.remove(&quiet);
        }
        self.places.insert(from, (wrong + 1, now));
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
        assert!(tries.places.is_empty());
        // Many addresses together guess no more often than that, and the phone still comes in.
        for k in 0..2 * MOST_TOGETHER as u32 {
            assert!(!tries.may(IpAddr::from(k.to_be_bytes()), false, at(70)));
        }
        // Three of them were the phone's own slips.
        assert_eq!(tries.places.len(), MOST_TOGETHER - 3);
        assert!(!tries.may("10.9.9.9".parse().unwrap(), true, at(71)), "nobody new for a while");
        assert!(tries.may(phone, true, at(71)));
        assert!(tries.may("10.9.9.9".parse().unwrap(), true, at(130)));
        for minute in 2..12 {
            for k in 0..MOST_TOGETHER as u32 {
                tries.may(
                    IpAddr::from((minute as u32 * 1000 + k).to_be_bytes()),
                    false,
                    at(60 * minute + 20),
                );
            }
        }
        assert!(tries.places.len() <= MOST_PLACES && tries.together.len() <= MOST_TOGETHER);
    }
}
