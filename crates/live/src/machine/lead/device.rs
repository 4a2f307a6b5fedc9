//! A camera in the hand that holds a tracked device.

use super::{Lead, LeadKind, LeadStep, Led};
use rovnek_core::axis::Axis;
use rovnek_core::axis_motion::STEP_S;
use rovnek_core::rigs::LENS_AXES;
use rovnek_core::space::Pose;
use rovnek_core::steady::Steadier;
use rovnek_core::tracked::{Attached, Tracking};
use rovnek_formats::tracking::Lens;

/// A device that holds the camera.
pub struct DeviceLead {
    /// The device, which stays the same while it is held.
    source: String,
    attached: Attached,
    steadier: Steadier,
    /// Where the device wants the camera at this step, steadied.
    wanted: Pose,
}

impl DeviceLead {
    /// Joins a camera and a device where both are.
    pub fn join(source: &str, camera: Pose, device: Pose, tracking: &Tracking) -> DeviceLead {
        let attached = tracking.mapping.attach(camera, device);
        let mut steadier = Steadier::new(tracking.steady, STEP_S);
        let wanted = steadier.next(attached.camera(device));
        DeviceLead { source: source.into(), attached, steadier, wanted }
    }
}

impl Lead for DeviceLead {
    fn kind(&self) -> LeadKind {
        LeadKind::Device
    }

    fn step(&mut self, step: &LeadStep) -> Led {
        // A device that has never been heard wants nothing.
        let (on_set, sent) = step.device.unwrap_or((self.wanted, Lens::default()));
        let then = self.steadier.next(on_set);
        let before = std::mem::replace(&mut self.wanted, then);
        let lens = sent_lens(step.rig.axes(), sent);
        let solve = |camera: Pose, near: &[f64]| {
            let mut axes = step.rig.inverse(camera, near).axes().to_vec();
            let now = &near[near.len() - LENS_AXES..];
            axes.extend(lens.iter().zip(now).map(|(sent, now)| sent.unwrap_or(*now)));
            axes
        };
        // What the device does not say of the lens, hands do.
        let by_hand = lens.map(|sent| !step.tracking.mapping.lens || sent.is_none());
        Led { now: solve(before, step.was), next: solve(then, step.near), camera: then, by_hand }
    }

    fn source(&self) -> Option<&str> {
        Some(&self.source)
    }

    fn on_set(&self, device: Pose) -> Option<Pose> {
        Some(self.attached.camera(device))
    }

    /// Another device is another hand: it has to be attached anew.
    fn retrack(&mut self, tracking: &Tracking) -> bool {
        self.attached = self.attached.with(tracking.mapping);
        if tracking.steady != self.steadier.steady() {
            self.steadier = Steadier::new(tracking.steady, STEP_S);
        }
        tracking.source.is_empty() || tracking.source == self.source
    }
}

/// Zoom, focus and iris as a device sends them, in the units and within the limits of the axes. A
/// ring of focus goes evenly over one over the distance.
pub fn sent_lens(axes: &[Axis], sent: Lens) -> [Option<f64>; LENS_AXES] {
    let [.., zoom, focus, iris] = axes else { return [None; LENS_AXES] };
    let focal = sent.focal_mm.or(sent.zoom.map(|share| zoom.min + share * (zoom.max - zoom.min)));
    let (close, far) = (1.0 / focus.min, 1.0 / focus.max);
    let distance = sent.focus_m.or(sent.focus.map(|share| 1.0 / (close + share * (far - close))));
    let within = |v: Option<f64>, axis: &Axis| v.map(|v| v.clamp(axis.min, axis.max));
    [within(focal, zoom), within(distance, focus), within(sent.f_stop, iris)]
}
