//! The open production: opened and turned, read at a revision, written behind one lock.

pub mod gate;
pub mod opened;
pub mod opening;
pub(crate) mod readers;
pub mod snapshot;
pub(crate) mod turning;
pub(crate) mod written;
