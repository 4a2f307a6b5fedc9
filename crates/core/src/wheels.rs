//! The wheels: what of the floor may be in hands of its own. A crane is one person's arm, another's head
//! and a third one's lens.

use crate::axis::AxisGroup;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// One of the wheels.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Wheel {
    /// Wheel of base and arm.
    Machine,
    /// Pan, tilt and roll.
    Head,
    /// Zoom, focus and iris.
    Lens,
    /// Whoever or whatever is driven on the set.
    Performer,
}

impl Wheel {
    /// All wheels.
    pub const ALL: [Wheel; 4] = [Wheel::Machine, Wheel::Head, Wheel::Lens, Wheel::Performer];

    /// The wheel that an axis hangs on.
    pub fn of(group: AxisGroup) -> Wheel {
        match group {
            AxisGroup::Machine | AxisGroup::Carrier => Wheel::Machine,
            AxisGroup::Head => Wheel::Head,
            AxisGroup::Lens => Wheel::Lens,
        }
    }

    /// Name on screen.
    pub fn word(self) -> &'static str {
        match self {
            Wheel::Machine => "machine",
            Wheel::Head => "head",
            Wheel::Lens => "lens",
            Wheel::Performer => "performer",
        }
    }
}

/// Holder of a wheel while a take rolled, and the time of the change.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct HandOn {
    /// Wheel that changed hands.
    pub wheel: Wheel,
    /// Name of the person, or "page 3"; empty for nobody.
    pub by: String,
    /// Seconds from the start of the take.
    pub from_s: f64,
}
