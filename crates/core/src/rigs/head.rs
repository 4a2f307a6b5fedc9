//! The head that turns the camera: the three axes that most machines end with.

use super::{Reach, Rig, axis, turn_within};
use crate::axis::{Axis, AxisGroup::Head, Unit::Radians};
use crate::space::{PanTiltRoll, Pose};
use glam::{DQuat, DVec3};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// How a remote head hangs on its arm.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum HeadHang {
    /// Kept upright however the arm stands.
    Level,
    /// Leans with the arm.
    Lean,
}

/// What a remote head does while its arm swings and its base turns.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum HeadHeading {
    /// Goes with the arm.
    #[default]
    Arm,
    /// Holds the heading that the machine was put up with.
    Held,
}

impl HeadHeading {
    /// What pan, tilt and roll turn on: of a head that hangs somewhere, on an arm that stands level or
    /// leans by a boom. `put_up` is the heading that is held.
    pub(super) fn base(self, hung: DQuat, hang: HeadHang, boom: f64, put_up: DQuat) -> DQuat {
        match (self, hang) {
            (HeadHeading::Arm, _) => hung,
            (HeadHeading::Held, HeadHang::Level) => put_up,
            // What the boom adds is a tilt of the head.
            (HeadHeading::Held, HeadHang::Lean) => (put_up * DQuat::from_rotation_x(boom)).normalize(),
        }
    }
}

/// A remote head: turned by motors, half round and no farther, for its cables.
pub(super) fn remote_head() -> [Axis; 3] {
    [
        axis("pan", "pan", Head, Radians, (-180.0, 180.0), (75.0, 150.0), 0.0),
        axis("tilt", "tilt", Head, Radians, (-90.0, 60.0), (60.0, 120.0), -4.0),
        axis("roll", "roll", Head, Radians, (-90.0, 90.0), (60.0, 120.0), 0.0),
    ]
}

/// A fluid head: turned by hand, all round.
pub(super) fn fluid_head() -> [Axis; 3] {
    [
        axis("pan", "pan", Head, Radians, super::ANYWHERE, (110.0, 260.0), 0.0),
        axis("tilt", "tilt", Head, Radians, (-75.0, 75.0), (90.0, 220.0), 0.0),
        axis("roll", "roll", Head, Radians, (-25.0, 25.0), (45.0, 120.0), 0.0),
    ]
}

/// A camera that a head turns on its base.
pub(super) fn turned(base: Pose, [pan, tilt, roll]: [f64; 3]) -> Pose {
    base.turned(PanTiltRoll { pan, tilt, roll }.to_rotation())
}

/// Looks from one place to another, upright. Straight up or down, or from nowhere, `or` is kept.
pub fn looking(from: DVec3, to: DVec3, or: DQuat) -> DQuat {
    let d = to - from;
    let level = d.x.hypot(d.z);
    if level < 1e-9 {
        return or;
    }
    PanTiltRoll { pan: d.x.atan2(-d.z), tilt: d.y.atan2(level), roll: 0.0 }.to_rotation()
}

/// The end of every inverse: the machine's own axes are found and stand within their limits; the
/// head turns as far as it goes, and what is then missing is said. `stands` says why a machine
/// without an axis at its end is short.
pub(super) fn settle(
    rig: &dyn Rig,
    machine: Vec<f64>,
    base: DQuat,
    wanted: Pose,
    near: &[f64],
    stands: &str,
) -> Reach {
    let first = machine.len();
    let head = &rig.axes()[first..first + 3];
    let turn = PanTiltRoll::from_rotation((base.conjugate() * wanted.rotation).normalize());
    let turn = [
        turn_within(&head[0], turn.pan, near[first]),
        turn.tilt,
        turn_within(&head[2], turn.roll, near[first + 2]),
    ];
    let mut axes = machine;
    axes.extend(head.iter().zip(turn).map(|(a, v)| v.clamp(a.min, a.max)));
    let lens = &near[axes.len().min(near.len())..];
    let shortfall_m = rig.forward(&[&axes, lens].concat()).camera.position.distance(wanted.position);
    let off = |i: usize| head[i].beyond(turn[i]) > 1e-9;
    if shortfall_m < 1e-9 && !(0..3).any(off) {
        return Reach::Within(axes);
    }
    let mut limits: Vec<String> = Vec::new();
    if shortfall_m >= 1e-9 {
        let driven = rig.axes()[..first].iter().zip(&axes).filter(|(a, _)| a.hand.is_some());
        limits.extend(driven.filter_map(|(a, v)| a.end(*v)));
        if limits.is_empty() {
            limits.push(stands.into());
        }
    }
    limits.extend((0..3).filter(|i| off(*i)).filter_map(|i| head[i].end(axes[first + i])));
    Reach::Short { nearest: axes, shortfall_m, limits }
}
