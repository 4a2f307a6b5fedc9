//! A correction by hand: what is pinned stays, what is keyed is there, and the machine says what it lacks.

use glam::DVec3;
use rovnek_core::evaluate::frames;
use rovnek_core::lens::Camera;
use rovnek_core::motion::{Context, Motion};
use rovnek_core::rigs::{Rig, RigSpec};
use rovnek_core::samples::Samples;
use rovnek_core::space::PanTiltRoll;
use rovnek_core::time::Rate;
use rovnek_core::treatments::{Correction, CorrectionKey, Pin, Treatment, TreatmentKind};

const HZ: f64 = 120.0;

fn rig(kind: &str) -> Box<dyn Rig> {
    RigSpec::all().into_iter().find(|s| s.kind() == kind).unwrap().build(&Camera::default())
}

/// Twelve seconds of a machine that goes slowly and evenly from where it stands.
fn motion(rig: &dyn Rig) -> Motion {
    let row = |k: usize| {
        let t = k as f64 / HZ;
        rig.axes().iter().map(move |a| (a.start + 0.01 * t).clamp(a.min, a.max))
    };
    Motion::of(Samples::new(HZ, rig.axes().len(), (0..=1440).flat_map(row).collect()), rig.axes())
}

fn key(at_s: f64, move_cm: [f64; 3], turn_deg: [f64; 3]) -> CorrectionKey {
    CorrectionKey { at_s, move_cm, turn_deg }
}

fn corrected(spec: &Correction, motion: &Motion, context: &Context) -> Motion {
    let treatment = Treatment::from(TreatmentKind::Correction(spec.clone()));
    treatment.check().unwrap();
    treatment.apply(motion, context)
}

#[test]
fn pinned_frames_and_all_beyond_are_as_they_were_and_keyed_ones_where_they_are_wanted() {
    let spec = Correction {
        keys: vec![key(4.0, [12.0, 5.0, -8.0], [3.0, -2.0, 0.0]), key(7.0, [0.0; 3], [-4.0, 0.0, 1.0])],
        pins: vec![Pin { at_s: 5.25 }, Pin { at_s: 7.5 }],
        blend_s: 1.5,
    };
    for kind in ["free_camera", "telescopic_crane"] {
        let rig = rig(kind);
        let raw = motion(&*rig);
        // At 29.97 frames a second hardly a frame lies on a sample.
        let rate = Rate::new(30_000, 1001).unwrap();
        let context = Context::of(&*rig, &Camera::default(), rate);
        let pinned = rate.time_of(rate.frame_at(5.25));
        let spec = Correction { pins: vec![Pin { at_s: pinned }, spec.pins[1]], ..spec.clone() };
        let now = corrected(&spec, &raw, &context);
        assert_eq!(now.warnings, [], "{kind}");
        let (before, after) = (frames(&raw, &*rig, rate), frames(&now, &*rig, rate));
        let frame = rate.frame_at(pinned + 1e-6);
        assert_eq!(before[frame], after[frame], "{kind}");
        for (k, (was, is)) in raw.samples.rows().zip(now.samples.rows()).enumerate() {
            let t = k as f64 / HZ;
            if t <= 2.5 || t >= 7.5 {
                assert_eq!(was, is, "{kind} at {t}");
            }
        }
        for wanted in &spec.keys {
            let k = (wanted.at_s * HZ) as usize;
            let [was, is] = [&raw, &now].map(|m| m.pose(k, &*rig));
            let moved = (is.position - was.position) * 100.0;
            assert!(moved.distance(DVec3::from(wanted.move_cm)) < 1e-4, "{kind}: {moved}");
            let [was, is] = [was, is].map(|p| PanTiltRoll::from_rotation(p.rotation));
            let turned = [is.pan - was.pan, is.tilt - was.tilt, is.roll - was.roll].map(f64::to_degrees);
            assert!((0..3).all(|i| (turned[i] - wanted.turn_deg[i]).abs() < 1e-6), "{kind}: {turned:?}");
        }
        // It comes and goes softly: no sample jumps.
        let pose = |k: usize| now.pose(k, &*rig);
        for k in 1..1440 {
            assert!(pose(k).position.distance(pose(k - 1).position) < 0.004, "{kind} at {k}");
        }
    }
}

#[test]
fn what_only_turns_moves_the_head_alone() {
    let rig = rig("telescopic_crane");
    let raw = motion(&*rig);
    let context = Context::of(&*rig, &Camera::default(), Rate::FILM);
    let spec = Correction { keys: vec![key(6.0, [0.0; 3], [5.0, 2.0, 0.0])], ..Correction::default() };
    let now = corrected(&spec, &raw, &context);
    for (i, axis) in rig.axes().iter().enumerate() {
        let same = raw.samples.column(i) == now.samples.column(i);
        assert_eq!(same, !["pan", "tilt", "roll"].contains(&axis.name), "{}", axis.name);
    }
}

#[test]
fn where_the_machine_falls_short_the_camera_stays_and_frames_and_amount_are_told() {
    let rig = rig("tripod");
    let raw = motion(&*rig);
    let context = Context::of(&*rig, &Camera::default(), Rate::FILM);
    let spec = Correction { keys: vec![key(6.0, [50.0, 0.0, 0.0], [0.0; 3])], ..Correction::default() };
    let now = corrected(&spec, &raw, &context);
    let away = now.pose(720, &*rig).position.distance(raw.pose(720, &*rig).position);
    assert!((away - 0.5).abs() < 1e-9);
    let [told] = &now.warnings[..] else { panic!("{:?}", now.warnings) };
    assert_eq!(told.what, "the camera is up to 0.50 m from where it is wanted");
    assert!(told.when.from_frame >= 120 && told.when.to_frame <= 168, "{:?}", told.when);
}

#[test]
fn keys_that_go_to_and_fro_say_at_which_frame() {
    let rig = rig("free_camera");
    let raw = motion(&*rig);
    let context = Context::of(&*rig, &Camera::default(), Rate::FILM);
    let turned = |at_s: f64, deg: f64| key(at_s, [0.0; 3], [deg, 0.0, 0.0]);
    let told = |keys: Vec<CorrectionKey>| -> Vec<String> {
        let spec = Correction { keys, ..Correction::default() };
        corrected(&spec, &raw, &context).warnings.into_iter().map(|w| w.what).collect()
    };
    assert_eq!(told(vec![turned(3.0, 4.0), turned(6.0, 8.0)]), [""; 0]);
    let wobbling = told(vec![turned(3.0, 4.0), turned(4.0, -3.0), turned(5.0, 4.0)]);
    assert!(
        wobbling.contains(&"the key of the correction at frame 96 makes pan go to and fro".to_string()),
        "{wobbling:?}"
    );
}

#[test]
fn keys_out_of_order_and_beyond_their_range_are_refused_by_name() {
    let refused = |spec: Correction| {
        let e = Treatment::from(TreatmentKind::Correction(spec)).check().unwrap_err();
        (e.path, e.sentence)
    };
    let keys = vec![key(4.0, [0.0; 3], [0.0; 3]), key(2.0, [0.0; 3], [0.0; 3])];
    let (path, sentence) = refused(Correction { keys, ..Correction::default() });
    assert_eq!((&*path, &*sentence), ("keys/1/at_s", "keys 1 and 2 are at one time or out of order"));
    let keys = vec![key(4.0, [0.0; 3], [0.0, 400.0, 0.0])];
    assert_eq!(refused(Correction { keys, ..Correction::default() }).0, "keys/0/turn_deg/1");
    assert_eq!(refused(Correction { blend_s: 0.0, ..Correction::default() }).0, "blend_s");
}
