//! The floor: the machines of a scene, one of them driven, looked through and recorded.
//!
//! Each step: hands → demand of each axis → motion within limits → forward kinematics. While a
//! take rolls every second step is a sample; 30 samples (a quarter second) are a chunk that goes
//! out as a [`RecorderEvent`] to the recorder, losslessly, while pages only ever see the newest state.
//!
//! There are two counts of time. *Ticks* go with the wall clock: count in, silence, devices. *Steps*
//! of the scene go with the floor's clock, which may be slower to give hands time: everything that
//! moves and everything that is recorded. A take rolled slowly is therefore true to the scene's
//! time by itself.

mod commands;
mod controls;
mod report;
mod roll;
mod step;

use crate::acting::{Acting, Cast};
use crate::command::{BroughtAxes, PassRequest, RollState};
use crate::control_lease::{ControlLease, PageId};
use crate::devices::Heard;
use crate::machine::{Moment, Plays, SetupMachine};
use crate::room::RoomAnswer;
use crate::take_buffer::TakeBuffer;
use controls::Controls;
use rovnek_core::axis::Axis;
use rovnek_core::axis_motion::STEP_S;
use rovnek_core::carrier::Carrier;
use rovnek_core::clearance::Obstacles;
use rovnek_core::ids::{SetupId, TakeId};
use rovnek_core::playing::{Carriages, MoverId, SubjectPoints};
use rovnek_core::samples::Samples;
use rovnek_core::space::Pose;
use rovnek_core::time::{SAMPLE_RATE_HZ, Timebase};
use rovnek_core::wheels::Wheel;
use rovnek_formats::tracking::Sample;
use rovnek_formats::tracking::capture::Packet;
use std::collections::BTreeMap;
use std::sync::Arc;

pub use crate::machine::Placed;
pub use crate::take_buffer::{CHUNK_SAMPLES, PassStart, RecorderEvent, TakeStart};

/// Steps per second.
pub const STEPS_HZ: u64 = 240;
/// Steps from sample to sample.
const STEPS_PER_SAMPLE: u64 = STEPS_HZ / SAMPLE_RATE_HZ as u64;
/// Silence after which a machine that was sent somewhere stays where it is, in steps.
const FORGET_STEPS: u64 = 2 * STEPS_HZ;
/// The floor's clock at full speed, in thousandths.
const FULL: u32 = 1000;
/// The longest a take rolls before it is cut.
const LONGEST_TAKE_STEPS: u64 = 15 * 60 * STEPS_HZ;

/// Scene that is put onto the floor.
#[derive(Clone, Debug)]
pub struct Staged {
    /// Everything that can be driven; at least one.
    pub setups: Vec<Placed>,
    /// Length of the performance, seconds.
    pub scene_length_s: f64,
    /// How its times are counted.
    pub timebase: Timebase,
    /// People who may be in the frame.
    pub people: Arc<SubjectPoints>,
    /// Performers and pieces that can be driven.
    pub cast: Arc<Vec<Cast>>,
    /// Obstacles for machines.
    pub obstacles: Arc<Obstacles>,
}

/// Phase of a roll.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Phase {
    Standby,
    /// Counting in, until a tick.
    Counting {
        until: u64,
    },
    /// The take below plays up to where the pass begins.
    PreRoll,
    /// Rolling: steps of the scene so far, since a tick.
    Rolling {
        steps: u64,
        since: u64,
    },
}

impl Phase {
    /// Phase for pages.
    fn state(self) -> RollState {
        match self {
            Phase::Standby => RollState::Standby,
            Phase::Counting { .. } => RollState::Counting,
            Phase::PreRoll => RollState::PreRoll,
            Phase::Rolling { .. } => RollState::Rolling,
        }
    }
}

/// End of the performance while nothing rolls.
#[derive(Clone, Copy, Debug)]
struct Round {
    /// Begins again when it is over; else it stands.
    on: bool,
    /// Steps of the scene: where it begins again, and where it is over; at the end where none is given.
    from: u64,
    to: Option<u64>,
}

