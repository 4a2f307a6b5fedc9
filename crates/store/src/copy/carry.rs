//! Carried over: setups with their machines, positions and moves, pieces, performers and groups out of
//! another scene, of this production or another one on the shelf.
//!
//! What a carried thing refers to and does not bring along is named; whoever carries says of each whether
//! it comes along as well, what of the scene takes its place, or that it is left out. Nothing is guessed.
//! Images, meshes and captured motion always come along, and so do lens sets of the production's own.

use crate::copy::copies::{Fate, Given, Parcel};
use crate::edit::history::Edit;
use crate::edit::scenes::letter;
use crate::model::AssetKind;
use crate::rows::assets::asset;
use crate::rows::column::column;
use crate::rows::read;
use crate::rows::reader::Reader;
use crate::things::{Production, RowId, Table, Thing, title};
use crate::{Result, StoreError, now};
use rovnek_core::ids::{MoveId, SceneId, SetupId, TakeId, ThingKind};
use rovnek_core::lens::lens_sets;
use rusqlite::Connection;
use rusqlite::types::Value;
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, BTreeSet};
use ts_rs::TS;

/// A thing by its number in the scene it is carried out of.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, TS)]
pub struct CarryThing {
    /// Kind of the thing.
    pub kind: ThingKind,
    /// Its number there.
    pub id: u32,
}

/// Choice for a thing that is referred to but not carried.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "does")]
pub enum CarryChoice {
    /// It is carried as well.
    Along,
    /// Something of this scene takes its place.
    Instead {
        /// Its number here.
        with: u32,
    },
    /// Removes the reference.
    Out,
}

/// Request to carry things.
#[derive(Clone, Debug, Deserialize, TS)]
pub struct CarryRequest {
    /// Setups, pieces, performers.
    pub things: Vec<CarryThing>,
    /// Setups bring their takes.
    pub takes: bool,
    /// Choices for things that are referred to but not carried.
    pub choices: Vec<(CarryThing, CarryChoice)>,
}

/// Something that carried things refer to and that does not come along yet.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct CarryMissing {
    /// The missing thing.
    #[serde(flatten)]
    pub thing: CarryThing,
    /// Name of the thing in its own scene.
    pub name: String,
    /// Names of the things that refer to it.
    pub by: Vec<String>,
    /// True if those things can do without it.
    pub out: bool,
    /// Replacements in this scene: id and name.
    pub instead: Vec<(u32, String)>,
}

/// Thing of a scene that can be carried.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct CarryOffer {
    /// Kind and id of the thing.
    #[serde(flatten)]
    pub thing: CarryThing,
    /// Name of the thing in its own scene.
    pub name: String,
    /// Group of a piece; 0 for none, and for other kinds.
    pub group: u32,
    /// Number of takes of a setup; 0 for other kinds.
    pub takes: u32,
}

impl CarryThing {
    fn row(self) -> Result<RowId> {
        let table = Table::of(self.kind).filter(|table| *table != Table::Scene);
        let table = table.ok_or(StoreError::Missing(self.kind.word(), self.id))?;
        Ok(RowId::new(table, self.id))
    }
}

/// Missing things, and the rows that refer to them.
type Missing = BTreeMap<CarryThing, Vec<RowId>>;

fn refused(sentence: impl Into<String>) -> StoreError {
    StoreError::Refused(sentence.into())
}

impl Reader {
    /// Things of a scene that can be carried.
    pub fn offers(&self, scene: SceneId) -> Result<Vec<CarryOffer>> {
        let db = self.db();
        let setups = "SELECT id, 0, (SELECT count(*) FROM take t WHERE t.setup_id = s.id
              AND t.binned_at IS NULL AND t.pass_of IS NULL)
            FROM setup s WHERE scene_id = ?1 AND binned_at IS NULL ORDER BY ord, id";
        let pieces = "SELECT id, coalesce(params ->> '$.value.group', 0), 0 FROM piece
            WHERE scene_id = ?1 AND binned_at IS NULL ORDER BY ord, id";
        let performers =
            "SELECT id, 0, 0 FROM performer WHERE scene_id = ?1 AND binned_at IS NULL ORDER BY ord, id";
        let mut all = Vec::new();
        for (kind, sql) in
            [(ThingKind::Setup, setups), (ThingKind::Performer, performers), (ThingKind::Piece, pieces)]
        {
            all.extend(read::rows(db, sql, scene.0, |r| {
                let thing = CarryThing { kind, id: r.get(0)? };
                let name = title(db, thing.row()?);
                Ok(CarryOffer { thing, name, group: r.get(1)?, takes: r.get(2)? })
            })?);
        }
        Ok(all)
    }
}

