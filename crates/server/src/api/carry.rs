//! Carrying things over from another scene, of this production or another one on the shelf.

use super::App;
use crate::app::App as Shared;
use crate::document::snapshot::Changed;
use crate::http::id_of::IdOf;
use crate::http::problem::{Outcome, Problem};
use crate::http::sent::Json;
use rocket::{get, post};
use rovnek_core::ids::SceneId;
use rovnek_live::command::RollState;
use rovnek_store::copy::carry::{CarryMissing, CarryOffer, CarryRequest};
use rovnek_store::rows::reader::Reader;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Request to carry things into the scene on the floor.
#[derive(Deserialize, TS)]
pub struct CarryFrom {
    /// Id of the other production on the shelf.
    pub production: String,
    /// Things to carry.
    #[serde(flatten)]
    pub wanted: CarryRequest,
}

/// Result of carrying.
#[derive(Serialize, TS)]
pub struct Carried {
    /// Number of things.
    pub count: usize,
    /// Changes of the document.
    pub changed: Changed,
}

/// Things of a production's scene that can be carried.
#[get("/productions/<id>/scenes/<scene>/offers")]
pub async fn offers(app: &App, id: String, scene: IdOf<SceneId>) -> Outcome<Json<Vec<CarryOffer>>> {
    let IdOf(scene) = scene;
    app.wait(move |app| Ok(Json(reader(app, &id)?.offers(scene)?))).await
}

fn reader(app: &Shared, production: &str) -> Outcome<Reader> {
    Ok(Reader::open(&app.shelf().find(production)?)?)
}

/// Things that the wanted ones refer to and do not bring along.
#[post("/carry/look", data = "<from>")]
pub async fn look(app: &App, from: Json<CarryFrom>) -> Outcome<Json<Vec<CarryMissing>>> {
    app.wait(move |app| {
        let (reader, now) = (reader(app, &from.production)?, app.current());
        let same = now.opened.id == from.production;
        app.writing(|writing| {
            let mut store = writing.store();
            let edit = store.edit("look", None)?;
            Ok(Json(edit.carry_missing(&reader, same, now.document.scene.id, &from.wanted)?))
        })
    })
    .await
}

/// Carries them into the scene on the floor.
#[post("/carry", data = "<from>")]
pub async fn carry(app: &App, from: Json<CarryFrom>) -> Outcome<Json<Carried>> {
    app.wait(move |app| {
        let (reader, before) = (reader(app, &from.production)?, app.current());
        let same = before.opened.id == from.production;
        // Samples that are copied would keep those waiting that are recorded.
        if app.floor.status.borrow().roll != RollState::Standby {
            return Err(Problem::refused("something rolls; cut it first, then carry over"));
        }
        let (came, after) = app.edit("carry over", |edit| {
            Ok(edit.carry(&reader, same, before.document.scene.id, &from.wanted)?)
        })?;
        Ok(Json(Carried { count: came.len(), changed: Changed::between(&before, &after) }))
    })
    .await
}
