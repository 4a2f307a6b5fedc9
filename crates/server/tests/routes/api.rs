//! The routes: what they answer, and what they refuse with a sentence.

use crate::served::{HOST, Served, read, sentence};
use rocket::http::{Header, Status};
use serde_json::{Value, json};
use std::io::Read;

#[test]
fn the_demo_is_all_there() {
    let s = Served::demo();
    assert_eq!(s.json("/api/health")["status"], "ok");
    let document = s.json("/api/document");
    assert_eq!(document["production"], "Last Tram");
    assert_eq!(document["takes"].as_array().unwrap().len(), 2);
    assert_eq!(document["history"], json!({"undo": null, "redo": null}));
    let stage = &document["scene"]["stage"];
    assert_eq!(
        (stage["width_m"].as_f64(), stage["depth_m"].as_f64(), stage["height_m"].as_f64()),
        (Some(36.0), Some(22.0), Some(8.0))
    );
    let set = s.json("/api/scene/solids");
    let pieces = set["pieces"].as_array().unwrap();
    let solids: usize = pieces.iter().map(|p| p["drawn"]["solids"].as_array().unwrap().len()).sum();
    assert!(solids > 200 && set["lights"].as_array().unwrap().len() > 8);
    let figures = s.json("/api/scene/figures");
    let names: Vec<&Value> = figures.as_array().unwrap().iter().map(|f| &f["name"]).collect();
    assert_eq!(names, ["tram 12", "conductor", "fitter"]);
    let end = figures[1]["path"].as_array().unwrap().last().unwrap()[1].as_f64().unwrap();
    assert!((end - 2.88).abs() < 1e-9, "the conductor ends on the gallery");
    let performance = s.get("/api/scene/performance").into_bytes().unwrap();
    let word = |i: usize| u32::from_le_bytes(performance[i * 4..i * 4 + 4].try_into().unwrap());
    let bodies: usize =
        figures.as_array().unwrap().iter().map(|f| f["bodies"].as_array().unwrap().len()).sum();
    assert_eq!((word(0), word(1), word(2) as usize, word(3)), (30, 601, bodies, 0));
    // Ten seconds, and the first instant of the next ten.
    let (head, pose) = (16, bodies * 28);
    assert_eq!(performance.len(), head + 301 * pose);
    let next = s.get("/api/scene/performance?from_s=10").into_bytes().unwrap();
    assert_eq!(next[12..16], 300u32.to_le_bytes());
    assert_eq!(next[head..head + pose], performance[performance.len() - pose..]);
    let last = s.get("/api/scene/performance?from_s=20").into_bytes().unwrap();
    assert_eq!(last.len(), head + pose);
    for wrong in ["20.1", "-1", "NaN", "inf"] {
        let told = sentence(read(s.get(&format!("/api/scene/performance?from_s={wrong}"))), 422);
        assert!(told.contains("not in the scene"), "{told}");
    }
}

#[test]
fn text_goes_compressed_to_who_takes_it_so_and_is_the_same() {
    let s = Served::demo();
    let ask = |path: &str, takes: &'static str| {
        let wanted = s.client.get(path.to_string()).header(Header::new("Host", HOST));
        let answer = wanted.header(Header::new("Accept-Encoding", takes)).dispatch();
        (answer.headers().get_one("Content-Encoding").map(str::to_string), answer.into_bytes().unwrap())
    };
    let (none, plain) = ask("/api/scene/solids", "identity");
    let (how, packed) = ask("/api/scene/solids", "gzip, br");
    assert_eq!((none, how.as_deref()), (None, Some("gzip")));
    assert!(packed.len() * 4 < plain.len(), "{} of {}", packed.len(), plain.len());
    let mut back = Vec::new();
    flate2::read::GzDecoder::new(&packed[..]).read_to_end(&mut back).unwrap();
    assert_eq!(back, plain);
    // Little answers, and numbers as they lie in memory, go as they are.
    for path in ["/api/health", "/api/scene/performance"] {
        assert_eq!(ask(path, "gzip").0, None, "{path}");
    }
}