/// The rows that are wanted, with what comes along by choice.
fn parcel<'a>(db: &'a Connection, wanted: &CarryRequest) -> Result<Parcel<'a>> {
    let along =
        wanted.choices.iter().filter(|(_, does)| *does == CarryChoice::Along).map(|(thing, _)| *thing);
    let all: BTreeSet<CarryThing> = wanted.things.iter().copied().chain(along).collect();
    // A take or a move comes with its setup, and a setup brings its takes as soon as one of these is wanted.
    let mut setups: BTreeMap<u32, bool> = BTreeMap::new();
    let mut others = Vec::new();
    for CarryThing { kind, id } in all {
        let (setup, takes) = match kind {
            ThingKind::Setup => (id, wanted.takes),
            ThingKind::Take => (read::take(db, TakeId(id))?.setup_id.0, true),
            ThingKind::Move => {
                let of = read::a_move(db, MoveId(id))?;
                (of.setup_id.0, wanted.takes || of.take().is_some())
            }
            kind => {
                others.push(CarryThing { kind, id });
                continue;
            }
        };
        *setups.entry(setup).or_default() |= takes;
    }
    let mut parcel = Parcel::from(db);
    for (setup, takes) in setups {
        parcel.add_setup(setup, takes)?;
        if !parcel.has(SetupId(setup).into()) {
            return Err(StoreError::Missing("setup", setup));
        }
    }
    for thing in others {
        let row = thing.row()?;
        parcel.add(row.table, "id = ?1", thing.id)?;
        if !parcel.has(row) {
            return Err(StoreError::Missing(thing.kind.word(), thing.id));
        }
    }
    Ok(parcel)
}

/// Names of rows, each once.
fn titles(db: &Connection, rows: &[RowId]) -> Vec<String> {
    let names: BTreeSet<String> = rows.iter().map(|row| title(db, *row)).collect();
    names.into_iter().collect()
}

