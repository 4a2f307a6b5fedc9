//! Reading glTF 2.0 (Khronos), as `.glb` or as `.gltf` with everything inside: sets that Rovnek
//! wrote come back piece by piece; anything else becomes one mesh.
//!
//! Of materials the base colour is taken, from its factor, from the texture at each corner, and
//! from corner colours. A skin that an animation moves is somebody who moves ([`crate::gltf_figure`]), not a
//! part of the set; other animations are left out and named in the notes.

use crate::glb::{Assets, PIECE};
use crate::gltf_figure::Figure;
use crate::gltf_file::{File, MOST_NODES, data_of, open};
use crate::{FormatError, Read};
use glam::{Affine3A, Mat4, Vec3};
use gltf::Semantic;
use gltf::mesh::Mode;
use rovnek_core::ids::{ImageId, MeshId};
use rovnek_core::mesh::Mesh;
use rovnek_core::set::{Form, Piece};
use std::io::Cursor;
use std::sync::Arc;

/// Bounds of what is taken.
pub const MOST_TRIANGLES: usize = 400_000;
/// Largest side of a texture or card image, pixels.
pub const LARGEST_SIDE: u32 = 4096;
/// Largest whole size, metres.
const LARGEST_M: f64 = 500.0;
/// Pixels of the longer side of an image that corners take their colours from: a corner sees no more.
const LOOKED_UP: u32 = 512;

/// Pieces, and the assets they refer to by the ids they have here.
#[derive(Clone, Debug, Default)]
pub struct ImportedSet {
    /// In the order of the file.
    pub pieces: Vec<Piece>,
    /// Their meshes and images.
    pub assets: Assets,
    /// Figures that move in the set.
    pub figures: Vec<Figure>,
}

/// The pieces of a set. `name` is given to what has none.
pub fn read(bytes: &[u8], name: &str) -> Result<Read<ImportedSet>, FormatError> {
    read_while(bytes, name, &mut |_| true)
}

/// The same, as long as it may go on; told is how far it is, from 0 to 1. Many large images take long.
pub fn read_while(
    bytes: &[u8],
    name: &str,
    go_on: &mut dyn FnMut(f64) -> bool,
) -> Result<Read<ImportedSet>, FormatError> {
    let reader = Reader { file: open(bytes)?, textures: Vec::new(), notes: Vec::new(), triangles: 0 };
    // The gltf crate panics on what a mesh may not be written as, instead of reporting it.
    let work = || reader.read(name, go_on);
    std::panic::catch_unwind(std::panic::AssertUnwindSafe(work)).unwrap_or_else(|_| {
        Err(FormatError::whole("a mesh of it is written as no mesh can be; the file is damaged"))
    })
}

struct Texture {
    image: image::RgbImage,
}

struct Reader {
    file: File,
    textures: Vec<Texture>,
    notes: Vec<String>,
    triangles: usize,
}

