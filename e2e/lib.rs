//! Nothing but tests; see `tests/`.
