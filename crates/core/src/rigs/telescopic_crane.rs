//! A telescopic crane: an arm on a column that swings, booms and reaches, with a remote head
//! hanging under its end.
//!
//! **Method.** Forward is a chain of frames: base → column → swing → boom → reach → head drop →
//! pan → tilt → roll. The inverse is closed: seen in the vertical plane through the column the
//! lens sits at a fixed drop from the arm's end, so distance and elevation from the pivot give
//! reach and boom. Out of reach, the nearest reachable point is found exactly: the reachable part
//! of that plane is bounded by two arcs and two straight edges, and the nearest of the four
//! nearest points is taken.
//!
//! **Limits.** The base stands upright on the floor, or travels on track: the inverse keeps it
//! where it is, the arm does what the arm can. On sloped track the column is levelled. With the
//! head leaning, the wanted orientation is met by pan, tilt and roll after the lean of the arm.
//!
//! Reach 2.13–7.62 m (7–25 ft): a common arm (common practice, no source). Speeds and
//! accelerations: what two grips push an arm of this size (common practice, no source).

use super::described::{
    BASE, Placement, TRACK, There, base, boom, column, degrees, head_drop, head_hang, head_heading, metres,
    rising,
};
use super::dolly_track::{DollyTrack, GAUGE_M};
use super::handles::{self, Handle};
use super::head::{HeadHang, HeadHeading, remote_head, settle, turned};
use super::parts::{beam, behind, camera_body, post, slab};
use super::{ANYWHERE, Reach, Rig, RigPose, Spec, axis, lens_axes, nearest_turn};
use crate::axis::{Axis, AxisGroup, Unit};
use crate::lens::Camera;
use crate::line::Line;
use crate::params::{Invalid, Param, Preset};
use crate::solid::{Body, Material, Solid};
use crate::space::{Pose, heading};
use glam::{DQuat, DVec2, DVec3};
use serde::{Deserialize, Serialize};
use std::ops::Range;
use ts_rs::TS;

/// The crane's parameters.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct TelescopicCrane {
    /// Place x of the base on the floor, metres.
    pub base_x_m: f64,
    /// Place z of the base on the floor, metres.
    pub base_z_m: f64,
    /// Direction of the arm at swing 0, degrees: 0 is −Z, positive to the right.
    pub heading_deg: f64,
    /// The arm's pivot over the floor.
    pub column_height_m: f64,
    /// Greatest swing to each side, degrees; none for all round.
    pub swing_limit_deg: Option<f64>,
    /// Lowest boom, degrees.
    pub boom_min_deg: f64,
    /// Highest boom, degrees.
    pub boom_max_deg: f64,
    /// Pivot to arm's end, drawn in.
    pub reach_min_m: f64,
    /// Pivot to arm's end, drawn out.
    pub reach_max_m: f64,
    /// The lens hangs this far under the arm's end.
    pub head_drop_m: f64,
    /// Level or leaning.
    pub head: HeadHang,
    /// With the arm, or not.
    pub head_heading: HeadHeading,
    /// Track under the base; none for a base on the floor.
    pub track: Option<DollyTrack>,
    /// A base on the floor can be pushed and turned: it is three axes of its own.
    pub free: bool,
}

/// Arms that are usual, with their shortest and longest reach, metres (common practice, no source).
const ARMS: [(&str, f64, f64); 3] =
    [("short, 1.5–4.2 m", 1.5, 4.2), ("middle, 2.13–7.62 m", 2.13, 7.62), ("long, 3.4–13.7 m", 3.4, 13.7)];

impl Default for TelescopicCrane {
    fn default() -> TelescopicCrane {
        TelescopicCrane {
            base_x_m: 0.0,
            base_z_m: 0.0,
            heading_deg: 0.0,
            column_height_m: 1.7,
            swing_limit_deg: None,
            boom_min_deg: -30.0,
            boom_max_deg: 55.0,
            reach_min_m: 2.13,
            reach_max_m: 7.62,
            head_drop_m: 0.55,
            head: HeadHang::Level,
            head_heading: HeadHeading::Arm,
            track: None,
            free: false,
        }
    }
}

