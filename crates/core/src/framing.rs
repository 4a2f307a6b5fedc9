//! Frame of a camera: cameras found from a drawn frame, and shot sizes.
//!
//! **Method.** A frame drawn in a picture is given by two opposite corners as directions from the
//! eye. A camera at the eye whose frame has those corners looks along the middle of the two; its
//! half diagonal is half the angle between them. Kept level, its roll is zero: then the first
//! corner stays where it was drawn, the size is that of the drawn diagonal, and pan and tilt
//! follow in closed form. Tilted, both corners stay and the roll follows from the diagonal.

use crate::lens::Camera;
use crate::performer::Points;
use crate::space::{PanTiltRoll, Pose};
use glam::{DMat3, DQuat, DVec3};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A camera direction and a lens that see a drawn frame.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Drawn {
    /// Rotation of the camera.
    pub rotation: DQuat,
    /// Focal length that shows the drawn frame and no more, millimetres.
    pub focal_mm: f64,
}

/// The smallest and the largest frame that can be drawn, corner to corner.
const DIAGONAL: std::ops::Range<f64> = 0.002..2.9;

/// The camera that sees a frame drawn from one corner to the opposite one, both directions from
/// the eye; `right` and `up` say which way was drawn as the eye sees it. A sentence where there
/// is no such camera.
pub fn drawn(
    camera: &Camera,
    corner: DVec3,
    opposite: DVec3,
    (right, up): (bool, bool),
    tilted: bool,
) -> Result<Drawn, String> {
    let (a, b) = (corner.try_normalize(), opposite.try_normalize());
    let (Some(a), Some(b)) = (a, b) else { return Err("the frame needs two corners".into()) };
    let diagonal = 2.0 * (a - b).length().atan2((a + b).length());
    if !DIAGONAL.contains(&diagonal) {
        return Err(format!(
            "the frame is {:.1} ° from corner to corner; draw one between 0.2 ° and 166 °",
            diagonal.to_degrees()
        ));
    }
    let aspect = camera.frame_aspect;
    let half = (diagonal / 2.0).tan();
    let high = half / aspect.hypot(1.0);
    // The first corner lies left of the middle when drawn to the right, above it when drawn down.
    let sign = |positive: bool| if positive { 1.0 } else { -1.0 };
    let (x, y) = (-sign(right) * high * aspect, -sign(up) * high);
    let rotation = if tilted {
        through_both(a, b, x, y)
    } else {
        level(a, b, x, y).ok_or("a level camera cannot look there; draw lower, or tilt the frame")?
    };
    Ok(Drawn { rotation, focal_mm: camera.frame_mm().1 / 2.0 / high })
}

/// Turned so that the camera's own (x, y, −1) lies along `a` and (−x, −y, −1) along `b`.
fn through_both(a: DVec3, b: DVec3, x: f64, y: f64) -> DQuat {
    let basis = |a: DVec3, b: DVec3| {
        let forward = (a + b).normalize();
        let across = (a - b).normalize();
        DMat3::from_cols(forward, across, forward.cross(across))
    };
    let (p, q) = (DVec3::new(x, y, -1.0).normalize(), DVec3::new(-x, -y, -1.0).normalize());
    DQuat::from_mat3(&(basis(a, b) * basis(p, q).transpose())).normalize()
}

/// Turned without roll so that the camera's own (x, y, −1) lies along `a`, and the opposite corner
/// as near to `b` as may be: there are two such turns, one of them past the vertical.
fn level(a: DVec3, b: DVec3, x: f64, y: f64) -> Option<DQuat> {
    let length = x.hypot(y).hypot(1.0);
    // The height of a after tilting by t: y·cos t + sin t, over the length.
    let sine = a.y * length / y.hypot(1.0);
    if sine.abs() > 1.0 {
        return None;
    }
    let turned = |tilt: f64| {
        let ahead = tilt.cos() - y * tilt.sin();
        let pan = a.x.atan2(-a.z) - x.atan2(ahead);
        let rotation = PanTiltRoll { pan, tilt, roll: 0.0 }.to_rotation();
        (tilt.abs() <= std::f64::consts::FRAC_PI_2).then_some(rotation)
    };
    let near = |r: &DQuat| (*r * DVec3::new(-x, -y, -1.0)).dot(b);
    let tilts = [sine.asin(), std::f64::consts::PI - sine.asin(), -std::f64::consts::PI - sine.asin()];
    let found = tilts.into_iter().filter_map(|t| turned(t - y.atan()));
    found.max_by(|p, q| near(p).total_cmp(&near(q)))
}

