//! Productions on a shelf: files of a folder, copies, and data folders of earlier versions.

use crate::common::{edit, undo};
use rovnek_core::ids::{SetupId, TakeId};
use rovnek_store::edit::patch::Names;
use rovnek_store::model::NewScene;
use rovnek_store::rows::journal::NewTake;
use rovnek_store::rows::pictures::{PictureLine, PictureOf};
use rovnek_store::shelf::Shelf;
use rovnek_store::{Store, StoreError};
use rusqlite::Connection;
use rusqlite::types::Value;
use serde_json::json;
use std::path::Path;

fn begin(shelf: &Shelf, name: &str) -> String {
    shelf.begin(name, |store| store.begin(&NewScene::empty(name))).unwrap()
}

/// A take of three chunks.
fn roll(store: &mut Store) -> u32 {
    let setup = store.setup(SetupId(1)).unwrap();
    let (take, _) = store.begin_take(&NewTake::plain(SetupId(1), &setup.camera, &setup.rig, 120.0)).unwrap();
    for seq in 0..3 {
        let values: Vec<f64> = (0..270).map(|i| f64::from(seq * 1000 + i) / 7.0).collect();
        store.append(take, seq, 9, &values).unwrap();
    }
    store.append_packets(take, 2, b"packets").unwrap();
    store.close_take(take, &[]).unwrap();
    take.0
}

/// All rows of all tables, in order.
fn all_rows(file: &Path) -> Vec<(String, Vec<Vec<Value>>)> {
    let db = Connection::open(file).unwrap();
    let tables = "SELECT name FROM sqlite_schema WHERE type = 'table' ORDER BY name";
    let names: Vec<String> =
        db.prepare(tables).unwrap().query_map([], |r| r.get(0)).unwrap().map(Result::unwrap).collect();
    let rows = |name: &String| {
        let mut statement = db.prepare(&format!("SELECT * FROM \"{name}\" ORDER BY 1, 2")).unwrap();
        let width = statement.column_count();
        let row = |r: &rusqlite::Row| (0..width).map(|i| r.get::<_, Value>(i)).collect();
        statement.query_map([], row).unwrap().map(Result::unwrap).collect()
    };
    names.iter().map(|name| (name.clone(), rows(name))).collect()
}

#[test]
fn productions_stand_in_the_order_of_their_use_and_keep_their_files() {
    let folder = tempfile::tempdir().unwrap();
    let shelf = Shelf::open(folder.path()).unwrap();
    assert!(shelf.list().unwrap().is_empty() && shelf.last().unwrap().is_none());
    let first = begin(&shelf, "Night  tram: 1");
    let second = begin(&shelf, "Night tram 1");
    let third = begin(&shelf, "Трамвай");
    assert_eq!([&first, &second, &third], ["night-tram-1", "night-tram-1-2", "production"]);
    let mut store = shelf.open_one(&second).unwrap();
    roll(&mut store);
    // Opened, it counts as used once it is in use.
    assert_eq!(shelf.last().unwrap(), Some(first.clone()));
    shelf.opened(&second, &mut store).unwrap();
    drop(store);
    let names = |shelf: &Shelf| -> Vec<String> { shelf.list().unwrap().into_iter().map(|p| p.id).collect() };
    assert_eq!(names(&shelf)[0], second);
    assert_eq!(shelf.last().unwrap(), Some(second.clone()));
    shelf.set_aside(&second, true).unwrap();
    assert_eq!(names(&shelf)[2], second);
    assert_ne!(shelf.last().unwrap(), Some(second.clone()));
    shelf.set_aside(&second, false).unwrap();
    shelf.rename(&second, "Morning").unwrap();
    let listed = &shelf.list().unwrap()[0];
    assert_eq!((&*listed.id, &*listed.name, listed.takes), (&*second, "Morning", 1));
    assert_eq!(listed.scenes, ["1"]);
    assert!(shelf.rename("elsewhere", "x").unwrap_err().to_string().contains("no production"));
    assert!(shelf.find("../rovnek").is_err());
    // The folder is its own.
    assert!(matches!(Shelf::open(folder.path()), Err(StoreError::InUse(_))));
    drop(shelf);
    assert_eq!(names(&Shelf::open(folder.path()).unwrap())[0], second);
}

