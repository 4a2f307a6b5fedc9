//! When things happen: longer or shorter, slower for a while, held, backwards, with a start or a stop
//! that eases without moving the rest, or so that an instant comes when it is wanted.
//!
//! **Method.** Each way is a map from the time that is seen to the time that was. Speeds change along the
//! fifth-degree course, so that speed and acceleration are continuous.

use super::{Level, Treat};
use crate::curve::slope::through;
use crate::curve::{Curve, CurveKey};
use crate::motion::{Context, Motion};
use crate::params::{Case, Invalid, Param, within, within_curve};
use crate::time_map::{LONGEST_S, TimeMap};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Manner of a retime.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "by", deny_unknown_fields)]
pub enum RetimeBy {
    /// All of it takes so long.
    Stretch {
        /// New length, seconds.
        length_s: f64,
    },
    /// For a while it goes at another speed: 0 holds, below 0 goes back.
    Speed {
        /// When it begins to change, seconds.
        at_s: f64,
        /// Length of the changed stretch with its ramps, seconds.
        for_s: f64,
        /// Factor on the speed.
        speed: f64,
        /// Length of each ramp, seconds.
        ramp_s: f64,
    },
    /// It goes as fast as is drawn: 0 holds, below 0 goes back. It ends when the end is reached, or where
    /// it no longer goes on.
    Drawn {
        /// Factor on the speed over the time that is seen, seconds.
        speed: Curve,
    },
    /// It starts from rest and comes to rest, and everything between is when it was.
    Ease {
        /// Length of the soft start, seconds; 0 leaves the start.
        start_s: f64,
        /// Length of the soft stop, seconds; 0 leaves the stop.
        stop_s: f64,
    },
    /// An instant comes at another one; the start and the end stay.
    Land {
        /// Instant that is moved, seconds.
        from_s: f64,
        /// When it is seen, seconds.
        at_s: f64,
    },
}

/// Retime treatment.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Retime {
    /// Manner of the retime.
    pub way: RetimeBy,
}

impl Default for Retime {
    fn default() -> Retime {
        Retime { way: RetimeBy::Ease { start_s: 1.0, stop_s: 1.0 } }
    }
}

fn seconds(path: &'static str, label: &'static str, least: f64, start: f64) -> Param {
    Param::number(path, label, "s", least, LONGEST_S).start(start)
}

fn stretch() -> Param {
    seconds("length_s", "takes", 0.1, 10.0)
}

fn speed() -> [Param; 4] {
    [
        seconds("at_s", "at", 0.0, 2.0),
        Param::number("for_s", "for", "s", 0.1, 600.0).start(3.0),
        Param::number("speed", "goes", "×", -8.0, 8.0)
            .start(0.5)
            .step(0.05)
            .hint("How many times as fast: 0 holds, below 0 goes back."),
        Param::number("ramp_s", "within", "s", 0.0, 300.0)
            .start(0.6)
            .hint("How long it takes to get to that speed, and back."),
    ]
}

fn drawn() -> Param {
    let slower = [(0.0, 1.0), (1.5, 1.0), (2.5, 0.4), (4.5, 0.4), (5.5, 1.0)];
    Param::curve("speed", "speed", "×", (-4.0, 4.0), None, &slower)
        .hint("How many times as fast it goes at each time: 0 holds, below 0 goes back.")
}

fn ease() -> [Param; 2] {
    [seconds("start_s", "start", 0.0, 1.0), seconds("stop_s", "stop", 0.0, 1.0)]
}

fn land() -> [Param; 2] {
    [seconds("from_s", "of", 0.0, 4.0), seconds("at_s", "comes at", 0.0, 5.0)]
}

/// How far a speed has come that rises from 0 to 1 along the fifth-degree course, at a share of its
/// time; half at its end.
fn risen(u: f64) -> f64 {
    let u = u.clamp(0.0, 1.0);
    u.powi(4) * (2.5 + u * (u - 3.0))
}

