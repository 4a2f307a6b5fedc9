//! Moves: what a camera does over time, however it came to be. A move is a row; what is keyed of it
//! is a row for each axis.
//!
//! A take gets its move when it is closed. Others of the same take, or of the same keyed move, are
//! variants: siblings of which one is chosen.

use crate::edit::history::Edit;
use crate::model::{Move, NewMove, Source};
use crate::rows::column::column;
use crate::rows::read;
use crate::rows::read::{a_move, move_of, rows};
use crate::things::{RowId, Table};
use crate::{Result, StoreError, now};
use rovnek_core::ids::{MoveId, PerformanceId, SceneId, SetupId, TakeId};
use rovnek_core::keys::{Curves, check};
use rovnek_core::lens::Camera;
use rovnek_core::list::List;
use rovnek_core::rigs::Rigging;
use rovnek_core::treatments::{Treatment, check_list};
use rusqlite::types::Value;
use rusqlite::{Connection, OptionalExtension, Transaction};

/// Moves of a setup, at the most.
const MOST: u32 = 1000;

/// Gives every closed take that has none its move. Passes have none of their own.
pub(crate) fn of_takes(db: &Connection) -> Result<()> {
    db.execute_batch(
        "INSERT INTO move (setup_id, take_id) SELECT setup_id, id FROM take
         WHERE pass_of IS NULL AND NOT rolling AND id NOT IN (SELECT take_id FROM move WHERE take_id IS NOT NULL)
         ORDER BY id",
    )?;
    Ok(())
}

/// The move of a take that is closed just now; none for a pass.
pub(crate) fn of_take(db: &Connection, take: TakeId) -> Result<Option<MoveId>> {
    of_takes(db)?;
    let sql = "SELECT id FROM move WHERE take_id = ?1 ORDER BY id LIMIT 1";
    Ok(db.query_row(sql, [take.0], |r| r.get(0)).optional()?.map(MoveId))
}

fn refused(sentence: impl Into<String>) -> StoreError {
    StoreError::Refused(sentence.into())
}

