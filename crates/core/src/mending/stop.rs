//! A camera that stands still in the middle of its move.

use super::{Found, Look, Seen, around};
use crate::measures::dead_stops;
use crate::treatments::{Drift, TreatmentKind};

pub(super) struct Stop;

/// How much time before and after a stop is tried to be taken, seconds.
const REACHES_S: [f64; 3] = [0.4, 0.8, 1.6];
/// How softly that comes and goes, seconds.
const EDGE_S: f64 = 0.4;

impl Look for Stop {
    fn find(&self, seen: &Seen) -> Vec<Found> {
        let stops = dead_stops(&seen.track, &seen.motion.cuts).into_iter();
        stops
            .map(|stop| {
                let remedy = |reach_s: f64| {
                    let kind = TreatmentKind::Drift(Drift { reach_s, ..Drift::default() });
                    around(kind, stop.from_s - reach_s - EDGE_S, stop.to_s + reach_s + EDGE_S, EDGE_S)
                };
                Found {
                    what: format!("the camera stands still for {:.1} s", stop.length_s()),
                    from_s: stop.from_s,
                    to_s: stop.to_s,
                    unit: "s",
                    amount: stop.length_s(),
                    bound: 0.0,
                    of: 0,
                    remedies: REACHES_S.map(remedy).into(),
                }
            })
            .collect()
    }

    fn amount(&self, found: &Found, seen: &Seen) -> f64 {
        let stops = dead_stops(&seen.track, &seen.motion.cuts);
        let within = |from_s: f64, to_s: f64| to_s.min(found.to_s) - from_s.max(found.from_s);
        stops.iter().map(|s| within(s.from_s, s.to_s).max(0.0)).sum::<f64>().abs()
    }
}
