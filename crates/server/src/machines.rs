//! Motions of a scene's machines, as a document has them.

use rovnek_core::carrier::Carrier;
use rovnek_store::model::{Document, Move, Source};
use std::sync::Arc;

/// The move that a setup's machine runs.
pub fn runs(document: &Document, setup: u32) -> Option<&Move> {
    let setup = document.setups.iter().find(|s| s.id == setup)?;
    document.moves.iter().find(|m| setup.runs == Some(m.id) && !m.binned && m.rig.is_none())
}

/// The moves that the floor has something of: those that machines run, those that these follow, and
/// those that carry a machine, somebody or something.
fn on_floor(document: &Document) -> Vec<&Move> {
    let bound = |carrier: Option<Carrier>| match carrier {
        Some(Carrier::Setup { moved, .. }) => moved,
        _ => None,
    };
    let scene = &document.scene;
    let parts = scene.performers.iter().flat_map(|p| &p.parts).map(|part| part.rides);
    let riders = parts.chain(scene.pieces.iter().map(|p| p.rides)).filter_map(bound);
    let setups = document.setups.iter().filter(|s| !s.binned);
    let of_setups = setups.flat_map(|s| [bound(s.rig.carried), runs(document, s.id).map(|m| m.id)]).flatten();
    let mut wanted: Vec<u32> = of_setups.chain(riders).collect();
    let mut found: Vec<&Move> = Vec::new();
    while let Some(id) = wanted.pop() {
        let Ok(this) = document.a_move(id) else { continue };
        if found.iter().any(|m| m.id == id) {
            continue;
        }
        found.push(this);
        if let Source::Follow { of } = this.source {
            wanted.push(of);
        }
    }
    found
}

/// True if machines do the same, as far as their surroundings have a part in it.
pub fn same_machines(a: &Document, b: &Document) -> bool {
    let moves = on_floor(b);
    let of_takes = moves.iter().any(|m| m.take().is_some());
    Arc::ptr_eq(&a.setups, &b.setups)
        && (Arc::ptr_eq(&a.moves, &b.moves) || on_floor(a) == moves)
        && (!of_takes || Arc::ptr_eq(&a.takes, &b.takes))
}
