//! Takes while they roll: chunks are appended as they come, each safe once acknowledged.

use crate::edit::history::Edit;
use crate::model::{PassPlacement, Rating, Rolled, Setup};
use crate::rows::column::column;
use crate::rows::moves;
use crate::things::RowId;
use crate::{Result, Store, StoreError, now};
use rovnek_core::ids::{SceneId, SetupId, TakeId};
use rovnek_core::lens::Camera;
use rovnek_core::rigs::Rigging;
use rovnek_core::samples::Samples;
use rusqlite::{Connection, OptionalExtension};

/// A take before its first chunk.
pub struct NewTake<'a> {
    /// Id of the setup that rolls.
    pub setup_id: SetupId,
    /// Kept with the take.
    pub camera: &'a Camera,
    /// Kept with the take.
    pub rig: &'a Rigging,
    /// Samples a second.
    pub rate_hz: f64,
    /// The names of the values in a sample.
    pub axes: Vec<String>,
    /// Conditions of the roll.
    pub rolled: Rolled,
    /// Note on the slate.
    pub note: &'a str,
    /// The take it is a pass over, and how it is placed there.
    pub pass: Option<(TakeId, PassPlacement)>,
}

impl<'a> NewTake<'a> {
    /// A take of its own, rolled against nothing.
    pub fn plain(setup_id: SetupId, camera: &'a Camera, rig: &'a Rigging, rate_hz: f64) -> Self {
        let axes = rig.build(camera).axes().iter().map(|a| a.name.to_string()).collect();
        NewTake { setup_id, camera, rig, rate_hz, axes, rolled: Rolled::default(), note: "", pass: None }
    }
}

impl Store {
    /// Opens a take; its id and its number on the slate.
    pub fn begin_take(&mut self, new: &NewTake) -> Result<(TakeId, u32)> {
        self.still_there()?;
        let made = insert_take(&self.connection, new)?;
        self.read.touch(&[made.0.into()]);
        Ok(made)
    }

    /// Appends a chunk. When this returns, the chunk survives the end of the process.
    pub fn append(&mut self, take: TakeId, seq: u32, width: usize, values: &[f64]) -> Result<()> {
        self.still_there()?;
        let rolling: Option<bool> = self
            .connection
            .query_row("SELECT rolling FROM take WHERE id = ?1", [take.0], |r| r.get(0))
            .optional()?;
        match rolling {
            None => return Err(StoreError::Missing("take", take.0)),
            Some(false) => return Err(StoreError::Refused("a closed take takes no more samples".into())),
            Some(true) => append_chunk(&self.connection, take, seq, width, values)?,
        }
        self.read.touch(&[take.into()]);
        Ok(())
    }

    /// Appends what a device sent, as the bytes of a packet capture.
    pub fn append_packets(&mut self, take: TakeId, packets: u32, data: &[u8]) -> Result<()> {
        let sql = "INSERT INTO take_packets
            SELECT ?1, coalesce(max(seq), -1) + 1, ?2, ?3 FROM take_packets WHERE take_id = ?1";
        self.connection.prepare_cached(sql)?.execute((take.0, packets, data))?;
        self.read.touch(&[take.into()]);
        Ok(())
    }

    /// Closes a take, with words about what went wrong while it rolled; it has its move from now on.
    pub fn close_take(&mut self, take: TakeId, flags: &[String]) -> Result<()> {
        self.still_there()?;
        let tx = self.connection.transaction()?;
        let sql = "UPDATE take SET rolling = 0, flags = ?2 WHERE id = ?1 AND rolling";
        tx.execute(sql, (take.0, flags.join("\n")))?;
        let its = moves::of_take(&tx, take)?;
        tx.commit()?;
        self.read.touch(&[take.into()]);
        self.read.touch(&its.map(RowId::from).into_iter().collect::<Vec<_>>());
        Ok(())
    }

    /// Names a take that comes with a production. Not an edit: nothing is there to go back to.
    pub fn describe(&mut self, take: TakeId, name: &str, rating: Rating, note: &str) -> Result<()> {
        let sql = "UPDATE take SET name = ?2, rating = ?3, note = ?4 WHERE id = ?1";
        self.connection.execute(sql, (take.0, name, rating.word(), note))?;
        self.read.touch(&[take.into()]);
        Ok(())
    }

    /// Closes takes that were still rolling when the last process ended. One without a single
    /// chunk holds nothing and is dropped.
    pub(crate) fn recover(&mut self) -> Result<()> {
        self.connection.execute_batch(
            "DELETE FROM take_packets WHERE take_id IN
               (SELECT id FROM take WHERE rolling AND id NOT IN (SELECT take_id FROM take_chunk));
             DELETE FROM take WHERE rolling AND id NOT IN (SELECT take_id FROM take_chunk);
             UPDATE take SET rolling = 0, recovered = 1 WHERE rolling;",
        )?;
        moves::of_takes(&self.connection)
    }
}

impl Edit<'_> {
    /// Stores a finished take that came from a file, in a setup of its own; the take's id.
    pub fn bring_take(
        &mut self,
        scene: SceneId,
        name: &str,
        camera: &Camera,
        rig: &Rigging,
        samples: &Samples,
    ) -> Result<TakeId> {
        let setup_id = self.add_setup(scene, name, camera, rig)?;
        bring(self, setup_id, name, camera, rig, samples)
    }

    /// Stores what a file says that the axes of a setup's machine did, as a take of that setup.
    pub fn bring_axes(&mut self, setup: &Setup, name: &str, samples: &Samples) -> Result<TakeId> {
        bring(self, setup.id, name, &setup.camera, &setup.rig, samples)
    }
}

