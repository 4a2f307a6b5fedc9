//! The document as a whole.

use super::App;
use crate::evaluated::pool::Urgency;
use crate::http::problem::{Outcome, Problem};
use rocket::get;
use rocket::http::{ContentType, Status};
use rocket::serde::json::{Value, json};
use std::time::Duration;

/// A name that may not be empty, as it was typed; spaces at its ends do not count.
pub(super) fn name(what: &str, typed: &str) -> Outcome<String> {
    let clean = typed.trim().to_string();
    rovnek_store::edit::operations::name(what, &clean)?;
    Ok(clean)
}

/// A floor that made no step for so long stands.
const STANDS: Duration = Duration::from_secs(1);

/// Whether floor, recorder and store do what they are there for; 503 where one of them does not. A floor that
/// was started again after a fault is counted.
#[get("/health")]
pub async fn health(app: &App) -> (Status, Value) {
    let silent = app.floor.silent_for();
    let floor =
        if silent < STANDS { "runs".into() } else { format!("stands for {:.0} s", silent.as_secs_f64()) };
    let restarts = app.floor.restarts();
    let recorder = if app.records() { "records" } else { "ended" };
    let store = app.wait(|app| app.store().still_there()).await;
    let well = silent < STANDS && app.records() && store.is_ok();
    let body = json!({
        "status": if well { "ok" } else { "trouble" },
        "version": env!("CARGO_PKG_VERSION"),
        "floor": floor,
        "floor_restarts": restarts,
        "recorder": recorder,
        "store": store.map_or_else(|e| e.to_string(), |()| "is there".into()),
    });
    (if well { Status::Ok } else { Status::ServiceUnavailable }, body)
}

#[get("/document")]
pub async fn document(app: &App) -> Outcome<(ContentType, String)> {
    let text = app.compute(Urgency::Picture, |app| serde_json::to_string(&app.current().whole())).await;
    let text = text.map_err(|e| Problem::refused(e.to_string()))?;
    Ok((ContentType::JSON, text))
}
