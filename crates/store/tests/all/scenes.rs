//! Scenes of a production, and what is carried from one into another.

use crate::common::{edit, file_in, redo, said, undo};
use rovnek_core::carrier::Carrier;
use rovnek_core::ids::{GroupId, PerformanceId, PieceId, SceneId, SetupId, ThingKind};
use rovnek_core::performer::Performer;
use rovnek_core::set::{Form, Piece, Sequence};
use rovnek_store::copy::carry::{CarryChoice, CarryRequest, CarryThing};
use rovnek_store::edit::patch::{Names, Op};
use rovnek_store::model::{AssetKind, Document, NewScene};
use rovnek_store::rows::journal::NewTake;
use rovnek_store::versions::Subject;
use rovnek_store::{Result, Store};
use serde_json::{Value, json};
use std::sync::Arc;
use tempfile::TempDir;

/// A yard with a table, a card, somebody who rides the table, a crane that the table carries, with a
/// position, a keyed move and a variant of it, and a take with a pass.
fn depot() -> (TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let mut store = Store::open(&file_in(&folder)).unwrap();
    let mut new = NewScene::empty("Depot");
    let piece = |id: u32, form: Form| Piece {
        id: PieceId(id),
        group: GroupId(3),
        ..Piece::new("piece", form, [1.0, 0.0, 0.0])
    };
    new.scene.pieces = Arc::new(vec![
        Piece { name: "table".into(), ..piece(11, Form::Table { size: [1.0, 1.0, 1.0] }) },
        Piece { name: "lamp".into(), wild: vec![SetupId(1)], ..piece(12, Form::Lamp { cord: 1.0 }) },
    ]);
    let walker: Performer = serde_json::from_value(json!({
        "id": 5, "name": "conductor", "height_m": 1.78, "parts": [{"performance": 1, "rides": 11,
            "motion": "walks", "route": {"waypoints": [{"time_s": 0.0, "position": [0, 0, 0]}]}}]
    }))
    .unwrap();
    new.scene.performers = Arc::new(vec![walker]);
    store.begin(&new).unwrap();
    let mut bring = store.edit("image", None).unwrap();
    bring.keep(AssetKind::Image, "other.png", b"other").unwrap();
    let images = [&b"pixels"[..], b"more"].map(|b| bring.keep(AssetKind::Image, "card.png", b).unwrap());
    let sequence = json!({"images": images, "rate": 12.0, "start_s": 1.5});
    let image = images[0];
    bring.commit().unwrap();
    let card = json!({"name": "card", "form": {"kind": "card", "image": image, "width": 2.0, "height": 1.0, "sequence": sequence},
        "position": [0, 0, 0]});
    let keys = json!({"boom": [{"time_s": 1.0, "value": 20.0}]});
    edit(&mut store, json!([
        {"op": "add", "path": "/pieces/new:1", "value": card},
        {"op": "replace", "path": "/setups/1/positions", "value": [{"number": 4, "axes": {"swing": 9.0}}]},
        {"op": "add", "path": "/moves/new:2", "value":
            {"setup_id": 1, "source": {"kind": "curves"}, "curves": keys, "name": "keyed", "run": true}},
    ]))
    .unwrap();
    edit(&mut store, json!([
        {"op": "add", "path": "/moves/new:3", "value": {"setup_id": 1, "source": {"kind": "curves"}, "variant_of": 1}},
        {"op": "add", "path": "/setups/1/rig/carried", "value": {"by": "piece", "id": 11}},
    ]))
    .unwrap();
    let setup = store.setup(SetupId(1)).unwrap();
    let mut roll = |pass| {
        let new = NewTake { pass, ..NewTake::plain(SetupId(1), &setup.camera, &setup.rig, 120.0) };
        let width = new.axes.len();
        let (take, _) = store.begin_take(&new).unwrap();
        store.append(take, 0, width, &vec![f64::from(take.0) / 7.0; width * 20]).unwrap();
        store.close_take(take, &[]).unwrap();
        take
    };
    let take = roll(None);
    let placement = serde_json::from_value(json!({"name": "head", "at": 0, "axes": ["pan"], "blend_s": 0.2}));
    roll(Some((take, placement.unwrap())));
    (folder, store)
}

