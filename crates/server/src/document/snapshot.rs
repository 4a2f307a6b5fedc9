//! The document at a revision, and what one has that an earlier one had not: what an edit answers
//! with and what sockets tell the pages, so that nobody reads the whole of it again.

use crate::document::opened::Opened;
use crate::evaluated::moves::{Evaluated, From, MoveCache};
use crate::evaluated::scenery::Scenery;
use crate::floor::staging::staged;
use crate::http::meant::Stay;
use rovnek_core::content::chained;
use rovnek_core::ids::{MoveId, PerformanceId, SceneId, SetupId, TakeId};
use rovnek_core::lens::LensSet;
use rovnek_live::floor::Staged;
use rovnek_store::model::{Asset, Document, History, SceneHead, SceneLine};
use rovnek_store::things::ListChanges;
use rovnek_store::versions::Subject;
use rovnek_store::{Result, StoreError};
use serde::Serialize;
use std::collections::BTreeMap;
use std::sync::Arc;
use ts_rs::TS;

/// A document and its number.
#[derive(Clone)]
pub struct Snapshot {
    /// Counts up, also over a restart.
    pub revision: u64,
    /// Everything but the samples.
    pub document: Arc<Document>,
    /// Reader of the production.
    pub opened: Arc<Opened>,
    /// The stay of its scene on the floor.
    pub stay: Stay,
    /// Versions of what is worked out of it: once for each snapshot, and never by a thread that carries a socket.
    versions: Arc<VersionsView>,
    /// Revision at which its production was opened.
    opening: u64,
}

impl Snapshot {
    /// The first of a process. Later processes begin higher ([`rovnek_store::Store::claim_revisions`]), so that
    /// a page which outlived one cannot take an old number for a new one.
    pub fn first(document: Arc<Document>, opened: Arc<Opened>, revision: u64) -> Snapshot {
        Snapshot::made(revision, document, opened, Stay::FIRST, revision)
    }

    /// Next snapshot, of the same scene.
    pub fn next(&self, document: Arc<Document>) -> Snapshot {
        Snapshot::made(self.revision + 1, document, self.opened.clone(), self.stay, self.opening)
    }

    /// Next snapshot, of another production whose revisions begin at `least`.
    pub fn of(&self, document: Arc<Document>, opened: Arc<Opened>, least: u64) -> Snapshot {
        let revision = least.max(self.revision + 1);
        Snapshot::made(revision, document, opened, self.stay.next(), revision)
    }

    fn made(
        revision: u64,
        document: Arc<Document>,
        opened: Arc<Opened>,
        stay: Stay,
        opening: u64,
    ) -> Snapshot {
        let versions = Arc::new(VersionsView::of(&document, opening));
        Snapshot { revision, document, opened, stay, versions, opening }
    }

    /// Next snapshot, of another scene of the same production.
    pub fn of_scene(&self, document: Arc<Document>) -> Snapshot {
        Snapshot { stay: self.stay.next(), ..self.next(document) }
    }

    /// A performance of the scene that was asked for; without one, the one that plays in it.
    pub fn playing(&self, performance: Option<PerformanceId>) -> Result<PerformanceId> {
        let scene = &self.document.scene;
        let there = |p: &PerformanceId| scene.performances.iter().any(|known| known.id == *p);
        match performance {
            Some(p) if !there(&p) => Err(StoreError::Missing("performance", p.0)),
            performance => Ok(performance.unwrap_or(scene.performance)),
        }
    }

    /// The scene made ready while a performance plays, or the one that plays in it.
    pub fn scenery(&self, performance: Option<PerformanceId>) -> Result<Scenery> {
        self.opened.scenery(&self.document, self.playing(performance)?)
    }

    /// Has a move worked out, or worked on, among what it plays against.
    pub fn around<T>(&self, id: MoveId, work: impl FnOnce(&MoveCache, &From) -> Result<T>) -> Result<T> {
        let performance = self.document.performance_of(self.document.a_move(id)?);
        self.opened.moves(&self.document, performance, work)
    }

