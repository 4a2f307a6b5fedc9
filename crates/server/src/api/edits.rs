//! The one route that changes the document, and the way back.

use super::App;
use crate::app::{Writing, paths_of};
use crate::document::snapshot::Changed;
use crate::document::written::Clash;
use crate::http::problem::{Outcome, Problem};
use crate::http::sent::Json;
use rocket::post;
use rovnek_core::ids::SceneId;
use rovnek_live::command::RollState;
use rovnek_store::StoreError;
use rovnek_store::edit::history::Step;
use rovnek_store::edit::operations::name;
use rovnek_store::edit::patch::{Names, Op, tokens};
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use ts_rs::TS;

/// Edits of a page, done in order until one is refused.
#[derive(Deserialize, TS)]
pub struct Edits {
    /// Any word that is the page's own.
    pub page: String,
    /// The scene whose things they are.
    pub scene: SceneId,
    /// Edits, in order.
    pub edits: Vec<Edit>,
}

/// Edit that undo takes back as one.
#[derive(Deserialize, TS)]
#[ts(optional_fields)]
pub struct Edit {
    /// Label for undo.
    pub label: String,
    /// Edits in a row with the same gesture are undone together.
    pub gesture: Option<String>,
    /// The revision of the document it was made from; paths that another page wrote since are
    /// refused. None: whatever is there.
    #[ts(type = "number")]
    pub base: Option<u64>,
    /// Operations, in order.
    pub ops: Vec<Op>,
}

/// Result of edits that were all done.
#[derive(Serialize, TS)]
pub struct Edited {
    /// The numbers that new things were given, by what they were called.
    #[ts(type = "{ [name: string]: number }")]
    pub made: Names,
    /// Changes of the document.
    pub changed: Changed,
}

/// Entry of the history that undo or redo means.
#[derive(Deserialize, TS)]
#[ts(optional_fields)]
pub struct StepRequest {
    /// Page that asks; see [`Edits`].
    pub page: String,
    /// The entry that was shown; none for whichever is next.
    pub entry: Option<u32>,
}

/// Does edits in order until one is refused.
#[post("/edits", data = "<wanted>")]
pub async fn edits(app: &App, wanted: Json<Edits>) -> Outcome<Json<Edited>> {
    let wanted = wanted.into_inner();
    app.wait(move |app| {
        app.must_be_open()?;
        let before = app.current();
        let (made, refused) = app.writing(|writing| {
            let on = &app.document().scene;
            if on.id != wanted.scene {
                let sentence =
                    format!("scene {} ({}) is on the floor now; nothing was done", on.number, on.name);
                return Err(Problem::conflict(sentence));
            }
            let mut made = Names::new();
            for (done, edit) in wanted.edits.iter().enumerate() {
                if let Err(problem) = one(writing, &wanted, edit, &mut made) {
                    let names = made.clone();
                    return Ok((made, Some(problem.with("done", done.into()).with("made", json!(names)))));
                }
            }
            Ok((made, None))
        })?;
        app.stage_soon();
        match refused {
            Some(problem) => Err(problem),
            None => Ok(Json(Edited { made, changed: Changed::between(&before, &app.current()) })),
        }
    })
    .await
}

fn one(writing: &mut Writing, wanted: &Edits, edit: &Edit, made: &mut Names) -> Outcome<()> {
    let app = writing.app;
    name("what undo calls the edit", &edit.label)?;
    let paths: Vec<Vec<String>> = edit
        .ops
        .iter()
        .map(|op| tokens(op.path(), made))
        .collect::<Result<_, _>>()
        .map_err(Problem::refused)?;
    rolling(app, &edit.ops, &paths)?;
    if let Some(base) = edit.base {
        let too_old = || {
            let sentence = "too much has changed since this was begun; the document is read anew";
            Problem::conflict(sentence).with("too_old", true.into())
        };
        // A number that is not reached yet was given by another process, whose clock was ahead.
        if base > app.current().revision {
            return Err(too_old());
        }
        for (op, path) in edit.ops.iter().zip(&paths) {
            match writing.written.clash(base, &wanted.page, path) {
                None => {}
                Some(Clash::TooOld) => return Err(too_old()),
                Some(Clash::Written) => return Err(clash(writing, wanted.scene, op, path)),
            }
        }
    }
    let mut store = writing.store();
    let mut change = store.edit(&edit.label, edit.gesture.as_deref())?;
    let mut names = made.clone();
    change.apply(wanted.scene, &edit.ops, &mut names)?;
    change.commit()?;
    drop(store);
    *made = names;
    let revision = app.publish()?.revision;
    let paths = edit.ops.iter().filter_map(|op| tokens(op.path(), made).ok());
    writing.written.note(revision, &wanted.page, paths.collect());
    Ok(())
}

