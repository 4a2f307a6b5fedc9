//! Handles of every machine: a drag against the machine's inverse, and each handle where the hand wants it.

use crate::common::Dice;
use crate::machines::{all, anywhere, build};
use rovnek_core::DVec3;
use rovnek_core::carrier::Carrier;
use rovnek_core::ids::PieceId;
use rovnek_core::rigs::handles::{Dragged, Grip, dragged, handles, place, traces};
use rovnek_core::rigs::{OrbitArm, Reach, Rig, RigSpec, Rigging};
use rovnek_core::space::Pose;

fn near(dice: &mut Dice, at: DVec3, m: f64) -> DVec3 {
    at + DVec3::new(dice.between(-m, m), dice.between(-m, m), dice.between(-m, m))
}

/// Random values within the limits of all axes, on a lens as it comes.
fn somewhere(rig: &dyn Rig, dice: &mut Dice) -> Vec<f64> {
    let mut axes = anywhere(rig.axes(), dice);
    let lens = axes.len() - 3;
    for (value, axis) in axes.iter_mut().zip(rig.axes()).skip(lens) {
        *value = axis.start;
    }
    axes
}

/// Indices of the axes that are not the same to the last bit.
fn moved(from: &[f64], to: &[f64]) -> Vec<usize> {
    (0..from.len()).filter(|&i| from[i].to_bits() != to[i].to_bits()).collect()
}

#[test]
fn a_dragged_camera_stands_where_the_inverse_puts_it() {
    let mut dice = Dice::new();
    for rigging in all() {
        let rig = build(&rigging);
        for _ in 0..60 {
            let axes = somewhere(&*rig, &mut dice);
            let camera = rig.forward(&axes).camera;
            let to = near(&mut dice, camera.position, 1.5);
            let reach = rig.inverse(Pose::new(to, camera.rotation), &axes);
            let Dragged { axes: there, at, shortfall_m, limits } = dragged(&*rig, &Grip::Camera, to, &axes);
            let carrying = axes.len() - 3;
            for (solved, axis) in reach.axes()[..carrying].iter().zip(rig.axes()) {
                let i = rig.axes().iter().position(|a| a.name == axis.name).unwrap();
                assert!((there[i] - solved).abs() < 1e-9, "{}: {rigging:?}", axis.name);
            }
            assert_eq!(moved(&axes[carrying..], &there[carrying..]), [0; 0], "the lens stays: {rigging:?}");
            match reach {
                Reach::Within(_) => assert!(shortfall_m < 1e-9, "{shortfall_m} m: {rigging:?}"),
                Reach::Short { shortfall_m: short, .. } => {
                    assert!((shortfall_m - short).abs() < 1e-9, "{shortfall_m} and {short} m: {rigging:?}");
                    assert!(!limits.is_empty() || short < 1e-9, "{rigging:?}");
                }
            }
            assert!((at.distance(to) - shortfall_m).abs() < 1e-12);
        }
    }
}

#[test]
fn a_camera_that_is_not_dragged_moves_no_axis() {
    let mut dice = Dice::new();
    for rigging in all() {
        if matches!(rigging.spec, RigSpec::SquareToCard(_)) {
            // It stands where its card wants it.
            continue;
        }
        let rig = build(&rigging);
        let axes = somewhere(&*rig, &mut dice);
        let Dragged { axes: there, .. } =
            dragged(&*rig, &Grip::Camera, rig.forward(&axes).camera.position, &axes);
        let off = (0..axes.len()).map(|i| (there[i] - axes[i]).abs()).fold(0.0, f64::max);
        assert!(off < 1e-6, "{off}: {rigging:?}");
    }
}

