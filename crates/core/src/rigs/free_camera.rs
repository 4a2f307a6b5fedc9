//! A camera that nothing carries: its axes are its pose. Imported moves come as takes of it.
//!
//! **Method.** x, y and z are the world's; pan, tilt and roll as the operator reads them. The
//! inverse reads the pose off and always succeeds.

use super::{Reach, Rig, Stance, axis, lens_axes, nearest_turn};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::lens::Camera;
use crate::solid::{Body, Material, Shape};
use crate::space::{PanTiltRoll, Pose};
use glam::{DQuat, DVec3};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// The free camera's parameters: where it starts.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct FreeCamera {
    /// Start position.
    pub start_m: [f64; 3],
    /// Start pan.
    pub start_pan_deg: f64,
    /// Start tilt.
    pub start_tilt_deg: f64,
    /// Start roll.
    pub start_roll_deg: f64,
}

impl FreeCamera {
    pub(super) fn build(&self, camera: &Camera) -> Free {
        use AxisGroup::{Head, Machine};
        use Unit::{Metres, Radians};
        let anywhere = (f64::NEG_INFINITY, f64::INFINITY);
        let [x, y, z] = self.start_m;
        let [zoom, focus] = lens_axes(camera);
        Free {
            axes: vec![
                axis("x", "travel", Machine, Metres, anywhere, (3.0, 6.0), x),
                axis("y", "height", Machine, Metres, anywhere, (3.0, 6.0), y),
                axis("z", "reach", Machine, Metres, anywhere, (3.0, 6.0), z),
                axis("pan", "pan", Head, Radians, anywhere, (90.0, 240.0), self.start_pan_deg),
                axis("tilt", "tilt", Head, Radians, (-90.0, 90.0), (90.0, 240.0), self.start_tilt_deg),
                axis("roll", "roll", Head, Radians, anywhere, (90.0, 240.0), self.start_roll_deg),
                zoom,
                focus,
            ],
            bodies: vec![Body::new("camera", Shape::Box { size: [0.2, 0.22, 0.42] }, Material::CameraBody)],
        }
    }
}

impl FreeCamera {
    pub(super) fn fault(&self) -> Option<String> {
        let angles = [self.start_pan_deg, self.start_tilt_deg, self.start_roll_deg];
        let plain = self.start_m.iter().chain(&angles).all(|v| v.is_finite() && v.abs() <= 1e4);
        (!plain || self.start_tilt_deg.abs() > 90.0)
            .then(|| "a free camera starts at plain numbers, tilted by at most 90 °".into())
    }
}

pub(super) struct Free {
    axes: Vec<Axis>,
    bodies: Vec<Body>,
}

impl Rig for Free {
    fn axes(&self) -> &[Axis] {
        &self.axes
    }

    fn bodies(&self) -> &[Body] {
        &self.bodies
    }

    fn forward(&self, axes: &[f64]) -> Stance {
        let &[x, y, z, pan, tilt, roll, ..] = axes else { panic!("a free camera has eight axes") };
        let camera = Pose::new(DVec3::new(x, y, z), PanTiltRoll { pan, tilt, roll }.to_rotation());
        Stance { camera, bodies: vec![camera.then(Pose::new(DVec3::new(0.0, 0.0, 0.12), DQuat::IDENTITY))] }
    }

    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach {
        let p = wanted.position;
        let a = PanTiltRoll::from_rotation(wanted.rotation);
        let (pan, roll) = (nearest_turn(a.pan, near[3]), nearest_turn(a.roll, near[5]));
        Reach::Within(vec![p.x, p.y, p.z, pan, a.tilt, roll])
    }
}
