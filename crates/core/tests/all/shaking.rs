//! Shake that is made: its RMS, where its power lies (Welch's method, held against SciPy's), the same
//! bytes for the same seed, the same on the screen at every focal length.

use crate::common::{values, walks};
use realfft::RealFftPlanner;
use rovnek_core::DVec3;
use rovnek_core::curve::{Curve, CurveKey};
use rovnek_core::evaluate::frames;
use rovnek_core::ids::{PerformanceId, PerformerId};
use rovnek_core::lens::Camera;
use rovnek_core::motion::{Context, Motion, Playing};
use rovnek_core::performer::Clips;
use rovnek_core::playing::PerformanceTimeline;
use rovnek_core::rigs::{Rig, RigSpec, TelescopicCrane};
use rovnek_core::samples::Samples;
use rovnek_core::space::{PanTiltRoll, Pose, shorter_turn};
use rovnek_core::time::Rate;
use rovnek_core::treatments::{
    Amounts, Reads, Scope, Shake, ShakeBy, Span, Strength, Treatment, TreatmentKind, check_list,
};
use std::f64::consts::TAU;

pub(crate) const HZ: f64 = 120.0;
const AMOUNTS: Amounts = Amounts { position_cm: [1.0, 2.0, 0.5], rotation_deg: [0.3, 0.5, 0.2] };

pub(crate) fn crane() -> Box<dyn Rig> {
    RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default())
}

/// A crane that stands, with a lens of this length on it.
pub(crate) fn still(rig: &dyn Rig, seconds: f64, focal_mm: f64) -> Motion {
    let row = [0.4, 0.1, 5.0, 0.3, -0.2, 0.0, focal_mm, 5.0, 4.0];
    let count = (seconds * HZ) as usize + 1;
    Motion::of(Samples::new(HZ, 9, row.repeat(count)), rig.axes())
}

fn noise(from_hz: f64, to_hz: f64) -> Shake {
    Shake { way: ShakeBy::Noise { amounts: AMOUNTS, from_hz, to_hz, falls: 1.0 }, ..Shake::default() }
}

fn shaken(rig: &dyn Rig, before: &Motion, shake: Shake) -> Motion {
    let context = Context::of(rig, &Camera::default(), Rate::FILM);
    let treatment = Treatment::from(TreatmentKind::Shake(shake));
    assert_eq!(treatment.check(), Ok(()));
    treatment.apply(before, &context)
}

/// How far the camera is off in its own axes: side, up, ahead in cm, turned about its x, y, z in degrees.
pub(crate) fn off(rig: &dyn Rig, before: &Motion, after: &Motion) -> [Vec<f64>; 6] {
    let steps: Vec<Pose> =
        (0..before.samples.len()).map(|k| before.pose(k, rig).inverse().then(after.pose(k, rig))).collect();
    std::array::from_fn(|i| {
        let of = |p: &Pose| {
            let a = PanTiltRoll::from_rotation(p.rotation);
            match i {
                0..3 => (p.position * DVec3::new(100.0, 100.0, -100.0))[i],
                3 => a.pan.to_degrees(),
                4 => a.tilt.to_degrees(),
                _ => a.roll.to_degrees(),
            }
        };
        steps.iter().map(of).collect()
    })
}

pub(crate) fn rms(values: &[f64]) -> f64 {
    (values.iter().map(|v| v * v).sum::<f64>() / values.len() as f64).sqrt()
}

/// Welch's method as SciPy does it: a periodic Hann window, halves overlapping, means taken away.
pub(crate) fn welch(x: &[f64], rate: f64, segment: usize) -> Vec<f64> {
    let window: Vec<f64> =
        (0..segment).map(|i| 0.5 - 0.5 * (TAU * i as f64 / segment as f64).cos()).collect();
    let scale = 1.0 / (rate * window.iter().map(|w| w * w).sum::<f64>());
    let forth = RealFftPlanner::<f64>::new().plan_fft_forward(segment);
    let starts: Vec<usize> = (0..).map(|k| k * segment / 2).take_while(|s| s + segment <= x.len()).collect();
    let mut power = vec![0.0; segment / 2 + 1];
    for start in &starts {
        let part = &x[*start..start + segment];
        let mean = part.iter().sum::<f64>() / segment as f64;
        let mut wave: Vec<f64> = part.iter().zip(&window).map(|(v, w)| (v - mean) * w).collect();
        let mut spectrum = forth.make_output_vec();
        forth.process(&mut wave, &mut spectrum).unwrap();
        for (k, (p, bin)) in power.iter_mut().zip(&spectrum).enumerate() {
            let both = if k == 0 || k == segment / 2 { 1.0 } else { 2.0 };
            *p += both * bin.norm_sqr() * scale / starts.len() as f64;
        }
    }
    power
}

