//! Filters over evenly timed values: smoothing that keeps both ends, and the high pass that tells
//! shake from movement.
//!
//! **Smoothing.** Continued oddly at both ends (2·x₀ − xᵢ), a run of n values is a straight line
//! plus a wave that repeats after 2(n − 1) and is zero at both ends. A symmetric kernel leaves the
//! line alone and only scales each harmonic of the wave, so any width of kernel costs one
//! transform forth and one back, exactly, also where the kernel is longer than the run:
//!
//! * a pass of [¼ ½ ¼] scales the harmonic of angle θ by cos²(θ/2), n passes by cos²ⁿ(θ/2);
//! * any other kernel by its own transform, wrapped onto the period.
//!
//! Two columns ride in the real and imaginary part of one transform; a real response keeps them
//! apart. Checked against NumPy and SciPy in `tests/all/filters.rs`.

use realfft::num_complex::Complex;
use realfft::num_traits::Zero;
use realfft::{RealFftPlanner, num_complex::Complex64};
use std::cell::RefCell;
use std::f64::consts::PI;
use std::sync::Arc;

/// What to smooth with, in samples.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Kernel {
    /// Passes of [¼ ½ ¼].
    Binomial {
        /// How many; 0 leaves the values alone.
        passes: u32,
    },
    /// exp(−j²/2σ²), cut at 6σ (rounded to whole samples) and normalised.
    Gaussian {
        /// σ in samples.
        sigma: f64,
    },
}

type Fft = Arc<dyn rustfft::Fft<f64>>;

/// A kernel prepared for runs of one length.
pub struct Smoother {
    len: usize,
    response: Vec<f64>,
    forth: Fft,
    back: Fft,
}

thread_local! {
    // Plans are worth keeping: making one costs as much as a dozen transforms.
    static PLANS: RefCell<rustfft::FftPlanner<f64>> = RefCell::new(rustfft::FftPlanner::new());
}

impl Smoother {
    /// Prepares `kernel` for runs of `len` values.
    pub fn new(len: usize, kernel: Kernel) -> Smoother {
        let period = 2 * len.saturating_sub(1).max(1);
        let (forth, back) =
            PLANS.with_borrow_mut(|p| (p.plan_fft_forward(period), p.plan_fft_inverse(period)));
        // The response is even: harmonics k and period − k are scaled alike.
        let half = period / 2;
        let mut response: Vec<f64> = match kernel {
            Kernel::Binomial { passes } => {
                let angle = PI / period as f64;
                (0..=half).map(|k| (angle * k as f64).cos().powi(2).powi(passes as i32)).collect()
            }
            Kernel::Gaussian { sigma } => {
                let mut wrapped = vec![Complex64::zero(); period];
                let reach = (6.0 * sigma + 0.5).floor() as usize;
                let weights: Vec<f64> =
                    (1..=reach).map(|j| (-0.5 * (j as f64 / sigma).powi(2)).exp()).collect();
                let total = 1.0 + 2.0 * weights.iter().sum::<f64>();
                wrapped[0].re = 1.0 / total;
                for (j, weight) in (1..).zip(weights) {
                    wrapped[j % period].re += weight / total;
                    wrapped[(period - j % period) % period].re += weight / total;
                }
                forth.process(&mut wrapped);
                wrapped[..=half].iter().map(|c| c.re).collect()
            }
        };
        // The transforms there and back together multiply by the period.
        response.iter_mut().for_each(|r| *r /= period as f64);
        Smoother { len, response, forth, back }
    }

    /// Smooths each column in place. First and last values stay as they are, to the bit.
    pub fn smooth(&self, columns: &mut [Vec<f64>]) {
        if self.len < 3 {
            return;
        }
        let last = self.len - 1;
        let period = 2 * last;
        let mut wave = vec![Complex64::zero(); period];
        let scratch_len = self.forth.get_inplace_scratch_len().max(self.back.get_inplace_scratch_len());
        let mut scratch = vec![Complex64::zero(); scratch_len];
        let no_second = vec![0.0; self.len];
        for pair in columns.chunks_mut(2) {
            assert!(pair.iter().all(|c| c.len() == self.len), "columns of {} values", self.len);
            let (a, b) = (&pair[0], pair.get(1).unwrap_or(&no_second));
            let lines = [Line::through(a), Line::through(b)];
            for (i, (a, b)) in a.iter().zip(b).enumerate().take(last).skip(1) {
                wave[i] = Complex::new(a - lines[0].at(i), b - lines[1].at(i));
            }
            // Zero at both ends, odd about them.
            (wave[0], wave[last]) = (Complex::zero(), Complex::zero());
            let (ahead, mirrored) = wave.split_at_mut(last + 1);
            for (value, mirror) in ahead[1..last].iter().zip(mirrored.iter_mut().rev()) {
                *mirror = -value;
            }
            self.forth.process_with_scratch(&mut wave, &mut scratch);
            let (ahead, mirrored) = wave.split_at_mut(last + 1);
            ahead.iter_mut().zip(&self.response).for_each(|(w, r)| *w *= r);
            mirrored.iter_mut().rev().zip(&self.response[1..]).for_each(|(w, r)| *w *= r);
            self.back.process_with_scratch(&mut wave, &mut scratch);
            for (part, column) in pair.iter_mut().enumerate() {
                let wave = wave[1..last].iter().map(|w| if part == 0 { w.re } else { w.im });
                for ((i, value), wave) in column[1..last].iter_mut().enumerate().zip(wave) {
                    *value = lines[part].at(i + 1) + wave;
                }
            }
        }
    }
}

/// The straight line from a column's first value to its last.
#[derive(Clone, Copy)]
struct Line {
    start: f64,
    slope: f64,
}

