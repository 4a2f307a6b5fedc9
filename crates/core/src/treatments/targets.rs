//! What a camera is aimed at or focused on, one after the other, and how it goes from one to the next.

use crate::curve::slope::minimum_jerk;
use crate::motion::Playing;
use crate::params::{Case, Invalid, Param, within};
use crate::performer::Points;
use crate::playing::MoverId;
use crate::space::Pose;
use glam::DVec3;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A part of somebody.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
#[allow(missing_docs)]
pub enum BodyPart {
    #[default]
    Eyes,
    Chest,
    Feet,
}

/// Somebody or somewhere.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "at")]
pub enum Target {
    /// Whoever is nearest to the middle of the picture when it begins.
    Nearest {
        /// Which part of them.
        part: BodyPart,
    },
    /// A performer; nobody leaves things as they were.
    Somebody {
        /// By their number.
        who: Option<u32>,
        /// Which part of them.
        part: BodyPart,
    },
    /// A piece of the set that moves; none leaves things as they were.
    Piece {
        /// By its number.
        piece: Option<u32>,
        /// So high over where it stands, metres.
        up_m: f64,
    },
    /// A place on the set.
    Place {
        /// Metres.
        place_m: [f64; 3],
    },
    /// So far ahead of the lens, wherever it looks.
    Ahead {
        /// Metres along the view.
        distance_m: f64,
    },
}

impl Default for Target {
    fn default() -> Target {
        Target::Nearest { part: BodyPart::Eyes }
    }
}

/// From when on something is the target.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Turn {
    /// Scene time at which it begins to be turned to; what begins at 0 is there from the start.
    pub from_s: f64,
    /// How long the turn takes.
    pub over_s: f64,
    /// To whom or where.
    pub to: Target,
}

impl Default for Turn {
    fn default() -> Turn {
        Turn { from_s: 0.0, over_s: 1.0, to: Target::default() }
    }
}

impl Turn {
    /// How much of the turn is done: 0 before it, 1 after it.
    pub fn done(&self, time_s: f64) -> f64 {
        if self.from_s <= 0.0 { 1.0 } else { minimum_jerk((time_s - self.from_s) / self.over_s) }
    }

    fn from() -> Param {
        Param::number("from_s", "from", "s", 0.0, 36_000.0).of("Turn")
    }

    fn over() -> Param {
        Param::number("over_s", "over", "s", 0.05, 60.0).start(1.0).of("Turn")
    }

    fn place() -> [Param; 3] {
        let m = |path, label| Param::number(path, label, "m", -10_000.0, 10_000.0).of("Place");
        [m("place_m/0", "x"), m("place_m/1", "y").start(1.6), m("place_m/2", "z")]
    }

    fn up() -> Param {
        Param::number("up_m", "above it", "m", -20.0, 50.0).start(1.5).step(0.1)
    }

    fn distance() -> Param {
        Param::number("distance_m", "distance", "m", 0.01, 10_000.0).start(3.0).step(0.1)
    }

    /// Of one.
    fn params(with: With) -> Vec<Param> {
        let parts = [("eyes", "eyes"), ("chest", "chest"), ("feet", "feet")];
        let nearest = vec![Param::choice("part", "at", &parts)];
        let somebody = vec![Param::somebody("who", "who", "as it was"), Param::choice("part", "at", &parts)];
        let mut cases = vec![
            Case { name: "nearest", label: "who is in the picture", params: nearest },
            Case { name: "somebody", label: "somebody", params: somebody },
            Case {
                name: "piece",
                label: "what moves",
                params: vec![Param::moving("piece", "what", "nothing"), Turn::up()],
            },
            Case { name: "place", label: "a place", params: vec![Param::row("place", Turn::place().into())] },
        ];
        if with == With::Distances {
            cases.push(Case::one("ahead", "a distance", Turn::distance()));
        }
        vec![
            Param::row("begins", vec![Turn::from(), Turn::over()]),
            Param::variant("to", "to", Some("at"), cases),
        ]
    }
}

