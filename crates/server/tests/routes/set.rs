//! The set, the cast, the setups and the frame over the API.

use crate::served::{Served, sentence};
use rocket::http::{ContentType, Status};
use rovnek_formats::bvh;
use serde_json::{Value, json};

fn block(name: &str, x: f64) -> Value {
    json!({"name": name, "position": [x, 0, 0], "form": {"kind": "block", "size": [1, 1, 1], "material": "timber"}})
}

fn pieces(s: &Served) -> Vec<Value> {
    s.json("/api/document")["scene"]["pieces"].as_array().unwrap().clone()
}

#[test]
fn many_changes_are_one_step_of_undo() {
    let s = Served::demo();
    let before = s.json("/api/document")["scene"].clone();
    let ops = json!([
        {"op": "replace", "path": "/scenes/1/stage", "value": {"width_m": 30, "depth_m": 20, "height_m": 7}},
        {"op": "add", "path": "/pieces/new:1", "value": block("a", 1.0)},
        {"op": "add", "path": "/pieces/new:2", "value": block("b", 2.0)},
        {"op": "replace", "path": "/pieces/new:2/position/2", "value": 4},
        {"op": "replace", "path": format!("/pieces/{}/name", before["pieces"][0]["id"]), "value": "moved wall"},
        {"op": "remove", "path": format!("/pieces/{}", before["pieces"][1]["id"])},
    ]);
    let (status, done) = s.edit("rebuild", ops);
    assert_eq!(status, Status::Ok, "{done}");
    assert_eq!(done["made"].as_object().unwrap().len(), 2);
    assert_eq!(
        done["changed"]["pieces"]["changed"].as_array().unwrap().len(),
        3,
        "two new ones, one changed"
    );
    assert_eq!(pieces(&s).last().unwrap()["position"], json!([2.0, 0.0, 4.0]));
    let names: Vec<Value> = pieces(&s).iter().map(|p| p["name"].clone()).collect();
    assert!(names.contains(&"moved wall".into()) && names.contains(&"b".into()));
    assert_eq!(names.len(), before["pieces"].as_array().unwrap().len() + 1);
    s.undo();
    assert_eq!(s.json("/api/document")["scene"], before);
    s.post("/api/redo", r#"{"page":"test"}"#);
    assert_eq!(pieces(&s).len(), names.len());
}

#[test]
fn what_cannot_stand_is_refused_and_changes_nothing() {
    let s = Served::demo();
    let before = s.json("/api/document")["scene"].clone();
    let mut flat = block("flat", 0.0);
    flat["form"]["size"][1] = 0.into();
    let add = |path: &str, value: Value| json!({"op": "add", "path": path, "value": value});
    let ops = json!([add("/pieces/new:1", block("good", 0.0)), add("/pieces/new:2", flat)]);
    assert!(sentence(s.edit("x", ops), 422).contains("flat"));
    assert!(sentence(s.replace("/scenes/1/stage/width_m", json!(-1)), 422).contains("stage"));
    assert!(sentence(s.edit("x", json!([{"op": "remove", "path": "/pieces/99999"}])), 404).contains("99999"));
    let short = json!({"name": "x", "height_m": 0.1, "build": 1, "parts": []});
    assert!(sentence(s.edit("x", json!([add("/performers/new:1", short)])), 422).contains("tall"));
    // What is not known is refused with its path, not dropped.
    let mut coloured = block("coloured", 0.0);
    coloured["colour"] = json!("red");
    let said = sentence(s.edit("x", json!([add("/pieces/new:1", coloured)])), 422);
    assert!(said.contains("/pieces/new:1/colour is not known"), "{said}");
    for (name, why) in [("", "between 1 and 120"), (" lamp", "spaces"), ("la\u{0}mp", "cannot be shown")] {
        assert!(sentence(s.replace("/setups/1/name", json!(name)), 422).contains(why), "{name:?}");
    }
    assert_eq!(s.json("/api/document")["scene"], before);
}

#[test]
fn a_moving_piece_is_drawn_with_the_performers_and_takes_its_rider_along() {
    let s = Served::demo();
    let figures = s.json("/api/scene/figures");
    let path = |name: &str| -> Vec<f64> {
        let figure = figures.as_array().unwrap().iter().find(|f| f["name"] == name).unwrap();
        figure["path"].as_array().unwrap().iter().map(|p| p[0].as_f64().unwrap()).collect()
    };
    let (tram, fitter) = (path("tram 12"), path("fitter"));
    assert!(tram.last().unwrap() - tram[0] > 9.0);
    for (a, b) in tram.iter().zip(&fitter) {
        assert!((b - a - 2.92).abs() < 1e-9);
    }
    let id = pieces(&s).iter().find(|p| p["name"] == "tram 12").unwrap()["id"].clone();
    let set = s.json("/api/scene/solids");
    let drawn = set["pieces"].as_array().unwrap().iter().find(|piece| piece["piece"] == id).unwrap();
    assert_eq!(drawn["drawn"]["solids"], json!([]));
    assert!(set["outlines"].as_array().unwrap().iter().any(|o| o["piece"] == id));
}

/// A piece that stands in a wall changes the wall; nothing else is sent again.
#[test]
fn only_pieces_that_are_drawn_otherwise_are_sent_again() {
    let s = Served::demo();
    let set = s.json("/api/scene/solids");
    let all = set["pieces"].as_array().unwrap();
    assert!(all.iter().all(|piece| piece["drawn"]["solids"].is_array()));
    let known: serde_json::Map<String, Value> =
        all.iter().map(|piece| (piece["piece"].to_string(), piece["version"].clone())).collect();
    let anew = |s: &Served| -> Vec<Value> {
        let (_, changed) = s.post("/api/scene/solids", Value::from(known.clone()).to_string());
        let pieces = changed["pieces"].as_array().unwrap();
        let anew = pieces.iter().filter(|piece| !piece["drawn"].is_null());
        anew.map(|piece| piece["piece"].clone()).collect()
    };
    assert_eq!(anew(&s), [] as [Value; 0]);
    let pieces = pieces(&s);
    let door = pieces.iter().find(|p| p["form"]["kind"] == "door").unwrap();
    let wider = door["form"]["width"].as_f64().unwrap() + 0.2;
    assert_eq!(s.replace(&format!("/pieces/{}/form/width", door["id"]), json!(wider)).0, Status::Ok);
    let sent = anew(&s);
    let kind = |id: &Value| pieces.iter().find(|p| p["id"] == *id).unwrap()["form"]["kind"].clone();
    assert!(sent.contains(&door["id"]) && sent.iter().any(|id| kind(id) == "wall"), "{sent:?}");
    assert_eq!(sent.len(), 2, "{sent:?}");
    s.undo();
    assert_eq!(anew(&s), [] as [Value; 0]);
    assert_eq!(s.post("/api/scene/solids", "[]").0, Status::UnprocessableEntity);
}

#[test]
fn alternatives_of_a_performance_go_their_own_ways() {
    let s = Served::demo();
    let runs = json!([{"op": "add", "path": "/performances/new:1", "value": {"name": "runs", "like": 1}}]);
    let (status, done) = s.edit("add performance runs", runs);
    assert_eq!(status, Status::Ok, "{done}");
    let document = s.json("/api/document");
    let second = document["scene"]["performance"].as_u64().unwrap();
    assert_eq!(document["scene"]["performances"].as_array().unwrap().len(), 2);
    // Everybody does the same at first; then the conductor hurries in the second one only.
    let conductor = &document["scene"]["performers"][0];
    assert_eq!(conductor["parts"].as_array().unwrap().len(), 2);
    let id = &conductor["parts"][1]["route"]["waypoints"][1]["id"];
    let path = format!("/performers/{}/parts/{second}/route/waypoints/{id}/time_s", conductor["id"]);
    assert_eq!(s.replace(&path, json!(2.0)).0, Status::Ok);
    let at_two = |s: &Served| {
        let figures = s.json("/api/scene/figures");
        figures.as_array().unwrap().iter().find(|f| f["name"] == "conductor").unwrap()["path"][8][0]
            .as_f64()
            .unwrap()
    };
    let hurried = at_two(&s);
    s.replace("/scenes/1/performance", json!(1));
    assert_eq!(s.json("/api/document")["scene"]["performance"], 1);
    assert!(at_two(&s) < hurried - 1.0);
    let remove =
        |id: u64| s.edit("remove it", json!([{"op": "remove", "path": format!("/performances/{id}")}]));
    assert_eq!(remove(second).0, Status::Ok);
    assert_eq!(s.json("/api/document")["scene"]["performances"].as_array().unwrap().len(), 1);
    assert!(sentence(remove(1), 422).contains("needs a performance"));
}

#[test]
fn a_move_plays_against_its_own_performance_whichever_plays_in_the_scene() {
    let s = Served::demo();
    let done = |(status, told): (Status, Value)| assert_eq!(status, Status::Ok, "{told}");
    let runs = json!([{"op": "add", "path": "/performances/new:1", "value": {"name": "runs", "like": 1}}]);
    done(s.edit("add performance runs", runs));
    let conductor = &s.json("/api/document")["scene"]["performers"][0];
    let (who, waypoint) = (&conductor["id"], &conductor["parts"][1]["route"]["waypoints"][1]["id"]);
    done(s.replace(&format!("/performers/{who}/parts/2/route/waypoints/{waypoint}/time_s"), json!(2.0)));
    let aim = json!({"kind": "aim", "on": true, "across": 0, "up": 0, "zone_percent": 0, "lag_s": 0,
        "turns": [{"from_s": 0.0, "over_s": 0.5, "to": {"at": "somebody", "who": who, "part": "eyes"}}]});
    let keyed = json!({"setup_id": 1, "source": {"kind": "curves"}, "curves": {}});
    done(s.edit(
        "a move that aims",
        json!([
            {"op": "add", "path": "/moves/new:1", "value": keyed},
            {"op": "add", "path": "/moves/new:1/treatments/new:2", "value": aim},
        ]),
    ));
    let id = s.json("/api/document")["moves"].as_array().unwrap().last().unwrap()["id"].clone();
    let frames = || s.get(&format!("/api/moves/{id}/frames")).into_bytes().unwrap();
    let plays = || s.json("/api/document")["versions"]["plays"][id.to_string()].as_u64().unwrap();
    let version = || s.json("/api/document")["versions"]["moves"][id.to_string()].clone();
    // Without one of its own it plays against that of the scene.
    assert_eq!(plays(), 2);
    let (second, of_second) = (frames(), version());
    done(s.replace("/scenes/1/performance", json!(1)));
    assert_eq!(plays(), 1);
    let (first, of_first) = (frames(), version());
    assert!(first != second && of_first != of_second, "the conductor goes otherwise");
    // With one of its own, that of the scene makes no difference.
    done(s.replace(&format!("/moves/{id}/performance"), json!(2)));
    assert!(plays() == 2 && frames() == second && version() == of_second);
    let people = |query: &str| s.json(&format!("/api/scene/figures{query}"));
    assert_eq!(people("?performance=1"), people(""));
    assert_ne!(people("?performance=2"), people(""));
    let stretch = |query: &str| s.get(&format!("/api/scene/performance{query}")).into_bytes().unwrap();
    assert_eq!(stretch("?performance=1"), stretch(""));
    assert_ne!(stretch("?performance=2"), stretch(""));
    // One that is gone leaves the move to that of the scene, until it is back.
    done(s.edit("remove it", json!([{"op": "remove", "path": "/performances/2"}])));
    assert!(plays() == 1 && frames() == first);
    for of in ["scene/figures", "scene/solids", "scene/performance", "setups/views"] {
        assert_eq!(s.get(&format!("/api/{of}?performance=2")).status(), Status::NotFound, "{of}");
    }
    done(s.replace("/moves/1/name", json!("as shot")));
    let refused = s.replace(&format!("/moves/{id}/performance"), json!(77)).1;
    assert!(refused.to_string().contains("performance with number 77"), "{refused}");
    for _ in 0..2 {
        s.post("/api/undo", json!({"page": "test"}).to_string());
    }
    assert!(plays() == 2 && frames() == second);
}

#[test]
fn setups_are_made_ordered_and_binned_and_the_last_one_stays() {
    let s = Served::demo();
    let document = s.json("/api/document");
    let (camera, rig) = (document["setups"][0]["camera"].clone(), document["setups"][0]["rig"].clone());
    let new = json!({"name": "again", "camera": camera, "rig": rig});
    let add = |new: Value| s.edit("add setup", json!([{"op": "add", "path": "/setups/new:1", "value": new}]));
    let (status, done) = add(new);
    assert_eq!(status, Status::Ok, "{done}");
    let document = s.json("/api/document");
    let third = document["setups"][2].clone();
    assert_eq!((third["letter"].as_str(), third["name"].as_str()), (Some("C"), Some("again")));
    let path = format!("/setups/{}", third["id"]);
    s.edit("reorder setup C", json!([{"op": "move", "path": path, "before": "1"}]));
    let document = s.json("/api/document");
    let letters: Vec<&str> =
        document["setups"].as_array().unwrap().iter().map(|s| s["letter"].as_str().unwrap()).collect();
    assert_eq!(letters, ["C", "A", "B"]);
    assert_eq!(s.json("/api/setups/views").as_array().unwrap().len(), 3);
    for id in [1, 2] {
        assert_eq!(s.replace(&format!("/setups/{id}/binned"), json!(true)).0, Status::Ok);
    }
    let last = s.edit("remove setup C", json!([{"op": "remove", "path": path}]));
    assert!(sentence(last, 422).contains("needs a setup"));
    let bad = json!({"name": "x", "camera": {"focal_mm": 9000}, "rig": rig});
    assert!(sentence(add(bad), 422).contains("9000"));
}

#[test]
fn a_camera_square_to_a_card_follows_it() {
    let s = Served::demo();
    let card = json!({"name": "card", "position": [3, 0, 1], "turn_deg": 20,
        "form": {"kind": "card", "image": 0, "width": 4, "height": 2, "toward": null}});
    let (_, done) = s.edit("card", json!([{"op": "add", "path": "/pieces/new:1", "value": card}]));
    let id = done["made"]["new:1"].clone();
    let camera = s.json("/api/document")["setups"][0]["camera"].clone();
    let rig = json!({"kind": "square_to_card", "card": id});
    let new = json!({"name": "square", "camera": camera, "rig": rig});
    let (status, done) = s.edit("add setup", json!([{"op": "add", "path": "/setups/new:1", "value": new}]));
    assert_eq!(status, Status::Ok, "{done}");
    let square = |s: &Served| s.json("/api/document")["setups"][2]["rig"].clone();
    assert_eq!((square(&s)["turn_deg"].as_f64(), &square(&s)["size"]), (Some(20.0), &json!([4.0, 2.0])));
    let replace = |field: &str, value: Value| json!({"op": "replace", "path": format!("/pieces/{id}/{field}"), "value": value});
    s.edit("move", json!([replace("position", json!([5, 0, 2])), replace("form/toward", json!(1))]));
    assert_eq!(square(&s)["position"], json!([5.0, 0.0, 2.0]));
    // It now faces where camera A stands, so its own camera stands on the line to it.
    let views = s.json("/api/setups/views");
    let at = |i: usize, k: usize| views[i]["position"][k].as_f64().unwrap();
    let towards = |i: usize| (at(i, 0) - 5.0).atan2(at(i, 2) - 2.0);
    assert!((towards(0) - towards(2)).abs() < 1e-6, "{views}");
    s.undo();
    assert_eq!(square(&s)["position"], json!([3.0, 0.0, 1.0]));

    // A card on its way takes the camera along: always as far before it, square to it.
    let waypoint = |time_s: f64, x: f64, facing_deg: f64| {
        json!({"time_s": time_s, "stop_s": 0, "position": [x, 0, 1], "facing_deg": facing_deg,
            "posture": "stand", "mark": null})
    };
    let routes = json!([{"performance": 1,
        "route": {"waypoints": [waypoint(0.0, 3.0, 20.0), waypoint(6.0, -1.0, 80.0)]}}]);
    let (status, done) = s.edit(
        "send the card",
        json!([{"op": "add", "path": format!("/pieces/{id}/routes"), "value": routes}]),
    );
    assert_eq!(status, Status::Ok, "{done}");
    assert_eq!(square(&s)["carried"], json!({"by": "piece", "id": id}));
    let number = |row: &Value, k: usize| row[k].as_f64().unwrap();
    let along = |s: &Served| {
        s.json("/api/scene/figures").as_array().unwrap().iter().find(|f| f["name"] == "card").unwrap()["path"]
            .clone()
    };
    let path = along(&s);
    let kept = add_move(&s, 3, json!({}));
    let far = |row: &[f64], card: &Value| (row[1] - number(card, 0)).hypot(row[3] - number(card, 2));
    let rows = camera_rows(&s, kept);
    let first = far(&rows[0], &path[0]);
    for quarter in 0..=24 {
        let (row, card) = (&rows[quarter * 6], &path[quarter]);
        assert!((far(row, card) - first).abs() < 1e-3, "{row:?} {card}");
        let to = (number(card, 0) - row[1]).atan2(row[3] - number(card, 2)).to_degrees();
        assert!(turn(row[4], to) < 0.05, "{row:?} {to}");
    }
    assert!((rows[0][1] - rows[144][1]).abs() > 3.0);
    // Where nobody has driven yet it stands before the card where the scene begins.
    let views = s.json("/api/setups/views");
    assert!((number(&views[2]["position"], 0) - rows[0][1]).abs() < 1e-3, "{views}");
    s.undo();
    s.undo();
    assert!(square(&s)["carried"].is_null());

    // One that turns to a camera turns as that camera's machine goes, and the one square to it with it.
    s.edit("face", json!([replace("form/toward", json!(1))]));
    let swing = |time_s: f64, value: f64| json!({"time_s": time_s, "value": value});
    let other = add_move(&s, 1, json!({"swing": [swing(0.0, -30.0), swing(5.0, 40.0)]}));
    assert_eq!(square(&s)["carried"], json!({"by": "piece", "id": id}));
    let kept = add_move(&s, 3, json!({}));
    let (looks, rows) = (camera_rows(&s, other), camera_rows(&s, kept));
    for (look, row) in looks.iter().zip(&rows).step_by(12) {
        let to = (3.0 - look[1]).atan2(look[3] - 1.0).to_degrees();
        assert!(turn(row[4], to) < 0.05, "{row:?} {look:?} {to}");
    }
    assert!(turn(rows[0][4], rows[120][4]) > 3.0);
    // Its machine going otherwise, so does it.
    let value = json!([swing(0.0, 40.0), swing(5.0, 40.0)]);
    assert_eq!(s.replace(&format!("/moves/{other}/curves/swing"), value).0, Status::Ok);
    let again = camera_rows(&s, kept);
    assert!(turn(again[0][4], rows[0][4]) > 3.0 && turn(again[0][4], again[120][4]) < 0.05);
}

/// How far two headings are apart, degrees.
fn turn(a: f64, b: f64) -> f64 {
    ((a - b + 540.0).rem_euclid(360.0) - 180.0).abs()
}

/// A keyed move that the machine of a setup runs.
fn add_move(s: &Served, setup: u32, curves: Value) -> u64 {
    let value = json!({"setup_id": setup, "name": "keyed", "source": {"kind": "curves"}, "curves": curves, "run": true});
    let (status, done) = s.edit("add a move", json!([{"op": "add", "path": "/moves/new:1", "value": value}]));
    assert_eq!(status, Status::Ok, "{done}");
    done["made"]["new:1"].as_u64().unwrap()
}

/// The camera of a move at every frame: time, x, y, z, pan, tilt and so on.
fn camera_rows(s: &Served, of: u64) -> Vec<Vec<f64>> {
    let csv = s.get(&format!("/api/moves/{of}/export?as=csv")).into_string().unwrap();
    csv.lines().skip(1).map(|line| line.split(',').map(|v| v.parse().unwrap()).collect()).collect()
}

#[test]
fn a_drawn_frame_is_answered_with_its_camera_and_the_lenses_around_it() {
    let s = Served::demo();
    let mut camera = s.json("/api/document")["setups"][0]["camera"].clone();
    camera["lens_set"] = "primes".into();
    s.replace("/setups/1/camera", camera);
    let wanted = json!({"setup_id": 1, "corner": [-0.2, 0.1, -1], "opposite": [0.25, -0.1, -1],
        "right": true, "up": false, "tilted": false});
    let (status, found) = s.post("/api/frame", wanted.to_string());
    assert_eq!(status, Status::Ok, "{found}");
    assert!(found["roll_deg"].as_f64().unwrap().abs() < 1e-9);
    let offers = found["offers"].as_array().unwrap();
    let focal = |i: usize| offers[i]["camera"]["focal_mm"].as_f64().unwrap();
    assert_eq!(offers.len(), 3);
    assert!(focal(1) < focal(0) && focal(0) < focal(2));
    // The first corner is where it was drawn.
    let corner: Vec<f64> =
        offers[0]["corners"][0].as_array().unwrap().iter().map(|v| v.as_f64().unwrap()).collect();
    assert!((corner[0] / corner[2] - 0.2).abs() < 1e-9 && (corner[1] / corner[2] + 0.1).abs() < 1e-9);
    let point = json!({"setup_id": 1, "corner": [0, 0, -1], "opposite": [0, 0, -1], "right": true, "up": true, "tilted": false});
    assert!(sentence(s.post("/api/frame", point.to_string()), 422).contains("corner"));
}

#[test]
fn the_set_goes_out_and_comes_in_again_equal() {
    let s = Served::demo();
    let before = pieces(&s);
    let file = s.get("/api/scene/set.glb").into_bytes().unwrap();
    let ids: Vec<Value> = before.iter().map(|p| p["id"].clone()).collect();
    let remove = |id: &Value| json!({"op": "remove", "path": format!("/pieces/{id}")});
    s.edit("clear", ids.iter().map(remove).collect());
    assert!(pieces(&s).is_empty());
    let (status, made) = s.post("/api/import/set?name=hall", &file);
    assert_eq!(status, Status::Ok, "{made}");
    assert_eq!(s.json("/api/jobs"), json!([]), "what is over is not listed");
    let plain = |list: Vec<Value>| -> Vec<Value> {
        let strip = |mut p: Value| {
            p.as_object_mut().unwrap().remove("id");
            // Groups are numbered anew where the scene has some already.
            p.as_object_mut().unwrap().remove("group");
            p
        };
        list.into_iter().map(strip).collect()
    };
    assert_eq!(plain(pieces(&s)), plain(before));
}

#[test]
fn images_become_cards_and_captures_performers_and_other_files_are_refused() {
    let s = Served::demo();
    let mut png = std::io::Cursor::new(Vec::new());
    image::RgbImage::new(40, 20).write_to(&mut png, image::ImageFormat::Png).unwrap();
    let png = png.into_inner();
    let (status, made) = s.post("/api/import/image?name=sky&x=2&z=-3", &png);
    assert_eq!(status, Status::Ok, "{made}");
    let card = pieces(&s).pop().unwrap();
    assert_eq!((&card["position"], card["form"]["width"].as_f64()), (&json!([2.0, 0.0, -3.0]), Some(4.0)));
    let image = s.get(&format!("/api/assets/{}/image", card["form"]["image"]));
    assert_eq!((image.content_type(), image.into_bytes()), (Some(ContentType::PNG), Some(png)));

    let clip = "HIERARCHY\nROOT Hips\n{\nOFFSET 0 0 0\nCHANNELS 6 Xposition Yposition Zposition Zrotation Xrotation Yrotation\nJOINT Head\n{\nOFFSET 0 80 0\nCHANNELS 3 Zrotation Xrotation Yrotation\nEnd Site\n{\nOFFSET 0 20 0\n}\n}\n}\nMOTION\nFrames: 2\nFrame Time: 1\n0 90 0 0 0 0 0 0 0\n100 90 0 0 0 0 0 0 0\n";
    assert!(bvh::read(clip.as_bytes()).is_ok());
    let (status, made) = s.post("/api/import/capture?name=walk", clip);
    assert_eq!(status, Status::Ok, "{made}");
    let figures = s.json("/api/scene/figures");
    let walk = figures.as_array().unwrap().iter().find(|f| f["name"] == "walk").unwrap();
    // A metre of the capture is as much more as the performer is taller than the skeleton.
    let end = walk["path"][4][0].as_f64().unwrap();
    assert!((end - 1.75).abs() < 1e-9, "{end}");

    // Two who dance beside a post: each a performer where the file has them, with all that they do.
    let figures = include_bytes!("../../../../reference/values/figure.gltf");
    let (status, made) = s.post("/api/import/set?name=dance", figures);
    assert_eq!(status, Status::Ok, "{made}");
    let counts = ["pieces", "performers"].map(|of| made[of].as_array().unwrap().len());
    assert_eq!(counts, [1, 2], "{made}");
    let clips: Vec<_> =
        s.json("/api/scene/clips").as_array().unwrap().iter().map(|c| c["name"].clone()).collect();
    assert_eq!(clips, ["walk", "dancer, sway", "dancer, bow", "partner, sway"]);
    let scene = &s.json("/api/document")["scene"];
    let dancer = scene["performers"].as_array().unwrap().iter().find(|p| p["name"] == "dancer").unwrap();
    let place = &dancer["parts"][0]["position"];
    assert_eq!([&place[0], &place[2]], [&json!(-1.0), &json!(-2.0)]);
    assert!((1.0..2.0).contains(&dancer["height_m"].as_f64().unwrap()), "{dancer}");
    let figures = s.json("/api/scene/figures");
    let drawn = figures.as_array().unwrap().iter().find(|f| f["name"] == "dancer").unwrap();
    // Hips go 12 cm along at 0.4 s, and 20 cm the other way at 1.1 s.
    let x = |k: usize| drawn["path"][k][0].as_f64().unwrap();
    assert!((x(0) + 1.0).abs() < 1e-6 && x(4) < -1.1, "{} {}", x(0), x(4));
    s.undo();

    assert!(sentence(s.post("/api/import/image?name=x", "hello"), 422).contains("neither"));
    assert!(sentence(s.post("/api/import/set?name=x", "hello"), 422).contains("not glTF"));
    assert!(sentence(s.post("/api/import/capture?name=x", "hello"), 422).contains("BVH"));
    assert!(sentence(s.post("/api/import/set?name=", "{}"), 422).contains("characters"));
    s.undo();
    assert!(s.json("/api/scene/figures").as_array().unwrap().iter().all(|f| f["name"] != "walk"));
}

#[test]
fn drawings_come_back_onto_their_card_one_for_each_frame() {
    let s = Served::demo();
    let png = |shade: u8| {
        let mut out = std::io::Cursor::new(Vec::new());
        let image = image::RgbaImage::from_pixel(4, 2, image::Rgba([shade, 0, 0, 9]));
        image.write_to(&mut out, image::ImageFormat::Png).unwrap();
        out.into_inner()
    };
    let packed = |shades: &[u8]| {
        let mut zip = zip::ZipWriter::new(std::io::Cursor::new(Vec::new()));
        for (i, shade) in shades.iter().enumerate() {
            zip.start_file(format!("drawn-{i}.png"), zip::write::SimpleFileOptions::default()).unwrap();
            std::io::Write::write_all(&mut zip, &png(*shade)).unwrap();
        }
        zip.finish().unwrap().into_inner()
    };
    let (status, made) = s.post("/api/import/sequence?name=dance", packed(&[1, 2]));
    assert_eq!(status, Status::Ok, "{made}");
    let card = || pieces(&s).pop().unwrap();
    let id = card()["id"].clone();
    let form = card()["form"].clone();
    assert_eq!((&form["width"], &form["sequence"]["rate"]), (&json!(4.0), &json!(24.0)));
    assert_eq!(form["image"], form["sequence"]["images"][0]);
    // Onto the same card: what is the same image is kept once.
    let (status, made) = s.post(&format!("/api/import/sequence?name=dance&card={id}"), packed(&[2, 3, 2]));
    assert_eq!((status, &made["pieces"]), (Status::Ok, &json!([id])), "{made}");
    let again = card()["form"]["sequence"]["images"].clone();
    assert_eq!((&again[0], &again[0]), (&again[2], &form["sequence"]["images"][1]));
    let image = |k: usize| s.get(&format!("/api/assets/{}/image", again[k])).into_bytes().unwrap();
    assert_eq!([image(0), image(1)], [png(2), png(3)]);
    assert_eq!(s.json("/api/scene/solids")["cards"][0]["sequence"]["images"], again);
    s.undo();
    assert_eq!(card()["form"], form);
    let put = |field: &str, value: Value| s.replace(&format!("/pieces/{id}/form/sequence/{field}"), value);
    assert_eq!(put("rate", json!(12)).0, Status::Ok);
    assert!(sentence(put("rate", json!(0)), 422).contains("0 images a second"));
    assert!(sentence(put("images", json!([])), 422).contains("0 images"));
    assert!(sentence(put("images", json!([98765])), 404).contains("98765"));
    let wall = pieces(&s)[0]["id"].clone();
    let to = |card: &Value| s.post(&format!("/api/import/sequence?name=x&card={card}"), packed(&[1]));
    assert!(sentence(to(&wall), 422).contains("no card"));
    assert_eq!(to(&json!(9999)).0, Status::NotFound);
    assert!(sentence(s.post("/api/import/sequence?name=x", "hello"), 422).contains("ZIP"));
}

#[test]
fn own_lenses_are_kept_with_the_production() {
    let s = Served::demo();
    assert!(s.json("/api/lenses").as_array().unwrap().len() >= 4);
    let lens = json!({"focal_min_mm": 58, "focal_max_mm": 58, "closest_focus_m": 0.5, "widest_stop": 2, "squeeze": 1});
    let (status, done) = s.replace("/production/lens_sets", json!([{"name": "own", "lenses": [lens]}]));
    assert_eq!((status, &done["changed"]["lens_sets"][0]["name"]), (Status::Ok, &json!("own")), "{done}");
    assert_eq!(s.json("/api/document")["production"], "Last Tram");
    let bad = json!([{"name": "own", "lenses": []}]);
    assert!(sentence(s.replace("/production/lens_sets", bad), 422).contains("own"));
}
