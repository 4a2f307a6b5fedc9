//! Who may operate. One page has the wheels: it rolls, cuts and sends. Each single [`Wheel`] may be lent to
//! another page, which then drives what hangs on it; the rest watch.
//!
//! Whoever has the wheels is asked for all or one of them and may give or keep; one that has been silent
//! for five seconds loses them to whoever asks, and a wheel that is lent to one comes back. A page that
//! falls silent for a quarter second keeps what it has, but its hands count as off: on what it holds, and
//! nothing else (see [`ControlLease::silent`]).

use rovnek_core::wheels::Wheel;
use serde::Serialize;
use std::collections::BTreeMap;
use ts_rs::TS;

/// A page, as long as its socket lives.
pub type PageId = u32;

/// Silence after which a page's hands count as off, in steps.
pub const SILENT_STEPS: u64 = 60;
/// Silence after which a page has lost what it held, in steps.
pub const GONE_STEPS: u64 = 1200;

/// Request of a page for the wheels or for one wheel.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, TS)]
pub struct Asking {
    /// Page that asks.
    pub page: PageId,
    /// For which wheel; all of them where it is not said.
    pub wheel: Option<Wheel>,
}

/// Holders of the wheels, requests, and open pages.
#[derive(Clone, Debug, Default)]
pub struct ControlLease {
    /// The step at which each was heard last.
    pages: BTreeMap<PageId, u64>,
    holder: Option<PageId>,
    asking: Option<Asking>,
    lent: [Option<PageId>; Wheel::ALL.len()],
}

impl ControlLease {
    /// The page that has the wheels.
    pub fn holder(&self) -> Option<PageId> {
        self.holder
    }

    /// The page that asks, and for what.
    pub fn asking(&self) -> Option<Asking> {
        self.asking
    }

    /// Number of open pages.
    pub fn pages(&self) -> usize {
        self.pages.len()
    }

    /// The page whose hands are on a wheel.
    pub fn hand_on(&self, wheel: Wheel) -> Option<PageId> {
        self.lent[wheel as usize].or(self.holder)
    }

    /// The pages whose hands are on each wheel.
    pub fn hands(&self) -> [Option<PageId>; Wheel::ALL.len()] {
        Wheel::ALL.map(|wheel| self.hand_on(wheel))
    }

    /// A page opened. The first gets the wheels.
    pub fn join(&mut self, page: PageId, step: u64) {
        self.pages.insert(page, step);
        if self.holder.is_none() {
            self.take(page, step);
        }
    }

    /// A page closed. What it was lent comes back; whoever asked gets what they asked for, or nobody has it.
    pub fn leave(&mut self, page: PageId, step: u64) {
        self.pages.remove(&page);
        self.asking = self.asking.filter(|a| a.page != page);
        self.come_back(|by| by == page);
        if self.holder == Some(page) {
            self.holder = None;
            if let Some(next) = self.asking {
                self.grant(next, step);
            }
        }
    }

    /// A page asks for the wheels, or one of them. Nobody's or a lost holder's it gets at once.
    pub fn ask(&mut self, asking: Asking, step: u64) {
        let Asking { page, wheel } = asking;
        let has = self.holder == Some(page) || wheel.is_some_and(|w| self.hand_on(w) == Some(page));
        if has || !self.pages.contains_key(&page) {
            return;
        }
        let lost = self.silent_for(self.holder, step) >= GONE_STEPS;
        if lost { self.grant(asking, step) } else { self.asking = Some(asking) }
    }

    /// Time passes: whoever asked gets the wheels of a holder that was lost meanwhile, and what a lost page
    /// was lent comes back.
    pub fn pass(&mut self, step: u64) {
        for wheel in Wheel::ALL {
            let by = self.lent[wheel as usize];
            if by.is_some() && self.silent_for(by, step) >= GONE_STEPS {
                self.lent[wheel as usize] = None;
            }
        }
        if let Some(next) = self.asking
            && self.silent_for(self.holder, step) >= GONE_STEPS
        {
            self.grant(next, step);
        }
    }

    /// Whoever has the wheels gives what is asked for, or lets go of them where nobody asks; who was lent
    /// some gives them back.
    pub fn give(&mut self, page: PageId, step: u64) {
        if self.holder != Some(page) {
            return self.come_back(|by| by == page);
        }
        match self.asking {
            Some(asking) => self.grant(asking, step),
            None => self.holder = None,
        }
    }

    /// Whoever has the wheels keeps them.
    pub fn keep(&mut self, page: PageId) {
        if self.holder == Some(page) {
            self.asking = None;
        }
    }

    /// Whoever has the wheels takes a lent one back.
    pub fn take_back(&mut self, page: PageId, wheel: Wheel) {
        if self.holder == Some(page) {
            self.lent[wheel as usize] = None;
        }
    }

    /// Something came from a page; whether it may operate anything.
    pub fn heard(&mut self, page: PageId, step: u64) -> bool {
        if let Some(heard) = self.pages.get_mut(&page) {
            *heard = step;
        }
        self.hands().contains(&Some(page))
    }

    /// True while no hands are on a wheel.
    pub fn silent(&self, wheel: Wheel, step: u64) -> bool {
        self.silent_for(self.hand_on(wheel), step) >= SILENT_STEPS
    }

    /// Steps since whoever has the wheels was heard; for ever where nobody has them.
    pub fn holder_silent_for(&self, step: u64) -> u64 {
        self.silent_for(self.holder, step)
    }

    fn silent_for(&self, page: Option<PageId>, step: u64) -> u64 {
        let heard = page.and_then(|page| self.pages.get(&page));
        heard.map_or(u64::MAX, |heard| step.saturating_sub(*heard))
    }