#[test]
fn a_copy_is_equal_in_every_table_on_another_shelf_also_while_it_is_used() {
    let [here, there] = [(), ()].map(|()| tempfile::tempdir().unwrap());
    let shelf = Shelf::open(here.path()).unwrap();
    let id = begin(&shelf, "Depot");
    let mut store = shelf.open_one(&id).unwrap();
    roll(&mut store);
    edit(&mut store, json!([{"op": "replace", "path": "/scenes/1/name", "value": "Yard"}])).unwrap();
    store
        .keep_picture(&PictureLine { of: PictureOf::Scene, id: 1, part: 0, made_of: "x".into() }, b"jpg")
        .unwrap();
    let copy = here.path().join("away.sqlite");
    shelf.keep_copy(&id, &copy).unwrap();
    assert_eq!(all_rows(&copy), all_rows(store.file()));
    let other = Shelf::open(there.path()).unwrap();
    let came = other.take_in(&copy).unwrap();
    assert_eq!(all_rows(&copy), all_rows(&other.find(&came).unwrap()));
    assert_eq!(other.list().unwrap()[0].picture.as_deref(), Some("x"));
    // What was done can be undone there, and a second copy stands beside the first.
    let mut opened = other.open_one(&came).unwrap();
    assert_eq!(undo(&mut opened).as_deref(), Some("edit"));
    assert_eq!(other.take_in(&copy).unwrap(), "depot-opened-copy");
    let twin = shelf.duplicate(&id, "Depot, other end").unwrap();
    let twin = shelf.open_one(&twin).unwrap();
    let samples = |store: &Store| store.reader().unwrap().samples(TakeId(1)).unwrap();
    assert_eq!(samples(&twin), samples(&store));
    assert_eq!(twin.document().unwrap().production, "Depot, other end");
}

#[test]
fn what_is_no_production_is_named_and_nothing_is_left_of_it() {
    let folder = tempfile::tempdir().unwrap();
    let shelf = Shelf::open(folder.path()).unwrap();
    let wrong = folder.path().join("wrong");
    std::fs::write(&wrong, b"a text, and no database at all").unwrap();
    assert!(shelf.take_in(&wrong).unwrap_err().to_string().contains("damaged"));
    let other = folder.path().join("other.db");
    Connection::open(&other).unwrap().execute_batch("CREATE TABLE recipe (id INTEGER)").unwrap();
    assert!(matches!(shelf.take_in(&other), Err(StoreError::Foreign(_))));
    assert!(shelf.begin(" ", |_| Ok(())).is_err());
    assert!(shelf.begin("fails", |_| Err(StoreError::Refused("no".into()))).is_err());
    let left: Vec<_> = std::fs::read_dir(folder.path().join("productions")).unwrap().collect();
    assert!(left.is_empty(), "{left:?}");
    // One that somebody put there is listed with what is wrong, and the others are not disturbed.
    let id = begin(&shelf, "Depot");
    std::fs::copy(&wrong, folder.path().join("productions/spoilt.sqlite")).unwrap();
    let listed = shelf.list().unwrap();
    assert_eq!(listed[0].trouble, None);
    assert!(listed[1].trouble.as_ref().unwrap().contains("spoilt.sqlite"), "{listed:?}");
    assert_eq!(shelf.last().unwrap(), Some(id));
}

