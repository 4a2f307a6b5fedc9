//! Productions on a shelf: a folder with one SQLite file for each. A production's file name is what it is
//! known by here; it is made from the name that it begins with, and stays when it is called otherwise.
//! A file that somebody puts there is a production on the shelf.

use crate::layout::schema;
use crate::place::Access;
use crate::rows::pictures::front;
use crate::things::{RowId, title};
use crate::{Result, Store, StoreError, now, place};
use jiff::Timestamp;
use rusqlite::OptionalExtension;
use serde::Serialize;
use std::collections::BTreeMap;
use std::fs::{self, File};
use std::path::{Path, PathBuf};
use std::sync::{Mutex, MutexGuard};
use std::time::Duration;
use tempfile::{TempDir, TempPath};
use ts_rs::TS;

/// Folder of the files in the data folder.
const FOLDER: &str = "productions";
/// Ending of the files.
const ENDING: &str = "sqlite";
/// The one production of a data folder as earlier versions kept it.
const ALONE: &str = "rovnek.sqlite";
/// Longest name of a file, without its ending.
const LONGEST: usize = 80;

/// When a production was opened last, and that it was set aside.
const USED: &str = "used";
const ASIDE: &str = "aside";

/// Folder in the data folder for what is not whole yet: emptied when the data folder is opened.
const PASSING: &str = "passing";

/// A data folder, held for itself until it is dropped.
pub struct Shelf {
    folder: PathBuf,
    _locks: Vec<File>,
    /// Why a production could not be opened when it was tried last, by what it is known by.
    unopened: Mutex<BTreeMap<String, String>>,
    /// Held while a production that is not open is written to.
    writes: Mutex<()>,
}

/// The productions of a data folder with their files, those used last first. Nobody needs to hold the folder
/// for that; one of an earlier layout is not changed by it and stands at the end.
pub fn look(data: &Path) -> Result<Vec<(String, PathBuf)>> {
    let alone = data.join(ALONE);
    let mut all: Vec<(Option<String>, String, PathBuf)> = Vec::new();
    for file in files(&data.join(FOLDER))?.into_iter().chain(alone.exists().then_some(alone)) {
        let used = glance(&file).ok().flatten().and_then(|seen| seen.used_at);
        let id = file.file_stem().and_then(|s| s.to_str()).unwrap_or_default().to_string();
        all.push((used, id, file));
    }
    all.sort_by(|a, b| (&b.0, &a.1).cmp(&(&a.0, &b.1)));
    Ok(all.into_iter().map(|(_, id, file)| (id, file)).collect())
}

/// The productions' files in their folder, in order of their names.
fn files(folder: &Path) -> Result<Vec<PathBuf>> {
    let unusable = |source| StoreError::Folder { path: folder.into(), source };
    let mut files = Vec::new();
    let entries = match fs::read_dir(folder) {
        Err(e) if e.kind() == std::io::ErrorKind::NotFound => return Ok(files),
        entries => entries.map_err(unusable)?,
    };
    for entry in entries {
        let path = entry.map_err(unusable)?.path();
        let named = path.file_stem().and_then(|s| s.to_str()).is_some_and(|s| !s.starts_with('.'));
        if named && path.extension().is_some_and(|e| e == ENDING) && path.is_file() {
            files.push(path);
        }
    }
    files.sort();
    Ok(files)
}

/// A production on the shelf.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct OnShelf {
    /// Id on the shelf: the file's name without the ending.
    pub id: String,
    /// Name on the slate.
    pub name: String,
    /// Its scenes, as they are numbered.
    pub scenes: Vec<String>,
    /// Number of takes.
    pub takes: u32,
    /// When it was opened last, UTC; none where never.
    pub used_at: Option<String>,
    /// Set aside: still there, and not in the way.
    pub aside: bool,
    /// Version of the picture on the shelf; none without a picture.
    pub picture: Option<String>,
    /// Why it cannot be opened.
    pub trouble: Option<String>,
}

impl Shelf {
    /// The shelf of a data folder, which is made where it is missing. The production of a folder as earlier
    /// versions kept it comes to stand on the shelf.
    pub fn open(folder: &Path) -> Result<Shelf> {
        let unusable = |source| StoreError::Folder { path: folder.into(), source };
        if !folder.exists() {
            place::private_folder(folder).map_err(unusable)?;
        }
        let productions = folder.join(FOLDER);
        place::private_folder(&productions).map_err(unusable)?;
        let mut locks = vec![File::create(folder.join("rovnek.lock")).map_err(unusable)?];
        // The folder itself is locked as well: the file may be deleted under a running process.
        if cfg!(unix) {
            locks.push(File::open(&productions).map_err(unusable)?);
        }
        // A lock may outlive its holder by a moment, where a child was being started just then.
        let ours = |lock: &File| {
            (0..10).any(|i| {
                std::thread::sleep(Duration::from_millis(if i == 0 { 0 } else { 30 }));
                lock.try_lock().is_ok()
            })
        };
        if !locks.iter().all(ours) {
            return Err(StoreError::InUse(folder.into()));
        }
        let shelf = Shelf {
            folder: folder.into(),
            _locks: locks,
            unopened: Mutex::default(),
            writes: Mutex::default(),
        };
        shelf.sweep().map_err(unusable)?;
        shelf.take_in_the_one_alone()?;
        Ok(shelf)
    }

