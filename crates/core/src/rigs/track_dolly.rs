//! A dolly on track: a carriage that travels, an arm that booms, a head.
//!
//! **Method.** place on the track → heading and slope → arm → pan → tilt → roll. The carriage
//! leans with the slope. The inverse looks along the track for the travel from which the arm comes
//! nearest ([`Line::nearest`]), the boom being known for each travel.

use super::boom_arm::BoomArm;
use super::described::{FAR, Placement, TRACK, There, degrees};
use super::dolly_track::{DollyTrack, GAUGE_M};
use super::head::{fluid_head, settle, turned};
use super::parts::{beam, behind, between, camera_body, post, slab};
use super::{Reach, Rig, RigPose, Spec, axis, lens_axes};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::lens::Camera;
use crate::line::Line;
use crate::params::{Invalid, Param};
use crate::solid::{Body, Material, Solid};
use crate::space::{PanTiltRoll, Pose, heading};
use glam::DVec3;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// The dolly's parameters.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct TrackDolly {
    /// What it runs on.
    pub track: DollyTrack,
    /// The arm points this far to the right of where the track goes.
    pub arm_heading_deg: f64,
    /// What lifts the head.
    pub arm: BoomArm,
}

impl Spec for TrackDolly {
    fn build(&self, camera: &Camera) -> Box<dyn Rig> {
        let line = self.track.line();
        let whole = (0.0, line.length());
        let mut axes = vec![
            axis("travel", "travel", AxisGroup::Machine, Unit::Metres, whole, (2.0, 0.9), 0.0),
            self.arm.axis(),
        ];
        axes.extend(fluid_head());
        axes.extend(lens_axes(camera));
        let bodies = vec![
            slab("carriage", [GAUGE_M + 0.1, 0.16, 1.3], Material::DarkSteel),
            post("post", 0.1, self.arm.pivot_m - 0.1, Material::Machine),
            beam("arm", 0.14, self.arm.length_m, Material::MachineArm),
            post("head", 0.06, self.arm.head_m - 0.1, Material::Machine),
            camera_body(),
        ];
        Box::new(Machine { spec: self.clone(), line, axes, bodies })
    }

    fn word(&self) -> &'static str {
        "track dolly"
    }

    fn params(&self) -> Vec<Param> {
        let turned = degrees("arm_heading_deg", "Arm heading", -FAR, FAR, self.arm_heading_deg);
        let mut params = self.track.params().to_vec();
        params.push(Param::row("arm to the right of track", vec![turned]));
        params.extend(self.arm.params());
        params
    }

    fn check(&self) -> Result<(), Invalid> {
        self.track.check()?;
        self.arm.check()
    }

    fn placement(&self) -> Option<Placement> {
        Some(TRACK)
    }

    /// Beside the camera's view, the arm across the track, half the track on each side.
    fn put(&mut self, there: &There) {
        [self.track.x_m, self.track.z_m] = there.at(-0.9, -3.66);
        self.track.heading_deg = there.pan_deg() + 90.0;
        self.arm_heading_deg = -90.0;
    }
}

/// The pose of a carriage on a line: turned and leaning with it, never to the side.
pub(super) fn carriage(line: &Line, travel: f64) -> Pose {
    let place = line.at(travel);
    let t = place.tangent;
    let turn = PanTiltRoll { pan: t.x.atan2(-t.z), tilt: t.y.atan2(t.x.hypot(t.z)), roll: 0.0 };
    Pose::new(place.position, turn.to_rotation())
}

struct Machine {
    spec: TrackDolly,
    line: Line,
    axes: Vec<Axis>,
    bodies: Vec<Body>,
}

impl Machine {
    /// The carriage with the arm's direction.
    fn turntable(&self, travel: f64) -> Pose {
        let turn = heading(self.spec.arm_heading_deg.to_radians());
        carriage(&self.line, travel).turned(turn)
    }

    /// The boom that comes nearest to a place from a travel.
    fn boom(&self, travel: f64, wanted: DVec3) -> f64 {
        let table = self.turntable(travel);
        let local = table.rotation.conjugate() * (wanted - table.position);
        self.spec.arm.boom_towards(-local.z, local.y)
    }
}

impl Rig for Machine {
    fn axes(&self) -> &[Axis] {
        &self.axes
    }

    /// A quick walk beside the track (*common practice, no source*).
    fn pushed_m_s(&self) -> Option<f64> {
        Some(2.0)
    }

    fn bodies(&self) -> &[Body] {
        &self.bodies
    }

    fn fixed(&self) -> Vec<Solid> {
        self.spec.track.solids(&self.line)
    }

    fn line(&self) -> Option<&Line> {
        Some(&self.line)
    }

    fn forward(&self, axes: &[f64]) -> RigPose {
        let &[travel, boom, pan, tilt, roll, ..] = axes else { panic!("a track dolly has seven axes") };
        let lens = self.spec.arm.lens(boom);
        let camera = turned(self.turntable(travel).shifted(lens.x, lens.y, lens.z), [pan, tilt, roll]);
        RigPose { camera, carriage: carriage(&self.line, travel), focus_m: None }
    }

    fn body_poses(&self, axes: &[f64]) -> Vec<Pose> {
        let &[travel, boom, ..] = axes else { panic!("a track dolly has seven axes") };
        let RigPose { camera, carriage, .. } = self.forward(axes);
        let arm = &self.spec.arm;
        let table = self.turntable(travel);
        let pivot = table.shifted(0.0, arm.pivot_m, 0.0).position;
        let end = arm.end(boom);
        let tip = table.shifted(end.x, end.y, end.z);
        vec![
            carriage.shifted(0.0, 0.1, 0.0),
            table.shifted(0.0, 0.1 + (arm.pivot_m - 0.1) / 2.0, 0.0),
            between(pivot, tip.position),
            tip.shifted(0.0, (arm.head_m - 0.1) / 2.0, 0.0),
            behind(camera),
        ]
    }

    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach {
        let travel = self.line.nearest(|travel| {
            let lens = self.spec.arm.lens(self.boom(travel, wanted.position));
            self.turntable(travel).shifted(lens.x, lens.y, lens.z).position - wanted.position
        });
        let boom = self.boom(travel, wanted.position);
        let base = self.turntable(travel).rotation;
        settle(self, vec![travel, boom], base, wanted, near, "the track leads elsewhere")
    }
}
