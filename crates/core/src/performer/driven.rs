//! Somebody or something driven by hand: walk, run, turn, sit; and what was driven as a route.
//!
//! **Method.** Ahead and turn are first-order motions within what a person can do. What was driven
//! is a row of place, heading and seat at every sample. It becomes a route of the performance with
//! a waypoint every quarter second while it moves and one for as long as it stands, so that it is
//! drawn, edited and undone as any other route. The route passes through the driven places; between
//! them it is off by millimetres.

use super::figure::{BodyPose, Footing, assemble};
use super::gait::Plant;
use super::route::{Posture, Route, Waypoint};
use crate::curve::slope::minimum_jerk;
use crate::space::{PanTiltRoll, Pose, heading};
use glam::DVec3;
use std::f64::consts::TAU;

/// Request of the hands.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct WalkInput {
    /// Share of walking speed ahead, 0 to 1.
    pub ahead: f64,
    /// Share of turning speed to the right, −1 to 1.
    pub turn: f64,
    /// Runs instead of walking.
    pub run: bool,
    /// Sits down, or stays seated.
    pub sit: bool,
}

/// State of a driven performer.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Driven {
    /// Place x under the feet, metres.
    pub x: f64,
    /// Place z under the feet, metres.
    pub z: f64,
    /// Heading to the right of −Z, radians.
    pub heading: f64,
    /// Metres a second.
    pub speed: f64,
    /// Share of sitting: 0 stands, 1 sits.
    pub seated: f64,
    /// Distance walked, metres.
    pub walked: f64,
}

/// A comfortable walk and an easy run, metres a second (common practice, no source).
const WALK_M_S: f64 = 1.35;
const RUN_M_S: f64 = 3.4;
/// How quickly a person gets under way or stops, metres a second squared (from memory).
const PUSH_M_S2: f64 = 2.6;
/// Turning on the spot, and at a run.
const TURN_S: (f64, f64) = (2.4, 1.5);
/// Sitting down or rising, seconds.
const SIT_S: f64 = 0.9;
/// Time in which one pace becomes another while the performer is led, seconds (from memory).
const PACE_S: f64 = 0.2;
/// Values per row.
pub const ROW: usize = 4;

impl Driven {
    /// One step of `dt` later.
    pub fn step(self, wanted: WalkInput, dt: f64) -> Driven {
        let sits = wanted.sit && self.speed == 0.0;
        let way = if sits { dt } else { -dt };
        let seated = (self.seated + way / SIT_S).clamp(0.0, 1.0);
        let free = if seated > 0.0 || wanted.sit { 0.0 } else { 1.0 };
        let top = if wanted.run { RUN_M_S } else { WALK_M_S };
        let to = wanted.ahead.clamp(0.0, 1.0) * top * free;
        let mut speed = self.speed + (to - self.speed).clamp(-PUSH_M_S2 * dt, PUSH_M_S2 * dt);
        if to == 0.0 && speed < 1e-6 {
            speed = 0.0;
        }
        let share = (speed / RUN_M_S).min(1.0);
        let turning = TURN_S.0 + (TURN_S.1 - TURN_S.0) * share;
        let heading = self.heading + wanted.turn.clamp(-1.0, 1.0) * turning * free * dt;
        Driven {
            x: self.x + heading.sin() * speed * dt,
            z: self.z - heading.cos() * speed * dt,
            heading,
            speed,
            seated,
            walked: self.walked + speed * dt,
        }
    }

    /// `dt` later, where something else has it: it faces as that does, and goes as fast as that went.
    pub fn led(self, to: Pose, dt: f64) -> Driven {
        let (x, z) = (to.position.x, to.position.z);
        let facing = PanTiltRoll::from_rotation(to.rotation).pan;
        let gone = (x - self.x).hypot(z - self.z);
        Driven {
            x,
            z,
            heading: facing + TAU * ((self.heading - facing) / TAU).round(),
            // Steps go by the speed; that of a hand is never even.
            speed: self.speed + (gone / dt - self.speed) * (dt / PACE_S).min(1.0),
            seated: self.seated,
            walked: self.walked + gone,
        }
    }

    /// Row of the recording.
    pub fn row(&self) -> [f64; ROW] {
        [self.x, self.z, self.heading, self.seated]
    }

    /// Its foot on a floor of height `y`.
    pub fn foot(&self, y: f64) -> Pose {
        Pose::new(DVec3::new(self.x, y, self.z), heading(self.heading))
    }

