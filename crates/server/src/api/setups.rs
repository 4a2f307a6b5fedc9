//! Setups: camera, machine, and what is on the floor.

use super::App;
use super::views::{
    BaseRequest, CardSeat, DragView, MachineKind, MachineView, PutThere, ReachView, RehearsalView, SetupView,
    SolidView,
};
use crate::document::turning::{INPUTS, setup_of};
use crate::evaluated::pool::Urgency;
use crate::floor::carrying::Carrying;
use crate::http::id_of::IdOf;
use crate::http::problem::{Outcome, Problem};
use crate::http::sent::Json;
use rocket::http::Status;
use rocket::{get, post, put};
use rovnek_core::DVec3;
use rovnek_core::axis::{Axis, AxisGroup};
use rovnek_core::clearance::Around;
use rovnek_core::glide::Glide;
use rovnek_core::ids::{PerformanceId, PieceId, SetupId};
use rovnek_core::keys::values;
use rovnek_core::lens::Camera;
use rovnek_core::placing::Ground;
use rovnek_core::plan;
use rovnek_core::rigs::handles::{Dragged, Grip, dragged, handles, traces};
use rovnek_core::rigs::{Reach, Rig, RigSpec, There, unseen_by_own_lens};
use rovnek_core::space::{PanTiltRoll, Pose};
use rovnek_live::command::{MOST_POSITIONS, RollState};
use rovnek_live::runner::Message;
use rovnek_store::StoreError;
use rovnek_store::model::Setup;
use serde::Deserialize;

/// Where the cameras of all setups stand before anybody drives them, while a performance plays.
#[get("/setups/views?<performance>")]
pub async fn views(app: &App, performance: Option<IdOf<PerformanceId>>) -> Outcome<Json<Vec<SetupView>>> {
    app.compute(Urgency::Picture, move |app| Ok(Json(setup_views(app, performance.map(|IdOf(id)| id))?)))
        .await
}

fn setup_views(app: &crate::app::App, performance: Option<PerformanceId>) -> Outcome<Vec<SetupView>> {
    let now = app.current();
    let document = &now.document;
    let playing = now.scenery(performance)?.playing;
    let carrying = Carrying { document, playing: &playing, moved: &|_| None };
    let setups = &document.setups;
    let view = |setup: &Setup| {
        let rig = setup.rig.build(&setup.camera);
        let start = carrying.start(setup, &*rig);
        let camera = rig.forward(&start).camera;
        let card = match &setup.rig.spec {
            RigSpec::SquareToCard(square) => Some(CardSeat {
                piece: square.card,
                position: square.before_card(&setup.camera, setup.camera.focal_mm).position.to_array(),
            }),
            _ => None,
        };
        SetupView {
            id: setup.id.0,
            position: camera.position.to_array(),
            rotation: camera.rotation.to_array(),
            focal_mm: setup.camera.focal_mm,
            bodies: rig.bodies().to_vec(),
            unseen: unseen_by_own_lens(rig.bodies()),
            poses: rig.body_poses(&start).iter().map(|p| p.seven()).collect(),
            fixed: rig.fixed().iter().map(|s| SolidView::of(PieceId(0), s)).collect(),
            plan: plan::fixed(&*rig),
            card,
        }
    };
    Ok(setups.iter().filter(|s| !s.binned).map(view).collect())
}

#[get("/setups/<id>/machine", rank = 2)]
pub async fn machine(app: &App, id: IdOf<SetupId>) -> Outcome<Json<MachineView>> {
    let IdOf(id) = id;
    app.compute(Urgency::Picture, move |app| {
        let document = app.document();
        let setup = document.setup(id)?;
        Ok(Json(MachineView::of(&setup.rig, &setup.camera)))
    })
    .await
}

/// A wanted camera position, and where the carrying axes are now.
#[derive(Deserialize)]
pub struct ReachRequest {
    position: [f64; 3],
    /// In shown units, one for each axis.
    near: Vec<f64>,
    /// Pan, tilt and roll, degrees; as it looks now where missing.
    #[serde(default)]
    angles: Option<[f64; 3]>,
}

