//! An operator on foot, with the camera on the shoulder.
//!
//! **Method.** Hands walk the operator ahead and to the side of where they face; what they walk,
//! how fast, and their breath are axes of their own, moved by the walking, so that a take says
//! where in its step the body was. place → facing → step and breath → pan, tilt, roll. A
//! stabiliser takes the step's turning out entirely and most of its lifting.
//!
//! A body rises and falls by about 4 cm twice a stride and sways by about 4 cm once a stride at
//! 1.4 m/s, in proportion to its pace; a breath takes four seconds (all from memory).

use super::described::{BASE, Placement, There, base, metres, plain};
use super::handles::{self, Handle};
use super::head::{settle, turned};
use super::parts::{beam, behind, between, camera_body};
use super::roam::roam;
use super::{ANYWHERE, Reach, Rig, RigPose, Spec, Surroundings, axis, follower, lens_axes};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::axis_motion::{AxisMotion, Hand};
use crate::lens::Camera;
use crate::params::{Param, Preset};
use crate::solid::{Body, Material, Shape};
use crate::space::{PanTiltRoll, Pose, heading};
use glam::{DQuat, DVec3};
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;
use std::ops::Range;
use ts_rs::TS;

/// The operator's parameters.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct Shoulder {
    /// Place x of the operator at the start, metres.
    pub base_x_m: f64,
    /// Place z of the operator at the start, metres.
    pub base_z_m: f64,
    /// Heading of the operator at the start, degrees: 0 is −Z, positive to the right.
    pub heading_deg: f64,
    /// Lens over the floor, standing upright.
    pub stands_m: f64,
    /// From nothing (0) to a full gimbal (1).
    pub stabiliser: f64,
}

impl Default for Shoulder {
    fn default() -> Shoulder {
        Shoulder { base_x_m: 0.0, base_z_m: 0.0, heading_deg: 0.0, stands_m: 1.62, stabiliser: 0.0 }
    }
}

/// A step, heel to heel.
const STEP_M: f64 = 0.7;
/// The pace the figures of the step belong to.
const PACE_M_S: f64 = 1.4;
/// Time in which the body falls into a pace, seconds.
const SETTLES_S: f64 = 0.35;

impl Spec for Shoulder {
    fn build(&self, camera: &Camera) -> Box<dyn Rig> {
        use AxisGroup::{Head, Machine as M};
        use Unit::{Metres, Plain, Radians};
        let height = (0.35, self.stands_m + 0.25);
        let mut axes = vec![
            axis("x", "travel", M, Metres, ANYWHERE, (2.4, 3.0), self.base_x_m),
            axis("z", "reach", M, Metres, ANYWHERE, (2.4, 3.0), self.base_z_m),
            axis("turn", "swing", M, Radians, ANYWHERE, (110.0, 260.0), self.heading_deg),
            axis("height", "height", M, Metres, height, (0.7, 1.4), self.stands_m),
            follower("walked", "boom", M, Metres, 0.0),
            follower("pace", "boom", M, Metres, 0.0),
            follower("breath", "boom", M, Plain, 0.0),
            axis("pan", "pan", Head, Radians, (-70.0, 70.0), (110.0, 320.0), 0.0),
            axis("tilt", "tilt", Head, Radians, (-70.0, 70.0), (100.0, 300.0), 0.0),
            axis("roll", "roll", Head, Radians, (-45.0, 45.0), (70.0, 220.0), 0.0),
        ];
        axes[0].hand = Some("side");
        axes[1].hand = Some("ahead");
        axes.extend(lens_axes(camera));
        let legs = 0.5 * self.stands_m;
        let bodies = vec![
            beam("leg left", 0.13, legs, Material::Cloth),
            beam("leg right", 0.13, legs, Material::Cloth),
            Body::new("body", Shape::Box { size: [0.42, 0.36 * self.stands_m, 0.24] }, Material::Cloth),
            Body::new("head", Shape::Ball { radius: 0.11 }, Material::Skin),
            camera_body(),
        ];
        Box::new(Machine { spec: self.clone(), axes, bodies })
    }

    fn word(&self) -> &'static str {
        "shoulder"
    }

    fn params(&self) -> Vec<Param> {
        let [place, heading] = base([self.base_x_m, self.base_z_m, self.heading_deg]);
        let upright = metres("stands_m", "Lens when upright", 0.8, 2.4, self.stands_m);
        let strengths = [("none", 0.0), ("light", 0.3), ("strong", 0.6), ("full gimbal", 1.0)];
        let strength = plain("stabiliser", "Stabiliser", 0.0, 1.0, self.stabiliser);
        vec![
            place,
            heading,
            Param::row("lens when upright", vec![upright]),
            Param::row("stabiliser", vec![strength])
                .presets(strengths.map(|(word, by)| Preset::new(word, vec![("stabiliser", by)])).into()),
        ]
    }

    fn placement(&self) -> Option<Placement> {
        Some(BASE)
    }

    fn put(&mut self, there: &There) {
        [self.base_x_m, self.base_z_m, self.heading_deg] = there.standing(0.0);
    }
}

struct Machine {
    spec: Shoulder,
    axes: Vec<Axis>,
    bodies: Vec<Body>,
}