#[test]
fn the_welch_of_these_tests_is_scipys() {
    let kept = values("welch");
    let numbers = |name: &str| -> Vec<f64> {
        kept[name].as_array().unwrap().iter().map(|v| v.as_f64().unwrap()).collect()
    };
    let got =
        welch(&numbers("x"), kept["rate"].as_f64().unwrap(), kept["segment"].as_u64().unwrap() as usize);
    for (g, w) in got.iter().zip(numbers("p")) {
        assert!((g - w).abs() < 1e-9 * w.max(1.0), "{g} is not {w}");
    }
}

#[test]
fn noise_has_the_rms_that_was_asked_for_and_its_power_in_its_band() {
    let rig = crane();
    let before = still(&*rig, 600.0, 35.0);
    for (from, to) in [(0.3, 4.0), (1.0, 7.0), (8.0, 11.5)] {
        let after = shaken(&*rig, &before, noise(from, to));
        assert_eq!(after.samples, before.samples, "the machine stays calm");
        let courses = off(&*rig, &before, &after);
        let asked = [AMOUNTS.position_cm, AMOUNTS.rotation_deg].concat();
        for (course, asked) in courses.iter().zip(asked) {
            assert!((rms(course) - asked).abs() < 0.01 * asked, "{} is not {asked}", rms(course));
            let power = welch(course, HZ, 8192);
            let hz = |k: usize| k as f64 * HZ / 8192.0;
            let inside: f64 =
                (0..power.len()).filter(|k| (from..=to).contains(&hz(*k))).map(|k| power[k]).sum();
            let share = inside / power.iter().sum::<f64>();
            assert!(share > 0.95, "{share} within {from} to {to} Hz");
        }
    }
}

#[test]
fn a_drawn_spectrum_has_its_power_where_it_is_drawn_and_the_rms_that_was_asked_for() {
    let rig = crane();
    let before = still(&*rig, 600.0, 35.0);
    let spectrum =
        Curve::new([(1.0, 0.0), (2.0, 1.0), (3.0, 0.0)].map(|(t, v)| CurveKey::smooth(t, v)).into());
    let way = ShakeBy::Own { amounts: AMOUNTS, spectrum: spectrum.unwrap() };
    let after = shaken(&*rig, &before, Shake { way: way.clone(), ..Shake::default() });
    let courses = off(&*rig, &before, &after);
    for (course, asked) in courses.iter().zip([AMOUNTS.position_cm, AMOUNTS.rotation_deg].concat()) {
        assert!((rms(course) - asked).abs() < 0.01 * asked, "{} is not {asked}", rms(course));
        let power = welch(course, HZ, 8192);
        let within = |from: f64, to: f64| -> f64 {
            let hz = |k: usize| k as f64 * HZ / 8192.0;
            (0..power.len()).filter(|k| (from..=to).contains(&hz(*k))).map(|k| power[k]).sum()
        };
        assert!(within(1.0, 3.0) > 0.95 * power.iter().sum::<f64>());
        assert!(within(1.75, 2.25) > 5.0 * (within(1.0, 1.25) + within(2.75, 3.0)));
    }
    let none = Curve::new(vec![CurveKey::smooth(1.0, 0.0)]).unwrap();
    let nothing = Shake { way: ShakeBy::Own { amounts: AMOUNTS, spectrum: none }, ..Shake::default() };
    let refused = Treatment::from(TreatmentKind::Shake(nothing)).check().unwrap_err();
    assert_eq!(refused.path, "way/spectrum");
}

