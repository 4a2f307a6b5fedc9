//! The floor, stepped by hand: driving, the wheels, rolling.

use crate::common::{barrel_and_crate, drive, floor_of, hold, of, placed, somebody, staged};
use proptest::prelude::*;
use rovnek_core::axis_motion::STEP_S;
use rovnek_core::ids::{PerformerId, SetupId};
use rovnek_core::lens::Camera;
use rovnek_core::playing::MoverId;
use rovnek_core::rigs::{FreeCamera, RigSpec, TelescopicCrane, Tripod};
use rovnek_core::space::PanTiltRoll;
use rovnek_live::command::Command;
use rovnek_live::command::RollState;
use rovnek_live::floor::{Floor, Placed, RecorderEvent, Staged};
use rovnek_live::state::{axis, flags};
use rovnek_live::wire::encode;

fn floor() -> Floor {
    floor_of(vec![placed()])
}

#[test]
fn every_axis_of_every_machine_is_driven_to_both_ends_and_rests_there() {
    let mut ends = 0;
    for spec in RigSpec::all() {
        let axes = floor_of(vec![of(1, spec.clone())]).axes().to_vec();
        for (i, a) in axes.iter().enumerate().filter(|(_, a)| a.hand.is_some()) {
            for (rate, end) in [(1.0, a.max), (-1.0, a.min)].into_iter().filter(|(_, e)| e.is_finite()) {
                let mut floor = floor_of(vec![of(1, spec.clone())]);
                floor.command(1, Command::Feel { dial: 1.0, drag: 1.0 });
                let far = (end - a.start).abs() / a.top_speed;
                hold(&mut floor, far + 2.0 * a.top_speed / a.top_acceleration + 1.0, i, rate);
                let now = floor.state().axes[i];
                let what = format!("{} of {spec:?}: {} of {}", a.name, now.value, a.unit.to_shown(end));
                assert!((now.value - a.unit.to_shown(end)).abs() < 1e-9, "{what}");
                assert!(now.speed.abs() < 1e-6 && now.flags & axis::AT_END != 0, "{what}");
                ends += 1;
            }
        }
    }
    assert!(ends > 100, "{ends}");
}

#[test]
fn silence_brings_the_machine_to_rest_within_its_limits() {
    let mut floor = floor();
    floor.command(1, Command::Feel { dial: 1.0, drag: 1.0 });
    hold(&mut floor, 3.0, 0, 1.0);
    let mut before = floor.state().axes[0].speed;
    assert!(before > 25.0);
    let push = floor.axes()[0].top_acceleration.to_degrees();
    // A quarter second of silence, then 30°/s at 24°/s² is 1.25 s.
    for _ in 0..(1.6 / STEP_S) as usize {
        floor.step();
        let now = floor.state().axes[0].speed;
        assert!((now - before).abs() <= push * STEP_S + 1e-6);
        before = now;
    }
    assert_eq!(before, 0.0);
    assert!(floor.state().flags & flags::SILENT != 0);
}

#[test]
fn only_the_holder_drives() {
    let mut floor = floor();
    floor.join(2);
    let start = floor.state().axes[0].value;
    for _ in 0..480 {
        drive(&mut floor, 2, 0, 1.0);
        drive(&mut floor, 1, 0, 0.0);
        floor.step();
    }
    assert_eq!(floor.state().axes[0].value, start);
    floor.command(2, Command::Ask { wheel: None });
    assert_eq!(floor.status().asking.map(|a| a.page), Some(2));
    floor.command(1, Command::Give);
    drive(&mut floor, 2, 0, 1.0);
    (0..60).for_each(|_| floor.step());
    assert!(floor.state().axes[0].value > start);
}

