//! One key every so often: a way to look at a take, and a starting point for curves.
//!
//! **Method.** The take's own values at even times are keys; between them run cubics whose
//! tangents are the mean slope of both neighbours (Catmull & Rom, 1974), at the ends the slope to
//! the only one. The last sample is always a key. The full rate stays in the take.
//!
//! Three axes that are one rotation ([`crate::rigs::Rig::rotation`]) are keyed as one: between two keys the
//! cubic runs in the axis and angle of the turn from the first of them, with the angular speeds of both as its
//! slopes (the second brought there by the inverse of the right Jacobian of the rotation group). The turn goes
//! the way round that the take went, also where that is more than half a turn.

use super::{Level, Treat};
use crate::axis::AxisGroup;
use crate::curve::slope::cubic;
use crate::motion::{Context, Motion};
use crate::params::{Case, Invalid, Param, within};
use crate::space::shorter_turn;
use crate::time::Rate;
use glam::{DQuat, DVec3};
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;
use ts_rs::TS;

/// Interval between keys.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Interval {
    /// Every so many frames.
    Frames(u32),
    /// Every so many seconds.
    Seconds(f64),
}

impl Interval {
    /// Checks the interval.
    pub fn check(self) -> Result<(), Invalid> {
        let [frames, seconds] = params();
        match self {
            Interval::Frames(n) => within(&frames, f64::from(n)),
            Interval::Seconds(s) => within(&seconds, s),
        }
    }

    /// The times of the keys of a take, seconds.
    pub fn times(self, length_s: f64, rate: Rate) -> Vec<f64> {
        let step_s = match self {
            Interval::Frames(n) => rate.time_of(n as usize),
            Interval::Seconds(s) => s,
        };
        let count = (length_s / step_s + 1e-9).floor() as usize;
        let mut times: Vec<f64> = (0..=count).map(|k| k as f64 * step_s).collect();
        if length_s - times[count] > 1e-6 {
            times.push(length_s);
        }
        times
    }
}

fn params() -> [Param; 2] {
    [
        Param::whole("frames", "frames from key to key", "", 1, 2400).start(12.0),
        Param::number("seconds", "time from key to key", "s", 0.01, 100.0).start(0.5),
    ]
}

/// The treatment: one key every so often.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct KeyEvery {
    /// Interval between keys.
    pub every: Interval,
}

impl Default for KeyEvery {
    /// Default for a flown move: a key every half second.
    fn default() -> KeyEvery {
        KeyEvery { every: Interval::Seconds(0.5) }
    }
}

impl Treat for KeyEvery {
    const LEVEL: Level = Level::Machine;
    const WORDS: (&'static str, &'static str) =
        ("Keys", "One key every so often: to look at the take by, or as a start for curves.");

    fn params() -> Vec<Param> {
        let [frames, seconds] = params();
        let ways = vec![Case::one("seconds", "seconds", seconds), Case::one("frames", "frames", frames)];
        vec![Param::variant("every", "one every", None, ways)]
    }

    fn check(&self) -> Result<(), Invalid> {
        self.every.check().map_err(|e| Invalid { path: format!("every/{}", e.path), ..e })
    }

    fn apply(&self, motion: &Motion, context: &Context) -> Motion {
        let mut keyed = motion.clone();
        let samples = &motion.samples;
        let times = self.every.times(samples.duration_s(), context.rate);
        if times.len() < 2 {
            return keyed;
        }
        let mut row = Vec::new();
        let rows: Vec<Vec<f64>> = times
            .iter()
            .map(|t| {
                motion.at(*t, &mut row);
                row.clone()
            })
            .collect();
        let axes = context.axes();
        for axis in (0..axes.len()).filter(|i| axes[*i].group != AxisGroup::Carrier) {
            let keys: Vec<f64> = rows.iter().map(|r| r[axis]).collect();
            let through = through(&times, &keys, samples.len(), samples.rate_hz());
            keyed.samples.set_column(axis, &through);
        }
        if let Some(turned) = context.rig.rotation() {
            let rotations = samples.rotations(turned);
            keyed.samples.set_rotations(turned, &through_rotations(&times, &rotations, samples.rate_hz()));
        }
        keyed
    }
}

