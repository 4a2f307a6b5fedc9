//! What moves a machine besides hands on its axes: positions, keys, an earlier move, a flown
//! camera, a carrier, a subject.

use crate::common::{assert_within_limits, drive, floor_of, hold, keyed, of, placed, staged};
use rovnek_core::DVec3;
use rovnek_core::axis::Axis;
use rovnek_core::axis_motion::STEP_S;
use rovnek_core::carrier::Carrier;
use rovnek_core::follow::{CameraTarget, SHORT_M};
use rovnek_core::ids::{PieceId, SetupId};
use rovnek_core::input_shaping::Shaping;
use rovnek_core::keys::{Keyed, Position, standing};
use rovnek_core::lens::Camera;
use rovnek_core::motion::Motion;
use rovnek_core::moves::{Around, followed};
use rovnek_core::playing::CarrierTrack;
use rovnek_core::rigs::{
    BentRail, DollyTrack, FreeCamera, FreeDolly, HeadHang, Rig, RigSpec, Rigging, Shoulder, TelescopicCrane,
    TrackDolly, TrackPiece, Tripod,
};
use rovnek_core::samples::Samples;
use rovnek_core::space::{PanTiltRoll, Pose, heading};
use rovnek_core::time::Rate;
use rovnek_core::warnings::stretches;
use rovnek_live::command::Command;
use rovnek_live::floor::{Floor, Placed};
use rovnek_live::machine::LeadKind;
use rovnek_live::state::{AxisState, axis};
use std::sync::Arc;

fn run(floor: &mut Floor, seconds: f64) {
    hold(floor, seconds, 0, 0.0);
}

fn value(floor: &Floor, name: &str) -> f64 {
    let i = floor.axes().iter().position(|a| a.name == name).unwrap();
    floor.state().axes[i].value
}

/// A crane with two stored positions.
fn stored() -> Placed {
    let rig = placed().rig.build(&Camera::default());
    let at = |number: u32, swing: f64, boom: f64| {
        let row = [swing, boom, 4.2, 0.0, 0.0, 0.0, 35.0, 4.0];
        let core: Vec<f64> = row.iter().zip(rig.axes()).map(|(v, a)| a.unit.from_shown(*v)).collect();
        Position { number, axes: standing(rig.axes(), &core) }
    };
    Placed { positions: vec![at(1, -20.0, 0.0), at(2, 40.0, 20.0), at(3, 60.0, -10.0)], ..placed() }
}

#[test]
fn a_machine_goes_to_a_stored_position_within_its_limits_all_axes_together() {
    let mut floor = floor_of(vec![stored()]);
    floor.command(1, Command::Feel { dial: 1.0, drag: 1.0 });
    hold(&mut floor, 1.0, 0, 1.0);
    // Still swinging: it brakes first, then goes.
    floor.command(1, Command::GoTo { number: 2, drive: false, seconds: None, request: 0 });
    let (mut before, mut arrived) = (floor.state(), Vec::new());
    for k in 0..240 * 30 {
        if k % 20 == 0 {
            drive(&mut floor, 1, 0, 0.0);
        }
        floor.step();
        let now = floor.state();
        assert_within_limits(&floor, &before, &now);
        if !floor.status().sent {
            arrived.push(k);
        }
        before = now;
    }
    assert!((value(&floor, "swing") - 40.0).abs() < 1e-9 && (value(&floor, "boom") - 20.0).abs() < 1e-9);
    assert!(arrived[0] > 240 && before.axes.iter().all(|a| a.speed == 0.0));
}

#[test]
fn a_rehearsal_goes_to_the_first_and_takes_the_time_it_was_given() {
    let mut floor = floor_of(vec![stored()]);
    floor.command(1, Command::Rehearse { positions: vec![1, 2, 3], seconds: 9.0 });
    let (mut first, mut through, mut k) = (None, None, 0);
    while floor.status().sent {
        if k % 20 == 0 {
            drive(&mut floor, 1, 0, 0.0);
        }
        floor.step();
        k += 1;
        let at = |deg: f64| (value(&floor, "swing") - deg).abs() < 1e-3;
        if first.is_none() && at(-20.0) {
            first = Some(k);
        }
        if first.is_some() && at(40.0) {
            through = Some(k);
        }
        assert!(k < 240 * 60);
    }
    let took = (k - first.unwrap()) as f64 * STEP_S;
    assert!((took - 9.0).abs() < 0.3, "{took}");
    assert!(through.is_some() && (value(&floor, "swing") - 60.0).abs() < 1e-9);
}

