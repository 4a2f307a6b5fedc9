//! The nodes of a glTF 2.0 file (Khronos) over time, in double precision: each with its place, turn and
//! scale, moved by the keys of one animation, which may be stepped, linear or cubic.

use crate::FormatError;
use crate::gltf_file::File;
use glam::{DMat4, DQuat, DVec3};
use gltf::animation::Interpolation;
use gltf::animation::util::ReadOutputs;
use std::ops::{Add, Mul};

/// The keys of one property of a node.
struct Keys<T> {
    times: Vec<f64>,
    values: Vec<T>,
    how: Interpolation,
}

/// Value of a key: its straight way to another one, and the norm of a sum.
trait Keyed: Copy + Add<Output = Self> + Mul<f64, Output = Self> {
    fn towards(self, other: Self, share: f64) -> Self;
    fn whole(self) -> Self;
}

impl Keyed for DVec3 {
    fn towards(self, other: DVec3, share: f64) -> DVec3 {
        self.lerp(other, share)
    }
    fn whole(self) -> DVec3 {
        self
    }
}

impl Keyed for DQuat {
    fn towards(self, other: DQuat, share: f64) -> DQuat {
        self.slerp(other, share)
    }
    fn whole(self) -> DQuat {
        self.normalize()
    }
}

impl<T: Keyed> Keys<T> {
    /// Keys, if there are as many values as there should be, in order of time.
    fn of(times: &[f64], values: Vec<T>, how: Interpolation) -> Option<Keys<T>> {
        let each = if how == Interpolation::CubicSpline { 3 } else { 1 };
        let sorted = times.windows(2).all(|w| w[0] < w[1]);
        (!times.is_empty() && sorted && values.len() == each * times.len()).then(|| Keys {
            times: times.to_vec(),
            values,
            how,
        })
    }

    /// The value of a key; cubic ones stand between their tangents.
    fn key(&self, k: usize) -> T {
        if self.how == Interpolation::CubicSpline { self.values[3 * k + 1] } else { self.values[k] }
    }

    fn at(&self, time_s: f64) -> T {
        let next = self.times.partition_point(|t| *t <= time_s);
        let (before, next) = (next.saturating_sub(1), next.min(self.times.len() - 1));
        let span = self.times[next] - self.times[before];
        let u = if span > 0.0 { ((time_s - self.times[before]) / span).clamp(0.0, 1.0) } else { 0.0 };
        match self.how {
            Interpolation::Step => self.key(before),
            Interpolation::CubicSpline if before != next => {
                let (out, into) = (self.values[3 * before + 2], self.values[3 * next]);
                let [a, b, c, d] = hermite(u);
                (self.key(before) * a + out * (span * b) + self.key(next) * c + into * (span * d)).whole()
            }
            _ => self.key(before).towards(self.key(next), u),
        }
    }
}

/// Weights of a cubic Hermite, as the standard has it.
fn hermite(u: f64) -> [f64; 4] {
    let (u2, u3) = (u * u, u * u * u);
    [2.0 * u3 - 3.0 * u2 + 1.0, u3 - 2.0 * u2 + u, 3.0 * u2 - 2.0 * u3, u3 - u2]
}

/// A node, and what moves it.
struct Node {
    above: Option<usize>,
    place: DVec3,
    turn: DQuat,
    scale: DVec3,
    places: Option<Keys<DVec3>>,
    turns: Option<Keys<DQuat>>,
    scales: Option<Keys<DVec3>>,
}

impl Node {
    fn at(&self, time_s: f64) -> DMat4 {
        let place = self.places.as_ref().map_or(self.place, |k| k.at(time_s));
        let turn = self.turns.as_ref().map_or(self.turn, |k| k.at(time_s));
        let scale = self.scales.as_ref().map_or(self.scale, |k| k.at(time_s));
        DMat4::from_scale_rotation_translation(scale, turn, place)
    }
}

/// All nodes of a file, as an animation moves them.
pub(crate) struct Nodes(Vec<Node>);

