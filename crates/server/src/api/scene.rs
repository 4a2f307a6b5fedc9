//! The set and the performance: as they are drawn, and as they are changed.

use super::App;
use super::document::name;
use super::views::{
    CardView, Edited, FigureView, FrameView, FrameWanted, MeshView, Offer, OutlineView, PatchPerformance,
    SceneEdit, SetView, SolidView,
};
use crate::problem::{Outcome, Problem};
use crate::scenery;
use rocket::http::ContentType;
use rocket::serde::json::Json;
use rocket::{delete, get, patch, post};
use rovnek_core::framing::{corners, drawn};
use rovnek_core::lens::{Camera, LensSet, lens_sets as sets_to_begin_with};
use rovnek_core::playing::Of;
use rovnek_core::set::{Form, convex_hull, footprint};
use rovnek_core::solid::Material;
use rovnek_core::space::{PanTiltRoll, Pose};
use rovnek_core::{DQuat, DVec3};
use rovnek_formats::glb;
use rovnek_store::assets::AssetKind;
use rovnek_store::model::Document;

#[get("/scene/solids")]
pub fn solids(app: &App) -> Outcome<Json<SetView>> {
    let scene = app.store().document()?.scene;
    let moving: Vec<u32> =
        scene.pieces.iter().filter(|p| p.route(scene.performance).is_some()).map(|p| p.id).collect();
    let mut view = SetView {
        solids: vec![SolidView::of(0, &scene.stage.floor())],
        lights: Vec::new(),
        colors: Material::ALL.map(|m| (m, m.color(), m.glows())).into(),
        cards: Vec::new(),
        meshes: Vec::new(),
        outlines: Vec::new(),
    };
    for piece in scene.pieces.iter().filter(|p| !p.hidden) {
        let pose = piece.pose();
        let moves = moving.contains(&piece.id);
        let mut outline = piece.outline();
        if moves && outline.is_empty() {
            // Drawn with the performers; the plan still shows where it stands.
            outline = convex_hull(piece.parts(&scene.pieces).iter().flat_map(footprint).collect());
        }
        if !outline.is_empty() {
            view.outlines.push(OutlineView { piece: piece.id, outline });
        }
        if moves {
            continue;
        }
        view.lights.extend(piece.lights());
        match piece.form {
            Form::Mesh { mesh, scale, .. } => view.meshes.push(MeshView {
                piece: piece.id,
                mesh,
                scale,
                position: piece.position,
                rotation: pose.rotation.to_array(),
            }),
            Form::Card { image, width, height, toward } => view.cards.push(CardView {
                piece: piece.id,
                image,
                toward,
                size: [width, height],
                position: piece.position,
                turn_deg: piece.turn_deg,
            }),
            _ => {}
        }
        view.solids.extend(piece.solids(&scene.pieces).iter().map(|s| SolidView::of(piece.id, s)));
    }
    if view.lights.is_empty() {
        view.lights.push(scene.stage.work_light());
    }
    Ok(Json(view))
}

#[get("/scene/figures")]
pub fn figures(app: &App) -> Outcome<Json<Vec<FigureView>>> {
    let document = app.store().document()?;
    let playing = app.scenery(&document)?.playing;
    let quarters = (document.scene.length_s * 4.0).ceil() as u32;
    let view = |(i, mover): (usize, &rovnek_core::playing::Mover)| {
        let (performer, piece) = match mover.of {
            Of::Performer(id) => (Some(id), None),
            Of::Piece(id) => (None, Some(id)),
        };
        FigureView {
            performer,
            piece,
            name: mover.name.clone(),
            bodies: mover.bodies.clone(),
            path: (0..=quarters).map(|k| playing.position(i, f64::from(k) / 4.0).to_array()).collect(),
            marks: playing.marks(i),
        }
    };
    Ok(Json(playing.movers.iter().enumerate().map(view).collect()))
}

/// Poses a second in the performance sent to the page.
const POSES_HZ: f64 = 30.0;

