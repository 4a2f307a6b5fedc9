//! The set, the cast, the setups and the frame over the API.

mod served;

use rocket::http::{ContentType, Status};
use rovnek_formats::bvh;
use serde_json::{Value, json};
use served::{Served, sentence};

fn edit(s: &Served, change: Value) -> (Status, Value) {
    s.post("/api/scenes/1/edit", change.to_string())
}

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
    let mut first = before["pieces"][0].clone();
    first["name"] = "moved wall".into();
    let change = json!({
        "label": "rebuild", "stage": {"width_m": 30, "depth_m": 20, "height_m": 7},
        "pieces": {"add": [block("a", 1.0), block("b", 2.0)], "change": [first], "remove": [before["pieces"][1]["id"]]},
    });
    let (status, made) = edit(&s, change);
    assert_eq!(status, Status::Ok, "{made}");
    assert_eq!(made["pieces"].as_array().unwrap().len(), 2);
    let names: Vec<Value> = pieces(&s).iter().map(|p| p["name"].clone()).collect();
    assert!(names.contains(&"moved wall".into()) && names.contains(&"b".into()));
    assert_eq!(names.len(), before["pieces"].as_array().unwrap().len() + 1);
    s.post("/api/undo", "");
    assert_eq!(s.json("/api/document")["scene"], before);
    s.post("/api/redo", "");
    assert_eq!(pieces(&s).len(), names.len());
}

#[test]
fn what_cannot_stand_is_refused_and_changes_nothing() {
    let s = Served::demo();
    let before = s.json("/api/document")["scene"].clone();
    let mut flat = block("flat", 0.0);
    flat["form"]["size"][1] = 0.into();
    let change = json!({"label": "x", "pieces": {"add": [block("good", 0.0), flat]}});
    assert!(sentence(edit(&s, change), 422).contains("flat"));
    let change = json!({"label": "x", "stage": {"width_m": -1, "depth_m": 20, "height_m": 7}});
    assert!(sentence(edit(&s, change), 422).contains("stage"));
    let change = json!({"label": "x", "pieces": {"remove": [99999]}});
    assert!(sentence(edit(&s, change), 404).contains("99999"));
    let short = json!({"name": "x", "height_m": 0.1, "build": 1, "parts": []});
    assert!(sentence(edit(&s, json!({"label": "x", "performers": {"add": [short]}})), 422).contains("tall"));
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
    assert!(set["solids"].as_array().unwrap().iter().all(|solid| solid["piece"] != id));
    assert!(set["outlines"].as_array().unwrap().iter().any(|o| o["piece"] == id));
}

#[test]
fn alternatives_of_a_performance_go_their_own_ways() {
    let s = Served::demo();
    let (status, document) = s.post("/api/scenes/1/performances", json!({"name": "runs"}).to_string());
    assert_eq!(status, Status::Ok, "{document}");
    let second = document["scene"]["performance"].as_u64().unwrap();
    assert_eq!(document["scene"]["performances"].as_array().unwrap().len(), 2);
    // Everybody does the same at first; then the conductor hurries in the second one only.
    let mut conductor = document["scene"]["performers"][0].clone();
    let parts = conductor["parts"].as_array_mut().unwrap();
    assert_eq!(parts.len(), 2);
    let part = parts.iter_mut().find(|p| p["performance"] == second).unwrap();
    part["route"]["waypoints"][1]["time_s"] = 2.0.into();
    let (status, _) = edit(&s, json!({"label": "hurry", "performers": {"change": [conductor]}}));
    assert_eq!(status, Status::Ok);
    let at_two = |s: &Served| {
        let figures = s.json("/api/scene/figures");
        figures.as_array().unwrap().iter().find(|f| f["name"] == "conductor").unwrap()["path"][8][0]
            .as_f64()
            .unwrap()
    };
    let hurried = at_two(&s);
    let (_, document) = s.patch("/api/scenes/1/performances/1", json!({"plays": true}));
    assert_eq!(document["scene"]["performance"], 1);
    assert!(at_two(&s) < hurried - 1.0);
    let answer = s.delete(&format!("/api/scenes/1/performances/{second}"));
    assert_eq!(answer["scene"]["performances"].as_array().unwrap().len(), 1);
    assert!(sentence(s.delete_raw("/api/scenes/1/performances/1"), 422).contains("needs a performance"));
}

