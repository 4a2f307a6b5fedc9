//! A take as a file: the same frames and values from the page and the command line.

use rovnek_core::evaluate::{frames, track_of_frames};
use rovnek_core::playing::Playing;
use rovnek_core::rigs::Rig;
use rovnek_core::samples::Samples;
use rovnek_formats::glb::{self, Goods};
use rovnek_formats::{WriteFormat, csv_track};
use rovnek_store::model::{Scene, Take};

/// The scene a take is written with.
pub struct Around<'a> {
    /// Its set.
    pub scene: &'a Scene,
    /// What moves in it.
    pub playing: &'a Playing,
    /// What its pieces refer to.
    pub goods: &'a Goods,
}

/// The file of a take's samples, raw or treated, at the rate of the scene.
pub fn file(format: WriteFormat, around: &Around, take: &Take, rig: &dyn Rig, samples: &Samples) -> Vec<u8> {
    let track = track_of_frames(&frames(samples, rig, &take.camera, around.scene.rate));
    match format {
        WriteFormat::Csv => csv_track::write(&track),
        WriteFormat::Glb => glb::write(&glb::Shot {
            name: format!("take {}", take.number),
            track: &track,
            camera: take.camera.clone(),
            pieces: &around.scene.pieces,
            playing: around.playing,
            goods: around.goods,
        }),
    }
}
