//! A path from place to place in time, with stops: what performers walk and what props ride.
//!
//! **Method.** Between places the path runs on monotone cubics ([`crate::curve::slope`]), so that it comes to rest where it stops and never overshoots.

use crate::curve::slope::{cubic, minimum_jerk, resting};
use crate::list::List;
use crate::params::Invalid;
use crate::space::heading;
use glam::DVec3;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Places in the order of time.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
pub struct Route {
    /// Waypoints, at least one.
    pub waypoints: List<Waypoint>,
}

/// A place at a time.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Waypoint {
    /// Arrives: seconds of scene time.
    pub time_s: f64,
    /// Stays for so long.
    #[serde(default)]
    pub stop_s: f64,
    /// Point under the feet, metres.
    pub position: [f64; 3],
    /// Facing at a stop, degrees: 0 is −Z, positive to the right. Without it, the direction of the way in.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub facing_deg: Option<f64>,
    /// Posture while the performer stays.
    #[serde(default)]
    pub posture: Posture,
    /// A word for the time strip.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub mark: Option<String>,
}

/// How a figure is where it stays.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
#[allow(missing_docs)]
pub enum Posture {
    #[default]
    Stand,
    Sit,
}

/// Steps a second at which distance is summed.
const SUM_HZ: f64 = 120.0;
/// Time of a turn of the body, seconds.
const TURN_S: f64 = 0.6;
/// Time of sitting down or rising, seconds.
const SIT_S: f64 = 0.9;

impl Route {
    /// Checks the route; `name` is the performer's.
    pub fn check(&self, name: &str) -> Result<(), Invalid> {
        if self.waypoints.is_empty() || self.waypoints.len() > 1000 {
            let sentence = format!("the path of {name} needs between 1 and 1000 waypoints");
            return Err(Invalid::at("route/waypoints", sentence));
        }
        let plain = |w: &Waypoint| {
            w.time_s.is_finite()
                && w.time_s.abs() <= 36_000.0
                && (0.0..=36_000.0).contains(&w.stop_s)
                && w.position.iter().chain(&w.facing_deg).all(|v| v.is_finite() && v.abs() <= 1e5)
        };
        let late = |w: &[Waypoint]| w[0].time_s + w[0].stop_s >= w[1].time_s;
        let bad = self
            .waypoints
            .iter()
            .position(|w| !plain(w))
            .or_else(|| self.waypoints.windows(2).position(late).map(|i| i + 1));
        bad.map_or(Ok(()), |i| {
            let must = "must come later than the stop before it ends, and hold plain numbers";
            Err(Invalid::at("route/waypoints", format!("waypoint {} of {name} {must}", i + 1)))
        })
    }

    /// The path, ready to be asked.
    pub fn compile(&self) -> Path {
        let knots: Vec<(f64, DVec3)> = self
            .waypoints
            .iter()
            .flat_map(|w| {
                let place = DVec3::from(w.position);
                let leaves = (w.stop_s > 0.0).then_some((w.time_s + w.stop_s, place));
                std::iter::once((w.time_s, place)).chain(leaves)
            })
            .collect();
        let times: Vec<f64> = knots.iter().map(|k| k.0).collect();
        let slopes = [0, 1, 2].map(|axis| {
            let values: Vec<f64> = knots.iter().map(|k| k.1[axis]).collect();
            resting(&times, &values)
        });
        let mut path = Path { waypoints: self.waypoints.to_vec(), knots, slopes, walked: vec![0.0] };
        let count = ((path.end_s() - path.start_s()) * SUM_HZ).ceil() as usize;
        let at = |path: &Path, i: usize| path.position(path.start_s() + i as f64 / SUM_HZ);
        for i in 1..=count {
            let so_far = path.walked[i - 1] + at(&path, i).distance(at(&path, i - 1));
            path.walked.push(so_far);
        }
        path
    }
}

/// A route with what was worked out about it.
#[derive(Clone, Debug)]
pub struct Path {
    waypoints: Vec<Waypoint>,
    knots: Vec<(f64, DVec3)>,
    slopes: [Vec<f64>; 3],
    walked: Vec<f64>,
}

impl Path {
    /// When it first arrives.
    pub fn start_s(&self) -> f64 {
        self.knots[0].0
    }

    /// When it last leaves.
    pub fn end_s(&self) -> f64 {
        self.knots[self.knots.len() - 1].0
    }

    /// Stops: places with the times from and to, everywhere the path comes to rest.
    pub(super) fn stops(&self) -> Vec<(f64, f64)> {
        let last = self.waypoints.len() - 1;
        let stays = |(i, w): (usize, &Waypoint)| {
            let from = if i == 0 { f64::NEG_INFINITY } else { w.time_s };
            let to = if i == last { f64::INFINITY } else { w.time_s + w.stop_s };
            (from < to).then_some((from, to))
        };
        self.waypoints.iter().enumerate().filter_map(stays).collect()
    }

