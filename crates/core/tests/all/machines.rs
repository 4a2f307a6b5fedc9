//! Every machine: forward against pytransform3d, inverse against forward, and what hostile hands
//! can make of it.

use crate::common::{Dice, values};
use rovnek_core::axis::Axis;
use rovnek_core::axis_motion::{AxisMotion, Demand, Hand, STEP_S};
use rovnek_core::carrier::Carrier;
use rovnek_core::ids::{PerformerId, PieceId};
use rovnek_core::lens::Camera;
use rovnek_core::line::spline::{RailPoint, circle};
use rovnek_core::params::{Holds, Param};
use rovnek_core::rigs::{
    BentRail, DollyTrack, Facing, FreeCamera, FreeDolly, OrbitArm, Reach, Rig, RigSpec, Rigging, Shoulder,
    Steering, Surroundings, TelescopicCrane, There, TrackDolly, TrackPiece, Tripod,
};
use rovnek_core::space::{PanTiltRoll, Pose, heading};
use rovnek_core::walls::{CLEAR_M, Wall};
use rovnek_core::{DQuat, DVec3};

/// Every machine as it comes, and those that have more than one way to be.
pub fn all() -> Vec<Rigging> {
    let mut specs = RigSpec::all();
    let pieces = vec![
        TrackPiece::Straight { length_m: 2.44, rise_m: 0.1 },
        TrackPiece::Curve { radius_m: 3.0, turn_deg: 45.0, rise_m: 0.0 },
        TrackPiece::Curve { radius_m: 2.0, turn_deg: -60.0, rise_m: -0.1 },
    ];
    let track = DollyTrack { x_m: 1.0, heading_deg: 30.0, pieces: pieces.into(), ..DollyTrack::default() };
    specs.push(RigSpec::TrackDolly(TrackDolly { track: track.clone(), ..TrackDolly::default() }));
    let on_track = TelescopicCrane { track: Some(track), ..TelescopicCrane::default() };
    specs.push(RigSpec::TelescopicCrane(on_track));
    for steering in [Steering::Crab, Steering::Round] {
        specs.push(RigSpec::FreeDolly(FreeDolly { steering, ..FreeDolly::default() }));
    }
    for facing in [Facing::Along, Facing::Aims] {
        let points = circle([0.5, 1.3, -2.0], 2.5, 6);
        let rail = BentRail {
            points: points.into(),
            closed: true,
            facing,
            follows: Some(PerformerId(4)),
            ..BentRail::default()
        };
        specs.push(RigSpec::Rail(rail));
    }
    specs.push(RigSpec::OrbitArm(OrbitArm { follows: Some(PerformerId(4)), ..OrbitArm::default() }));
    specs.push(RigSpec::FreeCamera(FreeCamera { floor: true, walls: true, ..FreeCamera::default() }));
    specs.push(RigSpec::Shoulder(Shoulder { stabiliser: 0.5, ..Shoulder::default() }));
    let mut all: Vec<Rigging> = specs.into_iter().map(Rigging::from).collect();
    let carried: Vec<Rigging> = all
        .iter()
        .map(|r| Rigging { carried: Some(Carrier::Piece { id: PieceId(7) }), ..r.clone() })
        .collect();
    all.extend(carried);
    all
}

pub fn build(rigging: &Rigging) -> Box<dyn Rig> {
    assert_eq!(rigging.spec.check(), Ok(()));
    rigging.build(&Camera::default())
}

