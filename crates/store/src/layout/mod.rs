//! The layout of a database, and how files with earlier layouts become it.

pub(crate) mod fingerprints;
pub(crate) mod own_moves;
pub(crate) mod schema;
pub(crate) mod whole_keys;
