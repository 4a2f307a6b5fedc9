//! Moves by their routes: keyed, following, variants, keys made of a take; and a production of an
//! earlier layout, whose moves play as they did.

use crate::served::{Served, sentence};
use rocket::http::Status;
use rovnek_core::curve::CurveKey;
use rovnek_core::keys::{Curves, Keyed};
use rovnek_core::lens::Camera;
use rovnek_core::space::PanTiltRoll;
use rovnek_core::treatments::{Treatment, TreatmentKind};
use serde_json::{Value, json};
use std::time::{Duration, Instant};

/// A table as it is taken away: names of the columns, rows of numbers.
fn table(text: &str) -> (Vec<String>, Vec<Vec<f64>>) {
    let mut lines = text.lines();
    let names = lines.next().unwrap().split(',').map(Into::into).collect();
    (names, lines.map(|l| l.split(',').map(|v| v.parse().unwrap()).collect()).collect())
}

/// Export of a move as a table.
pub fn taken(s: &Served, id: u64, query: &str) -> (Vec<String>, Vec<Vec<f64>>) {
    table(&s.get(&format!("/api/moves/{id}/export?as={query}")).into_string().unwrap())
}

fn add(s: &Served, value: Value) -> u64 {
    let (status, done) = s.edit("add a move", json!([{"op": "add", "path": "/moves/new:1", "value": value}]));
    assert_eq!(status, Status::Ok, "{done}");
    done["made"]["new:1"].as_u64().unwrap()
}

/// What differs most, cell by cell; the columns of `b` that `a` has too.
fn apart(a: &(Vec<String>, Vec<Vec<f64>>), b: &(Vec<String>, Vec<Vec<f64>>)) -> f64 {
    assert_eq!(a.1.len(), b.1.len());
    let places: Vec<usize> = a.0.iter().map(|n| b.0.iter().position(|m| m == n).unwrap()).collect();
    let cells = a.1.iter().zip(&b.1).flat_map(|(a, b)| a.iter().zip(&places).map(|(v, i)| (v - b[*i]).abs()));
    cells.fold(0.0, f64::max)
}

/// The largest angle between two tables of pan, tilt and roll at the times of the second, degrees.
fn off_by(a: &(Vec<String>, Vec<Vec<f64>>), b: &(Vec<String>, Vec<Vec<f64>>)) -> f64 {
    let place = |names: &[String], name: &str| names.iter().position(|n| n == name).unwrap();
    let rotation = |names: &[String], row: &[f64]| {
        let [pan, tilt, roll] =
            ["pan_deg", "tilt_deg", "roll_deg"].map(|n| row[place(names, n)].to_radians());
        PanTiltRoll { pan, tilt, roll }.to_rotation()
    };
    let time = |names: &[String], row: &[f64]| row[place(names, "time_s")];
    let angles = b.1.iter().map(|row| {
        let now = time(&b.0, row);
        let near = |r: &&Vec<f64>| (time(&a.0, r) - now).abs();
        let raw = a.1.iter().min_by(|p, q| near(p).total_cmp(&near(q))).unwrap();
        rotation(&a.0, raw).angle_between(rotation(&b.0, row)).to_degrees()
    });
    angles.fold(0.0, f64::max)
}

