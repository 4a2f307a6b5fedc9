//! Moves: pictures, curves, figures, files, whatever they come from.

use super::App;
use super::scene::{put, put_pose};
use super::takes::{Download, named};
use super::views::{FiguresView, FollowView, MachineView};
use crate::evaluated::moves::Evaluated;
use crate::evaluated::pool::Urgency;
use crate::evaluated::scenery::{self, Scenery};
use crate::exports::{self, ExportKind};
use crate::http::id_of::IdOf;
use crate::http::problem::{Outcome, Problem};
use crate::http::sent::Json;
use rocket::form::{self, FromFormField, ValueField};
use rocket::{FromForm, get, post};
use rovnek_core::evaluate::{frame_numbers, frames_at, path};
use rovnek_core::follow::SHORT_M;
use rovnek_core::framing::{self, ShotSize};
use rovnek_core::ids::{MoveId, PerformerId};
use rovnek_core::lanes::{CurvesOf, LaneKind, column_count, envelopes};
use rovnek_core::lens::{depth_of_field, hyperfocal};
use rovnek_core::list::List;
use rovnek_core::measures;
use rovnek_core::motion::Motion;
use rovnek_core::samples::Samples;
use rovnek_core::space::PanTiltRoll;
use rovnek_core::time::Rate;
use rovnek_core::treatments::{self, Described, Interval, PresetTreatments, Treatment, TreatmentKind};
use rovnek_core::warnings::stretches;
use rovnek_store::model::Scene;

/// Before the treatments, or after.
#[derive(FromFormField, Clone, Copy, Default, PartialEq)]
pub enum Stage {
    Raw,
    #[default]
    Now,
}

impl Stage {
    fn of(self, m: &Evaluated) -> &Motion {
        if self == Stage::Raw { &m.raw } else { &m.now }
    }
}

pub(super) fn load(app: &crate::app::App, id: MoveId) -> Outcome<(Scene, Evaluated)> {
    loaded(app, app.current().evaluate(id)?)
}

pub(super) fn loaded(app: &crate::app::App, m: Evaluated) -> Outcome<(Scene, Evaluated)> {
    let scene = app.document().scene.clone();
    if m.raw.is_empty() {
        return Err(Problem::refused(format!("{} has no samples yet", m.title)));
    }
    Ok((scene, m))
}

#[get("/moves/<id>/machine")]
pub async fn machine(app: &App, id: IdOf<MoveId>) -> Outcome<Json<MachineView>> {
    let IdOf(id) = id;
    app.compute(Urgency::Picture, move |app| {
        let document = app.document();
        let (camera, rigging) = document.machine_of(document.a_move(id)?);
        Ok(Json(MachineView::of(&rigging, &camera)))
    })
    .await
}

/// The frames of a move, for playing; `docs/wire.md`.
#[get("/moves/<id>/frames?<stage>&<around>")]
pub async fn frames(
    app: &App,
    id: IdOf<MoveId>,
    stage: Option<Stage>,
    around: Option<usize>,
) -> Outcome<Vec<u8>> {
    let IdOf(id) = id;
    app.compute(Urgency::Picture, move |app| {
        let (scene, m) = load(app, id)?;
        frames_bytes(&scene, &m, stage.unwrap_or_default().of(&m), around)
    })
    .await
}

/// Frames of a window; a move with no more is sent as a whole.
const WINDOW: usize = 1200;

