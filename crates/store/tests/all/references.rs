//! A reference to anything of any kind survives copying and carrying, or is named as missing. Random scenes have
//! every kind of reference that there is; which of their things are carried is random as well.

use crate::common::{edit, file_in};
use proptest::prelude::*;
use rovnek_core::carrier::Carrier;
use rovnek_core::ids::*;
use rovnek_core::performer::{Part, PartMotion, Performer, Route, Waypoint};
use rovnek_core::references::{Reference, references};
use rovnek_core::rigs::{AimRig, BentRail, OrbitArm, RigSpec, Rigging, SquareToCard, Tripod};
use rovnek_core::set::{Form, Piece, PieceRoute, Sequence};
use rovnek_core::treatments::{Aim, BodyPart, Shake, ShakeBy, Target, Treatment, TreatmentKind, Turn};
use rovnek_store::Store;
use rovnek_store::copy::carry::{CarryChoice, CarryRequest, CarryThing};
use rovnek_store::model::{AssetKind, Document, NewScene, NewSetup};
use rovnek_store::rows::journal::NewTake;
use rovnek_store::things::Listed;
use serde_json::{Value, json};
use std::collections::{BTreeMap, BTreeSet};
use tempfile::TempDir;

/// Which of the references of a random scene are there.
type There = [bool; 12];

fn route() -> Route {
    let at = |time_s: f64, x: f64| -> Waypoint {
        serde_json::from_value(json!({"time_s": time_s, "position": [x, 0.0, 1.0]})).unwrap()
    };
    Route { waypoints: [at(0.0, 0.0), at(2.0, 1.0)].into_iter().collect() }
}

fn some<T>(there: bool, value: T) -> Option<T> {
    there.then_some(value)
}

