//! The set and the performance, as they are drawn.

use super::App;
use super::views::{
    CardView, ClipView, FrameRequest, FrameView, MeshView, MoverView, Offer, OutlineView, PieceDrawn,
    PieceView, SetByPiece, SolidView,
};
use crate::evaluated::pool::Urgency;
use crate::evaluated::scenery;
use crate::http::id_of::IdOf;
use crate::http::problem::{Outcome, Problem};
use crate::http::sent::Json;
use rocket::http::ContentType;
use rocket::{get, post};
use rovnek_core::framing::{corners, drawn};
use rovnek_core::ids::{ClipId, ImageId, MeshId, PerformanceId, PieceId};
use rovnek_core::lens::{Camera, LensSet, lens_sets as sets_to_begin_with};
use rovnek_core::plan::{self, PiecePlan, WALK_HZ};
use rovnek_core::playing::MoverId;
use rovnek_core::set::Form;
use rovnek_core::solid::{Material, Solid};
use rovnek_core::space::{PanTiltRoll, Pose};
use rovnek_core::{DQuat, DVec3};
use rovnek_formats::glb;
use rovnek_store::model::{Asset, AssetKind};
use std::collections::BTreeMap;
use std::hash::{DefaultHasher, Hash, Hasher};

/// The set while a performance plays.
#[get("/scene/solids?<performance>")]
pub async fn solids(app: &App, performance: Option<IdOf<PerformanceId>>) -> Outcome<Json<SetByPiece>> {
    set_by_piece(app, performance, BTreeMap::new()).await
}

/// The set while a performance plays, without the pieces whose versions the page has.
#[post("/scene/solids?<performance>", data = "<known>")]
pub async fn changed_solids(
    app: &App,
    performance: Option<IdOf<PerformanceId>>,
    known: Json<BTreeMap<PieceId, String>>,
) -> Outcome<Json<SetByPiece>> {
    set_by_piece(app, performance, known.0).await
}

async fn set_by_piece(
    app: &App,
    performance: Option<IdOf<PerformanceId>>,
    known: BTreeMap<PieceId, String>,
) -> Outcome<Json<SetByPiece>> {
    app.compute(Urgency::Picture, move |app| {
        let now = app.current();
        let scene = &now.document.scene;
        let plays = now.playing(performance.map(|IdOf(id)| id))?;
        let view = |piece: PieceId, solids: &[Solid], plan: Option<PiecePlan>| {
            let solids = solids.iter().map(|s| SolidView::of(piece, s)).collect();
            let drawn = PieceDrawn { solids, plan };
            let version = version_of(&drawn);
            let has = known.get(&piece).is_some_and(|theirs| *theirs == version);
            PieceView { piece, version, drawn: (!has).then_some(drawn) }
        };
        let mut set = SetByPiece {
            pieces: vec![view(PieceId(0), &[scene.stage.floor()], None)],
            lights: Vec::new(),
            colors: Material::ALL.map(|m| (m, m.color(), m.glows())).into(),
            cards: Vec::new(),
            meshes: Vec::new(),
            plan: Vec::new(),
            outlines: Vec::new(),
            wild: Vec::new(),
        };
        let plan = plan::pieces(&scene.pieces);
        set.plan.extend(plan.iter().map(|piece| piece.piece));
        let mut plan: BTreeMap<PieceId, PiecePlan> = plan.into_iter().map(|p| (p.piece, p)).collect();
        for piece in scene.pieces.iter().filter(|p| !p.hidden) {
            if !piece.wild.is_empty() {
                set.wild.push((piece.id, piece.wild.clone()));
            }
            let moves = piece.moves(plays);
            if moves {
                let outline = plan::outline(piece, &scene.pieces);
                set.outlines.push(OutlineView { piece: piece.id, outline });
            }
            // What moves is drawn with the performers; but a card's image is seen wherever it goes.
            let solids = if moves { Vec::new() } else { piece.solids(&scene.pieces) };
            set.pieces.push(view(piece.id, &solids, plan.remove(&piece.id)));
            if moves && !matches!(piece.form, Form::Card { .. }) {
                continue;
            }
            set.lights.extend(piece.lights());
            match piece.form {
                Form::Mesh { mesh, scale, .. } => set.meshes.push(MeshView {
                    piece: piece.id,
                    mesh,
                    scale,
                    position: piece.position,
                    rotation: piece.pose().rotation.to_array(),
                }),
                Form::Card { image, width, height, toward, ref sequence } => set.cards.push(CardView {
                    piece: piece.id,
                    image,
                    sequence: sequence.clone(),
                    toward,
                    moves,
                    size: [width, height],
                    position: piece.position,
                    turn_deg: piece.turn_deg,
                }),
                _ => {}
            }
        }
        if set.lights.is_empty() {
            set.lights.push(scene.stage.work_light());
        }
        Ok(Json(set))
    })
    .await
}

