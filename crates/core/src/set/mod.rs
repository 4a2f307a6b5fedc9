//! The set: a stage and the pieces that stand on it, as simple solids.
//!
//! A new form of piece is a variant of [`Form`] (`form.rs`), its builder in `build.rs`, and what it says of
//! itself in `described.rs`.

mod build;
mod described;
mod form;
mod outline;

pub use described::{Drawing, Extent, Gesture, PieceKind};
pub use form::{Form, MOST_IMAGES, Sequence, Tape};
pub use outline::{convex_hull, footprint};

use crate::carrier::Carrier;
use crate::ids::{GroupId, PerformanceId, PieceId, SetupId};
use crate::params::{self, Invalid};
use crate::performer::Route;
use crate::solid::{Material, Solid, cuboid, post};
use crate::space::{Pose, heading};
use glam::DVec3;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// The room a set is built in; its middle is the origin.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Stage {
    /// Width along x, metres.
    pub width_m: f64,
    /// Depth along z, metres.
    pub depth_m: f64,
    /// Clear height, metres.
    pub height_m: f64,
}

impl Stage {
    /// Checks that every length is within its range.
    pub fn check(&self) -> Result<(), Invalid> {
        let sizes = [self.width_m, self.depth_m, self.height_m];
        if sizes.iter().all(|v| (1.0..=500.0).contains(v)) {
            return Ok(());
        }
        Err(Invalid::at("width_m", "a stage is 1 to 500 m wide, deep and high"))
    }

    /// Work light, which is on while nothing in the set gives light.
    pub fn work_light(&self) -> Light {
        let reach_m = self.width_m.max(self.depth_m) * 0.6;
        Light { position: [0.0, self.height_m.max(4.0), 0.0], reach_m, strength: 1.0 }
    }

    /// The floor itself.
    pub fn floor(&self) -> Solid {
        cuboid("floor", [self.width_m, 0.2, self.depth_m], [0.0, -0.1, 0.0], Material::Concrete)
    }
}

/// Something that stands on the stage. Its origin is the middle of its foot.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Piece {
    /// Its id; a new one is given its own.
    #[serde(default)]
    pub id: PieceId,
    /// Name on the plan.
    pub name: String,
    /// Form with its dimensions.
    pub form: Form,
    /// Place of the foot, metres.
    pub position: [f64; 3],
    /// Turn to the right seen from above, degrees.
    #[serde(default)]
    pub turn_deg: f64,
    /// Pieces with the same number are picked and moved together; 0 is none.
    #[serde(default)]
    pub group: GroupId,
    /// Cannot be picked on the plan.
    #[serde(default)]
    pub locked: bool,
    /// Is not there: neither drawn nor filmed.
    #[serde(default)]
    pub hidden: bool,
    /// The setups for which it is taken out: a wild wall.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub wild: Vec<SetupId>,
    /// Routes in performances; a piece without a route stands still.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub routes: Vec<PieceRoute>,
    /// The machine whose carriage it goes along with, from where it is while that is at its start.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub rides: Option<Carrier>,
}

/// Route of a piece in a performance.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct PieceRoute {
    /// Id of the performance.
    pub performance: PerformanceId,
    /// From place to place; facings are turns of the piece.
    pub route: Route,
}

/// Light source.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, TS)]
pub struct Light {
    /// Place of the light source, metres.
    pub position: [f64; 3],
    /// Metres at which it has fallen to a quarter.
    pub reach_m: f64,
    /// 1 for a hall lamp.
    pub strength: f64,
}

/// Distance from a wall's middle plane within which a piece still stands in the wall, metres.
const IN_WALL_M: f64 = 0.06;

impl Piece {
    /// A piece with nothing but a name, a form and a place.
    pub fn new(name: &str, form: Form, position: [f64; 3]) -> Piece {
        Piece {
            id: PieceId(0),
            name: name.into(),
            form,
            position,
            turn_deg: 0.0,
            group: GroupId(0),
            locked: false,
            hidden: false,
            wild: Vec::new(),
            routes: Vec::new(),
            rides: None,
        }
    }

