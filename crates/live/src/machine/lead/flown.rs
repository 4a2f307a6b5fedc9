//! A camera that hands fly, the machine following: the first three of its own axes push to the side,
//! up and ahead; head and lens are what they are.

use super::{Lead, LeadKind, LeadStep, Led};
use rovnek_core::axis::{Axis, AxisGroup};
use rovnek_core::axis_motion::{AxisMotion, Hand, STEP_S};
use rovnek_core::lens::Camera;
use rovnek_core::rigs::{FreeCamera, LENS_AXES, Rig, RigSpec, Surroundings};
use rovnek_core::space::{PanTiltRoll, Pose};
use std::ops::Range;

/// A camera that is flown by hand.
pub struct Flown {
    camera: Box<dyn Rig>,
    motions: Vec<AxisMotion>,
}

impl Flown {
    /// From where the machine's camera is; `lens` is how its last axes move.
    pub fn from(at: Pose, camera: &Camera, lens: &[AxisMotion]) -> Flown {
        let turn = PanTiltRoll::from_rotation(at.rotation);
        let spec = FreeCamera {
            start_m: at.position.to_array(),
            start_pan_deg: turn.pan.to_degrees(),
            start_tilt_deg: turn.tilt.to_degrees().clamp(-90.0, 90.0),
            start_roll_deg: turn.roll.to_degrees(),
            top_m_s: 1.5,
            floor: true,
            ..FreeCamera::default()
        };
        let camera = RigSpec::FreeCamera(spec).build(camera);
        let mut motions: Vec<AxisMotion> = camera.axes().iter().map(|a| AxisMotion::at(a.start)).collect();
        let own = motions.len() - LENS_AXES;
        motions[own..].copy_from_slice(lens);
        Flown { camera, motions }
    }

    /// The machine's axes for where the camera is, and the camera.
    fn solve(&self, rig: &dyn Rig, near: &[f64]) -> (Vec<f64>, Pose) {
        let values: Vec<f64> = self.motions.iter().map(|m| m.value).collect();
        let camera = self.camera.forward(&values).camera;
        let mut axes = rig.inverse(camera, near).axes().to_vec();
        axes.extend(&values[values.len() - LENS_AXES..]);
        (axes, camera)
    }
}

impl Lead for Flown {
    fn kind(&self) -> LeadKind {
        LeadKind::Flown
    }

    fn step(&mut self, step: &LeadStep) -> Led {
        let (now, _) = self.solve(step.rig, step.was);
        let own = flying_hands(step.rig.axes(), &step.rig.operator_axes(), step.hands);
        let around = Surroundings { walls: step.walls, ..Surroundings::default() };
        self.camera.step(&mut self.motions, &own, &around, STEP_S);
        let (next, camera) = self.solve(step.rig, step.near);
        Led { now, next, camera, by_hand: [false; LENS_AXES] }
    }

    fn stands(&self, rig: &dyn Rig, _: f64, near: &[f64]) -> Option<Vec<f64>> {
        Some(self.solve(rig, near).0)
    }
}

/// Hands on a machine's axes as hands on the camera that is flown.
fn flying_hands(axes: &[Axis], base: &Range<usize>, hands: &[Hand]) -> Vec<Hand> {
    let machine =
        |i: &usize| axes[*i].group == AxisGroup::Machine && axes[*i].hand.is_some() && !base.contains(i);
    let mut own: Vec<Hand> = (0..axes.len()).filter(machine).take(3).map(|i| hands[i]).collect();
    own.resize(3, Hand::default());
    let rest = |i: &usize| matches!(axes[*i].group, AxisGroup::Head | AxisGroup::Lens);
    own.extend((0..axes.len()).filter(rest).map(|i| hands[i]));
    own
}
