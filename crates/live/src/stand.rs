//! A setup's machine as it stands on the floor, and what moves it.
//!
//! Five things may: hands; a course it was sent on ([`Glide`]); the keys of its move; the wish for a
//! camera that it follows; or a tracked device that it is attached to. Hands come first: an axis that
//! is held leaves its course, and a keyed axis that is touched keeps what the hands made of it until
//! that is kept as a key or discarded, while every other axis goes on along its keys.

use crate::devices::Heard;
use rovnek_core::axis::{Axis, AxisGroup};
use rovnek_core::drive::{Demand, Hand, Motion, STEP_S};
use rovnek_core::follow::{Wish, follow};
use rovnek_core::glide::Glide;
use rovnek_core::keys::{Keyed, Position, values};
use rovnek_core::lens::Camera;
use rovnek_core::playing::{People, Ride};
use rovnek_core::rigs::{FreeCamera, Rig, RigSpec, Rigging, Stance, Surroundings};
use rovnek_core::samples::Samples;
use rovnek_core::space::{PanTiltRoll, Pose};
use rovnek_core::steady::Steadier;
use rovnek_core::tracked::{Attached, Tracking};
use rovnek_core::walls::Wall;
use rovnek_formats::tracking::Lens;
use std::collections::{BTreeMap, VecDeque};
use std::ops::Range;
use std::sync::Arc;

/// A setup, ready to stand on the floor.
#[derive(Clone, Debug, PartialEq)]
pub struct Placed {
    /// Of the model.
    pub setup_id: u32,
    /// Sensor, frame, lens.
    pub camera: Camera,
    /// The machine.
    pub rig: Rigging,
    /// Where it can be sent.
    pub positions: Vec<Position>,
    /// The keys of the move that it runs; of a move that follows another, those of its base.
    pub keyed: Arc<Keyed>,
    /// The camera that the move it runs follows.
    pub wish: Option<Arc<Wish>>,
    /// What carries it over the scene.
    pub ride: Option<Arc<Ride>>,
    /// The device that may move its camera.
    pub tracking: Tracking,
}

/// What all machines share: the scene they stand in, at one moment.
#[derive(Clone, Copy)]
pub(crate) struct Moment<'a> {
    /// Scene time before this step and after.
    pub now_s: f64,
    pub next_s: f64,
    pub people: &'a People,
    pub walls: &'a [Wall],
    /// What is heard of devices, and the time by which they are read: the floor's own, however
    /// slowly the scene goes.
    pub devices: &'a BTreeMap<String, Heard>,
    pub clock_s: f64,
}

/// What plays from a take below: its samples, and which axes.
#[derive(Clone, Copy)]
pub(crate) struct Plays<'a> {
    pub samples: &'a Samples,
    pub axes: &'a [bool],
}

impl Plays<'_> {
    /// Puts the axes that play where the take has them at a time, going as it goes.
    fn put(&self, axes: &[Axis], motions: &mut [Motion], now_s: f64, next_s: f64) {
        let (mut now, mut next) = (Vec::new(), Vec::new());
        self.samples.at(now_s, &mut now);
        self.samples.at(next_s, &mut next);
        for i in (0..axes.len()).filter(|i| self.axes[*i] && axes[*i].hand.is_some()) {
            motions[i] = Motion { value: next[i], speed: (next[i] - now[i]) / STEP_S, owed: 0.0 };
        }
    }
}

/// A camera that is flown by hand and that the machine follows.
struct Flown {
    camera: Box<dyn Rig>,
    motions: Vec<Motion>,
}

/// What says where the camera is wanted.
enum Lead {
    /// Nothing: hands move the axes.
    Axes,
    /// An earlier move.
    Wish(Arc<Wish>),
    /// A hand that flies it.
    Flown(Flown),
    /// A tracked device.
    Device(Box<Held>),
}

impl Lead {
    /// What leads a machine by itself: the move that it runs.
    fn of(placed: &Placed) -> Lead {
        placed.wish.clone().map_or(Lead::Axes, Lead::Wish)
    }
}

/// A camera in the hand that holds a device.
struct Held {
    /// The device, which stays the same while it is held.
    source: String,
    attached: Attached,
    steadier: Steadier,
    /// Where the device wants it, steadied, at this step.
    wanted: Pose,
}

