//! The document as a whole, and its history.

use super::App;
use super::views::{PatchProduction, PatchScene};
use crate::problem::{Outcome, Problem};
use rocket::serde::json::{Json, Value, json};
use rocket::{get, patch, post};
use rovnek_store::history::Table;
use rovnek_store::model::{Document, text};

/// Longest name on the slate, note of a take.
const LONGEST: usize = 2000;

/// A line of text as a person typed it, without what would break a slate.
pub(super) fn line(what: &str, typed: &str) -> Outcome<String> {
    let clean: String = typed.trim().chars().filter(|c| !c.is_control() || *c == '\n').collect();
    if clean.chars().count() > LONGEST {
        return Err(Problem::refused(format!("{what} is longer than {LONGEST} characters; shorten it")));
    }
    Ok(clean)
}

/// A line that may not be empty.
pub(super) fn name(what: &str, typed: &str) -> Outcome<String> {
    let clean = line(what, typed)?;
    if clean.is_empty() || clean.chars().count() > 120 {
        return Err(Problem::refused(format!("{what} needs between 1 and 120 characters")));
    }
    Ok(clean)
}

#[get("/health")]
pub fn health() -> Value {
    json!({"status": "ok", "version": env!("CARGO_PKG_VERSION")})
}

#[get("/document")]
pub fn document(app: &App) -> Outcome<Json<Document>> {
    Ok(Json(app.store().document()?))
}

#[patch("/production", data = "<patch>")]
pub fn patch_production(app: &App, patch: Json<PatchProduction>) -> Outcome<Json<Document>> {
    {
        let mut store = app.store();
        let label = if patch.lens_sets.is_some() { "change the lenses" } else { "name the production" };
        let mut edit = store.edit(label, None)?;
        if let Some(typed) = &patch.name {
            edit.name_production(&name("the production", typed)?)?;
        }
        if let Some(sets) = &patch.lens_sets {
            edit.set_lens_sets(sets)?;
        }
        edit.commit()?;
    }
    app.changed().map(Json)
}

#[patch("/scenes/<id>", data = "<patch>")]
pub fn patch_scene(app: &App, id: u32, patch: Json<PatchScene>) -> Outcome<Json<Document>> {
    {
        let mut store = app.store();
        let label = if patch.rate.is_some() { "change the rate" } else { "name the scene" };
        let mut edit = store.edit(label, None)?;
        if let Some(typed) = &patch.number {
            edit.update(Table::Scene, id, &[("number", text(&name("the scene number", typed)?))])?;
        }
        if let Some(typed) = &patch.name {
            edit.update(Table::Scene, id, &[("name", text(&name("the scene", typed)?))])?;
        }
        if let Some(rate) = patch.rate {
            edit.set_rate(id, rate)?;
        }
        edit.commit()?;
    }
    app.changed().map(Json)
}

#[post("/undo")]
pub fn undo(app: &App) -> Outcome<Json<Document>> {
    app.store().undo()?;
    app.changed().map(Json)
}

#[post("/redo")]
pub fn redo(app: &App) -> Outcome<Json<Document>> {
    app.store().redo()?;
    app.changed().map(Json)
}
