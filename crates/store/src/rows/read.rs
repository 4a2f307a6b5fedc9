//! Rows of the database as things of the model.

use crate::model::{Move, Scene, SceneHead, Setup, Source, Take};
use crate::rows::column::from_column;
use crate::things::{Table, Thing, setup_of};
use crate::{Result, StoreError};
use rovnek_core::ids::{MoveId, PerformanceId, SceneId, SetupId, TakeId};
use rovnek_core::keys;
use rovnek_core::lens::Camera;
use rovnek_core::list::List;
use rovnek_core::params::Invalid;
use rovnek_core::rigs::Rigging;
use rovnek_core::set::Stage;
use rovnek_core::time::Rate;
use rovnek_core::treatments::{Treatment, check_list};
use rusqlite::{Connection, Row};

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
pub(crate) fn checked<T>(thing: T, check: impl FnOnce(&T) -> std::result::Result<(), Invalid>) -> Result<T> {
    check(&thing)?;
    Ok(thing)
}

pub(crate) fn check_rate(rate: Rate) -> Result<Rate> {
    Rate::new(rate.num, rate.den).map_err(|e| StoreError::Refused(e.to_string()))
}

/// A camera out of a column.
pub(crate) fn camera_of(text: &str) -> Result<Camera> {
    checked(from_column("camera", text)?, Camera::check)
}

/// A machine out of a column.
pub(crate) fn rig_of(text: &str) -> Result<Rigging> {
    checked(from_column::<Rigging>("rig", text)?, |rig| rig.spec.check())
}

/// Says of an error in which row it is.
pub(crate) fn in_row<T>(table: Table, id: u32, read: Result<T>) -> Result<T> {
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

/// A scene without what is in it.
pub(crate) fn scene(db: &Connection, id: SceneId) -> Result<Scene> {
    let read = one(db, "scene", "SELECT * FROM scene WHERE id = ?1", id.0, |r| {
        let head = SceneHead {
            number: r.get("number")?,
            name: r.get("name")?,
            rate: check_rate(Rate { num: r.get("rate_num")?, den: r.get("rate_den")? })?,
            length_s: checked(r.get("length_s")?, |length| check_length(*length))?,
            start_frame: r.get("start_frame")?,
            stage: checked(from_column("stage", &r.get::<_, String>("stage")?)?, Stage::check)?,
            performance: PerformanceId(r.get("performance_id")?),
            binned: r.get::<_, Option<String>>("binned_at")?.is_some(),
        };
        let (pieces, performers, performances) = Default::default();
        Ok(Scene { id: SceneId(r.get("id")?), head, pieces, performers, performances })
    });
    in_row(Table::Scene, id.0, read)
}

/// One setup.
pub(crate) fn setup(db: &Connection, id: SetupId) -> Result<Setup> {
    Setup::read(db, id.0)
}

/// All setups of a scene, in no order.
pub(crate) fn setups(db: &Connection, scene: SceneId) -> Result<Vec<Setup>> {
    rows(db, "SELECT * FROM setup WHERE scene_id = ?1", scene.0, setup_of)
}

/// One take, without what has changed since it was rolled.
pub(crate) fn take(db: &Connection, id: TakeId) -> Result<Take> {
    Take::read(db, id.0)
}

/// One move.
pub(crate) fn a_move(db: &Connection, id: MoveId) -> Result<Move> {
    Move::read(db, id.0)
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

const CURVES: &str = "SELECT axis, keys FROM curve WHERE move_id = ?1";

pub(crate) fn move_of(db: &Connection, row: &Row) -> Result<Move> {
    let id = MoveId(row.get("id")?);
    let curves = rows(db, CURVES, id.0, |r| {
        let keys: List<_> = from_column("curve", &r.get::<_, String>(1)?)?;
        Ok((r.get::<_, String>(0)?, keys))
    })?;
    let optional = |name: &str| row.get::<_, Option<String>>(name);
    let source = match (row.get("take_id")?, row.get("follows")?) {
        (Some(take), _) => Source::Take { take: TakeId(take) },
        (None, Some(of)) => Source::Follow { of: MoveId(of) },
        (None, None) => Source::Curves,
    };
    Ok(Move {
        id,
        setup_id: SetupId(row.get("setup_id")?),
        name: row.get("name")?,
        source,
        performance: row.get::<_, Option<u32>>("performance_id")?.map(PerformanceId),
        variant_of: row.get::<_, Option<u32>>("variant_of")?.map(MoveId),
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

/// The move that a curve belongs to.
pub(crate) fn owner(db: &Connection, curve: u32) -> Result<MoveId> {
    one(db, "curve", "SELECT move_id FROM curve WHERE id = ?1", curve, |r| Ok(MoveId(r.get(0)?)))
}