#[test]
fn the_same_seed_is_the_same_to_the_bit_and_another_is_not() {
    let rig = crane();
    let before = still(&*rig, 5.0, 35.0);
    let with = |seed: u32| shaken(&*rig, &before, Shake { seed, ..noise(0.3, 4.0) });
    assert_eq!(with(7), with(7));
    assert_ne!(with(7), with(8));
    let steps = ShakeBy::Steps { amounts: AMOUNTS, per_s: 1.8, who: None };
    let walk = shaken(&*rig, &before, Shake { way: steps, ..Shake::default() });
    let up = &off(&*rig, &before, &walk)[1];
    assert!((rms(up) - 2.0).abs() < 0.02, "{}", rms(up));
    // Five seconds of 1.8 steps: up and down nine times, give or take an early one.
    let beats = up.windows(2).filter(|w| w[0] < 0.0 && w[1] >= 0.0).count();
    assert!((8..=11).contains(&beats), "{beats}");
}

/// Somebody walks, stands for three seconds, and walks on: the camera feels each of their steps, and
/// nothing while they stand.
#[test]
fn the_steps_of_somebody_are_felt_when_their_feet_come_down() {
    let rig = crane();
    let before = still(&*rig, 12.0, 35.0);
    let walk = [(0.0, -4.0), (4.0, 0.0), (7.0, 0.0), (11.0, 4.0)].map(|(t, x)| (t, [x, 0.0, -5.0]));
    let timeline = PerformanceTimeline::compile(&[], &[walks(1, &walk)], PerformanceId(1), &Clips::new());
    let playing = Some(Playing { timeline: &timeline, version: 1 });
    let context = Context { playing, ..Context::of(&*rig, &Camera::default(), Rate::FILM) };
    let way = ShakeBy::Steps { amounts: AMOUNTS, per_s: 1.8, who: Some(PerformerId(1)) };
    let treatment = Treatment::from(TreatmentKind::Shake(Shake { way, ..Shake::default() }));
    assert_eq!((treatment.check(), treatment.kind.reads()), (Ok(()), Reads::Playing));
    let after = treatment.apply(&before, &context);
    let up = &off(&*rig, &before, &after)[1];
    let landings = timeline.landings_of(PerformerId(1));
    assert!(landings.len() > 10, "{landings:?}");
    for landing in landings.windows(3).filter(|w| w[2] - w[0] < 1.5) {
        // From one foot to the next it goes up and down once.
        let within = &up[(landing[0] * HZ) as usize..(landing[1] * HZ) as usize];
        let ups = within.windows(2).filter(|w| w[0] < 0.0 && w[1] >= 0.0).count();
        assert!(ups <= 1, "{ups}");
    }
    assert!(up[(4.8 * HZ) as usize..(6.6 * HZ) as usize].iter().all(|v| v.abs() < 1e-9), "they stand");
    let there: Vec<f64> = up.iter().copied().filter(|v| v.abs() > 1e-12).collect();
    assert!((rms(&there) - 2.0).abs() < 0.02, "{}", rms(&there));
    // Of somebody who is not there, nothing.
    let nobody = ShakeBy::Steps { amounts: AMOUNTS, per_s: 1.8, who: Some(PerformerId(9)) };
    let calm = Treatment::from(TreatmentKind::Shake(Shake { way: nobody, ..Shake::default() }));
    assert!(off(&*rig, &before, &calm.apply(&before, &context)).iter().flatten().all(|v| v.abs() < 1e-9));
}

#[test]
fn a_hit_comes_when_it_is_due_reaches_what_was_asked_and_dies_away() {
    let rig = crane();
    let before = still(&*rig, 4.0, 35.0);
    let way = ShakeBy::Hit { amounts: AMOUNTS, at_s: 1.0, dies_s: 0.25, hz: 6.0 };
    let after = shaken(&*rig, &before, Shake { way, ..Shake::default() });
    let courses = off(&*rig, &before, &after);
    let up = &courses[1];
    assert!(up[..=120].iter().all(|v| v.abs() < 1e-9), "nothing before it");
    let most = up.iter().copied().fold(0.0, f64::max);
    assert!((most - 2.0).abs() < 0.05, "{most}");
    assert!(up[360..].iter().all(|v| v.abs() < 0.01), "two seconds later it is over");
}

