//! Knocks and jumps.
//!
//! **What it is** (a construction of our own, no source). A *knock* goes and comes back: what the figure of
//! shake counts of it, of what is answered within a fifth of a second, is more than 6 times what it counts
//! around it, and more than 4 mm or 0.2°. So a handheld take has none for being handheld, and a quick clean
//! stroke none for being quick. A *jump* is a
//! step from one sample to the next that stands out from the three before and after it by more than the
//! largest of them, 3 mm or 0.1°, and 9 times what is usual around it.

use super::{Found, Look, Seen, under_bell};
use crate::measures::knocks;
use crate::space::shorter_turn;
use glam::DVec3;

pub(super) struct Jolt;

/// Units of position and rotation, with the least knock and the least jump.
const PARTS: [(&str, f64, f64); 2] = [("cm", 0.4, 0.3), ("°", 0.2, 0.1)];
/// Factors over the usual amount from which it is a knock, and a jump.
const OVER: [f64; 2] = [6.0, 9.0];
/// Time before and after over which the usual amount is the median, seconds.
const USUAL_S: f64 = 2.0;
/// Time between two looks for the usual amount, seconds.
const EVERY_S: f64 = 0.25;
/// Samples before and after a step that it is compared with.
const BESIDE: usize = 3;
/// Bells that are tried, seconds.
const BELLS_S: [f64; 5] = [0.05, 0.1, 0.2, 0.4, 0.8];

/// Amounts sample by sample, and what would be too much there.
struct Signal {
    amounts: Vec<f64>,
    usual: Vec<f64>,
    stride: usize,
    least: f64,
    over: f64,
}

impl Signal {
    fn of(amounts: Vec<f64>, least: f64, over: f64, rate_hz: f64) -> Signal {
        let stride = ((EVERY_S * rate_hz) as usize).max(1);
        let reach = (USUAL_S * rate_hz) as usize;
        let median = |middle: usize| {
            let around = &amounts[middle.saturating_sub(reach)..(middle + reach).min(amounts.len())];
            // Every third is as good.
            let mut some: Vec<f64> = around.iter().copied().step_by(3).collect();
            let half = some.len() / 2;
            if some.is_empty() { 0.0 } else { *some.select_nth_unstable_by(half, f64::total_cmp).1 }
        };
        let usual = (0..amounts.len().div_ceil(stride).max(1)).map(|k| median(k * stride)).collect();
        Signal { amounts, usual, stride, least, over }
    }

    fn too_much(&self, i: usize) -> f64 {
        self.least.max(self.over * self.usual[i / self.stride])
    }
}

/// Amounts of knocks and jumps of position and rotation, in that order, sample by sample.
fn amounts(seen: &Seen) -> [Vec<f64>; 4] {
    let knocks = knocks(&seen.track, &seen.motion.cuts);
    let of = |part: usize| knocks.iter().map(|w| w[part]).collect::<Vec<f64>>();
    let steps = |between: &dyn Fn(usize) -> DVec3| {
        let mut out = vec![0.0; seen.track.points.len()];
        for run in seen.motion.stretches() {
            let steps: Vec<DVec3> = (run.start + 1..run.end).map(between).collect();
            for (k, around) in steps.windows(2 * BESIDE + 1).enumerate() {
                let beside = || around.iter().enumerate().filter(|(j, _)| *j != BESIDE).map(|(_, s)| *s);
                let mean = beside().sum::<DVec3>() / (2 * BESIDE) as f64;
                let off = (around[BESIDE] - mean).length();
                let fastest = beside().map(DVec3::length).fold(0.0, f64::max);
                out[run.start + k + BESIDE] = if off > fastest { off } else { 0.0 };
            }
        }
        out
    };
    let points = &seen.track.points;
    let moved = steps(&|i| 100.0 * (points[i].position - points[i - 1].position));
    let turned = steps(&|i| {
        let turn = points[i].pose().rotation * points[i - 1].pose().rotation.conjugate();
        shorter_turn(turn) * 1f64.to_degrees()
    });
    [of(0), of(1), moved, turned]
}

impl Look for Jolt {
    fn find(&self, seen: &Seen) -> Vec<Found> {
        let mut all: Vec<(f64, Found)> = Vec::new();
        for (of, amounts) in amounts(seen).into_iter().enumerate() {
            let (_, knock, jump) = PARTS[of % 2];
            let (least, over) = if of < 2 { (knock, OVER[0]) } else { (jump, OVER[1]) };
            let signal = Signal::of(amounts, least, over, seen.rate_hz());
            for (from_s, to_s, most) in seen.stretches(&signal.amounts, &|i| signal.too_much(i)) {
                let (amount, bound) = (signal.amounts[most], signal.too_much(most));
                let unit = PARTS[of % 2].0;
                let word = if of < 2 { "a knock" } else { "a jump" };
                let gap = if unit == "°" { "" } else { " " };
                let what = format!("{word} of {amount:.1}{gap}{unit}");
                let remedies = BELLS_S.map(|sigma_s| under_bell(sigma_s, false, from_s, to_s)).into();
                all.push((amount / bound, Found { what, from_s, to_s, unit, amount, bound, of, remedies }));
            }
        }
        // One knock is felt in several ways: the one that stands out the most is told.
        all.sort_by(|a, b| b.0.total_cmp(&a.0));
        let mut told: Vec<Found> = Vec::new();
        for (_, found) in all {
            let apart = |other: &Found| {
                found.to_s + super::APART_S < other.from_s || other.to_s + super::APART_S < found.from_s
            };
            if told.iter().all(apart) {
                told.push(found);
            }
        }
        told.sort_by(|a, b| a.from_s.total_cmp(&b.from_s));
        told
    }

    fn amount(&self, found: &Found, seen: &Seen) -> f64 {
        let amounts = &amounts(seen)[found.of];
        let edge = super::APART_S / 2.0;
        amounts[seen.samples(found.from_s - edge, found.to_s + edge)].iter().copied().fold(0.0, f64::max)
    }
}
