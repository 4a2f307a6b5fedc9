//! One way to change the document: operations by path ([`crate::edit::patch`]) on the things it is made
//! of. Each is applied to what is there now, so that two edits made from the same older document
//! both count.
//!
//! The first two tokens of a path say which thing: `/production`, `/scenes/1`, `/pieces/3`,
//! `/setups/2`, `/moves/9` … ([`Table::ROOTS`]). A thing's JSON is patched, read
//! into its type and written back; what does not come back the same is refused with its path, so
//! that nothing that was sent is dropped silently. Adding a thing of the scene gives it the next
//! place in its list; removing one puts it into the bin.

use crate::edit::history::Edit;
use crate::edit::patch::{Names, Op, apply, find, lost, same, tokens};
use crate::things::{At, RowId, Table};
use crate::{Result, StoreError};
use rovnek_core::ids::SceneId;
use serde::Serialize;
use serde::de::DeserializeOwned;
use serde_json::Value;
use std::collections::BTreeMap;
use std::collections::btree_map::Entry;

/// Longest text that may be typed: a note, the name of a take.
pub(crate) const LONGEST: usize = 2000;
/// Operations in an edit, at the most.
const MOST_OPS: usize = 20_000;

fn refused(sentence: impl Into<String>) -> StoreError {
    StoreError::Refused(sentence.into())
}

fn json<T: Serialize>(of: &T) -> Value {
    serde_json::to_value(of).expect("parameters are plain data")
}

/// A thing out of its patched JSON, nothing of which may be lost.
pub(crate) fn typed<T: DeserializeOwned + Serialize>(path: &str, sent: &Value) -> Result<T> {
    let thing: T =
        serde_json::from_value(sent.clone()).map_err(|e| refused(format!("{path} cannot be so: {e}")))?;
    match lost(sent, &json(&thing)) {
        None => Ok(thing),
        Some(inner) => Err(refused(format!("{path}{inner} is not known here, or cannot hold that"))),
    }
}

/// True if a change of such a row may move a card, or the camera that a card turns to.
fn moves_cards(table: Table) -> bool {
    matches!(table, Table::Piece | Table::Setup | Table::Move | Table::Scene)
}

/// True if a change of such a row may carry something otherwise.
fn may_carry(table: Table) -> bool {
    matches!(table, Table::Piece | Table::Performer | Table::Setup)
}

/// A line of text as it was typed; `least` to `most` characters, none that would break a slate.
pub(crate) fn line(what: &str, typed: &str, least: usize, most: usize) -> Result<()> {
    let count = typed.chars().count();
    if typed.trim() != typed || count < least || count > most {
        return Err(refused(format!(
            "{what} needs between {least} and {most} characters, without spaces at its ends"
        )));
    }
    match typed.chars().find(|c| c.is_control() && *c != '\n') {
        Some(bad) => Err(refused(format!("{what} holds a character that cannot be shown ({bad:?})"))),
        None => Ok(()),
    }
}

/// A name on the slate.
pub fn name(what: &str, typed: &str) -> Result<()> {
    line(what, typed, 1, 120)
}

/// Things that operations have opened: as each was, and as it is now.
type Open = BTreeMap<RowId, (Value, Value)>;

