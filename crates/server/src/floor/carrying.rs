//! Poses of carriers: pieces of the set, performers, machines.

use rovnek_core::axis_motion::AxisMotion;
use rovnek_core::carrier::Carrier;
use rovnek_core::ids::{MoveId, SetupId};
use rovnek_core::motion::Motion;
use rovnek_core::playing::{CarrierTrack, Machine, MoverId, PerformanceTimeline, Ride};
use rovnek_core::rigs::{Rig, RigPose, Surroundings};
use rovnek_core::set::{Form, turned_to};
use rovnek_core::space::{Pose, heading};
use rovnek_store::model::{Document, Setup};
use std::sync::Arc;

/// A move's machine and what it does, treated; by the move's id.
pub type Moved<'a> = dyn Fn(MoveId) -> Option<(Box<dyn Rig>, Arc<Motion>)> + 'a;

/// Longest chain of carriers. Edits refuse circles; a circle that was stored earlier ends here.
pub const DEEPEST: usize = 8;

/// Inputs for the poses of carriers.
#[derive(Clone, Copy)]
pub struct Carrying<'a> {
    /// Document of the scene.
    pub document: &'a Document,
    /// Timeline of the performance.
    pub playing: &'a PerformanceTimeline,
    /// Motions of machines.
    pub moved: &'a Moved<'a>,
}

impl Carrying<'_> {
    /// Course of a carrier over the scene.
    pub fn track(&self, by: Carrier) -> CarrierTrack {
        self.at_depth(by, 0)
    }

    fn at_depth(&self, by: Carrier, depth: usize) -> CarrierTrack {
        let Carrying { document, playing, .. } = *self;
        let length = document.scene.length_s;
        match by {
            Carrier::Piece { id } => {
                let foot = |t| playing.pose_of_piece(id, t).unwrap_or(Pose::ORIGIN);
                let form = document.scene.pieces.iter().find(|p| p.id == id).map(|p| &p.form);
                let Some(Form::Card { toward: Some(setup), .. }) = form else {
                    return CarrierTrack::of(length, foot);
                };
                // A card turns to the camera that looks at it.
                let runs = document.runs(*setup).map(|m| m.id);
                let looks = self.of_setup(*setup, runs, |p| p.camera, depth);
                CarrierTrack::of(length, |t| {
                    let foot = foot(t);
                    let turn_deg = turned_to(foot.position.to_array(), looks.at(t).position.to_array());
                    Pose::new(foot.position, heading(turn_deg.to_radians()))
                })
            }
            Carrier::Performer { id } => {
                let of = MoverId::Performer(id);
                CarrierTrack::of(length, |t| playing.pose(of, t).unwrap_or(Pose::ORIGIN))
            }
            Carrier::Setup { id, moved } => {
                let moved = moved.or_else(|| document.runs(id).map(|m| m.id));
                self.of_setup(id, moved, |p| p.carriage, depth)
            }
        }
    }

    /// Part of a setup's machine over the scene, as a move has it, or as it stands.
    fn of_setup(
        &self,
        setup: SetupId,
        by: Option<MoveId>,
        part: impl Fn(RigPose) -> Pose,
        depth: usize,
    ) -> CarrierTrack {
        let length = self.document.scene.length_s;
        if let Some((rig, motion)) = by.and_then(self.moved).filter(|(_, motion)| !motion.is_empty()) {
            return part_over(&*rig, &motion, length, part);
        }
        let found = self.document.setups.iter().find(|s| s.id == setup);
        let Some(setup) = found else { return CarrierTrack::of(length, |_| Pose::ORIGIN) };
        let rig = setup.rig.build(&setup.camera);
        let carrier = setup.rig.carried.filter(|_| depth < DEEPEST).map(|by| self.at_depth(by, depth + 1));
        CarrierTrack::of(length, |t| part(rig.forward(&stands(&*rig, carrier.as_ref().map(|c| c.at(t))))))
    }

    /// Axis values of a machine before anybody drives it, with its carrier at the beginning of the scene.
    pub fn start(&self, setup: &Setup, rig: &dyn Rig) -> Vec<f64> {
        let carrier = setup.rig.carried.map(|by| Carrying { moved: &|_| None, ..*self }.track(by).at(0.0));
        stands(rig, carrier)
    }

    /// The ride on a machine's carriage; none where it is gone.
    pub fn ride(&self, on: Machine) -> Option<Ride> {
        let setup = self.document.setups.iter().find(|s| s.id == on.setup && !s.binned)?;
        let rig = setup.rig.build(&setup.camera);
        let start = rig.forward(&self.start(setup, &*rig)).carriage;
        let track = Arc::new(self.track(Carrier::Setup { id: setup.id, moved: on.moved }));
        Some(Ride { setup: setup.id, bound: on.moved.is_some(), start, track })
    }
}

/// The axes of a machine that nobody drives, on what carries it.
fn stands(rig: &dyn Rig, carrier: Option<Pose>) -> Vec<f64> {
    let mut motions: Vec<AxisMotion> = rig.axes().iter().map(|a| AxisMotion::at(a.start)).collect();
    rig.write_surroundings(&mut motions, &Surroundings { carrier, ..Surroundings::default() });
    motions.iter().map(|m| m.value).collect()
}

/// Part of a machine over the scene, as it moves.
pub fn part_over(
    rig: &dyn Rig,
    motion: &Motion,
    length_s: f64,
    part: impl Fn(RigPose) -> Pose,
) -> CarrierTrack {
    let mut row = Vec::new();
    CarrierTrack::of(length_s, |t| {
        motion.at(t, &mut row);
        part(rig.forward(&row))
    })
}
