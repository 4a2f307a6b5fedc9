//! What is put right by hand: a little more to the left here, a little higher there, and nothing there.
//!
//! **Method.** A layer on top of the camera: so many centimetres on the set and degrees of pan, tilt and
//! roll at keys, none at pins, and between them the curve without overshoot ([`Curve`]). Before the first
//! key and after the last it comes and goes within a time that is set. On both samples around a pinned
//! frame the layer is nothing, and those are as they were, bit for bit. The machine's axes do what they
//! can of it ([`Placed`]).

use super::placed::Placed;
use super::{Level, Treat};
use crate::curve::{APART_S, Curve, CurveKey};
use crate::motion::{Context, Motion};
use crate::params::{Invalid, Param, within};
use crate::space::{PanTiltRoll, Pose};
use crate::warnings::{Stretch, Warning};
use glam::DVec3;
use serde::{Deserialize, Serialize};
use std::ops::Range;
use ts_rs::TS;

/// How the camera is put right at a time.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
pub struct CorrectionKey {
    /// Scene time, seconds.
    pub at_s: f64,
    /// On the set: x, up, z; centimetres.
    pub move_cm: [f64; 3],
    /// Pan, tilt, roll; degrees.
    pub turn_deg: [f64; 3],
}

/// A time at which nothing may change.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
pub struct Pin {
    /// Scene time, seconds.
    pub at_s: f64,
}

/// Correction treatment.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Correction {
    /// In order of time.
    pub keys: Vec<CorrectionKey>,
    /// In order of time.
    pub pins: Vec<Pin>,
    /// Time of fading before the first key and after the last, seconds.
    pub blend_s: f64,
}

impl Default for Correction {
    fn default() -> Correction {
        Correction { keys: vec![CorrectionKey::default()], pins: Vec::new(), blend_s: 1.0 }
    }
}

fn at() -> Param {
    Param::number("at_s", "at", "s", 0.0, 36_000.0).step(0.01)
}

fn moves() -> [Param; 3] {
    let cm =
        |path, label| Param::number(path, label, "cm", -10_000.0, 10_000.0).start(0.0).step(1.0).of("Move");
    [cm("move_cm/0", "x"), cm("move_cm/1", "up"), cm("move_cm/2", "z")]
}

fn turns() -> [Param; 3] {
    let deg = |path, label| Param::number(path, label, "°", -180.0, 180.0).start(0.0).step(0.1).of("Turn");
    [deg("turn_deg/0", "pan"), deg("turn_deg/1", "tilt"), deg("turn_deg/2", "roll")]
}

fn blend() -> Param {
    Param::number("blend_s", "blends", "s", 0.05, 30.0)
        .start(1.0)
        .log()
        .hint("How long it takes to come before the first key, and to go after the last; pins hold it back.")
}

/// Most keys, and most pins.
const MOST: usize = 200;

/// One axis of the layer.
fn layer(points: &[(f64, f64)]) -> Curve {
    Curve::new(points.iter().map(|(t, v)| CurveKey::smooth(*t, *v)).collect())
        .expect("points are in order and apart")
}

impl Correction {
    /// The samples outside which nothing changes.
    fn changed(&self, motion: &Motion) -> Range<usize> {
        let (Some(first), Some(last)) = (self.keys.first(), self.keys.last()) else { return 0..0 };
        let sample = |time_s: f64| (time_s.max(0.0) * motion.samples.rate_hz()) as usize;
        let end = (sample(last.at_s + self.blend_s) + 2).min(motion.samples.len());
        sample(first.at_s - self.blend_s).min(end)..end
    }

    /// The axes of the layer, position before turn; at the samples around pins they are 0.
    fn layers(&self, motion: &Motion) -> [Curve; 6] {
        let hz = motion.samples.rate_hz();
        // Both samples around a pinned frame; one where it lies on one.
        let around = |pin: &Pin| {
            let place = pin.at_s * hz;
            let (low, high) = ((place + 1e-9).floor() / hz, (place - 1e-9).ceil() / hz);
            std::iter::once(low).chain((high > low).then_some(high))
        };
        let pinned: Vec<f64> = self.pins.iter().flat_map(around).collect();
        let (Some(first), Some(last)) = (self.keys.first(), self.keys.last()) else {
            return std::array::from_fn(|_| layer(&[(0.0, 0.0)]));
        };
        let ends = [first.at_s - self.blend_s, last.at_s + self.blend_s];
        std::array::from_fn(|i| {
            let value = |k: &CorrectionKey| if i < 3 { k.move_cm[i] } else { k.turn_deg[i - 3] };
            let mut points: Vec<(f64, f64)> = self.keys.iter().map(|k| (k.at_s, value(k))).collect();
            // A pin between the end of the layer and its first key holds it there.
            points.extend(pinned.iter().chain(&ends).map(|t| (*t, 0.0)));
            points.sort_by(|a, b| a.0.total_cmp(&b.0));
            let mut kept: Vec<(f64, f64)> = Vec::new();
            for point in points {
                match kept.last_mut() {
                    // A key in the very place of a pin gives way to it.
                    Some(last) if point.0 - last.0 < 1.5 * APART_S => *last = (last.0, 0.0),
                    _ => kept.push(point),
                }
            }
            layer(&kept)
        })
    }
}

impl Treat for Correction {
    const LEVEL: Level = Level::Camera;
    const WORDS: (&'static str, &'static str) =
        ("Correction", "Puts the camera right by hand at some frames, and leaves it alone at others.");

