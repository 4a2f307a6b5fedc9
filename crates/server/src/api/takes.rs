//! Takes and their moves: pictures, curves, figures, files.

use super::App;
use super::scene::put_pose;
use super::views::{AxisTop, FiguresView, MachineView, ShakeView};
use crate::app::Move;
use crate::pool::Urgency;
use crate::problem::{Outcome, Problem};
use crate::{scenery, takeaway};
use rocket::http::{ContentType, Header, Status};
use rocket::serde::json::Json;
use rocket::{FromFormField, Responder, get, post};
use rovnek_core::evaluate::{frames as frames_of, track_of_samples};
use rovnek_core::framing;
use rovnek_core::keys::{Key, taken};
use rovnek_core::lens::{depth_of_field, hyperfocal};
use rovnek_core::measures;
use rovnek_core::samples::Samples;
use rovnek_core::space::PanTiltRoll;
use rovnek_core::treatments::{Described, Every, Kind};
use rovnek_formats::WriteFormat;
use rovnek_formats::tracking::capture;
use rovnek_store::model::{Scene, Take};

/// Raw, or after the treatments.
#[derive(FromFormField, Clone, Copy, Default, PartialEq)]
pub enum Stage {
    Raw,
    #[default]
    Now,
}

impl Stage {
    fn of(self, a_move: &Move) -> &Samples {
        if self == Stage::Raw { &a_move.raw } else { &a_move.now }
    }
}

fn load(app: &crate::app::App, id: u32) -> Outcome<(Scene, Move)> {
    let scene = app.document().scene.clone();
    let a_move = app.move_of(id, scene.rate)?;
    if a_move.raw.is_empty() {
        return Err(Problem::refused(format!("take {} has no samples yet", a_move.take.number)));
    }
    Ok((scene, a_move))
}

#[post("/bin/empty")]
pub async fn empty_bin(app: &App) -> Outcome<Status> {
    app.wait(|app| {
        app.store().empty_bin()?;
        app.changed()?;
        Ok(Status::NoContent)
    })
    .await
}

#[get("/takes/<id>/machine")]
pub fn machine(app: &App, id: u32) -> Outcome<Json<MachineView>> {
    let document = app.document();
    let take = document.take(id)?;
    Ok(Json(MachineView::of(&*take.rig.build(&take.camera))))
}

/// The frames of a move, for playing; `docs/wire.md`.
#[get("/takes/<id>/frames?<stage>")]
pub async fn frames(app: &App, id: u32, stage: Option<Stage>) -> Outcome<Vec<u8>> {
    app.compute(Urgency::Picture, move |app| {
        let (scene, m) = load(app, id)?;
        let camera = &m.take.camera;
        let frames = frames_of(stage.unwrap_or_default().of(&m), &*m.rig, camera, scene.rate);
        let document = app.document();
        let people = app.scenery(&document)?.people;
        let (axes, bodies) = (m.rig.axes().len(), m.rig.bodies().len());
        let mut out = Vec::with_capacity(12 + frames.len() * 4 * (18 + axes + 7 * bodies));
        for word in [frames.len(), axes, bodies] {
            out.extend((word as u32).to_le_bytes());
        }
        for frame in &frames {
            put_pose(&mut out, &frame.stance.camera);
            let a = PanTiltRoll::from_rotation(frame.stance.camera.rotation);
            let focal = frame.lens.focal_mm;
            let (near, far) = depth_of_field(camera, focal, frame.lens.focus_m);
            let seen = framing::subject(camera, focal, frame.stance.camera, people.at(frame.time_s));
            let (id, share) = seen.map_or((0, 0.0), |s| (people.id(s.index), s.share));
            let numbers = [frame.lens.focal_mm, frame.lens.focus_m, frame.lens.f_stop, near, far]
                .into_iter()
                .chain([a.pan, a.tilt, a.roll].map(f64::to_degrees))
                .chain([hyperfocal(camera, focal), f64::from(id), share])
                .chain(frame.axes.iter().zip(m.rig.axes()).map(|(v, a)| a.unit.to_shown(*v)));
            for number in numbers {
                out.extend((number as f32).to_le_bytes());
            }
            frame.stance.bodies.iter().for_each(|b| put_pose(&mut out, b));
        }
        Ok(out)
    })
    .await
}

/// The curves of a move at every sample: samples and axes (u32), rate (f32), then for each axis
/// its raw values and its values now (f32, shown units); `docs/wire.md`.
#[get("/takes/<id>/lanes")]
pub async fn lanes(app: &App, id: u32) -> Outcome<Vec<u8>> {
    app.compute(Urgency::Picture, move |app| {
        let (_, m) = load(app, id)?;
        let axes = m.rig.axes();
        let mut out = Vec::with_capacity(12 + m.raw.len() * axes.len() * 8);
        out.extend((m.raw.len() as u32).to_le_bytes());
        out.extend((axes.len() as u32).to_le_bytes());
        out.extend((m.raw.rate_hz() as f32).to_le_bytes());
        let mut raw = Samples::clone(&m.raw);
        raw.unwrap_angles(axes);
        for (i, axis) in axes.iter().enumerate() {
            for samples in [&raw, &*m.now] {
                for row in samples.rows() {
                    out.extend((axis.unit.to_shown(row[i]) as f32).to_le_bytes());
                }
            }
        }
        Ok(out)
    })
    .await
}

