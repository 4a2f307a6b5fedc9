//! How much room a machine has: from its lens and its other parts to the nearest solid of the set or
//! the nearest person.
//!
//! Distances between shapes are parry's (after Gilbert, Johnson and Keerthi, 1988). Most pairs never
//! get there: a box around each says that they are farther apart than what was already found. The triangles of
//! a mesh stand in a tree of boxes, searched nearest first; one look measures at most [`MOST_TRIANGLES`].

use crate::ids::{MeshId, SetupId};
use crate::mesh::Mesh;
use crate::playing::{Carriages, MoverId, PerformanceTimeline};
use crate::rigs::Rig;
use crate::set::{Form, Piece};
use crate::solid::Shape;
use crate::space::Pose;
use glam::DVec3;
use parry3d_f64::math::{Pose as Place, Rot3, Vector};
use parry3d_f64::partitioning::BvhNode;
use parry3d_f64::query::{self, Ray};
use parry3d_f64::shape::{SharedShape, TriMesh};
use std::cell::Cell;
use std::collections::BTreeMap;
use std::fmt;
use std::sync::Arc;

/// Distance below which an obstacle is told as near, metres (*common practice, no source*: an arm's length).
pub const NEAR_M: f64 = 0.5;
/// Distance beyond which no obstacle is looked for, metres.
pub const FAR_M: f64 = 5.0;
/// Triangles that one look measures at most, about 1 µs each. A look that would need more tells the nearest
/// of those that it has measured.
pub const MOST_TRIANGLES: u32 = 20_000;
/// Height above the machine's foot up to which a solid counts as floor, platform or rail, metres.
const UNDERFOOT_M: f64 = 0.1;

/// Nearest part of a machine.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Nearest {
    /// The camera with its lens.
    Lens,
    /// Anything else of it.
    Machine,
}

/// Clearance of a machine.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Clearance {
    /// Metres between the surfaces; 0 is a hit.
    pub distance_m: f64,
    /// Nearest part of the machine.
    pub of: Nearest,
    /// Nearest obstacle.
    pub to: MoverId,
}

/// A shape around the origin, and a box that holds it.
#[derive(Clone)]
pub struct Hull {
    shape: SharedShape,
    half: DVec3,
    middle: DVec3,
    /// Shape of the hull; none for a mesh. The surface of a mesh has no inside: floor cannot be told from
    /// obstacle.
    of: Option<Shape>,
}

impl Hull {
    /// Hull of a single solid.
    pub fn of(shape: &Shape) -> Hull {
        let half = shape.half();
        let built = match *shape {
            Shape::Box { .. } => SharedShape::cuboid(half.x, half.y, half.z),
            Shape::Ball { radius } => SharedShape::ball(radius),
            Shape::Cylinder { radius, height } => SharedShape::cylinder(height / 2.0, radius),
            Shape::Wedge { .. } => {
                let corner = |x: f64, y: f64, z: f64| Vector::new(x * half.x, y * half.y, z * half.z);
                let corners = [-1.0, 1.0]
                    .map(|x| [corner(x, -1.0, 1.0), corner(x, -1.0, -1.0), corner(x, 1.0, -1.0)])
                    .concat();
                // A slope without any height is as good as a sheet.
                SharedShape::convex_hull(&corners)
                    .unwrap_or_else(|| SharedShape::cuboid(half.x, half.y, half.z))
            }
        };
        Hull { shape: built, half, middle: DVec3::ZERO, of: Some(*shape) }
    }

    /// Hull of a mesh asset at its own size; none for a mesh without a surface.
    pub fn of_mesh(mesh: &Mesh) -> Option<Hull> {
        let [low, high] = <[_; 2]>::from(mesh.bounds()).map(|p: [f32; 3]| DVec3::from(p.map(f64::from)));
        let places = mesh.places.iter().map(|p| Vector::from(p.map(f64::from))).collect();
        let surface = TriMesh::new(places, mesh.triangles.clone()).ok()?;
        let (half, middle) = ((high - low) / 2.0, (low + high) / 2.0);
        Some(Hull { shape: SharedShape::new(surface), half, middle, of: None })
    }