    /// Place at a time; before the first and after the last waypoint the path stays there.
    pub fn position(&self, time_s: f64) -> DVec3 {
        let next = self.knots.partition_point(|k| k.0 <= time_s);
        if next == 0 || next == self.knots.len() {
            return self.knots[next.saturating_sub(1)].1;
        }
        let ((from, a), (to, b)) = (self.knots[next - 1], self.knots[next]);
        let span = to - from;
        let s = (time_s - from) / span;
        DVec3::from([0, 1, 2].map(|axis| {
            let slope = &self.slopes[axis];
            cubic(a[axis], b[axis] - a[axis], slope[next - 1] * span, slope[next] * span, s)[0]
        }))
    }

    /// Metres a second at a time.
    pub fn speed(&self, time_s: f64) -> f64 {
        (self.position(time_s + 0.05) - self.position(time_s - 0.05)).length() / 0.1
    }

    /// Metres gone by a time.
    pub fn walked(&self, time_s: f64) -> f64 {
        let place = ((time_s - self.start_s()) * SUM_HZ).clamp(0.0, (self.walked.len() - 1) as f64);
        let i = (place as usize).min(self.walked.len().saturating_sub(2));
        let next = self.walked.get(i + 1).unwrap_or(&self.walked[i]);
        self.walked[i] + (next - self.walked[i]) * (place - i as f64)
    }

    /// The first time at which so many metres are gone.
    pub(super) fn time_of(&self, metres: f64) -> f64 {
        let i = self.walked.partition_point(|w| *w < metres);
        if i == 0 || i == self.walked.len() {
            return self.start_s() + i.saturating_sub(1) as f64 / SUM_HZ;
        }
        let (a, b) = (self.walked[i - 1], self.walked[i]);
        self.start_s() + (i as f64 - 1.0 + (metres - a) / (b - a)) / SUM_HZ
    }

    /// Facing at a time, radians; turns are eased.
    pub fn facing(&self, time_s: f64) -> f64 {
        // Averaging directions over the turning time eases every change of direction.
        let sum: DVec3 =
            (-4..=4).map(|i| time_s + f64::from(i) / 8.0 * TURN_S).map(|t| self.direction(t)).sum();
        let sum = if sum.length() > 1e-6 { sum } else { self.direction(time_s) };
        sum.x.atan2(-sum.z)
    }

    fn direction(&self, time_s: f64) -> DVec3 {
        let level = |v: DVec3| v.with_y(0.0).try_normalize();
        let i = self.waypoints.partition_point(|w| w.time_s <= time_s).saturating_sub(1);
        let here = &self.waypoints[i];
        let last = i + 1 == self.waypoints.len();
        let stays = last || time_s < here.time_s + here.stop_s || time_s < here.time_s;
        if !stays {
            let ahead = self.position(time_s + 0.05) - self.position(time_s - 0.05);
            let chord = DVec3::from(self.waypoints[i + 1].position) - DVec3::from(here.position);
            if let Some(walks) = level(ahead).or(level(chord)) {
                return walks;
            }
        }
        if let Some(deg) = here.facing_deg {
            return heading(deg.to_radians()) * DVec3::NEG_Z;
        }
        // Standing without a facing: as it last went, or as it will.
        let chord = |w: &[Waypoint]| level(DVec3::from(w[1].position) - DVec3::from(w[0].position));
        let came = self.waypoints[..=i].windows(2).rev().find_map(chord);
        came.or_else(|| self.waypoints.windows(2).find_map(chord)).unwrap_or(DVec3::NEG_Z)
    }

    /// The turn of a prop, degrees: from facing to facing, `otherwise` where there is none.
    pub fn turn_deg(&self, time_s: f64, otherwise: f64) -> f64 {
        let told: Vec<(f64, f64, f64)> = self
            .waypoints
            .iter()
            .filter_map(|w| Some((w.time_s, w.time_s + w.stop_s, w.facing_deg?)))
            .collect();
        let next = told.partition_point(|w| w.0 <= time_s);
        match (next.checked_sub(1).map(|i| told[i]), told.get(next)) {
            (Some((_, leaves, a)), Some(&(arrives, _, b))) => {
                let s = ((time_s - leaves) / (arrives - leaves)).clamp(0.0, 1.0);
                a + (b - a) * minimum_jerk(s)
            }
            (Some((.., a)), None) => a,
            (None, Some(&(.., b))) => b,
            (None, None) => otherwise,
        }
    }

    /// Share of sitting: 0 stands, 1 sits.
    pub fn seated(&self, time_s: f64) -> f64 {
        let sits = |w: &&Waypoint| w.posture == Posture::Sit && time_s >= w.time_s;
        let Some(w) = self.waypoints.iter().rev().find(sits) else { return 0.0 };
        let last = std::ptr::eq(w, &self.waypoints[self.waypoints.len() - 1]);
        let down = SIT_S.min(if last { SIT_S } else { w.stop_s / 2.0 });
        let until = if last { f64::INFINITY } else { w.time_s + w.stop_s };
        if down <= 0.0 {
            return 0.0;
        }
        minimum_jerk(((time_s - w.time_s) / down).min((until - time_s) / down).clamp(0.0, 1.0))
    }

    /// Words for the time strip.
    pub fn marks(&self) -> Vec<(f64, String)> {
        self.waypoints.iter().filter_map(|w| Some((w.time_s, w.mark.clone()?))).collect()
    }
}
