//! `rovnek treat`.

use super::described::treatment;
use super::{evened, in_file, read_file, tell, write_file};
use clap::{Args, ValueEnum};
use rovnek_core::filter::Kernel;
use rovnek_core::lens::Camera;
use rovnek_core::motion::{Context, Motion};
use rovnek_core::rigs::{FreeCamera, RigSpec};
use rovnek_core::samples::Samples;
use rovnek_core::time::Rate;
use rovnek_core::treatments::{Reads, Scope, Smooth, SmoothBy, Treatment, TreatmentKind, treated};
use rovnek_formats::csv_track::{self, CsvTrack};
use std::path::PathBuf;
use std::str::FromStr;

#[derive(Args)]
pub struct Treat {
    /// CSV track to read
    r#in: PathBuf,
    /// CSV track to write
    out: PathBuf,
    /// A treatment and what is set of it: smooth:head.passes=100 or keys:every.seconds=0.5; may be
    /// given more than once
    #[arg(long, required_unless_present = "smooth", value_parser = treatment)]
    treatment: Vec<Treatment>,
    /// Frames a second at which treatments count frames: a number, or a fraction such as 24000/1001
    #[arg(long, default_value = "24", value_parser = super::rate_of)]
    rate: Rate,
    /// gaussian:sigma_s=0.08 or binomial:passes=100,rate=24
    #[arg(long)]
    smooth: Option<Smoothing>,
    /// With --smooth: only this part; may be given more than once
    #[arg(long)]
    only: Vec<Part>,
}

#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
enum Part {
    /// x, y, z
    Position,
    /// pan, tilt, roll
    Rotation,
    /// Focal length and focus
    Lens,
}

/// A smoothing, with the rate that passes are counted at.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Smoothing {
    by: SmoothBy,
    rate_hz: f64,
}

impl Smoothing {
    /// As a treatment of some parts of a track, all of them where none is named. The stop is a setting,
    /// not a motion: it is left alone.
    fn treatment(self, only: &[Part]) -> Treatment {
        let part = |part: Part| (only.is_empty() || only.contains(&part)).then_some(self.by);
        let (machine, head, lens) = (part(Part::Position), part(Part::Rotation), part(Part::Lens));
        let but_the_stop = ["x", "y", "z", "pan", "tilt", "roll", "zoom", "focus"].map(String::from);
        let scope = Scope { axes: Some(but_the_stop.into()), range: None };
        Treatment { scope, ..TreatmentKind::Smooth(Smooth { machine, head, lens }).into() }
    }
}

impl FromStr for Smoothing {
    type Err = String;

    fn from_str(text: &str) -> Result<Smoothing, String> {
        const FORMS: &str = "give gaussian:sigma_s=0.08 or binomial:passes=100,rate=24";
        let (name, rest) = text.split_once(':').ok_or(FORMS)?;
        let mut values = Vec::new();
        for pair in rest.split(',') {
            let (key, value) = pair.split_once('=').ok_or(FORMS)?;
            let number: f64 =
                value.parse().map_err(|_| format!("{key} is \"{value}\", not a number; {FORMS}"))?;
            values.push((key, number));
        }
        let (by, rate_hz) = match (name, values.as_slice()) {
            ("gaussian", [("sigma_s", sigma_s)]) => (SmoothBy::Gaussian { sigma_s: *sigma_s }, 24.0),
            ("binomial", [("passes", n), ("rate", rate)] | [("rate", rate), ("passes", n)]) => {
                if n.fract() != 0.0 || !(1.0..=400.0).contains(n) {
                    return Err(format!("{n} passes cannot be done; ask for 1 to 400"));
                }
                (SmoothBy::Binomial { passes: *n as u32 }, *rate)
            }
            _ => return Err(FORMS.into()),
        };
        if !(1.0..=240.0).contains(&rate_hz) {
            return Err(format!("a rate of {rate_hz} cannot be; give 1 to 240 frames a second"));
        }
        by.check("smooth").map_err(|e| e.sentence)?;
        Ok(Smoothing { by, rate_hz })
    }
}

