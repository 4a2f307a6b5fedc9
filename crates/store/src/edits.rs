//! One way to change the document: operations by path ([`crate::patch`]) on the things it is made
//! of. Each is applied to what is there now, so that two edits made from the same older document
//! both count.
//!
//! The first two tokens of a path say which thing: `/production`, `/scenes/1`, `/pieces/3`,
//! `/performers/6`, `/performances/1`, `/setups/2`, `/takes/4`, `/moves/9`. A thing's JSON is patched, read
//! into its type and written back; what does not come back the same is refused with its path, so
//! that nothing that was sent is dropped silently. Adding a thing of the scene gives it the next
//! place in its list; removing one puts it into the bin.

use crate::history::Edit;
use crate::model::{Move, NewMove, PerformanceName, Rating, SceneHead, Setup};
use crate::patch::{Names, Op, apply, find, lost, same, tokens};
use crate::read;
use crate::table::Table;
use crate::{Result, StoreError};
use rovnek_core::keys::{Curves, Position};
use rovnek_core::lens::{Camera, LensSet};
use rovnek_core::list::List;
use rovnek_core::performer::Performer;
use rovnek_core::rigs::Rigging;
use rovnek_core::set::Piece;
use rovnek_core::tracked::Tracking;
use rovnek_core::treatments::Treatment;
use rusqlite::types::Value as Column;
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::collections::BTreeMap;

/// Longest text that may be typed: a note, the name of a take.
const LONGEST: usize = 2000;
/// Operations in an edit, at the most.
const MOST_OPS: usize = 20_000;

/// A thing that paths lead to.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
struct Thing {
    table: Table,
    id: u32,
}

#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct ProductionParams {
    name: String,
    lens_sets: Vec<LensSet>,
}

#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct SetupParams {
    name: String,
    camera: Camera,
    rig: Rigging,
    #[serde(default)]
    positions: Vec<Position>,
    #[serde(default)]
    runs: Option<u32>,
    #[serde(default)]
    tracking: Tracking,
    #[serde(default)]
    binned: bool,
}

#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct TakeParams {
    name: String,
    rating: Rating,
    note: String,
    binned: bool,
    pass: Option<PassParams>,
}

#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct MoveParams {
    name: String,
    chosen: bool,
    curves: Curves,
    treatments: List<Treatment>,
    camera: Option<Camera>,
    binned: bool,
}

/// How a pass is placed is part of what was rolled; only whether it counts can be edited.
#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct PassParams {
    muted: bool,
}

/// A new performance: in it everybody does what they do in the one it is made `like`.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct NewPerformance {
    name: String,
    like: u32,
}

/// A new scene: an empty stage, or all that another one has.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct NewSceneParams {
    number: String,
    name: String,
    #[serde(default)]
    like: Option<u32>,
    /// With the takes of that one.
    #[serde(default)]
    takes: bool,
}

fn refused(sentence: impl Into<String>) -> StoreError {
    StoreError::Refused(sentence.into())
}

fn json<T: Serialize>(of: &T) -> Value {
    serde_json::to_value(of).expect("parameters are plain data")
}

