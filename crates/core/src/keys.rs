//! A move set by hand: where the machine stands at a few times, and how it gets from one to the
//! next.
//!
//! **Method.** Each axis has a [`Curve`] of its own through the keys that name it, smooth at each:
//! a first move of two keys eases in and out and nothing overshoots; before the first and after the
//! last key it stands. A key for one axis leaves every other axis as it was, bit for bit.

use crate::axis::Axis;
use crate::curve::{APART_S, Curve, CurveKey};
use crate::samples::Samples;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use ts_rs::TS;

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

/// The move that keys set: a curve for each axis that any of them names, in the machine's own order
/// and units. An axis that no key names is left to hands.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Keyed {
    curves: Vec<Option<Curve>>,
}

impl Keyed {
    /// Keys in order of time.
    pub fn of(keys: &[Key], axes: &[Axis]) -> Keyed {
        let curve = |axis: &Axis| {
            let named = keys.iter().filter_map(|key| Some((key.time_s, *key.axes.get(axis.name)?)));
            let key = |(time_s, shown)| {
                CurveKey::smooth(time_s, axis.unit.from_shown(shown).clamp(axis.min, axis.max))
            };
            let curve = Curve::new(named.map(key).collect()).ok()?;
            (axis.hand.is_some() && !curve.keys().is_empty()).then_some(curve)
        };
        Keyed { curves: axes.iter().map(curve).collect() }
    }

    /// Whether no axis has a key.
    pub fn is_empty(&self) -> bool {
        self.curves.iter().all(Option::is_none)
    }

    /// Where the keys have an axis at a time; none where no key names it.
    pub fn at(&self, axis: usize, time_s: f64) -> Option<f64> {
        self.curves.get(axis)?.as_ref()?.at(time_s)
    }
}

/// Keys of what a machine did, at times.
pub fn taken(samples: &Samples, axes: &[Axis], times: &[f64]) -> Vec<Key> {
    let mut row = Vec::new();
    let key = |time_s: &f64| {
        samples.at(*time_s, &mut row);
        Key { time_s: *time_s, axes: standing(axes, &row) }
    };
    times.iter().map(key).collect()
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
        let travel = |t: f64| keyed.at(0, t).unwrap();
        assert_eq!([travel(-1.0), travel(0.0), travel(5.0), travel(9.0)], [0.0, 0.0, 7.0, 7.0]);
        assert!((travel(2.5) - 3.5).abs() < 1e-12);
        assert!(travel(0.1) < 0.01 && travel(4.9) > 6.99);
        assert_eq!((keyed.at(1, 2.0), Keyed::default().at(0, 1.0)), (None, None));
    }

    #[test]
    fn a_key_for_one_axis_leaves_every_other_bit_for_bit_as_it_was() {
        let rig = RigSpec::TrackDolly(TrackDolly::default()).build(&Camera::default());
        let all = |t: f64| {
            let axes = rig.axes().iter().filter(|a| a.hand.is_some());
            let value = |a: &Axis| a.unit.to_shown(a.start) + (t * 1.3 + a.start).sin();
            Key { time_s: t, axes: axes.map(|a| (a.name.to_string(), value(a))).collect() }
        };
        let mut keys: Vec<Key> = [0.0, 2.0, 3.5, 7.0].map(all).to_vec();
        let before = Keyed::of(&keys, rig.axes());
        keys.insert(2, Key { time_s: 2.9, axes: BTreeMap::from([("boom".to_string(), 31.0)]) });
        let after = Keyed::of(&keys, rig.axes());
        let boom = rig.axes().iter().position(|a| a.name == "boom").unwrap();
        for i in 0..rig.axes().len() {
            for k in 0..700 {
                let t = f64::from(k) / 100.0;
                let same = before.at(i, t).map(f64::to_bits) == after.at(i, t).map(f64::to_bits);
                assert!(same || i == boom && t > 0.0, "{} at {t}", rig.axes()[i].name);
            }
        }
        assert_eq!(after.at(boom, 2.9), Some(31f64.to_radians()));
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
