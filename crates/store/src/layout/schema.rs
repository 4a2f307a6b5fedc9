//! The layout of a database: migrations by number, and the comparison of a file's layout with ours. Rows of a
//! production that came as a file are data; triggers and views in it would be code that runs in our hands,
//! so a file whose layout differs from the one its number promises is not opened.

use crate::layout::own_moves;
use crate::layout::whole_keys;
use crate::{Result, StoreError};
use rusqlite::{Connection, Transaction};
use std::collections::BTreeMap;
use std::sync::OnceLock;

/// How a database becomes one of the next layout.
enum Migration {
    /// By statements.
    Sql(&'static str),
    /// By reading and writing rows.
    Rows(fn(&Transaction) -> Result<()>),
}

/// Migrations by number: the layout after each.
const MIGRATIONS: [Migration; 8] = [
    Migration::Sql(include_str!("schema.sql")),
    Migration::Sql(include_str!("schema_2.sql")),
    Migration::Sql(include_str!("schema_3.sql")),
    Migration::Sql(include_str!("schema_4.sql")),
    Migration::Rows(whole_keys::migrate),
    Migration::Rows(own_moves::migrate),
    Migration::Sql(include_str!("schema_7.sql")),
    Migration::Sql(include_str!("schema_8.sql")),
];

/// Number of today's layout.
pub(crate) const LATEST: usize = MIGRATIONS.len();

/// The layout of a database, 0 for one that is new; refused when a later version wrote it.
pub(crate) fn layout(connection: &Connection) -> Result<usize> {
    let have: u32 = connection.pragma_query_value(None, "user_version", |r| r.get(0))?;
    if have as usize > LATEST { Err(StoreError::Newer(have)) } else { Ok(have as usize) }
}

/// Gives a database the layout `to`, step by step, each step whole or not at all.
pub(crate) fn migrate(connection: &mut Connection, to: usize) -> Result<()> {
    let have = layout(connection)?;
    for (i, migration) in MIGRATIONS.iter().enumerate().take(to).skip(have) {
        let tx = connection.transaction()?;
        match migration {
            Migration::Sql(statements) => tx.execute_batch(statements)?,
            Migration::Rows(rewrite) => rewrite(&tx)?,
        }
        tx.pragma_update(None, "user_version", i as u32 + 1)?;
        tx.commit()?;
    }
    Ok(())
}

/// Tables, indexes, triggers and views by kind and name, each with the statement that made it.
type Schema = BTreeMap<(String, String), String>;

fn schema(connection: &Connection) -> rusqlite::Result<Schema> {
    // What SQLite keeps for itself cannot be made by hand.
    let sql = "SELECT type, name, coalesce(sql, '') FROM sqlite_schema WHERE name NOT LIKE 'sqlite\\_%' ESCAPE '\\'";
    let mut read = connection.prepare(sql)?;
    let entry = |r: &rusqlite::Row| Ok(((r.get(0)?, r.get(1)?), r.get(2)?));
    read.query_map([], entry)?.collect()
}

/// The schema that a database of a layout has.
fn ours(layout: usize) -> &'static Schema {
    static KNOWN: [OnceLock<Schema>; LATEST + 1] = [const { OnceLock::new() }; LATEST + 1];
    KNOWN[layout].get_or_init(|| {
        let make = || {
            let mut empty = Connection::open_in_memory()?;
            migrate(&mut empty, layout)?;
            Ok::<_, StoreError>(schema(&empty)?)
        };
        make().expect("migrations of an empty database succeed")
    })
}

/// The first thing in which a database's schema differs from the one that its layout has, such as
/// "trigger spy is not part of it"; none when the two are equal.
pub(crate) fn difference(connection: &Connection) -> Result<Option<String>> {
    let (ours, theirs) = (ours(layout(connection)?), schema(connection)?);
    let named = |(kind, name): &(String, String)| format!("{kind} {name}");
    let extra =
        theirs.keys().find(|k| !ours.contains_key(k)).map(|k| format!("{} is not part of it", named(k)));
    let missing =
        || ours.keys().find(|k| !theirs.contains_key(k)).map(|k| format!("{} is missing", named(k)));
    let other = || {
        ours.iter()
            .find(|(k, sql)| theirs.get(*k) != Some(*sql))
            .map(|(k, _)| format!("{} is another one", named(k)))
    };
    Ok(extra.or_else(missing).or_else(other))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_layout_equals_itself_and_nothing_that_was_added_taken_or_changed() {
        for to in 1..=LATEST {
            let made = || {
                let mut db = Connection::open_in_memory().unwrap();
                migrate(&mut db, to).unwrap();
                db
            };
            assert_eq!(difference(&made()).unwrap(), None, "layout {to}");
            for (change, said) in [
                (
                    "CREATE TRIGGER spy AFTER INSERT ON take BEGIN SELECT 1; END",
                    "trigger spy is not part of it",
                ),
                ("CREATE VIEW peep AS SELECT 1", "view peep is not part of it"),
                ("DROP TRIGGER take_chunk_is_final", "trigger take_chunk_is_final is missing"),
                ("ALTER TABLE history ADD COLUMN more TEXT", "table history is another one"),
            ] {
                let db = made();
                db.execute_batch(change).unwrap();
                assert_eq!(difference(&db).unwrap().as_deref(), Some(said), "layout {to}");
            }
        }
    }
}
