//! OpenTrackIO (SMPTE RIS on-set virtual production): samples as JSON, one a packet or cut into
//! segments.
//!
//! **Sample** (from memory of the public schema, version 1): a chain of `transforms`, each a
//! translation in metres and a rotation in degrees (pan about Z, then tilt about X, then roll about
//! Y, right-handed) in a world with Z up and cameras that look along Y; `timing` with a sample
//! timestamp, a rate and a sequence number; `lens` with pinhole focal length in mm, focus distance
//! in m, f-stop, encoders from 0 to 1. What is not known here is left alone.
//!
//! **Packet** (from memory): 16 bytes of header, big-endian: `OTrk`, a reserved byte, the encoding
//! (1 is JSON), a sequence number (16 bits), the segment's offset (32 bits), a bit that marks the
//! last segment with the payload's length (15 bits), and a Fletcher-16 checksum over the header
//! before it and the payload.

use super::{Lens, Sample};
use crate::{FormatError, LARGEST_FILE, MOST_POINTS};
use rovnek_core::DVec3;
use rovnek_core::space::{PanTiltRoll, Pose};
use rovnek_core::track::{LensState, Track, TrackPoint};
use serde::{Deserialize, Serialize};

const MAGIC: &[u8; 4] = b"OTrk";
const JSON: u8 = 1;
/// Bytes of a header.
pub const HEADER: usize = 16;
/// A sample of more bytes than this is refused.
pub const LARGEST_SAMPLE: usize = 64 << 10;
/// The largest payload of one packet.
const LARGEST_PAYLOAD: usize = 0x7FFF;

#[derive(Deserialize, Serialize, Default)]
#[serde(rename_all = "camelCase", default)]
struct Doc {
    #[serde(skip_serializing_if = "Option::is_none")]
    protocol: Option<ProtocolDoc>,
    #[serde(skip_serializing_if = "Option::is_none")]
    source_id: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    source_number: Option<u32>,
    #[serde(skip_serializing_if = "Option::is_none")]
    timing: Option<Timing>,
    #[serde(skip_serializing_if = "Option::is_none")]
    lens: Option<LensDoc>,
    transforms: Vec<Transform>,
}

#[derive(Deserialize, Serialize)]
struct ProtocolDoc {
    name: String,
    version: Vec<u32>,
}

#[derive(Deserialize, Serialize, Default)]
#[serde(rename_all = "camelCase", default)]
struct Timing {
    #[serde(skip_serializing_if = "Option::is_none")]
    mode: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    sample_rate: Option<RateDoc>,
    #[serde(skip_serializing_if = "Option::is_none")]
    sample_timestamp: Option<Stamp>,
    #[serde(skip_serializing_if = "Option::is_none")]
    sequence_number: Option<u64>,
}

#[derive(Deserialize, Serialize)]
struct RateDoc {
    num: u32,
    denom: u32,
}

#[derive(Deserialize, Serialize)]
struct Stamp {
    seconds: u64,
    nanoseconds: u32,
}

#[derive(Deserialize, Serialize, Default)]
#[serde(rename_all = "camelCase", default)]
struct LensDoc {
    #[serde(skip_serializing_if = "Option::is_none")]
    pinhole_focal_length: Option<f64>,
    #[serde(skip_serializing_if = "Option::is_none")]
    focus_distance: Option<f64>,
    #[serde(skip_serializing_if = "Option::is_none")]
    f_stop: Option<f64>,
    #[serde(skip_serializing_if = "Option::is_none")]
    encoders: Option<Encoders>,
}

#[derive(Deserialize, Serialize, Default)]
#[serde(default)]
struct Encoders {
    #[serde(skip_serializing_if = "Option::is_none")]
    zoom: Option<f64>,
    #[serde(skip_serializing_if = "Option::is_none")]
    focus: Option<f64>,
}

#[derive(Deserialize, Serialize)]
struct Transform {
    translation: Xyz,
    rotation: Turn,
    #[serde(skip_serializing_if = "Option::is_none")]
    id: Option<String>,
}

#[derive(Deserialize, Serialize)]
struct Xyz {
    x: f64,
    y: f64,
    z: f64,
}

#[derive(Deserialize, Serialize)]
struct Turn {
    pan: f64,
    tilt: f64,
    roll: f64,
}

