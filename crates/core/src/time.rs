//! Frame rates as exact fractions, and timecode as in SMPTE ST 12-1.

use serde::{Deserialize, Serialize};
use std::fmt;
use ts_rs::TS;

/// Recorded takes are sampled this often, whatever the frame rate of the scene.
pub const SAMPLE_RATE_HZ: f64 = 120.0;

/// A frame rate as a fraction, so that 24000/1001 is exact.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
pub struct Rate {
    /// Frames in `den` seconds.
    pub num: u32,
    /// Seconds in which `num` frames pass.
    pub den: u32,
}

/// A rate that no picture runs at.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error(
    "a rate of {0}/{1} is not usable; give one between 1 and 240 frames a second, such as 24 or 24000/1001"
)]
pub struct BadRate(u32, u32);

impl Rate {
    /// 24 frames a second, the rate of film.
    pub const FILM: Rate = Rate { num: 24, den: 1 };

    /// A rate between 1 and 240 frames a second.
    pub fn new(num: u32, den: u32) -> Result<Rate, BadRate> {
        let usable = den > 0 && num >= den && u64::from(num) <= 240 * u64::from(den);
        if usable { Ok(Rate { num, den }) } else { Err(BadRate(num, den)) }
    }

    /// Frames per second.
    pub fn hz(self) -> f64 {
        f64::from(self.num) / f64::from(self.den)
    }

    /// When frame `i` is shown, in seconds after frame 0.
    pub fn time_of(self, frame: usize) -> f64 {
        frame as f64 * f64::from(self.den) / f64::from(self.num)
    }

    /// The frame that is seen at a time.
    pub fn frame_at(self, time_s: f64) -> usize {
        // A time that is a frame's own must not fall into the one before.
        (time_s * self.hz() + 1e-6).max(0.0) as usize
    }

    /// The first frame at a time or after it.
    pub fn frame_from(self, time_s: f64) -> usize {
        (time_s * self.hz() - 1e-6).ceil().max(0.0) as usize
    }

    /// Number of frames that start within `duration_s`, counting the one at zero.
    pub fn frames_within(self, duration_s: f64) -> usize {
        // A take that ends on a frame to within a microsecond has that frame.
        (duration_s * self.hz() + 1e-6 * self.hz()).floor().max(0.0) as usize + 1
    }

    /// The whole number of frames that timecode counts in a second: 24 for 23.976.
    fn nominal(self) -> u64 {
        u64::from(self.num.div_ceil(self.den))
    }

    /// True if timecode at this rate drops frame numbers (29.97 and 59.94).
    pub fn drops(self) -> bool {
        self.den == 1001 && (self.num == 30_000 || self.num == 60_000)
    }

    /// The timecode of a frame counted from midnight. SMPTE ST 12-1: with drop frame, the first
    /// two numbers (four at 59.94) of every minute are skipped except in each tenth minute.
    pub fn timecode(self, frame: u64) -> Timecode {
        let fps = self.nominal();
        let mut count = frame;
        if self.drops() {
            let skip = fps / 15;
            let (per_minute, per_ten) = (fps * 60 - skip, fps * 600 - 9 * skip);
            let (tens, rest) = (frame / per_ten, frame % per_ten);
            // The first minute of each ten is whole; each later one starts `skip` numbers on.
            let minutes = if rest < fps * 60 { 0 } else { 1 + (rest - fps * 60) / per_minute };
            count += skip * (9 * tens + minutes);
        }
        let seconds = count / fps;
        Timecode {
            hours: (seconds / 3600 % 24) as u8,
            minutes: (seconds / 60 % 60) as u8,
            seconds: (seconds % 60) as u8,
            frames: (count % fps) as u8,
            drop: self.drops(),
        }
    }
}