/// From rest at 0 to being at 1 as if it had always gone evenly: value, speed and acceleration meet.
fn catches_up(u: f64) -> f64 {
    u.powi(3) * (6.0 + u * (3.0 * u - 8.0))
}

/// How often a drawn speed is summed up, times a second: at every sample, and between two of them.
const SUMMED_HZ: f64 = 240.0;

/// How far it has come at each step, by Simpson's rule, up to the end of a motion so long or to where it
/// no longer goes on.
fn gone(speed: &Curve, length_s: f64) -> Vec<f64> {
    let at = |time_s: f64| speed.at(time_s).unwrap_or(1.0);
    let drawn_s = speed.keys().last().map_or(0.0, |k| k.time_s);
    let step = 1.0 / SUMMED_HZ;
    let mut gone = vec![0.0];
    loop {
        let last = gone[gone.len() - 1];
        let t = (gone.len() - 1) as f64 * step;
        // It ends on a sample of what comes out.
        let whole = (gone.len() - 1).is_multiple_of(2);
        let over = last >= length_s || t >= LONGEST_S || (t >= drawn_s && at(t) <= 0.0);
        if over && whole {
            return gone;
        }
        let more = step * (at(t) + 4.0 * at(t + step / 2.0) + at(t + step)) / 6.0;
        // Before its start and behind its end there is nothing.
        gone.push((last + more).clamp(0.0, length_s));
    }
}

impl RetimeBy {
    /// Manner with instants counted from another time.
    fn since(&self, time_s: f64) -> RetimeBy {
        let since = |at_s: f64| (at_s - time_s).max(0.0);
        match self.clone() {
            RetimeBy::Drawn { speed } => {
                let earlier = |k: &CurveKey| CurveKey { time_s: k.time_s - time_s, ..*k };
                let keys = speed.keys().iter().map(earlier).collect();
                RetimeBy::Drawn { speed: Curve::new(keys).unwrap_or(speed) }
            }
            RetimeBy::Speed { at_s, for_s, speed, ramp_s } => {
                RetimeBy::Speed { at_s: since(at_s), for_s, speed, ramp_s }
            }
            RetimeBy::Land { from_s, at_s } => RetimeBy::Land { from_s: since(from_s), at_s: since(at_s) },
            same @ (RetimeBy::Stretch { .. } | RetimeBy::Ease { .. }) => same,
        }
    }

    /// The map of a motion of a length.
    fn map(self, length_s: f64) -> TimeMap {
        match self {
            RetimeBy::Stretch { length_s: wanted } => TimeMap::new(wanted, move |t| t * length_s / wanted),
            RetimeBy::Speed { at_s, for_s, speed, ramp_s } => {
                let begins = at_s.min(length_s);
                // Of the speed that is lost, how much by when.
                let lost = move |t: f64| {
                    if ramp_s <= 0.0 {
                        return t.clamp(0.0, for_s);
                    }
                    let rises = ramp_s * risen(t / ramp_s) + (t - ramp_s).clamp(0.0, for_s - ramp_s);
                    let falls_from = for_s - ramp_s;
                    let falls = ramp_s * risen((t - falls_from) / ramp_s);
                    rises - falls
                };
                let source = move |t: f64| t - (1.0 - speed) * lost((t - begins).min(for_s).max(0.0));
                let whole = (1.0 - speed) * lost(for_s);
                TimeMap::new((length_s + whole).max(begins), source)
            }
            RetimeBy::Drawn { speed } => {
                let gone = gone(&speed, length_s);
                let ends = (gone.len() - 1) as f64 / SUMMED_HZ;
                TimeMap::new(ends, move |t| {
                    let place = (t * SUMMED_HZ).clamp(0.0, (gone.len() - 1) as f64);
                    let i = (place as usize).min(gone.len().saturating_sub(2));
                    let next = gone.get(i + 1).unwrap_or(&gone[i]);
                    gone[i] + (next - gone[i]) * (place - i as f64)
                })
            }
            RetimeBy::Ease { start_s, stop_s } => {
                // Both have room, or neither has more than its share of what there is.
                let share = (length_s / (start_s + stop_s).max(1e-9)).min(1.0);
                let (start, stop) = (start_s * share, stop_s * share);
                TimeMap::new(length_s, move |t| {
                    let left = length_s - t;
                    if t < start {
                        start * catches_up(t / start)
                    } else if left < stop {
                        length_s - stop * catches_up(left / stop)
                    } else {
                        t
                    }
                })
            }
            RetimeBy::Land { from_s, at_s } => {
                let inside = |t: f64| t > 0.01 && t < length_s - 0.01;
                if !inside(from_s) || !inside(at_s) {
                    return TimeMap::same(length_s);
                }
                let (times, values) = ([0.0, at_s, length_s], [0.0, from_s, length_s]);
                let slopes = through(&times, &values);
                let key = |i: usize| CurveKey::joined(times[i], values[i], slopes[i]);
                let curve = Curve::new((0..3).map(key).collect()).expect("its times increase");
                TimeMap::new(length_s, move |t| curve.at(t).unwrap_or(t))
            }
        }
    }
}

