//! Takes something off the start and the end of a move.
//!
//! What is left keeps its time: frame n is frame n of the scene. What is off the start stays where hands
//! cannot reach it, so that what smooths the move still reads what led to it; what is off the end is gone.

use super::{Level, Treat};
use crate::motion::{Context, Motion};
use crate::params::{Invalid, Param, within};
use crate::time_map::{LONGEST_S, TimeMap};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Trim treatment.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
#[serde(default, deny_unknown_fields)]
pub struct Trim {
    /// Seconds off the start.
    pub start_s: f64,
    /// Seconds off the end.
    pub end_s: f64,
}

/// Least length that a trim leaves, seconds.
const LEAST_S: f64 = 0.1;

fn off() -> [Param; 2] {
    [("start_s", "off the start"), ("end_s", "off the end")]
        .map(|(path, label)| Param::number(path, label, "s", 0.0, LONGEST_S).start(0.0))
}

impl Treat for Trim {
    const LEVEL: Level = Level::Time;
    const WORDS: (&'static str, &'static str) =
        ("Trim", "Takes something off the start and the end; what is left keeps its time.");

    fn params() -> Vec<Param> {
        off().map(|param| Param::row(param.label, vec![param])).into()
    }

    /// A second at each end, to begin with.
    fn usual() -> Trim {
        Trim { start_s: 1.0, end_s: 1.0 }
    }

    fn check(&self) -> Result<(), Invalid> {
        let [start, end] = off();
        within(&start, self.start_s).and_then(|()| within(&end, self.end_s))
    }

    fn time(&self, _: f64, length_s: f64) -> TimeMap {
        let ends = (length_s - self.end_s).max(LEAST_S.min(length_s));
        let begins = self.start_s.min(ends - LEAST_S).max(0.0);
        TimeMap::new(ends, |t| t).beginning(begins)
    }

    fn apply(&self, motion: &Motion, context: &Context) -> Motion {
        self.time(0.0, motion.samples.duration_s()).apply(motion, context)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::evaluate::frames;
    use crate::lens::Camera;
    use crate::rigs::{Rig, RigSpec, TelescopicCrane};
    use crate::samples::Samples;
    use crate::time::Rate;
    use crate::treatments::{Retime, RetimeBy, Treatment, TreatmentKind, treated};

    /// Ten seconds of a crane whose swing says what time it is, and how it is after some treatments.
    fn after(list: &[TreatmentKind]) -> (Motion, Box<dyn Rig>) {
        let rig = RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default());
        let mut row: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        let values = (0..=1200).flat_map(|k| {
            row[0] = f64::from(k) / 120.0;
            row.clone()
        });
        let raw = Motion::plain(Samples::new(120.0, rig.axes().len(), values.collect()));
        let list: Vec<Treatment> = list.iter().cloned().map(Treatment::from).collect();
        let motion = treated(&raw, &list, &Context::of(&*rig, &Camera::default(), Rate::FILM));
        (motion, rig)
    }

    fn trim(start_s: f64, end_s: f64) -> TreatmentKind {
        TreatmentKind::Trim(Trim { start_s, end_s })
    }

    #[test]
    fn what_is_left_keeps_its_time_to_the_bit() {
        let (motion, rig) = after(&[trim(2.0, 3.0)]);
        let (whole, _) = after(&[]);
        let seen = frames(&motion, &*rig, Rate::FILM);
        assert_eq!((seen.len(), seen[0].time_s, seen.last().unwrap().time_s), (5 * 24 + 1, 2.0, 7.0));
        assert_eq!(seen[..], frames(&whole, &*rig, Rate::FILM)[48..=168]);
        // Between two frames it begins with the next one: what is off is off.
        let (between, _) = after(&[trim(2.01, 0.0)]);
        assert_eq!(frames(&between, &*rig, Rate::FILM)[0].time_s, Rate::FILM.time_of(49));
    }

    #[test]
    fn something_is_always_left() {
        for (start_s, end_s) in [(50.0, 0.0), (0.0, 50.0), (6.0, 6.0), (3600.0, 3600.0)] {
            let (motion, rig) = after(&[trim(start_s, end_s)]);
            assert!((motion.samples.duration_s() - motion.begins_s - LEAST_S).abs() < 1e-9);
            assert!(!frames(&motion, &*rig, Rate::FILM).is_empty());
        }
        assert_eq!(Trim { start_s: -1.0, end_s: 0.0 }.check().unwrap_err().path, "start_s");
    }

    /// What comes after a trim works on what is left: an eased start is the start of that, and a length
    /// is its length.
    #[test]
    fn retiming_after_it_retimes_what_is_left() {
        let retime = |way| TreatmentKind::Retime(Retime { way });
        let (eased, _) = after(&[trim(2.0, 3.0), retime(RetimeBy::Ease { start_s: 1.0, stop_s: 1.0 })]);
        let clock = eased.samples.column(0);
        assert!((clock[241] - clock[240]) * 120.0 < 0.01, "it starts from rest");
        assert_eq!((eased.begins_s, clock[240], clock[480], clock.len()), (2.0, 2.0, 4.0, 841));
        let (long, _) = after(&[trim(2.0, 3.0), retime(RetimeBy::Stretch { length_s: 10.0 })]);
        assert_eq!((long.begins_s, long.samples.duration_s()), (2.0, 12.0));
        assert!((long.samples.column(0)[720] - 4.0).abs() < 1e-9);
        // One before it moves what it takes away, not when that is.
        let (slow, _) = after(&[retime(RetimeBy::Stretch { length_s: 20.0 }), trim(2.0, 3.0)]);
        assert_eq!((slow.begins_s, slow.samples.duration_s()), (2.0, 17.0));
    }

    #[test]
    fn several_take_away_one_after_the_other() {
        let (motion, _) = after(&[trim(2.0, 1.0), trim(3.0, 1.0)]);
        assert_eq!((motion.begins_s, motion.samples.duration_s()), (5.0, 8.0));
    }
}
