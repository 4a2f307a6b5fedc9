//! What each form is built of, around the middle of its foot.

use super::Tape;
use crate::solid::{Material, Solid, cuboid, post, wedge};

pub(super) fn stair(steps: u32, rise: f64, run: f64, width: f64) -> Vec<Solid> {
    let mut parts: Vec<Solid> = (0..steps)
        .map(|i| {
            let top = f64::from(i + 1) * rise;
            let z = -(f64::from(i) + 0.5) * run;
            cuboid("step", [width, 0.05, run + 0.02], [0.0, top - 0.025, z], Material::Steel)
        })
        .collect();
    let (height, length) = (f64::from(steps) * rise, f64::from(steps) * run);
    let slope = height.atan2(length);
    for x in [-width / 2.0 - 0.03, width / 2.0 + 0.03] {
        for (name, up, thick) in [("stringer", -0.08, 0.22), ("handrail", 0.95, 0.05)] {
            let mut beam = cuboid(
                name,
                [0.05, thick, length.hypot(height)],
                [x, height / 2.0 + up, -length / 2.0],
                Material::DarkSteel,
            );
            beam.pose.rotation = glam::DQuat::from_rotation_x(slope);
            parts.push(beam);
        }
        for i in (0..steps).step_by(4) {
            let (y, z) = (f64::from(i + 1) * rise, -(f64::from(i) + 0.5) * run);
            parts.push(cuboid("baluster", [0.03, 0.95, 0.03], [x, y + 0.45, z], Material::DarkSteel));
        }
    }
    parts
}

pub(super) fn gallery([length, top, depth]: [f64; 3], openings: &[[f64; 2]]) -> Vec<Solid> {
    let mut parts = vec![
        cuboid("deck", [length, 0.14, depth], [0.0, top - 0.07, 0.0], Material::Steel),
        cuboid("beam", [length, 0.24, 0.14], [0.0, top - 0.26, depth / 2.0 - 0.1], Material::DarkSteel),
    ];
    let posts = (length / 4.0).round().max(1.0) as u32;
    for i in 0..=posts {
        let x = -length / 2.0 + 0.1 + (length - 0.2) * f64::from(i) / f64::from(posts);
        parts.push(cuboid(
            "post",
            [0.14, top - 0.14, 0.14],
            [x, (top - 0.14) / 2.0, depth / 2.0 - 0.1],
            Material::DarkSteel,
        ));
    }
    let edge = depth / 2.0 - 0.03;
    let starts = std::iter::once(-length / 2.0).chain(openings.iter().map(|o| o[1]));
    let ends = openings.iter().map(|o| o[0]).chain([length / 2.0]);
    for (a, b) in starts.zip(ends) {
        if b - a < 0.1 {
            continue;
        }
        let middle = (a + b) / 2.0;
        for y in [0.5, 1.0] {
            parts.push(cuboid("railing", [b - a, 0.05, 0.05], [middle, top + y, edge], Material::DarkSteel));
        }
        let count = ((b - a) / 1.6).ceil() as u32;
        for i in 0..=count {
            let x = a + (b - a) * f64::from(i) / f64::from(count);
            parts.push(cuboid("upright", [0.04, 1.0, 0.04], [x, top + 0.5, edge], Material::DarkSteel));
        }
    }
    parts
}

