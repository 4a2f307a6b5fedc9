//! Warnings about a move: the fault, its frames, its amount.

use crate::axis::{Axis, AxisGroup, Unit};
use crate::samples::Samples;
use crate::time::Rate;
use serde::Serialize;
use ts_rs::TS;

/// A stretch of time in which something is wrong.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, TS)]
pub struct Stretch {
    /// First instant, seconds.
    pub from_s: f64,
    /// Last instant, seconds.
    pub to_s: f64,
    /// The frame on the screen when it begins.
    pub from_frame: usize,
    /// The first frame at its end or after it.
    pub to_frame: usize,
    /// The largest amount in it.
    pub most: f64,
}

/// Something that is wrong, and when.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Warning {
    /// Sentence with the amount.
    pub what: String,
    /// Stretch of time.
    pub when: Stretch,
}

/// The stretches of time in which an amount, `sample_hz` times a second, is more than `over`.
pub fn stretches(sample_hz: f64, rate: Rate, amounts: &[f64], over: f64) -> Vec<Stretch> {
    let mut found: Vec<Stretch> = Vec::new();
    let mut open = false;
    for (k, amount) in amounts.iter().copied().enumerate() {
        let time_s = k as f64 / sample_hz;
        if amount <= over {
            open = false;
            continue;
        }
        if !open {
            let from_frame = rate.frame_at(time_s);
            found.push(Stretch {
                from_s: time_s,
                to_s: time_s,
                from_frame,
                to_frame: from_frame,
                most: amount,
            });
        }
        open = true;
        if let Some(last) = found.last_mut() {
            last.to_s = time_s;
            last.to_frame = (time_s * rate.hz() - 1e-6).ceil().max(0.0) as usize;
            last.most = last.most.max(amount);
        }
    }
    found
}

/// Shortfall below which there is no warning, metres.
const LEAST_M: f64 = 0.01;
/// Shortfall below which there is no warning, degrees.
const LEAST_DEG: f64 = 0.1;
/// Length below which there is no warning, frames.
const LEAST_FRAMES: f64 = 2.0;

/// The stretches that are worth telling: longer than two frames.
pub(crate) fn lasting(
    sample_hz: f64,
    rate: Rate,
    amounts: &[f64],
    over: f64,
) -> impl Iterator<Item = Stretch> {
    let least_s = LEAST_FRAMES / rate.hz();
    stretches(sample_hz, rate, amounts, over).into_iter().filter(move |s| s.to_s - s.from_s > least_s)
}

/// Stretches past an end stop, by 1 cm, 0.1° or as much of another unit as matters.
pub fn past_end_stops(samples: &Samples, axes: &[Axis], rate: Rate) -> Vec<Warning> {
    let of_axis = |(i, axis): (usize, &Axis)| -> Vec<Warning> {
        let column = samples.column(i);
        let beyond: Vec<f64> = column.iter().map(|v| axis.unit.to_shown(axis.beyond(*v))).collect();
        let over = match axis.unit {
            Unit::Metres | Unit::Plain => LEAST_M,
            Unit::Radians | Unit::Millimetres => LEAST_DEG,
        };
        let told = |when: Stretch| {
            let unit = axis.unit.symbol();
            let space = if unit.is_empty() || unit == "°" { "" } else { " " };
            let what = format!("{} is up to {:.2}{space}{unit} past its end stop", axis.name, when.most);
            Warning { what, when }
        };
        lasting(samples.rate_hz(), rate, &beyond, over).map(told).collect()
    };
    let own = axes.iter().enumerate().filter(|(_, a)| a.group != AxisGroup::Carrier);
    own.flat_map(of_axis).collect()
}

/// Stretches in which a machine falls short of the wanted camera, by 1 cm or 0.1°.
pub fn short(sample_hz: f64, rate: Rate, metres: &[f64], degrees: &[f64]) -> Vec<Warning> {
    let far = lasting(sample_hz, rate, metres, LEAST_M).map(|when| Warning {
        what: format!("the camera is up to {:.2} m from where it is wanted", when.most),
        when,
    });
    let turned = lasting(sample_hz, rate, degrees, LEAST_DEG).map(|when| Warning {
        what: format!("the camera looks up to {:.1}° away from where it should", when.most),
        when,
    });
    far.chain(turned).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lens::Camera;
    use crate::rigs::{RigSpec, TelescopicCrane};

    #[test]
    fn stretches_are_told_by_frames_and_by_the_most_in_them() {
        let mut amounts = vec![0.0; 121];
        amounts[6..=31].fill(0.02);
        amounts[20] = 0.5;
        amounts[60..64].fill(0.3);
        let all = stretches(120.0, Rate::FILM, &amounts, 0.01);
        assert_eq!(
            all.iter().map(|s| (s.from_frame, s.to_frame, s.most)).collect::<Vec<_>>(),
            [(1, 7, 0.5), (12, 13, 0.3)]
        );
        assert_eq!((all[0].from_s, all[0].to_s), (0.05, 31.0 / 120.0));
        let told: Vec<Stretch> = lasting(120.0, Rate::FILM, &amounts, 0.01).collect();
        assert_eq!(told, all[..1], "what is over within two frames is not told");
    }

    #[test]
    fn an_axis_past_its_end_stop_is_named_with_the_amount() {
        let rig = RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default());
        let axes = rig.axes();
        let boom = axes.iter().position(|a| a.name == "boom").unwrap();
        let row = |k: usize| -> Vec<f64> {
            let mut row: Vec<f64> = axes.iter().map(|a| a.start).collect();
            if (24..48).contains(&k) {
                row[boom] = axes[boom].max + 3f64.to_radians();
            }
            row
        };
        let samples = Samples::new(120.0, axes.len(), (0..120).flat_map(row).collect());
        let told = past_end_stops(&samples, axes, Rate::FILM);
        assert_eq!(told.len(), 1, "{told:?}");
        assert_eq!(told[0].what, "boom is up to 3.00° past its end stop");
        assert_eq!((told[0].when.from_frame, told[0].when.to_frame), (4, 10));
    }
}
