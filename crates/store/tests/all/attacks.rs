//! Shelf operations at the same time, files that hold code, files that others can read: what is attacked.

use rovnek_store::model::NewScene;
use rovnek_store::shelf::Shelf;
use rovnek_store::{Store, StoreError};
use rusqlite::Connection;
use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use std::sync::Mutex;

fn begin(shelf: &Shelf, name: &str) -> rovnek_store::Result<String> {
    shelf.begin(name, |store| store.begin(&NewScene::empty(name)))
}

/// Names of what is in a folder.
fn inside(folder: &Path) -> BTreeSet<String> {
    let names = std::fs::read_dir(folder).unwrap();
    names.map(|entry| entry.unwrap().file_name().to_string_lossy().into_owned()).collect()
}

#[test]
fn a_hundred_shelf_operations_at_once_make_what_they_answer_and_nothing_else() {
    let folder = tempfile::tempdir().unwrap();
    let shelf = Shelf::open(folder.path()).unwrap();
    let first = begin(&shelf, "Depot").unwrap();
    let open = shelf.open_one(&first).unwrap();
    let copy = folder.path().join("kept.sqlite");
    shelf.keep_copy(&first, &copy).unwrap();
    let made = Mutex::new(vec![first.clone()]);
    std::thread::scope(|scope| {
        for worker in 0..10 {
            let (shelf, made, first, copy, folder) = (&shelf, &made, &first, &copy, &folder);
            scope.spawn(move || {
                for round in 0..10 {
                    let id = match (worker + round) % 4 {
                        0 => begin(shelf, "Depot"),
                        1 => shelf.duplicate(first, "Depot"),
                        2 => shelf.take_in(copy),
                        _ => {
                            let to = folder.path().join(format!("kept-{worker}-{round}"));
                            shelf.keep_copy(first, &to).unwrap();
                            shelf.list().unwrap();
                            shelf.take_in(&to)
                        }
                    };
                    made.lock().unwrap().push(id.unwrap());
                }
            });
        }
    });
    let made = made.into_inner().unwrap();
    let ids: BTreeSet<String> = made.iter().cloned().collect();
    assert_eq!((made.len(), ids.len()), (101, 101), "no name was given twice");
    let listed = shelf.list().unwrap();
    assert!(listed.iter().all(|p| p.trouble.is_none()), "{listed:?}");
    assert_eq!(listed.into_iter().map(|p| p.id).collect::<BTreeSet<_>>(), ids);
    assert_eq!(open.document().unwrap().production, "Depot");
    drop(open);
    let files = inside(&folder.path().join("productions"));
    assert_eq!(files, ids.iter().map(|id| format!("{id}.sqlite")).collect());
    assert!(inside(&folder.path().join("passing")).is_empty());
}

#[test]
fn a_file_whose_layout_was_changed_is_not_opened_whichever_way_it_comes() {
    let folder = tempfile::tempdir().unwrap();
    let shelf = Shelf::open(folder.path()).unwrap();
    let id = begin(&shelf, "Depot").unwrap();
    let copy = folder.path().join("kept.sqlite");
    shelf.keep_copy(&id, &copy).unwrap();
    // Seven samples of every take: a trigger that deletes what is recorded, without a flag.
    let spy = "CREATE TRIGGER spy AFTER INSERT ON take_chunk WHEN new.seq > 0
        BEGIN DELETE FROM take_chunk WHERE seq = new.seq; END";
    Connection::open(&copy).unwrap().execute_batch(spy).unwrap();
    let no = shelf.take_in(&copy).unwrap_err();
    assert!(matches!(&no, StoreError::Altered(_, what) if what == "trigger spy is not part of it"), "{no}");
    assert_eq!(shelf.list().unwrap().len(), 1);
    // One that somebody puts among the others is listed with what is wrong with it.
    std::fs::copy(&copy, folder.path().join("productions/put.sqlite")).unwrap();
    let listed = shelf.list().unwrap();
    let put = listed.iter().find(|p| p.id == "put").unwrap();
    assert!(put.trouble.as_ref().unwrap().contains("trigger spy"), "{put:?}");
    assert!(shelf.open_one("put").is_err() && shelf.duplicate("put", "x").is_err());
    assert!(Store::open(&folder.path().join("productions/put.sqlite")).is_err());
    // Every statement that makes something that could run, and one that takes our own guard away.
    for (n, change) in [
        "CREATE VIEW peep AS SELECT * FROM take",
        "CREATE INDEX odd ON take (abs(number))",
        "CREATE TABLE more (x INTEGER DEFAULT (random()))",
        "DROP TRIGGER take_chunk_is_final",
    ]
    .iter()
    .enumerate()
    {
        let file = folder.path().join(format!("changed-{n}.sqlite"));
        shelf.keep_copy(&id, &file).unwrap();
        Connection::open(&file).unwrap().execute_batch(change).unwrap();
        assert!(matches!(shelf.take_in(&file), Err(StoreError::Altered(..))), "{change}");
    }
}