#[test]
fn forward_agrees_with_pytransform3d() {
    let file = values("machines");
    let cases = file["cases"].as_array().unwrap();
    assert_eq!(cases.len(), 400);
    for case in cases {
        let spec: RigSpec = serde_json::from_value(case["spec"].clone()).unwrap();
        let mut axes: Vec<f64> = serde_json::from_value(case["axes"].clone()).unwrap();
        axes.extend([35.0, 5.0, 4.0]);
        let rig = spec.build(&Camera::default());
        assert_eq!(axes.len(), rig.axes().len());
        let camera = rig.forward(&axes).camera;
        let position: [f64; 3] = serde_json::from_value(case["position"].clone()).unwrap();
        let quaternion: [f64; 4] = serde_json::from_value(case["quaternion"].clone()).unwrap();
        let off = camera.position.distance(DVec3::from(position));
        assert!(off < 1e-9, "{off} m: {spec:?}");
        let off = camera.angle_to(Pose::new(DVec3::ZERO, DQuat::from_array(quaternion).normalize()));
        assert!(off < 1e-9, "{off} rad: {spec:?}");
    }
}

/// Random values within the limits of all axes.
pub fn anywhere(axes: &[Axis], dice: &mut Dice) -> Vec<f64> {
    axes.iter().map(|a| dice.between(a.min.max(-6.0), a.max.min(6.0))).collect()
}

#[test]
fn inverse_undoes_forward() {
    let mut dice = Dice::new();
    for rigging in all() {
        if matches!(rigging.spec, RigSpec::SquareToCard(_)) {
            // It stands where its card wants it; its own test says so.
            continue;
        }
        let rig = build(&rigging);
        for _ in 0..300 {
            let axes = anywhere(rig.axes(), &mut dice);
            let camera = rig.forward(&axes).camera;
            let back = rig.inverse(camera, &axes);
            let Reach::Within(back) = back else { panic!("{back:?}: {axes:?} of {rigging:?}") };
            let again = rig.forward(&[&back[..], &axes[back.len()..]].concat()).camera;
            let off = again.position.distance(camera.position).max(again.angle_to(camera));
            assert!(off < 1e-9, "{off}: {axes:?} of {rigging:?}");
        }
    }
}

#[test]
fn out_of_reach_the_shortfall_is_true_and_something_is_named() {
    let mut dice = Dice::new();
    for rigging in all() {
        let rig = build(&rigging);
        for _ in 0..60 {
            let near = anywhere(rig.axes(), &mut dice);
            let place = DVec3::from([0; 3].map(|_| dice.between(-15.0, 15.0)));
            let wanted = Pose::new(place, heading(dice.between(-3.0, 3.0)));
            let reach = rig.inverse(wanted, &near);
            let axes = [reach.axes(), &near[reach.axes().len()..]].concat();
            let carrying = rig.axes().iter().zip(reach.axes());
            for (axis, value) in carrying.filter(|(a, _)| a.hand.is_some()) {
                assert!(axis.beyond(*value) < 1e-9, "{} at {value} of {rigging:?}", axis.name);
            }
            let off = rig.forward(&axes).camera.position.distance(place);
            assert!((off - reach.shortfall_m()).abs() < 1e-9, "{off} {reach:?} of {rigging:?}");
            if let Reach::Short { limits, .. } = reach {
                assert!(!limits.is_empty());
            }
        }
    }
}