/// The rows of the last take among notes, in order.
fn recorded(notes: &[RecorderEvent]) -> Vec<Vec<f64>> {
    let mut rows = Vec::new();
    for note in notes {
        match note {
            RecorderEvent::Begin(_) => rows.clear(),
            RecorderEvent::Chunk { seq, width, values } => {
                assert_eq!(*seq as usize, rows.len().div_ceil(30));
                rows.extend(values.chunks(*width).map(<[f64]>::to_vec));
            }
            RecorderEvent::Packets(_)
            | RecorderEvent::Act(_)
            | RecorderEvent::Acted { .. }
            | RecorderEvent::Left
            | RecorderEvent::Hands(_)
            | RecorderEvent::End { .. } => {}
        }
    }
    rows
}

#[test]
fn what_is_recorded_is_what_was_published_sample_for_sample() {
    let mut floor = floor();
    hold(&mut floor, 0.5, 0, 0.7);
    floor.command(1, Command::roll(1.0));
    assert_eq!(floor.status().roll, RollState::Counting);
    let (mut seen, mut notes) = (Vec::new(), Vec::new());
    let mut rolled = false;
    for i in 0..240 * 4 {
        if i % 12 == 0 {
            drive(&mut floor, 1, i / 12 % 6, if i % 48 < 24 { 1.0 } else { -0.4 });
        }
        let before = floor.state();
        floor.step();
        let state = floor.state();
        if state.flags & flags::ROLLING != 0 {
            if !rolled {
                rolled = true;
                seen.push(before);
            }
            if (seen.len() as f64 / 120.0 - state.roll_time_s).abs() < 1e-9 {
                seen.push(state);
            }
        }
        notes.extend(floor.take_events());
    }
    floor.command(1, Command::Cut);
    notes.extend(floor.take_events());
    assert!(
        matches!(notes[0], RecorderEvent::Begin(_))
            && matches!(notes.last(), Some(RecorderEvent::End { .. }))
    );
    let rows = recorded(&notes);
    // Three seconds rolled after one of counting.
    assert_eq!((rows.len(), seen.len()), (361, 361));
    for (row, state) in rows.iter().zip(&seen) {
        for ((value, a), shown) in row.iter().zip(floor.axes()).zip(&state.axes) {
            assert_eq!(a.unit.to_shown(*value), shown.value);
        }
    }
    assert_eq!(floor.status().roll, RollState::Standby);
}

#[test]
fn the_performance_runs_with_the_roll_and_an_unarmed_axis_holds_still() {
    let mut floor = floor();
    hold(&mut floor, 2.0, 0, 0.0);
    floor.command(1, Command::Arm { axis: 0, on: false });
    floor.command(1, Command::roll(0.0));
    let start = floor.state().axes.clone();
    for i in 0..240 {
        if i % 20 == 0 {
            floor.command(1, Command::Drive { rates: vec![1.0; 8], nudges: vec![], fine: false });
        }
        floor.step();
    }
    let state = floor.state();
    assert!((state.scene_time_s - 1.0).abs() < 0.01, "{}", state.scene_time_s);
    assert_eq!(state.axes[0].value, start[0].value);
    assert!(state.axes[1].value > start[1].value + 1.0);
}

#[test]
fn return_drives_back_to_where_the_roll_began() {
    let mut floor = floor();
    hold(&mut floor, 1.0, 2, 1.0);
    hold(&mut floor, 3.0, 2, 0.0);
    let begun = floor.state().axes[2].value;
    floor.command(1, Command::roll(0.0));
    hold(&mut floor, 2.0, 2, 1.0);
    floor.command(1, Command::Cut);
    hold(&mut floor, 3.0, 2, 0.0);
    assert!((floor.state().axes[2].value - begun).abs() > 0.2);
    floor.command(1, Command::Return);
    hold(&mut floor, 8.0, 2, 0.0);
    assert!((floor.state().axes[2].value - begun).abs() < 0.02, "{} {begun}", floor.state().axes[2].value);
}

