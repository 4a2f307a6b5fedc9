//! What a new production begins with.

use super::Scene;
use rovnek_core::lens::Camera;
use rovnek_core::params::Invalid;
use rovnek_core::performer::Performer;
use rovnek_core::rigs::Rigging;
use rovnek_core::set::Piece;
use rovnek_core::time::Rate;
use serde::Deserialize;

/// A scene to begin with.
#[derive(Clone, Debug, Deserialize)]
pub struct NewScene {
    /// Name of the production.
    pub production: String,
    /// The scene.
    #[serde(flatten)]
    pub scene: Scene,
    /// In order.
    pub setups: Vec<NewSetup>,
}

/// A setup to begin with.
#[derive(Clone, Debug, Deserialize)]
pub struct NewSetup {
    /// What it is for.
    pub name: String,
    /// Sensor, frame, lens.
    pub camera: Camera,
    /// The machine and where it stands.
    pub rig: Rigging,
}

impl NewScene {
    /// Whether it can be.
    pub fn check(&self) -> std::result::Result<(), Invalid> {
        let Scene { rate, length_s, pieces, performers, .. } = &self.scene;
        Rate::new(rate.num, rate.den).map_err(|e| Invalid::at("scene/rate", e.to_string()))?;
        if !(0.1..=3600.0).contains(length_s) {
            return Err(Invalid::at("scene/length_s", "a scene is 0.1 to 3600 s long"));
        }
        pieces.iter().try_for_each(Piece::check)?;
        performers.iter().try_for_each(Performer::check)?;
        self.setups.iter().try_for_each(|s| s.camera.check().and_then(|()| s.rig.spec.check()))
    }
}
