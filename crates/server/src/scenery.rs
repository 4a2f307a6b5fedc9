//! A scene made ready: who and what moves in it, and the meshes and images it refers to.

use crate::machines::same_machines;
use rovnek_core::carrier::Carrier;
use rovnek_core::clearance::{Hull, MeshHulls, Obstacles};
use rovnek_core::mesh::Mesh;
use rovnek_core::performer::{Clip, Clips, Performer};
use rovnek_core::playing::{CarrierTrack, Machine, MoverId, PerformanceTimeline, Ride, SubjectPoints};
use rovnek_core::set::{Form, Piece};
use rovnek_formats::bvh;
use rovnek_formats::glb::Assets;
use rovnek_store::model::{AssetKind, Document, Scene};
use rovnek_store::reader::Reader;
use rovnek_store::{Result, StoreError};
use std::collections::BTreeMap;
use std::hash::{DefaultHasher, Hash, Hasher};
use std::sync::Arc;

/// A scene's performance, compiled; kept until something in it changes.
#[derive(Clone)]
pub struct Scenery {
    /// Timeline of the performance.
    pub playing: Arc<PerformanceTimeline>,
    /// Reference points of the performers.
    pub people: Arc<SubjectPoints>,
    /// Obstacles of the scene.
    pub obstacles: Arc<Obstacles>,
    made_of: Arc<MadeOf>,
}

#[derive(Clone)]
struct MadeOf {
    pieces: Arc<Vec<Piece>>,
    performers: Arc<Vec<Performer>>,
    performance: u32,
    length_s: f64,
    /// Document whose machines carry a load; none without one.
    machines: Option<Document>,
}

impl MadeOf {
    /// True if a mover does the same here as in a scene.
    fn has(&self, scene: &Scene, of: MoverId) -> bool {
        let performance = self.performance;
        performance == scene.performance
            && match of {
                MoverId::Performer(id) => {
                    let find = |all: &[Performer]| {
                        let found = all.iter().find(|p| p.id == id)?;
                        Some((found.height_m, found.build, found.part(performance)?.motion.clone()))
                    };
                    find(&self.performers).is_some_and(|p| Some(p) == find(&scene.performers))
                }
                MoverId::Piece(id) => {
                    let find = |all: &[Piece]| {
                        let piece = all.iter().find(|p| p.id == id)?;
                        piece.moves(performance).then(|| piece.route(performance).cloned())
                    };
                    find(&self.pieces).is_some_and(|r| Some(r) == find(&scene.pieces))
                }
            }
    }
}

impl Scenery {
    /// Scenery of a scene.
    pub fn of(scene: &Scene, clips: &Clips) -> Scenery {
        Scenery::again(None, scene, clips, &MeshHulls::new())
    }

    /// Scenery after an edit: movers that do the same as before are not compiled again.
    pub fn again(before: Option<&Scenery>, scene: &Scene, clips: &Clips, meshes: &MeshHulls) -> Scenery {
        let same = |of: MoverId| before.is_some_and(|b| b.made_of.has(scene, of));
        let (no_playing, no_people) = Default::default();
        let playing = before.map_or(&no_playing, |b| &*b.playing);
        let people = before.map_or(&no_people, |b| &*b.people);
        let now = playing.recompiled(&scene.pieces, &scene.performers, scene.performance, clips, same);
        let people = people.again(playing, &now, &scene.performers, scene.length_s);
        let playing = Arc::new(now);
        let obstacles = Arc::new(Obstacles::of(&scene.pieces, &playing, meshes));
        let made_of = MadeOf {
            pieces: scene.pieces.clone(),
            performers: scene.performers.clone(),
            performance: scene.performance,
            length_s: scene.length_s,
            machines: None,
        };
        Scenery { playing, people: Arc::new(people), obstacles, made_of: Arc::new(made_of) }
    }

    /// Scenery with the loads of machines going along.
    pub fn carried_by(
        &self,
        rides: &BTreeMap<Machine, Ride>,
        document: &Document,
        meshes: &MeshHulls,
    ) -> Scenery {
        let scene = &document.scene;
        let playing = Arc::new(self.playing.carried_by(|on| rides.get(&on).cloned()));
        let people = self.people.again(&self.playing, &playing, &scene.performers, scene.length_s);
        let obstacles = Obstacles::of(&scene.pieces, &playing, meshes);
        let made_of = MadeOf { machines: Some(document.clone()), ..(*self.made_of).clone() };
        Scenery {
            playing,
            people: Arc::new(people),
            obstacles: Arc::new(obstacles),
            made_of: Arc::new(made_of),
        }
    }

