//! What the page is sent that is not the model itself, and what it sends. The page's TypeScript
//! types are made from these and the model's (`tests/routes/types.rs`).

use rovnek_core::keys::Ease;
use rovnek_core::lens::Camera;
use rovnek_core::line::ride_quality;
use rovnek_core::measures::{Departure, Figure, Mark, Metrics};
use rovnek_core::params::Param;
use rovnek_core::rigs::{Placement, RigSpec, Rigging};
use rovnek_core::set::{Light, Sequence};
use rovnek_core::solid::{Body, Material, Solid};
use rovnek_core::treatments::TreatmentKind;
use rovnek_core::warnings::{Stretch, Warning};
use rovnek_core::wheels::Wheel;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// The set as it is drawn.
#[derive(Serialize, TS)]
pub struct SetView {
    /// Pieces that are taken out for setups: which, and for which.
    pub wild: Vec<(u32, Vec<u32>)>,
    /// Everything solid.
    pub solids: Vec<SolidView>,
    /// What gives light.
    pub lights: Vec<Light>,
    /// The colour of each material, red, green, blue, linear, 0 to 1.
    pub colors: Vec<(Material, [f32; 3], bool)>,
    /// Images that stand in it.
    pub cards: Vec<CardView>,
    /// Meshes that were brought in.
    pub meshes: Vec<MeshView>,
    /// Footprints of what has no solids, around each piece's own foot.
    pub outlines: Vec<OutlineView>,
}

/// An image that stands in the set.
#[derive(Serialize, TS)]
pub struct CardView {
    /// Of the scene.
    pub piece: u32,
    /// Which image; 0 is none.
    pub image: u32,
    /// Images that follow one another on it.
    pub sequence: Option<Sequence>,
    /// The setup it turns to.
    pub toward: Option<u32>,
    /// It is where the performance has it.
    pub moves: bool,
    /// Width and height.
    pub size: [f64; 2],
    /// Metres.
    pub position: [f64; 3],
    /// To the right.
    pub turn_deg: f64,
}

/// A mesh that was brought in.
#[derive(Serialize, TS)]
pub struct MeshView {
    /// Of the scene.
    pub piece: u32,
    /// Which mesh.
    pub mesh: u32,
    /// How much larger than it came.
    pub scale: f64,
    /// Metres.
    pub position: [f64; 3],
    /// x, y, z, w.
    pub rotation: [f64; 4],
}

/// The footprint of a piece without solids.
#[derive(Serialize, TS)]
pub struct OutlineView {
    /// Of the scene.
    pub piece: u32,
    /// Around its foot, unturned.
    pub outline: Vec<[f64; 2]>,
}

/// A solid of the set.
#[derive(Serialize, TS)]
pub struct SolidView {
    /// The piece it belongs to; 0 is the stage itself.
    pub piece: u32,
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
    pub fn of(piece: u32, solid: &Solid) -> SolidView {
        SolidView {
            piece,
            body: solid.body.clone(),
            position: solid.pose.position.to_array(),
            rotation: solid.pose.rotation.to_array(),
            footprint: rovnek_core::set::footprint(solid),
        }
    }
}

/// Somebody or something that moves, as it is drawn.
#[derive(Serialize, TS)]
pub struct MoverView {
    /// The performer.
    pub performer: Option<u32>,
    /// Or the piece.
    pub piece: Option<u32>,
    /// Who or what.
    pub name: String,
    /// Its parts, in the order of the performance's poses.
    pub bodies: Vec<Body>,
    /// The path along the floor.
    pub path: Vec<[f64; 3]>,
    /// How many points of the path a second.
    pub path_hz: f64,
    /// Words for the time strip.
    pub marks: Vec<(f64, String)>,
}

/// Captured motion that was brought in.
#[derive(Serialize, TS)]
pub struct ClipView {
    /// Its id.
    pub id: u32,
    /// As the file called it.
    pub name: String,
    /// How long it is.
    pub length_s: f64,
}

/// A machine as it is drawn and operated.
#[derive(Serialize, TS)]
pub struct MachineView {
    /// Its parts, in the order of the poses in frames.
    pub bodies: Vec<Body>,
    /// Its axes.
    pub axes: Vec<AxisView>,
    /// What belongs to it and never moves.
    pub fixed: Vec<SolidView>,
    /// What it runs along.
    pub line: Option<LineView>,
    /// How fast a crew can push its base, metres a second, where one pushes it.
    pub pushed_m_s: Option<f64>,
    /// What can be set of it, as it stands.
    pub params: Vec<Param>,
    /// The parameters that say where it stands, x, z and heading, if it stands in one place.
    pub placement: Option<Placement>,
    /// The kinds of treatments that can do anything for it, by name.
    pub treatments: Vec<&'static str>,
    /// The frame on the sensor, millimetres wide and high, as it lies there.
    pub frame_mm: (f64, f64),
    /// The largest blur that still looks sharp, thousandths of a millimetre.
    pub confusion_um: f64,
}

