//! The store as its users see it: edits, undo over restarts, takes that survive.

use crate::common::{edit, file_in, redo, undo, yard};
use rovnek_core::ids::{MoveId, PerformanceId, PieceId, SceneId, SetupId, TakeId};
use rovnek_core::keys::Position;
use rovnek_core::lens::Camera;
use rovnek_core::list::List;
use rovnek_core::performer::{Part, PartMotion};
use rovnek_core::playing::MoverId;
use rovnek_core::rigs::{FreeCamera, RigSpec, Rigging, TelescopicCrane};
use rovnek_core::samples::Samples;
use rovnek_core::set::{Form, Piece};
use rovnek_core::treatments::{Smooth, SmoothBy, Treatment, TreatmentKind};
use rovnek_store::edit::patch::{Names, Op};
use rovnek_store::model::{AssetKind, NewScene, NewSetup, PassOf, PassPlacement};
use rovnek_store::rows::column::text;
use rovnek_store::rows::journal::NewTake;
use rovnek_store::{Store, StoreError};
use serde_json::json;
use tempfile::TempDir;

fn fresh() -> (TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let mut store = Store::open(&file_in(&folder)).unwrap();
    assert!(store.is_new().unwrap());
    let crane = RigSpec::TelescopicCrane(TelescopicCrane::default()).into();
    let new = NewScene {
        production: "Test".into(),
        scene: yard(),
        setups: vec![NewSetup { name: "crane".into(), camera: Camera::default(), rig: crane }],
    };
    store.begin(&new).unwrap();
    (folder, store)
}

fn roll(store: &mut Store, chunks: u32) -> TakeId {
    let setup = store.setup(SetupId(1)).unwrap();
    let new = NewTake::plain(SetupId(1), &setup.camera, &setup.rig, 120.0);
    let (take, _) = store.begin_take(&new).unwrap();
    for seq in 0..chunks {
        let values: Vec<f64> = (0..30 * 9).map(|i| f64::from(seq * 1000 + i) / 7.0).collect();
        store.append(take, seq, 9, &values).unwrap();
    }
    take
}

fn smooth(passes: u32) -> List<Treatment> {
    let by = Some(SmoothBy::Binomial { passes });
    vec![TreatmentKind::Smooth(Smooth { machine: by, head: by, lens: None }).into()].into()
}

fn rename(store: &mut Store, take: TakeId, name: &str) {
    let mut edit = store.edit(format!("name {name}"), None).unwrap();
    edit.update(take, &[("name", text(name))]).unwrap();
    edit.commit().unwrap();
}

#[test]
fn undo_and_redo_work_across_restarts() {
    let (folder, mut store) = fresh();
    let take = roll(&mut store, 2);
    store.close_take(take, &[]).unwrap();
    let start = store.document().unwrap();
    rename(&mut store, take, "one");
    rename(&mut store, take, "two");
    let mut edit = store.edit("smooth", None).unwrap();
    edit.treat(MoveId(1), &smooth(100)).unwrap();
    edit.commit().unwrap();
    let end = store.document().unwrap();
    assert_eq!(end.history.undo.as_ref().map(|e| e.label.as_str()), Some("smooth"));
    drop(store);

    let mut store = Store::open(&file_in(&folder)).unwrap();
    for label in ["smooth", "name two", "name one"] {
        assert_eq!(undo(&mut store).as_deref(), Some(label));
    }
    assert_eq!(undo(&mut store), None);
    let back = store.document().unwrap();
    assert_eq!((&back.takes, &back.setups), (&start.takes, &start.setups));
    drop(store);

    let mut store = Store::open(&file_in(&folder)).unwrap();
    while redo(&mut store).is_some() {}
    assert_eq!(store.document().unwrap(), end);
}

#[test]
fn a_new_edit_after_undo_forgets_what_was_undone() {
    let (_folder, mut store) = fresh();
    let take = roll(&mut store, 1);
    rename(&mut store, take, "one");
    undo(&mut store);
    rename(&mut store, take, "other");
    assert_eq!(redo(&mut store), None);
    assert_eq!(store.take(take).unwrap().name, "other");
}

