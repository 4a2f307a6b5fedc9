//! Rovnek's data: productions on a shelf, one SQLite file each.
//!
//! * [`layout`]: migrations by number, and the comparison of a file's layout with ours.
//! * [`rows`]: rows as things and things as rows; takes while they roll ([`rows::journal`]: samples are only
//!   ever appended), performers and props while they are driven ([`rows::driven`]), large things beside the
//!   writing connection ([`rows::reader`]).
//! * [`edit`]: every edit is one transaction that also writes its inverse ([`edit::history`]), so that undo and
//!   redo work across restarts; from outside it is operations by path ([`edit::operations`], [`edit::patch`]).
//!   There is no other way to change the model.
//! * [`copy`]: things with all that belongs to them, from another scene or production ([`copy::carry`]).
//! * [`model`]: what is kept, as the page sees it.
//! * [`things`]: the one list of kinds of things; what a kind says of itself, and what follows from that.
//! * [`versions`]: one version for everything that is worked out of a document.
//! * [`shelf`]: the files of a folder, and what each says of itself.

pub mod copy;
pub mod edit;
pub mod layout;
pub mod model;
mod place;
pub mod rows;
pub mod shelf;
pub mod things;
pub mod versions;

use edit::scenes;
use layout::schema;
use place::{Access, Place};
use rovnek_core::ids::SceneId;
use rovnek_core::params::Invalid;
use rows::journal;
use rows::last_read::LastRead;
use rusqlite::Connection;
use std::cell::Cell;
use std::path::{Path, PathBuf};

/// Error of the store, as a sentence.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// Error of SQLite.
    #[error("the database could not be used: {}", said(.0))]
    Sqlite(#[from] rusqlite::Error),
    /// The folder could not be used.
    #[error("{path} could not be used: {source}")]
    Folder {
        /// Path of the file.
        path: PathBuf,
        /// Reason.
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
    /// Its tables, indexes, triggers or views are not those of its layout.
    #[error(
        "{0} was changed by another program: {1}. Rovnek does not open it, because what was added could run; \
         put a copy in its place that Rovnek kept"
    )]
    Altered(PathBuf, String),
    /// A row cannot be read, or holds what no edit could have put there.
    #[error("{kind} {id} cannot be read: {source}")]
    Row {
        /// Table of the row.
        kind: &'static str,
        /// The row's number.
        id: u32,
        /// Reason.
        source: Box<StoreError>,
    },
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
    /// Refusal of a value, as a sentence.
    #[error("{0}")]
    Refused(String),
    /// A column holds something else than it should.
    #[error("a stored {0} cannot be read: {1}")]
    Damaged(&'static str, String),
}

/// SQLite's words, without the statement that they are about: a page's reader has no use for it.
fn said(error: &rusqlite::Error) -> String {
    match error {
        rusqlite::Error::SqliteFailure(code, _) if code.code == rusqlite::ErrorCode::DiskFull => {
            "the disk with the data folder is full; make room there, then do it again".into()
        }
        rusqlite::Error::SqlInputError { msg, .. } => msg.clone(),
        other => other.to_string(),
    }
}

impl From<Invalid> for StoreError {
    fn from(invalid: Invalid) -> StoreError {
        StoreError::Refused(invalid.sentence)
    }
}

/// Result of the store.
pub type Result<T> = std::result::Result<T, StoreError>;

/// The open database of a production. Its scenes are worked on one at a time.
pub struct Store {
    connection: Connection,
    read: LastRead,
    place: Place,
    /// The scene that is worked on.
    scene: Cell<SceneId>,
}

impl Store {
    /// Opens the database in a file, making it where it is missing, and closes takes that were still
    /// rolling when the last process ended. Whoever opens it has its folder for himself ([`shelf`]).
    pub fn open(file: &Path) -> Result<Store> {
        Place::check(file)?;
        place::make_private(file)?;
        let connection = place::connect(file, Access::Write)?;
        if place::is_small(file) {
            place::sound(&connection, file)?;
        }
        place::ours(&connection, file)?;
        connection.pragma_update(None, "journal_mode", "WAL")?;
        connection.pragma_update(None, "synchronous", "FULL")?;
        connection.pragma_update(None, "foreign_keys", "ON")?;
        let place = Place::of(file)?;
        let mut store = Store { connection, read: LastRead::default(), place, scene: Cell::new(SceneId(0)) };
        schema::migrate(&mut store.connection, schema::LATEST)?;
        store.recover()?;
        store.turn_to_last_scene()?;
        Ok(store)
    }

    /// Reads every scene of the production and the samples of every take, to find what cannot be read.
    pub fn read_whole(&self) -> Result<()> {
        let scene = self.scene();
        let read = |id: SceneId| {
            self.look_at(id);
            let document = self.document()?;
            document.takes.iter().try_for_each(|take| journal::samples(&self.connection, take.id).map(drop))
        };
        let all = scenes::lines(&self.connection)?;
        let done = all.iter().try_for_each(|line| read(line.id));
        self.look_at(scene);
        done
    }

    /// A revision from which a process counts on: at least `least`, and above every revision that an earlier
    /// process has counted to, whatever the clock says. At most 2^32 edits are counted from there.
    pub fn claim_revisions(&mut self, least: u64) -> Result<u64> {
        const REVISIONS: &str = "revisions";
        let claimed = self.remembered(REVISIONS).and_then(|s| s.parse::<u64>().ok());
        // 2^52: beyond it a page could not tell one number from the next.
        let first = claimed.filter(|n| *n < 1 << 52).map_or(least, |n| least.max(n + 1));
        self.remember(REVISIONS, &(first + u64::from(u32::MAX)).to_string())?;
        Ok(first)
    }

    /// Checks that the database file is still where it was opened: a file that was moved away keeps nothing.
    pub fn still_there(&self) -> Result<()> {
        self.place.still()
    }

    /// Path of the database file.
    pub fn file(&self) -> &Path {
        self.place.file()
    }

    /// A small thing to remember between runs, such as which setup was on the floor. Not an edit.
    pub fn remember(&mut self, key: &str, value: &str) -> Result<()> {
        let sql = "INSERT INTO remembered VALUES (?1, ?2) ON CONFLICT(key) DO UPDATE SET value = ?2";
        self.connection.execute(sql, [key, value])?;
        Ok(())
    }

    /// Remembered value of a key.
    pub fn remembered(&self, key: &str) -> Option<String> {
        self.connection.query_row("SELECT value FROM remembered WHERE key = ?1", [key], |r| r.get(0)).ok()
    }
}

/// Now, as written in the database.
fn now() -> String {
    jiff::Timestamp::now().strftime("%Y-%m-%dT%H:%M:%SZ").to_string()
}
