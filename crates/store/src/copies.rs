//! Rows copied with all that belongs to them, under numbers of their own: a scene as a whole, or things
//! that are carried from one scene into another, of the same file or of another one.
//!
//! A row is copied column by column. Columns that relate rows, and the fields of its JSON that mean a
//! thing by number ([`references`]), get the numbers of the copies; what they mean that is not copied
//! gets what [`Parcel::becomes`] says.

use crate::column::from_column;
use crate::references::{Fate, Whom, references, rewrite};
use crate::table::Table;
use crate::{Result, StoreError};
use rovnek_core::keys::Position;
use rovnek_core::lens::Camera;
use rovnek_core::list::List;
use rovnek_core::performer::Performer;
use rovnek_core::rigs::Rigging;
use rovnek_core::set::Piece;
use rovnek_core::tracked::Tracking;
use rovnek_core::treatments::Treatment;
use rusqlite::types::Value;
use rusqlite::{Connection, params_from_iter};
use serde_json::Value as Json;
use std::collections::{BTreeMap, BTreeSet};

/// Rows that belong to a take and have no number of their own.
const CHUNKS: [&str; 2] = ["take_chunk", "take_packets"];

/// The table whose number stands in a column.
fn relation(column: &str) -> Option<Table> {
    Some(match column {
        "scene_id" => Table::Scene,
        "setup_id" => Table::Setup,
        "performance_id" => Table::Performance,
        "take_id" | "pass_of" => Table::Take,
        "move_id" | "follows" | "variant_of" | "runs" => Table::Move,
        _ => return None,
    })
}

/// Columns of parameters: JSON with the version of its layout.
const PARAMS: [&str; 8] =
    ["params", "camera", "rig", "positions", "tracking", "treatments", "rolled", "pass"];

/// Column for the conditions of a take's roll.
const ROLLED: &str = "rolled";

/// A row as it stands, but for its number.
struct Row {
    table: Table,
    id: u32,
    columns: Vec<(String, Value)>,
}

/// Reference: kind and id that a row means, and the row.
pub(crate) type Meant = (Whom, i64, (Table, u32));
/// A column of a table that is given to each copy by the number of what it is a copy of.
pub(crate) type Given<'a> = (Table, &'a str, &'a dyn Fn(u32) -> Value);

/// Rows on their way.
pub(crate) struct Parcel<'a> {
    from: &'a Connection,
    rows: Vec<Row>,
    /// Fate of references to things that do not come along; a reference without an entry stays as it is.
    pub becomes: BTreeMap<(Whom, i64), Fate>,
    /// Numbers that pieces of a group share, by what they become.
    groups: BTreeMap<u32, u32>,
}

