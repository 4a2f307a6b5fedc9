//! A camera and a point it aims at, both on a common root.
//!
//! **Method.** root → camera, root → aim point; the camera is turned from the root's heading
//! towards the aim point by a share of the way (slerp), then by pan, tilt and roll. When the aim
//! point follows somebody it is measured from their eyes instead of the root. Focus may be pulled
//! to the aim point by the rig itself. The inverse keeps root and aim point.

use super::described::{BASE, Placement, There, base, plain, triple};
use super::handles::{self, Handle};
use super::head::{looking, settle, turned};
use super::parts::{behind, camera_body};
use super::{
    ANYWHERE, Reach, Rig, RigPose, Spec, Surroundings, axis, lens_axes, subject_axes, write_subject,
};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::axis_motion::AxisMotion;
use crate::ids::PerformerId;
use crate::lens::{Camera, FOCUS_FAR_M};
use crate::params::Param;
use crate::solid::{Body, Material, Shape};
use crate::space::{Pose, heading};
use glam::{DQuat, DVec3};
use serde::{Deserialize, Serialize};
use std::ops::Range;
use ts_rs::TS;

/// The rig's parameters.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct AimRig {
    /// Place x of the root at the start, metres.
    pub base_x_m: f64,
    /// Place z of the root at the start, metres.
    pub base_z_m: f64,
    /// Heading of the root, degrees: 0 is −Z, positive to the right.
    pub heading_deg: f64,
    /// Place of the camera at the start, from the root, metres.
    pub camera_m: [f64; 3],
    /// Place of the aim point at the start, from the root or from the followed performer's eyes, metres.
    pub aim_m: [f64; 3],
    /// Share of the turn to the aim point: 0 not at all, 1 all the way.
    pub strength: f64,
    /// Focus stays on the aim point.
    pub focus_follows: bool,
    /// Id of the performer whom the aim point follows; none for nobody.
    pub follows: Option<PerformerId>,
}

impl Default for AimRig {
    fn default() -> AimRig {
        AimRig {
            base_x_m: 0.0,
            base_z_m: 0.0,
            heading_deg: 0.0,
            camera_m: [0.0, 1.6, 2.0],
            aim_m: [0.0, 1.5, -2.0],
            strength: 1.0,
            focus_follows: true,
            follows: None,
        }
    }
}

impl Spec for AimRig {
    fn build(&self, camera: &Camera) -> Box<dyn Rig> {
        use AxisGroup::{Head, Machine as M};
        use Unit::{Metres, Radians};
        let [[cx, cy, cz], [ax, ay, az]] = [self.camera_m, self.aim_m];
        let carried = (1.5, 2.0);
        let mut axes = vec![
            axis("camera x", "travel", M, Metres, ANYWHERE, carried, cx),
            axis("camera y", "height", M, Metres, ANYWHERE, carried, cy),
            axis("camera z", "reach", M, Metres, ANYWHERE, carried, cz),
            axis("aim x", "pan", M, Metres, ANYWHERE, (2.0, 3.0), ax),
            axis("aim y", "tilt", M, Metres, ANYWHERE, (2.0, 3.0), ay),
            axis("aim z", "roll", M, Metres, ANYWHERE, (2.0, 3.0), az),
            axis("root x", "boom", M, Metres, ANYWHERE, (1.5, 1.5), self.base_x_m),
            axis("root z", "iris", M, Metres, ANYWHERE, (1.5, 1.5), self.base_z_m),
            axis("root turn", "swing", M, Radians, ANYWHERE, (60.0, 60.0), self.heading_deg),
        ];
        if self.follows.is_some() {
            axes.extend(subject_axes());
        }
        let head = axes.len();
        axes.extend([
            axis("pan", "pan", Head, Radians, ANYWHERE, (90.0, 240.0), 0.0),
            axis("tilt", "tilt", Head, Radians, (-90.0, 90.0), (90.0, 240.0), 0.0),
            axis("roll", "roll", Head, Radians, ANYWHERE, (90.0, 240.0), 0.0),
        ]);
        axes.extend(lens_axes(camera));
        let closest = camera.closest_focus_m;
        let bodies =
            vec![Body::new("aim point", Shape::Ball { radius: 0.07 }, Material::Signal), camera_body()];
        Box::new(Machine { spec: self.clone(), closest, head, axes, bodies })
    }

