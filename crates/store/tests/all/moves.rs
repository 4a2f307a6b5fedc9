//! Moves and curves as rows: a take's move, variants, keys, what a machine runs.

use crate::common::{edit, file_in, redo, said, undo};
use rovnek_core::ids::{MoveId, PerformanceId, SceneId, SetupId, TakeId};
use rovnek_core::lens::Camera;
use rovnek_core::rigs::{RigSpec, TelescopicCrane, TrackDolly};
use rovnek_store::edit::patch::{Names, Op};
use rovnek_store::model::{Move, NewScene, NewSetup, Source};
use rovnek_store::rows::journal::NewTake;
use rovnek_store::{Result, Store, StoreError};
use serde_json::{Value, json};

fn yard() -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let mut store = Store::open(&file_in(&folder)).unwrap();
    let setup =
        |spec: RigSpec| NewSetup { name: "setup".into(), camera: Camera::default(), rig: spec.into() };
    let setups = vec![
        setup(RigSpec::TelescopicCrane(TelescopicCrane::default())),
        setup(RigSpec::TrackDolly(TrackDolly::default())),
    ];
    store.begin(&NewScene { production: "Test".into(), scene: crate::common::yard(), setups }).unwrap();
    (folder, store)
}

fn add(store: &mut Store, value: Value) -> Result<MoveId> {
    Ok(MoveId(edit(store, json!([{"op": "add", "path": "/moves/new:1", "value": value}]))?["new:1"]))
}

fn put(store: &mut Store, path: &str, value: Value) -> Result<Names> {
    edit(store, json!([{"op": "replace", "path": path, "value": value}]))
}

fn moved(store: &Store, id: MoveId) -> Move {
    store.document().unwrap().a_move(id).unwrap().clone()
}

fn take(store: &mut Store) -> TakeId {
    let setup = store.setup(SetupId(1)).unwrap();
    let (take, _) = store.begin_take(&NewTake::plain(SetupId(1), &setup.camera, &setup.rig, 120.0)).unwrap();
    store.append(take, 0, 9, &[0.5; 90]).unwrap();
    take
}

#[test]
fn a_take_has_its_move_when_it_is_closed_and_when_it_is_recovered() {
    let (folder, mut store) = yard();
    let first = take(&mut store);
    assert!(store.document().unwrap().moves.is_empty(), "it rolls");
    store.close_take(first, &[]).unwrap();
    let document = store.document().unwrap();
    assert_eq!(
        document.chosen(first).map(|m| (m.source, m.setup_id)),
        Some((Source::Take { take: first }, SetupId(1)))
    );
    assert_eq!(document.take(first).unwrap().axes[..3], ["swing", "boom", "reach"]);
    let second = take(&mut store);
    drop(store);
    let store = Store::open(&file_in(&folder)).unwrap();
    let document = store.document().unwrap();
    assert!(document.take(second).unwrap().recovered && document.chosen(second).is_some());
    assert_eq!(document.moves.len(), 2);
}