impl Reader {
    fn read(
        mut self,
        name: &str,
        go_on: &mut dyn FnMut(f64) -> bool,
    ) -> Result<Read<ImportedSet>, FormatError> {
        let file = self.file.file.clone();
        let steps = (file.images().len() + 1) as f64;
        for (i, image) in file.images().enumerate() {
            if !go_on(i as f64 / steps) {
                return Err(FormatError::whole("it was stopped; nothing of it came in"));
            }
            self.textures.push(self.texture(&image)?);
        }
        let Some(scene) = file.default_scene().or_else(|| file.scenes().next()) else {
            return Err(FormatError::whole(
                "there is no scene in it; write the whole scene, not only meshes",
            ));
        };
        let mut out = ImportedSet { figures: self.file.figures()?, ..ImportedSet::default() };
        let dances = |n: &gltf::Node, figures: &[Figure]| {
            n.skin().is_some_and(|s| figures.iter().any(|f| f.skins.contains(&s.index())))
        };
        let mut loose = Mesh::default();
        // Depth first, with a bound instead of recursion: nodes may form a ring.
        let mut open: Vec<(gltf::Node, Mat4)> = scene.nodes().map(|n| (n, Mat4::IDENTITY)).collect();
        open.reverse();
        let mut visited = 0;
        while let Some((node, above)) = open.pop() {
            visited += 1;
            if visited > MOST_NODES {
                return Err(FormatError::whole(
                    "its nodes contain each other in a ring; the file is damaged",
                ));
            }
            let here = above * Mat4::from_cols_array_2d(&node.transform().matrix());
            if let Some(piece) = piece_of(&node) {
                self.remembered(piece, &node, &mut out)?;
                continue;
            }
            if let Some(mesh) = node.mesh().filter(|_| !dances(&node, &out.figures)) {
                self.mesh(&mesh, here, &mut loose)?;
            }
            open.extend(node.children().map(|c| (c, here)).collect::<Vec<_>>().into_iter().rev());
        }
        if !loose.triangles.is_empty() {
            self.stand(loose, name, &mut out)?;
        }
        if out.pieces.is_empty() && out.figures.is_empty() {
            return Err(FormatError::whole(
                "there are no triangles in it, and nobody who moves; lines and points are not taken",
            ));
        }
        if file.animations().len() > 0 && out.figures.is_empty() {
            self.note("animations are left out");
        }
        Ok(Read { content: out, notes: self.notes })
    }

    /// A piece that Rovnek wrote, with the mesh or image it refers to.
    fn remembered(
        &mut self,
        mut piece: Piece,
        node: &gltf::Node,
        out: &mut ImportedSet,
    ) -> Result<(), FormatError> {
        piece.check().map_err(|e| FormatError::whole(format!("{e}; the file was changed by hand")))?;
        // The setups that it was taken out for are not in the file.
        piece.wild.clear();
        let key = out.pieces.len() as u32 + 1;
        match &mut piece.form {
            Form::Mesh { mesh, size, outline, .. } => {
                let mut found = Mesh::default();
                if let Some(there) = node.mesh() {
                    self.mesh(&there, Mat4::IDENTITY, &mut found)?;
                }
                if found.triangles.is_empty() {
                    return Err(FormatError::whole(format!("the mesh of \"{}\" is missing", piece.name)));
                }
                (*mesh, *size, *outline) = (MeshId(key), found.size(), found.outline());
                out.assets.meshes.insert(MeshId(key), Arc::new(found));
            }
            Form::Card { image, sequence, .. } => {
                *image = ImageId(0);
                if sequence.take().is_some() {
                    self.note(
                        "of cards with several images the first is there; bring the others to them again",
                    );
                }
                if let Some(bytes) = node.mesh().and_then(|m| self.picture(&m)) {
                    *image = ImageId(key);
                    out.assets.images.insert(ImageId(key), Arc::new(bytes));
                }
            }
            _ => {}
        }
        out.pieces.push(piece);
        Ok(())
    }

    /// The image on the first primitive of a mesh, as it is in the file.
    fn picture(&self, mesh: &gltf::Mesh) -> Option<Vec<u8>> {
        let material = mesh.primitives().next()?.material();
        let image = material.pbr_metallic_roughness().base_color_texture()?.texture().source();
        self.image_bytes(&image).ok()
    }

    /// Makes pieces of meshes that are none yet.
    fn stand(&mut self, mesh: Mesh, name: &str, out: &mut ImportedSet) -> Result<(), FormatError> {
        let size = mesh.size();
        if size.iter().any(|v| *v > LARGEST_M) {
            let [x, y, z] = size.map(|v| v.round());
            return Err(FormatError::whole(format!(
                "it is {x} × {y} × {z} m large; at most {LARGEST_M} m are taken, so check its unit"
            )));
        }
        let (mesh, foot) = mesh.stood();
        let key = out.pieces.len() as u32 + 1;
        let form = Form::Mesh { mesh: MeshId(key), size, outline: mesh.outline(), scale: 1.0 };
        let place = foot.map(|v| f64::from(v).clamp(-900.0, 900.0));
        out.pieces.push(Piece::new(name, form, place));
        out.assets.meshes.insert(MeshId(key), Arc::new(mesh));
        Ok(())
    }

