//! Smoothing: light binomial passes or a Gaussian, set apart for machine, head and lens.

use crate::axis::{Axis, AxisGroup};
use crate::filter::{Kernel, Smoother};
use crate::samples::Samples;
use crate::time::Rate;
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

    /// What about it cannot be, as a sentence.
    pub fn fault(self) -> Option<String> {
        match self {
            SmoothBy::Binomial { passes } if !(1..=400).contains(&passes) => {
                Some(format!("{passes} passes cannot be done; ask for 1 to 400"))
            }
            SmoothBy::Gaussian { sigma_s } if !(sigma_s > 0.0 && sigma_s <= 10.0) => {
                Some(format!("a sigma of {sigma_s} s cannot be done; ask for more than 0 and at most 10 s"))
            }
            _ => None,
        }
    }
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

    pub(super) fn fault(&self) -> Option<String> {
        [self.machine, self.head, self.lens].into_iter().flatten().find_map(SmoothBy::fault)
    }

    pub(super) fn apply(&self, samples: &mut Samples, axes: &[Axis], rate: Rate) {
        for group in [AxisGroup::Machine, AxisGroup::Head, AxisGroup::Lens] {
            let Some(by) = self.of(group) else { continue };
            let of_group: Vec<usize> = (0..axes.len()).filter(|&i| axes[i].group == group).collect();
            let mut columns: Vec<Vec<f64>> = of_group.iter().map(|&i| samples.column(i)).collect();
            let kernel = by.kernel(samples.rate_hz(), rate.hz());
            Smoother::new(samples.len(), kernel).smooth(&mut columns);
            for (&i, column) in of_group.iter().zip(&columns) {
                samples.set_column(i, column);
            }
        }
    }
}