impl Treat for Retime {
    const LEVEL: Level = Level::Time;
    const WORDS: (&'static str, &'static str) = (
        "Retime",
        "Slower, faster, held or back for a while; an eased start or stop; an instant that lands.",
    );

    fn params() -> Vec<Param> {
        let [at, lasts, times, ramps] = speed();
        let [from, lands] = land();
        let ways = vec![
            Case {
                name: "ease",
                label: "an eased start and stop",
                params: vec![Param::row("eases", ease().into())],
            },
            Case {
                name: "speed",
                label: "another speed for a while",
                params: vec![
                    Param::row("when", vec![at, lasts]),
                    times,
                    Param::row("gets there", vec![ramps]),
                ],
            },
            Case::one("drawn", "a drawn speed", drawn()),
            Case {
                name: "stretch",
                label: "another length",
                params: vec![Param::row("all of it", vec![stretch()])],
            },
            Case {
                name: "land",
                label: "an instant that lands",
                params: vec![Param::row("moment", vec![from, lands])],
            },
        ];
        vec![Param::variant("way", "by", Some("by"), ways)]
    }

    fn check(&self) -> Result<(), Invalid> {
        let all = |params: &[Param], values: &[f64]| {
            let each = params.iter().zip(values).try_for_each(|(param, value)| within(param, *value));
            each.map_err(|e| Invalid { path: format!("way/{}", e.path), ..e })
        };
        match self.way {
            RetimeBy::Drawn { ref speed } => {
                within_curve(&drawn(), speed).map_err(|e| Invalid { path: format!("way/{}", e.path), ..e })
            }
            RetimeBy::Stretch { length_s } => all(&[stretch()], &[length_s]),
            RetimeBy::Speed { at_s, for_s, speed: times, ramp_s } => {
                all(&speed(), &[at_s, for_s, times, ramp_s])?;
                if 2.0 * ramp_s > for_s {
                    let sentence =
                        "both ramps lie within the time that it lasts; make it longer, or them shorter";
                    return Err(Invalid::at("way/ramp_s", sentence));
                }
                Ok(())
            }
            RetimeBy::Ease { start_s, stop_s } => all(&ease(), &[start_s, stop_s]),
            RetimeBy::Land { from_s, at_s } => all(&land(), &[from_s, at_s]),
        }
    }

    fn time(&self, begins_s: f64, length_s: f64) -> TimeMap {
        self.way.since(begins_s).map(length_s)
    }

    fn apply(&self, motion: &Motion, context: &Context) -> Motion {
        self.time(0.0, motion.samples.duration_s()).apply(motion, context)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lens::Camera;
    use crate::rigs::{Rig, RigSpec, TelescopicCrane};
    use crate::samples::Samples;
    use crate::time::Rate;
    use crate::treatments::{Treatment, TreatmentKind, treated};

    const HZ: f64 = 120.0;

    fn crane() -> Box<dyn Rig> {
        RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default())
    }

