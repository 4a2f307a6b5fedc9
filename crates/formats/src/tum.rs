//! Trajectories in the TUM text format: `time tx ty tz qx qy qz qw` a line, `#` for comments
//! (J. Sturm et al., A Benchmark for the Evaluation of RGB-D SLAM Systems, IROS 2012).
//!
//! By that format's custom the world is Z up and the camera frame optical: +Z forward, +Y down.
//! Both are options. Times are counted from the first line.

use crate::{FormatError, MOST_POINTS, Times, number, text_of};
use rovnek_core::space::{Pose, heading};
use rovnek_core::track::{LensState, Track};
use rovnek_core::{DQuat, DVec3};
use serde::Deserialize;
use std::f64::consts::{FRAC_PI_2, PI};

/// Axis of the file that points up.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "lowercase")]
#[allow(missing_docs)]
pub enum UpAxis {
    #[default]
    Z,
    Y,
    /// Y points down, as where the world is that of a first camera, or of a vehicle.
    #[serde(rename = "-y")]
    MinusY,
}

/// How the file's camera sees along its own axes.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum CameraFrame {
    /// +Z forward, +Y down.
    #[default]
    Optical,
    /// −Z forward, +Y up, as in glTF.
    Graphics,
    /// +X forward, +Z up, as on vehicles.
    Body,
}

/// How to read the file and where to put its path on the set.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct TumOptions {
    /// The file's world.
    pub up: UpAxis,
    /// The file's camera.
    pub camera: CameraFrame,
    /// A step in the file is this many on the set.
    pub scale: f64,
    /// Turn to the right about the vertical through the path's anchor, degrees.
    pub turn_deg: f64,
    /// Place for the path's anchor, metres.
    pub place: DVec3,
    /// The anchor is the first point; otherwise it is the file's origin.
    pub from_first_point: bool,
    /// The file knows no lens; this one is taken.
    pub lens: LensState,
}

impl Default for TumOptions {
    fn default() -> TumOptions {
        TumOptions {
            up: UpAxis::Z,
            camera: CameraFrame::Optical,
            scale: 1.0,
            turn_deg: 0.0,
            place: DVec3::ZERO,
            from_first_point: false,
            lens: LensState { focal_mm: 35.0, focus_m: 5.0, f_stop: 4.0 },
        }
    }
}

/// Reads a trajectory.
pub fn read(bytes: &[u8], options: &TumOptions) -> Result<Track, FormatError> {
    let text = text_of(bytes)?;
    let from_world = match options.up {
        UpAxis::Z => DQuat::from_rotation_x(-FRAC_PI_2),
        UpAxis::Y => DQuat::IDENTITY,
        UpAxis::MinusY => DQuat::from_rotation_x(PI),
    };
    let to_camera = match options.camera {
        CameraFrame::Optical => DQuat::from_rotation_x(PI),
        CameraFrame::Graphics => DQuat::IDENTITY,
        CameraFrame::Body => DQuat::from_rotation_x(FRAC_PI_2) * DQuat::from_rotation_y(-FRAC_PI_2),
    };
    let mut points: Vec<(f64, Pose)> = Vec::new();
    let mut times = Times::default();
    for (i, row) in text.lines().enumerate() {
        let line = i as u64 + 1;
        let row = row.trim();
        if row.is_empty() || row.starts_with('#') {
            continue;
        }
        const NAMES: [&str; 8] = ["time", "tx", "ty", "tz", "qx", "qy", "qz", "qw"];
        let mut values = [0.0; 8];
        let mut fields = row.split_ascii_whitespace();
        for (value, name) in values.iter_mut().zip(NAMES) {
            let field = fields.next().ok_or_else(|| {
                FormatError::at(line, format!("{name} is missing; a line holds time tx ty tz qx qy qz qw"))
            })?;
            *value = number(field, name, line)?;
        }
        if fields.next().is_some() {
            return Err(FormatError::at(
                line,
                "more than eight numbers; a line holds time tx ty tz qx qy qz qw",
            ));
        }
        let [time, tx, ty, tz, qx, qy, qz, qw] = values;
        times.next(time, line)?;
        let rotation = DQuat::from_xyzw(qx, qy, qz, qw);
        if rotation.length() < 1e-6 {
            return Err(FormatError::at(
                line,
                "the quaternion is zero, which is no orientation; remove the line",
            ));
        }
        let turned = from_world * rotation.normalize() * to_camera;
        // Swapping axes is exact; turning by a quaternion would not be.
        let position = match options.up {
            UpAxis::Z => DVec3::new(tx, tz, -ty),
            UpAxis::Y => DVec3::new(tx, ty, tz),
            UpAxis::MinusY => DVec3::new(tx, -ty, -tz),
        };
        points.push((time, Pose::new(position, turned.normalize())));
        if points.len() > MOST_POINTS {
            return Err(FormatError::at(
                line,
                format!("more than {MOST_POINTS} points; cut the track into shorter ones"),
            ));
        }
    }
    let Some(&(start, first)) = points.first() else {
        return Err(FormatError::at(
            1,
            "there is no point in this file; a line holds time tx ty tz qx qy qz qw",
        ));
    };
    let anchor = if options.from_first_point { first.position } else { DVec3::ZERO };
    let turn = heading(options.turn_deg.to_radians());
    Ok(Track::from_poses(points.into_iter().map(|(time, pose)| {
        let position = options.place + turn * ((pose.position - anchor) * options.scale);
        (time - start, Pose::new(position, (turn * pose.rotation).normalize()), options.lens)
    })))
}

