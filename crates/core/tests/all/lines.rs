//! Rails and track against SciPy; glides against SciPy, Flash & Hogan and their own limits.

use crate::common::{Dice, values};
use rovnek_core::DVec3;
use rovnek_core::axis::{Axis, AxisGroup, Unit};
use rovnek_core::axis_motion::{AxisMotion, STEP_S};
use rovnek_core::curve::slope::minimum_jerk;
use rovnek_core::glide::Glide;
use rovnek_core::line::ride_quality;
use rovnek_core::line::spline::{RailPoint, circle, through};
use rovnek_core::rigs::{DollyTrack, TrackPiece};
use serde_json::Value;

fn points(case: &Value) -> Vec<RailPoint> {
    let places: Vec<[f64; 3]> = serde_json::from_value(case["points"].clone()).unwrap();
    places.into_iter().map(RailPoint::at).collect()
}

/// `CubicSpline` by chord length, and `quad` for the length along it.
#[test]
fn rails_agree_with_scipy() {
    let file = values("rails");
    for case in file["cases"].as_array().unwrap() {
        let line = through(&points(case), case["closed"].as_bool().unwrap());
        let knots: Vec<f64> = serde_json::from_value(case["knots"].clone()).unwrap();
        assert_eq!(knots.len(), line.starts().len());
        for (ours, theirs) in line.starts().iter().zip(&knots) {
            assert!((ours - theirs).abs() <= 1e-9 * knots.last().unwrap(), "{ours} {theirs}");
        }
        for place in case["places"].as_array().unwrap() {
            let here = line.at(place["travel"].as_f64().unwrap());
            let position: [f64; 3] = serde_json::from_value(place["position"].clone()).unwrap();
            let tangent: [f64; 3] = serde_json::from_value(place["tangent"].clone()).unwrap();
            assert!(here.position.distance(DVec3::from(position)) < 1e-8);
            assert!(here.tangent.distance(DVec3::from(tangent)) < 1e-8);
        }
    }
}

#[test]
fn even_travel_gives_equal_steps() {
    let file = values("rails");
    for case in file["cases"].as_array().unwrap() {
        let line = through(&points(case), case["closed"].as_bool().unwrap());
        // Along the line, by many small chords: steps of a thousandth, each of a hundred chords.
        let (n, fine) = (200, 100);
        let at = |k: usize| line.at(line.length() * k as f64 / (n * fine) as f64 - 1e-12).position;
        let step = |i: usize| (i * fine..(i + 1) * fine).map(|k| at(k).distance(at(k + 1))).sum::<f64>();
        let even = line.length() / n as f64;
        for i in 1..n - 1 {
            assert!((step(i) / even - 1.0).abs() < 1e-3, "step {i}: {} of {even}", step(i));
        }
    }
}

#[test]
fn a_circle_through_points_is_round_and_rides_well() {
    let line = through(&circle([1.0, 1.2, -2.0], 2.5, 8), true);
    assert!((line.length() / (2.0 * std::f64::consts::PI * 2.5) - 1.0).abs() < 2e-3);
    let (bend, _, rough) = ride_quality(&line);
    assert!((bend - 0.4).abs() < 0.03 && rough.is_empty(), "{bend} {rough:?}");
    // The right side is to the right: quarter of the way round from −z is +x.
    assert!(line.at(line.length() / 4.0).position.distance(DVec3::new(3.5, 1.2, -2.0)) < 1e-6);
}

#[test]
fn an_extra_point_beside_the_way_is_marked_as_rough() {
    let mut bent = circle([0.0; 3], 3.0, 8);
    let smooth = ride_quality(&through(&bent, true));
    let [x, y, z] = bent[2].position;
    bent.insert(3, RailPoint::at([x + 0.12, y, z + 0.45]));
    let line = through(&bent, true);
    let (_, jerk, rough) = ride_quality(&line);
    assert!(smooth.2.is_empty() && jerk > 5.0 * smooth.1, "{jerk} {}", smooth.1);
    let near = rough.iter().any(|r| line.at(r.travel_m).position.distance(DVec3::new(x, y, z)) < 0.6);
    assert!(near, "{rough:?}");
}

#[test]
fn track_is_as_long_as_its_pieces_and_joins_without_a_kink() {
    let pieces = vec![
        TrackPiece::Straight { length_m: 2.0, rise_m: 0.0 },
        TrackPiece::Curve { radius_m: 3.0, turn_deg: 90.0, rise_m: 0.0 },
        TrackPiece::Curve { radius_m: 2.0, turn_deg: -90.0, rise_m: 0.0 },
        TrackPiece::Straight { length_m: 1.0, rise_m: 0.25 },
    ];
    let line = DollyTrack { pieces: pieces.into(), ..DollyTrack::default() }.line();
    let quarter = std::f64::consts::FRAC_PI_2;
    let length = 2.0 + 3.0 * quarter + 2.0 * quarter + 1f64.hypot(0.25);
    assert!((line.length() - length).abs() < 1e-12);
    assert!(line.at(length).position.distance(DVec3::new(5.0, 0.37, -8.0)) < 1e-12);
    for seam in &line.starts()[1..3] {
        assert!(line.at(seam - 1e-9).tangent.distance(line.at(seam + 1e-9).tangent) < 1e-8);
    }
    let bend = line.at(3.0).curvature;
    assert!((bend.length() - 1.0 / 3.0).abs() < 1e-12 && bend.x > 0.0, "{bend}");
}

