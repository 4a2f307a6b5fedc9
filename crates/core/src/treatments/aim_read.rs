//! Whom a take was looking at, and when that changed: a start for an aim that is then made exact.
//!
//! **Method.** At every frame of film the camera looks at somebody or at nobody; which, is a hidden state.
//! Looking at somebody costs the angle from where they should be in the picture, at most what nobody
//! costs twice; changing costs a price, and the cheapest course through the take is found (Viterbi, IEEE
//! Trans. Inf. Theory 13(2), 1967). Where they should be is one place in the picture for the whole take,
//! for few operators keep their subject in its middle: of some places the one where the course costs
//! least, then the median of where they were. When a turn is half done, and how long it takes, is read
//! where it passes a quarter, half and three quarters of the way.

use super::questions::{Answer, Ask, Asked};
use super::targets::{BodyPart, Target, Turn};
use super::{Aim, TreatmentKind};
use crate::ids::PerformerId;
use crate::motion::{Context, Motion};
use glam::DVec2;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// How often it is asked, a second.
const ASKED_HZ: f64 = 24.0;
/// Cost of nobody, degrees: a person farther off than this is not the target.
const NOBODY_DEG: f64 = 5.0;
/// Cost of a change of target, as degrees at one instant.
const CHANGE_DEG: f64 = 48.0;
/// How often the place in the picture is found anew.
const ROUNDS: usize = 4;
/// Share of a fifth-degree turn's time in which its middle half passes.
const MIDDLE: f64 = 0.2812;
/// Greatest angle that counts, degrees.
const FAR_DEG: f64 = 180.0;
/// Shortest time without a target that is not just a turn, seconds.
const BY_NOBODY_S: f64 = 1.5;
/// Time in which a turn away from a target is searched, seconds.
const LOOK_S: f64 = 2.0;
/// The quickest and the slowest turn that is offered, seconds.
const TURN_S: (f64, f64) = (0.2, 4.0);

/// One asking: where in the picture everybody is, degrees to the right and up; none behind the camera.
struct Sighting {
    time_s: f64,
    seen: Vec<Option<DVec2>>,
}

/// Asks for an aim that looks where the move looked.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
pub struct AimAsLooked {}

impl Ask for AimAsLooked {
    const OF: &'static str = "aim";
    const WORDS: (&'static str, &'static str) = (
        "As the take looked",
        "Whom the move was turned to before this, when that changed, and where in the frame they were",
    );
    const ASKED: Asked = Asked::Pressed;
    const SETS: &'static [&'static str] = &["turns", "across", "up"];

    fn answer(
        &self,
        of: &TreatmentKind,
        before: &Motion,
        context: &Context,
        _rest: &dyn Fn(),
    ) -> Option<Answer> {
        let TreatmentKind::Aim(_) = of else { return None };
        let aim = aim_of_take(before, context, BodyPart::Eyes);
        Some(Answer { to: Some(TreatmentKind::Aim(aim)), ..Answer::default() })
    }
}

/// How an aim would have to be to look where a take looked.
pub fn aim_of_take(motion: &Motion, context: &Context, part: BodyPart) -> Aim {
    let people: Vec<PerformerId> = context
        .playing
        .map(|p| p.timeline.movers.iter().filter_map(|m| m.of.performer()).collect())
        .unwrap_or_default();
    let rate_hz = motion.samples.rate_hz();
    let count = (motion.samples.duration_s() * ASKED_HZ) as usize + 1;
    let asked: Vec<Sighting> = (0..count)
        .map(|i| {
            let k = ((i as f64 * rate_hz / ASKED_HZ).round() as usize).min(motion.samples.len() - 1);
            Sighting { time_s: k as f64 / rate_hz, seen: seen(motion, context, k, &people, part) }
        })
        .collect();
    let (mut course, mut place) = places()
        .map(|place| (cheapest(&asked, people.len(), place), place))
        .min_by(|a, b| a.0.1.total_cmp(&b.0.1))
        .map_or((Vec::new(), DVec2::ZERO), |((course, _), place)| (course, place));
    for _ in 0..ROUNDS {
        place = usual_place(&asked, &course).unwrap_or(place);
        course = cheapest(&asked, people.len(), place).0;
    }
    bridge(&mut course);
    let mut turns: Vec<Turn> = Vec::new();
    for (i, who) in course.iter().enumerate() {
        if i > 0 && course[i - 1] == *who {
            continue;
        }
        let to = Target::Somebody { who: who.map(|w| people[w]), part };
        let (from_s, over_s) = if i == 0 { (0.0, 1.0) } else { turn(&asked, &course, i, place) };
        let after = turns.last().map_or(0.0, |t| t.from_s + 1.0 / ASKED_HZ);
        turns.push(Turn { from_s: if i == 0 { 0.0 } else { from_s.max(after) }, over_s, to });
    }
    let zoom = motion.samples.width() - 3;
    let (x, y) = context.half_frame(motion.samples.row(0)[zoom]);
    let in_frame =
        |deg: f64, half: f64| ((deg.to_radians().tan() / half).clamp(-1.0, 1.0) * 100.0).round() / 100.0;
    Aim { turns, across: in_frame(place.x, x), up: in_frame(place.y, y), ..Aim::default() }
}

