//! Binary glTF 2.0 (Khronos): the animated camera, the set's pieces and the performers as nodes.
//!
//! A piece of the set stands whole in its node's `extras`, so that a set that is read again is the
//! same set and not only its triangles.
//!
//! glTF cannot animate a lens without an extension that few read, so focal length, focus and stop
//! of every frame stand in the camera node's `extras`; the camera itself has the first frame's
//! field of view.

mod surface;

use gltf::json::accessor::{ComponentType, GenericComponentType, Type};
use gltf::json::animation::{Channel, Interpolation, Property, Sampler};
use gltf::json::buffer::{Target, View};
use gltf::json::camera::Perspective;
use gltf::json::image::MimeType;
use gltf::json::material::{
    AlphaMode, EmissiveFactor, PbrBaseColorFactor, PbrMetallicRoughness, StrengthFactor,
};
use gltf::json::mesh::{Mode, Primitive, Semantic};
use gltf::json::scene::UnitQuaternion;
use gltf::json::texture::Info;
use gltf::json::validation::Checked::Valid;
use gltf::json::{self, Accessor, Index, Node, Root};
use rovnek_core::DQuat;
use rovnek_core::ids::{ImageId, MeshId, PieceId, SetupId};
use rovnek_core::lens::Camera;
use rovnek_core::mesh::Mesh;
use rovnek_core::playing::{MoverId, PerformanceTimeline};
use rovnek_core::set::{Form, Piece};
use rovnek_core::solid::{Material, Solid};
use rovnek_core::space::Pose;
use rovnek_core::track::Track;
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
        let input = file.bounded(TIMES, &times);
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
    let top: Vec<Index<Node>> = pieces.iter().map(|p| file.piece(p, SetupId(0), pieces, assets)).collect();
    file.finish("set", &top)
}

/// The file as it grows: its description, and its one buffer.
#[derive(Default)]
struct File {
    root: Root,
    bytes: Vec<u8>,
    material_of: BTreeMap<String, Index<json::Material>>,
    channels: Vec<Channel>,
    samplers: Vec<Sampler>,
}

/// Values of an accessor: components of a kind, in rows of a shape.
#[derive(Clone, Copy)]
struct Layout {
    component: ComponentType,
    row: Type,
    target: Option<Target>,
}

const TIMES: Layout = Layout { component: ComponentType::F32, row: Type::Scalar, target: None };
const PLACES: Layout =
    Layout { component: ComponentType::F32, row: Type::Vec3, target: Some(Target::ArrayBuffer) };
const TRIANGLES: Layout =
    Layout { component: ComponentType::U32, row: Type::Scalar, target: Some(Target::ElementArrayBuffer) };

impl File {
    /// A part of the buffer.
    fn view(&mut self, data: &[u8], target: Option<Target>) -> Index<View> {
        let start = self.bytes.len();
        self.bytes.extend(data);
        self.bytes.resize(self.bytes.len().next_multiple_of(4), 0);
        self.root.push(View {
            buffer: Index::new(0),
            byte_length: data.len().into(),
            byte_offset: Some(start.into()),
            byte_stride: None,
            name: None,
            target: target.map(Valid),
            extensions: None,
            extras: None,
        })
    }

    fn accessor(&mut self, layout: Layout, data: &[u8]) -> Index<Accessor> {
        let row = layout.row.multiplicity() * layout.component.size();
        let view = self.view(data, layout.target);
        self.root.push(Accessor {
            buffer_view: Some(view),
            byte_offset: None,
            count: (data.len() / row).into(),
            component_type: Valid(GenericComponentType(layout.component)),
            extensions: None,
            extras: None,
            type_: Valid(layout.row),
            min: None,
            max: None,
            name: None,
            normalized: false,
            sparse: None,
        })
    }

    fn floats(&mut self, layout: Layout, data: &[f32]) -> Index<Accessor> {
        self.accessor(layout, &data.iter().flat_map(|f| f.to_le_bytes()).collect::<Vec<u8>>())
    }

