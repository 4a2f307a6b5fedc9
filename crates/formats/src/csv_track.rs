//! Camera tracks as CSV (RFC 4180): one row a point, angles in degrees.
//!
//! Columns are found by name and may come in any order; unknown ones are left out with a note.

use crate::{FormatError, MOST_POINTS, Read, Times, excerpt, number, text_of};
use rovnek_core::DVec3;
use rovnek_core::space::PanTiltRoll;
use rovnek_core::track::{LensState, Track, TrackPoint};

/// The columns, in the order they are written.
pub const COLUMNS: [&str; 10] =
    ["time_s", "x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg", "focal_mm", "focus_m", "f_stop"];

/// A track as it stands in the file: one list a column, in the order of [`COLUMNS`], in the file's
/// units, so that what is not changed is written back to the bit.
#[derive(Clone, Debug, PartialEq)]
pub struct CsvTrack {
    /// Values of the columns; see [`COLUMNS`].
    pub columns: [Vec<f64>; 10],
}

impl CsvTrack {
    /// The columns of a track.
    pub fn of(track: &Track) -> CsvTrack {
        let mut columns: [Vec<f64>; 10] = Default::default();
        for p in &track.points {
            let (a, l) = (p.angles, p.lens);
            let row = [
                p.time_s,
                p.position.x,
                p.position.y,
                p.position.z,
                a.pan.to_degrees(),
                a.tilt.to_degrees(),
                a.roll.to_degrees(),
                l.focal_mm,
                l.focus_m,
                l.f_stop,
            ];
            for (column, value) in columns.iter_mut().zip(row) {
                column.push(value);
            }
        }
        CsvTrack { columns }
    }

    /// Number of points.
    pub fn len(&self) -> usize {
        self.columns[0].len()
    }

    /// True without points.
    pub fn is_empty(&self) -> bool {
        self.len() == 0
    }

    /// Track with angles in radians.
    pub fn to_track(&self) -> Track {
        let [time, x, y, z, pan, tilt, roll, focal, focus, stop] = &self.columns;
        let point = |i: usize| TrackPoint {
            time_s: time[i],
            position: DVec3::new(x[i], y[i], z[i]),
            angles: PanTiltRoll {
                pan: pan[i].to_radians(),
                tilt: tilt[i].to_radians(),
                roll: roll[i].to_radians(),
            },
            lens: LensState { focal_mm: focal[i], focus_m: focus[i], f_stop: stop[i] },
        };
        Track { points: (0..self.len()).map(point).collect() }
    }

    /// Bytes of the file.
    pub fn to_bytes(&self) -> Vec<u8> {
        let mut out = csv::Writer::from_writer(Vec::new());
        out.write_record(COLUMNS).expect("writing to memory");
        for i in 0..self.len() {
            // Shortest digits that read back as the same number; no "-0".
            let fields = self.columns.iter().map(|c| format!("{}", if c[i] == 0.0 { 0.0 } else { c[i] }));
            out.write_record(fields).expect("writing to memory");
        }
        out.into_inner().expect("writing to memory")
    }
}

/// Writes a track as CSV.
pub fn write(track: &Track) -> Vec<u8> {
    CsvTrack::of(track).to_bytes()
}

/// Reads a track from CSV.
pub fn read(bytes: &[u8]) -> Result<Read<CsvTrack>, FormatError> {
    let text = text_of(bytes)?;
    if text.trim().is_empty() {
        return Err(FormatError::at(
            1,
            format!("the file is empty; it should start with {}", COLUMNS.join(",")),
        ));
    }
    let mut reader = csv::ReaderBuilder::new()
        .has_headers(true)
        .flexible(true)
        .trim(csv::Trim::All)
        .from_reader(text.as_bytes());
    let header = reader.headers().map_err(|e| of_csv(&e))?.clone();
    let mut places = [usize::MAX; 10];
    let mut notes = Vec::new();
    for (place, name) in header.iter().enumerate() {
        match COLUMNS.iter().position(|c| *c == name) {
            Some(column) if places[column] != usize::MAX => {
                return Err(FormatError::at(1, format!("the column {name} comes twice; keep one")));
            }
            Some(column) => places[column] = place,
            None => notes.push(format!("the column {} is not known and was left out", excerpt(name))),
        }
    }
    let missing: Vec<&str> =
        COLUMNS.iter().zip(places).filter(|(_, p)| *p == usize::MAX).map(|(c, _)| *c).collect();
    if !missing.is_empty() {
        let them = if missing.len() == 1 { "add it" } else { "add them" };
        return Err(FormatError::at(
            1,
            format!("missing {}; {them} to the header and to every line", missing.join(", ")),
        ));
    }
    notes.truncate(20);

    let mut columns: [Vec<f64>; 10] = Default::default();
    let mut record = csv::StringRecord::new();
    let mut times = Times::default();
    while reader.read_record(&mut record).map_err(|e| of_csv(&e))? {
        let line = record.position().map_or(0, csv::Position::line);
        if record.len() != header.len() {
            let sentence = format!(
                "{} fields where the header has {}; the line may be cut off",
                record.len(),
                header.len()
            );
            return Err(FormatError::at(line, sentence));
        }
        for (column, place) in places.iter().enumerate() {
            let value = number(&record[*place], COLUMNS[column], line)?;
            if column == 0 {
                times.next(value, line)?;
            }
            if column >= 7 && value <= 0.0 {
                return Err(FormatError::at(
                    line,
                    format!("{} is {value}; it must be greater than zero", COLUMNS[column]),
                ));
            }
            columns[column].push(value);
        }
        if columns[0].len() > MOST_POINTS {
            return Err(FormatError::at(
                line,
                format!("more than {MOST_POINTS} points; cut the track into shorter ones"),
            ));
        }
    }
    if columns[0].is_empty() {
        return Err(FormatError::at(2, "there is a header but no point; add at least one line of numbers"));
    }
    Ok(Read { content: CsvTrack { columns }, notes })
}

