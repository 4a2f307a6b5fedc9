//! A second device, which moves aim or focus of a camera that others operate.

use crate::common::{drive, floor_of, heard, of};
use rovnek_core::DVec3;
use rovnek_core::axis_motion::STEP_S;
use rovnek_core::rigs::{RigSpec, TelescopicCrane, Tripod};
use rovnek_core::space::Pose;
use rovnek_core::tracked::{Mapping, SecondDevice, SecondMoves, Tracking};
use rovnek_formats::tracking::Lens;
use rovnek_live::command::Command;
use rovnek_live::floor::{Floor, Placed};

use rovnek_live::state::axis;

fn with_second(spec: RigSpec, moves: SecondMoves) -> Placed {
    // The device's own space lies two metres to the right, at a tenth of the size.
    let mapping = Mapping { origin_m: [2.0, 0.0, 0.0], scale: 10.0, ..Mapping::default() };
    let second = SecondDevice { source: "freed 1".into(), moves };
    Placed { tracking: Tracking { mapping, second, ..Tracking::default() }, ..of(1, spec) }
}

/// A lamp on a stick, carried in an arc before the camera.
fn lamp(time_s: f64) -> Pose {
    let a = 0.5 * (0.8 * time_s).sin();
    Pose { position: DVec3::new(-0.2 + 0.6 * a.sin(), 0.15, -0.6 * a.cos()), ..Pose::ORIGIN }
}

/// Goes on with the device heard; no axis jumps or is pushed harder than it can be.
fn go_on(floor: &mut Floor, seconds: f64, lens: impl Fn(f64) -> Lens, machine: f64) {
    let mut before = floor.state();
    for i in 0..(seconds * 240.0) as u64 {
        if i % 2 == 0 {
            let now_s = floor.clock_s();
            heard(floor, lamp(now_s), lens(now_s));
        }
        drive(floor, 1, 0, machine);
        floor.step();
        let state = floor.state();
        for (k, axis) in floor.axes().iter().enumerate().filter(|(_, a)| a.hand.is_some()) {
            let push = (state.axes[k].speed - before.axes[k].speed).abs() / STEP_S;
            let most = axis.unit.to_shown(axis.top_acceleration);
            assert!(push <= most * (1.0 + 1e-6) + 1e-3, "{} {push}", axis.name);
        }
        before = state;
    }
}

fn on_set(floor: &Floor) -> DVec3 {
    // As late as devices are read: one and a half of the pauses of 1/120 s.
    let device = lamp(floor.clock_s() - 1.5 / 120.0).position;
    DVec3::new(2.0, 0.0, 0.0) + device * 10.0
}

fn none(_: f64) -> Lens {
    Lens::default()
}

#[test]
fn the_head_looks_at_the_device_and_focus_is_on_it_while_the_machine_goes() {
    for spec in [RigSpec::Tripod(Tripod::default()), RigSpec::TelescopicCrane(TelescopicCrane::default())] {
        let mut floor = floor_of(vec![with_second(spec, SecondMoves::AimAndFocus)]);
        let stood = floor.state().axes[0].value;
        go_on(&mut floor, 6.0, none, 0.2);
        let state = floor.state();
        let camera = state.rig_pose.camera;
        let to = on_set(&floor) - camera.position;
        let off = to.angle_between(camera.rotation * DVec3::NEG_Z).to_degrees();
        assert!(off < 0.25, "{off}°");
        let far = to.dot(camera.rotation * DVec3::NEG_Z);
        assert!((state.lens.focus_m - far).abs() < 0.03, "{} {far}", state.lens.focus_m);
        // Where the machine goes, hands say.
        let axes = floor.axes();
        if axes[0].name != "pan" {
            assert!((state.axes[0].value - stood).abs() > 0.1);
        }
        let pan = axes.iter().position(|a| a.name == "pan").unwrap();
        let focus = axes.len() - 2;
        for i in [pan, focus] {
            assert!(state.axes[i].flags & axis::LED > 0, "{}", axes[i].name);
        }
    }
}

#[test]
fn a_ring_of_focus_in_other_hands_moves_the_focus_unless_a_hand_is_on_it() {
    let mut floor = floor_of(vec![with_second(RigSpec::Tripod(Tripod::default()), SecondMoves::FocusRing)]);
    let camera = floor.state().rig_pose.camera;
    let ring = |s: f64| Lens { focus_m: Some(4.0 + 0.5 * s.sin()), ..Lens::default() };
    go_on(&mut floor, 3.0, ring, 0.0);
    let wanted = 4.0 + 0.5 * (floor.clock_s() - 1.5 / 120.0).sin();
    assert!((floor.state().lens.focus_m - wanted).abs() < 0.02, "{} {wanted}", floor.state().lens.focus_m);
    assert_eq!(floor.state().rig_pose.camera, camera, "it moves nothing else");
    // A hand pulls away from it, and lets go.
    let focus = floor.axes().len() - 2;
    let mut rates = vec![0.0; floor.axes().len()];
    rates[focus] = 1.0;
    for i in 0..120u64 {
        if i % 2 == 0 {
            let now_s = floor.clock_s();
            heard(&mut floor, lamp(now_s), ring(now_s));
        }
        floor.command(1, Command::Drive { rates: rates.clone(), nudges: vec![], fine: false });
        floor.step();
    }
    let pulled = floor.state();
    assert!(pulled.axes[focus].flags & axis::LED == 0);
    assert!((pulled.lens.focus_m - (4.0 + 0.5 * floor.clock_s().sin())).abs() > 0.1);
    go_on(&mut floor, 4.0, ring, 0.0);
    let wanted = 4.0 + 0.5 * (floor.clock_s() - 1.5 / 120.0).sin();
    assert!((floor.state().lens.focus_m - wanted).abs() < 0.02);
    // Silent, it moves nothing any more.
    for _ in 0..480 {
        drive(&mut floor, 1, 0, 0.0);
        floor.step();
    }
    assert!(floor.state().axes[focus].flags & axis::LED == 0 && floor.state().axes[focus].speed == 0.0);
}
