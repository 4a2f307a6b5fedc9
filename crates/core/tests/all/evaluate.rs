//! From samples to frames: pure, stage by stage, and true to the samples.

use rovnek_core::evaluate::{StageCache, frames, track_of_frames};
use rovnek_core::lens::Camera;
use rovnek_core::motion::Context;
use rovnek_core::motion::Motion;
use rovnek_core::rigs::{FreeCamera, Rig, RigSpec, TelescopicCrane};
use rovnek_core::samples::Samples;
use rovnek_core::time::Rate;
use rovnek_core::treatments::{Smooth, SmoothBy, Treatment, TreatmentKind};
use std::sync::Arc;

fn crane() -> Box<dyn Rig> {
    RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default())
}

fn film(rig: &dyn Rig) -> Context<'_> {
    Context::of(rig, &Camera::default(), Rate::FILM)
}

/// Five seconds: the swing goes round one and a half times, wrapped as a device might send it.
fn samples() -> Motion {
    let row = |i: i32| {
        let t = f64::from(i) / 120.0;
        let swing = (t * 108.0 + 180.0).rem_euclid(360.0) - 180.0;
        let shake = if i % 2 == 0 { 0.01 } else { -0.01 };
        [swing.to_radians(), 0.2 + shake, 4.0 + 0.3 * t, shake, -0.1, 0.0, 35.0 + t, 5.0, 4.0 + t / 5.0]
    };
    Motion::plain(Samples::new(120.0, 9, (0..=600).flat_map(row).collect()))
}

fn smooth(machine: u32, on: bool) -> Treatment {
    let by = |passes| Some(SmoothBy::Binomial { passes });
    Treatment {
        on,
        ..TreatmentKind::Smooth(Smooth { machine: by(machine), head: by(40), lens: None }).into()
    }
}

#[test]
fn frames_are_the_samples_at_their_times() {
    let (rig, raw) = (crane(), samples());
    let shown = frames(&raw, &*rig, Rate::FILM);
    assert_eq!(shown.len(), 121);
    for (i, frame) in shown.iter().enumerate() {
        assert_eq!(frame.axes, raw.samples.row(5 * i));
        assert_eq!(frame.rig_pose, rig.forward(raw.samples.row(5 * i)));
        assert_eq!(frame.lens.axes(), raw.samples.row(5 * i)[6..]);
    }
    // Between samples, straight.
    let ntsc = frames(&raw, &*rig, Rate { num: 24_000, den: 1001 });
    let reach = ntsc[7].axes[2];
    assert!((reach - (4.0 + 0.3 * ntsc[7].time_s)).abs() < 1e-12);
    assert!(frames(&Motion::plain(Samples::new(120.0, 9, vec![])), &*rig, Rate::FILM).is_empty());
}

#[test]
fn the_track_of_a_turning_crane_has_no_seam() {
    let rig = crane();
    let treated = StageCache::within(1 << 20).treated(1, &samples(), &[], &film(&*rig));
    let track = track_of_frames(&frames(&treated, &*rig, Rate::FILM));
    let pans: Vec<f64> = track.points.iter().map(|p| p.angles.pan.to_degrees()).collect();
    assert!(pans.windows(2).all(|w| (w[1] - w[0] - 4.5).abs() < 1.5), "{pans:?}");
    assert!((pans[120] - pans[0] - 540.0).abs() < 1.5);
}

#[test]
fn the_same_input_gives_the_same_bytes_however_it_was_reached() {
    let (rig, raw) = (crane(), samples());
    let stack = [smooth(20, true), smooth(5, true)];
    let fresh = StageCache::within(1 << 20).treated(1, &raw, &stack, &film(&*rig));
    let kept = StageCache::within(1 << 20);
    for passes in [1, 9, 5] {
        kept.treated(1, &raw, &[smooth(20, true), smooth(passes, true)], &film(&*rig));
    }
    let again = kept.treated(1, &raw, &stack, &film(&*rig));
    assert_eq!(fresh, again);
    // Asked for once more it is the very same stage, not a new one.
    assert!(Arc::ptr_eq(&again, &kept.treated(1, &raw, &stack, &film(&*rig))));
    // Another take, or another rate, is another stage.
    assert_ne!(
        *kept.treated(1, &raw, &stack, &Context { rate: Rate { num: 48, den: 1 }, ..film(&*rig) }),
        *again
    );
}

#[test]
fn a_treatment_that_is_off_does_nothing_and_parts_are_apart() {
    let (rig, raw) = (crane(), samples());
    let stages = StageCache::within(1 << 20);
    let off = stages.treated(1, &raw, &[smooth(20, false)], &film(&*rig));
    let none = stages.treated(1, &raw, &[], &film(&*rig));
    assert_eq!(off, none);
    let on = stages.treated(1, &raw, &[smooth(20, true)], &film(&*rig));
    assert_ne!(on.samples.column(1), none.samples.column(1), "the boom is the machine's");
    assert_ne!(on.samples.column(3), none.samples.column(3), "the pan is the head's");
    assert_eq!(on.samples.column(6), none.samples.column(6), "the zoom was left as it was rolled");
    for axis in 0..8 {
        let (a, b) = (on.samples.column(axis), none.samples.column(axis));
        assert_eq!((a[0], a[600]), (b[0], b[600]), "ends stay");
    }
}

#[test]
fn old_stages_make_room() {
    let (rig, raw) = (crane(), samples());
    let stages = StageCache::within(1 << 20);
    let first = stages.treated(1, &raw, &[smooth(1, true)], &film(&*rig));
    for passes in 2..60 {
        stages.treated(1, &raw, &[smooth(passes, true)], &film(&*rig));
    }
    assert_eq!(Arc::strong_count(&first), 1, "the first was let go");
}

#[test]
fn a_free_camera_stands_where_its_axes_say() {
    let rig = RigSpec::FreeCamera(FreeCamera::default()).build(&Camera::default());
    let axes = [1.0, 2.0, 3.0, 4.0, 0.5, -0.25, 35.0, 5.0];
    let camera = rig.forward(&axes).camera;
    let rovnek_core::rigs::Reach::Within(back) = rig.inverse(camera, &axes) else { panic!("always within") };
    assert!(back.iter().zip(axes).all(|(a, b)| (a - b).abs() < 1e-12), "{back:?}");
}
