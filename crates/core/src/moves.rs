//! Motion of moves that were not recorded: keyed moves, and moves that follow another one.
//!
//! A move is what a camera does over time, however it came to be: recorded as a take; set by *keys*
//! ([`keyed`]); or *following* another move's camera with a machine of its own, whose base may have
//! keys while the rest is solved ([`followed`]). What comes out is what a roll would have recorded:
//! every axis, 120 times a second from scene time 0 on, so that all of them are looked at, treated,
//! measured and taken away in the same way.
//!
//! The other way round, [`keys_of`] makes few keys of what was recorded.

use crate::axis::{Axis, AxisGroup, Unit};
use crate::axis_motion::{AxisMotion, STEP_S};
use crate::curve::{Curve, fit};
use crate::follow::{CameraTarget, follow};
use crate::keys::{Curves, Keyed, shown};
use crate::motion::Motion;
use crate::playing::{CarrierTrack, SubjectPoints};
use crate::rigs::{Rig, Surroundings};
use crate::samples::Samples;
use crate::time::SAMPLE_RATE_HZ;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Surroundings of a machine over scene time.
#[derive(Clone, Copy)]
pub struct Around<'a> {
    /// Course of the carrier; none for a machine that stands free.
    pub carrier: Option<&'a CarrierTrack>,
    /// People whom the machine may look at.
    pub people: &'a SubjectPoints,
}

impl Around<'_> {
    /// Surroundings at a time.
    fn at(&self, rig: &dyn Rig, time_s: f64) -> Surroundings<'static> {
        Surroundings {
            carrier: self.carrier.map(|r| r.at(time_s)),
            subject: rig.follows().and_then(|id| self.people.eyes(id, time_s)),
            device: None,
            walls: &[],
        }
    }
}

/// The samples of a time: as many as fit, the one at 0 included.
fn count(length_s: f64) -> usize {
    (length_s * SAMPLE_RATE_HZ + 1e-9).floor().max(0.0) as usize + 1
}

/// Axis values before anybody moves the machine.
fn start(rig: &dyn Rig) -> Vec<f64> {
    rig.axes().iter().map(|a| a.start).collect()
}

/// Motion of a machine under keys over `length_s`. Axes without keys stand at their start.
pub fn keyed(rig: &dyn Rig, keys: &Keyed, length_s: f64, around: &Around) -> Motion {
    let start = start(rig);
    let mut motions: Vec<AxisMotion> = start.iter().map(|v| AxisMotion::at(*v)).collect();
    let mut values = Vec::with_capacity(count(length_s) * start.len());
    for k in 0..count(length_s) {
        let time_s = k as f64 / SAMPLE_RATE_HZ;
        let now: Vec<f64> = motions.iter().map(|m| m.value).collect();
        let row = keys.row(time_s, &now);
        motions.iter_mut().zip(&row).for_each(|(m, v)| *m = AxisMotion::at(*v));
        rig.write_surroundings(&mut motions, &around.at(rig, time_s));
        values.extend(motions.iter().map(|m| m.value));
    }
    let samples = Samples::new(SAMPLE_RATE_HZ, start.len(), values);
    Motion { cuts: keys.cuts(), ..Motion::plain(samples) }
}

/// A machine that follows a camera, and by how much it cannot.
#[derive(Clone, Debug, PartialEq)]
pub struct Followed {
    /// Motion at 120 samples per second; it jumps where the base jumps.
    pub motion: Motion,
    /// Metres from the wanted camera to the machine's, for each sample; 0 within reach.
    pub short_m: Vec<f64>,
    /// Degrees from where the wanted camera looks to where the machine's does, for each sample.
    pub short_deg: Vec<f64>,
}

