//! The routes, by resource. A handler is parse, call, answer.

mod devices;
mod document;
mod import;
mod scene;
mod setups;
mod takes;
pub mod views;

use rocket::{Route, routes};
use std::sync::Arc;

/// The application, as handlers get it.
type App = rocket::State<Arc<crate::app::App>>;

/// All of them, under `/api`.
pub fn routes() -> Vec<Route> {
    routes![
        document::health,
        document::document,
        document::patch_production,
        document::patch_scene,
        document::undo,
        document::redo,
        scene::solids,
        scene::figures,
        scene::performance,
        scene::edit,
        scene::add_performance,
        scene::patch_performance,
        scene::bin_performance,
        scene::set_glb,
        scene::mesh,
        scene::image,
        scene::lenses,
        scene::frame,
        setups::add,
        setups::views,
        setups::patch,
        setups::machine,
        setups::reach,
        setups::follow,
        setups::machines,
        setups::inputs,
        setups::keep_inputs,
        setups::put_on_floor,
        takes::patch,
        takes::empty_bin,
        takes::machine,
        takes::frames,
        takes::lanes,
        takes::figures,
        takes::export,
        takes::packets,
        takes::shakes,
        devices::devices,
        devices::listen,
        devices::stand_in,
        devices::phone,
        devices::open_phone,
        setups::lay_below,
        import::tum,
        import::csv,
        import::opentrackio,
        import::camera,
        import::axes,
        import::set,
        import::image,
        import::capture,
    ]
}
