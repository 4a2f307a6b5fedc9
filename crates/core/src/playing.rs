//! A performance as it plays: everybody and everything that moves in it, on one timeline.

use crate::performer::{Clips, Path, Performer, Played, Points};
use crate::set::Piece;
use crate::solid::Body;
use crate::space::{Pose, heading};
use crate::time::between;
use glam::DVec3;
use serde::{Deserialize, Serialize};
use std::sync::Arc;
use ts_rs::TS;

/// One that moves.
#[derive(Clone, Debug)]
pub struct Mover {
    /// Whose motion it is.
    pub of: MoverId,
    /// Who or what.
    pub name: String,
    /// The parts, in the order of [`PerformanceTimeline::poses`].
    pub bodies: Vec<Body>,
    /// Of somebody.
    height_m: Option<f64>,
    motion: Motion,
    carrier: Option<Carrier>,
}

/// Somebody or something that moves, by its number in the scene.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "kind", content = "id")]
pub enum MoverId {
    /// A performer.
    Performer(u32),
    /// A piece of the set.
    Piece(u32),
}

impl MoverId {
    /// The number of a performer.
    pub fn performer(self) -> Option<u32> {
        if let MoverId::Performer(id) = self { Some(id) } else { None }
    }
}

#[derive(Clone, Debug)]
enum Motion {
    Figure(Arc<Played>),
    Piece { path: Arc<Path>, parts: Vec<Pose>, turn_deg: f64 },
}

/// What carries a performer: a piece that stands, or one that moves.
#[derive(Clone, Debug, PartialEq)]
enum Carrier {
    Stands(Pose),
    Moving(usize),
}

/// Everything that moves in a performance: pieces first, then performers.
#[derive(Clone, Debug, Default)]
pub struct PerformanceTimeline {
    /// In a fixed order.
    pub movers: Vec<Mover>,
    /// Where the pieces of the set stand that do not move, by their numbers.
    pub standing: Vec<(u32, Pose)>,
}

