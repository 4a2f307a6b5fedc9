//! Rovnek's data: productions on a shelf, one SQLite file each.
//!
//! * [`shelf`]: the files of a folder, and what each says of itself.
//! * [`model`]: what is kept, as the page sees it; `read` makes it of rows, `document` keeps what
//!   was read of it.
//! * [`history`]: every edit is one transaction that also writes its inverse, so that undo and redo
//!   work across restarts. There is no other way to change the model.
//! * [`edits`]: the one way to change it from outside: operations by path, [`patch`] on a thing's JSON.
//! * What can be done to scenes, the set, the cast and the setups ([`scene_edit`]), to moves, assets and
//!   takes is each a file of methods of an edit.
//! * [`carry`]: things brought from another scene or production, with all that belongs to them.
//! * [`journal`]: takes while they roll. Samples are only ever appended. [`driven`]: performers and
//!   props while they are driven.
//! * [`reader`]: large things, read beside the writing connection.

mod assets;
pub mod carry;
pub mod column;
mod copies;
mod document;
pub mod driven;
pub mod edits;
mod fingerprints;
pub mod history;
pub mod journal;
mod last_read;
pub mod model;
mod moves;
mod own_moves;
pub mod patch;
pub mod pictures;
mod place;
mod production;
mod read;
pub mod reader;
mod references;
mod riders;
pub mod scene_edit;
mod scenes;
pub mod shelf;
pub mod table;
mod whole_keys;

use last_read::LastRead;
use place::Place;
use rovnek_core::params::Invalid;
use rusqlite::{Connection, Transaction};
use std::cell::Cell;
use std::path::{Path, PathBuf};

/// What went wrong with the store, as a sentence.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// SQLite said no.
    #[error("the database could not be used: {0}")]
    Sqlite(#[from] rusqlite::Error),
    /// The folder could not be used.
    #[error("{path} could not be used: {source}")]
    Folder {
        /// Which.
        path: PathBuf,
        /// Why.
        source: std::io::Error,
    },
    /// Somebody else has the folder.
    #[error("{0} is in use by another Rovnek; close that one or give another folder with --data")]
    InUse(PathBuf),
    /// A file without anything in it.
    #[error("{0} is empty, so what was in it is lost: put a copy of it back, or remove it to begin anew")]
    Empty(PathBuf),
    /// The database is no longer where it was opened.
    #[error("{0} was moved or removed while it was in use, and nothing can be kept any more: put it back")]
    Gone(PathBuf),
    /// Some other kind of database.
    #[error("{0} holds no production of Rovnek")]
    Foreign(PathBuf),
    /// Its pages do not hold together.
    #[error(
        "{0} is damaged ({1}): put a copy of it back; what it still holds can be read with SQLite's own `.recover`"
    )]
    Unsound(PathBuf, String),
    /// Written by a later version.
    #[error("the database was written by a newer Rovnek (schema {0}); use that version")]
    Newer(u32),
    /// There is no such thing.
    #[error("there is no {0} with number {1}; it may have been removed")]
    Missing(&'static str, u32),
    /// It cannot be.
    #[error("{0}")]
    Refused(String),
    /// A column holds something else than it should.
    #[error("a stored {0} cannot be read: {1}")]
    Damaged(&'static str, String),
}

impl From<Invalid> for StoreError {
    fn from(invalid: Invalid) -> StoreError {
        StoreError::Refused(invalid.sentence)
    }
}

/// Shorthand.
pub type Result<T> = std::result::Result<T, StoreError>;

/// The open database of a production. Its scenes are worked on one at a time.
pub struct Store {
    connection: Connection,
    read: LastRead,
    place: Place,
    /// The scene that is worked on.
    scene: Cell<u32>,
}

/// How a database becomes one of the next layout.
enum Migration {
    /// By statements.
    Sql(&'static str),
    /// By reading and writing rows.
    Rows(fn(&Transaction) -> Result<()>),
}

/// Migrations by number: the layout after each.
const MIGRATIONS: [Migration; 7] = [
    Migration::Sql(include_str!("schema.sql")),
    Migration::Sql(include_str!("schema_2.sql")),
    Migration::Sql(include_str!("schema_3.sql")),
    Migration::Sql(include_str!("schema_4.sql")),
    Migration::Rows(whole_keys::migrate),
    Migration::Rows(own_moves::migrate),
    Migration::Sql(include_str!("schema_7.sql")),
];

impl Store {
    /// Opens the database in a file, making it where it is missing, and closes takes that were still
    /// rolling when the last process ended. Whoever opens it has its folder for himself ([`shelf`]).
    pub fn open(file: &Path) -> Result<Store> {
        Place::check(file)?;
        let connection = Connection::open(file)?;
        place::sound(&connection, file)?;
        place::ours(&connection, file)?;
        connection.pragma_update(None, "journal_mode", "WAL")?;
        connection.pragma_update(None, "synchronous", "FULL")?;
        connection.pragma_update(None, "foreign_keys", "ON")?;
        let place = Place::of(file)?;
        let mut store = Store { connection, read: LastRead::default(), place, scene: Cell::new(0) };
        store.migrate()?;
        store.recover()?;
        store.turn_to_last_scene()?;
        Ok(store)
    }

    /// Whether its database is still where it was opened: what is written elsewhere is not kept.
    pub fn still_there(&self) -> Result<()> {
        self.place.still()
    }

    /// Where it is kept.
    pub fn file(&self) -> &Path {
        self.place.file()
    }

    fn migrate(&mut self) -> Result<()> {
        let have: u32 = self.connection.pragma_query_value(None, "user_version", |r| r.get(0))?;
        if have as usize > MIGRATIONS.len() {
            return Err(StoreError::Newer(have));
        }
        for (i, migration) in MIGRATIONS.iter().enumerate().skip(have as usize) {
            let tx = self.connection.transaction()?;
            match migration {
                Migration::Sql(statements) => tx.execute_batch(statements)?,
                Migration::Rows(rewrite) => rewrite(&tx)?,
            }
            tx.pragma_update(None, "user_version", i as u32 + 1)?;
            tx.commit()?;
        }
        Ok(())
    }

    /// A small thing to remember between runs, such as which setup was on the floor. Not an edit.
    pub fn remember(&self, key: &str, value: &str) -> Result<()> {
        let sql = "INSERT INTO remembered VALUES (?1, ?2) ON CONFLICT(key) DO UPDATE SET value = ?2";
        self.connection.execute(sql, [key, value])?;
        Ok(())
    }

    /// What was remembered.
    pub fn remembered(&self, key: &str) -> Option<String> {
        self.connection.query_row("SELECT value FROM remembered WHERE key = ?1", [key], |r| r.get(0)).ok()
    }
}

/// Now, as written in the database.
fn now() -> String {
    jiff::Timestamp::now().strftime("%Y-%m-%dT%H:%M:%SZ").to_string()
}