/// Version of what is drawn of a piece: a hash of all of it, so that it changes with whatever changes the drawing,
/// also with another piece that stands in this one.
fn version_of(drawn: &PieceDrawn) -> String {
    let mut hasher = DefaultHasher::new();
    serde_json::to_vec(drawn).expect("a drawing is written as JSON").hash(&mut hasher);
    format!("{:016x}", hasher.finish())
}

#[get("/scene/figures?<performance>")]
pub async fn figures(app: &App, performance: Option<IdOf<PerformanceId>>) -> Outcome<Json<Vec<MoverView>>> {
    app.compute(Urgency::Picture, move |app| {
        let now = app.current();
        let document = &now.document;
        let playing = now.scenery(performance.map(|IdOf(id)| id))?.playing;
        let last = (document.scene.length_s * WALK_HZ).ceil() as u32;
        let view = |(i, mover): (usize, &rovnek_core::playing::Mover)| {
            let (performer, piece) = match mover.of {
                MoverId::Performer(id) => (Some(id), None),
                MoverId::Piece(id) => (None, Some(id)),
            };
            MoverView {
                performer,
                piece,
                name: mover.name.clone(),
                bodies: mover.bodies.clone(),
                path: (0..=last).map(|k| playing.position(i, f64::from(k) / WALK_HZ).to_array()).collect(),
                path_hz: WALK_HZ,
                marks: playing.marks(i),
            }
        };
        Ok(Json(playing.movers.iter().enumerate().map(view).collect()))
    })
    .await
}

/// The captured motion that was brought in.
#[get("/scene/clips")]
pub async fn clips(app: &App) -> Outcome<Json<Vec<ClipView>>> {
    app.compute(Urgency::Picture, move |app| {
        let document = app.document();
        let clips = app.clips(&document)?;
        let view = |asset: &Asset| {
            let length_s = clips.get(&ClipId(asset.id))?.length_s();
            Some(ClipView { id: asset.id, name: asset.name.clone(), length_s })
        };
        Ok(Json(document.assets.iter().filter_map(view).collect()))
    })
    .await
}

/// Poses a second in the performance sent to the page.
const POSES_HZ: f64 = 30.0;

/// The timecodes of times of the scene, seconds.
#[post("/scene/timecodes", data = "<times>")]
pub fn timecodes(app: &App, times: Json<Vec<f64>>) -> Outcome<Json<Vec<String>>> {
    let timebase = app.document().scene.timebase();
    let code = |time_s: &f64| match time_s {
        0.0..=86_400.0 => Ok(timebase.timecode(*time_s).to_string()),
        _ => Err(Problem::refused(format!("{time_s} s is no time of a scene; give 0 to 86400 s"))),
    };
    Ok(Json(times.iter().map(code).collect::<Outcome<_>>()?))
}

/// The time of the scene that somebody typed, seconds: a frame's number, seconds or a timecode.
#[get("/scene/time?<typed>")]
pub fn time(app: &App, typed: &str) -> Outcome<Json<f64>> {
    Ok(Json(app.document().scene.timebase().read(typed).map_err(Problem::refused)?))
}

/// Length of a stretch of the performance that is sent at once, seconds.
const STRETCH_S: f64 = 10.0;