/// How a camera of some roll looks when it sees a direction at a place in its picture, given at a
/// distance of 1 to the right and up. Where no camera can, straight above or below, as near as may be.
pub fn seeing(direction: DVec3, (x, y): (f64, f64), roll: f64) -> PanTiltRoll {
    let d = direction.normalize_or(DVec3::NEG_Z);
    let p = PanTiltRoll { pan: 0.0, tilt: 0.0, roll }.to_rotation() * DVec3::new(x, y, -1.0);
    // The height of p after tilting by t is p.y·cos t + sin t.
    let sine = d.y * p.length() / p.y.hypot(1.0);
    let tilt = sine.clamp(-1.0, 1.0).asin() - p.y.atan();
    let pan = d.x.atan2(-d.z) - p.x.atan2(tilt.cos() - p.y * tilt.sin());
    PanTiltRoll { pan, tilt, roll }
}

/// The corners of the frame as directions: upper left, upper right, lower right, lower left.
pub fn corners(camera: &Camera, focal_mm: f64, rotation: DQuat) -> [DVec3; 4] {
    let (x, y) = camera.half_frame(focal_mm);
    [(-x, y), (x, y), (x, -y), (-x, -y)].map(|(x, y)| rotation * DVec3::new(x, y, -1.0).normalize())
}

/// Where a point is in the frame, −1 to 1 across and up, and how far before the camera; none
/// behind it.
pub fn projected(camera: &Camera, focal_mm: f64, eye: Pose, point: DVec3) -> Option<(f64, f64, f64)> {
    let p = eye.rotation.conjugate() * (point - eye.position);
    let (x, y) = camera.half_frame(focal_mm);
    (p.z < -1e-9).then(|| (p.x / -p.z / x, p.y / -p.z / y, -p.z))
}

/// True if a point is in the frame.
pub fn in_frame(camera: &Camera, focal_mm: f64, eye: Pose, point: DVec3) -> bool {
    projected(camera, focal_mm, eye, point).is_some_and(|(x, y, _)| x.abs() <= 1.0 && y.abs() <= 1.0)
}

/// How large somebody is in the frame.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
#[allow(missing_docs)]
pub enum ShotSize {
    Wide,
    Full,
    Middle,
    Tight,
    VeryTight,
}

impl ShotSize {
    /// Code on the wire: 1 for the widest to 5 for the tightest; 0 for nobody.
    pub fn code(self) -> u8 {
        self as u8 + 1
    }

    /// By how many frames high the whole figure would be (common practice, no source): below half
    /// a frame the place counts; up to about one the whole figure is in; to 2.2 from the hips or
    /// waist up; to 5 head and shoulders; beyond, the face.
    pub fn of(share: f64) -> ShotSize {
        match share {
            s if s < 0.5 => ShotSize::Wide,
            s if s < 1.1 => ShotSize::Full,
            s if s < 2.2 => ShotSize::Middle,
            s if s < 5.0 => ShotSize::Tight,
            _ => ShotSize::VeryTight,
        }
    }
}

/// Somebody as the frame sees them.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Seen {
    /// Index in the given list.
    pub index: usize,
    /// How long the whole figure is in the picture, from above its head to below its feet, over the
    /// height of the frame.
    pub share: f64,
}

