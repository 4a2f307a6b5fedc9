//! Figures of camera moves held against motions whose figures are known: sines, clean strokes, holds
//! and creeps, at every sample rate, in any mounting.

use crate::common::Dice;
use glam::{DQuat, DVec3};
use rovnek_core::measures::{Metrics, figures, log_dimensionless_jerk, spectral_arc_length};
use rovnek_core::space::Pose;
use rovnek_core::track::{LensState, Track};
use std::f64::consts::TAU;

const RATES: [f64; 4] = [24.0, 60.0, 120.0, 240.0];

fn track(length_s: f64, rate: f64, mut at: impl FnMut(f64) -> Pose) -> Track {
    let lens = LensState { focal_mm: 35.0, focus_m: 5.0, f_stop: 4.0 };
    let count = (length_s * rate).round() as usize + 1;
    Track::from_poses((0..count).map(|i| (i as f64 / rate, at(i as f64 / rate), lens)))
}

fn placed(x: f64) -> Pose {
    Pose::new(DVec3::new(x, 1.6, 0.0), DQuat::IDENTITY)
}

fn panned(degrees: f64) -> Pose {
    Pose::new(DVec3::ZERO, DQuat::from_rotation_y(-degrees.to_radians()))
}

/// From 0 to 1, softly, between two times.
fn stroke(t: f64, from: f64, to: f64) -> f64 {
    let u = ((t - from) / (to - from)).clamp(0.0, 1.0);
    u * u * u * (10.0 - 15.0 * u + 6.0 * u * u)
}

fn position(m: &Metrics) -> (f64, f64) {
    let shake = m.shake_position_cm.expect("it is long enough");
    (shake.whole, shake.worst_second)
}

fn rotation(m: &Metrics) -> (f64, f64) {
    let shake = m.shake_rotation_deg.expect("it is long enough");
    (shake.whole, shake.worst_second)
}

/// Noise with a normal distribution (sum of twelve even ones).
fn normal(dice: &mut Dice) -> f64 {
    (0..12).map(|_| dice.between(-0.5, 0.5)).sum()
}

#[test]
fn a_wave_of_3_hz_and_1_cm_reads_its_rms_at_any_rate() {
    for rate in RATES {
        let m = figures(&track(10.0, rate, |t| placed(0.01 * (TAU * 3.0 * t).sin())), &[]);
        let (whole, worst) = position(&m);
        assert!((whole - 0.5f64.sqrt()).abs() < 0.00707, "{rate}: {whole}");
        assert!((worst - 0.5f64.sqrt()).abs() < 0.00707, "{rate}: {worst}");
        assert!(rotation(&m).1 < 1e-9);
        let m = figures(&track(10.0, rate, |t| panned((TAU * 3.0 * t).sin())), &[]);
        assert!((rotation(&m).0 - 0.5f64.sqrt()).abs() < 0.00707, "{rate}: {:?}", rotation(&m));
    }
}

#[test]
fn a_clean_stroke_is_no_shake_however_quick_it_is() {
    for rate in RATES {
        for seconds in [0.2, 0.5, 1.0, 2.0] {
            let pan = figures(&track(6.0, rate, |t| panned(90.0 * stroke(t, 2.5, 2.5 + seconds))), &[]);
            assert!(rotation(&pan).1 < 0.1, "pan in {seconds} s at {rate}: {:?}", rotation(&pan));
        }
        for length_s in [2.0, 2.7, 5.0, 31.3] {
            let line = figures(&track(length_s, rate, |t| placed(0.8 * t)), &[]);
            assert!(position(&line).1 < 1e-6, "a line of {length_s} s at {rate}: {:?}", position(&line));
        }
        let circle = |t: f64| {
            let (sin, cos) = (TAU * 0.9 * t).sin_cos();
            Pose::new(DVec3::new(cos, 1.6, sin), DQuat::IDENTITY)
        };
        let circle = figures(&track(10.0, rate, circle), &[]);
        assert!(position(&circle).0 < 2.0, "a circle at {rate}: {:?}", position(&circle));
    }
}

