//! Curves for a screen: of every axis the least and the greatest value that falls on each column of
//! pixels, so that a fifteen-minute take is as quick to send as a short one, and a spike of a single
//! sample is still seen.

use crate::axis::Axis;
use crate::samples::Samples;

/// The least and the greatest value on each of so many columns of equal width, in shown units.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Envelope {
    /// One a column.
    pub low: Vec<f32>,
    /// One a column.
    pub high: Vec<f32>,
}

/// How many columns `samples` take, of which no more than `most` are wanted: none stays empty.
pub fn column_count(samples: usize, most: usize) -> usize {
    samples.min(most.max(2))
}

/// Of every axis the envelope over the whole time; the first sample is on the first column, the last
/// one on the last. Angles are continuous.
pub fn envelopes(axes: &[Axis], samples: &Samples, columns: usize) -> Vec<Envelope> {
    let mut even = samples.clone();
    even.unwrap_angles(axes);
    let last = even.len().saturating_sub(1).max(1);
    let empty = Envelope { low: vec![f32::INFINITY; columns], high: vec![f32::NEG_INFINITY; columns] };
    let mut all = vec![empty; axes.len()];
    for (k, row) in even.rows().enumerate() {
        // To the nearest column, halves up.
        let column = (2 * k * columns.saturating_sub(1) + last) / (2 * last);
        for ((envelope, value), axis) in all.iter_mut().zip(row).zip(axes) {
            let shown = axis.unit.to_shown(*value) as f32;
            envelope.low[column] = envelope.low[column].min(shown);
            envelope.high[column] = envelope.high[column].max(shown);
        }
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lens::Camera;
    use crate::rigs::{RigSpec, Tripod};

    #[test]
    fn a_spike_of_one_sample_is_seen_however_many_samples_share_a_column() {
        let rig = RigSpec::Tripod(Tripod::default()).build(&Camera::default());
        let axes = rig.axes();
        let pan = axes.iter().position(|a| a.name == "pan").unwrap();
        let angle = |k: usize| if k == 3333 { 2.0 } else { (k as f64 / 900.0).sin() };
        let row = |k: usize| (0..axes.len()).map(move |i| if i == pan { angle(k) } else { 1.0 });
        let samples = Samples::new(120.0, axes.len(), (0..7201).flat_map(row).collect());
        let all = envelopes(axes, &samples, 300);
        let Envelope { low, high } = &all[pan];
        assert_eq!(high.iter().copied().fold(f32::MIN, f32::max), 2f64.to_degrees() as f32);
        assert!(low.iter().zip(high).all(|(l, h)| l <= h));
        // Every sample lies within its own column, and every bound is a sample.
        let shown: Vec<f32> = (0..7201).map(|k| angle(k).to_degrees() as f32).collect();
        for (k, v) in shown.iter().enumerate() {
            let c = (k as f64 / 7200.0 * 299.0).round() as usize;
            assert!(low[c] <= *v && *v <= high[c], "{k}");
        }
        assert!(low.iter().chain(high).all(|v| shown.contains(v)));
    }

    #[test]
    fn fewer_samples_than_columns_are_all_there() {
        let rig = RigSpec::Tripod(Tripod::default()).build(&Camera::default());
        let width = rig.axes().len();
        let samples = Samples::new(120.0, width, (0..3 * width).map(|v| v as f64).collect());
        assert_eq!([3, 7201, 1, 0].map(|n| column_count(n, 512)), [3, 512, 1, 0]);
        let all = envelopes(rig.axes(), &samples, 3);
        let metres = rig.axes().iter().position(|a| a.name == "focus").unwrap();
        let want: Vec<f32> = (0..3).map(|k| (k * width + metres) as f32).collect();
        assert_eq!((&all[metres].low, &all[metres].high), (&want, &want));
    }
}
