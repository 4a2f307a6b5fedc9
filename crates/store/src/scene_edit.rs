//! Edits of the set, of who is in it and of the setups.

use crate::column::{column, text};
use crate::history::Edit;
use crate::model::Setup;
use crate::read::{PERFORMERS, PIECES, performer_of, piece_of, rows, setup_of};
use crate::scenes::letter;
use crate::table::Table;
use crate::{Result, StoreError, now, read};
use rovnek_core::carrier::Carrier;
use rovnek_core::keys::Position;
use rovnek_core::lens::{Camera, LensSet};
use rovnek_core::params::Invalid;
use rovnek_core::performer::Performer;
use rovnek_core::rigs::{RigSpec, Rigging, SquareToCard};
use rovnek_core::set::{Form, Piece, Stage, turned_to};
use rusqlite::OptionalExtension;
use rusqlite::types::Value;
use serde::Serialize;
use std::mem::discriminant;

/// Sets with more than this of one kind are refused.
const MOST: usize = 3000;

/// Things that a scene has many of.
pub trait SceneRow: Serialize {
    /// Table of the rows.
    const TABLE: Table;
    /// Id of the row.
    fn id(&self) -> u32;
    /// Checks the row.
    fn check(&self) -> std::result::Result<(), Invalid>;
    /// Parameters as stored; the id is the row's.
    fn params(&self) -> Value;
}

impl SceneRow for Piece {
    const TABLE: Table = Table::Piece;
    fn id(&self) -> u32 {
        self.id
    }
    fn check(&self) -> std::result::Result<(), Invalid> {
        Piece::check(self)
    }
    fn params(&self) -> Value {
        column(&Piece { id: 0, ..self.clone() })
    }
}

impl SceneRow for Performer {
    const TABLE: Table = Table::Performer;
    fn id(&self) -> u32 {
        self.id
    }
    fn check(&self) -> std::result::Result<(), Invalid> {
        Performer::check(self)
    }
    fn params(&self) -> Value {
        column(&Performer { id: 0, ..self.clone() })
    }
}