#[post("/setups/<id>/reach", data = "<wanted>")]
pub async fn reach(app: &App, id: IdOf<SetupId>, wanted: Json<ReachRequest>) -> Outcome<Json<ReachView>> {
    let (IdOf(id), wanted) = (id, wanted.into_inner());
    app.compute(Urgency::Picture, move |app| reach_of(app.document().setup(id)?, &wanted)).await
}

fn reach_of(setup: &Setup, wanted: &ReachRequest) -> Outcome<Json<ReachView>> {
    let rig = setup.rig.build(&setup.camera);
    let position = place(wanted.position)?;
    let near = near(&*rig, &wanted.near)?;
    let now = rig.forward(&near).camera;
    // The camera keeps looking the way it does, as far as its head turns.
    let rotation = match wanted.angles {
        Some(angles) if angles.iter().all(|v| v.is_finite()) => {
            let [pan, tilt, roll] = angles.map(f64::to_radians);
            PanTiltRoll { pan, tilt, roll }.to_rotation()
        }
        _ => now.rotation,
    };
    let pose = Pose::new(position, rotation);
    let reach = rig.inverse(pose, &near);
    let axes = reach.axes().iter().zip(rig.axes()).map(|(v, a)| a.unit.to_shown(*v)).collect();
    let shortfall_deg = rig.forward(reach.axes()).camera.rotation.angle_between(rotation).to_degrees();
    let (shortfall_m, limits) = match &reach {
        Reach::Within(_) => (0.0, Vec::new()),
        Reach::Short { shortfall_m, limits, .. } => (*shortfall_m, limits.clone()),
    };
    Ok(Json(ReachView { axes, shortfall_m, shortfall_deg, limits }))
}

/// A hand that drags a handle.
#[derive(Deserialize)]
pub struct DragRequest {
    /// Word of the handle.
    handle: String,
    /// Place of the hand, metres.
    to: [f64; 3],
    /// Present values of the axes, in shown units.
    near: Vec<f64>,
}

/// The axes with which a machine has a handle where the hand is, and what the camera can reach from there.
#[post("/setups/<id>/drag", data = "<wanted>")]
pub async fn drag(app: &App, id: IdOf<SetupId>, wanted: Json<DragRequest>) -> Outcome<Json<DragView>> {
    let (IdOf(id), wanted) = (id, wanted.into_inner());
    app.compute(Urgency::Picture, move |app| drag_of(app.document().setup(id)?, &wanted)).await
}

fn drag_of(setup: &Setup, wanted: &DragRequest) -> Outcome<Json<DragView>> {
    let rig = setup.rig.build(&setup.camera);
    let to = place(wanted.to)?;
    let near = near(&*rig, &wanted.near)?;
    let all = handles(&*rig);
    let handle = all.iter().find(|h| h.word == wanted.handle).ok_or_else(|| {
        let words: Vec<&str> = all.iter().map(|h| h.word).collect();
        let machine = format!("the machine of setup {}", setup.letter);
        Problem::refused(format!(
            "{machine} has no handle {:?}; give one of {}",
            wanted.handle,
            words.join(", ")
        ))
    })?;
    let Dragged { axes, at, shortfall_m, limits } = dragged(&*rig, &handle.grip, to, &near);
    let target = |(i, axis): (usize, &Axis)| (axes[i] != near[i]).then(|| axis.unit.to_shown(axes[i]));
    let targets = rig.axes().iter().enumerate().map(target).collect();
    let traces = if handle.grip == Grip::Camera { traces(&*rig, &axes) } else { Vec::new() };
    Ok(Json(DragView { targets, at: at.to_array(), shortfall_m, limits, traces }))
}

/// A place as a page sends it.
fn place(at: [f64; 3]) -> Outcome<DVec3> {
    if at.iter().all(|v| v.is_finite() && v.abs() < 1e6) {
        return Ok(DVec3::from(at));
    }
    Err(Problem::refused("a position needs three plain numbers"))
}