#[test]
fn a_course_that_cannot_be_as_quick_as_asked_says_why() {
    let slowed = |seconds: f64| {
        let mut floor = floor_of(vec![stored()]);
        floor.command(1, Command::GoTo { number: 2, drive: false, seconds: Some(seconds), request: 0 });
        run(&mut floor, 0.1);
        floor.status().slowed
    };
    // 40° of swing at 30°/s and 24°/s²: the acceleration binds, √(5.7735 · 40 / 24) s.
    assert_eq!(slowed(1.0).as_deref(), Some("swing needs 3.1 s"));
    assert_eq!(slowed(9.0), None);
}

#[test]
fn hands_take_an_axis_out_of_its_course_and_staying_stops_it() {
    let mut floor = floor_of(vec![stored()]);
    floor.command(1, Command::GoTo { number: 2, drive: false, seconds: Some(6.0), request: 0 });
    run(&mut floor, 1.0);
    hold(&mut floor, 6.0, 1, -0.5);
    assert!((value(&floor, "swing") - 40.0).abs() < 1e-6 && value(&floor, "boom") < 0.0);
    floor.command(1, Command::GoTo { number: 1, drive: false, seconds: Some(8.0), request: 0 });
    run(&mut floor, 4.0);
    floor.command(1, Command::Stay);
    run(&mut floor, 4.0);
    let stays = value(&floor, "swing");
    assert!((-19.0..39.0).contains(&stays) && !floor.status().sent);
    run(&mut floor, 1.0);
    assert_eq!(value(&floor, "swing"), stays);
}

#[test]
fn level_brings_the_horizon_back_even_under_a_leaning_arm() {
    let spec = TelescopicCrane { head: HeadHang::Lean, ..TelescopicCrane::default() };
    let mut floor = floor_of(vec![of(3, RigSpec::TelescopicCrane(spec))]);
    hold(&mut floor, 1.5, 3, 1.0);
    hold(&mut floor, 1.0, 5, 1.0);
    run(&mut floor, 1.0);
    let roll = |f: &Floor| PanTiltRoll::from_rotation(f.state().rig_pose.camera.rotation).roll;
    assert!(roll(&floor).abs() > 0.2);
    floor.command(1, Command::Level);
    run(&mut floor, 8.0);
    assert!(roll(&floor).abs() < 1e-9, "{}", roll(&floor));
}

#[test]
fn fine_gear_dead_zone_and_inversion_shape_what_hands_say() {
    let speed = |fine: bool, shaping: Shaping, rate: f64| {
        let mut floor = floor_of(vec![placed()]);
        floor.command(1, Command::Feel { dial: 1.0, drag: 0.0 });
        floor.command(1, Command::Shape { axes: vec![shaping; 8] });
        for i in 0..720 {
            if i % 20 == 0 {
                let rates = vec![rate; 8];
                floor.command(1, Command::Drive { rates, nudges: vec![], fine });
            }
            floor.step();
        }
        floor.state().axes[0].speed
    };
    let plain = Shaping { dead_zone: 0.08, curve: 1.6, ..Shaping::default() };
    assert!((speed(false, plain, 1.0) - 30.0).abs() < 1e-3);
    assert!((speed(true, plain, 1.0) - 6.0).abs() < 1e-3);
    assert_eq!(speed(false, plain, 0.05), 0.0);
    assert!((speed(false, Shaping { inverted: true, speed: 0.5, ..plain }, 1.0) + 15.0).abs() < 1e-3);
    let bad = Shaping { dead_zone: f64::NAN, curve: -7.0, speed: 1e9, ..plain };
    assert!((speed(false, bad, 1.0) - 30.0).abs() < 1e-3);
}

