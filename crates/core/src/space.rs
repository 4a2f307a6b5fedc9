//! Poses, and the one place where orientations turn into pan, tilt and roll.

use glam::{DQuat, DVec3};
use serde::{Deserialize, Serialize};
use std::f64::consts::{PI, TAU};

/// Pose: position and rotation. `rotation` is a unit quaternion.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Pose {
    /// Position, metres.
    pub position: DVec3,
    /// From the thing's own axes to the world's.
    pub rotation: DQuat,
}

impl Pose {
    /// At the origin, unturned.
    pub const ORIGIN: Pose = Pose { position: DVec3::ZERO, rotation: DQuat::IDENTITY };

    /// A pose from its parts.
    pub fn new(position: DVec3, rotation: DQuat) -> Pose {
        debug_assert!(rotation.is_normalized(), "{rotation} is not a unit quaternion");
        Pose { position, rotation }
    }

    /// `inner`, given in this pose's own frame, in the frame this pose is given in.
    pub fn then(self, inner: Pose) -> Pose {
        Pose::new(
            self.position + self.rotation * inner.position,
            (self.rotation * inner.rotation).normalize(),
        )
    }

    /// Moved along its own axes.
    pub fn shifted(self, right: f64, up: f64, back: f64) -> Pose {
        Pose { position: self.position + self.rotation * DVec3::new(right, up, back), ..self }
    }

    /// Turned in its place.
    pub fn turned(self, by: DQuat) -> Pose {
        Pose::new(self.position, (self.rotation * by).normalize())
    }

    /// The pose that undoes this one.
    pub fn inverse(self) -> Pose {
        let rotation = self.rotation.conjugate();
        Pose { position: rotation * -self.position, rotation }
    }

    /// Its place and its rotation: x, y, z, then x, y, z, w.
    pub fn seven(self) -> [f64; 7] {
        let ([x, y, z], [i, j, k, w]) = (self.position.to_array(), self.rotation.to_array());
        [x, y, z, i, j, k, w]
    }

    /// Place and angles, as machines and files hold them: x, y, z, pan, tilt, roll.
    pub fn to_numbers(self) -> [f64; 6] {
        let (p, a) = (self.position, PanTiltRoll::from_rotation(self.rotation));
        [p.x, p.y, p.z, a.pan, a.tilt, a.roll]
    }

    /// The pose of [`Pose::to_numbers`].
    pub fn from_numbers([x, y, z, pan, tilt, roll]: [f64; 6]) -> Pose {
        Pose::new(DVec3::new(x, y, z), PanTiltRoll { pan, tilt, roll }.to_rotation())
    }

    /// Part of the way to `other`: straight in position, along the shorter arc in rotation.
    pub fn towards(self, other: Pose, share: f64) -> Pose {
        Pose {
            position: self.position.lerp(other.position, share),
            rotation: self.rotation.slerp(other.rotation, share),
        }
    }

    /// The angle between the two orientations, 0 to π. Exact for small angles too.
    pub fn angle_to(self, other: Pose) -> f64 {
        let between = self.rotation.conjugate() * other.rotation;
        2.0 * between.xyz().length().atan2(between.w.abs())
    }
}

/// An orientation as the operator reads it, radians.
#[derive(Clone, Copy, Debug, PartialEq, Default, Serialize, Deserialize)]
pub struct PanTiltRoll {
    /// Angle to the right, radians.
    pub pan: f64,
    /// Angle up, radians.
    pub tilt: f64,
    /// Clockwise as the operator sees it.
    pub roll: f64,
}

impl PanTiltRoll {
    /// Rotation: pan about the vertical, then tilt, then roll about the view.
    pub fn to_rotation(self) -> DQuat {
        DQuat::from_rotation_y(-self.pan)
            * DQuat::from_rotation_x(self.tilt)
            * DQuat::from_rotation_z(-self.roll)
    }

    /// The same orientation, written with the angles nearest to others: whole turns more or less, or
    /// looking over the top.
    pub fn near(self, other: PanTiltRoll) -> PanTiltRoll {
        let turned = |angle: f64, near: f64| angle + TAU * ((near - angle) / TAU).round();
        let over = PanTiltRoll { pan: self.pan + PI, tilt: PI - self.tilt, roll: self.roll + PI };
        let [plain, over] = [self, over].map(|a| PanTiltRoll {
            pan: turned(a.pan, other.pan),
            tilt: turned(a.tilt, other.tilt),
            roll: turned(a.roll, other.roll),
        });
        let far = |a: PanTiltRoll| {
            (a.pan - other.pan).abs() + (a.tilt - other.tilt).abs() + (a.roll - other.roll).abs()
        };
        if far(over) < far(plain) { over } else { plain }
    }

