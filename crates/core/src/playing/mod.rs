//! A performance as it plays: everybody and everything that moves in it, on one timeline.
//!
//! Where a machine carries somebody, compiling knows no more than which: where that machine goes is worked out
//! from its move, which may watch who else plays. [`PerformanceTimeline::carried_by`] tells it afterwards.

mod people;
mod ride;

pub use people::SubjectPoints;
pub use ride::{Carriages, CarrierTrack, Ride};

use crate::carrier::Carrier;
use crate::ids::{MoveId, PerformanceId, PerformerId, PieceId, SetupId};
use crate::performer::{Clips, Path, Performer, Played, Points};
use crate::set::Piece;
use crate::solid::Body;
use crate::space::{Pose, heading};
use glam::DVec3;
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;
use std::sync::Arc;
use ts_rs::TS;

/// Performer or piece that moves.
#[derive(Clone, Debug)]
pub struct Mover {
    /// Id of the performer or piece.
    pub of: MoverId,
    /// Name of the performer or piece.
    pub name: String,
    /// The parts, in the order of [`PerformanceTimeline::poses`].
    pub bodies: Vec<Body>,
    /// Height of a performer, metres; none for a piece.
    height_m: Option<f64>,
    motion: Motion,
    on: Option<On>,
    /// The machine that carries it, or what it stands on.
    pub machine: Option<Machine>,
    ride: Option<Ride>,
}

/// A machine that carries, as the scene has it: as it is driven, or bound to one of its moves.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct Machine {
    /// Id of the setup.
    pub setup: SetupId,
    /// None: whatever it does.
    pub moved: Option<MoveId>,
}

impl Machine {
    /// Machine among carriers; none for another carrier.
    fn of(carrier: Option<Carrier>) -> Option<Machine> {
        match carrier? {
            Carrier::Setup { id, moved } => Some(Machine { setup: id, moved }),
            Carrier::Piece { .. } | Carrier::Performer { .. } => None,
        }
    }
}

/// Somebody or something that moves, by its number in the scene.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "kind", content = "id")]
pub enum MoverId {
    /// Id of a performer.
    Performer(PerformerId),
    /// A piece of the set.
    Piece(PieceId),
}

impl MoverId {
    /// Code on the wire: 1 for a performer, 2 for a piece; and the id.
    pub fn code(self) -> (u8, u32) {
        match self {
            MoverId::Performer(id) => (1, id.0),
            MoverId::Piece(id) => (2, id.0),
        }
    }

    /// The number of a performer.
    pub fn performer(self) -> Option<PerformerId> {
        if let MoverId::Performer(id) = self { Some(id) } else { None }
    }
}

#[derive(Clone, Debug)]
enum Motion {
    Figure(Arc<Played>),
    /// On its way, or where it stands on what carries it.
    Piece {
        path: Option<Arc<Path>>,
        parts: Vec<Pose>,
        stands: Pose,
        turn_deg: f64,
    },
}

/// The piece that a performer stands on: one that stands, or one that moves.
#[derive(Clone, Debug, PartialEq)]
enum On {
    Stands(Pose),
    Moving(usize),
}

/// Everything that moves in a performance: pieces first, then performers.
#[derive(Clone, Debug, Default)]
pub struct PerformanceTimeline {
    /// In a fixed order.
    pub movers: Vec<Mover>,
    /// Poses of the pieces that stand still, by their ids.
    pub standing: Vec<(PieceId, Pose)>,
}

impl PerformanceTimeline {
    /// Compiles a performance of a scene.
    pub fn compile(
        pieces: &[Piece],
        performers: &[Performer],
        performance: PerformanceId,
        clips: &Clips,
    ) -> PerformanceTimeline {
        PerformanceTimeline::default().recompiled(pieces, performers, performance, clips, |_| false)
    }