/// A machine that puts its camera where `target` wants it, its base going by `base` and standing at
/// its start where that has no keys. Axes are solved anew at every sample, each near the one before.
pub fn followed(rig: &dyn Rig, target: &CameraTarget, base: &Keyed, around: &Around) -> Followed {
    let start = start(rig);
    let axes = rig.axes();
    let moved = |i: usize| rig.operator_axes().contains(&i) || axes[i].hand.is_none();
    let steps = if rig.derived().is_empty() { 1 } else { (1.0 / (STEP_S * SAMPLE_RATE_HZ)).round() as usize };
    let dt = 1.0 / (SAMPLE_RATE_HZ * steps as f64);
    let count = count(target.length_s());
    let mut motions: Vec<AxisMotion> = base.row(0.0, &start).into_iter().map(AxisMotion::at).collect();
    let (mut short_m, mut short_deg) = (Vec::with_capacity(count), Vec::with_capacity(count));
    let mut values = Vec::with_capacity(count * start.len());
    for k in 0..=(count - 1) * steps {
        let time_s = k as f64 / (SAMPLE_RATE_HZ * steps as f64);
        rig.write_surroundings(&mut motions, &around.at(rig, time_s));
        if k > 0 {
            rig.derive(&mut motions, dt);
        }
        for i in rig.operator_axes() {
            let now = base.at(i, time_s).unwrap_or(motions[i].value);
            motions[i] = AxisMotion { value: now, speed: (now - motions[i].value) / dt, remaining: 0.0 };
        }
        let near: Vec<f64> = motions.iter().map(|m| m.value).collect();
        let (solved, _) = follow(rig, target, time_s, &near);
        for i in (0..near.len()).filter(|i| !moved(*i)) {
            let speed = if k == 0 { 0.0 } else { (solved[i] - motions[i].value) / dt };
            motions[i] = AxisMotion { value: solved[i], speed, remaining: 0.0 };
        }
        if k % steps == 0 {
            let row: Vec<f64> = motions.iter().map(|m| m.value).collect();
            let (camera, wanted) = (rig.forward(&row).camera, target.at(time_s).0);
            short_m.push(camera.position.distance(wanted.position));
            short_deg.push(camera.angle_to(wanted).to_degrees());
            values.extend(row);
        }
    }
    let samples = Samples::new(SAMPLE_RATE_HZ, start.len(), values);
    let motion = Motion { cuts: base.cuts(), ..Motion::plain(samples) };
    Followed { motion, short_m, short_deg }
}

/// Largest departure that keys may have from the recorded camera.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Tolerance {
    /// Position, centimetres.
    pub position_cm: f64,
    /// Rotation, degrees.
    pub rotation_deg: f64,
}

impl Tolerance {
    /// Checks that keys can be made within the tolerance.
    pub fn check(&self) -> Result<(), NoKeys> {
        let good = (0.01..=100.0).contains(&self.position_cm) && (0.001..=30.0).contains(&self.rotation_deg);
        if good { Ok(()) } else { Err(NoKeys::Tolerance) }
    }
}

/// Keys made of a recording.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct KeysOf {
    /// For every driven axis.
    #[ts(type = "{ [axis: string]: Array<{ id: number } & CurveKey> }")]
    pub curves: Curves,
    /// Number of keys on all axes together.
    pub count: usize,
    /// The farthest the camera gets from where it was, centimetres.
    pub position_cm: f64,
    /// The most it looks elsewhere than it did, degrees.
    pub rotation_deg: f64,
}

/// Why there are no keys.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum NoKeys {
    /// Somebody stopped it.
    #[error("stopped")]
    Stopped,
    /// The tolerance is none.
    #[error("give a tolerance of 0.01 to 100 cm and 0.001 to 30°")]
    Tolerance,
    /// The axes' own tolerances became as fine as they get, and the camera is still too far off.
    #[error("the camera cannot be kept within that by keys of this machine; give a wider tolerance")]
    Fine,
}

/// How widely slopes are taken when keys are made, seconds: what hands do.
const BELL_S: f64 = 0.02;
/// How often the axes' tolerances are made finer before it is given up.
const ROUNDS: usize = 12;

