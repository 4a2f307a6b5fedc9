//! What happens on the floor in one step.
//!
//! Each step: hands → demand of each axis → motion within limits → forward kinematics. While a
//! take rolls every second step is a sample; 30 samples (a quarter second) are a chunk that goes
//! out as a [`Note`] to the recorder, losslessly, while pages only ever see the newest state.
//!
//! There are two counts of time. *Ticks* go with the wall clock: count in, silence, devices. *Steps*
//! of the scene go with the floor's clock, which may be slower to give hands time: everything that
//! moves and everything that is recorded. A take rolled slowly is therefore true to the scene's
//! time by itself.

mod rolling;
mod told;

use crate::acting::{Acting, Cast};
use crate::command::{Command, PageCommand, PassWanted, Who};
use crate::devices::Heard;
use crate::reel::Reel;
use crate::stand::{Moment, Plays, Stand};
use crate::wheels::{PageId, Wheels};
use rovnek_core::axis::{Axis, AxisGroup};
use rovnek_core::drive::{Demand, Hand, STEP_S};
use rovnek_core::hands::Shaping;
use rovnek_core::performer::driven::Wanted;
use rovnek_core::playing::{Of, People};
use rovnek_core::samples::Samples;
use rovnek_core::time::SAMPLE_RATE_HZ;
use rovnek_core::walls::Wall;
use rovnek_formats::tracking::Sample;
use rovnek_formats::tracking::capture::Packet;
use std::collections::BTreeMap;
use std::sync::Arc;

pub use crate::reel::{Begun, BegunPass, CHUNK_SAMPLES, Note};
pub use crate::stand::Placed;

/// Steps a second.
pub const STEPS_HZ: u64 = 240;
/// Steps from sample to sample.
const STEPS_PER_SAMPLE: u64 = STEPS_HZ / SAMPLE_RATE_HZ as u64;
/// Silence after which a machine that was sent somewhere stays where it is, in steps.
const FORGET_STEPS: u64 = 2 * STEPS_HZ;
/// What fine gear leaves of speed.
const FINE: f64 = 0.2;
/// The floor's clock at full speed, in thousandths.
const FULL: u32 = 1000;
/// The longest a take rolls before it is cut.
const LONGEST_TAKE_STEPS: u64 = 15 * 60 * STEPS_HZ;

/// Fluid drag of each part of a rig at drag 1, seconds.
fn drag_s(group: AxisGroup) -> f64 {
    match group {
        AxisGroup::Machine => 0.30,
        AxisGroup::Head => 0.16,
        AxisGroup::Lens => 0.12,
        AxisGroup::Carrier => 0.0,
    }
}

/// What is on the floor: a scene.
#[derive(Clone, Debug)]
pub struct Staged {
    /// Everything that can be driven; at least one.
    pub setups: Vec<Placed>,
    /// Length of the performance, seconds.
    pub scene_length_s: f64,
    /// Who may be in the frame.
    pub people: Arc<People>,
    /// Who can be driven.
    pub cast: Arc<Vec<Cast>>,
    /// What a camera that minds must not run into.
    pub walls: Arc<Vec<Wall>>,
}

/// Whether a take rolls.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Phase {
    Standby,
    /// Until a tick.
    Counting {
        until: u64,
    },
    /// The take below plays up to where the pass begins.
    PreRoll,
    /// So many steps of the scene so far, since a tick.
    Rolling {
        steps: u64,
        since: u64,
    },
}

/// What was asked of the roll that is counted in or rolls.
#[derive(Clone, Debug, Default)]
struct Asked {
    note: String,
    pass: PassWanted,
    /// Steps of the scene: where it begins, and where it is cut by itself.
    from: u64,
    until: Option<u64>,
}

/// A take that is laid below: what is not armed plays from it, and the next roll is a pass over it.
#[derive(Clone, Debug)]
pub struct Below {
    /// Of the model.
    pub take: u32,
    /// The setup it was rolled in, and must be driven.
    pub setup_id: u32,
    /// What its axes do.
    pub samples: Arc<Samples>,
}

