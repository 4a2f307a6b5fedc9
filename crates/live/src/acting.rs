//! Somebody or something on the set that a hand drives, alone or while the camera is driven too: by keys
//! and pads, or as a puppet that goes where a tracked device is carried.

use rovnek_core::axis_motion::STEP_S;
use rovnek_core::performer::driven::{Driven, ROW, WalkInput};
use rovnek_core::playing::MoverId;
use rovnek_core::space::Pose;
use rovnek_core::steady::{Steadier, Steady, SteadyBy};
use rovnek_core::tracked::{Attached, Mapping};

/// Performer or piece that can be driven, with the place at the beginning of the scene.
#[derive(Clone, Debug, PartialEq)]
pub struct Cast {
    /// Id of the performer or piece.
    pub of: MoverId,
    /// Standing; of a performer.
    pub height_m: f64,
    /// How broad; of a performer.
    pub build: f64,
    /// The floor they stand on, metres.
    pub floor_m: f64,
    /// Place at the beginning of the scene.
    pub start: Driven,
    /// The parts of a piece around its foot; none of a performer.
    pub parts: Vec<Pose>,
}

/// How steady a puppet is: a hand trembles more than who is shown walks.
const STEADY: Steady = Steady { by: SteadyBy::OneEuro, position: 0.4, rotation: 0.4 };

/// The device that a puppet hangs on.
struct Strings {
    source: String,
    scale: f64,
    /// Attachment to a device; none until the device is heard.
    attached: Option<Attached>,
    steadier: Steadier,
}

/// Somebody or something that is driven.
pub struct Acting {
    /// Performer or piece that is driven.
    pub cast: Cast,
    /// The camera does not record meanwhile.
    pub alone: bool,
    /// Request of the hands.
    pub wanted: WalkInput,
    strings: Option<Strings>,
    at: Driven,
    begin: Driven,
}

impl Acting {
    /// From where they stand when the scene begins.
    pub fn new(cast: Cast, alone: bool) -> Acting {
        let start = cast.start;
        Acting { cast, alone, wanted: WalkInput::default(), strings: None, at: start, begin: start }
    }

    /// Hangs it on a device from where both are, a metre of the device's being so many of the set's; or
    /// gives it back to hands.
    pub fn hang(&mut self, source: String, scale: f64) {
        self.wanted = WalkInput::default();
        self.strings = (!source.is_empty()).then(|| Strings {
            source,
            scale: scale.clamp(0.01, 1000.0),
            attached: None,
            steadier: Steadier::new(STEADY, STEP_S),
        });
    }

    /// The device that it hangs on, and its scale.
    pub fn source(&self) -> Option<(&str, f64)> {
        self.strings.as_ref().map(|s| (s.source.as_str(), s.scale))
    }

    /// One step of the scene; `device` is where the one it hangs on is, if it is heard.
    pub fn step(&mut self, device: Option<Pose>) {
        self.at = match (&mut self.strings, device) {
            (None, _) => self.at.step(self.wanted, STEP_S),
            (Some(strings), Some(device)) => {
                let mapping = Mapping { scale: strings.scale, ..Mapping::default() };
                let stood = self.at.foot(0.0);
                let attached = strings.attached.get_or_insert_with(|| mapping.attach(stood, device));
                self.at.led(strings.steadier.next(attached.camera(device)), STEP_S)
            }
            // It stays where it was let hang.
            (Some(_), None) => Driven { speed: 0.0, ..self.at },
        };
    }

    /// A roll begins here.
    pub fn begins(&mut self) {
        self.begin = self.at;
    }

    /// Hands let go: who is seated stays seated.
    pub fn let_go(&mut self) {
        self.wanted = WalkInput { sit: self.wanted.sit, ..WalkInput::default() };
    }

    /// Back to where the roll began.
    pub fn back(&mut self) {
        self.at = self.begin;
        self.wanted = WalkInput::default();
        if let Some((source, scale)) = self.source().map(|(s, scale)| (s.to_string(), scale)) {
            self.hang(source, scale);
        }
    }

    /// Row of the recording.
    pub fn row(&self) -> [f64; ROW] {
        self.at.row()
    }

    /// Pose of the foot.
    pub fn foot(&self) -> Pose {
        self.at.foot(self.cast.floor_m)
    }

    /// Poses of the parts.
    pub fn bodies(&self) -> Vec<Pose> {
        let Cast { of, height_m, build, floor_m, parts, .. } = &self.cast;
        match of {
            MoverId::Performer(_) => self.at.figure(*height_m, *build, *floor_m),
            MoverId::Piece(_) => parts.iter().map(|p| self.foot().then(*p)).collect(),
        }
    }
}