    /// The same, with the least and greatest of each column: the standard asks for those of places and times.
    fn bounded(&mut self, layout: Layout, data: &[f32]) -> Index<Accessor> {
        let width = layout.row.multiplicity();
        let bounds = |pick: fn(f32, f32) -> f32| -> json::Value {
            let column = |c| data.iter().skip(c).step_by(width).copied().reduce(pick).unwrap_or(0.0);
            (0..width).map(column).collect::<Vec<f32>>().into()
        };
        let accessor = self.floats(layout, data);
        let of = &mut self.root.accessors[accessor.value()];
        (of.min, of.max) = (Some(bounds(f32::min)), Some(bounds(f32::max)));
        accessor
    }

    fn indices(&mut self, all: impl IntoIterator<Item = u32>) -> Index<Accessor> {
        self.accessor(TRIANGLES, &all.into_iter().flat_map(u32::to_le_bytes).collect::<Vec<u8>>())
    }

    fn node(&mut self, name: &str, mesh: Option<Index<json::Mesh>>) -> Index<Node> {
        self.root.push(Node { name: Some(name.into()), mesh, ..Node::default() })
    }

    fn at(&mut self, node: Index<Node>) -> &mut Node {
        &mut self.root.nodes[node.value()]
    }

    fn place(&mut self, node: Index<Node>, pose: Pose) {
        let node = self.at(node);
        node.translation = Some(pose.position.as_vec3().to_array());
        node.rotation = Some(UnitQuaternion(single(pose.rotation)));
    }

    fn camera_node(&mut self, shot: &Shot) -> Index<Node> {
        let lens = |pick: fn(&rovnek_core::track::LensState) -> f64| -> Vec<f64> {
            shot.track.points.iter().map(|p| pick(&p.lens)).collect()
        };
        let focal = shot.track.points.first().map_or(shot.camera.focal_mm, |p| p.lens.focal_mm);
        let (width, aspect) = (shot.camera.sensor_width_mm, shot.camera.frame_aspect);
        let (_, yfov) = shot.camera.field_of_view(focal);
        let perspective = Perspective {
            aspect_ratio: Some(aspect as f32),
            yfov: yfov as f32,
            zfar: None,
            znear: 0.05,
            extensions: None,
            extras: None,
        };
        let camera = self.root.push(json::Camera {
            name: None,
            orthographic: None,
            perspective: Some(perspective),
            type_: Valid(json::camera::Type::Perspective),
            extensions: None,
            extras: None,
        });
        let node = self.node(&shot.name, None);
        self.at(node).camera = Some(camera);
        self.at(node).extras = extras(&serde_json::json!({
            "focal_mm": lens(|l| l.focal_mm), "focus_m": lens(|l| l.focus_m), "f_stop": lens(|l| l.f_stop),
            "sensor_width_mm": width, "sensor_height_mm": shot.camera.sensor_height_mm,
            "squeeze": shot.camera.squeeze,
        }));
        node
    }

    fn mover(&mut self, shot: &Shot, index: usize, input: Index<Accessor>) -> Index<Node> {
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
        self.at(root).children = Some(children).filter(|c| !c.is_empty());
        root
    }

