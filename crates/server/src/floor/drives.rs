//! What was driven of a performance, made into a path of it.

use crate::app::App;
use crate::http::meant::Stay;
use crate::http::problem::Outcome;
use crate::lock::lock;
use rovnek_core::performer::{Part, PartMotion, driven};
use rovnek_core::playing::MoverId;
use rovnek_core::set::PieceRoute;
use rovnek_store::model::Scene;
use rovnek_store::rows::driven::Drive;
use std::sync::Mutex;

/// Keeps every drive that is no path yet, as an edit that can be undone. The samples stay.
pub fn keep(app: &App) -> Outcome<()> {
    // One at a time, so that none is kept twice.
    static KEEPS: Mutex<()> = Mutex::new(());
    let _one = lock(&KEEPS);
    let stay = app.current().stay;
    let drives = app.writing(stay, |writing| Ok(writing.store().open_drives()?))?;
    for drive in &drives {
        keep_one(app, stay, drive)?;
        app.writing(stay, |writing| {
            let mut store = writing.store();
            store.close_drive(drive.id)?;
            if let Some(take) = drive.take {
                store.rolled_with(take)?;
            }
            Ok(())
        })?;
    }
    if drives.is_empty() { Ok(()) } else { app.changed() }
}

fn keep_one(app: &App, stay: Stay, drive: &Drive) -> Outcome<()> {
    let document = app.document();
    let scene: &Scene = &document.scene;
    let performance = drive.performance;
    // A breath of a drive is none.
    let rows = drive.values.len() / driven::ROW;
    let known = scene.performances.iter().any(|p| p.id == performance);
    if rows < 12 || !known || scene.id != drive.scene_id {
        return Ok(());
    }
    match drive.mover {
        MoverId::Performer(who) => {
            let Some(performer) = scene.performers.iter().find(|p| p.id == who) else { return Ok(()) };
            let mut performer = performer.clone();
            let floor = performer.part(performance).map_or(0.0, floor_of);
            let route = driven::route(&drive.values, drive.rate_hz, floor);
            performer.parts.retain(|p| p.performance != performance);
            performer.parts.push(Part { performance, rides: None, motion: PartMotion::Walks { route } });
            app.edit(stay, format!("drive {}", performer.name), |edit| Ok(edit.put(&performer)?))?;
        }
        MoverId::Piece(which) => {
            let Some(piece) = scene.pieces.iter().find(|p| p.id == which) else { return Ok(()) };
            let mut piece = piece.clone();
            let floor =
                piece.route(performance).and_then(|r| r.waypoints.first()).map_or(0.0, |w| w.position[1]);
            let route = driven::prop_route(&drive.values, drive.rate_hz, floor);
            piece.routes.retain(|r| r.performance != performance);
            piece.routes.push(PieceRoute { performance, route });
            // Driven over the floor, it was carried by nothing.
            piece.rides = None;
            app.edit(stay, format!("drive {}", piece.name), |edit| Ok(edit.put(&piece)?))?;
        }
    }
    Ok(())
}

/// The floor that somebody stands on when the scene begins.
fn floor_of(part: &Part) -> f64 {
    match &part.motion {
        PartMotion::Walks { route } if part.rides.is_none() => {
            route.waypoints.first().map_or(0.0, |w| w.position[1])
        }
        _ => 0.0,
    }
}
