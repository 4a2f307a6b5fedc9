//! A roll beside heavy work: a 15-minute take of six treatments is evaluated, measured and taken away
//! by three pages at once, and keys are made of a second one again and again, while a third take rolls
//! under hands on a socket. Printed: how
//! evenly state frames come, how late chunks are safe, and whether any sample is missing.

use rovnek_server::demo;
use rovnek_store::shelf::Shelf;
use serde_json::{Value, json};
use std::io::{BufRead, BufReader};
use std::net::TcpListener;
use std::process::{Command, Stdio};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, AtomicU32, Ordering};
use std::time::{Duration, Instant};
use tungstenite::{Message, connect};

/// How long is rolled, seconds.
const ROLLS_S: f64 = 60.0;
const SAMPLES_HZ: f64 = 120.0;

fn main() {
    let folder = tempfile::tempdir().expect("a folder");
    let shelf = Shelf::open(folder.path()).expect("a shelf");
    let id = shelf.begin(demo::NAME, demo::fill).expect("the demo");
    let file = shelf.find(&id).expect("it is there");
    drop(shelf);
    let port = TcpListener::bind("127.0.0.1:0").and_then(|l| l.local_addr()).expect("a free port").port();
    let mut child = Command::new(env!("CARGO_BIN_EXE_rovnek"))
        .args(["serve", "--port", &port.to_string(), "--data"])
        .arg(folder.path())
        .stdout(Stdio::piped())
        .spawn()
        .expect("rovnek starts");
    let mut line = String::new();
    BufReader::new(child.stdout.take().expect("piped")).read_line(&mut line).expect("a line");
    let url = move |path: &str| format!("http://127.0.0.1:{port}/api/{path}");

    // Two takes of a quarter hour, each under six treatments.
    let mut moves = Vec::new();
    for k in 0..2 {
        let mut csv = String::from("time_s,swing_deg,boom_deg,reach_m,pan_deg,tilt_deg\n");
        for i in 0..=(900.0 * SAMPLES_HZ) as u32 {
            let t = f64::from(i) / SAMPLES_HZ;
            let (slow, quick) = ((t * 0.11 + f64::from(k)).sin(), (t * 9.0).sin() * 0.2);
            let row = [20.0 * slow + quick, 15.0 + 5.0 * slow, 4.0 + slow, 30.0 * slow + quick, -5.0 + quick];
            csv += &format!("{t},{}\n", row.map(|v| v.to_string()).join(","));
        }
        let answer = ureq::post(&url(&format!("import/axes?name=long{k}"))).send(csv.as_bytes());
        let text = answer.expect("it is taken").body_mut().read_to_string().expect("an answer");
        let brought: Value = serde_json::from_str(&text).expect("JSON");
        let take = brought["changed"]["moves"]["changed"][0]["id"].clone();
        moves.push(take.clone());
        let smooth = |passes: u32| {
            let by = json!({"by": "binomial", "passes": passes});
            json!({"on": true, "kind": "smooth", "machine": by, "head": by, "lens": by})
        };
        let op = |i: u32| json!({"op": "add", "path": format!("/moves/{take}/treatments/new:{i}"), "value": smooth(20 * i)});
        let edit = json!({"label": "smooth", "ops": (1..=6).map(op).collect::<Vec<_>>()});
        let edits = json!({"page": "bench", "scene": 1, "edits": [edit]}).to_string();
        ureq::post(&url("edits")).content_type("application/json").send(edits).expect("it is done");
    }

    let over = Arc::new(AtomicBool::new(false));
    let asked = Arc::new(AtomicU32::new(0));
    let fitted = Arc::new(AtomicU32::new(0));
    let keys = {
        let (over, fitted, id) = (over.clone(), fitted.clone(), moves[1].clone());
        std::thread::spawn(move || {
            while !over.load(Ordering::Relaxed) {
                let wanted = json!({"kind": "keys", "move_id": id, "position_cm": 1.0, "rotation_deg": 0.2});
                let make = ureq::post(&url("jobs")).content_type("application/json");
                let text = make
                    .send(wanted.to_string())
                    .expect("it is begun")
                    .body_mut()
                    .read_to_string()
                    .expect("text");
                let job = serde_json::from_str::<Value>(&text).expect("JSON")["id"].clone();
                let open = |j: &Value| j["id"] == job && (j["state"] == "running" || j["state"] == "waiting");
                while !over.load(Ordering::Relaxed) {
                    std::thread::sleep(Duration::from_millis(50));
                    let text = ureq::get(&url("jobs")).call().expect("a list").body_mut().read_to_string();
                    let jobs: Value = serde_json::from_str(&text.expect("text")).expect("JSON");
                    if !jobs.as_array().expect("a list").iter().any(open) {
                        fitted.fetch_add(1, Ordering::Relaxed);
                        break;
                    }
                }
            }
        })
    };
    let pages: Vec<_> = (0..3)
        .map(|k| {
            let (over, asked, take) = (over.clone(), asked.clone(), moves[0].clone());
            std::thread::spawn(move || {
                let all = ["figures", "lanes", "frames?stage=now", "export?as=csv", "export?as=glb", "export?as=axes"];
                for path in all.iter().cycle().skip(k) {
                    if over.load(Ordering::Relaxed) {
                        return;
                    }
                    // So that nothing of it is known from before.
                    let note = json!([{"op": "replace", "path": format!("/moves/{take}/treatments/1/head/passes"),
                        "value": 20 + asked.load(Ordering::Relaxed) % 300}]);
                    let edit = json!({"label": "smooth", "ops": note});
                    let edits = json!({"page": "bench", "scene": 1, "edits": [edit]}).to_string();
                    let _ = ureq::post(&url("edits")).content_type("application/json").send(edits);
                    if let Ok(mut answer) = ureq::get(&url(&format!("moves/{take}/{path}"))).call() {
                        let read = answer.body_mut().with_config().limit(1 << 30).read_to_vec();
                        asked.fetch_add(u32::from(read.is_ok()), Ordering::Relaxed);
                    }
                }
            })
        })
        .collect();

    let (mut socket, _) = connect(format!("ws://127.0.0.1:{port}/api/live")).expect("a socket");
    let roll = json!({"do": "roll", "count_in_s": 0, "until_s": ROLLS_S}).to_string();
    socket.send(Message::text(roll)).expect("sent");
    let mut gaps = Vec::new();
    let mut last = None::<Instant>;
    let began = Instant::now();
    let (mut rolled_s, mut sent) = (0.0_f32, began);
    // How late chunks are, as another reader of the database sees them.
    let late = {
        let (over, path) = (over.clone(), file.clone());
        std::thread::spawn(move || {
            let flags = rusqlite::OpenFlags::SQLITE_OPEN_READ_ONLY;
            let db = rusqlite::Connection::open_with_flags(path, flags).expect("a reader");
            let sql = "SELECT coalesce(sum(samples), 0), min(t.rolling) FROM take_chunk c JOIN take t ON t.id = c.take_id
                WHERE t.id = (SELECT max(id) FROM take)";
            let (mut seen, mut changed, mut worst) = (0_i64, None::<Instant>, Duration::ZERO);
            while !over.load(Ordering::Relaxed) {
                let (samples, rolling): (i64, Option<bool>) =
                    db.query_row(sql, [], |r| Ok((r.get(0)?, r.get(1)?))).expect("it is read");
                if samples > seen && rolling == Some(true) {
                    if let Some(before) = changed.replace(Instant::now()) {
                        worst = worst.max(before.elapsed());
                    }
                    seen = samples;
                }
                std::thread::sleep(Duration::from_millis(5));
            }
            worst
        })
    };
    while rolled_s < ROLLS_S as f32 - 0.1 && began.elapsed() < Duration::from_secs(180) {
        let Message::Binary(bytes) = socket.read().expect("a message") else { continue };
        let now = Instant::now();
        if let Some(before) = last.replace(now) {
            gaps.push(now.duration_since(before).as_secs_f64() * 1e3);
        }
        if bytes[2] & 1 != 0 {
            rolled_s = f32::from_le_bytes(bytes[24..28].try_into().expect("four bytes"));
        }
        if now - sent > Duration::from_millis(60) {
            sent = now;
            socket.send(Message::text(r#"{"setup":1,"do":"drive","rates":[0.3,0.1]}"#)).expect("sent");
        }
    }
    over.store(true, Ordering::Relaxed);
    let worst = late.join().expect("it read");
    for page in pages {
        page.join().expect("it asked");
    }
    keys.join().expect("it made keys");
    let takes = || -> Value {
        let text = ureq::get(&url("document")).call().expect("it is there").body_mut().read_to_string();
        serde_json::from_str::<Value>(&text.expect("text")).expect("JSON")["takes"].clone()
    };
    let mut take = Value::Null;
    while take["rolling"] != false {
        take = takes().as_array().expect("a list").last().expect("one").clone();
    }
    let _ = child.kill();
    let _ = child.wait();
    gaps.sort_by(f64::total_cmp);
    let at = |share: f64| gaps[((gaps.len() - 1) as f64 * share) as usize];
    println!(
        "beside {} evaluations of one 15-minute take and keys made {} times of another: state frames every {:.1} ms, 99th percentile {:.1} ms (50 wanted), worst {:.0} ms",
        asked.load(Ordering::Relaxed),
        fitted.load(Ordering::Relaxed),
        at(0.5),
        at(0.99),
        at(1.0)
    );
    println!(
        "  chunks safe every {:.0} ms at the worst (250 and within 1000 wanted), {} samples of {:.1} s, flags {}",
        worst.as_secs_f64() * 1e3,
        take["samples"],
        take["length_s"].as_f64().unwrap_or(0.0),
        take["flags"]
    );
}
