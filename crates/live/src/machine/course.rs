//! Courses that a machine is sent on, one after the other, each planned as soon as it stands still.

use rovnek_core::axis::Axis;
use rovnek_core::axis_motion::{AxisMotion, Hand, STEP_S};
use rovnek_core::glide::Glide;
use rovnek_core::rigs::Rig;
use std::collections::VecDeque;

/// Drives of a machine to a goal, and their progress.
#[derive(Default)]
pub(super) struct Courses {
    waiting: VecDeque<Course>,
    /// Axes that hands took out of the course.
    held: Vec<bool>,
}

struct Course {
    through: Vec<Vec<f64>>,
    /// Axes that it moves; every other one goes on as it would without it.
    moves: Vec<bool>,
    seconds: Option<f64>,
    /// Share of top speeds for a drive without a wished time.
    share: f64,
    planned: Option<(Glide, f64)>,
}

impl Courses {
    /// None, for a machine of so many axes.
    pub fn none(axes: usize) -> Courses {
        Courses { waiting: VecDeque::new(), held: vec![false; axes] }
    }

    /// Adds a drive of the axes in `moves` through rows of values; in `seconds`, or as quickly as `share` of the
    /// top speeds allows.
    pub fn add(&mut self, through: Vec<Vec<f64>>, moves: Vec<bool>, seconds: Option<f64>, share: f64) {
        self.waiting.push_back(Course { through, moves, seconds, share, planned: None });
    }

    /// Goal of an axis; none where hands have the axis, or without a drive of it.
    pub fn goal(&self, axis: usize) -> Option<f64> {
        let course = self.waiting.back().filter(|course| course.moves[axis] && !self.held[axis])?;
        course.through.last()?.get(axis).copied()
    }

    /// True without a drive.
    pub fn is_empty(&self) -> bool {
        self.waiting.is_empty()
    }

    /// Gives all of them up.
    pub fn clear(&mut self) {
        self.waiting.clear();
        self.held.fill(false);
    }

    /// Takes an axis out of its drive.
    pub fn take_out(&mut self, axis: usize) {
        self.held[axis] = !self.is_empty();
    }

    /// True if a drive moves the axis.
    pub fn leads(&self, axis: usize) -> bool {
        self.waiting.front().is_some_and(|course| course.moves[axis]) && !self.held[axis]
    }

    /// True while the machine comes to rest on the axis, so that a drive can be planned.
    pub fn waits(&self, axis: usize) -> bool {
        self.leads(axis) && self.waiting.front().is_some_and(|course| course.planned.is_none())
    }

    /// Reason why a drive takes longer than asked.
    pub fn slowed(&self, axes: &[Axis]) -> Option<String> {
        let course = self.waiting.front().filter(|s| s.seconds.is_some())?;
        let (glide, _) = course.planned.as_ref()?;
        Some(format!("{} needs {:.1} s", axes[glide.bound_by?].name, glide.duration_s))
    }

    /// One step along the first course, from how the axes moved before it. An axis under a hand leaves
    /// its course.
    pub fn step(
        &mut self,
        rig: &dyn Rig,
        motions: &mut [AxisMotion],
        hands: &[Hand],
        still: &[bool],
        before: &[AxisMotion],
    ) {
        let Some(course) = self.waiting.front_mut() else { return };
        for (held, hand) in self.held.iter_mut().zip(hands) {
            *held |= hand.demand.asks();
        }
        let moves = course.moves.clone();
        let goes = |i: usize| rig.can_be_sent(i) && moves[i];
        let from: Vec<f64> = before.iter().map(|m| m.value).collect();
        if course.planned.is_none() {
            let resting = |i: usize| motions[i].speed == 0.0 || self.held[i] || !goes(i);
            if !(0..motions.len()).all(resting) {
                return;
            }
            // An axis that is not moved keeps its value in the plan, so it costs no time.
            let row = |row: &Vec<f64>| -> Vec<f64> {
                (0..from.len()).map(|i| if goes(i) && !still[i] { row[i] } else { from[i] }).collect()
            };
            let rows = std::iter::once(from.clone()).chain(course.through.iter().map(row)).collect();
            course.planned = Some((Glide::plan(rig.axes(), rows, course.seconds, course.share), 0.0));
        }
        let (glide, elapsed) = course.planned.as_mut().expect("it is planned");
        let then = (*elapsed + STEP_S).min(glide.duration_s);
        for (i, value) in glide.values(then).into_iter().enumerate() {
            if goes(i) && !self.held[i] && !still[i] {
                motions[i] = AxisMotion { value, speed: (value - from[i]) / STEP_S, remaining: 0.0 };
            }
        }
        *elapsed = then;
        if then >= glide.duration_s {
            self.waiting.pop_front();
            self.held.fill(false);
            let axes = motions.iter_mut().zip(rig.axes()).zip(moves);
            let driven = axes.filter(|((_, axis), moves)| axis.hand.is_some() && *moves);
            driven.for_each(|((motion, _), _)| motion.speed = 0.0);
        }
    }
}
