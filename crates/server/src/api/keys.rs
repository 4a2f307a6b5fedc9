//! What is done to keys that somebody has picked. The page says what it has, and gets what becomes of it;
//! keeping it is an edit like any other.

use super::App;
use super::views::EaseView;
use crate::evaluated::pool::Urgency;
use crate::http::id_of::IdOf;
use crate::http::problem::{Outcome, Problem};
use crate::http::sent::Json;
use rocket::{get, post};
use rovnek_core::ids::MoveId;
use rovnek_core::keys::{Curves, Ease, KeyEdit, Picked};
use serde::Deserialize;
use ts_rs::TS;

/// Keys, and what is to be done to some of them.
#[derive(Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct KeyEditRequest {
    /// The keys of the axes that are picked, and of those that the camera's way depends on.
    #[ts(type = "{ [axis: string]: Array<{ id: number } & CurveKey> }")]
    curves: Curves,
    /// The numbers of those that are meant, axis by axis.
    #[ts(type = "{ [axis: string]: Array<number> }")]
    picked: Picked,
    /// Edit of the picked keys.
    edit: KeyEdit,
}

/// The keys of every axis that is touched as they are afterwards; new ones have numbers that none had.
#[post("/moves/<id>/keys/edited", data = "<wanted>")]
pub async fn edited(app: &App, id: IdOf<MoveId>, wanted: Json<KeyEditRequest>) -> Outcome<Json<Curves>> {
    let IdOf(id) = id;
    let wanted = wanted.into_inner();
    app.compute(Urgency::Picture, move |app| {
        let document = app.document();
        let of = document.a_move(id)?;
        let (camera, rigging) = document.machine_of(of);
        let rig = rigging.build(&camera);
        let done = wanted.edit.apply(&wanted.curves, &wanted.picked, &*rig);
        done.map(Json).map_err(|e| Problem::refused(e.sentence))
    })
    .await
}

/// Number of steps that an ease is drawn with.
const DRAWN: usize = 60;

/// The eases that have names, each with its curve.
#[get("/kinds/eases")]
pub fn eases() -> Json<Vec<EaseView>> {
    let view = |ease: Ease| {
        let curve = ease.curve();
        let at = |k: usize| curve.at(k as f64 / DRAWN as f64).unwrap_or(0.0);
        EaseView { ease, drawn: (0..=DRAWN).map(at).collect() }
    };
    Json(Ease::NAMED.map(view).to_vec())
}
