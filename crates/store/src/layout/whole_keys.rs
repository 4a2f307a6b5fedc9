//! From layout 4 to 5: a key may name some axes only.
//!
//! Before, a key held a whole machine, and an axis that it left out kept its value from the key
//! before it, or its start. Now it is left alone. So that what was set by hand plays as it did, such
//! keys are given the values that they stood for, also in the history.

use crate::Result;
use crate::rows::column::from_column;
use rovnek_core::keys::{Standing, standing};
use rovnek_core::lens::Camera;
use rovnek_core::rigs::Rigging;
use rusqlite::Transaction;
use serde_json::Value;
use std::collections::BTreeSet;

/// Gives every key of every setup the axes that it stood for.
pub(crate) fn migrate(tx: &Transaction) -> Result<()> {
    let ids: Vec<u32> =
        tx.prepare("SELECT id FROM setup")?.query_map([], |r| r.get(0))?.collect::<rusqlite::Result<_>>()?;
    for id in ids {
        let sql = "SELECT camera, rig, keys FROM setup WHERE id = ?1";
        let (camera, rig, text): (String, String, String) =
            tx.query_row(sql, [id], |r| Ok((r.get(0)?, r.get(1)?, r.get(2)?)))?;
        let camera: Camera = from_column("camera", &camera)?;
        let rig = from_column::<Rigging>("rig", &rig)?.build(&camera);
        let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        let start = standing(rig.axes(), &start);
        tx.execute("UPDATE setup SET keys = ?2 WHERE id = ?1", (id, whole(&text, &start)))?;
        let entries: Vec<(u32, String)> = tx
            .prepare("SELECT id, changes FROM history WHERE changes LIKE '%keys%'")?
            .query_map([], |r| Ok((r.get(0)?, r.get(1)?)))?
            .collect::<rusqlite::Result<_>>()?;
        for (entry, changes) in entries {
            if let Some(changes) = in_history(&changes, id, &start) {
                tx.execute("UPDATE history SET changes = ?2 WHERE id = ?1", (entry, changes))?;
            }
        }
    }
    Ok(())
}

/// The changes of a history entry with whole keys of one setup.
fn in_history(changes: &str, setup: u32, start: &Standing) -> Option<String> {
    let mut changes: Value = serde_json::from_str(changes).ok()?;
    for change in changes.as_array_mut()? {
        if change["table"] != "setup" || change["id"] != setup {
            continue;
        }
        for side in ["before", "after"] {
            if let Some(text) = change[side]["keys"].as_str() {
                change[side]["keys"] = whole(text, start).into();
            }
        }
    }
    Some(changes.to_string())
}

/// A column of keys, each with every axis that one of them names and the machine has. What cannot be
/// read stays as it is, and is named when it is asked for.
fn whole(column: &str, start: &Standing) -> String {
    let Ok(mut kept) = serde_json::from_str::<Value>(column) else { return column.into() };
    let Some(keys) = kept["value"].as_array_mut() else { return column.into() };
    let named: BTreeSet<String> = keys
        .iter()
        .filter_map(|k| k["axes"].as_object())
        .flat_map(|axes| axes.keys().cloned())
        .filter(|name| start.contains_key(name))
        .collect();
    for name in &named {
        let mut value = Value::from(start[name]);
        for key in keys.iter_mut() {
            match key["axes"].get(name) {
                Some(own) => value = own.clone(),
                None => key["axes"][name] = value.clone(),
            }
        }
    }
    kept.to_string()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_a_key_left_out_is_what_it_stood_for() {
        let start = Standing::from([("pan".into(), 5.0), ("boom".into(), 20.0)]);
        let keys = r#"{"version":1,"value":[{"time_s":0.0,"axes":{"pan":1.0}},
            {"time_s":2.0,"axes":{"boom":30.0,"gone":1.0}},{"time_s":3.0,"axes":{"pan":4.0}}]}"#;
        let now: Value = serde_json::from_str(&whole(keys, &start)).unwrap();
        let at = |i: usize, name: &str| now["value"][i]["axes"][name].as_f64();
        assert_eq!([0, 1, 2].map(|i| at(i, "pan")), [Some(1.0), Some(1.0), Some(4.0)]);
        assert_eq!([0, 1, 2].map(|i| at(i, "boom")), [Some(20.0), Some(30.0), Some(30.0)]);
        assert_eq!([0, 1, 2].map(|i| at(i, "gone")), [None, Some(1.0), None]);
        assert_eq!(whole("not json", &start), "not json");
    }
}
