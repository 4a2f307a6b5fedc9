//! Types that routes send to the page, and types that routes read from it. The page's TypeScript
//! types are made from these and the model's (`tests/routes/types.rs`).

use rovnek_core::ids::{ImageId, MeshId, MoveId, PerformerId, PieceId, SetupId, TakeId};
use rovnek_core::keys::Ease;
use rovnek_core::lens::Camera;
use rovnek_core::line::ride_quality;
use rovnek_core::measures::{Departure, Figure, Mark, Metrics};
use rovnek_core::params::Param;
use rovnek_core::plan::{self, PiecePlan, PlanMark};
use rovnek_core::rigs::handles::{HandleLook, Trace, handles};
use rovnek_core::rigs::{BuiltHandle, Handle, Placement, RigSpec, Rigging, unseen_by_own_lens, wheels};
use rovnek_core::set::{Light, Sequence};
use rovnek_core::solid::{Body, Material, Solid};
use rovnek_core::treatments::TreatmentKind;
use rovnek_core::warnings::{Stretch, Warning};
use rovnek_core::wheels::Wheel;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// The set as it is drawn, piece by piece: what the page has already is not sent again.
#[derive(Serialize, TS)]
pub struct SetByPiece {
    /// Pieces that are taken out for setups: which, and for which.
    pub wild: Vec<(PieceId, Vec<SetupId>)>,
    /// The stage's floor, and every piece that is drawn.
    pub pieces: Vec<PieceView>,
    /// Light sources of the set.
    pub lights: Vec<Light>,
    /// The colour of each material, red, green, blue, linear, 0 to 1.
    pub colors: Vec<(Material, [f32; 3], bool)>,
    /// Images that stand in it.
    pub cards: Vec<CardView>,
    /// Meshes that were brought in.
    pub meshes: Vec<MeshView>,
    /// Pieces on the plan, from the lowest to the topmost.
    pub plan: Vec<PieceId>,
    /// Outlines of pieces that move, around each one's own foot.
    pub outlines: Vec<OutlineView>,
}

/// A piece of the set as it is drawn.
#[derive(Serialize, TS)]
pub struct PieceView {
    /// Id of the piece in the scene; 0 for the stage's floor.
    pub piece: PieceId,
    /// Version of what is drawn.
    pub version: String,
    /// What is drawn; none for a version that the page has.
    pub drawn: Option<PieceDrawn>,
}

/// What is drawn of a piece.
#[derive(Serialize, TS)]
pub struct PieceDrawn {
    /// Everything solid; empty for a piece that is drawn with the performers.
    pub solids: Vec<SolidView>,
    /// The piece from above; none for the stage's floor.
    pub plan: Option<PiecePlan>,
}

/// An image that stands in the set.
#[derive(Serialize, TS)]
pub struct CardView {
    /// Id of the piece in the scene.
    pub piece: PieceId,
    /// Id of the image asset; 0 for none.
    pub image: ImageId,
    /// Images that follow one another on it.
    pub sequence: Option<Sequence>,
    /// The setup it turns to.
    pub toward: Option<SetupId>,
    /// It is where the performance has it.
    pub moves: bool,
    /// Width and height.
    pub size: [f64; 2],
    /// Place of the card's foot, metres.
    pub position: [f64; 3],
    /// Turn to the right, degrees.
    pub turn_deg: f64,
}

/// A mesh that was brought in.
#[derive(Serialize, TS)]
pub struct MeshView {
    /// Id of the piece in the scene.
    pub piece: PieceId,
    /// Id of the mesh asset.
    pub mesh: MeshId,
    /// Scale of the mesh over its file, above 0.
    pub scale: f64,
    /// Place of the mesh, metres.
    pub position: [f64; 3],
    /// Rotation as a quaternion x, y, z, w.
    pub rotation: [f64; 4],
}

/// The outline of a piece that moves.
#[derive(Serialize, TS)]
pub struct OutlineView {
    /// Id of the piece in the scene.
    pub piece: PieceId,
    /// Around its foot, unturned.
    pub outline: Vec<[f64; 2]>,
}

