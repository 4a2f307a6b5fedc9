//! The machines that carry a camera.
//!
//! A rig is data plus two functions: [`Rig::forward`] says where given axes put the camera,
//! [`Rig::inverse`] which axes put it where it is wanted, or how far out of reach that is. What is
//! drawn of the machine is asked for by itself ([`Rig::body_poses`]): a move is evaluated at
//! thousands of samples, and drawn at one. Adding a machine is one file beside this one and one line in [`machines!`].
//!
//! What a rig depends on besides hands (what carries it, whom it follows, how far somebody has
//! walked) is written into axes that nobody drives. They are recorded with the rest, so that a
//! take says by itself where its camera was, and forward needs nothing but the axes.

mod aim_rig;
mod boom_arm;
mod carried;
mod described;
mod dolly_track;
mod free_camera;
mod free_dolly;
pub mod handles;
mod head;
mod jib;
mod orbit_arm;
mod parts;
mod rail;
mod roam;
mod shoulder;
mod square_to_card;
mod telescopic_crane;
mod track_dolly;
mod tracked_camera;
mod tripod;

pub use aim_rig::AimRig;
pub use boom_arm::BoomArm;
pub use carried::Rigging;
pub use described::{Placement, There};
pub use dolly_track::{DollyTrack, TrackPiece};
pub use free_camera::FreeCamera;
pub use free_dolly::{FreeDolly, Steering};
pub use handles::{BuiltHandle, Handle};
pub use head::{HeadHang, HeadHeading, looking};
pub use jib::Jib;
pub use orbit_arm::OrbitArm;
pub use parts::{unseen_by_own_lens, wheels};
pub use rail::{BentRail, Facing};
pub use shoulder::Shoulder;
pub use square_to_card::SquareToCard;
pub use telescopic_crane::TelescopicCrane;
pub use track_dolly::TrackDolly;
pub use tracked_camera::{DEVICE, TrackedCamera};
pub use tripod::Tripod;

use crate::axis::{Axis, AxisGroup, Unit};
use crate::axis_motion::{AxisMotion, Hand};
use crate::ids::PerformerId;
use crate::lens::{CLOSED_STOP, Camera, FOCUS_FAR_M};
use crate::line::Line;
use crate::params::{self, Invalid, Param};
use crate::solid::{Body, Solid};
use crate::space::Pose;
use crate::track::LensState;
use crate::walls::Wall;
use glam::DVec3;
use serde::{Deserialize, Serialize};
use std::ops::Range;
use ts_rs::TS;

/// Poses of a machine at given axis values.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct RigPose {
    /// Pose of the camera.
    pub camera: Pose,
    /// Pose of the base, the carriage or the feet: of what could carry another machine.
    pub carriage: Pose,
    /// Focus distance set by the machine itself, metres; none where a hand pulls focus.
    pub focus_m: Option<f64>,
}

impl RigPose {
    /// The lens that a rig's last three axes set, or the rig itself.
    pub fn lens(&self, axes: &[f64]) -> LensState {
        let [.., focal_mm, focus_m, f_stop] = *axes else {
            panic!("every rig ends with zoom, focus and iris")
        };
        LensState { focal_mm, focus_m: self.focus_m.unwrap_or(focus_m), f_stop }
    }
}

/// Axis values for a wanted camera pose, or the nearest ones.
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
        limits: Vec<String>,
    },
}

impl Reach {
    /// The axes, wanted or nearest.
    pub fn axes(&self) -> &[f64] {
        match self {
            Reach::Within(axes) | Reach::Short { nearest: axes, .. } => axes,
        }
    }

    /// Metres from wanted.
    pub fn shortfall_m(&self) -> f64 {
        match self {
            Reach::Within(_) => 0.0,
            Reach::Short { shortfall_m, .. } => *shortfall_m,
        }
    }
}

