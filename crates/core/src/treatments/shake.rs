//! Shake that is made: what hands, an engine, steps or a blow do to a camera, on top of everything else.
//!
//! It moves the camera itself, in its own axes, and asks nothing of the machine. The same seed gives the
//! same bytes.
//!
//! **Noise.** A spectrum of random phases (and lengths, normally distributed) between two frequencies,
//! falling by a power of the frequency, brought back to time; then scaled so that its RMS over the move
//! is what was asked for, by construction. **Steps** are two beats a stride, up and down with each step,
//! to the sides with every second one, each a little early or late. **A hit** swings and dies away.

use super::fast_part::FastPart;
use super::{Level, Reads, Treat};
use crate::chance::normal_pair;
use crate::curve::Curve;
use crate::curve::slope::minimum_jerk;
use crate::filter::{real_transforms, smooth_length};
use crate::ids::{PerformerId, TakeId};
use crate::motion::{Context, Motion};
use crate::params::{Case, Invalid, Over, Param, Preset, within, within_curve};
use crate::space::{PanTiltRoll, Pose};
use crate::time::Rate;
use crate::warnings::{Stretch, Warning};
use glam::DVec3;
use rand::{Rng, SeedableRng};
use rand_pcg::Pcg64Mcg;
use realfft::num_complex::Complex64;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;
use ts_rs::TS;

/// How far it goes on each of the camera's own axes: centimetres to the side, up and ahead, degrees of
/// pan, tilt and roll. RMS, or of a hit the greatest there is.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
pub struct Amounts {
    /// Amplitude to the right, up and ahead, centimetres.
    pub position_cm: [f64; 3],
    /// Amplitude of pan, tilt and roll, degrees.
    pub rotation_deg: [f64; 3],
}

/// Source of the shake.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "by")]
pub enum ShakeBy {
    /// Hands, a shout, an engine: whatever goes on.
    Noise {
        /// Amplitude on each axis.
        #[serde(flatten)]
        amounts: Amounts,
        /// Lower edge of the noise, Hz.
        from_hz: f64,
        /// Upper edge of the noise, Hz.
        to_hz: f64,
        /// By which power of the frequency it falls: 0 not at all, 1 as hands do.
        falls: f64,
    },
    /// Spectrum that the operator draws.
    Own {
        /// Amplitude on each axis.
        #[serde(flatten)]
        amounts: Amounts,
        /// Weight over frequency, Hz: only proportions count.
        spectrum: Curve,
    },
    /// The operator's own steps, or somebody's.
    Steps {
        /// Amplitude on each axis.
        #[serde(flatten)]
        amounts: Amounts,
        /// Steps a second of the operator.
        per_s: f64,
        /// Id of the performer whose steps shake the camera; none for the operator's own steps.
        #[serde(default)]
        who: Option<PerformerId>,
    },
    /// Fast motion sampled from the camera of a take.
    Sampled {
        /// Id of the take; none shakes nothing.
        #[serde(default)]
        take: Option<TakeId>,
        /// Lower edge of the sampled motion, Hz.
        from_hz: f64,
        /// From where in it, seconds.
        starts_s: f64,
        /// Factors on the sampled positions and rotations.
        times: [f64; 2],
    },
    /// A blow, dying away.
    Hit {
        /// Amplitude on each axis.
        #[serde(flatten)]
        amounts: Amounts,
        /// When, scene time.
        at_s: f64,
        /// Until a third of it is left.
        dies_s: f64,
        /// How quickly it swings.
        hz: f64,
    },
}

/// Shake treatment.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Shake {
    /// Another number is another shake of the same kind.
    pub seed: u32,
    /// It turns about a point so far behind the lens: a shoulder.
    pub pivot_m: f64,
    /// It looks the same on the screen at every focal length, as it does at this one, millimetres.
    pub same_on_screen_mm: Option<f64>,
    /// Source of the shake.
    pub way: ShakeBy,
}

/// Amplitudes, and lower edge, upper edge and slope of the noise.
pub(super) type Noise = (Amounts, [f64; 3]);