#[test]
fn smoothing_lowers_the_figures_and_leaves_the_take() {
    let s = Served::demo();
    let raw = s.get("/api/moves/1/export?as=csv&stage=raw").into_string().unwrap();
    let before = s.json("/api/moves/1/figures");
    let by = json!({"by": "gaussian", "sigma_s": 0.3});
    let smooth = json!({"on": true, "kind": "smooth", "machine": by, "head": by, "lens": null});
    let (status, done) =
        s.edit("smooth take 1", json!([{"op": "add", "path": "/moves/1/treatments/new:1", "value": smooth}]));
    assert_eq!(
        (status, &done["changed"]["history"]["undo"]["label"]),
        (Status::Ok, &json!("smooth take 1")),
        "{done}"
    );
    assert_eq!(done["made"], json!({"new:1": 1}));
    let after = s.json("/api/moves/1/figures");
    assert_eq!(before["raw"], after["raw"]);
    let worst = |shake: &serde_json::Value| shake["worst_second"].as_f64().unwrap();
    for figure in ["shake_position_cm", "shake_rotation_deg"] {
        assert!(worst(&after["now"][figure]) < 0.3 * worst(&before["now"][figure]), "{figure}");
    }
    assert!(after["departure"]["position_cm"].as_f64().unwrap() > 0.1);
    let now = s.get("/api/moves/1/export?as=csv").into_string().unwrap();
    assert_ne!(raw, now);
    let ends = |csv: &str| (csv.lines().nth(1).unwrap().to_string(), csv.lines().last().unwrap().to_string());
    assert_eq!(ends(&raw), ends(&now));
    assert_eq!(raw, s.get("/api/moves/1/export?as=csv&stage=raw").into_string().unwrap());
    // Switched off it is as rolled.
    assert_eq!(s.replace("/moves/1/treatments/1/on", json!(false)).0, Status::Ok);
    assert_eq!(raw, s.get("/api/moves/1/export?as=csv").into_string().unwrap());
}

#[test]
fn the_machine_says_what_it_can_reach() {
    let s = Served::demo();
    let machine = s.json("/api/setups/1/machine");
    let near: Vec<Value> = machine["axes"].as_array().unwrap().iter().map(|a| a["start"].clone()).collect();
    let ask = |position: [f64; 3]| {
        s.post("/api/setups/1/reach", json!({"position": position, "near": near}).to_string()).1
    };
    let within = ask([0.6, 2.0, 2.1]);
    assert_eq!((within["shortfall_m"].as_f64(), within["limits"].as_array().unwrap().len()), (Some(0.0), 0));
    let far = ask([-12.0, 2.0, 3.4]);
    assert!(far["shortfall_m"].as_f64().unwrap() > 8.0);
    assert_eq!(far["limits"], json!(["reach, longest"]));
    let refused =
        s.post("/api/setups/1/reach", json!({"position": [0.0, 0.0, 0.0], "near": [1.0]}).to_string());
    assert!(sentence(refused, 422).contains("one for each axis"));
}

#[test]
fn a_dragged_handle_says_which_axes_bring_it_there() {
    let s = Served::demo();
    let machine = s.json("/api/setups/1/machine");
    let words: Vec<&str> =
        machine["handles"].as_array().unwrap().iter().map(|h| h["word"].as_str().unwrap()).collect();
    assert_eq!(words, ["camera", "focus"]);
    assert_eq!(machine["built"][0]["sets"], json!({"kind": "floor", "x": "base_x_m", "z": "base_z_m"}));
    let near: Vec<Value> = machine["axes"].as_array().unwrap().iter().map(|a| a["start"].clone()).collect();
    let drag = |handle: &str, to: [f64; 3]| {
        s.post("/api/setups/1/drag", json!({"handle": handle, "to": to, "near": near}).to_string())
    };
    // The same axes as those with which the camera is there.
    let there = [0.6, 2.0, 2.1];
    let reach = s.post("/api/setups/1/reach", json!({"position": there, "near": near}).to_string()).1;
    let camera = drag("camera", there).1;
    assert!(camera["shortfall_m"].as_f64().unwrap() < 1e-9);
    let mut moved = 0;
    for (target, reached) in
        camera["targets"].as_array().unwrap().iter().zip(reach["axes"].as_array().unwrap())
    {
        if let Some(target) = target.as_f64() {
            moved += 1;
            assert!((target - reached.as_f64().unwrap()).abs() < 1e-9, "{camera} {reach}");
        }
    }
    assert!(moved >= 3, "{camera}");
    assert!(camera["traces"].as_array().unwrap().iter().any(|t| t["axis"] == "reach" && t["ends"] == true));
    let far = drag("camera", [-12.0, 2.0, 3.4]).1;
    assert!(far["shortfall_m"].as_f64().unwrap() > 8.0);
    assert_eq!(far["limits"], json!(["reach, longest"]));
    // Focus alone.
    let focus = drag("focus", [-6.0, 2.0, 0.0]).1;
    let values = focus["targets"].as_array().unwrap();
    assert_eq!(values.iter().filter(|v| !v.is_null()).count(), 1, "{focus}");
    assert!(sentence(drag("wheel", there), 422).contains("no handle \"wheel\"; give one of camera, focus"));
    assert!(sentence(drag("camera", [1e9, 0.0, 0.0]), 422).contains("plain numbers"));
}

