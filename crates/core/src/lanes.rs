//! Curves for a screen: the axes, and what follows from them. Of every curve the least and the greatest
//! value that falls on each column of pixels, so that a fifteen-minute take is as quick to send as a
//! short one, and a spike of a single sample is still seen.

use crate::axis::Axis;
use crate::measures::{SPEED_OVER_S, shake_by_second};
use crate::motion::Motion;
use crate::rigs::Rig;
use crate::samples::Samples;
use crate::space::Pose;
use crate::track::{Track, TrackPoint};
use glam::DVec3;
use serde::Serialize;
use ts_rs::TS;

/// Content of the curves.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum CurvesOf {
    /// Axes of the machine.
    #[default]
    Axes,
    /// Camera: place and rotation that follow from the axes.
    Camera,
    /// How fast the camera goes and turns, as means over a frame of film.
    Speed,
    /// Shake over the second around each instant.
    Shake,
    /// Distance from the subject; no value without a subject.
    Distance,
}

/// A curve that follows from the axes.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, TS)]
pub struct LaneKind {
    /// Beside its curve.
    pub name: &'static str,
    /// Unit of the values.
    pub unit: &'static str,
    /// The ink it is drawn in, by the name of the axis that has it in the palette.
    pub ink: &'static str,
    /// Least range of the lane, so that a still axis looks still.
    pub least: f64,
    /// Never less than nothing: shown from zero on.
    pub from_zero: bool,
}

impl CurvesOf {
    /// All of them by name, in the order in which they are offered.
    pub const ALL: [(&'static str, CurvesOf); 5] = [
        ("axes", CurvesOf::Axes),
        ("camera", CurvesOf::Camera),
        ("speed", CurvesOf::Speed),
        ("shake", CurvesOf::Shake),
        ("distance", CurvesOf::Distance),
    ];

    /// Its curves; of axes the machine says.
    pub fn lanes(self) -> &'static [LaneKind] {
        const fn lane(name: &'static str, unit: &'static str, ink: &'static str, least: f64) -> LaneKind {
            LaneKind { name, unit, ink, least, from_zero: false }
        }
        /// Lane for an amount that is never below 0.
        const fn amount(name: &'static str, unit: &'static str, ink: &'static str, least: f64) -> LaneKind {
            LaneKind { from_zero: true, ..lane(name, unit, ink, least) }
        }
        match self {
            CurvesOf::Axes => &[],
            CurvesOf::Camera => {
                const CAMERA: [LaneKind; 6] = [
                    lane("camera x", "m", "travel", 0.2),
                    lane("camera y", "m", "height", 0.2),
                    lane("camera z", "m", "reach", 0.2),
                    lane("camera pan", "°", "pan", 2.0),
                    lane("camera tilt", "°", "tilt", 2.0),
                    lane("camera roll", "°", "roll", 2.0),
                ];
                &CAMERA
            }
            CurvesOf::Speed => {
                const SPEED: [LaneKind; 3] = [
                    amount("speed", "m/s", "travel", 0.1),
                    amount("acceleration", "m/s²", "reach", 0.2),
                    amount("turning", "°/s", "pan", 2.0),
                ];
                &SPEED
            }
            CurvesOf::Shake => {
                const SHAKE: [LaneKind; 2] = [
                    amount("shake, position", "cm", "height", 0.2),
                    amount("shake, rotation", "°", "tilt", 0.2),
                ];
                &SHAKE
            }
            CurvesOf::Distance => {
                const DISTANCE: [LaneKind; 1] = [amount("distance", "m", "focus", 0.5)];
                &DISTANCE
            }
        }
    }

