//! A second device, in other hands than the one that may hold the camera: it moves the focus or the aim.
//!
//! What it moves goes towards where the device has it as quickly as the axis can, and is recorded like
//! anything else. A hand on an axis comes first, for as long as it is there.

use super::lead::sent_lens;
use super::{Moment, SetupMachine, values_of};
use rovnek_core::DVec3;
use rovnek_core::axis::AxisGroup;
use rovnek_core::axis_motion::{AxisMotion, Hand, STEP_S};
use rovnek_core::rigs::{LENS_AXES, looking};
use rovnek_core::space::Pose;
use rovnek_core::tracked::SecondMoves;
use rovnek_formats::tracking::Lens;

/// Place of a device on the set and its lens, before a step and after it.
type Heard = [(DVec3, Lens); 2];

impl SetupMachine {
    /// Reading of the second device, while it is heard.
    fn second(&self, moment: &Moment) -> Option<(SecondMoves, Heard)> {
        let second = &self.placed.tracking.second;
        let heard = moment.devices.get(&second.source).filter(|h| h.alive(moment.clock_s))?;
        let at = |clock_s: f64| {
            let (pose, lens) = heard.at(clock_s)?;
            Some((self.placed.tracking.mapping.placed(pose).position, lens))
        };
        Some((second.moves, [at(moment.clock_s - STEP_S)?, at(moment.clock_s)?]))
    }

    /// Turns the head to where the device is; where the machine goes, hands say.
    pub(super) fn aim_at_second(
        &mut self,
        hands: &[Hand],
        still: &[bool],
        before: &[AxisMotion],
        moment: &Moment,
    ) {
        let Some((moves, [(was, _), (is, _)])) = self.second(moment) else { return };
        if !moves.aims() || self.lead.is_some() || self.sent() {
            return;
        }
        let turned = |row: &[f64], at: DVec3| {
            let stands = self.rig.forward(row).camera;
            let look = looking(stands.position, at, stands.rotation);
            self.rig.inverse(Pose::new(stands.position, look), row).axes().to_vec()
        };
        let (now, next) = (turned(&values_of(before), was), turned(&self.axis_values(), is));
        let head: Vec<usize> = (0..now.len()).filter(|i| self.axes()[*i].group == AxisGroup::Head).collect();
        for i in head {
            self.lead_by_second(i, [now[i], next[i]], hands, still, before);
        }
    }

    /// Focus by the device's ring, or on where the device is.
    pub(super) fn focus_by_second(
        &mut self,
        hands: &[Hand],
        still: &[bool],
        before: &[AxisMotion],
        moment: &Moment,
    ) {
        let Some((moves, [(was, lens_was), (is, lens_is)])) = self.second(moment) else { return };
        let focus = before.len() - LENS_AXES + 1;
        let ring = |lens: Lens| sent_lens(self.axes(), lens)[1];
        let way = match moves {
            SecondMoves::Aim => None,
            SecondMoves::FocusRing => ring(lens_was).zip(ring(lens_is)).map(<[f64; 2]>::from),
            SecondMoves::Focus | SecondMoves::AimAndFocus => Some(self.far_before_and_after(before, was, is)),
        };
        if let Some(way) = way {
            self.lead_by_second(focus, way, hands, still, before);
        }
    }

    fn lead_by_second(
        &mut self,
        i: usize,
        way: [f64; 2],
        hands: &[Hand],
        still: &[bool],
        before: &[AxisMotion],
    ) {
        if still[i] || hands[i].demand.asks() || self.axes()[i].hand.is_none() {
            return;
        }
        self.touch(i);
        self.seconded[i] = true;
        self.lead_within(i, way, before);
    }
}