    fn params() -> Vec<Param> {
        let when = || Param::row("at", vec![at()]);
        let key = vec![when(), Param::row("moves", moves().into()), Param::row("turns", turns().into())];
        vec![
            Param::list("keys", "key", MOST, key).hint("How much it is moved and turned there."),
            Param::list("pins", "pin", MOST, vec![when()])
                .none("nothing pinned")
                .hint("Nothing changes there."),
            blend(),
        ]
    }

    fn check(&self) -> Result<(), Invalid> {
        within(&blend(), self.blend_s)?;
        if self.keys.len() > MOST || self.pins.len() > MOST {
            return Err(Invalid::at("keys", format!("a correction has at most {MOST} keys and pins")));
        }
        let times = [
            ("keys", self.keys.iter().map(|k| k.at_s).collect::<Vec<_>>()),
            ("pins", self.pins.iter().map(|p| p.at_s).collect()),
        ];
        for (list, times) in times {
            for (i, time) in times.iter().enumerate() {
                within(&at(), *time).map_err(|e| Invalid { path: format!("{list}/{i}/at_s"), ..e })?;
                if i > 0 && *time < times[i - 1] + 0.01 {
                    let sentence = format!("{list} {} and {} are at one time or out of order", i, i + 1);
                    return Err(Invalid::at(format!("{list}/{i}/at_s"), sentence));
                }
            }
        }
        for (i, key) in self.keys.iter().enumerate() {
            for (param, value) in
                moves().iter().chain(&turns()).zip(key.move_cm.into_iter().chain(key.turn_deg))
            {
                within(param, value).map_err(|e| Invalid { path: format!("keys/{i}/{}", e.path), ..e })?;
            }
        }
        Ok(())
    }

    fn apply(&self, motion: &Motion, context: &Context) -> Motion {
        let layers = self.layers(motion);
        let hz = motion.samples.rate_hz();
        let mut placed = Placed::new(motion, context);
        let (mut angles, changed) = (Vec::new(), self.changed(motion));
        for k in changed.clone() {
            let [x, y, z, pan, tilt, roll] = layers.each_ref().map(|l| l.at(k as f64 / hz).unwrap_or(0.0));
            let stood = context.rig.forward(motion.samples.row(k)).camera;
            let looked = PanTiltRoll::from_rotation(stood.rotation);
            let more = [pan, tilt, roll].map(f64::to_radians);
            angles.push((looked, more));
            if [x, y, z, pan, tilt, roll] == [0.0; 6] {
                continue;
            }
            let turned = PanTiltRoll {
                pan: looked.pan + more[0],
                tilt: looked.tilt + more[1],
                roll: looked.roll + more[2],
            };
            let position = stood.position + DVec3::new(x, y, z) / 100.0;
            let rotation = if more == [0.0; 3] { stood.rotation } else { turned.to_rotation() };
            placed.put(k, stood, Pose::new(position, rotation));
        }
        let mut corrected = placed.done();
        corrected.warnings.extend(self.wobbles(hz, changed.start, &angles, context));
        corrected
    }
}

/// Turning back by less than this is none, degrees.
const TURNS_BACK_DEG: f64 = 0.2;

impl Correction {
    /// The keys at which the camera now turns back where it went on.
    /// `angles` are as they were and what is added to them, from sample `first` on.
    fn wobbles(
        &self,
        hz: f64,
        first: usize,
        angles: &[(PanTiltRoll, [f64; 3])],
        context: &Context,
    ) -> Vec<Warning> {
        let point = |i: usize| self.keys.get(i).map(|k| k.at_s);
        let told = |i: usize| {
            let at = self.keys[i].at_s;
            let from = if i > 0 { point(i - 1)? } else { at - self.blend_s };
            let to = point(i + 1).unwrap_or(at + self.blend_s);
            let place = |time_s: f64| ((time_s * hz).max(0.0) as usize).saturating_sub(first);
            let angles = angles.get(place(from)..(place(to) + 1).min(angles.len()))?;
            let words = ["pan", "tilt", "roll"];
            // At either end of the layer what it does is undone: there and back.
            let allowed = if i == 0 || i + 1 == self.keys.len() { 2 } else { 0 };
            let back = (0..3).find(|axis| {
                let raw = |(a, _): &(PanTiltRoll, [f64; 3])| [a.pan, a.tilt, a.roll][*axis].to_degrees();
                let now = |a: &(PanTiltRoll, [f64; 3])| raw(a) + a.1[*axis].to_degrees();
                turns_back(angles.iter().map(now)) > turns_back(angles.iter().map(raw)) + allowed
            })?;
            let frame = context.rate.frame_at(at);
            let when = Stretch { from_s: at, to_s: at, from_frame: frame, to_frame: frame, most: 0.0 };
            let what =
                format!("the key of the correction at frame {frame} makes {} go to and fro", words[back]);
            Some(Warning { what, when })
        };
        (0..self.keys.len()).filter_map(told).collect()
    }
}

/// How often a course turns back by more than a little.
fn turns_back(course: impl Iterator<Item = f64>) -> usize {
    let (mut count, mut way, mut far) = (0, 0.0_f64, None::<f64>);
    for value in course {
        let from = *far.get_or_insert(value);
        if (value - from) * way > 0.0 || way == 0.0 && (value - from).abs() > TURNS_BACK_DEG {
            way = (value - from).signum();
            far = Some(value);
        } else if (value - from) * way < -TURNS_BACK_DEG {
            count += 1;
            way = -way;
            far = Some(value);
        }
    }
    count
}
