//! Open formats for camera moves, sets and captured performances. Bytes in, core types out, and
//! back; never a panic on bad input.
//!
//! A new format of tracks is one file here and one line in [`ReadFormat`] or [`WriteFormat`].

pub mod axes_csv;
pub mod bvh;
pub mod csv_track;
pub mod glb;
pub mod gltf_camera;
pub mod gltf_figure;
mod gltf_file;
mod gltf_motion;
pub mod gltf_set;
pub mod image_sequence;
pub mod plan_svg;
pub mod tracking;
pub mod tum;

use rovnek_core::track::Track;
use std::str::FromStr;

/// Files larger than this are refused. Readers may be given the first bytes of one, one more than
/// this, to say where.
pub const LARGEST_FILE: usize = 64 << 20;
/// Tracks of more points than this are refused: two and a half hours at 120 a second.
pub const MOST_POINTS: usize = 1_100_000;
/// Tracks that last longer than this, seconds, are refused: two and a half hours. Whatever is made
/// of a track at an even rate is thereby bounded before it is made.
pub const LONGEST_S: f64 = 9000.0;

/// The sensor a field of view is taken to be of where nothing says another (36 × 24 mm, ISO 1007).
const SENSOR_WIDTH_MM: f64 = 36.0;

/// Error in a file: the fault, its line, and the remedy.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("{}{sentence}", line.map(|l| format!("line {l}: ")).unwrap_or_default())]
pub struct FormatError {
    /// Line, counted from 1.
    pub line: Option<u64>,
    /// Sentence that says the fault and the remedy.
    pub sentence: String,
}

impl FormatError {
    /// An error on a line.
    pub fn at(line: u64, sentence: impl Into<String>) -> FormatError {
        FormatError { line: Some(line), sentence: sentence.into() }
    }

    /// An error of the whole file.
    pub fn whole(sentence: impl Into<String>) -> FormatError {
        FormatError { line: None, sentence: sentence.into() }
    }
}

/// Content of a file, with remarks for the reader.
#[derive(Clone, Debug, PartialEq)]
pub struct Read<T> {
    /// Content of the file.
    pub content: T,
    /// Sentences about what was left out or taken for granted.
    pub notes: Vec<String>,
}

/// Formats that tracks are read from.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ReadFormat {
    /// Camera track as CSV.
    Csv,
    /// Trajectory in the TUM text format.
    Tum,
    /// OpenTrackIO samples as lines of JSON.
    OpenTrackIo,
    /// The camera of a glTF 2.0 file.
    Gltf,
}

/// Formats that tracks are written to.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum WriteFormat {
    /// Camera track as CSV.
    Csv,
    /// Binary glTF 2.0, one file.
    Glb,
    /// Trajectory in the TUM text format.
    Tum,
    /// OpenTrackIO samples as lines of JSON.
    OpenTrackIo,
}

impl FromStr for ReadFormat {
    type Err = String;
    fn from_str(name: &str) -> Result<ReadFormat, String> {
        match name {
            "csv" => Ok(ReadFormat::Csv),
            "tum" => Ok(ReadFormat::Tum),
            "opentrackio" => Ok(ReadFormat::OpenTrackIo),
            "gltf" | "glb" => Ok(ReadFormat::Gltf),
            _ => Err(format!("\"{name}\" cannot be read; give csv, tum, opentrackio or glb")),
        }
    }
}

impl WriteFormat {
    /// All formats.
    pub const ALL: [WriteFormat; 4] =
        [WriteFormat::Csv, WriteFormat::Glb, WriteFormat::Tum, WriteFormat::OpenTrackIo];

    /// On the command line, and in the address.
    pub const fn name(self) -> &'static str {
        match self {
            WriteFormat::Csv => "csv",
            WriteFormat::Glb => "glb",
            WriteFormat::Tum => "tum",
            WriteFormat::OpenTrackIo => "opentrackio",
        }
    }
}

impl FromStr for WriteFormat {
    type Err = String;
    fn from_str(name: &str) -> Result<WriteFormat, String> {
        WriteFormat::ALL.into_iter().find(|format| format.name() == name).ok_or_else(|| {
            let names = WriteFormat::ALL.map(WriteFormat::name).join(", ");
            format!("\"{name}\" cannot be written; give one of {names}")
        })
    }
}

