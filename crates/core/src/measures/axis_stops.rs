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
    stops_of_axes(&[(axis, values)], rate_hz).remove(0)
}

/// The stops of several axes over one stretch: quicker than one by one.
pub fn stops_of_axes(axes: &[(&Axis, &[f64])], rate_hz: f64) -> Vec<Vec<(usize, usize)>> {
    let count = axes.first().map_or(0, |(_, values)| values.len());
    let standing = axes.iter().filter(|(axis, _)| stillness(axis).is_some());
    let mut calm: Vec<Vec<f64>> = standing.map(|(_, values)| values.to_vec()).collect();
    Smoother::new(count, Kernel::Gaussian { sigma: BELL_S * rate_hz }).smooth(&mut calm);
    let half = (HALF_WINDOW_S * rate_hz).round() as usize;
    let mut calm = calm.into_iter();
    let stops = |(axis, _): &(&Axis, &[f64])| {
        let Some(stillness) = stillness(axis) else { return Vec::new() };
        let calm = calm.next().expect("one for each axis that has a stillness");
        holds(count, half, &|i, j| (calm[i] - calm[j]).abs() / stillness)
    };
    axes.iter().map(stops).collect()
}
