//! Performers: stand-in figures that walk a timed path.
//!
//! **Method.** A performance is a list of waypoints in time. Between them the figure moves on
//! monotone cubics (Fritsch & Carlson, SIAM J. Numer. Anal. 17(2), 1980), so that it comes to rest
//! where two waypoints stand at one place and never overshoots. The gait follows the distance
//! walked: two steps a stride, each foot swinging about the hip.

use crate::solid::{Body, Material, Shape};
use crate::space::{Pose, heading};
use glam::{DQuat, DVec3};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A figure and what it does.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Performer {
    /// Who.
    pub name: String,
    /// Standing, without the cap.
    pub height_m: f64,
    /// What they do.
    pub waypoints: Vec<Waypoint>,
}

/// A place at a time.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Waypoint {
    /// Seconds of scene time.
    pub time_s: f64,
    /// Under the feet.
    pub position: [f64; 3],
    /// Where the figure looks: 0 is −Z, positive to the right. Without it, where it walks.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub facing_deg: Option<f64>,
    /// A word for the time strip.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub mark: Option<String>,
}

/// Metres walked in a whole stride, as a share of body height (common practice, no source).
const STRIDE: f64 = 0.8;
/// Steps a second at which distance walked is summed.
const WALK_HZ: f64 = 120.0;
/// How long a turn of the body takes, seconds.
const TURN_S: f64 = 0.6;

impl Performer {
    /// What about it cannot be, as a sentence.
    pub fn fault(&self) -> Option<String> {
        if !(0.3..=3.0).contains(&self.height_m) {
            return Some(format!("{} is {} m tall; give 0.3 to 3 m", self.name, self.height_m));
        }
        if self.waypoints.is_empty() || self.waypoints.len() > 1000 {
            return Some(format!("{} needs between 1 and 1000 waypoints", self.name));
        }
        let finite = |w: &Waypoint| {
            w.time_s.is_finite()
                && w.time_s.abs() <= 36_000.0
                && w.position.iter().chain(&w.facing_deg).all(|v| v.is_finite() && v.abs() <= 1e5)
        };
        let bad =
            self.waypoints.iter().position(|w| !finite(w)).or_else(|| {
                self.waypoints.windows(2).position(|w| w[0].time_s >= w[1].time_s).map(|i| i + 1)
            });
        bad.map(|i| {
            format!(
                "waypoint {} of {} must come later than the one before and hold plain numbers",
                i + 1,
                self.name
            )
        })
    }

    /// The performance, ready to be asked.
    pub fn compile(&self) -> Performance<'_> {
        let times: Vec<f64> = self.waypoints.iter().map(|w| w.time_s).collect();
        let slopes = [0, 1, 2].map(|axis| {
            let values: Vec<f64> = self.waypoints.iter().map(|w| w.position[axis]).collect();
            monotone_slopes(&times, &values)
        });
        let mut performance = Performance { performer: self, slopes, walked: vec![0.0] };
        let (start, end) = (times[0], times[times.len() - 1]);
        let count = ((end - start) * WALK_HZ).ceil() as usize;
        for i in 1..=count {
            let at = |i: usize| performance.position(start + i as f64 / WALK_HZ);
            let step = at(i).distance(at(i - 1));
            let so_far = performance.walked[i - 1];
            performance.walked.push(so_far + step);
        }
        performance
    }

    /// The parts of the figure, in the order of [`Performance::poses`].
    pub fn bodies(&self) -> Vec<Body> {
        let h = self.height_m;
        let slab = |x: f64, y: f64, z: f64| Shape::Box { size: [x * h, y * h, z * h] };
        vec![
            Body::new("torso", slab(0.23, 0.32, 0.13), Material::Uniform),
            Body::new("hips", slab(0.19, 0.1, 0.125), Material::Cloth),
            Body::new("head", Shape::Ball { radius: 0.066 * h }, Material::Skin),
            Body::new("cap", Shape::Cylinder { radius: 0.074 * h, height: 0.035 * h }, Material::Uniform),
            Body::new("peak", slab(0.09, 0.012, 0.07), Material::DarkSteel),
            Body::new("left leg", slab(0.085, 0.46, 0.095), Material::Cloth),
            Body::new("right leg", slab(0.085, 0.46, 0.095), Material::Cloth),
            Body::new("left arm", slab(0.06, 0.36, 0.07), Material::Uniform),
            Body::new("right arm", slab(0.06, 0.36, 0.07), Material::Uniform),
            Body::new("satchel", slab(0.06, 0.14, 0.15), Material::Timber),
        ]
    }
}

