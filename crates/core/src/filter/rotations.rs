//! Smoothing of rotations as rotations, with no preferred direction: turning the camera or the world
//! before or after gives the same, also straight up and down.
//!
//! **Method.** Bells and passes: quaternions made continuous, smoothed as four columns and brought
//! back to length one, which is the projected mean of Markley, Cheng, Crassidis, Oshman, "Averaging
//! quaternions", J. Guidance, Control and Dynamics 30(4), 2007 (from memory). It is good where what
//! lies under the bell is near; a quick spin is smoothed in stages, each a narrower bell, whose
//! variances add up to the one that is asked for. What spins all the time is taken off first: beside a spin as
//! fast as the whole run turns on average, what is left keeps near, begins at rest, and is smoothed; so a
//! steady spin stays as it is under any bell. Low pass and polynomial, which overshoot: the same
//! under a bell that is wider than what they keep gives a calm course; what turns away from it, as
//! axis times angle, is small, and is filtered as three columns.

use super::{Kernel, Smoother};
use crate::space::shorter_turn;
use glam::{DQuat, DVec3};

/// How far a rotation may turn within one standard deviation of a bell, half angles, radians.
const MOST_TURN: f64 = 0.2;
/// However fast something spins, so many stages are enough: what is left of it is a blur.
const MOST_STAGES: f64 = 64.0;

/// Smooths rotations in place. The first and the last stay as they are.
pub fn smooth_rotations(rotations: &mut [DQuat], kernel: Kernel) {
    if rotations.len() < 3 {
        return;
    }
    let ends = (rotations[0], rotations[rotations.len() - 1]);
    let spin = Spin::of(rotations);
    let mut beside: Vec<DQuat> =
        rotations.iter().enumerate().map(|(i, q)| spin.at(i).conjugate() * *q).collect();
    smooth_near_ones(&mut beside, kernel);
    for (i, (q, smooth)) in rotations.iter_mut().zip(beside).enumerate() {
        *q = (spin.at(i) * smooth).normalize();
    }
    let last = rotations.len() - 1;
    (rotations[0], rotations[last]) = ends;
}

/// An even spin about one axis of the body.
struct Spin {
    first: DQuat,
    /// Axis times angle of one step.
    step: DVec3,
}

impl Spin {
    /// From the first rotation on, as fast as a run turns on average, about its own axes.
    fn of(rotations: &[DQuat]) -> Spin {
        let turns = rotations.windows(2).map(|w| shorter_turn(w[0].conjugate() * w[1]));
        let whole: DVec3 = turns.sum();
        Spin { first: rotations[0], step: whole / (rotations.len() - 1) as f64 }
    }

    fn at(&self, i: usize) -> DQuat {
        self.first * DQuat::from_scaled_axis(self.step * i as f64)
    }
}

/// Smooths rotations that do not spin all the time.
fn smooth_near_ones(rotations: &mut [DQuat], kernel: Kernel) {
    match kernel {
        Kernel::Gaussian { sigma } => {
            let stages = stages(rotations, sigma);
            averaged(rotations, Kernel::Gaussian { sigma: sigma / (stages as f64).sqrt() }, stages);
        }
        Kernel::Binomial { passes } => {
            let stages = stages(rotations, (f64::from(passes) / 2.0).sqrt()).min(passes.max(1) as usize);
            let (each, more) = (passes / stages as u32, passes as usize % stages);
            averaged(rotations, Kernel::Binomial { passes: each }, stages - more);
            averaged(rotations, Kernel::Binomial { passes: each + 1 }, more);
        }
        // A course so calm that the filter itself would leave it as it is.
        Kernel::LowPass { cut } => beside_a_calm_course(rotations, kernel, 1.0 / cut),
        Kernel::Polynomial { half, .. } => beside_a_calm_course(rotations, kernel, half as f64),
    }
}

/// How many stages keep the turn under each bell small.
fn stages(rotations: &[DQuat], sigma: f64) -> usize {
    let fastest = rotations.windows(2).map(|w| half_angle(w[0], w[1])).fold(0.0, f64::max);
    (sigma * fastest / MOST_TURN).powi(2).ceil().clamp(1.0, MOST_STAGES) as usize
}

/// Half the angle between two rotations, radians.
fn half_angle(a: DQuat, b: DQuat) -> f64 {
    let between = a.conjugate() * b;
    between.xyz().length().atan2(between.w.abs())
}

