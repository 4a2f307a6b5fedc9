//! Binary glTF 2.0 (Khronos): the animated camera, the set's pieces and the performers as nodes.
//!
//! A piece of the set stands whole in its node's `extras`, so that a set that is read again is the
//! same set and not only its triangles.
//!
//! glTF cannot animate a lens without an extension that few read, so focal length, focus and stop
//! of every frame stand in the camera node's `extras`; the camera itself has the first frame's
//! field of view.

mod surface;

use rovnek_core::DQuat;
use rovnek_core::ids::{ImageId, MeshId, PieceId, SetupId};
use rovnek_core::lens::Camera;
use rovnek_core::mesh::Mesh;
use rovnek_core::playing::{MoverId, PerformanceTimeline};
use rovnek_core::set::{Form, Piece};
use rovnek_core::solid::{Material, Solid};
use rovnek_core::space::Pose;
use rovnek_core::track::Track;
use serde_json::{Value, json};
use std::collections::BTreeMap;
use std::sync::Arc;
use surface::Surface;

/// Assets that pieces refer to by id: meshes, and images as PNG or JPEG.
#[derive(Clone, Debug, Default)]
pub struct Assets {
    /// Meshes that were brought in.
    pub meshes: BTreeMap<MeshId, Arc<Mesh>>,
    /// Pictures on cards.
    pub images: BTreeMap<ImageId, Arc<Vec<u8>>>,
}

/// The key of a piece in the extras of its node.
pub const PIECE: &str = "piece";

/// Content of the file.
pub struct Shot<'a> {
    /// Name of the camera node.
    pub name: String,
    /// The camera, frame by frame.
    pub track: &'a Track,
    /// Sensor and frame.
    pub camera: Camera,
    /// Pieces of the set.
    pub pieces: &'a [Piece],
    /// The setup whose camera it is: what is taken out for it has no shape here.
    pub setup: SetupId,
    /// Timeline of the performance; scene time runs with the track's.
    pub playing: &'a PerformanceTimeline,
    /// Meshes and images of the pieces.
    pub assets: &'a Assets,
}

impl<'a> Shot<'a> {
    /// Shot with a track alone.
    pub fn of_track(track: &'a Track) -> Shot<'a> {
        static NOTHING: (PerformanceTimeline, Assets) = (
            PerformanceTimeline { movers: Vec::new(), standing: Vec::new() },
            Assets { meshes: BTreeMap::new(), images: BTreeMap::new() },
        );
        let (playing, assets) = (&NOTHING.0, &NOTHING.1);
        Shot {
            name: "camera".into(),
            track,
            camera: Camera::default(),
            pieces: &[],
            setup: SetupId(0),
            playing,
            assets,
        }
    }
}

/// Bytes of the file.
pub fn write(shot: &Shot) -> Vec<u8> {
    let mut file = File::default();
    let mut top = Vec::new();
    let times: Vec<f32> = shot.track.points.iter().map(|p| p.time_s as f32).collect();

    let camera = file.camera_node(shot);
    top.push(camera);
    let mut moving = Vec::new();
    if let Some(first) = shot.track.points.first() {
        let input = file.times(&times);
        file.animate(camera, input, shot.track.points.iter().map(|p| p.pose()));
        file.place(camera, first.pose());
        for (i, mover) in shot.playing.movers.iter().enumerate() {
            let piece = shot.pieces.iter().find(|p| mover.of == MoverId::Piece(p.id));
            if piece.is_some_and(|p| !p.stands_for(shot.setup)) {
                continue;
            }
            let root = file.mover(shot, i, input);
            if let Some(piece) = piece {
                moving.push(piece.id);
                file.remember(root, piece);
            }
            top.push(root);
        }
    }
    top.extend(
        shot.pieces
            .iter()
            .filter(|p| !moving.contains(&p.id))
            .map(|p| file.piece(p, shot.setup, shot.pieces, shot.assets)),
    );
    file.finish(&shot.name, &top)
}

/// A set alone, for another production or another program.
pub fn write_set(pieces: &[Piece], assets: &Assets) -> Vec<u8> {
    let mut file = File::default();
    let top: Vec<usize> = pieces.iter().map(|p| file.piece(p, SetupId(0), pieces, assets)).collect();
    file.finish("set", &top)
}

#[derive(Default)]
struct File {
    bytes: Vec<u8>,
    views: Vec<Value>,
    accessors: Vec<Value>,
    meshes: Vec<Value>,
    nodes: Vec<Value>,
    cameras: Vec<Value>,
    materials: Vec<Value>,
    images: Vec<Value>,
    textures: Vec<Value>,
    material_of: BTreeMap<String, usize>,
    channels: Vec<Value>,
    samplers: Vec<Value>,
}

const VERTICES: u32 = 34962;
const INDICES: u32 = 34963;

impl File {
    fn view(&mut self, data: impl IntoIterator<Item = [u8; 4]>, target: Option<u32>) -> usize {
        let start = self.bytes.len();
        data.into_iter().for_each(|word| self.bytes.extend(word));
        let mut view = json!({"buffer": 0, "byteOffset": start, "byteLength": self.bytes.len() - start});
        if let Some(target) = target {
            view["target"] = target.into();
        }
        self.views.push(view);
        self.views.len() - 1
    }

