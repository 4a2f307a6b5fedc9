//! The camera on the floor, heard by our own listener: five seconds at 240 a second, in both protocols.

use crate::common::{placed, staged};
use rovnek_core::ids::SetupId;
use rovnek_formats::tracking::Protocol;
use rovnek_live::command::{Command, PageCommand};
use rovnek_live::listen::{Account, Listener};
use rovnek_live::live_out::{LiveOut, Manner};
use rovnek_live::runner::{Message, Packed, Runner};
use rovnek_live::wire;
use std::net::Ipv4Addr;
use std::sync::Arc;
use std::sync::mpsc::channel;
use std::time::{Duration, Instant};

fn told(protocol: Protocol) {
    let (notes, _keeps) = channel();
    let runner = Runner::start(staged(vec![placed()]), SetupId(3), notes);
    let (heard, inbox) = channel();
    let account: Arc<Account> = Arc::default();
    let any = (Ipv4Addr::LOCALHOST, 0).into();
    let listener = Listener::open(protocol, any, account.clone(), heard).unwrap();
    let manner = Manner { protocol, number: 5, rate_hz: 240 };
    let (out, due) = LiveOut::begin(manner, listener.address).unwrap();
    runner.messages.send(Message::Join(1)).unwrap();
    runner.messages.send(Message::LiveOut(Some(due))).unwrap();
    let began = Instant::now();
    let mut frames = Vec::new();
    while began.elapsed() < Duration::from_secs(5) {
        // Hands swing the crane all the while.
        let command = Command::Drive { rates: vec![0.6, 0.1], nudges: vec![], fine: false };
        runner.messages.send(Message::Command(1, PageCommand { setup: Some(SetupId(3)), command })).unwrap();
        std::thread::sleep(Duration::from_millis(50));
        frames.push(runner.frames.borrow().clone());
    }
    runner.messages.send(Message::LiveOut(None)).unwrap();
    let (sent, dropped) = out.finish();
    drop(listener);
    let all: Vec<Packed> = inbox
        .try_iter()
        .map(|m| match m {
            Message::Tracked(packed) => *packed,
            other => panic!("{other:?}"),
        })
        .collect();
    let samples: Vec<_> = all.iter().filter_map(|p| p.sample.clone()).collect();
    let (sources, strangers) = account.devices.lock().unwrap().statuses(account.now_s());
    assert!(strangers.is_empty(), "{strangers:?}");
    // FreeD does not count: there only the number says what was lost.
    let lost = if protocol == Protocol::FreeD { sent - samples.len() as u64 } else { sources[0].lost };
    assert_eq!((samples.len() as u64 + lost, dropped), (sent, 0), "of five seconds at 240");
    // One for each step that the floor made, however many a machine that is busy lets it make.
    let step = |frame: &[u8]| f64::from_le_bytes(frame[8..16].try_into().unwrap()) as u64;
    let steps = step(frames.last().unwrap()) - step(&frames[0]);
    assert!((steps..=steps + 120).contains(&sent) && sent > 400, "{sent} in {steps} steps");
    assert!(lost * 100 <= sent, "{lost} of {sent} were lost");
    // Each frame that a page was given lies among what was told, within what the protocol can say.
    for frame in frames.iter().skip(10) {
        let pose = |at: usize| f64::from_le_bytes(frame[at..at + 8].try_into().unwrap());
        let [x, y, z] = [64, 72, 80].map(pose);
        let near = samples.iter().map(|s| {
            let d = s.pose.position;
            (d.x - x).abs().max((d.y - y).abs()).max((d.z - z).abs())
        });
        let within = if protocol == Protocol::FreeD { 0.51 / 64_000.0 } else { 1e-9 };
        let off = near.fold(f64::INFINITY, f64::min);
        assert!(off <= within || lost > 0, "{off} m");
    }
    assert_eq!(frames[0][1], wire::VERSION);
    runner.close();
}

#[test]
fn the_camera_on_the_floor_is_heard_as_opentrackio() {
    told(Protocol::OpenTrackIo);
}

#[test]
fn the_camera_on_the_floor_is_heard_as_freed() {
    told(Protocol::FreeD);
}
