//! Treatments that go together, by what they do to the picture.

use super::{
    Aim, Amounts, Drift, Focus, Retime, RetimeBy, Shake, ShakeBy, Smooth, SmoothBy, Treatment, TreatmentKind,
};
use serde::Serialize;
use ts_rs::TS;

/// Several treatments under a name.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct PresetTreatments {
    /// What the picture is like.
    pub name: String,
    /// What is done to it, in a sentence.
    pub hint: String,
    /// In the order in which they work.
    pub treatments: Vec<Treatment>,
}

fn bell(sigma_s: f64) -> TreatmentKind {
    let by = Some(SmoothBy::Gaussian { sigma_s });
    TreatmentKind::Smooth(Smooth { machine: by, head: by, lens: None })
}

fn noise(
    position_cm: [f64; 3],
    rotation_deg: [f64; 3],
    [from_hz, to_hz, falls]: [f64; 3],
    pivot_m: f64,
) -> TreatmentKind {
    let amounts = Amounts { position_cm, rotation_deg };
    TreatmentKind::Shake(Shake {
        pivot_m,
        way: ShakeBy::Noise { amounts, from_hz, to_hz, falls },
        ..Shake::default()
    })
}

/// Those there are; amounts of shake are from memory.
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
        preset(
            "on a shoulder",
            "Calm, and breathing a little.",
            vec![bell(0.2), noise([0.4, 0.5, 0.3], [0.25, 0.3, 0.12], [0.3, 4.0, 1.0], 0.3)],
        ),
        preset(
            "in the middle of it",
            "Pushed about: large, quick shake.",
            vec![noise([1.5, 1.8, 1.0], [1.4, 1.6, 0.9], [0.8, 7.0, 0.4], 0.3)],
        ),
        preset(
            "on a running engine",
            "A fine tremble that does not end.",
            vec![bell(0.2), noise([0.03, 0.08, 0.03], [0.03, 0.06, 0.03], [8.0, 11.5, 0.0], 0.0)],
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
