//! Files in and out, read by others or made by them. One binary: it is linked once.

mod bounds;
mod captures;
mod figures;
mod recording;
mod sets;