    /// What moves in a performance, of which this was compiled before: what is the `same` as then is
    /// not worked out again.
    pub fn recompiled(
        &self,
        pieces: &[Piece],
        performers: &[Performer],
        performance: PerformanceId,
        clips: &Clips,
        same: impl Fn(MoverId) -> bool,
    ) -> PerformanceTimeline {
        let known = |of: MoverId| self.movers.iter().find(|m| m.of == of && same(of)).map(|m| &m.motion);
        let mut movers: Vec<Mover> = Vec::new();
        for piece in pieces.iter().filter(|p| !p.hidden) {
            if !piece.moves(performance) {
                continue;
            }
            let parts = piece.parts(pieces);
            movers.push(Mover {
                of: MoverId::Piece(piece.id),
                name: piece.name.clone(),
                bodies: parts.iter().map(|s| s.body.clone()).collect(),
                motion: Motion::Piece {
                    path: match known(MoverId::Piece(piece.id)) {
                        Some(Motion::Piece { path, .. }) => path.clone(),
                        _ => piece.route(performance).map(|route| Arc::new(route.compile())),
                    },
                    parts: parts.iter().map(|s| s.pose).collect(),
                    stands: piece.pose(),
                    turn_deg: piece.turn_deg,
                },
                height_m: None,
                on: None,
                machine: Machine::of(piece.rides),
                ride: None,
            });
        }
        for performer in performers {
            let of = MoverId::Performer(performer.id);
            let moves = match known(of) {
                Some(Motion::Figure(moves)) => Some(moves.clone()),
                _ => performer.compile(performance, clips).map(|moves| Arc::new(Played::new(moves))),
            };
            let Some(moves) = moves else { continue };
            let rides = performer.part(performance).and_then(|p| p.rides);
            let piece = match rides {
                Some(Carrier::Piece { id }) => Some(id),
                _ => None,
            };
            let on = piece.and_then(|id| {
                let moving = movers.iter().position(|m| m.of == MoverId::Piece(id)).map(On::Moving);
                let standing = || pieces.iter().find(|p| p.id == id).map(|p| On::Stands(p.pose()));
                moving.or_else(standing)
            });
            // What carries the piece carries who stands on it.
            let below = match on {
                Some(On::Moving(by)) => movers[by].machine,
                Some(On::Stands(_)) | None => None,
            };
            movers.push(Mover {
                of,
                name: performer.name.clone(),
                bodies: moves.moves.bodies(),
                height_m: Some(performer.height_m),
                motion: Motion::Figure(moves),
                on,
                machine: Machine::of(rides).or(below),
                ride: None,
            });
        }
        let standing = pieces.iter().filter(|p| !p.moves(performance)).map(|p| (p.id, p.pose())).collect();
        PerformanceTimeline { movers, standing }
    }

    /// The machines that carry somebody or something.
    pub fn machines(&self) -> BTreeSet<Machine> {
        self.movers.iter().filter_map(|m| m.machine).collect()
    }

    /// Timeline with loads that go along with machines; a machine without a known course stands still.
    pub fn carried_by(&self, ride: impl Fn(Machine) -> Option<Ride>) -> PerformanceTimeline {
        self.with_rides(|m| m.machine.and_then(&ride))
    }

    fn with_rides(&self, ride: impl Fn(&Mover) -> Option<Ride>) -> PerformanceTimeline {
        let put = |m: &Mover| Mover { ride: ride(m), ..m.clone() };
        PerformanceTimeline { movers: self.movers.iter().map(put).collect(), standing: self.standing.clone() }
    }

    /// How each goes along that a machine carries.
    pub fn rides(&self) -> impl Iterator<Item = &Ride> {
        self.movers.iter().filter_map(|m| m.ride.as_ref())
    }

    /// The movers that go along with whatever a setup's machine does.
    pub fn riders(&self, setup: SetupId) -> impl Iterator<Item = usize> {
        let goes_along = move |m: &Mover| m.ride.as_ref().is_some_and(|r| r.setup == setup && !r.bound);
        (0..self.movers.len()).filter(move |i| goes_along(&self.movers[*i]))
    }

    /// Timeline with another course of a machine's carriage.
    pub fn with_carriage(&self, setup: SetupId, track: &Arc<CarrierTrack>) -> PerformanceTimeline {
        self.with_rides(|m| m.ride.as_ref().map(|r| r.on(setup, track)))
    }

