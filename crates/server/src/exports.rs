//! A move as a file: the same frames and values from the page and the command line.

use crate::evaluated::moves::Evaluated;
use rovnek_core::evaluate::{frames, track_of_frames};
use rovnek_core::motion::Motion;
use rovnek_core::plan;
use rovnek_core::playing::PerformanceTimeline;
use rovnek_core::track::Track;
use rovnek_formats::glb::{self, Assets};
use rovnek_formats::{WriteFormat, axes_csv, plan_svg};
use rovnek_store::model::Scene;
use serde::Serialize;
use std::str::FromStr;
use ts_rs::TS;

/// Kind of an exported file.
#[derive(Clone, Copy, Debug, Serialize, TS)]
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
    write: fn(&Around, &Evaluated, &Motion) -> Vec<u8>,
}

/// All kinds, in the order in which they are offered.
pub const KINDS: [ExportKind; 6] = [
    ExportKind {
        name: WriteFormat::Csv.name(),
        label: "CSV",
        hint: "One row a frame: camera and lens.",
        ending: "csv",
        media: "text/csv",
        write: |around, of, motion| track(WriteFormat::Csv, around, of, motion),
    },
    ExportKind {
        name: WriteFormat::Glb.name(),
        label: "glTF (.glb)",
        hint: "The camera, the set and the performers as glTF.",
        ending: "glb",
        media: "model/gltf-binary",
        write: glb,
    },
    ExportKind {
        name: WriteFormat::OpenTrackIo.name(),
        label: "OpenTrackIO",
        hint: "One OpenTrackIO sample a frame, as lines of JSON.",
        ending: "opentrackio.jsonl",
        media: "text/plain",
        write: |around, of, motion| track(WriteFormat::OpenTrackIo, around, of, motion),
    },
    ExportKind {
        name: WriteFormat::Tum.name(),
        label: "TUM",
        hint: "The path as text in the TUM format.",
        ending: "tum.txt",
        media: "text/plain",
        write: |around, of, motion| track(WriteFormat::Tum, around, of, motion),
    },
    ExportKind {
        name: "axes",
        label: "Axes",
        hint: "The machine's axes at 120 a second.",
        ending: "axes.csv",
        media: "text/csv",
        write: |_, of, motion| axes_csv::write(&motion.samples, motion.first(), of.rig.axes()),
    },
    ExportKind {
        name: "plan",
        label: "Plan (.svg)",
        hint: "The plan to scale on A3: the set, the machine, the camera's path, the performers.",
        ending: "plan.svg",
        media: "image/svg+xml",
        write: plan,
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
    (kind.write)(around, of, motion)
}

/// The camera at every frame.
fn camera(around: &Around, of: &Evaluated, motion: &Motion) -> Track {
    track_of_frames(&frames(motion, &*of.rig, around.scene.rate))
}

fn track(format: WriteFormat, around: &Around, of: &Evaluated, motion: &Motion) -> Vec<u8> {
    rovnek_formats::write(format, &camera(around, of, motion))
}

/// The camera with the set and whoever moves in it.
fn glb(around: &Around, of: &Evaluated, motion: &Motion) -> Vec<u8> {
    glb::write(&glb::Shot {
        name: of.title.clone(),
        track: &camera(around, of, motion),
        camera: of.camera.clone(),
        pieces: &around.scene.pieces,
        setup: of.of.setup_id,
        playing: around.playing,
        assets: around.assets,
    })
}

fn plan(around: &Around, of: &Evaluated, motion: &Motion) -> Vec<u8> {
    let scene = around.scene;
    let shot = plan::Shot {
        stage: &scene.stage,
        pieces: &scene.pieces,
        playing: around.playing,
        length_s: scene.length_s,
        rig: &*of.rig,
        camera: &of.camera,
        frames: &frames(motion, &*of.rig, scene.rate),
        rate: scene.rate,
    };
    let scene = format!("scene {}: {}", scene.number, scene.name);
    plan_svg::write(&shot.marks(), &plan_svg::Title { what: &of.title, scene: &scene })
}
