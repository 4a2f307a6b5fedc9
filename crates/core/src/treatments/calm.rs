//! How much smoothing it takes to make a move so calm.
//!
//! **Method.** Shake falls as a filter gets stronger. Its strength is doubled until the wished shake is
//! reached, and then bisected in its logarithm; so the least that does it is found. Position is looked
//! for first, by the machine's axes, then rotation by the head's, as the machine then goes. Where that
//! would take the camera farther from where it was than is allowed, the strongest that does not is
//! taken instead, and is said to be.

use super::questions::{Answer, Ask, Asked};
use super::{Smooth, SmoothBy, Treat, TreatmentKind};
use crate::measures::{Departure, ShakeFigure, departure, shake};
use crate::motion::{Context, Motion};
use crate::params::{Invalid, Param, within};
use crate::track::Track;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Filter that calms a move.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum CalmBy {
    /// Bell curve as the filter.
    #[default]
    Bell,
    /// A low pass, which departs less.
    LowPass,
}

/// How calm a move shall be, and how far it may depart for it.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct CalmGoal {
    /// Factor by which the shake of the worst second is to fall, of position and of rotation.
    pub times: f64,
    /// Filter that calms the move.
    pub by: CalmBy,
    /// No farther than this from where it was, centimetres.
    pub within_cm: f64,
    /// No farther than this from where it looked, degrees.
    pub within_deg: f64,
}

impl Default for CalmGoal {
    /// Nothing yet, within what a move can bear.
    fn default() -> CalmGoal {
        CalmGoal { times: 1.0, by: CalmBy::Bell, within_cm: 10.0, within_deg: 3.0 }
    }
}

fn times() -> Param {
    Param::number("times", "calm", "×", 1.0, 50.0)
        .start(1.0)
        .log()
        .hint("So many times less shake in its worst second; the least smoothing that does it is found.")
}

fn bounds() -> [Param; 2] {
    let bound = |path, unit, most| Param::number(path, "calm within", unit, 0.01, most).log();
    [bound("within_cm", "cm", 1000.0), bound("within_deg", "°", 180.0)]
}

impl Ask for CalmGoal {
    const OF: &'static str = "smooth";
    const WORDS: (&'static str, &'static str) =
        ("Calm", "Finds the least smoothing that makes the move so calm, and what it takes.");
    const ASKED: Asked = Asked::Set;
    const SETS: &'static [&'static str] = &["machine", "head"];

    fn params() -> Vec<Param> {
        let ways = [("bell", "bell curve"), ("low_pass", "low pass: departs less")];
        vec![times(), Param::choice("by", "by", &ways), Param::row("within", bounds().to_vec())]
    }

    fn check(&self) -> Result<(), Invalid> {
        let [cm, deg] = bounds();
        within(&times(), self.times).and(within(&cm, self.within_cm)).and(within(&deg, self.within_deg))
    }

    fn answer(
        &self,
        of: &TreatmentKind,
        before: &Motion,
        context: &Context,
        rest: &dyn Fn(),
    ) -> Option<Answer> {
        let TreatmentKind::Smooth(_) = of else { return None };
        let Calm { smooth, told, .. } = calm(before, context, *self, rest);
        Some(Answer { to: Some(TreatmentKind::Smooth(smooth)), short: told, ..Answer::default() })
    }
}

/// Result for position or rotation, in centimetres or degrees.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Calmed {
    /// Shake in the worst second before.
    pub raw: f64,
    /// Wished amount of shake.
    pub wished: f64,
    /// Reached amount of shake.
    pub reached: f64,
    /// Departure from the raw take.
    pub departure: f64,
    /// Departure that the wished shake would need; missing where the wish is met.
    pub would_depart: Option<f64>,
}

/// The smoothing that makes a move calm.
#[derive(Clone, Debug, PartialEq)]
pub struct Calm {
    /// The least that does it, or the nearest that is allowed.
    pub smooth: Smooth,
    /// Missing where there is no shake to speak of.
    pub position: Option<Calmed>,
    /// Missing where there is no shake to speak of.
    pub rotation: Option<Calmed>,
    /// Sentences about wishes that were not met, and the departure that each would need.
    pub told: Vec<String>,
}

