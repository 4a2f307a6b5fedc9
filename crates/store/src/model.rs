//! What is kept: production → scene (set, performers) → setup → take with its move.

use crate::assets::Asset;
use crate::history::{Edit, History, Table};
use crate::moves::{self, Move};
use crate::rolled::{PassOf, Rolled};
use crate::scene_edit::PerformanceName;
use crate::{Result, Store, StoreError, now, read};
use rovnek_core::keys::Position;
use rovnek_core::lens::{Camera, LensSet};
use rovnek_core::params::Invalid;
use rovnek_core::performer::Performer;
use rovnek_core::rigs::Rigging;
use rovnek_core::set::{Piece, Stage};
use rovnek_core::time::{Rate, Timebase};
use rovnek_core::tracked::Tracking;
use rusqlite::types::Value;
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use std::sync::Arc;
use ts_rs::TS;

/// Everything but the samples.
///
/// Lists are shared: a later document has the very same list as an earlier one as long as nothing
/// in it was touched.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Document {
    /// Name of the production.
    pub production: String,
    /// The scene being worked on.
    pub scene: Scene,
    /// In order.
    pub setups: Arc<Vec<Setup>>,
    /// In the order they were rolled, binned ones too.
    pub takes: Arc<Vec<Take>>,
    /// The number that the next take will have; passes share that of the take they are over.
    pub next_take: u32,
    /// What cameras do over time, in the order they were made, binned ones too.
    pub moves: Arc<Vec<Move>>,
    /// The production's own lens sets.
    pub lens_sets: Vec<LensSet>,
    /// What was brought in.
    pub assets: Vec<Asset>,
    /// What undo and redo would do.
    pub history: History,
}

/// A scene without its lists: what of it is edited field by field.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct SceneHead {
    /// As on the slate.
    pub number: String,
    /// As on the slate.
    pub name: String,
    /// Frames a second.
    pub rate: Rate,
    /// How long the performance is.
    pub length_s: f64,
    /// The frame of day at which the scene's timecode starts.
    pub start_frame: u32,
    /// The room.
    pub stage: Stage,
    /// The performance that plays.
    pub performance: u32,
}

impl Scene {
    /// How its times are counted.
    pub fn timebase(&self) -> Timebase {
        Timebase { rate: self.rate, start_frame: self.start_frame }
    }

    /// The scene without its lists.
    pub fn head(&self) -> SceneHead {
        SceneHead {
            number: self.number.clone(),
            name: self.name.clone(),
            rate: self.rate,
            length_s: self.length_s,
            start_frame: self.start_frame,
            stage: self.stage,
            performance: self.performance,
        }
    }
}

impl Document {
    /// A setup by its id.
    pub fn setup(&self, id: u32) -> Result<&Setup> {
        self.setups.iter().find(|s| s.id == id).ok_or(StoreError::Missing("setup", id))
    }

    /// A take by its id.
    pub fn take(&self, id: u32) -> Result<&Take> {
        self.takes.iter().find(|t| t.id == id).ok_or(StoreError::Missing("take", id))
    }

    /// A move by its id.
    pub fn a_move(&self, id: u32) -> Result<&Move> {
        self.moves.iter().find(|m| m.id == id).ok_or(StoreError::Missing("move", id))
    }

    /// Of a take's moves the one that is shown; none of a pass, and of a take that rolls.
    pub fn chosen(&self, take: u32) -> Option<&Move> {
        self.moves.iter().find(|m| m.take() == Some(take) && m.chosen && !m.binned)
    }

    /// The passes that lie over a take and count: neither muted nor binned, in order.
    pub fn passes(&self, take: u32) -> Vec<Take> {
        let over = |t: &&Take| {
            t.pass.as_ref().is_some_and(|p| p.take == take && !p.muted) && !t.rolling && !t.binned
        };
        let mut passes: Vec<Take> = self.takes.iter().filter(over).cloned().collect();
        passes.sort_by_key(|t| t.id);
        passes
    }
}

