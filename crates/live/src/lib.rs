//! The live floor.
//!
//! * [`floor`]: what happens in one step of 1/240 s, what rolls, what is told. Pure: it has no clock and no thread, so tests
//!   step it as fast as they like.
//! * `take_buffer`: what rolls, in chunks on its way to the recorder.
//! * [`machine`]: a setup's machine on the floor, and what moves it: hands, courses, keys, leads.
//! * [`device_simulator`]: a tracked device that is not there.
//! * [`command`] and [`state`]: what goes in and what comes out.
//! * [`control_lease`]: who may operate.
//! * [`wire`]: the binary state frame that pages get 60 times a second.
//! * [`acting`]: a performer or a prop that is driven.
//! * [`devices`]: tracked devices as they are heard; [`listen`]: the sockets they send to.
//! * [`live_out`]: the camera told to other software.
//! * [`room`]: how much room the machine has, found beside the floor.
//! * [`runner`]: the thread that steps the floor on absolute deadlines and publishes.

pub mod acting;
mod bounds;
pub mod command;
pub mod control_lease;
pub mod device_simulator;
pub mod devices;
pub mod floor;
pub mod listen;
pub mod live_out;
pub mod machine;
pub mod room;
pub mod runner;
pub mod state;
mod take_buffer;
pub mod wire;