#[test]
fn shake_on_a_clean_stroke_is_what_was_laid_onto_it() {
    let at = |t: f64| panned(90.0 * stroke(t, 4.0, 4.5) + 0.3 * (TAU * 3.0 * t).sin());
    let (whole, worst) = rotation(&figures(&track(10.0, 120.0, at), &[]));
    assert!((whole - 0.2121).abs() < 0.03 && worst < 0.3, "{whole} {worst}");
}

#[test]
fn shake_is_the_same_in_any_mounting_and_in_a_turned_world() {
    let hand = |t: f64| {
        let turn = DVec3::new(
            0.3 * (0.7 * t).sin() + 0.01 * (TAU * 2.1 * t).sin(),
            0.9 * (0.4 * t).sin() + 0.02 * (TAU * 3.3 * t).cos(),
            0.01 * (TAU * 1.7 * t).sin(),
        );
        let place = DVec3::new(0.5 * t, 1.6 + 0.01 * (TAU * 2.0 * t).sin(), 0.02 * (TAU * 1.9 * t).cos());
        Pose::new(place, DQuat::from_scaled_axis(turn))
    };
    let plain = figures(&track(12.0, 120.0, hand), &[]);
    let turned = DQuat::from_scaled_axis(DVec3::new(1.2, -0.4, 0.9));
    let mounted = |t: f64| Pose::new(hand(t).position, (hand(t).rotation * turned).normalize());
    let world = |t: f64| Pose::new(turned * hand(t).position, (turned * hand(t).rotation).normalize());
    for other in [figures(&track(12.0, 120.0, mounted), &[]), figures(&track(12.0, 120.0, world), &[])] {
        for (a, b) in [(rotation(&plain), rotation(&other)), (position(&plain), position(&other))] {
            assert!((a.0 - b.0).abs() < 1e-9 && (a.1 - b.1).abs() < 1e-9, "{a:?} {b:?}");
        }
        assert!((plain.top_turn_deg_s - other.top_turn_deg_s).abs() < 1e-9);
    }
    // A clean tilt over the top, where pan and roll jump.
    let over = |t: f64| Pose::new(DVec3::ZERO, DQuat::from_rotation_x(2.4 * stroke(t, 1.0, 4.0)));
    assert!(rotation(&figures(&track(6.0, 120.0, over), &[])).1 < 0.1);
}

#[test]
fn a_short_shake_is_not_diluted_by_a_long_take() {
    let worst = |length_s: f64| {
        let shaken = |t: f64| if (5.0..7.0).contains(&t) { 0.01 * (TAU * 3.0 * t).sin() } else { 0.0 };
        let m = figures(&track(length_s, 120.0, |t| placed(0.3 * t + shaken(t))), &[]);
        let at = m.shake_position_cm.unwrap().worst_at_s;
        assert!((5.4..6.6).contains(&at), "{at}");
        position(&m)
    };
    let (short, long) = (worst(12.0), worst(120.0));
    assert!((short.1 - 0.5f64.sqrt()).abs() < 0.05 && (short.1 - long.1).abs() < 1e-6, "{short:?} {long:?}");
    assert!(long.0 < 0.15 && short.0 > 0.25);
}

/// A bump of 2 cm, up and down again as a cosine goes: in no second can it have an RMS over 2 cm · √(3/8 · its
/// length), which is what it has where nothing else is in that second.
#[test]
fn a_bump_reads_no_more_than_a_bump_can_have() {
    let bump = |t: f64, seconds: f64| {
        let u = (t - 5.0) / seconds;
        if (0.0..1.0).contains(&u) { 0.01 * (1.0 - (TAU * u).cos()) } else { 0.0 }
    };
    for (seconds, reads) in [(0.05, 0.26), (0.1, 0.35), (0.2, 0.44)] {
        let possible = 2.0 * (0.375_f64 * seconds).sqrt();
        for rate in [60.0, 120.0, 240.0] {
            let (whole, worst) = position(&figures(&track(10.0, rate, |t| placed(bump(t, seconds))), &[]));
            assert!(worst <= possible && (worst - reads).abs() < 0.03, "{seconds} s at {rate}: {worst}");
            assert!(whole < worst, "{seconds} s at {rate}: {whole}");
        }
        let (_, coarse) = position(&figures(&track(10.0, 24.0, |t| placed(bump(t, seconds))), &[]));
        assert!(coarse <= 2.0 / 24_f64.sqrt() * (1.0 + 24.0 * seconds).sqrt(), "{seconds} s at 24: {coarse}");
        // Tilted by 2° and back, it reads the same in degrees.
        let (_, turned) = rotation(&figures(&track(10.0, 120.0, |t| panned(100.0 * bump(t, seconds))), &[]));
        assert!((turned - reads).abs() < 0.03, "{seconds} s: {turned}°");
    }
    // One sample that lies wrong.
    let spike = |t: f64| if (t - 5.0).abs() < 1e-6 { 0.02 } else { 0.0 };
    let (_, worst) = position(&figures(&track(10.0, 120.0, |t| placed(spike(t))), &[]));
    assert!(worst <= 2.0 / 120_f64.sqrt(), "{worst}");
}