    /// The box around it at a pose and a scale.
    fn boxed(&self, pose: Pose, scale: f64) -> Boxed {
        let axes = [DVec3::X, DVec3::Y, DVec3::Z].map(|a| pose.rotation * a);
        let middle = pose.position + pose.rotation * (self.middle * scale);
        Boxed { middle, axes, half: self.half * scale, radius: self.half.length() * scale }
    }

    /// Metres to another that is `scale` times its size, if they are fewer than `within`; 0 where they touch
    /// or are in one another. `left` is how many triangles may still be measured.
    fn distance(&self, at: Pose, to: (&Hull, Pose, f64), within: f64, left: &Cell<u32>) -> Option<f64> {
        let (other, there, scale) = to;
        let place = |pose: Pose| {
            let rotation = Rot3::from_array(pose.rotation.to_array());
            Place::from_parts(Vector::from((pose.position / scale).to_array()), rotation)
        };
        // A surface of a million triangles keeps its size; what comes near it is made as much smaller.
        let smaller = self.of.filter(|_| scale != 1.0).map(|shape| Hull::of(&scaled(shape, 1.0 / scale)));
        let own = smaller.as_ref().unwrap_or(self);
        let found = match other.shape.as_trimesh() {
            None => query::distance(&place(at), &*own.shape, &place(there), &*other.shape).ok()?.distance,
            Some(mesh) => {
                let back = there.rotation.inverse();
                let seen = Pose::new(back * ((at.position - there.position) / scale), back * at.rotation);
                own.distance_to_mesh(seen, mesh, within / scale, left)?
            }
        };
        Some(found * scale).filter(|metres| *metres < within)
    }

    /// True if it is on the straight line from one place to another.
    fn is_between(&self, at: Pose, scale: f64, from: DVec3, to: DVec3) -> bool {
        let back = at.rotation.inverse();
        let [from, to] = [from, to].map(|p| back * ((p - at.position) / scale));
        let [origin, way] = [from, to - from].map(|v| Vector::from(v.to_array()));
        self.shape.intersects_local_ray(&Ray::new(origin, way), 1.0)
    }

    /// The distance to the nearest triangle of a mesh, in the mesh's own units, if it is under `within`.
    fn distance_to_mesh(&self, at: Pose, mesh: &TriMesh, within: f64, left: &Cell<u32>) -> Option<f64> {
        let boxed = self.boxed(at, 1.0);
        let rotation = Rot3::from_array(at.rotation.to_array());
        let place = Place::from_parts(Vector::from(at.position.to_array()), rotation);
        let at_least = |node: &BvhNode, _: f64| {
            let [low, high] = [node.mins(), node.maxs()].map(|v| DVec3::new(v.x, v.y, v.z));
            boxed.at_least(&Boxed::upright(low, high))
        };
        let measured = |triangle: u32, _: f64| {
            left.set(left.get().checked_sub(1)?);
            query::distance(&place, &*self.shape, &Place::IDENTITY, &mesh.triangle(triangle))
                .ok()
                .map(|d| d.distance)
        };
        mesh.bvh().find_best(within, at_least, measured).map(|(_, distance)| distance)
    }
}

fn scaled(shape: Shape, by: f64) -> Shape {
    match shape {
        Shape::Box { size } => Shape::Box { size: size.map(|v| v * by) },
        Shape::Wedge { size } => Shape::Wedge { size: size.map(|v| v * by) },
        Shape::Ball { radius } => Shape::Ball { radius: radius * by },
        Shape::Cylinder { radius, height } => Shape::Cylinder { radius: radius * by, height: height * by },
    }
}

/// A turned box, and how far its corners are from its middle.
#[derive(Clone, Copy)]
struct Boxed {
    middle: DVec3,
    axes: [DVec3; 3],
    half: DVec3,
    radius: f64,
}

