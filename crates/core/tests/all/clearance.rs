//! How much room a machine has, against thousands of points on its surface and the distance from a
//! point to a solid in closed form.

use crate::common::{Dice, walks};
use glam::{DVec2, DVec3};
use rovnek_core::clearance::{Around, Clearance, Hull, MachineHulls, MeshHulls, Nearest, Obstacles};
use rovnek_core::ids::{MeshId, PerformanceId, PieceId, SetupId};
use rovnek_core::lens::Camera;
use rovnek_core::mesh::Mesh;
use rovnek_core::performer::Clips;
use rovnek_core::playing::{MoverId, PerformanceTimeline};
use rovnek_core::rigs::{FreeCamera, Rig, RigSpec, TelescopicCrane, TrackDolly, Tripod};
use rovnek_core::set::{Form, Piece};
use rovnek_core::solid::{Material, Shape, Solid};
use rovnek_core::space::Pose;
use std::sync::Arc;

/// Metres from a place to a solid; 0 within it. Wedges are left to a case of their own.
fn away(solid: &Solid, place: DVec3) -> f64 {
    let p = solid.pose.rotation.conjugate() * (place - solid.pose.position);
    match solid.body.shape {
        Shape::Box { size } | Shape::Wedge { size } => {
            let half = DVec3::from(size) / 2.0;
            (p.abs() - half).max(DVec3::ZERO).length()
        }
        Shape::Cylinder { radius, height } => {
            let out = DVec2::new(p.x.hypot(p.z) - radius, p.y.abs() - height / 2.0);
            out.max(DVec2::ZERO).length()
        }
        Shape::Ball { radius } => (p.length() - radius).max(0.0),
    }
}

/// Points all over the surface of a shape, none farther than about `step` from the next.
fn surface(shape: &Shape, step: f64) -> Vec<DVec3> {
    let even = |length: f64| {
        let n = (length / step).ceil().max(1.0) as usize;
        (0..=n).map(move |i| length * (i as f64 / n as f64 - 0.5)).collect::<Vec<_>>()
    };
    let round = |radius: f64| {
        let n = (std::f64::consts::TAU * radius / step).ceil().max(8.0) as usize;
        (0..n).map(move |i| DVec2::from_angle(std::f64::consts::TAU * i as f64 / n as f64) * radius)
    };
    match *shape {
        Shape::Box { size } | Shape::Wedge { size } => {
            let mut points = Vec::new();
            for k in 0..3 {
                let (a, b) = ((k + 1) % 3, (k + 2) % 3);
                for u in even(size[a]) {
                    for v in even(size[b]) {
                        for side in [-0.5, 0.5] {
                            let mut p = DVec3::ZERO;
                            (p[k], p[a], p[b]) = (side * size[k], u, v);
                            points.push(p);
                        }
                    }
                }
            }
            points
        }
        Shape::Cylinder { radius, height } => {
            let side =
                even(height).into_iter().flat_map(|y| round(radius).map(move |c| DVec3::new(c.x, y, c.y)));
            let rings = even(2.0 * radius).into_iter().filter(|r| *r >= 0.0);
            let ends = rings
                .flat_map(|r| round(r).collect::<Vec<_>>())
                .flat_map(|c| [-0.5, 0.5].map(|end| DVec3::new(c.x, end * height, c.y)));
            side.chain(ends).collect()
        }
        Shape::Ball { radius } => even(2.0 * radius)
            .into_iter()
            .flat_map(|y| {
                let r = (radius * radius - y * y).max(0.0).sqrt();
                round(r).map(move |c| DVec3::new(c.x, y, c.y)).collect::<Vec<_>>()
            })
            .collect(),
    }
}

struct Stage {
    pieces: Vec<Piece>,
    playing: Arc<PerformanceTimeline>,
}

