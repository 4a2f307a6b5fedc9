//! Taking the tremor out of a camera while it is being carried, and the price of it in time.
//!
//! **Method.** Two ways, each for position and rotation apart:
//! * *One Euro*: a first-order low pass whose cut-off rises with speed, so that slow motion is
//!   steady and quick motion is not late. Casiez, Roussel, Vogel, "1€ Filter", CHI 2012. A position
//!   is filtered as a vector and a rotation along the arc to where it is wanted, with the speed of
//!   the whole, so that the shape of a path is kept; along one axis it is the published filter.
//! * *Fixed lag*: every value is a weighted mean of what came within a window around it, which is
//!   known only half a window later. The window is a raised cosine: a straight run comes out
//!   exactly as it went in, late by the lag and by nothing else.
//!
//! Samples come evenly; nothing here has a clock.

use crate::params::{Invalid, Param, within};
use crate::space::{Pose, shorter_turn};
use glam::{DQuat, DVec3};
use serde::{Deserialize, Serialize};
use std::collections::VecDeque;
use std::f64::consts::TAU;
use ts_rs::TS;

/// Kind of filter.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum SteadyBy {
    /// Steady when slow, prompt when quick.
    #[default]
    OneEuro,
    /// Smooth at any speed, always late by the same time.
    FixedLag,
}

/// How strongly a carried camera is steadied; 0 leaves it alone, 1 is a gimbal with a slow hand.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct Steady {
    /// Kind of filter.
    pub by: SteadyBy,
    /// Strength for where it is.
    pub position: f64,
    /// Strength for where it looks.
    pub rotation: f64,
}

/// The lag of a fixed-lag filter at full strength, seconds.
const LONGEST_LAG_S: f64 = 0.5;

/// Cut-off at rest in Hz: from 8 Hz, where a hand trembles, down to a third of a hertz.
fn cut_hz(strength: f64) -> f64 {
    8.0 * (1.0_f64 / 24.0).powf(strength)
}

/// Hz that a metre, or a radian, a second adds to the cut-off. From memory: found by trying.
const SPEED_GAIN: f64 = 1.5;
/// Cut-off of the speed itself, Hz, as published.
const SPEED_CUT_HZ: f64 = 1.0;

impl Steady {
    /// Parameters of steadying.
    pub fn described() -> [Param; 3] {
        let strength = |path, label| Param::number(path, label, "", 0.0, 1.0);
        [
            Param::choice(
                "by",
                "steadied by",
                &[("one_euro", "One Euro: prompt"), ("fixed_lag", "fixed lag: always late")],
            ),
            strength("position", "steadying of position"),
            strength("rotation", "steadying of rotation"),
        ]
    }

    /// Checks the strengths.
    pub fn within_reason(&self) -> Result<(), Invalid> {
        let [_, position, rotation] = Steady::described();
        within(&position, self.position)?;
        within(&rotation, self.rotation)
    }

    /// How late a slow motion comes out, seconds: the later of position and rotation.
    pub fn delay_s(&self) -> f64 {
        let one = |strength: f64| match self.by {
            _ if strength == 0.0 => 0.0,
            SteadyBy::OneEuro => 1.0 / (TAU * cut_hz(strength)),
            SteadyBy::FixedLag => lag_s(strength),
        };
        one(self.position).max(one(self.rotation))
    }
}

fn lag_s(strength: f64) -> f64 {
    strength * LONGEST_LAG_S
}

/// The weight of a new value in a first-order low pass.
fn weight(cut_hz: f64, step_s: f64) -> f64 {
    let lag = 1.0 / (TAU * cut_hz);
    1.0 / (1.0 + lag / step_s)
}

/// The published filter, for one number.
#[derive(Clone, Debug)]
pub struct OneEuro {
    step_s: f64,
    min_cut_hz: f64,
    gain: f64,
    speed_cut_hz: f64,
    /// The last value that came out, and its speed.
    last: Option<(f64, f64)>,
}

