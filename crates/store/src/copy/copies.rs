//! Rows copied with all that belongs to them, under numbers of their own: a scene as a whole, or things
//! that are carried from one scene into another, of the same file or of another one.
//!
//! A row is copied column by column. Ids in columns and inside parameters, found by their types
//! ([`rovnek_core::references`]), get the numbers of the copies; those of things that are not copied get what
//! [`Parcel::becomes`] says.

use crate::things::{Column, Holds, Missing, Params, RowId, Table, title};
use crate::{Result, StoreError};
use rovnek_core::ids::{SceneId, ThingKind};
use rovnek_core::references::Reference;
use rusqlite::types::Value;
use rusqlite::{Connection, params_from_iter};
use serde_json::Value as Json;
use std::collections::{BTreeMap, BTreeSet};

/// Rows that belong to a take and have no number of their own.
const CHUNKS: [&str; 2] = ["take_chunk", "take_packets"];

/// Fate of a reference to a thing that does not come along.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Fate {
    /// Another number.
    To(u32),
    /// Nothing is meant any more.
    Out,
}

/// Thing that a row refers to, by kind and number.
pub(crate) type Target = (ThingKind, u32);

/// A column of a row.
enum Cell {
    Plain(Value),
    /// Parameters as they are written today, and the references in them.
    Params(&'static Column, &'static Params, Json, Vec<Reference>),
}

/// A row as it stands, but for its number.
struct Row {
    row: RowId,
    cells: Vec<(String, Cell)>,
}

/// A column of a table that is given to each copy by the number of what it is a copy of.
pub(crate) type Given<'a> = (Table, &'a str, &'a dyn Fn(u32) -> Value);

/// Rows on their way.
pub(crate) struct Parcel<'a> {
    from: &'a Connection,
    rows: Vec<Row>,
    /// Fate of references to things that do not come along; a reference without an entry stays as it is.
    pub becomes: BTreeMap<Target, Fate>,
    /// Numbers that pieces of a group share, by what they become.
    groups: BTreeMap<u32, u32>,
}

fn column_of(table: Table, name: &str) -> Option<&'static Column> {
    table.columns().iter().find(|column| column.name == name)
}

