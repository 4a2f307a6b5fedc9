//! Lets dead stops move on a little: a pivot that stands while the swing goes on, a pause between two
//! strokes.
//!
//! **Method.** The stops of each axis are found as those of the camera are. A stop takes a little time
//! from the motion before and after it; over all of that the axis goes from where it was to where it
//! will be: it brakes from the speed it came with to a slow one, half of what going evenly would take,
//! keeps that, and speeds up to the speed it leaves with, along ramps of the third degree. Speed is
//! continuous and never stops. Where it turns back it goes on past where it stood, as slowly as is no
//! longer a stop, turns within a quarter of a second and comes back as slowly.

use super::questions::{Answer, Ask, Asked, FoundStretch};
use super::{Level, Treat, TreatmentKind};
use crate::measures::{STOP_S, stillness, stops_of_axes};
use crate::motion::{Context, Motion};
use crate::params::{Invalid, Param, within};
use serde::{Deserialize, Serialize};
use std::ops::{Range, RangeInclusive};
use ts_rs::TS;

/// Drift treatment.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct Drift {
    /// Time before and after a stop that the drift takes, seconds: more is softer.
    pub reach_s: f64,
    /// How fast it goes on in the slowest, percent of going evenly.
    pub slow_percent: f64,
    /// Stops that are meant.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    #[ts(as = "Option<Vec<IntendedStop>>", optional)]
    pub leave: Vec<IntendedStop>,
}

/// A stop that is meant and left as it is: the one of an axis that has this time in it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct IntendedStop {
    /// Name of the axis.
    pub axis: String,
    /// Seconds of scene time.
    pub at_s: f64,
}

/// A stop that was found, and what becomes of it.
#[derive(Clone, Debug, PartialEq)]
pub struct DriftStop {
    /// Name of the axis.
    pub axis: String,
    /// When it begins, seconds.
    pub from_s: f64,
    /// End of the stop, seconds.
    pub to_s: f64,
    /// Fate of the stop.
    pub becomes: Becomes,
}

/// Fate of a dead stop.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Becomes {
    /// The axis goes on through it.
    GoesOn,
    /// The axis goes on past it, turns, and comes back.
    Turns,
    /// It is meant, and left.
    Left,
    /// The axis comes too slowly, or leaves too slowly, for as much time as may be taken: it is left.
    Stays,
}

impl Default for Drift {
    fn default() -> Drift {
        Drift { reach_s: 0.6, slow_percent: 50.0, leave: Vec::new() }
    }
}

/// Most stops that can be left.
const MOST: usize = 500;

fn reach() -> Param {
    Param::number("reach_s", "takes", "s", 0.05, 5.0)
        .start(0.6)
        .log()
        .hint("How much time before and after a stop it takes to move through it; more is softer.")
}

fn slow() -> Param {
    Param::number("slow_percent", "goes on", "%", 5.0, 95.0)
        .start(50.0)
        .hint("How fast it is at its slowest, of going evenly all the time; less is nearer to a stop.")
}

/// From one sample to another through everything between, with the speeds at both, where it goes on in
/// the direction it came; whether it does.
fn through(values: &mut [f64], span: Range<usize>, share: f64) -> bool {
    let (first, last) = (span.start, span.end);
    let (from, to) = (values[first], values[last]);
    let (came, leaves) = (from - values[first - 1], values[last + 1] - to);
    let steps = (last - first) as f64;
    let way = to - from;
    let slow = share * way / steps;
    let mean = (came + leaves) / 2.0;
    // How long each ramp is, so that all of the way is gone.
    let ramp = (way - slow * steps) / (mean - slow);
    if came * way <= 0.0 || leaves * way <= 0.0 || !(0.0..=steps / 2.0).contains(&ramp) || ramp == 0.0 {
        return false;
    }
    // What a ramp adds to going slowly all the time, from its fast end on.
    let more = |fast: f64, u: f64| (fast - slow) * ramp * (u - u.powi(3) + u.powi(4) / 2.0);
    for (k, value) in values[first..=last].iter_mut().enumerate() {
        let t = k as f64;
        let braked = more(came, (t / ramp).min(1.0));
        let sped = more(leaves, 1.0) - more(leaves, ((steps - t) / ramp).min(1.0));
        *value = from + slow * t + braked + sped;
    }
    true
}

