//! Driving an axis: from what the hand asks for to how the machine really moves.
//!
//! Each fixed step the wanted speed is approached as through a fluid (first-order lag), no faster
//! than the axis can accelerate, and never faster than it can still stop before its end. The
//! stopping rule is exact for stepped motion, so a machine driven into its end stop comes to rest
//! on it, at most one rounding error away, and never brakes harder than it can.

use crate::axis::Axis;

/// The live floor's step, seconds.
pub const STEP_S: f64 = 1.0 / 240.0;

/// How quickly a nudge (mouse, wheel) is worked off, seconds.
const NUDGE_S: f64 = 0.06;

/// Demand of the hand on an axis during one step.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Demand {
    /// Share of top speed, −1 to 1.
    pub rate: f64,
    /// Scales `rate`: the speed dial.
    pub dial: f64,
    /// A distance to add to what is still to be worked off, in the axis' unit.
    pub nudge: f64,
    /// Stop as hard as allowed: nobody is at the wheels.
    pub brake: bool,
}

impl Demand {
    /// True if a hand is on the axis.
    pub fn asks(&self) -> bool {
        self.rate != 0.0 || self.nudge != 0.0
    }
}

/// A hand on an axis, and how much the axis feels like moving through a fluid.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Hand {
    /// Demand on the axis.
    pub demand: Demand,
    /// Time constant of the fluid, 0 for none, seconds.
    pub drag_s: f64,
}

/// Value and speed of an axis.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct AxisMotion {
    /// In the axis' unit.
    pub value: f64,
    /// Speed per second.
    pub speed: f64,
    /// Nudge not yet worked off.
    pub remaining: f64,
}

impl AxisMotion {
    /// Axis at rest.
    pub fn at(value: f64) -> AxisMotion {
        AxisMotion { value, ..AxisMotion::default() }
    }

    /// The motion one step later. `drag_s` is the time constant of the fluid, 0 for none.
    pub fn step(self, axis: &Axis, demand: Demand, drag_s: f64, dt: f64) -> AxisMotion {
        let (top, push) = (axis.top_speed, axis.top_acceleration);
        // A hand on the axis takes over from what was asked before; a brake only interrupts it.
        let mut remaining = if demand.rate != 0.0 { 0.0 } else { self.remaining + demand.nudge };
        // Half the push keeps the exponential end of the approach within what can be followed.
        let approach = (remaining.abs() / NUDGE_S).min(fastest_that_stops(remaining.abs(), push / 2.0, dt));
        let worked = remaining.signum() * approach;
        let wanted = (demand.rate.clamp(-1.0, 1.0) * demand.dial * top + worked).clamp(-top, top);

        let change = if demand.brake {
            -self.speed
        } else {
            // What remains is a distance, so it must not be coasted past.
            let share = if drag_s > 0.0 && remaining == 0.0 { 1.0 - (-dt / drag_s).exp() } else { 1.0 };
            (wanted - self.speed) * share
        };
        let mut speed = self.speed + change.clamp(-push * dt, push * dt);
        // The last hair of a first-order lag would take for ever.
        if wanted == 0.0 && speed.abs() < 1e-4 * top && self.speed.abs() <= push * dt * (1.0 + 1e-9) {
            speed = 0.0;
        }
        let room = if speed > 0.0 { axis.max - self.value } else { self.value - axis.min };
        speed = speed.signum() * speed.abs().min(fastest_that_stops(room.max(0.0), push, dt));

        let value = (self.value + speed * dt).clamp(axis.min, axis.max);
        let moved = value - self.value;
        remaining = if remaining * moved > 0.0 {
            remaining.signum() * (remaining.abs() - moved.abs()).max(0.0)
        } else {
            remaining
        };
        // Nothing remains to be gone through an end stop, nor a hair's breadth.
        if remaining.abs() < 1e-6 * top
            || remaining > 0.0 && value >= axis.max
            || remaining < 0.0 && value <= axis.min
        {
            remaining = 0.0;
        }
        AxisMotion { value, speed, remaining }
    }

    /// The motion one step later, led to `target`, which itself goes at `target_speed`. What the
    /// axis can follow it follows exactly; what it cannot it catches up with and does not overrun.
    pub fn led(self, axis: &Axis, target: f64, target_speed: f64, dt: f64) -> AxisMotion {
        let (top, push) = (axis.top_speed, axis.top_acceleration);
        let behind = target - self.value - target_speed * dt;
        let gain = (behind.abs() / dt).min(fastest_that_stops(behind.abs(), push, dt));
        let wanted = (target_speed + behind.signum() * gain).clamp(-top, top);
        let mut speed = self.speed + (wanted - self.speed).clamp(-push * dt, push * dt);
        let room = if speed > 0.0 { axis.max - self.value } else { self.value - axis.min };
        speed = speed.signum() * speed.abs().min(fastest_that_stops(room.max(0.0), push, dt));
        let value = (self.value + speed * dt).clamp(axis.min, axis.max);
        AxisMotion { value, speed, remaining: 0.0 }
    }
}

