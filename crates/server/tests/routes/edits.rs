//! Edits by path over HTTP: from several pages at once, from old documents, undone and redone.

use crate::served::{Served, sentence};
use rand::rngs::StdRng;
use rand::{Rng, SeedableRng};
use rocket::http::Status;
use serde_json::{Value, json};
use std::collections::BTreeMap;

/// What stands at a path of the document, lists by the numbers of their members.
fn at<'a>(document: &'a Value, path: &str) -> &'a Value {
    let mut tokens = path[1..].split('/').peekable();
    let root = match tokens.next().unwrap() {
        "production" => return &document["production"],
        "scenes" => {
            tokens.next();
            &document["scene"]
        }
        list @ ("pieces" | "performers" | "performances") => &document["scene"][list],
        list => &document[list],
    };
    tokens.fold(root, |value, token| match value {
        Value::Array(list) => {
            let number: u64 = token.parse().unwrap();
            let named = |m: &&Value| ["id", "performance"].iter().any(|n| m[n].as_u64() == Some(number));
            list.iter().find(named).or_else(|| list.get(number as usize)).unwrap_or(&Value::Null)
        }
        value => &value[token],
    })
}

/// Everything that may be edited in the demo without one edit forbidding another.
fn places(document: &Value) -> Vec<String> {
    let mut places = Vec::new();
    for piece in document["scene"]["pieces"].as_array().unwrap() {
        let id = &piece["id"];
        places.extend(["name", "turn_deg", "position/0", "position/2"].map(|f| format!("/pieces/{id}/{f}")));
    }
    for performer in document["scene"]["performers"].as_array().unwrap() {
        let id = &performer["id"];
        places.push(format!("/performers/{id}/name"));
        for waypoint in performer["parts"][0]["route"]["waypoints"].as_array().unwrap() {
            let way = format!("/performers/{id}/parts/1/route/waypoints/{}", waypoint["id"]);
            places.extend([format!("{way}/position/0"), format!("{way}/position/2")]);
        }
    }
    for id in [1, 2] {
        places.extend(["name", "rig/base_x_m", "rig/heading_deg"].map(|f| format!("/setups/{id}/{f}")));
        places.extend(["name", "note"].map(|f| format!("/takes/{id}/{f}")));
    }
    places.push("/production/name".into());
    places.push("/scenes/1/stage/height_m".into());
    places
}

fn value(path: &str, random: &mut StdRng) -> Value {
    match path.rsplit('/').next().unwrap() {
        "name" | "note" => json!(format!("called {}", random.random_range(0..1_000_000))),
        "height_m" => json!(random.random_range(400..900) as f64 / 100.0),
        _ => json!(random.random_range(-900..900) as f64 / 100.0),
    }
}

fn send(s: &Served, page: &str, base: &Value, edits: &[(String, Value)]) -> (Status, Value) {
    let edit = |(path, value): &(String, Value)| {
        let ops = [json!({"op": "replace", "path": path, "value": value})];
        json!({"label": "change it", "base": base, "ops": ops})
    };
    let edits: Vec<Value> = edits.iter().map(edit).collect();
    s.post("/api/edits", json!({"page": page, "scene": 1, "edits": edits}).to_string())
}

/// A thousand in all, in two halves that run side by side.
#[test]
fn five_hundred_interleavings_of_two_pages_keep_every_edit() {
    interleave(20261125);
}

#[test]
fn five_hundred_other_interleavings_of_two_pages_keep_every_edit() {
    interleave(20261126);
}