/// How fast it goes where it turns: in stillnesses within half a stop. Less than 1 would be a stop.
const SLOW: f64 = 2.0;
/// Within which share of a stop's time it turns.
const TURN: f64 = 0.5;

/// A stop that an axis leaves the other way than it came.
struct Turning {
    /// How fast it goes before and after it turns, a sample.
    slow: f64,
    /// Samples of braking before a turn.
    brakes: f64,
    /// The sample at which it turns.
    at: usize,
}

impl Turning {
    /// From where it stood in the middle of `stop`, of an axis of a stillness.
    fn of(stop: (usize, usize), stillness: f64, rate_hz: f64) -> Turning {
        let half = STOP_S * rate_hz / 2.0;
        Turning { slow: SLOW * stillness / half, brakes: TURN * half, at: (stop.0 + stop.1) / 2 }
    }

    /// Way to a turn, `t` of `count` samples from an end with the speed `fast`.
    fn way(&self, fast: f64, ramp: f64, t: f64, count: f64) -> f64 {
        let u = (t / ramp).min(1.0);
        let ramped = (fast - self.slow) * ramp * (u - u.powi(3) + u.powi(4) / 2.0);
        let braked = (self.brakes - (count - t)).max(0.0).powi(2) * self.slow / (2.0 * self.brakes);
        self.slow * t + ramped - braked
    }

    /// The ramp of an end so many samples from where it turns that makes it get so far; none where that
    /// is too far or too near.
    fn ramp(&self, fast: f64, way: f64, count: f64) -> Option<f64> {
        let ramp = 2.0 * (way - self.slow * (count - self.brakes / 2.0)) / (fast - self.slow);
        (fast > self.slow && ramp > 0.0 && ramp <= count - self.brakes).then_some(ramp)
    }

    /// From one sample to another through everything between, with the speeds at both; whether it does.
    fn through(&self, values: &mut [f64], span: Range<usize>, stop: (usize, usize)) -> bool {
        let (first, last) = (span.start, span.end);
        let sign = (values[first] - values[first - 1]).signum();
        let [came, left] = [first, last + 1].map(|i| (values[i] - values[i - 1]) * sign);
        let (from, to) = (values[first], values[last]);
        // How far past the place where it stood: what it goes slowly while it stood.
        let past = self.slow * (self.at - stop.0) as f64;
        let [before, after] = [self.at - first, last - self.at].map(|n| n as f64);
        let far = |end: f64| (values[self.at] - end) * sign + past;
        let (Some(ramp), Some(ramp_back)) =
            (self.ramp(came, far(from), before), self.ramp(-left, far(to), after))
        else {
            return false;
        };
        for (k, value) in values.iter_mut().enumerate().take(last + 1).skip(first) {
            *value = if k <= self.at {
                from + sign * self.way(came, ramp, (k - first) as f64, before)
            } else {
                to + sign * self.way(-left, ramp_back, (last - k) as f64, after)
            };
        }
        true
    }
}

impl Treat for Drift {
    const LEVEL: Level = Level::Machine;
    const WORDS: (&'static str, &'static str) =
        ("Drift", "Lets an axis that stands still in the middle of the move go on a little.");

    fn params() -> Vec<Param> {
        vec![slow(), reach()]
    }

    fn check(&self) -> Result<(), Invalid> {
        within(&reach(), self.reach_s)?;
        within(&slow(), self.slow_percent)?;
        let plain = self.leave.iter().all(|m| m.at_s.is_finite());
        if self.leave.len() > MOST || !plain {
            return Err(Invalid::at(
                "leave",
                format!("at most {MOST} stops can be left, each with its time"),
            ));
        }
        Ok(())
    }

    fn apply(&self, motion: &Motion, context: &Context) -> Motion {
        self.drifted(motion, context).0
    }
}

impl Drift {
    /// The stops that it finds in a motion, in order of time.
    pub fn stops(&self, motion: &Motion, context: &Context) -> Vec<DriftStop> {
        let mut stops = self.drifted(motion, context).1;
        stops.sort_by(|a, b| a.from_s.total_cmp(&b.from_s));
        stops
    }

