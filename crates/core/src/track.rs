//! A camera track: where a camera is and what its lens does, at times. What every exchange format
//! reads into and writes from.

use crate::space::{PanTiltRoll, Pose, unwrap};
use glam::DVec3;

/// The lens at one time.
#[derive(Clone, Copy, Debug, PartialEq)]
#[allow(missing_docs)]
pub struct LensState {
    pub focal_mm: f64,
    pub focus_m: f64,
    pub f_stop: f64,
}

impl LensState {
    /// In the order of the axes at the end of every rig: zoom, focus, iris.
    pub fn axes(self) -> [f64; 3] {
        [self.focal_mm, self.focus_m, self.f_stop]
    }

    /// A share of the way to another, 0 to 1, each number going straight.
    pub fn towards(self, other: LensState, share: f64) -> LensState {
        let mix = |a: f64, b: f64| a + (b - a) * share;
        LensState {
            focal_mm: mix(self.focal_mm, other.focal_mm),
            focus_m: mix(self.focus_m, other.focus_m),
            f_stop: mix(self.f_stop, other.f_stop),
        }
    }
}

/// One row of a track.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct TrackPoint {
    /// Seconds.
    pub time_s: f64,
    /// Metres.
    pub position: DVec3,
    /// Radians, continuous along the track (may pass ±π).
    pub angles: PanTiltRoll,
    /// The lens.
    pub lens: LensState,
}

impl TrackPoint {
    /// Position and orientation.
    pub fn pose(&self) -> Pose {
        Pose::new(self.position, self.angles.to_rotation())
    }
}

/// Points in order of time.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Track {
    /// The points.
    pub points: Vec<TrackPoint>,
}

/// A share of a step.
const HAIR: f64 = 0.02;
/// What is nearer to a point than this share of a step is that point.
const HERE: f64 = 1e-9;
/// What is nearer in time than this is at the same time.
const SAME_S: f64 = 1e-6;

impl Track {
    /// A track from poses; the angles are read off and made continuous.
    pub fn from_poses(poses: impl IntoIterator<Item = (f64, Pose, LensState)>) -> Track {
        let mut points: Vec<TrackPoint> = poses
            .into_iter()
            .map(|(time_s, pose, lens)| TrackPoint {
                time_s,
                position: pose.position,
                angles: PanTiltRoll::from_rotation(pose.rotation),
                lens,
            })
            .collect();
        type Pick = fn(&mut PanTiltRoll) -> &mut f64;
        for pick in [(|a| &mut a.pan) as Pick, |a| &mut a.roll] {
            let mut angles: Vec<f64> = points.iter_mut().map(|p| *pick(&mut p.angles)).collect();
            unwrap(&mut angles);
            for (point, angle) in points.iter_mut().zip(angles) {
                *pick(&mut point.angles) = angle;
            }
        }
        Track { points }
    }

    /// Seconds from the first point to the last.
    pub fn duration_s(&self) -> f64 {
        match (self.points.first(), self.points.last()) {
            (Some(first), Some(last)) => last.time_s - first.time_s,
            _ => 0.0,
        }
    }

    /// Points a second, on average; 0 for fewer than two.
    pub fn rate_hz(&self) -> f64 {
        let duration = self.duration_s();
        if duration > 0.0 { (self.points.len() - 1) as f64 / duration } else { 0.0 }
    }

    /// Seconds from most points to the next: their median, which a gap does not change.
    pub fn usual_step_s(&self) -> f64 {
        let mut steps: Vec<f64> = self.points.windows(2).map(|w| w[1].time_s - w[0].time_s).collect();
        let middle = steps.len() / 2;
        if steps.is_empty() { 0.0 } else { *steps.select_nth_unstable_by(middle, f64::total_cmp).1 }
    }

    /// The first point whose distance in time from the one before is more than a tenth off the
    /// usual one: from there on the samples cannot be taken as even.
    pub fn first_uneven_step(&self) -> Option<usize> {
        let step = self.usual_step_s();
        (1..self.points.len())
            .find(|&i| ((self.points[i].time_s - self.points[i - 1].time_s) / step - 1.0).abs() > 0.1)
    }

    /// Where it is at a time, straight between neighbours; `from` is a point before that time, and is moved
    /// on to the one before it.
    fn between(&self, from: &mut usize, time_s: f64) -> (Pose, LensState) {
        while *from + 2 < self.points.len() && self.points[*from + 1].time_s <= time_s {
            *from += 1;
        }
        let a = &self.points[*from];
        let b = self.points.get(*from + 1).unwrap_or(a);
        let span = b.time_s - a.time_s;
        let share = if span > 0.0 { ((time_s - a.time_s) / span).clamp(0.0, 1.0) } else { 0.0 };
        // What is at the time of a point is that point.
        match share {
            ..HERE => (a.pose(), a.lens),
            share if share > 1.0 - HERE => (b.pose(), b.lens),
            share => (a.pose().towards(b.pose(), share), a.lens.towards(b.lens, share)),
        }
    }

    /// The points of it that lie within the time of another track, and that one at the same times; none
    /// where they share no time.
    pub fn shared_with(&self, other: &Track) -> Option<(Track, Track)> {
        let [first, last] = [other.points.first()?.time_s - SAME_S, other.points.last()?.time_s + SAME_S];
        let within = |p: &&TrackPoint| (first..=last).contains(&p.time_s);
        let points: Vec<TrackPoint> = self.points.iter().filter(within).cloned().collect();
        let mut i = 0;
        let there = points.iter().map(|p| {
            let (pose, lens) = other.between(&mut i, p.time_s);
            (p.time_s, pose, lens)
        });
        let there = Track::from_poses(there);
        (!points.is_empty()).then_some((Track { points }, there))
    }

    /// The track at even times from its first point on, positions straight between neighbours,
    /// orientations along the shorter arc. The last point counts where it is due but for a hair: files keep
    /// times in numbers of 24 bits.
    pub fn resampled(&self, rate_hz: f64) -> Track {
        let Some(start) = self.points.first().map(|p| p.time_s) else { return Track::default() };
        let count = (self.duration_s() * rate_hz + HAIR).floor() as usize + 1;
        let mut i = 0;
        Track::from_poses((0..count).map(|k| {
            let (pose, lens) = self.between(&mut i, start + k as f64 / rate_hz);
            (k as f64 / rate_hz, pose, lens)
        }))
    }
}
