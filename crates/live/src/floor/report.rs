//! Reports of the floor: its status when it changes, its state sixty times a second.

use super::{FULL, Floor, Phase};
use crate::command::{HangStatus, Status, TrackingStatus};
use crate::control_lease::SILENT_STEPS;
use crate::live_out::Seen;
use crate::machine::SetupMachine;
use crate::room::{RoomAnswer, RoomQuestion};
use crate::state::{AxisState, Other, PAST_M, State, axis, flags};
use rovnek_core::axis::AxisGroup;
use rovnek_core::axis_motion::{STEP_S, time_to_stop};
use rovnek_core::framing::{self, ShotSize};
use rovnek_core::lens::{depth_of_field, hyperfocal};
use rovnek_core::passes::name_of;
use rovnek_core::playing::{Carriages, MoverId};
use rovnek_core::space::Pose;

impl Floor {
    /// Status for pages.
    pub fn status(&self) -> Status {
        Status {
            setup_id: self.placed().setup_id,
            holder: self.lease.holder(),
            hands: self.lease.hands(),
            asking: self.lease.asking(),
            names: self.names.clone(),
            pages: self.lease.pages(),
            roll: self.roll.state(),
            clock: f64::from(self.clock) / f64::from(FULL),
            below: self.below.as_ref().map(|b| b.take),
            acting: self.acting.as_ref().map(|a| a.cast.of),
            alone: self.acting.as_ref().is_some_and(|a| a.alone),
            hangs: self.hangs(),
            tracking: self.tracking(),
            armed: self.armed.clone(),
            pass_name: name_of(self.axes(), &self.armed),
            dial: self.controls.dial(),
            drag: self.controls.drag(),
            shaping: self.controls.shaping().to_vec(),
            lead: self.machine().lead(),
            focus_on: self.machine().focus_on(),
            pending: self.machine().pending(),
            touched: self.machine().touched().to_vec(),
            brought: self.brought.clone(),
            sent: self.machine().sent(),
            slowed: self.machine().slowed(),
            running: self.running,
            trouble: self.trouble.clone(),
        }
    }

    /// The device that who is driven hangs on.
    pub(super) fn hangs(&self) -> Option<HangStatus> {
        let (source, scale) = self.acting.as_ref()?.source()?;
        let alive = self.devices.get(source).is_some_and(|h| h.alive(self.clock_s()));
        Some(HangStatus { source: source.into(), scale, alive })
    }

    fn tracking(&self) -> TrackingStatus {
        let source = self.source();
        let heard = source.map(|(_, h)| h);
        let steadied = self.placed().tracking.steady.delay_s();
        let delay_s = heard.map_or(0.0, |h| h.behind_s() + steadied);
        TrackingStatus {
            source: source.map_or(String::new(), |(name, _)| name.into()),
            attached: self.machine().attached(),
            alive: heard.is_some_and(|h| h.alive(self.clock_s())),
            delay_ms: (delay_s * 1000.0).round(),
        }
    }

    /// Number of steps so far.
    pub fn steps(&self) -> u64 {
        self.step
    }

    /// Camera that is looked through: pose and lens.
    pub fn seen(&self) -> Seen {
        let machine = self.machine();
        let pose = machine.pose();
        let lens = pose.lens(&machine.axis_values());
        Seen::of(&self.placed().camera, self.clock_s(), pose.camera, lens)
    }

    /// Question about the machine's clearance now.
    pub fn room_question(&self) -> RoomQuestion {
        let machine = self.machine();
        let (pose, carriages) = (machine.pose(), self.carriages());
        let (focal_mm, time_s) =
            (pose.lens(&machine.axis_values()).focal_mm, self.scene_step as f64 * STEP_S);
        let people = || self.people.at_on(time_s, &carriages);
        let seen = framing::subject(&self.placed().camera, focal_mm, pose.camera, people());
        let subject = seen.and_then(|seen| {
            let (_, points) = people().nth(seen.index)?;
            Some((MoverId::Performer(self.people.id(seen.index)), [points.eyes, points.chest]))
        });
        RoomQuestion {
            lens: pose.camera.position,
            subject,
            hulls: machine.hulls(),
            bodies: machine.body_poses(),
            obstacles: self.obstacles.clone(),
            time_s,
            acting: self.acting.as_ref().map(|a| (a.cast.of, a.bodies())),
            carrier: machine.carrier(),
            setup_id: self.placed().setup_id,
            carriages,
        }
    }

    /// The answer, which is told until the next one comes.
    pub fn told_room(&mut self, answer: RoomAnswer) {
        self.room = Some(answer);
    }

    /// Finds out at once how much room there is: for whoever has no thread beside the floor.
    pub fn look_round(&mut self) {
        self.told_room(self.room_question().answer());
    }

