//! Hands on the machine that is driven, and how it takes them.

use rovnek_core::axis::{Axis, AxisGroup};
use rovnek_core::axis_motion::{Demand, Hand};
use rovnek_core::input_shaping::Shaping;

/// Factor on speed in fine gear.
const FINE: f64 = 0.2;

/// Fluid drag of each part of a rig at drag 1, seconds.
fn drag_s(group: AxisGroup) -> f64 {
    match group {
        AxisGroup::Machine => 0.30,
        AxisGroup::Head => 0.16,
        AxisGroup::Lens => 0.12,
        AxisGroup::Carrier => 0.0,
    }
}

/// Demands of the hands on each axis, and the feel of the machine.
#[derive(Clone, Debug)]
pub(super) struct Controls {
    /// Shares of top speed, −1 to 1.
    rates: Vec<f64>,
    /// Distances still to be handed on, in the axes' units.
    nudges: Vec<f64>,
    shaping: Vec<Shaping>,
    /// Fine gear of whoever has each.
    fine: Vec<bool>,
    /// The share of top speed that a hand at its end asks for.
    dial: f64,
    /// Factor on the default drag.
    drag: f64,
}

impl Default for Controls {
    fn default() -> Controls {
        let (rates, nudges, shaping, fine) = Default::default();
        Controls { rates, nudges, shaping, fine, dial: 0.6, drag: 1.0 }
    }
}

impl Controls {
    /// No hand is on any of so many axes; dial and drag stay.
    pub fn take_over(&mut self, axes: usize) {
        self.rates = vec![0.0; axes];
        self.nudges = vec![0.0; axes];
        self.shaping = vec![Shaping::default(); axes];
        self.fine = vec![false; axes];
    }

    /// What hands ask from now on of the axes that are `theirs`; nudges come on top of those that are not
    /// handed on yet.
    pub fn drive(&mut self, axes: &[Axis], theirs: &[bool], rates: &[f64], nudges: &[f64], fine: bool) {
        let finite = |list: &[f64], i: usize| list.get(i).copied().filter(|v| v.is_finite());
        for i in (0..self.rates.len()).filter(|i| theirs[*i]) {
            self.fine[i] = fine;
            if let Some(rate) = rates.get(i) {
                self.rates[i] = if rate.is_finite() { rate.clamp(-1.0, 1.0) } else { 0.0 };
            }
            self.nudges[i] += finite(nudges, i).map_or(0.0, |by| axes[i].unit.from_shown(by));
        }
    }

    /// How inputs are shaped on their way to the axes that are `theirs`.
    pub fn shape(&mut self, theirs: &[bool], axes: Vec<Shaping>) {
        for ((shaping, new), _) in
            self.shaping.iter_mut().zip(axes).zip(theirs).filter(|(_, theirs)| **theirs)
        {
            *shaping = new.within_reason();
        }
    }

    /// Sets dial and drag.
    pub fn feel(&mut self, dial: f64, drag: f64) {
        if dial.is_finite() && drag.is_finite() {
            (self.dial, self.drag) = (dial.clamp(0.05, 1.0), drag.clamp(0.0, 4.0));
        }
    }

    /// See [`Controls::feel`].
    pub fn dial(&self) -> f64 {
        self.dial
    }

    /// See [`Controls::feel`].
    pub fn drag(&self) -> f64 {
        self.drag
    }

    /// See [`Controls::shape`].
    pub fn shaping(&self) -> &[Shaping] {
        &self.shaping
    }

    /// True if a hand holds an axis.
    pub fn holds(&self, axis: usize) -> bool {
        self.rates[axis] != 0.0
    }

    /// Hands let go of some axes; whether they held any.
    pub fn let_go(&mut self, of: impl Fn(usize) -> bool) -> bool {
        let mut held = false;
        for i in (0..self.rates.len()).filter(|i| of(*i)) {
            held |= std::mem::take(&mut self.rates[i]) != 0.0;
            self.fine[i] = false;
        }
        held
    }

    /// The hands on each axis for one step; nudges are handed on. Axes that nobody is at brake.
    pub fn hands(&mut self, axes: &[Axis], brake: impl Fn(usize) -> bool) -> Vec<Hand> {
        let Controls { rates, nudges, shaping, fine, dial, drag } = self;
        let hand = |(i, axis): (usize, &Axis)| {
            let (dial, brake) = (*dial * if fine[i] { FINE } else { 1.0 }, brake(i));
            let rate = shaping[i].rate(rates[i]);
            let demand = Demand { rate, dial, nudge: std::mem::take(&mut nudges[i]), brake };
            Hand { demand, drag_s: drag_s(axis.group) * *drag * shaping[i].drag }
        };
        axes.iter().enumerate().map(hand).collect()
    }

    /// Nobody's hands on so many axes: the machine brakes.
    pub fn nobody(axes: usize) -> Vec<Hand> {
        let brake = Demand { brake: true, ..Demand::default() };
        vec![Hand { demand: brake, drag_s: 0.0 }; axes]
    }
}