/// A track or rail, and how it rides.
#[derive(Serialize, TS)]
pub struct LineView {
    /// Points along it.
    pub points: Vec<[f64; 3]>,
    /// Goes round.
    pub closed: bool,
    /// Metres along it.
    pub length_m: f64,
    /// Sideways push at 1 m/s, m/s².
    pub push: f64,
    /// How suddenly it changes at 1 m/s, m/s³.
    pub jerk: f64,
    /// Places where that is felt: where, and how much.
    pub rough: Vec<([f64; 3], f64)>,
}

/// An axis; numbers in shown units, ends missing where there is none.
#[derive(Serialize, TS)]
pub struct AxisView {
    /// As on its strip.
    pub name: String,
    /// Whose ink it is drawn in.
    pub ink: String,
    /// What a hand on it does; none where others move it.
    pub hand: Option<&'static str>,
    /// Hands move it while something else says where the camera goes.
    pub base: bool,
    /// "machine", "head", "lens" or "carrier".
    pub group: &'static str,
    /// The wheel that it hangs on.
    pub wheel: Wheel,
    /// Behind its numbers.
    pub unit: &'static str,
    /// End stop.
    pub min: Option<f64>,
    /// End stop.
    pub max: Option<f64>,
    /// A second.
    pub top_speed: f64,
    /// A second, a second.
    pub top_acceleration: f64,
    /// Where it starts.
    pub start: f64,
}

impl MachineView {
    /// Of a machine with its camera.
    pub fn of(rigging: &Rigging, camera: &Camera) -> MachineView {
        let rig = rigging.build(camera);
        use rovnek_core::axis::AxisGroup;
        let base = rig.operator_axes();
        let axis = |(i, a): (usize, &rovnek_core::axis::Axis)| {
            let end = |v: f64| v.is_finite().then(|| a.unit.to_shown(v));
            AxisView {
                name: a.name.into(),
                ink: a.ink.into(),
                hand: a.hand,
                base: base.contains(&i),
                group: match a.group {
                    AxisGroup::Machine => "machine",
                    AxisGroup::Head => "head",
                    AxisGroup::Lens => "lens",
                    AxisGroup::Carrier => "carrier",
                },
                wheel: Wheel::of(a.group),
                unit: a.unit.symbol(),
                min: end(a.min),
                max: end(a.max),
                top_speed: a.unit.to_shown(a.top_speed),
                top_acceleration: a.unit.to_shown(a.top_acceleration),
                start: a.unit.to_shown(a.start),
            }
        };
        let line = rig.line().map(|line| {
            let (push, jerk, rough) = ride_quality(line);
            let place = |travel: f64| line.at(travel).position.to_array();
            LineView {
                points: line.points(0.1).iter().map(|p| p.to_array()).collect(),
                closed: line.closed(),
                length_m: line.length(),
                push,
                jerk,
                rough: rough.iter().map(|r| (place(r.travel_m), r.jerk)).collect(),
            }
        });
        MachineView {
            bodies: rig.bodies().to_vec(),
            axes: rig.axes().iter().enumerate().map(axis).collect(),
            treatments: TreatmentKind::fitting(rig.axes()),
            fixed: rig.fixed().iter().map(|s| SolidView::of(0, s)).collect(),
            line,
            pushed_m_s: rig.pushed_m_s(),
            params: rigging.spec.params(),
            placement: rigging.spec.placement(),
            frame_mm: camera.frame_mm(),
            confusion_um: camera.confusion_mm() * 1000.0,
        }
    }
}

/// The figures of a move beside those of its raw take.
#[derive(Serialize, TS)]
pub struct FiguresView {
    /// As rolled.
    pub raw: Metrics,
    /// After the treatments.
    pub now: Metrics,
    /// How far apart.
    pub departure: Departure,
    /// All of it as it is read: those that are always shown first.
    pub rows: Vec<Figure>,
    /// What must be told of it after the treatments.
    pub warnings: Vec<Warning>,
    /// What in the curves of its axes is worth a look, in order of time.
    pub marks: Vec<Mark>,
}

/// Where a machine would have to stand for a wanted camera position.
#[derive(Serialize, TS)]
pub struct ReachView {
    /// The carrying axes, in shown units: what does it, or what comes closest.
    pub axes: Vec<f64>,
    /// Metres short of the wanted position; 0 within reach.
    pub shortfall_m: f64,
    /// Degrees by which the camera then looks elsewhere than was wanted.
    pub shortfall_deg: f64,
    /// The end stops it stands at when it is short.
    pub limits: Vec<String>,
}

