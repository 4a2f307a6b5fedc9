//! Filters and smoothness figures against NumPy and SciPy, whose values `reference/make.py` made; and
//! rotations against themselves, turned.

use glam::{DQuat, DVec3};
use rovnek_core::filter::{Kernel, Smoother, smooth_rotations};
use rovnek_core::measures::spectral_arc_length;
use rovnek_core::space::{PanTiltRoll, shorter_turn};
use serde_json::Value;
use std::f64::consts::TAU;

fn cases(file: &str) -> Vec<Value> {
    let path = format!("{}/../../reference/values/{file}.json", env!("CARGO_MANIFEST_DIR"));
    let text = std::fs::read_to_string(&path).expect("reference values are in the checkout");
    serde_json::from_str::<Value>(&text).unwrap()["cases"].as_array().unwrap().clone()
}

fn numbers(value: &Value) -> Vec<f64> {
    value.as_array().unwrap().iter().map(|v| v.as_f64().unwrap()).collect()
}

fn assert_close(got: &[f64], want: &[f64]) {
    assert_eq!(got.len(), want.len());
    for (i, (g, w)) in got.iter().zip(want).enumerate() {
        assert!((g - w).abs() < 1e-9, "value {i}: {g} is not {w}");
    }
}

#[test]
fn smoothing_agrees_with_scipy_and_numpy() {
    let cases = cases("smoothing");
    assert_eq!(cases.len(), 14);
    for case in cases {
        let number = |name: &str| case[name].as_f64();
        let kernel = match (number("gaussian"), number("binomial"), number("low_pass")) {
            (Some(sigma), ..) => Kernel::Gaussian { sigma },
            (_, Some(passes), _) => Kernel::Binomial { passes: passes as u32 },
            (.., Some(cut)) => Kernel::LowPass { cut },
            _ => Kernel::Polynomial {
                half: number("half").unwrap() as usize,
                degree: number("degree").unwrap() as usize,
            },
        };
        let x = numbers(&case["x"]);
        let mut columns = vec![x.clone(), x.clone(), x.clone()];
        Smoother::new(x.len(), kernel).smooth(&mut columns);
        for column in &columns {
            assert_close(column, &numbers(&case["y"]));
            assert_eq!((column[0], column[x.len() - 1]), (x[0], x[x.len() - 1]), "ends stay to the bit");
        }
    }
}

/// A run whose n − 1 is prime transforms badly as it is: what it gives is the same.
#[test]
fn a_length_that_transforms_badly_gives_the_same() {
    for kernel in [
        Kernel::Gaussian { sigma: 25.0 },
        Kernel::Binomial { passes: 300 },
        Kernel::LowPass { cut: 0.02 },
        Kernel::Polynomial { half: 40, degree: 4 },
    ] {
        // 4 999 is prime, 5 000 is not: the same values twice, once mirrored onto themselves.
        let half: Vec<f64> =
            (0..5000).map(|i| (f64::from(i) * 0.013).sin() + (f64::from(i) * 1.7).cos()).collect();
        let mirrored = half.iter().rev().skip(1).map(|v| 2.0 * half[4999] - v);
        let double: Vec<f64> = half.iter().copied().chain(mirrored).collect();
        let (mut one, mut two) = (vec![half.clone()], vec![double]);
        Smoother::new(one[0].len(), kernel).smooth(&mut one);
        Smoother::new(two[0].len(), kernel).smooth(&mut two);
        assert_close(&one[0], &two[0][..5000]);
    }
}

const KERNELS: [Kernel; 4] = [
    Kernel::Gaussian { sigma: 18.0 },
    Kernel::Binomial { passes: 500 },
    Kernel::LowPass { cut: 0.01 },
    Kernel::Polynomial { half: 30, degree: 2 },
];

fn smoothed(kernel: Kernel, mut rotations: Vec<DQuat>) -> Vec<DQuat> {
    smooth_rotations(&mut rotations, kernel);
    rotations
}

