//! Figures in a glTF 2.0 file (Khronos): skeletons of skins, moved by the file's animations.
//!
//! Skins that share a joint are one figure. A figure does what each animation that moves it says; its joints
//! are read where something is keyed, and as often between as it takes for the way from frame to frame to be
//! the file's own. Scales of nodes are worked into the places of the joints.

use crate::FormatError;
use crate::gltf_file::File;
use crate::gltf_motion::Nodes;
use glam::DMat4;
use gltf::Animation;
use rovnek_core::performer::clip::{MOST_POSES, mixed};
use rovnek_core::performer::{Clip, Joint};
use rovnek_core::space::Pose;

/// Figures of more joints are refused.
const MOST_JOINTS: usize = 1000;
/// Distance from the file's joints up to which a figure is exact, as a share of the figure's height.
const CLOSE: f64 = 1e-6;
/// How often the time between two keys is halved at most.
const DEEPEST: u32 = 10;
/// Where between two frames it is looked how far joints are from the file's: not halfway, where what eases
/// in and out is as far as what goes straight.
const LOOKED: [f64; 2] = [0.3, 0.6];

/// Somebody who moves.
#[derive(Clone, Debug)]
pub struct Figure {
    /// Name in the file.
    pub name: String,
    /// Clips, each with the animation's name.
    pub clips: Vec<(String, Clip)>,
    /// The skins that hang on the skeleton.
    pub(crate) skins: Vec<usize>,
}

/// A skeleton, and the nodes that bear it.
struct Skeleton {
    /// Joints, parents first.
    joints: Vec<usize>,
    /// Parent of each joint among the joints.
    parents: Vec<Option<usize>>,
    /// The joints and all that they hang from, parents first.
    bearing: Vec<usize>,
}

impl File {
    /// The figures of the file that something moves.
    pub(crate) fn figures(&self) -> Result<Vec<Figure>, FormatError> {
        let mut groups: Vec<(Vec<usize>, Vec<usize>)> = Vec::new();
        for skin in self.file.skins() {
            let (mut joints, mut skins) =
                (skin.joints().map(|j| j.index()).collect::<Vec<_>>(), vec![skin.index()]);
            let shares = |other: &[usize]| other.iter().any(|j| joints.contains(j));
            let (same, apart) = groups.into_iter().partition(|(other, _)| shares(other));
            groups = apart;
            for (more, others) in same as Vec<(Vec<usize>, Vec<usize>)> {
                joints.extend(more);
                skins.extend(others);
            }
            joints.sort_unstable();
            joints.dedup();
            groups.push((joints, skins));
        }
        let still = Nodes::of(self, None)?;
        let moves = self.file.animations().map(|a| Ok((a.clone(), Nodes::of(self, Some(&a))?)));
        let moves: Vec<(Animation, Nodes)> = moves.collect::<Result<_, FormatError>>()?;
        let mut figures = Vec::new();
        for (joints, skins) in groups {
            let skeleton = Skeleton::of(&still, joints)?;
            let mut clips = Vec::new();
            for (animation, nodes) in &moves {
                if skeleton.bearing.iter().any(|n| nodes.moves(*n)) {
                    let name =
                        animation.name().map_or_else(|| format!("{}", animation.index() + 1), String::from);
                    clips.push((name, self.clip(&skeleton, &still, nodes)?));
                }
            }
            if !clips.is_empty() {
                figures.push(Figure { name: self.named(&skins), clips, skins });
            }
        }
        Ok(figures)
    }

    /// Name of a figure: of the node that shows it, or of its skin.
    fn named(&self, skins: &[usize]) -> String {
        let shows = |n: &gltf::Node| n.skin().is_some_and(|s| skins.contains(&s.index()));
        let node = self.file.nodes().find(shows).and_then(|n| n.name().map(String::from));
        node.or_else(|| self.file.skins().nth(skins[0])?.name().map(String::from)).unwrap_or_default()
    }

    fn clip(&self, skeleton: &Skeleton, still: &Nodes, nodes: &Nodes) -> Result<Clip, FormatError> {
        let rest = skeleton.poses(still, 0.0)?;
        let names = skeleton.joints.iter().map(|j| {
            let node = self.file.nodes().nth(*j).and_then(|n| n.name().map(String::from));
            node.unwrap_or_else(|| format!("joint {j}"))
        });
        let joint = |(i, name)| Joint { name, parent: skeleton.parents[i], rest: rest[i] };
        let joints = names.enumerate().map(joint).collect();
        let clip = Clip { joints, times_s: Vec::new(), frames: Vec::new() };
        let mut times: Vec<f64> = skeleton.bearing.iter().flat_map(|n| nodes.times(*n)).collect();
        times.retain(|t| *t >= 0.0);
        times.push(0.0);
        times.sort_by(f64::total_cmp);
        times.dedup();
        if times[times.len() - 1] > crate::LONGEST_S {
            return Err(FormatError::whole(crate::too_long(times[times.len() - 1])));
        }
        let mut frames = Frames { of: skeleton, nodes, close: CLOSE * clip.height(), clip };
        for time_s in times {
            frames.go_on_to(time_s)?;
        }
        Ok(frames.clip)
    }
}

