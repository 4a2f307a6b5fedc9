//! The running process: takes that survive `kill -9`, a port that is taken, a socket that comes
//! and goes.

use serde_json::{Value, json};
use std::io::{BufRead, BufReader};
use std::net::TcpListener;
use std::path::Path;
use std::process::{Child, Command, Stdio};
use tungstenite::{Message, WebSocket, connect, stream::MaybeTlsStream};

struct Running {
    child: Child,
    port: u16,
}

impl Running {
    fn serve(folder: &Path) -> Running {
        let port = TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap().port();
        let mut child = Command::new(env!("CARGO_BIN_EXE_rovnek"))
            .args(["serve", "--port", &port.to_string(), "--data"])
            .arg(folder)
            .stdout(Stdio::piped())
            .spawn()
            .unwrap();
        let mut line = String::new();
        BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
        assert!(line.contains("is ready at"), "{line}");
        Running { child, port }
    }

    fn document(&self) -> Value {
        let url = format!("http://127.0.0.1:{}/api/document", self.port);
        let text = ureq::get(&url).call().unwrap().body_mut().read_to_string().unwrap();
        serde_json::from_str(&text).unwrap()
    }

    fn page(&self) -> Page {
        Page(connect(format!("ws://127.0.0.1:{}/api/live", self.port)).unwrap().0)
    }
}

impl Drop for Running {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

struct Page(WebSocket<MaybeTlsStream<std::net::TcpStream>>);

impl Page {
    fn send(&mut self, command: Value) {
        self.0.send(Message::text(command.to_string())).unwrap();
    }

    /// The next state frame: flags and roll time. Hands stay on the wheels meanwhile.
    fn frame(&mut self) -> (u8, f32) {
        loop {
            if let Message::Binary(bytes) = self.0.read().unwrap() {
                return (bytes[2], f32::from_le_bytes(bytes[24..28].try_into().unwrap()));
            }
        }
    }

    fn told(&mut self, wanted: &str) -> Value {
        loop {
            if let Message::Text(text) = self.0.read().unwrap() {
                let told: Value = serde_json::from_str(&text).unwrap();
                if told["tell"] == wanted {
                    return told;
                }
            }
        }
    }

    /// Drives and rolls until the roll is this long.
    fn roll_for(&mut self, seconds: f32) -> f32 {
        loop {
            self.send(json!({"do": "drive", "rates": [1.0, 0.2, 0.1, -0.5]}));
            let (flags, rolled) = self.frame();
            if flags & 1 != 0 && rolled >= seconds {
                return rolled;
            }
        }
    }
}

#[test]
fn ten_kills_in_mid_take_lose_no_acknowledged_chunk() {
    let folder = tempfile::tempdir().unwrap();
    for kill in 0..10 {
        let mut running = Running::serve(folder.path());
        let mut page = running.page();
        page.told("you");
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
    }
}

#[test]
fn a_take_cut_by_closing_rovnek_is_kept_whole() {
    let folder = tempfile::tempdir().unwrap();
    let mut running = Running::serve(folder.path());
    let mut page = running.page();
    page.told("you");
    page.send(json!({"do": "roll", "count_in_s": 0}));
    let rolled = page.roll_for(0.4);
    Command::new("kill").args(["-TERM", &running.child.id().to_string()]).status().unwrap();
    assert!(running.child.wait().unwrap().success());
    let take = Running::serve(folder.path()).document()["takes"][0].clone();
    assert_eq!(take["recovered"], false);
    assert!(take["samples"].as_f64().unwrap() >= f64::from(rolled) * 120.0 - 2.0, "{take}");
    assert!(take["flags"].to_string().contains("Rovnek was closed"), "{take}");
}

#[test]
fn what_a_page_sends_wrongly_is_told_and_the_floor_lives() {
    let folder = tempfile::tempdir().unwrap();
    let running = Running::serve(folder.path());
    let mut page = running.page();
    page.told("you");
    page.send(json!({"do": "fly"}));
    assert!(page.told("refused")["sentence"].as_str().unwrap().contains("cannot be read"));
    page.send(json!({"do": "drive", "rates": []}));
    page.send(json!({"do": "drive", "rates": vec![1e300; 300]}));
    page.send(json!({"do": "arm", "axis": 99, "on": true}));
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
            keeper.send(json!({"do": "drive", "rates": [0.0]}));
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
