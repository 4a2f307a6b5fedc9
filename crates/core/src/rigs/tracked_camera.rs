//! A camera in the operator's own hands, its motion coming from a tracked device.
//!
//! **Method.** As the free camera its axes are its pose, but they move as quickly as a person can
//! move a light camera, times the scale of the device's space. Where the device was, placed on the
//! set but not steadied, is kept in six axes that nobody drives, so that a take can be steadied
//! otherwise afterwards. Without a device, hands move it as they fly a free camera.

use super::described::{FAR, There, cm, degrees, top_speed, triple};
use super::head::settle;
use super::parts::{behind, camera_body};
use super::roam::roam;
use super::{ANYWHERE, Reach, Rig, RigPose, Spec, Surroundings, axis, follower, lens_axes, nearest_turn};
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

/// The tracked camera's parameters.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct TrackedCamera {
    /// Place of the camera before a device moves it, metres.
    pub start_m: [f64; 3],
    /// Pan at the start, degrees.
    pub start_pan_deg: f64,
    /// At full speed, by device or by hand.
    pub top_m_s: f64,
}

impl Default for TrackedCamera {
    fn default() -> TrackedCamera {
        TrackedCamera { start_m: [0.0, 1.6, 3.0], start_pan_deg: 0.0, top_m_s: 4.0 }
    }
}

/// How hard a hand moves a light camera: from rest to full speed in a tenth of a second, and to
/// 400 °/s as quickly (from memory).
const PUSH: f64 = 10.0;
const TURN: (f64, f64) = (400.0, 4000.0);

/// The axes that keep where the device was.
pub const DEVICE: [&str; 6] =
    ["device x", "device y", "device z", "device pan", "device tilt", "device roll"];
/// Number of axes that keep the device's pose.
const KEPT: usize = DEVICE.len();

impl Spec for TrackedCamera {
    fn build(&self, camera: &Camera) -> Box<dyn Rig> {
        use AxisGroup::{Carrier, Head, Machine};
        use Unit::{Metres, Radians};
        let [x, y, z] = self.start_m;
        let start = [x, y, z, self.start_pan_deg, 0.0, 0.0];
        let mut axes: Vec<Axis> = (0..KEPT)
            .map(|i| {
                let (ink, unit) = if i < 3 { ("travel", Metres) } else { ("pan", Radians) };
                follower(DEVICE[i], ink, Carrier, unit, start[i])
            })
            .collect();
        let move_ = (self.top_m_s, self.top_m_s * PUSH);
        axes.extend([
            axis("x", "travel", Machine, Metres, ANYWHERE, move_, x),
            axis("y", "height", Machine, Metres, ANYWHERE, move_, y),
            axis("z", "reach", Machine, Metres, ANYWHERE, move_, z),
            axis("pan", "pan", Head, Radians, ANYWHERE, TURN, self.start_pan_deg),
            axis("tilt", "tilt", Head, Radians, (-90.0, 90.0), TURN, 0.0),
            axis("roll", "roll", Head, Radians, ANYWHERE, TURN, 0.0),
        ]);
        for (axis, hand) in axes[KEPT..].iter_mut().zip(["side", "up", "ahead"]) {
            axis.hand = Some(hand);
        }
        axes.extend(lens_axes(camera));
        Box::new(Tracked { axes, bodies: vec![camera_body()] })
    }

    fn word(&self) -> &'static str {
        "tracked camera"
    }

    fn params(&self) -> Vec<Param> {
        let pan = degrees("start_pan_deg", "Start pan", -FAR, FAR, self.start_pan_deg);
        vec![
            triple("starts at", "Start", ["start_m/0", "start_m/1", "start_m/2"], self.start_m),
            Param::row("looks", vec![pan]),
            top_speed(0.05, 100.0, self.top_m_s),
        ]
    }

    fn put(&mut self, there: &There) {
        (self.start_m, self.start_pan_deg) = (there.position.to_array().map(cm), there.pan_deg());
    }
}

struct Tracked {
    axes: Vec<Axis>,
    bodies: Vec<Body>,
}

impl Rig for Tracked {
    fn axes(&self) -> &[Axis] {
        &self.axes
    }

    fn bodies(&self) -> &[Body] {
        &self.bodies
    }

    fn forward(&self, axes: &[f64]) -> RigPose {
        let camera = Pose::from_numbers(std::array::from_fn(|k| axes[KEPT + k]));
        RigPose { camera, carriage: camera, focus_m: None }
    }

    fn body_poses(&self, axes: &[f64]) -> Vec<Pose> {
        vec![behind(self.forward(axes).camera)]
    }

    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach {
        let machine = [&near[..KEPT], &wanted.position.to_array()].concat();
        settle(self, machine, DQuat::IDENTITY, wanted, near, "it is nowhere")
    }

    fn rotation(&self) -> Option<[usize; 3]> {
        Some([KEPT + 3, KEPT + 4, KEPT + 5])
    }

    fn tied(&self, axis: usize) -> Range<usize> {
        let place = KEPT..KEPT + 3;
        if place.contains(&axis) { place } else { axis..axis + 1 }
    }

    fn step(&self, motions: &mut [AxisMotion], hands: &[Hand], _: &Surroundings, dt: f64) {
        let facing = PanTiltRoll { pan: motions[KEPT + 3].value, tilt: 0.0, roll: 0.0 }.to_rotation();
        roam(motions, hands, &self.axes, [Some(KEPT), Some(KEPT + 1), Some(KEPT + 2)], facing, &[], dt);
        for i in KEPT + 3..self.axes.len() {
            motions[i] = motions[i].step(&self.axes[i], hands[i].demand, hands[i].drag_s, dt);
        }
    }

    fn write_surroundings(&self, motions: &mut [AxisMotion], around: &Surroundings) {
        let Some(device) = around.device else { return };
        for (i, (motion, value)) in motions.iter_mut().zip(device.to_numbers()).enumerate() {
            let turns = self.axes[i].unit == Unit::Radians;
            *motion = AxisMotion::at(if turns { nearest_turn(value, motion.value) } else { value });
        }
    }
}
