//! The scenes of a production: which one is worked on, and how they come, go and are ordered.

use crate::copy::copies::Parcel;
use crate::edit::history::Edit;
use crate::edit::operations::name;
use crate::model::{NewScene, Scene, SceneHead, SceneLine};
use crate::rows::column::column;
use crate::rows::read;
use crate::rows::reader::Reader;
use crate::things::kept;
use crate::{Result, Store, StoreError, now};
use rovnek_core::ids::SceneId;
use rovnek_core::time::Rate;
use rusqlite::types::Value;
use rusqlite::{Connection, OptionalExtension};

/// Scenes of a production, at the most.
const MOST: u32 = 500;

/// What is remembered between runs.
const REMEMBERED: &str = "scene";

impl Store {
    /// The scene that is worked on; 0 before there is any.
    pub fn scene(&self) -> SceneId {
        self.scene.get()
    }

    /// Another scene is worked on from now on, also after a restart. Not an edit.
    pub fn turn_to(&mut self, scene: SceneId) -> Result<()> {
        let sql = "SELECT binned_at IS NOT NULL FROM scene WHERE id = ?1";
        match self.connection.query_row(sql, [scene.0], |r| r.get(0)).optional()? {
            None => return Err(StoreError::Missing("scene", scene.0)),
            Some(true) => return Err(refused("that scene is in the bin; take it back first")),
            Some(false) => {}
        }
        self.remember(REMEMBERED, &scene.to_string())?;
        self.look_at(scene);
        Ok(())
    }

    /// The document is that of another scene from now on; nothing is remembered.
    pub fn look_at(&self, scene: SceneId) {
        self.scene.set(scene);
        self.read.forget();
    }

    /// The scene that was worked on last; where that is gone, the first there is.
    pub(crate) fn turn_to_last_scene(&self) -> Result<()> {
        let last: u32 = self.remembered(REMEMBERED).and_then(|s| s.parse().ok()).unwrap_or(0);
        let sql = "SELECT id FROM scene ORDER BY binned_at IS NOT NULL, id <> ?1, ord, id LIMIT 1";
        let found: Option<u32> = self.connection.query_row(sql, [last], |r| r.get(0)).optional()?;
        self.look_at(SceneId(found.unwrap_or(0)));
        Ok(())
    }
}

impl Reader {
    /// The scenes of the production in their order, binned ones too.
    pub fn scenes(&self) -> Result<Vec<SceneLine>> {
        lines(self.db())
    }
}

fn refused(sentence: impl Into<String>) -> StoreError {
    StoreError::Refused(sentence.into())
}

/// The slate's letter for a setup: A … Z, then AA …; I and O look like numbers and are left out.
pub(crate) fn letter(ord: usize) -> String {
    const LETTERS: &[u8] = b"ABCDEFGHJKLMNPQRSTUVWXYZ";
    let last = LETTERS[ord % LETTERS.len()] as char;
    if ord < LETTERS.len() { last.to_string() } else { letter(ord / LETTERS.len() - 1) + &last.to_string() }
}

/// All scenes in their order, binned ones too.
pub(crate) fn lines(db: &Connection) -> Result<Vec<SceneLine>> {
    let sql = "SELECT s.id, s.number, s.name, s.rate_num, s.rate_den, s.length_s, s.binned_at IS NOT NULL,
        (SELECT count(*) FROM setup u WHERE u.scene_id = s.id AND u.binned_at IS NULL),
        (SELECT count(*) FROM take t JOIN setup u ON u.id = t.setup_id
          WHERE u.scene_id = s.id AND t.binned_at IS NULL AND t.pass_of IS NULL)
        FROM scene s WHERE s.production_id = ?1 ORDER BY s.ord, s.id";
    read::rows(db, sql, 1, |r| {
        Ok(SceneLine {
            id: SceneId(r.get(0)?),
            number: r.get(1)?,
            name: r.get(2)?,
            rate: Rate { num: r.get(3)?, den: r.get(4)? },
            length_s: r.get(5)?,
            binned: r.get(6)?,
            setups: r.get(7)?,
            takes: r.get(8)?,
        })
    })
}