fn add_scene(store: &mut Store, value: Value) -> Result<u32> {
    Ok(edit(store, json!([{"op": "add", "path": "/scenes/new:1", "value": value}]))?["new:1"])
}

fn in_scene(store: &mut Store, scene: u32, ops: Value) -> Result<Names> {
    let ops: Vec<Op> = serde_json::from_value(ops).unwrap();
    let (mut names, mut edit) = (Names::new(), store.edit("edit", None)?);
    edit.apply(SceneId(scene), &ops, &mut names)?;
    edit.commit()?;
    Ok(names)
}

#[test]
fn scenes_come_go_are_named_and_ordered_and_are_undone() {
    let (folder, mut store) = depot();
    let second = add_scene(&mut store, json!({"number": "2", "name": "Hall"})).unwrap();
    let third = add_scene(&mut store, json!({"number": "2A", "name": "Gate"})).unwrap();
    let numbers = |store: &Store| -> Vec<String> {
        let all = store.document().unwrap().scenes.clone();
        all.iter().filter(|s| !s.binned).map(|s| s.number.clone()).collect()
    };
    assert_eq!(numbers(&store), ["1", "2", "2A"]);
    let taken = said(add_scene(&mut store, json!({"number": "2", "name": "x"})));
    assert!(taken.contains("scene 2 is there already (Hall)"), "{taken}");
    // One that is not on the floor is renamed, ordered and binned as well.
    edit(
        &mut store,
        json!([
            {"op": "replace", "path": format!("/scenes/{third}/number"), "value": "9"},
            {"op": "move", "path": format!("/scenes/{third}"), "before": "1"},
        ]),
    )
    .unwrap();
    assert_eq!(numbers(&store), ["9", "1", "2"]);
    let taken = said(edit(&mut store, json!([{"op": "replace", "path": "/scenes/1/number", "value": "9"}])));
    assert!(taken.contains("give another number"), "{taken}");
    assert!(said(edit(&mut store, json!([{"op": "remove", "path": "/scenes/1"}]))).contains("on the floor"));
    edit(&mut store, json!([{"op": "remove", "path": format!("/scenes/{second}")}])).unwrap();
    assert_eq!(numbers(&store), ["9", "1"]);
    assert!(store.turn_to(SceneId(second)).unwrap_err().to_string().contains("bin"));
    add_scene(&mut store, json!({"number": "2", "name": "Other hall"})).unwrap();
    let back = json!([{"op": "replace", "path": format!("/scenes/{second}/binned"), "value": false}]);
    assert!(said(edit(&mut store, back)).contains("Other hall"));
    for _ in 0..3 {
        undo(&mut store);
    }
    assert_eq!(numbers(&store), ["1", "2", "2A"]);
    redo(&mut store);
    store.turn_to(SceneId(third)).unwrap();
    drop(store);
    assert_eq!(Store::open(&file_in(&folder)).unwrap().document().unwrap().scene.number, "9");
}

