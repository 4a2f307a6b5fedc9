//! Productions that come and go under those who edit, and a process that is killed in the middle of shelf
//! operations: nothing goes to the wrong place, nothing that was answered is gone, nothing is left over.

use crate::running::{Running, head, post, tried};
use rovnek_store::model::NewScene;
use rovnek_store::shelf::Shelf;
use rusqlite::Connection;
use serde_json::{Value, json};
use std::collections::BTreeSet;
use std::io::{Read, Write};
use std::net::TcpStream;
use std::path::Path;
use std::sync::Mutex;
use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};
use std::time::{Duration, Instant};

/// A data folder with two productions.
fn two(folder: &Path) {
    let shelf = Shelf::open(folder).unwrap();
    for name in ["Beta", "Alpha"] {
        let id = shelf.begin(name, |store| store.begin(&NewScene::empty(name))).unwrap();
        let mut store = shelf.open_one(&id).unwrap();
        shelf.opened(&id, &mut store).unwrap();
    }
}

/// Labels of the edits in a production's history.
fn labels(folder: &Path, id: &str) -> Vec<String> {
    let db = Connection::open(folder.join(format!("productions/{id}.sqlite"))).unwrap();
    let mut read = db.prepare("SELECT label FROM history ORDER BY id").unwrap();
    read.query_map([], |r| r.get(0)).unwrap().map(Result::unwrap).collect()
}

/// Names of what is in a folder.
fn inside(folder: &Path) -> Vec<String> {
    let names = std::fs::read_dir(folder).unwrap();
    names.map(|entry| entry.unwrap().file_name().to_string_lossy().into_owned()).collect()
}

#[test]
fn a_thousand_edits_of_three_pages_during_a_hundred_switches_all_land_where_they_were_meant() {
    let folder = tempfile::tempdir().unwrap();
    two(folder.path());
    let running = Running::start(folder.path());
    let port = running.port;
    let (asked, ended) = (AtomicUsize::new(0), AtomicBool::new(false));
    let acknowledged = Mutex::new(BTreeSet::new());
    let mut switches = 0;
    std::thread::scope(|scope| {
        for page in 0..3 {
            let (asked, ended, acknowledged) = (&asked, &ended, &acknowledged);
            scope.spawn(move || {
                while !ended.load(Ordering::Relaxed) {
                    let n = asked.fetch_add(1, Ordering::Relaxed);
                    let label = format!("edit {n}");
                    let ops = json!([{"op": "replace", "path": "/scenes/1/name", "value": label}]);
                    let edit = json!({"label": label, "ops": ops});
                    let body = json!({"page": format!("page {page}"), "scene": 1, "edits": [edit]});
                    let (status, _) = post(port, "edits", Some("alpha/1"), &body);
                    assert!([200, 409].contains(&status), "{status}");
                    if status == 200 {
                        acknowledged.lock().unwrap().insert(label);
                    }
                    // Most requests are to meet Alpha: half of the time it is not on the floor.
                    if status == 409 {
                        std::thread::yield_now();
                    }
                }
            });
        }
        while switches < 100 || acknowledged.lock().unwrap().len() < 1000 {
            let to = if switches % 2 == 0 { "beta" } else { "alpha" };
            let (status, told) = post(port, &format!("productions/{to}/open"), None, &json!({}));
            assert_eq!(status, 204, "{told}");
            switches += 1;
        }
        ended.store(true, Ordering::Relaxed);
    });
    drop(running);
    let (alpha, beta) = (labels(folder.path(), "alpha"), labels(folder.path(), "beta"));
    let acknowledged = acknowledged.into_inner().unwrap();
    println!("{} asked, {} acknowledged, {switches} switches", asked.into_inner(), acknowledged.len());
    assert_eq!(beta, Vec::<String>::new(), "edits that were meant for Alpha");
    assert_eq!(alpha.into_iter().collect::<BTreeSet<_>>(), acknowledged);
}

