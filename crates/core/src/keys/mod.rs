//! A move set by hand: a curve for each axis that has keys.
//!
//! **Method.** Each axis has a [`Curve`] of its own through its keys, in shown units; before its first
//! and after its last key it stands. A key on one axis leaves every other as it was, bit for bit.
//! What follows from how these axes go (how far somebody has walked, where a free dolly is) is worked
//! out from scene time 0 on with the floor's own step ([`Rig::derive`]), so that a keyed move is in
//! the same place whether it is evaluated, driven, or its time is set.

mod ease;
mod edit;
mod even;

pub use ease::Ease;
pub use edit::{About, KeyEdit, SideBy};

use crate::axis::Axis;
use crate::axis_motion::{AxisMotion, STEP_S};
use crate::curve::{Curve, CurveKey, Side};
use crate::list::List;
use crate::params::Invalid;
use crate::rigs::Rig;
use crate::samples::Samples;
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, BTreeSet};
use ts_rs::TS;

/// Axes by name, in shown units.
pub type Standing = BTreeMap<String, f64>;

/// Keys of axes, by the axes' names, in shown units.
pub type Curves = BTreeMap<String, List<CurveKey>>;

/// Picked keys: axis names, with the keys' numbers.
pub type Picked = BTreeMap<String, BTreeSet<u32>>;

/// A numbered position that a machine can be sent to.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Position {
    /// Number of the position.
    pub number: u32,
    /// Axes by name, in shown units.
    pub axes: Standing,
}

/// A key nearer than this to a time is the key of that time: within a step of the floor a hand means
/// one time.
pub const SAME_KEY_S: f64 = STEP_S;

/// Keys of one axis, at the most.
const MOST_KEYS: usize = 20_000;

/// Checks that keys make curves.
pub fn check(curves: &Curves) -> Result<(), Invalid> {
    for (axis, keys) in curves {
        if keys.len() > MOST_KEYS {
            return Err(Invalid::at(axis, format!("{axis} has at most {MOST_KEYS} keys")));
        }
        if let Some(i) = keys.iter().position(|k| !(0.0..=36_000.0).contains(&k.time_s)) {
            return Err(Invalid::at(axis, format!("{axis}: key {} needs a time from 0 on", i + 1)));
        }
        Curve::new(keys.to_vec()).map_err(|e| Invalid::at(axis, format!("{axis}: {e}")))?;
    }
    Ok(())
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

/// Axis values by name, without axes that no hand moves.
pub fn standing(axes: &[Axis], values: &[f64]) -> Standing {
    let driven = axes.iter().zip(values).filter(|(a, _)| a.hand.is_some());
    driven.map(|(a, v)| (a.name.to_string(), a.unit.to_shown(*v))).collect()
}

/// The move that keys set: a curve for each axis that has keys, in the machine's own order and
/// units. An axis without is left to hands.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Keyed {
    curves: Vec<Option<Curve>>,
    /// The end stops that curves are kept within.
    ends: Vec<(f64, f64)>,
    /// What follows from the curves, a row of all axes a step; none where the machine has no such
    /// axes or no keys.
    derived: Option<(Vec<usize>, Samples)>,
}

impl Keyed {
    /// What keys do to a machine over `length_s` from scene time 0 on. What it does not have is left
    /// out, and keys that make no curve do nothing ([`check`]).
    pub fn of(curves: &Curves, rig: &dyn Rig, length_s: f64) -> Keyed {
        let axes = rig.axes();
        let curve = |axis: &Axis| {
            let keys = curves.get(axis.name)?.iter().map(|k| in_core(k, axis)).collect();
            let curve = Curve::new(keys).ok()?;
            (axis.hand.is_some() && !curve.keys().is_empty()).then_some(curve)
        };
        let mut keyed = Keyed {
            curves: axes.iter().map(curve).collect(),
            ends: axes.iter().map(|a| (a.min, a.max)).collect(),
            derived: None,
        };
        let derived = rig.derived();
        if !derived.is_empty() && !keyed.is_empty() {
            keyed.derived = Some((derived.collect(), keyed.walked(rig, length_s)));
        }
        keyed
    }

    /// True if no axis has a key.
    pub fn is_empty(&self) -> bool {
        self.curves.iter().all(Option::is_none)
    }

    /// Curve of an axis; none without a key.
    pub fn curve(&self, axis: usize) -> Option<&Curve> {
        self.curves.get(axis)?.as_ref()
    }

    /// Keyed value of an axis at a time; none without a key.
    pub fn at(&self, axis: usize, time_s: f64) -> Option<f64> {
        let value = self.curves.get(axis)?.as_ref()?.at(time_s)?;
        let (low, high) = self.ends[axis];
        Some(value.clamp(low, high))
    }