impl Edit<'_> {
    /// One move.
    pub fn a_move(&self, id: MoveId) -> Result<Move> {
        a_move(self.db(), id)
    }

    /// All moves of a setup.
    fn moves_of(&self, setup: SetupId) -> Result<Vec<Move>> {
        rows(self.db(), "SELECT * FROM move WHERE setup_id = ?1 ORDER BY id", setup.0, |r| {
            move_of(self.db(), r)
        })
    }

    /// Adds a move; its number.
    pub fn add_move(&mut self, new: &NewMove) -> Result<MoveId> {
        let setup = read::setup(self.db(), new.setup_id)?;
        let there = self.moves_of(new.setup_id)?;
        if there.len() as u32 >= MOST {
            return Err(refused(format!("setup {} has {MOST} moves; empty the bin first", setup.letter)));
        }
        let like = new.variant_of.map(|id| self.a_move(id)).transpose()?;
        let source = like.as_ref().map_or(new.source, |l| l.source);
        match source {
            Source::Take { .. } if like.is_none() => {
                return Err(refused("a take has its move already; make a variant of that"));
            }
            Source::Follow { of } if like.is_none() => {
                let other = self.a_move(of)?;
                let scene = self.scene_of(new.setup_id)?;
                if other.binned || self.scene_of(of)? != scene {
                    return Err(StoreError::Missing("move", of.0));
                }
            }
            _ => {}
        }
        if like.as_ref().is_some_and(|l| l.setup_id != new.setup_id) {
            return Err(refused("a variant belongs to the setup of the move it is made of"));
        }
        let (take, follows) = match source {
            Source::Take { take } => (Some(take.0), None),
            Source::Curves => (None, None),
            Source::Follow { of } => (None, Some(of.0)),
        };
        let performance = like.as_ref().map_or(new.performance, |l| l.performance).map(|p| p.0);
        let first = like.as_ref().map(|l| l.variant_of.unwrap_or(l.id).0);
        self.db().execute(
            "INSERT INTO move (setup_id, take_id, follows, performance_id, variant_of, chosen, name, binned_at)
             VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8)",
            (new.setup_id.0, take, follows, performance, first, like.is_none(), &new.name, now()),
        )?;
        let id = MoveId(self.db().last_insert_rowid() as u32);
        self.update(id, &[("binned_at", Value::Null)])?;
        if let Some(like) = &like {
            self.write_curves(id, &Curves::new(), &like.curves)?;
            self.treat(id, &like.treatments)?;
            self.own(id, like.camera.as_ref(), like.rig.as_ref())?;
            self.choose(id)?;
        } else {
            self.write_curves(id, &Curves::new(), &new.curves)?;
        }
        if new.run {
            self.run(new.setup_id, Some(id))?;
        }
        Ok(id)
    }

    /// Sets the performance that a move plays against; none for that of its take or scene.
    pub fn play_against(
        &mut self,
        scene: SceneId,
        id: MoveId,
        performance: Option<PerformanceId>,
    ) -> Result<()> {
        performance.map_or(Ok(()), |p| self.must_play(scene, p))?;
        let value = performance.map_or(Value::Null, |p| Value::Integer(p.0.into()));
        self.update(id, &[("performance_id", value)])
    }

    /// Sets what is done to a move.
    pub fn treat(&mut self, id: MoveId, treatments: &List<Treatment>) -> Result<()> {
        check_list(treatments).map_err(|e| refused(e.sentence))?;
        self.update(id, &[("treatments", column(treatments))])
    }

    /// Sets a move's own camera and machine; none for those of its take or setup.
    pub fn own(&mut self, id: MoveId, camera: Option<&Camera>, rig: Option<&Rigging>) -> Result<()> {
        camera.map_or(Ok(()), Camera::check)?;
        rig.map_or(Ok(()), |r| r.spec.check())?;
        let text = |value: Option<Value>| value.unwrap_or(Value::Null);
        let columns = [("camera", text(camera.map(column))), ("rig", text(rig.map(column)))];
        self.update(id, &columns)
    }

    /// Writes the curves that changed, each in the order of time.
    pub(crate) fn write_curves(&mut self, id: MoveId, before: &Curves, after: &Curves) -> Result<()> {
        let names: std::collections::BTreeSet<&String> = before.keys().chain(after.keys()).collect();
        for axis in names {
            let mut keys = after.get(axis).cloned().unwrap_or_default();
            keys.sort_by(|a, b| a.time_s.total_cmp(&b.time_s));
            if before.get(axis) == Some(&keys) {
                continue;
            }
            if axis.is_empty() || axis.len() > 60 {
                return Err(refused("an axis has a name of 1 to 60 letters"));
            }
            check(&Curves::from([(axis.clone(), keys.clone())])).map_err(|e| refused(e.sentence))?;
            let insert = "INSERT OR IGNORE INTO curve (move_id, axis) VALUES (?1, ?2)";
            self.db().prepare_cached(insert)?.execute((id.0, axis))?;
            let find = "SELECT id FROM curve WHERE move_id = ?1 AND axis = ?2";
            let curve: u32 = self.db().prepare_cached(find)?.query_row((id.0, axis), |r| r.get(0))?;
            self.update(RowId::new(Table::Curve, curve), &[("keys", column(&keys))])?;
        }
        Ok(())
    }

    /// Shows a move and none of its siblings.
    pub fn choose(&mut self, id: MoveId) -> Result<()> {
        let chosen = self.a_move(id)?;
        for sibling in self.moves_of(chosen.setup_id)?.iter().filter(|m| m.of_one(&chosen)) {
            self.update(sibling.id, &[("chosen", Value::Integer((sibling.id == id).into()))])?;
        }
        Ok(())
    }

    /// Puts a move into the bin, or back. A take keeps one; what others follow stays.
    pub fn bin_move(&mut self, id: MoveId, binned: bool) -> Result<()> {
        let this = self.a_move(id)?;
        let all = self.moves_of(this.setup_id)?;
        let other = all.iter().rfind(|m| m.id != id && !m.binned && m.of_one(&this));
        if !binned {
            self.update(id, &[("binned_at", Value::Null)])?;
            return match other {
                Some(_) => self.update(id, &[("chosen", Value::Integer(0))]),
                None => self.choose(id),
            };
        }
        if this.take().is_some() && other.is_none() {
            return Err(refused("a take keeps its move; bin the take, or take its treatments away"));
        }
        let followers = "SELECT count(*) FROM move WHERE follows = ?1 AND binned_at IS NULL";
        if self.db().query_row(followers, [id.0], |r| r.get::<_, u32>(0))? > 0 {
            return Err(refused("another move follows this one; bin that one first"));
        }
        self.bin(id)?;
        if let Some(other) = other.filter(|_| this.chosen) {
            self.choose(other.id)?;
        }
        if read::setup(self.db(), this.setup_id)?.runs == Some(id) {
            self.run(this.setup_id, None)?;
        }
        Ok(())
    }

    /// The move that a setup's machine runs from now on, or none.
    pub fn run(&mut self, setup: SetupId, runs: Option<MoveId>) -> Result<()> {
        if let Some(id) = runs {
            let this = self.a_move(id)?;
            if this.setup_id != setup || this.binned {
                return Err(StoreError::Missing("move of this setup", id.0));
            }
            if this.take().is_some() {
                return Err(refused("a take is not driven again; make keys of it, or follow it"));
            }
            if this.rig.is_some() {
                return Err(refused("that move belongs to another machine than the setup has now"));
            }
        }
        let runs = runs.map_or(Value::Null, |id| Value::Integer(id.0.into()));
        self.update(setup, &[("runs", runs)])
    }

    /// A setup gets another kind of machine: its moves keep the one they have.
    pub(crate) fn keep_machine(&mut self, setup: SetupId, camera: &Camera, rig: &Rigging) -> Result<()> {
        for m in self.moves_of(setup)?.iter().filter(|m| m.take().is_none() && m.rig.is_none()) {
            self.own(m.id, Some(m.camera.as_ref().unwrap_or(camera)), Some(rig))?;
        }
        self.run(setup, None)
    }
}

