//! Treatments that go together, by what they do to the picture.

use super::shake::{ENGINE, Noise, SHOULDER, SHOUT};
use super::{Aim, Drift, Focus, Retime, RetimeBy, Shake, Smooth, SmoothBy, Treatment, TreatmentKind};
use serde::Serialize;
use ts_rs::TS;

/// Several treatments under a name.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct PresetTreatments {
    /// Name of the preset: the look of the picture.
    pub name: String,
    /// Sentence about its treatments.
    pub hint: String,
    /// In the order in which they work.
    pub treatments: Vec<Treatment>,
}

fn bell(sigma_s: f64) -> TreatmentKind {
    let by = Some(SmoothBy::Gaussian { sigma_s });
    TreatmentKind::Smooth(Smooth { machine: by, head: by, lens: None })
}

/// About a shoulder, so far behind the lens, or about the lens itself.
fn shaken(by: Noise, pivot_m: f64) -> TreatmentKind {
    TreatmentKind::Shake(Shake { pivot_m, ..Shake::of(by) })
}

/// Presets that ship with the application.
pub fn presets() -> Vec<PresetTreatments> {
    let preset = |name: &str, hint: &str, kinds: Vec<TreatmentKind>| PresetTreatments {
        name: name.into(),
        hint: hint.into(),
        treatments: kinds.into_iter().map(Treatment::from).collect(),
    };
    let eased = TreatmentKind::Retime(Retime { way: RetimeBy::Ease { start_s: 0.8, stop_s: 0.8 } });
    let watched = TreatmentKind::Aim(Aim { zone_percent: 8.0, lag_s: 0.3, up: 0.25, ..Aim::default() });
    vec![
        preset("calm", "The shake of hands is taken out; the move stays.", vec![bell(0.25)]),
        preset(
            "heavy crane",
            "Starts and stops softly, goes evenly and never quite stands.",
            vec![eased, bell(0.4), TreatmentKind::Drift(Drift::default())],
        ),
        preset(
            "watchful",
            "Keeps whoever is in the picture in it, as an operator would, and sharp.",
            vec![bell(0.15), watched, TreatmentKind::Focus(Focus::default())],
        ),
        preset("on a shoulder", "Calm, and breathing a little.", vec![bell(0.2), shaken(SHOULDER, 0.3)]),
        preset("in the middle of it", "Pushed about: large, quick shake.", vec![shaken(SHOUT, 0.3)]),
        preset(
            "on a running engine",
            "A fine tremble that does not end.",
            vec![bell(0.2), shaken(ENGINE, 0.0)],
        ),
    ]
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::treatments::check_list;

    #[test]
    fn every_preset_can_be_and_says_what_it_does() {
        let all = presets();
        for preset in &all {
            assert_eq!(check_list(&preset.treatments), Ok(()), "{}", preset.name);
            assert!(preset.hint.ends_with('.'));
        }
        let names: std::collections::BTreeSet<_> = all.iter().map(|p| &p.name).collect();
        assert_eq!(names.len(), all.len());
    }
}
