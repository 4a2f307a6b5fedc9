//! `rovnek convert`.

use super::{in_file, read_file, tell, write_file};
use clap::{Args, ValueEnum};
use rovnek_core::DVec3;
use rovnek_formats::tum::{CameraFrame, TumOptions, UpAxis};
use rovnek_formats::{MOST_POINTS, ReadFormat, WriteFormat};
use std::path::PathBuf;

#[derive(Args)]
pub struct Convert {
    /// Format of IN: csv, tum, opentrackio or glb
    #[arg(long)]
    from: ReadFormat,
    /// Format of OUT: csv, glb, tum or opentrackio
    #[arg(long)]
    to: WriteFormat,
    /// Points a second of OUT, a number or a fraction such as 24000/1001; without it the points of IN are kept
    #[arg(long, value_parser = super::points_a_second)]
    rate: Option<f64>,
    /// tum: the file's axis that points up
    #[arg(long, default_value = "z", allow_hyphen_values = true)]
    up: Up,
    /// tum: how the file's camera looks along its own axes
    #[arg(long, default_value = "optical")]
    camera: Camera,
    /// tum: metres on the set for one metre in the file
    #[arg(long, default_value_t = 1.0)]
    scale: f64,
    /// tum: turn to the right, in degrees
    #[arg(long, default_value_t = 0.0, allow_hyphen_values = true)]
    turn: f64,
    /// tum: where the file's origin goes on the set
    #[arg(long, num_args = 3, value_names = ["X", "Y", "Z"], allow_hyphen_values = true)]
    place: Option<Vec<f64>>,
    /// File to read
    r#in: PathBuf,
    /// File to write
    out: PathBuf,
}

#[derive(Clone, Copy, ValueEnum)]
enum Up {
    Y,
    Z,
    /// Y points down
    #[value(name = "-y")]
    MinusY,
}

#[derive(Clone, Copy, ValueEnum)]
enum Camera {
    /// +Z forward, +Y down
    Optical,
    /// −Z forward, +Y up
    Graphics,
    /// +X forward, +Z up
    Body,
}

impl Convert {
    pub fn run(&self) -> Result<(), String> {
        let numbers = [self.scale, self.turn].into_iter().chain(self.place.iter().flatten().copied());
        if !numbers.clone().all(f64::is_finite) || self.scale <= 0.0 {
            return Err("--scale must be over 0, and --turn and --place plain numbers".into());
        }
        let place = self.place.as_deref().map_or(DVec3::ZERO, DVec3::from_slice);
        let options = TumOptions {
            up: match self.up {
                Up::Y => UpAxis::Y,
                Up::Z => UpAxis::Z,
                Up::MinusY => UpAxis::MinusY,
            },
            camera: match self.camera {
                Camera::Optical => CameraFrame::Optical,
                Camera::Graphics => CameraFrame::Graphics,
                Camera::Body => CameraFrame::Body,
            },
            scale: self.scale,
            turn_deg: self.turn,
            place,
            ..TumOptions::default()
        };
        let bytes = read_file(&self.r#in)?;
        let read = rovnek_formats::read(self.from, &bytes, &options).map_err(in_file(&self.r#in))?;
        tell(&self.r#in, &read.notes);
        let track = match self.rate {
            Some(rate) if rate > 0.0 && rate <= 1000.0 => {
                let points = read.content.duration_s() * rate;
                if points > MOST_POINTS as f64 {
                    return Err(format!(
                        "{points:.0} points would be written at --rate {rate}; {MOST_POINTS} are the most"
                    ));
                }
                read.content.resampled(rate)
            }
            Some(rate) => {
                return Err(format!("--rate {rate} cannot be; give more than 0 and at most 1000 a second"));
            }
            None => read.content,
        };
        write_file(&self.out, &rovnek_formats::write(self.to, &track))
    }
}
