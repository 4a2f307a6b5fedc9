//! Small pictures of scenes and takes. The page draws them; they are kept here so that lists have them at
//! once. They are no edits: what is lost of them is drawn again.

use crate::rows::reader::Reader;
use crate::{Result, Store, StoreError};
use rusqlite::{Connection, OptionalExtension};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Largest picture that is kept, bytes.
pub const LARGEST: usize = 256 << 10;

/// Kind of thing that a picture shows.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
#[allow(missing_docs)]
pub enum PictureOf {
    Scene,
    Take,
}

impl PictureOf {
    fn column(self) -> &'static str {
        match self {
            PictureOf::Scene => "scene",
            PictureOf::Take => "take",
        }
    }
}

/// Line of the list of pictures.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct PictureLine {
    /// Kind of thing.
    pub of: PictureOf,
    /// Id of the thing.
    pub id: u32,
    /// Part of a take: 0 first, 1 middle, 2 last.
    pub part: u32,
    /// Version of what it was drawn of.
    pub made_of: String,
}

impl Store {
    /// Keeps a picture in the place of the one before.
    pub fn keep_picture(&mut self, line: &PictureLine, bytes: &[u8]) -> Result<()> {
        let PictureLine { of, id, part, made_of } = line;
        let known = format!("SELECT 1 FROM {} WHERE id = ?1", of.column());
        if self.connection.query_row(&known, [id], |_| Ok(())).optional()?.is_none() {
            return Err(StoreError::Missing(of.column(), *id));
        }
        if bytes.len() > LARGEST || *part > 2 || made_of.len() > 200 {
            return Err(StoreError::Refused(format!("a picture has at most {} kB", LARGEST >> 10)));
        }
        self.still_there()?;
        let sql = "INSERT OR REPLACE INTO picture (of, id, part, made_of, bytes) VALUES (?1, ?2, ?3, ?4, ?5)";
        self.connection.execute(sql, (of.column(), id, part, made_of, bytes))?;
        Ok(())
    }
}

impl Reader {
    /// List of the pictures that there are.
    pub fn pictures(&self) -> Result<Vec<PictureLine>> {
        let mut all = self.db().prepare("SELECT of, id, part, made_of FROM picture ORDER BY of, id, part")?;
        let line = |r: &rusqlite::Row| {
            let of = if r.get::<_, String>(0)? == "take" { PictureOf::Take } else { PictureOf::Scene };
            Ok(PictureLine { of, id: r.get(1)?, part: r.get(2)?, made_of: r.get(3)? })
        };
        Ok(all.query_map([], line)?.collect::<rusqlite::Result<_>>()?)
    }

    /// A picture's bytes.
    pub fn picture(&self, of: PictureOf, id: u32, part: u32) -> Result<Vec<u8>> {
        let sql = "SELECT bytes FROM picture WHERE of = ?1 AND id = ?2 AND part = ?3";
        let found = self.db().query_row(sql, (of.column(), id, part), |r| r.get(0)).optional()?;
        found.ok_or(StoreError::Missing("picture of this", id))
    }

    /// The picture that stands for the production: of the scene that was worked on last, else of any.
    pub fn front_picture(&self) -> Result<Option<Vec<u8>>> {
        Ok(front(self.db())?.map(|(_, bytes)| bytes))
    }
}

/// See [`Reader::front_picture`]; with what it was drawn of.
pub(crate) fn front(db: &Connection) -> Result<Option<(String, Vec<u8>)>> {
    let sql = "SELECT p.made_of, p.bytes FROM picture p LEFT JOIN remembered m ON m.key = 'scene'
        WHERE p.of = 'scene' ORDER BY m.value = p.id DESC, p.id LIMIT 1";
    Ok(db.query_row(sql, [], |r| Ok((r.get(0)?, r.get(1)?))).optional()?)
}