fn interleave(seed: u64) {
    let s = Served::demo();
    let mut random = StdRng::seed_from_u64(seed);
    let all = places(&s.json("/api/document"));
    let mut wanted: BTreeMap<String, Value> = BTreeMap::new();
    for round in 0..500 {
        let base = s.json("/api/document")["revision"].clone();
        // Both pages begin from the same document; neither knows of the other's edits.
        let mut left: Vec<String> = all.clone();
        let mut waiting: [Vec<(String, Value)>; 2] = Default::default();
        for i in 0..random.random_range(2..8) {
            let path = left.swap_remove(random.random_range(0..left.len()));
            let value = value(&path, &mut random);
            wanted.insert(path.clone(), value.clone());
            waiting[i % 2].push((path, value));
        }
        while waiting.iter().any(|w| !w.is_empty()) {
            let page = random.random_range(0..2);
            let count = random.random_range(0..=waiting[page].len());
            let now: Vec<_> = waiting[page].drain(..count).collect();
            if !now.is_empty() {
                let (status, answer) = send(&s, ["left", "right"][page], &base, &now);
                assert_eq!(status, Status::Ok, "round {round}: {answer}");
            }
        }
    }
    let document = s.json("/api/document");
    for (path, value) in &wanted {
        let there = at(&document, path);
        let same = there == value || there.as_f64().is_some() && there.as_f64() == value.as_f64();
        assert!(same, "{path} is {there}, not {value}");
    }
}

#[test]
fn what_another_page_wrote_meanwhile_is_shown_and_nothing_is_overwritten() {
    let s = Served::demo();
    let base = s.json("/api/document")["revision"].clone();
    let edit = |page: &str, x: f64| send(&s, page, &base, &[("/setups/1/rig/base_x_m".into(), json!(x))]);
    assert_eq!(edit("left", 2.5).0, Status::Ok);
    let (status, problem) = edit("right", 7.0);
    assert_eq!((status, &problem["status"]), (Status::Conflict, &json!(409)));
    let both = json!({"path": "/setups/1/rig/base_x_m", "mine": 7.0, "theirs": 2.5});
    assert_eq!((&problem["conflict"], &problem["done"]), (&both, &json!(0)));
    // The page that wrote it goes on; the other one does when it knows of it, or asks all the same.
    assert_eq!(edit("left", 3.0).0, Status::Ok);
    let now = s.json("/api/document")["revision"].clone();
    assert_eq!(send(&s, "right", &now, &[("/setups/1/rig/base_x_m".into(), json!(7))]).0, Status::Ok);
    // An edit of what the other one is a part of meets it too.
    let whole = ("/setups/1/rig".to_string(), s.json("/api/document")["setups"][0]["rig"].clone());
    assert_eq!(send(&s, "left", &now, &[whole]).0, Status::Conflict);
}

#[test]
fn edits_before_the_one_that_is_refused_are_done_and_those_behind_it_are_not() {
    let s = Served::demo();
    let x = |x: f64| ("/pieces/5/position/0".to_string(), json!(x));
    let edits = [x(1.0), ("/takes/1/nothing".into(), json!(1)), x(2.0)];
    let (status, problem) = send(&s, "left", &Value::Null, &edits);
    assert_eq!((status, &problem["done"]), (Status::UnprocessableEntity, &json!(1)));
    assert_eq!(at(&s.json("/api/document"), "/pieces/5/position/0"), &json!(1.0));
}

#[test]
fn undo_means_the_entry_that_was_shown() {
    let s = Served::demo();
    s.replace("/scenes/1/name", json!("Hall"));
    let shown = s.json("/api/document")["history"]["undo"]["id"].clone();
    s.edit("name setup A", json!([{"op": "replace", "path": "/setups/1/name", "value": "arm"}]));
    let undo = |entry: &Value| s.post("/api/undo", json!({"page": "left", "entry": entry}).to_string());
    let said = sentence(undo(&shown), 409);
    assert!(said.contains("undo now means \"name setup A\""), "{said}");
    assert_eq!(s.json("/api/document")["setups"][0]["name"], "arm");
    let newest = s.json("/api/document")["history"]["undo"]["id"].clone();
    let (status, done) = undo(&newest);
    assert_eq!((status, &done["changed"]["setups"]["changed"][0]["id"]), (Status::Ok, &json!(1)));
    assert_eq!(undo(&shown).0, Status::Ok);
    assert_ne!(s.json("/api/document")["scene"]["name"], "Hall");
}