fn averaged(rotations: &mut [DQuat], kernel: Kernel, stages: usize) {
    let last = rotations.len() - 1;
    let ends = (rotations[0], rotations[last]);
    let smoother = Smoother::new(rotations.len(), kernel);
    for _ in 0..stages {
        let mut before = rotations[0];
        let near = rotations.iter().map(|q| {
            before = if before.dot(*q) < 0.0 { -*q } else { *q };
            before.to_array()
        });
        let mut columns: [Vec<f64>; 4] = transposed(near);
        smoother.smooth(&mut columns);
        for (i, q) in rotations.iter_mut().enumerate() {
            *q = DQuat::from_array(std::array::from_fn(|k| columns[k][i])).normalize();
        }
    }
    (rotations[0], rotations[last]) = ends;
}

fn beside_a_calm_course(rotations: &mut [DQuat], kernel: Kernel, sigma: f64) {
    let ends = (rotations[0], rotations[rotations.len() - 1]);
    let mut course = rotations.to_vec();
    smooth_rotations(&mut course, Kernel::Gaussian { sigma });
    let away = |(calm, q): (&DQuat, &DQuat)| shorter_turn(calm.conjugate() * *q).to_array();
    let mut columns: [Vec<f64>; 3] = transposed(course.iter().zip(&*rotations).map(away));
    let smoother = Smoother::new(rotations.len(), kernel);
    smoother.smooth(&mut columns);
    for (i, (q, calm)) in rotations.iter_mut().zip(course).enumerate() {
        let away = DVec3::from_array(std::array::from_fn(|k| columns[k][i]));
        *q = (calm * DQuat::from_scaled_axis(away)).normalize();
    }
    let last = rotations.len() - 1;
    (rotations[0], rotations[last]) = ends;
}

/// Rows as columns.
fn transposed<const N: usize>(rows: impl Iterator<Item = [f64; N]>) -> [Vec<f64>; N] {
    let mut columns = [(); N].map(|()| Vec::with_capacity(rows.size_hint().0));
    for row in rows {
        columns.iter_mut().zip(row).for_each(|(column, v)| column.push(v));
    }
    columns
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::f64::consts::TAU;

    /// Seconds at 120 samples each, turning so many degrees a second about a slanted axis.
    fn spin(seconds: usize, deg_s: f64) -> Vec<DQuat> {
        let axis = DVec3::new(0.48, 0.6, 0.64);
        (0..=120 * seconds)
            .map(|i| DQuat::from_axis_angle(axis, (deg_s * i as f64 / 120.0).to_radians()))
            .collect()
    }

    fn off(a: &[DQuat], b: &[DQuat]) -> f64 {
        let angle = |(a, b): (&DQuat, &DQuat)| shorter_turn(a.conjugate() * *b).length().to_degrees();
        a.iter().zip(b).map(angle).fold(0.0, f64::max)
    }

    const KERNELS: [Kernel; 5] = [
        Kernel::Gaussian { sigma: 120.0 },
        Kernel::Gaussian { sigma: 1200.0 },
        Kernel::Binomial { passes: 400 },
        Kernel::LowPass { cut: 0.05 / 120.0 },
        Kernel::Polynomial { half: 240, degree: 3 },
    ];

    #[test]
    fn a_steady_spin_stays_as_it_is_under_any_kernel_however_wide() {
        for kernel in KERNELS {
            for deg_s in [20.0, 90.0, 400.0, -720.0] {
                let steady = spin(20, deg_s);
                let mut smooth = steady.clone();
                smooth_rotations(&mut smooth, kernel);
                assert!(off(&steady, &smooth) < 1e-6, "{kernel:?}, {deg_s}°/s: {}°", off(&steady, &smooth));
            }
        }
    }

    /// A spin with a tremor on it: the tremor goes, the spin stays, and nowhere does it turn backwards.
    #[test]
    fn what_trembles_on_a_spin_is_smoothed_and_nothing_turns_backwards() {
        let steady = spin(20, 90.0);
        let shaken: Vec<DQuat> = steady
            .iter()
            .enumerate()
            .map(|(i, q)| *q * DQuat::from_rotation_x(0.02 * (TAU * 4.0 * i as f64 / 120.0).sin()))
            .collect();
        for kernel in [Kernel::Gaussian { sigma: 60.0 }, Kernel::LowPass { cut: 0.5 / 120.0 }] {
            let mut smooth = shaken.clone();
            smooth_rotations(&mut smooth, kernel);
            let inner = 120..shaken.len() - 120;
            assert!(off(&smooth[inner.clone()], &steady[inner]) < 0.02, "{kernel:?}");
            let along = DVec3::new(0.48, 0.6, 0.64);
            let back = smooth.windows(2).filter(|w| shorter_turn(w[0].conjugate() * w[1]).dot(along) <= 0.0);
            assert_eq!(back.count(), 0, "{kernel:?}");
        }
    }
}