/// A production as it was written by the version of layout 4: two driven takes, a walked one that is
/// steadied, keys that leave axes out, a rail that is carried by a take, an edit that was undone.
#[test]
fn a_production_of_an_earlier_layout_opens_and_every_take_plays_as_it_did() {
    let folder = tempfile::tempdir().unwrap();
    let kept = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/layout_4");
    std::fs::copy(format!("{kept}/rovnek.sqlite"), folder.path().join("rovnek.sqlite")).unwrap();
    let s = Served::of(folder);
    let document = s.json("/api/document");
    for take in [1, 2, 3] {
        let id = s.move_of(&json!(take));
        for (query, file) in
            [("axes&stage=raw", "raw.axes"), ("axes&stage=now", "now.axes"), ("csv", "now.camera")]
        {
            let text = std::fs::read_to_string(format!("{kept}/take_{take}_{file}.csv")).unwrap();
            let (mut then, now) = (table(&text), taken(&s, id, query));
            if take == 3 && file != "raw.axes" {
                // A camera in the air, looking straight up: its angles were smoothed one by one then,
                // and its rotation is as a whole now.
                let turned = |name: &String| name.ends_with("_deg");
                let kept: Vec<bool> = then.0.iter().map(|name| !turned(name)).collect();
                let only = |row: &mut Vec<f64>| {
                    let mut keep = kept.iter();
                    row.retain(|_| *keep.next().unwrap());
                };
                then.1.iter_mut().for_each(only);
                then.0.retain(|name| !turned(name));
                let raw = taken(&s, id, "axes&stage=raw");
                let angle = off_by(&raw, &now);
                assert!((0.1..2.0).contains(&angle), "smoothed, and near the raw take: {angle}°");
            }
            let far = apart(&then, &now);
            assert!(far < 1e-9, "take {take}, {query}: {far}");
        }
    }
    // A key that left an axis out stood for the value that it had.
    let runs = &document["setups"][0]["runs"];
    let moved = document["moves"].as_array().unwrap().iter().find(|m| m["id"] == *runs).unwrap();
    let keys = |axis: &str| -> Vec<(f64, f64)> {
        let keys = moved["curves"][axis].as_array().unwrap().iter();
        keys.map(|k| (k["time_s"].as_f64().unwrap(), k["value"].as_f64().unwrap())).collect()
    };
    assert_eq!(keys("swing"), [(0.0, 0.0), (2.0, 0.0), (5.0, 30.0)]);
    assert_eq!(keys("boom"), [(0.0, 5.0), (2.0, 12.0), (5.0, 12.0)]);
    assert_eq!(keys("pan"), [(0.0, 0.0), (2.0, 0.0), (5.0, -20.0)]);
    // What carried a machine by a take does so by its move.
    let setups = document["setups"].as_array().unwrap();
    let carried = setups.iter().find(|s| s["name"] == "rail").unwrap()["rig"]["carried"].clone();
    assert_eq!(carried, json!({"by": "setup", "id": 1, "move": s.move_of(&json!(1))}));
    // Everything that was done then is undone and done again.
    let plain = |mut d: Value| {
        for field in ["revision", "history"] {
            d[field].take();
        }
        d
    };
    let redo = |s: &Served| s.post("/api/redo", json!({"page": "test"}).to_string()).0;
    assert_eq!(redo(&s), Status::Ok);
    let end = plain(s.json("/api/document"));
    let mut steps = 0;
    while !s.json("/api/document")["history"]["undo"].is_null() {
        assert_eq!(s.undo().0, Status::Ok);
        steps += 1;
    }
    assert!(steps >= 8, "{steps}");
    let first = s.json("/api/document");
    assert_eq!(first["moves"][0]["treatments"], json!([]), "the treatments of the take are its move's");
    for _ in 0..steps {
        assert_eq!(redo(&s), Status::Ok);
    }
    assert_eq!(plain(s.json("/api/document")), end);
}

