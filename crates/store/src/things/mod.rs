//! Things that are kept, and the one list of them. What can be done with a thing of any kind (read, patch, undo,
//! copy, carry, bin, tell the pages) follows from its line here and from what its type says of itself.
//!
//! A new kind that a scene has a list of is one type with `check` ([`SceneRow`]), one line under `document`, and
//! one migration that makes its table (`id`, `scene_id`, `ord`, `params`, `binned_at`).

mod column;
mod moves;
mod performance;
mod production;
mod row;
mod scene;
mod scene_row;
mod setup;
mod take;

pub(crate) use column::{Column, Holds, Missing, Params};
pub use production::Production;
pub use row::RowId;
pub use scene_row::SceneRow;
pub(crate) use scene_row::{all, kept};
pub(crate) use setup::setup_of;

use crate::edit::history::Edit;
use crate::edit::operations::typed;
use crate::model::{Document, Move, Performance, SceneHead, Setup, Take};
use crate::{Result, StoreError};
use column::id_of;
use rovnek_core::ids::{Id, SceneId, ThingKind};
use rovnek_core::performer::Performer;
use rovnek_core::set::Piece;
use rusqlite::Connection;
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::collections::BTreeMap;
use std::sync::Arc;
use ts_rs::TS;

/// Owner of the rows of a table.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Owner {
    Production,
    Scene,
    Setup,
}

/// Kind of thing that paths lead to.
pub(crate) trait Thing: Serialize + DeserializeOwned {
    /// Fields that an edit may write; every field where the list is empty.
    const EDITED: &'static [&'static str];
    /// Columns that refer to other things, or hold JSON; every other column is copied as it is.
    const COLUMNS: &'static [Column];
    /// Owner of the rows in the table.
    const OWNER: Owner;
    /// Rows of a list, in order: the end of a query with `t` for the table.
    const ORDER: &'static str;
    /// True if a list has binned rows as well.
    const LISTS_BINNED: bool = true;
    /// True if `ORDER BY ord` is an order that edits can change.
    const REORDERED: bool = false;
    /// SQL expression for the name of a thing, with `t` for the table.
    const NAME: &'static str;

    /// Reads the thing with a number.
    fn read(db: &Connection, id: u32) -> Result<Self>;

    /// Writes the fields that differ, each checked.
    fn write(edit: &mut Edit, at: At, was: &Self, now: &Self) -> Result<()>;

    /// Adds a new one to a scene; its number.
    fn add(_: &mut Edit, _: SceneId, path: &str, _: &Value) -> Result<u32> {
        Err(StoreError::Refused(format!("nothing can be added at {path}")))
    }

    /// Puts the thing at a place into the bin.
    fn bin(edit: &mut Edit, at: At) -> Result<()>;
}

/// Place of a thing: the scene that is worked on, and its row.
#[derive(Clone, Copy, Debug)]
pub(crate) struct At {
    pub scene: SceneId,
    pub row: RowId,
}

impl At {
    /// Id of the thing, of its own type.
    pub fn id<I: Id>(self) -> I {
        I::of(self.row.id)
    }
}

/// Thing that a document has a list of.
pub trait Listed: Clone + PartialEq + Serialize {
    /// Type of the thing's id.
    type Id: Id;
    /// Id of the thing.
    fn id(&self) -> Self::Id;
}

macro_rules! listed {
    ($($Thing:ident, $Id:ty;)*) => {
        $(impl Listed for $Thing {
            type Id = $Id;
            fn id(&self) -> $Id {
                self.id
            }
        }

        impl From<$Id> for RowId {
            fn from(id: $Id) -> RowId {
                RowId::new(Table::$Thing, id.0)
            }
        })*
    };
}

/// Changes of a list.
#[derive(Serialize, TS)]
pub struct ListChange<T> {
    /// New things and changed things, each whole.
    pub changed: Vec<T>,
    /// Ids of all things of the list, in order.
    pub order: Vec<u32>,
}

impl<T: Listed> ListChange<T> {
    /// From one list to a later one; none when they are equal.
    fn between(a: &Arc<Vec<T>>, b: &Arc<Vec<T>>) -> Option<ListChange<T>> {
        if Arc::ptr_eq(a, b) {
            return None;
        }
        let old: BTreeMap<T::Id, &T> = a.iter().map(|t| (t.id(), t)).collect();
        let changed: Vec<T> = b.iter().filter(|t| old.get(&t.id()) != Some(t)).cloned().collect();
        let order: Vec<u32> = b.iter().map(|t| t.id().number()).collect();
        let same = changed.is_empty() && a.iter().map(|t| t.id().number()).eq(order.iter().copied());
        (!same).then_some(ListChange { changed, order })
    }
}

