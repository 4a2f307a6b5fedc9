//! A move as plain values: a key every so many frames, straight from each to the next.
//!
//! What a machine's axes say is kept as its axes. Where a treatment took the camera off what they say, or
//! wants an axis past its end, they do not say where the camera is: then it is kept as a camera in the air.
//! At the frames that have keys what is kept is the move, to rounding.

use crate::axis::Axis;
use crate::curve::{CurveKey, Side};
use crate::keys::Curves;
use crate::lens::Camera;
use crate::motion::Motion;
use crate::params::{Invalid, Param, within};
use crate::rigs::{Rig, RigSpec};
use crate::time::Rate;
use crate::track::Track;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Focus in a flat move.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum FlatFocus {
    /// Its distance, as everything else.
    #[default]
    Values,
    /// The treatments that keep it on somebody go along.
    OnWhom,
    /// It stays where the machine begins.
    LeftOut,
}

/// Content of a flat move.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Flatten {
    /// A key every so many frames.
    pub every: u32,
    /// From when on, scene time; from its start where missing.
    #[serde(default)]
    pub from_s: Option<f64>,
    /// Until when; to its end where missing.
    #[serde(default)]
    pub to_s: Option<f64>,
    /// Focus in the flat move.
    pub focus: FlatFocus,
}

impl Default for Flatten {
    fn default() -> Flatten {
        Flatten { every: 1, from_s: None, to_s: None, focus: FlatFocus::Values }
    }
}

impl Flatten {
    /// Parameters except the interval.
    pub fn params() -> Vec<Param> {
        let focus = [("values", "as values"), ("on_whom", "as on whom"), ("left_out", "left out")];
        vec![Flatten::every(), Param::choice("focus", "focus", &focus)]
    }

    fn every() -> Param {
        Param::whole("every", "one key every", "frames", 1, 240).start(1.0)
    }

    /// Checks the parameters.
    pub fn check(&self) -> Result<(), Invalid> {
        within(&Flatten::every(), f64::from(self.every))?;
        let bad = |t: &f64| !(0.0..=36_000.0).contains(t);
        if self.from_s.iter().chain(&self.to_s).any(bad) || self.from_s >= self.to_s && self.to_s.is_some() {
            return Err(Invalid::at("from_s", "a range begins before it ends, within the scene"));
        }
        Ok(())
    }
}

/// A move as plain values.
#[derive(Clone, Debug, PartialEq)]
pub struct Flat {
    /// True for a camera in the air, false for the move's own machine.
    pub in_air: bool,
    /// Curves, in shown units.
    pub curves: Curves,
    /// When the first and the last key are, scene time.
    pub span: (f64, f64),
}

/// A motion of a machine as plain values, up to the end of a scene.
pub fn flattened(motion: &Motion, rig: &dyn Rig, rate: Rate, scene_s: f64, by: &Flatten) -> Flat {
    let beyond = |axis: &Axis, column: &[f64]| column.iter().any(|v| axis.beyond(*v) > 1e-9);
    let past = (0..rig.axes().len())
        .any(|i| rig.axes()[i].hand.is_some() && beyond(&rig.axes()[i], &motion.samples.column(i)));
    let in_air = motion.camera.is_some() || past;
    let end_s = motion.samples.duration_s().min(scene_s).min(by.to_s.unwrap_or(f64::INFINITY));
    let first = rate.frame_from(motion.begins_s.max(by.from_s.unwrap_or(0.0)));
    let last = (rate.frames_within(end_s) - 1).max(first);
    let mut frames: Vec<usize> = (first..=last).step_by(by.every as usize).collect();
    // The last frame is one that was there.
    if frames.last() != Some(&last) {
        frames.push(last);
    }
    let times: Vec<f64> = frames.iter().map(|f| rate.time_of(*f)).collect();
    let columns = if in_air { in_the_air(motion, rig, &times) } else { of_axes(motion, rig, &times) };
    let key = |(i, value): (usize, f64)| {
        let jumps = motion
            .cuts
            .iter()
            .any(|cut| times[i] < *cut - 1e-9 && times.get(i + 1).is_some_and(|next| cut - 1e-9 <= *next));
        let after = if jumps { Side::Hold } else { Side::Straight };
        CurveKey { time_s: times[i], value, before: Side::Straight, after }
    };
    let keep = |name: &str| name != "focus" || by.focus == FlatFocus::Values;
    let curves = columns.into_iter().filter(|(name, _)| keep(name)).map(|(name, values)| {
        // What stands needs one key.
        let still = values.iter().all(|v| *v == values[0]);
        let values = if still { vec![values[0]] } else { values };
        (name.to_string(), values.into_iter().enumerate().map(key).collect())
    });
    Flat { in_air, curves: curves.collect(), span: (times[0], times[times.len() - 1]) }
}