impl Machine {
    /// Motion of the camera by step and breath, in the body's frame.
    fn sway(&self, walked: f64, pace: f64, breath: f64) -> Pose {
        let steps = TAU * walked / STEP_M;
        let strong = (pace / PACE_M_S).clamp(0.0, 1.8);
        let breathing = (TAU * breath / 4.0).sin();
        let lifted = 1.0 - 0.8 * self.spec.stabiliser;
        let turned = 1.0 - self.spec.stabiliser;
        let side = 0.02 * strong * (steps / 2.0).sin();
        let up = -0.02 * strong * steps.cos() + 0.003 * breathing;
        let turn = PanTiltRoll {
            pan: 0.3 * strong * (steps / 2.0).cos(),
            tilt: 0.35 * strong * (steps + 0.6).sin() + 0.12 * breathing,
            roll: 0.6 * strong * (steps / 2.0).sin(),
        };
        let share = |degrees: f64| (degrees * turned).to_radians();
        let turn = PanTiltRoll { pan: share(turn.pan), tilt: share(turn.tilt), roll: share(turn.roll) };
        Pose::new(DVec3::new(side, up, 0.0) * lifted, turn.to_rotation())
    }
}

impl Rig for Machine {
    fn axes(&self) -> &[Axis] {
        &self.axes
    }

    /// Running speed: an operator with a camera can run, but not far (*common practice, no source*).
    fn pushed_m_s(&self) -> Option<f64> {
        Some(2.5)
    }

    fn bodies(&self) -> &[Body] {
        &self.bodies
    }

    fn handles(&self) -> Vec<Handle> {
        handles::base([0, 1], 2)
    }

    fn operator_axes(&self) -> Range<usize> {
        2..3
    }

    fn forward(&self, axes: &[f64]) -> RigPose {
        let &[x, z, turn, height, walked, pace, breath, pan, tilt, roll, ..] = axes else {
            panic!("a shoulder has twelve axes")
        };
        let foot = Pose::new(DVec3::new(x, 0.0, z), heading(turn));
        let base = foot.shifted(0.0, height, 0.0).then(self.sway(walked, pace, breath));
        RigPose { camera: turned(base, [pan, tilt, roll]), carriage: foot, focus_m: None }
    }

    fn body_poses(&self, axes: &[f64]) -> Vec<Pose> {
        let &[_, _, _, height, walked, pace, ..] = axes else { panic!("a shoulder has twelve axes") };
        let RigPose { camera, carriage: foot, .. } = self.forward(axes);
        // The camera sits before the right shoulder; the body is behind it and to the left.
        let crouch = (height / self.spec.stands_m).min(1.0);
        let hip = 0.5 * self.spec.stands_m * crouch;
        let stride = 0.3 * (pace / PACE_M_S).clamp(0.0, 1.5) * (TAU * walked / STEP_M / 2.0).sin();
        let leg = |side: f64, by: f64| {
            let top = foot.shifted(side - 0.15, hip, 0.3).position;
            between(top, foot.shifted(side - 0.15, 0.0, 0.3 - by).position)
        };
        let trunk = 0.36 * self.spec.stands_m;
        vec![
            leg(-0.1, stride),
            leg(0.1, -stride),
            foot.shifted(-0.15, hip + trunk / 2.0, 0.3),
            foot.shifted(-0.15, hip + trunk + 0.14, 0.27),
            behind(camera),
        ]
    }

    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach {
        let &[_, _, turn, _, walked, pace, breath, ..] = near else { panic!("a shoulder has twelve axes") };
        let sway = self.sway(walked, pace, breath);
        let body = wanted.position - heading(turn) * sway.position;
        let height = body.y.clamp(self.axes[3].min, self.axes[3].max);
        let machine = vec![body.x, body.z, turn, height, walked, pace, breath];
        let base = (heading(turn) * sway.rotation).normalize();
        settle(self, machine, base, wanted, near, "the operator stands too low or too high")
    }

    fn tied(&self, axis: usize) -> Range<usize> {
        let place = 0..2;
        if place.contains(&axis) { place } else { axis..axis + 1 }
    }

    fn step(&self, motions: &mut [AxisMotion], hands: &[Hand], around: &Surroundings, dt: f64) {
        let place: DQuat = heading(motions[2].value);
        roam(motions, hands, &self.axes, [Some(0), None, Some(1)], place, around.walls, dt);
        for (i, axis) in self.axes.iter().enumerate().skip(2).filter(|(_, a)| a.hand.is_some()) {
            motions[i] = motions[i].step(axis, hands[i].demand, hands[i].drag_s, dt);
        }
    }

    fn derived(&self) -> Range<usize> {
        4..7
    }

    fn derive(&self, motions: &mut [AxisMotion], dt: f64) {
        let speed = motions[0].speed.hypot(motions[1].speed);
        let share = 1.0 - (-dt / SETTLES_S).exp();
        let pace = motions[5].value + (speed - motions[5].value) * share;
        for (i, value) in [(4, motions[4].value + speed * dt), (5, pace), (6, motions[6].value + dt)] {
            motions[i] = AxisMotion { value, speed: (value - motions[i].value) / dt, remaining: 0.0 };
        }
    }
}
