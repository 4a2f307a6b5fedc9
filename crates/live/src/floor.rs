//! What happens on the floor in one step.
//!
//! Each step: hands → demand of each axis → motion within limits → forward kinematics. While a
//! take rolls every second step is a sample; 30 samples (a quarter second) are a chunk that goes
//! out as a [`Note`] to the recorder, losslessly, while pages only ever see the newest state.

use crate::command::{Command, Status};
use crate::state::{AxisState, State, axis, flags};
use crate::wheels::{PageId, Wheels};
use rovnek_core::axis::{Axis, AxisGroup};
use rovnek_core::drive::{Demand, Motion, STEP_S, time_to_stop};
use rovnek_core::evaluate::lens_of;
use rovnek_core::framing;
use rovnek_core::lens::{Camera, depth_of_field, hyperfocal};
use rovnek_core::playing::People;
use rovnek_core::rigs::{Rig, RigSpec};
use rovnek_core::time::SAMPLE_RATE_HZ;
use std::collections::BTreeMap;
use std::sync::Arc;

/// Steps a second.
pub const STEPS_HZ: u64 = 240;
/// Steps from sample to sample.
const STEPS_PER_SAMPLE: u64 = STEPS_HZ / SAMPLE_RATE_HZ as u64;
/// Samples in a chunk: a quarter second.
pub const CHUNK_SAMPLES: usize = 30;
/// Silence after which a machine that was sent somewhere stays where it is, in steps.
const FORGET_STEPS: u64 = 2 * STEPS_HZ;
/// The longest a take rolls before it is cut.
const LONGEST_TAKE_STEPS: u64 = 15 * 60 * STEPS_HZ;

/// Fluid drag of each part of a rig at drag 1, seconds.
fn drag_s(group: AxisGroup) -> f64 {
    match group {
        AxisGroup::Machine => 0.30,
        AxisGroup::Head => 0.16,
        AxisGroup::Lens => 0.12,
    }
}

/// What is on the floor.
#[derive(Clone, Debug, PartialEq)]
pub struct Placed {
    /// Of the model.
    pub setup_id: u32,
    /// Sensor, frame, lens.
    pub camera: Camera,
    /// The machine.
    pub rig: RigSpec,
    /// Length of the performance, seconds.
    pub scene_length_s: f64,
    /// Who may be in the frame.
    pub people: Arc<People>,
}

impl Placed {
    /// The same camera on the same machine: only the scene around it may differ.
    fn same_setup(&self, other: &Placed) -> bool {
        (self.setup_id, &self.camera, &self.rig) == (other.setup_id, &other.camera, &other.rig)
    }
}

/// Whether a take rolls.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Roll {
    Standby,
    Counting { until: u64 },
    Rolling { since: u64 },
}

/// To the recorder, in order and without loss.
#[derive(Clone, Debug, PartialEq)]
pub enum Note {
    /// A take begins.
    Begin(Box<Placed>),
    /// The next samples, row after row.
    Chunk {
        /// Counted from 0.
        seq: u32,
        /// Values in a row.
        width: usize,
        /// The rows.
        values: Vec<f64>,
    },
    /// The take is over; words about what went wrong.
    End {
        /// For the take's flags.
        flags: Vec<String>,
    },
}

/// The floor: one machine, one performance, one recorder, the pages.
pub struct Floor {
    placed: Placed,
    rig: Box<dyn Rig>,
    motions: Vec<Motion>,
    rates: Vec<f64>,
    nudges: Vec<f64>,
    armed: Vec<bool>,
    begin: Vec<f64>,
    dial: f64,
    drag: f64,
    wheels: Wheels,
    /// Where the machines of other setups were left.
    parked: BTreeMap<u32, Vec<f64>>,
    step: u64,
    roll: Roll,
    running: bool,
    scene_step: u64,
    chunk: Vec<f64>,
    seq: u32,
    flags: Vec<String>,
    trouble: Option<String>,
    notes: Vec<Note>,
}

