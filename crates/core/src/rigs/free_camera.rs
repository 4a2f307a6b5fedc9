//! A camera that nothing carries: its axes are its pose. Imported moves come as takes of it.
//!
//! **Method.** x, y and z are the world's; pan, tilt and roll as the operator reads them. Hands
//! fly it the way it faces. The inverse reads the pose off and always succeeds, unless the floor
//! is in the way.

use super::described::{FAR, There, cm, degrees, top_speed, triple};
use super::head::settle;
use super::parts::{behind, camera_body};
use super::roam::roam;
use super::{ANYWHERE, Reach, Rig, RigPose, Spec, Surroundings, axis, lens_axes};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::axis_motion::{AxisMotion, Hand};
use crate::lens::Camera;
use crate::params::Param;
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
    /// Pan at the start, degrees.
    pub start_pan_deg: f64,
    /// Tilt at the start, degrees.
    pub start_tilt_deg: f64,
    /// Roll at the start, degrees.
    pub start_roll_deg: f64,
    /// Flies where it looks, up and down too, and not level.
    pub along_view: bool,
    /// Stays over the floor.
    pub floor: bool,
    /// Stops before walls and what stands on the set.
    pub walls: bool,
    /// Speed at full rate, m/s.
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

    fn word(&self) -> &'static str {
        "free camera"
    }

    fn params(&self) -> Vec<Param> {
        vec![
            Param::switch("along_view", "flies where it looks"),
            Param::switch("floor", "stays over the floor"),
            Param::switch("walls", "stays off walls"),
            triple("starts at", "Start", ["start_m/0", "start_m/1", "start_m/2"], self.start_m),
            Param::row(
                "looks",
                vec![
                    degrees("start_pan_deg", "Start pan", -FAR, FAR, self.start_pan_deg),
                    degrees("start_tilt_deg", "Start tilt", -90.0, 90.0, self.start_tilt_deg),
                    degrees("start_roll_deg", "Start roll", -FAR, FAR, self.start_roll_deg),
                ],
            ),
            top_speed(0.05, 50.0, self.top_m_s),
        ]
    }

    fn put(&mut self, there: &There) {
        self.start_m = there.position.to_array().map(cm);
        let [pan, tilt, roll] = there.turn_deg();
        (self.start_pan_deg, self.start_tilt_deg, self.start_roll_deg) = (pan, tilt, roll);
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

    fn forward(&self, axes: &[f64]) -> RigPose {
        let camera = Pose::from_numbers(std::array::from_fn(|k| axes[k]));
        RigPose { camera, carriage: camera, focus_m: None }
    }

    fn body_poses(&self, axes: &[f64]) -> Vec<Pose> {
        vec![behind(self.forward(axes).camera)]
    }

    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach {
        let p = wanted.position;
        let machine = vec![p.x, p.y.max(self.axes[1].min), p.z];
        settle(self, machine, DQuat::IDENTITY, wanted, near, "the floor is in the way")
    }

    fn rotation(&self) -> Option<[usize; 3]> {
        Some([3, 4, 5])
    }

    fn tied(&self, axis: usize) -> Range<usize> {
        let place = 0..3;
        if place.contains(&axis) { place } else { axis..axis + 1 }
    }

    fn step(&self, motions: &mut [AxisMotion], hands: &[Hand], around: &Surroundings, dt: f64) {
        let (pan, tilt) = (motions[3].value, if self.spec.along_view { motions[4].value } else { 0.0 });
        let facing = PanTiltRoll { pan, tilt, roll: 0.0 }.to_rotation();
        let among = if self.spec.walls { around.walls } else { &[] };
        roam(motions, hands, &self.axes, [Some(0), Some(1), Some(2)], facing, among, dt);
        for i in 3..self.axes.len() {
            motions[i] = motions[i].step(&self.axes[i], hands[i].demand, hands[i].drag_s, dt);
        }
    }
}
