//! What a thing refers to by number: read out of its JSON, where a field of one name always means a thing
//! of one kind, and written anew where things are copied. What an edit newly refers to must be there; what was there once and is gone meanwhile stays
//! named, so that undo and the bin can bring it back.

use crate::history::Edit;
use crate::table::Table;
use crate::{Result, StoreError};
use rusqlite::OptionalExtension;
use serde_json::Value;
use std::collections::BTreeSet;

/// Kind of thing that a number refers to.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Whom {
    Thing(Table),
    /// Something that was brought in, of a kind.
    Asset(&'static str),
}

const FIELDS: [(&str, Whom); 16] = [
    ("image", Whom::Asset("image")),
    ("images", Whom::Asset("image")),
    ("mesh", Whom::Asset("mesh")),
    ("clip", Whom::Asset("clip")),
    ("performance", Whom::Thing(Table::Performance)),
    ("rides", Whom::Thing(Table::Piece)),
    ("card", Whom::Thing(Table::Piece)),
    ("piece", Whom::Thing(Table::Piece)),
    ("toward", Whom::Thing(Table::Setup)),
    ("setup", Whom::Thing(Table::Setup)),
    ("wild", Whom::Thing(Table::Setup)),
    ("follows", Whom::Thing(Table::Performer)),
    ("who", Whom::Thing(Table::Performer)),
    ("performer", Whom::Thing(Table::Performer)),
    ("take", Whom::Thing(Table::Take)),
    ("move", Whom::Thing(Table::Move)),
];

fn meant(field: &str) -> Option<Whom> {
    FIELDS.iter().find(|(name, _)| *name == field).map(|(_, whom)| *whom)
}

/// All that is referred to in a value.
pub(crate) fn references(value: &Value, into: &mut BTreeSet<(Whom, i64)>) {
    match value {
        Value::Array(all) => all.iter().for_each(|one| references(one, into)),
        Value::Object(fields) => {
            // What carries a machine says by a word what its number means.
            let carried = fields.get("by").and_then(Value::as_str).and_then(meant).zip(fields.get("id"));
            into.extend(carried.and_then(|(whom, id)| Some((whom, id.as_i64()?))));
            for (name, inner) in fields {
                let numbers = inner.as_array().map_or(std::slice::from_ref(inner), Vec::as_slice);
                let whom = meant(name);
                into.extend(numbers.iter().filter_map(|n| Some((whom?, n.as_i64()?))));
                references(inner, into);
            }
        }
        _ => {}
    }
}

/// Fate of a number whose thing does not come along.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Fate {
    /// Another number.
    To(i64),
    /// Nothing is meant any more.
    Out,
}

/// Gives all that is referred to in a value its new number. What means nothing any more is null; of a list
/// of what is done in performances, the member of one that does not come along goes, as of a list of numbers.
pub(crate) fn rewrite(value: &mut Value, fate: &dyn Fn(Whom, i64) -> Fate) {
    match value {
        Value::Array(all) => {
            let gone = |one: &Value| {
                let performance = one.get("performance").and_then(Value::as_i64);
                performance.is_some_and(|id| fate(Whom::Thing(Table::Performance), id) == Fate::Out)
            };
            all.retain(|one| !gone(one));
            all.iter_mut().for_each(|one| rewrite(one, fate));
        }
        Value::Object(fields) => {
            let carried = fields.get("by").and_then(Value::as_str).and_then(meant);
            if let Some((whom, id)) = carried.zip(fields.get("id").and_then(Value::as_i64)) {
                match fate(whom, id) {
                    Fate::To(id) => drop(fields.insert("id".into(), id.into())),
                    Fate::Out => {
                        *value = Value::Null;
                        return;
                    }
                }
            }
            for (name, inner) in fields {
                if let (Some(whom), Some(list)) = (meant(name), inner.as_array_mut())
                    && list.iter().all(Value::is_i64)
                {
                    let becomes = |n: &Value| match fate(whom, n.as_i64()?) {
                        Fate::To(id) => Some(id.into()),
                        Fate::Out => None,
                    };
                    *list = list.iter().filter_map(becomes).collect();
                    continue;
                }
                match meant(name).zip(inner.as_i64()).filter(|(_, id)| *id != 0) {
                    Some((whom, id)) => match fate(whom, id) {
                        Fate::To(id) => *inner = id.into(),
                        Fate::Out => *inner = Value::Null,
                    },
                    None => rewrite(inner, fate),
                }
            }
        }
        _ => {}
    }
}

impl Edit<'_> {
    /// Refuses what refers to something that is not there and was not referred to before.
    pub(crate) fn check_references(&self, scene: u32, before: &Value, after: &Value) -> Result<()> {
        let [mut known, mut now] = [BTreeSet::new(), BTreeSet::new()];
        references(before, &mut known);
        references(after, &mut now);
        // Numbers begin with 1; 0 is nothing.
        for (whom, id) in now.difference(&known).filter(|(_, id)| *id != 0) {
            let (word, there) = match *whom {
                Whom::Asset(kind) => {
                    let sql = "SELECT 1 FROM asset WHERE id = ?1 AND kind = ?2";
                    let found =
                        self.db().prepare_cached(sql)?.query_row((*id, kind), |_| Ok(())).optional()?;
                    (kind, found.is_some())
                }
                Whom::Thing(table) => {
                    let of = u32::try_from(*id).ok().map(|id| self.scene_of(table, id));
                    (table.name(), of.is_some_and(|of| of.is_ok_and(|of| of == scene)))
                }
            };
            if !there {
                return Err(StoreError::Missing(word, u32::try_from(*id).unwrap_or(u32::MAX)));
            }
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    #[test]
    fn what_is_copied_means_the_copies_and_nothing_where_there_is_none() {
        let mut value = json!({
            "rig": {"follows": 3, "carried": {"by": "setup", "id": 4, "move": 9}},
            "parts": [{"performance": 1, "rides": 2}, {"performance": 5}],
            "form": {"kind": "card", "image": 0, "toward": 4},
            "other": {"by": "piece", "id": 8},
        });
        let fate = |whom: Whom, id: i64| match (whom, id) {
            (Whom::Thing(Table::Performance), 5) | (Whom::Thing(Table::Piece), _) => Fate::Out,
            _ => Fate::To(id + 10),
        };
        rewrite(&mut value, &fate);
        let now = json!({
            "rig": {"follows": 13, "carried": {"by": "setup", "id": 14, "move": 19}},
            "parts": [{"performance": 11, "rides": null}],
            "form": {"kind": "card", "image": 0, "toward": 14},
            "other": null,
        });
        assert_eq!(value, now);
    }

    #[test]
    fn a_number_means_what_its_field_says() {
        let mut found = BTreeSet::new();
        let value = json!({
            "rig": {"kind": "rail", "follows": 3, "carried": {"by": "setup", "id": 4, "move": 9}},
            "treatments": {"1": {"kind": "smooth", "machine": {"by": "gaussian", "sigma_s": 0.2}}},
            "form": {"kind": "card", "image": 7, "toward": null, "width": 2.0},
        });
        references(&value, &mut found);
        let thing = |table, id| (Whom::Thing(table), id);
        let all = [
            thing(Table::Performer, 3),
            thing(Table::Setup, 4),
            thing(Table::Move, 9),
            (Whom::Asset("image"), 7),
        ];
        assert_eq!(found, BTreeSet::from(all));
    }
}