/// Shortest time in which a machine gets through some of its stored positions.
#[post("/setups/<id>/rehearsal", data = "<through>")]
pub async fn rehearsal(
    app: &App,
    id: IdOf<SetupId>,
    through: Json<Vec<u32>>,
) -> Outcome<Json<RehearsalView>> {
    let (IdOf(id), through) = (id, through.into_inner());
    app.compute(Urgency::Picture, move |app| rehearsal_of(app.document().setup(id)?, &through)).await
}

fn rehearsal_of(setup: &Setup, through: &[u32]) -> Outcome<Json<RehearsalView>> {
    let rig = setup.rig.build(&setup.camera);
    let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
    let row = |number: &u32| {
        let position = setup.positions.iter().find(|p| p.number == *number);
        let missing = || Problem::refused(format!("setup {} has no position {number}", setup.letter));
        Ok(values(&position.ok_or_else(missing)?.axes, rig.axes(), &start))
    };
    let mut rows = through.iter().take(MOST_POSITIONS).map(row).collect::<Outcome<Vec<Vec<f64>>>>()?;
    let Some(first) = rows.first().cloned() else {
        return Err(Problem::refused("a rehearsal goes through positions; name at least one"));
    };
    // An axis that cannot be sent to a value stays, as it does on the floor.
    for row in &mut rows {
        for i in (0..row.len()).filter(|i| !rig.can_be_sent(*i)) {
            row[i] = first[i];
        }
    }
    let glide = Glide::plan(rig.axes(), rows, None, 1.0);
    let bound_by = glide.bound_by.map(|i| rig.axes()[i].name.into());
    Ok(Json(RehearsalView { shortest_s: glide.duration_s, bound_by }))
}

/// Axes as a page sends them, in the core's units.
fn near(rig: &dyn Rig, shown: &[f64]) -> Outcome<Vec<f64>> {
    let plain = shown.iter().all(|v| v.is_finite() && v.abs() < 1e6);
    if !plain || shown.len() != rig.axes().len() {
        return Err(Problem::refused("axes are plain numbers, one for each axis of the machine"));
    }
    Ok(shown.iter().zip(rig.axes()).map(|(v, a)| a.unit.from_shown(*v)).collect())
}

/// The machines there are, as they come.
#[get("/machines")]
pub fn machines() -> Json<Vec<MachineKind>> {
    let kind = |rig: RigSpec| {
        let built = rig.build(&Camera::default());
        let carries = |a: &&Axis| a.group == AxisGroup::Machine;
        let hands = built.axes().iter().filter(carries).filter_map(|a| a.hand).collect();
        MachineKind { word: rig.word(), rig, hands }
    };
    Json(RigSpec::all().into_iter().map(kind).collect())
}

/// A machine of a kind, as it comes, put where its camera is about there, looking the same way.
#[post("/machines", data = "<wanted>")]
pub async fn put_there(app: &App, wanted: Json<PutThere>) -> Outcome<Json<RigSpec>> {
    let wanted = wanted.into_inner();
    app.compute(Urgency::Picture, move |app| machine_there(app, &wanted).map(Json)).await
}

fn machine_there(app: &crate::app::App, wanted: &PutThere) -> Outcome<RigSpec> {
    let angles = [wanted.pan_deg, wanted.tilt_deg, wanted.roll_deg];
    if !wanted.position.iter().chain(&angles).all(|v| v.abs() <= 1e4) {
        return Err(Problem::refused("a machine is put at plain numbers up to 10 000"));
    }
    let [pan, tilt, roll] = angles.map(f64::to_radians);
    let there = There { position: DVec3::from(wanted.position), turn: PanTiltRoll { pan, tilt, roll } };
    let found = RigSpec::all().into_iter().find(|rig| rig.kind() == wanted.kind);
    let rig = found.ok_or_else(|| Problem::refused(format!("there is no machine \"{}\"", wanted.kind)))?;
    let Some(clear) = &wanted.clear else { return Ok(rig.put(&there)) };
    let now = app.current();
    let scenery = now.scenery(None)?;
    let ground = Ground {
        stage: &now.document.scene.stage,
        obstacles: &scenery.obstacles,
        around: Around { time_s: clear.time_s, setup: clear.setup, ..Around::default() },
    };
    let camera = now.document.setup(clear.setup).map(|setup| setup.camera.clone()).unwrap_or_default();
    Ok(ground.placed(&rig, &there, &camera))
}

