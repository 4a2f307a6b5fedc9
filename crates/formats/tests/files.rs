//! Twenty thousand broken files for every reader. Each begins as one that is whole, and is then cut,
//! spliced, and given numbers and words that its reader knows and does not expect there.
//! `ROVNEK_FUZZ` asks for another count.

mod dice;

use dice::{Dice, resident_kb};
use rovnek_core::axis::Axis;
use rovnek_core::lens::Camera;
use rovnek_core::rigs::{RigSpec, TelescopicCrane};
use rovnek_core::samples::Samples;
use rovnek_core::space::{PanTiltRoll, Pose};
use rovnek_core::track::{LensState, Track};
use rovnek_core::{DQuat, DVec3};
use rovnek_formats::tracking::capture::{self, Packet};
use rovnek_formats::tracking::{freed, opentrackio, phone};
use rovnek_formats::tum::{CameraFrame, TumOptions, UpAxis};
use rovnek_formats::{
    LONGEST_S, MOST_POINTS, ReadFormat, WriteFormat, axes_csv, bvh, gltf_camera, gltf_set, read, write,
};

const LENS: LensState = LensState { focal_mm: 35.0, focus_m: 5.0, f_stop: 4.0 };
/// Files of each reader.
const FILES: usize = 20_000;
/// Longer ones are cut: what is looked for is found in short ones, and sooner.
const LONGEST: usize = 1 << 16;
/// Most memory that all of it may take, kB.
const MOST_KB: usize = 256 << 10;

/// Numbers and marks that break things.
const WORDS: [&str; 24] = [
    "1e308",
    "-1e308",
    "1e-308",
    "1e999",
    "NaN",
    "inf",
    "-inf",
    "-0",
    "0",
    "-1",
    "99999999999999999999",
    "4294967296",
    "2147483648",
    "0.0000001",
    "null",
    "\"\"",
    "\u{feff}",
    "\u{0}",
    "\r\n",
    "\n\n",
    ",,",
    "  ",
    "🎬",
    "#",
];

struct Reader {
    name: &'static str,
    whole: Vec<Vec<u8>>,
    words: &'static [&'static str],
    /// Whether it could be read.
    read: fn(&[u8]) -> bool,
}

/// Two who dance.
const FIGURE: &[u8] = include_bytes!("../../../reference/values/figure.gltf");

fn track() -> Track {
    let at = |i: usize| {
        let t = i as f64 / 24.0;
        let turn = PanTiltRoll { pan: 0.2 * t, tilt: 0.1, roll: 0.0 }.to_rotation();
        (t, Pose::new(DVec3::new(t, 1.5, -t), turn), LensState { focal_mm: 35.0 + t, ..LENS })
    };
    Track::from_poses((0..12).map(at))
}

/// What was read of a track is one that can be made even.
fn bounded(track: &Track) -> bool {
    assert!(!track.points.is_empty() && track.points.len() <= MOST_POINTS);
    assert!(track.duration_s() <= LONGEST_S + 1e-3, "{} s", track.duration_s());
    assert!(track.points.iter().all(|p| p.position.is_finite() && p.pose().rotation.is_finite()));
    let even = track.resampled(if track.duration_s() < 60.0 { 120.0 } else { 1.0 });
    assert!(!even.points.is_empty());
    true
}

fn read_track(format: ReadFormat, bytes: &[u8], options: &TumOptions) -> bool {
    read(format, bytes, options).is_ok_and(|read| bounded(&read.content))
}

fn crane() -> Vec<Axis> {
    RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default()).axes().to_vec()
}

/// A table of a machine's axes as it is written.
fn axes_file() -> Vec<u8> {
    let axes = crane();
    let rows = (0..12).flat_map(|k| axes.iter().map(move |a| a.start + 0.001 * f64::from(k)));
    axes_csv::write(&Samples::new(24.0, axes.len(), rows.collect()), 0, &axes)
}