/// Kind of thing as its table knows it: constants of its type, and functions that read, write, add and bin a thing.
pub(crate) struct Kind {
    pub edited: &'static [&'static str],
    pub columns: &'static [Column],
    pub owner: Owner,
    pub order: &'static str,
    pub lists_binned: bool,
    pub reordered: bool,
    pub name: &'static str,
    pub read: fn(&Connection, u32) -> Result<Value>,
    pub write: fn(&mut Edit, At, &str, &Value, &Value) -> Result<()>,
    pub add: fn(&mut Edit, SceneId, &str, &Value) -> Result<u32>,
    pub bin: fn(&mut Edit, At) -> Result<()>,
}

impl Kind {
    const fn of<T: Thing>() -> Kind {
        Kind {
            edited: T::EDITED,
            columns: T::COLUMNS,
            owner: T::OWNER,
            order: T::ORDER,
            lists_binned: T::LISTS_BINNED,
            reordered: T::REORDERED,
            name: T::NAME,
            read: |db, id| Ok(serde_json::to_value(T::read(db, id)?).expect("a thing is plain data")),
            write: |edit, at, path, was, now| {
                let (was, now): (T, T) = (typed(path, was)?, typed(path, now)?);
                edit.check_references(at, &was, &now)?;
                T::write(edit, at, &was, &now)
            },
            add: T::add,
            bin: T::bin,
        }
    }
}

