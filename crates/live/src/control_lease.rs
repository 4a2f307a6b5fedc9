//! Who may operate. One page holds the wheels; others watch and may ask for them.
//!
//! A holder that is asked may give or keep them; one that has been silent for five seconds loses
//! them to whoever asks. A holder that falls silent for a quarter second keeps them, but its hands
//! count as off (see [`ControlLease::silent`]).

/// A page, as long as its socket lives.
pub type PageId = u32;

/// Silence after which the holder's hands count as off, in steps.
pub const SILENT_STEPS: u64 = 60;
/// Silence after which asking is enough, in steps.
pub const GONE_STEPS: u64 = 1200;

/// Who holds the wheels, who asks, who is there.
#[derive(Clone, Debug, Default)]
pub struct ControlLease {
    pages: Vec<PageId>,
    holder: Option<PageId>,
    asking: Option<PageId>,
    heard: u64,
}

impl ControlLease {
    /// The page at the wheels.
    pub fn holder(&self) -> Option<PageId> {
        self.holder
    }

    /// The page that asks for them.
    pub fn asking(&self) -> Option<PageId> {
        self.asking
    }

    /// How many pages are open.
    pub fn pages(&self) -> usize {
        self.pages.len()
    }

    /// A page opened. The first gets the wheels.
    pub fn join(&mut self, page: PageId, step: u64) {
        self.pages.push(page);
        if self.holder.is_none() {
            self.take(page, step);
        }
    }

    /// A page closed. Whoever asked gets the wheels, or nobody has them.
    pub fn leave(&mut self, page: PageId, step: u64) {
        self.pages.retain(|p| *p != page);
        self.asking = self.asking.filter(|p| *p != page);
        if self.holder == Some(page) {
            self.holder = None;
            if let Some(next) = self.asking {
                self.take(next, step);
            }
        }
    }

    /// A page asks for the wheels. Nobody's or a lost holder's it gets at once.
    pub fn ask(&mut self, page: PageId, step: u64) {
        if self.holder == Some(page) || !self.pages.contains(&page) {
            return;
        }
        let lost = self.silent_for(step) >= GONE_STEPS;
        if lost { self.take(page, step) } else { self.asking = Some(page) }
    }

    /// Time passes: whoever asked gets the wheels of a holder that was lost meanwhile.
    pub fn pass(&mut self, step: u64) {
        if let Some(next) = self.asking
            && self.silent_for(step) >= GONE_STEPS
        {
            self.take(next, step);
        }
    }

    /// The holder gives the wheels to whoever asks, or lets go of them.
    pub fn give(&mut self, page: PageId, step: u64) {
        if self.holder == Some(page) {
            self.holder = None;
            if let Some(next) = self.asking {
                self.take(next, step);
            }
        }
    }

    /// The holder keeps the wheels.
    pub fn keep(&mut self, page: PageId) {
        if self.holder == Some(page) {
            self.asking = None;
        }
    }

    /// Something came from a page; whether it may operate.
    pub fn heard(&mut self, page: PageId, step: u64) -> bool {
        let holds = self.holder == Some(page);
        if holds {
            self.heard = step;
        }
        holds
    }

    /// Whether nobody has hands on the wheels.
    pub fn silent(&self, step: u64) -> bool {
        self.silent_for(step) >= SILENT_STEPS
    }

    /// Steps since the holder was heard; for ever without one.
    pub fn silent_for(&self, step: u64) -> u64 {
        if self.holder.is_none() { u64::MAX } else { step.saturating_sub(self.heard) }
    }

    fn take(&mut self, page: PageId, step: u64) {
        self.holder = Some(page);
        self.asking = None;
        self.heard = step;
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn the_first_holds_the_second_asks_and_gets() {
        let mut w = ControlLease::default();
        w.join(1, 0);
        w.join(2, 0);
        w.heard(1, 100);
        w.ask(2, 100);
        assert_eq!((w.holder(), w.asking()), (Some(1), Some(2)));
        w.keep(1);
        assert_eq!(w.asking(), None);
        w.ask(2, 101);
        w.give(1, 102);
        assert_eq!((w.holder(), w.asking()), (Some(2), None));
    }

    #[test]
    fn a_lost_holder_is_replaced_and_a_closed_page_hands_on() {
        let mut w = ControlLease::default();
        w.join(1, 0);
        w.join(2, 0);
        w.ask(2, 10);
        w.pass(GONE_STEPS - 1);
        assert_eq!((w.holder(), w.asking()), (Some(1), Some(2)));
        w.pass(GONE_STEPS);
        assert_eq!((w.holder(), w.asking()), (Some(2), None));
        w.ask(1, GONE_STEPS);
        w.leave(2, GONE_STEPS + 1);
        assert_eq!(w.holder(), Some(1));
        w.leave(1, GONE_STEPS + 2);
        assert_eq!((w.holder(), w.pages()), (None, 0));
        assert!(w.silent(GONE_STEPS + 2));
    }

    proptest! {
        /// Whatever pages do, the holder is one of those that are open, and nobody leaks.
        #[test]
        fn one_holder_always(deeds in prop::collection::vec((0u32..5, 0u8..5), 0..300)) {
            let mut w = ControlLease::default();
            let mut open = std::collections::BTreeSet::new();
            for (step, (page, deed)) in deeds.into_iter().enumerate() {
                let step = step as u64 * 17;
                match deed {
                    0 => if open.insert(page) { w.join(page, step) },
                    1 => { open.remove(&page); w.leave(page, step) }
                    2 => w.ask(page, step),
                    3 => w.give(page, step),
                    _ => { w.heard(page, step); }
                }
                prop_assert!(w.holder().is_none_or(|h| open.contains(&h)));
                prop_assert!(w.asking().is_none_or(|a| open.contains(&a) && w.holder() != Some(a)));
                prop_assert_eq!(w.pages(), open.len());
            }
        }
    }
}