/// A performer's path with what was worked out about it.
pub struct Performance<'a> {
    performer: &'a Performer,
    slopes: [Vec<f64>; 3],
    walked: Vec<f64>,
}

impl Performance<'_> {
    /// Under the feet at a time; before the first and after the last waypoint it stands there.
    pub fn position(&self, time_s: f64) -> DVec3 {
        let points = &self.performer.waypoints;
        let next = points.partition_point(|w| w.time_s <= time_s);
        if next == 0 || next == points.len() {
            return DVec3::from(points[next.saturating_sub(1)].position);
        }
        let (a, b) = (&points[next - 1], &points[next]);
        let span = b.time_s - a.time_s;
        let s = (time_s - a.time_s) / span;
        DVec3::from([0, 1, 2].map(|axis| {
            let slope = &self.slopes[axis];
            hermite(s, a.position[axis], b.position[axis], slope[next - 1] * span, slope[next] * span)
        }))
    }

    /// Metres walked by a time.
    pub fn walked(&self, time_s: f64) -> f64 {
        let place = ((time_s - self.performer.waypoints[0].time_s) * WALK_HZ)
            .clamp(0.0, (self.walked.len() - 1) as f64);
        let i = (place as usize).min(self.walked.len().saturating_sub(2));
        let next = self.walked.get(i + 1).unwrap_or(&self.walked[i]);
        self.walked[i] + (next - self.walked[i]) * (place - i as f64)
    }

    /// Where the figure looks, radians. A waypoint's facing counts from there until the figure
    /// walks on; turns are eased.
    pub fn facing(&self, time_s: f64) -> f64 {
        // Averaging directions over the turning time eases every change of direction.
        let sum: DVec3 =
            (-4..=4).map(|i| time_s + f64::from(i) / 8.0 * TURN_S).map(|t| self.direction(t)).sum();
        let sum = if sum.length() > 1e-6 { sum } else { self.direction(time_s) };
        sum.x.atan2(-sum.z)
    }

    fn direction(&self, time_s: f64) -> DVec3 {
        let points = &self.performer.waypoints;
        let next = points.partition_point(|w| w.time_s <= time_s);
        let here = &points[next.saturating_sub(1)];
        let along = |a: &Waypoint, b: &Waypoint| DVec3::from(b.position) - DVec3::from(a.position);
        let level = |v: DVec3| v.with_y(0.0).try_normalize();
        let ahead = self.position(time_s + 0.05) - self.position(time_s - 0.05);
        if next > 0
            && next < points.len()
            && level(along(here, &points[next])).is_some()
            && let Some(walks) = level(ahead)
        {
            return walks;
        }
        if let Some(deg) = here.facing_deg {
            return heading(deg.to_radians()) * DVec3::NEG_Z;
        }
        // Standing without a facing: as it last walked, or as it will.
        let last = points[..next.max(1)].windows(2).rev().find_map(|w| level(along(&w[0], &w[1])));
        last.or_else(|| points.windows(2).find_map(|w| level(along(&w[0], &w[1])))).unwrap_or(DVec3::NEG_Z)
    }

    /// Where the parts of the figure are.
    pub fn poses(&self, time_s: f64) -> Vec<Pose> {
        let h = self.performer.height_m;
        let foot = self.position(time_s);
        let phase = self.walked(time_s) / (STRIDE * h) * std::f64::consts::TAU;
        let speed = (self.position(time_s + 0.05) - self.position(time_s - 0.05)).length() / 0.1;
        let swing = 0.42 * (speed / 1.2).min(1.0) * phase.sin();
        // On straight legs the hips sink as the legs part.
        let hip = 0.5 * h * swing.abs().cos();
        let root = Pose::new(foot, heading(self.facing(time_s)));
        let at = |x: f64, y: f64, z: f64| root.then(Pose::new(DVec3::new(x, y, z), DQuat::IDENTITY));
        // A limb hangs from its joint and swings to and fro about x.
        let limb = |x: f64, joint: f64, length: f64, angle: f64| {
            let turned = Pose::new(DVec3::new(x, joint, 0.0), DQuat::from_rotation_x(angle));
            root.then(turned).then(Pose::new(DVec3::new(0.0, -length / 2.0, 0.0), DQuat::IDENTITY))
        };
        vec![
            at(0.0, hip + 0.2 * h, 0.0),
            at(0.0, hip + 0.01 * h, 0.0),
            at(0.0, hip + 0.43 * h, -0.01 * h),
            at(0.0, hip + 0.49 * h, -0.01 * h),
            at(0.0, hip + 0.475 * h, -0.095 * h),
            limb(-0.052 * h, hip, 0.46 * h + 0.04 * h, swing),
            limb(0.052 * h, hip, 0.46 * h + 0.04 * h, -swing),
            limb(-0.145 * h, hip + 0.35 * h, 0.36 * h, -0.8 * swing),
            limb(0.145 * h, hip + 0.35 * h, 0.36 * h, 0.8 * swing),
            at(0.135 * h, hip + 0.02 * h, 0.05 * h),
        ]
    }
}

