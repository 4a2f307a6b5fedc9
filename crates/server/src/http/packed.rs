//! Answers that are text are sent compressed: over the air a document comes several times sooner.
//! Numbers as they lie in memory hardly shrink, and go as they are.

use flate2::Compression;
use flate2::write::GzEncoder;
use rocket::fairing::{Fairing, Info, Kind};
use rocket::http::{ContentType, Header};
use rocket::{Request, Response};
use std::io::{Cursor, Write};

/// Shorter answers fit into a few packets as they are, bytes.
const WORTH_IT: usize = 8 << 10;

/// True if a browser takes gzip.
pub fn takes_gzip(request: &Request<'_>) -> bool {
    request.headers().get("Accept-Encoding").any(|v| v.contains("gzip"))
}

/// Fairing that packs answers.
pub struct Packed;

#[rocket::async_trait]
impl Fairing for Packed {
    fn info(&self) -> Info {
        Info { name: "compressed answers", kind: Kind::Response }
    }

    async fn on_response<'r>(&self, request: &'r Request<'_>, response: &mut Response<'r>) {
        let text =
            response.content_type().is_some_and(|kind| kind == ContentType::JSON || kind.top() == "text");
        let long = response.body().preset_size().is_some_and(|size| size >= WORTH_IT);
        let open = !response.headers().contains("Content-Encoding");
        if !(text && long && open && takes_gzip(request)) {
            return;
        }
        let Ok(plain) = response.body_mut().to_bytes().await else { return };
        // The lightest way: the floor runs beside it.
        let mut pack = GzEncoder::new(Vec::with_capacity(plain.len() / 4), Compression::fast());
        let packed = pack.write_all(&plain).and_then(|()| pack.finish());
        let body = match packed {
            Ok(packed) => {
                response.set_header(Header::new("Content-Encoding", "gzip"));
                response.set_header(Header::new("Vary", "Accept-Encoding"));
                packed
            }
            Err(_) => plain,
        };
        response.set_sized_body(body.len(), Cursor::new(body));
    }
}
