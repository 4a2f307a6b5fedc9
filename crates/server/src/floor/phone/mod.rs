//! A phone as a tracked device, or as hands on one of the wheels: one page on a door of its own, which is
//! shut until the operator opens it, and a code that the operator's page shows. Nothing else is to be had
//! there.
//!
//! Browsers give motion sensors only to pages that came over TLS; the door can have it, with the
//! user's own certificate or with one that is made once and kept in the data folder.

mod hands;
mod tries;

use crate::http::guard;
use crate::lock::lock;
use hands::Hands;
use rand::Rng;
use rocket::config::{LogLevel, TlsConfig};
use rocket::fairing::AdHoc;
use rocket::futures::{SinkExt, StreamExt};
use rocket::http::{ContentType, Status};
use rocket::tokio::select;
use rocket::tokio::sync::watch;
use rocket::{Shutdown, State, get, routes};
use rocket_ws::{Channel, Config, Message as Packet, WebSocket};
use rovnek_formats::tracking::phone::{Carried, PhoneState};
use rovnek_live::command::Status as LiveStatus;
use rovnek_live::listen::Account;
use rovnek_live::runner::{Message, Packed};
use serde::{Deserialize, Serialize};
use std::fs::OpenOptions;
use std::io::Write;
use std::net::{IpAddr, Ipv4Addr, SocketAddr, TcpListener, UdpSocket};
use std::path::{Path, PathBuf};
use std::sync::atomic::AtomicU32;
use std::sync::mpsc::Sender;
use std::sync::{Arc, Mutex};
use std::time::Instant;
use tries::Tries;
use ts_rs::TS;

/// Request of the operator for the phone's door.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct PhoneRequest {
    /// True to open the door.
    pub on: bool,
    /// With TLS, so that the phone's sensors can be felt.
    pub tls: bool,
    /// Its port; 0 for any that is free.
    pub port: u16,
}

/// The door as it is.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct PhoneView {
    /// Request that is in force.
    pub wanted: PhoneRequest,
    /// Address to type into the phone; none while the door is shut.
    pub address: Option<String>,
    /// Code to type into the phone; none while the door is shut.
    pub code: Option<String>,
}

/// The port that is tried first.
const PORT: u16 = 4781;
/// How a phone is called among the sources.
const NAME: &str = "phone 1";

struct Open {
    wanted: PhoneRequest,
    address: String,
    code: String,
    stop: Shutdown,
}

/// Door for phones.
pub struct Phone {
    folder: PathBuf,
    account: Arc<Account>,
    floor: Floor,
    open: Mutex<Option<Open>>,
    last: Mutex<PhoneRequest>,
}

/// The floor, as phones have it.
#[derive(Clone)]
pub struct Floor {
    /// Messages to the floor.
    pub messages: Sender<Message>,
    /// Status of the floor.
    pub status: watch::Receiver<Arc<LiveStatus>>,
    /// The number of the next page that opens.
    pub pages: Arc<AtomicU32>,
}

/// State behind the door.
struct Behind {
    code: String,
    tries: Mutex<Tries>,
    account: Arc<Account>,
    floor: Floor,
}

impl Phone {
    /// Shut. A certificate that is made is kept in `folder`.
    pub fn new(folder: &Path, account: Arc<Account>, floor: Floor) -> Phone {
        let last = Mutex::new(PhoneRequest { on: false, tls: true, port: PORT });
        Phone { folder: folder.into(), account, floor, open: Mutex::default(), last }
    }

    /// State of the door.
    pub fn view(&self) -> PhoneView {
        let open = lock(&self.open);
        PhoneView {
            wanted: open.as_ref().map_or_else(|| lock(&self.last).clone(), |o| o.wanted.clone()),
            address: open.as_ref().map(|o| o.address.clone()),
            code: open.as_ref().map(|o| o.code.clone()),
        }
    }

    /// Shuts the door, and opens it anew where that is wanted, with a new code.
    pub async fn set(&self, wanted: PhoneRequest) -> Result<(), String> {
        let old = lock(&self.open).take();
        if let Some(old) = old {
            old.stop.notify();
        }
        *lock(&self.last) = wanted.clone();
        if !wanted.on {
            return Ok(());
        }
        let opened = self.opened(wanted).await;
        if opened.is_err() {
            lock(&self.last).on = false;
        }
        opened
    }

    async fn opened(&self, wanted: PhoneRequest) -> Result<(), String> {
        let port = free(wanted.port).map_err(|e| {
            format!("the phone's door cannot be opened at port {}: {e}; give another port", wanted.port)
        })?;
        let tls_used = wanted.tls;
        let tls = if wanted.tls { Some(certificate(&self.folder)?) } else { None };
        let code = format!("{:06}", rand::rng().random_range(0..1_000_000));
        let config = rocket::Config {
            address: IpAddr::V4(Ipv4Addr::UNSPECIFIED),
            port,
            tls,
            log_level: LogLevel::Off,
            cli_colors: false,
            workers: 1,
            shutdown: rocket::config::Shutdown {
                ctrlc: false,
                signals: Default::default(),
                ..Default::default()
            },
            ..rocket::Config::release_default()
        };
        let behind = Behind {
            code: code.clone(),
            tries: Mutex::default(),
            account: self.account.clone(),
            floor: self.floor.clone(),
        };
        let (lifted, ready) = rocket::tokio::sync::oneshot::channel();
        let lifted = Mutex::new(Some(lifted));
        let told = AdHoc::on_liftoff("open", move |_| {
            if let Some(lifted) = lock(&lifted).take() {
                let _ = lifted.send(());
            }
            Box::pin(async {})
        });
        let door = rocket::custom(config)
            .manage(behind)
            .attach(guard::Guard)
            .attach(told)
            .mount("/", routes![page, style, script, live])
            .mount("/api", routes![guard::refused])
            .ignite()
            .await
            .map_err(|e| format!("the phone's door cannot be opened: {e}"))?;
        let stop = door.shutdown();
        let launched = rocket::tokio::spawn(async move { door.launch().await.map(drop) });
        // Where it never opens, its end comes instead.
        if ready.await.is_err() {
            let why = match launched.await {
                Ok(Err(error)) => format!("{error}"),
                _ => "it ended at once".into(),
            };
            let own = if tls_used {
                "; is phone-cert.pem in the data folder a certificate, and phone-key.pem its key? Remove both to have new ones made"
            } else {
                ""
            };
            return Err(format!("the phone's door cannot be opened: {why}{own}"));
        }
        let scheme = if wanted.tls { "https" } else { "http" };
        let address = format!("{scheme}://{}:{port}", own_address());
        *lock(&self.open) = Some(Open { wanted, address, code, stop });
        Ok(())
    }
}