impl Transform {
    /// In our conventions; theirs turn pan to the left.
    fn pose(&self) -> Pose {
        let Xyz { x, y, z } = self.translation;
        let turn = PanTiltRoll {
            pan: -self.rotation.pan.to_radians(),
            tilt: self.rotation.tilt.to_radians(),
            roll: self.rotation.roll.to_radians(),
        };
        Pose::new(DVec3::new(x, z, -y), turn.to_rotation().normalize())
    }

    fn of(pose: Pose) -> Transform {
        let (p, turn) = (pose.position, PanTiltRoll::from_rotation(pose.rotation));
        Transform {
            translation: Xyz { x: p.x, y: -p.z, z: p.y },
            rotation: Turn {
                pan: -turn.pan.to_degrees(),
                tilt: turn.tilt.to_degrees(),
                roll: turn.roll.to_degrees(),
            },
            id: Some("Camera".into()),
        }
    }
}

/// Reads a sample from JSON.
pub fn read(json: &[u8]) -> Result<Sample, String> {
    if json.len() > LARGEST_SAMPLE {
        return Err(format!("a sample of {} bytes came; the most is {LARGEST_SAMPLE}", json.len()));
    }
    let doc: Doc = serde_json::from_slice(json).map_err(|e| format!("this is no OpenTrackIO sample: {e}"))?;
    if let Some(p) = doc.protocol.as_ref().filter(|p| p.name != "OpenTrackIO") {
        return Err(format!("the sample says it is {}, not OpenTrackIO", crate::excerpt(&p.name)));
    }
    if doc.transforms.is_empty() {
        return Err("the sample has no transforms, so the camera is nowhere".into());
    }
    let plain = |t: &Transform| {
        let (p, r) = (&t.translation, &t.rotation);
        [p.x, p.y, p.z, r.pan, r.tilt, r.roll].into_iter().all(|v| v.is_finite() && v.abs() <= 1e6)
    };
    if doc.transforms.len() > 16 || !doc.transforms.iter().all(plain) {
        return Err("the transforms need plain numbers under a million, and at most 16 of them".into());
    }
    let pose = doc.transforms.iter().fold(Pose::ORIGIN, |at, t| at.then(t.pose()));
    let device = match (doc.source_number, doc.source_id) {
        (Some(number), _) => number.to_string(),
        (None, Some(id)) => id.chars().filter(|c| !c.is_control()).take(80).collect(),
        (None, None) => "1".into(),
    };
    let timing = doc.timing.unwrap_or_default();
    let lens = doc.lens.unwrap_or_default();
    let within = |v: Option<f64>, from: f64, to: f64| v.filter(|v| (from..=to).contains(v));
    let encoders = lens.encoders.unwrap_or_default();
    Ok(Sample {
        device,
        time_s: timing.sample_timestamp.map(|s| s.seconds as f64 + f64::from(s.nanoseconds) * 1e-9),
        sequence: timing.sequence_number.map(|n| n as u16),
        rate_hz: timing
            .sample_rate
            .filter(|r| r.num > 0 && r.denom > 0)
            .map(|r| f64::from(r.num) / f64::from(r.denom)),
        pose,
        lens: Lens {
            focal_mm: within(lens.pinhole_focal_length, 1.0, 2000.0),
            focus_m: within(lens.focus_distance, 0.01, 1e6),
            f_stop: within(lens.f_stop, 0.1, 100.0),
            zoom: within(encoders.zoom, 0.0, 1.0),
            focus: within(encoders.focus, 0.0, 1.0),
        },
    })
}

/// A sample to write.
#[derive(Clone, Copy, Debug)]
pub struct Written {
    /// Number of the device.
    pub number: u32,
    /// Counts samples.
    pub sequence: u16,
    /// Time of the sample, seconds.
    pub time_s: f64,
    /// Samples a second, as a fraction.
    pub rate: (u32, u32),
    /// Pose of the camera.
    pub pose: Pose,
    /// State of the lens.
    pub lens: Option<LensState>,
}

