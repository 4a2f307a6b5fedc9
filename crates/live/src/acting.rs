//! Somebody or something on the set that a hand drives, alone or while the camera is driven too.

use rovnek_core::axis_motion::STEP_S;
use rovnek_core::performer::driven::{Driven, ROW, Wanted};
use rovnek_core::playing::MoverId;
use rovnek_core::space::Pose;

/// Who can be driven, and where they stand when the scene begins.
#[derive(Clone, Debug, PartialEq)]
pub struct Cast {
    /// Whose motion it would be.
    pub of: MoverId,
    /// Standing; of a performer.
    pub height_m: f64,
    /// How broad; of a performer.
    pub build: f64,
    /// The floor they stand on, metres.
    pub floor_m: f64,
    /// Where they stand when the scene begins.
    pub start: Driven,
    /// The parts of a piece around its foot; none of a performer.
    pub parts: Vec<Pose>,
}

/// Somebody or something that is driven.
pub struct Acting {
    /// Who.
    pub cast: Cast,
    /// The camera does not record meanwhile.
    pub alone: bool,
    /// What hands ask.
    pub wanted: Wanted,
    at: Driven,
    begin: Driven,
}

impl Acting {
    /// From where they stand when the scene begins.
    pub fn new(cast: Cast, alone: bool) -> Acting {
        let start = cast.start;
        Acting { cast, alone, wanted: Wanted::default(), at: start, begin: start }
    }

    /// One step of the scene.
    pub fn step(&mut self) {
        self.at = self.at.step(self.wanted, STEP_S);
    }

    /// A roll begins here.
    pub fn begins(&mut self) {
        self.begin = self.at;
    }

    /// Hands let go: who is seated stays seated.
    pub fn let_go(&mut self) {
        self.wanted = Wanted { sit: self.wanted.sit, ..Wanted::default() };
    }

    /// Back to where the roll began.
    pub fn back(&mut self) {
        self.at = self.begin;
        self.wanted = Wanted::default();
    }

    /// As it is recorded.
    pub fn row(&self) -> [f64; ROW] {
        self.at.row()
    }

    /// Where its parts are.
    pub fn bodies(&self) -> Vec<Pose> {
        let Cast { of, height_m, build, floor_m, parts, .. } = &self.cast;
        match of {
            MoverId::Performer(_) => self.at.figure(*height_m, *build, *floor_m),
            MoverId::Piece(_) => parts.iter().map(|p| self.at.foot(*floor_m).then(*p)).collect(),
        }
    }
}
