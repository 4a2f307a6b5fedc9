//! How a line rides: what a carriage that runs along it evenly is pushed sideways, and how
//! suddenly.
//!
//! At 1 m/s the push is the curvature (m/s²) and its change the derivative of the curvature along
//! the line (m/s³). Rough is more than 1 m/s³ at that pace: about where passengers of a train
//! notice (from memory, no source).

use super::Line;

/// Above this a change of curvature is felt, per metre squared.
const FELT: f64 = 1.0;
/// How far apart the curvature is looked at.
const STEP_M: f64 = 0.05;

/// A place where a line jerks.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Rough {
    /// Where.
    pub travel_m: f64,
    /// Change of curvature there, per metre squared: m/s³ at 1 m/s.
    pub jerk: f64,
}

/// The largest curvature (1/m), the largest change of curvature (1/m²), and the places where
/// that is felt, worst of each neighbourhood.
pub fn ride_quality(line: &Line) -> (f64, f64, Vec<Rough>) {
    let whole = line.length();
    let count = (whole / STEP_M).ceil().clamp(8.0, 4000.0) as usize;
    let step = whole / count as f64;
    let bend = |i: usize| line.at((step * i as f64).min(whole - 1e-9)).curvature;
    let bends: Vec<_> = (0..=count).map(bend).collect();
    let sharpest = bends.iter().map(|c| c.length()).fold(0.0, f64::max);
    let jerks: Vec<f64> = bends.windows(2).map(|w| (w[1] - w[0]).length() / step).collect();
    let worst = jerks.iter().copied().fold(0.0, f64::max);
    let mut rough: Vec<Rough> = Vec::new();
    for (i, jerk) in jerks.iter().enumerate().filter(|(_, j)| **j > FELT) {
        let here = Rough { travel_m: step * (i as f64 + 0.5), jerk: *jerk };
        match rough.last_mut() {
            Some(last) if here.travel_m - last.travel_m < 0.5 => {
                if here.jerk > last.jerk {
                    *last = here;
                }
            }
            _ => rough.push(here),
        }
    }
    (sharpest, worst, rough)
}