    /// Ten seconds in which the swing says what time it is.
    fn motion(rig: &dyn Rig) -> Motion {
        let row = |k: usize| {
            let t = k as f64 / HZ;
            let mut row: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
            (row[0], row[3]) = (t, (t * 0.7).sin());
            row
        };
        let width = rig.axes().len();
        Motion::plain(Samples::new(HZ, width, (0..=1200).flat_map(row).collect()))
    }

    fn by(way: RetimeBy) -> (Motion, Vec<f64>) {
        let rig = crane();
        let retime = Retime { way };
        retime.check().unwrap();
        let done = retime.apply(&motion(&*rig), &Context::of(&*rig, &Camera::default(), Rate::FILM));
        let clock = done.samples.column(0);
        (done, clock)
    }

    fn speeds(clock: &[f64]) -> Vec<f64> {
        clock.windows(2).map(|w| (w[1] - w[0]) * HZ).collect()
    }

    #[test]
    fn an_instant_lands_on_its_frame_and_both_ends_stay() {
        let (_, clock) = by(RetimeBy::Land { from_s: 4.0, at_s: 6.5 });
        assert_eq!((clock[0], clock[780], clock[1200], clock.len()), (0.0, 4.0, 10.0, 1201));
        assert!(speeds(&clock).iter().all(|v| *v > 0.0));
    }

    #[test]
    fn a_hold_holds_and_afterwards_all_is_later_by_what_was_held() {
        let (done, clock) = by(RetimeBy::Speed { at_s: 2.0, for_s: 3.0, speed: 0.0, ramp_s: 0.5 });
        assert_eq!(done.samples.len(), 1200 + 300 + 1, "2.5 s longer");
        assert_eq!(clock[..=240], motion(&*crane()).samples.column(0)[..=240]);
        let speed = speeds(&clock);
        assert!(speed[301..540].iter().all(|v| v.abs() < 1e-9), "{:?}", &speed[300..304]);
        assert!(speed[605..].iter().all(|v| (v - 1.0).abs() < 1e-9));
        assert!((clock[1500] - 10.0).abs() < 1e-9);
        // Along its ramps speed goes no faster than a ramp of the fifth degree does.
        let steepest = speed.windows(2).map(|w| (w[1] - w[0]).abs() * HZ).fold(0.0, f64::max);
        assert!(steepest < 1.0 / 0.5 * 1.875 + 0.01, "{steepest}");
    }

    #[test]
    fn below_nothing_it_goes_back_and_slow_is_slow() {
        let (_, back) = by(RetimeBy::Speed { at_s: 5.0, for_s: 2.0, speed: -1.0, ramp_s: 0.5 });
        let speed = speeds(&back);
        assert!(speed[661..780].iter().all(|v| (v + 1.0).abs() < 1e-9));
        let (_, slow) = by(RetimeBy::Speed { at_s: 0.0, for_s: 4.0, speed: 0.25, ramp_s: 0.0 });
        assert!((slow[480] - 1.0).abs() < 1e-9 && (slow[600] - 2.0).abs() < 1e-9);
        let (_, long) = by(RetimeBy::Stretch { length_s: 25.0 });
        assert_eq!((long.len(), long[3000]), (3001, 10.0));
    }

    #[test]
    fn a_drawn_speed_is_the_speed_it_goes_at_and_ends_where_the_move_does() {
        let keys = [(0.0, 1.0), (2.0, 1.0), (3.0, 0.0), (4.0, 0.0), (5.0, -1.0), (6.0, -1.0), (7.0, 2.0)];
        let curve = Curve::new(keys.map(|(t, v)| CurveKey::smooth(t, v)).into()).unwrap();
        let (done, clock) = by(RetimeBy::Drawn { speed: curve.clone() });
        assert_eq!(clock[..=240], motion(&*crane()).samples.column(0)[..=240]);
        for (k, v) in speeds(&clock).iter().enumerate().take(clock.len() - 3) {
            let middle = (k as f64 + 0.5) / HZ;
            assert!((v - curve.at(middle).unwrap()).abs() < 1e-3, "{v} at {middle}");
        }
        assert_eq!(clock[clock.len() - 1], 10.0, "the end is reached");
        assert!(done.samples.duration_s() > 10.0);
        // Where it comes to stand for good, it ends.
        let stands = [(0.0, 1.0), (1.0, 1.0), (2.0, 0.0)].map(|(t, v)| CurveKey::smooth(t, v));
        let (done, clock) = by(RetimeBy::Drawn { speed: Curve::new(stands.into()).unwrap() });
        assert_eq!(done.samples.len(), 241);
        assert!((clock[240] - 1.5).abs() < 1e-9);
        // Back past the start there is nothing: it waits there.
        let back = [(0.0, -1.0), (1.0, -1.0), (1.5, 1.0)].map(|(t, v)| CurveKey::smooth(t, v));
        let (_, clock) = by(RetimeBy::Drawn { speed: Curve::new(back.into()).unwrap() });
        assert!(clock[..150].iter().all(|v| *v == 0.0) && clock[clock.len() - 1] == 10.0);
    }

