//! A camera move out of glTF 2.0 (Khronos): the first camera that a node carries, with whatever
//! moves that node and those above it.
//!
//! A move is read at every key of the file and at 120 a second between them. The focal length follows from the field of view and the width of the
//! sensor, unless the file was written here and says it for every frame.

use crate::gltf_file::{File, open};
use crate::gltf_motion::Nodes;
use crate::{FormatError, LONGEST_S, MOST_POINTS, Read, too_long};
use rovnek_core::space::Pose;
use rovnek_core::time::SAMPLE_RATE_HZ;
use rovnek_core::track::{LensState, Track};
use serde_json::Value;

/// Reads a move; `lens` is taken for what the file does not say, `sensor_width_mm` for the focal
/// length.
pub fn read(bytes: &[u8], lens: LensState, sensor_width_mm: f64) -> Result<Read<Track>, FormatError> {
    let reader = open(bytes)?;
    let work = || reader.camera_move(lens, sensor_width_mm);
    std::panic::catch_unwind(std::panic::AssertUnwindSafe(work)).unwrap_or_else(|_| {
        Err(FormatError::whole("its animation refers to what is not there; the file is damaged"))
    })
}

impl File {
    fn camera_move(&self, lens: LensState, sensor_width_mm: f64) -> Result<Read<Track>, FormatError> {
        let mut cameras = self.file.nodes().filter(|n| n.camera().is_some());
        let Some(node) = cameras.next() else {
            return Err(FormatError::whole("no node in it carries a camera; write the camera along"));
        };
        let mut notes = Vec::new();
        let others = cameras.count();
        if others > 0 {
            notes.push(format!("{others} more cameras were left out; only the first one is read"));
        }
        let camera = node.camera().expect("it was found by it");
        let gltf::camera::Projection::Perspective(view) = camera.projection() else {
            return Err(FormatError::whole("its camera is orthographic, which no lens is"));
        };
        let nodes = Nodes::of(self, self.file.animations().next().as_ref())?;
        let mut times: Vec<f64> = nodes.way(node.index()).flat_map(|n| nodes.times(n)).collect();
        let keyed = times.clone();
        let start = times.iter().copied().fold(0.0, f64::min);
        let end = times.iter().copied().fold(0.0, f64::max);
        let duration_s = end - start;
        if duration_s > LONGEST_S {
            return Err(FormatError::whole(too_long(duration_s)));
        }
        if times.len() > MOST_POINTS {
            return Err(FormatError::whole(format!("more than {MOST_POINTS} keys; cut the move")));
        }
        let even = (end * SAMPLE_RATE_HZ).floor() as usize;
        times.extend((0..=even).map(|i| i as f64 / SAMPLE_RATE_HZ));
        times.push(0.0);
        times.sort_by(f64::total_cmp);
        times.dedup_by(|a, b| *a - *b < 1e-4);
        let lenses = Lenses::of(&node, &keyed, lens, focal_of(&view, lens.focal_mm, sensor_width_mm));
        let point = |time_s: &f64| {
            let whole = nodes.world(node.index(), *time_s);
            let (_, rotation, position) = whole.to_scale_rotation_translation();
            (*time_s, Pose { position, rotation: rotation.normalize() }, lenses.at(*time_s))
        };
        let points: Vec<_> = times.iter().map(point).collect();
        if !points.iter().all(|(_, p, _)| p.position.is_finite() && p.rotation.is_finite()) {
            return Err(FormatError::whole("its camera is nowhere at some time; the file is damaged"));
        }
        Ok(Read { content: Track::from_poses(points), notes })
    }
}

fn focal_of(view: &gltf::camera::Perspective, or: f64, sensor_width_mm: f64) -> f64 {
    let aspect = view.aspect_ratio().map_or(16.0 / 9.0, f64::from);
    let half = (f64::from(view.yfov()) / 2.0).tan() * aspect;
    if half > 1e-6 && half.is_finite() { sensor_width_mm / (2.0 * half) } else { or }
}

/// The lens over time.
struct Lenses {
    times: Vec<f64>,
    of: Vec<LensState>,
}