/// Walls, a tram, pillars, a gallery, a table and two who walk.
fn stage() -> Stage {
    let timber = Material::Timber;
    let forms = [
        ("back wall", Form::Wall { size: [12.0, 5.0, 0.2], material: Material::Brick }, [0.0, 0.0, -6.0]),
        ("tram", Form::Tram { length: 9.0, bays: 5, lit: true }, [-4.0, 0.0, -2.5]),
        (
            "pillars",
            Form::Pillars { count: 3, spacing: 3.0, width: 0.4, height: 4.5, base: true },
            [4.5, 0.0, 0.0],
        ),
        ("gallery", Form::Gallery { size: [8.0, 3.0, 1.4] }, [0.0, 0.0, 5.0]),
        ("table", Form::Block { size: [1.4, 0.8, 0.7], material: timber }, [1.5, 0.0, 1.0]),
        ("barrel", Form::Round { radius: 0.4, height: 1.1, material: timber }, [-1.0, 0.0, 2.0]),
    ];
    let mut pieces: Vec<Piece> = forms
        .into_iter()
        .enumerate()
        .map(|(i, (name, form, at))| Piece { id: PieceId(i as u32 + 1), ..Piece::new(name, form, at) })
        .collect();
    pieces[4].turn_deg = 25.0;
    let people = [
        walks(7, &[(0.0, [-2.0, 0.0, 0.0]), (12.0, [3.0, 0.0, 2.5])]),
        walks(8, &[(0.0, [2.0, 0.0, -3.0]), (12.0, [-1.0, 0.0, -1.0])]),
    ];
    let playing = Arc::new(PerformanceTimeline::compile(&pieces, &people, PerformanceId(1), &Clips::new()));
    Stage { pieces, playing }
}

impl Stage {
    fn solids(&self, time_s: f64) -> Vec<(MoverId, Solid)> {
        let standing = self
            .pieces
            .iter()
            .flat_map(|p| p.solids(&self.pieces).into_iter().map(|s| (MoverId::Piece(p.id), s)));
        let moving = self.playing.movers.iter().enumerate().flat_map(|(i, m)| {
            let put = |(body, pose): (&_, Pose)| (m.of, Solid { body: Clone::clone(body), pose });
            m.bodies.iter().zip(self.playing.poses(i, time_s)).map(put).collect::<Vec<_>>()
        });
        standing.chain(moving).collect()
    }

    fn obstacles(&self) -> Obstacles {
        Obstacles::of(&self.pieces, &self.playing, &MeshHulls::new())
    }
}

fn now(time_s: f64) -> Around<'static> {
    Around { time_s, setup: SetupId(1), ..Around::default() }
}

/// The same by sampling: every part of the machine on a grid, to every solid that is not underfoot.
fn sampled(rig: &dyn Rig, poses: &[Pose], solids: &[(MoverId, Solid)], step: f64) -> (f64, MoverId) {
    let bottom = |shape: &Shape, pose: &Pose| {
        let corners = surface(shape, 0.2);
        corners.iter().map(|p| (pose.position + pose.rotation * *p).y).fold(f64::INFINITY, f64::min)
    };
    let last = poses.len() - 1;
    let foot = (0..last).map(|i| bottom(&rig.bodies()[i].shape, &poses[i])).fold(f64::INFINITY, f64::min);
    let top = |s: &Solid| {
        surface(&s.body.shape, 0.2)
            .iter()
            .map(|p| (s.pose.position + s.pose.rotation * *p).y)
            .fold(f64::NEG_INFINITY, f64::max)
    };
    let in_the_way: Vec<&(MoverId, Solid)> =
        solids.iter().filter(|(of, s)| matches!(of, MoverId::Performer(_)) || top(s) > foot + 0.1).collect();
    let mut best = (f64::INFINITY, MoverId::Piece(PieceId(0)));
    for (body, pose) in rig.bodies().iter().zip(poses) {
        for p in surface(&body.shape, step) {
            let place = pose.position + pose.rotation * p;
            for (of, solid) in &in_the_way {
                // Only what can be nearer is measured.
                let distance = away(solid, place);
                if distance < best.0 {
                    best = (distance, *of);
                }
            }
        }
    }
    best
}

