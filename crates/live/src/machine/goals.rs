//! Goals of a machine: the values its axes are to have, and the drives that bring them there.

use super::SetupMachine;
use rovnek_core::axis::{Axis, AxisGroup};
use rovnek_core::keys::values;
use rovnek_core::space::{PanTiltRoll, Pose};

impl SetupMachine {
    /// Sends the axes that have a goal to it; as quickly as `share` of their top speeds allows.
    pub fn send_to(&mut self, goals: &[Option<f64>], share: f64) {
        let row = goals.iter().zip(&self.motions).map(|(goal, m)| goal.unwrap_or(m.value)).collect();
        self.send_axes(vec![row], goals.iter().map(Option::is_some).collect(), None, share);
    }

    /// Sends every axis through rows of values; in `seconds`, or as quickly as `share` of the top speeds allows.
    pub fn send(&mut self, through: Vec<Vec<f64>>, seconds: Option<f64>, share: f64) {
        self.send_axes(through, vec![true; self.motions.len()], seconds, share);
    }

    fn send_axes(&mut self, through: Vec<Vec<f64>>, moves: Vec<bool>, seconds: Option<f64>, share: f64) {
        // What an axis is sent to is more than what its keys say.
        (0..moves.len()).filter(|i| moves[*i]).for_each(|i| self.touch(i));
        self.courses.add(through, moves, seconds, share);
    }

    /// Goals for a row of values; none for an axis that cannot be sent to a value.
    pub fn goals_at(&self, row: &[f64]) -> Vec<Option<f64>> {
        row.iter().enumerate().map(|(i, value)| self.rig.can_be_sent(i).then_some(*value)).collect()
    }

    /// Goal of each axis; none for an axis that is not sent anywhere.
    pub fn goals(&self) -> Vec<Option<f64>> {
        (0..self.motions.len()).map(|i| self.courses.goal(i)).collect()
    }

    /// A stored position in this machine's order.
    pub fn position(&self, number: u32) -> Option<Vec<f64>> {
        let position = self.placed.positions.iter().find(|p| p.number == number)?;
        Some(values(&position.axes, self.axes(), &self.axis_values()))
    }

    /// Goals of the head with which the horizon is level; none for every other axis.
    pub fn level(&self) -> Vec<Option<f64>> {
        let camera = self.pose().camera;
        let turn = PanTiltRoll { roll: 0.0, ..PanTiltRoll::from_rotation(camera.rotation) };
        let near = self.axis_values();
        let wanted = Pose::new(camera.position, turn.to_rotation());
        let solved = self.rig.inverse(wanted, &near);
        let head = |(i, axis): (usize, &Axis)| {
            solved.axes().get(i).copied().filter(|_| axis.group == AxisGroup::Head)
        };
        self.rig.axes().iter().enumerate().map(head).collect()
    }
}
