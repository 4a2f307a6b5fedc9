//! Sets as glTF: what Rovnek wrote comes back equal, and what is broken is refused with a sentence.

use rovnek_core::ids::{GroupId, ImageId, MeshId, SetupId};
use rovnek_core::lens::Camera;
use rovnek_core::mesh::Mesh;
use rovnek_core::playing::PerformanceTimeline;
use rovnek_core::set::{Form, Piece, Sequence, Tape};
use rovnek_core::solid::Material;
use rovnek_core::track::Track;
use rovnek_formats::glb::{self, Assets};
use rovnek_formats::gltf_set::{self, ImportedSet, MOST_TRIANGLES};
use serde_json::{Value, json};
use std::sync::Arc;

fn png(width: u32, height: u32) -> Vec<u8> {
    let image = image::RgbImage::from_fn(width, height, |x, _| {
        image::Rgb([if x * 2 < width { 255 } else { 0 }, 40, 0])
    });
    let mut bytes = std::io::Cursor::new(Vec::new());
    image.write_to(&mut bytes, image::ImageFormat::Png).unwrap();
    bytes.into_inner()
}

fn pyramid() -> Mesh {
    let places =
        vec![[-1.0, 0.0, -1.0], [1.0, 0.0, -1.0], [1.0, 0.0, 1.0], [-1.0, 0.0, 1.0], [0.0, 1.5, 0.0]];
    let triangles = vec![[0, 1, 2], [0, 2, 3], [0, 4, 1], [1, 4, 2], [2, 4, 3], [3, 4, 0]];
    Mesh {
        normals: Mesh::flat_normals(&places, &triangles),
        colors: vec![[200, 100, 50]; 5],
        places,
        triangles,
    }
}

fn set() -> (Vec<Piece>, Assets) {
    let size = [4.0, 3.0, 0.2];
    let mesh = pyramid();
    let forms = [
        Form::Wall { size, material: Material::Brick },
        Form::Door { width: 1.0, height: 2.1, open_deg: 40.0 },
        Form::Ramp { size: [2.0, 0.6, 3.0] },
        Form::Mark { number: 3, tape: Tape::Yellow },
        Form::Mesh { mesh: MeshId(7), size: mesh.size(), outline: mesh.outline(), scale: 1.5 },
        Form::Card {
            image: ImageId(9),
            width: 2.0,
            height: 1.0,
            toward: None,
            sequence: Some(Sequence { images: vec![ImageId(9), ImageId(10)], rate: 24.0, start_s: 0.0 }),
        },
        Form::Opening { width: 1.0, height: 1.0 },
    ];
    let mut pieces: Vec<Piece> = forms
        .into_iter()
        .enumerate()
        .map(|(i, form)| Piece::new(&format!("piece {i}"), form, [i as f64, 0.0, 1.25]))
        .collect();
    pieces[2].turn_deg = 33.0;
    pieces[3].hidden = true;
    pieces[5].group = GroupId(2);
    let mut assets = Assets::default();
    assets.meshes.insert(MeshId(7), Arc::new(mesh));
    assets.images.insert(ImageId(9), Arc::new(png(8, 4)));
    (pieces, assets)
}

fn read(bytes: &[u8]) -> ImportedSet {
    gltf_set::read(bytes, "prop").unwrap().content
}

#[test]
fn a_set_that_is_written_and_read_again_is_equal() {
    let (pieces, assets) = set();
    let alone = glb::write_set(&pieces, &assets);
    let track = Track::default();
    let playing = PerformanceTimeline::default();
    let camera = Camera::default();
    let shot = glb::Shot {
        name: "take".into(),
        track: &track,
        camera,
        pieces: &pieces,
        setup: SetupId(1),
        playing: &playing,
        assets: &assets,
    };
    for bytes in [alone, glb::write(&shot)] {
        let back = read(&bytes);
        for (was, is) in pieces.iter().zip(&back.pieces) {
            match (&was.form, &is.form) {
                (Form::Mesh { .. }, Form::Mesh { mesh, size, scale, .. }) => {
                    assert_eq!(
                        (back.assets.meshes[mesh].as_ref(), *size, *scale),
                        (&pyramid(), pyramid().size(), 1.5)
                    );
                    assert_eq!((is.position, is.turn_deg), (was.position, was.turn_deg));
                }
                (Form::Card { width, .. }, Form::Card { image, width: now, sequence, .. }) => {
                    // Images by numbers of another production mean nothing here.
                    assert_eq!(*sequence, None);
                    assert_eq!((&back.assets.images[image], now), (&assets.images[&ImageId(9)], width));
                    assert_eq!((is.position, is.group), (was.position, was.group));
                }
                _ => assert_eq!(is, was),
            }
        }
        assert_eq!(back.pieces.len(), pieces.len());
    }
}

