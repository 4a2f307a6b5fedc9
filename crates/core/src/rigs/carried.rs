//! A machine carried by something that moves: a tram, a performer, another machine's carriage.
//!
//! **Method.** Six axes that nobody drives say where the carrier is; the machine stands in its
//! frame. They are recorded with the others, so that a take knows what carried it.

use super::{BuiltHandle, Handle, Reach, Rig, RigPose, RigSpec, Surroundings, follower, nearest_turn};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::axis_motion::{AxisMotion, Hand};
use crate::carrier::Carrier;
use crate::ids::PerformerId;
use crate::lens::Camera;
use crate::line::Line;
use crate::solid::{Body, Solid};
use crate::space::Pose;
use glam::DVec3;
use serde::{Deserialize, Serialize};
use std::ops::Range;
use ts_rs::TS;

/// A machine and what carries it, as they are kept.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Rigging {
    /// Machine with its parameters.
    #[serde(flatten)]
    pub spec: RigSpec,
    /// Carrier of the machine; none for the floor.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub carried: Option<Carrier>,
}

impl From<RigSpec> for Rigging {
    fn from(spec: RigSpec) -> Rigging {
        Rigging { spec, carried: None }
    }
}

impl Rigging {
    /// The machine, ready to be moved.
    pub fn build(&self, camera: &Camera) -> Box<dyn Rig> {
        let rig = self.spec.build(camera);
        if self.carried.is_none() {
            return rig;
        }
        let place = ["carrier x", "carrier y", "carrier z"]
            .map(|name| follower(name, "travel", AxisGroup::Carrier, Unit::Metres, 0.0));
        let turn = ["carrier pan", "carrier tilt", "carrier roll"]
            .map(|name| follower(name, "pan", AxisGroup::Carrier, Unit::Radians, 0.0));
        let axes = place.into_iter().chain(turn).chain(rig.axes().iter().cloned()).collect();
        let fixed = rig.fixed();
        let bodies = fixed.iter().map(|s| s.body.clone()).chain(rig.bodies().iter().cloned()).collect();
        Box::new(Carried { rig, fixed, axes, bodies })
    }

    /// Handles that change parameters. What is carried stands in its carrier's frame, which moves: its parameters
    /// are typed.
    pub fn handles(&self) -> Vec<BuiltHandle> {
        if self.carried.is_some() { Vec::new() } else { self.spec.handles() }
    }
}

/// Number of axes for the carrier's pose.
const CARRIER: usize = 6;

struct Carried {
    rig: Box<dyn Rig>,
    fixed: Vec<Solid>,
    axes: Vec<Axis>,
    bodies: Vec<Body>,
}

impl Carried {
    fn carrier(axes: &[f64]) -> Pose {
        Pose::from_numbers(std::array::from_fn(|k| axes[k]))
    }

    /// Surroundings as the carried machine sees them.
    fn within<'a>(around: &Surroundings<'a>) -> Surroundings<'a> {
        let carrier = around.carrier.unwrap_or(Pose::ORIGIN).inverse();
        let subject = around.subject.map(|s| carrier.position + carrier.rotation * s);
        // Walls pass by; what is carried does not run into them by itself.
        let device = around.device.map(|d| carrier.then(d));
        Surroundings { carrier: None, subject, device, walls: &[] }
    }
}

impl Rig for Carried {
    fn axes(&self) -> &[Axis] {
        &self.axes
    }

    fn bodies(&self) -> &[Body] {
        &self.bodies
    }

    fn is_solid(&self, body: usize) -> bool {
        body.checked_sub(self.fixed.len()).is_none_or(|own| self.rig.is_solid(own))
    }

    fn line(&self) -> Option<&Line> {
        self.rig.line()
    }

    fn follows(&self) -> Option<PerformerId> {
        self.rig.follows()
    }

    fn handles(&self) -> Vec<Handle> {
        let shifted = |h: Handle| Handle { grip: h.grip.shifted(CARRIER), ..h };
        self.rig.handles().into_iter().map(shifted).collect()
    }

    fn aim(&self, axes: &[f64]) -> Option<DVec3> {
        let carrier = Carried::carrier(axes);
        self.rig.aim(&axes[CARRIER..]).map(|at| carrier.position + carrier.rotation * at)
    }

    fn operator_axes(&self) -> Range<usize> {
        let own = self.rig.operator_axes();
        own.start + CARRIER..own.end + CARRIER
    }

    fn tied(&self, axis: usize) -> Range<usize> {
        if axis < CARRIER {
            return axis..axis + 1;
        }
        let own = self.rig.tied(axis - CARRIER);
        own.start + CARRIER..own.end + CARRIER
    }

    fn can_be_sent(&self, axis: usize) -> bool {
        axis >= CARRIER && self.rig.can_be_sent(axis - CARRIER)
    }

    fn put(&self, axes: &mut [f64], axis: usize, value: f64) {
        if axis < CARRIER {
            axes[axis] = value;
        } else {
            self.rig.put(&mut axes[CARRIER..], axis - CARRIER, value);
        }
    }

    fn forward(&self, axes: &[f64]) -> RigPose {
        let carrier = Carried::carrier(axes);
        let own = self.rig.forward(&axes[CARRIER..]);
        RigPose {
            camera: carrier.then(own.camera),
            carriage: carrier.then(own.carriage),
            focus_m: own.focus_m,
        }
    }

    fn body_poses(&self, axes: &[f64]) -> Vec<Pose> {
        let carrier = Carried::carrier(axes);
        let own = self.rig.body_poses(&axes[CARRIER..]);
        self.fixed.iter().map(|s| s.pose).chain(own).map(|pose| carrier.then(pose)).collect()
    }

    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach {
        let with = |axes: Vec<f64>| [&near[..CARRIER], &axes].concat();
        let local = Carried::carrier(near).inverse().then(wanted);
        match self.rig.inverse(local, &near[CARRIER..]) {
            Reach::Within(axes) => Reach::Within(with(axes)),
            Reach::Short { nearest, shortfall_m, limits } => {
                Reach::Short { nearest: with(nearest), shortfall_m, limits }
            }
        }
    }

    fn step(&self, motions: &mut [AxisMotion], hands: &[Hand], around: &Surroundings, dt: f64) {
        self.rig.step(&mut motions[CARRIER..], &hands[CARRIER..], &Carried::within(around), dt);
    }

    fn derived(&self) -> Range<usize> {
        let own = self.rig.derived();
        own.start + CARRIER..own.end + CARRIER
    }

    fn derive(&self, motions: &mut [AxisMotion], dt: f64) {
        self.rig.derive(&mut motions[CARRIER..], dt);
    }

    fn write_surroundings(&self, motions: &mut [AxisMotion], around: &Surroundings) {
        if let Some(carrier) = around.carrier {
            for (i, (motion, value)) in motions.iter_mut().zip(carrier.to_numbers()).enumerate() {
                *motion = AxisMotion::at(if i == 3 { nearest_turn(value, motion.value) } else { value });
            }
        }
        self.rig.write_surroundings(&mut motions[CARRIER..], &Carried::within(around));
    }
}