/// The frames of the window that has the frame `around` in it, and the one after them, so that frames are
/// mixed across its end; without `around` all of them.
fn frames_bytes(scene: &Scene, m: &Evaluated, motion: &Motion, around: Option<usize>) -> Outcome<Vec<u8>> {
    let camera = &m.camera;
    let numbers = frame_numbers(motion, scene.rate);
    let (first, count) = (numbers.start, numbers.len());
    let from = around.map_or(0, |frame| {
        let place = frame.saturating_sub(first).min(count.saturating_sub(1));
        place - place % WINDOW
    });
    let to = around.map_or(count, |_| count.min(from + WINDOW + 1));
    let frames = frames_at(motion, &*m.rig, scene.rate, first + from..first + to);
    let Scenery { people, playing, .. } = m.among(motion);
    let riders: Vec<usize> = playing.riders(m.of.setup_id).collect();
    let carried: usize = riders.iter().map(|i| playing.movers[*i].bodies.len()).sum();
    let (axes, bodies) = (m.rig.axes().len(), m.rig.bodies().len());
    let mut out =
        Vec::with_capacity(64 + count * 12 + frames.len() * 4 * (24 + axes + 7 * (bodies + carried)));
    let path = path(motion, &*m.rig, scene.rate);
    // Where it jumps: the frame from which on it is on the other side, and the place between frames.
    let place = |cut: &f64| cut * scene.rate.hz() - first as f64;
    let cuts: Vec<(u32, f32)> = motion
        .cuts
        .iter()
        .map(place)
        .filter(|place| *place > 0.0 && place.ceil() < count as f64)
        .map(|place| ((place - 1e-6).ceil() as u32, place as f32))
        .collect();
    for word in [first, count, axes, bodies, riders.len(), cuts.len(), from, frames.len(), WINDOW] {
        out.extend_from_slice(&(word as u32).to_le_bytes());
    }
    for (frame, place) in cuts {
        out.extend_from_slice(&frame.to_le_bytes());
        out.extend_from_slice(&place.to_le_bytes());
    }
    for mover in riders.iter().map(|i| &playing.movers[*i]) {
        let (kind, id) = mover.of.code();
        for word in [u32::from(kind), id, mover.bodies.len() as u32] {
            out.extend_from_slice(&word.to_le_bytes());
        }
    }
    for position in path {
        position.to_array().into_iter().for_each(|number| put(&mut out, number));
    }
    let timebase = scene.timebase();
    for frame in &frames {
        out.extend_from_slice(&timebase.timecode(frame.time_s).packed().to_le_bytes());
    }
    for frame in &frames {
        put_pose(&mut out, &frame.rig_pose.camera);
        let a = PanTiltRoll::from_rotation(frame.rig_pose.camera.rotation);
        let lens = frame.lens;
        let (near, far) = depth_of_field(camera, lens);
        let seen = framing::subject(camera, lens.focal_mm, frame.rig_pose.camera, people.at(frame.time_s));
        let (id, share) = seen.map_or((PerformerId(0), 0.0), |s| (people.id(s.index), s.share));
        let shot = seen.map_or(0, |s| ShotSize::of(s.share).code());
        let (right, up) = camera.half_frame(lens.focal_mm);
        let (across, high) = camera.field_of_view(lens.focal_mm);
        let numbers = lens
            .axes()
            .into_iter()
            .chain([near, far])
            .chain([a.pan, a.tilt, a.roll].map(f64::to_degrees))
            .chain([hyperfocal(camera, lens), f64::from(id.0), share, right, up, f64::from(shot)])
            .chain([across, high].map(f64::to_degrees))
            .chain(frame.axes.iter().zip(m.rig.axes()).map(|(v, a)| a.unit.to_shown(*v)));
        numbers.for_each(|number| put(&mut out, number));
        frame.bodies.iter().for_each(|b| put_pose(&mut out, b));
        for rider in &riders {
            playing.poses(*rider, frame.time_s).iter().for_each(|b| put_pose(&mut out, b));
        }
    }
    Ok(out)
}

/// Content of curves, as an address spells it.
#[derive(Clone, Copy, Default)]
pub struct Curves(CurvesOf);

