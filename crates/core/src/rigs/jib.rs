//! A jib: a counterweighted arm of fixed length on a column, with a head at its end.
//!
//! **Method.** As the telescopic crane without reach: base → column → swing → boom → head drop →
//! pan → tilt → roll. Seen in the vertical plane through the column the lens runs on an arc; the
//! nearest point of it is the one in the wanted direction, or an end of it.

use super::described::{
    BASE, Placement, There, base, boom, column, head_drop, head_hang, head_heading, metres, rising,
};
use super::head::{HeadHang, HeadHeading, remote_head, settle, turned};
use super::parts::{beam, behind, between, camera_body, post, slab};
use super::{ANYWHERE, Reach, Rig, RigPose, Spec, axis, lens_axes, nearest_turn};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::lens::Camera;
use crate::params::{Invalid, Param};
use crate::solid::{Body, Material};
use crate::space::{Pose, heading};
use glam::{DQuat, DVec2, DVec3};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// The jib's parameters.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct Jib {
    /// Place x of the base on the floor, metres.
    pub base_x_m: f64,
    /// Place z of the base on the floor, metres.
    pub base_z_m: f64,
    /// Direction of the arm at swing 0, degrees: 0 is −Z, positive to the right.
    pub heading_deg: f64,
    /// The arm's pivot over the floor.
    pub column_height_m: f64,
    /// Pivot to the arm's end.
    pub arm_m: f64,
    /// Lowest boom, degrees.
    pub boom_min_deg: f64,
    /// Highest boom, degrees.
    pub boom_max_deg: f64,
    /// The lens hangs this far under the arm's end.
    pub head_drop_m: f64,
    /// Level or leaning.
    pub head: HeadHang,
    /// With the arm, or not.
    pub head_heading: HeadHeading,
}

impl Default for Jib {
    fn default() -> Jib {
        Jib {
            base_x_m: 0.0,
            base_z_m: 0.0,
            heading_deg: 0.0,
            column_height_m: 1.3,
            arm_m: 2.7,
            boom_min_deg: -25.0,
            boom_max_deg: 45.0,
            head_drop_m: 0.4,
            head: HeadHang::Level,
            head_heading: HeadHeading::Arm,
        }
    }
}

impl Spec for Jib {
    fn build(&self, camera: &Camera) -> Box<dyn Rig> {
        use AxisGroup::Machine as M;
        let boom = (self.boom_min_deg, self.boom_max_deg);
        let start = 10.0_f64.clamp(boom.0, boom.1);
        // Speeds of what one grip moves with ease (common practice, no source).
        let mut axes = vec![
            axis("swing", "swing", M, Unit::Radians, ANYWHERE, (45.0, 40.0), 0.0),
            axis("boom", "boom", M, Unit::Radians, boom, (28.0, 30.0), start),
        ];
        axes.extend(remote_head());
        axes.extend(lens_axes(camera));
        let bodies = vec![
            slab("base", [1.0, 0.14, 1.0], Material::DarkSteel),
            post("column", 0.09, self.column_height_m - 0.14, Material::Machine),
            beam("arm", 0.14, self.arm_m + self.tail_m(), Material::MachineArm),
            slab("counterweight", [0.34, 0.34, 0.4], Material::DarkSteel),
            slab("head", [0.1, self.head_drop_m.max(0.05), 0.1], Material::Machine),
            camera_body(),
        ];
        Box::new(Machine { spec: self.clone(), axes, bodies })
    }

    fn word(&self) -> &'static str {
        "jib"
    }

    fn params(&self) -> Vec<Param> {
        let mut params = vec![head_hang(), head_heading()];
        params.extend(base([self.base_x_m, self.base_z_m, self.heading_deg]));
        params.extend([
            column(self.column_height_m),
            Param::row("arm", vec![metres("arm_m", "Arm length", 0.5, 12.0, self.arm_m)]),
            boom(["boom_min_deg", "boom_max_deg"], self.boom_min_deg, self.boom_max_deg),
            head_drop(self.head_drop_m),
        ]);
        params
    }

    fn check(&self) -> Result<(), Invalid> {
        rising("boom_max_deg", "the boom", self.boom_min_deg, self.boom_max_deg)
    }

    fn placement(&self) -> Option<Placement> {
        Some(BASE)
    }

    fn put(&mut self, there: &There) {
        [self.base_x_m, self.base_z_m, self.heading_deg] = there.standing(self.arm_m);
    }
}

