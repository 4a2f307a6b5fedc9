//! A dolly on wheels: pushed and steered over the floor.
//!
//! **Method.** The wheels roll and do not slip. With the rear axle steered the front axle runs
//! along the heading and the dolly turns by speed · tan(steer) / wheelbase; with round turns both
//! axles steer against each other and the middle runs along the heading, turning twice as fast;
//! crab steers all wheels the same way and the dolly keeps its heading. A step follows the arc
//! exactly. What hands move is how far is rolled and how the wheels stand; where the dolly is
//! follows from it and is recorded beside.
//!
//! The inverse may put the dolly anywhere, keeping its heading.

use super::boom_arm::BoomArm;
use super::described::{BASE, Placement, There, base, metres};
use super::handles::{self, Handle};
use super::head::{fluid_head, settle, turned};
use super::parts::{beam, behind, between, camera_body, post, slab};
use super::{ANYWHERE, Reach, Rig, RigPose, Spec, Surroundings, axis, follower, lens_axes};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::axis_motion::{AxisMotion, Hand};
use crate::lens::Camera;
use crate::params::{Invalid, Param};
use crate::solid::{Body, Material, Shape};
use crate::space::{Pose, heading};
use glam::{DQuat, DVec3};
use serde::{Deserialize, Serialize};
use std::ops::Range;
use ts_rs::TS;

/// Axle that steers.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Steering {
    /// Rear axle steers.
    Rear,
    /// All wheels the same way.
    Crab,
    /// Front and rear against each other.
    Round,
}

/// The dolly's parameters.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct FreeDolly {
    /// Place x at the start, metres.
    pub base_x_m: f64,
    /// Place z at the start, metres.
    pub base_z_m: f64,
    /// Heading at the start, degrees: 0 is −Z, positive to the right.
    pub heading_deg: f64,
    /// Axle that steers.
    pub steering: Steering,
    /// Front axle to rear axle.
    pub wheelbase_m: f64,
    /// Arm that lifts the head.
    pub arm: BoomArm,
}

impl Default for FreeDolly {
    fn default() -> FreeDolly {
        FreeDolly {
            base_x_m: 0.0,
            base_z_m: 0.0,
            heading_deg: 0.0,
            steering: Steering::Rear,
            wheelbase_m: 1.0,
            arm: BoomArm::default(),
        }
    }
}

/// Middle of a wheel to the middle of the dolly, across.
const HALF_TRACK_M: f64 = 0.3;

impl Spec for FreeDolly {
    fn build(&self, camera: &Camera) -> Box<dyn Rig> {
        use AxisGroup::Machine as M;
        use Unit::{Metres, Radians};
        let steer = if self.steering == Steering::Crab { 90.0 } else { 40.0 };
        let mut axes = vec![
            axis("rolled", "travel", M, Metres, ANYWHERE, (1.6, 0.8), 0.0),
            axis("steer", "swing", M, Radians, (-steer, steer), (70.0, 200.0), 0.0),
            self.arm.axis(),
            follower("x", "travel", M, Metres, self.base_x_m),
            follower("z", "reach", M, Metres, self.base_z_m),
            follower("turn", "swing", M, Radians, self.heading_deg),
        ];
        axes[0].hand = Some("push");
        axes.extend(fluid_head());
        axes.extend(lens_axes(camera));
        let wheel = || slab("wheel", [0.07, 0.2, 0.2], Material::DarkSteel);
        let bodies = vec![
            slab("carriage", [0.5, 0.18, self.wheelbase_m + 0.3], Material::Machine),
            post("post", 0.1, self.arm.pivot_m - 0.2, Material::Machine),
            beam("arm", 0.14, self.arm.length_m, Material::MachineArm),
            Body::new(
                "head",
                Shape::Cylinder { radius: 0.06, height: self.arm.head_m - 0.1 },
                Material::Machine,
            ),
            wheel(),
            wheel(),
            wheel(),
            wheel(),
            camera_body(),
        ];
        Box::new(Machine { spec: self.clone(), axes, bodies })
    }

    fn word(&self) -> &'static str {
        "free dolly"
    }

    fn params(&self) -> Vec<Param> {
        let ways = [("rear", "rear axle"), ("crab", "crab, all wheels"), ("round", "round, both axles")];
        let mut params = vec![Param::choice("steering", "steering", &ways)];
        params.extend(base([self.base_x_m, self.base_z_m, self.heading_deg]));
        let long = metres("wheelbase_m", "Wheelbase", 0.4, 4.0, self.wheelbase_m);
        params.push(Param::row("wheelbase", vec![long]));
        params.extend(self.arm.params());
        params
    }

    fn check(&self) -> Result<(), Invalid> {
        self.arm.check()
    }

    fn placement(&self) -> Option<Placement> {
        Some(BASE)
    }

    fn put(&mut self, there: &There) {
        [self.base_x_m, self.base_z_m, self.heading_deg] = there.standing(self.arm.length_m);
    }
}

struct Machine {
    spec: FreeDolly,
    axes: Vec<Axis>,
    bodies: Vec<Body>,
}

impl Machine {
    fn foot(x: f64, z: f64, turn: f64) -> Pose {
        Pose::new(DVec3::new(x, 0.0, z), heading(turn))
    }