/// Where a machine that follows another move cannot get, and how fast its base goes.
#[derive(Serialize, TS)]
pub struct FollowView {
    /// The stretches of time in which it is short.
    pub gaps: Vec<Stretch>,
    /// The move's length.
    pub length_s: f64,
    /// Metres short at each frame.
    pub short_m: Vec<f64>,
    /// Metres a second of the base at each frame.
    pub base_m_s: Vec<f64>,
}

/// A move that was made of what a job found.
#[derive(Serialize, TS)]
pub struct KeptView {
    /// The new move.
    pub move_id: u32,
    /// Whether its setup's machine runs it: it does where it is the machine that it was made for.
    pub runs: bool,
    /// What the document has that it had not before.
    pub changed: crate::snapshot::Changed,
}

/// A machine to choose.
#[derive(Serialize, TS)]
pub struct MachineKind {
    /// What it is called.
    pub word: &'static str,
    /// As it comes.
    pub rig: RigSpec,
    /// What moves besides head and lens, and how hands call it.
    pub hands: Vec<&'static str>,
}

/// A kind of machine, and a camera that it is to take the place of.
#[derive(Deserialize, TS)]
pub struct PutThere {
    /// As it is written: "free_camera".
    pub kind: String,
    /// Metres.
    pub position: [f64; 3],
    /// Positive to the right.
    pub pan_deg: f64,
    /// Positive up.
    pub tilt_deg: f64,
    /// Positive clockwise.
    pub roll_deg: f64,
}

/// Where a setup's camera stands before anybody drives it.
#[derive(Serialize, TS)]
pub struct SetupView {
    /// Of the scene.
    pub id: u32,
    /// Metres.
    pub position: [f64; 3],
    /// x, y, z, w.
    pub rotation: [f64; 4],
    /// Where its zoom stands.
    pub focal_mm: f64,
    /// The parts of its machine.
    pub bodies: Vec<Body>,
    /// Where they stand: places and turns, seven numbers each.
    pub poses: Vec<[f64; 7]>,
    /// Its track or rail.
    pub fixed: Vec<SolidView>,
    /// For one that stays square to a card: the card, and its pose before the card's foot.
    pub card: Option<CardSeat>,
}

/// Where a camera is in a card's own frame.
#[derive(Serialize, TS)]
pub struct CardSeat {
    /// The piece.
    pub piece: u32,
    /// Metres.
    pub position: [f64; 3],
}

/// A frame drawn in a picture: two opposite corners as directions from the eye.
#[derive(Deserialize, TS)]
pub struct FrameWanted {
    /// Whose frame shape and lens set.
    pub setup_id: u32,
    /// Where the drag began.
    pub corner: [f64; 3],
    /// Where it ended.
    pub opposite: [f64; 3],
    /// Drawn to the right.
    pub right: bool,
    /// Drawn upwards.
    pub up: bool,
    /// The camera may roll.
    pub tilted: bool,
}

/// The camera that sees a drawn frame.
#[derive(Serialize, TS)]
pub struct FrameView {
    /// To the right.
    pub pan_deg: f64,
    /// Up.
    pub tilt_deg: f64,
    /// Clockwise.
    pub roll_deg: f64,
    /// With exactly the lens it takes, then with the lenses of the set next to it.
    pub offers: Vec<Offer>,
}

/// A lens for a drawn frame, and what it would see.
#[derive(Serialize, TS)]
pub struct Offer {
    /// With that lens on.
    pub camera: Camera,
    /// Directions of the frame's corners: upper left, upper right, lower right, lower left.
    pub corners: [[f64; 3]; 4],
}

/// How much a take shakes.
#[derive(Serialize, TS)]
pub struct ShakeView {
    /// Which.
    pub id: u32,
    /// Where the camera is, in its worst second; nothing where it is too short to have it.
    pub position_cm: Option<f64>,
    /// Where it looks, in its worst second.
    pub rotation_deg: Option<f64>,
}

/// The take that is laid below the next roll.
#[derive(Deserialize, TS)]
pub struct BaseWanted {
    /// None: the next roll is a take of its own.
    pub take: Option<u32>,
}

/// What was brought in, by the ids of what it became.
#[derive(Serialize, TS)]
pub struct Brought {
    /// What the document has that it had not before.
    pub changed: crate::snapshot::Changed,
    /// New pieces.
    pub pieces: Vec<u32>,
    /// New performers.
    pub performers: Vec<u32>,
    /// The new take.
    pub take: Option<u32>,
}

/// A way from one key to the next.
#[derive(Clone, Serialize, TS)]
pub struct EaseView {
    /// Which.
    pub ease: Ease,
    /// How far it is at even steps from its start to its end, 0 to 1.
    pub drawn: Vec<f64>,
}