    /// Removes what a process that was killed has left unfinished.
    fn sweep(&self) -> std::io::Result<()> {
        let passing = self.folder.join(PASSING);
        match fs::remove_dir_all(&passing) {
            Err(e) if e.kind() != std::io::ErrorKind::NotFound => return Err(e),
            _ => place::private_folder(&passing)?,
        }
        // Earlier versions put unfinished files among the finished ones.
        for entry in fs::read_dir(self.folder.join(FOLDER))? {
            let entry = entry?;
            let name = entry.file_name();
            if [".new-", ".came-"].iter().any(|word| name.to_string_lossy().starts_with(word)) {
                fs::remove_file(entry.path())?;
            }
        }
        Ok(())
    }

    /// A folder for what is not whole yet, in the data folder; removed when it is dropped, or at the next start.
    pub fn passing(&self) -> Result<TempDir> {
        let folder = self.folder.join(PASSING);
        let made = tempfile::Builder::new().tempdir_in(&folder);
        made.map_err(|source| StoreError::Folder { path: folder, source })
    }

    fn take_in_the_one_alone(&self) -> Result<()> {
        let old = self.folder.join(ALONE);
        if !old.exists() {
            return Ok(());
        }
        let name = {
            let store = Store::open(&old)?;
            let name = title(&store.connection, RowId::PRODUCTION);
            // All of it is in the one file before that is moved.
            store.connection.query_row("PRAGMA wal_checkpoint(TRUNCATE)", [], |_| Ok(()))?;
            name
        };
        self.moved_in(&old, &name).map(drop)
    }

    /// A finished file takes its place on the shelf; what it is known by there. No file that is there is
    /// replaced, also when another operation takes the same name at the same moment.
    fn moved_in(&self, file: &Path, name: &str) -> Result<String> {
        let mut finished = TempPath::try_from_path(file)
            .map_err(|source| StoreError::Folder { path: file.into(), source })?;
        loop {
            let id = self.free(name);
            let place = self.file(&id);
            match finished.persist_noclobber(&place) {
                Ok(()) => return Ok(id),
                Err(e) if e.error.kind() == std::io::ErrorKind::AlreadyExists => finished = e.path,
                Err(e) => {
                    // Dropped, the path would take the file with it.
                    let _ = e.path.keep();
                    return Err(StoreError::Folder { path: place, source: e.error });
                }
            }
        }
    }

    /// The data folder.
    pub fn folder(&self) -> &Path {
        &self.folder
    }

    fn file(&self, id: &str) -> PathBuf {
        self.folder.join(FOLDER).join(format!("{id}.{ENDING}"))
    }

    /// The file of a production.
    pub fn find(&self, id: &str) -> Result<PathBuf> {
        let known = self.ids()?.iter().any(|known| known == id);
        let none = || StoreError::Refused(format!("there is no production \"{id}\" on the shelf"));
        known.then(|| self.file(id)).ok_or_else(none)
    }

    /// A name for a file that no other one has.
    fn free(&self, name: &str) -> String {
        let mut plain = String::new();
        for c in name.chars().flat_map(char::to_lowercase).take(LONGEST) {
            match c {
                c if c.is_ascii_alphanumeric() => plain.push(c),
                _ if plain.ends_with('-') || plain.is_empty() => {}
                _ => plain.push('-'),
            }
        }
        let plain = plain.trim_end_matches('-');
        let plain = if plain.is_empty() { "production" } else { plain };
        let candidates = std::iter::once(plain.to_string()).chain((2..).map(|i| format!("{plain}-{i}")));
        // What SQLite left beside a file that somebody removed is of that file.
        let free = |id: &String| !beside(&self.file(id)).iter().any(|file| file.exists());
        candidates.into_iter().find(free).expect("numbers do not end")
    }

    fn ids(&self) -> Result<Vec<String>> {
        let stem = |file: PathBuf| Some(file.file_stem()?.to_str()?.to_string());
        Ok(files(&self.folder.join(FOLDER))?.into_iter().filter_map(stem).collect())
    }

