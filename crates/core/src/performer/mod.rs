//! Performers: stand-in figures that walk a timed path or move as captured.
//!
//! * [`Route`]: places in time, with stops; props and vehicles go the same way.
//! * [`gait`]: steps that stay planted.
//! * [`figure`]: the body, from the feet up.
//! * [`clip`]: captured motion.
//! * [`driven`]: somebody who is driven by hand.

pub mod clip;
pub mod driven;
pub mod figure;
pub mod gait;
mod known;
mod route;

pub use clip::{Clip, Joint};
pub(crate) use known::Played;
pub use route::{Path, Posture, Route, Waypoint};

use crate::carrier::{self, Carrier};
use crate::ids::{ClipId, PerformanceId, PerformerId};
use crate::params::{self, Invalid};
use crate::solid::Body;
use crate::space::{PanTiltRoll, Pose, heading};
use clip::Captured;
use figure::Figure;
use glam::DVec3;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use std::sync::Arc;
use ts_rs::TS;

/// Captured motion by its id.
pub type Clips = BTreeMap<ClipId, Arc<Clip>>;

/// A stand-in for somebody, and what they do in each performance.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Performer {
    /// Its id; a new one is given its own.
    #[serde(default)]
    pub id: PerformerId,
    /// Name of the performer.
    pub name: String,
    /// Standing, without the cap.
    pub height_m: f64,
    /// How broad; 1 is ordinary.
    #[serde(default = "ordinary")]
    pub build: f64,
    /// Parts in performances; a performance without a part goes on without the performer.
    pub parts: Vec<Part>,
}

fn ordinary() -> f64 {
    1.0
}

/// Part of a performer in a performance.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Part {
    /// Id of the performance.
    pub performance: PerformanceId,
    /// The piece or the machine it happens on, which carries it along. On a piece, places are around its
    /// foot; on a machine, where they are on the set while it is at its start.
    #[serde(default, deserialize_with = "carrier::or_piece")]
    pub rides: Option<Carrier>,
    /// Motion of the performer.
    #[serde(flatten)]
    pub motion: PartMotion,
}

/// How a performer moves.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "motion")]
pub enum PartMotion {
    /// On foot from place to place.
    Walks {
        /// Path on foot.
        route: Route,
    },
    /// Captured motion.
    Captured {
        /// Id of the clip asset.
        clip: ClipId,
        /// Scene time at which it begins.
        start_s: f64,
        /// Stretch of the clip that plays: from, to, seconds.
        trim_s: [f64; 2],
        /// Place at which the motion begins, metres.
        position: [f64; 3],
        /// Turn to the right, degrees.
        turn_deg: f64,
    },
}

/// Points of a figure that aim, focus and shot sizes go by.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Points {
    /// Point under the feet.
    pub feet: DVec3,
    /// Middle of the chest.
    pub chest: DVec3,
    /// Between the eyes.
    pub eyes: DVec3,
}

impl Points {
    /// Points on a carrier.
    pub(crate) fn put(self, on: Pose) -> Points {
        let at = |p: DVec3| on.position + on.rotation * p;
        Points { feet: at(self.feet), chest: at(self.chest), eyes: at(self.eyes) }
    }
}

impl Performer {
    /// Part in a performance.
    pub fn part(&self, performance: PerformanceId) -> Option<&Part> {
        self.parts.iter().find(|p| p.performance == performance)
    }

    /// Checks every number and rule of the performer.
    pub fn check(&self) -> Result<(), Invalid> {
        let name = &self.name;
        params::name("a performer", name)?;
        if !(0.3..=3.0).contains(&self.height_m) {
            let sentence = format!("{name} is {} m tall; give 0.3 to 3 m", self.height_m);
            return Err(Invalid::at("height_m", sentence));
        }
        if !(0.5..=2.0).contains(&self.build) {
            return Err(Invalid::at("build", format!("{name} has a build of {}; give 0.5 to 2", self.build)));
        }
        if self.parts.iter().any(|p| matches!(p.rides, Some(Carrier::Performer { .. }))) {
            return Err(Invalid::at(
                "parts",
                format!("{name} is carried by a piece or a machine, by nobody"),
            ));
        }
        self.parts.iter().try_for_each(|part| match &part.motion {
            PartMotion::Walks { route } => route.check(name),
            PartMotion::Captured { start_s, trim_s: [from, to], position, turn_deg, .. } => {
                let numbers = [*start_s, *from, *to, *turn_deg].into_iter().chain(*position);
                let plain = numbers.into_iter().all(|v| v.is_finite() && v.abs() <= 1e5);
                if plain && from < to && *from >= 0.0 {
                    return Ok(());
                }
                let sentence =
                    format!("the captured motion of {name} needs plain numbers, and an end after its start");
                Err(Invalid::at("parts", sentence))
            }
        })
    }