/// Hands that hold, flick, let go and reverse, for ten minutes.
fn hostile(rigging: &Rigging, minutes: f64) {
    let rig = build(rigging);
    let mut dice = Dice::new();
    let mut motions: Vec<AxisMotion> = rig.axes().iter().map(|a| AxisMotion::at(a.start)).collect();
    let walls: Vec<Wall> = Vec::new();
    let mut hands = vec![Hand::default(); motions.len()];
    let mut left = 0;
    for step in 0..(minutes * 60.0 / STEP_S) as usize {
        if left == 0 {
            left = dice.between(1.0, 200.0) as usize;
            let flick = dice.between(0.0, 1.0) < 0.3;
            for hand in &mut hands {
                let rate = dice.between(-3.0, 3.0).round() / if flick { 1.0 } else { 3.0 };
                let nudge = if dice.between(0.0, 1.0) < 0.05 { dice.between(-2.0, 2.0) } else { 0.0 };
                let brake = dice.between(0.0, 1.0) < 0.1;
                let drag_s = if dice.between(0.0, 1.0) < 0.5 { 0.0 } else { 0.3 };
                *hand = Hand { demand: Demand { rate, dial: 1.0, nudge, brake }, drag_s };
            }
        } else {
            hands.iter_mut().for_each(|h| h.demand.nudge = 0.0);
        }
        left -= 1;
        let t = step as f64 * STEP_S;
        let around = Surroundings {
            carrier: Some(Pose::new(DVec3::new(t, 0.0, 0.0), heading(t))),
            subject: Some(DVec3::new(0.0, 1.6, t)),
            device: None,
            walls: &walls,
        };
        let before = motions.clone();
        rig.write_surroundings(&mut motions, &around);
        rig.step(&mut motions, &hands, &around, STEP_S);
        rig.derive(&mut motions, STEP_S);
        for ((axis, now), old) in rig.axes().iter().zip(&motions).zip(&before) {
            if axis.hand.is_none() {
                continue;
            }
            let what = || format!("{} from {old:?} to {now:?} of {rigging:?}", axis.name);
            assert!(axis.allows(now.value), "{}", what());
            assert!(now.speed.abs() <= axis.top_speed * (1.0 + 1e-9), "{}", what());
            assert!((now.speed - old.speed).abs() <= axis.top_acceleration * STEP_S + 1e-7, "{}", what());
            assert!((now.value - old.value - now.speed * STEP_S).abs() < 1e-9, "{}", what());
        }
        assert!(
            rig.forward(&motions.iter().map(|m| m.value).collect::<Vec<_>>()).camera.position.is_finite()
        );
    }
}

#[test]
fn ten_minutes_of_hostile_hands_never_break_a_limit() {
    std::thread::scope(|scope| {
        for rigging in all() {
            scope.spawn(move || hostile(&rigging, 10.0));
        }
    });
}

fn push(rig: &dyn Rig, motions: &mut [AxisMotion], rates: &[(usize, f64)], seconds: f64) {
    let mut hands = vec![Hand::default(); motions.len()];
    for (i, rate) in rates {
        hands[*i].demand = Demand { rate: *rate, dial: 1.0, ..Demand::default() };
    }
    for _ in 0..(seconds / STEP_S).round() as usize {
        rig.step(motions, &hands, &Surroundings::default(), STEP_S);
        rig.derive(motions, STEP_S);
    }
}

fn at_start(rig: &dyn Rig) -> Vec<AxisMotion> {
    rig.axes().iter().map(|a| AxisMotion::at(a.start)).collect()
}

/// A steered dolly turns on the circle its wheels stand for: wheelbase / tan(steer).
#[test]
fn a_steered_dolly_turns_on_its_circle_and_a_crabbing_one_keeps_its_heading() {
    for (steering, lever) in [(Steering::Rear, 1.0), (Steering::Round, 0.5)] {
        let spec = FreeDolly { steering, wheelbase_m: 1.0, ..FreeDolly::default() };
        let rig = RigSpec::FreeDolly(spec).build(&Camera::default());
        let mut m = at_start(&*rig);
        push(&*rig, &mut m, &[(1, 1.0)], 3.0);
        let steer = m[1].value;
        assert!((steer - 40f64.to_radians()).abs() < 1e-9);
        let radius = lever / steer.tan();
        push(&*rig, &mut m, &[(0, 1.0)], 8.0);
        // Positive steers to the right: the middle of the circle lies at +x.
        let place = DVec3::new(m[3].value, 0.0, m[4].value);
        assert!((place.distance(DVec3::new(radius, 0.0, 0.0)) - radius).abs() < 1e-9);
        assert!((m[5].value - m[0].value / radius).abs() < 1e-9);
    }
    let crab = FreeDolly { steering: Steering::Crab, ..FreeDolly::default() };
    let rig = RigSpec::FreeDolly(crab).build(&Camera::default());
    let mut m = at_start(&*rig);
    push(&*rig, &mut m, &[(1, 1.0)], 3.0);
    push(&*rig, &mut m, &[(0, 1.0)], 3.0);
    assert!((m[3].value - m[0].value).abs() < 1e-9 && m[4].value.abs() < 1e-9 && m[5].value == 0.0);
}

