//! Edits and their inverses.
//!
//! An [`Edit`] is a transaction that notes, for every row it touches, the columns before and
//! after. [`Edit::commit`] writes the change and its note together; an edit that is dropped leaves
//! no trace. Undo writes the columns from before back, redo those from after.
//!
//! Rows are never removed by undo: what is made starts in the bin, and the edit takes it out of
//! it. So undoing the import of a take puts the take into the bin, samples and all.

use crate::model::{Entry, History};
use crate::rows::last_read::LastRead;
use crate::rows::read;
use crate::things::{RowId, Table};
use crate::{Result, Store, StoreError};
use rusqlite::types::Value;
use rusqlite::{Connection, OptionalExtension, Transaction, params_from_iter};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// A column's value, as noted.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(untagged)]
enum Cell {
    Null,
    Integer(i64),
    Real(f64),
    Text(String),
}

impl From<Value> for Cell {
    fn from(value: Value) -> Cell {
        match value {
            Value::Integer(i) => Cell::Integer(i),
            Value::Real(r) => Cell::Real(r),
            Value::Text(t) => Cell::Text(t),
            // No editable table has a blob.
            Value::Null | Value::Blob(_) => Cell::Null,
        }
    }
}

impl From<&Cell> for Value {
    fn from(cell: &Cell) -> Value {
        match cell {
            Cell::Null => Value::Null,
            Cell::Integer(i) => Value::Integer(*i),
            Cell::Real(r) => Value::Real(*r),
            Cell::Text(t) => Value::Text(t.clone()),
        }
    }
}

type Row = BTreeMap<String, Cell>;

/// One row: some of its columns before and after.
#[derive(Clone, Debug, Serialize, Deserialize)]
struct Change {
    table: Table,
    id: u32,
    before: Row,
    after: Row,
}

/// A step through the history that was done.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Stepped {
    /// The edit's label.
    pub label: String,
    /// The rows it touched.
    pub rows: Vec<RowId>,
}

/// Direction of a step through the history.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Step {
    /// Takes the newest edit back.
    Undo,
    /// Does the edit that was undone last again.
    Redo,
}

/// An edit under way.
pub struct Edit<'a> {
    tx: Transaction<'a>,
    read: &'a LastRead,
    label: String,
    gesture: Option<String>,
    changes: Vec<Change>,
    /// Rows that came without a change to undo: they come and go with others.
    beside: Vec<RowId>,
}

impl Store {
    /// Starts an edit; `label` is what undo will show. Edits in a row with the same `gesture` are
    /// undone together.
    pub fn edit(&mut self, label: impl Into<String>, gesture: Option<&str>) -> Result<Edit<'_>> {
        self.still_there()?;
        let tx = self.connection.transaction()?;
        Ok(Edit {
            tx,
            read: &self.read,
            label: label.into(),
            gesture: gesture.map(Into::into),
            changes: Vec::new(),
            beside: Vec::new(),
        })
    }

    /// Next steps of undo and redo.
    pub fn history(&self) -> Result<History> {
        let entry = |sql: &str| {
            self.connection.query_row(sql, [], |r| Ok(Entry { id: r.get(0)?, label: r.get(1)? })).optional()
        };
        Ok(History {
            undo: entry("SELECT id, label FROM history WHERE NOT undone ORDER BY id DESC LIMIT 1")?,
            redo: entry("SELECT id, label FROM history WHERE undone ORDER BY id LIMIT 1")?,
        })
    }

    /// A step through the history, or none when there is nothing to do. `meant` is the entry that
    /// somebody saw; another one is refused.
    pub fn step(&mut self, step: Step, meant: Option<u32>) -> Result<Option<Stepped>> {
        let undo = step == Step::Undo;
        let pick = match step {
            Step::Undo => "SELECT id, label, changes FROM history WHERE NOT undone ORDER BY id DESC LIMIT 1",
            Step::Redo => "SELECT id, label, changes FROM history WHERE undone ORDER BY id LIMIT 1",
        };
        self.still_there()?;
        let tx = self.connection.transaction()?;
        let entry = tx
            .query_row(pick, [], |r| {
                Ok((r.get::<_, u32>(0)?, r.get::<_, String>(1)?, r.get::<_, String>(2)?))
            })
            .optional()?;
        let Some((id, label, changes)) = entry else { return Ok(None) };
        if meant.is_some_and(|meant| meant != id) {
            let word = if undo { "undo" } else { "redo" };
            return Err(StoreError::Refused(format!(
                "the history has changed meanwhile: {word} now means \"{label}\"; ask again if that is what you want"
            )));
        }
        let mut changes = parse(&changes)?;
        if undo {
            changes.reverse();
        }
        for change in &changes {
            write(&tx, change.table, change.id, if undo { &change.before } else { &change.after })?;
        }
        tx.execute("UPDATE history SET undone = ?1 WHERE id = ?2", (undo, id))?;
        tx.commit()?;
        let rows = things(&self.connection, &changes);
        self.read.touch(&rows);
        Ok(Some(Stepped { label, rows }))
    }

    /// Removes what the history says of rows that are gone for good.
    pub(crate) fn forget(tx: &Transaction, table: Table, ids: &[u32]) -> Result<()> {
        let mut entries = tx.prepare("SELECT id, changes FROM history")?;
        let all: Vec<(u32, String)> =
            entries.query_map([], |r| Ok((r.get(0)?, r.get(1)?)))?.collect::<rusqlite::Result<_>>()?;
        for (id, changes) in all {
            let old = parse(&changes)?;
            let kept: Vec<Change> =
                old.iter().filter(|c| c.table != table || !ids.contains(&c.id)).cloned().collect();
            if kept.is_empty() {
                tx.execute("DELETE FROM history WHERE id = ?1", [id])?;
            } else if kept.len() < old.len() {
                tx.execute("UPDATE history SET changes = ?1 WHERE id = ?2", (note(&kept), id))?;
            }
        }
        Ok(())
    }
}

