//! A machine that puts its camera where an earlier move, or the operator, wants it.
//!
//! The base stays where hands put it; everything else is solved. Where the machine cannot get
//! there it goes as near as it can, and by how much it is short is said.

use crate::bounded::Bytes;
use crate::rigs::{Reach, Rig};
use crate::space::Pose;
use crate::time::between;
use crate::track::{LensState, Track};

/// A camera that is wanted, evenly timed from scene time 0 on.
#[derive(Clone, Debug, PartialEq)]
pub struct CameraTarget {
    rate_hz: f64,
    poses: Vec<Pose>,
    lenses: Vec<LensState>,
}

impl Bytes for CameraTarget {
    fn bytes(&self) -> usize {
        size_of_val(&self.poses[..]) + size_of_val(&self.lenses[..])
    }
}

impl CameraTarget {
    /// An evenly timed track with at least one point.
    pub fn of(track: &Track) -> Option<CameraTarget> {
        if track.points.is_empty() {
            return None;
        }
        let poses = track.points.iter().map(|p| p.pose()).collect();
        let lenses = track.points.iter().map(|p| p.lens).collect();
        Some(CameraTarget { rate_hz: track.rate_hz().max(1.0), poses, lenses })
    }

    /// How long it goes on.
    pub fn length_s(&self) -> f64 {
        (self.poses.len() - 1) as f64 / self.rate_hz
    }

    /// The wanted camera and its lens at a time; held at both ends.
    pub fn at(&self, time_s: f64) -> (Pose, LensState) {
        let (i, next, share) = between(time_s, self.rate_hz, self.poses.len());
        let pose = self.poses[i].towards(self.poses[next], share);
        (pose, self.lenses[i].towards(self.lenses[next], share))
    }
}

/// The axes a machine needs for a wanted camera, its base standing as in `near`, and metres it is
/// short.
pub fn follow(rig: &dyn Rig, target: &CameraTarget, time_s: f64, near: &[f64]) -> (Vec<f64>, f64) {
    let (wanted, lens) = target.at(time_s);
    let reach = rig.inverse(wanted, near);
    let short = reach.shortfall_m();
    let (Reach::Within(mut axes) | Reach::Short { nearest: mut axes, .. }) = reach;
    let own = &rig.axes()[axes.len()..];
    axes.extend(own.iter().zip(lens.axes()).map(|(a, v)| v.clamp(a.min, a.max)));
    (axes, short)
}

/// Less than this is within reach, metres.
pub const SHORT_M: f64 = 1e-6;
