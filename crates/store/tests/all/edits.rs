//! Edits by path, and the document that is kept between them.

use crate::common::{edit, file_in, said, undo};
use rovnek_core::ids::{SceneId, SetupId, TakeId};
use rovnek_core::lens::Camera;
use rovnek_core::rigs::{RigSpec, TelescopicCrane, Tripod};
use rovnek_core::set::{Form, Piece};
use rovnek_store::edit::history::{Step, Stepped};
use rovnek_store::edit::patch::Names;
use rovnek_store::model::{NewScene, NewSetup, Scene};
use rovnek_store::rows::journal::NewTake;
use rovnek_store::things::{RowId, Table};
use rovnek_store::{Store, StoreError};
use serde_json::{Value, json};
use std::sync::Arc;
use tempfile::TempDir;

/// A yard with two blocks, somebody who walks, a crane and a tripod, and a closed take.
fn yard() -> (TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let mut store = Store::open(&file_in(&folder)).unwrap();
    let block = |name: &str, x: f64| {
        let form = Form::Table { size: [1.0, 1.0, 1.0] };
        Piece { name: name.into(), ..Piece::new("table", form, [x, 0.0, 0.0]) }
    };
    let walker: rovnek_core::performer::Performer = serde_json::from_value(json!({
        "name": "conductor", "height_m": 1.78, "parts": [{"performance": 1, "motion": "walks", "route":
            {"waypoints": [{"time_s": 0.0, "position": [0, 0, 0]}, {"time_s": 4.0, "position": [4, 0, 0]}]}}]
    }))
    .unwrap();
    let scene = Scene {
        pieces: Arc::new(vec![block("left", -2.0), block("right", 2.0)]),
        performers: Arc::new(vec![walker]),
        ..crate::common::yard()
    };
    let setup =
        |name: &str, rig: RigSpec| NewSetup { name: name.into(), camera: Camera::default(), rig: rig.into() };
    let setups = vec![
        setup("crane", RigSpec::TelescopicCrane(TelescopicCrane::default())),
        setup("sticks", RigSpec::Tripod(Tripod::default())),
    ];
    store.begin(&NewScene { production: "Test".into(), scene, setups }).unwrap();
    let crane = store.setup(SetupId(1)).unwrap();
    let new = NewTake {
        rolled: store.rolled_against().unwrap(),
        ..NewTake::plain(SetupId(1), &crane.camera, &crane.rig, 120.0)
    };
    let (take, _) = store.begin_take(&new).unwrap();
    store.append(take, 0, 9, &[1.0; 270]).unwrap();
    store.close_take(take, &[]).unwrap();
    (folder, store)
}

fn replace(store: &mut Store, path: &str, value: Value) -> Result<Names, StoreError> {
    edit(store, json!([{"op": "replace", "path": path, "value": value}]))
}

#[test]
fn every_thing_is_reached_by_its_path() {
    let (_folder, mut store) = yard();
    for (path, value) in [
        ("/production/name", json!("Night")),
        ("/scenes/1/name", json!("Hall")),
        ("/scenes/1/number", json!("7A")),
        ("/scenes/1/rate", json!({"num": 25, "den": 1})),
        ("/scenes/1/length_s", json!(12)),
        ("/scenes/1/start_frame", json!(240)),
        ("/scenes/1/stage/depth_m", json!(18)),
        ("/pieces/2/form/size/1", json!(0.75)),
        ("/pieces/2/locked", json!(true)),
        ("/performers/1/height_m", json!(1.6)),
        ("/performers/1/parts/1/route/waypoints/2/stop_s", json!(1.5)),
        ("/performances/1/name", json!("first")),
        ("/setups/2/name", json!("legs")),
        ("/setups/1/camera/f_stop", json!(5.6)),
        ("/setups/1/rig/base_x_m", json!(1.25)),
        ("/setups/1/tracking/mapping/scale", json!(2)),
        ("/takes/1/name", json!("good one")),
        ("/takes/1/rating", json!("good")),
        ("/takes/1/note", json!("two\nlines")),
        ("/takes/1/binned", json!(true)),
    ] {
        replace(&mut store, path, value.clone()).unwrap_or_else(|e| panic!("{path}: {e}"));
        let there = store.value_at(SceneId(1), path).unwrap();
        let same = there == value || there.as_f64().is_some() && there.as_f64() == value.as_f64();
        assert!(same, "{path} is {there}, not {value}");
    }
    let document = store.document().unwrap();
    assert_eq!((document.production.as_str(), document.scene.rate.num), ("Night", 25));
    assert_eq!(document.history.undo.as_ref().unwrap().id, 20);
}

