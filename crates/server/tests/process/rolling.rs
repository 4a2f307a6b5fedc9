//! Takes that survive `kill -9`, a full disk, a port that is taken, a socket that comes and goes.

use crate::running::{Device, Page, Running, tried};
use serde_json::{Value, json};
use std::net::TcpListener;
use std::process::Command;
use tungstenite::{Message, connect};

#[test]
fn ten_kills_in_mid_take_with_a_device_lose_no_acknowledged_chunk() {
    let folder = tempfile::tempdir().unwrap();
    for kill in 0..10 {
        let mut running = Running::serve(folder.path());
        let socket = json!([{"protocol": "opentrackio", "address": "127.0.0.1", "port": 0, "on": true}]);
        let port = running.put("devices", socket)["sockets"][0]["open"].as_u64().unwrap();
        let _device = Device::sending_to(port);
        let mut page = running.page();
        page.told("you");
        while page.told("status")["status"]["tracking"]["alive"] != true {}
        page.send(json!({"setup": 1, "do": "attach", "on": true}));
        page.send(json!({"do": "roll", "count_in_s": 0}));
        let rolled = page.roll_for(0.6 + 0.17 * kill as f32);
        let acknowledged = running.document()["takes"][kill]["samples"].as_u64().unwrap();
        running.child.kill().unwrap();
        running.child.wait().unwrap();

        let again = Running::serve(folder.path());
        let take = &again.document()["takes"][kill];
        let kept = take["samples"].as_u64().unwrap();
        assert_eq!((take["recovered"].as_bool(), take["rolling"].as_bool()), (Some(true), Some(false)));
        assert!(kept >= acknowledged, "kill {kill}: {kept} of {acknowledged} acknowledged samples");
        // Everything but the last quarter second, and the moment a chunk takes to be written.
        let least = (f64::from(rolled) - 0.25 - 0.1) * 120.0;
        assert!(kept as f64 >= least, "kill {kill}: {kept} samples of {rolled} s");
        assert_eq!(take["rolled"]["device"], "opentrackio 1");
        assert!(take["packets"].as_u64().unwrap() as f64 >= least, "{}", take["packets"]);
    }
}

/// The most bytes a file of the process may have; none for no limit.
fn limit_files(running: &Running, bytes: Option<u64>) {
    let limit = bytes.map_or("unlimited".to_string(), |b| b.to_string());
    let pid = running.child.id().to_string();
    let done = Command::new("prlimit").args(["--pid", &pid, &format!("--fsize={limit}:unlimited")]).status();
    assert!(done.unwrap().success());
}

#[test]
fn a_full_disk_is_told_at_once_keeps_what_came_and_rolls_again_when_there_is_room() {
    let folder = tempfile::tempdir().unwrap();
    let running = Running::serve(folder.path());
    let mut page = running.page();
    page.told("you");
    page.send(json!({"do": "roll", "count_in_s": 0}));
    page.roll_for(0.6);
    let wal = std::fs::metadata(folder.path().join("productions/untitled.sqlite-wal")).unwrap().len();
    limit_files(&running, Some(wal + 60_000));
    let trouble = page.trouble();
    assert!(trouble.contains("could not be recorded"), "{trouble}");
    limit_files(&running, None);
    // There is room again: the take is closed with what came, and the next one rolls.
    let closed = loop {
        let take = running.document()["takes"][0].clone();
        if take["rolling"] == false {
            break take;
        }
    };
    assert!(closed["samples"].as_u64().unwrap() >= 60, "{closed}");
    page.send(json!({"do": "roll", "count_in_s": 0}));
    page.roll_for(0.5);
    page.send(json!({"do": "cut"}));
    let second = running.closed(1);
    assert!(second["samples"].as_u64().unwrap() >= 60, "{second}");
}

