//! Who and what stands on a machine that hands drive.

use crate::common::{barrel_and_crate, drive, hold, of, somebody, staged, stands_at_origin};
use rovnek_core::DVec3;
use rovnek_core::carrier::Carrier;
use rovnek_core::clearance::Nearest;
use rovnek_core::ids::{MoveId, PerformanceId, PerformerId, PieceId, SetupId};
use rovnek_core::performer::{Clips, Part, PartMotion, Performer, Posture, Route, Waypoint};
use rovnek_core::playing::{CarrierTrack, MoverId, PerformanceTimeline, SubjectPoints};
use rovnek_core::rigs::{FreeCamera, FreeDolly, RigSpec, Rigging, Tripod};
use rovnek_core::space::Pose;
use rovnek_live::command::Command;
use rovnek_live::floor::{Floor, Placed, Staged};
use std::sync::Arc;

fn dolly() -> Placed {
    of(3, RigSpec::FreeDolly(FreeDolly::default()))
}

/// Where the dolly of setup 3 is: what is drawn of it first is its chassis.
fn chassis(floor: &Floor) -> Pose {
    let state = floor.state();
    let other = state.others.iter().find(|o| o.setup_id == SetupId(3)).map(|o| o.bodies[0]);
    other.unwrap_or(state.bodies[0])
}

/// Somebody who stands beside the post of setup 3's machine, which the scene has standing at the origin.
fn passenger(id: u32, at: [f64; 3]) -> SubjectPoints {
    let place = Waypoint {
        time_s: 0.0,
        stop_s: 0.0,
        position: at,
        facing_deg: Some(0.0),
        posture: Posture::Stand,
        mark: None,
    };
    let route = Route { waypoints: vec![place].into() };
    let rides = Some(Carrier::Setup { id: SetupId(3), moved: None });
    let part = Part { performance: PerformanceId(1), rides, motion: PartMotion::Walks { route } };
    let who = [Performer {
        id: PerformerId(id),
        name: "conductor".into(),
        height_m: 1.7,
        build: 1.0,
        parts: vec![part],
    }];
    let playing = PerformanceTimeline::compile(&[], &who, PerformanceId(1), &Clips::new());
    let playing = playing.carried_by(|on| Some(stands_at_origin(on.setup.0)));
    SubjectPoints::of(&playing, &who, 20.0)
}

#[test]
fn a_crate_on_a_dolly_goes_where_hands_push_the_dolly() {
    let scene = || Staged {
        obstacles: barrel_and_crate(12, [3.0, 0.0, -4.0], 13, 3),
        ..staged(vec![dolly(), of(9, RigSpec::Tripod(Tripod::default()))])
    };
    let mut floor = Floor::new(scene(), SetupId(3));
    floor.join(1);
    let stood = chassis(&floor).inverse().then(floor.state().riding[0].1[0]);
    let began = floor.state().riding[0].1[0].position;
    let (mut farthest, mut turned) = (0.0f64, 0.0f64);
    for (seconds, axis) in [(2.0, 0), (1.5, 1), (2.0, 0)] {
        hold(&mut floor, seconds, axis, 1.0);
        floor.look_round();
        let state = floor.state();
        let [(of, bodies)] = &state.riding[..] else { panic!("{:?}", state.riding) };
        assert_eq!(*of, MoverId::Piece(PieceId(13)));
        let now = chassis(&floor).inverse().then(bodies[0]);
        assert!(now.position.distance(stood.position) < 1e-9 && now.angle_to(stood) < 1e-9, "{now:?}");
        farthest = farthest.max(bodies[0].position.distance(began));
        turned = turned.max(bodies[0].angle_to(Pose::ORIGIN));
        // What a machine carries is nothing that it runs into.
        let room = state.clearance.map(|c| (c.to, c.of));
        assert_ne!(room, Some((MoverId::Piece(PieceId(13)), Nearest::Machine)));
    }
    assert!(farthest > 0.5 && turned > 0.1, "{farthest} m, {turned}");
    // Another setup is on the floor: the crate stays on the dolly, where that was left.
    let left = floor.state().riding[0].1[0].position;
    floor.put(SetupId(9));
    hold(&mut floor, 0.5, 0, 1.0);
    // A scene whose set has changed meanwhile has it there as well.
    floor.stage(scene());
    let now = chassis(&floor).inverse().then(floor.state().riding[0].1[0]);
    assert!(now.position.distance(stood.position) < 1e-9, "{now:?}");
    assert!(floor.state().riding[0].1[0].position.distance(left) < 0.5, "it coasts no farther");
}

