//! A jump within one camera, where something recorded jumps on purpose: what smooths, measures and draws
//! never crosses it. Nothing moves by it. A jump is put by eye, to a frame: where the camera makes one step
//! within a frame of that time that is larger by far than those around it, the cut is at that step.

use super::{Level, Treat};
use crate::motion::{Context, Motion};
use crate::params::{Invalid, Param, within};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Time of a jump.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
pub struct Jump {
    /// Scene time of the first instant after it.
    pub at_s: f64,
}

/// Inner cut treatment.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct InnerCut {
    /// In order of time.
    pub jumps: Vec<Jump>,
}

impl Default for InnerCut {
    fn default() -> InnerCut {
        InnerCut { jumps: vec![Jump::default()] }
    }
}

/// Most jumps in one treatment.
const MOST: usize = 200;

fn at() -> Param {
    Param::number("at_s", "at", "s", 0.0, 36_000.0).step(0.01)
}

impl Treat for InnerCut {
    const LEVEL: Level = Level::Machine;
    const WORDS: (&'static str, &'static str) = (
        "Inner cut",
        "A jump within one camera, on purpose: what smooths, measures and draws never crosses it.",
    );

    fn params() -> Vec<Param> {
        vec![Param::list("jumps", "jumps", MOST, vec![Param::row("at", vec![at()])])]
    }

    fn check(&self) -> Result<(), Invalid> {
        if self.jumps.is_empty() || self.jumps.len() > MOST {
            return Err(Invalid::at("jumps", format!("give 1 to {MOST} times at which it jumps")));
        }
        let here = |i: usize, e: Invalid| Invalid { path: format!("jumps/{i}/{}", e.path), ..e };
        self.jumps
            .iter()
            .enumerate()
            .try_for_each(|(i, jump)| within(&at(), jump.at_s).map_err(|e| here(i, e)))
    }

    fn apply(&self, motion: &Motion, context: &Context) -> Motion {
        let mut cuts = motion.cuts.clone();
        let inside = |jump: &&Jump| jump.at_s > 0.0 && jump.at_s < motion.samples.duration_s();
        cuts.extend(self.jumps.iter().filter(inside).map(|jump| at_step(motion, context, jump.at_s)));
        cuts.sort_by(f64::total_cmp);
        cuts.dedup();
        Motion { cuts, ..motion.clone() }
    }
}

/// A step is a jump when it is so many times as large as any other one around it.
const JUMPS: f64 = 4.0;
/// Angle that counts as a metre of way, radians.
const AS_FAR: f64 = 1.0;

/// The time of the first sample after the largest step within a frame of a time, where that is a jump; else
/// that time.
fn at_step(motion: &Motion, context: &Context, at_s: f64) -> f64 {
    let (hz, last) = (motion.samples.rate_hz(), motion.samples.len() - 1);
    let frame = (hz / context.rate.hz()).ceil() as usize;
    let at = (at_s * hz).round() as usize;
    let from = at.saturating_sub(2 * frame).max(1);
    let steps: Vec<(usize, f64)> = (from..=(at + 2 * frame).min(last))
        .map(|k| {
            let (a, b) = (motion.pose(k - 1, context.rig), motion.pose(k, context.rig));
            (k, a.position.distance(b.position) + a.angle_to(b) / AS_FAR)
        })
        .collect();
    let near = |k: usize| (k as f64 - at_s * hz).abs() <= hz / context.rate.hz() + 1e-6;
    let found = steps.iter().filter(|(k, _)| near(*k)).max_by(|a, b| a.1.total_cmp(&b.1));
    let Some(&(k, step)) = found else { return at_s };
    let other = steps.iter().filter(|(other, _)| *other != k).map(|(_, step)| *step).fold(0.0, f64::max);
    if step > JUMPS * other && step > 0.0 { k as f64 / hz } else { at_s }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lens::Camera;
    use crate::measures::figures;
    use crate::rigs::{RigSpec, TelescopicCrane};
    use crate::samples::Samples;
    use crate::time::Rate;
    use crate::treatments::{Smooth, SmoothBy, Treatment, TreatmentKind, treated};

    #[test]
    fn nothing_is_smoothed_or_measured_across_it_and_nothing_moves_by_it() {
        let rig = RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default());
        let context = Context::of(&*rig, &Camera::default(), Rate::FILM);
        let row = |k: usize| {
            let mut row: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
            row[0] = if k < 480 { 0.0 } else { 0.5 };
            row
        };
        let values = (0..=1200).flat_map(row).collect();
        let raw = Motion::plain(Samples::new(120.0, rig.axes().len(), values));
        let by = Some(SmoothBy::Gaussian { sigma_s: 0.3 });
        let smooth = TreatmentKind::Smooth(Smooth { machine: by, head: by, lens: None });
        let jumps = vec![Jump { at_s: 4.0 }, Jump { at_s: 99.0 }];
        let cut = TreatmentKind::InnerCut(InnerCut { jumps });
        let list = |kinds: &[&TreatmentKind]| -> Vec<Treatment> {
            kinds.iter().map(|k| Treatment::from((*k).clone())).collect()
        };
        let smeared = treated(&raw, &list(&[&smooth]), &context);
        let kept = treated(&raw, &list(&[&cut, &smooth]), &context);
        assert_ne!(smeared.samples, raw.samples);
        assert_eq!((&kept.samples, &kept.cuts), (&raw.samples, &vec![4.0]));
        let fast = |m: &Motion| figures(&m.track(&*rig), &m.cuts).top_speed_m_s;
        assert!(fast(&raw) > 10.0 && fast(&kept) < 1e-9);
        // Put by eye, a frame beside it, it is at the jump; farther away it is where it was put.
        for (put, at) in [(4.0 - 0.9 / 24.0, 4.0), (4.0 + 0.9 / 24.0, 4.0), (4.2, 4.2)] {
            let cut = TreatmentKind::InnerCut(InnerCut { jumps: vec![Jump { at_s: put }] });
            assert_eq!(treated(&raw, &list(&[&cut]), &context).cuts, [at]);
        }
        // What was a cut stays one, once.
        let twice = treated(&raw, &list(&[&cut, &cut]), &context);
        assert_eq!(twice.cuts, [4.0]);
        assert!(InnerCut { jumps: vec![] }.check().is_err());
        let bad = InnerCut { jumps: vec![Jump { at_s: -1.0 }] };
        assert_eq!(bad.check().unwrap_err().path, "jumps/0/at_s");
    }
}
