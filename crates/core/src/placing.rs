//! Where a new machine stands: as near as it can to where a camera is, inside the stage, clear of walls, pieces
//! and people.
//!
//! **Method.** The place that was asked for is tried first, then rings around it, each ring 25 cm wider than the
//! last and with a try every 25 cm along it. The first place that is free is taken. A free place
//! that is narrower than 25 cm may be missed. Constructed for this purpose; no source.

use crate::clearance::{Around, MachineHulls, Obstacles};
use crate::lens::Camera;
use crate::rigs::{RigSpec, There};
use crate::set::Stage;
use glam::DVec3;
use std::f64::consts::TAU;

/// Distance from one ring of places to the next, and along a ring, metres.
const STEP_M: f64 = 0.25;
/// Radius of the widest ring, metres.
const FARTHEST_M: f64 = 8.0;
/// Room that a new machine has at least, metres.
const ROOM_M: f64 = 0.05;

/// Surroundings of a new machine.
#[derive(Clone, Copy)]
pub struct Ground<'a> {
    /// Stage that the machine has to stand in.
    pub stage: &'a Stage,
    /// Walls, pieces and people.
    pub obstacles: &'a Obstacles,
    /// Moment at which the obstacles are looked at.
    pub around: Around<'a>,
}

impl Ground<'_> {
    /// The machine with its camera at `there`, or as near to it as the machine stands free. Where no place is
    /// free within 8 m the machine stands where it was asked to.
    pub fn placed(&self, spec: &RigSpec, there: &There, camera: &Camera) -> RigSpec {
        let at = |offset: DVec3| spec.clone().put(&There { position: there.position + offset, ..*there });
        places().map(at).find(|rig| self.is_free(rig, camera)).unwrap_or_else(|| at(DVec3::ZERO))
    }

    /// True if all of the machine, at its start, is inside the stage and clear of everything.
    fn is_free(&self, spec: &RigSpec, camera: &Camera) -> bool {
        let rig = spec.build(camera);
        let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        let bodies = rig.body_poses(&start);
        let line = rig.line().map(|line| line.points(0.5)).unwrap_or_default();
        let half = DVec3::new(self.stage.width_m, 0.0, self.stage.depth_m) / 2.0;
        let inside = |p: DVec3| p.x.abs() <= half.x && p.z.abs() <= half.z;
        if !bodies.iter().map(|pose| pose.position).chain(line).all(inside) {
            return false;
        }
        let nearest = self.obstacles.clearance(&MachineHulls::of(&*rig), &bodies, &self.around);
        nearest.is_none_or(|nearest| nearest.distance_m >= ROOM_M)
    }
}

/// Offsets on the floor, nearest ring first.
fn places() -> impl Iterator<Item = DVec3> {
    let rings = (FARTHEST_M / STEP_M).round() as usize;
    let ring = |k: usize| {
        let radius = k as f64 * STEP_M;
        let count = ((TAU * radius / STEP_M).ceil() as usize).max(1);
        (0..count).map(move |i| {
            let (sin, cos) = (TAU * i as f64 / count as f64).sin_cos();
            DVec3::new(radius * cos, 0.0, radius * sin)
        })
    };
    (0..=rings).flat_map(ring)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::ids::{PerformanceId, PieceId};
    use crate::performer::Clips;
    use crate::playing::PerformanceTimeline;
    use crate::set::{Form, Piece};
    use crate::solid::Material;
    use crate::space::PanTiltRoll;

    const STAGE: Stage = Stage { width_m: 20.0, depth_m: 12.0, height_m: 8.0 };

    /// A block of 2 × 3 × 2 m on the floor at x, z.
    fn block([x, z]: [f64; 2]) -> Obstacles {
        let form = Form::Block { size: [2.0, 3.0, 2.0], material: Material::Timber };
        let piece = Piece { id: PieceId(1), ..Piece::new("block", form, [x, 0.0, z]) };
        let playing =
            PerformanceTimeline::compile(std::slice::from_ref(&piece), &[], PerformanceId(1), &Clips::new());
        Obstacles::of(&[piece], &playing.into(), &Default::default())
    }

    fn there(x: f64, z: f64) -> There {
        let turn = PanTiltRoll { pan: 0.4, tilt: 0.0, roll: 0.0 };
        There { position: DVec3::new(x, 1.6, z), turn }
    }

    #[test]
    fn a_machine_stays_where_it_was_asked_to_stand_if_that_is_free() {
        let obstacles = block([6.0, 3.0]);
        let ground = Ground { stage: &STAGE, obstacles: &obstacles, around: Around::default() };
        for spec in RigSpec::all() {
            let asked = there(-2.0, 0.0);
            assert_eq!(ground.placed(&spec, &asked, &Camera::default()), spec.put(&asked));
        }
    }

    #[test]
    fn every_machine_comes_out_of_a_block_and_a_camera_alone_by_the_nearest_side() {
        let obstacles = block([0.0, 0.0]);
        let ground = Ground { stage: &STAGE, obstacles: &obstacles, around: Around::default() };
        let camera = Camera::default();
        for spec in RigSpec::all() {
            let asked = there(0.1, -0.1);
            let placed = ground.placed(&spec, &asked, &camera);
            assert!(ground.is_free(&placed, &camera), "{} is not free", spec.kind());
            let camera_at = |spec: &RigSpec| {
                let rig = spec.build(&camera);
                let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
                rig.forward(&start).camera.position
            };
            let moved = camera_at(&placed).distance(camera_at(&spec.clone().put(&asked)));
            assert!(moved < 6.0, "{} was moved by {moved} m", spec.kind());
        }
        // A camera alone comes out of the nearest side: 0.9 m, half the camera, 5 cm of room, one ring at most.
        let free = RigSpec::all().into_iter().find(|s| s.kind() == "free_camera").unwrap();
        let placed = ground.placed(&free, &there(0.1, -0.1), &camera).build(&camera);
        let [x, z] = [0, 2].map(|i| placed.axes()[i].start);
        assert!((x - 0.1).hypot(z + 0.1) < 1.6, "{x} {z}");
    }

    #[test]
    fn outside_the_stage_it_is_brought_in() {
        let obstacles = block([6.0, 3.0]);
        let ground = Ground { stage: &STAGE, obstacles: &obstacles, around: Around::default() };
        let camera = Camera::default();
        let tripod = RigSpec::all().into_iter().find(|s| s.kind() == "tripod").unwrap();
        let placed = ground.placed(&tripod, &there(-13.0, 0.0), &camera);
        assert!(ground.is_free(&placed, &camera));
    }
}