/// A shoulder at rest, from memory: half a centimetre, a quarter of a degree, up to 4 Hz.
pub(super) const SHOULDER: Noise =
    (Amounts { position_cm: [0.4, 0.5, 0.3], rotation_deg: [0.25, 0.3, 0.12] }, [0.3, 4.0, 1.0]);
/// Violent: a key every second frame of film is what hands do.
pub(super) const SHOUT: Noise =
    (Amounts { position_cm: [1.5, 1.8, 1.0], rotation_deg: [1.4, 1.6, 0.9] }, [0.8, 7.0, 0.4]);
pub(super) const ENGINE: Noise =
    (Amounts { position_cm: [0.03, 0.08, 0.03], rotation_deg: [0.03, 0.06, 0.03] }, [8.0, 11.5, 0.0]);

impl Default for Shake {
    fn default() -> Shake {
        Shake::of(SHOULDER)
    }
}

/// Parameters of the amplitudes, position before rotation.
fn amounts() -> [[Param; 3]; 2] {
    let cm = |path, label| Param::number(path, label, "cm", 0.0, 100.0).start(0.4).step(0.1).of("Moves");
    let deg = |path, label| Param::number(path, label, "°", 0.0, 45.0).start(0.2).step(0.05).of("Turns");
    [
        [cm("position_cm/0", "side"), cm("position_cm/1", "up"), cm("position_cm/2", "ahead")],
        [deg("rotation_deg/0", "pan"), deg("rotation_deg/1", "tilt"), deg("rotation_deg/2", "roll")],
    ]
}

fn band() -> [Param; 3] {
    let hz = |path, label| Param::number(path, label, "Hz", 0.05, 60.0).log();
    [
        hz("from_hz", "from").start(0.3).of("Shakes"),
        hz("to_hz", "to").start(4.0).of("Shakes"),
        Param::number("falls", "decay", "", 0.0, 3.0)
            .start(1.0)
            .hint("Power of the frequency by which the shake decays: 0 not at all, 1 as hands do."),
    ]
}

/// Frequencies that a drawn spectrum may cover, Hz.
const OWN_HZ: std::ops::RangeInclusive<f64> = 0.1..=30.0;

fn spectrum() -> Param {
    let over = Over { unit: "Hz", min: *OWN_HZ.start(), max: *OWN_HZ.end() };
    let hands = [(0.2, 0.0), (0.5, 1.0), (2.0, 0.5), (5.0, 0.25), (8.0, 0.0)];
    Param::curve("spectrum", "spectrum", "", (0.0, 1.0), Some(over), &hands)
        .hint("How much there is of each frequency, in proportion; how far it goes stands above.")
}

fn whose() -> Param {
    Param::somebody("who", "whose", "the operator's")
}

fn steps() -> Param {
    Param::number("per_s", "a second", "", 0.5, 5.0).start(1.8)
}

fn sampled() -> [Param; 2] {
    [
        Param::number("from_hz", "faster than", "Hz", 0.2, 10.0)
            .start(1.0)
            .log()
            .hint("What is slower is where it was going, and stays out."),
        Param::number("starts_s", "from", "s", 0.0, 36_000.0).start(0.0).hint("Where in the take it begins."),
    ]
}

fn times_as_far() -> [Param; 2] {
    let times = |path, label| Param::number(path, label, "×", 0.0, 10.0).start(1.0).step(0.1).of("As much");
    [times("times/0", "moves"), times("times/1", "turns")]
}

fn hit() -> [Param; 3] {
    [
        Param::number("at_s", "at", "s", 0.0, 36_000.0).start(1.0).of("Hit"),
        Param::number("dies_s", "dies within", "s", 0.02, 10.0).start(0.25).log(),
        Param::number("hz", "swings", "Hz", 0.5, 30.0).start(6.0).log(),
    ]
}

fn seed() -> Param {
    Param::whole("seed", "seed", "", 0, 9999)
        .start(1.0)
        .hint("Another number is another shake of the same kind.")
}

fn pivot() -> Param {
    Param::number("pivot_m", "pivot", "m", 0.0, 2.0)
        .start(0.0)
        .hint("How far behind the lens it turns about; a shoulder is about 0.3 m.")
}

