//! Edits: operations by path, their inverses, what they may refer to.

pub mod history;
pub mod operations;
pub mod patch;
pub(crate) mod references;
pub(crate) mod riders;
pub mod scene_edit;
pub(crate) mod scenes;