impl Skeleton {
    fn of(nodes: &Nodes, mut joints: Vec<usize>) -> Result<Skeleton, FormatError> {
        if joints.len() > MOST_JOINTS {
            return Err(FormatError::whole(format!(
                "a figure in it has {} joints; at most {MOST_JOINTS} are taken, so leave out what is not needed",
                joints.len()
            )));
        }
        let mut bearing: Vec<usize> = joints.iter().flat_map(|j| nodes.way(*j)).collect();
        let deep = |n: &usize| (nodes.way(*n).count(), *n);
        bearing.sort_by_cached_key(deep);
        bearing.dedup();
        joints.sort_by_cached_key(deep);
        let place = |n: usize| joints.iter().position(|j| *j == n);
        let parents = joints.iter().map(|j| nodes.way(*j).skip(1).find_map(place)).collect();
        Ok(Skeleton { joints, parents, bearing })
    }

    /// Every joint in the one it hangs from.
    fn poses(&self, nodes: &Nodes, time_s: f64) -> Result<Vec<Pose>, FormatError> {
        let mut world = vec![DMat4::IDENTITY; nodes.len()];
        for &n in &self.bearing {
            let above = nodes.above(n).map_or(DMat4::IDENTITY, |p| world[p]);
            world[n] = above * nodes.local(n, time_s);
        }
        let whole = |n: &usize| {
            let (_, rotation, position) = world[*n].to_scale_rotation_translation();
            Pose { position, rotation: rotation.normalize() }
        };
        let world: Vec<Pose> = self.joints.iter().map(whole).collect();
        // One that is scaled to nothing is not turned any way.
        if !world.iter().all(|p| p.position.is_finite() && p.rotation.is_normalized()) {
            return Err(FormatError::whole("a joint of it is nowhere at some time; the file is damaged"));
        }
        let inside = |(i, pose): (usize, &Pose)| {
            self.parents[i].map_or(*pose, |p: usize| world[p].inverse().then(*pose))
        };
        Ok(world.iter().enumerate().map(inside).collect())
    }
}

/// A clip as it comes to be.
struct Frames<'a> {
    of: &'a Skeleton,
    nodes: &'a Nodes,
    close: f64,
    clip: Clip,
}

impl Frames<'_> {
    /// Adds the frame of a time, and those it takes on the way there.
    fn go_on_to(&mut self, time_s: f64) -> Result<(), FormatError> {
        let frame = self.of.poses(self.nodes, time_s)?;
        match (self.clip.times_s.last(), self.clip.frames.last()) {
            (Some(&from_s), Some(from)) => {
                let from = from.clone();
                self.between((from_s, &from), (time_s, &frame), 0)?;
            }
            _ => self.put(time_s, frame)?,
        }
        Ok(())
    }

    /// Adds what lies after one frame up to another, halved until the way between is the file's.
    fn between(
        &mut self,
        (from_s, from): (f64, &[Pose]),
        (to_s, to): (f64, &[Pose]),
        depth: u32,
    ) -> Result<(), FormatError> {
        let half_s = from_s + (to_s - from_s) / 2.0;
        let near = depth == DEEPEST || half_s <= from_s || to_s <= half_s;
        for share in LOOKED.into_iter().filter(|_| !near) {
            let there = self.clip.chained(&self.of.poses(self.nodes, from_s + (to_s - from_s) * share)?);
            let straight = self.clip.chained(&mixed(from, to, share));
            let mut pairs = there.iter().zip(&straight);
            if pairs.any(|(a, b)| a.position.distance(b.position) > self.close) {
                let half = self.of.poses(self.nodes, half_s)?;
                self.between((from_s, from), (half_s, &half), depth + 1)?;
                return self.between((half_s, &half), (to_s, to), depth + 1);
            }
        }
        self.put(to_s, to.to_vec())
    }

    fn put(&mut self, time_s: f64, frame: Vec<Pose>) -> Result<(), FormatError> {
        if (self.clip.frames.len() + 1) * frame.len() > MOST_POSES {
            return Err(FormatError::whole("there is too much motion in it; cut it into parts"));
        }
        self.clip.times_s.push(time_s);
        self.clip.frames.push(frame);
        Ok(())
    }
}
