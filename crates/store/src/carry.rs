//! Carried over: setups with their machines, positions and moves, pieces, performers and groups out of
//! another scene, of this production or another one on the shelf.
//!
//! What a carried thing refers to and does not bring along is named; whoever carries says of each whether
//! it comes along as well, what of the scene takes its place, or that it is left out. Nothing is guessed.
//! Images, meshes and captured motion always come along, and so do lens sets of the production's own.

use crate::assets::asset;
use crate::column::column;
use crate::copies::{Given, Parcel, title};
use crate::history::Edit;
use crate::model::AssetKind;
use crate::reader::Reader;
use crate::references::{Fate, Whom};
use crate::scenes::letter;
use crate::table::Table;
use crate::{Result, StoreError, now, read};
use rovnek_core::lens::lens_sets;
use rusqlite::types::Value;
use rusqlite::{Connection, OptionalExtension};
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, BTreeSet};
use ts_rs::TS;

/// A kind of thing that is carried, or that carried things refer to.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
#[allow(missing_docs)]
pub enum CarryKind {
    Setup,
    Piece,
    Performer,
    Performance,
    Take,
    Move,
}

impl CarryKind {
    const ALL: [(CarryKind, Table); 6] = [
        (CarryKind::Setup, Table::Setup),
        (CarryKind::Piece, Table::Piece),
        (CarryKind::Performer, Table::Performer),
        (CarryKind::Performance, Table::Performance),
        (CarryKind::Take, Table::Take),
        (CarryKind::Move, Table::Move),
    ];

    fn table(self) -> Table {
        CarryKind::ALL.into_iter().find(|(kind, _)| *kind == self).expect("all are listed").1
    }

    fn of(table: Table) -> Option<CarryKind> {
        CarryKind::ALL.into_iter().find(|(_, other)| *other == table).map(|(kind, _)| kind)
    }
}

/// A thing by its number in the scene it is carried out of.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, TS)]
pub struct CarryThing {
    /// Kind of the thing.
    pub kind: CarryKind,
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
pub struct CarryWanted {
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

/// Missing things, and the rows that refer to them.
type Missing = BTreeMap<CarryThing, Vec<(Table, u32)>>;

fn refused(sentence: impl Into<String>) -> StoreError {
    StoreError::Refused(sentence.into())
}

impl Reader {
    /// Things of a scene that can be carried.
    pub fn offers(&self, scene: u32) -> Result<Vec<CarryOffer>> {
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
            [(CarryKind::Setup, setups), (CarryKind::Performer, performers), (CarryKind::Piece, pieces)]
        {
            all.extend(read::rows(db, sql, scene, |r| {
                let id = r.get(0)?;
                let name = title(db, kind.table(), id);
                Ok(CarryOffer { thing: CarryThing { kind, id }, name, group: r.get(1)?, takes: r.get(2)? })
            })?);
        }
        Ok(all)
    }
}

/// The rows that are wanted, with what comes along by choice.
fn parcel<'a>(db: &'a Connection, wanted: &CarryWanted) -> Result<Parcel<'a>> {
    let along =
        wanted.choices.iter().filter(|(_, does)| *does == CarryChoice::Along).map(|(thing, _)| *thing);
    let mut parcel = Parcel::from(db);
    // What others hang on comes first, however it was named.
    let all: BTreeSet<CarryThing> = wanted.things.iter().copied().chain(along).collect();
    for CarryThing { kind, id } in all {
        let setup_of = |table: Table| {
            let sql = format!("SELECT setup_id FROM {} WHERE id = ?1", table.name());
            let found = db.query_row(&sql, [id], |r| r.get::<_, u32>(0)).optional()?;
            found.ok_or(StoreError::Missing(table.name(), id))
        };
        let (table, id, takes) = match kind {
            CarryKind::Take => (Table::Setup, setup_of(Table::Take)?, true),
            CarryKind::Move => {
                let of = read::a_move(db, id)?.take().is_some();
                (Table::Setup, setup_of(Table::Move)?, wanted.takes || of)
            }
            kind => (kind.table(), id, wanted.takes),
        };
        if parcel.has(table, id) {
            continue;
        }
        match table {
            Table::Setup => parcel.add_setup(id, takes)?,
            table => parcel.add(table, "id = ?1", id)?,
        }
        if !parcel.has(table, id) {
            return Err(StoreError::Missing(table.name(), id));
        }
    }
    Ok(parcel)
}