/// A scene: its set and who is in it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Scene {
    /// Its id; a new one is given its own.
    #[serde(default)]
    pub id: u32,
    /// As on the slate.
    pub number: String,
    /// As on the slate.
    pub name: String,
    /// Frames a second.
    pub rate: Rate,
    /// How long the performance is.
    pub length_s: f64,
    /// The frame of day at which the scene's timecode starts.
    pub start_frame: u32,
    /// The room.
    pub stage: Stage,
    /// In order.
    pub pieces: Arc<Vec<Piece>>,
    /// In order.
    pub performers: Arc<Vec<Performer>>,
    /// Alternatives of what everybody does, in order.
    #[serde(default = "as_written")]
    pub performances: Vec<PerformanceName>,
    /// The one that plays.
    #[serde(default = "first")]
    pub performance: u32,
}

fn as_written() -> Vec<PerformanceName> {
    vec![PerformanceName { id: 1, name: "as written".into() }]
}

fn first() -> u32 {
    1
}

/// A camera on a machine.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Setup {
    /// Its id.
    pub id: u32,
    /// As on the slate: A, B, C …
    pub letter: String,
    /// What it is for.
    pub name: String,
    /// Sensor, frame, lens.
    pub camera: Camera,
    /// The machine and where it stands.
    pub rig: Rigging,
    /// Where it can be sent, by number.
    pub positions: Vec<Position>,
    /// The move that its machine runs: keyed, or following another.
    pub runs: Option<u32>,
    /// The device that may move its camera.
    pub tracking: Tracking,
    /// In the bin.
    pub binned: bool,
}

/// What was recorded. What is done to it is a [`Move`].
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Take {
    /// Its id.
    pub id: u32,
    /// The setup it was rolled in.
    pub setup_id: u32,
    /// As on the slate; unique in the scene.
    pub number: u32,
    /// A name of its own, or nothing.
    pub name: String,
    /// What the operator thought of it.
    pub rating: Rating,
    /// A note.
    pub note: String,
    /// When the roll began, UTC.
    pub rolled_at: String,
    /// Frames a second of the scene as it was rolled.
    pub rate: Rate,
    /// Samples a second.
    pub rate_hz: f64,
    /// How many samples.
    pub samples: u32,
    /// First to last sample.
    pub length_s: f64,
    /// As it was when the take was rolled.
    pub camera: Camera,
    /// As it was when the take was rolled.
    pub rig: Rigging,
    /// The names of its columns.
    pub axes: Vec<String>,
    /// The take it is a pass over, and how it is placed there.
    pub pass: Option<PassOf>,
    /// What it was rolled against and by what.
    pub rolled: Rolled,
    /// Who or what has changed in that performance since.
    pub changed: Vec<String>,
    /// How many packets of a device are kept with it.
    pub packets: u32,
    /// Still being recorded.
    pub rolling: bool,
    /// Closed by a restart, not by a cut.
    pub recovered: bool,
    /// Words about what went wrong while it rolled.
    pub flags: Vec<String>,
    /// In the bin.
    pub binned: bool,
}

/// What the operator thought of a take.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
#[allow(missing_docs)]
pub enum Rating {
    #[default]
    None,
    Good,
    Hold,
    No,
}

impl Rating {
    /// As a word; nothing for none.
    pub fn word(self) -> &'static str {
        match self {
            Rating::None => "",
            Rating::Good => "good",
            Rating::Hold => "hold",
            Rating::No => "no",
        }
    }

    pub(crate) fn of(column: &str) -> Rating {
        let all = [Rating::Good, Rating::Hold, Rating::No];
        all.into_iter().find(|r| r.word() == column).unwrap_or_default()
    }
}

/// A scene to begin with.
#[derive(Clone, Debug, Deserialize)]
pub struct NewScene {
    /// Name of the production.
    pub production: String,
    /// The scene.
    #[serde(flatten)]
    pub scene: Scene,
    /// In order.
    pub setups: Vec<NewSetup>,
}

/// A setup to begin with.
#[derive(Clone, Debug, Deserialize)]
pub struct NewSetup {
    /// What it is for.
    pub name: String,
    /// Sensor, frame, lens.
    pub camera: Camera,
    /// The machine and where it stands.
    pub rig: Rigging,
}