#[test]
fn a_keyed_move_is_looked_at_treated_and_taken_away_without_being_rolled() {
    let s = Served::demo();
    let key = |time_s: f64, value: f64| CurveKey::smooth(time_s, value);
    let curves = Curves::from([
        ("swing".to_string(), [key(0.0, 0.0), key(4.0, 40.0), key(9.0, -10.0)].into_iter().collect()),
        ("tilt".to_string(), [key(1.0, 0.0), key(5.0, -12.0)].into_iter().collect()),
    ]);
    let new =
        json!({"setup_id": 1, "name": "arc", "source": {"kind": "curves"}, "curves": curves, "run": true});
    let id = add(&s, new);
    let document = s.json("/api/document");
    assert_eq!(document["setups"][0]["runs"], id);
    // Against the curves themselves, at every sample.
    let rig: rovnek_core::rigs::Rigging =
        serde_json::from_value(document["setups"][0]["rig"].clone()).unwrap();
    let camera: Camera = serde_json::from_value(document["setups"][0]["camera"].clone()).unwrap();
    let rig = rig.build(&camera);
    let keyed = Keyed::of(&curves, &*rig, 60.0);
    let (names, rows) = taken(&s, id, "axes");
    let length = document["scene"]["length_s"].as_f64().unwrap();
    assert_eq!(rows.len(), (length * 120.0) as usize + 1);
    for (name, i) in [("swing_deg", 0), ("tilt_deg", 4)] {
        let place = names.iter().position(|n| n == name).unwrap();
        for (k, row) in rows.iter().enumerate() {
            let wanted = keyed.at(i, k as f64 / 120.0).unwrap().to_degrees();
            assert!((row[place] - wanted).abs() < 1e-9, "{name} {k}");
        }
    }
    // It is treated, measured, drawn, compared.
    let smooth = json!({"on": true, "kind": "smooth", "machine": {"by": "binomial", "passes": 300}, "head": null, "lens": null});
    let (status, _) = s.edit(
        "smooth",
        json!([{"op": "add", "path": format!("/moves/{id}/treatments/new:1"), "value": smooth}]),
    );
    assert_eq!(status, Status::Ok);
    assert!(apart(&taken(&s, id, "axes&stage=raw"), &taken(&s, id, "axes")) > 0.01);
    let figures = s.json(&format!("/api/moves/{id}/figures"));
    assert!(figures["departure"]["position_cm"].as_f64().unwrap() > 0.0);
    assert_eq!(s.get(&format!("/api/moves/{id}/lanes")).status(), Status::Ok);
    // Its frames are as docs/wire.md says, and count as the slate does.
    let machine = s.json(&format!("/api/moves/{id}/machine"));
    let count = |list: &str| machine[list].as_array().unwrap().len();
    let bytes = s.get(&format!("/api/moves/{id}/frames")).into_bytes().unwrap();
    let word = |at: usize| u32::from_le_bytes(bytes[at..at + 4].try_into().unwrap()) as usize;
    let (frames, axes, bodies) = (word(4), count("axes"), count("bodies"));
    assert_eq!((word(0), word(8), word(12), word(16)), (0, axes, bodies, 0));
    assert_eq!((word(24), word(28)), (0, frames));
    let path = frames * 12;
    assert_eq!(bytes.len(), 36 + path + frames * 4 * (1 + 23 + axes + 7 * bodies));
    let spoken = |packed: usize| {
        let [h, m, s, f] = (packed as u32).to_be_bytes();
        json!(format!("{h:02}:{m:02}:{s:02}:{f:02}"))
    };
    assert_eq!(
        json!([spoken(word(36 + path)), spoken(word(36 + path + 4 * 30))]),
        s.post("/api/scene/timecodes", "[0, 1.25]").1
    );
    sentence(s.post("/api/scene/timecodes", "[0, 1e9]"), 422);
    assert_eq!(machine["frame_mm"][0], s.json("/api/document")["setups"][0]["camera"]["sensor_width_mm"]);
    let name = s.get(&format!("/api/moves/{id}/export?as=tum"));
    let name = name.headers().get_one("Content-Disposition").unwrap().to_string();
    assert!(name.contains("setupA-arc.tum.txt"), "{name}");
    assert_eq!(s.get("/api/moves/99/frames").status(), Status::NotFound);
    // Trimmed, what is left keeps its time: in the picture, in every file, in the figures.
    let trim = json!({"on": true, "kind": "trim", "start_s": 2.0, "end_s": 1.0});
    let (status, _) = s.edit(
        "trim",
        json!([{"op": "add", "path": format!("/moves/{id}/treatments/new:1"), "value": trim, "before": "1"}]),
    );
    assert_eq!(status, Status::Ok);
    let bytes = s.get(&format!("/api/moves/{id}/frames")).into_bytes().unwrap();
    let word = |at: usize| u32::from_le_bytes(bytes[at..at + 4].try_into().unwrap()) as usize;
    assert_eq!((word(0), word(4)), (48, frames - 48 - 24));
    let path = word(4) * 12;
    assert_eq!(json!([spoken(word(36 + path))]), s.post("/api/scene/timecodes", "[2]").1);
    for (file, count) in [("csv", (length - 3.0) * 24.0), ("axes", (length - 3.0) * 120.0)] {
        let (_, rows) = taken(&s, id, file);
        assert_eq!((rows[0][0], rows.len()), (2.0, count as usize + 1), "{file}");
    }
    let figures = s.json(&format!("/api/moves/{id}/figures"));
    assert_eq!(figures["now"]["duration_s"], length - 3.0);
    assert_eq!(figures["raw"]["duration_s"], length);
}

#[test]
fn a_flat_move_is_the_move_at_its_frames_and_the_original_stays() {
    let s = Served::demo();
    let id = s.move_of(&json!(1));
    let ops = json!([
        {"op": "add", "path": format!("/moves/{id}/treatments/new:1"), "value": {"on": true, "kind": "trim", "start_s": 1.0, "end_s": 1.0}},
        {"op": "add", "path": format!("/moves/{id}/treatments/new:2"), "value": TreatmentKind::named("smooth").map(Treatment::from)},
    ]);
    assert_eq!(s.edit("treat", ops).0, Status::Ok);
    let flat = |s: &Served, by: Value| s.post(&format!("/api/moves/{id}/flatten"), by.to_string());
    for shaken in [false, true] {
        if shaken {
            let shake = TreatmentKind::named("shake").map(Treatment::from);
            let ops = json!([{"op": "add", "path": format!("/moves/{id}/treatments/new:1"), "value": shake}]);
            assert_eq!(s.edit("shake", ops).0, Status::Ok);
        }
        let (status, kept) = flat(&s, json!({"every": 1, "focus": "values"}));
        assert_eq!(status, Status::Ok, "{kept}");
        let made = kept["move_id"].as_u64().unwrap();
        let (wanted, got) = (taken(&s, id, "csv"), taken(&s, made, "csv"));
        assert_eq!(wanted.1.len(), got.1.len());
        assert!(apart(&wanted, &got) < 1e-6, "{}", apart(&wanted, &got));
        let moves = s.json("/api/document")["moves"].as_array().unwrap().clone();
        let made = moves.iter().find(|m| m["id"] == made).unwrap();
        let kind = made["rig"]["kind"].as_str().unwrap();
        assert_eq!(kind == "free_camera", shaken, "{kind}");
    }
    sentence(flat(&s, json!({"every": 0, "focus": "values"})), 422);
    sentence(flat(&s, json!({"every": 1, "from_s": 5.0, "to_s": 2.0, "focus": "values"})), 422);
    for outside in [json!({"from_s": 900.0}), json!({"to_s": 0.5})] {
        let mut by = json!({"every": 1, "focus": "values"});
        by.as_object_mut().unwrap().extend(outside.as_object().unwrap().clone());
        sentence(flat(&s, by), 422);
    }
    assert_eq!(s.undo().0, Status::Ok);
}