impl Edit<'_> {
    /// Does the operations in order, for things of a scene. Numbers of new things go into `names`.
    pub fn apply(&mut self, scene: SceneId, ops: &[Op], names: &mut Names) -> Result<()> {
        if ops.len() > MOST_OPS {
            return Err(refused(format!("an edit has at most {MOST_OPS} operations; cut it into several")));
        }
        let mut open = Open::new();
        let (mut follows, mut carries) = (false, false);
        for op in ops {
            let path = tokens(op.path(), names).map_err(StoreError::Refused)?;
            let (table, rest) = root(&path, op.path())?;
            let Some((token, inner)) = rest.split_first() else {
                return Err(refused(format!("{} names no thing; give its number", op.path())));
            };
            if inner.is_empty() && table != Table::Production {
                self.whole(scene, table, token, op, names, &mut open)?;
                follows |= moves_cards(table);
                carries |= may_carry(table);
                continue;
            }
            let (id, inner) = match table {
                Table::Production => (1, rest),
                _ => (number(token, op.path())?, inner),
            };
            let row = RowId::new(table, id);
            let (_, value) = match open.entry(row) {
                Entry::Occupied(there) => there.into_mut(),
                Entry::Vacant(place) => {
                    let value = self.thing(scene, row)?;
                    place.insert((value.clone(), value))
                }
            };
            may_write(table, value, inner, op)?;
            apply(value, inner, op, names).map_err(StoreError::Refused)?;
        }
        for (row, (was, now)) in open {
            if !same(&was, &now) {
                let path = match row.table {
                    Table::Production => "/production".into(),
                    table => format!("/{}/{}", table.root(), row.id),
                };
                let thing = row.table.thing().expect("paths lead to things");
                (thing.write)(self, At { scene, row }, &path, &was, &now)?;
                follows |= moves_cards(row.table);
                carries |= may_carry(row.table);
            }
        }
        if follows {
            self.follow_cards(scene)?;
        }
        if carries { self.check_carriers(scene) } else { Ok(()) }
    }

    /// An operation on a whole thing: it comes, goes, or takes another place.
    fn whole(
        &mut self,
        scene: SceneId,
        table: Table,
        token: &str,
        op: &Op,
        names: &mut Names,
        open: &mut Open,
    ) -> Result<()> {
        let thing = table.thing().expect("paths lead to things");
        match op {
            Op::Add { value, path, .. } => {
                let id = (thing.add)(self, scene, path, value)?;
                names.insert(token.into(), id);
                Ok(())
            }
            Op::Remove { path } => {
                let row = RowId::new(table, number(token, path)?);
                open.remove(&row);
                self.thing(scene, row)?;
                (thing.bin)(self, At { scene, row })
            }
            Op::Move { path, before } if thing.reordered => {
                let row = RowId::new(table, number(token, path)?);
                self.thing(scene, row)?;
                let before = before.as_deref().map(|t| number(t, path)).transpose()?;
                self.reorder(scene, row, before)
            }
            Op::Move { path, .. } => Err(refused(format!("{path} has no order that can be changed"))),
            Op::Replace { path, .. } | Op::Test { path, .. } => {
                Err(refused(format!("{path} names a whole thing; name a field of it")))
            }
        }
    }

    /// A thing as JSON.
    fn thing(&self, scene: SceneId, row: RowId) -> Result<Value> {
        // Scenes are things of the production: one need not be on the floor to be named.
        if !matches!(row.table, Table::Production | Table::Scene) {
            self.must_be_of(scene, row)?;
        }
        let thing = row.table.thing().ok_or(StoreError::Missing(row.table.name(), row.id))?;
        (thing.read)(self.db(), row.id)
    }
}

/// Refuses to write a field that edits leave alone, such as when a take was rolled.
fn may_write(table: Table, value: &Value, inner: &[String], op: &Op) -> Result<()> {
    let edited = table.thing().map_or(&[] as &[_], |kind| kind.edited);
    let Some(field) = inner.first().filter(|_| !matches!(op, Op::Test { .. })) else { return Ok(()) };
    if edited.is_empty() || edited.contains(&&**field) || value.get(field).is_none() {
        return Ok(());
    }
    Err(refused(format!("{} cannot be changed; what can be is {}", op.path(), edited.join(", "))))
}

/// The table that the first token of a path means.
fn root<'a>(tokens: &'a [String], path: &str) -> Result<(Table, &'a [String])> {
    let known = Table::ROOTS.iter().find(|(_, root)| tokens[0] == *root);
    known.map(|(table, _)| (*table, &tokens[1..])).ok_or_else(|| {
        let all: Vec<&str> = Table::ROOTS.iter().map(|(_, root)| *root).collect();
        refused(format!("{path} leads nowhere; paths begin with {}", all.join(", ")))
    })
}

fn number(token: &str, path: &str) -> Result<u32> {
    token.parse().map_err(|_| refused(format!("\"{token}\" in {path} is no number of a thing")))
}

impl crate::Store {
    /// Value at a path now, as an edit would find it; none where there is nothing.
    pub fn value_at(&mut self, scene: SceneId, path: &str) -> Option<Value> {
        let path = tokens(path, &Names::new()).ok()?;
        let (table, rest) = root(&path, "").ok()?;
        let (id, inner) = match table {
            Table::Production => (1, rest),
            _ => (rest.first()?.parse().ok()?, &rest[1..]),
        };
        let edit = self.edit("look", None).ok()?;
        let thing = edit.thing(scene, RowId::new(table, id)).ok()?;
        find(&thing, inner).cloned()
    }
}