pub(super) fn tram(length: f64, bays: u32, lit: bool) -> Vec<Solid> {
    use Material::{DarkSteel, Glass, LampGlow, LitGlass, Signal, TramCream, TramRed};
    let width = 2.4;
    let pane = if lit { LitGlass } else { Glass };
    let mut parts = vec![
        cuboid("frame", [length - 0.6, 0.36, width - 0.3], [0.0, 0.5, 0.0], DarkSteel),
        cuboid("side", [length, 0.98, width], [0.0, 1.13, 0.0], TramRed),
        cuboid("belt", [length + 0.02, 0.07, width + 0.02], [0.0, 1.62, 0.0], TramCream),
        cuboid("glazing", [length - 0.08, 0.92, width - 0.08], [0.0, 2.1, 0.0], pane),
        cuboid("eaves", [length, 0.3, width], [0.0, 2.69, 0.0], TramCream),
        cuboid("roof", [length - 0.5, 0.14, width - 0.5], [0.0, 2.9, 0.0], DarkSteel),
        cuboid("roof box", [2.4, 0.24, 1.2], [length * 0.12, 3.05, 0.0], Material::Steel),
    ];
    for share in [-0.32, 0.32] {
        let x = share * length;
        parts.push(cuboid("bogie", [2.2, 0.3, 1.9], [x, 0.32, 0.0], DarkSteel));
        for (dx, z) in [(-0.75, -0.72), (0.75, -0.72), (-0.75, 0.72), (0.75, 0.72)] {
            let mut wheel = post("wheel", 0.31, 0.12, [x + dx, 0.31, z], DarkSteel);
            wheel.pose.rotation = glam::DQuat::from_rotation_x(std::f64::consts::FRAC_PI_2);
            parts.push(wheel);
        }
    }
    // Pillars between the bays, on both sides, the end ones also across the fronts.
    for i in 0..=bays {
        let x = -length / 2.0 + length * f64::from(i) / f64::from(bays);
        let inner = x.clamp(-length / 2.0 + 0.1, length / 2.0 - 0.1);
        for z in [-width / 2.0 + 0.045, width / 2.0 - 0.045] {
            parts.push(cuboid("pillar", [0.2, 0.94, 0.06], [inner, 2.1, z], TramRed));
        }
    }
    for end in [-1.0, 1.0] {
        let x = end * (length / 2.0 + 0.01);
        parts.push(cuboid("front pillar", [0.05, 0.94, 0.12], [x - end * 0.03, 2.1, 0.0], TramRed));
        parts.push(cuboid("destination", [0.06, 0.22, 1.1], [x, 2.7, 0.0], Signal));
        parts.push(cuboid("bumper", [0.3, 0.16, 1.7], [x, 0.62, 0.0], DarkSteel));
        for z in [-0.75, 0.75] {
            parts.push(cuboid("headlamp", [0.04, 0.2, 0.2], [x, 1.0, z], if lit { LampGlow } else { Glass }));
        }
    }
    for side in [-1.0, 1.0] {
        parts.push(cuboid(
            "door",
            [1.3, 1.95, 0.05],
            [length * 0.2, 1.55, side * width / 2.0],
            Material::TramCream,
        ));
        parts.push(cuboid("door pane", [1.0, 1.1, 0.06], [length * 0.2, 1.85, side * width / 2.0], pane));
        parts.push(cuboid(
            "step",
            [1.3, 0.06, 0.25],
            [length * 0.2, 0.42, side * (width / 2.0 + 0.05)],
            DarkSteel,
        ));
    }
    parts
}

pub(super) fn workbench(length: f64) -> Vec<Solid> {
    let mut parts = vec![
        cuboid("top", [length, 0.08, 0.8], [0.0, 0.88, 0.0], Material::Timber),
        cuboid("shelf", [length - 0.2, 0.04, 0.7], [0.0, 0.3, 0.0], Material::Timber),
        cuboid("vice", [0.22, 0.2, 0.3], [length * 0.35, 1.02, 0.25], Material::DarkSteel),
        cuboid("toolbox", [0.5, 0.24, 0.26], [-length * 0.28, 1.04, -0.1], Material::TramRed),
        cuboid("crate", [0.6, 0.4, 0.5], [length * 0.1, 0.52, 0.0], Material::Timber),
        cuboid("board", [length, 1.0, 0.04], [0.0, 1.6, -0.4], Material::Timber),
    ];
    for (x, z) in [(-1.0, -1.0), (1.0, -1.0), (-1.0, 1.0), (1.0, 1.0)] {
        parts.push(cuboid(
            "leg",
            [0.08, 0.84, 0.08],
            [x * (length / 2.0 - 0.08), 0.42, z * 0.34],
            Material::DarkSteel,
        ));
    }
    parts
}

/// Pillars in a row along x, the row's middle at the foot.
pub(super) fn pillars(count: u32, spacing: f64, width: f64, height: f64, base: bool) -> Vec<Solid> {
    let first = -f64::from(count - 1) / 2.0 * spacing;
    (0..count)
        .flat_map(|i| {
            let x = first + f64::from(i) * spacing;
            let shaft = cuboid("pillar", [width, height, width], [x, height / 2.0, 0.0], Material::Plaster);
            let guard = [width + 0.2, 0.5, width + 0.2];
            let foot = base.then(|| cuboid("pillar foot", guard, [x, 0.25, 0.0], Material::Signal));
            std::iter::once(shaft).chain(foot)
        })
        .collect()
}

