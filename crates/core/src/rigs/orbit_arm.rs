//! An arm that circles a point, and looks at it.
//!
//! **Method.** pivot → swing → radius and height → look at the pivot → pan, tilt, roll. The pivot
//! is a place of its own that travels too; when it follows somebody, it is measured from their
//! eyes. The inverse keeps the pivot and finds swing, radius and height, which are the cylinder
//! coordinates of the wanted position around it.

use super::described::{FAR, There, cm, degrees, metres, rising, triple};
use super::handles::{Grip, Handle};
use super::head::{fluid_head, looking, settle, turned};
use super::parts::{beam, behind, between, camera_body, post};
use super::{
    ANYWHERE, Reach, Rig, RigPose, Spec, Surroundings, axis, lens_axes, nearest_turn, subject_axes,
    write_subject,
};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::axis_motion::AxisMotion;
use crate::ids::PerformerId;
use crate::lens::Camera;
use crate::params::{Invalid, Param};
use crate::solid::{Body, Material};
use crate::space::{Pose, heading};
use glam::{DQuat, DVec3};
use serde::{Deserialize, Serialize};
use std::ops::Range;
use ts_rs::TS;

/// The arm's parameters.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct OrbitArm {
    /// Place of the pivot at the start, metres; from the followed performer's eyes if there is one.
    pub pivot_m: [f64; 3],
    /// Direction of the camera from the pivot at swing 0, degrees: 0 is −Z, positive to the right.
    pub heading_deg: f64,
    /// Shortest radius.
    pub radius_min_m: f64,
    /// Longest radius.
    pub radius_max_m: f64,
    /// Id of the performer whom the pivot follows; none for nobody.
    pub follows: Option<PerformerId>,
}

impl Default for OrbitArm {
    fn default() -> OrbitArm {
        OrbitArm {
            pivot_m: [0.0, 1.5, 0.0],
            heading_deg: 180.0,
            radius_min_m: 0.6,
            radius_max_m: 6.0,
            follows: None,
        }
    }
}

impl Spec for OrbitArm {
    fn build(&self, camera: &Camera) -> Box<dyn Rig> {
        use AxisGroup::Machine as M;
        use Unit::{Metres, Radians};
        let radius = (self.radius_min_m, self.radius_max_m);
        let start = 2.6_f64.clamp(radius.0, radius.1);
        let [x, y, z] = self.pivot_m;
        let mut axes = vec![
            axis("swing", "swing", M, Radians, ANYWHERE, (50.0, 40.0), 0.0),
            axis("height", "height", M, Metres, (-3.0, 6.0), (0.8, 0.9), 0.0),
            axis("radius", "reach", M, Metres, radius, (1.0, 0.9), start),
            axis("pivot x", "travel", M, Metres, ANYWHERE, (1.4, 1.2), x),
            axis("pivot z", "boom", M, Metres, ANYWHERE, (1.4, 1.2), z),
            axis("pivot y", "iris", M, Metres, ANYWHERE, (0.8, 0.8), y),
        ];
        if self.follows.is_some() {
            axes.extend(subject_axes());
        }
        let head = axes.len();
        axes.extend(fluid_head());
        axes.extend(lens_axes(camera));
        let bodies = vec![
            post("pivot", 0.05, 0.3, Material::Signal),
            beam("orbit arm", 0.09, self.radius_min_m, Material::MachineArm),
            camera_body(),
        ];
        Box::new(Machine { spec: self.clone(), head, axes, bodies })
    }

    fn word(&self) -> &'static str {
        "orbit arm"
    }

    fn params(&self) -> Vec<Param> {
        let heading = degrees("heading_deg", "Heading", -FAR, FAR, self.heading_deg);
        vec![
            Param::who("follows", "pivot goes with", "nobody", ("pivot_m", OrbitArm::default().pivot_m)),
            triple("pivot", "Pivot", ["pivot_m/0", "pivot_m/1", "pivot_m/2"], self.pivot_m),
            Param::row("camera at swing 0", vec![heading]),
            Param::row(
                "radius from, to",
                vec![
                    metres("radius_min_m", "Shortest radius", 0.2, 40.0, self.radius_min_m),
                    metres("radius_max_m", "Longest radius", 0.2, 40.0, self.radius_max_m),
                ],
            ),
        ]
    }

    fn check(&self) -> Result<(), Invalid> {
        rising("radius_max_m", "the radius", self.radius_min_m, self.radius_max_m)
    }

    fn put(&mut self, there: &There) {
        let [x, z] = there.at(2.6, 0.0);
        (self.pivot_m, self.heading_deg) = ([x, cm(there.position.y), z], there.pan_deg() + 180.0);
    }
}