#[test]
fn on_the_screen_it_is_the_same_at_every_focal_length() {
    let rig = crane();
    let camera = Camera::default();
    let shake = Shake { same_on_screen_mm: Some(35.0), ..noise(0.5, 4.0) };
    // How far the middle of the picture goes on the sensor.
    let moved = |focal_mm: f64| {
        let before = still(&*rig, 20.0, focal_mm);
        let after = shaken(&*rig, &before, shake.clone());
        let on_sensor = |k: usize| {
            let turn =
                shorter_turn(before.pose(k, &*rig).rotation.conjugate() * after.pose(k, &*rig).rotation);
            focal_mm * turn.x.hypot(turn.y).tan() / camera.sensor_width_mm
        };
        rms(&(0..before.samples.len()).map(on_sensor).collect::<Vec<_>>())
    };
    let at_35 = moved(35.0);
    for focal_mm in [20.0, 50.0, 85.0, 150.0] {
        assert!((moved(focal_mm) - at_35).abs() < 0.01 * at_35, "{focal_mm} mm");
    }
}

#[test]
fn it_turns_about_the_shoulder() {
    let rig = crane();
    let before = still(&*rig, 5.0, 35.0);
    let amounts = Amounts { position_cm: [0.0; 3], ..AMOUNTS };
    let way = ShakeBy::Noise { amounts, from_hz: 0.3, to_hz: 4.0, falls: 1.0 };
    let after = shaken(&*rig, &before, Shake { way, pivot_m: 0.3, ..Shake::default() });
    let behind = |m: &Motion, k: usize| {
        let pose = m.pose(k, &*rig);
        pose.position + pose.rotation * DVec3::new(0.0, 0.0, 0.3)
    };
    for k in 0..before.samples.len() {
        assert!(behind(&after, k).distance(behind(&before, k)) < 1e-12, "the shoulder stays");
    }
    assert!(after.pose(300, &*rig).position.distance(before.pose(300, &*rig).position) > 1e-5);
}

#[test]
fn it_comes_last_keeps_to_its_time_and_is_seen_in_the_frames() {
    let rig = crane();
    let context = Context::of(&*rig, &Camera::default(), Rate::FILM);
    let before = still(&*rig, 8.0, 35.0);
    let span = Span { from_s: 2.0, to_s: 6.0, ease_in_s: 0.5, ease_out_s: 1.0 };
    let whole = Treatment::from(TreatmentKind::Shake(noise(0.3, 14.0)));
    let scope = Scope { axes: None, range: Some(span) };
    let after = Treatment { scope, ..whole.clone() }.apply(&before, &context);
    let all = whole.apply(&before, &context);
    for k in 0..before.samples.len() {
        let t = k as f64 / HZ;
        if t <= 2.0 || t >= 6.0 {
            assert_eq!(after.pose(k, &*rig), before.pose(k, &*rig), "{t}");
        } else if (2.5..=5.0).contains(&t) {
            assert_eq!(after.pose(k, &*rig), all.pose(k, &*rig), "{t}");
        }
    }
    let half = Treatment { strength: Strength::Even(0.5), ..whole.clone() }.apply(&before, &context);
    let far = |m: &Motion| m.pose(500, &*rig).position.distance(before.pose(500, &*rig).position);
    assert!((far(&half) - far(&all) / 2.0).abs() < 1e-12);
    let seen = frames(&all, &*rig, Rate::FILM);
    assert_eq!(seen[100].rig_pose.camera, all.pose(500, &*rig), "frame 100 is sample 500");
    assert!(all.warnings[0].what.contains("of which 24 frames a second show 12.0"), "{:?}", all.warnings);
    let smooth = TreatmentKind::named("smooth").unwrap().into();
    assert!(check_list(&[whole, smooth]).is_err(), "treatments of the camera come last");
}

#[test]
fn a_shake_that_cannot_be_is_refused() {
    let refused = |shake: Shake| Treatment::from(TreatmentKind::Shake(shake)).check().unwrap_err();
    assert!(refused(noise(4.0, 4.0)).sentence.contains("let it go higher"));
    assert_eq!(refused(noise(f64::NAN, 4.0)).path, "way/from_hz");
    let far = Amounts { position_cm: [1000.0, 0.0, 0.0], ..AMOUNTS };
    let way = ShakeBy::Steps { amounts: far, per_s: 2.0, who: None };
    assert!(refused(Shake { way, ..Shake::default() }).sentence.contains("0 to 100 cm"));
    assert_eq!(refused(Shake { same_on_screen_mm: Some(0.0), ..Shake::default() }).path, "same_on_screen_mm");
}