    fn drifted(&self, motion: &Motion, context: &Context) -> (Motion, Vec<DriftStop>) {
        let (mut drifting, mut stops) = (motion.clone(), Vec::new());
        let rate_hz = motion.samples.rate_hz();
        let reach = (self.reach_s * rate_hz).round() as usize;
        let axes = context.axes();
        let mut columns: Vec<Vec<f64>> = (0..axes.len()).map(|i| motion.samples.column(i)).collect();
        for stretch in motion.stretches() {
            let begins = stretch.start;
            let parts = axes.iter().zip(&columns).map(|(axis, column)| (axis, &column[stretch.clone()]));
            let found = stops_of_axes(&parts.collect::<Vec<_>>(), rate_hz);
            for ((axis, column), found) in axes.iter().zip(&mut columns).zip(found) {
                let values = &mut column[stretch.clone()];
                let still = stillness(axis);
                let turning = |from, to| still.map(|still| Turning::of((from, to), still, rate_hz));
                for (k, (from, to)) in found.iter().copied().enumerate() {
                    let [from_s, to_s] = [from, to].map(|k| (begins + k) as f64 / rate_hz);
                    // No farther than half way to the next stop, and never to the ends.
                    let before = if k > 0 { found[k - 1].1 } else { 0 };
                    let after = found.get(k + 1).map_or(values.len() - 1, |next| next.0);
                    let first = from.saturating_sub(reach).max((before + from) / 2).max(1);
                    let last = (to + reach).min((to + after) / 2).min(values.len() - 2);
                    let becomes = if self.is_meant(axis.name, from_s..=to_s) {
                        Becomes::Left
                    } else if through(values, first..last, self.slow_percent / 100.0) {
                        Becomes::GoesOn
                    } else if turning(from, to).is_some_and(|t| t.through(values, first..last, (from, to))) {
                        Becomes::Turns
                    } else {
                        Becomes::Stays
                    };
                    stops.push(DriftStop { axis: axis.name.into(), from_s, to_s, becomes });
                }
            }
        }
        columns.iter().enumerate().for_each(|(i, column)| drifting.samples.set_column(i, column));
        (drifting, stops)
    }

    fn is_meant(&self, axis: &str, when: RangeInclusive<f64>) -> bool {
        self.leave.iter().any(|m| m.axis == axis && when.contains(&m.at_s))
    }

    /// The drift with the operator's choice for a stop turned round: left if it was not, and not if it was.
    fn turned(&self, stop: &DriftStop) -> Drift {
        let DriftStop { axis, from_s, to_s, becomes } = stop;
        let of_stop = |m: &IntendedStop| m.axis == *axis && (*from_s..=*to_s).contains(&m.at_s);
        let mut leave: Vec<IntendedStop> = self.leave.iter().filter(|m| !of_stop(m)).cloned().collect();
        if *becomes != Becomes::Left {
            leave.push(IntendedStop { axis: axis.clone(), at_s: (from_s + to_s) / 2.0 });
        }
        Drift { leave, ..self.clone() }
    }
}

/// Asks for the stops that a drift finds.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
pub struct ListStops {}

