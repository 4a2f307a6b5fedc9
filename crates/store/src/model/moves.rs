//! Moves: camera motion over time.

use rovnek_core::ids::{MoveId, PerformanceId, SetupId, TakeId};
use rovnek_core::keys::Curves;
use rovnek_core::lens::Camera;
use rovnek_core::list::List;
use rovnek_core::rigs::Rigging;
use rovnek_core::treatments::Treatment;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Source of a move's motion.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "kind")]
pub enum Source {
    /// It was recorded: a take, with the passes that count.
    Take {
        /// Id of the take, in the scene.
        take: TakeId,
    },
    /// Keys of the move itself.
    Curves,
    /// Its setup's machine goes where another move's camera is; keys are those of its base.
    Follow {
        /// Id of the other move.
        #[serde(rename = "move")]
        of: MoveId,
    },
}

/// Move: camera motion over time, recorded or keyed, with its treatments.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Move {
    /// Id of the move, in the scene.
    pub id: MoveId,
    /// The setup it belongs to.
    pub setup_id: SetupId,
    /// A name of its own, or nothing.
    pub name: String,
    /// Source of the motion.
    pub source: Source,
    /// The performance that it plays against; none: that of its take or of the move that it follows, else the one
    /// that plays in the scene.
    pub performance: Option<PerformanceId>,
    /// The first of its siblings; none of that one itself.
    pub variant_of: Option<MoveId>,
    /// True for the chosen one among variants.
    pub chosen: bool,
    /// Keys, by the names of axes; axes without are left out.
    #[ts(type = "{ [axis: string]: Array<{ id: number } & CurveKey> }")]
    pub curves: Curves,
    /// Treatments, in order.
    pub treatments: List<Treatment>,
    /// Its own; none: that of the take, or of the setup as it stands.
    pub camera: Option<Camera>,
    /// Its own; none: that of the take, or of the setup as it stands.
    pub rig: Option<Rigging>,
    /// True for a move in the bin.
    pub binned: bool,
}

impl Move {
    /// The take it comes from.
    pub fn take(&self) -> Option<TakeId> {
        match self.source {
            Source::Take { take } => Some(take),
            Source::Curves | Source::Follow { .. } => None,
        }
    }

    /// True if both moves are variants of one: of the same take, or of the same first move.
    pub(crate) fn of_one(&self, other: &Move) -> bool {
        let first = |m: &Move| m.variant_of.unwrap_or(m.id);
        match (self.take(), other.take()) {
            (Some(a), Some(b)) => a == b,
            (None, None) => first(self) == first(other),
            _ => false,
        }
    }
}

/// A move to be made.
#[derive(Clone, Debug, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
#[ts(optional_fields)]
pub struct NewMove {
    /// The setup it belongs to.
    pub setup_id: SetupId,
    /// A name of its own, or nothing.
    #[serde(default)]
    #[ts(as = "Option<String>")]
    pub name: String,
    /// Source of the motion.
    pub source: Source,
    /// The move that it is a variant of: it begins as a copy of its keys, treatments and camera.
    #[serde(default)]
    pub variant_of: Option<MoveId>,
    /// The performance that it plays against; none as in [`Move`]. A variant has that of the move it is made of.
    #[serde(default)]
    pub performance: Option<PerformanceId>,
    /// Keys of each axis.
    #[serde(default)]
    #[ts(optional, type = "{ [axis: string]: Array<{ id: number } & CurveKey> }")]
    pub curves: Curves,
    /// The setup's machine runs it from now on.
    #[serde(default)]
    #[ts(as = "Option<bool>")]
    pub run: bool,
}
