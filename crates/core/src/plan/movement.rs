//! Movement on the plan: the camera's way with steps in time, performers and their ways, what the lens sees.

use super::{MarkShape, Place, PlanMark, Role, above};
use crate::DVec3;
use crate::lens::{Camera, depth_of_field};
use crate::playing::PerformanceTimeline;
use crate::set::Stage;
use crate::space::Pose;
use crate::track::LensState;

/// Time between two steps across the camera's way, seconds.
const TICK_S: f64 = 1.0;
/// Steps from one written time to the next.
const WRITTEN_EVERY: usize = 5;
/// Half the length of a step across the camera's way, metres.
const TICK_M: f64 = 0.15;
/// Distance of a written time from the way, metres.
const WORDS_M: f64 = 0.45;
/// Radius of a performer from above, metres.
pub const PERSON_M: f64 = 0.38;
/// Least and greatest length of what the lens is drawn to see, metres.
pub const SIGHT_M: [f64; 2] = [7.0, 30.0];

/// Points of the way of whoever or whatever moves, a second.
pub const WALK_HZ: f64 = 4.0;

/// Way of somebody or something that moves, over the floor, during a performance of `length_s` seconds.
pub fn walk(playing: &PerformanceTimeline, mover: usize, length_s: f64) -> PlanMark {
    let last = (length_s * WALK_HZ).ceil() as u32;
    let way = (0..=last).map(|k| above(playing.position(mover, f64::from(k) / WALK_HZ))).collect();
    PlanMark::lines(Role::Walk, vec![way])
}

/// A performer at a place.
pub fn person(at: DVec3) -> PlanMark {
    PlanMark { role: Role::Person, shape: MarkShape::Spots { places: vec![above(at)], radius_m: PERSON_M } }
}

/// Way of the camera.
pub fn path(points: &[DVec3]) -> PlanMark {
    PlanMark::lines(Role::Path, vec![points.iter().copied().map(above).collect()])
}

/// A step across the camera's way every [`TICK_S`] seconds, and the time at every fifth step. `at` gives the place
/// of the camera on a moment of the move, which lasts from `first_s` to `last_s`.
pub fn ticks(first_s: f64, last_s: f64, at: impl Fn(f64) -> DVec3) -> Vec<PlanMark> {
    let first = (first_s / TICK_S).ceil() as usize;
    let count = ((last_s - first as f64 * TICK_S) / TICK_S).floor();
    if count < 0.0 {
        return Vec::new();
    }
    let mut across: Vec<Vec<Place>> = Vec::new();
    let mut marks = Vec::new();
    for step in first..=first + count as usize {
        let time_s = step as f64 * TICK_S;
        let here = above(at(time_s));
        let beside = |side: f64| {
            let [x, z] =
                [TICK_S / 4.0, -TICK_S / 4.0].map(|by| above(at((time_s + by).clamp(first_s, last_s))));
            let along = [x[0] - z[0], x[1] - z[1]];
            let length = along[0].hypot(along[1]);
            // Where the camera stands, the step lies level on the paper.
            let normal = if length < 1e-6 { [0.0, -1.0] } else { [along[1] / length, -along[0] / length] };
            [here[0] + normal[0] * side, here[1] + normal[1] * side]
        };
        across.push(vec![beside(-TICK_M), beside(TICK_M)]);
        if step % WRITTEN_EVERY == 0 {
            let text = format!("{time_s:.0} s");
            marks.push(PlanMark { role: Role::Tick, shape: MarkShape::Words { at: beside(WORDS_M), text } });
        }
    }
    marks.insert(0, PlanMark::lines(Role::Tick, across));
    marks
}

/// What the lens sees from a pose: a wedge that ends behind what is sharp.
pub fn sight(pose: Pose, camera: &Camera, lens: LensState) -> PlanMark {
    let half = camera.half_frame(lens.focal_mm).0.atan();
    let (near, far) = depth_of_field(camera, lens);
    let [least, greatest] = SIGHT_M;
    let reach = far.min(near * 3.0).clamp(least, greatest);
    let edge = |angle: f64| {
        let [dx, dz] = above(pose.rotation * DVec3::new(angle.sin(), 0.0, -angle.cos()));
        let length = dx.hypot(dz).max(1e-9);
        [pose.position.x + dx / length * reach, pose.position.z + dz / length * reach]
    };
    PlanMark::areas(Role::Sight, vec![vec![above(pose.position), edge(-half), edge(half)]])
}

/// Width and depth of the stage, beside it.
pub fn dimensions_of_stage(stage: &Stage) -> [PlanMark; 2] {
    /// Distance of a length from what is measured, metres.
    const BESIDE_M: f64 = 0.8;
    let [x, z] = [stage.width_m / 2.0, stage.depth_m / 2.0];
    let length = |from, to| PlanMark { role: Role::Dimension, shape: MarkShape::Length { from, to } };
    [length([-x, -z - BESIDE_M], [x, -z - BESIDE_M]), length([-x - BESIDE_M, z], [-x - BESIDE_M, -z])]
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn steps_lie_across_the_way_and_every_fifth_says_its_time() {
        // The camera goes to the right at 2 m/s from 0.5 s on.
        let marks = ticks(0.5, 6.0, |t| DVec3::new(2.0 * t, 1.5, 3.0));
        let MarkShape::Lines { lines } = &marks[0].shape else { panic!() };
        assert_eq!(lines.len(), 6);
        for (step, line) in lines.iter().enumerate() {
            let x = 2.0 * (step + 1) as f64;
            assert!(line.iter().all(|p| (p[0] - x).abs() < 1e-9), "{line:?}");
            assert!(((line[0][1] - line[1][1]).abs() - 2.0 * TICK_M).abs() < 1e-9, "{line:?}");
        }
        let MarkShape::Words { at, text } = &marks[1].shape else { panic!() };
        assert_eq!((marks.len(), text.as_str(), at[0]), (2, "5 s", 10.0));
        assert!(((at[1] - 3.0).abs() - WORDS_M).abs() < 1e-9);
    }

    #[test]
    fn a_camera_that_stands_still_has_steps_and_a_move_shorter_than_a_step_may_have_none() {
        assert_eq!(ticks(0.0, 2.0, |_| DVec3::ZERO).len(), 2);
        assert_eq!(ticks(0.2, 0.9, |_| DVec3::ZERO), []);
    }

    #[test]
    fn the_lens_sees_as_wide_as_its_angle() {
        // The camera looks along −z: at either edge x over z is half the frame over the focal length.
        let camera =
            Camera { sensor_width_mm: 24.89, sensor_height_mm: 14.0, frame_aspect: 1.0, ..Camera::default() };
        let (half, _) = camera.half_frame(35.0);
        let lens = LensState { focal_mm: 35.0, focus_m: 4.0, f_stop: 5.6 };
        let MarkShape::Areas { outlines } = sight(Pose::ORIGIN, &camera, lens).shape else { panic!() };
        let [eye, left, right] = outlines[0][..] else { panic!() };
        assert_eq!(eye, [0.0, 0.0]);
        assert!(
            (left[0] / left[1] - half).abs() < 1e-9 && left[1] < 0.0 && (right[0] + left[0]).abs() < 1e-9,
            "{left:?} {right:?}"
        );
    }
}
