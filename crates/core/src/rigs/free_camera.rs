//! A camera that nothing carries: its axes are its pose. Imported moves come as takes of it.
//!
//! **Method.** x, y and z are the world's; pan, tilt and roll as the operator reads them. Hands
//! fly it the way it faces. The inverse reads the pose off and always succeeds, unless the floor
//! is in the way.

use super::head::settle;
use super::parts::{behind, camera_body};
use super::{ANYWHERE, Reach, Rig, Spec, Stance, Surroundings, axis, lens_axes, plain};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::drive::{Hand, Motion, roam};
use crate::lens::Camera;
use crate::solid::Body;
use crate::space::{PanTiltRoll, Pose};
use glam::DQuat;
use serde::{Deserialize, Serialize};
use std::ops::Range;
use ts_rs::TS;

/// The free camera's parameters.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
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
    /// Flies where it looks, up and down too, and not level.
    pub along_view: bool,
    /// Stays over the floor.
    pub floor: bool,
    /// Stops before walls and what stands on the set.
    pub walls: bool,
    /// At full speed.
    pub top_m_s: f64,
}

impl Default for FreeCamera {
    fn default() -> FreeCamera {
        FreeCamera {
            start_m: [0.0; 3],
            start_pan_deg: 0.0,
            start_tilt_deg: 0.0,
            start_roll_deg: 0.0,
            along_view: false,
            floor: false,
            walls: false,
            top_m_s: 3.0,
        }
    }
}

/// How near the floor the lens comes.
const OVER_FLOOR_M: f64 = 0.1;

impl Spec for FreeCamera {
    fn build(&self, camera: &Camera) -> Box<dyn Rig> {
        use AxisGroup::{Head, Machine};
        use Unit::{Metres, Radians};
        let height = if self.floor { (OVER_FLOOR_M, f64::INFINITY) } else { ANYWHERE };
        let fly = (self.top_m_s, self.top_m_s * 2.0);
        let [x, y, z] = self.start_m;
        let mut axes = vec![
            axis("x", "travel", Machine, Metres, ANYWHERE, fly, x),
            axis("y", "height", Machine, Metres, height, fly, y.max(height.0)),
            axis("z", "reach", Machine, Metres, ANYWHERE, fly, z),
            axis("pan", "pan", Head, Radians, ANYWHERE, (90.0, 240.0), self.start_pan_deg),
            axis("tilt", "tilt", Head, Radians, (-90.0, 90.0), (90.0, 240.0), self.start_tilt_deg),
            axis("roll", "roll", Head, Radians, ANYWHERE, (90.0, 240.0), self.start_roll_deg),
        ];
        for (axis, hand) in axes.iter_mut().zip(["side", "up", "ahead"]) {
            axis.hand = Some(hand);
        }
        axes.extend(lens_axes(camera));
        Box::new(Free { spec: self.clone(), axes, bodies: vec![camera_body()] })
    }

    fn fault(&self) -> Option<String> {
        let [x, y, z] = self.start_m;
        let numbers = [x, y, z, self.start_pan_deg, self.start_tilt_deg, self.start_roll_deg];
        plain(&numbers, "a free camera").or_else(|| {
            let sentence = if self.start_tilt_deg.abs() > 90.0 {
                "a free camera starts tilted by at most 90°"
            } else if !(0.05..=50.0).contains(&self.top_m_s) {
                "a free camera flies at 0.05 to 50 m/s"
            } else {
                return None;
            };
            Some(sentence.into())
        })
    }
}

struct Free {
    spec: FreeCamera,
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
        let camera = Pose::from_numbers(std::array::from_fn(|k| axes[k]));
        Stance { camera, carriage: camera, focus_m: None, bodies: vec![behind(camera)] }
    }

    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach {
        let p = wanted.position;
        let machine = vec![p.x, p.y.max(self.axes[1].min), p.z];
        settle(self, machine, DQuat::IDENTITY, wanted, near, "the floor is in the way")
    }

    fn tied(&self, axis: usize) -> Range<usize> {
        let place = 0..3;
        if place.contains(&axis) { place } else { axis..axis + 1 }
    }

    fn step(&self, motions: &mut [Motion], hands: &[Hand], around: &Surroundings, dt: f64) {
        let (pan, tilt) = (motions[3].value, if self.spec.along_view { motions[4].value } else { 0.0 });
        let facing = PanTiltRoll { pan, tilt, roll: 0.0 }.to_rotation();
        let near = if self.spec.walls { *around } else { Surroundings { walls: &[], ..*around } };
        roam(motions, hands, &self.axes, [Some(0), Some(1), Some(2)], facing, &near, dt);
        for i in 3..self.axes.len() {
            motions[i] = motions[i].step(&self.axes[i], hands[i].demand, hands[i].drag_s, dt);
        }
    }
}