/// The curve through keys, at even samples.
fn through(times: &[f64], keys: &[f64], count: usize, rate_hz: f64) -> Vec<f64> {
    let last = times.len() - 1;
    let slope = |k: usize| {
        let (a, b) = (k.saturating_sub(1), (k + 1).min(last));
        (keys[b] - keys[a]) / (times[b] - times[a])
    };
    let mut k = 0;
    (0..count)
        .map(|i| {
            let t = i as f64 / rate_hz;
            while k + 1 < last && times[k + 1] <= t {
                k += 1;
            }
            let h = times[k + 1] - times[k];
            let u = ((t - times[k]) / h).min(1.0);
            cubic(keys[k], keys[k + 1] - keys[k], slope(k) * h, slope(k + 1) * h, u)[0]
        })
        .collect()
}

/// The curve through the rotations at the times of keys, at even samples.
fn through_rotations(times: &[f64], rotations: &[DQuat], rate_hz: f64) -> Vec<DQuat> {
    let last = times.len() - 1;
    let at = |t: f64| {
        let place = (t * rate_hz).clamp(0.0, (rotations.len() - 1) as f64);
        let (i, share) = (place as usize, place.fract());
        if share < 1e-9 {
            rotations[i]
        } else {
            rotations[i].slerp(near(rotations[i], rotations[i + 1]), share)
        }
    };
    let keys: Vec<DQuat> = times.iter().map(|t| at(*t)).collect();
    // The turn from each key to the next, the way that was gone.
    let turns: Vec<DVec3> = (0..last)
        .map(|k| {
            let [from, to] =
                [times[k], times[k + 1]].map(|t| ((t * rate_hz) as usize).min(rotations.len() - 1));
            let steps = rotations[from..=to].windows(2).map(|w| shorter_turn(w[0].conjugate() * w[1]));
            nearest_turn(keys[k].conjugate() * keys[k + 1], steps.sum())
        })
        .collect();
    let speed = |k: usize| {
        let (a, b) = (k.saturating_sub(1), k.min(last - 1));
        (a..=b).map(|i| turns[i]).sum::<DVec3>() / (times[b + 1] - times[a])
    };
    let mut k = 0;
    (0..rotations.len())
        .map(|i| {
            let t = i as f64 / rate_hz;
            while k + 1 < last && times[k + 1] <= t {
                k += 1;
            }
            let h = times[k + 1] - times[k];
            let u = ((t - times[k]) / h).min(1.0);
            let (leaves, arrives) = (speed(k) * h, inverse_right_jacobian(turns[k], speed(k + 1) * h));
            let turn = DVec3::from_array(std::array::from_fn(|a| {
                cubic(0.0, turns[k][a], leaves[a], arrives[a], u)[0]
            }));
            (keys[k] * DQuat::from_scaled_axis(turn)).normalize()
        })
        .collect()
}

/// Quaternion of the same rotation that is nearer to another one.
fn near(to: DQuat, q: DQuat) -> DQuat {
    if to.dot(q) < 0.0 { -q } else { q }
}

/// A rotation as axis times angle, with as many whole turns as bring it nearest to a turn that was summed up.
fn nearest_turn(rotation: DQuat, summed: DVec3) -> DVec3 {
    let short = shorter_turn(rotation);
    let axis = short.try_normalize().or_else(|| summed.try_normalize()).unwrap_or(DVec3::X);
    let more = ((summed - short).dot(axis) / TAU).round();
    short + axis * (more * TAU)
}

