//! Files that become things of the document. A kind of file is one file here and one line in [`kinds!`]: the page
//! asks which kinds there are, which one a file is, and draws the parameters from their descriptions.

mod axes;
mod camera;
mod capture;
mod cards;
mod set;
mod tum;

use crate::app::App;
use crate::http::problem::{Outcome, Problem};
use rocket::FromFormField;
use rocket::http::Status;
use rovnek_core::DVec3;
use rovnek_core::ids::{ClipId, PerformerId, PieceId, TakeId};
use rovnek_core::params::Param;
use rovnek_core::performer::{Clip, Part, PartMotion, Performer};
use rovnek_formats::FormatError;
use rovnek_store::edit::history::Edit;
use rovnek_store::model::{Document, Scene};
use serde::Serialize;
use serde::de::DeserializeOwned;
use ts_rs::TS;

/// Station at which a file is brought in.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, TS, FromFormField)]
#[serde(rename_all = "snake_case")]
pub enum Station {
    /// Set: pieces and performers.
    Set,
    /// Operate: takes.
    Takes,
}

/// A kind of file as the page offers it.
#[derive(Clone, Debug, Serialize, TS)]
pub struct ImportKind {
    /// Name of the kind, as requests name it.
    pub name: &'static str,
    /// Station at which it is offered.
    pub station: Station,
    /// Endings of its files, with the dot, in small letters.
    pub endings: &'static [&'static str],
    /// What a file of the kind is, and what it becomes: a sentence.
    pub hint: &'static str,
    /// What is named after the file: "the set".
    #[serde(skip)]
    pub named: &'static str,
    /// True if reading a file may take long: it is listed as a job meanwhile, and can be stopped.
    #[serde(skip)]
    pub long: bool,
    /// Says whether the first bytes of a file with one of the endings are of this kind.
    #[serde(skip)]
    pub recognises: fn(&[u8]) -> bool,
    /// Parameters of the kind.
    pub params: Vec<Param>,
    /// Its parameters with the values that are offered first.
    #[ts(type = "{ [path: string]: unknown }")]
    pub usual: serde_json::Value,
}

impl ImportKind {
    /// A kind that is read at once, is known by its endings, and has no parameters.
    fn plain(
        name: &'static str,
        station: Station,
        endings: &'static [&'static str],
        hint: &'static str,
        named: &'static str,
    ) -> ImportKind {
        let (params, usual) = (Vec::new(), serde_json::json!({}));
        ImportKind { name, station, endings, hint, named, long: false, recognises: |_| true, params, usual }
    }
}

/// A kind of file, with its parameters.
pub trait Import: Send {
    /// Description of the kind.
    fn described() -> ImportKind
    where
        Self: Sized;

    /// Reads the file, and returns the edit that brings its content into the document.
    fn read(self: Box<Self>, upload: &mut Upload) -> Outcome<Box<Bring>>;
}

/// Part of an edit that brings something in.
pub type Bring = dyn FnOnce(&Document, &mut Edit) -> Outcome<Brought>;

/// A file that was sent.
pub struct Upload<'a> {
    /// The application that the file was sent to.
    pub app: &'a App,
    /// Name for what the file becomes.
    pub name: String,
    /// Bytes of the file. Of a file over the limit there is one byte more than the limit.
    pub bytes: Vec<u8>,
    /// HTTP status of a refusal.
    pub fault: Status,
    /// Is told the share of the file that has been read, 0 to 1, and says whether to go on reading.
    pub go_on: &'a mut dyn FnMut(f64) -> bool,
}

impl Upload<'_> {
    /// Makes a refusal of a reader's error.
    fn refuse(&self) -> impl Fn(FormatError) -> Problem {
        let fault = self.fault;
        move |error| Problem::of(fault, error.to_string())
    }
}

/// Things that came into the document.
#[derive(Default)]
pub struct Brought {
    /// New or changed pieces.
    pub pieces: Vec<PieceId>,
    /// New performers.
    pub performers: Vec<PerformerId>,
    /// The new take.
    pub take: Option<TakeId>,
}

