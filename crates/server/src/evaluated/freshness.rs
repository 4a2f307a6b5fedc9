//! No result is stale, and few are worked out for nothing: over random edits, a subject has another version
//! exactly when its result, worked out without any cache, is another one.

use crate::evaluated::moves::{From, MoveCache};
use crate::evaluated::scenery::Scenery;
use crate::floor::carrying::Carrying;
use crate::floor::riding::carried;
use crate::floor::staging::staged;
use rovnek_core::clearance::MeshHulls;
use rovnek_core::ids::SceneId;
use rovnek_core::samples::Samples;
use rovnek_store::Store;
use rovnek_store::edit::patch::{Names, Op};
use rovnek_store::model::{Document, NewScene};
use rovnek_store::rows::reader::Reader;
use rovnek_store::versions::Subject;
use serde_json::{Value, json};
use std::collections::BTreeMap;
use std::hash::{DefaultHasher, Hash, Hasher};

fn hash(of: &impl std::fmt::Debug) -> u64 {
    let mut hasher = DefaultHasher::new();
    format!("{of:?}").hash(&mut hasher);
    hasher.finish()
}

/// Results of every subject of a document, worked out anew.
fn results(document: &Document, reader: &Reader) -> BTreeMap<Subject, u64> {
    let (clips, meshes, moves) = (Default::default(), MeshHulls::new(), MoveCache::default());
    let read = |what: &dyn Fn(&Reader) -> rovnek_store::Result<Samples>| what(reader);
    let scene = &document.scene;
    let mut all = BTreeMap::new();
    for performance in scene.performances.iter().map(|p| p.id) {
        let bare = Scenery::of(document, performance, &clips);
        let scenery = carried(document, bare, &moves, &read, &meshes);
        let from = From { document, scenery: &scenery, on_the_way: 0, read: &read };
        results_among(&from, &moves, &mut all);
    }
    all
}

/// Results while one performance plays.
fn results_among(from: &From, moves: &MoveCache, all: &mut BTreeMap<Subject, u64>) {
    let From { document, scenery, .. } = *from;
    let (scene, performance) = (&document.scene, scenery.performance());
    let times = || (0..=8).map(|k| f64::from(k) * scene.length_s / 8.0);
    let movers: Vec<_> = scenery
        .playing
        .movers
        .iter()
        .enumerate()
        .map(|(i, mover)| {
            let poses: Vec<_> = times().map(|t| scenery.playing.poses(i, t)).collect();
            (mover.of, &mover.name, &mover.bodies, poses)
        })
        .collect();
    all.insert(Subject::Performance(performance), hash(&(scene.length_s, movers)));
    let solids = scene.pieces.iter().filter(|p| !p.hidden);
    let solids: Vec<_> = solids
        .map(|p| {
            (p.id, &p.wild, p.moves(performance), p.parts(&scene.pieces), p.pose(), p.outline(), p.lights())
        })
        .collect();
    all.insert(Subject::Set(performance), hash(&(scene.stage, solids)));
    let carrying = Carrying { document, playing: &scenery.playing, moved: &|_| None };
    for setup in document.setups.iter() {
        let rig = setup.rig.build(&setup.camera);
        let start = carrying.start(setup, &*rig);
        let view = (rig.body_poses(&start), rig.forward(&start), rig.fixed(), &setup.camera, &setup.rig);
        all.insert(Subject::Machine(setup.id, performance), hash(&view));
    }
    if performance == scene.performance {
        all.insert(Subject::Floor, hash(&staged(moves, from)));
    }
    for of in document.moves.iter() {
        let motion = moves.evaluate(from, of.id).map(|m| {
            let warnings = m.warnings(scene.rate);
            (m.camera, m.rigging, m.now.samples.clone(), m.now.camera.clone(), m.now.cuts.clone(), warnings)
        });
        all.insert(Subject::Motion(of.id, performance), hash(&motion.map_err(|e| e.to_string())));
    }
}

