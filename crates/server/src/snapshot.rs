//! The document at a revision, and what one has that an earlier one had not: what an edit answers
//! with and what sockets tell the pages, so that nobody reads the whole of it again.

use rovnek_core::lens::LensSet;
use rovnek_core::set::{Piece, Stage};
use rovnek_core::time::Rate;
use rovnek_store::assets::Asset;
use rovnek_store::history::History;
use rovnek_store::model::{Document, Scene, Setup, Take};
use rovnek_store::scene_edit::PerformanceName;
use serde::Serialize;
use std::sync::Arc;
use ts_rs::TS;

/// A document and its number.
#[derive(Clone, Debug)]
pub struct Snapshot {
    /// Counts up, also over a restart.
    pub revision: u64,
    /// The revision at which what moves in the scene last changed.
    pub cast: u64,
    /// Everything but the samples.
    pub document: Arc<Document>,
}

impl Snapshot {
    /// The first of a process. Later processes begin higher, so that a page which outlived one
    /// cannot take an old number for a new one.
    pub fn first(document: Arc<Document>) -> Snapshot {
        let since = std::time::UNIX_EPOCH.elapsed().map_or(0, |d| d.as_millis() as u64);
        Snapshot { revision: since, cast: since, document }
    }

    /// What comes after this one.
    pub fn next(&self, document: Arc<Document>) -> Snapshot {
        let revision = self.revision + 1;
        let cast = if same_cast(&self.document.scene, &document.scene) { self.cast } else { revision };
        Snapshot { revision, cast, document }
    }

    /// The whole, as a page asks for it.
    pub fn whole(&self) -> Whole<'_> {
        Whole { revision: self.revision, cast: self.cast, document: &self.document }
    }
}

/// Whether the same move in the same way.
fn same_cast(a: &Scene, b: &Scene) -> bool {
    let carries = |scene: &Scene, piece: &Piece| {
        let rides = |p: &rovnek_core::performer::Performer| p.parts.iter().any(|q| q.rides == Some(piece.id));
        !piece.routes.is_empty() || scene.performers.iter().any(rides)
    };
    let moving = |scene: &Scene| -> Vec<Piece> {
        scene.pieces.iter().filter(|p| carries(scene, p)).cloned().collect()
    };
    (a.performance, a.length_s) == (b.performance, b.length_s)
        && (Arc::ptr_eq(&a.performers, &b.performers) || a.performers == b.performers)
        && (Arc::ptr_eq(&a.pieces, &b.pieces) || moving(a) == moving(b))
}

/// The document with its number.
#[derive(Serialize, TS)]
pub struct Whole<'a> {
    /// Of the document.
    #[ts(type = "number")]
    pub revision: u64,
    /// The revision at which what moves in the scene last changed.
    #[ts(type = "number")]
    pub cast: u64,
    /// Everything but the samples.
    #[serde(flatten)]
    pub document: &'a Document,
}

/// What a document has that an earlier one had not.
#[derive(Serialize, TS)]
#[ts(optional_fields)]
pub struct Changed {
    /// The revision it is told from; a page that has an earlier one has missed something.
    #[ts(type = "number")]
    pub since: u64,
    /// The revision it leads to.
    #[ts(type = "number")]
    pub revision: u64,
    /// See [`Whole`].
    #[ts(type = "number")]
    pub cast: u64,
    /// What undo and redo would do now.
    pub history: History,
    /// Its name.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub production: Option<String>,
    /// The scene without its lists.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub scene: Option<SceneHead>,
    /// Pieces of the set.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub pieces: Option<ListChange<Piece>>,
    /// Who is in it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub performers: Option<ListChange<rovnek_core::performer::Performer>>,
    /// All of them.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub performances: Option<Vec<PerformanceName>>,
    /// Cameras and machines.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub setups: Option<ListChange<Setup>>,
    /// What was recorded.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub takes: Option<ListChange<Take>>,
    /// All of them.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub lens_sets: Option<Vec<LensSet>>,
    /// All of them.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub assets: Option<Vec<Asset>>,
}

/// A scene without its lists.
#[derive(Clone, PartialEq, Serialize, TS)]
pub struct SceneHead {
    /// As on the slate.
    pub number: String,
    /// As on the slate.
    pub name: String,
    /// Frames a second.
    pub rate: Rate,
    /// How long the performance is.
    pub length_s: f64,
    /// The frame of day at which the scene's timecode starts.
    pub start_frame: u32,
    /// The room.
    pub stage: Stage,
    /// The performance that plays.
    pub performance: u32,
}

impl SceneHead {
    fn of(s: &Scene) -> SceneHead {
        SceneHead {
            number: s.number.clone(),
            name: s.name.clone(),
            rate: s.rate,
            length_s: s.length_s,
            start_frame: s.start_frame,
            stage: s.stage,
            performance: s.performance,
        }
    }
}

/// What became of a list.
#[derive(Serialize, TS)]
pub struct ListChange<T> {
    /// New ones and changed ones, whole.
    pub changed: Vec<T>,
    /// The ids of all of them, in order.
    pub order: Vec<u32>,
}

impl Changed {
    /// From one document to a later one.
    pub fn between(from: &Snapshot, to: &Snapshot) -> Changed {
        let (a, b) = (&*from.document, &*to.document);
        Changed {
            since: from.revision,
            revision: to.revision,
            cast: to.cast,
            history: b.history.clone(),
            production: fresh(&a.production, &b.production),
            scene: fresh(&SceneHead::of(&a.scene), &SceneHead::of(&b.scene)),
            pieces: part(&a.scene.pieces, &b.scene.pieces, |p| p.id),
            performers: part(&a.scene.performers, &b.scene.performers, |p| p.id),
            performances: fresh(&a.scene.performances, &b.scene.performances),
            setups: part(&a.setups, &b.setups, |s| s.id),
            takes: part(&a.takes, &b.takes, |t| t.id),
            lens_sets: fresh(&a.lens_sets, &b.lens_sets),
            assets: fresh(&a.assets, &b.assets),
        }
    }
}

fn fresh<T: Clone + PartialEq>(a: &T, b: &T) -> Option<T> {
    (a != b).then(|| b.clone())
}

fn part<T: Clone + PartialEq>(
    a: &Arc<Vec<T>>,
    b: &Arc<Vec<T>>,
    id: impl Fn(&T) -> u32,
) -> Option<ListChange<T>> {
    if Arc::ptr_eq(a, b) {
        return None;
    }
    let old: std::collections::BTreeMap<u32, &T> = a.iter().map(|t| (id(t), t)).collect();
    let changed: Vec<T> = b.iter().filter(|t| old.get(&id(t)) != Some(t)).cloned().collect();
    let order: Vec<u32> = b.iter().map(&id).collect();
    (!changed.is_empty() || a.iter().map(&id).ne(order.iter().copied()))
        .then_some(ListChange { changed, order })
}
