//! Figures that say whether a move got better.
//!
//! | figure | what it is |
//! |---|---|
//! | shake | how far the camera is from its own calm course, faster than 1 to 1.5 Hz and back again: of the position (cm) and of where it looks (degrees, the same however it is mounted), over all and in the worst second; see [`Wobble`](shake) |
//! | departure | largest distance from the raw take, cm, and largest angle between orientations, degrees |
//! | lost | how long whom the move is about is outside the frame; see [`lost`](lost()) |
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
pub use lost::{Lost, lost, mainly};
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
use ts_rs::TS;

/// Speeds are means over so long, a frame of film: seconds.
pub const SPEED_OVER_S: f64 = 1.0 / 24.0;
/// Jerk is measured under this bell, seconds: without it the third derivative of a sensor's noise
/// is all there is to see.
const JERK_UNDER_S: f64 = 0.1;

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
    /// Of where the camera is; missing under 2 s, and where there are too few points a second.
    pub shake_position_cm: Option<ShakeFigure>,
    /// Of where the camera looks.
    pub shake_rotation_deg: Option<ShakeFigure>,
    /// Of the speed along the path.
    pub spectral_arc_position: Option<f64>,
    /// Of the turning speed.
    pub spectral_arc_rotation: Option<f64>,
    /// Of the speed along the path, under a bell of 0.1 s.
    pub log_jerk_position: Option<f64>,
    /// Of the turning speed, under a bell of 0.1 s.
    pub log_jerk_rotation: Option<f64>,
    /// Along the path.
    pub top_speed_m_s: f64,
    /// Of all turning together.
    pub top_turn_deg_s: f64,
    /// Of pan.
    pub top_pan_deg_s: f64,
    /// Of tilt.
    pub top_tilt_deg_s: f64,
    /// Of roll.
    pub top_roll_deg_s: f64,
    /// In order.
    pub dead_stops: Vec<DeadStop>,
    /// The longest of them; 0 without one.
    pub longest_dead_stop_s: f64,
}

/// Measures a track that jumps at `cuts`, seconds in order. Lengths and times of what lies between
/// jumps add up, shake is that of all of it, spectral arc and jerk are those of the longest stretch,
/// and of the rest the most counts. Points are taken as even between jumps.
pub fn figures(track: &Track, cuts: &[f64]) -> Metrics {
    let runs = runs(track, cuts);
    let most = |of: &dyn Fn(&Run) -> Vec<f64>| runs.iter().flat_map(of).fold(0.0, f64::max);
    let along = |r: &Run, window_s: f64| r.speeds(window_s, |a, b| a.position.distance(b.position));
    let turning = |r: &Run, window_s: f64| r.speeds(window_s, |a, b| a.angle_to(b).to_degrees());
    let angle = |pick: fn(PanTiltRoll) -> f64| {
        let of = move |p: Pose| pick(PanTiltRoll::from_rotation(p.rotation)).to_degrees();
        most(&move |r: &Run| {
            r.speeds(SPEED_OVER_S, |a, b| {
                let step = (of(b) - of(a)).abs();
                step.min(360.0 - step)
            })
        })
    };
    let [shake_position_cm, shake_rotation_deg] = shake_of(&runs);
    let longest = runs.iter().max_by_key(|r| r.poses.len());
    let of_longest = |of: &dyn Fn(&Run) -> Option<f64>| longest.and_then(of);
    let calm = longest.map(|r| r.under_bell(JERK_UNDER_S));
    let of_calm = |of: &dyn Fn(&Run) -> Option<f64>| calm.as_ref().and_then(of);
    let dead_stops: Vec<DeadStop> = runs.iter().flat_map(dead_stops::dead_stops).collect();
    Metrics {
        samples: track.points.len(),
        rate_hz: track.rate_hz(),
        duration_s: track.duration_s(),
        path_length_m: runs.iter().map(path_length).sum(),
        shake_position_cm,
        shake_rotation_deg,
        spectral_arc_position: of_longest(&|r| spectral_arc_length(&along(r, 0.0), r.rate_hz)),
        spectral_arc_rotation: of_longest(&|r| spectral_arc_length(&turning(r, 0.0), r.rate_hz)),
        log_jerk_position: of_calm(&|r| log_dimensionless_jerk(&along(r, 0.0), r.rate_hz)),
        log_jerk_rotation: of_calm(&|r| log_dimensionless_jerk(&turning(r, 0.0), r.rate_hz)),
        top_speed_m_s: most(&|r| along(r, SPEED_OVER_S)),
        top_turn_deg_s: most(&|r| turning(r, SPEED_OVER_S)),
        top_pan_deg_s: angle(|a| a.pan),
        top_tilt_deg_s: angle(|a| a.tilt),
        top_roll_deg_s: angle(|a| a.roll),
        longest_dead_stop_s: dead_stops.iter().map(DeadStop::length_s).fold(0.0, f64::max),
        dead_stops,
    }
}

/// Only the shake of a track that jumps at `cuts`: of position in centimetres, of rotation in degrees.
pub fn shake(track: &Track, cuts: &[f64]) -> [Option<ShakeFigure>; 2] {
    shake_of(&runs(track, cuts))
}

type WobbleOf = fn(&Run, Counts) -> Option<Wobble>;

/// What shakes, and what one of it is in the unit that is shown.
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

/// Where a camera stands still between its first and its last motion.
pub(crate) fn dead_stops(track: &Track, cuts: &[f64]) -> Vec<DeadStop> {
    runs(track, cuts).iter().flat_map(dead_stops::dead_stops).collect()
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
