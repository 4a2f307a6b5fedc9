//! Reference points at the samples of moves, worked out once: everything that goes by somebody asks for
//! them again and again, and a whole figure is posed to know them.

use super::{CastMotion, Points};
use crate::time::SAMPLE_RATE_HZ;
use std::sync::OnceLock;

/// A performer in a performance, whose points at samples are kept.
#[derive(Debug)]
pub(crate) struct Played {
    /// Motion of the performer.
    pub moves: CastMotion,
    /// Points that are known, a cell per second.
    seconds: Box<[OnceLock<Box<[Points]>>]>,
}

/// Longest time with a cell, seconds; later points are worked out every time.
const LONGEST_S: usize = 3600;
/// Samples of a second.
const SECOND: usize = SAMPLE_RATE_HZ as usize;

impl Played {
    pub fn new(moves: CastMotion) -> Played {
        Played { moves, seconds: (0..LONGEST_S).map(|_| OnceLock::new()).collect() }
    }

    /// Points at a time, as [`CastMotion::points`] gives them.
    pub fn points(&self, time_s: f64) -> Points {
        let sample = (time_s * SAMPLE_RATE_HZ).round();
        if sample < 0.0 || sample / SAMPLE_RATE_HZ != time_s {
            return self.moves.points(time_s);
        }
        let (second, within) = (sample as usize / SECOND, sample as usize % SECOND);
        let Some(known) = self.seconds.get(second) else { return self.moves.points(time_s) };
        let at = |k: usize| self.moves.points((second * SECOND + k) as f64 / SAMPLE_RATE_HZ);
        known.get_or_init(|| (0..SECOND).map(at).collect())[within]
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::ids::{PerformanceId, PerformerId};
    use crate::performer::{Clips, Part, PartMotion, Performer, Posture, Route, Waypoint};

    #[test]
    fn known_points_are_the_points_to_the_bit() {
        let at = |time_s: f64, x: f64| Waypoint {
            time_s,
            stop_s: 0.0,
            position: [x, 0.0, -3.0],
            facing_deg: None,
            posture: Posture::Stand,
            mark: None,
        };
        let route = Route { waypoints: vec![at(0.0, -4.0), at(9.0, 4.0)].into() };
        let parts =
            vec![Part { performance: PerformanceId(1), rides: None, motion: PartMotion::Walks { route } }];
        let walker =
            Performer { id: PerformerId(1), name: "walker".into(), height_m: 1.75, build: 1.0, parts };
        let moves = walker.compile(PerformanceId(1), &Clips::new()).unwrap();
        let played = Played::new(moves.clone());
        for _ in 0..2 {
            for k in 0..1500 {
                for time_s in [f64::from(k) / SAMPLE_RATE_HZ, f64::from(k) * 0.01 + 0.003] {
                    assert_eq!(played.points(time_s), moves.points(time_s), "{time_s}");
                }
            }
        }
        for time_s in [-1.0, 3600.5, f64::NAN] {
            assert_eq!(played.points(time_s).feet.x.is_nan(), moves.points(time_s).feet.x.is_nan());
        }
    }
}