#[test]
fn what_is_taken_out_for_a_setup_has_no_shape_in_its_shot_and_no_setups_in_a_file() {
    let (mut pieces, assets) = set();
    pieces.truncate(2);
    pieces[1].wild = vec![SetupId(4)];
    let (track, playing) = (Track::default(), PerformanceTimeline::default());
    let shown = |setup: u32| {
        let shot = glb::Shot {
            pieces: &pieces,
            setup: SetupId(setup),
            playing: &playing,
            assets: &assets,
            ..glb::Shot::of_track(&track)
        };
        let bytes = glb::write(&shot);
        let (json, _) = parts(&bytes);
        let nodes: Vec<bool> =
            json["nodes"].as_array().unwrap().iter().map(|n| n.get("mesh").is_some()).collect();
        assert!(read(&bytes).pieces.iter().all(|p| p.wild.is_empty()));
        // The camera's node comes first.
        nodes[1..].to_vec()
    };
    assert_eq!((shown(4), shown(5)), (vec![true, false], vec![true, true]));
}

#[test]
fn without_its_memory_a_set_is_one_mesh_of_the_same_size() {
    let form = Form::Block { size: [4.0, 3.0, 0.5], material: Material::Brick };
    let mut piece = Piece::new("block", form, [2.0, 0.25, 5.0]);
    piece.turn_deg = 90.0;
    let (mut json, bin) = parts(&glb::write_set(&[piece], &Assets::default()));
    json["nodes"][0].as_object_mut().unwrap().remove("extras");
    let back = read(&whole(&json, &bin));
    let Form::Mesh { mesh, size, ref outline, .. } = back.pieces[0].form else { panic!("a mesh") };
    assert!(size.iter().zip([0.5, 3.0, 4.0]).all(|(a, b)| (a - b).abs() < 1e-5), "{size:?}");
    assert_eq!((outline.len(), back.assets.meshes[&mesh].triangles.len()), (4, 12));
    assert!(back.pieces[0].position.iter().zip([2.0, 0.25, 5.0]).all(|(a, b)| (a - b).abs() < 1e-5));
}

#[test]
fn textures_colour_the_corners_they_lie_on() {
    let (pieces, assets) = set();
    let (mut json, bin) = parts(&glb::write_set(&pieces[5..6], &assets));
    json["nodes"][0].as_object_mut().unwrap().remove("extras");
    let back = read(&whole(&json, &bin));
    let Form::Mesh { mesh, .. } = back.pieces[0].form else { panic!("a mesh") };
    let mesh = &back.assets.meshes[&mesh];
    for (place, color) in mesh.places.iter().zip(&mesh.colors) {
        // Corners lie exactly on the image's edges, where a repeated image meets itself.
        assert!(color[1] < 20 && color[2] == 0, "{place:?} {color:?}");
    }
}

/// The description of a binary file and its data.
fn parts(glb: &[u8]) -> (Value, Vec<u8>) {
    let word = |at: usize| u32::from_le_bytes(glb[at..at + 4].try_into().unwrap()) as usize;
    let end = 20 + word(12);
    (serde_json::from_slice(&glb[20..end]).unwrap(), glb.get(end + 8..).unwrap_or(&[]).to_vec())
}