/// A thing out of its patched JSON, nothing of which may be lost.
fn typed<T: DeserializeOwned + Serialize>(path: &str, sent: &Value) -> Result<T> {
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
fn line(what: &str, typed: &str, least: usize, most: usize) -> Result<()> {
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

impl Edit<'_> {
    /// Does the operations in order, for things of a scene. Numbers of new things go into `names`.
    pub fn apply(&mut self, scene: u32, ops: &[Op], names: &mut Names) -> Result<()> {
        if ops.len() > MOST_OPS {
            return Err(refused(format!("an edit has at most {MOST_OPS} operations; cut it into several")));
        }
        let mut open: BTreeMap<Thing, (Value, Value)> = BTreeMap::new();
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
            let thing = Thing { table, id };
            let (_, value) = match open.entry(thing) {
                std::collections::btree_map::Entry::Occupied(there) => there.into_mut(),
                std::collections::btree_map::Entry::Vacant(place) => {
                    let value = self.thing(scene, thing)?;
                    place.insert((value.clone(), value))
                }
            };
            apply(value, inner, op, names).map_err(StoreError::Refused)?;
        }
        for (thing, (before, after)) in open {
            if !same(&before, &after) {
                self.write(scene, thing, &before, &after)?;
                follows |= moves_cards(thing.table);
                carries |= may_carry(thing.table);
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
        scene: u32,
        table: Table,
        token: &str,
        op: &Op,
        names: &mut Names,
        open: &mut BTreeMap<Thing, (Value, Value)>,
    ) -> Result<()> {
        match op {
            Op::Add { value, path, .. } => {
                let id = self.new_thing(scene, table, path, value)?;
                names.insert(token.into(), id);
                Ok(())
            }
            Op::Remove { path } => {
                let thing = Thing { table, id: number(token, path)? };
                open.remove(&thing);
                self.thing(scene, thing)?;
                self.remove(scene, thing, path)
            }
            Op::Move { path, before } if matches!(table, Table::Setup | Table::Scene) => {
                let id = number(token, path)?;
                self.thing(scene, Thing { table, id })?;
                let before = before.as_deref().map(|t| number(t, path)).transpose()?;
                self.reorder(table, scene, id, before)
            }
            Op::Move { path, .. } => Err(refused(format!("{path} has no order that can be changed"))),
            Op::Replace { path, .. } | Op::Test { path, .. } => {
                Err(refused(format!("{path} names a whole thing; name a field of it")))
            }
        }
    }

    /// A thing as JSON, as far as it can be edited.
    fn thing(&self, scene: u32, thing: Thing) -> Result<Value> {
        let id = thing.id;
        // Scenes are things of the production: one need not be on the floor to be named.
        if !matches!(thing.table, Table::Production | Table::Scene) {
            self.must_be_of(scene, thing.table, id)?;
        }
        let db = self.db();
        Ok(match thing.table {
            Table::Production => {
                let (name, lens_sets) = read::production(db)?;
                json(&ProductionParams { name, lens_sets })
            }
            Table::Scene => json(&read::scene(db, id)?.head()),
            Table::Piece => json(&read::piece(db, id)?),
            Table::Performer => json(&read::performer(db, id)?),
            Table::Performance => json(&read::performance(db, id)?),
            Table::Setup => {
                let Setup { name, camera, rig, positions, runs, tracking, binned, .. } = read::setup(db, id)?;
                json(&SetupParams { name, camera, rig, positions, runs, tracking, binned })
            }
            Table::Take => {
                let take = read::take(db, id)?;
                let pass = take.pass.map(|p| PassParams { muted: p.muted });
                let (name, note) = (take.name, take.note);
                json(&TakeParams { name, rating: take.rating, note, binned: take.binned, pass })
            }
            Table::Move => {
                let Move { name, chosen, curves, treatments, camera, binned, .. } = self.a_move(id)?;
                json(&MoveParams { name, chosen, curves, treatments, camera, binned })
            }
            Table::Curve => return Err(StoreError::Missing("curve", id)),
        })
    }

    /// Writes a thing's patched JSON; only columns whose part of it changed.
    fn write(&mut self, scene: u32, thing: Thing, before: &Value, after: &Value) -> Result<()> {
        let Thing { table, id } = thing;
        let path = format!(
            "/{}{}",
            plural(table),
            if table == Table::Production { String::new() } else { format!("/{id}") }
        );
        self.check_references(if table == Table::Scene { id } else { scene }, before, after)?;
        let changed = |field: &str| match (before.get(field), after.get(field)) {
            (Some(a), Some(b)) => !same(a, b),
            (a, b) => a.is_some() != b.is_some(),
        };
        match table {
            Table::Production => {
                let now: ProductionParams = typed(&path, after)?;
                if changed("name") {
                    name("the production", &now.name)?;
                    self.name_production(&now.name)?;
                }
                if changed("lens_sets") {
                    self.set_lens_sets(&now.lens_sets)?;
                }
            }
            Table::Scene => {
                let now: SceneHead = typed(&path, after)?;
                for (field, typed) in [("number", &now.number), ("name", &now.name)] {
                    if changed(field) {
                        name(if field == "name" { "the scene" } else { "the scene number" }, typed)?;
                        if field == "number" {
                            self.free_number(typed, id)?;
                        }
                        self.update(table, id, &[(field, Column::Text(typed.clone()))])?;
                    }
                }
                if changed("rate") {
                    self.set_rate(id, now.rate)?;
                }
                if changed("length_s") {
                    self.set_length(id, now.length_s)?;
                }
                if changed("start_frame") {
                    self.update(table, id, &[("start_frame", Column::Integer(now.start_frame.into()))])?;
                }
                if changed("stage") {
                    self.set_stage(id, &now.stage)?;
                }
                if changed("binned") {
                    self.bin_scene(scene, id, now.binned)?;
                }
                if changed("performance") {
                    self.show_performance(id, now.performance)?;
                }
            }
            Table::Piece => self.put(&Piece { id, ..typed(&path, after)? })?,
            Table::Performer => self.put(&Performer { id, ..typed(&path, after)? })?,
            Table::Performance => {
                let now: PerformanceName = typed(&path, after)?;
                name("the performance", &now.name)?;
                self.name_performance(id, &now.name)?;
            }
            Table::Setup => self.write_setup(scene, id, &typed(&path, after)?, &changed)?,
            Table::Take => self.write_take(id, &typed(&path, after)?, &changed)?,
            Table::Move => self.write_move(id, &typed(&path, after)?, &changed)?,
            Table::Curve => {}
        }
        Ok(())
    }

    fn write_setup(
        &mut self,
        scene: u32,
        id: u32,
        now: &SetupParams,
        changed: &dyn Fn(&str) -> bool,
    ) -> Result<()> {
        if changed("name") {
            name("the setup", &now.name)?;
            self.update(Table::Setup, id, &[("name", Column::Text(now.name.clone()))])?;
        }
        if changed("camera") || changed("rig") {
            self.place_setup(id, &now.camera, &now.rig)?;
        }
        if changed("positions") {
            self.store_positions(id, now.positions.clone())?;
        }
        if changed("runs") {
            self.run(id, now.runs)?;
        }
        if changed("tracking") {
            self.set_tracking(id, &now.tracking)?;
        }
        if changed("binned") {
            self.bin_setup(scene, id, now.binned)?;
        }
        Ok(())
    }

    fn write_take(&mut self, id: u32, now: &TakeParams, changed: &dyn Fn(&str) -> bool) -> Result<()> {
        if changed("name") {
            line("the name", &now.name, 0, LONGEST)?;
            self.update(Table::Take, id, &[("name", Column::Text(now.name.clone()))])?;
        }
        if changed("note") {
            line("the note", &now.note, 0, LONGEST)?;
            self.update(Table::Take, id, &[("note", Column::Text(now.note.clone()))])?;
        }
        if changed("rating") {
            self.rate_take(id, now.rating)?;
        }
        if changed("binned") {
            self.bin_take(id, now.binned)?;
        }
        if changed("pass") {
            let was = read::take(self.db(), id)?.pass.is_some();
            match &now.pass {
                Some(pass) if was => self.mute_pass(id, pass.muted)?,
                Some(_) => return Err(refused("a take of its own cannot become a pass")),
                None => return Err(refused("a pass stays a pass; mute it instead")),
            }
        }
        Ok(())
    }

    fn write_move(&mut self, id: u32, now: &MoveParams, changed: &dyn Fn(&str) -> bool) -> Result<()> {
        let was = self.a_move(id)?;
        if changed("name") {
            line("the name of the move", &now.name, 0, 120)?;
            self.update(Table::Move, id, &[("name", Column::Text(now.name.clone()))])?;
        }
        if changed("curves") {
            if was.take().is_some() {
                return Err(refused("a take is not keyed; make keys of it, they become a move of their own"));
            }
            self.write_curves(id, &was.curves, &now.curves)?;
        }
        if changed("treatments") {
            self.treat(id, &now.treatments)?;
        }
        if changed("camera") {
            self.own(id, now.camera.as_ref(), was.rig.as_ref())?;
        }
        if changed("chosen") {
            if !now.chosen {
                return Err(refused("one of the variants is shown; choose another one instead"));
            }
            self.choose(id)?;
        }
        if changed("binned") {
            self.bin_move(id, now.binned)?;
        }
        Ok(())
    }

    /// A new thing of a scene, at the end of its list; its number.
    fn new_thing(&mut self, scene: u32, table: Table, path: &str, value: &Value) -> Result<u32> {
        self.check_references(scene, &Value::Null, value)?;
        match table {
            Table::Piece => self.add(scene, &Piece { id: 0, ..typed(path, value)? }),
            Table::Performer => self.add(scene, &Performer { id: 0, ..typed(path, value)? }),
            Table::Performance => {
                let new: NewPerformance = serde_json::from_value(value.clone())
                    .map_err(|e| refused(format!("{path} cannot be so: {e}")))?;
                name("the performance", &new.name)?;
                self.add_performance(scene, &new.name, new.like)
            }
            Table::Setup => {
                let new: SetupParams = typed(path, value)?;
                name("the setup", &new.name)?;
                if new.runs.is_some() {
                    return Err(refused("a new setup has no move to run yet; add the move afterwards"));
                }
                let id = self.add_setup(scene, &new.name, &new.camera, &new.rig)?;
                let more = |field: &str| matches!(field, "positions" | "tracking" | "binned");
                self.write_setup(scene, id, &new, &more)?;
                Ok(id)
            }
            Table::Move => {
                let new: NewMove = typed(path, value)?;
                line("the name of the move", &new.name, 0, 120)?;
                self.thing(scene, Thing { table: Table::Setup, id: new.setup_id })?;
                if let Some(like) = new.variant_of {
                    self.thing(scene, Thing { table: Table::Move, id: like })?;
                }
                self.add_move(&new)
            }
            Table::Scene => {
                let new: NewSceneParams = serde_json::from_value(value.clone())
                    .map_err(|e| refused(format!("{path} cannot be so: {e}")))?;
                self.add_scene(&new.number, &new.name, new.like, new.takes)
            }
            Table::Production | Table::Take | Table::Curve => {
                Err(refused(format!("nothing can be added at {path}")))
            }
        }
    }

    fn remove(&mut self, scene: u32, Thing { table, id }: Thing, path: &str) -> Result<()> {
        match table {
            Table::Piece | Table::Performer => self.bin(table, id),
            Table::Performance => self.bin_performance(scene, id),
            Table::Setup => self.bin_setup(scene, id, true),
            Table::Take => self.bin_take(id, true),
            Table::Move => self.bin_move(id, true),
            Table::Scene => self.bin_scene(scene, id, true),
            Table::Production | Table::Curve => Err(refused(format!("{path} cannot be removed"))),
        }
    }
}

/// The table that the first token of a path means.
fn root<'a>(tokens: &'a [String], path: &str) -> Result<(Table, &'a [String])> {
    let known = Table::THINGS.into_iter().find(|t| tokens[0] == plural(*t));
    known.map(|table| (table, &tokens[1..])).ok_or_else(|| {
        let all: Vec<&str> = Table::THINGS.into_iter().map(plural).collect();
        refused(format!("{path} leads nowhere; paths begin with {}", all.join(", ")))
    })
}

/// A table's things, as paths call them.
pub fn plural(table: Table) -> &'static str {
    match table {
        Table::Production => "production",
        Table::Scene => "scenes",
        Table::Piece => "pieces",
        Table::Performer => "performers",
        Table::Performance => "performances",
        Table::Setup => "setups",
        Table::Take => "takes",
        Table::Move => "moves",
        Table::Curve => "curves",
    }
}

fn number(token: &str, path: &str) -> Result<u32> {
    token.parse().map_err(|_| refused(format!("\"{token}\" in {path} is no number of a thing")))
}

impl crate::Store {
    /// Value at a path now, as an edit would find it; none where there is nothing.
    pub fn value_at(&mut self, scene: u32, path: &str) -> Option<Value> {
        let path = tokens(path, &Names::new()).ok()?;
        let (table, rest) = root(&path, "").ok()?;
        let (id, inner) = match table {
            Table::Production => (1, rest),
            _ => (rest.first()?.parse().ok()?, &rest[1..]),
        };
        let edit = self.edit("look", None).ok()?;
        let thing = edit.thing(scene, Thing { table, id }).ok()?;
        find(&thing, inner).cloned()
    }
}
