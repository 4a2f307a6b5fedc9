//! What is found in a move for whoever shapes it: answers to questions about its treatments, and its bad
//! seconds; and the move as plain values.

use super::App;
use super::moves::{load, loaded};
use super::views::KeptView;
use crate::document::snapshot::Changed;
use crate::evaluated::moves::Evaluated;
use crate::evaluated::pool::Urgency;
use crate::evaluated::scenery::Scenery;
use crate::floor::staging;
use crate::http::id_of::IdOf;
use crate::http::problem::{Outcome, Problem};
use crate::http::sent::Json;
use rocket::{get, post};
use rovnek_core::flatten::{Flat, FlatFocus, Flatten, flattened};
use rovnek_core::ids::{MoveId, PerformerId};
use rovnek_core::list::List;
use rovnek_core::measures::Before;
use rovnek_core::mending::{self, Fault, FaultKind, Remedy, Surroundings};
use rovnek_core::motion::{Context, Playing};
use rovnek_core::params::Param;
use rovnek_core::rigs::{FreeCamera, RigSpec, Rigging};
use rovnek_core::treatments::{Answer, Treatment, TreatmentKind, TreatmentQuestion, Trim};
use rovnek_store::model::{NewMove, Scene, Source};
use serde::Deserialize;

/// Answers a question about one of a move's treatments, on the motion that those before it leave.
#[post("/moves/<id>/treatments/<treatment>/ask", data = "<question>")]
pub async fn ask(
    app: &App,
    id: IdOf<MoveId>,
    treatment: u32,
    question: Json<TreatmentQuestion>,
) -> Outcome<Json<Answer>> {
    let IdOf(id) = id;
    let question = question.into_inner();
    question.check().map_err(|e| Problem::refused(e.sentence))?;
    app.compute(Urgency::Metrics, move |app| {
        let now = app.current();
        let of = now.document.a_move(id)?;
        let place = of.treatments.ids().iter().position(|known| *known == treatment);
        let missing = || Problem::refused("this treatment is gone; open the one that is there");
        let place = place.ok_or_else(missing)?;
        let before = &of.treatments[..place];
        let (scene, m) = loaded(app, now.around(id, |moves, from| moves.tried(from, id, before))?)?;
        let timeline = &*m.among(&m.now).playing;
        let context = Context {
            playing: Some(Playing { timeline, version: 0 }),
            ..Context::of(&*m.rig, &m.camera, scene.rate)
        };
        let rest = || app.help(Urgency::Metrics);
        let answer = question.answer(&of.treatments[place].kind, &m.now, &context, &rest);
        answer.map(Json).map_err(|e| Problem::refused(e.sentence))
    })
    .await
}

/// The bad seconds of a move.
#[get("/moves/<id>/faults")]
pub async fn faults(app: &App, id: IdOf<MoveId>) -> Outcome<Json<Vec<Fault>>> {
    let IdOf(id) = id;
    app.compute(Urgency::Metrics, move |app| {
        let now = app.current();
        let (scene, m) = loaded(app, now.evaluate(id)?)?;
        Ok(Json(now.around(id, |_, from| {
            let among = m.among(&m.now);
            let context = from.context(&among, &*m.rig, &m.camera);
            Ok(around(&scene, &among, &m, |around| mending::faults(&m.now, &context, around)))
        })?))
    })
    .await
}

/// A bad second that was told of.
#[derive(Clone, Copy, Deserialize)]
pub struct Which {
    kind: FaultKind,
    from_s: f64,
}

