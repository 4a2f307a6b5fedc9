//! A trajectory in the TUM text format, placed and turned on the set: a take of a free camera.

use super::camera::{on_floor, take_of};
use super::{Bring, Import, ImportKind, Station, Upload};
use crate::http::problem::{Outcome, Problem};
use rovnek_core::DVec3;
use rovnek_core::params::Param;
use rovnek_formats::tum::{self, CameraFrame, TumOptions, UpAxis};
use serde::{Deserialize, Serialize};

/// Axis of the file that points up.
#[derive(Clone, Copy, Serialize, Deserialize)]
enum Up {
    #[serde(rename = "z")]
    Z,
    #[serde(rename = "y")]
    Y,
    #[serde(rename = "-y")]
    MinusY,
}

/// Frame of the file's camera.
#[derive(Clone, Copy, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
enum Frame {
    Optical,
    Graphics,
    Body,
}

/// Frame in which the file is put into the scene.
#[derive(Serialize, Deserialize)]
#[serde(default)]
pub struct Tum {
    up: Up,
    camera: Frame,
    /// First point on the stage, metres.
    x: f64,
    /// Height of the first point, metres.
    y: f64,
    /// First point on the stage, metres.
    z: f64,
    /// Turn to the right, degrees.
    turn: f64,
    /// Metres of the scene for one of the file.
    scale: f64,
}

impl Default for Tum {
    fn default() -> Tum {
        Tum { up: Up::Z, camera: Frame::Optical, x: 0.0, y: 1.6, z: 0.0, turn: 0.0, scale: 1.0 }
    }
}

const FAR_M: f64 = 1e4;
const LARGEST_SCALE: f64 = 1000.0;

impl Tum {
    fn options(&self, lens: rovnek_core::track::LensState) -> Outcome<TumOptions> {
        let plain = [self.x, self.y, self.z, self.turn].iter().all(|v| v.is_finite() && v.abs() <= FAR_M);
        if !(plain && self.scale > 0.0 && self.scale <= LARGEST_SCALE) {
            return Err(Problem::refused("the place needs plain numbers, and a scale over 0 and up to 1000"));
        }
        Ok(TumOptions {
            up: match self.up {
                Up::Y => UpAxis::Y,
                Up::Z => UpAxis::Z,
                Up::MinusY => UpAxis::MinusY,
            },
            camera: match self.camera {
                Frame::Optical => CameraFrame::Optical,
                Frame::Graphics => CameraFrame::Graphics,
                Frame::Body => CameraFrame::Body,
            },
            scale: self.scale,
            turn_deg: self.turn,
            place: DVec3::new(self.x, self.y, self.z),
            from_first_point: true,
            lens,
        })
    }
}

impl Import for Tum {
    fn described() -> ImportKind {
        let up = [("z", "Z up"), ("y", "Y up"), ("-y", "−Y up")];
        let frames = [
            ("optical", "+Z forward, +Y down"),
            ("graphics", "−Z forward, +Y up"),
            ("body", "+X forward, +Z up"),
        ];
        let place = |path, label| Param::number(path, label, "m", -FAR_M, FAR_M);
        ImportKind {
            name: "tum",
            station: Station::Takes,
            endings: &[".txt", ".tum"],
            hint: "TUM text: a take of a free camera, placed and turned on the set.",
            named: "the move",
            long: false,
            recognises: |_| true,
            params: vec![
                Param::choice("up", "file's up axis", &up),
                Param::choice("camera", "file's camera", &frames),
                Param::row(
                    "first point x, height, z",
                    vec![
                        place("x", "first point x"),
                        place("y", "first point height"),
                        place("z", "first point z"),
                    ],
                ),
                Param::row(
                    "turned right, scale",
                    vec![
                        Param::number("turn", "turned right", "°", -360.0, 360.0).step(1.0),
                        Param::number("scale", "scale", "", 0.001, LARGEST_SCALE).step(0.05),
                    ],
                ),
            ],
            usual: serde_json::json!(Tum::default()),
        }
    }

    fn read(self: Box<Self>, upload: &mut Upload) -> Outcome<Box<Bring>> {
        let camera = on_floor(upload.app)?;
        let options = self.options(camera.lens())?;
        let track = tum::read(&upload.bytes, &options).map_err(upload.refuse())?;
        Ok(take_of(&upload.name, camera, &track))
    }
}
