//! The tables whose rows edits may touch.

use serde::{Deserialize, Serialize};

/// The tables that edits may touch. Samples are not among them.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[allow(missing_docs)]
pub enum Table {
    Production,
    Scene,
    Piece,
    Performer,
    Performance,
    Setup,
    Take,
    Move,
    /// The keys of one axis of a move.
    Curve,
}

impl Table {
    /// Tables of things that paths lead to.
    pub const THINGS: [Table; 8] = [
        Table::Production,
        Table::Scene,
        Table::Piece,
        Table::Performer,
        Table::Performance,
        Table::Setup,
        Table::Take,
        Table::Move,
    ];

    /// Name of the table.
    pub(crate) fn name(self) -> &'static str {
        match self {
            Table::Production => "production",
            Table::Scene => "scene",
            Table::Piece => "piece",
            Table::Performer => "performer",
            Table::Performance => "performance",
            Table::Setup => "setup",
            Table::Take => "take",
            Table::Move => "move",
            Table::Curve => "curve",
        }
    }
}
