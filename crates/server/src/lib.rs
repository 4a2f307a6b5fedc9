//! The server of Rovnek: HTTP and sockets over the store and the live floor, with the page inside.
//!
//! | module | does |
//! |---|---|
//! | [`app`] | what all requests share: store, floor, caches |
//! | [`api`] | the routes, by resource |
//! | [`http`] | what every request and answer passes through: who may ask, which scene is meant, errors, sockets |
//! | [`document`] | the open production: opened and turned, read at a revision, written behind one lock |
//! | [`floor`] | devices, phones, what the floor records, the camera sent to other software |
//! | [`evaluated`] | moves and sceneries worked out, on threads of their own, and what is kept of that |
//! | [`exports`], [`imports`], [`jobs`] | lists of kinds: files out, files in, long work |
//! | [`demo`] | the demo production |
//! | [`serve`] | starting and stopping |
//! | [`cli`] | the command line |

pub mod api;
pub mod app;
pub mod cli;
pub mod demo;
pub mod document;
pub mod evaluated;
pub mod exports;
pub mod floor;
pub mod http;
pub mod imports;
pub mod jobs;
mod lock;
pub mod serve;
