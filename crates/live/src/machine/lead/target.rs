//! The camera of another move, which the machine follows as far as it can.

use super::{Lead, LeadKind, LeadStep, Led};
use rovnek_core::follow::{CameraTarget, follow};
use rovnek_core::rigs::{LENS_AXES, Rig};
use std::sync::Arc;

/// The camera of another move.
pub struct Target(pub Arc<CameraTarget>);

impl Lead for Target {
    fn kind(&self) -> LeadKind {
        LeadKind::Move
    }

    fn step(&mut self, step: &LeadStep) -> Led {
        let moment = step.moment;
        let (now, _) = follow(step.rig, &self.0, moment.now_s, step.was);
        let (next, _) = follow(step.rig, &self.0, moment.next_s, step.near);
        Led { now, next, camera: self.0.at(moment.next_s).0, by_hand: [false; LENS_AXES] }
    }

    fn at(&self, rig: &dyn Rig, time_s: f64, near: &[f64]) -> Option<Vec<f64>> {
        Some(follow(rig, &self.0, time_s, near).0)
    }
}