#[test]
fn so_many_cycles_of_a_wave_read_the_more_the_more_there_are() {
    let mut last = 0.0;
    for (cycles, reads) in [(1.0, 0.31), (2.0, 0.44), (3.0, 0.54), (5.0, 0.70), (8.0, 0.71)] {
        for rate in [60.0, 120.0, 240.0] {
            let wave = |t: f64| {
                if (5.0..5.0 + cycles / 5.0).contains(&t) { 0.01 * (TAU * 5.0 * t).sin() } else { 0.0 }
            };
            let (_, worst) = position(&figures(&track(12.0, rate, |t| placed(wave(t))), &[]));
            assert!((worst - reads).abs() < 0.02, "{cycles} cycles at {rate}: {worst}");
            if rate == 120.0 {
                assert!(worst > last - 0.005, "{cycles} cycles: {worst} after {last}");
                last = worst;
            }
        }
    }
}

/// Every wave that a hand makes reads its RMS, wherever it begins and on top of whatever the camera does.
#[test]
fn waves_of_every_speed_read_their_rms() {
    for tenths in [15, 17, 20, 25, 31, 42, 58, 77, 96, 115] {
        let hz = f64::from(tenths) / 10.0;
        for phase in [0.0, 0.7, 1.9] {
            let at = |t: f64| placed(0.4 * t + 0.01 * (TAU * hz * t + phase).sin());
            let (whole, worst) = position(&figures(&track(20.0, 120.0, at), &[]));
            // A second holds no whole number of waves: the worst one may read more than the wave's own RMS.
            let [whole, worst] = [whole, worst].map(|reads| reads / 0.5_f64.sqrt() - 1.0);
            assert!(whole.abs() < 0.011, "{hz} Hz, {phase}: {whole}");
            assert!((-0.011..0.09).contains(&worst), "{hz} Hz, {phase}: {worst}");
        }
    }
}

#[test]
fn what_is_too_short_or_too_coarse_has_no_shake() {
    for (length_s, rate) in [(1.9, 120.0), (0.0, 120.0), (60.0, 2.0)] {
        let m = figures(&track(length_s, rate, |t| placed(t.sin())), &[]);
        assert_eq!((m.shake_position_cm, m.shake_rotation_deg), (None, None), "{length_s} s at {rate}");
    }
    for count in 0..4 {
        let m = figures(&track(f64::from(count) / 24.0, 24.0, placed), &[]);
        assert!(m.path_length_m.is_finite() && m.rate_hz.is_finite() && m.dead_stops.is_empty());
    }
}

/// How a walk leaves its place: with a jolt, softly within so long, or pushed evenly up to its speed.
#[derive(Clone, Copy, Debug)]
enum Start {
    Jolt,
    Soft(f64),
    Pushed(f64),
}

/// How far a walk has come some time after its start.
fn walked(start: Start, t: f64) -> f64 {
    let t = t.max(0.0);
    match start {
        Start::Jolt => 0.4 * t,
        Start::Soft(seconds) => stroke(t, 0.0, seconds),
        Start::Pushed(m_s2) => {
            let up = t.min(0.4 / m_s2);
            0.5 * m_s2 * up * up + 0.4 * (t - up)
        }
    }
}

