//! Packets of tracked devices: samples of a camera's pose, over UDP.
//!
//! Nothing here has a socket or a clock. A packet is bytes in; what comes out is a [`Sample`] or a
//! sentence about what is wrong with it. A new protocol is one file here and one line in
//! [`Protocol`].

pub mod capture;
pub mod freed;
pub mod opentrackio;
pub mod phone;

use rovnek_core::space::Pose;
use serde::{Deserialize, Serialize};
use std::fmt;
use std::str::FromStr;
use ts_rs::TS;

/// The protocols that are understood.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, TS)]
#[serde(rename_all = "lowercase")]
pub enum Protocol {
    /// SMPTE RIS OpenTrackIO, JSON samples.
    OpenTrackIo,
    /// FreeD, message type D1.
    FreeD,
}

impl Protocol {
    /// All protocols.
    pub const ALL: [Protocol; 2] = [Protocol::OpenTrackIo, Protocol::FreeD];
}

impl fmt::Display for Protocol {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            Protocol::OpenTrackIo => "opentrackio",
            Protocol::FreeD => "freed",
        })
    }
}

impl FromStr for Protocol {
    type Err = String;
    fn from_str(name: &str) -> Result<Protocol, String> {
        let found = Protocol::ALL.into_iter().find(|p| p.to_string() == name);
        found.ok_or_else(|| format!("\"{name}\" is no protocol here; give opentrackio or freed"))
    }
}

/// One sample of a device, in our conventions: +Y up, metres, a camera that looks along −Z.
#[derive(Clone, Debug, PartialEq)]
pub struct Sample {
    /// Device within its protocol: a number or an identifier.
    pub device: String,
    /// The device's own time, seconds; from where is its own business.
    pub time_s: Option<f64>,
    /// Counts samples, and goes round at 65 536.
    pub sequence: Option<u16>,
    /// Samples a second, where the device says so.
    pub rate_hz: Option<f64>,
    /// Pose in the device's own space.
    pub pose: Pose,
    /// Lens data.
    pub lens: Lens,
}

/// Lens data of a device.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Lens {
    /// Focal length, millimetres.
    pub focal_mm: Option<f64>,
    /// Focus distance.
    pub focus_m: Option<f64>,
    /// Aperture, f-stop.
    pub f_stop: Option<f64>,
    /// Zoom ring, 0 to 1, for a device that knows no millimetres.
    pub zoom: Option<f64>,
    /// Focus ring, 0 to 1.
    pub focus: Option<f64>,
}