fn on_screen() -> Param {
    Param::number("same_on_screen_mm", "same on screen", "mm", 2.0, 2000.0)
        .start(35.0)
        .absent("by angle")
        .hint("Turns less on longer lenses, so that it looks as it does at this focal length.")
}

impl Shake {
    /// Shake of hands or of an engine, about the lens.
    pub(super) fn of((amounts, [from_hz, to_hz, falls]): Noise) -> Shake {
        let way = ShakeBy::Noise { amounts, from_hz, to_hz, falls };
        Shake { seed: 1, pivot_m: 0.0, same_on_screen_mm: None, way }
    }

    fn amounts(&self) -> Amounts {
        match self.way {
            ShakeBy::Noise { amounts, .. }
            | ShakeBy::Own { amounts, .. }
            | ShakeBy::Steps { amounts, .. }
            | ShakeBy::Hit { amounts, .. } => amounts,
            ShakeBy::Sampled { times: [far, turned], .. } => {
                Amounts { position_cm: [far; 3], rotation_deg: [turned; 3] }
            }
        }
    }

    /// The quickest in it.
    fn top_hz(&self) -> f64 {
        match self.way {
            ShakeBy::Noise { to_hz, .. } => to_hz,
            ShakeBy::Own { ref spectrum, .. } => {
                let there = spectrum.keys().iter().filter(|k| k.value > 0.0);
                there.map(|k| k.time_s).fold(0.0, f64::max)
            }
            ShakeBy::Steps { per_s, .. } => 2.0 * per_s,
            ShakeBy::Hit { hz, .. } => hz,
            // As quick as it was: where it was recorded as often as this is shown, that can be seen.
            ShakeBy::Sampled { .. } => 0.0,
        }
    }

    fn felt(&self, context: &Context) -> Felt {
        let landings = match (&self.way, context.playing) {
            (ShakeBy::Steps { who: Some(who), .. }, Some(playing)) => playing.timeline.landings_of(*who),
            _ => Vec::new(),
        };
        let sampled = match (&self.way, context.takes) {
            (ShakeBy::Sampled { take: Some(take), from_hz, .. }, Some(takes)) => {
                takes.recorded(*take).and_then(|recorded| FastPart::of(&recorded, *from_hz))
            }
            _ => None,
        };
        Felt { landings, sampled }
    }

    /// Six courses over time, of side, up, ahead, pan, tilt and roll, each with an RMS of 1 (of a hit: a
    /// greatest value of 1; of something sampled: centimetres and degrees).
    fn courses(&self, count: usize, rate_hz: f64, felt: &Felt) -> [Vec<f64>; 6] {
        std::array::from_fn(|axis| {
            let mut dice = Pcg64Mcg::seed_from_u64(u64::from(self.seed) << 8 | axis as u64);
            match self.way {
                ShakeBy::Noise { from_hz, to_hz, falls, .. } => {
                    let gain = |hz: f64| if (from_hz..=to_hz).contains(&hz) { hz.powf(-falls) } else { 0.0 };
                    normalised(noise(count, rate_hz, (from_hz, to_hz), &gain, &mut dice))
                }
                ShakeBy::Own { ref spectrum, .. } => {
                    let (from_hz, to_hz) = (OWN_HZ.start(), OWN_HZ.end());
                    let gain = |hz: f64| match (*from_hz..=*to_hz).contains(&hz) {
                        true => spectrum.at(hz).unwrap_or(0.0),
                        false => 0.0,
                    };
                    normalised(noise(count, rate_hz, (*from_hz, *to_hz), &gain, &mut dice))
                }
                ShakeBy::Steps { who: Some(_), .. } => {
                    normalised(footsteps(count, rate_hz, &felt.landings, axis, &mut dice))
                }
                ShakeBy::Steps { per_s, .. } => normalised(stride(count, rate_hz, per_s, axis, &mut dice)),
                ShakeBy::Sampled { starts_s, .. } => {
                    let laid = |part: &FastPart| part.laid(axis, count, rate_hz, starts_s);
                    felt.sampled.as_ref().map_or_else(|| vec![0.0; count], laid)
                }
                ShakeBy::Hit { at_s, dies_s, hz, .. } => {
                    let after = |k: usize| k as f64 / rate_hz - at_s;
                    let swing =
                        |t: f64| if t > 0.0 { (-t / dies_s).exp() * (TAU * hz * t).sin() } else { 0.0 };
                    let most =
                        (0..1000).map(|k| swing(k as f64 / 1000.0 / hz)).fold(f64::MIN_POSITIVE, f64::max);
                    (0..count).map(|k| swing(after(k)) / most).collect()
                }
            }
        })
    }
}

