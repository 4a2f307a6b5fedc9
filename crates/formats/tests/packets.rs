//! A million broken packets: nothing panics and nothing grows.

mod dice;

use dice::{Dice, resident_kb};
use rovnek_core::space::Pose;
use rovnek_core::track::LensState;
use rovnek_formats::tracking::opentrackio::{Assembler, Written, packets, write};
use rovnek_formats::tracking::{Protocol, freed};

#[test]
fn a_million_fuzzed_packets() {
    let lens = Some(LensState { focal_mm: 35.0, focus_m: 5.0, f_stop: 4.0 });
    let written = |sequence: u16| {
        let (number, time_s, rate) = (1, f64::from(sequence) / 120.0, (120, 1));
        write(&Written { number, sequence, time_s, rate, pose: Pose::ORIGIN, lens })
    };
    let mut good: Vec<(Protocol, Vec<u8>)> =
        (0..40).flat_map(|s| packets(&written(s), s, 120)).map(|p| (Protocol::OpenTrackIo, p)).collect();
    good.extend((0..40).map(|s| (Protocol::OpenTrackIo, written(s))));
    good.extend((0..40).map(|s| (Protocol::FreeD, freed::write(s, Pose::ORIGIN, 0.2, 0.8).to_vec())));
    let mut dice = Dice(0x9E37_79B9_7F4A_7C15);
    let mut assembler = Assembler::default();
    let (mut whole, mut refused) = (0u32, 0u32);
    let mut before = 0;
    for i in 0..1_000_000 {
        if i == 100_000 {
            before = resident_kb("VmRSS");
        }
        let (protocol, packet) = &good[dice.roll(good.len())];
        let mut packet = packet.clone();
        match dice.roll(6) {
            0 => packet.truncate(dice.roll(packet.len() + 1)),
            1 => {
                let at = dice.roll(packet.len());
                packet[at] ^= 1 << dice.roll(8);
            }
            2 => {
                let at = dice.roll(packet.len());
                let more: Vec<u8> = (0..dice.roll(40)).map(|_| dice.roll(256) as u8).collect();
                packet.splice(at..at, more);
            }
            3 => packet = (0..dice.roll(1500)).map(|_| dice.roll(256) as u8).collect(),
            4 => {
                // A header that is sound around nonsense: the checksum holds, the rest does not.
                let noise: Vec<u8> = (0..dice.roll(300)).map(|_| dice.roll(128) as u8).collect();
                packet = packets(&noise, dice.roll(65_536) as u16, 64).remove(0);
            }
            _ => {}
        }
        let read = match protocol {
            Protocol::FreeD => freed::read(&packet).map(Some),
            Protocol::OpenTrackIo => assembler.next(&packet),
        };
        match read {
            Ok(Some(sample)) => {
                whole += 1;
                assert!(sample.pose.position.is_finite() && sample.pose.rotation.is_normalized());
            }
            Ok(None) => {}
            Err(sentence) => {
                refused += 1;
                assert!(!sentence.is_empty() && sentence.len() < 400, "{sentence}");
            }
        }
    }
    assert!(whole > 50_000 && refused > 300_000, "{whole} {refused}");
    let grown = resident_kb("VmRSS").saturating_sub(before);
    assert!(grown < 2_000, "{grown} kB");
}
