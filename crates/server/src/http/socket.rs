//! A page's socket. Out: state frames (binary, [`rovnek_live::wire`]), the floor's status and the
//! document's revision (JSON). In: commands (JSON).

use crate::app::App;
use crate::document::snapshot::Changed;
use crate::jobs::JobView;
use rocket::futures::{SinkExt, StreamExt};
use rocket::tokio::select;
use rocket::tokio::time::timeout;
use rocket::{Shutdown, State, get};
use rocket_ws::{Channel, Config, Message as Packet, WebSocket};
use rovnek_live::command::{PageCommand, Status};
use rovnek_live::runner::Message;
use serde::Serialize;
use std::time::Duration;
use ts_rs::TS;

/// Text messages to a page.
#[derive(Serialize, TS)]
#[serde(rename_all = "snake_case", tag = "tell")]
pub enum Tell<'a> {
    /// First of all: which page this is.
    You {
        /// Number of the page.
        page: u32,
    },
    /// The floor's status, whenever it changes.
    Status {
        /// Status of the floor.
        status: &'a Status,
    },
    /// What has changed in the document since the page was told last; first of all nothing, with
    /// the revision that is current.
    Changed {
        /// Changes of the document.
        changed: Box<Changed>,
    },
    /// Long work, whenever one comes, goes on or ends.
    Jobs {
        /// List of all jobs.
        jobs: &'a [JobView],
    },
    /// Receiver of live out, whenever it changes.
    LiveOut {
        /// Line that names the receiver; empty for none.
        line: &'a str,
    },
    /// A command could not be read.
    Refused {
        /// Sentence that says the reason.
        sentence: String,
    },
}

impl Tell<'_> {
    fn packet(&self) -> Packet {
        Packet::Text(serde_json::to_string(self).expect("plain data"))
    }
}

/// Longest time in which a page may take nothing of what is sent.
const TAKES: Duration = Duration::from_secs(20);
/// Largest message a page may send.
const LARGEST: usize = 16 << 10;

/// WebSocket of a page.
#[get("/live")]
pub fn live(ws: WebSocket, app: &State<std::sync::Arc<App>>, mut closing: Shutdown) -> Channel<'static> {
    let app = app.inner().clone();
    let config =
        Config { max_message_size: Some(LARGEST), max_frame_size: Some(LARGEST), ..Config::default() };
    ws.config(config).channel(move |mut stream| {
        Box::pin(async move {
            let page = app.new_page();
            let floor = &app.floor.messages;
            let _ = floor.send(Message::Join(page));
            let (mut frames, mut statuses, mut changes, mut jobs) =
                (app.floor.frames.clone(), app.floor.status.clone(), app.changes(), app.jobs.changes());
            // What is there already counts as news to a new page.
            statuses.mark_changed();
            changes.mark_changed();
            jobs.mark_changed();
            let mut out_line = app.live_out.line();
            out_line.mark_changed();
            let mut told = app.current();
            let mut sent = stream.send(Tell::You { page }.packet()).await;
            while sent.is_ok() {
                let out = select! {
                    _ = &mut closing => break,
                    came = stream.next() => match came {
                        Some(Ok(Packet::Text(text))) => match PageCommand::read(&text) {
                            Ok(asked) => {
                                let _ = floor.send(Message::Command(page, asked));
                                continue;
                            }
                            Err(sentence) => Tell::Refused { sentence }.packet(),
                        },
                        Some(Ok(Packet::Ping(data))) => Packet::Pong(data),
                        Some(Ok(Packet::Close(_)) | Err(_)) | None => break,
                        Some(Ok(_)) => continue,
                    },
                    Ok(()) = frames.changed() => Packet::Binary(frames.borrow_and_update().to_vec()),
                    Ok(()) = statuses.changed() => {
                        let status = statuses.borrow_and_update().clone();
                        Tell::Status { status: &status }.packet()
                    }
                    Ok(()) = jobs.changed() => {
                        let all = jobs.borrow_and_update().clone();
                        Tell::Jobs { jobs: &all }.packet()
                    }
                    Ok(()) = out_line.changed() => {
                        let line = out_line.borrow_and_update().clone();
                        Tell::LiveOut { line: &line }.packet()
                    }
                    Ok(()) = changes.changed() => {
                        let now = changes.borrow_and_update().clone();
                        let changed = Box::new(Changed::between(&told, &now));
                        told = now;
                        Tell::Changed { changed }.packet()
                    }
                };
                // A page that takes nothing any more is gone, though its connection does not say so.
                let Ok(now) = timeout(TAKES, stream.send(out)).await else { break };
                sent = now;
            }
            let _ = floor.send(Message::Leave(page));
            Ok(())
        })
    })
}
