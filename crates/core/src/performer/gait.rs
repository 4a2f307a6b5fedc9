//! Places of the feet: steps that are planted and stay planted.
//!
//! **Method.** The way between two stops is divided into a whole number of steps. Feet land in
//! turn on the path, each a step before the next; a foot leaves the floor when the body is well
//! past it and lands somewhat ahead of the body, so that how fast the figure goes never moves a
//! planted foot. On the spot the feet follow when the body has turned away from them.

use super::route::Path;
use crate::curve::slope::minimum_jerk;
use crate::space::heading;
use glam::DVec3;
use std::f64::consts::{PI, TAU};

/// Metres from step to step at a comfortable walk, as a share of body height (common practice, no
/// source).
const STEP: f64 = 0.41;
/// The comfortable walk, metres a second (common practice, no source).
const WALK_M_S: f64 = 1.35;
/// Sideways from the middle to a foot, as a share of body height.
const STANCE: f64 = 0.055;
/// Steps past a foot at which it leaves the floor, and before a foot at which it lands.
const LIFTS: f64 = 0.67;
const LANDS: f64 = 0.43;
/// Turn of the body before the feet follow, radians.
const PIVOT: f64 = 0.6;
/// Time of a step on the spot, seconds.
const PIVOT_S: f64 = 0.35;

/// One foot on the floor.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Plant {
    /// Under the ankle.
    pub place: DVec3,
    /// Direction of the toes, radians.
    pub heading: f64,
}

/// A foot on its way to where it is planted next.
#[derive(Clone, Copy, Debug)]
struct Footfall {
    lift_s: f64,
    land_s: f64,
    to: Plant,
}

/// Every step of a walk, left foot first.
#[derive(Clone, Debug)]
pub struct Steps {
    height_m: f64,
    start: [Plant; 2],
    falls: [Vec<Footfall>; 2],
}

/// Foot at a time.
#[derive(Clone, Copy, Debug)]
pub struct Foot {
    /// Place of the foot.
    pub at: Plant,
    /// Stands on the floor.
    pub planted: bool,
}

impl Steps {
    /// The steps that follow a path.
    pub fn along(path: &Path, height_m: f64) -> Steps {
        let beside = |time_s: f64, side: usize| plant(path, time_s, path.facing(time_s), side, height_m);
        let stops = path.stops();
        let first = stops[0].1.min(path.end_s()) - 1.0;
        let mut steps =
            Steps { height_m, start: [0, 1].map(|side| beside(first, side)), falls: Default::default() };
        for (i, &(from, to)) in stops.iter().enumerate() {
            steps.turn_on_the_spot(path, from.max(path.start_s() - 1.0), to.min(path.end_s() + 1.0));
            if let Some(&(arrives, _)) = stops.get(i + 1) {
                steps.walk(path, to, arrives);
            }
        }
        steps
    }

    fn walk(&mut self, path: &Path, leaves: f64, arrives: f64) {
        let (from, to) = (path.walked(leaves), path.walked(arrives));
        let way = to - from;
        if way < 1e-3 {
            return;
        }
        let pace = (way / (arrives - leaves) / WALK_M_S).sqrt().clamp(0.6, 2.0);
        let count = (way / (STEP * self.height_m * pace)).round().max(1.0);
        let step = way / count;
        // On a stair the foot left behind is soon out of the leg's reach.
        let slope = (path.position(arrives).y - path.position(leaves).y).abs() / way;
        let lifts = LIFTS - 0.25 * slope;
        for m in 1..=count as usize + 1 {
            let side = (m + 1) % 2;
            let n = m as f64;
            let land = (n * step).min(way);
            let begins = ((n - 2.0 + lifts) * step).clamp(0.0, way);
            let ends = ((n - LANDS) * step).clamp(0.0, way);
            let at = |metres: f64| path.time_of(from + metres).clamp(leaves, arrives);
            let (lift_s, land_s) = (at(begins), if m > count as usize { arrives } else { at(ends) });
            let there = if land >= way { arrives } else { at(land) };
            let facing = if land >= way { path.facing(arrives) } else { walking_direction(path, there) };
            let to = plant(path, there, facing, side, self.height_m);
            self.falls[side].push(Footfall { lift_s, land_s: land_s.max(lift_s + 1e-6), to });
        }
    }

    fn turn_on_the_spot(&mut self, path: &Path, from: f64, to: f64) {
        let mut time_s = from;
        while time_s + PIVOT_S <= to {
            let settles = path.facing(time_s + PIVOT_S);
            let off = [0, 1].map(|side| wrap(settles - self.last(side).heading).abs());
            let side = usize::from(off[1] > off[0]);
            // A body that stays turned gets both its feet under it in the end.
            let still = wrap(path.facing(time_s + 0.05) - path.facing(time_s)).abs() < 0.01;
            if off[side] > if still { 0.12 } else { PIVOT } {
                let to = plant(path, time_s, settles, side, self.height_m);
                self.falls[side].push(Footfall { lift_s: time_s, land_s: time_s + PIVOT_S, to });
                time_s += PIVOT_S;
            }
            time_s += 0.05;
        }
    }

    fn last(&self, side: usize) -> Plant {
        self.falls[side].last().map_or(self.start[side], |f| f.to)
    }

    /// When a foot comes down, in order; left and right in turn, as a rule.
    pub fn landings(&self) -> Vec<f64> {
        let mut all: Vec<f64> = self.falls.iter().flatten().map(|fall| fall.land_s).collect();
        all.sort_by(f64::total_cmp);
        all
    }

    /// The left (0) or right (1) foot at a time.
    pub fn foot(&self, side: usize, time_s: f64) -> Foot {
        let falls = &self.falls[side];
        let next = falls.partition_point(|f| f.lift_s <= time_s);
        let Some(i) = next.checked_sub(1) else { return Foot { at: self.start[side], planted: true } };
        let fall = &falls[i];
        if time_s >= fall.land_s {
            return Foot { at: fall.to, planted: true };
        }
        let from = if i == 0 { self.start[side] } else { falls[i - 1].to };
        let s = (time_s - fall.lift_s) / (fall.land_s - fall.lift_s);
        let share = minimum_jerk(s);
        let mut place = from.place.lerp(fall.to.place, share);
        // Up a stair the foot rises before it goes forward.
        let rise = (fall.to.place.y - from.place.y).max(0.0);
        place.y += (0.035 * self.height_m + rise * (1.0 - share)) * (PI * s).sin();
        let heading = from.heading + wrap(fall.to.heading - from.heading) * share;
        Foot { at: Plant { place, heading }, planted: false }
    }
}

/// A foot beside the path.
fn plant(path: &Path, time_s: f64, facing: f64, side: usize, height_m: f64) -> Plant {
    let out = (side as f64 * 2.0 - 1.0) * STANCE * height_m;
    Plant { place: path.position(time_s) + heading(facing) * DVec3::new(out, 0.0, 0.0), heading: facing }
}

fn walking_direction(path: &Path, time_s: f64) -> f64 {
    let v = path.position(time_s + 0.05) - path.position(time_s - 0.05);
    if v.x.hypot(v.z) > 1e-6 { v.x.atan2(-v.z) } else { path.facing(time_s) }
}

/// An angle between −π and π.
fn wrap(angle: f64) -> f64 {
    angle - TAU * (angle / TAU).round()
}
