//! The command line.

mod convert;
mod copy;
mod described;
mod device;
mod export;
mod measure;
mod treat;

use crate::serve::{self, Address, Opens};
use clap::{Parser, Subcommand};
use rovnek_core::time::Rate;
use rovnek_core::track::Track;
use rovnek_formats::{FormatError, MOST_POINTS};
use rovnek_store::shelf::{self, Shelf};
use std::fs::File;
use std::io::{Read, Write};
use std::net::{IpAddr, Ipv4Addr};
use std::path::{Path, PathBuf};
use std::process::ExitCode;

/// Drive simulated camera machines live, record takes, smooth them, take them away.
#[derive(Parser)]
#[command(name = "rovnek", version, about)]
#[command(arg_required_else_help = true)]
struct Line {
    /// Print the notices of the packages and fonts that this program is made of
    #[arg(long, exclusive = true)]
    licences: bool,
    #[command(subcommand)]
    command: Option<Command>,
}

/// Notices of everything that the binary is made of, gathered by its build.
const LICENCES: &str = concat!(
    include_str!("../../../../LICENSE"),
    "\n----------------------------------------\n\n",
    include_str!(concat!(env!("OUT_DIR"), "/licences.txt"))
);

#[derive(Subcommand)]
enum Command {
    /// Serve the application for the productions that are kept in a folder
    Serve {
        /// Folder with the productions; made where it is missing
        #[arg(long, default_value = "rovnek-data")]
        data: PathBuf,
        /// Address to listen on; anything but loopback lets others on the network in, and needs --open
        #[arg(long, default_value_t = IpAddr::V4(Ipv4Addr::LOCALHOST))]
        bind: IpAddr,
        /// Whoever reaches the address may look, drive and change everything
        #[arg(long)]
        open: bool,
        /// Port to listen on
        #[arg(long, default_value_t = 4780)]
        port: u16,
    },
    /// Serve the demo production, freshly filled; it is thrown away at the end
    Demo {
        /// Port to listen on
        #[arg(long, default_value_t = 4780)]
        port: u16,
        /// Start with the performance at rest instead of playing
        #[arg(long)]
        still: bool,
    },
    /// Send what a tracked device in somebody's hands would send, for trying out
    Device(device::Device),
    /// Write a take of a production that is kept in a folder: camera, and for glb set and performers
    Export(export::Export),
    /// Write a production into one file that another Rovnek opens, or bring such a file in
    Copy(copy::Copy),
    /// Convert a camera track from one format to another
    Convert(convert::Convert),
    /// Smooth a camera track
    ///
    /// Works on the columns of a CSV track as they stand; angles are unwrapped first and not
    /// wrapped again. The first and the last line stay as they are.
    Treat(treat::Treat),
    /// Print the figures of a camera track as JSON
    Measure(measure::Measure),
}

/// Runs the command line: 0 when done, 2 with a sentence when not.
pub fn main() -> ExitCode {
    // clap exits with 2 and its own sentence where the line cannot be read.
    let line = Line::parse();
    let Some(command) = line.command else {
        // A reader that has seen enough closes the pipe.
        let _ = std::io::stdout().write_all(LICENCES.as_bytes());
        return ExitCode::SUCCESS;
    };
    let outcome = match command {
        Command::Serve { data, bind, open, port } => {
            may_bind(bind, open).and_then(|()| serve::open(&data)).and_then(|production| {
                serve::run(production, Address { bind, port }, Opens::Paused, format!("({})", data.display()))
            })
        }
        Command::Demo { port, still } => demo(port, still),
        Command::Device(device) => device.run(),
        Command::Export(export) => export.run(),
        Command::Copy(copy) => copy.run(),
        Command::Convert(convert) => convert.run(),
        Command::Treat(treat) => treat.run(),
        Command::Measure(measure) => measure.run(),
    };
    match outcome {
        Ok(()) => ExitCode::SUCCESS,
        Err(sentence) => {
            eprintln!("rovnek: {sentence}");
            ExitCode::from(2)
        }
    }
}

/// There is no code and no password: who reaches the address is let in, so that must be meant.
fn may_bind(bind: IpAddr, open: bool) -> Result<(), String> {
    if bind.is_loopback() || open {
        return Ok(());
    }
    Err(format!(
        "--bind {bind} lets whoever reaches that address look, drive the machines and change everything, \
         without a code; add --open if that is meant"
    ))
}

fn demo(port: u16, still: bool) -> Result<(), String> {
    let folder = tempfile::Builder::new()
        .prefix("rovnek-demo-")
        .tempdir()
        .map_err(|e| format!("no folder for the demo: {e}"))?;
    {
        let shelf = Shelf::open(folder.path()).map_err(|e| e.to_string())?;
        let id = shelf.begin(crate::demo::NAME, crate::demo::fill).map_err(|e| e.to_string())?;
        let mut store = shelf.open_one(&id).map_err(|e| e.to_string())?;
        shelf.opened(&id, &mut store).map_err(|e| e.to_string())?;
    }
    let production = serve::open(folder.path())?;
    let address = Address { bind: IpAddr::V4(Ipv4Addr::LOCALHOST), port };
    let opens = if still { Opens::Paused } else { Opens::Playing };
    serve::run(production, address, opens, "(demo; its takes are thrown away at the end)".into())
}