    /// Floats in rows of `kind`; with the least and greatest of each column where `bounds`.
    fn floats(&mut self, kind: &str, data: &[f32], target: Option<u32>, bounds: bool) -> usize {
        let width = match kind {
            "SCALAR" => 1,
            "VEC2" => 2,
            "VEC3" => 3,
            "VEC4" => 4,
            _ => unreachable!("no other kind is written"),
        };
        let view = self.view(data.iter().map(|f| f.to_le_bytes()), target);
        let mut accessor = json!({
            "bufferView": view, "componentType": 5126, "count": data.len() / width, "type": kind,
        });
        if bounds {
            let fold = |pick: fn(f32, f32) -> f32| -> Vec<f32> {
                (0..width)
                    .map(|c| data.iter().skip(c).step_by(width).copied().reduce(pick).unwrap_or(0.0))
                    .collect()
            };
            accessor["min"] = json!(fold(f32::min));
            accessor["max"] = json!(fold(f32::max));
        }
        self.accessors.push(accessor);
        self.accessors.len() - 1
    }

    fn times(&mut self, times: &[f32]) -> usize {
        self.floats("SCALAR", times, None, true)
    }

    fn node(&mut self, name: &str, mesh: Option<usize>) -> usize {
        let mut node = json!({"name": name});
        if let Some(mesh) = mesh {
            node["mesh"] = mesh.into();
        }
        self.nodes.push(node);
        self.nodes.len() - 1
    }

    fn place(&mut self, node: usize, pose: Pose) {
        self.nodes[node]["translation"] = json!(pose.position.as_vec3().to_array());
        self.nodes[node]["rotation"] = json!(single(pose.rotation));
    }

    fn camera_node(&mut self, shot: &Shot) -> usize {
        let lens = |pick: fn(&rovnek_core::track::LensState) -> f64| -> Vec<f64> {
            shot.track.points.iter().map(|p| pick(&p.lens)).collect()
        };
        let focal = shot.track.points.first().map_or(shot.camera.focal_mm, |p| p.lens.focal_mm);
        let (width, aspect) = (shot.camera.sensor_width_mm, shot.camera.frame_aspect);
        let (_, yfov) = shot.camera.field_of_view(focal);
        self.cameras.push(json!({
            "type": "perspective",
            "perspective": {"yfov": yfov, "aspectRatio": aspect, "znear": 0.05},
        }));
        let node = self.node(&shot.name, None);
        self.nodes[node]["camera"] = (self.cameras.len() - 1).into();
        self.nodes[node]["extras"] = json!({
            "focal_mm": lens(|l| l.focal_mm), "focus_m": lens(|l| l.focus_m), "f_stop": lens(|l| l.f_stop),
            "sensor_width_mm": width, "sensor_height_mm": shot.camera.sensor_height_mm,
            "squeeze": shot.camera.squeeze,
        });
        node
    }

    fn mover(&mut self, shot: &Shot, index: usize, input: usize) -> usize {
        let mover = &shot.playing.movers[index];
        let root = self.node(&mover.name, None);
        let over_time: Vec<Vec<Pose>> =
            shot.track.points.iter().map(|p| shot.playing.poses(index, p.time_s)).collect();
        let mut children = Vec::new();
        for (i, body) in mover.bodies.iter().enumerate() {
            let name = format!("{} {}", mover.name, body.name);
            let mesh = self.mesh(&name, &[Solid { body: body.clone(), pose: Pose::ORIGIN }]);
            let node = self.node(&name, Some(mesh));
            self.animate(node, input, over_time.iter().map(|poses| poses[i]));
            self.place(node, over_time[0][i]);
            children.push(node);
        }
        if !children.is_empty() {
            self.nodes[root]["children"] = json!(children);
        }
        root
    }