/// Places in the picture that a target may be meant to have, degrees to the right and up; the middle first.
fn places() -> impl Iterator<Item = DVec2> {
    let across = [0.0, -4.0, 4.0, -8.0, 8.0];
    let up = [0.0, 3.0, -3.0, 6.0];
    across.into_iter().flat_map(move |x| up.into_iter().map(move |y| DVec2::new(x, y)))
}

fn seen(
    motion: &Motion,
    context: &Context,
    k: usize,
    people: &[PerformerId],
    part: BodyPart,
) -> Vec<Option<DVec2>> {
    let eye = motion.pose(k, context.rig);
    let time_s = k as f64 / motion.samples.rate_hz();
    let one = |who: &PerformerId| {
        let point = Target::Somebody { who: Some(*who), part }.point(context.playing, time_s)?;
        let p = eye.rotation.conjugate() * (point - eye.position);
        (p.z < 0.0).then(|| DVec2::new(p.x.atan2(-p.z).to_degrees(), p.y.atan2(-p.z).to_degrees()))
    };
    people.iter().map(one).collect()
}

/// Cost of a target at an instant.
fn off(asked: &Sighting, who: Option<usize>, place: DVec2) -> f64 {
    match who {
        None => NOBODY_DEG,
        Some(w) => asked.seen[w].map_or(f64::MAX, |at| at.distance(place)).min(2.0 * NOBODY_DEG),
    }
}

/// Targets at all instants with the least cost together, and that cost.
fn cheapest(asked: &[Sighting], people: usize, place: DVec2) -> (Vec<Option<usize>>, f64) {
    let states: Vec<Option<usize>> = std::iter::once(None).chain((0..people).map(Some)).collect();
    let mut cost = vec![0.0_f64; states.len()];
    let mut came: Vec<Vec<usize>> = Vec::with_capacity(asked.len());
    for a in asked {
        let best = (0..states.len()).min_by(|i, j| cost[*i].total_cmp(&cost[*j])).unwrap_or(0);
        let from: Vec<usize> =
            (0..states.len()).map(|i| if cost[i] <= cost[best] + CHANGE_DEG { i } else { best }).collect();
        cost = (0..states.len())
            .map(|i| {
                let change = if from[i] == i { 0.0 } else { CHANGE_DEG };
                cost[from[i]] + change + off(a, states[i], place)
            })
            .collect();
        came.push(from);
    }
    let mut state = (0..states.len()).min_by(|i, j| cost[*i].total_cmp(&cost[*j])).unwrap_or(0);
    let least = cost[state];
    let mut course = Vec::with_capacity(asked.len());
    for from in came.iter().rev() {
        course.push(states[state]);
        state = from[state];
    }
    course.reverse();
    (course, least)
}

