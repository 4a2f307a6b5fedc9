//! Rolling: what is counted in, begins, is sampled and is cut; takes, passes over a take below, and
//! what is laid there.

use super::{BaseTake, FULL, Floor, LONGEST_TAKE_STEPS, Phase, RollRequest, STEPS_HZ, STEPS_PER_SAMPLE};
use crate::command::PassRequest;
use crate::control_lease::PageId;
use crate::take_buffer::{PassStart, RecorderEvent, TakeStart};
use rovnek_core::axis_motion::STEP_S;
use rovnek_core::passes::name_of;
use rovnek_core::time::SAMPLE_RATE_HZ;
use rovnek_core::wheels::{HandOn, Wheel};
use std::sync::Arc;

impl Floor {
    /// True if a take can be laid below the machine that is driven.
    pub(super) fn fits(&self, below: &BaseTake) -> bool {
        below.setup_id == self.placed().setup_id
            && below.samples.width() == self.axes().len()
            && !below.samples.is_empty()
    }

    /// A take is laid below, or none.
    pub fn set_base(&mut self, below: Option<BaseTake>) {
        let same = |a: &BaseTake, b: &BaseTake| a.take == b.take && Arc::ptr_eq(&a.samples, &b.samples);
        if self.below.as_ref().zip(below.as_ref()).is_some_and(|(a, b)| same(a, b)) {
            return;
        }
        // What a pass is rolled over does not change under it.
        if matches!(self.roll, Phase::PreRoll | Phase::Rolling { .. }) {
            return;
        }
        self.below = below.filter(|b| self.fits(b));
        self.jump();
    }

    /// The axes that play from the take below: what is not armed; before a punch in, all of them.
    pub(super) fn playing(&self) -> Vec<bool> {
        let all = match self.roll {
            Phase::PreRoll => true,
            Phase::Counting { .. } => self.asked.from > 0,
            Phase::Standby | Phase::Rolling { .. } => false,
        };
        self.armed.iter().map(|armed| all || !armed).collect()
    }

    /// Counts in. Where a take is laid below, the roll is a pass over it.
    pub(super) fn count_in(
        &mut self,
        count_in_s: f64,
        until_s: Option<f64>,
        note: String,
        pass: PassRequest,
    ) {
        let driven = (0..self.armed.len()).filter(|i| self.axes()[*i].hand.is_some());
        if self.below.is_some() && self.acting.is_none() && !driven.clone().any(|i| self.armed[i]) {
            let why =
                "no axis is armed, so the pass would record nothing; arm one by the dot beside its name";
            self.trouble = Some(why.into());
            return;
        }
        let end_s = self.below.as_ref().map(|b| b.samples.duration_s());
        if let Some(end_s) = end_s.filter(|end_s| pass.from_s >= *end_s) {
            let from_s = pass.from_s;
            self.trouble = Some(format!(
                "the in point at {from_s:.2} s is past the end of the take below at {end_s:.2} s; set it earlier"
            ));
            return;
        }
        let ticks = (count_in_s.clamp(0.0, 5.0) * STEPS_HZ as f64).round() as u64;
        // Whole samples, so that a pass lies on the samples below.
        let longest_s = LONGEST_TAKE_STEPS as f64 * STEP_S;
        let steps = |s: f64| (s.clamp(0.0, longest_s) * SAMPLE_RATE_HZ).round() as u64 * STEPS_PER_SAMPLE;
        let until = until_s.filter(|s| s.is_finite()).map(steps);
        self.asked = RollRequest { note: note.chars().take(2000).collect(), from: 0, until, pass };
        let mut starts = 0;
        if let Some(below) = &self.below {
            let end = (below.samples.len() as u64 - 1) * STEPS_PER_SAMPLE;
            let wanted = &self.asked.pass;
            let plain = |s: f64| if s.is_finite() { s } else { 0.0 };
            let from = steps(plain(wanted.from_s)).min(end.saturating_sub(STEPS_PER_SAMPLE));
            let pre_roll = steps(plain(wanted.pre_roll_s).min(60.0));
            self.asked.from = from;
            self.asked.until = Some(until.unwrap_or(end).min(end).max(from + STEPS_PER_SAMPLE));
            starts = from.saturating_sub(pre_roll);
        }
        self.roll = Phase::Counting { until: self.step + ticks };
        self.scene_step = starts;
        self.ran = std::mem::replace(&mut self.running, false);
        self.trouble = None;
        if self.below.is_some() {
            self.jump();
        }
    }

