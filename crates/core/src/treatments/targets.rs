//! Targets of aim and focus, one after another, and the turns between them.

use super::Reads;
use crate::curve::slope::minimum_jerk;
use crate::curve::{Curve, CurveKey};
use crate::ids::{PerformerId, PieceId};
use crate::motion::Playing;
use crate::params::{Case, Invalid, Param, within};
use crate::performer::Points;
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

/// Place of a moving point at a time.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
pub struct PlaceAt {
    /// Scene time, seconds.
    pub at_s: f64,
    /// Place of the point, metres.
    pub place_m: [f64; 3],
}

/// Somebody or somewhere.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "at")]
pub enum Target {
    /// Whoever is nearest to the middle of the picture when it begins.
    Nearest {
        /// Part of the body.
        part: BodyPart,
    },
    /// A performer; nobody leaves things as they were.
    Somebody {
        /// By their number.
        who: Option<PerformerId>,
        /// Part of the body.
        part: BodyPart,
    },
    /// A piece of the set, a mark among them, whether it moves or stands; none leaves things as they were.
    Piece {
        /// Id of the piece in the scene.
        piece: Option<PieceId>,
        /// Height over the foot of the piece, metres.
        up_m: f64,
    },
    /// A place on the set.
    Place {
        /// Place of the point, metres.
        place_m: [f64; 3],
    },
    /// A point that moves, smoothly from one place to the next; nowhere leaves things as they were.
    Moving {
        /// In order of time; it stands before the first of them, and after the last.
        places: Vec<PlaceAt>,
    },
    /// Point at a distance ahead of the lens.
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
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Turn {
    /// Scene time at which it begins to be turned to; what begins at 0 is there from the start.
    pub from_s: f64,
    /// Length of the turn, seconds.
    pub over_s: f64,
    /// Target after the turn.
    pub to: Target,
}

impl Default for Turn {
    fn default() -> Turn {
        Turn { from_s: 0.0, over_s: 1.0, to: Target::default() }
    }
}

impl Turn {
    /// Share of the turn that is done: 0 before it, 1 after it.
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
        let m = |path, label| Param::number(path, label, "m", -10_000.0, 10_000.0).start(0.0).of("Place");
        [m("place_m/0", "x"), m("place_m/1", "y").start(1.6), m("place_m/2", "z")]
    }

    fn at() -> Param {
        Param::number("at_s", "at", "s", 0.0, 36_000.0).step(0.01)
    }

    fn up() -> Param {
        Param::number("up_m", "above it", "m", -20.0, 50.0).start(1.5).step(0.1)
    }

    fn distance() -> Param {
        Param::number("distance_m", "distance", "m", 0.01, 10_000.0).start(3.0).step(0.1)
    }

