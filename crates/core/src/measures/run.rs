//! A camera between two jumps: what every figure is measured on.

use crate::filter::{Kernel, Smoother, smooth_rotations};
use crate::space::Pose;
use crate::track::TrackPoint;
use glam::{DQuat, DVec3};

/// Poses in order of time, taken as even where a figure needs it.
#[derive(Clone, Debug)]
pub(super) struct Run {
    /// At the first pose, seconds.
    pub start_s: f64,
    /// Poses a second, on average; 0 for fewer than two.
    pub rate_hz: f64,
    /// Poses of the camera.
    pub poses: Vec<Pose>,
}

impl Run {
    pub fn of(points: &[TrackPoint]) -> Run {
        let (start_s, end_s) =
            points.first().map_or((0.0, 0.0), |p| (p.time_s, points[points.len() - 1].time_s));
        let rate_hz = if end_s > start_s { (points.len() - 1) as f64 / (end_s - start_s) } else { 0.0 };
        Run { start_s, rate_hz, poses: points.iter().map(TrackPoint::pose).collect() }
    }

    /// The time of a pose, seconds.
    pub fn time_of(&self, i: usize) -> f64 {
        if self.rate_hz > 0.0 { self.start_s + i as f64 / self.rate_hz } else { self.start_s }
    }

    /// Run under a bell of this standard deviation.
    pub fn under_bell(&self, sigma_s: f64) -> Run {
        let sigma = sigma_s * self.rate_hz;
        let mut places = columns(self.poses.iter().map(|p| p.position));
        under_bell(&mut places, sigma);
        let mut rotations: Vec<DQuat> = self.poses.iter().map(|p| p.rotation).collect();
        smooth_rotations(&mut rotations, Kernel::Gaussian { sigma });
        let place = |i: usize| DVec3::from_array(std::array::from_fn(|k| places[k][i]));
        let poses = rotations.into_iter().enumerate().map(|(i, turned)| Pose::new(place(i), turned));
        Run { poses: poses.collect(), ..*self }
    }

    /// Pairs of poses that are `window_s` apart, or a step where steps are longer.
    pub fn over(&self, window_s: f64) -> Over {
        let steps = (window_s * self.rate_hz).max(1.0);
        let (whole, part) = (steps.floor() as usize, steps.fract());
        let part = if part < 1e-6 { 0.0 } else { part };
        Over { steps: whole, part, whole: part == 0.0, seconds: (whole as f64 + part) / self.rate_hz }
    }

    /// The mean change of a pose over `window_s`, or over a step where steps are longer, per second:
    /// from every pose on. `between` says how far two poses are apart.
    pub fn speeds(&self, window_s: f64, between: impl Fn(Pose, Pose) -> f64) -> Vec<f64> {
        let over = self.over(window_s);
        over.pairs(self).map(|(a, b)| between(a, b) / over.seconds).collect()
    }
}

/// Distance of two poses in time.
pub(super) struct Over {
    /// Number of whole steps.
    pub steps: usize,
    /// Rest of a step, 0 to 1.
    part: f64,
    /// True if nothing is left of a step.
    pub whole: bool,
    /// Both together, seconds.
    pub seconds: f64,
}

impl Over {
    /// Each pose of a run that has one so much later, with that one.
    pub fn pairs<'a>(&'a self, run: &'a Run) -> impl Iterator<Item = (Pose, Pose)> + 'a {
        let last = if self.whole { self.steps } else { self.steps + 1 };
        run.poses.windows(last + 1).map(move |w| {
            let end = if self.whole { w[self.steps] } else { w[self.steps].towards(w[last], self.part) };
            (w[0], end)
        })
    }
}

/// Vectors as three columns.
pub(super) fn columns(of: impl Iterator<Item = DVec3>) -> Vec<Vec<f64>> {
    let all: Vec<DVec3> = of.collect();
    (0..3).map(|k| all.iter().map(|v| v[k]).collect()).collect()
}

/// Columns under a bell, whose standard deviation is in samples.
pub(super) fn under_bell(columns: &mut [Vec<f64>], sigma: f64) {
    let len = columns.first().map_or(0, Vec::len);
    if sigma > 0.0 {
        Smoother::new(len, Kernel::Gaussian { sigma }).smooth(columns);
    }
}