/// The port, if nobody has it; any free one for 0.
fn free(port: u16) -> std::io::Result<u16> {
    TcpListener::bind((Ipv4Addr::UNSPECIFIED, port))?.local_addr().map(|a| a.port())
}

/// The address of this machine on the local network, as far as it can be told; nothing is sent.
fn own_address() -> IpAddr {
    let probe = || {
        let socket = UdpSocket::bind((Ipv4Addr::UNSPECIFIED, 0))?;
        socket.connect((Ipv4Addr::new(192, 0, 2, 1), 9))?;
        socket.local_addr()
    };
    probe().map_or(IpAddr::V4(Ipv4Addr::LOCALHOST), |a: std::net::SocketAddr| a.ip())
}

/// The certificate in the data folder: the user's own under these names, or one made now.
fn certificate(folder: &Path) -> Result<TlsConfig, String> {
    let (cert, key) = (folder.join("phone-cert.pem"), folder.join("phone-key.pem"));
    if !cert.exists() || !key.exists() {
        let names = vec!["localhost".to_string(), own_address().to_string(), "127.0.0.1".into()];
        let made = rcgen::generate_simple_self_signed(names)
            .map_err(|e| format!("no certificate could be made: {e}"))?;
        let told = |path: &Path, e| format!("{} cannot be written: {e}", path.display());
        std::fs::write(&cert, made.cert.pem()).map_err(|e| told(&cert, e))?;
        write_secret(&key, &made.key_pair.serialize_pem()).map_err(|e| told(&key, e))?;
    }
    Ok(TlsConfig::from_paths(cert, key))
}

/// A file that its owner alone can read.
fn write_secret(path: &Path, text: &str) -> std::io::Result<()> {
    let mut options = OpenOptions::new();
    options.write(true).create(true).truncate(true);
    #[cfg(unix)]
    std::os::unix::fs::OpenOptionsExt::mode(&mut options, 0o600);
    options.open(path)?.write_all(text.as_bytes())
}

#[get("/")]
fn page() -> (ContentType, &'static str) {
    (ContentType::HTML, include_str!("page.html"))
}

#[get("/phone.css")]
fn style() -> (ContentType, &'static str) {
    (ContentType::CSS, include_str!("page.css"))
}

#[get("/phone.js")]
fn script() -> (ContentType, &'static str) {
    (ContentType::JavaScript, include_str!("page.js"))
}

#[get("/live?<code>")]
fn live(
    ws: WebSocket,
    code: &str,
    from: SocketAddr,
    behind: &State<Behind>,
    mut closing: Shutdown,
) -> Result<Channel<'static>, Status> {
    if !lock(&behind.tries).may(from.ip(), code == behind.code, Instant::now()) {
        return Err(Status::Forbidden);
    }
    let (account, floor) = (behind.account.clone(), behind.floor.clone());
    let config =
        Config { max_message_size: Some(1 << 10), max_frame_size: Some(1 << 10), ..Config::default() };
    Ok(ws.config(config).channel(move |mut stream| {
        Box::pin(async move {
            let (mut carried, mut heard) = (Carried::default(), Instant::now());
            let mut hands = Hands::of(floor.clone());
            let mut status = floor.status.clone();
            loop {
                let came = select! {
                    _ = &mut closing => return Ok(()),
                    _ = status.changed() => {
                        let told = hands.told(&status.borrow_and_update());
                        if let Some(told) = told {
                            stream.send(Packet::Text(told)).await?;
                        }
                        continue;
                    }
                    came = stream.next() => came,
                };
                let Some(Ok(packet)) = came else { return Ok(()) };
                let Packet::Text(text) = packet else { continue };
                let elapsed_s = heard.elapsed().as_secs_f64();
                heard = Instant::now();
                let Ok(held) = PhoneState::read(text.as_bytes()) else { continue };
                if hands.drive(&held) {
                    continue;
                }
                let sample = carried.moved(&held, elapsed_s);
                let now_s = account.now_s();
                lock(&account.devices).account(NAME, "a phone", &sample, now_s);
                let packed = Packed {
                    source: Some(NAME.into()),
                    sample: Some(sample),
                    port: 0,
                    data: text.into_bytes(),
                    arrived: Instant::now(),
                };
                if floor.messages.send(Message::Tracked(Box::new(packed))).is_err() {
                    return Ok(());
                }
            }
        })
    }))
}
