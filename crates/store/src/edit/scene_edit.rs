//! Edits that concern several kinds of things: their bin, their order, their scene, cards that cameras follow.

use crate::edit::history::Edit;
use crate::model::Setup;
use crate::rows::column::column;
use crate::rows::read;
use crate::rows::read::rows;
use crate::things::{Owner, RowId, Table, all};
use crate::{Result, StoreError, now};
use rovnek_core::carrier::Carrier;
use rovnek_core::ids::{PerformanceId, SceneId};
use rovnek_core::performer::Performer;
use rovnek_core::rigs::{RigSpec, Rigging, SquareToCard};
use rovnek_core::set::{Form, Piece, turned_to};
use rusqlite::OptionalExtension;
use rusqlite::types::Value;

impl Edit<'_> {
    /// Puts a row into the bin.
    pub(crate) fn bin(&mut self, row: impl Into<RowId>) -> Result<()> {
        self.update(row, &[("binned_at", Value::Text(now()))])
    }

    /// The scene that a row belongs to.
    pub(crate) fn scene_of(&self, row: impl Into<RowId>) -> Result<SceneId> {
        let RowId { table, id } = row.into();
        let name = table.name();
        let Some(thing) = table.thing() else { return self.scene_of(read::owner(self.db(), id)?) };
        let sql = match thing.owner {
            Owner::Production => "SELECT id FROM scene WHERE id = ?1".into(),
            Owner::Setup => {
                format!("SELECT s.scene_id FROM {name} t JOIN setup s ON s.id = t.setup_id WHERE t.id = ?1")
            }
            Owner::Scene if thing.lists_binned => format!("SELECT scene_id FROM {name} WHERE id = ?1"),
            Owner::Scene => format!("SELECT scene_id FROM {name} WHERE id = ?1 AND binned_at IS NULL"),
        };
        let found = self.db().prepare_cached(&sql)?.query_row([id], |r| r.get(0)).optional()?;
        found.map(SceneId).ok_or(StoreError::Missing(name, id))
    }

    /// Refuses what is of another scene, with the way there.
    pub(crate) fn must_be_of(&self, scene: SceneId, row: impl Into<RowId>) -> Result<()> {
        let row = row.into();
        let of = self.scene_of(row)?;
        if of == scene {
            return Ok(());
        }
        let other = read::scene(self.db(), of)?;
        let word = row.table.name();
        Err(StoreError::Refused(format!(
            "{word} {} is of scene {} ({}); open that scene first",
            row.id, other.number, other.name
        )))
    }

    /// Puts a thing of a scene, or a scene, before another one, or at the end.
    pub(crate) fn reorder(&mut self, scene: SceneId, row: RowId, before: Option<u32>) -> Result<()> {
        let RowId { table, id } = row;
        let mut order = match table {
            Table::Scene => {
                rows(self.db(), "SELECT id FROM scene WHERE ?1 ORDER BY ord, id", 1, |r| Ok(r.get(0)?))?
            }
            table => table.ids(self.db(), scene)?,
        };
        order.retain(|other| *other != id);
        let place = match before {
            None => order.len(),
            Some(before) => {
                order.iter().position(|o| *o == before).ok_or(StoreError::Missing(table.name(), before))?
            }
        };
        order.insert(place, id);
        for (ord, id) in (0i64..).zip(order) {
            self.update(RowId::new(table, id), &[("ord", Value::Integer(ord))])?;
        }
        Ok(())
    }

    /// Cameras that stay square to a card go where the card is; one that moves, or turns to a camera that
    /// does, carries them.
    pub(crate) fn follow_cards(&mut self, scene: SceneId) -> Result<()> {
        // Most scenes have none, and every edit asks.
        let any = "SELECT EXISTS (SELECT 1 FROM setup WHERE scene_id = ?1 AND rig LIKE '%square_to_card%')";
        if !self.db().query_row(any, [scene.0], |r| r.get::<_, bool>(0))? {
            return Ok(());
        }
        let setups = read::setups(self.db(), scene)?;
        let pieces = self.pieces(scene)?;
        let sql = "SELECT performance_id FROM scene WHERE id = ?1";
        let performance = PerformanceId(self.db().query_row(sql, [scene.0], |r| r.get(0))?);
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
                self.update(setup.id, &[("rig", column(&rig))])?;
            }
        }
        Ok(())
    }

    pub(crate) fn pieces(&self, scene: SceneId) -> Result<Vec<Piece>> {
        all(self.db(), scene)
    }

    pub(crate) fn performers(&self, scene: SceneId) -> Result<Vec<Performer>> {
        all(self.db(), scene)
    }
}

/// Place of a setup's camera at the machine's start.
fn start_of(setup: &Setup) -> [f64; 3] {
    let rig = setup.rig.build(&setup.camera);
    let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
    rig.forward(&start).camera.position.to_array()
}