#[test]
fn bad_seconds_are_told_with_what_mends_them_and_a_mended_move_has_fewer() {
    let s = Served::demo();
    let keys: Vec<CurveKey> = [(0.0, 0.0), (3.0, 20.0), (6.0, 20.0), (9.0, 45.0), (9.3, 30.0), (16.0, 0.0)]
        .map(|(t, v)| CurveKey::smooth(t, v))
        .into();
    let curves = Curves::from([("swing".to_string(), keys.into_iter().collect())]);
    let new = json!({"setup_id": 1, "name": "halting", "source": {"kind": "curves"}, "curves": curves});
    let id = add(&s, new);
    let faults = || s.json(&format!("/api/moves/{id}/faults")).as_array().unwrap().clone();
    let of = |all: &[Value], kind: &str| all.iter().filter(|f| f["kind"] == kind).count();
    let found = faults();
    assert_eq!((of(&found, "stop"), of(&found, "limit")), (1, 1), "{found:?}");
    let remedy = |f: &Value| {
        let which = json!({"kind": f["kind"], "from_s": f["from_s"]}).to_string();
        s.post(&format!("/api/moves/{id}/remedy"), which)
    };
    let axes = |f: &&Value| f["kind"] == "stop" || f["kind"] == "limit";
    let treatments = found.iter().filter(axes).map(|f| remedy(f).1["treatment"].clone());
    let path = |n: usize| format!("/moves/{id}/treatments/new:{}", n + 1);
    let ops: Vec<Value> = treatments
        .enumerate()
        .map(|(n, treatment)| json!({"op": "add", "path": path(n), "value": treatment}))
        .collect();
    let (status, answer) = s.edit("mend", json!(ops));
    assert_eq!(status, Status::Ok, "{answer}");
    let left = faults();
    assert!(left.len() < found.len() && of(&left, "stop") == 0, "{left:?}");
    assert_eq!(s.get("/api/moves/99/faults").status(), Status::NotFound);
    // Of what is no longer there, none.
    let gone = found.iter().find(|f| f["kind"] == "stop").unwrap();
    assert_eq!(remedy(gone), (Status::Ok, Value::Null));
}

/// What is fast in a take is laid onto a keyed move that stands; a take that is not there is refused.
#[test]
fn a_move_shakes_as_a_take_did() {
    let s = Served::demo();
    let id = add(&s, json!({"setup_id": 1, "source": {"kind": "curves"}, "curves": {}}));
    let still = taken(&s, id, "csv");
    let of = |take: u32| {
        let way = json!({"by": "sampled", "take": take, "from_hz": 1.0, "starts_s": 0, "times": [1, 1]});
        json!({"on": true, "kind": "shake", "seed": 1, "pivot_m": 0, "same_on_screen_mm": null, "way": way})
    };
    let op = |value: Value| json!([{"op": "add", "path": format!("/moves/{id}/treatments/new:1"), "value": value}]);
    assert_eq!(s.edit("shake", op(of(1))).0, Status::Ok);
    let shake =
        |id: u64| s.json(&format!("/api/moves/{id}/figures"))["now"]["shake_rotation_deg"]["whole"].clone();
    let (made, was) = (shake(id).as_f64().unwrap(), shake(1).as_f64().unwrap());
    assert!((made / was - 1.0).abs() < 0.25, "{made} of {was}");
    assert!(apart(&still, &taken(&s, id, "csv")) > 1e-3);
    assert_eq!(s.post("/api/undo", json!({"page": "test"}).to_string()).0, Status::Ok);
    assert_eq!(apart(&still, &taken(&s, id, "csv")), 0.0);
    let (status, refused) = s.edit("shake", op(of(99)));
    assert_eq!(status, Status::NotFound);
    assert!(refused["detail"].as_str().unwrap().contains("no take with number 99"), "{refused}");
}

/// An aim at a mark goes by where that stands now, also where the mark is put elsewhere afterwards.
#[test]
fn a_move_is_aimed_at_a_mark_wherever_that_is_put() {
    let s = Served::demo();
    let document = s.json("/api/document");
    let pieces = document["scene"]["pieces"].as_array().unwrap();
    let mark = pieces.iter().find(|p| p["form"]["kind"] == "mark").unwrap()["id"].as_u64().unwrap();
    let to = json!({"at": "piece", "piece": mark, "up_m": 1.5});
    let turns = json!([{"from_s": 0, "over_s": 1, "to": to}]);
    let aim = json!({"on": true, "kind": "aim", "turns": turns, "across": 0, "up": 0, "zone_percent": 0, "lag_s": 0});
    let op = json!([{"op": "add", "path": "/moves/1/treatments/new:1", "value": aim}]);
    assert_eq!(s.edit("aim", op).0, Status::Ok);
    let before = taken(&s, 1, "csv");
    assert_eq!(s.replace(&format!("/pieces/{mark}/position"), json!([-8.0, 0.0, 3.0])).0, Status::Ok);
    assert!(off_by(&before, &taken(&s, 1, "csv")) > 1.0);
}

