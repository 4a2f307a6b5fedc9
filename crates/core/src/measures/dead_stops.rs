//! Dead stops: a camera that stands still in the middle of its move.
//!
//! **What it is.** A half second whose path, under a bell of 0.1 s, stays within 0.6 mm and 0.05° of
//! its middle; overlapping ones are one stop. So a creep of 4 mm/s is never one, a camera at 2 mm/s
//! always is, and the noise of a sensor does not hide one. Standing before the first motion and after
//! the last is no stop.
//!
//! **Its ends** (a construction of our own, no source). The bell eats into a stop that ends abruptly.
//! A motion that begins at t₀ leaves the place of the stop like (t − t₀)ᵖ: p is 1 where it begins
//! with a jolt, 3 where it begins softly. So the ends are where the line through the p-th root of the
//! distances next to the stop, not smoothed, meets zero, for the p that fits best.

use super::run::Run;
use crate::space::Pose;
use glam::{DQuat, DVec3};
use serde::Serialize;
use std::ops::Range;
use ts_rs::TS;

/// The bell under which a stop is looked for, seconds.
pub(super) const BELL_S: f64 = 0.1;
pub(super) const HALF_WINDOW_S: f64 = 0.25;
pub(super) const STILL_M: f64 = 0.0006;
pub(super) const STILL_DEG: f64 = 0.05;

/// Distance from a stop's place, in stillnesses, from which it has moved despite noise.
const MOVES: f64 = 2.5;
/// Distances from the place of a stop that tell when it ended, in stillnesses: well over noise, and
/// still near.
const TELLING: Range<f64> = MOVES..40.0;
/// The power of time with which a soft start leaves its place: a little under three, because a soft start
/// soon lets off pushing harder.
const SOFT: f64 = 2.75;
/// Harder starts, a jolt and an even push: how many times better than a soft one each must fit, and on how
/// many points. Under noise a push is taken for a soft start, and the stop for some frames too short.
const HARDER: [(f64, f64, usize); 2] = [(1.0, 3.0, 2), (2.0, 10.0, 8)];
/// Time around the end of the windows in which the stop's end is searched, seconds.
const LOOK_S: f64 = 0.6;

/// A time in which a camera stands still.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, TS)]
pub struct DeadStop {
    /// Start of the stop, seconds.
    pub from_s: f64,
    /// End of the stop, seconds.
    pub to_s: f64,
}

impl DeadStop {
    /// Length of the stop, seconds.
    pub fn length_s(&self) -> f64 {
        self.to_s - self.from_s
    }
}

/// Distance of two poses, in stillnesses: up to 1 is still.
fn apart(a: Pose, b: Pose) -> f64 {
    (a.position.distance(b.position) / STILL_M).max(a.angle_to(b).to_degrees() / STILL_DEG)
}

/// The stops of a run between its first and its last motion, in order. `calm` is the run under a bell of
/// [`BELL_S`].
pub(super) fn dead_stops(run: &Run, calm: &Run) -> Vec<DeadStop> {
    let n = run.poses.len();
    let half = (HALF_WINDOW_S * run.rate_hz).round() as usize;
    if half == 0 || n <= 2 * half {
        return Vec::new();
    }
    let calm = &calm.poses;
    let found = holds(n, half, &|i, j| apart(calm[i], calm[j]));
    found.into_iter().map(|(from, to)| ends(run, from, to)).collect()
}

/// The first and the last place of each stretch, between the first and the last motion, whose every
/// window of `half` to both sides stays still. `apart` says how far two places are, in stillnesses.
pub(super) fn holds(count: usize, half: usize, apart: &dyn Fn(usize, usize) -> f64) -> Vec<(usize, usize)> {
    if half == 0 || count <= 2 * half {
        return Vec::new();
    }
    // Where one place is too far away, it is so for most of those beside it.
    let mut far = 0;
    let mut still = |i: usize| {
        let window = i - half..=i + half;
        if window.contains(&far) && apart(i, far) > 1.0 {
            return false;
        }
        let found = [i - half, i + half].into_iter().chain(window).find(|j| apart(i, *j) > 1.0);
        far = found.unwrap_or(far);
        found.is_none()
    };
    let away = |range: Range<usize>, (from, to): (usize, usize)| {
        let middle = (from + to) / 2;
        range.into_iter().any(|i| apart(i, middle) > MOVES)
    };
    let mut stops: Vec<(usize, usize)> = Vec::new();
    for at in (half..count - half).filter(|i| still(*i)) {
        // Windows that overlap are one stop, and so are those between which it did not go away.
        match stops.last_mut() {
            Some(last) if last.1 >= at - half || !away(last.1..at, *last) => last.1 = at + half,
            _ => stops.push((at - half, at + half)),
        }
    }
    // Before the first motion and after the last one it may stand.
    stops.retain(|stop| away(0..stop.0, *stop) && away(stop.1..count, *stop));
    stops
}

