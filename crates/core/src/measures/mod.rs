//! Figures that say whether a move got better.
//!
//! | figure | what it is |
//! |---|---|
//! | shake | how far the camera is from its own calm course, faster than 1 to 1.5 Hz and back again: of the position (cm) and of where it looks (degrees, the same however it is mounted), over all and in the worst second; see [`Wobble`](shake) |
//! | departure | largest distance from the raw take, cm, and largest angle between orientations, degrees |
//! | lost | how long whom the move is about is outside the picture; see [`lost`](lost()) |
//! | covered | how long something stands between the lens and them; see [`covered_times`] |
//! | dead stops | where the camera stands still within its move; see [`DeadStop`] |
//! | spectral arc length, log dimensionless jerk | published figures of smoothness, and what they cannot say: [`spectral_arc_length`] |
//! | relative pose error | how differently two tracks move from point to point, RMS |
//! | top speeds | largest mean speed over [`SPEED_OVER_S`], at any sample rate |
//!
//! Nothing is measured across a jump. [`strip`] says what became of them; [`marks`] where in the curves
//! of single axes something is worth a look.

mod axis_stops;
mod dead_stops;
mod departure;
mod lost;
mod marks;
mod run;
mod shake;
mod smoothness;
mod strip;

pub use axis_stops::{STOP_S, axis_stops, stillness, stops_of_axes};
pub use dead_stops::DeadStop;
pub use departure::{Departure, departure, relative_pose_error};
pub use lost::{Before, Lost, Unseen, covered_times, lost, lost_times, mainly, together_s};
pub(crate) use marks::{AS_FAST, speeds};
pub use marks::{Mark, MarkKind, marks};
pub use shake::ShakeFigure;
pub use smoothness::{log_dimensionless_jerk, spectral_arc_length};
pub use strip::{AxisTop, Figure, Verdict, axis_tops, strip};

use crate::space::{PanTiltRoll, Pose};
use crate::track::Track;
use run::Run;
use serde::Serialize;
use shake::{Counts, Wobble};
use smoothness::SpectralArc;
use ts_rs::TS;

/// Speeds are means over so long, a frame of film: seconds.
pub const SPEED_OVER_S: f64 = 1.0 / 24.0;
/// The figures of one track. A figure is missing where the track is too short to have it.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Metrics {
    /// Points measured.
    pub samples: usize,
    /// Points a second.
    pub rate_hz: f64,
    /// First to last point.
    pub duration_s: f64,
    /// Length of the path through all points.
    pub path_length_m: f64,
    /// Shake of the position; missing under 2 s, and where there are too few points a second.
    pub shake_position_cm: Option<ShakeFigure>,
    /// Shake of the rotation, degrees.
    pub shake_rotation_deg: Option<ShakeFigure>,
    /// Spectral arc length of the speed along the path.
    pub spectral_arc_position: Option<f64>,
    /// Spectral arc length of the turning speed.
    pub spectral_arc_rotation: Option<f64>,
    /// Log dimensionless jerk of the speed along the path, under a bell of 0.1 s.
    pub log_jerk_position: Option<f64>,
    /// Log dimensionless jerk of the turning speed, under a bell of 0.1 s.
    pub log_jerk_rotation: Option<f64>,
    /// Top speed along the path, m/s.
    pub top_speed_m_s: f64,
    /// Top turning speed about any axis, °/s.
    pub top_turn_deg_s: f64,
    /// Top speed of pan, °/s.
    pub top_pan_deg_s: f64,
    /// Top speed of tilt, °/s.
    pub top_tilt_deg_s: f64,
    /// Top speed of roll, °/s.
    pub top_roll_deg_s: f64,
    /// Dead stops, in order of time.
    pub dead_stops: Vec<DeadStop>,
    /// The longest of them; 0 without one.
    pub longest_dead_stop_s: f64,
}

/// Measures a track that jumps at `cuts`, seconds in order. Lengths and times of what lies between
/// jumps add up, shake is that of all of it, spectral arc and jerk are those of the longest stretch,
/// and of the rest the most counts. Points are taken as even between jumps.
pub fn figures(track: &Track, cuts: &[f64]) -> Metrics {
    let runs = runs(track, cuts);
    // Jerk and stops are measured under one bell: without it the third derivative of a sensor's noise is all
    // there is to see.
    let calm: Vec<Run> = runs.iter().map(|r| r.under_bell(dead_stops::BELL_S)).collect();
    let most = |of: &dyn Fn(&Run) -> Vec<f64>| runs.iter().flat_map(of).fold(0.0, f64::max);
    let along = |r: &Run, window_s: f64| r.speeds(window_s, |a, b| a.position.distance(b.position));
    let turning = |r: &Run, window_s: f64| r.speeds(window_s, |a, b| a.angle_to(b).to_degrees());
    let [top_pan_deg_s, top_tilt_deg_s, top_roll_deg_s] = tops_of_angles(&runs);
    let [shake_position_cm, shake_rotation_deg] = shake_of(&runs);
    let longest = (0..runs.len()).max_by_key(|i| runs[*i].poses.len());
    let speeds = longest.map(|i| &runs[i]).map(|run| [along(run, 0.0), turning(run, 0.0)]);
    let arcs = speeds.zip(longest).and_then(|(speeds, i)| {
        let arc = SpectralArc::new(speeds[0].len(), runs[i].rate_hz)?;
        Some(speeds.map(|speeds| arc.of(&speeds)))
    });
    let [spectral_arc_position, spectral_arc_rotation] = arcs.unwrap_or_default();
    let of_calm = |of: &dyn Fn(&Run) -> Option<f64>| of(&calm[longest?]);
    let dead_stops: Vec<DeadStop> =
        runs.iter().zip(&calm).flat_map(|(run, calm)| dead_stops::dead_stops(run, calm)).collect();
    Metrics {
        samples: track.points.len(),
        rate_hz: track.rate_hz(),
        duration_s: track.duration_s(),
        path_length_m: runs.iter().map(path_length).sum(),
        shake_position_cm,
        shake_rotation_deg,
        spectral_arc_position,
        spectral_arc_rotation,
        log_jerk_position: of_calm(&|r| log_dimensionless_jerk(&along(r, 0.0), r.rate_hz)),
        log_jerk_rotation: of_calm(&|r| log_dimensionless_jerk(&turning(r, 0.0), r.rate_hz)),
        top_speed_m_s: most(&|r| along(r, SPEED_OVER_S)),
        top_turn_deg_s: most(&|r| turning(r, SPEED_OVER_S)),
        top_pan_deg_s,
        top_tilt_deg_s,
        top_roll_deg_s,
        longest_dead_stop_s: dead_stops.iter().map(DeadStop::length_s).fold(0.0, f64::max),
        dead_stops,
    }
}

