//! References of edits: what an edit newly refers to must be there. What was there once and is gone meanwhile
//! stays named, so that undo and the bin can bring it back.

use crate::edit::history::Edit;
use crate::things::{At, RowId, Table};
use crate::{Result, StoreError};
use rovnek_core::ids::{SceneId, ThingKind};
use rovnek_core::references::{Reference, references};
use rusqlite::OptionalExtension;
use serde::Serialize;
use std::collections::BTreeSet;

impl Edit<'_> {
    /// Refuses a thing that refers to something that is not there and was not referred to before.
    pub(crate) fn check_references<T: Serialize>(&self, at: At, was: &T, now: &T) -> Result<()> {
        let scene = if at.row.table == Table::Scene { at.id() } else { at.scene };
        let kinds = |all: Vec<Reference>| all.into_iter().map(|r| (r.kind, r.id)).collect::<BTreeSet<_>>();
        let (known, now) = (kinds(references(was)), kinds(references(now)));
        now.difference(&known).try_for_each(|(kind, id)| self.must_be_there(scene, *kind, *id))
    }

    /// Refuses something new that refers to something that is not there.
    pub(crate) fn check_new<T: Serialize>(&self, scene: SceneId, new: &T) -> Result<()> {
        // An id of its own is given to it; one that it was sent with means nothing.
        let all = references(new).into_iter().filter(|r| r.pointer != "/id");
        all.into_iter().try_for_each(|r| self.must_be_there(scene, r.kind, r.id))
    }

    fn must_be_there(&self, scene: SceneId, kind: ThingKind, id: u32) -> Result<()> {
        let there = match (kind, Table::of(kind)) {
            // Pieces that share a number are a group; there is nothing else to it.
            (ThingKind::Group, _) => true,
            (_, Some(table)) => self.scene_of(RowId::new(table, id)).is_ok_and(|of| of == scene),
            (_, None) => {
                let sql = "SELECT 1 FROM asset WHERE id = ?1 AND kind = ?2";
                let found = self.db().prepare_cached(sql)?.query_row((id, kind.word()), |_| Ok(()));
                found.optional()?.is_some()
            }
        };
        if there { Ok(()) } else { Err(StoreError::Missing(kind.word(), id)) }
    }
}
