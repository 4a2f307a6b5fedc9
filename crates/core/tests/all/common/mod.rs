//! Chance that is the same every time, and the values that outside libraries made.
#![allow(dead_code)]

use proptest::test_runner::{RngAlgorithm, TestRng};
use rand_core::Rng;
use rovnek_core::ids::{PerformanceId, PerformerId};
use rovnek_core::performer::{Part, PartMotion, Performer, Posture, Route, Waypoint};
use serde_json::Value;

/// The same throws in every run.
pub struct Dice(TestRng);

impl Dice {
    pub fn new() -> Dice {
        Dice(TestRng::deterministic_rng(RngAlgorithm::ChaCha))
    }

    pub fn between(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * (self.0.next_u64() as f64 / u64::MAX as f64)
    }
}

/// A file of `reference/values`.
pub fn values(name: &str) -> Value {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../reference/values");
    serde_json::from_str(&std::fs::read_to_string(format!("{folder}/{name}.json")).unwrap()).unwrap()
}

/// Somebody who walks from place to place.
pub fn walks(id: u32, places: &[(f64, [f64; 3])]) -> Performer {
    let at = |(time_s, position): &(f64, [f64; 3])| Waypoint {
        time_s: *time_s,
        stop_s: 0.0,
        position: *position,
        facing_deg: None,
        posture: Posture::Stand,
        mark: None,
    };
    let route = Route { waypoints: places.iter().map(at).collect::<Vec<_>>().into() };
    let part = Part { performance: PerformanceId(1), rides: None, motion: PartMotion::Walks { route } };
    Performer {
        id: PerformerId(id),
        name: format!("person {id}"),
        height_m: 1.75,
        build: 1.0,
        parts: vec![part],
    }
}
