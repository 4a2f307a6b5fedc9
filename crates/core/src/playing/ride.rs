//! Loads: performers and pieces that go along on a machine's carriage.
//!
//! **Method.** They are placed on the set where they stand while the machine is at its start. From there they
//! go as the carriage goes: placed, then moved by the way from the carriage's start to where it is.

use crate::ids::SetupId;
use crate::space::Pose;
use crate::time::between;
use std::collections::BTreeMap;
use std::hash::{Hash, Hasher};
use std::sync::Arc;

/// Course of a carrier over time.
#[derive(Clone, Debug, PartialEq)]
pub struct CarrierTrack {
    poses: Vec<Pose>,
}

/// Poses a second of what carries.
const RIDE_HZ: f64 = 120.0;

impl CarrierTrack {
    /// Course with a pose for every instant of a scene.
    pub fn of(length_s: f64, at: impl FnMut(f64) -> Pose) -> CarrierTrack {
        let count = (length_s * RIDE_HZ).ceil() as usize + 1;
        CarrierTrack { poses: (0..count).map(|k| k as f64 / RIDE_HZ).map(at).collect() }
    }

    /// Pose at a time; held at both ends.
    pub fn at(&self, time_s: f64) -> Pose {
        let (i, next, share) = between(time_s, RIDE_HZ, self.poses.len());
        self.poses[i].towards(self.poses[next], share)
    }
}

/// Carriages that hands have driven, by setup.
pub type Carriages = BTreeMap<SetupId, Pose>;

/// A machine's carriage that somebody or something stands on.
#[derive(Clone, Debug, PartialEq)]
pub struct Ride {
    /// Id of the setup.
    pub setup: SetupId,
    /// They go as one move has it, whatever the machine does otherwise.
    pub bound: bool,
    /// Pose of the carriage at the machine's start.
    pub start: Pose,
    /// Course of the carriage over the scene.
    pub track: Arc<CarrierTrack>,
}

impl Hash for Ride {
    fn hash<H: Hasher>(&self, state: &mut H) {
        (self.setup, self.bound).hash(state);
        let all = std::iter::once(&self.start).chain(&self.track.poses);
        all.flat_map(|pose| pose.seven()).for_each(|v| v.to_bits().hash(state));
    }
}

impl Ride {
    /// The way of the carriage from its start; from where it is just now, if that is told.
    pub fn gone(&self, time_s: f64, now: &Carriages) -> Pose {
        let driven = now.get(&self.setup).filter(|_| !self.bound);
        let carriage = driven.copied().unwrap_or_else(|| self.track.at(time_s));
        carriage.then(self.start.inverse())
    }

