//! The figures as a strip: what it was as rolled, what it is now, and a word for what became of it.

use super::{Departure, Lost, Metrics, ShakeFigure, Unseen, together_s};
use crate::axis::Axis;
use crate::motion::Motion;
use serde::Serialize;
use ts_rs::TS;

/// Verdict on a figure after the treatments.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Verdict {
    /// Better than it was, or inside what bounds it.
    Good,
    /// Neither better nor worse.
    Even,
    /// Close to what bounds it.
    Near,
    /// Worse than it was, or past what bounds it.
    Bad,
}

/// Figure in the strip.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Figure {
    /// Name of the figure.
    pub name: String,
    /// Sentence about the figure; empty where the name says it.
    pub hint: &'static str,
    /// Behind the numbers; empty for a count.
    pub unit: String,
    /// Places behind the point.
    pub digits: usize,
    /// Value of the raw take; missing where there is none.
    pub raw: Option<f64>,
    /// After the treatments.
    pub now: Option<f64>,
    /// Bound, in the figure's unit.
    pub bound: Option<f64>,
    /// Word for the change; empty where there is nothing to say.
    pub word: String,
    /// Verdict on the change.
    pub verdict: Verdict,
    /// Time of the greatest value, seconds.
    pub at_s: Option<f64>,
    /// Shown only on demand.
    pub more: bool,
}

/// The top speed of an axis, in its shown unit a second, as rolled and now.
#[derive(Clone, Debug, PartialEq)]
pub struct AxisTop {
    /// Name of the axis.
    pub name: &'static str,
    /// Unit of the axis.
    pub unit: &'static str,
    /// Top speed in the raw take.
    pub raw: f64,
    /// After the treatments.
    pub now: f64,
    /// At full speed; missing where there is no such thing.
    pub limit: Option<f64>,
}

/// The largest steps from sample to sample, at the samples' own rate, of what hands move.
pub fn axis_tops(raw: &Motion, now: &Motion, axes: &[Axis]) -> Vec<AxisTop> {
    let [before, after] = [raw, now].map(tops);
    let of_axis = |(i, axis): (usize, &Axis)| AxisTop {
        name: axis.name,
        unit: axis.unit.symbol(),
        raw: axis.unit.to_shown(before[i]),
        now: axis.unit.to_shown(after[i]),
        limit: Some(axis.unit.to_shown(axis.top_speed)).filter(|v| v.is_finite() && *v > 0.0),
    };
    axes.iter().enumerate().filter(|(_, a)| a.hand.is_some()).map(of_axis).collect()
}

/// The greatest step of each axis between two samples that follow one another, per second.
fn tops(motion: &Motion) -> Vec<f64> {
    let mut tops = vec![0.0_f64; motion.samples.width()];
    for stretch in motion.stretches() {
        for i in stretch.start.max(motion.first()) + 1..stretch.end {
            let rows = motion.samples.row(i - 1).iter().zip(motion.samples.row(i));
            for (top, (from, to)) in tops.iter_mut().zip(rows) {
                *top = top.max((to - from).abs());
            }
        }
    }
    tops.iter().map(|step| step * motion.samples.rate_hz()).collect()
}

/// The share of a bound from which it is close.
const NEAR: f64 = 0.95;
/// A figure that changes by less than this share is the same.
const SAME: f64 = 0.05;