#[test]
fn a_gesture_is_undone_as_one() {
    let (_folder, mut store) = fresh();
    let take = roll(&mut store, 1);
    store.close_take(take, &[]).unwrap();
    for passes in [10, 20, 30] {
        let mut edit = store.edit("smooth", Some("drag 1")).unwrap();
        edit.treat(MoveId(1), &smooth(passes)).unwrap();
        edit.commit().unwrap();
    }
    let treatments = |store: &Store| store.document().unwrap().a_move(MoveId(1)).unwrap().treatments.clone();
    undo(&mut store);
    assert!(treatments(&store).is_empty());
    redo(&mut store);
    assert_eq!(treatments(&store), smooth(30));
}

#[test]
fn an_edit_that_is_dropped_or_changes_nothing_leaves_no_trace() {
    let (_folder, mut store) = fresh();
    let take = roll(&mut store, 1);
    let mut edit = store.edit("name", None).unwrap();
    edit.update(take, &[("name", text("lost"))]).unwrap();
    drop(edit);
    rename(&mut store, take, "");
    let document = store.document().unwrap();
    assert_eq!((document.takes[0].name.as_str(), &document.history.undo), ("", &None));
}

#[test]
fn an_unfinished_take_is_recovered_whole() {
    let (folder, mut store) = fresh();
    let take = roll(&mut store, 3);
    let empty = roll(&mut store, 0);
    drop(store);
    let mut store = Store::open(&file_in(&folder)).unwrap();
    let kept = store.take(take).unwrap();
    assert!(kept.recovered && !kept.rolling);
    assert_eq!(kept.samples, 90);
    let samples = store.reader().unwrap().samples(take).unwrap();
    assert_eq!((samples.len(), samples.row(30)[0]), (90, 1000.0 / 7.0));
    assert!(matches!(store.take(empty), Err(StoreError::Missing("take", _))));
    let late = store.append(take, 3, 9, &[0.0; 9]);
    assert!(late.unwrap_err().to_string().contains("no more samples"));
}

#[test]
fn numbers_are_not_given_twice() {
    let (_folder, mut store) = fresh();
    let first = roll(&mut store, 1);
    store.close_take(first, &["gap of 0.3 s".into()]).unwrap();
    let mut edit = store.edit("bin", None).unwrap();
    edit.bin_take(first, true).unwrap();
    edit.commit().unwrap();
    let second = roll(&mut store, 1);
    assert_eq!((store.take(first).unwrap().number, store.take(second).unwrap().number), (1, 2));
    assert_eq!(store.document().unwrap().next_take, 3);
    assert_eq!(store.take(first).unwrap().flags, ["gap of 0.3 s"]);
}

#[test]
fn an_import_can_be_undone_and_loses_nothing() {
    let (_folder, mut store) = fresh();
    let samples = Samples::new(120.0, 9, (0..9 * 300).map(f64::from).collect());
    let free = RigSpec::FreeCamera(FreeCamera::default()).into();
    let mut edit = store.edit("bring in walk", None).unwrap();
    let take = edit.bring_take(SceneId(1), "walk", &Camera::default(), &free, &samples).unwrap();
    edit.commit().unwrap();
    let setup = store.take(take).unwrap().setup_id;
    undo(&mut store);
    let document = store.document().unwrap();
    assert!(document.setups.iter().any(|s| s.id == setup && s.binned) && document.takes[0].binned);
    redo(&mut store);
    let document = store.document().unwrap();
    assert!(document.setups.iter().all(|s| !s.binned) && !document.takes[0].binned);
    assert_eq!(store.reader().unwrap().samples(document.takes[0].id).unwrap(), samples);
}

#[test]
fn emptying_the_bin_is_final_and_undo_steps_over_it() {
    let (_folder, mut store) = fresh();
    let take = roll(&mut store, 1);
    store.close_take(take, &[]).unwrap();
    let mut edit = store.edit("name production", None).unwrap();
    edit.name_production("Other").unwrap();
    edit.commit().unwrap();
    let mut edit = store.edit("bin take 1", None).unwrap();
    edit.bin_take(take, true).unwrap();
    edit.commit().unwrap();
    assert_eq!(store.empty_bin().unwrap(), 1);
    assert_eq!(store.empty_bin().unwrap(), 0);
    assert_eq!(undo(&mut store).as_deref(), Some("name production"));
}

