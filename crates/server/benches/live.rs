//! The live floor on loopback while a take is recorded: from a command sent to the first state
//! frame that shows it, and how evenly frames come; alone, and beside ten pages that watch.

use std::io::{BufRead, BufReader};
use std::net::TcpListener;
use std::process::{Command, Stdio};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::Instant;
use tungstenite::{Message, connect};

/// Place of the first axis in a state frame, bytes; `docs/wire.md`.
const AXES_AT: usize = 172;

fn main() {
    for watching in [0, 10] {
        measure(watching);
    }
}

/// Gaps between the state frames that a page gets, milliseconds, until it is over.
fn watch(port: u16, over: &AtomicBool) -> Vec<f64> {
    let (mut socket, _) = connect(format!("ws://127.0.0.1:{port}/api/live")).expect("a socket");
    let (mut gaps, mut last) = (Vec::new(), None::<Instant>);
    while !over.load(Ordering::Relaxed) {
        let Ok(Message::Binary(_)) = socket.read() else { continue };
        let now = Instant::now();
        gaps.extend(last.replace(now).map(|last| now.duration_since(last).as_secs_f64() * 1e3));
    }
    gaps
}

fn measure(watching: usize) {
    let port = TcpListener::bind("127.0.0.1:0").and_then(|l| l.local_addr()).expect("a free port").port();
    let mut child = Command::new(env!("CARGO_BIN_EXE_rovnek"))
        .args(["demo", "--port", &port.to_string()])
        .stdout(Stdio::piped())
        .spawn()
        .expect("rovnek starts");
    let mut line = String::new();
    BufReader::new(child.stdout.take().expect("piped")).read_line(&mut line).expect("a line");
    let (mut socket, _) = connect(format!("ws://127.0.0.1:{port}/api/live")).expect("a socket");
    let send = |socket: &mut tungstenite::WebSocket<_>, text: String| {
        socket.send(Message::text(text)).expect("sent")
    };
    send(&mut socket, r#"{"do":"roll","count_in_s":0}"#.into());
    let over = Arc::new(AtomicBool::new(false));
    let watchers: Vec<_> = (0..watching)
        .map(|_| {
            let over = over.clone();
            std::thread::spawn(move || watch(port, &over))
        })
        .collect();

    let (mut latencies, mut gaps) = (Vec::new(), Vec::new());
    let (mut last, mut asked) = (None::<Instant>, None::<Instant>);
    let (mut on, mut frames) = (false, 0u32);
    while latencies.len() < 400 {
        let Message::Binary(bytes) = socket.read().expect("a message") else { continue };
        let now = Instant::now();
        if let Some(last) = last.replace(now) {
            gaps.push(now.duration_since(last).as_secs_f64() * 1e3);
        }
        frames += 1;
        // The swing is axis 0; bit 8 of its flags says that a hand drives it.
        let driven = bytes[AXES_AT + 12] & 8 != 0;
        if let Some(sent) = asked
            && driven == on
        {
            latencies.push(now.duration_since(sent).as_secs_f64() * 1e3);
            asked = None;
        }
        // Sent at a time that has nothing to do with the frames.
        if asked.is_none() && frames % 3 == 0 {
            on = !on;
            std::thread::sleep(std::time::Duration::from_micros(u64::from(frames * 7919 % 16_000)));
            asked = Some(Instant::now());
            send(
                &mut socket,
                format!(r#"{{"setup":1,"do":"drive","rates":[{}]}}"#, if on { 0.2 } else { 0.0 }),
            );
        }
    }
    over.store(true, Ordering::Relaxed);
    let mut seen: Vec<f64> = watchers.into_iter().flat_map(|w| w.join().expect("it watched")).collect();
    let _ = child.kill();
    let _ = child.wait();
    let at = |list: &mut Vec<f64>, share: f64| {
        list.sort_by(f64::total_cmp);
        list[((list.len() - 1) as f64 * share) as usize]
    };
    println!("with {watching} pages that watch:");
    println!(
        "  input to state while recording: median {:.1} ms, 99th percentile {:.1} ms (targets 17 and 34)",
        at(&mut latencies, 0.5),
        at(&mut latencies, 0.99)
    );
    println!(
        "  state frames: median gap {:.2} ms, 1st to 99th percentile {:.2} to {:.2} ms over {} frames (16.67 wanted)",
        at(&mut gaps, 0.5),
        at(&mut gaps, 0.01),
        at(&mut gaps, 0.99),
        gaps.len()
    );
    if watching > 0 {
        println!(
            "  their state frames: median gap {:.2} ms, 99th percentile {:.2} ms over {} frames",
            at(&mut seen, 0.5),
            at(&mut seen, 0.99),
            seen.len()
        );
    }
}
