//! Rows of the database as things of the model.

use crate::history::Table;
use crate::model::{Rating, Scene, Setup, Take, from_column};
use crate::rolled::pass_of;
use crate::scene_edit::{PERFORMERS, PIECES, PerformanceName};
use crate::{Result, StoreError};
use rovnek_core::lens::LensSet;
use rovnek_core::performer::Performer;
use rovnek_core::set::Piece;
use rovnek_core::time::Rate;
use rusqlite::{Connection, Row};
use std::sync::Arc;

/// Rows of a query with one number in it, each made by `make`.
pub(crate) fn rows<T>(
    db: &Connection,
    sql: &str,
    id: u32,
    make: impl Fn(&Row) -> Result<T>,
) -> Result<Vec<T>> {
    let mut statement = db.prepare_cached(sql)?;
    let mut found = statement.query([id])?;
    let mut all = Vec::new();
    while let Some(row) = found.next()? {
        all.push(make(row)?);
    }
    Ok(all)
}

pub(crate) fn one<T>(
    db: &Connection,
    what: &'static str,
    sql: &str,
    id: u32,
    make: impl Fn(&Row) -> Result<T>,
) -> Result<T> {
    rows(db, sql, id, make)?.pop().ok_or(StoreError::Missing(what, id))
}

/// The production's name and its own lens sets.
pub(crate) fn production(db: &Connection) -> Result<(String, Vec<LensSet>)> {
    one(db, "production", "SELECT name, lens_sets FROM production WHERE id = ?1", 1, |r| {
        Ok((r.get(0)?, from_column("lens set", &r.get::<_, String>(1)?)?))
    })
}

/// A scene without what is in it.
pub(crate) fn scene(db: &Connection, id: u32) -> Result<Scene> {
    one(db, "scene", "SELECT * FROM scene WHERE id = ?1", id, |r| {
        Ok(Scene {
            id: r.get("id")?,
            number: r.get("number")?,
            name: r.get("name")?,
            rate: Rate { num: r.get("rate_num")?, den: r.get("rate_den")? },
            length_s: r.get("length_s")?,
            start_frame: r.get("start_frame")?,
            stage: from_column("stage", &r.get::<_, String>("stage")?)?,
            pieces: Arc::default(),
            performers: Arc::default(),
            performances: Vec::new(),
            performance: r.get("performance_id")?,
        })
    })
}

pub(crate) const PERFORMANCES: &str =
    "SELECT * FROM performance WHERE scene_id = ?1 AND binned_at IS NULL ORDER BY ord, id";

pub(crate) fn performance_of(row: &Row) -> Result<PerformanceName> {
    Ok(PerformanceName { id: row.get("id")?, name: row.get("name")? })
}

pub(crate) fn performance(db: &Connection, id: u32) -> Result<PerformanceName> {
    one(db, "performance", "SELECT * FROM performance WHERE id = ?1", id, performance_of)
}

pub(crate) fn piece_of(row: &Row) -> Result<Piece> {
    let piece: Piece = from_column("piece", &row.get::<_, String>("params")?)?;
    Ok(Piece { id: row.get("id")?, ..piece })
}

pub(crate) fn piece(db: &Connection, id: u32) -> Result<Piece> {
    one(db, "piece", "SELECT * FROM piece WHERE id = ?1", id, piece_of)
}

pub(crate) fn performer_of(row: &Row) -> Result<Performer> {
    let performer: Performer = from_column("performer", &row.get::<_, String>("params")?)?;
    Ok(Performer { id: row.get("id")?, ..performer })
}

pub(crate) fn performer(db: &Connection, id: u32) -> Result<Performer> {
    one(db, "performer", "SELECT * FROM performer WHERE id = ?1", id, performer_of)
}

pub(crate) fn setup_of(row: &Row) -> Result<Setup> {
    Ok(Setup {
        id: row.get("id")?,
        letter: row.get("letter")?,
        name: row.get("name")?,
        camera: from_column("camera", &row.get::<_, String>("camera")?)?,
        rig: from_column("rig", &row.get::<_, String>("rig")?)?,
        positions: from_column("positions", &row.get::<_, String>("positions")?)?,
        runs: row.get("runs")?,
        tracking: from_column("tracking", &row.get::<_, String>("tracking")?)?,
        binned: row.get::<_, Option<String>>("binned_at")?.is_some(),
    })
}

pub(crate) fn setup(db: &Connection, id: u32) -> Result<Setup> {
    one(db, "setup", "SELECT * FROM setup WHERE id = ?1", id, setup_of)
}

const TAKES: &str =
    "SELECT t.*, (SELECT coalesce(sum(samples), 0) FROM take_chunk c WHERE c.take_id = t.id) AS samples,
      (SELECT coalesce(sum(packets), 0) FROM take_packets p WHERE p.take_id = t.id) AS packets
    FROM take t";

fn take_of(row: &Row) -> Result<Take> {
    let (samples, rate_hz): (u32, f64) = (row.get("samples")?, row.get("rate_hz")?);
    let rating: String = row.get("rating")?;
    let flags: String = row.get("flags")?;
    Ok(Take {
        id: row.get("id")?,
        setup_id: row.get("setup_id")?,
        number: row.get("number")?,
        name: row.get("name")?,
        rating: Rating::of(&rating),
        note: row.get("note")?,
        rolled_at: row.get("rolled_at")?,
        rate: Rate { num: row.get("rate_num")?, den: row.get("rate_den")? },
        rate_hz,
        samples,
        length_s: f64::from(samples.saturating_sub(1)) / rate_hz,
        camera: from_column("camera", &row.get::<_, String>("camera")?)?,
        rig: from_column("rig", &row.get::<_, String>("rig")?)?,
        axes: serde_json::from_str(&row.get::<_, String>("axes")?)
            .map_err(|e| StoreError::Damaged("list of axes", e.to_string()))?,
        pass: pass_of(row)?,
        rolled: from_column("roll", &row.get::<_, String>("rolled")?)?,
        changed: Vec::new(),
        packets: row.get("packets")?,
        rolling: row.get("rolling")?,
        recovered: row.get("recovered")?,
        flags: flags.lines().map(Into::into).collect(),
        binned: row.get::<_, Option<String>>("binned_at")?.is_some(),
    })
}

pub(crate) fn take(db: &Connection, id: u32) -> Result<Take> {
    one(db, "take", &format!("{TAKES} WHERE t.id = ?1"), id, take_of)
}

/// The numbers of a scene's things, in their order.
pub(crate) fn ids(db: &Connection, table: Table, scene: u32) -> Result<Vec<u32>> {
    let sql = match table {
        Table::Piece => PIECES.replace('*', "id"),
        Table::Performer => PERFORMERS.replace('*', "id"),
        Table::Setup => "SELECT id FROM setup WHERE scene_id = ?1 ORDER BY ord, id".into(),
        Table::Take => "SELECT t.id FROM take t JOIN setup s ON s.id = t.setup_id
            WHERE s.scene_id = ?1 ORDER BY t.number, t.id"
            .into(),
        Table::Move => crate::moves::IDS.into(),
        Table::Curve | Table::Production | Table::Scene | Table::Performance => return Ok(Vec::new()),
    };
    rows(db, &sql, scene, |r| Ok(r.get(0)?))
}