/// One edit of any kind, on whatever is there.
fn any_edit(document: &Value, random: &mut StdRng) -> Value {
    let pick = |list: &Value, random: &mut StdRng| {
        let list: Vec<Value> =
            list.as_array().unwrap().iter().filter(|t| t["binned"] != true).cloned().collect();
        list[random.random_range(0..list.len())].clone()
    };
    let scene = &document["scene"];
    let (piece, performer) = (pick(&scene["pieces"], random), pick(&scene["performers"], random));
    let setup = pick(&document["setups"], random);
    let block = json!({"name": "block", "position": [random.random_range(-8..8), 0, 0],
        "form": {"kind": "block", "size": [1, 1, 1], "material": "timber"}});
    let way = format!("/performers/{}/parts/{}/route/waypoints", performer["id"], scene["performance"]);
    let last = at(document, &way).as_array().and_then(|w| w.last()).cloned().unwrap_or(Value::Null);
    let number = random.random_range(1..400);
    let moves = document["moves"].as_array().unwrap();
    let there: Vec<&Value> = moves.iter().filter(|m| m["binned"] == false).collect();
    let moved = there[random.random_range(0..there.len())];
    let at = |field: &str| format!("/moves/{}/{field}", moved["id"]);
    match random.random_range(0..24) {
        0 => json!([{"op": "add", "path": "/pieces/new:1", "value": block}]),
        1 => json!([{"op": "remove", "path": format!("/pieces/{}", piece["id"])}]),
        2 => json!([
            {"op": "replace", "path": format!("/pieces/{}/position/0", piece["id"]), "value": number as f64 / 50.0},
            {"op": "replace", "path": format!("/pieces/{}/name", piece["id"]), "value": format!("piece {number}")},
        ]),
        3 if last.is_object() => json!([{"op": "add", "path": format!("{way}/new:1"),
            "value": {"time_s": last["time_s"].as_f64().unwrap() + last["stop_s"].as_f64().unwrap() + 3.0,
                "position": [number as f64 / 100.0, 0, 1]}}]),
        4 if last.is_object() => json!([{"op": "replace", "path": format!("{way}/{}/position/2", last["id"]),
            "value": number as f64 / 100.0}]),
        5 => json!([{"op": "add", "path": "/performers/new:1",
            "value": {"name": "guard", "height_m": 1.8, "parts": []}}]),
        6 => json!([{"op": "add", "path": "/performances/new:1",
            "value": {"name": format!("alternative {number}"), "like": scene["performance"]}}]),
        7 => json!([{"op": "replace", "path": "/scenes/1/performance",
            "value": pick(&scene["performances"], random)["id"]}]),
        8 => json!([{"op": "add", "path": "/setups/new:1",
            "value": {"name": "again", "camera": setup["camera"], "rig": setup["rig"]}}]),
        9 => json!([{"op": "move", "path": format!("/setups/{}", setup["id"])}]),
        10 => json!([{"op": "replace", "path": format!("/setups/{}/camera/focal_mm", setup["id"]),
            "value": setup["camera"]["focal_min_mm"]}]),
        11 => json!([{"op": "add", "path": "/moves/new:1", "value": {"setup_id": setup["id"],
            "source": {"kind": "curves"}, "run": number % 2 == 0,
            "curves": {"pan": [{"time_s": 1, "value": number}]}}}]),
        12 => json!([{"op": "add", "path": "/moves/1/treatments/new:1",
            "value": {"on": true, "kind": "smooth", "machine": {"by": "binomial", "passes": number}, "head": null, "lens": null}}]),
        13 => json!([{"op": "replace", "path": "/takes/2/rating", "value": "good"},
            {"op": "replace", "path": "/takes/2/note", "value": format!("note {number}")}]),
        14 => json!([{"op": "replace", "path": "/moves/1/treatments", "value": []}]),
        15 if moved["curves"]["pan"].is_array() => json!([{"op": "add", "path": at("curves/pan/new:1"),
            "value": {"time_s": 2 + random.random_range(0..3000), "value": number, "after": {"side": "hold"}}}]),
        16 => json!([{"op": "add", "path": at("curves/boom"), "value": [{"time_s": 0, "value": number}]}]),
        17 => json!([{"op": "add", "path": "/moves/new:1",
            "value": {"setup_id": moved["setup_id"], "source": moved["source"], "variant_of": moved["id"]}}]),
        18 => json!([{"op": "remove", "path": format!("/moves/{}", moved["id"])}]),
        19 => json!([{"op": "replace", "path": at("chosen"), "value": true},
            {"op": "replace", "path": at("name"), "value": format!("way {number}")}]),
        20 => {
            let mut camera = setup["camera"].clone();
            camera["f_stop"] = json!(2.0 + number as f64 / 100.0);
            json!([{"op": "replace", "path": at("camera"), "value": camera}])
        }
        21 => json!([{"op": "add", "path": "/moves/new:1", "value": {"setup_id": setup["id"], "run": true,
            "source": {"kind": "follow", "move": moved["id"]}}}]),
        22 => json!([{"op": "replace", "path": format!("/setups/{}/runs", setup["id"]), "value": null}]),
        _ => json!([{"op": "replace", "path": "/scenes/1/length_s", "value": number}]),
    }
}

