//! Where one axis stands still in the middle of the move, while others may go on.

use super::dead_stops::{HALF_WINDOW_S, STILL_DEG, STILL_M, holds};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::filter::{Kernel, Smoother};

/// The shortest stop.
pub const STOP_S: f64 = 2.0 * HALF_WINDOW_S;
/// Noise is taken away with a bell so wide before stops are looked for.
const BELL_S: f64 = 0.1;

/// What of an axis is so near that it stands still, if it stays there for [`STOP_S`]; none for one whose
/// stops are no dead ones.
pub fn stillness(axis: &Axis) -> Option<f64> {
    match (axis.group, axis.unit) {
        (AxisGroup::Machine | AxisGroup::Head, Unit::Metres) => Some(STILL_M),
        (AxisGroup::Machine | AxisGroup::Head, Unit::Radians) => Some(STILL_DEG.to_radians()),
        _ => None,
    }
}

/// The stops of an axis over a stretch without a cut, as first and last sample. Lens and carrier have none.
pub fn axis_stops(axis: &Axis, values: &[f64], rate_hz: f64) -> Vec<(usize, usize)> {
    let Some(stillness) = stillness(axis) else { return Vec::new() };
    let mut calm = vec![values.to_vec()];
    Smoother::new(values.len(), Kernel::Gaussian { sigma: BELL_S * rate_hz }).smooth(&mut calm);
    let half = (HALF_WINDOW_S * rate_hz).round() as usize;
    holds(values.len(), half, &|i, j| (calm[0][i] - calm[0][j]).abs() / stillness)
}
