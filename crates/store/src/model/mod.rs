//! Model that the database keeps: production → scene (set, performers) → setup → take with its move.

mod begin;
mod moves;
mod take;

pub use begin::{NewScene, NewSetup};
pub use moves::{Move, NewMove, Source};
pub use take::{PassOf, PassPlacement, Rating, Rolled, Take};

use crate::things::{Listed, Lists};
use crate::versions::Versions;
use crate::{Result, StoreError};
use rovnek_core::ids::{MoveId, PerformanceId, SceneId, SetupId, TakeId};
use rovnek_core::keys::Position;
use rovnek_core::lens::{Camera, LensSet};
use rovnek_core::performer::Performer;
use rovnek_core::rigs::Rigging;
use rovnek_core::set::{Piece, Stage};
use rovnek_core::time::{Rate, Timebase};
use rovnek_core::tracked::Tracking;
use serde::{Deserialize, Serialize};
use std::ops::Deref;
use std::sync::Arc;
use ts_rs::TS;

/// Everything but the samples.
///
/// Lists are shared: a later document has the very same list as an earlier one as long as nothing
/// in it was touched.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Document {
    /// Name of the production.
    pub production: String,
    /// All of its scenes in order, binned ones too.
    pub scenes: Arc<Vec<SceneLine>>,
    /// The scene being worked on.
    pub scene: Scene,
    /// Lists of its things, beside those of its set.
    #[serde(flatten)]
    pub lists: Lists,
    /// The number that the next take will have; passes share that of the take they are over.
    pub next_take: u32,
    /// The production's own lens sets.
    pub lens_sets: Vec<LensSet>,
    /// Assets: meshes, images, captured motion.
    pub assets: Vec<Asset>,
    /// Next steps of undo and redo.
    pub history: History,
    #[serde(skip)]
    #[ts(skip)]
    pub(crate) versions: Versions,
}

/// A scene as the list of them has it.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct SceneLine {
    /// Id of the scene, unique in the production.
    pub id: SceneId,
    /// Scene number on the slate.
    pub number: String,
    /// Scene name on the slate.
    pub name: String,
    /// Frames a second.
    pub rate: Rate,
    /// Length of the performance, seconds.
    pub length_s: f64,
    /// Number of setups.
    pub setups: u32,
    /// Number of takes without passes.
    pub takes: u32,
    /// True for a scene in the bin.
    pub binned: bool,
}

/// A scene without its lists: what of it is edited field by field.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct SceneHead {
    /// Scene number on the slate.
    pub number: String,
    /// Scene name on the slate.
    pub name: String,
    /// Frames a second.
    pub rate: Rate,
    /// Length of the performance, seconds.
    pub length_s: f64,
    /// The frame of day at which the scene's timecode starts.
    pub start_frame: u32,
    /// Size of the stage.
    pub stage: Stage,
    /// The performance that plays.
    #[serde(default = "first")]
    pub performance: PerformanceId,
    /// True for a scene in the bin.
    #[serde(default)]
    pub binned: bool,
}

impl SceneHead {
    /// How its times are counted.
    pub fn timebase(&self) -> Timebase {
        Timebase { rate: self.rate, start_frame: self.start_frame }
    }
}

impl Deref for Document {
    type Target = Lists;
    fn deref(&self) -> &Lists {
        &self.lists
    }
}

impl Document {
    /// A setup by its id.
    pub fn setup(&self, id: SetupId) -> Result<&Setup> {
        found(&self.setups, id).ok_or(StoreError::Missing("setup", id.0))
    }

    /// Take with an id; an error if there is none.
    pub fn take(&self, id: TakeId) -> Result<&Take> {
        found(&self.takes, id).ok_or(StoreError::Missing("take", id.0))
    }

    /// Move with an id; an error if there is none.
    pub fn a_move(&self, id: MoveId) -> Result<&Move> {
        found(&self.moves, id).ok_or(StoreError::Missing("move", id.0))
    }

    /// The move that a setup's machine runs; none for one in the bin or of another machine.
    pub fn runs(&self, setup: SetupId) -> Option<&Move> {
        let setup = self.setups.iter().find(|s| s.id == setup)?;
        self.moves.iter().find(|m| setup.runs == Some(m.id) && !m.binned && m.rig.is_none())
    }