/// A take goes on playing against what was played when it was rolled, and whoever follows it does so as well.
#[test]
fn a_takes_move_plays_against_what_it_was_rolled_against() {
    let (_folder, mut store) = yard();
    let add_performance = json!([{"op": "add", "path": "/performances/new:1",
        "value": {"name": "runs", "like": 1}}]);
    let runs = PerformanceId(edit(&mut store, add_performance).unwrap()["new:1"]);
    let setup = store.setup(SetupId(1)).unwrap();
    let rolled = store.rolled_against().unwrap();
    assert_eq!(rolled.performance, runs);
    let new = NewTake { rolled, ..NewTake::plain(SetupId(1), &setup.camera, &setup.rig, 120.0) };
    let (take, _) = store.begin_take(&new).unwrap();
    store.close_take(take, &[]).unwrap();
    let shown = store.document().unwrap().chosen(take).unwrap().id;
    let follow = json!({"setup_id": 2, "source": {"kind": "follow", "move": shown}});
    let follower = add(&mut store, follow).unwrap();
    let keyed = add(&mut store, json!({"setup_id": 1, "source": {"kind": "curves"}})).unwrap();
    let plays = |store: &Store, id: MoveId| {
        let document = store.document().unwrap();
        document.performance_of(document.a_move(id).unwrap())
    };
    put(&mut store, "/scenes/1/performance", json!(1)).unwrap();
    assert_eq!([shown, follower, keyed].map(|id| plays(&store, id)), [runs, runs, PerformanceId(1)]);
    put(&mut store, &format!("/moves/{shown}/performance"), json!(1)).unwrap();
    assert_eq!([shown, follower].map(|id| plays(&store, id)), [PerformanceId(1); 2]);
    undo(&mut store);
    // A variant has that of the move it is made of.
    put(&mut store, &format!("/moves/{keyed}/performance"), json!(runs)).unwrap();
    let like = json!({"setup_id": 1, "source": {"kind": "curves"}, "variant_of": keyed});
    let variant = add(&mut store, like).unwrap();
    assert_eq!(plays(&store, variant), runs);
    edit(&mut store, json!([{"op": "remove", "path": format!("/performances/{runs}")}])).unwrap();
    assert_eq!([shown, variant].map(|id| plays(&store, id)), [PerformanceId(1); 2]);
    undo(&mut store);
    assert_eq!([shown, variant].map(|id| plays(&store, id)), [runs; 2]);
}

#[test]
fn keys_are_kept_by_axis_in_the_order_of_time_and_undone_across_a_restart() {
    let (folder, mut store) = yard();
    let keys = json!([{"time_s": 0, "value": 10.0}, {"time_s": 4, "value": 20.0}]);
    let new = json!({"setup_id": 1, "source": {"kind": "curves"}, "run": true, "curves": {"boom": keys}});
    let id = add(&mut store, new).unwrap();
    assert_eq!(store.setup(SetupId(1)).unwrap().runs, Some(id));
    let path = format!("/moves/{id}/curves");
    let first =
        json!([{"op": "add", "path": format!("{path}/swing"), "value": [{"time_s": 1, "value": 5.0}]}]);
    edit(&mut store, first).unwrap();
    let more = json!([{"op": "add", "path": format!("{path}/boom/new:7"),
        "value": {"time_s": 2.0, "value": 35.0, "after": {"side": "hold"}}}]);
    assert_eq!(edit(&mut store, more).unwrap()["new:7"], 3);
    let times = |store: &Store| -> Vec<f64> {
        moved(store, id).curves.get("boom").map_or(Vec::new(), |k| k.iter().map(|k| k.time_s).collect())
    };
    assert_eq!(times(&store), [0.0, 2.0, 4.0]);
    assert_eq!(moved(&store, id).curves["boom"].ids(), [1, 3, 2]);
    // Two pages, one key each: both are there.
    put(&mut store, &format!("{path}/boom/1/value"), json!(11.0)).unwrap();
    put(&mut store, &format!("{path}/boom/2/time_s"), json!(1.0)).unwrap();
    assert_eq!(times(&store), [0.0, 1.0, 2.0], "a key that was dragged past another");
    let same = put(&mut store, &format!("{path}/boom/2/time_s"), json!(2.0));
    assert!(said(same).contains("boom: keys 2 and 3 stand at the same time"));
    assert_eq!(times(&store), [0.0, 1.0, 2.0]);
    drop(store);
    let mut store = Store::open(&file_in(&folder)).unwrap();
    let end = store.document().unwrap();
    while undo(&mut store).is_some() {}
    assert_eq!(
        (times(&store).len(), moved(&store, id).binned, store.setup(SetupId(1)).unwrap().runs),
        (0, true, None)
    );
    while redo(&mut store).is_some() {}
    assert_eq!(store.document().unwrap().moves, end.moves);
    let refused = put(&mut store, &format!("/moves/{id}/curves/boom/1/value"), json!("high"));
    assert!(said(refused).contains("cannot be so"));
}

