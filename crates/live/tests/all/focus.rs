//! Focus that stays on somebody.

use crate::common::{drive, floor_of, hold, of, staged};
use rovnek_core::DVec3;
use rovnek_core::ids::{PerformanceId, PerformerId};
use rovnek_core::performer::{Clips, Part, PartMotion, Performer, Posture, Route, Waypoint};
use rovnek_core::playing::{PerformanceTimeline, SubjectPoints};
use rovnek_core::rigs::{FreeCamera, RigSpec};
use rovnek_live::command::Command;
use rovnek_live::floor::Staged;
use std::sync::Arc;

/// Somebody who walks from here to there in a time, and goes on standing.
fn walker(from: [f64; 3], to: [f64; 3], seconds: f64) -> SubjectPoints {
    let at = |time_s: f64, position: [f64; 3]| Waypoint {
        time_s,
        stop_s: 0.0,
        position,
        facing_deg: None,
        posture: Posture::Stand,
        mark: None,
    };
    let route = Route { waypoints: vec![at(0.0, from), at(seconds, to)].into() };
    let part = Part { performance: PerformanceId(1), rides: None, motion: PartMotion::Walks { route } };
    let performer =
        Performer { id: PerformerId(6), name: "fitter".into(), height_m: 1.7, build: 1.0, parts: vec![part] };
    let playing =
        PerformanceTimeline::compile(&[], std::slice::from_ref(&performer), PerformanceId(1), &Clips::new());
    SubjectPoints::of(&playing, &[performer], 20.0)
}

#[test]
fn focus_stays_on_somebody_until_a_hand_takes_it() {
    let people = Arc::new(walker([0.0, 0.0, -12.0], [0.0, 0.0, -4.0], 10.0));
    let rig = RigSpec::FreeCamera(FreeCamera { start_m: [0.0, 1.6, 0.0], ..FreeCamera::default() });
    let camera = of(3, rig);
    let mut floor = floor_of(vec![camera.clone()]);
    floor.stage(Staged { people: people.clone(), ..staged(vec![camera]) });
    floor.command(1, Command::Seek { time_s: 0.0 });
    floor.command(1, Command::FocusOn { performer: Some(PerformerId(6)) });
    floor.command(1, Command::Run { on: true });
    // The lens pulls from 4 m to them first; it goes on with them while the camera is pushed as well.
    hold(&mut floor, 2.0, 0, 0.0);
    let focus = floor.axes().iter().position(|a| a.name == "focus").unwrap();
    for k in 0..240 * 7 {
        if k % 20 == 0 {
            drive(&mut floor, 1, 2, if k > 240 { 0.2 } else { 0.0 });
        }
        floor.step();
        let state = floor.state();
        let eyes = people.eyes(PerformerId(6), state.scene_time_s).unwrap();
        let camera = state.rig_pose.camera;
        let far = (eyes - camera.position).dot(camera.rotation * DVec3::NEG_Z);
        assert!((state.lens.focus_m - far).abs() < 0.01, "{} of {far} m", state.lens.focus_m);
    }
    assert_eq!(floor.status().focus_on, Some(PerformerId(6)));
    hold(&mut floor, 0.5, focus, 1.0);
    assert_eq!(floor.status().focus_on, None);
}
