//! Which instant of a motion is seen when: retiming. Maps are put together, not frames, so that several
//! in a row read what was recorded only once.

use crate::axis::AxisGroup;
use crate::curve::slope::{cubic, smooth};
use crate::motion::{Context, Motion};
use crate::samples::Samples;

/// Longest motion, seconds.
pub const LONGEST_S: f64 = 3600.0;

/// For each instant of what comes out, the instant of what goes in.
pub struct TimeMap {
    begins_s: f64,
    length_s: f64,
    source: Box<dyn Fn(f64) -> f64>,
}

impl TimeMap {
    /// A map whose result is so long. It is only asked between 0 and its length.
    pub fn new(length_s: f64, source: impl Fn(f64) -> f64 + 'static) -> TimeMap {
        TimeMap { begins_s: 0.0, length_s: length_s.clamp(0.0, LONGEST_S), source: Box::new(source) }
    }

    /// Everything when it was.
    pub fn same(length_s: f64) -> TimeMap {
        TimeMap::new(length_s, |t| t)
    }

    /// It shows nothing before a time of what comes out.
    pub fn beginning(self, begins_s: f64) -> TimeMap {
        TimeMap { begins_s, ..self }
    }

    /// The instant of what goes in that is seen at one of what comes out, seconds.
    pub fn at(&self, time_s: f64) -> f64 {
        (self.source)(time_s)
    }

    /// This one, and after it another one: of what this one shows, by when that begins and how long it
    /// is. Before it begins everything stays when it was.
    pub fn then(self, next: impl FnOnce(f64, f64) -> TimeMap) -> TimeMap {
        let begins = self.begins_s;
        let next = next(begins, self.length_s - begins);
        let later = move |t: f64| if t < begins { t } else { begins + (next.source)(t - begins) };
        TimeMap {
            begins_s: begins + next.begins_s,
            length_s: begins + next.length_s,
            source: Box::new(move |t| (self.source)(later(t))),
        }
    }

    /// A motion as it is seen through the map. Where a sample is met, it is that sample to the bit;
    /// between samples axes go along monotone cubics, and never across a cut. What carries a machine,
    /// and whom it looks at, go on as the scene does.
    pub fn apply(&self, motion: &Motion, context: &Context) -> Motion {
        let samples = &motion.samples;
        let (rate_hz, width, count) = (samples.rate_hz(), samples.width(), samples.len());
        let length_s = samples.duration_s();
        let out = (self.length_s * rate_hz + 1e-9).floor() as usize + 1;
        let led = context.rig.rotation().is_some();
        // A device leads its camera: what it did is retimed with it.
        let scenic = |i: usize| !led && context.axes()[i].group == AxisGroup::Carrier;
        let carried: Vec<usize> = (0..width).filter(|i| scenic(*i)).collect();
        let stretches = motion.stretches();
        let within = |i: usize| stretches.iter().position(|s| s.contains(&i));
        let mut values = Vec::with_capacity(out * width);
        let mut row = Vec::with_capacity(width);
        let source = |k: usize| self.at(k as f64 / rate_hz).clamp(0.0, length_s);
        for k in 0..out {
            let place = source(k) * rate_hz;
            let near = place.round();
            let i = place.floor() as usize;
            if (place - near).abs() < 1e-9 || i + 1 >= count {
                row.clear();
                row.extend_from_slice(samples.row((near as usize).min(count - 1)));
            } else if within(i) != within(i + 1) {
                motion.at(place / rate_hz, &mut row);
            } else {
                let stretch = &stretches[within(i).expect("every sample lies in a stretch")];
                between(samples, i, place.fract(), stretch.start..stretch.end, &mut row);
            }
            let then = k.min(count - 1);
            carried.iter().for_each(|axis| row[*axis] = samples.row(then)[*axis]);
            values.extend_from_slice(&row);
        }
        let cuts = self.cuts(motion, out, &source);
        Motion { cuts, begins_s: self.begins_s, ..Motion::plain(Samples::new(rate_hz, width, values)) }
    }

    /// The instants at which a cut of what goes in is passed, in either direction.
    fn cuts(&self, motion: &Motion, out: usize, source: &dyn Fn(usize) -> f64) -> Vec<f64> {
        let rate_hz = motion.samples.rate_hz();
        let length_s = motion.samples.duration_s();
        let mut cuts = Vec::new();
        for k in 1..if motion.cuts.is_empty() { 0 } else { out } {
            let (a, b) = (source(k - 1), source(k));
            for cut in &motion.cuts {
                if (a < *cut) == (b < *cut) {
                    continue;
                }
                let (mut low, mut high) = ((k - 1) as f64 / rate_hz, k as f64 / rate_hz);
                for _ in 0..40 {
                    let middle = (low + high) / 2.0;
                    let before = self.at(middle).clamp(0.0, length_s) < *cut;
                    if before == (a < *cut) { low = middle } else { high = middle }
                }
                cuts.push(high);
            }
        }
        cuts
    }
}

/// A row between a sample and the next one.
fn between(samples: &Samples, i: usize, u: f64, stretch: std::ops::Range<usize>, row: &mut Vec<f64>) {
    let at = |i: usize, axis: usize| samples.row(i)[axis];
    row.clear();
    for axis in 0..samples.width() {
        let (a, b) = (at(i, axis), at(i + 1, axis));
        let d = b - a;
        let before = if i > stretch.start { a - at(i - 1, axis) } else { d };
        let after = if i + 2 < stretch.end { at(i + 2, axis) - b } else { d };
        row.push(cubic(a, d, smooth((1.0, before), (1.0, d)), smooth((1.0, d), (1.0, after)), u)[0]);
    }
}