#[test]
fn what_a_path_does_not_lead_to_is_refused_and_leaves_no_trace() {
    let (_folder, mut store) = yard();
    let before = store.document().unwrap();
    for (path, value, why) in [
        ("/pieces/77/name", json!("x"), "no piece with number 77"),
        ("/pieces/2/colour", json!("red"), "no colour at /pieces/2/colour"),
        ("/pieces/2/form/size/3", json!(1), "no 3 at"),
        ("/pieces/2", json!({}), "names a whole thing"),
        ("/pieces/two/name", json!("x"), "no number of a thing"),
        ("/furniture/2/name", json!("x"), "paths begin with production, scenes, pieces"),
        ("pieces/2/name", json!("x"), "must begin with a slash"),
        ("/takes/1/samples", json!(4), "cannot be changed"),
        ("/takes/1/pass", json!({"muted": true}), "/takes/1 cannot be so"),
        ("/setups/1/rig", json!({"kind": "magic"}), "unknown variant"),
        ("/setups/1/rig/kind", json!("tripod"), "/setups/1/rig"),
        ("/pieces/2/position/0", json!("far"), "/pieces/2 cannot be so"),
        ("/pieces/2/position/0", json!(1e9), "within 1000 m"),
        ("/performers/1/parts/1/route/waypoints/2/time_s", json!(-4), "waypoint 2"),
        ("/scenes/2/name", json!("x"), "no scene with number 2"),
        ("/scenes/1/performance", json!(9), "no performance with number 9"),
        (
            "/pieces/2/form",
            json!({"kind": "card", "image": 999, "width": 2.0, "height": 1.0}),
            "no image with number 999",
        ),
        ("/performers/1/parts/1/performance", json!(7), "no performance with number 7"),
        ("/performers/1/parts/1/rides", json!({"by": "piece", "id": 88}), "no piece with number 88"),
        (
            "/performers/1/parts/1/rides",
            json!({"by": "setup", "id": 88, "move": null}),
            "no setup with number 88",
        ),
        ("/performers/1/parts/1/rides", json!({"by": "performer", "id": 1}), "by nobody"),
        (
            "/setups/1/rig",
            json!({"kind": "tripod", "carried": {"by": "performer", "id": 55}}),
            "no performer with number 55",
        ),
        (
            "/setups/1/rig",
            json!({"kind": "tripod", "carried": {"by": "setup", "id": 1, "move": 66}}),
            "no move with number 66",
        ),
    ] {
        let Err(refused) = replace(&mut store, path, value) else { panic!("{path} is done") };
        let sentence = refused.to_string();
        assert!(sentence.contains(why), "{path}: {sentence}");
        assert_eq!(*store.document().unwrap(), *before, "{path}");
    }
}

