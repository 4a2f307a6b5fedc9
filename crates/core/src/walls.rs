//! Walls that a camera must not run into: boxes around the pieces of the set.
//!
//! A camera that comes near is braked so that it stops before the wall, as an axis before its end
//! stop. One that starts inside is let out.

use crate::axis_motion::fastest_that_stops;
use crate::solid::Solid;
use crate::space::Pose;
use glam::DVec3;

/// Distance from a wall at which the lens stops, metres.
pub const CLEAR_M: f64 = 0.25;

/// Wall: a turned box.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Wall {
    pose: Pose,
    half: DVec3,
}

impl Wall {
    /// The box around a solid.
    pub fn around(solid: &Solid) -> Wall {
        Wall { pose: solid.pose, half: solid.body.shape.half() }
    }

    /// From its surface to a place outside; zero inside.
    pub fn away(&self, place: DVec3) -> DVec3 {
        let local = self.pose.rotation.conjugate() * (place - self.pose.position);
        self.pose.rotation * (local - local.clamp(-self.half, self.half))
    }
}

/// A velocity, slowed so that it can still stop before every wall.
pub fn slowed(walls: &[Wall], place: DVec3, mut velocity: DVec3, push: f64, dt: f64) -> DVec3 {
    for wall in walls {
        let away = wall.away(place);
        let distance = away.length();
        if distance < 1e-9 {
            continue;
        }
        let outwards = away / distance;
        let towards = -velocity.dot(outwards);
        // The wall's nearest place changes on the way past a corner: half the push keeps a margin.
        let allowed = fastest_that_stops((distance - CLEAR_M).max(0.0), push / 2.0, dt);
        if towards > allowed {
            velocity += outwards * (towards - allowed);
        }
    }
    velocity
}
