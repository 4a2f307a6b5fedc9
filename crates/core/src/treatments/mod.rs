//! What is done to a move so that it feels filmed. A move keeps an ordered list of treatments, each
//! of them can be switched off, kept to some axes or some time, and weakened; what was recorded is
//! never touched.
//!
//! A new treatment is one file beside this one and one line in [`treatments!`].

mod aim;
mod aim_read;
mod calm;
mod correction;
mod counter_zoom;
mod drift;
mod every;
mod fast_part;
mod focus;
mod inner_cut;
mod placed;
mod presets;
mod questions;
mod retime;
mod scope;
mod shake;
mod smooth;
mod steadying;
mod targets;
mod trim;
mod zoom;

pub use aim::Aim;
pub use aim_read::{AimAsLooked, aim_of_take};
pub use calm::{Calm, CalmBy, CalmGoal, Calmed, calm};
pub use correction::{Correction, CorrectionKey, Pin};
pub use counter_zoom::CounterZoom;
pub use drift::{Becomes, Drift, DriftStop, IntendedStop, ListStops};
pub use every::{Interval, KeyEvery};
pub use focus::Focus;
pub use inner_cut::{InnerCut, Jump};
pub use presets::{PresetTreatments, presets};
pub use questions::{Answer, Asked, FoundStretch, Question, TreatmentQuestion};
pub use retime::{Retime, RetimeBy};
pub use scope::{Scope, Span, Strength};
pub use shake::{Amounts, Shake, ShakeBy};
pub use smooth::{Smooth, SmoothBy};
pub use targets::{BodyPart, PlaceAt, Target, Turn};
pub use trim::Trim;
pub use zoom::{Zoom, ZoomTo, ZoomWay};

use crate::axis::Axis;
use crate::ids::TakeId;
use crate::motion::{Context, Motion};
use crate::params::{Invalid, Param};
use crate::steady::Steady;
use crate::time_map::TimeMap;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Level at which a treatment works; a list keeps the order of levels.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Level {
    /// When things happen.
    Time,
    /// Machine: axis values, so that a crane move stays a crane move.
    Machine,
    /// Camera: motion that the machine does not make.
    Camera,
}

/// Input of a treatment besides the axes that it works on.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Reads {
    /// Nothing: it works on a bare track as well.
    Nothing,
    /// Data that only a take keeps, in words.
    Take(&'static str),
    /// Performance: places of performers and pieces.
    Playing,
    /// Performance, and the set.
    Set,
    /// How the camera of another take moved.
    Recorded(TakeId),
}

/// A kind of treatment.
pub(crate) trait Treat: Default {
    /// Level of the treatment.
    const LEVEL: Level;
    /// On screen, and for what it is good in a short sentence.
    const WORDS: (&'static str, &'static str);
    /// Parameters of the treatment.
    fn params() -> Vec<Param>;
    /// Treatment with its default values.
    fn usual() -> Self {
        Self::default()
    }
    /// True if the treatment can do anything for a machine with these axes.
    fn fits(axes: &[Axis]) -> bool {
        let _ = axes;
        true
    }
    /// Checks ranges and the rules that tie parameters together.
    fn check(&self) -> Result<(), Invalid>;
    /// Of a treatment of time, which instant is seen when; both are counted from where the move begins,
    /// which is so long from there.
    fn time(&self, begins_s: f64, length_s: f64) -> TimeMap {
        let _ = begins_s;
        TimeMap::same(length_s)
    }
    /// Input besides the axes.
    fn reads(&self) -> Reads {
        Reads::Nothing
    }
    /// True if it names everybody that it goes by; false if anybody in the performance may count.
    fn names_whom(&self) -> bool {
        true
    }
    /// The motion after it. Never called with an empty one.
    fn apply(&self, motion: &Motion, context: &Context) -> Motion;
}

/// A kind of treatment as it is described.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Described {
    /// In the JSON, and on the command line.
    pub name: &'static str,
    /// Label on screen.
    pub label: &'static str,
    /// Hint: what the treatment is good for.
    pub hint: &'static str,
    /// Level of the treatment.
    pub level: Level,
    /// Parameters of the treatment.
    pub params: Vec<Param>,
    /// Questions that the treatment answers about the move before it.
    pub questions: Vec<Question>,
    /// Treatment with its default values.
    pub usual: Treatment,
}

