//! Performances: what everybody does in the scene, once.

use super::{At, Column, Missing, Owner, Thing, column};
use crate::edit::history::Edit;
use crate::edit::operations::name;
use crate::model::Performance;
use crate::rows::column::text;
use crate::rows::read::{in_row, one};
use crate::{Result, StoreError, now};
use rovnek_core::ids::{Id, PerformanceId, SceneId, ThingKind};
use rovnek_core::performer::Part;
use rovnek_core::set::PieceRoute;
use rusqlite::types::Value;
use rusqlite::{Connection, OptionalExtension};
use serde::Deserialize;

/// A new performance: in it everybody does what they do in the one it is made `like`.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct NewPerformance {
    name: String,
    like: PerformanceId,
}

impl Thing for Performance {
    const EDITED: &'static [&'static str] = &["name"];
    const COLUMNS: &'static [Column] = &[column::id_of("scene_id", ThingKind::Scene, Missing::Refused)];
    const OWNER: Owner = Owner::Scene;
    const ORDER: &'static str = "t.ord, t.id";
    const LISTS_BINNED: bool = false;
    const NAME: &'static str = "'the performance ' || t.name";

    fn read(db: &Connection, id: u32) -> Result<Performance> {
        let read = one(db, "performance", "SELECT id, name FROM performance WHERE id = ?1", id, |row| {
            Ok(Performance { id: PerformanceId(row.get(0)?), name: row.get(1)? })
        });
        in_row(super::Table::Performance, id, read)
    }

    fn write(edit: &mut Edit, at: At, _: &Performance, now: &Performance) -> Result<()> {
        name("the performance", &now.name)?;
        edit.update(at.row, &[("name", text(&now.name))])
    }

    fn add(edit: &mut Edit, scene: SceneId, path: &str, value: &serde_json::Value) -> Result<u32> {
        let new: NewPerformance = serde_json::from_value(value.clone())
            .map_err(|e| StoreError::Refused(format!("{path} cannot be so: {e}")))?;
        edit.check_new(scene, &new.like)?;
        name("the performance", &new.name)?;
        Ok(edit.add_performance(scene, &new.name, new.like)?.number())
    }

    fn bin(edit: &mut Edit, at: At) -> Result<()> {
        edit.bin_performance(at.scene, at.id())
    }
}

impl Edit<'_> {
    /// Adds a performance in which everybody does what they do in another, and shows it.
    pub fn add_performance(
        &mut self,
        scene: SceneId,
        name: &str,
        like: PerformanceId,
    ) -> Result<PerformanceId> {
        let sql = "INSERT INTO performance (scene_id, ord, name, binned_at)
            SELECT ?1, coalesce(max(ord) + 1, 0), ?2, ?3 FROM performance WHERE scene_id = ?1";
        self.db().execute(sql, (scene.0, name, now()))?;
        let performance = PerformanceId(self.db().last_insert_rowid() as u32);
        self.update(performance, &[("binned_at", Value::Null)])?;
        for mut performer in self.performers(scene)? {
            if let Some(part) = performer.part(like).cloned() {
                performer.parts.push(Part { performance, ..part });
                self.put(&performer)?;
            }
        }
        for mut piece in self.pieces(scene)? {
            if let Some(route) = piece.route(like).cloned() {
                piece.routes.push(PieceRoute { performance, route });
                self.put(&piece)?;
            }
        }
        self.show_performance(scene, performance)?;
        Ok(performance)
    }

    /// Refuses a performance that is not of the scene, or in the bin.
    pub(crate) fn must_play(&self, scene: SceneId, id: PerformanceId) -> Result<()> {
        let sql = "SELECT count(*) FROM performance WHERE scene_id = ?1 AND id = ?2 AND binned_at IS NULL";
        let known: u32 = self.db().query_row(sql, (scene.0, id.0), |r| r.get(0))?;
        if known == 0 { Err(StoreError::Missing("performance", id.0)) } else { Ok(()) }
    }

    /// Chooses the performance that plays.
    pub fn show_performance(&mut self, scene: SceneId, id: PerformanceId) -> Result<()> {
        self.must_play(scene, id)?;
        self.update(scene, &[("performance_id", Value::Integer(id.0.into()))])
    }

    /// Puts a performance into the bin; another one plays then. The last one stays.
    fn bin_performance(&mut self, scene: SceneId, id: PerformanceId) -> Result<()> {
        let sql = "SELECT id FROM performance WHERE scene_id = ?1 AND id <> ?2 AND binned_at IS NULL ORDER BY ord LIMIT 1";
        let other: Option<u32> = self.db().query_row(sql, (scene.0, id.0), |r| r.get(0)).optional()?;
        let Some(other) = other else {
            return Err(StoreError::Refused("a scene needs a performance; add another one first".into()));
        };
        self.bin(id)?;
        let playing: u32 =
            self.db().query_row("SELECT performance_id FROM scene WHERE id = ?1", [scene.0], |r| r.get(0))?;
        if playing == id.0 { self.show_performance(scene, PerformanceId(other)) } else { Ok(()) }
    }
}
