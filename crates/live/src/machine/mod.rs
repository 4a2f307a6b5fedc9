//! A setup's machine as it stands on the floor, and what moves it.
//!
//! Four things may: hands; a course it was sent on ([`course`]); the keys of its move; and, where the
//! camera is what is wanted, whatever leads it ([`lead`]). Hands come first: an axis that
//! is held leaves its course, and a keyed axis that is touched keeps what the hands made of it until
//! that is kept as a key or discarded, while every other axis goes on along its keys.

mod course;
mod focus;
mod goals;
mod lead;
mod put;
mod second;

pub use lead::LeadKind;

use crate::devices::Heard;
use course::Courses;
use lead::{DeviceLead, Flown, Lead, LeadStep, Target};
use rovnek_core::DVec3;
use rovnek_core::axis::{Axis, AxisGroup};
use rovnek_core::axis_motion::{AxisMotion, Demand, Hand, STEP_S};
use rovnek_core::carrier::Carrier;
use rovnek_core::clearance::MachineHulls;
use rovnek_core::follow::CameraTarget;
use rovnek_core::ids::{PerformerId, SetupId};
use rovnek_core::keys::{Keyed, Position};
use rovnek_core::lens::Camera;
use rovnek_core::playing::{Carriages, CarrierTrack, MoverId, SubjectPoints};
use rovnek_core::rigs::handles::{handles, place};
use rovnek_core::rigs::{LENS_AXES, Rig, RigPose, Rigging, Surroundings};
use rovnek_core::samples::Samples;
use rovnek_core::space::Pose;
use rovnek_core::tracked::Tracking;
use rovnek_core::walls::Wall;
use rovnek_formats::tracking::Lens;
use std::collections::BTreeMap;
use std::ops::Range;
use std::sync::Arc;

/// A setup, ready to stand on the floor.
#[derive(Clone, Debug, PartialEq)]
pub struct Placed {
    /// Id of the setup.
    pub setup_id: SetupId,
    /// Sensor, frame, lens.
    pub camera: Camera,
    /// Machine with its carrier.
    pub rig: Rigging,
    /// Stored positions.
    pub positions: Vec<Position>,
    /// The keys of the move that it runs; of a move that follows another, those of its base.
    pub keyed: Arc<Keyed>,
    /// The camera that the move it runs follows.
    pub target: Option<Arc<CameraTarget>>,
    /// Course of the carrier over the scene; none for a machine that stands free.
    pub carrier: Option<Arc<CarrierTrack>>,
    /// The device that may move its camera.
    pub tracking: Tracking,
    /// Walls that the camera must not run into; empty for a machine that ignores walls.
    pub walls: Arc<Vec<Wall>>,
}

/// Moment of the scene that all machines share.
#[derive(Clone, Copy)]
pub(crate) struct Moment<'a> {
    /// Scene time before this step and after.
    pub now_s: f64,
    pub next_s: f64,
    pub people: &'a SubjectPoints,
    /// Pose of the carrier; none for a carrier that moves as the scene has it.
    pub carrier: Option<Pose>,
    /// Carriages with a load: before this step, and before the last one. The other carriages' motion in this
    /// step is not known yet, so a load is seen one step late.
    pub carriages: [&'a Carriages; 2],
    /// Last packets of the devices, and the time at which they are read: the floor's own time, however
    /// slowly the scene runs.
    pub devices: &'a BTreeMap<String, Heard>,
    pub clock_s: f64,
}

/// Axes that play from a take below, and their samples.
#[derive(Clone, Copy)]
pub(crate) struct Plays<'a> {
    pub samples: &'a Samples,
    pub axes: &'a [bool],
}