/// Writes a scene's rows; its number. Pieces and performers that others refer to come with theirs,
/// which only a new database can give them.
pub(crate) fn insert(db: &Connection, new: &NewScene) -> Result<SceneId> {
    let scene = &new.scene;
    db.execute(
        "INSERT INTO scene
           (production_id, ord, number, name, rate_num, rate_den, length_s, start_frame, stage, performance_id)
         SELECT 1, coalesce(max(ord) + 1, 0), ?1, ?2, ?3, ?4, ?5, ?6, ?7, 0 FROM scene",
        (
            &scene.number,
            &scene.name,
            scene.rate.num,
            scene.rate.den,
            scene.length_s,
            scene.start_frame,
            column(&scene.stage),
        ),
    )?;
    let id = db.last_insert_rowid() as u32;
    let first = id == 1;
    for (ord, performance) in scene.performances.iter().enumerate() {
        let sql = "INSERT INTO performance (id, scene_id, ord, name) VALUES (?1, ?2, ?3, ?4)";
        db.execute(sql, (first.then_some(performance.id.0), id, ord as u32, &performance.name))?;
        if !first || performance.id == scene.performance {
            let sql = "UPDATE scene SET performance_id = ?2 WHERE id = ?1";
            db.execute(sql, (id, db.last_insert_rowid()))?;
        }
    }
    let own = |id: u32| (first && id > 0).then_some(id);
    for (ord, piece) in scene.pieces.iter().enumerate() {
        let kept = kept(piece);
        let sql = "INSERT INTO piece (id, scene_id, ord, params) VALUES (?1, ?2, ?3, ?4)";
        db.execute(sql, (own(piece.id.0), id, ord as u32, kept))?;
    }
    for (ord, performer) in scene.performers.iter().enumerate() {
        let kept = kept(performer);
        let sql = "INSERT INTO performer (id, scene_id, ord, params) VALUES (?1, ?2, ?3, ?4)";
        db.execute(sql, (own(performer.id.0), id, ord as u32, kept))?;
    }
    for (ord, setup) in new.setups.iter().enumerate() {
        let sql =
            "INSERT INTO setup (scene_id, ord, letter, name, camera, rig) VALUES (?1, ?2, ?3, ?4, ?5, ?6)";
        let (camera, rig) = (column(&setup.camera), column(&setup.rig));
        db.execute(sql, (id, ord as u32, letter(ord), &setup.name, camera, rig))?;
    }
    Ok(SceneId(id))
}

impl Edit<'_> {
    /// Adds a scene at the end; its id. A new one is an empty stage; one that is `like` another has all
    /// that this has, without its takes or with them.
    pub(crate) fn add_scene(
        &mut self,
        number: &str,
        title: &str,
        like: Option<SceneId>,
        takes: bool,
    ) -> Result<SceneId> {
        name("the scene number", number)?;
        name("the scene", title)?;
        self.free_number(number, SceneId(0))?;
        if self.db().query_row("SELECT count(*) FROM scene", [], |r| r.get::<_, u32>(0))? >= MOST {
            return Err(refused(format!("a production has at most {MOST} scenes")));
        }
        let id = match like {
            None => {
                let empty = NewScene::empty("");
                let head = SceneHead { number: number.into(), name: title.into(), ..empty.scene.head };
                let scene = Scene { head, ..empty.scene };
                insert(self.db(), &NewScene { scene, ..empty })?
            }
            Some(like) => {
                read::scene(self.db(), like)?;
                let id = Parcel::of_scene(self.db(), like, takes)?.write(self.db())?;
                let id = SceneId(id);
                let sql = "UPDATE scene SET number = ?2, name = ?3,
                    ord = (SELECT max(ord) + 1 FROM scene) WHERE id = ?1";
                self.db().execute(sql, (id.0, number, title))?;
                id
            }
        };
        // It begins in the bin, so that undo puts it there.
        self.db().execute("UPDATE scene SET binned_at = ?2 WHERE id = ?1", (id.0, now()))?;
        self.update(id, &[("binned_at", Value::Null)])?;
        Ok(id)
    }

    /// Refuses a number on the slate that another scene has.
    pub(crate) fn free_number(&self, number: &str, of: SceneId) -> Result<()> {
        let sql = "SELECT name FROM scene WHERE number = ?1 AND id <> ?2 AND binned_at IS NULL";
        let taken: Option<String> = self.db().query_row(sql, (number, of.0), |r| r.get(0)).optional()?;
        match taken {
            None => Ok(()),
            Some(other) => {
                Err(refused(format!("scene {number} is there already ({other}); give another number")))
            }
        }
    }

    /// Puts a scene into the bin, or back. The one that is worked on stays.
    pub(crate) fn bin_scene(&mut self, on: SceneId, id: SceneId, binned: bool) -> Result<()> {
        if binned && on == id {
            return Err(refused("that scene is on the floor; open another one first"));
        }
        let number = read::scene(self.db(), id)?.head.number;
        if binned {
            return self.bin(id);
        }
        self.free_number(&number, id)?;
        self.update(id, &[("binned_at", Value::Null)])
    }
}