/// Poses of all movers' bodies: rate, count and bodies (u32 each), then for each time seven f32 a
/// body. `docs/wire.md`.
#[get("/scene/performance")]
pub fn performance(app: &App) -> Outcome<Vec<u8>> {
    let document = app.store().document()?;
    let playing = app.scenery(&document)?.playing;
    let count = (document.scene.length_s * POSES_HZ).ceil() as u32 + 1;
    let bodies: usize = playing.movers.iter().map(|m| m.bodies.len()).sum();
    let mut out = Vec::with_capacity(12 + count as usize * bodies * 28);
    for word in [POSES_HZ as u32, count, bodies as u32] {
        out.extend(word.to_le_bytes());
    }
    for i in 0..count {
        for mover in 0..playing.movers.len() {
            playing.poses(mover, f64::from(i) / POSES_HZ).iter().for_each(|p| put_pose(&mut out, p));
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

/// Any number of changes to the set and the cast, undone in one go.
#[post("/scenes/<id>/edit", data = "<edit>")]
pub fn edit(app: &App, id: u32, edit: Json<SceneEdit>) -> Outcome<Json<Edited>> {
    let label = name("the edit", &edit.label)?;
    let (pieces, performers) = {
        let mut store = app.store();
        let mut changes = store.edit(label, edit.gesture.as_deref())?;
        if let Some(stage) = &edit.stage {
            changes.set_stage(id, stage)?;
        }
        if let Some(length_s) = edit.length_s {
            changes.set_length(id, length_s)?;
        }
        let pieces = edit.pieces.as_ref().map_or(Ok(Vec::new()), |c| changes.change_pieces(id, c))?;
        let performers =
            edit.performers.as_ref().map_or(Ok(Vec::new()), |c| changes.change_performers(id, c))?;
        changes.commit()?;
        (pieces, performers)
    };
    Ok(Json(Edited { document: app.changed()?, pieces, performers }))
}

/// A performance like the one that plays, to be changed.
#[post("/scenes/<id>/performances", data = "<new>")]
pub fn add_performance(app: &App, id: u32, new: Json<PatchPerformance>) -> Outcome<Json<Document>> {
    let name = name("the performance", new.name.as_deref().unwrap_or_default())?;
    {
        let mut store = app.store();
        let like = store.document()?.scene.performance;
        let mut edit = store.edit(format!("add performance {name}"), None)?;
        edit.add_performance(id, &name, like)?;
        edit.commit()?;
    }
    app.changed().map(Json)
}

#[patch("/scenes/<scene>/performances/<id>", data = "<patch>")]
pub fn patch_performance(
    app: &App,
    scene: u32,
    id: u32,
    patch: Json<PatchPerformance>,
) -> Outcome<Json<Document>> {
    {
        let mut store = app.store();
        let label = if patch.name.is_some() { "name a performance" } else { "show another performance" };
        let mut edit = store.edit(label, None)?;
        if let Some(typed) = &patch.name {
            edit.name_performance(id, &name("the performance", typed)?)?;
        }
        if patch.plays == Some(true) {
            edit.show_performance(scene, id)?;
        }
        edit.commit()?;
    }
    app.changed().map(Json)
}

#[delete("/scenes/<scene>/performances/<id>")]
pub fn bin_performance(app: &App, scene: u32, id: u32) -> Outcome<Json<Document>> {
    {
        let mut store = app.store();
        let mut edit = store.edit("remove a performance", None)?;
        edit.bin_performance(scene, id)?;
        edit.commit()?;
    }
    app.changed().map(Json)
}

/// The set as glTF.
#[get("/scene/set.glb")]
pub fn set_glb(app: &App) -> Outcome<(ContentType, Vec<u8>)> {
    let store = app.store();
    let scene = store.document()?.scene;
    let goods = scenery::goods(&store, &scene.pieces)?;
    Ok((ContentType::new("model", "gltf-binary"), glb::write_set(&scene.pieces, &goods)))
}

/// A mesh that was brought in; `docs/wire.md`.
#[get("/assets/<id>/mesh")]
pub fn mesh(app: &App, id: u32) -> Outcome<Vec<u8>> {
    Ok(app.store().asset(AssetKind::Mesh, id)?)
}

/// An image that was brought in.
#[get("/assets/<id>/image")]
pub fn image(app: &App, id: u32) -> Outcome<(ContentType, Vec<u8>)> {
    let bytes = app.store().asset(AssetKind::Image, id)?;
    let kind = if bytes.starts_with(b"\x89PNG") { ContentType::PNG } else { ContentType::JPEG };
    Ok((kind, bytes))
}

/// The lens sets there are to begin with.
#[get("/lenses")]
pub fn lenses() -> Json<Vec<LensSet>> {
    Json(sets_to_begin_with())
}

/// The camera that sees a drawn frame, and what the lenses of the set next to it would see.
#[post("/frame", data = "<wanted>")]
pub fn frame(app: &App, wanted: Json<FrameWanted>) -> Outcome<Json<FrameView>> {
    let document = app.store().document()?;
    let setup = document.setups.iter().find(|s| s.id == wanted.setup_id);
    let camera = &setup.ok_or(rovnek_store::StoreError::Missing("setup", wanted.setup_id))?.camera;
    let (a, b) = (DVec3::from(wanted.corner), DVec3::from(wanted.opposite));
    let found = drawn(camera, a, b, (wanted.right, wanted.up), wanted.tilted).map_err(Problem::refused)?;
    let focal_mm = found.focal_mm;
    if !(2.0..=2000.0).contains(&focal_mm) {
        return Err(Problem::refused(format!(
            "that takes a lens of {focal_mm:.1} mm; there are 2 to 2000 mm"
        )));
    }
    let exact = Camera {
        lens_set: String::new(),
        focal_min_mm: focal_mm,
        focal_max_mm: focal_mm,
        focal_mm,
        ..camera.clone()
    };
    let sets: Vec<LensSet> = sets_to_begin_with().into_iter().chain(document.lens_sets).collect();
    let set = sets.iter().find(|s| s.name == camera.lens_set).unwrap_or(&sets[0]);
    let of_set = set.around(focal_mm).into_iter().map(|lens| {
        Camera { focal_mm: focal_mm.clamp(lens.focal_min_mm, lens.focal_max_mm), ..exact.clone() }
            .with_lens(&set.name, lens)
    });
    let offers = std::iter::once(exact.clone()).chain(of_set);
    let offers =
        offers.map(|camera| Offer { corners: directions(&camera, camera.focal_mm, found.rotation), camera });
    let angles = PanTiltRoll::from_rotation(found.rotation);
    Ok(Json(FrameView {
        pan_deg: angles.pan.to_degrees(),
        tilt_deg: angles.tilt.to_degrees(),
        roll_deg: angles.roll.to_degrees(),
        offers: offers.collect(),
    }))
}

fn directions(camera: &Camera, focal_mm: f64, rotation: DQuat) -> [[f64; 3]; 4] {
    corners(camera, focal_mm, rotation).map(|d| d.to_array())
}
