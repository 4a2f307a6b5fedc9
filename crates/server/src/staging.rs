//! What goes onto the floor: every setup of the scene with what carries it.

use crate::scenery::Scenery;
use rovnek_core::playing::{Of, Playing, Ride};
use rovnek_core::rigs::{Carrier, Rig};
use rovnek_core::samples::Samples;
use rovnek_core::set::Form;
use rovnek_core::space::Pose;
use rovnek_core::walls::Wall;
use rovnek_live::floor::{Placed, Staged};
use rovnek_store::model::{Document, Scene, Setup};
use std::sync::Arc;

/// A take's machine and what it did, treated; by the take's id.
pub type Moved<'a> = dyn Fn(u32) -> Option<(Box<dyn Rig>, Arc<Samples>)> + 'a;

/// The scene as the floor needs it.
pub fn staged(document: &Document, scenery: &Scenery, moved: &Moved) -> Staged {
    let there = || document.setups.iter().filter(|s| !s.binned);
    let place = |setup: &Setup| Placed {
        setup_id: setup.id,
        camera: setup.camera.clone(),
        rig: setup.rig.clone(),
        positions: setup.positions.clone(),
        keys: setup.keys.clone(),
        ride: setup.rig.carried.map(|by| Arc::new(ride(document, &scenery.playing, by, moved))),
    };
    Staged {
        setups: there().map(place).collect(),
        scene_length_s: document.scene.length_s,
        people: scenery.people.clone(),
        walls: Arc::new(walls(&document.scene)),
    }
}

/// Where a carrier is over the scene.
fn ride(document: &Document, playing: &Playing, by: Carrier, moved: &Moved) -> Ride {
    let scene = &document.scene;
    let length = scene.length_s;
    match by {
        Carrier::Piece { id } => {
            let stands = scene.pieces.iter().find(|p| p.id == id).map_or(Pose::ORIGIN, |p| p.pose());
            Ride::of(length, |t| playing.pose(Of::Piece(id), t).unwrap_or(stands))
        }
        Carrier::Performer { id } => {
            Ride::of(length, |t| playing.pose(Of::Performer(id), t).unwrap_or(Pose::ORIGIN))
        }
        Carrier::Setup { id, take } => match take.and_then(moved) {
            Some((rig, samples)) if !samples.is_empty() => {
                let mut row = Vec::new();
                Ride::of(length, |t| {
                    samples.at(t, &mut row);
                    rig.forward(&row).carriage
                })
            }
            _ => {
                let stands = document.setups.iter().find(|s| s.id == id).map(|s| {
                    let rig = s.rig.build(&s.camera);
                    let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
                    rig.forward(&start).carriage
                });
                Ride::of(length, |_| stands.unwrap_or(Pose::ORIGIN))
            }
        },
    }
}

/// Boxes around what stands on the set.
fn walls(scene: &Scene) -> Vec<Wall> {
    let stands = |p: &&rovnek_core::set::Piece| {
        !p.hidden && p.route(scene.performance).is_none() && !matches!(p.form, Form::Mark { .. })
    };
    scene
        .pieces
        .iter()
        .filter(stands)
        .flat_map(|p| p.solids(&scene.pieces))
        .map(|s| Wall::around(&s))
        .collect()
}
