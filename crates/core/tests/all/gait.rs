//! Feet that do not slide: the rendered feet of walking figures, sample by sample.

use rovnek_core::DVec3;
use rovnek_core::performer::figure::Figure;
use rovnek_core::performer::{Posture, Route, Waypoint};

fn at(time_s: f64, stop_s: f64, position: [f64; 3], facing_deg: Option<f64>) -> Waypoint {
    Waypoint { time_s, stop_s, position, facing_deg, posture: Posture::Stand, mark: None }
}

/// Walks of every kind: straight, round corners, turning on the spot, up a stair, hurrying.
fn walks() -> Vec<(&'static str, Route)> {
    let route = |waypoints: Vec<Waypoint>| Route { waypoints: waypoints.into() };
    vec![
        ("straight", route(vec![at(0.0, 1.0, [0.0; 3], None), at(8.0, 2.0, [9.0, 0.0, 0.0], None)])),
        (
            "round corners",
            route(vec![
                at(0.0, 0.0, [0.0; 3], None),
                at(3.0, 0.0, [3.5, 0.0, 0.5], None),
                at(6.0, 0.0, [4.0, 0.0, 4.0], None),
                at(10.0, 0.0, [0.0, 0.0, 6.0], None),
            ]),
        ),
        (
            "stops and turns",
            route(vec![
                at(0.0, 1.0, [0.0; 3], Some(0.0)),
                at(5.0, 3.0, [4.0, 0.0, 0.0], Some(-140.0)),
                at(12.0, 2.0, [4.0, 0.0, 5.0], Some(20.0)),
            ]),
        ),
        ("up a stair", route(vec![at(0.0, 0.5, [0.0; 3], None), at(6.0, 1.0, [4.2, 2.9, 0.0], None)])),
        ("hurrying", route(vec![at(0.0, 0.5, [0.0; 3], None), at(4.5, 0.5, [12.0, 0.0, 2.0], None)])),
        ("one small step", route(vec![at(0.0, 0.5, [0.0; 3], None), at(1.5, 0.5, [0.3, 0.0, 0.0], None)])),
    ]
}

/// Place of a part in [`Figure::bodies`].
fn part(figure: &Figure, name: &str) -> usize {
    figure.bodies().iter().position(|b| b.name == name).expect("a part of the figure")
}

#[test]
fn planted_feet_slip_at_most_two_centimetres_a_step() {
    for (name, route) in walks() {
        for height in [1.2, 1.78, 2.0] {
            let figure = Figure::new(height, 1.0, route.compile());
            let mut steps = 0;
            let mut most = 0.0_f64;
            for (side, part_name) in ["left foot", "right foot"].iter().enumerate() {
                let foot = part(&figure, part_name);
                // The ball of the foot bears it to the end of the step.
                let ball = |t: f64| {
                    let pose = figure.poses(t)[foot];
                    pose.position + pose.rotation * DVec3::new(0.0, -0.02 * height, -0.05 * height)
                };
                let mut since: Option<DVec3> = None;
                for i in 0..(16.0 * 240.0) as usize {
                    let t = i as f64 / 240.0 - 0.5;
                    if figure.steps().foot(side, t).planted {
                        let first = *since.get_or_insert_with(|| ball(t));
                        most = most.max(ball(t).distance(first));
                    } else if since.take().is_some() {
                        steps += 1;
                    }
                }
            }
            assert!(steps >= 2, "{name} at {height} m takes {steps} steps");
            assert!(most <= 0.02, "{name} at {height} m slips {most:.3} m");
        }
    }
}

#[test]
fn legs_stay_whole_and_hips_go_smoothly() {
    for (name, route) in walks() {
        let h = 1.78;
        let figure = Figure::new(h, 1.0, route.compile());
        let (hips, shin, foot) =
            (part(&figure, "hips"), part(&figure, "left shin"), part(&figure, "left foot"));
        let mut before = figure.poses(-0.5)[hips].position;
        for i in 1..16 * 60 {
            let t = f64::from(i) / 60.0 - 0.5;
            let poses = figure.poses(t);
            let ankle = poses[shin].position + poses[shin].rotation * DVec3::new(0.0, -0.115 * h, 0.0);
            let sole = poses[foot].position + poses[foot].rotation * DVec3::new(0.0, 0.02 * h, 0.04 * h);
            assert!(ankle.distance(sole) < 0.03, "{name} at {t:.2} s: {:.3}", ankle.distance(sole));
            let sink = (poses[hips].position.y - before.y).abs();
            assert!(sink < 0.04, "{name} at {t:.2} s: hips jump {sink:.3} m");
            before = poses[hips].position;
        }
    }
}
