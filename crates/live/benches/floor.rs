//! Eleven machines on one set, all live: how long a step of the floor takes, driven by hand, and
//! with every one of them led by a move. At 240 Hz a step has 4.17 ms; the target is a median
//! under 1 ms.

use rovnek_core::clearance::Obstacles;
use rovnek_core::follow::CameraTarget;
use rovnek_core::lens::Camera;
use rovnek_core::motion::Motion;
use rovnek_core::rigs::{Rig, RigSpec};
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

fn main() {
    let block = |i: i32| {
        let form = Form::Block { size: [1.0, 2.0, 0.5], material: Material::Concrete };
        Piece::new("block", form, [f64::from(i % 15) * 2.0 - 14.0, 0.0, f64::from(i / 15) * 2.0 - 12.0])
    };
    let blocks: Vec<Piece> = (0..200).map(block).collect();
    let walls =
        Arc::new(blocks.iter().flat_map(|b| b.solids(&[])).map(|s| Wall::around(&s)).collect::<Vec<_>>());
    let obstacles = Arc::new(Obstacles::of(&blocks, &Default::default(), &Default::default()));
    let placed = |(id, spec): (u32, RigSpec)| Placed {
        setup_id: id,
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
        let mut floor = Floor::new(staged, 9);
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
