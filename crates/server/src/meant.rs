//! What a request is about: one that names the production and scene it means is refused when another one
//! has come onto the floor meanwhile, and does nothing.

use crate::app::App;
use crate::problem::Problem;
use rocket::fairing::{Fairing, Info, Kind};
use rocket::http::uri::Origin;
use rocket::http::{Method, RawStr};
use rocket::{Data, Request, State, get};
use std::sync::Arc;

/// The header in which a page says what it means: what the production is known by on the shelf, and the
/// scene's number, with a slash between them, percent-encoded.
const MEANT: &str = "Rovnek-Scene";

/// The fairing.
pub struct Meant;

#[rocket::async_trait]
impl Fairing for Meant {
    fn info(&self) -> Info {
        Info { name: "the scene that is meant", kind: Kind::Request }
    }

    async fn on_request(&self, request: &mut Request<'_>, _: &mut Data<'_>) {
        if let Some(meant) = request.headers().get_one(MEANT)
            && let Some(app) = request.rocket().state::<Arc<App>>()
            && RawStr::new(meant).percent_decode_lossy() != app.current().names()
        {
            request.set_uri(Origin::parse("/api/elsewhere").expect("a plain path"));
            request.set_method(Method::Get);
        }
    }
}

/// Where requests end up that mean what is not on the floor any more.
#[get("/elsewhere")]
pub fn elsewhere(app: &State<Arc<App>>) -> Problem {
    let now = app.document();
    let sentence = format!(
        "scene {} ({}) of {} is on the floor now; nothing was done",
        now.scene.number, now.scene.name, now.production
    );
    Problem::conflict(sentence)
}
