//! A tracked device that is not there: the motion of a hand-held operator with its tremor, sent as
//! a real one would send it, over a line as bad as is asked. The same seed sends the same packets.

use rand::{Rng, SeedableRng};
use rand_pcg::Pcg64;
use rovnek_core::DVec3;
use rovnek_core::chance::normal_pair;
use rovnek_core::follow::CameraTarget;
use rovnek_core::lens::Camera;
use rovnek_core::space::{PanTiltRoll, Pose};
use rovnek_core::track::LensState;
use rovnek_formats::tracking::capture::Packet;
use rovnek_formats::tracking::{Protocol, freed, opentrackio};
use std::f64::consts::TAU;

/// Motion of the simulated hand.
#[derive(Clone, Debug)]
pub enum Motion {
    /// Stands, breathes and looks about, as an operator waiting for action.
    Shoulder,
    /// Looks from left to right and back while walking two metres to and fro.
    Sweep,
    /// Nothing but tremor.
    Still,
    /// A move that was recorded, over and over.
    Recorded(CameraTarget),
}

impl Motion {
    /// Motion by its name, for motions that need no file.
    pub fn named(name: &str) -> Option<Motion> {
        match name {
            "shoulder" => Some(Motion::Shoulder),
            "sweep" => Some(Motion::Sweep),
            "still" => Some(Motion::Still),
            _ => None,
        }
    }
}

/// How the hand trembles and how the line behaves.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Manner {
    /// Tremor of the hand: 1 is an ordinary hand with a light camera.
    pub tremor: f64,
    /// Standard deviation of the sensor's position, millimetres.
    pub noise_mm: f64,
    /// Standard deviation of the sensor's rotation, degrees.
    pub noise_deg: f64,
    /// Packets are sent up to so much later, at random.
    pub jitter_ms: f64,
    /// Share of packets that are never sent.
    pub lost: f64,
    /// Share of packets that come late, after those behind them.
    pub late: f64,
    /// How late those are.
    pub late_ms: f64,
    /// Seed of all chance.
    pub seed: u64,
}

impl Default for Manner {
    fn default() -> Manner {
        Manner {
            tremor: 1.0,
            noise_mm: 0.2,
            noise_deg: 0.02,
            jitter_ms: 1.0,
            lost: 0.0,
            late: 0.0,
            late_ms: 15.0,
            seed: 1,
        }
    }
}

/// Simulated device.
#[derive(Clone, Debug)]
pub struct StandIn {
    /// Protocol of the packets.
    pub protocol: Protocol,
    /// Its number: a camera's, or a source's.
    pub number: u8,
    /// Samples a second.
    pub rate_hz: u32,
    /// The most bytes of a sample in one packet, where the protocol cuts samples up.
    pub segment: usize,
    /// Motion of the hand.
    pub motion: Motion,
    /// Quality of hand, sensor and network.
    pub manner: Manner,
}

/// A tremor of the hand in one direction: parts between 6 and 12 Hz (physiological tremor, from
/// memory) over a slow wander.
#[derive(Clone, Debug)]
struct Tremor([(f64, f64, f64); 6]);

impl Tremor {
    fn new(dice: &mut Pcg64) -> Tremor {
        let mut part =
            |from: f64, to: f64, size: f64| (dice.random_range(from..to), dice.random_range(0.0..TAU), size);
        Tremor([
            part(0.15, 0.3, 3.0),
            part(0.4, 0.9, 2.0),
            part(1.1, 2.0, 1.0),
            part(6.0, 8.0, 0.35),
            part(8.0, 10.0, 0.3),
            part(10.0, 12.0, 0.2),
        ])
    }

    fn at(&self, time_s: f64) -> f64 {
        self.0.iter().map(|(hz, phase, size)| size * (TAU * hz * time_s + phase).sin()).sum()
    }
}

/// A device at work: packets with the times at which they go out, in that order.
pub struct Sending {
    device: StandIn,
    tremors: [Tremor; 6],
    dice: Pcg64,
    sample: u64,
    waiting: Vec<(f64, Vec<u8>)>,
}

impl StandIn {
    /// Begins to send.
    pub fn begin(self) -> Sending {
        let mut dice = Pcg64::seed_from_u64(self.manner.seed);
        let tremors = std::array::from_fn(|_| Tremor::new(&mut dice));
        Sending { device: self, tremors, dice, sample: 0, waiting: Vec::new() }
    }

    /// Pose of a perfect hand.
    fn wanted(&self, time_s: f64) -> Pose {
        let held = |x: f64, y: f64, z: f64, pan: f64, tilt: f64| {
            let turn = PanTiltRoll { pan, tilt, roll: 0.0 };
            Pose::new(DVec3::new(x, y, z), turn.to_rotation())
        };
        match &self.motion {
            Motion::Still => held(0.0, 1.55, 0.0, 0.0, 0.0),
            Motion::Shoulder => {
                let look = (TAU * time_s / 11.0).sin();
                let breath = (TAU * time_s / 4.0).sin();
                held(
                    0.12 * (TAU * time_s / 7.0).sin(),
                    1.55 + 0.006 * breath,
                    0.0,
                    0.35 * look,
                    0.05 * breath,
                )
            }
            Motion::Sweep => {
                let there = 0.5 - 0.5 * (TAU * time_s / 10.0).cos();
                held(2.0 * there - 1.0, 1.55, 0.0, 1.0 * there - 0.5, 0.0)
            }
            Motion::Recorded(target) => {
                let length = target.length_s().max(1e-3);
                target.at(time_s.rem_euclid(length)).0
            }
        }
    }

    fn lens(&self, time_s: f64) -> LensState {
        match &self.motion {
            Motion::Recorded(target) => target.at(time_s.rem_euclid(target.length_s().max(1e-3))).1,
            _ => Camera::default().lens(),
        }
    }
}

