//! Where a database is kept, and whether it is still there: a file that was moved or removed under a
//! running process takes everything that is written to it along into nowhere.

use crate::layout::schema;
use crate::{Result, StoreError};
use rusqlite::config::DbConfig;
use rusqlite::{Connection, OpenFlags, OptionalExtension};
use std::fs::Metadata;
use std::path::{Path, PathBuf};

/// The file of an open database.
pub(crate) struct Place {
    file: PathBuf,
    is: FileId,
}

/// Identity of a file, which tells it from another one of the same name.
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

    /// Place of a database that was just opened.
    pub fn of(file: &Path) -> Result<Place> {
        let found = std::fs::metadata(file);
        let found = found.map_err(|source| StoreError::Folder { path: file.into(), source })?;
        Ok(Place { file: file.into(), is: id_of(&found) })
    }

    /// Path of the database.
    pub fn file(&self) -> &Path {
        &self.file
    }

    /// Checks that the file is still there.
    pub fn still(&self) -> Result<()> {
        match std::fs::metadata(&self.file) {
            Ok(found) if id_of(&found) == self.is => Ok(()),
            _ => Err(StoreError::Gone(self.file.clone())),
        }
    }
}

/// Rights of a connection.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(crate) enum Access {
    /// Read and write; the file is made where it is missing.
    Write,
    /// Read and write a file that is there.
    WriteThere,
    /// Reading only.
    Read,
}

/// Opens a database that may have come from anywhere: nothing in its schema is trusted to call functions, and
/// nothing that runs here can change the schema or the pages behind SQLite's back.
pub(crate) fn connect(file: &Path, access: Access) -> Result<Connection> {
    let flags = OpenFlags::SQLITE_OPEN_NO_MUTEX
        | match access {
            Access::Write => OpenFlags::SQLITE_OPEN_READ_WRITE | OpenFlags::SQLITE_OPEN_CREATE,
            Access::WriteThere => OpenFlags::SQLITE_OPEN_READ_WRITE,
            Access::Read => OpenFlags::SQLITE_OPEN_READ_ONLY,
        };
    let connection = Connection::open_with_flags(file, flags)?;
    connection.set_db_config(DbConfig::SQLITE_DBCONFIG_TRUSTED_SCHEMA, false)?;
    connection.set_db_config(DbConfig::SQLITE_DBCONFIG_DEFENSIVE, true)?;
    Ok(connection)
}

/// Makes a file that only its owner may read and write, and takes the rights of others from one that is there:
/// what SQLite puts beside a database has the database's own rights.
pub(crate) fn make_private(file: &Path) -> Result<()> {
    let unusable = |source| StoreError::Folder { path: file.into(), source };
    let mut options = std::fs::OpenOptions::new();
    options.write(true).create(true).truncate(false);
    #[cfg(unix)]
    {
        use std::os::unix::fs::{OpenOptionsExt, PermissionsExt};
        options.mode(0o600);
        let opened = options.open(file).map_err(unusable)?;
        let _ = opened.set_permissions(std::fs::Permissions::from_mode(0o600));
    }
    #[cfg(not(unix))]
    options.open(file).map_err(unusable)?;
    Ok(())
}

/// Makes a folder, and those above it that are missing, which only its owner may look into.
pub(crate) fn private_folder(folder: &Path) -> std::io::Result<()> {
    let mut builder = std::fs::DirBuilder::new();
    builder.recursive(true);
    #[cfg(unix)]
    {
        use std::os::unix::fs::{DirBuilderExt, PermissionsExt};
        builder.mode(0o700);
        builder.create(folder)?;
        let _ = std::fs::set_permissions(folder, std::fs::Permissions::from_mode(0o700));
        Ok(())
    }
    #[cfg(not(unix))]
    builder.create(folder)
}

/// Largest file whose pages are all read before it is opened, bytes: about a quarter of a second.
const SMALL: u64 = 32 << 20;

/// True if all pages of a file are checked before it is opened; those of a larger one are checked afterwards
/// ([`crate::rows::reader::Reader::check`]).
pub(crate) fn is_small(file: &Path) -> bool {
    std::fs::metadata(file).is_ok_and(|found| found.len() <= SMALL)
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
    if !production {
        return if has("")? { Err(StoreError::Foreign(file.into())) } else { Ok(()) };
    }
    match schema::difference(connection)? {
        None => Ok(()),
        Some(what) => Err(StoreError::Altered(file.into(), what)),
    }
}
