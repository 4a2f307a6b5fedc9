//! Fast part of a recorded camera's motion, to be laid onto another move.
//!
//! **Method.** A low pass keeps the calm course, in place and on the rotation group; what the camera does
//! beside it, in the calm camera's own axes, is the fast part. The course begins and ends where the camera
//! does, so next to both ends nothing is left of it: that much is cut off. Where the move is longer than
//! what is left, it comes again, faded over so that it is as strong there as elsewhere (the squares of both
//! shares add up to 1: what shakes at two times has nothing to do with one another).

use crate::filter::{Kernel, Smoother, smooth_rotations};
use crate::motion::Recorded;
use crate::space::{PanTiltRoll, Pose};
use glam::{DQuat, DVec3};
use std::f64::consts::FRAC_PI_2;

/// A shorter recording has no fast part, seconds.
const SHORTEST_S: f64 = 2.0;
/// Margin at each end without motion, in waves of the lower edge.
const MARGIN: f64 = 0.5;
/// Time from the end of the sample to its start again, seconds.
const FADE_S: f64 = 0.5;

/// Six courses: to the side, up and ahead, centimetres; pan, tilt and roll, degrees.
pub(super) struct FastPart {
    rate_hz: f64,
    courses: [Vec<f64>; 6],
}

impl FastPart {
    /// Fast part above `from_hz`; none where too little was recorded, or too seldom.
    pub fn of(recorded: &Recorded, from_hz: f64) -> Option<FastPart> {
        let Recorded { rate_hz, poses } = recorded;
        let margin = (MARGIN / from_hz * rate_hz).ceil() as usize;
        let enough = poses.len().checked_sub(2 * margin).is_some_and(|n| n as f64 >= SHORTEST_S * rate_hz);
        // The pass needs some room under half of the rate.
        if !enough || from_hz > 0.4 * rate_hz {
            return None;
        }
        let pass = Kernel::LowPass { cut: from_hz / rate_hz };
        let column = |i: usize| poses.iter().map(|p| p.position[i]).collect();
        let mut place: Vec<Vec<f64>> = (0..3).map(column).collect();
        Smoother::new(poses.len(), pass).smooth(&mut place);
        let mut turned: Vec<DQuat> = poses.iter().map(|p| p.rotation).collect();
        smooth_rotations(&mut turned, pass);
        let beside = |k: usize| {
            let calm = Pose::new(DVec3::new(place[0][k], place[1][k], place[2][k]), turned[k]);
            let off = calm.inverse().then(poses[k]);
            let PanTiltRoll { pan, tilt, roll } = PanTiltRoll::from_rotation(off.rotation);
            let [side, up, back] = (100.0 * off.position).to_array();
            [side, up, -back, pan.to_degrees(), tilt.to_degrees(), roll.to_degrees()]
        };
        let rows: Vec<[f64; 6]> = (margin..poses.len() - margin).map(beside).collect();
        let course = |i: usize| rows.iter().map(|row| row[i]).collect();
        Some(FastPart { rate_hz: *rate_hz, courses: std::array::from_fn(course) })
    }

    /// One of the courses at `count` samples of another rate, from `starts_s` of the recording on, over and
    /// over.
    pub fn laid(&self, course: usize, count: usize, rate_hz: f64, starts_s: f64) -> Vec<f64> {
        let values = &self.courses[course];
        let last = values.len() - 1;
        let at = |place: f64| {
            let (k, share) = (place as usize, place.fract());
            values[k.min(last)] + share * (values[(k + 1).min(last)] - values[k.min(last)])
        };
        let fade = FADE_S * self.rate_hz;
        let period = last as f64 - fade;
        let value = |k: usize| {
            let place = (starts_s + k as f64 / rate_hz) * self.rate_hz;
            let within = place.rem_euclid(period);
            if place < period || within >= fade {
                return at(within);
            }
            let share = FRAC_PI_2 * within / fade;
            share.sin() * at(within) + share.cos() * at(within + period)
        };
        (0..count).map(value).collect()
    }
}