impl Plays<'_> {
    /// Puts the axes that play where the take has them at a time, going as it goes.
    fn put(&self, axes: &[Axis], motions: &mut [AxisMotion], now_s: f64, next_s: f64) {
        let (mut now, mut next) = (Vec::new(), Vec::new());
        self.samples.at(now_s, &mut now);
        self.samples.at(next_s, &mut next);
        for i in (0..axes.len()).filter(|i| self.axes[*i] && axes[*i].hand.is_some()) {
            motions[i] = AxisMotion { value: next[i], speed: (next[i] - now[i]) / STEP_S, remaining: 0.0 };
        }
    }
}

/// A machine on the floor.
pub struct SetupMachine {
    placed: Placed,
    rig: Box<dyn Rig>,
    motions: Vec<AxisMotion>,
    /// Lead that places the camera; none while hands and keys move the axes.
    lead: Option<Box<dyn Lead>>,
    courses: Courses,
    /// Axes that hands touched since they were last keyed. Those that have keys do not follow them meanwhile.
    touched: Vec<bool>,
    /// The performer on whose eyes the focus stays.
    focus_on: Option<PerformerId>,
    short_m: f64,
    /// The axes that the second device moved at the last step.
    seconded: Vec<bool>,
    hulls: Arc<MachineHulls>,
}

/// Lead of a machine whose own move follows another move's camera.
fn own_lead(placed: &Placed) -> Option<Box<dyn Lead>> {
    placed.target.clone().map(|target| Box::new(Target(target)) as Box<dyn Lead>)
}

/// Axis values.
fn values_of(motions: &[AxisMotion]) -> Vec<f64> {
    motions.iter().map(|m| m.value).collect()
}

/// Axis values at the start: from the keys, or from the machine.
fn starts(placed: &Placed, rig: &dyn Rig) -> Vec<f64> {
    let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
    placed.keyed.row(0.0, &start)
}

impl SetupMachine {
    /// A machine at its start, or where its keys have it.
    pub fn new(placed: Placed) -> SetupMachine {
        let rig = placed.rig.build(&placed.camera);
        let motions: Vec<AxisMotion> = starts(&placed, &*rig).into_iter().map(AxisMotion::at).collect();
        let (lead, courses) = (own_lead(&placed), Courses::none(motions.len()));
        let touched = vec![false; motions.len()];
        let hulls = Arc::new(MachineHulls::of(&*rig));
        let seconded = touched.clone();
        SetupMachine {
            placed,
            rig,
            motions,
            lead,
            courses,
            touched,
            focus_on: None,
            short_m: 0.0,
            seconded,
            hulls,
        }
    }

    /// Setup that stands here.
    pub fn placed(&self) -> &Placed {
        &self.placed
    }

    /// Axes, in the order of the samples.
    pub fn axes(&self) -> &[Axis] {
        self.rig.axes()
    }

    /// How its axes move.
    pub fn motions(&self) -> &[AxisMotion] {
        &self.motions
    }

    /// Axis values at the start.
    pub fn starts(&self) -> Vec<f64> {
        starts(&self.placed, &*self.rig)
    }

    /// Current axis values.
    pub fn axis_values(&self) -> Vec<f64> {
        values_of(&self.motions)
    }

    /// Current pose of camera and carriage.
    pub fn pose(&self) -> RigPose {
        self.rig.forward(&self.axis_values())
    }

    /// Current poses of the bodies.
    pub fn body_poses(&self) -> Vec<Pose> {
        self.rig.body_poses(&self.axis_values())
    }

    /// Current places of the handles.
    pub fn handles(&self) -> Vec<DVec3> {
        let axes = self.axis_values();
        handles(&*self.rig).iter().map(|handle| place(&*self.rig, &handle.grip, &axes)).collect()
    }

    /// How fast what carries the camera goes over the floor, metres a second; none where no crew pushes it.
    pub fn base_m_s(&self) -> Option<f64> {
        self.rig.pushed_m_s()?;
        let before: Vec<f64> = self.motions.iter().map(|m| m.value - m.speed * STEP_S).collect();
        let (now, was) = (self.pose().carriage.position, self.rig.forward(&before).carriage.position);
        Some(now.distance(was) / STEP_S)
    }