/// A solid of the set.
#[derive(Serialize, TS)]
pub struct SolidView {
    /// The piece it belongs to; 0 is the stage itself.
    pub piece: PieceId,
    /// Shape, size and material.
    #[serde(flatten)]
    pub body: Body,
    /// Place of the solid, metres.
    pub position: [f64; 3],
    /// Rotation as a quaternion x, y, z, w.
    pub rotation: [f64; 4],
}

impl SolidView {
    /// A solid of a piece.
    pub fn of(piece: PieceId, solid: &Solid) -> SolidView {
        SolidView {
            piece,
            body: solid.body.clone(),
            position: solid.pose.position.to_array(),
            rotation: solid.pose.rotation.to_array(),
        }
    }
}

/// Somebody or something that moves, as it is drawn.
#[derive(Serialize, TS)]
pub struct MoverView {
    /// Id of the performer; none for a piece.
    pub performer: Option<PerformerId>,
    /// Id of the piece; none for a performer.
    pub piece: Option<PieceId>,
    /// Name of the performer or piece.
    pub name: String,
    /// Its parts, in the order of the performance's poses.
    pub bodies: Vec<Body>,
    /// The path along the floor.
    pub path: Vec<[f64; 3]>,
    /// Points of the path per second.
    pub path_hz: f64,
    /// Words for the time strip.
    pub marks: Vec<(f64, String)>,
}

/// Captured motion that was brought in.
#[derive(Serialize, TS)]
pub struct ClipView {
    /// Id of the clip's asset.
    pub id: u32,
    /// Name from the file.
    pub name: String,
    /// Length, seconds.
    pub length_s: f64,
}

/// A machine as it is drawn and operated.
#[derive(Serialize, TS)]
pub struct MachineView {
    /// Its parts, in the order of the poses in frames.
    pub bodies: Vec<Body>,
    /// Indices of the parts that its own lens does not see.
    pub unseen: Vec<usize>,
    /// Indices of the wheels that leave trails on the floor.
    pub wheels: Vec<usize>,
    /// Axes, in the order of the samples.
    pub axes: Vec<AxisView>,
    /// Solids of the machine that never move: track, rail, pedestal.
    pub fixed: Vec<SolidView>,
    /// What never moves of it, from above.
    pub plan: Vec<PlanMark>,
    /// Line that the machine runs along; none for a machine without rail or track.
    pub line: Option<LineView>,
    /// How fast a crew can push its base, metres a second, where one pushes it.
    pub pushed_m_s: Option<f64>,
    /// Parameters of the machine with the values that it has now.
    pub params: Vec<Param>,
    /// Handles whose drag moves axes, in the order of their places in frames.
    pub handles: Vec<HandleView>,
    /// Handles whose drag changes parameters.
    pub built: Vec<BuiltHandle>,
    /// The parameters that say where it stands, x, z and heading, if it stands in one place.
    pub placement: Option<Placement>,
    /// The kinds of treatments that can do anything for it, by name.
    pub treatments: Vec<&'static str>,
    /// The frame on the sensor, millimetres wide and high, as it lies there.
    pub frame_mm: (f64, f64),
    /// The largest blur that still looks sharp, thousandths of a millimetre.
    pub confusion_um: f64,
}

/// Handle of a machine as it is shown.
#[derive(Serialize, TS)]
pub struct HandleView {
    /// Name of the handle.
    pub word: &'static str,
    /// Shape of the handle.
    pub look: HandleLook,
}

impl HandleView {
    fn of(handle: &Handle) -> HandleView {
        HandleView { word: handle.word, look: handle.grip.look() }
    }
}

/// A track or rail, and how it rides.
#[derive(Serialize, TS)]
pub struct LineView {
    /// Points along it.
    pub points: Vec<[f64; 3]>,
    /// True if the line is a ring.
    pub closed: bool,
    /// Metres along it.
    pub length_m: f64,
    /// Sideways push at 1 m/s, m/s².
    pub push: f64,
    /// How suddenly it changes at 1 m/s, m/s³.
    pub jerk: f64,
    /// Number of places where that is felt.
    pub rough: usize,
}

