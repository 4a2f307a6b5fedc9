//! The demo production: a tram depot at night, from the files under `demo/`.
//!
//! Its takes are not canned: a list of hand movements is driven through the live floor, faster
//! than the clock, and what the floor records is kept as it would be from a page.

use crate::evaluated::scenery::Scenery;
use crate::floor::recorder::keep;
use crate::floor::staging::staged_alone;
use rovnek_core::axis::AxisGroup;
use rovnek_live::command::Command;
use rovnek_live::floor::{Floor, STEPS_HZ};
use rovnek_store::model::{NewScene, Rating};
use rovnek_store::{Result, Store, StoreError};
use serde::Deserialize;

/// Name of the demo production.
pub const NAME: &str = "Last Tram";

const SCENE: &str = include_str!("../../../demo/scene.json");
const HANDS: &str = include_str!("../../../demo/hands.json");

#[derive(Deserialize)]
struct Hands {
    takes: Vec<Script>,
}

/// A take as the hands made it.
#[derive(Deserialize)]
struct Script {
    setup: usize,
    name: String,
    rating: Rating,
    note: String,
    length_s: f64,
    dial: f64,
    seed: u64,
    /// How unsteady the hands are; 1 is a tired operator.
    tremor: f64,
    /// From when on which axis is held how far.
    hands: Vec<(f64, String, f64)>,
}

/// Fills a new store.
pub fn fill(store: &mut Store) -> Result<()> {
    let damaged = |what: &'static str| move |e: serde_json::Error| StoreError::Damaged(what, e.to_string());
    let scene: NewScene = serde_json::from_str(SCENE).map_err(damaged("demo scene"))?;
    store.begin(&scene)?;
    let hands: Hands = serde_json::from_str(HANDS).map_err(damaged("demo take"))?;
    hands.takes.iter().try_for_each(|script| roll(store, script))
}

fn roll(store: &mut Store, script: &Script) -> Result<()> {
    let document = store.document()?;
    let setup = &document.setups[script.setup];
    let scenery = Scenery::of(&document, document.scene.performance, &Default::default());
    let mut floor = Floor::new(staged_alone(&document, &scenery), setup.id);
    floor.join(1);
    floor.command(1, Command::Feel { dial: script.dial, drag: 1.0 });
    floor.command(1, Command::roll(0.0));
    let names: Vec<(&str, AxisGroup, f64)> =
        floor.axes().iter().map(|a| (a.name, a.group, a.unit.to_shown(a.top_speed))).collect();
    let mut tremors: Vec<Tremor> =
        (0..names.len()).map(|i| Tremor::new(script.seed * 31 + i as u64)).collect();
    for step in 0..(script.length_s * STEPS_HZ as f64) as u64 {
        // A page sends its hands some twenty times a second.
        if step.is_multiple_of(12) {
            let time_s = step as f64 / STEPS_HZ as f64;
            let held = |name: &str| {
                let mut since =
                    script.hands.iter().rev().filter(|(at, axis, _)| *at <= time_s && axis == name);
                since.next().map_or(0.0, |(_, _, rate)| *rate)
            };
            let rates: Vec<f64> = names.iter().map(|(n, _, _)| held(n)).collect();
            let shakes: Vec<f64> =
                tremors.iter_mut().zip(&names).map(|(t, n)| t.next() * shake(n.1) * script.tremor).collect();
            let nudges = shakes.iter().zip(&names).map(|(shake, (_, _, top))| shake * top).collect();
            // What is owed is dropped under a held axis, so the tremor goes into the rate there.
            let shaky = rates.iter().zip(&shakes).map(|(rate, shake)| rate + rate.signum() * 3.0 * shake);
            let shaky = shaky.zip(&rates).map(|(shaky, rate)| if *rate == 0.0 { 0.0 } else { shaky });
            floor.command(1, Command::Drive { rates: shaky.collect(), nudges, fine: false });
        }
        floor.step();
    }
    floor.command(1, Command::Cut);

    let mut take = None;
    let mut last = None;
    for note in floor.take_events() {
        keep(store, &mut take, &mut None, note)?;
        last = take.or(last);
    }
    let take = last.expect("the roll began");
    store.describe(take, &script.name, script.rating, &script.note)
}

/// Deviation of unsteady hands on an axis, as a share of its way in a second.
fn shake(group: AxisGroup) -> f64 {
    match group {
        AxisGroup::Machine => 0.02,
        AxisGroup::Head => 0.024,
        AxisGroup::Lens | AxisGroup::Carrier => 0.0,
    }
}

/// Unsteady hands: steps to and fro about where they should be, the same for the same seed.
struct Tremor {
    state: u64,
    place: f64,
}

impl Tremor {
    fn new(seed: u64) -> Tremor {
        Tremor { state: seed.wrapping_mul(2).wrapping_add(1), place: 0.0 }
    }

    fn next(&mut self) -> f64 {
        // Marsaglia's xorshift (J. Stat. Softw. 8(14), 2003).
        self.state ^= self.state << 13;
        self.state ^= self.state >> 7;
        self.state ^= self.state << 17;
        let even = (self.state >> 11) as f64 / (1u64 << 53) as f64 - 0.5;
        let place = 0.7 * self.place + even;
        place - std::mem::replace(&mut self.place, place)
    }
}