/// A jump that keys make (a side that holds) stays one under treatments.
#[test]
fn smoothing_does_not_cross_a_jump_of_a_keyed_move() {
    let s = Served::demo();
    let hold = json!({"side": "hold"});
    let keys = json!([{"time_s": 0, "value": 5.0, "after": hold}, {"time_s": 2, "value": 30.0}]);
    let id = add(&s, json!({"setup_id": 1, "source": {"kind": "curves"}, "curves": {"boom": keys}}));
    let by = json!({"by": "binomial", "passes": 200});
    let smooth = json!({"on": true, "kind": "smooth", "machine": by, "head": null, "lens": null});
    let op = json!([{"op": "add", "path": format!("/moves/{id}/treatments/new:1"), "value": smooth}]);
    assert_eq!(s.edit("smooth", op).0, Status::Ok);
    let (names, rows) = taken(&s, id, "axes");
    let boom = names.iter().position(|n| n == "boom_deg").unwrap();
    assert!((rows[239][boom] - 5.0).abs() < 1e-9 && (rows[240][boom] - 30.0).abs() < 1e-9);
}

/// The arm follows, the base is keyed; as a move it is kept, undone and taken away like any other.
#[test]
fn a_move_that_follows_another_is_stored_told_of_and_undone() {
    let s = Served::demo();
    let follow = |s: &Served, curves: Value| {
        add(s, json!({"setup_id": 1, "source": {"kind": "follow", "move": 1}, "run": true, "curves": curves}))
    };
    let id = follow(&s, json!({}));
    // From where it was rolled, the whole move is within reach, and the axes are those of the take.
    let view = s.json(&format!("/api/moves/{id}/follow"));
    assert_eq!(view["gaps"], json!([]));
    assert!((view["length_s"].as_f64().unwrap() - 12.0).abs() < 0.1);
    assert!(apart(&taken(&s, 1, "csv"), &taken(&s, id, "csv")) < 1e-4);
    // From across the hall it is not; the frames say so.
    assert_eq!(s.replace("/setups/1/rig/base_x_m", json!(14.0)).0, Status::Ok);
    let far = s.json(&format!("/api/moves/{id}/follow"));
    assert!(far["gaps"][0]["most"].as_f64().unwrap() > 1.0, "{}", far["gaps"]);
    let told = s.json(&format!("/api/moves/{id}/figures"))["warnings"].clone();
    assert!(told[0]["what"].as_str().unwrap().ends_with("m from where it is wanted"), "{told}");
    assert_eq!(told[0]["when"]["to_frame"], far["gaps"][0]["to_frame"], "{told}");
    // At twice the rate it is twice as many frames.
    assert_eq!(s.replace("/scenes/1/rate", json!({"num": 48, "den": 1})).0, Status::Ok);
    let twice = s.json(&format!("/api/moves/{id}/figures"))["warnings"].clone();
    let last = |told: &Value| told[0]["when"]["to_frame"].as_u64().unwrap();
    assert!(last(&twice).abs_diff(2 * last(&told)) <= 1, "{told} {twice}");
    assert_eq!(s.undo().0, Status::Ok);
    assert_eq!(far["short_m"].as_array().unwrap().len(), view["short_m"].as_array().unwrap().len());
    // A base that can be pushed comes back to where it was, and says how fast it must be.
    let start = s.json("/api/document")["setups"][0]["rig"].clone();
    assert_eq!(s.replace("/setups/1/rig/free", json!(true)).0, Status::Ok);
    let keys = json!({"base x": [{"time_s": 0.0, "value": 14.0}, {"time_s": 4.0, "value": 0.5}]});
    let (status, answer) = s.edit(
        "key the base",
        json!([{"op": "add", "path": format!("/moves/{id}/curves/base x"), "value": keys["base x"]}]),
    );
    assert_eq!(status, Status::Ok, "{answer}");
    let near = s.json(&format!("/api/moves/{id}/follow"));
    let short = |view: &Value| {
        view["short_m"].as_array().unwrap().iter().filter(|v| v.as_f64().unwrap() > 1e-6).count()
    };
    assert!(short(&near) < short(&far), "{} {}", short(&near), short(&far));
    let fastest =
        near["base_m_s"].as_array().unwrap().iter().map(|v| v.as_f64().unwrap()).fold(0.0, f64::max);
    // Between two keys at rest the greatest speed is one and a half times the mean.
    assert!((fastest - 1.5 * 13.5 / 4.0).abs() < 0.05, "{fastest}");
    for _ in 0..2 {
        assert_eq!(s.undo().0, Status::Ok);
    }
    assert_eq!(s.json("/api/document")["setups"][0]["rig"], start);
    assert!(
        sentence(crate::served::read(s.get("/api/moves/1/follow")), 422).contains("follows no other move")
    );
    // Followers of followers, up to a depth.
    let mut last = id;
    for _ in 0..9 {
        last = add(&s, json!({"setup_id": 1, "source": {"kind": "follow", "move": last}}));
    }
    assert!(
        sentence(crate::served::read(s.get(&format!("/api/moves/{last}/frames"))), 422)
            .contains("follow one another")
    );
}

