//! Departure of a track from the one that it was made of.

use crate::space::Pose;
use crate::track::Track;
use serde::Serialize;
use ts_rs::TS;

/// Departure of a track from the one that it was made of.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, TS)]
pub struct Departure {
    /// Largest distance.
    pub position_cm: f64,
    /// Largest angle, degrees.
    pub rotation_deg: f64,
}

impl Departure {
    /// No departure at all.
    pub const NONE: Departure = Departure { position_cm: 0.0, rotation_deg: 0.0 };
}

/// The largest distance and angle between two tracks at the times they share; none where they share
/// none.
pub fn departure(track: &Track, raw: &Track) -> Option<Departure> {
    let (now, then) = track.shared_with(raw)?;
    let mut most = Departure::NONE;
    for (a, b) in now.points.iter().zip(&then.points) {
        most.position_cm = most.position_cm.max(a.position.distance(b.position) * 100.0);
        most.rotation_deg = most.rotation_deg.max(a.pose().angle_to(b.pose()).to_degrees());
    }
    Some(most)
}

/// Relative pose error (Sturm et al., IROS 2012): how differently two tracks move from each point to
/// the one `steps` later, RMS over all: metres and degrees. It depends on how long that is, so
/// whoever shows it says so.
pub fn relative_pose_error(track: &Track, raw: &Track, steps: usize) -> (f64, f64) {
    let poses = |t: &Track| -> Vec<Pose> { t.points.iter().map(|p| p.pose()).collect() };
    let step = |w: &[Pose]| w[0].inverse().then(w[steps]);
    let (a, b) = (poses(track), poses(raw));
    let errors = a.windows(steps + 1).zip(b.windows(steps + 1)).map(|(a, b)| step(b).inverse().then(step(a)));
    let (mut metres, mut degrees, mut n) = (0.0, 0.0, 0.0);
    for error in errors {
        metres += error.position.length_squared();
        degrees += Pose::ORIGIN.angle_to(error).to_degrees().powi(2);
        n += 1.0;
    }
    if n == 0.0 { (0.0, 0.0) } else { ((metres / n).sqrt(), (degrees / n).sqrt()) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::space::PanTiltRoll;
    use crate::track::{LensState, TrackPoint};
    use glam::DVec3;

    #[test]
    fn departure_is_the_largest_distance_and_angle() {
        let track = |off: bool| {
            let point = |i: usize| {
                let time_s = i as f64 / 24.0;
                let (x, pan) = (
                    if off && time_s > 2.0 { 0.02 } else { 0.0 },
                    if off && time_s > 3.0 { 0.5_f64 } else { 0.0 },
                );
                TrackPoint {
                    time_s,
                    position: DVec3::new(time_s + x, 0.0, 0.0),
                    angles: PanTiltRoll { pan: pan.to_radians(), ..Default::default() },
                    lens: LensState { focal_mm: 35.0, focus_m: 5.0, f_stop: 4.0 },
                }
            };
            Track { points: (0..100).map(point).collect() }
        };
        let d = departure(&track(true), &track(false)).unwrap();
        assert!((d.position_cm - 2.0).abs() < 1e-9 && (d.rotation_deg - 0.5).abs() < 1e-9);
        // At another rate, and a second later, it is the same: what counts is when, not which point.
        let mut later = track(true).resampled(60.0);
        later.points.drain(..60);
        let d = departure(&later, &track(false)).unwrap();
        assert!((d.position_cm - 2.0).abs() < 0.2 && (d.rotation_deg - 0.5).abs() < 1e-6, "{d:?}");
        later.points.iter_mut().for_each(|p| p.time_s += 100.0);
        assert_eq!(departure(&later, &track(false)), None);
    }
}