impl<'a> Parcel<'a> {
    /// Nothing yet, out of a database.
    pub fn from(db: &'a Connection) -> Parcel<'a> {
        Parcel { from: db, rows: Vec::new(), becomes: BTreeMap::new(), groups: BTreeMap::new() }
    }

    /// A scene with all that is in it; takes and their moves as well, or not.
    pub fn of_scene(db: &'a Connection, scene: SceneId, takes: bool) -> Result<Parcel<'a>> {
        let mut parcel = Parcel::from(db);
        parcel.add(Table::Scene, "id = ?1", scene.0)?;
        for table in Table::of_scenes() {
            if table == Table::Setup {
                for setup in table.ids(db, scene)? {
                    parcel.add_setup(setup, takes)?;
                }
            } else {
                parcel.add(table, "scene_id = ?1", scene.0)?;
            }
        }
        // Moves and takes that stay behind are nobody's any more.
        for (target, _) in parcel.missing() {
            if Table::of(target.0).is_some() {
                parcel.becomes.insert(target, Fate::Out);
            }
        }
        Ok(parcel)
    }

    /// A setup with its moves; with its takes and theirs, or without.
    pub fn add_setup(&mut self, setup: u32, takes: bool) -> Result<()> {
        self.add(Table::Setup, "id = ?1", setup)?;
        if takes {
            let closed = "setup_id = ?1 AND binned_at IS NULL AND NOT rolling AND
                (pass_of IS NULL OR pass_of IN (SELECT id FROM take WHERE binned_at IS NULL))";
            self.add(Table::Take, closed, setup)?;
        }
        let of = if takes {
            "setup_id = ?1 AND binned_at IS NULL AND
             (take_id IS NULL OR take_id IN (SELECT id FROM take WHERE binned_at IS NULL AND NOT rolling))"
        } else {
            "setup_id = ?1 AND binned_at IS NULL AND take_id IS NULL"
        };
        let first = self.rows.len();
        self.add(Table::Move, of, setup)?;
        let moves: Vec<u32> = self.rows[first..].iter().map(|r| r.row.id).collect();
        moves.iter().try_for_each(|id| self.add(Table::Curve, "move_id = ?1", *id))
    }

    /// Rows of a table where something is so.
    pub fn add(&mut self, table: Table, filter: &str, id: u32) -> Result<()> {
        let sql = format!("SELECT * FROM {} WHERE {filter} ORDER BY id", table.name());
        let mut statement = self.from.prepare(&sql)?;
        let names: Vec<String> = statement.column_names().map(Into::into).collect();
        let mut found = statement.query([id])?;
        while let Some(row) = found.next()? {
            let mut cells = Vec::with_capacity(names.len());
            for name in names.iter().filter(|n| *n != "id") {
                let value = row.get::<_, Value>(name.as_str())?;
                let cell = match (column_of(table, name), &value) {
                    (Some(column @ Column { holds: Holds::Params(params), .. }), Value::Text(text)) => {
                        let (json, references) = (params.read)(text)?;
                        Cell::Params(column, params, json, references)
                    }
                    _ => Cell::Plain(value),
                };
                cells.push((name.clone(), cell));
            }
            self.rows.push(Row { row: RowId::new(table, row.get("id")?), cells });
        }
        Ok(())
    }

    /// True if a row comes along.
    pub fn has(&self, row: RowId) -> bool {
        self.rows.iter().any(|r| r.row == row)
    }

    /// True if a thing comes along.
    fn brings(&self, (kind, id): Target) -> bool {
        Table::of(kind).is_some_and(|table| self.has(RowId::new(table, id)))
    }

    /// References to things that do not come along, each with the row that refers.
    pub fn missing(&self) -> BTreeSet<(Target, RowId)> {
        let mut missing = BTreeSet::new();
        for Row { row, cells } in &self.rows {
            for (name, cell) in cells {
                let targets: Vec<Target> = match cell {
                    Cell::Plain(Value::Integer(id)) => match column_of(row.table, name).map(|c| &c.holds) {
                        // Where a row hangs is said by whoever carries it.
                        Some(Holds::Id(kind)) if *kind != ThingKind::Scene => vec![(*kind, *id as u32)],
                        _ => Vec::new(),
                    },
                    Cell::Params(column, params, _, references) if column.missing != Missing::Forgotten => {
                        let asked = |r: &&Reference| r.kind != ThingKind::Group && !params.is_quiet(r);
                        references.iter().filter(asked).map(|r| (r.kind, r.id)).collect()
                    }
                    Cell::Plain(_) | Cell::Params(..) => Vec::new(),
                };
                let gone = targets.into_iter().filter(|target| target.1 != 0 && !self.brings(*target));
                missing.extend(gone.map(|target| (target, *row)));
            }
        }
        missing
    }

    /// True if nothing comes along.
    pub fn is_empty(&self) -> bool {
        self.rows.is_empty()
    }

    /// The rows of a table, in order.
    pub fn ids(&self, table: Table) -> Vec<u32> {
        self.rows.iter().map(|r| r.row).filter(|row| row.table == table).map(|row| row.id).collect()
    }

    /// Whole numbers in a column of a table's rows.
    pub fn integers(&self, table: Table, column: &str) -> Vec<(u32, i64)> {
        let of = |row: &Row| {
            let found = row.cells.iter().find(|(name, _)| name == column);
            match found {
                Some((_, Cell::Plain(Value::Integer(number)))) => Some((row.row.id, *number)),
                _ => None,
            }
        };
        self.rows.iter().filter(|r| r.row.table == table).filter_map(of).collect()
    }

    /// Texts at a JSON pointer in a column of parameters, each once.
    pub fn texts(&self, column: &str, pointer: &str) -> BTreeSet<String> {
        let cells = self.rows.iter().flat_map(|r| &r.cells).filter(|(name, _)| name == column);
        let text = |(_, cell): &(String, Cell)| match cell {
            Cell::Params(_, _, json, _) => json.pointer(pointer).and_then(Json::as_str).map(String::from),
            Cell::Plain(_) => None,
        };
        cells.filter_map(text).collect()
    }

    /// The numbers of groups that pieces are in.
    pub fn groups(&self) -> BTreeSet<u32> {
        let references = self.rows.iter().flat_map(|r| &r.cells).flat_map(|(_, cell)| match cell {
            Cell::Params(_, _, _, references) => references.as_slice(),
            Cell::Plain(_) => &[],
        });
        references.filter(|r| r.kind == ThingKind::Group).map(|r| r.id).collect()
    }

    /// True if all rows that refer to a thing can be without it.
    pub fn can_do_without(&self, target: Target) -> bool {
        let without = |r: &Reference| Some(r.id).filter(|_| (r.kind, r.id) != target);
        self.rows.iter().all(|Row { row, cells }| {
            cells.iter().all(|(name, cell)| match cell {
                Cell::Plain(Value::Integer(id)) => column_of(row.table, name).is_none_or(|column| {
                    let meant = matches!(column.holds, Holds::Id(kind) if (kind, *id as u32) == target);
                    !meant || column.missing == Missing::Cleared
                }),
                Cell::Plain(_) => true,
                Cell::Params(_, params, json, references) => {
                    params.rewrite(&mut json.clone(), references, &without).is_ok()
                }
            })
        })
    }

    /// Pieces that share a group's number share one that is free where they go.
    pub fn regroup(&mut self, groups: BTreeMap<u32, u32>) {
        self.groups = groups;
    }

    /// Writes the rows under numbers that are free; the number of the first.
    pub fn write(&self, to: &Connection) -> Result<u32> {
        Ok(self.written(to, &[])?.first().map_or(0, |row| row.id))
    }

    /// The same with columns of which every row of a table has another value; what came, in order.
    pub fn written(&self, to: &Connection, set: &[Given]) -> Result<Vec<RowId>> {
        to.pragma_update(None, "defer_foreign_keys", "ON")?;
        let mut numbers: BTreeMap<RowId, u32> = BTreeMap::new();
        for Row { row, .. } in &self.rows {
            let free = format!("SELECT coalesce(max(id), 0) FROM {}", row.table.name());
            let before = numbers.keys().filter(|other| other.table == row.table).count() as u32;
            let last: u32 = to.query_row(&free, [], |r| r.get(0))?;
            numbers.insert(*row, last + before + 1);
        }
        let known = |(kind, id): Target| {
            let copy = Table::of(kind).and_then(|table| numbers.get(&RowId::new(table, id)));
            copy.map(|id| Fate::To(*id)).or_else(|| self.becomes.get(&(kind, id)).copied())
        };
        let mut came = Vec::new();
        for Row { row, cells } in &self.rows {
            let id = numbers[row];
            let mut columns = vec![("id", Value::Integer(id.into()))];
            for (name, cell) in cells {
                let given = set.iter().find(|(table, column, _)| (*table, *column) == (row.table, name));
                let value = match (given, cell) {
                    (Some((_, _, value)), _) => value(row.id),
                    (None, Cell::Plain(value)) => plain(row.table, name, value, &known),
                    (None, Cell::Params(column, params, json, references)) => {
                        self.rewritten(*row, column, params, json, references, &known)?
                    }
                };
                columns.push((name, value));
            }
            let names: Vec<&str> = columns.iter().map(|(name, _)| *name).collect();
            let places: Vec<String> = (1..=columns.len()).map(|i| format!("?{i}")).collect();
            let (table, names, places) = (row.table.name(), names.join(", "), places.join(", "));
            let sql = format!("INSERT INTO {table} ({names}) VALUES ({places})");
            to.execute(&sql, params_from_iter(columns.into_iter().map(|(_, value)| value)))?;
            if row.table == Table::Take {
                CHUNKS.iter().try_for_each(|chunks| self.chunks(to, chunks, row.id, id))?;
            }
            came.push(RowId::new(row.table, id));
        }
        Ok(came)
    }

    /// Parameters with the numbers that their references have now, as a column.
    fn rewritten(
        &self,
        row: RowId,
        column: &Column,
        params: &Params,
        json: &Json,
        references: &[Reference],
        known: &dyn Fn(Target) -> Option<Fate>,
    ) -> Result<Value> {
        let fate = |r: &Reference| match known((r.kind, r.id)) {
            _ if r.kind == ThingKind::Group => Some(self.groups.get(&r.id).copied().unwrap_or(r.id)),
            Some(Fate::To(id)) => Some(id),
            Some(Fate::Out) | None if column.missing == Missing::Forgotten => Some(0),
            Some(Fate::Out) => None,
            None if params.is_quiet(r) => None,
            None => Some(r.id),
        };
        let mut json = json.clone();
        params.rewrite(&mut json, references, &fate).map_err(|_| {
            let what = title(self.from, row);
            StoreError::Refused(format!(
                "{what} cannot do without something that its {} names; carry that along, or choose what \
                 takes its place",
                column.name
            ))
        })?;
        Ok(crate::rows::column::column(&json))
    }

    fn chunks(&self, to: &Connection, table: &str, take: u32, now: u32) -> Result<()> {
        let mut read =
            self.from.prepare(&format!("SELECT * FROM {table} WHERE take_id = ?1 ORDER BY seq"))?;
        let mut write = to.prepare(&format!("INSERT INTO {table} VALUES (?1, ?2, ?3, ?4)"))?;
        let mut rows = read.query([take])?;
        while let Some(row) = rows.next()? {
            let (seq, count, data) =
                (row.get::<_, u32>(1)?, row.get::<_, u32>(2)?, row.get_ref(3)?.as_blob());
            let data = data.map_err(|e| StoreError::Damaged("chunk", e.to_string()))?;
            write.execute((now, seq, count, data))?;
        }
        Ok(())
    }
}

/// A column that holds no parameters, with the number that its reference has now.
fn plain(table: Table, name: &str, value: &Value, known: &dyn Fn(Target) -> Option<Fate>) -> Value {
    match (column_of(table, name).map(|c| &c.holds), value) {
        (Some(Holds::Id(kind)), Value::Integer(id)) => match known((*kind, *id as u32)) {
            Some(Fate::To(id)) => Value::Integer(id.into()),
            Some(Fate::Out) => Value::Null,
            None => value.clone(),
        },
        _ => value.clone(),
    }
}
