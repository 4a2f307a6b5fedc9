//! Figures that say whether a move got better.
//!
//! | figure | what it is |
//! |---|---|
//! | shake | RMS of what moves faster than 1 Hz ([`faster_than`]): of the position (cm) and of pan, tilt and roll together (degrees) |
//! | spectral arc length | smoothness of a speed profile as defined by Balasubramanian et al., J. NeuroEng. Rehabil. 12:112 (2015): nearer to zero is smoother |
//! | departure | largest distance from the raw take, cm, and largest angle between orientations, degrees |
//! | relative pose error | how differently two tracks move from point to point, RMS |
//! | top speeds | largest step between samples, per second |
//! | dead stop | longest time within the move, between its first and its last motion, that position and orientation both stand still (under 5 mm/s and 0.2 °/s; common practice, no source) |

use crate::filter::{faster_than, magnitudes};
use crate::space::Pose;
use crate::track::Track;
use serde::Serialize;
use ts_rs::TS;

/// Movement above this counts as shake.
pub const SHAKE_ABOVE_HZ: f64 = 1.0;
const STILL_M_S: f64 = 0.005;
const STILL_DEG_S: f64 = 0.2;

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
    /// See the module.
    pub shake_position_cm: Option<f64>,
    /// See the module.
    pub shake_rotation_deg: Option<f64>,
    /// Of the speed along the path.
    pub spectral_arc_position: Option<f64>,
    /// Of the turning speed.
    pub spectral_arc_rotation: Option<f64>,
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
    /// See the module.
    pub longest_dead_stop_s: f64,
}

/// How far a track is from the one it was made of.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, TS)]
pub struct Departure {
    /// Largest distance.
    pub position_cm: f64,
    /// Largest angle.
    pub rotation_deg: f64,
}

/// Measures a track. Speeds are by true time steps; shake, spectral arc and dead stops take the
/// points as even.
pub fn figures(track: &Track) -> Metrics {
    let points = &track.points;
    let rate = track.rate_hz();
    let poses: Vec<Pose> = points.iter().map(|p| p.pose()).collect();
    let steps: Vec<f64> = points.windows(2).map(|w| w[1].time_s - w[0].time_s).collect();
    let per_second = |step: &dyn Fn(&[Pose]) -> f64| -> Vec<f64> {
        poses.windows(2).zip(&steps).map(|(w, dt)| step(w) / dt).collect()
    };
    let speeds = per_second(&|w| w[0].position.distance(w[1].position));
    let turns = per_second(&|w| w[0].angle_to(w[1]).to_degrees());
    let top = |speeds: &[f64]| speeds.iter().copied().fold(0.0, f64::max);
    let angle = |pick: fn(&crate::space::PanTiltRoll) -> f64| -> Vec<f64> {
        points.iter().map(|p| pick(&p.angles).to_degrees()).collect()
    };
    let (pan, tilt, roll) = (angle(|a| a.pan), angle(|a| a.tilt), angle(|a| a.roll));
    let top_step =
        |v: &[f64]| v.windows(2).zip(&steps).map(|(w, dt)| (w[1] - w[0]).abs() / dt).fold(0.0, f64::max);
    let place = |i: usize| -> Vec<f64> { points.iter().map(|p| p.position[i] * 100.0).collect() };
    Metrics {
        samples: points.len(),
        rate_hz: rate,
        duration_s: track.duration_s(),
        path_length_m: poses.windows(2).fold(0.0, |sum, w| sum + w[0].position.distance(w[1].position)),
        shake_position_cm: shake(&[place(0), place(1), place(2)], rate),
        shake_rotation_deg: shake(&[pan.clone(), tilt.clone(), roll.clone()], rate),
        spectral_arc_position: spectral_arc_length(&speeds, rate),
        spectral_arc_rotation: spectral_arc_length(&turns, rate),
        top_speed_m_s: top(&speeds),
        top_turn_deg_s: top(&turns),
        top_pan_deg_s: top_step(&pan),
        top_tilt_deg_s: top_step(&tilt),
        top_roll_deg_s: top_step(&roll),
        longest_dead_stop_s: if rate > 0.0 { longest_dead_stop(&speeds, &turns) as f64 / rate } else { 0.0 },
    }
}

