//! Rows by table and number.

use super::Table;
use rovnek_core::ids::*;

/// A row that edits may touch.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct RowId {
    /// Table of the row.
    pub table: Table,
    /// Number of the row.
    pub id: u32,
}

impl RowId {
    /// The one row of the production.
    pub const PRODUCTION: RowId = RowId { table: Table::Production, id: 1 };

    /// Row of a table by its number.
    pub(crate) fn new(table: Table, id: u32) -> RowId {
        RowId { table, id }
    }
}

macro_rules! tables {
    ($($Id:ident of $Table:ident;)*) => {
        impl Table {
            /// Tables of things that have ids, by the kind of these.
            pub(super) const KINDS: &'static [(Table, ThingKind)] = &[$((Table::$Table, $Id::KIND),)*];
        }

        $(impl From<$Id> for RowId {
            fn from(id: $Id) -> RowId {
                RowId { table: Table::$Table, id: id.0 }
            }
        })*
    };
}

tables! {
    SceneId of Scene;
    PieceId of Piece;
    PerformerId of Performer;
    PerformanceId of Performance;
    SetupId of Setup;
    TakeId of Take;
    MoveId of Move;
}