/// A course the machine is sent on, planned as soon as it stands still.
struct Sent {
    through: Vec<Vec<f64>>,
    seconds: Option<f64>,
    share: f64,
    course: Option<(Glide, f64)>,
}

/// A machine on the floor.
pub struct Stand {
    placed: Placed,
    rig: Box<dyn Rig>,
    motions: Vec<Motion>,
    lead: Lead,
    sent: VecDeque<Sent>,
    /// Axes that hands took out of the course.
    held: Vec<bool>,
    /// Axes that hands took from their keys.
    pending: Vec<bool>,
    short_m: f64,
}

impl Stand {
    /// A machine at its start, or where its keys have it.
    pub fn new(placed: Placed) -> Stand {
        let rig = placed.rig.build(&placed.camera);
        let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        let motions: Vec<Motion> = placed.keyed.row(0.0, &start).into_iter().map(Motion::at).collect();
        let held = vec![false; motions.len()];
        let (lead, sent, pending) = (Lead::of(&placed), VecDeque::new(), held.clone());
        Stand { placed, rig, motions, lead, sent, held, pending, short_m: 0.0 }
    }

    /// What stands here.
    pub fn placed(&self) -> &Placed {
        &self.placed
    }

    /// Its axes.
    pub fn axes(&self) -> &[Axis] {
        self.rig.axes()
    }

    /// How its axes move.
    pub fn motions(&self) -> &[Motion] {
        &self.motions
    }

    /// Where its axes stand.
    pub fn values(&self) -> Vec<f64> {
        self.motions.iter().map(|m| m.value).collect()
    }

    /// Where its parts are.
    pub fn stance(&self) -> Stance {
        self.rig.forward(&self.values())
    }

    /// The axes that hands took from their keys: what they made of them no key knows.
    pub fn pending(&self) -> &[bool] {
        &self.pending
    }

    /// Whether it is on a course.
    pub fn sent(&self) -> bool {
        !self.sent.is_empty()
    }

    /// What makes its course longer than was asked.
    pub fn slowed(&self) -> Option<String> {
        let sent = self.sent.front().filter(|s| s.seconds.is_some())?;
        let (glide, _) = sent.course.as_ref()?;
        let axis = &self.axes()[glide.bound_by?];
        Some(format!("{} needs {:.1} s", axis.name, glide.duration_s))
    }

    /// Whether an axis is moved by something else than hands.
    pub fn led(&self, axis: usize) -> bool {
        if self.axes()[axis].hand.is_none() {
            return false;
        }
        let course = self.sent() && !self.held[axis];
        course
            || match self.lead {
                Lead::Axes => self.keyed_at(axis, 0.0).is_some(),
                Lead::Wish(_) | Lead::Flown(_) | Lead::Device(_) => {
                    !self.rig.base().contains(&axis) || self.keyed_at(axis, 0.0).is_some()
                }
            }
    }

