//! Telling the camera to other software: of the floor as it is driven, or of a move over and over.

use crate::floor::devices::send;
use crate::lock::lock;
use rovnek_core::follow::CameraTarget;
use rovnek_core::ids::MoveId;
use rovnek_core::lens::Camera;
use rovnek_formats::tracking::Protocol;
use rovnek_live::live_out::{LiveOut, Manner, Seen};
use rovnek_live::runner::Message;
use serde::{Deserialize, Serialize};
use std::net::{IpAddr, Ipv4Addr, SocketAddr};
use std::sync::atomic::{AtomicBool, AtomicU64, Ordering};
use std::sync::mpsc::Sender;
use std::sync::{Arc, Mutex};
use tokio::sync::watch;
use ts_rs::TS;

/// The floor's steps a second are the most.
const MOST_HZ: u32 = 240;

/// Request for live out: camera, protocol, receiver.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct LiveOutRequest {
    /// True to send.
    pub on: bool,
    /// Protocol of the packets.
    pub protocol: Protocol,
    /// IP address of the receiver.
    #[ts(type = "string")]
    pub address: IpAddr,
    /// UDP port of the receiver.
    pub port: u16,
    /// The camera's number there.
    pub number: u8,
    /// Samples a second.
    pub rate_hz: u32,
    /// A move that is told over and over; none for the camera on the floor.
    pub move_id: Option<MoveId>,
}

/// State of live out.
#[derive(Clone, Debug, Serialize, TS)]
pub struct LiveOutView {
    /// Request that is in force.
    #[serde(flatten)]
    pub wanted: LiveOutRequest,
    /// Samples that went out.
    #[ts(type = "number")]
    pub sent: u64,
    /// Samples that waited too long and were left out.
    #[ts(type = "number")]
    pub dropped: u64,
    /// Why nothing is told.
    pub error: Option<String>,
}

/// A move's camera, and where it goes.
pub type Course = (Camera, Arc<CameraTarget>);

/// Sender of packets.
enum Telling {
    Floor(LiveOut),
    Move { stop: Arc<AtomicBool>, sent: Arc<AtomicU64> },
}

impl Drop for Telling {
    fn drop(&mut self) {
        if let Telling::Move { stop, .. } = self {
            stop.store(true, Ordering::Relaxed);
        }
    }
}

/// The one that tells.
pub struct Out {
    floor: Sender<Message>,
    state: Mutex<State>,
    /// Line for every page that names the receiver; empty while nothing is sent.
    line: watch::Sender<String>,
}

struct State {
    wanted: LiveOutRequest,
    telling: Option<Telling>,
    error: Option<String>,
}

impl Out {
    /// Live out that sends nothing.
    pub fn new(floor: Sender<Message>) -> Out {
        let wanted = LiveOutRequest {
            on: false,
            protocol: Protocol::OpenTrackIo,
            address: Ipv4Addr::LOCALHOST.into(),
            // Not that of our own listener: a camera that hears itself follows itself.
            port: 55_556,
            number: 1,
            rate_hz: 60,
            move_id: None,
        };
        Out {
            floor,
            state: Mutex::new(State { wanted, telling: None, error: None }),
            line: watch::channel(String::new()).0,
        }
    }

    /// State of live out.
    pub fn view(&self) -> LiveOutView {
        let state = lock(&self.state);
        let (sent, dropped) = match &state.telling {
            None => (0, 0),
            Some(Telling::Floor(out)) => out.counts(),
            Some(Telling::Move { sent, .. }) => (sent.load(Ordering::Relaxed), 0),
        };
        LiveOutView { wanted: state.wanted.clone(), sent, dropped, error: state.error.clone() }
    }

    /// Line that names the receiver, whenever it changes.
    pub fn line(&self) -> watch::Receiver<String> {
        self.line.subscribe()
    }

    /// Tells nothing any more: another production comes onto the floor, and nobody has said that those who
    /// listen are to see it.
    pub fn end(&self) {
        let mut state = lock(&self.state);
        let _ = self.floor.send(Message::LiveOut(None));
        (state.telling, state.wanted.on, state.wanted.move_id) = (None, false, None);
        self.line.send_replace(String::new());
    }

    /// Tells otherwise from now on; `course` says where the camera of the move goes that is to be told, none
    /// where the camera on the floor is told.
    pub fn set(&self, wanted: LiveOutRequest, course: Option<Result<Course, String>>) -> Result<(), String> {
        if !(1..=MOST_HZ).contains(&wanted.rate_hz) || wanted.port == 0 {
            return Err(format!("give 1 to {MOST_HZ} samples a second, and a port from 1 on"));
        }
        if wanted.on && is_to_all(wanted.address) {
            return Err(format!(
                "{} is every machine on the network at once; give the address of the one that listens",
                wanted.address
            ));
        }
        let mut state = lock(&self.state);
        let _ = self.floor.send(Message::LiveOut(None));
        (state.telling, state.error) = (None, None);
        self.line.send_replace(String::new());
        state.wanted = wanted.clone();
        if !wanted.on {
            return Ok(());
        }
        let to = SocketAddr::new(wanted.address, wanted.port);
        let manner = Manner { protocol: wanted.protocol, number: wanted.number, rate_hz: wanted.rate_hz };
        let began = match course {
            None => self.of_floor(manner, to),
            Some(course) => course.and_then(|course| of_move(course, manner, to)),
        };
        match began {
            Ok(telling) => {
                state.telling = Some(telling);
                let what = if wanted.move_id.is_some() { "a move" } else { "the camera" };
                self.line.send_replace(format!("{what} goes to {to}"));
            }
            Err(error) => (state.error, state.wanted.on) = (Some(error), false),
        }
        Ok(())
    }

    fn of_floor(&self, manner: Manner, to: SocketAddr) -> Result<Telling, String> {
        let (out, due) = LiveOut::begin(manner, to).map_err(|e| format!("cannot send to {to}: {e}"))?;
        let _ = self.floor.send(Message::LiveOut(Some(due)));
        Ok(Telling::Floor(out))
    }
}

/// True for an address that means all machines, or none.
fn is_to_all(address: IpAddr) -> bool {
    match address {
        IpAddr::V4(a) => a.is_broadcast() || a.is_unspecified(),
        IpAddr::V6(a) => a.is_unspecified(),
    }
}

fn of_move((camera, course): Course, manner: Manner, to: SocketAddr) -> Result<Telling, String> {
    let (stop, sent): (Arc<AtomicBool>, Arc<AtomicU64>) = Default::default();
    let (ended, counted) = (stop.clone(), sent.clone());
    let length_s = course.length_s().max(1.0 / f64::from(manner.rate_hz));
    let packets = (0u64..).flat_map(move |k| {
        let time_s = k as f64 / f64::from(manner.rate_hz);
        let (pose, lens) = course.at(time_s.rem_euclid(length_s));
        let seen = Seen::of(&camera, time_s, pose, lens);
        counted.store(k + 1, Ordering::Relaxed);
        manner.packets(&seen, k as u16).into_iter().map(move |data| (time_s, data))
    });
    std::thread::Builder::new()
        .name("live out".into())
        .spawn(move || send(packets, to, &ended))
        .map_err(|e| format!("nothing can be sent: {e}"))?;
    Ok(Telling::Move { stop, sent })
}
