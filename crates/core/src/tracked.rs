//! A tracked device on the set: where its own space lies, what of it is taken, and what of it is
//! held.
//!
//! **Method.** The device's pose is scaled about its own origin and then placed: turned by a
//! heading and moved. When the camera is attached, the difference to where the camera stood may be
//! kept, in place and heading, so that nothing moves until the hand does. Held axes keep the value
//! they had then.

use crate::params::Invalid;
use crate::space::{PanTiltRoll, Pose, heading};
use crate::steady::Steady;
use glam::DVec3;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// How a device's motion becomes a camera's.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct Mapping {
    /// Device's origin on the set, metres.
    pub origin_m: [f64; 3],
    /// Device's forward direction on the set, degrees to the right of −Z.
    pub heading_deg: f64,
    /// Metres on set for a real metre.
    pub scale: f64,
    /// Keeps the difference to where the camera stood when it was attached.
    pub keep_offset: bool,
    /// Keeps the horizon level.
    pub level: bool,
    /// Held as they were when it was attached: x, y, z, pan, tilt, roll.
    pub hold: [bool; 6],
    /// Takes zoom, focus and iris where the device sends them.
    pub lens: bool,
}

impl Default for Mapping {
    fn default() -> Mapping {
        Mapping {
            origin_m: [0.0; 3],
            heading_deg: 0.0,
            scale: 1.0,
            keep_offset: true,
            level: false,
            hold: [false; 6],
            lens: true,
        }
    }
}

/// Effect of a second device on a camera that it does not hold.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum SecondMoves {
    /// Its ring of focus is the camera's.
    #[default]
    FocusRing,
    /// The camera is focused on where it is.
    Focus,
    /// The head looks at where it is.
    Aim,
    /// The head looks at where it is, and is focused there.
    AimAndFocus,
}

impl SecondMoves {
    /// True if the head looks at the device.
    pub fn aims(self) -> bool {
        matches!(self, SecondMoves::Aim | SecondMoves::AimAndFocus)
    }
}

/// A device in other hands, beside the one that may hold the camera.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct SecondDevice {
    /// Name of the device; empty for none.
    pub source: String,
    /// Effect of the device.
    pub moves: SecondMoves,
}

/// How a setup listens to devices.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct Tracking {
    /// Name of the device: its protocol and number, as [`crate::tracked`]'s sources are named.
    pub source: String,
    /// How its motion is taken.
    pub mapping: Mapping,
    /// How it is steadied.
    pub steady: Steady,
    /// Another one, for aim or focus.
    pub second: SecondDevice,
}

impl Tracking {
    /// Checks every number.
    pub fn check(&self) -> Result<(), Invalid> {
        let m = &self.mapping;
        let plain = m.origin_m.iter().chain([&m.heading_deg]).all(|v| v.is_finite() && v.abs() <= 1e4);
        if !plain {
            return Err(Invalid::at(
                "mapping/origin_m",
                "the device's place needs plain numbers under 10 000",
            ));
        }
        if !(0.01..=1000.0).contains(&m.scale) {
            return Err(Invalid::at("mapping/scale", "a real metre is 0.01 to 1000 metres on set"));
        }
        for (at, source) in [("source", &self.source), ("second/source", &self.second.source)] {
            if source.chars().count() > 200 {
                return Err(Invalid::at(at, "the name of a source is at most 200 characters"));
            }
        }
        self.steady.within_reason()
    }
}

/// A camera attached to a device.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Attached {
    mapping: Mapping,
    /// Offset from the placed device to the camera's pose at the start.
    offset: Pose,
    held: [f64; 6],
}

impl Mapping {
    /// The device on the set, wherever the camera stood.
    pub fn placed(&self, device: Pose) -> Pose {
        let origin = Pose::new(DVec3::from(self.origin_m), heading(self.heading_deg.to_radians()));
        origin.then(Pose { position: device.position * self.scale, ..device })
    }

