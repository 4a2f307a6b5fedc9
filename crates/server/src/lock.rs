//! Taking a lock.

use std::sync::{Mutex, MutexGuard};

/// A lock that a panic elsewhere does not spoil: every change under it is a transaction.
pub fn lock<T>(mutex: &Mutex<T>) -> MutexGuard<'_, T> {
    mutex.lock().unwrap_or_else(|broken| broken.into_inner())
}