    /// A piece that stands; one that is hidden, or taken out for the setup, has no shape here.
    fn piece(&mut self, piece: &Piece, setup: SetupId, all: &[Piece], assets: &Assets) -> Index<Node> {
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
            self.at(node).scale = Some([scale as f32; 3]);
        }
        self.remember(node, piece);
        node
    }

    fn remember(&mut self, node: Index<Node>, piece: &Piece) {
        let whole = serde_json::json!({ PIECE: Piece { id: PieceId(0), ..piece.clone() } });
        self.at(node).extras = extras(&whole);
    }

    /// A mesh that was brought in, coloured at its corners.
    fn brought(&mut self, name: &str, mesh: &Mesh) -> Index<json::Mesh> {
        let position = self.bounded(PLACES, mesh.places.as_flattened());
        let normal = self.floats(PLACES, mesh.normals.as_flattened());
        let layout = Layout { component: ComponentType::U8, row: Type::Vec4, ..PLACES };
        let colors: Vec<u8> = mesh.colors.iter().flat_map(|&[r, g, b]| [r, g, b, 255]).collect();
        let color = self.accessor(layout, &colors);
        self.root.accessors[color.value()].normalized = true;
        let indices = self.indices(mesh.triangles.iter().flatten().copied());
        let material = self.material_named("brought in", matt);
        let attributes =
            [(Semantic::Positions, position), (Semantic::Normals, normal), (Semantic::Colors(0), color)];
        self.mesh_of(name, vec![primitive(attributes, indices, material)])
    }

    /// An upright picture, seen from both sides.
    fn picture(&mut self, name: &str, [width, height]: [f64; 2], bytes: &[u8]) -> Index<json::Mesh> {
        let (x, y) = (width as f32 / 2.0, height as f32);
        let position = self.bounded(PLACES, &[-x, 0.0, 0.0, x, 0.0, 0.0, x, y, 0.0, -x, y, 0.0]);
        let normal = self.floats(PLACES, &[0.0, 0.0, 1.0].repeat(4));
        let corners = Layout { row: Type::Vec2, ..PLACES };
        let corners = self.floats(corners, &[0.0, 1.0, 1.0, 1.0, 1.0, 0.0, 0.0, 0.0]);
        let indices = self.indices([0, 1, 2, 0, 2, 3]);
        let png = bytes.starts_with(b"\x89PNG");
        let view = self.view(bytes, None);
        let source = self.root.push(json::Image {
            buffer_view: Some(view),
            mime_type: Some(MimeType(if png { "image/png" } else { "image/jpeg" }.into())),
            name: None,
            uri: None,
            extensions: None,
            extras: None,
        });
        let texture = json::Texture { name: None, sampler: None, source, extensions: None, extras: None };
        let index = self.root.push(texture);
        let texture = Info { index, tex_coord: 0, extensions: None, extras: None };
        let mut material = matt();
        material.name = Some(name.into());
        material.double_sided = true;
        // What is clear in it is clear.
        material.alpha_mode = Valid(if png { AlphaMode::Blend } else { AlphaMode::Opaque });
        material.pbr_metallic_roughness.base_color_texture = Some(texture);
        material.pbr_metallic_roughness.roughness_factor = StrengthFactor(1.0);
        let material = self.root.push(material);
        let attributes =
            [(Semantic::Positions, position), (Semantic::Normals, normal), (Semantic::TexCoords(0), corners)];
        self.mesh_of(name, vec![primitive(attributes, indices, material)])
    }

    fn animate(
        &mut self,
        node: Index<Node>,
        input: Index<Accessor>,
        poses: impl Iterator<Item = Pose> + Clone,
    ) {
        let places: Vec<f32> = poses.clone().flat_map(|p| p.position.as_vec3().to_array()).collect();
        // Neighbouring quaternions of opposite sign would be interpolated the long way round.
        let mut before = DQuat::IDENTITY;
        let turns: Vec<f32> = poses
            .flat_map(|p| {
                before = if before.dot(p.rotation) < 0.0 { -p.rotation } else { p.rotation };
                single(before)
            })
            .collect();
        for (path, row, data) in
            [(Property::Translation, Type::Vec3, places), (Property::Rotation, Type::Vec4, turns)]
        {
            let output = self.floats(Layout { row, ..TIMES }, &data);
            let sampler = Sampler {
                input,
                output,
                interpolation: Valid(Interpolation::Linear),
                extensions: None,
                extras: None,
            };
            let sampler = Index::push(&mut self.samplers, sampler);
            let target = json::animation::Target { node, path: Valid(path), extensions: None, extras: None };
            self.channels.push(Channel { sampler, target, extensions: None, extras: None });
        }
    }

    fn material(&mut self, material: Material) -> Index<json::Material> {
        let name = serde_json::to_value(material)
            .ok()
            .and_then(|v| v.as_str().map(String::from))
            .unwrap_or_default();
        self.material_named(&name, || {
            let [r, g, b] = material.color();
            let mut made = matt();
            made.pbr_metallic_roughness.base_color_factor = PbrBaseColorFactor([r, g, b, 1.0]);
            if material.glows() {
                made.emissive_factor = EmissiveFactor([r, g, b]);
            }
            made
        })
    }

    fn material_named(&mut self, name: &str, make: impl FnOnce() -> json::Material) -> Index<json::Material> {
        let root = &mut self.root;
        let made = || root.push(json::Material { name: Some(name.into()), ..make() });
        *self.material_of.entry(name.into()).or_insert_with(made)
    }

    /// One mesh of several solids, a primitive for each material.
    fn mesh(&mut self, name: &str, solids: &[Solid]) -> Index<json::Mesh> {
        let mut by_material: Vec<(Material, Surface)> = Vec::new();
        for solid in solids {
            let at = by_material.iter().position(|(m, _)| *m == solid.body.material).unwrap_or_else(|| {
                by_material.push((solid.body.material, Surface::default()));
                by_material.len() - 1
            });
            by_material[at].1.add(&solid.body, solid.pose);
        }
        let mut primitives = Vec::new();
        for (material, surface) in by_material {
            let position = self.bounded(PLACES, &surface.places);
            let normal = self.floats(PLACES, &surface.normals);
            let indices = self.indices(surface.triangles.iter().copied());
            let material = self.material(material);
            let attributes = [(Semantic::Positions, position), (Semantic::Normals, normal)];
            primitives.push(primitive(attributes, indices, material));
        }
        self.mesh_of(name, primitives)
    }

    fn mesh_of(&mut self, name: &str, primitives: Vec<Primitive>) -> Index<json::Mesh> {
        self.root.push(json::Mesh {
            extensions: None,
            extras: None,
            name: Some(name.into()),
            primitives,
            weights: None,
        })
    }

    fn finish(mut self, name: &str, top: &[Index<Node>]) -> Vec<u8> {
        self.root.asset.generator = Some("Rovnek".into());
        let (nodes, name) = (top.to_vec(), Some(name.into()));
        self.root.scene = Some(self.root.push(json::Scene { extensions: None, extras: None, name, nodes }));
        if !self.bytes.is_empty() {
            self.root.push(json::Buffer {
                byte_length: self.bytes.len().into(),
                name: None,
                uri: None,
                extensions: None,
                extras: None,
            });
        }
        if !self.channels.is_empty() {
            self.root.push(json::Animation {
                extensions: None,
                extras: None,
                channels: self.channels,
                name: Some("move".into()),
                samplers: self.samplers,
            });
        }
        let text = self.root.to_vec().expect("a description of numbers and texts can be written");
        let glb = gltf::Glb {
            header: gltf::binary::Header { magic: *b"glTF", version: 2, length: 0 },
            json: text.into(),
            bin: Some(self.bytes).filter(|b| !b.is_empty()).map(Into::into),
        };
        glb.to_vec().expect("a file of less than 4 GB is written to memory")
    }
}

