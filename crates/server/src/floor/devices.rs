//! Sockets that listen for tracked devices, and the stand-in that may be started instead of a device.

use crate::http::problem::{Outcome, Problem};
use crate::lock::lock;
use rovnek_formats::tracking::Protocol;
use rovnek_live::device_simulator::{Manner, Motion, StandIn};
use rovnek_live::devices::SourceStatus;
use rovnek_live::listen::{Account, Listener};
use rovnek_live::live_out::socket_to;
use rovnek_live::runner::Message;
use rovnek_store::Store;
use serde::{Deserialize, Serialize};
use std::net::{IpAddr, Ipv4Addr, SocketAddr};
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::mpsc::Sender;
use std::sync::{Arc, Mutex};
use std::time::{Duration, Instant};
use ts_rs::TS;

/// A socket, as it is asked for.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
pub struct Socket {
    /// Protocol of the packets.
    pub protocol: Protocol,
    /// Loopback, unless devices on the network are to get in.
    #[ts(type = "string")]
    pub address: IpAddr,
    /// 0 for any that is free.
    pub port: u16,
    /// True to listen on the socket.
    pub on: bool,
}

/// A socket as it is.
#[derive(Clone, Debug, Serialize, TS)]
pub struct SocketView {
    /// Socket that was asked for.
    #[serde(flatten)]
    pub socket: Socket,
    /// UDP port that the socket has.
    pub open: Option<u16>,
    /// Why it does not listen.
    pub error: Option<String>,
}

/// Everything about devices.
#[derive(Clone, Debug, Serialize, TS)]
pub struct DevicesView {
    /// Sockets that are listened on.
    pub sockets: Vec<SocketView>,
    /// Devices that are heard.
    pub sources: Vec<SourceStatus>,
    /// Senders that cannot be understood, and why.
    pub strangers: Vec<(String, String)>,
    /// The stand-in that runs.
    pub stand_in: Option<SimulatorRequest>,
}

/// A stand-in to start.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct SimulatorRequest {
    /// Protocol of the packets.
    pub protocol: Protocol,
    /// "shoulder", "sweep" or "still".
    pub motion: String,
    /// 1 is an ordinary hand.
    pub tremor: f64,
    /// Share of packets that are lost, 0 to 1.
    pub lost: f64,
}

struct Running {
    wanted: SimulatorRequest,
    stop: Arc<AtomicBool>,
}

/// Sockets, who is heard, and the stand-in.
pub struct Devices {
    account: Arc<Account>,
    floor: Sender<Message>,
    sockets: Mutex<Vec<(Socket, Result<Listener, String>)>>,
    running: Mutex<Option<Running>>,
    /// Held by whoever opens or closes sockets, or starts or stops a stand-in: what is kept is what is open.
    changing: Mutex<()>,
}

/// The ports that are offered first: as good as any (from memory of what is usual).
fn usual() -> Vec<Socket> {
    let socket = |protocol, port| Socket { protocol, address: Ipv4Addr::LOCALHOST.into(), port, on: false };
    vec![socket(Protocol::OpenTrackIo, 55_555), socket(Protocol::FreeD, 40_000)]
}

/// The key under which the store remembers the sockets.
pub const REMEMBERED: &str = "devices";

impl Devices {
    /// Opens the sockets that the last run had.
    pub fn open(store: &Store, floor: Sender<Message>) -> Devices {
        let kept = store.remembered(REMEMBERED).and_then(|json| serde_json::from_str(&json).ok());
        let devices = Devices {
            account: Arc::default(),
            floor,
            sockets: Mutex::default(),
            running: Mutex::default(),
            changing: Mutex::default(),
        };
        devices.listen(kept.unwrap_or_else(usual));
        devices
    }

    /// The account that phones and sockets keep together.
    pub fn account(&self) -> &Arc<Account> {
        &self.account
    }

    /// Listens at these sockets and at no others.
    fn listen(&self, wanted: Vec<Socket>) {
        let mut sockets = lock(&self.sockets);
        let mut old = std::mem::take(&mut *sockets);
        // What is to close closes before what is to open, which may want the same port.
        old.retain(|(socket, listener)| listener.is_ok() && wanted.contains(socket));
        for socket in wanted {
            let known = old.iter().position(|(old, _)| *old == socket);
            let listener = match known {
                Some(i) => old.remove(i).1,
                None if !socket.on => Err(String::new()),
                None => self.bind(&socket),
            };
            sockets.push((socket, listener));
        }
    }

    fn bind(&self, socket: &Socket) -> Result<Listener, String> {
        let at = SocketAddr::new(socket.address, socket.port);
        Listener::open(socket.protocol, at, self.account.clone(), self.floor.clone())
            .map_err(|e| format!("cannot listen on {at}: {e}; give another port"))
    }