/// Half of the shoulders' breadth over the height of somebody (0.26; common practice, no source).
const HALF_BREADTH: f64 = 0.13;
/// Distance below which a point counts as this near, metres.
const NEAREST_M: f64 = 0.05;

/// Length of a figure in the picture, over the height of the frame.
fn share(camera: &Camera, focal_mm: f64, eye: Pose, feet: DVec3, height_m: f64) -> f64 {
    length_at(eye, feet, height_m) / (2.0 * camera.half_frame(focal_mm).1)
}

/// How long somebody is in a picture at a distance of 1: seen from above it is hardly more than their
/// shoulders. They are taken for an upright capsule, as high and as broad as they are.
pub fn length_at(eye: Pose, feet: DVec3, height_m: f64) -> f64 {
    let round = HALF_BREADTH * height_m;
    let seen = |above_m: f64| {
        let p = eye.rotation.conjugate() * (feet + DVec3::Y * above_m - eye.position);
        let far = (-p.z).max(NEAREST_M);
        (p.x / far, p.y / far, round / far)
    };
    let (low, high) = (seen(round), seen(height_m - round));
    (high.0 - low.0).hypot(high.1 - low.1) + low.2 + high.2
}

/// Share of the frame's height from which a figure fills the picture.
const FILLS: f64 = 0.5;
/// Places along somebody that are looked at.
const ALONG: usize = 33;

/// True if somebody is in the picture: their eyes or their chest are in the frame, or what is to be seen of
/// them fills half of its height.
pub fn in_picture(camera: &Camera, focal_mm: f64, eye: Pose, points: &Points, height_m: f64) -> bool {
    let inside = |p: DVec3| in_frame(camera, focal_mm, eye, p);
    if inside(points.eyes) || inside(points.chest) {
        return true;
    }
    // From the feet to the eyes, and on to the top of the head.
    let upright = points.eyes - points.feet;
    let top = points.eyes + DVec3::Y * (height_m - upright.length()).clamp(0.0, 0.3);
    let half = camera.half_frame(focal_mm).1;
    let seen = (0..ALONG).filter_map(|k| {
        let place = points.feet.lerp(top, k as f64 / (ALONG - 1) as f64);
        projected(camera, focal_mm, eye, place).filter(|(x, y, _)| x.abs() <= 1.0 && y.abs() <= 1.0)
    });
    let ends = seen.map(|(x, y, _)| (x * camera.half_frame(focal_mm).0, y * half));
    let (mut first, mut last) = (None, None);
    for place in ends {
        first = first.or(Some(place));
        last = Some(place);
    }
    let (Some((x, y)), Some((u, v))) = (first, last) else { return false };
    (u - x).hypot(v - y) >= FILLS * 2.0 * half
}