    /// Its parts, as what they may run into.
    pub fn hulls(&self) -> Arc<MachineHulls> {
        self.hulls.clone()
    }

    /// The piece or performer that carries it.
    pub fn carrier(&self) -> Option<MoverId> {
        match self.placed.rig.carried {
            Some(Carrier::Piece { id }) => Some(MoverId::Piece(id)),
            Some(Carrier::Performer { id }) => Some(MoverId::Performer(id)),
            Some(Carrier::Setup { .. }) | None => None,
        }
    }

    /// Axes that hands touched since they were last keyed, whether or not they have keys.
    pub fn touched(&self) -> &[bool] {
        &self.touched
    }

    /// The axes that hands took from their keys: what they made of them no key knows.
    pub fn pending(&self) -> Vec<bool> {
        (0..self.touched.len()).map(|i| self.touched[i] && self.has_key(i)).collect()
    }

    fn has_key(&self, axis: usize) -> bool {
        self.placed.keyed.at(axis, 0.0).is_some()
    }

    /// True while the machine drives to a goal.
    pub fn sent(&self) -> bool {
        !self.courses.is_empty()
    }

    /// Reason why the drive takes longer than asked.
    pub fn slowed(&self) -> Option<String> {
        self.courses.slowed(self.axes())
    }

    /// True for an axis that something else than hands moves.
    pub fn led(&self, axis: usize) -> bool {
        if self.axes()[axis].hand.is_none() {
            return false;
        }
        let keyed = self.keyed_at(axis, 0.0).is_some();
        let led = self.lead.is_some() && !self.rig.operator_axes().contains(&axis);
        self.courses.leads(axis) || keyed || led || self.seconded[axis]
    }

    /// Source of the camera's motion.
    pub fn lead(&self) -> LeadKind {
        self.lead.as_ref().map_or(LeadKind::Axes, |lead| lead.kind())
    }

    /// Metres from where the camera is wanted.
    pub fn short_m(&self) -> f64 {
        self.short_m
    }

    /// Takes over a changed setup. Axes keep their values within the new limits; an axis with another start
    /// value, such as a lens that was set on the slate, goes to the start. A change of keys settles pending
    /// values. Another machine takes the camera over at its pose.
    pub fn change(&mut self, placed: Placed) {
        if placed.tracking != self.placed.tracking
            && self.lead.as_mut().is_some_and(|lead| !lead.retrack(&placed.tracking))
        {
            self.lead = own_lead(&placed);
        }
        if placed.keyed != self.placed.keyed {
            // An axis whose curve is as it was has no new key: what hands made of it is still to be kept.
            for i in 0..self.touched.len() {
                self.touched[i] &= placed.keyed.curve(i) == self.placed.keyed.curve(i);
            }
        }
        if placed.target != self.placed.target {
            self.stay();
            self.short_m = 0.0;
            self.lead = own_lead(&placed);
        }
        if (&placed.camera, &placed.rig) == (&self.placed.camera, &self.placed.rig) {
            self.placed = placed;
            return;
        }
        let rig = placed.rig.build(&placed.camera);
        let same = std::mem::discriminant(&placed.rig.spec) == std::mem::discriminant(&self.placed.rig.spec);
        let old: BTreeMap<&str, (f64, f64)> =
            self.axes().iter().zip(&self.motions).map(|(a, m)| (a.name, (a.start, m.value))).collect();
        let stands = |axis: &Axis| match old.get(axis.name) {
            Some((start, value)) if same && *start == axis.start => *value,
            _ => axis.start,
        };
        let stand =
            if same { rig.axes().iter().map(stands).collect() } else { self.taken_over(&*rig, &placed) };
        let within = |(axis, value): (&Axis, f64)| AxisMotion::at(value.clamp(axis.min, axis.max));
        self.motions = rig.axes().iter().zip(stand).map(within).collect();
        self.touched = vec![false; self.motions.len()];
        self.seconded = self.touched.clone();
        self.courses = Courses::none(self.motions.len());
        if !same {
            self.lead = own_lead(&placed);
        }
        self.hulls = Arc::new(MachineHulls::of(&*rig));
        (self.rig, self.placed) = (rig, placed);
    }

