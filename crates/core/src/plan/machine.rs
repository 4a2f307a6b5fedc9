//! A machine on the plan: what is built for it and stays, and its parts where they are at an instant.

use super::{MarkShape, Place, PlanMark, Role, above};
use crate::line::ride_quality;
use crate::rigs::Rig;
use crate::set::footprint;
use crate::solid::{Body, Material, Solid};
use crate::space::Pose;

/// Step along the line of a carriage on the plan, metres.
const STEP_M: f64 = 0.1;
/// Radius of the circle around a place where the ride is felt, metres.
const ROUGH_M: f64 = 0.42;

/// What is built for a machine and never moves: timber, rails over it, the line of its carriage, and the places
/// where the ride is felt.
pub fn fixed(rig: &dyn Rig) -> Vec<PlanMark> {
    let (timber, rails): (Vec<Solid>, Vec<Solid>) =
        rig.fixed().into_iter().partition(|solid| solid.body.material == Material::Timber);
    let outlines = |solids: Vec<Solid>| solids.iter().map(footprint).filter(|o| o.len() > 2).collect();
    let mut marks =
        vec![PlanMark::areas(Role::Sleeper, outlines(timber)), PlanMark::areas(Role::Track, outlines(rails))];
    if let Some(line) = rig.line() {
        marks.push(PlanMark::lines(Role::Guide, vec![line.points(STEP_M).into_iter().map(above).collect()]));
        let (_, _, rough) = ride_quality(line);
        let places = rough.iter().map(|r| above(line.at(r.travel_m).position)).collect();
        marks.push(PlanMark { role: Role::Rough, shape: MarkShape::Spots { places, radius_m: ROUGH_M } });
    }
    marks.retain(|mark| !mark.shape.places().is_empty());
    marks
}

/// Parts of a machine where they are.
pub fn standing(bodies: &[Body], poses: &[Pose]) -> PlanMark {
    let outline = |(body, pose): (&Body, &Pose)| -> Vec<Place> {
        footprint(&Solid { body: body.clone(), pose: *pose })
    };
    PlanMark::areas(Role::Machine, bodies.iter().zip(poses).map(outline).filter(|o| o.len() > 2).collect())
}
