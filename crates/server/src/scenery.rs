//! A scene made ready: who and what moves in it, and the meshes and images it refers to.

use rovnek_core::mesh::Mesh;
use rovnek_core::performer::{Clips, Performer};
use rovnek_core::playing::{People, Playing};
use rovnek_core::set::{Form, Piece};
use rovnek_formats::bvh;
use rovnek_formats::glb::Goods;
use rovnek_store::assets::AssetKind;
use rovnek_store::model::{Document, Scene};
use rovnek_store::{Result, Store, StoreError};
use std::sync::Arc;

/// A scene's performance, compiled; kept until something in it changes.
#[derive(Clone)]
pub struct Scenery {
    /// What moves.
    pub playing: Arc<Playing>,
    /// Reference points of the performers.
    pub people: Arc<People>,
    made_of: Arc<MadeOf>,
}

#[derive(PartialEq)]
struct MadeOf {
    pieces: Vec<Piece>,
    performers: Vec<Performer>,
    performance: u32,
    length_s: f64,
}

impl Scenery {
    /// Of a scene; `clips` are read from the store as they are needed.
    pub fn of(scene: &Scene, clips: &Clips) -> Scenery {
        let playing = Playing::compile(&scene.pieces, &scene.performers, scene.performance, clips);
        let people = People::of(&playing, &scene.performers, scene.length_s);
        let made_of = MadeOf {
            pieces: scene.pieces.clone(),
            performers: scene.performers.clone(),
            performance: scene.performance,
            length_s: scene.length_s,
        };
        Scenery { playing: Arc::new(playing), people: Arc::new(people), made_of: Arc::new(made_of) }
    }

    /// Whether this is still what the scene is.
    pub fn fits(&self, scene: &Scene) -> bool {
        let m = &*self.made_of;
        m.performance == scene.performance
            && m.length_s == scene.length_s
            && m.performers == scene.performers
            && m.pieces == scene.pieces
    }
}

/// Reads the captured motion that is not there yet.
pub fn load_clips(store: &Store, document: &Document, clips: &mut Clips) -> Result<()> {
    for asset in document.assets.iter().filter(|a| a.kind == AssetKind::Clip) {
        if let std::collections::btree_map::Entry::Vacant(place) = clips.entry(asset.id) {
            let clip = bvh::read(&store.asset(AssetKind::Clip, asset.id)?)
                .map_err(|e| StoreError::Damaged("captured motion", e.to_string()))?;
            place.insert(Arc::new(clip));
        }
    }
    Ok(())
}

/// The meshes and images that pieces refer to.
pub fn goods(store: &Store, pieces: &[Piece]) -> Result<Goods> {
    let mut goods = Goods::default();
    for piece in pieces {
        match piece.form {
            Form::Mesh { mesh, .. } if !goods.meshes.contains_key(&mesh) => {
                goods.meshes.insert(mesh, Arc::new(mesh_of(store, mesh)?));
            }
            Form::Card { image, .. } if image > 0 && !goods.images.contains_key(&image) => {
                goods.images.insert(image, Arc::new(store.asset(AssetKind::Image, image)?));
            }
            _ => {}
        }
    }
    Ok(goods)
}

fn mesh_of(store: &Store, id: u32) -> Result<Mesh> {
    Mesh::from_bytes(&store.asset(AssetKind::Mesh, id)?)
        .ok_or_else(|| StoreError::Damaged("mesh", format!("mesh {id} is not whole")))
}
