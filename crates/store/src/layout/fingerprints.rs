//! Numbers of what performers and pieces do as earlier versions made them, to compare takes that were rolled
//! then. Takes that are rolled today keep those of [`crate::versions`].

use crate::model::Scene;
use crate::things::RowId;
use rovnek_core::content::{BASIS, fnv};
use rovnek_core::ids::PerformanceId;
use rovnek_core::performer::Part;
use serde::Serialize;
use std::collections::{BTreeMap, BTreeSet};

/// Fingerprints of what everybody and everything does in a performance: equal as long as that is. Kept
/// for each row until it is touched.
#[derive(Default)]
pub(crate) struct Fingerprints(BTreeMap<(RowId, PerformanceId), String>);

impl Fingerprints {
    /// Fingerprints in a performance, by name.
    pub fn of(&mut self, scene: &Scene, performance: PerformanceId) -> BTreeMap<String, String> {
        let mut all = BTreeMap::new();
        for performer in scene.performers.iter() {
            if let Some(part) = performer.part(performance) {
                let fingerprint = || fingerprint(&(performer.height_m, performer.build, part as &Part));
                let known = self.0.entry((performer.id.into(), performance)).or_insert_with(fingerprint);
                all.insert(performer.name.clone(), known.clone());
            }
        }
        for piece in scene.pieces.iter() {
            if piece.moves(performance) && !piece.hidden {
                let fingerprint = || match (piece.route(performance), piece.rides) {
                    (Some(route), None) => fingerprint(route),
                    (route, rides) => fingerprint(&(route, rides, piece.position, piece.turn_deg)),
                };
                let known = self.0.entry((piece.id.into(), performance)).or_insert_with(fingerprint);
                all.insert(piece.name.clone(), known.clone());
            }
        }
        all
    }

    /// Forgets the fingerprints of rows.
    pub fn forget(&mut self, rows: &BTreeSet<RowId>) {
        self.0.retain(|(row, _), _| !rows.contains(row));
    }
}

/// The hash of a thing as JSON, as takes of earlier versions have it. The numbers of waypoints are left out:
/// they say nothing of what is done, and takes were rolled without. A piece that carries is its number alone.
fn fingerprint<T: Serialize>(of: &T) -> String {
    let mut json = serde_json::to_string(of).expect("parameters are plain data");
    if let Some((before, after)) = json.split_once("\"rides\":{\"by\":\"piece\",\"id\":")
        && let Some((id, after)) = after.split_once('}')
    {
        json = format!("{before}\"rides\":{id}{after}");
    }
    let mut parts = json.split("{\"id\":");
    let mut plain = parts.next().unwrap_or_default().to_string();
    for part in parts {
        plain.push('{');
        plain.push_str(part.trim_start_matches(|c: char| c.is_ascii_digit()).trim_start_matches(','));
    }
    format!("{:016x}", fnv(BASIS, plain.as_bytes()))
}

#[cfg(test)]
mod tests {
    use super::{BASIS, fingerprint, fnv};
    use rovnek_core::performer::{Part, Route, Waypoint};

    /// The fingerprint of this walk as the first version that took fingerprints made it.
    #[test]
    fn prints_are_those_of_earlier_versions_however_waypoints_are_numbered() {
        let way = r#"{"waypoints":[{"time_s":0.0,"stop_s":0.0,"position":[1.0,0.0,2.0],"posture":"stand"},{"time_s":3.0,"stop_s":0.0,"position":[4.0,0.0,2.0],"facing_deg":90.0,"posture":"stand"}]}"#;
        let fnv = |text: &str| format!("{:016x}", fnv(BASIS, text.as_bytes()));
        let mut route: Route = serde_json::from_str(way).unwrap();
        assert_eq!(fingerprint(&route), fnv(way));
        let last: Waypoint = route.waypoints[1].clone();
        route.waypoints = [route.waypoints[0].clone()].into_iter().collect();
        route.waypoints.push(last);
        assert_eq!(fingerprint(&route), fnv(way));
        // Who rode a piece, when only pieces could be ridden.
        let part = format!(r#"{{"performance":1,"rides":11,"motion":"walks","route":{way}}}"#);
        let now: Part = serde_json::from_str(&part).unwrap();
        assert_eq!(fingerprint(&now), fnv(&part));
    }
}
