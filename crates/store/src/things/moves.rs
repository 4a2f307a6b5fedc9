//! Moves as things: what an edit may change of one.

use super::{At, Column, Missing, Owner, Table, Thing, column};
use crate::edit::history::Edit;
use crate::edit::operations::{line, typed};
use crate::model::{Move, NewMove};
use crate::rows::read::{in_row, move_of, one};
use crate::{Result, StoreError};
use rovnek_core::ids::{Id, MoveId, SceneId, ThingKind};
use rovnek_core::lens::Camera;
use rovnek_core::list::List;
use rovnek_core::rigs::Rigging;
use rovnek_core::treatments::Treatment;
use rusqlite::Connection;
use rusqlite::types::Value;

impl Thing for Move {
    const EDITED: &'static [&'static str] =
        &["name", "performance", "chosen", "curves", "treatments", "camera", "binned"];
    const COLUMNS: &'static [Column] = &[
        column::id_of("setup_id", ThingKind::Setup, Missing::Refused),
        // A move without its take, or without the one that it follows, is none.
        column::id_of("take_id", ThingKind::Take, Missing::Refused),
        column::id_of("follows", ThingKind::Move, Missing::Refused),
        column::id_of("performance_id", ThingKind::Performance, Missing::Cleared),
        column::id_of("variant_of", ThingKind::Move, Missing::Cleared),
        column::params::<List<Treatment>>("treatments"),
        column::params::<Camera>("camera"),
        column::params::<Rigging>("rig"),
    ];
    const OWNER: Owner = Owner::Setup;
    const ORDER: &'static str = "t.id";
    const NAME: &'static str = "coalesce(nullif(t.name, ''), 'a move') || ' of setup ' ||
        (SELECT s.letter FROM setup s WHERE s.id = t.setup_id)";

    fn read(db: &Connection, id: u32) -> Result<Move> {
        let sql = "SELECT * FROM move WHERE id = ?1";
        in_row(Table::Move, id, one(db, "move", sql, id, |row| move_of(db, row)))
    }

    fn write(edit: &mut Edit, at: At, was: &Move, now: &Move) -> Result<()> {
        let id: MoveId = at.id();
        if was.name != now.name {
            line("the name of the move", &now.name, 0, 120)?;
            edit.update(id, &[("name", Value::Text(now.name.clone()))])?;
        }
        if was.performance != now.performance {
            edit.play_against(at.scene, id, now.performance)?;
        }
        if was.curves != now.curves {
            if was.take().is_some() {
                let sentence = "a take is not keyed; make keys of it, they become a move of their own";
                return Err(StoreError::Refused(sentence.into()));
            }
            edit.write_curves(id, &was.curves, &now.curves)?;
        }
        if was.treatments != now.treatments {
            edit.treat(id, &now.treatments)?;
        }
        if was.camera != now.camera {
            edit.own(id, now.camera.as_ref(), was.rig.as_ref())?;
        }
        if was.chosen != now.chosen {
            if !now.chosen {
                let sentence = "one of the variants is shown; choose another one instead";
                return Err(StoreError::Refused(sentence.into()));
            }
            edit.choose(id)?;
        }
        if was.binned != now.binned {
            edit.bin_move(id, now.binned)?;
        }
        Ok(())
    }

    fn add(edit: &mut Edit, scene: SceneId, path: &str, value: &serde_json::Value) -> Result<u32> {
        let new: NewMove = typed(path, value)?;
        edit.check_new(scene, &new)?;
        line("the name of the move", &new.name, 0, 120)?;
        edit.must_be_of(scene, new.setup_id)?;
        if let Some(performance) = new.performance {
            edit.must_play(scene, performance)?;
        }
        if let Some(like) = new.variant_of {
            edit.must_be_of(scene, like)?;
        }
        Ok(edit.add_move(&new)?.number())
    }

    fn bin(edit: &mut Edit, at: At) -> Result<()> {
        edit.bin_move(at.id(), true)
    }
}
