//! The application without a network, by its routes. One binary: it is linked once.

mod api;
mod broken;
mod edits;
mod formats;
mod moves;
mod own_camera;
mod riders;
mod served;
mod set;
mod shelf;
mod types;
