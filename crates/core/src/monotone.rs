//! Monotone cubic interpolation: what keys and courses between positions run on.
//!
//! Fritsch & Butland, SIAM J. Sci. Stat. Comput. 5(2), 1984; SciPy's `PchipInterpolator`. It never
//! leaves the span between two neighbouring values.

/// The slope at an inner value: widths and slopes of the spans before and after it.
pub(crate) fn slope((h0, d0): (f64, f64), (h1, d1): (f64, f64)) -> f64 {
    if d0 * d1 <= 0.0 {
        return 0.0;
    }
    let (w0, w1) = (2.0 * h1 + h0, h1 + 2.0 * h0);
    (w0 + w1) / (w0 / d0 + w1 / d1)
}

/// The cubic from `a` over a rise `d` with slopes `m` and `n` at its ends, at a share `u` of the
/// way, with its first and second derivative. Written from the start, so that what is still stays.
pub(crate) fn cubic(a: f64, d: f64, m: f64, n: f64, u: f64) -> [f64; 3] {
    let (c2, c3) = (3.0 * d - 2.0 * m - n, m + n - 2.0 * d);
    [a + u * (m + u * (c2 + u * c3)), m + u * (2.0 * c2 + u * 3.0 * c3), 2.0 * c2 + 6.0 * c3 * u]
}
