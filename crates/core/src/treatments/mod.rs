//! What is done to a take so that it feels filmed. A move keeps an ordered list of treatments,
//! each of them can be switched off; the take itself is never touched.
//!
//! A new treatment is one file beside this one and one line in [`Kind`].

mod every;
mod resteady;
mod smooth;

pub use every::Every;
pub use smooth::{Smooth, SmoothBy};

use crate::axis::Axis;
use crate::samples::Samples;
use crate::steady::Steady;
use crate::time::Rate;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// One step of a move.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Treatment {
    /// Switched off, it is kept but does nothing.
    pub on: bool,
    /// What it does.
    #[serde(flatten)]
    pub kind: Kind,
}

/// The list of treatments.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "kind")]
pub enum Kind {
    /// Takes the shake out of the axes.
    Smooth(Smooth),
    /// Steadies a tracked take from where the device was.
    Steady(Steady),
    /// One key every so often, with smooth tangents.
    Keys {
        /// How often.
        every: Every,
    },
}

impl Treatment {
    /// What about these parameters cannot be, as a sentence.
    pub fn fault(&self) -> Option<String> {
        match &self.kind {
            Kind::Smooth(smooth) => smooth.fault(),
            Kind::Steady(steady) => steady.fault(),
            Kind::Keys { every } => every.fault(),
        }
    }

    /// The samples after this treatment.
    pub fn apply(&self, samples: &mut Samples, axes: &[Axis], rate: Rate) {
        if !self.on || samples.is_empty() {
            return;
        }
        match &self.kind {
            Kind::Smooth(smooth) => smooth.apply(samples, axes, rate),
            Kind::Steady(steady) => resteady::apply(steady, samples, axes),
            Kind::Keys { every } => every.apply(samples, axes, rate),
        }
    }
}
