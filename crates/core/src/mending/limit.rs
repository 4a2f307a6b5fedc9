//! An axis that is faster than its machine goes, or past an end stop.

use super::{Found, Look, Seen, under_bell};
use crate::measures::{AS_FAST, speeds};
use crate::treatments::Treatment;

pub(super) struct Limit;

/// Bells that are tried, seconds.
const BELLS_S: [f64; 5] = [0.1, 0.2, 0.4, 0.8, 1.6];
/// Amount past an end that counts as rounding, shown units.
const PAST: f64 = 1e-6;

/// How fast an axis is at every sample, percent of its top speed; nothing where it has none.
fn percent(i: usize, seen: &Seen) -> Vec<f64> {
    let axis = &seen.context.axes()[i];
    let speeds = speeds(axis, &seen.motion.samples.column(i), seen.motion);
    speeds.into_iter().map(|speed| 100.0 * speed / axis.top_speed).collect()
}

/// Amounts past the ends of an axis at every sample, shown units.
fn past(i: usize, seen: &Seen) -> Vec<f64> {
    let axis = &seen.context.axes()[i];
    seen.motion.samples.column(i).iter().map(|v| axis.unit.to_shown(axis.beyond(*v))).collect()
}

impl Look for Limit {
    fn find(&self, seen: &Seen) -> Vec<Found> {
        let axes = seen.context.axes();
        let mut all = Vec::new();
        for (i, axis) in axes.iter().enumerate().filter(|(_, a)| a.hand.is_some()) {
            let fast = (percent(i, seen), 100.0 * (1.0 + AS_FAST), "%", 2 * i);
            let far = (past(i, seen), PAST, axis.unit.symbol(), 2 * i + 1);
            for (amounts, bound, unit, of) in [fast, far] {
                for (from_s, to_s, most) in seen.stretches(&amounts, &|_| bound) {
                    let amount = amounts[most];
                    let gap = if ["°", ""].contains(&unit) { "" } else { " " };
                    let what = match unit {
                        "%" => format!("{} goes at {amount:.0} % of its top speed", axis.name),
                        _ => format!("{} is {amount:.2}{gap}{unit} past its end stop", axis.name),
                    };
                    let remedies = remedies(axis.name, from_s, to_s);
                    all.push(Found { what, from_s, to_s, unit, amount, bound, of, remedies });
                }
            }
        }
        all.sort_by(|a, b| a.from_s.total_cmp(&b.from_s));
        all
    }

    fn amount(&self, found: &Found, seen: &Seen) -> f64 {
        let amounts =
            if found.of.is_multiple_of(2) { percent(found.of / 2, seen) } else { past(found.of / 2, seen) };
        // What is slower here must not be faster beside it.
        let edge = BELLS_S[BELLS_S.len() - 1];
        amounts[seen.samples(found.from_s - edge, found.to_s + edge)].iter().copied().fold(0.0, f64::max)
    }
}

/// Treatment that puts the axis under a bell.
fn remedies(axis: &str, from_s: f64, to_s: f64) -> Vec<Treatment> {
    let alone = |sigma_s: f64| {
        let mut treatment = under_bell(sigma_s, true, from_s, to_s);
        treatment.scope.axes = Some(vec![axis.into()]);
        treatment
    };
    BELLS_S.map(alone).into()
}
