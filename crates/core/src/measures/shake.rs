//! Shake of a camera: motion apart from its intended course.
//!
//! **What it is.** Shake is acceleration that is answered by its opposite within half a second on
//! *both* sides. A quick, clean stroke starts and stops: each of its accelerations is answered on one
//! side only, and is no shake however quick it is. Only what is faster than [`Counts::SHAKE`] says counts.
//!
//! **Method** (a construction of our own, no source). Second differences of the position; for turning,
//! first differences of the angular velocity in the world, log(q₊ q⁻¹), which is the same however the
//! camera is mounted. With b the acceleration under a bell of 0.02 s, how far an instant is answered
//! on one side is the greatest −b(t)·b(t ± τ)/|b(t)|² for τ ≤ 0.5 s; r is the lesser of both sides, and
//! the acceleration counts by min(1, 2r)². What counts is integrated twice in the spectrum.
//!
//! Accelerations that count in part no longer add up to nothing, so a short bump would read larger than it
//! is. Therefore a second never shakes more than what is fast in it: of each second the figure is the lesser
//! of the RMS of what was integrated and the RMS of the course itself over the same edge, whose ends are
//! joined by a straight line. The first and the last second (a quarter of a take under 4 s), where one
//! side is not known, do not count.

use super::run::{Run, columns, under_bell};
use crate::filter::{real_transforms, smooth_length};
use crate::space::shorter_turn;
use glam::DVec3;
use realfft::num_complex::Complex64;
use serde::Serialize;
use std::f64::consts::PI;
use ts_rs::TS;

/// Limits of what counts as shake.
#[derive(Clone, Copy, Debug)]
pub(super) struct Counts {
    /// Slower movement than this never does.
    from_hz: f64,
    /// Movement as fast as this does wholly.
    whole_hz: f64,
    /// How soon an acceleration is answered.
    answered_s: f64,
    /// How near to an end one side is not known, seconds; half of that, and a quarter of a short take.
    edge_s: f64,
}

impl Counts {
    /// Limits for shake.
    pub const SHAKE: Counts = Counts { from_hz: 1.0, whole_hz: 1.5, answered_s: 0.5, edge_s: 1.0 };
    /// Limits for knocks: quicker than two strokes of a hand follow one another.
    pub const KNOCKS: Counts = Counts { from_hz: 2.0, whole_hz: 3.0, answered_s: 0.2, edge_s: 0.4 };
}

/// A shorter take has no figure.
const SHORTEST_S: f64 = 2.0;

const BELL_S: f64 = 0.02;
/// Comparing each instant with so many others on each side is enough at any rate: of a wave of 11.5 Hz one
/// of them lies within a tenth of a wave of its answer.
const MOST_LAGS: usize = 32;

/// Shake over a take: the whole of it, and where it is worst.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, TS)]
pub struct ShakeFigure {
    /// RMS of all seconds of the take.
    pub whole: f64,
    /// RMS over the second in which it is largest: a short shake in a long take is seen here.
    pub worst_second: f64,
    /// The middle of that second, seconds.
    pub worst_at_s: f64,
}

/// Distances of a camera from its own calm course, pose by pose: metres, or radians.
#[derive(Clone, Debug)]
pub(super) struct Wobble {
    /// The first pose that counts.
    first: usize,
    rate_hz: f64,
    /// The lengths squared of what counts.
    squares: Vec<f64>,
    /// The lengths squared of all that is as fast, answered or not.
    fast: Vec<f64>,
}

impl Wobble {
    /// Wobble of the position; none for a run that is too short, or too coarse to hold shake.
    pub fn of_position(run: &Run, counts: Counts) -> Option<Wobble> {
        Wobble::of(run, counts, run.poses.iter().map(|p| p.position).collect())
    }

    /// Wobble of the rotation: the course is the sum of the camera's turns in the world.
    pub fn of_rotation(run: &Run, counts: Counts) -> Option<Wobble> {
        let turns = run.poses.windows(2).map(|w| shorter_turn(w[1].rotation * w[0].rotation.conjugate()));
        let summed = turns.scan(DVec3::ZERO, |sum, turn| {
            *sum += turn;
            Some(*sum)
        });
        Wobble::of(run, counts, std::iter::once(DVec3::ZERO).chain(summed).collect())
    }