/// Few keys that keep the camera within `tolerance` of what `samples` say, found on every sample.
///
/// **Method.** Every driven axis is fitted by itself ([`fit`]) within a tolerance of its own; then the
/// machine is moved by the keys, what follows from them included, and compared with what was
/// recorded. As long as the camera is farther off than it may be, all tolerances are made finer.
/// `go_on` is told the share that is done, and stops it by saying no.
pub fn keys_of(
    rig: &dyn Rig,
    samples: &Samples,
    tolerance: Tolerance,
    go_on: &mut dyn FnMut(f64) -> bool,
) -> Result<KeysOf, NoKeys> {
    tolerance.check()?;
    let Tolerance { position_cm, rotation_deg } = tolerance;
    let mut even = samples.clone();
    even.unwrap_angles(rig.axes());
    let driven: Vec<usize> = (0..rig.axes().len()).filter(|i| rig.axes()[*i].hand.is_some()).collect();
    let columns: Vec<Vec<f64>> = driven.iter().map(|i| even.column(*i)).collect();
    let mut finer = 1.0;
    for round in 0..ROUNDS {
        let mut curves = Curves::new();
        for (n, (i, column)) in driven.iter().zip(&columns).enumerate() {
            let axis = &rig.axes()[*i];
            if !go_on((n as f64 / driven.len() as f64).max(if round > 0 { 0.9 } else { 0.0 })) {
                return Err(NoKeys::Stopped);
            }
            let within = finer * own_tolerance(axis, column, tolerance);
            let curve = plain(fit(column, even.rate_hz(), within, BELL_S));
            curves.insert(axis.name.into(), shown(&curve, axis));
        }
        let off = departure(rig, &even, &curves);
        if off.0 <= position_cm && off.1 <= rotation_deg {
            let count = curves.values().map(|keys| keys.len()).sum();
            return Ok(KeysOf { curves, count, position_cm: off.0, rotation_deg: off.1 });
        }
        finer *= (0.8 * (position_cm / off.0).min(rotation_deg / off.1)).clamp(0.05, 0.8);
    }
    Err(NoKeys::Fine)
}

/// Replaces two equal keys of an axis that stands still by one.
fn plain(curve: Curve) -> Curve {
    match curve.keys() {
        [first, .., last]
            if curve.keys().iter().all(|k| k.value == first.value) && first.value == last.value =>
        {
            let one = crate::curve::CurveKey::smooth(first.time_s, first.value);
            Curve::new(vec![one]).unwrap_or(curve)
        }
        _ => curve,
    }
}

/// What an axis may be off to begin with. Of a zoom it is what moves the edge of the frame by the
/// angle; an arm's angle is also held to what it moves a lens three metres away.
fn own_tolerance(axis: &Axis, column: &[f64], tolerance: Tolerance) -> f64 {
    let (metres, angle) = (tolerance.position_cm / 100.0, tolerance.rotation_deg.to_radians());
    match axis.unit {
        Unit::Metres | Unit::Plain => metres,
        Unit::Millimetres => angle * column.iter().copied().fold(f64::INFINITY, f64::min).max(1.0),
        Unit::Radians if axis.group == AxisGroup::Machine => angle.min(metres / 3.0),
        Unit::Radians => angle,
    }
}

/// Samples of a machine under keys, among the surroundings that were recorded.
pub fn by_keys(rig: &dyn Rig, recorded: &Samples, curves: &Curves) -> Samples {
    let keys = Keyed::of(curves, rig, recorded.duration_s());
    let row = |(k, row): (usize, &[f64])| keys.row(k as f64 / recorded.rate_hz(), row);
    let values = recorded.rows().enumerate().flat_map(row).collect();
    Samples::new(recorded.rate_hz(), recorded.width(), values)
}

