//! Chance that is the same for the same seed.

use rand::Rng;
use std::f64::consts::TAU;

/// Two independent numbers, each with a normal distribution of deviation 1 (Box & Muller, 1958).
pub fn normal_pair(dice: &mut impl Rng) -> (f64, f64) {
    let (a, b): (f64, f64) = (1.0 - dice.random::<f64>(), dice.random());
    let (sine, cosine) = (TAU * b).sin_cos();
    let length = (-2.0 * a.ln()).sqrt();
    (length * cosine, length * sine)
}