/// Strengths are standard deviations in seconds: of the bell, or of the one that reaches as far as the
/// low pass.
const WEAKEST_S: f64 = 0.01;
const STRONGEST_S: f64 = 10.0;
/// Halvings of the last doubling: the strength is found within 2 %.
const HALVINGS: usize = 5;
/// Less shake than this is none, centimetres and degrees.
const NONE: f64 = 1e-3;

fn smooth_by(by: CalmBy, strength_s: f64) -> SmoothBy {
    // Half of a wave is left where a bell of σ has it at √(ln 2 / 2)/(πσ).
    let half_hz = (std::f64::consts::LN_2 / 2.0).sqrt() / (std::f64::consts::PI * strength_s);
    let three = |v: f64| {
        let step = 10f64.powf(v.log10().floor() - 2.0);
        (v / step).round() * step
    };
    match by {
        CalmBy::Bell => SmoothBy::Gaussian { sigma_s: three(strength_s) },
        CalmBy::LowPass => SmoothBy::LowPass { cut_hz: three(half_hz).clamp(0.05, 20.0) },
    }
}

/// Position or rotation of a move, as it is looked for.
struct Search<'a> {
    before: &'a Motion,
    raw: &'a Track,
    context: &'a Context<'a>,
    /// The smoothing with this part of it set.
    set: &'a dyn Fn(SmoothBy) -> Smooth,
    by: CalmBy,
    /// Called before each trial.
    rest: &'a dyn Fn(),
    /// From shake of position and rotation, and departure of both, those of this part.
    pick: fn([f64; 2]) -> f64,
}

impl Search<'_> {
    /// Shake and departure under a strength.
    fn under(&self, strength_s: f64) -> (f64, f64) {
        (self.rest)();
        let smooth = (self.set)(smooth_by(self.by, strength_s));
        let track = smooth.apply(self.before, self.context).track(self.context.rig);
        let off = departure(&track, self.raw).unwrap_or(Departure::NONE);
        let worst = worst_seconds(&track, &self.before.cuts);
        ((self.pick)(worst), (self.pick)([off.position_cm, off.rotation_deg]))
    }

    /// The weakest that is good, to within a few per cent; the strongest there is where none is.
    fn weakest(&self, good: impl Fn((f64, f64)) -> bool) -> f64 {
        let mut strong = WEAKEST_S;
        while strong < STRONGEST_S && !good(self.under(strong)) {
            strong = (strong * 2.0).min(STRONGEST_S);
        }
        let mut weak = strong / 2.0;
        for _ in 0..HALVINGS {
            let middle = (weak * strong).sqrt();
            if good(self.under(middle)) { strong = middle } else { weak = middle }
        }
        strong
    }

    fn find(&self, raw: f64, wished: f64, within: f64) -> Option<(SmoothBy, Calmed)> {
        if raw < NONE || wished >= raw {
            return None;
        }
        let strength = self.weakest(|(shake, _)| shake <= wished);
        let (shake, off) = self.under(strength);
        let had = shake <= wished && off <= within;
        // A hair weaker than the weakest that goes too far.
        let taken = if had { strength } else { strength.min(self.weakest(|(_, off)| off > within) / 1.03) };
        let (reached, departure) = self.under(taken);
        let would_depart = (!had).then_some(off);
        Some((smooth_by(self.by, taken), Calmed { raw, wished, reached, departure, would_depart }))
    }
}

fn worst_seconds(track: &Track, cuts: &[f64]) -> [f64; 2] {
    shake(track, cuts).map(|s| s.map_or(0.0, |s: ShakeFigure| s.worst_second))
}

