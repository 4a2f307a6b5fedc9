//! Zooms to a focal length, from one to the next, each in so many frames.
//!
//! **Method.** How large things are in the picture goes as the focal length, so a picture that grows evenly grows
//! by the same factor with every frame: the logarithm of the focal length goes along a straight line. On the ring
//! the focal length itself does, as on a ring whose marks are evenly spaced (our own choice, no source: rings
//! differ). Either begins and ends softly; between the soft ends it is even. A crash is even on the picture from its
//! first frame to its last, as a hand that whips the ring round: some 16 frames at 30 a second (common practice, no
//! source).

use super::{Level, Treat};
use crate::axis::Axis;
use crate::motion::{Context, Motion};
use crate::params::{Invalid, Param, within};
use crate::warnings::{Warning, lasting};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Zoom treatment.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Zoom {
    /// Focal lengths, one after the other; before the first it is as it was.
    pub zooms: Vec<ZoomTo>,
}

impl Default for Zoom {
    fn default() -> Zoom {
        Zoom { zooms: vec![ZoomTo::default()] }
    }
}

/// A focal length, and the way to it.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct ZoomTo {
    /// Scene time at which it begins, seconds; what begins at 0 is there from the start.
    pub at_s: f64,
    /// Frames until it is there; 0 is at once.
    pub frames: u32,
    /// Focal length afterwards, millimetres.
    pub to_mm: f64,
    /// Course of the zoom.
    pub way: ZoomWay,
}

impl Default for ZoomTo {
    fn default() -> ZoomTo {
        ZoomTo { at_s: 0.0, frames: 24, to_mm: 50.0, way: ZoomWay::Picture }
    }
}

/// Course from one focal length to another one.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum ZoomWay {
    /// The picture grows evenly, between soft ends.
    #[default]
    Picture,
    /// The ring turns evenly, between soft ends.
    Ring,
    /// The picture grows evenly from the first frame to the last.
    Crash,
}

/// Share of a zoom that is soft at either end.
const SOFT: f64 = 0.25;

/// Share of the way at a share of the time: even between ends of `soft`, over which its speed comes and goes.
fn even(tau: f64, soft: f64) -> f64 {
    let t = tau.clamp(0.0, 1.0);
    // The speed goes up as 3x² - 2x³ does; this is the way meanwhile.
    let ramp = |x: f64| soft * x * x * x * (1.0 - x / 2.0) / (1.0 - soft);
    if t < soft {
        ramp(t / soft)
    } else if t > 1.0 - soft {
        1.0 - ramp((1.0 - t) / soft)
    } else {
        (t - soft / 2.0) / (1.0 - soft)
    }
}

impl ZoomTo {
    /// Share of the time that has passed: below 0 before it, 1 after it.
    fn passed(&self, time_s: f64, hz: f64) -> f64 {
        let over_s = f64::from(self.frames) / hz;
        // A sample at the very end is there, whatever its last bits are.
        match time_s - self.at_s {
            since if since > over_s - 1e-9 => 1.0,
            since => since / over_s,
        }
    }

    /// Focal length at a share of the time, millimetres.
    fn between(&self, was_mm: f64, tau: f64) -> f64 {
        let (from, to) = (was_mm, self.to_mm);
        match self.way {
            ZoomWay::Picture => from * (to / from).powf(even(tau, SOFT)),
            ZoomWay::Crash => from * (to / from).powf(even(tau, 0.0)),
            ZoomWay::Ring => from + (to - from) * even(tau, SOFT),
        }
    }

    fn at() -> Param {
        Param::number("at_s", "at", "s", 0.0, 36_000.0).step(0.01)
    }

    fn frames() -> Param {
        let hint = "How many frames it takes; 0 is at once. A crash zoom takes about 16.";
        Param::whole("frames", "in", "frames", 0, 5_000).start(24.0).hint(hint)
    }

    fn to() -> Param {
        Param::number("to_mm", "to", "mm", 1.0, 2_000.0).start(50.0).log()
    }

