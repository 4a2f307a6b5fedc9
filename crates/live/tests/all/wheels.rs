//! Wheels in several hands: three pages roll one take together.

use crate::common::{floor_with, placed, somebody};
use rovnek_core::ids::PerformerId;
use rovnek_core::input_shaping::Shaping;
use rovnek_core::playing::MoverId;
use rovnek_core::wheels::{HandOn, Wheel};
use rovnek_live::command::Command;
use rovnek_live::control_lease::PageId;
use rovnek_live::floor::{Floor, RecorderEvent};

/// What a page asked, and after how many steps of the roll.
type Log = Vec<(u64, Command)>;

fn drive(rates: [f64; 9], nudge: Option<(usize, f64)>) -> Command {
    let mut nudges = vec![0.0; 9];
    if let Some((axis, by)) = nudge {
        nudges[axis] = by;
    }
    Command::Drive { rates: rates.to_vec(), nudges, fine: false }
}

/// A floor where pages 2 and 3 were lent the head and the lens, and 3 the performer as well.
fn lent(names: &[(PageId, &str)]) -> Floor {
    let mut floor = floor_with(vec![placed()], vec![somebody(6)]);
    floor.join(2);
    floor.join(3);
    for (page, name) in names {
        floor.command(*page, Command::Sign { name: (*name).into() });
    }
    floor.command(1, Command::Act { who: Some(MoverId::Performer(PerformerId(6))), alone: false });
    for (page, wheel) in [(2, Wheel::Head), (3, Wheel::Lens), (3, Wheel::Performer)] {
        floor.command(page, Command::Ask { wheel: Some(wheel) });
        floor.command(1, Command::Give);
    }
    assert_eq!(floor.status().hands, [Some(1), Some(2), Some(3), Some(3)]);
    floor
}

/// Four seconds of a roll in which every page drives everything it can reach, whether it is its own or not.
fn logs() -> [Log; 3] {
    let wave = |k: u64, phase: f64| (k as f64 / 40.0 + phase).sin();
    let page = |phase: f64, every: u64| -> Log {
        let steps = (0..960).filter(|k| k % every == 0);
        steps
            .map(|k| {
                let rates = std::array::from_fn(|i| wave(k, phase + i as f64).clamp(-1.0, 1.0));
                let nudge = (k % 96 == 0).then_some((3 + (k / 96 % 3) as usize, 0.4));
                (k, drive(rates, nudge))
            })
            .collect()
    };
    let mut third = page(2.4, 15);
    third.extend((0..960).step_by(30).map(|k| {
        let ahead = wave(k, 0.3).abs();
        (k, Command::Walk { ahead, turn: 0.2 * wave(k, 1.0), run: k > 500, sit: false })
    }));
    third.sort_by_key(|(k, _)| *k);
    [page(0.0, 10), page(1.2, 12), third]
}

/// The samples of a roll in which logs are played: the machine's, and of who is driven.
fn rolled(floor: &mut Floor, logs: &[(PageId, &Log)]) -> (Vec<f64>, Vec<f64>, Vec<RecorderEvent>) {
    floor.command(1, Command::roll(0.0));
    let mut notes = Vec::new();
    for k in 0..=960 {
        for (page, log) in logs {
            for (_, command) in log.iter().filter(|(at, _)| *at == k) {
                floor.command(*page, command.clone());
            }
        }
        floor.step();
        notes.extend(floor.take_events());
    }
    floor.command(1, Command::Cut);
    notes.extend(floor.take_events());
    let (mut axes, mut acted) = (Vec::new(), Vec::new());
    for note in &notes {
        match note {
            RecorderEvent::Chunk { values, .. } => axes.extend(values),
            RecorderEvent::Acted { values, .. } => acted.extend(values),
            _ => {}
        }
    }
    (axes, acted, notes)
}

