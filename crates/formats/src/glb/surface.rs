//! Solids as triangles.

use rovnek_core::solid::{Body, Shape};
use rovnek_core::space::Pose;
use std::f32::consts::{PI, TAU};

/// Triangles with a normal at each corner.
#[derive(Default)]
pub(super) struct Surface {
    /// Three numbers a corner, metres.
    pub places: Vec<f32>,
    /// Three numbers a corner, of length 1.
    pub normals: Vec<f32>,
    /// Three corners a triangle, anticlockwise as seen from outside.
    pub triangles: Vec<u32>,
}

impl Surface {
    /// A posed body on top.
    pub fn add(&mut self, body: &Body, pose: Pose) {
        match body.shape {
            Shape::Box { size } => self.cuboid(size.map(|s| s as f32 / 2.0), pose),
            Shape::Cylinder { radius, height } => {
                self.turned(&profile_of_cylinder(radius as f32, height as f32), pose)
            }
            Shape::Wedge { size } => self.wedge(size.map(|s| s as f32 / 2.0), pose),
            Shape::Ball { radius } => self.turned(&profile_of_ball(radius as f32), pose),
        }
    }

    fn vertex(&mut self, place: [f32; 3], normal: [f32; 3], pose: Pose) {
        let put = |v: [f32; 3]| pose.rotation * rovnek_core::DVec3::from(v.map(f64::from));
        self.places.extend((put(place) + pose.position).as_vec3().to_array());
        self.normals.extend(put(normal).normalize().as_vec3().normalize().to_array());
    }

    fn cuboid(&mut self, half: [f32; 3], pose: Pose) {
        for axis in 0..3 {
            let (u, v) = ((axis + 1) % 3, (axis + 2) % 3);
            for side in [-1.0f32, 1.0] {
                let first = (self.places.len() / 3) as u32;
                // Anticlockwise as seen from outside.
                for (a, b) in [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)] {
                    let mut corner = [0.0; 3];
                    corner[axis] = side * half[axis];
                    corner[u] = side * a * half[u];
                    corner[v] = b * half[v];
                    let mut normal = [0.0; 3];
                    normal[axis] = side;
                    self.vertex(corner, normal, pose);
                }
                self.triangles.extend([0, 1, 2, 0, 2, 3].map(|i| first + i));
            }
        }
    }

    /// A slope from the lower edge at +z to the upper one at −z.
    fn wedge(&mut self, [x, y, z]: [f32; 3], pose: Pose) {
        let up = [0.0, z, y];
        let faces: [(&[[f32; 3]], [f32; 3]); 5] = [
            (&[[-x, -y, -z], [x, -y, -z], [x, -y, z], [-x, -y, z]], [0.0, -1.0, 0.0]),
            (&[[x, -y, -z], [-x, -y, -z], [-x, y, -z], [x, y, -z]], [0.0, 0.0, -1.0]),
            (&[[-x, -y, z], [x, -y, z], [x, y, -z], [-x, y, -z]], up),
            (&[[-x, -y, -z], [-x, -y, z], [-x, y, -z]], [-1.0, 0.0, 0.0]),
            (&[[x, -y, z], [x, -y, -z], [x, y, -z]], [1.0, 0.0, 0.0]),
        ];
        for (corners, normal) in faces {
            let first = (self.places.len() / 3) as u32;
            corners.iter().for_each(|c| self.vertex(*c, normal, pose));
            for i in 2..corners.len() as u32 {
                self.triangles.extend([first, first + i - 1, first + i]);
            }
        }
    }

    /// A surface of revolution about y: points (radius, y, normal outwards, normal up) from the
    /// bottom to the top.
    fn turned(&mut self, profile: &[[f32; 4]], pose: Pose) {
        const AROUND: u32 = 20;
        let first = (self.places.len() / 3) as u32;
        for i in 0..=AROUND {
            let (sin, cos) = (i as f32 / AROUND as f32 * TAU).sin_cos();
            for &[radius, y, out, up] in profile {
                self.vertex([radius * sin, y, radius * cos], [out * sin, up, out * cos], pose);
            }
        }
        let rows = profile.len() as u32;
        for i in 0..AROUND {
            for j in 0..rows - 1 {
                let (a, b) = (first + i * rows + j, first + (i + 1) * rows + j);
                let [low, y0, ..] = profile[j as usize];
                let [high, y1, ..] = profile[j as usize + 1];
                // An edge stands twice, with a normal for each side of it.
                if low == high && y0 == y1 {
                    continue;
                }
                // At an axis point one of the two triangles has no area.
                if low > 0.0 {
                    self.triangles.extend([a, b, b + 1]);
                }
                if high > 0.0 {
                    self.triangles.extend([a, b + 1, a + 1]);
                }
            }
        }
    }
}

fn profile_of_cylinder(radius: f32, height: f32) -> Vec<[f32; 4]> {
    let h = height / 2.0;
    vec![
        [0.0, -h, 0.0, -1.0],
        [radius, -h, 0.0, -1.0],
        [radius, -h, 1.0, 0.0],
        [radius, h, 1.0, 0.0],
        [radius, h, 0.0, 1.0],
        [0.0, h, 0.0, 1.0],
    ]
}

fn profile_of_ball(radius: f32) -> Vec<[f32; 4]> {
    (0..=10)
        .map(|i| {
            let (sin, cos) = (i as f32 / 10.0 * PI).sin_cos();
            let out = if i == 0 || i == 10 { 0.0 } else { sin };
            [radius * out, -radius * cos, out, -cos]
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use rovnek_core::DVec3;
    use rovnek_core::solid::Material;

    #[test]
    fn every_triangle_faces_outwards() {
        let size = [1.0, 2.0, 3.0];
        for (shape, inside) in [
            (Shape::Box { size }, DVec3::ZERO),
            (Shape::Wedge { size }, DVec3::new(0.0, -0.6, -0.6)),
            (Shape::Cylinder { radius: 0.5, height: 1.0 }, DVec3::ZERO),
            (Shape::Ball { radius: 0.7 }, DVec3::ZERO),
        ] {
            let mut surface = Surface::default();
            surface.add(&Body::new("x", shape, Material::Steel), Pose::ORIGIN);
            let at = |i: u32| {
                let place = |k| f64::from(surface.places[3 * i as usize + k]);
                DVec3::from(std::array::from_fn::<f64, 3, _>(place))
            };
            for t in surface.triangles.chunks(3) {
                let (a, b, c) = (at(t[0]), at(t[1]), at(t[2]));
                let normal = (b - a).cross(c - a);
                let outwards = (a + b + c) / 3.0 - inside;
                assert!(normal.length() > 1e-9 && normal.dot(outwards) > 0.0, "{a} {b} {c}");
            }
        }
    }
}