/// Refusal: another page has written to the same path meanwhile. Carries both values.
fn clash(writing: &Writing, scene: SceneId, op: &Op, path: &[String]) -> Problem {
    let path = format!("/{}", path.join("/"));
    let theirs = writing.store().value_at(scene, &path).unwrap_or(Value::Null);
    let mine = match op {
        Op::Add { value, .. } | Op::Replace { value, .. } | Op::Test { value, .. } => value.clone(),
        Op::Remove { .. } | Op::Move { .. } => Value::Null,
    };
    let sentence = "another page has changed the same meanwhile; choose which of the two stays";
    let conflict = json!({"path": path, "mine": mine, "theirs": theirs});
    Problem::conflict(sentence).with("conflict", conflict)
}

/// The setup that rolls is not binned, and what copies many samples waits until nothing rolls: what is
/// recorded would wait for it. Of takes the store itself knows whether they roll.
fn rolling(app: &crate::app::App, ops: &[Op], paths: &[Vec<String>]) -> Outcome<()> {
    let status = app.floor.status.borrow().clone();
    if status.roll == RollState::Standby {
        return Ok(());
    }
    let copies = |(op, path): (&Op, &Vec<String>)| matches!((op, path.as_slice()), (Op::Add { .. }, [table, _]) if table == "scenes");
    if ops.iter().zip(paths).any(copies) {
        return Err(Problem::refused("something rolls; cut it first, then add the scene"));
    }
    let on = status.setup_id.to_string();
    let bins = |(op, path): (&Op, &Vec<String>)| match (op, path.as_slice()) {
        (Op::Remove { .. }, [table, id]) => table == "setups" && *id == on,
        (Op::Add { value, .. } | Op::Replace { value, .. }, [table, id, field]) => {
            table == "setups" && *id == on && field == "binned" && *value == Value::Bool(true)
        }
        _ => false,
    };
    if ops.iter().zip(paths).any(bins) {
        let document = app.document();
        let letter = &document.setup(status.setup_id)?.letter;
        return Err(Problem::refused(format!("setup {letter} is rolling; cut the take first")));
    }
    Ok(())
}

/// Takes the newest edit back.
#[post("/undo", data = "<wanted>")]
pub async fn undo(app: &App, wanted: Json<StepRequest>) -> Outcome<Json<Edited>> {
    step(app, Step::Undo, wanted.into_inner()).await
}

/// Does the edit that was undone last again.
#[post("/redo", data = "<wanted>")]
pub async fn redo(app: &App, wanted: Json<StepRequest>) -> Outcome<Json<Edited>> {
    step(app, Step::Redo, wanted.into_inner()).await
}

async fn step(app: &App, step: Step, wanted: StepRequest) -> Outcome<Json<Edited>> {
    app.wait(move |app| {
        app.must_be_open()?;
        let before = app.current();
        app.writing(|writing| {
            let stepped = writing.store().step(step, wanted.entry).map_err(|e| match e {
                StoreError::Refused(sentence) => Problem::conflict(sentence),
                other => other.into(),
            })?;
            let revision = app.publish()?.revision;
            if let Some(stepped) = stepped {
                writing.written.note(revision, &wanted.page, paths_of(&stepped.rows));
            }
            Ok(())
        })?;
        app.stage_soon();
        let holder = app.floor.status.borrow().holder;
        app.leave_binned_scene(holder)?;
        Ok(Json(Edited { made: Names::new(), changed: Changed::between(&before, &app.current()) }))
    })
    .await
}
