//! The shelf, scenes and carrying over, by their routes.

use crate::served::{HOST, Served, read, sentence};
use rocket::http::{ContentType, Header, Status};
use serde_json::{Value, json};

fn begin(s: &Served, name: &str, demo: bool) -> String {
    let (status, made) = s.post("/api/productions", json!({"name": name, "demo": demo}).to_string());
    assert_eq!(status, Status::Ok, "{made}");
    made["id"].as_str().unwrap().into()
}

fn open(s: &Served, id: &str) -> (Status, Value) {
    s.post(&format!("/api/productions/{id}/open"), "{}")
}

/// An edit of a scene's things.
fn edit_in(s: &Served, scene: u64, ops: Value) -> (Status, Value) {
    let body = json!({"page": "test", "scene": scene, "edits": [{"label": "change", "ops": ops}]});
    s.post("/api/edits", body.to_string())
}

#[test]
fn an_empty_folder_lands_on_the_shelf_and_nothing_can_be_changed_there() {
    let s = Served::of(tempfile::tempdir().unwrap());
    assert_eq!(s.json("/api/productions"), json!({"open": "", "productions": []}));
    assert_eq!(s.json("/api/document")["on_shelf"], "");
    let no = sentence(s.replace("/scenes/1/name", json!("x")), 409);
    assert!(no.contains("no production is open"), "{no}");
    let track = "time_s,x_m,y_m,z_m,pan_deg,tilt_deg,roll_deg,focal_mm,focus_m,f_stop\n0,0,1,0,0,0,0,35,5,4\n\
                 0.1,0,1,0,0,0,0,35,5,4\n";
    let no = sentence(s.post("/api/import/csv?name=x", track), 409);
    assert!(no.contains("no production is open"), "{no}");
    let id = begin(&s, "Night", false);
    assert_eq!(open(&s, &id).0, Status::NoContent);
    let document = s.json("/api/document");
    assert_eq!((&document["on_shelf"], &document["production"]), (&json!("night"), &json!("Night")));
    assert_eq!(s.replace("/scenes/1/name", json!("x")).0, Status::Ok);
}

#[test]
fn productions_come_onto_the_floor_one_at_a_time_and_undo_stays_within_each() {
    let s = Served::demo();
    s.replace("/scenes/1/name", json!("of the first"));
    let second = begin(&s, "Second", true);
    assert_eq!(open(&s, &second).0, Status::NoContent);
    let document = s.json("/api/document");
    assert_eq!((&document["production"], &document["history"]["undo"]), (&json!("Second"), &Value::Null));
    s.replace("/scenes/1/name", json!("of the second"));
    // What is looked at is worked out of the one that is open.
    s.replace("/moves/1/name", json!("named"));
    assert_eq!(s.get("/api/moves/1/frames?stage=raw").status(), Status::Ok);
    let shelf = s.json("/api/productions");
    assert_eq!(shelf["open"], "second");
    let ids: Vec<&str> =
        shelf["productions"].as_array().unwrap().iter().map(|p| p["id"].as_str().unwrap()).collect();
    assert_eq!(ids, ["second", "last-tram"]);
    assert_eq!(open(&s, "last-tram").0, Status::NoContent);
    let document = s.json("/api/document");
    assert_eq!(document["scene"]["name"], "of the first");
    assert_ne!(document["moves"][0]["name"], "named");
    s.undo();
    assert_ne!(s.json("/api/document")["scene"]["name"], "of the first");
    assert!(sentence(open(&s, "none"), 422).contains("no production \"none\""));
    let nameless = sentence(s.post("/api/productions", json!({"name": " ", "demo": false}).to_string()), 422);
    assert!(nameless.contains("the production needs between"), "{nameless}");
    // Set aside, renamed, duplicated; the open one is renamed by an edit and is not set aside.
    let aside =
        |id: &str| s.post(&format!("/api/productions/{id}/aside"), json!({"aside": true}).to_string());
    assert!(sentence(aside("last-tram"), 409).contains("open another one first"));
    assert_eq!(aside("second").0, Status::NoContent);
    let name = |id: &str, what: &str| {
        s.post(&format!("/api/productions/{id}/{what}"), json!({"name": "Third"}).to_string())
    };
    assert_eq!(name("last-tram", "rename").0, Status::NoContent);
    assert_eq!(s.json("/api/document")["history"]["undo"]["label"], "name the production");
    assert_eq!(name("second", "rename").0, Status::NoContent);
    assert_eq!(name("last-tram", "duplicate").1["id"], "third");
    let listed = s.json("/api/productions")["productions"].clone();
    assert!(listed.as_array().unwrap().iter().all(|p| p["name"] == "Third"), "{listed}");
    assert_eq!(listed[2]["aside"], true);
}