/// A dolly whose carriage is keyed from the start of its track to the end, its arm to stay.
fn keyed_dolly() -> Placed {
    let keys: [(&str, &[(f64, f64)]); 3] = [
        ("travel", &[(1.0, 0.5), (9.0, 6.5)]),
        ("boom", &[(1.0, 20.0), (9.0, 20.0)]),
        ("tilt", &[(1.0, 0.5), (9.0, 6.5)]),
    ];
    keyed(of(3, RigSpec::TrackDolly(TrackDolly::default())), &keys)
}

/// The names of the axes that hands took from their keys.
fn pending(floor: &Floor) -> Vec<&'static str> {
    let taken = floor.status().pending;
    floor.axes().iter().zip(taken).filter(|(_, taken)| *taken).map(|(a, _)| a.name).collect()
}

#[test]
fn a_keyed_machine_follows_its_keys_and_is_there_when_the_time_is_set() {
    let mut floor = floor_of(vec![keyed_dolly()]);
    assert_eq!(value(&floor, "travel"), 0.5);
    run(&mut floor, 5.0);
    assert!((value(&floor, "travel") - 3.5).abs() < 1e-6, "{}", value(&floor, "travel"));
    assert!(floor.state().axes[0].flags & axis::LED != 0);
    floor.command(1, Command::Run { on: false });
    floor.command(1, Command::Seek { time_s: 12.0 });
    assert_eq!(value(&floor, "travel"), 6.5);
    // Round again it begins where it began.
    floor.command(1, Command::Run { on: true });
    run(&mut floor, 8.1);
    assert!(value(&floor, "travel") < 0.51);
}

#[test]
fn what_hands_make_of_a_keyed_axis_survives_the_time_until_it_is_kept_or_discarded() {
    let mut floor = floor_of(vec![keyed_dolly()]);
    floor.command(1, Command::Run { on: false });
    floor.command(1, Command::Seek { time_s: 5.0 });
    hold(&mut floor, 1.0, 1, 1.0);
    run(&mut floor, 6.0);
    let boom = value(&floor, "boom");
    assert!(pending(&floor) == ["boom"] && boom > 25.0);
    // The time is set: the arm stays as it was left, the carriage is where its keys have it.
    for (time_s, travel) in [(0.0, 0.5), (9.0, 6.5), (5.0, 3.5)] {
        floor.command(1, Command::Seek { time_s });
        run(&mut floor, 0.5);
        assert_eq!((value(&floor, "boom"), value(&floor, "travel")), (boom, travel));
    }
    floor.command(1, Command::Discard { axes: vec![] });
    run(&mut floor, 6.0);
    assert!(pending(&floor).is_empty());
    assert!((value(&floor, "boom") - 20.0).abs() < 1e-6);
    // Kept: the setup comes back with another key, and nothing is pending any more.
    hold(&mut floor, 1.0, 1, 1.0);
    let kept = keyed(keyed_dolly(), &[("boom", &[(1.0, 20.0), (3.0, 33.0), (9.0, 20.0)])]);
    floor.stage(staged(vec![kept]));
    assert!(pending(&floor).is_empty());
}

/// The rail runs by its keys while the head is operated.
#[test]
fn a_tap_on_one_axis_of_a_rolling_keyed_move_leaves_the_others_on_their_keys() {
    let run_with = |tap: bool| {
        let mut floor = floor_of(vec![keyed_dolly()]);
        floor.command(1, Command::roll(0.0));
        let mut rows = Vec::new();
        for k in 0..240 * 8 {
            if tap && (480..600).contains(&k) {
                drive(&mut floor, 1, 2, 0.5);
            } else if k % 20 == 0 {
                drive(&mut floor, 1, 2, 0.0);
            }
            floor.step();
            rows.push(["travel", "boom", "tilt", "pan"].map(|name| value(&floor, name)));
        }
        (rows, pending(&floor))
    };
    let ((alone, none), (tapped, taken)) = (run_with(false), run_with(true));
    // The third axis of the dolly is its pan, which has no key: nothing is pending for it.
    assert!(none.is_empty() && taken.is_empty(), "{taken:?}");
    for (a, b) in alone.iter().zip(&tapped) {
        assert_eq!(a[..3], b[..3]);
    }
    assert!((tapped.last().unwrap()[3] - alone.last().unwrap()[3]).abs() > 1.0);
}

