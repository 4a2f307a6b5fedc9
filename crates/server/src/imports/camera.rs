//! Camera tracks that stay where they are on the set: takes of a free camera.

use super::{Bring, Brought, Import, ImportKind, Station, Upload};
use crate::app::App;
use crate::http::problem::Outcome;
use rovnek_core::lens::{Camera, FOCUS_FAR_M};
use rovnek_core::rigs::{FreeCamera, LENS_AXES, RigSpec, Rigging};
use rovnek_core::samples::Samples;
use rovnek_core::time::SAMPLE_RATE_HZ;
use rovnek_core::track::{LensState, Track};
use rovnek_formats::ReadFormat;
use rovnek_formats::tum::TumOptions;
use serde::Deserialize;

macro_rules! tracks {
    ($($(#[$doc:meta])* $Kind:ident: $name:literal, $format:expr, $endings:expr, $hint:literal;)*) => {$(
        $(#[$doc])*
        #[derive(Deserialize)]
        pub struct $Kind {}

        impl Import for $Kind {
            fn described() -> ImportKind {
                ImportKind::plain($name, Station::Takes, &$endings, $hint, "the move")
            }

            fn read(self: Box<Self>, upload: &mut Upload) -> Outcome<Box<Bring>> {
                read($format, upload)
            }
        }
    )*};
}

tracks! {
    /// A row a frame.
    Csv: "csv", ReadFormat::Csv, [".csv"], "CSV of a camera: a take of a free camera.";
    /// Lines of OpenTrackIO samples.
    OpenTrackIo: "opentrackio", ReadFormat::OpenTrackIo, [".jsonl", ".json"],
        "OpenTrackIO, a line a sample: a take of a free camera.";
    /// The first camera of a glTF file.
    GltfCamera: "camera", ReadFormat::Gltf, [".glb", ".gltf"],
        "glTF with a camera: a take of a free camera.";
}

fn read(format: ReadFormat, upload: &Upload) -> Outcome<Box<Bring>> {
    let camera = on_floor(upload.app)?;
    let options = TumOptions { lens: camera.lens(), ..TumOptions::default() };
    let track = rovnek_formats::read(format, &upload.bytes, &options).map_err(upload.refuse())?.content;
    Ok(take_of(&upload.name, camera_for(camera, &track), &track))
}

/// Camera of the setup on the floor.
pub(super) fn on_floor(app: &App) -> Outcome<Camera> {
    let id = app.floor.status.borrow().setup_id;
    Ok(app.document().setup(id)?.camera.clone())
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

/// A take of a free camera that goes along a track.
pub(super) fn take_of(name: &str, camera: Camera, track: &Track) -> Box<Bring> {
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
    let name = name.to_string();
    Box::new(move |document, edit| {
        let take = edit.bring_take(document.scene.id, &name, &camera, &rig, &samples)?;
        Ok(Brought { take: Some(take), ..Brought::default() })
    })
}
