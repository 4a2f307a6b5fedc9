//! A rail bent through a few points, and a carriage on it.
//!
//! **Method.** travel → place on the line → lens over it → base orientation → pan, tilt, roll. The
//! base faces along the rail, holds its heading, or aims at a point that hands move (or that goes
//! with somebody's eyes); the head turns on top of that. A carriage never leans to the side. The inverse looks along the
//! rail for the nearest travel.

use super::described::{There, cm, metres, sane};
use super::handles::{self, BuiltHandle, Handle, HandleLook, Sets};
use super::head::{fluid_head, looking, settle, turned};
use super::parts::{behind, camera_body, post, slab, strut};
use super::track_dolly::carriage;
use super::{
    ANYWHERE, Reach, Rig, RigPose, Spec, Surroundings, axis, lens_axes, subject_axes, write_subject,
};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::axis_motion::AxisMotion;
use crate::ids::PerformerId;
use crate::lens::Camera;
use crate::line::Line;
use crate::line::spline::{RailPoint, through};
use crate::list::List;
use crate::params::{Invalid, Param};
use crate::solid::{Body, Material, Solid};
use crate::space::{Pose, heading};
use glam::{DQuat, DVec3};
use serde::{Deserialize, Serialize};
use std::ops::Range;
use ts_rs::TS;

/// Direction of the head before it is turned.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Facing {
    /// Direction along the rail.
    Along,
    /// Always the same way.
    Holds,
    /// At a point or at somebody.
    Aims,
}

/// The rail's parameters.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct BentRail {
    /// Points that the rail is bent through.
    pub points: List<RailPoint>,
    /// True if the rail is a ring.
    pub closed: bool,
    /// Direction of the head.
    pub facing: Facing,
    /// For a head that holds: 0 is −Z, positive to the right.
    pub heading_deg: f64,
    /// For a head that aims: at what, unless somebody is followed.
    pub aim_m: [f64; 3],
    /// For a head that aims: at whose eyes.
    pub follows: Option<PerformerId>,
    /// For a head that aims at somebody: how far beside their eyes it begins to, along the world's axes.
    pub offset_m: [f64; 3],
    /// Lens over the rail.
    pub lens_m: f64,
}

impl Default for BentRail {
    fn default() -> BentRail {
        let points = [[-3.0, 1.2, 1.0], [0.0, 1.2, -0.5], [3.0, 1.4, 1.0]].map(RailPoint::at).to_vec().into();
        BentRail {
            points,
            closed: false,
            facing: Facing::Holds,
            heading_deg: 0.0,
            aim_m: [0.0, 1.5, -5.0],
            follows: None,
            offset_m: [0.0; 3],
            lens_m: 0.3,
        }
    }
}

impl Spec for BentRail {
    fn build(&self, camera: &Camera) -> Box<dyn Rig> {
        let line = through(&self.points, self.closed);
        let ends = if self.closed { ANYWHERE } else { (0.0, line.length()) };
        let mut axes =
            vec![axis("travel", "travel", AxisGroup::Machine, Unit::Metres, ends, (2.5, 1.5), 0.0)];
        if self.facing == Facing::Aims {
            let [x, y, z] = if self.subject().is_some() { self.offset_m } else { self.aim_m };
            let aim = |name, hand, start| {
                axis(name, hand, AxisGroup::Machine, Unit::Metres, ANYWHERE, (2.0, 3.0), start)
            };
            axes.extend([aim("aim x", "side", x), aim("aim y", "height", y), aim("aim z", "reach", z)]);
        }
        let aim = 1..axes.len();
        if self.subject().is_some() {
            axes.extend(subject_axes());
        }
        let head = axes.len();
        axes.extend(fluid_head());
        axes.extend(lens_axes(camera));
        let bodies = vec![
            slab("carriage", [0.3, 0.12, 0.45], Material::DarkSteel),
            post("post", 0.04, (self.lens_m.abs() - 0.1).max(0.02), Material::Machine),
            camera_body(),
        ];
        Box::new(Machine { spec: self.clone(), line, aim, head, axes, bodies })
    }