#[test]
fn a_machine_of_any_kind_is_put_where_a_camera_is() {
    let s = Served::demo();
    let put = |kind: &str, x: f64| {
        let there = json!({"kind": kind, "position": [x, 1.6, -2.0], "pan_deg": 90.0, "tilt_deg": -5.0, "roll_deg": 0.0});
        s.post("/api/machines", there.to_string())
    };
    let (status, rig) = put("free_camera", 3.0);
    assert_eq!(
        (status, &rig["start_m"], &rig["start_tilt_deg"]),
        (Status::Ok, &json!([3.0, 1.6, -2.0]), &json!(-5.0))
    );
    let (_, jib) = put("jib", 3.0);
    assert_eq!((&jib["base_x_m"], &jib["heading_deg"]), (&json!(0.3), &json!(90.0)));
    assert_eq!(s.replace("/setups/1/rig", jib).0, Status::Ok);
    let machine = s.json("/api/setups/1/machine");
    assert_eq!(machine["placement"], json!(["base_x_m", "base_z_m", "heading_deg"]));
    assert!(machine["params"].as_array().unwrap().iter().any(|p| p["label"] == "base x, z"));
    assert!(sentence(put("broom", 3.0), 422).contains("no machine"));
    assert!(sentence(put("jib", 1e9), 422).contains("plain numbers"));
}

#[test]
fn a_new_machine_stands_beside_a_tram_and_not_in_it() {
    let s = Served::demo();
    let document = s.json("/api/document");
    let tram =
        document["scene"]["pieces"].as_array().unwrap().iter().find(|p| p["name"] == "tram 7").unwrap();
    let (x, z) = (tram["position"][0].as_f64().unwrap(), tram["position"][2].as_f64().unwrap());
    let put = |clear: Value| {
        let there = json!({"kind": "tripod", "position": [x, 1.6, z], "pan_deg": 0.0, "tilt_deg": 0.0, "roll_deg": 0.0, "clear": clear});
        let (status, rig) = s.post("/api/machines", there.to_string());
        assert_eq!(status, Status::Ok);
        ["base_x_m", "base_z_m"].map(|name| rig[name].as_f64().unwrap())
    };
    let asked = put(Value::Null);
    let stands = put(json!({"setup": 1, "time_s": 0.0}));
    let moved = (stands[0] - asked[0]).hypot(stands[1] - asked[1]);
    // A tram is 2 to 3 m wide, a tripod half a metre or more.
    assert!((1.0..4.0).contains(&moved), "{moved} m");
    let stage = &document["scene"]["stage"];
    assert!(stands[0].abs() < stage["width_m"].as_f64().unwrap() / 2.0);
}

