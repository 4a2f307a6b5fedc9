//! The built page, inside the binary: compressed once, cached long where its name says its
//! content.

use crate::http::packed::takes_gzip;
use flate2::Compression;
use flate2::write::GzEncoder;
use rocket::http::{ContentType, Header, Status};
use rocket::request::{FromRequest, Outcome};
use rocket::response::{self, Responder, Response};
use rocket::{Request, get};
use rust_embed::Embed;
use std::collections::HashMap;
use std::convert::Infallible;
use std::io::{Cursor, Write};
use std::path::PathBuf;
use std::sync::LazyLock;

#[derive(Embed)]
#[folder = "../../web/dist"]
struct Dist;

struct Asset {
    plain: Vec<u8>,
    packed: Vec<u8>,
    kind: ContentType,
}

static ASSETS: LazyLock<HashMap<String, Asset>> = LazyLock::new(|| {
    let asset = |name: &str| {
        let plain = Dist::get(name)?.data.into_owned();
        let mut pack = GzEncoder::new(Vec::new(), Compression::default());
        pack.write_all(&plain).ok()?;
        let ending = name.rsplit('.').next().unwrap_or("");
        let kind = ContentType::from_extension(ending).unwrap_or(ContentType::Binary);
        Some((name.to_string(), Asset { packed: pack.finish().ok()?, plain, kind }))
    };
    Dist::iter().filter_map(|name| asset(&name)).collect()
});

/// A file of the page.
pub struct File {
    asset: &'static Asset,
    hashed: bool,
    packed: bool,
}

/// True if the browser takes gzip.
pub struct Gzip(bool);

#[rocket::async_trait]
impl<'r> FromRequest<'r> for Gzip {
    type Error = Infallible;
    async fn from_request(request: &'r Request<'_>) -> Outcome<Self, Infallible> {
        Outcome::Success(Gzip(takes_gzip(request)))
    }
}

impl<'r> Responder<'r, 'static> for File {
    fn respond_to(self, _: &'r Request<'_>) -> response::Result<'static> {
        let cache = if self.hashed { "public, max-age=31536000, immutable" } else { "no-cache" };
        let mut answer = Response::build();
        answer.status(Status::Ok).header(self.asset.kind.clone());
        answer.header(Header::new("Cache-Control", cache)).header(Header::new("Vary", "Accept-Encoding"));
        let body: &'static [u8] = if self.packed { &self.asset.packed } else { &self.asset.plain };
        if self.packed {
            answer.header(Header::new("Content-Encoding", "gzip"));
        }
        answer.sized_body(body.len(), Cursor::new(body)).ok()
    }
}

/// Page of the application.
#[get("/")]
pub fn index(gzip: Gzip) -> Option<File> {
    file(PathBuf::from("index.html"), gzip)
}

/// File of the page: script, style, font.
#[get("/<path..>", rank = 20)]
pub fn file(path: PathBuf, gzip: Gzip) -> Option<File> {
    let name = path.to_str()?;
    let asset = ASSETS.get(name)?;
    Some(File {
        asset,
        hashed: name.starts_with("assets/"),
        packed: gzip.0 && asset.packed.len() < asset.plain.len(),
    })
}
