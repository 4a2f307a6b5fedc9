//! The floor under a clock that the tests turn. One binary: it is linked once.

mod acting;
mod common;
mod faults;
mod floor;
mod focus;
mod fuzz;
mod leading;
mod live_out;
mod putting;
mod riding;
mod rolling;
mod scenes;
mod second;
mod wheels;
