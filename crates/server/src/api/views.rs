//! What the page is sent that is not the model itself, and what it sends. The page's TypeScript
//! types are made from these and the model's (`tests/types.rs`).

use rovnek_core::lens::Camera;
use rovnek_core::measures::{Departure, Figures};
use rovnek_core::rigs::{Rig, RigSpec};
use rovnek_core::set::Light;
use rovnek_core::solid::{Body, Material, Solid};
use rovnek_core::time::Rate;
use rovnek_core::treatments::Treatment;
use rovnek_store::model::Rating;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// The set as it is drawn.
#[derive(Serialize, TS)]
pub struct SetView {
    /// Everything solid.
    pub solids: Vec<SolidView>,
    /// What gives light.
    pub lights: Vec<Light>,
    /// The colour of each material, red, green, blue, linear, 0 to 1.
    pub colors: Vec<(Material, [f32; 3], bool)>,
}

/// A solid of the set.
#[derive(Serialize, TS)]
pub struct SolidView {
    /// The piece it belongs to, as a place in the scene's list.
    pub piece: usize,
    /// What.
    #[serde(flatten)]
    pub body: Body,
    /// Metres.
    pub position: [f64; 3],
    /// x, y, z, w.
    pub rotation: [f64; 4],
    /// Its outline from above.
    pub footprint: Vec<[f64; 2]>,
}

impl SolidView {
    /// A solid of a piece.
    pub fn of(piece: usize, solid: &Solid) -> SolidView {
        SolidView {
            piece,
            body: solid.body.clone(),
            position: solid.pose.position.to_array(),
            rotation: solid.pose.rotation.to_array(),
            footprint: rovnek_core::set::footprint(solid),
        }
    }
}

/// A performer as it is drawn.
#[derive(Serialize, TS)]
pub struct FigureView {
    /// Who.
    pub name: String,
    /// Its parts, in the order of the performance's poses.
    pub bodies: Vec<Body>,
    /// The path along the floor, a point every quarter second.
    pub path: Vec<[f64; 3]>,
    /// Words for the time strip.
    pub marks: Vec<(f64, String)>,
}

/// A machine as it is drawn and operated.
#[derive(Serialize, TS)]
pub struct MachineView {
    /// Its parts, in the order of the poses in frames.
    pub bodies: Vec<Body>,
    /// Its axes.
    pub axes: Vec<AxisView>,
}

/// An axis; numbers in shown units, ends missing where there is none.
#[derive(Serialize, TS)]
pub struct AxisView {
    /// As on its strip.
    pub name: String,
    /// Whose ink it is drawn in.
    pub ink: String,
    /// "machine", "head" or "lens".
    pub group: &'static str,
    /// Behind its numbers.
    pub unit: &'static str,
    /// End stop.
    pub min: Option<f64>,
    /// End stop.
    pub max: Option<f64>,
    /// A second.
    pub top_speed: f64,
    /// Where it starts.
    pub start: f64,
}

impl MachineView {
    /// Of a rig.
    pub fn of(rig: &dyn Rig) -> MachineView {
        use rovnek_core::axis::AxisGroup;
        let axis = |a: &rovnek_core::axis::Axis| {
            let end = |v: f64| v.is_finite().then(|| a.unit.to_shown(v));
            AxisView {
                name: a.name.into(),
                ink: a.ink.into(),
                group: match a.group {
                    AxisGroup::Machine => "machine",
                    AxisGroup::Head => "head",
                    AxisGroup::Lens => "lens",
                },
                unit: a.unit.symbol(),
                min: end(a.min),
                max: end(a.max),
                top_speed: a.unit.to_shown(a.top_speed),
                start: a.unit.to_shown(a.start),
            }
        };
        MachineView { bodies: rig.bodies().to_vec(), axes: rig.axes().iter().map(axis).collect() }
    }
}

/// The figures of a move beside those of its raw take.
#[derive(Serialize, TS)]
pub struct FiguresView {
    /// As rolled.
    pub raw: Figures,
    /// After the treatments.
    pub now: Figures,
    /// How far apart.
    pub departure: Departure,
    /// Top speed of each axis.
    pub axes: Vec<AxisTop>,
}

/// Top speed of an axis, in its shown unit a second.
#[derive(Serialize, TS)]
pub struct AxisTop {
    /// Which.
    pub name: String,
    /// Its unit.
    pub unit: &'static str,
    /// As rolled.
    pub raw: f64,
    /// After the treatments.
    pub now: f64,
}

/// Where a machine would have to stand for a wanted camera position.
#[derive(Serialize, TS)]
pub struct ReachView {
    /// The carrying axes, in shown units: what does it, or what comes closest.
    pub axes: Vec<f64>,
    /// Metres short of the wanted position; 0 within reach.
    pub shortfall_m: f64,
    /// The end stops it stands at when it is short.
    pub limits: Vec<String>,
}

/// Changes to the production.
#[derive(Deserialize, TS)]
pub struct PatchProduction {
    /// As on the slate.
    pub name: String,
}

/// Changes to the scene; what is missing stays.
#[derive(Deserialize, TS)]
#[ts(optional_fields)]
pub struct PatchScene {
    /// As on the slate.
    pub number: Option<String>,
    /// As on the slate.
    pub name: Option<String>,
    /// Frames a second.
    pub rate: Option<Rate>,
}

/// Changes to a setup; what is missing stays.
#[derive(Deserialize, TS)]
#[ts(optional_fields)]
pub struct PatchSetup {
    /// What it is for.
    pub name: Option<String>,
    /// Sensor, frame, lens.
    pub camera: Option<Camera>,
    /// The machine and where it stands.
    pub rig: Option<RigSpec>,
    /// Changes of one gesture are undone together.
    pub gesture: Option<String>,
}

/// Changes to a take; what is missing stays.
#[derive(Deserialize, TS)]
#[ts(optional_fields)]
pub struct PatchTake {
    /// A name of its own.
    pub name: Option<String>,
    /// What the operator thought of it.
    pub rating: Option<Rating>,
    /// A note.
    pub note: Option<String>,
    /// Into the bin, or back.
    pub binned: Option<bool>,
    /// What is done to it.
    pub treatments: Option<Vec<Treatment>>,
    /// Changes of one gesture are undone together.
    pub gesture: Option<String>,
}
