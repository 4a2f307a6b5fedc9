//! Another scene, or another production, comes onto the floor. Whoever holds the wheels changes it, while
//! nothing rolls; all pages follow.

use crate::app::App;
use crate::document::opening::Ready;
use crate::document::written::Written;
use crate::floor::drives;
use crate::http::meant::Stay;
use crate::http::problem::{Outcome, Problem};
use crate::jobs::JobState;
use crate::lock::lock;
use rovnek_core::ids::{SceneId, SetupId};
use rovnek_live::command::RollState;
use rovnek_live::runner::Message;
use std::sync::Arc;
use std::time::{Duration, Instant};

/// Longest time in which the recorder may keep the last of a scene.
const SETTLES: Duration = Duration::from_secs(3);

/// Under which it is remembered which controls drive what.
pub const INPUTS: &str = "inputs";

/// Keys of the room and its operator, not of a production: they go along to the next one.
const OF_THE_ROOM: [&str; 2] = [crate::floor::devices::REMEMBERED, INPUTS];

/// Under which the setup that was on the floor last is remembered, scene by scene.
pub fn setup_of(scene: SceneId) -> String {
    format!("setup of scene {scene}")
}

impl App {
    /// Another scene of the open production comes onto the floor, if the scene of `stay` is still there.
    pub fn turn_to_scene(&self, stay: Stay, page: Option<u32>, scene: SceneId) -> Outcome<()> {
        if self.document().scene.id == scene {
            return Ok(());
        }
        let _turning = lock(self.turning());
        self.change(page, || {
            self.writing(stay, |writing| {
                writing.store().turn_to(scene)?;
                let document = writing.store().document()?;
                self.put_in_place(|now| now.of_scene(document));
                Ok(())
            })
        })
    }

    /// Another production of the shelf.
    pub fn open_production(&self, page: Option<u32>, id: &str) -> Outcome<()> {
        let _turning = lock(self.turning());
        if self.current().opened.id == id {
            return Ok(());
        }
        // All of it can be read and staged, or nothing is left for it.
        let ready = Ready::of(self.shelf(), id, self.current().revision + 1).map_err(Problem::refused)?;
        let Ready { opened, mut store, document, revision, .. } = ready;
        let opened = Arc::new(opened);
        self.change(page, || {
            self.writing(self.current().stay, |writing| {
                for key in OF_THE_ROOM {
                    let known = writing.store().remembered(key);
                    known.iter().try_for_each(|value| store.remember(key, value))?;
                }
                self.shelf().opened(id, &mut store)?;
                drop(self.gate().exchange(store));
                *writing.written = Written::default();
                self.jobs.stop_all();
                self.live_out.end();
                self.put_in_place(|now| now.of(document, opened, revision));
                Ok(())
            })
        })?;
        self.check_pages();
        Ok(())
    }

    /// Reads every page of a production that was too large for that before it was opened, beside everything
    /// else, and tells what it finds as a job that failed.
    pub fn check_pages(&self) {
        let (opened, jobs) = (self.current().opened.clone(), self.jobs.clone());
        let check = move || {
            if let Err(found) = opened.read(|reader| reader.check()) {
                eprintln!("rovnek: {found}");
                let job = jobs.begin(format!("check of {}", opened.id), None);
                jobs.end(job.id, JobState::Failed { sentence: found.to_string() }, None);
            }
        };
        // Without a thread there is no check, as without one there would be no opening.
        let _ = std::thread::Builder::new().name("check".into()).spawn(check);
    }

    /// Leaves the floor, has something else put in place, and enters what is there then: where that could not
    /// be done, it is what was there before.
    fn change(&self, page: Option<u32>, put: impl FnOnce() -> Outcome<()>) -> Outcome<()> {
        self.leave(page)?;
        let done = drives::keep(self).and_then(|()| put());
        self.enter().and(done)
    }

    /// The floor is left as it is: nothing rolls, and all of it is kept.
    fn leave(&self, page: Option<u32>) -> Outcome<()> {
        let status = self.floor.status.borrow().clone();
        if status.holder.is_some() && status.holder != page {
            return Err(Problem::conflict(
                "another page holds the wheels and says what is on the floor; take the wheels first",
            ));
        }
        let rolls = || Problem::conflict("something rolls; cut it first");
        if status.roll != RollState::Standby {
            return Err(rolls());
        }
        let left = lock(self.left());
        while left.try_recv().is_ok() {}
        let _ = self.floor.messages.send(Message::LeaveScene);
        left.recv_timeout(SETTLES).map_err(|_| {
            let _ = self.floor.messages.send(Message::StayInScene);
            rolls()
        })
    }

    /// The scene of the document comes onto the floor, with the setup that was there last.
    fn enter(&self) -> Outcome<()> {
        let mut last = lock(self.staged());
        let now = self.current();
        let staged = now.staged()?;
        let setup = self.store().remembered(&setup_of(now.document.scene.id));
        let setup = setup.and_then(|s| s.parse().ok()).unwrap_or(0);
        let there = staged.setups.iter().find(|s| s.setup_id == SetupId(setup)).or(staged.setups.first());
        let on = there.map_or(SetupId(0), |s| s.setup_id);
        let _ = self.floor.messages.send(Message::EnterScene(Box::new(staged), on));
        *last = Some(now);
        // Pages hear of the new scene when the floor has it.
        let until = Instant::now() + SETTLES;
        while self.floor.status.borrow().setup_id != on && Instant::now() < until {
            std::thread::sleep(Duration::from_millis(2));
        }
        Ok(())
    }

    /// After a step through the history: the scene on the floor may have come to lie in the bin by it.
    pub fn leave_binned_scene(&self, page: Option<u32>) -> Outcome<()> {
        let now = self.current();
        if !now.document.scene.binned {
            return Ok(());
        }
        let other = now.document.scenes.iter().find(|s| !s.binned);
        other.map_or(Ok(()), |other| self.turn_to_scene(now.stay, page, other.id))
    }
}
