//! The walking figure: its parts, and how they hang together from the feet up.

use super::gait::{Plant, Steps};
use super::route::Path;
use crate::solid::{Body, Material, Shape};
use crate::space::{Pose, heading};
use glam::{DQuat, DVec3};

/// Lengths as shares of body height (drawing proportions, common practice, no source).
const HIP: f64 = 0.5;
const THIGH: f64 = 0.235;
const SHIN: f64 = 0.23;
const ANKLE: f64 = 0.04;
/// A leg, all but straight.
const REACH: f64 = (THIGH + SHIN) * 0.995;
const SEAT: f64 = 0.27;
const UPPER_ARM: f64 = 0.185;
const FOREARM: f64 = 0.19;

/// How a figure stands at a moment.
pub(super) struct BodyPose {
    /// Point under its feet.
    pub under: DVec3,
    /// Facing to the right of −Z, radians.
    pub facing: f64,
    /// Share of sitting: 0 stands, 1 sits.
    pub seated: f64,
    /// Metres a second.
    pub speed: f64,
}

pub(super) use super::gait::Foot as Footing;

/// A figure of a height and a build (1 is ordinary), on a path.
#[derive(Clone, Debug)]
pub struct Figure {
    height_m: f64,
    build: f64,
    path: Path,
    steps: Steps,
}

impl Figure {
    /// Figure on a path.
    pub fn new(height_m: f64, build: f64, path: Path) -> Figure {
        Figure { height_m, build, steps: Steps::along(&path, height_m), path }
    }

    /// Path of the figure.
    pub fn path(&self) -> &Path {
        &self.path
    }

    /// Steps of the figure.
    pub fn steps(&self) -> &Steps {
        &self.steps
    }

    /// Its parts, in the order of [`Figure::poses`].
    pub fn bodies(&self) -> Vec<Body> {
        let (h, b) = (self.height_m, self.build);
        let slab = |x: f64, y: f64, z: f64| Shape::Box { size: [x * h * b, y * h, z * h * b] };
        let mut bodies = vec![
            Body::new("torso", slab(0.22, 0.3, 0.125), Material::Uniform),
            Body::new("hips", slab(0.19, 0.1, 0.125), Material::Cloth),
            Body::new("head", Shape::Ball { radius: 0.066 * h }, Material::Skin),
            Body::new("cap", Shape::Cylinder { radius: 0.072 * h, height: 0.03 * h }, Material::Uniform),
            Body::new("peak", slab(0.085 / b, 0.012, 0.06 / b), Material::DarkSteel),
            Body::new("satchel", slab(0.06 / b, 0.14, 0.15 / b), Material::Timber),
        ];
        for side in ["left", "right"] {
            let mut part = |name: &str, shape: Shape, material: Material| {
                bodies.push(Body::new(&format!("{side} {name}"), shape, material));
            };
            part("thigh", slab(0.088, THIGH + 0.02, 0.1), Material::Cloth);
            part("shin", slab(0.072, SHIN + 0.02, 0.08), Material::Cloth);
            part("foot", slab(0.06, ANKLE, 0.15 / b), Material::DarkSteel);
            part("upper arm", slab(0.06, UPPER_ARM + 0.02, 0.068), Material::Uniform);
            part("forearm", slab(0.05, FOREARM, 0.055), Material::Uniform);
            part("hand", Shape::Ball { radius: 0.028 * h }, Material::Skin);
        }
        bodies
    }

    /// Hips over the floor while standing: they sink until each leg reaches its foot, the one
    /// behind on its toes. Averaged over a moment, as a body has weight.
    fn hip_height(&self, time_s: f64) -> f64 {
        let h = self.height_m;
        let at = |time_s: f64| {
            let feet = [0, 1].map(|side| self.steps.foot(side, time_s));
            hips_over(h, self.path.position(time_s), self.path.facing(time_s), feet)
        };
        (-2..=2).map(|i| at(time_s + f64::from(i) * 0.04)).sum::<f64>() / 5.0
    }

    /// Poses of the parts.
    pub fn poses(&self, time_s: f64) -> Vec<Pose> {
        let feet = [0, 1].map(|side| self.steps.foot(side, time_s));
        let pose = BodyPose {
            under: self.path.position(time_s),
            facing: self.path.facing(time_s),
            seated: self.path.seated(time_s),
            speed: self.path.speed(time_s),
        };
        put_together(self.height_m, self.build, &pose, feet, self.hip_height(time_s))
    }
}

/// Hips over the floor, so low that each leg reaches its foot, the one behind on its toes.
fn hips_over(h: f64, under: DVec3, facing: f64, feet: [Footing; 2]) -> f64 {
    let reach = REACH * h;
    let forward = heading(facing) * DVec3::NEG_Z;
    feet.iter().fold(HIP * h, |height, foot| {
        let to = foot.at.place - under;
        let behind = (-to.dot(forward) / (0.1 * h)).clamp(0.0, 1.0);
        let level = (to.x.hypot(to.z) - 0.09 * behind * h).clamp(0.0, reach * 0.9);
        let up = (ANKLE + 0.055 * behind) * h;
        height.min(to.y + up + (reach * reach - level * level).sqrt())
    })
}

/// The parts of a figure over its feet.
pub(super) fn assemble(height_m: f64, build: f64, pose: &BodyPose, feet: [Footing; 2]) -> Vec<Pose> {
    // A foot in the air does not lift the hips.
    let down = |f: Footing| Footing { at: Plant { place: f.at.place.with_y(pose.under.y), ..f.at }, ..f };
    let standing = hips_over(height_m, pose.under, pose.facing, feet.map(down));
    put_together(height_m, build, pose, feet, standing)
}