#[test]
fn raw_samples_cannot_be_overwritten() {
    let (folder, mut store) = fresh();
    let take = roll(&mut store, 1);
    assert!(store.append(take, 0, 9, &[0.0; 9]).is_err(), "the same chunk twice");
    drop(store);
    let behind = rusqlite::Connection::open(folder.path().join("rovnek.sqlite")).unwrap();
    let refused = behind.execute("UPDATE take_chunk SET data = x'00'", []).unwrap_err();
    assert!(refused.to_string().contains("raw samples never change"));
}

#[test]
fn a_newer_database_is_refused() {
    let (folder, store) = fresh();
    drop(store);
    let behind = rusqlite::Connection::open(folder.path().join("rovnek.sqlite")).unwrap();
    behind.pragma_update(None, "user_version", 99).unwrap();
    assert!(matches!(Store::open(&file_in(&folder)), Err(StoreError::Newer(99))));
}

#[test]
fn what_cannot_be_is_refused_with_a_sentence() {
    let (_folder, mut store) = fresh();
    let take = roll(&mut store, 1);
    store.close_take(take, &[]).unwrap();
    let mut edit = store.edit("smooth", None).unwrap();
    assert!(edit.treat(MoveId(1), &smooth(401)).unwrap_err().to_string().contains("1 to 400"));
    let stuck = TelescopicCrane { reach_min_m: 9.0, ..TelescopicCrane::default() };
    let refused = edit.place_setup(SetupId(1), &Camera::default(), &RigSpec::TelescopicCrane(stuck).into());
    assert!(refused.unwrap_err().to_string().contains("reach"));
}

#[test]
fn positions_of_a_setup_are_kept_and_undone() {
    let (folder, mut store) = fresh();
    let standing = |swing: f64| [("swing".to_string(), swing)].into();
    let mut edit = store.edit("store position 2", None).unwrap();
    let positions =
        vec![Position { number: 2, axes: standing(9.0) }, Position { number: 1, axes: standing(3.0) }];
    edit.store_positions(SetupId(1), positions.clone()).unwrap();
    edit.commit().unwrap();
    drop(store);
    let mut store = Store::open(&file_in(&folder)).unwrap();
    let setup = store.setup(SetupId(1)).unwrap();
    assert_eq!(setup.positions.iter().map(|p| p.number).collect::<Vec<_>>(), [1, 2]);
    undo(&mut store);
    assert!(store.setup(SetupId(1)).unwrap().positions.is_empty());
    redo(&mut store);
    let mut edit = store.edit("store a position", None).unwrap();
    let twice = vec![positions[0].clone(), positions[0].clone()];
    assert!(edit.store_positions(SetupId(1), twice).unwrap_err().to_string().contains("each number once"));
}

/// A setup as it was kept before machines could be carried.
#[test]
fn a_rig_without_a_carrier_reads() {
    let kept = r#"{"kind":"telescopic_crane","base_x_m":2.0}"#;
    let rigging: Rigging = serde_json::from_str(kept).unwrap();
    assert_eq!(rigging.carried, None);
    let again = serde_json::to_value(&rigging).unwrap();
    assert_eq!((again["kind"].as_str(), again["base_x_m"].as_f64()), (Some("telescopic_crane"), Some(2.0)));
}

#[test]
fn pieces_are_added_changed_and_removed_in_one_step_over_restarts() {
    let (folder, mut store) = fresh();
    let lamp = |x: f64| Piece::new("lamp", Form::Lamp { cord: 1.0 }, [x, 3.0, 0.0]);
    let mut edit = store.edit("add lamps", None).unwrap();
    let ids = [1.0, 2.0].map(|x| edit.add(SceneId(1), &lamp(x)).unwrap());
    edit.commit().unwrap();
    let mut edit = store.edit("move one, remove one", None).unwrap();
    edit.put(&Piece { id: ids[0], ..lamp(5.0) }).unwrap();
    edit.apply(SceneId(1), &[Op::Remove { path: format!("/pieces/{}", ids[1]) }], &mut Names::new()).unwrap();
    edit.commit().unwrap();
    let places = |store: &Store| -> Vec<f64> {
        store.document().unwrap().scene.pieces.iter().map(|p| p.position[0]).collect()
    };
    assert_eq!(places(&store), [5.0]);
    drop(store);
    let mut store = Store::open(&file_in(&folder)).unwrap();
    undo(&mut store);
    assert_eq!(places(&store), [1.0, 2.0]);
    undo(&mut store);
    assert!(places(&store).is_empty());
    redo(&mut store);
    redo(&mut store);
    assert_eq!(places(&store), [5.0]);
    assert_eq!(store.document().unwrap().scene.pieces[0].id, ids[0]);
}