/// A floor on legs, to stand on.
pub(super) fn platform([length, top, depth]: [f64; 3]) -> Vec<Solid> {
    let mut parts = vec![cuboid("deck", [length, 0.06, depth], [0.0, top - 0.03, 0.0], Material::Timber)];
    let skirt = (top - 0.06).max(0.01);
    for z in [-1.0, 1.0] {
        let middle = [0.0, skirt / 2.0, z * (depth / 2.0 - 0.02)];
        parts.push(cuboid("skirt", [length, skirt, 0.03], middle, Material::DarkSteel));
    }
    for x in [-1.0, 1.0] {
        let middle = [x * (length / 2.0 - 0.02), skirt / 2.0, 0.0];
        parts.push(cuboid("skirt", [0.03, skirt, depth - 0.06], middle, Material::DarkSteel));
    }
    parts
}

/// A slope that rises towards −z.
pub(super) fn ramp(size: [f64; 3]) -> Vec<Solid> {
    vec![wedge("ramp", size, [0.0, size[1] / 2.0, 0.0], Material::Timber)]
}

/// A frame, and a leaf that opens towards +z about its left side.
pub(super) fn door(width: f64, height: f64, open_deg: f64) -> Vec<Solid> {
    let bar = 0.06;
    let mut parts = frame(width, height, bar, 0.16, false);
    let leaf = [width - 2.0 * bar, height - bar, 0.045];
    let mut panel = cuboid("leaf", leaf, [0.0; 3], Material::Timber);
    // The hinge is the leaf's own left edge.
    let turned = glam::DQuat::from_rotation_y(-open_deg.to_radians());
    let hinge = glam::DVec3::new(-leaf[0] / 2.0, leaf[1] / 2.0, 0.0);
    panel.pose.position = hinge + turned * glam::DVec3::new(leaf[0] / 2.0, 0.0, 0.0);
    panel.pose.rotation = turned;
    parts.push(panel);
    parts
}

/// A frame around a pane, with a sill.
pub(super) fn window(width: f64, height: f64, lit: bool) -> Vec<Solid> {
    let pane = if lit { Material::LitGlass } else { Material::Glass };
    let mut parts = frame(width, height, 0.06, 0.12, true);
    parts.push(cuboid("pane", [width - 0.1, height - 0.1, 0.02], [0.0, height / 2.0, 0.0], pane));
    parts.push(cuboid("bar", [0.05, height - 0.1, 0.05], [0.0, height / 2.0, 0.0], Material::DarkSteel));
    parts.push(cuboid("sill", [width + 0.24, 0.08, 0.36], [0.0, -0.04, 0.0], Material::Concrete));
    parts
}

fn frame(width: f64, height: f64, bar: f64, depth: f64, closed: bool) -> Vec<Solid> {
    let upright = |x: f64| cuboid("frame", [bar, height, depth], [x, height / 2.0, 0.0], Material::DarkSteel);
    let across =
        |y: f64| cuboid("frame", [width - 2.0 * bar, bar, depth], [0.0, y, 0.0], Material::DarkSteel);
    let mut parts =
        vec![upright(-(width - bar) / 2.0), upright((width - bar) / 2.0), across(height - bar / 2.0)];
    if closed {
        parts.push(across(bar / 2.0));
    }
    parts
}

