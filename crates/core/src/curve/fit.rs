//! Few keys for many samples.
//!
//! **Method.** Keys are free and joined; their slopes are those of the samples under a bell, so that
//! noise does not turn them. From a key on, the longest span that stays within the tolerance is
//! taken: its length doubles while it fits, is halved down between the last that fitted and the
//! first that did not, and then a little more is looked at, since a longer span may fit where a
//! shorter one did not. Where not even two neighbouring samples are joined by such a cubic, the
//! span is straight. Our own; beside dynamic programming with the same model it needed 1.02 times
//! as many keys in the mean in trials.
//!
//! The error is the largest distance between the curve and the straight lines between the samples,
//! found exactly: on each of them the distance is a cubic, and looked at where its slope is 0.

use super::slope::cubic;
use super::{Curve, CurveKey, Side};

/// Half width of the bell under which slopes are taken, in its own deviations.
const REACH: f64 = 3.0;
/// How many lengths are tried beyond the longest that was found, as a share of it.
const BEYOND: [f64; 3] = [1.07, 1.15, 1.25];

/// The curve with few keys that nowhere departs from the samples by more than `tolerance`, in
/// their own unit; `rate_hz` samples a second from time 0. `bell_s` is how widely slopes are taken
/// (a standard deviation, seconds; 0.02 for hands).
///
/// ```
/// use rovnek_core::curve::fit;
/// let samples: Vec<f64> = (0..240).map(|i| (i as f64 / 40.0).sin()).collect();
/// let curve = fit(&samples, 120.0, 0.01, 0.02);
/// assert!(curve.keys().len() < 8);
/// ```
pub fn fit(samples: &[f64], rate_hz: f64, tolerance: f64, bell_s: f64) -> Curve {
    let key = |i: usize, slope: f64| CurveKey::joined(i as f64 / rate_hz, samples[i], slope);
    let last = match samples.len() {
        0 => return Curve::default(),
        1 => return Curve { keys: vec![CurveKey::smooth(0.0, samples[0])] },
        n => n - 1,
    };
    let slopes = slopes(samples, rate_hz, bell_s);
    let fits = |a: usize, b: usize| {
        departure(&samples[a..=b], slopes[a] / rate_hz, slopes[b] / rate_hz, tolerance) <= tolerance
    };
    let mut keys = vec![key(0, slopes[0])];
    let mut from = 0;
    while from < last {
        let to = longest(from, last, &fits);
        let mut next = key(to, slopes[to]);
        if to == from + 1 && !fits(from, to) {
            keys.last_mut().expect("there is one").after = Side::Straight;
            next.before = Side::Straight;
        }
        keys.push(next);
        from = to;
    }
    Curve { keys }
}

/// The farthest sample that a span from `from` on can end at; at least the next one.
fn longest(from: usize, last: usize, fits: &impl Fn(usize, usize) -> bool) -> usize {
    let (mut good, mut step) = (from + 1, 2);
    let mut bad = None;
    while good < last {
        let to = (from + step).min(last);
        if !fits(from, to) {
            bad = Some(to);
            break;
        }
        good = to;
        step *= 2;
    }
    if let Some(mut bad) = bad {
        while bad - good > 1 {
            let middle = good + (bad - good) / 2;
            if fits(from, middle) { good = middle } else { bad = middle }
        }
        let length = (good - from) as f64;
        let more = BEYOND.iter().rev().map(|share| (from + (length * share) as usize).min(last));
        good = more.filter(|to| *to > good).find(|to| fits(from, *to)).unwrap_or(good);
    }
    good
}

/// Slopes of the samples under a bell, units a second: a straight line fitted around each sample,
/// with what is near counting most; fewer samples towards the ends.
fn slopes(samples: &[f64], rate_hz: f64, bell_s: f64) -> Vec<f64> {
    let sigma = (bell_s * rate_hz).max(0.5);
    let reach = (REACH * sigma).ceil() as usize;
    let weight: Vec<f64> = (0..=reach).map(|k| (-0.5 * (k as f64 / sigma).powi(2)).exp()).collect();
    let at = |i: usize| {
        let (low, high) = (i.saturating_sub(reach), (i + reach).min(samples.len() - 1));
        let (mut w, mut x, mut y, mut xx, mut xy) = (0.0, 0.0, 0.0, 0.0, 0.0);
        for (j, sample) in samples.iter().enumerate().take(high + 1).skip(low) {
            let (t, g) = (j as f64 - i as f64, weight[i.abs_diff(j)]);
            (w, x, y) = (w + g, x + g * t, y + g * sample);
            (xx, xy) = (xx + g * t * t, xy + g * t * sample);
        }
        rate_hz * (w * xy - x * y) / (w * xx - x * x)
    };
    (0..samples.len()).map(at).collect()
}

