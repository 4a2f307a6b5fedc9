//! `rovnek export`.

use super::write_file;
use crate::{layers, scenery, takeaway};
use clap::Args;
use rovnek_core::evaluate::Stages;
use rovnek_core::motion::Context;
use rovnek_core::performer::Clips;
use rovnek_store::Store;
use std::path::PathBuf;
use std::sync::Arc;

#[derive(Args)]
pub struct Export {
    /// Folder of the production
    #[arg(long, default_value = "rovnek-data")]
    data: PathBuf,
    /// Number of the take on the slate
    #[arg(long)]
    take: u32,
    /// Format of OUT: csv, glb, tum, opentrackio, or axes (the machine's axes at the full rate)
    #[arg(long)]
    to: takeaway::As,
    /// As it was rolled, without its treatments
    #[arg(long)]
    raw: bool,
    /// File to write
    out: PathBuf,
}

impl Export {
    pub fn run(&self) -> Result<(), String> {
        if !self.data.join("rovnek.sqlite").exists() {
            return Err(format!("{} holds no production; name its folder with --data", self.data.display()));
        }
        let store = Store::open(&self.data).map_err(|e| e.to_string())?;
        let document = store.document().map_err(|e| e.to_string())?;
        let take =
            document.takes.iter().find(|t| t.number == self.take && t.pass.is_none()).ok_or_else(|| {
                let known: Vec<String> = document.takes.iter().map(|t| t.number.to_string()).collect();
                format!("there is no take {}; there are {}", self.take, known.join(", "))
            })?;
        let reader = store.reader().map_err(|e| e.to_string())?;
        let rig = take.rig.build(&take.camera);
        let raw = layers::samples(&reader, take, &document.passes(take.id), rig.axes());
        let raw = Arc::new(raw.map_err(|e| e.to_string())?);
        let treatments: &[_] = if self.raw { &[] } else { &take.treatments };
        let samples = Stages::default().treated(
            0,
            &raw,
            treatments,
            &Context { rig: &*rig, rate: document.scene.rate },
        );
        let scene = &document.scene;
        let mut clips = Clips::new();
        scenery::load_clips(&reader, &document, &mut clips).map_err(|e| e.to_string())?;
        let playing = scenery::Scenery::of(scene, &clips).playing;
        let goods = scenery::goods(&reader, &scene.pieces).map_err(|e| e.to_string())?;
        let around = takeaway::Around { scene, playing: &playing, goods: &goods };
        write_file(&self.out, &takeaway::file(self.to, &around, take, &*rig, &samples))
    }
}