macro_rules! treatments {
    ($($(#[$doc:meta])* $kind:ident($spec:ident) = $name:literal,)*) => {
        /// The kinds of treatments.
        #[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
        #[serde(tag = "kind")]
        pub enum TreatmentKind {
            $($(#[$doc])* #[serde(rename = $name)] $kind($spec),)*
        }

        impl TreatmentKind {
            /// Descriptions of all kinds, in the order in which they are offered.
            pub fn all() -> Vec<Described> {
                vec![$(Described {
                    name: $name,
                    label: $spec::WORDS.0,
                    hint: $spec::WORDS.1,
                    level: $spec::LEVEL,
                    params: $spec::params(),
                    questions: TreatmentQuestion::about($name),
                    usual: TreatmentKind::$kind($spec::usual()).into(),
                },)*]
            }

            /// A kind by its name, as it comes.
            pub fn named(name: &str) -> Option<TreatmentKind> {
                match name {
                    $($name => Some(TreatmentKind::$kind($spec::default())),)*
                    _ => None,
                }
            }

            /// Name in JSON and on the command line.
            pub fn name(&self) -> &'static str {
                match self { $(TreatmentKind::$kind(_) => $name,)* }
            }

            /// The names of the kinds that can do anything for a machine with these axes.
            pub fn fitting(axes: &[Axis]) -> Vec<&'static str> {
                [$(($name, $spec::fits(axes))),*].into_iter().filter(|k| k.1).map(|k| k.0).collect()
            }

            /// Level of the treatment.
            pub fn level(&self) -> Level {
                match self { $(TreatmentKind::$kind(_) => $spec::LEVEL,)* }
            }

            /// Input besides the axes.
            pub fn reads(&self) -> Reads {
                match self { $(TreatmentKind::$kind(spec) => spec.reads(),)* }
            }

            /// True if anybody in the performance may count, named or not.
            pub fn goes_by_anybody(&self) -> bool {
                match self { $(TreatmentKind::$kind(spec) => !spec.names_whom(),)* }
            }

            fn check(&self) -> Result<(), Invalid> {
                match self { $(TreatmentKind::$kind(spec) => spec.check(),)* }
            }

            fn time(&self, begins_s: f64, length_s: f64) -> TimeMap {
                match self { $(TreatmentKind::$kind(spec) => spec.time(begins_s, length_s),)* }
            }

            fn apply(&self, motion: &Motion, context: &Context) -> Motion {
                match self { $(TreatmentKind::$kind(spec) => spec.apply(motion, context),)* }
            }
        }
    };
}

treatments! {
    /// Takes something off both ends.
    Trim(Trim) = "trim",
    /// Changes when things happen.
    Retime(Retime) = "retime",
    /// Jumps on purpose.
    InnerCut(InnerCut) = "inner_cut",
    /// Takes the shake out of the axes.
    Smooth(Smooth) = "smooth",
    /// Steadies a tracked take from where the device was.
    Steady(Steady) = "steady",
    /// Lets dead stops move on.
    Drift(Drift) = "drift",
    /// One key every so often, with smooth tangents.
    Keys(KeyEvery) = "keys",
    /// Turns the head to somebody.
    Aim(Aim) = "aim",
    /// Focus: pulls focus from target to target.
    Focus(Focus) = "focus",
    /// Zooms from one focal length to the next.
    Zoom(Zoom) = "zoom",
    /// Keeps somebody as large by zooming.
    CounterZoom(CounterZoom) = "counter_zoom",
    /// Puts the camera right by hand.
    Correction(Correction) = "correction",
    /// Shakes the camera.
    Shake(Shake) = "shake",
}

/// One step of a move.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Treatment {
    /// Switched off, it is kept but does nothing.
    pub on: bool,
    /// The axes and the time that it works on; everything where missing.
    #[serde(default, skip_serializing_if = "Scope::is_whole")]
    #[ts(as = "Option<Scope>", optional)]
    pub scope: Scope,
    /// Share of the treatment that counts; all of it by default.
    #[serde(default, skip_serializing_if = "Strength::is_whole")]
    #[ts(as = "Option<Strength>", optional)]
    pub strength: Strength,
    /// Kind of treatment, with its parameters.
    #[serde(flatten)]
    pub kind: TreatmentKind,
}

impl From<TreatmentKind> for Treatment {
    fn from(kind: TreatmentKind) -> Treatment {
        Treatment { on: true, scope: Scope::default(), strength: Strength::default(), kind }
    }
}

impl Treatment {
    /// Checks the parameters.
    pub fn check(&self) -> Result<(), Invalid> {
        self.scope.check()?;
        self.strength.check()?;
        if self.kind.level() == Level::Time && !(self.scope.is_whole() && self.strength.is_whole()) {
            return Err(Invalid::at("scope", "a treatment of time is of all axes, always and as a whole"));
        }
        self.kind.check()
    }

    /// The motion after it, as far as it is meant; of several, see [`treated`].
    pub fn apply(&self, motion: &Motion, context: &Context) -> Motion {
        if !self.on || motion.is_empty() {
            return motion.clone();
        }
        self.scope.blend(&self.strength, motion, self.kind.apply(motion, context), context)
    }
}

/// A motion after a list of treatments. Those of time are put together, so that what was recorded is
/// read once.
pub fn treated(raw: &Motion, list: &[Treatment], context: &Context) -> Motion {
    let on: Vec<&Treatment> = list.iter().filter(|t| t.on).collect();
    let timed = on.iter().take_while(|t| t.kind.level() == Level::Time).count();
    on[timed..].iter().fold(retimed(raw, &on[..timed], context), |motion, t| t.apply(&motion, context))
}

/// A motion after treatments of time only.
pub(crate) fn retimed(raw: &Motion, list: &[&Treatment], context: &Context) -> Motion {
    if list.is_empty() || raw.is_empty() {
        return raw.clone();
    }
    let whole = TimeMap::same(raw.samples.duration_s());
    list.iter()
        .fold(whole, |map, t| map.then(|begins_s, length_s| t.kind.time(begins_s, length_s)))
        .apply(raw, context)
}

/// A list of treatments in an order in which they can work: those of one level together, time before
/// machine before camera.
pub fn check_list(list: &[Treatment]) -> Result<(), Invalid> {
    list.iter().try_for_each(Treatment::check)?;
    let late = list.windows(2).find(|w| w[0].kind.level() > w[1].kind.level());
    if late.is_some() {
        let sentence = "treatments of time come first, then those of the machine, then those of the camera";
        return Err(Invalid::at("", sentence));
    }
    if list.len() > 50 {
        return Err(Invalid::at("", "a move has at most 50 treatments"));
    }
    Ok(())
}