    /// A move, worked out.
    pub fn evaluate(&self, id: MoveId) -> Result<Evaluated> {
        self.around(id, |moves, from| moves.evaluate(from, id))
    }

    /// Its scene as the floor needs it.
    pub fn staged(&self) -> Result<Staged> {
        let plays = self.document.scene.performance;
        self.opened.moves(&self.document, plays, |moves, from| Ok(staged(moves, from)))
    }

    /// Production and scene, as requests name what they mean.
    pub fn names(&self) -> String {
        format!("{}/{}", self.opened.id, self.document.scene.id)
    }

    /// The whole, as a page asks for it.
    pub fn whole(&self) -> Whole<'_> {
        let (on_shelf, versions) = (&self.opened.id, &self.versions);
        Whole { revision: self.revision, versions, on_shelf, document: &self.document }
    }
}

/// Versions of what the server works out of a document: a page asks anew for what has another version than
/// the one that it has, and for nothing else. Each is a word.
#[derive(Clone, Debug, Default, PartialEq, Serialize, TS)]
#[ts(optional_fields)]
pub struct VersionsView {
    /// Motion of everybody and everything in each performance.
    #[ts(as = "BTreeMap<u32, String>")]
    pub performances: BTreeMap<PerformanceId, String>,
    /// Solids of the set in each performance.
    #[ts(as = "BTreeMap<u32, String>")]
    pub sets: BTreeMap<PerformanceId, String>,
    /// Pictures of all machines as they stand in each performance.
    #[ts(as = "BTreeMap<u32, String>")]
    pub machines: BTreeMap<PerformanceId, String>,
    /// The performance that each move plays against.
    #[ts(as = "BTreeMap<u32, u32>")]
    pub plays: BTreeMap<MoveId, PerformanceId>,
    /// Machine of each setup, in the performance that plays.
    #[ts(as = "BTreeMap<u32, String>")]
    pub setups: BTreeMap<SetupId, String>,
    /// Frames, curves and figures of each move.
    #[ts(as = "BTreeMap<u32, String>")]
    pub moves: BTreeMap<MoveId, String>,
    /// Samples of each take with its passes.
    #[ts(as = "BTreeMap<u32, String>")]
    pub takes: BTreeMap<TakeId, String>,
    /// Pictures of each take.
    #[ts(as = "BTreeMap<u32, String>")]
    pub pictures: BTreeMap<TakeId, String>,
}

impl VersionsView {
    /// Versions of a document whose production was opened at a revision. Two productions may have things with
    /// equal numbers and contents but other samples, so words count for one opening only; those of stored
    /// pictures, which stay in their production's file, always.
    fn of(document: &Document, opening: u64) -> VersionsView {
        let word = |subject: Subject| format!("{:016x}", chained([opening, document.version(subject)]));
        let stored = |subject: Subject| format!("v2:{:016x}", document.version(subject));
        let plays: BTreeMap<_, _> =
            document.moves.iter().map(|m| (m.id, document.performance_of(m))).collect();
        let each = |subject: fn(PerformanceId) -> Subject| {
            document.scene.performances.iter().map(|p| (p.id, word(subject(p.id)))).collect()
        };
        let here = document.scene.performance;
        VersionsView {
            performances: each(Subject::Performance),
            sets: each(Subject::Set),
            machines: each(Subject::Machines),
            setups: document.setups.iter().map(|s| (s.id, word(Subject::Machine(s.id, here)))).collect(),
            moves: plays.iter().map(|(id, p)| (*id, word(Subject::Frames(*id, *p)))).collect(),
            plays,
            takes: document.takes.iter().map(|t| (t.id, word(Subject::Layers(t.id)))).collect(),
            pictures: document.takes.iter().map(|t| (t.id, stored(Subject::Picture(t.id)))).collect(),
        }
    }

