//! A floor to try things on, and hands for it.
#![allow(dead_code)]

use rovnek_core::axis_motion::STEP_S;
use rovnek_core::carrier::Carrier;
use rovnek_core::clearance::Obstacles;
use rovnek_core::curve::CurveKey;
use rovnek_core::ids::{PerformanceId, PerformerId, PieceId, SetupId};
use rovnek_core::keys::{Curves, Keyed};
use rovnek_core::lens::Camera;
use rovnek_core::performer::Clips;
use rovnek_core::performer::driven::Driven;
use rovnek_core::playing::{CarrierTrack, MoverId, PerformanceTimeline, Ride};
use rovnek_core::rigs::{RigSpec, TelescopicCrane};
use rovnek_core::set::{Form, Piece};
use rovnek_core::solid::Material;
use rovnek_core::space::Pose;
use rovnek_core::time::{Rate, Timebase};
use rovnek_formats::tracking::capture::Packet;
use rovnek_formats::tracking::{Lens, Sample};
use rovnek_live::acting::Cast;
use rovnek_live::command::Command;
use rovnek_live::floor::{Floor, Placed, Staged};
use rovnek_live::state::State;
use std::sync::Arc;

/// A crane as setup 3.
pub fn placed() -> Placed {
    of(3, RigSpec::TelescopicCrane(TelescopicCrane::default()))
}

/// A machine as a setup.
pub fn of(setup_id: u32, spec: RigSpec) -> Placed {
    let (camera, rig) = (Camera::default(), spec.into());
    Placed {
        setup_id: SetupId(setup_id),
        camera,
        rig,
        positions: Vec::new(),
        keyed: Default::default(),
        target: None,
        carrier: None,
        tracking: Default::default(),
        walls: Default::default(),
    }
}

/// A machine with keys, in shown units, that are smooth.
pub fn keyed(placed: Placed, keys: &[(&str, &[(f64, f64)])]) -> Placed {
    let key = |(t, v): &(f64, f64)| CurveKey::smooth(*t, *v);
    let curves: Curves =
        keys.iter().map(|(axis, keys)| (axis.to_string(), keys.iter().map(key).collect())).collect();
    let rig = placed.rig.build(&placed.camera);
    Placed { keyed: Keyed::of(&curves, &*rig, 20.0).into(), ..placed }
}

/// A scene of 20 seconds.
pub fn staged(setups: Vec<Placed>) -> Staged {
    Staged {
        setups,
        scene_length_s: 20.0,
        timebase: Timebase { rate: Rate::FILM, start_frame: 86_400 },
        people: Default::default(),
        cast: Default::default(),
        obstacles: Default::default(),
    }
}

/// Somebody who can be driven.
pub fn somebody(id: u32) -> Cast {
    let start = Driven { x: 2.0, z: -1.0, ..Driven::default() };
    Cast {
        of: MoverId::Performer(PerformerId(id)),
        height_m: 1.7,
        build: 1.0,
        floor_m: 0.0,
        start,
        parts: Vec::new(),
    }
}

/// A floor with somebody on it, whose time runs.
pub fn floor_with(setups: Vec<Placed>, cast: Vec<Cast>) -> Floor {
    let first = setups[0].setup_id;
    let mut floor = Floor::new(Staged { cast: cast.into(), ..staged(setups) }, first);
    floor.join(1);
    floor.command(1, Command::Run { on: true });
    floor
}

/// A floor with the first of some setups driven by page 1, whose time runs.
pub fn floor_of(setups: Vec<Placed>) -> Floor {
    let first = setups[0].setup_id;
    let mut floor = Floor::new(staged(setups), first);
    floor.join(1);
    floor.command(1, Command::Run { on: true });
    floor
}

pub fn drive(floor: &mut Floor, page: u32, axis: usize, rate: f64) {
    let mut rates = vec![0.0; floor.axes().len()];
    rates[axis] = rate;
    floor.command(page, Command::Drive { rates, nudges: vec![], fine: false });
}

/// No axis is quicker than its top speed, or changes its speed quicker than it can, from one step to the next.
pub fn assert_within_limits(floor: &Floor, before: &State, now: &State) {
    for (i, a) in floor.axes().iter().enumerate() {
        let push = (now.axes[i].speed - before.axes[i].speed).abs() / STEP_S;
        assert!(now.axes[i].speed.abs() <= a.unit.to_shown(a.top_speed) * 1.001, "{}", a.name);
        assert!(push <= a.unit.to_shown(a.top_acceleration) * 1.01 + 1e-3, "{}: {push}", a.name);
    }
}

/// Runs for a while with the page's hands on one axis.
pub fn hold(floor: &mut Floor, seconds: f64, axis: usize, rate: f64) {
    for i in 0..(seconds / STEP_S).round() as usize {
        if i.is_multiple_of(20) {
            drive(floor, 1, axis, rate);
        }
        floor.step();
    }
}

/// A barrel to run into, and a crate that stands on the machine of a setup.
pub fn barrel_and_crate(id: u32, position: [f64; 3], crate_id: u32, setup: u32) -> Arc<Obstacles> {
    let form = Form::Round { radius: 0.4, height: 1.1, material: Material::Timber };
    let barrel = Piece { id: PieceId(id), ..Piece::new("barrel", form, position) };
    let form = Form::Block { size: [0.4, 0.3, 0.4], material: Material::Timber };
    let on = Some(Carrier::Setup { id: SetupId(setup), moved: None });
    let crate_ = Piece { id: PieceId(crate_id), rides: on, ..Piece::new("crate", form, [0.4, 0.2, 0.3]) };
    let pieces = [barrel, crate_];
    let playing = PerformanceTimeline::compile(&pieces, &[], PerformanceId(1), &Clips::new());
    let playing = playing.carried_by(|on| Some(stands_at_origin(on.setup.0)));
    Arc::new(Obstacles::of(&pieces, &playing.into(), &Default::default()))
}

/// The ride on a machine that the scene has standing at the origin.
pub fn stands_at_origin(setup: u32) -> Ride {
    let track = CarrierTrack::of(20.0, |_| Pose::ORIGIN).into();
    Ride { setup: SetupId(setup), bound: false, start: Pose::ORIGIN, track }
}

/// The device "freed 1" is where it is now; it sends 120 times a second.
pub fn heard(floor: &mut Floor, pose: Pose, lens: Lens) {
    let now_s = floor.clock_s();
    let sample = Sample {
        device: "1".into(),
        time_s: Some(now_s + 99.0),
        sequence: Some((now_s * 120.0).round() as u16),
        rate_hz: Some(120.0),
        pose,
        lens,
    };
    let packet = Packet { time_s: now_s, port: 9, data: vec![7; 40] };
    floor.tracked(Some("freed 1"), Some(&sample), packet);
}
