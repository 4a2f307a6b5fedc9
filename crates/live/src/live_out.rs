//! The camera on the floor, told to other software as a tracked device would tell it: OpenTrackIO or FreeD
//! over UDP, so many samples a second.
//!
//! The floor only hands on what is due, [`Due`] step by step; a thread of its own writes packets and sends
//! them, so that no socket can hold up a step.

use rovnek_core::lens::Camera;
use rovnek_core::space::Pose;
use rovnek_core::track::LensState;
use rovnek_formats::tracking::{Protocol, freed, opentrackio};
use std::io;
use std::net::{Ipv4Addr, Ipv6Addr, SocketAddr, UdpSocket};
use std::sync::Arc;
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::mpsc::{Receiver, SyncSender, TrySendError, sync_channel};
use std::thread::JoinHandle;

use crate::floor::STEPS_HZ;

/// Samples that may wait to be sent; more are counted and left out.
const WAITING: usize = 64;
/// The most bytes of a sample in one packet: within what Ethernet carries in one piece.
const SEGMENT: usize = 1200;

/// Camera at a moment: pose and lens.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Seen {
    /// Seconds since the floor began.
    pub time_s: f64,
    /// Pose on the set.
    pub pose: Pose,
    /// State of the lens.
    pub lens: LensState,
    /// Zoom and focus rings, 0 to 1: by millimetres, and by one over the distance.
    pub rings: [f64; 2],
}

impl Seen {
    /// Camera at a time.
    pub fn of(camera: &Camera, time_s: f64, pose: Pose, lens: LensState) -> Seen {
        let zooms = camera.focal_max_mm - camera.focal_min_mm;
        let zoom = if zooms > 0.0 { (lens.focal_mm - camera.focal_min_mm) / zooms } else { 0.0 };
        let focus = camera.closest_focus_m / lens.focus_m;
        Seen { time_s, pose, lens, rings: [zoom, focus].map(|r| r.clamp(0.0, 1.0)) }
    }
}

/// How a camera is told.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Manner {
    /// Protocol of the packets.
    pub protocol: Protocol,
    /// The camera's number in it.
    pub number: u8,
    /// Samples a second, 1 to the floor's 240.
    pub rate_hz: u32,
}

impl Manner {
    /// The packets of a sample, counted by `sequence`.
    pub fn packets(&self, seen: &Seen, sequence: u16) -> Vec<Vec<u8>> {
        match self.protocol {
            Protocol::FreeD => {
                vec![freed::write(self.number, seen.pose, seen.rings[0], seen.rings[1]).to_vec()]
            }
            Protocol::OpenTrackIo => {
                let sample = opentrackio::Written {
                    number: self.number.into(),
                    sequence,
                    time_s: seen.time_s,
                    rate: (self.rate_hz, 1),
                    pose: seen.pose,
                    lens: Some(seen.lens),
                };
                opentrackio::packets(&opentrackio::write(&sample), sequence, SEGMENT)
            }
        }
    }
}

/// The floor's end: what is due goes on its way.
#[derive(Debug)]
pub struct Due {
    rate_hz: u32,
    to: SyncSender<Seen>,
    counts: Arc<Counts>,
}

impl Due {
    /// True if a sample is due at a step.
    pub fn at(&self, step: u64) -> bool {
        let rate = u64::from(self.rate_hz);
        step * rate / STEPS_HZ != (step + 1) * rate / STEPS_HZ
    }

    /// Hands a sample on; whether anybody takes it.
    pub fn send(&self, seen: Seen) -> bool {
        match self.to.try_send(seen) {
            Ok(()) => true,
            Err(TrySendError::Full(_)) => {
                self.counts.dropped.fetch_add(1, Ordering::Relaxed);
                true
            }
            Err(TrySendError::Disconnected(_)) => false,
        }
    }
}

/// A socket that can send to an address, of one or of all.
pub fn socket_to(to: SocketAddr) -> io::Result<UdpSocket> {
    let own: SocketAddr =
        if to.is_ipv4() { (Ipv4Addr::UNSPECIFIED, 0).into() } else { (Ipv6Addr::UNSPECIFIED, 0).into() };
    let socket = UdpSocket::bind(own)?;
    // Networks carry to all only what says that it may.
    socket.set_broadcast(true)?;
    Ok(socket)
}

/// Number of samples that went out.
#[derive(Debug, Default)]
pub struct Counts {
    sent: AtomicU64,
    dropped: AtomicU64,
}

