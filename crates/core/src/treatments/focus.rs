//! Pulls focus: to somebody and along with them, from one to the next over so long, as a focus puller
//! does who has measured it out.
//!
//! **Method.** What is sharp lies in a plane across the view, so the distance is counted along it, from
//! the lens. From one target to the next the ring turns along a fifth-degree course, and a ring turns
//! evenly in one over the distance: near the lens it goes slowly, far away quickly.

use super::targets::{self, Target, Turn};
use super::{Level, Reads, Treat};
use crate::motion::{Context, Motion};
use crate::params::{Invalid, Param, within};
use crate::warnings::{Warning, lasting};
use glam::DVec3;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Focus treatment.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Focus {
    /// On whom or what, from when on.
    pub turns: Vec<Turn>,
    /// Distance by which focus lies before the target, metres.
    pub nearer_m: f64,
}

impl Default for Focus {
    fn default() -> Focus {
        Focus { turns: vec![Turn::default()], nearer_m: 0.0 }
    }
}

fn nearer() -> Param {
    Param::number("nearer_m", "nearer", "m", -10.0, 10.0)
        .start(0.0)
        .step(0.05)
        .hint("How much nearer to the lens than they are; below 0 it is behind them.")
}

/// Less than this is not told, metres.
const LEAST_M: f64 = 0.01;

impl Treat for Focus {
    const LEVEL: Level = Level::Camera;
    const WORDS: (&'static str, &'static str) =
        ("Focus", "Keeps the focus on somebody, and pulls it from one to the next.");

    fn params() -> Vec<Param> {
        vec![targets::list("pulled to", targets::With::Distances), nearer()]
    }

    fn check(&self) -> Result<(), Invalid> {
        targets::check(&self.turns, targets::With::Distances)?;
        within(&nearer(), self.nearer_m)
    }

    fn reads(&self) -> Reads {
        targets::reads(&self.turns)
    }

    fn names_whom(&self) -> bool {
        targets::names_whom(&self.turns)
    }

    fn apply(&self, motion: &Motion, context: &Context) -> Motion {
        let mut pulled = motion.clone();
        let at = context.axes().len() - 2;
        let axis = &context.axes()[at];
        let mut focus = motion.samples.column(at);
        let mut missing = vec![0.0; focus.len()];
        for stretch in motion.stretches() {
            let poses: Vec<_> = stretch.clone().map(|k| motion.pose(k, context.rig)).collect();
            let time_s = |k: usize| (stretch.start + k) as f64 / motion.samples.rate_hz();
            let was = focus[stretch.clone()].to_vec();
            let mut sharp = vec![0.0; was.len()];
            let mut ring: Vec<f64> = was.iter().map(|m| 1.0 / m).collect();
            for turn in &self.turns {
                let begins = (0..poses.len()).find(|k| time_s(*k) >= turn.from_s).unwrap_or(0);
                let to = turn.to.clone().named(poses[begins], context.playing, time_s(begins));
                let point = to.course(context.playing);
                for (k, ring) in ring.iter_mut().enumerate() {
                    let done = turn.done(time_s(k));
                    if done == 0.0 {
                        continue;
                    }
                    let ahead = |point: DVec3| {
                        (point - poses[k].position).dot(poses[k].rotation * DVec3::NEG_Z) - self.nearer_m
                    };
                    let wanted = match to {
                        Target::Ahead { distance_m } => Some(distance_m - self.nearer_m),
                        _ => point(time_s(k)).map(ahead),
                    };
                    let there = wanted.map_or(was[k], |m| m.clamp(axis.min, axis.max));
                    sharp[k] = wanted.map_or(0.0, |m| axis.min - m);
                    *ring += (1.0 / there - *ring) * done;
                }
            }
            for (k, ring) in ring.into_iter().enumerate() {
                if ring != 1.0 / was[k] {
                    focus[stretch.start + k] = (1.0 / ring).clamp(axis.min, axis.max);
                    missing[stretch.start + k] = sharp[k].max(0.0);
                }
            }
        }
        pulled.samples.set_column(at, &focus);
        let too_near =
            lasting(motion.samples.rate_hz(), context.rate, &missing, LEAST_M).map(|when| Warning {
                what: format!(
                    "the focus should be up to {:.2} m nearer than the lens' closest, {:.2} m",
                    when.most, axis.min
                ),
                when,
            });
        pulled.warnings.extend(too_near);
        pulled
    }
}