    /// The angles of a rotation, pan and roll in (−π, π], tilt in [−π/2, π/2]. Looking straight up
    /// or down, where pan and roll turn about the same line, all of it is called pan.
    pub fn from_rotation(rotation: DQuat) -> PanTiltRoll {
        let forward = rotation * DVec3::NEG_Z;
        let level = forward.x.hypot(forward.z);
        let tilt = forward.y.atan2(level);
        if level < 1e-9 {
            let up = rotation * DVec3::Y * -forward.y.signum();
            return PanTiltRoll { pan: up.x.atan2(-up.z), tilt, roll: 0.0 };
        }
        let pan = forward.x.atan2(-forward.z);
        let right = rotation * DVec3::X;
        let level_right = DVec3::new(pan.cos(), 0.0, pan.sin());
        let level_up = level_right.cross(forward);
        let roll = (-right.dot(level_up)).atan2(right.dot(level_right));
        PanTiltRoll { pan, tilt, roll }
    }
}

/// The turn of something that stands on the floor, to the right seen from above.
pub fn heading(angle: f64) -> DQuat {
    DQuat::from_rotation_y(-angle)
}

/// A rotation as an axis times its angle, the way round that is less than half a turn.
pub fn shorter_turn(rotation: DQuat) -> DVec3 {
    let q = if rotation.w < 0.0 { -rotation } else { rotation };
    let sine = q.xyz().length();
    // Where there is hardly an angle, it is twice its half's sine.
    q.xyz() * if sine > 1e-12 { 2.0 * sine.atan2(q.w) / sine } else { 2.0 }
}

/// Makes a run of angles continuous: wherever a step is more than half a turn, whole turns are
/// added. As `numpy.unwrap`.
pub fn unwrap(angles: &mut [f64]) {
    let mut turns = 0.0;
    for i in 1..angles.len() {
        let step = angles[i] + turns - angles[i - 1];
        if step.abs() > PI {
            turns -= TAU * (step / TAU).round();
        }
        angles[i] += turns;
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn ptr(pan: f64, tilt: f64, roll: f64) -> PanTiltRoll {
        PanTiltRoll { pan, tilt, roll }
    }

    #[test]
    fn the_signs_are_the_operators() {
        let look = |a: PanTiltRoll| a.to_rotation() * DVec3::NEG_Z;
        assert!(look(ptr(0.3, 0.0, 0.0)).x > 0.0, "pan goes right");
        assert!(look(ptr(0.0, 0.3, 0.0)).y > 0.0, "tilt goes up");
        // Camera turned clockwise: its own up leans to the operator's right.
        assert!((ptr(0.0, 0.0, 0.3).to_rotation() * DVec3::Y).x > 0.0);
    }

    proptest! {
        #[test]
        fn angles_come_back(pan in -3.1..3.1, tilt in -1.5..1.5, roll in -3.1..3.1) {
            let back = PanTiltRoll::from_rotation(ptr(pan, tilt, roll).to_rotation());
            prop_assert!((back.pan - pan).abs() < 1e-9);
            prop_assert!((back.tilt - tilt).abs() < 1e-9);
            prop_assert!((back.roll - roll).abs() < 1e-9);
        }

        #[test]
        fn straight_up_and_down_keep_the_orientation(pan in -3.1..3.1, up in any::<bool>()) {
            let tilt = if up { PI / 2.0 } else { -PI / 2.0 };
            let rotation = ptr(pan, tilt, 0.0).to_rotation();
            let back = PanTiltRoll::from_rotation(rotation).to_rotation();
            prop_assert!(rotation.dot(back).abs() > 1.0 - 1e-9);
        }
    }

    proptest! {
        #[test]
        fn an_orientation_is_written_near_another(
            pan in -9.0..9.0, tilt in -4.0..4.0, roll in -9.0..9.0, off in -0.02..0.02,
        ) {
            let as_it_stood = ptr(pan, tilt, roll);
            let there = ptr(pan + off, tilt - off, roll + off).to_rotation();
            let read = PanTiltRoll::from_rotation(there).near(as_it_stood);
            prop_assert!(read.to_rotation().dot(there).abs() > 1.0 - 1e-12);
            // Near straight up or down, pan and roll may turn far for a small turn.
            if tilt.cos().abs() > 0.2 {
                prop_assert!((read.pan - pan).abs() < 0.2 && (read.tilt - tilt).abs() < 0.2, "{read:?}");
                prop_assert!((read.roll - roll).abs() < 0.2);
            }
        }
    }

    #[test]
    fn unwrapping_follows_a_full_turn() {
        let mut angles: Vec<f64> = (0..100).map(|i| f64::from(i) * 0.2).collect();
        let want = angles.clone();
        for a in &mut angles {
            *a = (*a + PI).rem_euclid(TAU) - PI;
        }
        unwrap(&mut angles);
        for (a, b) in angles.iter().zip(&want) {
            assert!((a - b).abs() < 1e-12);
        }
    }

    #[test]
    fn small_angles_between_poses_are_exact() {
        let turned = Pose::new(DVec3::ZERO, heading(1e-9));
        assert!((Pose::ORIGIN.angle_to(turned) - 1e-9).abs() < 1e-15);
    }
}
