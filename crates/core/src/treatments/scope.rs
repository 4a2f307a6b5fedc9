//! Where and how much a treatment works. Done once, here, by blending what was before it with what
//! comes after it; a kind of treatment never sees it.
//!
//! **Method.** The weight of a treatment is 0 outside its range and rises and falls within it along a
//! fifth-degree course, whose first and second derivatives vanish at both ends: speed and
//! acceleration stay continuous across the edges. Where the weight is 0 the values are those from
//! before, bit for bit; where it is 1, those from after. Between them axes go straight. A rotation goes part of
//! the way that the treatment turned it: the relative rotation as a rotation vector, on the branch that
//! continues the one of the sample before, which begins along the shorter arc. Along the shorter arc alone a
//! fade would jump where the relative rotation passes half a turn.

use crate::axis::AxisGroup;
use crate::curve::Curve;
use crate::curve::slope::minimum_jerk;
use crate::motion::{Context, Motion};
use crate::params::Invalid;
use crate::space::Pose;
use glam::{DQuat, DVec3};
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;
use std::ops::RangeInclusive;
use ts_rs::TS;

/// The axes and the time that a treatment works on.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
#[serde(default, deny_unknown_fields)]
pub struct Scope {
    /// Axes by name; all of them where missing.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub axes: Option<Vec<String>>,
    /// From when to when, scene time in seconds; always where missing.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub range: Option<Span>,
}

/// A stretch of time with soft edges, which lie within it.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Span {
    /// Seconds of scene time.
    pub from_s: f64,
    /// Seconds of scene time.
    pub to_s: f64,
    /// Time of fading in, seconds.
    pub ease_in_s: f64,
    /// Time of fading out, seconds.
    pub ease_out_s: f64,
}

/// Share of a treatment that counts: 0 is none of it, 1 all.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(untagged)]
pub enum Strength {
    /// Always the same.
    Even(f64),
    /// Over scene time.
    Over(Curve),
}

impl Default for Strength {
    fn default() -> Strength {
        Strength::Even(1.0)
    }
}

/// The shortest edge, seconds: what is shorter is a jump.
const SHORTEST_EDGE_S: f64 = 0.05;
const SHARE: RangeInclusive<f64> = 0.0..=1.0;

impl Strength {
    /// True if all of the treatment counts, always.
    pub fn is_whole(&self) -> bool {
        *self == Strength::Even(1.0)
    }

    fn at(&self, time_s: f64) -> f64 {
        match self {
            Strength::Even(share) => *share,
            Strength::Over(curve) => curve.at(time_s).unwrap_or(1.0).clamp(0.0, 1.0),
        }
    }

    pub(super) fn check(&self) -> Result<(), Invalid> {
        let good = match self {
            Strength::Even(share) => SHARE.contains(share),
            Strength::Over(curve) => curve.keys().iter().all(|k| SHARE.contains(&k.value)),
        };
        if good { Ok(()) } else { Err(Invalid::at("strength", "a strength is between 0 and 1")) }
    }
}

impl Span {
    /// From 0 outside to 1 inside.
    fn weight(&self, time_s: f64) -> f64 {
        if time_s <= self.from_s || time_s >= self.to_s {
            return 0.0;
        }
        let into = minimum_jerk((time_s - self.from_s) / self.ease_in_s);
        let out = minimum_jerk((self.to_s - time_s) / self.ease_out_s);
        into * out
    }

    fn check(&self) -> Result<(), Invalid> {
        let edges = [self.ease_in_s, self.ease_out_s];
        let plain =
            edges.iter().chain([&self.from_s, &self.to_s]).all(|v| v.is_finite() && v.abs() <= 36_000.0);
        if !plain || edges.iter().any(|e| *e < SHORTEST_EDGE_S) {
            let sentence = "a range needs plain times, and edges of 0.05 s at least: a shorter one jumps";
            return Err(Invalid::at("scope/range", sentence));
        }
        if self.to_s - self.from_s < self.ease_in_s + self.ease_out_s {
            return Err(Invalid::at("scope/range", "a range must hold both of its edges; make it longer"));
        }
        Ok(())
    }
}

impl Scope {
    /// True if the scope is everything, always.
    pub fn is_whole(&self) -> bool {
        *self == Scope::default()
    }

    pub(super) fn check(&self) -> Result<(), Invalid> {
        self.range.map_or(Ok(()), |range| range.check())
    }

    fn has(&self, name: &str) -> bool {
        self.axes.as_ref().is_none_or(|axes| axes.iter().any(|a| a == name))
    }

    /// Blends a treated motion with the untreated one, within scope and strength.
    pub(super) fn blend(
        &self,
        strength: &Strength,
        before: &Motion,
        after: Motion,
        context: &Context,
    ) -> Motion {
        if self.is_whole() && strength.is_whole() {
            return after;
        }
        let rate = before.samples.rate_hz();
        let weight = |k: usize| {
            let t = k as f64 / rate;
            self.range.map_or(1.0, |range| range.weight(t)) * strength.at(t)
        };
        let weights: Vec<f64> = (0..before.samples.len()).map(weight).collect();
        let mut blended = after;
        Scope::blend_camera(before, &mut blended, &weights, context);
        let turned = context.rig.rotation().filter(|r| r.iter().all(|i| self.has(context.axes()[*i].name)));
        if let Some(turned) = turned {
            Scope::blend_rotations(turned, before, &mut blended, &weights);
        }
        let alone = |i: usize| !turned.is_some_and(|r| r.contains(&i));
        for (i, axis) in context.axes().iter().enumerate().filter(|(i, _)| alone(*i)) {
            let (old, mut new) = (before.samples.column(i), blended.samples.column(i));
            let meant = self.has(axis.name) && axis.group != AxisGroup::Carrier;
            for ((new, old), weight) in new.iter_mut().zip(old).zip(&weights) {
                let weight = if meant { *weight } else { 0.0 };
                if weight == 0.0 {
                    *new = old;
                } else if weight < 1.0 {
                    *new = old + (*new - old) * weight;
                }
            }
            blended.samples.set_column(i, &new);
        }
        blended
    }