#[test]
fn wheels_roll_and_do_not_slip() {
    for steering in [Steering::Rear, Steering::Round, Steering::Crab] {
        let spec = FreeDolly { steering, ..FreeDolly::default() };
        let rig = RigSpec::FreeDolly(spec).build(&Camera::default());
        let mut m = at_start(&*rig);
        push(&*rig, &mut m, &[(0, 1.0), (1, 0.4)], 1.0);
        let values = |m: &[AxisMotion]| m.iter().map(|m| m.value).collect::<Vec<_>>();
        let wheels: Vec<usize> =
            (0..rig.bodies().len()).filter(|i| rig.bodies()[*i].name == "wheel").collect();
        assert_eq!(wheels.len(), 4);
        let before = rig.body_poses(&values(&m));
        push(&*rig, &mut m, &[(0, 1.0), (1, 0.4)], STEP_S);
        let after = rig.body_poses(&values(&m));
        // Each axle's middle moves the way its wheels point.
        for pair in wheels.chunks(2) {
            let middle = |at: &[Pose]| (at[pair[0]].position + at[pair[1]].position) / 2.0;
            let moved = middle(&after) - middle(&before);
            let across = before[pair[0]].towards(after[pair[0]], 0.5).rotation * DVec3::X;
            assert!(moved.length() > 1e-3);
            assert!(
                (moved.normalize().dot(across)).abs() < 2e-3,
                "{steering:?} {}",
                moved.normalize().dot(across)
            );
        }
    }
}

#[test]
fn a_walker_steps_with_the_way_and_a_gimbal_takes_it_out() {
    let tilts = |stabiliser: f64| {
        let rig = RigSpec::Shoulder(Shoulder { stabiliser, ..Shoulder::default() }).build(&Camera::default());
        let mut m = at_start(&*rig);
        push(&*rig, &mut m, &[(1, 0.6)], 2.0);
        let mut looks = Vec::new();
        for _ in 0..480 {
            push(&*rig, &mut m, &[(1, 0.6)], STEP_S);
            let camera = rig.forward(&m.iter().map(|m| m.value).collect::<Vec<_>>()).camera;
            looks.push((camera.position.y, (camera.rotation * DVec3::NEG_Z).y));
        }
        let span = |of: &dyn Fn(&(f64, f64)) -> f64| {
            looks.iter().map(of).fold(f64::MIN, f64::max) - looks.iter().map(of).fold(f64::MAX, f64::min)
        };
        assert!((m[1].value + m[4].value).abs() < 1e-9, "walked straight ahead");
        (span(&|l| l.0), span(&|l| l.1))
    };
    let (bare, none) = (tilts(0.0), tilts(1.0));
    assert!((0.03..0.06).contains(&bare.0), "rises and falls {} m", bare.0);
    assert!(none.0 < 0.25 * bare.0 && none.1 < 1e-12, "{none:?}");
}

#[test]
fn what_is_carried_goes_along() {
    let spec = RigSpec::Tripod(Default::default());
    let rig = Rigging { spec, carried: Some(Carrier::Piece { id: PieceId(7) }) }.build(&Camera::default());
    let mut m = at_start(&*rig);
    let tram = Pose::new(DVec3::new(4.0, 0.35, -2.0), heading(0.5));
    rig.write_surroundings(&mut m, &Surroundings { carrier: Some(tram), ..Surroundings::default() });
    let values: Vec<f64> = m.iter().map(|m| m.value).collect();
    let camera = rig.forward(&values).camera;
    assert!(camera.position.distance(DVec3::new(4.0, 0.35 + 1.55, -2.0)) < 1e-9);
    assert!(camera.angle_to(tram) < 1e-9);
}

