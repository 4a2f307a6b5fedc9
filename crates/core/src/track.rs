//! A camera track: where a camera is and what its lens does, at times. What every exchange format
//! reads into and writes from.

use crate::space::{PanTiltRoll, Pose, unwrap};
use glam::DVec3;
use std::f64::consts::PI;

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
    /// Time of the point, seconds.
    pub time_s: f64,
    /// Place of the camera, metres.
    pub position: DVec3,
    /// Radians, continuous along the track (may pass ±π).
    pub angles: PanTiltRoll,
    /// State of the lens.
    pub lens: LensState,
}

impl TrackPoint {
    /// Position and orientation.
    pub fn pose(&self) -> Pose {
        Pose::new(self.position, self.angles.to_rotation())
    }

    /// A share of the way to another: 0 to 1, or somewhat beyond.
    fn towards(&self, other: &TrackPoint, share: f64) -> TrackPoint {
        let (a, b) = (self.angles, other.angles);
        let mix = |a: f64, b: f64| a + (b - a) * share;
        let straight =
            PanTiltRoll { pan: mix(a.pan, b.pan), tilt: mix(a.tilt, b.tilt), roll: mix(a.roll, b.roll) };
        let far = (b.pan - a.pan).abs().max((b.roll - a.roll).abs()) > PI;
        let pose = self.pose().towards(other.pose(), share);
        let angles = if far { straight } else { PanTiltRoll::from_rotation(pose.rotation).near(straight) };
        TrackPoint {
            time_s: mix(self.time_s, other.time_s),
            position: pose.position,
            angles,
            lens: self.lens.towards(other.lens, share),
        }
    }
}

/// Points in order of time.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Track {
    /// Points, in order of time.
    pub points: Vec<TrackPoint>,
}