/// Most turns in one treatment.
pub(super) const MOST: usize = 50;

/// What targets may be besides somebody and places.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(super) enum With {
    Nothing,
    /// Distances from the lens.
    Distances,
}

/// Several, one after the other.
pub(super) fn list(label: &'static str, with: With) -> Param {
    Param::list("turns", label, MOST, Turn::params(with))
        .hint("Whom or what it is turned to, one after the other; what begins at 0 is there from the start.")
}

pub(super) fn check(turns: &[Turn], with: With) -> Result<(), Invalid> {
    if turns.is_empty() || turns.len() > MOST {
        return Err(Invalid::at("turns", format!("give 1 to {MOST} whom or what it is turned to")));
    }
    for (i, turn) in turns.iter().enumerate() {
        let here = |e: Invalid| Invalid { path: format!("turns/{i}/{}", e.path), ..e };
        within(&Turn::from(), turn.from_s).and(within(&Turn::over(), turn.over_s)).map_err(here)?;
        let to = |e: Invalid| here(Invalid { path: format!("to/{}", e.path), ..e });
        match turn.to {
            Target::Place { place_m } => {
                Turn::place().iter().zip(place_m).try_for_each(|(p, v)| within(p, v)).map_err(to)?;
            }
            Target::Piece { up_m, .. } => within(&Turn::up(), up_m).map_err(to)?,
            Target::Ahead { .. } if with == With::Nothing => {
                let sentence = "a distance is nothing to turn to; give somebody or a place";
                return Err(Invalid::at(format!("turns/{i}/to"), sentence));
            }
            Target::Ahead { distance_m } => within(&Turn::distance(), distance_m).map_err(to)?,
            Target::Nearest { .. } | Target::Somebody { .. } => {}
        }
        if i > 0 && turn.from_s <= turns[i - 1].from_s {
            let sentence = format!("turn {} begins before the one it follows; put them in order", i + 1);
            return Err(Invalid::at(format!("turns/{i}/from_s"), sentence));
        }
    }
    Ok(())
}

impl Target {
    /// Whether it leaves things as they were.
    pub fn is_nobody(&self) -> bool {
        matches!(self, Target::Somebody { who: None, .. } | Target::Piece { piece: None, .. })
    }

    /// By their number, whoever has one.
    pub fn who(&self) -> Option<u32> {
        if let Target::Somebody { who, .. } = *self { who } else { None }
    }

    /// The same, with a name for whoever is nearest to the middle of the picture at a time.
    pub fn named(self, camera: Pose, playing: Option<Playing>, time_s: f64) -> Target {
        let Target::Nearest { part } = self else { return self };
        let timeline = playing.map(|p| p.timeline);
        let people = timeline.into_iter().flat_map(|t| t.movers.iter().filter_map(|m| m.of.performer()));
        let ahead = camera.rotation * DVec3::NEG_Z;
        let off = |who: &u32| {
            let point = Target::Somebody { who: Some(*who), part }.point(playing, time_s);
            point.map_or(f64::MAX, |point| (point - camera.position).angle_between(ahead))
        };
        Target::Somebody { who: people.min_by(|a, b| off(a).total_cmp(&off(b))), part }
    }

    /// Where it is; none where it leaves things as they were, or where who is meant is not there.
    pub fn point(&self, playing: Option<Playing>, time_s: f64) -> Option<DVec3> {
        match *self {
            Target::Nearest { .. } | Target::Ahead { .. } => None,
            Target::Place { place_m } => Some(place_m.into()),
            Target::Piece { piece, up_m } => {
                let pose = playing?.timeline.pose(MoverId::Piece(piece?), time_s)?;
                Some(pose.position + DVec3::Y * up_m)
            }
            Target::Somebody { who, part } => {
                let Points { feet, chest, eyes } = playing?.timeline.points_of(who?, time_s)?;
                Some(match part {
                    BodyPart::Eyes => eyes,
                    BodyPart::Chest => chest,
                    BodyPart::Feet => feet,
                })
            }
        }
    }
}