/// Writes a sample.
pub fn write(w: &Written) -> Vec<u8> {
    let whole = w.time_s.max(0.0).floor();
    let doc = Doc {
        protocol: Some(ProtocolDoc { name: "OpenTrackIO".into(), version: vec![1, 0, 0] }),
        source_id: None,
        source_number: Some(w.number),
        timing: Some(Timing {
            mode: Some("internal".into()),
            sample_rate: Some(RateDoc { num: w.rate.0, denom: w.rate.1 }),
            sample_timestamp: Some(Stamp {
                seconds: whole as u64,
                nanoseconds: (((w.time_s.max(0.0) - whole) * 1e9).round() as u32).min(999_999_999),
            }),
            sequence_number: Some(u64::from(w.sequence)),
        }),
        lens: w.lens.map(|l| LensDoc {
            pinhole_focal_length: Some(l.focal_mm),
            focus_distance: Some(l.focus_m),
            f_stop: Some(l.f_stop),
            encoders: None,
        }),
        transforms: vec![Transform::of(w.pose)],
    };
    serde_json::to_vec(&doc).expect("plain data")
}

/// A sample as packets of at most `payload` bytes of it.
pub fn packets(json: &[u8], sequence: u16, payload: usize) -> Vec<Vec<u8>> {
    let size = payload.clamp(16, LARGEST_PAYLOAD);
    let count = json.len().div_ceil(size).max(1);
    (0..count)
        .map(|k| {
            let part = &json[k * size..((k + 1) * size).min(json.len())];
            let mut out = Vec::with_capacity(HEADER + part.len());
            out.extend(MAGIC);
            out.extend([0, JSON]);
            out.extend(sequence.to_be_bytes());
            out.extend(((k * size) as u32).to_be_bytes());
            let last = if k + 1 == count { 0x8000 } else { 0 };
            out.extend((last | part.len() as u16).to_be_bytes());
            let sum = fletcher(&out, part);
            out.extend(sum.to_be_bytes());
            out.extend(part);
            out
        })
        .collect()
}

/// Fletcher's checksum of 16 bits over two runs of bytes.
fn fletcher(head: &[u8], rest: &[u8]) -> u16 {
    let (mut a, mut b) = (0u16, 0u16);
    for byte in head.iter().chain(rest) {
        a = (a + u16::from(*byte)) % 255;
        b = (b + a) % 255;
    }
    b << 8 | a
}

/// Puts samples together from packets, of any number of them that are under way at once.
#[derive(Default)]
pub struct Assembler {
    parts: Vec<Parts>,
}

struct Parts {
    sequence: u16,
    segments: Vec<(usize, Vec<u8>)>,
    length: Option<usize>,
}

/// Samples that may be under way; the oldest gives way.
const UNDER_WAY: usize = 8;
/// Numbers go round: what is farther behind than this is no part of what comes now.
const RECENT: u16 = 64;

impl Assembler {
    /// The next packet: a whole sample, nothing yet, or what is wrong with it. A packet without a
    /// header is taken as a whole sample.
    pub fn next(&mut self, packet: &[u8]) -> Result<Option<Sample>, String> {
        if !packet.starts_with(MAGIC) {
            return read(packet).map(Some);
        }
        let Some((head, part)) = packet.split_at_checked(HEADER) else {
            return Err(format!("the packet ends after {} bytes, within its header", packet.len()));
        };
        if head[5] != JSON {
            return Err(format!("the sample is in encoding {}; only JSON (1) is understood", head[5]));
        }
        let word = |at: usize| u16::from_be_bytes([head[at], head[at + 1]]);
        let (sequence, flags, sum) = (word(6), word(12), word(14));
        let offset = u32::from_be_bytes([head[8], head[9], head[10], head[11]]) as usize;
        let (last, length) = (flags & 0x8000 != 0, (flags & 0x7FFF) as usize);
        if length != part.len() {
            return Err(format!("the packet says {length} bytes and carries {}", part.len()));
        }
        if fletcher(&head[..14], part) != sum {
            return Err("the checksum does not fit; the packet was damaged".into());
        }
        if offset + length > LARGEST_SAMPLE {
            return Err(format!("a sample of more than {LARGEST_SAMPLE} bytes began to come"));
        }
        if offset == 0 && last {
            return read(part).map(Some);
        }
        self.keep(sequence, offset, part, last)
    }

