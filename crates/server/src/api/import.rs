//! Imports: moves, as takes of a free camera; sets, images, captured motion.

use super::App;
use super::document::name;
use super::views::ImportedThings;
use crate::pool::Urgency;
use crate::problem::{Outcome, Problem};
use crate::sent::Json;
use crate::snapshot::Changed;
use rocket::data::{Data, DataStream, ToByteUnit};
use rocket::http::Status;
use rocket::tokio::io::AsyncReadExt;
use rocket::tokio::time::timeout;
use rocket::{FromForm, FromFormField, post};
use rovnek_core::DVec3;
use rovnek_core::ids::{ClipId, GroupId, ImageId, MeshId, PerformerId, PieceId, TakeId};
use rovnek_core::lens::{Camera, FOCUS_FAR_M};
use rovnek_core::performer::{Clip, Part, PartMotion, Performer};
use rovnek_core::rigs::{FreeCamera, LENS_AXES, RigSpec, Rigging};
use rovnek_core::samples::Samples;
use rovnek_core::set::{Form, Piece, Sequence};
use rovnek_core::time::SAMPLE_RATE_HZ;
use rovnek_core::track::{LensState, Track};
use rovnek_formats::gltf_figure::Figure;
use rovnek_formats::tum::{CameraFrame, TumOptions, UpAxis};
use rovnek_formats::{
    FormatError, LARGEST_FILE, ReadFormat, axes_csv, bvh, gltf_set, image_sequence, tum as tum_format,
};
use rovnek_store::StoreError;
use rovnek_store::history::Edit;
use rovnek_store::model::{AssetKind, Document, Scene};
use std::io::Write;
use std::path::Path;
use std::time::Duration;

#[derive(FromFormField, Clone, Copy)]
pub enum Up {
    Y,
    Z,
    #[field(value = "-y")]
    MinusY,
}

#[derive(FromFormField, Clone, Copy)]
pub enum Frame {
    Optical,
    Graphics,
    Body,
}

/// Frame in which a file is put into the scene.
#[derive(FromForm)]
pub struct Placement<'a> {
    name: &'a str,
    #[field(default = Up::Z)]
    up: Up,
    #[field(default = Frame::Optical)]
    camera: Frame,
    #[field(default = 0.0)]
    x: f64,
    /// Height of the first point.
    #[field(default = 1.6)]
    y: f64,
    #[field(default = 0.0)]
    z: f64,
    #[field(default = 0.0)]
    turn: f64,
    #[field(default = 1.0)]
    scale: f64,
}

impl Placement<'_> {
    fn options(&self, lens: &Camera) -> Outcome<TumOptions> {
        let plain = [self.x, self.y, self.z, self.turn].iter().all(|v| v.is_finite() && v.abs() <= 1e4);
        if !(plain && self.scale > 0.0 && self.scale <= 1000.0) {
            return Err(Problem::refused("the place needs plain numbers, and a scale over 0 and up to 1000"));
        }
        Ok(TumOptions {
            up: match self.up {
                Up::Y => UpAxis::Y,
                Up::Z => UpAxis::Z,
                Up::MinusY => UpAxis::MinusY,
            },
            camera: match self.camera {
                Frame::Optical => CameraFrame::Optical,
                Frame::Graphics => CameraFrame::Graphics,
                Frame::Body => CameraFrame::Body,
            },
            scale: self.scale,
            turn_deg: self.turn,
            place: DVec3::new(self.x, self.y, self.z),
            from_first_point: true,
            lens: lens.lens(),
        })
    }
}

/// Longest time in which nothing of a file may arrive.
const SILENT: Duration = Duration::from_secs(20);

/// Gives what arrives to `take`, piece by piece.
async fn arriving(mut stream: DataStream<'_>, mut take: impl FnMut(&[u8]) -> Outcome<()>) -> Outcome<()> {
    let mut chunk = Vec::with_capacity(64 << 10);
    let late = |_| Problem::of(Status::RequestTimeout, "the file stopped arriving; send it again");
    loop {
        chunk.clear();
        let came = timeout(SILENT, stream.read_buf(&mut chunk))
            .await
            .map_err(late)?
            .map_err(|e| Problem::refused(format!("the file did not arrive whole ({e}); send it again")))?;
        if came == 0 {
            return Ok(());
        }
        take(&chunk[..came])?;
    }
}

