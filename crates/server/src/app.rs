//! What all requests share.

use crate::devices::Devices;
use crate::layers;
use crate::phone::Phone;
use crate::problem::Outcome;
use crate::scenery::{Scenery, load_clips};
use crate::staging::staged;
use rovnek_core::evaluate::{Stages, track_of_samples};
use rovnek_core::measures;
use rovnek_core::performer::Clips;
use rovnek_core::rigs::Rig;
use rovnek_core::samples::Samples;
use rovnek_core::time::Rate;
use rovnek_live::floor::Below;
use rovnek_live::runner::{Message, Runner};
use rovnek_store::model::{Document, Take};
use rovnek_store::{Result as Kept, Store};
use std::collections::BTreeMap;
use std::sync::atomic::{AtomicU32, Ordering};
use std::sync::{Arc, Mutex, MutexGuard};
use tokio::sync::watch;

/// Store, floor and caches.
pub struct App {
    store: Arc<Mutex<Store>>,
    /// The running floor.
    pub floor: Runner,
    /// What is heard of tracked devices.
    pub devices: Devices,
    /// A phone that may be one.
    pub phone: Phone,
    moves: Mutex<Moves>,
    scenery: Mutex<(Clips, Option<Scenery>)>,
    revision: Arc<watch::Sender<u64>>,
    pages: AtomicU32,
}

/// Raw samples of the takes looked at last, and their treated stages.
#[derive(Default)]
struct Moves {
    raw: Vec<(u64, Arc<Samples>)>,
    stages: Stages,
    /// How much takes shake, cm and degrees, by what they are made of.
    shakes: BTreeMap<u64, (Option<f64>, Option<f64>)>,
}

/// Takes whose raw samples are kept in memory.
const RAW_KEPT: usize = 8;

/// A take ready to be looked at.
pub struct Move {
    /// The take.
    pub take: Take,
    /// Its machine.
    pub rig: Box<dyn Rig>,
    /// As recorded.
    pub raw: Arc<Samples>,
    /// After its treatments.
    pub now: Arc<Samples>,
}

/// A lock that a panic elsewhere does not spoil: every change under it is a transaction.
pub fn lock<T>(mutex: &Mutex<T>) -> MutexGuard<'_, T> {
    mutex.lock().unwrap_or_else(|broken| broken.into_inner())
}

impl App {
    /// Around an open store and a running floor.
    pub fn new(store: Arc<Mutex<Store>>, floor: Runner, revision: Arc<watch::Sender<u64>>) -> App {
        let (moves, scenery) = Default::default();
        let devices = Devices::open(&lock(&store), floor.messages.clone());
        let folder = lock(&store).folder().to_path_buf();
        let phone = Phone::new(&folder, devices.account().clone(), floor.messages.clone());
        App { store, floor, devices, phone, moves, scenery, revision, pages: AtomicU32::new(1) }
    }

    /// The store, for one question or one edit.
    pub fn store(&self) -> MutexGuard<'_, Store> {
        lock(&self.store)
    }

    /// Counts up whenever the document changes.
    pub fn revisions(&self) -> watch::Receiver<u64> {
        self.revision.subscribe()
    }

    /// A number for a page that opened.
    pub fn new_page(&self) -> u32 {
        self.pages.fetch_add(1, Ordering::Relaxed)
    }

    /// To be called after every change: puts what changed onto the floor, tells the pages, and
    /// answers with the document as it now is.
    pub fn changed(&self) -> Outcome<Document> {
        let document = self.store().document()?;
        let scenery = self.scenery(&document)?;
        let moved = |take: u32| self.move_of(take, document.scene.rate).ok().map(|m| (m.rig, m.now));
        let staged = staged(&document, &scenery, &moved);
        if !staged.setups.is_empty() {
            let _ = self.floor.messages.send(Message::Stage(Box::new(staged)));
        }
        // A take that is laid below may have other passes now, or be gone.
        let below = self.floor.status.borrow().below;
        if let Some(take) = below {
            let there = document.takes.iter().any(|t| t.id == take && !t.binned);
            self.lay(there.then_some(take))?;
        }
        self.revision.send_modify(|r| *r += 1);
        Ok(document)
    }

    /// Lays a take below the next roll, which is then a pass over it, or none.
    pub fn lay(&self, take: Option<u32>) -> Kept<()> {
        let below = match take {
            None => None,
            Some(id) => {
                let m = self.move_of(id, Rate::FILM)?;
                Some(Below { take: id, setup_id: m.take.setup_id, samples: m.raw })
            }
        };
        let _ = self.floor.messages.send(Message::Lay(below));
        Ok(())
    }

    /// How much a take shakes as it was rolled, cm and degrees.
    pub fn shake_of(&self, id: u32, rate: Rate) -> Kept<(Option<f64>, Option<f64>)> {
        let source = {
            let store = self.store();
            layers::print(&store.take(id)?, &store.passes(id)?)
        };
        if let Some(known) = lock(&self.moves).shakes.get(&source) {
            return Ok(*known);
        }
        let m = self.move_of(id, rate)?;
        let figures = measures::figures(&track_of_samples(&m.raw, &*m.rig, &m.take.camera));
        let shake = (figures.shake_position_cm, figures.shake_rotation_deg);
        lock(&self.moves).shakes.insert(source, shake);
        Ok(shake)
    }

    /// A document's scene made ready; the last one is kept.
    pub fn scenery(&self, document: &Document) -> Kept<Scenery> {
        let mut kept = lock(&self.scenery);
        let (clips, last) = &mut *kept;
        if let Some(scenery) = last.as_ref().filter(|s| s.fits(&document.scene)) {
            return Ok(scenery.clone());
        }
        load_clips(&self.store(), document, clips)?;
        let scenery = Scenery::of(&document.scene, clips);
        *last = Some(scenery.clone());
        Ok(scenery)
    }

    /// A take with its move worked out, at the rate of the scene.
    pub fn move_of(&self, id: u32, rate: Rate) -> Kept<Move> {
        let store = self.store();
        let take = store.take(id)?;
        let mut moves = lock(&self.moves);
        let rig = take.rig.build(&take.camera);
        let passes = store.passes(id)?;
        // A take that rolls grows, and passes come and go: all of that is part of what it is.
        let source = layers::print(&take, &passes);
        let known = moves.raw.iter().find(|(known, _)| *known == source);
        let raw = match known {
            Some((_, raw)) => raw.clone(),
            None => {
                let raw = Arc::new(layers::samples(&store, &take, &passes, rig.axes())?);
                if moves.raw.len() == RAW_KEPT {
                    moves.raw.remove(0);
                }
                moves.raw.push((source, raw.clone()));
                raw
            }
        };
        drop(store);
        let now = moves.stages.treated(source, &raw, &take.treatments, rig.axes(), rate);
        Ok(Move { take, rig, raw, now })
    }
}