/// All figures, those that matter most first.
pub fn strip(
    raw: &Metrics,
    now: &Metrics,
    departure: Departure,
    axes: &[AxisTop],
    lost: Option<(Lost, &str)>,
    covered: Option<(&str, [Vec<Unseen>; 2])>,
    keys: [Option<usize>; 2],
) -> Vec<Figure> {
    let mut rows = Vec::new();
    for (part, unit, raw, now) in [
        ("position", "cm", raw.shake_position_cm, now.shake_position_cm),
        ("rotation", "°", raw.shake_rotation_deg, now.shake_rotation_deg),
    ] {
        let worst = |s: Option<ShakeFigure>| s.map(|s| s.worst_second);
        let row =
            row(&format!("shake, {part}"), unit, 2, worst(raw), worst(now)).less_is("calmer", "shakier");
        let hint = "Of the second in which it is largest; faster than 1 Hz and back again.";
        rows.push(Figure { at_s: now.map(|s| s.worst_at_s), hint, ..row });
        let whole = |s: Option<ShakeFigure>| s.map(|s| s.whole);
        let all = row_more(&format!("overall shake, {part}"), unit, 2, whole(raw), whole(now));
        rows.push(all.less_is("calmer", "shakier"));
    }
    let hint = "The largest distance from the raw take.";
    rows.push(Figure { hint, ..row("departure", "cm", 1, None, Some(departure.position_cm)) });
    let hint = "The largest angle from where the raw take looks.";
    rows.push(Figure { hint, ..row("departure, rotation", "°", 2, None, Some(departure.rotation_deg)) });
    if let Some((lost, who)) = lost {
        let hint = "How long whom the move is about is out of the picture between two times in it, and nobody else is in it.";
        let row = row(&format!("{who} lost"), "s", 1, Some(lost.raw_s), Some(lost.now_s));
        let more = lost.raw_s == 0.0 && lost.now_s == 0.0;
        rows.push(Figure { hint, more, at_s: lost.first_s, ..row.less_is("seen longer", "lost longer") });
    }
    if let Some((who, [raw, now])) = &covered {
        let sum = |times: &[Unseen]| Some(together_s(times));
        let hint =
            "How long something stands between the lens and both eyes and chest of whom the move is about.";
        let row = row(&format!("{who} covered"), "s", 1, sum(raw), sum(now));
        let (more, at_s) = (raw.is_empty() && now.is_empty(), now.first().map(|t| t.from_s));
        rows.push(Figure { hint, more, at_s, ..row.less_is("seen longer", "covered longer") });
    }
    let share = |a: &AxisTop| a.limit.map_or(0.0, |limit| a.now / limit);
    let nearest = (0..axes.len())
        .filter(|i| axes[*i].limit.is_some())
        .max_by(|a, b| share(&axes[*a]).total_cmp(&share(&axes[*b])));
    rows.extend(axes.iter().enumerate().filter(|(_, a)| a.raw > 1e-6 || a.now > 1e-6).map(|(i, a)| {
        let digits = if a.unit == "m" || a.unit.is_empty() { 2 } else { 1 };
        let row = row(&format!("top {}", a.name), &format!("{}/s", a.unit), digits, Some(a.raw), Some(a.now));
        Figure { more: Some(i) != nearest, ..row.within(a.limit) }
    }));
    let stops = |m: &Metrics| Some(m.dead_stops.len() as f64);
    let first = now.dead_stops.first().map(|s| s.from_s);
    let hint =
        "Where the camera itself stands still for half a second within its move; an axis may hold meanwhile.";
    let stopped =
        Figure { hint, ..row("dead stops, camera", "", 0, stops(raw), stops(now)) }.less_is("fewer", "more");
    let gone = stopped.now == Some(0.0) && stopped.raw > Some(0.0);
    rows.push(Figure {
        at_s: first,
        word: if gone { "gone".into() } else { stopped.word.clone() },
        ..stopped
    });
    if keys.iter().any(Option::is_some) {
        let [raw, now] = keys.map(|count| count.map(|n| n as f64));
        let row = Figure { hint: "Of all axes together.", ..row("keys", "", 0, raw, now) };
        rows.push(row.less_is("fewer", "more"));
    }
    rows.push(row_more(
        "longest dead stop",
        "s",
        2,
        Some(raw.longest_dead_stop_s),
        Some(now.longest_dead_stop_s),
    ));
    rows.push(row_more("top camera speed", "m/s", 2, Some(raw.top_speed_m_s), Some(now.top_speed_m_s)));
    rows.push(row_more("top turn", "°/s", 1, Some(raw.top_turn_deg_s), Some(now.top_turn_deg_s)));
    for (name, raw, now) in [
        ("spectral arc, path", raw.spectral_arc_position, now.spectral_arc_position),
        ("spectral arc, turn", raw.spectral_arc_rotation, now.spectral_arc_rotation),
        ("log jerk, path", raw.log_jerk_position, now.log_jerk_position),
        ("log jerk, turn", raw.log_jerk_rotation, now.log_jerk_rotation),
    ] {
        rows.push(row_more(name, "", 2, raw, now));
    }
    // What is asked for on demand stands below what is always there.
    rows.sort_by_key(|row| row.more);
    rows
}

