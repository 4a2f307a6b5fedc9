//! One step of the floor: hands, motion within limits, what rolls.

use super::controls::Controls;
use super::{FORGET_STEPS, FULL, Floor, LONGEST_TAKE_STEPS, Phase, STEPS_PER_SAMPLE};
use crate::machine::{Moment, Plays};
use rovnek_core::axis_motion::STEP_S;
use rovnek_core::wheels::Wheel;

/// Wheels that nobody is at.
type Silent = [bool; Wheel::ALL.len()];

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
        self.settle_hands();
        let silent = Wheel::ALL.map(|wheel| self.lease.silent(wheel, self.step));
        self.let_go_of(&silent);
        if self.lease.holder_silent_for(self.step) > FORGET_STEPS {
            self.machine_mut().stay();
        }
        self.clock_rest += self.clock;
        if self.clock_rest >= FULL {
            self.clock_rest -= FULL;
            self.advance(&silent);
        }
    }

    /// Lets go of axes on wheels that nobody is at.
    fn let_go_of(&mut self, silent: &Silent) {
        let axes = self.machines[self.on].axes();
        let left: Vec<Wheel> = Wheel::ALL
            .into_iter()
            .filter(|wheel| silent[*wheel as usize])
            .filter(|wheel| self.controls.let_go(|i| Wheel::of(axes[i].group) == *wheel))
            .collect();
        let lent = |wheel: &Wheel| self.lease.hand_on(*wheel) != self.lease.holder();
        let (lent, own): (Vec<Wheel>, Vec<Wheel>) = left.into_iter().partition(lent);
        if !own.is_empty() {
            self.flag("nobody was at the wheels for a while".into());
        }
        for wheel in lent {
            self.flag(format!("nobody was at the {} for a while", wheel.word()));
        }
        if silent[Wheel::Performer as usize]
            && let Some(acting) = &mut self.acting
        {
            acting.let_go();
        }
    }

    /// One step of the scene.
    fn advance(&mut self, silent: &Silent) {
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
            let clock_s = self.step as f64 * STEP_S;
            let heard = acting.source().and_then(|(source, _)| self.devices.get(source));
            acting.step(heard.and_then(|h| h.at(clock_s)).map(|(pose, _)| pose));
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
            if self.hangs().is_some_and(|h| !h.alive) {
                self.flag("the device of who is driven fell silent".into());
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
    fn move_to(&mut self, next_step: u64, rolling: bool, silent: &Silent) {
        let carriages = self.carriages();
        let moment = Moment {
            now_s: self.scene_step as f64 * STEP_S,
            next_s: next_step as f64 * STEP_S,
            people: &self.people,
            carrier: None,
            carriages: [&carriages, &self.carriages_before],
            devices: &self.devices,
            clock_s: self.step as f64 * STEP_S,
        };
        let plays = self.playing();
        let carriers = self.carriers(moment.next_s, &carriages);
        for (k, machine) in self.machines.iter_mut().enumerate() {
            let moment = Moment { carrier: carriers[k], ..moment };
            let n = machine.motions().len();
            if k != self.on {
                machine.step(&Controls::nobody(n), &vec![false; n], None, &moment);
                continue;
            }
            let brakes = |i: usize| silent[Wheel::of(machine.axes()[i].group) as usize];
            let hands = self.controls.hands(machine.axes(), brakes);
            let below = self.below.as_ref().map(|b| Plays { samples: &b.samples, axes: &plays });
            let still = |i: usize| {
                (rolling && !self.armed[i] || below.is_some() && plays[i]) && machine.axes()[i].hand.is_some()
            };
            let still: Vec<bool> = (0..n).map(still).collect();
            machine.step(&hands, &still, below, &moment);
        }
        self.carriages_before = carriages;
        self.scene_step = next_step;
    }
}
