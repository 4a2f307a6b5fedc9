//! Takes: what an edit may change of a recording, which is never its samples.

use super::{At, Column, Missing, Owner, Table, Thing, column};
use crate::edit::history::Edit;
use crate::edit::operations::{LONGEST, line};
use crate::model::{PassOf, PassPlacement, Rating, Rolled, Take};
use crate::rows::column::{from_column, text};
use crate::rows::read;
use crate::rows::read::{camera_of, check_rate, check_sampling, in_row, one, rig_of};
use crate::{Result, StoreError};
use rovnek_core::ids::{SetupId, TakeId, ThingKind};
use rovnek_core::lens::Camera;
use rovnek_core::rigs::Rigging;
use rovnek_core::time::Rate;
use rusqlite::types::Value;
use rusqlite::{Connection, Row};

impl Thing for Take {
    const EDITED: &'static [&'static str] = &["name", "rating", "note", "binned", "pass"];
    const COLUMNS: &'static [Column] = &[
        column::id_of("setup_id", ThingKind::Setup, Missing::Refused),
        column::id_of("pass_of", ThingKind::Take, Missing::Refused),
        column::params::<Camera>("camera"),
        column::params::<Rigging>("rig"),
        column::params::<PassPlacement>("pass"),
        // What a take was rolled against is a record: it asks for nothing.
        column::params::<Rolled>("rolled").when_missing(Missing::Forgotten),
    ];
    const OWNER: Owner = Owner::Setup;
    const ORDER: &'static str = "t.number, t.id";
    const NAME: &'static str = "'take ' || t.number || ' ' || t.name";

    fn read(db: &Connection, id: u32) -> Result<Take> {
        let sql = "SELECT t.*, (SELECT coalesce(sum(samples), 0) FROM take_chunk c WHERE c.take_id = t.id) AS samples,
              (SELECT coalesce(sum(packets), 0) FROM take_packets p WHERE p.take_id = t.id) AS packets
            FROM take t WHERE t.id = ?1";
        in_row(Table::Take, id, one(db, "take", sql, id, take_of))
    }

    fn write(edit: &mut Edit, at: At, was: &Take, now: &Take) -> Result<()> {
        let id: TakeId = at.id();
        if was.name != now.name {
            line("the name", &now.name, 0, LONGEST)?;
            edit.update(id, &[("name", text(&now.name))])?;
        }
        if was.note != now.note {
            line("the note", &now.note, 0, LONGEST)?;
            edit.update(id, &[("note", text(&now.note))])?;
        }
        if was.rating != now.rating {
            edit.update(id, &[("rating", text(now.rating.word()))])?;
        }
        if was.binned != now.binned {
            edit.bin_take(id, now.binned)?;
        }
        if was.pass != now.pass {
            let refused = |sentence: &str| Err(StoreError::Refused(sentence.into()));
            match (&was.pass, &now.pass) {
                (Some(old), Some(new)) if *new == (PassOf { muted: new.muted, ..old.clone() }) => {
                    edit.update(id, &[("muted", Value::Integer(new.muted.into()))])?;
                }
                (Some(_), Some(_)) => {
                    return refused("how a pass is placed is part of what was rolled; only mute it or not");
                }
                (None, _) => return refused("a take of its own cannot become a pass"),
                (Some(_), None) => return refused("a pass stays a pass; mute it instead"),
            }
        }
        Ok(())
    }

    fn bin(edit: &mut Edit, at: At) -> Result<()> {
        edit.bin_take(at.id(), true)
    }
}

fn pass_of(row: &Row) -> Result<Option<PassOf>> {
    let Some(take) = row.get::<_, Option<u32>>("pass_of")? else { return Ok(None) };
    let placement = from_column("pass", &row.get::<_, String>("pass")?)?;
    Ok(Some(PassOf { take: TakeId(take), placement, muted: row.get("muted")? }))
}

fn take_of(row: &Row) -> Result<Take> {
    let (samples, rate_hz): (u32, f64) = (row.get("samples")?, row.get("rate_hz")?);
    let rating: String = row.get("rating")?;
    let flags: String = row.get("flags")?;
    let rate_hz = check_sampling(rate_hz)?;
    Ok(Take {
        id: TakeId(row.get("id")?),
        setup_id: SetupId(row.get("setup_id")?),
        number: row.get("number")?,
        name: row.get("name")?,
        rating: Rating::of(&rating),
        note: row.get("note")?,
        rolled_at: row.get("rolled_at")?,
        rate: check_rate(Rate { num: row.get("rate_num")?, den: row.get("rate_den")? })?,
        rate_hz,
        samples,
        length_s: f64::from(samples.saturating_sub(1)) / rate_hz,
        camera: camera_of(&row.get::<_, String>("camera")?)?,
        rig: rig_of(&row.get::<_, String>("rig")?)?,
        axes: serde_json::from_str(&row.get::<_, String>("axes")?)
            .map_err(|e| StoreError::Damaged("list of axes", e.to_string()))?,
        pass: pass_of(row)?,
        rolled: from_column("roll", &row.get::<_, String>("rolled")?)?,
        changed: Vec::new(),
        packets: row.get("packets")?,
        rolling: row.get("rolling")?,
        recovered: row.get("recovered")?,
        flags: flags.lines().map(Into::into).collect(),
        binned: row.get::<_, Option<String>>("binned_at")?.is_some(),
    })
}

impl Edit<'_> {
    /// Puts a take into the bin, or back; not while it rolls.
    pub fn bin_take(&mut self, id: TakeId, binned: bool) -> Result<()> {
        let take = read::take(self.db(), id)?;
        if binned && take.rolling {
            return Err(StoreError::Refused(format!("take {} is rolling; cut it first", take.number)));
        }
        if binned { self.bin(id) } else { self.update(id, &[("binned_at", Value::Null)]) }
    }
}
