//! Cameras put where a treatment wants them, by the machine's own axes as far as it goes.
//!
//! What only turns is done by the head, so that the rest of the machine stays as it was, bit for bit;
//! what moves is solved for the whole machine. Where it falls short the camera stays where it is wanted,
//! the machine stands at its nearest, and that is told. Where the camera had been shaken off its machine,
//! it stays shaken.

use crate::axis::Axis;
use crate::motion::{Context, Motion};
use crate::rigs::turn_within;
use crate::space::{PanTiltRoll, Pose};
use crate::warnings;

/// A motion whose cameras are being put elsewhere.
pub(super) struct Placed<'a, 'b> {
    context: &'a Context<'b>,
    motion: Motion,
    head: Option<[usize; 3]>,
    /// Where the camera is to be at samples that the machine does not reach.
    beyond: Vec<(usize, Pose)>,
    short_m: Vec<f64>,
    short_deg: Vec<f64>,
    last: Option<usize>,
}

/// Nearer than this, the machine is there: metres, and radians.
const THERE: (f64, f64) = (1e-6, 1e-7);

impl<'a, 'b> Placed<'a, 'b> {
    pub(super) fn new(motion: &Motion, context: &'a Context<'b>) -> Placed<'a, 'b> {
        let count = motion.samples.len();
        Placed {
            context,
            motion: motion.clone(),
            head: Axis::head(context.axes()),
            beyond: Vec::new(),
            short_m: vec![0.0; count],
            short_deg: vec![0.0; count],
            last: None,
        }
    }

    /// Puts the camera that the machine carried to `stood` at a sample where it is wanted.
    pub(super) fn put(&mut self, k: usize, stood: Pose, wanted: Pose) {
        let shaken = self.motion.camera.as_ref().map(|camera| stood.inverse().then(camera[k]));
        let mut near = self.motion.samples.row(k).to_vec();
        if let (Some(head), Some(last)) = (self.head, self.last.filter(|last| last + 1 == k)) {
            head.into_iter().for_each(|i| near[i] = self.motion.samples.row(last)[i]);
        }
        self.last = Some(k);
        let turned = match self.head.filter(|_| stood.position == wanted.position) {
            Some(head) => self.turn(k, head, stood, wanted, &near),
            None => {
                let reach = self.context.rig.inverse(wanted, &near);
                reach.axes().iter().enumerate().for_each(|(i, v)| self.motion.samples.set(k, i, *v));
                false
            }
        };
        // A head that turns so far leaves nothing to be found out.
        if turned && shaken.is_none() {
            return;
        }
        let stands = self.context.rig.forward(self.motion.samples.row(k)).camera;
        let (metres, angle) = (stands.position.distance(wanted.position), stands.angle_to(wanted));
        let there = metres < THERE.0 && angle < THERE.1;
        let camera = if there { stands } else { wanted };
        if !there {
            (self.short_m[k], self.short_deg[k]) = (metres, angle.to_degrees());
        }
        if let (Some(shaken), Some(cameras)) = (shaken, &mut self.motion.camera) {
            cameras[k] = camera.then(shaken);
        } else if !there {
            self.beyond.push((k, camera));
        }
    }

    /// Turns the head; whether it goes so far.
    fn turn(&mut self, k: usize, head: [usize; 3], stood: Pose, wanted: Pose, near: &[f64]) -> bool {
        let base = stood.rotation * self.motion.samples.rotation(k, head).conjugate();
        let turn = PanTiltRoll::from_rotation((base.conjugate() * wanted.rotation).normalize());
        let stood = PanTiltRoll { pan: near[head[0]], tilt: near[head[1]], roll: near[head[2]] };
        let free = self.context.rig.rotation().is_some();
        let turn = if free { turn.near(stood) } else { turn };
        let mut whole = true;
        for (i, value) in head.into_iter().zip([turn.pan, turn.tilt, turn.roll]) {
            let axis = &self.context.axes()[i];
            let value = turn_within(axis, value, near[i]);
            whole &= axis.allows(value);
            self.motion.samples.set(k, i, value.clamp(axis.min, axis.max));
        }
        whole
    }

    /// The motion with all of them in place, and what the machine is short.
    pub(super) fn done(mut self) -> Motion {
        let (hz, rate) = (self.motion.samples.rate_hz(), self.context.rate);
        self.motion.warnings.extend(warnings::short(hz, rate, &self.short_m, &self.short_deg));
        if !self.beyond.is_empty() {
            let pose = |k| self.motion.pose(k, self.context.rig);
            let mut cameras: Vec<Pose> = (0..self.motion.samples.len()).map(pose).collect();
            self.beyond.into_iter().for_each(|(k, camera)| cameras[k] = camera);
            self.motion.camera = Some(cameras);
        }
        self.motion
    }
}
