//! The set: a stage and the pieces that stand on it, as simple solids.

use crate::solid::{Material, Shape, Solid, cuboid, post};
use crate::space::{Pose, heading};
use glam::DVec3;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// The room a set is built in; its middle is the origin.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Stage {
    /// Along x.
    pub width_m: f64,
    /// Along z.
    pub depth_m: f64,
    /// Clear height.
    pub height_m: f64,
}

/// Something that stands on the stage. Its origin is the middle of its foot.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Piece {
    /// As written on the plan.
    pub name: String,
    /// Its form.
    pub form: Form,
    /// Metres.
    pub position: [f64; 3],
    /// To the right, seen from above.
    #[serde(default)]
    pub turn_deg: f64,
}

/// What a piece is.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "kind")]
pub enum Form {
    /// A plain block: pillar, wall, bench top, floor.
    Block {
        /// Along x, y and z.
        size: [f64; 3],
        /// Of all of it.
        material: Material,
    },
    /// An upright round thing.
    Round {
        /// Half the width.
        radius: f64,
        /// Whole height.
        height: f64,
        /// Of all of it.
        material: Material,
    },
    /// Steps that rise towards −z; the foot is the middle of the lowest step's front edge.
    Stair {
        /// How many.
        steps: u32,
        /// Height of each.
        rise: f64,
        /// Depth of each.
        run: f64,
        /// Across.
        width: f64,
    },
    /// A floor on posts with a railing along its +z side.
    Gallery {
        /// Along x, top over the foot, along z.
        size: [f64; 3],
        /// Where along x the railing is open for a stair: from, to.
        opening: [f64; 2],
    },
    /// A pair of rails let into the floor, along x.
    Rails {
        /// Along x.
        length: f64,
        /// Between the rails.
        gauge: f64,
    },
    /// A tram body, along x.
    Tram {
        /// Along x.
        length: f64,
        /// Number of window bays.
        bays: u32,
        /// Lights on inside.
        lit: bool,
    },
    /// A bench with legs, a vice and boxes on it, along x.
    Workbench {
        /// Along x.
        length: f64,
    },
    /// A lamp that hangs from above; the foot is the underside of its shade.
    Lamp {
        /// Length of its cord.
        cord: f64,
    },
}

/// Where light comes from.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, TS)]
pub struct Light {
    /// Metres.
    pub position: [f64; 3],
    /// Metres at which it has fallen to a quarter.
    pub reach_m: f64,
    /// 1 for a hall lamp.
    pub strength: f64,
}

impl Piece {
    /// Where its foot stands.
    pub fn pose(&self) -> Pose {
        Pose::new(DVec3::from(self.position), heading(self.turn_deg.to_radians()))
    }

    /// The solids it is made of, where they stand.
    pub fn solids(&self) -> Vec<Solid> {
        let pose = self.pose();
        let placed = |part: Solid| Solid { pose: pose.then(part.pose), ..part };
        self.parts().into_iter().map(placed).collect()
    }

    /// The solids it is made of, around its foot.
    pub fn parts(&self) -> Vec<Solid> {
        match self.form {
            Form::Block { size, material } => {
                vec![cuboid("block", size, [0.0, size[1] / 2.0, 0.0], material)]
            }
            Form::Round { radius, height, material } => {
                vec![post("round", radius, height, [0.0, height / 2.0, 0.0], material)]
            }
            Form::Stair { steps, rise, run, width } => stair(steps, rise, run, width),
            Form::Gallery { size, opening } => gallery(size, opening),
            Form::Rails { length, gauge } => [-gauge / 2.0, gauge / 2.0]
                .map(|z| cuboid("rail", [length, 0.02, 0.07], [0.0, 0.01, z], Material::RailSteel))
                .into(),
            Form::Tram { length, bays, lit } => tram(length, bays, lit),
            Form::Workbench { length } => workbench(length),
            Form::Lamp { cord } => vec![
                post("cord", 0.012, cord, [0.0, cord / 2.0 + 0.22, 0.0], Material::DarkSteel),
                post("cap", 0.12, 0.16, [0.0, 0.16, 0.0], Material::DarkSteel),
                post("shade", 0.34, 0.08, [0.0, 0.05, 0.0], Material::DarkSteel),
                post("glow", 0.26, 0.03, [0.0, 0.0, 0.0], Material::LampGlow),
            ],
        }
    }

    /// The light it gives, if any.
    pub fn lights(&self) -> Vec<Light> {
        let pose = self.pose();
        let at = |x: f64, y: f64, z: f64| (pose.position + pose.rotation * DVec3::new(x, y, z)).to_array();
        match self.form {
            Form::Lamp { .. } => vec![Light { position: at(0.0, -0.05, 0.0), reach_m: 3.2, strength: 1.0 }],
            Form::Tram { length, lit: true, .. } => [-0.3, 0.0, 0.3]
                .iter()
                .flat_map(|share| [-1.9, 1.9].map(|z| (share * length, z)))
                .map(|(x, z)| Light { position: at(x, 1.9, z), reach_m: 1.5, strength: 0.5 })
                .collect(),
            _ => Vec::new(),
        }
    }