/// A stretch of the performance from a time on, poses of all movers' bodies: rate, count of the whole,
/// bodies and the first one here (u32 each), then for each time seven f32 a body. `docs/wire.md`.
#[get("/scene/performance?<performance>&<from_s>")]
pub async fn performance(
    app: &App,
    performance: Option<IdOf<PerformanceId>>,
    from_s: Option<f64>,
) -> Outcome<Vec<u8>> {
    let from_s = from_s.unwrap_or(0.0);
    app.compute(Urgency::Picture, move |app| {
        let now = app.current();
        let length_s = now.document.scene.length_s;
        if !(0.0..=length_s).contains(&from_s) {
            return Err(Problem::refused(format!("{from_s} s is not in the scene of {length_s} s")));
        }
        let playing = now.scenery(performance.map(|IdOf(id)| id))?.playing;
        let count = (length_s * POSES_HZ).ceil() as u32 + 1;
        let first = (from_s * POSES_HZ).floor() as u32;
        // The last of one stretch is the first of the next, so that each is whole by itself.
        let last = (first + (STRETCH_S * POSES_HZ) as u32).min(count - 1);
        let bodies: usize = playing.movers.iter().map(|m| m.bodies.len()).sum();
        let mut out = Vec::with_capacity(16 + (last - first + 1) as usize * bodies * 28);
        for word in [POSES_HZ as u32, count, bodies as u32, first] {
            out.extend_from_slice(&word.to_le_bytes());
        }
        for i in first..=last {
            for mover in 0..playing.movers.len() {
                playing.poses(mover, f64::from(i) / POSES_HZ).iter().for_each(|p| put_pose(&mut out, p));
            }
        }
        Ok(out)
    })
    .await
}

/// Seven f32: position, then rotation x, y, z, w.
pub(super) fn put_pose(out: &mut Vec<u8>, pose: &Pose) {
    pose.seven().into_iter().for_each(|v| put(out, v));
}

/// A number as four bytes. As a slice: byte by byte it took longer than what it carries.
pub(super) fn put(out: &mut Vec<u8>, number: f64) {
    out.extend_from_slice(&(number as f32).to_le_bytes());
}

/// Set as a glTF file.
#[get("/scene/set.glb")]
pub async fn set_glb(app: &App) -> Outcome<(ContentType, Vec<u8>)> {
    app.compute(Urgency::Job, move |app| {
        let document = app.document();
        let pieces = &document.scene.pieces;
        let assets = app.read(|reader| scenery::assets(reader, pieces))?;
        Ok((ContentType::new("model", "gltf-binary"), glb::write_set(pieces, &assets)))
    })
    .await
}

/// A mesh that was brought in; `docs/wire.md`.
#[get("/assets/<id>/mesh")]
pub async fn mesh(app: &App, id: IdOf<MeshId>) -> Outcome<Vec<u8>> {
    let IdOf(id) = id;
    app.wait(move |app| Ok(app.read(|reader| reader.asset(AssetKind::Mesh, id.0))?)).await
}

/// An image that was brought in.
#[get("/assets/<id>/image")]
pub async fn image(app: &App, id: IdOf<ImageId>) -> Outcome<(ContentType, Vec<u8>)> {
    let IdOf(id) = id;
    app.wait(move |app| {
        let bytes = app.read(|reader| reader.asset(AssetKind::Image, id.0))?;
        let kind = if bytes.starts_with(b"\x89PNG") { ContentType::PNG } else { ContentType::JPEG };
        Ok((kind, bytes))
    })
    .await
}

/// The lens sets there are to begin with.
#[get("/lenses")]
pub fn lenses() -> Json<Vec<LensSet>> {
    Json(sets_to_begin_with())
}

/// The camera that sees a drawn frame, and what the lenses of the set next to it would see.
#[post("/frame", data = "<wanted>")]
pub fn frame(app: &App, wanted: Json<FrameRequest>) -> Outcome<Json<FrameView>> {
    let document = app.document();
    let camera = &document.setup(wanted.setup_id)?.camera;
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
    let sets: Vec<LensSet> =
        sets_to_begin_with().into_iter().chain(document.lens_sets.iter().cloned()).collect();
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
