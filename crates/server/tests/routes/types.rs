//! The page's types are made from the server's; they differ when this test fails.
//! `ROVNEK_WRITE=1 cargo test --test routes types` makes them anew.

use rovnek_core::ids::{self, Id};
use rovnek_core::set::Form;
use rovnek_server::api::carry::{Carried, CarryFrom};
use rovnek_server::api::edits::{Edit, Edited, Edits, StepRequest};
use rovnek_server::api::keys::KeyEditRequest;
use rovnek_server::api::shelf::{NewProduction, ShelfView, Shelved};
use rovnek_server::api::views::*;
use rovnek_server::document::snapshot::{Changed, VersionsView, Whole};
use rovnek_server::floor::devices::{DevicesView, SimulatorRequest, Socket, SocketView};
use rovnek_server::floor::live_out::{LiveOutRequest, LiveOutView};
use rovnek_server::floor::phone::{PhoneRequest, PhoneView};
use rovnek_server::http::socket::Tell;
use rovnek_server::jobs::{JobState, JobView};
use rovnek_store::things::{ListChange, ListChanges, Lists, Table};
use ts_rs::{Config, TS};

#[test]
fn the_page_has_the_servers_types() {
    let config = Config::default();
    let mut out = String::from(
        "// Generated from the server's types by crates/server/tests/routes/types.rs. Do not edit.\n",
    );
    macro_rules! write_types {
        ($($t:ty),* $(,)?) => { $( out += &format!("\nexport {}\n", <$t>::decl(&config)); )* };
    }
    // An id is a number, and none of another kind.
    macro_rules! write_ids {
        ($($Id:ident),*) => {$(
            let kind = <ids::$Id as Id>::KIND.word();
            out += &format!("\nexport type {} = number & {{ readonly of?: \"{kind}\" }};\n", stringify!($Id));
        )*};
    }
    write_ids!(
        SceneId,
        PieceId,
        GroupId,
        PerformerId,
        PerformanceId,
        SetupId,
        TakeId,
        MoveId,
        MeshId,
        ImageId,
        ClipId
    );
    write_types!(
        rovnek_core::ids::ThingKind,
        rovnek_core::time::Rate,
        rovnek_core::lens::Camera,
        rovnek_core::lens::Lens,
        rovnek_core::lens::LensSet,
        rovnek_core::rigs::HeadHang,
        rovnek_core::rigs::HeadHeading,
        rovnek_core::rigs::TelescopicCrane,
        rovnek_core::rigs::FreeCamera,
        rovnek_core::rigs::SquareToCard,
        rovnek_core::line::spline::RailPoint,
        rovnek_core::rigs::TrackPiece,
        rovnek_core::rigs::DollyTrack,
        rovnek_core::rigs::BoomArm,
        rovnek_core::rigs::Tripod,
        rovnek_core::rigs::TrackDolly,
        rovnek_core::rigs::Steering,
        rovnek_core::rigs::FreeDolly,
        rovnek_core::rigs::Facing,
        rovnek_core::rigs::BentRail,
        rovnek_core::rigs::Jib,
        rovnek_core::rigs::OrbitArm,
        rovnek_core::rigs::Shoulder,
        rovnek_core::rigs::AimRig,
        rovnek_core::rigs::TrackedCamera,
        rovnek_core::rigs::RigSpec,
        rovnek_core::carrier::Carrier,
        rovnek_core::rigs::Rigging,
        rovnek_core::keys::Position,
        rovnek_core::input_shaping::Shaping,
        rovnek_core::warnings::Stretch,
        rovnek_core::warnings::Warning,
        rovnek_core::solid::Material,
        rovnek_core::solid::Shape,
        rovnek_core::solid::Body,
        rovnek_core::set::Stage,
        rovnek_core::set::Tape,
        rovnek_core::set::Sequence,
        rovnek_core::set::Form,
        rovnek_core::set::PieceRoute,
        rovnek_core::set::Piece,
        rovnek_core::set::Light,
        rovnek_core::performer::Posture,
        rovnek_core::performer::Waypoint,
        rovnek_core::performer::Route,
        rovnek_core::performer::PartMotion,
        rovnek_core::performer::Part,
        rovnek_core::performer::Performer,
        rovnek_core::treatments::SmoothBy,
        rovnek_core::treatments::Smooth,
        rovnek_core::steady::SteadyBy,
        rovnek_core::steady::Steady,
        rovnek_core::tracked::Mapping,
        rovnek_core::tracked::SecondMoves,
        rovnek_core::tracked::SecondDevice,
        rovnek_core::tracked::Tracking,
        rovnek_core::treatments::RetimeBy,
        rovnek_core::treatments::Retime,
        rovnek_core::treatments::Trim,
        rovnek_core::treatments::Jump,
        rovnek_core::treatments::InnerCut,
        rovnek_core::treatments::Interval,
        rovnek_core::treatments::KeyEvery,
        rovnek_core::curve::Side,
        rovnek_core::curve::CurveKey,
        rovnek_core::curve::Curve,
        rovnek_core::keys::Ease,
        rovnek_core::keys::SideBy,
        rovnek_core::keys::About,
        rovnek_core::keys::KeyEdit,
        rovnek_core::measures::MarkKind,
        rovnek_core::measures::Mark,
        EaseView,
        KeyEditRequest,
        rovnek_core::treatments::Span,
        rovnek_core::treatments::Scope,
        rovnek_core::treatments::Strength,
        rovnek_core::treatments::Level,
        rovnek_core::params::Over,
        rovnek_core::params::Case,
        rovnek_core::params::Holds,
        rovnek_core::params::Param,
        rovnek_core::treatments::Described,
        rovnek_core::treatments::TreatmentKind,
        rovnek_core::treatments::Treatment,
        rovnek_core::treatments::IntendedStop,
        rovnek_core::treatments::CalmGoal,
        rovnek_core::treatments::AimAsLooked,
        rovnek_core::treatments::ListStops,
        rovnek_core::treatments::TreatmentQuestion,
        rovnek_core::treatments::Asked,
        rovnek_core::treatments::FoundStretch,
        rovnek_core::treatments::Answer,
        rovnek_core::treatments::Question,
        rovnek_core::mending::FaultKind,
        rovnek_core::mending::Fault,
        rovnek_core::mending::Remedy,
        rovnek_core::flatten::FlatFocus,
        rovnek_core::flatten::Flatten,
        rovnek_core::treatments::Drift,
        rovnek_core::treatments::Amounts,
        rovnek_core::treatments::BodyPart,
        rovnek_core::treatments::PlaceAt,
        rovnek_core::treatments::Target,
        rovnek_core::treatments::Turn,
        rovnek_core::treatments::Aim,
        rovnek_core::treatments::PresetTreatments,
        rovnek_core::treatments::CorrectionKey,
        rovnek_core::treatments::Pin,
        rovnek_core::treatments::Correction,
        rovnek_core::treatments::Focus,
        rovnek_core::treatments::Zoom,
        rovnek_core::treatments::ZoomTo,
        rovnek_core::treatments::ZoomWay,
        rovnek_core::treatments::CounterZoom,
        rovnek_core::treatments::ShakeBy,
        rovnek_core::treatments::Shake,
        rovnek_core::treatments::CalmBy,
        rovnek_core::lanes::CurvesOf,
        rovnek_core::lanes::LaneKind,
        rovnek_core::measures::ShakeFigure,
        rovnek_core::measures::DeadStop,
        rovnek_core::measures::Metrics,
        rovnek_core::measures::Departure,
        rovnek_core::measures::Verdict,
        rovnek_core::measures::Figure,
        rovnek_store::model::Entry,
        rovnek_store::model::History,
        rovnek_store::edit::patch::Op,
        rovnek_store::model::Rating,
        rovnek_store::model::Rolled,
        rovnek_store::model::PassOf,
        rovnek_store::model::Take,
        rovnek_store::model::Setup,
        rovnek_store::model::Source,
        rovnek_store::model::Move,
        rovnek_store::model::NewMove,
        rovnek_core::moves::Tolerance,
        JobState,
        JobView,
        rovnek_server::jobs::JobKind,
        rovnek_server::jobs::JobRequest,
        rovnek_server::jobs::MakeKeys,
        KeptView,
        rovnek_store::model::AssetKind,
        rovnek_store::model::Asset,
        rovnek_store::model::Performance,
        rovnek_store::model::Scene,
        Lists,
        VersionsView,
        rovnek_store::model::Document,
        rovnek_formats::tracking::Protocol,
        rovnek_live::devices::SourceStatus,
        rovnek_core::wheels::Wheel,
        rovnek_core::wheels::HandOn,
        rovnek_live::control_lease::Asking,
        rovnek_live::command::PassRequest,
        rovnek_live::command::BroughtAxes,
        rovnek_live::command::HangStatus,
        rovnek_live::command::TrackingStatus,
        rovnek_core::playing::MoverId,
        rovnek_live::command::Command,
        rovnek_live::command::Status,
        LiveOutRequest,
        LiveOutView,
        rovnek_store::shelf::OnShelf,
        ShelfView,
        NewProduction,
        Shelved,
        rovnek_store::copy::carry::CarryThing,
        rovnek_store::copy::carry::CarryChoice,
        rovnek_store::copy::carry::CarryRequest,
        rovnek_store::copy::carry::CarryMissing,
        rovnek_store::copy::carry::CarryOffer,
        CarryFrom,
        Carried,
        rovnek_store::rows::pictures::PictureOf,
        rovnek_store::rows::pictures::PictureLine,
        Tell<'static>,
        Socket,
        SocketView,
        SimulatorRequest,
        DevicesView,
        PhoneRequest,
        PhoneView,
        ShakeView,
        BaseRequest,
        SolidView,
        CardView,
        MeshView,
        OutlineView,
        SetByPiece,
        PieceView,
        PieceDrawn,
        MoverView,
        ClipView,
        AxisView,
        LineView,
        HandleView,
        DragView,
        rovnek_core::rigs::handles::HandleLook,
        rovnek_core::rigs::handles::BuiltHandle,
        rovnek_core::rigs::handles::Sets,
        rovnek_core::rigs::handles::Trace,
        MachineView,
        MachineKind,
        PutThere,
        ClearAt,
        rovnek_live::command::RollState,
        rovnek_live::machine::LeadKind,
        rovnek_core::params::Preset,
        rovnek_server::exports::ExportKind,
        rovnek_core::set::Drawing,
        rovnek_core::set::Extent,
        rovnek_core::set::Gesture,
        rovnek_core::set::PieceKind,
        rovnek_core::plan::PiecePlan,
        rovnek_core::plan::PlanLabel,
        rovnek_core::plan::PlanMark,
        rovnek_core::plan::MarkShape,
        rovnek_core::plan::Role,
        FollowView,
        FiguresView,
        ReachView,
        RehearsalView,
        Whole<'static>,
        rovnek_store::model::SceneLine,
        rovnek_store::model::SceneHead,
        ListChange<u32>,
        ListChanges,
        Changed,
        Edit,
        Edits,
        Edited,
        StepRequest,
        rovnek_server::imports::Station,
        rovnek_server::imports::ImportKind,
        ImportedThings,
        CardSeat,
        SetupView,
        FrameRequest,
        Offer,
        FrameView,
    );
    same_as_kept("types.ts", &out);
}