/// Waits for a job to be over; its view.
fn over(s: &Served, id: &Value) -> Value {
    let until = Instant::now() + Duration::from_secs(60);
    loop {
        let jobs = s.json("/api/jobs");
        let job = jobs.as_array().unwrap().iter().find(|j| j["id"] == *id).unwrap().clone();
        if !["waiting", "running"].contains(&job["state"].as_str().unwrap()) {
            return job;
        }
        assert!(Instant::now() < until, "{job}");
        std::thread::yield_now();
    }
}

#[test]
fn keys_are_made_of_a_take_within_a_tolerance_and_driven_as_they_were_shown() {
    let s = Served::demo();
    let make = |id: u64, cm: f64, deg: f64| {
        let wanted = json!({"kind": "keys", "move_id": id, "position_cm": cm, "rotation_deg": deg});
        s.post("/api/jobs", wanted.to_string())
    };
    let (status, job) = make(1, 2.0, 0.3);
    assert_eq!((status, &job["label"]), (Status::Ok, &json!("keys of take 1")));
    let done = over(&s, &job["id"]);
    assert_eq!((&done["state"], &done["lanes"]), (&json!("done"), &json!(true)), "{done}");
    // "63 keys, at most 1.81 cm and 0.27° off"
    let words = done["words"].as_str().unwrap().replace('°', "");
    let off: Vec<f64> = words.split(' ').filter_map(|word| word.parse().ok()).collect();
    assert!(off.len() == 3 && off[1] <= 2.0 && off[2] <= 0.3, "{words}");
    let shown = s.get(&format!("/api/jobs/{}/lanes", job["id"])).into_bytes().unwrap();
    let (status, kept) = s.post(&format!("/api/jobs/{}/keep", job["id"]), "");
    assert_eq!(status, Status::Ok, "{kept}");
    assert!(kept["words"].as_str().unwrap().contains("machine runs it"), "{kept}");
    let id = kept["move_id"].as_u64().unwrap();
    let document = s.json("/api/document");
    assert_eq!(
        (&document["setups"][0]["runs"], &document["history"]["undo"]["label"]),
        (&json!(id), &json!("make keys of take 1"))
    );
    let lanes = s.get(&format!("/api/moves/{id}/lanes")).into_bytes().unwrap();
    let column = |bytes: &[u8], nth: usize| -> Vec<f32> {
        let word = |i: usize| u32::from_le_bytes(bytes[4 * i..4 * i + 4].try_into().unwrap()) as usize;
        assert_eq!(word(0), word(2), "a column for every sample");
        let at = 20 + nth * word(0) * 4;
        bytes[at..at + word(0) * 4].chunks(4).map(|b| f32::from_le_bytes(b.try_into().unwrap())).collect()
    };
    let drawn = s.get(&format!("/api/moves/{id}/lanes?columns=512")).into_bytes().unwrap();
    assert!(4 * drawn.len() < lanes.len() && drawn[..4] == lanes[..4], "{} bytes", drawn.len());
    // A window of time has the samples in it, and one to each side.
    let part = s.get(&format!("/api/moves/{id}/lanes?from_s=1.004&to_s=2.004")).into_bytes().unwrap();
    let (all, some) = (column(&lanes, 0), column(&part, 0));
    assert_eq!(f32::from_le_bytes(part[16..20].try_into().unwrap()), 1.0);
    assert_eq!(some, all[120..242]);
    // What was shown is what is driven, sample for sample; the take is as long as the scene or shorter.
    for axis in 0..8 {
        let (before, after) = (column(&shown, 4 * axis + 2), column(&lanes, 4 * axis + 2));
        let same = before.len().min(after.len());
        assert_eq!(before[..same], after[..same], "axis {axis}");
    }
    assert!(s.json("/api/jobs").as_array().unwrap().is_empty(), "it is kept");
    assert!(sentence(s.post(&format!("/api/jobs/{}/keep", job["id"]), ""), 422).contains("begin it anew"));
    // The machine has been moved since: the keys are kept with the machine that they were made for.
    assert_eq!(s.replace("/setups/1/rig/base_x_m", json!(3.0)).0, Status::Ok);
    let (_, job) = make(1, 2.0, 0.3);
    over(&s, &job["id"]);
    let (_, kept) = s.post(&format!("/api/jobs/{}/keep", job["id"]), "");
    assert!(kept["words"].as_str().unwrap().contains("as it stood for the take"), "{kept}");
    let own = s.json("/api/document")["moves"].as_array().unwrap().last().unwrap().clone();
    assert_eq!(own["rig"]["base_x_m"], s.json("/api/document")["takes"][0]["rig"]["base_x_m"]);
    // What cannot be, what is stopped, what is forgotten.
    assert!(sentence(make(1, 0.0, 1.0), 422).contains("0.01 to 100 cm"));
    assert!(sentence(make(99, 1.0, 1.0), 404).contains("no move with number 99"));
    let (_, job) = make(2, 0.01, 0.001);
    s.post(&format!("/api/jobs/{}/stop", job["id"]), "");
    let until = Instant::now() + Duration::from_secs(60);
    while s
        .json("/api/jobs")
        .as_array()
        .unwrap()
        .iter()
        .any(|j| j["state"] == "running" || j["state"] == "waiting")
    {
        assert!(Instant::now() < until);
    }
}