    /// "axes", "move", "flown" or "device": who says where the camera goes.
    pub fn lead(&self) -> &'static str {
        match self.lead {
            Lead::Axes => "axes",
            Lead::Wish(_) => "move",
            Lead::Flown(_) => "flown",
            Lead::Device(_) => "device",
        }
    }

    /// Metres from where the camera is wanted.
    pub fn short_m(&self) -> f64 {
        self.short_m
    }

    /// The same setup, changed. Axes stand where they stood, within the new limits, but one that
    /// now starts elsewhere, a lens that was set on the slate say, stands there. What was pending
    /// is settled when the keys change. Another machine stands at its start.
    pub fn change(&mut self, placed: Placed) {
        if let Lead::Device(held) = &mut self.lead
            && placed.tracking != self.placed.tracking
        {
            // Another device is another hand: it has to be attached anew.
            let other = !placed.tracking.source.is_empty() && placed.tracking.source != held.source;
            held.attached = held.attached.with(placed.tracking.mapping);
            if placed.tracking.steady != held.steadier.steady() {
                held.steadier = Steadier::new(placed.tracking.steady, STEP_S);
            }
            if other {
                self.lead = Lead::of(&placed);
            }
        }
        if placed.keyed != self.placed.keyed {
            self.pending.fill(false);
        }
        if placed.wish != self.placed.wish {
            self.stay();
            self.short_m = 0.0;
            self.lead = Lead::of(&placed);
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
        self.motions = rig.axes().iter().map(|a| Motion::at(stands(a).clamp(a.min, a.max))).collect();
        self.held = vec![false; self.motions.len()];
        self.pending = self.held.clone();
        self.sent.clear();
        if !same {
            self.lead = Lead::of(&placed);
        }
        (self.rig, self.placed) = (rig, placed);
    }

    /// Where the keys have an axis at a time; none where none do, or hands took it.
    fn keyed_at(&self, axis: usize, time_s: f64) -> Option<f64> {
        if self.pending[axis] { None } else { self.placed.keyed.at(axis, time_s) }
    }

    /// Sends the machine through rows of axes; in `seconds`, or as quickly as `share` of its top
    /// speeds allows.
    pub fn send(&mut self, through: Vec<Vec<f64>>, seconds: Option<f64>, share: f64) {
        // What it is sent to is more than what its keys say.
        (0..self.pending.len()).for_each(|i| self.touch(i));
        self.sent.push_back(Sent { through, seconds, share, course: None });
    }

    /// Stops going anywhere.
    pub fn stay(&mut self) {
        self.sent.clear();
        self.held.fill(false);
        self.motions.iter_mut().for_each(|m| m.owed = 0.0);
    }

    /// A stored position in this machine's order.
    pub fn position(&self, number: u32) -> Option<Vec<f64>> {
        let position = self.placed.positions.iter().find(|p| p.number == number)?;
        Some(values(&position.axes, self.axes(), &self.values()))
    }

    /// Lets hands fly the camera, the machine following; or not.
    pub fn fly(&mut self, on: bool) {
        self.stay();
        self.short_m = 0.0;
        self.lead = Lead::of(&self.placed);
        if on && self.axes().iter().filter(|a| a.group == AxisGroup::Head).count() == 3 {
            let at = self.stance().camera;
            let turn = PanTiltRoll::from_rotation(at.rotation);
            let spec = FreeCamera {
                start_m: at.position.to_array(),
                start_pan_deg: turn.pan.to_degrees(),
                start_tilt_deg: turn.tilt.to_degrees().clamp(-90.0, 90.0),
                start_roll_deg: turn.roll.to_degrees(),
                top_m_s: 1.5,
                floor: true,
                ..FreeCamera::default()
            };
            let camera = RigSpec::FreeCamera(spec).build(&self.placed.camera);
            let mut motions: Vec<Motion> = camera.axes().iter().map(|a| Motion::at(a.start)).collect();
            let lens = self.motions.len() - 2;
            let own = motions.len() - 2;
            motions[own..].copy_from_slice(&self.motions[lens..]);
            self.lead = Lead::Flown(Flown { camera, motions });
        }
    }

    /// The device that this setup listens to: the one it names, or the first that is heard.
    pub(crate) fn source<'a>(
        &self,
        devices: &'a BTreeMap<String, Heard>,
        clock_s: f64,
    ) -> Option<(&'a str, &'a Heard)> {
        let wanted = match &self.lead {
            Lead::Device(held) => &held.source,
            _ => &self.placed.tracking.source,
        };
        if wanted.is_empty() {
            let mut heard = devices.iter().filter(|(_, h)| h.alive(clock_s));
            return heard.next().map(|(name, h)| (name.as_str(), h));
        }
        devices.get_key_value(wanted).map(|(name, h)| (name.as_str(), h))
    }

    /// Attaches the camera to its device where both are now, or lets go. Without a device that is
    /// heard nothing happens.
    pub(crate) fn attach(&mut self, on: bool, devices: &BTreeMap<String, Heard>, clock_s: f64) {
        self.stay();
        self.short_m = 0.0;
        self.lead = Lead::of(&self.placed);
        if !on {
            return;
        }
        let heard = self.source(devices, clock_s).filter(|(_, h)| h.alive(clock_s));
        let Some((source, heard)) = heard else { return };
        let Some((device, _)) = heard.at(clock_s) else { return };
        let source = source.to_string();
        let Tracking { mapping, steady, .. } = self.placed.tracking;
        let camera = self.stance().camera;
        let attached = mapping.attach(camera, device);
        let mut steadier = Steadier::new(steady, STEP_S);
        let wanted = steadier.next(attached.camera(device));
        self.lead = Lead::Device(Box::new(Held { source, attached, steadier, wanted }));
    }

    /// Whether a device moves the camera.
    pub fn attached(&self) -> bool {
        matches!(self.lead, Lead::Device(_))
    }

    /// Back to what the keys say.
    pub fn discard(&mut self) {
        self.pending.fill(false);
        self.stay();
    }

    /// Turns the head so that the horizon is level.
    pub fn level(&mut self, share: f64) {
        let camera = self.stance().camera;
        let turn = PanTiltRoll { roll: 0.0, ..PanTiltRoll::from_rotation(camera.rotation) };
        let near = self.values();
        let wanted = Pose::new(camera.position, turn.to_rotation());
        let solved = self.rig.inverse(wanted, &near).axes().to_vec();
        let mut row = near.clone();
        for (i, axis) in self.rig.axes().iter().enumerate().take(solved.len()) {
            if axis.group == AxisGroup::Head {
                row[i] = solved[i];
            }
        }
        self.send(vec![row], None, share);
    }

    /// A hand is on an axis: it and those tied to it leave their keys.
    fn touch(&mut self, axis: usize) {
        for i in self.rig.tied(axis) {
            self.pending[i] |= self.placed.keyed.at(i, 0.0).is_some();
        }
    }

    fn around<'a>(&self, moment: &Moment<'a>, time_s: f64) -> Surroundings<'a> {
        Surroundings {
            carrier: self.placed.ride.as_ref().map(|r| r.at(time_s)),
            subject: self.rig.follows().and_then(|id| moment.people.eyes(id, time_s)),
            device: self.device(moment).map(|(on_set, _)| on_set),
            walls: moment.walls,
        }
    }

    /// Where the device wants the camera, not steadied, while it is attached to one.
    fn device(&self, moment: &Moment) -> Option<(Pose, Lens)> {
        let Lead::Device(held) = &self.lead else { return None };
        let (_, heard) = self.source(moment.devices, moment.clock_s)?;
        let (device, lens) = heard.at(moment.clock_s)?;
        Some((held.attached.camera(device), lens))
    }

    /// At once where the scene's time has it, without regard to limits: the time was set.
    pub(crate) fn jump(&mut self, moment: &Moment, plays: Option<Plays>) {
        self.jump_led(moment);
        if let Some(plays) = plays {
            plays.put(self.rig.axes(), &mut self.motions, moment.now_s, moment.now_s);
        }
    }

    fn jump_led(&mut self, moment: &Moment) {
        let around = self.around(moment, moment.now_s);
        self.rig.put(&mut self.motions, &around);
        let base = self.rig.base();
        // The base of a machine that follows a move has its keys, as the whole of one that does not.
        let keyed = |i: &usize| matches!(self.lead, Lead::Axes) || base.contains(i);
        for i in (0..self.motions.len()).filter(keyed) {
            let follows = self.placed.keyed.derived_at(i, moment.now_s);
            if let Some(value) = self.keyed_at(i, moment.now_s).or(follows) {
                self.motions[i] = Motion::at(value);
            }
        }
        let Lead::Wish(wish) = &self.lead else { return };
        let target = follow(&*self.rig, wish, moment.now_s, &self.values()).0;
        for (i, value) in target.into_iter().enumerate() {
            if self.axes()[i].hand.is_some() && !base.contains(&i) {
                self.motions[i] = Motion::at(value);
            }
        }
    }

    /// One step. `still` are axes that hands do not move: not armed while a take rolls. Those that
    /// play from a take below go as it goes, whatever else there is.
    pub(crate) fn step(&mut self, hands: &[Hand], still: &[bool], plays: Option<Plays>, moment: &Moment) {
        let around = self.around(moment, moment.next_s);
        self.rig.put(&mut self.motions, &around);
        let asked = |h: &Hand| h.demand.rate != 0.0 || h.demand.nudge != 0.0;
        let camera_leads = matches!(self.lead, Lead::Flown(_) | Lead::Wish(_) | Lead::Device(_));
        for i in (0..hands.len()).filter(|i| asked(&hands[*i]) && !still[*i]) {
            if !camera_leads || self.rig.base().contains(&i) {
                self.touch(i);
            }
        }
        let before = self.motions.clone();
        let masked: Vec<Hand> = (0..hands.len()).map(|i| self.masked(i, hands[i], still[i])).collect();
        self.rig.step(&mut self.motions, &masked, &around, STEP_S);
        let solved = camera_leads && !self.sent();
        if self.sent() {
            self.follow_course(hands, still, &before);
        } else if camera_leads {
            self.follow_keys(self.rig.base(), still, &before, moment);
            // What is solved is solved for where the machine's own going has taken it.
            self.rig.derive(&mut self.motions, STEP_S);
            self.follow_camera(hands, still, &before, moment);
        } else {
            self.follow_keys(0..self.motions.len(), still, &before, moment);
        }
        if let Some(plays) = plays {
            plays.put(self.rig.axes(), &mut self.motions, moment.now_s, moment.next_s);
        }
        if !solved {
            self.rig.derive(&mut self.motions, STEP_S);
        }
    }

    /// Leads the axes of a range that have keys, and that no hand took, along them.
    fn follow_keys(&mut self, range: Range<usize>, still: &[bool], before: &[Motion], moment: &Moment) {
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
        let waits = self.sent.front().is_some_and(|s| s.course.is_none()) && !self.held[i];
        if waits { Hand { demand: brake, ..hand } } else { hand }
    }

    /// Leads every axis but those that are left to hands from where it was to `next`, coming from
    /// `now`.
    fn lead_to(&mut self, now: &[f64], next: &[f64], leave: &[bool], before: &[Motion]) {
        let axes = self.rig.axes();
        for (i, axis) in axes.iter().enumerate() {
            if axis.hand.is_none() || leave[i] {
                continue;
            }
            self.motions[i] = before[i].led(axis, next[i], (next[i] - now[i]) / STEP_S, STEP_S);
        }
    }

    fn follow_course(&mut self, hands: &[Hand], still: &[bool], before: &[Motion]) {
        for (held, hand) in self.held.iter_mut().zip(hands) {
            *held |= hand.demand.rate != 0.0 || hand.demand.nudge != 0.0;
        }
        let rest = |i: usize| self.motions[i].speed == 0.0 || self.held[i] || !self.rig.goes(i);
        let resting = (0..self.motions.len()).all(rest);
        let from: Vec<f64> = before.iter().map(|m| m.value).collect();
        let sent = self.sent.front_mut().expect("it was sent");
        if sent.course.is_none() {
            if !resting {
                return;
            }
            // What is not sent stays: a course of a still axis is still.
            let row = |row: &Vec<f64>| -> Vec<f64> {
                let go = |i: usize| if self.rig.goes(i) && !still[i] { row[i] } else { from[i] };
                (0..from.len()).map(go).collect()
            };
            let rows = std::iter::once(from.clone()).chain(sent.through.iter().map(row)).collect();
            let glide = Glide::plan(self.rig.axes(), rows, sent.seconds, sent.share);
            sent.course = Some((glide, 0.0));
        }
        let (glide, elapsed) = sent.course.as_mut().expect("it is planned");
        let then = (*elapsed + STEP_S).min(glide.duration_s);
        let next = glide.values(then);
        for (i, value) in next.into_iter().enumerate() {
            if self.rig.goes(i) && !self.held[i] && !still[i] {
                self.motions[i] = Motion { value, speed: (value - from[i]) / STEP_S, owed: 0.0 };
            }
        }
        *elapsed = then;
        if then >= glide.duration_s {
            self.sent.pop_front();
            self.held.fill(false);
            self.motions.iter_mut().zip(self.rig.axes()).filter(|(_, a)| a.hand.is_some()).for_each(
                |(m, _)| {
                    m.speed = 0.0;
                },
            );
        }
    }

    fn follow_camera(&mut self, hands: &[Hand], still: &[bool], before: &[Motion], moment: &Moment) {
        // What moves the base has moved it; the rest starts from where it was. What the arm did so
        // far it did from where the base was, so that its speed makes up for the base's own.
        let base = self.rig.base();
        let was: Vec<f64> = before.iter().map(|m| m.value).collect();
        let near: Vec<f64> = (0..before.len())
            .map(|i| {
                let moved = base.contains(&i) || self.axes()[i].hand.is_none();
                if moved { self.motions[i].value } else { before[i].value }
            })
            .collect();
        let mut leave: Vec<bool> = (0..before.len()).map(|i| still[i] || base.contains(&i)).collect();
        let device = self.device(moment);
        let (now, next, wanted) = match &mut self.lead {
            Lead::Axes => return,
            Lead::Device(held) => {
                // A device that has never been heard wants nothing.
                let (on_set, sent) = device.unwrap_or((held.wanted, Lens::default()));
                let then = held.steadier.next(on_set);
                let before = std::mem::replace(&mut held.wanted, then);
                let lens = sent_lens(self.rig.axes(), sent);
                let solve = |camera: Pose, near: &[f64]| {
                    let mut axes = self.rig.inverse(camera, near).axes().to_vec();
                    axes.extend(
                        lens.iter().zip(&near[near.len() - 2..]).map(|(sent, now)| sent.unwrap_or(*now)),
                    );
                    axes
                };
                // What the device does not say of the lens, hands do.
                let takes = self.placed.tracking.mapping.lens;
                for (k, sent) in lens.iter().enumerate() {
                    let i = near.len() - 2 + k;
                    leave[i] |= !takes || sent.is_none();
                }
                (solve(before, &was), solve(then, &near), then)
            }
            Lead::Wish(wish) => {
                let (now, _) = follow(&*self.rig, wish, moment.now_s, &was);
                let (next, _) = follow(&*self.rig, wish, moment.next_s, &near);
                (now, next, wish.at(moment.next_s).0)
            }
            Lead::Flown(flown) => {
                let solve = |motions: &[Motion], near: &[f64]| {
                    let values: Vec<f64> = motions.iter().map(|m| m.value).collect();
                    let camera = flown.camera.forward(&values).camera;
                    let mut axes = self.rig.inverse(camera, near).axes().to_vec();
                    axes.extend(&values[values.len() - 2..]);
                    (axes, camera)
                };
                let (now, _) = solve(&flown.motions, &was);
                let own = flying_hands(self.rig.axes(), &base, hands);
                let around = Surroundings { walls: moment.walls, ..Surroundings::default() };
                flown.camera.step(&mut flown.motions, &own, &around, STEP_S);
                let (next, wanted) = solve(&flown.motions, &near);
                (now, next, wanted)
            }
        };
        self.lead_to(&now, &next, &leave, before);
        self.short_m = self.stance().camera.position.distance(wanted.position);
    }
}