/// The greatest speeds of pan, tilt and roll, means over [`SPEED_OVER_S`], degrees a second.
fn tops_of_angles(runs: &[Run]) -> [f64; 3] {
    let mut tops = [0.0_f64; 3];
    for run in runs {
        let angles = |p: &Pose| {
            let PanTiltRoll { pan, tilt, roll } = PanTiltRoll::from_rotation(p.rotation);
            [pan, tilt, roll].map(f64::to_degrees)
        };
        let poses = run.over(SPEED_OVER_S);
        let (from, to): (Vec<[f64; 3]>, Vec<[f64; 3]>) = if poses.whole {
            let all: Vec<[f64; 3]> = run.poses.iter().map(angles).collect();
            let count = all.len().saturating_sub(poses.steps);
            (all[..count].to_vec(), all[all.len() - count..].to_vec())
        } else {
            poses.pairs(run).map(|(a, b)| (angles(&a), angles(&b))).unzip()
        };
        for (from, to) in from.iter().zip(&to) {
            for (top, (from, to)) in tops.iter_mut().zip(from.iter().zip(to)) {
                let step = (to - from).abs();
                *top = top.max(step.min(360.0 - step) / poses.seconds);
            }
        }
    }
    tops
}

/// Only the shake of a track that jumps at `cuts`: of position in centimetres, of rotation in degrees.
pub fn shake(track: &Track, cuts: &[f64]) -> [Option<ShakeFigure>; 2] {
    shake_of(&runs(track, cuts))
}

type WobbleOf = fn(&Run, Counts) -> Option<Wobble>;

/// Parts of shake, and the factor to the unit that is shown.
fn parts() -> [(WobbleOf, f64); 2] {
    [(Wobble::of_position, 100.0), (Wobble::of_rotation, 1f64.to_degrees())]
}

fn shake_of(runs: &[Run]) -> [Option<ShakeFigure>; 2] {
    parts().map(|(of, unit)| {
        let all: Vec<(&Run, Wobble)> = runs.iter().filter_map(|r| Some((r, of(r, Counts::SHAKE)?))).collect();
        Wobble::shake(&all).map(|s| ShakeFigure {
            whole: s.whole * unit,
            worst_second: s.worst_second * unit,
            ..s
        })
    })
}

/// How much a camera shakes over the second around each point: centimetres, and degrees. No number
/// where that is not known: at the very ends, and where a stretch between jumps is too short.
pub fn shake_by_second(track: &Track, cuts: &[f64]) -> Vec<[f64; 2]> {
    let mut shown = vec![[f64::NAN; 2]; track.points.len()];
    for run in runs(track, cuts) {
        let first = track.points.partition_point(|p| p.time_s < run.start_s);
        for (part, (of, unit)) in parts().into_iter().enumerate() {
            for (pose, square) in of(&run, Counts::SHAKE).iter().flat_map(Wobble::by_second) {
                shown[first + pose][part] = square.sqrt() * unit;
            }
        }
    }
    shown
}

/// How far a camera is knocked from its course at each point: centimetres, and degrees. Nothing where
/// that is not known: at the very ends, and where a stretch between jumps is too short.
pub(crate) fn knocks(track: &Track, cuts: &[f64]) -> Vec<[f64; 2]> {
    let mut knocks = vec![[0.0; 2]; track.points.len()];
    for run in runs(track, cuts) {
        let first = track.points.partition_point(|p| p.time_s < run.start_s);
        for (part, (of, unit)) in parts().into_iter().enumerate() {
            for (pose, knock) in of(&run, Counts::KNOCKS).iter().flat_map(Wobble::by_pose) {
                knocks[first + pose][part] = knock * unit;
            }
        }
    }
    knocks
}

/// Dead stops between the first and the last motion of a camera.
pub(crate) fn dead_stops(track: &Track, cuts: &[f64]) -> Vec<DeadStop> {
    let stops = |run: Run| dead_stops::dead_stops(&run, &run.under_bell(dead_stops::BELL_S));
    runs(track, cuts).into_iter().flat_map(stops).collect()
}

fn runs(track: &Track, cuts: &[f64]) -> Vec<Run> {
    let mut rest = track.points.as_slice();
    let mut runs = Vec::new();
    for cut in cuts.iter().chain([&f64::INFINITY]) {
        let (before, after) = rest.split_at(rest.partition_point(|p| p.time_s < cut - 1e-9));
        if before.len() > 1 {
            runs.push(Run::of(before));
        }
        rest = after;
    }
    runs
}

fn path_length(run: &Run) -> f64 {
    run.poses.windows(2).fold(0.0, |sum, w| sum + w[0].position.distance(w[1].position))
}
