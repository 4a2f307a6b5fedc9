//! A move as a file: the same frames and values from the page and the command line.

use crate::evaluated::moves::Evaluated;
use rovnek_core::evaluate::{frames, track_of_frames};
use rovnek_core::motion::Motion;
use rovnek_core::plan;
use rovnek_core::playing::PerformanceTimeline;
use rovnek_formats::glb::{self, Assets};
use rovnek_formats::{WriteFormat, axes_csv, plan_svg};
use rovnek_store::model::Scene;
use serde::Serialize;
use std::str::FromStr;
use ts_rs::TS;

/// Kind of an exported file.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, TS)]
pub struct ExportKind {
    /// On the command line, and in the address.
    pub name: &'static str,
    /// Label on screen.
    pub label: &'static str,
    /// Hint: the content of the file.
    pub hint: &'static str,
    /// Ending of the file's name.
    pub ending: &'static str,
    /// Media type of the file.
    pub media: &'static str,
    #[serde(skip)]
    of: As,
}

/// Form in which a file holds a move.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum As {
    /// The camera at every frame; glb with the set and whoever moves in it.
    Track(WriteFormat),
    /// The machine's axes at the full rate, CSV.
    Axes,
    /// The plan of the move, SVG to scale.
    Plan,
}

/// All kinds, in the order in which they are offered.
pub const KINDS: [ExportKind; 6] = [
    ExportKind {
        name: WriteFormat::Csv.name(),
        label: "CSV",
        hint: "One row a frame: camera and lens.",
        ending: "csv",
        media: "text/csv",
        of: As::Track(WriteFormat::Csv),
    },
    ExportKind {
        name: WriteFormat::Glb.name(),
        label: "glTF (.glb)",
        hint: "The camera, the set and the performers as glTF.",
        ending: "glb",
        media: "model/gltf-binary",
        of: As::Track(WriteFormat::Glb),
    },
    ExportKind {
        name: WriteFormat::OpenTrackIo.name(),
        label: "OpenTrackIO",
        hint: "One OpenTrackIO sample a frame, as lines of JSON.",
        ending: "opentrackio.jsonl",
        media: "text/plain",
        of: As::Track(WriteFormat::OpenTrackIo),
    },
    ExportKind {
        name: WriteFormat::Tum.name(),
        label: "TUM",
        hint: "The path as text in the TUM format.",
        ending: "tum.txt",
        media: "text/plain",
        of: As::Track(WriteFormat::Tum),
    },
    ExportKind {
        name: "axes",
        label: "Axes",
        hint: "The machine's axes at 120 a second.",
        ending: "axes.csv",
        media: "text/csv",
        of: As::Axes,
    },
    ExportKind {
        name: "plan",
        label: "Plan (.svg)",
        hint: "The plan to scale on A3: the set, the machine, the camera's path, the performers.",
        ending: "plan.svg",
        media: "image/svg+xml",
        of: As::Plan,
    },
];

impl FromStr for ExportKind {
    type Err = String;
    fn from_str(name: &str) -> Result<ExportKind, String> {
        KINDS.into_iter().find(|kind| kind.name == name).ok_or_else(|| {
            let names = KINDS.map(|kind| kind.name).join(", ");
            format!("\"{name}\" cannot be written; give one of {names}")
        })
    }
}

/// The scene a move is written with.
pub struct Around<'a> {
    /// Scene of the move.
    pub scene: &'a Scene,
    /// Timeline of the performance.
    pub playing: &'a PerformanceTimeline,
    /// Assets that the pieces refer to.
    pub assets: &'a Assets,
}

/// The file of a move's motion, raw or treated, at the rate of the scene.
pub fn file(kind: ExportKind, around: &Around, of: &Evaluated, motion: &Motion) -> Vec<u8> {
    let frames = || frames(motion, &*of.rig, around.scene.rate);
    let format = match kind.of {
        As::Track(format) => format,
        As::Axes => return axes_csv::write(&motion.samples, motion.first(), of.rig.axes()),
        As::Plan => {
            let shot = plan::Shot {
                stage: &around.scene.stage,
                pieces: &around.scene.pieces,
                playing: around.playing,
                length_s: around.scene.length_s,
                rig: &*of.rig,
                camera: &of.camera,
                frames: &frames(),
                rate: around.scene.rate,
            };
            let title = plan_svg::Title {
                what: &of.title,
                scene: &format!("scene {}: {}", around.scene.number, around.scene.name),
            };
            return plan_svg::write(&shot.marks(), &title);
        }
    };
    let track = track_of_frames(&frames());
    match format {
        WriteFormat::Glb => glb::write(&glb::Shot {
            name: of.title.clone(),
            track: &track,
            camera: of.camera.clone(),
            pieces: &around.scene.pieces,
            setup: of.of.setup_id,
            playing: around.playing,
            assets: around.assets,
        }),
        other => rovnek_formats::write(other, &track),
    }
}