    /// Value of an axis that follows from keyed ones; none for any other.
    pub fn derived_at(&self, axis: usize, time_s: f64) -> Option<f64> {
        let (axes, rows) = self.derived.as_ref()?;
        if !axes.contains(&axis) {
            return None;
        }
        let mut row = Vec::new();
        rows.at(time_s, &mut row);
        Some(row[axis])
    }

    /// Every axis at a time, as in `or` where no key says otherwise.
    pub fn row(&self, time_s: f64, or: &[f64]) -> Vec<f64> {
        let mut row = Vec::new();
        if let Some((_, rows)) = &self.derived {
            rows.at(time_s, &mut row);
        }
        let derived = |i: usize| self.derived.as_ref().is_some_and(|(axes, _)| axes.contains(&i));
        let value = |(i, or): (usize, &f64)| match self.at(i, time_s) {
            Some(value) => value,
            None if derived(i) => row[i],
            None => *or,
        };
        or.iter().enumerate().map(value).collect()
    }

    /// Times at which an axis jumps, in order, each once.
    pub fn cuts(&self) -> Vec<f64> {
        let mut cuts: Vec<f64> = self.curves.iter().flatten().flat_map(Curve::cuts).collect();
        cuts.sort_by(f64::total_cmp);
        cuts.dedup();
        cuts
    }

    /// A row for each of the floor's steps, as a floor that keeps up would drive it.
    fn walked(&self, rig: &dyn Rig, length_s: f64) -> Samples {
        let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        let at = |i: usize, t: f64| self.at(i, t).unwrap_or(start[i]);
        let mut motions: Vec<AxisMotion> = (0..start.len()).map(|i| AxisMotion::at(at(i, 0.0))).collect();
        let steps = (length_s / STEP_S).round() as usize;
        let mut values: Vec<f64> = motions.iter().map(|m| m.value).collect();
        for k in 1..=steps {
            for i in (0..start.len()).filter(|i| rig.axes()[*i].hand.is_some()) {
                let next = at(i, k as f64 * STEP_S);
                motions[i] =
                    AxisMotion { value: next, speed: (next - motions[i].value) / STEP_S, remaining: 0.0 };
            }
            rig.derive(&mut motions, STEP_S);
            values.extend(motions.iter().map(|m| m.value));
        }
        Samples::new(1.0 / STEP_S, start.len(), values)
    }
}

/// A key in the core's units.
fn in_core(key: &CurveKey, axis: &Axis) -> CurveKey {
    let side = |side: Side| match side {
        Side::Free { slope, length } => Side::Free { slope: axis.unit.from_shown(slope), length },
        side => side,
    };
    CurveKey {
        time_s: key.time_s,
        value: axis.unit.from_shown(key.value),
        before: side(key.before),
        after: side(key.after),
    }
}

