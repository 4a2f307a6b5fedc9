//! The zoom treatment against its closed forms, on samples that lie on frames and between them.

use rovnek_core::lens::Camera;
use rovnek_core::motion::{Context, Motion};
use rovnek_core::rigs::{Rig, RigSpec};
use rovnek_core::samples::Samples;
use rovnek_core::time::Rate;
use rovnek_core::treatments::{Treatment, TreatmentKind, Zoom, ZoomTo, ZoomWay};

/// Five samples a frame.
const HZ: f64 = 120.0;
const PER_FRAME: usize = 5;

fn rig() -> Box<dyn Rig> {
    RigSpec::all()
        .into_iter()
        .find(|s| s.kind() == "tripod")
        .expect("there is a tripod")
        .build(&Camera::default())
}

/// Six seconds of a machine that stands; its lens creeps from 28 mm by `creep` mm a second.
fn standing(rig: &dyn Rig, creep: f64) -> Motion {
    let zoom = rig.axes().len() - 3;
    let row = |k: usize| {
        let value = move |(i, a): (usize, &rovnek_core::axis::Axis)| {
            if i == zoom { 28.0 + creep * k as f64 / HZ } else { a.start }
        };
        rig.axes().iter().enumerate().map(value)
    };
    Motion::of(Samples::new(HZ, rig.axes().len(), (0..721).flat_map(row).collect()), rig.axes())
}

/// Focal lengths after zooms, and what is warned of.
fn zoomed(raw: &Motion, rig: &dyn Rig, zooms: Vec<ZoomTo>) -> (Vec<f64>, Vec<String>) {
    let context = Context {
        rig,
        half_frame_mm: Camera::default().half_frame(1.0),
        rate: Rate::FILM,
        playing: None,
        takes: None,
    };
    let treatment = Treatment::from(TreatmentKind::Zoom(Zoom { zooms }));
    assert_eq!(treatment.check(), Ok(()));
    let after = treatment.apply(raw, &context);
    let zoom = rig.axes().len() - 3;
    for i in (0..rig.axes().len()).filter(|i| *i != zoom) {
        assert_eq!(after.samples.column(i), raw.samples.column(i), "axis {i} stays");
    }
    (after.samples.column(zoom), after.warnings.iter().map(|w| w.what.clone()).collect())
}

fn to(at_s: f64, frames: u32, to_mm: f64, way: ZoomWay) -> ZoomTo {
    ZoomTo { at_s, frames, to_mm, way }
}

#[test]
fn before_it_a_zoom_changes_no_bit_and_afterwards_it_is_exactly_there() {
    let rig = rig();
    let raw = standing(&*rig, 0.3);
    let was = raw.samples.column(rig.axes().len() - 3);
    for way in [ZoomWay::Picture, ZoomWay::Ring, ZoomWay::Crash] {
        let (focal, warned) = zoomed(&raw, &*rig, vec![to(2.0, 16, 80.0, way)]);
        let (begins, ends) = (240, 240 + 16 * PER_FRAME);
        assert_eq!(focal[..=begins], was[..=begins], "{way:?}");
        assert!(focal[begins + 1] > was[begins + 1] && focal[ends - 1] < 80.0, "{way:?}");
        assert!(focal[ends..].iter().all(|mm| *mm == 80.0), "{way:?}");
        assert_eq!(warned, [""; 0]);
    }
}

#[test]
fn on_the_picture_every_frame_grows_by_the_same_factor() {
    let rig = rig();
    let raw = standing(&*rig, 0.0);
    // A crash from its first frame to its last: (80/28)^(1/16) a frame.
    let (focal, _) = zoomed(&raw, &*rig, vec![to(2.0, 16, 80.0, ZoomWay::Crash)]);
    let factor = (80.0_f64 / 28.0).powf(1.0 / 16.0);
    for frame in 0..16 {
        let k = 240 + frame * PER_FRAME;
        assert!((focal[k + PER_FRAME] / focal[k] / factor - 1.0).abs() < 1e-12, "frame {frame}");
    }
    // With soft ends the even middle is quicker by a third: the ends take half the time for a third of the way.
    let (focal, _) = zoomed(&raw, &*rig, vec![to(2.0, 48, 80.0, ZoomWay::Picture)]);
    let factor = (80.0_f64 / 28.0).powf(1.0 / 48.0 / 0.75);
    for frame in 12..36 {
        let k = 240 + frame * PER_FRAME;
        assert!((focal[k + PER_FRAME] / focal[k] / factor - 1.0).abs() < 1e-12, "frame {frame}");
    }
    let log = |k: usize| (focal[k] / 28.0).ln() / (80.0_f64 / 28.0).ln();
    assert!((log(240 + 24 * PER_FRAME) - 0.5).abs() < 1e-12);
    for frame in 1..48 {
        let (a, b) = (log(240 + frame * PER_FRAME), log(240 + (48 - frame) * PER_FRAME));
        assert!((a + b - 1.0).abs() < 1e-12, "it ends as it begins: frame {frame}");
    }
}