    /// The parts of a figure that is driven, in the order of its bodies. Steps go with the way it
    /// went; played back they are planted.
    pub fn figure(&self, height_m: f64, build: f64, y: f64) -> Vec<Pose> {
        let under = self.foot(y);
        let stride = 0.41 * height_m * (self.speed / WALK_M_S).clamp(0.0, 1.6).sqrt();
        let phase = self.walked / (0.41 * height_m * if self.speed > WALK_M_S * 1.2 { 1.7 } else { 1.0 });
        let foot = |side: usize| {
            let out = (side as f64 * 2.0 - 1.0) * 0.055 * height_m;
            let u = (phase + side as f64).rem_euclid(2.0);
            let (ahead, up) = if u < 1.0 {
                (0.5 - u, 0.0)
            } else {
                (minimum_jerk(u - 1.0) - 0.5, 0.06 * height_m * ((u - 1.0) * TAU / 2.0).sin())
            };
            let lifted = up * (self.speed / 0.5).min(1.0);
            let place =
                under.then(Pose { position: DVec3::new(out, lifted, -ahead * stride), ..Pose::ORIGIN });
            Footing { at: Plant { place: place.position, heading: self.heading }, planted: u < 1.0 }
        };
        let pose = BodyPose {
            under: under.position,
            facing: self.heading,
            seated: minimum_jerk(self.seated),
            speed: self.speed,
        };
        assemble(height_m, build, &pose, [foot(0), foot(1)])
    }
}

/// Every so many seconds a waypoint while it moves.
const KNOT_S: f64 = 0.25;
/// Less than this from knot to knot is standing, metres.
const STILL_M: f64 = 0.01;
/// Less than this from knot to knot is looking the same way.
const SAME_RAD: f64 = 0.03;

/// The route of what was driven: rows of [`ROW`] values, `rate_hz` a second, from scene time 0, on
/// a floor of height `y`.
pub fn route(values: &[f64], rate_hz: f64, y: f64) -> Route {
    let rows: Vec<&[f64]> = values.chunks_exact(ROW).collect();
    let Some(last) = rows.len().checked_sub(1) else { return Route::default() };
    let step = ((KNOT_S * rate_hz).round() as usize).max(1);
    let mut knots: Vec<usize> = (0..=last).step_by(step).collect();
    if knots[knots.len() - 1] != last {
        knots.push(last);
    }
    let apart = |a: usize, b: usize| (rows[b][0] - rows[a][0]).hypot(rows[b][1] - rows[a][1]);
    let turned = |a: usize, b: usize| (rows[b][2] - rows[a][2]).abs();
    let sits = |i: usize| rows[i][3] > 0.0;
    let time = |i: usize| i as f64 / rate_hz;
    let mut waypoints: Vec<Waypoint> = Vec::new();
    let mut k = 0;
    while k < knots.len() {
        let here = knots[k];
        // It stands as long as it neither goes, turns nor rises.
        let mut end = k;
        while end + 1 < knots.len()
            && apart(here, knots[end + 1]) < STILL_M
            && turned(here, knots[end + 1]) < SAME_RAD
            && sits(here) == sits(knots[end + 1])
        {
            end += 1;
        }
        let stays = time(knots[end]) - time(here);
        let spot = k + 1 < knots.len() && apart(here, knots[k + 1]) < STILL_M;
        // Turning on the spot is standing a moment at a time.
        let stop_s = if end > k {
            stays
        } else if spot {
            KNOT_S * 0.6
        } else {
            0.0
        };
        let stands = stop_s > 0.0 || here == last;
        waypoints.push(Waypoint {
            time_s: time(here),
            stop_s: if end + 1 < knots.len() || end == k { stop_s } else { 0.0 },
            position: [rows[here][0], y, rows[here][1]],
            facing_deg: stands.then(|| rows[here][2].to_degrees()),
            posture: if sits(here) && stands { Posture::Sit } else { Posture::Stand },
            mark: None,
        });
        k = end + 1;
    }
    // A stop ends before the next place.
    for i in 1..waypoints.len() {
        let room = waypoints[i].time_s - waypoints[i - 1].time_s;
        let before = &mut waypoints[i - 1];
        before.stop_s = before.stop_s.min(room - 1.0 / rate_hz).max(0.0);
    }
    Route { waypoints: waypoints.into() }
}

