//! From layout 5 to 6: moves and curves are rows of their own.
//!
//! What was done to a take is its move's now, and what was keyed of a setup is a move with a curve for
//! each axis, which the setup runs. What carries a machine names a move where it named a take. The
//! history goes along: only edits of keys cannot be taken back any more, since they were written as
//! whole lists.

use crate::Result;
use crate::rows::column::{column, from_column};
use rovnek_core::curve::{APART_S, CurveKey};
use rovnek_core::keys::Standing;
use rovnek_core::lens::Camera;
use rovnek_core::list::List;
use rovnek_core::rigs::Rigging;
use rusqlite::Transaction;
use serde::Deserialize;
use serde_json::Value;
use std::collections::{BTreeMap, BTreeSet};

/// A key as it was kept: where the machine stands at a time.
#[derive(Deserialize)]
struct OldKey {
    time_s: f64,
    axes: Standing,
}

/// The move of each take.
type Moves = BTreeMap<u32, u32>;

pub(crate) fn migrate(tx: &Transaction) -> Result<()> {
    tx.execute_batch(include_str!("schema_6.sql"))?;
    name_columns(tx)?;
    tx.execute_batch(
        "INSERT INTO move (setup_id, take_id, treatments) SELECT setup_id, id, treatments FROM take
         WHERE pass_of IS NULL AND NOT rolling ORDER BY id",
    )?;
    let made: Vec<(u32, u32)> = rows(tx, "SELECT take_id, id FROM move", |r| Ok((r.get(0)?, r.get(1)?)))?;
    let moves: Moves = made.into_iter().collect();
    let setups: Vec<(u32, String)> = rows(tx, "SELECT id, keys FROM setup", |r| Ok((r.get(0)?, r.get(1)?)))?;
    for (setup, keys) in setups {
        keyed(tx, setup, &keys)?;
    }
    for table in ["setup", "take"] {
        let found = format!("SELECT id, rig FROM {table} WHERE rig LIKE '%carried%'");
        let all: Vec<(u32, String)> = rows(tx, &found, |r| Ok((r.get(0)?, r.get(1)?)))?;
        for (id, rig) in all {
            tx.execute(&format!("UPDATE {table} SET rig = ?2 WHERE id = ?1"), (id, by_move(&rig, &moves)))?;
        }
    }
    let entries: Vec<(u32, String)> =
        rows(tx, "SELECT id, changes FROM history", |r| Ok((r.get(0)?, r.get(1)?)))?;
    for (id, changes) in entries {
        match in_history(&changes, &moves) {
            Some(now) if now == "[]" => tx.execute("DELETE FROM history WHERE id = ?1", [id])?,
            Some(now) => tx.execute("UPDATE history SET changes = ?2 WHERE id = ?1", (id, now))?,
            None => 0,
        };
    }
    tx.execute_batch("ALTER TABLE setup DROP COLUMN keys; ALTER TABLE take DROP COLUMN treatments;")?;
    Ok(())
}

fn rows<T>(
    tx: &Transaction,
    sql: &str,
    make: impl Fn(&rusqlite::Row) -> rusqlite::Result<T>,
) -> Result<Vec<T>> {
    Ok(tx.prepare(sql)?.query_map([], make)?.collect::<rusqlite::Result<_>>()?)
}

/// Columns of samples have the names of the axes of the machine they were recorded with.
fn name_columns(tx: &Transaction) -> Result<()> {
    let takes: Vec<(u32, String, String)> =
        rows(tx, "SELECT id, camera, rig FROM take", |r| Ok((r.get(0)?, r.get(1)?, r.get(2)?)))?;
    for (id, camera, rig) in takes {
        let camera: Camera = from_column("camera", &camera)?;
        let rig = from_column::<Rigging>("rig", &rig)?.build(&camera);
        // The iris has been an axis only since.
        let names: Vec<&str> = rig.axes().iter().map(|a| a.name).filter(|n| *n != "iris").collect();
        let names = serde_json::to_string(&names).expect("names are plain data");
        tx.execute("UPDATE take SET axes = ?2 WHERE id = ?1", (id, names))?;
    }
    Ok(())
}

