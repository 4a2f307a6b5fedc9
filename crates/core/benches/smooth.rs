//! Smoothing takes of 60 s and of 10 minutes, 120 Hz, 10 axes: ours, and SciPy's on the same samples in
//! the same run where `ROVNEK_PYTHON` names a Python that has it (`cargo xtask bench`). One length is
//! such that n − 1 is a prime. And ten minutes of rotations.

use rovnek_core::DQuat;
use rovnek_core::filter::{Kernel, Smoother, smooth_rotations};
use rovnek_core::space::PanTiltRoll;
use std::io::Write;
use std::process::{Command, Stdio};
use std::time::Instant;

const MINUTE: usize = 60 * 120 + 1;
/// Ten minutes, but for a hair: 71 999 is a prime.
const PRIME: usize = 71_999 + 1;
const AXES: usize = 10;

fn columns(samples: usize) -> Vec<Vec<f64>> {
    let value =
        |axis: usize, i: usize| (i as f64 / 97.0 + axis as f64).sin() * 40.0 + (i as f64 * 1.7).sin() * 0.3;
    (0..AXES).map(|axis| (0..samples).map(|i| value(axis, i)).collect()).collect()
}

/// Median milliseconds, plans and kernels made anew each time as they are in the application.
fn ours(samples: usize, kernel: Kernel) -> f64 {
    let raw = columns(samples);
    let mut times: Vec<f64> = (0..41)
        .map(|_| {
            let mut work = raw.clone();
            let start = Instant::now();
            Smoother::new(samples, kernel).smooth(&mut work);
            std::hint::black_box(&work);
            start.elapsed().as_secs_f64() * 1e3
        })
        .collect();
    times.sort_by(f64::total_cmp);
    times[times.len() / 2]
}

/// Median milliseconds of SciPy over the same odd continuation: `gaussian_filter1d`, cut at 6σ,
/// and the quickest it has, `fftconvolve` with the same kernel.
fn scipys(samples: usize, sigma: f64, weights: &[f64]) -> Option<[f64; 2]> {
    const SCRIPT: &str = r#"
import json, sys, time
import numpy as np
from scipy.ndimage import gaussian_filter1d
from scipy.signal import fftconvolve
data = json.load(sys.stdin)
x, k, sigma = np.array(data["x"]), np.array(data["k"]), data["sigma"]
half = len(k) // 2
def padded():
    return np.pad(x, ((0, 0), (half, half)), mode="reflect", reflect_type="odd")
def plain():
    return gaussian_filter1d(padded(), sigma, axis=1, truncate=6)[:, half:-half]
def by_fft():
    return fftconvolve(padded(), k[None, :], mode="valid", axes=1)
best = []
for way in (plain, by_fft):
    times = []
    for _ in range(15):
        t = time.perf_counter(); way(); times.append(time.perf_counter() - t)
    best.append(sorted(times)[7] * 1e3)
print(*best)
"#;
    let python = std::env::var_os("ROVNEK_PYTHON")?;
    let mut child = Command::new(python)
        .args(["-c", SCRIPT])
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .spawn()
        .ok()?;
    let list = |v: &[f64]| format!("[{}]", v.iter().map(f64::to_string).collect::<Vec<_>>().join(","));
    let rows: Vec<String> = columns(samples).iter().map(|c| list(c)).collect();
    let input = format!("{{\"x\":[{}],\"k\":{},\"sigma\":{sigma}}}", rows.join(","), list(weights));
    child.stdin.take()?.write_all(input.as_bytes()).ok()?;
    let said = String::from_utf8(child.wait_with_output().ok()?.stdout).ok()?;
    let times: Vec<f64> = said.split_whitespace().filter_map(|t| t.parse().ok()).collect();
    times.try_into().ok()
}

fn bell(sigma: f64) -> Vec<f64> {
    let half = (6.0 * sigma + 0.5).floor() as i32;
    let weights: Vec<f64> = (-half..=half).map(|j| (-0.5 * (f64::from(j) / sigma).powi(2)).exp()).collect();
    let total: f64 = weights.iter().sum();
    weights.into_iter().map(|w| w / total).collect()
}

/// Median milliseconds of ten minutes of a camera that pans about and shakes.
fn rotations(kernel: Kernel) -> f64 {
    let at = |i: usize| {
        let t = i as f64 / 120.0;
        let shake = |hz: f64| 0.01 * (hz * t).sin();
        let (pan, tilt, roll) =
            ((0.5 * t).sin() + shake(19.0), 0.3 * (0.7 * t).sin() + shake(23.0), shake(11.0));
        PanTiltRoll { pan, tilt, roll }.to_rotation()
    };
    let raw: Vec<DQuat> = (0..10 * 60 * 120).map(at).collect();
    let mut times: Vec<f64> = (0..9)
        .map(|_| {
            let mut work = raw.clone();
            let start = Instant::now();
            smooth_rotations(&mut work, kernel);
            std::hint::black_box(&work);
            start.elapsed().as_secs_f64() * 1e3
        })
        .collect();
    times.sort_by(f64::total_cmp);
    times[times.len() / 2]
}

fn main() {
    // 100 passes at 24 frames are 2500 at 120 samples: a bell of σ = √(n/2).
    let passes = 2500;
    let spread = (f64::from(passes) / 2.0).sqrt();
    let cases = [
        ("gaussian 0.08 s", Kernel::Gaussian { sigma: 9.6 }, 9.6),
        ("gaussian 0.50 s", Kernel::Gaussian { sigma: 60.0 }, 60.0),
        ("binomial 100 at 24", Kernel::Binomial { passes }, spread),
    ];
    for samples in [MINUTE, 10 * (MINUTE - 1) + 1, PRIME] {
        println!("smoothing {samples} samples × {AXES} axes (wanted: at least twice as fast as SciPy)");
        for (name, kernel, sigma) in cases {
            let ms = ours(samples, kernel);
            let beside = scipys(samples, sigma, &bell(sigma)).map_or("SciPy not asked".into(), |[plain, fft]| {
                let (p, f) = (plain / ms, fft / ms);
                format!("gaussian_filter1d {plain:.2} ms, {p:.1} times ours; fftconvolve {fft:.2} ms, {f:.1} times ours")
            });
            println!("  {name:20} {ms:6.2} ms   {beside}");
        }
    }
    println!("ten minutes of rotations (wanted: under 100 ms)");
    for (name, kernel) in [
        ("gaussian 0.30 s", Kernel::Gaussian { sigma: 36.0 }),
        ("binomial 100 at 24", Kernel::Binomial { passes }),
        ("low pass 1 Hz", Kernel::LowPass { cut: 1.0 / 120.0 }),
    ] {
        println!("  {name:20} {:6.2} ms", rotations(kernel));
    }
}