impl Boxed {
    /// The box between two corners, along the world's axes.
    fn upright(low: DVec3, high: DVec3) -> Boxed {
        let half = (high - low) / 2.0;
        Boxed {
            middle: (low + high) / 2.0,
            axes: [DVec3::X, DVec3::Y, DVec3::Z],
            half,
            radius: half.length(),
        }
    }

    /// Half of its extent along a direction of length 1.
    fn along(&self, direction: DVec3) -> f64 {
        (0..3).map(|i| (self.axes[i].dot(direction) * self.half[i]).abs()).sum()
    }

    /// False if the ball around it does not touch the straight line from one place to another.
    fn may_be_on(&self, from: DVec3, to: DVec3) -> bool {
        let way = to - from;
        let share = (self.middle - from).dot(way) / way.length_squared().max(1e-12);
        let nearest = from + way * share.clamp(0.0, 1.0);
        nearest.distance_squared(self.middle) <= self.radius * self.radius
    }

    fn bottom(&self) -> f64 {
        self.middle.y - self.along(DVec3::Y)
    }

    fn top(&self) -> f64 {
        self.middle.y + self.along(DVec3::Y)
    }

    /// True if the balls around both are nearer than `metres`.
    fn may_be_within(&self, other: &Boxed, metres: f64) -> bool {
        let far = self.radius + other.radius + metres;
        self.middle.distance_squared(other.middle) < far * far
    }

    /// Metres that it is at least away from another: a gap that is seen along a face of either, or from
    /// middle to middle.
    fn at_least(&self, other: &Boxed) -> f64 {
        let between = other.middle - self.middle;
        let gap = |d: DVec3| between.dot(d).abs() - self.along(d) - other.along(d);
        let faces = self.axes.into_iter().chain(other.axes);
        faces.chain(between.try_normalize()).map(gap).fold(0.0, f64::max)
    }
}

/// The parts of a machine; the last is its camera.
pub struct MachineHulls {
    hulls: Vec<Hull>,
    /// Flags of the bodies that can run into something; a drawn mark, such as that of an aim, cannot.
    solid: Vec<bool>,
    /// Performer at the centre of an orbit: only the lens minds them.
    round: Option<MoverId>,
}

impl MachineHulls {
    /// Hulls of a machine.
    pub fn of(rig: &dyn Rig) -> MachineHulls {
        MachineHulls {
            hulls: rig.bodies().iter().map(|b| Hull::of(&b.shape)).collect(),
            solid: (0..rig.bodies().len()).map(|body| rig.is_solid(body)).collect(),
            round: rig.goes_round().map(MoverId::Performer),
        }
    }
}

/// Place of an obstacle.
enum At {
    /// It never moves: the box around it as well.
    Stands(Pose, Boxed),
    /// A part of one that moves.
    Part { mover: usize, part: usize },
    /// All of one that moves, around its foot.
    Foot { mover: usize },
}

/// One solid of the set, or of a person.
struct Obstacle {
    of: MoverId,
    hull: Arc<Hull>,
    /// Scale of a mesh; 1 for everything else.
    scale: f64,
    at: At,
    /// Setups for which it is taken out.
    wild: Arc<[SetupId]>,
    /// The setup whose machine carries it.
    on: Option<SetupId>,
}

impl Obstacle {
    /// True if the machine stands on the obstacle rather than beside it.
    fn is_under(&self, foot: f64, boxed: &Boxed) -> bool {
        matches!(self.of, MoverId::Piece(_)) && boxed.top() <= foot + UNDERFOOT_M
    }
}

/// Obstacles of a scene.
#[derive(Default)]
pub struct Obstacles {
    list: Vec<Obstacle>,
    playing: Arc<PerformanceTimeline>,
}

impl fmt::Debug for Obstacles {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{} obstacles", self.list.len())
    }
}

/// The surfaces of meshes, by their numbers; kept from one set to the next.
pub type MeshHulls = BTreeMap<MeshId, Arc<Hull>>;

