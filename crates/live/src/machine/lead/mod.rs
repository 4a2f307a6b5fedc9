//! What says where a machine's camera is wanted, instead of hands on its axes: the camera of another
//! move, a camera that hands fly, a tracked device. Another one is one more file beside these.

mod device;
mod flown;
mod target;

pub(super) use device::{DeviceLead, sent_lens};
pub(super) use flown::Flown;
pub(super) use target::Target;

use super::Moment;
use rovnek_core::axis_motion::Hand;
use rovnek_core::rigs::{LENS_AXES, Rig};
use rovnek_core::space::Pose;
use rovnek_core::tracked::Tracking;
use rovnek_core::walls::Wall;
use rovnek_formats::tracking::Lens;
use serde::Serialize;
use ts_rs::TS;

/// Source of the camera's motion.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum LeadKind {
    /// Hands and keys on the axes.
    Axes,
    /// The camera of another move.
    Move,
    /// Hands that fly it.
    Flown,
    /// A tracked device.
    Device,
}

/// One step of a machine whose camera is led.
pub(super) struct LeadStep<'a> {
    pub rig: &'a dyn Rig,
    pub hands: &'a [Hand],
    pub moment: &'a Moment<'a>,
    /// Axis values before the step.
    pub was: &'a [f64],
    /// Axis values before the step, but for the axes of the base, which has moved already.
    pub near: &'a [f64],
    /// Pose and lens from the attached device: the camera on the set, not steadied.
    pub device: Option<(Pose, Lens)>,
    /// How the setup takes its device.
    pub tracking: &'a Tracking,
    /// Walls that a flown camera must not run into.
    pub walls: &'a [Wall],
}

/// Result of a step of a machine that is led.
pub(super) struct Led {
    /// All axes for where the camera was wanted before the step, solved from where they were.
    pub now: Vec<f64>,
    /// All axes for where it is wanted after the step.
    pub next: Vec<f64>,
    /// The wanted camera after the step.
    pub camera: Pose,
    /// The lens axes that hands keep.
    pub by_hand: [bool; LENS_AXES],
}

/// Something that says where a machine's camera is wanted.
pub(super) trait Lead: Send {
    /// Source of the motion, for the page.
    fn kind(&self) -> LeadKind;

    /// One step of 1/240 s.
    fn step(&mut self, step: &LeadStep) -> Led;

    /// All axes for a scene time that was set; none where it has no say over time.
    fn at(&self, rig: &dyn Rig, time_s: f64, near: &[f64]) -> Option<Vec<f64>> {
        let _ = (rig, time_s, near);
        None
    }

    /// All axes for where it wants the camera now, from axes that were put elsewhere; none where the next step
    /// finds them.
    fn stands(&self, rig: &dyn Rig, time_s: f64, near: &[f64]) -> Option<Vec<f64>> {
        self.at(rig, time_s, near)
    }

    /// The device that it holds.
    fn source(&self) -> Option<&str> {
        None
    }

    /// The camera on the set where its device is there, not steadied.
    fn on_set(&self, device: Pose) -> Option<Pose> {
        let _ = device;
        None
    }

    /// Takes its device by other settings; false where it lets go of it.
    fn retrack(&mut self, tracking: &Tracking) -> bool {
        let _ = tracking;
        true
    }
}