/// A share of a step.
const HAIR: f64 = 0.02;
/// Share of a step within which a time means a point.
const HERE: f64 = 1e-9;
/// Time below which two points are at the same time, seconds.
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

    /// Where it is at a time: straight between neighbours, turned along the shorter arc, and by the angles
    /// themselves where they say more than half a turn. Whole turns are kept. `from` is a point before that
    /// time, and is moved on to the one before it.
    fn between(&self, from: &mut usize, time_s: f64) -> TrackPoint {
        while *from + 2 < self.points.len() && self.points[*from + 1].time_s <= time_s {
            *from += 1;
        }
        let a = &self.points[*from];
        let b = self.points.get(*from + 1).unwrap_or(a);
        let span = b.time_s - a.time_s;
        let share = if span > 0.0 { ((time_s - a.time_s) / span).clamp(0.0, 1.0) } else { 0.0 };
        // What is at the time of a point is that point.
        match share {
            ..HERE => TrackPoint { time_s, ..*a },
            share if share > 1.0 - HERE => TrackPoint { time_s, ..*b },
            share => TrackPoint { time_s, ..a.towards(b, share) },
        }
    }

    /// The points of it that lie within the time of another track, and that one at the same times; none
    /// where they share no time.
    pub fn shared_with(&self, other: &Track) -> Option<(Track, Track)> {
        let [first, last] = [other.points.first()?.time_s - SAME_S, other.points.last()?.time_s + SAME_S];
        let within = |p: &&TrackPoint| (first..=last).contains(&p.time_s);
        let points: Vec<TrackPoint> = self.points.iter().filter(within).cloned().collect();
        let mut i = 0;
        let there = points.iter().map(|p| other.between(&mut i, p.time_s)).collect();
        (!points.is_empty()).then_some((Track { points }, Track { points: there }))
    }

    /// The track at even times from its first point on, over its last point: where that lies between two
    /// times, the later one is as far beyond it as the track went last. Read straight between the two, the
    /// last point is what it was. From one point to the next that is a jump the track stands and then jumps,
    /// within one step.
    pub fn sampled(&self, rate_hz: f64) -> Track {
        let Some(start) = self.points.first().map(|p| p.time_s) else { return Track::default() };
        let steps = self.duration_s() * rate_hz;
        let count = (steps - HERE).ceil().max(0.0) as usize + 1;
        let jumps = self.jumps();
        let mut i = 0;
        let points = (0..count).map(|k| {
            let (at, time_s) = (k as f64 / rate_hz, start + k as f64 / rate_hz);
            let point = self.between(&mut i, time_s);
            // Beyond the last point by a part of a step; a lens has no values beyond its last.
            if k as f64 > steps + HERE && self.points.len() > 1 {
                let [a, b] = [&self.points[self.points.len() - 2], &self.points[self.points.len() - 1]];
                let share = (time_s - a.time_s) / (b.time_s - a.time_s).max(SAME_S);
                return TrackPoint { time_s: at, lens: b.lens, ..a.towards(b, share.min(4.0)) };
            }
            let stands = jumps.binary_search(&(i + 1)).is_ok() && time_s < self.points[i + 1].time_s - SAME_S;
            TrackPoint { time_s: at, ..if stands { self.points[i] } else { point } }
        });
        Track { points: points.collect() }
    }

    /// The points to which the track jumps: by so much more than from point to point before and after that
    /// nothing moved there.
    fn jumps(&self) -> Vec<usize> {
        const TIMES: f64 = 8.0;
        const AROUND: usize = 3;
        /// A metre, or a radian.
        const LEAST: f64 = 0.2;
        let far: Vec<f64> = self
            .points
            .windows(2)
            .map(|w| w[0].position.distance(w[1].position) + w[0].pose().angle_to(w[1].pose()))
            .collect();
        let is_jump = |i: &usize| {
            let around = i.saturating_sub(AROUND)..(i + AROUND + 1).min(far.len());
            let other = around.filter(|j| j != i).map(|j| far[j]).fold(0.0, f64::max);
            far[*i] > LEAST && far[*i] > TIMES * other
        };
        (0..far.len()).filter(is_jump).map(|i| i + 1).collect()
    }

    /// The track at even times from its first point on, positions straight between neighbours,
    /// orientations along the shorter arc. The last point counts where it is due but for a hair: files keep
    /// times in numbers of 24 bits.
    pub fn resampled(&self, rate_hz: f64) -> Track {
        let Some(start) = self.points.first().map(|p| p.time_s) else { return Track::default() };
        let count = (self.duration_s() * rate_hz + HAIR).floor() as usize + 1;
        let mut i = 0;
        let at = (0..count).map(|k| TrackPoint {
            time_s: k as f64 / rate_hz,
            ..self.between(&mut i, start + k as f64 / rate_hz)
        });
        Track { points: at.collect() }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::time::Rate;

    const LENS: LensState = LensState { focal_mm: 35.0, focus_m: 5.0, f_stop: 4.0 };

    fn track(rate: Rate, frames: usize, at: impl Fn(usize) -> (DVec3, PanTiltRoll)) -> Track {
        let point = |i: usize| {
            let (position, angles) = at(i);
            TrackPoint { time_s: rate.time_of(i), position, angles, lens: LENS }
        };
        Track { points: (0..frames).map(point).collect() }
    }

    fn panned(pan: f64) -> PanTiltRoll {
        PanTiltRoll { pan, ..PanTiltRoll::default() }
    }

    #[test]
    fn a_sampled_track_has_every_frame_of_its_file_and_the_last_one_where_it_was() {
        let rates =
            [(24_000, 1001), (24, 1), (25, 1), (30_000, 1001), (48, 1), (50, 1), (60_000, 1001), (60, 1)];
        for (num, den) in rates {
            let rate = Rate::new(num, den).unwrap();
            for frames in [2, 3, 10, 47, 48, 100, 101, 240] {
                let at = |i: usize| (DVec3::new(0.1 * i as f64, 1.5, 0.0), panned(0.03 * i as f64));
                let sampled = track(rate, frames, at).sampled(120.0);
                let duration_s = (sampled.points.len() - 1) as f64 / 120.0;
                assert_eq!(rate.frames_within(duration_s), frames, "{num}/{den}, {frames}");
                let (mut i, last_s) = (0, rate.time_of(frames - 1));
                let last = sampled.between(&mut i, last_s);
                let (place, angles) = at(frames - 1);
                assert!(last.position.distance(place) < 1e-9, "{num}/{den}, {frames}: {last:?}");
                assert!((last.angles.pan - angles.pan).abs() < 1e-9);
            }
        }
    }

    #[test]
    fn a_jump_of_a_film_rate_track_stays_one_step() {
        let at = |i: usize| {
            let far = if i < 30 { 0.0 } else { 4.0 };
            (DVec3::new(0.02 * i as f64 + far, 1.5, 0.0), panned(if i < 30 { 0.0 } else { 1.0 }))
        };
        let film = track(Rate::FILM, 60, at);
        assert_eq!(film.jumps(), [30]);
        let sampled = film.sampled(120.0);
        let far = |w: &[TrackPoint]| w[0].position.distance(w[1].position);
        let steps: Vec<f64> = sampled.points.windows(2).map(far).collect();
        assert_eq!(steps.iter().filter(|s| **s > 0.1).count(), 1, "the jump is one step");
        // The first sample after it is that of frame 30.
        assert!(steps[30 * 5 - 1] > 3.9);
        // A whip pan is quick, and no jump.
        let whip = track(Rate::FILM, 60, |i| (DVec3::ZERO, panned(1.6 / (1.0 + (-(i as f64 - 30.0)).exp()))));
        assert_eq!(whip.jumps(), Vec::<usize>::new());
    }

    #[test]
    fn whole_turns_are_kept_at_another_rate() {
        let rate = Rate::new(2, 1).unwrap();
        // From one point to the next more than half a turn, begun at one and a half turns.
        let spin = track(rate, 9, |i| (DVec3::ZERO, panned(3.0 * PI + 1.25 * PI * i as f64)));
        for other in [spin.resampled(24.0), spin.sampled(120.0)] {
            for point in &other.points {
                let due = 3.0 * PI + 2.5 * PI * point.time_s;
                assert!((point.angles.pan - due).abs() < 1e-9, "{point:?}");
            }
        }
    }
}
