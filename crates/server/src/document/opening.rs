//! A production made ready before it comes onto the floor: read, checked, staged. What cannot be made ready
//! leaves everything as it is, is told by name, and the shelf remembers why.

use crate::document::opened::Opened;
use crate::floor::staging::staged;
use rovnek_live::floor::Staged;
use rovnek_store::Store;
use rovnek_store::model::Document;
use rovnek_store::shelf::Shelf;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::sync::Arc;

/// A production that can come onto the floor.
pub struct Ready {
    /// Reader of the production with its caches.
    pub opened: Opened,
    /// Database of the production.
    pub store: Store,
    /// The scene that was worked on last.
    pub document: Arc<Document>,
    /// The revision of that document.
    pub revision: u64,
    /// The scene as the floor needs it.
    pub staged: Staged,
}

impl Ready {
    /// A production of the shelf; its revisions begin at `least` or above.
    pub fn of(shelf: &Shelf, id: &str, least: u64) -> Result<Ready, String> {
        // A file may hold what nobody has thought of: a panic over it is an answer as well.
        let made = catch_unwind(AssertUnwindSafe(|| Ready::made(shelf, id, least)));
        made.unwrap_or_else(|_| Err("it holds something that Rovnek cannot work with".into())).map_err(
            |why| {
                let sentence = format!("{id}.sqlite cannot be opened: {why}");
                shelf.not_opened(id, &sentence);
                sentence
            },
        )
    }

    fn made(shelf: &Shelf, id: &str, least: u64) -> Result<Ready, String> {
        let store = shelf.open_one(id).map_err(|e| e.to_string())?;
        let opened = Opened::of(id, store.file().to_path_buf());
        Ready::around(opened, store, least)
    }

    /// No production: a bare stage that is gone afterwards.
    pub fn nothing(shelf: &Shelf) -> Result<Ready, String> {
        let (opened, store) = Opened::nothing(shelf)?;
        Ready::around(opened, store, now_ms())
    }

    fn around(opened: Opened, mut store: Store, least: u64) -> Result<Ready, String> {
        let said = |e: rovnek_store::StoreError| e.to_string();
        let document = store.document().map_err(said)?;
        let revision = store.claim_revisions(least).map_err(said)?;
        let plays = document.scene.performance;
        let staged = opened.moves(&document, plays, |moves, from| Ok(staged(moves, from)));
        let staged = staged.map_err(said)?;
        if staged.setups.is_empty() {
            return Err(format!("scene {} has no setup", document.scene.number));
        }
        Ok(Ready { opened, store, document, revision, staged })
    }
}

/// The first revision of a process, unless the store knows a higher one: milliseconds since 1970.
pub fn now_ms() -> u64 {
    std::time::UNIX_EPOCH.elapsed().map_or(0, |d| d.as_millis() as u64)
}