    fn of(run: &Run, counts: Counts, course: Vec<DVec3>) -> Option<Wobble> {
        let rate_hz = run.rate_hz;
        let length_s = run.poses.len().saturating_sub(1) as f64 / rate_hz;
        if rate_hz <= 2.0 * counts.whole_hz || length_s < SHORTEST_S - 1e-9 {
            return None;
        }
        // Second differences, the first of them at the second pose.
        let mut push: Vec<DVec3> = course.windows(3).map(|w| (w[2] - w[1]) - (w[1] - w[0])).collect();
        let shares = answered(&push, rate_hz, counts.answered_s);
        push.iter_mut().zip(shares).for_each(|(push, share)| *push *= share);
        let shaken = Filtered { rate_hz, counts, twice: true }.of(&push);
        let fast = Filtered { rate_hz, counts, twice: false }.of(&joined(&course));
        let margin = (length_s / 4.0).clamp(counts.edge_s / 2.0, counts.edge_s);
        let margin = (margin * rate_hz).round() as usize;
        let counted = margin..(course.len() - margin).max(margin + 1);
        Some(Wobble {
            first: counted.start,
            rate_hz,
            // What was integrated begins at the second pose.
            squares: counted.clone().map(|i| shaken[i - 1].length_squared()).collect(),
            fast: counted.map(|i| fast[i].length_squared()).collect(),
        })
    }

    /// The figures of several runs together.
    pub fn shake(all: &[(&Run, Wobble)]) -> Option<ShakeFigure> {
        let seconds: Vec<(f64, f64)> = all
            .iter()
            .flat_map(|(run, w)| w.by_second().map(|(pose, mean)| (run.time_of(pose), mean)))
            .collect();
        let (worst_at_s, worst) = seconds.iter().copied().max_by(|a, b| a.1.total_cmp(&b.1))?;
        let mean = seconds.iter().map(|(_, mean)| mean).sum::<f64>() / seconds.len() as f64;
        Some(ShakeFigure { whole: mean.sqrt(), worst_second: worst.sqrt(), worst_at_s })
    }

    /// How far the camera is from its course at each pose that counts, with the place of that pose in
    /// its run.
    pub fn by_pose(&self) -> impl Iterator<Item = (usize, f64)> {
        self.squares.iter().enumerate().map(|(i, square)| (self.first + i, square.sqrt()))
    }

    /// Mean squares over the second around each pose that has one, or over all there is, with the
    /// place of that pose in its run.
    pub fn by_second(&self) -> impl Iterator<Item = (usize, f64)> {
        let window = (self.rate_hz.round() as usize).clamp(1, self.squares.len());
        let sums = |squares: &[f64]| -> Vec<f64> {
            let mut sums = Vec::with_capacity(squares.len() + 1);
            sums.push(0.0);
            for square in squares {
                sums.push(sums[sums.len() - 1] + square);
            }
            sums
        };
        let (counted, fast) = (sums(&self.squares), sums(&self.fast));
        let middle = self.first + window / 2;
        (0..=self.squares.len() - window).map(move |i| {
            let mean = |sums: &[f64]| (sums[i + window] - sums[i]).max(0.0) / window as f64;
            (middle + i, mean(&counted).min(mean(&fast)))
        })
    }
}