    fn keep(
        &mut self,
        sequence: u16,
        offset: usize,
        part: &[u8],
        last: bool,
    ) -> Result<Option<Sample>, String> {
        let apart = |p: &Parts| p.sequence.wrapping_sub(sequence).min(sequence.wrapping_sub(p.sequence));
        self.parts.retain(|p| apart(p) < RECENT);
        let place = self.parts.iter().position(|p| p.sequence == sequence).unwrap_or_else(|| {
            if self.parts.len() == UNDER_WAY {
                self.parts.remove(0);
            }
            self.parts.push(Parts { sequence, segments: Vec::new(), length: None });
            self.parts.len() - 1
        });
        let parts = &mut self.parts[place];
        if parts.segments.iter().any(|(at, _)| *at == offset) || parts.segments.len() >= 4096 {
            return Ok(None);
        }
        if last {
            parts.length = Some(offset + part.len());
        }
        let at = parts.segments.partition_point(|(at, _)| *at < offset);
        parts.segments.insert(at, (offset, part.to_vec()));
        let mut end = 0;
        for (at, part) in &parts.segments {
            if *at != end {
                return Ok(None);
            }
            end += part.len();
        }
        if parts.length != Some(end) {
            return Ok(None);
        }
        let whole: Vec<u8> = self.parts.remove(place).segments.into_iter().flat_map(|(_, p)| p).collect();
        read(&whole).map(Some)
    }
}

/// Reads a track from lines of samples.
pub fn read_lines(bytes: &[u8], lens: LensState) -> Result<crate::Read<Track>, FormatError> {
    let text = crate::text_of(bytes)?;
    debug_assert!(text.len() <= LARGEST_FILE);
    let mut points: Vec<(f64, Pose, LensState)> = Vec::new();
    let (mut kept, mut start, mut other) = (lens, None, 0);
    let mut first_device: Option<String> = None;
    let mut times = crate::Times::default();
    for (i, line) in text.lines().enumerate().filter(|(_, l)| !l.trim().is_empty()) {
        let number = i as u64 + 1;
        let s = read(line.as_bytes()).map_err(|e| FormatError::at(number, e))?;
        if *first_device.get_or_insert_with(|| s.device.clone()) != s.device {
            other += 1;
            continue;
        }
        let time = s.time_s.or_else(|| Some(points.len() as f64 / s.rate_hz?)).ok_or_else(|| {
            FormatError::at(number, "the sample has neither a timestamp nor a rate, so it has no time")
        })?;
        let time = time - *start.get_or_insert(time);
        times.next(time, number)?;
        kept.focal_mm = s.lens.focal_mm.unwrap_or(kept.focal_mm);
        kept.focus_m = s.lens.focus_m.unwrap_or(kept.focus_m);
        kept.f_stop = s.lens.f_stop.unwrap_or(kept.f_stop);
        points.push((time, s.pose, kept));
        if points.len() > MOST_POINTS {
            return Err(FormatError::at(number, format!("more than {MOST_POINTS} samples; cut the file")));
        }
    }
    if points.is_empty() {
        return Err(FormatError::at(1, "there is no sample in this file; a line holds one as JSON"));
    }
    let notes = if other > 0 {
        vec![format!(
            "{other} samples of other devices were left out; bring them in from a file of their own"
        )]
    } else {
        Vec::new()
    };
    Ok(crate::Read { content: Track::from_poses(points), notes })
}

/// A track as lines of samples.
pub fn write_lines(track: &Track) -> Vec<u8> {
    let rate = fraction(track.rate_hz());
    let line = |(i, p): (usize, &TrackPoint)| {
        let mut line = write(&Written {
            number: 1,
            sequence: i as u16,
            time_s: p.time_s,
            rate,
            pose: p.pose(),
            lens: Some(p.lens),
        });
        line.push(b'\n');
        line
    };
    track.points.iter().enumerate().flat_map(line).collect()
}

