//! Captured motion as BVH: a new performer who does it in the performance that plays.

use super::{Bring, Brought, Import, ImportKind, Station, USUAL_M, Upload, dances};
use crate::http::problem::Outcome;
use rovnek_core::DVec3;
use rovnek_core::ids::ClipId;
use rovnek_formats::bvh;
use rovnek_store::model::AssetKind;
use serde::Deserialize;

/// A BVH file.
#[derive(Deserialize)]
pub struct Capture {}

impl Import for Capture {
    fn described() -> ImportKind {
        ImportKind::plain(
            "capture",
            Station::Set,
            &[".bvh"],
            "Captured motion as BVH: somebody who does it.",
            "the performer",
        )
    }

    fn read(self: Box<Self>, upload: &mut Upload) -> Outcome<Box<Bring>> {
        let clip = bvh::read(&upload.bytes).map_err(upload.refuse())?;
        let name = upload.name.clone();
        Ok(Box::new(move |document, edit| {
            let kept = edit.keep(AssetKind::Clip, &name, &clip.to_bytes())?;
            // The file does not say what its unit is.
            let performer = dances(&document.scene, &name, USUAL_M, (ClipId(kept), &clip), DVec3::ZERO);
            let performers = vec![edit.add(document.scene.id, &performer)?];
            Ok(Brought { performers, ..Brought::default() })
        }))
    }
}
