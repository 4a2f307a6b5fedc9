//! The store behind a lock that lets the recorder through first: what rolls is written before any
//! edit that waits. Whoever holds it neither computes nor waits for anything else.

use crate::lock::lock;
use rovnek_store::Store;
use std::ops::{Deref, DerefMut};
use std::sync::{Condvar, Mutex, MutexGuard, PoisonError};

/// The store and who may have it.
pub struct Gate {
    store: Mutex<Store>,
    turns: Mutex<Turns>,
    changed: Condvar,
}

#[derive(Default)]
struct Turns {
    taken: bool,
    /// How many wait who go first.
    first: usize,
}

/// The store, until this is dropped.
pub struct Through<'a> {
    gate: &'a Gate,
    store: Option<MutexGuard<'a, Store>>,
}

impl Gate {
    /// Around an open store.
    pub fn new(store: Store) -> Gate {
        Gate { store: Mutex::new(store), turns: Mutex::default(), changed: Condvar::new() }
    }

    /// For one edit, or one look.
    pub fn enter(&self) -> Through<'_> {
        self.wait(false)
    }

    /// For what rolls: before all others that wait.
    pub fn enter_first(&self) -> Through<'_> {
        self.wait(true)
    }

    /// Puts another store in the place of the one that is there, which comes back.
    pub fn exchange(&self, store: Store) -> Store {
        std::mem::replace(&mut *self.enter_first(), store)
    }

    fn wait(&self, first: bool) -> Through<'_> {
        let mut turns = lock(&self.turns);
        turns.first += usize::from(first);
        while turns.taken || !first && turns.first > 0 {
            turns = self.changed.wait(turns).unwrap_or_else(PoisonError::into_inner);
        }
        turns.first -= usize::from(first);
        turns.taken = true;
        // Nobody else holds it now. A panic under it spoils nothing: every change is a transaction.
        Through { gate: self, store: Some(lock(&self.store)) }
    }
}

impl Deref for Through<'_> {
    type Target = Store;
    fn deref(&self) -> &Store {
        self.store.as_ref().expect("it is given back when this is dropped")
    }
}

impl DerefMut for Through<'_> {
    fn deref_mut(&mut self) -> &mut Store {
        self.store.as_mut().expect("it is given back when this is dropped")
    }
}

impl Drop for Through<'_> {
    fn drop(&mut self) {
        self.store = None;
        lock(&self.gate.turns).taken = false;
        self.gate.changed.notify_all();
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::sync::Arc;

    #[test]
    fn the_recorder_goes_before_all_who_wait() {
        let folder = tempfile::tempdir().unwrap();
        let gate = Arc::new(Gate::new(Store::open(&folder.path().join("depot.sqlite")).unwrap()));
        let order = Arc::new(Mutex::new(Vec::new()));
        let held = gate.enter();
        let wait = |first: bool| {
            let (gate, order) = (gate.clone(), order.clone());
            std::thread::spawn(move || {
                let _store = if first { gate.enter_first() } else { gate.enter() };
                order.lock().unwrap().push(first);
            })
        };
        let edits = [wait(false), wait(false)];
        let rolls = [wait(true), wait(true)];
        while gate.turns.lock().unwrap().first < 2 {
            std::thread::yield_now();
        }
        drop(held);
        for thread in edits.into_iter().chain(rolls) {
            thread.join().unwrap();
        }
        assert_eq!(*order.lock().unwrap(), [true, true, false, false]);
    }
}