impl Default for Round {
    fn default() -> Round {
        Round { on: true, from: 0, to: None }
    }
}

/// Request for the roll that is counted in or rolls.
#[derive(Clone, Debug, Default)]
struct RollRequest {
    note: String,
    pass: PassRequest,
    /// Steps of the scene: where it begins, and where it is cut by itself.
    from: u64,
    until: Option<u64>,
}

/// A take that is laid below: what is not armed plays from it, and the next roll is a pass over it.
#[derive(Clone, Debug)]
pub struct BaseTake {
    /// Id of the take.
    pub take: TakeId,
    /// The setup it was rolled in, and must be driven.
    pub setup_id: SetupId,
    /// Samples of the take's axes.
    pub samples: Arc<Samples>,
}

/// The floor: the machines of a scene, one of them driven; a performance, a recorder, the pages.
pub struct Floor {
    machines: Vec<SetupMachine>,
    /// The one that is driven, looked through and recorded.
    on: usize,
    scene_length_s: f64,
    timebase: Timebase,
    people: Arc<SubjectPoints>,
    cast: Arc<Vec<Cast>>,
    acting: Option<Acting>,
    obstacles: Arc<Obstacles>,
    /// Last answer about the machine's clearance.
    room: Option<RoomAnswer>,
    /// Carriages with a load, before the last step.
    carriages_before: Carriages,
    controls: Controls,
    /// Armed axes, one flag per axis.
    armed: Vec<bool>,
    /// Axis values at which the last roll began; before the first roll, the start values.
    begin: Vec<f64>,
    lease: ControlLease,
    /// Page whose hands were on each wheel at the last look.
    hands: [Option<PageId>; Wheel::ALL.len()],
    /// Names that people at pages gave.
    names: BTreeMap<PageId, String>,
    /// The last request of each page that brought axes somewhere.
    brought: BTreeMap<PageId, BroughtAxes>,
    step: u64,
    /// Thousandths of a step of the scene in a tick, and those that are not yet a step.
    clock: u32,
    clock_rest: u32,
    roll: Phase,
    asked: RollRequest,
    below: Option<BaseTake>,
    devices: BTreeMap<String, Heard>,
    buffer: TakeBuffer,
    running: bool,
    /// True if the scene's time ran before the last roll: after the cut it does again.
    ran: bool,
    round: Round,
    /// Another scene comes onto the floor.
    left: bool,
    scene_step: u64,
    trouble: Option<String>,
}

impl Floor {
    /// A scene with every machine at its start; `setup` is driven.
    ///
    /// # Panics
    /// Without a setup.
    pub fn new(staged: Staged, setup: SetupId) -> Floor {
        let Staged { setups, scene_length_s, timebase, people, cast, obstacles } = staged;
        assert!(!setups.is_empty(), "a scene has a setup");
        let machines: Vec<SetupMachine> = setups.into_iter().map(SetupMachine::new).collect();
        let on = machines.iter().position(|s| s.placed().setup_id == setup).unwrap_or(0);
        let mut floor = Floor {
            machines,
            on,
            scene_length_s,
            timebase,
            people,
            cast,
            acting: None,
            obstacles,
            room: None,
            carriages_before: Carriages::new(),
            controls: Controls::default(),
            armed: Vec::new(),
            begin: Vec::new(),
            lease: ControlLease::default(),
            hands: Default::default(),
            names: BTreeMap::new(),
            brought: BTreeMap::new(),
            step: 0,
            clock: FULL,
            clock_rest: 0,
            roll: Phase::Standby,
            asked: RollRequest::default(),
            below: None,
            devices: BTreeMap::new(),
            buffer: TakeBuffer::default(),
            running: false,
            ran: false,
            round: Round::default(),
            left: false,
            scene_step: 0,
            trouble: None,
        };
        floor.take_over();
        floor.jump();
        floor
    }

