//! Rows of the database as things of the model.

use crate::column::from_column;
use crate::model::{Move, PassOf, PerformanceName, Rating, Scene, Setup, Source, Take};
use crate::table::Table;
use crate::{Result, StoreError};
use rovnek_core::lens::LensSet;
use rovnek_core::list::List;
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
            binned: r.get::<_, Option<String>>("binned_at")?.is_some(),
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

pub(crate) const PIECES: &str =
    "SELECT * FROM piece WHERE scene_id = ?1 AND binned_at IS NULL ORDER BY ord, id";
pub(crate) fn piece_of(row: &Row) -> Result<Piece> {
    let piece: Piece = from_column("piece", &row.get::<_, String>("params")?)?;
    Ok(Piece { id: row.get("id")?, ..piece })
}

pub(crate) fn piece(db: &Connection, id: u32) -> Result<Piece> {
    one(db, "piece", "SELECT * FROM piece WHERE id = ?1", id, piece_of)
}

pub(crate) const PERFORMERS: &str =
    "SELECT * FROM performer WHERE scene_id = ?1 AND binned_at IS NULL ORDER BY ord, id";
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

fn pass_of(row: &Row) -> Result<Option<PassOf>> {
    let Some(take) = row.get::<_, Option<u32>>("pass_of")? else { return Ok(None) };
    let placement = from_column("pass", &row.get::<_, String>("pass")?)?;
    Ok(Some(PassOf { take, placement, muted: row.get("muted")? }))
}

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

const CURVES: &str = "SELECT axis, keys FROM curve WHERE move_id = ?1";

pub(crate) fn move_of(db: &Connection, row: &Row) -> Result<Move> {
    let id = row.get("id")?;
    let curves = rows(db, CURVES, id, |r| {
        let keys: List<_> = from_column("curve", &r.get::<_, String>(1)?)?;
        Ok((r.get::<_, String>(0)?, keys))
    })?;
    let optional = |name: &str| row.get::<_, Option<String>>(name);
    let source = match (row.get("take_id")?, row.get("follows")?) {
        (Some(take), _) => Source::Take { take },
        (None, Some(of)) => Source::Follow { of },
        (None, None) => Source::Curves,
    };
    Ok(Move {
        id,
        setup_id: row.get("setup_id")?,
        name: row.get("name")?,
        source,
        variant_of: row.get("variant_of")?,
        chosen: row.get("chosen")?,
        curves: curves.into_iter().filter(|(_, keys)| !keys.is_empty()).collect(),
        treatments: from_column("treatments", &row.get::<_, String>("treatments")?)?,
        camera: optional("camera")?.map(|c| from_column("camera", &c)).transpose()?,
        rig: optional("rig")?.map(|r| from_column("rig", &r)).transpose()?,
        binned: optional("binned_at")?.is_some(),
    })
}

/// One move.
pub(crate) fn a_move(db: &Connection, id: u32) -> Result<Move> {
    one(db, "move", "SELECT * FROM move WHERE id = ?1", id, |row| move_of(db, row))
}

/// The move that a curve belongs to.
pub(crate) fn owner(db: &Connection, curve: u32) -> Result<u32> {
    one(db, "curve", "SELECT move_id FROM curve WHERE id = ?1", curve, |r| Ok(r.get(0)?))
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
        Table::Move => "SELECT m.id FROM move m JOIN setup s ON s.id = m.setup_id
            WHERE s.scene_id = ?1 ORDER BY m.id"
            .into(),
        Table::Curve | Table::Production | Table::Scene | Table::Performance => return Ok(Vec::new()),
    };
    rows(db, &sql, scene, |r| Ok(r.get(0)?))
}