fn who(of: Of) -> Who {
    match of {
        Of::Performer(id) => Who::Performer(id),
        Of::Piece(id) => Who::Piece(id),
    }
}

/// The floor: the machines of a scene, one of them driven; a performance, a recorder, the pages.
pub struct Floor {
    stands: Vec<Stand>,
    /// The one that is driven, looked through and recorded.
    on: usize,
    scene_length_s: f64,
    people: Arc<People>,
    cast: Arc<Vec<Cast>>,
    acting: Option<Acting>,
    walls: Arc<Vec<Wall>>,
    rates: Vec<f64>,
    nudges: Vec<f64>,
    shaping: Vec<Shaping>,
    fine: bool,
    armed: Vec<bool>,
    begin: Vec<f64>,
    dial: f64,
    drag: f64,
    wheels: Wheels,
    step: u64,
    /// Thousandths of a step of the scene in a tick, and those that are not yet a step.
    clock: u32,
    owed: u32,
    roll: Phase,
    asked: Asked,
    below: Option<Below>,
    devices: BTreeMap<String, Heard>,
    reel: Reel,
    running: bool,
    scene_step: u64,
    trouble: Option<String>,
}

impl Floor {
    /// A scene with every machine at its start; `setup` is driven.
    ///
    /// # Panics
    /// Without a setup.
    pub fn new(staged: Staged, setup: u32) -> Floor {
        let Staged { setups, scene_length_s, people, cast, walls } = staged;
        assert!(!setups.is_empty(), "a scene has a setup");
        let stands: Vec<Stand> = setups.into_iter().map(Stand::new).collect();
        let on = stands.iter().position(|s| s.placed().setup_id == setup).unwrap_or(0);
        let mut floor = Floor {
            stands,
            on,
            scene_length_s,
            people,
            cast,
            acting: None,
            walls,
            rates: Vec::new(),
            nudges: Vec::new(),
            shaping: Vec::new(),
            fine: false,
            armed: Vec::new(),
            begin: Vec::new(),
            dial: 0.6,
            drag: 1.0,
            wheels: Wheels::default(),
            step: 0,
            clock: FULL,
            owed: 0,
            roll: Phase::Standby,
            asked: Asked::default(),
            below: None,
            devices: BTreeMap::new(),
            reel: Reel::default(),
            running: true,
            scene_step: 0,
            trouble: None,
        };
        floor.take_over();
        floor.jump();
        floor
    }

    fn stand(&self) -> &Stand {
        &self.stands[self.on]
    }

    fn stand_mut(&mut self) -> &mut Stand {
        &mut self.stands[self.on]
    }

    /// Hands come fresh onto the machine that is driven.
    fn take_over(&mut self) {
        let n = self.stand().motions().len();
        self.rates = vec![0.0; n];
        self.nudges = vec![0.0; n];
        self.shaping = vec![Shaping::default(); n];
        self.armed = vec![true; n];
        self.begin = self.stand().values();
        if self.below.as_ref().is_some_and(|b| !self.fits(b)) {
            self.below = None;
        }
    }

    /// The floor's own time, seconds: what devices are read by.
    pub fn clock_s(&self) -> f64 {
        self.step as f64 * STEP_S
    }

    /// A tracked device sent a packet.
    pub fn tracked(&mut self, source: Option<&str>, sample: Option<&Sample>, packet: Packet) {
        let time_s = packet.time_s;
        if let Phase::Rolling { since, .. } = self.roll
            && self.stand().attached()
            && !self.alone()
            && source.is_none_or(|s| self.source().is_some_and(|(name, _)| name == s))
        {
            self.reel.packet(Packet { time_s: time_s - since as f64 * STEP_S, ..packet });
        }
        let (Some(source), Some(sample)) = (source, sample) else { return };
        if !self.devices.contains_key(source) {
            let now_s = self.clock_s();
            self.devices.retain(|_, h| h.alive(now_s - 60.0));
            if self.devices.len() >= crate::devices::MOST_SOURCES {
                return;
            }
        }
        self.devices.entry(source.into()).or_default().hear(sample, time_s);
    }

