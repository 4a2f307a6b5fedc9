//! Forms of set pieces, with their dimensions.

use crate::ids::{ImageId, MeshId, SetupId};
use crate::solid::Material;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Form of a set piece.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "kind")]
pub enum Form {
    /// A plain block: pillar, bench top, floor.
    Block {
        /// Size along x, y and z, metres.
        size: [f64; 3],
        /// Material of the whole piece.
        material: Material,
    },
    /// An upright round thing.
    Round {
        /// Radius, metres.
        radius: f64,
        /// Height, metres.
        height: f64,
        /// Material of the whole piece.
        material: Material,
    },
    /// A wall along x. Doors, windows and openings that stand in it cut it open.
    Wall {
        /// Length, height, thickness.
        size: [f64; 3],
        /// Material of the whole piece.
        material: Material,
    },
    /// A hole in the wall it stands in.
    Opening {
        /// Width along the wall, metres.
        width: f64,
        /// From its foot up.
        height: f64,
    },
    /// A door in its frame.
    Door {
        /// Width with the frame, metres.
        width: f64,
        /// Height with the frame, metres.
        height: f64,
        /// Angle of the open leaf, degrees; 0 is closed.
        open_deg: f64,
    },
    /// A window in its frame.
    Window {
        /// Width with the frame, metres.
        width: f64,
        /// Height with the frame, metres.
        height: f64,
        /// Light behind it.
        lit: bool,
    },
    /// Steps that rise towards −z; the foot is the middle of the lowest step's front edge.
    Stair {
        /// Number of steps.
        steps: u32,
        /// Height of a step, metres.
        rise: f64,
        /// Depth of a step, metres.
        run: f64,
        /// Width of the stair, metres.
        width: f64,
    },
    /// Platform: a floor on legs.
    Platform {
        /// Along x, top over the foot, along z.
        size: [f64; 3],
    },
    /// A slope that rises towards −z.
    Ramp {
        /// Across, rise, along.
        size: [f64; 3],
    },
    /// Pillars in a row along x.
    Pillars {
        /// Number of pillars.
        count: u32,
        /// From middle to middle.
        spacing: f64,
        /// Width and depth of a pillar, metres.
        width: f64,
        /// Height of a pillar, metres.
        height: f64,
        /// A painted guard round each foot.
        base: bool,
    },
    /// A floor on posts with a railing along its +z side, open where a stair comes up.
    Gallery {
        /// Along x, top over the foot, along z.
        size: [f64; 3],
    },
    /// A pair of rails let into the floor, along x.
    Rails {
        /// Length along x, metres.
        length: f64,
        /// Between the rails.
        gauge: f64,
    },
    /// A tram body, along x.
    Tram {
        /// Length along x, metres.
        length: f64,
        /// Number of window bays.
        bays: u32,
        /// Lights on inside.
        lit: bool,
    },
    /// A car or van, its front towards +x.
    Vehicle {
        /// Length, height, width.
        size: [f64; 3],
    },
    /// A bench with legs, a vice and boxes on it, along x.
    Workbench {
        /// Length along x, metres.
        length: f64,
    },
    /// Table with four legs.
    Table {
        /// Along x, height, along z.
        size: [f64; 3],
    },
    /// A chair; who sits on it looks towards −z.
    Chair,
    /// A lamp that hangs from above; the foot is the underside of its shade.
    Lamp {
        /// Length of its cord.
        cord: f64,
    },
    /// Tape on the floor in the shape of a T: a place to stand.
    Mark {
        /// Number of the mark, as called out on set.
        number: u32,
        /// Tape colour, which says whose mark it is.
        tape: Tape,
    },
    /// An image that stands in the set.
    Card {
        /// Id of the image asset.
        image: ImageId,
        /// Width along x, metres.
        width: f64,
        /// From its foot up.
        height: f64,
        /// The setup it always turns to, about the vertical.
        #[serde(default)]
        toward: Option<SetupId>,
        /// Images that follow one another on it, instead of the one.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        #[ts(optional)]
        sequence: Option<Sequence>,
    },
    /// A mesh that was brought in.
    Mesh {
        /// Id of the mesh asset.
        mesh: MeshId,
        /// Whole size at scale 1.
        size: [f64; 3],
        /// Its footprint at scale 1.
        outline: Vec<[f64; 2]>,
        /// Scale of the mesh over its file, above 0.
        scale: f64,
    },
}

/// Colours of tape.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
#[allow(missing_docs)]
pub enum Tape {
    Red,
    Yellow,
    Blue,
    Green,
    Orange,
    White,
}

impl Tape {
    /// Material that the tape is drawn in.
    pub fn material(self) -> Material {
        match self {
            Tape::Red => Material::TapeRed,
            Tape::Yellow => Material::TapeYellow,
            Tape::Blue => Material::TapeBlue,
            Tape::Green => Material::TapeGreen,
            Tape::Orange => Material::TapeOrange,
            Tape::White => Material::TapeWhite,
        }
    }
}

/// Images that follow one another: a drawing for each frame.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Sequence {
    /// In order; the first is seen before it begins, and the last stays.
    pub images: Vec<ImageId>,
    /// Images a second.
    pub rate: f64,
    /// Scene time at which the first begins.
    pub start_s: f64,
}

/// Longer sequences are refused.
pub const MOST_IMAGES: usize = 2000;

impl Sequence {
    /// Checks the sequence; the error is a clause that names the fault.
    pub fn check(&self) -> Result<(), String> {
        if self.images.is_empty() || self.images.len() > MOST_IMAGES {
            return Err(format!("has {} images; give 1 to {MOST_IMAGES}", self.images.len()));
        }
        // NaN is within no range.
        if !(0.1..=240.0).contains(&self.rate) {
            return Err(format!("shows {} images a second; give 0.1 to 240", self.rate));
        }
        if !(-3600.0..=3600.0).contains(&self.start_s) {
            return Err(format!(
                "begins at {} s; give up to 3600 s before or after the scene's start",
                self.start_s
            ));
        }
        Ok(())
    }
}
