//! Captured performances from bvhtoolbox's source package (MIT), fetched for the tests: every
//! joint of every frame where pybvh puts it (`reference/make_bvh.py`).

use rovnek_formats::bvh;
use std::path::PathBuf;

fn folder() -> Option<PathBuf> {
    Some(PathBuf::from(std::env::var_os("ROVNEK_CAPTURE")?).parent()?.to_path_buf())
}

#[test]
fn joints_are_where_an_independent_reader_puts_them() {
    let Some(folder) = folder() else {
        eprintln!("ROVNEK_CAPTURE is not set; cargo xtask test sets it");
        return;
    };
    let values: serde_json::Value =
        serde_json::from_str(include_str!("../../../../reference/values/bvh.json")).unwrap();
    for (name, wanted) in values["clips"].as_object().unwrap() {
        let clip = bvh::read(&std::fs::read(folder.join(format!("{name}.bvh"))).unwrap()).unwrap();
        let frames = wanted["positions_e7"].as_array().unwrap();
        assert_eq!(
            (clip.joints.len(), clip.frames.len()),
            (wanted["joints"].as_array().unwrap().len(), frames.len())
        );
        let mut worst = 0.0_f64;
        for (i, frame) in frames.iter().enumerate() {
            let numbers: Vec<f64> =
                frame.as_array().unwrap().iter().map(|v| v.as_f64().unwrap() / 1e7).collect();
            for (pose, at) in clip.joints_at_frame(i).iter().zip(numbers.chunks(3)) {
                worst =
                    pose.position.to_array().iter().zip(at).map(|(a, b)| (a - b).abs()).fold(worst, f64::max);
            }
        }
        // The values are rounded to 1e-7 of the file's unit, which is a centimetre.
        assert!(worst < 1e-6, "{name}: {worst:e}");
        assert!((0.9..2.2).contains(&(clip.height() / 100.0)), "{name} is {} cm tall", clip.height());
    }
}