impl<'a> Parcel<'a> {
    /// Nothing yet, out of a database.
    pub fn from(db: &'a Connection) -> Parcel<'a> {
        Parcel { from: db, rows: Vec::new(), becomes: BTreeMap::new(), groups: BTreeMap::new() }
    }

    /// A scene with all that is in it; takes and their moves as well, or not.
    pub fn of_scene(db: &'a Connection, scene: u32, takes: bool) -> Result<Parcel<'a>> {
        let mut parcel = Parcel::from(db);
        parcel.add(Table::Scene, "id = ?1", scene)?;
        for table in [Table::Performance, Table::Piece, Table::Performer] {
            parcel.add(table, "scene_id = ?1", scene)?;
        }
        let setups = "SELECT id FROM setup WHERE scene_id = ?1 ORDER BY ord, id";
        for setup in crate::read::rows(db, setups, scene, |r| Ok(r.get(0)?))? {
            parcel.add_setup(setup, takes)?;
        }
        // Moves and takes that stay behind are nobody's any more.
        for (whom, id, _) in parcel.missing()? {
            if matches!(whom, Whom::Thing(_)) {
                parcel.becomes.insert((whom, id), Fate::Out);
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
        let moves: Vec<u32> = self.rows[first..].iter().map(|r| r.id).collect();
        moves.iter().try_for_each(|id| self.add(Table::Curve, "move_id = ?1", *id))
    }

    /// Rows of a table where something is so.
    pub fn add(&mut self, table: Table, filter: &str, id: u32) -> Result<()> {
        let sql = format!("SELECT * FROM {} WHERE {filter} ORDER BY id", table.name());
        let mut statement = self.from.prepare(&sql)?;
        let names: Vec<String> = statement.column_names().map(Into::into).collect();
        let mut found = statement.query([id])?;
        while let Some(row) = found.next()? {
            let mut columns = Vec::with_capacity(names.len());
            for name in names.iter().filter(|n| *n != "id") {
                columns.push((name.clone(), row.get::<_, Value>(name.as_str())?));
            }
            self.rows.push(Row { table, id: row.get("id")?, columns });
        }
        Ok(())
    }

    /// True if a row comes along.
    pub fn has(&self, table: Table, id: u32) -> bool {
        self.rows.iter().any(|r| (r.table, r.id) == (table, id))
    }

    /// References to things that do not come along, each with the row that refers.
    pub fn missing(&self) -> Result<BTreeSet<Meant>> {
        let mut missing = BTreeSet::new();
        for row in &self.rows {
            let mut meant = BTreeSet::new();
            for (name, value) in &row.columns {
                match (relation(name), value) {
                    // Where a row hangs is said by whoever carries it.
                    (Some(Table::Scene), _) => {}
                    // What a take was rolled against is a record: it asks for nothing.
                    _ if name == ROLLED => {}
                    (Some(table), Value::Integer(id)) => drop(meant.insert((Whom::Thing(table), *id))),
                    _ => references(&self.of_row(row, name, value)?, &mut meant),
                }
            }
            for (whom, id) in meant.into_iter().filter(|(_, id)| *id != 0) {
                let along = matches!(whom, Whom::Thing(table) if self.has(table, id as u32));
                if !along {
                    missing.insert((whom, id, (row.table, row.id)));
                }
            }
        }
        Ok(missing)
    }

    /// True if nothing comes along.
    pub fn is_empty(&self) -> bool {
        self.rows.is_empty()
    }

    /// The rows of a table, in order.
    pub fn ids(&self, table: Table) -> Vec<u32> {
        self.rows.iter().filter(|r| r.table == table).map(|r| r.id).collect()
    }

    /// Whole numbers in a column of a table's rows.
    pub fn integers(&self, table: Table, column: &str) -> Vec<(u32, i64)> {
        let of = |row: &Row| {
            let found = row.columns.iter().find(|(name, _)| name == column);
            match found {
                Some((_, Value::Integer(number))) => Some((row.id, *number)),
                _ => None,
            }
        };
        self.rows.iter().filter(|r| r.table == table).filter_map(of).collect()
    }

    /// Texts at a JSON pointer in a column of parameters, each once.
    pub fn texts(&self, column: &str, pointer: &str) -> Result<BTreeSet<String>> {
        let mut all = BTreeSet::new();
        for (name, value) in self.rows.iter().flat_map(|r| &r.columns).filter(|(name, _)| name == column) {
            let json = parameters(name, value)?;
            all.extend(json.pointer(pointer).and_then(Json::as_str).map(String::from));
        }
        Ok(all)
    }

    /// The numbers of groups that pieces are in.
    pub fn groups(&self) -> Result<BTreeSet<u32>> {
        let mut all = BTreeSet::new();
        for row in self.rows.iter().filter(|r| r.table == Table::Piece) {
            for (name, value) in &row.columns {
                let group = parameters(name, value)?.pointer("/value/group").and_then(Json::as_u64);
                all.extend(group.filter(|g| *g > 0).map(|g| g as u32));
            }
        }
        Ok(all)
    }

    /// True if all rows that refer to a thing can be without it.
    pub fn can_do_without(&self, whom: Whom, id: i64) -> bool {
        let out = |other: Whom, n: i64| if (other, n) == (whom, id) { Fate::Out } else { Fate::To(n) };
        self.rows.iter().all(|row| {
            row.columns.iter().all(|(name, value)| match (relation(name), value) {
                // A move without its take or the one that it follows is none.
                (Some(table), Value::Integer(n)) if (Whom::Thing(table), *n) == (whom, id) => {
                    matches!(name.as_str(), "runs" | "variant_of")
                }
                (Some(_), _) => true,
                _ => self.rewritten(row, name, value, &out).is_ok(),
            })
        })
    }

    /// Pieces that share a group's number share one that is free where they go.
    pub fn regroup(&mut self, groups: BTreeMap<u32, u32>) {
        self.groups = groups;
    }

    /// Writes the rows under numbers that are free; the number of the first.
    pub fn write(&self, to: &Connection) -> Result<u32> {
        Ok(self.written(to, &[])?.first().map_or(0, |(_, id)| *id))
    }

    /// The same with columns of which every row of a table has another value; what came, in order.
    pub fn written(&self, to: &Connection, set: &[Given]) -> Result<Vec<(Table, u32)>> {
        to.pragma_update(None, "defer_foreign_keys", "ON")?;
        let mut numbers: BTreeMap<(Table, u32), u32> = BTreeMap::new();
        for row in &self.rows {
            let free = format!("SELECT coalesce(max(id), 0) FROM {}", row.table.name());
            let before = numbers.keys().filter(|(table, _)| *table == row.table).count() as u32;
            let last: u32 = to.query_row(&free, [], |r| r.get(0))?;
            numbers.insert((row.table, row.id), last + before + 1);
        }
        let known = |whom: Whom, id: i64| match whom {
            Whom::Thing(table) if numbers.contains_key(&(table, id as u32)) => {
                Some(Fate::To(numbers[&(table, id as u32)].into()))
            }
            _ => self.becomes.get(&(whom, id)).copied(),
        };
        let fate = |whom: Whom, id: i64| known(whom, id).unwrap_or(Fate::To(id));
        // Where the performance did not come along it is not known any more: 0.
        let record = |whom: Whom, id: i64| match known(whom, id) {
            Some(Fate::To(id)) => Fate::To(id),
            _ => Fate::To(0),
        };
        let mut came = Vec::new();
        for row in &self.rows {
            let id = numbers[&(row.table, row.id)];
            let mut columns = vec![("id".to_string(), Value::Integer(id.into()))];
            for (name, value) in &row.columns {
                let given = set.iter().find(|(table, column, _)| (*table, *column) == (row.table, name));
                let value = match (given, relation(name), value) {
                    (Some((_, _, value)), ..) => value(row.id),
                    (None, Some(table), Value::Integer(id)) => match fate(Whom::Thing(table), *id) {
                        Fate::To(id) => Value::Integer(id),
                        Fate::Out => Value::Null,
                    },
                    _ if name == ROLLED => self.rewritten(row, name, value, &record)?,
                    _ => self.rewritten(row, name, value, &fate)?,
                };
                columns.push((name.clone(), value));
            }
            let names: Vec<&str> = columns.iter().map(|(name, _)| name.as_str()).collect();
            let places: Vec<String> = (1..=columns.len()).map(|i| format!("?{i}")).collect();
            let (table, names, places) = (row.table.name(), names.join(", "), places.join(", "));
            let sql = format!("INSERT INTO {table} ({names}) VALUES ({places})");
            to.execute(&sql, params_from_iter(columns.into_iter().map(|(_, value)| value)))?;
            if row.table == Table::Take {
                CHUNKS.iter().try_for_each(|chunks| self.chunks(to, chunks, row.id, id))?;
            }
            came.push((row.table, id));
        }
        Ok(came)
    }

    /// A column with what it means by other numbers.
    fn rewritten(
        &self,
        row: &Row,
        name: &str,
        value: &Value,
        fate: &dyn Fn(Whom, i64) -> Fate,
    ) -> Result<Value> {
        let mut json = self.of_row(row, name, value)?;
        if json.is_null() {
            return Ok(value.clone());
        }
        rewrite(&mut json, fate);
        if let Some(group) = json.pointer_mut("/value/group").filter(|_| row.table == Table::Piece) {
            let now = group.as_u64().and_then(|g| self.groups.get(&(g as u32)));
            now.iter().for_each(|now| *group = (**now).into());
        }
        let text = json.to_string();
        self.can_be(row, name, &text)?;
        Ok(Value::Text(text))
    }

    /// The parameters of a row. For which setups a piece is taken out is said of those that come along.
    fn of_row(&self, row: &Row, name: &str, value: &Value) -> Result<Json> {
        let mut json = parameters(name, value)?;
        let wild = json.pointer_mut("/value/wild").filter(|_| row.table == Table::Piece);
        if let Some(wild) = wild.and_then(Json::as_array_mut) {
            wild.retain(|n| n.as_u64().is_some_and(|id| self.has(Table::Setup, id as u32)));
        }
        Ok(json)
    }

    /// Refuses parameters that cannot do without what they meant.
    fn can_be(&self, row: &Row, name: &str, text: &str) -> Result<()> {
        let reads = match (row.table, name) {
            (Table::Piece, _) => from_column::<Piece>("piece", text).map(drop),
            (Table::Performer, _) => from_column::<Performer>("performer", text).map(drop),
            (_, "camera") => from_column::<Camera>("camera", text).map(drop),
            (_, "rig") => from_column::<Rigging>("rig", text).map(drop),
            (_, "positions") => from_column::<Vec<Position>>("positions", text).map(drop),
            (_, "tracking") => from_column::<Tracking>("tracking", text).map(drop),
            (_, "treatments") => from_column::<List<Treatment>>("treatments", text).map(drop),
            _ => Ok(()),
        };
        reads.map_err(|_| {
            let what = title(self.from, row.table, row.id);
            StoreError::Refused(format!(
                "{what} cannot do without something that its {name} names; carry that along, or choose what \
                 takes its place"
            ))
        })
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

/// A column of parameters as JSON; null where it is another one.
fn parameters(name: &str, value: &Value) -> Result<Json> {
    match value {
        Value::Text(text) if PARAMS.contains(&name) => {
            serde_json::from_str(text).map_err(|e| StoreError::Damaged("parameters", e.to_string()))
        }
        _ => Ok(Json::Null),
    }
}

/// Name of a row for people.
pub(crate) fn title(db: &Connection, table: Table, id: u32) -> String {
    let sql = match table {
        Table::Piece | Table::Performer => {
            format!("SELECT params ->> '$.value.name' FROM {} WHERE id = ?1", table.name())
        }
        Table::Setup => "SELECT 'setup ' || letter || ', ' || name FROM setup WHERE id = ?1".into(),
        Table::Take => "SELECT 'take ' || number || ' ' || name FROM take WHERE id = ?1".into(),
        Table::Move => "SELECT coalesce(nullif(m.name, ''), 'a move') || ' of setup ' || s.letter
            FROM move m JOIN setup s ON s.id = m.setup_id WHERE m.id = ?1"
            .into(),
        Table::Scene => "SELECT 'scene ' || number FROM scene WHERE id = ?1".into(),
        Table::Performance => "SELECT 'the performance ' || name FROM performance WHERE id = ?1".into(),
        Table::Production => "SELECT name FROM production WHERE id = ?1".into(),
        Table::Curve => "SELECT axis FROM curve WHERE id = ?1".into(),
    };
    let found: Option<String> = db.query_row(&sql, [id], |r| r.get(0)).ok();
    found.map_or_else(|| format!("{} {id}", table.name()), |name| name.trim().to_string())
}