#[test]
fn members_of_lists_come_go_and_change_places_by_their_numbers() {
    let (_folder, mut store) = yard();
    let way = "/performers/1/parts/1/route/waypoints";
    let names = edit(
        &mut store,
        json!([
            {"op": "add", "path": format!("{way}/new:1"), "value": {"time_s": 2, "position": [1, 0, 1]}, "before": "2"},
            {"op": "add", "path": format!("{way}/new:2"), "value": {"time_s": 9, "position": [6, 0, 1]}},
            {"op": "replace", "path": format!("{way}/new:2/mark"), "value": null},
        ]),
    );
    // What an empty field is called is not there to be replaced.
    assert!(said(names).contains("no mark at"));
    let names = edit(
        &mut store,
        json!([
            {"op": "add", "path": format!("{way}/new:1"), "value": {"time_s": 2, "position": [1, 0, 1]}, "before": "2"},
            {"op": "add", "path": format!("{way}/new:2"), "value": {"time_s": 9, "position": [6, 0, 1]}},
            {"op": "add", "path": format!("{way}/new:2/mark"), "value": "door"},
        ]),
    );
    assert_eq!(names.unwrap(), Names::from([("new:1".into(), 3), ("new:2".into(), 4)]));
    let ids = |store: &mut Store| -> Vec<u64> {
        let list = store.value_at(SceneId(1), way).unwrap();
        list.as_array().unwrap().iter().map(|w| w["id"].as_u64().unwrap()).collect()
    };
    assert_eq!(ids(&mut store), [1, 3, 2, 4]);
    edit(&mut store, json!([{"op": "remove", "path": format!("{way}/3")}])).unwrap();
    assert_eq!(ids(&mut store), [1, 2, 4]);
    // The number of one that is gone is not given again while a higher one is there.
    let again = json!([{"op": "add", "path": format!("{way}/new:9"), "value": {"time_s": 12, "position": [7, 0, 1]}}]);
    assert_eq!(edit(&mut store, again).unwrap()["new:9"], 5);
}

#[test]
fn setups_are_put_into_another_order_and_the_bin() {
    let (_folder, mut store) = yard();
    let letters = |store: &Store| -> Vec<String> {
        store.document().unwrap().setups.iter().map(|s| s.letter.clone()).collect()
    };
    edit(&mut store, json!([{"op": "move", "path": "/setups/2", "before": "1"}])).unwrap();
    assert_eq!(letters(&store), ["B", "A"]);
    edit(&mut store, json!([{"op": "move", "path": "/setups/2"}])).unwrap();
    assert_eq!(letters(&store), ["A", "B"]);
    let crane = store.setup(SetupId(1)).unwrap();
    let value = json!({"name": "third", "camera": crane.camera, "rig": crane.rig});
    let made = edit(&mut store, json!([{"op": "add", "path": "/setups/new:1", "value": value}])).unwrap();
    assert_eq!(letters(&store), ["A", "B", "C"]);
    for id in [1, 2] {
        edit(&mut store, json!([{"op": "remove", "path": format!("/setups/{id}")}])).unwrap();
    }
    let last = json!([{"op": "remove", "path": format!("/setups/{}", made["new:1"])}]);
    assert!(said(edit(&mut store, last)).contains("needs a setup"));
    assert!(said(edit(&mut store, json!([{"op": "move", "path": "/pieces/1"}]))).contains("no order"));
}

#[test]
fn a_test_that_fails_undoes_the_whole_edit() {
    let (_folder, mut store) = yard();
    let ops = json!([
        {"op": "replace", "path": "/pieces/1/name", "value": "changed"},
        {"op": "test", "path": "/pieces/2/position", "value": [2, 0, 0]},
        {"op": "test", "path": "/pieces/2/name", "value": "left"},
    ]);
    assert!(said(edit(&mut store, ops)).contains("somebody else changed it"));
    assert_eq!(store.document().unwrap().scene.pieces[0].name, "left");
}

/// Only lists in which something was touched are other lists afterwards.
#[test]
fn a_later_document_shares_what_was_not_touched() {
    let (_folder, mut store) = yard();
    let first = store.document().unwrap();
    assert!(Arc::ptr_eq(&first, &store.document().unwrap()), "nothing was touched");
    replace(&mut store, "/pieces/1/name", json!("other")).unwrap();
    let second = store.document().unwrap();
    assert!(!Arc::ptr_eq(&first.scene.pieces, &second.scene.pieces));
    for same in [
        Arc::ptr_eq(&first.scene.performers, &second.scene.performers),
        Arc::ptr_eq(&first.setups, &second.setups),
        Arc::ptr_eq(&first.takes, &second.takes),
    ] {
        assert!(same);
    }
    // A performer who goes otherwise is told by the takes that were rolled against them.
    replace(&mut store, "/performers/1/parts/1/route/waypoints/2/position/0", json!(5)).unwrap();
    let third = store.document().unwrap();
    assert_eq!(third.takes[0].changed, ["conductor"]);
    undo(&mut store);
    let fourth = store.document().unwrap();
    assert!(fourth.takes[0].changed.is_empty() && fourth.scene.performers == second.scene.performers);
    // What is read from the start is the same as what was kept.
    let (file, kept) = (store.file().to_path_buf(), store.document().unwrap());
    drop(store);
    assert_eq!(*Store::open(&file).unwrap().document().unwrap(), *kept);
}