/// Share of each acceleration that counts, 0 to 1: see the module.
fn answered(push: &[DVec3], rate_hz: f64, within_s: f64) -> Vec<f64> {
    let mut columns = columns(push.iter().copied());
    under_bell(&mut columns, BELL_S * rate_hz);
    let [x, y, z] = columns.try_into().expect("there are three");
    let n = push.len();
    let (mut before, mut after) = (vec![0.0_f64; n], vec![0.0_f64; n]);
    let longest = (within_s * rate_hz).round() as usize;
    let stride = longest.div_ceil(MOST_LAGS).max(1);
    for lag in (1..=longest.min(n.saturating_sub(1))).step_by(stride) {
        let kept = n - lag;
        let earlier = x[..kept].iter().zip(&y[..kept]).zip(&z[..kept]);
        let later = x[lag..].iter().zip(&y[lag..]).zip(&z[lag..]);
        let sides = after[..kept].iter_mut().zip(&mut before[lag..]);
        for ((((ax, ay), az), ((bx, by), bz)), (after, before)) in earlier.zip(later).zip(sides) {
            let against = -(ax * bx + ay * by + az * bz);
            *after = if against > *after { against } else { *after };
            *before = if against > *before { against } else { *before };
        }
    }
    let counts = |i: usize| {
        let own = x[i] * x[i] + y[i] * y[i] + z[i] * z[i];
        if own > 0.0 { (2.0 * before[i].min(after[i]) / own).min(1.0).powi(2) } else { 0.0 }
    };
    (0..n).map(counts).collect()
}

/// A course without the straight line from its first to its last place.
fn joined(course: &[DVec3]) -> Vec<DVec3> {
    let (first, last) = (course[0], course[course.len() - 1]);
    let share = |i: usize| i as f64 / (course.len() - 1) as f64;
    course.iter().enumerate().map(|(i, place)| *place - first.lerp(last, share(i))).collect()
}

/// An edge without a corner: 0 up to 0, 1 from 1 on.
fn faded(share: f64) -> f64 {
    if share >= 1.0 { 1.0 } else { 0.5 - 0.5 * (PI * share.max(0.0)).cos() }
}

/// High-pass filter for vectors that follow one another evenly.
struct Filtered {
    rate_hz: f64,
    counts: Counts,
    /// The vectors are second differences, and added up twice.
    twice: bool,
}

impl Filtered {
    /// Pushes are continued at both ends by their mirror image, so that a steady swing does not seem to
    /// begin there; courses, which begin and end at nothing, by their mirror image turned round, so that
    /// they go on as quickly as they were.
    fn of(&self, vectors: &[DVec3]) -> Vec<DVec3> {
        let (rate_hz, n) = (self.rate_hz, vectors.len());
        let pad = n.min((4.0 * rate_hz) as usize);
        let padded = smooth_length(n + 2 * pad);
        let (forth, back) = real_transforms(padded);
        let gain = |k: usize| {
            let hz = k as f64 * rate_hz / padded as f64;
            let Counts { from_hz, whole_hz, .. } = self.counts;
            if hz <= from_hz {
                return 0.0;
            }
            let edge = faded((hz - from_hz) / (whole_hz - from_hz));
            // Exactly what second differences make of a wave of this length.
            let differences =
                if self.twice { -(2.0 * (PI * k as f64 / padded as f64).sin()).powi(2) } else { 1.0 };
            edge / differences / padded as f64
        };
        let gains: Vec<f64> = (0..padded / 2 + 1).map(gain).collect();
        let mut out = vec![DVec3::ZERO; n];
        let (mut wave, mut spectrum) = (forth.make_input_vec(), forth.make_output_vec());
        let turned = if self.twice { 1.0 } else { -1.0 };
        for axis in 0..3 {
            wave.fill(0.0);
            wave[pad..pad + n].iter_mut().zip(vectors).for_each(|(value, v)| *value = v[axis]);
            // The ends fade out over the mirrored part.
            for k in 0..pad {
                let fade = turned * faded(1.0 - (k as f64 + 0.5) / pad as f64);
                wave[pad - 1 - k] = fade * vectors[k][axis];
                wave[pad + n + k] = fade * vectors[n - 1 - k][axis];
            }
            forth.process(&mut wave, &mut spectrum).expect("buffers are of the planned lengths");
            spectrum.iter_mut().zip(&gains).for_each(|(bin, gain): (&mut Complex64, _)| *bin *= gain);
            back.process(&mut spectrum, &mut wave).expect("buffers are of the planned lengths");
            out.iter_mut().zip(&wave[pad..]).for_each(|(place, value)| place[axis] = *value);
        }
        out
    }
}
