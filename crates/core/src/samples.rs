//! What was recorded: the axes of a rig, sampled evenly in time.

use crate::axis::{Axis, Unit};
use crate::space::unwrap;

/// Evenly timed values of a number of axes, one row a sample.
#[derive(Clone, Debug, PartialEq)]
pub struct Samples {
    rate_hz: f64,
    width: usize,
    values: Vec<f64>,
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
        Samples { rate_hz, width, values }
    }

    /// Samples a second.
    pub fn rate_hz(&self) -> f64 {
        self.rate_hz
    }

    /// Values in a row.
    pub fn width(&self) -> usize {
        self.width
    }

    /// How many rows.
    pub fn len(&self) -> usize {
        self.values.len() / self.width
    }

    /// Whether there is no row.
    pub fn is_empty(&self) -> bool {
        self.values.is_empty()
    }

    /// Seconds from the first row to the last.
    pub fn duration_s(&self) -> f64 {
        self.len().saturating_sub(1) as f64 / self.rate_hz
    }

    /// One row.
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

    /// One axis over time.
    pub fn column(&self, axis: usize) -> Vec<f64> {
        self.values.iter().skip(axis).step_by(self.width).copied().collect()
    }

    /// Puts an axis' values in place.
    pub fn set_column(&mut self, axis: usize, column: &[f64]) {
        for (row, value) in self.values.chunks_exact_mut(self.width).zip(column) {
            row[axis] = *value;
        }
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
            let mut column = self.column(i);
            unwrap(&mut column);
            self.set_column(i, &column);
        }
    }
}
