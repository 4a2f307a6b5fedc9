//! Rolling: what is recorded is what was published, at any clock and on any machine; passes over
//! a take; a camera attached to a tracked device.

use crate::common::{drive, floor_of, heard, hold, of, placed};
use rovnek_core::DVec3;
use rovnek_core::axis_motion::STEP_S;
use rovnek_core::ids::{SetupId, TakeId};
use rovnek_core::rigs::{RigSpec, TelescopicCrane, TrackedCamera};
use rovnek_core::samples::Samples;
use rovnek_core::space::{PanTiltRoll, Pose};
use rovnek_core::steady::{Steady, SteadyBy};
use rovnek_core::tracked::{Mapping, Tracking};
use rovnek_formats::tracking::capture::Packet;
use rovnek_formats::tracking::{Lens, Sample};
use rovnek_live::command::RollState;
use rovnek_live::command::{Command, PassRequest};
use rovnek_live::floor::{BaseTake, Floor, Placed, RecorderEvent, TakeStart};
use rovnek_live::state::flags;
use std::sync::Arc;

/// What was recorded, and what it began with.
fn recorded(floor: &mut Floor) -> (Box<TakeStart>, Samples) {
    let (mut begun, mut values) = (None, Vec::new());
    for note in floor.take_events() {
        match note {
            RecorderEvent::Begin(b) => (begun, values) = (Some(b), Vec::new()),
            RecorderEvent::Chunk { values: more, .. } => values.extend(more),
            RecorderEvent::Packets(_)
            | RecorderEvent::Act(_)
            | RecorderEvent::Acted { .. }
            | RecorderEvent::Left
            | RecorderEvent::Hands(_)
            | RecorderEvent::End { .. } => {}
        }
    }
    (begun.expect("something rolled"), Samples::new(120.0, floor.axes().len(), values))
}

/// Rolls for some ticks under restless hands; what was published at each sample.
fn restless(floor: &mut Floor, ticks: usize) -> Vec<Vec<f64>> {
    floor.command(1, Command::roll(0.0));
    let mut seen: Vec<Vec<f64>> = Vec::new();
    for i in 0..ticks {
        if i % 12 == 0 {
            let n = floor.axes().len();
            drive(floor, 1, i / 12 % n, if i % 48 < 24 { 1.0 } else { -0.4 });
        }
        let before = floor.state();
        floor.step();
        let state = floor.state();
        let values = |s: &rovnek_live::state::State| s.axes.iter().map(|a| a.value).collect();
        if state.flags & flags::ROLLING != 0 {
            if seen.is_empty() {
                seen.push(values(&before));
            }
            if seen.len() as f64 / 120.0 <= state.roll_time_s + 1e-9 {
                seen.push(values(&state));
            }
        }
    }
    floor.command(1, Command::Cut);
    seen
}

#[test]
fn every_machine_at_every_clock_records_what_was_published() {
    for spec in RigSpec::all() {
        for (speed, rows) in [(1.0, 481), (0.5, 241), (0.3, 145), (0.25, 121)] {
            let mut floor = floor_of(vec![of(1, spec.clone())]);
            floor.command(1, Command::Clock { speed });
            let seen = restless(&mut floor, 960);
            let (begun, samples) = recorded(&mut floor);
            assert_eq!((begun.clock, samples.len(), seen.len()), (speed, rows, rows), "{spec:?}");
            for (row, seen) in samples.rows().zip(&seen) {
                let shown: Vec<f64> =
                    row.iter().zip(floor.axes()).map(|(v, a)| a.unit.to_shown(*v)).collect();
                assert_eq!(&shown, seen, "{spec:?}");
            }
        }
    }
}

#[test]
fn a_slow_clock_slows_the_scene_and_the_machine_alike() {
    let run = |speed: f64, ticks: usize| {
        let mut floor = floor_of(vec![placed()]);
        floor.command(1, Command::Clock { speed });
        floor.command(1, Command::roll(0.5));
        for i in 0..120 + ticks {
            if i.is_multiple_of(4) {
                drive(&mut floor, 1, 0, 1.0);
            }
            floor.step();
        }
        let state = floor.state();
        (state.scene_time_s, state.roll_time_s)
    };
    assert_eq!(run(1.0, 479), (2.0, 2.0));
    assert_eq!(run(0.25, 1919), (2.0, 2.0));
    assert_eq!(run(0.5, 959), (2.0, 2.0));
}

