//! Rows: read, written, kept beside one another; samples and files too.

pub(crate) mod assets;
pub mod column;
pub(crate) mod document;
pub mod driven;
pub mod journal;
pub(crate) mod last_read;
pub(crate) mod moves;
pub mod pictures;
pub(crate) mod production;
pub(crate) mod read;
pub mod reader;
