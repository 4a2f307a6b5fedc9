//! What pages ask of the floor, and what they are told when it changes.

use rovnek_core::hands::Shaping;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// What a page may ask of the floor.
#[derive(Clone, Debug, PartialEq, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "do")]
pub enum Command {
    /// Hands on the axes; also the sign that the page is there. Shares of top speed, −1 to 1, and
    /// distances to add, in shown units; missing ones are 0.
    Drive {
        /// One an axis.
        rates: Vec<f64>,
        /// One an axis.
        #[serde(default)]
        nudges: Vec<f64>,
        /// Everything at a fifth of its speed, for as long as it is said.
        #[serde(default)]
        fine: bool,
    },
    /// How each axis takes what hands say.
    Shape {
        /// One an axis.
        axes: Vec<Shaping>,
    },
    /// The speed dial, 0.05 to 1, and the fluid drag, 0 to 4.
    Feel {
        /// Scales speed.
        dial: f64,
        /// Scales the drag of every axis.
        drag: f64,
    },
    /// Whether an axis records. One that does not holds still while a take rolls.
    Arm {
        /// Its place in the rig's list.
        axis: usize,
        /// Records.
        on: bool,
    },
    /// Count in, then roll.
    Roll {
        /// 0 to 5.
        count_in_s: f64,
    },
    /// Stop counting or rolling.
    Cut,
    /// Let the performance run, or hold it.
    Run {
        /// Runs.
        on: bool,
    },
    /// Put the performance at a time.
    Seek {
        /// Seconds of scene time.
        time_s: f64,
    },
    /// Drive every axis back to where the last roll began, or to where the rig starts.
    Return,
    /// Send axes to places, in shown units; a missing one stays.
    Go {
        /// One an axis.
        targets: Vec<Option<f64>>,
    },
    /// Send the machine to a stored position.
    GoTo {
        /// Which.
        number: u32,
        /// How long it takes; as quickly as the dial and the limits allow where missing.
        #[serde(default)]
        seconds: Option<f64>,
    },
    /// Send the machine to the first of some stored positions, then through the others in a set
    /// time.
    Rehearse {
        /// In order.
        positions: Vec<u32>,
        /// From the first to the last.
        seconds: f64,
    },
    /// Turn the head so that the horizon is level.
    Level,
    /// Stop going anywhere.
    Stay,
    /// Hands fly the camera and the machine follows, or hands move the axes.
    Fly {
        /// The camera.
        on: bool,
    },
    /// Forget what hands made of a machine with keys.
    Discard,
    /// Ask for the wheels.
    Ask,
    /// Give the wheels to whoever asks.
    Give,
    /// Keep the wheels.
    Keep,
}

/// What pages are told when it changes.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Status {
    /// The setup on the floor.
    pub setup_id: u32,
    /// The page at the wheels.
    pub holder: Option<u32>,
    /// The page that asks for them.
    pub asking: Option<u32>,
    /// How many pages are open.
    pub pages: usize,
    /// "standby", "counting" or "rolling".
    pub roll: &'static str,
    /// Which axes record.
    pub armed: Vec<bool>,
    /// The speed dial.
    pub dial: f64,
    /// The fluid drag.
    pub drag: f64,
    /// How each axis takes what hands say.
    pub shaping: Vec<Shaping>,
    /// What says where the camera goes: "axes" of the machine, a "move" it follows, or a camera
    /// that is "flown".
    pub lead: &'static str,
    /// Hands made something of the machine that its keys do not know.
    pub pending: bool,
    /// It is on its way to a position.
    pub sent: bool,
    /// Why its way takes longer than was asked.
    pub slowed: Option<String>,
    /// The performance runs.
    pub running: bool,
    /// What stopped the recorder, until the next roll.
    pub trouble: Option<String>,
}
