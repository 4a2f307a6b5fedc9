//! Smoothing in four ways, set apart for machine, head and lens. A machine's axes are smoothed as axes,
//! so that its move stays its own; where the camera's angles together are one rotation, that is
//! smoothed as a rotation.

use super::{Level, Treat};
use crate::axis::AxisGroup;
use crate::filter::{Kernel, Smoother, smooth_rotations};
use crate::motion::{Context, Motion};
use crate::params::{Case, Invalid, Param, within};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// How strongly, in one of four ways.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "by")]
pub enum SmoothBy {
    /// Passes of [¼ ½ ¼] over the frames of the scene's rate.
    Binomial {
        /// Number of passes, 1 to 400.
        passes: u32,
    },
    /// A bell curve in time.
    Gaussian {
        /// Its standard deviation.
        sigma_s: f64,
    },
    /// A fourth-order Butterworth low pass, forth and back: what is slower stays, what is faster goes.
    LowPass {
        /// Frequency at which half of the amplitude is left, Hz.
        cut_hz: f64,
    },
    /// A polynomial through what is around each instant: peaks keep their height (Savitzky & Golay).
    Polynomial {
        /// Window of the polynomial, seconds.
        window_s: f64,
        /// Its degree: 2 keeps peaks, 4 keeps sharper ones.
        degree: u32,
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
            // Samples that hardly hold faster movement keep all they have.
            SmoothBy::LowPass { cut_hz } if cut_hz > 0.4 * sample_hz => Kernel::Binomial { passes: 0 },
            SmoothBy::LowPass { cut_hz } => Kernel::LowPass { cut: cut_hz / sample_hz },
            SmoothBy::Polynomial { window_s, degree } => {
                let half = (window_s * sample_hz / 2.0).round().max(1.0) as usize;
                Kernel::Polynomial { half, degree: degree as usize }
            }
        }
    }

    /// Checks the numbers; `of` is the part that the filter is for.
    pub fn check(self, of: &str) -> Result<(), Invalid> {
        let set = match self {
            SmoothBy::Binomial { passes } => vec![(passes_param(), f64::from(passes))],
            SmoothBy::Gaussian { sigma_s } => vec![(sigma_param(), sigma_s)],
            SmoothBy::LowPass { cut_hz } => vec![(cut_param(), cut_hz)],
            SmoothBy::Polynomial { window_s, degree } => {
                vec![(window_param(), window_s), (degree_param(), f64::from(degree))]
            }
        };
        let checked = set.into_iter().try_for_each(|(param, value)| within(&param, value));
        checked.map_err(|e| Invalid { path: format!("{of}/{}", e.path), ..e })
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

fn cut_param() -> Param {
    Param::number("cut_hz", "keeps up to", "Hz", 0.05, 20.0)
        .start(1.0)
        .log()
        .hint("What is slower stays as it is, what is faster goes; hands shake from about 2 Hz on.")
}

fn window_param() -> Param {
    Param::number("window_s", "through", "s", 0.05, 10.0)
        .start(0.8)
        .log()
        .hint("How much time around each instant the polynomial goes through.")
}

fn degree_param() -> Param {
    Param::whole("degree", "degree", "", 2, 5)
        .start(2.0)
        .hint("2 keeps the height of peaks, 4 of sharper ones.")
}

/// Smoothing for each part of the rig; a part without is left as it was rolled.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct Smooth {
    /// Filter for arm or base; none leaves them.
    pub machine: Option<SmoothBy>,
    /// Filter for pan, tilt and roll; none leaves them.
    pub head: Option<SmoothBy>,
    /// Filter for zoom and focus; none leaves them.
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
                Case::one("low_pass", "low pass", cut_param()),
                Case {
                    name: "polynomial",
                    label: "polynomial",
                    params: vec![window_param(), degree_param()],
                },
            ]
        };
        [("machine", "machine"), ("head", "head"), ("lens", "lens")]
            .map(|(path, label)| Param::variant(path, label, Some("by"), ways()).absent("as it is"))
            .into()
    }

    /// Filter that takes hand shake out and leaves the move.
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
            let kernel = by.kernel(motion.samples.rate_hz(), context.rate.hz());
            let rotation = context.rig.rotation();
            if let Some(turned) = rotation.filter(|r| axes[r[0]].group == group) {
                let mut rotations = motion.samples.rotations(turned);
                stretches.iter().for_each(|s| smooth_rotations(&mut rotations[s.clone()], kernel));
                smoothed.samples.set_rotations(turned, &rotations);
                // What stays stays to the bit.
                for end in stretches.iter().flat_map(|s| [s.start, s.end - 1]) {
                    turned.iter().for_each(|i| smoothed.samples.set(end, *i, motion.samples.row(end)[*i]));
                }
            }
            let alone = |i: &usize| axes[*i].group == group && !rotation.is_some_and(|r| r.contains(i));
            let of_group: Vec<usize> = (0..axes.len()).filter(alone).collect();
            let mut columns: Vec<Vec<f64>> = of_group.iter().map(|&i| motion.samples.column(i)).collect();
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