/// A van or a car, along x; its front towards +x.
pub(super) fn vehicle([length, height, width]: [f64; 3]) -> Vec<Solid> {
    use Material::{DarkSteel, Glass, Machine, Signal, TramCream};
    let wheel_radius = (0.2 * height).min(0.36);
    let floor = wheel_radius;
    let waist = floor + 0.45 * (height - floor);
    let mut parts = vec![
        cuboid("body", [length, waist - floor, width], [0.0, (floor + waist) / 2.0, 0.0], Machine),
        cuboid(
            "cab",
            [0.62 * length, height - waist - 0.06, width - 0.16],
            [-0.08 * length, (waist + height) / 2.0 - 0.03, 0.0],
            Glass,
        ),
        cuboid("roof", [0.58 * length, 0.06, width - 0.2], [-0.08 * length, height - 0.03, 0.0], Machine),
        cuboid("bumper", [0.12, 0.16, width - 0.1], [length / 2.0, floor + 0.1, 0.0], DarkSteel),
    ];
    for (x, z) in [(-0.3, -0.5), (0.3, -0.5), (-0.3, 0.5), (0.3, 0.5)] {
        let middle = [x * length, wheel_radius, z * (width - 0.2)];
        let mut wheel = post("wheel", wheel_radius, 0.2, middle, DarkSteel);
        wheel.pose.rotation = glam::DQuat::from_rotation_x(std::f64::consts::FRAC_PI_2);
        parts.push(wheel);
    }
    for z in [-0.36, 0.36] {
        let middle = [length / 2.0, (floor + waist) / 2.0, z * width];
        parts.push(cuboid("headlamp", [0.04, 0.14, 0.2], middle, TramCream));
        parts.push(cuboid("tail lamp", [0.04, 0.12, 0.2], [-middle[0], middle[1], middle[2]], Signal));
    }
    parts
}

/// A top on four legs.
pub(super) fn table([length, height, depth]: [f64; 3]) -> Vec<Solid> {
    let mut parts = vec![cuboid("top", [length, 0.04, depth], [0.0, height - 0.02, 0.0], Material::Timber)];
    for (x, z) in [(-1.0, -1.0), (1.0, -1.0), (-1.0, 1.0), (1.0, 1.0)] {
        let middle = [x * (length / 2.0 - 0.06), (height - 0.04) / 2.0, z * (depth / 2.0 - 0.06)];
        parts.push(cuboid("leg", [0.06, height - 0.04, 0.06], middle, Material::DarkSteel));
    }
    parts
}

/// A chair whose back is at +z: who sits on it looks towards −z.
pub(super) fn chair() -> Vec<Solid> {
    let mut parts = vec![
        cuboid("seat", [0.44, 0.04, 0.44], [0.0, 0.45, 0.0], Material::Timber),
        cuboid("back", [0.42, 0.42, 0.03], [0.0, 0.7, 0.2], Material::Timber),
    ];
    for (x, z) in [(-1.0, -1.0), (1.0, -1.0), (-1.0, 1.0), (1.0, 1.0)] {
        parts.push(cuboid("leg", [0.04, 0.44, 0.04], [x * 0.19, 0.22, z * 0.19], Material::DarkSteel));
    }
    parts
}

/// Two strips of tape: toes go to the bar, the stem lies between the feet.
pub(super) fn mark(tape: Tape) -> Vec<Solid> {
    let material = tape.material();
    vec![
        cuboid("bar", [0.5, 0.006, 0.05], [0.0, 0.003, -0.16], material),
        cuboid("stem", [0.05, 0.006, 0.4], [0.0, 0.003, 0.065], material),
    ]
}

/// A wall along x with rectangles cut out of it: from, sill, to, head, in the wall's own x and y.
pub(super) fn wall(
    [length, height, thickness]: [f64; 3],
    material: Material,
    cuts: &[[f64; 4]],
) -> Vec<Solid> {
    let half = length / 2.0;
    let mut edges: Vec<f64> =
        cuts.iter().flat_map(|c| [c[0], c[2]]).chain([-half, half]).map(|x| x.clamp(-half, half)).collect();
    edges.sort_by(f64::total_cmp);
    edges.dedup();
    let mut parts = Vec::new();
    for pair in edges.windows(2) {
        let [from, to] = [pair[0], pair[1]];
        let middle = (from + to) / 2.0;
        // What is left of this column: gaps between the cuts that cross it.
        let mut gaps: Vec<[f64; 2]> =
            cuts.iter().filter(|c| c[0] < middle && middle < c[2]).map(|c| [c[1].max(0.0), c[3]]).collect();
        gaps.sort_by(|a, b| a[0].total_cmp(&b[0]));
        let mut foot = 0.0_f64;
        for [sill, head] in gaps.into_iter().chain([[height, height]]) {
            let sill = sill.min(height);
            if sill - foot > 1e-6 {
                let size = [to - from, sill - foot, thickness];
                parts.push(cuboid("wall", size, [middle, (foot + sill) / 2.0, 0.0], material));
            }
            foot = foot.max(head);
        }
    }
    parts
}
