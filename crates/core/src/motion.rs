//! Motion, the input and output of treatments: a machine's axes over time, and the camera's poses where a
//! treatment took the camera off the axes.

use crate::axis::Axis;
use crate::bounded::Bytes;
use crate::ids::TakeId;
use crate::lens::Camera;
use crate::playing::PerformanceTimeline;
use crate::rigs::Rig;
use crate::samples::Samples;
use crate::space::Pose;
use crate::time::Rate;
use crate::track::Track;
use crate::warnings::Warning;
use std::ops::Range;

/// Share of a step within which a time means a sample.
const SAME: f64 = 1e-9;

/// Axes over scene time, which begins at 0 with the first sample. Angles are continuous.
#[derive(Clone, Debug, PartialEq)]
pub struct Motion {
    /// One column an axis.
    pub samples: Samples,
    /// Camera poses at each sample, where a treatment took the camera off the axes.
    pub camera: Option<Vec<Pose>>,
    /// When the move begins, scene time. What lies before it led to it, and is not part of it.
    pub begins_s: f64,
    /// Times at which the motion jumps: nothing is smoothed or read across one. In order.
    pub cuts: Vec<f64>,
    /// Warnings about the motion.
    pub warnings: Vec<Warning>,
}

impl Bytes for Motion {
    fn bytes(&self) -> usize {
        size_of_val(self.samples.values()) + self.camera.as_deref().map_or(0, size_of_val)
    }
}

/// Inputs of a treatment besides the motion; none of them comes from a store or a clock.
#[derive(Clone, Copy)]
pub struct Context<'a> {
    /// The machine whose axes move.
    pub rig: &'a dyn Rig,
    /// Half the frame of its camera at a distance of 1 and a focal length of 1 mm: to the right, and up.
    pub half_frame_mm: (f64, f64),
    /// The scene's frames.
    pub rate: Rate,
    /// Performance; none around a bare track.
    pub playing: Option<Playing<'a>>,
    /// Recorded takes; none where no takes are kept.
    pub takes: Option<&'a dyn Takes>,
}

/// Recorded camera, evenly in time.
#[derive(Clone, Debug, PartialEq)]
pub struct Recorded {
    /// Poses per second.
    pub rate_hz: f64,
    /// One after the other.
    pub poses: Vec<Pose>,
}

/// Recorded or imported takes, by their ids.
pub trait Takes {
    /// Camera of a take; none for a missing take.
    fn recorded(&self, take: TakeId) -> Option<Recorded>;
    /// Another number where that is another.
    fn version(&self, take: TakeId) -> u64;
}

/// A performance as treatments read it.
#[derive(Clone, Copy)]
pub struct Playing<'a> {
    /// Timeline of the performance.
    pub timeline: &'a PerformanceTimeline,
    /// Another number where anything of it is another.
    pub version: u64,
}

impl<'a> Context<'a> {
    /// A machine with its camera, and nobody around.
    pub fn of(rig: &'a dyn Rig, camera: &Camera, rate: Rate) -> Context<'a> {
        Context { rig, half_frame_mm: camera.half_frame(1.0), rate, playing: None, takes: None }
    }

    /// Half the frame at a distance of 1: to the right, and up.
    pub fn half_frame(&self, focal_mm: f64) -> (f64, f64) {
        let (x, y) = self.half_frame_mm;
        (x / focal_mm, y / focal_mm)
    }

    /// Axes, in the order of the samples.
    pub fn axes(&self) -> &[Axis] {
        self.rig.axes()
    }
}

impl Motion {
    /// Samples of a machine as they were recorded, angles made continuous.
    pub fn of(mut samples: Samples, axes: &[Axis]) -> Motion {
        samples.unwrap_angles(axes);
        Motion::plain(samples)
    }

    /// Samples as they are, without a jump.
    pub fn plain(samples: Samples) -> Motion {
        Motion { samples, camera: None, begins_s: 0.0, cuts: Vec::new(), warnings: Vec::new() }
    }

    /// True without samples.
    pub fn is_empty(&self) -> bool {
        self.samples.is_empty()
    }

    /// The axes at a time, straight between samples, but never across a cut: before it the sample
    /// before it, from it on the one after it. The ends are held outside.
    pub fn at(&self, time_s: f64, row: &mut Vec<f64>) {
        self.samples.at(self.read_at(time_s), row);
    }

    /// Camera pose at a time, interpolated as axes are; none where the axes give the pose.
    pub fn camera_at(&self, time_s: f64) -> Option<Pose> {
        let camera = self.camera.as_ref()?;
        let place = (self.read_at(time_s) * self.samples.rate_hz()).clamp(0.0, (camera.len() - 1) as f64);
        let nearest = place.round();
        if (place - nearest).abs() < SAME {
            return Some(camera[nearest as usize]);
        }
        Some(camera[place as usize].towards(camera[place as usize + 1], place.fract()))
    }