#[test]
fn a_roll_is_cut_by_itself_where_it_was_told_to_end() {
    let mut floor = floor_of(vec![placed()]);
    let until_s = Some(1.5);
    let pass = PassRequest::default();
    floor.command(1, Command::Roll { count_in_s: 0.0, until_s, note: "at the lamp".into(), pass });
    (0..800).for_each(|_| floor.step());
    assert_eq!(floor.status().roll, RollState::Standby);
    let (begun, samples) = recorded(&mut floor);
    assert_eq!((samples.len(), begun.note.as_str()), (181, "at the lamp"));
}

fn a_take(floor: &mut Floor) -> BaseTake {
    restless(floor, 1200);
    let (_, samples) = recorded(floor);
    BaseTake { take: TakeId(7), setup_id: floor.placed().setup_id, samples: Arc::new(samples) }
}

fn roll_pass(floor: &mut Floor, from_s: f64, until_s: Option<f64>) {
    let pass = PassRequest { name: "head".into(), from_s, pre_roll_s: 0.5, blend_s: 0.4 };
    floor.command(1, Command::Roll { count_in_s: 0.0, until_s, note: String::new(), pass });
}

#[test]
fn what_is_not_armed_plays_from_below_to_the_sample() {
    let mut floor = floor_of(vec![placed()]);
    let below = a_take(&mut floor);
    floor.set_base(Some(below.clone()));
    assert_eq!(floor.status().below, Some(TakeId(7)));
    for axis in 0..3 {
        floor.command(1, Command::Arm { axis, on: false });
    }
    roll_pass(&mut floor, 0.0, None);
    hold(&mut floor, 8.0, 3, 0.8);
    assert_eq!(floor.status().roll, RollState::Standby, "it ends with the take below");
    let (begun, samples) = recorded(&mut floor);
    let pass = begun.pass.unwrap();
    assert_eq!((pass.take, pass.at, pass.name.as_str()), (TakeId(7), 0, "head"));
    assert_eq!(pass.axes, (3..9).collect::<Vec<_>>());
    assert_eq!(samples.len(), below.samples.len());
    for (over, under) in samples.rows().zip(below.samples.rows()) {
        assert_eq!(over[..3], under[..3]);
    }
    assert_ne!(samples.row(400)[3], below.samples.row(400)[3]);
}

#[test]
fn a_pass_of_no_axis_is_refused_with_a_sentence() {
    let mut floor = floor_of(vec![placed()]);
    let below = a_take(&mut floor);
    let axes = below.samples.width();
    floor.set_base(Some(below));
    (0..axes).for_each(|axis| floor.command(1, Command::Arm { axis, on: false }));
    floor.command(1, Command::roll(0.0));
    assert_eq!(floor.status().roll, RollState::Standby);
    assert!(floor.status().trouble.unwrap().contains("no axis is armed"));
    floor.command(1, Command::Arm { axis: 3, on: true });
    floor.command(1, Command::roll(0.0));
    floor.step();
    assert_eq!((floor.status().roll, floor.status().trouble), (RollState::Rolling, None));
}

#[test]
fn a_punch_in_past_the_end_of_its_take_is_refused_with_a_sentence() {
    let mut floor = floor_of(vec![placed()]);
    let below = a_take(&mut floor);
    let end_s = below.samples.duration_s();
    floor.set_base(Some(below));
    roll_pass(&mut floor, end_s + 0.5, None);
    assert_eq!(floor.status().roll, RollState::Standby);
    assert!(floor.status().trouble.unwrap().contains("past the end of the take"));
    roll_pass(&mut floor, end_s - 0.5, None);
    floor.step();
    assert_eq!((floor.status().roll != RollState::Standby, floor.status().trouble), (true, None));
}

#[test]
fn punching_in_goes_on_from_below_without_a_step_in_position_or_speed() {
    let mut floor = floor_of(vec![placed()]);
    let below = a_take(&mut floor);
    floor.set_base(Some(below.clone()));
    roll_pass(&mut floor, 2.0, Some(3.0));
    assert_eq!(floor.state().scene_time_s, 1.5);
    let mut before = floor.state();
    let mut pre_rolled = false;
    for i in 0..600 {
        if i % 6 == 0 {
            drive(&mut floor, 1, 0, -1.0);
        }
        floor.step();
        let state = floor.state();
        pre_rolled |= state.flags & flags::PRE_ROLL != 0;
        if i > 0 && floor.status().roll == RollState::Rolling {
            for (k, axis) in floor.axes().iter().enumerate() {
                let shown = |v: f64| axis.unit.to_shown(v);
                let (was, is) = (before.axes[k], state.axes[k]);
                let push = (is.speed - was.speed).abs() / STEP_S;
                assert!(push <= shown(axis.top_acceleration) * 1.05 + 1e-6, "{} {push}", axis.name);
                assert!((is.value - was.value - is.speed * STEP_S).abs() < 1e-6, "{}", axis.name);
            }
        }
        before = state;
    }
    let (begun, samples) = recorded(&mut floor);
    assert!(pre_rolled);
    assert_eq!((begun.pass.unwrap().at, samples.len()), (240, 121));
    assert_eq!(samples.row(0), below.samples.row(240));
    assert_ne!(samples.row(120)[0], below.samples.row(360)[0]);
}

