//! Reference points of the performers over time, for a camera that watches them.

use super::{Carriages, CarrierTrack, Motion, Mover, MoverId, PerformanceTimeline, Ride};
use crate::ids::{PerformerId, SetupId};
use crate::performer::{Performer, Points};
use crate::time::between;
use glam::DVec3;
use std::fmt;
use std::sync::{Arc, OnceLock};

/// Reference points of the performers over time, for a camera that watches them live.
///
/// Points are worked out in pieces of a quarter of a second, each when it is first asked for: a scene of an hour
/// with a dozen performers costs nothing until somebody looks at it.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct SubjectPoints {
    list: Vec<Person>,
    length_s: f64,
}

#[derive(Clone, Debug, PartialEq)]
struct Person {
    id: PerformerId,
    height_m: f64,
    /// Points without the machines that carry the people.
    points: Arc<PointTrack>,
    ride: Option<Ride>,
}

/// Points in a piece.
const PIECE: usize = 8;

/// Somebody's points over a performance, worked out piece by piece.
struct PointTrack {
    playing: PerformanceTimeline,
    /// Index of the person among the movers.
    mover: usize,
    count: usize,
    pieces: Vec<OnceLock<[Points; PIECE]>>,
}

impl PointTrack {
    fn new(playing: &PerformanceTimeline, mover: usize, count: usize) -> PointTrack {
        let pieces = (0..count.div_ceil(PIECE)).map(|_| OnceLock::new()).collect();
        PointTrack { playing: playing.clone(), mover, count, pieces }
    }

    fn at(&self, i: usize) -> Points {
        let i = i.min(self.count - 1);
        let piece = self.pieces[i / PIECE].get_or_init(|| {
            let mover = &self.playing.movers[self.mover];
            let Motion::Figure(played) = &mover.motion else { unreachable!("only performers have points") };
            std::array::from_fn(|k| {
                let time_s = (i / PIECE * PIECE + k) as f64 / POINTS_HZ;
                // Kept here: not, four times as dense, with the performer as well.
                played.moves.points(time_s).put(self.playing.under(mover, time_s))
            })
        });
        piece[i % PIECE]
    }
}

impl PartialEq for PointTrack {
    fn eq(&self, other: &PointTrack) -> bool {
        self.count == other.count && (0..self.count).all(|i| self.at(i) == other.at(i))
    }
}

impl fmt::Debug for PointTrack {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{} points", self.count)
    }
}

impl Person {
    /// Carried along from where they are.
    fn put(&self, points: Points, time_s: f64, now: &Carriages) -> Points {
        self.ride.as_ref().map_or(points, |ride| points.put(ride.gone(time_s, now)))
    }
}

/// Carriages of machines that go as the scene has them.
static AS_PLAYED: Carriages = Carriages::new();

/// Reference points a second.
const POINTS_HZ: f64 = 30.0;

impl SubjectPoints {
    /// Points in a performance of some length.
    pub fn of(playing: &PerformanceTimeline, performers: &[Performer], length_s: f64) -> SubjectPoints {
        SubjectPoints::default().again(&PerformanceTimeline::default(), playing, performers, length_s)
    }

    /// Points after `before` has become `playing`: only changed people are worked out again.
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
            if !matches!(mover.motion, Motion::Figure(_)) {
                return None;
            }
            let points = match known {
                Some(known) => known.points.clone(),
                None => Arc::new(PointTrack::new(playing, i, count)),
            };
            Some(Person { id, height_m, points, ride: mover.ride.clone() })
        };
        SubjectPoints { list: playing.movers.iter().enumerate().filter_map(person).collect(), length_s }
    }

    /// Everybody's height and points at a time.
    pub fn at(&self, time_s: f64) -> impl Iterator<Item = (f64, Points)> + '_ {
        self.at_on(time_s, &AS_PLAYED)
    }

    /// Points on carriages as they are driven now.
    pub fn at_on<'a>(&'a self, time_s: f64, now: &'a Carriages) -> impl Iterator<Item = (f64, Points)> + 'a {
        let i = (time_s * POINTS_HZ).max(0.0).round() as usize;
        let point = move |p: &Person| p.put(p.points.at(i), time_s, now);
        self.list.iter().map(move |p| (p.height_m, point(p)))
    }

    /// Somebody's eyes at a time, smoothly between the points that are kept.
    pub fn eyes(&self, id: PerformerId, time_s: f64) -> Option<DVec3> {
        self.eyes_on(id, time_s, &AS_PLAYED)
    }

    /// Eyes on carriages as they are driven now.
    pub fn eyes_on(&self, id: PerformerId, time_s: f64, now: &Carriages) -> Option<DVec3> {
        let person = self.list.iter().find(|p| p.id == id)?;
        let (i, next, share) = between(time_s, POINTS_HZ, person.points.count);
        let (here, there) = (person.points.at(i), person.points.at(next));
        Some(person.put(Points { eyes: here.eyes.lerp(there.eyes, share), ..here }, time_s, now).eyes)
    }

    /// Points with another course of a machine's carriage.
    pub fn with_carriage(&self, setup: SetupId, track: &Arc<CarrierTrack>) -> SubjectPoints {
        let put = |p: &Person| Person { ride: p.ride.as_ref().map(|r| r.on(setup, track)), ..p.clone() };
        SubjectPoints { list: self.list.iter().map(put).collect(), length_s: self.length_s }
    }

    /// Id of the person at an index of [`SubjectPoints::at`].
    pub fn id(&self, index: usize) -> PerformerId {
        self.list[index].id
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::ids::PerformanceId;
    use crate::performer::{Clips, Part, PartMotion, Posture, Route, Waypoint};

    fn at(time_s: f64, position: [f64; 3], facing_deg: Option<f64>) -> Waypoint {
        Waypoint { time_s, stop_s: 0.0, position, facing_deg, posture: Posture::Stand, mark: None }
    }

    #[test]
    fn what_stayed_as_it_was_is_not_worked_out_again_and_plays_the_same() {
        let walk =
            |z: f64| Route { waypoints: vec![at(0.0, [0.0; 3], None), at(8.0, [6.0, 0.0, z], None)].into() };
        let somebody = |id: PerformerId, z: f64| Performer {
            id,
            name: format!("performer {id}"),
            height_m: 1.7,
            build: 1.0,
            parts: vec![Part {
                performance: PerformanceId(1),
                rides: None,
                motion: PartMotion::Walks { route: walk(z) },
            }],
        };
        let (first, clips) = ([somebody(PerformerId(1), 0.0), somebody(PerformerId(2), 1.0)], Clips::new());
        let before = PerformanceTimeline::compile(&[], &first, PerformanceId(1), &clips);
        let people = SubjectPoints::of(&before, &first, 10.0);
        let second = [somebody(PerformerId(1), 0.0), somebody(PerformerId(2), 3.0)];
        let after = before.recompiled(&[], &second, PerformanceId(1), &clips, |of| {
            of == MoverId::Performer(PerformerId(1))
        });
        let again = people.again(&before, &after, &second, 10.0);
        assert!(Arc::ptr_eq(&people.list[0].points, &again.list[0].points));
        assert!(!Arc::ptr_eq(&people.list[1].points, &again.list[1].points));
        assert_eq!(
            again,
            SubjectPoints::of(
                &PerformanceTimeline::compile(&[], &second, PerformanceId(1), &clips),
                &second,
                10.0
            )
        );
        // Another length asks for all of them anew.
        assert_eq!(again.again(&after, &after, &second, 4.0).list[0].points.count, 121);
    }
}