/// A long move is read window by window: together the windows are the move, each with the first frame of the
/// next one, and the path is whole in each.
#[test]
fn the_frames_of_a_long_move_are_read_by_window() {
    let s = Served::demo();
    assert_eq!(s.replace("/scenes/1/length_s", json!(120.0)).0, Status::Ok);
    let keys = json!([{"time_s": 0.0, "value": 0.0}, {"time_s": 119.0, "value": 60.0}]);
    let keyed = json!({"setup_id": 1, "source": {"kind": "curves"}, "curves": {"swing": keys}});
    assert_eq!(
        s.edit("a long move", json!([{"op": "add", "path": "/moves/new:1", "value": keyed}])).0,
        Status::Ok
    );
    let id = s.json("/api/document")["moves"].as_array().unwrap().last().unwrap()["id"].clone();
    let read = |query: &str| s.get(&format!("/api/moves/{id}/frames{query}")).into_bytes().unwrap();
    let word = |bytes: &[u8], k: usize| u32::from_le_bytes(bytes[4 * k..][..4].try_into().unwrap()) as usize;
    let whole = read("");
    let [count, axes, bodies] = [1, 2, 3].map(|k| word(&whole, k));
    assert!(count > 2400, "{count} frames");
    let stride = 4 * (23 + axes + 7 * bodies);
    // Jumps and riders are none, so the path begins behind the nine words.
    let path = |bytes: &[u8]| bytes[36..36 + 12 * count].to_vec();
    let row = |bytes: &[u8], place: usize| {
        let start = 36 + 12 * count + 4 * word(bytes, 7);
        bytes[start + (place - word(bytes, 6)) * stride..][..stride].to_vec()
    };
    for (around, from, frames) in
        [(0, 0, 1201), (1199, 0, 1201), (1200, 1200, 1201), (99_999, 2400, count - 2400)]
    {
        let window = read(&format!("?around={around}"));
        assert_eq!((word(&window, 1), word(&window, 6), word(&window, 7)), (count, from, frames), "{around}");
        assert!(path(&window) == path(&whole));
        for place in [from, from + frames - 1] {
            assert!(row(&window, place) == row(&whole, place), "frame {place} around {around}");
        }
    }
    // Under treatments that are tried, too.
    let tried = s.post(&format!("/api/moves/{id}/preview?part=frames&around=1300"), "[]");
    assert_eq!(tried.0, Status::Ok);
}

/// What the dial finds in the place of a treatment is what the figures say once it stands there.
#[test]
fn a_move_is_made_as_calm_as_is_wished_by_the_treatment_that_is_found() {
    let s = Served::demo();
    let add = |smooth: Value| {
        let ops = json!([{"op": "add", "path": "/moves/1/treatments/new:1", "value": smooth}]);
        assert_eq!(s.edit("smooth take 1", ops).0, Status::Ok);
    };
    let smooth = |by: Value| json!({"on": true, "kind": "smooth", "machine": by, "head": by, "lens": null});
    add(smooth(json!({"by": "binomial", "passes": 3})));
    add(smooth(Value::Null));
    let ask = |treatment: u32, wish: Value| {
        s.post(&format!("/api/moves/1/treatments/{treatment}/ask"), wish.to_string())
    };
    let wish =
        json!({"question": "calm", "times": 5.0, "by": "low_pass", "within_cm": 20.0, "within_deg": 10.0});
    let (status, found) = ask(2, wish.clone());
    assert_eq!((status, &found["short"]), (Status::Ok, &json!([])), "{found}");
    let before = s.json("/api/moves/1/figures")["now"].clone();
    for part in ["machine", "head"] {
        let ops = json!([{"op": "replace", "path": format!("/moves/1/treatments/2/{part}"), "value": found["to"][part]}]);
        assert_eq!(s.edit("calm take 1", ops).0, Status::Ok);
    }
    let now = s.json("/api/moves/1/figures")["now"].clone();
    for figure in ["shake_position_cm", "shake_rotation_deg"] {
        let [before, now] = [&before, &now].map(|f| f[figure]["worst_second"].as_f64().unwrap());
        assert!(now <= before / 5.0 && now > 0.5 * before / 5.0, "{figure}: {before} became {now}");
    }
    // What goes before it counts: in the first place there is more shake to begin with.
    let (_, first) = ask(1, wish.clone());
    assert_ne!(first["to"]["head"], found["to"]["head"]);
    let mut tight = wish.clone();
    tight["within_deg"] = json!(0.01);
    assert!(ask(1, tight).1["short"][0].as_str().unwrap().starts_with("rotation comes to"));
    let mut wrong = wish.clone();
    wrong["times"] = json!(0);
    assert_eq!(sentence(ask(1, wrong), 422), "calm is 0 ×; give 1 to 50 ×");
    assert_eq!(sentence(ask(9, wish), 422), "this treatment is gone; open the one that is there");
}

