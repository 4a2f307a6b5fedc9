//! What the floor tells: its status when it changes, its state sixty times a second.

use super::{FULL, Floor, Phase, who};
use crate::command::{Status, TrackingStatus};
use crate::stand::Stand;
use crate::state::{AxisState, Other, State, axis, flags};
use rovnek_core::drive::{STEP_S, time_to_stop};
use rovnek_core::evaluate::lens_of;
use rovnek_core::framing;
use rovnek_core::lens::{depth_of_field, hyperfocal};

impl Floor {
    /// What pages are told when it changes.
    pub fn status(&self) -> Status {
        Status {
            setup_id: self.placed().setup_id,
            holder: self.wheels.holder(),
            asking: self.wheels.asking(),
            pages: self.wheels.pages(),
            roll: match self.roll {
                Phase::Standby => "standby",
                Phase::Counting { .. } => "counting",
                Phase::PreRoll => "pre-roll",
                Phase::Rolling { .. } => "rolling",
            },
            clock: f64::from(self.clock) / f64::from(FULL),
            below: self.below.as_ref().map(|b| b.take),
            acting: self.acting.as_ref().map(|a| who(a.cast.of)),
            alone: self.acting.as_ref().is_some_and(|a| a.alone),
            tracking: self.tracking(),
            armed: self.armed.clone(),
            dial: self.dial,
            drag: self.drag,
            shaping: self.shaping.clone(),
            lead: self.stand().lead(),
            pending: self.stand().pending().to_vec(),
            sent: self.stand().sent(),
            slowed: self.stand().slowed(),
            running: self.running,
            trouble: self.trouble.clone(),
        }
    }

    fn tracking(&self) -> TrackingStatus {
        let source = self.source();
        let heard = source.map(|(_, h)| h);
        let steadied = self.placed().tracking.steady.delay_s();
        let delay_s = heard.map_or(0.0, |h| h.behind_s() + steadied);
        TrackingStatus {
            source: source.map_or(String::new(), |(name, _)| name.into()),
            attached: self.stand().attached(),
            alive: heard.is_some_and(|h| h.alive(self.clock_s())),
            delay_ms: (delay_s * 1000.0).round(),
        }
    }

    /// The floor as it is now.
    pub fn state(&self) -> State {
        let stand = self.stand();
        let bit = |on: bool, bit: u8| if on { bit } else { 0 };
        let (rolling, roll_time_s) = match self.roll {
            Phase::Standby => (0, 0.0),
            Phase::Counting { until } => (flags::COUNTING, (until - self.step) as f64 * STEP_S),
            Phase::PreRoll => (flags::PRE_ROLL, (self.asked.from - self.scene_step) as f64 * STEP_S),
            Phase::Rolling { steps, .. } => (flags::ROLLING, steps as f64 * STEP_S),
        };
        let running = self.running || matches!(self.roll, Phase::PreRoll | Phase::Rolling { .. });
        let silent = self.wheels.silent(self.step);
        let axes = stand.motions().iter().zip(stand.axes()).enumerate().map(|(i, (motion, a))| {
            let span = a.max - a.min;
            let room = (motion.value - a.min).min(a.max - motion.value);
            let near =
                room < 0.06 * span && span.is_finite() || time_to_stop(a, *motion).is_some_and(|t| t < 0.6);
            let flags = bit(self.armed[i], axis::ARMED)
                | bit(room <= 1e-5, axis::AT_END)
                | bit(near, axis::NEAR_END)
                | bit(self.rates[i] != 0.0 || motion.owed != 0.0, axis::DRIVEN)
                | bit(stand.led(i), axis::LED);
            AxisState { value: a.unit.to_shown(motion.value), speed: a.unit.to_shown(motion.speed), flags }
        });
        let camera = &self.placed().camera;
        let stance = stand.stance();
        let lens = lens_of(&stand.values(), &stance, camera);
        let scene_time_s = self.scene_step as f64 * STEP_S;
        let seen = framing::subject(camera, lens.focal_mm, stance.camera, self.people.at(scene_time_s));
        State {
            step: self.step,
            setup_id: self.placed().setup_id,
            flags: rolling | bit(running, flags::RUNNING) | bit(silent, flags::SILENT),
            scene_time_s,
            roll_time_s,
            axes: axes.collect(),
            lens,
            sharp_m: depth_of_field(camera, lens.focal_mm, lens.focus_m),
            hyperfocal_m: hyperfocal(camera, lens.focal_mm),
            subject: seen.map(|s| (self.people.id(s.index), s.share)),
            short_m: stand.short_m(),
            stance,
            acting: self.acting.as_ref().map(|a| (who(a.cast.of), a.bodies())),
            others: self.others(),
        }
    }

    fn others(&self) -> Vec<Other> {
        let other = |stand: &Stand| {
            let (values, stance) = (stand.values(), stand.stance());
            let lens = lens_of(&values, &stance, &stand.placed().camera);
            Other { setup_id: stand.placed().setup_id, focal_mm: lens.focal_mm, camera: stance.camera }
        };
        self.stands.iter().enumerate().filter(|(k, _)| *k != self.on).map(|(_, s)| other(s)).collect()
    }
}
