//! Takes: what was recorded. What is done to it is a move's ([`super::moves`]).

use super::App;
use super::views::ShakeView;
use crate::evaluated::pool::Urgency;
use crate::http::id_of::IdOf;
use crate::http::problem::{Outcome, Problem};
use crate::http::sent::Json;
use rocket::http::{ContentType, Header, Status};
use rocket::{Responder, get, post};
use rovnek_core::ids::TakeId;
use rovnek_formats::tracking::capture;
use rovnek_store::model::{Scene, Take};

#[post("/bin/empty")]
pub async fn empty_bin(app: &App) -> Outcome<Status> {
    app.wait(|app| {
        app.writing(|writing| Ok(writing.store().empty_bin()?))?;
        app.changed()?;
        Ok(Status::NoContent)
    })
    .await
}

/// A file to take away.
#[derive(Responder)]
pub struct Download {
    bytes: Vec<u8>,
    kind: ContentType,
    name: Header<'static>,
}

/// A file named after its scene and what it is.
pub fn named(bytes: Vec<u8>, kind: ContentType, scene: &Scene, title: &str, ending: &str) -> Download {
    let word =
        |text: &str| -> String { text.chars().filter(|c| c.is_ascii_alphanumeric() || *c == '-').collect() };
    let title = word(&title.replace(", ", "-").replace(' ', ""));
    let name = format!("attachment; filename=\"scene{}-{title}{ending}\"", word(&scene.number));
    Download { bytes, kind, name: Header::new("Content-Disposition", name) }
}

/// Packets of the device while the take rolled, as a packet capture.
#[get("/takes/<id>/packets.pcap")]
pub async fn packets(app: &App, id: IdOf<TakeId>) -> Outcome<Download> {
    let IdOf(id) = id;
    app.compute(Urgency::Job, move |app| {
        let document = app.document();
        let (scene, take) = (&document.scene, document.take(id)?);
        let parts = app.read(|reader| reader.packets(id))?;
        if parts.is_empty() {
            return Err(Problem::refused(format!("no device moved the camera of take {}", take.number)));
        }
        let damaged = |e: String| Problem::of(Status::InternalServerError, e);
        let all: Vec<Vec<capture::Packet>> =
            parts.iter().map(|p| capture::read(p)).collect::<Result<_, _>>().map_err(damaged)?;
        let kind = ContentType::new("application", "vnd.tcpdump.pcap");
        let title = format!("take {}", take.number);
        Ok(named(capture::write(&all.concat()), kind, scene, &title, ".pcap"))
    })
    .await
}

/// Shake of every raw take, for the log.
#[get("/takes/shakes")]
pub async fn shakes(app: &App) -> Outcome<Json<Vec<ShakeView>>> {
    app.compute(Urgency::Metrics, move |app| {
        let now = app.current();
        let plays = now.document.scene.performance;
        let takes = now.document.takes.iter();
        let closed = takes.filter(|t| !t.rolling && t.samples > 0 && t.pass.is_none());
        let shake = |take: &Take| {
            let (cm, deg) = now.opened.moves(&now.document, plays, |moves, from| moves.shake(from, take))?;
            Ok(ShakeView { id: take.id.0, position_cm: cm, rotation_deg: deg })
        };
        Ok(Json(closed.map(shake).collect::<rovnek_store::Result<_>>()?))
    })
    .await
}
