//! Where and how much a treatment works. Done once, here, by blending what was before it with what
//! comes after it; a kind of treatment never sees it.
//!
//! **Method.** The weight of a treatment is 0 outside its range and rises and falls within it along a
//! fifth-degree course, whose first and second derivatives vanish at both ends: speed and
//! acceleration stay continuous across the edges. Where the weight is 0 the values are those from
//! before, bit for bit; where it is 1, those from after. Between them axes go straight, and angles that
//! together are one rotation along the shorter arc.

use crate::axis::AxisGroup;
use crate::curve::Curve;
use crate::curve::slope::minimum_jerk;
use crate::motion::{Context, Motion};
use crate::params::Invalid;
use serde::{Deserialize, Serialize};
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
        let Some(camera) = &mut blended.camera else { return };
        for (k, weight) in weights.iter().enumerate().filter(|(_, w)| **w < 1.0) {
            let old = before.pose(k, context.rig);
            camera[k] = if *weight > 0.0 { old.towards(camera[k], *weight) } else { old };
        }
    }

    /// Along the shorter arc from what was to what is.
    fn blend_rotations(turned: [usize; 3], before: &Motion, blended: &mut Motion, weights: &[f64]) {
        for (k, weight) in weights.iter().enumerate().filter(|(_, w)| **w < 1.0) {
            let (old, new) = (before.samples.rotation(k, turned), blended.samples.rotation(k, turned));
            // As it was, so that the angles are written near those.
            turned.iter().for_each(|i| blended.samples.set(k, *i, before.samples.row(k)[*i]));
            if *weight > 0.0 {
                blended.samples.set_rotation(k, turned, old.slerp(new, *weight));
            }
        }
    }
}
