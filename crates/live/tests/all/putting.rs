//! Machines that are put somewhere while the scene's time stands, and what is keyed of it.

use crate::common::{assert_within_limits, drive, floor_of, hold, keyed, of, placed, staged};
use rand::{Rng, SeedableRng};
use rand_pcg::Pcg64;
use rovnek_core::axis::Axis;
use rovnek_core::axis_motion::STEP_S;
use rovnek_core::follow::CameraTarget;
use rovnek_core::keys::{Position, standing};
use rovnek_core::lens::Camera;
use rovnek_core::motion::Motion;
use rovnek_core::rigs::{DollyTrack, FreeDolly, RigSpec, TelescopicCrane, TrackDolly, TrackPiece};
use rovnek_core::samples::Samples;
use rovnek_live::command::Command;
use rovnek_live::floor::{Floor, Placed};
use rovnek_live::machine::LeadKind;
use std::sync::Arc;

/// A floor whose time stands, with the machine at its start.
fn standing_floor(placed: Placed) -> Floor {
    let mut floor = floor_of(vec![placed]);
    floor.command(1, Command::Run { on: false });
    floor.command(1, Command::Seek { time_s: 0.0 });
    floor.step();
    floor
}

/// Brings one axis to a value, in shown units.
fn bring(floor: &mut Floor, axis: usize, value: f64) {
    let mut targets = vec![None; floor.axes().len()];
    targets[axis] = Some(value);
    floor.command(1, Command::Go { targets, request: 1 });
}

fn values(floor: &Floor) -> Vec<f64> {
    floor.state().axes.iter().map(|a| a.value).collect()
}

fn place(floor: &Floor, name: &str) -> usize {
    floor.axes().iter().position(|a| a.name == name).unwrap()
}

/// What the page was told about its last request.
fn short(floor: &Floor) -> Vec<String> {
    floor.status().brought[&1].short.clone()
}

#[test]
fn forty_typed_values_on_every_machine_are_there_at_once_and_nothing_else_is_touched() {
    let mut dice = Pcg64::seed_from_u64(27);
    for spec in RigSpec::all() {
        let kind = spec.kind();
        let mut floor = standing_floor(of(3, spec.clone()));
        let rig = spec.build(&Camera::default());
        let moves = |(_, a): &(usize, &Axis)| a.hand.is_some() && a.max > a.min;
        let free: Vec<usize> = rig.axes().iter().enumerate().filter(moves).map(|(i, _)| i).collect();
        for _ in 0..40 {
            let i = free[dice.random_range(0..free.len())];
            let axis = &rig.axes()[i];
            let (low, high) = (axis.min.max(axis.start - 3.0), axis.max.min(axis.start + 3.0));
            let typed = axis.unit.to_shown(dice.random_range(low..=high));
            floor.command(1, Command::Discard { axes: vec![] });
            let before = values(&floor);
            bring(&mut floor, i, typed);
            // Any number of steps: it stays.
            (0..dice.random_range(1..40)).for_each(|_| floor.step());
            let (state, after) = (floor.state(), values(&floor));
            assert!((after[i] - typed).abs() < 1e-9, "{kind}: {} {} for {typed}", axis.name, after[i]);
            assert!(short(&floor).is_empty(), "{kind}: {:?}", short(&floor));
            let touched = floor.status().touched;
            for k in 0..after.len() {
                assert_eq!(touched[k], rig.tied(i).contains(&k), "{kind}: {}", rig.axes()[k].name);
                let follows = rig.derived().contains(&k);
                assert!(k == i || follows || after[k] == before[k], "{kind}: {}", rig.axes()[k].name);
                assert!(follows || state.axes[k].speed == 0.0, "{kind}: {}", rig.axes()[k].name);
            }
        }
    }
}

#[test]
fn what_lies_past_an_end_stop_is_put_at_the_end_and_told() {
    let mut floor = standing_floor(placed());
    let boom = place(&floor, "boom");
    let top = floor.axes()[boom].max.to_degrees();
    bring(&mut floor, boom, top + 20.0);
    floor.step();
    assert!((values(&floor)[boom] - top).abs() < 1e-9);
    assert_eq!(
        short(&floor),
        [format!("boom stands at its end, {top:.1}°: {:.1}° lies beyond it", top + 20.0)]
    );
    let answer = &floor.status().brought[&1];
    assert!(answer.request == 1 && answer.step < floor.steps());
}

#[test]
fn while_time_runs_or_a_take_rolls_it_drives_within_its_limits() {
    for rolls in [false, true] {
        let mut floor = floor_of(vec![placed()]);
        floor.command(1, Command::Feel { dial: 1.0, drag: 1.0 });
        if rolls {
            floor.command(1, Command::roll(0.0));
        }
        hold(&mut floor, 0.5, 0, 0.0);
        bring(&mut floor, 0, 40.0);
        let mut before = floor.state();
        for k in 0..240 * 8 {
            if k % 20 == 0 {
                drive(&mut floor, 1, 0, 0.0);
            }
            floor.step();
            let now = floor.state();
            assert_within_limits(&floor, &before, &now);
            before = now;
        }
        assert!((values(&floor)[0] - 40.0).abs() < 1e-9);
        assert!(floor.status().touched[0] && !floor.status().touched[1]);
    }
}