#[test]
fn what_was_brought_in_is_kept_once_and_never_changed() {
    let (_folder, mut store) = fresh();
    let mut edit = store.edit("bring in", None).unwrap();
    let id = edit.keep(AssetKind::Image, "sky", b"bytes").unwrap();
    assert_eq!(edit.keep(AssetKind::Image, "sky again", b"bytes").unwrap(), id);
    assert_ne!(edit.keep(AssetKind::Mesh, "sky", b"bytes").unwrap(), id);
    edit.commit().unwrap();
    assert_eq!(store.reader().unwrap().asset(AssetKind::Image, id).unwrap(), b"bytes");
    assert!(matches!(
        store.reader().unwrap().asset(AssetKind::Clip, id),
        Err(StoreError::Missing("clip", _))
    ));
    assert_eq!(store.assets().unwrap().len(), 2);
}

#[test]
fn a_database_from_before_sets_were_edited_opens_with_its_performers() {
    let folder = tempfile::tempdir().unwrap();
    let old = rusqlite::Connection::open(folder.path().join("rovnek.sqlite")).unwrap();
    old.execute_batch(include_str!("../../src/layout/schema.sql")).unwrap();
    old.execute_batch(
        r#"PRAGMA user_version = 1;
        INSERT INTO production VALUES (1, 'Old');
        INSERT INTO scene VALUES (1, 1, 0, '1', 'Yard', 24, 1, 10.0, 0, '{"version":1,"value":{"width_m":20,"depth_m":15,"height_m":6}}');
        INSERT INTO piece VALUES (1, 1, 0, '{"version":1,"value":{"name":"lamp","form":{"kind":"lamp","cord":1.0},"position":[0,3,0]}}');
        INSERT INTO performer VALUES (1, 1, 0, '{"version":1,"value":{"name":"conductor","height_m":1.78,"waypoints":[{"time_s":0.0,"position":[1,0,2]},{"time_s":3.0,"position":[4,0,2],"facing_deg":90.0}]}}');"#,
    )
    .unwrap();
    drop(old);
    let store = Store::open(&file_in(&folder)).unwrap();
    let document = store.document().unwrap();
    let scene = &document.scene;
    assert_eq!(
        (scene.performance, scene.performances.len(), scene.pieces[0].name.as_str()),
        (PerformanceId(1), 1, "lamp")
    );
    let Some(Part { motion: PartMotion::Walks { route }, .. }) = scene.performers[0].part(PerformanceId(1))
    else {
        panic!("a walk")
    };
    assert_eq!((route.waypoints.len(), route.waypoints[1].facing_deg), (2, Some(90.0)));
    assert_eq!(scene.performers[0].check(), Ok(()));
}

#[test]
fn passes_count_until_they_are_muted_or_binned_and_go_with_their_take() {
    let (_folder, mut store) = fresh();
    let take = roll(&mut store, 2);
    store.close_take(take, &[]).unwrap();
    let setup = store.setup(SetupId(1)).unwrap();
    let placement = PassPlacement { name: "head".into(), at: 12, axes: vec!["pan".into()], blend_s: 0.4 };
    let pass = Some((take, placement.clone()));
    let new = NewTake { pass, note: "later", ..NewTake::plain(SetupId(1), &setup.camera, &setup.rig, 120.0) };
    let (over, number) = store.begin_take(&new).unwrap();
    store.append(over, 0, 9, &[1.0; 90]).unwrap();
    assert!(store.document().unwrap().passes(take).is_empty(), "it still rolls");
    store.append_packets(over, 3, b"packets").unwrap();
    store.close_take(over, &[]).unwrap();
    let kept = store.take(over).unwrap();
    assert_eq!((number, kept.note.as_str(), kept.packets), (1, "later", 3));
    assert_eq!(kept.pass, Some(PassOf { take, placement, muted: false }));
    let counts = |store: &Store| store.document().unwrap().passes(take).len();
    assert_eq!(counts(&store), 1);
    let mute = json!([{"op": "replace", "path": format!("/takes/{over}/pass/muted"), "value": true}]);
    edit(&mut store, mute).unwrap();
    assert_eq!(counts(&store), 0);
    undo(&mut store);
    assert_eq!(counts(&store), 1);
    // The next take does not get the number again, and the bin takes the pass along.
    let next = roll(&mut store, 1);
    store.close_take(next, &[]).unwrap();
    assert_eq!((store.take(next).unwrap().number, store.document().unwrap().next_take), (2, 3));
    let mut edit = store.edit("bin", None).unwrap();
    edit.bin_take(take, true).unwrap();
    edit.commit().unwrap();
    assert_eq!(store.empty_bin().unwrap(), 2);
    assert!(store.take(over).is_err() && store.take(next).is_ok());
}

