//! What is worked out of the document: moves, sceneries, takes with their passes, on threads of their own.

#[cfg(test)]
pub(crate) mod freshness;
pub mod layers;
pub mod moves;
pub mod pool;
pub mod scenery;
