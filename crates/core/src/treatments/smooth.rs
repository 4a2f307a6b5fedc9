//! Smoothing: light binomial passes or a Gaussian, set apart for machine, head and lens.

use super::{Level, Treat};
use crate::axis::AxisGroup;
use crate::filter::{Kernel, Smoother};
use crate::motion::{Context, Motion};
use crate::params::{Case, Invalid, Param, within};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// How strongly, in one of the two ways.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "by")]
pub enum SmoothBy {
    /// Passes of [¼ ½ ¼] over the frames of the scene's rate.
    Binomial {
        /// 1 to 400.
        passes: u32,
    },
    /// A bell curve in time.
    Gaussian {
        /// Its standard deviation.
        sigma_s: f64,
    },
}

impl SmoothBy {
    /// As a filter over samples taken `sample_hz` times a second in a scene of `rate`. Passes at
    /// another rate than the frames' spread the same width: n·(fs/rate)² of them, rounded.
    pub fn kernel(self, sample_hz: f64, rate_hz: f64) -> Kernel {
        match self {
            SmoothBy::Binomial { passes } => Kernel::Binomial {
                passes: (f64::from(passes) * (sample_hz / rate_hz).powi(2)).round() as u32,
            },
            SmoothBy::Gaussian { sigma_s } => Kernel::Gaussian { sigma: sigma_s * sample_hz },
        }
    }

    /// Whether it can be done; `of` is the part that it is for.
    pub fn check(self, of: &str) -> Result<(), Invalid> {
        let (param, value) = match self {
            SmoothBy::Binomial { passes } => (passes_param(), f64::from(passes)),
            SmoothBy::Gaussian { sigma_s } => (sigma_param(), sigma_s),
        };
        within(&param, value).map_err(|e| Invalid { path: format!("{of}/{}", e.path), ..e })
    }
}

fn passes_param() -> Param {
    Param::whole("passes", "smoothing passes", "", 1, 400)
        .start(100.0)
        .log()
        .hint("Passes of [¼ ½ ¼] over the frames of the scene; a hundred is normal for hands.")
}

fn sigma_param() -> Param {
    Param::number("sigma_s", "width", "s", 0.001, 10.0)
        .start(0.2)
        .log()
        .hint("The standard deviation of a bell in time.")
}

/// Smoothing for each part of the rig; a part without is left as it was rolled.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct Smooth {
    /// Arm or base.
    pub machine: Option<SmoothBy>,
    /// Pan, tilt, roll.
    pub head: Option<SmoothBy>,
    /// Zoom, focus.
    pub lens: Option<SmoothBy>,
}

impl Smooth {
    fn of(&self, group: AxisGroup) -> Option<SmoothBy> {
        match group {
            AxisGroup::Machine => self.machine,
            AxisGroup::Head => self.head,
            AxisGroup::Lens => self.lens,
            AxisGroup::Carrier => None,
        }
    }
}

impl Treat for Smooth {
    const LEVEL: Level = Level::Machine;
    const WORDS: (&'static str, &'static str) =
        ("Smooth", "Takes the shake out of the hands; the start and the end stay where they are.");

    fn params() -> Vec<Param> {
        let ways = || {
            vec![
                Case::one("binomial", "smoothing passes", passes_param()),
                Case::one("gaussian", "bell curve", sigma_param()),
            ]
        };
        [("machine", "machine"), ("head", "head"), ("lens", "lens")]
            .map(|(path, label)| Param::variant(path, label, Some("by"), ways()).absent("as it is"))
            .into()
    }

    /// What takes hand shake out and leaves the move.
    fn usual() -> Smooth {
        let passes = |passes| Some(SmoothBy::Binomial { passes });
        Smooth { machine: passes(60), head: passes(100), lens: None }
    }

    fn check(&self) -> Result<(), Invalid> {
        let parts = [("machine", self.machine), ("head", self.head), ("lens", self.lens)];
        parts.into_iter().try_for_each(|(of, by)| by.map_or(Ok(()), |by| by.check(of)))
    }

    fn apply(&self, motion: &Motion, context: &Context) -> Motion {
        let mut smoothed = motion.clone();
        let (axes, stretches) = (context.axes(), motion.stretches());
        for group in [AxisGroup::Machine, AxisGroup::Head, AxisGroup::Lens] {
            let Some(by) = self.of(group) else { continue };
            let of_group: Vec<usize> = (0..axes.len()).filter(|&i| axes[i].group == group).collect();
            let mut columns: Vec<Vec<f64>> = of_group.iter().map(|&i| motion.samples.column(i)).collect();
            let kernel = by.kernel(motion.samples.rate_hz(), context.rate.hz());
            // Each stretch between cuts is a motion of its own.
            for stretch in &stretches {
                let mut parts: Vec<Vec<f64>> = columns.iter().map(|c| c[stretch.clone()].to_vec()).collect();
                Smoother::new(stretch.len(), kernel).smooth(&mut parts);
                for (column, part) in columns.iter_mut().zip(parts) {
                    column[stretch.clone()].copy_from_slice(&part);
                }
            }
            for (&i, column) in of_group.iter().zip(&columns) {
                smoothed.samples.set_column(i, column);
            }
        }
        smoothed
    }
}
