//! Zooms against the way the camera goes, so that somebody stays as large in the frame while what is
//! behind them grows or shrinks.
//!
//! **Method.** How large somebody is in the picture goes as the focal length, exactly; so the focal
//! length at every instant is the one at the instant that is kept, times how large they were then over
//! how large they would be now. Where the lens ends it stays at its end, and that is said.

use super::targets::Target;
use super::zoom::{has_zoom, zoomed};
use super::{BodyPart, Level, Reads, Treat};
use crate::axis::Axis;
use crate::framing::length_at;
use crate::ids::PerformerId;
use crate::motion::{Context, Motion};
use crate::params::{Invalid, Param, within};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Counter-zoom treatment.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
pub struct CounterZoom {
    /// Id of the performer who keeps their size; none for whoever is nearest to the middle at that time.
    pub who: Option<PerformerId>,
    /// Scene time at which the size is taken, seconds.
    pub as_at_s: f64,
}

fn who() -> Param {
    Param::somebody("who", "who", "who is in the picture")
}

fn as_at() -> Param {
    Param::number("as_at_s", "as large as at", "s", 0.0, 36_000.0)
        .start(0.0)
        .hint("They stay as large in the frame as they are at this time.")
}

impl Treat for CounterZoom {
    const LEVEL: Level = Level::Camera;
    const WORDS: (&'static str, &'static str) = (
        "Counter-zoom",
        "Zooms against the way the camera goes: somebody stays as large, what is behind them does not.",
    );

    fn params() -> Vec<Param> {
        vec![who(), as_at()]
    }

    /// True for a machine with a zoom.
    fn fits(axes: &[Axis]) -> bool {
        has_zoom(axes)
    }

    fn check(&self) -> Result<(), Invalid> {
        within(&as_at(), self.as_at_s)
    }

    fn reads(&self) -> Reads {
        Reads::Playing
    }

    fn names_whom(&self) -> bool {
        self.who.is_some()
    }

    fn apply(&self, motion: &Motion, context: &Context) -> Motion {
        let samples = &motion.samples;
        let zoom = samples.width() - 3;
        let kept = ((self.as_at_s * samples.rate_hz()).round() as usize).min(samples.len() - 1);
        let time_s = |k: usize| k as f64 / samples.rate_hz();
        let nearest = Target::Nearest { part: BodyPart::Chest };
        let found = nearest.named(motion.pose(kept, context.rig), context.playing, time_s(kept));
        let Some(who) = self.who.or(found.who()) else { return motion.clone() };
        // At a focal length of 1 mm.
        let large = |k: usize| -> Option<f64> {
            let timeline = context.playing?.timeline;
            let feet = timeline.points_of(who, time_s(k))?.feet;
            let height_m = timeline.height_m(who)?;
            Some(length_at(motion.pose(k, context.rig), feet, height_m))
        };
        let Some(as_large) = large(kept) else { return motion.clone() };
        let focal_mm = samples.row(kept)[zoom];
        let wanted: Vec<f64> =
            (0..samples.len()).map(|k| large(k).map_or(focal_mm, |now| focal_mm * as_large / now)).collect();
        zoomed(motion, context, &wanted)
    }
}
