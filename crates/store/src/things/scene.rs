//! A scene as a thing: what is edited of it field by field.

use super::{At, Column, Missing, Owner, Thing, column};
use crate::edit::history::Edit;
use crate::edit::operations::name;
use crate::model::SceneHead;
use crate::rows::column::column as params;
use crate::rows::read;
use crate::{Result, StoreError};
use rovnek_core::ids::{SceneId, ThingKind};
use rovnek_core::set::Stage;
use rovnek_core::time::Rate;
use rusqlite::Connection;
use rusqlite::types::Value;
use serde::Deserialize;

/// A new scene: an empty stage, or all that another one has.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct NewScene {
    number: String,
    name: String,
    #[serde(default)]
    like: Option<SceneId>,
    /// With the takes of that one.
    #[serde(default)]
    takes: bool,
}

impl Thing for SceneHead {
    const EDITED: &'static [&'static str] =
        &["number", "name", "rate", "length_s", "start_frame", "stage", "performance", "binned"];
    const COLUMNS: &'static [Column] = &[
        column::params::<Stage>("stage"),
        column::id_of("performance_id", ThingKind::Performance, Missing::Refused),
    ];
    const OWNER: Owner = Owner::Production;
    const ORDER: &'static str = "t.ord, t.id";
    const REORDERED: bool = true;
    const NAME: &'static str = "'scene ' || t.number";

    fn read(db: &Connection, id: u32) -> Result<SceneHead> {
        Ok(read::scene(db, SceneId(id))?.head)
    }

    fn write(edit: &mut Edit, at: At, was: &SceneHead, now: &SceneHead) -> Result<()> {
        let id: SceneId = at.id();
        if was.number != now.number {
            name("the scene number", &now.number)?;
            edit.free_number(&now.number, id)?;
            edit.update(id, &[("number", Value::Text(now.number.clone()))])?;
        }
        if was.name != now.name {
            name("the scene", &now.name)?;
            edit.update(id, &[("name", Value::Text(now.name.clone()))])?;
        }
        if was.rate != now.rate {
            edit.set_rate(id, now.rate)?;
        }
        if was.length_s != now.length_s {
            edit.set_length(id, now.length_s)?;
        }
        if was.start_frame != now.start_frame {
            edit.update(id, &[("start_frame", Value::Integer(now.start_frame.into()))])?;
        }
        if was.stage != now.stage {
            edit.set_stage(id, &now.stage)?;
        }
        if was.binned != now.binned {
            edit.bin_scene(at.scene, id, now.binned)?;
        }
        if was.performance != now.performance {
            edit.show_performance(id, now.performance)?;
        }
        Ok(())
    }

    fn add(edit: &mut Edit, _: SceneId, path: &str, value: &serde_json::Value) -> Result<u32> {
        let new: NewScene = serde_json::from_value(value.clone())
            .map_err(|e| StoreError::Refused(format!("{path} cannot be so: {e}")))?;
        Ok(edit.add_scene(&new.number, &new.name, new.like, new.takes)?.0)
    }

    fn bin(edit: &mut Edit, at: At) -> Result<()> {
        edit.bin_scene(at.scene, at.id(), true)
    }
}

impl Edit<'_> {
    /// Sets the frame rate of a scene.
    pub fn set_rate(&mut self, scene: SceneId, rate: Rate) -> Result<()> {
        let rate = Rate::new(rate.num, rate.den).map_err(|e| StoreError::Refused(e.to_string()))?;
        let columns =
            [("rate_num", Value::Integer(rate.num.into())), ("rate_den", Value::Integer(rate.den.into()))];
        self.update(scene, &columns)
    }

    /// Sets how long the performance is.
    pub fn set_length(&mut self, scene: SceneId, length_s: f64) -> Result<()> {
        read::check_length(length_s)?;
        self.update(scene, &[("length_s", Value::Real(length_s))])
    }

    /// Sets the size of the stage.
    pub fn set_stage(&mut self, scene: SceneId, stage: &Stage) -> Result<()> {
        stage.check()?;
        self.update(scene, &[("stage", params(stage))])
    }
}