/// The shortest time is that of the axis that needs most: 40° of swing at 30°/s and 24°/s², √(5.7735 · 40 / 24) s.
#[test]
fn the_shortest_time_of_a_rehearsal_is_told_before_it_starts() {
    let s = Served::demo();
    let machine = s.json("/api/setups/1/machine");
    let position = |number: u32, swing: f64| {
        let axis = |a: &Value| (a["name"].as_str().unwrap().to_string(), a["start"].clone());
        let mut axes: serde_json::Map<String, Value> =
            machine["axes"].as_array().unwrap().iter().filter(|a| !a["hand"].is_null()).map(axis).collect();
        axes["swing"] = json!(swing);
        json!({"number": number, "axes": axes})
    };
    let positions = json!([position(1, 0.0), position(2, 40.0)]);
    assert_eq!(s.replace("/setups/1/positions", positions).0, Status::Ok);
    let (status, told) = s.post("/api/setups/1/rehearsal", json!([1, 2]).to_string());
    assert_eq!((status, &told["bound_by"]), (Status::Ok, &json!("swing")));
    assert!((told["shortest_s"].as_f64().unwrap() - 3.102).abs() < 0.01, "{told}");
    assert!(sentence(s.post("/api/setups/1/rehearsal", "[1, 9]"), 422).contains("no position 9"));
    assert!(sentence(s.post("/api/setups/1/rehearsal", "[]"), 422).contains("at least one"));
}

#[test]
fn machines_are_chosen_carried_keyed_and_undone() {
    let s = Served::demo();
    let kinds = s.json("/api/machines");
    assert_eq!(kinds.as_array().unwrap().len(), 12);
    let choosable = |kind: &&Value| kind["rig"]["kind"] != "square_to_card";
    for kind in kinds.as_array().unwrap().iter().filter(choosable) {
        let mut rig = kind["rig"].clone();
        assert_eq!(s.replace("/setups/1/rig", rig.clone()).0, Status::Ok);
        let machine = s.json("/api/setups/1/machine");
        assert!(machine["axes"].as_array().unwrap().len() >= 6, "{rig}");
        // The tram carries it: six axes more say where the tram is, and nobody drives them.
        let own = machine["axes"].as_array().unwrap().len();
        rig["carried"] = json!({"by": "piece", "id": 23});
        assert_eq!(s.replace("/setups/1/rig", rig.clone()).0, Status::Ok);
        let axes = s.json("/api/setups/1/machine")["axes"].as_array().unwrap().clone();
        assert_eq!(
            (axes.len(), &axes[0]["hand"], &axes[0]["group"]),
            (own + 6, &Value::Null, &json!("carrier"))
        );
    }
    let rail = json!({"kind": "rail", "points": [{"position": [0.0, 1.0, 0.0]}]});
    assert!(sentence(s.replace("/setups/1/rig", rail), 422).contains("through 2 to 60 points"));
}

#[test]
fn assignments_are_kept_and_bounded() {
    let s = Served::demo();
    assert_eq!(s.json("/api/inputs"), Value::Null);
    let kept = json!({"own": {"jib": {"mine": {}}}, "used": {"jib": "mine"}});
    assert_eq!(s.put("/api/inputs", kept.clone()).0, Status::Ok);
    assert_eq!(s.json("/api/inputs"), kept);
    let large = json!({"own": "x".repeat(300 << 10), "used": {}});
    assert!(sentence(s.put("/api/inputs", large), 422).contains("256 kB"));
}

#[test]
fn what_cannot_be_is_refused_with_a_sentence() {
    let s = Served::demo();
    assert!(sentence(s.replace("/takes/99/name", json!("x")), 404).contains("no take with number 99"));
    let treat = |by: Value| {
        let smooth = json!({"on": true, "kind": "smooth", "machine": by});
        s.edit("smooth", json!([{"op": "add", "path": "/moves/1/treatments/new:1", "value": smooth}]))
    };
    assert!(sentence(treat(json!({"by": "binomial", "passes": 0})), 422).contains("1 to 400"));
    assert!(sentence(treat(json!({"by": "gaussian", "sigma_s": -1.0})), 422).contains("width"));
    assert_eq!(treat(json!({"by": "magic"})).0, Status::UnprocessableEntity);
    assert!(sentence(s.replace("/production/name", json!("")), 422).contains("between 1 and 120"));
    assert!(sentence(s.replace("/scenes/1/rate", json!({"num": 1000, "den": 1})), 422).contains("1000/1"));
    let mut camera = s.json("/api/document")["setups"][0]["camera"].clone();
    camera["focal_mm"] = json!(300.0);
    assert!(sentence(s.replace("/setups/1/camera", camera), 422).contains("300"));
    assert!(sentence(s.post("/api/setups/77/floor", ""), 404).contains("77"));
    assert!(sentence(read(s.get("/api/nowhere")), 404).contains("/api/nowhere"));
    assert_eq!(s.json("/api/document")["history"]["undo"], Value::Null, "nothing was stored");
}