    /// Chosen move of a take; none for a pass or for a take that rolls.
    pub fn chosen(&self, take: TakeId) -> Option<&Move> {
        self.moves.iter().find(|m| m.take() == Some(take) && m.chosen && !m.binned)
    }

    /// The passes that lie over a take and count: neither muted nor binned, in order.
    pub fn passes(&self, take: TakeId) -> Vec<Take> {
        let over = |t: &&Take| {
            t.pass.as_ref().is_some_and(|p| p.take == take && !p.muted) && !t.rolling && !t.binned
        };
        let mut passes: Vec<Take> = self.takes.iter().filter(over).cloned().collect();
        passes.sort_by_key(|t| t.id);
        passes
    }
}

/// Thing of a list with an id. Lists that nobody has put into another order stand in the order of ids.
fn found<T: Listed>(list: &[T], id: T::Id) -> Option<&T> {
    match list.binary_search_by_key(&id, |thing| thing.id()) {
        Ok(at) => Some(&list[at]),
        Err(_) => list.iter().find(|thing| thing.id() == id),
    }
}

/// A scene: its set and who is in it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Scene {
    /// Its id; a new one is given its own.
    #[serde(default)]
    pub id: SceneId,
    /// The scene without its lists.
    #[serde(flatten)]
    pub head: SceneHead,
    /// Pieces, in order.
    pub pieces: Arc<Vec<Piece>>,
    /// Performers, in order.
    pub performers: Arc<Vec<Performer>>,
    /// Alternatives of what everybody does, in order.
    #[serde(default = "as_written")]
    pub performances: Arc<Vec<Performance>>,
}

impl Deref for Scene {
    type Target = SceneHead;
    fn deref(&self) -> &SceneHead {
        &self.head
    }
}

fn as_written() -> Arc<Vec<Performance>> {
    Arc::new(vec![Performance { id: first(), name: "as written".into() }])
}

fn first() -> PerformanceId {
    PerformanceId(1)
}

/// A camera on a machine.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Setup {
    /// Id of the setup, unique in the production; a new one is given its own.
    #[serde(default)]
    pub id: SetupId,
    /// Letter on the slate: A, B, C … A new setup is given the next.
    #[serde(default)]
    pub letter: String,
    /// Name of the setup.
    pub name: String,
    /// Sensor, frame, lens.
    pub camera: Camera,
    /// The machine and where it stands.
    pub rig: Rigging,
    /// Stored positions, by number.
    #[serde(default)]
    pub positions: Vec<Position>,
    /// The move that its machine runs: keyed, or following another.
    #[serde(default)]
    pub runs: Option<MoveId>,
    /// The device that may move its camera.
    #[serde(default)]
    pub tracking: Tracking,
    /// True for a setup in the bin.
    #[serde(default)]
    pub binned: bool,
}

/// A performance: what everybody does in the scene, once.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Performance {
    /// Id of the performance.
    pub id: PerformanceId,
    /// Name of the performance.
    pub name: String,
}

/// Kind of an asset.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
#[allow(missing_docs)]
pub enum AssetKind {
    Mesh,
    Image,
    Clip,
}

impl AssetKind {
    /// Value of the kind's column.
    pub(crate) fn column(self) -> &'static str {
        match self {
            AssetKind::Mesh => "mesh",
            AssetKind::Image => "image",
            AssetKind::Clip => "clip",
        }
    }
}

/// Something that was brought in, without its bytes.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Asset {
    /// Id of the asset, unique in the production.
    pub id: u32,
    /// Kind of the asset.
    pub kind: AssetKind,
    /// Name from the file.
    pub name: String,
}

/// Next steps of undo and redo.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize, TS)]
pub struct History {
    /// The edit that undo would take back.
    pub undo: Option<Entry>,
    /// The edit that redo would do again.
    pub redo: Option<Entry>,
}

/// An edit in the history.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, TS)]
pub struct Entry {
    /// Id of the entry, counted up.
    pub id: u32,
    /// Label of the edit, a few words.
    pub label: String,
}
