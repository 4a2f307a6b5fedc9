//! A real handheld recording against evo (PyPI): path length and relative pose error.
//!
//! The recording is of the TUM RGB-D benchmark (freiburg1_xyz, ground truth), CC BY 4.0 (from
//! memory). `cargo xtask test` fetches it inside evo's source package; it is not in the checkout.

use rovnek_core::lens::Camera;
use rovnek_core::measures::{figures, relative_pose_error};
use rovnek_core::motion::{Context, Motion};
use rovnek_core::rigs::{FreeCamera, RigSpec};
use rovnek_core::samples::Samples;
use rovnek_core::time::Rate;
use rovnek_core::track::{Track, TrackPoint};
use rovnek_core::treatments::{CalmBy, CalmGoal, calm};
use rovnek_formats::csv_track::{self, CsvTrack};
use rovnek_formats::tum::{self, TumOptions};
use serde_json::Value;

fn recording() -> Track {
    let fetched =
        concat!(env!("CARGO_MANIFEST_DIR"), "/../../target/recording/freiburg1_xyz-groundtruth.txt");
    let path = std::env::var("ROVNEK_RECORDING").unwrap_or(fetched.into());
    let bytes = std::fs::read(&path).expect("the recording is fetched by `cargo xtask test install`");
    tum::read(&bytes, &TumOptions::default()).unwrap()
}

fn evo() -> Value {
    let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../reference/values/recording.json");
    serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap()
}

#[test]
fn path_length_and_relative_pose_error_are_evos() {
    let (track, evo) = (recording(), evo());
    let near = |got: f64, name: &str| {
        let want = evo[name].as_f64().unwrap();
        assert!((got - want).abs() <= 1e-9 * want.max(1.0), "{name}: {got} is not {want}");
    };
    assert_eq!(track.points.len() as u64, evo["poses"].as_u64().unwrap());
    near(figures(&track, &[]).path_length_m, "path_length_m");
    let delay = evo["delay"].as_u64().unwrap() as usize;
    let n = track.points.len() - delay;
    let part = |first: usize| Track { points: track.points[first..first + n].to_vec() };
    let (metres, degrees) = relative_pose_error(&part(delay), &part(0), 1);
    near(metres, "relative_translation_m");
    assert!((degrees - evo["relative_rotation_deg"].as_f64().unwrap()).abs() < 1e-6);
}

#[test]
fn it_stands_upright_and_survives_the_way_through_csv() {
    let track = recording();
    // A camera that somebody holds: above the floor, roughly level.
    let roll: f64 = track.points.iter().map(|p| p.angles.roll.to_degrees().abs()).fold(0.0, f64::max);
    assert!(track.points.iter().all(|p| p.position.y > 1.0 && p.position.y < 2.0) && roll < 30.0, "{roll}");
    let csv = csv_track::write(&track);
    let back = csv_track::read(&csv).unwrap().content;
    assert_eq!(back, CsvTrack::of(&track));
    // Even samples at the rate of takes keep the path to within two millimetres a metre: corners of its noise are cut.
    let even = figures(&track.resampled(120.0), &[]).path_length_m;
    let whole = figures(&track, &[]).path_length_m;
    assert!((even - whole).abs() < 2e-3 * whole, "{even} {whole}");
}

/// A real hand: ten times calmer in position within 5 cm; in rotation that cannot be had within 2°, and
/// it says so, with the nearest that can.
#[test]
fn a_real_hand_is_calmed_as_far_as_can_be() {
    let track = recording().resampled(120.0);
    let rig = RigSpec::FreeCamera(FreeCamera::default()).build(&Camera::default());
    let row = |p: &TrackPoint| {
        let a = p.angles;
        let [x, y, z] = p.position.to_array();
        [x, y, z, a.pan, a.tilt, a.roll, p.lens.focal_mm, p.lens.focus_m, p.lens.f_stop]
    };
    let samples = Samples::new(120.0, 9, track.points.iter().flat_map(row).collect());
    let (before, context) =
        (Motion::of(samples, rig.axes()), Context::of(&*rig, &Camera::default(), Rate::FILM));
    for by in [CalmBy::Bell, CalmBy::LowPass] {
        let wish = CalmGoal { times: 10.0, by, within_cm: 5.0, within_deg: 2.0 };
        let found = calm(&before, &context, wish, &|| ());
        let (position, rotation) = (found.position.unwrap(), found.rotation.unwrap());
        println!("{by:?}: {position:?} {rotation:?} {:?}", found.told);
        assert!(position.reached <= position.raw / 10.0 && position.departure < 5.0, "{by:?} {position:?}");
        let had = rotation.reached <= rotation.wished;
        assert!(rotation.departure <= 2.0 && (had || found.told.len() == 1), "{by:?} {rotation:?}");
        let least = if by == CalmBy::LowPass { 3.0 } else { 2.5 };
        assert!(rotation.reached < rotation.raw / least, "{by:?} {rotation:?}");
    }
}
