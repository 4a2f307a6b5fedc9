//! Parts that machines are drawn of.

use crate::solid::{Body, Material, Shape, Solid};
use crate::space::{PanTiltRoll, Pose};
use glam::DVec3;

/// The camera itself, the last body of every machine.
pub(super) fn camera_body() -> Body {
    Body::new("camera", Shape::Box { size: [0.2, 0.22, 0.42] }, Material::CameraBody)
}

/// Where the camera's body is: behind the lens.
pub(super) fn behind(camera: Pose) -> Pose {
    camera.shifted(0.0, 0.0, 0.12)
}

/// A box.
pub(super) fn slab(name: &str, size: [f64; 3], material: Material) -> Body {
    Body::new(name, Shape::Box { size }, material)
}

/// A post along its own y.
pub(super) fn post(name: &str, radius: f64, height: f64, material: Material) -> Body {
    Body::new(name, Shape::Cylinder { radius, height }, material)
}

/// A beam along its own z, for [`between`].
pub(super) fn beam(name: &str, thick: f64, length: f64, material: Material) -> Body {
    slab(name, [thick, thick, length.max(0.01)], material)
}

/// The pose of a beam that begins at one place and points at another.
pub(super) fn between(from: DVec3, to: DVec3) -> Pose {
    let d = to - from;
    let turn = PanTiltRoll { pan: d.x.atan2(-d.z), tilt: d.y.atan2(d.x.hypot(d.z)), roll: 0.0 };
    Pose::new((from + to) / 2.0, turn.to_rotation())
}

/// A beam that stands still between two places.
pub(super) fn strut(name: &str, thick: f64, from: DVec3, to: DVec3, material: Material) -> Solid {
    Solid { body: beam(name, thick, from.distance(to), material), pose: between(from, to) }
}
/// Indices of the parts that a machine's own lens does not see: they carry it, or only mark a point.
pub fn unseen_by_own_lens(bodies: &[Body]) -> Vec<usize> {
    indices(bodies, |name| matches!(name, "camera" | "head" | "aim point" | "pivot" | "orbit arm"))
}

/// Indices of the wheels that leave trails on the floor.
pub fn wheels(bodies: &[Body]) -> Vec<usize> {
    indices(bodies, |name| name == "wheel")
}

fn indices(bodies: &[Body], which: impl Fn(&str) -> bool) -> Vec<usize> {
    bodies.iter().enumerate().filter(|(_, body)| which(&body.name)).map(|(i, _)| i).collect()
}