#[test]
fn a_free_camera_brakes_before_a_wall_and_slides_along_it() {
    let spec = FreeCamera { start_m: [0.0, 1.5, 0.0], walls: true, floor: true, ..FreeCamera::default() };
    let rig = RigSpec::FreeCamera(spec).build(&Camera::default());
    let wall = rovnek_core::solid::cuboid(
        "wall",
        [20.0, 3.0, 0.2],
        [0.0, 1.5, -4.1],
        rovnek_core::solid::Material::Plaster,
    );
    let walls = [Wall::around(&wall)];
    let mut m = at_start(&*rig);
    let mut hands = vec![Hand::default(); m.len()];
    for (i, rate) in [(0, 0.3), (1, -1.0), (2, 1.0)] {
        hands[i].demand = Demand { rate, dial: 1.0, ..Demand::default() };
    }
    for _ in 0..240 * 6 {
        let before = DVec3::new(m[0].speed, m[1].speed, m[2].speed);
        rig.step(&mut m, &hands, &Surroundings { walls: &walls, ..Surroundings::default() }, STEP_S);
        let now = DVec3::new(m[0].speed, m[1].speed, m[2].speed);
        assert!(m[2].value > -4.0 + CLEAR_M - 1e-9 && m[1].value >= 0.1);
        assert!((now - before).abs().max_element() <= 6.0 * STEP_S + 1e-7);
    }
    assert!((m[2].value + 4.0 - CLEAR_M).abs() < 1e-3, "{}", m[2].value);
    assert!((m[1].value - 0.1).abs() < 1e-9 && m[0].value > 2.0);
}

#[test]
fn impossible_parameters_are_refused_with_a_sentence() {
    let rail = |points: Vec<RailPoint>, closed| {
        RigSpec::Rail(BentRail { points: points.into(), closed, ..Default::default() })
    };
    let curve = |radius_m, turn_deg, rise_m| {
        let pieces = vec![TrackPiece::Curve { radius_m, turn_deg, rise_m }];
        RigSpec::TrackDolly(TrackDolly {
            track: DollyTrack { pieces: pieces.into(), ..DollyTrack::default() },
            ..TrackDolly::default()
        })
    };
    let tripod = |height_min_m, height_max_m| {
        RigSpec::Tripod(Tripod { height_min_m, height_max_m, ..Tripod::default() })
    };
    let p = RailPoint::at;
    for (spec, words) in [
        (rail(vec![p([0.0; 3])], false), "through 2 to 60 points"),
        (rail(vec![p([0.0; 3]), p([1.0; 3])], true), "through 3 to 60 points"),
        (rail(vec![p([0.0; 3]), p([1.0; 3]), p([1.0; 3])], false), "points 2 and 3"),
        (rail(vec![p([0.0; 3]), p([f64::NAN; 3])], false), "plain number"),
        (tripod(1.0, 9.0), "Highest lens is 9 m; give 0.3 to 4 m"),
        (tripod(1.5, 1.2), "from 1.5 to 1.2"),
        (tripod(f64::NAN, 1.2), "Lowest lens"),
        (curve(0.1, 45.0, 0.0), "track piece 1"),
        (curve(3.0, 0.0, 0.0), "turns by 1°"),
        (curve(3.0, 45.0, 2.0), "climbs at most"),
    ] {
        let Err(refused) = spec.check() else { panic!("{spec:?} is taken") };
        assert!(refused.sentence.contains(words), "{refused}");
    }
}

/// Numbers of a description, in rows or alone.
fn numbers(params: &[Param]) -> Vec<(&'static str, f64)> {
    let of = |param: &Param| match &param.holds {
        Holds::Number { start, .. } => vec![(param.path, *start)],
        Holds::Row { params } => numbers(params),
        _ => Vec::new(),
    };
    params.iter().flat_map(of).collect()
}

