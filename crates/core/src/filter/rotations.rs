//! Smoothing of rotations as rotations, with no preferred direction: turning the camera or the world
//! before or after gives the same, also straight up and down.
//!
//! **Method.** Bells and passes: quaternions made continuous, smoothed as four columns and brought
//! back to length one, which is the projected mean of Markley, Cheng, Crassidis, Oshman, "Averaging
//! quaternions", J. Guidance, Control and Dynamics 30(4), 2007 (from memory). It is good where what
//! lies under the bell is near; a quick spin is smoothed in stages, each a narrower bell, whose
//! variances add up to the one that is asked for. Low pass and polynomial, which overshoot: the same
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
