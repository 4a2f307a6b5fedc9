//! Tracked devices: where they are listened for, how they come through, a stand-in.

use super::App;
use crate::evaluated::pool::Urgency;
use crate::floor::devices::{DevicesView, REMEMBERED, SimulatorRequest, Socket};
use crate::floor::live_out::{LiveOutRequest, LiveOutView};
use crate::floor::phone::{PhoneRequest, PhoneView};
use crate::http::problem::{Outcome, Problem};
use crate::http::sent::Json;
use rocket::{get, put};

#[get("/devices")]
pub fn devices(app: &App) -> Json<DevicesView> {
    Json(app.devices.view())
}

#[put("/devices", data = "<sockets>")]
pub async fn listen(app: &App, sockets: Json<Vec<Socket>>) -> Outcome<Json<DevicesView>> {
    if sockets.len() > 8 {
        return Err(Problem::refused("listen at eight sockets at most"));
    }
    app.wait(move |app| {
        let sockets = sockets.into_inner();
        app.devices.set(sockets, |kept| keep(app, kept))?;
        Ok(Json(app.devices.view()))
    })
    .await
}

#[put("/devices/stand-in", data = "<wanted>")]
pub async fn stand_in(app: &App, wanted: Json<Option<SimulatorRequest>>) -> Outcome<Json<DevicesView>> {
    app.wait(move |app| {
        let wanted = wanted.into_inner();
        app.here()?;
        app.devices.stand_in(wanted, |kept| keep(app, kept))?;
        Ok(Json(app.devices.view()))
    })
    .await
}

/// Remembers in the production that a request means where devices are listened for.
fn keep(app: &App, sockets: &str) -> Outcome<()> {
    app.writing(|writing| Ok(writing.store().remember(REMEMBERED, sockets)?))
}

#[get("/devices/phone")]
pub fn phone(app: &App) -> Json<PhoneView> {
    Json(app.phone.view())
}

#[put("/devices/phone", data = "<wanted>")]
pub async fn open_phone(app: &App, wanted: Json<PhoneRequest>) -> Outcome<Json<PhoneView>> {
    app.phone.set(wanted.into_inner()).await.map_err(Problem::refused)?;
    Ok(Json(app.phone.view()))
}

#[get("/devices/out")]
pub fn live_out(app: &App) -> Json<LiveOutView> {
    Json(app.live_out.view())
}

#[put("/devices/out", data = "<wanted>")]
pub async fn tell(app: &App, wanted: Json<LiveOutRequest>) -> Outcome<Json<LiveOutView>> {
    let wanted = wanted.into_inner();
    app.compute(Urgency::Metrics, move |app| {
        let now = app.here()?;
        let course = |id| {
            now.around(id, |moves, from| Ok((moves.evaluate(from, id)?.camera, moves.target(from, id)?)))
        };
        let course = wanted.move_id.filter(|_| wanted.on).map(|id| course(id).map_err(|e| e.to_string()));
        // While the right to write is held, no other production can come onto the floor.
        app.writing(|writing| writing.app.live_out.set(wanted, course).map_err(Problem::refused))?;
        Ok(Json(app.live_out.view()))
    })
    .await
}