    /// True if a mover goes where it went in an earlier compilation, on a piece or not; machines do not count.
    fn goes_as(&self, before: &PerformanceTimeline, of: MoverId) -> bool {
        let find = |p: &PerformanceTimeline| p.movers.iter().position(|m| m.of == of);
        let (Some(now), Some(old)) = (find(self), find(before)) else { return false };
        let (now, old) = (&self.movers[now], &before.movers[old]);
        let carried = match (&now.on, &old.on) {
            (Some(On::Moving(a)), Some(On::Moving(b))) => {
                let of = self.movers[*a].of;
                of == before.movers[*b].of && self.goes_as(before, of)
            }
            (a, b) => a == b,
        };
        carried
            && match (&now.motion, &old.motion) {
                (Motion::Figure(a), Motion::Figure(b)) => Arc::ptr_eq(a, b),
                (
                    Motion::Piece { path: a, stands, .. },
                    Motion::Piece { path: b, stands: old_stands, .. },
                ) => {
                    let same_path = match (a, b) {
                        (Some(a), Some(b)) => Arc::ptr_eq(a, b),
                        (a, b) => a.is_none() && b.is_none(),
                    };
                    same_path && stands == old_stands
                }
                _ => false,
            }
    }

    /// Pose of a mover's foot without its carrier.
    fn foot(&self, mover: usize, time_s: f64) -> Pose {
        match &self.movers[mover].motion {
            Motion::Piece { path: Some(path), turn_deg, .. } => {
                Pose::new(path.position(time_s), heading(path.turn_deg(time_s, *turn_deg).to_radians()))
            }
            Motion::Piece { stands, .. } => *stands,
            Motion::Figure(played) => {
                let moves = &played.moves;
                Pose::new(moves.position(time_s), heading(moves.facing(time_s)))
            }
        }
    }

    /// Pose of the piece under a mover; the origin for a mover on the floor.
    fn under(&self, mover: &Mover, time_s: f64) -> Pose {
        match mover.on {
            None => Pose::ORIGIN,
            Some(On::Stands(pose)) => pose,
            Some(On::Moving(by)) => self.foot(by, time_s),
        }
    }

    /// Pose of a mover's carriers together.
    fn carried(&self, mover: &Mover, time_s: f64, now: &Carriages) -> Pose {
        let under = self.under(mover, time_s);
        mover.ride.as_ref().map_or(under, |ride| ride.gone(time_s, now).then(under))
    }

    /// Poses of a mover's parts.
    pub fn poses(&self, mover: usize, time_s: f64) -> Vec<Pose> {
        self.poses_on(mover, time_s, &Carriages::new())
    }

    /// Poses of a mover's parts on carriages as they are driven now.
    pub fn poses_on(&self, mover: usize, time_s: f64, now: &Carriages) -> Vec<Pose> {
        let m = &self.movers[mover];
        let carrier = self.carried(m, time_s, now);
        match &m.motion {
            Motion::Piece { parts, .. } => {
                let foot = carrier.then(self.foot(mover, time_s));
                parts.iter().map(|p| foot.then(*p)).collect()
            }
            Motion::Figure(moves) => moves.moves.poses(time_s).into_iter().map(|p| carrier.then(p)).collect(),
        }
    }

    /// The foot of somebody or something that moves, in the world.
    pub fn pose(&self, of: MoverId, time_s: f64) -> Option<Pose> {
        let mover = self.movers.iter().position(|m| m.of == of)?;
        Some(self.pose_on(mover, time_s, &Carriages::new()))
    }

    /// The foot of a mover on carriages that are where they have been driven.
    pub fn pose_on(&self, mover: usize, time_s: f64, now: &Carriages) -> Pose {
        self.carried(&self.movers[mover], time_s, now).then(self.foot(mover, time_s))
    }

    /// The foot of a piece of the set, whether it moves or stands.
    pub fn pose_of_piece(&self, piece: PieceId, time_s: f64) -> Option<Pose> {
        let stands = || self.standing.iter().find(|(id, _)| *id == piece).map(|(_, pose)| *pose);
        self.pose(MoverId::Piece(piece), time_s).or_else(stands)
    }