/// Steps of other performers that are felt.
#[derive(Default)]
struct Felt {
    /// When somebody's feet come down.
    landings: Vec<f64>,
    /// How another camera shook.
    sampled: Option<FastPart>,
}

/// With an RMS of 1 where there is anything.
fn normalised(mut course: Vec<f64>) -> Vec<f64> {
    let there = course.iter().filter(|v| **v != 0.0).count();
    let rms = (course.iter().map(|v| v * v).sum::<f64>() / there.max(1) as f64).sqrt();
    if rms > 0.0 {
        course.iter_mut().for_each(|v| *v /= rms);
    }
    course
}

/// Waves of random phases and lengths, each as long as `gain` has it; none slower or quicker than given.
fn noise(
    count: usize,
    rate_hz: f64,
    (from_hz, to_hz): (f64, f64),
    gain: &dyn Fn(f64) -> f64,
    dice: &mut Pcg64Mcg,
) -> Vec<f64> {
    // Some of the slowest waves more than is asked for: the ends do not meet.
    let padded = smooth_length(count + (2.0 * rate_hz / from_hz) as usize);
    let back = real_transforms(padded).1;
    let (mut spectrum, mut course) = (back.make_input_vec(), back.make_output_vec());
    let last = spectrum.len() - 1;
    // What is quicker is not even thrown for.
    let last = last.min((to_hz * padded as f64 / rate_hz) as usize + 1);
    for (k, bin) in spectrum.iter_mut().enumerate().take(last).skip(1) {
        let hz = k as f64 * rate_hz / padded as f64;
        let (re, im) = normal_pair(dice);
        *bin = Complex64::new(re, im) * gain(hz);
    }
    back.process(&mut spectrum, &mut course).expect("buffers are of the planned lengths");
    course.truncate(count);
    course
}

/// The beat of steps on an axis: up and down with each of them, to the sides with every second one.
fn stride(count: usize, rate_hz: f64, per_s: f64, axis: usize, dice: &mut Pcg64Mcg) -> Vec<f64> {
    let beat = beat(axis);
    let mut phase = beat * dice.random::<f64>();
    let (mut course, mut pace, mut lean) = (Vec::with_capacity(count), 1.0, 1.0);
    for _ in 0..count {
        let turns = phase.fract();
        course.push(lean * beaten(phase));
        phase += pace * beat * per_s / rate_hz;
        if phase.fract() < turns {
            // No step is quite like the one before.
            pace = 1.0 + 0.06 * normal_pair(dice).0.clamp(-2.0, 2.0);
            lean = 1.0 + 0.15 * normal_pair(dice).0.clamp(-2.0, 2.0);
        }
    }
    course
}

/// Feet that come down farther apart than this are no walk, seconds.
const WALK_S: f64 = 1.3;
/// Time in which steps fade in and out, seconds.
const FADE_S: f64 = 0.25;

