//! The machines that carry a camera.
//!
//! A rig is data plus two functions: [`Rig::forward`] says where given axes put the camera and the
//! machine's bodies, [`Rig::inverse`] which axes put the camera where it is wanted, or how far out
//! of reach that is. Adding a machine is one file beside this one and one line in [`RigSpec`].

mod free_camera;
mod square_to_card;
mod telescopic_crane;

pub use free_camera::FreeCamera;
pub use square_to_card::SquareToCard;
pub use telescopic_crane::{HeadHang, TelescopicCrane};

use crate::axis::{Axis, AxisGroup, Unit};
use crate::lens::{Camera, FOCUS_FAR_M};
use crate::solid::Body;
use crate::space::Pose;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Where a machine stands with given axes.
#[derive(Clone, Debug, PartialEq)]
pub struct Stance {
    /// The camera.
    pub camera: Pose,
    /// One pose for each of [`Rig::bodies`].
    pub bodies: Vec<Pose>,
}

/// What it takes to put the camera at a wanted pose.
#[derive(Clone, Debug, PartialEq)]
pub enum Reach {
    /// The carrying axes (without lens) that do it.
    Within(Vec<f64>),
    /// It cannot be done: the axes that come closest, and how far from wanted the lens then is.
    Short {
        /// The closest the machine gets.
        nearest: Vec<f64>,
        /// Metres from the wanted position.
        shortfall_m: f64,
        /// The end stops it stands at, such as "reach, longest".
        limits: Vec<&'static str>,
    },
}

impl Reach {
    /// The axes, wanted or nearest.
    pub fn axes(&self) -> &[f64] {
        match self {
            Reach::Within(axes) | Reach::Short { nearest: axes, .. } => axes,
        }
    }
}

/// A machine that carries a camera. Axes come in the order of [`Rig::axes`]; the last two are
/// always zoom (mm) and focus (m).
pub trait Rig: Send + Sync {
    /// What moves.
    fn axes(&self) -> &[Axis];
    /// The parts to draw, in the order of [`Stance::bodies`].
    fn bodies(&self) -> &[Body];
    /// Where `axes` put everything.
    fn forward(&self, axes: &[f64]) -> Stance;
    /// Which axes put the camera at `wanted`. Of several solutions that differ by whole turns the
    /// one nearest to `near` is taken.
    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach;
}

/// A machine as it is kept: its kind and its parameters. The list of machines.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "kind")]
pub enum RigSpec {
    /// A telescopic arm on a column, with a remote head.
    TelescopicCrane(TelescopicCrane),
    /// A camera that nothing carries: imported moves, flight.
    FreeCamera(FreeCamera),
    /// A camera that stays square to a card.
    SquareToCard(SquareToCard),
}

impl RigSpec {
    /// The machine, ready to be moved.
    pub fn build(&self, camera: &Camera) -> Box<dyn Rig> {
        match self {
            RigSpec::TelescopicCrane(spec) => Box::new(spec.build(camera)),
            RigSpec::FreeCamera(spec) => Box::new(spec.build(camera)),
            RigSpec::SquareToCard(spec) => Box::new(spec.build(camera)),
        }
    }

    /// What about these parameters cannot be, as a sentence.
    pub fn fault(&self) -> Option<String> {
        match self {
            RigSpec::TelescopicCrane(spec) => spec.fault(),
            RigSpec::FreeCamera(spec) => spec.fault(),
            RigSpec::SquareToCard(spec) => spec.fault(),
        }
    }
}

/// An axis, shortly. Angles in degrees.
fn axis(
    name: &'static str,
    ink: &'static str,
    group: AxisGroup,
    unit: Unit,
    (min, max): (f64, f64),
    (top_speed, top_acceleration): (f64, f64),
    start: f64,
) -> Axis {
    let core = |v| unit.from_shown(v);
    Axis {
        name,
        ink,
        group,
        unit,
        min: core(min),
        max: core(max),
        top_speed: core(top_speed),
        top_acceleration: core(top_acceleration),
        start: core(start),
    }
}

/// Zoom and focus of a camera; the last two axes of every rig.
fn lens_axes(camera: &Camera) -> [Axis; 2] {
    use AxisGroup::Lens;
    let zoom = (camera.focal_min_mm, camera.focal_max_mm);
    let focus = (camera.closest_focus_m, FOCUS_FAR_M);
    [
        axis("zoom", "zoom", Lens, Unit::Millimetres, zoom, (40.0, 120.0), camera.focal_mm),
        axis("focus", "focus", Lens, Unit::Metres, focus, (6.0, 18.0), camera.focus_m),
    ]
}

/// `angle` plus the whole turns that bring it nearest to `near`.
fn nearest_turn(angle: f64, near: f64) -> f64 {
    use std::f64::consts::TAU;
    angle + TAU * ((near - angle) / TAU).round()
}