    /// The device of the setup that is driven.
    fn source(&self) -> Option<(&str, &Heard)> {
        self.stand().source(&self.devices, self.clock_s())
    }

    /// The axes of the machine that is driven.
    pub fn axes(&self) -> &[Axis] {
        self.stand().axes()
    }

    /// What is driven.
    pub fn placed(&self) -> &Placed {
        self.stand().placed()
    }

    /// The performance's length, seconds.
    pub fn scene_length_s(&self) -> f64 {
        self.scene_length_s
    }

    /// The scene as it now is. Machines stay where they are, as far as they still can; a take that
    /// rolls is cut when its own machine or camera changed.
    pub fn stage(&mut self, staged: Staged) {
        let driven = self.placed().setup_id;
        let old = self.placed().clone();
        let mut stands: BTreeMap<u32, Stand> =
            std::mem::take(&mut self.stands).into_iter().map(|s| (s.placed().setup_id, s)).collect();
        (self.scene_length_s, self.people, self.walls) = (staged.scene_length_s, staged.people, staged.walls);
        self.cast = staged.cast;
        // Who is gone from the scene cannot be driven.
        if self.acting.as_ref().is_some_and(|a| !self.cast.iter().any(|c| c.of == a.cast.of)) {
            self.acting = None;
        }
        let mut cut = true;
        for placed in staged.setups {
            if placed.setup_id == driven {
                cut = (&placed.camera, &placed.rig) != (&old.camera, &old.rig);
            }
            let stand = match stands.remove(&placed.setup_id) {
                Some(mut stand) => {
                    stand.change(placed);
                    stand
                }
                None => Stand::new(placed),
            };
            self.stands.push(stand);
        }
        assert!(!self.stands.is_empty(), "a scene has a setup");
        let there = self.stands.iter().position(|s| s.placed().setup_id == driven);
        self.on = there.unwrap_or(0);
        if cut {
            self.cut();
        }
        if there.is_none() || self.stand().motions().len() != self.rates.len() {
            self.take_over();
        }
        if self.below.as_ref().is_some_and(|b| !self.fits(b)) {
            self.below = None;
        }
    }

    /// Another setup is driven; the one before stands where it was left.
    pub fn put(&mut self, setup: u32) {
        let Some(on) = self.stands.iter().position(|s| s.placed().setup_id == setup) else { return };
        if on != self.on {
            self.cut();
            self.on = on;
            self.take_over();
        }
    }

