//! `rovnek measure`.

use super::{evened, in_file, read_file, tell};
use clap::Args;
use rovnek_core::measures::{Departure, departure, figures, relative_pose_error};
use rovnek_core::track::Track;
use rovnek_formats::csv_track;
use std::path::{Path, PathBuf};

#[derive(Args)]
pub struct Measure {
    /// CSV track to measure
    r#in: PathBuf,
    /// The track it was made of: adds how far it departs from it
    #[arg(long)]
    against: Option<PathBuf>,
}

impl Measure {
    pub fn run(&self) -> Result<(), String> {
        let track = load(&self.r#in)?;
        let mut out = serde_json::to_value(figures(&track, &[])).map_err(|e| e.to_string())?;
        if let Some(path) = &self.against {
            let raw = load(path)?;
            let Some((now, then)) = track.shared_with(&raw) else {
                let goes = |path: &Path, track: &Track| {
                    let [from, to] =
                        [track.points.first(), track.points.last()].map(|p| p.map_or(0.0, |p| p.time_s));
                    format!("{} goes from {from:.3} to {to:.3} s", path.display())
                };
                let (a, b) = (goes(&self.r#in, &track), goes(path, &raw));
                return Err(format!("{a}, {b}: they share no time; measure tracks of the same time"));
            };
            let off = departure(&track, &raw).unwrap_or(Departure::NONE);
            out["departure_position_cm"] = off.position_cm.into();
            out["departure_rotation_deg"] = off.rotation_deg.into();
            // It depends on how far apart the points are that are compared: a second, at any rate.
            let steps = (track.rate_hz().round() as usize).max(1);
            let (metres, degrees) = relative_pose_error(&now, &then, steps);
            out["relative_pose_error_over_s"] = (steps as f64 / track.rate_hz().max(1e-9)).into();
            out["relative_pose_error_m"] = metres.into();
            out["relative_pose_error_deg"] = degrees.into();
            out["against"] = serde_json::to_value(figures(&raw, &[])).map_err(|e| e.to_string())?;
        }
        println!("{out:#}");
        Ok(())
    }
}

fn load(path: &Path) -> Result<Track, String> {
    let read = csv_track::read(&read_file(path)?).map_err(in_file(path))?;
    tell(path, &read.notes);
    let mut track = read.content.to_track();
    if let Some(even) = evened(path, &track)? {
        track = even;
    }
    type Pick = fn(&mut rovnek_core::space::PanTiltRoll) -> &mut f64;
    for pick in [(|a| &mut a.pan) as Pick, |a| &mut a.tilt, |a| &mut a.roll] {
        let mut angles: Vec<f64> = track.points.iter_mut().map(|p| *pick(&mut p.angles)).collect();
        rovnek_core::space::unwrap(&mut angles);
        for (point, angle) in track.points.iter_mut().zip(angles) {
            *pick(&mut point.angles) = angle;
        }
    }
    Ok(track)
}
