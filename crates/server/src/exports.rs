//! A move as a file: the same frames and values from the page and the command line.

use crate::moves::Evaluated;
use rovnek_core::evaluate::{frames, track_of_frames};
use rovnek_core::playing::PerformanceTimeline;
use rovnek_core::samples::Samples;
use rovnek_formats::glb::{self, Assets};
use rovnek_formats::{WriteFormat, axes_csv};
use rovnek_store::model::Scene;
use std::str::FromStr;

/// What a move can be taken away as.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum As {
    /// The camera at every frame; glb with the set and whoever moves in it.
    Track(WriteFormat),
    /// The machine's axes at the full rate, CSV.
    Axes,
}

impl FromStr for As {
    type Err = String;
    fn from_str(name: &str) -> Result<As, String> {
        match name {
            "axes" => Ok(As::Axes),
            _ => WriteFormat::from_str(name).map(As::Track).map_err(|e| format!("{e}, or axes")),
        }
    }
}

impl As {
    /// What the file's name ends with.
    pub fn ending(self) -> &'static str {
        match self {
            As::Axes => "axes.csv",
            As::Track(WriteFormat::Csv) => "csv",
            As::Track(WriteFormat::Glb) => "glb",
            As::Track(WriteFormat::Tum) => "tum.txt",
            As::Track(WriteFormat::OpenTrackIo) => "opentrackio.jsonl",
        }
    }
}

/// The scene a move is written with.
pub struct Around<'a> {
    /// Its set.
    pub scene: &'a Scene,
    /// What moves in it.
    pub playing: &'a PerformanceTimeline,
    /// What its pieces refer to.
    pub goods: &'a Assets,
}

/// The file of a move's samples, raw or treated, at the rate of the scene.
pub fn file(kind: As, around: &Around, of: &Evaluated, samples: &Samples) -> Vec<u8> {
    let As::Track(format) = kind else { return axes_csv::write(samples, of.rig.axes()) };
    let track = track_of_frames(&frames(samples, &*of.rig, around.scene.rate));
    match format {
        WriteFormat::Glb => glb::write(&glb::Shot {
            name: of.title.clone(),
            track: &track,
            camera: of.camera.clone(),
            pieces: &around.scene.pieces,
            playing: around.playing,
            goods: around.goods,
        }),
        other => rovnek_formats::write(other, &track),
    }
}