    fn word(&self) -> &'static str {
        "rail"
    }

    fn params(&self) -> Vec<Param> {
        vec![Param::row(
            "lens over rail",
            vec![metres("lens_m", "Lens over the rail", -3.0, 3.0, self.lens_m)],
        )]
    }

    fn check(&self) -> Result<(), Invalid> {
        let places =
            self.points.iter().flat_map(|p| p.position.into_iter().chain(p.tangent.unwrap_or_default()));
        let aims = self.aim_m.into_iter().chain(self.offset_m);
        let numbers: Vec<f64> = places.chain(aims).chain([self.heading_deg]).collect();
        sane("points", "a rail", &numbers)?;
        let least = if self.closed { 3 } else { 2 };
        if !(least..=60).contains(&self.points.len()) {
            return Err(Invalid::at("points", format!("a rail is bent through {least} to 60 points")));
        }
        let n = self.points.len();
        let place = |i: usize| DVec3::from(self.points[i % n].position);
        let close = (0..if self.closed { n } else { n - 1 })
            .find(|i| !(0.05..=200.0).contains(&place(*i).distance(place(i + 1))));
        close.map_or(Ok(()), |i| {
            let next = (i + 1) % n + 1;
            Err(Invalid::at("points", format!("rail points {} and {next} stand 0.05 to 200 m apart", i + 1)))
        })
    }

    fn handles(&self) -> Vec<BuiltHandle> {
        let point = |i: usize| BuiltHandle {
            word: format!("point {}", i + 1),
            look: HandleLook::Square,
            sets: Sets::Place { path: format!("points/{i}/position") },
        };
        let tangent = |(i, p): (usize, &RailPoint)| {
            p.tangent?;
            Some(BuiltHandle {
                word: format!("tangent {}", i + 1),
                look: HandleLook::Round,
                sets: Sets::Tangent {
                    path: format!("points/{i}/tangent"),
                    from: format!("points/{i}/position"),
                },
            })
        };
        let tangents = self.points.iter().enumerate().filter_map(tangent);
        (0..self.points.len()).map(point).chain(tangents).collect()
    }

    /// A bow across the camera's view, its middle where the camera is.
    fn put(&mut self, there: &There) {
        let y = cm(there.position.y - self.lens_m);
        let point = |(ahead, right): (f64, f64)| {
            let [x, z] = there.at(ahead, right);
            RailPoint::at([x, y, z])
        };
        self.points = [(0.0, -3.0), (-0.6, 0.0), (0.0, 3.0)].map(point).to_vec().into();
        let [x, z] = there.at(4.0, 0.0);
        (self.heading_deg, self.aim_m) = (there.pan_deg(), [x, cm(there.position.y), z]);
    }
}

impl BentRail {
    fn subject(&self) -> Option<PerformerId> {
        self.follows.filter(|_| self.facing == Facing::Aims)
    }
}

struct Machine {
    spec: BentRail,
    line: Line,
    /// The axes that move the aim point: where it is, or how far from the eyes of whom it goes with.
    aim: Range<usize>,
    /// Index of the head's first axis; before the head's axes are the followed eyes.
    head: usize,
    axes: Vec<Axis>,
    bodies: Vec<Body>,
}

impl Machine {
    fn lens(&self, travel: f64) -> DVec3 {
        self.line.at(travel).position + DVec3::new(0.0, self.spec.lens_m, 0.0)
    }

    /// Base of the head.
    fn base(&self, axes: &[f64]) -> Pose {
        let travel = axes[0];
        let lens = self.lens(travel);
        let rotation = match self.spec.facing {
            Facing::Along => carriage(&self.line, travel).rotation,
            Facing::Holds => heading(self.spec.heading_deg.to_radians()),
            Facing::Aims => looking(lens, self.aim_point(axes), DQuat::IDENTITY),
        };
        Pose::new(lens, rotation)
    }

    fn aim_point(&self, axes: &[f64]) -> DVec3 {
        let eyes = match axes[self.aim.end..self.head] {
            [x, y, z] => DVec3::new(x, y, z),
            _ => DVec3::ZERO,
        };
        eyes + DVec3::from_slice(&axes[self.aim.clone()])
    }
}

impl Rig for Machine {
    fn axes(&self) -> &[Axis] {
        &self.axes
    }

    fn bodies(&self) -> &[Body] {
        &self.bodies
    }

    fn line(&self) -> Option<&Line> {
        Some(&self.line)
    }

    fn follows(&self) -> Option<PerformerId> {
        self.spec.subject()
    }

    fn handles(&self) -> Vec<Handle> {
        let aim = (!self.aim.is_empty()).then(|| handles::aim(self.aim.clone()));
        handles::carriage(Some(&self.line), &self.axes).into_iter().chain(aim).collect()
    }

    fn aim(&self, axes: &[f64]) -> Option<DVec3> {
        (!self.aim.is_empty()).then(|| self.aim_point(axes))
    }

    fn operator_axes(&self) -> Range<usize> {
        self.aim.clone()
    }

    fn fixed(&self) -> Vec<Solid> {
        let step = (self.line.length() / 300.0).max(0.12);
        let points = self.line.points(step);
        let under = DVec3::new(0.0, -0.1, 0.0);
        points
            .windows(2)
            .map(|p| strut("rail", 0.08, p[0] + under, p[1] + under, Material::RailSteel))
            .collect()
    }

    fn forward(&self, axes: &[f64]) -> RigPose {
        let &[pan, tilt, roll, ..] = &axes[self.head..] else { panic!("a rail has a head") };
        let camera = turned(self.base(axes), [pan, tilt, roll]);
        RigPose { camera, carriage: carriage(&self.line, axes[0]), focus_m: None }
    }

    fn body_poses(&self, axes: &[f64]) -> Vec<Pose> {
        let RigPose { camera, carriage, .. } = self.forward(axes);
        let middle = carriage.position + DVec3::new(0.0, self.spec.lens_m / 2.0, 0.0);
        vec![carriage, Pose { position: middle, rotation: DQuat::IDENTITY }, behind(camera)]
    }

    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach {
        let mut travel = self.line.nearest(|t| self.lens(t) - wanted.position);
        if self.spec.closed {
            let whole = self.line.length();
            travel += whole * ((near[0] - travel) / whole).round();
        }
        let machine = [&[travel], &near[1..self.head]].concat();
        let base = self.base(&machine).rotation;
        settle(self, machine, base, wanted, near, "the rail leads elsewhere")
    }

    fn write_surroundings(&self, motions: &mut [AxisMotion], around: &Surroundings) {
        write_subject(&mut motions[self.aim.end..self.head], around);
    }
}