/// The sending end; what is told ends when it is dropped.
pub struct LiveOut {
    counts: Arc<Counts>,
    thread: Option<JoinHandle<()>>,
}

impl LiveOut {
    /// Begins to send to an address; the floor needs [`Due`].
    pub fn begin(manner: Manner, to: SocketAddr) -> io::Result<(LiveOut, Due)> {
        let socket = socket_to(to)?;
        let (sender, inbox) = sync_channel(WAITING);
        let counts: Arc<Counts> = Arc::default();
        let due = Due { rate_hz: manner.rate_hz, to: sender, counts: counts.clone() };
        let told = counts.clone();
        let thread = std::thread::Builder::new()
            .name("live out".into())
            .spawn(move || send(&inbox, manner, &socket, to, &told))?;
        Ok((LiveOut { counts, thread: Some(thread) }, due))
    }

    /// Samples that went out, and samples that waited too long and were left out.
    pub fn counts(&self) -> (u64, u64) {
        let of = |count: &AtomicU64| count.load(Ordering::Relaxed);
        (of(&self.counts.sent), of(&self.counts.dropped))
    }

    /// Waits until all that was handed on is sent; the floor must have let go of its end.
    pub fn finish(mut self) -> (u64, u64) {
        if let Some(thread) = self.thread.take() {
            let _ = thread.join();
        }
        self.counts()
    }
}

fn send(inbox: &Receiver<Seen>, manner: Manner, socket: &UdpSocket, to: SocketAddr, counts: &Counts) {
    for (k, seen) in inbox.iter().enumerate() {
        for packet in manner.packets(&seen, k as u16) {
            // Nobody need be listening yet: on loopback that comes back as a refusal.
            let _ = socket.send_to(&packet, to);
        }
        counts.sent.fetch_add(1, Ordering::Relaxed);
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rovnek_core::DVec3;
    use rovnek_core::space::PanTiltRoll;
    use rovnek_formats::tracking::opentrackio::Assembler;

    fn seen(k: u64) -> Seen {
        let t = k as f64 / 240.0;
        let turn = PanTiltRoll { pan: 0.7 * t, tilt: -0.2 * t, roll: 0.05 };
        let pose = Pose::new(DVec3::new(1.0 + t, 1.5, -t), turn.to_rotation());
        let lens = LensState { focal_mm: 35.0 + t, focus_m: 4.0, f_stop: 4.0 };
        Seen::of(&Camera::default(), t, pose, lens)
    }

    #[test]
    fn as_many_steps_are_due_as_are_asked_and_evenly() {
        for rate_hz in [1, 24, 25, 50, 60, 100, 120, 240] {
            let due = LiveOut::begin(
                Manner { protocol: Protocol::FreeD, number: 1, rate_hz },
                (Ipv4Addr::LOCALHOST, 9).into(),
            );
            let (_out, due) = due.unwrap();
            let steps: Vec<u64> = (0..2400).filter(|step| due.at(*step)).collect();
            assert_eq!(steps.len(), 10 * rate_hz as usize);
            let apart: Vec<u64> = steps.windows(2).map(|w| w[1] - w[0]).collect();
            let (least, most) = (apart.iter().min().unwrap(), apart.iter().max().unwrap());
            assert!(most - least <= 1, "{rate_hz}: {least} to {most}");
        }
    }

    /// Read back by the readers of devices: within what each protocol can say.
    #[test]
    fn what_is_written_reads_as_what_was_seen() {
        for k in 0..50 {
            let want = seen(7 * k);
            let manner = |protocol| Manner { protocol, number: 3, rate_hz: 60 };
            let packets = manner(Protocol::OpenTrackIo).packets(&want, k as u16);
            let mut whole = Assembler::default();
            let got = packets.iter().find_map(|p| whole.next(p).unwrap()).unwrap();
            assert!(got.pose.position.distance(want.pose.position) < 1e-9);
            assert!(got.pose.angle_to(want.pose) < 1e-9 && got.sequence == Some(k as u16));
            assert!((got.lens.focal_mm.unwrap() - want.lens.focal_mm).abs() < 1e-9);
            let got = freed::read(&manner(Protocol::FreeD).packets(&want, 0)[0]).unwrap();
            assert!((got.pose.position - want.pose.position).abs().max_element() <= 0.5001 / 64_000.0);
            assert!(got.pose.angle_to(want.pose) < 2e-6);
            assert!((got.lens.zoom.unwrap() - want.rings[0]).abs() < 1e-4);
        }
    }
}