/// Moment at which obstacles are asked.
#[derive(Clone, Copy, Default)]
pub struct Around<'a> {
    /// Time of the performance, seconds.
    pub time_s: f64,
    /// Performer who is driven now, and the poses of their parts.
    pub acting: Option<(MoverId, &'a [Pose])>,
    /// Carriages that are driven now and may carry a load.
    pub carriages: Option<&'a Carriages>,
    /// Carrier of the machine: only the lens minds it, as nothing minds its own load.
    pub carrier: Option<MoverId>,
    /// The setup of the machine: what is taken out for it is not there.
    pub setup: SetupId,
}

impl Obstacles {
    /// Everything of a set that stands or moves in a performance, and everybody in it. Tape on the floor
    /// is nothing to run into.
    pub fn of(pieces: &[Piece], playing: &Arc<PerformanceTimeline>, meshes: &MeshHulls) -> Obstacles {
        let mut list = Vec::new();
        for piece in pieces.iter().filter(|p| !p.hidden && !matches!(p.form, Form::Mark { .. })) {
            let of = MoverId::Piece(piece.id);
            let moves = playing.movers.iter().position(|m| m.of == of);
            let wild: Arc<[SetupId]> = piece.wild.clone().into();
            let mut stands = |hull: Arc<Hull>, scale: f64, pose: Pose| {
                let at = At::Stands(pose, hull.boxed(pose, scale));
                list.push(Obstacle { of, hull, scale, at, wild: wild.clone(), on: None });
            };
            if moves.is_none() {
                for solid in piece.solids(pieces) {
                    stands(Arc::new(Hull::of(&solid.body.shape)), 1.0, solid.pose);
                }
            }
            if let Form::Mesh { mesh, scale, .. } = piece.form
                && let Some(hull) = meshes.get(&mesh)
            {
                match moves {
                    None => stands(hull.clone(), scale, piece.pose()),
                    Some(mover) => {
                        let at = At::Foot { mover };
                        let on = playing.movers[mover].machine.map(|m| m.setup);
                        list.push(Obstacle { of, hull: hull.clone(), scale, at, wild, on });
                    }
                }
            }
        }
        for (mover, m) in playing.movers.iter().enumerate() {
            let piece = pieces.iter().find(|p| m.of == MoverId::Piece(p.id));
            let wild: Arc<[SetupId]> = piece.map(|p| p.wild.clone()).unwrap_or_default().into();
            list.extend(m.bodies.iter().enumerate().map(|(part, body)| Obstacle {
                of: m.of,
                hull: Arc::new(Hull::of(&body.shape)),
                scale: 1.0,
                at: At::Part { mover, part },
                wild: wild.clone(),
                on: m.machine.map(|m| m.setup),
            }));
        }
        Obstacles { list, playing: playing.clone() }
    }

    /// Timeline of the performance among the obstacles.
    pub fn playing(&self) -> &PerformanceTimeline {
        &self.playing
    }