    fn mesh(&mut self, mesh: &gltf::Mesh, at: Mat4, out: &mut Mesh) -> Result<(), FormatError> {
        for primitive in mesh.primitives() {
            match primitive.mode() {
                Mode::Triangles | Mode::TriangleStrip | Mode::TriangleFan => {
                    self.primitive(&primitive, at, out)?;
                }
                _ => self.note("lines and points are left out"),
            }
        }
        Ok(())
    }

    fn primitive(
        &mut self,
        primitive: &gltf::Primitive,
        at: Mat4,
        out: &mut Mesh,
    ) -> Result<(), FormatError> {
        let buffers = &self.file.buffers;
        let reader = primitive.reader(|b| buffers.get(b.index()).map(Vec::as_slice));
        let damaged = |what: &str| FormatError::whole(format!("{what}; the file is damaged"));
        let kind = primitive.get(&Semantic::Positions).map(|a| (a.data_type(), a.dimensions()));
        if kind != Some((gltf::accessor::DataType::F32, gltf::accessor::Dimensions::Vec3)) {
            return Err(damaged("a mesh has no positions"));
        }
        let places: Vec<[f32; 3]> =
            reader.read_positions().ok_or_else(|| damaged("positions are missing"))?.collect();
        if places.iter().flatten().any(|v| !v.is_finite() || v.abs() > 1e6) {
            return Err(damaged("a position is not a number, or farther away than 1000 km"));
        }
        let order: Vec<u32> = match reader.read_indices() {
            Some(indices) => indices.into_u32().collect(),
            None => (0..places.len() as u32).collect(),
        };
        if order.iter().any(|i| *i as usize >= places.len()) {
            return Err(damaged("a triangle has a corner that is not there"));
        }
        let triangles = triangles(primitive.mode(), &order);
        self.triangles += triangles.len();
        if self.triangles > MOST_TRIANGLES {
            return Err(FormatError::whole(format!(
                "it has more than {MOST_TRIANGLES} triangles; make it simpler before it is brought in"
            )));
        }
        let normals: Vec<[f32; 3]> = match reader.read_normals() {
            Some(read) if read.len() == places.len() => read.collect(),
            _ => Mesh::flat_normals(&places, &triangles),
        };
        let material = primitive.material().pbr_metallic_roughness();
        let [r, g, b, _] = material.base_color_factor();
        let texture = material.base_color_texture();
        let spots: Option<Vec<[f32; 2]>> = texture
            .as_ref()
            .and_then(|t| reader.read_tex_coords(t.tex_coord()))
            .map(|read| read.into_f32().collect());
        let tints: Option<Vec<[f32; 3]>> = reader.read_colors(0).map(|read| read.into_rgb_f32().collect());
        let image = texture.and_then(|t| self.textures.get(t.texture().source().index()));
        let first = out.places.len() as u32;
        let turn = Affine3A::from_mat4(at);
        let upright = turn.matrix3.inverse().transpose();
        for (i, place) in places.iter().enumerate() {
            out.places.push(turn.transform_point3(Vec3::from(*place)).to_array());
            let normal = Vec3::from(upright * glam::Vec3A::from(normals[i])).normalize_or(Vec3::Y);
            out.normals.push(normal.to_array());
            let tint = tints.as_ref().and_then(|t| t.get(i)).copied().unwrap_or([1.0; 3]);
            let painted = match (image, spots.as_ref().and_then(|s| s.get(i))) {
                (Some(texture), Some(spot)) => texture.at(*spot),
                _ => [1.0; 3],
            };
            let color = [r * tint[0] * painted[0], g * tint[1] * painted[1], b * tint[2] * painted[2]];
            out.colors.push(color.map(|c| (c.clamp(0.0, 1.0) * 255.0).round() as u8));
        }
        if out.places[first as usize..].iter().flatten().any(|v| !v.is_finite()) {
            return Err(damaged("a node has no proper place"));
        }
        // A mirrored node turns its triangles inside out.
        let mirrored = turn.matrix3.determinant() < 0.0;
        out.triangles.extend(triangles.iter().map(|&[a, b, c]| {
            let [b, c] = if mirrored { [c, b] } else { [b, c] };
            [a + first, b + first, c + first]
        }));
        Ok(())
    }

