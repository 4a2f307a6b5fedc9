//! Focus that stays on somebody.

use super::{Moment, SetupMachine, values_of};
use rovnek_core::DVec3;
use rovnek_core::axis_motion::{AxisMotion, Hand};
use rovnek_core::ids::PerformerId;
use rovnek_core::playing::Carriages;

impl SetupMachine {
    /// The performer on whose eyes the focus stays, until a hand takes it.
    pub fn focus_on(&self) -> Option<PerformerId> {
        self.focus_on
    }

    /// Keeps the focus on a performer's eyes, or leaves it to hands again.
    pub fn keep_focus_on(&mut self, performer: Option<PerformerId>) {
        self.focus_on = performer;
    }

    /// Focus goes with whom it stays on, as quickly as its axis can, unless a hand takes it.
    pub(super) fn follow_focus(
        &mut self,
        hands: &[Hand],
        still: &[bool],
        before: &[AxisMotion],
        moment: &Moment,
    ) {
        let Some(focus) = self.axes().iter().position(|a| a.name == "focus") else { return };
        if hands[focus].demand.asks() {
            self.focus_on = None;
        }
        let Some(performer) = self.focus_on.filter(|_| !still[focus]) else { return };
        let [now, before_now] = moment.carriages;
        let eyes = |time_s: f64, motions: &[AxisMotion], among: &Carriages| {
            let mut among = among.clone();
            if let Some(own) = among.get_mut(&self.placed.setup_id) {
                *own = self.rig.forward(&values_of(motions)).carriage;
            }
            moment.people.eyes_on(performer, time_s, &among)
        };
        let was = eyes(moment.now_s, before, before_now);
        let Some((was, is)) = was.zip(eyes(moment.next_s, &self.motions, now)) else { return };
        self.lead_within(focus, self.far_before_and_after(before, was, is), before);
    }

    /// How far two places are from the camera, before a step and after it: focus is measured along the view.
    pub(super) fn far_before_and_after(&self, before: &[AxisMotion], was: DVec3, is: DVec3) -> [f64; 2] {
        [(before, was), (&self.motions, is)].map(|(motions, at)| {
            let camera = self.rig.forward(&values_of(motions)).camera;
            (at - camera.position).dot(camera.rotation * DVec3::NEG_Z)
        })
    }
}
