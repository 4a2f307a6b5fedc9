//! What in the curves of a move is worth a look, axis by axis: where it stands still, turns more than half
//! round between two keys, is past an end stop, or faster than its machine goes.

use super::{SPEED_OVER_S, stops_of_axes};
use crate::axis::{Axis, Unit};
use crate::curve::Curve;
use crate::keys::Curves;
use crate::motion::Motion;
use crate::time::Rate;
use crate::warnings::{Stretch, stretches};
use serde::Serialize;
use ts_rs::TS;

/// Kind of a mark.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum MarkKind {
    /// It stands in the middle of its move.
    Stop,
    /// From one key to the next it turns by more than half a round.
    Turn,
    /// Keys or treatments want it past an end stop.
    Beyond,
    /// It is faster than at full speed.
    Fast,
}

/// A place in the curve of an axis.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Mark {
    /// Axis of the curve.
    pub axis: &'static str,
    /// Kind of the mark.
    pub kind: MarkKind,
    /// Start of the mark, seconds.
    pub from_s: f64,
    /// End of the mark, seconds.
    pub to_s: f64,
    /// In words, with the amount.
    pub what: String,
}

/// A turn from key to key by more than this is worth a look, degrees.
const HALF_ROUND_DEG: f64 = 180.0;
/// Share of the range by which a value past an end counts as rounding.
const ROUNDING: f64 = 1e-9;
/// Share of the top speed by which a higher speed counts as the same.
pub(crate) const AS_FAST: f64 = 1e-3;
/// Greatest number of marks of one kind on one axis: with more of them one looks at the curve itself.
const MOST: usize = 200;

/// The marks of what hands move, in order of time. `curves` are the keys that the motion comes from.
pub fn marks(now: &Motion, curves: &Curves, axes: &[Axis], rate: Rate) -> Vec<Mark> {
    let mut marks = Vec::new();
    let driven: Vec<(usize, &Axis)> = axes.iter().enumerate().filter(|(_, a)| a.hand.is_some()).collect();
    let columns: Vec<(&Axis, Vec<f64>)> =
        driven.into_iter().map(|(i, axis)| (axis, now.samples.column(i))).collect();
    let stops = stops(&columns, now);
    for ((axis, column), stops) in columns.into_iter().zip(stops) {
        let keys = curves.get(axis.name).and_then(|keys| Curve::new(keys.to_vec()).ok());
        marks.extend(stops.into_iter().take(MOST));
        marks.extend(keys.iter().flat_map(|c| turns(axis, c)).take(MOST));
        marks.extend(beyond(axis, &column, keys.as_ref(), now, rate).into_iter().take(MOST));
        marks.extend(fast(axis, &column, now, rate).into_iter().take(MOST));
    }
    marks.retain(|mark| mark.to_s >= now.begins_s);
    marks.sort_by(|a, b| a.from_s.total_cmp(&b.from_s));
    marks
}

/// The stops of each axis, in order of time.
fn stops(columns: &[(&Axis, Vec<f64>)], now: &Motion) -> Vec<Vec<Mark>> {
    let rate_hz = now.samples.rate_hz();
    let mut marks = vec![Vec::new(); columns.len()];
    for stretch in now.stretches() {
        let start = stretch.start;
        let parts: Vec<(&Axis, &[f64])> =
            columns.iter().map(|(axis, column)| (*axis, &column[stretch.clone()])).collect();
        for ((axis, _), (marks, found)) in
            parts.iter().zip(marks.iter_mut().zip(stops_of_axes(&parts, rate_hz)))
        {
            marks.extend(found.into_iter().map(|(from, to)| Mark {
                axis: axis.name,
                kind: MarkKind::Stop,
                from_s: (start + from) as f64 / rate_hz,
                to_s: (start + to) as f64 / rate_hz,
                what: format!("axis {} holds {:.1} s", axis.name, (to - from) as f64 / rate_hz),
            }));
        }
    }
    marks
}

fn turns(axis: &Axis, keys: &Curve) -> Vec<Mark> {
    if axis.unit != Unit::Radians {
        return Vec::new();
    }
    let far = keys.keys().windows(2).filter(|w| (w[1].value - w[0].value).abs() > HALF_ROUND_DEG);
    far.map(|w| Mark {
        axis: axis.name,
        kind: MarkKind::Turn,
        from_s: w[0].time_s,
        to_s: w[1].time_s,
        what: format!(
            "{} turns by {:.0}° from one key to the next",
            axis.name,
            (w[1].value - w[0].value).abs()
        ),
    })
    .collect()
}

fn beyond(axis: &Axis, column: &[f64], keys: Option<&Curve>, now: &Motion, rate: Rate) -> Vec<Mark> {
    let rate_hz = now.samples.rate_hz();
    let room = if axis.max.is_finite() && axis.min.is_finite() { axis.max - axis.min } else { 1.0 };
    let past = |(i, value): (usize, &f64)| {
        // A keyed axis stops at its end; where its keys want it is what counts.
        let wanted = keys.and_then(|c| c.at(i as f64 / rate_hz)).map_or(*value, |v| axis.unit.from_shown(v));
        let most = axis.beyond(wanted).max(axis.beyond(*value));
        if most > ROUNDING * room { most } else { 0.0 }
    };
    let mark = |Stretch { from_s, to_s, most, .. }: Stretch| Mark {
        axis: axis.name,
        kind: MarkKind::Beyond,
        from_s,
        to_s,
        what: format!("{} is wanted {} past its end stop", axis.name, amount(axis, most)),
    };
    let amounts: Vec<f64> = column.iter().enumerate().map(past).collect();
    stretches(rate_hz, rate, &amounts, 0.0).into_iter().map(mark).collect()
}

