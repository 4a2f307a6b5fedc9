//! A camera that is set on a recorded move afterwards: its stop and its lens.

use crate::moves::taken;
use crate::served::Served;
use rocket::http::Status;
use rovnek_core::lens::Camera;
use serde_json::{Value, json};

#[test]
fn another_stop_or_lens_on_a_take_changes_its_pictures_and_not_the_take() {
    let s = Served::demo();
    let before = taken(&s, 1, "csv");
    let take = s.json("/api/document")["takes"][0].clone();
    let mut camera = take["camera"].clone();
    camera["f_stop"] = json!(8.0);
    assert_eq!(s.replace("/moves/1/camera", camera).0, Status::Ok);
    let after = taken(&s, 1, "csv");
    let stop = before.0.iter().position(|n| n.contains("stop")).unwrap();
    assert!(after.1.iter().all(|row| row[stop] == 8.0) && before.1[0][stop] != 8.0);
    assert_eq!(s.json("/api/document")["takes"][0], take);
    s.undo();
    assert_eq!(taken(&s, 1, "csv"), before);
}

/// Another focal length, a prime and a squeeze on a recorded take: the same in its frames, CSV, glTF and OpenTrackIO.
/// Field of view by the sensor: 2 · atan(height of the frame / 2f), the frame cut at its aspect out of the sensor.
#[test]
fn a_lens_that_is_put_on_afterwards_is_in_the_picture_and_in_every_file() {
    let s = Served::demo();
    let take = s.json("/api/document")["takes"][0].clone();
    let before = taken(&s, 1, "csv");
    let recorded = take["camera"]["focal_mm"].as_f64().unwrap();
    let mut lenses: Vec<(f64, f64, f64)> = [18.0, 25.0, 40.0, 75.0, 100.0].map(|mm| (mm, 1.0, 0.0)).into();
    // A prime, and an anamorphic one.
    lenses.extend([(50.0, 1.0, 50.0), (50.0, 2.0, 50.0)]);
    for (focal, squeeze, prime) in lenses {
        let mut camera = take["camera"].clone();
        (camera["focal_mm"], camera["squeeze"]) = (json!(focal), json!(squeeze));
        if prime > 0.0 {
            (camera["focal_min_mm"], camera["focal_max_mm"]) = (json!(prime), json!(prime));
        }
        assert_eq!(s.replace("/moves/1/camera", camera.clone()).0, Status::Ok, "{focal}");
        let lens: Camera = serde_json::from_value(camera).unwrap();
        let (names, rows) = taken(&s, 1, "csv");
        let column = names.iter().position(|n| n == "focal_mm").unwrap();
        for (row, was) in rows.iter().zip(&before.1) {
            let wanted = (was[column] * focal / recorded).clamp(lens.focal_min_mm, lens.focal_max_mm);
            assert!((row[column] - wanted).abs() < 1e-6, "{focal}: {} for {wanted}", row[column]);
        }
        let (_, yfov) = lens.field_of_view(rows[0][column]);
        let glb = s.get("/api/moves/1/export?as=glb").into_bytes().unwrap();
        let long = u32::from_le_bytes(glb[12..16].try_into().unwrap()) as usize;
        let file: Value = serde_json::from_slice(&glb[20..20 + long]).unwrap();
        let camera = file["cameras"].as_array().unwrap().iter().find(|c| c["type"] == "perspective").unwrap();
        assert!((camera["perspective"]["yfov"].as_f64().unwrap() - yfov).abs() < 1e-5, "{focal}");
        let lines = s.get("/api/moves/1/export?as=opentrackio").into_string().unwrap();
        let first: Value = serde_json::from_str(lines.lines().next().unwrap()).unwrap();
        let told = first["lens"]["pinholeFocalLength"].as_f64().unwrap();
        assert!((told - rows[0][column]).abs() < 1e-3, "{focal}: {told}");
    }
    assert_eq!(s.json("/api/document")["takes"][0], take);
    // With the take's own lens it is what was recorded, to the last digit.
    assert_eq!(s.replace("/moves/1/camera", take["camera"].clone()).0, Status::Ok);
    assert_eq!(taken(&s, 1, "csv"), before);
}

/// A zoom of 12 frames on a recorded take, over another lens: the same in its frames and in OpenTrackIO, frame by
/// frame; the frames before it are what they were.
#[test]
fn a_zoom_on_a_take_is_in_every_frame_of_every_file() {
    let s = Served::demo();
    let before = taken(&s, 1, "csv");
    let zooms = json!([{"at_s": 1.0, "frames": 12, "to_mm": 80.0, "way": "crash"}]);
    let treatments = json!([{"on": true, "kind": "zoom", "zooms": zooms}]);
    assert_eq!(s.replace("/moves/1/treatments", treatments).0, Status::Ok);
    let (names, rows) = taken(&s, 1, "csv");
    let column = names.iter().position(|n| n == "focal_mm").unwrap();
    let was = |frame: usize| before.1[frame][column];
    for (frame, row) in rows.iter().enumerate() {
        let wanted = match frame {
            0..=24 => was(frame),
            36.. => 80.0,
            // The take's own lens stands still meanwhile.
            _ => was(24) * (80.0 / was(24)).powf((frame - 24) as f64 / 12.0),
        };
        assert!((row[column] - wanted).abs() < 1e-5, "frame {frame}: {} for {wanted}", row[column]);
    }
    let lines = s.get("/api/moves/1/export?as=opentrackio").into_string().unwrap();
    for (frame, line) in lines.lines().enumerate().take(60) {
        let sample: Value = serde_json::from_str(line).unwrap();
        let told = sample["lens"]["pinholeFocalLength"].as_f64().unwrap();
        assert!((told - rows[frame][column]).abs() < 1e-3, "frame {frame}: {told}");
    }
    s.undo();
    assert_eq!(taken(&s, 1, "csv"), before);
}