#[rocket::async_trait]
impl<'r> FromFormField<'r> for Curves {
    fn from_value(field: ValueField<'r>) -> form::Result<'r, Self> {
        let known = CurvesOf::ALL.into_iter().find(|(name, _)| *name == field.value);
        known.map(|(_, of)| Curves(of)).ok_or_else(|| form::Error::validation("no such curves").into())
    }
}

/// Kinds of curves besides those of axes, each with its content.
#[get("/kinds/lanes")]
pub fn lane_kinds() -> Json<Vec<(&'static str, &'static [LaneKind])>> {
    Json(CurvesOf::ALL.map(|(name, of)| (name, of.lanes())).to_vec())
}

/// Query for curves.
#[derive(FromForm)]
pub struct CurvesQuery {
    /// Content of the curves: axes by default.
    of: Option<Curves>,
    /// On how many columns; one a sample where it is missing.
    columns: Option<usize>,
    /// From when on, seconds.
    from_s: Option<f64>,
    /// End of the stretch, seconds.
    to_s: Option<f64>,
}

/// The curves of a move before and after its treatments, on so many columns; `docs/wire.md`.
#[get("/moves/<id>/lanes?<asked..>")]
pub async fn lanes(app: &App, id: IdOf<MoveId>, asked: CurvesQuery) -> Outcome<Vec<u8>> {
    let IdOf(id) = id;
    app.compute(Urgency::Picture, move |app| {
        let (_, m) = load(app, id)?;
        lanes_of(&m, &asked)
    })
    .await
}

fn lanes_of(m: &Evaluated, asked: &CurvesQuery) -> Outcome<Vec<u8>> {
    let of = asked.of.unwrap_or_default().0;
    let about = if of == CurvesOf::Distance {
        let people = m.among(&m.now).people;
        let whom = measures::mainly(&m.raw.track(&*m.rig), &m.camera, &people);
        whom.map(|index| (people.id(index), people))
    } else {
        None
    };
    let eyes = |time_s: f64| about.as_ref().and_then(|(who, people)| people.eyes(*who, time_s));
    let [before, after] = [&m.raw, &m.now].map(|motion| of.curves(motion, &*m.rig, &eyes));
    // Retimed, one is longer than the other: beyond its end there is no curve, nor before it begins.
    let after = after.from_row(m.now.first());
    let longest = before.len().max(after.len());
    let [before, after] = [before, after].map(|curves| curves.extended(longest, f64::NAN));
    let window = before.window(asked.from_s.unwrap_or(0.0), asked.to_s.unwrap_or(f64::INFINITY));
    let first_s = window.start as f64 / before.rate_hz();
    Ok(lanes_bytes(first_s, &before.part(window.clone()), &after.part(window), asked.columns))
}

/// Part of a tried move that is asked for: frames, lanes or figures.
#[derive(FromFormField, Clone, Copy, PartialEq)]
pub enum Part {
    Frames,
    Lanes,
    Figures,
}

/// A move under treatments that are tried while a control is dragged; nothing of it is kept.
#[post("/moves/<id>/preview?<part>&<around>&<asked..>", data = "<treatments>")]
pub async fn preview(
    app: &App,
    id: IdOf<MoveId>,
    part: Part,
    around: Option<usize>,
    asked: CurvesQuery,
    treatments: Json<List<Treatment>>,
) -> Outcome<Vec<u8>> {
    let IdOf(id) = id;
    let urgency = if part == Part::Figures { Urgency::Metrics } else { Urgency::Picture };
    app.compute(urgency, move |app| {
        let (scene, m) =
            loaded(app, app.current().around(id, |moves, from| moves.tried(from, id, &treatments))?)?;
        match part {
            Part::Frames => frames_bytes(&scene, &m, &m.now, around),
            Part::Lanes => lanes_of(&m, &asked),
            Part::Figures => {
                Ok(serde_json::to_vec(&figures_of(app, &scene, &m)).expect("figures are plain data"))
            }
        }
    })
    .await
}

/// Curves before and after from a time on, as they are sent; without a number of columns every sample
/// has one.
pub fn lanes_bytes(first_s: f64, before: &Samples, after: &Samples, most: Option<usize>) -> Vec<u8> {
    let columns = column_count(before.len(), most.unwrap_or(usize::MAX));
    let mut out = Vec::with_capacity(20 + columns * before.width() * 16);
    for word in [before.len(), before.width(), columns] {
        out.extend_from_slice(&(word as u32).to_le_bytes());
    }
    put(&mut out, before.rate_hz());
    put(&mut out, first_s);
    let [before, after] = [before, after].map(|curves| envelopes(curves, columns));
    for (before, after) in before.iter().zip(&after) {
        for bound in [&before.low, &before.high, &after.low, &after.high] {
            bound.iter().for_each(|v| out.extend_from_slice(&v.to_le_bytes()));
        }
    }
    out
}

#[get("/moves/<id>/figures")]
pub async fn figures(app: &App, id: IdOf<MoveId>) -> Outcome<Json<FiguresView>> {
    let IdOf(id) = id;
    app.compute(Urgency::Metrics, move |app| {
        let (scene, m) = load(app, id)?;
        Ok(Json(figures_of(app, &scene, &m)))
    })
    .await
}

fn figures_of(app: &crate::app::App, scene: &Scene, m: &Evaluated) -> FiguresView {
    // Pictures of somebody who drags a control do not wait for all of it.
    let rest = || app.help(Urgency::Metrics);
    let (raw, now) = (m.raw.seen(&*m.rig), m.now.seen(&*m.rig));
    rest();
    let before = m.figures_before(&raw);
    rest();
    let after = measures::figures(&now, &m.now.cuts);
    rest();
    let departure = measures::departure(&now, &raw).unwrap_or(measures::Departure::NONE);
    let warnings = m.warnings(scene.rate);
    let axes = measures::axis_tops(&m.raw, &m.now, m.rig.axes());
    let people = m.among(&m.now).people;
    let lost = measures::lost(&raw, &now, &m.camera, &people);
    let name = |l: &measures::Lost| scene.performers.iter().find(|p| p.id == l.who).map_or("", |p| &*p.name);
    let lost = lost.map(|l| (l, name(&l)));
    let keys = keys_of(m, scene.rate);
    let covered = lost.as_ref().map(|(lost, who)| {
        let among = m.among(&m.now);
        let before = measures::Before { obstacles: &among.obstacles, setup: m.of.setup_id };
        let index = (0..).find(|i| people.id(*i) == lost.who).expect("they are among them");
        (*who, [&raw, &now].map(|track| measures::covered_times(track, &m.camera, &people, index, before)))
    });
    let rows = measures::strip(before, &after, departure, &axes, lost, covered, keys);
    let marks = measures::marks(&m.now, &m.of.curves, m.rig.axes(), scene.rate);
    FiguresView { raw: before.clone(), now: after, departure, rows, warnings, marks }
}

/// Number of keys of a move as it comes and as it is now; none for a move without keys.
fn keys_of(m: &Evaluated, rate: Rate) -> [Option<usize>; 2] {
    let own: usize = m.of.curves.values().map(|keys| keys.len()).sum();
    let own = (own > 0).then_some(own);
    let taken = m.of.treatments.iter().rev().filter(|t| t.on).find_map(|t| match &t.kind {
        TreatmentKind::Keys(keys) => Some(keys.every.times(m.now.samples.duration_s(), rate).len()),
        _ => None,
    });
    let axes = m.rig.axes().iter().filter(|a| a.hand.is_some()).count();
    [own, taken.map(|times| times * axes).or(own)]
}

/// A move as a file of a kind.
#[get("/moves/<id>/export?<as>&<stage>")]
pub async fn export(app: &App, id: IdOf<MoveId>, r#as: &str, stage: Option<Stage>) -> Outcome<Download> {
    let IdOf(id) = id;
    let kind: ExportKind = r#as.parse().map_err(Problem::refused)?;
    app.compute(Urgency::Job, move |app| {
        let (scene, m) = load(app, id)?;
        let stage = stage.unwrap_or_default();
        let playing = m.among(stage.of(&m)).playing;
        let assets = app.read(|reader| scenery::assets(reader, &scene.pieces))?;
        let around = exports::Around { scene: &scene, playing: &playing, assets: &assets };
        let bytes = exports::file(kind, &around, &m, stage.of(&m));
        let content = kind.media.parse().expect("it is written as a media type");
        let raw = if stage == Stage::Raw { "-raw" } else { "" };
        Ok(named(bytes, content, &scene, &m.title, &format!("{raw}.{}", kind.ending)))
    })
    .await
}

/// The times of the keys that a move as it now is has, one every so many frames or seconds.
#[get("/moves/<id>/keys?<frames>&<seconds>")]
pub async fn keys(
    app: &App,
    id: IdOf<MoveId>,
    frames: Option<u32>,
    seconds: Option<f64>,
) -> Outcome<Json<Vec<f64>>> {
    let IdOf(id) = id;
    let every = match (frames, seconds) {
        (Some(n), None) => Interval::Frames(n),
        (None, Some(s)) => Interval::Seconds(s),
        _ => return Err(Problem::refused("say either how many frames or how many seconds apart")),
    };
    every.check().map_err(|e| Problem::refused(e.sentence))?;
    app.compute(Urgency::Picture, move |app| {
        let (scene, m) = load(app, id)?;
        let times = every.times(m.now.samples.duration_s(), scene.rate);
        Ok(Json(times.into_iter().filter(|t| *t >= m.now.begins_s).collect()))
    })
    .await
}

/// Shortfall of a machine that follows, frame by frame, and the speed of its base.
#[get("/moves/<id>/follow")]
pub async fn follow(app: &App, id: IdOf<MoveId>) -> Outcome<Json<FollowView>> {
    let IdOf(id) = id;
    app.compute(Urgency::Picture, move |app| {
        let (scene, m) = load(app, id)?;
        let sentence = || Problem::refused(format!("{} follows no other move", m.title));
        let short_m = m.short_m.as_ref().ok_or_else(sentence)?;
        let raw = &m.raw.samples;
        let base = |k: usize| {
            let row = |k: usize| m.rig.forward(raw.row(k.min(raw.len() - 1))).carriage.position;
            row(k + 1).distance(row(k)) * raw.rate_hz()
        };
        let count = scene.rate.frames_within(raw.duration_s());
        let sample =
            |frame: usize| ((scene.rate.time_of(frame) * raw.rate_hz()).round() as usize).min(raw.len() - 1);
        Ok(Json(FollowView {
            gaps: stretches(raw.rate_hz(), scene.rate, short_m, SHORT_M),
            length_s: raw.duration_s(),
            short_m: (0..count).map(|f| short_m[sample(f)]).collect(),
            base_m_s: (0..count).map(|f| base(sample(f))).collect(),
        }))
    })
    .await
}

/// The kinds of treatments, and what can be set of each.
#[get("/kinds/treatments")]
pub fn kinds() -> Json<Vec<Described>> {
    Json(TreatmentKind::all())
}

/// Treatments that go together, by what they do to the picture.
#[get("/kinds/presets")]
pub fn presets() -> Json<Vec<PresetTreatments>> {
    Json(treatments::presets())
}

/// The kinds of files that a move is taken away as.
#[get("/kinds/exports")]
pub fn export_kinds() -> Json<[ExportKind; exports::KINDS.len()]> {
    Json(exports::KINDS)
}