    /// Ready to be asked; none where the performance goes on without them or the clip is missing.
    pub fn compile(&self, performance: PerformanceId, clips: &Clips) -> Option<CastMotion> {
        match &self.part(performance)?.motion {
            PartMotion::Walks { route } => {
                Some(CastMotion::Walks(Box::new(Figure::new(self.height_m, self.build, route.compile()))))
            }
            PartMotion::Captured { clip, start_s, trim_s: [from, to], position, turn_deg } => {
                let clip = clips.get(clip)?.clone();
                let place = (DVec3::from(*position), heading(turn_deg.to_radians()));
                let scale = self.height_m / clip.height();
                let trim = (from.min(clip.length_s()), to.min(clip.length_s()));
                Some(CastMotion::Captured(Captured::new(clip, scale, *start_s, trim, place)))
            }
        }
    }
}

/// A performer in a performance, ready to be asked.
#[derive(Clone, Debug)]
pub enum CastMotion {
    /// Motion on foot.
    Walks(Box<Figure>),
    /// Captured motion.
    Captured(Captured),
}

impl CastMotion {
    /// The parts of the figure, in the order of [`CastMotion::poses`].
    pub fn bodies(&self) -> Vec<Body> {
        match self {
            CastMotion::Walks(figure) => figure.bodies(),
            CastMotion::Captured(captured) => captured.bodies(),
        }
    }

    /// Poses of the figure's parts.
    pub fn poses(&self, time_s: f64) -> Vec<Pose> {
        match self {
            CastMotion::Walks(figure) => figure.poses(time_s),
            CastMotion::Captured(captured) => captured.poses(time_s),
        }
    }

    /// Point under the feet.
    pub fn position(&self, time_s: f64) -> DVec3 {
        match self {
            CastMotion::Walks(figure) => figure.path().position(time_s),
            CastMotion::Captured(captured) => {
                captured.root(time_s).with_y(captured.placing.position.y.max(0.0))
            }
        }
    }

    /// Direction of the body, positive to the right of −Z.
    pub fn facing(&self, time_s: f64) -> f64 {
        match self {
            CastMotion::Walks(figure) => figure.path().facing(time_s),
            CastMotion::Captured(captured) => PanTiltRoll::from_rotation(captured.placing.rotation).pan,
        }
    }

    /// When a foot comes down, in order; nothing is known of who was captured.
    pub fn landings(&self) -> Vec<f64> {
        match self {
            CastMotion::Walks(figure) => figure.steps().landings(),
            CastMotion::Captured(_) => Vec::new(),
        }
    }

    /// Reference points.
    pub fn points(&self, time_s: f64) -> Points {
        match self {
            CastMotion::Walks(figure) => {
                let poses = figure.poses(time_s);
                let (torso, head) = (poses[0], poses[2]);
                let ahead = head.rotation * DVec3::new(0.0, 0.01, -0.06);
                Points {
                    feet: figure.path().position(time_s),
                    chest: torso.position,
                    eyes: head.position + ahead,
                }
            }
            CastMotion::Captured(captured) => {
                let (hips, head) = (captured.root(time_s), captured.highest(time_s));
                Points { feet: self.position(time_s), chest: hips.lerp(head, 0.6), eyes: head }
            }
        }
    }