    /// All productions: those used last first, those set aside at the end.
    pub fn list(&self) -> Result<Vec<OnShelf>> {
        let mut all: Vec<OnShelf> = self.ids()?.into_iter().map(|id| self.look(id)).collect();
        all.sort_by(|a, b| (a.aside, &b.used_at, &a.name).cmp(&(b.aside, &a.used_at, &b.name)));
        Ok(all)
    }

    /// The production that was opened last and is not set aside.
    pub fn last(&self) -> Result<Option<String>> {
        let found = self.list()?.into_iter().find(|p| !p.aside && p.trouble.is_none());
        Ok(found.map(|p| p.id))
    }

    /// Looks into a production. A file of an earlier layout is migrated first.
    fn look(&self, id: String) -> OnShelf {
        let file = self.file(&id);
        let looked = match glance(&file) {
            Ok(None) => {
                let _alone = self.alone();
                Store::open(&file).and_then(|_| glance(&file))
            }
            seen => seen,
        };
        let unopened = self.unopened.lock().unwrap_or_else(|broken| broken.into_inner()).get(&id).cloned();
        match looked {
            Ok(Some(found)) => OnShelf { id, trouble: unopened, ..found },
            other => OnShelf {
                name: id.clone(),
                id,
                scenes: Vec::new(),
                takes: 0,
                used_at: None,
                aside: false,
                picture: None,
                trouble: Some(match other.err().unwrap_or(StoreError::Foreign(file.clone())) {
                    named @ (StoreError::Folder { .. }
                    | StoreError::Empty(_)
                    | StoreError::Foreign(_)
                    | StoreError::Altered(..)
                    | StoreError::Unsound(..)) => named.to_string(),
                    other => format!("{} cannot be opened: {other}", file.display()),
                }),
            },
        }
    }

    /// Opens a production and reads the scene that was worked on last. It counts as used only once
    /// [`Shelf::opened`] is told.
    pub fn open_one(&self, id: &str) -> Result<Store> {
        let file = self.find(id)?;
        let _alone = self.alone();
        let store = Store::open(&file)?;
        store.document()?;
        Ok(store)
    }

    /// Notes that a production is in use: it is the one that was used last.
    pub fn opened(&self, id: &str, store: &mut Store) -> Result<()> {
        self.unopened.lock().unwrap_or_else(|broken| broken.into_inner()).remove(id);
        store.remember(USED, &format!("{:.3}", Timestamp::now()))
    }

    /// Notes why a production could not be opened; the list says so until it can.
    pub fn not_opened(&self, id: &str, why: &str) {
        self.unopened.lock().unwrap_or_else(|broken| broken.into_inner()).insert(id.into(), why.into());
    }

    /// Held by whoever writes to a production that is not open.
    fn alone(&self) -> MutexGuard<'_, ()> {
        self.writes.lock().unwrap_or_else(|broken| broken.into_inner())
    }

    /// Puts a new production onto the shelf, filled by `fill` before it is seen there; what it is known by.
    pub fn begin(&self, name: &str, fill: impl FnOnce(&mut Store) -> Result<()>) -> Result<String> {
        crate::edit::operations::name("the production", name)?;
        self.put_in(name, |file| {
            let mut store = Store::open(file)?;
            fill(&mut store)?;
            store.name_it(name)
        })
    }

    /// Puts a copy of a production onto the shelf under another name; what it is known by.
    pub fn duplicate(&self, id: &str, name: &str) -> Result<String> {
        crate::edit::operations::name("the production", name)?;
        let of = self.find(id)?;
        self.put_in(name, |file| {
            copy(&of, file)?;
            let store = Store::open(file)?;
            store.connection.execute("DELETE FROM remembered WHERE key IN (?1, ?2)", [USED, ASIDE])?;
            store.name_it(name)
        })
    }

    /// Puts a production that came as a file onto the shelf, once all of it could be read; what it is known by.
    /// The file stays. Where the shelf has a production of that name, the one that came is called a copy.
    pub fn take_in(&self, came: &Path) -> Result<String> {
        let mut name = String::new();
        let there: Vec<String> = self.list()?.into_iter().map(|production| production.name).collect();
        let passing = self.passing()?;
        let file = self.filled(&passing, |file| {
            copy(came, file)?;
            let store = Store::open(file)?;
            store.read_whole()?;
            store.connection.execute("DELETE FROM remembered WHERE key = ?1", [ASIDE])?;
            name = title(&store.connection, RowId::PRODUCTION);
            if there.contains(&name) {
                name = free_name(&name, &there);
                store.name_it(&name)?;
            }
            Ok(())
        })?;
        self.moved_in(&file, &name)
    }

    /// Writes a production into a file of its own, all of it, also while it is open.
    pub fn keep_copy(&self, id: &str, to: &Path) -> Result<()> {
        copy(&self.find(id)?, to)
    }

    fn put_in(&self, name: &str, fill: impl FnOnce(&Path) -> Result<()>) -> Result<String> {
        let passing = self.passing()?;
        let file = self.filled(&passing, fill)?;
        self.moved_in(&file, name)
    }

    /// A file that is whole, in a folder of its own that goes with all that is in it.
    fn filled(&self, passing: &TempDir, fill: impl FnOnce(&Path) -> Result<()>) -> Result<PathBuf> {
        let file = passing.path().join("production.sqlite");
        fill(&file)?;
        // Closing took everything into the one file; what is left beside it is empty.
        let connection = place::connect(&file, Access::WriteThere)?;
        connection.query_row("PRAGMA wal_checkpoint(TRUNCATE)", [], |_| Ok(()))?;
        Ok(file)
    }

    /// Calls a production otherwise; not for one that is open.
    pub fn rename(&self, id: &str, name: &str) -> Result<()> {
        crate::edit::operations::name("the production", name)?;
        let file = self.find(id)?;
        let _alone = self.alone();
        Store::open(&file)?.name_it(name)
    }

    /// Sets a production aside, or takes it back; not for one that is open.
    pub fn set_aside(&self, id: &str, aside: bool) -> Result<()> {
        let file = self.find(id)?;
        let _alone = self.alone();
        let mut store = Store::open(&file)?;
        if aside {
            return store.remember(ASIDE, &now());
        }
        store.connection.execute("DELETE FROM remembered WHERE key = ?1", [ASIDE])?;
        Ok(())
    }
}

