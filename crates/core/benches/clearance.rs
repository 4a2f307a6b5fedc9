//! The room that a crane has on a set of 600 solids with six people: what one look costs.

use rovnek_core::clearance::{Around, MachineHulls, MeshHulls, Obstacles};
use rovnek_core::ids::{PerformanceId, PerformerId, PieceId, SetupId};
use rovnek_core::lens::Camera;
use rovnek_core::performer::{Clips, Part, PartMotion, Performer, Posture, Route, Waypoint};
use rovnek_core::playing::PerformanceTimeline;
use rovnek_core::rigs::{RigSpec, TelescopicCrane};
use rovnek_core::set::{Form, Piece};
use rovnek_core::solid::Material;
use std::sync::Arc;
use std::time::Instant;

fn walker(k: u32) -> Performer {
    let at = |time_s: f64, x: f64| Waypoint {
        time_s,
        stop_s: 0.0,
        position: [x, 0.0, f64::from(k) - 3.0],
        facing_deg: None,
        posture: Posture::Stand,
        mark: None,
    };
    let route = Route { waypoints: vec![at(0.0, -4.0), at(20.0, 4.0)].into() };
    let part = Part { performance: PerformanceId(1), rides: None, motion: PartMotion::Walks { route } };
    Performer {
        id: PerformerId(100 + k),
        name: format!("walker {k}"),
        height_m: 1.75,
        build: 1.0,
        parts: vec![part],
    }
}

fn main() {
    let block = |k: u32| {
        let (row, column) = (f64::from(k / 24), f64::from(k % 24));
        let form = Form::Block { size: [0.4, 0.9, 0.4], material: Material::Timber };
        let piece = Piece::new("block", form, [column - 12.0, 0.0, row - 12.0]);
        Piece { id: PieceId(k + 1), turn_deg: f64::from(k) * 7.0, ..piece }
    };
    let pieces: Vec<Piece> = (0..600).map(block).collect();
    let people: Vec<Performer> = (0..6).map(walker).collect();
    let playing = Arc::new(PerformanceTimeline::compile(&pieces, &people, PerformanceId(1), &Clips::new()));
    let obstacles = Obstacles::of(&pieces, &playing, &MeshHulls::new());
    let rig = RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default());
    let hulls = MachineHulls::of(&*rig);
    for (name, up) in [("among them", 0.0), ("above them", 0.35)] {
        let mut times = Vec::new();
        for k in 0..2000 {
            let mut axes: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
            axes[0] += f64::from(k) * 0.003;
            axes[1] += up;
            let poses = rig.body_poses(&axes);
            let around = Around { time_s: f64::from(k) * 0.01, setup: SetupId(1), ..Around::default() };
            let start = Instant::now();
            std::hint::black_box(obstacles.clearance(&hulls, &poses, &around));
            times.push(start.elapsed().as_secs_f64() * 1e6);
        }
        times.sort_by(f64::total_cmp);
        println!(
            "clearance {name}: {:.0} µs median, {:.0} µs 99 %, {:.0} µs most",
            times[1000], times[1980], times[1999]
        );
    }
}
