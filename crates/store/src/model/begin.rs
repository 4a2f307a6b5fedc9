//! First content of a new production.

use super::{Scene, SceneHead, as_written, first};
use rovnek_core::ids::SceneId;
use rovnek_core::lens::Camera;
use rovnek_core::params::Invalid;
use rovnek_core::performer::Performer;
use rovnek_core::rigs::{RigSpec, Rigging, TelescopicCrane};
use rovnek_core::set::{Piece, Stage};
use rovnek_core::time::Rate;
use serde::Deserialize;
use std::sync::Arc;

/// A scene to begin with.
#[derive(Clone, Debug, Deserialize)]
pub struct NewScene {
    /// Name of the production.
    pub production: String,
    /// Scene of the production.
    #[serde(flatten)]
    pub scene: Scene,
    /// Setups, in order.
    pub setups: Vec<NewSetup>,
}

/// A setup to begin with.
#[derive(Clone, Debug, Deserialize)]
pub struct NewSetup {
    /// Name of the setup.
    pub name: String,
    /// Sensor, frame, lens.
    pub camera: Camera,
    /// The machine and where it stands.
    pub rig: Rigging,
}

impl NewScene {
    /// A bare stage, and a crane to drive on it.
    pub fn empty(production: &str) -> NewScene {
        let head = SceneHead {
            number: "1".into(),
            name: "Scene".into(),
            rate: Rate::FILM,
            length_s: 20.0,
            start_frame: 0,
            stage: Stage { width_m: 20.0, depth_m: 15.0, height_m: 6.0 },
            performance: first(),
            binned: false,
        };
        let scene = Scene {
            id: SceneId(0),
            head,
            pieces: Arc::default(),
            performers: Arc::default(),
            performances: as_written(),
        };
        let crane = TelescopicCrane { base_z_m: 6.0, ..TelescopicCrane::default() };
        let setup = NewSetup {
            name: "crane".into(),
            camera: Camera::default(),
            rig: RigSpec::TelescopicCrane(crane).into(),
        };
        NewScene { production: production.into(), scene, setups: vec![setup] }
    }

    /// Checks every part.
    pub fn check(&self) -> std::result::Result<(), Invalid> {
        let Scene { head, pieces, performers, .. } = &self.scene;
        Rate::new(head.rate.num, head.rate.den).map_err(|e| Invalid::at("scene/rate", e.to_string()))?;
        crate::rows::read::check_length(head.length_s)?;
        pieces.iter().try_for_each(Piece::check)?;
        performers.iter().try_for_each(Performer::check)?;
        self.setups.iter().try_for_each(|s| s.camera.check().and_then(|()| s.rig.spec.check()))
    }
}