#[get("/takes/<id>/figures")]
pub async fn figures(app: &App, id: u32) -> Outcome<Json<FiguresView>> {
    app.compute(Urgency::Metrics, move |app| {
        let (_, m) = load(app, id)?;
        let track = |samples: &Samples| track_of_samples(samples, &*m.rig, &m.take.camera);
        let (raw, now) = (track(&m.raw), track(&m.now));
        let top = |samples: &Samples, i: usize| {
            let column = samples.column(i);
            column.windows(2).map(|w| (w[1] - w[0]).abs()).fold(0.0, f64::max) * samples.rate_hz()
        };
        let axes = m.rig.axes().iter().enumerate().map(|(i, axis)| AxisTop {
            name: axis.name.into(),
            unit: axis.unit.symbol(),
            raw: axis.unit.to_shown(top(&m.raw, i)),
            now: axis.unit.to_shown(top(&m.now, i)),
        });
        Ok(Json(FiguresView {
            raw: measures::figures(&raw),
            now: measures::figures(&now),
            departure: measures::departure(&now, &raw),
            axes: axes.collect(),
        }))
    })
    .await
}

/// A file to take away.
#[derive(Responder)]
pub struct Download {
    bytes: Vec<u8>,
    kind: ContentType,
    name: Header<'static>,
}

/// A take as a file: csv, glb, tum, opentrackio or axes.
#[get("/takes/<id>/export?<as>&<stage>")]
pub async fn export(app: &App, id: u32, r#as: &str, stage: Option<Stage>) -> Outcome<Download> {
    let kind: takeaway::As = r#as.parse().map_err(Problem::refused)?;
    app.compute(Urgency::Job, move |app| {
        let (scene, m) = load(app, id)?;
        let stage = stage.unwrap_or_default();
        let document = app.document();
        let playing = app.scenery(&document)?.playing;
        let goods = app.read(|reader| scenery::goods(reader, &scene.pieces))?;
        let around = takeaway::Around { scene: &scene, playing: &playing, goods: &goods };
        let bytes = takeaway::file(kind, &around, &m.take, &*m.rig, stage.of(&m));
        let content = match kind {
            takeaway::As::Track(WriteFormat::Glb) => ContentType::new("model", "gltf-binary"),
            takeaway::As::Track(WriteFormat::Csv) | takeaway::As::Axes => ContentType::CSV,
            takeaway::As::Track(_) => ContentType::Plain,
        };
        let raw = if stage == Stage::Raw { "-raw" } else { "" };
        Ok(named(bytes, content, &scene, &m.take, &format!("{raw}.{}", kind.ending())))
    })
    .await
}

fn named(bytes: Vec<u8>, kind: ContentType, scene: &Scene, take: &Take, ending: &str) -> Download {
    let number: String = scene.number.chars().filter(|c| c.is_ascii_alphanumeric()).collect();
    let name = format!("attachment; filename=\"scene{number}-take{}{ending}\"", take.number);
    Download { bytes, kind, name: Header::new("Content-Disposition", name) }
}

/// What the device sent while the take rolled, as a packet capture.
#[get("/takes/<id>/packets.pcap")]
pub async fn packets(app: &App, id: u32) -> Outcome<Download> {
    app.compute(Urgency::Job, move |app| {
        let document = app.document();
        let (scene, take) = (&document.scene, document.take(id)?);
        let parts = app.read(|reader| reader.packets(id))?;
        if parts.is_empty() {
            return Err(Problem::refused(format!("no device moved the camera of take {}", take.number)));
        }
        let damaged = |e: String| Problem::of(Status::InternalServerError, e);
        let all: Vec<Vec<capture::Packet>> =
            parts.iter().map(|p| capture::read(p)).collect::<Result<_, _>>().map_err(damaged)?;
        let kind = ContentType::new("application", "vnd.tcpdump.pcap");
        Ok(named(capture::write(&all.concat()), kind, scene, take, ".pcap"))
    })
    .await
}

/// Keys of a take as it now is, every so many frames or seconds.
#[get("/takes/<id>/keys?<frames>&<seconds>")]
pub async fn keys(app: &App, id: u32, frames: Option<u32>, seconds: Option<f64>) -> Outcome<Json<Vec<Key>>> {
    let every = match (frames, seconds) {
        (Some(n), None) => Every::Frames(n),
        (None, Some(s)) => Every::Seconds(s),
        _ => return Err(Problem::refused("say either how many frames or how many seconds apart")),
    };
    every.check().map_err(|e| Problem::refused(e.sentence))?;
    app.compute(Urgency::Picture, move |app| {
        let (scene, m) = load(app, id)?;
        let times = every.times(m.now.duration_s(), scene.rate);
        Ok(Json(taken(&m.now, m.rig.axes(), &times)))
    })
    .await
}

/// The kinds of treatments, and what can be set of each.
#[get("/kinds/treatments")]
pub fn kinds() -> Json<Vec<Described>> {
    Json(Kind::all())
}

/// How much every take shakes, for the log.
#[get("/takes/shakes")]
pub async fn shakes(app: &App) -> Outcome<Json<Vec<ShakeView>>> {
    app.compute(Urgency::Metrics, move |app| {
        let document = app.document();
        let closed = document.takes.iter().filter(|t| !t.rolling && t.samples > 0);
        let shake = |take: &Take| {
            let (cm, deg) = app.shake_of(take.id, document.scene.rate)?;
            Ok(ShakeView { id: take.id, position_cm: cm, rotation_deg: deg })
        };
        Ok(Json(closed.map(shake).collect::<rovnek_store::Result<_>>()?))
    })
    .await
}
