//! What a take was rolled against, and how it lies over another.

use crate::Result;
use crate::model::{Scene, uncolumn};
use rovnek_core::performer::Part;
use rusqlite::Row;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use ts_rs::TS;

/// What a take was rolled against and by what.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct Rolled {
    /// The performance that played; 0 where that is not known.
    pub performance: u32,
    /// Everybody and everything that moved in it, with a print of what they did.
    pub movers: BTreeMap<String, String>,
    /// Seconds of the scene in a second of the floor.
    pub clock: Option<f64>,
    /// The device that moved the camera.
    pub device: Option<String>,
}

/// How a pass lies over a take.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Lies {
    /// As it is called.
    pub name: String,
    /// The sample of the take at which it begins.
    pub at: usize,
    /// The axes it records, by name.
    pub axes: Vec<String>,
    /// How long its joints take, seconds.
    pub blend_s: f64,
}

/// A pass: over which take, and how.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct PassOf {
    /// The take below.
    pub take: u32,
    /// How it lies.
    #[serde(flatten)]
    pub lies: Lies,
    /// It is left out of the take.
    pub muted: bool,
}

impl Rolled {
    /// A roll against a scene as it is now.
    pub fn against(scene: &Scene) -> Rolled {
        Rolled {
            performance: scene.performance,
            movers: prints(scene, scene.performance),
            ..Rolled::default()
        }
    }

    /// Who or what has changed since, by name.
    pub fn changed(&self, scene: &Scene) -> Vec<String> {
        if self.performance == 0 {
            return Vec::new();
        }
        if !scene.performances.iter().any(|p| p.id == self.performance) {
            return vec!["the performance, which is gone".into()];
        }
        let now = prints(scene, self.performance);
        let differs = |name: &&String| now.get(*name) != self.movers.get(*name);
        let mut names: Vec<String> = now.keys().chain(self.movers.keys()).filter(differs).cloned().collect();
        names.sort();
        names.dedup();
        names
    }
}

/// A print of what everybody and everything does in a performance: equal as long as that is.
fn prints(scene: &Scene, performance: u32) -> BTreeMap<String, String> {
    let mut all = BTreeMap::new();
    for performer in &scene.performers {
        if let Some(part) = performer.part(performance) {
            all.insert(performer.name.clone(), print(&(performer.height_m, performer.build, part as &Part)));
        }
    }
    for piece in &scene.pieces {
        if let Some(route) = piece.route(performance).filter(|_| !piece.hidden) {
            all.insert(piece.name.clone(), print(route));
        }
    }
    all
}

/// Fowler, Noll and Vo's hash (FNV-1a, 64 bits) of a thing as JSON.
fn print<T: Serialize>(of: &T) -> String {
    let json = serde_json::to_vec(of).expect("parameters are plain data");
    let hash =
        json.iter().fold(0xcbf2_9ce4_8422_2325_u64, |h, b| (h ^ u64::from(*b)).wrapping_mul(0x100_0000_01b3));
    format!("{hash:016x}")
}

pub(crate) fn pass_of(row: &Row) -> Result<Option<PassOf>> {
    let Some(take) = row.get::<_, Option<u32>>("pass_of")? else { return Ok(None) };
    let lies = uncolumn("pass", &row.get::<_, String>("pass")?)?;
    Ok(Some(PassOf { take, lies, muted: row.get("muted")? }))
}
