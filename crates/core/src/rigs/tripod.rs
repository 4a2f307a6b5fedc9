//! A tripod: it stands where it stands; the column goes up and down, the fluid head turns.
//!
//! **Method.** base → column → pan → tilt → roll. The inverse finds the height; a wanted position
//! off the column is short by its distance.

use super::described::{BASE, Placement, There, base, metres, rising};
use super::head::{fluid_head, settle, turned};
use super::parts::{beam, behind, between, camera_body, post};
use super::{Reach, Rig, RigPose, Spec, axis, lens_axes};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::lens::Camera;
use crate::params::{Invalid, Param};
use crate::solid::{Body, Material};
use crate::space::{Pose, heading};
use glam::DVec3;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// The tripod's parameters.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct Tripod {
    /// Place x on the floor, metres.
    pub base_x_m: f64,
    /// Place z on the floor, metres.
    pub base_z_m: f64,
    /// Direction of the camera at pan 0, degrees: 0 is −Z, positive to the right.
    pub heading_deg: f64,
    /// Lens over the floor, column down.
    pub height_min_m: f64,
    /// Lens over the floor, column up.
    pub height_max_m: f64,
}

impl Default for Tripod {
    fn default() -> Tripod {
        let (base_x_m, base_z_m, heading_deg) = (0.0, 0.0, 0.0);
        Tripod { base_x_m, base_z_m, heading_deg, height_min_m: 1.1, height_max_m: 1.75 }
    }
}

/// Spread of the legs.
const SPREAD_M: f64 = 0.5;
/// The column's top under the lens.
const HEAD_M: f64 = 0.22;

impl Spec for Tripod {
    fn build(&self, camera: &Camera) -> Box<dyn Rig> {
        let height = (self.height_min_m, self.height_max_m);
        let start = 1.55_f64.clamp(height.0, height.1);
        let mut axes =
            vec![axis("height", "height", AxisGroup::Machine, Unit::Metres, height, (0.25, 0.6), start)];
        axes.extend(fluid_head());
        axes.extend(lens_axes(camera));
        let top = self.height_min_m - HEAD_M;
        let leg = DVec3::new(SPREAD_M, top, 0.0).length();
        let bodies = vec![
            beam("leg 1", 0.05, leg, Material::Machine),
            beam("leg 2", 0.05, leg, Material::Machine),
            beam("leg 3", 0.05, leg, Material::Machine),
            post("column", 0.035, self.height_max_m - self.height_min_m + 0.25, Material::MachineArm),
            Body::new(
                "head",
                crate::solid::Shape::Box { size: [0.16, HEAD_M - 0.08, 0.16] },
                Material::DarkSteel,
            ),
            camera_body(),
        ];
        Box::new(Machine { spec: self.clone(), axes, bodies })
    }

    fn word(&self) -> &'static str {
        "tripod"
    }

    fn params(&self) -> Vec<Param> {
        let mut params = base([self.base_x_m, self.base_z_m, self.heading_deg]).to_vec();
        params.push(Param::row(
            "lens from, to",
            vec![
                metres("height_min_m", "Lowest lens", 0.3, 4.0, self.height_min_m),
                metres("height_max_m", "Highest lens", 0.3, 4.0, self.height_max_m),
            ],
        ));
        params
    }

    fn check(&self) -> Result<(), Invalid> {
        rising("height_max_m", "a tripod's lens", self.height_min_m, self.height_max_m)
    }

    fn placement(&self) -> Option<Placement> {
        Some(BASE)
    }

    fn put(&mut self, there: &There) {
        [self.base_x_m, self.base_z_m, self.heading_deg] = there.standing(0.0);
    }
}

struct Machine {
    spec: Tripod,
    axes: Vec<Axis>,
    bodies: Vec<Body>,
}

impl Machine {
    fn foot(&self) -> Pose {
        let s = &self.spec;
        Pose::new(DVec3::new(s.base_x_m, 0.0, s.base_z_m), heading(s.heading_deg.to_radians()))
    }
}

impl Rig for Machine {
    fn axes(&self) -> &[Axis] {
        &self.axes
    }

    fn bodies(&self) -> &[Body] {
        &self.bodies
    }

    fn forward(&self, axes: &[f64]) -> RigPose {
        let &[height, pan, tilt, roll, ..] = axes else { panic!("a tripod has six axes") };
        let foot = self.foot();
        let camera = turned(foot.shifted(0.0, height, 0.0), [pan, tilt, roll]);
        RigPose { camera, carriage: foot, focus_m: None }
    }

    fn body_poses(&self, axes: &[f64]) -> Vec<Pose> {
        let &[height, pan, ..] = axes else { panic!("a tripod has six axes") };
        let RigPose { camera, carriage: foot, .. } = self.forward(axes);
        let top = self.spec.height_min_m - HEAD_M;
        let mut bodies: Vec<Pose> = (0..3)
            .map(|leg| {
                let a = std::f64::consts::TAU * f64::from(leg) / 3.0;
                let toe = foot.shifted(SPREAD_M * a.sin(), 0.0, -SPREAD_M * a.cos()).position;
                between(toe, foot.shifted(0.0, top, 0.0).position)
            })
            .collect();
        let column = self.spec.height_max_m - self.spec.height_min_m + 0.25;
        bodies.push(foot.shifted(0.0, height - HEAD_M - column / 2.0, 0.0));
        bodies.push(foot.shifted(0.0, height - HEAD_M / 2.0 - 0.05, 0.0).turned(heading(pan)));
        bodies.push(behind(camera));
        bodies
    }

    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach {
        let foot = self.foot();
        let height = wanted.position.y.clamp(self.axes[0].min, self.axes[0].max);
        settle(self, vec![height], foot.rotation, wanted, near, "the tripod stands elsewhere")
    }
}
