//! Who and what stands on a machine's carriage, over the API.

use crate::served::{Served, sentence};
use rocket::http::Status;
use serde_json::{Value, json};

/// A dolly on straight track that is pushed three metres in five seconds by its keys, with a crate and somebody on
/// it: the move, the crate, the passenger three metres before its lens.
fn pushed(s: &Served) -> (u64, u64, u64) {
    assert_eq!(s.replace("/setups/1/rig", json!({"kind": "track_dolly"})).0, Status::Ok);
    let keys = json!({"travel": [{"time_s": 0.0, "value": 0.5}, {"time_s": 5.0, "value": 3.5}]});
    let value =
        json!({"setup_id": 1, "name": "push", "source": {"kind": "curves"}, "curves": keys, "run": true});
    let kept = made(s, "/moves/new:1", value);
    let [x, y, z, turn_deg] = seen(s, kept, 0);
    let (sin, cos) = turn_deg.to_radians().sin_cos();
    let ahead = |m: f64| json!([x + sin * m, 0.2, z - cos * m]);
    assert!(y > 0.5);
    let on = json!({"by": "setup", "id": 1, "move": null});
    let form = json!({"kind": "block", "size": [0.4, 0.3, 0.4], "material": "timber"});
    let piece =
        made(s, "/pieces/new:1", json!({"name": "crate", "position": ahead(1.0), "form": form, "rides": on}));
    let route = json!({"waypoints": [{"time_s": 0.0, "position": ahead(3.0)}]});
    let part = json!({"performance": 1, "rides": on, "motion": "walks", "route": route});
    let who = json!({"name": "passenger", "height_m": 1.7, "build": 1.0, "parts": [part]});
    (kept, piece, made(s, "/performers/new:1", who))
}

/// Adds something; its number.
fn made(s: &Served, path: &str, value: Value) -> u64 {
    let (status, done) = s.edit("add", json!([{"op": "add", "path": path, "value": value}]));
    assert_eq!(status, Status::Ok, "{done}");
    done["made"]["new:1"].as_u64().unwrap()
}

/// Where the camera of a move is at a frame, and how it is turned.
fn seen(s: &Served, of: u64, frame: usize) -> [f64; 4] {
    let csv = s.get(&format!("/api/moves/{of}/export?as=csv")).into_string().unwrap();
    let row: Vec<f64> = csv.lines().nth(frame + 1).unwrap().split(',').map(|v| v.parse().unwrap()).collect();
    [row[1], row[2], row[3], row[4]]
}

/// The way of somebody or something over the floor, four places a second.
fn way(s: &Served, name: &str) -> Vec<[f64; 3]> {
    let figures = s.json("/api/scene/figures");
    let found = figures.as_array().unwrap().iter().find(|f| f["name"] == name).unwrap().clone();
    serde_json::from_value(found["path"].clone()).unwrap()
}

fn far(a: [f64; 3], b: [f64; 3]) -> f64 {
    a.iter().zip(b).map(|(a, b)| (a - b).powi(2)).sum::<f64>().sqrt()
}

#[test]
fn who_stands_on_a_dolly_goes_as_its_keys_have_it() {
    let s = Served::demo();
    let (kept, piece, who) = pushed(&s);
    let pushed_by = |frame: usize| {
        let ([a, b, c, _], [x, y, z, _]) = (seen(&s, kept, 0), seen(&s, kept, frame));
        [x - a, y - b, z - c]
    };
    for name in ["crate", "passenger"] {
        let way = way(&s, name);
        for quarter in (0..20).step_by(4) {
            let gone = [0, 1, 2].map(|k| way[quarter][k] - way[0][k]);
            assert!(far(gone, pushed_by(quarter * 6)) < 1e-3, "{name}: {gone:?}");
        }
        assert!(far(way[20], way[0]) > 2.9);
    }
    // The move itself has them, and whoever it looks at is as large in each of its frames.
    let frames = s.get(&format!("/api/moves/{kept}/frames?stage=now")).into_bytes().unwrap();
    let word = |at: usize| u32::from_le_bytes(frames[at..at + 4].try_into().unwrap()) as usize;
    let number = |at: usize| f64::from(f32::from_le_bytes(frames[at..at + 4].try_into().unwrap()));
    let (count, axes, bodies, riders) = (word(4), word(8), word(12), word(16));
    assert_eq!((riders, word(20)), (2, 0));
    assert_eq!((word(36), word(40), word(44)), (2, piece as usize, 1));
    assert_eq!((word(48), word(52)), (1, who as usize));
    let stride = 4 * (23 + axes + 7 * (bodies + 1 + word(56)));
    let row = |frame: usize| 36 + 12 * riders + 16 * count + frame * stride;
    assert_eq!(frames.len(), row(count));
    let crates = way(&s, "crate");
    for frame in [0, 48, 120] {
        let at = row(frame) + 4 * (23 + axes + 7 * bodies);
        let there = [number(at), number(at + 4) - 0.15, number(at + 8)];
        assert!(far(there, crates[frame / 6]) < 1e-3, "{there:?}");
        assert_eq!(number(row(frame) + 16 * 4) as u64, who);
        assert!((number(row(frame) + 17 * 4) - number(row(0) + 17 * 4)).abs() < 1e-4);
    }
}

