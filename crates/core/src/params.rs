//! Parameters that a settable thing declares about itself, with meaning, units
//! and their ranges. Written once, where the thing is; the range check, the page's form, the command
//! line's help and the manual's tables come from it.

use crate::curve::{Curve, CurveKey};
use serde::Serialize;
use ts_rs::TS;

/// Parameter of a settable thing.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Param {
    /// The field, in the JSON of the thing it belongs to: tokens with slashes. Empty for a row.
    pub path: &'static str,
    /// Owner of the parameter, for a label of one letter; else empty.
    pub of: &'static str,
    /// Label on screen.
    pub label: &'static str,
    /// Behind its number; empty for none.
    pub unit: &'static str,
    /// A whole short sentence about what it does; empty where the label says it.
    pub hint: &'static str,
    /// Word on screen for a missing value (null); none for a required parameter.
    pub absent: Option<&'static str>,
    /// Values that are usual, by name.
    pub presets: Vec<Preset>,
    /// Kind of the value.
    pub holds: Holds,
}

/// Kind of value of a parameter.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
#[serde(rename_all = "snake_case", tag = "kind")]
pub enum Holds {
    /// A number from `min` to `max`.
    Number {
        /// The least, in its unit.
        min: f64,
        /// Upper bound of the number.
        max: f64,
        /// Default value; in a thing that describes itself, the current value.
        start: f64,
        /// Step of an arrow key.
        step: f64,
        /// Only whole numbers.
        whole: bool,
        /// Spans orders of magnitude: a slider moves through its logarithm.
        log: bool,
    },
    /// One of several words.
    Choice {
        /// The word in the JSON, and on screen.
        options: Vec<(&'static str, &'static str)>,
    },
    /// Boolean value, a switch.
    Switch,
    /// Several that stand in one line.
    Row {
        /// One after the other.
        params: Vec<Param>,
    },
    /// A performer, or nobody.
    Who {
        /// Word on screen for nobody.
        nobody: &'static str,
        /// The point that is measured from their eyes while it is somebody, if there is one.
        point: Option<&'static str>,
        /// Place that stands in for nobody, metres.
        alone: [f64; 3],
    },
    /// A piece of the set, or none.
    Piece {
        /// Word on screen for no choice.
        none: &'static str,
    },
    /// Something that was recorded or imported, or nothing.
    Recorded {
        /// Word on screen for no choice.
        none: &'static str,
    },
    /// Several of the same kind.
    List {
        /// Word on screen for an empty list; none for a list with at least one element.
        none: Option<&'static str>,
        /// Upper bound of the length.
        most: usize,
        /// Parameters of each element.
        params: Vec<Param>,
    },
    /// A course drawn by keys.
    Curve {
        /// Over what, in its unit: from its least to its most, as wide for each time as much; where
        /// missing over time, seconds, as long as the move is.
        over: Option<Over>,
        /// The least value.
        min: f64,
        /// Upper bound of the values.
        max: f64,
        /// Default points: place on the axis, and value.
        start: Vec<(f64, f64)>,
    },
    /// One of several ways, each with parameters of its own.
    Variant {
        /// The field that says which; none where the way's own name is the only field.
        tag: Option<&'static str>,
        /// Alternatives, one of which holds.
        cases: Vec<Case>,
    },
}

/// Axis of a drawn course that is not time.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, TS)]
pub struct Over {
    /// Unit of the axis.
    pub unit: &'static str,
    /// Lower bound, above 0.
    pub min: f64,
    /// Upper bound of the axis.
    pub max: f64,
}

/// Values that go by a name.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Preset {
    /// Name of the preset on screen.
    pub word: &'static str,
    /// Fields that the preset sets, and their values.
    pub sets: Vec<(&'static str, f64)>,
}

impl Preset {
    /// Preset with a name.
    pub fn new(word: &'static str, sets: Vec<(&'static str, f64)>) -> Preset {
        Preset { word, sets }
    }
}

/// A way of several.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Case {
    /// Name in the JSON.
    pub name: &'static str,
    /// Label on screen.
    pub label: &'static str,
    /// Parameters of this alternative.
    pub params: Vec<Param>,
}

