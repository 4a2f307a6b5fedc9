//! Starting and stopping: store, recorder, floor, then HTTP; and back in the other order.

use crate::api;
use crate::app::App;
use crate::document::gate::Gate;
use crate::document::opening::{Ready, now_ms};
use crate::document::snapshot::Snapshot;
use crate::document::turning::setup_of;
use crate::floor::drives;
use crate::floor::recorder;
use crate::http::guard;
use crate::http::meant;
use crate::http::packed;
use crate::http::page;
use crate::http::problem;
use crate::http::problem::Problem;
use crate::http::socket;
use rocket::config::LogLevel;
use rocket::data::{Limits, ToByteUnit};
use rocket::fairing::AdHoc;
use rocket::{Build, Rocket, catchers, routes};
use rovnek_core::ids::SetupId;
use rovnek_live::runner::{Message, Runner};
use rovnek_store::shelf::Shelf;
use std::io::Write;
use std::net::{IpAddr, Ipv4Addr, Ipv6Addr, SocketAddr, TcpListener};
use std::path::Path;
use std::sync::Arc;
use std::sync::mpsc::channel;
use std::thread::JoinHandle;

/// Address and port to listen on.
#[derive(Clone, Copy, Debug)]
pub struct Address {
    /// Loopback unless told otherwise.
    pub bind: IpAddr,
    /// Rovnek's own unless told otherwise.
    pub port: u16,
}

/// Opens the data folder: the production that was open last. Where that cannot be opened, or there is none, no
/// production is open, and the shelf says why.
pub fn open(folder: &Path) -> Result<(Shelf, Ready), String> {
    let shelf = Shelf::open(folder).map_err(|e| e.to_string())?;
    let last = shelf.last().map_err(|e| e.to_string())?;
    let ready = last.and_then(|id| match Ready::of(&shelf, &id, now_ms()) {
        Ok(ready) => Some(ready),
        Err(sentence) => {
            eprintln!("rovnek: {sentence}; begin with another production on the shelf");
            None
        }
    });
    let ready = ready.map_or_else(|| Ready::nothing(&shelf), Ok)?;
    Ok((shelf, ready))
}

/// The application around a production, and the recorder to wait for at the end.
pub fn assemble(shelf: Shelf, ready: Ready) -> Result<(Arc<App>, JoinHandle<()>), String> {
    let Ready { opened, mut store, document, revision, staged } = ready;
    let last = store.remembered(&setup_of(document.scene.id)).and_then(|s| s.parse().ok()).unwrap_or(0);
    if !opened.id.is_empty() {
        shelf.opened(&opened.id, &mut store).map_err(|e| e.to_string())?;
    }
    let gate = Arc::new(Gate::new(store));
    let (notes, inbox) = channel();
    let floor = Runner::start(staged, SetupId(last), notes);
    let (changed, changes) = channel();
    let tell = move |drive_over: bool| {
        let _ = changed.send(drive_over);
    };
    let (recorder, recording) = recorder::start(gate.clone(), inbox, floor.messages.clone(), tell);
    let first = Snapshot::first(document, Arc::new(opened), revision);
    let (to_stage, unstaged) = channel();
    let app = Arc::new(App::new(shelf, gate, floor, recording, first, to_stage));
    app.check_pages();
    // What a process that died had recorded of a performance becomes a path of it now.
    let unkept = |e: Problem| eprintln!("rovnek: what was driven is kept but is no path yet: {}", e.sentence);
    drives::keep(&app).unwrap_or_else(unkept);
    let weak = Arc::downgrade(&app);
    std::thread::Builder::new()
        .name("tells".into())
        .spawn(move || {
            for drive_over in changes {
                let Some(app) = weak.upgrade() else { return };
                if let Err(e) = app.changed() {
                    eprintln!("rovnek: the document could not be read: {}", e.sentence);
                }
                if drive_over {
                    drives::keep(&app).unwrap_or_else(unkept);
                }
            }
        })
        .expect("a thread can be started");
    // Once more, with the takes that carry machines.
    app.stage().map_err(|e| e.sentence)?;
    let weak = Arc::downgrade(&app);
    let stages = move || {
        for () in unstaged.iter() {
            // Many edits in a row are staged together.
            while unstaged.try_recv().is_ok() {}
            let Some(app) = weak.upgrade() else { return };
            if let Err(e) = app.stage() {
                eprintln!("rovnek: what was edited could not be put onto the floor: {}", e.sentence);
            }
        }
    };
    std::thread::Builder::new().name("stages".into()).spawn(stages).expect("a thread can be started");
    Ok((app, recorder))
}

