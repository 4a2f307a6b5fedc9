//! A camera that stays square to a card: for drawing on top of what it sees.
//!
//! **Method.** The card's middle lies on the lens axis, the card's normal along it, at the
//! distance from which the whole card just fits the frame. Zooming moves the camera, so that the
//! card always fills the frame.

use super::described::There;
use super::parts::{behind, camera_body};
use super::{Reach, Rig, RigPose, Spec, axis, lens_axes};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::ids::PieceId;
use crate::lens::Camera;
use crate::params::{Invalid, Param};
use crate::solid::Body;
use crate::space::{Pose, heading};
use glam::{DQuat, DVec3};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Camera square to a card; its place follows the card whenever the set changes.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct SquareToCard {
    /// Id of the card's piece.
    pub card: PieceId,
    /// Middle of its foot.
    #[serde(default)]
    pub position: [f64; 3],
    /// Turn to the right, degrees.
    #[serde(default)]
    pub turn_deg: f64,
    /// Its width and height.
    #[serde(default = "square")]
    pub size: [f64; 2],
}

fn square() -> [f64; 2] {
    [1.0, 1.0]
}

impl Default for SquareToCard {
    fn default() -> SquareToCard {
        SquareToCard { card: PieceId(0), position: [0.0; 3], turn_deg: 0.0, size: square() }
    }
}

impl Spec for SquareToCard {
    fn build(&self, camera: &Camera) -> Box<dyn Rig> {
        // The camera stands off the card at once, whatever its head does; nothing else moves.
        let mut still = axis("card", "reach", AxisGroup::Machine, Unit::Metres, (0.0, 0.0), (1.0, 1.0), 0.0);
        still.hand = None;
        Box::new(Square {
            spec: self.clone(),
            camera: camera.clone(),
            axes: [still].into_iter().chain(lens_axes(camera)).collect(),
            bodies: vec![camera_body()],
        })
    }

    fn word(&self) -> &'static str {
        "square to a card"
    }

    /// Nothing: it goes where its card goes.
    fn params(&self) -> Vec<Param> {
        Vec::new()
    }

    fn check(&self) -> Result<(), Invalid> {
        let plain = self.position.iter().chain([&self.turn_deg]).all(|v| v.is_finite());
        if plain && self.size.iter().all(|v| v.is_finite() && *v > 0.0) {
            return Ok(());
        }
        Err(Invalid::at("size", "a camera square to a card needs a card with a size"))
    }

    fn put(&mut self, _: &There) {}
}

impl SquareToCard {
    /// Pose of the camera in the card's own frame: before its front, which is +z.
    pub fn before_card(&self, camera: &Camera, focal_mm: f64) -> Pose {
        let (x, y) = camera.half_frame(focal_mm);
        let [width, height] = self.size;
        let distance = (width / 2.0 / x).max(height / 2.0 / y);
        Pose { position: DVec3::new(0.0, height / 2.0, distance), rotation: DQuat::IDENTITY }
    }
}

struct Square {
    spec: SquareToCard,
    camera: Camera,
    axes: Vec<Axis>,
    bodies: Vec<Body>,
}

impl Rig for Square {
    fn axes(&self) -> &[Axis] {
        &self.axes
    }

    fn bodies(&self) -> &[Body] {
        &self.bodies
    }

    fn forward(&self, axes: &[f64]) -> RigPose {
        let &[_, focal_mm, ..] = axes else { panic!("a camera square to a card has four axes") };
        let card = Pose::new(DVec3::from(self.spec.position), heading(self.spec.turn_deg.to_radians()));
        let camera = card.then(self.spec.before_card(&self.camera, focal_mm));
        RigPose { camera, carriage: card, focus_m: None }
    }

    fn body_poses(&self, axes: &[f64]) -> Vec<Pose> {
        vec![behind(self.forward(axes).camera)]
    }

    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach {
        let at = self.forward(near).camera.position;
        let shortfall_m = at.distance(wanted.position);
        if shortfall_m < 1e-9 {
            return Reach::Within(vec![0.0]);
        }
        Reach::Short { nearest: vec![0.0], shortfall_m, limits: vec!["stays square to its card".into()] }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::framing::projected;

    #[test]
    fn the_whole_card_fills_the_frame_at_every_focal_length() {
        for (size, aspect) in [([4.0, 1.5], 1.85), ([1.0, 2.4], 2.39)] {
            let spec = SquareToCard { card: PieceId(1), position: [3.0, 0.4, -2.0], turn_deg: 35.0, size };
            let camera = Camera { frame_aspect: aspect, ..Camera::default() };
            let rig = spec.build(&camera);
            for focal in [18.0, 50.0, 100.0] {
                let eye = rig.forward(&[0.0, focal, 5.0, 4.0]).camera;
                let card = Pose::new(DVec3::from(spec.position), heading(spec.turn_deg.to_radians()));
                let mut largest = 0.0_f64;
                for (x, y) in [(-0.5, 0.0), (0.5, 0.0), (0.5, 1.0), (-0.5, 1.0)] {
                    let corner = DVec3::new(x * size[0], y * size[1], 0.0);
                    let corner = card.position + card.rotation * corner;
                    let (x, y, _) = projected(&camera, focal, eye, corner).unwrap();
                    largest = largest.max(x.abs()).max(y.abs());
                    assert!(x.abs() <= 1.0 + 1e-9 && y.abs() <= 1.0 + 1e-9);
                }
                assert!((largest - 1.0).abs() < 1e-9, "{largest}");
            }
        }
    }
}
