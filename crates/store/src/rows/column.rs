//! Values as columns hold them.

use crate::{Result, StoreError};
use rusqlite::types::Value;
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};

/// A parameter struct as it is kept: JSON with the version of its layout.
#[derive(Serialize, Deserialize)]
struct Versioned<T> {
    version: u32,
    value: T,
}

/// Parameters as a column.
pub(crate) fn column<T: Serialize>(value: &T) -> Value {
    Value::Text(serde_json::to_string(&Versioned { version: 1, value }).expect("parameters are plain data"))
}

/// Parameters out of a column.
pub(crate) fn from_column<T: DeserializeOwned>(what: &'static str, text: &str) -> Result<T> {
    let kept: Versioned<T> =
        serde_json::from_str(text).map_err(|e| StoreError::Damaged(what, e.to_string()))?;
    if kept.version == 1 { Ok(kept.value) } else { Err(StoreError::Newer(kept.version)) }
}

/// A text as a column.
pub fn text(value: &str) -> Value {
    Value::Text(value.into())
}