/// The smallest treatment that mends a bad second; null where nothing here does. Each is asked for by
/// itself: of a long move with many, one alone may take a second.
#[post("/moves/<id>/remedy", data = "<which>")]
pub async fn remedy(app: &App, id: IdOf<MoveId>, which: Json<Which>) -> Outcome<Json<Option<Remedy>>> {
    let IdOf(id) = id;
    let which = (which.kind, which.from_s);
    app.compute(Urgency::Metrics, move |app| {
        let now = app.current();
        let (scene, m) = loaded(app, now.evaluate(id)?)?;
        Ok(Json(now.around(id, |moves, from| {
            let among = m.among(&m.now);
            let context = from.context(&among, &*m.rig, &m.camera);
            let evaluate = |list: &[Treatment]| Some(moves.tried(from, id, list).ok()?.now);
            let pause = || app.help(Urgency::Metrics);
            Ok(around(&scene, &among, &m, |around| {
                mending::remedy(which, &m.of.treatments, &context, around, &evaluate, &pause)
            }))
        })?))
    })
    .await
}

/// With what is around a move.
fn around<T>(scene: &Scene, among: &Scenery, m: &Evaluated, work: impl FnOnce(Surroundings) -> T) -> T {
    let name = |who: PerformerId| {
        let named = scene.performers.iter().find(|p| p.id == who);
        named.map_or("somebody".into(), |p| p.name.clone())
    };
    let walls = staging::walls(scene, among.performance(), m.of.setup_id);
    let before = Some(Before { obstacles: &among.obstacles, setup: m.of.setup_id });
    work(Surroundings { camera: &m.camera, people: &among.people, name: &name, walls: &walls, before })
}

/// Parameters of a flat move, and their default values.
#[get("/kinds/flat")]
pub fn flat_kind() -> Json<(Vec<Param>, Flatten)> {
    Json((Flatten::params(), Flatten::default()))
}

/// Keeps a move as plain values: a move of its own, which lasts as long.
#[post("/moves/<id>/flatten", data = "<by>")]
pub async fn flatten(app: &App, id: IdOf<MoveId>, by: Json<Flatten>) -> Outcome<Json<KeptView>> {
    let IdOf(id) = id;
    by.check().map_err(|e| Problem::refused(e.sentence))?;
    app.compute(Urgency::Picture, move |app| {
        let (scene, m) = load(app, id)?;
        let ends_s = m.now.samples.duration_s().min(scene.length_s);
        if by.from_s.is_some_and(|t| t >= ends_s) || by.to_s.is_some_and(|t| t <= m.now.begins_s) {
            let (title, begins_s) = (&m.title, m.now.begins_s);
            let sentence =
                format!("{title} goes from {begins_s:.2} to {ends_s:.2} s; give a range within that");
            return Err(Problem::refused(sentence));
        }
        let Flat { in_air, curves, span } = flattened(&m.now, &*m.rig, scene.rate, scene.length_s, &by);
        let new = NewMove {
            setup_id: m.of.setup_id,
            name: format!("{}, baked", m.title),
            source: Source::Curves,
            performance: Some(app.document().performance_of(&m.of)),
            variant_of: None,
            curves,
            run: false,
        };
        let mut treatments: List<Treatment> = List::default();
        let trim = Trim { start_s: span.0, end_s: (scene.length_s - span.1).max(0.0) };
        if trim != Trim::default() {
            treatments.push(TreatmentKind::Trim(trim).into());
        }
        if by.focus == FlatFocus::OnWhom {
            let focus = |t: &&Treatment| matches!(t.kind, TreatmentKind::Focus(_));
            m.of.treatments.iter().filter(focus).for_each(|t| treatments.push(t.clone()));
        }
        let air = Rigging::from(RigSpec::FreeCamera(FreeCamera::default()));
        let rigging = if in_air { &air } else { &m.rigging };
        let before = app.current();
        let (move_id, after) = app.edit(format!("bake {}", m.title), |edit| {
            let made = edit.add_move(&new)?;
            edit.own(made, Some(&m.camera), Some(rigging))?;
            edit.treat(made, &treatments)?;
            Ok(made)
        })?;
        Ok(Json(KeptView {
            move_id: Some(move_id),
            words: "The baked values are a move of their own.".into(),
            changed: Changed::between(&before, &after),
        }))
    })
    .await
}