/// Removes moves of takes that are removed, and binned moves of a scene that nothing needs; which. What
/// is left of their siblings finds another first.
pub(crate) fn empty(tx: &Transaction, scene: SceneId, takes: &[u32]) -> Result<Vec<u32>> {
    let followed: Vec<u32> = tx
        .prepare("SELECT follows FROM move WHERE follows IS NOT NULL AND binned_at IS NULL")?
        .query_map([], |r| r.get(0))?
        .collect::<rusqlite::Result<_>>()?;
    let binned = "SELECT m.id, m.take_id, m.binned_at IS NOT NULL, m.variant_of
        FROM move m JOIN setup s ON s.id = m.setup_id WHERE s.scene_id = ?1";
    let all: Vec<(u32, Option<u32>, bool, Option<u32>)> = tx
        .prepare(binned)?
        .query_map([scene.0], |r| Ok((r.get(0)?, r.get(1)?, r.get(2)?, r.get(3)?)))?
        .collect::<rusqlite::Result<_>>()?;
    let goes = |(id, take, binned, _): &&(u32, Option<u32>, bool, Option<u32>)| {
        take.is_some_and(|t| takes.contains(&t)) || *binned && !followed.contains(id)
    };
    let gone: Vec<u32> = all.iter().filter(goes).map(|m| m.0).collect();
    for id in &gone {
        let left = |m: &&(u32, Option<u32>, bool, Option<u32>)| m.3 == Some(*id) && !gone.contains(&m.0);
        let heir = all.iter().find(left).map(|m| m.0);
        tx.execute("UPDATE move SET variant_of = nullif(?2, id) WHERE variant_of = ?1", (id, heir))?;
        // Only a move that goes as well can follow one that goes.
        tx.execute("UPDATE move SET follows = NULL WHERE follows = ?1", [id])?;
        tx.execute("UPDATE setup SET runs = NULL WHERE runs = ?1", [id])?;
        tx.execute("DELETE FROM curve WHERE move_id = ?1", [id])?;
    }
    for id in &gone {
        tx.execute("DELETE FROM move WHERE id = ?1", [id])?;
    }
    Ok(gone)
}