#[test]
fn the_room_is_what_dense_sampling_finds_within_a_centimetre() {
    let (stage, mut dice) = (stage(), Dice::new());
    let (obstacles, camera) = (stage.obstacles(), Camera::default());
    let specs: [RigSpec; 3] = [
        RigSpec::TelescopicCrane(TelescopicCrane {
            base_x_m: 1.0,
            base_z_m: 2.6,
            ..TelescopicCrane::default()
        }),
        RigSpec::TrackDolly(TrackDolly::default()),
        RigSpec::Tripod(Tripod::default()),
    ];
    let (mut clear, mut met) = (0, 0);
    for k in 0..24 {
        let rig = specs[k % 3].build(&camera);
        let axes: Vec<f64> = rig
            .axes()
            .iter()
            .map(|a| {
                let (low, high) = (a.min.max(a.start - 2.0), a.max.min(a.start + 2.0));
                dice.between(low, high)
            })
            .collect();
        let (poses, time_s) = (rig.body_poses(&axes), dice.between(0.0, 12.0));
        let found = obstacles.clearance(&MachineHulls::of(&*rig), &poses, &now(time_s));
        let (wanted, whom) = sampled(&*rig, &poses, &stage.solids(time_s), 0.01);
        let Some(Clearance { distance_m, to, .. }) = found else {
            assert!(wanted > 5.0, "{k}: nothing found, sampling finds {wanted} of {whom:?}");
            continue;
        };
        if distance_m == 0.0 {
            assert!(wanted < 0.01, "{k}: a hit of {to:?}, sampling finds {wanted} of {whom:?}");
            met += 1;
        } else {
            // What is sampled is never nearer than what is nearest.
            assert!(
                (-1e-6..0.01).contains(&(wanted - distance_m)),
                "{k}: {distance_m} of {to:?}, {wanted} of {whom:?}"
            );
            clear += 1;
        }
    }
    assert!(clear >= 6 && met >= 3, "{clear} clear and {met} hits say little");
}

#[test]
fn a_lens_and_a_wall_near_and_hit() {
    let wall = Form::Wall { size: [4.0, 3.0, 0.2], material: Material::Plaster };
    let pieces =
        [Piece { id: PieceId(3), wild: vec![SetupId(5)], ..Piece::new("wall", wall, [0.0, 0.0, -5.0]) }];
    let playing = Arc::new(PerformanceTimeline::compile(&pieces, &[], PerformanceId(1), &Clips::new()));
    let obstacles = Obstacles::of(&pieces, &playing, &MeshHulls::new());
    let rig = RigSpec::FreeCamera(FreeCamera::default()).build(&Camera::default());
    let at = |z: f64| {
        let mut axes: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        axes[..6].copy_from_slice(&[0.0, 1.5, z, 0.0, 0.0, 0.0]);
        axes
    };
    let room = |z: f64, around: &Around| {
        obstacles.clearance(&MachineHulls::of(&*rig), &rig.body_poses(&at(z)), around)
    };
    // The camera is drawn from 0.09 m before its lens on.
    let found = room(-4.4, &now(0.0)).unwrap();
    assert!((found.distance_m - (0.6 - 0.1 - 0.09)).abs() < 1e-9, "{found:?}");
    assert_eq!((found.of, found.to), (Nearest::Lens, MoverId::Piece(PieceId(3))));
    assert_eq!(room(-4.95, &now(0.0)).unwrap().distance_m, 0.0);
    assert_eq!(room(0.5, &now(0.0)), None, "what is farther than 5 m is not looked for");
    // A wall that is taken out for a setup is nothing to run into.
    assert_eq!(room(-4.4, &Around { setup: SetupId(5), ..now(0.0) }), None);
}

#[test]
fn what_a_machine_stands_on_and_what_carries_it_are_not_in_its_way() {
    let rig = RigSpec::Tripod(Tripod::default()).build(&Camera::default());
    let poses = rig.body_poses(&rig.axes().iter().map(|a| a.start).collect::<Vec<_>>());
    let room = |height: f64, around: &Around| {
        let pieces = [
            Piece {
                id: PieceId(1),
                ..Piece::new("platform", Form::Platform { size: [4.0, height, 4.0] }, [0.0; 3])
            },
            Piece {
                id: PieceId(2),
                ..Piece::new("rails", Form::Rails { length: 8.0, gauge: 1.0 }, [0.0; 3])
            },
        ];
        let playing = Arc::new(PerformanceTimeline::compile(&pieces, &[], PerformanceId(1), &Clips::new()));
        Obstacles::of(&pieces, &playing, &MeshHulls::new()).clearance(
            &MachineHulls::of(&*rig),
            &poses,
            around,
        )
    };
    assert_eq!(room(0.06, &now(0.0)), None);
    // So high, it stands in the middle of it.
    let found = room(0.5, &now(0.0)).unwrap();
    assert_eq!((found.distance_m, found.of, found.to), (0.0, Nearest::Machine, MoverId::Piece(PieceId(1))));
    // Carried by it, only the lens minds it.
    let found = room(0.5, &Around { carrier: Some(MoverId::Piece(PieceId(1))), ..now(0.0) }).unwrap();
    assert!(found.of == Nearest::Lens && found.distance_m > 0.3, "{found:?}");
}