    /// Those that differ from earlier ones.
    fn since(&self, before: &VersionsView) -> VersionsView {
        fn all<I: Ord + Copy, V: Clone + PartialEq>(
            now: &BTreeMap<I, V>,
            before: &BTreeMap<I, V>,
        ) -> BTreeMap<I, V> {
            let differs = |(id, version): &(&I, &V)| before.get(id) != Some(*version);
            now.iter().filter(differs).map(|(id, version)| (*id, version.clone())).collect()
        }
        VersionsView {
            performances: all(&self.performances, &before.performances),
            sets: all(&self.sets, &before.sets),
            machines: all(&self.machines, &before.machines),
            plays: all(&self.plays, &before.plays),
            setups: all(&self.setups, &before.setups),
            moves: all(&self.moves, &before.moves),
            takes: all(&self.takes, &before.takes),
            pictures: all(&self.pictures, &before.pictures),
        }
    }
}

/// The document with its number.
#[derive(Serialize, TS)]
pub struct Whole<'a> {
    /// Revision of the document.
    #[ts(type = "number")]
    pub revision: u64,
    /// Versions of what is worked out of it.
    pub versions: &'a VersionsView,
    /// Id of the open production on the shelf; empty while none is open.
    pub on_shelf: &'a str,
    /// Everything but the samples.
    #[serde(flatten)]
    pub document: &'a Document,
}

/// Changes between two documents.
#[derive(Serialize, TS)]
#[ts(optional_fields)]
pub struct Changed {
    /// The revision it is told from; a page that has an earlier one has missed something.
    #[ts(type = "number")]
    pub since: u64,
    /// The revision it leads to.
    #[ts(type = "number")]
    pub revision: u64,
    /// Versions that differ.
    pub versions: VersionsView,
    /// Next steps of undo and redo.
    pub history: History,
    /// The other production that is open now.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub on_shelf: Option<String>,
    /// Name of the production.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub production: Option<String>,
    /// All scenes of the production.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub scenes: Option<Vec<SceneLine>>,
    /// The other scene that is on the floor now; all lists are of it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub scene_id: Option<SceneId>,
    /// The scene without its lists.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub scene: Option<SceneHead>,
    /// Changes of the lists.
    #[serde(flatten)]
    pub lists: ListChanges,
    /// The number that the next take will have.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub next_take: Option<u32>,
    /// All lens sets of the production.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub lens_sets: Option<Vec<LensSet>>,
    /// All assets of the production.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub assets: Option<Vec<Asset>>,
}

impl Changed {
    /// From one document to a later one.
    pub fn between(from: &Snapshot, to: &Snapshot) -> Changed {
        let (a, b) = (&*from.document, &*to.document);
        Changed {
            since: from.revision,
            revision: to.revision,
            versions: to.versions.since(&from.versions),
            history: b.history.clone(),
            on_shelf: fresh(&from.opened.id, &to.opened.id),
            production: fresh(&a.production, &b.production),
            scenes: fresh(&*a.scenes, &*b.scenes),
            scene_id: fresh(&a.scene.id, &b.scene.id),
            scene: fresh(&a.scene.head, &b.scene.head),
            lists: ListChanges::between(a, b),
            next_take: fresh(&a.next_take, &b.next_take),
            lens_sets: fresh(&a.lens_sets, &b.lens_sets),
            assets: fresh(&a.assets, &b.assets),
        }
    }
}

fn fresh<T: Clone + PartialEq>(a: &T, b: &T) -> Option<T> {
    (a != b).then(|| b.clone())
}

#[cfg(test)]
mod tests {
    use super::*;
    use rovnek_store::Store;
    use rovnek_store::edit::patch::{Names, Op};
    use serde_json::{Value, json};

    fn depot() -> (tempfile::TempDir, Store) {
        let folder = tempfile::tempdir().unwrap();
        let mut store = Store::open(&folder.path().join("depot.sqlite")).unwrap();
        crate::demo::fill(&mut store).unwrap();
        (folder, store)
    }

    fn first(store: &Store) -> Snapshot {
        let opened = Opened::of("depot", store.file().to_path_buf());
        Snapshot::first(store.document().unwrap(), Arc::new(opened), 1000)
    }

