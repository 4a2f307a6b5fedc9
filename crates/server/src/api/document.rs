//! The document as a whole.

use super::App;
use crate::pool::Urgency;
use crate::problem::{Outcome, Problem};
use rocket::get;
use rocket::http::ContentType;
use rocket::serde::json::{Value, json};

/// A name that may not be empty, as it was typed; spaces at its ends do not count.
pub(super) fn name(what: &str, typed: &str) -> Outcome<String> {
    let clean = typed.trim().to_string();
    rovnek_store::edits::name(what, &clean)?;
    Ok(clean)
}

#[get("/health")]
pub fn health() -> Value {
    json!({"status": "ok", "version": env!("CARGO_PKG_VERSION")})
}

#[get("/document")]
pub async fn document(app: &App) -> Outcome<(ContentType, String)> {
    let text = app.compute(Urgency::Picture, |app| serde_json::to_string(&app.current().whole())).await;
    let text = text.map_err(|e| Problem::refused(e.to_string()))?;
    Ok((ContentType::JSON, text))
}
