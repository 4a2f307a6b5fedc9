//! The live filter against the PyPI implementation of the One Euro filter (Casiez, Roussel, Vogel,
//! CHI 2012; OneEuroFilter 0.2.1), for one number and for a pose along one line and about one axis.

use crate::common::values;
use rovnek_core::space::Pose;
use rovnek_core::steady::{OneEuro, Steadier, Steady, SteadyBy};
use rovnek_core::{DQuat, DVec3};

fn list(v: &serde_json::Value) -> Vec<f64> {
    v.as_array().unwrap().iter().map(|v| v.as_f64().unwrap()).collect()
}

#[test]
fn one_number_agrees_with_pypi() {
    let file = values("one_euro");
    for case in file["cases"].as_array().unwrap() {
        let of = |name: &str| case[name].as_f64().unwrap();
        let mut f = OneEuro::new(1.0 / of("hz"), of("cut_hz"), of("gain"), of("speed_cut_hz"));
        for (value, want) in list(&case["values"]).into_iter().zip(list(&case["out"])) {
            let got = f.next(value);
            assert!((got - want).abs() < 1e-9, "{got} {want}");
        }
    }
}

/// A pose that moves along one line, or turns about one axis, is filtered as that number is.
#[test]
fn a_pose_is_filtered_as_the_number_it_moves_by() {
    let file = values("one_euro");
    let case = &file["cases"][1];
    let step_s = 1.0 / case["hz"].as_f64().unwrap();
    // Half strength: 8 Hz · 24^(−1/2) at rest, 1.5 Hz more for a metre or a radian a second.
    let mut one = OneEuro::new(step_s, 8.0 / 24.0_f64.sqrt(), 1.5, 1.0);
    let steady = Steady { by: SteadyBy::OneEuro, position: 0.5, rotation: 0.5 };
    let mut pose = Steadier::new(steady, step_s);
    let axis = DVec3::new(0.6, 0.0, 0.8);
    for value in list(&case["values"]) {
        let want = one.next(value);
        let got = pose.next(Pose::new(axis * value, DQuat::from_axis_angle(axis, value)));
        assert!(got.position.distance(axis * want) < 1e-9);
        let turned = DQuat::from_axis_angle(axis, want);
        assert!(got.angle_to(Pose::new(DVec3::ZERO, turned)) < 1e-7);
    }
}