    /// Place of a mover on the floor.
    pub fn position(&self, mover: usize, time_s: f64) -> DVec3 {
        self.pose_on(mover, time_s, &Carriages::new()).position
    }

    /// Reference points of a performer; none of a piece.
    pub fn points(&self, mover: usize, time_s: f64) -> Option<Points> {
        let m = &self.movers[mover];
        let Motion::Figure(played) = &m.motion else { return None };
        Some(played.points(time_s).put(self.carried(m, time_s, &Carriages::new())))
    }

    /// Reference points of a performer by their number; none where they are not in it.
    pub fn points_of(&self, performer: PerformerId, time_s: f64) -> Option<Points> {
        let of = MoverId::Performer(performer);
        self.points(self.movers.iter().position(|m| m.of == of)?, time_s)
    }

    /// When a foot of a performer comes down, in order; none of who is not in it, or was captured.
    pub fn landings_of(&self, performer: PerformerId) -> Vec<f64> {
        let mover = self.movers.iter().find(|m| m.of == MoverId::Performer(performer));
        match mover.map(|m| &m.motion) {
            Some(Motion::Figure(played)) => played.moves.landings(),
            _ => Vec::new(),
        }
    }

    /// How tall a performer is.
    pub fn height_m(&self, performer: PerformerId) -> Option<f64> {
        self.movers.iter().find(|m| m.of == MoverId::Performer(performer))?.height_m
    }

    /// Words for the time strip.
    pub fn marks(&self, mover: usize) -> Vec<(f64, String)> {
        match &self.movers[mover].motion {
            Motion::Figure(moves) => moves.moves.marks(),
            Motion::Piece { path, .. } => path.as_ref().map_or_else(Vec::new, |path| path.marks()),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::performer::{Part, PartMotion, Posture, Route, Waypoint};
    use crate::set::{Form, PieceRoute};

    fn at(time_s: f64, position: [f64; 3], facing_deg: Option<f64>) -> Waypoint {
        Waypoint { time_s, stop_s: 0.0, position, facing_deg, posture: Posture::Stand, mark: None }
    }

    #[test]
    fn who_stands_on_the_step_of_a_tram_goes_where_it_goes_and_turns_as_it_turns() {
        let route = Route {
            waypoints: vec![at(0.0, [0.0; 3], Some(0.0)), at(10.0, [10.0, 0.0, 0.0], Some(90.0))].into(),
        };
        let form = Form::Tram { length: 14.0, bays: 7, lit: true };
        let mut tram = Piece { id: PieceId(3), ..Piece::new("tram 7", form, [0.0; 3]) };
        tram.routes.push(PieceRoute { performance: PerformanceId(1), route });
        let stays = Route { waypoints: vec![at(0.0, [2.0, 0.4, 1.25], Some(0.0))].into() };
        let rider = Performer {
            id: PerformerId(8),
            name: "conductor".into(),
            height_m: 1.78,
            build: 1.0,
            parts: vec![Part {
                performance: PerformanceId(1),
                rides: Some(Carrier::Piece { id: PieceId(3) }),
                motion: PartMotion::Walks { route: stays },
            }],
        };
        let playing = PerformanceTimeline::compile(&[tram], &[rider], PerformanceId(1), &Clips::new());
        let names: Vec<&str> = playing.movers.iter().map(|m| m.name.as_str()).collect();
        assert_eq!(names, ["tram 7", "conductor"]);
        assert!(playing.position(1, 0.0).distance(DVec3::new(2.0, 0.4, 1.25)) < 1e-9);
        // Turned by a quarter to the right, what was along x is along z.
        assert!(playing.position(1, 10.0).distance(DVec3::new(10.0 - 1.25, 0.4, 2.0)) < 1e-9);
        let eyes = playing.points(1, 10.0).unwrap().eyes;
        assert!((eyes.y - 0.4 - 1.66).abs() < 0.08, "{eyes}");
        assert!(playing.points(0, 0.0).is_none());
        assert_eq!(playing.poses(0, 3.0).len(), playing.movers[0].bodies.len());
    }
}