#[test]
fn axes_that_one_hand_moves_together_leave_their_keys_together() {
    let keys: &[(f64, f64)] = &[(0.0, 0.0), (8.0, 0.8)];
    let flown = of(3, RigSpec::FreeCamera(FreeCamera::default()));
    let mut floor = floor_of(vec![keyed(flown, &["x", "y", "z", "pan"].map(|name| (name, keys)))]);
    run(&mut floor, 1.0);
    hold(&mut floor, 0.5, 0, 1.0);
    assert_eq!(pending(&floor), ["x", "y", "z"]);
    run(&mut floor, 1.0);
    // Between two keys that are both at rest: three times the square less two times the cube.
    let u = floor.state().scene_time_s / 8.0;
    assert!((value(&floor, "pan") - 0.8 * u * u * (3.0 - 2.0 * u)).abs() < 1e-6);
}

/// What follows from keys is in the same place whether it is evaluated, driven, or its time is set.
#[test]
fn keyed_wheels_and_steps_are_where_they_are_evaluated_driven_and_sought() {
    let way: &[(f64, f64)] = &[(0.0, 0.0), (6.0, 4.0)];
    let machines = [
        keyed(
            of(3, RigSpec::FreeDolly(FreeDolly::default())),
            &[("rolled", way), ("steer", &[(0.0, 0.0), (3.0, 25.0), (6.0, -10.0)])],
        ),
        keyed(
            of(3, RigSpec::Shoulder(Shoulder::default())),
            &[("x", way), ("z", &[(0.0, 0.0), (6.0, -3.0)])],
        ),
    ];
    for placed in machines {
        let rig = placed.rig.build(&placed.camera);
        let people = Default::default();
        let around = Around { carrier: None, people: &people };
        let evaluated = rovnek_core::moves::keyed(&*rig, &placed.keyed, 8.0, &around).samples;
        let off = |floor: &Floor| {
            let mut row = Vec::new();
            evaluated.at(floor.state().scene_time_s, &mut row);
            let told = floor.state().axes;
            let far = |((v, a), row): ((&AxisState, &Axis), &f64)| (v.value - a.unit.to_shown(*row)).abs();
            told.iter().zip(rig.axes()).zip(&row).map(far).fold(0.0, f64::max)
        };
        let mut floor = floor_of(vec![placed.clone()]);
        floor.command(1, Command::Seek { time_s: 0.0 });
        for k in 0..240 * 7 {
            if k % 20 == 0 {
                drive(&mut floor, 1, 0, 0.0);
            }
            floor.step();
            if k % 2 == 1 {
                assert!(off(&floor) < 1e-9, "driven: {} off at step {k}", off(&floor));
            }
        }
        floor.command(1, Command::Run { on: false });
        for time_s in [6.5, 0.5, 3.0, 7.75] {
            floor.command(1, Command::Seek { time_s });
            assert!(off(&floor) < 1e-9, "sought: {} off at {time_s} s", off(&floor));
        }
    }
}

/// Common practice, no source: a crash zoom takes half a second.
#[test]
fn a_crash_zoom_goes_from_28_to_80_mm_within_16_frames_at_30_a_second() {
    let sets = rovnek_core::lens::lens_sets();
    let crash = sets.iter().find(|s| s.name == "crash zoom").unwrap();
    let camera = Camera { focal_mm: 28.0, ..Camera::default().with_lens(&crash.name, &crash.lenses[0]) };
    let tripod = of(3, RigSpec::Tripod(Tripod::default()));
    let zoom: &[(f64, f64)] = &[(1.0, 28.0), (1.0 + 16.0 / 30.0, 80.0)];
    let mut floor = floor_of(vec![keyed(Placed { camera, ..tripod }, &[("zoom", zoom)])]);
    floor.command(1, Command::Seek { time_s: 0.9 });
    while floor.state().scene_time_s < 1.0 + 16.0 / 30.0 {
        run(&mut floor, STEP_S);
    }
    assert!((value(&floor, "zoom") - 80.0).abs() < 0.05, "{} mm", value(&floor, "zoom"));
    // The usual zoom is not as quick.
    let mut usual = floor_of(vec![keyed(of(3, RigSpec::Tripod(Tripod::default())), &[("zoom", zoom)])]);
    usual.command(1, Command::Seek { time_s: 0.9 });
    run(&mut usual, 0.1 + 16.0 / 30.0);
    assert!(value(&usual, "zoom") < 70.0);
}