    /// What about it cannot be, as a sentence.
    pub fn fault(&self) -> Option<String> {
        let place_ok =
            self.position.iter().all(|v| v.is_finite() && v.abs() <= 1000.0) && self.turn_deg.is_finite();
        let (numbers, count): (Vec<f64>, u32) = match &self.form {
            Form::Block { size, .. } => (size.to_vec(), 1),
            Form::Round { radius, height, .. } => (vec![*radius, *height], 1),
            Form::Stair { steps, rise, run, width } => (vec![*rise, *run, *width], *steps),
            Form::Gallery { size, .. } => (size.to_vec(), 1),
            Form::Rails { length, gauge } => (vec![*length, *gauge], 1),
            Form::Tram { length, bays, .. } => (vec![*length], *bays),
            Form::Workbench { length } => (vec![*length], 1),
            Form::Lamp { cord } => (vec![*cord], 1),
        };
        let sizes_ok = numbers.iter().all(|n| *n > 0.0 && *n <= 500.0) && (1..=200).contains(&count);
        (!place_ok || !sizes_ok || self.name.len() > 200).then(|| {
            format!("the piece \"{}\" needs sizes over 0 and up to 500 m, at most 200 parts, and a place within 1000 m", self.name)
        })
    }
}

fn stair(steps: u32, rise: f64, run: f64, width: f64) -> Vec<Solid> {
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

fn gallery([length, top, depth]: [f64; 3], [from, to]: [f64; 2]) -> Vec<Solid> {
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
    for (a, b) in [(-length / 2.0, from), (to, length / 2.0)] {
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

fn tram(length: f64, bays: u32, lit: bool) -> Vec<Solid> {
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

fn workbench(length: f64) -> Vec<Solid> {
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

/// A flat outline for the plan: the solids' footprints, seen from above.
pub fn footprint(solid: &Solid) -> Vec<[f64; 2]> {
    let half = match solid.body.shape {
        Shape::Box { size } => DVec3::from(size) / 2.0,
        Shape::Cylinder { radius, height } => DVec3::new(radius, height / 2.0, radius),
        Shape::Ball { radius } => DVec3::splat(radius),
    };
    let round = !matches!(solid.body.shape, Shape::Box { .. });
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

/// Andrew's monotone chain (Inf. Proc. Lett. 9(5), 1979).
fn convex_hull(mut points: Vec<[f64; 2]>) -> Vec<[f64; 2]> {
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

#[cfg(test)]
mod tests {
    use super::*;

    fn area(outline: &[[f64; 2]]) -> f64 {
        let next = outline.iter().cycle().skip(1);
        outline.iter().zip(next).map(|(a, b)| a[0] * b[1] - b[0] * a[1]).sum::<f64>().abs() / 2.0
    }

    #[test]
    fn a_turned_block_keeps_its_footprint() {
        for turn_deg in [0.0, 30.0, 90.0, 211.0] {
            let form = Form::Block { size: [4.0, 2.0, 0.5], material: Material::Timber };
            let piece = Piece { name: "bench".into(), form, position: [1.0, 0.0, -2.0], turn_deg };
            let outline = footprint(&piece.solids()[0]);
            assert_eq!(outline.len(), 4);
            assert!((area(&outline) - 2.0).abs() < 1e-9);
        }
    }

    #[test]
    fn a_stair_ends_at_the_height_of_its_steps() {
        let form = Form::Stair { steps: 16, rise: 0.18, run: 0.26, width: 1.2 };
        let piece = Piece { name: "stair".into(), form, position: [0.0; 3], turn_deg: 0.0 };
        let top = piece
            .solids()
            .iter()
            .filter(|s| s.body.name == "step")
            .map(|s| s.pose.position.y + 0.025)
            .fold(0.0, f64::max);
        assert!((top - 16.0 * 0.18).abs() < 1e-9);
        // The handrail keeps its height over the steps: it must rise the same way they do.
        let rail = piece.solids().into_iter().find(|s| s.body.name == "handrail").unwrap();
        let along = rail.pose.rotation * DVec3::NEG_Z;
        assert!(along.y > 0.0 && along.z < 0.0);
    }

    #[test]
    fn impossible_pieces_are_named() {
        let form = Form::Lamp { cord: -1.0 };
        let piece = Piece { name: "lamp".into(), form, position: [0.0; 3], turn_deg: 0.0 };
        assert!(piece.fault().unwrap().contains("lamp"));
    }
}