    /// Listens at other sockets from now on, and after a restart: `keep` keeps them.
    pub fn set(&self, wanted: Vec<Socket>, keep: impl FnOnce(&str) -> Outcome<()>) -> Outcome<()> {
        let _changing = lock(&self.changing);
        self.change(wanted, keep)
    }

    fn change(&self, wanted: Vec<Socket>, keep: impl FnOnce(&str) -> Outcome<()>) -> Outcome<()> {
        keep(&serde_json::to_string(&wanted).expect("plain data"))?;
        self.listen(wanted);
        lock(&self.account.devices).tidy(self.account.now_s());
        Ok(())
    }

    /// State of sockets, devices and stand-in.
    pub fn view(&self) -> DevicesView {
        let socket = |(socket, listener): &(Socket, Result<Listener, String>)| SocketView {
            socket: socket.clone(),
            open: listener.as_ref().ok().map(|l| l.address.port()),
            error: listener.as_ref().err().filter(|e| !e.is_empty()).cloned(),
        };
        let sockets = lock(&self.sockets).iter().map(socket).collect();
        let (sources, strangers) = lock(&self.account.devices).statuses(self.account.now_s());
        let stand_in = lock(&self.running).as_ref().map(|r| r.wanted.clone());
        DevicesView { sockets, sources, strangers, stand_in }
    }

    /// Starts a stand-in, or stops the one that runs. The socket that the stand-in sends to is opened for it,
    /// and kept by `keep`.
    pub fn stand_in(
        &self,
        wanted: Option<SimulatorRequest>,
        keep: impl FnOnce(&str) -> Outcome<()>,
    ) -> Outcome<()> {
        let _changing = lock(&self.changing);
        let Some(wanted) = wanted else {
            self.silence();
            return Ok(());
        };
        // A request that is refused leaves sockets and stand-in as they are.
        let motion = Motion::named(&wanted.motion).ok_or_else(|| {
            Problem::refused(format!("\"{}\" is no motion; give shoulder, sweep or still", wanted.motion))
        })?;
        if !(0.0..=1.0).contains(&wanted.lost) || !(0.0..=20.0).contains(&wanted.tremor) {
            return Err(Problem::refused("give a tremor of 0 to 20, and a loss of 0 to 1"));
        }
        let mut all: Vec<Socket> = lock(&self.sockets).iter().map(|(s, _)| s.clone()).collect();
        let of = |s: &&mut Socket| s.protocol == wanted.protocol;
        if let Some(socket) = all.iter_mut().find(of).filter(|s| !s.on) {
            socket.on = true;
            self.change(all, keep)?;
        }
        let open = self.view().sockets.into_iter().find(|s| s.socket.protocol == wanted.protocol);
        let port = match open {
            Some(SocketView { open: Some(port), .. }) => port,
            Some(SocketView { error: Some(error), .. }) => return Err(Problem::refused(error)),
            _ => return Err(Problem::refused("nothing listens for this protocol; add a socket first")),
        };
        let manner = Manner { tremor: wanted.tremor, lost: wanted.lost, ..Manner::default() };
        let device =
            StandIn { protocol: wanted.protocol, number: 1, rate_hz: 120, segment: 1200, motion, manner };
        self.silence();
        let stop = Arc::new(AtomicBool::new(false));
        let mut sending = device.begin();
        let ended = stop.clone();
        let packets = std::iter::from_fn(move || Some(sending.next_packet()));
        std::thread::Builder::new()
            .name("stand-in".into())
            .spawn(move || send(packets, (Ipv4Addr::LOCALHOST, port).into(), &ended))
            .map_err(|e| Problem::refused(format!("the stand-in could not be started: {e}")))?;
        *lock(&self.running) = Some(Running { wanted, stop });
        Ok(())
    }

    /// Stops the stand-in, if one runs.
    fn silence(&self) {
        if let Some(old) = lock(&self.running).take() {
            old.stop.store(true, Ordering::Relaxed);
        }
    }
}

impl Drop for Devices {
    fn drop(&mut self) {
        self.silence();
    }
}

/// Sends packets at their times, from now on, until told to stop or there are no more. How many.
pub fn send(
    packets: impl Iterator<Item = (f64, Vec<u8>)>,
    to: SocketAddr,
    stop: &AtomicBool,
) -> Result<u64, String> {
    let socket = socket_to(to).map_err(|e| format!("no socket to send from: {e}"))?;
    let began = Instant::now();
    let mut sent = 0;
    for (time_s, data) in packets {
        let due = Duration::from_secs_f64(time_s.max(0.0));
        while !stop.load(Ordering::Relaxed)
            && let Some(left) = due.checked_sub(began.elapsed())
            && !left.is_zero()
        {
            std::thread::sleep(left.min(Duration::from_millis(50)));
        }
        if stop.load(Ordering::Relaxed) {
            break;
        }
        // Nobody need be listening yet: on loopback that comes back as a refusal.
        if socket.send_to(&data, to).is_ok() {
            sent += 1;
        }
    }
    Ok(sent)
}
