//! The store, over restarts. One binary: it is linked once.

mod attacks;
mod common;
mod edits;
mod moves;
mod references;
mod riders;
mod scenes;
mod shelf;
mod store;