    /// The axes with which another machine has the camera where this one has it, as near as it gets,
    /// and with the lens as it is; where its keys have it, if it has any.
    fn taken_over(&self, rig: &dyn Rig, placed: &Placed) -> Vec<f64> {
        let mut row = starts(placed, rig);
        if !placed.keyed.is_empty() {
            return row;
        }
        let kept = self.axis_values();
        for (i, axis) in rig.axes().iter().enumerate() {
            let lens = i + LENS_AXES >= row.len();
            // What carries the machine carries the other one as well.
            if (lens || axis.hand.is_none())
                && let Some(old) = self.axes().iter().position(|a| a.name == axis.name)
            {
                row[i] = kept[old].clamp(axis.min, axis.max);
            }
        }
        let solved = rig.inverse(self.pose().camera, &row);
        for (i, value) in solved.axes().iter().enumerate() {
            if rig.axes()[i].hand.is_some() && i + LENS_AXES < row.len() {
                row[i] = *value;
            }
        }
        row
    }

    /// Keyed value of an axis at a time; none without a key, or after hands took the axis.
    fn keyed_at(&self, axis: usize, time_s: f64) -> Option<f64> {
        if self.touched[axis] { None } else { self.placed.keyed.at(axis, time_s) }
    }

    /// Stops going anywhere.
    pub fn stay(&mut self) {
        self.courses.clear();
        self.motions.iter_mut().for_each(|m| m.remaining = 0.0);
    }

    /// Lets hands fly the camera, the machine following; or not.
    pub fn fly(&mut self, on: bool) {
        self.stay();
        self.short_m = 0.0;
        self.lead = own_lead(&self.placed);
        if on && self.axes().iter().filter(|a| a.group == AxisGroup::Head).count() == 3 {
            let lens = &self.motions[self.motions.len() - LENS_AXES..];
            let flown = Flown::from(self.pose().camera, &self.placed.camera, lens);
            self.lead = Some(Box::new(flown));
        }
    }

