//! Motions of a scene's machines, as a document has them.

use rovnek_core::ids::SetupId;
use rovnek_store::model::{Document, Move};

/// The move that a setup's machine runs.
pub fn runs(document: &Document, setup: SetupId) -> Option<&Move> {
    let setup = document.setups.iter().find(|s| s.id == setup)?;
    document.moves.iter().find(|m| setup.runs == Some(m.id) && !m.binned && m.rig.is_none())
}
