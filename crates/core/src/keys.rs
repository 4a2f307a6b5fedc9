//! A move set by hand: where the machine stands at a few times, and how it gets from one to the
//! next.
//!
//! **Method.** Each axis runs through its keys on the monotone cubic interpolation of Fritsch &
//! Butland, SIAM J. Sci. Stat. Comput. 5(2), 1984, with a slope of 0 at the first and the last
//! key, so that a first move of two keys eases in and out and nothing overshoots. Before the
//! first and after the last key it stands.

use crate::axis::Axis;
use crate::monotone;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use ts_rs::TS;

/// Two keys are at least this far apart: never two at one time.
pub const APART_S: f64 = 1e-3;

/// Axes by name, in shown units.
pub type Standing = BTreeMap<String, f64>;

/// Where a machine stands at a time.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Key {
    /// Scene time.
    pub time_s: f64,
    /// Axes by name, in shown units.
    pub axes: Standing,
}

/// A numbered position that a machine can be sent to.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Position {
    /// As it is called.
    pub number: u32,
    /// Axes by name, in shown units.
    pub axes: Standing,
}

/// What about keys cannot be, as a sentence.
pub fn fault(keys: &[Key]) -> Option<String> {
    let plain = |k: &Key| k.time_s.is_finite() && k.axes.values().all(|v| v.is_finite());
    if keys.len() > 10_000 {
        return Some("a move has at most 10 000 keys".into());
    }
    if let Some(i) = keys.iter().position(|k| !plain(k) || k.time_s < 0.0) {
        return Some(format!("key {} needs plain numbers and a time from 0 on", i + 1));
    }
    let close = keys.windows(2).position(|w| w[1].time_s - w[0].time_s < APART_S)?;
    Some(format!("keys {} and {} stand at the same time or out of order", close + 1, close + 2))
}

/// The values of a standing in a machine's own order and units; `or` where it says nothing, and
/// within the axes' limits.
pub fn values(standing: &Standing, axes: &[Axis], or: &[f64]) -> Vec<f64> {
    let of = |(axis, or): (&Axis, &f64)| {
        let kept = standing.get(axis.name).map(|v| axis.unit.from_shown(*v));
        kept.map_or(*or, |v| v.clamp(axis.min, axis.max))
    };
    axes.iter().zip(or).map(of).collect()
}

/// Where a machine stands, by the names of its axes; those that others move are left out.
pub fn standing(axes: &[Axis], values: &[f64]) -> Standing {
    let driven = axes.iter().zip(values).filter(|(a, _)| a.hand.is_some());
    driven.map(|(a, v)| (a.name.to_string(), a.unit.to_shown(*v))).collect()
}

/// Keys in a machine's own order and units, ready to be asked.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Keyed {
    times: Vec<f64>,
    rows: Vec<Vec<f64>>,
    slopes: Vec<Vec<f64>>,
}

impl Keyed {
    /// Keys in order of time.
    pub fn of(keys: &[Key], axes: &[Axis]) -> Keyed {
        let start: Vec<f64> = axes.iter().map(|a| a.start).collect();
        let mut rows: Vec<Vec<f64>> = Vec::new();
        for key in keys {
            let row = values(&key.axes, axes, rows.last().unwrap_or(&start));
            rows.push(row);
        }
        let times: Vec<f64> = keys.iter().map(|k| k.time_s).collect();
        let slope = |k: usize, i: usize| {
            if k == 0 || k + 1 == times.len() {
                return 0.0;
            }
            let [before, after] = [k - 1, k].map(|k| {
                let h = times[k + 1] - times[k];
                (h, (rows[k + 1][i] - rows[k][i]) / h)
            });
            monotone::slope(before, after)
        };
        let slopes = (0..times.len()).map(|k| (0..axes.len()).map(|i| slope(k, i)).collect()).collect();
        Keyed { times, rows, slopes }
    }

    /// Whether there is no key.
    pub fn is_empty(&self) -> bool {
        self.times.is_empty()
    }

    /// Every axis at a time; nothing without keys.
    pub fn at(&self, time_s: f64) -> Option<Vec<f64>> {
        let last = self.times.len().checked_sub(1)?;
        let k = self.times.partition_point(|t| *t <= time_s);
        if k == 0 || k > last {
            return Some(self.rows[if k == 0 { 0 } else { last }].clone());
        }
        let k = k - 1;
        let h = self.times[k + 1] - self.times[k];
        let u = (time_s - self.times[k]) / h;
        let one = |i: usize| {
            let (a, d) = (self.rows[k][i], self.rows[k + 1][i] - self.rows[k][i]);
            let (m, n) = (self.slopes[k][i] * h, self.slopes[k + 1][i] * h);
            monotone::cubic(a, d, m, n, u)[0]
        };
        Some((0..self.rows[0].len()).map(one).collect())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lens::Camera;
    use crate::rigs::{RigSpec, TrackDolly};

    fn key(time_s: f64, travel: f64) -> Key {
        Key { time_s, axes: BTreeMap::from([("travel".to_string(), travel)]) }
    }

    #[test]
    fn a_first_move_eases_in_and_out_and_stands_before_and_after() {
        let rig = RigSpec::TrackDolly(TrackDolly::default()).build(&Camera::default());
        let keyed = Keyed::of(&[key(0.0, 0.0), key(5.0, 7.0)], rig.axes());
        let travel = |t: f64| keyed.at(t).unwrap()[0];
        assert_eq!([travel(-1.0), travel(0.0), travel(5.0), travel(9.0)], [0.0, 0.0, 7.0, 7.0]);
        assert!((travel(2.5) - 3.5).abs() < 1e-12);
        assert!(travel(0.1) < 0.01 && travel(4.9) > 6.99);
        assert_eq!(keyed.at(2.0).unwrap()[1], rig.axes()[1].start);
        assert_eq!(Keyed::default().at(1.0), None);
    }

    #[test]
    fn keys_at_one_time_or_out_of_order_are_refused() {
        assert_eq!(fault(&[key(0.0, 0.0), key(1.0, 1.0)]), None);
        assert!(fault(&[key(1.0, 0.0), key(1.0, 1.0)]).unwrap().contains("keys 1 and 2"));
        assert!(fault(&[key(2.0, 0.0), key(1.0, 1.0)]).unwrap().contains("out of order"));
        assert!(fault(&[key(f64::NAN, 0.0)]).unwrap().contains("key 1"));
    }

    #[test]
    fn what_a_machine_does_not_have_is_left_out_and_limits_hold() {
        let rig = RigSpec::TrackDolly(TrackDolly::default()).build(&Camera::default());
        let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        let kept = BTreeMap::from([("travel".into(), 99.0), ("reach".into(), 3.0), ("pan".into(), 90.0)]);
        let v = values(&kept, rig.axes(), &start);
        assert!((v[0] - rig.axes()[0].max).abs() < 1e-12 && (v[2] - 90f64.to_radians()).abs() < 1e-12);
        assert_eq!(standing(rig.axes(), &v)["pan"], 90.0);
    }
}
