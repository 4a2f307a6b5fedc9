//! Small pictures of scenes and takes: drawn by pages, kept with the production.

use super::App;
use crate::http::problem::{Outcome, Problem};
use crate::http::sent::Json;
use rocket::data::{Data, ToByteUnit};
use rocket::http::{ContentType, Status};
use rocket::{get, put};
use rovnek_store::rows::pictures::{LARGEST, PictureLine, PictureOf};

/// Which pictures there are.
#[get("/pictures")]
pub async fn pictures(app: &App) -> Outcome<Json<Vec<PictureLine>>> {
    app.wait(|app| Ok(Json(app.read(|reader| reader.pictures())?))).await
}

fn of(word: &str) -> Outcome<PictureOf> {
    match word {
        "scene" => Ok(PictureOf::Scene),
        "take" => Ok(PictureOf::Take),
        _ => Err(Problem::refused("pictures are of a scene or of a take")),
    }
}

#[get("/pictures/<what>/<id>/<part>")]
pub async fn picture(app: &App, what: String, id: u32, part: u32) -> Outcome<(ContentType, Vec<u8>)> {
    let of = of(&what)?;
    app.wait(move |app| {
        let bytes = app.read(|reader| reader.picture(of, id, part))?;
        Ok((ContentType::WEBP, bytes))
    })
    .await
}

/// Keeps a picture; `made_of` is a word that changes with what it was drawn of.
#[put("/pictures/<what>/<id>/<part>?<made_of>", data = "<file>")]
pub async fn keep(
    app: &App,
    what: String,
    id: u32,
    part: u32,
    made_of: String,
    file: Data<'_>,
) -> Outcome<Status> {
    let of = of(&what)?;
    app.must_be_open()?;
    let bytes = file.open((LARGEST as u64 + 1).bytes()).into_bytes().await;
    let bytes = bytes.map_err(|e| Problem::refused(format!("the picture did not arrive: {e}")))?.into_inner();
    if !bytes.starts_with(b"RIFF") || bytes.get(8..12) != Some(b"WEBP") {
        return Err(Problem::refused("pictures are kept as WebP"));
    }
    app.wait(move |app| {
        let line = PictureLine { of, id, part, made_of };
        app.writing(|writing| Ok(writing.store().keep_picture(&line, &bytes)?))?;
        Ok(Status::NoContent)
    })
    .await
}
