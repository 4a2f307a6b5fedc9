//! Takes: recorded samples, the conditions of their roll, and passes over them.

use super::Scene;
use rovnek_core::ids::{PerformanceId, SetupId, TakeId};
use rovnek_core::lens::Camera;
use rovnek_core::rigs::Rigging;
use rovnek_core::time::Rate;
use rovnek_core::wheels::HandOn;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use ts_rs::TS;

/// Recorded take. A move holds its treatments.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Take {
    /// Id of the take.
    pub id: TakeId,
    /// The setup it was rolled in.
    pub setup_id: SetupId,
    /// Take number on the slate, unique in the scene.
    pub number: u32,
    /// A name of its own, or nothing.
    pub name: String,
    /// Rating by the operator.
    pub rating: Rating,
    /// Note of the operator.
    pub note: String,
    /// When the roll began, UTC.
    pub rolled_at: String,
    /// Frames a second of the scene as it was rolled.
    pub rate: Rate,
    /// Samples a second.
    pub rate_hz: f64,
    /// Number of samples.
    pub samples: u32,
    /// First to last sample.
    pub length_s: f64,
    /// Camera while the take rolled.
    pub camera: Camera,
    /// Machine while the take rolled.
    pub rig: Rigging,
    /// The names of its columns.
    pub axes: Vec<String>,
    /// The take it is a pass over, and how it is placed there.
    pub pass: Option<PassOf>,
    /// Conditions of the roll.
    pub rolled: Rolled,
    /// Names of performers and pieces that have changed in that performance since.
    pub changed: Vec<String>,
    /// Number of device packets that are kept with the take.
    pub packets: u32,
    /// Still being recorded.
    pub rolling: bool,
    /// Closed by a restart, not by a cut.
    pub recovered: bool,
    /// Words about what went wrong while it rolled.
    pub flags: Vec<String>,
    /// True for a take in the bin.
    pub binned: bool,
}

/// Rating of a take.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
#[allow(missing_docs)]
pub enum Rating {
    #[default]
    None,
    Good,
    Hold,
    No,
}

impl Rating {
    /// Rating as a word; empty without a rating.
    pub fn word(self) -> &'static str {
        match self {
            Rating::None => "",
            Rating::Good => "good",
            Rating::Hold => "hold",
            Rating::No => "no",
        }
    }

    pub(crate) fn of(column: &str) -> Rating {
        let all = [Rating::Good, Rating::Hold, Rating::No];
        all.into_iter().find(|r| r.word() == column).unwrap_or_default()
    }
}

/// Conditions of a roll: performance, clock, people at the wheels.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct Rolled {
    /// The performance that played; 0 where that is not known.
    pub performance: PerformanceId,
    /// Everybody and everything that moved in it, with a fingerprint of what they did.
    pub movers: BTreeMap<String, String>,
    /// Seconds of the scene in a second of the floor.
    pub clock: Option<f64>,
    /// The device that moved the camera.
    pub device: Option<String>,
    /// Holders of the wheels over time; empty where one page without a name had all of them.
    pub hands: Vec<HandOn>,
}

/// How a pass is placed over a take.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct PassPlacement {
    /// Name of the pass.
    pub name: String,
    /// The sample of the take at which it begins.
    pub at: usize,
    /// The axes it records, by name.
    pub axes: Vec<String>,
    /// Length of the joints, seconds.
    pub blend_s: f64,
}

/// A pass: over which take, and how.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct PassOf {
    /// Id of the take below.
    pub take: TakeId,
    /// How it is placed there.
    #[serde(flatten)]
    pub placement: PassPlacement,
    /// It is left out of the take.
    pub muted: bool,
}

impl Rolled {
    /// Names of performers and pieces that have changed since; `now` are the fingerprints of the performance.
    pub fn changed(&self, scene: &Scene, now: &BTreeMap<String, String>) -> Vec<String> {
        if self.performance == PerformanceId(0) {
            return Vec::new();
        }
        if !scene.performances.iter().any(|p| p.id == self.performance) {
            return vec!["the performance, which is gone".into()];
        }
        let differs = |name: &&String| now.get(*name) != self.movers.get(*name);
        let mut names: Vec<String> = now.keys().chain(self.movers.keys()).filter(differs).cloned().collect();
        names.sort();
        names.dedup();
        names
    }
}