impl Spec for TelescopicCrane {
    fn build(&self, camera: &Camera) -> Box<dyn Rig> {
        use AxisGroup::Machine;
        use Unit::{Metres, Radians};
        let around = self.swing_limit_deg.unwrap_or(f64::INFINITY);
        let boom = (self.boom_min_deg, self.boom_max_deg);
        let reach = (self.reach_min_m, self.reach_max_m);
        let start_boom = 12.0_f64.clamp(boom.0, boom.1);
        let start_reach = 4.2_f64.clamp(reach.0, reach.1);
        let line = self.track.as_ref().map(DollyTrack::line);
        let mut axes = vec![
            axis("swing", "swing", Machine, Radians, (-around, around), (30.0, 24.0), 0.0),
            axis("boom", "boom", Machine, Radians, boom, (18.0, 18.0), start_boom),
            axis("reach", "reach", Machine, Metres, reach, (1.0, 0.7), start_reach),
        ];
        if let Some(line) = &line {
            axes.push(axis("travel", "travel", Machine, Metres, (0.0, line.length()), (1.2, 0.5), 0.0));
        }
        if self.free && line.is_none() {
            let place = |name, ink, start| axis(name, ink, Machine, Metres, ANYWHERE, (1.0, 0.4), start);
            axes.push(place("base x", "travel", self.base_x_m));
            axes.push(place("base z", "reach", self.base_z_m));
            let turn = (20.0, 12.0);
            axes.push(axis("base turn", "swing", Machine, Radians, ANYWHERE, turn, self.heading_deg));
        }
        let head = axes.len();
        axes.extend(remote_head());
        axes.extend(lens_axes(camera));
        Box::new(Crane { spec: self.clone(), line, head, axes, bodies: self.bodies() })
    }

    fn word(&self) -> &'static str {
        "telescopic crane"
    }

    fn params(&self) -> Vec<Param> {
        let models =
            ARMS.map(|(word, min, max)| Preset::new(word, vec![("reach_min_m", min), ("reach_max_m", max)]));
        let side = degrees(
            "swing_limit_deg",
            "swing to each side",
            1.0,
            180.0,
            self.swing_limit_deg.unwrap_or(120.0),
        );
        let mut params = vec![
            Param::row(
                "reach from, to",
                vec![
                    metres("reach_min_m", "Shortest reach", 0.5, 40.0, self.reach_min_m),
                    metres("reach_max_m", "Longest reach", 0.5, 40.0, self.reach_max_m),
                ],
            )
            .presets(models.into()),
            head_hang(),
            head_heading(),
            side.absent("all round"),
        ];
        match &self.track {
            Some(track) => params.extend(track.params()),
            None => params.extend(base([self.base_x_m, self.base_z_m, self.heading_deg])),
        }
        params.extend([
            column(self.column_height_m),
            boom(["boom_min_deg", "boom_max_deg"], self.boom_min_deg, self.boom_max_deg),
            head_drop(self.head_drop_m),
        ]);
        params
    }

    fn check(&self) -> Result<(), Invalid> {
        rising("boom_max_deg", "the boom", self.boom_min_deg, self.boom_max_deg)?;
        rising("reach_max_m", "the reach", self.reach_min_m, self.reach_max_m)?;
        if self.free && self.track.is_some() {
            return Err(Invalid::at("free", "a base stands on track or is pushed over the floor, not both"));
        }
        self.track.as_ref().map_or(Ok(()), DollyTrack::check)
    }

    fn placement(&self) -> Option<Placement> {
        Some(if self.track.is_some() { TRACK } else { BASE })
    }

    fn put(&mut self, there: &There) {
        // The arm in the middle of what it usually reaches.
        [self.base_x_m, self.base_z_m, self.heading_deg] = there.standing(4.1);
    }
}

impl TelescopicCrane {
    fn tail_m(&self) -> f64 {
        0.55 * self.reach_min_m + 0.5
    }

    /// Length of the stage that does not move, and of each of the two that do.
    fn stages_m(&self) -> [f64; 3] {
        let out = (self.reach_max_m - self.reach_min_m) / 2.0 + 0.25;
        [self.reach_min_m - 0.1, out, out]
    }

