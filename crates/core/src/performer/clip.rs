//! Captured motion: a skeleton that moves.
//!
//! **Method.** Each joint has a pose in its parent's frame; forward kinematics goes down the tree. Between
//! frames joints go along the shorter arc. Frames need not be even: whoever reads a file puts one wherever
//! something of it bends.

use super::figure::between;
use crate::solid::{Body, Material, Shape};
use crate::space::Pose;
use glam::{DQuat, DVec3};

/// A joint of a skeleton. Parents come before their children.
#[derive(Clone, Debug, PartialEq)]
pub struct Joint {
    /// Name in the file.
    pub name: String,
    /// The joint it hangs from; none for the root.
    pub parent: Option<usize>,
    /// In the parent's frame at rest, in the file's unit.
    pub rest: Pose,
}

/// Captured motion, in the file's own unit.
#[derive(Clone, Debug, PartialEq)]
pub struct Clip {
    /// Joints of the skeleton.
    pub joints: Vec<Joint>,
    /// When each frame is, seconds from the first, in order.
    pub times_s: Vec<f64>,
    /// Frames, each a pose per joint in its parent's frame.
    pub frames: Vec<Vec<Pose>>,
}

/// Clips of more poses, joints times frames, are refused.
pub const MOST_POSES: usize = 4_000_000;

/// Bones shorter than this share of the skeleton's height are not drawn: fingers, eyes.
const DRAWN: f64 = 0.045;

impl Clip {
    /// A clip whose frames are evenly apart.
    pub fn even(joints: Vec<Joint>, frame_s: f64, frames: Vec<Vec<Pose>>) -> Clip {
        let times_s = (0..frames.len()).map(|i| i as f64 * frame_s).collect();
        Clip { joints, times_s, frames }
    }

    /// First to last frame.
    pub fn length_s(&self) -> f64 {
        self.times_s.last().copied().unwrap_or_default()
    }

    /// Places of all joints in a frame.
    pub fn joints_at_frame(&self, frame: usize) -> Vec<Pose> {
        self.chained(&self.frames[frame])
    }

    /// Poses of all joints at a time from the first frame; the first and last frame hold before and after.
    pub fn joints_at(&self, time_s: f64) -> Vec<Pose> {
        let next = self.times_s.partition_point(|t| *t <= time_s);
        let (before, next) = (next.saturating_sub(1), next.min(self.frames.len() - 1));
        let span = self.times_s[next] - self.times_s[before];
        let share = if span > 0.0 { (time_s - self.times_s[before]) / span } else { 0.0 };
        self.chained(&mixed(&self.frames[before], &self.frames[next], share))
    }

    /// Poses of all joints, from poses in their parents' frames.
    pub fn chained(&self, local: &[Pose]) -> Vec<Pose> {
        let mut world: Vec<Pose> = Vec::with_capacity(local.len());
        for (joint, pose) in self.joints.iter().zip(local) {
            world.push(joint.parent.map_or(*pose, |p| world[p].then(*pose)));
        }
        world
    }