impl NewScene {
    /// Whether it can be.
    pub fn check(&self) -> std::result::Result<(), Invalid> {
        let Scene { rate, length_s, pieces, performers, .. } = &self.scene;
        Rate::new(rate.num, rate.den).map_err(|e| Invalid::at("scene/rate", e.to_string()))?;
        if !(0.1..=3600.0).contains(length_s) {
            return Err(Invalid::at("scene/length_s", "a scene is 0.1 to 3600 s long"));
        }
        pieces.iter().try_for_each(Piece::check)?;
        performers.iter().try_for_each(Performer::check)?;
        self.setups.iter().try_for_each(|s| s.camera.check().and_then(|()| s.rig.spec.check()))
    }
}

/// A parameter struct as it is kept: JSON with the version of its layout.
#[derive(Serialize, Deserialize)]
struct Versioned<T> {
    version: u32,
    value: T,
}

/// As a column.
pub(crate) fn column<T: Serialize>(value: &T) -> Value {
    Value::Text(serde_json::to_string(&Versioned { version: 1, value }).expect("parameters are plain data"))
}

pub(crate) fn from_column<T: DeserializeOwned>(what: &'static str, text: &str) -> Result<T> {
    let kept: Versioned<T> =
        serde_json::from_str(text).map_err(|e| StoreError::Damaged(what, e.to_string()))?;
    if kept.version == 1 { Ok(kept.value) } else { Err(StoreError::Newer(kept.version)) }
}

impl Store {
    /// Whether nothing has been put in yet.
    pub fn is_new(&self) -> Result<bool> {
        Ok(self.connection.query_row("SELECT count(*) = 0 FROM scene", [], |r| r.get(0))?)
    }

    /// Puts a scene into a new database. Not an edit: there is nothing before it to go back to.
    pub fn begin(&mut self, new: &NewScene) -> Result<()> {
        new.check()?;
        let tx = self.connection.transaction()?;
        tx.execute("INSERT INTO production (id, name) VALUES (1, ?1)", [&new.production])?;
        tx.execute(
            "INSERT INTO scene
               (id, production_id, ord, number, name, rate_num, rate_den, length_s, start_frame, stage, performance_id)
             VALUES (1, 1, 0, ?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8)",
            (
                &new.scene.number,
                &new.scene.name,
                new.scene.rate.num,
                new.scene.rate.den,
                new.scene.length_s,
                new.scene.start_frame,
                column(&new.scene.stage),
                new.scene.performance,
            ),
        )?;
        for (ord, performance) in new.scene.performances.iter().enumerate() {
            // A new file has one already.
            let sql = "INSERT OR REPLACE INTO performance (id, scene_id, ord, name) VALUES (?1, 1, ?2, ?3)";
            tx.execute(sql, (performance.id, ord as u32, &performance.name))?;
        }
        // Pieces that others refer to come with their ids.
        let id = |id: u32| (id > 0).then_some(id);
        for (ord, piece) in new.scene.pieces.iter().enumerate() {
            let kept = column(&Piece { id: 0, ..piece.clone() });
            let sql = "INSERT INTO piece (id, scene_id, ord, params) VALUES (?1, 1, ?2, ?3)";
            tx.execute(sql, (id(piece.id), ord as u32, kept))?;
        }
        for (ord, performer) in new.scene.performers.iter().enumerate() {
            let kept = column(&Performer { id: 0, ..performer.clone() });
            let sql = "INSERT INTO performer (id, scene_id, ord, params) VALUES (?1, 1, ?2, ?3)";
            tx.execute(sql, (id(performer.id), ord as u32, kept))?;
        }
        for (ord, setup) in new.setups.iter().enumerate() {
            let sql =
                "INSERT INTO setup (scene_id, ord, letter, name, camera, rig) VALUES (1, ?1, ?2, ?3, ?4, ?5)";
            tx.execute(
                sql,
                (ord as u32, letter(ord), &setup.name, column(&setup.camera), column(&setup.rig)),
            )?;
        }
        tx.commit()?;
        self.read.forget();
        Ok(())
    }

