//! The document as it was last read: only rows that were touched since are read again.

use crate::fingerprints::Fingerprints;
use crate::model::{Document, Move, Rolled, Scene, Setup, Take};
use crate::table::Table;
use crate::{Result, Store, read, scenes};
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
        touched: &BTreeSet<(Table, u32)>,
        fingerprints: &mut Fingerprints,
    ) -> Result<Document> {
        let db = &self.connection;
        let any = |table: Table| known.is_none() || touched.iter().any(|(t, _)| *t == table);
        let (production, lens_sets) = match known {
            Some(d) if !any(Table::Production) => (d.production.clone(), d.lens_sets.clone()),
            _ => read::production(db)?,
        };
        let mut scene = match known {
            Some(d) if !any(Table::Scene) => d.scene.clone(),
            _ => read::scene(db, self.scene())?,
        };
        let old = known.map(|d| &d.scene);
        let list = Reading { db, touched, scene: scene.id };
        scene.pieces = list.of(Table::Piece, old.map(|s| &s.pieces), |p| p.id, read::piece)?;
        scene.performers =
            list.of(Table::Performer, old.map(|s| &s.performers), |p| p.id, read::performer)?;
        scene.performances = match old {
            Some(s) if !any(Table::Performance) => s.performances.clone(),
            _ => read::rows(db, read::PERFORMANCES, scene.id, read::performance_of)?,
        };
        let setups = list.of(Table::Setup, known.map(|d| &d.setups), |s: &Setup| s.id, read::setup)?;
        let mut takes = list.of(Table::Take, known.map(|d| &d.takes), |t: &Take| t.id, read::take)?;
        let moves = list.of(Table::Move, known.map(|d| &d.moves), |m: &Move| m.id, read::a_move)?;
        if [Table::Scene, Table::Piece, Table::Performer, Table::Performance, Table::Take]
            .into_iter()
            .any(any)
        {
            compare(&mut takes, &scene, fingerprints);
        }
        let scenes = match known {
            Some(d) if !any(Table::Scene) && !any(Table::Setup) && !any(Table::Take) => d.scenes.clone(),
            _ => Arc::new(scenes::lines(db)?),
        };
        let next_take = takes.iter().map(|t| t.number).max().unwrap_or(0) + 1;
        let (assets, history) = (self.assets()?, self.history()?);
        Ok(Document {
            production,
            scenes,
            scene,
            setups,
            takes,
            next_take,
            moves,
            lens_sets,
            assets,
            history,
        })
    }

    /// A roll against the scene as it is now.
    pub fn rolled_against(&self) -> Result<Rolled> {
        let document = self.document()?;
        let scene = &document.scene;
        let movers = self.read.state().fingerprints.of(scene, scene.performance);
        Ok(Rolled { performance: scene.performance, movers, ..Rolled::default() })
    }

    /// One setup.
    pub fn setup(&self, id: u32) -> Result<Setup> {
        read::setup(&self.connection, id)
    }

    /// One take, without what has changed since.
    pub fn take(&self, id: u32) -> Result<Take> {
        read::take(&self.connection, id)
    }
}

/// Says of every take what has changed since it was rolled.
fn compare(takes: &mut Arc<Vec<Take>>, scene: &Scene, fingerprints: &mut Fingerprints) {
    let mut now: BTreeMap<u32, BTreeMap<String, String>> = BTreeMap::new();
    let mut fresh = Vec::with_capacity(takes.len());
    for take in takes.iter() {
        let performance = take.rolled.performance;
        let fingerprints = now.entry(performance).or_insert_with(|| fingerprints.of(scene, performance));
        fresh.push(take.rolled.changed(scene, fingerprints));
    }
    if takes.iter().zip(&fresh).any(|(take, changed)| take.changed != *changed) {
        let takes = Arc::make_mut(takes);
        takes.iter_mut().zip(fresh).for_each(|(take, changed)| take.changed = changed);
    }
}

struct Reading<'a> {
    db: &'a Connection,
    touched: &'a BTreeSet<(Table, u32)>,
    scene: u32,
}

impl Reading<'_> {
    /// A list of the scene's things: the known one where none of them was touched, else with those
    /// that were read again.
    fn of<T: Clone>(
        &self,
        table: Table,
        known: Option<&Arc<Vec<T>>>,
        id_of: impl Fn(&T) -> u32,
        one: impl Fn(&Connection, u32) -> Result<T>,
    ) -> Result<Arc<Vec<T>>> {
        let any = self.touched.iter().any(|(t, _)| *t == table);
        if let (Some(known), false) = (known, any) {
            return Ok(known.clone());
        }
        let old: BTreeMap<u32, &T> = known.iter().flat_map(|l| l.iter()).map(|t| (id_of(t), t)).collect();
        let read = |id: u32| match old.get(&id) {
            Some(known) if !self.touched.contains(&(table, id)) => Ok((*known).clone()),
            _ => one(self.db, id),
        };
        let ids = read::ids(self.db, table, self.scene)?;
        Ok(Arc::new(ids.into_iter().map(read).collect::<Result<Vec<T>>>()?))
    }
}
