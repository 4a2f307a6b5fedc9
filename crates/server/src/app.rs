//! The application: state that all requests share.

use crate::document::gate::{Gate, Through};
use crate::document::snapshot::Snapshot;
use crate::document::written::Written;
use crate::evaluated::pool::{Pool, Urgency};
use crate::floor::devices::Devices;
use crate::floor::live_out::Out;
use crate::floor::phone::{self, Phone};
use crate::floor::recorder::Recording;
use crate::http::meant::Stay;
use crate::http::problem::{Outcome, Problem};
use crate::jobs::Jobs;
use crate::lock::lock;
use rocket::tokio::task::spawn_blocking;
use rovnek_core::ids::TakeId;
use rovnek_live::floor::BaseTake;
use rovnek_live::runner::{Message, Runner};
use rovnek_store::edit::history::Edit;
use rovnek_store::model::Document;
use rovnek_store::rows::reader::Reader;
use rovnek_store::shelf::Shelf;
use rovnek_store::things::{RowId, Table};
use rovnek_store::versions::Subject;
use rovnek_store::{Result as StoreResult, Store, StoreError};
use std::ops::Deref;
use std::sync::atomic::{AtomicU32, Ordering};
use std::sync::mpsc::{Receiver, Sender};
use std::sync::{Arc, Mutex, Weak};
use tokio::sync::watch;

/// Store, floor and caches.
pub struct App {
    shelf: Shelf,
    gate: Arc<Gate>,
    pool: Pool,
    /// The running floor.
    pub floor: Runner,
    /// There for as long as the recorder runs.
    recording: Weak<()>,
    left: Mutex<Receiver<()>>,
    /// Tracked devices.
    pub devices: Devices,
    /// The camera as other software is told of it.
    pub live_out: Out,
    /// Long work, as jobs.
    pub jobs: Arc<Jobs>,
    /// A phone that may be one.
    pub phone: Phone,
    current: watch::Sender<Arc<Snapshot>>,
    /// Held from the checking of an edit until the document it makes is the current one.
    written: Mutex<Written>,
    /// Snapshot that the floor was given last.
    staged: Mutex<Option<Arc<Snapshot>>>,
    /// Told when something is to be put onto the floor.
    unstaged: Sender<()>,
    pages: Arc<AtomicU32>,
    /// Held while another scene or production comes onto the floor, and while one that is not open is named
    /// or set aside.
    turning: Mutex<()>,
}

impl App {
    /// Around a shelf, an open store and a running floor, which has what `first` holds.
    pub fn new(
        shelf: Shelf,
        gate: Arc<Gate>,
        floor: Runner,
        recording: Recording,
        first: Snapshot,
        unstaged: Sender<()>,
    ) -> App {
        let devices = Devices::open(&gate.enter(), floor.messages.clone());
        let pages = Arc::new(AtomicU32::new(1));
        let for_phones = phone::Floor {
            messages: floor.messages.clone(),
            status: floor.status.clone(),
            pages: pages.clone(),
        };
        let phone = Phone::new(shelf.folder(), devices.account().clone(), for_phones);
        let live_out = Out::new(floor.messages.clone());
        let Recording { runs, left } = recording;
        App {
            shelf,
            gate,
            pool: Pool::default(),
            floor,
            recording: runs,
            left: Mutex::new(left),
            devices,
            live_out,
            jobs: Arc::default(),
            phone,
            current: watch::channel(Arc::new(first)).0,
            written: Mutex::default(),
            staged: Mutex::default(),
            unstaged,
            pages,
            turning: Mutex::default(),
        }
    }

    pub(crate) fn turning(&self) -> &Mutex<()> {
        &self.turning
    }

    /// The productions there are.
    pub fn shelf(&self) -> &Shelf {
        &self.shelf
    }

    pub(crate) fn gate(&self) -> &Gate {
        &self.gate
    }

    /// Told when all of a scene is kept that is left.
    pub(crate) fn left(&self) -> &Mutex<Receiver<()>> {
        &self.left
    }

    pub(crate) fn staged(&self) -> &Mutex<Option<Arc<Snapshot>>> {
        &self.staged
    }

    /// Refuses to change anything while no production is open.
    pub fn must_be_open(&self) -> Outcome<()> {
        match self.current().opened.id.is_empty() {
            false => Ok(()),
            true => Err(Problem::conflict("no production is open; begin one, or open one on the shelf")),
        }
    }

    /// True while rolls are recorded.
    pub fn records(&self) -> bool {
        self.recording.strong_count() > 0
    }

    /// The store, for one question. Writing goes by [`App::writing`].
    pub fn store(&self) -> impl Deref<Target = Store> {
        self.gate.enter()
    }

    /// Has something large read beside the store.
    pub fn read<T>(&self, what: impl FnOnce(&Reader) -> StoreResult<T>) -> StoreResult<T> {
        self.current().opened.read(what)
    }

