//! Something stands between the lens and whom the move is about: when that is so is told by
//! [`crate::measures::covered_times`].

use super::lost::within;
use super::{Found, Look, Seen};
use crate::measures::{Unseen, covered_times, mainly};
use crate::treatments::{Correction, CorrectionKey, Treatment, TreatmentKind};
use glam::DVec3;

pub(super) struct Covered;

/// How far the camera is tried to be moved aside, metres, to its right and to its left.
const ASIDE_M: [f64; 4] = [0.2, 0.4, 0.8, 1.2];
/// How long it takes to move there, and back, seconds.
const BLEND_S: f64 = 1.0;

fn times(seen: &Seen, who: usize) -> Vec<Unseen> {
    let around = seen.around;
    let before =
        around.before.map(|before| covered_times(&seen.track, around.camera, around.people, who, before));
    before.unwrap_or_default()
}

impl Look for Covered {
    fn find(&self, seen: &Seen) -> Vec<Found> {
        let Some(who) = mainly(&seen.track, seen.around.camera, seen.around.people) else {
            return Vec::new();
        };
        let name = (seen.around.name)(seen.around.people.id(who));
        let found = |time: Unseen| {
            let frames = (time.length_s() * seen.context.rate.hz()).round();
            let middle = seen.samples(time.from_s, time.to_s);
            let at = &seen.track.points[(middle.start() + middle.end()) / 2];
            let right = at.pose().rotation * DVec3::X;
            let aside = |metres: f64| [1.0, -1.0].map(|side| moved(right * (side * metres), &time));
            Found {
                what: format!("{name} is covered for {frames:.0} frames: something stands before them"),
                from_s: time.from_s,
                to_s: time.to_s,
                unit: "s",
                amount: time.length_s(),
                bound: 0.0,
                of: who,
                remedies: ASIDE_M.into_iter().flat_map(aside).collect(),
            }
        };
        times(seen, who).into_iter().map(found).collect()
    }

    fn amount(&self, found: &Found, seen: &Seen) -> f64 {
        within(&times(seen, found.of), found)
    }
}

/// The camera moved aside for a time.
fn moved(by: DVec3, time: &Unseen) -> Treatment {
    let key = |at_s: f64| CorrectionKey { at_s, move_cm: (100.0 * by).to_array(), turn_deg: [0.0; 3] };
    let keys = vec![key(time.from_s), key(time.to_s)];
    TreatmentKind::Correction(Correction { keys, pins: Vec::new(), blend_s: BLEND_S }).into()
}
