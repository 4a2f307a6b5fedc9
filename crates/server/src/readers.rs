//! Connections that only read, one for each thread that needs one at the time.

use crate::gate::Gate;
use crate::lock::lock;
use rovnek_store::Result;
use rovnek_store::reader::Reader;
use std::sync::{Arc, Mutex};

/// Readers that are not in use.
pub struct Readers {
    gate: Arc<Gate>,
    free: Mutex<Vec<Reader>>,
}

impl Readers {
    /// None yet.
    pub fn new(gate: Arc<Gate>) -> Readers {
        Readers { gate, free: Mutex::default() }
    }

    /// Has something read.
    pub fn read<T>(&self, what: impl FnOnce(&Reader) -> Result<T>) -> Result<T> {
        let free = lock(&self.free).pop();
        let reader = match free {
            Some(reader) => reader,
            None => self.gate.enter().reader()?,
        };
        let read = what(&reader);
        lock(&self.free).push(reader);
        read
    }
}