#[test]
fn a_drive_is_kept_chunk_by_chunk_until_it_is_a_path() {
    let (folder, mut store) = fresh();
    let drive =
        store.begin_drive(SceneId(1), PerformanceId(1), MoverId::Piece(PieceId(4)), None, 120.0).unwrap();
    store.append_drive(drive, 0, &[1.0; 120]).unwrap();
    store.append_drive(drive, 1, &[2.0; 8]).unwrap();
    drop(store);
    let mut store = Store::open(&file_in(&folder)).unwrap();
    let open = store.open_drives().unwrap();
    assert_eq!((open.len(), open[0].mover, open[0].values.len()), (1, MoverId::Piece(PieceId(4)), 128));
    store.close_drive(drive).unwrap();
    assert!(store.open_drives().unwrap().is_empty());
}

/// What is written to a file that is no longer where it was is kept nowhere.
#[test]
fn a_database_that_was_moved_away_takes_nothing_more_until_it_is_back() {
    let (folder, mut store) = fresh();
    let take = roll(&mut store, 1);
    let [here, away] = ["rovnek.sqlite", "elsewhere.sqlite"].map(|name| folder.path().join(name));
    std::fs::rename(&here, &away).unwrap();
    let gone = |e: StoreError| assert!(matches!(&e, StoreError::Gone(path) if *path == here), "{e}");
    gone(store.append(take, 1, 9, &[0.0; 270]).unwrap_err());
    gone(store.close_take(take, &[]).unwrap_err());
    gone(store.edit("nothing", None).err().unwrap());
    // Another file in its place is not it.
    std::fs::copy(&away, &here).unwrap();
    gone(store.edit("nothing", None).err().unwrap());
    std::fs::rename(&away, &here).unwrap();
    store.append(take, 1, 9, &[0.0; 270]).unwrap();
    store.close_take(take, &[]).unwrap();
    assert_eq!(store.reader().unwrap().samples(take).unwrap().len(), 60);
}

#[test]
fn what_is_empty_or_damaged_is_named_and_left_as_it_is() {
    let (folder, mut store) = fresh();
    let take = roll(&mut store, 40);
    store.close_take(take, &[]).unwrap();
    drop(store);
    let file = folder.path().join("rovnek.sqlite");
    let whole = std::fs::read(&file).unwrap();
    let refused = |bytes: &[u8]| {
        std::fs::write(&file, bytes).unwrap();
        let error = Store::open(&file_in(&folder)).err().expect("it is refused");
        assert_eq!(std::fs::read(&file).unwrap(), bytes, "{error}");
        error
    };
    assert!(matches!(refused(&[]), StoreError::Empty(_)));
    // Pages from the second on, overwritten; and half of the file.
    let mut spoilt = whole.clone();
    spoilt[8192..40_960].fill(0xa5);
    let error = refused(&spoilt);
    assert!(matches!(error, StoreError::Unsound(..)) && error.to_string().contains("damaged"), "{error}");
    assert!(matches!(refused(&whole[..whole.len() / 2]), StoreError::Unsound(..)));
    assert!(matches!(refused(b"a text, and no database at all"), StoreError::Unsound(..)));
    std::fs::write(&file, &whole).unwrap();
    assert_eq!(Store::open(&file_in(&folder)).unwrap().reader().unwrap().samples(take).unwrap().len(), 1200);
}