    fn bodies(&self) -> Vec<Body> {
        use Material::{DarkSteel, Machine, MachineArm};
        let [fixed, second, third] = self.stages_m();
        let base = if self.track.is_some() { [GAUGE_M + 0.5, 0.22, 1.6] } else { [1.3, 0.22, 1.3] };
        vec![
            slab("base", base, DarkSteel),
            post("column", 0.16, self.column_height_m - 0.2, Machine),
            beam("arm stage 1", 0.26, fixed + self.tail_m(), MachineArm),
            beam("arm stage 2", 0.2, second, MachineArm),
            beam("arm stage 3", 0.15, third, MachineArm),
            slab("counterweight", [0.5, 0.5, 0.6], DarkSteel),
            slab("head", [0.12, self.head_drop_m.max(0.05), 0.12], Machine),
            camera_body(),
        ]
    }
}

struct Crane {
    spec: TelescopicCrane,
    line: Option<Line>,
    /// Index of the head's first axis.
    head: usize,
    axes: Vec<Axis>,
    bodies: Vec<Body>,
}

/// The frames of a crane, one carrying the next.
struct Chain {
    foot: Pose,
    /// At the pivot, swung.
    level: Pose,
    /// Swung and boomed.
    arm: Pose,
    /// At the arm's end, as the head hangs.
    hung: Pose,
}

impl Crane {
    /// The arm's pivot; `axes` are only asked for what moves the base.
    fn pivot(&self, axes: &[f64]) -> Pose {
        let s = &self.spec;
        let turn = s.heading_deg.to_radians();
        let Some(line) = &self.line else {
            if s.free {
                return Pose::new(DVec3::new(axes[3], s.column_height_m, axes[4]), heading(axes[5]));
            }
            return Pose::new(DVec3::new(s.base_x_m, s.column_height_m, s.base_z_m), heading(turn));
        };
        let place = line.at(axes[3]);
        let along = place.tangent.x.atan2(-place.tangent.z);
        Pose::new(place.position + DVec3::Y * s.column_height_m, heading(along + turn))
    }

    /// From the floor to what the head hangs on.
    fn chain(&self, axes: &[f64]) -> Chain {
        let &[swing, boom, reach, ..] = axes else { panic!("a crane has eight axes or nine") };
        let pivot = self.pivot(axes);
        let foot = pivot.shifted(0.0, -self.spec.column_height_m, 0.0);
        let level = pivot.turned(heading(swing));
        let arm = level.turned(DQuat::from_rotation_x(boom));
        let end = arm.shifted(0.0, 0.0, -reach);
        let hung = match self.spec.head {
            HeadHang::Level => Pose { position: end.position, rotation: level.rotation },
            HeadHang::Lean => end,
        };
        Chain { foot, level, arm, hung }
    }

    /// Rotation that the head's axes turn on.
    fn head_base(&self, hung: DQuat, boom: f64) -> DQuat {
        let s = &self.spec;
        s.head_heading.base(hung, s.head, boom, heading(s.heading_deg.to_radians()))
    }

    /// Lens position in the arm's vertical plane: x away from the column, y up.
    fn in_plane(&self, boom: f64, reach: f64) -> DVec2 {
        let drop = self.spec.head_drop_m;
        let along = DVec2::from_angle(boom) * reach;
        match self.spec.head {
            HeadHang::Level => along - DVec2::new(0.0, drop),
            HeadHang::Lean => along - DVec2::from_angle(boom).perp() * drop,
        }
    }

    /// The boom and reach that put the lens at a point of the plane, without regard to limits.
    fn boom_and_reach(&self, point: DVec2) -> (f64, f64) {
        let drop = self.spec.head_drop_m;
        match self.spec.head {
            HeadHang::Level => {
                let end = point + DVec2::new(0.0, drop);
                (end.y.atan2(end.x), end.length())
            }
            HeadHang::Lean => {
                let reach = (point.length_squared() - drop * drop).max(0.0).sqrt();
                (point.y.atan2(point.x) + drop.atan2(reach), reach)
            }
        }
    }