#[test]
fn a_take_of_another_setup_is_not_laid_below() {
    let mut floor = floor_of(vec![placed(), of(4, RigSpec::TelescopicCrane(TelescopicCrane::default()))]);
    let below = a_take(&mut floor);
    floor.put(SetupId(4));
    floor.set_base(Some(below.clone()));
    assert_eq!(floor.status().below, None);
    floor.put(SetupId(3));
    floor.set_base(Some(below));
    assert_eq!(floor.status().below, Some(TakeId(7)));
    floor.put(SetupId(4));
    assert_eq!(floor.status().below, None);
}

fn tracked(mapping: Mapping, steady: Steady, spec: RigSpec) -> Placed {
    Placed { tracking: Tracking { mapping, steady, ..Tracking::default() }, ..of(1, spec) }
}

/// A hand at a time: walking sideways and looking about.
fn hand(time_s: f64) -> Pose {
    let turn = PanTiltRoll { pan: 0.5 * (1.3 * time_s).sin(), tilt: 0.1 * (2.0 * time_s).sin(), roll: 0.02 };
    Pose::new(DVec3::new(0.3 * (0.9 * time_s).sin(), 1.5, 0.1 * time_s.sin()), turn.to_rotation())
}

/// Feeds the floor what the hand sends 120 times a second and steps it.
fn carry(floor: &mut Floor, ticks: usize, mut each: impl FnMut(&Floor)) {
    for i in 0..ticks {
        let now_s = floor.clock_s();
        if i % 2 == 0 {
            let lens = Lens { focal_mm: Some(50.0), ..Lens::default() };
            heard(floor, hand(now_s), lens);
        }
        if i % 12 == 0 {
            drive(floor, 1, 0, 0.0);
        }
        floor.step();
        each(floor);
    }
}

/// Carries on; at no step does any axis jump or speed up beyond its limits.
fn carry_gently(floor: &mut Floor, ticks: usize) {
    let mut before: Option<rovnek_live::state::State> = None;
    carry(floor, ticks, |floor| {
        let state = floor.state();
        if let Some(before) = &before {
            for (k, axis) in floor.axes().iter().enumerate().filter(|(_, a)| a.hand.is_some()) {
                let (was, is) = (before.axes[k], state.axes[k]);
                let push = (is.speed - was.speed).abs() / STEP_S;
                assert!(
                    push <= axis.unit.to_shown(axis.top_acceleration) * (1.0 + 1e-6) + 1e-3,
                    "{} {push}",
                    axis.name
                );
                assert!((is.value - was.value - is.speed * STEP_S).abs() < 1e-4, "{}", axis.name);
            }
        }
        before = Some(state);
    });
}

#[test]
fn a_device_is_attached_and_let_go_without_a_jump_and_followed_in_between() {
    let crane = RigSpec::TelescopicCrane(TelescopicCrane::default());
    for (spec, near_m) in [(RigSpec::TrackedCamera(TrackedCamera::default()), 1e-6), (crane, 0.25)] {
        let mut floor = floor_of(vec![tracked(Mapping::default(), Steady::default(), spec)]);
        carry(&mut floor, 300, |_| {});
        assert!(floor.status().tracking.alive && !floor.status().tracking.attached);
        let stood = floor.state().rig_pose.camera;
        floor.command(1, Command::Attach { on: true });
        assert!(floor.status().tracking.attached);
        let device = hand(floor.clock_s() - floor.status().tracking.delay_ms / 1000.0);
        carry_gently(&mut floor, 2000);
        // It went as far as the hand did since it was attached.
        let delay_s = floor.status().tracking.delay_ms / 1000.0;
        let now = hand(floor.clock_s() - delay_s);
        let pan = |p: Pose| PanTiltRoll::from_rotation(p.rotation).pan;
        let turn = rovnek_core::space::heading(pan(stood) - pan(device));
        let wanted = stood.position + turn * (now.position - device.position);
        let off = floor.state().rig_pose.camera.position.distance(wanted);
        assert!(off < near_m + 0.003, "{off}");
        floor.command(1, Command::Attach { on: false });
        carry_gently(&mut floor, 600);
        assert!(floor.state().axes.iter().all(|a| a.speed == 0.0));
    }
}