/// The file, and the status for what may be wrong with it. Of one that is too large there is as
/// much as it takes to say where; the rest is read and dropped, so that the answer reaches the
/// sender.
async fn receive(data: Data<'_>) -> Outcome<(Vec<u8>, Status)> {
    let mut bytes = Vec::new();
    arriving(data.open(1.gibibytes()), |came| {
        let room = LARGEST_FILE + 1 - bytes.len();
        bytes.extend_from_slice(&came[..came.len().min(room)]);
        Ok(())
    })
    .await?;
    let large = bytes.len() > LARGEST_FILE;
    Ok((bytes, if large { Status::PayloadTooLarge } else { Status::UnprocessableEntity }))
}

/// Receives an upload into a file.
pub(super) async fn received(stream: DataStream<'_>, to: &Path) -> Outcome<()> {
    let full = |e: std::io::Error| {
        let disk = to.parent().unwrap_or(to).display();
        Problem::of(
            Status::InsufficientStorage,
            format!("there is no room for the file on the disk of {disk}: {e}"),
        )
    };
    let mut file = std::fs::File::create(to).map_err(full)?;
    arriving(stream, |came| file.write_all(came).map_err(full)).await
}

fn refuse(status: Status) -> impl Fn(FormatError) -> Problem {
    move |error| Problem::of(status, error.to_string())
}

/// A trajectory in the TUM text format.
#[post("/import/tum?<placement..>", data = "<data>")]
pub async fn tum(app: &App, placement: Placement<'_>, data: Data<'_>) -> Outcome<Json<ImportedThings>> {
    let (bytes, status) = receive(data).await?;
    let camera = camera_on_floor(app)?;
    let (options, name) = (placement.options(&camera)?, placement.name.to_string());
    app.compute(Urgency::Job, move |app| {
        let track = tum_format::read(&bytes, &options).map_err(refuse(status))?;
        keep(app, &name, camera, &track)
    })
    .await
}

/// A camera track as CSV; it stays where it is on the set.
#[post("/import/csv?<name>", data = "<data>")]
pub async fn csv(app: &App, name: &str, data: Data<'_>) -> Outcome<Json<ImportedThings>> {
    bring_track(app, name, ReadFormat::Csv, data).await
}

/// A camera whose lens does what a track says.
fn camera_for(mut camera: Camera, track: &Track) -> Camera {
    let lens = track.points[0].lens;
    let focal = track.points.iter().map(|p| p.lens.focal_mm);
    camera.focal_min_mm = focal.clone().fold(camera.focal_min_mm, f64::min);
    camera.focal_max_mm = focal.fold(camera.focal_max_mm, f64::max);
    let least = |of: fn(&LensState) -> f64, now| track.points.iter().map(|p| of(&p.lens)).fold(now, f64::min);
    camera.closest_focus_m = least(|l| l.focus_m, camera.closest_focus_m);
    camera.widest_stop = least(|l| l.f_stop, camera.widest_stop);
    (camera.focal_mm, camera.focus_m, camera.f_stop) =
        (lens.focal_mm, lens.focus_m.min(FOCUS_FAR_M), lens.f_stop);
    camera
}

/// A camera track as lines of OpenTrackIO samples; it stays where it is on the set.
#[post("/import/opentrackio?<name>", data = "<data>")]
pub async fn opentrackio(app: &App, name: &str, data: Data<'_>) -> Outcome<Json<ImportedThings>> {
    bring_track(app, name, ReadFormat::OpenTrackIo, data).await
}

/// The camera of a glTF file; it stays where it is on the set.
#[post("/import/camera?<name>", data = "<data>")]
pub async fn camera(app: &App, name: &str, data: Data<'_>) -> Outcome<Json<ImportedThings>> {
    bring_track(app, name, ReadFormat::Gltf, data).await
}