/// Things around a machine at one moment.
#[derive(Clone, Copy, Debug, Default)]
pub struct Surroundings<'a> {
    /// Pose of the carrier; none for a machine that stands free.
    pub carrier: Option<Pose>,
    /// The eyes of whom it follows.
    pub subject: Option<DVec3>,
    /// Pose of the tracked device that moves the machine, on the set, not steadied.
    pub device: Option<Pose>,
    /// Walls that the machine must not run into; empty for a machine that ignores walls.
    pub walls: &'a [Wall],
}

/// A machine that carries a camera. Axes come in the order of [`Rig::axes`]; the last
/// [`LENS_AXES`] are always zoom (mm), focus (m) and iris (stop).
pub trait Rig: Send + Sync {
    /// Axes, in the order of the samples.
    fn axes(&self) -> &[Axis];

    /// The parts to draw.
    fn bodies(&self) -> &[Body];

    /// True if a body can run into things; false for a mark that is only drawn.
    fn is_solid(&self, body: usize) -> bool {
        let _ = body;
        true
    }

    /// Forward kinematics: camera and carriage at axis values.
    fn forward(&self, axes: &[f64]) -> RigPose;

    /// Pose of each of [`Rig::bodies`] at axis values.
    fn body_poses(&self, axes: &[f64]) -> Vec<Pose>;

    /// Inverse kinematics: axis values for the pose `wanted`. Of several solutions the one nearest to `near` is
    /// taken; axes that need not move stay as they are in `near`.
    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach;

    /// The performer whom the machine goes round, as its own shape has it: that its arm reaches to them is what
    /// it is for.
    fn goes_round(&self) -> Option<PerformerId> {
        None
    }

    /// Pan, tilt and roll where they together are one rotation in the world, which has no preferred
    /// direction. None for a machine whose head has axes of its own.
    fn rotation(&self) -> Option<[usize; 3]> {
        None
    }

    /// Solids of the machine that never move: track, rail.
    fn fixed(&self) -> Vec<Solid> {
        Vec::new()
    }

    /// Line that the machine runs along; none for a machine without rail or track.
    fn line(&self) -> Option<&Line> {
        None
    }

    /// Handles of its own, besides its camera and what is in focus.
    fn handles(&self) -> Vec<Handle> {
        handles::carriage(self.line(), self.axes()).into_iter().collect()
    }

    /// Place that the camera is turned to by the machine's shape; none for a machine that aims at nothing.
    fn aim(&self, axes: &[f64]) -> Option<DVec3> {
        let _ = axes;
        None
    }

    /// How fast a crew can push what carries it over the floor, metres a second; none where nobody pushes.
    fn pushed_m_s(&self) -> Option<f64> {
        None
    }

    /// The performer it follows.
    fn follows(&self) -> Option<PerformerId> {
        None
    }

    /// The axes that [`Rig::inverse`] leaves where they are: hands move these while the rest is
    /// solved.
    fn operator_axes(&self) -> Range<usize> {
        0..0
    }

    /// The axes that a hand on this one moves with it: keys let go of all of them together.
    fn tied(&self, axis: usize) -> Range<usize> {
        axis..axis + 1
    }

    /// True if the machine can be sent to a value of an axis by moving that axis alone.
    fn can_be_sent(&self, axis: usize) -> bool {
        self.axes()[axis].hand.is_some()
    }

    /// Sets one axis to a value at once. The others stay, unless the machine gets there by going.
    fn put(&self, axes: &mut [f64], axis: usize, value: f64) {
        axes[axis] = value;
    }

    /// One step of the driven axes under hands: each by itself, unless the machine ties them
    /// together. What follows from them comes after it ([`Rig::derive`]).
    fn step(&self, motions: &mut [AxisMotion], hands: &[Hand], around: &Surroundings, dt: f64) {
        let _ = around;
        for ((motion, hand), axis) in motions.iter_mut().zip(hands).zip(self.axes()) {
            *motion = motion.step(axis, hand.demand, hand.drag_s, dt);
        }
    }

