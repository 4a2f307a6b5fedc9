//! Productions that hold what no edit could have put there: every column of every table in turn, rows that are
//! missing, extreme numbers. Each is told by its name, and everything else goes on.

use crate::served::{Served, sentence};
use rovnek_core::ids::SetupId;
use rovnek_live::command::Command;
use rovnek_live::floor::Floor;
use rovnek_live::wire::encode;
use rovnek_server::demo;
use rovnek_server::document::opening::Ready;
use rovnek_store::model::NewScene;
use rovnek_store::shelf::Shelf;
use rusqlite::Connection;
use rusqlite::types::Value;
use serde_json::json;
use std::panic::{AssertUnwindSafe, catch_unwind};

/// What stands in a column that nobody has put there.
fn wrong() -> Vec<Value> {
    let texts = ["", "{", "null", "[]", r#"{"version":1,"value":{}}"#, r#"{"version":9,"value":[]}"#];
    let numbers = [-1, 0, 1 << 40, i64::MAX];
    let reals = [1e300, -1e300, 1e-300];
    let mut all: Vec<Value> = texts.map(|t| Value::Text(t.into())).into();
    all.extend(numbers.map(Value::Integer));
    all.extend(reals.map(Value::Real));
    all.push(Value::Null);
    all.push(Value::Blob(vec![255; 11]));
    all
}

/// Tables with their columns, of which the first row or all rows are spoilt.
fn columns(db: &Connection) -> Vec<(String, Vec<String>)> {
    let sql = "SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite%' ORDER BY name";
    let names: Vec<String> =
        db.prepare(sql).unwrap().query_map([], |r| r.get(0)).unwrap().flatten().collect();
    let of = |name: &String| {
        let read = db.prepare(&format!("SELECT * FROM {name}")).unwrap();
        read.column_names().map(String::from).collect()
    };
    names.iter().map(|name| (name.clone(), of(name))).collect()
}

/// The numbers in a JSON text, each made extreme in turn.
fn extremes(text: &str) -> Vec<String> {
    let Ok(json) = serde_json::from_str::<serde_json::Value>(text) else { return Vec::new() };
    let mut places = Vec::new();
    fn walk(at: String, value: &serde_json::Value, places: &mut Vec<String>) {
        match value {
            serde_json::Value::Number(_) => places.push(at),
            serde_json::Value::Array(all) => {
                all.iter().enumerate().take(3).for_each(|(i, v)| walk(format!("{at}/{i}"), v, places));
            }
            serde_json::Value::Object(all) => {
                all.iter().for_each(|(k, v)| walk(format!("{at}/{k}"), v, places))
            }
            _ => {}
        }
    }
    walk(String::new(), &json, &mut places);
    let spoilt = |place: &String| {
        [json!(1e300), json!(-1e300), json!(0), json!(4294967295u64)].map(|v| {
            let mut other = json.clone();
            *other.pointer_mut(place).unwrap() = v;
            other.to_string()
        })
    };
    places.iter().filter(|p| p.as_str() != "/version").flat_map(spoilt).collect()
}

/// Opens a production as the process does at its start, and has the floor go on with it for a while.
fn try_it(shelf: &Shelf, id: &str) -> Result<(), String> {
    let ready = Ready::of(shelf, id, 1)?;
    let steps = AssertUnwindSafe(|| {
        let mut floor = Floor::new(ready.staged, SetupId(1));
        floor.join(1);
        floor.command(1, Command::roll(0.0));
        for k in 0..240 {
            floor.step();
            if k % 24 == 0 {
                floor.look_round();
                assert!(!encode(&floor.state()).is_empty());
            }
        }
    });
    catch_unwind(steps).map_err(|_| "the floor ended by it".to_string())
}

#[test]
fn every_table_broken_in_turn_is_told_by_name_and_never_ends_the_floor() {
    let folder = tempfile::tempdir().unwrap();
    let shelf = Shelf::open(folder.path()).unwrap();
    let whole = shelf.begin(demo::NAME, demo::fill).unwrap();
    shelf.begin("Sound", |store| store.begin(&NewScene::empty("Sound"))).unwrap();
    try_it(&shelf, &whole).unwrap();
    let base = folder.path().join("base.sqlite");
    shelf.keep_copy(&whole, &base).unwrap();
    let spoilt = folder.path().join("productions/spoilt.sqlite");
    let tables = columns(&Connection::open(&base).unwrap());
    assert!(tables.len() >= 15, "{tables:?}");
    let (mut tried, mut told, mut unsaid) = (0, 0, Vec::new());
    let mut attempt = |what: &str, change: &dyn Fn(&Connection) -> rusqlite::Result<usize>| {
        std::fs::copy(&base, &spoilt).unwrap();
        let db = Connection::open(&spoilt).unwrap();
        let changed = change(&db);
        drop(db);
        // What SQLite itself refuses, or what our own triggers guard, cannot be in a file.
        if changed.is_ok_and(|rows| rows > 0) {
            tried += 1;
            match try_it(&shelf, "spoilt") {
                Ok(()) => {}
                Err(why) if why.starts_with("spoilt.sqlite cannot be opened: ") => {
                    told += 1;
                    if why.contains("Rovnek cannot work with") {
                        unsaid.push(format!("{what}: {why}"));
                    }
                    let listed = shelf.list().unwrap();
                    let trouble = listed.iter().find(|p| p.id == "spoilt").unwrap().trouble.clone();
                    assert!(
                        trouble.is_some_and(|t| t.contains("spoilt.sqlite") || t == why),
                        "{what}: {why}"
                    );
                }
                Err(why) => panic!("{what}: {why}"),
            }
        }
        for ending in ["", "-wal", "-shm"] {
            let _ = std::fs::remove_file(format!("{}{ending}", spoilt.display()));
        }
    };
    for (table, names) in &tables {
        let all = format!("DELETE FROM {table}");
        attempt(&all, &|db| db.execute(&all, []));
        for column in names {
            for value in wrong() {
                let set = format!(
                    "UPDATE {table} SET {column} = ?1 WHERE rowid = (SELECT min(rowid) FROM {table})"
                );
                attempt(&format!("{set} {value:?}"), &|db| db.execute(&set, [&value]));
            }
            let first =
                format!("SELECT {column} FROM {table} WHERE rowid = (SELECT min(rowid) FROM {table})");
            let text: Option<String> =
                Connection::open(&base).unwrap().query_row(&first, [], |r| r.get(0)).unwrap_or_default();
            for value in extremes(&text.unwrap_or_default()) {
                let set = format!(
                    "UPDATE {table} SET {column} = ?1 WHERE rowid = (SELECT min(rowid) FROM {table})"
                );
                attempt(&format!("{set} {value}"), &|db| db.execute(&set, [&value]));
            }
        }
    }
    println!("{tried} productions broken, {told} told by name, the rest open");
    assert!(tried > 500 && told > 100, "{tried} {told}");
    assert!(unsaid.is_empty(), "{} panicked: {:#?}", unsaid.len(), &unsaid[..unsaid.len().min(12)]);
    // The others are not disturbed.
    assert!(try_it(&shelf, "sound").is_ok());
}

#[test]
fn rovnek_starts_on_the_shelf_when_the_last_production_does_not_open_and_says_why() {
    let folder = tempfile::tempdir().unwrap();
    let spoil = |sql: &str| {
        let file = folder.path().join("productions/night.sqlite");
        Connection::open(file).unwrap().execute_batch(sql).unwrap();
    };
    {
        let shelf = Shelf::open(folder.path()).unwrap();
        for name in ["Sound", "Night"] {
            let id = shelf.begin(name, |store| store.begin(&NewScene::empty(name))).unwrap();
            let mut store = shelf.open_one(&id).unwrap();
            shelf.opened(&id, &mut store).unwrap();
        }
    }
    for (sql, words) in [
        ("UPDATE scene SET rate_num = 0, rate_den = 0", "scene 1 cannot be read"),
        ("UPDATE scene SET rate_num = 24, rate_den = 1, length_s = 1e300", "0.1 to 3600 s long"),
        (
            "UPDATE scene SET length_s = 20; UPDATE setup SET rig = '{\"version\":1,\"value\":{\"kind\":\"swing\"}}'",
            "setup 1 cannot be read",
        ),
        ("DELETE FROM setup", "has no setup"),
        ("DELETE FROM performance; DELETE FROM scene", "no scene"),
    ] {
        spoil(sql);
        let s = Served::at(folder.path());
        let shelf = s.json("/api/productions");
        assert_eq!(shelf["open"], "", "{sql}");
        let night = shelf["productions"].as_array().unwrap().iter().find(|p| p["id"] == "night").unwrap();
        let trouble = night["trouble"].as_str().unwrap();
        assert!(trouble.contains("night.sqlite cannot be opened") && trouble.contains(words), "{trouble}");
        // Asked for again, it says the same; the sound one opens, and is not disturbed by the other.
        let told = sentence(s.post("/api/productions/night/open", "{}"), 422);
        assert!(told.contains(words), "{told}");
        assert_eq!(s.post("/api/productions/sound/open", "{}").0.code, 204);
        assert!(sentence(s.post("/api/productions/night/open", "{}"), 422).contains(words));
        assert_eq!(s.json("/api/document")["production"], "Sound");
        let health = s.json("/api/health");
        assert_eq!((&health["status"], &health["floor_restarts"]), (&json!("ok"), &json!(0)));
        drop(s);
        // It counts as used last only because it was so before: what does not open is not "used".
        let shelf = Shelf::open(folder.path()).unwrap();
        assert_eq!(shelf.last().unwrap().as_deref(), Some("sound"));
        let mut store = shelf.open_one("sound").unwrap();
        store.remember("used", "2000-01-01").unwrap();
    }
}
