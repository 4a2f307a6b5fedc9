//! The server of Rovnek: HTTP and sockets over the store and the live floor, with the page inside.
//!
//! | module | does |
//! |---|---|
//! | [`app`] | what all requests share: store, floor, caches |
//! | [`api`] | the routes, by resource |
//! | [`snapshot`] | the document at a revision, and what changed since another |
//! | [`gate`], [`pool`] | who has the store, and who computes |
//! | [`jobs`] | long work: progress, stop, result |
//! | [`socket`] | state frames out, commands in |
//! | [`recorder`] | what the floor records, into the store |
//! | [`layers`] | a take of its passes |
//! | [`moves`] | moves worked out, and what is kept of that |
//! | [`devices`] | where tracked devices are listened for |
//! | [`phone`] | a phone as a device, behind a door of its own |
//! | [`guard`] | who may ask: host, origin, headers |
//! | [`problem`] | errors as sentences (RFC 9457) |
//! | `packed` | text is sent compressed |
//! | [`page`] | the embedded page |
//! | [`demo`] | the demo production |
//! | [`opening`] | a production read and staged before it comes onto the floor |
//! | `meant` | the scene that a request is about; nothing is written to another one |
//! | [`scenery`] | the scene made ready: who moves, what stands |
//! | `carrying`, `riding` | where what carries is, and who goes along |
//! | [`exports`] | a move as a file |
//! | [`cli`] | the command line |

pub mod api;
pub mod app;
mod carrying;
pub mod cli;
pub mod demo;
pub mod devices;
mod drives;
pub mod exports;
#[cfg(test)]
mod freshness;
pub mod gate;
pub mod guard;
mod id_of;
pub mod imports;
pub mod jobs;
pub mod layers;
pub mod live_out;
mod lock;
mod meant;
pub mod moves;
pub mod opened;
pub mod opening;
mod packed;
pub mod page;
pub mod phone;
pub mod pool;
pub mod problem;
mod readers;
pub mod recorder;
mod riding;
pub mod scenery;
mod sent;
pub mod serve;
pub mod snapshot;
pub mod socket;
mod staging;
mod turning;
mod written;