    /// A piece that stands; one that is hidden, or taken out for the setup, has no shape here.
    fn piece(&mut self, piece: &Piece, setup: SetupId, all: &[Piece], assets: &Assets) -> usize {
        let mesh = match &piece.form {
            _ if !piece.stands_for(setup) => None,
            Form::Mesh { mesh, .. } => assets.meshes.get(mesh).map(|m| self.brought(&piece.name, m)),
            &Form::Card { image, width, height, .. } => match assets.images.get(&image) {
                Some(bytes) => Some(self.picture(&piece.name, [width, height], bytes)),
                None => Some(self.mesh(&piece.name, &piece.parts(all))),
            },
            _ => Some(piece.parts(all)).filter(|p| !p.is_empty()).map(|p| self.mesh(&piece.name, &p)),
        };
        let node = self.node(&piece.name, mesh);
        self.place(node, piece.pose());
        if let Form::Mesh { scale, .. } = piece.form {
            self.nodes[node]["scale"] = json!([scale, scale, scale]);
        }
        self.remember(node, piece);
        node
    }

    fn remember(&mut self, node: usize, piece: &Piece) {
        self.nodes[node]["extras"] = json!({ PIECE: Piece { id: PieceId(0), ..piece.clone() } });
    }

    /// A mesh that was brought in, coloured at its corners.
    fn brought(&mut self, name: &str, mesh: &Mesh) -> usize {
        let flat = |list: &[[f32; 3]]| list.iter().flatten().copied().collect::<Vec<f32>>();
        let position = self.floats("VEC3", &flat(&mesh.places), Some(VERTICES), true);
        let normal = self.floats("VEC3", &flat(&mesh.normals), Some(VERTICES), false);
        let colors = self.view(mesh.colors.iter().map(|&[r, g, b]| [r, g, b, 255]), Some(VERTICES));
        self.accessors.push(json!({
            "bufferView": colors, "componentType": 5121, "normalized": true, "count": mesh.colors.len(), "type": "VEC4",
        }));
        let color = self.accessors.len() - 1;
        let indices = self.indices(mesh.triangles.iter().flatten().copied());
        let white = json!({
            "name": "brought in",
            "pbrMetallicRoughness": {"metallicFactor": 0.0, "roughnessFactor": 0.8},
        });
        let material = self.material_named("brought in", || white);
        let attributes = json!({"POSITION": position, "NORMAL": normal, "COLOR_0": color});
        self.meshes.push(json!({
            "name": name,
            "primitives": [{"attributes": attributes, "indices": indices, "material": material}],
        }));
        self.meshes.len() - 1
    }

    /// An upright picture, seen from both sides.
    fn picture(&mut self, name: &str, [width, height]: [f64; 2], bytes: &[u8]) -> usize {
        let (x, y) = (width as f32 / 2.0, height as f32);
        let position =
            self.floats("VEC3", &[-x, 0.0, 0.0, x, 0.0, 0.0, x, y, 0.0, -x, y, 0.0], Some(VERTICES), true);
        let normal = self.floats("VEC3", &[0.0, 0.0, 1.0].repeat(4), Some(VERTICES), false);
        let places = self.floats("VEC2", &[0.0, 1.0, 1.0, 1.0, 1.0, 0.0, 0.0, 0.0], Some(VERTICES), false);
        let indices = self.indices([0, 1, 2, 0, 2, 3]);
        let start = self.bytes.len();
        self.bytes.extend(bytes);
        self.bytes.resize(self.bytes.len().next_multiple_of(4), 0);
        self.views.push(json!({"buffer": 0, "byteOffset": start, "byteLength": bytes.len()}));
        let kind = if bytes.starts_with(b"\x89PNG") { "image/png" } else { "image/jpeg" };
        self.images.push(json!({"bufferView": self.views.len() - 1, "mimeType": kind}));
        let source = self.images.len() - 1;
        self.textures.push(json!({ "source": source }));
        let texture = self.textures.len() - 1;
        // What is clear in it is clear.
        let alpha = if kind == "image/png" { "BLEND" } else { "OPAQUE" };
        self.materials.push(json!({
            "name": name, "doubleSided": true, "alphaMode": alpha,
            "pbrMetallicRoughness": {
                "baseColorTexture": {"index": texture}, "metallicFactor": 0.0, "roughnessFactor": 1.0,
            },
        }));
        let material = self.materials.len() - 1;
        let attributes = json!({"POSITION": position, "NORMAL": normal, "TEXCOORD_0": places});
        self.meshes.push(json!({
            "name": name,
            "primitives": [{"attributes": attributes, "indices": indices, "material": material}],
        }));
        self.meshes.len() - 1
    }