impl Line {
    fn through(column: &[f64]) -> Line {
        let (start, end) = (column[0], column[column.len() - 1]);
        Line { start, slope: (end - start) / (column.len() - 1) as f64 }
    }

    fn at(self, i: usize) -> f64 {
        self.start + self.slope * i as f64
    }
}

/// What moves faster than `cut_hz`: a fourth-order Butterworth high pass run forth and back, so
/// that nothing is delayed, over values continued oddly by three periods of the cut at both ends.
/// As SciPy's `sosfiltfilt(butter(4, cut, 'highpass'), padtype='odd', padlen=3·fs/cut)`.
/// None where the values are too few or too slow to hold such movement.
pub fn faster_than(cut_hz: f64, values: &[f64], sample_hz: f64) -> Option<Vec<f64>> {
    let n = values.len();
    if n < 4 || sample_hz <= 2.0 * cut_hz {
        return None;
    }
    let pad = ((3.0 * sample_hz / cut_hz).round() as usize).min(n - 1);
    let mut run: Vec<f64> = (1..=pad).rev().map(|i| 2.0 * values[0] - values[i]).collect();
    run.extend_from_slice(values);
    run.extend((1..=pad).map(|i| 2.0 * values[n - 1] - values[n - 1 - i]));
    for _ in 0..2 {
        // Poles of a fourth-order Butterworth pair up with these quality factors.
        for quality in [0.541_196_100_146_197, 1.306_562_964_876_376_5] {
            high_pass_section(&mut run, cut_hz / sample_hz, quality);
        }
        run.reverse();
    }
    Some(run[pad..pad + n].to_vec())
}

/// One second-order section by the bilinear transform, started as if its first value had always
/// been there.
fn high_pass_section(run: &mut [f64], cut: f64, quality: f64) {
    let k = (PI * cut).tan();
    let norm = 1.0 / (1.0 + k / quality + k * k);
    let (a1, a2) = (2.0 * (k * k - 1.0) * norm, (1.0 - k / quality + k * k) * norm);
    // A steady input of u leaves a high pass at 0: the state that says so.
    let (mut z1, mut z2) = (-norm * run[0], norm * run[0]);
    for v in run {
        let x = *v;
        let y = norm * x + z1;
        z1 = -2.0 * norm * x - a1 * y + z2;
        z2 = norm * x - a2 * y;
        *v = y;
    }
}

/// Magnitudes of the spectrum of real values, padded with zeros to `padded` (a power of two).
pub(crate) fn magnitudes(values: &[f64], padded: usize) -> Vec<f64> {
    let fft = RealFftPlanner::<f64>::new().plan_fft_forward(padded);
    let mut input = fft.make_input_vec();
    input[..values.len()].copy_from_slice(values);
    let mut output = fft.make_output_vec();
    fft.process(&mut input, &mut output).expect("buffers are of the planned lengths");
    output.into_iter().map(|c| c.norm()).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// The definition: value by value over the odd continuation.
    fn by_hand(x: &[f64], weights: &[f64]) -> Vec<f64> {
        let n = x.len() as isize;
        let half = (weights.len() / 2) as isize;
        fn at(x: &[f64], i: isize) -> f64 {
            let n = x.len() as isize;
            if i < 0 {
                2.0 * x[0] - at(x, -i)
            } else if i >= n {
                2.0 * x[x.len() - 1] - at(x, 2 * (n - 1) - i)
            } else {
                x[i as usize]
            }
        }
        (0..n).map(|i| (-half..=half).map(|j| weights[(j + half) as usize] * at(x, i + j)).sum()).collect()
    }

    proptest! {
        #[test]
        fn passes_are_what_the_definition_says(x in prop::collection::vec(-500.0..500.0f64, 3..60), passes in 1u32..12) {
            let mut want = x.clone();
            for _ in 0..passes {
                want = by_hand(&want, &[0.25, 0.5, 0.25]);
            }
            let mut columns = vec![x.clone(), x.iter().map(|v| -2.0 * v).collect()];
            Smoother::new(x.len(), Kernel::Binomial { passes }).smooth(&mut columns);
            for (i, w) in want.iter().enumerate() {
                prop_assert!((columns[0][i] - w).abs() < 1e-9);
                prop_assert!((columns[1][i] + 2.0 * w).abs() < 1e-9);
            }
        }

        #[test]
        fn the_bell_may_be_wider_than_the_run(x in prop::collection::vec(-50.0..50.0f64, 3..30), sigma in 0.2..12.0f64) {
            let half = (6.0 * sigma + 0.5).floor() as i32;
            let mut weights: Vec<f64> = (-half..=half).map(|j| (-0.5 * (f64::from(j) / sigma).powi(2)).exp()).collect();
            let total: f64 = weights.iter().sum();
            weights.iter_mut().for_each(|w| *w /= total);
            let want = by_hand(&x, &weights);
            let mut columns = vec![x.clone()];
            Smoother::new(x.len(), Kernel::Gaussian { sigma }).smooth(&mut columns);
            for (got, want) in columns[0].iter().zip(&want) {
                prop_assert!((got - want).abs() < 1e-9);
            }
            prop_assert_eq!(columns[0][0], x[0]);
            prop_assert_eq!(columns[0].last(), x.last());
        }
    }

    #[test]
    fn too_little_to_smooth_is_left_alone() {
        for n in 0..3 {
            let mut columns = vec![vec![7.5; n]];
            Smoother::new(n, Kernel::Binomial { passes: 9 }).smooth(&mut columns);
            assert_eq!(columns[0], vec![7.5; n]);
        }
        assert_eq!(faster_than(1.0, &[1.0, 2.0], 120.0), None);
    }
}