impl Nodes {
    /// Nodes of a file; without an animation in their rest pose.
    pub fn of(file: &File, animation: Option<&gltf::Animation>) -> Result<Nodes, FormatError> {
        let still = |node: gltf::Node| {
            let (place, turn, scale) = node.transform().decomposed();
            let wide = |v: [f32; 3]| DVec3::from_array(v.map(f64::from));
            Node {
                above: None,
                place: wide(place),
                turn: DQuat::from_array(turn.map(f64::from)).normalize(),
                scale: wide(scale),
                places: None,
                turns: None,
                scales: None,
            }
        };
        let mut nodes: Vec<Node> = file.file.nodes().map(still).collect();
        for parent in file.file.nodes() {
            for child in parent.children() {
                nodes[child.index()].above = Some(parent.index());
            }
        }
        let mut nodes = Nodes(nodes);
        if (0..nodes.0.len()).any(|node| nodes.way(node).count() > nodes.0.len()) {
            return Err(FormatError::whole("its nodes contain each other in a ring; the file is damaged"));
        }
        for channel in animation.into_iter().flat_map(gltf::Animation::channels) {
            nodes.keyed(file, &channel);
        }
        Ok(nodes)
    }

    /// Takes over the keys of a channel; one that is not whole moves nothing.
    fn keyed(&mut self, file: &File, channel: &gltf::animation::Channel) {
        let how = channel.sampler().interpolation();
        let keys = channel.reader(|b| file.buffers.get(b.index()).map(Vec::as_slice));
        let (Some(inputs), Some(outputs)) = (keys.read_inputs(), keys.read_outputs()) else { return };
        let times: Vec<f64> = inputs.map(f64::from).collect();
        let Some(node) = self.0.get_mut(channel.target().node().index()) else { return };
        let vectors = |values: &mut dyn Iterator<Item = [f32; 3]>| {
            Keys::of(&times, values.map(|v| DVec3::from_array(v.map(f64::from))).collect(), how)
        };
        match outputs {
            ReadOutputs::Translations(mut values) => node.places = vectors(&mut values),
            ReadOutputs::Scales(mut values) => node.scales = vectors(&mut values),
            ReadOutputs::Rotations(values) => {
                let turns = values.into_f32().map(|q| DQuat::from_array(q.map(f64::from)));
                node.turns = Keys::of(&times, turns.collect(), how);
            }
            ReadOutputs::MorphTargetWeights(_) => {}
        }
    }

    /// A node and those it hangs from, upwards. One longer than all nodes goes in a circle.
    pub fn way(&self, node: usize) -> impl Iterator<Item = usize> + '_ {
        std::iter::successors(Some(node), |at| self.0[*at].above).take(self.0.len() + 1)
    }

    /// Number of nodes.
    pub fn len(&self) -> usize {
        self.0.len()
    }

    /// The node that a node hangs from.
    pub fn above(&self, node: usize) -> Option<usize> {
        self.0[node].above
    }

    /// Matrix of a node in its parent.
    pub fn local(&self, node: usize, time_s: f64) -> DMat4 {
        self.0[node].at(time_s)
    }

    /// Matrix of a node in the scene.
    pub fn world(&self, node: usize, time_s: f64) -> DMat4 {
        self.way(node).fold(DMat4::IDENTITY, |below, at| self.local(at, time_s) * below)
    }

    /// True if a node has keys.
    pub fn moves(&self, node: usize) -> bool {
        let Node { places, turns, scales, .. } = &self.0[node];
        places.is_some() || turns.is_some() || scales.is_some()
    }

    /// The times of a node's keys. A step has the moment before it as well, so that what goes straight from
    /// one time to the next steps there.
    pub fn times(&self, node: usize) -> Vec<f64> {
        fn of<T>(keys: &Option<Keys<T>>) -> impl Iterator<Item = f64> + '_ {
            let with_before = |k: &Keys<T>| {
                let step = k.how == Interpolation::Step;
                k.times
                    .iter()
                    .flat_map(move |t| step.then(|| t.next_down()).into_iter().chain([*t]))
                    .collect()
            };
            keys.as_ref().map_or_else(Vec::new, with_before).into_iter().filter(|t: &f64| t.is_finite())
        }
        let Node { places, turns, scales, .. } = &self.0[node];
        of(places).chain(of(turns)).chain(of(scales)).collect()
    }
}