    /// Pose of the foot.
    pub fn pose(&self) -> Pose {
        Pose::new(DVec3::from(self.position), heading(self.turn_deg.to_radians()))
    }

    /// True if the piece is there for a setup: neither hidden nor taken out.
    pub fn stands_for(&self, setup: SetupId) -> bool {
        !self.hidden && !self.wild.contains(&setup)
    }

    /// Route in a performance.
    pub fn route(&self, performance: PerformanceId) -> Option<&Route> {
        self.routes.iter().find(|r| r.performance == performance).map(|r| &r.route)
    }

    /// True if the piece moves in a performance: it has a route, or is carried.
    pub fn moves(&self, performance: PerformanceId) -> bool {
        self.rides.is_some() || self.route(performance).is_some()
    }

    /// The solids it is made of, where they stand; `others` may cut it open.
    pub fn solids(&self, others: &[Piece]) -> Vec<Solid> {
        let pose = self.pose();
        let placed = |part: Solid| Solid { pose: pose.then(part.pose), ..part };
        self.parts(others).into_iter().map(placed).collect()
    }

    /// The solids it is made of, around its foot; `others` may cut it open.
    pub fn parts(&self, others: &[Piece]) -> Vec<Solid> {
        match &self.form {
            &Form::Block { size, material } => {
                vec![cuboid("block", size, [0.0, size[1] / 2.0, 0.0], material)]
            }
            &Form::Round { radius, height, material } => {
                vec![post("round", radius, height, [0.0, height / 2.0, 0.0], material)]
            }
            &Form::Wall { size, material } => build::wall(size, material, &self.cuts(others)),
            Form::Opening { .. } | Form::Mesh { .. } => Vec::new(),
            &Form::Door { width, height, open_deg } => build::door(width, height, open_deg),
            &Form::Window { width, height, lit } => build::window(width, height, lit),
            &Form::Stair { steps, rise, run, width } => build::stair(steps, rise, run, width),
            &Form::Platform { size } => build::platform(size),
            &Form::Ramp { size } => build::ramp(size),
            &Form::Pillars { count, spacing, width, height, base } => {
                build::pillars(count, spacing, width, height, base)
            }
            &Form::Gallery { size } => build::gallery(size, &self.stairs(others)),
            &Form::Rails { length, gauge } => [-gauge / 2.0, gauge / 2.0]
                .map(|z| cuboid("rail", [length, 0.02, 0.07], [0.0, 0.01, z], Material::RailSteel))
                .into(),
            &Form::Tram { length, bays, lit } => build::tram(length, bays, lit),
            &Form::Vehicle { size } => build::vehicle(size),
            &Form::Workbench { length } => build::workbench(length),
            &Form::Table { size } => build::table(size),
            Form::Chair => build::chair(),
            &Form::Lamp { cord } => vec![
                post("cord", 0.012, cord, [0.0, cord / 2.0 + 0.22, 0.0], Material::DarkSteel),
                post("cap", 0.12, 0.16, [0.0, 0.16, 0.0], Material::DarkSteel),
                post("shade", 0.34, 0.08, [0.0, 0.05, 0.0], Material::DarkSteel),
                post("glow", 0.26, 0.03, [0.0, 0.0, 0.0], Material::LampGlow),
            ],
            &Form::Mark { tape, .. } => build::mark(tape),
            &Form::Card { width, height, .. } => {
                vec![cuboid("card", [width, height, 0.012], [0.0, height / 2.0, 0.0], Material::Card)]
            }
        }
    }

    /// Cuts that doors, windows and openings make in this wall: from, sill, to, head.
    fn cuts(&self, others: &[Piece]) -> Vec<[f64; 4]> {
        let Form::Wall { size: [length, _, thickness], .. } = self.form else { return Vec::new() };
        let wall = self.pose().inverse();
        let cut = |piece: &Piece| {
            let (width, height) = match piece.form {
                Form::Opening { width, height }
                | Form::Door { width, height, .. }
                | Form::Window { width, height, .. } => (width, height),
                _ => return None,
            };
            let at = wall.then(piece.pose()).position;
            let askew = (piece.turn_deg - self.turn_deg).to_radians().sin().abs();
            let inside = at.z.abs() <= thickness / 2.0 + IN_WALL_M
                && at.x.abs() < (length + width) / 2.0
                && askew < 0.05
                && !piece.hidden;
            inside.then(|| [at.x - width / 2.0, at.y, at.x + width / 2.0, at.y + height])
        };
        others.iter().filter_map(cut).collect()
    }

