//! Ids of things: a type for each kind, so that no function takes the number of a setup for that of a move.
//!
//! An id is written as a plain number, in files, in the database and to the page. The derives are plain on
//! purpose: serde tells a serializer the name of a newtype, which is how
//! [`references`](crate::references) finds every id inside a value.

use serde::{Deserialize, Serialize};
use std::fmt;
use ts_rs::TS;

macro_rules! ids {
    ($($(#[$doc:meta])* $Id:ident of $Kind:ident, $word:literal;)*) => {
        $(
            $(#[$doc])*
            #[derive(
                Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, TS,
            )]
            pub struct $Id(pub u32);

            impl Id for $Id {
                const KIND: ThingKind = ThingKind::$Kind;
                fn number(self) -> u32 {
                    self.0
                }
                fn of(number: u32) -> $Id {
                    $Id(number)
                }
            }

            impl fmt::Display for $Id {
                fn fmt(&self, to: &mut fmt::Formatter) -> fmt::Result {
                    self.0.fmt(to)
                }
            }
        )*

        /// Kind of a thing that an id refers to.
        #[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, TS)]
        #[serde(rename_all = "snake_case")]
        #[allow(missing_docs)]
        pub enum ThingKind {
            $($Kind,)*
        }

        impl ThingKind {
            /// Kind of the thing in one word, such as "setup".
            pub fn word(self) -> &'static str {
                match self {
                    $(ThingKind::$Kind => $word,)*
                }
            }

            /// Kind that an id type refers to, by the name of the type.
            pub(crate) fn of_type(name: &str) -> Option<ThingKind> {
                match name {
                    $(stringify!($Id) => Some(ThingKind::$Kind),)*
                    _ => None,
                }
            }
        }
    };
}

ids! {
    /// Id of a scene.
    SceneId of Scene, "scene";
    /// Id of a piece of the set. 0 before the piece is in a scene.
    PieceId of Piece, "piece";
    /// Number that pieces of one group share. 0 for a piece without a group.
    GroupId of Group, "group";
    /// Id of a performer. 0 before the performer is in a scene.
    PerformerId of Performer, "performer";
    /// Id of a performance. 0 for one that is not known.
    PerformanceId of Performance, "performance";
    /// Id of a setup. 0 for none.
    SetupId of Setup, "setup";
    /// Id of a take.
    TakeId of Take, "take";
    /// Id of a move.
    MoveId of Move, "move";
    /// Id of a mesh among the assets.
    MeshId of Mesh, "mesh";
    /// Id of an image among the assets. 0 for none.
    ImageId of Image, "image";
    /// Id of captured motion among the assets.
    ClipId of Clip, "clip";
}

impl ThingKind {
    /// True if 0 is a value that means none, so that a reference can always be left out.
    pub fn zero_is_none(self) -> bool {
        matches!(self, ThingKind::Image | ThingKind::Group)
    }
}

/// Id of a thing of one kind.
pub trait Id: Copy + Ord {
    /// Kind of the thing.
    const KIND: ThingKind;
    /// The id as a plain number.
    fn number(self) -> u32;
    /// The id with a plain number.
    fn of(number: u32) -> Self;
}
