//! Eleven machines on one set, all live: how long a step of the floor takes, driven by hand, and
//! with every one of them led by a move. At 240 Hz a step has 4.17 ms; the target is a median
//! under 1 ms.
//!
//! Then a crane over a mesh of 405 000 triangles that is all in reach: a step, which is to take under 0.1 ms
//! (median), and one answer of the thread that finds the room.

use rovnek_core::clearance::{Hull, Obstacles};
use rovnek_core::follow::CameraTarget;
use rovnek_core::ids::{MeshId, PieceId, SetupId};
use rovnek_core::lens::Camera;
use rovnek_core::mesh::Mesh;
use rovnek_core::motion::Motion;
use rovnek_core::rigs::{Rig, RigSpec, TelescopicCrane};
use rovnek_core::samples::Samples;
use rovnek_core::set::{Form, Piece};
use rovnek_core::solid::Material;
use rovnek_core::time::{Rate, Timebase};
use rovnek_core::walls::Wall;
use rovnek_live::command::Command;
use rovnek_live::floor::{Floor, Placed, Staged};
use rovnek_live::wire::encode;
use std::sync::Arc;
use std::time::Instant;

fn target(rig: &dyn Rig) -> CameraTarget {
    let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
    let row = |k: usize| {
        let mut row = start.clone();
        row[0] += 0.2 * (k as f64 / 120.0).sin();
        row
    };
    let samples = Samples::new(120.0, start.len(), (0..2400).flat_map(row).collect());
    CameraTarget::of(&Motion::plain(samples).track(rig)).expect("it has samples")
}

/// Hills and hollows of 0.6 m over 20 × 20 m, of 450 × 450 × 2 triangles.
fn hills() -> Mesh {
    const N: u32 = 450;
    let place = |i: u32, j: u32| {
        let (x, z) = (20.0 * i as f32 / N as f32 - 10.0, 20.0 * j as f32 / N as f32 - 10.0);
        [x, 0.3 + 0.3 * (1.7 * x).sin() * (1.3 * z).cos(), z]
    };
    let places: Vec<[f32; 3]> = (0..=N).flat_map(|i| (0..=N).map(move |j| place(i, j))).collect();
    let square = |i: u32, j: u32| {
        let at = i * (N + 1) + j;
        [[at, at + 1, at + N + 1], [at + 1, at + N + 2, at + N + 1]]
    };
    let triangles = (0..N).flat_map(|i| (0..N).flat_map(move |j| square(i, j))).collect();
    Mesh { places, triangles, ..Mesh::default() }
}

/// A crane that swings over the hills.
fn among_hills() {
    let mesh = hills();
    let count = mesh.triangles.len();
    let hull = Arc::new(Hull::of_mesh(&mesh).expect("it has a surface"));
    let form = Form::Mesh { mesh: MeshId(4), size: [20.0, 0.6, 20.0], scale: 1.0, outline: vec![] };
    let pieces = [Piece { id: PieceId(1), ..Piece::new("hills", form, [0.0, 0.0, 0.0]) }];
    let obstacles = Obstacles::of(&pieces, &Default::default(), &[(MeshId(4), hull)].into());
    let staged = Staged {
        setups: vec![Placed {
            setup_id: SetupId(1),
            camera: Camera::default(),
            rig: RigSpec::TelescopicCrane(TelescopicCrane::default()).into(),
            positions: Vec::new(),
            keyed: Default::default(),
            target: None,
            carrier: None,
            tracking: Default::default(),
            walls: Arc::default(),
        }],
        scene_length_s: 20.0,
        timebase: Timebase { rate: Rate::FILM, start_frame: 0 },
        people: Default::default(),
        cast: Default::default(),
        obstacles: Arc::new(obstacles),
    };
    let mut floor = Floor::new(staged, SetupId(1));
    floor.join(1);
    let (mut steps, mut answers) = (Vec::new(), Vec::new());
    for k in 0..4800 {
        if k % 15 == 0 {
            let rates = vec![if k % 960 < 480 { 0.6 } else { -0.6 }; floor.axes().len()];
            floor.command(1, Command::Drive { rates, nudges: vec![], fine: false });
        }
        let before = Instant::now();
        floor.step();
        if k % 4 == 0 {
            std::hint::black_box(encode(&floor.state()));
        }
        steps.push(before.elapsed().as_secs_f64() * 1e3);
        // What the thread beside the floor does ten times a second.
        if k % 24 == 0 {
            let question = floor.room_question();
            let before = Instant::now();
            let answer = std::hint::black_box(question.answer());
            answers.push(before.elapsed().as_secs_f64() * 1e3);
            floor.told_room(answer);
        }
    }
    steps.sort_by(f64::total_cmp);
    answers.sort_by(f64::total_cmp);
    let at = |all: &[f64], share: f64| all[((all.len() - 1) as f64 * share) as usize];
    println!(
        "{count} triangles in reach: a step takes {:.4} ms (median), {:.4} ms (99th percentile), target 0.1 ms; \
         the room beside it {:.2} ms (median), {:.2} ms (most)",
        at(&steps, 0.5),
        at(&steps, 0.99),
        at(&answers, 0.5),
        at(&answers, 1.0)
    );
}