/// The beat of somebody's steps: as [`stride`], but each when their foot comes down; nothing while they
/// stand.
fn footsteps(count: usize, rate_hz: f64, landings: &[f64], axis: usize, dice: &mut Pcg64Mcg) -> Vec<f64> {
    let beat = beat(axis);
    let mut course = vec![0.0; count];
    for walk in landings.chunk_by(|a, b| b - a < WALK_S).filter(|walk| walk.len() > 1) {
        let (begins, ends) = (walk[0], walk[walk.len() - 1]);
        for (step, pair) in walk.windows(2).enumerate().filter(|(_, pair)| pair[1] > pair[0]) {
            let lean = 1.0 + 0.15 * normal_pair(dice).0.clamp(-2.0, 2.0);
            let sample = |time_s: f64| (time_s * rate_hz).ceil().max(0.0) as usize;
            for (k, value) in course.iter_mut().enumerate().take(sample(pair[1])).skip(sample(pair[0])) {
                let t = k as f64 / rate_hz;
                let phase = beat * (step as f64 + (t - pair[0]) / (pair[1] - pair[0]));
                let felt = minimum_jerk((t - begins) / FADE_S) * minimum_jerk((ends - t) / FADE_S);
                *value = felt * lean * beaten(phase);
            }
        }
    }
    course
}

/// Up and tilt beat with each step, what goes to the sides with every second one.
fn beat(axis: usize) -> f64 {
    if axis == 1 || axis == 2 || axis == 4 { 1.0 } else { 0.5 }
}

fn beaten(phase: f64) -> f64 {
    (TAU * phase).sin() + 0.3 * (2.0 * TAU * phase).sin()
}

impl Treat for Shake {
    const LEVEL: Level = Level::Camera;
    const WORDS: (&'static str, &'static str) =
        ("Shake", "What hands, an engine, steps or a blow do to the camera; the machine stays calm.");

    fn params() -> Vec<Param> {
        let named = |word, (amounts, [from_hz, to_hz, falls]): Noise| {
            let (p, r) = (amounts.position_cm, amounts.rotation_deg);
            let sets = vec![
                ("position_cm/0", p[0]),
                ("position_cm/1", p[1]),
                ("position_cm/2", p[2]),
                ("rotation_deg/0", r[0]),
                ("rotation_deg/1", r[1]),
                ("rotation_deg/2", r[2]),
                ("from_hz", from_hz),
                ("to_hz", to_hz),
                ("falls", falls),
            ];
            Preset::new(word, sets)
        };
        let usual = vec![named("shoulder", SHOULDER), named("shout", SHOUT), named("engine", ENGINE)];
        let with = |more: Vec<Param>| {
            let [moves, turns] = amounts().map(Vec::from);
            let rows = vec![
                Param::row("moves", moves).hint("To the side, up and ahead; RMS, of a hit the most."),
                Param::row("turns", turns).hint("Pan, tilt and roll; RMS, of a hit the most."),
            ];
            [rows, more].concat()
        };
        let [from, to, falls] = band();
        let [at, dies, swings] = hit();
        let [faster, starts] = sampled();
        let which = Param::recorded("take", "take", "none yet").hint("Its fast part is laid onto this move.");
        let row =
            Param::row("as much", times_as_far().into()).hint("Times as far as it did, and as it turned.");
        let of_take = vec![which, faster, row, starts];
        let mut of_noise = with(vec![Param::row("frequency range", vec![from, to]), falls]);
        of_noise[0] = of_noise[0].clone().presets(usual);
        let ways = vec![
            Case { name: "noise", label: "hands, engine", params: of_noise },
            Case { name: "own", label: "a drawn spectrum", params: with(vec![spectrum()]) },
            Case { name: "steps", label: "steps", params: with(vec![whose(), steps()]) },
            Case { name: "sampled", label: "as a take was", params: of_take },
            Case {
                name: "hit",
                label: "a hit",
                params: with(vec![Param::row("comes", vec![at]), dies, swings]),
            },
        ];
        vec![Param::variant("way", "kind of shake", Some("by"), ways), on_screen(), pivot(), seed()]
    }

