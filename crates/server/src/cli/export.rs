//! `rovnek export`.

use super::write_file;
use crate::evaluated::moves::{From, MoveCache};
use crate::evaluated::scenery;
use crate::exports::{self, ExportKind};
use crate::floor::riding::carried;
use clap::Args;
use rovnek_core::clearance::MeshHulls;
use rovnek_core::ids::MoveId;
use rovnek_core::performer::Clips;
use rovnek_core::samples::Samples;
use rovnek_store::Store;
use rovnek_store::model::Document;
use rovnek_store::rows::reader::Reader;
use rovnek_store::shelf::Shelf;
use std::path::PathBuf;

#[derive(Args)]
pub struct Export {
    /// Folder with the productions
    #[arg(long, default_value = "rovnek-data")]
    data: PathBuf,
    /// Production, as its file is called, without the ending; the one opened last where left out
    #[arg(long)]
    production: Option<String>,
    /// Number of the scene on the slate; the one worked on last where left out
    #[arg(long)]
    scene: Option<String>,
    /// Number of the take on the slate: the one of its moves that is chosen
    #[arg(long, required_unless_present = "a_move", conflicts_with = "a_move")]
    take: Option<u32>,
    /// Number of a move, or its name: one that is keyed, that follows another, or a variant
    #[arg(long = "move", value_name = "MOVE")]
    a_move: Option<String>,
    /// Format of OUT: csv, glb, tum, opentrackio, axes (the machine's axes at the full rate), or plan (SVG to scale)
    #[arg(long)]
    to: ExportKind,
    /// As it was rolled or keyed, without its treatments
    #[arg(long)]
    raw: bool,
    /// File to write
    out: PathBuf,
}

impl Export {
    pub fn run(&self) -> Result<(), String> {
        // Nobody writes to it meanwhile; a folder of an earlier layout has its production on the shelf now.
        let _shelf = Shelf::open(&self.data).map_err(|e| e.to_string())?;
        let file = super::production(&self.data, self.production.as_deref())?;
        let mut store = Store::open(&file).map_err(|e| e.to_string())?;
        if let Some(number) = &self.scene {
            in_scene(&mut store, number)?;
        }
        let document = store.document().map_err(|e| e.to_string())?;
        let id = match (&self.a_move, self.take) {
            (Some(named), _) => by_name(&document, named)?,
            (None, number) => of_take(&document, number.unwrap_or_default())?,
        };
        let reader = store.reader().map_err(|e| e.to_string())?;
        let scene = &document.scene;
        let mut clips = Clips::new();
        scenery::load_clips(&reader, &document, &mut clips).map_err(|e| e.to_string())?;
        let (moves, no_meshes) = (MoveCache::default(), MeshHulls::new());
        let read = |what: &dyn Fn(&Reader) -> rovnek_store::Result<Samples>| what(&reader);
        let plays = document.performance_of(document.a_move(id).map_err(|e| e.to_string())?);
        let bare = scenery::Scenery::of(&document, plays, &clips);
        let scenery = carried(&document, bare, &moves, &read, &no_meshes);
        let from = From { document: &document, scenery: &scenery, on_the_way: 0, read: &read };
        let moved = moves.evaluate(&from, id).map_err(|e| e.to_string())?;
        let assets = scenery::assets(&reader, &scene.pieces).map_err(|e| e.to_string())?;
        let motion = if self.raw { &moved.raw } else { &moved.now };
        let around = exports::Around { scene, playing: &moved.among(motion).playing, assets: &assets };
        write_file(&self.out, &exports::file(self.to, &around, &moved, motion))
    }
}

/// Has a scene read by its number on the slate.
fn in_scene(store: &mut Store, number: &str) -> Result<(), String> {
    let document = store.document().map_err(|e| e.to_string())?;
    let there = || document.scenes.iter().filter(|s| !s.binned);
    let scene = there().find(|s| s.number == number).ok_or_else(|| {
        let known: Vec<&str> = there().map(|s| &*s.number).collect();
        format!("there is no scene {number}; there are {}", known.join(", "))
    })?;
    store.look_at(scene.id);
    Ok(())
}

/// The chosen move of a take.
fn of_take(document: &Document, number: u32) -> Result<MoveId, String> {
    let takes = || document.takes.iter().filter(|t| t.pass.is_none());
    let take = takes().find(|t| t.number == number).ok_or_else(|| {
        let known: Vec<String> = takes().map(|t| t.number.to_string()).collect();
        format!("there is no take {number}; there are {}", known.join(", "))
    })?;
    Ok(document.chosen(take.id).ok_or("a take that rolls cannot be taken away; cut it first")?.id)
}

/// A move by its number or its name.
fn by_name(document: &Document, named: &str) -> Result<MoveId, String> {
    let there = || document.moves.iter().filter(|m| !m.binned);
    let found: Vec<MoveId> =
        there().filter(|m| m.name == named || m.id.to_string() == named).map(|m| m.id).collect();
    match found[..] {
        [one] => Ok(one),
        [] => {
            let known: Vec<String> = there().map(|m| format!("{} {}", m.id, m.name).trim().into()).collect();
            Err(format!("there is no move \"{named}\"; there are {}", known.join(", ")))
        }
        _ => {
            let numbers: Vec<String> = found.iter().map(MoveId::to_string).collect();
            Err(format!("several moves are called \"{named}\"; give a number: {}", numbers.join(", ")))
        }
    }
}