    /// Snapshot after an edit.
    fn after(store: &mut Store, from: &Snapshot, ops: Value) -> Snapshot {
        let ops: Vec<Op> = serde_json::from_value(ops).unwrap();
        let mut edit = store.edit("edit", None).unwrap();
        edit.apply(SceneId(1), &ops, &mut Names::new()).unwrap();
        edit.commit().unwrap();
        from.next(store.document().unwrap())
    }

    fn replace(store: &mut Store, from: &Snapshot, path: &str, value: Value) -> Snapshot {
        after(store, from, json!([{"op": "replace", "path": path, "value": value}]))
    }

    /// A document as a page has it that knew the one before and was told what changed.
    fn told(before: &Snapshot, changed: &Changed) -> Value {
        let mut page = serde_json::to_value(&*before.document).unwrap();
        let changed = serde_json::to_value(changed).unwrap();
        for (field, value) in changed.as_object().unwrap() {
            let within = if ["pieces", "performers", "performances"].contains(&field.as_str()) {
                &mut page["scene"]
            } else {
                &mut page
            };
            match field.as_str() {
                "since" | "revision" | "versions" => {}
                "scene" => page["scene"].as_object_mut().unwrap().extend(value.as_object().unwrap().clone()),
                "pieces" | "performers" | "performances" | "setups" | "takes" | "moves" => {
                    let known = within[field].as_array().unwrap().iter();
                    let all: Vec<&Value> = value["changed"].as_array().unwrap().iter().chain(known).collect();
                    let find = |id: &Value| (*all.iter().find(|v| v["id"] == *id).unwrap()).clone();
                    within[field] = value["order"].as_array().unwrap().iter().map(find).collect();
                }
                field => within[field] = value.clone(),
            }
        }
        page
    }

    #[test]
    fn an_edit_of_one_piece_tells_that_piece_and_nothing_else() {
        let (_folder, mut store) = depot();
        let before = first(&store);
        let id = before.document.scene.pieces[3].id;
        let now = replace(&mut store, &before, &format!("/pieces/{id}/name"), json!("another"));
        let changed = Changed::between(&before, &now);
        let pieces = changed.lists.pieces.as_ref().unwrap();
        assert_eq!(pieces.changed.iter().map(|p| (p.id, &*p.name)).collect::<Vec<_>>(), [(id, "another")]);
        assert_eq!(pieces.order.len(), before.document.scene.pieces.len());
        assert_eq!(changed.history.undo.as_ref().unwrap().label, "edit");
        let said = serde_json::to_value(&changed).unwrap();
        let fields: Vec<&String> = said.as_object().unwrap().keys().collect();
        assert_eq!(fields, ["history", "pieces", "revision", "since", "versions"]);
    }

    #[test]
    fn a_page_that_is_told_has_what_one_has_that_reads_anew() {
        let (_folder, mut store) = depot();
        let mut before = first(&store);
        let scene = &before.document.scene;
        let (first, last) = (scene.pieces[0].id, scene.pieces.last().unwrap().id);
        let copy = serde_json::to_value(&scene.pieces[0]).unwrap();
        let walker = &scene.performers[0];
        for ops in [
            json!([{"op": "replace", "path": format!("/pieces/{first}/position/0"), "value": 1.25}]),
            json!([{"op": "remove", "path": format!("/pieces/{last}")}]),
            json!([{"op": "add", "path": "/pieces/new:1", "value": copy}]),
            json!([{"op": "replace", "path": format!("/performers/{}/name", walker.id), "value": "Vera"}]),
            json!([{"op": "replace", "path": "/production/name", "value": "Night"},
                   {"op": "replace", "path": "/setups/1/rig/heading_deg", "value": 12.0},
                   {"op": "replace", "path": "/takes/1/note", "value": "soft"},
                   {"op": "replace", "path": "/moves/1/name", "value": "as shot"},
                   {"op": "add", "path": "/moves/new:2", "value": {"setup_id": 1, "source": {"kind": "curves"},
                     "curves": {"boom": [{"time_s": 1.0, "value": 20.0}]}, "run": true}}]),
            json!([{"op": "replace", "path": "/scenes/1/stage/height_m", "value": 7.5}]),
        ] {
            let now = after(&mut store, &before, ops.clone());
            let changed = Changed::between(&before, &now);
            assert_eq!((changed.since, changed.revision), (before.revision, before.revision + 1));
            assert_eq!(told(&before, &changed), serde_json::to_value(&*now.document).unwrap(), "{ops}");
            before = now;
        }
    }