impl Edit<'_> {
    /// Sets columns of a row.
    pub fn update(&mut self, row: impl Into<RowId>, columns: &[(&str, Value)]) -> Result<()> {
        let RowId { table, id } = row.into();
        let names: Vec<&str> = columns.iter().map(|(name, _)| *name).collect();
        let sql = format!("SELECT {} FROM {} WHERE id = ?1", names.join(", "), table.name());
        let before: Row = self
            .tx
            .query_row(&sql, [id], |row| {
                names
                    .iter()
                    .enumerate()
                    .map(|(i, n)| Ok((String::from(*n), row.get::<_, Value>(i)?.into())))
                    .collect()
            })
            .optional()?
            .ok_or(StoreError::Missing(table.name(), id))?;
        let after: Row = columns.iter().map(|(n, v)| (String::from(*n), v.clone().into())).collect();
        write(&self.tx, table, id, &after)?;
        if before != after {
            self.changes.push(Change { table, id, before, after });
        }
        Ok(())
    }

    /// The database within the edit, for reading and for rows that start in the bin.
    pub(crate) fn db(&self) -> &rusqlite::Connection {
        &self.tx
    }

    /// The things that were touched so far.
    pub fn rows(&self) -> Vec<RowId> {
        let mut rows = things(&self.tx, &self.changes);
        rows.extend(&self.beside);
        rows
    }

    /// A row came that needs no undoing by itself.
    pub(crate) fn note_touched(&mut self, row: impl Into<RowId>) {
        self.beside.push(row.into());
    }

    /// Makes the edit and its inverse permanent. An edit that changed nothing leaves no entry.
    pub fn commit(self) -> Result<()> {
        let rows = self.rows();
        if !self.changes.is_empty() {
            self.tx.execute("DELETE FROM history WHERE undone", [])?;
            let newest =
                "SELECT id, changes FROM history WHERE gesture = ?1 AND id = (SELECT max(id) FROM history)";
            let same: Option<(u32, String)> =
                self.tx.query_row(newest, [&self.gesture], |r| Ok((r.get(0)?, r.get(1)?))).optional()?;
            if let Some((id, earlier)) = same {
                let all = merge(parse(&earlier)?, self.changes);
                self.tx.execute("UPDATE history SET changes = ?1 WHERE id = ?2", (note(&all), id))?;
            } else {
                let sql = "INSERT INTO history (label, gesture, changes) VALUES (?1, ?2, ?3)";
                self.tx.execute(sql, (&self.label, &self.gesture, note(&self.changes)))?;
            }
        }
        self.tx.commit()?;
        self.read.touch(&rows);
        Ok(())
    }
}

/// The things that changes are of: a curve is part of its move.
fn things(db: &Connection, changes: &[Change]) -> Vec<RowId> {
    let thing = |c: &Change| match c.table {
        Table::Curve => read::owner(db, c.id).ok().map(RowId::from),
        table => Some(RowId::new(table, c.id)),
    };
    changes.iter().filter_map(thing).collect()
}

/// Two runs of changes as one: a row keeps its first before and its last after.
fn merge(mut earlier: Vec<Change>, later: Vec<Change>) -> Vec<Change> {
    for change in later {
        let same = earlier.iter_mut().find(|c| {
            c.table == change.table && c.id == change.id && c.after.keys().eq(change.before.keys())
        });
        match same {
            Some(first) => first.after = change.after,
            None => earlier.push(change),
        }
    }
    earlier
}

fn note(changes: &[Change]) -> String {
    serde_json::to_string(changes).expect("changes are plain data")
}

fn parse(changes: &str) -> Result<Vec<Change>> {
    serde_json::from_str(changes).map_err(|e| StoreError::Damaged("history entry", e.to_string()))
}

fn write(tx: &Transaction, table: Table, id: u32, row: &Row) -> Result<()> {
    let sets: Vec<String> = row.keys().enumerate().map(|(i, n)| format!("{n} = ?{}", i + 2)).collect();
    let sql = format!("UPDATE {} SET {} WHERE id = ?1", table.name(), sets.join(", "));
    let values = std::iter::once(Value::Integer(id.into())).chain(row.values().map(Value::from));
    tx.execute(&sql, params_from_iter(values))?;
    Ok(())
}
