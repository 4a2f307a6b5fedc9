//! Setups: camera, machine, and what is on the floor.

use super::App;
use super::document::name;
use super::views::{CardSeat, MachineView, NewSetupView, PatchSetup, ReachView, SetupView};
use crate::problem::{Outcome, Problem};
use rocket::serde::json::Json;
use rocket::{get, patch, post};
use rovnek_core::rigs::{Reach, RigSpec};
use rovnek_core::space::Pose;
use rovnek_core::{DQuat, DVec3};
use rovnek_live::runner::Message;
use rovnek_store::history::Table;
use rovnek_store::model::{Document, text};
use serde::Deserialize;

#[patch("/setups/<id>", data = "<patch>")]
pub fn patch(app: &App, id: u32, patch: Json<PatchSetup>) -> Outcome<Json<Document>> {
    {
        let mut store = app.store();
        let old = store.setup(id)?;
        let letter = &old.letter;
        let label = match &*patch {
            PatchSetup { binned: Some(true), .. } => format!("remove setup {letter}"),
            PatchSetup { binned: Some(false), .. } => format!("bring setup {letter} back"),
            PatchSetup { place: Some(_), .. } => format!("reorder setup {letter}"),
            PatchSetup { rig: Some(_), .. } => format!("move setup {letter}"),
            PatchSetup { camera: Some(_), .. } => format!("change the camera of setup {letter}"),
            _ => format!("name setup {letter}"),
        };
        let status = app.floor.status.borrow().clone();
        if patch.binned == Some(true) && status.setup_id == id && status.roll != "standby" {
            return Err(Problem::refused(format!("setup {letter} is rolling; cut the take first")));
        }
        let mut order: Vec<u32> =
            store.document()?.setups.iter().filter(|s| !s.binned).map(|s| s.id).collect();
        let mut edit = store.edit(label, patch.gesture.as_deref())?;
        if let Some(typed) = &patch.name {
            edit.update(Table::Setup, id, &[("name", text(&name("the setup", typed)?))])?;
        }
        if patch.camera.is_some() || patch.rig.is_some() {
            let camera = patch.camera.as_ref().unwrap_or(&old.camera);
            edit.place_setup(id, camera, patch.rig.as_ref().unwrap_or(&old.rig))?;
        }
        if let Some(binned) = patch.binned {
            edit.bin_setup(id, binned)?;
        }
        if let Some(place) = patch.place {
            order.retain(|other| *other != id);
            order.insert(place.min(order.len()), id);
            edit.order_setups(&order)?;
        }
        edit.commit()?;
    }
    app.changed().map(Json)
}

#[post("/scenes/<scene>/setups", data = "<new>")]
pub fn add(app: &App, scene: u32, new: Json<NewSetupView>) -> Outcome<Json<Document>> {
    let name = name("the setup", &new.name)?;
    {
        let mut store = app.store();
        let mut edit = store.edit(format!("add setup {name}"), None)?;
        edit.add_setup(scene, &name, &new.camera, &new.rig)?;
        edit.commit()?;
    }
    app.changed().map(Json)
}

/// Where the cameras of all setups stand before anybody drives them.
#[get("/setups/views")]
pub fn views(app: &App) -> Outcome<Json<Vec<SetupView>>> {
    let setups = app.store().document()?.setups;
    let view = |setup: &rovnek_store::model::Setup| {
        let rig = setup.rig.build(&setup.camera);
        let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        let camera = rig.forward(&start).camera;
        let card = match &setup.rig {
            RigSpec::SquareToCard(square) => Some(CardSeat {
                piece: square.card,
                position: square.before_card(&setup.camera, setup.camera.focal_mm).position.to_array(),
            }),
            _ => None,
        };
        SetupView {
            id: setup.id,
            position: camera.position.to_array(),
            rotation: camera.rotation.to_array(),
            focal_mm: setup.camera.focal_mm,
            card,
        }
    };
    Ok(Json(setups.iter().filter(|s| !s.binned).map(view).collect()))
}

#[get("/setups/<id>/machine", rank = 2)]
pub fn machine(app: &App, id: u32) -> Outcome<Json<MachineView>> {
    let setup = app.store().setup(id)?;
    Ok(Json(MachineView::of(&*setup.rig.build(&setup.camera))))
}

/// A wanted camera position, and where the carrying axes are now.
#[derive(Deserialize)]
pub struct Wanted {
    position: [f64; 3],
    /// In shown units, one for each axis.
    near: Vec<f64>,
}

#[post("/setups/<id>/reach", data = "<wanted>")]
pub fn reach(app: &App, id: u32, wanted: Json<Wanted>) -> Outcome<Json<ReachView>> {
    let setup = app.store().setup(id)?;
    let rig = setup.rig.build(&setup.camera);
    let plain = wanted.position.iter().chain(&wanted.near).all(|v| v.is_finite() && v.abs() < 1e6);
    if !plain || wanted.near.len() != rig.axes().len() {
        return Err(Problem::refused(
            "a position needs three plain numbers, and one for each axis of the machine",
        ));
    }
    let near: Vec<f64> = wanted.near.iter().zip(rig.axes()).map(|(v, a)| a.unit.from_shown(*v)).collect();
    let now = rig.forward(&near).camera;
    // The camera keeps looking the way it does, as far as its head turns.
    let pose = Pose::new(DVec3::from(wanted.position), DQuat::from_array(now.rotation.to_array()));
    let reach = rig.inverse(pose, &near);
    let axes = reach.axes().iter().zip(rig.axes()).map(|(v, a)| a.unit.to_shown(*v)).collect();
    Ok(Json(match &reach {
        Reach::Within(_) => ReachView { axes, shortfall_m: 0.0, limits: Vec::new() },
        Reach::Short { shortfall_m, limits, .. } => ReachView {
            axes,
            shortfall_m: *shortfall_m,
            limits: limits.iter().map(|l| l.to_string()).collect(),
        },
    }))
}

/// Puts a setup onto the floor.
#[post("/setups/<id>/floor")]
pub fn put_on_floor(app: &App, id: u32) -> Outcome<Json<Document>> {
    let document = app.store().document()?;
    let known = document.setups.iter().any(|s| s.id == id && !s.binned);
    let people = app.scenery(&document)?.people;
    let placed = crate::app::placed(&document, id, people).filter(|_| known);
    let placed = placed.ok_or(rovnek_store::StoreError::Missing("setup", id))?;
    if app.floor.status.borrow().roll != "standby" && app.floor.status.borrow().setup_id != id {
        return Err(Problem::refused("a take is rolling; cut it before another setup goes onto the floor"));
    }
    app.store().remember("setup", &id.to_string())?;
    let _ = app.floor.messages.send(Message::Place(Box::new(placed)));
    Ok(Json(document))
}