/// A walk, a hold of 5 s from 4 s on, and a walk again.
#[test]
fn a_hold_of_5_s_is_found_within_a_frame_under_noise_at_every_rate() {
    use Start::{Jolt, Pushed, Soft};
    let mut dice = Dice::new();
    for rate in [24.0, 60.0, 120.0] {
        for start in [Jolt, Soft(1.0), Soft(2.0), Soft(3.0), Pushed(0.5), Pushed(1.5)] {
            for noise_mm in [0.0, 0.1, 0.2, 0.5] {
                for _ in 0..8 {
                    let mut noise = || normal(&mut dice) * noise_mm / 1000.0;
                    let at = |t: f64| placed(walked(start, t - 9.0) - walked(start, 4.0 - t) + noise());
                    let m = figures(&track(13.0, rate, at), &[]);
                    let [stop] = m.dead_stops[..] else {
                        panic!("{rate} Hz, {start:?}, {noise_mm} mm: {:?}", m.dead_stops)
                    };
                    let frames = (stop.length_s() - 5.0).abs() * 24.0;
                    let bound = match (start, noise_mm) {
                        // An even push is told from a soft start where nothing hides it.
                        (Pushed(_), 0.0) if rate > 24.0 => 1.0,
                        (Pushed(_), _) => 4.5,
                        (_, noise) if noise > 0.2 => 2.0,
                        _ => 1.0,
                    };
                    assert!(frames <= bound, "{rate} Hz, {start:?}, {noise_mm} mm: {stop:?}");
                }
            }
        }
    }
}

#[test]
fn a_creep_is_no_stop_but_a_crawl_is_and_turning_is_moving() {
    for rate in RATES {
        let stops = |mm_s: f64| {
            let at = |t: f64| {
                placed(0.5 * t.min(2.0) + 0.001 * mm_s * (t - 2.0).clamp(0.0, 4.0) + 0.5 * (t - 6.0).max(0.0))
            };
            figures(&track(8.0, rate, at), &[]).dead_stops.len()
        };
        assert_eq!((stops(4.0), stops(2.0), stops(0.0)), (0, 1, 1), "{rate}");
        let turning = track(8.0, rate, |t| {
            Pose::new(placed(0.5 * (t.min(2.0) + (t - 6.0).max(0.0))).position, panned(2.0 * t).rotation)
        });
        assert!(figures(&turning, &[]).dead_stops.is_empty());
        // At the start and at the end a camera may stand.
        let ends = track(10.0, rate, |t| placed(stroke(t, 3.0, 5.0)));
        assert!(figures(&ends, &[]).dead_stops.is_empty());
    }
    let turns = track(12.0, 60.0, |t| panned(30.0 * (stroke(t, 1.0, 3.0) + stroke(t, 8.0, 10.0))));
    let stop = figures(&turns, &[]).dead_stops[0];
    assert!((stop.length_s() - 5.0).abs() < 1.0 / 24.0, "{stop:?}");
}

#[test]
fn speeds_are_the_same_at_every_rate() {
    let at = |t: f64| {
        Pose::new(DVec3::new((1.7 * t).sin(), 0.0, 0.0), DQuat::from_rotation_y(0.8 * (2.3 * t).sin()))
    };
    for rate in RATES {
        let m = figures(&track(8.0, rate, at), &[]);
        assert!((m.top_speed_m_s - 1.7).abs() < 0.01 * 1.7, "{rate}: {}", m.top_speed_m_s);
        let turn = (0.8f64 * 2.3).to_degrees();
        for figure in [m.top_turn_deg_s, m.top_pan_deg_s] {
            assert!((figure - turn).abs() < 0.01 * turn, "{rate}: {figure} is not {turn}");
        }
        assert!(m.top_tilt_deg_s < 1e-9 && m.top_roll_deg_s < 1e-9);
    }
}

/// Two walks at 0.5 m/s with a jump of 5 m between them: nobody went that fast.
#[test]
fn nothing_is_measured_across_a_jump() {
    let whole = track(8.0, 120.0, |t| placed(0.5 * t + if t < 4.0 { 0.0 } else { 5.0 }));
    let (across, between) = (figures(&whole, &[]), figures(&whole, &[4.0]));
    assert!(across.top_speed_m_s > 50.0);
    assert!((between.top_speed_m_s - 0.5).abs() < 1e-9 && position(&between).1 < 1e-6);
    assert!((between.path_length_m - 0.5 * (8.0 - 1.0 / 120.0)).abs() < 1e-9);
    assert_eq!((between.samples, between.duration_s), (961, 8.0));
}