    fn come_back(&mut self, whose: impl Fn(PageId) -> bool) {
        self.lent = self.lent.map(|by| by.filter(|by| !whose(*by)));
    }

    /// A page gets what it asks for: who wants one wheel is never left with all of them.
    fn grant(&mut self, Asking { page, wheel }: Asking, step: u64) {
        match wheel {
            Some(wheel) => {
                self.lent[wheel as usize] = Some(page);
                self.asking = None;
                self.pages.insert(page, step);
            }
            None => self.take(page, step),
        }
    }

    fn take(&mut self, page: PageId, step: u64) {
        self.holder = Some(page);
        self.asking = None;
        self.come_back(|by| by == page);
        self.pages.insert(page, step);
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn all(page: PageId) -> Asking {
        Asking { page, wheel: None }
    }

    fn one(page: PageId, wheel: Wheel) -> Asking {
        Asking { page, wheel: Some(wheel) }
    }

    #[test]
    fn the_first_holds_the_second_asks_and_gets() {
        let mut w = ControlLease::default();
        w.join(1, 0);
        w.join(2, 0);
        w.heard(1, 100);
        w.ask(all(2), 100);
        assert_eq!((w.holder(), w.asking()), (Some(1), Some(all(2))));
        w.keep(1);
        assert_eq!(w.asking(), None);
        w.ask(all(2), 101);
        w.give(1, 102);
        assert_eq!((w.holder(), w.asking()), (Some(2), None));
    }

    #[test]
    fn a_lost_holder_is_replaced_and_a_closed_page_hands_on() {
        let mut w = ControlLease::default();
        w.join(1, 0);
        w.join(2, 0);
        w.ask(all(2), 10);
        w.pass(GONE_STEPS - 1);
        assert_eq!((w.holder(), w.asking()), (Some(1), Some(all(2))));
        w.pass(GONE_STEPS);
        assert_eq!((w.holder(), w.asking()), (Some(2), None));
        w.ask(all(1), GONE_STEPS);
        w.leave(2, GONE_STEPS + 1);
        assert_eq!(w.holder(), Some(1));
        w.leave(1, GONE_STEPS + 2);
        assert_eq!((w.holder(), w.pages()), (None, 0));
        assert!(w.silent(Wheel::Head, GONE_STEPS + 2));
    }

    #[test]
    fn a_wheel_is_lent_and_comes_back_by_hand_by_word_and_by_loss() {
        let mut w = ControlLease::default();
        w.join(1, 0);
        w.join(2, 0);
        let lend = |w: &mut ControlLease, step: u64| {
            w.ask(one(2, Wheel::Head), step);
            w.give(1, step);
            assert_eq!((w.holder(), w.hand_on(Wheel::Head)), (Some(1), Some(2)));
            assert_eq!((w.hand_on(Wheel::Lens), w.asking()), (Some(1), None));
        };
        lend(&mut w, 10);
        w.take_back(2, Wheel::Head);
        assert_eq!(w.hand_on(Wheel::Head), Some(2), "only who has the wheels takes one back");
        w.take_back(1, Wheel::Head);
        assert_eq!(w.hand_on(Wheel::Head), Some(1));
        lend(&mut w, 20);
        w.give(2, 21);
        assert_eq!(w.hand_on(Wheel::Head), Some(1), "who was lent one gave it back");
        lend(&mut w, 30);
        w.heard(1, 30 + SILENT_STEPS);
        assert!(w.silent(Wheel::Head, 30 + SILENT_STEPS) && !w.silent(Wheel::Lens, 30 + SILENT_STEPS));
        w.heard(1, GONE_STEPS);
        w.pass(GONE_STEPS + 30);
        assert_eq!(w.hand_on(Wheel::Head), Some(1), "its page is lost");
        lend(&mut w, GONE_STEPS + 31);
        w.leave(2, GONE_STEPS + 32);
        assert_eq!(w.hands(), [Some(1); 4]);
    }

    #[test]
    fn who_asks_for_one_wheel_gets_no_more_though_nobody_has_them() {
        let mut w = ControlLease::default();
        w.join(1, 0);
        w.join(2, 0);
        w.ask(one(2, Wheel::Lens), 1);
        w.leave(1, 2);
        assert_eq!((w.holder(), w.hands()), (None, [None, None, Some(2), None]));
        w.ask(one(2, Wheel::Head), 3);
        assert_eq!(w.hands(), [None, Some(2), Some(2), None]);
        w.join(3, 4);
        assert_eq!((w.holder(), w.hands()), (Some(3), [Some(3), Some(2), Some(2), Some(3)]));
    }

    proptest! {
        /// Whatever pages do, hands are those of pages that are open, and nobody leaks.
        #[test]
        fn hands_are_always_of_pages_that_are_there(deeds in prop::collection::vec((0u32..5, 0u8..7, 0usize..4), 0..300)) {
            let mut w = ControlLease::default();
            let mut open = std::collections::BTreeSet::new();
            for (step, (page, deed, wheel)) in deeds.into_iter().enumerate() {
                let (step, wheel) = (step as u64 * 17, Wheel::ALL[wheel]);
                match deed {
                    0 => if open.insert(page) { w.join(page, step) },
                    1 => { open.remove(&page); w.leave(page, step) }
                    2 => w.ask(all(page), step),
                    3 => w.ask(one(page, wheel), step),
                    4 => w.give(page, step),
                    5 => w.take_back(page, wheel),
                    _ => { w.heard(page, step); }
                }
                prop_assert!(w.holder().is_none_or(|h| open.contains(&h)));
                prop_assert!(w.hands().iter().flatten().all(|h| open.contains(h)));
                prop_assert!(w.asking().is_none_or(|a| open.contains(&a.page) && w.holder() != Some(a.page)));
                prop_assert_eq!(w.pages(), open.len());
            }
        }
    }
}