/// A rate as the fraction that it is: whole, a thousandth and one slower than whole as television has it,
/// or in thousandths.
fn fraction(rate_hz: f64) -> (u32, u32) {
    let same = |hz: f64| (hz - rate_hz).abs() < 1e-6 * rate_hz;
    let [whole, slower] = [rate_hz, rate_hz * 1.001].map(f64::round);
    if whole >= 1.0 && same(whole) {
        (whole as u32, 1)
    } else if slower >= 1.0 && same(slower / 1.001) {
        (1000 * slower as u32, 1001)
    } else {
        ((rate_hz * 1000.0).round().max(1.0) as u32, 1000)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn a_rate_is_written_as_the_fraction_that_it_is() {
        for (hz, is) in [
            (24.0, (24, 1)),
            (24_000.0 / 1001.0, (24_000, 1001)),
            (30_000.0 / 1001.0, (30_000, 1001)),
            (120_000.0 / 1001.0, (120_000, 1001)),
            (23.976, (23_976, 1000)),
            (12.5, (12_500, 1000)),
            (0.0, (1, 1000)),
        ] {
            assert_eq!(fraction(hz), is, "{hz}");
        }
    }

    /// A complete sample in the shape of the public examples (from memory).
    const EXAMPLE: &str = r#"{
      "tracker": {"notes": "Example generated sample.", "recording": false, "slate": "A101_A_4", "status": "Optical Good"},
      "timing": {"mode": "internal", "sampleRate": {"num": 24000, "denom": 1001},
        "sampleTimestamp": {"seconds": 1718806554, "nanoseconds": 500000000}, "sequenceNumber": 7,
        "timecode": {"hours": 1, "minutes": 2, "seconds": 3, "frames": 4, "frameRate": {"num": 24000, "denom": 1001}}},
      "lens": {"distortion": [{"radial": [1.0, 2.0, 3.0]}], "encoders": {"focus": 0.1, "iris": 0.2, "zoom": 0.3},
        "entrancePupilOffset": 0.123, "fStop": 4.0, "pinholeFocalLength": 24.305, "focusDistance": 10.0},
      "protocol": {"name": "OpenTrackIO", "version": [1, 0, 0]},
      "sampleId": "urn:uuid:9ca5af1a-0000-4000-8000-000000000000",
      "sourceId": "urn:uuid:9ca5af1a-0000-4000-8000-000000000001",
      "sourceNumber": 1,
      "transforms": [
        {"translation": {"x": 1.0, "y": 2.0, "z": 3.0}, "rotation": {"pan": 90.0, "tilt": 0.0, "roll": 0.0}, "id": "Dolly"},
        {"translation": {"x": 0.0, "y": 1.0, "z": 0.0}, "rotation": {"pan": 0.0, "tilt": 30.0, "roll": 10.0}, "id": "Camera"}]
    }"#;

    #[test]
    fn a_whole_sample_is_understood() {
        let s = read(EXAMPLE.as_bytes()).unwrap();
        assert_eq!((s.device.as_str(), s.sequence), ("1", Some(7)));
        assert_eq!(s.time_s, Some(1_718_806_554.5));
        assert_eq!((s.lens.focal_mm, s.lens.focus_m, s.lens.zoom), (Some(24.305), Some(10.0), Some(0.3)));
        // Turned to the left, a step ahead is a step along −x of theirs, which is ours.
        assert!(s.pose.position.distance(DVec3::new(0.0, 3.0, -2.0)) < 1e-12, "{}", s.pose.position);
        let turn = PanTiltRoll::from_rotation(s.pose.rotation);
        let degrees = [turn.pan, turn.tilt, turn.roll].map(f64::to_degrees);
        assert!(
            (degrees[0] + 90.0).abs() < 1e-9
                && (degrees[1] - 30.0).abs() < 1e-9
                && (degrees[2] - 10.0).abs() < 1e-9
        );
    }

    /// Worked values of Fletcher's 16-bit checksum (well known; from memory).
    #[test]
    fn the_checksum_is_fletchers() {
        for (text, sum) in [("abcde", 0xC8F0), ("abcdef", 0x2057), ("abcdefgh", 0x0627)] {
            assert_eq!(fletcher(b"", text.as_bytes()), sum);
        }
    }

    #[test]
    fn segments_come_together_in_any_order_and_twice() {
        let packets = packets(EXAMPLE.as_bytes(), 40, 100);
        assert!(packets.len() > 10);
        let whole = read(EXAMPLE.as_bytes()).unwrap();
        let mut a = Assembler::default();
        let mut got = Vec::new();
        for p in packets.iter().rev().chain(&packets) {
            got.extend(a.next(p).unwrap());
        }
        assert_eq!(got, [whole.clone(), whole.clone()]);
        // A sample with a hole never comes and makes room.
        for round in 0..50u16 {
            for (k, p) in super::packets(EXAMPLE.as_bytes(), round, 100).iter().enumerate() {
                if k != 3 {
                    assert_eq!(a.next(p), Ok(None));
                }
            }
        }
        assert!(a.parts.len() <= UNDER_WAY);
        assert_eq!(a.next(&super::packets(EXAMPLE.as_bytes(), 9, 9999)[0]), Ok(Some(whole)));
    }

    /// Found by ten minutes of a real device on a bad line: the numbers had gone round, and what was
    /// left of an old sample was taken for a part of a new one.
    #[test]
    fn what_is_left_of_an_old_sample_does_not_meet_its_number_again() {
        let other = EXAMPLE.replace("Example generated sample.", "Another.");
        let mut a = Assembler::default();
        for p in packets(EXAMPLE.as_bytes(), 5, 100).iter().skip(1) {
            assert_eq!(a.next(p), Ok(None));
        }
        for p in packets(EXAMPLE.as_bytes(), 900, 100).iter().take(3) {
            assert_eq!(a.next(p), Ok(None));
        }
        let got: Vec<Sample> =
            packets(other.as_bytes(), 5, 90).iter().filter_map(|p| a.next(p).unwrap()).collect();
        assert_eq!(got.len(), 1);
    }

    #[test]
    fn what_is_wrong_is_said() {
        let good = packets(EXAMPLE.as_bytes(), 1, 9999).remove(0);
        let fault = |change: &dyn Fn(&mut Vec<u8>)| {
            let mut bad = good.clone();
            change(&mut bad);
            Assembler::default().next(&bad).unwrap_err()
        };
        assert!(fault(&|p| p.truncate(9)).contains("within its header"));
        assert!(fault(&|p| p[5] = 2).contains("encoding 2"));
        assert!(fault(&|p| p.truncate(500)).contains("carries"));
        assert!(fault(&|p| p[600] ^= 1).contains("checksum"));
        for (json, words) in [
            ("{}", "no transforms"),
            ("[1]", "no OpenTrackIO"),
            (r#"{"protocol":{"name":"Else","version":[1]}}"#, "Else"),
            (
                r#"{"transforms":[{"translation":{"x":1e9,"y":0,"z":0},"rotation":{"pan":0,"tilt":0,"roll":0}}]}"#,
                "plain",
            ),
        ] {
            assert!(read(json.as_bytes()).unwrap_err().contains(words), "{json}");
        }
    }

    #[test]
    fn lines_are_a_track_and_back() {
        let lens = LensState { focal_mm: 35.0, focus_m: 5.0, f_stop: 4.0 };
        let pose = |t: f64| {
            let turn = PanTiltRoll { pan: t, tilt: 0.3 * t, roll: -0.1 };
            Pose::new(DVec3::new(t, 1.5, -t), turn.to_rotation())
        };
        let track = Track::from_poses((0..60).map(|i| i as f64 / 120.0).map(|t| (t, pose(t), lens)));
        let back = read_lines(&write_lines(&track), lens).unwrap().content;
        assert_eq!(back.points.len(), 60);
        for (a, b) in track.points.iter().zip(&back.points) {
            assert!((a.time_s - b.time_s).abs() < 2e-9 && a.position.distance(b.position) < 1e-12);
            assert!(a.pose().angle_to(b.pose()) < 1e-12 && a.lens == b.lens);
        }
        let twice = [write_lines(&track), write_lines(&track)].concat();
        assert!(read_lines(&twice, lens).unwrap_err().to_string().starts_with("line 61:"));
        assert!(read_lines(b"\n", lens).unwrap_err().to_string().contains("no sample"));
    }

    proptest! {
        #[test]
        fn noise_never_panics(bytes in prop::collection::vec(any::<u8>(), 0..300), cut in 0usize..900) {
            let _ = read(&bytes);
            let _ = Assembler::default().next(&bytes);
            let _ = Assembler::default().next(&[&MAGIC[..], &bytes].concat());
            let _ = read(&EXAMPLE.as_bytes()[..cut.min(EXAMPLE.len())]);
        }
    }
}
