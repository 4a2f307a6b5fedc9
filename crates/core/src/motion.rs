//! What flows through treatments: a machine's axes over time.

use crate::axis::Axis;
use crate::rigs::Rig;
use crate::samples::Samples;
use crate::time::Rate;
use std::ops::Range;

/// Axes over scene time, which begins at 0 with the first sample. Angles are continuous.
#[derive(Clone, Debug, PartialEq)]
pub struct Motion {
    /// One column an axis.
    pub samples: Samples,
    /// Times at which the motion jumps: nothing is smoothed or read across one. In order.
    pub cuts: Vec<f64>,
}

/// What a treatment may know besides the motion: nothing of it comes from a store or a clock.
#[derive(Clone, Copy)]
pub struct Context<'a> {
    /// The machine whose axes move.
    pub rig: &'a dyn Rig,
    /// The scene's frames.
    pub rate: Rate,
}

impl Context<'_> {
    /// What moves.
    pub fn axes(&self) -> &[Axis] {
        self.rig.axes()
    }
}

impl Motion {
    /// Samples of a machine as they were recorded, angles made continuous.
    pub fn of(mut samples: Samples, axes: &[Axis]) -> Motion {
        samples.unwrap_angles(axes);
        Motion { samples, cuts: Vec::new() }
    }

    /// Whether nothing moves.
    pub fn is_empty(&self) -> bool {
        self.samples.is_empty()
    }

    /// The stretches between cuts, as ranges of samples.
    pub fn stretches(&self) -> Vec<Range<usize>> {
        let count = self.samples.len();
        let at = |cut: &f64| ((cut * self.samples.rate_hz() - 1e-9).ceil().max(0.0) as usize).min(count);
        let mut ends: Vec<usize> = self.cuts.iter().map(at).collect();
        ends.push(count);
        let starts = std::iter::once(0).chain(ends.clone());
        starts.zip(ends).map(|(from, to)| from..to).filter(|r| !r.is_empty()).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_cut_between_samples_ends_the_stretch_before_it() {
        let samples = Samples::new(120.0, 1, vec![0.0; 240]);
        let cut = |cuts: &[f64]| -> Vec<(usize, usize)> {
            let motion = Motion { samples: samples.clone(), cuts: cuts.to_vec() };
            motion.stretches().into_iter().map(|r| (r.start, r.end)).collect()
        };
        assert_eq!(cut(&[]), [(0, 240)]);
        // At 29.97 frames a second frame 10 lies at sample 40.04.
        assert_eq!(cut(&[10.0 * 1001.0 / 30_000.0]), [(0, 41), (41, 240)]);
        assert_eq!(cut(&[0.5, 1.0]), [(0, 60), (60, 120), (120, 240)]);
        assert_eq!(cut(&[0.0, 5.0]), [(0, 240)]);
    }
}
