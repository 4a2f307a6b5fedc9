//! Bringing files in: which kinds there are, which one a file is, and the file itself.

use super::App;
use super::document::name;
use super::views::ImportedThings;
use crate::document::snapshot::Changed;
use crate::evaluated::pool::Urgency;
use crate::http::problem::{Outcome, Problem};
use crate::http::sent::Json;
use crate::imports::{self, ImportKind, Station, Upload};
use rocket::data::{Data, DataStream, ToByteUnit};
use rocket::http::Status;
use rocket::http::uri::Origin;
use rocket::tokio::io::AsyncReadExt;
use rocket::tokio::time::timeout;
use rocket::{get, post};
use rovnek_formats::LARGEST_FILE;
use std::io::Write;
use std::path::Path;
use std::time::Duration;

/// Longest time in which nothing of a file may arrive.
const SILENT: Duration = Duration::from_secs(20);

/// Gives what arrives to `take`, piece by piece.
async fn arriving(mut stream: DataStream<'_>, mut take: impl FnMut(&[u8]) -> Outcome<()>) -> Outcome<()> {
    let mut chunk = Vec::with_capacity(64 << 10);
    let late = |_| Problem::of(Status::RequestTimeout, "the file stopped arriving; send it again");
    loop {
        chunk.clear();
        let came = timeout(SILENT, stream.read_buf(&mut chunk))
            .await
            .map_err(late)?
            .map_err(|e| Problem::refused(format!("the file did not arrive whole ({e}); send it again")))?;
        if came == 0 {
            return Ok(());
        }
        take(&chunk[..came])?;
    }
}

/// The file, and the status for what may be wrong with it. Of one that is too large there is as
/// much as it takes to say where; the rest is read and dropped, so that the answer reaches the
/// sender.
async fn receive(data: Data<'_>) -> Outcome<(Vec<u8>, Status)> {
    let mut bytes = Vec::new();
    arriving(data.open(1.gibibytes()), |came| {
        let room = LARGEST_FILE + 1 - bytes.len();
        bytes.extend_from_slice(&came[..came.len().min(room)]);
        Ok(())
    })
    .await?;
    let large = bytes.len() > LARGEST_FILE;
    Ok((bytes, if large { Status::PayloadTooLarge } else { Status::UnprocessableEntity }))
}

/// Receives an upload into a file.
pub(super) async fn received(stream: DataStream<'_>, to: &Path) -> Outcome<()> {
    let full = |e: std::io::Error| {
        let disk = to.parent().unwrap_or(to).display();
        Problem::of(
            Status::InsufficientStorage,
            format!("there is no room for the file on the disk of {disk}: {e}"),
        )
    };
    let mut file = std::fs::File::create(to).map_err(full)?;
    arriving(stream, |came| file.write_all(came).map_err(full)).await
}

/// The kinds of files that are brought in.
#[get("/kinds/imports")]
pub fn kinds() -> Json<Vec<ImportKind>> {
    Json(imports::kinds())
}

/// First bytes of a file that are enough to tell its kind.
const HEAD: u64 = 4096;

/// The kind of a file: sent are its first bytes.
#[post("/kinds/imports/of?<station>&<file>", data = "<data>")]
pub async fn kind_of(station: Station, file: &str, data: Data<'_>) -> Outcome<Json<ImportKind>> {
    let mut head = Vec::new();
    arriving(data.open(HEAD.bytes()), |came| {
        head.extend_from_slice(came);
        Ok(())
    })
    .await?;
    imports::kind_of(station, file, &head).map(Json)
}

/// Brings a file in, with the parameters of its kind in the query. One that takes long is a job while it is read,
/// whose end is the answer.
#[post("/import/<kind>?<name>", data = "<data>")]
pub async fn bring(
    app: &App,
    kind: &str,
    name: &str,
    at: &Origin<'_>,
    data: Data<'_>,
) -> Outcome<Json<ImportedThings>> {
    let (kind, import) = imports::of(kind, at.query().map_or("", |query| query.as_str()))?;
    let name = self::name(kind.named, name)?;
    let (bytes, fault) = receive(data).await?;
    let label = format!("bring in {name}");
    let job = kind.long.then(|| app.jobs.waited_for(label.clone()));
    let id = job.as_ref().map(|job| job.id);
    app.compute(Urgency::Job, move |app| {
        let mut progress = id.map(|id| app.jobs.run(id));
        let mut go_on = |share| {
            app.help(Urgency::Job);
            progress.as_mut().is_none_or(|job| job.as_mut().is_some_and(|job| job.at(share)))
        };
        let bring = import.read(&mut Upload { app, name, bytes, fault, go_on: &mut go_on })?;
        let before = app.current();
        let (new, now) = app.edit(label, |edit| bring(&app.document(), edit))?;
        let changed = Changed::between(&before, &now);
        let imports::Brought { pieces, performers, take } = new;
        Ok(Json(ImportedThings { changed, pieces, performers, take }))
    })
    .await
}