#[test]
fn a_scene_refuses_what_is_of_another_one_and_counts_its_own_takes() {
    let (_folder, mut store) = depot();
    let second = add_scene(&mut store, json!({"number": "2", "name": "Hall"})).unwrap();
    store.turn_to(SceneId(second)).unwrap();
    let document = store.document().unwrap();
    assert_eq!((document.scene.id, document.next_take, document.setups.len()), (SceneId(second), 1, 1));
    assert!(document.scene.pieces.is_empty() && document.takes.is_empty());
    for path in ["/pieces/11/name", "/performers/5/name", "/setups/1/name", "/takes/1/name", "/moves/1/name"]
    {
        let ops = json!([{"op": "replace", "path": path, "value": "x"}]);
        let sentence = said(in_scene(&mut store, second, ops));
        assert!(sentence.contains("is of scene 1 (Scene); open that scene first"), "{path}: {sentence}");
    }
    let rides =
        json!([{"op": "replace", "path": "/setups/2/rig/carried", "value": {"by": "piece", "id": 11}}]);
    assert!(in_scene(&mut store, second, rides).is_err());
    // The bin of one scene is not that of another.
    store.turn_to(SceneId(1)).unwrap();
    edit(&mut store, json!([{"op": "remove", "path": "/takes/1"}])).unwrap();
    store.turn_to(SceneId(second)).unwrap();
    assert_eq!(store.empty_bin().unwrap(), 0);
    store.turn_to(SceneId(1)).unwrap();
    assert_eq!(store.empty_bin().unwrap(), 2);
}

/// What a scene is, without the numbers that tell its things from others.
fn plain(document: &Document) -> Value {
    fn strip(value: &mut Value) {
        match value {
            Value::Array(all) => all.iter_mut().for_each(strip),
            Value::Object(fields) => {
                for name in
                    ["id", "group", "performance", "rides", "move", "take", "setup_id", "variant_of", "runs"]
                {
                    if fields.get(name).is_some_and(Value::is_number) {
                        fields.insert(name.into(), json!("some"));
                    }
                }
                if fields.contains_key("wild") {
                    fields.insert("wild".into(), json!("some"));
                }
                fields.values_mut().for_each(strip);
            }
            _ => {}
        }
    }
    let scene = &document.scene;
    let mut value = json!([
        scene.pieces,
        scene.performers,
        scene.performances,
        document.setups,
        document.takes,
        document.moves
    ]);
    strip(&mut value);
    value
}

#[test]
fn a_duplicate_has_all_that_the_scene_has_and_means_its_own_things() {
    let (_folder, mut store) = depot();
    let before = store.document().unwrap();
    let twin =
        add_scene(&mut store, json!({"number": "1B", "name": "Twin", "like": 1, "takes": true})).unwrap();
    assert_eq!(store.document().unwrap().scene, before.scene);
    store.turn_to(SceneId(twin)).unwrap();
    let now = store.document().unwrap();
    assert_eq!(plain(&now), plain(&before));
    let ids = |d: &Document| d.scene.pieces.iter().map(|p| p.id).collect::<Vec<_>>();
    assert!(ids(&now).iter().all(|id| !ids(&before).contains(id)));
    // Who rides the table rides the copy of it, and so do machine, moves and passes.
    let table = now.scene.pieces[0].id;
    assert_eq!(now.scene.performers[0].parts[0].rides, Some(Carrier::Piece { id: table }));
    assert_eq!(now.scene.performers[0].parts[0].performance, now.scene.performance);
    let setup = &now.setups[0];
    assert_eq!(serde_json::to_value(setup.rig.carried).unwrap(), json!({"by": "piece", "id": table}));
    assert!(now.moves.iter().any(|m| setup.runs == Some(m.id)));
    assert_eq!(now.scene.pieces[1].wild, [setup.id], "the lamp is taken out for the copy of its setup");
    assert_eq!(now.takes[1].pass.as_ref().map(|p| p.take), Some(now.takes[0].id));
    let reader = store.reader().unwrap();
    for (a, b) in before.takes.iter().zip(now.takes.iter()) {
        assert_eq!(reader.samples(a.id).unwrap(), reader.samples(b.id).unwrap());
    }
    // What is worked out of the one is never taken for the other's, also where the two are alike.
    let set = |d: &Document| d.version(Subject::Set(d.scene.performance));
    assert_ne!(set(&now), set(&before));
    // Without its takes, what is keyed is there and what was rolled is not.
    let bare = add_scene(&mut store, json!({"number": "1C", "name": "Bare", "like": 1})).unwrap();
    store.turn_to(SceneId(bare)).unwrap();
    let document = store.document().unwrap();
    assert_eq!((document.takes.len(), document.moves.len(), document.next_take), (0, 2, 1));
    // Undone, it is in the bin.
    store.turn_to(SceneId(1)).unwrap();
    undo(&mut store);
    assert!(store.document().unwrap().scenes.iter().any(|s| s.id == SceneId(bare) && s.binned));
}

