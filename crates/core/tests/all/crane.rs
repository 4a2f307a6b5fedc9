//! The telescopic crane against pytransform3d, against itself, and against brute force.

use crate::common::{Dice, values};
use rovnek_core::lens::Camera;
use rovnek_core::rigs::{HeadHang, HeadHeading, Jib, Reach, Rig, RigSpec, TelescopicCrane};
use rovnek_core::space::Pose;
use rovnek_core::{DQuat, DVec3};

fn any_crane(dice: &mut Dice) -> TelescopicCrane {
    TelescopicCrane {
        base_x_m: dice.between(-9.0, 9.0),
        base_z_m: dice.between(-9.0, 9.0),
        heading_deg: dice.between(-180.0, 180.0),
        column_height_m: dice.between(0.8, 3.0),
        head_drop_m: dice.between(0.0, 1.0),
        head: if dice.between(0.0, 1.0) < 0.5 { HeadHang::Level } else { HeadHang::Lean },
        head_heading: if dice.between(0.0, 1.0) < 0.5 { HeadHeading::Arm } else { HeadHeading::Held },
        ..TelescopicCrane::default()
    }
}

fn build(spec: &TelescopicCrane) -> Box<dyn Rig> {
    RigSpec::TelescopicCrane(spec.clone()).build(&Camera::default())
}

#[test]
fn forward_agrees_with_pytransform3d() {
    let file = values("crane");
    let cases = file["cases"].as_array().unwrap();
    assert_eq!(cases.len(), 60);
    for case in cases {
        let spec: TelescopicCrane = serde_json::from_value(case["spec"].clone()).unwrap();
        let mut axes: Vec<f64> = serde_json::from_value(case["axes"].clone()).unwrap();
        axes.extend([35.0, 5.0]);
        let camera = build(&spec).forward(&axes).camera;
        let position: [f64; 3] = serde_json::from_value(case["position"].clone()).unwrap();
        let quaternion: [f64; 4] = serde_json::from_value(case["quaternion"].clone()).unwrap();
        assert!(camera.position.distance(DVec3::from(position)) < 1e-9);
        assert!(camera.angle_to(Pose::new(DVec3::ZERO, DQuat::from_array(quaternion))) < 1e-9);
    }
}

#[test]
fn inverse_undoes_forward_over_10_000_poses() {
    let mut dice = Dice::new();
    for _ in 0..10_000 {
        let rig = build(&any_crane(&mut dice));
        let axes: Vec<f64> =
            rig.axes().iter().map(|a| dice.between(a.min.max(-9.0), a.max.min(9.0))).collect();
        let camera = rig.forward(&axes).camera;
        let Reach::Within(back) = rig.inverse(camera, &axes) else { panic!("{axes:?} is reachable") };
        let again = rig.forward(&[&back[..], &axes[6..]].concat()).camera;
        assert!(again.position.distance(camera.position) < 1e-9);
        assert!(again.angle_to(camera) < 1e-9);
        for i in 0..3 {
            assert!((back[i] - axes[i]).abs() < 1e-9, "axis {i}: {} is not {}", back[i], axes[i]);
        }
    }
}

/// The smallest distance over a grid of boom and reach (and swing, where limited), refined around
/// its best cell until the grid is finer than a micrometre.
fn brute_force(rig: &dyn Rig, wanted: DVec3, spec: &TelescopicCrane) -> f64 {
    let local = wanted - DVec3::new(spec.base_x_m, 0.0, spec.base_z_m);
    let bearing = local.x.atan2(-local.z) - spec.heading_deg.to_radians();
    let swing = match spec.swing_limit_deg {
        Some(s) => (-s.to_radians(), s.to_radians()),
        None => (bearing, bearing),
    };
    let axes = rig.axes();
    let mut ranges = [swing, (axes[1].min, axes[1].max), (axes[2].min, axes[2].max)];
    let whole = ranges;
    let mut best = (f64::INFINITY, [0.0; 3]);
    for _ in 0..14 {
        let n = 14;
        let at = |(low, high): (f64, f64), i: i32| low + (high - low) * f64::from(i) / f64::from(n);
        for i in 0..=n {
            for j in 0..=n {
                for k in 0..=n {
                    let p = [at(ranges[0], i), at(ranges[1], j), at(ranges[2], k)];
                    let lens = rig.forward(&[p[0], p[1], p[2], 0.0, 0.0, 0.0, 35.0, 5.0]).camera.position;
                    let d = lens.distance(wanted);
                    if d < best.0 {
                        best = (d, p);
                    }
                }
            }
        }
        for axis in 0..3 {
            let half = (ranges[axis].1 - ranges[axis].0) / 5.0;
            ranges[axis] =
                ((best.1[axis] - half).max(whole[axis].0), (best.1[axis] + half).min(whole[axis].1));
        }
    }
    best.0
}