    /// Stretches of this gallery at which stairs arrive: from, to.
    fn stairs(&self, others: &[Piece]) -> Vec<[f64; 2]> {
        let Form::Gallery { size: [_, top, depth] } = self.form else { return Vec::new() };
        let gallery = self.pose().inverse();
        let opening = |piece: &Piece| {
            let Form::Stair { steps, rise, run, width } = piece.form else { return None };
            let [up, along] = [rise, run].map(|v| v * f64::from(steps));
            let head = Pose { position: DVec3::new(0.0, up, -along), ..Pose::ORIGIN };
            let at = gallery.then(piece.pose().then(head)).position;
            let meets = (at.z - depth / 2.0).abs() < 0.5 && (at.y - top).abs() < 0.3 && !piece.hidden;
            meets.then(|| [at.x - width / 2.0 - 0.1, at.x + width / 2.0 + 0.1])
        };
        let mut all: Vec<[f64; 2]> = others.iter().filter_map(opening).collect();
        all.sort_by(|a, b| a[0].total_cmp(&b[0]));
        all
    }

    /// Its outline from above, around its foot: what the plan shows where there are no solids.
    pub fn outline(&self) -> Vec<[f64; 2]> {
        match &self.form {
            Form::Mesh { outline, scale, .. } => outline.iter().map(|p| p.map(|v| v * scale)).collect(),
            Form::Opening { width, .. } => {
                let (x, z) = (width / 2.0, 0.1);
                vec![[-x, -z], [x, -z], [x, z], [-x, z]]
            }
            _ => Vec::new(),
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

    /// Checks every number and rule of the piece.
    pub fn check(&self) -> Result<(), Invalid> {
        let name = &self.name;
        params::name("a piece", name)?;
        if !self.position.iter().all(|v| v.abs() <= 1000.0) {
            let sentence = format!("the piece \"{name}\" needs a place within 1000 m of the middle");
            return Err(Invalid::at("position", sentence));
        }
        // NaN is within no range.
        if !(-36_000.0..=36_000.0).contains(&self.turn_deg) {
            let sentence =
                format!("the piece \"{name}\" is turned by {}°; give up to 36 000°", self.turn_deg);
            return Err(Invalid::at("turn_deg", sentence));
        }
        params::check(&self.form.params()).map_err(|e| {
            Invalid::at(format!("form/{}", e.path), format!("the piece \"{name}\": {}", e.sentence))
        })?;
        if let Form::Mesh { outline, .. } = &self.form
            && !outline.iter().flatten().all(|v| v.is_finite())
        {
            return Err(Invalid::at(
                "form/outline",
                format!("the footprint of \"{name}\" needs plain numbers"),
            ));
        }
        if let Form::Card { sequence: Some(sequence), .. } = &self.form {
            sequence.check().map_err(|e| Invalid::at("form/sequence", format!("the card \"{name}\" {e}")))?;
        }
        if let Some(Carrier::Piece { .. } | Carrier::Performer { .. }) = self.rides {
            let sentence = format!("the piece \"{name}\" can be carried by a machine; choose one");
            return Err(Invalid::at("rides", sentence));
        }
        self.routes.iter().try_for_each(|r| r.route.check(name))
    }
}

/// The turn, in degrees, with which something at `place` has its front, +z, towards `eye`.
pub fn turned_to(place: [f64; 3], eye: [f64; 3]) -> f64 {
    (place[0] - eye[0]).atan2(eye[2] - place[2]).to_degrees()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_can_be_shown_and_places_are_on_this_planet() {
        let piece = |name: &str| Piece::new(name, Form::Chair, [0.0; 3]);
        assert_eq!(piece("Stuhl Ünne 7").check(), Ok(()));
        for name in ["", "  ", "a\0b", "two\nlines", &"x".repeat(121)] {
            assert_eq!(piece(name).check().unwrap_err().path, "name", "{name:?}");
        }
        for turn_deg in [1e300, f64::NAN, f64::INFINITY] {
            assert_eq!(Piece { turn_deg, ..piece("chair") }.check().unwrap_err().path, "turn_deg");
        }
        let far = Piece { position: [0.0, f64::NAN, 0.0], ..piece("chair") };
        assert_eq!(far.check().unwrap_err().path, "position");
    }

    fn area(outline: &[[f64; 2]]) -> f64 {
        let next = outline.iter().cycle().skip(1);
        outline.iter().zip(next).map(|(a, b)| a[0] * b[1] - b[0] * a[1]).sum::<f64>().abs() / 2.0
    }

    fn turned(piece: Piece, turn_deg: f64) -> Piece {
        Piece { turn_deg, ..piece }
    }

    #[test]
    fn a_turned_block_keeps_its_footprint() {
        for turn_deg in [0.0, 30.0, 90.0, 211.0] {
            let form = Form::Block { size: [4.0, 2.0, 0.5], material: Material::Timber };
            let piece = turned(Piece::new("bench", form, [1.0, 0.0, -2.0]), turn_deg);
            let outline = footprint(&piece.solids(&[])[0]);
            assert_eq!(outline.len(), 4);
            assert!((area(&outline) - 2.0).abs() < 1e-9);
        }
    }

    #[test]
    fn a_stair_ends_at_the_height_of_its_steps() {
        let form = Form::Stair { steps: 16, rise: 0.18, run: 0.26, width: 1.2 };
        let piece = Piece::new("stair", form, [0.0; 3]);
        let solids = piece.solids(&[]);
        let steps = solids.iter().filter(|s| s.body.name == "step");
        let top = steps.map(|s| s.pose.position.y + 0.025).fold(0.0, f64::max);
        assert!((top - 16.0 * 0.18).abs() < 1e-9);
        // The handrail keeps its height over the steps: it must rise the same way they do.
        let rail = solids.iter().find(|s| s.body.name == "handrail").unwrap();
        let along = rail.pose.rotation * DVec3::NEG_Z;
        assert!(along.y > 0.0 && along.z < 0.0);
    }

    /// Volume of a wall's boxes.
    fn volume(wall: &Piece, others: &[Piece]) -> f64 {
        let size = |s: &Solid| match s.body.shape {
            crate::solid::Shape::Box { size } => size.iter().product::<f64>(),
            _ => 0.0,
        };
        wall.solids(others).iter().map(size).sum()
    }

    #[test]
    fn what_stands_in_a_wall_cuts_it_open_and_what_stands_beside_it_does_not() {
        let form = Form::Wall { size: [6.0, 3.0, 0.2], material: Material::Plaster };
        let wall = turned(Piece::new("wall", form, [2.0, 0.0, 1.0]), 90.0);
        let whole = 6.0 * 3.0 * 0.2;
        assert!((volume(&wall, &[]) - whole).abs() < 1e-9);
        // Along the wall is z here.
        let door = Form::Door { width: 1.0, height: 2.1, open_deg: 0.0 };
        let door = turned(Piece::new("door", door, [2.0, 0.0, 0.0]), 90.0);
        let window = Form::Window { width: 1.5, height: 1.2, lit: false };
        let window = turned(Piece::new("window", window, [2.05, 1.0, 2.5]), -90.0);
        let cut = whole - (2.1 + 1.5 * 1.2) * 0.2;
        assert!((volume(&wall, &[door.clone(), window.clone()]) - cut).abs() < 1e-9);
        let beside = Piece { position: [3.0, 0.0, 0.0], ..door.clone() };
        let across = turned(door.clone(), 0.0);
        let hidden = Piece { hidden: true, ..door };
        assert!((volume(&wall, &[beside, across, hidden]) - whole).abs() < 1e-9);
        // One window above another, and one that reaches past the wall's end.
        let above = Piece { position: [2.0, 2.4, 2.5], ..window.clone() };
        let past = Piece { position: [2.0, 1.0, 4.0], ..window.clone() };
        let cut = whole - (1.5 * 1.2 + 1.5 * 0.6 + 0.75 * 1.2) * 0.2;
        assert!((volume(&wall, &[window, above, past]) - cut).abs() < 1e-9);
    }

    #[test]
    fn a_gallery_is_open_where_a_stair_comes_up() {
        let gallery =
            turned(Piece::new("gallery", Form::Gallery { size: [10.0, 2.88, 2.5] }, [16.75, 0.0, 0.0]), 90.0);
        let form = Form::Stair { steps: 16, rise: 0.18, run: 0.26, width: 1.2 };
        let stair = turned(Piece::new("stair", form, [11.25, 0.0, 1.5]), 90.0);
        let railings = |others: &[Piece]| -> Vec<f64> {
            let parts = gallery.parts(others);
            let length = |s: &Solid| match s.body.shape {
                crate::solid::Shape::Box { size } => size[0],
                _ => 0.0,
            };
            parts.iter().filter(|s| s.body.name == "railing").step_by(2).map(length).collect()
        };
        assert_eq!(railings(&[]), [10.0]);
        let open = railings(std::slice::from_ref(&stair));
        assert!(open.len() == 2 && (open[0] - 5.8).abs() < 1e-9 && (open[1] - 2.8).abs() < 1e-9, "{open:?}");
        let elsewhere = Piece { position: [3.0, 0.0, 1.5], ..stair };
        assert_eq!(railings(&[elsewhere]), [10.0]);
    }

    #[test]
    fn what_is_turned_to_an_eye_has_its_front_there() {
        for eye in [[3.0, 1.0, 4.0], [-2.0, 0.0, -5.0], [0.0, 9.0, 2.0], [7.0, 1.0, 0.0]] {
            let turn = turned_to([1.0, 0.0, -1.0], eye);
            let front = heading(turn.to_radians()) * DVec3::Z;
            let wanted = DVec3::new(eye[0] - 1.0, 0.0, eye[2] + 1.0).normalize();
            assert!(front.distance(wanted) < 1e-12, "{front} {wanted}");
        }
    }

    #[test]
    fn impossible_pieces_are_named() {
        let lamp = |cord: f64, x: f64| Piece::new("lamp", Form::Lamp { cord }, [x, 0.0, 0.0]);
        assert!(lamp(-1.0, 0.0).check().unwrap_err().sentence.contains("lamp"));
        assert!(lamp(1.0, f64::NAN).check().unwrap_err().sentence.contains("place"));
        assert_eq!(lamp(1.0, 0.0).check(), Ok(()));
        assert!(Piece { name: " ".into(), ..lamp(1.0, 0.0) }.check().is_err());
        let row = Form::Pillars { count: 0, spacing: 2.0, width: 0.5, height: 3.0, base: true };
        assert!(Piece::new("row", row, [0.0; 3]).check().is_err());
    }

    #[test]
    fn every_form_has_parts_or_an_outline_within_its_sizes() {
        let size = [2.0, 0.9, 1.0];
        let forms = [
            (Form::Platform { size }, size),
            (Form::Ramp { size }, size),
            (Form::Table { size }, size),
            (Form::Vehicle { size: [4.2, 1.6, 1.8] }, [4.3, 1.6, 1.9]),
            (Form::Chair, [0.44, 0.91, 0.44]),
            (Form::Pillars { count: 3, spacing: 4.0, width: 0.5, height: 3.0, base: true }, [8.7, 3.0, 0.7]),
            (Form::Mark { number: 4, tape: Tape::Blue }, [0.5, 0.006, 0.45]),
        ];
        for (form, [x, y, z]) in forms {
            let solids = Piece::new("piece", form.clone(), [0.0; 3]).solids(&[]);
            let outline: Vec<[f64; 2]> = solids.iter().flat_map(footprint).collect();
            let within = outline.iter().all(|p| p[0].abs() <= x / 2.0 + 0.08 && p[1].abs() <= z / 2.0 + 0.08);
            assert!(!outline.is_empty() && within, "{form:?}");
            assert!(solids.iter().all(|s| s.pose.position.y <= y), "{form:?}");
        }
    }
}