fn whole(json: &Value, bin: &[u8]) -> Vec<u8> {
    let mut text = json.to_string().into_bytes();
    text.resize(text.len().next_multiple_of(4), b' ');
    let total = 12 + 8 + text.len() + 8 + bin.len();
    let mut out = b"glTF".to_vec();
    out.extend(2u32.to_le_bytes());
    out.extend((total as u32).to_le_bytes());
    out.extend((text.len() as u32).to_le_bytes());
    out.extend(b"JSON");
    out.extend(text);
    out.extend((bin.len() as u32).to_le_bytes());
    out.extend(b"BIN\0");
    out.extend(bin);
    out
}

/// A plain triangle, to be broken.
fn triangle() -> (Value, Vec<u8>) {
    let places = [0.0f32, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0];
    let mut bin: Vec<u8> = places.iter().flat_map(|v| v.to_le_bytes()).collect();
    bin.extend([0u32, 1, 2].iter().flat_map(|v| v.to_le_bytes()));
    let json = json!({
        "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0]}], "nodes": [{"mesh": 0}],
        "meshes": [{"primitives": [{"attributes": {"POSITION": 0}, "indices": 1}]}],
        "accessors": [
            {"bufferView": 0, "componentType": 5126, "count": 3, "type": "VEC3", "min": [0, 0, 0], "max": [1, 1, 0]},
            {"bufferView": 1, "componentType": 5125, "count": 3, "type": "SCALAR"},
        ],
        "bufferViews": [
            {"buffer": 0, "byteOffset": 0, "byteLength": 36}, {"buffer": 0, "byteOffset": 36, "byteLength": 12},
        ],
        "buffers": [{"byteLength": 48}],
    });
    (json, bin)
}

fn set_at(path: &str, value: Value) -> Vec<u8> {
    let (mut json, bin) = triangle();
    let (parent, key) = path.rsplit_once('/').unwrap();
    let parent = json.pointer_mut(parent).unwrap();
    match parent {
        Value::Array(list) => list[key.parse::<usize>().unwrap()] = value,
        _ => parent[key] = value,
    }
    whole(&json, &bin)
}