    /// In the place of a floor that a fault of its own ended: the same pages at the same step, every
    /// machine at its start.
    ///
    /// # Panics
    /// Without a setup.
    pub fn after(ended: &Floor, staged: Staged, setup: SetupId) -> Floor {
        let mut floor = Floor::new(staged, setup);
        (floor.step, floor.lease, floor.hands) = (ended.step, ended.lease.clone(), ended.hands);
        floor.names = ended.names.clone();
        let words = "the floor ended by a fault of its own and was started again; what rolled was cut";
        floor.trouble = Some(words.into());
        floor
    }

    /// Another scene comes onto the floor: the same pages, devices and dial; it stands at its beginning
    /// with every machine at its start. What still rolls is cut.
    ///
    /// # Panics
    /// Without a setup.
    pub fn enter(&mut self, staged: Staged, setup: SetupId) {
        self.cut();
        let mut floor = Floor::new(staged, setup);
        floor.controls.feel(self.controls.dial(), self.controls.drag());
        floor.lease = std::mem::take(&mut self.lease);
        floor.devices = std::mem::take(&mut self.devices);
        floor.buffer = std::mem::take(&mut self.buffer);
        (floor.step, floor.clock, floor.running) = (self.step, self.clock, false);
        floor.round.on = self.round.on;
        *self = floor;
    }

    /// The scene is left where nothing is counted in or rolls: the recorder is told after all else, and
    /// nothing rolls until a scene is entered.
    pub fn leave_scene(&mut self) {
        if self.roll == Phase::Standby {
            self.left = true;
            self.buffer.left();
        }
    }

    /// The scene stays after all.
    pub fn stay_in_scene(&mut self) {
        self.left = false;
    }

    fn machine(&self) -> &SetupMachine {
        &self.machines[self.on]
    }

    fn machine_mut(&mut self) -> &mut SetupMachine {
        &mut self.machines[self.on]
    }