impl Floor {
    /// A floor with a machine at its start.
    pub fn new(placed: Placed) -> Floor {
        let rig = placed.rig.build(&placed.camera);
        let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        let n = start.len();
        Floor {
            rig,
            placed,
            motions: start.iter().map(|v| Motion::at(*v)).collect(),
            rates: vec![0.0; n],
            nudges: vec![0.0; n],
            armed: vec![true; n],
            begin: start,
            dial: 0.6,
            drag: 1.0,
            wheels: Wheels::default(),
            parked: BTreeMap::new(),
            step: 0,
            roll: Roll::Standby,
            running: true,
            scene_step: 0,
            chunk: Vec::new(),
            seq: 0,
            flags: Vec::new(),
            trouble: None,
            notes: Vec::new(),
        }
    }

    /// The axes of the machine.
    pub fn axes(&self) -> &[Axis] {
        self.rig.axes()
    }

    /// What stands on the floor.
    pub fn placed(&self) -> &Placed {
        &self.placed
    }

    /// Puts a setup on the floor. The same machine with other parameters keeps its axes, within
    /// the new limits; another setup's machine stands where it was left, or at its start. A take
    /// that rolls is cut.
    pub fn place(&mut self, placed: Placed) {
        if placed.same_setup(&self.placed) {
            // The set may change while a take rolls.
            self.placed = placed;
            return;
        }
        self.cut();
        let rig = placed.rig.build(&placed.camera);
        let same = placed.setup_id == self.placed.setup_id && rig.axes().len() == self.motions.len();
        if same {
            let zoom = self.motions.len() - 2;
            for (i, (motion, axis)) in self.motions.iter_mut().zip(rig.axes()).enumerate() {
                // A lens that was changed on the slate stands where the slate says.
                let lens_set = i >= zoom && axis.start != self.rig.axes()[i].start;
                let value = if lens_set { axis.start } else { motion.value };
                *motion = Motion::at(value.clamp(axis.min, axis.max));
            }
            self.rig = rig;
            self.placed = placed;
        } else {
            let wheels = std::mem::take(&mut self.wheels);
            let notes = std::mem::take(&mut self.notes);
            let (step, scene_step, running) = (self.step, self.scene_step, self.running);
            let (dial, drag) = (self.dial, self.drag);
            let mut parked = std::mem::take(&mut self.parked);
            parked.insert(self.placed.setup_id, self.values());
            let left = parked.get(&placed.setup_id).filter(|v| v.len() == rig.axes().len()).cloned();
            let fresh = Floor::new(placed);
            *self = Floor { wheels, parked, step, scene_step, running, notes, dial, drag, ..fresh };
            for ((motion, axis), value) in
                self.motions.iter_mut().zip(rig.axes()).zip(left.into_iter().flatten())
            {
                *motion = Motion::at(value.clamp(axis.min, axis.max));
            }
        }
    }

    /// A page opened.
    pub fn join(&mut self, page: PageId) {
        self.wheels.join(page, self.step);
    }

    /// A page closed.
    pub fn leave(&mut self, page: PageId) {
        self.wheels.leave(page, self.step);
    }

    /// The recorder could not keep a chunk: the take is cut and the operator told.
    pub fn recorder_failed(&mut self, why: String) {
        if matches!(self.roll, Roll::Rolling { .. }) {
            self.flags.push(why.clone());
            self.cut();
        }
        self.trouble = Some(why);
    }

    /// The floor closes: a rolling take is cut.
    pub fn close(&mut self) {
        self.flag("Rovnek was closed".into());
        self.cut();
    }

    /// A stall of the clock: a rolling take is flagged with the gap.
    pub fn stalled(&mut self, gap_s: f64) {
        if matches!(self.roll, Roll::Rolling { .. }) {
            self.flag(format!("the clock stood still for {gap_s:.2} s"));
        }
    }