impl OneEuro {
    /// For values that come every `step_s`.
    pub fn new(step_s: f64, min_cut_hz: f64, gain: f64, speed_cut_hz: f64) -> OneEuro {
        OneEuro { step_s, min_cut_hz, gain, speed_cut_hz, last: None }
    }

    /// The next value, steadied.
    pub fn next(&mut self, value: f64) -> f64 {
        let (out, speed) = self.last.unwrap_or((value, 0.0));
        // As published, the speed is that towards the value from what came out before it.
        let speed = speed + weight(self.speed_cut_hz, self.step_s) * ((value - out) / self.step_s - speed);
        let cut = self.min_cut_hz + self.gain * speed.abs();
        let out = out + weight(cut, self.step_s) * (value - out);
        self.last = Some((out, speed));
        out
    }
}

/// The published filter for a vector, or for the turning of a rotation: one cut-off for all.
#[derive(Clone, Copy, Debug)]
struct Speed(DVec3);

impl Speed {
    /// The weight of a new value that differs from what came out last by `change`.
    fn weight(&mut self, change: DVec3, min_cut_hz: f64, step_s: f64) -> f64 {
        self.0 += weight(SPEED_CUT_HZ, step_s) * (change / step_s - self.0);
        weight(min_cut_hz + SPEED_GAIN * self.0.length(), step_s)
    }
}

/// A mean of rotations that are near one another: around the middle one, in its tangent space.
fn mean_rotation(middle: DQuat, of: impl Iterator<Item = (DQuat, f64)>) -> DQuat {
    let turn: DVec3 = of.map(|(q, w)| shorter_turn(middle.conjugate() * q) * w).sum();
    (middle * DQuat::from_scaled_axis(turn)).normalize()
}

/// A filter over poses that come every `step_s`.
#[derive(Clone, Debug)]
pub struct Steadier {
    steady: Steady,
    step_s: f64,
    last: Option<Pose>,
    speeds: (Speed, Speed),
    /// The newest pose last.
    window: VecDeque<Pose>,
    weights: (Vec<f64>, Vec<f64>),
}

/// Weights of a raised cosine over a lag to both sides, summing to 1.
fn raised_cosine(lag_s: f64, step_s: f64) -> Vec<f64> {
    let half = (lag_s / step_s).round() as usize;
    let at = |k: usize| 1.0 + (TAU * (k as f64 - half as f64) / (2 * half + 2) as f64).cos();
    let weights: Vec<f64> = (0..=2 * half).map(at).collect();
    let sum: f64 = weights.iter().sum();
    weights.into_iter().map(|w| w / sum).collect()
}

impl Steadier {
    /// Fresh: the first pose comes out as it is.
    pub fn new(steady: Steady, step_s: f64) -> Steadier {
        let window = |strength: f64| raised_cosine(lag_s(strength), step_s);
        Steadier {
            steady,
            step_s,
            last: None,
            speeds: (Speed(DVec3::ZERO), Speed(DVec3::ZERO)),
            window: VecDeque::new(),
            weights: (window(steady.position), window(steady.rotation)),
        }
    }

    /// Settings that it was made with.
    pub fn steady(&self) -> Steady {
        self.steady
    }

    /// The next pose, steadied.
    pub fn next(&mut self, pose: Pose) -> Pose {
        let Steady { by, position, rotation } = self.steady;
        if position == 0.0 && rotation == 0.0 {
            return pose;
        }
        match by {
            SteadyBy::OneEuro => self.one_euro(pose),
            SteadyBy::FixedLag => self.fixed_lag(pose),
        }
    }

    fn one_euro(&mut self, pose: Pose) -> Pose {
        let out = self.last.unwrap_or(pose);
        let moved = pose.position - out.position;
        let turned = shorter_turn(out.rotation.conjugate() * pose.rotation);
        let share = |speed: &mut Speed, change: DVec3, strength: f64| {
            let weight = speed.weight(change, cut_hz(strength), self.step_s);
            if strength == 0.0 { 1.0 } else { weight }
        };
        let position = share(&mut self.speeds.0, moved, self.steady.position);
        let rotation = share(&mut self.speeds.1, turned, self.steady.rotation);
        let next = Pose {
            position: pose.position + (out.position - pose.position) * (1.0 - position),
            rotation: if rotation == 1.0 {
                pose.rotation
            } else {
                out.rotation.slerp(pose.rotation, rotation).normalize()
            },
        };
        self.last = Some(next);
        next
    }

