//! Filters over evenly timed values that keep both ends, and over rotations.
//!
//! Continued oddly at both ends (2·x₀ − xᵢ), a run of values is a straight line plus a wave that is
//! zero at both ends. A symmetric kernel leaves the line alone and only scales each harmonic of the
//! wave, so any width of kernel costs one transform forth and one back. Checked against NumPy and
//! SciPy in `tests/all/filters.rs`.

mod kernel;
mod rotations;
mod smoother;
mod spectrum;

pub use kernel::Kernel;
pub use rotations::smooth_rotations;
pub use smoother::Smoother;
pub(crate) use spectrum::LowSpectrum;

use realfft::{ComplexToReal, RealFftPlanner, RealToComplex};
use rustfft::{Fft, FftPlanner};
use std::cell::RefCell;
use std::sync::Arc;

thread_local! {
    // Making a plan costs as much as a dozen transforms.
    static REAL_PLANS: RefCell<RealFftPlanner<f64>> = RefCell::new(RealFftPlanner::new());
    static PLANS: RefCell<FftPlanner<f64>> = RefCell::new(FftPlanner::new());
}

/// The transform of so many complex values, and the one back.
fn transforms(length: usize) -> (Arc<dyn Fft<f64>>, Arc<dyn Fft<f64>>) {
    PLANS.with_borrow_mut(|plans| (plans.plan_fft_forward(length), plans.plan_fft_inverse(length)))
}

/// The transform of so many real values, and the one back.
pub(crate) fn real_transforms(length: usize) -> (Arc<dyn RealToComplex<f64>>, Arc<dyn ComplexToReal<f64>>) {
    REAL_PLANS.with_borrow_mut(|plans| (plans.plan_fft_forward(length), plans.plan_fft_inverse(length)))
}

/// The least even number from `least` on without a prime factor over 5: transforms of such lengths are
/// quick.
pub(crate) fn smooth_length(least: usize) -> usize {
    let halves = least.max(2).div_ceil(2)..;
    halves.map(|half| 2 * half).find(|n| is_smooth(*n)).expect("powers of two are among them")
}

fn is_smooth(mut n: usize) -> bool {
    for prime in [2, 3, 5] {
        while n.is_multiple_of(prime) {
            n /= prime;
        }
    }
    n == 1
}