    /// Does what a page asks; only the holder of the wheels operates.
    pub fn command(&mut self, page: PageId, command: Command) {
        match command {
            Command::Ask => return self.wheels.ask(page, self.step),
            Command::Give => return self.wheels.give(page, self.step),
            Command::Keep => return self.wheels.keep(page),
            _ => {}
        }
        if !self.wheels.heard(page, self.step) {
            return;
        }
        match command {
            Command::Drive { rates, nudges } => {
                let plain = |v: f64| if v.is_finite() { v } else { 0.0 };
                for (rate, new) in self.rates.iter_mut().zip(rates) {
                    *rate = plain(new).clamp(-1.0, 1.0);
                }
                for ((nudge, new), axis) in self.nudges.iter_mut().zip(nudges).zip(self.rig.axes()) {
                    *nudge += axis.unit.from_shown(plain(new));
                }
            }
            Command::Feel { dial, drag } => {
                if dial.is_finite() && drag.is_finite() {
                    (self.dial, self.drag) = (dial.clamp(0.05, 1.0), drag.clamp(0.0, 4.0));
                }
            }
            Command::Arm { axis, on } => {
                if let (Some(armed), Roll::Standby) = (self.armed.get_mut(axis), self.roll) {
                    *armed = on;
                }
            }
            Command::Roll { count_in_s } => {
                if self.roll == Roll::Standby && count_in_s.is_finite() {
                    let steps = (count_in_s.clamp(0.0, 5.0) * STEPS_HZ as f64).round() as u64;
                    self.roll = Roll::Counting { until: self.step + steps };
                    self.scene_step = 0;
                    self.running = false;
                    self.trouble = None;
                }
            }
            Command::Cut => self.cut(),
            Command::Run { on } => {
                if self.roll == Roll::Standby {
                    self.running = on;
                }
            }
            Command::Seek { time_s } => {
                if self.roll == Roll::Standby && time_s.is_finite() {
                    let time_s = time_s.clamp(0.0, self.placed.scene_length_s);
                    self.scene_step = (time_s * STEPS_HZ as f64).round() as u64;
                }
            }
            Command::Return => {
                if self.roll == Roll::Standby {
                    for (motion, begin) in self.motions.iter_mut().zip(&self.begin) {
                        motion.owed = begin - motion.value;
                    }
                }
            }
            Command::Go { targets } => {
                if self.roll == Roll::Standby {
                    for ((motion, axis), target) in self.motions.iter_mut().zip(self.rig.axes()).zip(targets)
                    {
                        if let Some(target) = target.filter(|t| t.is_finite()) {
                            motion.owed =
                                axis.unit.from_shown(target).clamp(axis.min, axis.max) - motion.value;
                        }
                    }
                }
            }
            Command::Ask | Command::Give | Command::Keep => {}
        }
    }

    /// One step of 1/240 s.
    pub fn step(&mut self) {
        self.step += 1;
        self.wheels.pass(self.step);
        if let Roll::Counting { until } = self.roll
            && self.step >= until
        {
            self.start_rolling();
        }
        let silent = self.wheels.silent(self.step);
        if silent && self.rates.iter().any(|r| *r != 0.0) {
            self.rates.fill(0.0);
            self.flag("nobody was at the wheels for a while".into());
        }
        if self.wheels.silent_for(self.step) > FORGET_STEPS {
            self.motions.iter_mut().for_each(|m| m.owed = 0.0);
        }
        let rolling = matches!(self.roll, Roll::Rolling { .. });
        for (i, axis) in self.rig.axes().iter().enumerate() {
            let parked = rolling && !self.armed[i];
            let demand = Demand {
                rate: self.rates[i],
                dial: self.dial,
                nudge: std::mem::take(&mut self.nudges[i]),
                brake: silent || parked,
            };
            self.motions[i] = self.motions[i].step(axis, demand, drag_s(axis.group) * self.drag, STEP_S);
        }
        if rolling || self.running {
            self.scene_step += 1;
            // Between takes the performance goes round.
            if !rolling && self.scene_step as f64 > self.placed.scene_length_s * STEPS_HZ as f64 {
                self.scene_step = 0;
            }
        }
        if let Roll::Rolling { since } = self.roll {
            let rolled = self.step - since;
            if rolled.is_multiple_of(STEPS_PER_SAMPLE) {
                self.sample();
            }
            if rolled >= LONGEST_TAKE_STEPS {
                self.flag("cut after 15 minutes".into());
                self.cut();
            }
        }
    }

    fn start_rolling(&mut self) {
        // Where everything stands now, before this step moves it, is time zero.
        self.roll = Roll::Rolling { since: self.step - 1 };
        self.begin = self.values();
        self.scene_step = 0;
        self.seq = 0;
        self.flags.clear();
        self.chunk.clear();
        self.notes.push(Note::Begin(Box::new(self.placed.clone())));
        self.sample();
    }