#[test]
fn a_step_through_the_history_names_what_it_means_and_what_it_touched() {
    let (_folder, mut store) = yard();
    assert_eq!(store.step(Step::Undo, None).unwrap(), None);
    replace(&mut store, "/pieces/1/name", json!("one")).unwrap();
    replace(&mut store, "/setups/1/name", json!("two")).unwrap();
    let newest = store.history().unwrap().undo.unwrap().id;
    assert!(
        store.step(Step::Undo, Some(newest - 1)).unwrap_err().to_string().contains("has changed meanwhile")
    );
    let Stepped { label, rows } = store.step(Step::Undo, Some(newest)).unwrap().unwrap();
    assert_eq!((label.as_str(), rows), ("edit", vec![RowId { table: Table::Setup, id: 1 }]));
    assert_eq!(store.history().unwrap().redo.unwrap().id, newest);
}

/// Large things are read beside the writing connection, while an edit is under way.
#[test]
fn a_reader_neither_waits_for_a_writer_nor_sees_half_an_edit() {
    let (_folder, mut store) = yard();
    let reader = store.reader().unwrap();
    let mut under_way = store.edit("half", None).unwrap();
    under_way.name_production("Half").unwrap();
    assert_eq!(reader.samples(TakeId(1)).unwrap().len(), 30);
    assert!(reader.packets(TakeId(1)).unwrap().is_empty());
    drop(under_way);
    assert_eq!(store.document().unwrap().production, "Test");
}

#[test]
fn a_new_setup_keeps_all_that_was_sent_of_it() {
    let (_folder, mut store) = yard();
    let crane = store.setup(SetupId(1)).unwrap();
    let value = json!({
        "name": "again", "camera": crane.camera, "rig": crane.rig,
        "positions": [{"number": 2, "axes": {"swing": 9.0}}],
    });
    let made = edit(&mut store, json!([{"op": "add", "path": "/setups/new:1", "value": value}])).unwrap();
    let setup = store.setup(SetupId(made["new:1"])).unwrap();
    assert_eq!(setup.positions[0].axes["swing"], 9.0);
    // What its machine runs can only be a move of its own, which it does not have yet.
    let runs = json!({"name": "again", "camera": crane.camera, "rig": crane.rig, "runs": 1});
    let refused = edit(&mut store, json!([{"op": "add", "path": "/setups/new:1", "value": runs}]));
    assert!(said(refused).contains("has no move to run yet"));
    undo(&mut store);
    assert!(store.setup(SetupId(made["new:1"])).unwrap().binned);
}

#[test]
fn a_take_that_rolls_is_not_binned_however_that_is_asked() {
    let (_folder, mut store) = yard();
    let crane = store.setup(SetupId(1)).unwrap();
    let new = NewTake::plain(SetupId(1), &crane.camera, &crane.rig, 120.0);
    let (take, number) = store.begin_take(&new).unwrap();
    for op in [
        json!({"op": "remove", "path": format!("/takes/{take}")}),
        json!({"op": "replace", "path": format!("/takes/{take}/binned"), "value": true}),
        json!({"op": "add", "path": format!("/takes/{take}/binned"), "value": true}),
    ] {
        assert_eq!(said(edit(&mut store, json!([op]))), format!("take {number} is rolling; cut it first"));
    }
    store.close_take(take, &[]).unwrap();
    edit(&mut store, json!([{"op": "remove", "path": format!("/takes/{take}")}])).unwrap();
}
