//! The axes of the machine on the floor at their full rate, as CSV: a take of its setup.

use super::{Bring, Brought, Import, ImportKind, Station, Upload};
use crate::app::App;
use crate::problem::Outcome;
use rovnek_formats::axes_csv;
use serde::Deserialize;

/// A CSV of axes. A camera track names its focal length; the axes of a machine name its zoom, if they name a lens.
#[derive(Deserialize)]
pub struct Axes {}

impl Import for Axes {
    fn described() -> ImportKind {
        ImportKind {
            name: "axes",
            station: Station::Takes,
            endings: &[".csv"],
            hint: "CSV of axes: a take of the setup on the floor.",
            named: "the take",
            long: false,
            params: Vec::new(),
            usual: serde_json::json!({}),
        }
    }

    fn recognises(head: &[u8]) -> bool {
        let first = head.split(|byte| *byte == b'\n').next().unwrap_or_default();
        !first.windows(b"focal_mm".len()).any(|word| word == b"focal_mm")
    }

    fn read(
        self: Box<Self>,
        app: &App,
        upload: &Upload,
        _: &mut dyn FnMut(f64) -> bool,
    ) -> Outcome<Box<Bring>> {
        let id = app.floor.status.borrow().setup_id;
        let setup = app.document().setup(id)?.clone();
        let rig = setup.rig.build(&setup.camera);
        let samples = axes_csv::read(&upload.bytes, rig.axes()).map_err(upload.refuse())?.content;
        let name = upload.name.clone();
        Ok(Box::new(move |_, edit| {
            let take = edit.bring_axes(&setup, &name, &samples)?;
            Ok(Brought { take: Some(take), ..Brought::default() })
        }))
    }
}