/// The same for a prop, which turns from facing to facing: it faces where it goes throughout.
pub fn prop_route(values: &[f64], rate_hz: f64, y: f64) -> Route {
    let mut route = route(values, rate_hz, y);
    let rows = values.len() / ROW;
    for waypoint in &mut route.waypoints {
        let row = ((waypoint.time_s * rate_hz).round() as usize).min(rows.saturating_sub(1));
        waypoint.facing_deg = Some(values[row * ROW + 2].to_degrees());
        // It has no feet to set down: turning on the spot it does not stop from moment to moment.
        if waypoint.stop_s < KNOT_S {
            waypoint.stop_s = 0.0;
        }
    }
    route
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::performer::figure::Figure;

    const STEP_S: f64 = 1.0 / 240.0;

    /// Walks, stops, turns on the spot, walks on, sits down, rises.
    fn walk() -> Vec<Driven> {
        let mut d = Driven { x: 1.0, z: 2.0, ..Driven::default() };
        let mut all = vec![d];
        let mut go = |seconds: f64, ahead: f64, turn: f64, run: bool, sit: bool| {
            for _ in 0..(seconds / STEP_S) as usize {
                d = d.step(WalkInput { ahead, turn, run, sit }, STEP_S);
                all.push(d);
            }
        };
        go(3.0, 1.0, 0.15, false, false);
        go(1.5, 0.0, 0.0, false, false);
        go(0.8, 0.0, 1.0, false, false);
        go(2.0, 1.0, 0.0, true, false);
        go(2.5, 0.0, 0.0, false, false);
        go(3.0, 0.0, 0.0, false, true);
        go(2.0, 0.0, 0.0, false, false);
        all
    }

    #[test]
    fn a_person_gets_under_way_and_stops_as_people_do() {
        let all = walk();
        for w in all.windows(2) {
            assert!((w[1].speed - w[0].speed).abs() <= PUSH_M_S2 * STEP_S + 1e-12);
            assert!(
                w[1].speed <= RUN_M_S && (w[1].x - w[0].x).hypot(w[1].z - w[0].z) <= RUN_M_S * STEP_S + 1e-12
            );
        }
        assert!(all.iter().any(|d| d.speed > 3.0) && all.iter().any(|d| d.seated == 1.0));
        assert_eq!(all[all.len() - 1].seated, 0.0);
        // Seated, it does not go.
        let seated = Driven { seated: 0.5, ..Driven::default() };
        assert_eq!(seated.step(WalkInput { ahead: 1.0, sit: true, ..WalkInput::default() }, STEP_S).x, 0.0);
    }

    #[test]
    fn the_route_goes_where_it_was_driven() {
        let all: Vec<Driven> = walk().into_iter().step_by(2).collect();
        let values: Vec<f64> = all.iter().flat_map(Driven::row).collect();
        let route = route(&values, 120.0, 0.0);
        assert_eq!(route.check("she"), Ok(()));
        assert!(route.waypoints.len() < 60, "{}", route.waypoints.len());
        let figure = Figure::new(1.7, 1.0, route.compile());
        let path = figure.path();
        for (i, d) in all.iter().enumerate() {
            let t = i as f64 / 120.0;
            let off = path.position(t).distance(DVec3::new(d.x, 0.0, d.z));
            assert!(off < 0.06, "{t} {off}");
        }
        let at = |t: f64| &all[(t * 120.0) as usize];
        for t in [4.2, 9.0] {
            let off = (path.facing(t) - at(t).heading).rem_euclid(TAU);
            assert!(off.min(TAU - off) < 0.06, "{t} {off}");
        }
        assert!(path.seated(11.2) > 0.9 && path.seated(14.7) < 0.01);
    }

    #[test]
    fn a_prop_faces_where_it_is_driven_all_the_way() {
        let all: Vec<Driven> = walk().into_iter().step_by(2).collect();
        let values: Vec<f64> = all.iter().flat_map(Driven::row).collect();
        let path = prop_route(&values, 120.0, 0.0).compile();
        for (i, d) in all.iter().enumerate() {
            let off = (path.turn_deg(i as f64 / 120.0, 0.0) - d.heading.to_degrees()).abs();
            // From knot to knot it turns by 34° at most, eased: a fifth of that off in between.
            assert!(off < 6.9, "{i} {off}");
        }
    }

    #[test]
    fn the_figure_that_is_driven_is_whole_and_stands_on_the_floor() {
        let bodies = Figure::new(1.7, 1.0, route(&[0.0; 8], 120.0, 0.0).compile()).bodies().len();
        for d in walk().iter().step_by(37) {
            let poses = d.figure(1.7, 1.0, 0.0);
            assert_eq!(poses.len(), bodies);
            assert!(
                poses.iter().all(|p| p.position.is_finite() && p.position.y > -0.01 && p.position.y < 1.75)
            );
        }
    }
}