/// Zoom and focus as a device sends them, in the units and within the limits of the axes. A ring
/// of focus goes evenly over one over the distance.
fn sent_lens(axes: &[Axis], sent: Lens) -> [Option<f64>; 2] {
    let [.., zoom, focus] = axes else { return [None; 2] };
    let focal = sent.focal_mm.or(sent.zoom.map(|share| zoom.min + share * (zoom.max - zoom.min)));
    let (close, far) = (1.0 / focus.min, 1.0 / focus.max);
    let distance = sent.focus_m.or(sent.focus.map(|share| 1.0 / (close + share * (far - close))));
    [focal.map(|v| v.clamp(zoom.min, zoom.max)), distance.map(|v| v.clamp(focus.min, focus.max))]
}

/// Hands on a machine's axes as hands that fly a camera: the first three of its own axes push to
/// the side, up and ahead; head and lens are what they are.
fn flying_hands(axes: &[Axis], base: &std::ops::Range<usize>, hands: &[Hand]) -> Vec<Hand> {
    let machine =
        |i: &usize| axes[*i].group == AxisGroup::Machine && axes[*i].hand.is_some() && !base.contains(i);
    let mut own: Vec<Hand> = (0..axes.len()).filter(machine).take(3).map(|i| hands[i]).collect();
    own.resize(3, Hand::default());
    let rest = |i: &usize| matches!(axes[*i].group, AxisGroup::Head | AxisGroup::Lens);
    own.extend((0..axes.len()).filter(rest).map(|i| hands[i]));
    own
}
