//! Who is lost, outside the picture, and who is covered, behind something: for how long.

use super::{Air, HZ, LENGTH_S, aim, motion, seen, to};
use crate::common::walks;
use glam::{DQuat, DVec3};
use rovnek_core::clearance::Obstacles;
use rovnek_core::ids::{PerformanceId, PerformerId, PieceId, SetupId};
use rovnek_core::lens::Camera;
use rovnek_core::measures::{Before, Lost, covered_times, lost};
use rovnek_core::performer::Clips;
use rovnek_core::playing::{PerformanceTimeline, SubjectPoints};
use rovnek_core::set::{Form, Piece};
use rovnek_core::solid::Material;
use rovnek_core::space::Pose;
use rovnek_core::track::{LensState, Track};
use rovnek_core::treatments::Aim;
use std::sync::Arc;

#[test]
fn whom_a_move_is_about_is_lost_as_long_as_they_are_outside_the_frame() {
    let air = Air::new();
    let context = air.context();
    let rows = motion(air.rig.axes()).samples.len();
    let mut still = motion(air.rig.axes());
    for (i, axis) in air.rig.axes().iter().enumerate() {
        let value = [0.0, 1.5, 0.0].get(i).copied().unwrap_or(if i < 6 { 0.0 } else { axis.start });
        still.samples.set_column(i, &vec![value; rows]);
    }
    // A narrow lens sees the first one go by: from where to where, the picture's own edges say.
    let zoom = air.rig.axes().len() - 3;
    still.samples.set_column(zoom, &vec![75.0; rows]);
    let [first, ..] = &seen(&still, &context, PerformerId(1))[..] else { panic!("there are rows") };
    assert!(first.0 < -1.0);
    let kept = aim(Aim { turns: vec![to(PerformerId(1))], ..Aim::default() }).apply(&still, &context);
    let people = [walks(1, &[]), walks(2, &[])];
    let people = SubjectPoints::of(&air.playing, &people, LENGTH_S);
    let [raw, now] = [&still, &kept].map(|m| m.track(&*air.rig));
    // Before the camera finds them they are not lost; gone by, they are until they come back.
    let inside: Vec<usize> = seen(&still, &context, PerformerId(1))
        .iter()
        .enumerate()
        .filter(|(_, (x, y))| x.abs() <= 1.0 && y.abs() <= 1.0)
        .map(|(k, _)| k)
        .collect();
    let between = (inside[inside.len() - 1] - inside[0] + 1 - inside.len()) as f64 / HZ;
    let by = lost_of(&raw, &now, &people);
    assert_eq!((by.who, by.now_s, by.first_s), (PerformerId(1), 0.0, None));
    assert!(between > 3.0 && (by.raw_s - between).abs() < 4.0 / 24.0, "{} {between}", by.raw_s);
    // Turned away for a second and a half and back again, they are: as the picture's own edges say.
    let pan = air.rig.axes().iter().position(|a| a.name == "pan").unwrap();
    let mut away = kept.clone();
    let turned: Vec<f64> = kept
        .samples
        .column(pan)
        .into_iter()
        .enumerate()
        .map(|(k, v)| if (3.0..4.5).contains(&(k as f64 / HZ)) { v - 2.0 } else { v })
        .collect();
    away.samples.set_column(pan, &turned);
    let outside =
        seen(&away, &context, PerformerId(1)).iter().filter(|(x, y)| x.abs() > 1.0 || y.abs() > 1.0).count();
    let lost = lost_of(&now, &away.track(&*air.rig), &people);
    assert_eq!((lost.who, lost.raw_s), (PerformerId(1), 0.0));
    // Within two frames: it is looked at 24 times a second.
    assert!((lost.now_s - outside as f64 / HZ).abs() < 2.0 / 24.0, "{} {}", lost.now_s, outside as f64 / HZ);
    assert!((lost.first_s.unwrap() - 3.0).abs() < 2.0 / 24.0);
}

/// A post between the lens and somebody who walks behind it: how long both their eyes and their chest are
/// behind it is told by the two lines from the lens past its sides.
#[test]
fn whoever_walks_behind_a_post_is_covered_as_long_as_the_lines_past_its_sides_say() {
    let who = walks(7, &[(0.0, [-3.0, 0.0, -6.0]), (6.0, [3.0, 0.0, -6.0])]);
    let form = Form::Block { size: [0.5, 3.0, 0.2], material: Material::Timber };
    let post = Piece { id: PieceId(3), ..Piece::new("post", form, [0.0, 0.0, -3.0]) };
    let playing = Arc::new(PerformanceTimeline::compile(
        std::slice::from_ref(&post),
        std::slice::from_ref(&who),
        PerformanceId(1),
        &Clips::new(),
    ));
    let people = SubjectPoints::of(&playing, std::slice::from_ref(&who), 6.0);
    let camera = Camera { focal_mm: 24.0, ..Camera::default() };
    let lens = LensState { focal_mm: 24.0, focus_m: 6.0, f_stop: 4.0 };
    let eye = Pose::new(DVec3::new(0.0, 1.5, 0.0), DQuat::IDENTITY);
    let track = Track::from_poses((0..=720).map(|k| (f64::from(k) / 120.0, eye, lens)));
    let obstacles = Obstacles::of(std::slice::from_ref(&post), &playing, &Default::default());
    let covered = |obstacles: &Obstacles, setup| {
        covered_times(&track, &camera, &people, 0, Before { obstacles, setup })
    };
    let [time] = covered(&obstacles, SetupId(1))[..] else { panic!("{:?}", covered(&obstacles, SetupId(1))) };
    // The near edge of the post, 2.9 m away, is half a metre wide: 6 m away, what is behind it is as much wider.
    let (half, inside) = (0.25 * 6.0 / 2.9, |t: f64| people.at(t).next().unwrap().1);
    let hidden = (0..=720).map(|k| f64::from(k) / 120.0).filter(|t| {
        let p = inside(*t);
        [p.eyes, p.chest].iter().all(|place| place.x.abs() < half)
    });
    let hidden: Vec<f64> = hidden.collect();
    let (from, to) = (hidden[0], hidden[hidden.len() - 1]);
    assert!(
        (time.from_s - from).abs() < 2.0 / 24.0 && (time.to_s - to).abs() < 2.0 / 24.0,
        "{time:?} {from} {to}"
    );
    assert!(time.length_s() > 0.5, "{time:?}");
    // Taken out for a setup, it covers nobody there; and nothing behind them does.
    let wild = Piece { wild: vec![SetupId(2)], ..post.clone() };
    let without = Obstacles::of(&[wild], &playing, &Default::default());
    assert_eq!((covered(&without, SetupId(2)).len(), covered(&without, SetupId(1)).len()), (0, 1));
    let behind = Piece { position: [0.0, 0.0, -9.0], ..post };
    assert_eq!(covered(&Obstacles::of(&[behind], &playing, &Default::default()), SetupId(1)), []);
}

fn lost_of(raw: &Track, now: &Track, people: &SubjectPoints) -> Lost {
    lost(raw, now, &Camera::default(), people).unwrap()
}
