//! Where a database is kept, and whether it is still there: a file that was moved or removed under a
//! running process takes everything that is written to it along into nowhere.

use crate::{Result, StoreError};
use rusqlite::{Connection, OptionalExtension};
use std::fs::Metadata;
use std::path::{Path, PathBuf};

/// The file of an open database.
pub(crate) struct Place {
    file: PathBuf,
    is: FileId,
}

/// What tells a file from another one of the same name.
type FileId = (u64, u64);

#[cfg(unix)]
fn id_of(found: &Metadata) -> FileId {
    use std::os::unix::fs::MetadataExt;
    (found.dev(), found.ino())
}

#[cfg(not(unix))]
fn id_of(found: &Metadata) -> FileId {
    let created = found.created().ok().and_then(|t| t.duration_since(std::time::UNIX_EPOCH).ok());
    (0, created.map_or(0, |t| t.as_nanos() as u64))
}

impl Place {
    /// Refuses a file without anything in it: something was there, and SQLite would begin anew in its
    /// place.
    pub fn check(file: &Path) -> Result<()> {
        let empty = std::fs::metadata(file).is_ok_and(|found| found.len() == 0);
        if empty { Err(StoreError::Empty(file.into())) } else { Ok(()) }
    }

    /// Of a database that was just opened.
    pub fn of(file: &Path) -> Result<Place> {
        let found = std::fs::metadata(file);
        let found = found.map_err(|source| StoreError::Folder { path: file.into(), source })?;
        Ok(Place { file: file.into(), is: id_of(&found) })
    }

    /// Where that is.
    pub fn file(&self) -> &Path {
        &self.file
    }

    /// Whether it is still there.
    pub fn still(&self) -> Result<()> {
        match std::fs::metadata(&self.file) {
            Ok(found) if id_of(&found) == self.is => Ok(()),
            _ => Err(StoreError::Gone(self.file.clone())),
        }
    }
}

/// SQLite's own check of its pages; what it finds, in its words.
pub(crate) fn sound(connection: &Connection, file: &Path) -> Result<()> {
    let damaged = |words: String| StoreError::Unsound(file.into(), words);
    let look = || -> rusqlite::Result<Vec<String>> {
        let mut check = connection.prepare("PRAGMA quick_check(3)")?;
        check.query_map([], |row| row.get(0))?.collect()
    };
    let found = look().map_err(|e| damaged(e.to_string()))?;
    if found == ["ok"] { Ok(()) } else { Err(damaged(found.join("; "))) }
}

/// Refuses a database that holds other things than a production; a new one holds nothing yet.
pub(crate) fn ours(connection: &Connection, file: &Path) -> Result<()> {
    let has = |name: &str| {
        let sql = "SELECT 1 FROM sqlite_schema WHERE type = 'table' AND (name = ?1 OR ?1 = '') LIMIT 1";
        let found = connection.query_row(sql, [name], |_| Ok(())).optional();
        found.map(|f| f.is_some()).map_err(|e| StoreError::Unsound(file.into(), e.to_string()))
    };
    let production = has("production")? && has("take_chunk")?;
    if production || !has("")? { Ok(()) } else { Err(StoreError::Foreign(file.into())) }
}