impl Sending {
    /// The next packet and when it goes out, seconds from the start.
    pub fn next_packet(&mut self) -> (f64, Vec<u8>) {
        let hz = f64::from(self.device.rate_hz);
        loop {
            // What may still be overtaken by a sample to come is not sure yet.
            let sure = self.sample as f64 / hz;
            let first =
                (0..self.waiting.len()).min_by(|a, b| self.waiting[*a].0.total_cmp(&self.waiting[*b].0));
            if let Some(first) = first.filter(|i| self.waiting[*i].0 <= sure) {
                return self.waiting.remove(first);
            }
            self.make();
        }
    }

    fn even(&mut self) -> f64 {
        self.dice.random_range(0.0..1.0)
    }

    fn make(&mut self) {
        let m = self.device.manner;
        let time_s = self.sample as f64 / f64::from(self.device.rate_hz);
        let wanted = self.device.wanted(time_s);
        let mut by = [0.0; 6];
        for (i, value) in by.iter_mut().enumerate() {
            // A millimetre, and a fifteenth of a degree, for a part of size 1.
            let size = if i < 3 { 0.001 } else { 0.066_f64.to_radians() };
            *value = m.tremor * size * self.tremors[i].at(time_s);
        }
        for (i, value) in by.iter_mut().enumerate() {
            let noise = if i < 3 { m.noise_mm / 1000.0 } else { m.noise_deg.to_radians() };
            if noise > 0.0 {
                *value += noise * normal_pair(&mut self.dice).0;
            }
        }
        let [x, y, z, pan, tilt, roll] = by;
        let turn = PanTiltRoll { pan, tilt, roll }.to_rotation();
        let pose = Pose::new(wanted.position + DVec3::new(x, y, z), (wanted.rotation * turn).normalize());
        let lost = self.even() < m.lost;
        let late = if self.even() < m.late { m.late_ms / 1000.0 } else { 0.0 };
        let out = time_s + late + self.even() * m.jitter_ms / 1000.0;
        for data in self.packets(time_s, pose) {
            if !lost {
                self.waiting.push((out, data));
            }
        }
        self.sample += 1;
    }

    fn packets(&self, time_s: f64, pose: Pose) -> Vec<Vec<u8>> {
        let d = &self.device;
        match d.protocol {
            // A ring in the middle: FreeD knows no millimetres.
            Protocol::FreeD => vec![freed::write(d.number, pose, 0.5, 0.5).to_vec()],
            Protocol::OpenTrackIo => {
                let sequence = self.sample as u16;
                let lens = Some(d.lens(time_s));
                let number = u32::from(d.number);
                let rate = (d.rate_hz, 1);
                let sample = opentrackio::Written { number, sequence, time_s, rate, pose, lens };
                opentrackio::packets(&opentrackio::write(&sample), sequence, d.segment)
            }
        }
    }
}

/// A capture as it is sent again: from its first packet on.
pub fn replay(packets: &[Packet]) -> impl Iterator<Item = (f64, Vec<u8>)> + '_ {
    let start = packets.first().map_or(0.0, |p| p.time_s);
    packets.iter().map(move |p| (p.time_s - start, p.data.clone()))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn device(manner: Manner) -> StandIn {
        StandIn {
            protocol: Protocol::OpenTrackIo,
            number: 2,
            rate_hz: 60,
            segment: 9000,
            motion: Motion::Sweep,
            manner,
        }
    }

    fn sent(manner: Manner, count: usize) -> Vec<(f64, Vec<u8>)> {
        let mut sending = device(manner).begin();
        (0..count).map(|_| sending.next_packet()).collect()
    }

    #[test]
    fn the_same_seed_sends_the_same_and_another_does_not() {
        let manner = Manner { lost: 0.1, late: 0.1, ..Manner::default() };
        assert_eq!(sent(manner, 500), sent(manner, 500));
        assert_ne!(sent(manner, 500), sent(Manner { seed: 2, ..manner }, 500));
    }

    #[test]
    fn as_much_is_lost_and_late_as_is_asked_and_order_is_kept() {
        let manner = Manner { lost: 0.05, late: 0.05, late_ms: 40.0, ..Manner::default() };
        let packets = sent(manner, 6000);
        assert!(packets.windows(2).all(|w| w[0].0 <= w[1].0));
        let numbers: Vec<i64> = packets
            .iter()
            .map(|(_, p)| {
                i64::from(opentrackio::Assembler::default().next(p).unwrap().unwrap().sequence.unwrap())
            })
            .collect();
        let made = numbers.iter().max().unwrap() + 1;
        let lost = (made - 6000) as f64 / made as f64;
        assert!((lost - 0.05).abs() < 0.01, "{lost}");
        let late = numbers.windows(2).filter(|w| w[1] < w[0]).count() as f64 / made as f64;
        assert!((late - 0.05).abs() < 0.012, "{late}");
    }

    #[test]
    fn an_ordinary_hand_strays_by_millimetres_and_a_steady_one_not_at_all() {
        let stray = |manner: Manner| {
            let d = StandIn { motion: Motion::Still, ..device(manner) };
            let mut sending = d.begin();
            (0..600)
                .map(|_| {
                    opentrackio::Assembler::default().next(&sending.next_packet().1).unwrap().unwrap().pose
                })
                .map(|p| p.position.distance(DVec3::new(0.0, 1.55, 0.0)))
                .fold(0.0, f64::max)
        };
        assert!((0.003..0.03).contains(&stray(Manner::default())));
        assert!(stray(Manner { tremor: 0.0, noise_mm: 0.0, noise_deg: 0.0, ..Manner::default() }) < 1e-12);
    }
}