/// What kinds of pieces say of themselves is needed while one is drawn, so it ships with the page.
#[test]
fn the_page_knows_the_kinds_of_pieces() {
    let kind = |kind| format!("  {},\n", serde_json::to_string(&kind).unwrap());
    let kinds: String = Form::kinds().into_iter().map(kind).collect();
    let out = format!(
        "// Generated from core's kinds of pieces by crates/server/tests/routes/types.rs. Do not edit.\n\n\
         import type {{ PieceKind }} from \"./types\";\n\n\
         export const pieceKinds: PieceKind[] = [\n{kinds}];\n"
    );
    same_as_kept("pieces.ts", &out);
}

/// Numbers that core and page must agree on while something is dragged.
#[test]
fn the_page_knows_cores_constants() {
    let place = |of_scene: bool| if of_scene { "scene" } else { "document" };
    let list = |(root, of_scene, binned): (&str, bool, bool)| {
        format!("  {root}: {{ of: \"{}\", keepsBinned: {binned} }},\n", place(of_scene))
    };
    let lists: String = Table::lists().map(list).collect();
    let out = format!(
        "// Generated from core's constants by crates/server/tests/routes/types.rs. Do not edit.\n\n\
         /** A key nearer than this to a time is the key of that time, seconds. */\n\
         export const SAME_KEY_S = {};\n\n\
         /** What is nearer to a machine than this is near, metres. */\n\
         export const NEAR_M = {};\n\n\
         /** Radius of a performer on the plan, metres. */\n\
         export const PERSON_M = {};\n\n\
         /** Least and greatest length of what the lens is drawn to see on the plan, metres. */\n\
         export const SIGHT_M = {:?} as const;\n\n\
         /** Distance from a machine's base at which its heading is taken, metres. */\n\
         export const LEVER_M = {};\n\n\
         /** Distance from a rail point at which its tangent of length 1 is taken, metres. */\n\
         export const PULL_M = {};\n\n\
         /** Lists of things, by the first token of their paths: who holds each in the document, and whether it has\n\
         \x20* binned things as well. */\n\
         export const LISTS = {{\n{lists}}} as const;\n",
        rovnek_core::keys::SAME_KEY_S,
        rovnek_core::clearance::NEAR_M,
        rovnek_core::plan::PERSON_M,
        rovnek_core::plan::SIGHT_M,
        rovnek_core::rigs::handles::LEVER_M,
        rovnek_core::rigs::handles::PULL_M
    );
    same_as_kept("constants.ts", &out);
}

fn same_as_kept(file: &str, out: &str) {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../web/src/generated");
    let path = format!("{folder}/{file}");
    if std::env::var_os("ROVNEK_WRITE").is_some() {
        std::fs::create_dir_all(folder).unwrap();
        std::fs::write(&path, out).unwrap();
    }
    let kept = std::fs::read_to_string(&path).unwrap_or_default();
    assert!(
        kept == out,
        "{file} of the page differs from what the server says; run with ROVNEK_WRITE=1 to make it anew"
    );
}