/// Reads a track of a format.
pub fn read(format: ReadFormat, bytes: &[u8], options: &tum::TumOptions) -> Result<Read<Track>, FormatError> {
    match format {
        ReadFormat::Csv => {
            let read = csv_track::read(bytes)?;
            Ok(Read { content: read.content.to_track(), notes: read.notes })
        }
        ReadFormat::Tum => Ok(Read { content: tum::read(bytes, options)?, notes: Vec::new() }),
        ReadFormat::OpenTrackIo => tracking::opentrackio::read_lines(bytes, options.lens),
        ReadFormat::Gltf => gltf_camera::read(bytes, options.lens, SENSOR_WIDTH_MM),
    }
}

/// Writes a track on its own, without a set.
pub fn write(format: WriteFormat, track: &Track) -> Vec<u8> {
    match format {
        WriteFormat::Csv => csv_track::write(track),
        WriteFormat::Tum => tum::write(track),
        WriteFormat::OpenTrackIo => tracking::opentrackio::write_lines(track),
        WriteFormat::Glb => glb::write(&glb::Shot { track, ..glb::Shot::of_track(track) }),
    }
}

/// The text of a file, or where it stops being text or becomes too large.
fn text_of(bytes: &[u8]) -> Result<&str, FormatError> {
    let line_at = |end: usize| bytes[..end].iter().filter(|b| **b == b'\n').count() as u64 + 1;
    let taken = &bytes[..bytes.len().min(LARGEST_FILE)];
    let text = match std::str::from_utf8(taken) {
        Ok(text) => text,
        // A character cut in two by the limit is not the file's fault.
        Err(e) if e.error_len().is_none() && bytes.len() > LARGEST_FILE => "",
        Err(e) => {
            return Err(FormatError::at(
                line_at(e.valid_up_to()),
                "this is not text; check that it is the right file",
            ));
        }
    };
    if bytes.len() > LARGEST_FILE {
        let sentence = format!("here the file passes {} MB; cut it into shorter tracks", LARGEST_FILE >> 20);
        return Err(FormatError::at(line_at(LARGEST_FILE), sentence));
    }
    Ok(text.strip_prefix('\u{feff}').unwrap_or(text))
}

/// A short piece of a file to show in a sentence.
fn excerpt(text: &str) -> String {
    let short: String = text.chars().filter(|c| !c.is_control()).take(40).collect();
    if text.chars().count() > 40 { format!("\"{short}…\"") } else { format!("\"{short}\"") }
}

/// A finite number, or a sentence that says which field is not one.
fn number(field: &str, name: &str, line: u64) -> Result<f64, FormatError> {
    match field.trim().parse::<f64>() {
        Ok(value) if value.is_finite() && value.abs() <= 1e12 => Ok(value),
        Ok(value) if value.is_nan() => Err(FormatError::at(
            line,
            format!("{name} is not a number (NaN); give a plain number or remove the line"),
        )),
        Ok(_) => Err(FormatError::at(
            line,
            format!("{name} is {}, which is too large; check the unit", excerpt(field)),
        )),
        Err(_) if field.trim().is_empty() => {
            Err(FormatError::at(line, format!("{name} is empty; the line may be cut off")))
        }
        Err(_) => Err(FormatError::at(line, format!("{name} is {}, not a number", excerpt(field)))),
    }
}

/// The times of a track as they are read: each after the one before, none too long after the first.
#[derive(Default)]
struct Times {
    first_and_last: Option<(f64, f64)>,
}

impl Times {
    /// The next time, in seconds, or a sentence that says what is wrong with it.
    fn next(&mut self, time: f64, line: u64) -> Result<(), FormatError> {
        let Some((first, before)) = self.first_and_last else {
            self.first_and_last = Some((time, time));
            return Ok(());
        };
        if time <= before {
            let remedy = "sort the lines by time and remove repeated ones";
            return Err(FormatError::at(
                line,
                format!("the time {time} does not come after {before}; {remedy}"),
            ));
        }
        if time - first > LONGEST_S {
            return Err(FormatError::at(line, too_long(time - first)));
        }
        self.first_and_last = Some((first, time));
        Ok(())
    }
}

/// Sentence about a track that lasts too long, in seconds.
fn too_long(duration_s: f64) -> String {
    let hours = duration_s / 3600.0;
    format!(
        "the track has lasted {hours:.1} hours here; a track lasts at most two and a half, so check the unit of time or cut it"
    )
}
