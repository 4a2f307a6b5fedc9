//! Rows of the database as things of the model.

use crate::column::from_column;
use crate::model::{Move, PassOf, PerformanceName, Rating, Scene, Setup, Source, Take};
use crate::table::Table;
use crate::{Result, StoreError};
use rovnek_core::keys;
use rovnek_core::lens::{Camera, LensSet};
use rovnek_core::list::List;
use rovnek_core::params::Invalid;
use rovnek_core::performer::Performer;
use rovnek_core::rigs::Rigging;
use rovnek_core::set::{Piece, Stage};
use rovnek_core::time::Rate;
use rovnek_core::tracked::Tracking;
use rovnek_core::treatments::{Treatment, check_list};
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

/// A thing out of a row, if it is one that an edit could have put there: a file may have come from anywhere.
fn checked<T>(thing: T, check: impl FnOnce(&T) -> std::result::Result<(), Invalid>) -> Result<T> {
    check(&thing)?;
    Ok(thing)
}

fn check_rate(rate: Rate) -> Result<Rate> {
    Rate::new(rate.num, rate.den).map_err(|e| StoreError::Refused(e.to_string()))
}

/// A camera out of a column.
fn camera_of(text: &str) -> Result<Camera> {
    checked(from_column("camera", text)?, Camera::check)
}

/// A machine out of a column.
fn rig_of(text: &str) -> Result<Rigging> {
    checked(from_column::<Rigging>("rig", text)?, |rig| rig.spec.check())
}

/// Says of an error in which row it is.
fn in_row<T>(table: Table, id: u32, read: Result<T>) -> Result<T> {
    read.map_err(|source| match source {
        known @ (StoreError::Missing(..) | StoreError::Row { .. }) => known,
        source => StoreError::Row { kind: table.name(), id, source: Box::new(source) },
    })
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
    let read = one(db, "production", "SELECT name, lens_sets FROM production WHERE id = ?1", 1, |r| {
        let sets: Vec<LensSet> = from_column("lens set", &r.get::<_, String>(1)?)?;
        Ok((r.get(0)?, checked(sets, |sets| sets.iter().try_for_each(LensSet::check))?))
    });
    in_row(Table::Production, 1, read)
}

/// A scene without what is in it.
pub(crate) fn scene(db: &Connection, id: u32) -> Result<Scene> {
    let read = one(db, "scene", "SELECT * FROM scene WHERE id = ?1", id, |r| {
        Ok(Scene {
            id: r.get("id")?,
            number: r.get("number")?,
            name: r.get("name")?,
            rate: check_rate(Rate { num: r.get("rate_num")?, den: r.get("rate_den")? })?,
            length_s: checked(r.get("length_s")?, |length| check_length(*length))?,
            start_frame: r.get("start_frame")?,
            stage: checked(from_column("stage", &r.get::<_, String>("stage")?)?, Stage::check)?,
            pieces: Arc::default(),
            performers: Arc::default(),
            performances: Vec::new(),
            performance: r.get("performance_id")?,
            binned: r.get::<_, Option<String>>("binned_at")?.is_some(),
        })
    });
    in_row(Table::Scene, id, read)
}

pub(crate) const PERFORMANCES: &str =
    "SELECT * FROM performance WHERE scene_id = ?1 AND binned_at IS NULL ORDER BY ord, id";

pub(crate) fn performance_of(row: &Row) -> Result<PerformanceName> {
    Ok(PerformanceName { id: row.get("id")?, name: row.get("name")? })
}

pub(crate) fn performance(db: &Connection, id: u32) -> Result<PerformanceName> {
    in_row(
        Table::Performance,
        id,
        one(db, "performance", "SELECT * FROM performance WHERE id = ?1", id, performance_of),
    )
}

pub(crate) const PIECES: &str =
    "SELECT * FROM piece WHERE scene_id = ?1 AND binned_at IS NULL ORDER BY ord, id";
pub(crate) fn piece_of(row: &Row) -> Result<Piece> {
    let piece: Piece = from_column("piece", &row.get::<_, String>("params")?)?;
    checked(Piece { id: row.get("id")?, ..piece }, Piece::check)
}