/// What a take was turned to is read out of it, on what comes before in the list, and is an aim.
#[test]
fn whom_a_take_looked_at_is_answered_as_an_aim_that_looks_there() {
    let s = Served::demo();
    let usual = s.json("/api/kinds/treatments");
    let usual = usual.as_array().unwrap().iter().find(|k| k["name"] == "aim").unwrap()["usual"].clone();
    let add = json!([{"op": "add", "path": "/moves/1/treatments/new:1", "value": usual}]);
    assert_eq!(s.edit("aim take 1", add).0, Status::Ok);
    let ask = |of: u32, question: &str| {
        s.post(&format!("/api/moves/1/treatments/{of}/ask"), json!({"question": question}).to_string())
    };
    let (status, found) = ask(1, "as_looked");
    assert_eq!(status, Status::Ok, "{found}");
    let found = &found["to"];
    let who: Vec<&Value> = found["turns"].as_array().unwrap().iter().map(|turn| &turn["to"]["who"]).collect();
    assert!(who.iter().any(|w| w.is_number()), "{found}");
    for part in ["turns", "across", "up"] {
        let path = format!("/moves/1/treatments/1/{part}");
        let ops = json!([{"op": "replace", "path": path, "value": found[part]}]);
        assert_eq!(s.edit("aim take 1", ops).0, Status::Ok);
    }
    let departure = s.json("/api/moves/1/figures")["departure"]["rotation_deg"].clone();
    assert!(departure.as_f64().unwrap() < 15.0, "{departure}");
    let gone = "this treatment is gone; open the one that is there";
    assert_eq!(sentence(ask(9, "as_looked"), 422), gone);
    let other = "“Stops” is asked of drift; this treatment is aim";
    assert_eq!(sentence(ask(1, "stops"), 422), other);
}

/// Keys are worked on by what the page has; what becomes of them is kept by an edit like any other.
#[test]
fn picked_keys_are_eased_evened_and_refused_with_a_sentence() {
    let s = Served::demo();
    let key = |id: u32, t: f64, v: f64| json!({"id": id, "time_s": t, "value": v});
    let keys = json!({"swing": [key(1, 0.0, 0.0), key(4, 1.0, 40.0), key(7, 8.0, 60.0)]});
    let ask = |picked: Value, edit: Value| {
        let wanted = json!({"curves": keys, "picked": {"swing": picked}, "edit": edit});
        s.post("/api/moves/1/keys/edited", wanted.to_string())
    };
    let done = |picked: Value, edit: Value| -> Value {
        let (status, done) = ask(picked, edit);
        assert_eq!(status, Status::Ok, "{done}");
        done
    };
    let bounced = done(json!([4, 7]), json!({"do": "ease", "ease": {"by": "bounce"}}));
    let ids: Vec<u64> =
        bounced["swing"].as_array().unwrap().iter().map(|k| k["id"].as_u64().unwrap()).collect();
    assert_eq!(ids, [1, 4, 8, 9, 10, 7]);
    let evened = done(json!([1, 4, 7]), json!({"do": "even"}));
    let time = evened["swing"][1]["time_s"].as_f64().unwrap();
    assert!((time - 16.0 / 3.0).abs() < 0.05, "two thirds of the arc, {time}");
    let refused = sentence(ask(json!([1, 7]), json!({"do": "even"})), 422);
    assert!(refused.contains("three times"), "{refused}");
    let refused = sentence(ask(json!([1]), json!({"do": "shift", "by_s": 1.0, "by": 0.0})), 422);
    assert!(refused.contains("swing: keys 1 and 2"), "{refused}");
    let eases: Value = serde_json::from_str(&s.get("/api/kinds/eases").into_string().unwrap()).unwrap();
    assert_eq!(eases[7]["ease"]["by"], "bounce");
    assert_eq!(eases[7]["drawn"].as_array().unwrap().len(), 61);
}