    /// Removes binned takes with their samples and moves, and binned moves, for good; how many takes.
    /// A take that a move still follows stays.
    pub fn empty_bin(&mut self) -> Result<usize> {
        let tx = self.connection.transaction()?;
        // Passes go with the take below, and before it.
        let sql = "SELECT t.id FROM take t LEFT JOIN take below ON below.id = t.pass_of
            WHERE (t.binned_at IS NOT NULL OR below.binned_at IS NOT NULL) AND NOT t.rolling
              AND NOT EXISTS (SELECT 1 FROM take p WHERE p.pass_of = t.id AND p.rolling)
              AND NOT EXISTS (SELECT 1 FROM move f JOIN move m ON m.id = f.follows
                WHERE m.take_id = t.id AND f.binned_at IS NULL)
            ORDER BY t.pass_of IS NULL";
        let ids: Vec<u32> = tx.prepare(sql)?.query_map([], |r| r.get(0))?.collect::<rusqlite::Result<_>>()?;
        let moves = moves::empty(&tx, &ids)?;
        for id in &ids {
            tx.execute("DELETE FROM take_chunk WHERE take_id = ?1", [id])?;
            tx.execute("DELETE FROM take_packets WHERE take_id = ?1", [id])?;
            tx.execute("DELETE FROM take WHERE id = ?1", [id])?;
        }
        Store::forget(&tx, Table::Take, &ids)?;
        Store::forget(&tx, Table::Move, &moves)?;
        tx.commit()?;
        self.read.forget();
        Ok(ids.len())
    }
}

/// The slate's letter for a setup: A … Z, then AA …; I and O look like numbers and are left out.
pub(crate) fn letter(ord: usize) -> String {
    const LETTERS: &[u8] = b"ABCDEFGHJKLMNPQRSTUVWXYZ";
    let last = LETTERS[ord % LETTERS.len()] as char;
    if ord < LETTERS.len() { last.to_string() } else { letter(ord / LETTERS.len() - 1) + &last.to_string() }
}

/// Edits of the model, each named for the history.
impl Edit<'_> {
    /// Sets the frame rate of a scene.
    pub fn set_rate(&mut self, scene: u32, rate: Rate) -> Result<()> {
        let rate = Rate::new(rate.num, rate.den).map_err(|e| StoreError::Refused(e.to_string()))?;
        let columns =
            [("rate_num", Value::Integer(rate.num.into())), ("rate_den", Value::Integer(rate.den.into()))];
        self.update(Table::Scene, scene, &columns)
    }

    /// Sets the production's name.
    pub fn name_production(&mut self, name: &str) -> Result<()> {
        self.update(Table::Production, 1, &[("name", text(name))])
    }

    /// Rates a take.
    pub fn rate_take(&mut self, id: u32, rating: Rating) -> Result<()> {
        self.update(Table::Take, id, &[("rating", text(rating.word()))])
    }

    /// Leaves a pass out of its take, or not.
    pub fn mute_pass(&mut self, id: u32, muted: bool) -> Result<()> {
        self.update(Table::Take, id, &[("muted", Value::Integer(muted.into()))])
    }

    /// Sets the device that may move a setup's camera.
    pub fn set_tracking(&mut self, setup: u32, tracking: &Tracking) -> Result<()> {
        tracking.check()?;
        self.update(Table::Setup, setup, &[("tracking", column(tracking))])
    }

    /// Puts a take into the bin, or back; not while it rolls.
    pub fn bin_take(&mut self, id: u32, binned: bool) -> Result<()> {
        let take = read::take(self.db(), id)?;
        if binned && take.rolling {
            return Err(StoreError::Refused(format!("take {} is rolling; cut it first", take.number)));
        }
        let at = if binned { Value::Text(now()) } else { Value::Null };
        self.update(Table::Take, id, &[("binned_at", at)])
    }
}

/// As a column.
pub fn text(value: &str) -> Value {
    Value::Text(value.into())
}