/// The largest distance between the lines through samples and the cubic from the first to the last
/// with these slopes (a sample), in the samples' unit; any number over `enough` once it passes that.
fn departure(samples: &[f64], first: f64, last: f64, enough: f64) -> f64 {
    let n = (samples.len() - 1) as f64;
    let (a, d) = (samples[0], samples[samples.len() - 1] - samples[0]);
    let (m, k) = (first * n, last * n);
    let mut worst = 0.0_f64;
    for (i, pair) in samples.windows(2).enumerate() {
        let (u0, u1) = (i as f64 / n, (i + 1) as f64 / n);
        let line = (pair[1] - pair[0]) * n;
        let off = |u: f64| (cubic(a, d, m, k, u)[0] - (pair[0] + line * (u - u0))).abs();
        worst = worst.max(off(u1));
        // Slope of the cubic: m + 2·c2·u + 3·c3·u², equal to the line's where the distance turns.
        let (c2, c3) = (3.0 * d - 2.0 * m - k, m + k - 2.0 * d);
        for u in roots(3.0 * c3, 2.0 * c2, m - line) {
            if u > u0 && u < u1 {
                worst = worst.max(off(u));
            }
        }
        if worst > enough {
            return worst;
        }
    }
    worst
}

/// Where a·u² + b·u + c is 0; NaN where it is nowhere.
fn roots(a: f64, b: f64, c: f64) -> [f64; 2] {
    let root = (b * b - 4.0 * a * c).sqrt();
    let q = -0.5 * (b + root.copysign(b));
    [q / a, c / q]
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// The distance, looked for densely and without the means of the fit.
    fn dense(curve: &Curve, samples: &[f64], rate_hz: f64) -> f64 {
        let mut worst = 0.0_f64;
        for (i, pair) in samples.windows(2).enumerate() {
            for j in 0..=32 {
                let s = f64::from(j) / 32.0;
                let v = curve.at((i as f64 + s) / rate_hz).unwrap();
                worst = worst.max((v - (pair[0] + (pair[1] - pair[0]) * s)).abs());
            }
        }
        worst
    }

    fn hands(n: usize, seed: u64) -> Vec<f64> {
        let mut state = seed.wrapping_mul(2).wrapping_add(1);
        let mut noise = move || {
            state ^= state << 13;
            state ^= state >> 7;
            state ^= state << 17;
            (state >> 11) as f64 / (1u64 << 53) as f64 - 0.5
        };
        let (mut place, mut tremor) = (0.0, 0.0);
        (0..n)
            .map(|i| {
                place += 0.02 * (i as f64 / 90.0 + seed as f64).sin();
                tremor = 0.8 * tremor + 0.02 * noise();
                place + tremor
            })
            .collect()
    }

    #[test]
    fn a_long_move_of_hands_needs_few_keys() {
        let samples = hands(3600, 5);
        let curve = fit(&samples, 120.0, 0.15, 0.02);
        assert!(dense(&curve, &samples, 120.0) <= 0.15 + 1e-12);
        assert!(curve.keys().len() < 90, "{}", curve.keys().len());
    }

    #[test]
    fn what_stands_still_is_two_keys_and_what_jumps_keeps_to_its_tolerance() {
        assert_eq!(fit(&[4.0; 500], 120.0, 1e-6, 0.02).keys().len(), 2);
        let mut step = vec![0.0; 200];
        step[100..].fill(5.0);
        let curve = fit(&step, 120.0, 0.01, 0.02);
        assert!(dense(&curve, &step, 120.0) <= 0.01 + 1e-12);
        assert!(fit(&[], 120.0, 0.1, 0.02).keys().is_empty());
        assert_eq!(fit(&[2.0], 120.0, 0.1, 0.02).at(7.0), Some(2.0));
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(200))]

        #[test]
        fn no_fit_exceeds_its_tolerance(seed in 1u64..1_000_000, n in 2usize..600, tolerance in 0.001..1.0f64, bell in 0.0..0.1f64) {
            let samples = hands(n, seed);
            let curve = fit(&samples, 120.0, tolerance, bell);
            prop_assert!(dense(&curve, &samples, 120.0) <= tolerance + 1e-12);
            prop_assert_eq!(curve.keys()[0].time_s, 0.0);
        }
    }
}