fn thing(kind: ThingKind, id: u32) -> CarryThing {
    CarryThing { kind, id }
}

fn wanted(things: &[CarryThing], choices: &[(CarryThing, CarryChoice)]) -> CarryRequest {
    CarryRequest { things: things.to_vec(), takes: false, choices: choices.to_vec() }
}

#[test]
fn what_a_carried_setup_needs_is_named_and_nothing_is_guessed() {
    let (_folder, mut store) = depot();
    let second = add_scene(&mut store, json!({"number": "2", "name": "Hall"})).unwrap();
    let reader = store.reader().unwrap();
    let (setup, table) = (thing(ThingKind::Setup, 1), thing(ThingKind::Piece, 11));
    let mut edit = store.edit("carry", None).unwrap();
    let missing = edit.carry_missing(&reader, true, SceneId(second), &wanted(&[setup], &[])).unwrap();
    assert_eq!(missing.len(), 1);
    assert_eq!((missing[0].thing, &*missing[0].name, &*missing[0].by[0]), (table, "table", "setup A, crane"));
    assert!(missing[0].out && missing[0].instead.is_empty());
    let refused = edit.carry(&reader, true, SceneId(second), &wanted(&[setup], &[])).unwrap_err().to_string();
    assert!(refused.contains("setup A, crane needs table"), "{refused}");
    // Along with it, the table needs nothing more, and carries the copy.
    let along = wanted(&[setup], &[(table, CarryChoice::Along)]);
    assert!(edit.carry_missing(&reader, true, SceneId(second), &along).unwrap().is_empty());
    edit.carry(&reader, true, SceneId(second), &along).unwrap();
    edit.commit().unwrap();
    store.turn_to(SceneId(second)).unwrap();
    let document = store.document().unwrap();
    let (came, piece) = (&document.setups[1], &document.scene.pieces[0]);
    assert_eq!((&*came.letter, &*came.name, came.positions[0].number), ("B", "crane", 4));
    assert_eq!(serde_json::to_value(came.rig.carried).unwrap(), json!({"by": "piece", "id": piece.id}));
    let moves: Vec<_> = document.moves.iter().filter(|m| m.setup_id == came.id).collect();
    assert_eq!((moves.len(), moves[1].variant_of), (2, Some(moves[0].id)));
    assert_eq!(came.runs, Some(moves[0].id));
    undo(&mut store);
    assert!(store.document().unwrap().setups[1].binned && store.document().unwrap().scene.pieces.is_empty());
}

#[test]
fn a_piece_that_is_taken_out_for_a_setup_asks_for_none_where_it_goes() {
    let (_folder, mut store) = depot();
    let second = add_scene(&mut store, json!({"number": "2", "name": "Hall"})).unwrap();
    let reader = store.reader().unwrap();
    let lamp = wanted(&[thing(ThingKind::Piece, 12)], &[]);
    let mut edit = store.edit("carry", None).unwrap();
    assert!(edit.carry_missing(&reader, true, SceneId(second), &lamp).unwrap().is_empty());
    edit.carry(&reader, true, SceneId(second), &lamp).unwrap();
    edit.commit().unwrap();
    store.turn_to(SceneId(second)).unwrap();
    assert!(store.document().unwrap().scene.pieces[0].wild.is_empty());
    // Of what is not a setup of the scene it cannot be taken out.
    let lamp = store.document().unwrap().scene.pieces[0].id;
    let wild = json!([{"op": "add", "path": format!("/pieces/{lamp}/wild"), "value": [99]}]);
    let refused = in_scene(&mut store, second, wild).unwrap_err().to_string();
    assert!(refused.contains("no setup with number 99"), "{refused}");
}

