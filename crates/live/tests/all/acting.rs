//! Somebody who is driven on the floor, alone or together with the camera.

use crate::common::{drive, floor_with, placed, somebody};
use rovnek_core::performer::driven::{ROW, route};
use rovnek_core::playing::MoverId;
use rovnek_live::command::Command;
use rovnek_live::floor::{Floor, RecorderEvent};

fn walk(floor: &mut Floor, seconds: f64, ahead: f64, turn: f64) {
    for i in 0..(seconds * 240.0) as usize {
        if i % 12 == 0 {
            floor.command(1, Command::Walk { ahead, turn, run: false, sit: false });
            drive(floor, 1, 0, 0.6);
        }
        floor.step();
    }
}

fn acted(notes: &[RecorderEvent]) -> Vec<f64> {
    let mut values = Vec::new();
    for note in notes {
        if let RecorderEvent::Acted { seq, values: more } = note {
            assert_eq!(*seq as usize, values.len() / ROW / 30);
            values.extend(more);
        }
    }
    values
}

#[test]
fn alone_only_the_performance_is_recorded_and_it_goes_where_it_was_seen() {
    let mut floor = floor_with(vec![placed()], vec![somebody(6)]);
    floor.command(1, Command::Act { who: Some(MoverId::Performer(6)), alone: true });
    assert_eq!((floor.status().acting, floor.status().alone), (Some(MoverId::Performer(6)), true));
    floor.command(1, Command::roll(0.0));
    walk(&mut floor, 3.0, 1.0, 0.2);
    let seen = floor.state().acting.unwrap().1[1].position;
    floor.command(1, Command::Cut);
    let notes = floor.take_events();
    assert!(matches!(notes[0], RecorderEvent::Act(MoverId::Performer(6))));
    assert!(!notes.iter().any(|n| matches!(n, RecorderEvent::Begin(_) | RecorderEvent::Chunk { .. })));
    assert!(matches!(notes.last(), Some(RecorderEvent::End { .. })));
    let values = acted(&notes);
    assert_eq!(values.len(), 361 * ROW);
    assert_eq!(values[..2], [2.0, -1.0]);
    let last = &values[360 * ROW..];
    assert!((last[0] - seen.x).hypot(last[1] - seen.z) < 0.1);
    let path = route(&values, 120.0, 0.0).compile();
    assert!((path.position(3.0).x - last[0]).abs() < 1e-9);
    // From now on they play as they were recorded.
    assert_eq!(floor.status().acting, None);
}

#[test]
fn together_both_are_recorded_sample_by_sample() {
    let mut floor = floor_with(vec![placed()], vec![somebody(6)]);
    floor.command(1, Command::Act { who: Some(MoverId::Performer(6)), alone: false });
    floor.command(1, Command::Clock { speed: 0.5 });
    floor.command(1, Command::roll(0.0));
    walk(&mut floor, 4.0, 1.0, 0.0);
    floor.command(1, Command::Cut);
    let notes = floor.take_events();
    assert!(matches!(notes[0], RecorderEvent::Begin(_)));
    let rows: usize = notes
        .iter()
        .map(|n| if let RecorderEvent::Chunk { values, width, .. } = n { values.len() / width } else { 0 })
        .sum();
    assert_eq!((rows, acted(&notes).len() / ROW), (241, 241));
}

#[test]
fn who_is_driven_stops_when_nobody_is_at_the_wheels_and_who_is_gone_is_not_driven() {
    let mut floor = floor_with(vec![placed()], vec![somebody(6)]);
    floor.command(1, Command::Act { who: Some(MoverId::Performer(9)), alone: true });
    assert_eq!(floor.status().acting, None);
    floor.command(1, Command::Act { who: Some(MoverId::Performer(6)), alone: true });
    walk(&mut floor, 1.0, 1.0, 0.0);
    let at = |floor: &Floor| floor.state().acting.unwrap().1[1].position;
    (0..480).for_each(|_| floor.step());
    let rests = at(&floor);
    (0..240).for_each(|_| floor.step());
    assert_eq!(at(&floor), rests);
    floor.stage(crate::common::staged(vec![placed()]));
    assert_eq!(floor.status().acting, None);
}