type Columns = Vec<(&'static str, Vec<f64>)>;

/// Columns for the axes that hands move, in shown units.
fn of_axes(motion: &Motion, rig: &dyn Rig, times: &[f64]) -> Columns {
    let mut row = Vec::new();
    let driven: Vec<usize> = (0..rig.axes().len()).filter(|i| rig.axes()[*i].hand.is_some()).collect();
    let mut columns: Columns = driven.iter().map(|i| (rig.axes()[*i].name, Vec::new())).collect();
    for time_s in times {
        motion.at(*time_s, &mut row);
        for (i, (_, values)) in driven.iter().zip(&mut columns) {
            values.push(rig.axes()[*i].unit.to_shown(row[*i]));
        }
    }
    columns
}

/// The camera itself, as the axes of one in the air.
fn in_the_air(motion: &Motion, rig: &dyn Rig, times: &[f64]) -> Columns {
    let mut row = Vec::new();
    let at = |time_s: &f64| {
        motion.at(*time_s, &mut row);
        let pose = rig.forward(&row);
        let camera = motion.camera_at(*time_s).unwrap_or(pose.camera);
        (*time_s, camera, pose.lens(&row))
    };
    let track = Track::from_poses(times.iter().map(at).collect::<Vec<_>>());
    let air = RigSpec::FreeCamera(Default::default()).build(&Camera::default());
    let shown = |p: &crate::track::TrackPoint| {
        let [x, y, z] = p.position.to_array();
        let a = [p.angles.pan, p.angles.tilt, p.angles.roll].map(f64::to_degrees);
        [x, y, z, a[0], a[1], a[2], p.lens.focal_mm, p.lens.focus_m, p.lens.f_stop]
    };
    let rows: Vec<[f64; 9]> = track.points.iter().map(shown).collect();
    let column = |(i, axis): (usize, &Axis)| (axis.name, rows.iter().map(|row| row[i]).collect());
    air.axes().iter().enumerate().map(column).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::evaluate::frames;
    use crate::keys::Keyed;
    use crate::motion::Context;
    use crate::moves::{Around, keyed};
    use crate::playing::SubjectPoints;
    use crate::rigs::TelescopicCrane;
    use crate::samples::Samples;
    use crate::treatments::{Shake, Treatment, TreatmentKind, Trim, treated};

    const SCENE_S: f64 = 12.0;

    fn crane() -> Box<dyn Rig> {
        RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default())
    }

    /// Ten seconds of a crane that swings more than once round and jumps, after some treatments.
    fn motion(rig: &dyn Rig, list: &[TreatmentKind]) -> Motion {
        let row = |k: usize| {
            let t = k as f64 / 120.0;
            let jump = if t < 4.0 { 0.0 } else { 0.3 };
            [
                0.7 * t,
                0.2 + 0.1 * t.sin(),
                5.0 + jump,
                0.3 * t,
                -0.1 + 0.05 * t.cos(),
                0.0,
                28.0 + t,
                5.0,
                4.0,
            ]
        };
        let samples = Samples::new(120.0, 9, (0..=1200).flat_map(row).collect());
        let raw = Motion { cuts: vec![4.0], ..Motion::plain(samples) };
        let list: Vec<Treatment> = list.iter().cloned().map(Treatment::from).collect();
        treated(&raw, &list, &Context::of(rig, &Camera::default(), Rate::FILM))
    }

    /// What a flat move makes of its machine, and the move it was made of, frame by frame.
    fn both(list: &[TreatmentKind], by: &Flatten) -> (Flat, f64) {
        let rig = crane();
        let before = motion(&*rig, list);
        let flat = flattened(&before, &*rig, Rate::FILM, SCENE_S, by);
        let air = RigSpec::FreeCamera(Default::default()).build(&Camera::default());
        let by_keys = if flat.in_air { &*air } else { &*rig };
        let people = SubjectPoints::default();
        let around = Around { carrier: None, people: &people };
        let after = keyed(by_keys, &Keyed::of(&flat.curves, by_keys, SCENE_S), SCENE_S, &around);
        let seen = frames(&after, by_keys, Rate::FILM);
        let mut off: f64 = 0.0;
        for wanted in frames(&before, &*rig, Rate::FILM) {
            if wanted.time_s < flat.span.0 - 1e-9 || wanted.time_s > flat.span.1 + 1e-9 {
                continue;
            }
            let frame = &seen[Rate::FILM.frame_at(wanted.time_s)];
            let (a, b) = (frame.rig_pose.camera, wanted.rig_pose.camera);
            off = off.max(a.position.distance(b.position)).max(a.angle_to(b));
            off = off.max((frame.lens.focal_mm - wanted.lens.focal_mm).abs());
        }
        (flat, off)
    }

    #[test]
    fn a_key_at_every_frame_is_the_move_at_every_frame() {
        let (flat, off) = both(&[], &Flatten::default());
        assert!(!flat.in_air && off < 1e-9, "{off}");
        assert_eq!((flat.curves["swing"].len(), flat.curves["roll"].len(), flat.span), (241, 1, (0.0, 10.0)));
        // The camera off its machine is kept as a camera in the air.
        let shaken = TreatmentKind::Shake(Shake::default());
        let (flat, off) = both(&[shaken], &Flatten::default());
        assert!(flat.in_air && off < 1e-9, "{off}");
    }

    #[test]
    fn of_every_nth_frame_the_last_is_kept_too_and_a_range_has_its_own_ends() {
        let (flat, off) = both(&[], &Flatten { every: 7, ..Flatten::default() });
        let times: Vec<f64> = flat.curves["swing"].iter().map(|k| k.time_s).collect();
        assert_eq!((times.len(), times[1], times[35]), (36, Rate::FILM.time_of(7), 10.0));
        assert!(off > 1e-6 && off < 2.0, "straight between its keys, held before the jump: {off}");
        let range = Flatten { from_s: Some(2.01), to_s: Some(5.0), ..Flatten::default() };
        let (flat, off) = both(&[TreatmentKind::Trim(Trim { start_s: 1.0, end_s: 1.0 })], &range);
        assert_eq!(flat.span, (Rate::FILM.time_of(49), 5.0));
        assert!(off < 1e-9, "{off}");
        assert!(Flatten { from_s: Some(3.0), to_s: Some(2.0), ..range }.check().is_err());
        assert!(Flatten { every: 0, ..range }.check().is_err());
    }

    #[test]
    fn focus_is_values_or_left_out() {
        for (focus, there) in
            [(FlatFocus::Values, true), (FlatFocus::OnWhom, false), (FlatFocus::LeftOut, false)]
        {
            let (flat, _) = both(&[], &Flatten { focus, ..Flatten::default() });
            assert_eq!(flat.curves.contains_key("focus"), there);
        }
    }
}
