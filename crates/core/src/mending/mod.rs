//! The bad seconds of a move, and for each the smallest treatment that mends it.
//!
//! **Method.** Each kind of fault looks for itself, in one file, and offers treatments for what it found,
//! from the mildest on, each kept to the time around it: every frame outside stays as it is, bit for bit.
//! The first is taken after which the same look, at the whole move with that treatment in its list, finds
//! no more than is usual; where none does, the one that leaves the least, if it leaves less than half.
//! What was mended is an ordinary treatment.
//!
//! A new kind is one file beside this one, and its name in [`FaultKind`].

mod covered;
mod jolt;
mod limit;
mod lost;
mod near;
mod stop;

use crate::ids::PerformerId;
use crate::lens::Camera;
use crate::measures::Before;
use crate::motion::{Context, Motion};
use crate::playing::SubjectPoints;
use crate::track::Track;
use crate::treatments::{Scope, Smooth, SmoothBy, Span, Treatment, TreatmentKind};
use crate::walls::Wall;
use serde::{Deserialize, Serialize};
use std::sync::Arc;
use ts_rs::TS;

/// Kind of a fault.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum FaultKind {
    /// A knock, or a jump from one sample to the next.
    Jolt,
    /// The camera stands still in the middle of its move.
    Stop,
    /// Lost: the subject is out of the picture for a while.
    Lost,
    /// An axis is faster than its machine goes, or past an end stop.
    Limit,
    /// The lens comes too near to something or somebody.
    Near,
    /// Something stands between the lens and whom the move is about.
    Covered,
}

impl FaultKind {
    /// All of them, in the order in which they are looked for.
    pub const ALL: [FaultKind; 6] = [
        FaultKind::Jolt,
        FaultKind::Stop,
        FaultKind::Lost,
        FaultKind::Limit,
        FaultKind::Near,
        FaultKind::Covered,
    ];

    fn look(self) -> &'static dyn Look {
        match self {
            FaultKind::Jolt => &jolt::Jolt,
            FaultKind::Stop => &stop::Stop,
            FaultKind::Lost => &lost::OutOfFrame,
            FaultKind::Limit => &limit::Limit,
            FaultKind::Near => &near::Near,
            FaultKind::Covered => &covered::Covered,
        }
    }
}

/// Bad second: a fault with its place and amount.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Fault {
    /// Kind of the fault.
    pub kind: FaultKind,
    /// Sentence that says the fault.
    pub what: String,
    /// When it begins, seconds.
    pub from_s: f64,
    /// End of the fault, seconds.
    pub to_s: f64,
    /// Unit of the amount.
    pub unit: &'static str,
    /// Amount of the fault before mending.
    pub before: f64,
}

/// Remedy of a bad second.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Remedy {
    /// How bad it would be.
    pub after: f64,
    /// The smallest treatment that mends it.
    pub treatment: Treatment,
}

/// Surroundings of a move that is searched for faults.
#[derive(Clone, Copy)]
pub struct Surroundings<'a> {
    /// Camera of the move.
    pub camera: &'a Camera,
    /// Everybody over time.
    pub people: &'a SubjectPoints,
    /// Name of a performer.
    pub name: &'a dyn Fn(PerformerId) -> String,
    /// Walls around the machine.
    pub walls: &'a [Wall],
    /// Obstacles that may cover the subject; none where they are not known.
    pub before: Option<Before<'a>>,
}

/// A move as it is looked through.
struct Seen<'a> {
    motion: &'a Motion,
    context: &'a Context<'a>,
    around: Surroundings<'a>,
    track: Track,
}

/// Something that was found.
struct Found {
    what: String,
    from_s: f64,
    to_s: f64,
    unit: &'static str,
    /// Amount of the fault.
    amount: f64,
    /// Amount from which it is no fault any more.
    bound: f64,
    /// Index of the performer or axis, or another number that tells faults of one kind apart.
    of: usize,
    /// From the mildest on.
    remedies: Vec<Treatment>,
}

impl Found {
    fn told(self, kind: FaultKind) -> Fault {
        let Found { what, from_s, to_s, unit, amount: before, .. } = self;
        Fault { kind, what, from_s, to_s, unit, before }
    }
}

/// How faults of a kind are found.
trait Look: Sync {
    /// In order of time.
    fn find(&self, seen: &Seen) -> Vec<Found>;
    /// How bad something that was found is in what is seen now.
    fn amount(&self, found: &Found, seen: &Seen) -> f64;
}

/// Two that are nearer than this are one, seconds.
const APART_S: f64 = 0.4;
/// A time that says which one is meant is as near, seconds.
const SAME_S: f64 = 1e-6;
/// Most faults of a kind that are told: who has more looks at the curves.
const MOST: usize = 40;