/// What three pages asked as one page would: of each axis, what the page that had its wheel said last.
fn merged([first, second, third]: &[Log; 3]) -> Log {
    let of = |axis: usize| match axis {
        0..3 => 0,
        3..6 => 1,
        _ => 2,
    };
    let mut rates = [0.0; 9];
    let mut out = Log::new();
    for k in 0..960 {
        let now = [first, second, third].map(|log| log.iter().filter(|(at, _)| *at == k));
        let mut nudges = vec![0.0; 9];
        let mut told = false;
        for (page, log) in now.into_iter().enumerate() {
            for (_, command) in log {
                match command {
                    Command::Drive { rates: theirs, nudges: by, .. } => {
                        told = true;
                        for axis in (0..9).filter(|axis| of(*axis) == page) {
                            rates[axis] = theirs[axis];
                            nudges[axis] += by[axis];
                        }
                    }
                    other => out.push((k, other.clone())),
                }
            }
        }
        if told {
            out.push((k, Command::Drive { rates: rates.to_vec(), nudges, fine: false }));
        }
    }
    out
}

#[test]
fn a_roll_by_three_pages_is_their_three_logs_replayed_sample_for_sample() {
    let logs = logs();
    let pages: Vec<(PageId, &Log)> = (1..).zip(&logs).collect();
    let (axes, acted, _) = rolled(&mut lent(&[]), &pages);
    assert_eq!((axes.len(), acted.is_empty()), (481 * 9, false));
    // Again, from the three logs.
    let again = rolled(&mut lent(&[]), &pages);
    assert_eq!((&again.0, &again.1), (&axes, &acted));
    // And by one page that does all of it.
    let mut alone = floor_with(vec![placed()], vec![somebody(6)]);
    alone.command(1, Command::Act { who: Some(MoverId::Performer(PerformerId(6))), alone: false });
    let one = merged(&logs);
    let (by_one, acted_by_one, _) = rolled(&mut alone, &[(1, &one)]);
    assert_eq!((by_one, acted_by_one), (axes.clone(), acted));
    // It is no still life, on any wheel.
    for axis in [0, 1, 3, 4, 6, 7] {
        let values: Vec<f64> = axes.iter().skip(axis).step_by(9).copied().collect();
        let span =
            values.iter().fold(f64::MIN, |m, v| m.max(*v)) - values.iter().fold(f64::MAX, |m, v| m.min(*v));
        assert!(span > 0.01, "axis {axis} moves by {span}");
    }
}

#[test]
fn a_page_that_is_lost_brakes_only_what_it_held() {
    let mut floor = lent(&[(2, "Ines")]);
    let full = || drive([1.0, 0.5, 0.5, 1.0, 0.5, 0.0, 0.5, -0.5, 0.0], None);
    floor.command(1, Command::roll(0.0));
    let mut notes = Vec::new();
    for k in 0..720u64 {
        if k.is_multiple_of(12) {
            floor.command(1, full());
            // The page at the head says nothing from a second on.
            if k < 240 {
                floor.command(2, full());
            }
            floor.command(3, full());
        }
        floor.step();
        notes.extend(floor.take_events());
    }
    let state = floor.state();
    let speed = |axis: usize| state.axes[axis].speed.abs();
    assert_eq!(speed(3), 0.0, "the head stands");
    assert!(speed(0) > 1.0 && speed(6) > 0.1, "arm and lens go on: {} {}", speed(0), speed(6));
    floor.command(1, Command::Cut);
    notes.extend(floor.take_events());
    let Some(RecorderEvent::End { flags }) = notes.last() else { panic!("it was cut") };
    assert_eq!(flags, &["nobody was at the head for a while"]);
}

