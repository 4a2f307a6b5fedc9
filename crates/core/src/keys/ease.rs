//! How an axis gets from one key to the next, by name.
//!
//! **Method.** An ease is a curve from 0 to 1 within a second. Laid between two keys it is stretched to
//! their times and values: the sides that face each other become free, and what it needs between them
//! (the touches of a bounce, the turns of a settling arm) becomes keys of its own.

use crate::curve::{Curve, CurveKey, Side};
use crate::params::Invalid;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A way from one key to the next.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "by", deny_unknown_fields)]
pub enum Ease {
    /// Ease in: starts slowly.
    In,
    /// Ease out: ends slowly.
    Out,
    /// Starts and ends slowly.
    Both,
    /// Starts and ends very slowly, quick in the middle.
    Soft,
    /// Even, with a short start and stop.
    Hard,
    /// Goes a little past and comes back.
    Overshoot,
    /// Stands, is there at once, and catches itself.
    Whip,
    /// Falls onto the end and bounces three times.
    Bounce,
    /// Goes past and swings until it rests.
    Settle,
    /// Own curve, as `cubic-bezier` of CSS Easing Functions Level 1.
    Own {
        /// Time of the first handle, 0 to 1.
        x1: f64,
        /// And how far it rises by then; 0 where `x1` is.
        y1: f64,
        /// When the end begins, 0 to 1.
        x2: f64,
        /// And how far it has risen by then; 1 where `x2` is.
        y2: f64,
    },
}

/// Share of the speed that is left after a touch.
const BOUNCES: f64 = 0.5;
/// Amplitude of each swing of settling, as a share of the one before it.
const SWINGS: f64 = 0.2;
/// When settling is first past its end, and turns from then on.
const TURNS: [f64; 5] = [0.0, 0.4, 0.6, 0.8, 1.0];

impl Ease {
    /// All that have names, in the order in which they are offered.
    pub const NAMED: [Ease; 9] = [
        Ease::In,
        Ease::Out,
        Ease::Both,
        Ease::Soft,
        Ease::Hard,
        Ease::Overshoot,
        Ease::Whip,
        Ease::Bounce,
        Ease::Settle,
    ];

    /// Checks that there is such a curve.
    pub fn check(self) -> Result<(), Invalid> {
        let Ease::Own { x1, y1, x2, y2 } = self else { return Ok(()) };
        let wrong = |path: &str, sentence: &str| Err(Invalid::at(path, sentence));
        if ![x1, x2].iter().all(|x| (0.0..=1.0).contains(x)) {
            return wrong("x1", "the times of an ease are shares of its length; give 0 to 1");
        }
        if ![y1, y2].iter().all(|y| (-5.0..=5.0).contains(y)) {
            return wrong("y1", "the rises of an ease are shares of its height; give -5 to 5");
        }
        if x1 == 0.0 && y1 != 0.0 {
            return wrong("y1", "an ease whose start is followed for no time rises by 0 there");
        }
        if x2 == 1.0 && y2 != 1.0 {
            return wrong("y2", "an ease whose end is followed for no time has risen by 1 there");
        }
        Ok(())
    }

    /// From 0 to 1 within a second.
    ///
    /// `in`, `out` and `both` are `ease-in`, `ease-out` and `ease-in-out` of CSS Easing Functions
    /// Level 1; the others are ours.
    pub fn curve(self) -> Curve {
        match self {
            Ease::In => Curve::ease(0.42, 0.0, 1.0, 1.0),
            Ease::Out => Curve::ease(0.0, 0.0, 0.58, 1.0),
            Ease::Both => Curve::ease(0.42, 0.0, 0.58, 1.0),
            Ease::Soft => Curve::ease(0.65, 0.0, 0.35, 1.0),
            Ease::Hard => Curve::ease(0.12, 0.0, 0.88, 1.0),
            Ease::Overshoot => Curve::ease(0.3, 0.0, 0.3, 1.35),
            Ease::Whip => Curve::ease(0.85, 0.0, 0.1, 1.05),
            Ease::Own { x1, y1, x2, y2 } => Curve::ease(x1, y1, x2, y2),
            Ease::Bounce => bounce(),
            Ease::Settle => settle(),
        }
    }

    /// The keys from one to the next, both among them.
    pub(super) fn between(self, from: &CurveKey, to: &CurveKey) -> Vec<CurveKey> {
        let (h, d) = (to.time_s - from.time_s, to.value - from.value);
        let side = |side: Side| match side {
            Side::Free { slope, length } => Side::Free { slope: slope * d / h, length },
            other => other,
        };
        let laid = |k: &CurveKey| CurveKey {
            time_s: from.time_s + k.time_s * h,
            value: from.value + k.value * d,
            before: side(k.before),
            after: side(k.after),
        };
        let mut keys: Vec<CurveKey> = self.curve().keys().iter().map(laid).collect();
        let last = keys.len() - 1;
        // The ends stay where they are to the bit, and keep the sides that face away.
        keys[0] = CurveKey { after: keys[0].after, ..*from };
        keys[last] = CurveKey { before: keys[last].before, ..*to };
        keys
    }
}

