//! Setups: a camera on a machine.

use super::{At, Column, Missing, Owner, Table, Thing, column};
use crate::edit::history::Edit;
use crate::edit::operations::{name, typed};
use crate::edit::scenes::letter;
use crate::model::Setup;
use crate::rows::column::column as params;
use crate::rows::read;
use crate::rows::read::{camera_of, checked, in_row, one, rig_of};
use crate::{Result, StoreError, now};
use rovnek_core::ids::{Id, MoveId, SceneId, SetupId, ThingKind};
use rovnek_core::keys::Position;
use rovnek_core::lens::Camera;
use rovnek_core::rigs::Rigging;
use rovnek_core::tracked::Tracking;
use rusqlite::types::Value;
use rusqlite::{Connection, Row};
use std::mem::discriminant;

impl Thing for Setup {
    const EDITED: &'static [&'static str] =
        &["name", "camera", "rig", "positions", "runs", "tracking", "binned"];
    const COLUMNS: &'static [Column] = &[
        column::id_of("scene_id", ThingKind::Scene, Missing::Refused),
        column::id_of("runs", ThingKind::Move, Missing::Cleared),
        column::params::<Camera>("camera"),
        column::params::<Rigging>("rig"),
        column::params::<Vec<Position>>("positions"),
        column::params::<Tracking>("tracking"),
    ];
    const OWNER: Owner = Owner::Scene;
    const ORDER: &'static str = "t.ord, t.id";
    const REORDERED: bool = true;
    const NAME: &'static str = "'setup ' || t.letter || ', ' || t.name";

    fn read(db: &Connection, id: u32) -> Result<Setup> {
        in_row(Table::Setup, id, one(db, "setup", "SELECT * FROM setup WHERE id = ?1", id, setup_of))
    }

    fn write(edit: &mut Edit, at: At, was: &Setup, now: &Setup) -> Result<()> {
        let id: SetupId = at.id();
        if was.name != now.name {
            name("the setup", &now.name)?;
            edit.update(id, &[("name", Value::Text(now.name.clone()))])?;
        }
        if was.camera != now.camera || was.rig != now.rig {
            edit.place_setup(id, &now.camera, &now.rig)?;
        }
        if was.positions != now.positions {
            edit.store_positions(id, now.positions.clone())?;
        }
        if was.runs != now.runs {
            edit.run(id, now.runs)?;
        }
        if was.tracking != now.tracking {
            edit.set_tracking(id, &now.tracking)?;
        }
        if was.binned != now.binned {
            edit.bin_setup(at.scene, id, now.binned)?;
        }
        Ok(())
    }

    fn add(edit: &mut Edit, scene: SceneId, path: &str, value: &serde_json::Value) -> Result<u32> {
        let new: Setup = typed(path, value)?;
        edit.check_new(scene, &new)?;
        name("the setup", &new.name)?;
        if new.runs.is_some() {
            let sentence = "a new setup has no move to run yet; add the move afterwards";
            return Err(StoreError::Refused(sentence.into()));
        }
        let id = edit.add_setup(scene, &new.name, &new.camera, &new.rig)?;
        edit.store_positions(id, new.positions)?;
        edit.set_tracking(id, &new.tracking)?;
        if new.binned {
            edit.bin_setup(scene, id, true)?;
        }
        Ok(id.number())
    }

    fn bin(edit: &mut Edit, at: At) -> Result<()> {
        edit.bin_setup(at.scene, at.id(), true)
    }
}

pub(crate) fn setup_of(row: &Row) -> Result<Setup> {
    let json = |name: &str| row.get::<_, String>(name);
    Ok(Setup {
        id: SetupId(row.get("id")?),
        letter: row.get("letter")?,
        name: row.get("name")?,
        camera: camera_of(&json("camera")?)?,
        rig: rig_of(&json("rig")?)?,
        positions: crate::rows::column::from_column("positions", &json("positions")?)?,
        runs: row.get::<_, Option<u32>>("runs")?.map(MoveId),
        tracking: checked(
            crate::rows::column::from_column("tracking", &json("tracking")?)?,
            Tracking::check,
        )?,
        binned: row.get::<_, Option<String>>("binned_at")?.is_some(),
    })
}

impl Edit<'_> {
    /// Adds a setup at the end of the scene.
    pub fn add_setup(
        &mut self,
        scene: SceneId,
        name: &str,
        camera: &Camera,
        rig: &Rigging,
    ) -> Result<SetupId> {
        camera.check()?;
        rig.spec.check()?;
        let sql = "SELECT coalesce(max(ord) + 1, 0), count(*) FROM setup WHERE scene_id = ?1";
        let (ord, count): (u32, u32) = self.db().query_row(sql, [scene.0], |r| Ok((r.get(0)?, r.get(1)?)))?;
        self.db().execute(
            "INSERT INTO setup (scene_id, ord, letter, name, camera, rig, binned_at) VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7)",
            (scene.0, ord, letter(count as usize), name, params(camera), params(rig), now()),
        )?;
        let id = SetupId(self.db().last_insert_rowid() as u32);
        self.update(id, &[("binned_at", Value::Null)])?;
        self.follow_cards(scene)?;
        Ok(id)
    }

    /// Puts a setup's camera and machine in place. Where it is another kind of machine, the setup's
    /// moves keep the one they have, and none of them is run; stored positions go.
    pub fn place_setup(&mut self, id: SetupId, camera: &Camera, rig: &Rigging) -> Result<()> {
        camera.check()?;
        rig.spec.check()?;
        let old = read::setup(self.db(), id)?;
        if discriminant(&old.rig.spec) != discriminant(&rig.spec) {
            self.keep_machine(id, &old.camera, &old.rig)?;
            // What another machine's axes stood at says nothing of this one.
            self.store_positions(id, Vec::new())?;
        }
        self.update(id, &[("camera", params(camera)), ("rig", params(rig))])?;
        let scene = self.scene_of(id)?;
        self.bring_riders(scene, &old, &Setup { camera: camera.clone(), rig: rig.clone(), ..old.clone() })
    }

    /// Stores the positions of a setup's machine; in order of their numbers, each once.
    pub fn store_positions(&mut self, id: SetupId, mut positions: Vec<Position>) -> Result<()> {
        positions.sort_by_key(|p| p.number);
        let plain = positions.iter().all(|p| p.axes.values().all(|v| v.is_finite()));
        let twice = positions.windows(2).any(|w| w[0].number == w[1].number);
        if !plain || twice || positions.len() > 99 {
            let sentence = "at most 99 positions, each number once, of plain numbers";
            return Err(StoreError::Refused(sentence.into()));
        }
        self.update(id, &[("positions", params(&positions))])
    }

    /// Sets the device that may move a setup's camera.
    fn set_tracking(&mut self, setup: SetupId, tracking: &Tracking) -> Result<()> {
        tracking.check()?;
        self.update(setup, &[("tracking", params(tracking))])
    }

    /// Puts a setup into the bin, or back. Its takes stay with it; the last setup stays.
    pub fn bin_setup(&mut self, scene: SceneId, id: SetupId, binned: bool) -> Result<()> {
        let sql = "SELECT count(*) FROM setup WHERE binned_at IS NULL AND id <> ?1 AND scene_id = ?2";
        let others: u32 = self.db().query_row(sql, [id.0, scene.0], |r| r.get(0))?;
        if binned && others == 0 {
            return Err(StoreError::Refused("a scene needs a setup; add another one first".into()));
        }
        if binned { self.bin(id) } else { self.update(id, &[("binned_at", Value::Null)]) }
    }
}