#[test]
fn a_copy_goes_out_as_a_file_and_comes_back_as_a_production() {
    let s = Served::demo();
    let file = s.get("/api/productions/last-tram/copy");
    let named = file.headers().get_one("Content-Disposition").unwrap().to_string();
    assert!(named.contains("last-tram.sqlite"), "{named}");
    let bytes = file.into_bytes().unwrap();
    let (status, made) = s.post("/api/productions/copy", &bytes);
    assert_eq!((status, &made["id"]), (Status::Ok, &json!("last-tram-opened-copy")));
    let first = s.json("/api/document");
    assert_eq!(open(&s, "last-tram-opened-copy").0, Status::NoContent);
    let second = s.json("/api/document");
    for part in ["scene", "setups", "takes", "moves", "scenes"] {
        assert_eq!(first[part], second[part], "{part}");
    }
    // Each copy has a name of its own on the shelf.
    s.post("/api/productions/copy", &bytes);
    let listed = s.json("/api/productions")["productions"].clone();
    let mut names: Vec<&str> =
        listed.as_array().unwrap().iter().map(|p| p["name"].as_str().unwrap()).collect();
    names.sort_unstable();
    assert_eq!(names, ["Last Tram", "Last Tram, opened copy", "Last Tram, opened copy 2"]);
    for (wrong, words) in
        [(&b"no database"[..], "no copy of a production"), (&b""[..], "empty"), (&bytes[..9000], "damaged")]
    {
        let told = sentence(s.post("/api/productions/copy", wrong), 422);
        assert!(told.contains(words), "{told}");
    }
}

#[test]
fn a_request_that_means_another_scene_is_refused_and_does_nothing() {
    let s = Served::demo();
    let new = json!([{"op": "add", "path": "/scenes/new:1", "value": {"number": "13", "name": "Gate"}}]);
    let (_, made) = edit_in(&s, 1, new);
    let gate = made["made"]["new:1"].as_u64().unwrap();
    assert_eq!(made["changed"]["scenes"][1]["number"], "13");
    let meaning = |path: &str, scene: &str| {
        let request = s.client.get(path.to_string()).header(Header::new("Host", HOST));
        read(request.header(Header::new("Rovnek-Scene", scene.to_string())).dispatch())
    };
    assert_eq!(meaning("/api/setups/views", "last-tram/1").0, Status::Ok);
    let (status, _) = s.post(&format!("/api/scenes/{gate}/open"), "{}");
    assert_eq!(status, Status::NoContent);
    let document = s.json("/api/document");
    assert_eq!((&document["scene"]["id"], &document["takes"]), (&json!(gate), &json!([])));
    for (path, scene) in [("/api/setups/views", "last-tram/1"), ("/api/scene/solids", "second/2")] {
        let told = sentence(meaning(path, scene), 409);
        assert!(told.contains("scene 13 (Gate) of Last Tram is on the floor now"), "{told}");
    }
    let told = sentence(edit_in(&s, 1, json!([{"op": "remove", "path": "/takes/1"}])), 409);
    assert!(told.contains("nothing was done"), "{told}");
    let told = sentence(edit_in(&s, gate, json!([{"op": "remove", "path": "/takes/1"}])), 422);
    assert!(told.contains("open that scene first"), "{told}");
    assert_eq!(s.get("/api/moves/1/frames?stage=raw").status(), Status::NotFound);
    // Undone under the floor, the new scene goes into the bin and the floor to the other one.
    s.undo();
    assert_eq!(s.json("/api/document")["scene"]["id"], 1);
    assert!(sentence(s.post(&format!("/api/scenes/{gate}/open"), "{}"), 422).contains("bin"));
    assert_eq!(s.json("/api/document")["scene"]["id"], 1);
}

