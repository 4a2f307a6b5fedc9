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

use crate::acting::{Acting, Cast};
use crate::command::{Command, PassWanted, Status, TrackingStatus, Who};
use crate::devices::Heard;
use crate::reel::Reel;
use crate::stand::{Moment, Plays, Stand};
use crate::state::{AxisState, Other, State, axis, flags};
use crate::wheels::{PageId, Wheels};
use rovnek_core::axis::{Axis, AxisGroup};
use rovnek_core::drive::{Demand, Hand, STEP_S, time_to_stop};
use rovnek_core::evaluate::lens_of;
use rovnek_core::follow::Wish;
use rovnek_core::framing;
use rovnek_core::hands::Shaping;
use rovnek_core::lens::{depth_of_field, hyperfocal};
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
#[allow(clippy::enum_variant_names)] // a pre-roll is what the trade calls it
enum Roll {
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
    roll: Roll,
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
            roll: Roll::Standby,
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

    /// Whether a take can be laid below what is driven.
    fn fits(&self, below: &Below) -> bool {
        below.setup_id == self.placed().setup_id
            && below.samples.width() == self.axes().len()
            && !below.samples.is_empty()
    }

    /// The floor's own time, seconds: what devices are read by.
    pub fn clock_s(&self) -> f64 {
        self.step as f64 * STEP_S
    }

    /// A take is laid below, or none.
    pub fn lay(&mut self, below: Option<Below>) {
        let same = |a: &Below, b: &Below| a.take == b.take && Arc::ptr_eq(&a.samples, &b.samples);
        if self.below.as_ref().zip(below.as_ref()).is_some_and(|(a, b)| same(a, b)) {
            return;
        }
        // What a pass is rolled over does not change under it.
        if self.roll != Roll::Standby {
            return;
        }
        self.below = below.filter(|b| self.fits(b));
        self.jump();
    }