    /// Camera pose at a sample.
    pub fn pose(&self, sample: usize, rig: &dyn Rig) -> Pose {
        match &self.camera {
            Some(camera) => camera[sample],
            None => rig.forward(self.samples.row(sample)).camera,
        }
    }

    /// The camera's track at every sample of the move, for measuring.
    pub fn seen(&self, rig: &dyn Rig) -> Track {
        let mut track = self.track(rig);
        track.points.drain(..self.first().min(track.points.len()));
        track
    }

    /// The first sample of the move.
    pub fn first(&self) -> usize {
        self.first_from(self.begins_s)
    }

    /// The camera's track at every sample, with what led to the move.
    pub fn track(&self, rig: &dyn Rig) -> Track {
        let pose = |(i, axes): (usize, &[f64])| {
            let rig_pose = rig.forward(axes);
            let camera = self.camera.as_ref().map_or(rig_pose.camera, |camera| camera[i]);
            (i as f64 / self.samples.rate_hz(), camera, rig_pose.lens(axes))
        };
        Track::from_poses(self.samples.rows().enumerate().map(pose))
    }

    /// The time to read at: that itself, or beside a cut that of the sample on the same side of it.
    fn read_at(&self, time_s: f64) -> f64 {
        let rate = self.samples.rate_hz();
        let before = (time_s * rate).clamp(0.0, (self.samples.len() - 1) as f64) as usize;
        match self.cuts.iter().find(|cut| self.first_from(**cut) == before + 1) {
            Some(cut) if time_s * rate < cut * rate - SAME => before as f64 / rate,
            Some(_) => (before + 1) as f64 / rate,
            None => time_s,
        }
    }

    /// The first sample at a time or after it.
    fn first_from(&self, time_s: f64) -> usize {
        (time_s * self.samples.rate_hz() - SAME).ceil().max(0.0) as usize
    }

    /// The stretches between cuts, as ranges of samples.
    pub fn stretches(&self) -> Vec<Range<usize>> {
        let count = self.samples.len();
        let at = |cut: &f64| self.first_from(*cut).min(count);
        let mut ends: Vec<usize> = self.cuts.iter().map(at).collect();
        ends.push(count);
        let starts = std::iter::once(0).chain(ends.clone());
        starts.zip(ends).map(|(from, to)| from..to).filter(|r| !r.is_empty()).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_cut_between_samples_ends_the_stretch_before_it() {
        let samples = Samples::new(120.0, 1, vec![0.0; 240]);
        let cut = |cuts: &[f64]| -> Vec<(usize, usize)> {
            let motion = Motion { cuts: cuts.to_vec(), ..Motion::plain(samples.clone()) };
            motion.stretches().into_iter().map(|r| (r.start, r.end)).collect()
        };
        assert_eq!(cut(&[]), [(0, 240)]);
        // At 29.97 frames a second frame 10 lies at sample 40.04.
        assert_eq!(cut(&[10.0 * 1001.0 / 30_000.0]), [(0, 41), (41, 240)]);
        assert_eq!(cut(&[0.5, 1.0]), [(0, 60), (60, 120), (120, 240)]);
        assert_eq!(cut(&[0.0, 5.0]), [(0, 240)]);
    }

    /// At 29.97 frames a second frame 10 lies at sample 40.04: between a hold's two values.
    #[test]
    fn frames_are_not_read_across_a_jump() {
        let frame = 10.0 * 1001.0 / 30_000.0;
        let mut values = vec![5.0; 41];
        values.resize(81, 9.0);
        let motion = Motion { cuts: vec![frame], ..Motion::plain(Samples::new(120.0, 1, values)) };
        let at = |time_s: f64| {
            let mut row = Vec::new();
            motion.at(time_s, &mut row);
            row[0]
        };
        assert_eq!((at(frame), at(frame - 1e-6), at(frame + 1e-6)), (9.0, 5.0, 9.0));
        assert_eq!((at(40.0 / 120.0), at(41.0 / 120.0), at(-1.0), at(9.0)), (5.0, 9.0, 5.0, 9.0));
        // A jump on a sample: that sample is after it.
        let whole = Motion { cuts: vec![41.0 / 120.0], ..motion.clone() };
        let mut row = Vec::new();
        for (place, want) in [(40.99, 5.0), (41.0, 9.0), (41.01, 9.0), (40.0, 5.0)] {
            whole.at(place / 120.0, &mut row);
            assert_eq!(row, [want], "{place}");
        }
    }
}