    /// The floor as it is now.
    pub fn state(&self) -> State {
        let machine = self.machine();
        let bit = |on: bool, bit: u8| if on { bit } else { 0 };
        let (rolling, roll_time_s) = match self.roll {
            Phase::Standby => (0, 0.0),
            Phase::Counting { until } => (flags::COUNTING, (until - self.step) as f64 * STEP_S),
            Phase::PreRoll => (flags::PRE_ROLL, (self.asked.from - self.scene_step) as f64 * STEP_S),
            Phase::Rolling { steps, .. } => (flags::ROLLING, steps as f64 * STEP_S),
        };
        let running = self.running || matches!(self.roll, Phase::PreRoll | Phase::Rolling { .. });
        let silent = self.lease.holder_silent_for(self.step) >= SILENT_STEPS;
        let short_m = machine.short_m();
        let axes = machine.motions().iter().zip(machine.axes()).enumerate().map(|(i, (motion, a))| {
            let span = a.max - a.min;
            let room = (motion.value - a.min).min(a.max - motion.value);
            // A lens at its end is nothing to be warned of, unless it is driven there.
            let close = a.group != AxisGroup::Lens && room < 0.06 * span && span.is_finite();
            let stops_in_s = time_to_stop(a, *motion);
            let near = close || stops_in_s.is_some_and(|t| t < 0.6);
            let flags = bit(self.armed[i], axis::ARMED)
                | bit(room <= 1e-5, axis::AT_END)
                | bit(near, axis::NEAR_END)
                | bit(self.controls.holds(i) || motion.remaining != 0.0, axis::DRIVEN)
                | bit(machine.led(i), axis::LED);
            let past = flags & (axis::AT_END | axis::LED) == axis::AT_END | axis::LED;
            let flags = flags | bit(past && short_m > PAST_M, axis::PAST);
            let (value, speed) = (a.unit.to_shown(motion.value), a.unit.to_shown(motion.speed));
            AxisState { value, speed, flags, stops_in_s }
        });
        let camera = &self.placed().camera;
        let rig_pose = machine.pose();
        let lens = rig_pose.lens(&machine.axis_values());
        let scene_time_s = self.scene_step as f64 * STEP_S;
        let bodies = machine.body_poses();
        let acting = self.acting.as_ref().map(|a| (a.cast.of, a.bodies()));
        let carriages = self.carriages();
        let people = self.people.at_on(scene_time_s, &carriages);
        let seen = framing::subject(camera, lens.focal_mm, rig_pose.camera, people);
        let room = self.room.filter(|r| r.setup_id == self.placed().setup_id);
        State {
            step: self.step,
            setup_id: self.placed().setup_id,
            flags: rolling | bit(running, flags::RUNNING) | bit(silent, flags::SILENT),
            scene_time_s,
            timecode: self.timebase.timecode(scene_time_s),
            roll_time_s,
            axes: axes.collect(),
            lens,
            half_frame: camera.half_frame(lens.focal_mm),
            sees: camera.field_of_view(lens.focal_mm),
            sharp_m: depth_of_field(camera, lens),
            hyperfocal_m: hyperfocal(camera, lens),
            subject: seen.map(|s| (self.people.id(s.index), s.share)),
            shot: seen.map(|s| ShotSize::of(s.share)),
            short_m,
            base_m_s: machine.base_m_s(),
            clearance: room.and_then(|r| r.clearance),
            covered: seen.is_some() && room.is_some_and(|r| r.covered_by.is_some()),
            rig_pose,
            bodies,
            handles: machine.handles(),
            riding: self.riding(scene_time_s, &carriages),
            acting,
            others: self.others(),
        }
    }

    /// Loads of machines as they stand, except a driven performer.
    fn riding(&self, time_s: f64, carriages: &Carriages) -> Vec<(MoverId, Vec<Pose>)> {
        let playing = self.obstacles.playing();
        let driven = self.acting.as_ref().map(|a| a.cast.of);
        let along = carriages.keys().flat_map(|setup| playing.riders(*setup));
        let along = along.map(|i| (i, playing.movers[i].of)).filter(|(_, of)| Some(*of) != driven);
        along.map(|(i, of)| (of, playing.poses_on(i, time_s, carriages))).collect()
    }

    fn others(&self) -> Vec<Other> {
        let other = |machine: &SetupMachine| {
            let rig_pose = machine.pose();
            let lens = rig_pose.lens(&machine.axis_values());
            Other {
                setup_id: machine.placed().setup_id,
                focal_mm: lens.focal_mm,
                camera: rig_pose.camera,
                bodies: machine.body_poses(),
            }
        };
        self.machines.iter().enumerate().filter(|(k, _)| *k != self.on).map(|(_, s)| other(s)).collect()
    }
}