#[test]
fn bad_files_are_refused_with_their_line_and_nothing_is_stored() {
    let s = Served::demo();
    let before = s.json("/api/document");
    let tum = |bytes: &[u8]| sentence(s.post("/api/import/tum?name=walk", bytes), 422);
    assert!(tum(b"").starts_with("line 1"));
    assert!(tum(b"0 0 0 0 0 0 0 1\n0.1 0 0 0 0").starts_with("line 2: qy is missing"));
    assert!(tum(b"0 0 0 NaN 0 0 0 1\n").starts_with("line 1: tz"));
    assert!(tum(b"1 0 0 0 0 0 0 1\n1 0 0 0 0 0 0 1\n").starts_with("line 2: the time"));
    assert!(tum(b"1 0 0 0 0 0 0 0\n").starts_with("line 1: the quaternion"));
    let csv = |bytes: &[u8]| sentence(s.post("/api/import/csv?name=walk", bytes), 422);
    assert!(csv(b"time_s,x_m\n0,1\n").starts_with("line 1: missing y_m"));
    assert!(
        sentence(s.post("/api/import/tum?name=walk&scale=-1", "0 0 0 0 0 0 0 1\n"), 422).contains("scale")
    );
    assert!(
        sentence(s.post("/api/import/tum?name=%20", "0 0 0 0 0 0 0 1\n"), 422).contains("between 1 and 120")
    );
    // 100 MB of noise.
    let mut noise = vec![0u8; 100 << 20];
    let mut state = 1u64;
    for byte in &mut noise {
        state = state.wrapping_mul(6364136223846793005).wrapping_add(1442695040888963407);
        *byte = (state >> 33) as u8;
    }
    assert!(sentence(s.post("/api/import/tum?name=noise", &noise), 413).contains("line 1: this is not text"));
    let endless = "1 0 0 0 0 0 0 1\n".repeat(7 << 20);
    assert!(
        sentence(s.post("/api/import/tum?name=endless", endless), 413)
            .contains("line 4194305: here the file passes 64 MB")
    );
    assert!(
        sentence(s.post("/api/import/tum?name=noise", &noise[..60 << 20]), 422)
            .contains("line 1: this is not text")
    );
    assert_eq!(s.json("/api/document"), before);
}

#[test]
fn a_track_goes_out_and_comes_in_again() {
    let s = Served::demo();
    let csv = s.get("/api/moves/1/export?as=csv&stage=raw").into_string().unwrap();
    let (status, brought) = s.post("/api/import/csv?name=again", &csv);
    assert_eq!(status, Status::Ok);
    assert_eq!(brought["changed"]["history"]["undo"]["label"], "bring in again");
    let id = s.move_of(&brought["take"]);
    let back = s.get(&format!("/api/moves/{id}/export?as=csv")).into_string().unwrap();
    let numbers = |text: &str| -> Vec<f64> {
        text.lines().skip(1).flat_map(|l| l.split(',')).map(|v| v.parse().unwrap()).collect()
    };
    let (a, b) = (numbers(&csv), numbers(&back));
    assert_eq!(a.len(), b.len());
    assert!(a.iter().zip(&b).all(|(a, b)| (a - b).abs() < 1e-6));
}

#[test]
fn other_sites_may_not_ask_and_the_page_keeps_to_itself() {
    let s = Served::demo();
    let ask = |host: &str, origin: Option<&str>| {
        let undo = s.client.post("/api/undo").body(r#"{"page":"test"}"#);
        let mut request = undo.header(Header::new("Host", host.to_string()));
        if let Some(origin) = origin {
            request = request.header(Header::new("Origin", origin.to_string()));
        }
        request.dispatch().status().code
    };
    assert_eq!(ask("127.0.0.1:4780", Some("http://127.0.0.1:4780")), 200);
    assert_eq!(ask("127.0.0.1:4780", Some("http://elsewhere.example")), 403);
    assert_eq!(ask("rebound.example:4780", None), 403);
    let page = s.get("/");
    assert_eq!(page.status(), Status::Ok);
    assert!(page.headers().get_one("Content-Security-Policy").unwrap().contains("default-src 'self'"));
    assert_eq!(page.headers().get_one("Cache-Control"), Some("no-cache"));
}
