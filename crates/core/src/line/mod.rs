//! A line in space that something runs along: rails, dolly track, bent rail.
//!
//! A line is a chain of spans, each parametrised by arc length from its own start. Straight and
//! curved track have closed lengths; a cubic span has none, so its length is integrated (see
//! [`cubic`]).

pub mod cubic;
mod ride;
pub mod spline;

pub use cubic::Cubic;
pub use ride::{Rough, ride_quality};

use glam::{DVec2, DVec3};

/// A piece of a line.
#[derive(Clone, Debug, PartialEq)]
pub enum Span {
    /// From one point to another.
    Straight {
        /// Start of the span.
        from: DVec3,
        /// End point of the span.
        to: DVec3,
    },
    /// Round a vertical through `centre`, rising evenly: a helix.
    Arc {
        /// Middle of the circle, at the height of the start.
        centre: DVec3,
        /// From the middle to the start, level.
        spoke: DVec2,
        /// Turned on the way, positive to the right seen from above, radians.
        turn: f64,
        /// Risen on the way.
        rise: f64,
    },
    /// Cubic curve between the ends.
    Bent(Box<Cubic>),
}

/// Place and direction on a line.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Place {
    /// Position, metres.
    pub position: DVec3,
    /// Direction of the line there, a unit vector.
    pub tangent: DVec3,
    /// How the tangent turns, per metre: towards the middle of the bend, 1 / radius long.
    pub curvature: DVec3,
}

impl Span {
    /// Metres along it.
    pub fn length(&self) -> f64 {
        match self {
            Span::Straight { from, to } => from.distance(*to),
            Span::Arc { spoke, turn, rise, .. } => (spoke.length() * turn).hypot(*rise),
            Span::Bent(cubic) => cubic.length(),
        }
    }

    fn at(&self, travel: f64) -> Place {
        match self {
            Span::Straight { from, to } => {
                let tangent = (*to - *from).normalize_or(DVec3::NEG_Z);
                Place { position: *from + tangent * travel, tangent, curvature: DVec3::ZERO }
            }
            Span::Arc { centre, spoke, turn, rise } => {
                let length = self.length();
                let share = travel / length;
                // Seen from above with z down, a turn to the right is a positive rotation.
                let now = DVec2::from_angle(turn * share).rotate(*spoke);
                let ahead = now.perp() * (turn / length);
                Place {
                    position: *centre + DVec3::new(now.x, rise * share, now.y),
                    tangent: DVec3::new(ahead.x, rise / length, ahead.y),
                    curvature: DVec3::new(now.x, 0.0, now.y) * -(turn / length).powi(2),
                }
            }
            Span::Bent(cubic) => cubic.at(travel),
        }
    }
}

/// A chain of spans, open or closed.
#[derive(Clone, Debug, PartialEq)]
pub struct Line {
    spans: Vec<Span>,
    /// Distances at which spans begin, and the whole length, metres.
    starts: Vec<f64>,
    closed: bool,
}

impl Line {
    /// A chain. Spans without length are left out.
    ///
    /// # Panics
    /// If nothing is left.
    pub fn new(spans: Vec<Span>, closed: bool) -> Line {
        let spans: Vec<Span> = spans.into_iter().filter(|s| s.length() > 1e-9).collect();
        assert!(!spans.is_empty(), "a line has a length");
        let mut starts = vec![0.0];
        starts.extend(spans.iter().scan(0.0, |sum, s| {
            *sum += s.length();
            Some(*sum)
        }));
        Line { spans, starts, closed }
    }

    /// Metres from its start to its end, or once round.
    pub fn length(&self) -> f64 {
        self.starts[self.spans.len()]
    }

    /// True if the line ends where it begins.
    pub fn closed(&self) -> bool {
        self.closed
    }

    /// Distances at which spans begin, then the whole length, metres.
    pub fn starts(&self) -> &[f64] {
        &self.starts
    }

    /// Where `travel` metres lead. A closed line goes round; an open one goes straight on past
    /// its ends.
    pub fn at(&self, travel: f64) -> Place {
        let whole = self.length();
        let on = if self.closed { travel.rem_euclid(whole) } else { travel.clamp(0.0, whole) };
        let i = self.starts[1..self.spans.len()].partition_point(|s| *s <= on);
        let place = self.spans[i].at(on - self.starts[i]);
        let past = if self.closed { 0.0 } else { travel - on };
        Place { position: place.position + place.tangent * past, ..place }
    }

    /// The travel whose place is best, `away` being a distance of some kind from what is wanted:
    /// a vector that is to become short. Coarse steps first, then Gauss–Newton from the best.
    pub fn nearest(&self, away: impl Fn(f64) -> DVec3) -> f64 {
        let whole = self.length();
        let bound = |t: f64| if self.closed { t.rem_euclid(whole) } else { t.clamp(0.0, whole) };
        let count = (whole / 0.05).ceil().clamp(64.0, 4000.0) as usize;
        let cost = |t: f64| away(t).length_squared();
        let coarse = (0..=count).map(|i| whole * i as f64 / count as f64);
        let mut best = coarse.min_by(|a, b| cost(*a).total_cmp(&cost(*b))).expect("at least 65");
        let mut step_m = whole / count as f64;
        for _ in 0..80 {
            let h = 1e-6;
            let r = away(best);
            let slope = (away(best + h) - away(best - h)) / (2.0 * h);
            let newton = -r.dot(slope) / slope.length_squared().max(1e-18);
            let next = bound(best + newton.clamp(-step_m, step_m));
            if cost(next) < r.length_squared() {
                best = next;
            } else {
                // Past the lowest point of a curved valley: shorter steps.
                step_m /= 4.0;
            }
            if step_m < 1e-13 || newton.abs() < 1e-14 {
                break;
            }
        }
        best
    }

    /// Points along it, at most `step_m` apart.
    pub fn points(&self, step_m: f64) -> Vec<DVec3> {
        let count = (self.length() / step_m).ceil().clamp(1.0, 20_000.0) as usize;
        (0..=count).map(|i| self.at(self.length() * i as f64 / count as f64).position).collect()
    }
}