    fn indices(&mut self, all: impl IntoIterator<Item = u32>) -> usize {
        let view = self.view(all.into_iter().map(u32::to_le_bytes), Some(INDICES));
        let bytes = self.views[view]["byteLength"].as_u64().unwrap_or_default();
        self.accessors.push(json!({
            "bufferView": view, "componentType": 5125, "count": bytes / 4, "type": "SCALAR",
        }));
        self.accessors.len() - 1
    }

    fn animate(&mut self, node: usize, input: usize, poses: impl Iterator<Item = Pose> + Clone) {
        let places: Vec<f32> = poses.clone().flat_map(|p| p.position.as_vec3().to_array()).collect();
        // Neighbouring quaternions of opposite sign would be interpolated the long way round.
        let mut before = DQuat::IDENTITY;
        let turns: Vec<f32> = poses
            .flat_map(|p| {
                before = if before.dot(p.rotation) < 0.0 { -p.rotation } else { p.rotation };
                single(before)
            })
            .collect();
        for (path, kind, data) in [("translation", "VEC3", places), ("rotation", "VEC4", turns)] {
            let output = self.floats(kind, &data, None, false);
            self.samplers.push(json!({"input": input, "output": output, "interpolation": "LINEAR"}));
            let sampler = self.samplers.len() - 1;
            self.channels.push(json!({"sampler": sampler, "target": {"node": node, "path": path}}));
        }
    }

    fn material(&mut self, material: Material) -> usize {
        let name = serde_json::to_value(material)
            .ok()
            .and_then(|v| v.as_str().map(String::from))
            .unwrap_or_default();
        let [r, g, b] = material.color();
        let mut value = json!({
            "name": name,
            "pbrMetallicRoughness": {"baseColorFactor": [r, g, b, 1.0], "metallicFactor": 0.0, "roughnessFactor": 0.8},
        });
        if material.glows() {
            value["emissiveFactor"] = json!([r, g, b]);
        }
        self.material_named(&name, || value)
    }

    fn material_named(&mut self, name: &str, make: impl FnOnce() -> Value) -> usize {
        if let Some(&known) = self.material_of.get(name) {
            return known;
        }
        self.materials.push(make());
        self.material_of.insert(name.into(), self.materials.len() - 1);
        self.materials.len() - 1
    }

    /// One mesh of several solids, a primitive for each material.
    fn mesh(&mut self, name: &str, solids: &[Solid]) -> usize {
        let mut by_material: Vec<(Material, Surface)> = Vec::new();
        for solid in solids {
            let at = by_material.iter().position(|(m, _)| *m == solid.body.material).unwrap_or_else(|| {
                by_material.push((solid.body.material, Surface::default()));
                by_material.len() - 1
            });
            by_material[at].1.add(&solid.body, solid.pose);
        }
        let primitives: Vec<Value> = by_material
            .into_iter()
            .map(|(material, surface)| {
                let position = self.floats("VEC3", &surface.places, Some(VERTICES), true);
                let normal = self.floats("VEC3", &surface.normals, Some(VERTICES), false);
                let indices = self.indices(surface.triangles.iter().copied());
                json!({
                    "attributes": {"POSITION": position, "NORMAL": normal},
                    "indices": indices, "material": self.material(material),
                })
            })
            .collect();
        self.meshes.push(json!({"name": name, "primitives": primitives}));
        self.meshes.len() - 1
    }

