//! A smooth line through a few points.
//!
//! **Method.** The cubic spline that is twice continuously differentiable by the chord length
//! between the points: `CubicSpline` of SciPy with `bc_type` "natural" for an open line and
//! "periodic" for a closed one. A point may have its own tangent; the spline is then only once
//! differentiable there, which is what pulling on a tangent does to a rail. The equations for the
//! tangents are diagonally dominant, so Gauss–Seidel sweeps settle them.

use super::{Cubic, Line, Span};
use glam::DVec3;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A point a rail is bent through.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct RailPoint {
    /// Metres.
    pub position: [f64; 3],
    /// Which way the rail runs there and how far that carries, metres of tangent for a metre of
    /// chord; found by itself where missing.
    #[serde(default)]
    pub tangent: Option<[f64; 3]>,
}

impl RailPoint {
    /// A point whose tangent is found.
    pub fn at(position: [f64; 3]) -> RailPoint {
        RailPoint { position, tangent: None }
    }
}

/// The derivative by chord length at each point.
pub fn tangents(points: &[RailPoint], closed: bool) -> Vec<DVec3> {
    let n = points.len();
    let p: Vec<DVec3> = points.iter().map(|p| DVec3::from(p.position)).collect();
    let chord = |i: usize| p[i % n].distance(p[(i + 1) % n]).max(1e-9);
    let slope = |i: usize| (p[(i + 1) % n] - p[i % n]) / chord(i);
    let given = |i: usize| points[i].tangent.map(DVec3::from);
    let mut m: Vec<DVec3> = (0..n)
        .map(|i| given(i).unwrap_or_else(|| slope(if closed || i + 1 < n { i } else { i - 1 })))
        .collect();
    // Each sweep halves what is wrong at least; the bound is for points on top of each other.
    for _ in 0..200 {
        let mut changed = 0.0_f64;
        for i in (0..n).filter(|i| given(*i).is_none()) {
            let inner = closed || (i > 0 && i + 1 < n);
            let new = if inner {
                let before = (i + n - 1) % n;
                let (a, b) = (chord(before), chord(i));
                let known = 3.0 * (slope(before) * b + slope(i) * a);
                (known - m[before] * b - m[(i + 1) % n] * a) / (2.0 * (a + b))
            } else if i == 0 {
                (3.0 * slope(0) - m[1]) / 2.0
            } else {
                (3.0 * slope(n - 2) - m[n - 2]) / 2.0
            };
            changed = changed.max(new.distance(m[i]));
            m[i] = new;
        }
        if changed < 1e-15 {
            break;
        }
    }
    m
}

/// The line through the points.
///
/// # Panics
/// With fewer than two different points.
pub fn through(points: &[RailPoint], closed: bool) -> Line {
    let n = points.len();
    let m = tangents(points, closed);
    let spans = (0..if closed { n } else { n - 1 }).map(|i| {
        let [from, to] = [i, (i + 1) % n].map(|k| DVec3::from(points[k].position));
        let chord = from.distance(to);
        Span::Bent(Box::new(Cubic::hermite(from, m[i] * chord, to, m[(i + 1) % n] * chord)))
    });
    Line::new(spans.collect(), closed)
}

/// Points for a circle round a middle.
pub fn circle(middle: [f64; 3], radius: f64, count: usize) -> Vec<RailPoint> {
    let place = |i: usize| {
        let a = std::f64::consts::TAU * i as f64 / count as f64;
        let [x, y, z] = middle;
        RailPoint::at([x + radius * a.sin(), y, z - radius * a.cos()])
    };
    (0..count).map(place).collect()
}