    fn word(&self) -> &'static str {
        "aim rig"
    }

    fn params(&self) -> Vec<Param> {
        let mut params = vec![
            Param::who("follows", "aim goes with", "the root", ("aim_m", AimRig::default().aim_m)),
            Param::switch("focus_follows", "focus stays on the aim"),
        ];
        params.extend(base([self.base_x_m, self.base_z_m, self.heading_deg]));
        params.extend([
            triple("camera from root", "Camera", ["camera_m/0", "camera_m/1", "camera_m/2"], self.camera_m),
            triple("aim point", "Aim", ["aim_m/0", "aim_m/1", "aim_m/2"], self.aim_m),
            Param::row("aim strength", vec![plain("strength", "Aim strength", 0.0, 1.0, self.strength)]),
        ]);
        params
    }

    fn placement(&self) -> Option<Placement> {
        Some(BASE)
    }

    fn put(&mut self, there: &There) {
        [self.base_x_m, self.base_z_m, self.heading_deg] = there.standing(-self.camera_m[2]);
    }
}

struct Machine {
    spec: AimRig,
    closest: f64,
    /// Index of the head's first axis.
    head: usize,
    axes: Vec<Axis>,
    bodies: Vec<Body>,
}

impl Machine {
    fn root(axes: &[f64]) -> Pose {
        Pose::new(DVec3::new(axes[6], 0.0, axes[7]), heading(axes[8]))
    }

    fn aim_point(&self, axes: &[f64]) -> DVec3 {
        let own = DVec3::new(axes[3], axes[4], axes[5]);
        match axes[9..self.head] {
            [x, y, z] => DVec3::new(x, y, z) + own,
            _ => {
                let root = Machine::root(axes);
                root.position + root.rotation * own
            }
        }
    }

    fn base(&self, axes: &[f64]) -> Pose {
        let root = Machine::root(axes);
        let lens = root.position + root.rotation * DVec3::new(axes[0], axes[1], axes[2]);
        let aimed = looking(lens, self.aim_point(axes), root.rotation);
        Pose::new(lens, root.rotation.slerp(aimed, self.spec.strength).normalize())
    }
}

impl Rig for Machine {
    fn axes(&self) -> &[Axis] {
        &self.axes
    }

    fn bodies(&self) -> &[Body] {
        &self.bodies
    }

    fn is_solid(&self, body: usize) -> bool {
        body > 0
    }

    fn follows(&self) -> Option<PerformerId> {
        self.spec.follows
    }

    fn handles(&self) -> Vec<Handle> {
        let mut all = handles::base([6, 7], 8);
        all.push(handles::aim(3..6));
        all
    }

    fn aim(&self, axes: &[f64]) -> Option<DVec3> {
        Some(self.aim_point(axes))
    }

    fn operator_axes(&self) -> Range<usize> {
        3..9
    }

    fn forward(&self, axes: &[f64]) -> RigPose {
        let &[pan, tilt, roll, ..] = &axes[self.head..] else { panic!("an aim rig has a head") };
        let aim = self.aim_point(axes);
        let camera = turned(self.base(axes), [pan, tilt, roll]);
        let away = camera.position.distance(aim).clamp(self.closest, FOCUS_FAR_M);
        RigPose { camera, carriage: Machine::root(axes), focus_m: self.spec.focus_follows.then_some(away) }
    }

    fn body_poses(&self, axes: &[f64]) -> Vec<Pose> {
        let aim = Pose { position: self.aim_point(axes), rotation: DQuat::IDENTITY };
        vec![aim, behind(self.forward(axes).camera)]
    }

    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach {
        let root = Machine::root(near);
        let mut machine = near[..self.head].to_vec();
        let camera = root.rotation.conjugate() * (wanted.position - root.position);
        machine[..3].copy_from_slice(&camera.to_array());
        let base = self.base(&machine).rotation;
        settle(self, machine, base, wanted, near, "nothing stops it")
    }

    fn write_surroundings(&self, motions: &mut [AxisMotion], around: &Surroundings) {
        write_subject(&mut motions[9..self.head], around);
    }
}