/// An axis; numbers in shown units, ends missing where there is none.
#[derive(Serialize, TS)]
pub struct AxisView {
    /// Name of the axis on its strip.
    pub name: String,
    /// Name of the ink that the axis is drawn in.
    pub ink: String,
    /// Action of a hand on the axis; none for an axis that no hand moves.
    pub hand: Option<&'static str>,
    /// Hands move it while something else says where the camera goes.
    pub base: bool,
    /// "machine", "head", "lens" or "carrier".
    pub group: &'static str,
    /// The wheel that it hangs on.
    pub wheel: Wheel,
    /// Behind its numbers.
    pub unit: &'static str,
    /// Lower end stop, shown units; none for an endless axis.
    pub min: Option<f64>,
    /// Upper end stop, shown units; none for an endless axis.
    pub max: Option<f64>,
    /// Top speed, shown units per second.
    pub top_speed: f64,
    /// A second, a second.
    pub top_acceleration: f64,
    /// Value at the start, shown units.
    pub start: f64,
}

impl MachineView {
    /// View of a machine with a camera.
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
            LineView {
                points: line.points(0.1).iter().map(|p| p.to_array()).collect(),
                closed: line.closed(),
                length_m: line.length(),
                push,
                jerk,
                rough: rough.len(),
            }
        });
        MachineView {
            bodies: rig.bodies().to_vec(),
            axes: rig.axes().iter().enumerate().map(axis).collect(),
            treatments: TreatmentKind::fitting(rig.axes()),
            unseen: unseen_by_own_lens(rig.bodies()),
            wheels: wheels(rig.bodies()),
            fixed: rig.fixed().iter().map(|s| SolidView::of(PieceId(0), s)).collect(),
            plan: plan::fixed(&*rig),
            line,
            pushed_m_s: rig.pushed_m_s(),
            params: rigging.spec.params(),
            handles: handles(&*rig).iter().map(HandleView::of).collect(),
            built: rigging.handles(),
            placement: rigging.spec.placement(),
            frame_mm: camera.frame_mm(),
            confusion_um: camera.confusion_mm() * 1000.0,
        }
    }
}

/// The figures of a move beside those of its raw take.
#[derive(Serialize, TS)]
pub struct FiguresView {
    /// Figures of the raw take.
    pub raw: Metrics,
    /// After the treatments.
    pub now: Metrics,
    /// Departure of the treated move from the raw take.
    pub departure: Departure,
    /// All of it as it is read: those that are always shown first.
    pub rows: Vec<Figure>,
    /// Warnings about the treated move.
    pub warnings: Vec<Warning>,
    /// Marks in the curves of the axes, in order of time.
    pub marks: Vec<Mark>,
}

/// Axis values at which the camera reaches a wanted position.
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

/// Machine after a drag of one of its handles.
#[derive(Serialize, TS)]
pub struct DragView {
    /// Values of the axes that the drag moves, in shown units; none for every other axis.
    pub targets: Vec<Option<f64>>,
    /// Place of the handle with them, metres.
    pub at: [f64; 3],
    /// Metres short of where the hand is; 0 within reach.
    pub shortfall_m: f64,
    /// The end stops that the machine stands at when it is short.
    pub limits: Vec<String>,
    /// What the camera can reach from there, axis by axis.
    pub traces: Vec<Trace>,
}

/// Time that a machine needs through stored positions.
#[derive(Serialize, TS)]
pub struct RehearsalView {
    /// Shortest time from the first position to the last, seconds.
    pub shortest_s: f64,
    /// Name of the axis that needs this time; none where no axis moves.
    pub bound_by: Option<String>,
}

/// Shortfall of a machine that follows another move, and the speed of its base.
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

/// Something that was made of a move, and kept.
#[derive(Serialize, TS)]
pub struct KeptView {
    /// The move that it is now, if it is one.
    pub move_id: Option<MoveId>,
    /// What it is now, a sentence.
    pub words: String,
    /// Changes of the document.
    pub changed: crate::document::snapshot::Changed,
}

/// A machine to choose.
#[derive(Serialize, TS)]
pub struct MachineKind {
    /// Name of the machine on screen.
    pub word: &'static str,
    /// Machine with the values it starts with.
    pub rig: RigSpec,
    /// Axes of the machine without head and lens, by the names of their strips.
    pub hands: Vec<&'static str>,
}

