//! The routes, by resource. A handler is parse, call, answer.

pub mod carry;
mod devices;
mod document;
pub mod edits;
mod import;
mod jobs;
pub mod keys;
mod moves;
mod pictures;
mod scene;
mod setups;
mod shaping;
pub mod shelf;
mod takes;
pub mod views;

use rocket::{Route, routes};

/// The application, as handlers get it: what they write goes to the scene that the request means.
type App = crate::http::meant::Asking;

/// All of them, under `/api`.
pub fn routes() -> Vec<Route> {
    routes![
        document::health,
        document::document,
        edits::edits,
        edits::undo,
        edits::redo,
        shelf::productions,
        shelf::begin,
        shelf::open,
        shelf::duplicate,
        shelf::rename,
        shelf::aside,
        shelf::keep_copy,
        shelf::open_copy,
        shelf::picture,
        shelf::scenes,
        shelf::open_scene,
        carry::offers,
        carry::look,
        carry::carry,
        pictures::pictures,
        pictures::picture,
        pictures::keep,
        scene::solids,
        scene::changed_solids,
        scene::figures,
        scene::clips,
        scene::performance,
        scene::set_glb,
        scene::mesh,
        scene::image,
        scene::lenses,
        scene::timecodes,
        scene::time,
        scene::frame,
        setups::views,
        setups::machine,
        setups::drag,
        setups::reach,
        setups::rehearsal,
        setups::machines,
        setups::put_there,
        setups::inputs,
        setups::keep_inputs,
        setups::put_on_floor,
        takes::empty_bin,
        takes::packets,
        takes::shakes,
        moves::machine,
        moves::frames,
        moves::lanes,
        moves::lane_kinds,
        shaping::ask,
        shaping::faults,
        shaping::remedy,
        shaping::flat_kind,
        shaping::flatten,
        moves::presets,
        moves::preview,
        moves::figures,
        moves::export,
        moves::keys,
        moves::follow,
        moves::kinds,
        moves::export_kinds,
        keys::edited,
        keys::eases,
        jobs::jobs,
        jobs::stop,
        jobs::begin,
        jobs::kinds,
        jobs::lanes,
        jobs::keep,
        devices::devices,
        devices::listen,
        devices::live_out,
        devices::tell,
        devices::stand_in,
        devices::phone,
        devices::open_phone,
        setups::set_base,
        import::kinds,
        import::kind_of,
        import::bring,
    ]
}
