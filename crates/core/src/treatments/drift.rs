//! Lets dead stops move on a little: a pivot that stands while the swing goes on, a pause between two
//! strokes.
//!
//! **Method.** The stops of each axis are found as those of the camera are. A stop takes a little time
//! from the motion before and after it; over all of that the axis goes from where it was to where it
//! will be: it brakes from the speed it came with to a slow one, half of what going evenly would take,
//! keeps that, and speeds up to the speed it leaves with, along ramps of the third degree. Speed is
//! continuous and never stops. Where it turns back, it must stand for an instant: such a stop is left as
//! it is.

use super::{Level, Treat};
use crate::measures::axis_stops;
use crate::motion::{Context, Motion};
use crate::params::{Invalid, Param, within};
use serde::{Deserialize, Serialize};
use std::ops::Range;
use ts_rs::TS;

/// The treatment.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Drift {
    /// How much time before and after a stop it takes: more is softer.
    pub reach_s: f64,
}

impl Default for Drift {
    fn default() -> Drift {
        Drift { reach_s: 0.6 }
    }
}

/// The slow speed, as a share of what going evenly would take.
const SLOW: f64 = 0.5;

fn reach() -> Param {
    Param::number("reach_s", "takes", "s", 0.05, 5.0)
        .start(0.6)
        .log()
        .hint("How much time before and after a stop it takes to move through it; more is softer.")
}

/// From one sample to another through everything between, with the speeds at both, where it goes on in
/// the direction it came.
fn through(values: &mut [f64], span: Range<usize>) {
    let (first, last) = (span.start, span.end);
    let (from, to) = (values[first], values[last]);
    let (came, leaves) = (from - values[first - 1], values[last + 1] - to);
    let steps = (last - first) as f64;
    let way = to - from;
    let slow = SLOW * way / steps;
    let mean = (came + leaves) / 2.0;
    // How long each ramp is, so that all of the way is gone.
    let ramp = (way - slow * steps) / (mean - slow);
    if came * way <= 0.0 || leaves * way <= 0.0 || !(0.0..=steps / 2.0).contains(&ramp) || ramp == 0.0 {
        return;
    }
    // What a ramp adds to going slowly all the time, from its fast end on.
    let more = |fast: f64, u: f64| (fast - slow) * ramp * (u - u.powi(3) + u.powi(4) / 2.0);
    for (k, value) in values[first..=last].iter_mut().enumerate() {
        let t = k as f64;
        let braked = more(came, (t / ramp).min(1.0));
        let sped = more(leaves, 1.0) - more(leaves, ((steps - t) / ramp).min(1.0));
        *value = from + slow * t + braked + sped;
    }
}

impl Treat for Drift {
    const LEVEL: Level = Level::Machine;
    const WORDS: (&'static str, &'static str) =
        ("Drift", "Lets an axis that stands still in the middle of the move go on a little.");

    fn params() -> Vec<Param> {
        vec![reach()]
    }

    fn check(&self) -> Result<(), Invalid> {
        within(&reach(), self.reach_s)
    }

    fn apply(&self, motion: &Motion, context: &Context) -> Motion {
        let mut drifting = motion.clone();
        let rate_hz = motion.samples.rate_hz();
        let reach = (self.reach_s * rate_hz).round() as usize;
        for (i, axis) in context.axes().iter().enumerate() {
            let mut column = motion.samples.column(i);
            for stretch in motion.stretches() {
                let values = &mut column[stretch];
                let found = axis_stops(axis, values, rate_hz);
                for (k, (from, to)) in found.iter().enumerate() {
                    // No farther than half way to the next stop, and never to the ends.
                    let before = if k > 0 { found[k - 1].1 } else { 0 };
                    let after = found.get(k + 1).map_or(values.len() - 1, |next| next.0);
                    let first = from.saturating_sub(reach).max((before + from) / 2).max(1);
                    let last = (to + reach).min((to + after) / 2).min(values.len() - 2);
                    through(values, first..last);
                }
            }
            drifting.samples.set_column(i, &column);
        }
        drifting
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::curve::slope::minimum_jerk;
    use crate::lens::Camera;
    use crate::rigs::{Rig, RigSpec, TelescopicCrane};
    use crate::samples::Samples;
    use crate::time::Rate;

    const HZ: f64 = 120.0;

    fn crane() -> Box<dyn Rig> {
        RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default())
    }

