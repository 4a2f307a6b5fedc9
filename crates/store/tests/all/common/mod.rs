//! What the tests of the store begin with.
#![allow(dead_code)]

use rovnek_core::ids::SceneId;
use rovnek_store::edit::history::Step;
use rovnek_store::edit::patch::{Names, Op};
use rovnek_store::model::{NewScene, Scene, SceneHead};
use rovnek_store::{Result, Store};
use serde_json::Value;

/// The production's file in a folder.
pub fn file_in(folder: &tempfile::TempDir) -> std::path::PathBuf {
    folder.path().join("rovnek.sqlite")
}

/// A yard with nothing and nobody in it.
pub fn yard() -> Scene {
    let empty = NewScene::empty("").scene;
    Scene { head: SceneHead { name: "Yard".into(), length_s: 10.0, ..empty.head }, ..empty }
}

/// Takes the newest edit back; its label, or none when there is nothing to undo.
pub fn undo(store: &mut Store) -> Option<String> {
    store.step(Step::Undo, None).unwrap().map(|stepped| stepped.label)
}

/// Does the edit that was undone last again.
pub fn redo(store: &mut Store) -> Option<String> {
    store.step(Step::Redo, None).unwrap().map(|stepped| stepped.label)
}

/// Does operations as one edit; the numbers of what was new.
pub fn edit(store: &mut Store, ops: Value) -> Result<Names> {
    let ops: Vec<Op> = serde_json::from_value(ops).unwrap();
    let mut names = Names::new();
    let mut edit = store.edit("edit", None)?;
    edit.apply(SceneId(1), &ops, &mut names)?;
    edit.commit()?;
    Ok(names)
}

/// Why something was refused.
pub fn said<T: std::fmt::Debug>(refused: Result<T>) -> String {
    refused.unwrap_err().to_string()
}
