//! How evenly the camera is told to other software: minutes of it at 60 and at 240 a second, both at once,
//! under hands that swing a crane, heard by our own listener on loopback.
//!
//! `cargo bench -p rovnek-live --bench live_out -- MINUTES`

use rovnek_core::ids::SetupId;
use rovnek_core::lens::Camera;
use rovnek_core::rigs::{RigSpec, TelescopicCrane};
use rovnek_core::time::{Rate, Timebase};
use rovnek_formats::tracking::Protocol;
use rovnek_live::command::{Command, PageCommand};
use rovnek_live::floor::{Placed, Staged};
use rovnek_live::listen::{Account, Listener};
use rovnek_live::live_out::{LiveOut, Manner};
use rovnek_live::runner::{Message, Runner};
use std::net::Ipv4Addr;
use std::sync::Arc;
use std::sync::mpsc::channel;
use std::time::{Duration, Instant};

fn crane() -> Staged {
    let placed = Placed {
        setup_id: SetupId(1),
        camera: Camera::default(),
        rig: RigSpec::TelescopicCrane(TelescopicCrane::default()).into(),
        positions: Vec::new(),
        keyed: Default::default(),
        target: None,
        carrier: None,
        tracking: Default::default(),
        walls: Default::default(),
    };
    Staged {
        setups: vec![placed],
        scene_length_s: 20.0,
        timebase: Timebase { rate: Rate::FILM, start_frame: 0 },
        people: Default::default(),
        cast: Default::default(),
        obstacles: Default::default(),
    }
}

fn told(protocol: Protocol, rate_hz: u32, minutes: f64) -> String {
    let (notes, _keeps) = channel();
    let runner = Runner::start(crane(), SetupId(1), notes);
    let (heard, inbox) = channel();
    let account: Arc<Account> = Arc::default();
    let any = (Ipv4Addr::LOCALHOST, 0).into();
    let listener = Listener::open(protocol, any, account.clone(), heard).expect("a port");
    let manner = Manner { protocol, number: 1, rate_hz };
    let (out, due) = LiveOut::begin(manner, listener.address).expect("a socket");
    let _ = runner.messages.send(Message::Join(1));
    let _ = runner.messages.send(Message::LiveOut(Some(due)));
    let (began, mut arrived) = (Instant::now(), Vec::new());
    while began.elapsed().as_secs_f64() < minutes * 60.0 {
        let way = if began.elapsed().as_secs() % 8 < 4 { 0.7 } else { -0.7 };
        let command = Command::Drive { rates: vec![way, way / 3.0], nudges: vec![], fine: false };
        let _ = runner.messages.send(Message::Command(1, PageCommand { setup: Some(SetupId(1)), command }));
        std::thread::sleep(Duration::from_millis(50));
        arrived.extend(inbox.try_iter().filter_map(|m| match m {
            Message::Tracked(packed) => packed.sample.map(|_| packed.arrived),
            _ => None,
        }));
    }
    let _ = runner.messages.send(Message::LiveOut(None));
    let (sent, dropped) = out.finish();
    let lost = account.devices.lock().expect("no panic").statuses(account.now_s()).0[0].lost;
    runner.close();
    let mut apart: Vec<f64> = arrived.windows(2).map(|w| (w[1] - w[0]).as_secs_f64() * 1000.0).collect();
    apart.sort_by(f64::total_cmp);
    let at = |share: f64| apart[((apart.len() - 1) as f64 * share) as usize];
    format!(
        "{protocol} at {rate_hz}: {sent} sent, {dropped} left out, {} heard, {lost} lost by their numbers; apart \
         {:.2} ms median, {:.2} to {:.2} (1 to 99 %), {:.1} most",
        arrived.len(),
        at(0.5),
        at(0.01),
        at(0.99),
        at(1.0)
    )
}

fn main() {
    let minutes = std::env::args().filter_map(|a| a.parse().ok()).next_back().unwrap_or(0.2);
    let tell = |protocol, rate_hz| std::thread::spawn(move || told(protocol, rate_hz, minutes));
    for thread in [tell(Protocol::OpenTrackIo, 60), tell(Protocol::OpenTrackIo, 240)] {
        println!("{}", thread.join().expect("no panic"));
    }
}
