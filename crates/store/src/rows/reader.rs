//! Large things, read beside the writing connection: samples, packets, what was brought in. With a
//! write-ahead log readers neither wait for a writer nor hold one up.

use crate::model::AssetKind;
use crate::place::Access;
use crate::rows::assets::asset;
use crate::rows::journal;
use crate::{Result, Store, place};
use rovnek_core::ids::TakeId;
use rovnek_core::samples::Samples;
use rusqlite::Connection;
use std::path::{Path, PathBuf};

/// A connection that only reads.
pub struct Reader {
    connection: Connection,
    file: PathBuf,
}

impl Store {
    /// Another reader; any number of them read at once.
    pub fn reader(&self) -> Result<Reader> {
        Reader::open(self.file())
    }
}

impl Reader {
    /// Opens a database that is there and has today's layout.
    pub fn open(file: &Path) -> Result<Reader> {
        Ok(Reader { connection: place::connect(file, Access::Read)?, file: file.into() })
    }

    /// Reads every page of a file that was too large to be checked before it was opened; what is wrong with
    /// it, as a sentence. Does nothing for a smaller one.
    pub fn check(&self) -> Result<()> {
        if place::is_small(&self.file) { Ok(()) } else { place::sound(&self.connection, &self.file) }
    }

    pub(crate) fn db(&self) -> &Connection {
        &self.connection
    }

    /// The raw samples of a take.
    pub fn samples(&self, take: TakeId) -> Result<Samples> {
        journal::samples(&self.connection, take)
    }

    /// Packets of a device during a take, capture after capture.
    pub fn packets(&self, take: TakeId) -> Result<Vec<Vec<u8>>> {
        journal::packets(&self.connection, take)
    }

    /// The bytes of something that was brought in.
    pub fn asset(&self, kind: AssetKind, id: u32) -> Result<Vec<u8>> {
        asset(&self.connection, kind, id)
    }
}