#[test]
fn what_comes_from_another_production_brings_its_images_and_takes() {
    let (_from, source) = depot();
    let (_here, mut store) = {
        let folder = tempfile::tempdir().unwrap();
        let mut store = Store::open(&file_in(&folder)).unwrap();
        store.begin(&NewScene::empty("Other")).unwrap();
        (folder, store)
    };
    let reader = source.reader().unwrap();
    let offers = reader.offers(SceneId(1)).unwrap();
    let names: Vec<&str> = offers.iter().map(|o| &*o.name).collect();
    assert_eq!(names, ["setup A, crane", "conductor", "table", "lamp", "card"]);
    assert_eq!((offers[0].takes, offers[2].group, offers[3].group), (1, 3, 3));
    let all: Vec<CarryThing> = offers.iter().map(|o| o.thing).collect();
    let mut edit = store.edit("carry", None).unwrap();
    let missing = edit.carry_missing(&reader, false, SceneId(1), &wanted(&all, &[])).unwrap();
    let performance = thing(ThingKind::Performance, 1);
    assert_eq!((missing.len(), missing[0].thing), (1, performance));
    assert_eq!(missing[0].instead, [(1, "the performance as written".to_string())]);
    let instead = (performance, CarryChoice::Instead { with: 1 });
    edit.carry(&reader, false, SceneId(1), &CarryRequest { takes: true, ..wanted(&all, &[instead]) })
        .unwrap();
    edit.commit().unwrap();
    let document = store.document().unwrap();
    let (scene, takes) = (&document.scene, &document.takes);
    assert_eq!((scene.pieces.len(), scene.performers.len(), takes.len()), (3, 1, 2));
    assert_eq!(scene.performers[0].parts[0].rides, Some(Carrier::Piece { id: scene.pieces[0].id }));
    assert_eq!((scene.pieces[0].group, scene.pieces[1].group), (GroupId(1), GroupId(1)));
    let Form::Card { image, sequence, .. } = &scene.pieces[2].form else { panic!("a card") };
    let here = store.reader().unwrap();
    assert_eq!(here.asset(AssetKind::Image, image.0).unwrap(), b"pixels");
    let Sequence { images, start_s, .. } = sequence.as_ref().unwrap();
    assert_eq!(here.asset(AssetKind::Image, images[1].0).unwrap(), b"more");
    assert_eq!((images[0], images.len(), *start_s), (*image, 2, 1.5));
    assert_eq!((takes[0].number, takes[1].number, document.next_take), (1, 1, 2));
    for (a, b) in source.document().unwrap().takes.iter().zip(takes.iter()) {
        assert_eq!(reader.samples(a.id).unwrap(), here.samples(b.id).unwrap());
    }
    assert!(document.moves.iter().any(|m| m.take() == Some(takes[0].id)));
    assert!(
        takes.iter().all(|t| t.rolled.performance == PerformanceId(0)),
        "nobody says what these were rolled against"
    );
    // What does without somebody loses only that.
    let choices = [(performance, CarryChoice::Out)];
    let mut edit = store.edit("carry", None).unwrap();
    edit.carry(&reader, false, SceneId(1), &wanted(&[thing(ThingKind::Performer, 5)], &choices)).unwrap_err();
    let choices = [(performance, CarryChoice::Out), (thing(ThingKind::Piece, 11), CarryChoice::Out)];
    edit.carry(&reader, false, SceneId(1), &wanted(&[thing(ThingKind::Performer, 5)], &choices)).unwrap();
    edit.commit().unwrap();
    assert!(store.document().unwrap().scene.performers[1].parts.is_empty());
}
