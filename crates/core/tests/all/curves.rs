//! Curves against SciPy's `CubicHermiteSpline` and `PchipInterpolator`, and against the
//! `cubic-bezier` of CSS Easing Functions Level 1 inverted with NumPy (`reference/make_curves.py`).

use rovnek_core::curve::{Curve, CurveKey};
use serde_json::Value;

fn values() -> Value {
    let file = concat!(env!("CARGO_MANIFEST_DIR"), "/../../reference/values/curves.json");
    serde_json::from_str(&std::fs::read_to_string(file).unwrap()).unwrap()
}

fn list(of: &Value, name: &str) -> Vec<f64> {
    of[name].as_array().unwrap().iter().map(|v| v.as_f64().unwrap()).collect()
}

fn close(a: f64, b: f64) -> bool {
    (a - b).abs() <= 1e-9 * b.abs().max(1.0)
}

#[test]
fn hermite_spans_are_scipys_with_their_slopes() {
    for case in values()["hermite"].as_array().unwrap() {
        let (times, slopes) = (list(case, "times"), list(case, "slopes"));
        let keys =
            times.iter().zip(list(case, "values")).zip(slopes).map(|((t, v), m)| CurveKey::joined(*t, v, m));
        let curve = Curve::new(keys.collect()).unwrap();
        let asked = list(case, "asked");
        for (t, is) in asked.iter().zip(list(case, "is")) {
            assert!(close(curve.at(*t).unwrap(), is), "{t}: {:?} {is}", curve.at(*t));
        }
        for (t, slope) in asked[1..].iter().zip(list(case, "slope")) {
            assert!(close(curve.slope(*t), slope), "{t}: {} {slope}", curve.slope(*t));
        }
    }
}

#[test]
fn smooth_keys_have_scipys_slopes() {
    for case in values()["smooth"].as_array().unwrap() {
        let keys = list(case, "times").into_iter().zip(list(case, "values"));
        let curve = Curve::new(keys.map(|(t, v)| CurveKey::smooth(t, v)).collect()).unwrap();
        for (t, is) in list(case, "asked").iter().zip(list(case, "is")) {
            assert!(close(curve.at(*t).unwrap(), is), "{t}: {:?} {is}", curve.at(*t));
        }
    }
}

#[test]
fn eases_are_those_of_the_standard() {
    for case in values()["eases"].as_array().unwrap() {
        let [x1, y1, x2, y2] = list(case, "points")[..] else { panic!("four numbers") };
        let curve = Curve::ease(x1, y1, x2, y2);
        for (x, y) in list(case, "x").iter().zip(list(case, "y")) {
            let got = curve.at(*x).unwrap();
            assert!((got - y).abs() < 1e-9, "{} at {x}: {got} {y}", case["name"]);
        }
    }
}
