//! The application without a network, for tests of its routes.
#![allow(dead_code)]

use rocket::http::{ContentType, Header, Status};
use rocket::local::blocking::{Client, LocalResponse};
use rovnek_server::demo;
use rovnek_server::serve::{Address, assemble, open, rocket};
use rovnek_store::shelf::Shelf;
use serde_json::{Value, json};
use std::net::{IpAddr, Ipv4Addr};
use std::path::Path;
use tempfile::TempDir;

pub const HOST: &str = "127.0.0.1:4780";

pub struct Served {
    pub client: Client,
    /// The folder, where it goes with this.
    _folder: Option<TempDir>,
}

impl Served {
    /// The demo, without a network.
    pub fn demo() -> Served {
        let folder = tempfile::tempdir().unwrap();
        let shelf = Shelf::open(folder.path()).unwrap();
        shelf.begin(demo::NAME, demo::fill).unwrap();
        drop(shelf);
        Served::of(folder)
    }

    /// What is in a folder, without a network.
    pub fn of(folder: TempDir) -> Served {
        let client = Served::at(folder.path()).client;
        Served { client, _folder: Some(folder) }
    }

    /// What is in a folder that stays.
    pub fn at(folder: &Path) -> Served {
        let (shelf, ready) = open(folder).unwrap();
        let (app, _recorder) = assemble(shelf, ready).unwrap();
        let address = Address { bind: IpAddr::V4(Ipv4Addr::LOCALHOST), port: 0 };
        Served { client: Client::tracked(rocket(app, address)).unwrap(), _folder: None }
    }

    pub fn get(&self, path: &str) -> LocalResponse<'_> {
        self.client.get(path.to_string()).header(Header::new("Host", HOST)).dispatch()
    }

    pub fn json(&self, path: &str) -> Value {
        let answer = self.get(path);
        assert_eq!(answer.status(), Status::Ok, "{path}");
        body(answer).unwrap()
    }

    /// An edit by operations, from what is there now.
    pub fn edit(&self, label: &str, ops: Value) -> (Status, Value) {
        let edit = json!({"label": label, "ops": ops});
        self.post("/api/edits", json!({"page": "test", "scene": 1, "edits": [edit]}).to_string())
    }

    /// Puts one value in the place of another.
    pub fn replace(&self, path: &str, value: Value) -> (Status, Value) {
        self.edit("change it", json!([{"op": "replace", "path": path, "value": value}]))
    }

    /// The number of the move of a take.
    pub fn move_of(&self, take: &Value) -> u64 {
        let moves = self.json("/api/document")["moves"].clone();
        let its = moves.as_array().unwrap().iter().find(|m| m["source"]["take"] == *take);
        its.unwrap()["id"].as_u64().unwrap()
    }

    /// Takes the newest edit back.
    pub fn undo(&self) -> (Status, Value) {
        self.post("/api/undo", json!({"page": "test"}).to_string())
    }

    /// Keeps something under a name.
    pub fn put(&self, path: &str, body: Value) -> (Status, Value) {
        let request = self.client.put(path.to_string()).header(Header::new("Host", HOST));
        read(request.header(ContentType::JSON).body(body.to_string()).dispatch())
    }

    pub fn post(&self, path: &str, body: impl AsRef<[u8]>) -> (Status, Value) {
        let request = self.client.post(path.to_string()).header(Header::new("Host", HOST));
        read(request.header(ContentType::JSON).body(body).dispatch())
    }
}

/// Status and body of an answer.
pub fn read(answer: LocalResponse) -> (Status, Value) {
    let status = answer.status();
    if status.code >= 400 {
        assert_eq!(answer.content_type().unwrap().to_string(), "application/problem+json");
    }
    (status, body(answer).unwrap_or(Value::Null))
}

/// The JSON of an answer, taken as a whole: Rocket's own `into_json` asks its runtime for every byte.
fn body(answer: LocalResponse) -> Option<Value> {
    serde_json::from_slice(&answer.into_bytes()?).ok()
}

/// The sentence of a problem.
pub fn sentence((status, problem): (Status, Value), code: u16) -> String {
    assert_eq!(status.code, code, "{problem}");
    assert_eq!(problem["status"], code);
    problem["detail"].as_str().unwrap().into()
}