#[test]
fn a_pass_lies_over_its_take_until_it_is_muted() {
    let folder = tempfile::tempdir().unwrap();
    let running = Running::serve(folder.path());
    let mut page = running.page();
    page.told("you");
    let rolled = |page: &mut Page, seconds: f32| {
        page.roll_for(seconds);
        page.send(json!({"do": "cut"}));
        while page.told("status")["status"]["roll"] != "standby" {}
    };
    let axes = || running.get("moves/1/export?as=axes&stage=raw");
    page.send(json!({"do": "roll", "count_in_s": 0}));
    rolled(&mut page, 1.5);
    running.closed(0);
    let first = axes();
    running.post("floor/below", json!({"take": 1}));
    while page.told("status")["status"]["below"] != 1 {}
    for axis in [0, 1, 2, 4, 5, 6, 7, 8] {
        page.send(json!({"setup": 1, "do": "arm", "axis": axis, "on": false}));
    }
    let pass = json!({"name": "pan", "from_s": 0.5, "pre_roll_s": 0.2, "blend_s": 0.2});
    page.send(json!({"do": "roll", "count_in_s": 0, "until_s": 1.25, "pass": pass}));
    while page.told("status")["status"]["roll"] != "rolling" {}
    while page.frame().0 & 1 != 0 {
        page.send(json!({"setup": 1, "do": "drive", "rates": [1.0, 0.0, 0.0, 1.0]}));
    }
    let take = running.closed(1);
    assert_eq!((&take["number"], &take["pass"]["take"]), (&json!(1), &json!(1)));
    assert_eq!((&take["pass"]["name"], &take["pass"]["axes"]), (&json!("pan"), &json!(["pan"])));
    assert_eq!((&take["pass"]["at"], &take["samples"]), (&json!(60), &json!(91)));
    let with = axes();
    let column = |text: &str, name: &str| -> Vec<f64> {
        let place = text.lines().next().unwrap().split(',').position(|c| c == name).unwrap();
        text.lines().skip(1).map(|l| l.split(',').nth(place).unwrap().parse().unwrap()).collect()
    };
    assert_eq!(column(&with, "swing_deg"), column(&first, "swing_deg"));
    let (before, after) = (column(&first, "pan_deg"), column(&with, "pan_deg"));
    assert_eq!((&before[..61], &before[150..]), (&after[..61], &after[150..]));
    assert!(before[61..150].iter().zip(&after[61..150]).any(|(a, b)| (a - b).abs() > 1.0));
    running.replace("/takes/2/pass/muted", json!(true));
    assert_eq!(axes(), first);
    running.post("undo", json!({"page": "test"}));
    assert_eq!(axes(), with);
}

#[test]
fn who_is_driven_when_the_process_dies_walks_that_way_afterwards() {
    let folder = tempfile::tempdir().unwrap();
    let mut running = Running::serve(folder.path());
    let performer = json!({"name": "fitter", "height_m": 1.7, "parts": []});
    running.edit(json!([{"op": "add", "path": "/performers/new:1", "value": performer}]));
    let mut page = running.page();
    page.told("you");
    page.send(json!({"do": "act", "who": {"kind": "performer", "id": 1}, "alone": true}));
    while page.told("status")["status"]["acting"]["id"] != 1 {}
    page.send(json!({"do": "roll", "count_in_s": 0}));
    loop {
        page.send(json!({"do": "walk", "ahead": 1.0, "turn": 0.0}));
        if page.frame().1 > 2.0 {
            break;
        }
    }
    running.child.kill().unwrap();
    running.child.wait().unwrap();
    let again = Running::serve(folder.path());
    let document = again.document();
    assert_eq!(document["history"]["undo"]["label"], "drive fitter");
    assert_eq!(document["takes"].as_array().unwrap().len(), 0);
    let way = &document["scene"]["performers"][0]["parts"][0]["route"]["waypoints"];
    let last = way.as_array().unwrap().last().unwrap();
    assert!(last["time_s"].as_f64().unwrap() > 1.5 && last["position"][2].as_f64().unwrap() < -1.5, "{last}");
}

#[test]
fn a_take_cut_by_closing_rovnek_is_kept_whole() {
    for signal in ["-TERM", "-INT"] {
        let folder = tempfile::tempdir().unwrap();
        let mut running = Running::serve(folder.path());
        let mut page = running.page();
        page.told("you");
        page.send(json!({"do": "roll", "count_in_s": 0}));
        let rolled = page.roll_for(0.4);
        Command::new("kill").args([signal, &running.child.id().to_string()]).status().unwrap();
        assert!(running.line().contains("what rolled was cut and is kept"));
        assert!(running.child.wait().unwrap().success());
        let take = Running::serve(folder.path()).document()["takes"][0].clone();
        assert_eq!(take["recovered"], false);
        assert!(take["samples"].as_f64().unwrap() >= f64::from(rolled) * 120.0 - 2.0, "{take}");
        assert!(take["flags"].to_string().contains("Rovnek was closed"), "{take}");
    }
}

