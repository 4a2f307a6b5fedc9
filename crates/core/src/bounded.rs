//! Values under a version, within a number of bytes: those that were asked for longest ago make room.

use clru::{CLruCache, CLruCacheConfig, WeightScale};
use std::collections::hash_map::RandomState;
use std::num::NonZeroUsize;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

/// Memory that a value takes.
pub trait Bytes {
    /// Bytes of the value, the same as long as it lives. What it shares with others counts as its own.
    fn bytes(&self) -> usize;
}

impl<T: Bytes> Bytes for Arc<T> {
    fn bytes(&self) -> usize {
        T::bytes(self)
    }
}

struct ByBytes;

impl<V: Bytes> WeightScale<u64, V> for ByBytes {
    fn weight(&self, _: &u64, value: &V) -> usize {
        value.bytes()
    }
}

/// Values by their versions, for several threads.
pub struct Bounded<V: Bytes>(Mutex<CLruCache<u64, V, RandomState, ByBytes>>);

impl<V: Bytes + Clone> Bounded<V> {
    /// Nothing yet. A value that takes more than `most_bytes` is not kept.
    pub fn within(most_bytes: usize) -> Bounded<V> {
        let most = NonZeroUsize::new(most_bytes).unwrap_or(NonZeroUsize::MIN);
        Bounded(Mutex::new(CLruCache::with_config(CLruCacheConfig::new(most).with_scale(ByBytes))))
    }

    fn kept(&self) -> MutexGuard<'_, CLruCache<u64, V, RandomState, ByBytes>> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Value of a version.
    pub fn find(&self, version: u64) -> Option<V> {
        self.kept().get(&version).cloned()
    }

    /// Keeps a value.
    pub fn keep(&self, version: u64, value: V) {
        // One that is too large for all of the room is worked out again when it is asked for.
        let _ = self.kept().put_with_weight(version, value);
    }

    /// Value of a version, worked out if it is not there. Others may ask meanwhile; two may work at once.
    pub fn find_or<E>(&self, version: u64, work: impl FnOnce() -> Result<V, E>) -> Result<V, E> {
        if let Some(known) = self.find(version) {
            return Ok(known);
        }
        let made = work()?;
        self.keep(version, made.clone());
        Ok(made)
    }

    /// Bytes of all values.
    pub fn bytes(&self) -> usize {
        self.kept().weight()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    impl Bytes for &'static str {
        fn bytes(&self) -> usize {
            self.len()
        }
    }

    #[test]
    fn what_was_asked_for_longest_ago_makes_room_and_what_is_too_large_is_not_kept() {
        let kept = Bounded::within(20);
        kept.keep(1, "eightbyt");
        kept.keep(2, "eightbyt");
        assert_eq!(kept.find(1), Some("eightbyt"));
        kept.keep(3, "four");
        assert_eq!((kept.find(1), kept.find(2), kept.find(3)), (Some("eightbyt"), None, Some("four")));
        kept.keep(4, "more than twenty bytes");
        assert_eq!((kept.find(4), kept.bytes() <= 20), (None, true));
        let never = || -> Result<_, ()> { unreachable!("it is known") };
        assert_eq!(kept.find_or(3, never), Ok("four"));
        assert_eq!(kept.find_or(5, || Err("no")), Err("no"));
    }
}