/// Measures a track that jumps at `cuts`, seconds in order: nothing is measured across one. Lengths
/// and times add up, shake is that of all stretches by their points, spectral arcs are those of the
/// longest, and of the rest the most counts.
pub fn figures_between(track: &Track, cuts: &[f64]) -> Metrics {
    if cuts.is_empty() {
        return figures(track);
    }
    let mut parts: Vec<Metrics> = Vec::new();
    let mut rest = track.points.as_slice();
    for cut in cuts.iter().chain([&f64::INFINITY]) {
        let (before, after) = rest.split_at(rest.partition_point(|p| p.time_s < cut - 1e-9));
        if !before.is_empty() {
            parts.push(figures(&Track { points: before.to_vec() }));
        }
        rest = after;
    }
    let Some(longest) = parts.iter().max_by_key(|m| m.samples) else { return figures(track) };
    let sum = |of: &dyn Fn(&Metrics) -> f64| parts.iter().map(of).sum::<f64>();
    let most = |of: &dyn Fn(&Metrics) -> f64| parts.iter().map(of).fold(0.0, f64::max);
    let shake = |of: &dyn Fn(&Metrics) -> Option<f64>| {
        let known = || parts.iter().filter_map(|m| Some((of(m)?, m.samples as f64)));
        let points: f64 = known().map(|(_, n)| n).sum();
        (points > 0.0).then(|| (known().map(|(v, n)| v * v * n).sum::<f64>() / points).sqrt())
    };
    Metrics {
        samples: track.points.len(),
        rate_hz: track.rate_hz(),
        duration_s: track.duration_s(),
        path_length_m: sum(&|m| m.path_length_m),
        shake_position_cm: shake(&|m| m.shake_position_cm),
        shake_rotation_deg: shake(&|m| m.shake_rotation_deg),
        spectral_arc_position: longest.spectral_arc_position,
        spectral_arc_rotation: longest.spectral_arc_rotation,
        top_speed_m_s: most(&|m| m.top_speed_m_s),
        top_turn_deg_s: most(&|m| m.top_turn_deg_s),
        top_pan_deg_s: most(&|m| m.top_pan_deg_s),
        top_tilt_deg_s: most(&|m| m.top_tilt_deg_s),
        top_roll_deg_s: most(&|m| m.top_roll_deg_s),
        longest_dead_stop_s: most(&|m| m.longest_dead_stop_s),
    }
}

/// The largest distance and angle between two tracks at the times they share, in order.
pub fn departure(track: &Track, raw: &Track) -> Departure {
    let mut most = Departure { position_cm: 0.0, rotation_deg: 0.0 };
    for (a, b) in track.points.iter().zip(&raw.points) {
        most.position_cm = most.position_cm.max(a.position.distance(b.position) * 100.0);
        most.rotation_deg = most.rotation_deg.max(a.pose().angle_to(b.pose()).to_degrees());
    }
    most
}

/// Relative pose error (Sturm et al., IROS 2012): how differently two tracks move from each point
/// to the next, RMS over all steps: metres and degrees.
pub fn relative_pose_error(track: &Track, raw: &Track) -> (f64, f64) {
    let poses = |t: &Track| -> Vec<Pose> { t.points.iter().map(|p| p.pose()).collect() };
    let step = |w: &[Pose]| w[0].inverse().then(w[1]);
    let (a, b) = (poses(track), poses(raw));
    let errors = a.windows(2).zip(b.windows(2)).map(|(a, b)| step(b).inverse().then(step(a)));
    let (mut metres, mut degrees, mut n) = (0.0, 0.0, 0.0);
    for error in errors {
        metres += error.position.length_squared();
        degrees += Pose::ORIGIN.angle_to(error).to_degrees().powi(2);
        n += 1.0;
    }
    if n == 0.0 { (0.0, 0.0) } else { ((metres / n).sqrt(), (degrees / n).sqrt()) }
}

fn shake(columns: &[Vec<f64>], rate: f64) -> Option<f64> {
    let mut square = 0.0;
    for column in columns {
        let fast = faster_than(SHAKE_ABOVE_HZ, column, rate)?;
        square += fast.iter().map(|v| v * v).sum::<f64>() / fast.len() as f64;
    }
    Some(square.sqrt())
}

/// Spectral arc length of a speed profile, with the paper's parameters: spectrum to 10 Hz, padded
/// to 2⁴ times the next power of two, kept where it rises over 5 % of its peak.
pub fn spectral_arc_length(speeds: &[f64], rate_hz: f64) -> Option<f64> {
    const UP_TO_HZ: f64 = 10.0;
    const RISES_OVER: f64 = 0.05;
    if speeds.len() < 2 || rate_hz <= 0.0 {
        return None;
    }
    let padded = speeds.len().next_power_of_two() << 4;
    let spectrum = magnitudes(speeds, padded);
    let peak = spectrum.iter().copied().fold(0.0, f64::max);
    if peak == 0.0 {
        return None;
    }
    let step_hz = rate_hz / padded as f64;
    let kept: Vec<f64> = spectrum
        .iter()
        .enumerate()
        .take_while(|(i, _)| *i as f64 * step_hz <= UP_TO_HZ)
        .map(|(_, m)| m / peak)
        .collect();
    let first = kept.iter().position(|m| *m >= RISES_OVER)?;
    let last = kept.iter().rposition(|m| *m >= RISES_OVER)?;
    let share = 1.0 / (last - first) as f64;
    Some(-kept[first..=last].windows(2).map(|w| share.hypot(w[1] - w[0])).sum::<f64>())
}

