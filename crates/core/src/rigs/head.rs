//! The head that turns the camera: the three axes that most machines end with.

use super::{Reach, Rig, axis, turn_within};
use crate::axis::{Axis, AxisGroup::Head, Unit::Radians};
use crate::space::{PanTiltRoll, Pose};
use glam::{DQuat, DVec3};

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
pub(super) fn looking(from: DVec3, to: DVec3, or: DQuat) -> DQuat {
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
