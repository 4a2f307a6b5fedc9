//! Chance that is the same every time, and the values that outside libraries made.
#![allow(dead_code)]

use proptest::test_runner::{RngAlgorithm, TestRng};
use rand_core::Rng;
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
