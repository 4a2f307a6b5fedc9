//! Whom the move is about goes out of the frame and comes back.
//!
//! While somebody else is looked at they are not lost, nor before the camera first finds them, nor after
//! it leaves them.

use super::{Found, Look, Seen, around};
use crate::framing::{in_frame, subject};
use crate::measures::mainly;
use crate::treatments::{Aim, BodyPart, Target, TreatmentKind, Turn};

pub(super) struct OutOfFrame;

/// Looked at so often, times a second.
const LOOKED_HZ: f64 = 30.0;
/// A shorter time is none, seconds.
const LEAST_S: f64 = 0.25;
/// How far they may wander after it, percent of half the frame: from the mildest on.
const ZONES: [f64; 3] = [85.0, 60.0, 30.0];
/// How long the camera takes to go to them, and back, seconds.
const EDGE_S: f64 = 1.0;

/// For every look whether they are in the frame, and whether somebody else is instead.
fn looks(who: usize, seen: &Seen) -> Vec<(bool, bool)> {
    let camera = seen.around.camera;
    let looked = seen.track.points.iter().step_by(seen.stride(LOOKED_HZ)).map(|point| {
        let (eye, focal) = (point.pose(), point.lens.focal_mm);
        let inside =
            seen.around.people.at(point.time_s).nth(who).is_some_and(|(_, p)| {
                [p.eyes, p.chest].iter().any(|place| in_frame(camera, focal, eye, *place))
            });
        let other = !inside && subject(camera, focal, eye, seen.around.people.at(point.time_s)).is_some();
        (inside, other)
    });
    looked.collect()
}

/// Seconds from one look to the next.
fn step_s(seen: &Seen) -> f64 {
    seen.stride(LOOKED_HZ) as f64 / seen.rate_hz()
}

impl Look for OutOfFrame {
    fn find(&self, seen: &Seen) -> Vec<Found> {
        let Some(who) = mainly(&seen.track, seen.around.camera, seen.around.people) else {
            return Vec::new();
        };
        let (looks, step_s) = (looks(who, seen), step_s(seen));
        let id = seen.around.people.id(who);
        let mut found = Vec::new();
        let inside: Vec<usize> = (0..looks.len()).filter(|i| looks[*i].0).collect();
        for gap in inside.windows(2) {
            let (from, to) = (gap[0] + 1, gap[1]);
            let length_s = (to - from) as f64 * step_s;
            let others = looks[from..to].iter().filter(|(_, other)| *other).count();
            if length_s < LEAST_S || 2 * others > to - from {
                continue;
            }
            let [from_s, to_s] = [from, to].map(|i| i as f64 * step_s);
            let remedy = |zone_percent: f64| {
                let to = Target::Somebody { who: Some(id), part: BodyPart::Eyes };
                let turns = vec![Turn { from_s: 0.0, over_s: 1.0, to }];
                let aim = Aim { turns, zone_percent, ..Aim::default() };
                around(TreatmentKind::Aim(aim), from_s, to_s, EDGE_S)
            };
            found.push(Found {
                what: format!("{} is out of the frame for {length_s:.1} s", (seen.around.name)(id)),
                from_s,
                to_s,
                unit: "s",
                amount: length_s,
                bound: 0.0,
                of: who,
                remedies: ZONES.map(remedy).into(),
            });
        }
        found
    }

    fn amount(&self, found: &Found, seen: &Seen) -> f64 {
        let step_s = step_s(seen);
        let during = |i: usize| (found.from_s..=found.to_s).contains(&(i as f64 * step_s));
        let out = looks(found.of, seen).iter().enumerate().filter(|(i, look)| during(*i) && !look.0).count();
        out as f64 * step_s
    }
}
