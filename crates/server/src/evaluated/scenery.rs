//! A scene made ready: who and what moves in it, and the meshes and images it refers to.

use rovnek_core::clearance::{Hull, MeshHulls, Obstacles};
use rovnek_core::ids::{ClipId, ImageId, MeshId, PerformanceId, SetupId};
use rovnek_core::mesh::Mesh;
use rovnek_core::performer::{Clip, Clips};
use rovnek_core::playing::{CarrierTrack, Machine, MoverId, PerformanceTimeline, Ride, SubjectPoints};
use rovnek_core::set::{Form, Piece};
use rovnek_formats::bvh;
use rovnek_formats::glb::Assets;
use rovnek_store::model::{AssetKind, Document};
use rovnek_store::rows::reader::Reader;
use rovnek_store::versions::Subject;
use rovnek_store::{Result, StoreError};
use std::collections::BTreeMap;
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

/// Versions of what a scenery was made of.
#[derive(Default)]
struct MadeOf {
    performance: PerformanceId,
    movers: BTreeMap<MoverId, u64>,
    whole: u64,
}

impl MadeOf {
    fn of(document: &Document, performance: PerformanceId) -> MadeOf {
        let scene = &document.scene;
        let all = scene.performers.iter().map(|p| MoverId::Performer(p.id));
        let all =
            all.chain(scene.pieces.iter().filter(|p| p.moves(performance)).map(|p| MoverId::Piece(p.id)));
        let version = |of: MoverId| (of, document.version(Subject::Mover(of, performance)));
        let whole = document.version(Subject::Scenery(performance));
        MadeOf { performance, movers: all.map(version).collect(), whole }
    }
}

impl Scenery {
    /// Scenery of a document's scene while a performance plays.
    pub fn of(document: &Document, performance: PerformanceId, clips: &Clips) -> Scenery {
        Scenery::again(None, document, performance, clips, &MeshHulls::new())
    }

    /// The performance that plays in it.
    pub fn performance(&self) -> PerformanceId {
        self.made_of.performance
    }

    /// Scenery after an edit: movers that do the same as before are not compiled again.
    pub fn again(
        before: Option<&Scenery>,
        document: &Document,
        performance: PerformanceId,
        clips: &Clips,
        meshes: &MeshHulls,
    ) -> Scenery {
        let (scene, made_of) = (&document.scene, MadeOf::of(document, performance));
        let same = |of: MoverId| {
            let known = before.filter(|b| b.performance() == performance);
            known.is_some_and(|b| b.made_of.movers.get(&of) == made_of.movers.get(&of))
        };
        let (no_playing, no_people) = Default::default();
        let playing = before.map_or(&no_playing, |b| &*b.playing);
        let people = before.map_or(&no_people, |b| &*b.people);
        let now = playing.recompiled(&scene.pieces, &scene.performers, performance, clips, same);
        let people = people.again(playing, &now, &scene.performers, scene.length_s);
        let playing = Arc::new(now);
        let obstacles = Arc::new(Obstacles::of(&scene.pieces, &playing, meshes));
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
        let people = Arc::new(self.people.again(&self.playing, &playing, &scene.performers, scene.length_s));
        let obstacles = Arc::new(Obstacles::of(&scene.pieces, &playing, meshes));
        Scenery { playing, people, obstacles, made_of: self.made_of.clone() }
    }

    /// Scenery around one motion of a machine: loads on its carriage go along with that motion.
    pub fn around(&self, setup: SetupId, carriage: impl FnOnce() -> CarrierTrack) -> Scenery {
        if self.playing.riders(setup).next().is_none() {
            return self.clone();
        }
        let track = Arc::new(carriage());
        let playing = Arc::new(self.playing.with_carriage(setup, &track));
        let people = Arc::new(self.people.with_carriage(setup, &track));
        Scenery { playing, people, ..self.clone() }
    }

    /// True if the document still has this scenery.
    pub fn fits(&self, document: &Document) -> bool {
        self.made_of.whole == document.version(Subject::Scenery(self.performance()))
    }
}

/// Reads the captured motion that is not there yet.
pub fn load_clips(reader: &Reader, document: &Document, clips: &mut Clips) -> Result<()> {
    for asset in document.assets.iter().filter(|a| a.kind == AssetKind::Clip) {
        if let std::collections::btree_map::Entry::Vacant(place) = clips.entry(ClipId(asset.id)) {
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
            Form::Card { image, .. } if image > ImageId(0) && !assets.images.contains_key(&image) => {
                // A card whose image is gone is drawn without it.
                match reader.asset(AssetKind::Image, image.0) {
                    Err(StoreError::Missing(..)) => {}
                    found => drop(assets.images.insert(image, Arc::new(found?))),
                }
            }
            _ => {}
        }
    }
    Ok(assets)
}

fn mesh_of(reader: &Reader, id: MeshId) -> Result<Mesh> {
    Mesh::from_bytes(&reader.asset(AssetKind::Mesh, id.0)?)
        .ok_or_else(|| StoreError::Damaged("mesh", format!("mesh {id} is not whole")))
}