    /// The device that this setup listens to: the one it names, or the first that is heard and is not its
    /// second.
    pub(crate) fn source<'a>(
        &self,
        devices: &'a BTreeMap<String, Heard>,
        clock_s: f64,
    ) -> Option<(&'a str, &'a Heard)> {
        let held = self.lead.as_ref().and_then(|lead| lead.source());
        let wanted = held.unwrap_or(&self.placed.tracking.source);
        if wanted.is_empty() {
            let second = &self.placed.tracking.second.source;
            let mut heard = devices.iter().filter(|(name, h)| *name != second && h.alive(clock_s));
            return heard.next().map(|(name, h)| (name.as_str(), h));
        }
        devices.get_key_value(wanted).map(|(name, h)| (name.as_str(), h))
    }

    /// Attaches the camera to its device where both are now, or lets go. Without a device that is
    /// heard nothing happens.
    pub(crate) fn attach(&mut self, on: bool, devices: &BTreeMap<String, Heard>, clock_s: f64) {
        self.stay();
        self.short_m = 0.0;
        self.lead = own_lead(&self.placed);
        if !on {
            return;
        }
        let heard = self.source(devices, clock_s).filter(|(_, h)| h.alive(clock_s));
        let Some((source, heard)) = heard else { return };
        let Some((device, _)) = heard.at(clock_s) else { return };
        let held = DeviceLead::join(source, self.pose().camera, device, &self.placed.tracking);
        self.lead = Some(Box::new(held));
    }

    /// True while a device moves the camera.
    pub fn attached(&self) -> bool {
        self.lead() == LeadKind::Device
    }

    /// Gives some axes back to their keys, or all where none is named.
    pub fn discard(&mut self, axes: &[usize]) {
        if axes.is_empty() {
            self.touched.fill(false);
            self.stay();
        }
        let count = self.touched.len();
        for axis in axes.iter().copied().filter(|axis| *axis < count) {
            self.courses.take_out(axis);
            self.touched[axis] = false;
        }
    }

    /// A hand is on an axis: it and those tied to it leave their keys.
    fn touch(&mut self, axis: usize) {
        self.touched[self.rig.tied(axis)].fill(true);
    }

    /// Surroundings at a time, with the machine's own walls.
    fn around<'a>(&self, walls: &'a [Wall], moment: &Moment, time_s: f64) -> Surroundings<'a> {
        Surroundings {
            carrier: moment.carrier.or_else(|| self.placed.carrier.as_ref().map(|r| r.at(time_s))),
            subject: self.rig.follows().and_then(|id| moment.people.eyes_on(id, time_s, moment.carriages[0])),
            device: self.device(moment).map(|(on_set, _)| on_set),
            walls,
        }
    }

    /// Pose and lens that the device wants, not steadied; none without a device.
    fn device(&self, moment: &Moment) -> Option<(Pose, Lens)> {
        let lead = self.lead.as_ref().filter(|lead| lead.source().is_some())?;
        let (_, heard) = self.source(moment.devices, moment.clock_s)?;
        let (device, lens) = heard.at(moment.clock_s)?;
        Some((lead.on_set(device)?, lens))
    }

    /// At once where the scene's time has it, without regard to limits: the time was set.
    pub(crate) fn jump(&mut self, moment: &Moment, plays: Option<Plays>) {
        self.jump_led(moment);
        if let Some(plays) = plays {
            plays.put(self.rig.axes(), &mut self.motions, moment.now_s, moment.now_s);
        }
    }

    fn jump_led(&mut self, moment: &Moment) {
        let walls = self.placed.walls.clone();
        let around = self.around(&walls, moment, moment.now_s);
        self.rig.write_surroundings(&mut self.motions, &around);
        let base = self.rig.operator_axes();
        // The base of a machine that follows a move has its keys, as the whole of one that does not.
        let keyed = |i: &usize| self.lead.is_none() || base.contains(i);
        for i in (0..self.motions.len()).filter(keyed) {
            let follows = self.placed.keyed.derived_at(i, moment.now_s);
            if let Some(value) = self.keyed_at(i, moment.now_s).or(follows) {
                self.motions[i] = AxisMotion::at(value);
            }
        }
        let Some(lead) = &self.lead else { return };
        let Some(target) = lead.at(&*self.rig, moment.now_s, &self.axis_values()) else { return };
        for (i, value) in target.into_iter().enumerate() {
            if self.axes()[i].hand.is_some() && !base.contains(&i) {
                self.motions[i] = AxisMotion::at(value);
            }
        }
    }

    /// One step. `still` are axes that hands do not move: not armed while a take rolls. Those that
    /// play from a take below go as it goes, whatever else there is.
    pub(crate) fn step(&mut self, hands: &[Hand], still: &[bool], plays: Option<Plays>, moment: &Moment) {
        let walls = self.placed.walls.clone();
        let around = self.around(&walls, moment, moment.next_s);
        self.rig.write_surroundings(&mut self.motions, &around);
        let camera_leads = self.lead.is_some();
        for i in (0..hands.len()).filter(|i| hands[*i].demand.asks() && !still[*i]) {
            if !camera_leads || self.rig.operator_axes().contains(&i) {
                self.touch(i);
            }
        }
        let before = self.motions.clone();
        let masked: Vec<Hand> = (0..hands.len()).map(|i| self.masked(i, hands[i], still[i])).collect();
        self.rig.step(&mut self.motions, &masked, &around, STEP_S);
        // Axes of the base may be sent somewhere while the rest is solved for the camera.
        let sent = (0..hands.len()).any(|i| self.courses.leads(i) && !self.rig.operator_axes().contains(&i));
        let solved = camera_leads && !sent;
        self.courses.step(&*self.rig, &mut self.motions, hands, still, &before);
        if solved {
            self.follow_keys(self.rig.operator_axes(), still, &before, moment);
            // What is solved is solved for where the machine's own going has taken it.
            self.rig.derive(&mut self.motions, STEP_S);
            self.follow_camera(hands, still, &before, moment);
        } else {
            self.follow_keys(0..self.motions.len(), still, &before, moment);
        }
        if let Some(plays) = plays {
            plays.put(self.rig.axes(), &mut self.motions, moment.now_s, moment.next_s);
        }
        self.seconded.fill(false);
        if !solved {
            self.aim_at_second(hands, still, &before, moment);
            self.rig.derive(&mut self.motions, STEP_S);
        }
        self.follow_focus(hands, still, &before, moment);
        self.focus_by_second(hands, still, &before, moment);
    }

    /// Leads an axis along a way, as far as its ends let it.
    fn lead_within(&mut self, i: usize, way: [f64; 2], before: &[AxisMotion]) {
        let axis = &self.rig.axes()[i];
        let [now, next] = way.map(|v| v.clamp(axis.min, axis.max));
        self.motions[i] = before[i].led(axis, next, (next - now) / STEP_S, STEP_S);
    }

    /// Leads the axes of a range that have keys, and that no hand took, along them.
    fn follow_keys(&mut self, range: Range<usize>, still: &[bool], before: &[AxisMotion], moment: &Moment) {
        for i in range.filter(|i| !still[*i]) {
            let (now, next) = (self.keyed_at(i, moment.now_s), self.keyed_at(i, moment.next_s));
            if let (Some(now), Some(next)) = (now, next) {
                self.motions[i] = before[i].led(&self.rig.axes()[i], next, (next - now) / STEP_S, STEP_S);
            }
        }
    }

    /// A hand as far as it counts: what is led is not pushed as well.
    fn masked(&self, i: usize, hand: Hand, still: bool) -> Hand {
        let brake = Demand { brake: true, ..Demand::default() };
        if still {
            return Hand { demand: brake, ..hand };
        }
        if self.courses.waits(i) { Hand { demand: brake, ..hand } } else { hand }
    }

    /// Leads every axis but those that are left to hands from where it was to `next`, coming from
    /// `now`.
    fn lead_to(&mut self, now: &[f64], next: &[f64], leave: &[bool], before: &[AxisMotion]) {
        let axes = self.rig.axes();
        for (i, axis) in axes.iter().enumerate() {
            if axis.hand.is_none() || leave[i] {
                continue;
            }
            self.motions[i] = before[i].led(axis, next[i], (next[i] - now[i]) / STEP_S, STEP_S);
        }
    }

    fn follow_camera(&mut self, hands: &[Hand], still: &[bool], before: &[AxisMotion], moment: &Moment) {
        // What moves the base has moved it; the rest starts from where it was. What the arm did so
        // far it did from where the base was, so that its speed makes up for the base's own.
        let base = self.rig.operator_axes();
        let was = values_of(before);
        let near: Vec<f64> = (0..before.len())
            .map(|i| {
                let moved = base.contains(&i) || self.axes()[i].hand.is_none();
                if moved { self.motions[i].value } else { before[i].value }
            })
            .collect();
        let device = self.device(moment);
        let Some(lead) = &mut self.lead else { return };
        let (tracking, walls) = (&self.placed.tracking, &*self.placed.walls);
        let (rig, was, near) = (&*self.rig, &*was, &*near);
        let step = LeadStep { rig, hands, moment, was, near, device, tracking, walls };
        let led = lead.step(&step);
        let lens = before.len() - LENS_AXES;
        let leave: Vec<bool> = (0..before.len())
            .map(|i| still[i] || base.contains(&i) || i >= lens && led.by_hand[i - lens])
            .collect();
        self.lead_to(&led.now, &led.next, &leave, before);
        self.short_m = self.pose().camera.position.distance(led.camera.position);
    }
}