#[test]
fn what_a_machine_says_of_itself_is_what_is_kept_of_it() {
    for rigging in all() {
        let spec = rigging.spec;
        let kept = serde_json::to_value(&spec).unwrap();
        let at = |path: &str| kept.pointer(&format!("/{path}")).unwrap_or_else(|| panic!("{path}: {kept}"));
        for (path, now) in numbers(&spec.params()) {
            // What is missing stands where it would begin.
            assert!(at(path).is_null() || at(path).as_f64() == Some(now), "{path} of {}", spec.word());
        }
        for param in spec.params().iter().filter(|p| !p.path.is_empty()) {
            at(param.path);
            param.presets.iter().flat_map(|p| &p.sets).for_each(|(path, _)| assert!(at(path).is_number()));
        }
        for path in spec.placement().into_iter().flatten() {
            assert!(at(path).is_number(), "{path} of {}", spec.word());
        }
    }
}

#[test]
fn a_machine_is_put_where_a_camera_is_and_looks_the_same_way() {
    for (x, z, pan) in [(4.0, 1.0, 90.0_f64), (-3.0, -2.0, -35.0), (0.0, 0.0, 0.0)] {
        let turn = PanTiltRoll { pan: pan.to_radians(), tilt: 0.0, roll: 0.0 };
        let there = There { position: DVec3::new(x, 1.6, z), turn };
        for spec in RigSpec::all().into_iter().filter(|s| !matches!(s, RigSpec::SquareToCard(_))) {
            let spec = spec.put(&there);
            assert_eq!(spec.check(), Ok(()));
            let rig = spec.build(&Camera::default());
            // A track lies to both sides of where the camera was.
            let stands = |a: &Axis| if a.name == "travel" { (a.min + a.max) / 2.0 } else { a.start };
            let camera = rig.forward(&rig.axes().iter().map(stands).collect::<Vec<_>>()).camera;
            let off = camera.position.with_y(0.0).distance(there.position.with_y(0.0));
            // An arm has a tilt of its own where it starts.
            let apart = PanTiltRoll::from_rotation(camera.rotation).pan - turn.pan;
            let turned = apart.sin().atan2(apart.cos()).abs().to_degrees();
            assert!(off < 1.0, "{} stands {off} m off", spec.word());
            assert!(turned < 1.0, "{} looks {turned}° elsewhere", spec.word());
        }
    }
}

#[test]
fn a_rail_aims_beside_somebody_and_hands_move_the_aim_point() {
    let points = circle([0.5, 1.3, -2.0], 2.5, 6).into();
    let offset = DVec3::new(0.3, -0.2, 0.1);
    let rail = BentRail {
        points,
        closed: true,
        facing: Facing::Aims,
        follows: Some(PerformerId(4)),
        offset_m: offset.to_array(),
        ..BentRail::default()
    };
    let rig = build(&RigSpec::Rail(rail).into());
    let names: Vec<&str> = rig.axes().iter().map(|a| a.name).collect();
    assert_eq!(names[..4], ["travel", "aim x", "aim y", "aim z"]);
    assert_eq!(rig.operator_axes(), 1..4, "the camera is solved around the aim point, not with it");
    let mut motions: Vec<AxisMotion> = rig.axes().iter().map(|a| AxisMotion::at(a.start)).collect();
    let eyes = DVec3::new(0.8, 1.65, -2.3);
    rig.write_surroundings(&mut motions, &Surroundings { subject: Some(eyes), ..Surroundings::default() });
    let by_hand = DVec3::new(0.0, 0.4, -0.5);
    for (moved, beside) in [(DVec3::ZERO, offset), (by_hand, offset + by_hand)] {
        for travel in [0.0, 3.0, 7.5, 12.0] {
            let mut axes: Vec<f64> = motions.iter().map(|m| m.value).collect();
            axes[0] = travel;
            (0..3).for_each(|k| axes[1 + k] += moved[k]);
            let camera = rig.forward(&axes).camera;
            let towards = (eyes + beside - camera.position).normalize();
            assert!((camera.rotation * DVec3::NEG_Z).dot(towards) > 1.0 - 1e-12, "{travel}");
        }
    }
}