fn bring(
    edit: &mut Edit,
    setup_id: SetupId,
    name: &str,
    camera: &Camera,
    rig: &Rigging,
    samples: &Samples,
) -> Result<TakeId> {
    let new = NewTake::plain(setup_id, camera, rig, samples.rate_hz());
    let (take, _) = insert_take(edit.db(), &new)?;
    // Chunks of a second keep rows small.
    let rows = (samples.rate_hz().ceil() as usize).max(1);
    for (seq, chunk) in samples.values().chunks(rows * samples.width()).enumerate() {
        append_chunk(edit.db(), take, seq as u32, samples.width(), chunk)?;
    }
    let sql = "UPDATE take SET rolling = 0, name = ?2, binned_at = ?3 WHERE id = ?1";
    edit.db().execute(sql, (take.0, name, now()))?;
    edit.bin_take(take, false)?;
    if let Some(id) = moves::of_take(edit.db(), take)? {
        edit.note_touched(id);
    }
    Ok(take)
}

/// Opens a take; its id and its number on the slate.
fn insert_take(db: &Connection, new: &NewTake) -> Result<(TakeId, u32)> {
    // A pass has the number of the take it is placed over.
    let number = match &new.pass {
        Some((below, _)) => db
            .query_row("SELECT number FROM take WHERE id = ?1", [below.0], |r| r.get(0))
            .optional()?
            .ok_or(StoreError::Missing("take", below.0))?,
        None => next_number(db, new.setup_id)?,
    };
    db.execute(
        "INSERT INTO take
           (setup_id, number, name, rolled_at, rate_num, rate_den, rate_hz, width, camera, rig, axes, rolling,
            rolled, note, pass_of, pass)
         SELECT ?1, ?2, '', ?3, scene.rate_num, scene.rate_den, ?4, ?5, ?6, ?7, ?8, 1, ?9, ?10, ?11, ?12
         FROM setup JOIN scene ON scene.id = setup.scene_id WHERE setup.id = ?1",
        (
            new.setup_id.0,
            number,
            now(),
            new.rate_hz,
            new.axes.len() as u32,
            column(new.camera),
            column(new.rig),
            serde_json::to_string(&new.axes).expect("names are plain data"),
            column(&new.rolled),
            new.note,
            new.pass.as_ref().map(|(below, _)| below.0),
            new.pass.as_ref().map(|(_, placement)| column(placement)),
        ),
    )?;
    Ok((TakeId(db.last_insert_rowid() as u32), number))
}

fn append_chunk(db: &Connection, take: TakeId, seq: u32, width: usize, values: &[f64]) -> Result<()> {
    let data: Vec<u8> = values.iter().flat_map(|v| v.to_le_bytes()).collect();
    let samples = (values.len() / width) as u32;
    db.prepare_cached("INSERT INTO take_chunk VALUES (?1, ?2, ?3, ?4)")?
        .execute((take.0, seq, samples, data))?;
    Ok(())
}

/// The next take number of the scene that a setup belongs to.
fn next_number(db: &Connection, setup: SetupId) -> Result<u32> {
    let sql = "SELECT coalesce(max(t.number), 0) + 1 FROM take t JOIN setup s ON s.id = t.setup_id
        WHERE s.scene_id = (SELECT scene_id FROM setup WHERE id = ?1)";
    Ok(db.query_row(sql, [setup.0], |r| r.get(0))?)
}

/// The raw samples of a take.
pub(crate) fn samples(db: &Connection, take: TakeId) -> Result<Samples> {
    let (rate, width): (f64, u32) = db
        .query_row("SELECT rate_hz, width FROM take WHERE id = ?1", [take.0], |r| Ok((r.get(0)?, r.get(1)?)))
        .optional()?
        .ok_or(StoreError::Missing("take", take.0))?;
    let rate = crate::rows::read::check_sampling(rate)?;
    let mut statement = db.prepare_cached("SELECT data FROM take_chunk WHERE take_id = ?1 ORDER BY seq")?;
    let mut values = Vec::new();
    let mut rows = statement.query([take.0])?;
    while let Some(row) = rows.next()? {
        let data = row.get_ref(0)?.as_blob().map_err(|e| StoreError::Damaged("chunk", e.to_string()))?;
        let (words, rest) = data.as_chunks::<8>();
        if !rest.is_empty() {
            return Err(StoreError::Damaged("chunk", format!("{} bytes too many", rest.len())));
        }
        values.extend(words.iter().map(|w| f64::from_le_bytes(*w)));
    }
    if values.iter().any(|v| !v.is_finite()) {
        return Err(StoreError::Damaged("take", "a sample of it is no number".into()));
    }
    if width == 0 || !values.len().is_multiple_of(width as usize) {
        return Err(StoreError::Damaged("take", "its samples do not fill whole rows".into()));
    }
    Ok(Samples::new(rate, width as usize, values))
}

/// Packets of a device during a take, capture after capture.
pub(crate) fn packets(db: &Connection, take: TakeId) -> Result<Vec<Vec<u8>>> {
    let mut statement = db.prepare_cached("SELECT data FROM take_packets WHERE take_id = ?1 ORDER BY seq")?;
    let rows = statement.query_map([take.0], |r| r.get(0))?;
    Ok(rows.collect::<rusqlite::Result<_>>()?)
}
