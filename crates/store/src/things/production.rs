//! The production as a thing: its name and its own lens sets.

use super::{At, Column, Owner, RowId, Thing, column};
use crate::edit::history::Edit;
use crate::edit::operations::name;
use crate::rows::column::{column, text};
use crate::rows::read::{checked, in_row, one};
use crate::{Result, StoreError};
use rovnek_core::lens::LensSet;
use rusqlite::Connection;
use serde::{Deserialize, Serialize};

/// What a production says of itself.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Production {
    /// Name of the production.
    pub name: String,
    /// The production's own lens sets.
    pub lens_sets: Vec<LensSet>,
}

impl Thing for Production {
    const EDITED: &'static [&'static str] = &["name", "lens_sets"];
    const COLUMNS: &'static [Column] = &[column::params::<Vec<LensSet>>("lens_sets")];
    const OWNER: Owner = Owner::Production;
    const ORDER: &'static str = "t.id";
    const NAME: &'static str = "t.name";

    fn read(db: &Connection, id: u32) -> Result<Production> {
        let read = one(db, "production", "SELECT name, lens_sets FROM production WHERE id = ?1", id, |r| {
            let sets: Vec<LensSet> = crate::rows::column::from_column("lens set", &r.get::<_, String>(1)?)?;
            let lens_sets = checked(sets, |sets| sets.iter().try_for_each(LensSet::check))?;
            Ok(Production { name: r.get(0)?, lens_sets })
        });
        in_row(RowId::PRODUCTION.table, id, read)
    }

    fn write(edit: &mut Edit, _: At, was: &Production, now: &Production) -> Result<()> {
        if was.name != now.name {
            name("the production", &now.name)?;
            edit.name_production(&now.name)?;
        }
        if was.lens_sets != now.lens_sets {
            edit.set_lens_sets(&now.lens_sets)?;
        }
        Ok(())
    }

    fn bin(_: &mut Edit, _: At) -> Result<()> {
        Err(StoreError::Refused("/production cannot be removed".into()))
    }
}

impl Edit<'_> {
    /// Sets the production's name.
    pub fn name_production(&mut self, name: &str) -> Result<()> {
        self.update(RowId::PRODUCTION, &[("name", text(name))])
    }

    /// Sets the production's own lens sets.
    pub fn set_lens_sets(&mut self, sets: &[LensSet]) -> Result<()> {
        sets.iter().try_for_each(LensSet::check)?;
        self.update(RowId::PRODUCTION, &[("lens_sets", column(&sets))])
    }
}