    pub(super) fn start_rolling(&mut self) {
        // Where everything stands now, before this step moves it, is time zero. A pass that begins
        // within a take goes on from what played up to there.
        self.roll = Phase::Rolling { steps: 0, since: self.step - 1 };
        if self.asked.from == 0 {
            self.scene_step = 0;
            self.jump();
        }
        self.begin = self.machine().axis_values();
        self.clock_rest = 0;
        let begun = TakeStart {
            placed: self.placed().clone(),
            clock: f64::from(self.clock) / f64::from(FULL),
            device: self.source().filter(|_| self.machine().attached()).map(|(name, _)| name.to_string()),
            note: std::mem::take(&mut self.asked.note),
            pass: self.below.as_ref().map(|below| self.pass_over(below)),
        };
        // A performance is driven from its beginning; a pass within a take is not.
        let drives = self.asked.from == 0;
        let acted = self.acting.as_mut().filter(|_| drives).map(|acting| {
            acting.begins();
            acting.cast.of
        });
        self.buffer.begin((!self.alone()).then_some(begun), acted);
        // That the one page there is has all of it is nothing to tell.
        let hands = self.hands;
        if hands.iter().any(|by| *by != hands[0]) || hands[0].is_some_and(|by| self.names.contains_key(&by)) {
            self.buffer.hands(self.hands_on(&hands, 0.0));
        }
        self.sample();
    }

    /// Holders of the wheels; the performer's wheel counts only while a performer is driven.
    fn hands_on(&self, hands: &[Option<PageId>; Wheel::ALL.len()], from_s: f64) -> Vec<HandOn> {
        let wheels = Wheel::ALL.into_iter().filter(|w| *w != Wheel::Performer || self.acting.is_some());
        let name = |page: PageId| self.names.get(&page).cloned().unwrap_or_else(|| format!("page {page}"));
        wheels
            .map(|wheel| HandOn { wheel, by: hands[wheel as usize].map_or(String::new(), name), from_s })
            .collect()
    }

    /// A wheel came into other hands: a take that rolls is told, and who had them before if it was not.
    pub(super) fn hand_changed(&mut self, wheel: Wheel, before: &[Option<PageId>; Wheel::ALL.len()]) {
        let Phase::Rolling { steps, .. } = self.roll else { return };
        if !self.buffer.knows_hands() {
            let first = self.hands_on(before, 0.0);
            self.buffer.hands(first);
        }
        let mut now = self.hands_on(&self.hands, steps as f64 * STEP_S);
        now.retain(|hand| hand.wheel == wheel);
        self.buffer.hands(now);
    }

    fn pass_over(&self, below: &BaseTake) -> PassStart {
        let driven = |i: &usize| self.axes()[*i].hand.is_some();
        let all = (0..self.armed.len()).filter(driven).all(|i| self.armed[i]);
        // What surrounds the machine goes with the whole of it.
        let records = |i: &usize| if driven(i) { self.armed[*i] } else { all };
        let wanted = &self.asked.pass;
        let blend_s = if wanted.blend_s.is_finite() { wanted.blend_s.clamp(0.0, 10.0) } else { 0.5 };
        PassStart {
            take: below.take,
            name: if wanted.name.is_empty() {
                name_of(self.axes(), &self.armed)
            } else {
                wanted.name.chars().take(120).collect()
            },
            at: (self.asked.from / STEPS_PER_SAMPLE) as usize,
            axes: (0..self.armed.len()).filter(records).collect(),
            blend_s,
        }
    }

    pub(super) fn cut(&mut self) {
        if let Phase::Rolling { .. } = self.roll {
            self.buffer.end();
            // Whoever was driven plays from now on as they were recorded.
            self.acting = self.acting.take().filter(|_| self.asked.from > 0);
        }
        if self.roll != Phase::Standby {
            self.roll = Phase::Standby;
            self.running = self.ran;
        }
    }

    /// True if only a performer is driven, and the camera does not record.
    pub(super) fn alone(&self) -> bool {
        self.acting.as_ref().is_some_and(|a| a.alone) && self.below.is_none()
    }

    pub(super) fn sample(&mut self) {
        if let Some(acting) = self.acting.as_ref().filter(|_| self.asked.from == 0) {
            self.buffer.acted(acting.row());
        }
        if !self.alone() {
            let row = self.machine().axis_values();
            self.buffer.axes(&row);
        }
    }

    /// Words for the take that rolls.
    pub(super) fn flag(&mut self, words: String) {
        if matches!(self.roll, Phase::Rolling { .. }) {
            self.buffer.flag(words);
        }
    }

    /// The recorder could not keep a chunk: the take is cut and the operator told.
    pub fn recorder_failed(&mut self, why: String) {
        if matches!(self.roll, Phase::Rolling { .. }) {
            self.buffer.flag(why.clone());
            self.cut();
        }
        self.trouble = Some(why);
    }

    /// The floor closes: a rolling take is cut.
    pub fn close(&mut self) {
        self.flag("Rovnek was closed".into());
        self.cut();
    }

    /// A stall of the clock: a rolling take is flagged with the gap.
    pub fn stalled(&mut self, gap_s: f64) {
        if matches!(self.roll, Phase::Rolling { .. }) {
            self.flag(format!("playback paused for {gap_s:.2} s"));
        }
    }

    /// Takes out the events for the recorder, in order; each event is given once.
    pub fn take_events(&mut self) -> Vec<RecorderEvent> {
        self.buffer.take_events()
    }
}
