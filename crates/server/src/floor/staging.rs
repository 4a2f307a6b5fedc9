//! Staging: every setup of the scene with its carrier, for the floor.

use crate::evaluated::moves::{From, MoveCache};
use crate::evaluated::scenery::Scenery;
use crate::floor::carrying::Carrying;
use rovnek_core::ids::{MoveId, PerformanceId, SetupId};
use rovnek_core::keys::Keyed;
use rovnek_core::performer::driven::Driven;
use rovnek_core::playing::MoverId;
use rovnek_core::samples::Samples;
use rovnek_core::set::Form;
use rovnek_core::space::{PanTiltRoll, Pose};
use rovnek_core::walls::Wall;
use rovnek_live::acting::Cast;
use rovnek_live::floor::{Placed, Staged};
use rovnek_store::model::{Document, Scene, Setup, Source};
use rovnek_store::rows::reader::Reader;
use rovnek_store::{Result, StoreError};
use std::sync::Arc;

/// The scene as the floor needs it.
pub fn staged(moves: &MoveCache, from: &From) -> Staged {
    let From { document, scenery, .. } = *from;
    let there = || document.setups.iter().filter(|s| !s.binned);
    let moved = |id: MoveId| moves.evaluate(from, id).ok().map(|m| (m.rig, m.now));
    let carrying = Carrying { document, playing: &scenery.playing, moved: &moved };
    let performance = scenery.performance();
    let walls = |setup: SetupId| Arc::new(walls(&document.scene, performance, setup));
    let all_walls = walls(SetupId(0));
    let place = |setup: &Setup| {
        let runs = document.runs(setup.id);
        // A move that follows one that is gone leaves the machine to its keys.
        let target = runs.and_then(|m| match m.source {
            Source::Follow { of } => moves.target(from, of).ok(),
            Source::Take { .. } | Source::Curves => None,
        });
        let length_s = target.as_ref().map_or(document.scene.length_s, |w| w.length_s());
        let rig = setup.rig.build(&setup.camera);
        let keyed = runs.map_or_else(Keyed::default, |m| Keyed::of(&m.curves, &*rig, length_s));
        let wild = document.scene.pieces.iter().any(|p| p.wild.contains(&setup.id));
        Placed {
            setup_id: setup.id,
            camera: setup.camera.clone(),
            rig: setup.rig.clone(),
            positions: setup.positions.clone(),
            keyed: Arc::new(keyed),
            target,
            tracking: setup.tracking.clone(),
            walls: if wild { walls(setup.id) } else { all_walls.clone() },
            carrier: setup.rig.carried.map(|by| Arc::new(carrying.track(by))),
        }
    };
    Staged {
        setups: there().map(place).collect(),
        scene_length_s: document.scene.length_s,
        timebase: document.scene.timebase(),
        people: scenery.people.clone(),
        cast: Arc::new(cast(&document.scene, scenery)),
        obstacles: scenery.obstacles.clone(),
    }
}

/// Staging without a reader of samples: leads and carriers that come from takes stand still.
pub fn staged_alone(document: &Document, scenery: &Scenery) -> Staged {
    let none = |_: &dyn Fn(&Reader) -> Result<Samples>| Err(StoreError::Missing("sample", 0));
    staged(&MoveCache::default(), &From { document, scenery, on_the_way: 0, read: &none })
}

/// Movers that can be driven: every performer, and every piece that stands on the floor by itself.
fn cast(scene: &Scene, scenery: &Scenery) -> Vec<Cast> {
    let playing = &scenery.playing;
    let start = |pose: Pose| {
        let turn = PanTiltRoll::from_rotation(pose.rotation).pan;
        Driven { x: pose.position.x, z: pose.position.z, heading: turn, ..Driven::default() }
    };
    let performers = scene.performers.iter().map(|p| {
        let pose = playing.pose(MoverId::Performer(p.id), 0.0).unwrap_or(Pose::ORIGIN);
        Cast {
            of: MoverId::Performer(p.id),
            height_m: p.height_m,
            build: p.build,
            floor_m: pose.position.y,
            start: start(pose),
            parts: Vec::new(),
        }
    });
    let pieces = scene.pieces.iter().filter(|p| !p.hidden && p.moves(scenery.performance())).map(|p| {
        let pose = playing.pose(MoverId::Piece(p.id), 0.0).unwrap_or_else(|| p.pose());
        Cast {
            of: MoverId::Piece(p.id),
            height_m: 0.0,
            build: 1.0,
            floor_m: pose.position.y,
            start: start(pose),
            parts: p.parts(&scene.pieces).iter().map(|s| s.pose).collect(),
        }
    });
    performers.chain(pieces).collect()
}

/// Boxes around what stands on the set when a setup looks, while a performance plays; 0 is none of them.
pub fn walls(scene: &Scene, performance: PerformanceId, setup: SetupId) -> Vec<Wall> {
    let stands = |p: &&rovnek_core::set::Piece| {
        p.stands_for(setup) && !p.moves(performance) && !matches!(p.form, Form::Mark { .. })
    };
    scene
        .pieces
        .iter()
        .filter(stands)
        .flat_map(|p| p.solids(&scene.pieces))
        .map(|s| Wall::around(&s))
        .collect()
}