#[test]
fn focus_stays_on_somebody_who_is_pushed_past() {
    let people = Arc::new(passenger(6, [0.3, 0.3, 0.2]));
    let air = FreeCamera { start_m: [0.0, 1.6, 6.0], ..FreeCamera::default() };
    let scene = Staged {
        people: people.clone(),
        obstacles: barrel_and_crate(12, [9.0, 0.0, 9.0], 13, 3),
        ..staged(vec![dolly(), of(9, RigSpec::FreeCamera(air))])
    };
    let mut floor = Floor::new(scene, SetupId(9));
    floor.join(1);
    floor.command(1, Command::FocusOn { performer: Some(PerformerId(6)) });
    hold(&mut floor, 1.5, 0, 0.0);
    floor.put(SetupId(3));
    for k in 0..240 * 4 {
        if k % 20 == 0 {
            drive(&mut floor, 1, 0, 1.0);
        }
        floor.step();
    }
    assert!(chassis(&floor).position.length() > 1.0);
    floor.put(SetupId(9));
    let state = floor.state();
    let camera = state.rig_pose.camera;
    let seen = people.at_on(0.0, &[(SetupId(3), carriage(&floor))].into()).next().unwrap().1.eyes;
    let far = (seen - camera.position).dot(camera.rotation * DVec3::NEG_Z);
    assert!((state.lens.focus_m - far).abs() < 0.02, "{} of {far} m", state.lens.focus_m);
    assert_eq!(floor.status().focus_on, Some(PerformerId(6)));
}

/// Where its carriage is.
fn carriage(floor: &Floor) -> Pose {
    let rig = dolly().rig.build(&dolly().camera);
    let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
    let (began, carriage) = (rig.body_poses(&start)[0], rig.forward(&start).carriage);
    chassis(floor).then(began.inverse()).then(carriage)
}

#[test]
fn a_machine_on_a_machine_or_on_what_that_carries_goes_where_hands_push_it() {
    let carried = |setup_id: u32, by: Carrier| {
        let tripod = of(setup_id, RigSpec::Tripod(Tripod::default()));
        let carrier = Some(CarrierTrack::of(20.0, |_| Pose::ORIGIN).into());
        Placed { rig: Rigging { carried: Some(by), ..tripod.rig }, carrier, ..tripod }
    };
    let scene = Staged {
        obstacles: barrel_and_crate(12, [3.0, 0.0, -4.0], 13, 3),
        cast: vec![somebody(6)].into(),
        ..staged(vec![
            dolly(),
            carried(8, Carrier::Setup { id: SetupId(3), moved: None }),
            carried(9, Carrier::Piece { id: PieceId(13) }),
            carried(10, Carrier::Setup { id: SetupId(3), moved: Some(MoveId(4)) }),
            carried(11, Carrier::Performer { id: PerformerId(6) }),
        ])
    };
    let mut floor = Floor::new(scene, SetupId(3));
    floor.join(1);
    let cameras = |floor: &Floor| -> Vec<Pose> { floor.state().others.iter().map(|o| o.camera).collect() };
    let first = cameras(&floor);
    let on_dolly = |floor: &Floor, i: usize| chassis(floor).inverse().then(cameras(floor)[i]);
    let stood = [0, 1].map(|i| on_dolly(&floor, i));
    for seconds in [0.5, 0.5, 1.0] {
        hold(&mut floor, seconds, 0, 1.0);
        for i in [0, 1] {
            // A step late: what carries is pushed in the same step.
            assert!(on_dolly(&floor, i).position.distance(stood[i].position) < 0.01);
        }
    }
    assert!(chassis(&floor).position.length() > 0.7);
    // At rest, and after the scene's time was set, they are where they stand on it.
    hold(&mut floor, 6.0, 0, 0.0);
    let at_rest = |floor: &Floor| {
        for i in [0, 1] {
            let (is, stood) = (on_dolly(floor, i), stood[i]);
            assert!(is.position.distance(stood.position) < 1e-6, "{i}: {is:?} {stood:?}");
        }
    };
    at_rest(&floor);
    floor.command(1, Command::Seek { time_s: 3.0 });
    at_rest(&floor);
    // One that is bound to a move stays where that has it; one in the hands of somebody goes where they are driven.
    assert!(cameras(&floor)[2].position.distance(first[2].position) < 1e-9);
    floor.command(1, Command::Act { who: Some(MoverId::Performer(PerformerId(6))), alone: false });
    hold(&mut floor, 0.1, 0, 0.0);
    let driven = floor.state().acting.unwrap().1[0].position;
    let at = cameras(&floor)[3].position;
    assert!((at.x - driven.x).hypot(at.z - driven.z) < 0.3, "{at} {driven}");
    assert!(at.distance(first[3].position) > 1.0);
}
