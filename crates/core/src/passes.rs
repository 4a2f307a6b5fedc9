//! Passes: a take made in layers. The first roll records every axis; later ones record some of
//! them, over all of it or over a part (a punch in), while the others play from below.
//!
//! **Method.** A pass replaces its axes over its time. At each end that lies within the take the
//! joint is a blend from one to the other by the quintic of a minimum-jerk course, whose first and second derivatives
//! vanish at both ends: no step in position, speed or acceleration. A joint with a gap too wide
//! for its time takes longer, so that what the blend itself adds keeps the axis' top acceleration.

use crate::axis::{Axis, AxisGroup, Unit};
use crate::curve::slope::minimum_jerk;
use crate::samples::Samples;
use crate::space::unwrap;
use std::f64::consts::TAU;

/// A later roll, laid over what is below.
#[derive(Clone, Debug)]
pub struct Pass<'a> {
    /// Whole rows, as rolled.
    pub samples: &'a Samples,
    /// The sample of the take at which its first row lies.
    pub at: usize,
    /// The axes it records.
    pub axes: Vec<usize>,
    /// How long its joints take, seconds.
    pub blend_s: f64,
}

/// A name for a pass that records the armed axes: "whole", the parts of the machine that are armed
/// whole ("head and lens"), or the axes; empty where none that a hand drives is armed.
pub fn name_of(axes: &[Axis], armed: &[bool]) -> String {
    let driven: Vec<(&Axis, bool)> =
        axes.iter().zip(armed).filter(|(a, _)| a.hand.is_some()).map(|(a, on)| (a, *on)).collect();
    let on: Vec<&Axis> = driven.iter().filter(|(_, on)| *on).map(|(a, _)| *a).collect();
    if on.len() == driven.len() {
        return "whole".into();
    }
    let parts = [(AxisGroup::Machine, "arm"), (AxisGroup::Head, "head"), (AxisGroup::Lens, "lens")];
    let of = |group: AxisGroup| driven.iter().filter(move |(a, _)| a.group == group);
    let whole = |group| of(group).all(|(_, on)| *on) || of(group).all(|(_, on)| !*on);
    if !parts.iter().all(|(group, _)| whole(*group)) {
        let names: Vec<&str> = on.iter().map(|a| a.name).collect();
        return names.join(", ");
    }
    let named = parts.iter().filter(|(group, _)| on.iter().any(|a| a.group == *group));
    named.map(|(_, word)| *word).collect::<Vec<_>>().join(" and ")
}

/// The take that the first roll and its passes make together, in the order they were rolled.
pub fn with_passes(base: &Samples, passes: &[Pass], axes: &[Axis]) -> Samples {
    let mut out = base.clone();
    for pass in passes {
        let width = out.width().min(pass.samples.width());
        for &axis in pass.axes.iter().filter(|a| **a < width) {
            let joined =
                join(&out.column(axis), &pass.samples.column(axis), pass, &axes[axis], base.rate_hz());
            out.set_column(axis, &joined);
        }
    }
    out
}

/// One axis of a pass over one below.
fn join(below: &[f64], over: &[f64], pass: &Pass, axis: &Axis, rate_hz: f64) -> Vec<f64> {
    let end = (pass.at + over.len()).min(below.len());
    if pass.at >= end {
        return below.to_vec();
    }
    let count = end - pass.at;
    let mut over = over[..count].to_vec();
    let mut below = below.to_vec();
    if axis.unit == Unit::Radians {
        // The two mean the same turn where they meet.
        unwrap(&mut below);
        unwrap(&mut over);
        let turns = ((below[pass.at] - over[0]) / TAU).round() * TAU;
        over.iter_mut().for_each(|v| *v += turns);
    }
    let within = (pass.at > 0, end < below.len());
    let gaps: Vec<f64> = (0..count).map(|k| over[k] - below[pass.at + k]).collect();
    let asked = (pass.blend_s * rate_hz).round() as usize;
    let room = count / (1 + usize::from(within.0 && within.1));
    let blend = |gap: f64| asked.max((blend_needs_s(gap, axis) * rate_hz).ceil() as usize).min(room).max(1);
    let first = blend(gaps[0]);
    let last = blend(gaps[count - 1]);
    for k in 0..count {
        let into = if within.0 { minimum_jerk(k as f64 / first as f64) } else { 1.0 };
        let out = if within.1 { minimum_jerk((count - 1 - k) as f64 / last as f64) } else { 1.0 };
        below[pass.at + k] += gaps[k] * into * out;
    }
    below
}

