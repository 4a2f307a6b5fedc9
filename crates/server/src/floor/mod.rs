//! The live floor of the open scene: its machines and their loads, devices, phones, what it records, and
//! the camera sent to other software.

pub(crate) mod carrying;
pub mod devices;
pub(crate) mod drives;
pub mod live_out;
pub mod phone;
pub mod recorder;
pub(crate) mod riding;
pub(crate) mod staging;
