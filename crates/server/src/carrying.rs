//! Where what carries a machine is: a piece of the set, somebody, or another machine.

use rovnek_core::motion::Motion;
use rovnek_core::playing::{CarrierTrack, MoverId, PerformanceTimeline};
use rovnek_core::rigs::{Carrier, Rig};
use rovnek_core::space::Pose;
use rovnek_store::model::Document;
use std::sync::Arc;

/// A move's machine and what it does, treated; by the move's id.
pub type Moved<'a> = dyn Fn(u32) -> Option<(Box<dyn Rig>, Arc<Motion>)> + 'a;

/// Where a carrier is over the scene.
pub fn carrier(
    document: &Document,
    playing: &PerformanceTimeline,
    by: Carrier,
    moved: &Moved,
) -> CarrierTrack {
    let scene = &document.scene;
    let length = scene.length_s;
    match by {
        Carrier::Piece { id } => {
            let stands = scene.pieces.iter().find(|p| p.id == id).map_or(Pose::ORIGIN, |p| p.pose());
            CarrierTrack::of(length, |t| playing.pose(MoverId::Piece(id), t).unwrap_or(stands))
        }
        Carrier::Performer { id } => {
            CarrierTrack::of(length, |t| playing.pose(MoverId::Performer(id), t).unwrap_or(Pose::ORIGIN))
        }
        Carrier::Setup { id, moved: by } => match by.and_then(moved) {
            Some((rig, motion)) if !motion.is_empty() => {
                let mut row = Vec::new();
                CarrierTrack::of(length, |t| {
                    motion.at(t, &mut row);
                    rig.forward(&row).carriage
                })
            }
            _ => {
                let stands = document.setups.iter().find(|s| s.id == id).map(|s| {
                    let rig = s.rig.build(&s.camera);
                    let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
                    rig.forward(&start).carriage
                });
                CarrierTrack::of(length, |_| stands.unwrap_or(Pose::ORIGIN))
            }
        },
    }
}