#[test]
fn a_take_keeps_who_drove_what_and_from_when_on() {
    let mut floor = lent(&[(1, "Mira"), (2, "Ines")]);
    floor.command(1, Command::roll(0.0));
    let mut notes = floor.take_events();
    for k in 0..480u64 {
        if k.is_multiple_of(20) {
            (1..=3).for_each(|page| floor.command(page, drive([0.1; 9], None)));
        }
        if k == 240 {
            floor.command(1, Command::TakeBack { wheel: Wheel::Head });
        }
        floor.step();
        notes.extend(floor.take_events());
    }
    floor.command(1, Command::Cut);
    notes.extend(floor.take_events());
    let told: Vec<&Vec<HandOn>> = notes
        .iter()
        .filter_map(|n| if let RecorderEvent::Hands(hands) = n { Some(hands) } else { None })
        .collect();
    let hand = |wheel, by: &str, from_s| HandOn { wheel, by: by.into(), from_s };
    let first = vec![
        hand(Wheel::Machine, "Mira", 0.0),
        hand(Wheel::Head, "Ines", 0.0),
        hand(Wheel::Lens, "page 3", 0.0),
        hand(Wheel::Performer, "page 3", 0.0),
    ];
    let second = [first.clone(), vec![hand(Wheel::Head, "Mira", 1.0)]].concat();
    assert_eq!(told.len(), 2);
    assert_eq!(told[0], &first);
    assert_eq!(told[1].len(), 5);
    assert!((told[1][4].from_s - second[4].from_s).abs() < 0.01, "{:?}", told[1][4]);
    assert_eq!(told[1][4].by, "Mira");
    // One page with all of it and no name is nothing to tell.
    let mut alone = floor_with(vec![placed()], vec![]);
    let (_, _, notes) = rolled(&mut alone, &[]);
    assert!(!notes.iter().any(|n| matches!(n, RecorderEvent::Hands(_))));
}

#[test]
fn who_was_lent_a_wheel_does_what_hangs_on_it_and_nothing_else() {
    let mut floor = lent(&[]);
    let before = floor.status();
    floor.command(2, Command::roll(0.0));
    floor.command(2, Command::Feel { dial: 0.1, drag: 0.1 });
    floor.command(2, Command::Seek { time_s: 9.0 });
    floor.command(2, Command::FocusOn { performer: Some(PerformerId(6)) });
    assert_eq!(floor.status(), before);
    let inverted = Shaping { inverted: true, ..Shaping::default() };
    floor.command(2, Command::Shape { axes: vec![inverted; 9] });
    let shaping = floor.status().shaping;
    assert_eq!((shaping[0].inverted, shaping[3].inverted, shaping[6].inverted), (false, true, false));
    floor.command(3, Command::FocusOn { performer: Some(PerformerId(6)) });
    assert_eq!(floor.status().focus_on, Some(PerformerId(6)));
    // Sent to places, only its own go there.
    floor.command(2, Command::Go { targets: vec![Some(20.0); 9], request: 0 });
    for _ in 0..2400 {
        (1..=2).for_each(|page| floor.command(page, drive([0.0; 9], None)));
        floor.step();
    }
    let state = floor.state();
    assert_eq!(state.axes[0].value, 0.0);
    assert!((state.axes[3].value - 20.0).abs() < 1e-9, "{}", state.axes[3].value);
}

#[test]
fn pads_drive_what_hangs_on_their_wheel_axis_by_axis() {
    let mut floor = lent(&[]);
    let pads = |wheel| Command::Pads { wheel, across: 0.5, ahead: -0.5, up: 0.0 };
    for k in 0..240u64 {
        if k.is_multiple_of(12) {
            floor.command(1, drive([0.0; 9], None));
            floor.command(2, pads(Wheel::Head));
            // Not theirs.
            floor.command(2, pads(Wheel::Lens));
            floor.command(3, Command::Pads { wheel: Wheel::Performer, across: 0.0, ahead: 1.0, up: 0.0 });
        }
        floor.step();
    }
    let state = floor.state();
    let value =
        |axis: usize| state.axes[axis].value - floor.axes()[axis].unit.to_shown(floor.axes()[axis].start);
    assert!(value(3) > 1.0 && value(4) < -1.0 && value(5) == 0.0, "{} {}", value(3), value(4));
    assert!((0..3).chain(6..9).all(|axis| value(axis) == 0.0));
    let (_, bodies) = state.acting.unwrap();
    assert!(bodies[1].position.distance(rovnek_core::DVec3::new(2.0, bodies[1].position.y, -1.0)) > 0.3);
}
