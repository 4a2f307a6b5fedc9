//! Going freely over the floor or through the air, among walls.

use crate::axis::Axis;
use crate::axis_motion::{AxisMotion, Hand, fastest_that_stops};
use crate::walls::{Wall, slowed};
use glam::{DQuat, DVec3};

/// One step of something that moves freely in up to three directions at once: the limits are
/// those of the whole velocity, and hands push it the way it faces.
///
/// Axes 0, 1 … of `motions` are the world's x, y, z for as many as there are entries in `moves`
/// (a missing one is not an axis); hands push to the side, up and ahead.
pub(super) fn roam(
    motions: &mut [AxisMotion],
    hands: &[Hand],
    axes: &[Axis],
    moves: [Option<usize>; 3],
    facing: DQuat,
    among: &[Wall],
    dt: f64,
) {
    let ours = || moves.into_iter().flatten();
    // What remains of a nudge remains to an axis of the world, and is worked off there.
    if ours().any(|i| motions[i].remaining != 0.0 || hands[i].demand.nudge != 0.0)
        && ours().all(|i| hands[i].demand.rate == 0.0)
    {
        for i in ours() {
            motions[i] = motions[i].step(&axes[i], hands[i].demand, hands[i].drag_s, dt);
        }
        return;
    }
    let first = moves[0].expect("something that roams goes sideways");
    let (top, push) = (axes[first].top_speed, axes[first].top_acceleration);
    let Hand { demand, drag_s } = hands[first];
    let of = |value: &dyn Fn(usize) -> f64| DVec3::from(moves.map(|i| i.map_or(0.0, value)));
    let asked = of(&|i| hands[i].demand.rate.clamp(-1.0, 1.0) * hands[i].demand.dial);
    let asked = if demand.brake { DVec3::ZERO } else { facing * (asked * DVec3::new(1.0, 1.0, -1.0)) };
    let wanted = (asked * top).clamp_length_max(top);
    let velocity = of(&|i| motions[i].speed);
    let share = if drag_s > 0.0 && !demand.brake { 1.0 - (-dt / drag_s).exp() } else { 1.0 };
    let mut next = velocity + ((wanted - velocity) * share).clamp_length_max(push * dt);
    if wanted == DVec3::ZERO && next.length() < 1e-4 * top && velocity.length() <= push * dt * (1.0 + 1e-9) {
        next = DVec3::ZERO;
    }
    next = slowed(among, of(&|i| motions[i].value), next, push, dt);
    for (k, i) in moves.into_iter().enumerate().filter_map(|(k, i)| i.map(|i| (k, i))) {
        let (a, value) = (&axes[i], motions[i].value);
        let room = if next[k] > 0.0 { a.max - value } else { value - a.min };
        let speed = next[k].signum() * next[k].abs().min(fastest_that_stops(room.max(0.0), push, dt));
        motions[i] = AxisMotion { value: (value + speed * dt).clamp(a.min, a.max), speed, remaining: 0.0 };
    }
}