    /// Attaches a camera that stands at `camera` while the device is at `device`.
    pub fn attach(&self, camera: Pose, device: Pose) -> Attached {
        let placed = self.placed(device);
        let offset = if self.keep_offset {
            let pan = |p: Pose| PanTiltRoll::from_rotation(p.rotation).pan;
            let turn = heading(pan(camera) - pan(placed));
            Pose::new(camera.position - turn * placed.position, turn)
        } else {
            Pose::ORIGIN
        };
        Attached { mapping: *self, offset, held: camera.to_numbers() }
    }
}

impl Attached {
    /// Attachment with another mapping; the offset of the start stays.
    pub fn with(self, mapping: Mapping) -> Attached {
        Attached { mapping, ..self }
    }

    /// Camera pose that the device wants.
    pub fn camera(&self, device: Pose) -> Pose {
        let free = self.offset.then(self.mapping.placed(device));
        let mut now = free.to_numbers();
        if self.mapping.level {
            now[5] = 0.0;
        }
        if !self.mapping.level && self.mapping.hold == [false; 6] {
            return free;
        }
        for (i, held) in
            self.mapping.hold.iter().enumerate().filter(|(_, h)| **h).map(|(i, _)| (i, self.held[i]))
        {
            now[i] = held;
        }
        Pose::from_numbers(now)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn pose(x: f64, y: f64, z: f64, pan: f64, tilt: f64, roll: f64) -> Pose {
        Pose::from_numbers([x, y, z, pan, tilt, roll])
    }

    #[test]
    fn attaching_keeps_place_and_heading_and_ten_on_set_for_one_real_step() {
        let camera = pose(3.0, 1.6, -2.0, 0.7, 0.0, 0.0);
        let device = pose(0.2, 1.1, 0.4, -0.3, 0.0, 0.0);
        let mapping =
            Mapping { scale: 10.0, heading_deg: 15.0, origin_m: [4.0, 0.0, 1.0], ..Mapping::default() };
        let a = mapping.attach(camera, device);
        let first = a.camera(device);
        assert!(first.position.distance(camera.position) < 1e-12 && first.angle_to(camera) < 1e-12);
        // A step ahead of the device, which faces −0.3: on set it goes the way the camera faces.
        let ahead = device.rotation * DVec3::NEG_Z * 0.7;
        let then = a.camera(Pose { position: device.position + ahead, ..device });
        let wanted = camera.position + camera.rotation * DVec3::NEG_Z * 7.0;
        assert!(then.position.distance(wanted) < 1e-9, "{} {wanted}", then.position);
    }

    #[test]
    fn held_axes_stay_and_the_horizon_is_level() {
        let camera = pose(3.0, 1.6, -2.0, 0.7, 0.1, 0.0);
        let device = pose(0.2, 1.1, 0.4, -0.3, 0.05, 0.2);
        let hold = [false, true, false, false, true, false];
        let mapping = Mapping { hold, level: true, ..Mapping::default() };
        let a = mapping.attach(camera, device);
        let now = a.camera(pose(1.0, 1.9, 0.0, 0.4, -0.5, 0.3)).to_numbers();
        assert!((now[1] - 1.6).abs() < 1e-12 && (now[4] - 0.1).abs() < 1e-12 && now[5].abs() < 1e-12);
        assert!((now[3] - (0.4 + 0.7 + 0.3)).abs() < 1e-12);
    }

    #[test]
    fn without_an_offset_the_device_stands_where_its_space_is_put() {
        let mapping = Mapping {
            keep_offset: false,
            origin_m: [1.0, 0.5, 2.0],
            heading_deg: 90.0,
            ..Mapping::default()
        };
        let a = mapping.attach(Pose::ORIGIN, Pose::ORIGIN);
        let there = a.camera(pose(0.0, 1.0, -2.0, 0.0, 0.0, 0.0));
        assert!(there.position.distance(DVec3::new(3.0, 1.5, 2.0)) < 1e-12);
        assert!(
            Tracking { mapping: Mapping { scale: 0.0, ..mapping }, ..Tracking::default() }.check().is_err()
        );
    }
}
