//! Turns the head to somebody, or to several in turn, as an operator would who knew what comes.
//!
//! **Method.** At every instant there is one pan and one tilt at which the target stands where it is
//! wanted in the frame, the camera's roll being what it is ([`seeing`]). From one target to the next
//! these go along a fifth-degree course. An operator lets somebody wander within a dead zone and then
//! follows late: the aim is dragged along by the edge of the zone (a play, as in a loose gear) and comes
//! after it as a critically damped spring does, behind an even pan by just the lag. Without zone and lag
//! the target stands where it is wanted, exactly.
//!
//! The head's own axes are turned ([`Placed`]), so that curves, bodies and files say what the machine does.

use super::placed::Placed;
use super::targets::{self, Target, Turn};
use super::{Level, Reads, Treat};
use crate::axis::Axis;
use crate::framing::seeing;
use crate::motion::{Context, Motion};
use crate::params::{Invalid, Param, within};
use crate::space::{PanTiltRoll, Pose, unwrap};
use glam::DVec2;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;
use std::ops::Range;
use ts_rs::TS;

/// Aim treatment.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Aim {
    /// Targets over time.
    pub turns: Vec<Turn>,
    /// Place in the frame: −1 left edge, 1 right edge.
    pub across: f64,
    /// Place in the frame: −1 lower edge, 1 upper edge.
    pub up: f64,
    /// Dead zone around that place, percent of half the frame's width.
    pub zone_percent: f64,
    /// Lag of the camera behind the target, seconds.
    pub lag_s: f64,
}

impl Default for Aim {
    fn default() -> Aim {
        Aim { turns: vec![Turn::default()], across: 0.0, up: 0.0, zone_percent: 0.0, lag_s: 0.0 }
    }
}

fn place() -> [Param; 2] {
    [
        Param::number("across", "across", "", -1.0, 1.0).start(0.0).of("In frame"),
        Param::number("up", "up", "", -1.0, 1.0).start(0.0).of("In frame"),
    ]
}

fn zone() -> Param {
    Param::number("zone_percent", "dead zone", "%", 0.0, 90.0)
        .start(0.0)
        .hint("How far they may wander before the camera goes along, of half the frame.")
}

fn lag() -> Param {
    Param::number("lag_s", "lag", "s", 0.0, 3.0)
        .start(0.0)
        .hint("How much later than they the camera is: a person's 0.2 to 0.4 s.")
}

/// Pan and tilt, radians.
type Look = DVec2;

/// How a camera looks at a sample, on whatever its head stands.
struct Before {
    time_s: f64,
    camera: Pose,
    /// Continuous from sample to sample.
    look: Look,
    roll: f64,
    half_frame: (f64, f64),
}

impl Aim {
    fn at(&self, before: &Before) -> (f64, f64) {
        (self.across * before.half_frame.0, self.up * before.half_frame.1)
    }

    /// How an operator who minds one target would look at every sample; where it is nobody, as it did.
    fn looks(&self, to: &Target, before: &[Before], rate_hz: f64, context: &Context) -> Vec<Look> {
        if to.is_nobody() {
            return before.iter().map(|b| b.look).collect();
        }
        let point = to.course(context.playing);
        let look = |b: &Before| {
            let seen = point(b.time_s).map(|point| {
                let a = seeing(point - b.camera.position, self.at(b), b.roll);
                DVec2::new(a.pan, a.tilt)
            });
            seen.unwrap_or(b.look)
        };
        let mut looks: Vec<Look> = before.iter().map(look).collect();
        let mut pans: Vec<f64> = looks.iter().map(|l| l.x).collect();
        unwrap(&mut pans);
        looks.iter_mut().zip(pans).for_each(|(look, pan)| look.x = pan);
        if self.zone_percent > 0.0 {
            self.in_zone(&mut looks, before);
        }
        if self.lag_s > 0.0 {
            self.late(&mut looks, rate_hz);
        }
        looks
    }

    /// Wanted look at every sample: turned from each target to the next.
    fn wanted(&self, before: &[Before], rate_hz: f64, context: &Context) -> Vec<Look> {
        let mut wanted: Vec<Look> = before.iter().map(|b| b.look).collect();
        for turn in &self.turns {
            let begins = before.iter().position(|b| b.time_s >= turn.from_s).unwrap_or(0);
            let to = turn.to.clone().named(before[begins].camera, context.playing, before[begins].time_s);
            let looks = self.looks(&to, before, rate_hz, context);
            // The shorter way round when the turn begins.
            let turns = TAU * ((wanted[begins].x - looks[begins].x) / TAU).round();
            for ((wanted, look), b) in wanted.iter_mut().zip(looks).zip(before) {
                let done = turn.done(b.time_s);
                if done > 0.0 {
                    let look = look + DVec2::new(turns, 0.0);
                    *wanted = if done < 1.0 { wanted.lerp(look, done) } else { look };
                }
            }
        }
        wanted
    }

