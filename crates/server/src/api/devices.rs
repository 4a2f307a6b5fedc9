//! Tracked devices: where they are listened for, how they come through, a stand-in.

use super::App;
use crate::devices::{DevicesView, Socket, StandInWanted};
use crate::live_out::{LiveOutView, LiveOutWanted};
use crate::phone::{PhoneView, PhoneWanted};
use crate::pool::Urgency;
use crate::problem::{Outcome, Problem};
use crate::sent::Json;
use rocket::{get, put};
use rovnek_store::StoreError;

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
        app.writing(|writing| Ok(app.devices.set(&mut writing.store(), sockets)?))?;
        Ok(Json(app.devices.view()))
    })
    .await
}

#[put("/devices/stand-in", data = "<wanted>")]
pub async fn stand_in(app: &App, wanted: Json<Option<StandInWanted>>) -> Outcome<Json<DevicesView>> {
    app.wait(move |app| {
        let wanted = wanted.into_inner();
        app.writing(|writing| app.devices.stand_in(&mut writing.store(), wanted).map_err(Problem::refused))?;
        Ok(Json(app.devices.view()))
    })
    .await
}

#[get("/devices/phone")]
pub fn phone(app: &App) -> Json<PhoneView> {
    Json(app.phone.view())
}

#[put("/devices/phone", data = "<wanted>")]
pub async fn open_phone(app: &App, wanted: Json<PhoneWanted>) -> Outcome<Json<PhoneView>> {
    app.phone.set(wanted.into_inner()).await.map_err(Problem::refused)?;
    Ok(Json(app.phone.view()))
}

#[get("/devices/out")]
pub fn live_out(app: &App) -> Json<LiveOutView> {
    Json(app.live_out.view())
}

#[put("/devices/out", data = "<wanted>")]
pub async fn tell(app: &App, wanted: Json<LiveOutWanted>) -> Outcome<Json<LiveOutView>> {
    let wanted = wanted.into_inner();
    app.compute(Urgency::Metrics, move |app| {
        let course = |id| {
            let now = app.current();
            let camera = app.evaluate(id)?.camera;
            Ok((camera, app.moves(&now, |moves, from| moves.target(from, id))?))
        };
        let said = |e: StoreError| e.to_string();
        app.live_out.set(wanted, |id| course(id).map_err(said)).map_err(Problem::refused)?;
        Ok(Json(app.live_out.view()))
    })
    .await
}