    #[test]
    fn an_eased_start_and_stop_leave_everything_between_to_the_bit() {
        let (done, clock) = by(RetimeBy::Ease { start_s: 1.0, stop_s: 2.0 });
        let before = motion(&*crane());
        for k in 120..=960 {
            assert_eq!(done.samples.row(k), before.samples.row(k));
        }
        let speed = speeds(&clock);
        assert!(speed[0] < 0.01 && speed[1199] < 0.01 && speed.iter().all(|v| *v >= 0.0));
        assert_eq!((clock[0], clock[1200]), (0.0, 10.0));
    }

    /// Maps are put together: twice as slow and then twice as fast is what it was, to the bit.
    #[test]
    fn several_read_what_was_recorded_only_once() {
        let rig = crane();
        let context = Context::of(&*rig, &Camera::default(), Rate::FILM);
        let stretch = |length_s| -> Treatment {
            TreatmentKind::Retime(Retime { way: RetimeBy::Stretch { length_s } }).into()
        };
        let before = motion(&*rig);
        let after = treated(&before, &[stretch(23.7), stretch(10.0)], &context);
        assert_eq!(after.samples.len(), before.samples.len());
        let most = after.samples.values().iter().zip(before.samples.values()).map(|(a, b)| (a - b).abs());
        assert!(most.fold(0.0, f64::max) < 1e-12);
    }

    #[test]
    fn a_cut_is_where_it_is_passed_and_nothing_is_read_across_it() {
        let rig = crane();
        let context = Context::of(&*rig, &Camera::default(), Rate::FILM);
        let mut before = motion(&*rig);
        let jumping: Vec<f64> = (0..=1200).map(|k| if k < 480 { 0.0 } else { 1.0 }).collect();
        before.samples.set_column(1, &jumping);
        before.cuts = vec![4.0];
        let slow = Retime { way: RetimeBy::Stretch { length_s: 37.0 } }.apply(&before, &context);
        assert!((slow.cuts[0] - 14.8).abs() < 1e-6 && slow.cuts.len() == 1);
        assert!(slow.samples.column(1).iter().all(|v| *v == 0.0 || *v == 1.0));
        let back = RetimeBy::Speed { at_s: 5.0, for_s: 4.0, speed: -1.0, ramp_s: 0.0 };
        assert_eq!(Retime { way: back }.apply(&before, &context).cuts.len(), 3);
    }

    #[test]
    fn what_cannot_be_is_refused() {
        let refused = |way: RetimeBy| Retime { way }.check().err().map(|e| e.path);
        let long = RetimeBy::Speed { at_s: 0.0, for_s: 1.0, speed: 0.5, ramp_s: 0.6 };
        assert_eq!(refused(long).as_deref(), Some("way/ramp_s"));
        assert_eq!(refused(RetimeBy::Stretch { length_s: 0.0 }).as_deref(), Some("way/length_s"));
        // Instants that are not there: everything stays when it was.
        let (_, clock) = by(RetimeBy::Land { from_s: 40.0, at_s: 6.5 });
        assert_eq!(clock, motion(&*crane()).samples.column(0));
    }
}
