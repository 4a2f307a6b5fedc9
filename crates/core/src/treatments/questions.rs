//! Questions that a treatment answers about the move before it: how much smoothing makes it calm, whom it
//! looked at, where it stands still. The page draws any question from its description.
//!
//! A new question is [`Ask`] for its parameters, beside the treatment that it is about, and one line in
//! [`questions!`].

use super::{AimAsLooked, CalmGoal, ListStops, TreatmentKind};
use crate::motion::{Context, Motion};
use crate::params::{Invalid, Param};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A kind of question, with its parameters.
pub(crate) trait Ask: Default {
    /// Name of the kind of treatment that the question is about.
    const OF: &'static str;
    /// Label on screen, and a hint: one sentence.
    const WORDS: (&'static str, &'static str);
    /// When the page asks it.
    const ASKED: Asked;
    /// Fields of the treatment that an answer sets; all others stay as they are.
    const SETS: &'static [&'static str];
    /// Parameters of the question.
    fn params() -> Vec<Param> {
        Vec::new()
    }
    /// Checks the parameters.
    fn check(&self) -> Result<(), Invalid> {
        Ok(())
    }
    /// Answers it for the treatment `of` and the motion `before` it; none for a treatment of another kind.
    /// `rest` is called from time to time: somebody may wait for something more urgent.
    fn answer(
        &self,
        of: &TreatmentKind,
        before: &Motion,
        context: &Context,
        rest: &dyn Fn(),
    ) -> Option<Answer>;
}

/// When the page asks a question.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Asked {
    /// When its button is pressed.
    Pressed,
    /// When one of its parameters is set.
    Set,
    /// Always: the answer is a list that is kept up to date.
    Always,
}

/// Answer to a question.
#[derive(Clone, Debug, Default, PartialEq, Serialize, TS)]
pub struct Answer {
    /// The treatment with the fields that the answer sets; none if there is nothing to set.
    pub to: Option<TreatmentKind>,
    /// Statement, a sentence; empty if there is nothing to say.
    pub words: String,
    /// Sentences about wishes that were not met.
    pub short: Vec<String>,
    /// Stretches of time that were found, in order of time.
    pub found: Vec<FoundStretch>,
}

/// A stretch of time that was found.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct FoundStretch {
    /// Name of the stretch, one or two words.
    pub name: String,
    /// Begin of the stretch, seconds of scene time.
    pub from_s: f64,
    /// End of the stretch, seconds of scene time.
    pub to_s: f64,
    /// What the treatment does to the stretch, one or two words.
    pub state: &'static str,
    /// Why the treatment leaves the stretch as it is, a sentence; none if the operator can choose.
    pub fixed: Option<&'static str>,
    /// True if the treatment leaves the stretch as it is because the operator wants it so.
    pub left: bool,
    /// The treatment with the operator's choice for this stretch turned round.
    pub turned: TreatmentKind,
}

/// A question as it is described.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Question {
    /// Name of the kind of treatment that it is about.
    pub of: &'static str,
    /// Label on screen.
    pub label: &'static str,
    /// Hint, a sentence.
    pub hint: &'static str,
    /// When it is asked.
    pub asked: Asked,
    /// Fields of the treatment that an answer sets.
    pub sets: &'static [&'static str],
    /// Parameters of the question.
    pub params: Vec<Param>,
    /// The question with its default values.
    pub usual: TreatmentQuestion,
}

macro_rules! questions {
    ($($(#[$doc:meta])* $kind:ident($spec:ident) = $name:literal,)*) => {
        /// The kinds of questions.
        #[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
        #[serde(tag = "question")]
        pub enum TreatmentQuestion {
            $($(#[$doc])* #[serde(rename = $name)] $kind($spec),)*
        }

        impl TreatmentQuestion {
            /// Descriptions of the questions about a kind of treatment, in the order in which they are offered.
            pub(super) fn about(treatment: &str) -> Vec<Question> {
                let all = [$(Question {
                    of: $spec::OF,
                    label: $spec::WORDS.0,
                    hint: $spec::WORDS.1,
                    asked: $spec::ASKED,
                    sets: $spec::SETS,
                    params: $spec::params(),
                    usual: TreatmentQuestion::$kind($spec::default()),
                },)*];
                all.into_iter().filter(|question| question.of == treatment).collect()
            }

            /// Checks the parameters.
            pub fn check(&self) -> Result<(), Invalid> {
                match self { $(TreatmentQuestion::$kind(question) => question.check(),)* }
            }

            /// Answers it for the treatment `of` and the motion `before` it. Refused if the question is about
            /// another kind of treatment.
            pub fn answer(
                &self,
                of: &TreatmentKind,
                before: &Motion,
                context: &Context,
                rest: &dyn Fn(),
            ) -> Result<Answer, Invalid> {
                match self {
                    $(TreatmentQuestion::$kind(question) => {
                        question.answer(of, before, context, rest).ok_or_else(|| {
                            let (label, about, is) = ($spec::WORDS.0, $spec::OF, of.name());
                            Invalid::at("", format!("“{label}” is asked of {about}; this treatment is {is}"))
                        })
                    })*
                }
            }
        }
    };
}

questions! {
    /// The least smoothing that makes a move as calm as is wished.
    Calm(CalmGoal) = "calm",
    /// An aim that looks where the move looked.
    AsLooked(AimAsLooked) = "as_looked",
    /// The stops that a drift finds.
    Stops(ListStops) = "stops",
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::treatments::Described;
    use std::collections::BTreeSet;

    #[test]
    fn every_question_is_about_a_kind_of_treatment_and_sets_fields_that_it_has() {
        let kinds: Vec<Described> = TreatmentKind::all();
        let asked: Vec<&Question> = kinds.iter().flat_map(|kind| &kind.questions).collect();
        let names: BTreeSet<&str> = asked.iter().map(|question| question.of).collect();
        assert_eq!(names, BTreeSet::from(["aim", "drift", "smooth"]));
        for question in asked {
            let of = TreatmentKind::named(question.of).unwrap();
            let fields = serde_json::to_value(&of).unwrap();
            // A list that is empty by default is left out of the JSON.
            let known = |field: &str| fields.get(field).is_some() || field == "leave";
            assert!(question.sets.iter().all(|field| known(field)), "{question:?}");
            assert_eq!(question.usual.check(), Ok(()));
        }
    }
}
