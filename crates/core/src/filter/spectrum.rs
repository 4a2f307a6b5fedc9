//! The low end of a finely divided spectrum, without the rest of it.
//!
//! **Method.** The chirp transform: with n·k = (n² + k² − (k − n)²)/2 a bin is a convolution of the values
//! with a chirp (L. I. Bluestein, "A linear filtering approach to the computation of discrete Fourier
//! transform", IEEE Trans. Audio Electroacoustics 18(4), 1970; from memory). Its transforms are as long as
//! values and wanted bins together. The speed of ten minutes at 120 Hz, padded to two million values and
//! wanted up to 10 Hz, takes a quarter of a million instead.

use super::{smooth_length, transforms};
use realfft::num_complex::Complex64;
use rustfft::Fft;
use std::f64::consts::PI;
use std::sync::Arc;

/// Prepared for runs of one length.
pub(crate) struct LowSpectrum {
    bins: usize,
    chirp: Vec<Complex64>,
    /// The transform of the chirp's conjugate, which reaches to both sides.
    kernel: Vec<Complex64>,
    forth: Arc<dyn Fft<f64>>,
    back: Arc<dyn Fft<f64>>,
}

impl LowSpectrum {
    /// For the first `bins` of the spectrum of `count` values that are padded with zeros to `padded`.
    pub fn new(count: usize, padded: usize, bins: usize) -> LowSpectrum {
        let chirp = |n: usize| {
            // A turn is 2·padded, and whole turns are taken off before anything is rounded.
            let turned = (n as u64).pow(2) % (2 * padded as u64);
            Complex64::cis(-PI * turned as f64 / padded as f64)
        };
        let chirp: Vec<Complex64> = (0..count.max(bins)).map(chirp).collect();
        let length = smooth_length(count + bins);
        let (forth, back) = transforms(length);
        let mut kernel = vec![Complex64::default(); length];
        for (n, value) in chirp.iter().enumerate() {
            // The transforms there and back together multiply by their length.
            let value = value.conj() / length as f64;
            if n < bins {
                kernel[n] = value;
            }
            if n < count {
                kernel[(length - n) % length] = value;
            }
        }
        forth.process(&mut kernel);
        LowSpectrum { bins, chirp, kernel, forth, back }
    }

    /// The magnitudes of the bins.
    pub fn magnitudes(&self, values: &[f64]) -> Vec<f64> {
        let mut wave = vec![Complex64::default(); self.kernel.len()];
        wave.iter_mut().zip(values).zip(&self.chirp).for_each(|((w, value), chirp)| *w = chirp * value);
        self.forth.process(&mut wave);
        wave.iter_mut().zip(&self.kernel).for_each(|(w, k)| *w *= k);
        self.back.process(&mut wave);
        // What is left to turn by does not change how long a bin is.
        wave[..self.bins].iter().map(|bin| bin.norm_sqr().sqrt()).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::filter::real_transforms;

    /// Against the whole spectrum, by RustFFT.
    #[test]
    fn it_is_the_low_end_of_the_whole_spectrum() {
        for (count, bins) in [(1, 1), (2, 9), (250, 40), (1000, 8193), (1023, 3000)] {
            let padded = 16 * 1024;
            let values: Vec<f64> = (0..count).map(|i| (0.37 * i as f64).sin() + 0.001 * i as f64).collect();
            let (forth, _) = real_transforms(padded);
            let (mut input, mut whole) = (forth.make_input_vec(), forth.make_output_vec());
            input[..count].copy_from_slice(&values);
            forth.process(&mut input, &mut whole).unwrap();
            let low = LowSpectrum::new(count, padded, bins).magnitudes(&values);
            assert_eq!(low.len(), bins);
            for (low, whole) in low.iter().zip(&whole) {
                assert!((low - whole.norm()).abs() < 1e-9, "{count} {bins}: {low} {}", whole.norm());
            }
        }
    }
}