/// A curve in the core's units as keys in an axis' shown ones.
pub fn shown(curve: &Curve, axis: &Axis) -> List<CurveKey> {
    let side = |side: Side| match side {
        Side::Free { slope, length } => Side::Free { slope: axis.unit.to_shown(slope), length },
        side => side,
    };
    let key = |key: &CurveKey| CurveKey {
        value: axis.unit.to_shown(key.value),
        before: side(key.before),
        after: side(key.after),
        ..*key
    };
    curve.keys().iter().map(key).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lens::Camera;
    use crate::rigs::{FreeDolly, RigSpec, Shoulder, TrackDolly};

    fn keys(of: &[(f64, f64)]) -> List<CurveKey> {
        of.iter().map(|(t, v)| CurveKey::smooth(*t, *v)).collect()
    }

    fn curves(of: &[(&str, &[(f64, f64)])]) -> Curves {
        of.iter().map(|(axis, of)| (axis.to_string(), keys(of))).collect()
    }

    fn dolly() -> Box<dyn Rig> {
        RigSpec::TrackDolly(TrackDolly::default()).build(&Camera::default())
    }

    #[test]
    fn a_first_move_eases_in_and_out_and_stands_before_and_after() {
        let keyed = Keyed::of(&curves(&[("travel", &[(0.0, 0.0), (5.0, 7.0)])]), &*dolly(), 10.0);
        let travel = |t: f64| keyed.at(0, t).unwrap();
        assert_eq!([travel(-1.0), travel(0.0), travel(5.0), travel(9.0)], [0.0, 0.0, 7.0, 7.0]);
        assert!((travel(2.5) - 3.5).abs() < 1e-12);
        assert!(travel(0.1) < 0.01 && travel(4.9) > 6.99);
        assert_eq!((keyed.at(1, 2.0), Keyed::default().at(0, 1.0)), (None, None));
    }

    #[test]
    fn a_key_for_one_axis_leaves_every_other_bit_for_bit_as_it_was() {
        let rig = dolly();
        let axes = || rig.axes().iter().filter(|a| a.hand.is_some());
        let value = |a: &Axis, t: f64| (t, a.unit.to_shown(a.start) + (t * 1.3 + a.start).sin());
        let mut all: Curves =
            axes().map(|a| (a.name.to_string(), keys(&[0.0, 2.0, 3.5, 7.0].map(|t| value(a, t))))).collect();
        let before = Keyed::of(&all, &*rig, 8.0);
        let mut boom = all["boom"].to_vec();
        boom.insert(2, CurveKey::smooth(2.9, 31.0));
        all.insert("boom".into(), boom.into());
        let after = Keyed::of(&all, &*rig, 8.0);
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
    fn keys_at_one_time_or_out_of_order_are_refused_and_the_axis_is_named() {
        let fault = |of: &[(f64, f64)]| check(&curves(&[("boom", of)])).err().map(|e| e.sentence);
        assert_eq!(fault(&[(0.0, 0.0), (1.0, 1.0)]), None);
        assert!(fault(&[(1.0, 0.0), (1.0, 1.0)]).unwrap().contains("boom: keys 1 and 2"));
        assert!(fault(&[(2.0, 0.0), (1.0, 1.0)]).unwrap().contains("out of order"));
        assert!(fault(&[(f64::NAN, 0.0)]).unwrap().contains("boom: key 1"));
        assert!(fault(&[(-1.0, 0.0)]).unwrap().contains("a time from 0 on"));
    }

    #[test]
    fn what_a_machine_does_not_have_is_left_out_and_limits_hold() {
        let rig = dolly();
        let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        let kept = BTreeMap::from([("travel".into(), 99.0), ("reach".into(), 3.0), ("pan".into(), 90.0)]);
        let v = values(&kept, rig.axes(), &start);
        assert!((v[0] - rig.axes()[0].max).abs() < 1e-12 && (v[2] - 90f64.to_radians()).abs() < 1e-12);
        assert_eq!(standing(rig.axes(), &v)["pan"], 90.0);
        let far = Keyed::of(&curves(&[("travel", &[(0.0, 99.0)]), ("reach", &[(0.0, 3.0)])]), &*rig, 1.0);
        assert_eq!(far.row(0.5, &start), [&[rig.axes()[0].max], &start[1..]].concat());
    }

    /// The place of wheels that roll and do not slip: the sum of small chords, much finer than a step.
    #[test]
    fn a_keyed_free_dolly_is_where_its_wheels_have_rolled_it() {
        let rig = RigSpec::FreeDolly(FreeDolly::default()).build(&Camera::default());
        let of = curves(&[("rolled", &[(0.0, 0.0), (6.0, 5.0)]), ("steer", &[(0.0, 0.0), (6.0, 30.0)])]);
        let keyed = Keyed::of(&of, &*rig, 6.0);
        let fine = 200_000;
        let (mut x, mut z, mut turn) = (0.0, 0.0, 0.0_f64);
        for k in 0..fine {
            let t = |k: usize| 6.0 * k as f64 / fine as f64;
            let way = keyed.at(0, t(k + 1)).unwrap() - keyed.at(0, t(k)).unwrap();
            let steer = keyed.at(1, t(k)).unwrap();
            (x, z, turn) = (x + way * turn.sin(), z - way * turn.cos(), turn + way * steer.tan());
        }
        let at = |name: &str| rig.axes().iter().position(|a| a.name == name).unwrap();
        let end = |name: &str| keyed.derived_at(at(name), 6.0).unwrap();
        assert!(
            (end("x") - x).abs() < 5e-3 && (end("z") - z).abs() < 5e-3,
            "{} {x} {} {z}",
            end("x"),
            end("z")
        );
        assert!((end("turn") - turn).abs() < 5e-3);
        assert_eq!(keyed.derived_at(0, 3.0), None);
    }

    #[test]
    fn a_keyed_walk_counts_what_is_walked() {
        let rig = RigSpec::Shoulder(Shoulder::default()).build(&Camera::default());
        let of = curves(&[("x", &[(0.0, 0.0), (4.0, 3.0)]), ("z", &[(0.0, 0.0), (4.0, -4.0)])]);
        let keyed = Keyed::of(&of, &*rig, 5.0);
        let at = |name: &str, t: f64| {
            keyed.derived_at(rig.axes().iter().position(|a| a.name == name).unwrap(), t).unwrap()
        };
        assert!((at("walked", 5.0) - 5.0).abs() < 1e-9 && (at("breath", 5.0) - 5.0).abs() < 1e-9);
        assert!(at("pace", 2.0) > 1.0 && at("pace", 5.0) < 0.2);
    }
}