#[test]
fn broken_files_are_refused_with_a_sentence() {
    let (json, bin) = triangle();
    let good = whole(&json, &bin);
    assert_eq!(read(&good).pieces.len(), 1);
    let patched = |at: usize, bytes: &[u8]| {
        let mut file = good.clone();
        file[at..at + bytes.len()].copy_from_slice(bytes);
        file
    };
    let with_bin = |f: &dyn Fn(&mut Vec<u8>)| {
        let mut bin = bin.clone();
        f(&mut bin);
        whole(&json, &bin)
    };
    let many = MOST_TRIANGLES + 1;
    let mut huge_bin = bin.clone();
    huge_bin.extend((0..many * 3).flat_map(|i| ((i % 3) as u32).to_le_bytes()));
    let (mut huge, _) = triangle();
    huge["buffers"][0]["byteLength"] = huge_bin.len().into();
    huge["bufferViews"][1] = json!({"buffer": 0, "byteOffset": 48, "byteLength": many * 12});
    huge["accessors"][1]["count"] = (many * 3).into();
    let image = |bytes: &[u8]| {
        use base64::Engine;
        let uri =
            format!("data:image/png;base64,{}", base64::engine::general_purpose::STANDARD.encode(bytes));
        set_at("/images", json!([{ "uri": uri }]))
    };
    let cases: Vec<(&str, Vec<u8>, &str)> = vec![
        ("nothing", vec![], "empty"),
        ("a picture", png(4, 4), "not glTF"),
        ("a text", b"o cube\nv 1 2 3\n".to_vec(), "not glTF"),
        ("version 1", patched(4, &[1, 0, 0, 0]), "glTF 1"),
        ("half a header", good[..9].to_vec(), "header"),
        ("cut off", good[..good.len() - 20].to_vec(), "missing"),
        ("half a description", json.to_string()[..100].into(), "cut off"),
        ("garbled description", patched(24, b"\0\0\0"), "cannot be read"),
        ("no asset", set_at("/asset", json!({})), "cannot be read"),
        ("asset of the future", set_at("/asset/version", json!("3.0")), "3.0"),
        ("no scene", set_at("/scenes", json!([])), "not valid"),
        ("nothing in the scene", set_at("/scenes/0/nodes", json!([])), "no triangles"),
        ("only points", set_at("/meshes/0/primitives/0/mode", json!(0)), "no triangles"),
        ("compressed", set_at("/extensionsRequired", json!(["KHR_draco_mesh_compression"])), "draco"),
        ("another file", set_at("/buffers/0/uri", json!("hall.bin")), "hall.bin"),
        (
            "bad base64",
            set_at("/buffers/0/uri", json!("data:application/octet-stream;base64,@@@")),
            "cannot be read",
        ),
        ("too little data", set_at("/buffers/0/byteLength", json!(4800)), "missing"),
        ("view outside", set_at("/bufferViews/1/byteOffset", json!(40)), "outside"),
        ("view far outside", set_at("/bufferViews/1/byteOffset", json!(u64::MAX)), "outside"),
        ("list too long", set_at("/accessors/0/count", json!(300)), "longer"),
        ("list endless", set_at("/accessors/0/count", json!(u64::MAX)), "longer"),
        ("no positions", set_at("/meshes/0/primitives/0/attributes", json!({"NORMAL": 0})), "not valid"),
        ("flat positions", set_at("/accessors/0/type", json!("VEC2")), "positions"),
        ("corner that is not there", with_bin(&|b| b[36] = 9), "corner"),
        ("not a number", with_bin(&|b| b[..4].copy_from_slice(&f32::NAN.to_le_bytes())), "not a number"),
        ("too many triangles", whole(&huge, &huge_bin), "400000"),
        ("ring of nodes", set_at("/nodes/0/children", json!([0])), "ring"),
        ("too large", set_at("/nodes/0/scale", json!([4000, 4000, 4000])), "unit"),
        (
            "sparse",
            set_at(
                "/accessors/1/sparse",
                json!({"count": 1, "indices": {"bufferView": 1, "componentType": 5125}, "values": {"bufferView": 1}}),
            ),
            "sparse",
        ),
        ("image too large", image(&png(5000, 1)), "pixels"),
        ("image cut off", image(&png(8, 4)[..40]), "damaged"),
        ("no image", image(b"hello"), "neither"),
    ];
    assert!(cases.len() >= 20);
    for (name, bytes, word) in cases {
        let error = gltf_set::read(&bytes, "prop").map(|r| r.content.pieces).expect_err(name);
        assert!(error.to_string().contains(word), "{name}: {error}");
    }
}

#[test]
fn damaged_files_never_panic() {
    let (pieces, assets) = set();
    let good = glb::write_set(&pieces, &assets);
    let mut state = 7u64;
    let mut random = || {
        state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (state >> 33) as usize
    };
    for _ in 0..3000 {
        let mut bytes = good.clone();
        for _ in 0..1 + random() % 6 {
            let at = random() % bytes.len();
            bytes[at] = random() as u8;
        }
        if random() % 4 == 0 {
            bytes.truncate(random() % bytes.len());
        }
        let _ = gltf_set::read(&bytes, "prop");
    }
}

#[test]
fn reading_says_how_far_it_is_and_can_be_stopped() {
    let (mut pieces, mut assets) = set();
    for image in 10..13 {
        let form =
            Form::Card { image: ImageId(image), width: 1.0, height: 1.0, toward: None, sequence: None };
        pieces.push(Piece::new("card", form, [0.0; 3]));
        assets.images.insert(ImageId(image), Arc::new(png(700, 300)));
    }
    let bytes = glb::write_set(&pieces, &assets);
    let mut told = Vec::new();
    let whole = gltf_set::read_while(&bytes, "prop", &mut |share| {
        told.push(share);
        true
    });
    assert_eq!(whole.unwrap().content.pieces.len(), pieces.len());
    assert_eq!(told, [0.0, 0.2, 0.4, 0.6]);
    let mut left = 2;
    let stopped = gltf_set::read_while(&bytes, "prop", &mut |_| {
        left -= 1;
        left > 0
    });
    assert_eq!(stopped.map(|_| ()).unwrap_err().sentence, "it was stopped; nothing of it came in");
    assert_eq!(left, 0);
}
