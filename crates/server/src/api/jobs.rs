//! Long work: begun, looked at, stopped, kept.

use super::App;
use super::moves::lanes_bytes;
use super::views::NewMoveView;
use crate::id_of::IdOf;
use crate::jobs::{JobState, JobView, Made};
use crate::moves::{Evaluated, parts_of, title_of};
use crate::pool::Urgency;
use crate::problem::{Outcome, Problem};
use crate::sent::Json;
use crate::snapshot::Changed;
use rocket::{get, post};
use rovnek_core::ids::MoveId;
use rovnek_core::lanes::shown;
use rovnek_core::moves::{NoKeys, Tolerance, by_keys, keys_of};
use rovnek_store::model::{NewMove, Source};
use std::sync::Arc;

/// All jobs, those that are over too.
#[get("/jobs")]
pub fn jobs(app: &App) -> Json<Vec<JobView>> {
    Json(app.jobs.all().to_vec())
}

/// Asks a job to stop; one that is over is taken off the list.
#[post("/jobs/<id>/stop")]
pub fn stop(app: &App, id: u32) -> Json<Vec<JobView>> {
    app.jobs.stop(id);
    Json(app.jobs.all().to_vec())
}

/// Begins to make keys of a move as it now is.
#[post("/moves/<id>/keys", data = "<tolerance>")]
pub fn make_keys(app: &App, id: IdOf<MoveId>, tolerance: Json<Tolerance>) -> Outcome<Json<JobView>> {
    let IdOf(id) = id;
    let tolerance = tolerance.into_inner();
    tolerance.check().map_err(|e| Problem::refused(e.to_string()))?;
    let document = app.document();
    let (of, setup, take) = parts_of(&document, id)?;
    let job = app.jobs.begin(format!("keys of {}", title_of(of, setup, take)), Some(id));
    let (number, mine) = (job.id, app.clone());
    // The job goes on when nobody waits for it.
    rocket::tokio::spawn(async move {
        mine.compute(Urgency::Job, move |app| {
            let Some(mut progress) = app.jobs.run(number) else { return };
            let made = app.current().evaluate(id).map_err(|e| JobState::Failed { sentence: e.to_string() });
            let made = made.and_then(|m| {
                let mut go_on = |share: f64| {
                    app.help(Urgency::Job);
                    progress.at(share)
                };
                let keys = keys_of(&*m.rig, &m.now.samples, tolerance, &mut go_on).map_err(|e| match e {
                    NoKeys::Stopped => JobState::Stopped,
                    other => JobState::Failed { sentence: other.to_string() },
                })?;
                let by_keys = Arc::new(by_keys(&*m.rig, &m.now.samples, &keys.curves));
                Ok(Made { keys: Arc::new(keys), of: m.now.clone(), by_keys })
            });
            match made {
                Ok(made) => {
                    let keys = &made.keys;
                    let state = JobState::Keys {
                        count: keys.count,
                        position_cm: keys.position_cm,
                        rotation_deg: keys.rotation_deg,
                    };
                    app.jobs.end(number, state, Some(made));
                }
                Err(state) => app.jobs.end(number, state, None),
            }
        })
        .await;
    });
    Ok(Json(job))
}

/// What a job made, and of which move.
fn made(app: &crate::app::App, id: u32) -> Outcome<(JobView, MoveId, Made)> {
    app.jobs
        .made(id)
        .and_then(|(job, made)| Some((job.clone(), job.move_id?, made)))
        .ok_or_else(|| Problem::refused("that job has made nothing, or is forgotten; begin it anew"))
}

/// The curves that the keys of a job make, over those they were made of; as of a move.
#[get("/jobs/<id>/lanes?<columns>")]
pub async fn lanes(app: &App, id: u32, columns: Option<usize>) -> Outcome<Vec<u8>> {
    app.compute(Urgency::Picture, move |app| {
        let (_, move_id, made) = made(app, id)?;
        let m = app.current().evaluate(move_id)?;
        let [before, after] = [&made.of.samples, &made.by_keys].map(|s| shown(m.rig.axes(), s));
        Ok(lanes_bytes(0.0, &before, &after, columns))
    })
    .await
}

/// Keeps the keys of a job as a move of their own, exactly as they were shown. Its setup's machine
/// runs it, where that is the machine they were made for.
#[post("/jobs/<id>/keep")]
pub async fn keep(app: &App, id: u32) -> Outcome<Json<NewMoveView>> {
    app.compute(Urgency::Picture, move |app| {
        let (job, move_id, made) = made(app, id)?;
        let Evaluated { of, camera, rigging, .. } = app.current().evaluate(move_id)?;
        let document = app.document();
        let setup = document.setup(of.setup_id)?;
        let same = (&setup.camera, &setup.rig) == (&camera, &rigging);
        let new = NewMove {
            setup_id: of.setup_id,
            name: job.label.clone(),
            source: Source::Curves,
            performance: Some(document.performance_of(&of)),
            variant_of: None,
            curves: made.keys.curves.clone(),
            run: same,
        };
        let before = app.current();
        let (move_id, after) = app.edit(format!("make {}", job.label), |edit| {
            let made = edit.add_move(&new)?;
            if !same {
                edit.own(made, Some(&camera), Some(&rigging))?;
            }
            Ok(made)
        })?;
        app.jobs.stop(id);
        Ok(Json(NewMoveView { move_id, runs: same, changed: Changed::between(&before, &after) }))
    })
    .await
}
