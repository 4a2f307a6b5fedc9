//! A machine that puts its camera where an earlier move, or the operator's wish, wants it.
//!
//! The base stays where hands put it; everything else is solved. Where the machine cannot get
//! there it goes as near as it can, and by how much it is short is said.

use crate::rigs::{Reach, Rig};
use crate::space::Pose;
use crate::time::between;
use crate::track::Track;
use serde::Serialize;
use ts_rs::TS;

/// A camera that is wanted, evenly timed from scene time 0 on.
#[derive(Clone, Debug, PartialEq)]
pub struct Wish {
    rate_hz: f64,
    poses: Vec<Pose>,
    lenses: Vec<(f64, f64)>,
}

impl Wish {
    /// An evenly timed track with at least one point.
    pub fn of(track: &Track) -> Option<Wish> {
        if track.points.is_empty() {
            return None;
        }
        let poses = track.points.iter().map(|p| p.pose()).collect();
        let lenses = track.points.iter().map(|p| (p.lens.focal_mm, p.lens.focus_m)).collect();
        Some(Wish { rate_hz: track.rate_hz().max(1.0), poses, lenses })
    }

    /// How long it goes on.
    pub fn length_s(&self) -> f64 {
        (self.poses.len() - 1) as f64 / self.rate_hz
    }

    /// The wanted camera at a time, with focal length and focus; held at both ends.
    pub fn at(&self, time_s: f64) -> (Pose, f64, f64) {
        let (i, next, share) = between(time_s, self.rate_hz, self.poses.len());
        let (a, b) = (self.lenses[i], self.lenses[next]);
        let mix = |a: f64, b: f64| a + (b - a) * share;
        (self.poses[i].towards(self.poses[next], share), mix(a.0, b.0), mix(a.1, b.1))
    }
}

/// The axes a machine needs for a wanted camera, its base standing as in `near`, and metres it is
/// short.
pub fn follow(rig: &dyn Rig, wish: &Wish, time_s: f64, near: &[f64]) -> (Vec<f64>, f64) {
    let (wanted, focal_mm, focus_m) = wish.at(time_s);
    let reach = rig.inverse(wanted, near);
    let short = reach.shortfall_m();
    let (Reach::Within(mut axes) | Reach::Short { nearest: mut axes, .. }) = reach;
    let lens = &rig.axes()[axes.len()..];
    axes.extend(lens.iter().zip([focal_mm, focus_m]).map(|(a, v)| v.clamp(a.min, a.max)));
    (axes, short)
}

/// A stretch of time in which the machine cannot get where it is wanted.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, TS)]
pub struct Gap {
    /// First instant.
    pub from_s: f64,
    /// Last instant.
    pub to_s: f64,
    /// The largest shortfall in it, metres.
    pub short_m: f64,
}

/// Less than this is within reach, metres.
pub const SHORT_M: f64 = 1e-6;

/// The stretches of a wish that are out of reach.
///
/// `shortfalls` are metres, evenly timed, `rate_hz` a second.
pub fn gaps(rate_hz: f64, shortfalls: &[f64]) -> Vec<Gap> {
    let mut gaps: Vec<Gap> = Vec::new();
    let mut open = false;
    for (k, short_m) in shortfalls.iter().copied().enumerate() {
        let time_s = k as f64 / rate_hz;
        if short_m <= SHORT_M {
            open = false;
        } else if let Some(gap) = gaps.last_mut().filter(|_| open) {
            (gap.to_s, gap.short_m) = (time_s, gap.short_m.max(short_m));
        } else {
            gaps.push(Gap { from_s: time_s, to_s: time_s, short_m });
            open = true;
        }
    }
    gaps
}