#[test]
fn a_production_stays_when_another_file_has_its_name_and_leftovers_of_a_killed_process_go() {
    let folder = tempfile::tempdir().unwrap();
    let shelf = Shelf::open(folder.path()).unwrap();
    let productions = folder.path().join("productions");
    // A write-ahead log that stayed behind belongs to nobody; no new production may come to own it.
    std::fs::write(productions.join("depot.sqlite-wal"), b"of a file that was removed").unwrap();
    assert_eq!(begin(&shelf, "Depot").unwrap(), "depot-2");
    drop(shelf);
    let left =
        [productions.join(".new-77"), productions.join(".came-78-wal"), folder.path().join("passing/x")];
    left.iter().for_each(|file| std::fs::write(file, vec![0; 4096]).unwrap());
    let foreign = productions.join(".somebody-else");
    std::fs::write(&foreign, b"no file of ours").unwrap();
    let shelf = Shelf::open(folder.path()).unwrap();
    assert!(left.iter().all(|file| !file.exists()) && foreign.exists());
    assert_eq!(shelf.list().unwrap().len(), 1);
    // Without its lock file the folder is still held.
    std::fs::remove_file(folder.path().join("rovnek.lock")).unwrap();
    assert!(matches!(Shelf::open(folder.path()), Err(StoreError::InUse(_))));
}

#[cfg(unix)]
#[test]
fn only_their_owner_reads_files_and_folders() {
    use std::os::unix::fs::PermissionsExt;
    let around = tempfile::tempdir().unwrap();
    let folder = around.path().join("data");
    let shelf = Shelf::open(&folder).unwrap();
    let id = begin(&shelf, "Depot").unwrap();
    let rights = |path: PathBuf| std::fs::metadata(path).unwrap().permissions().mode() & 0o777;
    let productions = folder.join("productions");
    for part in ["", "productions", "passing"] {
        assert_eq!(rights(folder.join(part)), 0o700, "{part}");
    }
    let file = shelf.find(&id).unwrap();
    // One that came with other rights loses them, and what SQLite puts beside it has the same.
    std::fs::set_permissions(&file, std::fs::Permissions::from_mode(0o644)).unwrap();
    let mut store = shelf.open_one(&id).unwrap();
    store.remember("word", "kept").unwrap();
    for name in inside(&productions) {
        assert_eq!(rights(productions.join(&name)), 0o600, "{name}");
    }
    let copy = around.path().join("copy.sqlite");
    shelf.keep_copy(&id, &copy).unwrap();
    assert_eq!(rights(copy), 0o600);
}

#[test]
fn revisions_go_on_upwards_though_the_clock_is_set_back() {
    let folder = tempfile::tempdir().unwrap();
    let shelf = Shelf::open(folder.path()).unwrap();
    let id = begin(&shelf, "Depot").unwrap();
    let mut store = shelf.open_one(&id).unwrap();
    let first = store.claim_revisions(5_000_000).unwrap();
    assert_eq!(first, 5_000_000);
    drop(store);
    let mut store = shelf.open_one(&id).unwrap();
    let later = store.claim_revisions(1000).unwrap();
    assert!(later > first + 1_000_000, "{later}");
    // A number that no clock has said is not believed.
    store.remember("revisions", &u64::MAX.to_string()).unwrap();
    assert_eq!(store.claim_revisions(7).unwrap(), 7);
}