    #[test]
    fn what_was_missed_comes_in_one_go() {
        let (_folder, mut store) = depot();
        let first = first(&store);
        let mut now = first.clone();
        for (i, name) in ["one", "two", "three"].iter().enumerate() {
            let id = first.document.scene.pieces[i].id;
            now = replace(&mut store, &now, &format!("/pieces/{id}/name"), json!(name));
        }
        let changed = Changed::between(&first, &now);
        assert_eq!(changed.lists.pieces.as_ref().unwrap().changed.len(), 3);
        assert_eq!(told(&first, &changed), serde_json::to_value(&*now.document).unwrap());
    }

    #[test]
    fn the_version_of_the_performance_counts_only_what_moves() {
        let (_folder, mut store) = depot();
        let before = first(&store);
        let scene = &before.document.scene;
        let still = scene.pieces.iter().find(|p| p.routes.is_empty() && p.rides.is_none()).unwrap().id;
        let walker = &scene.performers[0];
        let moved = replace(&mut store, &before, &format!("/pieces/{still}/position/0"), json!(0.5));
        assert_eq!(cast(&moved), cast(&before));
        assert_ne!(set(&moved), set(&before));
        let named = replace(&mut store, &moved, &format!("/setups/{}/name", 1), json!("crane"));
        assert_eq!(cast(&named), cast(&before));
        let taller = replace(&mut store, &named, &format!("/performers/{}/height_m", walker.id), json!(1.9));
        assert_ne!(cast(&taller), cast(&named));
        let longer = replace(&mut store, &taller, "/scenes/1/length_s", json!(45.0));
        assert_ne!(cast(&longer), cast(&taller));
    }

    /// A machine on another machine's carriage: frames that were made of it are stale when that one goes otherwise,
    /// though it carries nobody and nothing else.
    #[test]
    fn a_machine_that_rides_another_one_counts_the_others_changes() {
        let (_folder, mut store) = depot();
        let before = first(&store);
        let [under, on] = [before.document.setups[0].id, before.document.setups[1].id];
        let alone = replace(&mut store, &before, &format!("/setups/{under}/rig/heading_deg"), json!(3.0));
        let machine = |of: &Snapshot| of.document.version(Subject::Machine(on, PerformanceId(1)));
        assert_eq!(machine(&alone), machine(&before), "it does not ride yet");
        let rides = json!([{"op": "add", "path": format!("/setups/{on}/rig/carried"),
            "value": {"by": "setup", "id": under}}]);
        let rides = after(&mut store, &alone, rides);
        let turned = replace(&mut store, &rides, &format!("/setups/{under}/rig/heading_deg"), json!(9.0));
        assert_ne!(machine(&turned), machine(&rides));
    }

    /// A page keeps what it has asked for by its version: after a switch nothing of another production fits.
    #[test]
    fn another_production_has_other_versions_but_for_stored_pictures() {
        let (_folder, store) = depot();
        let here = first(&store);
        let there = here.of(here.document.clone(), here.opened.clone(), 5000);
        let Changed {
            versions: VersionsView { performances, sets, machines, setups, moves, takes, pictures, .. },
            ..
        } = Changed::between(&here, &there);
        let all = &here.document;
        let each = all.scene.performances.len();
        assert_eq!([performances.len(), sets.len(), machines.len()], [each; 3]);
        assert_eq!(
            (setups.len(), moves.len(), takes.len()),
            (all.setups.len(), all.moves.len(), all.takes.len())
        );
        assert!(pictures.is_empty());
        assert_eq!(there.next(there.document.clone()).versions, there.versions);
    }

    fn cast(of: &Snapshot) -> u64 {
        of.document.version(Subject::Performance(of.document.scene.performance))
    }

    fn set(of: &Snapshot) -> u64 {
        of.document.version(Subject::Set(of.document.scene.performance))
    }
}