/// Steps of the longest stillness between the first and the last motion.
fn longest_dead_stop(speeds: &[f64], turns: &[f64]) -> usize {
    let moves: Vec<bool> =
        speeds.iter().zip(turns).map(|(s, t)| *s >= STILL_M_S || *t >= STILL_DEG_S).collect();
    let (Some(first), Some(last)) = (moves.iter().position(|m| *m), moves.iter().rposition(|m| *m)) else {
        return 0;
    };
    moves[first..=last].split(|m| *m).map(<[bool]>::len).max().unwrap_or(0)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::space::PanTiltRoll;
    use crate::track::{LensState, TrackPoint};
    use glam::DVec3;

    const LENS: LensState = LensState { focal_mm: 35.0, focus_m: 5.0, f_stop: 4.0 };

    fn track(n: usize, rate: f64, at: impl Fn(f64) -> (f64, f64)) -> Track {
        let point = |i: usize| {
            let time_s = i as f64 / rate;
            let (x, pan) = at(time_s);
            TrackPoint {
                time_s,
                position: DVec3::new(x, 0.0, 0.0),
                angles: PanTiltRoll { pan, ..Default::default() },
                lens: LENS,
            }
        };
        Track { points: (0..n).map(point).collect() }
    }

    /// Two walks at 0.5 m/s with a jump of 5 m between them: nobody went that fast.
    #[test]
    fn nothing_is_measured_across_a_jump() {
        let at = |t: f64| (0.5 * t + if t < 4.0 { 0.0 } else { 5.0 }, 0.0);
        let whole = track(961, 120.0, at);
        let (across, between) = (figures(&whole), figures_between(&whole, &[4.0]));
        assert!(across.top_speed_m_s > 500.0 && across.shake_position_cm.unwrap() > 5.0);
        assert!((between.top_speed_m_s - 0.5).abs() < 1e-9 && between.shake_position_cm.unwrap() < 0.01);
        assert!((between.path_length_m - 0.5 * (8.0 - 1.0 / 120.0)).abs() < 1e-9);
        assert_eq!((between.samples, between.duration_s), (961, 8.0));
        // Without a jump it is the same thing.
        let plain = track(481, 120.0, |t| (t, (3.0 * t).sin()));
        assert_eq!(figures_between(&plain, &[]), figures(&plain));
    }

    #[test]
    fn a_5_hz_shake_on_a_slow_move_is_found() {
        let wobble = |t: f64| (t / 3.0, (0.01 * (std::f64::consts::TAU * 5.0 * t).sin()).to_radians());
        let f = figures(&track(1201, 120.0, wobble));
        assert!((f.shake_rotation_deg.unwrap() - 0.01 / 2f64.sqrt()).abs() < 1e-5, "{f:?}");
        assert!(f.shake_position_cm.unwrap() < 1e-3, "{f:?}");
        assert!((f.top_speed_m_s - 1.0 / 3.0).abs() < 1e-9);
    }

    #[test]
    fn a_hold_in_the_middle_is_a_dead_stop_but_not_one_at_the_end() {
        let held = |t: f64| (t.min(2.0) + (t - 3.5).clamp(0.0, 1.0), 0.0);
        let f = figures(&track(120 * 8 + 1, 120.0, held));
        assert!((f.longest_dead_stop_s - 1.5).abs() < 0.01, "{}", f.longest_dead_stop_s);
    }

    #[test]
    fn tracks_too_short_to_measure_say_so() {
        for n in 0..3 {
            let f = figures(&track(n, 24.0, |t| (t, 0.0)));
            assert_eq!(f.shake_position_cm, None);
            assert!(f.path_length_m.is_finite() && f.rate_hz.is_finite());
        }
        let still = figures(&track(200, 24.0, |_| (1.0, 0.0)));
        assert_eq!((still.spectral_arc_position, still.longest_dead_stop_s), (None, 0.0));
    }

    #[test]
    fn departure_is_the_largest_distance_and_angle() {
        let raw = track(100, 24.0, |t| (t, 0.0));
        let off = track(100, 24.0, |t| {
            (t + if t > 2.0 { 0.02 } else { 0.0 }, if t > 3.0 { 0.5_f64.to_radians() } else { 0.0 })
        });
        let d = departure(&off, &raw);
        assert!((d.position_cm - 2.0).abs() < 1e-9 && (d.rotation_deg - 0.5).abs() < 1e-9);
    }
}