    /// The axes that follow from how others go: distance walked, a free dolly's place.
    fn derived(&self) -> Range<usize> {
        0..0
    }

    /// Moves [`Rig::derived`] on by a step, the other axes having gone as their motions say.
    fn derive(&self, motions: &mut [AxisMotion], dt: f64) {
        let _ = (motions, dt);
    }

    /// Writes what surrounds it into the axes that nobody drives.
    fn write_surroundings(&self, motions: &mut [AxisMotion], around: &Surroundings) {
        let _ = (motions, around);
    }
}

/// Parameters of a kind of machine.
trait Spec {
    /// The machine, ready to be moved.
    fn build(&self, camera: &Camera) -> Box<dyn Rig>;
    /// Name of the machine on screen.
    fn word(&self) -> &'static str;
    /// Parameters with their current values. Their ranges are the check.
    fn params(&self) -> Vec<Param>;
    /// Checks rules that tie several parameters together.
    fn check(&self) -> Result<(), Invalid> {
        Ok(())
    }
    /// The parameters that say where it stands, if it stands in one place.
    fn placement(&self) -> Option<Placement> {
        None
    }
    /// Handles that change its parameters: for place and heading of a machine that stands in one place.
    fn handles(&self) -> Vec<BuiltHandle> {
        self.placement().map(BuiltHandle::standing).unwrap_or_default()
    }
    /// Stands where its camera is about there, looking the same way.
    fn put(&mut self, there: &There);
}