/// A move of a crane whose swing, boom and reach go far: recorded, not driven.
fn earlier_move() -> CameraTarget {
    let rig = placed().rig.build(&Camera::default());
    let row = |k: usize| {
        let t = k as f64 / 120.0;
        vec![
            0.1 * (t - t.sin()),
            0.2 + 0.1 * (1.0 - (0.5 * t).cos()),
            5.0 + 1.3 * (1.0 - (0.35 * t).cos()),
            0.1 * (t - t.sin()),
            -0.2,
            0.0,
            35.0,
            5.0,
        ]
    };
    let values = (0..1200).flat_map(row).collect();
    let samples = Samples::new(120.0, 8, values);
    CameraTarget::of(&Motion::plain(samples).track(&*rig)).unwrap()
}

/// A crane on track beside where the earlier one stood.
fn on_track() -> Placed {
    let pieces = vec![TrackPiece::Straight { length_m: 2.44, rise_m: 0.0 }; 4];
    let track = DollyTrack { x_m: -0.4, z_m: 0.6, height_m: 0.12, heading_deg: 0.0, pieces: pieces.into() };
    of(3, RigSpec::TelescopicCrane(TelescopicCrane { track: Some(track), ..TelescopicCrane::default() }))
}

/// The unreachable frames and shortfalls equal those of a brute-force search over swing, boom and
/// reach.
#[test]
fn a_crane_that_follows_is_short_where_brute_force_says_so() {
    let target = earlier_move();
    let rig = on_track().rig.build(&Camera::default());
    let mut near: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
    near[3] = 0.0;
    let people = Default::default();
    let around = Around { carrier: None, people: &people };
    let short = followed(&*rig, &target, &Keyed::default(), &around).short_m;
    let mut out = 0;
    for k in (0..short.len()).step_by(40) {
        let wanted = target.at(k as f64 / 120.0).0.position;
        let least = brute_force(&*rig, wanted, &near);
        assert!((short[k] - least).abs() < 1e-4, "frame {k}: {} m, brute force {least} m", short[k]);
        assert_eq!(short[k] > SHORT_M, least > 1e-5, "frame {k}");
        out += usize::from(short[k] > SHORT_M);
    }
    assert!(out > 5 && out < short.len() / 40 - 5, "{out}");
    let gaps = stretches(120.0, Rate::FILM, &short, SHORT_M);
    let worst = short.iter().copied().fold(0.0, f64::max);
    assert!(gaps.iter().any(|g| g.most == worst) && gaps.iter().all(|g| g.from_s <= g.to_s));
}

fn brute_force(rig: &dyn Rig, wanted: DVec3, near: &[f64]) -> f64 {
    let axes = rig.axes();
    let whole = [(-3.2, 3.2), (axes[1].min, axes[1].max), (axes[2].min, axes[2].max)];
    let mut best = (f64::INFINITY, [0.0; 3]);
    let mut ranges = whole;
    for round in 0..28 {
        let n = if round == 0 { 64 } else { 10 };
        let at = |(low, high): (f64, f64), i: usize| low + (high - low) * i as f64 / n as f64;
        for i in 0..=n {
            for j in 0..=n {
                for k in 0..=n {
                    let p = [at(ranges[0], i), at(ranges[1], j), at(ranges[2], k)];
                    let row = [&p[..], &near[3..]].concat();
                    let d = rig.forward(&row).camera.position.distance(wanted);
                    if d < best.0 {
                        best = (d, p);
                    }
                }
            }
        }
        for a in 0..3 {
            let half = (ranges[a].1 - ranges[a].0) / if round == 0 { 20.0 } else { 4.0 };
            ranges[a] = ((best.1[a] - half).max(whole[a].0), (best.1[a] + half).min(whole[a].1));
        }
    }
    best.0
}