    /// Has something computed by a thread of the pool.
    pub async fn compute<T: Send + 'static>(
        self: &Arc<App>,
        urgency: Urgency,
        work: impl FnOnce(&App) -> T + Send + 'static,
    ) -> T {
        let app = self.clone();
        self.pool.run(urgency, move || work(&app)).await
    }

    /// Does what is more urgent, from within work of the pool.
    pub fn help(&self, urgency: Urgency) {
        self.pool.help(urgency);
    }

    /// Has something done that waits for the store, by a thread that may wait.
    pub async fn wait<T: Send + 'static>(
        self: &Arc<App>,
        work: impl FnOnce(&App) -> T + Send + 'static,
    ) -> T {
        let app = self.clone();
        spawn_blocking(move || work(&app)).await.expect("the work ends without a panic")
    }

    /// The document as it is.
    pub fn current(&self) -> Arc<Snapshot> {
        self.current.borrow().clone()
    }

    /// The document as it is.
    pub fn document(&self) -> Arc<Document> {
        self.current.borrow().document.clone()
    }

    /// Told whenever the document changes.
    pub fn changes(&self) -> watch::Receiver<Arc<Snapshot>> {
        self.current.subscribe()
    }

    /// A number for a page that opened.
    pub fn new_page(&self) -> u32 {
        self.pages.fetch_add(1, Ordering::Relaxed)
    }

    /// An edit that no page made path by path, to the scene of a stay; what it answers with, and the document
    /// it makes.
    pub fn edit<T>(
        &self,
        stay: Stay,
        label: impl Into<String>,
        work: impl FnOnce(&mut Edit) -> Outcome<T>,
    ) -> Outcome<(T, Arc<Snapshot>)> {
        self.must_be_open()?;
        let made = self.writing(stay, |writing| {
            let mut store = writing.store();
            let mut edit = store.edit(label, None)?;
            let made = work(&mut edit)?;
            let rows = edit.rows();
            edit.commit()?;
            drop(store);
            let now = self.publish()?;
            writing.written.note(now.revision, "", paths_of(&rows));
            Ok((made, now))
        })?;
        self.stage_soon();
        Ok(made)
    }

    /// Writes to the store while nobody else does, and while no other scene can come onto the floor. Refused
    /// when the scene of `stay` is not on the floor any more. `work` publishes what it has written.
    pub fn writing<T>(&self, stay: Stay, work: impl FnOnce(&mut Writing) -> Outcome<T>) -> Outcome<T> {
        let mut written = lock(&self.written);
        self.here(stay)?;
        work(&mut Writing { app: self, written: &mut written })
    }

    /// Publishes a change of the document that no edit made.
    pub fn changed(&self) -> Outcome<()> {
        let written = lock(&self.written);
        self.publish()?;
        drop(written);
        self.stage_soon();
        Ok(())
    }

    /// Reads what was touched and tells the pages.
    pub fn publish(&self) -> Outcome<Arc<Snapshot>> {
        let document = self.store().document()?;
        self.current.send_if_modified(|now| {
            let news = !Arc::ptr_eq(&now.document, &document);
            if news {
                *now = Arc::new(now.next(document));
            }
            news
        });
        Ok(self.current())
    }

    /// Another scene or production is the current one.
    pub(crate) fn put_in_place(&self, next: impl FnOnce(&Snapshot) -> Snapshot) {
        self.current.send_modify(|now| *now = Arc::new(next(now)));
    }

    /// Has what has changed put onto the floor, beside whoever asks: an edit is answered once it is kept.
    pub fn stage_soon(&self) {
        let _ = self.unstaged.send(());
    }

    /// Puts what has changed onto the floor.
    pub fn stage(&self) -> Outcome<()> {
        let mut last = lock(&self.staged);
        let now = self.current();
        let known = last.as_ref().map(|s| s.document.clone());
        if last.as_ref().is_some_and(|s| s.revision >= now.revision) {
            return Ok(());
        }
        let document = &now.document;
        if known.as_ref().is_none_or(|k| k.version(Subject::Floor) != document.version(Subject::Floor)) {
            let staged = now.staged()?;
            if !staged.setups.is_empty() {
                let _ = self.floor.messages.send(Message::Stage(Box::new(staged)));
            }
        }
        // A take that is laid below may have other passes now, or be gone.
        if !known.is_some_and(|k| Arc::ptr_eq(&k.takes, &document.takes)) {
            let below = self.floor.status.borrow().below;
            if let Some(take) = below {
                let there = document.takes.iter().any(|t| t.id == take && !t.binned);
                self.lay_below(there.then(|| self.base_of(&now, take)).transpose()?);
            }
        }
        *last = Some(now);
        Ok(())
    }

    /// A take of a document, as it is laid below the next roll.
    pub fn base_of(&self, now: &Snapshot, take: TakeId) -> StoreResult<BaseTake> {
        let document = &now.document;
        let (setup_id, chosen) = (document.take(take)?.setup_id, document.chosen(take));
        let chosen = chosen.ok_or(StoreError::Missing("move of take", take.0))?.id;
        let m = now.evaluate(chosen)?;
        Ok(BaseTake { take, setup_id, samples: m.raw.samples.clone().into() })
    }

    /// Lays a take below the next roll, which is then a pass over it, or none.
    pub fn lay_below(&self, below: Option<BaseTake>) {
        let _ = self.floor.messages.send(Message::SetBase(below));
    }

    /// All captured motion that was brought in.
    pub fn clips(&self, document: &Document) -> StoreResult<rovnek_core::performer::Clips> {
        self.current().opened.clips(document)
    }
}

/// The right to write: whoever has it is alone, and what was meant is on the floor until it is dropped.
pub struct Writing<'a> {
    /// The application.
    pub app: &'a App,
    /// Paths that pages wrote last.
    pub written: &'a mut Written,
}

impl Writing<'_> {
    /// The store, for one edit.
    pub fn store(&self) -> Through<'_> {
        self.app.gate.enter()
    }
}

/// Rows as the paths of edits.
pub fn paths_of(rows: &[RowId]) -> Vec<Vec<String>> {
    let path = |RowId { table, id }: &RowId| match table {
        Table::Production => vec![table.root().to_string()],
        _ => vec![table.root().to_string(), id.to_string()],
    };
    rows.iter().map(path).collect()
}
