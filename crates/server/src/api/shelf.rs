//! The shelf of productions, and which of them and of its scenes is on the floor.

use super::App;
use super::document::name;
use super::import::received;
use crate::app::App as Shared;
use crate::demo;
use crate::http::id_of::IdOf;
use crate::http::problem::{Outcome, Problem};
use crate::http::sent::Json;
use crate::lock::lock;
use rocket::data::{Data, ToByteUnit};
use rocket::http::{ContentType, Header, Status};
use rocket::tokio::fs::File;
use rocket::{Responder, get, post};
use rovnek_core::ids::SceneId;
use rovnek_store::StoreError;
use rovnek_store::model::{NewScene, SceneLine};
use rovnek_store::rows::reader::Reader;
use rovnek_store::shelf::OnShelf;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Largest copy of a production that is taken, bytes.
const LARGEST_COPY: u64 = 8 << 30;

/// The productions there are.
#[derive(Serialize, TS)]
pub struct ShelfView {
    /// The one that is open; empty where none is.
    pub open: String,
    /// Productions: those used last first, those set aside at the end.
    pub productions: Vec<OnShelf>,
}

/// A production to begin.
#[derive(Deserialize, TS)]
pub struct NewProduction {
    /// Name on the slate.
    pub name: String,
    /// Filled with the demo production rather than with an empty stage.
    pub demo: bool,
}

/// Id of a production that came onto the shelf.
#[derive(Serialize, TS)]
pub struct Shelved {
    /// Id on the shelf; see [`OnShelf`].
    pub id: String,
}

/// New name of a production.
#[derive(Deserialize, TS)]
pub struct Named {
    /// Name on the slate.
    pub name: String,
}

/// Request to set a production aside.
#[derive(Deserialize, TS)]
pub struct Aside {
    /// True to set it aside, false to take it back.
    pub aside: bool,
}

/// Page that asks for another production or scene.
#[derive(Deserialize, TS)]
#[ts(optional_fields)]
pub struct ByPage {
    /// The number of the page.
    pub page: Option<u32>,
}

/// All productions.
#[get("/productions")]
pub async fn productions(app: &App) -> Outcome<Json<ShelfView>> {
    app.wait(|app| {
        let open = app.current().opened.id.clone();
        Ok(Json(ShelfView { open, productions: app.shelf().list()? }))
    })
    .await
}

/// Begins a production; it is not opened by that.
#[post("/productions", data = "<wanted>")]
pub async fn begin(app: &App, wanted: Json<NewProduction>) -> Outcome<Json<Shelved>> {
    let called = name("the production", &wanted.name)?;
    let demo = wanted.demo;
    app.wait(move |app| {
        let id = app.shelf().begin(&called, |store| {
            if demo { demo::fill(store) } else { store.begin(&NewScene::empty(&called)) }
        })?;
        Ok(Json(Shelved { id }))
    })
    .await
}

/// Another production comes onto the floor.
#[post("/productions/<id>/open", data = "<by>")]
pub async fn open(app: &App, id: String, by: Json<ByPage>) -> Outcome<Status> {
    let page = by.page;
    app.wait(move |app| app.open_production(page, &id).map(|()| Status::NoContent)).await
}

/// Puts a copy beside it.
#[post("/productions/<id>/duplicate", data = "<wanted>")]
pub async fn duplicate(app: &App, id: String, wanted: Json<Named>) -> Outcome<Json<Shelved>> {
    let called = name("the production", &wanted.name)?;
    app.wait(move |app| Ok(Json(Shelved { id: app.shelf().duplicate(&id, &called)? }))).await
}

/// Renames a production. For the open production this is an edit, which can be undone.
#[post("/productions/<id>/rename", data = "<wanted>")]
pub async fn rename(app: &App, id: String, wanted: Json<Named>) -> Outcome<Status> {
    let called = name("the production", &wanted.name)?;
    app.wait(move |app| {
        let turning = lock(app.turning());
        if is_open(app, &id) {
            drop(turning);
            app.edit("name the production", |edit| Ok(edit.name_production(&called)?))?;
        } else {
            app.shelf().rename(&id, &called)?;
        }
        Ok(Status::NoContent)
    })
    .await
}