/// A data folder as it was when a layout was the newest: with somebody, a lamp, a crane and a take.
fn earlier(layout: u32, file: &Path) {
    let old = Connection::open(file).unwrap();
    old.execute_batch(include_str!("../../src/layout/schema.sql")).unwrap();
    let camera = serde_json::to_string(&rovnek_core::lens::Camera::default()).unwrap();
    let rig = r#"{"kind":"telescopic_crane","base_x_m":2.0}"#;
    old.execute_batch(&format!(
        r#"INSERT INTO production VALUES (1, 'Old {layout}');
        INSERT INTO scene VALUES (1, 1, 0, '7', 'Yard', 24, 1, 10.0, 0, '{{"version":1,"value":{{"width_m":20,"depth_m":15,"height_m":6}}}}');
        INSERT INTO piece VALUES (1, 1, 0, '{{"version":1,"value":{{"name":"lamp","form":{{"kind":"lamp","cord":1.0}},"position":[0,3,0]}}}}');
        INSERT INTO performer VALUES (1, 1, 0, '{{"version":1,"value":{{"name":"conductor","height_m":1.78,"waypoints":[{{"time_s":0.0,"position":[1,0,2]}}]}}}}');
        INSERT INTO setup VALUES (1, 1, 0, 'A', 'crane', '{{"version":1,"value":{camera}}}', '{{"version":1,"value":{rig}}}', NULL);
        INSERT INTO take (id, setup_id, number, name, rolled_at, rate_num, rate_den, rate_hz, width, camera, rig, treatments, rolling)
          VALUES (1, 1, 4, 'first', '2026-01-01T00:00:00Z', 24, 1, 120.0, 9,
            '{{"version":1,"value":{camera}}}', '{{"version":1,"value":{rig}}}', '{{"version":1,"value":[]}}', 0);"#
    ))
    .unwrap();
    let values: Vec<u8> = (0..90).flat_map(|i| f64::from(i).to_le_bytes()).collect();
    old.execute("INSERT INTO take_chunk VALUES (1, 0, 10, ?1)", [values]).unwrap();
    for (from, sql) in [
        (2, include_str!("../../src/layout/schema_2.sql")),
        (3, include_str!("../../src/layout/schema_3.sql")),
        (4, include_str!("../../src/layout/schema_4.sql")),
        (6, include_str!("../../src/layout/schema_6.sql")),
        // What the step to layout 6 does beside.
        (6, "INSERT INTO move (setup_id, take_id) VALUES (1, 1);
             UPDATE take SET axes = '[\"swing\",\"boom\",\"reach\",\"pan\",\"tilt\",\"roll\",\"zoom\",\"focus\",\"iris\"]';
             ALTER TABLE setup DROP COLUMN keys; ALTER TABLE take DROP COLUMN treatments;"),
    ] {
        if layout >= from {
            old.execute_batch(sql).unwrap();
        }
    }
    old.pragma_update(None, "user_version", layout).unwrap();
}

#[test]
fn a_data_folder_of_every_earlier_layout_becomes_a_production_on_the_shelf() {
    for layout in 1..=6 {
        let folder = tempfile::tempdir().unwrap();
        earlier(layout, &folder.path().join("rovnek.sqlite"));
        let shelf = Shelf::open(folder.path()).unwrap();
        assert!(!folder.path().join("rovnek.sqlite").exists());
        let listed = shelf.list().unwrap();
        assert_eq!((listed.len(), &*listed[0].id, listed[0].takes), (1, &*format!("old-{layout}"), 1));
        let store = shelf.open_one(&listed[0].id).unwrap();
        let document = store.document().unwrap();
        assert_eq!((&*document.scene.number, document.scenes.len(), document.next_take), ("7", 1, 5));
        assert_eq!((document.moves.len(), document.scene.performers.len()), (1, 1), "layout {layout}");
        assert_eq!(store.reader().unwrap().samples(TakeId(1)).unwrap().values()[89], 89.0);
        // The second time nothing is left to do.
        drop((store, shelf));
        assert_eq!(Shelf::open(folder.path()).unwrap().list().unwrap().len(), 1);
    }
}

#[test]
fn one_of_an_earlier_layout_that_is_put_there_is_listed() {
    let folder = tempfile::tempdir().unwrap();
    let shelf = Shelf::open(folder.path()).unwrap();
    earlier(3, &folder.path().join("productions/put there.sqlite"));
    let listed = shelf.list().unwrap();
    assert_eq!((&*listed[0].id, &*listed[0].name), ("put there", "Old 3"));
    assert_eq!(shelf.last().unwrap().as_deref(), Some("put there"));
    let mut store = shelf.open_one("put there").unwrap();
    let names = edit(
        &mut store,
        json!([{"op": "add", "path": "/scenes/new:1", "value": {"number": "8", "name": "b"}}]),
    );
    assert_eq!(names.unwrap(), Names::from([("new:1".into(), 2)]));
}
