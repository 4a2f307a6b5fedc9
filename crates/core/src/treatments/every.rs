//! One key every so often: a way to look at a take, and a starting point for curves.
//!
//! **Method.** The take's own values at even times are keys; between them run cubics whose
//! tangents are the mean slope of both neighbours (Catmull & Rom, 1974), at the ends the slope to
//! the only one. The last sample is always a key. The full rate stays in the take.

use super::{Level, Treat};
use crate::axis::AxisGroup;
use crate::curve::slope::cubic;
use crate::motion::{Context, Motion};
use crate::params::{Case, Invalid, Param, within};
use crate::time::Rate;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// How often.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Interval {
    /// Every so many frames.
    Frames(u32),
    /// Every so many seconds.
    Seconds(f64),
}

impl Interval {
    /// Whether it can be.
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
    /// How often.
    pub every: Interval,
}

impl Default for KeyEvery {
    /// What is usual for a flown move: a key every half second.
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