/// A production with five pieces, three performers, five setups, moves, takes, assets and two performances.
fn production(there: &There) -> (TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let mut store = Store::open(&file_in(&folder)).unwrap();
    let mut new = NewScene::empty("References");
    let setup = |name: &str, rig: RigSpec| NewSetup {
        name: name.into(),
        camera: Default::default(),
        rig: rig.into(),
    };
    new.setups = vec![
        setup("tripod", RigSpec::Tripod(Tripod::default())),
        setup("rail", RigSpec::Rail(BentRail::default())),
        setup("orbit", RigSpec::OrbitArm(OrbitArm::default())),
        setup("aim", RigSpec::AimRig(AimRig::default())),
        setup("card", RigSpec::Tripod(Tripod::default())),
    ];
    store.begin(&new).unwrap();
    let mut bring = store.edit("assets", None).unwrap();
    let image = |edit: &mut rovnek_store::edit::history::Edit, bytes: &[u8]| {
        ImageId(edit.keep(AssetKind::Image, "image.png", bytes).unwrap())
    };
    let images = [image(&mut bring, b"one"), image(&mut bring, b"two")];
    let mesh = MeshId(bring.keep(AssetKind::Mesh, "mesh", b"mesh").unwrap());
    let clip = ClipId(bring.keep(AssetKind::Clip, "clip", b"clip").unwrap());
    bring.commit().unwrap();
    let add = |store: &mut Store, root: &str, value: Value| {
        let ops = json!([{"op": "add", "path": format!("/{root}/new:1"), "value": value}]);
        edit(store, ops).unwrap()["new:1"]
    };
    let second = PerformanceId(add(&mut store, "performances", json!({"name": "other", "like": 1})));
    let first = PerformanceId(1);
    let piece = |name: &str, form: Form| Piece::new(name, form, [1.0, 0.0, 2.0]);
    let sequence = some(there[0], Sequence { images: images.to_vec(), rate: 12.0, start_s: 0.0 });
    let card = Form::Card {
        image: images[0],
        width: 2.0,
        height: 1.0,
        toward: some(there[1], SetupId(1)),
        sequence,
    };
    let performances = [first, second];
    let table = Piece {
        group: GroupId(if there[2] { 4 } else { 0 }),
        routes: performances.map(|performance| PieceRoute { performance, route: route() }).to_vec(),
        ..piece("table", Form::Table { size: [1.0; 3] })
    };
    let table = PieceId(add(&mut store, "pieces", json!(table)));
    let wild = if there[3] { vec![SetupId(1), SetupId(2)] } else { Vec::new() };
    add(
        &mut store,
        "pieces",
        json!(Piece { wild, group: GroupId(4), ..piece("wall", Form::Table { size: [2.0; 3] }) }),
    );
    let card = PieceId(add(&mut store, "pieces", json!(piece("card", card))));
    let mesh =
        Form::Mesh { mesh, size: [1.0; 3], outline: vec![[0.0, 0.0], [1.0, 0.0], [1.0, 1.0]], scale: 1.0 };
    add(&mut store, "pieces", json!(piece("mesh", mesh)));
    let part = |performance: PerformanceId, rides: Option<Carrier>| Part {
        performance,
        rides,
        motion: PartMotion::Walks { route: route() },
    };
    let danced = |performance: PerformanceId| Part {
        motion: PartMotion::Captured {
            clip,
            start_s: 0.0,
            trim_s: [0.0, 1.0],
            position: [0.0; 3],
            turn_deg: 0.0,
        },
        ..part(performance, None)
    };
    let on_table = some(there[4], Carrier::Piece { id: table });
    let on_machine = some(there[5], Carrier::Setup { id: SetupId(1), moved: None });
    let performer = |name: &str, parts: Vec<Part>| {
        let all = Performer { id: PerformerId(0), name: name.into(), height_m: 1.8, build: 1.0, parts };
        json!(all)
    };
    let walker = performer("walker", performances.map(|p| part(p, on_table)).to_vec());
    let walker = PerformerId(add(&mut store, "performers", walker));
    add(&mut store, "performers", performer("rider", vec![part(first, on_machine)]));
    add(&mut store, "performers", performer("dancer", vec![danced(second)]));
    let keys = json!({"boom": [{"time_s": 1.0, "value": 20.0}]});
    let rig = |spec: RigSpec, carried: Option<Carrier>| json!(Rigging { carried, ..spec.into() });
    let follows = some(there[6], walker);
    let before = SquareToCard { card, ..SquareToCard::default() };
    edit(&mut store, json!([
        {"op": "replace", "path": "/setups/2/rig", "value":
            rig(RigSpec::Rail(BentRail { follows, ..BentRail::default() }), None)},
        {"op": "replace", "path": "/setups/3/rig", "value":
            rig(RigSpec::OrbitArm(OrbitArm { follows, ..OrbitArm::default() }), None)},
        {"op": "replace", "path": "/setups/4/rig", "value": rig(
            RigSpec::AimRig(AimRig { follows, ..AimRig::default() }),
            some(there[7], Carrier::Performer { id: walker }))},
        {"op": "replace", "path": "/setups/5/rig", "value": rig(RigSpec::SquareToCard(before), None)},
        {"op": "add", "path": "/moves/new:1", "value":
            {"setup_id": 1, "name": "keyed", "source": {"kind": "curves"}, "curves": keys, "run": there[8]}},
    ])).unwrap();
    add(
        &mut store,
        "pieces",
        json!(Piece {
            rides: some(there[9], Carrier::Setup { id: SetupId(1), moved: Some(MoveId(1)) }),
            ..piece("crate", Form::Table { size: [0.5; 3] })
        }),
    );
    let crane = store.setup(SetupId(1)).unwrap();
    let mut roll = |pass| {
        let rolled = store.rolled_against().unwrap();
        let new = NewTake { pass, rolled, ..NewTake::plain(SetupId(1), &crane.camera, &crane.rig, 120.0) };
        let width = new.axes.len();
        let (take, _) = store.begin_take(&new).unwrap();
        store.append(take, 0, width, &vec![0.5; width * 20]).unwrap();
        store.close_take(take, &[]).unwrap();
        take
    };
    let take = roll(None);
    let placement = json!({"name": "head", "at": 0, "axes": ["pan"], "blend_s": 0.2});
    roll(Some((take, serde_json::from_value(placement).unwrap())));
    let to = |to: Target| Turn { to, ..Turn::default() };
    let aim = Aim {
        turns: vec![
            to(Target::Somebody { who: some(there[10], walker), part: BodyPart::Eyes }),
            Turn { from_s: 2.0, ..to(Target::Piece { piece: some(there[10], table), up_m: 1.0 }) },
        ],
        ..Aim::default()
    };
    let way = ShakeBy::Sampled { take: some(there[11], take), from_hz: 2.0, starts_s: 0.0, times: [1.0; 2] };
    let treatments: Vec<Treatment> =
        vec![TreatmentKind::Aim(aim).into(), TreatmentKind::Shake(Shake { way, ..Shake::default() }).into()];
    let treatments: rovnek_core::list::List<Treatment> = treatments.into();
    edit(
        &mut store,
        json!([
            {"op": "replace", "path": "/moves/1/treatments", "value": treatments},
            {"op": "add", "path": "/moves/new:1", "value":
                {"setup_id": 2, "name": "follow", "source": {"kind": "follow", "move": 1}}},
            {"op": "add", "path": "/moves/new:2", "value":
                {"setup_id": 1, "name": "variant", "source": {"kind": "curves"}, "variant_of": 1}},
        ]),
    )
    .unwrap();
    (folder, store)
}

