//! Outlines of solids from above, for the plan.

use crate::solid::{Shape, Solid};
use glam::DVec3;

/// A flat outline for the plan: the solids' footprints, seen from above.
pub fn footprint(solid: &Solid) -> Vec<[f64; 2]> {
    let half = solid.body.shape.half();
    let round = matches!(solid.body.shape, Shape::Cylinder { .. } | Shape::Ball { .. });
    let corner = |p: DVec3| {
        let p = solid.pose.position + solid.pose.rotation * p;
        [p.x, p.z]
    };
    if round {
        return (0..24)
            .map(|i| f64::from(i) / 24.0 * std::f64::consts::TAU)
            .map(|a| corner(DVec3::new(a.cos() * half.x, 0.0, a.sin() * half.z)))
            .collect();
    }
    let corners: Vec<[f64; 2]> =
        (0..8).map(|i| corner(DVec3::new(sign(i & 1), sign(i & 2), sign(i & 4)) * half)).collect();
    convex_hull(corners)
}

fn sign(bit: i32) -> f64 {
    if bit == 0 { -1.0 } else { 1.0 }
}

/// The smallest convex outline around points. Andrew's monotone chain (Inf. Proc. Lett. 9(5), 1979).
pub fn convex_hull(mut points: Vec<[f64; 2]>) -> Vec<[f64; 2]> {
    points.sort_by(|a, b| a[0].total_cmp(&b[0]).then(a[1].total_cmp(&b[1])));
    let half = |points: &mut dyn Iterator<Item = &[f64; 2]>| {
        let mut chain: Vec<[f64; 2]> = Vec::new();
        for p in points {
            while let [.., a, b] = chain[..] {
                let turn = (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);
                if turn > 1e-12 {
                    break;
                }
                chain.pop();
            }
            chain.push(*p);
        }
        chain.pop();
        chain
    };
    let mut hull = half(&mut points.iter());
    hull.extend(half(&mut points.iter().rev()));
    hull
}
