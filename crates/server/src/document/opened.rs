//! A production while it is open: what reads it, and what was worked out of it. Nothing of one production
//! is ever asked of another: whoever began with one goes on with it, though another has come onto the floor
//! meanwhile.

use crate::document::readers::Readers;
use crate::evaluated::moves::{From, MoveCache};
use crate::evaluated::scenery::{Scenery, load_clips, load_surfaces};
use crate::floor::riding::carried;
use crate::lock::lock;
use rovnek_core::clearance::MeshHulls;
use rovnek_core::ids::PerformanceId;
use rovnek_core::performer::Clips;
use rovnek_core::samples::Samples;
use rovnek_store::model::{Document, NewScene};
use rovnek_store::rows::reader::Reader;
use rovnek_store::shelf::Shelf;
use rovnek_store::{Result, Store};
use std::collections::VecDeque;
use std::path::PathBuf;
use std::sync::Mutex;
use tempfile::TempDir;

/// Most sceneries that are kept, each of another performance.
const SCENERIES: usize = 4;

/// What scenes were made ready with, and the last ones, newest first.
#[derive(Default)]
struct Sceneries {
    clips: Clips,
    surfaces: MeshHulls,
    last: VecDeque<Scenery>,
}

/// Reader of a production, and caches of what was worked out of it.
pub struct Opened {
    /// Id on the shelf; empty while none is open.
    pub id: String,
    readers: Readers,
    moves: MoveCache,
    scenery: Mutex<Sceneries>,
    /// Folder for an empty production while none is open.
    _nowhere: Option<TempDir>,
}

impl Opened {
    /// A production of the shelf.
    pub fn of(id: &str, file: PathBuf) -> Opened {
        Opened {
            id: id.into(),
            readers: Readers::new(file),
            moves: MoveCache::default(),
            scenery: Mutex::default(),
            _nowhere: None,
        }
    }

    /// No production: a bare stage that nobody can change and that is gone afterwards.
    pub fn nothing(shelf: &Shelf) -> std::result::Result<(Opened, Store), String> {
        let folder = shelf.passing().map_err(|e| e.to_string())?;
        let file = folder.path().join("nothing.sqlite");
        let mut store = Store::open(&file).map_err(|e| e.to_string())?;
        store.begin(&NewScene::empty("")).map_err(|e| e.to_string())?;
        Ok((Opened { _nowhere: Some(folder), ..Opened::of("", file) }, store))
    }

    /// Has something large read beside the store.
    pub fn read<T>(&self, what: impl FnOnce(&Reader) -> Result<T>) -> Result<T> {
        self.readers.read(what)
    }

    /// A document's scene made ready while a performance plays. The last sceneries are kept, so that going to and fro
    /// between performances works nothing out anew; what did not change in a performance is taken over from its last
    /// scenery.
    pub fn scenery(&self, document: &Document, performance: PerformanceId) -> Result<Scenery> {
        let mut kept = lock(&self.scenery);
        let Sceneries { clips, surfaces, last } = &mut *kept;
        let of_it = |s: &Scenery| s.performance() == performance;
        if let Some(place) = last.iter().position(|s| of_it(s) && s.fits(document)) {
            let scenery = last.remove(place).expect("it was found there");
            last.push_front(scenery.clone());
            return Ok(scenery);
        }
        self.read(|reader| {
            load_clips(reader, document, clips)?;
            load_surfaces(reader, &document.scene.pieces, surfaces)
        })?;
        let before = last.iter().find(|s| of_it(s));
        let bare = Scenery::again(before, document, performance, clips, surfaces);
        let read = |what: &dyn Fn(&Reader) -> Result<Samples>| self.read(what);
        let scenery = carried(document, bare, &self.moves, &read, surfaces);
        last.retain(|s| !of_it(s));
        last.truncate(SCENERIES - 1);
        last.push_front(scenery.clone());
        Ok(scenery)
    }

    /// All captured motion that was brought in.
    pub fn clips(&self, document: &Document) -> Result<Clips> {
        let clips = &mut lock(&self.scenery).clips;
        self.read(|reader| load_clips(reader, document, clips))?;
        Ok(clips.clone())
    }

    /// Has moves of a document worked out, while a performance plays.
    pub fn moves<T>(
        &self,
        document: &Document,
        performance: PerformanceId,
        work: impl FnOnce(&MoveCache, &From) -> Result<T>,
    ) -> Result<T> {
        let scenery = self.scenery(document, performance)?;
        let read = |what: &dyn Fn(&Reader) -> Result<Samples>| self.read(what);
        let from = From { document, scenery: &scenery, on_the_way: 0, read: &read };
        work(&self.moves, &from)
    }
}