/// A wide turn goes by nobody: what is as short as that is the turn, half of it from whom it leaves.
fn bridge(course: &mut [Option<usize>]) {
    let most = (BY_NOBODY_S * ASKED_HZ) as usize;
    let mut first = 0;
    while let Some(from) = (first..course.len()).find(|k| course[*k].is_none()) {
        let to = (from..course.len()).find(|k| course[*k].is_some()).unwrap_or(course.len());
        if from > 0 && to < course.len() && to - from <= most {
            let middle = (from + to) / 2;
            let (old, new) = (course[from - 1], course[to]);
            course[from..middle].fill(old);
            course[middle..to].fill(new);
        }
        first = to;
    }
}

/// The median of where those were who were looked at.
fn usual_place(asked: &[Sighting], course: &[Option<usize>]) -> Option<DVec2> {
    let at: Vec<DVec2> = asked.iter().zip(course).filter_map(|(a, who)| a.seen[(*who)?]).collect();
    let median = |mut values: Vec<f64>| {
        values.sort_by(f64::total_cmp);
        values.get(values.len() / 2).copied()
    };
    Some(DVec2::new(median(at.iter().map(|p| p.x).collect())?, median(at.iter().map(|p| p.y).collect())?))
}

/// When a turn begins and how long it takes, by when a quarter, half and three quarters of it are done.
fn turn(asked: &[Sighting], course: &[Option<usize>], at: usize, place: DVec2) -> (f64, f64) {
    let (old, new) = (course[at - 1], course[at]);
    let far =
        |a: &Sighting, who: usize| a.seen[who].map_or(FAR_DEG, |seen| seen.distance(place).min(FAR_DEG));
    let gone: Vec<f64> = match (old, new) {
        (Some(old), Some(new)) => asked
            .iter()
            .map(|a| {
                let (from, to) = (far(a, old), far(a, new));
                from / (from + to).max(1e-9)
            })
            .collect(),
        // Where it goes is known by where it has come to: when it goes slowly again.
        (Some(who), None) => {
            let from: Vec<f64> = asked.iter().map(|a| far(a, who)).collect();
            let whole = from[settled(&from, at, 1)].max(NOBODY_DEG);
            from.iter().map(|d| d / whole).collect()
        }
        (None, Some(who)) => {
            let to: Vec<f64> = asked.iter().map(|a| far(a, who)).collect();
            let whole = to[settled(&to, at, -1)].max(NOBODY_DEG);
            to.iter().map(|d| 1.0 - d / whole).collect()
        }
        (None, None) => return (asked[at].time_s, 1.0),
    };
    let half = crossing(&gone, at, 0.5);
    let quarters = [0.25, 0.75].map(|share| crossing(&gone, half.round() as usize, share));
    let over_s = ((quarters[1] - quarters[0]).abs() / ASKED_HZ / MIDDLE).clamp(TURN_S.0, TURN_S.1);
    ((half / ASKED_HZ - over_s / 2.0).max(1.0 / ASKED_HZ), over_s)
}

/// Crossing nearest to `at` among all places at which a share is passed upwards.
fn crossing(gone: &[f64], at: usize, share: f64) -> f64 {
    let passes = |k: &usize| gone[*k] < share && gone[*k + 1] >= share;
    let all = (0..gone.len() - 1).filter(passes);
    let nearest = all.min_by_key(|k| k.abs_diff(at));
    nearest.map_or(at as f64, |k| k as f64 + (share - gone[k]) / (gone[k + 1] - gone[k]))
}

/// From `at` on, or back, the first place after the quickest at which it goes slowly again.
fn settled(far: &[f64], at: usize, step: isize) -> usize {
    let look = (LOOK_S * ASKED_HZ) as usize;
    let wide = (ASKED_HZ / 8.0) as usize;
    let speed = |k: usize| (far[(k + wide).min(far.len() - 1)] - far[k.saturating_sub(wide)]).abs();
    let along: Vec<usize> = (0..look)
        .map_while(|k| at.checked_add_signed(k as isize * step).filter(|k| *k < far.len()))
        .collect();
    let quickest = along.iter().copied().max_by(|a, b| speed(*a).total_cmp(&speed(*b))).unwrap_or(at);
    let after = along.iter().skip_while(|k| **k != quickest);
    after.copied().find(|k| speed(*k) < 0.2 * speed(quickest)).or(along.last().copied()).unwrap_or(at)
}
