//! Tracked devices as they are heard: which there are, how well they come through, and where each
//! of them is at a moment of the floor.
//!
//! Packets come at their own pace, some late, some twice, some never. [`Devices`] keeps account of
//! that; [`Heard`] lays samples out on the floor's time and reads between them a little behind the
//! newest, so that jitter and single losses do not reach the camera. Nothing here has a socket or a
//! clock: tests feed it a million packets in a second.

use rovnek_core::space::Pose;
use rovnek_formats::tracking::{Lens, Protocol, Sample, freed, opentrackio::Assembler};
use serde::Serialize;
use std::collections::{BTreeMap, VecDeque};
use ts_rs::TS;

/// Sources that are kept account of; more are not listened to.
pub const MOST_SOURCES: usize = 32;
/// A source that is silent for so long is lost, seconds.
pub const LOST_S: f64 = 0.5;

/// How a source comes through.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct SourceStatus {
    /// Its name, such as "freed 1".
    pub source: String,
    /// Address of the sender.
    pub from: String,
    /// Samples a second, lately.
    pub rate_hz: f64,
    /// Samples that came.
    #[ts(type = "number")]
    pub samples: u64,
    /// Samples that never came, as far as the device counts them.
    #[ts(type = "number")]
    pub lost: u64,
    /// Samples that came after a later one.
    #[ts(type = "number")]
    pub late: u64,
    /// Silences of more than twice and a half the usual pause.
    #[ts(type = "number")]
    pub gaps: u64,
    /// The longest of them, seconds.
    pub longest_gap_s: f64,
    /// Since the last sample, seconds.
    pub age_s: f64,
    /// Last lens data, in words.
    pub lens: String,
    /// Last error in a packet.
    pub last_error: Option<String>,
}

struct Source {
    status: SourceStatus,
    last_s: f64,
    sequence: Option<u16>,
    period_s: Option<f64>,
}

/// Everything that is heard.
#[derive(Default)]
pub struct Devices {
    sources: BTreeMap<String, Source>,
    assemblers: BTreeMap<String, Assembler>,
    /// Packets that made no sample and belong to no source: what was wrong, by sender.
    strangers: BTreeMap<String, String>,
}

impl Devices {
    /// A datagram from `from` at `now_s`. What it says, and of which source; nothing where it is
    /// part of something or wrong.
    pub fn receive(
        &mut self,
        protocol: Protocol,
        from: &str,
        data: &[u8],
        now_s: f64,
    ) -> Option<(String, Sample)> {
        let read = match protocol {
            Protocol::FreeD => freed::read(data).map(Some),
            Protocol::OpenTrackIo => {
                if !self.assemblers.contains_key(from) {
                    if self.assemblers.len() >= MOST_SOURCES {
                        self.assemblers.pop_first();
                    }
                    self.assemblers.insert(from.into(), Assembler::default());
                }
                self.assemblers.get_mut(from).expect("it is there").next(data)
            }
        };
        match read {
            Ok(Some(sample)) => {
                let source = format!("{protocol} {}", sample.device);
                self.account(&source, from, &sample, now_s).then_some((source, sample))
            }
            Ok(None) => None,
            Err(error) => {
                self.wrong(from, error);
                None
            }
        }
    }

    fn wrong(&mut self, from: &str, error: String) {
        let mut known = false;
        for source in self.sources.values_mut().filter(|s| s.status.from == from) {
            source.status.last_error = Some(error.clone());
            known = true;
        }
        if !known && (self.strangers.len() < MOST_SOURCES || self.strangers.contains_key(from)) {
            self.strangers.insert(from.into(), error);
        }
    }

    /// A sample of a source; false where there are too many sources.
    pub fn account(&mut self, name: &str, from: &str, sample: &Sample, now_s: f64) -> bool {
        if !self.sources.contains_key(name) {
            if self.sources.len() >= MOST_SOURCES {
                return false;
            }
            self.strangers.remove(from);
            let status = SourceStatus {
                source: name.into(),
                from: from.into(),
                rate_hz: 0.0,
                samples: 0,
                lost: 0,
                late: 0,
                gaps: 0,
                longest_gap_s: 0.0,
                age_s: 0.0,
                lens: String::new(),
                last_error: None,
            };
            self.sources
                .insert(name.into(), Source { status, last_s: now_s, sequence: None, period_s: None });
        }
        let source = self.sources.get_mut(name).expect("it is there");
        source.hear(from, sample, now_s);
        true
    }

