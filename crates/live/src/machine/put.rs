//! Axes put at values at once, while the scene's time stands: the operator places the machine instead of
//! driving it there.

use super::lead::{Flown, LeadKind};
use super::{SetupMachine, values_of};
use rovnek_core::axis::{Axis, Unit};
use rovnek_core::axis_motion::AxisMotion;
use rovnek_core::rigs::LENS_AXES;

/// Difference from its goal, in the axis' unit, up to which an axis stands at the goal.
const SAME: f64 = 1e-9;

impl SetupMachine {
    /// Puts axes at their goals, as far as end stops and whatever leads the camera let them; an axis without a
    /// goal stays. `plays` are axes that a take below moves. Returns a sentence for each axis that does not
    /// stand at its goal.
    pub(crate) fn put(&mut self, goals: &[Option<f64>], plays: &[bool], time_s: f64) -> Vec<String> {
        let mut row = self.axis_values();
        let (mut short, mut put) = (Vec::new(), Vec::new());
        for (i, goal) in goals.iter().enumerate().take(row.len()) {
            let Some(goal) = goal.filter(|goal| goal.is_finite()) else { continue };
            let axis = &self.rig.axes()[i];
            // What surrounds the machine is not put; what follows from how it went may be.
            if axis.hand.is_none() && !self.rig.derived().contains(&i) {
                continue;
            }
            if let Some(why) = self.withheld(i, plays) {
                short.push(format!("{} {why}", axis.name));
                continue;
            }
            let value = goal.clamp(axis.min, axis.max);
            if (value - goal).abs() > SAME {
                short.push(past(axis, value, goal));
            }
            self.rig.put(&mut row, i, value);
            put.push(i);
        }
        for i in &put {
            self.courses.take_out(*i);
            self.touch(*i);
        }
        if put.is_empty() {
            return short;
        }
        self.set(&row);
        let focus = row.len() - LENS_AXES + 1;
        if put.contains(&focus) {
            self.keep_focus_on(None);
        }
        self.follow_put(&put, time_s);
        short
    }

    /// Reason why an axis cannot be put; none for an axis that can.
    fn withheld(&self, axis: usize, plays: &[bool]) -> Option<&'static str> {
        if plays.get(axis) == Some(&true) {
            return Some("plays from the take below; arm it to put it elsewhere");
        }
        let own = self.rig.operator_axes().contains(&axis);
        match self.lead() {
            LeadKind::Move if !own => Some("follows the camera of another move; its base can be put"),
            LeadKind::Device if !own && axis + LENS_AXES < self.motions.len() => {
                Some("follows the device that holds the camera; let go of the device first")
            }
            _ => None,
        }
    }

    /// Solves the axes that are led for a base that was put, or takes the camera that hands fly along.
    fn follow_put(&mut self, put: &[usize], time_s: f64) {
        let base = self.rig.operator_axes();
        if self.lead() == LeadKind::Flown && put.iter().any(|i| !base.contains(i)) {
            let lens = &self.motions[self.motions.len() - LENS_AXES..];
            self.lead = Some(Box::new(Flown::from(self.pose().camera, &self.placed.camera, lens)));
            return;
        }
        let Some(lead) = &self.lead else { return };
        let near = self.axis_values();
        let Some(mut row) = lead.stands(&*self.rig, time_s, &near) else { return };
        for i in (0..row.len()).filter(|i| base.contains(i) || self.rig.axes()[*i].hand.is_none()) {
            row[i] = near[i];
        }
        self.set(&row);
    }

    /// Every axis at rest at a value.
    fn set(&mut self, row: &[f64]) {
        for (motion, value) in self.motions.iter_mut().zip(row) {
            if motion.value != *value {
                *motion = AxisMotion::at(*value);
            }
        }
        debug_assert_eq!(values_of(&self.motions), row);
    }
}

/// Sentence about an axis that stands at an end stop instead of its goal.
fn past(axis: &Axis, value: f64, goal: f64) -> String {
    let shown = |v: f64| match (axis.unit, axis.unit.to_shown(v)) {
        (Unit::Radians, deg) => format!("{deg:.1}°"),
        (Unit::Plain, v) => format!("{v:.2}"),
        (unit, v) => format!("{v:.2} {}", unit.symbol()),
    };
    format!("{} stands at its end, {}: {} lies beyond it", axis.name, shown(value), shown(goal))
}