/// Dragging a key writes one curve, and of the document only its move is read again.
#[test]
fn a_key_that_is_dragged_touches_its_curve_alone() {
    let (_folder, mut store) = yard();
    let key = json!([{"time_s": 0, "value": 1.0}]);
    let curves = json!({"boom": key, "swing": key, "pan": key});
    let new = json!({"setup_id": 1, "source": {"kind": "curves"}, "curves": curves});
    let (one, other) = (add(&mut store, new.clone()).unwrap(), add(&mut store, new).unwrap());
    let before = store.document().unwrap();
    let mut drag = store.edit("drag", Some("drag 1")).unwrap();
    let ops = json!([{"op": "replace", "path": format!("/moves/{one}/curves/pan/1/value"), "value": 9.0}]);
    drag.apply(SceneId(1), &serde_json::from_value::<Vec<Op>>(ops).unwrap(), &mut Names::new()).unwrap();
    assert_eq!(drag.rows().len(), 1);
    drag.commit().unwrap();
    let after = store.document().unwrap();
    assert_eq!(after.a_move(one).unwrap().curves["pan"][0].value, 9.0);
    assert_eq!(after.a_move(one).unwrap().curves["boom"], before.a_move(one).unwrap().curves["boom"]);
    assert_eq!(after.a_move(other).unwrap(), before.a_move(other).unwrap());
}

#[test]
fn variants_are_siblings_of_which_one_is_shown() {
    let (_folder, mut store) = yard();
    let rolled = take(&mut store);
    store.close_take(rolled, &[]).unwrap();
    let keyed = json!({"kind": "smooth", "on": true, "machine": {"by": "binomial", "passes": 9}});
    edit(&mut store, json!([{"op": "add", "path": "/moves/1/treatments/new:1", "value": keyed}])).unwrap();
    let variant =
        json!({"setup_id": 1, "name": "calmer", "source": {"kind": "take", "take": rolled}, "variant_of": 1});
    let calm = add(&mut store, variant).unwrap();
    let shown = |store: &Store| store.document().unwrap().chosen(rolled).unwrap().id;
    assert_eq!((shown(&store), moved(&store, calm).variant_of), (calm, Some(MoveId(1))));
    assert_eq!(moved(&store, calm).treatments, moved(&store, MoveId(1)).treatments);
    put(&mut store, "/moves/1/chosen", json!(true)).unwrap();
    assert_eq!((shown(&store), moved(&store, calm).chosen), (MoveId(1), false));
    assert!(said(put(&mut store, "/moves/1/chosen", json!(false))).contains("choose another"));
    edit(&mut store, json!([{"op": "remove", "path": "/moves/1"}])).unwrap();
    assert_eq!(shown(&store), calm);
    let last = edit(&mut store, json!([{"op": "remove", "path": format!("/moves/{calm}")}]));
    assert!(said(last).contains("a take keeps its move"));
    // The first is brought back, and then gone for good: what is left of its siblings stands by itself.
    put(&mut store, "/moves/1/binned", json!(false)).unwrap();
    assert_eq!((shown(&store), moved(&store, MoveId(1)).chosen), (calm, false));
    put(&mut store, "/moves/1/binned", json!(true)).unwrap();
    store.empty_bin().unwrap();
    assert!(matches!(store.document().unwrap().a_move(MoveId(1)), Err(StoreError::Missing("move", 1))));
    assert_eq!((moved(&store, calm).variant_of, shown(&store)), (None, calm));
    let again = json!({"setup_id": 1, "source": {"kind": "take", "take": rolled}});
    assert!(said(add(&mut store, again)).contains("make a variant"));
}