    /// Blends the camera, where a treatment moved it off the axes.
    fn blend_camera(before: &Motion, blended: &mut Motion, weights: &[f64], context: &Context) {
        let stretches = blended.stretches();
        let Some(camera) = &mut blended.camera else { return };
        for stretch in stretches {
            let mut way = Way::default();
            for k in stretch {
                let (old, new) = (before.pose(k, context.rig), camera[k]);
                let part = way.part(old.rotation, new.rotation, weights[k]);
                match part {
                    Part::Before => camera[k] = old,
                    Part::Between(rotation) => {
                        camera[k] = Pose { position: old.position.lerp(new.position, weights[k]), rotation };
                    }
                    Part::After => {}
                }
            }
        }
    }

    /// Blends angles that together are one rotation.
    fn blend_rotations(turned: [usize; 3], before: &Motion, blended: &mut Motion, weights: &[f64]) {
        for stretch in blended.stretches() {
            let mut way = Way::default();
            for k in stretch {
                let (old, new) = (before.samples.rotation(k, turned), blended.samples.rotation(k, turned));
                let part = way.part(old, new, weights[k]);
                if part == Part::After {
                    continue;
                }
                // As it was, so that the angles are written near those.
                turned.iter().for_each(|i| blended.samples.set(k, *i, before.samples.row(k)[*i]));
                if let Part::Between(rotation) = part {
                    blended.samples.set_rotation(k, turned, rotation);
                }
            }
        }
    }
}

/// A blended rotation.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Part {
    Before,
    Between(DQuat),
    After,
}

/// The way from untreated to treated rotations over a stretch: the rotation vector of the last blended sample.
#[derive(Default)]
struct Way(Option<DVec3>);

impl Way {
    /// Part of the way from one rotation to another.
    fn part(&mut self, old: DQuat, new: DQuat, weight: f64) -> Part {
        // Whole or nothing is the same on every branch: the next blend begins along the shorter arc.
        if weight == 0.0 || weight >= 1.0 {
            self.0 = None;
            return if weight == 0.0 { Part::Before } else { Part::After };
        }
        let relative = old.inverse() * new;
        let shortest = if relative.w < 0.0 { -relative } else { relative }.to_scaled_axis();
        let turn = self.0.map_or(shortest, |last| nearest_branch(shortest, last));
        self.0 = Some(turn);
        Part::Between((old * DQuat::from_scaled_axis(turn * weight)).normalize())
    }
}

/// The rotation vector of the same rotation that is nearest to another one.
fn nearest_branch(turn: DVec3, last: DVec3) -> DVec3 {
    // Without a rotation there is no axis; then that of the last one serves.
    let axis = turn.try_normalize().or(last.try_normalize()).unwrap_or(DVec3::Y);
    let turns = ((last.dot(axis) - turn.dot(axis)) / TAU).round();
    turn + axis * (turns * TAU)
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::f64::consts::PI;

    /// A camera that is turned by up to a whole turn and a half while a treatment fades in and out: no step of the
    /// blend is larger than what the turn and the weight make together. Along the shorter arc it jumped.
    #[test]
    fn a_fade_over_a_quick_turn_goes_along_it() {
        let count = 240;
        let (mut way, mut last, mut largest, mut jump) = (Way::default(), None::<DQuat>, 0.0f64, 0.0f64);
        let mut before = None::<DQuat>;
        for k in 0..=count {
            let share = f64::from(k) / f64::from(count);
            let old = DQuat::from_rotation_x(0.3 * share);
            let tilt = DQuat::from_axis_angle(DVec3::new(0.1, 1.0, 0.05).normalize(), 3.0 * PI * share);
            let (new, weight) = (old * tilt, 0.5 - 0.5 * (TAU * share).cos());
            let Part::Between(blended) = way.part(old, new, weight.clamp(1e-9, 1.0 - 1e-9)) else { panic!() };
            largest = largest.max(last.map_or(0.0, |l| l.angle_between(blended)));
            let shorter = old.slerp(new, weight);
            jump = jump.max(before.map_or(0.0, |b| b.angle_between(shorter)));
            (last, before) = (Some(blended), Some(shorter));
        }
        // Speed of the turn times weight, and speed of the weight times the turn, radians a sample.
        let bound = (3.0 * PI + 3.0 * PI * PI + 0.3) / f64::from(count);
        assert!(largest < bound, "{largest} of {bound}");
        assert!(jump > 1.0, "the shorter arc jumps by {jump}");
    }

    #[test]
    fn the_nearest_branch_is_the_same_rotation() {
        for turn in [DVec3::new(0.3, -2.0, 0.5), DVec3::new(3.0, 0.0, 0.1), DVec3::ZERO] {
            for last in [DVec3::ZERO, DVec3::new(0.0, 9.0, 0.0), DVec3::new(-4.0, 1.0, 2.0)] {
                let found = nearest_branch(turn, last);
                let angle = DQuat::from_scaled_axis(found).angle_between(DQuat::from_scaled_axis(turn));
                assert!(angle < 1e-7, "{turn} {last} {found}");
                assert!(found.distance(last) <= turn.distance(last) + 1e-9);
            }
        }
    }
}