#[test]
fn the_device_itself_is_kept_beside_and_its_packets_too() {
    let steady = Steady { by: SteadyBy::FixedLag, position: 0.6, rotation: 0.6 };
    let spec = RigSpec::TrackedCamera(TrackedCamera { top_m_s: 20.0, ..TrackedCamera::default() });
    let mapping = Mapping { keep_offset: false, ..Mapping::default() };
    let mut floor = floor_of(vec![tracked(mapping, steady, spec)]);
    carry(&mut floor, 300, |_| {});
    floor.command(1, Command::Attach { on: true });
    carry(&mut floor, 600, |_| {});
    let behind_s = floor.status().tracking.delay_ms / 1000.0 - steady.delay_s();
    floor.command(1, Command::roll(0.0));
    let began_s = floor.clock_s();
    carry(&mut floor, 960, |_| {});
    floor.command(1, Command::Cut);
    let notes = floor.take_events();
    let packets: Vec<&Packet> = notes
        .iter()
        .filter_map(|n| if let RecorderEvent::Packets(p) = n { Some(p) } else { None })
        .flatten()
        .collect();
    assert!((479..=480).contains(&packets.len()));
    assert!(packets.windows(2).all(|w| (w[1].time_s - w[0].time_s - 1.0 / 120.0).abs() < 1e-9));
    let values: Vec<f64> = notes
        .iter()
        .filter_map(|n| if let RecorderEvent::Chunk { values, .. } = n { Some(values.clone()) } else { None })
        .flatten()
        .collect();
    let samples = Samples::new(120.0, 15, values);
    for i in [100, 300, 450] {
        let row = samples.row(i);
        let raw = hand(began_s + i as f64 / 120.0 - behind_s);
        let kept = DVec3::new(row[0], row[1], row[2]);
        assert!(kept.distance(raw.position) < 0.002, "{kept} {}", raw.position);
        // The steadied camera is later by the lag.
        let late = hand(began_s + i as f64 / 120.0 - behind_s - steady.delay_s());
        assert!(DVec3::new(row[6], row[7], row[8]).distance(late.position) < 0.02);
        assert!((row[12] - 50.0).abs() < 1e-6, "the lens is taken");
    }
    assert!(matches!(&notes[0], RecorderEvent::Begin(b) if b.device.as_deref() == Some("freed 1")));
}

#[test]
fn a_silent_device_is_flagged_and_the_camera_comes_to_rest() {
    let spec = RigSpec::TrackedCamera(TrackedCamera::default());
    let mut floor = floor_of(vec![tracked(Mapping::default(), Steady::default(), spec)]);
    carry(&mut floor, 300, |_| {});
    floor.command(1, Command::Attach { on: true });
    floor.command(1, Command::roll(0.0));
    carry(&mut floor, 240, |_| {});
    hold(&mut floor, 2.0, 0, 0.0);
    assert!(floor.state().axes.iter().all(|a| a.speed.abs() < 1e-6));
    assert!(!floor.status().tracking.alive);
    floor.command(1, Command::Cut);
    let flagged = floor
        .take_events()
        .into_iter()
        .any(|n| matches!(n, RecorderEvent::End { flags } if flags.iter().any(|f| f.contains("device fell silent"))));
    assert!(flagged);
}

#[test]
fn a_camera_in_the_hand_is_not_taken_over_by_another_device() {
    let spec = RigSpec::TrackedCamera(TrackedCamera::default());
    let mut floor = floor_of(vec![tracked(Mapping::default(), Steady::default(), spec)]);
    carry(&mut floor, 300, |_| {});
    floor.command(1, Command::Attach { on: true });
    let sample = Sample {
        device: "0".into(),
        time_s: None,
        sequence: None,
        rate_hz: None,
        pose: Pose::new(DVec3::new(50.0, 0.0, 0.0), hand(0.0).rotation),
        lens: Lens::default(),
    };
    let packet = Packet { time_s: floor.clock_s(), port: 9, data: vec![1] };
    floor.tracked(Some("freed 0"), Some(&sample), packet);
    assert_eq!(floor.status().tracking.source, "freed 1");
    carry_gently(&mut floor, 240);
    floor.command(1, Command::Attach { on: false });
    assert_eq!(floor.status().tracking.source, "freed 1", "the other one has fallen silent");
}
