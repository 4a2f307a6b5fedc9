//! Commands of pages.

use super::{FULL, Floor, Phase, Round, STEPS_HZ};
use crate::acting::Acting;
use crate::command::{BroughtAxes, Command, MOST_POSITIONS, PageCommand};
use crate::control_lease::{Asking, PageId};
use rovnek_core::axis::Axis;
use rovnek_core::axis_motion::STEP_S;
use rovnek_core::performer::driven::WalkInput;
use rovnek_core::wheels::Wheel;

/// Most letters of what somebody calls themselves.
const LONGEST_NAME: usize = 40;

/// Most letters of the name of a device.
const LONGEST_SOURCE: usize = 200;

impl Floor {
    /// What a page asks, meant for a setup. Hands on a machine that is not driven any more are only the
    /// sign that the page is there.
    pub fn asked(&mut self, page: PageId, asked: PageCommand) {
        let elsewhere = asked.setup.is_some_and(|setup| setup != self.placed().setup_id);
        if asked.command.drives() && elsewhere {
            self.lease.heard(page, self.step);
        } else {
            self.command(page, asked.command);
        }
    }

    /// Does what a page asks, as far as its hands are on what it asks of: who was lent a wheel drives what
    /// hangs on it; all else is for who has the wheels.
    pub fn command(&mut self, page: PageId, command: Command) {
        if !self.lease.heard(page, self.step) && !command.of_the_lease() {
            return;
        }
        let has = |wheel: Wheel| self.lease.hand_on(wheel) == Some(page);
        match command {
            Command::Ask { wheel } => self.lease.ask(Asking { page, wheel }, self.step),
            Command::Give => self.lease.give(page, self.step),
            Command::Keep => self.lease.keep(page),
            Command::TakeBack { wheel } => self.lease.take_back(page, wheel),
            Command::Sign { name } => self.sign(page, name),
            Command::Drive { rates, nudges, fine } => {
                let theirs = self.axes_of(page);
                let axes = self.machines[self.on].axes();
                self.controls.drive(axes, &theirs, &rates, &nudges, fine);
            }
            Command::Pads { wheel, across, ahead, up } if has(wheel) => self.pads(wheel, [across, ahead, up]),
            Command::Shape { axes } => {
                let theirs = self.axes_of(page);
                self.controls.shape(&theirs, axes);
            }
            Command::Walk { ahead, turn, run, sit } if has(Wheel::Performer) => {
                if let Some(acting) = &mut self.acting
                    && ahead.is_finite()
                    && turn.is_finite()
                {
                    acting.wanted = WalkInput { ahead, turn, run, sit };
                }
            }
            Command::Hang { source, scale } if has(Wheel::Performer) => {
                let source: String = source.chars().take(LONGEST_SOURCE).collect();
                if let Some(acting) = &mut self.acting {
                    acting.hang(source, scale);
                }
            }
            Command::Go { targets, request } => {
                let goals = self.goals_of(page, &targets);
                // Who brings nothing of their own anywhere stops nobody else.
                if goals.iter().any(Option::is_some) {
                    self.bring(page, request, &goals, false);
                } else {
                    let short = vec!["Nothing moves: these axes are on wheels in other hands".into()];
                    self.brought.insert(page, BroughtAxes { request, step: self.step, short });
                }
            }
            Command::Level if has(Wheel::Head) => {
                let goals = self.machine().level();
                self.bring(page, 0, &goals, false);
            }
            Command::FocusOn { performer } if has(Wheel::Lens) => {
                self.machine_mut().keep_focus_on(performer);
            }
            _ if self.lease.holder() != Some(page) => {}
            Command::Feel { dial, drag } => {
                self.controls.feel(dial, drag);
            }
            Command::Arm { axis, on } => {
                if let (Some(armed), Phase::Standby) = (self.armed.get_mut(axis), self.roll) {
                    *armed = on;
                }
            }
            Command::Roll { count_in_s, until_s, note, pass } => {
                if self.roll == Phase::Standby && !self.left && count_in_s.is_finite() {
                    self.count_in(count_in_s, until_s, note, pass);
                }
            }
            Command::Clock { speed } => {
                if self.roll == Phase::Standby && speed.is_finite() {
                    self.clock = ((speed * f64::from(FULL)).round() as u32).clamp(50, FULL);
                    self.clock_rest = 0;
                }
            }
            Command::Act { who, alone } => {
                if self.roll == Phase::Standby {
                    match (&mut self.acting, who) {
                        (Some(acting), Some(of)) if acting.cast.of == of => acting.alone = alone,
                        _ => {
                            let cast = who.and_then(|of| self.cast.iter().find(|c| c.of == of));
                            self.acting = cast.map(|c| Acting::new(c.clone(), alone));
                        }
                    }
                }
            }
            Command::Attach { on } => {
                if !matches!(self.roll, Phase::PreRoll | Phase::Rolling { .. }) {
                    let clock_s = self.clock_s();
                    self.machines[self.on].attach(on, &self.devices, clock_s);
                }
            }
            Command::Cut => self.cut(),
            Command::Run { on } => self.run(on),
            Command::Loop { on, from_s, to_s } => {
                let step = |s: f64| (s.clamp(0.0, self.scene_length_s) * STEPS_HZ as f64).round() as u64;
                let finite = |s: Option<f64>| s.filter(|s| s.is_finite()).map(step);
                let (from, to) = (finite(from_s).unwrap_or(0), finite(to_s));
                // What would go round within nothing goes round all of it.
                self.round = Round { on, from, to: to.filter(|to| *to > from) };
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
                    let begin: Vec<Option<f64>> = self.begin.iter().copied().map(Some).collect();
                    self.bring(page, 0, &begin, false);
                }
            }
            Command::GoTo { number, drive, seconds, request } => {
                if let Some(row) = self.machine().position(number) {
                    if seconds.is_some() {
                        self.send(vec![vec![row]], seconds);
                    } else {
                        let goals = self.machine().goals_at(&row);
                        self.bring(page, request, &goals, drive);
                    }
                }
            }
            Command::Rehearse { positions, seconds } => {
                let rows: Vec<Vec<f64>> = positions
                    .iter()
                    .take(MOST_POSITIONS)
                    .filter_map(|n| self.machine().position(*n))
                    .collect();
                if let Some((first, rest)) = rows.split_first() {
                    let mut courses = vec![rest.to_vec()];
                    if self.roll == Phase::Standby {
                        let goals = self.machine().goals_at(first);
                        self.put_axes(&goals);
                    } else {
                        courses.insert(0, vec![first.clone()]);
                    }
                    courses.retain(|course| !course.is_empty());
                    self.send(courses, Some(seconds));
                }
            }
            Command::Stay => self.machine_mut().stay(),
            Command::Fly { on } => self.machine_mut().fly(on),
            Command::Discard { axes } => self.machine_mut().discard(&axes),
            // Those of one wheel, asked by a page that does not have it.
            Command::Walk { .. } | Command::Hang { .. } | Command::Pads { .. } => {}
            Command::Level | Command::FocusOn { .. } => {}
        }
        self.settle_hands();
    }

    /// Goals of the axes that hang on wheels a page has, from values in shown units; none for every other axis.
    fn goals_of(&self, page: PageId, targets: &[Option<f64>]) -> Vec<Option<f64>> {
        let axes = self.axes().iter().zip(self.axes_of(page));
        let goal = |(i, (axis, theirs)): (usize, (&Axis, bool))| {
            let target = targets.get(i).copied().flatten()?;
            (theirs && target.is_finite()).then(|| axis.unit.from_shown(target))
        };
        axes.enumerate().map(goal).collect()
    }

    /// Brings axes to goals, as the request of a page: puts them there while time stands and nothing rolls, else
    /// drives; `drive` drives in any case.
    fn bring(&mut self, page: PageId, request: u32, goals: &[Option<f64>], drive: bool) {
        let stands = self.roll == Phase::Standby && !self.running;
        let short = if stands && !drive { self.put_axes(goals) } else { self.drive_axes(goals) };
        // Who gave no number waits for no answer.
        if request > 0 {
            self.brought.insert(page, BroughtAxes { request, step: self.step, short });
        }
    }

    /// Puts axes of the machine that is driven at goals at once; a sentence for each that is not there.
    fn put_axes(&mut self, goals: &[Option<f64>]) -> Vec<String> {
        let below = self.below.is_some();
        let plays: Vec<bool> = self.playing().into_iter().map(|plays| plays && below).collect();
        let time_s = self.scene_step as f64 * STEP_S;
        self.machine_mut().put(goals, &plays, time_s)
    }

    /// Drives axes to goals. What another axis was sent to before holds.
    fn drive_axes(&mut self, goals: &[Option<f64>]) -> Vec<String> {
        let within = |(axis, goal): (&Axis, &Option<f64>)| goal.map(|goal| goal.clamp(axis.min, axis.max));
        let new = self.axes().iter().zip(goals).map(within);
        let goals: Vec<Option<f64>> =
            new.zip(self.machine().goals()).map(|(new, before)| new.or(before)).collect();
        let dial = self.controls.dial();
        self.machine_mut().stay();
        self.machine_mut().send_to(&goals, dial);
        Vec::new()
    }

    /// The axes that hang on wheels a page has.
    fn axes_of(&self, page: PageId) -> Vec<bool> {
        self.axes().iter().map(|a| self.lease.hand_on(Wheel::of(a.group)) == Some(page)).collect()
    }

    /// Hands on pads: of what hangs on a wheel, one axis after the other.
    fn pads(&mut self, wheel: Wheel, pads: [f64; 3]) {
        if wheel == Wheel::Performer {
            let [turn, ahead, _] = pads;
            if let Some(acting) = &mut self.acting {
                acting.wanted = WalkInput { ahead: ahead.max(0.0), turn, ..acting.wanted };
            }
            return;
        }
        let axes = self.machines[self.on].axes();
        let theirs: Vec<bool> =
            axes.iter().map(|a| Wheel::of(a.group) == wheel && a.hand.is_some()).collect();
        let mut left = pads.into_iter();
        let rates: Vec<f64> =
            theirs.iter().map(|theirs| if *theirs { left.next().unwrap_or(0.0) } else { 0.0 }).collect();
        self.controls.drive(axes, &theirs, &rates, &[], false);
    }

    fn sign(&mut self, page: PageId, name: String) {
        let name: String = name.trim().chars().take(LONGEST_NAME).collect();
        if name.is_empty() {
            self.names.remove(&page);
        } else {
            self.names.insert(page, name);
        }
    }

    /// Lets go of axes on a wheel that came into other hands; a rolling take notes it.
    pub(super) fn settle_hands(&mut self) {
        let hands = self.lease.hands();
        let before = std::mem::replace(&mut self.hands, hands);
        for wheel in Wheel::ALL.into_iter().filter(|w| hands[*w as usize] != before[*w as usize]) {
            let axes = self.machines[self.on].axes();
            self.controls.let_go(|i| Wheel::of(axes[i].group) == wheel);
            if let (Wheel::Performer, Some(acting)) = (wheel, &mut self.acting) {
                acting.let_go();
            }
            self.hand_changed(wheel, &before);
        }
    }

    /// Sends the machine that is driven along courses, the last of them in `seconds`.
    fn send(&mut self, courses: Vec<Vec<Vec<f64>>>, seconds: Option<f64>) {
        let (dial, last) = (self.controls.dial(), courses.len());
        let seconds = seconds.filter(|s| s.is_finite()).map(|s| s.clamp(0.1, 3600.0));
        let stand = self.machine_mut();
        stand.stay();
        for (i, course) in courses.into_iter().enumerate() {
            // What is asked to take a time may use all that the machine can.
            let timed = seconds.filter(|_| i + 1 == last);
            stand.send(course, timed, if timed.is_some() { 1.0 } else { dial });
        }
    }
}