fn hermite(s: f64, a: f64, b: f64, slope_a: f64, slope_b: f64) -> f64 {
    let r = 1.0 - s;
    r * r * (1.0 + 2.0 * s) * a + s * s * (1.0 + 2.0 * r) * b + s * r * (r * slope_a - s * slope_b)
}

/// Slopes through values at times that make no new extremes: the weighted harmonic mean of the
/// neighbouring chords, zero where they turn and at both ends.
fn monotone_slopes(times: &[f64], values: &[f64]) -> Vec<f64> {
    let n = times.len();
    let span = |i: usize| times[i + 1] - times[i];
    let chord = |i: usize| (values[i + 1] - values[i]) / span(i);
    (0..n)
        .map(|i| {
            if i == 0 || i + 1 == n || chord(i - 1) * chord(i) <= 0.0 {
                return 0.0;
            }
            let (w1, w2) = (2.0 * span(i) + span(i - 1), span(i) + 2.0 * span(i - 1));
            (w1 + w2) / (w1 / chord(i - 1) + w2 / chord(i))
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn conductor() -> Performer {
        let at = |time_s: f64, x: f64, z: f64, facing_deg: Option<f64>| Waypoint {
            time_s,
            position: [x, 0.0, z],
            facing_deg,
            mark: None,
        };
        Performer {
            name: "conductor".into(),
            height_m: 1.78,
            waypoints: vec![
                at(0.0, 0.0, 0.0, None),
                at(4.0, 5.0, 0.0, Some(0.0)),
                at(6.0, 5.0, 0.0, None),
                at(9.0, 5.0, 4.0, None),
            ],
        }
    }

    #[test]
    fn it_stands_where_two_waypoints_agree_and_walks_the_whole_way() {
        let c = conductor();
        let p = c.compile();
        for t in [4.0, 4.7, 5.99] {
            assert!(p.position(t).distance(DVec3::new(5.0, 0.0, 0.0)) < 1e-12);
        }
        assert!((p.walked(99.0) - 9.0).abs() < 1e-6);
        assert_eq!(p.position(-3.0), DVec3::ZERO);
    }

    #[test]
    fn it_looks_where_it_walks_and_where_it_is_told() {
        let c = conductor();
        let p = c.compile();
        assert!((p.facing(2.0).to_degrees() - 90.0).abs() < 1.0);
        assert!(p.facing(5.0).to_degrees().abs() < 1.0);
        assert!((p.facing(8.0).to_degrees().abs() - 180.0).abs() < 1.0);
    }

    #[test]
    fn the_figure_stands_on_the_floor_and_is_as_tall_as_stated() {
        let c = conductor();
        let p = c.compile();
        let poses = p.poses(5.0);
        assert_eq!(poses.len(), c.bodies().len());
        let head = poses[2].position.y + 0.066 * 1.78;
        assert!((head - 1.78).abs() < 0.02, "{head}");
    }

    #[test]
    fn waypoints_out_of_order_are_named() {
        let mut c = conductor();
        c.waypoints[2].time_s = 1.0;
        assert!(c.fault().unwrap().contains("waypoint 3"));
        assert_eq!(conductor().fault(), None);
    }
}
