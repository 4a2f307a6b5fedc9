//! From a take and its treatments to what is seen at each frame. Pure: the same input gives the
//! same bytes.
//!
//! Treatments are applied stage by stage, and each stage is kept by what it was made of, so that
//! a change to the last treatment does not compute the first ones again.

use crate::bounded::Bounded;
use crate::content::{chained, content};
use crate::motion::{Context, Motion, Playing, Takes};
use crate::rigs::{Rig, RigPose};
use crate::space::Pose;
use crate::time::Rate;
use crate::track::{LensState, Track};
use crate::treatments::{Level, Reads, Treatment, retimed};
use glam::DVec3;
use std::ops::Range;
use std::sync::Arc;

/// Frame of an evaluated move.
#[derive(Clone, Debug, PartialEq)]
pub struct Frame {
    /// Seconds from the start of the move.
    pub time_s: f64,
    /// Axis values of the rig.
    pub axes: Vec<f64>,
    /// Pose of camera and carriage.
    pub rig_pose: RigPose,
    /// Poses of the bodies, one for each of [`Rig::bodies`].
    pub bodies: Vec<Pose>,
    /// State of the lens.
    pub lens: LensState,
}

/// Numbers of a move's frames at a rate: the first is the one at which it begins or the next one, frame n
/// of the scene; the last is at or before the end. Empty for a move without samples.
pub fn frame_numbers(motion: &Motion, rate: Rate) -> Range<usize> {
    if motion.is_empty() {
        return 0..0;
    }
    let count = rate.frames_within(motion.samples.duration_s());
    rate.frame_from(motion.begins_s).min(count.saturating_sub(1))..count
}

/// All frames of a move at a rate.
pub fn frames(motion: &Motion, rig: &dyn Rig, rate: Rate) -> Vec<Frame> {
    frames_at(motion, rig, rate, frame_numbers(motion, rate))
}

/// The frames of a move with these numbers, which are among [`frame_numbers`].
pub fn frames_at(motion: &Motion, rig: &dyn Rig, rate: Rate, numbers: Range<usize>) -> Vec<Frame> {
    let mut row = Vec::with_capacity(motion.samples.width());
    numbers
        .map(|i| {
            let time_s = rate.time_of(i);
            motion.at(time_s, &mut row);
            let axes = row.clone();
            let mut rig_pose = rig.forward(&axes);
            let lens = rig_pose.lens(&axes);
            rig_pose.camera = motion.camera_at(time_s).unwrap_or(rig_pose.camera);
            Frame { time_s, bodies: rig.body_poses(&axes), axes, rig_pose, lens }
        })
        .collect()
}

/// Path of the camera: its position on each of [`frame_numbers`], metres.
pub fn path(motion: &Motion, rig: &dyn Rig, rate: Rate) -> Vec<DVec3> {
    let mut row = Vec::with_capacity(motion.samples.width());
    let numbers = frame_numbers(motion, rate).map(|i| rate.time_of(i));
    numbers
        .map(|time_s| match motion.camera_at(time_s) {
            Some(camera) => camera.position,
            None => {
                motion.at(time_s, &mut row);
                rig.forward(&row).camera.position
            }
        })
        .collect()
}

/// The camera's track over frames.
pub fn track_of_frames(frames: &[Frame]) -> Track {
    Track::from_poses(frames.iter().map(|f| (f.time_s, f.rig_pose.camera, f.lens)))
}

/// Treated motion, kept stage by stage under a hash of what each was made of: the source, the rate,
/// and the treatments so far. What was used least lately makes room, so that all together take no
/// more than so many bytes.
pub struct StageCache {
    kept: Bounded<Arc<Motion>>,
}

impl StageCache {
    /// None yet.
    pub fn within(most_bytes: usize) -> StageCache {
        StageCache { kept: Bounded::within(most_bytes) }
    }

