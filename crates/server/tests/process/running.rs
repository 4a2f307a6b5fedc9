//! The running process, as tests start it, ask it and end it.

use rovnek_store::model::NewScene;
use rovnek_store::shelf::Shelf;
use serde_json::{Value, json};
use std::io::{BufRead, BufReader, Read, Write};
use std::net::{TcpListener, TcpStream};
use std::path::Path;
use std::process::{Child, ChildStdout, Command, Stdio};
use tungstenite::{Message, WebSocket, connect, stream::MaybeTlsStream};

pub struct Running {
    pub child: Child,
    said: BufReader<ChildStdout>,
    pub port: u16,
}

impl Running {
    /// A folder that may hold nothing yet: then a production is begun in it first.
    pub fn serve(folder: &Path) -> Running {
        let shelf = Shelf::open(folder).unwrap();
        if shelf.list().unwrap().is_empty() {
            shelf.begin("Untitled", |store| store.begin(&NewScene::empty("Untitled"))).unwrap();
        }
        drop(shelf);
        Running::start(folder)
    }

    pub fn start(folder: &Path) -> Running {
        let port = TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap().port();
        // A file that outgrows its limit is to be an error, as on a full disk, and not a signal.
        let mut child = Command::new("sh")
            .args(["-c", "trap '' XFSZ; exec \"$@\"", "sh", env!("CARGO_BIN_EXE_rovnek")])
            .args(["serve", "--port", &port.to_string(), "--data"])
            .arg(folder)
            .stdout(Stdio::piped())
            .spawn()
            .unwrap();
        let said = BufReader::new(child.stdout.take().unwrap());
        let mut running = Running { child, said, port };
        let line = running.line();
        assert!(line.contains("is ready at"), "{line}");
        running
    }

    /// The next thing that it says.
    pub fn line(&mut self) -> String {
        let mut line = String::new();
        self.said.read_line(&mut line).unwrap();
        line
    }

    pub fn document(&self) -> Value {
        serde_json::from_str(&self.get("document")).unwrap()
    }

    pub fn url(&self, path: &str) -> String {
        format!("http://127.0.0.1:{}/api/{path}", self.port)
    }

    pub fn get(&self, path: &str) -> String {
        ureq::get(&self.url(path)).call().unwrap().body_mut().read_to_string().unwrap()
    }

    pub fn put(&self, path: &str, body: Value) -> Value {
        self.sent(ureq::put(&self.url(path)), body)
    }

    pub fn post(&self, path: &str, body: Value) -> Value {
        self.sent(ureq::post(&self.url(path)), body)
    }

    pub fn replace(&self, path: &str, value: Value) -> Value {
        self.edit(json!([{"op": "replace", "path": path, "value": value}]))
    }

    pub fn edit(&self, ops: Value) -> Value {
        let edit = json!({"label": "change it", "ops": ops});
        self.post("edits", json!({"page": "test", "scene": 1, "edits": [edit]}))
    }

    pub fn sent(&self, request: ureq::RequestBuilder<ureq::typestate::WithBody>, body: Value) -> Value {
        let answer = request.header("Content-Type", "application/json").send(body.to_string());
        serde_json::from_str(&answer.unwrap().body_mut().read_to_string().unwrap()).unwrap_or(Value::Null)
    }

    /// A take, once it is closed.
    pub fn closed(&self, place: usize) -> Value {
        loop {
            let take = self.document()["takes"][place].clone();
            if take["rolling"] == false {
                return take;
            }
        }
    }

    pub fn page(&self) -> Page {
        Page(connect(format!("ws://127.0.0.1:{}/api/live", self.port)).unwrap().0)
    }
}

impl Drop for Running {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

pub struct Page(pub WebSocket<MaybeTlsStream<std::net::TcpStream>>);

impl Page {
    pub fn send(&mut self, command: Value) {
        self.0.send(Message::text(command.to_string())).unwrap();
    }

    /// The next state frame: flags and roll time. Hands stay on the wheels meanwhile.
    pub fn frame(&mut self) -> (u8, f32) {
        loop {
            if let Message::Binary(bytes) = self.0.read().unwrap() {
                return (bytes[2], f32::from_le_bytes(bytes[24..28].try_into().unwrap()));
            }
        }
    }

    pub fn told(&mut self, wanted: &str) -> Value {
        loop {
            if let Message::Text(text) = self.0.read().unwrap() {
                let told: Value = serde_json::from_str(&text).unwrap();
                if told["tell"] == wanted {
                    return told;
                }
            }
        }
    }

    /// Drives until the page is told that the take was cut, and why.
    pub fn trouble(&mut self) -> String {
        loop {
            self.send(json!({"setup": 1, "do": "drive", "rates": [0.5]}));
            let status = self.told("status")["status"].clone();
            if let Some(trouble) = status["trouble"].as_str() {
                assert_eq!(status["roll"], "standby");
                return trouble.to_string();
            }
        }
    }

    /// Drives and rolls until the roll is this long.
    pub fn roll_for(&mut self, seconds: f32) -> f32 {
        loop {
            self.send(json!({"setup": 1, "do": "drive", "rates": [1.0, 0.2, 0.1, -0.5]}));
            let (flags, rolled) = self.frame();
            if flags & 1 != 0 && rolled >= seconds {
                return rolled;
            }
        }
    }
}

/// The stand-in of a tracked device, sending for as long as it lives.
pub struct Device(Child);

impl Device {
    pub fn sending_to(port: u64) -> Device {
        let to = format!("127.0.0.1:{port}");
        let args = ["device", "--to", &to, "--rate", "240", "--loss", "5", "--late", "5"];
        let mut command = Command::new(env!("CARGO_BIN_EXE_rovnek"));
        Device(command.args(args).stdout(Stdio::null()).stderr(Stdio::null()).spawn().unwrap())
    }
}

impl Drop for Device {
    fn drop(&mut self) {
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

/// A request that may find nobody any more; status and body of the answer, none where the process is gone.
pub fn tried(port: u16, method: &str, path: &str, headers: &str, body: &[u8]) -> Option<(u16, Vec<u8>)> {
    let mut stream = TcpStream::connect(("127.0.0.1", port)).ok()?;
    let head = head(port, method, path, headers, body.len());
    stream.write_all(head.as_bytes()).ok()?;
    stream.write_all(body).ok()?;
    let mut answer = Vec::new();
    stream.read_to_end(&mut answer).ok()?;
    let at = answer.windows(4).position(|w| w == b"\r\n\r\n")?;
    let status = std::str::from_utf8(answer.get(9..12)?).ok()?.parse().ok()?;
    Some((status, answer[at + 4..].to_vec()))
}

/// The head of a request.
pub fn head(port: u16, method: &str, path: &str, headers: &str, length: usize) -> String {
    format!(
        "{method} /api/{path} HTTP/1.1\r\nHost: 127.0.0.1:{port}\r\n{headers}Connection: close\r\n\
         Content-Type: application/json\r\nContent-Length: {length}\r\n\r\n"
    )
}

/// Posts JSON; status and what was answered. `meant` is the scene that is named.
pub fn post(port: u16, path: &str, meant: Option<&str>, body: &Value) -> (u16, String) {
    let headers = meant.map_or(String::new(), |scene| format!("Rovnek-Scene: {scene}\r\n"));
    let answer = tried(port, "POST", path, &headers, body.to_string().as_bytes());
    let (status, body) = answer.expect("the process answers");
    (status, String::from_utf8_lossy(&body).into_owned())
}