/// Ten seconds of a shaking camera that looks almost straight up, passes over the top, and turns
/// through ±180°.
fn over_the_top() -> Vec<DQuat> {
    let at = |i: usize| {
        let t = i as f64 / 120.0;
        let shake = |hz: f64| 0.02 * (TAU * hz * t).sin();
        let pan = 2.8 + 0.12 * t + shake(2.3);
        let tilt = 89f64.to_radians() + 0.08 * (0.9 * t).sin() + shake(3.1);
        PanTiltRoll { pan, tilt, roll: shake(1.7) }.to_rotation()
    };
    (0..1200).map(at).collect()
}

fn apart(a: DQuat, b: DQuat) -> f64 {
    shorter_turn(a.conjugate() * b).length()
}

#[test]
fn rotations_have_no_preferred_direction() {
    let quarter = std::f64::consts::FRAC_PI_2;
    for kernel in KERNELS {
        let plain = smoothed(kernel, over_the_top());
        let moved = plain.iter().zip(over_the_top()).map(|(a, b)| apart(*a, b)).fold(0.0, f64::max);
        assert!(moved > 0.01, "{kernel:?} does something: {moved}");
        for axis in [DVec3::X, DVec3::Y, DVec3::Z, DVec3::new(1.0, -2.0, 0.5).normalize()] {
            let turn = DQuat::from_axis_angle(axis, quarter);
            let world = smoothed(kernel, over_the_top().into_iter().map(|q| turn * q).collect());
            let mounted = smoothed(kernel, over_the_top().into_iter().map(|q| q * turn).collect());
            for ((q, world), mounted) in plain.iter().zip(world).zip(mounted) {
                assert!(
                    apart(turn * *q, world) < 1e-6 && apart(*q * turn, mounted) < 1e-6,
                    "{kernel:?} {axis}"
                );
            }
        }
        let raw = over_the_top();
        assert_eq!((plain[0], plain[1199]), (raw[0], raw[1199]), "ends stay to the bit");
    }
}

/// About one line, smoothing a rotation is smoothing its angle.
#[test]
fn a_pan_is_smoothed_as_its_angle() {
    let pan = |degrees: f64, seconds: f64| -> Vec<f64> {
        let at = |i: i32| (f64::from(i) / 120.0 - 2.0) / seconds;
        (0..600).map(|i| degrees.to_radians() * at(i).clamp(0.0, 1.0)).collect()
    };
    // The spin of a full turn within half a second, under a bell of 0.6 s, is the hard one.
    for (degrees, seconds, bell_s, bound_deg) in
        [(90.0, 1.0, 0.3, 0.1), (30.0, 1.0, 0.3, 0.02), (360.0, 0.5, 0.6, 1.0)]
    {
        let angles = pan(degrees, seconds);
        let kernel = Kernel::Gaussian { sigma: bell_s * 120.0 };
        let turned = smoothed(kernel, angles.iter().map(|a| DQuat::from_rotation_y(*a)).collect());
        let mut plain = vec![angles];
        Smoother::new(600, kernel).smooth(&mut plain);
        let off = |(q, a): (&DQuat, &f64)| apart(*q, DQuat::from_rotation_y(*a)).to_degrees();
        let most = turned.iter().zip(&plain[0]).map(off).fold(0.0, f64::max);
        assert!(most < bound_deg, "{degrees}° in {seconds} s under {bell_s} s: {most}° off");
    }
    for kernel in KERNELS {
        let angles: Vec<f64> = (0..1200)
            .map(|i| 0.4 * (f64::from(i) / 90.0).sin() + 0.02 * (f64::from(i) / 5.0).sin())
            .collect();
        let turned = smoothed(kernel, angles.iter().map(|a| DQuat::from_rotation_x(*a)).collect());
        let mut plain = vec![angles];
        Smoother::new(1200, kernel).smooth(&mut plain);
        let most = turned
            .iter()
            .zip(&plain[0])
            .map(|(q, a)| apart(*q, DQuat::from_rotation_x(*a)))
            .fold(0.0, f64::max);
        assert!(most.to_degrees() < 0.05, "{kernel:?}: {}°", most.to_degrees());
    }
}

#[test]
fn spectral_arc_length_is_the_papers() {
    for case in cases("spectral_arc") {
        let arc = spectral_arc_length(&numbers(&case["v"]), case["rate"].as_f64().unwrap()).unwrap();
        assert_close(&[arc], &[case["arc"].as_f64().unwrap()]);
    }
}