/// A thing of a document: its kind, its number, its name, and the references in it.
struct Seen {
    kind: ThingKind,
    id: u32,
    name: String,
    references: Vec<Reference>,
}

fn seen_in(document: &Document) -> Vec<Seen> {
    fn list<T: Listed>(all: &[T], name: impl Fn(&T) -> String, into: &mut Vec<Seen>) {
        for thing in all {
            let mut found = references(thing);
            found.retain(|r| r.pointer != "/id");
            let (kind, id) = (<T::Id as Id>::KIND, thing.id().number());
            into.push(Seen { kind, id, name: name(thing), references: found });
        }
    }
    let (mut all, scene) = (Vec::new(), &document.scene);
    list(&scene.pieces, |p| p.name.clone(), &mut all);
    list(&scene.performers, |p| p.name.clone(), &mut all);
    list(&scene.performances, |p| p.name.clone(), &mut all);
    list(&document.setups, |s| s.name.clone(), &mut all);
    list(&document.takes, |t| format!("{} {}", t.number, t.pass.is_some()), &mut all);
    list(&document.moves, |m| format!("{} {}", m.name, m.take().is_some()), &mut all);
    all
}

/// Names of things by kind and number; assets have their kind only, since they have other numbers elsewhere.
fn named(all: &[Seen], kind: ThingKind, id: u32) -> String {
    let thing = all.iter().find(|s| (s.kind, s.id) == (kind, id));
    thing.map_or(format!("{kind:?}"), |s| format!("{kind:?} {}", s.name))
}

fn in_words(all: &[Seen], of: &Seen) -> Vec<(String, String)> {
    of.references.iter().map(|r| (r.pointer.clone(), named(all, r.kind, r.id))).collect()
}