#[test]
fn return_drives_a_machine_that_has_not_rolled_to_where_it_starts() {
    let mut floor = floor();
    let start = floor.state().axes[2].value;
    hold(&mut floor, 1.0, 2, 1.0);
    hold(&mut floor, 3.0, 2, 0.0);
    assert!((floor.state().axes[2].value - start).abs() > 0.2);
    floor.command(1, Command::Return);
    hold(&mut floor, 8.0, 2, 0.0);
    assert!((floor.state().axes[2].value - start).abs() < 0.02, "{} {start}", floor.state().axes[2].value);
}

#[test]
fn an_axis_that_is_sent_while_another_still_goes_takes_nothing_from_it() {
    let mut floor = floor();
    floor.command(1, Command::Go { targets: vec![None, None, Some(6.5)], request: 0 });
    hold(&mut floor, 0.5, 0, 0.0);
    floor.command(1, Command::Go { targets: vec![Some(20.0)], request: 0 });
    hold(&mut floor, 20.0, 1, 0.0);
    let axes = floor.state().axes;
    assert!((axes[0].value - 20.0).abs() < 0.01 && (axes[2].value - 6.5).abs() < 0.01, "{axes:?}");
    // Where a hand has taken an axis it stays, whatever it was sent to before.
    floor.command(1, Command::Go { targets: vec![Some(-20.0)], request: 0 });
    hold(&mut floor, 1.0, 0, 1.0);
    hold(&mut floor, 2.0, 0, 0.0);
    let held = floor.state().axes[0].value;
    floor.command(1, Command::Go { targets: vec![None, None, Some(4.0)], request: 0 });
    hold(&mut floor, 20.0, 1, 0.0);
    let axes = floor.state().axes;
    assert!((axes[0].value - held).abs() < 0.5 && (axes[2].value - 4.0).abs() < 0.01, "{held} {axes:?}");
}

#[test]
fn a_machine_sent_somewhere_goes_on_after_a_hiccup_but_not_after_a_long_silence() {
    for (silence_s, arrives) in [(0.8, true), (3.0, false)] {
        let mut floor = floor();
        let targets = vec![None, None, Some(6.5)];
        floor.command(1, Command::Go { targets, request: 0 });
        hold(&mut floor, 1.0, 0, 0.0);
        (0..(silence_s / STEP_S) as usize).for_each(|_| floor.step());
        assert!(floor.state().axes[2].value < 6.4);
        hold(&mut floor, 6.0, 0, 0.0);
        assert_eq!((floor.state().axes[2].value - 6.5).abs() < 0.01, arrives);
    }
}

#[test]
fn trouble_stalls_and_silence_are_told() {
    let mut floor = floor();
    floor.command(1, Command::roll(0.0));
    hold(&mut floor, 1.0, 0, 1.0);
    floor.stalled(0.4);
    (0..120).for_each(|_| floor.step());
    floor.recorder_failed("the disk is full".into());
    assert_eq!(floor.status().trouble.as_deref(), Some("the disk is full"));
    let notes = floor.take_events();
    let Some(RecorderEvent::End { flags }) = notes.last() else { panic!("the take was cut") };
    assert!(
        flags[0].contains("0.40 s") && flags[1].contains("nobody") && flags[2].contains("full"),
        "{flags:?}"
    );
    floor.command(1, Command::roll(0.0));
    assert_eq!(floor.status().trouble, None);
}

