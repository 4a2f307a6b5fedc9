//! What performers and props do while somebody drives them: journalled as it comes, like a take,
//! and kept after it has become a path of the performance.

use crate::model::Rolled;
use crate::rows::column::column;
use crate::{Result, Store, StoreError, now};
use rovnek_core::ids::{PerformanceId, PerformerId, PieceId, SceneId, TakeId};
use rovnek_core::playing::MoverId;
use rovnek_core::wheels::HandOn;

/// A drive that has not become a path yet.
#[derive(Clone, Debug, PartialEq)]
pub struct Drive {
    /// Id of the recorded drive.
    pub id: u32,
    /// Id of the scene it is in.
    pub scene_id: SceneId,
    /// In which performance.
    pub performance: PerformanceId,
    /// Performer or piece.
    pub mover: MoverId,
    /// The take that was rolled with it.
    pub take: Option<TakeId>,
    /// Samples a second.
    pub rate_hz: f64,
    /// Values of all rows.
    pub values: Vec<f64>,
}

impl Store {
    /// Opens a drive; its id.
    pub fn begin_drive(
        &mut self,
        scene: SceneId,
        performance: PerformanceId,
        mover: MoverId,
        take: Option<TakeId>,
        rate_hz: f64,
    ) -> Result<u32> {
        let (kind, id) = match mover {
            MoverId::Performer(id) => ("performer", id.0),
            MoverId::Piece(id) => ("piece", id.0),
        };
        self.connection.execute(
            "INSERT INTO driven (scene_id, performance_id, kind, mover_id, take_id, rolled_at, rate_hz, rolling)
             VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, 1)",
            (scene.0, performance.0, kind, id, take.map(|t| t.0), now(), rate_hz),
        )?;
        Ok(self.connection.last_insert_rowid() as u32)
    }

    /// Appends a chunk. When this returns, the chunk survives the end of the process.
    pub fn append_drive(&mut self, drive: u32, seq: u32, values: &[f64]) -> Result<()> {
        self.still_there()?;
        let data: Vec<u8> = values.iter().flat_map(|v| v.to_le_bytes()).collect();
        self.connection.prepare_cached("INSERT INTO driven_chunk VALUES (?1, ?2, ?3, ?4)")?.execute((
            drive,
            seq,
            values.len() as u32,
            data,
        ))?;
        Ok(())
    }

    /// Closes a drive: it has become a path, or there is nothing in it.
    pub fn close_drive(&mut self, drive: u32) -> Result<()> {
        self.connection.execute("UPDATE driven SET rolling = 0 WHERE id = ?1", [drive])?;
        Ok(())
    }

    /// A take that was rolled while somebody was driven was rolled against what they did then.
    pub fn rolled_with(&mut self, take: TakeId) -> Result<()> {
        let old = self.take(take)?.rolled;
        let now = self.rolled_against()?;
        self.set_rolled(take, &Rolled { performance: now.performance, movers: now.movers, ..old })
    }

    /// Keeps who has had which wheel while a take rolls.
    pub fn driven_by(&mut self, take: TakeId, hands: Vec<HandOn>) -> Result<()> {
        let old = self.take(take)?.rolled;
        self.set_rolled(take, &Rolled { hands, ..old })
    }

    fn set_rolled(&mut self, take: TakeId, rolled: &Rolled) -> Result<()> {
        let sql = "UPDATE take SET rolled = ?2 WHERE id = ?1";
        self.connection.execute(sql, (take.0, column(rolled)))?;
        self.read.touch(&[take.into()]);
        Ok(())
    }

    /// Drives that have not become paths: the one that has just ended, or what a process that died
    /// left behind.
    pub fn open_drives(&self) -> Result<Vec<Drive>> {
        let mut statement = self.connection.prepare("SELECT * FROM driven WHERE rolling ORDER BY id")?;
        let mut rows = statement.query([])?;
        let mut drives = Vec::new();
        while let Some(row) = rows.next()? {
            let (kind, mover): (String, u32) = (row.get("kind")?, row.get("mover_id")?);
            let id = row.get("id")?;
            drives.push(Drive {
                id,
                scene_id: SceneId(row.get("scene_id")?),
                performance: PerformanceId(row.get("performance_id")?),
                take: row.get::<_, Option<u32>>("take_id")?.map(TakeId),
                mover: if kind == "piece" {
                    MoverId::Piece(PieceId(mover))
                } else {
                    MoverId::Performer(PerformerId(mover))
                },
                rate_hz: row.get("rate_hz")?,
                values: self.drive_values(id)?,
            });
        }
        Ok(drives)
    }

    fn drive_values(&self, drive: u32) -> Result<Vec<f64>> {
        let sql = "SELECT data FROM driven_chunk WHERE driven_id = ?1 ORDER BY seq";
        let mut statement = self.connection.prepare(sql)?;
        let mut rows = statement.query([drive])?;
        let mut values = Vec::new();
        while let Some(row) = rows.next()? {
            let data = row.get_ref(0)?.as_blob().map_err(|e| StoreError::Damaged("chunk", e.to_string()))?;
            values.extend(data.as_chunks::<8>().0.iter().map(|w| f64::from_le_bytes(*w)));
        }
        Ok(values)
    }
}
