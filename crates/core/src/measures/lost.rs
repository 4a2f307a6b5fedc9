//! When whom the move is about is not to be seen: outside the picture, or covered.
//!
//! A move is about whoever is the largest in the picture for the longest time, as rolled. They are *lost*
//! while they are not in the picture ([`in_picture`]) for a quarter of a second or more between the first and
//! the last time that they are, unless somebody else is in it instead for most of that time. Before the
//! camera first finds them and after it leaves them they are not lost. They are *covered* while they are in
//! the picture and something stands between the lens and both their eyes and their chest. The figures
//! and the list of bad seconds say the same, because both ask here.

use crate::clearance::{Around, Obstacles};
use crate::framing::{in_picture, subject};
use crate::ids::{PerformerId, SetupId};
use crate::lens::Camera;
use crate::playing::{MoverId, SubjectPoints};
use crate::track::{Track, TrackPoint};

/// For how long whom a move is about is not to be seen.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Lost {
    /// Id of the performer.
    pub who: PerformerId,
    /// Seconds lost in the raw take.
    pub raw_s: f64,
    /// After the treatments, seconds.
    pub now_s: f64,
    /// When they are lost first, after the treatments.
    pub first_s: Option<f64>,
}

/// A time in which they are not to be seen.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Unseen {
    /// Start of the stretch, seconds of the scene.
    pub from_s: f64,
    /// End of the stretch, seconds of the scene.
    pub to_s: f64,
}

impl Unseen {
    /// Length of the stretch, seconds.
    pub fn length_s(&self) -> f64 {
        self.to_s - self.from_s
    }
}

/// Sum of the lengths of stretches, seconds; 0 without any.
pub fn together_s(times: &[Unseen]) -> f64 {
    times.iter().fold(0.0, |sum, time| sum + time.length_s())
}

/// Obstacles that may stand between a lens and the performer it looks at.
#[derive(Clone, Copy)]
pub struct Before<'a> {
    /// Everything of the set, and everybody.
    pub obstacles: &'a Obstacles,
    /// The setup that looks: what is taken out for it is not there.
    pub setup: SetupId,
}

/// Looked at so often, seconds: a frame of film.
pub const EVERY_S: f64 = 1.0 / 24.0;
/// A shorter time is none, seconds.
const LEAST_S: f64 = 0.25;
/// Covered for fewer looks than this is somebody who walks by.
const LEAST_LOOKS: usize = 2;

/// Figures of a move before and after its treatments; none where nobody is ever in the picture.
pub fn lost(raw: &Track, now: &Track, camera: &Camera, people: &SubjectPoints) -> Option<Lost> {
    let index = mainly(raw, camera, people)?;
    let [before, after] = [raw, now].map(|track| lost_times(track, camera, people, index));
    let first_s = after.first().map(|t| t.from_s);
    Some(Lost { who: people.id(index), raw_s: together_s(&before), now_s: together_s(&after), first_s })
}

/// The times in which somebody, by their place in `people`, is lost.
pub fn lost_times(track: &Track, camera: &Camera, people: &SubjectPoints, who: usize) -> Vec<Unseen> {
    let looks: Vec<(f64, bool, bool)> = every(track)
        .map(|point| {
            let (eye, focal) = (point.pose(), point.lens.focal_mm);
            let own = people.at(point.time_s).nth(who);
            let inside = own.is_some_and(|(height_m, p)| in_picture(camera, focal, eye, &p, height_m));
            let other = !inside && subject(camera, focal, eye, people.at(point.time_s)).is_some();
            (point.time_s, inside, other)
        })
        .collect();
    let inside: Vec<usize> = (0..looks.len()).filter(|i| looks[*i].1).collect();
    let gap = |pair: &[usize]| {
        let (from, to) = (pair[0] + 1, pair[1]);
        let time = Unseen { from_s: looks.get(from)?.0, to_s: looks[to].0 };
        let others = looks[from..to].iter().filter(|(.., other)| *other).count();
        (time.length_s() > LEAST_S - 1e-9 && 2 * others <= to - from).then_some(time)
    };
    inside.windows(2).filter_map(gap).collect()
}

/// The times in which somebody, by their place in `people`, is in the picture and covered.
pub fn covered_times(
    track: &Track,
    camera: &Camera,
    people: &SubjectPoints,
    who: usize,
    before: Before,
) -> Vec<Unseen> {
    let of = MoverId::Performer(people.id(who));
    let mut times: Vec<(Unseen, usize)> = Vec::new();
    let mut open = false;
    for point in every(track) {
        let Some((height_m, p)) = people.at(point.time_s).nth(who) else { continue };
        let around = Around { time_s: point.time_s, setup: before.setup, ..Around::default() };
        let covered = in_picture(camera, point.lens.focal_mm, point.pose(), &p, height_m)
            && before.obstacles.covers(point.position, of, [p.eyes, p.chest], &around).is_some();
        match times.last_mut().filter(|_| open) {
            Some((time, looks)) if covered => (time.to_s, *looks) = (point.time_s + EVERY_S, *looks + 1),
            _ if covered => {
                times.push((Unseen { from_s: point.time_s, to_s: point.time_s + EVERY_S }, 1));
            }
            _ => {}
        }
        open = covered;
    }
    times.into_iter().filter(|(_, looks)| *looks >= LEAST_LOOKS).map(|(time, _)| time).collect()
}

/// Subject of a track, by the index in `people`; none where nobody is ever in the picture.
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