#[test]
fn moving_the_base_keeps_the_axes_and_another_machine_takes_the_camera_over_where_it_is() {
    let mut floor = floor();
    // Swing, tilt and the iris.
    hold(&mut floor, 2.0, 0, 1.0);
    hold(&mut floor, 1.0, 4, -1.0);
    hold(&mut floor, 1.0, 8, 1.0);
    let swung = floor.state().axes[0].value;
    let rig = RigSpec::TelescopicCrane(TelescopicCrane { base_x_m: 2.0, ..TelescopicCrane::default() });
    floor.stage(staged(vec![of(3, rig)]));
    assert_eq!(floor.state().axes[0].value, swung);
    let before = floor.state();
    let turned = PanTiltRoll::from_rotation(before.rig_pose.camera.rotation);
    assert!(turned.tilt < -0.1 && before.lens.f_stop > Camera::default().f_stop);
    // A tripod cannot be where a crane was, but looks the same way through the same lens.
    floor.stage(staged(vec![of(3, RigSpec::Tripod(Tripod::default()))]));
    let tripod = floor.state();
    let now = PanTiltRoll::from_rotation(tripod.rig_pose.camera.rotation);
    assert_eq!((tripod.axes.len(), tripod.lens.f_stop), (7, before.lens.f_stop));
    assert!(
        (now.tilt - turned.tilt).abs() < 1e-9 && (now.pan - turned.pan).abs() < 1e-9,
        "{now:?} {turned:?}"
    );
    // What nothing carries is where it was.
    floor.stage(staged(vec![of(3, RigSpec::FreeCamera(FreeCamera::default()))]));
    let free = floor.state();
    assert!(free.rig_pose.camera.position.distance(tripod.rig_pose.camera.position) < 1e-9);
    assert!(free.rig_pose.camera.rotation.angle_between(tripod.rig_pose.camera.rotation) < 1e-7);
    assert_eq!(free.lens, tripod.lens);
    assert_eq!(floor.status().holder, Some(1));
}

#[test]
fn a_machine_that_is_left_for_another_setup_stands_where_it_was_left() {
    let mut floor = floor_of(vec![placed(), of(9, RigSpec::Tripod(Tripod::default()))]);
    hold(&mut floor, 2.0, 0, 1.0);
    hold(&mut floor, 2.0, 0, 0.0);
    let left = floor.state();
    assert!(left.axes[0].value > 10.0);
    floor.put(SetupId(9));
    hold(&mut floor, 2.0, 1, 0.0);
    let state = floor.state();
    assert_eq!((state.setup_id, state.others[0].setup_id), (SetupId(9), SetupId(3)));
    assert_eq!(state.others[0].camera, left.rig_pose.camera);
    floor.put(SetupId(3));
    assert_eq!(floor.state().axes[0].value, left.axes[0].value);
}

#[test]
fn the_iris_is_driven_and_more_is_sharp_the_further_it_closes() {
    let mut floor = floor();
    let open = floor.state();
    assert_eq!(open.lens.f_stop, Camera::default().f_stop);
    hold(&mut floor, 0.8, 8, 1.0);
    let closed = floor.state();
    assert!(closed.lens.f_stop > open.lens.f_stop + 2.0);
    assert_eq!(closed.axes[8].value, closed.lens.f_stop);
    assert!(closed.sharp_m.0 < open.sharp_m.0 && closed.sharp_m.1 > open.sharp_m.1);
    assert!(closed.hyperfocal_m < open.hyperfocal_m);
    hold(&mut floor, 4.0, 8, -1.0);
    assert_eq!(floor.state().lens.f_stop, Camera::default().widest_stop);
}

#[test]
fn the_scene_may_change_while_a_take_rolls() {
    let mut floor = floor();
    floor.command(1, Command::roll(0.0));
    hold(&mut floor, 0.5, 0, 1.0);
    floor.stage(rovnek_live::floor::Staged { scene_length_s: 44.0, ..staged(vec![placed()]) });
    assert_eq!((floor.status().roll, floor.scene_length_s()), (RollState::Rolling, 44.0));
    let camera = Camera { f_stop: 8.0, ..Camera::default() };
    floor.stage(staged(vec![Placed { camera, ..placed() }]));
    assert_eq!(floor.status().roll, RollState::Standby);
    let flags = |floor: &mut rovnek_live::floor::Floor| {
        let end = floor.take_events().into_iter().find_map(|event| match event {
            rovnek_live::floor::RecorderEvent::End { flags } => Some(flags),
            _ => None,
        });
        end.expect("the take was cut").join("; ")
    };
    assert!(flags(&mut floor).contains("its machine or its camera was changed while it rolled"));
    // Its setup undone under it, and another one put in its place.
    floor.stage(staged(vec![placed(), of(9, RigSpec::Tripod(Tripod::default()))]));
    for away in [true, false] {
        floor.command(1, Command::roll(0.0));
        hold(&mut floor, 0.5, 0, 1.0);
        if away {
            floor.put(SetupId(9));
        } else {
            floor.stage(staged(vec![placed()]));
        }
        let why = if away { "another setup was put on the floor" } else { "its setup was taken away" };
        assert!(flags(&mut floor).contains(why));
    }
}

