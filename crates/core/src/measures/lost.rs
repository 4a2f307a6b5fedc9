//! How long whom a move is about is outside the frame.
//!
//! A move is about whoever is the largest in the frame for the longest time, as rolled. They are lost
//! while neither their eyes nor their chest are in the frame.

use crate::framing::{in_frame, subject};
use crate::lens::Camera;
use crate::performer::Points;
use crate::playing::SubjectPoints;
use crate::track::{Track, TrackPoint};

/// Whom a move is about, and how long they are lost.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Lost {
    /// Which performer.
    pub who: u32,
    /// As rolled, seconds.
    pub raw_s: f64,
    /// After the treatments, seconds.
    pub now_s: f64,
    /// When they are lost first, after the treatments.
    pub first_s: Option<f64>,
}

/// Looked at so often, seconds: a frame of film.
const EVERY_S: f64 = 1.0 / 24.0;

/// Of a move before and after its treatments; none where nobody is ever in the frame.
pub fn lost(raw: &Track, now: &Track, camera: &Camera, people: &SubjectPoints) -> Option<Lost> {
    let index = mainly(raw, camera, people)?;
    let out = |point: &&TrackPoint| {
        let (_, Points { eyes, chest, .. }) = people.at(point.time_s).nth(index)?;
        let inside = |p| in_frame(camera, point.lens.focal_mm, point.pose(), p);
        (!inside(eyes) && !inside(chest)).then_some(point.time_s)
    };
    let times = |track: &Track| -> Vec<f64> { every(track).filter_map(|p| out(&p)).collect() };
    let (before, after) = (times(raw), times(now));
    Some(Lost {
        who: people.id(index),
        raw_s: before.len() as f64 * EVERY_S,
        now_s: after.len() as f64 * EVERY_S,
        first_s: after.first().copied(),
    })
}

/// Whom a track is about, by their place in `people`; none where nobody is ever in the frame.
pub fn mainly(track: &Track, camera: &Camera, people: &SubjectPoints) -> Option<usize> {
    let mut seen: Vec<usize> = Vec::new();
    for point in every(track) {
        let found = subject(camera, point.lens.focal_mm, point.pose(), people.at(point.time_s));
        if let Some(found) = found {
            seen.resize(seen.len().max(found.index + 1), 0);
            seen[found.index] += 1;
        }
    }
    let most = *seen.iter().max()?;
    seen.iter().position(|count| *count == most)
}

/// The points of a track, one a frame of film.
fn every(track: &Track) -> impl Iterator<Item = &TrackPoint> {
    let step = ((track.rate_hz() * EVERY_S).round() as usize).max(1);
    track.points.iter().step_by(step)
}
