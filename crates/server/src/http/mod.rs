//! What every request and answer passes through: who may ask, what is meant, JSON, errors, sockets, the page.

pub mod guard;
pub(crate) mod id_of;
pub(crate) mod meant;
pub(crate) mod packed;
pub mod page;
pub mod problem;
pub(crate) mod sent;
pub mod socket;
