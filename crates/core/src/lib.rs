//! The heart of Rovnek: everything that is computed about a camera move, from where a machine
//! puts its camera to whether the recorded move feels filmed.
//!
//! Nothing here reads a file, a clock or a socket; the same input always gives the same output.
//!
//! **Conventions.** Right-handed world in metres, +Y up, floor at y = 0. A camera looks along its
//! own −Z with +Y up. Angles are radians; *pan* is positive to the operator's right, *tilt* up,
//! *roll* clockwise as the operator sees it, applied in that order. Where a type does not carry
//! the unit, the name does (`focal_mm`, `boom_max_deg`). Parameters that are kept in files are in
//! degrees, because that is what people read there.
//!
//! The job, in its order:
//!
//! | step | module |
//! |---|---|
//! | the place and who is in it | [`set`], [`performer`], built of [`solid`]s; [`playing`] as it goes on |
//! | the camera, and what its frame holds | [`lens`], [`framing`] |
//! | the machine that carries it | [`rigs`], whose [`axis`] list says what moves and how far; [`placing`] finds a free place for a new one |
//! | what it runs along | [`line`] |
//! | operating it | hands on the [`wheels`], [`input_shaping`], [`axis_motion`], before [`walls`] and end stops, with how much [`clearance`] is left |
//! | or sending it | [`glide`] to positions, along [`keys`], where a move wants it ([`follow`]) |
//! | or carrying it: a device in the hands | [`tracked`], [`steady`] |
//! | what was recorded | [`samples`], in layers by [`passes`] |
//! | what was not recorded: keyed, or following another | [`moves`] |
//! | refining it | [`treatments`] of a [`motion`], on top of [`filter`] |
//! | what is seen at each frame | [`evaluate`], giving a camera [`track`]; its curves on a screen [`lanes`] |
//! | as plain values | [`flatten`] |
//! | its bad seconds, and what mends them | [`mending`] |
//! | whether it got better, and what must be told of it | [`measures`], [`warnings`] |
//!
//! What changes over time is a [`curve`]; what can be set describes itself in [`params`]. [`time`], [`space`], [`list`] and [`chance`] hold what all of them
//! share.

pub mod axis;
pub mod axis_motion;
pub mod bounded;
pub mod carrier;
pub mod chance;
pub mod clearance;
pub mod content;
pub mod curve;
pub mod evaluate;
pub mod filter;
pub mod flatten;
pub mod follow;
pub mod framing;
pub mod glide;
pub mod ids;
pub mod input_shaping;
pub mod keys;
pub mod lanes;
mod leaves;
pub mod lens;
pub mod line;
pub mod list;
pub mod measures;
pub mod mending;
pub mod mesh;
pub mod motion;
pub mod moves;
pub mod params;
pub mod passes;
pub mod performer;
pub mod placing;
pub mod plan;
pub mod playing;
pub mod references;
pub mod rigs;
pub mod samples;
pub mod set;
pub mod solid;
pub mod space;
pub mod steady;
pub mod time;
pub mod time_map;
pub mod track;
pub mod tracked;
pub mod treatments;
pub mod walls;
pub mod warnings;
pub mod wheels;

pub use glam::{DQuat, DVec3};
