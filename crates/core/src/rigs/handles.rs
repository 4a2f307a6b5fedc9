//! Handles: the parts of a machine that a hand takes hold of in plan, profile and picture.
//!
//! A machine lists its handles ([`Rig::handles`]); where they are and what a drag does to the axes is worked out
//! here, the same way for every machine. Handles that change how a machine is built, and not how its axes stand, are
//! [`BuiltHandle`]s.

use super::{LENS_AXES, Reach, Rig};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::line::Line;
use crate::space::Pose;
use glam::DVec3;
use serde::Serialize;
use std::f64::consts::PI;
use std::ops::Range;
use ts_rs::TS;

/// Distance from a machine's base at which its heading is taken, metres.
pub const LEVER_M: f64 = 1.6;
/// Distance from a rail point at which its tangent of length 1 is taken, metres.
pub const PULL_M: f64 = 0.9;

/// Part of a machine that a hand takes hold of.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Handle {
    /// Name of the handle on screen.
    pub word: &'static str,
    /// Part of the machine that the hand moves.
    pub grip: Grip,
}

/// Part of a machine that a hand moves.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Grip {
    /// The camera, which keeps its rotation; the machine's inverse solves the axes.
    Camera,
    /// The middle of the plane that is in focus.
    Focus,
    /// The carriage, by its distance along rail or track.
    Travel {
        /// Index of the axis.
        axis: usize,
    },
    /// Base or pivot: the hand moves it in straight lines, over the floor or in space.
    Base {
        /// Indices of the axes that move it, at right angles to each other.
        axes: Vec<usize>,
    },
    /// Heading of the base.
    Heading {
        /// Index of the axis.
        axis: usize,
    },
    /// The place that the camera is turned to, in straight lines.
    Aim {
        /// Indices of the axes that move it, at right angles to each other.
        axes: Vec<usize>,
    },
}

impl Grip {
    /// Grip of the part on a machine with `by` more axes before its own.
    pub(super) fn shifted(self, by: usize) -> Grip {
        match self {
            Grip::Camera | Grip::Focus => self,
            Grip::Travel { axis } => Grip::Travel { axis: axis + by },
            Grip::Heading { axis } => Grip::Heading { axis: axis + by },
            Grip::Base { axes } => Grip::Base { axes: axes.into_iter().map(|a| a + by).collect() },
            Grip::Aim { axes } => Grip::Aim { axes: axes.into_iter().map(|a| a + by).collect() },
        }
    }

    /// Shape of the handle on screen.
    pub fn look(&self) -> HandleLook {
        match self {
            Grip::Camera => HandleLook::Camera,
            Grip::Focus => HandleLook::Bar,
            Grip::Travel { .. } | Grip::Base { .. } => HandleLook::Square,
            Grip::Heading { .. } => HandleLook::Round,
            Grip::Aim { .. } => HandleLook::Cross,
        }
    }
}

/// Shape of a handle on screen.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum HandleLook {
    /// Ring around the camera.
    Camera,
    /// Bar across the view.
    Bar,
    /// Square: a place on the floor or in space.
    Square,
    /// Disc: a direction.
    Round,
    /// Cross: a place that is looked at.
    Cross,
}

/// Handles of a machine: the camera, what is in focus where a hand pulls focus, and those of its own.
pub fn handles(rig: &dyn Rig) -> Vec<Handle> {
    let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
    let mut all = vec![Handle { word: "camera", grip: Grip::Camera }];
    if rig.forward(&start).focus_m.is_none() {
        all.push(Handle { word: "focus", grip: Grip::Focus });
    }
    all.extend(rig.handles());
    all
}

/// Handle of the carriage of a machine that runs along a line.
pub(super) fn carriage(line: Option<&Line>, axes: &[Axis]) -> Option<Handle> {
    line?;
    let axis = axes.iter().position(|a| a.name == "travel")?;
    Some(Handle { word: "carriage", grip: Grip::Travel { axis } })
}