#[test]
fn out_of_reach_distances_agree_with_brute_force() {
    let mut dice = Dice::new();
    let mut short = 0;
    for case in 0..60 {
        let mut spec = any_crane(&mut dice);
        if case % 3 == 0 {
            spec.swing_limit_deg = Some(dice.between(20.0, 120.0));
        }
        let rig = build(&spec);
        let around = DVec3::new(spec.base_x_m, 2.0, spec.base_z_m);
        let wanted = around
            + DVec3::new(dice.between(-11.0, 11.0), dice.between(-6.0, 9.0), dice.between(-11.0, 11.0));
        let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        let reach = rig.inverse(Pose::new(wanted, DQuat::IDENTITY), &start);
        let found = rig.forward(&[reach.axes(), &[35.0, 5.0]].concat()).camera.position.distance(wanted);
        let least = brute_force(&*rig, wanted, &spec);
        assert!(
            (found - least).abs() < 1e-4,
            "case {case}: {found} m, brute force {least} m, {spec:?} {wanted}"
        );
        if let Reach::Short { shortfall_m, limits, .. } = &reach {
            assert!((shortfall_m - found).abs() < 1e-12);
            assert!(!limits.is_empty(), "an end stop is named for {shortfall_m} m");
            short += usize::from(found > 1e-6);
        }
    }
    assert!(short > 20, "only {short} of the cases were out of reach");
}

#[test]
fn the_limit_that_stops_it_is_named() {
    let spec = TelescopicCrane::default();
    let rig = build(&spec);
    let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
    let at = |x: f64, y: f64, z: f64| rig.inverse(Pose::new(DVec3::new(x, y, z), DQuat::IDENTITY), &start);
    let Reach::Short { shortfall_m, limits, .. } = at(0.0, 1.15, -9.62) else { panic!("two metres too far") };
    assert!((shortfall_m - 2.0).abs() < 1e-9);
    assert_eq!(limits, ["reach, longest"]);
    let Reach::Short { limits, .. } = at(0.0, 9.0, -1.0) else { panic!("too high") };
    assert!(limits.contains(&"boom, highest".to_string()));
}

/// Held, the head looks where it looked however the arm swings, booms and its base turns; a head that leans
/// tilts with the boom all the same.
#[test]
fn a_held_heading_is_held_and_a_tilt_that_is_coupled_is_not() {
    let crane = TelescopicCrane {
        head_heading: HeadHeading::Held,
        heading_deg: 30.0,
        free: true,
        ..Default::default()
    };
    let jib = Jib { head_heading: HeadHeading::Held, heading_deg: 30.0, ..Jib::default() };
    for rig in [build(&crane), RigSpec::Jib(jib.clone()).build(&Camera::default())] {
        let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        let looks = |axes: &[f64]| rig.forward(axes).camera;
        let mut swung = start.clone();
        swung[0] = 90.0_f64.to_radians();
        let turns = rig.axes().iter().position(|a| a.name == "base turn");
        turns.into_iter().for_each(|i| swung[i] += 1.1);
        assert!(looks(&swung).angle_to(looks(&start)) < 1e-9);
        assert!(looks(&swung).position.distance(looks(&start).position) > 1.0);
    }
    let with_arm = RigSpec::Jib(Jib { head_heading: HeadHeading::Arm, ..jib.clone() });
    let leaning = RigSpec::Jib(Jib { head: HeadHang::Lean, ..jib });
    for (spec, axis, turned_deg) in [(with_arm, 0, 90.0), (leaning.clone(), 1, 20.0), (leaning, 0, 0.0)] {
        let rig = spec.build(&Camera::default());
        let mut axes: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        let (tilt, before) = (rig.axes().iter().position(|a| a.name == "tilt").unwrap(), axes.clone());
        axes[tilt] = 0.0;
        let level = rig.forward(&axes).camera;
        axes[axis] += f64::to_radians(if axis == 0 { 90.0 } else { 20.0 });
        let by = rig.forward(&axes).camera.angle_to(level).to_degrees();
        assert!((by - turned_deg).abs() < 1e-9, "{by} from {before:?}");
    }
}

/// A full turn has no seam: following a circle, the swing goes on past half a turn.
#[test]
fn following_a_circle_does_not_jump() {
    let rig = build(&TelescopicCrane::default());
    let mut near: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
    for i in 0..=720 {
        let a = f64::from(i).to_radians();
        let wanted = Pose::new(DVec3::new(4.0 * a.sin(), 2.0, -4.0 * a.cos()), DQuat::IDENTITY);
        near = rig.inverse(wanted, &near).axes().to_vec();
    }
    assert!((near[0].to_degrees() - 720.0).abs() < 1e-6);
}

#[test]
fn the_drawn_arm_ends_where_the_head_hangs() {
    let spec = TelescopicCrane::default();
    let rig = build(&spec);
    let axes = [0.7, 0.3, 6.1, 0.0, 0.0, 0.0, 35.0, 5.0];
    let index = rig.bodies().iter().position(|b| b.name == "arm stage 3").unwrap();
    let rovnek_core::solid::Shape::Box { size } = rig.bodies()[index].shape else { panic!("a box") };
    let tip =
        rig.body_poses(&axes)[index].then(Pose::new(DVec3::new(0.0, 0.0, -size[2] / 2.0), DQuat::IDENTITY));
    let over = rig.forward(&axes).camera.position + DVec3::new(0.0, spec.head_drop_m, 0.0);
    assert!(tip.position.distance(over) < 1e-9);
}
