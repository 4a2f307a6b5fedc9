//! Whom the move is about goes out of the picture and comes back: when that is so is told by
//! [`crate::measures::lost_times`].

use super::{Found, Look, Seen, around};
use crate::measures::{Unseen, lost_times, mainly};
use crate::treatments::{Aim, BodyPart, Target, TreatmentKind, Turn};

pub(super) struct OutOfFrame;

/// Dead zones of the mending aim, percent of half the frame, mildest first.
const ZONES: [f64; 3] = [85.0, 60.0, 30.0];
/// Time in which the camera goes to the subject, and back, seconds.
const EDGE_S: f64 = 1.0;

impl Look for OutOfFrame {
    fn find(&self, seen: &Seen) -> Vec<Found> {
        let (camera, people) = (seen.around.camera, seen.around.people);
        let Some(who) = mainly(&seen.track, camera, people) else { return Vec::new() };
        let id = people.id(who);
        let found = |time: Unseen| {
            let (from_s, to_s, length_s) = (time.from_s, time.to_s, time.length_s());
            let remedy = |zone_percent: f64| {
                let to = Target::Somebody { who: Some(id), part: BodyPart::Eyes };
                let turns = vec![Turn { from_s: 0.0, over_s: 1.0, to }];
                let aim = Aim { turns, zone_percent, ..Aim::default() };
                around(TreatmentKind::Aim(aim), from_s, to_s, EDGE_S)
            };
            Found {
                what: format!("{} is out of the picture for {length_s:.1} s", (seen.around.name)(id)),
                from_s,
                to_s,
                unit: "s",
                amount: length_s,
                bound: 0.0,
                of: who,
                remedies: ZONES.map(remedy).into(),
            }
        };
        lost_times(&seen.track, camera, people, who).into_iter().map(found).collect()
    }

    fn amount(&self, found: &Found, seen: &Seen) -> f64 {
        let lost = lost_times(&seen.track, seen.around.camera, seen.around.people, found.of);
        within(&lost, found)
    }
}

/// Seconds of the times that lie within what was found.
pub(super) fn within(times: &[Unseen], found: &Found) -> f64 {
    let shared = |t: &Unseen| (t.to_s.min(found.to_s) - t.from_s.max(found.from_s)).max(0.0);
    times.iter().map(shared).sum()
}
