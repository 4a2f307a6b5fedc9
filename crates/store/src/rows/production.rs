//! A production begun, and its bin emptied.

use crate::edit::scenes;
use crate::model::NewScene;
use crate::rows::moves;
use crate::things::Table;
use crate::{Result, Store};

impl Store {
    /// True if nothing has been put in yet.
    pub fn is_new(&self) -> Result<bool> {
        Ok(self.connection.query_row("SELECT count(*) = 0 FROM scene", [], |r| r.get(0))?)
    }

    /// Puts a scene into a new database. Not an edit: there is nothing before it to go back to.
    pub fn begin(&mut self, new: &NewScene) -> Result<()> {
        new.check()?;
        let tx = self.connection.transaction()?;
        tx.execute("INSERT INTO production (id, name) VALUES (1, ?1)", [&new.production])?;
        scenes::insert(&tx, new)?;
        tx.commit()?;
        self.turn_to_last_scene()
    }

    /// Removes the binned takes of the scene that is worked on with their samples and moves, and its
    /// binned moves, for good; how many takes. A take that a move still follows stays.
    pub fn empty_bin(&mut self) -> Result<usize> {
        self.still_there()?;
        let scene = self.scene();
        let tx = self.connection.transaction()?;
        // Passes go with the take below, and before it.
        let sql = "SELECT t.id FROM take t LEFT JOIN take below ON below.id = t.pass_of
            JOIN setup s ON s.id = t.setup_id
            WHERE s.scene_id = ?1 AND (t.binned_at IS NOT NULL OR below.binned_at IS NOT NULL) AND NOT t.rolling
              AND NOT EXISTS (SELECT 1 FROM take p WHERE p.pass_of = t.id AND p.rolling)
              AND NOT EXISTS (SELECT 1 FROM move f JOIN move m ON m.id = f.follows
                WHERE m.take_id = t.id AND f.binned_at IS NULL)
            ORDER BY t.pass_of IS NULL";
        let ids: Vec<u32> =
            tx.prepare(sql)?.query_map([scene.0], |r| r.get(0))?.collect::<rusqlite::Result<_>>()?;
        let moves = moves::empty(&tx, scene, &ids)?;
        for id in &ids {
            tx.execute("DELETE FROM take_chunk WHERE take_id = ?1", [id])?;
            tx.execute("DELETE FROM take_packets WHERE take_id = ?1", [id])?;
            tx.execute("DELETE FROM picture WHERE of = 'take' AND id = ?1", [id])?;
            tx.execute("DELETE FROM take WHERE id = ?1", [id])?;
        }
        Store::forget(&tx, Table::Take, &ids)?;
        Store::forget(&tx, Table::Move, &moves)?;
        tx.commit()?;
        self.read.forget();
        Ok(ids.len())
    }
}