/// The largest of those who are in the picture.
pub fn subject(
    camera: &Camera,
    focal_mm: f64,
    eye: Pose,
    people: impl Iterator<Item = (f64, Points)>,
) -> Option<Seen> {
    let seen = people.enumerate().filter_map(|(index, (height_m, points))| {
        let share = share(camera, focal_mm, eye, points.feet, height_m);
        in_picture(camera, focal_mm, eye, &points, height_m).then_some(Seen { index, share })
    });
    seen.max_by(|a, b| a.share.total_cmp(&b.share))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn camera(frame_aspect: f64) -> Camera {
        Camera { frame_aspect, ..Camera::default() }
    }

    /// The drawn corners of a camera's own frame, drawn down to the right.
    fn diagonal(camera: &Camera, focal_mm: f64, rotation: DQuat) -> (DVec3, DVec3) {
        let [a, _, b, _] = corners(camera, focal_mm, rotation);
        (a, b)
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(1000))]

        #[test]
        fn a_tilted_frame_is_seen_exactly(
            pan in -3.1..3.1, tilt in -1.3..1.3, roll in -1.5..1.5, focal in 9.0..300.0, aspect in 0.5..2.4,
        ) {
            let camera = camera(aspect);
            let rotation = PanTiltRoll { pan, tilt, roll }.to_rotation();
            let (a, b) = diagonal(&camera, focal, rotation);
            let found = drawn(&camera, a * 3.0, b * 0.5, (true, false), true).unwrap();
            prop_assert!((found.focal_mm - focal).abs() < 1e-9 * focal.max(1.0) * 10.0);
            let eye = Pose::new(DVec3::new(1.0, 2.0, 3.0), found.rotation);
            let wanted = [(-1.0, 1.0), (1.0, 1.0), (1.0, -1.0), (-1.0, -1.0)];
            for (corner, (x, y)) in corners(&camera, focal, rotation).into_iter().zip(wanted) {
                let at = projected(&camera, found.focal_mm, eye, eye.position + corner * 7.0).unwrap();
                prop_assert!((at.0 - x).abs() < 1e-9 && (at.1 - y).abs() < 1e-9, "{at:?}");
            }
        }

        #[test]
        fn a_level_frame_keeps_its_first_corner_its_size_and_its_horizon(
            pan in -3.1..3.1, tilt in -1.0..1.0, focal in 20.0..300.0, aspect in 0.5..2.4,
            right in any::<bool>(), up in any::<bool>(),
        ) {
            let camera = camera(aspect);
            let rotation = PanTiltRoll { pan, tilt, roll: 0.0 }.to_rotation();
            let [tl, tr, br, bl] = corners(&camera, focal, rotation);
            let (a, b) = match (right, up) {
                (true, false) => (tl, br),
                (false, false) => (tr, bl),
                (true, true) => (bl, tr),
                (false, true) => (br, tl),
            };
            let found = drawn(&camera, a, b, (right, up), false).unwrap();
            prop_assert!(PanTiltRoll::from_rotation(found.rotation).roll.abs() < 1e-9);
            // A frame that was level to begin with is found again, every corner of it.
            let eye = Pose::new(DVec3::ZERO, found.rotation);
            for (corner, (x, y)) in [tl, tr, br, bl].into_iter().zip([(-1.0, 1.0), (1.0, 1.0), (1.0, -1.0), (-1.0, -1.0)]) {
                let at = projected(&camera, found.focal_mm, eye, corner).unwrap();
                prop_assert!((at.0 - x).abs() < 1e-9 && (at.1 - y).abs() < 1e-9, "{at:?}");
            }
        }

        #[test]
        fn any_two_corners_give_a_level_frame_with_the_first_one_in_its_corner(
            ax in -0.8..0.8, ay in -0.5..0.5, bx in 0.05..0.8, by in 0.05..0.5, tilt in -0.5..0.5,
        ) {
            let camera = camera(1.85);
            let view = PanTiltRoll { pan: 0.4, tilt, roll: 0.0 }.to_rotation();
            let a = view * DVec3::new(ax, ay, -1.0);
            let b = view * DVec3::new(ax + bx, ay - by, -1.0);
            if let Ok(found) = drawn(&camera, a, b, (true, false), false) {
                let at = projected(&camera, found.focal_mm, Pose::new(DVec3::ZERO, found.rotation), a).unwrap();
                prop_assert!((at.0 + 1.0).abs() < 1e-9 && (at.1 - 1.0).abs() < 1e-9, "{at:?}");
            }
        }
    }

    /// A long lens on the hips: neither eyes nor chest are in the frame, and somebody fills it.
    #[test]
    fn whoever_fills_the_frame_is_in_the_picture() {
        let c = camera(1.78);
        let points = Points {
            feet: DVec3::new(0.0, 0.0, -4.0),
            chest: DVec3::new(0.0, 1.3, -4.0),
            eyes: DVec3::new(0.0, 1.65, -4.0),
        };
        let seen = |y: f64, focal: f64| {
            in_picture(&c, focal, Pose::new(DVec3::new(0.0, y, 0.0), DQuat::IDENTITY), &points, 1.75)
        };
        assert!(seen(0.9, 100.0) && seen(1.4, 100.0));
        // Only feet at the lower edge, or nothing at all, are not somebody in the picture.
        assert!(!seen(-0.3, 100.0) && !seen(4.0, 100.0));
        let beside = Points {
            feet: points.feet + DVec3::X * 3.0,
            chest: points.chest + DVec3::X * 3.0,
            eyes: points.eyes + DVec3::X * 3.0,
        };
        assert!(!in_picture(&c, 100.0, Pose::new(DVec3::new(0.0, 0.9, 0.0), DQuat::IDENTITY), &beside, 1.75));
    }

    #[test]
    fn a_point_is_no_frame() {
        let a = DVec3::NEG_Z;
        assert!(drawn(&camera(2.39), a, a, (true, true), false).unwrap_err().contains("corner"));
        assert!(drawn(&camera(2.39), DVec3::ZERO, a, (true, true), false).is_err());
        let (up, side) = (DVec3::new(0.0, 1.0, -0.01), DVec3::new(1.0, 0.9, -0.01));
        assert!(drawn(&camera(2.39), up, side, (true, false), false).unwrap_err().contains("level"));
    }

    #[test]
    fn the_nearest_in_frame_is_the_subject_and_its_size_has_a_name() {
        let person = |x: f64, z: f64| {
            let at = DVec3::new(x, 0.0, z);
            (1.8, Points { feet: at, chest: at.with_y(1.3), eyes: at.with_y(1.68) })
        };
        let eye = Pose::new(DVec3::new(0.0, 1.6, 0.0), DQuat::IDENTITY);
        let c = Camera { frame_aspect: 24.89 / 18.66, ..Camera::default() };
        let seen = |people: Vec<(f64, Points)>| subject(&c, 35.0, eye, people.into_iter());
        // 18.66 mm of sensor at 35 mm see 3.2 m at 6 m: 1.8 m of them.
        let found = seen(vec![person(0.0, -12.0), person(0.5, -6.0), person(9.0, -2.0)]).unwrap();
        assert_eq!(found.index, 1);
        assert!((found.share - 1.8 / (18.66 / 35.0 * 6.0)).abs() < 1e-12);
        assert_eq!(ShotSize::of(found.share), ShotSize::Full);
        assert!(seen(vec![person(0.0, 5.0)]).is_none());
        // From 80° above, 6 m away: as long as shoulders and a sixth of the height.
        let steep = 80f64.to_radians();
        let above = PanTiltRoll { pan: 0.0, tilt: -steep, roll: 0.0 }.to_rotation();
        let eye = Pose::new(DVec3::Y * 1.3 - above * DVec3::NEG_Z * 6.0, above);
        let share = subject(&c, 35.0, eye, [person(0.0, 0.0)].into_iter()).unwrap().share;
        // The silhouette of the capsule, point by point over its surface.
        let along = above * DVec3::Y;
        let round = 0.26 * 1.8 / 2.0;
        let surface = (0..=400).flat_map(|k| {
            let turn = f64::from(k) / 400.0 * std::f64::consts::PI;
            [round, 1.8 - round].map(|y| {
                DVec3::Y * y + along * (turn.cos() * round) + (above * DVec3::Z) * (turn.sin() * round)
            })
        });
        let heights: Vec<f64> = surface.map(|p| projected(&c, 35.0, eye, p).unwrap().1).collect();
        let most = |sign: f64| heights.iter().map(|h| sign * h).fold(f64::MIN, f64::max);
        let shown = (most(1.0) + most(-1.0)) / 2.0;
        assert!((share - shown).abs() < 0.02 * shown, "{share} is not {shown}");
        assert_eq!(ShotSize::of(share), ShotSize::Wide);
        let names: Vec<ShotSize> = [0.2, 0.8, 1.5, 3.0, 9.0].map(ShotSize::of).into();
        use ShotSize::{Full, Middle, Tight, VeryTight, Wide};
        assert_eq!(names, [Wide, Full, Middle, Tight, VeryTight]);
    }
}
