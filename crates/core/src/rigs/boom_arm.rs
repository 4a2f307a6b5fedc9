//! The short arm of a dolly that lifts the head and keeps it level.

use super::described::{boom, metres, rising};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::params::{Invalid, Param};
use glam::DVec3;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// An arm that booms up and down; a second rod beside it keeps what it carries level.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct BoomArm {
    /// Pivot over the carriage's foot.
    pub pivot_m: f64,
    /// Length from pivot to head, metres.
    pub length_m: f64,
    /// Lens over the arm's end.
    pub head_m: f64,
    /// Lowest boom, degrees.
    pub boom_min_deg: f64,
    /// Highest boom, degrees.
    pub boom_max_deg: f64,
}

impl Default for BoomArm {
    fn default() -> BoomArm {
        BoomArm { pivot_m: 0.75, length_m: 0.95, head_m: 0.35, boom_min_deg: -38.0, boom_max_deg: 58.0 }
    }
}

impl BoomArm {
    pub(super) fn axis(&self) -> Axis {
        let boom = (self.boom_min_deg, self.boom_max_deg);
        let start = 20.0_f64.clamp(boom.0, boom.1);
        super::axis("boom", "boom", AxisGroup::Machine, Unit::Radians, boom, (24.0, 40.0), start)
    }

    /// The lens in the carriage's frame, −z ahead.
    pub(super) fn lens(&self, boom: f64) -> DVec3 {
        self.end(boom) + DVec3::new(0.0, self.head_m, 0.0)
    }

    /// The arm's end in the carriage's frame.
    pub(super) fn end(&self, boom: f64) -> DVec3 {
        DVec3::new(0.0, self.pivot_m + self.length_m * boom.sin(), -self.length_m * boom.cos())
    }

    /// The boom that brings the lens nearest to a height over the carriage's foot.
    pub(super) fn boom_for(&self, height: f64) -> f64 {
        let sine = (height - self.head_m - self.pivot_m) / self.length_m;
        sine.clamp(-1.0, 1.0).asin().clamp(self.boom_min_deg.to_radians(), self.boom_max_deg.to_radians())
    }

    /// The boom whose lens is nearest to a place in the arm's own plane: ahead and up.
    pub(super) fn boom_towards(&self, ahead: f64, up: f64) -> f64 {
        let boom = (up - self.head_m - self.pivot_m).atan2(ahead);
        boom.clamp(self.boom_min_deg.to_radians(), self.boom_max_deg.to_radians())
    }

    /// Parameters of the arm, as part of a dolly.
    pub(super) fn params(&self) -> [Param; 3] {
        [
            Param::row(
                "arm pivot, length",
                vec![
                    metres("arm/pivot_m", "Arm pivot", 0.05, 5.0, self.pivot_m),
                    metres("arm/length_m", "Arm length", 0.05, 5.0, self.length_m),
                ],
            ),
            Param::row(
                "lens over arm",
                vec![metres("arm/head_m", "Lens over the arm", 0.05, 5.0, self.head_m)],
            ),
            boom(["arm/boom_min_deg", "arm/boom_max_deg"], self.boom_min_deg, self.boom_max_deg),
        ]
    }

    pub(super) fn check(&self) -> Result<(), Invalid> {
        rising("arm/boom_max_deg", "the boom", self.boom_min_deg, self.boom_max_deg)
    }
}