    /// Positions of front and rear axle from the point that is steered about, metres, ahead positive.
    fn axles(&self) -> [f64; 2] {
        let base = self.spec.wheelbase_m;
        match self.spec.steering {
            Steering::Rear => [0.0, -base],
            Steering::Crab | Steering::Round => [base / 2.0, -base / 2.0],
        }
    }

    /// How front and rear wheels stand.
    fn wheels(&self, steer: f64) -> [f64; 2] {
        match self.spec.steering {
            Steering::Rear => [0.0, -steer],
            Steering::Crab => [steer, steer],
            Steering::Round => [steer, -steer],
        }
    }
}

impl Rig for Machine {
    fn axes(&self) -> &[Axis] {
        &self.axes
    }

    /// A walk, steering (*common practice, no source*).
    fn pushed_m_s(&self) -> Option<f64> {
        Some(1.5)
    }

    fn bodies(&self) -> &[Body] {
        &self.bodies
    }

    fn handles(&self) -> Vec<Handle> {
        handles::base([3, 4], 5)
    }

    fn operator_axes(&self) -> Range<usize> {
        0..2
    }

    /// It cannot be put back by rolling as far as it once had: it is driven there.
    fn can_be_sent(&self, axis: usize) -> bool {
        axis > 0 && self.axes[axis].hand.is_some()
    }

    /// A dolly that has rolled farther stands farther on the arc that its wheels are steered for.
    fn put(&self, axes: &mut [f64], axis: usize, value: f64) {
        if axis == 0 {
            let mut motions: Vec<AxisMotion> = axes.iter().map(|v| AxisMotion::at(*v)).collect();
            motions[0].speed = value - axes[0];
            self.derive(&mut motions, 1.0);
            for i in self.derived() {
                axes[i] = motions[i].value;
            }
        }
        axes[axis] = value;
    }

    fn forward(&self, axes: &[f64]) -> RigPose {
        let &[_, _, boom, x, z, turn, pan, tilt, roll, ..] = axes else {
            panic!("a free dolly has eleven axes")
        };
        let foot = Machine::foot(x, z, turn);
        let lens = self.spec.arm.lens(boom);
        let camera = turned(foot.shifted(lens.x, lens.y, lens.z), [pan, tilt, roll]);
        RigPose { camera, carriage: foot, focus_m: None }
    }

    fn body_poses(&self, axes: &[f64]) -> Vec<Pose> {
        let RigPose { camera, carriage: foot, .. } = self.forward(axes);
        let &[_, steer, boom, ..] = axes else { panic!("a free dolly has eleven axes") };
        let arm = &self.spec.arm;
        let end = arm.end(boom);
        let tip = foot.shifted(end.x, end.y, end.z);
        let [front, rear] = self.axles();
        let mut bodies = vec![
            foot.shifted(0.0, 0.25, -(front + rear) / 2.0),
            foot.shifted(0.0, 0.2 + (arm.pivot_m - 0.2) / 2.0, 0.0),
            between(foot.shifted(0.0, arm.pivot_m, 0.0).position, tip.position),
            tip.shifted(0.0, (arm.head_m - 0.1) / 2.0, 0.0),
        ];
        for (along, stand) in self.axles().into_iter().zip(self.wheels(steer)) {
            for across in [-HALF_TRACK_M, HALF_TRACK_M] {
                bodies.push(foot.then(Pose::new(DVec3::new(across, 0.1, -along), heading(stand))));
            }
        }
        bodies.push(behind(camera));
        bodies
    }

    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach {
        let turn = near[5];
        let boom = self.spec.arm.boom_for(wanted.position.y);
        let lens = heading(turn) * self.spec.arm.lens(boom);
        let (x, z) = (wanted.position.x - lens.x, wanted.position.z - lens.z);
        let machine = vec![near[0], near[1], boom, x, z, turn];
        settle(self, machine, heading(turn), wanted, near, "the arm is too low or too high")
    }

    fn step(&self, motions: &mut [AxisMotion], hands: &[Hand], _: &Surroundings, dt: f64) {
        for ((motion, hand), axis) in motions.iter_mut().zip(hands).zip(&self.axes) {
            if axis.hand.is_some() {
                *motion = motion.step(axis, hand.demand, hand.drag_s, dt);
            }
        }
    }

    fn derived(&self) -> Range<usize> {
        3..6
    }

    fn derive(&self, motions: &mut [AxisMotion], dt: f64) {
        let (speed, steer, turn) = (motions[0].speed, motions[1].value, motions[5].value);
        let base = self.spec.wheelbase_m;
        let (turning, course) = match self.spec.steering {
            Steering::Rear => (speed * steer.tan() / base, turn),
            Steering::Round => (speed * steer.tan() / (base / 2.0), turn),
            Steering::Crab => (0.0, turn + steer),
        };
        let bend = turning * dt;
        // The chord of an arc: shorter than it, and half way round.
        let chord = if bend.abs() < 1e-9 { 1.0 } else { (bend / 2.0).sin() / (bend / 2.0) };
        let way = DQuat::from_rotation_y(-(course + bend / 2.0)) * DVec3::NEG_Z * (speed * dt * chord);
        for (i, moved) in [(3, way.x), (4, way.z), (5, bend)] {
            motions[i] = AxisMotion { value: motions[i].value + moved, speed: moved / dt, remaining: 0.0 };
        }
    }
}
