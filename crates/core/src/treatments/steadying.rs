//! Steadying a tracked take otherwise than it was while it rolled: from where the device was,
//! which the take keeps, with any strength. Afterwards nothing has to be late, so the lag of a
//! fixed-lag filter is taken back.

use super::{Level, Reads, Treat};
use crate::axis::Axis;
use crate::motion::{Context, Motion};
use crate::params::{Invalid, Param};
use crate::rigs::DEVICE;
use crate::space::{Pose, unwrap};
use crate::steady::{Steadier, Steady, SteadyBy};

/// The first of the device's axes and the first of the camera's, where the take keeps both.
fn places(axes: &[Axis]) -> Option<(usize, usize)> {
    let device = axes.iter().position(|a| a.name == DEVICE[0])?;
    Some((device, device + DEVICE.len()))
}

impl Treat for Steady {
    const LEVEL: Level = Level::Machine;
    const WORDS: (&'static str, &'static str) =
        ("Steady", "Steadies a tracked take anew, from where the device itself was.");

    fn params() -> Vec<Param> {
        Steady::described().into()
    }

    /// Afterwards nothing has to be prompt.
    fn usual() -> Steady {
        Steady { by: SteadyBy::FixedLag, position: 0.4, rotation: 0.6 }
    }

    fn fits(axes: &[Axis]) -> bool {
        places(axes).is_some()
    }

    fn check(&self) -> Result<(), Invalid> {
        self.within_reason()
    }

    fn reads(&self) -> Reads {
        Reads::Take("where the device was")
    }

    fn apply(&self, motion: &Motion, context: &Context) -> Motion {
        let mut steadied = motion.clone();
        let Some((device, camera)) = places(context.axes()) else { return steadied };
        let samples = &motion.samples;
        let pose = |row: &[f64]| Pose::from_numbers(std::array::from_fn(|k| row[device + k]));
        let raw: Vec<Pose> = samples.rows().map(pose).collect();
        let mut steadier = Steadier::new(*self, 1.0 / samples.rate_hz());
        let late = match self.by {
            SteadyBy::FixedLag => (self.delay_s() * samples.rate_hz()).round() as usize,
            SteadyBy::OneEuro => 0,
        };
        let last = *raw.last().expect("there are samples");
        let fed = raw.iter().copied().chain(std::iter::repeat_n(last, late));
        let out: Vec<Pose> = fed.map(|p| steadier.next(p)).skip(late).collect();
        for k in 0..DEVICE.len() {
            let mut column: Vec<f64> = out.iter().map(|p| p.to_numbers()[k]).collect();
            if k >= 3 {
                unwrap(&mut column);
            }
            steadied.samples.set_column(camera + k, &column);
        }
        steadied
    }
}