fn axis(top_speed: f64, top_acceleration: f64) -> Axis {
    let (group, unit) = (AxisGroup::Machine, Unit::Metres);
    let (min, max, start) = (-100.0, 100.0, 0.0);
    Axis {
        name: "reach",
        hand: Some("reach"),
        ink: "reach",
        group,
        unit,
        min,
        max,
        top_speed,
        top_acceleration,
        start,
    }
}

#[test]
fn glides_agree_with_scipy() {
    let file = values("glides");
    for case in file["cases"].as_array().unwrap() {
        let rows: Vec<Vec<f64>> = serde_json::from_value(case["rows"].clone()).unwrap();
        let glide = Glide::plan(&[axis(1e9, 1e9), axis(1e9, 1e9), axis(1e9, 1e9)], rows, Some(1.0), 1.0);
        let values: Vec<Vec<f64>> = serde_json::from_value(case["values"].clone()).unwrap();
        for (k, tau) in case["tau"].as_array().unwrap().iter().enumerate() {
            for (ours, theirs) in glide.values(tau.as_f64().unwrap()).iter().zip(&values[k]) {
                assert!((ours - theirs).abs() < 1e-9, "{ours} {theirs}");
            }
        }
    }
}

/// Flash & Hogan (1985): peak speed is 1.875 times the mean.
#[test]
fn the_peak_of_a_go_to_is_1_875_times_its_mean() {
    let glide = Glide::plan(&[axis(1e3, 1e3)], vec![vec![1.0], vec![4.0]], Some(3.0), 1.0);
    assert_eq!((glide.duration_s, glide.bound_by), (3.0, None));
    let speed = |k: usize| {
        let [a, b] = [k, k + 1].map(|k| glide.values(k as f64 * STEP_S)[0]);
        (b - a) / STEP_S
    };
    let peak = (0..720).map(speed).fold(0.0, f64::max);
    assert!((peak / 1.0 / 1.875 - 1.0).abs() < 0.01, "{peak}");
    assert!((minimum_jerk(0.5) - 0.5).abs() < 1e-15);
}

#[test]
fn glides_keep_every_limit_and_say_what_binds() {
    let mut dice = Dice::new();
    let mut bound = 0;
    for case in 0..200 {
        let axes: Vec<Axis> = (0..4).map(|_| axis(dice.between(0.1, 2.0), dice.between(0.05, 3.0))).collect();
        let n = 2 + case % 5;
        let rows: Vec<Vec<f64>> = (0..n).map(|_| (0..4).map(|_| dice.between(-5.0, 5.0)).collect()).collect();
        let glide = Glide::plan(&axes, rows.clone(), Some(dice.between(1.0, 60.0)), 1.0);
        bound += usize::from(glide.bound_by.is_some());
        let steps = (glide.duration_s / STEP_S).ceil() as usize;
        let course: Vec<Vec<f64>> = (0..=steps).map(|k| glide.values(k as f64 * STEP_S)).collect();
        for (i, axis) in axes.iter().enumerate() {
            for w in course.windows(3) {
                let [v, next] = [0, 1].map(|k| (w[k + 1][i] - w[k][i]) / STEP_S);
                assert!(v.abs() <= axis.top_speed * 1.001, "{v} of {}", axis.top_speed);
                assert!(((next - v) / STEP_S).abs() <= axis.top_acceleration * 1.01, "case {case}");
            }
            assert!((course[steps][i] - rows[n - 1][i]).abs() < 1e-9);
        }
    }
    assert!(bound > 30, "{bound} were bound by a limit");
}

#[test]
fn what_an_axis_can_follow_it_follows_exactly_and_the_rest_without_overrun() {
    let a = axis(1.0, 2.0);
    let wave = |t: f64| 0.3 * (1.5 * t).sin();
    let mut m = AxisMotion::at(0.0);
    for k in 0..2400 {
        let (t, next) = (k as f64 * STEP_S, (k + 1) as f64 * STEP_S);
        m = m.led(&a, wave(next), (wave(next) - wave(t)) / STEP_S, STEP_S);
        if k > 240 {
            assert!((m.value - wave(next)).abs() < 1e-9, "step {k}: {} {}", m.value, wave(next));
        }
    }
    let mut m = AxisMotion::at(0.0);
    for _ in 0..1200 {
        let next = m.led(&a, 3.0, 0.0, STEP_S);
        assert!(next.value <= 3.0 + 1e-9 && (next.speed - m.speed).abs() <= 2.0 * STEP_S + 1e-9);
        m = next;
    }
    assert!((m.value - 3.0).abs() < 1e-9 && m.speed == 0.0, "{m:?}");
}
