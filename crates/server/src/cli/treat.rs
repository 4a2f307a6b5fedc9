//! `rovnek treat`.

use super::described::treatment;
use super::{in_file, read_file, tell, tell_if_uneven, write_file};
use clap::{Args, ValueEnum};
use rovnek_core::filter::{Kernel, Smoother};
use rovnek_core::lens::Camera;
use rovnek_core::motion::{Context, Motion};
use rovnek_core::rigs::{FreeCamera, RigSpec};
use rovnek_core::samples::Samples;
use rovnek_core::time::Rate;
use rovnek_core::treatments::{Reads, SmoothBy, Treatment};
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
    /// Frames a second at which treatments count frames
    #[arg(long, default_value_t = 24.0)]
    rate: f64,
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
    pub fn run(&self) -> Result<(), String> {
        let read = csv_track::read(&read_file(&self.r#in)?).map_err(in_file(&self.r#in))?;
        tell(&self.r#in, &read.notes);
        let mut track = read.content;
        let times = track.to_track();
        tell_if_uneven(&self.r#in, &times, "they are smoothed as they stand");
        let frames = (self.rate * 1000.0).round();
        let rate = Rate::new(frames.clamp(0.0, 1e9) as u32, 1000).map_err(|e| e.to_string())?;
        if track.len() > 2 {
            treat(&mut track, &self.treatment, times.rate_hz(), rate)?;
            if let Some(smoothing) = self.smooth {
                smooth(&mut track, &self.only, smoothing.by.kernel(times.rate_hz(), smoothing.rate_hz));
            }
        }
        write_file(&self.out, &track.to_bytes())
    }
}

/// The columns of a track as the axes of a camera in the air, which is all that a bare track has.
/// Those that a treatment leaves alone stay as they stand in the file, to the bit.
fn treat(track: &mut CsvTrack, treatments: &[Treatment], rate_hz: f64, rate: Rate) -> Result<(), String> {
    for treatment in treatments {
        if let Reads::Take(what) = treatment.kind.reads() {
            return Err(format!(
                "this treatment reads {what}, which a bare track does not hold; treat the take itself"
            ));
        }
    }
    let rig = RigSpec::FreeCamera(FreeCamera::default()).build(&Camera::default());
    let axes = rig.axes();
    let values = (0..track.len()).flat_map(|k| {
        let columns = &track.columns;
        axes.iter().enumerate().map(move |(i, axis)| axis.unit.from_shown(columns[i + 1][k]))
    });
    let before = Motion::of(Samples::new(rate_hz, axes.len(), values.collect()), axes);
    let context = Context { rig: &*rig, rate };
    let after = treatments.iter().fold(before.clone(), |motion, t| t.apply(&motion, &context));
    for (i, axis) in axes.iter().enumerate() {
        let column = after.samples.column(i);
        if column != before.samples.column(i) {
            track.columns[i + 1] = column.into_iter().map(|v| axis.unit.to_shown(v)).collect();
        }
    }
    Ok(())
}

fn smooth(track: &mut CsvTrack, only: &[Part], kernel: Kernel) {
    let wanted = |part: Part| only.is_empty() || only.contains(&part);
    // The stop is a setting, not a motion: it is left alone.
    let parts = [(Part::Position, 1..4), (Part::Rotation, 4..7), (Part::Lens, 7..9)];
    let len = track.len();
    for column in &mut track.columns[4..7] {
        unwrap_degrees(column);
    }
    for (_, columns) in parts.into_iter().filter(|(part, _)| wanted(*part)) {
        Smoother::new(len, kernel).smooth(&mut track.columns[columns]);
    }
}

/// As [`rovnek_core::space::unwrap`], without the way through radians, so that whole degrees stay
/// whole.
fn unwrap_degrees(angles: &mut [f64]) {
    let mut turns = 0.0;
    for i in 1..angles.len() {
        let step = angles[i] + turns - angles[i - 1];
        if step.abs() > 180.0 {
            turns -= 360.0 * (step / 360.0).round();
        }
        angles[i] += turns;
    }
}