#[test]
fn a_crane_on_track_follows_an_earlier_move_while_hands_move_its_base() {
    let target = Arc::new(earlier_move());
    let mut floor = floor_of(vec![Placed { target: Some(target.clone()), ..on_track() }]);
    floor.command(1, Command::Seek { time_s: 0.0 });
    assert_eq!(floor.status().lead, LeadKind::Move);
    for k in 0..240 * 9 {
        if k % 20 == 0 {
            drive(&mut floor, 1, 3, if k > 240 * 5 { 0.7 } else { 0.0 });
        }
        floor.step();
        let state = floor.state();
        let wanted = target.at(state.scene_time_s).0;
        let off = state.rig_pose.camera.position.distance(wanted.position);
        assert!((off - state.short_m).abs() < 1e-9);
        // The arm makes up for the base's speed while the base gathers it, goes and brakes.
        assert!(off < 1e-6, "{off} m off at {} s", state.scene_time_s);
    }
    assert!(value(&floor, "travel") > 1.0);
}

/// The arm follows, the base has keys of its own: leave it to the arm as long as it can.
#[test]
fn a_crane_follows_a_move_while_its_keyed_base_stands_then_goes_then_stands() {
    let target = Arc::new(earlier_move());
    let travel: &[(f64, f64)] = &[(0.0, 4.0), (3.0, 4.0), (8.0, 6.0), (9.0, 6.0)];
    let placed = keyed(Placed { target: Some(target.clone()), ..on_track() }, &[("travel", travel)]);
    let mut floor = floor_of(vec![placed.clone()]);
    floor.command(1, Command::Seek { time_s: 0.0 });
    let rig = on_track().rig.build(&Camera::default());
    let people = Default::default();
    let evaluated = followed(&*rig, &target, &placed.keyed, &Around { carrier: None, people: &people });
    let (mut as_near, mut as_evaluated) = (0, 0);
    for k in 0..240 * 9 {
        if k % 20 == 0 {
            drive(&mut floor, 1, 0, 0.0);
        }
        floor.step();
        let state = floor.state();
        let (t, travel) = (state.scene_time_s, value(&floor, "travel"));
        if t <= 3.0 {
            assert_eq!(travel, 4.0, "at rest between equal keys");
        } else if t >= 8.05 {
            assert!((travel - 6.0).abs() < 1e-6, "{travel} m at {t} s");
        }
        let foreseen = evaluated.short_m[((t * 120.0).round() as usize).min(evaluated.short_m.len() - 1)];
        if k % 2 == 1 {
            assert!(state.short_m > foreseen - 1e-6, "{t} s: {} m, foreseen {foreseen} m", state.short_m);
            as_evaluated += usize::from((state.short_m - foreseen).abs() < 1e-6);
        }
        if k % 240 == 120 {
            let wanted = target.at(t).0.position;
            let near: Vec<f64> =
                state.axes.iter().zip(rig.axes()).map(|(v, a)| a.unit.from_shown(v.value)).collect();
            let least = brute_force(&*rig, wanted, &near);
            // Never nearer than can be; as near, but where the wanted camera leaves the shortest reach
            // quicker than the arm can.
            assert!(state.short_m > least - 1e-4, "{t} s: {} m, brute force {least} m", state.short_m);
            as_near += usize::from((state.short_m - least).abs() < 1e-4);
        }
    }
    assert!(as_near >= 5, "{as_near} of 9");
    // What was foreseen is what the floor does, but where the arm cannot go as quickly.
    assert!(as_evaluated > 500, "{as_evaluated} of 1080");
    // A hand on the base takes it from its keys; the arm goes on following.
    let travel = rig.axes().iter().position(|a| a.name == "travel").unwrap();
    hold(&mut floor, 0.5, travel, -1.0);
    assert_eq!((pending(&floor), floor.status().lead), (vec!["travel"], LeadKind::Move));
}