/// The bad seconds of a motion, in order of time.
pub fn faults(now: &Motion, context: &Context, around: Surroundings) -> Vec<Fault> {
    if now.is_empty() {
        return Vec::new();
    }
    let seen = Seen::of(now, context, around);
    let of = |kind: FaultKind| told(kind, &seen).into_iter().map(move |found| found.told(kind));
    let mut faults: Vec<Fault> = FaultKind::ALL.into_iter().flat_map(of).collect();
    faults.sort_by(|a, b| a.from_s.total_cmp(&b.from_s));
    faults
}

/// What mends the bad second of a kind that begins at a time, of a move with a list of treatments; none
/// where nothing here does, or where there is no such second. `evaluate` works out the move with another
/// list, where it can; `pause` is called again and again.
pub fn remedy(
    (kind, from_s): (FaultKind, f64),
    list: &[Treatment],
    context: &Context,
    around: Surroundings,
    evaluate: &dyn Fn(&[Treatment]) -> Option<Arc<Motion>>,
    pause: &dyn Fn(),
) -> Option<Remedy> {
    let now = evaluate(list).filter(|now| !now.is_empty())?;
    let all = told(kind, &Seen::of(&now, context, around));
    let found = all.into_iter().find(|found| (found.from_s - from_s).abs() < SAME_S)?;
    let fits = TreatmentKind::fitting(context.axes());
    let can = |t: &&Treatment| fits.contains(&t.kind.name()) && t.check().is_ok();
    let mut best: Option<Remedy> = None;
    for treatment in found.remedies.iter().filter(can) {
        pause();
        let Some(mended) = evaluate(&with(list, treatment.clone())) else { continue };
        let after = kind.look().amount(&found, &Seen::of(&mended, context, around));
        if best.as_ref().is_none_or(|best| after < best.after) {
            best = Some(Remedy { after, treatment: treatment.clone() });
        }
        if after <= found.bound {
            break;
        }
    }
    best.filter(|best| best.after <= found.bound || best.after < 0.5 * found.amount)
}

/// A list of treatments with one more, after those that work where it does.
pub fn with(list: &[Treatment], one: Treatment) -> Vec<Treatment> {
    let place = list.iter().position(|t| t.kind.level() > one.kind.level()).unwrap_or(list.len());
    let mut list = list.to_vec();
    list.insert(place, one);
    list
}

fn told(kind: FaultKind, seen: &Seen) -> Vec<Found> {
    let mut found = kind.look().find(seen);
    found.retain(|f| f.to_s >= seen.motion.begins_s);
    found.truncate(MOST);
    found
}

impl<'a> Seen<'a> {
    fn of(motion: &'a Motion, context: &'a Context<'a>, around: Surroundings<'a>) -> Seen<'a> {
        Seen { motion, context, around, track: motion.track(context.rig) }
    }

    fn rate_hz(&self) -> f64 {
        self.motion.samples.rate_hz()
    }

    /// The samples from one look to the next, of so many looks a second.
    fn stride(&self, looked_hz: f64) -> usize {
        ((self.rate_hz() / looked_hz).round() as usize).max(1)
    }

    /// The samples from a time to another one, both included.
    fn samples(&self, from_s: f64, to_s: f64) -> std::ops::RangeInclusive<usize> {
        let last = self.motion.samples.len() - 1;
        let at = |time_s: f64| ((time_s * self.rate_hz()).round().max(0.0) as usize).min(last);
        at(from_s)..=at(to_s)
    }

    /// The stretches of time in which an amount, sample by sample, is more than what is usual there:
    /// when, and the sample at which it is the most over it. Those that are near one another are one.
    fn stretches(&self, amounts: &[f64], usual: &dyn Fn(usize) -> f64) -> Vec<(f64, f64, usize)> {
        let mut found: Vec<(f64, f64, usize)> = Vec::new();
        for (i, amount) in amounts.iter().enumerate().filter(|(i, amount)| **amount > usual(*i)) {
            let time_s = i as f64 / self.rate_hz();
            match found.last_mut() {
                Some((_, to_s, most)) if time_s - *to_s < APART_S => {
                    *to_s = time_s;
                    if amount / usual(i) > amounts[*most] / usual(*most) {
                        *most = i;
                    }
                }
                _ => found.push((time_s, time_s, i)),
            }
        }
        found
    }
}

/// A treatment that works from a time to another one, coming and going outside of it.
fn around(kind: TreatmentKind, from_s: f64, to_s: f64, edge_s: f64) -> Treatment {
    let range = Span { from_s: from_s - edge_s, to_s: to_s + edge_s, ease_in_s: edge_s, ease_out_s: edge_s };
    Treatment { scope: Scope { range: Some(range), axes: None }, ..kind.into() }
}

/// Everything under a bell, the lens where it is asked for, wholly for as far as the bell reaches.
fn under_bell(sigma_s: f64, lens: bool, from_s: f64, to_s: f64) -> Treatment {
    let by = Some(SmoothBy::Gaussian { sigma_s });
    let smooth = Smooth { machine: by, head: by, lens: by.filter(|_| lens) };
    around(TreatmentKind::Smooth(smooth), from_s - 2.0 * sigma_s, to_s + 2.0 * sigma_s, 0.1 + sigma_s)
}