impl Rate {
    /// The frame of day of a timecode's hours, minutes, seconds and frames; none of numbers that are not
    /// counted at this rate.
    fn frame_of(self, [hours, minutes, seconds, frames]: [u64; 4]) -> Option<u64> {
        let fps = self.nominal();
        if hours > 23 || minutes > 59 || seconds > 59 || frames >= fps {
            return None;
        }
        let minute = hours * 60 + minutes;
        let skip = if self.drops() { fps / 15 } else { 0 };
        if !minute.is_multiple_of(10) && seconds == 0 && frames < skip {
            return None;
        }
        Some((minute * 60 + seconds) * fps + frames - skip * (minute - minute / 10))
    }
}

impl fmt::Display for Rate {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if self.den == 1 { write!(f, "{}", self.num) } else { write!(f, "{:.3}", self.hz()) }
    }
}

/// How the times of a scene are counted.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Timebase {
    /// Frames a second.
    pub rate: Rate,
    /// The frame of day at which the scene begins.
    pub start_frame: u32,
}

impl Timebase {
    /// The time that somebody typed, seconds of the scene: a frame's number ("120"), seconds ("5.2 s") or
    /// a timecode ("01:00:05:12"), of which the last fields may stand alone ("5:12" is five seconds and
    /// twelve frames after the start of the scene).
    pub fn read(self, typed: &str) -> Result<f64, String> {
        let typed = typed.trim();
        let how = "give a frame (120), seconds (5.2 s) or a timecode (01:00:05:12)";
        let unreadable = || format!("\"{typed}\" is no time; {how}");
        let fields: Vec<&str> = typed.split([':', ';']).collect();
        if fields.len() == 1 {
            if let Some(seconds) = typed.strip_suffix('s') {
                let seconds: f64 = seconds.trim().parse().map_err(|_| unreadable())?;
                return if seconds.is_finite() { Ok(seconds) } else { Err(unreadable()) };
            }
            let frame: i64 = typed.parse().map_err(|_| unreadable())?;
            return Ok(frame as f64 / self.rate.hz());
        }
        let plain = |f: &&str| f.len() <= 4 && !f.is_empty() && f.bytes().all(|b| b.is_ascii_digit());
        if fields.len() > 4 || !fields.iter().all(plain) {
            return Err(unreadable());
        }
        let mut numbers = [0u64; 4];
        for (number, field) in numbers[4 - fields.len()..].iter_mut().zip(&fields) {
            *number = field.parse().map_err(|_| unreadable())?;
        }
        let frame = self
            .rate
            .frame_of(numbers)
            .ok_or_else(|| format!("{typed} is no timecode at {} frames a second; {how}", self.rate))?;
        let start = if fields.len() == 4 { i64::from(self.start_frame) } else { 0 };
        Ok((frame as i64 - start) as f64 / self.rate.hz())
    }

    /// The timecode of the frame that is seen at a time of the scene.
    pub fn timecode(self, time_s: f64) -> Timecode {
        self.rate.timecode(u64::from(self.start_frame) + self.rate.frame_at(time_s) as u64)
    }
}

/// Hours, minutes, seconds and frames.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Timecode {
    pub hours: u8,
    pub minutes: u8,
    pub seconds: u8,
    pub frames: u8,
    /// Drop-frame counting, written with a semicolon before the frames.
    pub drop: bool,
}

impl Timecode {
    /// As it is sent: a byte each for hours, minutes, seconds and frames, hours at the top, whose
    /// highest bit is drop-frame counting.
    pub fn packed(self) -> u32 {
        u32::from_be_bytes([self.hours | u8::from(self.drop) << 7, self.minutes, self.seconds, self.frames])
    }
}

impl fmt::Display for Timecode {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let mark = if self.drop { ';' } else { ':' };
        write!(f, "{:02}:{:02}:{:02}{mark}{:02}", self.hours, self.minutes, self.seconds, self.frames)
    }
}

/// The two of `count` even samples that a time lies between, and its share of the way from the
/// first to the second; the ends are held outside.
pub(crate) fn between(time_s: f64, rate_hz: f64, count: usize) -> (usize, usize, f64) {
    let last = count - 1;
    let place = (time_s * rate_hz).clamp(0.0, last as f64);
    let i = (place as usize).min(last.saturating_sub(1));
    (i, (i + 1).min(last), place - i as f64)
}

