//! FreeD, message type D1: 29 bytes with the pose of one camera.
//!
//! Layout (from memory; no registry package carries it): type D1, camera number, pan, tilt, roll
//! (24 bits, signed, 1/32768 °), x, y, z (24 bits, signed, 1/64 mm), zoom and focus (24 bits,
//! counts), two spare bytes, and a checksum that makes the sum of all bytes 0x40. Numbers are
//! big-endian. Pan is positive to the right, tilt up, roll clockwise; x is to the right, y ahead,
//! z up. Zoom and focus are counts of a ring, here taken as shares of 16 bits.

use super::{Lens, Sample};
use rovnek_core::DVec3;
use rovnek_core::space::{PanTiltRoll, Pose};

/// Bytes of a message.
pub const LENGTH: usize = 29;
const TYPE: u8 = 0xD1;
const DEGREE: f64 = 32_768.0;
const METRE: f64 = 64_000.0;
/// The count of a ring at its far end.
const RING: f64 = 65_535.0;

/// Reads a message.
pub fn read(bytes: &[u8]) -> Result<Sample, String> {
    let Ok(bytes) = <&[u8; LENGTH]>::try_from(bytes) else {
        return Err(format!("{} bytes came; a FreeD D1 message has {LENGTH}", bytes.len()));
    };
    if bytes[0] != TYPE {
        return Err(format!("message type {:02X} came; only D1 is understood", bytes[0]));
    }
    let wanted = checksum(&bytes[..LENGTH - 1]);
    if bytes[LENGTH - 1] != wanted {
        return Err(format!(
            "the checksum is {:02X} and should be {wanted:02X}; the message was damaged",
            bytes[LENGTH - 1]
        ));
    }
    let word = |k: usize| {
        let at = 2 + 3 * k;
        i32::from_be_bytes([bytes[at], bytes[at + 1], bytes[at + 2], 0]) >> 8
    };
    let [pan, tilt, roll] = [0, 1, 2].map(|k| (f64::from(word(k)) / DEGREE).to_radians());
    let [x, y, z] = [3, 4, 5].map(|k| f64::from(word(k)) / METRE);
    let ring = |k: usize| (f64::from(word(k) & 0xFF_FFFF) / RING).min(1.0);
    let pose = Pose::new(DVec3::new(x, z, -y), PanTiltRoll { pan, tilt, roll }.to_rotation());
    let lens = Lens { zoom: Some(ring(6)), focus: Some(ring(7)), ..Lens::default() };
    Ok(Sample { device: bytes[1].to_string(), time_s: None, sequence: None, rate_hz: None, pose, lens })
}

/// Writes a message; what does not fit is held at the ends.
pub fn write(camera: u8, pose: Pose, zoom: f64, focus: f64) -> [u8; LENGTH] {
    let mut out = [0; LENGTH];
    (out[0], out[1]) = (TYPE, camera);
    let turn = PanTiltRoll::from_rotation(pose.rotation);
    let p = pose.position;
    let angles = [turn.pan, turn.tilt, turn.roll].map(|a| a.to_degrees() * DEGREE);
    let place = [p.x, -p.z, p.y].map(|m| m * METRE);
    let rings = [zoom, focus].map(|share| share.clamp(0.0, 1.0) * RING);
    for (k, value) in angles.into_iter().chain(place).chain(rings).enumerate() {
        let word = value.round().clamp(-8_388_608.0, 8_388_607.0) as i32;
        out[2 + 3 * k..5 + 3 * k].copy_from_slice(&word.to_be_bytes()[1..]);
    }
    out[LENGTH - 1] = checksum(&out[..LENGTH - 1]);
    out
}

fn checksum(bytes: &[u8]) -> u8 {
    bytes.iter().fold(0x40, |sum: u8, b| sum.wrapping_sub(*b))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// Worked by hand from the layout (from memory): pan 180° is 0x5A0000, tilt −90° is 0xD30000,
    /// 1 m is 0x00FA00, zoom 0x8000.
    #[test]
    fn a_message_as_laid_out() {
        let mut bytes = vec![0xD1, 0x07];
        bytes.extend([0x5A, 0x00, 0x00]); // pan
        bytes.extend([0xE9, 0x80, 0x00]); // tilt −45°
        bytes.extend([0x00, 0x00, 0x00]); // roll
        bytes.extend([0x00, 0xFA, 0x00]); // x 1 m
        bytes.extend([0xFE, 0x0C, 0x00]); // y −2 m
        bytes.extend([0x01, 0x77, 0x00]); // z 1.5 m
        bytes.extend([0x00, 0x80, 0x00, 0x00, 0xFF, 0xFF, 0x00, 0x00]);
        let sum: u32 = bytes.iter().map(|b| u32::from(*b)).sum();
        bytes.push((0x40u32.wrapping_sub(sum) & 0xFF) as u8);
        let s = read(&bytes).unwrap();
        assert_eq!(s.device, "7");
        assert!(s.pose.position.distance(DVec3::new(1.0, 1.5, 2.0)) < 1e-12);
        let turn = PanTiltRoll::from_rotation(s.pose.rotation);
        assert!(
            (turn.tilt.to_degrees() + 45.0).abs() < 1e-9
                && (turn.pan.to_degrees().abs() - 180.0).abs() < 1e-9
        );
        assert!((s.lens.zoom.unwrap() - 0.5).abs() < 1e-4 && s.lens.focus == Some(1.0));
        assert_eq!(bytes.iter().fold(0u8, |a, b| a.wrapping_add(*b)), 0x40);
    }

    #[test]
    fn what_is_wrong_is_said() {
        let good = write(1, Pose::ORIGIN, 0.0, 0.0);
        assert!(read(&good[..20]).unwrap_err().contains("20 bytes"));
        let mut bad = good;
        bad[0] = 0xD0;
        assert!(read(&bad).unwrap_err().contains("D0"));
        bad = good;
        bad[9] ^= 4;
        assert!(read(&bad).unwrap_err().contains("checksum"));
    }

    proptest! {
        #[test]
        fn there_and_back_within_a_count(
            x in -130.0..130.0f64, y in -130.0..130.0f64, z in -130.0..130.0f64,
            pan in -179.0..179.0f64, tilt in -89.0..89.0f64, roll in -179.0..179.0f64, camera in any::<u8>(),
        ) {
            let [pan, tilt, roll] = [pan, tilt, roll].map(f64::to_radians);
            let pose = Pose::new(DVec3::new(x, y, z), PanTiltRoll { pan, tilt, roll }.to_rotation());
            let back = read(&write(camera, pose, 0.25, 0.75)).unwrap();
            prop_assert!((back.pose.position - pose.position).abs().max_element() <= 0.5001 / METRE);
            prop_assert!(back.pose.angle_to(pose) < 2e-6);
            prop_assert_eq!(back.device, camera.to_string());
        }
    }
}
