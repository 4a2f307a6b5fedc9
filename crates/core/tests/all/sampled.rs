//! Shake that another camera had: as far, as quick, without where that was going, and without a jump where
//! it begins again.

use crate::shaking::{HZ, crane, off, rms, still, welch};
use rovnek_core::DVec3;
use rovnek_core::ids::TakeId;
use rovnek_core::lens::Camera;
use rovnek_core::motion::{Context, Motion, Recorded, Takes};
use rovnek_core::space::{PanTiltRoll, Pose};
use rovnek_core::time::Rate;
use rovnek_core::treatments::{Reads, Shake, ShakeBy, Treatment, TreatmentKind};
use std::f64::consts::{FRAC_1_SQRT_2, TAU};

/// Take 7 is all there is.
struct Take7(Recorded);

impl Takes for Take7 {
    fn recorded(&self, take: TakeId) -> Option<Recorded> {
        (take == TakeId(7)).then(|| self.0.clone())
    }

    fn version(&self, _: TakeId) -> u64 {
        1
    }
}

/// A camera that walks round a corner, and shakes so far as it goes: 1 cm up at 3.1 Hz, 0.4° of tilt at
/// 4.3 Hz.
fn recorded(seconds: f64, rate_hz: f64, shakes: f64) -> Recorded {
    let pose = |k: usize| {
        let t = k as f64 / rate_hz;
        let up = shakes * 0.01 * (TAU * 3.1 * t).sin();
        let tilt = shakes * 0.4_f64.to_radians() * (TAU * 4.3 * t).sin();
        let turn = PanTiltRoll { pan: 1.2 * (0.3 * t).sin(), tilt, roll: 0.0 }.to_rotation();
        Pose::new(DVec3::new(0.9 * t, 1.6 + up, 3.0 * (0.2 * t).cos()), turn)
    };
    Recorded { rate_hz, poses: (0..=(seconds * rate_hz) as usize).map(pose).collect() }
}

fn sampled(take: TakeId, times: [f64; 2]) -> Treatment {
    let way = ShakeBy::Sampled { take: Some(take), from_hz: 1.0, starts_s: 0.0, times };
    let treatment = Treatment::from(TreatmentKind::Shake(Shake { way, ..Shake::default() }));
    assert_eq!((treatment.check(), treatment.kind.reads()), (Ok(()), Reads::Recorded(take)));
    treatment
}

fn laid(take: Recorded, treatment: &Treatment, seconds: f64) -> ([Vec<f64>; 6], Motion) {
    let rig = crane();
    let takes = Take7(take);
    let context = Context { takes: Some(&takes), ..Context::of(&*rig, &Camera::default(), Rate::FILM) };
    let before = still(&*rig, seconds, 35.0);
    let after = treatment.apply(&before, &context);
    (off(&*rig, &before, &after), after)
}

#[test]
fn it_shakes_as_far_and_as_quick_as_the_take_did() {
    for rate_hz in [60.0, 120.0, 240.0] {
        let (courses, after) = laid(recorded(20.0, rate_hz, 1.0), &sampled(TakeId(7), [1.0, 1.0]), 120.0);
        assert!(after.warnings.is_empty());
        let (up, tilt) = (&courses[1], &courses[4]);
        // The RMS of a sine.
        assert!((rms(up) - FRAC_1_SQRT_2).abs() < 0.02, "{rate_hz}: {}", rms(up));
        assert!((rms(tilt) - 0.4 * FRAC_1_SQRT_2).abs() < 0.01, "{rate_hz}: {}", rms(tilt));
        for (course, hz) in [(up, 3.1), (tilt, 4.3)] {
            let power = welch(course, HZ, 4096);
            let at = |k: usize| k as f64 * HZ / 4096.0;
            let near: f64 = (0..power.len()).filter(|k| (at(*k) - hz).abs() < 0.3).map(|k| power[k]).sum();
            assert!(near > 0.95 * power.iter().sum::<f64>(), "{hz} Hz");
        }
        // Where it was going stays out: aside, ahead, pan and roll.
        for i in [0, 2, 3, 5] {
            assert!(rms(&courses[i]) < 0.05, "{i}: {}", rms(&courses[i]));
        }
        // It is as strong where it begins again as elsewhere, and never jumps.
        let step = |c: &[f64]| c.windows(2).map(|w| (w[1] - w[0]).abs()).fold(0.0, f64::max);
        assert!(step(up) < 1.5 * TAU * 3.1 / HZ, "{}", step(up));
        let weakest = up.windows(120).map(rms).fold(f64::MAX, f64::min);
        assert!(weakest > 0.5, "{weakest}");
    }
}

#[test]
fn a_clean_take_shakes_nothing_and_twice_is_twice() {
    let (clean, _) = laid(recorded(20.0, HZ, 0.0), &sampled(TakeId(7), [1.0, 1.0]), 30.0);
    assert!(clean.iter().all(|c| rms(c) < 0.05));
    let once = laid(recorded(20.0, HZ, 1.0), &sampled(TakeId(7), [1.0, 1.0]), 30.0).0;
    let more = laid(recorded(20.0, HZ, 1.0), &sampled(TakeId(7), [2.0, 0.0]), 30.0).0;
    let twice = |i: usize| once[i].iter().zip(&more[i]).all(|(a, b)| (2.0 * a - b).abs() < 1e-9);
    assert!((0..3).all(twice));
    assert!((3..6).all(|i| rms(&more[i]) < 1e-9));
}

#[test]
fn a_take_that_is_gone_or_too_short_is_told_and_nothing_shakes() {
    for (take, seconds) in [(7, 2.5), (7, 0.0), (8, 20.0)] {
        let (courses, after) = laid(recorded(seconds, HZ, 1.0), &sampled(TakeId(take), [1.0, 1.0]), 5.0);
        assert!(courses.iter().flatten().all(|v| v.abs() < 1e-9));
        assert!(after.warnings[0].what.contains("choose another"), "{:?}", after.warnings);
    }
    let none = ShakeBy::Sampled { take: None, from_hz: 1.0, starts_s: 0.0, times: [1.0, 1.0] };
    let none = Treatment::from(TreatmentKind::Shake(Shake { way: none, ..Shake::default() }));
    assert_eq!(none.kind.reads(), Reads::Nothing);
    assert!(laid(recorded(20.0, HZ, 1.0), &none, 5.0).1.warnings.is_empty());
}