/// Ten moves that everybody can judge, from calm to bad: shake ranks them, the published figures of
/// one stroke do not.
#[test]
fn the_ranking_of_ten_known_moves() {
    let wave = |hz: f64, cm: f64| move |t: f64| 0.01 * cm * (TAU * hz * t).sin();
    type Course = Box<dyn Fn(f64) -> f64>;
    let moves: [(&str, Course); 10] = [
        ("soft start and stop", Box::new(|t| 3.0 * stroke(t, 1.0, 7.0))),
        ("even pace, cut out of a longer run", Box::new(|t| 0.5 * t)),
        ("two strokes with a pause", Box::new(|t| stroke(t, 1.0, 3.0) + stroke(t, 5.0, 7.0))),
        ("one quick stroke", Box::new(|t| 2.0 * stroke(t, 3.0, 3.5))),
        ("a jump within one sample", Box::new(|t| if t < 4.0 { 0.0 } else { 2.0 })),
        ("soft, with 1 mm at 3 Hz", Box::new(move |t| 3.0 * stroke(t, 1.0, 7.0) + wave(3.0, 0.1)(t))),
        ("soft, with 5 mm at 2 Hz", Box::new(move |t| 3.0 * stroke(t, 1.0, 7.0) + wave(2.0, 0.5)(t))),
        ("soft, with 1 cm at 3 Hz", Box::new(move |t| 3.0 * stroke(t, 1.0, 7.0) + wave(3.0, 1.0)(t))),
        ("soft, with 2 cm at 4 Hz", Box::new(move |t| 3.0 * stroke(t, 1.0, 7.0) + wave(4.0, 2.0)(t))),
        ("soft, with 4 cm at 6 Hz", Box::new(move |t| 3.0 * stroke(t, 1.0, 7.0) + wave(6.0, 4.0)(t))),
    ];
    let shown: Vec<(f64, f64, f64)> = moves
        .iter()
        .map(|(name, at)| {
            let m = figures(&track(8.0, 120.0, |t| placed(at(t))), &[]);
            let (shake, arc, jerk) = (position(&m).1, m.spectral_arc_position.unwrap(), m.log_jerk_position);
            println!(
                "{name:36} shake {shake:6.3} cm   spectral arc {arc:7.2}   log jerk {:6.2}",
                jerk.unwrap_or(0.0)
            );
            (shake, arc, jerk.unwrap_or(0.0))
        })
        .collect();
    assert!(shown[..5].iter().all(|m| m.0 < 0.02), "what is clean does not shake");
    assert!(shown[5..].windows(2).all(|w| w[0].0 < w[1].0), "and the rest is in its order");
    // What the module says of spectral arc length.
    assert!(shown[4].1 > shown[0].1, "a jump scores best");
    assert!(shown[1].1 < shown[0].1, "an even pace scores worse than a soft start and stop");
}

/// A minimum-jerk stroke has v̈ = 60·d/T³·(1 − 6u + 6u²) and a top speed of 15/8·d/T (Flash & Hogan,
/// J. Neurosci. 5(7), 1985): T³/vₚ² · ∫ v̈² dt = 3600/5 · (8/15)² = 204.8.
#[test]
fn a_minimum_jerk_stroke_has_the_jerk_of_its_formula() {
    let rate = 2000.0;
    let speed = |t: f64| {
        let u = t / 2.0;
        0.7 / 2.0 * 30.0 * u * u * (1.0 - u) * (1.0 - u)
    };
    let speeds: Vec<f64> = (0..=4000).map(|i| speed(f64::from(i) / rate)).collect();
    let got = log_dimensionless_jerk(&speeds, rate).unwrap();
    assert!((got + 204.8f64.ln()).abs() < 5e-3, "{got} is not {}", -204.8f64.ln());
    assert_eq!(log_dimensionless_jerk(&[0.0; 50], rate), None);
    assert_eq!(spectral_arc_length(&[0.0; 50], rate), None);
}
