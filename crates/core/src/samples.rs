//! Samples: the axes of a rig, evenly in time.

use crate::axis::{Axis, Unit};
use crate::space::{PanTiltRoll, unwrap};
use glam::DQuat;
use std::ops::Range;
use std::sync::Arc;

/// Evenly timed values of a number of axes, one row a sample. Copies share the values until one of them is changed.
#[derive(Clone, Debug, PartialEq)]
pub struct Samples {
    rate_hz: f64,
    width: usize,
    values: Arc<Vec<f64>>,
}

impl Samples {
    /// Rows of `width` values, `rate_hz` of them a second.
    ///
    /// # Panics
    /// If the values do not fill whole rows.
    pub fn new(rate_hz: f64, width: usize, values: Vec<f64>) -> Samples {
        assert!(
            width > 0 && values.len().is_multiple_of(width),
            "{} values in rows of {width}",
            values.len()
        );
        Samples { rate_hz, width, values: Arc::new(values) }
    }

    /// Samples a second.
    pub fn rate_hz(&self) -> f64 {
        self.rate_hz
    }

    /// Number of values per row.
    pub fn width(&self) -> usize {
        self.width
    }

    /// Number of rows of samples.
    pub fn len(&self) -> usize {
        self.values.len() / self.width
    }

    /// True without rows.
    pub fn is_empty(&self) -> bool {
        self.values.is_empty()
    }

    /// Seconds from the first row to the last.
    pub fn duration_s(&self) -> f64 {
        self.len().saturating_sub(1) as f64 / self.rate_hz
    }

    /// Row of values at an index.
    pub fn row(&self, i: usize) -> &[f64] {
        &self.values[i * self.width..(i + 1) * self.width]
    }

    /// All rows in order.
    pub fn rows(&self) -> impl ExactSizeIterator<Item = &[f64]> {
        self.values.chunks_exact(self.width)
    }

    /// All values, row after row.
    pub fn values(&self) -> &[f64] {
        &self.values
    }

    /// Some of the rows.
    pub fn part(&self, rows: Range<usize>) -> Samples {
        let values = self.values[rows.start * self.width..rows.end * self.width].to_vec();
        Samples { values: Arc::new(values), ..*self }
    }

    /// Samples with `rows` rows at least; new rows are filled with a value.
    pub fn extended(mut self, rows: usize, with: f64) -> Samples {
        let values = rows * self.width;
        if values > self.values.len() {
            Arc::make_mut(&mut self.values).resize(values, with);
        }
        self
    }

    /// With nothing in the first rows.
    pub fn from_row(mut self, first: usize) -> Samples {
        let end = (first * self.width).min(self.values.len());
        Arc::make_mut(&mut self.values)[..end].fill(f64::NAN);
        self
    }

    /// The rows of a window of time, one before it and one after it, as far as there are any.
    pub fn window(&self, from_s: f64, to_s: f64) -> Range<usize> {
        let last = self.len().saturating_sub(1);
        // What is no time is the start.
        let first = ((from_s * self.rate_hz).floor().max(0.0) as usize).min(last);
        let end = ((to_s * self.rate_hz).ceil().max(0.0) as usize).clamp(first, last);
        first..(end + 1).min(self.len())
    }

    /// One axis over time.
    pub fn column(&self, axis: usize) -> Vec<f64> {
        self.values.iter().skip(axis).step_by(self.width).copied().collect()
    }

    /// Puts an axis' values in place.
    pub fn set_column(&mut self, axis: usize, column: &[f64]) {
        for (row, value) in Arc::make_mut(&mut self.values).chunks_exact_mut(self.width).zip(column) {
            row[axis] = *value;
        }
    }

    /// Puts one value in place.
    pub fn set(&mut self, row: usize, axis: usize, value: f64) {
        Arc::make_mut(&mut self.values)[row * self.width + axis] = value;
    }

    /// Pan, tilt and roll of a row as the rotation that they are.
    pub fn rotation(&self, row: usize, [pan, tilt, roll]: [usize; 3]) -> DQuat {
        let row = self.row(row);
        PanTiltRoll { pan: row[pan], tilt: row[tilt], roll: row[roll] }.to_rotation()
    }

    /// Rotations of all rows.
    pub fn rotations(&self, axes: [usize; 3]) -> Vec<DQuat> {
        (0..self.len()).map(|row| self.rotation(row, axes)).collect()
    }

    /// Puts rotations in place, written by the angles nearest to those that stood there.
    pub fn set_rotations(&mut self, axes: [usize; 3], rotations: &[DQuat]) {
        for (row, rotation) in rotations.iter().enumerate() {
            self.set_rotation(row, axes, *rotation);
        }
    }

    /// Puts one rotation in place, written by the angles nearest to those that stood there.
    pub fn set_rotation(&mut self, row: usize, [pan, tilt, roll]: [usize; 3], rotation: DQuat) {
        let row = &mut Arc::make_mut(&mut self.values)[row * self.width..(row + 1) * self.width];
        let stood = PanTiltRoll { pan: row[pan], tilt: row[tilt], roll: row[roll] };
        let angles = PanTiltRoll::from_rotation(rotation).near(stood);
        (row[pan], row[tilt], row[roll]) = (angles.pan, angles.tilt, angles.roll);
    }

    /// The row at a time, straight between its neighbours, the ends held outside.
    pub fn at(&self, time_s: f64, row: &mut Vec<f64>) {
        row.clear();
        let last = self.len() - 1;
        let place = (time_s * self.rate_hz).clamp(0.0, last as f64);
        // A time that means a sample gets that sample, not its neighbours by 1e-13.
        let nearest = place.round();
        if (place - nearest).abs() < 1e-9 {
            row.extend_from_slice(self.row(nearest as usize));
            return;
        }
        let i = place as usize;
        let share = place - i as f64;
        row.extend(self.row(i).iter().zip(self.row(i + 1)).map(|(a, b)| a + (b - a) * share));
    }

    /// Makes the angles among `axes` continuous.
    pub fn unwrap_angles(&mut self, axes: &[Axis]) {
        for (i, _) in axes.iter().enumerate().filter(|(_, a)| a.unit == Unit::Radians) {
            let stood = self.column(i);
            let mut column = stood.clone();
            unwrap(&mut column);
            if column != stood {
                self.set_column(i, &column);
            }
        }
    }

    /// True if both have the very same values, in the same memory.
    pub fn shares(&self, other: &Samples) -> bool {
        Arc::ptr_eq(&self.values, &other.values)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_window_holds_what_is_in_it_and_one_row_to_each_side() {
        let samples = Samples::new(10.0, 2, (0..202).map(f64::from).collect());
        assert_eq!(samples.window(2.05, 4.95), 20..51);
        assert_eq!(samples.window(2.0, 5.0), 20..51);
        assert_eq!(samples.window(-3.0, 99.0), 0..101);
        assert_eq!(samples.window(50.0, 60.0), 100..101);
        assert_eq!(samples.window(f64::NAN, f64::NAN).len(), 1);
        let part = samples.part(20..51);
        assert_eq!((part.len(), part.row(0), part.rate_hz()), (31, samples.row(20), 10.0));
        assert_eq!(Samples::new(10.0, 2, vec![]).window(0.0, 1.0), 0..0);
    }
}
