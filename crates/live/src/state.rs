//! The floor at one moment.

use rovnek_core::DVec3;
use rovnek_core::clearance::Clearance;
use rovnek_core::framing::ShotSize;
use rovnek_core::ids::{PerformerId, SetupId};
use rovnek_core::playing::MoverId;
use rovnek_core::rigs::RigPose;
use rovnek_core::space::Pose;
use rovnek_core::time::Timecode;
use rovnek_core::track::LensState;

/// Bits of the floor.
#[allow(missing_docs)]
pub mod flags {
    pub const ROLLING: u8 = 1;
    pub const COUNTING: u8 = 2;
    pub const RUNNING: u8 = 4;
    pub const SILENT: u8 = 8;
    pub const PRE_ROLL: u8 = 16;
}

/// Metres that a machine may be from where its camera is wanted before an axis at its end is *past* it.
pub const PAST_M: f64 = 1e-3;

/// Flag bits of an axis.
#[allow(missing_docs)]
pub mod axis {
    pub const ARMED: u8 = 1;
    pub const AT_END: u8 = 2;
    pub const NEAR_END: u8 = 4;
    pub const DRIVEN: u8 = 8;
    pub const LED: u8 = 16;
    pub const PAST: u8 = 32;
}

/// State of an axis.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct AxisState {
    /// In the shown unit.
    pub value: f64,
    /// In the shown unit a second.
    pub speed: f64,
    /// Flag bits, see [`axis`].
    pub flags: u8,
    /// Seconds until it reaches the end it goes to, at its present speed; none at rest or without an end.
    pub stops_in_s: Option<f64>,
}

/// The floor at one moment.
#[derive(Clone, Debug, PartialEq)]
pub struct State {
    /// Steps since the start.
    pub step: u64,
    /// Id of the setup on the floor.
    pub setup_id: SetupId,
    /// Flag bits, see [`flags`].
    pub flags: u8,
    /// Time of the performance, seconds.
    pub scene_time_s: f64,
    /// Timecode of the performance.
    pub timecode: Timecode,
    /// Left of the count in, or rolled so far.
    pub roll_time_s: f64,
    /// State of each axis.
    pub axes: Vec<AxisState>,
    /// State of the lens.
    pub lens: LensState,
    /// Half the frame at a distance of 1: to the right, and up.
    pub half_frame: (f64, f64),
    /// The angles that the frame sees across and up.
    pub sees: (f64, f64),
    /// Nearest and farthest sharp distance.
    pub sharp_m: (f64, f64),
    /// From where on everything behind is sharp.
    pub hyperfocal_m: f64,
    /// The performer who is largest in the frame, by id, and how many frames high they would be.
    pub subject: Option<(PerformerId, f64)>,
    /// How large they are, by the name that shots have.
    pub shot: Option<ShotSize>,
    /// True if something stands between the lens and both their eyes and their chest.
    pub covered: bool,
    /// Metres from where the camera is wanted, while something wants it somewhere.
    pub short_m: f64,
    /// How fast what carries the camera goes over the floor, metres a second, where a crew pushes it.
    pub base_m_s: Option<f64>,
    /// Clearance of the machine; none without an obstacle near enough.
    pub clearance: Option<Clearance>,
    /// Pose of camera and carriage.
    pub rig_pose: RigPose,
    /// Poses of the machine's bodies.
    pub bodies: Vec<Pose>,
    /// Places of the machine's handles, metres, in the order of [`rovnek_core::rigs::handles::handles`].
    pub handles: Vec<DVec3>,
    /// Performer or piece that is driven, and the poses of its parts.
    pub acting: Option<(MoverId, Vec<Pose>)>,
    /// Performers and pieces on driven machines, and the poses of their parts.
    pub riding: Vec<(MoverId, Vec<Pose>)>,
    /// The machines of the other setups.
    pub others: Vec<Other>,
}

/// Another setup's machine.
#[derive(Clone, Debug, PartialEq)]
pub struct Other {
    /// Id of the other setup.
    pub setup_id: SetupId,
    /// Focal length, millimetres.
    pub focal_mm: f64,
    /// Pose of the camera.
    pub camera: Pose,
    /// Poses of the machine's bodies.
    pub bodies: Vec<Pose>,
}