    /// Another machine is driven: no hand is on it yet, and every axis records.
    fn take_over(&mut self) {
        let n = self.machine().motions().len();
        self.controls.take_over(n);
        self.armed = vec![true; n];
        self.begin = self.machine().starts();
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
            && self.machine().attached()
            && !self.alone()
            && source.is_none_or(|s| self.source().is_some_and(|(name, _)| name == s))
        {
            self.buffer.packet(Packet { time_s: time_s - since as f64 * STEP_S, ..packet });
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
        self.machine().source(&self.devices, self.clock_s())
    }

    /// The axes of the machine that is driven.
    pub fn axes(&self) -> &[Axis] {
        self.machine().axes()
    }

    /// Setup that is driven.
    pub fn placed(&self) -> &Placed {
        self.machine().placed()
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
        let mut old_machines: BTreeMap<SetupId, SetupMachine> =
            std::mem::take(&mut self.machines).into_iter().map(|s| (s.placed().setup_id, s)).collect();
        (self.scene_length_s, self.people) = (staged.scene_length_s, staged.people);
        self.obstacles = staged.obstacles;
        (self.cast, self.timebase) = (staged.cast, staged.timebase);
        // Who is gone from the scene cannot be driven.
        if self.acting.as_ref().is_some_and(|a| !self.cast.iter().any(|c| c.of == a.cast.of)) {
            self.acting = None;
        }
        let mut cut = true;
        for placed in staged.setups {
            if placed.setup_id == driven {
                cut = (&placed.camera, &placed.rig) != (&old.camera, &old.rig);
            }
            let stand = match old_machines.remove(&placed.setup_id) {
                Some(mut stand) => {
                    stand.change(placed);
                    stand
                }
                None => SetupMachine::new(placed),
            };
            self.machines.push(stand);
        }
        assert!(!self.machines.is_empty(), "a scene has a setup");
        let there = self.machines.iter().position(|s| s.placed().setup_id == driven);
        self.on = there.unwrap_or(0);
        if cut {
            let what = if there.is_some() {
                "its machine or its camera was changed"
            } else {
                "its setup was taken away"
            };
            self.flag(format!("cut because {what} while it rolled"));
            self.cut();
        }
        if there.is_none() || self.machine().motions().len() != self.armed.len() {
            self.take_over();
        }
        if self.below.as_ref().is_some_and(|b| !self.fits(b)) {
            self.below = None;
        }
    }

    /// Another setup is driven; the one before stands where it was left.
    pub fn put(&mut self, setup: SetupId) {
        let Some(on) = self.machines.iter().position(|s| s.placed().setup_id == setup) else { return };
        if on != self.on {
            self.flag("cut because another setup was put on the floor while it rolled".into());
            self.cut();
            self.on = on;
            self.take_over();
        }
    }

    /// Runs or stops the scene's time while nothing rolls.
    pub fn run(&mut self, on: bool) {
        if self.roll == Phase::Standby {
            self.running = on;
            // What stands at its end begins again.
            if on && self.scene_step >= self.last_step() {
                self.scene_step = self.round.from;
                self.jump();
            }
        }
    }

    /// Carriages with a load.
    fn carriages(&self) -> Carriages {
        let playing = self.obstacles.playing();
        let stood_on = |m: &&SetupMachine| playing.riders(m.placed().setup_id).next().is_some();
        let on = self.machines.iter().filter(stood_on);
        on.map(|m| (m.placed().setup_id, m.pose().carriage)).collect()
    }

    /// Pose of each machine's carrier: another machine as it stands, a driven performer, a load on a machine.
    /// None for a carrier that moves as the scene has it.
    fn carriers(&self, time_s: f64, carriages: &Carriages) -> Vec<Option<Pose>> {
        let along = |of: MoverId| {
            if let Some(acting) = self.acting.as_ref().filter(|a| a.cast.of == of) {
                return Some(acting.foot());
            }
            let playing = self.obstacles.playing();
            let mut riders = carriages.keys().flat_map(|setup| playing.riders(*setup));
            let rider = riders.find(|i| playing.movers[*i].of == of)?;
            Some(playing.pose_on(rider, time_s, carriages))
        };
        let carrier = |machine: &SetupMachine| match machine.placed().rig.carried? {
            Carrier::Setup { id, moved: None } => {
                let carries = self.machines.iter().find(|m| m.placed().setup_id == id)?;
                Some(carries.pose().carriage)
            }
            Carrier::Setup { moved: Some(_), .. } => None,
            Carrier::Performer { id } => along(MoverId::Performer(id)),
            Carrier::Piece { id } => along(MoverId::Piece(id)),
        };
        self.machines.iter().map(carrier).collect()
    }

    /// The step at which the performance is over, from where it stands.
    fn last_step(&self) -> u64 {
        let end = (self.scene_length_s * STEPS_HZ as f64) as u64;
        let out = self.round.to.map_or(end, |to| to.min(end));
        if self.scene_step <= out { out } else { end }
    }

    /// Every machine where the scene's time has it.
    fn jump(&mut self) {
        self.jump_once();
        // Machines that stand on another one, or look at who does, jump again when that is there.
        if !self.carriages_before.is_empty() || self.machines.iter().any(|m| m.placed().rig.carried.is_some())
        {
            self.jump_once();
        }
    }

    fn jump_once(&mut self) {
        let time_s = self.scene_step as f64 * STEP_S;
        let carriages = self.carriages();
        let moment = Moment {
            now_s: time_s,
            next_s: time_s,
            people: &self.people,
            carrier: None,
            carriages: [&carriages, &carriages],
            devices: &self.devices,
            clock_s: self.step as f64 * STEP_S,
        };
        let axes = self.playing();
        let carriers = self.carriers(time_s, &carriages);
        for (k, stand) in self.machines.iter_mut().enumerate() {
            let moment = Moment { carrier: carriers[k], ..moment };
            let below = self.below.as_ref().filter(|_| k == self.on);
            stand.jump(&moment, below.map(|b| Plays { samples: &b.samples, axes: &axes }));
        }
        self.carriages_before = self.carriages();
    }

    /// A page has opened.
    pub fn join(&mut self, page: PageId) {
        self.lease.join(page, self.step);
        self.settle_hands();
    }

    /// A page has closed.
    pub fn leave(&mut self, page: PageId) {
        self.lease.leave(page, self.step);
        self.settle_hands();
        self.names.remove(&page);
        self.brought.remove(&page);
    }
}
