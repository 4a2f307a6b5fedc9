//! Kernels for smoothing: their reach, and their response to each harmonic.

use realfft::num_complex::Complex64;
use rustfft::Fft;
use std::f64::consts::{PI, TAU};

/// Kernel, in samples. All kernels are symmetric: nothing is delayed.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Kernel {
    /// Passes of the weights ¼ ½ ¼.
    Binomial {
        /// Number of passes; 0 leaves the values alone.
        passes: u32,
    },
    /// exp(−j²/2σ²), cut at 6σ (rounded to whole samples) and normalised.
    Gaussian {
        /// Standard deviation, samples.
        sigma: f64,
    },
    /// A fourth-order Butterworth low pass run forth and back, as SciPy's `sosfiltfilt(butter(4, cut))`.
    LowPass {
        /// Where half of the amplitude is left, cycles a sample: well under ½, where it would ring on
        /// for ever.
        cut: f64,
    },
    /// The middle of a polynomial fitted to what is around each value (Savitzky & Golay, Analytical
    /// Chemistry 36(8), 1964), as SciPy's `savgol_filter`.
    Polynomial {
        /// Samples to each side.
        half: usize,
        /// Degree of the polynomial; an odd one smooths as the even one below it.
        degree: usize,
    },
}

impl Kernel {
    /// Reach to each side, samples.
    pub(super) fn reach(self) -> usize {
        match self {
            // √(n/2) is its standard deviation; beyond nine of them nothing is left of a number.
            Kernel::Binomial { passes } => {
                (passes as usize).min((9.0 * (f64::from(passes) / 2.0).sqrt()).ceil() as usize)
            }
            Kernel::Gaussian { sigma } => (6.0 * sigma + 0.5).floor() as usize,
            Kernel::LowPass { cut } => (30.0 / slowest_decay(cut)).ceil() as usize,
            Kernel::Polynomial { half, .. } => half,
        }
    }

    /// Response to each harmonic of a wave that repeats after `period` samples, up to the middle.
    pub(super) fn response(self, period: usize, forth: &dyn Fft<f64>) -> Vec<f64> {
        let of_angle = |share: &dyn Fn(f64) -> f64| -> Vec<f64> {
            (0..=period / 2).map(|k| share(TAU * k as f64 / period as f64)).collect()
        };
        match self {
            Kernel::Binomial { passes } => of_angle(&|angle| (angle / 2.0).cos().powi(2).powi(passes as i32)),
            Kernel::LowPass { cut } => {
                let edge = (PI * cut).tan();
                of_angle(&|angle| 1.0 / (1.0 + ((angle / 2.0).tan() / edge).powi(8)))
            }
            Kernel::Gaussian { sigma } => {
                let weight = |j: usize| (-0.5 * (j as f64 / sigma).powi(2)).exp();
                let weights: Vec<f64> = (0..=self.reach()).map(weight).collect();
                let total = 2.0 * weights.iter().sum::<f64>() - weights[0];
                of_weights(weights.into_iter().map(|w| w / total), period, forth)
            }
            Kernel::Polynomial { half, degree } => {
                of_weights(polynomial(half, degree).into_iter(), period, forth)
            }
        }
    }
}

/// How fast the pole of a fourth-order Butterworth that rings longest dies away, e-folds a sample. The
/// bilinear transform takes s to (1 + s)/(1 − s), with the edge at tan(π·cut).
fn slowest_decay(cut: f64) -> f64 {
    let pole = Complex64::from_polar((PI * cut).tan(), 5.0 * PI / 8.0);
    -((1.0 + pole) / (1.0 - pole)).norm().ln()
}

/// From a kernel's weights, the middle one first, wrapped onto the period.
fn of_weights(weights: impl Iterator<Item = f64>, period: usize, forth: &dyn Fft<f64>) -> Vec<f64> {
    let mut wrapped = vec![Complex64::new(0.0, 0.0); period];
    for (j, weight) in weights.enumerate() {
        wrapped[j % period].re += weight;
        if j > 0 {
            wrapped[(period - j % period) % period].re += weight;
        }
    }
    forth.process(&mut wrapped);
    wrapped[..=period / 2].iter().map(|c| c.re).collect()
}

/// What each value counts, from the middle on, in a polynomial's value there. Polynomials that are
/// orthonormal over the window, each from the two before it, so that no power grows large.
fn polynomial(half: usize, degree: usize) -> Vec<f64> {
    let at: Vec<f64> = (0..=2 * half).map(|j| (j as f64 - half as f64) / half.max(1) as f64).collect();
    let dot = |a: &[f64], b: &[f64]| a.iter().zip(b).map(|(a, b)| a * b).sum::<f64>();
    let mut known: Vec<Vec<f64>> = Vec::new();
    let mut weights = vec![0.0; half + 1];
    for k in 0..=degree.min(2 * half) {
        let mut next: Vec<f64> = match known.last() {
            Some(last) => last.iter().zip(&at).map(|(p, x)| p * x).collect(),
            None => vec![1.0; at.len()],
        };
        for before in &known[k.saturating_sub(2)..] {
            let share = dot(&next, before);
            next.iter_mut().zip(before).for_each(|(n, b)| *n -= share * b);
        }
        let length = dot(&next, &next).sqrt();
        next.iter_mut().for_each(|n| *n /= length);
        weights.iter_mut().zip(&next[half..]).for_each(|(w, p)| *w += next[half] * p);
        known.push(next);
    }
    weights
}