impl Case {
    /// A way with a single parameter.
    pub fn one(name: &'static str, label: &'static str, param: Param) -> Case {
        Case { name, label, params: vec![param] }
    }
}

impl Param {
    fn new(path: &'static str, label: &'static str, unit: &'static str, holds: Holds) -> Param {
        Param { path, label, unit, hint: "", absent: None, presets: Vec::new(), of: "", holds }
    }

    /// A number; a step is a hundredth of a small range, or a tenth.
    pub fn number(path: &'static str, label: &'static str, unit: &'static str, min: f64, max: f64) -> Param {
        let step = if max - min <= 2.0 { 0.01 } else { 0.1 };
        Param::new(path, label, unit, Holds::Number { min, max, start: min, step, whole: false, log: false })
    }

    /// Parameter for a whole number.
    pub fn whole(path: &'static str, label: &'static str, unit: &'static str, min: u32, max: u32) -> Param {
        let (min, max) = (f64::from(min), f64::from(max));
        let holds = Holds::Number { min, max, start: min, step: 1.0, whole: true, log: false };
        Param::new(path, label, unit, holds)
    }

    /// One of several words.
    pub fn choice(
        path: &'static str,
        label: &'static str,
        options: &[(&'static str, &'static str)],
    ) -> Param {
        Param::new(path, label, "", Holds::Choice { options: options.to_vec() })
    }

    /// Parameter for a boolean.
    pub fn switch(path: &'static str, label: &'static str) -> Param {
        Param::new(path, label, "", Holds::Switch)
    }

    /// Several in one line.
    pub fn row(label: &'static str, params: Vec<Param>) -> Param {
        Param::new("", label, "", Holds::Row { params })
    }

