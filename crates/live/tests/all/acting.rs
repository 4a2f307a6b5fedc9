//! Somebody who is driven on the floor, alone or together with the camera.

use crate::common::{drive, floor_with, heard, placed, somebody};
use rovnek_core::DVec3;
use rovnek_core::ids::PerformerId;
use rovnek_core::performer::driven::{ROW, route};
use rovnek_core::playing::MoverId;
use rovnek_core::space::{PanTiltRoll, Pose};
use rovnek_formats::tracking::Lens;
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
    floor.command(1, Command::Act { who: Some(MoverId::Performer(PerformerId(6))), alone: true });
    assert_eq!(
        (floor.status().acting, floor.status().alone),
        (Some(MoverId::Performer(PerformerId(6))), true)
    );
    floor.command(1, Command::roll(0.0));
    walk(&mut floor, 3.0, 1.0, 0.2);
    let seen = floor.state().acting.unwrap().1[1].position;
    floor.command(1, Command::Cut);
    let notes = floor.take_events();
    assert!(matches!(notes[0], RecorderEvent::Act(MoverId::Performer(PerformerId(6)))));
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
    floor.command(1, Command::Act { who: Some(MoverId::Performer(PerformerId(6))), alone: false });
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
    floor.command(1, Command::Act { who: Some(MoverId::Performer(PerformerId(9))), alone: true });
    assert_eq!(floor.status().acting, None);
    floor.command(1, Command::Act { who: Some(MoverId::Performer(PerformerId(6))), alone: true });
    walk(&mut floor, 1.0, 1.0, 0.0);
    let at = |floor: &Floor| floor.state().acting.unwrap().1[1].position;
    (0..480).for_each(|_| floor.step());
    let rests = at(&floor);
    (0..240).for_each(|_| floor.step());
    assert_eq!(at(&floor), rests);
    floor.stage(crate::common::staged(vec![placed()]));
    assert_eq!(floor.status().acting, None);
}

/// A puppet of ten times the size of what is carried: it goes where the device goes, from where both were, and
/// what was rolled is where it was seen.
#[test]
fn a_device_leads_who_is_driven_from_where_both_are() {
    let mut floor = floor_with(vec![placed()], vec![somebody(6)]);
    floor.command(1, Command::Act { who: Some(MoverId::Performer(PerformerId(6))), alone: true });
    // Not heard yet: it stands.
    floor.command(1, Command::Hang { source: "freed 1".into(), scale: 10.0 });
    walk(&mut floor, 0.5, 1.0, 0.0);
    let hangs = floor.status().hangs.unwrap();
    assert_eq!((hangs.source.as_str(), hangs.scale, hangs.alive), ("freed 1", 10.0, false));
    // The device looks to its right all the time, and goes 0.3 m ahead and 0.1 m aside while it turns.
    let device = |s: f64| {
        let u = (s / 3.0).clamp(0.0, 1.0);
        let (ahead, aside) = (0.3 * u, 0.1 * u);
        let turn = PanTiltRoll { pan: 0.4 + 0.6 * u, tilt: 0.0, roll: 0.0 };
        let (sin, cos) = 0.4_f64.sin_cos();
        let place = DVec3::new(4.0 + sin * ahead + cos * aside, 1.1, 2.0 - cos * ahead + sin * aside);
        Pose::new(place, turn.to_rotation())
    };
    let go_on = |floor: &mut Floor, seconds: f64, from_s: f64| {
        for i in 0..(seconds * 240.0) as u64 {
            if i % 2 == 0 {
                heard(floor, device(from_s + i as f64 / 240.0), Lens::default());
            }
            drive(floor, 1, 0, 0.0);
            floor.step();
        }
    };
    go_on(&mut floor, 1.0, -1.0);
    floor.command(1, Command::roll(0.0));
    go_on(&mut floor, 4.0, 0.0);
    let alive = floor.status().hangs.unwrap().alive;
    for _ in 0..360 {
        drive(&mut floor, 1, 0, 0.0);
        floor.step();
    }
    assert_eq!((alive, floor.status().hangs.unwrap().alive), (true, false));
    floor.command(1, Command::Cut);
    let events = floor.take_events();
    let values = acted(&events);
    let (first, last) = (&values[..ROW], &values[values.len() - ROW..]);
    let along = (last[0] - first[0]).hypot(last[1] - first[1]);
    assert!((along - 10.0 * 0.3_f64.hypot(0.1)).abs() < 0.02, "{along}");
    assert!((last[2] - first[2] - 0.6).abs() < 0.01, "{last:?}");
    // It stands where it hung when the device fell silent, and the roll says so.
    assert_eq!(values[values.len() - 60 * ROW..][..2], last[..2]);
    assert!(matches!(events.last(), Some(RecorderEvent::End { .. })), "{events:?}");
    let path = route(&values, 120.0, 0.0).compile();
    for k in (0..values.len() / ROW).step_by(60) {
        let row = &values[k * ROW..];
        let at = path.position(k as f64 / 120.0);
        assert!((at.x - row[0]).hypot(at.z - row[1]) < 0.05, "{k}");
    }
    // Hands have them again.
    floor.command(1, Command::Act { who: Some(MoverId::Performer(PerformerId(6))), alone: true });
    assert_eq!(floor.status().hangs, None);
}
