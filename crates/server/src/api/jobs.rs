//! Long work: begun, looked at, stopped, kept.

use super::App;
use super::moves::lanes_bytes;
use super::views::KeptView;
use crate::document::snapshot::Changed;
use crate::evaluated::pool::Urgency;
use crate::http::problem::{Outcome, Problem};
use crate::http::sent::Json;
use crate::jobs::{JobKind, JobRequest, JobState, JobView, Made, NotMade};
use rocket::{get, post};
use std::sync::Arc;

/// All jobs, those that are over too.
#[get("/jobs")]
pub fn jobs(app: &App) -> Json<Vec<JobView>> {
    Json(app.jobs.all().to_vec())
}

/// The kinds of jobs, and what can be set of each.
#[get("/kinds/jobs")]
pub fn kinds() -> Json<Vec<JobKind>> {
    Json(JobRequest::kinds())
}

/// Asks a job to stop; one that is over is taken off the list.
#[post("/jobs/<id>/stop")]
pub fn stop(app: &App, id: u32) -> Json<Vec<JobView>> {
    app.jobs.stop(id);
    Json(app.jobs.all().to_vec())
}

/// Begins a job.
#[post("/jobs", data = "<wanted>")]
pub fn begin(app: &App, wanted: Json<JobRequest>) -> Outcome<Json<JobView>> {
    let (kind, work) = (wanted.kind(), wanted.into_inner().work());
    work.check().map_err(|e| Problem::refused(e.sentence))?;
    let (label, about) = work.about(&app.current())?;
    let job = app.jobs.begin(label, about);
    let (number, mine) = (job.id, app.clone());
    // The job goes on when nobody waits for it.
    rocket::tokio::spawn(async move {
        mine.compute(Urgency::Job, move |app| {
            let Some(mut progress) = app.jobs.run(number) else { return };
            let mut go_on = |share: f64| {
                app.help(Urgency::Job);
                progress.at(share)
            };
            match work.make(&app.current(), &mut go_on) {
                Ok(made) => {
                    let state = JobState::Done { kind, words: made.words(), lanes: made.lanes().is_some() };
                    app.jobs.end(number, state, Some(made));
                }
                Err(NotMade::Stopped) => app.jobs.end(number, JobState::Stopped, None),
                Err(NotMade::Failed(sentence)) => {
                    app.jobs.end(number, JobState::Failed { sentence }, None);
                }
            }
        })
        .await;
    });
    Ok(Json(job))
}

/// What a job made.
fn made(app: &crate::app::App, id: u32) -> Outcome<(JobView, Arc<dyn Made>)> {
    let sentence = "that job has made nothing, or is forgotten; begin it anew";
    app.jobs.made(id).ok_or_else(|| Problem::refused(sentence))
}

/// The curves that a job has made, over those they were made of; as of a move.
#[get("/jobs/<id>/lanes?<columns>")]
pub async fn lanes(app: &App, id: u32, columns: Option<usize>) -> Outcome<Vec<u8>> {
    app.compute(Urgency::Picture, move |app| {
        let (job, made) = made(app, id)?;
        let none = || Problem::refused(format!("{} has no curves to be looked at", job.label));
        let [before, after] = made.lanes().ok_or_else(none)?;
        Ok(lanes_bytes(0.0, before, after, columns))
    })
    .await
}

/// Keeps what a job made, exactly as it was shown.
#[post("/jobs/<id>/keep")]
pub async fn keep(app: &App, id: u32) -> Outcome<Json<KeptView>> {
    app.compute(Urgency::Picture, move |app| {
        let (job, made) = made(app, id)?;
        let before = app.current();
        let (kept, after) =
            app.edit(format!("make {}", job.label), |edit| Ok(made.keep(&before, &job.label, edit)?))?;
        app.jobs.stop(id);
        let words = kept.words.into();
        Ok(Json(KeptView { move_id: kept.move_id, words, changed: Changed::between(&before, &after) }))
    })
    .await
}