const BVH: &str = "HIERARCHY\nROOT Hips\n{\n OFFSET 0 0 0\n CHANNELS 6 Xposition Yposition Zposition Zrotation Xrotation Yrotation\n \
 JOINT Spine\n {\n  OFFSET 0 40 0\n  CHANNELS 3 Zrotation Xrotation Yrotation\n  JOINT Head\n  {\n   OFFSET 0 25 0\n   \
 CHANNELS 3 Zrotation Xrotation Yrotation\n   End Site\n   {\n    OFFSET 0 10 0\n   }\n  }\n }\n}\nMOTION\nFrames: 3\nFrame Time: 0.0333333\n\
0 90 0 0 0 0 1 2 3 4 5 6\n1 90 0 0 0 0 1 2 3 4 5 6\n2 90 0 0 0 0 1 2 3 4 5 6\n";

const SET: &str = r#"{"asset":{"version":"2.0"},"scenes":[{"nodes":[0]}],"scene":0,
 "nodes":[{"name":"room","children":[1]},{"name":"table","mesh":0,"translation":[1,0,2],"rotation":[0,0.7071,0,0.7071],"scale":[1,1,1]}],
 "meshes":[{"primitives":[{"attributes":{"POSITION":0},"indices":1,"mode":4}]}],
 "buffers":[{"byteLength":44,"uri":"data:application/octet-stream;base64,AAAAAAAAAAAAAAAAAACAPwAAAAAAAAAAAAAAAAAAgD8AAAAAAAABAAIAAAA="}],
 "bufferViews":[{"buffer":0,"byteOffset":0,"byteLength":36},{"buffer":0,"byteOffset":36,"byteLength":6}],
 "accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3","min":[0,0,0],"max":[1,1,0]},{"bufferView":1,"componentType":5123,"count":3,"type":"SCALAR"}]}"#;

fn packet() -> Vec<u8> {
    let data = freed::write(3, Pose::new(DVec3::new(1.0, 2.0, 3.0), DQuat::IDENTITY), 0.2, 0.8).to_vec();
    let at = |k: u32| Packet { time_s: f64::from(k) / 60.0, port: 40_000, data: data.clone() };
    capture::write(&[at(0), at(1), at(2)])
}