struct Machine {
    spec: OrbitArm,
    /// Index of the head's first axis.
    head: usize,
    axes: Vec<Axis>,
    bodies: Vec<Body>,
}

impl Machine {
    fn pivot(&self, axes: &[f64]) -> DVec3 {
        let own = DVec3::new(axes[3], axes[5], axes[4]);
        match axes[6..self.head] {
            [x, y, z] => own + DVec3::new(x, y, z),
            _ => own,
        }
    }

    /// Direction of the arm from the pivot.
    fn out(&self, swing: f64) -> DQuat {
        heading(self.spec.heading_deg.to_radians() + swing)
    }

    fn base(&self, axes: &[f64]) -> Pose {
        let &[swing, height, radius, ..] = axes else { panic!("an orbit arm has eleven axes") };
        let pivot = self.pivot(axes);
        let lens = pivot + self.out(swing) * DVec3::new(0.0, 0.0, -radius) + DVec3::new(0.0, height, 0.0);
        Pose::new(lens, looking(lens, pivot, DQuat::IDENTITY))
    }
}

impl Rig for Machine {
    fn axes(&self) -> &[Axis] {
        &self.axes
    }

    fn bodies(&self) -> &[Body] {
        &self.bodies
    }

    fn follows(&self) -> Option<PerformerId> {
        self.spec.follows
    }

    fn goes_round(&self) -> Option<PerformerId> {
        self.spec.follows
    }

    /// The mark of the pivot is only drawn.
    fn is_solid(&self, body: usize) -> bool {
        body != 0
    }

    fn handles(&self) -> Vec<Handle> {
        vec![Handle { word: "pivot", grip: Grip::Base { axes: vec![3, 4, 5] } }]
    }

    fn operator_axes(&self) -> Range<usize> {
        3..6
    }

    fn forward(&self, axes: &[f64]) -> RigPose {
        let &[pan, tilt, roll, ..] = &axes[self.head..] else { panic!("an orbit arm has a head") };
        let camera = turned(self.base(axes), [pan, tilt, roll]);
        let foot = Pose { position: self.pivot(axes), rotation: self.out(axes[0]) };
        RigPose { camera, carriage: foot, focus_m: None }
    }

    fn body_poses(&self, axes: &[f64]) -> Vec<Pose> {
        let (base, pivot) = (self.base(axes), self.pivot(axes));
        let under = base.position - DVec3::new(0.0, 0.14, 0.0);
        let inwards = (pivot.with_y(under.y) - under).normalize_or(DVec3::NEG_Z);
        vec![
            Pose { position: pivot, rotation: DQuat::IDENTITY },
            between(under, under + inwards * self.spec.radius_min_m),
            behind(self.forward(axes).camera),
        ]
    }

    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach {
        let local = wanted.position - self.pivot(near);
        let away = local.x.hypot(local.z);
        let bearing = local.x.atan2(-local.z) - self.spec.heading_deg.to_radians();
        let swing = if away > 1e-12 { nearest_turn(bearing, near[0]) } else { near[0] };
        let [_, height, radius, ..] = &self.axes[..] else { unreachable!("an orbit arm has these") };
        let mut machine = near[..self.head].to_vec();
        machine[0] = swing;
        machine[1] = local.y.clamp(height.min, height.max);
        machine[2] = away.clamp(radius.min, radius.max);
        let base = self.base(&machine).rotation;
        settle(self, machine, base, wanted, near, "the pivot is elsewhere")
    }

    fn write_surroundings(&self, motions: &mut [AxisMotion], around: &Surroundings) {
        write_subject(&mut motions[6..self.head], around);
    }
}