    /// The curves of a motion, in shown units, at its own samples. `eyes` says where the eyes of whom it is
    /// about are at a time.
    pub fn curves(self, motion: &Motion, rig: &dyn Rig, eyes: &dyn Fn(f64) -> Option<DVec3>) -> Samples {
        let track = || motion.track(rig);
        let values = match self {
            CurvesOf::Axes => return shown(rig.axes(), &motion.samples),
            CurvesOf::Camera => {
                let row = |p: &TrackPoint| {
                    let ([x, y, z], a) = (p.position.to_array(), p.angles);
                    [x, y, z, a.pan.to_degrees(), a.tilt.to_degrees(), a.roll.to_degrees()]
                };
                track().points.iter().flat_map(row).collect()
            }
            CurvesOf::Speed => speeds(&track(), motion),
            CurvesOf::Shake => shake_by_second(&track(), &motion.cuts).into_iter().flatten().collect(),
            CurvesOf::Distance => {
                let far = |p: &TrackPoint| eyes(p.time_s).map_or(f64::NAN, |eyes| eyes.distance(p.position));
                track().points.iter().map(far).collect()
            }
        };
        Samples::new(motion.samples.rate_hz(), self.lanes().len(), values)
    }
}

/// Speed, acceleration and turning at each sample, over a frame of film around it.
fn speeds(track: &Track, motion: &Motion) -> Vec<f64> {
    let rate_hz = motion.samples.rate_hz();
    let half = ((SPEED_OVER_S * rate_hz / 2.0).round() as usize).max(1);
    let mut values = Vec::with_capacity(3 * track.points.len());
    for stretch in motion.stretches() {
        let poses: Vec<Pose> = track.points[stretch].iter().map(|p| p.pose()).collect();
        let around = |i: usize| (i.saturating_sub(half), (i + half).min(poses.len() - 1));
        let seconds = |(a, b): (usize, usize)| (b - a).max(1) as f64 / rate_hz;
        let velocity = |i: usize| {
            let (a, b) = around(i);
            (poses[b].position - poses[a].position) / seconds((a, b))
        };
        for i in 0..poses.len() {
            let (a, b) = around(i);
            let push = (velocity(b) - velocity(a)).length() / seconds((a, b));
            let turning = poses[a].angle_to(poses[b]).to_degrees() / seconds((a, b));
            values.extend([velocity(i).length(), push, turning]);
        }
    }
    values
}

/// Axes in the units they are shown in, angles continuous.
pub fn shown(axes: &[Axis], samples: &Samples) -> Samples {
    let mut even = samples.clone();
    even.unwrap_angles(axes);
    let values = even.rows().flat_map(|row| row.iter().zip(axes).map(|(v, axis)| axis.unit.to_shown(*v)));
    Samples::new(samples.rate_hz(), axes.len(), values.collect())
}

/// The least and the greatest value on each of so many columns of equal width, in shown units.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Envelope {
    /// Least value in each column.
    pub low: Vec<f32>,
    /// Greatest value in each column.
    pub high: Vec<f32>,
}

/// Number of columns for `samples`, at most `most`: no column stays empty.
pub fn column_count(samples: usize, most: usize) -> usize {
    samples.min(most.max(2))
}