#[test]
fn they_go_otherwise_with_the_keys_and_stand_when_the_machine_is_gone() {
    let s = Served::demo();
    let (kept, piece, _) = pushed(&s);
    let cast = || s.json("/api/document")["versions"]["performances"]["1"].as_str().unwrap().to_string();
    let (before, first) = (cast(), way(&s, "crate"));
    // Its pages read anew who moves when the machine goes otherwise, and only then.
    s.replace("/production/name", json!("Night"));
    assert_eq!(cast(), before);
    let keys = json!([{"time_s": 0.0, "value": 0.5}, {"time_s": 5.0, "value": 1.5}]);
    assert_eq!(s.replace(&format!("/moves/{kept}/curves/travel"), keys).0, Status::Ok);
    assert_ne!(cast(), before);
    let slower = way(&s, "crate");
    assert!((far(slower[20], slower[0]) - 1.0).abs() < 1e-3 && far(slower[0], first[0]) < 1e-9);
    // Bound to that move, it does not mind another one that the machine runs; unbound it does.
    let bind = |by: Value| s.replace(&format!("/pieces/{piece}/rides"), by).0;
    assert_eq!(bind(json!({"by": "setup", "id": 1, "move": kept})), Status::Ok);
    let value =
        json!({"setup_id": 1, "name": "stay", "source": {"kind": "curves"}, "curves": {}, "run": true});
    made(&s, "/moves/new:1", value);
    assert!((far(way(&s, "crate")[20], slower[0]) - 1.0).abs() < 1e-3);
    assert!(far(way(&s, "passenger")[20], way(&s, "passenger")[0]) < 1e-9);
    // A machine carried by what it carries is refused; one that is gone leaves them where they are.
    let by = json!([{"op": "add", "path": "/setups/1/rig/carried", "value": {"by": "piece", "id": piece}}]);
    assert!(sentence(s.edit("carry", by), 422).contains("would carry itself"));
    assert_eq!(s.replace("/setups/1/binned", json!(true)).0, Status::Ok);
    let stands = way(&s, "crate");
    assert!(far(stands[20], stands[0]) < 1e-9);
    s.undo();
    assert!((far(way(&s, "crate")[20], slower[0]) - 1.0).abs() < 1e-3);
}

#[test]
fn a_chain_of_machines_is_followed_to_its_end() {
    let s = Served::demo();
    let (kept, _, who) = pushed(&s);
    // A camera in the passenger's hands, with a lamp on it.
    let rig = json!({"kind": "tripod", "carried": {"by": "performer", "id": who}});
    assert_eq!(s.replace("/setups/2/rig", rig).0, Status::Ok);
    let hangs = json!({"name": "lamp", "position": [0, 2, 0], "form": {"kind": "lamp", "cord": 0.2},
        "rides": {"by": "setup", "id": 2, "move": null}});
    made(&s, "/pieces/new:1", hangs);
    let (lamp, passenger) = (way(&s, "lamp"), way(&s, "passenger"));
    assert!(far(lamp[20], lamp[0]) > 2.9);
    for (lamp_at, at) in lamp.iter().zip(&passenger) {
        let gone = [0, 1, 2].map(|k| lamp_at[k] - lamp[0][k]);
        assert!(far(gone, [0, 1, 2].map(|k| at[k] - passenger[0][k])) < 1e-3);
    }
    let value =
        json!({"setup_id": 2, "name": "carried", "source": {"kind": "curves"}, "curves": {}, "run": true});
    let carried = made(&s, "/moves/new:1", value);
    let [a, _, c, _] = seen(&s, carried, 0);
    let [x, _, z, _] = seen(&s, carried, 120);
    let ([a2, _, c2, _], [x2, _, z2, _]) = (seen(&s, kept, 0), seen(&s, kept, 120));
    assert!((x - a - (x2 - a2)).hypot(z - c - (z2 - c2)) < 1e-3);
    // Straight on the dolly, without anybody's hands, it goes the same way: as that runs.
    let on = json!({"by": "setup", "id": 1, "move": null});
    assert_eq!(s.replace("/setups/2/rig/carried", on).0, Status::Ok);
    let [a, _, c, _] = seen(&s, carried, 0);
    let [x, _, z, _] = seen(&s, carried, 120);
    assert!((x - a - (x2 - a2)).hypot(z - c - (z2 - c2)) < 1e-3);
    // A third one on the second, which only stands there: it goes as the first does, also when that goes otherwise.
    let camera = s.json("/api/document")["setups"][0]["camera"].clone();
    let rig = json!({"kind": "tripod", "carried": {"by": "setup", "id": 2, "move": null}});
    let third = made(&s, "/setups/new:1", json!({"name": "third", "camera": camera, "rig": rig}));
    assert_eq!(s.replace(&format!("/moves/{carried}/binned"), json!(true)).0, Status::Ok);
    let value =
        json!({"setup_id": third, "name": "third", "source": {"kind": "curves"}, "curves": {}, "run": true});
    let on_top = made(&s, "/moves/new:1", value);
    let gone = |id: u64| {
        let ([a, _, c, _], [x, _, z, _]) = (seen(&s, id, 0), seen(&s, id, 120));
        (x - a).hypot(z - c)
    };
    assert!((gone(on_top) - 3.0).abs() < 1e-3);
    let keys = json!([{"time_s": 0.0, "value": 0.5}, {"time_s": 5.0, "value": 1.5}]);
    assert_eq!(s.replace(&format!("/moves/{kept}/curves/travel"), keys).0, Status::Ok);
    assert!((gone(on_top) - 1.0).abs() < 1e-3);
}