    /// The status of every source at a time, and what strangers sent that could not be read.
    pub fn statuses(&self, now_s: f64) -> (Vec<SourceStatus>, Vec<(String, String)>) {
        let status = |s: &Source| SourceStatus { age_s: (now_s - s.last_s).max(0.0), ..s.status.clone() };
        let strangers = self.strangers.iter().map(|(from, error)| (from.clone(), error.clone()));
        (self.sources.values().map(status).collect(), strangers.collect())
    }

    /// Forgets sources that have been silent for a minute, and strangers.
    pub fn tidy(&mut self, now_s: f64) {
        self.sources.retain(|_, s| now_s - s.last_s < 60.0);
        self.strangers.clear();
    }
}

impl Source {
    fn hear(&mut self, from: &str, sample: &Sample, now_s: f64) {
        let s = &mut self.status;
        if s.samples > 0 {
            let pause = now_s - self.last_s;
            if let Some(period) = self.period_s {
                if pause > 2.5 * period && pause > 0.01 {
                    s.gaps += 1;
                    s.longest_gap_s = s.longest_gap_s.max(pause);
                }
                self.period_s = Some(period + 0.02 * (pause.min(1.0) - period));
            } else if pause > 0.0 {
                self.period_s = Some(pause.min(1.0));
            }
        }
        s.rate_hz = sample.rate_hz.or(self.period_s.map(|p| 1.0 / p.max(1e-4))).unwrap_or(0.0);
        if s.from != from {
            s.from = from.into();
        }
        s.samples += 1;
        self.last_s = now_s;
        if let Some(new) = sample.sequence {
            if let Some(old) = self.sequence {
                let (ahead, behind) = (new.wrapping_sub(old), old.wrapping_sub(new));
                if behind <= LATEST {
                    s.late += 1;
                    // It was counted as lost when the one after it came.
                    s.lost = s.lost.saturating_sub(u64::from(behind > 0));
                    return;
                }
                // A jump of thousands, or back, is another start, not a loss.
                if ahead < 0x1000 {
                    s.lost += u64::from(ahead - 1);
                }
            }
            self.sequence = Some(new);
        }
        let l = sample.lens;
        let words = [
            l.focal_mm.map(|v| format!("{v:.1} mm")),
            l.focus_m.map(|v| format!("{v:.2} m")),
            l.zoom.map(|v| format!("zoom {:.0} %", v * 100.0)),
            l.focus.map(|v| format!("focus {:.0} %", v * 100.0)),
        ];
        s.lens = words.into_iter().flatten().collect::<Vec<_>>().join(" · ");
    }
}

/// How many packets one may come behind another and still be late; farther back, its device has begun
/// anew.
const LATEST: u16 = 64;
/// Samples that are kept to read between.
const KEPT: usize = 256;
/// The longest that reading stays behind the newest, seconds.
const LONGEST_BEHIND_S: f64 = 0.12;
/// How quickly an estimate of the clocks' offset forgets, a sample.
const DRIFT: f64 = 0.002;

/// One source's samples on the floor's time.
#[derive(Default)]
pub struct Heard {
    samples: VecDeque<(f64, Pose, Lens)>,
    /// The floor's time less the device's: the least that was seen.
    offset_s: Option<f64>,
    period_s: f64,
    late_s: f64,
    arrived_s: f64,
}

