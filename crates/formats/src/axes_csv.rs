//! What a machine's axes did, as CSV: time and every axis by its name, in degrees and metres, at
//! the full rate. The raw take, for anybody who would rather drive a real machine with it.

use crate::{FormatError, MOST_POINTS, Times, number, text_of};
use rovnek_core::axis::{Axis, Unit};
use rovnek_core::samples::Samples;

/// The column of an axis.
fn column(axis: &Axis) -> String {
    let name = axis.name.replace(' ', "_");
    match axis.unit {
        Unit::Metres => format!("{name}_m"),
        Unit::Radians => format!("{name}_deg"),
        Unit::Millimetres => format!("{name}_mm"),
        Unit::Plain => name,
    }
}

/// Writes samples from one of them on, each with its time.
pub fn write(samples: &Samples, from: usize, axes: &[Axis]) -> Vec<u8> {
    let mut out = csv::Writer::from_writer(Vec::new());
    let names = std::iter::once("time_s".to_string()).chain(axes.iter().map(column));
    out.write_record(names).expect("writing to memory");
    for (i, row) in samples.rows().enumerate().skip(from) {
        let shown = row.iter().zip(axes).map(|(v, a)| a.unit.to_shown(*v) + 0.0);
        let fields = std::iter::once(i as f64 / samples.rate_hz()).chain(shown);
        out.write_record(fields.map(|v| v.to_string())).expect("writing to memory");
    }
    out.into_inner().expect("writing to memory")
}

/// Reads samples of a machine with these axes; they must be evenly timed. An axis that is missing
/// stays where it starts, and is named in a note.
pub fn read(bytes: &[u8], axes: &[Axis]) -> Result<crate::Read<Samples>, FormatError> {
    let text = text_of(bytes)?;
    let mut reader =
        csv::ReaderBuilder::new().flexible(true).trim(csv::Trim::All).from_reader(text.as_bytes());
    let header = reader.headers().map_err(|e| FormatError::at(1, e.to_string()))?.clone();
    let place = |name: &str| header.iter().position(|h| h == name);
    let Some(time) = place("time_s") else {
        return Err(FormatError::at(1, "the column time_s is missing; the first line names the columns"));
    };
    let places: Vec<Option<usize>> = axes.iter().map(|a| place(&column(a))).collect();
    if places.iter().all(Option::is_none) {
        let wanted: Vec<String> = axes.iter().filter(|a| a.hand.is_some()).map(column).collect();
        return Err(FormatError::at(
            1,
            format!("no axis of this machine is here; it has {}", wanted.join(", ")),
        ));
    }
    let (mut times, mut values): (Vec<f64>, Vec<f64>) = Default::default();
    let mut clock = Times::default();
    for record in reader.records() {
        let record = record.map_err(|e| FormatError::whole(e.to_string()))?;
        let line = record.position().map_or(0, csv::Position::line);
        let field = |i: usize| record.get(i).unwrap_or("");
        let at = number(field(time), "time_s", line)?;
        clock.next(at, line)?;
        times.push(at);
        for (axis, place) in axes.iter().zip(&places) {
            values.push(match place {
                Some(i) => axis.unit.from_shown(number(field(*i), &column(axis), line)?),
                None => axis.start,
            });
        }
        if times.len() > MOST_POINTS {
            return Err(FormatError::at(line, format!("more than {MOST_POINTS} rows; cut the file")));
        }
    }
    let count = times.len();
    if count < 2 {
        return Err(FormatError::whole("a take needs at least two rows"));
    }
    let step = (times[count - 1] - times[0]) / (count - 1) as f64;
    let uneven = (0..count).find(|k| (times[*k] - times[0] - *k as f64 * step).abs() > 0.02 * step);
    if let Some(k) = uneven {
        return Err(FormatError::at(
            k as u64 + 2,
            "the rows are not evenly timed; give the same step everywhere",
        ));
    }
    if !(1.0..=1000.0).contains(&(1.0 / step)) {
        return Err(FormatError::whole("give between 1 and 1000 rows a second"));
    }
    let missing = axes.iter().zip(&places).filter(|(a, p)| p.is_none() && a.hand.is_some());
    let notes = missing.map(|(a, _)| format!("{} is missing and stays where it starts", column(a))).collect();
    // A step that was written with few digits means the rate it is nearest to.
    let hz = 1.0 / step;
    let rate_hz = if (hz - hz.round()).abs() < 1e-3 * hz { hz.round() } else { hz };
    Ok(crate::Read { content: Samples::new(rate_hz, axes.len(), values), notes })
}

#[cfg(test)]
mod tests {
    use super::*;
    use rovnek_core::lens::Camera;
    use rovnek_core::rigs::RigSpec;

    #[test]
    fn every_machine_there_and_back() {
        for spec in RigSpec::all() {
            let rig = spec.build(&Camera::default());
            let n = rig.axes().len();
            let values = (0..n * 50).map(|i| (i as f64 * 0.37).sin()).collect();
            let samples = Samples::new(120.0, n, values);
            let back = read(&write(&samples, 0, rig.axes()), rig.axes()).unwrap();
            assert_eq!((back.content.rate_hz(), back.content.len(), back.notes.len()), (120.0, 50, 0));
            for (a, b) in samples.values().iter().zip(back.content.values()) {
                assert!((a - b).abs() < 1e-15 * 200.0, "{a} {b}");
            }
        }
    }

    #[test]
    fn each_fault_has_its_line() {
        let rig = RigSpec::all().remove(0).build(&Camera::default());
        let fault = |text: &str| read(text.as_bytes(), rig.axes()).unwrap_err().to_string();
        assert!(fault("pan_deg\n1").contains("time_s"));
        assert!(fault("time_s,nothing\n0,1").contains("no axis of this machine"));
        assert!(fault("time_s,pan_deg\n0,1\n1,x").starts_with("line 3: pan_deg"));
        assert!(fault("time_s,pan_deg\n0,1\n0,2").starts_with("line 3: the time 0"));
        assert!(fault("time_s,pan_deg\n0,1\n1,1\n5,1").contains("evenly"));
        assert!(fault("time_s,pan_deg\n0,1").contains("two rows"));
        let notes = read(b"time_s,pan_deg\n0,1\n0.1,2\n", rig.axes()).unwrap().notes;
        assert!(notes.iter().any(|n| n.starts_with("tilt_deg")));
    }
}
