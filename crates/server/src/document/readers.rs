//! Connections that only read, one for each thread that needs one at the time.

use crate::lock::lock;
use rovnek_store::Result;
use rovnek_store::rows::reader::Reader;
use std::path::PathBuf;
use std::sync::Mutex;

/// Readers that are not in use.
pub struct Readers {
    file: PathBuf,
    free: Mutex<Vec<Reader>>,
}

impl Readers {
    /// Of a database; none yet.
    pub fn new(file: PathBuf) -> Readers {
        Readers { file, free: Mutex::default() }
    }

    /// Has something read.
    pub fn read<T>(&self, what: impl FnOnce(&Reader) -> Result<T>) -> Result<T> {
        let free = lock(&self.free).pop();
        let reader = match free {
            Some(reader) => reader,
            None => Reader::open(&self.file)?,
        };
        let read = what(&reader);
        lock(&self.free).push(reader);
        read
    }
}