/// Handles of a base that is moved by some axes and turned by another one.
pub(super) fn base(axes: [usize; 2], turn: usize) -> Vec<Handle> {
    vec![
        Handle { word: "base", grip: Grip::Base { axes: axes.into() } },
        Handle { word: "heading", grip: Grip::Heading { axis: turn } },
    ]
}

/// Handle of an aim point.
pub(super) fn aim(axes: Range<usize>) -> Handle {
    Handle { word: "aim", grip: Grip::Aim { axes: axes.collect() } }
}

/// Place of a handle at axis values.
pub fn place(rig: &dyn Rig, grip: &Grip, axes: &[f64]) -> DVec3 {
    let pose = rig.forward(axes);
    match grip {
        Grip::Camera => pose.camera.position,
        Grip::Focus => pose.camera.shifted(0.0, 0.0, -pose.lens(axes).focus_m).position,
        Grip::Travel { .. } | Grip::Base { .. } => pose.carriage.position,
        Grip::Heading { .. } => pose.carriage.shifted(0.0, 0.0, -LEVER_M).position,
        Grip::Aim { .. } => rig.aim(axes).unwrap_or(pose.camera.position),
    }
}

/// Machine after a drag of a handle.
#[derive(Clone, Debug, PartialEq)]
pub struct Dragged {
    /// All axes, within their limits.
    pub axes: Vec<f64>,
    /// Place of the handle.
    pub at: DVec3,
    /// Distance of the handle from where the hand wanted it, metres.
    pub shortfall_m: f64,
    /// End stops that the machine stands at, such as "reach, longest".
    pub limits: Vec<String>,
}

/// Axes that bring a handle to a place, or as near to it as the machine gets. Axes that need not move stay as they
/// are in `near`, to the last bit.
pub fn dragged(rig: &dyn Rig, grip: &Grip, to: DVec3, near: &[f64]) -> Dragged {
    let mut axes = near.to_vec();
    let mut limits = Vec::new();
    let now = place(rig, grip, near);
    match grip {
        Grip::Camera => {
            let wanted = Pose::new(to, rig.forward(near).camera.rotation);
            let reach = rig.inverse(wanted, near);
            let carrying = axes.len() - LENS_AXES;
            axes[..carrying].copy_from_slice(&reach.axes()[..carrying]);
            if let Reach::Short { limits: stops, .. } = reach {
                limits = stops;
            }
        }
        Grip::Focus => {
            let camera = rig.forward(near).camera;
            let axis = axes.len() - 2;
            axes[axis] = (to - camera.position).dot(camera.rotation * DVec3::NEG_Z);
        }
        Grip::Travel { axis } => {
            let carriage = |travel: f64| {
                let mut there = near.to_vec();
                there[*axis] = travel;
                place(rig, grip, &there) - to
            };
            if let Some(line) = rig.line() {
                let travel = line.nearest(carriage);
                let whole = if line.closed() { line.length() } else { f64::INFINITY };
                let turns = ((near[*axis] - travel) / whole).round();
                axes[*axis] = if whole.is_finite() { travel + whole * turns } else { travel };
            }
        }
        Grip::Heading { axis } => {
            let foot = rig.forward(near).carriage;
            let local = foot.rotation.conjugate() * (to - foot.position);
            if local.x.hypot(local.z) > 1e-9 {
                axes[*axis] += local.x.atan2(-local.z);
            }
        }
        Grip::Base { axes: moved } | Grip::Aim { axes: moved } => {
            for &axis in moved {
                let mut farther = near.to_vec();
                farther[axis] += 1.0;
                let step = place(rig, grip, &farther) - now;
                axes[axis] += (to - now).dot(step) / step.length_squared().max(1e-12);
            }
        }
    }
    for (i, axis) in rig.axes().iter().enumerate() {
        if !axis.allows(axes[i]) {
            let end = if axes[i] < axis.min { "at its lower end" } else { "at its upper end" };
            limits.push(format!("{}, {end}", axis.name));
            axes[i] = axes[i].clamp(axis.min, axis.max);
        }
        // What an inverse finds again is what it was.
        if (axes[i] - near[i]).abs() < 1e-12 {
            axes[i] = near[i];
        }
    }
    let at = place(rig, grip, &axes);
    let wanted = match grip {
        // Focus goes along the view, a heading round its base: only that can be short.
        Grip::Focus | Grip::Heading { .. } => at,
        _ => to,
    };
    Dragged { at, shortfall_m: at.distance(wanted), axes, limits }
}