fn put_together(h: f64, build: f64, pose: &BodyPose, feet: [Footing; 2], standing: f64) -> Vec<Pose> {
    let reach = REACH * h;
    let BodyPose { under, seated, speed, .. } = *pose;
    let facing = heading(pose.facing);
    let forward = facing * DVec3::NEG_Z;
    let lean = (speed / 1.4).min(2.0) * 0.035;
    let hips = under + DVec3::Y * (standing + (SEAT * h - standing) * seated) - forward * (seated * 0.25 * h);
    let root = Pose::new(hips, facing * DQuat::from_rotation_x(-lean));
    let at = |x: f64, y: f64, z: f64| root.then(Pose::new(DVec3::new(x, y, z) * h, DQuat::IDENTITY));
    let mut poses = vec![
        at(0.0, 0.2, 0.0),
        at(0.0, 0.01, 0.0),
        at(0.0, 0.43, -0.01),
        at(0.0, 0.485, -0.01),
        at(0.0, 0.472, -0.09),
        at(0.135 * build, 0.02, 0.05),
    ];
    // Arms go with the opposite foot.
    let ahead = [0, 1].map(|side| (feet[side].at.place - under).dot(forward) / h);
    let swing = (ahead[0] - ahead[1]) * (1.0 - seated);
    for (side, foot) in feet.iter().enumerate() {
        let out = side as f64 * 2.0 - 1.0;
        let hip = root.position + root.rotation * DVec3::new(out * 0.052 * h, 0.0, 0.0);
        let toes = heading(foot.at.heading);
        let (mut ankle, mut sole) = ankle(foot.at.place, toes, hip, h, reach);
        if !foot.planted {
            // A foot in the air goes where its leg takes it.
            let pulled = (hip - ankle).normalize_or_zero() * (hip.distance(ankle) - reach).max(0.0);
            ankle += pulled;
            sole.position += pulled;
        }
        let knee = joint(hip, ankle, THIGH * h, SHIN * h, toes * DVec3::NEG_Z);
        poses.push(between(hip, knee, forward));
        poses.push(between(knee, ankle, forward));
        poses.push(sole);
        let shoulder = root.position + root.rotation * DVec3::new(out * 0.135 * build, 0.34, 0.0) * h;
        let angle = out * swing * 0.9;
        let upper = root.rotation * DQuat::from_rotation_x(angle) * DVec3::NEG_Y;
        let bent = root.rotation * DQuat::from_rotation_x(angle + 0.3 + 0.9 * seated) * DVec3::NEG_Y;
        let elbow = shoulder + upper * UPPER_ARM * h;
        let wrist = elbow + bent * FOREARM * h;
        poses.push(between(shoulder, elbow, forward));
        poses.push(between(elbow, wrist, forward));
        poses.push(Pose::new(wrist, root.rotation));
    }
    poses
}

/// The ankle over a foot, and the foot's pose. Where the leg does not reach, the heel lifts about
/// the toes, which stay where they are.
fn ankle(place: DVec3, toes: DQuat, hip: DVec3, h: f64, reach: f64) -> (DVec3, Pose) {
    let tip = place + toes * DVec3::new(0.0, 0.0, -0.09 * h);
    let heel = |pitch: f64| tip + toes * DQuat::from_rotation_x(-pitch) * DVec3::new(0.0, 0.0, 0.09 * h);
    let over =
        |pitch: f64| heel(pitch) + toes * DQuat::from_rotation_x(-pitch) * DVec3::new(0.0, ANKLE * h, 0.0);
    let mut pitch = 0.0;
    if over(0.0).distance(hip) > reach {
        // The distance falls as the heel rises, up to tiptoe.
        let (mut low, mut high) = (0.0, 1.45);
        for _ in 0..24 {
            pitch = (low + high) / 2.0;
            if over(pitch).distance(hip) > reach { low = pitch } else { high = pitch }
        }
    }
    let turned = toes * DQuat::from_rotation_x(-pitch);
    let middle = tip + turned * DVec3::new(0.0, ANKLE * h / 2.0, 0.05 * h);
    (over(pitch), Pose::new(middle, turned))
}

/// The knee of a leg of two lengths, bent towards `forward`: the law of cosines.
fn joint(from: DVec3, to: DVec3, upper: f64, lower: f64, forward: DVec3) -> DVec3 {
    let along = to - from;
    let d = along.length().clamp(1e-6, (upper + lower) * 0.9999);
    let axis = along.normalize_or(DVec3::NEG_Y);
    let share = (upper * upper - lower * lower + d * d) / (2.0 * d);
    let out = (upper * upper - share * share).max(0.0).sqrt();
    let bend = (forward - axis * forward.dot(axis)).normalize_or(DVec3::NEG_Z);
    from + axis * share + bend * out
}

/// A part that lies between two points, its own y from the second to the first.
pub(super) fn between(a: DVec3, b: DVec3, forward: DVec3) -> Pose {
    let y = (a - b).normalize_or(DVec3::Y);
    let front = if y.cross(forward).length() > 1e-3 { forward } else { DVec3::X };
    let x = y.cross(-front).normalize();
    let z = x.cross(y);
    let rotation = DQuat::from_mat3(&glam::DMat3::from_cols(x, y, z)).normalize();
    Pose::new((a + b) / 2.0, rotation)
}