    /// Scenery around one motion of a machine: loads on its carriage go along with that motion.
    pub fn around(&self, setup: u32, carriage: impl FnOnce() -> CarrierTrack) -> Scenery {
        if self.playing.riders(setup).next().is_none() {
            return self.clone();
        }
        let track = Arc::new(carriage());
        let playing = Arc::new(self.playing.with_carriage(setup, &track));
        let people = Arc::new(self.people.with_carriage(setup, &track));
        Scenery { playing, people, ..self.clone() }
    }

    /// A number that changes with what plays.
    pub fn version(&self, document: &Document) -> u64 {
        let scene = &document.scene;
        let moving: Vec<&Piece> = scene.pieces.iter().filter(|p| carries(scene, p)).collect();
        let mut hasher = DefaultHasher::new();
        let plain = (scene.performance, scene.length_s, &moving, &*scene.performers);
        serde_json::to_string(&plain).expect("a scene is plain data").hash(&mut hasher);
        self.playing.rides().for_each(|ride| ride.hash(&mut hasher));
        hasher.finish()
    }

    /// True if the document still has this scenery.
    pub fn fits(&self, document: &Document) -> bool {
        let (m, scene) = (&*self.made_of, &document.scene);
        m.machines.as_ref().is_none_or(|known| same_machines(known, document))
            && m.performance == scene.performance
            && m.length_s == scene.length_s
            && (Arc::ptr_eq(&m.performers, &scene.performers) || m.performers == scene.performers)
            && (Arc::ptr_eq(&m.pieces, &scene.pieces) || m.pieces == scene.pieces)
    }
}

/// True if a piece moves in some performance, or carries somebody.
pub fn carries(scene: &Scene, piece: &Piece) -> bool {
    let by = Some(Carrier::Piece { id: piece.id });
    let rides = |p: &Performer| p.parts.iter().any(|q| q.rides == by);
    piece.rides.is_some() || !piece.routes.is_empty() || scene.performers.iter().any(rides)
}

/// Reads the captured motion that is not there yet.
pub fn load_clips(reader: &Reader, document: &Document, clips: &mut Clips) -> Result<()> {
    for asset in document.assets.iter().filter(|a| a.kind == AssetKind::Clip) {
        if let std::collections::btree_map::Entry::Vacant(place) = clips.entry(asset.id) {
            let bytes = reader.asset(AssetKind::Clip, asset.id)?;
            // Productions of before have the file that was brought in.
            let clip = Clip::from_bytes(&bytes).map_or_else(|| bvh::read(&bytes), Ok);
            let clip = clip.map_err(|e| StoreError::Damaged("captured motion", e.to_string()))?;
            place.insert(Arc::new(clip));
        }
    }
    Ok(())
}

/// Reads the surfaces of meshes that are not there yet. One that is gone is nothing to run into.
pub fn load_surfaces(reader: &Reader, pieces: &[Piece], surfaces: &mut MeshHulls) -> Result<()> {
    for piece in pieces {
        let Form::Mesh { mesh, .. } = piece.form else { continue };
        if surfaces.contains_key(&mesh) {
            continue;
        }
        match mesh_of(reader, mesh) {
            Err(StoreError::Missing(..)) => {}
            found => drop(Hull::of_mesh(&found?).map(|hull| surfaces.insert(mesh, Arc::new(hull)))),
        }
    }
    Ok(())
}

/// The meshes and images that pieces refer to.
pub fn assets(reader: &Reader, pieces: &[Piece]) -> Result<Assets> {
    let mut assets = Assets::default();
    for piece in pieces {
        match piece.form {
            Form::Mesh { mesh, .. } if !assets.meshes.contains_key(&mesh) => {
                assets.meshes.insert(mesh, Arc::new(mesh_of(reader, mesh)?));
            }
            Form::Card { image, .. } if image > 0 && !assets.images.contains_key(&image) => {
                // A card whose image is gone is drawn without it.
                match reader.asset(AssetKind::Image, image) {
                    Err(StoreError::Missing(..)) => {}
                    found => drop(assets.images.insert(image, Arc::new(found?))),
                }
            }
            _ => {}
        }
    }
    Ok(assets)
}

fn mesh_of(reader: &Reader, id: u32) -> Result<Mesh> {
    Mesh::from_bytes(&reader.asset(AssetKind::Mesh, id)?)
        .ok_or_else(|| StoreError::Damaged("mesh", format!("mesh {id} is not whole")))
}
