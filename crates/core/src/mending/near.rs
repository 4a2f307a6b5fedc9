//! A lens that comes too near to what stands around, or to somebody.

use super::{Found, Look, Seen};
use crate::treatments::{Correction, CorrectionKey, Treatment, TreatmentKind};
use crate::walls::CLEAR_M;
use glam::DVec3;

pub(super) struct Near;

/// How wide somebody is around the line from their feet to their eyes, metres: shoulders and a step.
const BODY_M: f64 = 0.3;
/// Looked at so often, times a second.
const LOOKED_HZ: f64 = 30.0;
/// Further away than what is short, metres.
const MORE_M: f64 = 0.01;
/// Factors on the shortfall by which the camera is moved, mildest first.
const TIMES: [f64; 3] = [1.0, 1.5, 2.5];
/// Time of the way there, and of the way back, seconds.
const BLEND_S: f64 = 1.0;

/// How near the lens is at a sample.
struct Nearest {
    /// Metres to what is nearest; less than 0 is inside of somebody.
    away_m: f64,
    /// Direction away from the obstacle.
    outwards: DVec3,
    /// Somebody, by their place among all.
    who: Option<usize>,
}

fn nearest(seen: &Seen, sample: usize) -> Option<Nearest> {
    let point = &seen.track.points[sample];
    let walls = seen.around.walls.iter().map(|wall| {
        let away = wall.away(point.position);
        Nearest { away_m: away.length(), outwards: away.normalize_or_zero(), who: None }
    });
    let people = seen.around.people.at(point.time_s).enumerate().map(|(i, (_, somebody))| {
        let upright = somebody.eyes - somebody.feet;
        let share = (point.position - somebody.feet).dot(upright) / upright.length_squared().max(1e-9);
        let away = point.position - (somebody.feet + upright * share.clamp(0.0, 1.0));
        Nearest { away_m: away.length() - BODY_M, outwards: away.normalize_or_zero(), who: Some(i) }
    });
    walls.chain(people).min_by(|a, b| a.away_m.total_cmp(&b.away_m))
}

/// Shortfall of clearance at every look from one sample to another, metres.
fn short(seen: &Seen, samples: std::ops::RangeInclusive<usize>) -> Vec<(usize, f64)> {
    let looked = samples.step_by(seen.stride(LOOKED_HZ));
    looked.map(|i| (i, nearest(seen, i).map_or(0.0, |n| (CLEAR_M - n.away_m).max(0.0)))).collect()
}

impl Look for Near {
    fn find(&self, seen: &Seen) -> Vec<Found> {
        let mut amounts = vec![0.0; seen.track.points.len()];
        for (i, short) in short(seen, 0..=amounts.len() - 1) {
            amounts[i] = short;
        }
        let found = seen.stretches(&amounts, &|_| 1e-6).into_iter().filter_map(|(from_s, to_s, most)| {
            let near = nearest(seen, most)?;
            let whom =
                near.who.map_or("what stands there".into(), |i| (seen.around.name)(seen.around.people.id(i)));
            let cm = 100.0 * near.away_m;
            let what = match cm {
                ..=0.0 => format!("the lens goes into {whom}"),
                _ => format!("the lens is {cm:.0} cm from {whom}"),
            };
            let aside = |times: f64| moved(near.outwards * (times * amounts[most] + MORE_M), from_s, to_s);
            // From inside a wall there is no telling which way is out.
            let out = near.outwards != DVec3::ZERO;
            let remedies = if out { TIMES.map(aside).into() } else { Vec::new() };
            let amount = 100.0 * amounts[most];
            Some(Found { what, from_s, to_s, unit: "cm too near", amount, bound: 0.0, of: 0, remedies })
        });
        found.collect()
    }

    fn amount(&self, found: &Found, seen: &Seen) -> f64 {
        let around = seen.samples(found.from_s - BLEND_S, found.to_s + BLEND_S);
        100.0 * short(seen, around).into_iter().map(|(_, short)| short).fold(0.0, f64::max)
    }
}

/// The camera moved aside from a time to another one.
fn moved(by: DVec3, from_s: f64, to_s: f64) -> Treatment {
    let key = |at_s: f64| CorrectionKey { at_s, move_cm: (100.0 * by).to_array(), turn_deg: [0.0; 3] };
    let keys = if to_s - from_s > 0.1 { vec![key(from_s), key(to_s)] } else { vec![key(from_s)] };
    TreatmentKind::Correction(Correction { keys, pins: Vec::new(), blend_s: BLEND_S }).into()
}
