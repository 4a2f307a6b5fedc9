//! Copies of things with all that belongs to them, within a file and between files.

pub mod carry;
pub(crate) mod copies;