/// Nothing is acknowledged that would be kept nowhere, and what came before is still there afterwards.
#[test]
fn a_database_that_vanishes_under_a_rolling_take_is_told_at_once() {
    let folder = tempfile::tempdir().unwrap();
    let running = Running::serve(folder.path());
    let mut page = running.page();
    page.told("you");
    page.send(json!({"do": "roll", "count_in_s": 0}));
    page.roll_for(0.6);
    let [here, away] = ["productions/untitled.sqlite", "elsewhere"].map(|name| folder.path().join(name));
    std::fs::rename(&here, &away).unwrap();
    let trouble = page.trouble();
    assert!(trouble.contains("moved or removed"), "{trouble}");
    let answer = |path: &str| {
        let agent: ureq::Agent = ureq::Agent::config_builder().http_status_as_error(false).build().into();
        let mut answer = agent.get(running.url(path)).call().unwrap();
        (answer.status().as_u16(), answer.body_mut().read_to_string().unwrap())
    };
    let (status, health) = answer("health");
    assert!(status == 503 && health.contains("moved or removed"), "{status} {health}");
    std::fs::rename(&away, &here).unwrap();
    let (status, health) = answer("health");
    assert!(status == 200 && health.contains("\"ok\""), "{status} {health}");
    assert!(running.closed(0)["samples"].as_u64().unwrap() >= 60);
}

#[test]
fn what_a_page_sends_wrongly_is_told_and_the_floor_lives() {
    let folder = tempfile::tempdir().unwrap();
    let running = Running::serve(folder.path());
    let mut page = running.page();
    page.told("you");
    page.send(json!({"setup": 1, "do": "fly"}));
    assert!(page.told("refused")["sentence"].as_str().unwrap().contains("cannot be read"));
    page.send(json!({"setup": 1, "do": "drive", "rates": []}));
    page.send(json!({"setup": 1, "do": "drive", "rates": vec![1e300; 300]}));
    page.send(json!({"setup": 1, "do": "arm", "axis": 99, "on": true}));
    page.send(json!({"do": "seek", "time_s": 1e300}));
    page.frame();
    // Too large a message ends that socket, not the floor.
    let _ = page.0.send(Message::text("x".repeat(100_000)));
    let mut other = running.page();
    let me = other.told("you")["page"].clone();
    other.send(json!({"do": "ask"}));
    while other.told("status")["status"]["holder"] != me {}
}

#[test]
fn a_thousand_pages_come_and_go_and_one_holds_the_wheels() {
    let folder = tempfile::tempdir().unwrap();
    let running = Running::serve(folder.path());
    let mut keeper = running.page();
    let me = keeper.told("you")["page"].clone();
    for i in 0..1000 {
        let mut page = running.page();
        if i % 3 == 0 {
            page.send(json!({"do": "ask"}));
        }
        if i % 2 == 0 {
            let _ = page.0.close(None);
        }
        if i % 20 == 0 {
            keeper.send(json!({"setup": 1, "do": "drive", "rates": [0.0]}));
            keeper.send(json!({"do": "keep"}));
        }
    }
    let mut fresh = running.page();
    fresh.told("you");
    loop {
        let status = fresh.told("status")["status"].clone();
        assert_eq!(status["holder"], me);
        if status["pages"] == 2 {
            break;
        }
    }
}

#[test]
fn a_port_that_is_taken_is_said_plainly() {
    let folder = tempfile::tempdir().unwrap();
    let taken = TcpListener::bind("127.0.0.1:0").unwrap();
    let port = taken.local_addr().unwrap().port().to_string();
    let output = Command::new(env!("CARGO_BIN_EXE_rovnek"))
        .args(["serve", "--port", &port, "--data"])
        .arg(folder.path())
        .output()
        .unwrap();
    assert_eq!(output.status.code(), Some(2));
    let said = String::from_utf8_lossy(&output.stderr);
    assert!(said.contains(&port) && said.contains("--port"), "{said}");
}

