//! Filters and smoothness figures against NumPy and SciPy; `reference/make.py` made the values.

use rovnek_core::filter::{Kernel, Smoother, faster_than};
use rovnek_core::measures::spectral_arc_length;
use serde_json::Value;

fn cases(file: &str) -> Vec<Value> {
    let path = format!("{}/../../reference/values/{file}.json", env!("CARGO_MANIFEST_DIR"));
    let text = std::fs::read_to_string(&path).expect("reference values are in the checkout");
    serde_json::from_str::<Value>(&text).unwrap()["cases"].as_array().unwrap().clone()
}

fn numbers(value: &Value) -> Vec<f64> {
    value.as_array().unwrap().iter().map(|v| v.as_f64().unwrap()).collect()
}

fn assert_close(got: &[f64], want: &[f64]) {
    assert_eq!(got.len(), want.len());
    for (i, (g, w)) in got.iter().zip(want).enumerate() {
        assert!((g - w).abs() < 1e-9, "value {i}: {g} is not {w}");
    }
}

#[test]
fn smoothing_agrees_with_scipy_and_numpy() {
    let cases = cases("smoothing");
    assert_eq!(cases.len(), 7);
    for case in cases {
        let kernel = match case["gaussian"].as_f64() {
            Some(sigma) => Kernel::Gaussian { sigma },
            None => Kernel::Binomial { passes: case["binomial"].as_u64().unwrap() as u32 },
        };
        let x = numbers(&case["x"]);
        let mut columns = vec![x.clone(), x.clone(), x.clone()];
        Smoother::new(x.len(), kernel).smooth(&mut columns);
        for column in &columns {
            assert_close(column, &numbers(&case["y"]));
            assert_eq!((column[0], column[x.len() - 1]), (x[0], x[x.len() - 1]), "ends stay to the bit");
        }
    }
}

#[test]
fn the_high_pass_agrees_with_scipy() {
    for case in cases("high_pass") {
        let fast = faster_than(1.0, &numbers(&case["x"]), case["rate"].as_f64().unwrap()).unwrap();
        assert_close(&fast, &numbers(&case["y"]));
    }
}

#[test]
fn spectral_arc_length_is_the_papers() {
    for case in cases("spectral_arc") {
        let arc = spectral_arc_length(&numbers(&case["v"]), case["rate"].as_f64().unwrap()).unwrap();
        assert_close(&[arc], &[case["arc"].as_f64().unwrap()]);
    }
}
