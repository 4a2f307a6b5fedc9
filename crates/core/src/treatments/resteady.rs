//! Steadying a tracked take otherwise than it was while it rolled: from where the device was,
//! which the take keeps, with any strength. Afterwards nothing has to be late, so the lag of a
//! fixed-lag filter is taken back.

use crate::axis::Axis;
use crate::rigs::DEVICE;
use crate::samples::Samples;
use crate::space::{PanTiltRoll, Pose};
use crate::steady::{Steadier, Steady, SteadyBy};
use glam::DVec3;

/// The first of the device's axes and the first of the camera's, where the take keeps both.
fn places(axes: &[Axis]) -> Option<(usize, usize)> {
    let device = axes.iter().position(|a| a.name == DEVICE[0])?;
    Some((device, device + DEVICE.len()))
}

pub(super) fn apply(steady: &Steady, samples: &mut Samples, axes: &[Axis]) {
    let Some((device, camera)) = places(axes) else { return };
    let pose = |row: &[f64]| {
        let &[x, y, z, pan, tilt, roll, ..] = &row[device..] else { panic!("a device has six axes") };
        Pose::new(DVec3::new(x, y, z), PanTiltRoll { pan, tilt, roll }.to_rotation())
    };
    let raw: Vec<Pose> = samples.rows().map(pose).collect();
    let mut steadier = Steadier::new(*steady, 1.0 / samples.rate_hz());
    let late = match steady.by {
        SteadyBy::FixedLag => (steady.delay_s() * samples.rate_hz()).round() as usize,
        SteadyBy::OneEuro => 0,
    };
    let last = *raw.last().expect("there are samples");
    let fed = raw.iter().copied().chain(std::iter::repeat_n(last, late));
    let out: Vec<Pose> = fed.map(|p| steadier.next(p)).skip(late).collect();
    let numbers = |p: &Pose| {
        let (v, a) = (p.position, PanTiltRoll::from_rotation(p.rotation));
        [v.x, v.y, v.z, a.pan, a.tilt, a.roll]
    };
    for k in 0..DEVICE.len() {
        let mut column: Vec<f64> = out.iter().map(|p| numbers(p)[k]).collect();
        if k >= 3 {
            crate::space::unwrap(&mut column);
        }
        samples.set_column(camera + k, &column);
    }
}