/// The keys of a setup as a move that it runs.
fn keyed(tx: &Transaction, setup: u32, keys: &str) -> Result<()> {
    let keys: Vec<OldKey> = from_column("keys", keys)?;
    let names: BTreeSet<&String> = keys.iter().flat_map(|k| k.axes.keys()).collect();
    if names.is_empty() {
        return Ok(());
    }
    tx.execute("INSERT INTO move (setup_id, name) VALUES (?1, 'keys')", [setup])?;
    let id = tx.last_insert_rowid();
    for axis in names {
        let mut curve: Vec<CurveKey> = Vec::new();
        for key in keys.iter().filter(|k| k.axes.contains_key(axis)) {
            if curve.last().is_none_or(|last| key.time_s - last.time_s >= APART_S) {
                curve.push(CurveKey::smooth(key.time_s, key.axes[axis]));
            }
        }
        let curve: List<CurveKey> = curve.into();
        tx.execute(
            "INSERT INTO curve (move_id, axis, keys) VALUES (?1, ?2, ?3)",
            (id, axis, column(&curve)),
        )?;
    }
    tx.execute("UPDATE setup SET runs = ?2 WHERE id = ?1", (setup, id))?;
    Ok(())
}

/// A machine as a column, carried by a move where it was by a take.
fn by_move(rig: &str, moves: &Moves) -> String {
    let Ok(mut kept) = serde_json::from_str::<Value>(rig) else { return rig.into() };
    let Some(carried) = kept["value"]["carried"].as_object_mut() else { return rig.into() };
    let Some(take) = carried.remove("take") else { return rig.into() };
    let moved = take.as_u64().and_then(|take| moves.get(&(take as u32)));
    carried.insert("move".into(), moved.copied().into());
    kept.to_string()
}

/// The changes of an entry of the history in the new layout; none where nothing is different.
fn in_history(changes: &str, moves: &Moves) -> Option<String> {
    let mut all: Vec<Value> = serde_json::from_str(changes).ok()?;
    let mut out = Vec::new();
    for change in &mut all {
        let (table, id) = (change["table"].as_str().unwrap_or_default().to_string(), change["id"].as_u64());
        let of_move = id.and_then(|take| moves.get(&(take as u32))).filter(|_| table == "take");
        let mut moved = serde_json::json!({"table": "move", "id": of_move, "before": {}, "after": {}});
        for side in ["before", "after"] {
            let row = change[side].as_object_mut()?;
            if let Some(rig) = row.get("rig").and_then(Value::as_str) {
                let rig = by_move(rig, moves);
                row.insert("rig".into(), rig.into());
            }
            if table == "setup" {
                row.remove("keys");
            }
            if let (true, Some(treatments)) = (table == "take", row.remove("treatments")) {
                moved[side]["treatments"] = treatments;
            }
        }
        let full = |change: &Value| change["after"].as_object().is_some_and(|row| !row.is_empty());
        out.extend([&*change, &moved].into_iter().filter(|c| full(c) && !c["id"].is_null()).cloned());
    }
    let now = Value::Array(out).to_string();
    (now != changes).then_some(now)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn read(text: Option<String>) -> Value {
        serde_json::from_str(&text.unwrap()).unwrap()
    }

    #[test]
    fn what_was_done_to_a_take_is_done_to_its_move_in_the_history_too() {
        let moves = BTreeMap::from([(3, 7)]);
        let changes = r#"[{"table":"take","id":3,"before":{"treatments":"a","note":"x"},"after":{"treatments":"b","note":"y"}},
            {"table":"setup","id":1,"before":{"keys":"[]"},"after":{"keys":"[1]"}}]"#;
        let now = read(in_history(changes, &moves));
        assert_eq!(now[0]["after"], serde_json::json!({"note": "y"}));
        assert_eq!(
            now[1],
            serde_json::json!({"table": "move", "id": 7,
            "before": {"treatments": "a"}, "after": {"treatments": "b"}})
        );
        assert_eq!(now.as_array().unwrap().len(), 2);
        let keys = r#"[{"table":"setup","id":1,"before":{"keys":"[]"},"after":{"keys":"[1]"}}]"#;
        assert_eq!(in_history(keys, &moves).as_deref(), Some("[]"));
    }

    #[test]
    fn what_carries_a_machine_names_a_move() {
        let moves = BTreeMap::from([(3, 7)]);
        let rig = |take: &str| {
            let text = format!(
                r#"{{"version":1,"value":{{"kind":"tripod","carried":{{"by":"setup","id":1,"take":{take}}}}}}}"#
            );
            read(Some(by_move(&text, &moves)))["value"]["carried"]["move"].clone()
        };
        assert_eq!((rig("3"), rig("9"), rig("null")), (Value::from(7u32), Value::Null, Value::Null));
        assert_eq!(by_move("no json", &moves), "no json");
    }
}