impl Treat {
    /// Says where passes over frames are less than one over points that come more seldom.
    fn tell_what_rounds_to_nothing(&self, sample_hz: f64) {
        let asked = self.smooth.iter().map(|s| (s.by, s.rate_hz));
        let of = |t: &Treatment| match &t.kind {
            TreatmentKind::Smooth(s) => [s.machine, s.head, s.lens].into_iter().flatten().collect(),
            _ => Vec::new(),
        };
        let listed = self.treatment.iter().flat_map(of).map(|by| (by, self.rate.hz()));
        for (by, rate_hz) in asked.chain(listed) {
            let SmoothBy::Binomial { passes } = by else { continue };
            if by.kernel(sample_hz, rate_hz) == (Kernel::Binomial { passes: 0 }) {
                let note = format!(
                    "{passes} passes at {rate_hz} frames a second are less than one over points that come \
                     {sample_hz:.3} a second: nothing is smoothed by them; ask for more"
                );
                tell(&self.r#in, &[note]);
            }
        }
    }

    pub fn run(&self) -> Result<(), String> {
        let read = csv_track::read(&read_file(&self.r#in)?).map_err(in_file(&self.r#in))?;
        tell(&self.r#in, &read.notes);
        let mut track = read.content;
        let mut times = track.to_track();
        if let Some(even) = evened(&self.r#in, &times)? {
            (track, times) = (CsvTrack::of(&even), even);
        }
        self.tell_what_rounds_to_nothing(times.rate_hz());
        if track.len() > 2 {
            treat(&mut track, &self.treatment, times.rate_hz(), self.rate)?;
            if let Some(smoothing) = self.smooth {
                treat(
                    &mut track,
                    &[smoothing.treatment(&self.only)],
                    times.rate_hz(),
                    frames(smoothing.rate_hz)?,
                )?;
            }
        }
        write_file(&self.out, &track.to_bytes())
    }
}

/// Frames a second, to a thousandth.
fn frames(rate_hz: f64) -> Result<Rate, String> {
    let thousands = (rate_hz * 1000.0).round().clamp(0.0, 1e9);
    Rate::new(thousands as u32, 1000).map_err(|e| e.to_string())
}

/// Pan, tilt and roll of a camera in the air.
const TURNED: [usize; 3] = [3, 4, 5];

/// The columns of a track as the axes of a camera in the air, which is all that a bare track has.
/// Those that a treatment leaves alone stay as they stand in the file, to the bit.
fn treat(track: &mut CsvTrack, treatments: &[Treatment], rate_hz: f64, rate: Rate) -> Result<(), String> {
    for treatment in treatments {
        let what = match treatment.kind.reads() {
            Reads::Nothing => continue,
            Reads::Take(what) => what,
            Reads::Playing | Reads::Set => "where the performers are",
            Reads::Recorded(_) => "how another take moved",
        };
        return Err(format!(
            "this treatment reads {what}, which a bare track does not hold; treat the take itself"
        ));
    }
    let rig = RigSpec::FreeCamera(FreeCamera::default()).build(&Camera::default());
    let axes = rig.axes();
    let values = (0..track.len()).flat_map(|k| {
        let columns = &track.columns;
        axes.iter().enumerate().map(move |(i, axis)| axis.unit.from_shown(columns[i + 1][k]))
    });
    let before = Motion::of(Samples::new(rate_hz, axes.len(), values.collect()), axes);
    let context = Context::of(&*rig, &Camera::default(), rate);
    let mut after = treated(&before, treatments, &context);
    // Where a treatment moved the camera itself, a camera in the air stands there.
    for (k, pose) in after.camera.iter().flatten().enumerate() {
        (0..3).for_each(|i| after.samples.set(k, i, pose.position[i]));
        after.samples.set_rotation(k, TURNED, pose.rotation);
    }
    let retimed = after.samples.len() != before.samples.len();
    if retimed {
        let begins = track.columns[0][0];
        track.columns[0] = (0..after.samples.len()).map(|k| begins + k as f64 / rate_hz).collect();
    }
    for (i, axis) in axes.iter().enumerate() {
        let column = after.samples.column(i);
        if retimed || column != before.samples.column(i) {
            track.columns[i + 1] = column.into_iter().map(|v| axis.unit.to_shown(v)).collect();
        }
    }
    Ok(())
}
