//! What machines say of themselves, where several say the same: parameters, what ties them
//! together, and how a machine is put where a camera is.

use crate::params::{Invalid, Param};
use crate::space::PanTiltRoll;
use glam::DVec3;

/// As far as anything may stand from the middle of the stage, and as far round as anything may be
/// turned: 10 km, or so many degrees.
pub(super) const FAR: f64 = 1e4;

/// The paths of the parameters that say where a machine stands: x, z and heading.
pub type Placement = [&'static str; 3];

/// Placement parameters of a machine on the floor.
pub(super) const BASE: Placement = ["base_x_m", "base_z_m", "heading_deg"];
/// Placement parameters of a machine on track.
pub(super) const TRACK: Placement = ["track/x_m", "track/z_m", "track/heading_deg"];

/// Metres, as they stand.
pub(super) fn metres(path: &'static str, label: &'static str, min: f64, max: f64, now: f64) -> Param {
    Param::number(path, label, "m", min, max).start(now).step(0.05)
}

/// Degrees, as they stand.
pub(super) fn degrees(path: &'static str, label: &'static str, min: f64, max: f64, now: f64) -> Param {
    Param::number(path, label, "°", min, max).start(now).step(1.0)
}

/// A share, as it stands.
pub(super) fn plain(path: &'static str, label: &'static str, min: f64, max: f64, now: f64) -> Param {
    Param::number(path, label, "", min, max).start(now).step(0.05)
}

/// Parameters for the place on the floor and the heading.
pub(super) fn base([x, z, heading]: [f64; 3]) -> [Param; 2] {
    let place = [metres(BASE[0], "Base x", -FAR, FAR, x), metres(BASE[1], "Base z", -FAR, FAR, z)];
    let heading = degrees(BASE[2], "Heading", -FAR, FAR, heading);
    [Param::row("base x, z", place.into()), Param::row("heading", vec![heading])]
}

/// A point: three numbers called after it.
pub(super) fn triple(
    label: &'static str,
    of: &'static str,
    paths: [&'static str; 3],
    now: [f64; 3],
) -> Param {
    let axis = |i: usize| metres(paths[i], ["x", "y", "z"][i], -FAR, FAR, now[i]).of(of);
    Param::row(label, (0..3).map(axis).collect())
}

/// From the lowest to the highest boom.
pub(super) fn boom([min, max]: [&'static str; 2], low: f64, high: f64) -> Param {
    let angle = |path, label, now| degrees(path, label, -85.0, 85.0, now);
    Param::row("boom from, to", vec![angle(min, "Lowest boom", low), angle(max, "Highest boom", high)])
}

/// Parameter for the height of the column under an arm.
pub(super) fn column(now: f64) -> Param {
    Param::row("column height", vec![metres("column_height_m", "Column height", 0.3, 10.0, now)])
}

/// Parameter for the drop of the lens under an arm's end.
pub(super) fn head_drop(now: f64) -> Param {
    Param::row("head hangs under arm", vec![metres("head_drop_m", "Head drop", 0.0, 2.0, now)])
}

/// Parameter: does the head lean with the arm?
pub(super) fn head_hang() -> Param {
    Param::choice("head", "head", &[("level", "kept level"), ("lean", "leans with the arm")])
}

/// Parameter: does the head turn with the arm?
pub(super) fn head_heading() -> Param {
    Param::choice("head_heading", "heading of the head", &[("arm", "goes with the arm"), ("held", "is held")])
}

/// How fast a camera goes that nothing carries.
pub(super) fn top_speed(min: f64, max: f64, now: f64) -> Param {
    let speed = Param::number("top_m_s", "Top speed", "m/s", min, max).start(now).step(0.05);
    Param::row("top speed", vec![speed])
}

/// Refuses what does not go from a lower to a higher value.
pub(super) fn rising(path: &str, what: &str, low: f64, high: f64) -> Result<(), Invalid> {
    if low < high {
        return Ok(());
    }
    Err(Invalid::at(path, format!("{what} goes from {low} to {high}; give a lower and a higher value")))
}

/// Refuses numbers that are none, or beyond [`FAR`].
pub(super) fn sane(path: &str, of: &str, numbers: &[f64]) -> Result<(), Invalid> {
    if numbers.iter().all(|n| n.abs() <= FAR) {
        return Ok(());
    }
    Err(Invalid::at(path, format!("every number of {of} must be a plain number up to 10 000")))
}

/// Rounds to the centimetre or the hundredth of a degree, so that placed machines have readable numbers.
pub(super) fn cm(value: f64) -> f64 {
    (value * 100.0).round() / 100.0
}

/// A camera: a machine is put so that its own is about there, looking the same way.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct There {
    /// Place of the camera.
    pub position: DVec3,
    /// Rotation of the camera.
    pub turn: PanTiltRoll,
}

impl There {
    /// Pan, tilt and roll, degrees.
    pub(super) fn turn_deg(&self) -> [f64; 3] {
        [self.turn.pan, self.turn.tilt, self.turn.roll].map(|a| cm(a.to_degrees()))
    }

    /// Pan of the rotation, degrees.
    pub(super) fn pan_deg(&self) -> f64 {
        self.turn_deg()[0]
    }

    /// The place on the floor so far ahead of the camera and to its right.
    pub(super) fn at(&self, ahead: f64, right: f64) -> [f64; 2] {
        let (sin, cos) = self.turn.pan.sin_cos();
        let DVec3 { x, z, .. } = self.position;
        [cm(x + sin * ahead + cos * right), cm(z - cos * ahead + sin * right)]
    }

    /// Place x, z and heading of a base whose camera is `before` metres ahead of the base.
    pub(super) fn standing(&self, before: f64) -> [f64; 3] {
        let [x, z] = self.at(-before, 0.0);
        [x, z, self.pan_deg()]
    }
}