fn of_csv(error: &csv::Error) -> FormatError {
    let line = error.position().map_or(1, csv::Position::line);
    FormatError::at(line, "this cannot be read as comma-separated values; check quotes and commas")
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    const HEAD: &str = "time_s,x_m,y_m,z_m,pan_deg,tilt_deg,roll_deg,focal_mm,focus_m,f_stop\n";

    fn fault(text: &str) -> String {
        read(text.as_bytes()).unwrap_err().to_string()
    }

    #[test]
    fn columns_come_in_any_order_and_unknown_ones_are_noted() {
        let text = "mood,f_stop,x_m,time_s,y_m,z_m,pan_deg,tilt_deg,roll_deg,focus_m,focal_mm\ncalm,4,1,0,2,3,10,20,30,5,35\n";
        let read = read(text.as_bytes()).unwrap();
        assert_eq!(
            read.content.columns.map(|c| c[0]),
            [0.0, 1.0, 2.0, 3.0, 10.0, 20.0, 30.0, 35.0, 5.0, 4.0]
        );
        assert_eq!(read.notes, ["the column \"mood\" is not known and was left out"]);
    }

    #[test]
    fn each_fault_has_its_line_and_its_remedy() {
        assert!(fault("").starts_with("line 1: the file is empty"));
        assert!(fault("time_s,x_m\n0,1\n").starts_with("line 1: missing y_m, z_m, pan_deg"));
        assert!(fault(HEAD).starts_with("line 2: there is a header but no point"));
        assert!(
            fault(&format!("{HEAD}0,1,2,3,4,5,6,35,5,4\n1,NaN,2,3,4,5,6,35,5,4\n"))
                .starts_with("line 3: x_m is not a number")
        );
        assert!(
            fault(&format!("{HEAD}0,1,2,3,4,5,6,35,5,4\n0,1,2,3,4,5,6,35,5,4\n"))
                .starts_with("line 3: the time 0 does not")
        );
        assert!(
            fault(&format!("{HEAD}0,1,2,3,4,5,6,35,5,4\n0.1,1,2,3")).starts_with("line 3: 4 fields where")
        );
        for end in ["1e9", "9000.1"] {
            let long = fault(&format!("{HEAD}0,1,2,3,4,5,6,35,5,4\n{end},1,2,3,4,5,6,35,5,4\n"));
            assert!(long.starts_with("line 3: the track has lasted"), "{long}");
        }
        assert!(fault(&format!("{HEAD}0,inf,2,3,4,5,6,35,5,4\n")).contains("too large"));
        assert!(fault(&format!("{HEAD}0,1,2,3,4,5,6,0,5,4\n")).contains("focal_mm is 0"));
        assert!(read(b"time_s\xff\xfe\n").unwrap_err().to_string().starts_with("line 1: this is not text"));
    }

    proptest! {
        #[test]
        fn what_is_written_reads_back_to_the_bit(values in prop::collection::vec(-1e6..1e6f64, 6), n in 1usize..20) {
            let mut columns: [Vec<f64>; 10] = Default::default();
            for i in 0..n {
                columns[0].push(i as f64 / 24.0);
                for (c, v) in columns[1..7].iter_mut().zip(&values) { c.push(v / (i + 1) as f64); }
                columns[7..].iter_mut().for_each(|c| c.push(1.0 / 3.0));
            }
            let track = CsvTrack { columns };
            prop_assert_eq!(read(&track.to_bytes()).unwrap().content, track);
        }

        #[test]
        fn noise_never_panics(bytes in prop::collection::vec(any::<u8>(), 0..400)) {
            let _ = read(&bytes);
            let _ = read(&[HEAD.as_bytes(), &bytes].concat());
        }
    }
}