    /// Both parts are late by the longer lag, so that they stay together.
    fn fixed_lag(&mut self, pose: Pose) -> Pose {
        let (position, rotation) = (&self.weights.0, &self.weights.1);
        let longest = position.len().max(rotation.len());
        if self.window.is_empty() {
            // Before the first pose it stood there.
            self.window.extend(std::iter::repeat_n(pose, longest));
        }
        self.window.push_back(pose);
        while self.window.len() > longest {
            self.window.pop_front();
        }
        let part = |weights: &[f64]| (longest - weights.len()) / 2;
        let of = |i: usize| self.window[i];
        let at = part(position);
        let place = position.iter().enumerate().map(|(k, w)| of(at + k).position * *w).sum();
        let at = part(rotation);
        let turns = rotation.iter().enumerate().map(|(k, w)| (of(at + k).rotation, *w));
        Pose { position: place, rotation: mean_rotation(of(longest / 2).rotation, turns) }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    const STEP_S: f64 = 1.0 / 240.0;

    fn steadier(by: SteadyBy, position: f64, rotation: f64) -> Steadier {
        Steadier::new(Steady { by, position, rotation }, STEP_S)
    }

    fn at(x: f64, pan: f64) -> Pose {
        Pose::new(DVec3::new(x, 1.7, 0.0), DQuat::from_rotation_y(-pan))
    }

    #[test]
    fn a_straight_run_comes_out_late_by_exactly_the_stated_lag() {
        let mut s = steadier(SteadyBy::FixedLag, 0.4, 0.1);
        let delay = s.steady().delay_s();
        assert!((delay - 0.2).abs() < 1e-12);
        let run = |t: f64| at(0.8 * t, 0.3 * t);
        let outs: Vec<Pose> = (0..480).map(|i| s.next(run(i as f64 * STEP_S))).collect();
        for (i, out) in outs.iter().enumerate().skip(200) {
            let wanted = run(i as f64 * STEP_S - delay);
            assert!(out.position.distance(wanted.position) < 1e-12, "{i}");
            assert!(out.angle_to(wanted) < 1e-12, "{i}");
        }
    }

    #[test]
    fn no_strength_changes_nothing_and_one_part_leaves_the_other() {
        for by in [SteadyBy::OneEuro, SteadyBy::FixedLag] {
            let mut none = steadier(by, 0.0, 0.0);
            let mut turn = steadier(by, 0.0, 0.6);
            for i in 0..300 {
                let t = i as f64 * STEP_S;
                let pose = at((9.0 * t).sin() * 0.02, (50.0 * t).sin() * 0.02);
                assert_eq!(none.next(pose), pose);
                let out = turn.next(pose);
                if by == SteadyBy::OneEuro {
                    assert_eq!(out.position, pose.position);
                }
            }
        }
    }

    #[test]
    fn more_strength_leaves_less_tremor() {
        for by in [SteadyBy::OneEuro, SteadyBy::FixedLag] {
            let left = |strength: f64| {
                let mut s = steadier(by, strength, strength);
                let tremor = |i: usize| (TAU * 9.0 * i as f64 * STEP_S).sin() * 0.002;
                let outs: Vec<Pose> = (0..1200).map(|i| s.next(at(tremor(i), tremor(i)))).collect();
                outs[600..].iter().map(|p| p.position.x.abs()).fold(0.0, f64::max)
            };
            assert!(left(0.2) > left(0.5) && left(0.5) > left(0.9), "{by:?}");
            assert!(left(0.9) < 0.0004, "{by:?} {}", left(0.9));
        }
    }
}