    /// Look of an operator: dragged along by the edge of the dead zone.
    fn in_zone(&self, wanted: &mut [Look], before: &[Before]) {
        let mut aim = wanted[0];
        for (wanted, b) in wanted.iter_mut().zip(before) {
            let zone = (self.zone_percent / 100.0 * b.half_frame.0).atan();
            // A degree of pan is less on the screen the higher it looks.
            let level = wanted.y.cos().max(0.05);
            let off = (*wanted - aim) * DVec2::new(level, 1.0);
            let over = off.length() - zone;
            if over > 0.0 {
                aim += off * (over / off.length()) / DVec2::new(level, 1.0);
            }
            *wanted = aim;
        }
    }

    /// Behind by the lag, as a critically damped spring that begins at rest; exact where what is wanted
    /// goes straight between samples.
    fn late(&self, wanted: &mut [Look], rate_hz: f64) {
        let w = 2.0 / self.lag_s;
        let dt = 1.0 / rate_hz;
        let fall = (-w * dt).exp();
        let (mut came, mut behind, mut speed) = (wanted[0], Look::ZERO, Look::ZERO);
        for wanted in &mut wanted[1..] {
            let slope = (*wanted - came) / dt;
            came = *wanted;
            // Against an even slope it settles so far behind; from there it swings in.
            let settled = slope * (2.0 / w);
            let (off, opens) = (behind - settled, slope - speed);
            let swing = opens + off * w;
            behind = settled + (off + swing * dt) * fall;
            speed = slope - (opens - swing * (w * dt)) * fall;
            *wanted -= behind;
        }
    }
}

impl Treat for Aim {
    const LEVEL: Level = Level::Camera;
    const WORDS: (&'static str, &'static str) = (
        "Aim",
        "Turns the head to somebody, or to one after the other, and keeps them where they should be.",
    );

    fn params() -> Vec<Param> {
        let at = Param::row("in frame", place().into())
            .hint("−1 is the left or lower edge, 1 the right or upper.");
        vec![targets::list("turned to", targets::With::Nothing), at, zone(), lag()]
    }

    fn usual() -> Aim {
        Aim { zone_percent: 5.0, lag_s: 0.25, up: 0.2, ..Aim::default() }
    }

    fn fits(axes: &[Axis]) -> bool {
        Axis::head(axes).is_some()
    }

    fn check(&self) -> Result<(), Invalid> {
        targets::check(&self.turns, targets::With::Nothing)?;
        let [across, up] = place();
        within(&across, self.across)?;
        within(&up, self.up)?;
        within(&zone(), self.zone_percent)?;
        within(&lag(), self.lag_s)
    }

    fn reads(&self) -> Reads {
        targets::reads(&self.turns)
    }

    fn names_whom(&self) -> bool {
        targets::names_whom(&self.turns)
    }

    fn apply(&self, motion: &Motion, context: &Context) -> Motion {
        let mut placed = Placed::new(motion, context);
        for stretch in motion.stretches() {
            self.aim(motion, stretch, &mut placed, context);
        }
        placed.done()
    }
}

impl Aim {
    /// Aims between two cuts.
    fn aim(&self, motion: &Motion, stretch: Range<usize>, placed: &mut Placed, context: &Context) {
        let rate_hz = motion.samples.rate_hz();
        let mut last = PanTiltRoll::default();
        let stood = |k: usize| {
            let row = motion.samples.row(k);
            let pose = context.rig.forward(row);
            let angles = PanTiltRoll::from_rotation(pose.camera.rotation).near(last);
            last = angles;
            Before {
                time_s: k as f64 / rate_hz,
                camera: pose.camera,
                look: DVec2::new(angles.pan, angles.tilt),
                roll: angles.roll,
                half_frame: context.half_frame(pose.lens(row).focal_mm),
            }
        };
        let before: Vec<Before> = stretch.clone().map(stood).collect();
        let wanted = self.wanted(&before, rate_hz, context);
        for ((k, b), look) in stretch.zip(&before).zip(&wanted).filter(|((_, b), look)| **look != b.look) {
            let rotation = PanTiltRoll { pan: look.x, tilt: look.y, roll: b.roll }.to_rotation();
            placed.put(k, b.camera, Pose::new(b.camera.position, rotation));
        }
    }
}