#[test]
fn a_recorded_move_has_a_camera_of_its_own_and_the_take_is_untouched() {
    let (_folder, mut store) = yard();
    let rolled = take(&mut store);
    store.close_take(rolled, &[]).unwrap();
    let before = store.take(rolled).unwrap();
    let upright = Camera { f_stop: 4.0, ..Camera::default() };
    put(&mut store, "/moves/1/camera", serde_json::to_value(&upright).unwrap()).unwrap();
    put(&mut store, "/moves/1/camera/focal_mm", json!(40.0)).unwrap();
    let camera = moved(&store, MoveId(1)).camera.unwrap();
    assert_eq!((camera.f_stop, camera.focal_mm), (4.0, 40.0));
    assert_eq!(store.take(rolled).unwrap(), before);
    assert!(put(&mut store, "/moves/1/camera/focal_mm", json!(-40.0)).is_err());
    put(&mut store, "/moves/1/camera", Value::Null).unwrap();
    assert_eq!(moved(&store, MoveId(1)).camera, None);
    let keyed = edit(&mut store, json!([{"op": "add", "path": "/moves/1/curves/pan", "value": []}]));
    assert!(keyed.is_err() || moved(&store, MoveId(1)).curves.is_empty());
    let keyed = edit(
        &mut store,
        json!([{"op": "add", "path": "/moves/1/curves/pan", "value": [{"time_s": 0, "value": 1}]}]),
    );
    assert!(said(keyed).contains("make keys of it"));
}

#[test]
fn a_machine_runs_its_own_moves_and_another_kind_of_machine_none_of_them() {
    let (_folder, mut store) = yard();
    let rolled = take(&mut store);
    store.close_take(rolled, &[]).unwrap();
    let keyed = json!({"setup_id": 1, "source": {"kind": "curves"}, "run": true});
    let id = add(&mut store, keyed).unwrap();
    let follow = json!({"setup_id": 2, "source": {"kind": "follow", "move": 1}, "run": true});
    let follows = add(&mut store, follow).unwrap();
    assert_eq!(moved(&store, follows).source, Source::Follow { of: MoveId(1) });
    assert_eq!(store.setup(SetupId(2)).unwrap().runs, Some(follows));
    assert!(said(put(&mut store, "/setups/2/runs", json!(id))).contains("move of this setup"));
    assert!(said(put(&mut store, "/setups/1/runs", json!(1))).contains("a take is not driven again"));
    let nothing = json!({"setup_id": 2, "source": {"kind": "follow", "move": 99}});
    assert!(said(add(&mut store, nothing)).contains("no move with number 99"));
    // What is followed stays, in the bin of moves as in that of takes.
    put(&mut store, &format!("/takes/{rolled}/binned"), json!(true)).unwrap();
    assert_eq!(store.empty_bin().unwrap(), 0);
    put(&mut store, &format!("/takes/{rolled}/binned"), json!(false)).unwrap();
    // Another kind of machine: the move keeps the old one, and is not driven.
    put(&mut store, "/setups/1/positions", json!([{"number": 1, "axes": {"swing": 9.0}}])).unwrap();
    let crane = store.setup(SetupId(1)).unwrap();
    let dolly = serde_json::to_value(RigSpec::TrackDolly(TrackDolly::default())).unwrap();
    put(&mut store, "/setups/1/rig", dolly).unwrap();
    let now = store.setup(SetupId(1)).unwrap();
    assert_eq!((now.runs, now.positions), (None, vec![]), "where a crane stood says nothing of a dolly");
    let kept = moved(&store, id);
    assert_eq!((kept.rig, kept.camera), (Some(crane.rig.clone()), Some(crane.camera)));
    assert!(said(put(&mut store, "/setups/1/runs", json!(id))).contains("another machine"));
    undo(&mut store);
    let back = store.setup(SetupId(1)).unwrap();
    assert_eq!((back.runs, back.positions.len(), moved(&store, id).rig), (Some(id), 1, None));
    undo(&mut store);
    // A move in the bin is not run; what nobody follows goes for good.
    edit(&mut store, json!([{"op": "remove", "path": format!("/moves/{id}")}])).unwrap();
    assert_eq!(store.setup(SetupId(1)).unwrap().runs, None);
    edit(&mut store, json!([{"op": "remove", "path": format!("/moves/{follows}")}])).unwrap();
    put(&mut store, &format!("/takes/{rolled}/binned"), json!(true)).unwrap();
    assert_eq!(store.empty_bin().unwrap(), 1);
    assert!(store.document().unwrap().moves.is_empty());
    while undo(&mut store).is_some() {}
    assert_eq!(store.document().unwrap().setups[0].runs, None);
}