/// Writes a track by the format's own custom: Z up, the camera's frame optical. The lens is not
/// said.
pub fn write(track: &Track) -> Vec<u8> {
    let to_world = DQuat::from_rotation_x(FRAC_PI_2);
    let mut out =
        String::from("# time tx ty tz qx qy qz qw; Z up, camera frame optical (+Z ahead, +Y down)\n");
    for p in &track.points {
        let q = (to_world * p.pose().rotation * DQuat::from_rotation_x(PI)).normalize();
        let v = p.position;
        let (x, y, z) = (v.x, -v.z + 0.0, v.y);
        out += &format!("{:.6} {x} {y} {z} {} {} {} {}\n", p.time_s, q.x, q.y, q.z, q.w);
    }
    out.into_bytes()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use rovnek_core::space::PanTiltRoll;

    fn looks(line: &str, options: &TumOptions) -> (DVec3, DVec3, DVec3) {
        let pose = read(line.as_bytes(), options).unwrap().points[0].pose();
        (pose.position, pose.rotation * DVec3::NEG_Z, pose.rotation * DVec3::Y)
    }

    #[test]
    fn each_custom_of_the_file_comes_out_upright() {
        // An optical camera at height 2 that looks along the file's +Y, level: its own x to the
        // file's x, its y down.
        let half = 0.5_f64.sqrt();
        let optical = format!("0 1 0 2 {} 0 0 {half}\n", -half);
        let (place, forward, up) = looks(&optical, &TumOptions::default());
        assert!(place.distance(DVec3::new(1.0, 2.0, 0.0)) < 1e-12);
        assert!(forward.distance(DVec3::NEG_Z) < 1e-12 && up.distance(DVec3::Y) < 1e-12, "{forward} {up}");
        let plain = "0 0 1 0 0 0 0 1\n";
        let graphics = TumOptions { up: UpAxis::Y, camera: CameraFrame::Graphics, ..TumOptions::default() };
        assert!(looks(plain, &graphics).1.distance(DVec3::NEG_Z) < 1e-12);
        let body = TumOptions { camera: CameraFrame::Body, ..TumOptions::default() };
        let (_, forward, up) = looks(plain, &body);
        assert!(forward.distance(DVec3::X) < 1e-12 && up.distance(DVec3::Y) < 1e-12, "{forward} {up}");
    }

    #[test]
    fn what_is_written_reads_back() {
        let text = "0 1 2 3 0.1 0.2 0.3 0.9\n0.5 1 -2 3.5 0.6 0.1 0.2 0.5\n";
        let track = read(text.as_bytes(), &TumOptions::default()).unwrap();
        let back = read(&write(&track), &TumOptions::default()).unwrap();
        for (a, b) in track.points.iter().zip(&back.points) {
            assert!(a.position.distance(b.position) < 1e-12 && a.pose().angle_to(b.pose()) < 1e-9);
        }
    }

    #[test]
    fn the_path_is_placed_by_its_first_point() {
        let options = TumOptions {
            place: DVec3::new(5.0, 1.6, -3.0),
            from_first_point: true,
            scale: 2.0,
            turn_deg: 90.0,
            ..TumOptions::default()
        };
        let track = read(b"# a comment\n10 7 8 9 0 0 0 1\n\n11 8 8 9 0 0 0 1\n", &options).unwrap();
        assert!(track.points[0].position.distance(options.place) < 1e-12);
        // One step along x, turned to the right, is a step along +z.
        assert!(track.points[1].position.distance(DVec3::new(5.0, 1.6, -1.0)) < 1e-12);
        assert_eq!(track.points[1].time_s, 1.0);
    }

    #[test]
    fn each_fault_has_its_line() {
        let fault = |text: &str| read(text.as_bytes(), &TumOptions::default()).unwrap_err().to_string();
        assert!(fault("").starts_with("line 1: there is no point"));
        assert!(fault("0 0 0 0 0 0 0 1\n1 0 0 0 0 0").starts_with("line 2: qz is missing"));
        assert!(fault("0 0 0 nan 0 0 0 1").starts_with("line 1: tz is not a number"));
        assert!(fault("0 0 0 0 0 0 0 0").starts_with("line 1: the quaternion is zero"));
        assert!(fault("#\n2 0 0 0 0 0 0 1\n1 0 0 0 0 0 0 1").starts_with("line 3: the time 1 does not"));
        assert!(fault("0 0 0 0 0 0 0 1 9").contains("more than eight"));
        assert!(fault("hello there").starts_with("line 1: time is \"hello\", not a number"));
    }

    proptest! {
        #[test]
        fn noise_never_panics(bytes in prop::collection::vec(any::<u8>(), 0..400), text in "[0-9 .e\\-\n#]{0,300}") {
            let _ = read(&bytes, &TumOptions::default());
            let _ = read(text.as_bytes(), &TumOptions::default());
        }
    }

    /// Where the world is that of a first camera, or of a vehicle, that camera stands upright and looks ahead.
    #[test]
    fn a_world_with_y_down_comes_in_upright() {
        let (up, camera) = (UpAxis::MinusY, CameraFrame::Optical);
        let options = TumOptions { up, camera, ..TumOptions::default() };
        let track = read(b"0 0 0 0 0 0 0 1\n1 1 2 3 0 0 0 1\n", &options).unwrap();
        let angles = PanTiltRoll::from_rotation(track.points[0].pose().rotation);
        assert!([angles.pan, angles.tilt, angles.roll].iter().all(|a| a.abs() < 1e-12), "{angles:?}");
        // To the right, down, and ahead.
        assert_eq!(track.points[1].position, DVec3::new(1.0, -2.0, -3.0));
    }
}