/// Names of rows, each once.
fn titles(db: &Connection, rows: &[(Table, u32)]) -> Vec<String> {
    let names: BTreeSet<String> = rows.iter().map(|(table, id)| title(db, *table, *id)).collect();
    names.into_iter().collect()
}

impl Edit<'_> {
    /// What wanted things refer to and do not bring along, choices already counted. `from` is a reader of
    /// their production; `same` says that it is this one.
    pub fn carry_missing(
        &self,
        from: &Reader,
        same: bool,
        scene: u32,
        wanted: &CarryWanted,
    ) -> Result<Vec<CarryMissing>> {
        let source = from.db();
        let parcel = parcel(source, wanted)?;
        let mut all = Vec::new();
        for (thing, by) in self.missing(&parcel, same.then_some(scene))? {
            let table = thing.kind.table();
            all.push(CarryMissing {
                thing,
                name: title(source, table, thing.id),
                by: titles(source, &by),
                out: parcel.can_do_without(Whom::Thing(table), thing.id.into()),
                instead: self.stand_ins(scene, table)?,
            });
        }
        Ok(all)
    }

    /// What is referred to and does not come along, with those that refer to it. What is of the very scene
    /// that is carried into, `here`, is there.
    fn missing(&self, parcel: &Parcel, here: Option<u32>) -> Result<Missing> {
        let mut all = Missing::new();
        for (whom, id, by) in parcel.missing()? {
            let Whom::Thing(table) = whom else { continue };
            let Some(kind) = CarryKind::of(table) else { continue };
            let id = id as u32;
            if here.is_none_or(|scene| self.scene_of(table, id).ok() != Some(scene)) {
                all.entry(CarryThing { kind, id }).or_default().push(by);
            }
        }
        Ok(all)
    }

    /// Things of a scene that can replace a thing of a kind.
    fn stand_ins(&self, scene: u32, table: Table) -> Result<Vec<(u32, String)>> {
        let sql = match table {
            Table::Take | Table::Move => format!(
                "SELECT t.id FROM {} t JOIN setup s ON s.id = t.setup_id
                 WHERE s.scene_id = ?1 AND t.binned_at IS NULL ORDER BY t.id",
                table.name()
            ),
            _ => format!(
                "SELECT id FROM {} WHERE scene_id = ?1 AND binned_at IS NULL ORDER BY ord, id",
                table.name()
            ),
        };
        read::rows(self.db(), &sql, scene, |r| {
            let id = r.get(0)?;
            Ok((id, title(self.db(), table, id)))
        })
    }

    /// Carries things into a scene; what came, in the order of the scene's lists.
    pub fn carry(
        &mut self,
        from: &Reader,
        same: bool,
        scene: u32,
        wanted: &CarryWanted,
    ) -> Result<Vec<(Table, u32)>> {
        let source = from.db();
        let mut parcel = parcel(source, wanted)?;
        if parcel.is_empty() {
            return Err(refused("nothing is chosen that could be carried"));
        }
        for (thing, by) in self.missing(&parcel, same.then_some(scene))? {
            let choice = wanted.choices.iter().find(|(of, _)| *of == thing).map(|(_, does)| *does);
            let (table, named) = (thing.kind.table(), title(source, thing.kind.table(), thing.id));
            let fate = match choice {
                Some(CarryChoice::Instead { with }) => {
                    self.must_be_of(scene, table, with)?;
                    Fate::To(with.into())
                }
                Some(CarryChoice::Out) => Fate::Out,
                Some(CarryChoice::Along) | None => {
                    let by = titles(source, &by);
                    return Err(refused(format!(
                        "{} needs {named}: carry it along, or choose what takes its place",
                        by.join(", ")
                    )));
                }
            };
            parcel.becomes.insert((Whom::Thing(table), thing.id.into()), fate);
        }
        if !same {
            self.bring_assets(source, &mut parcel)?;
            self.bring_lens_sets(source, &parcel)?;
        }
        parcel.regroup(self.free_groups(scene, &parcel)?);
        let placed = self.places(scene, &parcel)?;
        let at = |table: Table, column: usize| {
            let placed = &placed;
            move |id: u32| placed.get(&(table, id)).map_or(Value::Null, |values| values[column].clone())
        };
        let into = |_: u32| Value::Integer(scene.into());
        let tables = [Table::Performance, Table::Piece, Table::Performer, Table::Setup];
        let orders = tables.map(|table| at(table, 0));
        let (letters, numbers) = (at(Table::Setup, 1), at(Table::Take, 0));
        let mut set: Vec<Given> = vec![(Table::Setup, "letter", &letters), (Table::Take, "number", &numbers)];
        for (table, order) in tables.into_iter().zip(&orders) {
            set.push((table, "scene_id", &into));
            set.push((table, "ord", order));
        }
        let came = parcel.written(self.db(), &set)?;
        for (table, id) in came.iter().filter(|(table, _)| *table != Table::Curve) {
            // It begins in the bin, so that undo puts it there.
            let sql = format!("UPDATE {} SET binned_at = ?2 WHERE id = ?1", table.name());
            self.db().execute(&sql, (id, now()))?;
            self.update(*table, *id, &[("binned_at", Value::Null)])?;
        }
        self.follow_cards(scene)?;
        Ok(came.into_iter().filter(|(table, _)| *table != Table::Curve).collect())
    }

    /// Places of carried rows in the lists of a scene: their order, a setup's letter, a take's number.
    fn places(&self, scene: u32, parcel: &Parcel) -> Result<BTreeMap<(Table, u32), Vec<Value>>> {
        let mut placed = BTreeMap::new();
        for table in [Table::Performance, Table::Piece, Table::Performer, Table::Setup] {
            let sql = format!(
                "SELECT coalesce(max(ord) + 1, 0), count(*) FROM {} WHERE scene_id = ?1",
                table.name()
            );
            let (ord, count): (i64, u32) =
                self.db().query_row(&sql, [scene], |r| Ok((r.get(0)?, r.get(1)?)))?;
            for (i, id) in parcel.ids(table).into_iter().enumerate() {
                let values = vec![Value::Integer(ord + i as i64), Value::Text(letter(count as usize + i))];
                placed.insert((table, id), values);
            }
        }
        let sql = "SELECT coalesce(max(t.number), 0) FROM take t JOIN setup s ON s.id = t.setup_id
            WHERE s.scene_id = ?1";
        let last: i64 = self.db().query_row(sql, [scene], |r| r.get(0))?;
        // Passes share the number of their take.
        let old = parcel.integers(Table::Take, "number");
        let kinds: BTreeSet<i64> = old.iter().map(|(_, number)| *number).collect();
        for (id, number) in old {
            let place = kinds.iter().position(|n| *n == number).unwrap_or(0) as i64;
            placed.insert((Table::Take, id), vec![Value::Integer(last + 1 + place)]);
        }
        Ok(placed)
    }

    /// Numbers for carried groups that no group of the scene has.
    fn free_groups(&self, scene: u32, parcel: &Parcel) -> Result<BTreeMap<u32, u32>> {
        let sql = "SELECT coalesce(max(params ->> '$.value.group'), 0) FROM piece WHERE scene_id = ?1";
        let last: u32 = self.db().query_row(sql, [scene], |r| r.get(0))?;
        Ok(parcel.groups()?.into_iter().zip(last + 1..).collect())
    }

    /// Copies assets of the other production into this one.
    fn bring_assets(&mut self, source: &Connection, parcel: &mut Parcel) -> Result<()> {
        for (whom, id, _) in parcel.missing()? {
            let Whom::Asset(word) = whom else { continue };
            let kind = match word {
                "mesh" => AssetKind::Mesh,
                "image" => AssetKind::Image,
                _ => AssetKind::Clip,
            };
            let fate = match asset(source, kind, id as u32) {
                Err(StoreError::Missing(..)) => Fate::Out,
                bytes => {
                    let name: String =
                        source.query_row("SELECT name FROM asset WHERE id = ?1", [id], |r| r.get(0))?;
                    Fate::To(self.keep(kind, &name, &bytes?)?.into())
                }
            };
            parcel.becomes.insert((whom, id), fate);
        }
        Ok(())
    }

    /// Lens sets that carried cameras name and that are not known here.
    fn bring_lens_sets(&mut self, source: &Connection, parcel: &Parcel) -> Result<()> {
        let (_, mut own) = read::production(self.db())?;
        let (_, theirs) = read::production(source)?;
        let known = own.len();
        for name in parcel.texts("camera", "/value/lens_set")? {
            let here = |all: &[rovnek_core::lens::LensSet]| all.iter().any(|set| set.name == name);
            if !here(&own) && !here(&lens_sets()) {
                own.extend(theirs.iter().find(|set| set.name == name).cloned());
            }
        }
        if own.len() > known {
            self.update(Table::Production, 1, &[("lens_sets", column(&own))])?;
        }
        Ok(())
    }
}