macro_rules! things {
    (
        alone { $($Alone:ident: $AloneType:ty, $alone_root:literal;)* }
        scene { $($(#[$scene_doc:meta])* $scene_list:ident: $InScene:ident, $SceneItemId:ty;)* }
        document { $($(#[$doc:meta])* $list:ident: $Thing:ident, $ItemId:ty;)* }
    ) => {
        /// The tables that edits may touch. Samples are not among them.
        #[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
        #[serde(rename_all = "snake_case")]
        #[allow(missing_docs)]
        pub enum Table {
            $($Alone,)*
            $($InScene,)*
            $($Thing,)*
            /// The keys of one axis of a move.
            Curve,
        }

        impl Table {
            /// Tables of things that paths lead to, each with the first token of its paths.
            pub const ROOTS: &'static [(Table, &'static str)] = &[
                $((Table::$Alone, $alone_root),)*
                $((Table::$InScene, stringify!($scene_list)),)*
                $((Table::$Thing, stringify!($list)),)*
            ];

            /// Lists of the document by table; true for one that the scene holds.
            const LISTS: &'static [(Table, bool)] =
                &[$((Table::$InScene, true),)* $((Table::$Thing, false),)*];

            /// Kind of the things in the table; none for a table whose rows are parts of other things.
            pub(crate) fn thing(self) -> Option<&'static Kind> {
                match self {
                    $(Table::$Alone => Some(const { &Kind::of::<$AloneType>() }),)*
                    $(Table::$InScene => Some(const { &Kind::of::<$InScene>() }),)*
                    $(Table::$Thing => Some(const { &Kind::of::<$Thing>() }),)*
                    Table::Curve => None,
                }
            }
        }

        listed! {
            $($InScene, $SceneItemId;)*
            $($Thing, $ItemId;)*
        }

        /// Tables of things that have ids, by the kind of these.
        const KINDS: &[(Table, ThingKind)] = &[
            (Table::Scene, ThingKind::Scene),
            $((Table::$InScene, <$SceneItemId as Id>::KIND),)*
            $((Table::$Thing, <$ItemId as Id>::KIND),)*
        ];

        /// Lists of things of the scene that is worked on, but for those of its set.
        #[derive(Clone, Debug, Default, PartialEq, Serialize, TS)]
        pub struct Lists {
            $($(#[$doc])* pub $list: Arc<Vec<$Thing>>,)*
        }

        /// Changes of the lists between two documents.
        #[derive(Serialize, TS)]
        #[ts(optional_fields)]
        pub struct ListChanges {
            $($(#[$scene_doc])*
            #[serde(skip_serializing_if = "Option::is_none")]
            pub $scene_list: Option<ListChange<$InScene>>,)*
            $($(#[$doc])*
            #[serde(skip_serializing_if = "Option::is_none")]
            pub $list: Option<ListChange<$Thing>>,)*
        }

        impl ListChanges {
            /// From one document to a later one.
            pub fn between(a: &Document, b: &Document) -> ListChanges {
                ListChanges {
                    $($scene_list: ListChange::between(&a.scene.$scene_list, &b.scene.$scene_list),)*
                    $($list: ListChange::between(&a.$list, &b.$list),)*
                }
            }
        }

        impl Document {
            /// Reads all lists, as far as they may have changed since `known` was read.
            pub(crate) fn read_lists(
                &mut self,
                known: Option<&Document>,
                reading: &crate::rows::document::Reading,
            ) -> Result<()> {
                $(self.scene.$scene_list =
                    reading.of(Table::$InScene, known.map(|d| &d.scene.$scene_list))?;)*
                $(self.lists.$list = reading.of(Table::$Thing, known.map(|d| &d.$list))?;)*
                Ok(())
            }
        }
    };
}

things! {
    alone {
        Production: Production, "production";
        Scene: SceneHead, "scenes";
    }
    scene {
        /// Pieces of the set, in order.
        pieces: Piece, rovnek_core::ids::PieceId;
        /// Performers, in order.
        performers: Performer, rovnek_core::ids::PerformerId;
        /// Alternatives of what everybody does, in order.
        performances: Performance, rovnek_core::ids::PerformanceId;
    }
    document {
        /// Setups, in order, binned ones too.
        setups: Setup, rovnek_core::ids::SetupId;
        /// Takes in the order they were rolled, binned ones too.
        takes: Take, rovnek_core::ids::TakeId;
        /// Moves in the order they were made, binned ones too.
        moves: Move, rovnek_core::ids::MoveId;
    }
}

/// Columns of the rows of a move's curves.
const CURVE: &[Column] = &[id_of("move_id", ThingKind::Move, Missing::Refused)];

impl Table {
    /// Name of the table.
    pub(crate) fn name(self) -> &'static str {
        match self {
            Table::Curve => "curve",
            Table::Scene => "scene",
            Table::Production => "production",
            _ => KINDS.iter().find(|(table, _)| *table == self).map_or("", |(_, kind)| kind.word()),
        }
    }

    /// First token of the paths of its things, such as "pieces".
    pub fn root(self) -> &'static str {
        Table::ROOTS.iter().find(|(table, _)| *table == self).map_or("curves", |(_, root)| root)
    }

    /// Table of the things of a kind; none for groups and for what was brought in.
    pub(crate) fn of(kind: ThingKind) -> Option<Table> {
        KINDS.iter().find(|(_, other)| *other == kind).map(|(table, _)| *table)
    }

    /// Tables whose rows belong to a scene, those first that others refer to.
    pub(crate) fn of_scenes() -> impl Iterator<Item = Table> {
        let of_scene = |table: &Table| table.thing().is_some_and(|kind| kind.owner == Owner::Scene);
        Table::ROOTS.iter().map(|(table, _)| *table).filter(of_scene)
    }

    /// Lists of the document: the first token of paths, true for one that the scene holds, and true for one
    /// that has binned things as well.
    pub fn lists() -> impl Iterator<Item = (&'static str, bool, bool)> {
        let binned = |table: &Table| table.thing().is_some_and(|kind| kind.lists_binned);
        Table::LISTS.iter().map(move |(table, of_scene)| (table.root(), *of_scene, binned(table)))
    }

    /// Columns that refer to other things, or hold JSON.
    pub(crate) fn columns(self) -> &'static [Column] {
        self.thing().map_or(CURVE, |kind| kind.columns)
    }

    /// The numbers of a scene's things, in their order.
    pub(crate) fn ids(self, db: &Connection, scene: SceneId) -> Result<Vec<u32>> {
        let Some(thing) = self.thing() else { return Ok(Vec::new()) };
        let (from, of_scene) = match thing.owner {
            Owner::Production => return Ok(Vec::new()),
            Owner::Scene => (self.name().to_string(), "t.scene_id"),
            Owner::Setup => (format!("{} t JOIN setup s ON s.id = t.setup_id", self.name()), "s.scene_id"),
        };
        let from = if thing.owner == Owner::Scene { format!("{from} t") } else { from };
        let there = if thing.lists_binned { "" } else { "AND t.binned_at IS NULL" };
        let sql = format!("SELECT t.id FROM {from} WHERE {of_scene} = ?1 {there} ORDER BY {}", thing.order);
        crate::rows::read::rows(db, &sql, scene.0, |r| Ok(r.get(0)?))
    }

    /// The numbers of a scene's things that are not in the bin, in their order.
    pub(crate) fn there(self, db: &Connection, scene: SceneId) -> Result<Vec<u32>> {
        let all = self.ids(db, scene)?;
        let sql = format!("SELECT 1 FROM {} WHERE id = ?1 AND binned_at IS NULL", self.name());
        let mut there = db.prepare_cached(&sql)?;
        let mut kept = Vec::new();
        for id in all {
            if there.exists([id])? {
                kept.push(id);
            }
        }
        Ok(kept)
    }
}

/// Name of a row for people.
pub(crate) fn title(db: &Connection, row: RowId) -> String {
    let RowId { table, id } = row;
    let name = table.thing().map_or("t.axis", |kind| kind.name);
    let sql = format!("SELECT {name} FROM {} t WHERE t.id = ?1", table.name());
    let found: Option<String> = db.query_row(&sql, [id], |r| r.get(0)).ok();
    found.map_or_else(|| format!("{} {id}", table.name()), |name| name.trim().to_string())
}