#[test]
fn a_setup_is_carried_across_with_what_it_needs_and_undone_as_one() {
    let s = Served::demo();
    let second = begin(&s, "Second", false);
    open(&s, &second);
    let offers = s.json("/api/productions/last-tram/scenes/1/offers");
    let setups: Vec<&Value> = offers.as_array().unwrap().iter().filter(|o| o["kind"] == "setup").collect();
    assert!(setups.len() > 1, "{offers}");
    let things: Vec<Value> =
        offers.as_array().unwrap().iter().map(|o| json!({"kind": o["kind"], "id": o["id"]})).collect();
    let wanted = |choices: Value| {
        json!({"production": "last-tram", "things": things, "takes": true, "choices": choices}).to_string()
    };
    let (status, missing) = s.post("/api/carry/look", wanted(json!([])));
    assert_eq!(status, Status::Ok, "{missing}");
    let told = sentence(s.post("/api/carry", wanted(json!([]))), 422);
    assert!(told.contains("needs the performance as written"), "{told}");
    let choices: Vec<Value> = missing
        .as_array()
        .unwrap()
        .iter()
        .map(|m| json!([{"kind": m["kind"], "id": m["id"]}, {"does": "instead", "with": m["instead"][0][0]}]))
        .collect();
    let (status, came) = s.post("/api/carry", wanted(json!(choices)));
    assert_eq!(status, Status::Ok, "{came}");
    let document = s.json("/api/document");
    assert_eq!(document["setups"].as_array().unwrap().len(), setups.len() + 1);
    assert_eq!(document["takes"].as_array().unwrap().len(), 2);
    let id = document["moves"][0]["id"].as_u64().unwrap();
    assert_eq!(s.get(&format!("/api/moves/{id}/frames?stage=now")).status(), Status::Ok);
    s.undo();
    let left = s.json("/api/document")["setups"].clone();
    assert_eq!(left.as_array().unwrap().iter().filter(|s| s["binned"] == false).count(), 1);
}

#[test]
fn pictures_are_kept_with_the_production() {
    let s = Served::demo();
    let webp = b"RIFF\x1a\0\0\0WEBPVP8L\x0d\0\0\0/\0\0\0\x10\x07\x10\x11\x11\x88\x88\xfe\x07\0";
    let put = |path: &str, bytes: &[u8]| {
        let request = s.client.put(path.to_string()).header(Header::new("Host", HOST));
        read(request.header(ContentType::WEBP).body(bytes).dispatch())
    };
    assert_eq!(put("/api/pictures/take/1/2?made_of=a", webp).0, Status::NoContent);
    assert_eq!(put("/api/pictures/scene/1/0?made_of=b", webp).0, Status::NoContent);
    let lines = s.json("/api/pictures");
    assert_eq!(lines[1], json!({"of": "take", "id": 1, "part": 2, "made_of": "a"}));
    assert_eq!(s.get("/api/pictures/take/1/2").into_bytes().unwrap(), webp);
    assert_eq!(s.get("/api/productions/last-tram/picture").into_bytes().unwrap(), webp);
    assert!(sentence(put("/api/pictures/scene/1/0?made_of=b", b"GIF89a"), 422).contains("WebP"));
    assert_eq!(put("/api/pictures/take/77/0?made_of=a", webp).0, Status::NotFound);
    assert_eq!(put("/api/pictures/cat/1/0?made_of=a", webp).0, Status::UnprocessableEntity);
}