#[test]
fn setups_are_made_ordered_and_binned_and_the_last_one_stays() {
    let s = Served::demo();
    let document = s.json("/api/document");
    let (camera, rig) = (document["setups"][0]["camera"].clone(), document["setups"][0]["rig"].clone());
    let new = json!({"name": "again", "camera": camera, "rig": rig});
    let (status, document) = s.post("/api/scenes/1/setups", new.to_string());
    assert_eq!(status, Status::Ok, "{document}");
    let third = document["setups"][2].clone();
    assert_eq!((third["letter"].as_str(), third["name"].as_str()), (Some("C"), Some("again")));
    let (_, document) = s.patch(&format!("/api/setups/{}", third["id"]), json!({"place": 0}));
    let letters: Vec<&str> =
        document["setups"].as_array().unwrap().iter().map(|s| s["letter"].as_str().unwrap()).collect();
    assert_eq!(letters, ["C", "A", "B"]);
    assert_eq!(s.json("/api/setups/views").as_array().unwrap().len(), 3);
    for id in [1, 2] {
        assert_eq!(s.patch(&format!("/api/setups/{id}"), json!({"binned": true})).0, Status::Ok);
    }
    let last = s.patch(&format!("/api/setups/{}", third["id"]), json!({"binned": true}));
    assert!(sentence(last, 422).contains("needs a setup"));
    let bad = json!({"name": "x", "camera": {"focal_mm": 9000}, "rig": rig});
    assert!(sentence(s.post("/api/scenes/1/setups", bad.to_string()), 422).contains("9000"));
}

#[test]
fn a_camera_square_to_a_card_follows_it() {
    let s = Served::demo();
    let card = json!({"name": "card", "position": [3, 0, 1], "turn_deg": 20,
        "form": {"kind": "card", "image": 0, "width": 4, "height": 2, "toward": null}});
    let (_, made) = edit(&s, json!({"label": "card", "pieces": {"add": [card]}}));
    let id = made["pieces"][0].clone();
    let camera = s.json("/api/document")["setups"][0]["camera"].clone();
    let rig = json!({"kind": "square_to_card", "card": id});
    let (status, document) =
        s.post("/api/scenes/1/setups", json!({"name": "square", "camera": camera, "rig": rig}).to_string());
    assert_eq!(status, Status::Ok, "{document}");
    let square = |s: &Served| s.json("/api/document")["setups"][2]["rig"].clone();
    assert_eq!((square(&s)["turn_deg"].as_f64(), &square(&s)["size"]), (Some(20.0), &json!([4.0, 2.0])));
    let mut moved = pieces(&s).into_iter().find(|p| p["id"] == id).unwrap();
    moved["position"] = json!([5, 0, 2]);
    moved["form"]["toward"] = 1.into();
    edit(&s, json!({"label": "move", "pieces": {"change": [moved]}}));
    assert_eq!(square(&s)["position"], json!([5.0, 0.0, 2.0]));
    // It now faces where camera A stands, so its own camera stands on the line to it.
    let views = s.json("/api/setups/views");
    let at = |i: usize, k: usize| views[i]["position"][k].as_f64().unwrap();
    let towards = |i: usize| (at(i, 0) - 5.0).atan2(at(i, 2) - 2.0);
    assert!((towards(0) - towards(2)).abs() < 1e-6, "{views}");
    s.post("/api/undo", "");
    assert_eq!(square(&s)["position"], json!([3.0, 0.0, 1.0]));
}

#[test]
fn a_drawn_frame_is_answered_with_its_camera_and_the_lenses_around_it() {
    let s = Served::demo();
    let mut camera = s.json("/api/document")["setups"][0]["camera"].clone();
    camera["lens_set"] = "primes".into();
    s.patch("/api/setups/1", json!({"camera": camera}));
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
    edit(&s, json!({"label": "clear", "pieces": {"remove": ids}}));
    assert!(pieces(&s).is_empty());
    let (status, made) = s.post("/api/import/set?name=hall", &file);
    assert_eq!(status, Status::Ok, "{made}");
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

    assert!(sentence(s.post("/api/import/image?name=x", "hello"), 422).contains("neither"));
    assert!(sentence(s.post("/api/import/set?name=x", "hello"), 422).contains("not glTF"));
    assert!(sentence(s.post("/api/import/capture?name=x", "hello"), 422).contains("BVH"));
    assert!(sentence(s.post("/api/import/set?name=", "{}"), 422).contains("characters"));
    s.post("/api/undo", "");
    assert!(s.json("/api/scene/figures").as_array().unwrap().iter().all(|f| f["name"] != "walk"));
}

#[test]
fn own_lenses_are_kept_with_the_production() {
    let s = Served::demo();
    assert!(s.json("/api/lenses").as_array().unwrap().len() >= 4);
    let lens = json!({"focal_min_mm": 58, "focal_max_mm": 58, "closest_focus_m": 0.5, "widest_stop": 2, "squeeze": 1});
    let (status, document) =
        s.patch("/api/production", json!({"lens_sets": [{"name": "own", "lenses": [lens]}]}));
    assert_eq!((status, &document["lens_sets"][0]["name"]), (Status::Ok, &json!("own")));
    assert_eq!(document["production"], "Last Tram");
    let bad = json!({"lens_sets": [{"name": "own", "lenses": []}]});
    assert!(sentence(s.patch("/api/production", bad), 422).contains("own"));
}