    fn finish(mut self, name: &str, top: &[usize]) -> Vec<u8> {
        let mut root = json!({
            "asset": {"version": "2.0", "generator": "Rovnek"},
            "scene": 0, "scenes": [{"name": name, "nodes": top}],
        });
        if !self.bytes.is_empty() {
            root["buffers"] = json!([{"byteLength": self.bytes.len()}]);
        }
        let animations = if self.channels.is_empty() {
            Vec::new()
        } else {
            vec![json!({"name": "move", "channels": self.channels, "samplers": self.samplers})]
        };
        for (key, list) in [
            ("animations", animations),
            ("nodes", self.nodes),
            ("cameras", self.cameras),
            ("meshes", self.meshes),
            ("materials", self.materials),
            ("textures", self.textures),
            ("images", self.images),
            ("accessors", self.accessors),
            ("bufferViews", self.views),
        ] {
            if !list.is_empty() {
                root[key] = list.into();
            }
        }
        let mut text = root.to_string().into_bytes();
        text.resize(text.len().next_multiple_of(4), b' ');
        self.bytes.resize(self.bytes.len().next_multiple_of(4), 0);
        let has_bytes = !self.bytes.is_empty();
        let total = 12 + 8 + text.len() + if has_bytes { 8 + self.bytes.len() } else { 0 };
        let mut out = Vec::with_capacity(total);
        out.extend(b"glTF");
        out.extend(2u32.to_le_bytes());
        out.extend((total as u32).to_le_bytes());
        out.extend((text.len() as u32).to_le_bytes());
        out.extend(b"JSON");
        out.extend(text);
        if has_bytes {
            out.extend((self.bytes.len() as u32).to_le_bytes());
            out.extend(b"BIN\0");
            out.extend(self.bytes);
        }
        out
    }
}

/// A unit quaternion in single precision.
fn single(rotation: DQuat) -> [f32; 4] {
    rotation.normalize().as_quat().normalize().to_array()
}

#[cfg(test)]
mod tests {
    use super::*;
    use rovnek_core::DVec3;
    use rovnek_core::track::LensState;

    fn track(n: usize) -> Track {
        let lens = LensState { focal_mm: 50.0, focus_m: 3.0, f_stop: 2.8 };
        let turn = |i: usize| rovnek_core::space::heading(i as f64 * 1.2);
        Track::from_poses(
            (0..n).map(|i| (i as f64 / 24.0, Pose::new(DVec3::new(i as f64, 1.5, 0.0), turn(i)), lens)),
        )
    }

    /// The JSON chunk and the bytes behind it.
    fn parts(glb: &[u8]) -> (Value, &[u8]) {
        let word = |at: usize| u32::from_le_bytes(glb[at..at + 4].try_into().unwrap()) as usize;
        assert_eq!((&glb[..4], word(4), word(8)), (&b"glTF"[..], 2, glb.len()));
        let end = 20 + word(12);
        (serde_json::from_slice(&glb[20..end]).unwrap(), glb.get(end + 8..).unwrap_or(&[]))
    }

    #[test]
    fn the_camera_is_keyed_at_every_frame_with_neighbouring_signs() {
        let track = track(25);
        let glb = write(&Shot::of_track(&track));
        let (json, bytes) = parts(&glb);
        assert_eq!(json["animations"][0]["channels"].as_array().unwrap().len(), 2);
        let floats = |accessor: usize| -> Vec<f32> {
            let view =
                &json["bufferViews"][json["accessors"][accessor]["bufferView"].as_u64().unwrap() as usize];
            let start = view["byteOffset"].as_u64().unwrap() as usize;
            let data = &bytes[start..start + view["byteLength"].as_u64().unwrap() as usize];
            data.chunks(4).map(|b| f32::from_le_bytes(b.try_into().unwrap())).collect()
        };
        let (times, places, turns) = (floats(0), floats(1), floats(2));
        assert_eq!((times.len(), places[3 * 24], times[24]), (25, 24.0, 1.0));
        for pair in turns.chunks(4).collect::<Vec<_>>().windows(2) {
            assert!(pair[0].iter().zip(pair[1]).map(|(a, b)| a * b).sum::<f32>() > 0.0);
        }
        assert_eq!(json["nodes"][0]["extras"]["focal_mm"].as_array().unwrap().len(), 25);
        let yfov = json["cameras"][0]["perspective"]["yfov"].as_f64().unwrap();
        assert!((yfov - 2.0 * (24.89 / 2.39 / 100.0_f64).atan()).abs() < 1e-9);
    }

    #[test]
    fn a_track_of_nothing_is_still_a_file() {
        let glb = write(&Shot::of_track(&Track::default()));
        let (json, bytes) = parts(&glb);
        assert!(json.get("animations").is_none() && bytes.is_empty());
    }
}
