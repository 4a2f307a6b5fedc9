//! The production and scene that a request is about. A request means what was on the floor when its head
//! arrived, or what its header names; when another production or scene has come onto the floor since, the
//! request is refused and writes nothing. The comparison happens under the lock of the writer
//! ([`App::writing`]), so a switch cannot fall between comparing and writing.

use crate::app::{App, Writing};
use crate::document::snapshot::Snapshot;
use crate::evaluated::pool::Urgency;
use crate::http::problem::{Outcome, Problem};
use rocket::fairing::{Fairing, Info, Kind};
use rocket::http::uri::Origin;
use rocket::http::{Method, RawStr};
use rocket::request::{FromRequest, Outcome as Guarded};
use rocket::{Data, Request, State, get};
use rovnek_store::edit::history::Edit;
use std::convert::Infallible;
use std::ops::Deref;
use std::sync::Arc;

/// The header in which a page says what it means: what the production is known by on the shelf, and the
/// scene's number, with a slash between them, percent-encoded.
const MEANT: &str = "Rovnek-Scene";

/// One stay of a scene on the floor; the same scene that leaves and comes back is another stay.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Stay(u64);

impl Stay {
    /// The first stay of a process.
    pub const FIRST: Stay = Stay(0);

    /// The stay after this one.
    pub fn next(self) -> Stay {
        Stay(self.0 + 1)
    }
}

/// The application as one request has it: what the request writes goes to the scene that was on the floor
/// when the request arrived, or is refused.
#[derive(Clone)]
pub struct Asking {
    app: Arc<App>,
    stay: Stay,
}

impl Deref for Asking {
    type Target = App;
    fn deref(&self) -> &App {
        &self.app
    }
}

impl Asking {
    /// For the scene that is on the floor now.
    pub fn now(app: &Arc<App>) -> Asking {
        Asking { app: app.clone(), stay: app.current().stay }
    }

    /// Runs `work` on a thread that may wait for the store.
    pub async fn wait<T: Send + 'static>(&self, work: impl FnOnce(&Asking) -> T + Send + 'static) -> T {
        let asking = self.clone();
        self.app.wait(move |_| work(&asking)).await
    }

    /// Runs `work` on a thread of the pool.
    pub async fn compute<T: Send + 'static>(
        &self,
        urgency: Urgency,
        work: impl FnOnce(&Asking) -> T + Send + 'static,
    ) -> T {
        let asking = self.clone();
        self.app.compute(urgency, move |_| work(&asking)).await
    }

    /// Writes to the scene that this request means; see [`App::writing`].
    pub fn writing<T>(&self, work: impl FnOnce(&mut Writing) -> Outcome<T>) -> Outcome<T> {
        self.app.writing(self.stay, work)
    }

    /// Edits the scene that this request means; see [`App::edit`].
    pub fn edit<T>(
        &self,
        label: impl Into<String>,
        work: impl FnOnce(&mut Edit) -> Outcome<T>,
    ) -> Outcome<(T, Arc<Snapshot>)> {
        self.app.edit(self.stay, label, work)
    }

    /// The scene that this request means, as it is now; refused when the scene has left the floor.
    pub fn here(&self) -> Outcome<Arc<Snapshot>> {
        self.app.here(self.stay)
    }

    /// The stay that this request means.
    pub fn stay(&self) -> Stay {
        self.stay
    }
}

#[rocket::async_trait]
impl<'r> FromRequest<'r> for &'r Asking {
    type Error = Infallible;

    async fn from_request(request: &'r Request<'_>) -> Guarded<Self, Infallible> {
        let app = request.rocket().state::<Arc<App>>().expect("every route is mounted with the application");
        // The fairing has put one there when the head arrived.
        Guarded::Success(request.local_cache(|| Asking::now(app)))
    }
}

/// Notes for each request what it means, and turns those away that mean what is not on the floor any more.
pub struct StayGuard;

#[rocket::async_trait]
impl Fairing for StayGuard {
    fn info(&self) -> Info {
        Info { name: "the scene that is meant", kind: Kind::Request }
    }

    async fn on_request(&self, request: &mut Request<'_>, _: &mut Data<'_>) {
        let Some(app) = request.rocket().state::<Arc<App>>() else { return };
        let now = app.current();
        let meant = request.headers().get_one(MEANT);
        if meant.is_some_and(|meant| RawStr::new(meant).percent_decode_lossy() != now.names()) {
            request.set_uri(Origin::parse("/api/elsewhere").expect("a plain path"));
            request.set_method(Method::Get);
        }
        let asking = Asking { app: app.clone(), stay: now.stay };
        request.local_cache(|| asking);
    }
}

impl App {
    /// The scene of a stay, as it is now; refused when the scene has left the floor.
    pub fn here(&self, stay: Stay) -> Outcome<Arc<Snapshot>> {
        let now = self.current();
        if now.stay == stay { Ok(now) } else { Err(elsewhere_now(&now)) }
    }
}

/// The refusal of a request that means another scene than the one on the floor.
fn elsewhere_now(now: &Snapshot) -> Problem {
    let document = &now.document;
    let (number, name, production) = (&document.scene.number, &document.scene.name, &document.production);
    Problem::conflict(format!(
        "scene {number} ({name}) of {production} is on the floor now; nothing was done"
    ))
}

/// Where requests end up that mean what is not on the floor any more.
#[get("/elsewhere")]
pub fn elsewhere(app: &State<Arc<App>>) -> Problem {
    elsewhere_now(&app.current())
}
