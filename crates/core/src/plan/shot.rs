//! Plan of one move: the set, what is built, the camera's way, and everybody where they are when it begins and ends.

use super::{MarkShape, Place, PlanLabel, PlanMark, Role, above, fixed, movement, outline, pieces, standing};
use crate::DVec3;
use crate::evaluate::Frame;
use crate::lens::Camera;
use crate::playing::{MoverId, PerformanceTimeline};
use crate::rigs::Rig;
use crate::set::{Piece, Stage};
use crate::space::Pose;
use crate::time::Rate;

/// Distance of a performer's name from the performer, metres.
const NAME_M: f64 = 0.75;

/// Whatever the plan of a move is drawn from.
pub struct Shot<'a> {
    /// Stage around it.
    pub stage: &'a Stage,
    /// Pieces of the set.
    pub pieces: &'a [Piece],
    /// Performance that the move was shot in.
    pub playing: &'a PerformanceTimeline,
    /// Length of the performance, seconds.
    pub length_s: f64,
    /// Machine of the move.
    pub rig: &'a dyn Rig,
    /// Camera of the move.
    pub camera: &'a Camera,
    /// Frames of the move, at the rate of the scene.
    pub frames: &'a [Frame],
    /// Frames a second.
    pub rate: Rate,
}

impl Shot<'_> {
    /// Marks from the lowest to the topmost.
    pub fn marks(&self) -> Vec<PlanMark> {
        let moving = |piece: &Piece| self.playing.movers.iter().any(|m| m.of == MoverId::Piece(piece.id));
        let mut marks = Vec::new();
        let mut names = Vec::new();
        for plan in pieces(self.pieces).into_iter().filter(|plan| !plan.overhead) {
            let Some(piece) = self.pieces.iter().find(|piece| piece.id == plan.piece) else { continue };
            if moving(piece) {
                continue;
            }
            marks.extend(plan.marks);
            if plan.label == PlanLabel::Landmark {
                let [left, top, right, bottom] = plan.bounds;
                names.push(words(Role::Thing, [(left + right) / 2.0, (top + bottom) / 2.0], &piece.name));
            }
        }
        marks.append(&mut names);
        marks.extend(fixed(self.rig));
        self.people(&mut marks);
        if let (Some(first), Some(last)) = (self.frames.first(), self.frames.last()) {
            for frame in [first, last] {
                marks.push(movement::sight(frame.rig_pose.camera, self.camera, frame.lens));
                marks.push(standing(self.rig.bodies(), &frame.bodies));
            }
            let places: Vec<_> = self.frames.iter().map(|f| f.rig_pose.camera.position).collect();
            marks.push(movement::path(&places));
            let at = |time_s: f64| {
                let index = ((time_s - first.time_s) * self.rate.hz()).round();
                places[(index.max(0.0) as usize).min(places.len() - 1)]
            };
            marks.extend(movement::ticks(first.time_s, last.time_s, at));
        }
        marks.extend(movement::dimensions_of_stage(self.stage));
        marks
    }

    /// A piece that moves, at a pose.
    fn moved(&self, piece: &Piece, pose: Pose) -> PlanMark {
        let place = |[x, z]: Place| above(pose.position + pose.rotation * DVec3::new(x, 0.0, z));
        PlanMark::areas(Role::Thing, vec![outline(piece, self.pieces).into_iter().map(place).collect()])
    }

    /// Who and what moves: the way of each, and where each is when the move begins and when it ends.
    fn people(&self, marks: &mut Vec<PlanMark>) {
        let ends: Vec<f64> =
            [self.frames.first(), self.frames.last()].into_iter().flatten().map(|f| f.time_s).collect();
        let mut names = Vec::new();
        for (i, mover) in self.playing.movers.iter().enumerate() {
            marks.push(movement::walk(self.playing, i, self.length_s));
            for at_s in &ends {
                let at = self.playing.position(i, *at_s);
                match mover.of {
                    MoverId::Performer(_) => marks.push(movement::person(at)),
                    MoverId::Piece(id) => {
                        let piece = self.pieces.iter().find(|piece| piece.id == id);
                        let pose = self.playing.pose(mover.of, *at_s);
                        marks.extend(piece.zip(pose).map(|(piece, pose)| self.moved(piece, pose)));
                    }
                }
            }
            if let (Some(at_s), MoverId::Performer(_)) = (ends.first(), mover.of) {
                let at = self.playing.position(i, *at_s);
                names.push(words(Role::Person, [at.x, at.z - NAME_M], &mover.name));
            }
        }
        marks.extend(names);
    }
}

fn words(role: Role, at: Place, text: &str) -> PlanMark {
    PlanMark { role, shape: MarkShape::Words { at, text: text.into() } }
}