/// The smoothing that makes `before` as calm as is wished. `rest` is called between trials: somebody may
/// wait for something more urgent.
pub fn calm(before: &Motion, context: &Context, wish: CalmGoal, rest: &dyn Fn()) -> Calm {
    let raw = before.track(context.rig);
    let [cm, deg] = worst_seconds(&raw, &before.cuts);
    let by = wish.by;
    let machine = Search {
        before,
        raw: &raw,
        context,
        set: &|by| Smooth { machine: Some(by), ..Smooth::default() },
        by,
        rest,
        pick: |[position, _]| position,
    };
    let position = machine.find(cm, cm / wish.times, wish.within_cm);
    let of_machine = position.map(|(by, _)| by);
    let head = Search {
        set: &|by| Smooth { machine: of_machine, head: Some(by), ..Smooth::default() },
        pick: |[_, rotation]| rotation,
        ..machine
    };
    let rotation = head.find(deg, deg / wish.times, wish.within_deg);
    let smooth = Smooth { machine: of_machine, head: rotation.map(|(by, _)| by), lens: None };
    let (position, rotation) = (position.map(|p| p.1), rotation.map(|r| r.1));
    let told = [("position", position, " cm", wish.within_cm), ("rotation", rotation, "°", wish.within_deg)];
    let told = told.into_iter().filter_map(|(word, calmed, unit, within)| {
        let Calmed { wished, reached, would_depart, .. } = calmed?;
        let far = would_depart?;
        Some(format!(
            "{word} comes to {reached:.2}{unit} within {within}{unit} and no calmer; {wished:.2}{unit} would depart by {far:.1}{unit}"
        ))
    });
    Calm { smooth, position, rotation, told: told.collect() }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lens::Camera;
    use crate::rigs::{Rig, RigSpec, TelescopicCrane};
    use crate::samples::Samples;
    use crate::time::Rate;

    const WISH: CalmGoal = CalmGoal { times: 10.0, by: CalmBy::Bell, within_cm: 50.0, within_deg: 20.0 };

    /// Eight seconds of a crane that swings and pans, shaken at 3 Hz.
    fn shaken(rig: &dyn Rig) -> Motion {
        let row = |k: usize| {
            let t = k as f64 / 120.0;
            let wave = |hz: f64| (std::f64::consts::TAU * hz * t).sin();
            [0.2 * t + 0.002 * wave(3.0), 0.1, 5.0, -0.3 * t + 0.006 * wave(3.5), -0.1, 0.0, 28.0, 5.0, 4.0]
        };
        Motion::of(Samples::new(120.0, 9, (0..=960).flat_map(row).collect()), rig.axes())
    }

    #[test]
    fn the_least_smoothing_that_is_calm_enough_is_found() {
        let rig = RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default());
        let (before, context) = (shaken(&*rig), Context::of(&*rig, &Camera::default(), Rate::FILM));
        for by in [CalmBy::Bell, CalmBy::LowPass] {
            let found = calm(&before, &context, CalmGoal { by, ..WISH }, &|| ());
            assert!(found.told.is_empty(), "{:?}", found.told);
            for part in [found.position.unwrap(), found.rotation.unwrap()] {
                assert!(part.reached <= part.wished && part.reached > 0.6 * part.wished, "{by:?} {part:?}");
                assert!(part.departure > 0.0 && part.would_depart.is_none());
            }
            // What is said is what the treatment does.
            let treated = found.smooth.apply(&before, &context);
            let worst = worst_seconds(&treated.track(&*rig), &[]);
            assert_eq!(worst[1], found.rotation.unwrap().reached);
        }
    }

    #[test]
    fn what_cannot_be_had_within_its_bound_is_told_with_what_it_would_take() {
        let rig = RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default());
        let (before, context) = (shaken(&*rig), Context::of(&*rig, &Camera::default(), Rate::FILM));
        let found = calm(&before, &context, CalmGoal { within_deg: 0.2, ..WISH }, &|| ());
        let rotation = found.rotation.unwrap();
        assert!(rotation.departure <= 0.2 && rotation.departure > 0.15, "{rotation:?}");
        assert!(rotation.reached > rotation.wished && rotation.would_depart.unwrap() > 0.2);
        assert!(found.told.len() == 1 && found.told[0].contains("would depart by"), "{:?}", found.told);
        // A move that does not shake is left alone.
        let still = Motion { samples: Samples::new(120.0, 9, [0.1; 9].repeat(961)), ..before };
        let none = calm(&still, &context, WISH, &|| ());
        assert_eq!((none.smooth, none.position, none.rotation), (Smooth::default(), None, None));
        assert!(CalmGoal { times: f64::NAN, ..WISH }.check().is_err());
    }
}