/// An angular speed in the frame at the end of a turn, as the speed of that turn's axis and angle.
fn inverse_right_jacobian(turn: DVec3, speed: DVec3) -> DVec3 {
    let angle = turn.length();
    let once = turn.cross(speed);
    let twice = turn.cross(once);
    // Near whole turns there is no such speed: what turns so far between two keys turns about one axis.
    let far = (angle / TAU).round() != 0.0 && (angle - TAU * (angle / TAU).round()).abs() < 0.5;
    let share = match angle {
        _ if far => return speed,
        a if a < 1e-4 => 1.0 / 12.0,
        a => 1.0 / (a * a) - (1.0 + a.cos()) / (2.0 * a * a.sin()),
    };
    speed + 0.5 * once + share * twice
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_last_sample_is_a_key_and_frames_are_exact() {
        let rate = Rate { num: 24_000, den: 1001 };
        let times = Interval::Frames(12).times(2.0, rate);
        assert_eq!(times.len(), 5);
        assert!((times[1] - 12.0 * 1001.0 / 24_000.0).abs() < 1e-15 && times[4] == 2.0);
        assert_eq!(Interval::Seconds(0.5).times(2.0, rate), [0.0, 0.5, 1.0, 1.5, 2.0]);
        assert_eq!(Interval::Seconds(5.0).times(2.0, rate), [0.0, 2.0]);
    }

    /// Keys of a spin of seven turns about a slanted axis, and of a path that coils: what lies between keys is
    /// the spin itself, and near the coil, wherever the world's up is.
    #[test]
    fn rotations_between_keys_turn_as_rotations_do() {
        let rate_hz = 120.0;
        let times: Vec<f64> = (0..=20).map(|k| 0.5 * f64::from(k)).collect();
        let axis = DVec3::new(0.6, 0.0, 0.8);
        let spin: Vec<DQuat> =
            (0..=1200).map(|i| DQuat::from_axis_angle(axis, 7.0 * TAU * f64::from(i) / 1200.0)).collect();
        let coil = |i: u32| {
            let t = f64::from(i) / rate_hz;
            let nod = DVec3::new((1.1 * t).sin(), 0.8 * t, 0.5 * (0.7 * t).cos());
            DQuat::from_axis_angle(DVec3::Y, 0.6 * t) * DQuat::from_scaled_axis(nod)
        };
        let coil: Vec<DQuat> = (0..=1200).map(coil).collect();
        for (rotations, within_deg) in [(&spin, 1e-6), (&coil, 2.0)] {
            let through = through_rotations(&times, rotations, rate_hz);
            let off = |(a, b): (&DQuat, &DQuat)| shorter_turn(a.conjugate() * *b).length().to_degrees();
            let most = rotations.iter().zip(&through).map(off).fold(0.0, f64::max);
            assert!(most < within_deg, "{most}°");
            for t in &times {
                let i = (t * rate_hz).round() as usize;
                assert!(off((&rotations[i], &through[i])) < 1e-6, "key at {t}");
            }
            // Speed does not jump at a key.
            let steps: Vec<DVec3> =
                through.windows(2).map(|w| shorter_turn(w[0].conjugate() * w[1])).collect();
            let most = steps.windows(2).map(|w| (w[1] - w[0]).length()).fold(0.0, f64::max);
            assert!(most.to_degrees() < 0.05, "{}° from step to step", most.to_degrees());
            // The world turned before is the same turned after.
            let other = DQuat::from_scaled_axis(DVec3::new(0.3, 1.2, -0.5));
            let turned: Vec<DQuat> = rotations.iter().map(|q| other * *q).collect();
            let again = through_rotations(&times, &turned, rate_hz);
            let most = through.iter().zip(&again).map(|(a, b)| off((&(other * *a), b))).fold(0.0, f64::max);
            assert!(most < 1e-6, "{most}°");
        }
    }

    #[test]
    fn a_straight_run_and_every_key_stay_exact() {
        let times = [0.0, 0.4, 0.8, 1.0];
        let line = through(&times, &times.map(|t| 3.0 - 2.0 * t), 121, 120.0);
        for (i, v) in line.iter().enumerate() {
            assert!((v - (3.0 - 2.0 * i as f64 / 120.0)).abs() < 1e-12);
        }
        let keys = [0.0, 1.0, -1.0, 0.5];
        let curve = through(&times, &keys, 121, 120.0);
        for (t, key) in times.iter().zip(keys) {
            assert!((curve[(t * 120.0).round() as usize] - key).abs() < 1e-12);
        }
    }
}