    /// The boom and reach within limits whose lens is nearest to a point of the plane.
    fn nearest_in_plane(&self, point: DVec2) -> (f64, f64) {
        let [_, boom, reach, ..] = &self.axes[..] else { unreachable!("a crane has these axes") };
        let (b, r) = self.boom_and_reach(point);
        if boom.allows(b) && reach.allows(r) {
            return (b, r);
        }
        // Arcs: the same direction at the shortest and longest reach. Leaning, the direction of
        // the lens and not of the arm is what must agree, so the boom follows the reach.
        let arcs = [reach.min, reach.max].map(|r| {
            let b = match self.spec.head {
                HeadHang::Level => b,
                HeadHang::Lean => point.y.atan2(point.x) + self.spec.head_drop_m.atan2(r),
            };
            (b.clamp(boom.min, boom.max), r)
        });
        // Edges: the boom at an end stop, the arm drawn to the foot of the perpendicular.
        let edges = [boom.min, boom.max].map(|b| {
            let start = self.in_plane(b, 0.0);
            (b, (point - start).dot(DVec2::from_angle(b)).clamp(reach.min, reach.max))
        });
        let away = |&(b, r): &(f64, f64)| self.in_plane(b, r).distance_squared(point);
        arcs.into_iter().chain(edges).min_by(|p, q| away(p).total_cmp(&away(q))).expect("four candidates")
    }
}

impl Rig for Crane {
    fn axes(&self) -> &[Axis] {
        &self.axes
    }

    fn bodies(&self) -> &[Body] {
        &self.bodies
    }

    fn fixed(&self) -> Vec<Solid> {
        match (&self.spec.track, &self.line) {
            (Some(track), Some(line)) => track.solids(line),
            _ => Vec::new(),
        }
    }

    fn line(&self) -> Option<&Line> {
        self.line.as_ref()
    }

    fn handles(&self) -> Vec<Handle> {
        match &self.line {
            None if self.spec.free => handles::base([3, 4], 5),
            line => handles::carriage(line.as_ref(), &self.axes).into_iter().collect(),
        }
    }

    fn operator_axes(&self) -> Range<usize> {
        3..self.head
    }

    fn forward(&self, axes: &[f64]) -> RigPose {
        let &[pan, tilt, roll, ..] = &axes[self.head..] else { panic!("a crane has a head") };
        let Chain { foot, hung, .. } = self.chain(axes);
        let place = hung.shifted(0.0, -self.spec.head_drop_m, 0.0).position;
        let camera = turned(Pose::new(place, self.head_base(hung.rotation, axes[1])), [pan, tilt, roll]);
        RigPose { camera, carriage: foot, focus_m: None }
    }

    fn body_poses(&self, axes: &[f64]) -> Vec<Pose> {
        let (s, reach) = (&self.spec, axes[2]);
        let Chain { foot, level, arm, hung } = self.chain(axes);
        let along = |middle: f64| arm.shifted(0.0, 0.0, -middle);
        let [fixed, second, third] = s.stages_m();
        let tail = s.tail_m();
        // The two inner stages share what is drawn out.
        let out = reach - s.reach_min_m;
        vec![
            foot.shifted(0.0, 0.11, 0.0),
            level.shifted(0.0, 0.1 - s.column_height_m / 2.0, 0.0),
            along((fixed - tail) / 2.0),
            along(fixed + out / 2.0 - second / 2.0),
            along(reach - third / 2.0),
            along(-tail + 0.1),
            hung.shifted(0.0, -s.head_drop_m / 2.0, 0.0),
            behind(self.forward(axes).camera),
        ]
    }

    fn inverse(&self, wanted: Pose, near: &[f64]) -> Reach {
        let pivot = self.pivot(near);
        let local = pivot.rotation.conjugate() * (wanted.position - pivot.position);
        let swing_axis = &self.axes[0];
        let away = local.x.hypot(local.z);
        let wanted_swing =
            if away > 1e-12 { nearest_turn(local.x.atan2(-local.z), near[0]) } else { near[0] };
        // A limited swing may be off by whole turns only by way of `near`; clamp to the nearer end.
        let swing = if swing_axis.allows(wanted_swing) {
            wanted_swing
        } else {
            nearest_turn(wanted_swing, 0.0).clamp(swing_axis.min, swing_axis.max)
        };
        let direction = DVec2::new(swing.sin(), -swing.cos());
        let point = DVec2::new(DVec2::new(local.x, local.z).dot(direction), local.y);
        let (boom, reach) = self.nearest_in_plane(point);

        let carried = match self.spec.head {
            HeadHang::Level => pivot.rotation * heading(swing),
            HeadHang::Lean => pivot.rotation * heading(swing) * DQuat::from_rotation_x(boom),
        };
        let machine = [&[swing, boom, reach], &near[3..self.head]].concat();
        let base = self.head_base(carried.normalize(), boom);
        settle(self, machine, base, wanted, near, "the arm leads elsewhere")
    }
}