/// A dolly whose travel and boom are keyed.
fn keyed_dolly(boom: &[(f64, f64)]) -> Placed {
    let travel: &[(f64, f64)] = &[(1.0, 0.5), (9.0, 6.5)];
    keyed(of(3, RigSpec::TrackDolly(TrackDolly::default())), &[("travel", travel), ("boom", boom)])
}

#[test]
fn an_axis_that_is_brought_somewhere_leaves_every_other_axis_on_its_keys() {
    let travel_over = |brings: bool| {
        let mut floor = floor_of(vec![keyed_dolly(&[(1.0, 20.0), (9.0, 20.0)])]);
        floor.command(1, Command::Seek { time_s: 0.0 });
        if brings {
            let boom = place(&floor, "boom");
            bring(&mut floor, boom, 30.0);
        }
        let travel = place(&floor, "travel");
        let rows: Vec<f64> = (0..240 * 9)
            .map(|k| {
                if k % 20 == 0 {
                    drive(&mut floor, 1, 2, 0.0);
                }
                floor.step();
                values(&floor)[travel]
            })
            .collect();
        (rows, floor.status().pending)
    };
    let ((alone, none), (brought, taken)) = (travel_over(false), travel_over(true));
    assert_eq!(alone, brought);
    assert!(!none.contains(&true) && taken.iter().filter(|t| **t).count() == 1);
}

#[test]
fn a_new_key_settles_the_axis_that_it_is_of_and_no_other() {
    let mut floor = standing_floor(keyed_dolly(&[(1.0, 20.0), (9.0, 20.0)]));
    let [boom, travel] = ["boom", "travel"].map(|name| place(&floor, name));
    bring(&mut floor, boom, 30.0);
    bring(&mut floor, travel, 2.0);
    floor.step();
    assert!(floor.status().pending[boom] && floor.status().pending[travel]);
    floor.stage(staged(vec![keyed_dolly(&[(0.0, 30.0), (1.0, 20.0), (9.0, 20.0)])]));
    floor.step();
    assert!(!floor.status().pending[boom] && floor.status().pending[travel]);
    let now = values(&floor);
    assert!((now[boom] - 30.0).abs() < 1e-9 && (now[travel] - 2.0).abs() < 1e-9);
    // Given back by itself, an axis goes to its keys and the others stay.
    floor.command(1, Command::Discard { axes: vec![travel] });
    (0..240 * 8).for_each(|_| floor.step());
    assert!((values(&floor)[travel] - 0.5).abs() < 1e-6);
}

/// A crane on track, and the camera of a move that stands where the crane can be.
fn crane_that_follows() -> (Placed, Arc<CameraTarget>) {
    let pieces = vec![TrackPiece::Straight { length_m: 2.44, rise_m: 0.0 }; 4];
    let track = DollyTrack { x_m: -0.4, z_m: 0.6, height_m: 0.12, heading_deg: 0.0, pieces: pieces.into() };
    let spec = TelescopicCrane { track: Some(track), ..TelescopicCrane::default() };
    let placed = of(3, RigSpec::TelescopicCrane(spec));
    let rig = placed.rig.build(&placed.camera);
    let mut row: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
    let at = |name: &str| rig.axes().iter().position(|a| a.name == name).unwrap();
    (row[at("travel")], row[at("reach")]) = (4.0, 5.0);
    let samples = Samples::new(120.0, row.len(), row.repeat(2400));
    let target = Arc::new(CameraTarget::of(&Motion::plain(samples).track(&*rig)).unwrap());
    (Placed { target: Some(target.clone()), ..placed }, target)
}

#[test]
fn a_base_that_is_put_while_the_rest_follows_keeps_the_camera_where_it_was() {
    let (placed, target) = crane_that_follows();
    let mut floor = standing_floor(placed);
    let travel = place(&floor, "travel");
    assert_eq!(floor.status().lead, LeadKind::Move);
    let wanted = target.at(0.0).0;
    bring(&mut floor, travel, 4.4);
    let camera = floor.state().rig_pose.camera;
    assert!(camera.position.distance(wanted.position) < 1e-9 && camera.angle_to(wanted) < 1e-9);
    assert!((values(&floor)[travel] - 4.4).abs() < 1e-9 && short(&floor).is_empty());
    // What follows is not put; the sentence says what can be.
    let pan = place(&floor, "pan");
    let before = values(&floor);
    bring(&mut floor, pan, 12.0);
    floor.step();
    assert_eq!(values(&floor), before);
    assert_eq!(short(&floor), ["pan follows the camera of another move; its base can be put"]);
}