/// The list of machines.
macro_rules! machines {
    ($($(#[$doc:meta])* $kind:ident($spec:ident) = $name:literal,)*) => {
        /// A machine as it is kept: its kind and its parameters.
        #[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
        #[serde(tag = "kind")]
        pub enum RigSpec {
            $($(#[$doc])* #[serde(rename = $name)] $kind($spec),)*
        }

        impl RigSpec {
            fn spec(&self) -> &dyn Spec {
                match self {
                    $(RigSpec::$kind(spec) => spec,)*
                }
            }

            fn spec_mut(&mut self) -> &mut dyn Spec {
                match self {
                    $(RigSpec::$kind(spec) => spec,)*
                }
            }

            /// Its kind, as it is written.
            pub fn kind(&self) -> &'static str {
                match self {
                    $(RigSpec::$kind(_) => $name,)*
                }
            }

            /// One of each, as it comes.
            pub fn all() -> Vec<RigSpec> {
                vec![$(RigSpec::$kind($spec::default()),)*]
            }
        }
    };
}

machines! {
    /// A tripod with a fluid head.
    Tripod(Tripod) = "tripod",
    /// A dolly on track.
    TrackDolly(TrackDolly) = "track_dolly",
    /// A dolly on wheels.
    FreeDolly(FreeDolly) = "free_dolly",
    /// A carriage on a bent rail.
    Rail(BentRail) = "rail",
    /// A fixed arm on a column.
    Jib(Jib) = "jib",
    /// A telescopic arm on a column, with a remote head; its base may stand on track.
    TelescopicCrane(TelescopicCrane) = "telescopic_crane",
    /// An arm that circles a point.
    OrbitArm(OrbitArm) = "orbit_arm",
    /// An operator on foot.
    Shoulder(Shoulder) = "shoulder",
    /// A camera that nothing carries: imported moves, flight.
    FreeCamera(FreeCamera) = "free_camera",
    /// A camera and what it aims at, on a common root.
    AimRig(AimRig) = "aim_rig",
    /// A camera that stays square to a card.
    SquareToCard(SquareToCard) = "square_to_card",
    /// A camera in the operator's hands, moved by a tracked device.
    TrackedCamera(TrackedCamera) = "tracked_camera",
}

impl RigSpec {
    /// The machine, ready to be moved.
    pub fn build(&self, camera: &Camera) -> Box<dyn Rig> {
        self.spec().build(camera)
    }

    /// Name of the machine on screen.
    pub fn word(&self) -> &'static str {
        self.spec().word()
    }

    /// Parameters with their current values.
    pub fn params(&self) -> Vec<Param> {
        self.spec().params()
    }

    /// Checks ranges and rules of the parameters.
    pub fn check(&self) -> Result<(), Invalid> {
        params::check(&self.params())?;
        self.spec().check()
    }

    /// The parameters that say where it stands, if it stands in one place.
    pub fn placement(&self) -> Option<Placement> {
        self.spec().placement()
    }

    /// Handles that change its parameters.
    pub fn handles(&self) -> Vec<BuiltHandle> {
        self.spec().handles()
    }

    /// Moves the machine so that its camera is about at `there`, with the same view.
    pub fn put(mut self, there: &There) -> RigSpec {
        self.spec_mut().put(there);
        self
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
        hand: Some(name),
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

/// An axis without end stops.
const ANYWHERE: (f64, f64) = (f64::NEG_INFINITY, f64::INFINITY);

/// An axis that others move. Angles in degrees.
fn follower(name: &'static str, ink: &'static str, group: AxisGroup, unit: Unit, start: f64) -> Axis {
    Axis { hand: None, ..axis(name, ink, group, unit, ANYWHERE, (10.0, 100.0), start) }
}

/// Axes x, y, z of the followed subject, which no hand drives.
fn subject_axes() -> [Axis; 3] {
    ["subject x", "subject y", "subject z"]
        .map(|name| follower(name, "travel", AxisGroup::Carrier, Unit::Metres, 0.0))
}

/// Writes where a subject is into its three axes.
fn write_subject(motions: &mut [AxisMotion], around: &Surroundings) {
    if let Some(subject) = around.subject {
        for (motion, v) in motions.iter_mut().zip(subject.to_array()) {
            *motion = AxisMotion::at(v);
        }
    }
}

/// Number of lens axes at the end of every rig: zoom, focus, iris.
pub const LENS_AXES: usize = 3;

/// The iris goes from wide open to nearly closed in about three seconds, by hand (common practice,
/// no source). Stops a second, and a second squared.
const IRIS: (f64, f64) = (8.0, 24.0);

/// Zoom, focus and iris of a camera; the last axes of every rig.
fn lens_axes(camera: &Camera) -> [Axis; LENS_AXES] {
    use AxisGroup::Lens;
    let zoom = (camera.focal_min_mm, camera.focal_max_mm);
    let focus = (camera.closest_focus_m, FOCUS_FAR_M);
    let iris = (camera.widest_stop, camera.f_stop.max(CLOSED_STOP));
    // It gathers its speed in a third of a second.
    let quick = (camera.zoom_mm_s, 3.0 * camera.zoom_mm_s);
    [
        axis("zoom", "zoom", Lens, Unit::Millimetres, zoom, quick, camera.focal_mm),
        axis("focus", "focus", Lens, Unit::Metres, focus, (6.0, 18.0), camera.focus_m),
        axis("iris", "iris", Lens, Unit::Plain, iris, IRIS, camera.f_stop),
    ]
}

/// `angle` plus the whole turns that bring it nearest to `near`.
fn nearest_turn(angle: f64, near: f64) -> f64 {
    use std::f64::consts::TAU;
    angle + TAU * ((near - angle) / TAU).round()
}

/// The angle within an axis' limits that is `angle` up to whole turns, nearest to `near` if that
/// is allowed; without one the nearer end stop.
pub(crate) fn turn_within(axis: &Axis, angle: f64, near: f64) -> f64 {
    let close = nearest_turn(angle, near);
    if axis.allows(close) {
        return close;
    }
    let middle = (axis.min + axis.max) / 2.0;
    nearest_turn(angle, middle)
}
