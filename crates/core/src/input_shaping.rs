//! From what a device says to what a hand asks of an axis.

use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// How an axis takes what a stick, key or wheel says.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct Shaping {
    /// What is taken for rest, 0 to 0.9 of full.
    pub dead_zone: f64,
    /// 1 is straight; above, the middle becomes finer: the power that is taken, 0.3 to 4.
    pub curve: f64,
    /// The other way round.
    pub inverted: bool,
    /// Share of the axis' top speed at full, 0.01 to 1.
    pub speed: f64,
    /// Scales the fluid drag of this axis, 0 to 4.
    pub drag: f64,
}

impl Default for Shaping {
    fn default() -> Shaping {
        Shaping { dead_zone: 0.0, curve: 1.0, inverted: false, speed: 1.0, drag: 1.0 }
    }
}

impl Shaping {
    /// The same within what can be asked for; numbers that are none become the usual ones.
    pub fn within_reason(self) -> Shaping {
        let usual = Shaping::default();
        let take = |v: f64, or: f64, low: f64, high: f64| if v.is_finite() { v.clamp(low, high) } else { or };
        Shaping {
            dead_zone: take(self.dead_zone, usual.dead_zone, 0.0, 0.9),
            curve: take(self.curve, usual.curve, 0.3, 4.0),
            speed: take(self.speed, usual.speed, 0.01, 1.0),
            drag: take(self.drag, usual.drag, 0.0, 4.0),
            ..self
        }
    }

    /// The share of top speed that is asked for, from −1 to 1. Full stays full.
    pub fn rate(&self, raw: f64) -> f64 {
        let size = raw.abs().min(1.0);
        if raw.is_nan() || size <= self.dead_zone {
            return 0.0;
        }
        let beyond = ((size - self.dead_zone) / (1.0 - self.dead_zone)).powf(self.curve);
        beyond.copysign(raw) * if self.inverted { -1.0 } else { 1.0 } * self.speed
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn rest_is_rest_full_is_full_and_the_middle_is_finer() {
        let s = Shaping { dead_zone: 0.1, curve: 2.0, ..Shaping::default() };
        assert_eq!([s.rate(0.0), s.rate(0.1), s.rate(-0.1)], [0.0; 3]);
        assert_eq!([s.rate(1.0), s.rate(-1.0), s.rate(7.0)], [1.0, -1.0, 1.0]);
        assert!((s.rate(0.55) - 0.25).abs() < 1e-12);
        let slow = Shaping { inverted: true, speed: 0.4, ..s };
        assert!((slow.rate(1.0) + 0.4).abs() < 1e-12);
        assert_eq!(s.rate(f64::NAN), 0.0);
    }

    proptest! {
        #[test]
        fn it_never_jumps_and_never_turns_back(
            dead_zone in -1.0..2.0f64, curve in -1.0..9.0f64, a in -1.0..1.0f64, b in -1.0..1.0f64,
        ) {
            let s = Shaping { dead_zone, curve, ..Shaping::default() }.within_reason();
            let (low, high) = (a.min(b), a.max(b));
            prop_assert!(s.rate(low) <= s.rate(high));
            prop_assert!(s.rate(s.dead_zone + 1e-9).abs() < 0.01);
        }
    }
}