    /// Words for the time strip.
    pub fn marks(&self) -> Vec<(f64, String)> {
        match self {
            CastMotion::Walks(figure) => figure.path().marks(),
            CastMotion::Captured(_) => Vec::new(),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn at(time_s: f64, stop_s: f64, x: f64, z: f64) -> Waypoint {
        Waypoint {
            time_s,
            stop_s,
            position: [x, 0.0, z],
            facing_deg: None,
            posture: Posture::Stand,
            mark: None,
        }
    }

    fn conductor() -> Performer {
        let mut stops = at(4.0, 2.0, 5.0, 0.0);
        stops.facing_deg = Some(0.0);
        let route = Route { waypoints: vec![at(0.0, 0.0, 0.0, 0.0), stops, at(9.0, 0.0, 5.0, 4.0)].into() };
        Performer {
            id: PerformerId(1),
            name: "conductor".into(),
            height_m: 1.78,
            build: 1.0,
            parts: vec![Part {
                performance: PerformanceId(1),
                rides: None,
                motion: PartMotion::Walks { route },
            }],
        }
    }

    fn walks(p: &Performer) -> Box<Figure> {
        match p.compile(PerformanceId(1), &Clips::new()) {
            Some(CastMotion::Walks(figure)) => figure,
            _ => panic!("it walks"),
        }
    }

    fn waypoints(p: &mut Performer) -> &mut [Waypoint] {
        match &mut p.parts[0].motion {
            PartMotion::Walks { route } => &mut route.waypoints,
            PartMotion::Captured { .. } => panic!("it walks"),
        }
    }

    #[test]
    fn it_stands_where_it_stops_and_walks_the_whole_way() {
        let figure = walks(&conductor());
        let p = figure.path();
        for t in [4.0, 4.7, 5.99] {
            assert!(p.position(t).distance(DVec3::new(5.0, 0.0, 0.0)) < 1e-12);
        }
        assert!((p.walked(99.0) - 9.0).abs() < 1e-6);
        assert_eq!(p.position(-3.0), DVec3::ZERO);
    }

    #[test]
    fn it_looks_where_it_walks_and_where_it_is_told() {
        let figure = walks(&conductor());
        let p = figure.path();
        assert!((p.facing(2.0).to_degrees() - 90.0).abs() < 1.0);
        assert!(p.facing(5.0).to_degrees().abs() < 1.0);
        assert!((p.facing(8.0).to_degrees().abs() - 180.0).abs() < 1.0);
    }

    #[test]
    fn the_figure_stands_on_the_floor_and_is_as_tall_as_stated() {
        let figure = walks(&conductor());
        let poses = figure.poses(5.0);
        assert_eq!(poses.len(), figure.bodies().len());
        let head = poses[2].position.y + 0.066 * 1.78;
        assert!((head - 1.78).abs() < 0.03, "{head}");
        let points = CastMotion::Walks(figure).points(5.0);
        assert!(points.eyes.y > points.chest.y && points.chest.y > 1.0 && points.feet.y == 0.0);
    }

    #[test]
    fn it_sits_where_it_is_told_and_rises_again() {
        let mut c = conductor();
        waypoints(&mut c)[1].posture = Posture::Sit;
        waypoints(&mut c)[1].stop_s = 4.0;
        waypoints(&mut c)[2].time_s = 12.0;
        let figure = walks(&c);
        let hips = |t: f64| figure.poses(t)[1].position.y;
        assert!(hips(6.0) < 0.55 && hips(3.9) > 0.75 && hips(8.2) > 0.75, "{} {}", hips(6.0), hips(8.2));
    }

    #[test]
    fn waypoints_out_of_order_are_named_and_a_part_that_is_missing_is_no_part() {
        let mut c = conductor();
        waypoints(&mut c)[2].time_s = 5.0;
        assert!(c.check().unwrap_err().sentence.contains("waypoint 3"));
        assert_eq!(conductor().check(), Ok(()));
        assert!(conductor().compile(PerformanceId(2), &Clips::new()).is_none());
        assert!(Performer { build: 9.0, ..conductor() }.check().unwrap_err().path.contains("build"));
    }

    #[test]
    fn a_prop_turns_from_facing_to_facing() {
        let mut c = conductor();
        waypoints(&mut c)[0].facing_deg = Some(90.0);
        let p = walks(&c).path().clone();
        assert_eq!(p.turn_deg(-1.0, 7.0), 90.0);
        assert!((p.turn_deg(2.0, 7.0) - 45.0).abs() < 1e-9);
        assert_eq!(p.turn_deg(20.0, 7.0), 0.0);
        waypoints(&mut c).iter_mut().for_each(|w| w.facing_deg = None);
        assert_eq!(walks(&c).path().turn_deg(2.0, 7.0), 7.0);
    }
}