impl Edit<'_> {
    /// What wanted things refer to and do not bring along, choices already counted. `from` is a reader of
    /// their production; `same` says that it is this one.
    pub fn carry_missing(
        &self,
        from: &Reader,
        same: bool,
        scene: SceneId,
        wanted: &CarryRequest,
    ) -> Result<Vec<CarryMissing>> {
        let source = from.db();
        let parcel = parcel(source, wanted)?;
        let mut all = Vec::new();
        for (thing, by) in self.missing(&parcel, same.then_some(scene)) {
            let row = thing.row()?;
            all.push(CarryMissing {
                thing,
                name: title(source, row),
                by: titles(source, &by),
                out: parcel.can_do_without((thing.kind, thing.id)),
                instead: self.replacements(scene, row.table)?,
            });
        }
        Ok(all)
    }

    /// What is referred to and does not come along, with those that refer to it. What is of the very scene
    /// that is carried into, `here`, is there.
    fn missing(&self, parcel: &Parcel, here: Option<SceneId>) -> Missing {
        let mut all = Missing::new();
        for ((kind, id), by) in parcel.missing() {
            let Some(table) = Table::of(kind) else { continue };
            if here.is_none_or(|scene| self.scene_of(RowId::new(table, id)).ok() != Some(scene)) {
                all.entry(CarryThing { kind, id }).or_default().push(by);
            }
        }
        all
    }

    /// Things of a scene that can replace a thing of a table.
    fn replacements(&self, scene: SceneId, table: Table) -> Result<Vec<(u32, String)>> {
        let there = table.there(self.db(), scene)?;
        Ok(there.into_iter().map(|id| (id, title(self.db(), RowId::new(table, id)))).collect())
    }

    /// Carries things into a scene; what came, in the order of the scene's lists.
    pub fn carry(
        &mut self,
        from: &Reader,
        same: bool,
        scene: SceneId,
        wanted: &CarryRequest,
    ) -> Result<Vec<RowId>> {
        let source = from.db();
        let mut parcel = parcel(source, wanted)?;
        if parcel.is_empty() {
            return Err(refused("nothing is chosen that could be carried"));
        }
        for (thing, by) in self.missing(&parcel, same.then_some(scene)) {
            let choice = wanted.choices.iter().find(|(of, _)| *of == thing).map(|(_, does)| *does);
            let row = thing.row()?;
            let fate = match choice {
                Some(CarryChoice::Instead { with }) => {
                    self.must_be_of(scene, RowId::new(row.table, with))?;
                    Fate::To(with)
                }
                Some(CarryChoice::Out) if parcel.can_do_without((thing.kind, thing.id)) => Fate::Out,
                Some(CarryChoice::Out) => {
                    let (by, what) = (titles(source, &by).join(", "), title(source, row));
                    return Err(refused(format!(
                        "{by} cannot do without {what}: carry it along, or choose what takes its place"
                    )));
                }
                Some(CarryChoice::Along) | None => {
                    let by = titles(source, &by);
                    return Err(refused(format!(
                        "{} needs {}: carry it along, or choose what takes its place",
                        by.join(", "),
                        title(source, row)
                    )));
                }
            };
            parcel.becomes.insert((thing.kind, thing.id), fate);
        }
        if !same {
            self.bring_assets(source, &mut parcel)?;
            self.bring_lens_sets(source, &parcel)?;
        }
        parcel.regroup(self.free_groups(scene, &parcel)?);
        let placed = self.places(scene, &parcel)?;
        let at = |table: Table, column: usize| {
            let placed = &placed;
            move |id: u32| {
                placed.get(&RowId::new(table, id)).map_or(Value::Null, |values| values[column].clone())
            }
        };
        let into = |_: u32| Value::Integer(scene.0.into());
        let tables: Vec<Table> = Table::of_scenes().collect();
        let orders: Vec<_> = tables.iter().map(|table| at(*table, 0)).collect();
        let (letters, numbers) = (at(Table::Setup, 1), at(Table::Take, 0));
        let mut set: Vec<Given> = vec![(Table::Setup, "letter", &letters), (Table::Take, "number", &numbers)];
        for (table, order) in tables.into_iter().zip(&orders) {
            set.push((table, "scene_id", &into));
            set.push((table, "ord", order));
        }
        let mut came = parcel.written(self.db(), &set)?;
        came.retain(|row| row.table != Table::Curve);
        for row in &came {
            // It begins in the bin, so that undo puts it there.
            let sql = format!("UPDATE {} SET binned_at = ?2 WHERE id = ?1", row.table.name());
            self.db().execute(&sql, (row.id, now()))?;
            self.update(*row, &[("binned_at", Value::Null)])?;
        }
        self.follow_cards(scene)?;
        Ok(came)
    }

    /// Places of carried rows in the lists of a scene: their order, a setup's letter, a take's number.
    fn places(&self, scene: SceneId, parcel: &Parcel) -> Result<BTreeMap<RowId, Vec<Value>>> {
        let mut placed = BTreeMap::new();
        for table in Table::of_scenes() {
            let sql = format!(
                "SELECT coalesce(max(ord) + 1, 0), count(*) FROM {} WHERE scene_id = ?1",
                table.name()
            );
            let (ord, count): (i64, u32) =
                self.db().query_row(&sql, [scene.0], |r| Ok((r.get(0)?, r.get(1)?)))?;
            for (i, id) in parcel.ids(table).into_iter().enumerate() {
                let values = vec![Value::Integer(ord + i as i64), Value::Text(letter(count as usize + i))];
                placed.insert(RowId::new(table, id), values);
            }
        }
        let sql = "SELECT coalesce(max(t.number), 0) FROM take t JOIN setup s ON s.id = t.setup_id
            WHERE s.scene_id = ?1";
        let last: i64 = self.db().query_row(sql, [scene.0], |r| r.get(0))?;
        // Passes share the number of their take.
        let old = parcel.integers(Table::Take, "number");
        let kinds: BTreeSet<i64> = old.iter().map(|(_, number)| *number).collect();
        for (id, number) in old {
            let place = kinds.iter().position(|n| *n == number).unwrap_or(0) as i64;
            placed.insert(RowId::new(Table::Take, id), vec![Value::Integer(last + 1 + place)]);
        }
        Ok(placed)
    }

    /// Numbers for carried groups that no group of the scene has.
    fn free_groups(&self, scene: SceneId, parcel: &Parcel) -> Result<BTreeMap<u32, u32>> {
        let sql = "SELECT coalesce(max(params ->> '$.value.group'), 0) FROM piece WHERE scene_id = ?1";
        let last: u32 = self.db().query_row(sql, [scene.0], |r| r.get(0))?;
        Ok(parcel.groups().into_iter().zip(last + 1..).collect())
    }

    /// Copies assets of the other production into this one.
    fn bring_assets(&mut self, source: &Connection, parcel: &mut Parcel) -> Result<()> {
        for (target @ (kind, id), _) in parcel.missing() {
            let kind = match kind {
                ThingKind::Mesh => AssetKind::Mesh,
                ThingKind::Image => AssetKind::Image,
                ThingKind::Clip => AssetKind::Clip,
                _ => continue,
            };
            let fate = match asset(source, kind, id) {
                Err(StoreError::Missing(..)) => Fate::Out,
                bytes => {
                    let name: String =
                        source.query_row("SELECT name FROM asset WHERE id = ?1", [id], |r| r.get(0))?;
                    Fate::To(self.keep(kind, &name, &bytes?)?)
                }
            };
            parcel.becomes.insert(target, fate);
        }
        Ok(())
    }

    /// Lens sets that carried cameras name and that are not known here.
    fn bring_lens_sets(&mut self, source: &Connection, parcel: &Parcel) -> Result<()> {
        let mut own = Production::read(self.db(), 1)?.lens_sets;
        let theirs = Production::read(source, 1)?.lens_sets;
        let known = own.len();
        for name in parcel.texts("camera", "/lens_set") {
            let here = |all: &[rovnek_core::lens::LensSet]| all.iter().any(|set| set.name == name);
            if !here(&own) && !here(&lens_sets()) {
                own.extend(theirs.iter().find(|set| set.name == name).cloned());
            }
        }
        if own.len() > known {
            self.update(RowId::PRODUCTION, &[("lens_sets", column(&own))])?;
        }
        Ok(())
    }
}