/// The file of a production in a data folder; the one opened last where none is named.
fn production(data: &Path, named: Option<&str>) -> Result<PathBuf, String> {
    let none = || format!("{} holds no production; name its folder with --data", data.display());
    let found = shelf::look(data).map_err(|e| e.to_string())?;
    let known = || found.iter().map(|(id, _)| id.as_str()).collect::<Vec<_>>().join(", ");
    match named {
        None => found.first().map(|(_, file)| file.clone()).ok_or_else(none),
        Some(named) => {
            let file = found.iter().find(|(id, _)| id == named).map(|(_, file)| file.clone());
            file.ok_or_else(|| format!("there is no production \"{named}\"; there are {}", known()))
        }
    }
}

/// Frames a second, as a number or as a fraction: 24, 23.976, 24000/1001.
fn rate_of(typed: &str) -> Result<Rate, String> {
    let wrong = || format!("\"{typed}\" is no rate; give frames a second, such as 24, 23.976 or 24000/1001");
    let (num, den) = match typed.split_once('/') {
        Some((num, den)) => {
            (num.trim().parse().map_err(|_| wrong())?, den.trim().parse().map_err(|_| wrong())?)
        }
        None => {
            let hz: f64 = typed.trim().parse().map_err(|_| wrong())?;
            ((hz * 1000.0).round().clamp(0.0, 1e9) as u32, 1000)
        }
    };
    Rate::new(num, den).map_err(|e| e.to_string())
}

/// Points a second, as a number or as a fraction.
fn points_a_second(typed: &str) -> Result<f64, String> {
    let number = |part: &str| part.trim().parse::<f64>().ok().filter(|v| v.is_finite());
    let rate = match typed.split_once('/') {
        Some((num, den)) => number(num).zip(number(den)).map(|(num, den)| num / den),
        None => number(typed),
    };
    let wrong = || format!("\"{typed}\" is no rate; give points a second, such as 120 or 24000/1001");
    rate.filter(|rate| rate.is_finite()).ok_or_else(wrong)
}

/// The bytes of a file, or a sentence that names it. Of one that is too large, as many as it takes
/// for its reader to say so, with the line.
fn read_file(path: &Path) -> Result<Vec<u8>, String> {
    let mut bytes = Vec::new();
    File::open(path)
        .and_then(|file| file.take(rovnek_formats::LARGEST_FILE as u64 + 1).read_to_end(&mut bytes))
        .map_err(|e| format!("cannot read {}: {e}", path.display()))?;
    Ok(bytes)
}

/// A track at even times where it is not at such, with a note that says where it is not; none where it
/// is even as it stands.
fn evened(path: &Path, track: &Track) -> Result<Option<Track>, String> {
    let Some(i) = track.first_uneven_step() else { return Ok(None) };
    // The header is line 1.
    let (line, step_s) = (i + 2, track.points[i].time_s - track.points[i - 1].time_s);
    let rate_hz = 1.0 / track.usual_step_s();
    let points = track.duration_s() * rate_hz;
    if points > MOST_POINTS as f64 {
        return Err(format!(
            "{}: the points are not evenly timed (line {line}), and even ones would be {points:.0}; \
             {MOST_POINTS} are the most: cut the track into shorter ones",
            path.display()
        ));
    }
    let note = format!(
        "the points are not evenly timed: line {line} comes {step_s:.3} s after the one before it; \
         they are evened to {rate_hz:.3} a second first"
    );
    tell(path, &[note]);
    Ok(Some(track.resampled(rate_hz)))
}

fn write_file(path: &Path, bytes: &[u8]) -> Result<(), String> {
    std::fs::write(path, bytes).map_err(|e| format!("cannot write {}: {e}", path.display()))
}

/// A format's error, with the file it is in.
fn in_file(path: &Path) -> impl Fn(FormatError) -> String {
    let name = path.display().to_string();
    move |error| format!("{name}, {error}")
}

/// Notes go to standard error, so that standard output stays clean.
fn tell(path: &Path, notes: &[String]) {
    for note in notes {
        eprintln!("rovnek: note: {}: {note}", path.display());
    }
}

#[cfg(test)]
mod tests {
    use super::LICENCES;

    #[test]
    fn the_notices_name_what_is_compiled_in_and_nothing_that_only_tests_need() {
        assert!(LICENCES.starts_with("MIT License"));
        for package in ["rocket 0.5", "rusqlite 0.", "glam 0."] {
            assert!(LICENCES.contains(&format!("\n{package}")), "{package}");
        }
        assert!(!LICENCES.contains("\nproptest "));
    }
}