#[test]
fn a_flown_camera_goes_where_hands_say_and_the_arm_is_solved() {
    let mut floor = floor_of(vec![placed()]);
    floor.command(1, Command::Fly { on: true });
    let start = floor.state().rig_pose.camera;
    hold(&mut floor, 1.5, 0, 1.0);
    run(&mut floor, 2.0);
    let state = floor.state();
    let moved = state.rig_pose.camera.position - start.position;
    assert!(moved.x > 0.3 && moved.y.abs() < 1e-6 && moved.z.abs() < 1e-6, "{moved}");
    assert!(state.rig_pose.camera.angle_to(start) < 1e-9, "it keeps looking the way it did");
    assert!(value(&floor, "reach") > 4.2 && state.short_m < 1e-9);
    // Out of the arm's reach it stays where the machine puts it, and says how far it is short.
    hold(&mut floor, 12.0, 0, 1.0);
    let state = floor.state();
    assert!(state.short_m > 1.0 && state.rig_pose.camera.position.x < 7.7, "{}", state.short_m);
    // The axis that is led farther than its end says so, and no other.
    let past = |(a, s): (&Axis, &AxisState)| (s.flags & axis::PAST != 0).then_some(a.name);
    let past: Vec<&str> = floor.axes().iter().zip(&state.axes).filter_map(past).collect();
    assert_eq!(past, ["reach"]);
    floor.command(1, Command::Fly { on: false });
    assert_eq!((floor.status().lead, floor.state().short_m), (LeadKind::Axes, 0.0));
}

#[test]
fn what_carries_a_machine_takes_it_along_and_is_recorded() {
    let spec = RigSpec::Rail(BentRail::default());
    let rig = Rigging { spec, carried: Some(Carrier::Piece { id: PieceId(7) }) };
    let carrier = CarrierTrack::of(20.0, |t| Pose::new(DVec3::new(2.0 * t, 0.5, 0.0), heading(0.0)));
    let carried = Placed { rig, carrier: Some(Arc::new(carrier)), ..placed() };
    let mut floor = floor_of(vec![carried]);
    let start = floor.state().rig_pose.camera.position;
    floor.command(1, Command::roll(0.0));
    run(&mut floor, 3.0);
    let moved = floor.state().rig_pose.camera.position - start;
    assert!((moved - DVec3::new(6.0, 0.0, 0.0)).length() < 1e-6, "{moved}");
    floor.command(1, Command::Cut);
    let notes = floor.take_events();
    let wide = notes.iter().find_map(|n| match n {
        rovnek_live::floor::RecorderEvent::Chunk { width, values, .. } => Some((*width, values[*width * 29])),
        _ => None,
    });
    let (width, x) = wide.unwrap();
    assert_eq!(width, floor.axes().len());
    assert!((x - 2.0 * 29.0 / 120.0).abs() < 1e-6, "{x}");
}

#[test]
fn all_machines_are_live_at_once_and_only_the_driven_one_takes_hands() {
    let setups: Vec<Placed> = (1..).zip(RigSpec::all()).map(|(id, spec)| of(id, spec)).collect();
    let mut floor = floor_of(setups);
    for id in 1..=12 {
        floor.put(SetupId(id));
        let before = floor.state();
        assert_eq!((before.setup_id, before.others.len()), (SetupId(id), 11));
        let axes: Vec<usize> = (0..floor.axes().len()).filter(|i| floor.axes()[*i].hand.is_some()).collect();
        for i in axes {
            let a = floor.axes()[i].clone();
            if a.min == a.max {
                continue;
            }
            hold(&mut floor, 0.5, i, 1.0);
            hold(&mut floor, 0.5, i, -1.0);
        }
        let after = floor.state();
        for (a, b) in before.others.iter().zip(&after.others) {
            // Who stands on the floor breathes.
            assert!(a.camera.position.distance(b.camera.position) < 0.01, "{a:?} {b:?}");
        }
    }
}

#[test]
fn a_dolly_on_wheels_is_driven_there_and_its_arm_is_sent() {
    let mut dolly = of(3, RigSpec::FreeDolly(FreeDolly::default()));
    let axes = [("rolled".to_string(), 9.0), ("boom".to_string(), 40.0)].into();
    dolly.positions = vec![Position { number: 1, axes }];
    let mut floor = floor_of(vec![dolly]);
    floor.command(1, Command::GoTo { number: 1, drive: false, seconds: None, request: 0 });
    run(&mut floor, 8.0);
    assert_eq!(value(&floor, "z"), 0.0);
    assert!((value(&floor, "boom") - 40.0).abs() < 1e-9);
    let mut floor = floor_of(vec![of(3, RigSpec::Shoulder(Shoulder::default()))]);
    hold(&mut floor, 2.0, 1, 1.0);
    assert!(value(&floor, "z") < -1.0 && value(&floor, "walked") > 1.0 && value(&floor, "pace") > 0.5);
}