impl Lenses {
    fn of(node: &gltf::Node, keyed: &[f64], lens: LensState, focal_mm: f64) -> Lenses {
        let still = || Lenses { times: vec![0.0], of: vec![LensState { focal_mm, ..lens }] };
        let mut times = keyed.to_vec();
        times.sort_by(f64::total_cmp);
        times.dedup();
        let extras = node.extras().as_ref().and_then(|e| serde_json::from_str::<Value>(e.get()).ok());
        let list = |name: &str| -> Option<Vec<f64>> {
            let all: Vec<f64> =
                extras.as_ref()?.get(name)?.as_array()?.iter().filter_map(Value::as_f64).collect();
            (all.len() == times.len() && all.iter().all(|v| *v > 0.0)).then_some(all)
        };
        let Some(focal) = list("focal_mm") else { return still() };
        let focus = list("focus_m").unwrap_or_else(|| vec![lens.focus_m; times.len()]);
        let stop = list("f_stop").unwrap_or_else(|| vec![lens.f_stop; times.len()]);
        let of =
            (0..times.len()).map(|i| LensState { focal_mm: focal[i], focus_m: focus[i], f_stop: stop[i] });
        let of = of.collect();
        Lenses { times, of }
    }

    fn at(&self, time_s: f64) -> LensState {
        let next = self
            .times
            .partition_point(|t| *t <= time_s)
            .clamp(1, self.of.len().max(2) - 1)
            .min(self.of.len() - 1);
        let before = next.saturating_sub(1);
        let span = self.times[next] - self.times[before];
        let share = if span > 0.0 { ((time_s - self.times[before]) / span).clamp(0.0, 1.0) } else { 0.0 };
        self.of[before].towards(self.of[next], share)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rovnek_core::space::PanTiltRoll;
    use rovnek_core::{DQuat, DVec3};

    const LENS: LensState = LensState { focal_mm: 35.0, focus_m: 5.0, f_stop: 4.0 };

    #[test]
    fn a_move_that_was_written_here_comes_back() {
        let at = |i: usize| {
            let t = i as f64 / 24.0;
            let turn = PanTiltRoll { pan: 0.4 * t, tilt: 0.1, roll: 0.05 * t };
            let lens = LensState { focal_mm: 35.0 + t, focus_m: 5.0 - 0.5 * t, f_stop: 4.0 };
            (t, Pose::new(DVec3::new(t, 1.5, -t), turn.to_rotation()), lens)
        };
        let track = Track::from_poses((0..49).map(at));
        let glb = crate::write(crate::WriteFormat::Glb, &track);
        let back = read(&glb, LENS, 24.89).unwrap().content;
        for p in &track.points {
            let near = back
                .points
                .iter()
                .min_by(|a, b| (a.time_s - p.time_s).abs().total_cmp(&(b.time_s - p.time_s).abs()));
            let near = near.unwrap();
            assert!((near.time_s - p.time_s).abs() < 1e-3);
            assert!(near.position.distance(p.position) < 2e-3 && near.pose().angle_to(p.pose()) < 2e-3);
            assert!((near.lens.focal_mm - p.lens.focal_mm).abs() < 2e-3);
        }
    }

    #[test]
    fn its_last_frame_comes_back_however_long_it_is() {
        for frames in [2, 25, 288, 1000, 14_400] {
            let at = |i: usize| {
                let t = i as f64 / 24.0;
                (t, Pose::new(DVec3::new(t, 0.0, 0.0), DQuat::IDENTITY), LENS)
            };
            let track = Track::from_poses((0..frames).map(at));
            let glb = crate::write(crate::WriteFormat::Glb, &track);
            let back = read(&glb, LENS, 24.89).unwrap().content.resampled(24.0);
            assert_eq!(back.points.len(), frames);
            assert!((back.points[frames - 1].position.x - at(frames - 1).0).abs() < 1e-3);
        }
    }

    #[test]
    fn what_has_no_camera_is_told_so_and_cut_files_do_not_panic() {
        assert!(read(b"{}", LENS, 36.0).is_err());
        let bare = br#"{"asset":{"version":"2.0"},"nodes":[{"name":"a"}]}"#;
        assert!(read(bare, LENS, 36.0).unwrap_err().to_string().contains("camera"));
        let still = br#"{"asset":{"version":"2.0"},"cameras":[{"type":"perspective","perspective":{"yfov":0.5,"aspectRatio":1.5,"znear":0.1}}],
            "nodes":[{"children":[1],"translation":[1,2,3]},{"camera":0,"translation":[0,0,1]}],"scenes":[{"nodes":[0]}]}"#;
        let track = read(still, LENS, 36.0).unwrap().content;
        assert_eq!(track.points.len(), 1);
        assert!(track.points[0].position.distance(DVec3::new(1.0, 2.0, 4.0)) < 1e-6);
        assert!((track.points[0].lens.focal_mm - 12.0 / 0.25f64.tan()).abs() < 1e-4);
        let glb = crate::write(crate::WriteFormat::Glb, &Track::from_poses([(0.0, Pose::ORIGIN, LENS)]));
        for cut in 0..glb.len() {
            assert!(read(&glb[..cut], LENS, 36.0).is_err());
        }
    }
}