impl Jib {
    fn tail_m(&self) -> f64 {
        0.35 * self.arm_m + 0.2
    }
}

struct Machine {
    spec: Jib,
    axes: Vec<Axis>,
    bodies: Vec<Body>,
}

impl Machine {
    fn pivot(&self) -> Pose {
        let s = &self.spec;
        Pose::new(DVec3::new(s.base_x_m, s.column_height_m, s.base_z_m), heading(s.heading_deg.to_radians()))
    }

    /// The boom whose lens is nearest to a place in the arm's plane.
    fn boom_towards(&self, point: DVec2) -> f64 {
        let s = &self.spec;
        let boom = match s.head {
            HeadHang::Level => (point.y + s.head_drop_m).atan2(point.x),
            HeadHang::Lean => point.y.atan2(point.x) + s.head_drop_m.atan2(s.arm_m),
        };
        boom.clamp(self.axes[1].min, self.axes[1].max)
    }

    /// Pose of the head as it hangs.
    fn hung(&self, swing: f64, boom: f64) -> Pose {
        let level = self.pivot().turned(heading(swing));
        let arm = level.turned(DQuat::from_rotation_x(boom));
        let end = arm.shifted(0.0, 0.0, -self.spec.arm_m);
        let hung = match self.spec.head {
            HeadHang::Level => Pose { position: end.position, rotation: level.rotation },
            HeadHang::Lean => end,
        };
        hung.shifted(0.0, -self.spec.head_drop_m, 0.0)
    }

    /// Pose that the head's axes turn on.
    fn head_base(&self, swing: f64, boom: f64) -> Pose {
        let (s, hung) = (&self.spec, self.hung(swing, boom));
        let put_up = self.pivot().rotation;
        Pose { rotation: s.head_heading.base(hung.rotation, s.head, boom, put_up), ..hung }
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
        let &[swing, boom, pan, tilt, roll, ..] = axes else { panic!("a jib has seven axes") };
        let pivot = self.pivot();
        let foot = Pose { position: pivot.position.with_y(0.0), rotation: pivot.rotation };
        RigPose {
            camera: turned(self.head_base(swing, boom), [pan, tilt, roll]),
            carriage: foot,
            focus_m: None,
        }
    }

    fn body_poses(&self, axes: &[f64]) -> Vec<Pose> {
        let &[swing, boom, ..] = axes else { panic!("a jib has seven axes") };
        let RigPose { camera, carriage: foot, .. } = self.forward(axes);
        let s = &self.spec;
        let level = self.pivot().turned(heading(swing));
        let arm = level.turned(DQuat::from_rotation_x(boom));
        let [tail, tip] = [s.tail_m(), -s.arm_m].map(|z| arm.shifted(0.0, 0.0, z).position);
        vec![
            foot.shifted(0.0, 0.07, 0.0),
            foot.shifted(0.0, 0.14 + (s.column_height_m - 0.14) / 2.0, 0.0),
            between(tail, tip),
            arm.shifted(0.0, 0.0, s.tail_m() - 0.1),
            self.hung(swing, boom).shifted(0.0, s.head_drop_m / 2.0, 0.0),
            behind(camera),
        ]
    }

    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach {
        let pivot = self.pivot();
        let local = pivot.rotation.conjugate() * (wanted.position - pivot.position);
        let away = local.x.hypot(local.z);
        let swing = if away > 1e-12 { nearest_turn(local.x.atan2(-local.z), near[0]) } else { near[0] };
        let boom = self.boom_towards(DVec2::new(away, local.y));
        let base = self.head_base(swing, boom).rotation;
        settle(self, vec![swing, boom], base, wanted, near, "the arm's length is fixed")
    }
}
