//! The set and the performance, as they are drawn.

use super::App;
use super::views::{FigureView, SetView, SolidView};
use crate::problem::Outcome;
use rocket::get;
use rocket::serde::json::Json;
use rovnek_core::solid::Material;
use rovnek_core::space::Pose;

#[get("/scene/solids")]
pub fn solids(app: &App) -> Outcome<Json<SetView>> {
    let pieces = app.store().document()?.scene.pieces;
    let solids: Vec<SolidView> = pieces
        .iter()
        .enumerate()
        .flat_map(|(i, piece)| piece.solids().iter().map(|s| SolidView::of(i, s)).collect::<Vec<_>>())
        .collect();
    let lights = pieces.iter().flat_map(|p| p.lights()).collect();
    let colors = Material::ALL.map(|m| (m, m.color(), m.glows())).into();
    Ok(Json(SetView { solids, lights, colors }))
}

#[get("/scene/figures")]
pub fn figures(app: &App) -> Outcome<Json<Vec<FigureView>>> {
    let scene = app.store().document()?.scene;
    let view = |performer: &rovnek_core::performer::Performer| {
        let performance = performer.compile();
        let quarters = (scene.length_s * 4.0).ceil() as u32;
        FigureView {
            name: performer.name.clone(),
            bodies: performer.bodies(),
            path: (0..=quarters).map(|i| performance.position(f64::from(i) / 4.0).to_array()).collect(),
            marks: performer.waypoints.iter().filter_map(|w| Some((w.time_s, w.mark.clone()?))).collect(),
        }
    };
    Ok(Json(scene.performers.iter().map(view).collect()))
}

/// Poses a second in the performance sent to the page.
const POSES_HZ: f64 = 60.0;

/// Poses of all performers' bodies: rate, count and bodies (u32 each), then for each time seven
/// f32 a body. `docs/wire.md`.
#[get("/scene/performance")]
pub fn performance(app: &App) -> Outcome<Vec<u8>> {
    let scene = app.store().document()?.scene;
    let compiled: Vec<_> = scene.performers.iter().map(|p| p.compile()).collect();
    let count = (scene.length_s * POSES_HZ).ceil() as u32 + 1;
    let bodies: usize = scene.performers.iter().map(|p| p.bodies().len()).sum();
    let mut out = Vec::with_capacity(12 + count as usize * bodies * 28);
    for word in [POSES_HZ as u32, count, bodies as u32] {
        out.extend(word.to_le_bytes());
    }
    for i in 0..count {
        for performance in &compiled {
            performance.poses(f64::from(i) / POSES_HZ).iter().for_each(|p| put_pose(&mut out, p));
        }
    }
    Ok(out)
}

/// Seven f32: position, then rotation x, y, z, w.
pub(super) fn put_pose(out: &mut Vec<u8>, pose: &Pose) {
    for v in pose.position.to_array().into_iter().chain(pose.rotation.to_array()) {
        out.extend((v as f32).to_le_bytes());
    }
}