/// The stop that windows found from one pose to another, with its ends as they were.
fn ends(run: &Run, from: usize, to: usize) -> DeadStop {
    let place = middle(&run.poses[from..=to]);
    let look = (LOOK_S * run.rate_hz).ceil() as usize;
    let away = |i: usize| apart(run.poses[i], place);
    let later: Vec<f64> = (to..run.poses.len().min(to + look)).map(away).collect();
    let earlier: Vec<f64> = (from.saturating_sub(look)..=from).rev().map(away).collect();
    // What is told from noise by four of its deviations.
    let still = from..=to;
    let noise = (still.clone().map(|i| away(i).powi(2)).sum::<f64>() / still.count() as f64).sqrt();
    let telling = TELLING.start.max(4.0 * noise)..TELLING.end.max(12.0 * noise);
    let end = |distances: &[f64]| leaves(distances, &telling).unwrap_or(0.0);
    DeadStop {
        from_s: run.time_of(from) - end(&earlier) / run.rate_hz,
        to_s: run.time_of(to) + end(&later) / run.rate_hz,
    }
}

/// The mean of poses that are near one another.
fn middle(poses: &[Pose]) -> Pose {
    let first = poses[0].rotation;
    let near = |q: DQuat| if first.dot(q) < 0.0 { -q } else { q };
    let turned = poses.iter().fold(DQuat::from_xyzw(0.0, 0.0, 0.0, 0.0), |sum, p| sum + near(p.rotation));
    let place = poses.iter().map(|p| p.position).sum::<DVec3>() / poses.len() as f64;
    Pose::new(place, turned.normalize())
}

/// When a motion leaves its place, in samples from the first distance; none where it hardly does.
fn leaves(distances: &[f64], telling: &Range<f64>) -> Option<f64> {
    let last_near = distances.iter().rposition(|d| *d < telling.start);
    // The first time that it goes away, not one after it has been back.
    let first = distances.windows(2).position(|w| w[0] >= telling.start && w[1] >= telling.start)?;
    let first = first.min(last_near.map_or(0, |i| i + 1));
    let count = distances[first..].iter().take_while(|d| **d < telling.end).count().max(4);
    let points: Vec<(f64, f64)> =
        distances[first..].iter().take(count).enumerate().map(|(i, d)| ((first + i) as f64, *d)).collect();
    if points.len() < 2 {
        return None;
    }
    // Noise can make a soft start look like a harder one, but hardly the other way round.
    let soft = line_of_roots(&points, SOFT)?;
    let sure = |(power, better, least): (f64, f64, usize)| {
        line_of_roots(&points, power).filter(|(_, error)| points.len() >= least && better * error < soft.1)
    };
    Some(HARDER.into_iter().find_map(sure).unwrap_or(soft).0)
}

/// Zero of the line through the roots of distances, and its error in time.
fn line_of_roots(points: &[(f64, f64)], power: f64) -> Option<(f64, f64)> {
    let count = points.len() as f64;
    let roots = || points.iter().map(|(t, d)| (*t, d.powf(1.0 / power)));
    let (t, y) = roots().fold((0.0, 0.0), |sum, (t, y)| (sum.0 + t / count, sum.1 + y / count));
    let (across, along) =
        roots().fold((0.0, 0.0), |sum, (a, b)| (sum.0 + (a - t) * (b - y), sum.1 + (a - t).powi(2)));
    let slope = across / along;
    if slope <= 0.0 {
        return None;
    }
    let start = t - y / slope;
    let error = roots().map(|(t, y)| (t - start - y / slope).powi(2)).sum();
    Some((start, error))
}