/// How long it takes to blend over a gap that stays as it is, within an axis' top speed and
/// acceleration: the quintic's peaks are 15/8 of the mean speed and 10/√3 of gap over time².
pub fn blend_needs_s(gap: f64, axis: &Axis) -> f64 {
    let peak = 10.0 / 3.0_f64.sqrt();
    (gap.abs() * peak / axis.top_acceleration).sqrt().max(gap.abs() * 1.875 / axis.top_speed)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lens::Camera;
    use crate::rigs::{RigSpec, TelescopicCrane};

    fn axes() -> Vec<Axis> {
        RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default()).axes().to_vec()
    }

    fn rows(count: usize, width: usize, at: impl Fn(f64, usize) -> f64) -> Samples {
        let values = (0..count * width).map(|i| at((i / width) as f64 / 120.0, i % width)).collect();
        Samples::new(120.0, width, values)
    }

    #[test]
    fn a_pass_replaces_its_axes_and_no_others() {
        let axes = axes();
        let base = rows(600, axes.len(), |t, a| t + a as f64);
        let over = rows(600, axes.len(), |t, a| -t - a as f64);
        let pass = Pass { samples: &over, at: 0, axes: vec![1, 4], blend_s: 0.5 };
        let out = with_passes(&base, &[pass], &axes);
        for (i, row) in out.rows().enumerate() {
            for (a, value) in row.iter().enumerate() {
                let from = if a == 1 || a == 4 { &over } else { &base };
                let turns = (value - from.row(i)[a]) / TAU;
                assert!((turns - turns.round()).abs() < 1e-9, "{i} {a}");
            }
        }
    }

    #[test]
    fn the_joints_of_a_punch_in_have_no_step_in_position_or_speed() {
        let axes = axes();
        let reach = axes.iter().position(|a| a.name == "reach").unwrap();
        let base = rows(1200, axes.len(), |t, _| 4.0 + 0.3 * (0.7 * t).sin());
        // It starts where the one below is and ends half a metre elsewhere.
        let (at, count) = (300, 480);
        let over =
            rows(count, axes.len(), |t, _| 4.0 + 0.3 * (0.7 * (t + 2.5)).sin() + 0.5 * minimum_jerk(t / 4.0));
        let pass = Pass { samples: &over, at, axes: vec![reach], blend_s: 0.2 };
        let out = with_passes(&base, &[pass], &axes).column(reach);
        let speeds: Vec<f64> = out.windows(2).map(|w| (w[1] - w[0]) * 120.0).collect();
        let pushes: Vec<f64> = speeds.windows(2).map(|w| (w[1] - w[0]) * 120.0).collect();
        let hardest = pushes.iter().fold(0.0_f64, |m, p| m.max(p.abs()));
        // What both sides ask (0.15 and 0.18 m/s²) and what the blend may add.
        let allowed = axes[reach].top_acceleration + 0.15 + 0.18;
        assert!(hardest <= allowed, "{hardest} {allowed}");
        assert_eq!(out[..at], base.column(reach)[..at]);
        assert_eq!(out[at + count..], base.column(reach)[at + count..]);
        assert_eq!(out[at + 200], over.column(reach)[200]);
    }

    #[test]
    fn a_pass_beyond_the_end_changes_nothing() {
        let axes = axes();
        let base = rows(100, axes.len(), |t, _| t);
        let pass = Pass { samples: &base.clone(), at: 100, axes: vec![0], blend_s: 0.1 };
        assert_eq!(with_passes(&base, &[pass], &axes), base);
    }

    #[test]
    fn a_pass_is_named_by_what_is_armed_all_of_it_a_part_or_the_axes() {
        let mut axes = axes();
        let named = |axes: &[Axis], armed: &[&str]| {
            let armed: Vec<bool> = axes.iter().map(|a| armed.contains(&a.name)).collect();
            name_of(axes, &armed)
        };
        let all: Vec<&str> = axes.iter().map(|a| a.name).collect();
        assert_eq!(named(&axes, &all), "whole");
        assert_eq!(named(&axes, &["swing", "boom", "reach"]), "arm");
        assert_eq!(named(&axes, &["pan", "tilt", "roll", "zoom", "focus", "iris"]), "head and lens");
        assert_eq!(named(&axes, &["swing", "focus"]), "swing, focus");
        assert_eq!(named(&axes, &[]), "");
        // What nobody drives neither names a pass nor keeps it from being whole.
        axes[2].hand = None;
        assert_eq!(named(&axes, &["reach"]), "");
        assert_eq!(named(&axes, &["swing", "boom"]), "arm");
    }
}