impl Heard {
    /// A sample that came at `arrived_s` of the floor's time.
    pub fn hear(&mut self, sample: &Sample, arrived_s: f64) {
        let pause = arrived_s - self.arrived_s;
        if self.samples.is_empty() || pause > 1.0 {
            *self = Heard { period_s: 1.0 / 60.0, ..Heard::default() };
        } else {
            self.period_s += 0.02 * (pause.clamp(0.0, 0.2) - self.period_s);
        }
        if let Some(hz) = sample.rate_hz.filter(|hz| (1.0..=2000.0).contains(hz)) {
            self.period_s = 1.0 / hz;
        }
        self.arrived_s = arrived_s;
        let time_s = match sample.time_s {
            None => arrived_s,
            Some(own) => {
                let apart = arrived_s - own;
                let offset = match self.offset_s {
                    Some(offset) if (apart - offset).abs() < 1.0 => {
                        if apart < offset {
                            apart
                        } else {
                            offset + DRIFT * (apart - offset)
                        }
                    }
                    // Another clock, or the device began anew.
                    _ => {
                        self.samples.clear();
                        apart
                    }
                };
                self.offset_s = Some(offset);
                self.late_s = (self.late_s * (1.0 - DRIFT)).max(apart - offset);
                own + offset
            }
        };
        let at = self.samples.partition_point(|(t, ..)| *t < time_s);
        if self.samples.get(at).is_none_or(|(t, ..)| *t != time_s) {
            self.samples.insert(at, (time_s, sample.pose, sample.lens));
        }
        if self.samples.len() > KEPT {
            self.samples.pop_front();
        }
    }

    /// Time behind the newest packet at which the device is read, seconds.
    pub fn behind_s(&self) -> f64 {
        (1.5 * self.period_s + self.late_s).min(LONGEST_BEHIND_S)
    }

    /// True if the device was heard lately.
    pub fn alive(&self, now_s: f64) -> bool {
        !self.samples.is_empty() && now_s - self.arrived_s < LOST_S
    }

