//! Simple solids: what set pieces, performers and machines are made of. The finder, the plan and
//! the exports all draw these, so that what is seen is what is computed.

use crate::space::Pose;
use glam::DVec3;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A shape around its own origin, metres.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "shape")]
pub enum Shape {
    /// Edges along the axes, centred.
    Box {
        /// Whole lengths along x, y and z.
        size: [f64; 3],
    },
    /// Upright along y, centred.
    Cylinder {
        /// Radius of the cylinder, metres.
        radius: f64,
        /// Height of the cylinder, metres.
        height: f64,
    },
    /// A slope that rises from +z to −z, centred: its top edge stands at −z.
    Wedge {
        /// Whole lengths along x, y and z.
        size: [f64; 3],
    },
    /// Ball around the origin.
    Ball {
        /// Radius of the ball, metres.
        radius: f64,
    },
}

impl Shape {
    /// Half its extent along x, y and z.
    pub fn half(&self) -> DVec3 {
        match *self {
            Shape::Box { size } | Shape::Wedge { size } => DVec3::from(size) / 2.0,
            Shape::Cylinder { radius, height } => DVec3::new(radius, height / 2.0, radius),
            Shape::Ball { radius } => DVec3::splat(radius),
        }
    }
}

/// Material of a solid: a colour, and whether it gives light.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
#[allow(missing_docs)]
pub enum Material {
    Concrete,
    Plaster,
    Brick,
    Steel,
    DarkSteel,
    RailSteel,
    Timber,
    Glass,
    LitGlass,
    LampGlow,
    TramRed,
    TramCream,
    Signal,
    Cloth,
    Uniform,
    Skin,
    Machine,
    MachineArm,
    CameraBody,
    TapeRed,
    TapeYellow,
    TapeBlue,
    TapeGreen,
    TapeOrange,
    TapeWhite,
    Card,
}

impl Material {
    /// List of all materials.
    pub const ALL: [Material; 26] = [
        Material::Concrete,
        Material::Plaster,
        Material::Brick,
        Material::Steel,
        Material::DarkSteel,
        Material::RailSteel,
        Material::Timber,
        Material::Glass,
        Material::LitGlass,
        Material::LampGlow,
        Material::TramRed,
        Material::TramCream,
        Material::Signal,
        Material::Cloth,
        Material::Uniform,
        Material::Skin,
        Material::Machine,
        Material::MachineArm,
        Material::CameraBody,
        Material::TapeRed,
        Material::TapeYellow,
        Material::TapeBlue,
        Material::TapeGreen,
        Material::TapeOrange,
        Material::TapeWhite,
        Material::Card,
    ];

    /// Linear red, green and blue, 0 to 1.
    pub fn color(self) -> [f32; 3] {
        let hex: u32 = match self {
            Material::Concrete => 0x4a5558,
            Material::Plaster => 0x54656a,
            Material::Brick => 0x5d4a44,
            Material::Steel => 0x46555c,
            Material::DarkSteel => 0x1d2529,
            Material::RailSteel => 0x8d999c,
            Material::Timber => 0x7d6246,
            Material::Glass => 0x2d444c,
            Material::LitGlass => 0xf0cf8a,
            Material::LampGlow => 0xffe9b0,
            Material::TramRed => 0xa33f37,
            Material::TramCream => 0xd9cba6,
            Material::Signal => 0xd8a13c,
            Material::Cloth => 0x39464f,
            Material::Uniform => 0x3b5878,
            Material::Skin => 0xd3a988,
            Material::Machine => 0x39444a,
            Material::MachineArm => 0xa7b0ae,
            Material::CameraBody => 0x22282b,
            Material::TapeRed => 0xc8463c,
            Material::TapeYellow => 0xe0c043,
            Material::TapeBlue => 0x3f7fc0,
            Material::TapeGreen => 0x4fa05c,
            Material::TapeOrange => 0xe08a3a,
            Material::TapeWhite => 0xe9e6dc,
            Material::Card => 0xcfc9b8,
        };
        [16, 8, 0].map(|shift| {
            let s = f64::from((hex >> shift) & 0xff) / 255.0;
            // The sRGB transfer function (IEC 61966-2-1).
            let linear = if s <= 0.04045 { s / 12.92 } else { ((s + 0.055) / 1.055).powf(2.4) };
            linear as f32
        })
    }

    /// Gives its own light and takes none.
    pub fn glows(self) -> bool {
        matches!(self, Material::LitGlass | Material::LampGlow)
    }
}

/// A shape of a material, without a place: the part of a moving thing that never changes.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Body {
    /// For people and files: "arm stage 2".
    pub name: String,
    /// Shape with its size.
    #[serde(flatten)]
    pub shape: Shape,
    /// Material of the body.
    pub material: Material,
}

impl Body {
    /// A body from its parts.
    pub fn new(name: &str, shape: Shape, material: Material) -> Body {
        Body { name: name.into(), shape, material }
    }
}

/// A body and where it stands.
#[derive(Clone, Debug, PartialEq)]
pub struct Solid {
    /// Body: shape and material.
    pub body: Body,
    /// Pose of the solid on the set.
    pub pose: Pose,
}

/// A box given by its size and its middle.
pub fn cuboid(name: &str, size: [f64; 3], middle: [f64; 3], material: Material) -> Solid {
    Solid {
        body: Body::new(name, Shape::Box { size }, material),
        pose: Pose { position: DVec3::from(middle), ..Pose::ORIGIN },
    }
}

/// An upright cylinder given by its middle.
pub fn post(name: &str, radius: f64, height: f64, middle: [f64; 3], material: Material) -> Solid {
    Solid {
        body: Body::new(name, Shape::Cylinder { radius, height }, material),
        pose: Pose { position: DVec3::from(middle), ..Pose::ORIGIN },
    }
}

/// A slope given by its size and its middle.
pub fn wedge(name: &str, size: [f64; 3], middle: [f64; 3], material: Material) -> Solid {
    Solid {
        body: Body::new(name, Shape::Wedge { size }, material),
        pose: Pose { position: DVec3::from(middle), ..Pose::ORIGIN },
    }
}
