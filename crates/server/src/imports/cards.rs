//! Images: cards that stand on the set, and images that follow one another on a card.

use super::{Bring, Brought, Import, ImportKind, Station, Upload};
use crate::http::problem::{Outcome, Problem};
use rovnek_core::ids::{ImageId, PieceId};
use rovnek_core::set::{Form, Piece, Sequence};
use rovnek_formats::{gltf_set, image_sequence};
use rovnek_store::StoreError;
use rovnek_store::model::AssetKind;
use serde::Deserialize;

/// Height of a card that comes in, metres.
const CARD_M: f64 = 2.0;

/// A card as wide as its image is.
fn card(image: ImageId, (width, height): (u32, u32), sequence: Option<Sequence>) -> Form {
    let width = (CARD_M * f64::from(width) / f64::from(height)).min(100.0);
    Form::Card { image, width, height: CARD_M, toward: None, sequence }
}

/// An image, as a card that stands at a place.
#[derive(Default, Deserialize)]
#[serde(default)]
pub struct Image {
    /// Place on the stage, metres.
    x: f64,
    /// Place on the stage, metres.
    z: f64,
}

impl Import for Image {
    fn described() -> ImportKind {
        ImportKind::plain("image", Station::Set, &[".png", ".jpg", ".jpeg"], "PNG, JPEG: a card.", "the card")
    }

    fn read(self: Box<Self>, upload: &mut Upload) -> Outcome<Box<Bring>> {
        let (picture, _) = gltf_set::picture(&upload.bytes).map_err(|why| Problem::of(upload.fault, why))?;
        let size = (picture.width(), picture.height());
        let (name, bytes) = (upload.name.clone(), upload.bytes.clone());
        Ok(Box::new(move |document, edit| {
            let image = ImageId(edit.keep(AssetKind::Image, &name, &bytes)?);
            let card = Piece::new(&name, card(image, size, None), [self.x, 0.0, self.z]);
            let pieces = vec![edit.add(document.scene.id, &card)?];
            Ok(Brought { pieces, ..Brought::default() })
        }))
    }
}

/// Images that follow one another, as a ZIP of PNG or JPEG files in the order of their names: on a card that
/// is there, or on a new one that stands at a place. One for each frame of the scene, from its start on.
#[derive(Default, Deserialize)]
#[serde(default)]
pub struct ImageSequence {
    /// Card that is there.
    card: Option<PieceId>,
    /// Place of a new card on the stage, metres.
    x: f64,
    /// Place of a new card on the stage, metres.
    z: f64,
}

impl Import for ImageSequence {
    fn described() -> ImportKind {
        let plain = ImportKind::plain(
            "sequence",
            Station::Set,
            &[".zip"],
            "A ZIP of PNG or JPEG files: a card, image by image.",
            "the card",
        );
        ImportKind { long: true, ..plain }
    }

    fn read(self: Box<Self>, upload: &mut Upload) -> Outcome<Box<Bring>> {
        let read = image_sequence::read_while(&upload.bytes, upload.go_on).map_err(upload.refuse())?;
        let name = upload.name.clone();
        Ok(Box::new(move |document, edit| {
            let scene = &document.scene;
            let mut images = Vec::with_capacity(read.images.len());
            for (file, bytes) in &read.images {
                images.push(ImageId(edit.keep(AssetKind::Image, file, bytes)?));
            }
            let (first, rate) = (images[0], f64::from(scene.rate.num) / f64::from(scene.rate.den));
            let sequence = Some(Sequence { images, rate, start_s: 0.0 });
            let id = match self.card {
                None => {
                    let form = card(first, read.size, sequence);
                    edit.add(scene.id, &Piece::new(&name, form, [self.x, 0.0, self.z]))?
                }
                Some(id) => {
                    let there = scene.pieces.iter().find(|p| p.id == id);
                    let mut piece = there.ok_or(StoreError::Missing("piece", id.0))?.clone();
                    let Form::Card { image, sequence: old, .. } = &mut piece.form else {
                        let sentence = format!("{} is no card; pick a card for them", piece.name);
                        return Err(Problem::refused(sentence));
                    };
                    (*image, *old) = (first, sequence);
                    edit.put(&piece)?;
                    id
                }
            };
            Ok(Brought { pieces: vec![id], ..Brought::default() })
        }))
    }
}