/// Way of the camera while one axis goes from end to end and the others stay: an arc, a circle, a line.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Trace {
    /// Name of the axis.
    pub axis: &'static str,
    /// Points of the way, metres.
    pub points: Vec<[f64; 3]>,
    /// True if the axis has end stops there; false for all round.
    pub ends: bool,
}

/// Number of points of a trace.
const POINTS: usize = 49;
/// Shortest way that is worth drawing, metres.
const SHORTEST_M: f64 = 0.05;

/// Reach of a machine's camera from where it is: the way of the camera along each of the machine's axes that has
/// end stops or goes all round.
pub fn traces(rig: &dyn Rig, axes: &[f64]) -> Vec<Trace> {
    let of = |(i, axis): (usize, &Axis)| {
        if axis.group != AxisGroup::Machine || !rig.can_be_sent(i) {
            return None;
        }
        let ends = axis.min.is_finite() && axis.max.is_finite();
        let (from, to) = match (ends, axis.unit) {
            (true, _) => (axis.min, axis.max),
            (false, Unit::Radians) => (axes[i] - PI, axes[i] + PI),
            _ => return None,
        };
        let mut there = axes.to_vec();
        let at = |k: usize| {
            there[i] = from + (to - from) * k as f64 / (POINTS - 1) as f64;
            rig.forward(&there).camera.position
        };
        let points: Vec<DVec3> = (0..POINTS).map(at).collect();
        let way: f64 = points.windows(2).map(|p| p[0].distance(p[1])).sum();
        let points = points.iter().map(|p| p.to_array()).collect();
        (way > SHORTEST_M).then_some(Trace { axis: axis.name, points, ends })
    };
    rig.axes().iter().enumerate().filter_map(of).collect()
}

/// Part of a machine's shape or place that a hand takes hold of: a drag changes parameters.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct BuiltHandle {
    /// Name of the handle on screen.
    pub word: String,
    /// Shape of the handle on screen.
    pub look: HandleLook,
    /// Parameters that a drag sets.
    pub sets: Sets,
}

/// Parameters that a drag sets, by their paths.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
#[serde(rename_all = "snake_case", tag = "kind")]
pub enum Sets {
    /// A place on the floor, metres.
    Floor {
        /// Path of the place's x.
        x: String,
        /// Path of the place's z.
        z: String,
    },
    /// A place in space, metres.
    Place {
        /// Path of the list of three numbers.
        path: String,
    },
    /// A heading, degrees, taken [`LEVER_M`] from a place on the floor.
    Heading {
        /// Path of the heading.
        path: String,
        /// Path of the place's x.
        x: String,
        /// Path of the place's z.
        z: String,
    },
    /// A tangent, taken [`PULL_M`] times its length from a place in space.
    Tangent {
        /// Path of the list of three numbers.
        path: String,
        /// Path of the place's list of three numbers.
        from: String,
    },
}

impl BuiltHandle {
    /// Handles for place and heading of a machine.
    pub(super) fn standing([x, z, turn]: super::Placement) -> Vec<BuiltHandle> {
        let [x, z, path] = [x, z, turn].map(String::from);
        let heading = Sets::Heading { path, x: x.clone(), z: z.clone() };
        vec![
            BuiltHandle { word: "base".into(), look: HandleLook::Square, sets: Sets::Floor { x, z } },
            BuiltHandle { word: "heading".into(), look: HandleLook::Round, sets: heading },
        ]
    }
}