/// How the page's devices are assigned, as the page keeps it.
#[get("/inputs")]
pub async fn inputs(app: &App) -> Json<serde_json::Value> {
    app.wait(move |app| {
        let kept = app.store().remembered(INPUTS).and_then(|s| serde_json::from_str(&s).ok());
        Json(kept.unwrap_or(serde_json::Value::Null))
    })
    .await
}

#[put("/inputs", data = "<inputs>")]
pub async fn keep_inputs(app: &App, inputs: Json<serde_json::Value>) -> Outcome<Json<serde_json::Value>> {
    app.wait(move |app| {
        let text = inputs.to_string();
        if text.len() > 256 << 10 {
            return Err(Problem::refused(
                "more than 256 kB of assignments; remove presets that are not used",
            ));
        }
        app.writing(|writing| Ok(writing.store().remember(INPUTS, &text)?))?;
        Ok(inputs)
    })
    .await
}

/// Lays a take below the next roll, or none. Its setup must be on the floor.
#[post("/floor/below", data = "<wanted>")]
pub async fn set_base(app: &App, wanted: Json<BaseRequest>) -> Outcome<Status> {
    app.compute(Urgency::Picture, move |app| {
        let now = app.here()?;
        let document = &now.document;
        if let Some(id) = wanted.take {
            let take = document.take(id)?;
            let (on, roll) = {
                let status = app.floor.status.borrow();
                (status.setup_id, status.roll)
            };
            let setup = document.setups.iter().find(|s| s.id == take.setup_id);
            let n = take.number;
            let fault = if take.pass.is_some() {
                Some(format!("this is a pass of take {n}; lay the take itself below"))
            } else if take.rolling || take.samples < 2 {
                Some(format!("take {n} is not closed yet; cut it first"))
            } else if take.setup_id != on {
                Some(format!("take {n} was rolled in another setup; put that one onto the floor first"))
            } else if roll != RollState::Standby {
                Some("a take is rolling; cut it first".into())
            } else if setup.is_some_and(|s| s.rig.build(&s.camera).axes().len() != take_width(take)) {
                Some(format!("the machine of take {n} has been changed since; undo that, or roll a new take"))
            } else {
                None
            };
            if let Some(sentence) = fault {
                return Err(Problem::refused(sentence));
            }
        }
        app.stage()?;
        let below = wanted.take.map(|take| app.base_of(&now, take)).transpose()?;
        // While the right to write is held, no other scene can come onto the floor.
        app.writing(|writing| {
            writing.app.lay_below(below);
            Ok(Status::NoContent)
        })
    })
    .await
}

fn take_width(take: &rovnek_store::model::Take) -> usize {
    take.rig.build(&take.camera).axes().len()
}

/// Puts a setup onto the floor.
#[post("/setups/<id>/floor")]
pub async fn put_on_floor(app: &App, id: IdOf<SetupId>) -> Outcome<Status> {
    let IdOf(id) = id;
    app.wait(move |app| {
        let document = &app.here()?.document;
        if !document.setups.iter().any(|s| s.id == id && !s.binned) {
            return Err(StoreError::Missing("setup", id.0).into());
        }
        if app.floor.status.borrow().roll != RollState::Standby && app.floor.status.borrow().setup_id != id {
            return Err(Problem::refused(
                "a take is rolling; cut it before another setup goes onto the floor",
            ));
        }
        // The floor may not know yet what was edited just before.
        app.stage()?;
        app.writing(|writing| {
            writing.store().remember(&setup_of(document.scene.id), &id.to_string())?;
            let _ = app.floor.messages.send(Message::Put(id));
            Ok(Status::NoContent)
        })
    })
    .await
}
