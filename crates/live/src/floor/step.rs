//! One step of the floor: hands, motion within limits, what rolls.

use super::controls::Controls;
use super::{FORGET_STEPS, FULL, Floor, LONGEST_TAKE_STEPS, Phase, STEPS_PER_SAMPLE};
use crate::machine::{Moment, Plays};
use rovnek_core::axis_motion::STEP_S;
use rovnek_core::performer::driven::Wanted;

impl Floor {
    /// One tick of 1/240 s: a step of the scene, or as much of one as the floor's clock gives.
    pub fn step(&mut self) {
        self.step += 1;
        self.lease.pass(self.step);
        if let Phase::Counting { until } = self.roll
            && self.step >= until
        {
            if self.scene_step < self.asked.from {
                self.roll = Phase::PreRoll;
            } else {
                self.start_rolling();
            }
        }
        let silent = self.lease.silent(self.step);
        if silent && self.controls.let_go() {
            self.flag("nobody was at the wheels for a while".into());
        }
        if silent && let Some(acting) = &mut self.acting {
            acting.wanted = Wanted { sit: acting.wanted.sit, ..Wanted::default() };
        }
        if self.lease.silent_for(self.step) > FORGET_STEPS {
            self.machine_mut().stay();
        }
        self.clock_rest += self.clock;
        if self.clock_rest >= FULL {
            self.clock_rest -= FULL;
            self.advance(silent);
        }
    }

    /// One step of the scene.
    fn advance(&mut self, silent: bool) {
        let rolling = matches!(self.roll, Phase::Rolling { .. });
        let going = rolling || self.roll == Phase::PreRoll;
        let next_step = if going || self.running { self.scene_step + 1 } else { self.scene_step };
        // Between takes the performance goes round, or stands at its end.
        let over = self.roll == Phase::Standby && next_step > self.last_step();
        if over && self.round.on {
            self.scene_step = self.round.from;
            self.jump();
        } else if over {
            self.running = false;
            self.move_to(self.scene_step, rolling, silent);
        } else {
            self.move_to(next_step, rolling, silent);
        }
        if let Some(acting) = &mut self.acting {
            acting.step();
        }
        if self.roll == Phase::PreRoll && self.scene_step >= self.asked.from {
            self.start_rolling();
        } else if let Phase::Rolling { steps, .. } = &mut self.roll {
            *steps += 1;
            let steps = *steps;
            if steps.is_multiple_of(STEPS_PER_SAMPLE) {
                self.sample();
            }
            if self.machine().attached() && !self.source().is_some_and(|(_, h)| h.alive(self.clock_s())) {
                self.flag("the device fell silent".into());
            }
            if self.asked.until.is_some_and(|until| self.scene_step >= until) {
                self.cut();
            } else if steps >= LONGEST_TAKE_STEPS {
                self.flag("cut after 15 minutes".into());
                self.cut();
            }
        }
    }

    /// Moves every machine by a step, to a step of the scene.
    fn move_to(&mut self, next_step: u64, rolling: bool, silent: bool) {
        let moment = Moment {
            now_s: self.scene_step as f64 * STEP_S,
            next_s: next_step as f64 * STEP_S,
            people: &self.people,
            devices: &self.devices,
            clock_s: self.step as f64 * STEP_S,
        };
        let plays = self.playing();
        for (k, machine) in self.machines.iter_mut().enumerate() {
            let n = machine.motions().len();
            if k != self.on {
                machine.step(&Controls::nobody(n), &vec![false; n], None, &moment);
                continue;
            }
            let hands = self.controls.hands(machine.axes(), silent);
            let below = self.below.as_ref().map(|b| Plays { samples: &b.samples, axes: &plays });
            let still = |i: usize| {
                (rolling && !self.armed[i] || below.is_some() && plays[i]) && machine.axes()[i].hand.is_some()
            };
            let still: Vec<bool> = (0..n).map(still).collect();
            machine.step(&hands, &still, below, &moment);
        }
        self.scene_step = next_step;
    }
}