/// Sets one aside that is not open, or takes it back.
#[post("/productions/<id>/aside", data = "<wanted>")]
pub async fn aside(app: &App, id: String, wanted: Json<Aside>) -> Outcome<Status> {
    let aside = wanted.aside;
    app.wait(move |app| {
        let _turning = lock(app.turning());
        if is_open(app, &id) {
            return Err(Problem::conflict("this production is open; open another one first"));
        }
        app.shelf().set_aside(&id, aside)?;
        Ok(Status::NoContent)
    })
    .await
}

fn is_open(app: &Shared, id: &str) -> bool {
    app.current().opened.id == id
}

/// A production as one file.
#[derive(Responder)]
pub struct Copy {
    file: File,
    kind: ContentType,
    name: Header<'static>,
}

/// A production as one file, also while it is open.
#[get("/productions/<id>/copy")]
pub async fn keep_copy(app: &App, id: String) -> Outcome<Copy> {
    let file = app
        .wait(move |app| {
            let folder = app.shelf().passing()?;
            let to = folder.path().join("copy");
            app.shelf().keep_copy(&id, &to)?;
            // The file lives for as long as it is read.
            let file = std::fs::File::open(&to).map_err(unusable)?;
            let plain: String =
                id.chars().map(|c| if c.is_ascii_alphanumeric() || c == '-' { c } else { '-' }).collect();
            Ok::<_, Problem>((file, plain))
        })
        .await?;
    let (file, plain) = file;
    let name = format!("attachment; filename=\"{plain}.sqlite\"");
    let name = Header::new("Content-Disposition", name);
    Ok(Copy { file: File::from_std(file), kind: ContentType::Binary, name })
}

fn unusable(error: std::io::Error) -> Problem {
    Problem::of(Status::InternalServerError, format!("no room for a copy: {error}"))
}

/// Puts a copy onto the shelf that another Rovnek kept.
#[post("/productions/copy", data = "<file>")]
pub async fn open_copy(app: &App, file: Data<'_>) -> Outcome<Json<Shelved>> {
    let folder = app.shelf().passing()?;
    let came = folder.path().join("copy.sqlite");
    received(file.open(LARGEST_COPY.bytes()), &came).await?;
    app.wait(move |app| {
        let id = app.shelf().take_in(&came).map_err(|error| {
            let why = match error {
                StoreError::Foreign(_) => "it holds no production of Rovnek".into(),
                StoreError::Unsound(_, why) => format!("it is damaged, or no copy of a production ({why})"),
                StoreError::Empty(_) => "it is empty".into(),
                other => other.to_string(),
            };
            Problem::refused(format!("the file cannot be opened: {why}"))
        })?;
        drop(folder);
        Ok(Json(Shelved { id }))
    })
    .await
}

/// The picture that stands for a production.
#[get("/productions/<id>/picture")]
pub async fn picture(app: &App, id: String) -> Outcome<(ContentType, Vec<u8>)> {
    app.wait(move |app| {
        let bytes = Reader::open(&app.shelf().find(&id)?)?.front_picture()?;
        Ok((ContentType::WEBP, bytes.ok_or(StoreError::Missing("picture of this", 0))?))
    })
    .await
}

/// The scenes of a production, whether it is open or not.
#[get("/productions/<id>/scenes")]
pub async fn scenes(app: &App, id: String) -> Outcome<Json<Vec<SceneLine>>> {
    app.wait(move |app| Ok(Json(Reader::open(&app.shelf().find(&id)?)?.scenes()?))).await
}

/// Another scene of the open production comes onto the floor.
#[post("/scenes/<id>/open", data = "<by>")]
pub async fn open_scene(app: &App, id: IdOf<SceneId>, by: Json<ByPage>) -> Outcome<Status> {
    let IdOf(id) = id;
    let page = by.page;
    app.wait(move |app| app.turn_to_scene(app.stay(), page, id).map(|()| Status::NoContent)).await
}
