//! The axes of the machine on the floor at their full rate, as CSV: a take of its setup.

use super::{Bring, Brought, Import, ImportKind, Station, Upload};
use crate::http::problem::Outcome;
use rovnek_formats::axes_csv;
use serde::Deserialize;

/// A CSV of axes.
#[derive(Deserialize)]
pub struct Axes {}

impl Import for Axes {
    fn described() -> ImportKind {
        let plain = ImportKind::plain(
            "axes",
            Station::Takes,
            &[".csv"],
            "CSV of axes: a take of the setup on the floor.",
            "the take",
        );
        ImportKind { recognises: names_no_focal_length, ..plain }
    }

    fn read(self: Box<Self>, upload: &mut Upload) -> Outcome<Box<Bring>> {
        let id = upload.app.floor.status.borrow().setup_id;
        let setup = upload.app.document().setup(id)?.clone();
        let rig = setup.rig.build(&setup.camera);
        let samples = axes_csv::read(&upload.bytes, rig.axes()).map_err(upload.refuse())?.content;
        let name = upload.name.clone();
        Ok(Box::new(move |_, edit| {
            let take = edit.bring_axes(&setup, &name, &samples)?;
            Ok(Brought { take: Some(take), ..Brought::default() })
        }))
    }
}

/// A camera track names its focal length; the axes of a machine name its zoom, if they name a lens.
fn names_no_focal_length(head: &[u8]) -> bool {
    let first = head.split(|byte| *byte == b'\n').next().unwrap_or_default();
    !first.windows(b"focal_mm".len()).any(|word| word == b"focal_mm")
}