impl PerformanceTimeline {
    /// What moves in a performance of a scene.
    pub fn compile(
        pieces: &[Piece],
        performers: &[Performer],
        performance: u32,
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
        performance: u32,
        clips: &Clips,
        same: impl Fn(MoverId) -> bool,
    ) -> PerformanceTimeline {
        let known = |of: MoverId| self.movers.iter().find(|m| m.of == of && same(of)).map(|m| &m.motion);
        let mut movers: Vec<Mover> = Vec::new();
        for piece in pieces.iter().filter(|p| !p.hidden) {
            let Some(route) = piece.route(performance) else { continue };
            let parts = piece.parts(pieces);
            movers.push(Mover {
                of: MoverId::Piece(piece.id),
                name: piece.name.clone(),
                bodies: parts.iter().map(|s| s.body.clone()).collect(),
                motion: Motion::Piece {
                    path: match known(MoverId::Piece(piece.id)) {
                        Some(Motion::Piece { path, .. }) => path.clone(),
                        _ => Arc::new(route.compile()),
                    },
                    parts: parts.iter().map(|s| s.pose).collect(),
                    turn_deg: piece.turn_deg,
                },
                height_m: None,
                carrier: None,
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
            let carrier = rides.and_then(|id| {
                let moving = movers.iter().position(|m| m.of == MoverId::Piece(id)).map(Carrier::Moving);
                let standing = || pieces.iter().find(|p| p.id == id).map(|p| Carrier::Stands(p.pose()));
                moving.or_else(standing)
            });
            movers.push(Mover {
                of,
                name: performer.name.clone(),
                bodies: moves.moves.bodies(),
                height_m: Some(performer.height_m),
                motion: Motion::Figure(moves),
                carrier,
            });
        }
        let stands = |p: &&Piece| p.route(performance).is_none();
        let standing = pieces.iter().filter(stands).map(|p| (p.id, p.pose())).collect();
        PerformanceTimeline { movers, standing }
    }

    /// Whether somebody goes where they went in an earlier compilation, carried or not.
    fn goes_as(&self, before: &PerformanceTimeline, of: MoverId) -> bool {
        let find = |p: &PerformanceTimeline| p.movers.iter().position(|m| m.of == of);
        let (Some(now), Some(old)) = (find(self), find(before)) else { return false };
        let (now, old) = (&self.movers[now], &before.movers[old]);
        let carried = match (&now.carrier, &old.carrier) {
            (Some(Carrier::Moving(a)), Some(Carrier::Moving(b))) => {
                let of = self.movers[*a].of;
                of == before.movers[*b].of && self.goes_as(before, of)
            }
            (a, b) => a == b,
        };
        carried
            && match (&now.motion, &old.motion) {
                (Motion::Figure(a), Motion::Figure(b)) => Arc::ptr_eq(a, b),
                (
                    Motion::Piece { path: a, turn_deg, .. },
                    Motion::Piece { path: b, turn_deg: old_turn_deg, .. },
                ) => Arc::ptr_eq(a, b) && turn_deg == old_turn_deg,
                _ => false,
            }
    }

    /// Where the foot of a moving piece is.
    fn foot(&self, mover: usize, time_s: f64) -> Pose {
        match &self.movers[mover].motion {
            Motion::Piece { path, turn_deg, .. } => {
                Pose::new(path.position(time_s), heading(path.turn_deg(time_s, *turn_deg).to_radians()))
            }
            Motion::Figure(played) => {
                let moves = &played.moves;
                Pose::new(moves.position(time_s), heading(moves.facing(time_s)))
            }
        }
    }

    fn carried(&self, mover: &Mover, time_s: f64) -> Pose {
        match mover.carrier {
            None => Pose::ORIGIN,
            Some(Carrier::Stands(pose)) => pose,
            Some(Carrier::Moving(by)) => self.foot(by, time_s),
        }
    }

    /// Where the parts of a mover are.
    pub fn poses(&self, mover: usize, time_s: f64) -> Vec<Pose> {
        let m = &self.movers[mover];
        match &m.motion {
            Motion::Piece { parts, .. } => {
                let foot = self.foot(mover, time_s);
                parts.iter().map(|p| foot.then(*p)).collect()
            }
            Motion::Figure(moves) => {
                let carrier = self.carried(m, time_s);
                moves.moves.poses(time_s).into_iter().map(|p| carrier.then(p)).collect()
            }
        }
    }

    /// The foot of somebody or something that moves, in the world.
    pub fn pose(&self, of: MoverId, time_s: f64) -> Option<Pose> {
        let mover = self.movers.iter().position(|m| m.of == of)?;
        Some(self.carried(&self.movers[mover], time_s).then(self.foot(mover, time_s)))
    }

    /// The foot of a piece of the set, whether it moves or stands.
    pub fn pose_of_piece(&self, piece: u32, time_s: f64) -> Option<Pose> {
        let stands = || self.standing.iter().find(|(id, _)| *id == piece).map(|(_, pose)| *pose);
        self.pose(MoverId::Piece(piece), time_s).or_else(stands)
    }

    /// Where a mover is on the floor.
    pub fn position(&self, mover: usize, time_s: f64) -> DVec3 {
        let carrier = self.carried(&self.movers[mover], time_s);
        carrier.then(self.foot(mover, time_s)).position
    }

    /// Reference points of a performer; none of a piece.
    pub fn points(&self, mover: usize, time_s: f64) -> Option<Points> {
        self.carried_points(mover, time_s, Played::points)
    }

    fn carried_points(&self, mover: usize, time_s: f64, of: fn(&Played, f64) -> Points) -> Option<Points> {
        let m = &self.movers[mover];
        let Motion::Figure(played) = &m.motion else { return None };
        let carrier = self.carried(m, time_s);
        let put = |p: DVec3| carrier.position + carrier.rotation * p;
        let points = of(played, time_s);
        Some(Points { feet: put(points.feet), chest: put(points.chest), eyes: put(points.eyes) })
    }

    /// Reference points of a performer by their number; none where they are not in it.
    pub fn points_of(&self, performer: u32, time_s: f64) -> Option<Points> {
        let of = MoverId::Performer(performer);
        self.points(self.movers.iter().position(|m| m.of == of)?, time_s)
    }

    /// When a foot of a performer comes down, in order; none of who is not in it, or was captured.
    pub fn landings_of(&self, performer: u32) -> Vec<f64> {
        let mover = self.movers.iter().find(|m| m.of == MoverId::Performer(performer));
        match mover.map(|m| &m.motion) {
            Some(Motion::Figure(played)) => played.moves.landings(),
            _ => Vec::new(),
        }
    }

    /// How tall a performer is.
    pub fn height_m(&self, performer: u32) -> Option<f64> {
        self.movers.iter().find(|m| m.of == MoverId::Performer(performer))?.height_m
    }

    /// Words for the time strip.
    pub fn marks(&self, mover: usize) -> Vec<(f64, String)> {
        match &self.movers[mover].motion {
            Motion::Figure(moves) => moves.moves.marks(),
            Motion::Piece { path, .. } => path.marks(),
        }
    }
}

/// What carries a machine, over time.
#[derive(Clone, Debug, PartialEq)]
pub struct CarrierTrack {
    poses: Vec<Pose>,
}

/// Poses a second of what carries.
const RIDE_HZ: f64 = 120.0;

impl CarrierTrack {
    /// As told for every instant of a scene.
    pub fn of(length_s: f64, at: impl FnMut(f64) -> Pose) -> CarrierTrack {
        let count = (length_s * RIDE_HZ).ceil() as usize + 1;
        CarrierTrack { poses: (0..count).map(|k| k as f64 / RIDE_HZ).map(at).collect() }
    }

    /// Where the carrier is; held at both ends.
    pub fn at(&self, time_s: f64) -> Pose {
        let (i, next, share) = between(time_s, RIDE_HZ, self.poses.len());
        self.poses[i].towards(self.poses[next], share)
    }
}

/// Reference points of the performers over time, for a camera that watches them live.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct SubjectPoints {
    list: Vec<Person>,
    length_s: f64,
}

#[derive(Clone, Debug, PartialEq)]
struct Person {
    id: u32,
    height_m: f64,
    points: Arc<Vec<Points>>,
}

/// Reference points a second.
const POINTS_HZ: f64 = 30.0;

impl SubjectPoints {
    /// Of a performance of some length.
    pub fn of(playing: &PerformanceTimeline, performers: &[Performer], length_s: f64) -> SubjectPoints {
        SubjectPoints::default().again(&PerformanceTimeline::default(), playing, performers, length_s)
    }