    /// A performer, or nobody; a point is measured from somebody's eyes.
    pub fn who(
        path: &'static str,
        label: &'static str,
        nobody: &'static str,
        (point, alone): (&'static str, [f64; 3]),
    ) -> Param {
        Param::new(path, label, "", Holds::Who { nobody, point: Some(point), alone })
    }

    /// A performer, or nobody.
    pub fn somebody(path: &'static str, label: &'static str, nobody: &'static str) -> Param {
        Param::new(path, label, "", Holds::Who { nobody, point: None, alone: [0.0; 3] })
    }

    /// A piece of the set, or none.
    pub fn piece(path: &'static str, label: &'static str, none: &'static str) -> Param {
        Param::new(path, label, "", Holds::Piece { none })
    }

    /// Something that was recorded or imported, or nothing.
    pub fn recorded(path: &'static str, label: &'static str, none: &'static str) -> Param {
        Param::new(path, label, "", Holds::Recorded { none })
    }

    /// Several of the same kind, at least one and at most so many.
    pub fn list(path: &'static str, label: &'static str, most: usize, params: Vec<Param>) -> Param {
        Param::new(path, label, "", Holds::List { none: None, most, params })
    }

    /// A course over time, or over something else.
    pub fn curve(
        path: &'static str,
        label: &'static str,
        unit: &'static str,
        (min, max): (f64, f64),
        over: Option<Over>,
        start: &[(f64, f64)],
    ) -> Param {
        Param::new(path, label, unit, Holds::Curve { over, min, max, start: start.to_vec() })
    }

    /// One of several ways.
    pub fn variant(
        path: &'static str,
        label: &'static str,
        tag: Option<&'static str>,
        cases: Vec<Case>,
    ) -> Param {
        Param::new(path, label, "", Holds::Variant { tag, cases })
    }

    /// Sets the default value.
    pub fn start(mut self, value: f64) -> Param {
        if let Holds::Number { start, .. } = &mut self.holds {
            *start = value;
        }
        self
    }

    /// Has the slider move through the logarithm of the value.
    pub fn log(mut self) -> Param {
        if let Holds::Number { log, .. } = &mut self.holds {
            *log = true;
        }
        self
    }

    /// Adds a hint to the parameter.
    pub fn hint(self, hint: &'static str) -> Param {
        Param { hint, ..self }
    }

    /// Sets the step of an arrow key.
    pub fn step(mut self, by: f64) -> Param {
        if let Holds::Number { step, .. } = &mut self.holds {
            *step = by;
        }
        self
    }

    /// Makes the parameter optional; `word` stands on screen for a missing value.
    pub fn absent(self, word: &'static str) -> Param {
        Param { absent: Some(word), ..self }
    }

    /// Adds presets to the parameter.
    pub fn presets(self, presets: Vec<Preset>) -> Param {
        Param { presets, ..self }
    }

    /// Lets the list be empty; `word` stands on screen for an empty list.
    pub fn none(mut self, word: &'static str) -> Param {
        if let Holds::List { none, .. } = &mut self.holds {
            *none = Some(word);
        }
        self
    }

    /// Sets the owner of the parameter.
    pub fn of(self, of: &'static str) -> Param {
        Param { of, ..self }
    }
}

/// Value that is refused, with its path.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("{sentence}")]
pub struct Invalid {
    /// Tokens below the thing, with slashes; empty for the whole.
    pub path: String,
    /// Sentence that says the fault and the remedy.
    pub sentence: String,
}

impl Invalid {
    /// Refusal at a path.
    pub fn at(path: impl Into<String>, sentence: impl Into<String>) -> Invalid {
        Invalid { path: path.into(), sentence: sentence.into() }
    }
}

/// A name of something, as it stands on slate, plan and list: 1 to 120 characters that can be shown.
pub fn name(of: &str, typed: &str) -> Result<(), Invalid> {
    if typed.trim().is_empty() || typed.chars().count() > 120 {
        return Err(Invalid::at("name", format!("the name of {of} needs between 1 and 120 characters")));
    }
    match typed.chars().find(|c| c.is_control()) {
        Some(bad) => {
            let sentence = format!("the name of {of} holds a character that cannot be shown ({bad:?})");
            Err(Invalid::at("name", sentence))
        }
        None => Ok(()),
    }
}

/// A number beyond the range that a parameter describes is refused with what would do.
///
/// ```
/// use rovnek_core::params::{Param, within};
/// let passes = Param::whole("passes", "passes", "", 1, 400);
/// assert_eq!(within(&passes, 100.0), Ok(()));
/// assert_eq!(within(&passes, 401.0).unwrap_err().sentence, "passes is 401; give 1 to 400");
/// ```
pub fn within(param: &Param, value: f64) -> Result<(), Invalid> {
    let Holds::Number { min, max, whole, .. } = param.holds else { return Ok(()) };
    let unit = if param.unit.is_empty() { String::new() } else { format!(" {}", param.unit) };
    if (min..=max).contains(&value) && (!whole || value.fract() == 0.0) {
        return Ok(());
    }
    let kind = if whole && value.fract() != 0.0 { "a whole number, " } else { "" };
    Err(Invalid::at(param.path, format!("{} is {value}{unit}; give {kind}{min} to {max}{unit}", param.label)))
}

/// Most keys of a course that is drawn.
const MOST_KEYS: usize = 200;

/// A course beyond what a parameter describes is refused with what would do.
pub fn within_curve(param: &Param, curve: &Curve) -> Result<(), Invalid> {
    let Holds::Curve { over, min, max, .. } = param.holds else { return Ok(()) };
    let keys = curve.keys();
    if keys.is_empty() || keys.len() > MOST_KEYS {
        return Err(Invalid::at(param.path, format!("{} needs 1 to {MOST_KEYS} keys", param.label)));
    }
    let (from, to, what) = over.map_or((0.0, 36_000.0, "s"), |o| (o.min, o.max, o.unit));
    let bad = |k: &&CurveKey| !(from..=to).contains(&k.time_s) || !(min..=max).contains(&k.value);
    match keys.iter().find(bad) {
        Some(k) => Err(Invalid::at(
            param.path,
            format!(
                "{} is {} at {} {what}; give {min} to {max} between {from} and {to} {what}",
                param.label, k.value, k.time_s
            ),
        )),
        None => Ok(()),
    }
}

/// Checks that every number of a self-describing thing is within its range.
pub fn check(params: &[Param]) -> Result<(), Invalid> {
    params.iter().try_for_each(|param| match &param.holds {
        Holds::Number { start, .. } => within(param, *start),
        Holds::Row { params } => check(params),
        _ => Ok(()),
    })
}