impl Edit<'_> {
    /// Adds a piece or a performer at the end of its list; its id.
    pub fn add<T: SceneRow>(&mut self, scene: u32, new: &T) -> Result<u32> {
        new.check()?;
        let table = T::TABLE.name();
        let there = format!("SELECT count(*) FROM {table} WHERE scene_id = ?1 AND binned_at IS NULL");
        let count: u32 = self.db().prepare_cached(&there)?.query_row([scene], |r| r.get(0))?;
        if count as usize >= MOST {
            return Err(StoreError::Refused(format!("a scene has at most {MOST} of these")));
        }
        let insert = format!(
            "INSERT INTO {table} (scene_id, ord, params, binned_at)
             SELECT ?1, coalesce(max(ord) + 1, 0), ?2, ?3 FROM {table} WHERE scene_id = ?1"
        );
        self.db().prepare_cached(&insert)?.execute((scene, new.params(), now()))?;
        let id = self.db().last_insert_rowid() as u32;
        self.update(T::TABLE, id, &[("binned_at", Value::Null)])?;
        Ok(id)
    }

    /// Puts a piece or a performer in the place of what it was; known by its id.
    pub fn put<T: SceneRow>(&mut self, changed: &T) -> Result<()> {
        changed.check()?;
        self.update(T::TABLE, changed.id(), &[("params", changed.params())])
    }

    /// Puts a row into the bin.
    pub(crate) fn bin(&mut self, table: Table, id: u32) -> Result<()> {
        self.update(table, id, &[("binned_at", Value::Text(now()))])
    }

    /// The scene that a row belongs to.
    pub(crate) fn scene_of(&self, table: Table, id: u32) -> Result<u32> {
        let sql = match table {
            Table::Production | Table::Scene => "SELECT id FROM scene WHERE id = ?1".to_string(),
            Table::Take => {
                "SELECT s.scene_id FROM take t JOIN setup s ON s.id = t.setup_id WHERE t.id = ?1".into()
            }
            Table::Move => {
                "SELECT s.scene_id FROM move m JOIN setup s ON s.id = m.setup_id WHERE m.id = ?1".into()
            }
            Table::Curve => return self.scene_of(Table::Move, read::owner(self.db(), id)?),
            Table::Setup => "SELECT scene_id FROM setup WHERE id = ?1".into(),
            Table::Piece | Table::Performer | Table::Performance => {
                format!("SELECT scene_id FROM {} WHERE id = ?1 AND binned_at IS NULL", table.name())
            }
        };
        let found = self.db().prepare_cached(&sql)?.query_row([id], |r| r.get(0)).optional()?;
        found.ok_or(StoreError::Missing(table.name(), id))
    }

    /// Refuses what is of another scene, with the way there.
    pub(crate) fn must_be_of(&self, scene: u32, table: Table, id: u32) -> Result<()> {
        let of = self.scene_of(table, id)?;
        if of == scene {
            return Ok(());
        }
        let other = read::scene(self.db(), of)?;
        let word = table.name();
        Err(StoreError::Refused(format!(
            "{word} {id} is of scene {} ({}); open that scene first",
            other.number, other.name
        )))
    }

    /// Sets the size of the stage.
    pub fn set_stage(&mut self, scene: u32, stage: &Stage) -> Result<()> {
        stage.check()?;
        self.update(Table::Scene, scene, &[("stage", column(stage))])
    }

    /// Sets how long the performance is.
    pub fn set_length(&mut self, scene: u32, length_s: f64) -> Result<()> {
        read::check_length(length_s)?;
        self.update(Table::Scene, scene, &[("length_s", Value::Real(length_s))])
    }

    /// Adds a performance in which everybody does what they do in another, and shows it.
    pub fn add_performance(&mut self, scene: u32, name: &str, like: u32) -> Result<u32> {
        let sql = "INSERT INTO performance (scene_id, ord, name, binned_at)
            SELECT ?1, coalesce(max(ord) + 1, 0), ?2, ?3 FROM performance WHERE scene_id = ?1";
        self.db().execute(sql, (scene, name, now()))?;
        let id = self.db().last_insert_rowid() as u32;
        self.update(Table::Performance, id, &[("binned_at", Value::Null)])?;
        for mut performer in self.performers(scene)? {
            if let Some(part) = performer.part(like).cloned() {
                performer.parts.push(rovnek_core::performer::Part { performance: id, ..part });
                self.put(&performer)?;
            }
        }
        for mut piece in self.pieces(scene)? {
            if let Some(route) = piece.route(like).cloned() {
                piece.routes.push(rovnek_core::set::PieceRoute { performance: id, route });
                self.put(&piece)?;
            }
        }
        self.show_performance(scene, id)?;
        Ok(id)
    }

    /// Chooses the performance that plays.
    pub fn show_performance(&mut self, scene: u32, id: u32) -> Result<()> {
        let sql = "SELECT count(*) FROM performance WHERE scene_id = ?1 AND id = ?2 AND binned_at IS NULL";
        let known: u32 = self.db().query_row(sql, (scene, id), |r| r.get(0))?;
        if known == 0 {
            return Err(StoreError::Missing("performance", id));
        }
        self.update(Table::Scene, scene, &[("performance_id", Value::Integer(id.into()))])
    }

    /// Puts a performance into the bin; another one plays then. The last one stays.
    pub fn bin_performance(&mut self, scene: u32, id: u32) -> Result<()> {
        let sql = "SELECT id FROM performance WHERE scene_id = ?1 AND id <> ?2 AND binned_at IS NULL ORDER BY ord LIMIT 1";
        let other: Option<u32> = self.db().query_row(sql, (scene, id), |r| r.get(0)).optional()?;
        let Some(other) = other else {
            return Err(StoreError::Refused("a scene needs a performance; add another one first".into()));
        };
        self.update(Table::Performance, id, &[("binned_at", Value::Text(now()))])?;
        let playing: u32 =
            self.db().query_row("SELECT performance_id FROM scene WHERE id = ?1", [scene], |r| r.get(0))?;
        if playing == id { self.show_performance(scene, other) } else { Ok(()) }
    }

    /// Names a performance.
    pub fn name_performance(&mut self, id: u32, name: &str) -> Result<()> {
        self.update(Table::Performance, id, &[("name", text(name))])
    }

    /// Sets the production's own lens sets.
    pub fn set_lens_sets(&mut self, sets: &[LensSet]) -> Result<()> {
        sets.iter().try_for_each(LensSet::check)?;
        self.update(Table::Production, 1, &[("lens_sets", column(&sets))])
    }

    /// Adds a setup at the end of the scene.
    pub fn add_setup(&mut self, scene: u32, name: &str, camera: &Camera, rig: &Rigging) -> Result<u32> {
        camera.check()?;
        rig.spec.check()?;
        let sql = "SELECT coalesce(max(ord) + 1, 0), count(*) FROM setup WHERE scene_id = ?1";
        let (ord, count): (u32, u32) = self.db().query_row(sql, [scene], |r| Ok((r.get(0)?, r.get(1)?)))?;
        self.db().execute(
            "INSERT INTO setup (scene_id, ord, letter, name, camera, rig, binned_at) VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7)",
            (scene, ord, letter(count as usize), name, column(camera), column(rig), now()),
        )?;
        let id = self.db().last_insert_rowid() as u32;
        self.update(Table::Setup, id, &[("binned_at", Value::Null)])?;
        self.follow_cards(scene)?;
        Ok(id)
    }

    /// Puts a setup's camera and machine in place. Where it is another kind of machine, the setup's
    /// moves keep the one they have, and none of them is run; stored positions go.
    pub fn place_setup(&mut self, id: u32, camera: &Camera, rig: &Rigging) -> Result<()> {
        camera.check()?;
        rig.spec.check()?;
        let old = read::setup(self.db(), id)?;
        if discriminant(&old.rig.spec) != discriminant(&rig.spec) {
            self.keep_machine(id, &old.camera, &old.rig)?;
            // What another machine's axes stood at says nothing of this one.
            self.store_positions(id, Vec::new())?;
        }
        self.update(Table::Setup, id, &[("camera", column(camera)), ("rig", column(rig))])?;
        let scene = self.scene_of(Table::Setup, id)?;
        self.bring_riders(scene, &old, &Setup { camera: camera.clone(), rig: rig.clone(), ..old.clone() })
    }

    /// Stores the positions of a setup's machine; in order of their numbers, each once.
    pub fn store_positions(&mut self, id: u32, mut positions: Vec<Position>) -> Result<()> {
        positions.sort_by_key(|p| p.number);
        let plain = positions.iter().all(|p| p.axes.values().all(|v| v.is_finite()));
        let twice = positions.windows(2).any(|w| w[0].number == w[1].number);
        if !plain || twice || positions.len() > 99 {
            let sentence = "at most 99 positions, each number once, of plain numbers";
            return Err(StoreError::Refused(sentence.into()));
        }
        self.update(Table::Setup, id, &[("positions", column(&positions))])
    }

    /// Puts a setup into the bin, or back. Its takes stay with it; the last setup stays.
    pub fn bin_setup(&mut self, scene: u32, id: u32, binned: bool) -> Result<()> {
        let sql = "SELECT count(*) FROM setup WHERE binned_at IS NULL AND id <> ?1 AND scene_id = ?2";
        let others: u32 = self.db().query_row(sql, [id, scene], |r| r.get(0))?;
        if binned && others == 0 {
            return Err(StoreError::Refused("a scene needs a setup; add another one first".into()));
        }
        let at = if binned { Value::Text(now()) } else { Value::Null };
        self.update(Table::Setup, id, &[("binned_at", at)])
    }

    /// Puts a setup of a scene, or a scene, before another one, or at the end.
    pub(crate) fn reorder(&mut self, table: Table, scene: u32, id: u32, before: Option<u32>) -> Result<()> {
        let sql = match table {
            Table::Scene => "SELECT id FROM scene WHERE ?1 ORDER BY ord, id",
            _ => "SELECT id FROM setup WHERE scene_id = ?1 ORDER BY ord, id",
        };
        let mut order = rows(self.db(), sql, scene, |r| Ok(r.get::<_, u32>(0)?))?;
        order.retain(|other| *other != id);
        let place = match before {
            None => order.len(),
            Some(before) => {
                order.iter().position(|o| *o == before).ok_or(StoreError::Missing(table.name(), before))?
            }
        };
        order.insert(place, id);
        for (ord, id) in (0i64..).zip(order) {
            self.update(table, id, &[("ord", Value::Integer(ord))])?;
        }
        Ok(())
    }

    /// Cameras that stay square to a card go where the card is; one that moves, or turns to a camera that
    /// does, carries them.
    pub(crate) fn follow_cards(&mut self, scene: u32) -> Result<()> {
        // Most scenes have none, and every edit asks.
        let any = "SELECT EXISTS (SELECT 1 FROM setup WHERE scene_id = ?1 AND rig LIKE '%square_to_card%')";
        if !self.db().query_row(any, [scene], |r| r.get::<_, bool>(0))? {
            return Ok(());
        }
        let setups = rows(self.db(), "SELECT * FROM setup WHERE scene_id = ?1", scene, setup_of)?;
        let pieces = self.pieces(scene)?;
        let sql = "SELECT performance_id FROM scene WHERE id = ?1";
        let performance: u32 = self.db().query_row(sql, [scene], |r| r.get(0))?;
        for setup in &setups {
            let RigSpec::SquareToCard(square) = &setup.rig.spec else { continue };
            let Some(card) = pieces.iter().find(|p| p.id == square.card) else { continue };
            let Form::Card { width, height, toward, .. } = card.form else { continue };
            let faced = toward.and_then(|id| setups.iter().find(|s| s.id == id && s.id != setup.id));
            let moves = card.moves(performance) || faced.is_some_and(|s| s.runs.is_some());
            let turn_deg = faced.map_or(card.turn_deg, |s| turned_to(card.position, start_of(s)));
            let (position, turn_deg) = if moves { ([0.0; 3], 0.0) } else { (card.position, turn_deg) };
            let spec = SquareToCard { card: square.card, position, turn_deg, size: [width, height] };
            let carried = moves.then_some(Carrier::Piece { id: card.id });
            let rig = Rigging { spec: RigSpec::SquareToCard(spec), carried };
            if rig != setup.rig {
                self.update(Table::Setup, setup.id, &[("rig", column(&rig))])?;
            }
        }
        Ok(())
    }

    pub(crate) fn pieces(&self, scene: u32) -> Result<Vec<Piece>> {
        rows(self.db(), PIECES, scene, piece_of)
    }

    pub(crate) fn performers(&self, scene: u32) -> Result<Vec<Performer>> {
        rows(self.db(), PERFORMERS, scene, performer_of)
    }
}

/// Place of a setup's camera at the machine's start.
fn start_of(setup: &Setup) -> [f64; 3] {
    let rig = setup.rig.build(&setup.camera);
    let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
    rig.forward(&start).camera.position.to_array()
}