#[test]
fn a_mesh_is_as_near_as_its_triangles_and_bigger_where_it_is_scaled() {
    let corner = |x: f32, y: f32| [x, y, 0.0];
    let mesh = Mesh {
        places: vec![corner(-1.0, 0.0), corner(1.0, 0.0), corner(0.0, 2.0)],
        triangles: vec![[0, 1, 2]],
        ..Mesh::default()
    };
    // The lens looks at its middle, or from above its tip: the lower edge of what is drawn of the camera is
    // then 0.39 m over it, and 1.91 m before it.
    for (scale, expected) in [(1.0, 1.91), (0.5, 1.91f64.hypot(1.39 - 1.0))] {
        let form = Form::Mesh { mesh: MeshId(4), size: [2.0, 2.0, 0.0], scale, outline: vec![] };
        let pieces = [Piece { id: PieceId(9), ..Piece::new("sail", form, [0.0, 0.0, -2.0]) }];
        let playing = Arc::new(PerformanceTimeline::compile(&pieces, &[], PerformanceId(1), &Clips::new()));
        let hull = Arc::new(Hull::of_mesh(&mesh).unwrap());
        let obstacles = Obstacles::of(&pieces, &playing, &MeshHulls::from([(MeshId(4), hull)]));
        let rig = RigSpec::FreeCamera(FreeCamera::default()).build(&Camera::default());
        let mut axes: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        axes[..6].copy_from_slice(&[0.0, 1.5, 0.0, 0.0, 0.0, 0.0]);
        let found = obstacles.clearance(&MachineHulls::of(&*rig), &rig.body_poses(&axes), &now(0.0)).unwrap();
        assert!((found.distance_m - expected).abs() < 1e-6, "{scale}: {found:?}, {expected}");
    }
    assert!(Hull::of_mesh(&Mesh::default()).is_none(), "nothing has no surface");
}

/// Hills of some thousand triangles, each of them asked for by itself: the tree finds the same, and a crane in
/// a dense mesh is answered within its bound.
#[test]
fn the_tree_of_a_mesh_finds_what_all_its_triangles_one_by_one_say() {
    const N: u32 = 24;
    let place = |i: u32, j: u32| {
        let (x, z) = (12.0 * i as f32 / N as f32 - 6.0, 12.0 * j as f32 / N as f32 - 6.0);
        [x, 0.3 * (1.7 * x).sin() * (1.3 * z).cos(), z]
    };
    let places: Vec<[f32; 3]> = (0..=N).flat_map(|i| (0..=N).map(move |j| place(i, j))).collect();
    let square = |i: u32, j: u32| {
        let at = i * (N + 1) + j;
        [[at, at + 1, at + N + 1], [at + 1, at + N + 2, at + N + 1]]
    };
    let triangles: Vec<[u32; 3]> = (0..N).flat_map(|i| (0..N).flat_map(move |j| square(i, j))).collect();
    let form = |mesh| Form::Mesh { mesh, size: [12.0, 0.6, 12.0], scale: 1.5, outline: vec![] };
    let whole = Mesh { places: places.clone(), triangles: triangles.clone(), ..Mesh::default() };
    let playing = Arc::new(PerformanceTimeline::default());
    let hills = |mesh: &Mesh| {
        let pieces = [Piece { id: PieceId(9), ..Piece::new("hills", form(MeshId(4)), [0.0, 0.0, 0.0]) }];
        Obstacles::of(
            &pieces,
            &playing,
            &MeshHulls::from([(MeshId(4), Arc::new(Hull::of_mesh(mesh).unwrap()))]),
        )
    };
    let all = hills(&whole);
    let each: Vec<Obstacles> = triangles
        .iter()
        .map(|t| hills(&Mesh { places: places.clone(), triangles: vec![*t], ..Mesh::default() }))
        .collect();
    let rig = RigSpec::FreeCamera(FreeCamera::default()).build(&Camera::default());
    let hulls = MachineHulls::of(&*rig);
    let mut dice = Dice::new();
    for _ in 0..12 {
        let mut axes: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        for (axis, far) in [(0, 5.0), (2, 5.0), (3, 3.0), (4, 1.2)] {
            axes[axis] = dice.between(-far, far);
        }
        axes[1] = dice.between(0.6, 3.0);
        let poses = rig.body_poses(&axes);
        let of =
            |o: &Obstacles| o.clearance(&hulls, &poses, &now(0.0)).map_or(f64::INFINITY, |c| c.distance_m);
        let (found, nearest) = (of(&all), each.iter().map(of).fold(f64::INFINITY, f64::min));
        assert!((found - nearest).abs() < 1e-6, "{found} {nearest}");
    }
}
