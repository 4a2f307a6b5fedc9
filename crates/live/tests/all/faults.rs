//! A floor that has a fault closes its take, tells every page, and is driven again.

use crate::common::{placed, staged};
use rovnek_core::ids::SetupId;
use rovnek_live::command::{Command, PageCommand, RollState, Status};
use rovnek_live::floor::RecorderEvent;
use rovnek_live::runner::{Message, Runner};
use std::sync::mpsc::{Receiver, channel};
use std::time::{Duration, Instant};

/// Longer than anything here takes, seconds.
const PATIENCE: Duration = Duration::from_secs(10);

fn asked(runner: &Runner, page: u32, command: Command) {
    runner.messages.send(Message::Command(page, PageCommand { setup: Some(SetupId(3)), command })).unwrap();
}

/// The first status that is so.
fn until(runner: &Runner, so: impl Fn(&Status) -> bool) -> Status {
    let mut statuses = runner.status.clone();
    let waits = tokio::runtime::Builder::new_current_thread().enable_time().build().unwrap();
    waits.block_on(async {
        let status = tokio::time::timeout(PATIENCE, statuses.wait_for(|s| so(s))).await;
        (**status.expect("it comes to be so").unwrap()).clone()
    })
}

fn next(notes: &Receiver<RecorderEvent>, is: impl Fn(&RecorderEvent) -> bool) -> RecorderEvent {
    loop {
        let note = notes.recv_timeout(PATIENCE).expect("the recorder is told");
        if is(&note) {
            return note;
        }
    }
}

#[test]
fn a_fault_closes_the_take_is_told_to_all_pages_and_the_floor_is_driven_again() {
    let (send, notes) = channel();
    let runner = Runner::start(staged(vec![placed()]), SetupId(3), send);
    for page in [1, 2] {
        runner.messages.send(Message::Join(page)).unwrap();
    }
    asked(&runner, 1, Command::roll(0.0));
    until(&runner, |s| s.roll == RollState::Rolling && s.pages == 2);
    next(&notes, |n| matches!(n, RecorderEvent::Chunk { .. }));
    let fell = Instant::now();
    runner.messages.send(Message::Fault).unwrap();
    let end = next(&notes, |n| matches!(n, RecorderEvent::End { .. }));
    let RecorderEvent::End { flags } = end else { unreachable!() };
    assert!(flags[0].contains("a fault of its own"), "{flags:?}");
    let told = until(&runner, |s| s.trouble.is_some());
    assert_eq!((told.holder, told.pages, told.roll), (Some(1), 2, RollState::Standby));
    // A second fault in a row is no worse; then the same page drives and rolls again.
    runner.messages.send(Message::Fault).unwrap();
    let mut frames = runner.frames.clone();
    asked(&runner, 1, Command::roll(0.0));
    until(&runner, |s| s.roll == RollState::Rolling && s.trouble.is_none());
    next(&notes, |n| matches!(n, RecorderEvent::Begin(_)));
    assert!(fell.elapsed() < Duration::from_secs(2), "{:?}", fell.elapsed());
    assert!(frames.has_changed().unwrap() && !frames.borrow_and_update().is_empty());
    assert!(runner.silent_for() < Duration::from_secs(1));
    runner.close();
    next(&notes, |n| matches!(n, RecorderEvent::End { .. }));
    assert!(notes.recv_timeout(PATIENCE).is_err(), "the floor is closed");
}

#[test]
fn a_recorder_that_is_gone_is_told() {
    let (send, notes) = channel();
    let runner = Runner::start(staged(vec![placed()]), SetupId(3), send);
    runner.messages.send(Message::Join(1)).unwrap();
    drop(notes);
    asked(&runner, 1, Command::roll(0.0));
    let told = until(&runner, |s| s.trouble.is_some());
    assert!(told.trouble.unwrap().contains("start Rovnek again"));
    assert_eq!(told.roll, RollState::Standby);
}