fn depot() -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let mut store = Store::open(&folder.path().join("depot.sqlite")).unwrap();
    let mut new = NewScene::empty("Versions");
    new.scene.head.length_s = 2.0;
    store.begin(&new).unwrap();
    let walk = |id: u32, x: f64| {
        let at = |time_s: f64, x: f64| json!({"time_s": time_s, "position": [x, 0.0, x]});
        json!({"performance": id, "motion": "walks", "route": {"waypoints": [at(0.0, x), at(2.0, x + 1.0)]}})
    };
    let piece = |name: &str, x: f64, more: Value| {
        let mut piece = json!({"name": name, "form": {"kind": "table", "size": [1.0, 0.8, 1.0]}, "position": [x, 0.0, 4.0]});
        piece.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        piece
    };
    let keys = |a: f64| json!({"boom": [{"time_s": 0.0, "value": a}, {"time_s": 2.0, "value": a + 5.0}]});
    let setup = |name: &str, rig: Value| {
        let camera = rovnek_core::lens::Camera::default();
        json!({"name": name, "camera": camera, "rig": rig})
    };
    let rig = |kind: &str| -> Value {
        let all = rovnek_core::rigs::RigSpec::all();
        let found = all.into_iter().find(|rig| rig.kind() == kind).unwrap();
        serde_json::to_value(rovnek_core::rigs::Rigging::from(found)).unwrap()
    };
    let kinds: Vec<&str> = rovnek_core::rigs::RigSpec::all().iter().map(|rig| rig.kind()).collect();
    assert!(kinds.contains(&"tripod"), "{kinds:?}");
    let smooth = json!({"kind": "smooth", "on": true, "machine": {"by": "binomial", "passes": 3}});
    apply(
        &mut store,
        json!([
            {"op": "add", "path": "/performances/new:1", "value": {"name": "other", "like": 1}},
            {"op": "add", "path": "/pieces/new:2", "value": piece("cart", 1.0, json!({"routes": [
                {"performance": 1, "route": walk(1, 2.0)["route"]}]}))},
            {"op": "add", "path": "/pieces/new:3", "value": piece("bench", -2.0, json!({}))},
            {"op": "add", "path": "/performers/new:4", "value":
                {"name": "conductor", "height_m": 1.8, "parts": [walk(1, 0.0), walk(2, 3.0)]}},
            {"op": "add", "path": "/performers/new:5", "value":
                {"name": "guest", "height_m": 1.7, "parts": [walk(1, -3.0)]}},
            {"op": "replace", "path": "/scenes/1/performance", "value": 1},
            {"op": "add", "path": "/setups/new:6", "value": setup("sticks", rig("tripod"))},
            {"op": "add", "path": "/setups/new:7", "value": setup("free", rig("free_camera"))},
        ]),
    )
    .unwrap();
    apply(&mut store, json!([
        {"op": "add", "path": "/moves/new:1", "value":
            {"setup_id": 1, "name": "keyed", "source": {"kind": "curves"}, "curves": keys(10.0), "run": true}},
        {"op": "add", "path": "/moves/new:2", "value":
            {"setup_id": 1, "name": "other", "source": {"kind": "curves"}, "curves": keys(20.0)}},
        {"op": "add", "path": "/moves/1/treatments/new:1", "value": smooth},
    ])).unwrap();
    apply(
        &mut store,
        json!([
            {"op": "add", "path": "/moves/new:1", "value":
                {"setup_id": 3, "name": "follow", "source": {"kind": "follow", "move": 1}}},
            {"op": "add", "path": "/setups/2/rig/carried", "value": {"by": "piece", "id": 1}},
            {"op": "add", "path": "/pieces/new:2", "value": piece("crate", 0.5, json!({"rides": {"by": "setup", "id": 1}}))},
        {"op": "add", "path": "/moves/2/treatments/new:1", "value": {"kind": "aim", "on": true, "turns": [
                {"from_s": 0.0, "over_s": 1.0, "to": {"at": "somebody", "who": 1, "part": "eyes"}}],
                "across": 0, "up": 0, "zone_percent": 0, "lag_s": 0}},
        ]),
    )
    .unwrap();
    (folder, store)
}

fn apply(store: &mut Store, ops: Value) -> Result<(), String> {
    let ops: Vec<Op> = serde_json::from_value(ops).unwrap();
    let mut edit = store.edit("edit", None).map_err(|e| e.to_string())?;
    edit.apply(SceneId(1), &ops, &mut Names::new()).map_err(|e| e.to_string())?;
    edit.commit().map_err(|e| e.to_string())
}

/// Numbers that follow from the ones before, evenly spread (SplitMix64).
struct Dice(u64);

impl Dice {
    fn below(&mut self, n: u64) -> u64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        rovnek_core::content::chained([self.0]) % n
    }

    fn between(&mut self, a: f64, b: f64) -> f64 {
        a + (b - a) * self.below(1000) as f64 / 1000.0
    }
}

