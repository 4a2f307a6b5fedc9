//! Who and what goes along with the machines of a scene.

use crate::evaluated::moves::{From, MoveCache, ReadSamples};
use crate::evaluated::scenery::Scenery;
use crate::floor::carrying::{Carrying, DEEPEST};
use rovnek_core::clearance::MeshHulls;
use rovnek_core::ids::MoveId;
use rovnek_core::playing::{Machine, Ride};
use rovnek_store::model::Document;
use std::collections::BTreeMap;

/// A scene with everybody and everything on their machines. A machine may watch, follow or stand on who goes
/// along with another: those are found one after another.
pub fn carried(
    document: &Document,
    bare: Scenery,
    moves: &MoveCache,
    read: &ReadSamples,
    meshes: &MeshHulls,
) -> Scenery {
    let machines = bare.playing.machines();
    let (mut now, mut rides) = (bare, None);
    for step in 1..=machines.len().min(DEEPEST) {
        let from = From { document, scenery: &now, on_the_way: step as u64, read };
        let moved = |id: MoveId| moves.evaluate(&from, id).ok().map(|m| (m.rig, m.now));
        let carrying = Carrying { document, playing: &now.playing, moved: &moved };
        let next: BTreeMap<Machine, Ride> =
            machines.iter().filter_map(|on| Some((*on, carrying.ride(*on)?))).collect();
        if rides.as_ref() == Some(&next) {
            break;
        }
        now = now.carried_by(&next, document, meshes);
        rides = Some(next);
    }
    now
}