impl Store {
    /// Calls the production otherwise, outside its history: it has not begun, or is not open.
    fn name_it(&self, name: &str) -> Result<()> {
        self.connection.execute("UPDATE production SET name = ?1 WHERE id = 1", [name])?;
        Ok(())
    }
}

/// Looks into a file of today's layout; none for an earlier layout.
fn glance(file: &Path) -> Result<Option<OnShelf>> {
    place::Place::check(file)?;
    // Not read-only: who only reads leaves what SQLite puts beside a database lying there.
    let db = place::connect(file, Access::WriteThere)?;
    place::ours(&db, file)?;
    if schema::layout(&db)? < schema::LATEST {
        return Ok(None);
    }
    let remembered = |key: &str| {
        let sql = "SELECT value FROM remembered WHERE key = ?1";
        Ok::<Option<String>, StoreError>(db.query_row(sql, [key], |r| r.get(0)).optional()?)
    };
    let scenes = "SELECT number FROM scene WHERE binned_at IS NULL ORDER BY ord, id";
    let scenes = db.prepare(scenes)?.query_map([], |r| r.get(0))?.collect::<rusqlite::Result<_>>()?;
    let takes = "SELECT count(*) FROM take WHERE binned_at IS NULL AND pass_of IS NULL";
    Ok(Some(OnShelf {
        id: String::new(),
        name: db.query_row("SELECT name FROM production WHERE id = 1", [], |r| r.get(0))?,
        scenes,
        takes: db.query_row(takes, [], |r| r.get(0))?,
        used_at: remembered(USED)?,
        aside: remembered(ASIDE)?.is_some(),
        picture: front(&db)?.map(|(made_of, _)| made_of),
        trouble: None,
    }))
}

/// Name of an opened copy that no production has: "…, opened copy", then numbered from 2 on. A long name is
/// shortened so that the rest has room.
fn free_name(name: &str, taken: &[String]) -> String {
    let short: String = name.chars().take(100).collect();
    let numbered = |n: u32| match n {
        1 => format!("{short}, opened copy"),
        n => format!("{short}, opened copy {n}"),
    };
    (1..).map(numbered).find(|name| !taken.contains(name)).expect("there are more numbers than productions")
}

/// Copies a database into a new file, by SQLite itself: whole also while somebody writes to it.
pub fn copy(from: &Path, to: &Path) -> Result<()> {
    place::Place::check(from)?;
    let source = place::connect(from, Access::Read)?;
    place::sound(&source, from)?;
    place::ours(&source, from)?;
    if schema::layout(&source)? == 0 {
        return Err(StoreError::Foreign(from.into()));
    }
    place::make_private(to)?;
    let path =
        to.to_str().ok_or_else(|| StoreError::Refused(format!("{} is no plain path", to.display())))?;
    source.execute("VACUUM INTO ?1", [path])?;
    Ok(())
}

/// A database file, and the files that SQLite may put beside it.
fn beside(file: &Path) -> [PathBuf; 4] {
    ["", "-wal", "-shm", "-journal"].map(|ending| {
        let mut path = file.as_os_str().to_owned();
        path.push(ending);
        path.into()
    })
}