    /// Ride on another course, if the machine is this one.
    pub(super) fn on(&self, setup: SetupId, track: &Arc<CarrierTrack>) -> Ride {
        let track = if self.setup == setup && !self.bound { track } else { &self.track };
        Ride { track: track.clone(), ..self.clone() }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::carrier::Carrier;
    use crate::ids::{PerformanceId, PerformerId, PieceId};
    use crate::performer::{Clips, Part, PartMotion, Performer, Posture, Route, Waypoint};
    use crate::playing::{Machine, MoverId, PerformanceTimeline, SubjectPoints};
    use crate::set::{Form, Piece, PieceRoute};
    use crate::solid::Material;
    use crate::space::heading;
    use glam::DVec3;
    use std::f64::consts::FRAC_PI_2;

    const LENGTH_S: f64 = 10.0;

    fn route(places: &[(f64, [f64; 3])]) -> Route {
        let at = |&(time_s, position): &(f64, [f64; 3])| Waypoint {
            time_s,
            stop_s: 0.0,
            position,
            facing_deg: None,
            posture: Posture::Stand,
            mark: None,
        };
        Route { waypoints: places.iter().map(at).collect() }
    }

    fn somebody(id: PerformerId, rides: Carrier, route: Route) -> Performer {
        let part =
            Part { performance: PerformanceId(1), rides: Some(rides), motion: PartMotion::Walks { route } };
        Performer { id, name: format!("performer {id}"), height_m: 1.7, build: 1.0, parts: vec![part] }
    }

    /// A carriage that starts at x 4 and goes a metre ahead in a second, turning right by a quarter in ten.
    fn carriage(t: f64) -> Pose {
        Pose::new(DVec3::new(4.0, 0.3, -t), heading(FRAC_PI_2 * t / LENGTH_S))
    }

    fn ride(bound: bool) -> Ride {
        Ride {
            setup: SetupId(2),
            bound,
            start: carriage(0.0),
            track: CarrierTrack::of(LENGTH_S, carriage).into(),
        }
    }

    /// A crate and somebody on the machine of setup 2, a cart on it that goes its own way, somebody on the cart.
    fn staged() -> (Vec<Piece>, Vec<Performer>) {
        let on = Carrier::Setup { id: SetupId(2), moved: None };
        let form = Form::Block { size: [0.6, 0.5, 0.4], material: Material::Timber };
        let piece =
            |id: PieceId| Piece { id, rides: Some(on), ..Piece::new("crate", form.clone(), [4.5, 0.3, 0.2]) };
        let mut cart = piece(PieceId(8));
        let route = |places| route(places);
        cart.routes.push(PieceRoute {
            performance: PerformanceId(1),
            route: route(&[(0.0, [4.0, 0.3, 0.0]), (9.0, [4.0, 0.3, 1.5])]),
        });
        let stands = somebody(PerformerId(5), on, route(&[(0.0, [3.6, 0.3, 0.0])]));
        let on_cart =
            somebody(PerformerId(6), Carrier::Piece { id: PieceId(8) }, route(&[(0.0, [0.0, 0.5, 0.0])]));
        (vec![piece(PieceId(7)), cart], vec![stands, on_cart])
    }

    #[test]
    fn what_stands_on_a_machine_stays_where_it_stands_on_its_carriage() {
        let (pieces, performers) = staged();
        let bare = PerformanceTimeline::compile(&pieces, &performers, PerformanceId(1), &Clips::new());
        assert_eq!(
            bare.machines().into_iter().collect::<Vec<_>>(),
            [Machine { setup: SetupId(2), moved: None }]
        );
        // As long as nothing is known of the machine they stand where they were placed.
        assert_eq!(bare.pose(MoverId::Piece(PieceId(7)), 5.0).unwrap().position, DVec3::new(4.5, 0.3, 0.2));
        let playing = bare.carried_by(|_| Some(ride(false)));
        let people = SubjectPoints::of(&playing, &performers, LENGTH_S);
        for k in 0..=40 {
            let t = f64::from(k) * 0.25;
            let gone = carriage(t).then(carriage(0.0).inverse());
            for (i, mover) in playing.movers.iter().enumerate() {
                let (is, placed) = (playing.poses(i, t), bare.poses(i, t));
                for (is, placed) in is.iter().zip(placed) {
                    let wanted = gone.then(placed);
                    assert!(is.position.distance(wanted.position) < 1e-9 && is.angle_to(wanted) < 1e-9);
                }
                if let MoverId::Performer(id) = mover.of {
                    let eyes = playing.points(i, t).unwrap().eyes;
                    // Between the points that are kept they are mixed.
                    assert!(people.eyes(id, t).unwrap().distance(eyes) < 1e-3, "{id} at {t} s");
                }
            }
            // As from above: ahead of the carriage's start is ahead of the carriage.
            let local = carriage(t).inverse().then(playing.pose(MoverId::Piece(PieceId(7)), t).unwrap());
            assert!(local.position.distance(DVec3::new(0.5, 0.0, 0.2)) < 1e-9);
        }
    }

    #[test]
    fn hands_take_along_what_is_not_bound_to_a_move() {
        let (pieces, performers) = staged();
        let bare = PerformanceTimeline::compile(&pieces, &performers, PerformanceId(1), &Clips::new());
        let driven = Pose::new(DVec3::new(-2.0, 1.0, 3.0), heading(1.0));
        let now = Carriages::from([(SetupId(2), driven), (SetupId(9), Pose::ORIGIN)]);
        let gone = driven.then(carriage(0.0).inverse());
        for bound in [false, true] {
            let playing = bare.carried_by(|_| Some(ride(bound)));
            let people = SubjectPoints::of(&playing, &performers, LENGTH_S);
            let wanted = if bound { playing.poses(0, 3.0)[0] } else { gone.then(bare.poses(0, 3.0)[0]) };
            assert!(playing.poses_on(0, 3.0, &now)[0].position.distance(wanted.position) < 1e-9);
            let (_, seen) = people.at_on(3.0, &now).next().unwrap();
            let played = people.eyes(PerformerId(5), 3.0).unwrap();
            assert!(people.eyes_on(PerformerId(5), 3.0, &now).unwrap().distance(seen.eyes) < 1e-9);
            assert_eq!(played.distance(seen.eyes) < 1e-9, bound);
            assert_eq!(playing.riders(SetupId(2)).count(), if bound { 0 } else { 4 });
            // The same on the track of a take, for those that go along with whatever the machine does.
            let take = CarrierTrack::of(LENGTH_S, |_| driven).into();
            let on_take = playing.with_carriage(SetupId(2), &take).poses(0, 3.0)[0];
            assert!(on_take.position.distance(wanted.position) < 1e-9);
            let eyes = people.with_carriage(SetupId(2), &take).eyes(PerformerId(5), 3.0).unwrap();
            assert!(eyes.distance(seen.eyes) < 1e-9);
            assert!(playing.with_carriage(SetupId(3), &take).poses(0, 3.0)[0] == playing.poses(0, 3.0)[0]);
        }
    }
}