    fn cut(&mut self) {
        if let Roll::Rolling { .. } = self.roll {
            self.send_chunk();
            self.notes.push(Note::End { flags: std::mem::take(&mut self.flags) });
        }
        if self.roll != Roll::Standby {
            self.roll = Roll::Standby;
            self.running = true;
        }
    }

    fn sample(&mut self) {
        self.chunk.extend(self.motions.iter().map(|m| m.value));
        if self.chunk.len() == CHUNK_SAMPLES * self.motions.len() {
            self.send_chunk();
        }
    }

    fn send_chunk(&mut self) {
        if !self.chunk.is_empty() {
            let values = std::mem::take(&mut self.chunk);
            self.notes.push(Note::Chunk { seq: self.seq, width: self.motions.len(), values });
            self.seq += 1;
        }
    }

    fn flag(&mut self, words: String) {
        if matches!(self.roll, Roll::Rolling { .. }) && self.flags.len() < 20 && !self.flags.contains(&words)
        {
            self.flags.push(words);
        }
    }

    fn values(&self) -> Vec<f64> {
        self.motions.iter().map(|m| m.value).collect()
    }

    /// What the recorder must have, in order; each note is given once.
    pub fn take_notes(&mut self) -> Vec<Note> {
        std::mem::take(&mut self.notes)
    }

    /// What pages are told when it changes.
    pub fn status(&self) -> Status {
        Status {
            setup_id: self.placed.setup_id,
            holder: self.wheels.holder(),
            asking: self.wheels.asking(),
            pages: self.wheels.pages(),
            roll: match self.roll {
                Roll::Standby => "standby",
                Roll::Counting { .. } => "counting",
                Roll::Rolling { .. } => "rolling",
            },
            armed: self.armed.clone(),
            dial: self.dial,
            drag: self.drag,
            running: self.running,
            trouble: self.trouble.clone(),
        }
    }

    /// The floor as it is now.
    pub fn state(&self) -> State {
        let values = self.values();
        let bit = |on: bool, bit: u8| if on { bit } else { 0 };
        let (rolling, roll_time_s) = match self.roll {
            Roll::Standby => (0, 0.0),
            Roll::Counting { until } => (flags::COUNTING, (until - self.step) as f64 * STEP_S),
            Roll::Rolling { since } => (flags::ROLLING, (self.step - since) as f64 * STEP_S),
        };
        let running = self.running || rolling == flags::ROLLING;
        let silent = self.wheels.silent(self.step);
        let axes = self.motions.iter().zip(self.rig.axes()).enumerate().map(|(i, (motion, a))| {
            let span = a.max - a.min;
            let room = (motion.value - a.min).min(a.max - motion.value);
            let near =
                room < 0.06 * span && span.is_finite() || time_to_stop(a, *motion).is_some_and(|t| t < 0.6);
            let flags = bit(self.armed[i], axis::ARMED)
                | bit(room <= 1e-5, axis::AT_END)
                | bit(near, axis::NEAR_END)
                | bit(self.rates[i] != 0.0 || motion.owed != 0.0, axis::DRIVEN);
            AxisState { value: a.unit.to_shown(motion.value), speed: a.unit.to_shown(motion.speed), flags }
        });
        let camera = &self.placed.camera;
        let lens = lens_of(&values, camera);
        let stance = self.rig.forward(&values);
        let scene_time_s = self.scene_step as f64 * STEP_S;
        let seen =
            framing::subject(camera, lens.focal_mm, stance.camera, self.placed.people.at(scene_time_s));
        State {
            step: self.step,
            setup_id: self.placed.setup_id,
            flags: rolling | bit(running, flags::RUNNING) | bit(silent, flags::SILENT),
            scene_time_s,
            roll_time_s,
            axes: axes.collect(),
            lens,
            sharp_m: depth_of_field(camera, lens.focal_mm, lens.focus_m),
            hyperfocal_m: hyperfocal(camera, lens.focal_mm),
            subject: seen.map(|s| (self.placed.people.id(s.index), s.share)),
            stance,
        }
    }
}