fn extras(value: &json::Value) -> json::Extras {
    serde_json::value::to_raw_value(value).ok()
}

/// A surface that does not shine.
fn matt() -> json::Material {
    let pbr_metallic_roughness = PbrMetallicRoughness {
        metallic_factor: StrengthFactor(0.0),
        roughness_factor: StrengthFactor(0.8),
        ..PbrMetallicRoughness::default()
    };
    json::Material { pbr_metallic_roughness, ..json::Material::default() }
}

fn primitive(
    attributes: impl IntoIterator<Item = (Semantic, Index<Accessor>)>,
    indices: Index<Accessor>,
    material: Index<json::Material>,
) -> Primitive {
    Primitive {
        attributes: attributes.into_iter().map(|(what, values)| (Valid(what), values)).collect(),
        extensions: None,
        extras: None,
        indices: Some(indices),
        material: Some(material),
        mode: Valid(Mode::Triangles),
        targets: None,
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
    use serde_json::Value;

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
        // Single precision.
        assert!((yfov - 2.0 * (24.89 / 2.39 / 100.0_f64).atan()).abs() < 1e-7);
    }

    #[test]
    fn a_track_of_nothing_is_still_a_file() {
        let glb = write(&Shot::of_track(&Track::default()));
        let (json, bytes) = parts(&glb);
        assert!(json.get("animations").is_none() && bytes.is_empty());
    }
}