/// The highest speed from which stepped braking at `push` still ends within `room`.
///
/// Braking from v takes steps of v·dt, (v − push·dt)·dt, … With N further steps the distance is
/// (N + 1)·v·dt − N(N + 1)/2·push·dt²; solved for v with the N that `room` affords.
pub(crate) fn fastest_that_stops(room: f64, push: f64, dt: f64) -> f64 {
    if room.is_infinite() {
        return f64::INFINITY;
    }
    let unit = push * dt * dt;
    let steps = (((1.0 + 8.0 * room / unit).sqrt() - 3.0) / 2.0).ceil().max(0.0);
    room / ((steps + 1.0) * dt) + steps * push * dt / 2.0
}

/// Seconds until the axis reaches the end it is moving towards at its present speed; none at rest
/// or without an end.
pub fn time_to_stop(axis: &Axis, motion: AxisMotion) -> Option<f64> {
    let room = if motion.speed > 0.0 { axis.max - motion.value } else { motion.value - axis.min };
    (motion.speed != 0.0 && room.is_finite()).then(|| room / motion.speed.abs())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::axis::{AxisGroup, Unit};
    use proptest::prelude::*;

    fn axis(min: f64, max: f64, top_speed: f64, top_acceleration: f64) -> Axis {
        let (group, unit) = (AxisGroup::Machine, Unit::Metres);
        Axis {
            name: "reach",
            hand: Some("reach"),
            ink: "reach",
            group,
            unit,
            min,
            max,
            top_speed,
            top_acceleration,
            start: min,
        }
    }

    fn full(rate: f64) -> Demand {
        Demand { rate, dial: 1.0, ..Demand::default() }
    }

    #[test]
    fn held_against_the_stop_it_rests_on_the_stop() {
        let a = axis(2.13, 7.62, 1.0, 0.6);
        let mut m = AxisMotion::at(2.13);
        for _ in 0..240 * 20 {
            m = m.step(&a, full(1.0), 0.3, STEP_S);
        }
        assert!((m.value - 7.62).abs() < 1e-12 && m.speed.abs() < 1e-9, "{m:?}");
    }

    #[test]
    fn a_nudge_moves_as_far_as_asked_through_any_drag() {
        let a = axis(-10.0, 10.0, 5.0, 20.0);
        let mut m = AxisMotion::at(0.0).step(&a, Demand { nudge: 0.5, ..full(0.0) }, 0.8, STEP_S);
        for _ in 0..480 {
            m = m.step(&a, full(0.0), 0.8, STEP_S);
        }
        assert!((m.value - 0.5).abs() < 1e-3 && m.speed == 0.0, "{m:?}");
    }

    #[test]
    fn braking_is_harder_than_coasting() {
        let a = axis(-100.0, 100.0, 1.0, 2.0);
        let steps_to_rest = |brake: bool| {
            let mut m = AxisMotion { speed: 1.0, ..AxisMotion::at(0.0) };
            (0..2400)
                .take_while(|_| {
                    m = m.step(&a, Demand { brake, ..full(0.0) }, 0.5, STEP_S);
                    m.speed != 0.0
                })
                .count()
        };
        assert_eq!(steps_to_rest(true), 119); // 1 m/s at 2 m/s² is half a second
        assert!(steps_to_rest(false) > 240);
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(60))]

        /// Hostile input for up to ten seconds: limits of position, speed and acceleration hold.
        #[test]
        fn limits_hold(
            span in 0.01..20.0f64, speed in 0.1..10.0f64, push in 0.1..40.0f64, drag in 0.0..1.0f64,
            hands in prop::collection::vec((-1.5..1.5f64, -3.0..3.0f64, any::<bool>(), 1usize..200), 1..24),
        ) {
            let a = axis(-span, span, speed, push);
            let mut m = AxisMotion::at(0.0);
            for (rate, nudge, brake, steps) in hands {
                for _ in 0..steps {
                    let next = m.step(&a, Demand { rate, dial: 1.0, nudge, brake }, drag, STEP_S);
                    prop_assert!(a.allows(next.value));
                    prop_assert!(next.speed.abs() <= speed * (1.0 + 1e-12));
                    prop_assert!((next.speed - m.speed).abs() <= push * STEP_S + 1e-7);
                    prop_assert!((next.value - m.value - next.speed * STEP_S).abs() < 1e-9);
                    m = next;
                }
            }
        }
    }
}
