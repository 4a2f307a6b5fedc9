//! Bounds on the numbers of a command, where it is read: nothing that a page sends reaches the
//! floor without having passed here.

use serde::de::Error;
use serde::{Deserialize, Deserializer};

/// Axes of a machine, at the most; longer lists are refused.
const MOST_AXES: usize = 64;

/// Numbers in whatever a field holds.
pub(crate) trait Numbers {
    /// Calls `each` with every number; whether there are no more than a machine has axes.
    fn numbers(&self, each: &mut dyn FnMut(f64)) -> bool;
}

impl Numbers for f64 {
    fn numbers(&self, each: &mut dyn FnMut(f64)) -> bool {
        each(*self);
        true
    }
}

impl<T: Numbers> Numbers for Option<T> {
    fn numbers(&self, each: &mut dyn FnMut(f64)) -> bool {
        self.as_ref().is_none_or(|v| v.numbers(each))
    }
}

impl<T: Numbers> Numbers for Vec<T> {
    fn numbers(&self, each: &mut dyn FnMut(f64)) -> bool {
        self.iter().all(|v| v.numbers(each)) && self.len() <= MOST_AXES
    }
}

/// Reads numbers that must lie from `MIN` to `MAX`.
pub(crate) fn within<'de, const MIN: i32, const MAX: i32, T, D>(from: D) -> Result<T, D::Error>
where
    T: Numbers + Deserialize<'de>,
    D: Deserializer<'de>,
{
    let value = T::deserialize(from)?;
    let mut beyond = None;
    let few = value.numbers(&mut |v| {
        if !(f64::from(MIN)..=f64::from(MAX)).contains(&v) {
            beyond = Some(v);
        }
    });
    match beyond {
        Some(v) => Err(D::Error::custom(format!("{v} is out of bounds; give {MIN} to {MAX}"))),
        None if !few => Err(D::Error::custom(format!("at most {MOST_AXES} numbers, one an axis"))),
        None => Ok(value),
    }
}
