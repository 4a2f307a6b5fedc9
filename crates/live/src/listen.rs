//! Sockets that tracked devices send to, a thread each.

use crate::devices::Devices;
use crate::runner::{Message, Packed};
use rovnek_formats::tracking::Protocol;
use std::io;
use std::net::{SocketAddr, UdpSocket};
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::mpsc::Sender;
use std::sync::{Arc, Mutex, PoisonError};
use std::thread::JoinHandle;
use std::time::{Duration, Instant};

/// Devices, and when their account began.
pub struct Account {
    /// Devices that are heard.
    pub devices: Mutex<Devices>,
    began: Instant,
}

impl Default for Account {
    fn default() -> Account {
        Account { devices: Mutex::default(), began: Instant::now() }
    }
}

impl Account {
    /// Seconds since the account began.
    pub fn now_s(&self) -> f64 {
        self.began.elapsed().as_secs_f64()
    }
}

/// An open socket; closed when dropped.
pub struct Listener {
    /// Address and port that it listens on.
    pub address: SocketAddr,
    stop: Arc<AtomicBool>,
    thread: Option<JoinHandle<()>>,
}

/// How often a silent socket looks whether it is to close.
const LOOK: Duration = Duration::from_millis(100);

impl Listener {
    /// Opens a socket; what comes goes into the account and to the floor.
    pub fn open(
        protocol: Protocol,
        address: SocketAddr,
        account: Arc<Account>,
        floor: Sender<Message>,
    ) -> io::Result<Listener> {
        let socket = UdpSocket::bind(address)?;
        socket.set_read_timeout(Some(LOOK))?;
        let address = socket.local_addr()?;
        let stop = Arc::new(AtomicBool::new(false));
        let ended = stop.clone();
        let hear = move || {
            let mut buffer = vec![0; 1 << 16];
            while !ended.load(Ordering::Relaxed) {
                let Ok((length, from)) = socket.recv_from(&mut buffer) else { continue };
                let (data, arrived) = (&buffer[..length], Instant::now());
                let now_s = account.now_s();
                let mut devices = account.devices.lock().unwrap_or_else(PoisonError::into_inner);
                let heard = devices.receive(protocol, &from.to_string(), data, now_s);
                drop(devices);
                let (source, sample) = heard.unzip();
                let packed = Packed { source, sample, port: address.port(), data: data.to_vec(), arrived };
                if floor.send(Message::Tracked(Box::new(packed))).is_err() {
                    return;
                }
            }
        };
        let thread = std::thread::Builder::new().name(format!("{protocol}")).spawn(hear)?;
        Ok(Listener { address, stop, thread: Some(thread) })
    }
}

impl Drop for Listener {
    fn drop(&mut self) {
        self.stop.store(true, Ordering::Relaxed);
        if let Some(thread) = self.thread.take() {
            let _ = thread.join();
        }
    }
}