    /// Pose and lens of the device at a time of the floor.
    pub fn at(&self, now_s: f64) -> Option<(Pose, Lens)> {
        let time_s = now_s - self.behind_s();
        let next = self.samples.partition_point(|(t, ..)| *t <= time_s);
        let Some(&(b, to, lens)) = self.samples.get(next) else {
            return self.samples.back().map(|(_, pose, lens)| (*pose, *lens));
        };
        let Some(&(a, from, _)) = next.checked_sub(1).and_then(|k| self.samples.get(k)) else {
            return Some((to, lens));
        };
        Some((from.towards(to, (time_s - a) / (b - a)), lens))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rovnek_core::{DQuat, DVec3};
    use rovnek_formats::tracking::opentrackio::{Written, packets, write};

    fn sample(time_s: f64, sequence: u16) -> Sample {
        Sample {
            device: "1".into(),
            time_s: Some(time_s),
            sequence: Some(sequence),
            rate_hz: Some(240.0),
            pose: Pose::new(DVec3::new((0.7 * time_s).sin(), 1.5, 0.0), DQuat::IDENTITY),
            lens: Lens::default(),
        }
    }

    #[test]
    fn what_never_came_and_what_came_late_is_counted() {
        let mut d = Devices::default();
        for n in [0u16, 1, 2, 5, 4, 6, 65_535, 0, 1] {
            d.account("freed 1", "a", &sample(f64::from(n), n), 0.0);
        }
        let s = &d.statuses(3.0).0[0];
        // Whatever comes late may have been counted as lost before.
        assert_eq!((s.samples, s.lost, s.late), (9, 0, 4));
        assert_eq!(s.age_s, 3.0);
        let mut d = Devices::default();
        for n in [65_534u16, 65_535, 1, 2] {
            d.account("freed 1", "a", &sample(0.0, n), 0.0);
        }
        assert_eq!(d.statuses(0.0).0[0].lost, 1);
    }

    #[test]
    fn strangers_are_told_of_and_do_not_pile_up() {
        let mut d = Devices::default();
        for i in 0..5000 {
            assert!(d.receive(Protocol::FreeD, &format!("10.0.0.{i}"), b"?", 0.0).is_none());
            assert!(d.receive(Protocol::OpenTrackIo, &format!("10.0.0.{i}"), b"{}", 0.0).is_none());
        }
        let (sources, strangers) = d.statuses(0.0);
        assert!(sources.is_empty() && strangers.len() == MOST_SOURCES);
        for i in 0..100u8 {
            d.receive(Protocol::FreeD, "a", &freed::write(i, Pose::ORIGIN, 0.0, 0.0), 0.0);
        }
        assert_eq!(d.statuses(0.0).0.len(), MOST_SOURCES);
        d.tidy(100.0);
        assert_eq!(d.statuses(0.0), (vec![], vec![]));
    }

    /// A device that was turned off and on counts from the beginning, and is listened to at once.
    #[test]
    fn a_device_that_begins_anew_is_accounted_for_from_there() {
        let mut d = Devices::default();
        let mut hear = |n: u16, at: f64| assert!(d.account("opentrackio 1", "a", &sample(at, n), at));
        (0..5000).for_each(|n| hear(n, f64::from(n) / 60.0));
        (0..100).filter(|n| n % 5 != 4).for_each(|n| hear(n, 90.0 + f64::from(n) / 60.0));
        let s = &d.statuses(92.0).0[0];
        assert_eq!((s.lost, s.late), (19, 0), "{s:?}");
    }

    /// Ten minutes at 240 packets a second, one in twenty lost, one in twenty late, the device's
    /// clock a ten-thousandth fast: the camera stays where the hand was, and no farther behind.
    #[test]
    fn ten_minutes_of_a_bad_line_bring_no_drift() {
        let (mut devices, mut heard) = (Devices::default(), Heard::default());
        let mut dice = 7u64;
        let mut roll = || {
            dice = dice.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
            (dice >> 33) as f64 / (1u64 << 31) as f64
        };
        let hz = 240.0;
        let mut under_way: Vec<(f64, Vec<u8>)> = Vec::new();
        let (mut sent, mut lost) = (0u64, 0u64);
        let mut worst: [f64; 2] = [0.0; 2];
        for k in 0..(600.0 * hz) as u64 {
            let now_s = k as f64 / hz;
            let w = Written {
                number: 3,
                sequence: k as u16,
                time_s: 5_000.0 + now_s * 1.0001,
                rate: (240, 1),
                pose: Pose::new(DVec3::new((0.7 * now_s).sin(), 1.5, 0.0), DQuat::IDENTITY),
                lens: None,
            };
            let data = packets(&write(&w), w.sequence, 9000).remove(0);
            sent += 1;
            if roll() < 0.05 {
                lost += 1;
            } else {
                let late = if roll() < 0.05 { 0.012 } else { 0.002 * roll() };
                under_way.push((now_s + late, data));
            }
            under_way.sort_by(|a, b| a.0.total_cmp(&b.0));
            while under_way.first().is_some_and(|(at, _)| *at <= now_s) {
                let (at, data) = under_way.remove(0);
                if let Some((_, s)) = devices.receive(Protocol::OpenTrackIo, "hand", &data, at) {
                    heard.hear(&s, at);
                }
            }
            if k > 480 {
                let (pose, _) = heard.at(now_s).unwrap();
                let was = now_s - heard.behind_s();
                let off = (pose.position.x - (0.7 * was).sin()).abs();
                let half = usize::from(now_s > 300.0);
                worst[half] = worst[half].max(off);
                assert!(heard.behind_s() < 0.03, "{now_s}: {}", heard.behind_s());
            }
        }
        // 0.7 m/s for the few milliseconds that the clocks' offset is unsure of.
        assert!(worst[0] < 0.004 && worst[1] < 0.004, "{worst:?}");
        assert!(heard.samples.len() <= KEPT);
        let s = &devices.statuses(600.0).0[0];
        assert_eq!(s.source, "opentrackio 3");
        assert!(s.samples + s.lost >= sent - 5 && s.lost.abs_diff(lost) < 5, "{s:?} {lost}");
        assert!(s.late > 5000 && s.gaps > 0);
    }

    #[test]
    fn a_device_that_begins_anew_is_followed_at_once() {
        let mut heard = Heard::default();
        for k in 0..200 {
            heard.hear(&sample(90.0 + f64::from(k) / 240.0, k as u16), f64::from(k) / 240.0);
        }
        heard.hear(&sample(2.0, 0), 1.0);
        let (pose, _) = heard.at(1.1).unwrap();
        assert_eq!(pose.position.x, (1.4_f64).sin());
        assert!(heard.alive(1.2) && !heard.alive(1.6));
    }
}
