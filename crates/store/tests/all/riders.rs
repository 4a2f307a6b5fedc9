//! Who and what stands on machines: placed anew with them, and never carrying what carries them.

use crate::common::{edit, file_in, said, undo};
use rovnek_core::DVec3;
use rovnek_core::carrier::Carrier;
use rovnek_core::ids::SetupId;
use rovnek_core::lens::Camera;
use rovnek_core::performer::PartMotion;
use rovnek_core::rigs::{FreeDolly, RigSpec, Tripod};
use rovnek_core::set::{Form, Piece};
use rovnek_core::space::heading;
use rovnek_store::Store;
use rovnek_store::model::{NewScene, NewSetup, Scene};
use serde_json::{Value, json};
use std::sync::Arc;
use tempfile::TempDir;

/// A dolly with a chair on it and somebody who stands on it in two performances, and a tripod.
fn yard() -> (TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let mut store = Store::open(&file_in(&folder)).unwrap();
    let on = Some(Carrier::Setup { id: SetupId(1), moved: None });
    let route =
        |x: f64| json!({"waypoints": [{"time_s": 0.0, "position": [x, 0.3, 0.5], "facing_deg": 10.0}]});
    let who = json!({"name": "conductor", "height_m": 1.78, "parts": [
        {"performance": 1, "rides": on, "motion": "walks", "route": route(1.5)},
        {"performance": 2, "motion": "walks", "route": route(-3.0)},
    ]});
    let chair = Piece { rides: on, turn_deg: 5.0, ..Piece::new("chair", Form::Chair, [1.0, 0.3, 0.0]) };
    let scene = Scene {
        pieces: Arc::new(vec![chair, Piece::new("table", Form::Chair, [9.0, 0.0, 0.0])]),
        performers: Arc::new(vec![serde_json::from_value(who).unwrap()]),
        ..crate::common::yard()
    };
    let setup =
        |name: &str, rig: RigSpec| NewSetup { name: name.into(), camera: Camera::default(), rig: rig.into() };
    let dolly = FreeDolly { base_x_m: 1.0, ..FreeDolly::default() };
    let setups =
        vec![setup("dolly", RigSpec::FreeDolly(dolly)), setup("sticks", RigSpec::Tripod(Tripod::default()))];
    store.begin(&NewScene { production: "Test".into(), scene, setups }).unwrap();
    (folder, store)
}

fn replace(store: &mut Store, path: &str, value: Value) -> rovnek_store::Result<()> {
    edit(store, json!([{"op": "replace", "path": path, "value": value}])).map(drop)
}

#[test]
fn who_stands_on_a_machine_is_placed_anew_with_it_and_undo_takes_both_back() {
    let (_folder, mut store) = yard();
    let before = store.document().unwrap();
    edit(
        &mut store,
        json!([{"op": "replace", "path": "/setups/1/rig/base_x_m", "value": 4.0},
               {"op": "replace", "path": "/setups/1/rig/heading_deg", "value": 90.0}]),
    )
    .unwrap();
    let now = store.document().unwrap().scene.clone();
    let (chair, table) = (&now.pieces[0], &now.pieces[1]);
    // A quarter to the right about where the dolly stood, and three metres along.
    let wanted =
        |x: f64, z: f64| DVec3::new(4.0, 0.3, 0.0) + heading(90f64.to_radians()) * DVec3::new(x, 0.0, z);
    assert!(DVec3::from(chair.position).distance(wanted(0.0, 0.0)) < 1e-9, "{:?}", chair.position);
    assert!((chair.turn_deg - 95.0).abs() < 1e-9 && table.position == [9.0, 0.0, 0.0]);
    let place = |part: usize| match &now.performers[0].parts[part].motion {
        PartMotion::Walks { route } => (route.waypoints[0].position, route.waypoints[0].facing_deg.unwrap()),
        PartMotion::Captured { .. } => unreachable!("they walk"),
    };
    let (position, facing_deg) = place(0);
    assert!(DVec3::from(position).distance(wanted(0.5, 0.5)) < 1e-9, "{position:?}");
    assert!((facing_deg - 100.0).abs() < 1e-9);
    assert_eq!(place(1), ([-3.0, 0.3, 0.5], 10.0));
    undo(&mut store);
    assert_eq!(store.document().unwrap().scene, before.scene);
    assert_eq!(store.document().unwrap().setups, before.setups);
}

#[test]
fn a_machine_never_carries_itself() {
    let (_folder, mut store) = yard();
    let by = |by: &str, id: u32| json!({"by": by, "id": id});
    let carry = |store: &mut Store, setup: u32, by: Value| {
        let path = format!("/setups/{setup}/rig/carried");
        edit(store, json!([{"op": "add", "path": path, "value": by}])).map(drop)
    };
    for carrier in [by("performer", 1), by("piece", 1), by("setup", 1)] {
        let sentence = said(carry(&mut store, 1, carrier));
        assert!(sentence.contains("machine of setup A would carry itself"), "{sentence}");
    }
    // Over another machine, whichever of the two comes last.
    carry(&mut store, 2, by("piece", 1)).unwrap();
    let sentence = said(carry(&mut store, 1, by("setup", 2)));
    assert!(sentence.contains("would carry itself"), "{sentence}");
    carry(&mut store, 1, by("piece", 2)).unwrap();
    let ride =
        json!([{"op": "add", "path": "/pieces/2/rides", "value": {"by": "setup", "id": 2, "move": null}}]);
    let sentence = said(edit(&mut store, ride));
    assert!(sentence.contains("would carry itself"), "{sentence}");
    // What is carried is no machine's business any more once the floor has it.
    edit(&mut store, json!([{"op": "remove", "path": "/setups/2/rig/carried"}])).unwrap();
    replace(&mut store, "/pieces/1/name", json!("seat")).unwrap();
}

#[test]
fn a_piece_stands_on_a_machine_that_is_there_and_on_nothing_else() {
    let (_folder, mut store) = yard();
    for (by, why) in [
        (json!({"by": "piece", "id": 1}), "can be carried by a machine"),
        (json!({"by": "performer", "id": 1}), "can be carried by a machine"),
        (json!({"by": "setup", "id": 77, "move": null}), "no setup with number 77"),
        (json!({"by": "setup", "id": 1, "move": 77}), "no move with number 77"),
    ] {
        let sentence = said(edit(&mut store, json!([{"op": "add", "path": "/pieces/2/rides", "value": by}])));
        assert!(sentence.contains(why), "{sentence}");
    }
}
