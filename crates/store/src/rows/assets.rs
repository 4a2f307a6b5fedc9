//! What was brought in: meshes, images, captured motion. Kept once, referred to by id, never
//! changed; undo takes away what refers to it, not the thing itself.

use crate::edit::history::Edit;
use crate::model::{Asset, AssetKind};
use crate::{Result, Store, StoreError, now};
use rusqlite::{Connection, OptionalExtension};

impl Edit<'_> {
    /// Keeps bytes, or finds the same ones; their id.
    pub fn keep(&mut self, kind: AssetKind, name: &str, bytes: &[u8]) -> Result<u32> {
        let known = "SELECT id FROM asset WHERE kind = ?1 AND length(bytes) = ?2 AND bytes = ?3";
        let found: Option<u32> = self
            .db()
            .query_row(known, (kind.column(), bytes.len() as i64, bytes), |r| r.get(0))
            .optional()?;
        if let Some(id) = found {
            return Ok(id);
        }
        let sql = "INSERT INTO asset (kind, name, bytes, added_at) VALUES (?1, ?2, ?3, ?4)";
        self.db().execute(sql, (kind.column(), name, bytes, now()))?;
        Ok(self.db().last_insert_rowid() as u32)
    }
}

impl Store {
    /// Everything that was brought in.
    pub fn assets(&self) -> Result<Vec<Asset>> {
        let mut all = self.connection.prepare("SELECT id, kind, name FROM asset ORDER BY id")?;
        let row = |r: &rusqlite::Row| {
            let kind = match r.get::<_, String>(1)?.as_str() {
                "mesh" => AssetKind::Mesh,
                "image" => AssetKind::Image,
                _ => AssetKind::Clip,
            };
            Ok(Asset { id: r.get(0)?, kind, name: r.get(2)? })
        };
        Ok(all.query_map([], row)?.collect::<rusqlite::Result<_>>()?)
    }
}

/// The bytes of something that was brought in.
pub(crate) fn asset(db: &Connection, kind: AssetKind, id: u32) -> Result<Vec<u8>> {
    let sql = "SELECT bytes FROM asset WHERE id = ?1 AND kind = ?2";
    let found = db.query_row(sql, (id, kind.column()), |r| r.get(0)).optional()?;
    found.ok_or(StoreError::Missing(kind.column(), id))
}