/// A random edit: of what moves and stands, of machines, of moves, and of words that nothing is worked out of.
fn random(dice: &mut Dice, document: &Document, kinds: u64) -> Value {
    let (piece, performer) = (1 + dice.below(3), 1 + dice.below(2));
    let (setup, of) = (1 + dice.below(3), 1 + dice.below(3));
    let replace = |path: String, value: Value| json!([{"op": "replace", "path": path, "value": value}]);
    let word = json!(format!("word {}", dice.below(1_000_000)));
    let first = |curve: &str| {
        let curves = &document.moves.iter().find(|m| u64::from(m.id.0) == of).unwrap().curves;
        curves.get(curve).and_then(|keys| keys.ids().first().copied())
    };
    match dice.below(kinds) {
        0 => replace(format!("/pieces/{piece}/name"), word),
        1 => replace(format!("/pieces/{piece}/position/0"), json!(dice.between(-3.0, 3.0))),
        2 => replace(format!("/pieces/{piece}/turn_deg"), json!(dice.between(-90.0, 90.0))),
        3 => replace(format!("/pieces/{piece}/form/size/1"), json!(dice.between(0.4, 2.0))),
        4 => replace(format!("/pieces/{piece}/locked"), json!(dice.below(2) == 0)),
        5 => replace(format!("/pieces/{piece}/hidden"), json!(dice.below(2) == 0)),
        6 => replace(format!("/performers/{performer}/name"), word),
        7 => replace(format!("/performers/{performer}/height_m"), json!(dice.between(1.5, 2.0))),
        8 => {
            let way = format!("/performers/{performer}/parts/1/route/waypoints/2/position/0");
            replace(way, json!(dice.between(1.0, 3.0)))
        }
        9 => {
            let way = "/performers/1/parts/2/route/waypoints/2/position/0".to_string();
            replace(way, json!(dice.between(4.0, 5.0)))
        }
        10 => replace(format!("/setups/{setup}/name"), word),
        11 => replace(format!("/setups/{setup}/camera/f_stop"), json!(dice.between(1.5, 8.0))),
        12 => replace("/setups/1/rig/heading_deg".into(), json!(dice.between(-90.0, 90.0))),
        13 => replace(
            format!("/setups/{setup}/positions"),
            json!([{"number": 1, "axes": {"pan": dice.between(0.0, 9.0)}}]),
        ),
        14 => replace(format!("/moves/{of}/name"), word),
        15 | 16 => match first("boom") {
            Some(key) => {
                replace(format!("/moves/{of}/curves/boom/{key}/value"), json!(dice.between(1.0, 30.0)))
            }
            None => replace(format!("/moves/{of}/name"), word),
        },
        17 => replace("/moves/1/treatments/1/machine/passes".into(), json!(2 + dice.below(40))),
        18 => replace("/moves/2/treatments/1/turns/0/to/who".into(), json!(1 + dice.below(2))),
        19 => replace("/scenes/1/name".into(), word),
        20 => replace("/scenes/1/length_s".into(), json!(dice.between(1.5, 2.5))),
        21 => replace("/scenes/1/performance".into(), json!(1 + dice.below(2))),
        26 => {
            let facing = if dice.below(2) == 0 { json!(0) } else { json!(null) };
            let way = format!("/performers/{performer}/parts/1/route/waypoints/2");
            json!([{"op": "add", "path": format!("{way}/facing_deg"), "value": facing}])
        }
        23 => replace(format!("/setups/{setup}/binned"), json!(dice.below(2) == 0)),
        24 => replace("/setups/1/runs".into(), if dice.below(2) == 0 { json!(1) } else { json!(null) }),
        22 => replace("/scenes/1/stage/height_m".into(), json!(dice.between(4.0, 9.0))),
        25 => replace(
            format!("/moves/{of}/performance"),
            [json!(null), json!(1), json!(2)][dice.below(3) as usize].clone(),
        ),
        _ => replace(format!("/pieces/{piece}/group"), json!(dice.below(3))),
    }
}

/// Edits of so many kinds, one after another: none leaves a stale result. Number of results that changed, and the
/// subjects that have another version for an equal result.
fn edited(edits: u32, kinds: u64, subjects: impl Fn(&Subject) -> bool) -> (u32, BTreeMap<String, u32>) {
    let (_folder, mut store) = depot();
    let reader = store.reader().unwrap();
    let mut dice = Dice(7);
    let seen = |store: &Store| {
        let document = store.document().unwrap();
        let mut results = results(&document, &reader);
        results.retain(|subject, _| subjects(subject));
        let versions: BTreeMap<Subject, u64> = results.keys().map(|s| (*s, document.version(*s))).collect();
        (document, results, versions)
    };
    let (mut document, mut results, mut versions) = seen(&store);
    let (mut fresh, mut for_nothing, mut done) = (0, BTreeMap::<String, u32>::new(), 0);
    while done < edits {
        let ops = random(&mut dice, &document, kinds);
        if apply(&mut store, ops.clone()).is_err() {
            continue;
        }
        done += 1;
        let now = seen(&store);
        for (subject, result) in &now.1 {
            let (Some(old), Some(version)) = (results.get(subject), versions.get(subject)) else { continue };
            let changed = now.2[subject] != *version;
            if old != result {
                assert!(changed, "{subject:?} is stale after {ops}");
                fresh += 1;
            } else if changed {
                *for_nothing.entry(format!("{subject:?} after {}", ops[0]["path"])).or_default() += 1;
            }
        }
        (document, results, versions) = now;
    }
    (fresh, for_nothing)
}

#[test]
fn a_version_changes_exactly_when_its_result_does() {
    let (fresh, for_nothing) = edited(1000, 26, |subject| *subject != Subject::Floor);
    let wasted: u32 = for_nothing.values().sum();
    println!("{fresh} results changed, {wasted} were worked out for nothing");
    assert!(
        f64::from(wasted) < 0.05 * f64::from(fresh),
        "{fresh} changed, {wasted} for nothing: {for_nothing:#?}"
    );
}

/// Staging is cheap, and the floor gets it also when only a name has changed.
#[test]
fn the_floor_is_staged_whenever_anything_of_it_has_changed_and_a_facing_of_0_is_not_none() {
    assert!(edited(400, 27, |_| true).0 > 0);
}