fn main() {
    among_hills();
    let block = |i: i32| {
        let form = Form::Block { size: [1.0, 2.0, 0.5], material: Material::Concrete };
        Piece::new("block", form, [f64::from(i % 15) * 2.0 - 14.0, 0.0, f64::from(i / 15) * 2.0 - 12.0])
    };
    let blocks: Vec<Piece> = (0..200).map(block).collect();
    let walls =
        Arc::new(blocks.iter().flat_map(|b| b.solids(&[])).map(|s| Wall::around(&s)).collect::<Vec<_>>());
    let obstacles = Arc::new(Obstacles::of(&blocks, &Default::default(), &Default::default()));
    let placed = |(id, spec): (u32, RigSpec)| Placed {
        setup_id: SetupId(id),
        camera: Camera::default(),
        rig: spec.into(),
        positions: Vec::new(),
        keyed: Default::default(),
        target: None,
        carrier: None,
        tracking: Default::default(),
        walls: walls.clone(),
    };
    let setups: Vec<Placed> = (1..).zip(RigSpec::all()).map(placed).collect();
    let targets: Vec<Arc<CameraTarget>> =
        setups.iter().map(|s| Arc::new(target(&*s.rig.build(&s.camera)))).collect();
    let timebase = Timebase { rate: Rate::FILM, start_frame: 0 };
    let staged = Staged {
        setups,
        scene_length_s: 20.0,
        timebase,
        people: Default::default(),
        cast: Default::default(),
        obstacles,
    };
    for follow in [false, true] {
        // Setup 9 is the free camera.
        let mut staged = staged.clone();
        if follow {
            for (setup, target) in staged.setups.iter_mut().zip(&targets) {
                setup.target = Some(target.clone());
            }
        }
        let mut floor = Floor::new(staged, SetupId(9));
        floor.join(1);
        let mut times = Vec::with_capacity(2400);
        for k in 0..2400 {
            if k % 15 == 0 {
                let rates = vec![if k % 480 < 240 { 0.7 } else { -0.7 }; floor.axes().len()];
                floor.command(1, Command::Drive { rates, nudges: vec![], fine: false });
            }
            let before = Instant::now();
            floor.step();
            if k % 4 == 0 {
                std::hint::black_box(encode(&floor.state()));
            }
            times.push(before.elapsed().as_secs_f64() * 1e3);
        }
        times.sort_by(f64::total_cmp);
        println!(
            "{} machines live, 200 walls{}: a step takes {:.3} ms (median), {:.3} ms (99th percentile); target 1 ms",
            targets.len(),
            if follow { ", every one led by a move" } else { "" },
            times[times.len() / 2],
            times[times.len() * 99 / 100],
        );
    }
}