#[test]
fn a_full_scene_has_a_reference_of_every_kind() {
    let (_folder, store) = production(&[true; 12]);
    let all = seen_in(&store.document().unwrap());
    let found: BTreeSet<ThingKind> = all.iter().flat_map(|s| &s.references).map(|r| r.kind).collect();
    let kinds = [
        ThingKind::Piece,
        ThingKind::Group,
        ThingKind::Performer,
        ThingKind::Performance,
        ThingKind::Setup,
        ThingKind::Take,
        ThingKind::Move,
        ThingKind::Mesh,
        ThingKind::Image,
        ThingKind::Clip,
    ];
    // A scene's things name no scene.
    assert_eq!(found, BTreeSet::from(kinds));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    #[test]
    fn a_copied_scene_refers_to_its_own_things_as_the_first_one_does(there: There) {
        let (_folder, mut store) = production(&there);
        let before = seen_in(&store.document().unwrap());
        let copy = json!([{"op": "add", "path": "/scenes/new:1", "value":
            {"number": "2", "name": "copy", "like": 1, "takes": true}}]);
        let copy = edit(&mut store, copy).unwrap()["new:1"];
        store.turn_to(SceneId(copy)).unwrap();
        let after = seen_in(&store.document().unwrap());
        prop_assert_eq!(before.len(), after.len());
        let there: BTreeSet<(ThingKind, u32)> = after.iter().map(|s| (s.kind, s.id)).collect();
        for b in &after {
            let a = before.iter().find(|a| (a.kind, &a.name) == (b.kind, &b.name)).unwrap();
            prop_assert_eq!(in_words(&before, a), in_words(&after, b), "{}", &a.name);
            for r in &b.references {
                let asset = matches!(
                    r.kind, ThingKind::Mesh | ThingKind::Image | ThingKind::Clip | ThingKind::Group);
                prop_assert!(asset || there.contains(&(r.kind, r.id)), "{} means {:?}", b.name, r);
            }
        }
    }

    #[test]
    fn what_is_carried_keeps_its_references_or_names_what_is_missing(
        there: There, picked in prop::collection::vec(any::<bool>(), 13), along: bool, takes: bool,
    ) {
        let (_from, source) = production(&there);
        let (_to, mut store) = {
            let folder = tempfile::tempdir().unwrap();
            let mut store = Store::open(&file_in(&folder)).unwrap();
            store.begin(&NewScene::empty("Other")).unwrap();
            (folder, store)
        };
        let before = seen_in(&source.document().unwrap());
        let carried = |s: &&Seen| matches!(s.kind, ThingKind::Piece | ThingKind::Performer | ThingKind::Setup);
        let mut things: Vec<CarryThing> = before.iter().filter(carried).zip(&picked)
            .filter(|(_, picked)| **picked).map(|(s, _)| CarryThing { kind: s.kind, id: s.id }).collect();
        prop_assume!(!things.is_empty());
        let reader = source.reader().unwrap();
        let mut wanted = CarryRequest { things: things.clone(), takes, choices: Vec::new() };
        let mut change = store.edit("carry", None).unwrap();
        // Each missing thing is left out where that can be, else it comes along; until nothing is missing.
        let mut out: BTreeSet<(ThingKind, u32)> = BTreeSet::new();
        loop {
            let missing = change.carry_missing(&reader, false, SceneId(1), &wanted).unwrap();
            let undecided: Vec<_> = missing.iter()
                .filter(|m| !wanted.choices.iter().any(|(thing, _)| *thing == m.thing)).collect();
            if undecided.is_empty() {
                break;
            }
            let decided = wanted.clone();
            for m in undecided {
                if !m.out {
                    let mut without = decided.clone();
                    without.choices.push((m.thing, CarryChoice::Out));
                    let refused = change.carry(&reader, false, SceneId(1), &without).unwrap_err().to_string();
                    prop_assert!(refused.contains("cannot do without") || refused.contains("needs"), "{refused}");
                }
                let choice = if m.out && !along { CarryChoice::Out } else { CarryChoice::Along };
                match choice {
                    CarryChoice::Out => drop(out.insert((m.thing.kind, m.thing.id))),
                    _ => things.push(m.thing),
                }
                wanted.choices.push((m.thing, choice));
            }
        }
        let came = change.carry(&reader, false, SceneId(1), &wanted);
        let Err(refused) = came.and_then(|_| change.commit()) else {
            let after = seen_in(&store.document().unwrap());
            for b in after.iter().filter(carried).filter(|b| b.name != "crane") {
                let a = before.iter().find(|a| (a.kind, &a.name) == (b.kind, &b.name)).unwrap();
                let words = |all: &[Seen], of: &Seen, kept: &dyn Fn(&Reference) -> bool| -> BTreeMap<String, usize> {
                    let mut words = BTreeMap::new();
                    // What carries a camera square to a card follows from what the card does where it is now.
                    let follows = |r: &&Reference| of.name == "card" && r.pointer == "/rig/carried/id";
                    let plain = of.references.iter().filter(|r| r.kind != ThingKind::Group && !follows(r));
                    for r in plain.filter(|r| kept(r)) {
                        *words.entry(named(all, r.kind, r.id)).or_default() += 1;
                    }
                    words
                };
                let came = |kind: ThingKind, name: &str| after.iter().any(|s| s.kind == kind && s.name == name);
                let kept = |r: &Reference| {
                    let quiet = b.kind == ThingKind::Piece && r.pointer.starts_with("/wild/");
                    let thing = before.iter().find(|s| (s.kind, s.id) == (r.kind, r.id));
                    let there = thing.is_none_or(|s| came(s.kind, &s.name));
                    assert!(there || quiet || out.contains(&(r.kind, r.id)), "{} lost {r:?} unsaid", b.name);
                    // What hangs on a part that went, such as who carries somebody in a performance that did not
                    // come along, goes with it.
                    let with_part = |part: &Reference| {
                        let above = part.pointer.rsplit_once('/').map_or("", |(above, _)| above);
                        let gone = out.contains(&(part.kind, part.id)) && part.kind == ThingKind::Performance;
                        gone && r.pointer.starts_with(&format!("{above}/"))
                    };
                    there && !a.references.iter().any(with_part)
                };
                prop_assert_eq!(words(&before, a, &kept), words(&after, b, &|_| true), "{}", &b.name);
            }
            return Ok(());
        };
        prop_assert!(refused.to_string().contains("cannot do without"), "{refused}");
    }
}