    fn image_bytes(&self, image: &gltf::Image) -> Result<Vec<u8>, FormatError> {
        match image.source() {
            gltf::image::Source::View { view, .. } => {
                let all = &self.file.buffers[view.buffer().index()];
                Ok(all[view.offset()..view.offset() + view.length()].to_vec())
            }
            gltf::image::Source::Uri { uri, .. } => data_of(uri),
        }
    }

    /// Small enough that many fit into memory; those that are too large to begin with are refused.
    fn texture(&self, source: &gltf::Image) -> Result<Texture, FormatError> {
        let bytes = self.image_bytes(source)?;
        let (image, _) =
            picture(&bytes).map_err(|why| FormatError::whole(format!("image {}: {why}", source.index())))?;
        let (width, height) = (image.width(), image.height());
        let image = if width.max(height) > LOOKED_UP { image.thumbnail(LOOKED_UP, LOOKED_UP) } else { image };
        Ok(Texture { image: image.into_rgb8() })
    }

    fn note(&mut self, words: &str) {
        if !self.notes.iter().any(|n| n == words) {
            self.notes.push(words.into());
        }
    }
}

impl Texture {
    /// Linear colour at a spot, which repeats beyond 0 to 1.
    fn at(&self, [u, v]: [f32; 2]) -> [f32; 3] {
        let (w, h) = self.image.dimensions();
        let pixel = |share: f32, size: u32| {
            let share = if share.is_finite() { share.rem_euclid(1.0) } else { 0.0 };
            ((share * size as f32) as u32).min(size - 1)
        };
        self.image.get_pixel(pixel(u, w), pixel(v, h)).0.map(|c| {
            let s = f32::from(c) / 255.0;
            // The sRGB transfer function (IEC 61966-2-1).
            if s <= 0.04045 { s / 12.92 } else { ((s + 0.055) / 1.055).powf(2.4) }
        })
    }
}

/// An image and its media type; a clause where it is none, or too large.
pub fn picture(bytes: &[u8]) -> Result<(image::DynamicImage, &'static str), String> {
    let reader = image::ImageReader::new(Cursor::new(bytes)).with_guessed_format();
    let reader = reader.map_err(|e| format!("it cannot be read: {e}"))?;
    let kind = match reader.format() {
        Some(image::ImageFormat::Png) => "image/png",
        Some(image::ImageFormat::Jpeg) => "image/jpeg",
        _ => return Err("this is neither PNG nor JPEG; save it as one of them".into()),
    };
    let (width, height) = reader.into_dimensions().map_err(|e| format!("it is damaged: {e}"))?;
    if width == 0 || height == 0 || width > LARGEST_SIDE || height > LARGEST_SIDE {
        return Err(format!(
            "it is {width} × {height} pixels; at most {LARGEST_SIDE} each way are taken, so scale it down"
        ));
    }
    let image = image::load_from_memory(bytes).map_err(|e| format!("it is damaged: {e}"))?;
    Ok((image, kind))
}

fn triangles(mode: Mode, order: &[u32]) -> Vec<[u32; 3]> {
    match mode {
        Mode::TriangleStrip => {
            let turned =
                |(i, w): (usize, &[u32])| if i % 2 == 0 { [w[0], w[1], w[2]] } else { [w[1], w[0], w[2]] };
            order.windows(3).enumerate().map(turned).collect()
        }
        Mode::TriangleFan => order.windows(2).skip(1).map(|w| [order[0], w[0], w[1]]).collect(),
        _ => order.chunks_exact(3).map(|c| [c[0], c[1], c[2]]).collect(),
    }
}

/// The piece in a node's extras, if Rovnek wrote it.
fn piece_of(node: &gltf::Node) -> Option<Piece> {
    let extras: serde_json::Value = serde_json::from_str(node.extras().as_ref()?.get()).ok()?;
    serde_json::from_value(extras.get(PIECE)?.clone()).ok()
}
