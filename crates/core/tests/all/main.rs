//! What Rovnek computes, checked against things outside of it. One binary: it is linked once.

mod clearance;
mod common;
mod correcting;
mod crane;
mod curves;
mod evaluate;
mod figures;
mod filters;
mod gait;
mod handles;
mod lines;
mod machines;
mod mending;
mod sampled;
mod shaking;
mod steady;
mod treatments;
mod watching;
mod zooming;