/// A fall and three bounces: parabolas, which a span of the third degree meets exactly.
fn bounce() -> Curve {
    let lasts = [1.0, 2.0 * BOUNCES, 2.0 * BOUNCES.powi(2), 2.0 * BOUNCES.powi(3)];
    let whole: f64 = lasts.iter().sum();
    // As fast as it comes to the first touch, in rises a second.
    let speed = 2.0 * whole;
    let mut keys = vec![CurveKey::smooth(0.0, 0.0)];
    let mut time_s = 0.0;
    let free = |slope: f64| Side::Free { slope, length: crate::curve::THIRD };
    for (k, last) in lasts.iter().enumerate() {
        time_s += last / whole;
        let (comes, leaves) = (speed * BOUNCES.powi(k as i32), -speed * BOUNCES.powi(k as i32 + 1));
        keys.push(CurveKey { time_s, value: 1.0, before: free(comes), after: free(leaves) });
    }
    keys.last_mut().into_iter().for_each(|k| (k.time_s, k.after) = (1.0, Side::Smooth));
    Curve::new(keys).expect("a bounce goes forward in time")
}

/// Curve of a sprung thing that is let go: its turns, each less far from the end.
fn settle() -> Curve {
    let turn = |(n, time_s): (usize, &f64)| {
        let left = if n + 1 == TURNS.len() { 0.0 } else { (-SWINGS).powi(n as i32) };
        CurveKey { before: Side::Flat, after: Side::Flat, ..CurveKey::smooth(*time_s, 1.0 - left) }
    };
    Curve::new(TURNS.iter().enumerate().map(turn).collect()).expect("it goes forward in time")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_named_ease_goes_from_nothing_to_all_and_is_a_curve() {
        for ease in Ease::NAMED {
            let curve = ease.curve();
            assert_eq!((curve.at(0.0), curve.at(1.0)), (Some(0.0), Some(1.0)), "{ease:?}");
            assert!(Curve::new(curve.keys().to_vec()).is_ok() && ease.check().is_ok(), "{ease:?}");
        }
        let most = |ease: Ease| {
            (0..=1000).map(|k| ease.curve().at(f64::from(k) / 1000.0).unwrap()).fold(0.0, f64::max)
        };
        let goes_past = |ease: Ease| most(ease) > 1.0 + 1e-9;
        assert_eq!(Ease::NAMED.map(goes_past), [false, false, false, false, false, true, true, false, true]);
        assert!((most(Ease::Settle) - 1.2).abs() < 1e-12);
    }

    /// A thing that falls from rest and keeps half of its speed at every touch.
    #[test]
    fn a_bounce_is_a_fall() {
        let curve = Ease::Bounce.curve();
        let touch = 1.0 / 2.75;
        let fall = 2.0 / (touch * touch);
        for k in 0..100 {
            let t = touch * f64::from(k) / 100.0;
            assert!((curve.at(t).unwrap() - fall * t * t / 2.0).abs() < 1e-12);
        }
        // Half the speed, a quarter of the height, half of the time up and down.
        assert!((curve.at(touch * 1.5).unwrap() - 0.75).abs() < 1e-12);
        assert!((curve.at(touch * 2.0).unwrap() - 1.0).abs() < 1e-12);
    }

    #[test]
    fn laid_between_keys_it_is_stretched_and_the_far_sides_stay() {
        let from = CurveKey { before: Side::Straight, ..CurveKey::smooth(2.0, 10.0) };
        let to = CurveKey { after: Side::Hold, ..CurveKey::smooth(6.0, -10.0) };
        for ease in Ease::NAMED {
            let keys = ease.between(&from, &to);
            let (laid, plain) = (Curve::new(keys.clone()).unwrap(), ease.curve());
            assert_eq!((keys[0].before, keys[keys.len() - 1].after), (Side::Straight, Side::Hold));
            for k in 0..=40 {
                let u = f64::from(k) / 40.0;
                let (is, want) = (laid.at(2.0 + 4.0 * u).unwrap(), 10.0 - 20.0 * plain.at(u).unwrap());
                assert!((is - want).abs() < 1e-9, "{ease:?} at {u}: {is} {want}");
            }
        }
    }

    #[test]
    fn an_ease_of_ones_own_must_be_a_curve() {
        let own = |x1, y1, x2, y2| Ease::Own { x1, y1, x2, y2 }.check();
        assert!(own(0.2, 0.9, 0.4, 1.0).is_ok() && own(0.0, 0.0, 1.0, 1.0).is_ok());
        assert!(own(1.2, 0.0, 0.4, 1.0).is_err() && own(0.0, 0.3, 0.4, 1.0).is_err());
        assert!(own(0.2, 0.0, 1.0, 0.4).is_err() && own(0.2, f64::NAN, 0.4, 1.0).is_err());
    }
}
