//! A kernel over columns of values, by transforms.
//!
//! Two columns ride in the real and imaginary part of one transform; a real response keeps them
//! apart. The wave repeats after 2(n − 1), and all of it is transformed at once where a kernel reaches
//! so far; else it is laid out piece by piece (overlap-save), each with as much before and after as the
//! kernel reaches: what wraps around falls there, where nobody looks. Pieces are as long as is quickest,
//! which is not longer than what a processor has at hand.

use super::{Kernel, is_smooth, smooth_length, transforms};
use realfft::num_complex::Complex64;
use realfft::num_traits::Zero;
use rustfft::Fft;
use std::sync::Arc;

/// A kernel prepared for runs of one length.
pub struct Smoother {
    len: usize,
    /// Values laid out before the first and after the last; none where the wave is whole.
    lead: usize,
    /// Length of a transform.
    period: usize,
    /// Response to each harmonic up to the middle; the others are scaled alike.
    response: Vec<f64>,
    forth: Arc<dyn Fft<f64>>,
    back: Arc<dyn Fft<f64>>,
}

/// Complex values up to which a transform stays in the nearer memory of a processor, and how many times
/// longer it takes beyond.
const NEAR: (usize, f64) = (1 << 14, 1.7);

impl Smoother {
    /// Prepares `kernel` for runs of `len` values.
    pub fn new(len: usize, kernel: Kernel) -> Smoother {
        let (period, lead) = laid_out(len, kernel.reach());
        let (forth, back) = transforms(period);
        let mut response = kernel.response(period, &*forth);
        // The transforms there and back together multiply by the period.
        response.iter_mut().for_each(|r| *r /= period as f64);
        Smoother { len, lead, period, response, forth, back }
    }

    /// Smooths each column in place. First and last values stay as they are, to the bit.
    pub fn smooth(&self, columns: &mut [Vec<f64>]) {
        if self.len < 3 {
            return;
        }
        let Smoother { len, lead, period, .. } = *self;
        let last = len - 1;
        // A whole wave is one piece; others overlap by what the kernel reaches.
        let (piece, pieces) =
            if lead == 0 { (period, 1) } else { (period - 2 * lead, len.div_ceil(period - 2 * lead)) };
        let mut wave = vec![Complex64::zero(); period + (pieces - 1) * piece];
        let scratch_len = self.forth.get_inplace_scratch_len().max(self.back.get_inplace_scratch_len());
        let (mut part, mut scratch) = (vec![Complex64::zero(); period], vec![Complex64::zero(); scratch_len]);
        let no_second = vec![0.0; len];
        for pair in columns.chunks_mut(2) {
            assert!(pair.iter().all(|c| c.len() == len), "columns of {len} values");
            let (a, b) = (&pair[0], pair.get(1).unwrap_or(&no_second));
            let lines = [Line::through(a), Line::through(b)];
            for (i, (a, b)) in a.iter().zip(b).enumerate() {
                wave[lead + i] = Complex64::new(a - lines[0].at(i), b - lines[1].at(i));
            }
            (wave[lead], wave[lead + last]) = (Complex64::zero(), Complex64::zero());
            self.continue_oddly(&mut wave);
            for begins in (0..pieces).map(|k| k * piece) {
                part.copy_from_slice(&wave[begins..begins + period]);
                self.scaled(&mut part, &mut scratch);
                // Both ends stay as they are.
                for i in begins.max(1)..(begins + piece).min(last) {
                    let made = part[lead + i - begins];
                    pair[0][i] = lines[0].at(i) + made.re;
                    if let [_, second] = pair {
                        second[i] = lines[1].at(i) + made.im;
                    }
                }
            }
        }
    }

    /// Scales each harmonic of a piece.
    fn scaled(&self, part: &mut [Complex64], scratch: &mut [Complex64]) {
        self.forth.process_with_scratch(part, scratch);
        let half = self.period / 2;
        part[..=half].iter_mut().zip(&self.response).for_each(|(w, r)| *w *= r);
        part[half + 1..].iter_mut().rev().zip(&self.response[1..]).for_each(|(w, r)| *w *= r);
        self.back.process_with_scratch(part, scratch);
    }

    /// Fills what lies before and after the values: odd about both ends, over and over.
    fn continue_oddly(&self, wave: &mut [Complex64]) {
        let last = self.len - 1;
        let (first, end) = (self.lead, self.lead + last);
        if self.lead == 0 {
            // The one mirror image after the values is all there is of the period.
            let (ahead, mirrored) = wave.split_at_mut(last + 1);
            for (value, mirror) in ahead[1..last].iter().zip(mirrored.iter_mut().rev()) {
                *mirror = -value;
            }
            return;
        }
        for k in 1..=self.lead {
            // A mirror image, and beyond it what was laid out a period before.
            let mirrored = k <= last;
            wave[first - k] = if mirrored { -wave[first + k] } else { wave[first - k + 2 * last] };
            wave[end + k] = if mirrored { -wave[end - k] } else { wave[end + k - 2 * last] };
        }
        wave[end + self.lead + 1..].fill(Complex64::zero());
    }
}

/// How much is transformed at a time for a run of values and a kernel that reaches so far, and how much
/// of it is laid out before and after the values: whatever is quickest.
fn laid_out(len: usize, reach: usize) -> (usize, usize) {
    let (len, reach) = (len.max(1), reach.max(1));
    let whole = 2 * (len - 1).max(1);
    let all = smooth_length(len + 2 * reach);
    let one = |period: usize| {
        let far = if period > NEAR.0 { NEAR.1 } else { 1.0 };
        period as f64 * (period as f64).ln() * far
    };
    let pieces = |period: usize| one(period) * len.div_ceil(period - 2 * reach) as f64;
    let least = (4 * reach).max(64) as f64;
    let lengths = (0..).map(|k| smooth_length((least * 1.5_f64.powi(k)) as usize));
    let parts = lengths.take_while(|period| *period < all).chain([all]);
    let parts = parts.map(|period| (period, reach, pieces(period)));
    let whole = is_smooth(whole).then(|| (whole, 0, one(whole)));
    let quickest = parts.chain(whole).min_by(|a, b| a.2.total_cmp(&b.2));
    quickest.map(|(period, lead, _)| (period, lead)).expect("all at once is one of them")
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
    }
}