#[test]
fn the_phones_door_is_shut_until_it_is_opened_and_asks_for_the_code() {
    let folder = tempfile::tempdir().unwrap();
    let running = Running::serve(folder.path());
    let shut: Value = serde_json::from_str(&running.get("devices/phone")).unwrap();
    assert_eq!((&shut["address"], &shut["code"]), (&Value::Null, &Value::Null));
    let open = running.put("devices/phone", json!({"on": true, "tls": false, "port": 0}));
    let port: u16 = open["address"].as_str().unwrap().rsplit(':').next().unwrap().parse().unwrap();
    let get = |path: &str| ureq::get(&format!("http://127.0.0.1:{port}{path}")).call();
    let page = get("/").unwrap().body_mut().read_to_string().unwrap();
    assert!(page.contains("Camera in the hand"));
    for path in ["/api/document", "/api/live", "/index.html"] {
        assert!(get(path).is_err(), "{path}");
    }
    let live = |code: &str| connect(format!("ws://127.0.0.1:{port}/live?code={code}"));
    assert!(live("nonsense").is_err());
    let mut phone = live(open["code"].as_str().unwrap()).unwrap().0;
    let heard = || {
        let view: Value = serde_json::from_str(&running.get("devices")).unwrap();
        view["sources"].as_array().unwrap().iter().any(|s| s["source"] == "phone 1")
    };
    assert!(!heard());
    phone.send(Message::text("nonsense")).unwrap();
    while !heard() {
        phone.send(Message::text(json!({"turn": [0, 90, 0], "ahead": 0.5}).to_string())).unwrap();
    }
    // Guessing is slow: after ten wrong codes the door waits, also for the right one.
    for _ in 0..10 {
        assert!(live("000").is_err());
    }
    assert!(live(open["code"].as_str().unwrap()).is_err());
    running.put("devices/phone", json!({"on": false, "tls": false, "port": 0}));
    while get("/").is_ok() {}
}

#[test]
fn a_certificate_that_cannot_be_used_leaves_the_phones_door_shut_and_says_so() {
    let folder = tempfile::tempdir().unwrap();
    let running = Running::serve(folder.path());
    for name in ["phone-cert.pem", "phone-key.pem"] {
        std::fs::write(folder.path().join(name), "no certificate").unwrap();
    }
    let wanted = json!({"on": true, "tls": true, "port": 0}).to_string();
    let answer = tried(running.port, "PUT", "devices/phone", "", wanted.as_bytes()).unwrap();
    let told = String::from_utf8_lossy(&answer.1).into_owned();
    assert_eq!(answer.0, 422, "{told}");
    assert!(told.contains("phone-cert.pem"), "{told}");
    let view: Value = serde_json::from_str(&running.get("devices/phone")).unwrap();
    let shut = (&view["wanted"]["on"], &view["address"], &view["code"]);
    assert_eq!(shut, (&json!(false), &Value::Null, &Value::Null), "{view}");
    // Without it there is one of its own.
    for name in ["phone-cert.pem", "phone-key.pem"] {
        std::fs::remove_file(folder.path().join(name)).unwrap();
    }
    let open = running.put("devices/phone", json!({"on": true, "tls": true, "port": 0}));
    assert!(open["address"].as_str().unwrap().starts_with("https://"), "{open}");
}

/// A document without what counts up from run to run.
fn kept(running: &Running) -> Value {
    let mut document = running.document();
    let fields = document.as_object_mut().unwrap();
    fields.retain(|name, _| name != "revision");
    // Versions count for one opening of a production, but for those of stored pictures.
    fields["versions"] = fields["versions"]["pictures"].take();
    document
}

#[test]
fn two_productions_of_three_scenes_are_found_again_after_a_kill() {
    let folder = tempfile::tempdir().unwrap();
    let mut running = Running::start(folder.path());
    for (name, demo) in [("Night", true), ("Dawn", false)] {
        let id = running.post("productions", json!({"name": name, "demo": demo}))["id"].clone();
        running.post(&format!("productions/{}/open", id.as_str().unwrap()), json!({}));
        for number in ["20", "21"] {
            running.edit(json!([{"op": "add", "path": "/scenes/new:1",
                "value": {"number": number, "name": format!("{name} {number}"), "like": 1}}]));
        }
    }
    // A setup of the night is carried into the third scene of the dawn.
    running.post("scenes/3/open", json!({}));
    let carried = running.post(
        "carry",
        json!({"production": "night", "things": [{"kind": "setup", "id": 1}], "takes": true, "choices": []}),
    );
    assert!(carried["count"].as_u64().unwrap() >= 3, "{carried}");
    let all = |running: &Running| -> Vec<Value> {
        let mut all = vec![kept(running)];
        for id in ["night", "dawn"] {
            running.post(&format!("productions/{id}/open"), json!({}));
            for scene in [1, 2, 3] {
                running.post(&format!("scenes/{scene}/open"), json!({}));
                all.push(kept(running));
            }
        }
        all
    };
    let before = all(&running);
    assert_eq!(before[6]["takes"].as_array().unwrap().len(), 2);
    assert!(before[1..].iter().all(|d| d["scenes"].as_array().unwrap().len() == 3));
    running.child.kill().unwrap();
    running.child.wait().unwrap();
    let again = Running::start(folder.path());
    assert_eq!(all(&again), before);
}