    /// Every machine where the scene's time has it.
    fn jump(&mut self) {
        let time_s = self.scene_step as f64 * STEP_S;
        let moment = Moment {
            now_s: time_s,
            next_s: time_s,
            people: &self.people,
            walls: &self.walls,
            devices: &self.devices,
            clock_s: self.step as f64 * STEP_S,
        };
        let axes = self.playing();
        for (k, stand) in self.stands.iter_mut().enumerate() {
            let below = self.below.as_ref().filter(|_| k == self.on);
            stand.jump(&moment, below.map(|b| Plays { samples: &b.samples, axes: &axes }));
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

    /// What a page asks, meant for a setup. Hands on a machine that is not driven any more are only the
    /// sign that the page is there.
    pub fn asked(&mut self, page: PageId, asked: PageCommand) {
        let elsewhere = asked.setup.is_some_and(|setup| setup != self.placed().setup_id);
        if asked.command.drives() && elsewhere {
            self.wheels.heard(page, self.step);
        } else {
            self.command(page, asked.command);
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
            Command::Drive { rates, nudges, fine } => {
                self.fine = fine;
                for (rate, new) in self.rates.iter_mut().zip(rates) {
                    *rate = if new.is_finite() { new.clamp(-1.0, 1.0) } else { 0.0 };
                }
                let axes = self.stands[self.on].axes();
                for ((nudge, new), axis) in self.nudges.iter_mut().zip(nudges).zip(axes) {
                    *nudge += if new.is_finite() { axis.unit.from_shown(new) } else { 0.0 };
                }
            }
            Command::Shape { axes } => {
                for (shaping, new) in self.shaping.iter_mut().zip(axes) {
                    *shaping = new.within_reason();
                }
            }
            Command::Feel { dial, drag } => {
                if dial.is_finite() && drag.is_finite() {
                    (self.dial, self.drag) = (dial.clamp(0.05, 1.0), drag.clamp(0.0, 4.0));
                }
            }
            Command::Arm { axis, on } => {
                if let (Some(armed), Phase::Standby) = (self.armed.get_mut(axis), self.roll) {
                    *armed = on;
                }
            }
            Command::Roll { count_in_s, until_s, note, pass } => {
                if self.roll == Phase::Standby && count_in_s.is_finite() {
                    self.count_in(count_in_s, until_s, note, pass);
                }
            }
            Command::Clock { speed } => {
                if self.roll == Phase::Standby && speed.is_finite() {
                    self.clock = ((speed * f64::from(FULL)).round() as u32).clamp(50, FULL);
                    self.owed = 0;
                }
            }
            Command::Act { who, alone } => {
                if self.roll == Phase::Standby {
                    let of = who.map(|who| match who {
                        Who::Performer(id) => Of::Performer(id),
                        Who::Piece(id) => Of::Piece(id),
                    });
                    match (&mut self.acting, of) {
                        (Some(acting), Some(of)) if acting.cast.of == of => acting.alone = alone,
                        _ => {
                            let cast = of.and_then(|of| self.cast.iter().find(|c| c.of == of));
                            self.acting = cast.map(|c| Acting::new(c.clone(), alone));
                        }
                    }
                }
            }
            Command::Walk { ahead, turn, run, sit } => {
                if let Some(acting) = &mut self.acting
                    && ahead.is_finite()
                    && turn.is_finite()
                {
                    acting.wanted = Wanted { ahead, turn, run, sit };
                }
            }
            Command::Attach { on } => {
                if !matches!(self.roll, Phase::PreRoll | Phase::Rolling { .. }) {
                    let clock_s = self.clock_s();
                    self.stands[self.on].attach(on, &self.devices, clock_s);
                }
            }
            Command::Cut => self.cut(),
            Command::Run { on } => {
                if self.roll == Phase::Standby {
                    self.running = on;
                }
            }
            Command::Seek { time_s } => {
                if self.roll == Phase::Standby && time_s.is_finite() {
                    let time_s = time_s.clamp(0.0, self.scene_length_s);
                    self.scene_step = (time_s * STEPS_HZ as f64).round() as u64;
                    self.jump();
                }
            }
            Command::Return => {
                if self.roll == Phase::Standby {
                    if let Some(acting) = &mut self.acting {
                        acting.back();
                    }
                    let (begin, dial) = (self.begin.clone(), self.dial);
                    self.stand_mut().send(vec![begin], None, dial);
                }
            }
            Command::Go { targets } => {
                let mut row = self.stand().values();
                for ((value, axis), target) in row.iter_mut().zip(self.axes()).zip(targets) {
                    if let Some(target) = target.filter(|t| t.is_finite()) {
                        *value = axis.unit.from_shown(target).clamp(axis.min, axis.max);
                    }
                }
                self.send(vec![vec![row]], None);
            }
            Command::GoTo { number, seconds } => {
                if let Some(row) = self.stand().position(number) {
                    self.send(vec![vec![row]], seconds);
                }
            }
            Command::Rehearse { positions, seconds } => {
                let rows: Vec<Vec<f64>> =
                    positions.iter().take(99).filter_map(|n| self.stand().position(*n)).collect();
                if let Some((first, rest)) = rows.split_first() {
                    let rest = (!rest.is_empty()).then(|| rest.to_vec());
                    self.send(
                        [Some(vec![first.clone()]), rest].into_iter().flatten().collect(),
                        Some(seconds),
                    );
                }
            }
            Command::Level => {
                let dial = self.dial;
                self.stand_mut().stay();
                self.stand_mut().level(dial);
            }
            Command::Stay => self.stand_mut().stay(),
            Command::Fly { on } => self.stand_mut().fly(on),
            Command::Discard => self.stand_mut().discard(),
            Command::Ask | Command::Give | Command::Keep => {}
        }
    }

    /// Sends the machine that is driven along courses, the last of them in `seconds`.
    fn send(&mut self, courses: Vec<Vec<Vec<f64>>>, seconds: Option<f64>) {
        let (dial, last) = (self.dial, courses.len());
        let seconds = seconds.filter(|s| s.is_finite()).map(|s| s.clamp(0.1, 3600.0));
        let stand = self.stand_mut();
        stand.stay();
        for (i, course) in courses.into_iter().enumerate() {
            // What is asked to take a time may use all that the machine can.
            let timed = seconds.filter(|_| i + 1 == last);
            stand.send(course, timed, if timed.is_some() { 1.0 } else { dial });
        }
    }

    /// One tick of 1/240 s: a step of the scene, or as much of one as the floor's clock gives.
    pub fn step(&mut self) {
        self.step += 1;
        self.wheels.pass(self.step);
        if let Phase::Counting { until } = self.roll
            && self.step >= until
        {
            if self.scene_step < self.asked.from {
                self.roll = Phase::PreRoll;
            } else {
                self.start_rolling();
            }
        }
        let silent = self.wheels.silent(self.step);
        if silent && self.rates.iter().any(|r| *r != 0.0) {
            self.rates.fill(0.0);
            self.flag("nobody was at the wheels for a while".into());
        }
        if silent && let Some(acting) = &mut self.acting {
            acting.wanted = Wanted { sit: acting.wanted.sit, ..Wanted::default() };
        }
        if self.wheels.silent_for(self.step) > FORGET_STEPS {
            self.stand_mut().stay();
        }
        self.owed += self.clock;
        if self.owed >= FULL {
            self.owed -= FULL;
            self.advance(silent);
        }
    }

    /// One step of the scene.
    fn advance(&mut self, silent: bool) {
        let rolling = matches!(self.roll, Phase::Rolling { .. });
        let going = rolling || self.roll == Phase::PreRoll;
        let next_step = if going || self.running { self.scene_step + 1 } else { self.scene_step };
        // Between takes the performance goes round.
        let round = self.roll == Phase::Standby && next_step as f64 > self.scene_length_s * STEPS_HZ as f64;
        if round {
            self.scene_step = 0;
            self.jump();
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
            if self.stand().attached() && !self.source().is_some_and(|(_, h)| h.alive(self.clock_s())) {
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
            walls: &self.walls,
            devices: &self.devices,
            clock_s: self.step as f64 * STEP_S,
        };
        let plays = self.playing();
        for (k, stand) in self.stands.iter_mut().enumerate() {
            let n = stand.motions().len();
            if k != self.on {
                // Nobody's hands are on it.
                let brake = Demand { brake: true, ..Demand::default() };
                let off = vec![Hand { demand: brake, drag_s: 0.0 }; n];
                stand.step(&off, &vec![false; n], None, &moment);
                continue;
            }
            let dial = self.dial * if self.fine { FINE } else { 1.0 };
            let hand = |i: usize| {
                let shaping = &self.shaping[i];
                let demand = Demand {
                    rate: shaping.rate(self.rates[i]),
                    dial,
                    nudge: std::mem::take(&mut self.nudges[i]),
                    brake: silent,
                };
                Hand { demand, drag_s: drag_s(stand.axes()[i].group) * self.drag * shaping.drag }
            };
            let hands: Vec<Hand> = (0..n).map(hand).collect();
            let below = self.below.as_ref().map(|b| Plays { samples: &b.samples, axes: &plays });
            let still = |i: usize| {
                (rolling && !self.armed[i] || below.is_some() && plays[i]) && stand.axes()[i].hand.is_some()
            };
            let still: Vec<bool> = (0..n).map(still).collect();
            stand.step(&hands, &still, below, &moment);
        }
        self.scene_step = next_step;
    }
}