async fn bring_track(
    app: &App,
    name: &str,
    format: ReadFormat,
    data: Data<'_>,
) -> Outcome<Json<ImportedThings>> {
    let (bytes, status) = receive(data).await?;
    let camera = camera_on_floor(app)?;
    let options = TumOptions { lens: camera.lens(), ..TumOptions::default() };
    let name = name.to_string();
    app.compute(Urgency::Job, move |app| {
        let track = rovnek_formats::read(format, &bytes, &options).map_err(refuse(status))?.content;
        keep(app, &name, camera_for(camera, &track), &track)
    })
    .await
}

/// The axes of the machine on the floor at their full rate, as a take of its setup.
#[post("/import/axes?<name>", data = "<data>")]
pub async fn axes(app: &App, name: &str, data: Data<'_>) -> Outcome<Json<ImportedThings>> {
    let name = self::name("the take", name)?;
    let (bytes, status) = receive(data).await?;
    let id = app.floor.status.borrow().setup_id;
    app.compute(Urgency::Job, move |app| {
        let document = app.document();
        let setup = document.setup(id)?;
        let rig = setup.rig.build(&setup.camera);
        let samples = axes_csv::read(&bytes, rig.axes()).map_err(refuse(status))?.content;
        brought(app, &name, |_, edit| Ok(New::Take(edit.bring_axes(setup, &name, &samples)?)))
    })
    .await
}

/// Things that came into the document.
enum New {
    Take(TakeId),
    Set { pieces: Vec<PieceId>, performers: Vec<PerformerId> },
}

/// Does the edit that brings something in, and tells the page what came.
fn brought(
    app: &App,
    name: &str,
    bring: impl FnOnce(&Document, &mut Edit) -> Outcome<New>,
) -> Outcome<Json<ImportedThings>> {
    let before = app.current();
    let (new, now) = app.edit(format!("bring in {name}"), |edit| bring(&app.document(), edit))?;
    let changed = Changed::between(&before, &now);
    let none = ImportedThings { changed, pieces: Vec::new(), performers: Vec::new(), take: None };
    Ok(Json(match new {
        New::Take(take) => ImportedThings { take: Some(take), ..none },
        New::Set { pieces, performers } => ImportedThings { pieces, performers, ..none },
    }))
}

fn camera_on_floor(app: &App) -> Outcome<Camera> {
    let id = app.floor.status.borrow().setup_id;
    Ok(app.document().setup(id)?.camera.clone())
}

fn keep(app: &App, typed: &str, camera: Camera, track: &Track) -> Outcome<Json<ImportedThings>> {
    let name = name("the move", typed)?;
    let even = track.sampled(SAMPLE_RATE_HZ);
    // In the order of a free camera's axes.
    const WIDTH: usize = 6 + LENS_AXES;
    let mut values = Vec::with_capacity(even.points.len() * WIDTH);
    for p in &even.points {
        let (at, a) = (p.position, p.angles);
        values.extend([at.x, at.y, at.z, a.pan, a.tilt, a.roll].into_iter().chain(p.lens.axes()));
    }
    let samples = Samples::new(SAMPLE_RATE_HZ, WIDTH, values);
    let first = &track.points[0];
    let rig: Rigging = RigSpec::FreeCamera(FreeCamera {
        start_m: first.position.to_array(),
        start_pan_deg: first.angles.pan.to_degrees(),
        ..FreeCamera::default()
    })
    .into();
    brought(app, &name, |document, edit| {
        Ok(New::Take(edit.bring_take(document.scene.id, &name, &camera, &rig, &samples)?))
    })
}