    /// Parameters of a turn.
    fn params(with: With) -> Vec<Param> {
        let parts = [("eyes", "eyes"), ("chest", "chest"), ("feet", "feet")];
        let nearest = vec![Param::choice("part", "at", &parts)];
        let somebody = vec![Param::somebody("who", "who", "as it was"), Param::choice("part", "at", &parts)];
        let place = || Param::row("place", Turn::place().into());
        let at = Param::row("at", vec![Turn::at()]);
        let mut cases = vec![
            Case { name: "nearest", label: "who is in the picture", params: nearest },
            Case { name: "somebody", label: "somebody", params: somebody },
            Case {
                name: "piece",
                label: "a mark or a piece",
                params: vec![Param::piece("piece", "which", "none yet"), Turn::up()],
            },
            Case { name: "place", label: "a place", params: vec![place()] },
            Case {
                name: "moving",
                label: "a point that moves",
                params: vec![Param::list("places", "place", MOST, vec![at, place()]).none("nowhere yet")],
            },
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

/// Nearer than this, two places are at one time, seconds.
const PLACES_APART_S: f64 = 0.01;

/// Input that several turns need.
pub(super) fn reads(turns: &[Turn]) -> Reads {
    let piece = turns.iter().any(|turn| matches!(turn.to, Target::Piece { .. }));
    if piece { Reads::Set } else { Reads::Playing }
}

/// True if no turn is to whoever happens to be nearest.
pub(super) fn names_whom(turns: &[Turn]) -> bool {
    !turns.iter().any(|turn| matches!(turn.to, Target::Nearest { .. }))
}

/// Targets on offer besides people and places.
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
        let there = |place_m: [f64; 3]| Turn::place().iter().zip(place_m).try_for_each(|(p, v)| within(p, v));
        match turn.to {
            Target::Place { place_m } => there(place_m).map_err(to)?,
            Target::Moving { ref places } => {
                if places.len() > MOST {
                    return Err(to(Invalid::at("places", format!("give up to {MOST} places"))));
                }
                for (n, PlaceAt { at_s, place_m }) in places.iter().enumerate() {
                    let of = |e: Invalid| to(Invalid { path: format!("places/{n}/{}", e.path), ..e });
                    within(&Turn::at(), *at_s).and(there(*place_m)).map_err(of)?;
                    if n > 0 && *at_s < places[n - 1].at_s + PLACES_APART_S {
                        let sentence = format!("places {n} and {} are at one time or out of order", n + 1);
                        return Err(of(Invalid::at("at_s", sentence)));
                    }
                }
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
    /// True for a target that leaves the camera as it was.
    pub fn is_nobody(&self) -> bool {
        match self {
            Target::Somebody { who, .. } => who.is_none(),
            Target::Piece { piece, .. } => piece.is_none(),
            Target::Moving { places } => places.is_empty(),
            Target::Nearest { .. } | Target::Place { .. } | Target::Ahead { .. } => false,
        }
    }

    /// By their number, whoever has one.
    pub fn who(&self) -> Option<PerformerId> {
        if let Target::Somebody { who, .. } = *self { who } else { None }
    }

    /// Replaces "nearest to the middle of the picture" by that person at a time.
    pub fn named(self, camera: Pose, playing: Option<Playing>, time_s: f64) -> Target {
        let Target::Nearest { part } = self else { return self };
        let timeline = playing.map(|p| p.timeline);
        let people = timeline.into_iter().flat_map(|t| t.movers.iter().filter_map(|m| m.of.performer()));
        let ahead = camera.rotation * DVec3::NEG_Z;
        let off = |who: &PerformerId| {
            let point = Target::Somebody { who: Some(*who), part }.point(playing, time_s);
            point.map_or(f64::MAX, |point| (point - camera.position).angle_between(ahead))
        };
        Target::Somebody { who: people.min_by(|a, b| off(a).total_cmp(&off(b))), part }
    }

    /// Course over time; none for a target that leaves the camera as it was, or that is missing.
    pub fn course<'a>(&'a self, playing: Option<Playing<'a>>) -> Box<dyn Fn(f64) -> Option<DVec3> + 'a> {
        let Target::Moving { places } = self else {
            return Box::new(move |time_s| self.point(playing, time_s));
        };
        let axis = |i: usize| {
            let keys = places.iter().map(|p| CurveKey::smooth(p.at_s, p.place_m[i]));
            Curve::new(keys.collect()).expect("places are in order and apart")
        };
        let [x, y, z] = [axis(0), axis(1), axis(2)];
        Box::new(move |time_s| Some(DVec3::new(x.at(time_s)?, y.at(time_s)?, z.at(time_s)?)))
    }

    /// Place at a time, for targets that do not move by themselves.
    pub(super) fn point(&self, playing: Option<Playing>, time_s: f64) -> Option<DVec3> {
        match *self {
            Target::Nearest { .. } | Target::Ahead { .. } | Target::Moving { .. } => None,
            Target::Place { place_m } => Some(place_m.into()),
            Target::Piece { piece, up_m } => {
                let pose = playing?.timeline.pose_of_piece(piece?, time_s)?;
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
