//! Another scene comes onto the floor.

use crate::common::{drive, floor_of, hold, of, placed, staged};
use rovnek_core::ids::SetupId;
use rovnek_core::rigs::{RigSpec, Tripod};
use rovnek_live::command::{Command, RollState};
use rovnek_live::floor::{Floor, RecorderEvent};

#[test]
fn a_scene_is_left_only_while_nothing_rolls_and_its_last_is_told_last() {
    let mut floor = floor_of(vec![placed()]);
    floor.command(1, Command::roll(0.0));
    hold(&mut floor, 1.0, 0, 1.0);
    floor.leave_scene();
    let left = |notes: &[RecorderEvent]| notes.contains(&RecorderEvent::Left);
    assert!(!left(&floor.take_events()), "it rolls");
    floor.command(1, Command::Cut);
    floor.leave_scene();
    let notes = floor.take_events();
    assert!(matches!(notes[..], [.., RecorderEvent::End { .. }, RecorderEvent::Left]), "{notes:?}");
    // Nothing rolls on a floor that waits for another scene, and everything does on that one.
    floor.command(1, Command::roll(0.0));
    hold(&mut floor, 0.5, 0, 0.0);
    assert_eq!(floor.status().roll, RollState::Standby);
    // Where it stays after all, it rolls again.
    floor.stay_in_scene();
    floor.command(1, Command::roll(0.0));
    hold(&mut floor, 0.5, 0, 0.0);
    assert_eq!(floor.status().roll, RollState::Rolling);
    floor.command(1, Command::Cut);
    floor.leave_scene();
    floor.enter(staged(vec![placed(), of(8, RigSpec::Tripod(Tripod::default()))]), SetupId(8));
    floor.command(1, Command::roll(0.0));
    hold(&mut floor, 0.5, 0, 0.0);
    assert_eq!((floor.status().roll, floor.status().setup_id), (RollState::Rolling, SetupId(8)));
}

#[test]
fn pages_dial_and_clock_stay_and_machines_stand_at_their_start() {
    let mut floor = floor_of(vec![placed()]);
    floor.join(2);
    floor.command(1, Command::Feel { dial: 0.3, drag: 2.0 });
    floor.command(1, Command::Clock { speed: 0.5 });
    hold(&mut floor, 2.0, 0, 1.0);
    let moved = floor.state().axes[0].value;
    // The same setup's number may mean another machine in another production.
    floor.enter(staged(vec![placed()]), SetupId(3));
    let (status, state) = (floor.status(), floor.state());
    assert_eq!(
        (status.holder, status.pages, status.dial, status.drag, status.clock),
        (Some(1), 2, 0.3, 2.0, 0.5)
    );
    assert!(moved > 1.0 && state.axes[0].value == 0.0 && state.scene_time_s == 0.0);
    (0..48).for_each(|_| floor.step());
    assert_eq!(floor.state().scene_time_s, 0.0, "it stands at its beginning");
    drive(&mut floor, 2, 0, 1.0);
    (0..48).for_each(|_| floor.step());
    assert_eq!(floor.state().axes[0].value, 0.0, "only the holder drives");
}

/// The time of the scene after some seconds.
fn after(floor: &mut Floor, seconds: f64) -> f64 {
    (0..(seconds * 240.0) as usize).for_each(|_| floor.step());
    floor.state().scene_time_s
}

#[test]
fn the_performance_goes_round_between_two_times_or_stands_at_its_end() {
    let mut floor = floor_of(vec![placed()]);
    let wrong = |a: f64, b: f64| (a - b).abs() > 0.01;
    // Of twenty seconds: round all of it as it comes.
    floor.command(1, Command::Seek { time_s: 19.0 });
    assert!(!wrong(after(&mut floor, 1.5), 0.5));
    floor.command(1, Command::Loop { on: true, from_s: Some(4.0), to_s: Some(6.0) });
    floor.command(1, Command::Seek { time_s: 5.0 });
    assert!(!wrong(after(&mut floor, 2.5), 5.5));
    // Past the out point it goes on to the end, and then round.
    floor.command(1, Command::Seek { time_s: 19.5 });
    assert!(!wrong(after(&mut floor, 1.0), 4.5));
    floor.command(1, Command::Loop { on: false, from_s: Some(4.0), to_s: Some(6.0) });
    assert!(!wrong(after(&mut floor, 4.0), 6.0) && !floor.status().running);
    // Played again it begins where it is to begin.
    floor.command(1, Command::Run { on: true });
    assert!(!wrong(after(&mut floor, 1.0), 5.0) && floor.status().running);
    // A take is not cut by it.
    floor.command(1, Command::roll(0.0));
    hold(&mut floor, 8.0, 0, 0.1);
    assert_eq!(floor.status().roll, RollState::Rolling);
}