impl Ask for ListStops {
    const OF: &'static str = "drift";
    const WORDS: (&'static str, &'static str) =
        ("Stops", "Where axes stand still in the middle of the move, and what becomes of each.");
    const ASKED: Asked = Asked::Always;
    const SETS: &'static [&'static str] = &["leave"];

    fn answer(
        &self,
        of: &TreatmentKind,
        before: &Motion,
        context: &Context,
        _rest: &dyn Fn(),
    ) -> Option<Answer> {
        let TreatmentKind::Drift(drift) = of else { return None };
        let found: Vec<FoundStretch> = drift
            .stops(before, context)
            .into_iter()
            .map(|stop| {
                let turned = TreatmentKind::Drift(drift.turned(&stop));
                let fixed = "The axis comes or leaves too slowly: let the drift take more time.";
                let (state, fixed) = match stop.becomes {
                    Becomes::GoesOn => ("goes on", None),
                    Becomes::Turns => ("turns", None),
                    Becomes::Left => ("left", None),
                    Becomes::Stays => ("stays", Some(fixed)),
                };
                let left = stop.becomes == Becomes::Left;
                let DriftStop { axis: name, from_s, to_s, .. } = stop;
                FoundStretch { name, from_s, to_s, state, fixed, left, turned }
            })
            .collect();
        let none = "Nothing stands still in the middle of the move.";
        let words = if found.is_empty() { none.into() } else { String::new() };
        Some(Answer { words, found, ..Answer::default() })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::curve::slope::minimum_jerk;
    use crate::lens::Camera;
    use crate::measures::axis_stops;
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
    fn where_it_turns_back_it_goes_on_past_the_place_and_comes_back() {
        let rig = crane();
        let (before, context) = (motion(&*rig, -1.0), Context::of(&*rig, &Camera::default(), Rate::FILM));
        let raw = before.samples.column(3);
        assert_eq!(axis_stops(&rig.axes()[3], &raw, HZ).len(), 1);
        let after = Drift::default().apply(&before, &context);
        let pan = after.samples.column(3);
        assert!(axis_stops(&rig.axes()[3], &pan, HZ).is_empty());
        // A little: well under two degrees past where it stood, in the direction in which it came.
        let most = pan.iter().zip(&raw).map(|(a, b)| a - b).fold(0.0, f64::max).to_degrees();
        assert!((0.3..2.0).contains(&most), "{most}°");
        let steepest = |c: &[f64]| {
            c.windows(3).map(|w| ((w[2] - w[1]) - (w[1] - w[0])).abs() * HZ * HZ).fold(0.0, f64::max)
        };
        assert!(steepest(&pan) < 4.0 * steepest(&raw), "{} {}", steepest(&pan), steepest(&raw));
        let changed: Vec<usize> = (0..raw.len()).filter(|k| pan[*k] != raw[*k]).collect();
        assert!(changed[0] > 300 && changed[changed.len() - 1] < 1000, "{changed:?}");
        // One that creeps in and out at 0.3°/s has nothing to brake with.
        let mut creeps = before.clone();
        let creep =
            |k: usize| 0.3_f64.to_radians() * ((k as f64 / HZ).min(4.0) - (k as f64 / HZ - 7.0).max(0.0));
        creeps.samples.set_column(3, &(0..raw.len()).map(creep).collect::<Vec<f64>>());
        assert_eq!(Drift::default().stops(&creeps, &context)[0].becomes, Becomes::Stays);
        assert_eq!(Drift::default().apply(&creeps, &context), creeps);
    }

    #[test]
    fn what_does_not_stop_is_left_alone_to_the_bit() {
        let rig = crane();
        let context = Context::of(&*rig, &Camera::default(), Rate::FILM);
        let row = |k: usize| [(k as f64 / 200.0).sin(); 9];
        let before = Motion::of(Samples::new(HZ, 9, (0..=1440).flat_map(row).collect()), rig.axes());
        assert_eq!(Drift::default().apply(&before, &context), before);
        assert!(Drift { reach_s: 0.0, ..Drift::default() }.check().is_err());
        for count in 1..4 {
            let short = Motion::plain(Samples::new(HZ, 9, [0.5; 9].repeat(count)));
            assert_eq!(Drift::default().apply(&short, &context), short);
        }
    }

    #[test]
    fn each_stop_is_listed_with_what_becomes_of_it_and_what_is_meant_is_left() {
        let rig = crane();
        let context = Context::of(&*rig, &Camera::default(), Rate::FILM);
        let (on, back) = (motion(&*rig, 1.0), motion(&*rig, -1.0));
        let [stop] = &Drift::default().stops(&on, &context)[..] else { panic!("there is one stop") };
        assert_eq!((&*stop.axis, stop.becomes), ("pan", Becomes::GoesOn));
        // It holds from 4 to 7 s; both strokes end softly, so it stands a little longer.
        assert!((3.4..4.0).contains(&stop.from_s) && (7.0..7.6).contains(&stop.to_s), "{stop:?}");
        assert_eq!(Drift::default().stops(&back, &context)[0].becomes, Becomes::Turns);
        let meant = |axis: &str, at_s: f64| Drift {
            leave: vec![IntendedStop { axis: axis.into(), at_s }],
            ..Drift::default()
        };
        assert_eq!(meant("pan", 5.0).apply(&on, &context), on);
        assert_eq!(meant("pan", 5.0).stops(&on, &context)[0].becomes, Becomes::Left);
        for other in [meant("pan", 9.0), meant("tilt", 5.0)] {
            assert_eq!(other.apply(&on, &context), Drift::default().apply(&on, &context));
        }
        // Slower is nearer to a stop.
        let slowest = |slow_percent: f64| {
            let pan = Drift { slow_percent, ..Drift::default() }.apply(&on, &context).samples.column(3);
            pan[500..800].windows(2).map(|w| w[1] - w[0]).fold(f64::MAX, f64::min)
        };
        assert!(slowest(20.0) < 0.5 * slowest(50.0) && slowest(20.0) > 0.0);
    }
}