/// Departure of the keyed camera from the recorded one: centimetres and degrees.
fn departure(rig: &dyn Rig, samples: &Samples, curves: &Curves) -> (f64, f64) {
    let moved = by_keys(rig, samples, curves);
    let mut worst = (0.0_f64, 0.0_f64);
    for (recorded, now) in samples.rows().zip(moved.rows()) {
        let (a, b) = (rig.forward(recorded).camera, rig.forward(now).camera);
        worst.0 = worst.0.max(100.0 * a.position.distance(b.position));
        worst.1 = worst.1.max(a.rotation.angle_between(b.rotation).to_degrees());
    }
    worst
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::curve::CurveKey;
    use crate::lens::Camera;
    use crate::list::List;
    use crate::rigs::{DollyTrack, RigSpec, Shoulder, TelescopicCrane, TrackDolly, TrackPiece};

    fn keys(of: &[(f64, f64)]) -> List<CurveKey> {
        of.iter().map(|(t, v)| CurveKey::smooth(*t, *v)).collect()
    }

    fn around(people: &SubjectPoints) -> Around<'_> {
        Around { carrier: None, people }
    }

    fn crane() -> Box<dyn Rig> {
        RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default())
    }

    /// A crane's move with hands in it.
    fn recorded(rig: &dyn Rig, length_s: f64) -> Samples {
        let axes = rig.axes();
        let row = |k: usize| {
            let t = k as f64 / SAMPLE_RATE_HZ;
            axes.iter().enumerate().map(move |(i, a)| {
                let swing = ((0.4 + 0.1 * i as f64) * t).sin() * 0.3 + 0.002 * (17.0 * t + i as f64).sin();
                let size = if a.unit == Unit::Millimetres { 10.0 } else { 1.0 };
                (a.start + size * swing).clamp(a.min, a.max)
            })
        };
        Samples::new(SAMPLE_RATE_HZ, axes.len(), (0..count(length_s)).flat_map(row).collect())
    }

    #[test]
    fn a_keyed_move_is_what_its_curves_say_at_every_sample() {
        let rig = RigSpec::TrackDolly(TrackDolly::default()).build(&Camera::default());
        let curves = Curves::from([("travel".into(), keys(&[(1.0, 0.0), (3.0, 4.0)]))]);
        let keyed_by = Keyed::of(&curves, &*rig, 4.0);
        let people = SubjectPoints::default();
        let samples = keyed(&*rig, &keyed_by, 4.0, &around(&people)).samples;
        assert_eq!((samples.len(), samples.rate_hz()), (481, 120.0));
        for (k, row) in samples.rows().enumerate() {
            assert_eq!(row[0], keyed_by.at(0, k as f64 / 120.0).unwrap());
            assert_eq!(row[1..], start(&*rig)[1..]);
        }
        assert_eq!(keyed(&*rig, &keyed_by, 0.0, &around(&people)).samples.len(), 1);
    }

    /// A base that is pushed over the floor, turning as it goes, and comes to rest.
    #[test]
    fn a_crane_on_free_floor_keeps_the_camera_while_its_base_goes_and_turns() {
        let free = TelescopicCrane { free: true, ..TelescopicCrane::default() };
        let rig = RigSpec::TelescopicCrane(free).build(&Camera::default());
        let still = keyed(&*rig, &Keyed::default(), 6.0, &around(&SubjectPoints::default())).samples;
        let track = Motion::plain(still).track(&*rig);
        let target = CameraTarget::of(&track).unwrap();
        let curves = Curves::from([
            ("base x".into(), keys(&[(1.0, 0.0), (4.0, 0.8)])),
            ("base z".into(), keys(&[(1.0, 0.0), (4.0, 0.5)])),
            ("base turn".into(), keys(&[(1.0, 0.0), (4.0, 25.0)])),
        ]);
        let out =
            followed(&*rig, &target, &Keyed::of(&curves, &*rig, 6.0), &around(&SubjectPoints::default()));
        assert!(
            out.short_m.iter().all(|s| *s < 1e-6),
            "{:?}",
            out.short_m.iter().copied().fold(0.0, f64::max)
        );
        let (first, last) = (out.motion.samples.row(0), out.motion.samples.row(720));
        let at = rig.operator_axes().start;
        assert_eq!(rig.operator_axes().len(), 3);
        assert!(
            (last[at] - first[at] - 0.8).abs() < 1e-12 && (last[at + 2] - 25f64.to_radians()).abs() < 1e-12
        );
        assert!((first[0] - last[0]).abs() > 0.1, "the arm swings back against the base");
        let [a, b] = [first, last].map(|row| rig.forward(row).camera);
        assert!(a.position.distance(b.position) < 1e-6 && a.rotation.angle_between(b.rotation) < 1e-6);
    }

    /// Made by keys of a camera's own axes, followed by a crane on track whose carriage is keyed: the
    /// camera is where it is wanted wherever the crane can be there.
    #[test]
    fn a_crane_with_a_keyed_base_has_the_camera_where_it_is_wanted() {
        let pieces = vec![TrackPiece::Straight { length_m: 2.44, rise_m: 0.0 }; 4];
        let track = DollyTrack { z_m: 4.0, height_m: 0.0, pieces: pieces.into(), ..DollyTrack::default() };
        let on_track = TelescopicCrane { track: Some(track), ..TelescopicCrane::default() };
        let rig = RigSpec::TelescopicCrane(on_track).build(&Camera::default());
        let wanted = recorded(&*crane(), 4.0);
        let track = Motion::plain(wanted.clone()).track(&*crane());
        let target = CameraTarget::of(&track).unwrap();
        let travel = Curves::from([("travel".into(), keys(&[(0.0, 4.0), (1.5, 4.0), (3.5, 4.6)]))]);
        let base = Keyed::of(&travel, &*rig, 4.0);
        let people = SubjectPoints::default();
        let out = followed(&*rig, &target, &base, &around(&people));
        assert_eq!((out.motion.samples.len(), out.short_m.len()), (481, 481));
        let at = rig.operator_axes().start;
        let mut within = 0;
        for (k, row) in out.motion.samples.rows().enumerate() {
            assert_eq!(row[at], base.at(at, k as f64 / 120.0).unwrap());
            let pose = rig.forward(row).camera;
            assert!(
                (pose.position.distance(target.at(k as f64 / 120.0).0.position) - out.short_m[k]).abs()
                    < 1e-12
            );
            within += usize::from(out.short_m[k] < 1e-6);
        }
        assert!(within > 240, "{within} of 481 within reach");
        // Its head looks where it should even where the arm is too short.
        assert!(out.short_deg.iter().all(|d| *d < 1e-5));
    }

    #[test]
    fn keys_made_of_a_recording_keep_the_camera_within_the_tolerance_everywhere() {
        let rig = crane();
        let samples = recorded(&*rig, 20.0);
        let mut told = Vec::new();
        let made = |position_cm: f64, rotation_deg: f64| {
            keys_of(&*rig, &samples, Tolerance { position_cm, rotation_deg }, &mut |_| true).unwrap()
        };
        let (fine, wide) = (made(0.5, 0.05), made(5.0, 0.5));
        assert!(wide.count < fine.count && fine.count < samples.len(), "{} {}", wide.count, fine.count);
        for (keys, cm, deg) in [(&fine, 0.5, 0.05), (&wide, 5.0, 0.5)] {
            assert!(keys.position_cm <= cm && keys.rotation_deg <= deg);
            // What was previewed is what is driven: the same keys, moved by the same machine.
            let by = Keyed::of(&keys.curves, &*rig, 20.0);
            let people = SubjectPoints::default();
            let again = keyed(&*rig, &by, samples.duration_s(), &around(&people)).samples;
            let far = again.rows().zip(samples.rows()).map(|(a, b)| {
                100.0 * rig.forward(a).camera.position.distance(rig.forward(b).camera.position)
            });
            assert!((far.fold(0.0, f64::max) - keys.position_cm).abs() < 1e-9);
        }
        let go = keys_of(&*rig, &samples, Tolerance { position_cm: 1.0, rotation_deg: 0.1 }, &mut |share| {
            told.push(share);
            told.len() < 4
        });
        assert_eq!(go, Err(NoKeys::Stopped));
        assert!(told.windows(2).all(|w| w[0] <= w[1]) && told.len() == 4);
        let none = Tolerance { position_cm: 0.0, rotation_deg: 0.1 };
        assert_eq!(keys_of(&*rig, &samples, none, &mut |_| true), Err(NoKeys::Tolerance));
    }

    /// What follows from the keys counts as well: an operator's steps.
    #[test]
    fn a_walk_is_kept_within_the_tolerance_with_its_steps() {
        let rig = RigSpec::Shoulder(Shoulder::default()).build(&Camera::default());
        let curves = Curves::from([
            ("z".into(), keys(&[(0.0, 0.0), (5.0, -5.0)])),
            ("pan".into(), keys(&[(0.0, 0.0), (5.0, 40.0)])),
        ]);
        let people = SubjectPoints::default();
        let samples = keyed(&*rig, &Keyed::of(&curves, &*rig, 5.0), 5.0, &around(&people)).samples;
        let tolerance = Tolerance { position_cm: 1.0, rotation_deg: 0.2 };
        let made = keys_of(&*rig, &samples, tolerance, &mut |_| true).unwrap();
        assert!(made.position_cm <= 1.0 && made.rotation_deg <= 0.2 && made.count < 60, "{}", made.count);
    }
}