pub(crate) fn piece(db: &Connection, id: u32) -> Result<Piece> {
    in_row(Table::Piece, id, one(db, "piece", "SELECT * FROM piece WHERE id = ?1", id, piece_of))
}

pub(crate) const PERFORMERS: &str =
    "SELECT * FROM performer WHERE scene_id = ?1 AND binned_at IS NULL ORDER BY ord, id";
pub(crate) fn performer_of(row: &Row) -> Result<Performer> {
    let performer: Performer = from_column("performer", &row.get::<_, String>("params")?)?;
    checked(Performer { id: row.get("id")?, ..performer }, Performer::check)
}

pub(crate) fn performer(db: &Connection, id: u32) -> Result<Performer> {
    in_row(
        Table::Performer,
        id,
        one(db, "performer", "SELECT * FROM performer WHERE id = ?1", id, performer_of),
    )
}

pub(crate) fn setup_of(row: &Row) -> Result<Setup> {
    Ok(Setup {
        id: row.get("id")?,
        letter: row.get("letter")?,
        name: row.get("name")?,
        camera: camera_of(&row.get::<_, String>("camera")?)?,
        rig: rig_of(&row.get::<_, String>("rig")?)?,
        positions: from_column("positions", &row.get::<_, String>("positions")?)?,
        runs: row.get("runs")?,
        tracking: checked(from_column("tracking", &row.get::<_, String>("tracking")?)?, Tracking::check)?,
        binned: row.get::<_, Option<String>>("binned_at")?.is_some(),
    })
}

pub(crate) fn setup(db: &Connection, id: u32) -> Result<Setup> {
    in_row(Table::Setup, id, one(db, "setup", "SELECT * FROM setup WHERE id = ?1", id, setup_of))
}

/// Samples a second of a take: what the floor records, and what files bring.
pub(crate) fn check_sampling(rate_hz: f64) -> Result<f64> {
    let usable = (1.0..=100_000.0).contains(&rate_hz);
    usable
        .then_some(rate_hz)
        .ok_or_else(|| StoreError::Refused(format!("{rate_hz} samples a second; a take has 1 to 100 000")))
}

/// The length of a scene, seconds.
pub(crate) fn check_length(length_s: f64) -> std::result::Result<(), Invalid> {
    let usable = (0.1..=3600.0).contains(&length_s);
    usable.then_some(()).ok_or_else(|| Invalid::at("length_s", "a scene is 0.1 to 3600 s long"))
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
    let rate_hz = check_sampling(rate_hz)?;
    Ok(Take {
        id: row.get("id")?,
        setup_id: row.get("setup_id")?,
        number: row.get("number")?,
        name: row.get("name")?,
        rating: Rating::of(&rating),
        note: row.get("note")?,
        rolled_at: row.get("rolled_at")?,
        rate: check_rate(Rate { num: row.get("rate_num")?, den: row.get("rate_den")? })?,
        rate_hz,
        samples,
        length_s: f64::from(samples.saturating_sub(1)) / rate_hz,
        camera: camera_of(&row.get::<_, String>("camera")?)?,
        rig: rig_of(&row.get::<_, String>("rig")?)?,
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
    in_row(Table::Take, id, one(db, "take", &format!("{TAKES} WHERE t.id = ?1"), id, take_of))
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
        curves: checked(curves.into_iter().filter(|(_, keys)| !keys.is_empty()).collect(), keys::check)?,
        treatments: checked(
            from_column::<List<Treatment>>("treatments", &row.get::<_, String>("treatments")?)?,
            |list| check_list(list),
        )?,
        camera: optional("camera")?.map(|c| camera_of(&c)).transpose()?,
        rig: optional("rig")?.map(|r| rig_of(&r)).transpose()?,
        binned: optional("binned_at")?.is_some(),
    })
}

/// One move.
pub(crate) fn a_move(db: &Connection, id: u32) -> Result<Move> {
    in_row(Table::Move, id, one(db, "move", "SELECT * FROM move WHERE id = ?1", id, |row| move_of(db, row)))
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