    /// The room that a machine has whose parts are at `poses`; none where nothing is within [`FAR_M`].
    pub fn clearance(&self, machine: &MachineHulls, poses: &[Pose], around: &Around) -> Option<Clearance> {
        let last = machine.hulls.len().checked_sub(1)?;
        let solid = (0..=last).filter(|i| machine.solid[*i]);
        let parts: Vec<(usize, Boxed)> = solid.map(|i| (i, machine.hulls[i].boxed(poses[i], 1.0))).collect();
        // A camera without a machine stands on nothing.
        let carrying = parts.iter().filter(|(i, _)| *i != last);
        let foot = carrying.map(|(_, b)| b.bottom()).reduce(f64::min).unwrap_or(f64::NEG_INFINITY);

        let moving = self.moving(around);
        let there: Vec<(&Obstacle, Pose, Boxed)> = self
            .list
            .iter()
            .filter(|o| !o.wild.contains(&around.setup))
            .filter_map(|o| moving.at(o).map(|(pose, boxed)| (o, pose, boxed)))
            .filter(|(o, _, boxed)| !o.is_under(foot, boxed))
            .collect();
        let mut found: Option<Clearance> = None;
        let left = Cell::new(MOST_TRIANGLES);
        // The lens first: it is small, and what it finds leaves little to look at for long arms.
        for (i, part) in parts.iter().rev() {
            for (obstacle, pose, boxed) in &there {
                let nearest = found.map_or(FAR_M, |f| f.distance_m);
                if !part.may_be_within(boxed, nearest) || part.at_least(boxed) >= nearest {
                    continue;
                }
                // Of a mesh that is floor and walls at once, what stands on it tells nothing.
                let stands = obstacle.hull.of.is_none() && part.bottom() <= foot + UNDERFOOT_M;
                let of = Some(obstacle.of);
                let carries =
                    around.carrier == of || machine.round == of || obstacle.on == Some(around.setup);
                if *i != last && (stands || carries) {
                    continue;
                }
                let to = (&*obstacle.hull, *pose, obstacle.scale);
                if let Some(distance_m) = machine.hulls[*i].distance(poses[*i], to, nearest, &left) {
                    let of = if *i == last { Nearest::Lens } else { Nearest::Machine };
                    found = Some(Clearance { distance_m, of, to: obstacle.of });
                }
            }
        }
        found
    }

    /// Who or what stands between a lens and every one of some places of somebody; none where one of the places
    /// is seen. Who is looked at does not cover themselves.
    pub fn covers(&self, lens: DVec3, of: MoverId, places: [DVec3; 2], around: &Around) -> Option<MoverId> {
        let nowhere = Carriages::new();
        let now = around.carriages.unwrap_or(&nowhere);
        let mut poses: BTreeMap<usize, Vec<Pose>> = BTreeMap::new();
        let mut first = |place: DVec3| {
            self.list.iter().filter(|o| o.of != of && !o.wild.contains(&around.setup)).find(|o| {
                let pose = match o.at {
                    At::Stands(pose, boxed) => {
                        if !boxed.may_be_on(lens, place) {
                            return false;
                        }
                        pose
                    }
                    At::Foot { mover } => self.playing.pose_on(mover, around.time_s, now),
                    At::Part { mover, part } => {
                        let acting = around.acting.filter(|(of, _)| *of == self.playing.movers[mover].of);
                        let all = poses.entry(mover).or_insert_with(|| match acting {
                            Some((_, poses)) => poses.to_vec(),
                            None => self.playing.poses_on(mover, around.time_s, now),
                        });
                        let Some(pose) = all.get(part) else { return false };
                        *pose
                    }
                };
                o.hull.boxed(pose, o.scale).may_be_on(lens, place)
                    && o.hull.is_between(pose, o.scale, lens, place)
            })
        };
        let found = first(places[0])?.of;
        first(places[1]).map(|_| found)
    }

    /// Poses of everything that moves.
    fn moving(&self, around: &Around) -> Moving {
        let nowhere = Carriages::new();
        let now = around.carriages.unwrap_or(&nowhere);
        let poses = self.playing.movers.iter().enumerate().map(|(i, mover)| match around.acting {
            Some((of, poses)) if of == mover.of => poses.to_vec(),
            _ => self.playing.poses_on(i, around.time_s, now),
        });
        let feet = (0..self.playing.movers.len()).map(|i| self.playing.pose_on(i, around.time_s, now));
        Moving { poses: poses.collect(), feet: feet.collect() }
    }
}

/// Poses of everything that moves, at one moment.
struct Moving {
    poses: Vec<Vec<Pose>>,
    feet: Vec<Pose>,
}

impl Moving {
    /// Pose of an obstacle, and the box around it.
    fn at(&self, obstacle: &Obstacle) -> Option<(Pose, Boxed)> {
        let pose = match obstacle.at {
            At::Stands(pose, boxed) => return Some((pose, boxed)),
            At::Part { mover, part } => *self.poses[mover].get(part)?,
            At::Foot { mover } => self.feet[mover],
        };
        Some((pose, obstacle.hull.boxed(pose, obstacle.scale)))
    }
}
