//! A small file may ask for much: nothing is made of it before that is known to be bounded.

use rovnek_core::space::Pose;
use rovnek_core::track::{LensState, Track};
use rovnek_formats::tum::TumOptions;
use rovnek_formats::{LONGEST_S, ReadFormat, WriteFormat, read, write};

const FORMATS: [(ReadFormat, WriteFormat); 4] = [
    (ReadFormat::Csv, WriteFormat::Csv),
    (ReadFormat::Tum, WriteFormat::Tum),
    (ReadFormat::OpenTrackIo, WriteFormat::OpenTrackIo),
    (ReadFormat::Gltf, WriteFormat::Glb),
];

fn two_points(end_s: f64) -> Track {
    let lens = LensState { focal_mm: 35.0, focus_m: 5.0, f_stop: 4.0 };
    Track::from_poses([0.0, end_s].map(|t| (t, Pose::ORIGIN, lens)))
}

#[test]
fn two_rows_a_thousand_hours_apart_are_refused_by_every_reader() {
    for (from, to) in FORMATS {
        let file = write(to, &two_points(3.6e6));
        let refused = read(from, &file, &TumOptions::default()).unwrap_err().to_string();
        assert!(refused.contains("a track lasts at most two and a half"), "{from:?}: {refused}");
    }
}

#[test]
fn the_longest_that_is_taken_comes_through_every_reader() {
    for (from, to) in FORMATS {
        let file = write(to, &two_points(LONGEST_S));
        let track = read(from, &file, &TumOptions::default()).unwrap().content;
        assert_eq!(track.duration_s(), LONGEST_S, "{from:?}");
    }
}