#[test]
fn a_flown_camera_is_put_with_the_axes_and_stays_when_the_base_is_put() {
    let (placed, _) = crane_that_follows();
    let mut floor = standing_floor(Placed { target: None, ..placed });
    floor.command(1, Command::Fly { on: true });
    let pan = place(&floor, "pan");
    bring(&mut floor, pan, 12.0);
    (0..48).for_each(|_| floor.step());
    assert!((values(&floor)[pan] - 12.0).abs() < 1e-9 && floor.status().lead == LeadKind::Flown);
    let before = floor.state().rig_pose.camera;
    let travel = place(&floor, "travel");
    let there = values(&floor)[travel];
    bring(&mut floor, travel, there + 0.3);
    (0..48).for_each(|_| floor.step());
    let camera = floor.state().rig_pose.camera;
    assert!(camera.position.distance(before.position) < 1e-9, "{}", camera.position - before.position);
    assert!((values(&floor)[travel] - there - 0.3).abs() < 1e-9);
}

/// Rolling farther along an arc is the arc: steered by δ over a wheelbase b the dolly turns by s · tan δ / b.
#[test]
fn a_free_dolly_that_is_put_farther_stands_farther_on_its_arc() {
    let spec = FreeDolly::default();
    let mut floor = standing_floor(of(3, RigSpec::FreeDolly(spec.clone())));
    let [rolled, steer, turn, x] = ["rolled", "steer", "turn", "x"].map(|name| place(&floor, name));
    let start = values(&floor);
    bring(&mut floor, steer, 20.0);
    bring(&mut floor, rolled, 3.0);
    floor.step();
    let turned = values(&floor)[turn] - start[turn];
    let wanted = (3.0 * 20f64.to_radians().tan() / spec.wheelbase_m).to_degrees();
    assert!((turned - wanted).abs() < 1e-9, "{turned} for {wanted}");
    // Rolled back on the same arc it is where it was.
    bring(&mut floor, rolled, 0.0);
    floor.step();
    let back = values(&floor);
    assert!((back[turn] - start[turn]).abs() < 1e-9 && (back[x] - start[x]).abs() < 1e-9);
}

#[test]
fn positions_are_put_or_driven_to_and_a_rehearsal_begins_at_its_first() {
    let rig = placed().rig.build(&Camera::default());
    let at = |number: u32, swing: f64| {
        let mut row: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        row[0] = swing.to_radians();
        Position { number, axes: standing(rig.axes(), &row) }
    };
    let stored = Placed { positions: vec![at(1, -20.0), at(2, 40.0)], ..placed() };
    let mut floor = standing_floor(stored);
    let go = |number, drive| Command::GoTo { number, drive, seconds: None, request: 5 };
    floor.command(1, go(2, false));
    assert!((values(&floor)[0] - 40.0).abs() < 1e-9 && !floor.status().sent);
    assert_eq!(floor.status().brought[&1].request, 5);
    floor.command(1, go(1, true));
    assert!((values(&floor)[0] - 40.0).abs() < 1e-9 && floor.status().sent);
    hold(&mut floor, 12.0, 1, 0.0);
    assert!((values(&floor)[0] + 20.0).abs() < 1e-9);
    floor.command(1, Command::Rehearse { positions: vec![2, 1], seconds: 9.0 });
    assert!((values(&floor)[0] - 40.0).abs() < 1e-9, "it begins at its first");
    let mut steps = 0;
    while floor.status().sent {
        if steps % 20 == 0 {
            drive(&mut floor, 1, 0, 0.0);
        }
        floor.step();
        steps += 1;
    }
    assert!((f64::from(steps) * STEP_S - 9.0).abs() < 0.01, "{} s", f64::from(steps) * STEP_S);
}

#[test]
fn axes_on_wheels_in_other_hands_are_not_put_and_the_page_is_told() {
    let mut floor = standing_floor(placed());
    floor.join(2);
    floor.command(2, Command::Ask { wheel: Some(rovnek_core::wheels::Wheel::Head) });
    floor.command(1, Command::Give);
    let pan = place(&floor, "pan");
    let before = values(&floor);
    bring(&mut floor, pan, 30.0);
    floor.step();
    assert_eq!(values(&floor), before);
    assert_eq!(short(&floor), ["Nothing moves: these axes are on wheels in other hands"]);
    let mut targets = vec![None; floor.axes().len()];
    targets[pan] = Some(30.0);
    floor.command(2, Command::Go { targets, request: 2 });
    floor.step();
    assert!((values(&floor)[pan] - 30.0).abs() < 1e-9);
}

#[test]
fn after_a_cut_time_stands_or_runs_as_it_did_before_the_roll() {
    for runs in [false, true] {
        let mut floor = standing_floor(placed());
        floor.command(1, Command::Run { on: runs });
        floor.command(1, Command::roll(0.0));
        hold(&mut floor, 1.0, 0, 1.0);
        floor.command(1, Command::Cut);
        assert_eq!(floor.status().running, runs);
        hold(&mut floor, 2.0, 0, 0.0);
        bring(&mut floor, 0, -30.0);
        assert_eq!((values(&floor)[0] + 30.0).abs() < 1e-9, !runs, "what is typed after a cut");
    }
}
