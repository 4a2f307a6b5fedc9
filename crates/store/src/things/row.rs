//! Rows by table and number.

use super::Table;
use rovnek_core::ids::SceneId;

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

impl From<SceneId> for RowId {
    fn from(id: SceneId) -> RowId {
        RowId::new(Table::Scene, id.0)
    }
}
