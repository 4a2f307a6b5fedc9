//! Takes out and in again through the routes, in every format.

use crate::served::{Served, sentence};
use rocket::http::Status;
use serde_json::json;

fn last_take(s: &Served) -> u64 {
    let takes = s.json("/api/document")["takes"].clone();
    takes.as_array().unwrap().iter().map(|t| t["id"].as_u64().unwrap()).max().unwrap()
}

#[test]
fn a_camera_track_comes_back_from_every_format() {
    let s = Served::demo();
    let out = |take: u64, kind: &str| {
        s.get(&format!("/api/moves/{}/export?as={kind}", s.move_of(&json!(take)))).into_bytes().unwrap()
    };
    let csv = |take: u64| -> Vec<Vec<f64>> {
        let text = String::from_utf8(out(take, "csv")).unwrap();
        text.lines().skip(1).map(|l| l.split(',').map(|v| v.parse().unwrap()).collect()).collect()
    };
    let want = csv(1);
    for (kind, route) in [("opentrackio", "opentrackio"), ("glb", "camera"), ("tum", "tum")] {
        let place = if kind == "tum" { "&x=0&y=0&z=0" } else { "" };
        let (status, answer) = s.post(&format!("/api/import/{route}?name=back{place}"), out(1, kind));
        assert_eq!(status, Status::Ok, "{answer}");
        let got = csv(last_take(&s));
        assert_eq!(got.len(), want.len(), "{kind}");
        let origin: Vec<f64> = if kind == "tum" { want[0][1..4].to_vec() } else { vec![0.0; 3] };
        for (a, b) in want.iter().zip(&got) {
            for k in 1..4 {
                assert!((a[k] - b[k] - origin[k - 1]).abs() < 2e-3, "{kind} {a:?} {b:?}");
            }
            for k in 4..7 {
                let off = (a[k] - b[k]).rem_euclid(360.0);
                assert!(off.min(360.0 - off) < 0.05, "{kind} {a:?} {b:?}");
            }
            if kind != "tum" {
                assert!((a[7] - b[7]).abs() < 1e-3 && (a[8] - b[8]).abs() < 2e-3, "{kind} {a:?} {b:?}");
            }
        }
    }
}

#[test]
fn the_axes_of_a_machine_come_back_to_it_and_to_no_other() {
    let s = Served::demo();
    let axes = |take: u64| {
        s.get(&format!("/api/moves/{}/export?as=axes&stage=raw", s.move_of(&json!(take))))
            .into_string()
            .unwrap()
    };
    let out = axes(1);
    assert!(out.starts_with("time_s,swing_deg,boom_deg,reach_m,pan_deg,tilt_deg,roll_deg,zoom_mm,focus_m"));
    let (status, _) = s.post("/api/import/axes?name=driven%20elsewhere", &out);
    assert_eq!(status, Status::Ok);
    let close = |a: &str, b: &str| {
        a.split([',', '\n']).zip(b.split([',', '\n'])).all(|(a, b)| {
            match (a.parse::<f64>(), b.parse::<f64>()) {
                (Ok(a), Ok(b)) => (a - b).abs() < 1e-9,
                _ => a == b,
            }
        })
    };
    assert!(close(&out, &axes(last_take(&s))));
    let refused = s.post("/api/import/axes?name=x", "time_s,nothing\n0,1\n1,2\n");
    assert!(sentence(refused, 422).contains("no axis of this machine"));
    let refused = s.post("/api/import/opentrackio?name=x", "{}\n");
    assert!(sentence(refused, 422).starts_with("line 1: the sample has no transforms"));
    let refused = s.post("/api/import/camera?name=x", "glTF");
    assert!(sentence(refused, 422).contains("ends within its header"));
    assert_eq!(s.get("/api/moves/1/export?as=nothing").status(), Status::UnprocessableEntity);
    assert_eq!(s.get("/api/takes/1/packets.pcap").status(), Status::UnprocessableEntity);
}

#[test]
fn a_take_says_what_has_changed_since_it_was_rolled() {
    let s = Served::demo();
    let document = s.json("/api/document");
    assert_eq!(document["takes"][0]["changed"], json!([]));
    assert_eq!(document["takes"][0]["rolled"]["performance"], 1);
    let conductor = &document["scene"]["performers"][0]["id"];
    let path = format!("/performers/{conductor}/parts/1/route/waypoints/1/position/0");
    assert_eq!(s.replace(&path, json!(1.25)).0, Status::Ok);
    assert_eq!(s.json("/api/document")["takes"][0]["changed"], json!(["conductor"]));
    s.undo();
    assert_eq!(s.json("/api/document")["takes"][0]["changed"], json!([]));
}

#[test]
fn devices_and_passes_are_refused_with_a_reason() {
    let s = Served::demo();
    s.replace("/setups/2/name", json!("other"));
    let (status, _) = s.post("/api/setups/2/floor", "");
    assert_eq!(status, Status::NoContent);
    while s.json("/api/document")["setups"][1]["name"] != "other" {}
    let said = loop {
        let answer = s.post("/api/floor/below", json!({"take": 1}).to_string());
        if answer.0.code == 422 {
            break sentence(answer, 422);
        }
    };
    assert!(said.contains("another setup"), "{said}");
    let tracking = json!({"source": "", "mapping": {"scale": 0.0}, "steady": {}});
    assert!(sentence(s.replace("/setups/1/tracking", tracking), 422).contains("metres on set"));
    let wanted = json!({"protocol": "freed", "motion": "jump", "tremor": 1.0, "lost": 0.0});
    let sockets = json!([{"protocol": "freed", "address": "127.0.0.1", "port": 0, "on": true}]);
    let (_, view) = s.put("/api/devices", sockets);
    assert!(view["sockets"][0]["open"].as_u64().unwrap() > 0);
    assert!(sentence(s.put("/api/devices/stand-in", wanted), 422).contains("no motion"));
    let taken = std::net::UdpSocket::bind("127.0.0.1:0").unwrap();
    let port = taken.local_addr().unwrap().port();
    let (_, view) = s.put(
        "/api/devices",
        json!([{"protocol": "freed", "address": "127.0.0.1", "port": port, "on": true}]),
    );
    assert!(view["sockets"][0]["error"].as_str().unwrap().contains("give another port"), "{view}");
}

#[test]
fn keys_of_a_move_come_every_so_often() {
    let s = Served::demo();
    let keys = s.json("/api/moves/1/keys?seconds=5");
    assert_eq!(keys, json!([0.0, 5.0, 10.0, 12.0]));
    assert_eq!(s.json("/api/moves/1/keys?frames=48").as_array().unwrap().len(), 7);
    for bad in ["", "?frames=0", "?frames=3&seconds=1"] {
        assert_eq!(s.get(&format!("/api/moves/1/keys{bad}")).status(), Status::UnprocessableEntity, "{bad}");
    }
}
