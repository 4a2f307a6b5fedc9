//! A set or a mesh as glTF, and who moves in it; all of it stands where the file has it.

use super::{Bring, Brought, Import, ImportKind, Station, USUAL_M, Upload, dances};
use crate::http::problem::Outcome;
use rovnek_core::DVec3;
use rovnek_core::ids::{ClipId, GroupId, ImageId, MeshId};
use rovnek_core::set::Form;
use rovnek_formats::gltf_figure::Figure;
use rovnek_formats::gltf_set::{self, ImportedSet};
use rovnek_store::edit::history::Edit;
use rovnek_store::model::{AssetKind, Scene};
use serde::Deserialize;

/// A glTF file.
#[derive(Deserialize)]
pub struct Set {}

impl Import for Set {
    fn described() -> ImportKind {
        let plain = ImportKind::plain(
            "set",
            Station::Set,
            &[".glb", ".gltf"],
            "glTF, GLB: a set or a mesh, and who moves in it.",
            "the set",
        );
        ImportKind { long: true, ..plain }
    }

    fn read(self: Box<Self>, upload: &mut Upload) -> Outcome<Box<Bring>> {
        let read =
            gltf_set::read_while(&upload.bytes, &upload.name, upload.go_on).map_err(upload.refuse())?.content;
        let name = upload.name.clone();
        Ok(Box::new(move |document, edit| bring(&document.scene, edit, &name, read)))
    }
}

fn bring(scene: &Scene, edit: &mut Edit, name: &str, read: ImportedSet) -> Outcome<Brought> {
    // Groups of the file stay apart from those that are there.
    let groups = scene.pieces.iter().map(|p| p.group.0).max().unwrap_or(0);
    let mut brought = Brought::default();
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
        brought.pieces.push(edit.add(scene.id, &piece)?);
    }
    for Figure { name: own, clips, .. } in &read.figures {
        let called = if own.is_empty() { name } else { own };
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
        brought.performers.push(edit.add(scene.id, &performer)?);
    }
    Ok(brought)
}