#[test]
fn on_the_ring_every_frame_adds_the_same() {
    let rig = rig();
    let raw = standing(&*rig, 0.0);
    let (focal, _) = zoomed(&raw, &*rig, vec![to(1.0, 40, 20.0, ZoomWay::Ring)]);
    let step = (20.0 - 28.0) / 40.0 / 0.75;
    for frame in 10..30 {
        let k = 120 + frame * PER_FRAME;
        assert!((focal[k + PER_FRAME] - focal[k] - step).abs() < 1e-12, "frame {frame}");
    }
    // Value and speed are continuous where the soft ends meet the middle.
    let speed = |k: usize| (focal[k + 1] - focal[k]) * HZ;
    for k in [120, 120 + 10 * PER_FRAME, 120 + 30 * PER_FRAME, 120 + 40 * PER_FRAME] {
        let jump = (speed(k) - speed(k - 1)).abs();
        assert!(jump < 0.01 * step.abs() * 24.0, "{jump} mm/s at {k}");
    }
}

#[test]
fn one_zoom_goes_on_from_where_the_other_is_and_at_once_means_at_once() {
    let rig = rig();
    let raw = standing(&*rig, 0.0);
    let zooms = vec![
        to(0.0, 24, 35.0, ZoomWay::Picture),
        to(1.0, 48, 70.0, ZoomWay::Crash),
        // It begins while the one before is half way.
        to(2.0, 24, 50.0, ZoomWay::Crash),
        to(4.0, 0, 24.0, ZoomWay::Picture),
    ];
    let (focal, _) = zoomed(&raw, &*rig, zooms);
    assert!(focal[..=120].iter().all(|mm| *mm == 35.0), "what begins at 0 is there from the start");
    assert!((focal[240] - 35.0 * 2.0_f64.sqrt()).abs() < 1e-12);
    // Half way both: 35·2^¾ on the first, then half of the way from there to 50, by its logarithm.
    let first = 35.0 * 2.0_f64.powf(0.75);
    assert!((focal[300] - (first * 50.0).sqrt()).abs() < 1e-12);
    assert!(focal[360..480].iter().all(|mm| *mm == 50.0));
    assert_eq!((focal[479], focal[480]), (50.0, 24.0));
}

#[test]
fn past_the_end_of_the_lens_it_stays_there_and_says_so() {
    let rig = rig();
    let raw = standing(&*rig, 0.0);
    let (focal, warned) = zoomed(&raw, &*rig, vec![to(2.0, 24, 180.0, ZoomWay::Picture)]);
    assert_eq!(focal[720], 100.0);
    assert_eq!(warned, ["the zoom would have to go up to 80 mm past its end; the lens is 18 to 100 mm"]);
}

#[test]
fn a_zoom_that_cannot_be_meant_is_refused() {
    let refused = |zooms: Vec<ZoomTo>| {
        let invalid = Treatment::from(TreatmentKind::Zoom(Zoom { zooms })).check().unwrap_err();
        (invalid.path, invalid.sentence)
    };
    let fine = to(1.0, 24, 50.0, ZoomWay::Picture);
    assert_eq!(refused(vec![]).0, "zooms");
    assert_eq!(refused(vec![fine; 101]).0, "zooms");
    assert_eq!(refused(vec![ZoomTo { to_mm: 0.0, ..fine }]).0, "zooms/0/to_mm");
    assert_eq!(refused(vec![ZoomTo { frames: 5001, ..fine }]).0, "zooms/0/frames");
    assert_eq!(refused(vec![ZoomTo { at_s: f64::NAN, ..fine }]).0, "zooms/0/at_s");
    let (path, sentence) = refused(vec![fine, fine]);
    assert_eq!(path, "zooms/1/at_s");
    assert!(sentence.contains("zoom 2 begins before"), "{sentence}");
    // A prime has nothing to zoom.
    let prime = Camera { focal_min_mm: 35.0, focal_max_mm: 35.0, focal_mm: 35.0, ..Camera::default() };
    let axes = RigSpec::all().into_iter().find(|s| s.kind() == "tripod").unwrap().build(&prime);
    assert!(!TreatmentKind::fitting(axes.axes()).contains(&"zoom"));
    assert!(TreatmentKind::fitting(rig().axes()).contains(&"zoom"));
}