/// Reads what may take long, such as many large images: a job while it is under way, whose end is the answer.
async fn read_as_job<T: Send + 'static>(
    app: &App,
    name: &str,
    read: impl FnOnce(&mut dyn FnMut(f64) -> bool) -> T + Send + 'static,
) -> T {
    let job = app.jobs.waited_for(format!("bring in {name}"));
    let id = job.id;
    let work = move |app: &App| {
        let mut progress = app.jobs.run(id);
        read(&mut |share| {
            app.help(Urgency::Job);
            progress.as_mut().is_some_and(|p| p.at(share))
        })
    };
    app.compute(Urgency::Job, work).await
}

/// A set or a mesh as glTF, and who moves in it; all of it stands where the file has it.
#[post("/import/set?<name>", data = "<data>")]
pub async fn set(app: &App, name: &str, data: Data<'_>) -> Outcome<Json<ImportedThings>> {
    let name = self::name("the set", name)?;
    let (bytes, status) = receive(data).await?;
    let called = name.clone();
    let read = read_as_job(app, &name, move |go_on| gltf_set::read_while(&bytes, &called, go_on)).await;
    let read = read.map_err(refuse(status))?.content;
    app.compute(Urgency::Job, move |app| {
        brought(app, &name, |Document { scene, .. }, edit| {
            // Groups of the file stay apart from those that are there.
            let groups = scene.pieces.iter().map(|p| p.group.0).max().unwrap_or(0);
            let mut pieces = Vec::with_capacity(read.pieces.len());
            for mut piece in read.pieces {
                if piece.group > GroupId(0) {
                    piece.group.0 += groups;
                }
                match &mut piece.form {
                    Form::Mesh { mesh, .. } => {
                        let bytes = read.assets.meshes[mesh].to_bytes();
                        *mesh = MeshId(edit.keep(AssetKind::Mesh, &piece.name, &bytes)?);
                    }
                    Form::Card { image, .. } if *image > ImageId(0) => {
                        let bytes = &read.assets.images[image];
                        *image = ImageId(edit.keep(AssetKind::Image, &piece.name, bytes)?);
                    }
                    _ => {}
                }
                pieces.push(edit.add(scene.id, &piece)?);
            }
            let mut performers = Vec::with_capacity(read.figures.len());
            for Figure { name: own, clips, .. } in &read.figures {
                let called = if own.is_empty() { &name } else { own };
                let mut kept = Vec::with_capacity(clips.len());
                for (does, clip) in clips {
                    kept.push(edit.keep(AssetKind::Clip, &format!("{called}, {does}"), &clip.to_bytes())?);
                }
                let (clip, (_, does)) = (kept[0], &clips[0]);
                // Nobody is so small or so tall: that file has another unit.
                let own_m = does.height();
                let height_m = if (0.3..=3.0).contains(&own_m) { own_m } else { USUAL_M };
                let first = does.joints_at_frame(0)[0].position;
                let place = DVec3::new(first.x, does.floor(), first.z) * (height_m / own_m);
                let performer = dances(scene, called, height_m, (ClipId(clip), does), place);
                performers.push(edit.add(scene.id, &performer)?);
            }
            Ok(New::Set { pieces, performers })
        })
    })
    .await
}

/// How high a card is at first, metres.
const CARD_M: f64 = 2.0;

/// An image, as a card that stands at a place.
#[post("/import/image?<name>&<x>&<z>", data = "<data>")]
pub async fn image(
    app: &App,
    name: &str,
    x: Option<f64>,
    z: Option<f64>,
    data: Data<'_>,
) -> Outcome<Json<ImportedThings>> {
    let name = self::name("the card", name)?;
    let (bytes, status) = receive(data).await?;
    app.compute(Urgency::Job, move |app| {
        let (picture, _) = gltf_set::picture(&bytes).map_err(|why| Problem::of(status, why))?;
        let place = [x.unwrap_or(0.0), 0.0, z.unwrap_or(0.0)];
        brought(app, &name, |document, edit| {
            let image = edit.keep(AssetKind::Image, &name, &bytes)?;
            let card =
                Piece::new(&name, card(ImageId(image), (picture.width(), picture.height()), None), place);
            let pieces = vec![edit.add(document.scene.id, &card)?];
            Ok(New::Set { pieces, performers: Vec::new() })
        })
    })
    .await
}