#[test]
fn five_hundred_edits_of_every_kind_are_undone_and_redone_and_all_is_equal() {
    let s = Served::demo();
    let mut random = StdRng::seed_from_u64(7);
    let strip = |mut document: Value| {
        document["revision"].take();
        document["history"].take();
        document
    };
    let mut seen = vec![strip(s.json("/api/document"))];
    let mut refused = 0;
    while seen.len() <= 500 {
        let ops = any_edit(&s.json("/api/document"), &mut random);
        let (status, answer) = s.edit("any", ops.clone());
        let now = strip(s.json("/api/document"));
        if status == Status::Ok {
            // What changed nothing has no entry.
            if now != seen[seen.len() - 1] {
                seen.push(now);
            }
        } else {
            refused += 1;
            assert!(refused < 200, "{ops} {answer}");
            assert_eq!(now, seen[seen.len() - 1], "a refused edit changes nothing");
        }
    }
    for before in seen.iter().rev().skip(1) {
        assert_eq!(s.undo().0, Status::Ok);
        let now = strip(s.json("/api/document"));
        // What was made is in the bin; everything else is as it was.
        let there = |mut d: Value| {
            for list in ["setups", "takes", "moves"] {
                d[list].as_array_mut().unwrap().retain(|t| t["binned"] != true);
                let ids: Vec<String> =
                    d[list].as_array().unwrap().iter().map(|t| t["id"].to_string()).collect();
                d["versions"][list].as_object_mut().unwrap().retain(|id, _| ids.contains(id));
                if list == "moves" {
                    d["versions"]["plays"].as_object_mut().unwrap().retain(|id, _| ids.contains(id));
                }
            }
            d
        };
        assert_eq!(there(now), there(before.clone()));
    }
    for _ in 1..seen.len() {
        assert_eq!(s.post("/api/redo", r#"{"page":"test"}"#).0, Status::Ok);
    }
    assert_eq!(strip(s.json("/api/document")), seen[seen.len() - 1]);
}

/// What a page is told is enough to have the document without reading it again.
#[test]
fn what_has_changed_is_told_and_nothing_else() {
    let s = Served::demo();
    let (_, done) = s.replace("/pieces/5/name", json!("bench"));
    let changed = &done["changed"];
    let told: Vec<&str> = changed.as_object().unwrap().keys().map(String::as_str).collect();
    assert_eq!(told, ["history", "pieces", "revision", "since", "versions"]);
    assert_eq!(changed["pieces"]["changed"].as_array().unwrap().len(), 1);
    assert_eq!(changed["versions"]["performances"], json!({}), "nobody moves otherwise");
    let (_, done) = s.replace("/performers/1/parts/1/route/waypoints/1/position/0", json!(0.5));
    assert!(done["changed"]["versions"]["performances"]["1"].is_string(), "the conductor goes otherwise");
    assert!(done["changed"]["takes"].is_object(), "takes say that the conductor goes otherwise");
}

#[test]
fn a_path_that_leads_nowhere_is_refused_with_a_sentence() {
    let s = Served::demo();
    for (path, why) in [
        ("", "must begin with a slash"),
        ("ü", "must begin with a slash"),
        ("/", "paths begin with production"),
        ("/setups", "names no thing"),
        ("/setups/", "no number of a thing"),
    ] {
        let said = sentence(s.edit("change it", json!([{"op": "remove", "path": path}])), 422);
        assert!(said.contains(why), "{path:?}: {said}");
    }
}