macro_rules! kinds {
    ($($Kind:ty),+ $(,)?) => {
        /// Descriptions of all kinds.
        pub fn kinds() -> Vec<ImportKind> {
            vec![$(<$Kind>::described()),+]
        }

        /// A kind by its name, with the parameters in a request's query.
        pub fn of(name: &str, query: &str) -> Outcome<(ImportKind, Box<dyn Import>)> {
            $(
                let kind = <$Kind>::described();
                if kind.name == name {
                    return Ok((kind, Box::new(with::<$Kind>(query)?)));
                }
            )+
            let names: Vec<&str> = kinds().iter().map(|kind| kind.name).collect();
            Err(Problem::of(
                Status::NotFound,
                format!("nothing is brought in as {name}; there are {}", names.join(", ")),
            ))
        }
    };
}

kinds! {
    set::Set,
    cards::Image,
    cards::ImageSequence,
    capture::Capture,
    axes::Axes,
    camera::Csv,
    camera::OpenTrackIo,
    camera::GltfCamera,
    tum::Tum,
}

fn with<T: DeserializeOwned>(query: &str) -> Outcome<T> {
    serde_urlencoded::from_str(query)
        .map_err(|e| Problem::refused(format!("a parameter cannot be read: {e}; send it as described")))
}

/// The kind of a file at a station, by its ending and its first bytes.
pub fn kind_of(station: Station, file: &str, head: &[u8]) -> Outcome<ImportKind> {
    let small = file.to_lowercase();
    let here: Vec<ImportKind> = kinds().into_iter().filter(|kind| kind.station == station).collect();
    let mut endings: Vec<&str> = here.iter().flat_map(|kind| kind.endings).copied().collect();
    let fits = |kind: &ImportKind| kind.endings.iter().any(|ending| small.ends_with(ending));
    let found = here.into_iter().find(|kind| fits(kind) && (kind.recognises)(head));
    found.ok_or_else(|| {
        endings.sort_unstable();
        endings.dedup();
        let endings = endings.join(", ");
        Problem::refused(format!("{file} cannot be brought in here; choose a file that ends in {endings}"))
    })
}

/// How tall somebody is whose file does not say, metres.
const USUAL_M: f64 = 1.75;

/// Somebody who does what a clip says, from a place on, in the performance that plays.
fn dances(scene: &Scene, name: &str, height_m: f64, (id, clip): (ClipId, &Clip), place: DVec3) -> Performer {
    let motion = PartMotion::Captured {
        clip: id,
        start_s: 0.0,
        trim_s: [0.0, clip.length_s().max(0.01)],
        position: place.to_array(),
        turn_deg: 0.0,
    };
    let part = Part { performance: scene.performance, rides: None, motion };
    Performer { id: PerformerId(0), name: name.into(), height_m, build: 1.0, parts: vec![part] }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_file_is_known_by_its_ending_and_its_first_bytes() {
        let name = |station, file: &str, head: &str| {
            kind_of(station, file, head.as_bytes()).map_or_else(|e| e.sentence, |kind| kind.name.into())
        };
        assert_eq!(name(Station::Takes, "Move.CSV", "frame,time_s,x,focal_mm\n"), "csv");
        assert_eq!(name(Station::Takes, "axes.csv", "time_s,swing_deg\n"), "axes");
        assert_eq!(name(Station::Takes, "hall.glb", "glTF"), "camera");
        assert_eq!(name(Station::Set, "hall.glb", "glTF"), "set");
        assert_eq!(name(Station::Takes, "walk.tum.txt", "0 0 0 0 0 0 0 1\n"), "tum");
        assert!(name(Station::Set, "walk.xyz", "").contains(".bvh"));
        assert!(
            name(Station::Takes, "Walk", "")
                .starts_with("Walk cannot be brought in here; choose a file that ends in .csv, .glb")
        );
    }

    #[test]
    fn kinds_have_names_of_their_own_and_values_that_they_take() {
        let names: Vec<&str> = kinds().iter().map(|kind| kind.name).collect();
        for (i, kind) in kinds().into_iter().enumerate() {
            assert!(!names[..i].contains(&kind.name) && kind.hint.ends_with('.'), "{}", kind.name);
            let query = serde_urlencoded::to_string(&kind.usual).unwrap();
            assert!(of(kind.name, &query).is_ok(), "{}: {query}", kind.name);
            assert!(of(kind.name, "name=hall").is_ok(), "{} without parameters", kind.name);
        }
        assert!(of("tum", "scale=large").is_err_and(|e| e.sentence.contains("parameter")));
        assert!(of("none", "").is_err_and(|e| e.sentence.contains("sequence")));
    }
}