/// Rocket with all routes.
pub fn rocket(app: Arc<App>, address: Address) -> Rocket<Build> {
    let config = rocket::Config {
        address: address.bind,
        port: address.port,
        log_level: LogLevel::Off,
        cli_colors: false,
        workers: 4,
        // As many keys as an axis may have, several times over.
        limits: Limits::default().limit("json", 8.mebibytes()),
        ..rocket::Config::release_default()
    };
    rocket::custom(config)
        .manage(app)
        .attach(meant::StayGuard)
        .attach(guard::Guard)
        .attach(packed::Packed)
        .mount("/", routes![page::index, page::file])
        .mount("/api", api::routes())
        .mount("/api", routes![socket::live, guard::refused, meant::elsewhere])
        .register("/", catchers![problem::refused])
}

/// State of the scene's time when the process starts.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Opens {
    /// Its performance runs, so that something moves at once.
    Playing,
    /// It stands at its beginning.
    Paused,
}

/// Serves until told to stop.
pub fn run(
    (shelf, ready): (Shelf, Ready),
    address: Address,
    opens: Opens,
    words: String,
) -> Result<(), String> {
    // Rocket says little about a port that is taken; asking for it first says it plainly.
    TcpListener::bind((address.bind, address.port)).map_err(|e| {
        format!("cannot listen on {}:{}: {e}; give another --port", address.bind, address.port)
    })?;
    let (app, recorder) = assemble(shelf, ready)?;
    if opens == Opens::Playing {
        let _ = app.floor.messages.send(Message::Run(true));
    }
    let ready = AdHoc::on_liftoff("ready", move |rocket| {
        Box::pin(async move {
            let config = rocket.config();
            println!("Rovnek is ready at http://{}  {words}", here(config.address, config.port));
            if !config.address.is_loopback() {
                println!(
                    "Whoever reaches this machine at port {} can look, drive and change everything.",
                    config.port
                );
            }
        })
    });
    let closing = AdHoc::on_shutdown("closing", |rocket| {
        Box::pin(async move {
            // What rolls is cut now, and not when the last socket is done.
            if let Some(app) = rocket.state::<Arc<App>>() {
                app.wait(|app| app.floor.close()).await;
            }
            let _ = writeln!(std::io::stdout(), "Rovnek closes; what rolled was cut and is kept.");
        })
    });
    let server = rocket(app.clone(), address).attach(ready).attach(closing);
    let outcome = rocket::execute(server.launch()).map(drop).map_err(|e| format!("the server stopped: {e}"));
    // The floor sends its last notes before the recorder sees the end of them.
    app.floor.close();
    let _ = recorder.join();
    outcome
}

/// Address for a browser on this machine.
fn here(address: IpAddr, port: u16) -> SocketAddr {
    let own = match address {
        IpAddr::V4(any) if any.is_unspecified() => Ipv4Addr::LOCALHOST.into(),
        IpAddr::V6(any) if any.is_unspecified() => Ipv6Addr::LOCALHOST.into(),
        named => named,
    };
    SocketAddr::new(own, port)
}

#[cfg(test)]
mod tests {
    use super::here;

    #[test]
    fn an_address_is_printed_as_a_browser_takes_it() {
        for (bound, typed) in [
            ("127.0.0.1", "127.0.0.1:4780"),
            ("0.0.0.0", "127.0.0.1:4780"),
            ("::", "[::1]:4780"),
            ("::1", "[::1]:4780"),
            ("192.168.1.7", "192.168.1.7:4780"),
            ("fd00::7", "[fd00::7]:4780"),
        ] {
            assert_eq!(here(bound.parse().unwrap(), 4780).to_string(), typed);
        }
    }
}
