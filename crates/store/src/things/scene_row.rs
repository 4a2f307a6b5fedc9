//! Things whose table has nothing but parameters: `id`, `scene_id`, `ord`, `params`, `binned_at`. What an edit
//! does with one of these follows from its type.

use super::{At, Column, Listed, Missing, Owner, RowId, Table, Thing, column};
use crate::edit::history::Edit;
use crate::edit::operations::typed;
use crate::rows::column::{column as params, from_column};
use crate::rows::read::{checked, in_row, one, rows};
use crate::{Result, StoreError, now};
use rovnek_core::ids::{Id, SceneId, ThingKind};
use rovnek_core::params::Invalid;
use rovnek_core::performer::Performer;
use rovnek_core::set::Piece;
use rusqlite::types::Value;
use rusqlite::{Connection, Row};
use serde::de::DeserializeOwned;

/// Most things of one kind in a scene.
const MOST: usize = 3000;

/// Thing of a scene that is a row of parameters.
pub trait SceneRow: Listed + DeserializeOwned {
    /// Checks every number and rule.
    fn check(&self) -> std::result::Result<(), Invalid>;
    /// The thing with another id.
    fn with_id(self, id: Self::Id) -> Self;
    /// Pointer of references that come along or go, and that nobody is asked for.
    const QUIET: Option<&'static str> = None;
}

impl SceneRow for Piece {
    fn check(&self) -> std::result::Result<(), Invalid> {
        Piece::check(self)
    }
    fn with_id(self, id: Self::Id) -> Piece {
        Piece { id, ..self }
    }
    /// A piece is taken out for those setups that come along.
    const QUIET: Option<&'static str> = Some("/wild/");
}

impl SceneRow for Performer {
    fn check(&self) -> std::result::Result<(), Invalid> {
        Performer::check(self)
    }
    fn with_id(self, id: Self::Id) -> Performer {
        Performer { id, ..self }
    }
}

/// Columns of such a row.
const fn columns<T: SceneRow + 'static>() -> [Column; 2] {
    let held = column::params::<T>("params");
    let held = match T::QUIET {
        Some(pointer) => held.quiet_at(pointer),
        None => held,
    };
    [column::id_of("scene_id", ThingKind::Scene, Missing::Refused), held]
}

impl<T: SceneRow + 'static> Thing for T {
    const EDITED: &'static [&'static str] = &[];
    const COLUMNS: &'static [Column] = &columns::<T>();
    const OWNER: Owner = Owner::Scene;
    const ORDER: &'static str = "t.ord, t.id";
    const LISTS_BINNED: bool = false;
    const NAME: &'static str = "t.params ->> '$.value.name'";

    fn read(db: &Connection, id: u32) -> Result<T> {
        let table = table::<T>();
        let sql = format!("SELECT * FROM {} WHERE id = ?1", table.name());
        in_row(table, id, one(db, table.name(), &sql, id, of_row))
    }

    fn write(edit: &mut Edit, at: At, _: &T, now: &T) -> Result<()> {
        edit.put(&now.clone().with_id(at.id()))
    }

    fn add(edit: &mut Edit, scene: SceneId, path: &str, value: &serde_json::Value) -> Result<u32> {
        let new: T = typed(path, value)?;
        edit.check_new(scene, &new)?;
        Ok(edit.add(scene, &new)?.number())
    }

    fn bin(edit: &mut Edit, at: At) -> Result<()> {
        edit.bin(at.row)
    }
}

fn table<T: Listed>() -> Table {
    Table::of(<T::Id as Id>::KIND).expect("a thing of a scene has a table")
}

fn of_row<T: SceneRow>(row: &Row) -> Result<T> {
    let thing: T = from_column(table::<T>().name(), &row.get::<_, String>("params")?)?;
    checked(thing.with_id(T::Id::of(row.get("id")?)), T::check)
}

/// All things of a kind in a scene but for binned ones, in order.
pub(crate) fn all<T: SceneRow>(db: &Connection, scene: SceneId) -> Result<Vec<T>> {
    let table = table::<T>().name();
    let sql = format!("SELECT * FROM {table} WHERE scene_id = ?1 AND binned_at IS NULL ORDER BY ord, id");
    rows(db, &sql, scene.0, of_row)
}

impl Edit<'_> {
    /// Adds a thing at the end of its list; its id.
    pub fn add<T: SceneRow>(&mut self, scene: SceneId, new: &T) -> Result<T::Id> {
        new.check()?;
        let table = table::<T>();
        let name = table.name();
        let there = format!("SELECT count(*) FROM {name} WHERE scene_id = ?1 AND binned_at IS NULL");
        let count: u32 = self.db().prepare_cached(&there)?.query_row([scene.0], |r| r.get(0))?;
        if count as usize >= MOST {
            return Err(StoreError::Refused(format!("a scene has at most {MOST} of these")));
        }
        let insert = format!(
            "INSERT INTO {name} (scene_id, ord, params, binned_at)
             SELECT ?1, coalesce(max(ord) + 1, 0), ?2, ?3 FROM {name} WHERE scene_id = ?1"
        );
        self.db().prepare_cached(&insert)?.execute((scene.0, kept(new), now()))?;
        let id = self.db().last_insert_rowid() as u32;
        // It begins in the bin, so that undo puts it there.
        self.update(RowId::new(table, id), &[("binned_at", Value::Null)])?;
        Ok(T::Id::of(id))
    }

    /// Puts a thing in the place of what it was; known by its id.
    pub fn put<T: SceneRow>(&mut self, changed: &T) -> Result<()> {
        changed.check()?;
        let row = RowId::new(table::<T>(), changed.id().number());
        self.update(row, &[("params", kept(changed))])
    }
}

/// Parameters as they are kept; the id is the row's.
pub(crate) fn kept<T: SceneRow>(thing: &T) -> Value {
    params(&thing.clone().with_id(T::Id::of(0)))
}