    /// `raw`, which is known as `source`, after all `treatments`. Others may ask meanwhile.
    pub fn treated(
        &self,
        source: u64,
        raw: &Motion,
        treatments: &[Treatment],
        context: &Context,
    ) -> Arc<Motion> {
        let active: Vec<&Treatment> = treatments.iter().filter(|t| t.on).collect();
        let first = chained([source, content(&context.rate)]);
        let mut fingerprints = vec![first];
        for treatment in &active {
            let version = version_of(treatment.kind.reads(), context.playing, context.takes);
            let before = fingerprints[fingerprints.len() - 1];
            fingerprints.push(chained([before, content(treatment), version.unwrap_or(0)]));
        }
        let begun = || {
            self.kept.find(first).unwrap_or_else(|| {
                let mut motion = raw.clone();
                motion.samples.unwrap_angles(context.axes());
                let motion = Arc::new(motion);
                self.kept.keep(first, motion.clone());
                motion
            })
        };
        let known = (0..fingerprints.len()).rev().find_map(|n| Some((n, self.kept.find(fingerprints[n])?)));
        let (done, mut motion) = known.unwrap_or_else(|| (0, begun()));
        let timed = active.iter().take_while(|t| t.kind.level() == Level::Time).count();
        for n in done..active.len() {
            motion = Arc::new(if n < timed {
                // Put together, they read what was recorded, not one another.
                retimed(&begun(), &active[..=n], context)
            } else {
                active[n].apply(&motion, context)
            });
            self.kept.keep(fingerprints[n + 1], motion.clone());
        }
        motion
    }

    /// Bytes of all stages that are kept.
    pub fn bytes(&self) -> usize {
        self.kept.bytes()
    }
}

/// A number that is another where what a treatment reads besides the axes is another.
pub fn version_of(reads: Reads, playing: Option<Playing>, takes: Option<&dyn Takes>) -> Option<u64> {
    match reads {
        Reads::Playing => playing.map(|p| p.version),
        Reads::Set => playing.map(|p| {
            let standing = p.timeline.standing.iter().map(|(id, pose)| content(&(id, pose.seven())));
            chained(std::iter::once(p.version).chain(standing))
        }),
        Reads::Recorded(take) => takes.map(|takes| takes.version(take)),
        Reads::Nothing | Reads::Take(_) => None,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lens::Camera;
    use crate::rigs::{RigSpec, TrackDolly};
    use crate::samples::Samples;
    use crate::treatments::{Smooth, SmoothBy, TreatmentKind};

    fn smooth(passes: u32) -> Treatment {
        let by = Some(SmoothBy::Binomial { passes });
        TreatmentKind::Smooth(Smooth { machine: by, head: by, lens: None }).into()
    }

    #[test]
    fn stages_are_found_again_and_make_room_within_their_bytes() {
        let rig = RigSpec::TrackDolly(TrackDolly::default()).build(&Camera::default());
        let width = rig.axes().len();
        let values = (0..240 * width).map(|i| (i as f64 * 0.37).sin()).collect();
        let raw = Motion::plain(Samples::new(120.0, width, values));
        let context = Context::of(&*rig, &Camera::default(), Rate::FILM);
        let one = size_of_val(raw.samples.values());
        let stages = StageCache::within(3 * one);
        let first = stages.treated(1, &raw, &[smooth(10), smooth(20)], &context);
        assert!(Arc::ptr_eq(&first, &stages.treated(1, &raw, &[smooth(10), smooth(20)], &context)));
        // Only what comes after what is different is done anew; another source is another motion.
        let other = stages.treated(1, &raw, &[smooth(10), smooth(30)], &context);
        assert_ne!(first, other);
        assert!(!Arc::ptr_eq(&stages.treated(2, &raw, &[smooth(10)], &context), &first));
        assert!(stages.bytes() <= 3 * one);
        let alone = StageCache::within(0).treated(1, &raw, &[smooth(10), smooth(20)], &context);
        assert_eq!(alone, first);
        let off = Treatment { on: false, ..smooth(99) };
        let without = stages.treated(1, &raw, &[smooth(10), off, smooth(20)], &context);
        assert_eq!(without, first);
    }
}
