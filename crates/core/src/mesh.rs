//! Triangle meshes that were brought in, and pictures of them from above.

use crate::set::convex_hull;
use glam::Vec3;

/// A mesh around its foot: the middle of its bounds, at their lowest.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Mesh {
    /// Corner after corner, metres.
    pub places: Vec<[f32; 3]>,
    /// Outwards, unit length, one for each corner.
    pub normals: Vec<[f32; 3]>,
    /// Linear red, green, blue, 0 to 255, one for each corner.
    pub colors: Vec<[u8; 3]>,
    /// Three corners each.
    pub triangles: Vec<[u32; 3]>,
}

/// Most points of an outline that is kept with a piece.
const OUTLINE: usize = 200;

impl Mesh {
    /// Lowest and highest x, y and z.
    pub fn bounds(&self) -> ([f32; 3], [f32; 3]) {
        let first = self.places.first().copied().unwrap_or_default();
        self.places.iter().fold((first, first), |(low, high), p| {
            ([0, 1, 2].map(|i| low[i].min(p[i])), [0, 1, 2].map(|i| high[i].max(p[i])))
        })
    }

    /// Whole size along x, y and z.
    pub fn size(&self) -> [f64; 3] {
        let (low, high) = self.bounds();
        [0, 1, 2].map(|i| f64::from(high[i] - low[i]))
    }

    /// Moved so that its foot is the origin; where the foot was.
    pub fn stood(mut self) -> (Mesh, [f32; 3]) {
        let (low, high) = self.bounds();
        let foot = [(low[0] + high[0]) / 2.0, low[1], (low[2] + high[2]) / 2.0];
        for place in &mut self.places {
            *place = [0, 1, 2].map(|i| place[i] - foot[i]);
        }
        (self, foot)
    }

    /// Its outline from above.
    pub fn outline(&self) -> Vec<[f64; 2]> {
        let flat = self.places.iter().map(|p| [f64::from(p[0]), f64::from(p[2])]).collect();
        let hull = convex_hull(flat);
        let every = hull.len().div_ceil(OUTLINE).max(1);
        hull.into_iter().step_by(every).collect()
    }

    /// Normals of flat triangles for corners that have none.
    pub fn flat_normals(places: &[[f32; 3]], triangles: &[[u32; 3]]) -> Vec<[f32; 3]> {
        let mut sums = vec![Vec3::ZERO; places.len()];
        for corners in triangles {
            let [a, b, c] = corners.map(|i| Vec3::from(places[i as usize]));
            let normal = (b - a).cross(c - a);
            corners.iter().for_each(|i| sums[*i as usize] += normal);
        }
        sums.into_iter().map(|n| n.normalize_or(Vec3::Y).to_array()).collect()
    }

    /// As kept and sent: corners and triangles (u32 each), then places and normals (three f32 a
    /// corner), colours (three bytes a corner), padding to four, triangles (three u32 each).
    pub fn to_bytes(&self) -> Vec<u8> {
        let mut out = Vec::new();
        out.extend((self.places.len() as u32).to_le_bytes());
        out.extend((self.triangles.len() as u32).to_le_bytes());
        let floats = self.places.iter().chain(&self.normals).flatten();
        out.extend(floats.flat_map(|v| v.to_le_bytes()));
        out.extend(self.colors.iter().flatten());
        out.resize(out.len().next_multiple_of(4), 0);
        out.extend(self.triangles.iter().flatten().flat_map(|i| i.to_le_bytes()));
        out
    }

    /// From [`Mesh::to_bytes`]; none of anything else.
    pub fn from_bytes(bytes: &[u8]) -> Option<Mesh> {
        let word = |at: usize| Some(u32::from_le_bytes(bytes.get(at..at + 4)?.try_into().ok()?));
        let (corners, count) = (word(0)? as usize, word(4)? as usize);
        let colors_at = 8usize.checked_add(corners.checked_mul(24)?)?;
        let triangles_at = (colors_at + corners * 3).next_multiple_of(4);
        if bytes.len() != triangles_at.checked_add(count.checked_mul(12)?)? {
            return None;
        }
        let triple = |at: usize| [0, 4, 8].map(|o| word(at + o).unwrap_or_default());
        let floats = |at: usize| triple(at).map(f32::from_bits);
        Some(Mesh {
            places: (0..corners).map(|i| floats(8 + i * 12)).collect(),
            normals: (0..corners).map(|i| floats(8 + corners * 12 + i * 12)).collect(),
            colors: bytes[colors_at..colors_at + corners * 3].chunks(3).map(|c| [c[0], c[1], c[2]]).collect(),
            triangles: (0..count).map(|i| triple(triangles_at + i * 12)).collect(),
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn roof() -> Mesh {
        let places = vec![[1.0, 2.0, 1.0], [3.0, 2.0, 1.0], [3.0, 2.0, 5.0], [2.0, 3.5, 2.0]];
        let triangles = vec![[0, 2, 1], [0, 3, 2]];
        Mesh {
            normals: Mesh::flat_normals(&places, &triangles),
            colors: vec![[1, 2, 3]; 4],
            places,
            triangles,
        }
    }

    #[test]
    fn a_mesh_stands_on_its_foot_and_shows_its_outline() {
        let (mesh, foot) = roof().stood();
        assert_eq!(foot, [2.0, 2.0, 3.0]);
        assert_eq!((mesh.size(), mesh.bounds().0[1]), ([2.0, 1.5, 4.0], 0.0));
        assert_eq!(mesh.outline().len(), 3);
    }

    #[test]
    fn bytes_come_back_and_other_bytes_do_not() {
        let mesh = roof();
        let bytes = mesh.to_bytes();
        assert_eq!(Mesh::from_bytes(&bytes), Some(mesh));
        assert_eq!(Mesh::from_bytes(&bytes[..bytes.len() - 1]), None);
        assert_eq!(Mesh::from_bytes(&[255; 40]), None);
    }
}
