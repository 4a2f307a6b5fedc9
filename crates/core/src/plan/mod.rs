//! The plan as data: ink on paper seen from above, in metres, each mark with a role. The page paints roles with
//! its colours, files draw them with their pens; neither knows what a mark was drawn from.

mod machine;
mod movement;
mod pieces;
mod shot;

pub use machine::{fixed, standing};
pub use movement::WALK_HZ;
pub use pieces::{PiecePlan, PlanLabel, pieces};
pub use shot::Shot;

use serde::Serialize;
use ts_rs::TS;

/// A place on the plan: x to the right, z towards the viewer, metres.
pub type Place = [f64; 2];

/// What a mark stands for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Role {
    /// Cut through: a wall, a pillar, the leaf of a door.
    Wall,
    /// A thing on the floor, or above it.
    Thing,
    /// A pane.
    Glass,
    /// Rails in the floor, of the set.
    Rail,
    /// Tape on the floor.
    Tape,
    /// A gap in what lies below it: a doorway, an opening, the shade of a lamp.
    Gap,
    /// Thin line: the way of a leaf.
    Way,
    /// Rails, posts and feet that a machine is built with.
    Track,
    /// Timber under a machine's rails.
    Sleeper,
    /// Line that a machine's carriage runs along.
    Guide,
    /// Place where the ride along that line is felt.
    Rough,
    /// Parts of a machine that move.
    Machine,
    /// A performer.
    Person,
    /// Way of a performer over the floor.
    Walk,
    /// Way of the camera.
    Path,
    /// Step across the way of the camera, and its time.
    Tick,
    /// What the lens sees.
    Sight,
    /// A length that is told.
    Dimension,
}

/// Shape of a mark.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
#[serde(rename_all = "snake_case", tag = "shape")]
pub enum MarkShape {
    /// Closed outlines, filled.
    Areas {
        /// Corners of each outline.
        outlines: Vec<Vec<Place>>,
    },
    /// A quarter of a circle, and the line from its end to its middle.
    Leaf {
        /// Middle of the circle: the hinge.
        hinge: Place,
        /// Where the leaf is closed.
        closed: Place,
        /// Where the leaf is open, a quarter turn on.
        open: Place,
        /// Radius of the circle, metres.
        radius_m: f64,
    },
    /// Open lines.
    Lines {
        /// Points of each line.
        lines: Vec<Vec<Place>>,
    },
    /// Circles of one size.
    Spots {
        /// Middle of each circle.
        places: Vec<Place>,
        /// Radius of the circles, metres.
        radius_m: f64,
    },
    /// Words.
    Words {
        /// Middle of the words.
        at: Place,
        /// What is written there.
        text: String,
    },
    /// A line between two places with its length beside it, in the unit of whoever paints it.
    Length {
        /// One end.
        from: Place,
        /// The other end.
        to: Place,
    },
}

impl MarkShape {
    /// Places that the mark goes through or around.
    pub fn places(&self) -> Vec<Place> {
        match self {
            MarkShape::Areas { outlines: all } | MarkShape::Lines { lines: all } => all.concat(),
            MarkShape::Leaf { hinge, closed, open, .. } => vec![*hinge, *closed, *open],
            MarkShape::Spots { places, .. } => places.clone(),
            MarkShape::Words { at, .. } => vec![*at],
            MarkShape::Length { from, to } => vec![*from, *to],
        }
    }
}

/// A mark on the plan.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct PlanMark {
    /// What it stands for.
    pub role: Role,
    /// Its shape on the plan.
    #[serde(flatten)]
    pub shape: MarkShape,
}

impl PlanMark {
    fn areas(role: Role, outlines: Vec<Vec<Place>>) -> PlanMark {
        PlanMark { role, shape: MarkShape::Areas { outlines } }
    }

    fn lines(role: Role, lines: Vec<Vec<Place>>) -> PlanMark {
        PlanMark { role, shape: MarkShape::Lines { lines } }
    }
}

/// A place from above.
fn above(at: crate::DVec3) -> Place {
    [at.x, at.z]
}