    /// A tracked device sent a packet.
    pub fn tracked(&mut self, source: Option<&str>, sample: Option<&Sample>, packet: Packet) {
        let time_s = packet.time_s;
        if let Roll::Rolling { since, .. } = self.roll
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

    /// A setup's machine follows an earlier move, or none.
    pub fn follow(&mut self, setup: u32, wish: Option<Arc<Wish>>) {
        if let Some(stand) = self.stands.iter_mut().find(|s| s.placed().setup_id == setup) {
            stand.follow(wish);
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

    /// The axes that play from the take below: what is not armed; before a punch in, all of them.
    fn playing(&self) -> Vec<bool> {
        let all = match self.roll {
            Roll::PreRoll => true,
            Roll::Counting { .. } => self.asked.from > 0,
            Roll::Standby | Roll::Rolling { .. } => false,
        };
        self.armed.iter().map(|armed| all || !armed).collect()
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
            self.reel.flag(why.clone());
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
                if let (Some(armed), Roll::Standby) = (self.armed.get_mut(axis), self.roll) {
                    *armed = on;
                }
            }
            Command::Roll { count_in_s, until_s, note, pass } => {
                if self.roll == Roll::Standby && count_in_s.is_finite() {
                    self.count_in(count_in_s, until_s, note, pass);
                }
            }
            Command::Clock { speed } => {
                if self.roll == Roll::Standby && speed.is_finite() {
                    self.clock = ((speed * f64::from(FULL)).round() as u32).clamp(50, FULL);
                    self.owed = 0;
                }
            }
            Command::Act { who, alone } => {
                if self.roll == Roll::Standby {
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
                if !matches!(self.roll, Roll::PreRoll | Roll::Rolling { .. }) {
                    let clock_s = self.clock_s();
                    self.stands[self.on].attach(on, &self.devices, clock_s);
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
                    let time_s = time_s.clamp(0.0, self.scene_length_s);
                    self.scene_step = (time_s * STEPS_HZ as f64).round() as u64;
                    self.jump();
                }
            }
            Command::Return => {
                if self.roll == Roll::Standby {
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

    /// Counts in. Where a take is laid below, the roll is a pass over it.
    fn count_in(&mut self, count_in_s: f64, until_s: Option<f64>, note: String, pass: PassWanted) {
        let ticks = (count_in_s.clamp(0.0, 5.0) * STEPS_HZ as f64).round() as u64;
        // Whole samples, so that a pass lies on the samples below.
        let steps = |s: f64| (s.max(0.0) * SAMPLE_RATE_HZ).round() as u64 * STEPS_PER_SAMPLE;
        let until = until_s.filter(|s| s.is_finite()).map(steps);
        self.asked = Asked { note: note.chars().take(2000).collect(), from: 0, until, pass };
        let mut starts = 0;
        if let Some(below) = &self.below {
            let end = (below.samples.len() as u64 - 1) * STEPS_PER_SAMPLE;
            let wanted = &self.asked.pass;
            let plain = |s: f64| if s.is_finite() { s } else { 0.0 };
            let from = steps(plain(wanted.from_s)).min(end.saturating_sub(STEPS_PER_SAMPLE));
            let pre_roll = steps(plain(wanted.pre_roll_s).min(60.0));
            self.asked.from = from;
            self.asked.until = Some(until.unwrap_or(end).min(end).max(from + STEPS_PER_SAMPLE));
            starts = from.saturating_sub(pre_roll);
        }
        self.roll = Roll::Counting { until: self.step + ticks };
        self.scene_step = starts;
        self.running = false;
        self.trouble = None;
        if self.below.is_some() {
            self.jump();
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
        if let Roll::Counting { until } = self.roll
            && self.step >= until
        {
            if self.scene_step < self.asked.from {
                self.roll = Roll::PreRoll;
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
        let rolling = matches!(self.roll, Roll::Rolling { .. });
        let going = rolling || self.roll == Roll::PreRoll;
        let next_step = if going || self.running { self.scene_step + 1 } else { self.scene_step };
        // Between takes the performance goes round.
        let round = self.roll == Roll::Standby && next_step as f64 > self.scene_length_s * STEPS_HZ as f64;
        if round {
            self.scene_step = 0;
            self.jump();
        } else {
            self.move_to(next_step, rolling, silent);
        }
        if let Some(acting) = &mut self.acting {
            acting.step();
        }
        if self.roll == Roll::PreRoll && self.scene_step >= self.asked.from {
            self.start_rolling();
        } else if let Roll::Rolling { steps, .. } = &mut self.roll {
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

    fn start_rolling(&mut self) {
        // Where everything stands now, before this step moves it, is time zero. A pass that begins
        // within a take goes on from what played up to there.
        self.roll = Roll::Rolling { steps: 0, since: self.step - 1 };
        if self.asked.from == 0 {
            self.scene_step = 0;
            self.jump();
        }
        self.begin = self.stand().values();
        self.owed = 0;
        let begun = Begun {
            placed: self.placed().clone(),
            clock: f64::from(self.clock) / f64::from(FULL),
            device: self.source().filter(|_| self.stand().attached()).map(|(name, _)| name.to_string()),
            note: std::mem::take(&mut self.asked.note),
            pass: self.below.as_ref().map(|below| self.pass_over(below)),
        };
        // A performance is driven from its beginning; a pass within a take is not.
        let drives = self.asked.from == 0;
        let acted = self.acting.as_mut().filter(|_| drives).map(|acting| {
            acting.begins();
            who(acting.cast.of)
        });
        self.reel.begin((!self.alone()).then_some(begun), acted);
        self.sample();
    }

    fn pass_over(&self, below: &Below) -> BegunPass {
        let driven = |i: &usize| self.axes()[*i].hand.is_some();
        let all = (0..self.armed.len()).filter(driven).all(|i| self.armed[i]);
        // What surrounds the machine goes with the whole of it.
        let records = |i: &usize| if driven(i) { self.armed[*i] } else { all };
        let wanted = &self.asked.pass;
        let blend_s = if wanted.blend_s.is_finite() { wanted.blend_s.clamp(0.0, 10.0) } else { 0.5 };
        BegunPass {
            take: below.take,
            name: wanted.name.chars().take(120).collect(),
            at: (self.asked.from / STEPS_PER_SAMPLE) as usize,
            axes: (0..self.armed.len()).filter(records).collect(),
            blend_s,
        }
    }

    fn cut(&mut self) {
        if let Roll::Rolling { .. } = self.roll {
            self.reel.end();
            // Whoever was driven plays from now on as they were recorded.
            self.acting = self.acting.take().filter(|_| self.asked.from > 0);
        }
        if self.roll != Roll::Standby {
            self.roll = Roll::Standby;
            self.running = true;
        }
    }

    /// Whether only somebody is driven, and the camera does not record.
    fn alone(&self) -> bool {
        self.acting.as_ref().is_some_and(|a| a.alone) && self.below.is_none()
    }

    fn sample(&mut self) {
        if let Some(acting) = self.acting.as_ref().filter(|_| self.asked.from == 0) {
            self.reel.acted(acting.row());
        }
        if !self.alone() {
            let row = self.stand().values();
            self.reel.axes(&row);
        }
    }

    /// Words for the take that rolls.
    fn flag(&mut self, words: String) {
        if matches!(self.roll, Roll::Rolling { .. }) {
            self.reel.flag(words);
        }
    }

    /// What the recorder must have, in order; each note is given once.
    pub fn take_notes(&mut self) -> Vec<Note> {
        self.reel.take_notes()
    }

    /// What pages are told when it changes.
    pub fn status(&self) -> Status {
        Status {
            setup_id: self.placed().setup_id,
            holder: self.wheels.holder(),
            asking: self.wheels.asking(),
            pages: self.wheels.pages(),
            roll: match self.roll {
                Roll::Standby => "standby",
                Roll::Counting { .. } => "counting",
                Roll::PreRoll => "pre-roll",
                Roll::Rolling { .. } => "rolling",
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
            pending: self.stand().pending(),
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
            Roll::Standby => (0, 0.0),
            Roll::Counting { until } => (flags::COUNTING, (until - self.step) as f64 * STEP_S),
            Roll::PreRoll => (flags::PRE_ROLL, (self.asked.from - self.scene_step) as f64 * STEP_S),
            Roll::Rolling { steps, .. } => (flags::ROLLING, steps as f64 * STEP_S),
        };
        let running = self.running || matches!(self.roll, Roll::PreRoll | Roll::Rolling { .. });
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
