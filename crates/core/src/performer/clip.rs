//! Captured motion: a skeleton that moves.
//!
//! **Method.** Each joint hangs from its parent by an offset and turns about itself; forward
//! kinematics goes down the tree. Between frames joints go along the shorter arc.

use super::figure::between;
use crate::solid::{Body, Material, Shape};
use crate::space::Pose;
use glam::{DQuat, DVec3};

/// A joint of a skeleton. Parents come before their children.
#[derive(Clone, Debug, PartialEq)]
pub struct Joint {
    /// As in the file.
    pub name: String,
    /// The joint it hangs from; none for the root.
    pub parent: Option<usize>,
    /// From the parent, in the parent's frame at rest, in the file's unit.
    pub offset: DVec3,
}

/// Captured motion, in the file's own unit.
#[derive(Clone, Debug, PartialEq)]
pub struct Clip {
    /// The skeleton.
    pub joints: Vec<Joint>,
    /// Seconds from frame to frame.
    pub frame_s: f64,
    /// Of every frame, a pose for each joint in its parent's frame.
    pub frames: Vec<Vec<Pose>>,
}

/// Bones shorter than this share of the skeleton's height are not drawn: fingers, eyes.
const DRAWN: f64 = 0.045;

impl Clip {
    /// First to last frame.
    pub fn length_s(&self) -> f64 {
        (self.frames.len().saturating_sub(1)) as f64 * self.frame_s
    }

    /// Where every joint is in a frame.
    pub fn joints_at_frame(&self, frame: usize) -> Vec<Pose> {
        self.chained(&self.frames[frame])
    }

    /// Where every joint is at a time from the first frame, which stays before and after.
    pub fn joints_at(&self, time_s: f64) -> Vec<Pose> {
        let last = self.frames.len() - 1;
        let place = (time_s / self.frame_s).clamp(0.0, last as f64);
        let i = (place as usize).min(last);
        let next = (i + 1).min(last);
        let share = place - i as f64;
        let mixed: Vec<Pose> =
            self.frames[i].iter().zip(&self.frames[next]).map(|(a, b)| a.towards(*b, share)).collect();
        self.chained(&mixed)
    }

    fn chained(&self, local: &[Pose]) -> Vec<Pose> {
        let mut world: Vec<Pose> = Vec::with_capacity(local.len());
        for (joint, pose) in self.joints.iter().zip(local) {
            world.push(joint.parent.map_or(*pose, |p| world[p].then(*pose)));
        }
        world
    }

    /// Lowest and highest joint of the skeleton at rest.
    fn rest(&self) -> (f64, f64) {
        let still: Vec<Pose> =
            self.joints.iter().map(|j| Pose { position: j.offset, ..Pose::ORIGIN }).collect();
        let heights = self.chained(&still).into_iter().map(|p| p.position.y);
        heights.fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), y| (low.min(y), high.max(y)))
    }

    /// Height of the skeleton at rest, never zero.
    pub fn height(&self) -> f64 {
        let (low, high) = self.rest();
        (high - low).max(1e-6)
    }

    /// The lowest any joint comes.
    pub fn floor(&self) -> f64 {
        let lowest =
            |i: usize| self.joints_at_frame(i).iter().map(|p| p.position.y).fold(f64::INFINITY, f64::min);
        (0..self.frames.len()).map(lowest).fold(f64::INFINITY, f64::min)
    }

    /// The bones that are drawn, from joint to joint, and the joint that bears the head.
    fn drawn(&self) -> (Vec<(usize, usize)>, Option<usize>) {
        let shortest = DRAWN * self.height();
        let bones = self.joints.iter().enumerate().filter_map(|(i, j)| {
            let parent = j.parent?;
            (j.offset.length() >= shortest).then_some((parent, i))
        });
        let named = |j: &Joint| j.name.to_lowercase().ends_with("head");
        (bones.collect(), self.joints.iter().position(named))
    }
}

/// A clip as a figure: scaled, placed, trimmed.
#[derive(Clone, Debug)]
pub struct Captured {
    pub(super) clip: std::sync::Arc<Clip>,
    /// Metres for one unit of the file.
    pub(super) scale: f64,
    /// Scene time of the first frame that plays.
    pub(super) start_s: f64,
    /// Of the clip, what plays.
    pub(super) trim_s: (f64, f64),
    /// From the clip's metres to the set.
    pub(super) placing: Pose,
    pub(super) bones: Vec<(usize, usize)>,
    pub(super) head: Option<usize>,
}

impl Captured {
    /// A clip that begins at `place`, turned by `turn` radians to the right.
    pub(super) fn new(
        clip: std::sync::Arc<Clip>,
        scale: f64,
        start_s: f64,
        trim_s: (f64, f64),
        (place, turn): (DVec3, DQuat),
    ) -> Captured {
        let first = clip.joints_at(trim_s.0)[0].position;
        let origin = DVec3::new(first.x, clip.floor(), first.z) * scale;
        let placing = Pose::new(place - turn * origin, turn);
        let (bones, head) = clip.drawn();
        Captured { clip, scale, start_s, trim_s, placing, bones, head }
    }

    fn joints(&self, time_s: f64) -> Vec<DVec3> {
        let within = (time_s - self.start_s + self.trim_s.0).clamp(self.trim_s.0, self.trim_s.1);
        let world = |p: Pose| self.placing.position + self.placing.rotation * (p.position * self.scale);
        self.clip.joints_at(within).into_iter().map(world).collect()
    }

    pub(super) fn bodies(&self) -> Vec<Body> {
        let h = self.clip.height() * self.scale;
        let mut bodies: Vec<Body> = self
            .bones
            .iter()
            .map(|&(from, to)| {
                let length = self.clip.joints[to].offset.length() * self.scale;
                let name = self.clip.joints[from].name.to_lowercase();
                let trunk = ["hip", "spine", "chest", "pelvis", "torso"].iter().any(|w| name.contains(w));
                let wide = if trunk { 0.1 } else { 0.05 } * h;
                let material = if trunk { Material::Uniform } else { Material::Cloth };
                Body::new(
                    &self.clip.joints[to].name,
                    Shape::Box { size: [wide, length, wide * 0.8] },
                    material,
                )
            })
            .collect();
        if self.head.is_some() {
            bodies.push(Body::new("head", Shape::Ball { radius: 0.066 * h }, Material::Skin));
        }
        bodies
    }

    pub(super) fn poses(&self, time_s: f64) -> Vec<Pose> {
        let joints = self.joints(time_s);
        let forward = self.placing.rotation * DVec3::Z;
        let mut poses: Vec<Pose> =
            self.bones.iter().map(|&(from, to)| between(joints[from], joints[to], forward)).collect();
        if let Some(head) = self.head {
            let up = DVec3::Y * 0.05 * self.clip.height() * self.scale;
            poses.push(Pose::new(joints[head] + up, self.placing.rotation));
        }
        poses
    }

    pub(super) fn root(&self, time_s: f64) -> DVec3 {
        self.joints(time_s)[0]
    }

    pub(super) fn highest(&self, time_s: f64) -> DVec3 {
        let joints = self.joints(time_s);
        self.head.map_or_else(
            || joints.iter().copied().fold(joints[0], |a, b| if b.y > a.y { b } else { a }),
            |head| joints[head],
        )
    }
}
