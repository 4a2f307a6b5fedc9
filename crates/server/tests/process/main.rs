//! The running process. One binary: it is linked once.

mod rolling;
mod running;
mod switching;