/// The layout, read back from its bytes as `docs/wire.md` describes it. The page's decoder reads
/// the same vectors (`reference/values/state_frame.json`).
#[test]
fn state_frames_are_as_documented() {
    let scene = Staged {
        cast: vec![somebody(6)].into(),
        obstacles: barrel_and_crate(12, [-1.5, 0.0, -4.0], 13, 3),
        ..staged(vec![placed(), of(9, RigSpec::Tripod(Tripod::default()))])
    };
    let mut floor = Floor::new(scene, SetupId(3));
    floor.join(1);
    floor.command(1, Command::Run { on: true });
    hold(&mut floor, 1.0, 0, 1.0);
    floor.look_round();
    let mut vectors = vec![encode(&floor.state())];
    floor.command(1, Command::Act { who: Some(MoverId::Performer(PerformerId(6))), alone: false });
    floor.command(1, Command::roll(0.0));
    hold(&mut floor, 0.5, 2, -0.5);
    floor.look_round();
    vectors.push(encode(&floor.state()));
    let bytes = vectors.last().unwrap();
    let state = floor.state();
    let f64_at = |at: usize| f64::from_le_bytes(bytes[at..at + 8].try_into().unwrap());
    assert_eq!(&bytes[..8], &[0x52, 9, state.flags, 9, 3, 0, 0, 0]);
    assert_eq!((f64_at(8), f64_at(16)), (state.step as f64, state.scene_time_s));
    assert_eq!(
        (f64_at(64), f64_at(88)),
        (state.rig_pose.camera.position.x, state.rig_pose.camera.rotation.x)
    );
    assert_eq!((f64_at(172), f64_at(188)), (state.axes[0].value, state.axes[1].value));
    let driven = state.acting.as_ref().unwrap().1.len();
    let other = state.others[0].bodies.len();
    let riding: usize = state.riding.iter().map(|(_, bodies)| 12 + bodies.len() * 28).sum();
    assert_eq!(
        bytes.len(),
        172 + 9 * 16
            + 4
            + 8 * 28
            + 4
            + 36
            + 4
            + other * 28
            + 12
            + driven * 28
            + 4
            + riding
            + 4
            + state.handles.len() * 12
    );

    let hex = |b: &[u8]| b.iter().map(|b| format!("{b:02x}")).collect::<String>();
    let shown = |b: &Vec<u8>| serde_json::json!({"hex": hex(b)});
    let made = serde_json::json!({"frames": vectors.iter().map(shown).collect::<Vec<_>>(), "last": {
        "setup": state.setup_id, "step": state.step, "scene_time_s": state.scene_time_s,
        "roll_time_s": state.roll_time_s as f32, "flags": state.flags, "focal_mm": state.lens.focal_mm,
        "near_m": state.sharp_m.0 as f32, "tilt_deg": PanTiltRoll::from_rotation(state.rig_pose.camera.rotation).tilt.to_degrees() as f32,
        "camera": state.rig_pose.camera.position.to_array(), "rotation": state.rig_pose.camera.rotation.to_array(),
        "axes": state.axes.iter().map(|a| a.value).collect::<Vec<_>>(),
        "axis_flags": state.axes.iter().map(|a| a.flags).collect::<Vec<_>>(),
        "stops_in_s": state.axes.iter().map(|a| a.stops_in_s.map(|s| (s * 100.0).round() / 100.0)).collect::<Vec<_>>(),
        "half_frame": [state.half_frame.0 as f32, state.half_frame.1 as f32],
        "timecode": state.timecode.to_string(),
        "sees_deg": [state.sees.0.to_degrees() as f32, state.sees.1.to_degrees() as f32],
        "shot": state.shot.map_or(0, |s| s.code()),
        "bodies": state.bodies.len(),
        "handles": state.handles.iter().map(|at| at.to_array().map(|v| v as f32)).collect::<Vec<_>>(),
        "short_m": state.short_m,
        "clearance_m": state.clearance.unwrap().distance_m as f32, "clearance_to": 12,
        "acting": 6,
        "acting_at": state.acting.as_ref().unwrap().1[0].position.to_array().map(|v| v as f32),
        "riding": 13,
        "riding_at": state.riding[0].1[0].position.to_array().map(|v| v as f32),
        "others": state.others.iter().map(|o| o.setup_id).collect::<Vec<_>>(),
        "other_bodies": other,
        "other_at": state.others[0].camera.position.to_array().map(|v| v as f32),
    }});
    let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../reference/values/state_frame.json");
    if std::env::var_os("ROVNEK_WRITE").is_some() {
        std::fs::write(path, format!("{made:#}\n")).unwrap();
    }
    let kept: serde_json::Value = serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    assert_eq!(
        kept["frames"], made["frames"],
        "the layout changed: raise its version, then run with ROVNEK_WRITE=1"
    );
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(12))]

    /// A minute of hostile hands: no axis leaves its limits or jumps.
    #[test]
    fn hostile_hands_stay_within_limits(seed in prop::collection::vec((0usize..8, -9.0..9.0f64, -400.0..400.0f64, 1usize..120), 40..120)) {
        let mut floor = floor();
        floor.command(1, Command::Feel { dial: 1.0, drag: 0.0 });
        let mut before = floor.state();
        for (i, rate, nudge, steps) in seed {
            let mut nudges = vec![0.0; 8];
            nudges[i] = nudge;
            let mut rates = vec![f64::NAN; 8];
            rates[i] = rate;
            floor.command(1, Command::Drive { rates, nudges, fine: false });
            for _ in 0..steps {
                floor.step();
                let now = floor.state();
                for (a, (x, y)) in floor.axes().iter().zip(before.axes.iter().zip(&now.axes)) {
                    prop_assert!(a.unit.to_shown(a.min) - 1e-9 <= y.value && y.value <= a.unit.to_shown(a.max) + 1e-9);
                    prop_assert!((y.speed - x.speed).abs() <= a.unit.to_shown(a.top_acceleration) * STEP_S + 1e-5, "{}", a.name);
                }
                before = now;
            }
        }
    }
}

/// A key is held while another setup is put onto the floor: the machine there does not move.
#[test]
fn a_held_key_never_drives_the_machine_of_another_setup() {
    use rovnek_live::command::PageCommand;
    let plain = || RigSpec::TelescopicCrane(TelescopicCrane::default());
    let mut floor = floor_of(vec![of(3, plain()), of(4, plain())]);
    let asked = |setup: u32| {
        let command = Command::Drive { rates: vec![1.0], nudges: vec![], fine: false };
        PageCommand { setup: Some(SetupId(setup)), command }
    };
    let swing = |floor: &Floor| floor.state().axes[0].value;
    floor.put(SetupId(4));
    let before = swing(&floor);
    for k in 0..240 {
        if k % 15 == 0 {
            floor.asked(1, asked(3));
        }
        floor.step();
    }
    assert_eq!(swing(&floor), before);
    assert_eq!(floor.status().holder, Some(1), "its page is still there");
    for k in 0..240 {
        if k % 15 == 0 {
            floor.asked(1, asked(4));
        }
        floor.step();
    }
    assert!(swing(&floor) > before + 1.0);
}