fn fast(axis: &Axis, column: &[f64], now: &Motion, rate: Rate) -> Vec<Mark> {
    let rate_hz = now.samples.rate_hz();
    let top = axis.top_speed * (1.0 + AS_FAST);
    let over: Vec<f64> =
        speeds(axis, column, now).into_iter().map(|v| if v > top { v } else { 0.0 }).collect();
    let mark = |Stretch { from_s, to_s, most, .. }: Stretch| Mark {
        axis: axis.name,
        kind: MarkKind::Fast,
        from_s,
        to_s,
        what: format!(
            "{} goes {}/s, {}/s is its top",
            axis.name,
            amount(axis, most),
            amount(axis, axis.top_speed)
        ),
    };
    stretches(rate_hz, rate, &over, 0.0).into_iter().map(mark).collect()
}

/// How fast an axis is around each sample; nothing of one that has no top speed.
pub(crate) fn speeds(axis: &Axis, column: &[f64], now: &Motion) -> Vec<f64> {
    let mut speeds = vec![0.0; column.len()];
    if !(axis.top_speed.is_finite() && axis.top_speed > 0.0) {
        return speeds;
    }
    let rate_hz = now.samples.rate_hz();
    let steps = ((SPEED_OVER_S * rate_hz).round() as usize).max(1);
    for stretch in now.stretches() {
        for i in stretch.start..stretch.end.saturating_sub(steps) {
            speeds[i + steps / 2] = (column[i + steps] - column[i]).abs() * rate_hz / steps as f64;
        }
    }
    speeds
}

/// An amount of an axis, for reading.
fn amount(axis: &Axis, value: f64) -> String {
    let (shown, unit) = (axis.unit.to_shown(value), axis.unit.symbol());
    let gap = if unit.is_empty() || unit == "°" { "" } else { " " };
    let digits = if shown < 1.0 { 2 } else { 1 };
    format!("{shown:.digits$}{gap}{unit}")
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::curve::CurveKey;
    use crate::keys::Keyed;
    use crate::lens::Camera;
    use crate::moves::{Around, keyed};
    use crate::playing::SubjectPoints;
    use crate::rigs::{RigSpec, TelescopicCrane};

    fn found(of: &[(&str, &[(f64, f64)])]) -> Vec<(&'static str, MarkKind, f64, f64)> {
        let rig = RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default());
        let keys = |of: &[(f64, f64)]| of.iter().map(|(t, v)| CurveKey::smooth(*t, *v)).collect();
        let curves: Curves = of.iter().map(|(axis, of)| (axis.to_string(), keys(of))).collect();
        let around = Around { carrier: None, people: &SubjectPoints::default() };
        let motion = keyed(&*rig, &Keyed::of(&curves, &*rig, 10.0), 10.0, &around);
        marks(&motion, &curves, rig.axes(), Rate::FILM)
            .into_iter()
            .map(|m| (m.axis, m.kind, m.from_s, m.to_s))
            .collect()
    }

    #[test]
    fn a_quiet_move_has_none() {
        assert_eq!(
            found(&[("swing", &[(0.0, 0.0), (10.0, 40.0)]), ("pan", &[(0.0, 0.0), (10.0, -30.0)])]),
            []
        );
    }

    #[test]
    fn each_kind_is_found_where_it_is() {
        let hold = found(&[("pan", &[(0.0, 0.0), (3.0, 30.0), (6.0, 30.0), (10.0, 60.0)])]);
        let [("pan", MarkKind::Stop, from, to)] = hold[..] else { panic!("{hold:?}") };
        assert!((from - 3.0).abs() < 0.4 && (to - 6.0).abs() < 0.4, "{from} {to}");
        let round = found(&[("pan", &[(0.0, -90.0), (9.5, 91.0)])]);
        assert_eq!(round, [("pan", MarkKind::Turn, 0.0, 9.5)]);
        let quick = found(&[("swing", &[(4.0, 0.0), (4.5, 60.0)])]);
        let [("swing", MarkKind::Fast, from, to)] = quick[..] else { panic!("{quick:?}") };
        assert!(from > 3.9 && to < 4.6 && to > from);
    }

    /// A boom that is keyed to 200° stops at its end; how far past it was wanted is said.
    #[test]
    fn what_is_wanted_past_an_end_stop_is_marked_though_the_machine_stops_there() {
        let high = found(&[("boom", &[(0.0, 0.0), (5.0, 120.0), (10.0, 0.0)])]);
        let [(_, _, from, to)] =
            high.iter().filter(|m| m.1 == MarkKind::Beyond).copied().collect::<Vec<_>>()[..]
        else {
            panic!("{high:?}")
        };
        assert!(from > 1.0 && from < 5.0 && to > 5.0 && to < 9.0, "{from} {to}");
    }
}
