//! The document as it was last read: only rows that were touched since are read again.

use crate::edit::scenes;
use crate::layout::fingerprints::Fingerprints;
use crate::model::{Document, Rolled, Setup, Take};
use crate::rows::read;
use crate::things::{Listed, Lists, Production, RowId, Table, Thing};
use crate::versions::{MOVERS, Versions};
use crate::{Result, Store};
use rovnek_core::ids::{Id, PerformanceId, SceneId, SetupId, TakeId};
use rusqlite::Connection;
use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;

impl Store {
    /// Everything but the samples, as it is now.
    pub fn document(&self) -> Result<Arc<Document>> {
        let state = &mut *self.read.state();
        if let (Some(known), true) = (&state.document, state.touched.is_empty()) {
            return Ok(known.clone());
        }
        let touched = std::mem::take(&mut state.touched);
        state.fingerprints.forget(&touched);
        // Should reading fail, the next one reads everything.
        let known = state.document.take();
        let fresh = Arc::new(self.reread(known.as_deref(), &touched, &mut state.fingerprints)?);
        state.document = Some(fresh.clone());
        Ok(fresh)
    }

    fn reread(
        &self,
        known: Option<&Document>,
        touched: &BTreeSet<RowId>,
        fingerprints: &mut Fingerprints,
    ) -> Result<Document> {
        let db = &self.connection;
        let any = |table: Table| known.is_none() || touched.iter().any(|row| row.table == table);
        let Production { name: production, lens_sets } = match known {
            Some(d) if !any(Table::Production) => {
                Production { name: d.production.clone(), lens_sets: d.lens_sets.clone() }
            }
            _ => Production::read(db, 1)?,
        };
        let scene = match known {
            Some(d) if !any(Table::Scene) => d.scene.clone(),
            _ => read::scene(db, self.scene())?,
        };
        let scenes = match known {
            Some(d) if !any(Table::Scene) && !any(Table::Setup) && !any(Table::Take) => d.scenes.clone(),
            _ => Arc::new(scenes::lines(db)?),
        };
        let reading = Reading { db, touched, scene: scene.id };
        let mut document = Document {
            production,
            scenes,
            scene,
            lists: Lists::default(),
            next_take: 1,
            lens_sets,
            assets: self.assets()?,
            history: self.history()?,
            versions: Versions::default(),
        };
        document.read_lists(known, &reading)?;
        if let Some(known) = known {
            document.take_over(known);
        }
        if [Table::Scene, Table::Piece, Table::Performer, Table::Performance, Table::Take]
            .into_iter()
            .any(any)
        {
            let changed = compared(&document, fingerprints);
            let takes = &document.lists.takes;
            if takes.iter().zip(&changed).any(|(take, changed)| take.changed != *changed) {
                let takes = Arc::make_mut(&mut document.lists.takes);
                takes.iter_mut().zip(changed).for_each(|(take, changed)| take.changed = changed);
            }
        }
        document.next_take += document.takes.iter().map(|t| t.number).max().unwrap_or(0);
        Ok(document)
    }

    /// A roll against the scene as it is now.
    pub fn rolled_against(&self) -> Result<Rolled> {
        let document = self.document()?;
        let performance = document.scene.performance;
        Ok(Rolled { performance, movers: document.movers(performance), ..Rolled::default() })
    }

    /// One setup.
    pub fn setup(&self, id: SetupId) -> Result<Setup> {
        read::setup(&self.connection, id)
    }

    /// One take, without what has changed since.
    pub fn take(&self, id: TakeId) -> Result<Take> {
        read::take(&self.connection, id)
    }
}

/// What has changed since each take was rolled. Takes of earlier versions are compared by numbers that are made
/// as theirs were.
fn compared(document: &Document, fingerprints: &mut Fingerprints) -> Vec<Vec<String>> {
    let mut now: BTreeMap<(PerformanceId, bool), BTreeMap<String, String>> = BTreeMap::new();
    let mut changed = |take: &Take| {
        let performance = take.rolled.performance;
        let earlier = take.rolled.movers.values().any(|number| !number.starts_with(MOVERS));
        let movers = now.entry((performance, earlier)).or_insert_with(|| match earlier {
            true => fingerprints.of(&document.scene, performance),
            false => document.movers(performance),
        });
        take.rolled.changed(&document.scene, movers)
    };
    document.takes.iter().map(&mut changed).collect()
}

/// Reading of a document after an edit.
pub(crate) struct Reading<'a> {
    db: &'a Connection,
    touched: &'a BTreeSet<RowId>,
    scene: SceneId,
}

impl Reading<'_> {
    /// A list of the scene's things: the known one where none of them was touched, else with those
    /// that were read again.
    pub(crate) fn of<T: Thing + Listed>(
        &self,
        table: Table,
        known: Option<&Arc<Vec<T>>>,
    ) -> Result<Arc<Vec<T>>> {
        let any = self.touched.iter().any(|row| row.table == table);
        if let (Some(known), false) = (known, any) {
            return Ok(known.clone());
        }
        let old: BTreeMap<u32, &T> =
            known.iter().flat_map(|l| l.iter()).map(|t| (t.id().number(), t)).collect();
        let read = |id: u32| match old.get(&id) {
            Some(known) if !self.touched.contains(&RowId::new(table, id)) => Ok((*known).clone()),
            _ => T::read(self.db, id),
        };
        let ids = table.ids(self.db, self.scene)?;
        Ok(Arc::new(ids.into_iter().map(read).collect::<Result<Vec<T>>>()?))
    }
}
