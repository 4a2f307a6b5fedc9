//! A shelf of fifty productions, and productions of 200 takes and 40 setups, the takes of ten seconds and of
//! five minutes: how long the shelf takes to list, the process to start, and an edit to be done.

use rovnek_server::demo;
use rovnek_store::shelf::Shelf;
use serde_json::{Value, json};
use std::io::{BufRead, BufReader};
use std::net::TcpListener;
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::time::Instant;

const PRODUCTIONS: usize = 50;
const SETUPS: usize = 40;
const TAKES: usize = 200;
/// How long the takes are, seconds.
const LENGTHS_S: [u32; 2] = [10, 300];

struct Served {
    child: Child,
    port: u16,
    ready_ms: f64,
}

impl Served {
    fn start(folder: &Path) -> Served {
        let port = TcpListener::bind("127.0.0.1:0").and_then(|l| l.local_addr()).expect("a free port").port();
        let began = Instant::now();
        let mut child = Command::new(env!("CARGO_BIN_EXE_rovnek"))
            .args(["serve", "--port", &port.to_string(), "--data"])
            .arg(folder)
            .stdout(Stdio::piped())
            .spawn()
            .expect("rovnek starts");
        let mut line = String::new();
        BufReader::new(child.stdout.take().expect("piped")).read_line(&mut line).expect("a line");
        Served { child, port, ready_ms: began.elapsed().as_secs_f64() * 1000.0 }
    }

    fn url(&self, path: &str) -> String {
        format!("http://127.0.0.1:{}/api/{path}", self.port)
    }

    fn get(&self, path: &str) -> Value {
        let text = ureq::get(&self.url(path)).call().expect("an answer").body_mut().read_to_string();
        serde_json::from_str(&text.expect("text")).expect("JSON")
    }

    fn post(&self, path: &str, body: Value) {
        let request = ureq::post(&self.url(path)).content_type("application/json");
        request.send(body.to_string()).expect("it is done");
    }
}

impl Drop for Served {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

/// Median and most of some runs, milliseconds.
fn timed(runs: usize, mut run: impl FnMut(usize)) -> String {
    let mut all: Vec<f64> = (0..runs)
        .map(|k| {
            let began = Instant::now();
            run(k);
            began.elapsed().as_secs_f64() * 1000.0
        })
        .collect();
    all.sort_by(f64::total_cmp);
    format!("{:.1} ms median, {:.1} most", all[runs / 2], all[runs - 1])
}

fn main() {
    let folder = tempfile::tempdir().expect("a folder");
    {
        let shelf = Shelf::open(folder.path()).expect("a shelf");
        let first = shelf.begin(demo::NAME, demo::fill).expect("the demo");
        for k in 1..PRODUCTIONS {
            shelf.duplicate(&first, &format!("Depot {k}")).expect("a copy");
        }
        shelf.open_one(&first).expect("it opens");
    }
    let s = Served::start(folder.path());
    println!("shelf of {PRODUCTIONS}: {}", timed(11, |_| drop(s.get("productions"))));
    drop(s);
    LENGTHS_S.into_iter().for_each(production);
}

/// Times a production whose takes are so long.
fn production(length_s: u32) {
    let folder = tempfile::tempdir().expect("a folder");
    let shelf = Shelf::open(folder.path()).expect("a shelf");
    let first = shelf.begin(demo::NAME, demo::fill).expect("the demo");
    shelf.open_one(&first).expect("it opens");
    drop(shelf);
    let s = Served::start(folder.path());
    let mut csv = String::from("time_s,swing_deg,boom_deg,reach_m,pan_deg,tilt_deg\n");
    for k in 0..=length_s * 120 {
        let t = f64::from(k) / 120.0;
        csv += &format!("{t},{},12,4.2,{},-4\n", 10.0 * (0.1 * t).sin(), 20.0 * (0.1 * t).sin());
    }
    let id = s.get("document")["on_shelf"].clone();
    for _ in 2..SETUPS {
        let things = json!([{"kind": "setup", "id": 2}]);
        s.post("carry", json!({"production": id, "things": things, "takes": false, "choices": []}));
    }
    for k in 2..TAKES {
        ureq::post(&s.url(&format!("import/axes?name=t{k}"))).send(csv.as_bytes()).expect("it is taken");
    }
    let document = s.get("document");
    let count = |what: &str| document[what].as_array().map_or(0, Vec::len);
    let edit = |path: &str, value: Value| {
        let edit = json!({"label": "change", "ops": [{"op": "replace", "path": path, "value": value}]});
        s.post("edits", json!({"page": "bench", "scene": 1, "edits": [edit]}));
    };
    println!("{} takes of {length_s} s, {} setups:", count("takes"), count("setups"));
    println!("  a setup named: {}", timed(25, |k| edit("/setups/1/name", json!(format!("crane {k}")))));
    println!("  a note on a take: {}", timed(25, |k| edit("/takes/1/note", json!(format!("note {k}")))));
    println!("  a machine turned: {}", timed(25, |k| edit("/setups/1/rig/heading_deg", json!(100 + k))));
    let began = Instant::now();
    drop(s.get("takes/shakes"));
    println!("  shake of all takes, the first time: {:.0} ms", began.elapsed().as_secs_f64() * 1000.0);
    drop(s);
    let starts: Vec<String> =
        (0..3).map(|_| format!("{:.0} ms", Served::start(folder.path()).ready_ms)).collect();
    println!("  started: {}", starts.join(", "));
    let size = |entry: std::fs::DirEntry| entry.metadata().map_or(0, |m| m.len());
    let files = std::fs::read_dir(folder.path().join("productions")).expect("a folder");
    println!("  on the disk: {} MB", files.flatten().map(size).sum::<u64>() >> 20);
}
