//! From a take and its treatments to what is seen at each frame. Pure: the same input gives the
//! same bytes.
//!
//! Treatments are applied stage by stage, and each stage is kept by what it was made of, so that
//! a change to the last treatment does not compute the first ones again.

use crate::lens::Camera;
use crate::motion::{Context, Motion};
use crate::rigs::{Rig, Stance};
use crate::samples::Samples;
use crate::time::Rate;
use crate::track::{LensState, Track};
use crate::treatments::Treatment;
use std::sync::Arc;

/// What is seen at one frame.
#[derive(Clone, Debug, PartialEq)]
pub struct Frame {
    /// Seconds from the start of the move.
    pub time_s: f64,
    /// The rig's axes.
    pub axes: Vec<f64>,
    /// Camera and bodies.
    pub stance: Stance,
    /// The lens.
    pub lens: LensState,
}

/// The frames of a move at a rate. The first is at 0, the last at or before the end.
pub fn frames(samples: &Samples, rig: &dyn Rig, camera: &Camera, rate: Rate) -> Vec<Frame> {
    if samples.is_empty() {
        return Vec::new();
    }
    let mut row = Vec::with_capacity(samples.width());
    (0..rate.frames_within(samples.duration_s()))
        .map(|i| {
            samples.at(rate.time_of(i), &mut row);
            frame(rate.time_of(i), row.clone(), rig, camera)
        })
        .collect()
}

fn frame(time_s: f64, axes: Vec<f64>, rig: &dyn Rig, camera: &Camera) -> Frame {
    let stance = rig.forward(&axes);
    let lens = lens_of(&axes, &stance, camera);
    Frame { time_s, axes, stance, lens }
}

/// The lens that a rig's last two axes set, or the rig itself.
pub fn lens_of(axes: &[f64], stance: &Stance, camera: &Camera) -> LensState {
    let [.., focal_mm, focus_m] = axes else { panic!("every rig ends with zoom and focus") };
    let focus_m = stance.focus_m.unwrap_or(*focus_m);
    LensState { focal_mm: *focal_mm, focus_m, f_stop: camera.f_stop }
}

/// The camera's track over frames.
pub fn track_of_frames(frames: &[Frame]) -> Track {
    Track::from_poses(frames.iter().map(|f| (f.time_s, f.stance.camera, f.lens)))
}

/// The camera's track at every sample, for measuring.
pub fn track_of_samples(samples: &Samples, rig: &dyn Rig, camera: &Camera) -> Track {
    let pose = |(i, axes): (usize, &[f64])| {
        let stance = rig.forward(axes);
        (i as f64 / samples.rate_hz(), stance.camera, lens_of(axes, &stance, camera))
    };
    Track::from_poses(samples.rows().enumerate().map(pose))
}

/// Treated motion, kept stage by stage.
#[derive(Default)]
pub struct Stages {
    kept: Vec<(Key, Arc<Samples>)>,
}

/// What a stage was made of: the source's name, the rate, and the treatments so far.
#[derive(Clone, PartialEq)]
struct Key {
    source: u64,
    rate: Rate,
    treatments: Vec<Treatment>,
}

/// How many stages are kept; a minute of ten axes is half a megabyte.
const KEPT: usize = 32;

impl Stages {
    /// `raw`, known as `source`, after all `treatments`. The oldest stages make room.
    pub fn treated(
        &mut self,
        source: u64,
        raw: &Arc<Samples>,
        treatments: &[Treatment],
        context: &Context,
    ) -> Arc<Samples> {
        let active: Vec<Treatment> = treatments.iter().filter(|t| t.on).cloned().collect();
        let key = |n: usize| Key { source, rate: context.rate, treatments: active[..n].to_vec() };
        let known = |n: &usize| self.kept.iter().find(|(k, _)| *k == key(*n)).map(|(_, s)| (*n, s.clone()));
        let (done, stage) = (1..=active.len())
            .rev()
            .find_map(|n| known(&n))
            .unwrap_or_else(|| (0, Arc::new(Motion::of(Samples::clone(raw), context.axes()).samples)));
        let mut motion = Motion { samples: Samples::clone(&stage), cuts: Vec::new() };
        let mut last = stage;
        for (n, treatment) in active.iter().enumerate().skip(done) {
            motion = treatment.apply(&motion, context);
            last = Arc::new(motion.samples.clone());
            if self.kept.len() == KEPT {
                self.kept.remove(0);
            }
            self.kept.push((key(n + 1), last.clone()));
        }
        last
    }
}