fn readers() -> Vec<Reader> {
    let of = |format: WriteFormat| vec![write(format, &track())];
    let gltf: &[&str] = &[
        "\"byteLength\":",
        "\"count\":",
        "\"bufferView\":99",
        "\"children\":[0]",
        "\"type\":\"VEC4\"",
        "\"interpolation\":\"CUBICSPLINE\"",
        "\"componentType\":5121",
        "\"scale\":[0,0,0]",
        "\"sparse\":{}",
    ];
    let json: &[&str] = &["\"num\":0", "\"denom\":0", "\"seconds\":", "\"transforms\":[]", "[[[[", "{\"a\":"];
    let tum_read = |bytes: &[u8]| {
        [UpAxis::Z, UpAxis::Y, UpAxis::MinusY].into_iter().all(|up| {
            let options = TumOptions { up, camera: CameraFrame::Body, ..TumOptions::default() };
            read_track(ReadFormat::Tum, bytes, &options)
        })
    };
    vec![
        Reader {
            name: "csv",
            whole: of(WriteFormat::Csv),
            words: &["time_s", "focal_mm", "x_m,x_m", "\"", ";"],
            read: |bytes| read_track(ReadFormat::Csv, bytes, &TumOptions::default()),
        },
        Reader { name: "tum", whole: of(WriteFormat::Tum), words: &["# ", "0 0 0 0"], read: tum_read },
        Reader {
            name: "opentrackio lines",
            whole: of(WriteFormat::OpenTrackIo),
            words: json,
            read: |bytes| opentrackio::read_lines(bytes, LENS).is_ok_and(|read| bounded(&read.content)),
        },
        Reader {
            name: "gltf camera",
            whole: of(WriteFormat::Glb),
            words: gltf,
            read: |bytes| gltf_camera::read(bytes, LENS, 36.0).is_ok_and(|read| bounded(&read.content)),
        },
        Reader {
            name: "gltf set",
            whole: vec![SET.into(), write(WriteFormat::Glb, &track()), FIGURE.into()],
            words: gltf,
            read: |bytes| gltf_set::read(bytes, "set").is_ok(),
        },
        Reader {
            name: "axes csv",
            whole: vec![axes_file()],
            words: &["time_s", "swing_deg", "frame", "\"", ";"],
            read: |bytes| axes_csv::read(bytes, &crane()).is_ok(),
        },
        Reader {
            name: "bvh",
            whole: vec![BVH.into()],
            words: &["JOINT a {", "End Site", "}", "{", "CHANNELS 9", "Frames: 1000000000", "Frame Time: 0"],
            read: |bytes| bvh::read(bytes).is_ok(),
        },
        Reader {
            name: "capture",
            whole: vec![packet()],
            words: &[],
            read: |bytes| capture::read(bytes).is_ok(),
        },
        Reader {
            name: "phone",
            whole: vec![br#"{"turn": [0, 90, 0], "ahead": 0.5, "side": -0.2, "up": 0.1}"#.to_vec()],
            words: &["\"turn\":[]", "[1,2,3,4]", "-"],
            read: |bytes| {
                let mut carried = phone::Carried::default();
                phone::PhoneState::read(bytes).is_ok_and(|held| {
                    let s = carried.moved(&held, 0.02);
                    assert!(s.pose.position.is_finite() && s.pose.rotation.is_finite());
                    true
                })
            },
        },
    ]
}

/// The digits at a place or after it.
fn number_from(file: &[u8], at: usize) -> Option<std::ops::Range<usize>> {
    let part = |b: &u8| b.is_ascii_digit() || b"+-.eE".contains(b);
    let begins = at + file[at..].iter().position(u8::is_ascii_digit)?;
    Some(begins..begins + file[begins..].iter().take_while(|b| part(b)).count())
}

fn broken(dice: &mut Dice, reader: &Reader) -> Vec<u8> {
    let mut file = reader.whole[dice.roll(reader.whole.len())].clone();
    for _ in 0..1 + dice.roll(5) {
        let at = dice.roll(file.len().max(1));
        let to = (at + dice.roll(40)).min(file.len());
        let known = WORDS.len() + reader.words.len();
        let k = dice.roll(known);
        let word = WORDS.get(k).unwrap_or_else(|| &reader.words[k - WORDS.len()]).as_bytes().to_vec();
        match dice.roll(8) {
            _ if file.is_empty() => file = word,
            0 => file[at] ^= 1 << dice.roll(8),
            1 => file.truncate(at),
            2 => drop(file.splice(at..at, word)),
            3 => drop(file.drain(at..to)),
            4 => {
                let again = file[at..to].repeat(1 + dice.roll(60));
                drop(file.splice(at..at, again));
            }
            5 => drop(file.splice(at..to, word)),
            _ => {
                if let Some(number) = number_from(&file, at) {
                    drop(file.splice(number, word));
                }
            }
        }
        file.truncate(LONGEST);
    }
    file
}

/// Whether a file could be read by a reader that came back from it.
fn outlived(reader: &Reader, file: &[u8]) -> bool {
    std::panic::catch_unwind(|| (reader.read)(file)).unwrap_or_else(|panic| {
        drop(std::panic::take_hook());
        let why = panic.downcast_ref::<String>().cloned();
        panic!("{} falls over {:?}: {why:?}", reader.name, String::from_utf8_lossy(file))
    })
}

#[test]
fn no_broken_file_ends_a_reader() {
    let count = std::env::var("ROVNEK_FUZZ").ok().and_then(|n| n.parse().ok()).unwrap_or(FILES);
    let mut dice = Dice(0x9E37_79B9_7F4A_7C15);
    // The library that reads glTF panics now and then; its reader here catches that, which is not told
    // thousands of times.
    std::panic::set_hook(Box::new(|_| ()));
    for reader in readers() {
        assert!(reader.whole.iter().any(|file| (reader.read)(file)), "{}: one is whole", reader.name);
        let read = (0..count).filter(|_| outlived(&reader, &broken(&mut dice, &reader))).count();
        println!("{}: {read} of {count} could be read", reader.name);
        // Most are broken, and some are not: what breaks them reaches what reads them.
        assert!(read < count && read > 0, "{}: {read}", reader.name);
    }
    drop(std::panic::take_hook());
    let most = resident_kb("VmHWM");
    println!("{} MB at the most", most >> 10);
    assert!(most < MOST_KB, "{most} kB");
}
