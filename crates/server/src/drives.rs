//! What was driven of a performance, made into a path of it.

use crate::app::App;
use crate::problem::Outcome;
use rovnek_core::performer::{Part, PartMotion, driven};
use rovnek_core::set::PieceRoute;
use rovnek_store::Store;
use rovnek_store::driven::{Drive, Mover};
use rovnek_store::scene_edit::Changes;

/// Keeps every drive that is no path yet, as an edit that can be undone. The samples stay.
pub fn keep(app: &App) -> Outcome<()> {
    let drives = app.store().open_drives()?;
    if drives.is_empty() {
        return Ok(());
    }
    for drive in &drives {
        let mut store = app.store();
        keep_one(&mut store, drive)?;
        store.close_drive(drive.id)?;
        if let Some(take) = drive.take {
            store.rolled_with(take)?;
        }
    }
    app.changed().map(drop)
}

fn keep_one(store: &mut Store, drive: &Drive) -> rovnek_store::Result<()> {
    let scene = store.document()?.scene;
    let (performance, id) = (drive.performance, scene.id);
    // A breath of a drive is none.
    let rows = drive.values.len() / driven::ROW;
    let known = scene.performances.iter().any(|p| p.id == performance);
    if rows < 12 || !known || scene.id != drive.scene_id {
        return Ok(());
    }
    match drive.mover {
        Mover::Performer(who) => {
            let Some(performer) = scene.performers.iter().find(|p| p.id == who) else { return Ok(()) };
            let mut performer = performer.clone();
            let floor = performer.part(performance).map_or(0.0, floor_of);
            let route = driven::route(&drive.values, drive.rate_hz, floor);
            performer.parts.retain(|p| p.performance != performance);
            performer.parts.push(Part { performance, rides: None, motion: PartMotion::Walks { route } });
            let mut edit = store.edit(format!("drive {}", performer.name), None)?;
            edit.change_performers(id, &Changes { change: vec![performer], ..Changes::default() })?;
            edit.commit()
        }
        Mover::Piece(which) => {
            let Some(piece) = scene.pieces.iter().find(|p| p.id == which) else { return Ok(()) };
            let mut piece = piece.clone();
            let floor =
                piece.route(performance).and_then(|r| r.waypoints.first()).map_or(0.0, |w| w.position[1]);
            let mut route = driven::route(&drive.values, drive.rate_hz, floor);
            // A prop turns from facing to facing; one that is driven faces where it goes throughout.
            for waypoint in &mut route.waypoints {
                let row = ((waypoint.time_s * drive.rate_hz).round() as usize).min(rows - 1);
                waypoint.facing_deg = Some(drive.values[row * driven::ROW + 2].to_degrees());
            }
            piece.routes.retain(|r| r.performance != performance);
            piece.routes.push(PieceRoute { performance, route });
            let mut edit = store.edit(format!("drive {}", piece.name), None)?;
            edit.change_pieces(id, &Changes { change: vec![piece], ..Changes::default() })?;
            edit.commit()
        }
    }
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