    /// Lowest and highest joint of the skeleton at rest.
    fn rest(&self) -> (f64, f64) {
        let still: Vec<Pose> = self.joints.iter().map(|j| j.rest).collect();
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
            (j.rest.position.length() >= shortest).then_some((parent, i))
        });
        let named = |j: &Joint| j.name.to_lowercase().ends_with("head");
        (bones.collect(), self.joints.iter().position(named))
    }

    /// As kept: joints and frames (u32 each); of each joint one more than its parent (u32), 0 for none, the
    /// length of its name (u32) and its name; the times (f64); then seven f32 for each joint, at rest first
    /// and of every frame.
    pub fn to_bytes(&self) -> Vec<u8> {
        let mut out = Vec::with_capacity(8 + self.joints.len() * (self.frames.len() + 2) * 28);
        let word = |out: &mut Vec<u8>, v: usize| out.extend((v as u32).to_le_bytes());
        word(&mut out, self.joints.len());
        word(&mut out, self.frames.len());
        for joint in &self.joints {
            word(&mut out, joint.parent.map_or(0, |p| p + 1));
            word(&mut out, joint.name.len());
            out.extend(joint.name.as_bytes());
        }
        out.extend(self.times_s.iter().flat_map(|t| t.to_le_bytes()));
        let poses = self.joints.iter().map(|j| j.rest).chain(self.frames.iter().flatten().copied());
        out.extend(poses.flat_map(Pose::seven).flat_map(|v| (v as f32).to_le_bytes()));
        out
    }

    /// From [`Clip::to_bytes`]; none of anything else.
    pub fn from_bytes(bytes: &[u8]) -> Option<Clip> {
        let mut rest = bytes;
        let mut take = |count: usize| rest.split_off(..count);
        let word = |four: &[u8]| four.try_into().ok().map(|b| u32::from_le_bytes(b) as usize);
        let (joints, frames) = (word(take(4)?)?, word(take(4)?)?);
        let poses = joints.checked_mul(frames.checked_add(1)?)?;
        if joints == 0 || frames == 0 || poses.checked_mul(28)? > bytes.len() {
            return None;
        }
        let mut tree = Vec::with_capacity(joints);
        for i in 0..joints {
            let (parent, length) = (word(take(4)?)?, word(take(4)?)?);
            let name = std::str::from_utf8(take(length)?).ok()?.to_string();
            if parent > i {
                return None;
            }
            tree.push((name, parent.checked_sub(1)));
        }
        let times = take(frames * 8)?.chunks_exact(8);
        let times_s: Vec<f64> = times.map(|b| f64::from_le_bytes(b.try_into().unwrap_or_default())).collect();
        let numbers = take(poses * 28)?.chunks_exact(4);
        let numbers: Vec<f64> =
            numbers.map(|b| f64::from(f32::from_le_bytes(b.try_into().unwrap_or_default()))).collect();
        if !rest.is_empty() || !times_s.is_sorted() || !numbers.iter().all(|v| v.is_finite()) {
            return None;
        }
        let pose = |n: &[f64]| {
            let turn = DQuat::from_xyzw(n[3], n[4], n[5], n[6]);
            (turn.length() > 0.5).then(|| Pose::new(DVec3::new(n[0], n[1], n[2]), turn.normalize()))
        };
        let poses: Vec<Pose> = numbers.chunks_exact(7).map(pose).collect::<Option<_>>()?;
        let (still, moving) = poses.split_at(joints);
        let joints: Vec<Joint> = tree
            .into_iter()
            .zip(still)
            .map(|((name, parent), rest)| Joint { name, parent, rest: *rest })
            .collect();
        let frames = moving.chunks_exact(joints.len()).map(<[Pose]>::to_vec).collect();
        Some(Clip { joints, times_s, frames })
    }
}

/// Part of the way from one frame to another.
pub fn mixed(from: &[Pose], to: &[Pose], share: f64) -> Vec<Pose> {
    from.iter().zip(to).map(|(a, b)| a.towards(*b, share)).collect()
}

/// A clip as a figure: scaled, placed, trimmed.
#[derive(Clone, Debug)]
pub struct Captured {
    pub(super) clip: std::sync::Arc<Clip>,
    /// Metres for one unit of the file.
    pub(super) scale: f64,
    /// Scene time of the first frame that plays.
    pub(super) start_s: f64,
    /// Stretch of the clip that plays, seconds.
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
                let length = self.clip.joints[to].rest.position.length() * self.scale;
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

#[cfg(test)]
mod tests {
    use super::*;

    fn arm() -> Clip {
        let at = |x: f64, turn: f64| Pose::new(DVec3::new(x, 0.5, 0.0), DQuat::from_rotation_z(turn));
        let joint = |name: &str, parent| Joint { name: name.into(), parent, rest: at(1.0, 0.25) };
        Clip {
            joints: vec![joint("shoulder", None), joint("elbow", Some(0)), joint("wrist", Some(1))],
            times_s: vec![0.0, 0.5, 0.75],
            frames: (0..3).map(|i| vec![at(f64::from(i), 0.5 * f64::from(i)); 3]).collect(),
        }
    }

    #[test]
    fn between_uneven_frames_joints_are_where_their_share_of_the_way_is() {
        let clip = arm();
        let (half, first) = (clip.joints_at(0.625)[0], clip.joints_at(0.25)[0]);
        assert!((half.position.x - 1.5).abs() < 1e-12 && (first.position.x - 0.5).abs() < 1e-12);
        assert_eq!(clip.joints_at(-3.0), clip.joints_at_frame(0));
        assert_eq!(clip.joints_at(9.0), clip.joints_at_frame(2));
    }

    #[test]
    fn bytes_come_back_and_other_bytes_do_not() {
        let clip = arm();
        let bytes = clip.to_bytes();
        let back = Clip::from_bytes(&bytes).unwrap();
        assert_eq!((&back.joints[1].name, back.joints[2].parent), (&clip.joints[1].name, Some(1)));
        assert_eq!(back.times_s, clip.times_s);
        for time_s in [0.0, 0.3, 0.5, 0.7] {
            for (a, b) in back.joints_at(time_s).iter().zip(clip.joints_at(time_s)) {
                assert!(a.position.distance(b.position) < 1e-6 && a.angle_to(b) < 1e-6);
            }
        }
        for cut in 0..bytes.len() {
            assert_eq!(Clip::from_bytes(&bytes[..cut]), None, "cut at {cut}");
        }
        assert_eq!(Clip::from_bytes(&[255; 400]), None);
        assert_eq!(Clip::from_bytes(b"HIERARCHY\nROOT Hip\n{\n OFFSET 0 1 0\n"), None);
    }
}