    /// Twelve seconds of a crane: it swings all the time, pans, holds the pan for three seconds, pans on
    /// or back; the boom stands for all of it.
    fn motion(rig: &dyn Rig, on: f64) -> Motion {
        let stroke = |t: f64, from: f64| minimum_jerk(((t - from) / 3.0).clamp(0.0, 1.0));
        let row = |k: usize| {
            let t = k as f64 / HZ;
            let pan = 0.6 * stroke(t, 1.0) + on * 0.5 * stroke(t, 7.0);
            [0.05 * t, 0.2, 5.0, pan, -0.1, 0.0, 28.0, 5.0, 4.0]
        };
        Motion::of(Samples::new(HZ, 9, (0..=1440).flat_map(row).collect()), rig.axes())
    }

    #[test]
    fn a_pivot_that_stands_goes_on_and_its_speed_is_continuous() {
        let rig = crane();
        let (before, context) = (motion(&*rig, 1.0), Context::of(&*rig, &Camera::default(), Rate::FILM));
        let after = Drift::default().apply(&before, &context);
        let (raw, pan) = (before.samples.column(3), after.samples.column(3));
        assert_eq!(axis_stops(&rig.axes()[3], &raw, HZ).len(), 1);
        let speed: Vec<f64> = pan.windows(2).map(|w| (w[1] - w[0]) * HZ).collect();
        // From where it held on: never so slow as to be a stop (0.2°/s).
        for (k, v) in speed.iter().enumerate().take(7 * 120).skip(4 * 120) {
            assert!(v.to_degrees() > 0.2, "{}°/s at {k}", v.to_degrees());
        }
        assert!(axis_stops(&rig.axes()[3], &pan, HZ).is_empty());
        // A step of speed would be a jolt: within a sample it changes by what the strokes change too.
        let steepest = |c: &[f64]| {
            c.windows(3).map(|w| ((w[2] - w[1]) - (w[1] - w[0])).abs() * HZ * HZ).fold(0.0, f64::max)
        };
        assert!(steepest(&pan) < 4.0 * steepest(&raw), "{} {}", steepest(&pan), steepest(&raw));
        assert_eq!((pan[0], pan[1440]), (raw[0], raw[1440]), "the ends stay");
        for i in [0, 1, 2, 4, 5, 6, 7, 8] {
            assert_eq!(before.samples.column(i), after.samples.column(i), "axis {i} had no stop");
        }
    }

    #[test]
    fn where_it_turns_back_it_is_left_as_it_is() {
        let rig = crane();
        let (before, context) = (motion(&*rig, -1.0), Context::of(&*rig, &Camera::default(), Rate::FILM));
        assert_eq!(axis_stops(&rig.axes()[3], &before.samples.column(3), HZ).len(), 1);
        assert_eq!(Drift { reach_s: 1.0 }.apply(&before, &context), before);
    }

    #[test]
    fn what_does_not_stop_is_left_alone_to_the_bit() {
        let rig = crane();
        let context = Context::of(&*rig, &Camera::default(), Rate::FILM);
        let row = |k: usize| [(k as f64 / 200.0).sin(); 9];
        let before = Motion::of(Samples::new(HZ, 9, (0..=1440).flat_map(row).collect()), rig.axes());
        assert_eq!(Drift::default().apply(&before, &context), before);
        assert!(Drift { reach_s: 0.0 }.check().is_err());
        for count in 1..4 {
            let short = Motion::plain(Samples::new(HZ, 9, [0.5; 9].repeat(count)));
            assert_eq!(Drift::default().apply(&short, &context), short);
        }
    }
}