/// Of every curve the envelope over the whole time; the first sample is on the first column, the last
/// one on the last.
pub fn envelopes(curves: &Samples, columns: usize) -> Vec<Envelope> {
    let last = curves.len().saturating_sub(1).max(1);
    let empty = Envelope { low: vec![f32::INFINITY; columns], high: vec![f32::NEG_INFINITY; columns] };
    let mut all = vec![empty; curves.width()];
    for (k, row) in curves.rows().enumerate() {
        // To the nearest column, halves up.
        let column = (2 * k * columns.saturating_sub(1) + last) / (2 * last);
        for (envelope, value) in all.iter_mut().zip(row) {
            envelope.low[column] = envelope.low[column].min(*value as f32);
            envelope.high[column] = envelope.high[column].max(*value as f32);
        }
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lens::Camera;
    use crate::rigs::{FreeCamera, RigSpec, Tripod};

    #[test]
    fn a_spike_of_one_sample_is_seen_however_many_samples_share_a_column() {
        let rig = RigSpec::Tripod(Tripod::default()).build(&Camera::default());
        let axes = rig.axes();
        let pan = axes.iter().position(|a| a.name == "pan").unwrap();
        let angle = |k: usize| if k == 3333 { 2.0 } else { (k as f64 / 900.0).sin() };
        let row = |k: usize| (0..axes.len()).map(move |i| if i == pan { angle(k) } else { 1.0 });
        let samples = Samples::new(120.0, axes.len(), (0..7201).flat_map(row).collect());
        let all = envelopes(&shown(axes, &samples), 300);
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

    /// A camera in the air on a circle of 2 m, a turn within 8 s, looking along its way, that jumps.
    #[test]
    fn what_follows_from_the_axes_is_what_it_is() {
        let rig = RigSpec::FreeCamera(FreeCamera::default()).build(&Camera::default());
        let turn = std::f64::consts::TAU / 8.0;
        let row = |k: usize| {
            let angle = turn * k as f64 / 120.0;
            let far = if k < 480 { 0.0 } else { 50.0 };
            [far + 2.0 * angle.sin(), 1.5, -2.0 * angle.cos(), angle, 0.1, 0.0, 35.0, 5.0, 4.0]
        };
        let samples = Samples::new(120.0, 9, (0..=960).flat_map(row).collect());
        let motion = Motion { cuts: vec![4.0], ..Motion::of(samples, rig.axes()) };
        let nobody = |_: f64| None;
        let camera = CurvesOf::Camera.curves(&motion, &*rig, &nobody);
        let pan = camera.column(3);
        assert!((pan[960] - 360.0).abs() < 1e-9 && (camera.row(480)[0] - 50.0).abs() < 1e-9, "{}", pan[960]);
        let speed = CurvesOf::Speed.curves(&motion, &*rig, &nobody);
        let close = |got: f64, want: f64| (got - want).abs() < 0.01 * want;
        for k in [100, 476, 484, 900] {
            let [v, a, w] = speed.row(k) else { panic!("three of them") };
            assert!(close(*v, 2.0 * turn) && close(*w, turn.to_degrees()), "{v} {w} at {k}");
            assert!(close(*a, 2.0 * turn * turn) || (470..490).contains(&k), "{a} at {k}");
        }
        assert!(speed.column(0).iter().all(|v| *v < 2.0), "nothing is read across the jump");
        let shake = CurvesOf::Shake.curves(&motion, &*rig, &nobody);
        assert!(
            shake.len() == 961 && shake.values().iter().all(|v| v.is_nan() || *v < 0.3),
            "a clean circle"
        );
        let stands = |_: f64| Some(DVec3::new(50.0, 1.5, 0.0));
        let distance = CurvesOf::Distance.curves(&motion, &*rig, &stands);
        assert!(
            distance.column(0)[480..].iter().all(|d| (d - 2.0).abs() < 1e-9),
            "in the middle of the circle"
        );
        for (name, of) in CurvesOf::ALL {
            let width = of.curves(&motion, &*rig, &nobody).width();
            assert_eq!(width, if of == CurvesOf::Axes { 9 } else { of.lanes().len() }, "{name}");
        }
    }

    #[test]
    fn fewer_samples_than_columns_are_all_there() {
        let rig = RigSpec::Tripod(Tripod::default()).build(&Camera::default());
        let width = rig.axes().len();
        let samples = Samples::new(120.0, width, (0..3 * width).map(|v| v as f64).collect());
        assert_eq!([3, 7201, 1, 0].map(|n| column_count(n, 512)), [3, 512, 1, 0]);
        let all = envelopes(&shown(rig.axes(), &samples), 3);
        let metres = rig.axes().iter().position(|a| a.name == "focus").unwrap();
        let want: Vec<f32> = (0..3).map(|k| (k * width + metres) as f32).collect();
        assert_eq!((&all[metres].low, &all[metres].high), (&want, &want));
    }
}