#[cfg(test)]
mod tests {
    use super::*;

    const NTSC: Rate = Rate { num: 30_000, den: 1001 };

    /// Worked values of SMPTE ST 12-1 drop-frame counting (from memory).
    #[test]
    fn drop_frame_skips_two_numbers_a_minute_but_not_in_the_tenth() {
        for (frame, want) in [
            (0, "00:00:00;00"),
            (1799, "00:00:59;29"),
            (1800, "00:01:00;02"),
            (17_981, "00:09:59;29"),
            (17_982, "00:10:00;00"),
            (107_892, "01:00:00;00"),
            (2_589_407, "23:59:59;29"),
        ] {
            assert_eq!(NTSC.timecode(frame).to_string(), want);
        }
    }

    #[test]
    fn plain_counting_at_film_rates() {
        assert_eq!(Rate::FILM.timecode(24 * 3600 + 25).to_string(), "01:00:01:01");
        let pulled_down = Rate { num: 24_000, den: 1001 };
        assert_eq!(pulled_down.timecode(24).to_string(), "00:00:01:00");
    }

    #[test]
    fn the_timecode_of_a_time_is_that_of_the_frame_seen_then() {
        let base = Timebase { rate: NTSC, start_frame: 1790 };
        let at = |frame: usize| base.timecode(NTSC.time_of(frame)).to_string();
        assert_eq!((at(9), at(10)), ("00:00:59;29".into(), "00:01:00;02".into()));
        assert_eq!(base.timecode(NTSC.time_of(10) - 1e-3).to_string(), "00:00:59;29");
        assert_eq!(base.timecode(NTSC.time_of(10)).packed(), 0x8001_0002);
        assert_eq!(Rate::FILM.timecode(23 * 86_400 + 25).packed(), 0x1700_0101);
    }

    /// Counting frames is checked against the standard's worked values above; reading goes the way back,
    /// over the whole day.
    #[test]
    fn every_timecode_of_the_day_reads_as_its_frame() {
        for (num, den) in [(24, 1), (25, 1), (30_000, 1001), (60_000, 1001), (24_000, 1001)] {
            let rate = Rate { num, den };
            let base = Timebase { rate, start_frame: 0 };
            let day = 86_400 * u64::from(num) / u64::from(den);
            for frame in (0..day).step_by(997).chain(1798..1803).chain(17_980..17_984) {
                let read = base.read(&rate.timecode(frame).to_string()).unwrap();
                assert!((read * rate.hz() - frame as f64).abs() < 1e-6, "{frame} at {rate}");
            }
        }
    }

    #[test]
    fn a_typed_time_is_a_frame_seconds_or_a_timecode_of_the_scene() {
        let base = Timebase { rate: Rate::FILM, start_frame: 86_400 };
        for (typed, want_s) in [
            ("120", 5.0),
            (" 5.25 s", 5.25),
            ("2s", 2.0),
            ("01:00:05:12", 5.5),
            ("5:12", 5.5),
            ("1:00:00", 60.0),
        ] {
            assert_eq!(base.read(typed), Ok(want_s), "{typed}");
        }
        for wrong in ["", "soon", "1:2:3:4:5", "5:24", "01:60:00:00", "1e3", ":12", "-1:00", "inf s"] {
            assert!(base.read(wrong).is_err(), "{wrong}");
        }
        // These numbers are skipped with drop frame.
        let drop = Timebase { rate: NTSC, start_frame: 0 };
        assert!(drop.read("00:01:00;01").unwrap_err().contains("no timecode at 29.970"));
        assert!(drop.read("00:10:00;01").is_ok());
    }

    #[test]
    fn a_two_second_take_has_49_frames_at_24() {
        assert_eq!(Rate::FILM.frames_within(2.0), 49);
        assert_eq!(Rate::FILM.frames_within(2.0 - 1e-3), 48);
    }

    #[test]
    fn unusable_rates_are_refused() {
        for (num, den) in [(0, 1), (1, 0), (1, 2), (241, 1)] {
            assert!(Rate::new(num, den).is_err());
        }
    }
}
