//! Where what carries a machine is: a piece of the set, somebody, or another machine.

use rovnek_core::motion::Motion;
use rovnek_core::playing::{CarrierTrack, MoverId, PerformanceTimeline};
use rovnek_core::rigs::{Carrier, Rig, RigPose};
use rovnek_core::set::{Form, turned_to};
use rovnek_core::space::{Pose, heading};
use rovnek_store::model::{Document, Move};
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
            let foot = |t| playing.pose_of_piece(id, t).unwrap_or(Pose::ORIGIN);
            let form = scene.pieces.iter().find(|p| p.id == id).map(|p| &p.form);
            let Some(Form::Card { toward: Some(setup), .. }) = form else {
                return CarrierTrack::of(length, foot);
            };
            // A card turns to the camera that looks at it.
            let looks = of_setup(document, *setup, runs(document, *setup).map(|m| m.id), moved, |p| p.camera);
            CarrierTrack::of(length, |t| {
                let foot = foot(t);
                let turn_deg = turned_to(foot.position.to_array(), looks.at(t).position.to_array());
                Pose::new(foot.position, heading(turn_deg.to_radians()))
            })
        }
        Carrier::Performer { id } => {
            CarrierTrack::of(length, |t| playing.pose(MoverId::Performer(id), t).unwrap_or(Pose::ORIGIN))
        }
        Carrier::Setup { id, moved: by } => of_setup(document, id, by, moved, |p| p.carriage),
    }
}

/// The move that a setup's machine runs.
pub fn runs(document: &Document, setup: u32) -> Option<&Move> {
    let setup = document.setups.iter().find(|s| s.id == setup)?;
    document.moves.iter().find(|m| setup.runs == Some(m.id) && !m.binned && m.rig.is_none())
}

/// Part of a setup's machine over the scene, as a move has it, or as it stands.
fn of_setup(
    document: &Document,
    setup: u32,
    by: Option<u32>,
    moved: &Moved,
    part: impl Fn(RigPose) -> Pose,
) -> CarrierTrack {
    let length = document.scene.length_s;
    match by.and_then(moved) {
        Some((rig, motion)) if !motion.is_empty() => {
            let mut row = Vec::new();
            CarrierTrack::of(length, |t| {
                motion.at(t, &mut row);
                part(rig.forward(&row))
            })
        }
        _ => {
            let stands = document.setups.iter().find(|s| s.id == setup).map(|s| {
                let rig = s.rig.build(&s.camera);
                let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
                part(rig.forward(&start))
            });
            CarrierTrack::of(length, |_| stands.unwrap_or(Pose::ORIGIN))
        }
    }
}