/// Heard on a socket of the test's own, read by the reader of tracked devices.
#[test]
fn floor_and_moves_are_told_to_who_asks() {
    let s = Served::demo();
    let ear = std::net::UdpSocket::bind("127.0.0.1:0").unwrap();
    ear.set_read_timeout(Some(std::time::Duration::from_secs(10))).unwrap();
    let port = ear.local_addr().unwrap().port();
    let wanted = |on: bool, protocol: &str, rate_hz: u32, of: Value| {
        json!({"on": on, "protocol": protocol, "address": "127.0.0.1", "port": port, "number": 7,
            "rate_hz": rate_hz, "move_id": of})
    };
    let mut buffer = [0; 2000];
    let mut hear = || {
        let length = ear.recv(&mut buffer).unwrap();
        buffer[..length].to_vec()
    };
    assert_eq!(s.put("/api/devices/out", wanted(true, "freed", 120, Value::Null)).0, Status::Ok);
    let sample = rovnek_formats::tracking::freed::read(&hear()).unwrap();
    assert_eq!(sample.device, "7");
    // The crane of the demo before anybody drives it.
    let start = s.json("/api/setups/views")[0]["position"][1].as_f64().unwrap();
    assert!((sample.pose.position.y - start).abs() < 1e-4);
    assert_eq!(s.put("/api/devices/out", wanted(true, "opentrackio", 240, json!(1))).0, Status::Ok);
    let mut whole = rovnek_formats::tracking::opentrackio::Assembler::default();
    let told = loop {
        if let Ok(Some(sample)) = whole.next(&hear()) {
            break sample;
        }
    };
    assert_eq!((told.rate_hz, told.device.contains('7')), (Some(240.0), true));
    while s.json("/api/devices/out")["sent"].as_u64().unwrap() < 100 {}
    assert_eq!(s.put("/api/devices/out", wanted(false, "freed", 120, Value::Null)).1["on"], false);
    assert!(
        sentence(s.put("/api/devices/out", wanted(true, "freed", 500, Value::Null)), 422).contains("240")
    );
    // Nobody is told everything at once, and nobody goes on being told of another production.
    let to_all = |address: &str| {
        let mut all = wanted(true, "freed", 60, Value::Null);
        all["address"] = json!(address);
        s.put("/api/devices/out", all)
    };
    for address in ["255.255.255.255", "0.0.0.0", "::"] {
        assert!(sentence(to_all(address), 422).contains("every machine on the network"), "{address}");
    }
    let gone = s.put("/api/devices/out", wanted(true, "freed", 60, json!(99))).1;
    assert!(gone["error"].as_str().unwrap().contains("no move") && gone["on"] == false, "{gone}");
}

#[test]
fn live_out_ends_with_its_production() {
    let s = Served::demo();
    let other = begin(&s, "Other", false);
    let heard = std::net::UdpSocket::bind("127.0.0.1:0").unwrap();
    let wanted = json!({"on": true, "protocol": "freed", "address": "127.0.0.1",
        "port": heard.local_addr().unwrap().port(), "number": 1, "rate_hz": 60, "move_id": null});
    assert_eq!(s.put("/api/devices/out", wanted).1["on"], true);
    heard.recv(&mut [0; 64]).unwrap();
    assert_eq!(open(&s, &other).0, Status::NoContent);
    assert_eq!(s.json("/api/devices/out")["on"], false);
}

#[test]
fn an_edit_from_a_revision_that_was_never_reached_is_too_old() {
    let s = Served::demo();
    let now = s.json("/api/document")["revision"].as_u64().unwrap();
    let edit = |base: u64| {
        let ops = json!([{"op": "replace", "path": "/scenes/1/name", "value": "Yard"}]);
        let edit = json!({"label": "name it", "base": base, "ops": ops});
        s.post("/api/edits", json!({"page": "test", "scene": 1, "edits": [edit]}).to_string())
    };
    let (status, told) = edit(now + 5);
    assert_eq!((status.code, &told["too_old"]), (409, &json!(true)), "{told}");
    assert_ne!(s.json("/api/document")["scene"]["name"], "Yard");
    assert_eq!(edit(now).0, Status::Ok);
}