/// A kind of machine, and a camera that it is to take the place of.
#[derive(Deserialize, TS)]
pub struct PutThere {
    /// Kind of the machine in JSON, for example "free_camera".
    pub kind: String,
    /// Place of the camera, metres.
    pub position: [f64; 3],
    /// Positive to the right.
    pub pan_deg: f64,
    /// Tilt, degrees, positive up.
    pub tilt_deg: f64,
    /// Positive clockwise.
    pub roll_deg: f64,
    /// What the machine must stand clear of; where it is missing the camera is exactly there, whatever is in its way.
    #[serde(default)]
    pub clear: Option<ClearAt>,
}

/// A new machine has to stand inside the stage, clear of walls, pieces and people.
#[derive(Deserialize, TS)]
pub struct ClearAt {
    /// Setup of the machine: pieces that are taken out for this setup are not in its way.
    pub setup: SetupId,
    /// Scene time at which people and pieces are looked at, seconds.
    pub time_s: f64,
}

/// Camera of a setup at the machine's start.
#[derive(Serialize, TS)]
pub struct SetupView {
    /// Id of the setup in the scene.
    pub id: u32,
    /// Place of the camera, metres.
    pub position: [f64; 3],
    /// Rotation as a quaternion x, y, z, w.
    pub rotation: [f64; 4],
    /// Focal length, millimetres.
    pub focal_mm: f64,
    /// The parts of its machine.
    pub bodies: Vec<Body>,
    /// Indices of the parts that its own lens does not see.
    pub unseen: Vec<usize>,
    /// Places and rotations of the bodies, seven numbers each.
    pub poses: Vec<[f64; 7]>,
    /// Its track or rail.
    pub fixed: Vec<SolidView>,
    /// What never moves of its machine, from above.
    pub plan: Vec<PlanMark>,
    /// For one that stays square to a card: the card, and its pose before the card's foot.
    pub card: Option<CardSeat>,
}

/// Camera in the frame of a card.
#[derive(Serialize, TS)]
pub struct CardSeat {
    /// Id of the card's piece.
    pub piece: PieceId,
    /// Place of the camera in the card's frame, metres.
    pub position: [f64; 3],
}

/// A frame drawn in a picture: two opposite corners as directions from the eye.
#[derive(Deserialize, TS)]
pub struct FrameRequest {
    /// Id of the setup that gives frame shape and lens set.
    pub setup_id: SetupId,
    /// Direction from the eye to the corner at which the drag began.
    pub corner: [f64; 3],
    /// Direction from the eye to the corner at which the drag ended.
    pub opposite: [f64; 3],
    /// Drawn to the right.
    pub right: bool,
    /// True if the frame was drawn upwards.
    pub up: bool,
    /// The camera may roll.
    pub tilted: bool,
}

/// The camera that sees a drawn frame.
#[derive(Serialize, TS)]
pub struct FrameView {
    /// Pan, degrees, positive to the right.
    pub pan_deg: f64,
    /// Tilt, degrees, positive up.
    pub tilt_deg: f64,
    /// Roll, degrees, positive clockwise.
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

/// Shake of a take, for the log.
#[derive(Serialize, TS)]
pub struct ShakeView {
    /// Id of the take, in the scene.
    pub id: u32,
    /// Shake of the position in the worst second, cm; none for a take that is too short.
    pub position_cm: Option<f64>,
    /// Shake of the rotation in the worst second, degrees.
    pub rotation_deg: Option<f64>,
}

/// The take that is laid below the next roll.
#[derive(Deserialize, TS)]
pub struct BaseRequest {
    /// None: the next roll is a take of its own.
    pub take: Option<TakeId>,
}

/// Ids of the things that an import made.
#[derive(Serialize, TS)]
pub struct ImportedThings {
    /// Changes of the document.
    pub changed: crate::document::snapshot::Changed,
    /// Ids of the new pieces.
    pub pieces: Vec<PieceId>,
    /// New performers.
    pub performers: Vec<PerformerId>,
    /// Id of the new take.
    pub take: Option<TakeId>,
}

/// A way from one key to the next.
#[derive(Clone, Serialize, TS)]
pub struct EaseView {
    /// Name of the ease.
    pub ease: Ease,
    /// Values of the ease at even steps from start to end, 0 to 1.
    pub drawn: Vec<f64>,
}