    /// The same where `before` has become `playing`: only who goes otherwise is worked out.
    pub fn again(
        &self,
        before: &PerformanceTimeline,
        playing: &PerformanceTimeline,
        performers: &[Performer],
        length_s: f64,
    ) -> SubjectPoints {
        let count = (length_s * POINTS_HZ).ceil() as usize + 1;
        let person = |(i, mover): (usize, &Mover)| {
            let MoverId::Performer(id) = mover.of else { return None };
            let height_m = performers.iter().find(|p| p.id == id)?.height_m;
            let known = self.list.iter().find(|p| p.id == id && self.length_s == length_s);
            let known = known.filter(|p| p.height_m == height_m && playing.goes_as(before, mover.of));
            // Kept here: not, four times as dense, with the performer as well.
            let once = |played: &Played, time_s: f64| played.moves.points(time_s);
            let at = |k: usize| playing.carried_points(i, k as f64 / POINTS_HZ, once);
            let points = match known {
                Some(known) => known.points.clone(),
                None => Arc::new((0..count).filter_map(at).collect()),
            };
            Some(Person { id, height_m, points })
        };
        SubjectPoints { list: playing.movers.iter().enumerate().filter_map(person).collect(), length_s }
    }

    /// Everybody's height and points at a time.
    pub fn at(&self, time_s: f64) -> impl Iterator<Item = (f64, Points)> + '_ {
        let i = (time_s * POINTS_HZ).max(0.0).round() as usize;
        self.list.iter().map(move |p| (p.height_m, p.points[i.min(p.points.len() - 1)]))
    }

    /// Somebody's eyes at a time, smoothly between the points that are kept.
    pub fn eyes(&self, id: u32, time_s: f64) -> Option<DVec3> {
        let points = &self.list.iter().find(|p| p.id == id)?.points;
        if points.is_empty() {
            return None;
        }
        let (i, next, share) = between(time_s, POINTS_HZ, points.len());
        Some(points[i].eyes.lerp(points[next].eyes, share))
    }

    /// Whose points come at a place in [`SubjectPoints::at`].
    pub fn id(&self, index: usize) -> u32 {
        self.list[index].id
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
        let mut tram = Piece { id: 3, ..Piece::new("tram 7", form, [0.0; 3]) };
        tram.routes.push(PieceRoute { performance: 1, route });
        let stays = Route { waypoints: vec![at(0.0, [2.0, 0.4, 1.25], Some(0.0))].into() };
        let rider = Performer {
            id: 8,
            name: "conductor".into(),
            height_m: 1.78,
            build: 1.0,
            parts: vec![Part { performance: 1, rides: Some(3), motion: PartMotion::Walks { route: stays } }],
        };
        let playing = PerformanceTimeline::compile(&[tram], &[rider], 1, &Clips::new());
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

    #[test]
    fn what_stayed_as_it_was_is_not_worked_out_again_and_plays_the_same() {
        let walk =
            |z: f64| Route { waypoints: vec![at(0.0, [0.0; 3], None), at(8.0, [6.0, 0.0, z], None)].into() };
        let somebody = |id: u32, z: f64| Performer {
            id,
            name: format!("performer {id}"),
            height_m: 1.7,
            build: 1.0,
            parts: vec![Part { performance: 1, rides: None, motion: PartMotion::Walks { route: walk(z) } }],
        };
        let (first, clips) = ([somebody(1, 0.0), somebody(2, 1.0)], Clips::new());
        let before = PerformanceTimeline::compile(&[], &first, 1, &clips);
        let people = SubjectPoints::of(&before, &first, 10.0);
        let second = [somebody(1, 0.0), somebody(2, 3.0)];
        let after = before.recompiled(&[], &second, 1, &clips, |of| of == MoverId::Performer(1));
        let again = people.again(&before, &after, &second, 10.0);
        assert!(Arc::ptr_eq(&people.list[0].points, &again.list[0].points));
        assert!(!Arc::ptr_eq(&people.list[1].points, &again.list[1].points));
        assert_eq!(
            again,
            SubjectPoints::of(&PerformanceTimeline::compile(&[], &second, 1, &clips), &second, 10.0)
        );
        // Another length asks for all of them anew.
        assert_eq!(again.again(&after, &after, &second, 4.0).list[0].points.len(), 121);
    }
}
