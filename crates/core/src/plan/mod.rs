//! The plan as data: ink on paper seen from above, in metres, each mark with a role. The page paints roles with
//! its colours, files draw them with their pens; neither knows what a mark was drawn from.

mod machine;
mod movement;
mod pieces;
mod shot;

pub use machine::fixed;
use machine::standing;
pub use movement::{PERSON_M, SIGHT_M, WALK_HZ};
pub use pieces::{PiecePlan, PlanLabel, outline, pieces};
pub use shot::Shot;

use serde::Serialize;
use ts_rs::TS;

/// A place on the plan: x to the right, z towards the viewer, metres.
pub type Place = [f64; 2];

/// What a mark stands for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Role {
    /// Wall, pillar or leaf of a door, cut through.
    Wall,
    /// Piece of the set on the floor, or above it.
    Thing,
    /// Pane of a window.
    Glass,
    /// Rails in the floor, of the set.
    Rail,
    /// Tape of a mark on the floor.
    Tape,
    /// Doorway, opening or shade of a lamp: a gap in the marks below.
    Gap,
    /// Way of the leaf of a door, a thin line.
    Way,
    /// Rails, posts and feet that a machine is built with.
    Track,
    /// Timber under a machine's rails.
    Sleeper,
    /// Line that a machine's carriage runs along.
    Guide,
    /// Place where the ride along the line of a carriage is felt.
    Rough,
    /// Parts of a machine that move.
    Machine,
    /// Performer from above.
    Person,
    /// Way of a performer over the floor.
    Walk,
    /// Way of the camera.
    Path,
    /// Step across the way of the camera, and its time.
    Tick,
    /// Part of the floor that the lens sees.
    Sight,
    /// Length of a part of the set, with a number.
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
    /// Text on the plan.
    Words {
        /// Place of the middle of the text.
        at: Place,
        /// The text.
        text: String,
    },
    /// Line between two places; the painter writes the length of the line beside it, in the painter's unit.
    Length {
        /// First end of the line.
        from: Place,
        /// Second end of the line.
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
    /// What the mark stands for.
    pub role: Role,
    /// Shape of the mark on the plan.
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

/// Place of a point of the world on the plan.
fn above(at: crate::DVec3) -> Place {
    [at.x, at.z]
}