#[test]
fn what_begins_before_a_switch_and_arrives_after_it_is_refused_whatever_it_writes() {
    let folder = tempfile::tempdir().unwrap();
    two(folder.path());
    let running = Running::start(folder.path());
    let port = running.port;
    let track = "time_s,x_m,y_m,z_m,pan_deg,tilt_deg,roll_deg,focal_mm,focus_m,f_stop\n\
                 0,0,1,0,0,0,0,35,5,4\n0.1,0,1,0,0,0,0,35,5,4\n";
    let renamed = json!([{"op": "replace", "path": "/scenes/1/name", "value": "Yard"}]);
    let edits = json!({"page": "x", "scene": 1, "edits": [{"label": "name it", "ops": renamed}]}).to_string();
    let webp = [&b"RIFF\0\0\0\0WEBP"[..], &[0; 40]].concat();
    let out = json!({"on": true, "protocol": "opentrackio", "address": "127.0.0.1", "port": 55556,
                     "number": 1, "rate_hz": 60, "move_id": null});
    let out = out.to_string();
    for (method, path, body) in [
        ("POST", "edits", edits.as_bytes()),
        ("POST", "undo", br#"{"page":"the page"}"#),
        ("POST", "import/csv?name=track", track.as_bytes()),
        ("PUT", "pictures/scene/1/0?made_of=x", &webp),
        ("PUT", "inputs", br#"{"axis":"swing"  }"#),
        ("PUT", "devices", b"[                  ]"),
        ("PUT", "devices/stand-in", br#"{"protocol":"freed","motion":"still","tremor":1,"lost":0}"#),
        ("PUT", "devices/out", out.as_bytes()),
        ("POST", "floor/below", br#"{"take":  1   }"#),
    ] {
        // With the scene named and without: a request means what was on the floor when its head came.
        for named in [true, false] {
            assert_eq!(post(port, "productions/alpha/open", None, &json!({})).0, 204);
            let mut stream = TcpStream::connect(("127.0.0.1", port)).unwrap();
            let meant = if named { "Rovnek-Scene: alpha/1\r\n" } else { "" };
            let headers = format!("{meant}Expect: 100-continue\r\n");
            stream.write_all(head(port, method, path, &headers, body.len()).as_bytes()).unwrap();
            // The body is asked for once the head is understood.
            let mut goes_on = [0; 25];
            stream.read_exact(&mut goes_on).unwrap();
            assert_eq!(&goes_on, b"HTTP/1.1 100 Continue\r\n\r\n");
            // Rocket looks at a request once 14 bytes of its body are there.
            let (most, last) = body.split_at(body.len() - 1);
            stream.write_all(most).unwrap();
            for to in ["beta", "alpha", "beta"] {
                assert_eq!(post(port, &format!("productions/{to}/open"), None, &json!({})).0, 204);
            }
            stream.write_all(last).unwrap();
            let mut answer = String::new();
            stream.read_to_string(&mut answer).unwrap();
            assert!(answer.starts_with("HTTP/1.1 409"), "{method} {path} {named}: {answer}");
            assert!(answer.contains("of Beta is on the floor now; nothing was done"), "{path}: {answer}");
        }
    }
    drop(running);
    for id in ["alpha", "beta"] {
        assert_eq!(labels(folder.path(), id), Vec::<String>::new());
        let db = Connection::open(folder.path().join(format!("productions/{id}.sqlite"))).unwrap();
        let count =
            |table: &str| db.query_row(&format!("SELECT count(*) FROM {table}"), [], |r| r.get::<_, u32>(0));
        assert_eq!([count("take").unwrap(), count("picture").unwrap()], [0, 0], "{id}");
    }
}

#[test]
fn stand_ins_that_are_started_at_once_leave_one_and_a_refused_one_changes_nothing() {
    let folder = tempfile::tempdir().unwrap();
    let running = Running::serve(folder.path());
    let socket = json!([{"protocol": "opentrackio", "address": "127.0.0.1", "port": 0, "on": false}]);
    running.put("devices", socket);
    let ask = |motion: &str| {
        let wanted = json!({"protocol": "opentrackio", "motion": motion, "tremor": 1, "lost": 0});
        tried(running.port, "PUT", "devices/stand-in", "", wanted.to_string().as_bytes()).unwrap().0
    };
    std::thread::scope(|scope| {
        for motion in ["still", "sweep", "shoulder", "still"] {
            scope.spawn(move || (0..10).for_each(|_| assert_eq!(ask(motion), 200)));
        }
    });
    let devices = || serde_json::from_str::<Value>(&running.get("devices")).unwrap();
    let one = devices()["stand_in"].clone();
    assert!(one.is_object(), "{one}");
    assert_eq!(ask("no such motion"), 422);
    assert_eq!(devices()["stand_in"], one);
    running.put("devices/stand-in", Value::Null);
    // One that nobody stopped would be heard for ever.
    let begun = Instant::now();
    while devices()["sources"][0]["age_s"].as_f64().is_none_or(|age| age < 0.5) {
        assert!(begun.elapsed() < Duration::from_secs(20), "{}", devices());
        std::thread::yield_now();
    }
}

#[test]
fn twenty_kills_in_the_middle_of_shelf_operations_leave_the_shelf_whole_and_nothing_over() {
    let folder = tempfile::tempdir().unwrap();
    two(folder.path());
    let copy = folder.path().join("kept.sqlite");
    {
        let shelf = Shelf::open(folder.path()).unwrap();
        let mut store = shelf.open_one("alpha").unwrap();
        // Large enough that a copy is under way for a while.
        let mut edit = store.edit("bring in noise", None).unwrap();
        edit.keep(rovnek_store::model::AssetKind::Image, "noise", &vec![7; 6 << 20]).unwrap();
        edit.commit().unwrap();
        drop(store);
        shelf.keep_copy("alpha", &copy).unwrap();
    }
    let bytes = std::fs::read(&copy).unwrap();
    let made = Mutex::new(BTreeSet::from(["alpha".to_string(), "beta".to_string()]));
    for kill in 0..20 {
        let mut running = Running::start(folder.path());
        let port = running.port;
        let (ended, done) = (AtomicBool::new(false), AtomicUsize::new(0));
        std::thread::scope(|scope| {
            for worker in 0..5 {
                let (made, ended, done, bytes) = (&made, &ended, &done, &bytes);
                scope.spawn(move || {
                    while !ended.load(Ordering::Relaxed) {
                        let named = json!({"name": "More", "demo": false});
                        let named = named.to_string();
                        let ask = |method, path, body: &[u8]| tried(port, method, path, "", body);
                        let answer = match worker {
                            0 => ask("POST", "productions", named.as_bytes()),
                            1 => ask("POST", "productions/alpha/duplicate", named.as_bytes()),
                            2 => ask("POST", "productions/copy", bytes),
                            3 => ask("GET", "productions/alpha/copy", b""),
                            _ => ask("POST", "productions/beta/open", b"{}")
                                .and_then(|_| ask("POST", "productions/alpha/open", b"{}")),
                        };
                        done.fetch_add(1, Ordering::Relaxed);
                        let Some((200, body)) = answer else { continue };
                        if let Ok(Value::Object(answer)) = serde_json::from_slice::<Value>(&body)
                            && let Some(id) = answer.get("id").and_then(Value::as_str)
                        {
                            made.lock().unwrap().insert(id.to_string());
                        }
                    }
                });
            }
            // In the middle of something else each time: the others go on when one has ended.
            while done.load(Ordering::Relaxed) < kill {
                std::thread::yield_now();
            }
            running.child.kill().unwrap();
            running.child.wait().unwrap();
            ended.store(true, Ordering::Relaxed);
        });
        let again = Running::start(folder.path());
        let shelf: Value = serde_json::from_str(&again.get("productions")).unwrap();
        let listed = shelf["productions"].as_array().unwrap().clone();
        drop(again);
        assert!(listed.iter().all(|p| p["trouble"].is_null()), "kill {kill}: {listed:?}");
        let ids: BTreeSet<String> = listed.iter().map(|p| p["id"].as_str().unwrap().into()).collect();
        let answered = made.lock().unwrap().clone();
        assert!(answered.is_subset(&ids), "kill {kill}: {answered:?} are not all in {ids:?}");
        // One that was made, and whose answer did not arrive, is whole as well.
        *made.lock().unwrap() = ids;
        let left: Vec<String> = inside(&folder.path().join("passing"));
        assert!(left.is_empty(), "kill {kill}: {left:?}");
        let files = inside(&folder.path().join("productions"));
        assert!(files.iter().all(|f| !f.starts_with('.')), "kill {kill}: {files:?}");
        // So that copies do not fill the disk of whoever tests.
        for id in made.lock().unwrap().iter().filter(|id| !["alpha", "beta"].contains(&id.as_str())) {
            for ending in ["", "-wal", "-shm"] {
                let _ = std::fs::remove_file(folder.path().join(format!("productions/{id}.sqlite{ending}")));
            }
        }
        *made.lock().unwrap() = BTreeSet::from(["alpha".to_string(), "beta".to_string()]);
    }
}
