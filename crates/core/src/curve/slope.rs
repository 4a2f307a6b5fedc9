//! The rules by which a slope is found where nobody gave one, and the cubic that slopes make.
//! There is no second home for either in what is worked out; the page draws a course that is being
//! dragged by the first of them (`form/course.ts`).

/// The slope at a value between two others, given width and mean slope of the spans before and
/// after it: the monotone rule of Fritsch & Butland, SIAM J. Sci. Stat. Comput. 5(2), 1984 (SciPy's
/// `PchipInterpolator`). What runs on it never leaves the span between two neighbouring values.
pub fn smooth((h0, d0): (f64, f64), (h1, d1): (f64, f64)) -> f64 {
    if d0 * d1 <= 0.0 {
        return 0.0;
    }
    let (w0, w1) = (2.0 * h1 + h0, h1 + 2.0 * h0);
    (w0 + w1) / (w0 / d0 + w1 / d1)
}

/// The slope at an end that is passed in full motion, given width and mean slope of the span
/// beside it and of the one behind that: three points, kept monotone (SciPy's
/// `PchipInterpolator`).
pub fn end((h0, d0): (f64, f64), (h1, d1): (f64, f64)) -> f64 {
    let slope = ((2.0 * h0 + h1) * d0 - h0 * d1) / (h0 + h1);
    if slope * d0 <= 0.0 {
        0.0
    } else if d0 * d1 <= 0.0 && slope.abs() > 3.0 * d0.abs() {
        3.0 * d0
    } else {
        slope
    }
}

/// Slopes through values at increasing times that neither start nor stop: [`smooth`] inside,
/// [`end`] at the ends; straight where there are only two.
pub fn through(times: &[f64], values: &[f64]) -> Vec<f64> {
    let last = times.len().saturating_sub(1);
    let span = |k: usize| {
        let h = times[k + 1] - times[k];
        (h, (values[k + 1] - values[k]) / h)
    };
    let at = |k: usize| match (k, last) {
        (_, 0) => 0.0,
        (_, 1) => span(0).1,
        (0, _) => end(span(0), span(1)),
        (k, last) if k == last => end(span(k - 1), span(k - 2)),
        _ => smooth(span(k - 1), span(k)),
    };
    (0..times.len()).map(at).collect()
}

/// Slopes through values at increasing times that start and stop there: [`smooth`] inside, 0 at the
/// ends.
pub fn resting(times: &[f64], values: &[f64]) -> Vec<f64> {
    let mut slopes = through(times, values);
    for end in [0, times.len().saturating_sub(1)] {
        slopes.get_mut(end).into_iter().for_each(|slope| *slope = 0.0);
    }
    slopes
}

/// The cubic from `a` over a rise `d` with slopes `m` and `n` at its ends (for the whole of the
/// span), at a share `u` of the way, 0 to 1, with its first and second derivative. Written from the
/// start, so that what is still stays.
pub fn cubic(a: f64, d: f64, m: f64, n: f64, u: f64) -> [f64; 3] {
    let (c2, c3) = (3.0 * d - 2.0 * m - n, m + n - 2.0 * d);
    [a + u * (m + u * (c2 + u * c3)), m + u * (2.0 * c2 + u * 3.0 * c3), 2.0 * c2 + 6.0 * c3 * u]
}

/// How far along a start and stop of the fifth degree is at a share of its time, 0 to 1: the
/// minimum-jerk course 10τ³ − 15τ⁴ + 6τ⁵ of Flash & Hogan, J. Neurosci. 5(7), 1985, whose peak
/// speed is 15/8 of its mean. Speed and acceleration are 0 at both ends.
pub fn minimum_jerk(tau: f64) -> f64 {
    let t = tau.clamp(0.0, 1.0);
    t * t * t * (10.0 + t * (6.0 * t - 15.0))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_fifth_degree_start_and_stop_is_still_at_both_ends_and_half_way_at_half_time() {
        for (tau, wanted) in [(-1.0, 0.0), (0.0, 0.0), (0.5, 0.5), (1.0, 1.0), (3.0, 1.0)] {
            assert_eq!(minimum_jerk(tau), wanted);
        }
        let speed = |t: f64| (minimum_jerk(t + 1e-6) - minimum_jerk(t - 1e-6)) / 2e-6;
        assert!((speed(0.5) - 1.875).abs() < 1e-6 && speed(0.001) < 1e-4);
    }

    #[test]
    fn slopes_through_two_values_are_straight_and_through_one_flat() {
        assert_eq!(through(&[1.0, 3.0], &[2.0, 6.0]), [2.0, 2.0]);
        assert_eq!(through(&[1.0], &[2.0]), [0.0]);
        assert!(through(&[], &[]).is_empty());
    }
}