    fn check(&self) -> Result<(), Invalid> {
        let in_way = |e: Invalid| Invalid { path: format!("way/{}", e.path), ..e };
        let Amounts { position_cm, rotation_deg } = self.amounts();
        for (param, value) in amounts().iter().flatten().zip([position_cm, rotation_deg].concat()) {
            within(param, value).map_err(in_way)?;
        }
        match self.way {
            ShakeBy::Noise { from_hz, to_hz, falls, .. } => {
                let [from, to, by] = band();
                within(&from, from_hz).and(within(&to, to_hz)).and(within(&by, falls)).map_err(in_way)?;
                if from_hz * 1.05 > to_hz {
                    let sentence = format!("a shake from {from_hz} to {to_hz} Hz is none; let it go higher");
                    return Err(Invalid::at("way/to_hz", sentence));
                }
            }
            ShakeBy::Own { ref spectrum, .. } => {
                within_curve(&self::spectrum(), spectrum).map_err(in_way)?;
                if spectrum.keys().iter().all(|k| k.value <= 0.0) {
                    let sentence = "a spectrum of nothing shakes nothing; draw some of it higher";
                    return Err(Invalid::at("way/spectrum", sentence));
                }
            }
            ShakeBy::Steps { per_s, .. } => within(&steps(), per_s).map_err(in_way)?,
            ShakeBy::Sampled { from_hz, starts_s, times, .. } => {
                let ([from, starts], more) = (sampled(), times_as_far());
                within(&from, from_hz).and(within(&starts, starts_s)).map_err(in_way)?;
                more.iter().zip(times).try_for_each(|(p, v)| within(p, v)).map_err(in_way)?;
            }
            ShakeBy::Hit { at_s, dies_s, hz, .. } => {
                let [at, dies, swings] = hit();
                within(&at, at_s).and(within(&dies, dies_s)).and(within(&swings, hz)).map_err(in_way)?;
            }
        }
        within(&seed(), f64::from(self.seed))?;
        within(&pivot(), self.pivot_m)?;
        self.same_on_screen_mm.map_or(Ok(()), |mm| within(&on_screen(), mm))
    }

    fn reads(&self) -> Reads {
        match self.way {
            ShakeBy::Steps { who: Some(_), .. } => Reads::Playing,
            ShakeBy::Sampled { take: Some(take), .. } => Reads::Recorded(take),
            _ => Reads::Nothing,
        }
    }

    fn apply(&self, motion: &Motion, context: &Context) -> Motion {
        let count = motion.samples.len();
        let felt = self.felt(context);
        let courses = self.courses(count, motion.samples.rate_hz(), &felt);
        let Amounts { position_cm, rotation_deg } = self.amounts();
        let zoom = motion.samples.width() - 3;
        let pivot = DVec3::new(0.0, 0.0, self.pivot_m);
        let shaken = |k: usize| {
            let less = self.same_on_screen_mm.map_or(1.0, |mm| mm / motion.samples.row(k)[zoom]);
            let [side, up, ahead] = std::array::from_fn(|i| courses[i][k] * position_cm[i] / 100.0);
            let turn = |i: usize| courses[3 + i][k] * rotation_deg[i].to_radians() * less;
            let rotation = PanTiltRoll { pan: turn(0), tilt: turn(1), roll: turn(2) }.to_rotation();
            let off = DVec3::new(side, up, -ahead) + pivot - rotation * pivot;
            motion.pose(k, context.rig).then(Pose::new(off, rotation))
        };
        let mut made = Motion { camera: Some((0..count).map(shaken).collect()), ..motion.clone() };
        let duration_s = motion.samples.duration_s();
        made.warnings.extend(too_quick(self.top_hz(), context.rate, duration_s));
        if let ShakeBy::Sampled { take: Some(_), .. } = self.way
            && felt.sampled.is_none()
        {
            let what = "the take whose shake is laid on is gone, or shorter than about 3 s; choose another";
            made.warnings.push(always(what.into(), context.rate, duration_s, 0.0));
        }
        made
    }
}

/// From the start to the end.
fn always(what: String, rate: Rate, to_s: f64, most: f64) -> Warning {
    let when = Stretch { from_s: 0.0, to_s, from_frame: 0, to_frame: rate.frame_at(to_s), most };
    Warning { what, when }
}

/// Warning about a frequency above half of the frame rate, which frames cannot show.
fn too_quick(hz: f64, rate: Rate, duration_s: f64) -> Option<Warning> {
    let most = rate.hz() / 2.0;
    let what = || {
        format!("the shake goes up to {hz:.1} Hz, of which {:.0} frames a second show {most:.1}", rate.hz())
    };
    (hz > most).then(|| always(what(), rate, duration_s, hz))
}
