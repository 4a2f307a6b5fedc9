//! Columns that refer to other things, and what becomes of a reference whose thing is missing.

use crate::rows::column::from_column;
use crate::{Result, StoreError};
use rovnek_core::ids::ThingKind;
use rovnek_core::references::{Reference, references};
use serde::Serialize;
use serde::de::DeserializeOwned;
use serde_json::Value as Json;

/// Fate of a reference whose thing does not come along when its row is copied or carried.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Missing {
    /// The smallest part that holds it and that may be left out goes; where there is none, it is refused.
    Cleared,
    /// The row is nothing without it.
    Refused,
    /// It becomes 0, and nobody is asked: a record of what is known no longer.
    Forgotten,
}

/// Content of a column.
pub(crate) enum Holds {
    /// Id of one thing, as a plain number.
    Id(ThingKind),
    /// Parameters: JSON with the version of its layout.
    Params(Params),
}

/// Parameters as JSON, and the references in them.
type Read = (Json, Vec<Reference>);

/// Parameters of a type.
pub(crate) struct Params {
    /// Reads a column: its parameters as they are written today, and the references in these.
    pub read: fn(&str) -> Result<Read>,
    /// Reads parameters, to see whether they can be so.
    pub check: fn(&Json) -> bool,
    /// Pointer of references that come along or go, and that nobody is asked for.
    pub quiet: Option<&'static str>,
}

/// Column that refers to other things, or holds JSON.
pub(crate) struct Column {
    pub name: &'static str,
    pub holds: Holds,
    pub missing: Missing,
}

/// Column with the id of a thing of a kind.
pub(crate) const fn id_of(name: &'static str, kind: ThingKind, missing: Missing) -> Column {
    Column { name, holds: Holds::Id(kind), missing }
}

/// Column with parameters of a type.
pub(crate) const fn params<T: Serialize + DeserializeOwned>(name: &'static str) -> Column {
    let holds = Holds::Params(Params {
        read: |text| {
            let value = from_column::<T>("parameters", text)?;
            Ok((serde_json::to_value(&value).expect("parameters are plain data"), references(&value)))
        },
        check: |json| T::deserialize(json).is_ok(),
        quiet: None,
    });
    Column { name, holds, missing: Missing::Cleared }
}

impl Column {
    /// Column with another fate of references whose thing is missing.
    pub(crate) const fn when_missing(self, missing: Missing) -> Column {
        Column { missing, ..self }
    }

    /// Column with references below a pointer that no choice is asked for.
    pub(crate) const fn quiet_at(self, pointer: &'static str) -> Column {
        let Column { name, holds: Holds::Params(params), missing } = self else {
            panic!("only parameters have parts");
        };
        Column { name, holds: Holds::Params(Params { quiet: Some(pointer), ..params }), missing }
    }
}

impl Params {
    /// True for a reference that nobody is asked for.
    pub(crate) fn is_quiet(&self, reference: &Reference) -> bool {
        self.quiet.is_some_and(|at| reference.pointer.starts_with(at))
    }

    /// Gives references in parameters the numbers that they have now; `fate` is none for one that is missing.
    /// The smallest part that holds a missing one and that may be left out goes with it; an error when there
    /// is no such part.
    pub(crate) fn rewrite(
        &self,
        json: &mut Json,
        found: &[Reference],
        fate: &dyn Fn(&Reference) -> Option<u32>,
    ) -> Result<()> {
        // From the end on, so that a member that goes out of its list leaves the pointers before it alone.
        let mut gone: Vec<String> = Vec::new();
        for reference in found.iter().rev() {
            if gone.iter().any(|part| reference.pointer.starts_with(part)) {
                continue;
            }
            match fate(reference) {
                Some(id) => {
                    let number = json.pointer_mut(&reference.pointer);
                    *number.expect("a pointer leads to its number") = id.into();
                }
                None => {
                    let (without, part) = self
                        .without(json, reference)
                        .ok_or_else(|| StoreError::Refused(reference.pointer.clone()))?;
                    *json = without;
                    gone.push(part);
                }
            }
        }
        Ok(())
    }

    /// Parameters without the smallest part around a reference that may be left out, and the pointer of what
    /// is in that part.
    fn without(&self, json: &Json, reference: &Reference) -> Option<(Json, String)> {
        let mut at = &*reference.pointer;
        if reference.kind.zero_is_none() {
            let mut tried = json.clone();
            *tried.pointer_mut(at)? = 0.into();
            return Some((tried, at.into()));
        }
        while let Some((above, last)) = at.rsplit_once('/') {
            let mut tried = json.clone();
            match tried.pointer_mut(above)? {
                Json::Array(list) => drop(list.remove(last.parse().ok()?)),
                Json::Object(fields) => drop(fields.insert(last.into(), Json::Null)),
                _ => return None,
            }
            if (self.check)(&tried) {
                return Some((tried, format!("{at}/")));
            }
            at = above;
        }
        None
    }
}