fn row(name: &str, unit: &str, digits: usize, raw: Option<f64>, now: Option<f64>) -> Figure {
    Figure {
        name: name.into(),
        hint: "",
        unit: unit.into(),
        digits,
        raw,
        now,
        bound: None,
        word: String::new(),
        verdict: Verdict::Even,
        at_s: None,
        more: false,
    }
}

fn row_more(name: &str, unit: &str, digits: usize, raw: Option<f64>, now: Option<f64>) -> Figure {
    Figure { more: true, ..row(name, unit, digits, raw, now) }
}

impl Figure {
    /// The less of it the better; what changes too little to be read is the same.
    fn less_is(self, better: &str, worse: &str) -> Figure {
        let (Some(raw), Some(now)) = (self.raw, self.now) else { return self };
        let step = 0.5 * 0.1_f64.powi(self.digits as i32);
        let (word, verdict) = match now - raw {
            change if change.abs() <= (SAME * raw).max(step) => ("", Verdict::Even),
            change if change < 0.0 => (better, Verdict::Good),
            _ => (worse, Verdict::Bad),
        };
        Figure { word: word.into(), verdict, ..self }
    }

    fn within(self, bound: Option<f64>) -> Figure {
        let (Some(now), Some(bound)) = (self.now, bound) else { return self };
        let figure = (bound * 100.0).round() / 100.0;
        let (word, verdict) = match now / bound {
            share if share > 1.0 + 1e-6 => ("over", Verdict::Bad),
            share if share > NEAR => ("close to", Verdict::Near),
            _ => ("inside", Verdict::Good),
        };
        Figure { word: format!("{word} {figure}"), verdict, bound: Some(bound), ..self }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::measures::{DeadStop, figures};
    use crate::track::Track;

    fn metrics(shake: f64, stops: usize) -> Metrics {
        let stop = DeadStop { from_s: 3.0, to_s: 4.0 };
        Metrics {
            shake_position_cm: Some(ShakeFigure { whole: shake / 3.0, worst_second: shake, worst_at_s: 7.0 }),
            dead_stops: vec![stop; stops],
            ..figures(&Track::default(), &[])
        }
    }

    #[test]
    fn each_figure_has_a_word_for_what_became_of_it() {
        let axis = |name, now, limit| AxisTop { name, unit: "°", raw: 40.0, now, limit };
        let axes = [axis("swing", 24.0, Some(30.0)), axis("pan", 29.0, Some(30.0)), axis("tilt", 90.0, None)];
        let departure = Departure { position_cm: 2.6, rotation_deg: 0.4 };
        let word = |raw: &Metrics, now: &Metrics, name: &str| {
            let rows = strip(raw, now, departure, &axes, None, None, [None, Some(12)]);
            let row = rows.iter().find(|r| r.name == name).unwrap_or_else(|| panic!("{name} in {rows:?}"));
            (row.word.clone(), row.verdict, row.more)
        };
        let (shaky, calm) = (metrics(1.92, 2), metrics(0.07, 0));
        let of = |word: &str, verdict, more| (word.to_string(), verdict, more);
        let worst = "shake, position";
        assert_eq!(word(&shaky, &calm, worst), of("calmer", Verdict::Good, false));
        assert_eq!(word(&calm, &shaky, worst), of("shakier", Verdict::Bad, false));
        assert_eq!(word(&shaky, &metrics(1.90, 2), worst), of("", Verdict::Even, false));
        assert_eq!(word(&shaky, &calm, "dead stops, camera"), of("gone", Verdict::Good, false));
        assert_eq!(word(&shaky, &metrics(1.0, 1), "dead stops, camera"), of("fewer", Verdict::Good, false));
        assert_eq!(word(&calm, &shaky, "dead stops, camera"), of("more", Verdict::Bad, false));
        // The axis that is nearest its limit is always there, the others on demand.
        assert_eq!(word(&shaky, &calm, "top pan"), of("close to 30", Verdict::Near, false));
        assert_eq!(word(&shaky, &calm, "top swing"), of("inside 30", Verdict::Good, true));
        assert_eq!(word(&shaky, &calm, "top tilt"), of("", Verdict::Even, true));
        assert_eq!(word(&shaky, &calm, "departure"), of("", Verdict::Even, false));
    }
}