    fn way() -> Param {
        let ways = [
            ("picture", "evenly on the picture"),
            ("ring", "evenly on the ring"),
            ("crash", "crash: at once at full speed"),
        ];
        Param::choice("way", "goes", &ways)
    }
}

/// Most focal lengths in one treatment.
const MOST: usize = 100;
/// Less than this is not told, millimetres.
const LEAST_MM: f64 = 0.1;

/// True for a lens with a zoom.
pub(super) fn has_zoom(axes: &[Axis]) -> bool {
    let zoom = &axes[axes.len() - 3];
    zoom.max > zoom.min
}

/// The motion with other focal lengths, millimetres, one for each sample. Past its end the lens stays there, and that
/// is warned of; a focal length that is what it was is not touched.
pub(super) fn zoomed(motion: &Motion, context: &Context, wanted_mm: &[f64]) -> Motion {
    let samples = &motion.samples;
    let at = samples.width() - 3;
    let axis = &context.axes()[at];
    let mut focal = samples.column(at);
    let mut missing = vec![0.0; focal.len()];
    for (k, (mm, wanted)) in focal.iter_mut().zip(wanted_mm).enumerate() {
        if wanted != mm {
            *mm = wanted.clamp(axis.min, axis.max);
            missing[k] = (wanted - *mm).abs();
        }
    }
    let mut zoomed = motion.clone();
    zoomed.samples.set_column(at, &focal);
    let told = lasting(samples.rate_hz(), context.rate, &missing, LEAST_MM).map(|when| Warning {
        what: format!(
            "the zoom would have to go up to {:.0} mm past its end; the lens is {:.0} to {:.0} mm",
            when.most, axis.min, axis.max
        ),
        when,
    });
    zoomed.warnings.extend(told);
    zoomed
}

impl Treat for Zoom {
    const LEVEL: Level = Level::Camera;
    const WORDS: (&'static str, &'static str) =
        ("Zoom", "Zooms to focal lengths, one after the other, each in so many frames.");

    fn params() -> Vec<Param> {
        let one =
            vec![Param::row("begins", vec![ZoomTo::at(), ZoomTo::frames()]), ZoomTo::to(), ZoomTo::way()];
        vec![
            Param::list("zooms", "zooms to", MOST, one)
                .hint("One after the other; what begins at 0 is there from the start."),
        ]
    }

    /// True for a machine with a zoom.
    fn fits(axes: &[Axis]) -> bool {
        has_zoom(axes)
    }

    fn check(&self) -> Result<(), Invalid> {
        if self.zooms.is_empty() || self.zooms.len() > MOST {
            return Err(Invalid::at("zooms", format!("give 1 to {MOST} focal lengths")));
        }
        for (i, zoom) in self.zooms.iter().enumerate() {
            within(&ZoomTo::at(), zoom.at_s)
                .and(within(&ZoomTo::frames(), f64::from(zoom.frames)))
                .and(within(&ZoomTo::to(), zoom.to_mm))
                .map_err(|e| Invalid { path: format!("zooms/{i}/{}", e.path), ..e })?;
            if i > 0 && zoom.at_s <= self.zooms[i - 1].at_s {
                let sentence =
                    format!("zoom {} begins before the one that it follows; put them in order", i + 1);
                return Err(Invalid::at(format!("zooms/{i}/at_s"), sentence));
            }
        }
        Ok(())
    }

    fn apply(&self, motion: &Motion, context: &Context) -> Motion {
        let samples = &motion.samples;
        let at = samples.width() - 3;
        let mut focal = samples.column(at);
        for (k, mm) in focal.iter_mut().enumerate() {
            let time_s = k as f64 / samples.rate_hz();
            for zoom in &self.zooms {
                let tau = if zoom.at_s <= 0.0 { 1.0 } else { zoom.passed(time_s, context.rate.hz()) };
                if tau >= 1.0 {
                    *mm = zoom.to_mm;
                } else if tau > 0.0 {
                    *mm = zoom.between(*mm, tau);
                }
            }
        }
        zoomed(motion, context, &focal)
    }
}
