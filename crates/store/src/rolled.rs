//! What a take was rolled against, and how a pass is placed over another.

use crate::Result;
use crate::history::Table;
use crate::model::{Scene, from_column};
use rovnek_core::performer::Part;
use rusqlite::Row;
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, BTreeSet};
use ts_rs::TS;

/// What a take was rolled against and by what.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct Rolled {
    /// The performance that played; 0 where that is not known.
    pub performance: u32,
    /// Everybody and everything that moved in it, with a fingerprint of what they did.
    pub movers: BTreeMap<String, String>,
    /// Seconds of the scene in a second of the floor.
    pub clock: Option<f64>,
    /// The device that moved the camera.
    pub device: Option<String>,
}

/// How a pass is placed over a take.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct PassPlacement {
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
    /// How it is placed there.
    #[serde(flatten)]
    pub placement: PassPlacement,
    /// It is left out of the take.
    pub muted: bool,
}

impl Rolled {
    /// Who or what has changed since, by name; `now` are the fingerprints of its performance.
    pub fn changed(&self, scene: &Scene, now: &BTreeMap<String, String>) -> Vec<String> {
        if self.performance == 0 {
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

/// Fingerprints of what everybody and everything does in a performance: equal as long as that is. Kept
/// for each row until it is touched.
#[derive(Default)]
pub(crate) struct Fingerprints(BTreeMap<(Table, u32, u32), String>);

impl Fingerprints {
    /// Those of a performance, by name.
    pub fn of(&mut self, scene: &Scene, performance: u32) -> BTreeMap<String, String> {
        let mut all = BTreeMap::new();
        for performer in scene.performers.iter() {
            if let Some(part) = performer.part(performance) {
                let fingerprint = || fingerprint(&(performer.height_m, performer.build, part as &Part));
                let known =
                    self.0.entry((Table::Performer, performer.id, performance)).or_insert_with(fingerprint);
                all.insert(performer.name.clone(), known.clone());
            }
        }
        for piece in scene.pieces.iter() {
            if let Some(route) = piece.route(performance).filter(|_| !piece.hidden) {
                let known =
                    self.0.entry((Table::Piece, piece.id, performance)).or_insert_with(|| fingerprint(route));
                all.insert(piece.name.clone(), known.clone());
            }
        }
        all
    }

    /// Of these rows nothing is known any more.
    pub fn forget(&mut self, rows: &BTreeSet<(Table, u32)>) {
        self.0.retain(|(table, id, _), _| !rows.contains(&(*table, *id)));
    }
}

/// The hash of a thing as JSON. The numbers of waypoints are left out: they say nothing of what is
/// done, and takes of earlier versions were rolled without.
fn fingerprint<T: Serialize>(of: &T) -> String {
    let json = serde_json::to_string(of).expect("parameters are plain data");
    let mut parts = json.split("{\"id\":");
    let mut plain = parts.next().unwrap_or_default().to_string();
    for part in parts {
        plain.push('{');
        plain.push_str(part.trim_start_matches(|c: char| c.is_ascii_digit()).trim_start_matches(','));
    }
    format!("{:016x}", fnv(&plain))
}

/// Fowler, Noll and Vo's hash (FNV-1a, 64 bits).
fn fnv(text: &str) -> u64 {
    let take = |h: u64, b: u8| (h ^ u64::from(b)).wrapping_mul(0x100_0000_01b3);
    text.bytes().fold(0xcbf2_9ce4_8422_2325, take)
}

pub(crate) fn pass_of(row: &Row) -> Result<Option<PassOf>> {
    let Some(take) = row.get::<_, Option<u32>>("pass_of")? else { return Ok(None) };
    let placement = from_column("pass", &row.get::<_, String>("pass")?)?;
    Ok(Some(PassOf { take, placement, muted: row.get("muted")? }))
}

#[cfg(test)]
mod tests {
    use super::{fingerprint, fnv};
    use rovnek_core::performer::{Route, Waypoint};

    /// Test vectors of draft-eastlake-fnv, appendix C (from memory).
    #[test]
    fn the_hash_is_the_published_one() {
        let published =
            [("", 0xcbf2_9ce4_8422_2325), ("a", 0xaf63_dc4c_8601_ec8c), ("foobar", 0x8594_4171_f739_67e8)];
        for (text, hash) in published {
            assert_eq!(fnv(text), hash, "{text}");
        }
    }

    /// The fingerprint of this walk as the first version that took fingerprints made it.
    #[test]
    fn prints_are_those_of_earlier_versions_however_waypoints_are_numbered() {
        let way = r#"{"waypoints":[{"time_s":0.0,"stop_s":0.0,"position":[1.0,0.0,2.0],"posture":"stand"},{"time_s":3.0,"stop_s":0.0,"position":[4.0,0.0,2.0],"facing_deg":90.0,"posture":"stand"}]}"#;
        let fnv = |text: &str| format!("{:016x}", fnv(text));
        let mut route: Route = serde_json::from_str(way).unwrap();
        assert_eq!(fingerprint(&route), fnv(way));
        let last: Waypoint = route.waypoints[1].clone();
        route.waypoints = [route.waypoints[0].clone()].into_iter().collect();
        route.waypoints.push(last);
        assert_eq!(fingerprint(&route), fnv(way));
    }
}