/// A card as wide as its image is.
fn card(image: ImageId, (width, height): (u32, u32), sequence: Option<Sequence>) -> Form {
    let width = (CARD_M * f64::from(width) / f64::from(height)).min(100.0);
    Form::Card { image, width, height: CARD_M, toward: None, sequence }
}

/// Images that follow one another, as a ZIP of PNG or JPEG files in the order of their names: on a card that
/// is there, or on a new one that stands at a place. One for each frame of the scene, from its start on.
#[post("/import/sequence?<name>&<card>&<x>&<z>", data = "<data>")]
pub async fn sequence(
    app: &App,
    name: &str,
    card: Option<u32>,
    x: Option<f64>,
    z: Option<f64>,
    data: Data<'_>,
) -> Outcome<Json<ImportedThings>> {
    let name = self::name("the card", name)?;
    let (bytes, status) = receive(data).await?;
    let read = read_as_job(app, &name, move |go_on| image_sequence::read_while(&bytes, go_on)).await;
    let read = read.map_err(refuse(status))?;
    app.compute(Urgency::Job, move |app| {
        brought(app, &name, |Document { scene, .. }, edit| {
            let mut images = Vec::with_capacity(read.images.len());
            for (file, bytes) in &read.images {
                images.push(ImageId(edit.keep(AssetKind::Image, file, bytes)?));
            }
            let (first, rate) = (images[0], f64::from(scene.rate.num) / f64::from(scene.rate.den));
            let sequence = Some(Sequence { images, rate, start_s: 0.0 });
            let id = match card.map(PieceId) {
                None => {
                    let place = [x.unwrap_or(0.0), 0.0, z.unwrap_or(0.0)];
                    edit.add(scene.id, &Piece::new(&name, self::card(first, read.size, sequence), place))?
                }
                Some(id) => {
                    let there = scene.pieces.iter().find(|p| p.id == id);
                    let mut piece = there.ok_or(StoreError::Missing("piece", id.0))?.clone();
                    let Form::Card { image, sequence: old, .. } = &mut piece.form else {
                        return Err(Problem::refused(format!(
                            "{} is no card; pick a card for them",
                            piece.name
                        )));
                    };
                    (*image, *old) = (first, sequence);
                    edit.put(&piece)?;
                    id
                }
            };
            Ok(New::Set { pieces: vec![id], performers: Vec::new() })
        })
    })
    .await
}

/// Captured motion as BVH: a new performer who does it in the performance that plays.
#[post("/import/capture?<name>", data = "<data>")]
pub async fn capture(app: &App, name: &str, data: Data<'_>) -> Outcome<Json<ImportedThings>> {
    let name = self::name("the performer", name)?;
    let (bytes, status) = receive(data).await?;
    app.compute(Urgency::Job, move |app| {
        let clip = bvh::read(&bytes).map_err(refuse(status))?;
        brought(app, &name, |Document { scene, .. }, edit| {
            let kept = edit.keep(AssetKind::Clip, &name, &clip.to_bytes())?;
            // The file does not say what its unit is.
            let performer = dances(scene, &name, USUAL_M, (ClipId(kept), &clip), DVec3::ZERO);
            Ok(New::Set { pieces: Vec::new(), performers: vec![edit.add(scene.id, &performer)?] })
        })
    })
    .await
}

/// How tall somebody is whose file does not say, metres.
const USUAL_M: f64 = 1.75;

/// Somebody who does what a clip says, from a place on, in the performance that plays.
fn dances(scene: &Scene, name: &str, height_m: f64, (id, clip): (ClipId, &Clip), place: DVec3) -> Performer {
    let motion = PartMotion::Captured {
        clip: id,
        start_s: 0.0,
        trim_s: [0.0, clip.length_s().max(0.01)],
        position: place.to_array(),
        turn_deg: 0.0,
    };
    let part = Part { performance: scene.performance, rides: None, motion };
    Performer { id: PerformerId(0), name: name.into(), height_m, build: 1.0, parts: vec![part] }
}