#[test]
fn every_handle_comes_to_the_hand_and_moves_its_own_axes_only() {
    let mut dice = Dice::new();
    let mut seen = Vec::new();
    for rigging in all() {
        let rig = build(&rigging);
        for handle in handles(&*rig) {
            seen.push(handle.word);
            for _ in 0..40 {
                let axes = somewhere(&*rig, &mut dice);
                let at = place(&*rig, &handle.grip, &axes);
                let to = match &handle.grip {
                    Grip::Camera => continue,
                    // What goes along a line is dragged along it.
                    Grip::Travel { axis } => {
                        let mut there = axes.clone();
                        there[*axis] = somewhere(&*rig, &mut dice)[*axis];
                        place(&*rig, &handle.grip, &there)
                    }
                    // A carrier may be tilted, and the floor of what it carries with it.
                    Grip::Base { axes: moved } | Grip::Aim { axes: moved } => {
                        let mut there = axes.clone();
                        moved.iter().for_each(|&i| there[i] += dice.between(-2.0, 2.0));
                        place(&*rig, &handle.grip, &there)
                    }
                    _ => near(&mut dice, at, 2.0),
                };
                let Dragged { axes: there, at, shortfall_m, limits } =
                    dragged(&*rig, &handle.grip, to, &axes);
                let mine: Vec<usize> = match &handle.grip {
                    Grip::Camera => continue,
                    Grip::Focus => vec![axes.len() - 2],
                    Grip::Travel { axis } | Grip::Heading { axis } => vec![*axis],
                    Grip::Base { axes } | Grip::Aim { axes } => axes.clone(),
                };
                for i in moved(&axes, &there) {
                    assert!(mine.contains(&i), "{} moved {}: {rigging:?}", handle.word, rig.axes()[i].name);
                }
                if !limits.is_empty() {
                    continue;
                }
                match &handle.grip {
                    Grip::Heading { .. } => {
                        // Straight ahead of the base, on its own floor.
                        let foot = rig.forward(&there).carriage;
                        let hand = (foot.rotation.conjugate() * (to - foot.position)).with_y(0.0).normalize();
                        assert!(hand.distance(DVec3::NEG_Z) < 1e-9, "{hand}: {rigging:?}");
                    }
                    Grip::Focus => {
                        // Sharp is a plane: the hand lies in it.
                        let camera = rig.forward(&there).camera;
                        let off = (to - at).dot(camera.rotation * DVec3::NEG_Z).abs();
                        assert!(off < 1e-9, "{off}: {rigging:?}");
                    }
                    _ => assert!(shortfall_m < 1e-9, "{} {shortfall_m} m: {rigging:?}", handle.word),
                }
            }
        }
    }
    for word in ["camera", "focus", "carriage", "base", "heading", "aim", "pivot"] {
        assert!(seen.contains(&word), "no machine has a handle {word}");
    }
}

#[test]
fn out_of_reach_a_handle_stays_at_the_nearest_place_and_says_by_how_much() {
    // An arm 3 m long whose camera hangs at its end, dragged straight up and away from its pivot.
    let spec = OrbitArm { follows: None, ..OrbitArm::default() };
    let rig = build(&RigSpec::OrbitArm(spec).into());
    let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
    let pivot = place(&*rig, &handles(&*rig)[2].grip, &start);
    let camera = rig.forward(&start).camera.position;
    let away = (camera - pivot).normalize();
    let far = pivot + away * 200.0;
    let Dragged { at, shortfall_m, limits, .. } = dragged(&*rig, &Grip::Camera, far, &start);
    let longest = rig.axes()[2].max;
    assert!(at.distance(pivot) <= longest + 1.0, "{}", at.distance(pivot));
    assert!((shortfall_m - at.distance(far)).abs() < 1e-12 && shortfall_m > 100.0);
    assert!(!limits.is_empty());
}

#[test]
fn what_is_carried_has_its_handles_in_the_world() {
    // The carrier stands at the origin in every rig's own terms; a rig carried by it has the same handles.
    for rigging in all().into_iter().filter(|r| r.carried.is_none()) {
        let carried = Rigging { carried: Some(Carrier::Piece { id: PieceId(7) }), ..rigging.clone() };
        let (alone, on) = (build(&rigging), build(&carried));
        let words = |rig: &dyn Rig| handles(rig).iter().map(|h| h.word).collect::<Vec<_>>();
        assert_eq!(words(&*alone), words(&*on), "{rigging:?}");
        assert!(carried.handles().is_empty(), "its parameters are measured from its carrier");
    }
}

#[test]
fn a_trace_goes_through_the_camera_and_keeps_to_the_machine() {
    let mut dice = Dice::new();
    let mut drawn = 0;
    for rigging in all() {
        let rig = build(&rigging);
        let axes = somewhere(&*rig, &mut dice);
        let camera = rig.forward(&axes).camera.position;
        for trace in traces(&*rig, &axes) {
            drawn += 1;
            let points: Vec<DVec3> = trace.points.iter().map(|p| DVec3::from(*p)).collect();
            // The camera lies between two neighbours, as near as a chord lies to its arc.
            let off = |p: &[DVec3]| {
                let along = p[1] - p[0];
                let t = (camera - p[0]).dot(along) / along.length_squared().max(1e-12);
                (p[0] + along * t.clamp(0.0, 1.0)).distance(camera) / along.length().max(1e-9)
            };
            let off = points.windows(2).map(off).fold(f64::INFINITY, f64::min);
            assert!(off < 0.1, "{} {off}: {rigging:?}", trace.axis);
        }
    }
    assert!(drawn > 20, "{drawn}");
    // All round a pivot the camera keeps its distance.
    let rig = build(&RigSpec::OrbitArm(OrbitArm::default()).into());
    let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
    let round = traces(&*rig, &start).into_iter().find(|t| !t.ends).expect("an arm goes all round");
    let pivot = place(&*rig, &Grip::Base { axes: vec![3, 4, 5] }, &start);
    let level = |p: &[f64; 3]| (DVec3::from(*p) - pivot).with_y(0.0).length();
    let spread =
        round.points.iter().map(level).fold((f64::INFINITY, 0.0_f64), |(a, b), r| (a.min(r), b.max(r)));
    assert!(spread.1 - spread.0 < 1e-9, "{spread:?}");
}
