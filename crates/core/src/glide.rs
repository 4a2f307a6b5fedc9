//! Going to stored positions: all axes leave together and arrive together, smoothly.
//!
//! **Method.** Between two positions every axis follows the minimum-jerk course of Flash & Hogan,
//! J. Neurosci. 5(7), 1985: 10τ³ − 15τ⁴ + 6τ⁵ of the way, so that its peak speed is 15/8 = 1.875
//! times its mean. Through more positions than two, the way is the monotone cubic interpolation
//! of Fritsch & Butland, SIAM J. Sci. Stat. Comput. 5(2), 1984 (SciPy's `PchipInterpolator`),
//! which never leaves the span between neighbouring positions, run over in the same course.
//!
//! A glide takes the time that is asked for, or the shortest in which no axis exceeds its limits,
//! found by looking at the course densely: speeds fall with the time, accelerations with its
//! square.

use crate::axis::Axis;
use crate::curve::slope::{cubic, minimum_jerk, through};

/// A course from where a machine stands through one or more positions.
#[derive(Clone, Debug, PartialEq)]
pub struct Glide {
    /// From the start on, one row a position.
    rows: Vec<Vec<f64>>,
    /// The slope of each axis at each position, per step from position to position.
    slopes: Vec<Vec<f64>>,
    /// How long it takes.
    pub duration_s: f64,
    /// The axis that would be too fast for what was asked, by its place.
    pub bound_by: Option<usize>,
}

/// How densely a course is looked at, from position to position.
const LOOKS: usize = 200;

impl Glide {
    /// The course of `axes` through `rows`, the first being where they stand; in `wanted_s`, or as
    /// quickly as limits allow. `share` is how much of their top speeds the axes may use.
    pub fn plan(axes: &[Axis], rows: Vec<Vec<f64>>, wanted_s: Option<f64>, share: f64) -> Glide {
        let slopes = slopes(&rows);
        let mut glide = Glide { rows, slopes, duration_s: 1.0, bound_by: None };
        let mut least = 0.05;
        let mut slowest = None;
        for (i, axis) in axes.iter().enumerate() {
            let (speed, push) = glide.hardest(i);
            // A hair of margin for what lies between two looks.
            let needs = (speed / (axis.top_speed * share)).max((push / axis.top_acceleration).sqrt()) * 1.001;
            if needs > least {
                (least, slowest) = (needs, Some(i));
            }
        }
        glide.duration_s = least.max(wanted_s.unwrap_or(0.0));
        glide.bound_by = slowest.filter(|_| wanted_s.is_none_or(|w| w < least));
        glide
    }

    /// Where every axis is at a time.
    pub fn values(&self, time_s: f64) -> Vec<f64> {
        self.at(time_s / self.duration_s)
    }

    fn at(&self, tau: f64) -> Vec<f64> {
        let last = self.rows.len() - 1;
        let place = minimum_jerk(tau) * last as f64;
        let k = (place as usize).min(last.saturating_sub(1));
        (0..self.rows[0].len()).map(|i| self.piece(k, i, place - k as f64)[0]).collect()
    }

    /// An axis on the way from position `k` to the next, with its first and second derivative.
    fn piece(&self, k: usize, i: usize, u: f64) -> [f64; 3] {
        let next = (k + 1).min(self.rows.len() - 1);
        let (a, d) = (self.rows[k][i], self.rows[next][i] - self.rows[k][i]);
        let (m, n) = (self.slopes[k][i], self.slopes[next][i]);
        cubic(a, d, m, n, u)
    }

    /// The largest speed and acceleration of an axis over the whole course, for a duration of 1.
    fn hardest(&self, i: usize) -> (f64, f64) {
        let last = self.rows.len() - 1;
        let (mut speed, mut push) = (0.0_f64, 0.0_f64);
        let mut look = |tau: f64, k: usize| {
            let (p, t) = (last as f64, tau);
            let s = p * minimum_jerk(t);
            let ds = p * 30.0 * t * t * (1.0 - t) * (1.0 - t);
            let dds = p * 60.0 * t * (1.0 - t) * (1.0 - 2.0 * t);
            let [_, first, second] = self.piece(k, i, s - k as f64);
            speed = speed.max((first * ds).abs());
            push = push.max((second * ds * ds + first * dds).abs());
        };
        for k in 0..last {
            // Both ends of every piece: there the acceleration may jump.
            let [from, to] = [k, k + 1].map(|k| time_of(k as f64 / last as f64));
            for j in 0..=LOOKS {
                look(from + (to - from) * j as f64 / LOOKS as f64, k);
            }
        }
        (speed, push)
    }
}

/// The share of time at which a minimum-jerk course is so far along.
fn time_of(share: f64) -> f64 {
    let (mut low, mut high) = (0.0, 1.0);
    for _ in 0..60 {
        let middle = (low + high) / 2.0;
        if minimum_jerk(middle) < share { low = middle } else { high = middle }
    }
    if share >= 1.0 { 1.0 } else { low }
}

/// Monotone slopes at evenly spaced positions. Two positions are joined by a straight line.
fn slopes(rows: &[Vec<f64>]) -> Vec<Vec<f64>> {
    let times: Vec<f64> = (0..rows.len()).map(|k| k as f64).collect();
    let axis = |i: usize| through(&times, &rows.iter().map(|row| row[i]).collect::<Vec<f64>>());
    let axes: Vec<Vec<f64>> = (0..rows[0].len()).map(axis).collect();
    (0..rows.len()).map(|k| axes.iter().map(|slopes| slopes[k]).collect()).collect()
}
