// Generated from the server's types by crates/server/tests/routes/types.rs. Do not edit.

export type SceneId = number & { readonly of?: "scene" };

export type PieceId = number & { readonly of?: "piece" };

export type GroupId = number & { readonly of?: "group" };

export type PerformerId = number & { readonly of?: "performer" };

export type PerformanceId = number & { readonly of?: "performance" };

export type SetupId = number & { readonly of?: "setup" };

export type TakeId = number & { readonly of?: "take" };

export type MoveId = number & { readonly of?: "move" };

export type MeshId = number & { readonly of?: "mesh" };

export type ImageId = number & { readonly of?: "image" };

export type ClipId = number & { readonly of?: "clip" };

export type ThingKind = "scene" | "piece" | "group" | "performer" | "performance" | "setup" | "take" | "move" | "mesh" | "image" | "clip";

export type Rate = { 
/**
 * Frames in `den` seconds.
 */
num: number, 
/**
 * Seconds in which `num` frames pass.
 */
den: number, };

export type Camera = { 
/**
 * Sensor width; 24.89 mm is 35 mm full aperture.
 */
sensor_width_mm: number, 
/**
 * Sensor height, millimetres.
 */
sensor_height_mm: number, 
/**
 * Squeeze of an anamorphic lens: horizontal field over that of a spherical lens; 1 is spherical.
 */
squeeze: number, 
/**
 * Width over height of the frame that is cut from the sensor, unsqueezed.
 */
frame_aspect: number, 
/**
 * The set the lens is of, by name; empty for one of its own.
 */
lens_set: string, 
/**
 * The shorter end of the zoom; a prime has both ends the same.
 */
focal_min_mm: number, 
/**
 * The longer end of the zoom.
 */
focal_max_mm: number, 
/**
 * The zoom's top speed, millimetres a second.
 */
zoom_mm_s: number, 
/**
 * Focal length at the start, millimetres.
 */
focal_mm: number, 
/**
 * The closest distance that can be sharp.
 */
closest_focus_m: number, 
/**
 * Focus distance at the start, metres.
 */
focus_m: number, 
/**
 * The widest the iris opens.
 */
widest_stop: number, 
/**
 * The stop that the iris stands at when the camera is set up.
 */
f_stop: number, };

export type Lens = { 
/**
 * The shorter end; a prime has both the same.
 */
focal_min_mm: number, 
/**
 * Longer end, millimetres.
 */
focal_max_mm: number, 
/**
 * The zoom's top speed, millimetres a second.
 */
zoom_mm_s: number, 
/**
 * From the sensor.
 */
closest_focus_m: number, 
/**
 * The widest the iris opens.
 */
widest_stop: number, 
/**
 * Squeeze; 1 is spherical.
 */
squeeze: number, };

export type LensSet = { 
/**
 * Name of the lens set.
 */
name: string, 
/**
 * From short to long.
 */
lenses: Array<Lens>, };

export type HeadHang = "level" | "lean";

export type HeadHeading = "arm" | "held";

export type TelescopicCrane = { 
/**
 * Place x of the base on the floor, metres.
 */
base_x_m: number, 
/**
 * Place z of the base on the floor, metres.
 */
base_z_m: number, 
/**
 * Direction of the arm at swing 0, degrees: 0 is −Z, positive to the right.
 */
heading_deg: number, 
/**
 * The arm's pivot over the floor.
 */
column_height_m: number, 
/**
 * Greatest swing to each side, degrees; none for all round.
 */
swing_limit_deg: number | null, 
/**
 * Lowest boom, degrees.
 */
boom_min_deg: number, 
/**
 * Highest boom, degrees.
 */
boom_max_deg: number, 
/**
 * Pivot to arm's end, drawn in.
 */
reach_min_m: number, 
/**
 * Pivot to arm's end, drawn out.
 */
reach_max_m: number, 
/**
 * The lens hangs this far under the arm's end.
 */
head_drop_m: number, 
/**
 * Level or leaning.
 */
head: HeadHang, 
/**
 * With the arm, or not.
 */
head_heading: HeadHeading, 
/**
 * Track under the base; none for a base on the floor.
 */
track: DollyTrack | null, 
/**
 * A base on the floor can be pushed and turned: it is three axes of its own.
 */
free: boolean, };

export type FreeCamera = { 
/**
 * Start position.
 */
start_m: [number, number, number], 
/**
 * Pan at the start, degrees.
 */
start_pan_deg: number, 
/**
 * Tilt at the start, degrees.
 */
start_tilt_deg: number, 
/**
 * Roll at the start, degrees.
 */
start_roll_deg: number, 
/**
 * Flies where it looks, up and down too, and not level.
 */
along_view: boolean, 
/**
 * Stays over the floor.
 */
floor: boolean, 
/**
 * Stops before walls and what stands on the set.
 */
walls: boolean, 
/**
 * Speed at full rate, m/s.
 */
top_m_s: number, };

export type SquareToCard = { 
/**
 * Id of the card's piece.
 */
card: PieceId, 
/**
 * Middle of its foot.
 */
position: [number, number, number], 
/**
 * Turn to the right, degrees.
 */
turn_deg: number, 
/**
 * Its width and height.
 */
size: [number, number], };

export type RailPoint = { 
/**
 * Metres.
 */
position: [number, number, number], 
/**
 * Which way the rail runs there and how far that carries, metres of tangent for a metre of
 * chord; found by itself where missing.
 */
tangent: [number, number, number] | null, };

export type TrackPiece = { "piece": "straight", 
/**
 * Along the floor.
 */
length_m: number, 
/**
 * Rise over the piece, metres.
 */
rise_m: number, } | { "piece": "curve", 
/**
 * Radius of the middle between the rails, metres.
 */
radius_m: number, 
/**
 * Turn over the piece, degrees.
 */
turn_deg: number, 
/**
 * Rise over the piece, metres.
 */
rise_m: number, };

export type DollyTrack = { 
/**
 * Place x of the beginning, metres.
 */
x_m: number, 
/**
 * Place z of the beginning, metres.
 */
z_m: number, 
/**
 * Top of the rails there, over the floor.
 */
height_m: number, 
/**
 * Heading of the beginning, degrees: 0 is −Z, positive to the right.
 */
heading_deg: number, 
/**
 * Piece after piece.
 */
pieces: Array<{ id: number } & TrackPiece>, };

export type BoomArm = { 
/**
 * Pivot over the carriage's foot.
 */
pivot_m: number, 
/**
 * Length from pivot to head, metres.
 */
length_m: number, 
/**
 * Lens over the arm's end.
 */
head_m: number, 
/**
 * Lowest boom, degrees.
 */
boom_min_deg: number, 
/**
 * Highest boom, degrees.
 */
boom_max_deg: number, };

export type Tripod = { 
/**
 * Place x on the floor, metres.
 */
base_x_m: number, 
/**
 * Place z on the floor, metres.
 */
base_z_m: number, 
/**
 * Direction of the camera at pan 0, degrees: 0 is −Z, positive to the right.
 */
heading_deg: number, 
/**
 * Lens over the floor, column down.
 */
height_min_m: number, 
/**
 * Lens over the floor, column up.
 */
height_max_m: number, };

export type TrackDolly = { 
/**
 * What it runs on.
 */
track: DollyTrack, 
/**
 * The arm points this far to the right of where the track goes.
 */
arm_heading_deg: number, 
/**
 * What lifts the head.
 */
arm: BoomArm, };

export type Steering = "rear" | "crab" | "round";

export type FreeDolly = { 
/**
 * Place x at the start, metres.
 */
base_x_m: number, 
/**
 * Place z at the start, metres.
 */
base_z_m: number, 
/**
 * Heading at the start, degrees: 0 is −Z, positive to the right.
 */
heading_deg: number, 
/**
 * Axle that steers.
 */
steering: Steering, 
/**
 * Front axle to rear axle.
 */
wheelbase_m: number, 
/**
 * Arm that lifts the head.
 */
arm: BoomArm, };

export type Facing = "along" | "holds" | "aims";

export type BentRail = { 
/**
 * Points that the rail is bent through.
 */
points: Array<{ id: number } & RailPoint>, 
/**
 * True if the rail is a ring.
 */
closed: boolean, 
/**
 * Direction of the head.
 */
facing: Facing, 
/**
 * For a head that holds: 0 is −Z, positive to the right.
 */
heading_deg: number, 
/**
 * For a head that aims: at what, unless somebody is followed.
 */
aim_m: [number, number, number], 
/**
 * For a head that aims: at whose eyes.
 */
follows: PerformerId | null, 
/**
 * For a head that aims at somebody: how far beside their eyes it begins to, along the world's axes.
 */
offset_m: [number, number, number], 
/**
 * Lens over the rail.
 */
lens_m: number, };

export type Jib = { 
/**
 * Place x of the base on the floor, metres.
 */
base_x_m: number, 
/**
 * Place z of the base on the floor, metres.
 */
base_z_m: number, 
/**
 * Direction of the arm at swing 0, degrees: 0 is −Z, positive to the right.
 */
heading_deg: number, 
/**
 * The arm's pivot over the floor.
 */
column_height_m: number, 
/**
 * Pivot to the arm's end.
 */
arm_m: number, 
/**
 * Lowest boom, degrees.
 */
boom_min_deg: number, 
/**
 * Highest boom, degrees.
 */
boom_max_deg: number, 
/**
 * The lens hangs this far under the arm's end.
 */
head_drop_m: number, 
/**
 * Level or leaning.
 */
head: HeadHang, 
/**
 * With the arm, or not.
 */
head_heading: HeadHeading, };

export type OrbitArm = { 
/**
 * Place of the pivot at the start, metres; from the followed performer's eyes if there is one.
 */
pivot_m: [number, number, number], 
/**
 * Direction of the camera from the pivot at swing 0, degrees: 0 is −Z, positive to the right.
 */
heading_deg: number, 
/**
 * Shortest radius.
 */
radius_min_m: number, 
/**
 * Longest radius.
 */
radius_max_m: number, 
/**
 * Id of the performer whom the pivot follows; none for nobody.
 */
follows: PerformerId | null, };

export type Shoulder = { 
/**
 * Place x of the operator at the start, metres.
 */
base_x_m: number, 
/**
 * Place z of the operator at the start, metres.
 */
base_z_m: number, 
/**
 * Heading of the operator at the start, degrees: 0 is −Z, positive to the right.
 */
heading_deg: number, 
/**
 * Lens over the floor, standing upright.
 */
stands_m: number, 
/**
 * From nothing (0) to a full gimbal (1).
 */
stabiliser: number, };

export type AimRig = { 
/**
 * Place x of the root at the start, metres.
 */
base_x_m: number, 
/**
 * Place z of the root at the start, metres.
 */
base_z_m: number, 
/**
 * Heading of the root, degrees: 0 is −Z, positive to the right.
 */
heading_deg: number, 
/**
 * Place of the camera at the start, from the root, metres.
 */
camera_m: [number, number, number], 
/**
 * Place of the aim point at the start, from the root or from the followed performer's eyes, metres.
 */
aim_m: [number, number, number], 
/**
 * Share of the turn to the aim point: 0 not at all, 1 all the way.
 */
strength: number, 
/**
 * Focus stays on the aim point.
 */
focus_follows: boolean, 
/**
 * Id of the performer whom the aim point follows; none for nobody.
 */
follows: PerformerId | null, };

export type TrackedCamera = { 
/**
 * Place of the camera before a device moves it, metres.
 */
start_m: [number, number, number], 
/**
 * Pan at the start, degrees.
 */
start_pan_deg: number, 
/**
 * At full speed, by device or by hand.
 */
top_m_s: number, };

export type RigSpec = { "kind": "tripod" } & Tripod | { "kind": "track_dolly" } & TrackDolly | { "kind": "free_dolly" } & FreeDolly | { "kind": "rail" } & BentRail | { "kind": "jib" } & Jib | { "kind": "telescopic_crane" } & TelescopicCrane | { "kind": "orbit_arm" } & OrbitArm | { "kind": "shoulder" } & Shoulder | { "kind": "free_camera" } & FreeCamera | { "kind": "aim_rig" } & AimRig | { "kind": "square_to_card" } & SquareToCard | { "kind": "tracked_camera" } & TrackedCamera;

export type Carrier = { "by": "piece", 
/**
 * Id of the piece in the scene.
 */
id: PieceId, } | { "by": "performer", 
/**
 * Id of the performer in the scene.
 */
id: PerformerId, } | { "by": "setup", 
/**
 * Id of the setup in the scene.
 */
id: SetupId, 
/**
 * One of its moves.
 */
move: MoveId | null, };

export type Rigging = { 
/**
 * Carrier of the machine; none for the floor.
 */
carried?: Carrier, } & ({ "kind": "tripod" } & Tripod | { "kind": "track_dolly" } & TrackDolly | { "kind": "free_dolly" } & FreeDolly | { "kind": "rail" } & BentRail | { "kind": "jib" } & Jib | { "kind": "telescopic_crane" } & TelescopicCrane | { "kind": "orbit_arm" } & OrbitArm | { "kind": "shoulder" } & Shoulder | { "kind": "free_camera" } & FreeCamera | { "kind": "aim_rig" } & AimRig | { "kind": "square_to_card" } & SquareToCard | { "kind": "tracked_camera" } & TrackedCamera);

export type Position = { 
/**
 * Number of the position.
 */
number: number, 
/**
 * Axes by name, in shown units.
 */
axes: { [key in string]: number }, };

export type Shaping = { 
/**
 * What is taken for rest, 0 to 0.9 of full.
 */
dead_zone: number, 
/**
 * 1 is straight; above, the middle becomes finer: the power that is taken, 0.3 to 4.
 */
curve: number, 
/**
 * The other way round.
 */
inverted: boolean, 
/**
 * Share of the axis' top speed at full, 0.01 to 1.
 */
speed: number, 
/**
 * Scales the fluid drag of this axis, 0 to 4.
 */
drag: number, };

export type Stretch = { 
/**
 * First instant, seconds.
 */
from_s: number, 
/**
 * Last instant, seconds.
 */
to_s: number, 
/**
 * The frame on the screen when it begins.
 */
from_frame: number, 
/**
 * The first frame at its end or after it.
 */
to_frame: number, 
/**
 * The largest amount in it.
 */
most: number, };

export type Warning = { 
/**
 * Sentence with the amount.
 */
what: string, 
/**
 * Stretch of time.
 */
when: Stretch, };

export type Material = "concrete" | "plaster" | "brick" | "steel" | "dark_steel" | "rail_steel" | "timber" | "glass" | "lit_glass" | "lamp_glow" | "tram_red" | "tram_cream" | "signal" | "cloth" | "uniform" | "skin" | "machine" | "machine_arm" | "camera_body" | "tape_red" | "tape_yellow" | "tape_blue" | "tape_green" | "tape_orange" | "tape_white" | "card";

export type Shape = { "shape": "box", 
/**
 * Whole lengths along x, y and z.
 */
size: [number, number, number], } | { "shape": "cylinder", 
/**
 * Radius of the cylinder, metres.
 */
radius: number, 
/**
 * Height of the cylinder, metres.
 */
height: number, } | { "shape": "wedge", 
/**
 * Whole lengths along x, y and z.
 */
size: [number, number, number], } | { "shape": "ball", 
/**
 * Radius of the ball, metres.
 */
radius: number, };

export type Body = { 
/**
 * For people and files: "arm stage 2".
 */
name: string, 
/**
 * Material of the body.
 */
material: Material, } & ({ "shape": "box", 
/**
 * Whole lengths along x, y and z.
 */
size: [number, number, number], } | { "shape": "cylinder", 
/**
 * Radius of the cylinder, metres.
 */
radius: number, 
/**
 * Height of the cylinder, metres.
 */
height: number, } | { "shape": "wedge", 
/**
 * Whole lengths along x, y and z.
 */
size: [number, number, number], } | { "shape": "ball", 
/**
 * Radius of the ball, metres.
 */
radius: number, });

export type Stage = { 
/**
 * Width along x, metres.
 */
width_m: number, 
/**
 * Depth along z, metres.
 */
depth_m: number, 
/**
 * Clear height, metres.
 */
height_m: number, };

export type Tape = "red" | "yellow" | "blue" | "green" | "orange" | "white";

export type Sequence = { 
/**
 * In order; the first is seen before it begins, and the last stays.
 */
images: Array<ImageId>, 
/**
 * Images a second.
 */
rate: number, 
/**
 * Scene time at which the first begins.
 */
start_s: number, };

export type Form = { "kind": "block", 
/**
 * Size along x, y and z, metres.
 */
size: [number, number, number], 
/**
 * Material of the whole piece.
 */
material: Material, } | { "kind": "round", 
/**
 * Radius, metres.
 */
radius: number, 
/**
 * Height, metres.
 */
height: number, 
/**
 * Material of the whole piece.
 */
material: Material, } | { "kind": "wall", 
/**
 * Length, height, thickness.
 */
size: [number, number, number], 
/**
 * Material of the whole piece.
 */
material: Material, } | { "kind": "opening", 
/**
 * Width along the wall, metres.
 */
width: number, 
/**
 * From its foot up.
 */
height: number, } | { "kind": "door", 
/**
 * Width with the frame, metres.
 */
width: number, 
/**
 * Height with the frame, metres.
 */
height: number, 
/**
 * Angle of the open leaf, degrees; 0 is closed.
 */
open_deg: number, } | { "kind": "window", 
/**
 * Width with the frame, metres.
 */
width: number, 
/**
 * Height with the frame, metres.
 */
height: number, 
/**
 * Light behind it.
 */
lit: boolean, } | { "kind": "stair", 
/**
 * Number of steps.
 */
steps: number, 
/**
 * Height of a step, metres.
 */
rise: number, 
/**
 * Depth of a step, metres.
 */
run: number, 
/**
 * Width of the stair, metres.
 */
width: number, } | { "kind": "platform", 
/**
 * Along x, top over the foot, along z.
 */
size: [number, number, number], } | { "kind": "ramp", 
/**
 * Across, rise, along.
 */
size: [number, number, number], } | { "kind": "pillars", 
/**
 * Number of pillars.
 */
count: number, 
/**
 * From middle to middle.
 */
spacing: number, 
/**
 * Width and depth of a pillar, metres.
 */
width: number, 
/**
 * Height of a pillar, metres.
 */
height: number, 
/**
 * A painted guard round each foot.
 */
base: boolean, } | { "kind": "gallery", 
/**
 * Along x, top over the foot, along z.
 */
size: [number, number, number], } | { "kind": "rails", 
/**
 * Length along x, metres.
 */
length: number, 
/**
 * Between the rails.
 */
gauge: number, } | { "kind": "tram", 
/**
 * Length along x, metres.
 */
length: number, 
/**
 * Number of window bays.
 */
bays: number, 
/**
 * Lights on inside.
 */
lit: boolean, } | { "kind": "vehicle", 
/**
 * Length, height, width.
 */
size: [number, number, number], } | { "kind": "workbench", 
/**
 * Length along x, metres.
 */
length: number, } | { "kind": "table", 
/**
 * Along x, height, along z.
 */
size: [number, number, number], } | { "kind": "chair" } | { "kind": "lamp", 
/**
 * Length of its cord.
 */
cord: number, } | { "kind": "mark", 
/**
 * Number of the mark, as called out on set.
 */
number: number, 
/**
 * Tape colour, which says whose mark it is.
 */
tape: Tape, } | { "kind": "card", 
/**
 * Id of the image asset.
 */
image: ImageId, 
/**
 * Width along x, metres.
 */
width: number, 
/**
 * From its foot up.
 */
height: number, 
/**
 * The setup it always turns to, about the vertical.
 */
toward: SetupId | null, 
/**
 * Images that follow one another on it, instead of the one.
 */
sequence?: Sequence, } | { "kind": "mesh", 
/**
 * Id of the mesh asset.
 */
mesh: MeshId, 
/**
 * Whole size at scale 1.
 */
size: [number, number, number], 
/**
 * Its footprint at scale 1.
 */
outline: Array<[number, number]>, 
/**
 * Scale of the mesh over its file, above 0.
 */
scale: number, };

export type PieceRoute = { 
/**
 * Id of the performance.
 */
performance: PerformanceId, 
/**
 * From place to place; facings are turns of the piece.
 */
route: Route, };

export type Piece = { 
/**
 * Its id; a new one is given its own.
 */
id: PieceId, 
/**
 * Name on the plan.
 */
name: string, 
/**
 * Form with its dimensions.
 */
form: Form, 
/**
 * Place of the foot, metres.
 */
position: [number, number, number], 
/**
 * Turn to the right seen from above, degrees.
 */
turn_deg: number, 
/**
 * Pieces with the same number are picked and moved together; 0 is none.
 */
group: GroupId, 
/**
 * Cannot be picked on the plan.
 */
locked: boolean, 
/**
 * Is not there: neither drawn nor filmed.
 */
hidden: boolean, 
/**
 * The setups for which it is taken out: a wild wall.
 */
wild?: Array<SetupId>, 
/**
 * Routes in performances; a piece without a route stands still.
 */
routes?: Array<PieceRoute>, 
/**
 * The machine whose carriage it goes along with, from where it is while that is at its start.
 */
rides?: Carrier, };

export type Light = { 
/**
 * Place of the light source, metres.
 */
position: [number, number, number], 
/**
 * Metres at which it has fallen to a quarter.
 */
reach_m: number, 
/**
 * 1 for a hall lamp.
 */
strength: number, };

export type Posture = "stand" | "sit";

export type Waypoint = { 
/**
 * Arrives: seconds of scene time.
 */
time_s: number, 
/**
 * Stays for so long.
 */
stop_s: number, 
/**
 * Point under the feet, metres.
 */
position: [number, number, number], 
/**
 * Facing at a stop, degrees: 0 is −Z, positive to the right. Without it, the direction of the way in.
 */
facing_deg?: number | null, 
/**
 * Posture while the performer stays.
 */
posture: Posture, 
/**
 * A word for the time strip.
 */
mark?: string | null, };

export type Route = { 
/**
 * Waypoints, at least one.
 */
waypoints: Array<{ id: number } & Waypoint>, };

export type PartMotion = { "motion": "walks", 
/**
 * Path on foot.
 */
route: Route, } | { "motion": "captured", 
/**
 * Id of the clip asset.
 */
clip: ClipId, 
/**
 * Scene time at which it begins.
 */
start_s: number, 
/**
 * Stretch of the clip that plays: from, to, seconds.
 */
trim_s: [number, number], 
/**
 * Place at which the motion begins, metres.
 */
position: [number, number, number], 
/**
 * Turn to the right, degrees.
 */
turn_deg: number, };

export type Part = { 
/**
 * Id of the performance.
 */
performance: PerformanceId, 
/**
 * The piece or the machine it happens on, which carries it along. On a piece, places are around its
 * foot; on a machine, where they are on the set while it is at its start.
 */
rides: Carrier | null, } & ({ "motion": "walks", 
/**
 * Path on foot.
 */
route: Route, } | { "motion": "captured", 
/**
 * Id of the clip asset.
 */
clip: ClipId, 
/**
 * Scene time at which it begins.
 */
start_s: number, 
/**
 * Stretch of the clip that plays: from, to, seconds.
 */
trim_s: [number, number], 
/**
 * Place at which the motion begins, metres.
 */
position: [number, number, number], 
/**
 * Turn to the right, degrees.
 */
turn_deg: number, });

export type Performer = { 
/**
 * Its id; a new one is given its own.
 */
id: PerformerId, 
/**
 * Name of the performer.
 */
name: string, 
/**
 * Standing, without the cap.
 */
height_m: number, 
/**
 * How broad; 1 is ordinary.
 */
build: number, 
/**
 * Parts in performances; a performance without a part goes on without the performer.
 */
parts: Array<Part>, };

export type SmoothBy = { "by": "binomial", 
/**
 * Number of passes, 1 to 400.
 */
passes: number, } | { "by": "gaussian", 
/**
 * Its standard deviation.
 */
sigma_s: number, } | { "by": "low_pass", 
/**
 * Frequency at which half of the amplitude is left, Hz.
 */
cut_hz: number, } | { "by": "polynomial", 
/**
 * Window of the polynomial, seconds.
 */
window_s: number, 
/**
 * Its degree: 2 keeps peaks, 4 keeps sharper ones.
 */
degree: number, };

export type Smooth = { 
/**
 * Filter for arm or base; none leaves them.
 */
machine: SmoothBy | null, 
/**
 * Filter for pan, tilt and roll; none leaves them.
 */
head: SmoothBy | null, 
/**
 * Filter for zoom and focus; none leaves them.
 */
lens: SmoothBy | null, };

export type SteadyBy = "one_euro" | "fixed_lag";

export type Steady = { 
/**
 * Kind of filter.
 */
by: SteadyBy, 
/**
 * Strength for where it is.
 */
position: number, 
/**
 * Strength for where it looks.
 */
rotation: number, };

export type Mapping = { 
/**
 * Device's origin on the set, metres.
 */
origin_m: [number, number, number], 
/**
 * Device's forward direction on the set, degrees to the right of −Z.
 */
heading_deg: number, 
/**
 * Metres on set for a real metre.
 */
scale: number, 
/**
 * Keeps the difference to where the camera stood when it was attached.
 */
keep_offset: boolean, 
/**
 * Keeps the horizon level.
 */
level: boolean, 
/**
 * Held as they were when it was attached: x, y, z, pan, tilt, roll.
 */
hold: [boolean, boolean, boolean, boolean, boolean, boolean], 
/**
 * Takes zoom, focus and iris where the device sends them.
 */
lens: boolean, };

export type SecondMoves = "focus_ring" | "focus" | "aim" | "aim_and_focus";

export type SecondDevice = { 
/**
 * Name of the device; empty for none.
 */
source: string, 
/**
 * Effect of the device.
 */
moves: SecondMoves, };

export type Tracking = { 
/**
 * Name of the device: its protocol and number, as [`crate::tracked`]'s sources are named.
 */
source: string, 
/**
 * How its motion is taken.
 */
mapping: Mapping, 
/**
 * How it is steadied.
 */
steady: Steady, 
/**
 * Another one, for aim or focus.
 */
second: SecondDevice, };

export type RetimeBy = { "by": "stretch", 
/**
 * New length, seconds.
 */
length_s: number, } | { "by": "speed", 
/**
 * When it begins to change, seconds.
 */
at_s: number, 
/**
 * Length of the changed stretch with its ramps, seconds.
 */
for_s: number, 
/**
 * Factor on the speed.
 */
speed: number, 
/**
 * Length of each ramp, seconds.
 */
ramp_s: number, } | { "by": "drawn", 
/**
 * Factor on the speed over the time that is seen, seconds.
 */
speed: Curve, } | { "by": "ease", 
/**
 * Length of the soft start, seconds; 0 leaves the start.
 */
start_s: number, 
/**
 * Length of the soft stop, seconds; 0 leaves the stop.
 */
stop_s: number, } | { "by": "land", 
/**
 * Instant that is moved, seconds.
 */
from_s: number, 
/**
 * When it is seen, seconds.
 */
at_s: number, };

export type Retime = { 
/**
 * Manner of the retime.
 */
way: RetimeBy, };

export type Trim = { 
/**
 * Seconds off the start.
 */
start_s: number, 
/**
 * Seconds off the end.
 */
end_s: number, };

export type Jump = { 
/**
 * Scene time of the first instant after it.
 */
at_s: number, };

export type InnerCut = { 
/**
 * In order of time.
 */
jumps: Array<Jump>, };

export type Interval = { "frames": number } | { "seconds": number };

export type KeyEvery = { 
/**
 * Interval between keys.
 */
every: Interval, };

export type Side = { "side": "smooth" } | { "side": "straight" } | { "side": "flat" } | { "side": "hold" } | { "side": "free", 
/**
 * Units of the value a second.
 */
slope: number, 
/**
 * Length of the side as a share of the span; 0 to 1 is always allowed.
 */
length: number, };

export type CurveKey = { 
/**
 * Time of the key, seconds.
 */
time_s: number, 
/**
 * In the curve's own unit.
 */
value: number, 
/**
 * How the curve comes to it.
 */
before: Side, 
/**
 * How the curve leaves it.
 */
after: Side, };

export type Curve = Array<CurveKey>;

export type Ease = { "by": "in" } | { "by": "out" } | { "by": "both" } | { "by": "soft" } | { "by": "hard" } | { "by": "overshoot" } | { "by": "whip" } | { "by": "bounce" } | { "by": "settle" } | { "by": "own", 
/**
 * Time of the first handle, 0 to 1.
 */
x1: number, 
/**
 * And how far it rises by then; 0 where `x1` is.
 */
y1: number, 
/**
 * When the end begins, 0 to 1.
 */
x2: number, 
/**
 * And how far it has risen by then; 1 where `x2` is.
 */
y2: number, };

export type SideBy = "smooth" | "straight" | "flat" | "hold" | "free";

export type About = { "by": "start" } | { "by": "middle" } | { "by": "at", 
/**
 * Time of the fixed point, seconds.
 */
time_s: number, } | { "by": "value", 
/**
 * Shown units of each axis.
 */
value: number, };

export type KeyEdit = { "do": "insert", 
/**
 * Time of the key, seconds.
 */
at_s: number, } | { "do": "sides", 
/**
 * The side before each key.
 */
before: boolean, 
/**
 * The side after it.
 */
after: boolean, 
/**
 * New kind of side.
 */
side: SideBy, } | { "do": "ease", 
/**
 * Ease between the keys.
 */
ease: Ease, } | { "do": "shift", 
/**
 * Seconds; below 0 is earlier.
 */
by_s: number, 
/**
 * Shown units of each axis.
 */
by: number, } | { "do": "scale", 
/**
 * Factor on the distance in time.
 */
time: number, 
/**
 * Factor on the distance in value; below 0 the curve is turned over.
 */
value: number, 
/**
 * Fixed point of the scaling.
 */
about: About, } | { "do": "repeat", 
/**
 * Number of repeats.
 */
times: number, } | { "do": "even" } | { "do": "close" } | { "do": "paste", 
/**
 * When the first of them is to stand, seconds.
 */
at_s: number, 
/**
 * Copied keys; the first one is at time 0.
 */
keys: { [axis: string]: Array<{ id: number } & CurveKey> }, };

export type MarkKind = "stop" | "turn" | "beyond" | "fast";

export type Mark = { 
/**
 * Axis of the curve.
 */
axis: string, 
/**
 * Kind of the mark.
 */
kind: MarkKind, 
/**
 * Start of the mark, seconds.
 */
from_s: number, 
/**
 * End of the mark, seconds.
 */
to_s: number, 
/**
 * In words, with the amount.
 */
what: string, };

export type EaseView = { 
/**
 * Name of the ease.
 */
ease: Ease, 
/**
 * Values of the ease at even steps from start to end, 0 to 1.
 */
drawn: Array<number>, };

export type KeyEditRequest = { 
/**
 * The keys of the axes that are picked, and of those that the camera's way depends on.
 */
curves: { [axis: string]: Array<{ id: number } & CurveKey> }, 
/**
 * The numbers of those that are meant, axis by axis.
 */
picked: { [axis: string]: Array<number> }, 
/**
 * Edit of the picked keys.
 */
edit: KeyEdit, };

export type Span = { 
/**
 * Seconds of scene time.
 */
from_s: number, 
/**
 * Seconds of scene time.
 */
to_s: number, 
/**
 * Time of fading in, seconds.
 */
ease_in_s: number, 
/**
 * Time of fading out, seconds.
 */
ease_out_s: number, };

export type Scope = { 
/**
 * Axes by name; all of them where missing.
 */
axes?: Array<string>, 
/**
 * From when to when, scene time in seconds; always where missing.
 */
range?: Span, };

export type Strength = number | Curve;

export type Level = "time" | "machine" | "camera";

export type Over = { 
/**
 * Unit of the axis.
 */
unit: string, 
/**
 * Lower bound, above 0.
 */
min: number, 
/**
 * Upper bound of the axis.
 */
max: number, };

export type Case = { 
/**
 * Name in the JSON.
 */
name: string, 
/**
 * Label on screen.
 */
label: string, 
/**
 * Parameters of this alternative.
 */
params: Array<Param>, };

export type Holds = { "kind": "number", 
/**
 * The least, in its unit.
 */
min: number, 
/**
 * Upper bound of the number.
 */
max: number, 
/**
 * Default value; in a thing that describes itself, the current value.
 */
start: number, 
/**
 * Step of an arrow key.
 */
step: number, 
/**
 * Only whole numbers.
 */
whole: boolean, 
/**
 * Spans orders of magnitude: a slider moves through its logarithm.
 */
log: boolean, } | { "kind": "choice", 
/**
 * The word in the JSON, and on screen.
 */
options: Array<[string, string]>, } | { "kind": "switch" } | { "kind": "row", 
/**
 * One after the other.
 */
params: Array<Param>, } | { "kind": "who", 
/**
 * Word on screen for nobody.
 */
nobody: string, 
/**
 * The point that is measured from their eyes while it is somebody, if there is one.
 */
point: string | null, 
/**
 * Place that stands in for nobody, metres.
 */
alone: [number, number, number], } | { "kind": "piece", 
/**
 * Word on screen for no choice.
 */
none: string, } | { "kind": "recorded", 
/**
 * Word on screen for no choice.
 */
none: string, } | { "kind": "list", 
/**
 * Word on screen for an empty list; none for a list with at least one element.
 */
none: string | null, 
/**
 * Upper bound of the length.
 */
most: number, 
/**
 * Parameters of each element.
 */
params: Array<Param>, } | { "kind": "curve", 
/**
 * Over what, in its unit: from its least to its most, as wide for each time as much; where
 * missing over time, seconds, as long as the move is.
 */
over: Over | null, 
/**
 * The least value.
 */
min: number, 
/**
 * Upper bound of the values.
 */
max: number, 
/**
 * Default points: place on the axis, and value.
 */
start: Array<[number, number]>, } | { "kind": "variant", 
/**
 * The field that says which; none where the way's own name is the only field.
 */
tag: string | null, 
/**
 * Alternatives, one of which holds.
 */
cases: Array<Case>, };

export type Param = { 
/**
 * The field, in the JSON of the thing it belongs to: tokens with slashes. Empty for a row.
 */
path: string, 
/**
 * Owner of the parameter, for a label of one letter; else empty.
 */
of: string, 
/**
 * Label on screen.
 */
label: string, 
/**
 * Behind its number; empty for none.
 */
unit: string, 
/**
 * A whole short sentence about what it does; empty where the label says it.
 */
hint: string, 
/**
 * Word on screen for a missing value (null); none for a required parameter.
 */
absent: string | null, 
/**
 * Values that are usual, by name.
 */
presets: Array<Preset>, 
/**
 * Kind of the value.
 */
holds: Holds, };

export type Described = { 
/**
 * In the JSON, and on the command line.
 */
name: string, 
/**
 * Label on screen.
 */
label: string, 
/**
 * Hint: what the treatment is good for.
 */
hint: string, 
/**
 * Level of the treatment.
 */
level: Level, 
/**
 * Parameters of the treatment.
 */
params: Array<Param>, 
/**
 * Questions that the treatment answers about the move before it.
 */
questions: Array<Question>, 
/**
 * Treatment with its default values.
 */
usual: Treatment, };

export type TreatmentKind = { "kind": "trim" } & Trim | { "kind": "retime" } & Retime | { "kind": "inner_cut" } & InnerCut | { "kind": "smooth" } & Smooth | { "kind": "steady" } & Steady | { "kind": "drift" } & Drift | { "kind": "keys" } & KeyEvery | { "kind": "aim" } & Aim | { "kind": "focus" } & Focus | { "kind": "zoom" } & Zoom | { "kind": "counter_zoom" } & CounterZoom | { "kind": "correction" } & Correction | { "kind": "shake" } & Shake;

export type Treatment = { 
/**
 * Switched off, it is kept but does nothing.
 */
on: boolean, 
/**
 * The axes and the time that it works on; everything where missing.
 */
scope?: Scope, 
/**
 * Share of the treatment that counts; all of it by default.
 */
strength?: Strength, } & ({ "kind": "trim" } & Trim | { "kind": "retime" } & Retime | { "kind": "inner_cut" } & InnerCut | { "kind": "smooth" } & Smooth | { "kind": "steady" } & Steady | { "kind": "drift" } & Drift | { "kind": "keys" } & KeyEvery | { "kind": "aim" } & Aim | { "kind": "focus" } & Focus | { "kind": "zoom" } & Zoom | { "kind": "counter_zoom" } & CounterZoom | { "kind": "correction" } & Correction | { "kind": "shake" } & Shake);

export type IntendedStop = { 
/**
 * Name of the axis.
 */
axis: string, 
/**
 * Seconds of scene time.
 */
at_s: number, };

export type CalmGoal = { 
/**
 * Factor by which the shake of the worst second is to fall, of position and of rotation.
 */
times: number, 
/**
 * Filter that calms the move.
 */
by: CalmBy, 
/**
 * No farther than this from where it was, centimetres.
 */
within_cm: number, 
/**
 * No farther than this from where it looked, degrees.
 */
within_deg: number, };

export type AimAsLooked = Record<symbol, never>;

export type ListStops = Record<symbol, never>;

export type TreatmentQuestion = { "question": "calm" } & CalmGoal | { "question": "as_looked" } & AimAsLooked | { "question": "stops" } & ListStops;

export type Asked = "pressed" | "set" | "always";

export type FoundStretch = { 
/**
 * Name of the stretch, one or two words.
 */
name: string, 
/**
 * Begin of the stretch, seconds of scene time.
 */
from_s: number, 
/**
 * End of the stretch, seconds of scene time.
 */
to_s: number, 
/**
 * What the treatment does to the stretch, one or two words.
 */
state: string, 
/**
 * Why the treatment leaves the stretch as it is, a sentence; none if the operator can choose.
 */
fixed: string | null, 
/**
 * True if the treatment leaves the stretch as it is because the operator wants it so.
 */
left: boolean, 
/**
 * The treatment with the operator's choice for this stretch turned round.
 */
turned: TreatmentKind, };

export type Answer = { 
/**
 * The treatment with the fields that the answer sets; none if there is nothing to set.
 */
to: TreatmentKind | null, 
/**
 * Statement, a sentence; empty if there is nothing to say.
 */
words: string, 
/**
 * Sentences about wishes that were not met.
 */
short: Array<string>, 
/**
 * Stretches of time that were found, in order of time.
 */
found: Array<FoundStretch>, };

export type Question = { 
/**
 * Name of the kind of treatment that it is about.
 */
of: string, 
/**
 * Label on screen.
 */
label: string, 
/**
 * Hint, a sentence.
 */
hint: string, 
/**
 * When it is asked.
 */
asked: Asked, 
/**
 * Fields of the treatment that an answer sets.
 */
sets: Array<string>, 
/**
 * Parameters of the question.
 */
params: Array<Param>, 
/**
 * The question with its default values.
 */
usual: TreatmentQuestion, };

export type FaultKind = "jolt" | "stop" | "lost" | "limit" | "near" | "covered";

export type Fault = { 
/**
 * Kind of the fault.
 */
kind: FaultKind, 
/**
 * Sentence that says the fault.
 */
what: string, 
/**
 * When it begins, seconds.
 */
from_s: number, 
/**
 * End of the fault, seconds.
 */
to_s: number, 
/**
 * Unit of the amount.
 */
unit: string, 
/**
 * Amount of the fault before mending.
 */
before: number, };

export type Remedy = { 
/**
 * How bad it would be.
 */
after: number, 
/**
 * The smallest treatment that mends it.
 */
treatment: Treatment, };

export type FlatFocus = "values" | "on_whom" | "left_out";

export type Flatten = { 
/**
 * A key every so many frames.
 */
every: number, 
/**
 * From when on, scene time; from its start where missing.
 */
from_s: number | null, 
/**
 * Until when; to its end where missing.
 */
to_s: number | null, 
/**
 * Focus in the flat move.
 */
focus: FlatFocus, };

export type Drift = { 
/**
 * Time before and after a stop that the drift takes, seconds: more is softer.
 */
reach_s: number, 
/**
 * How fast it goes on in the slowest, percent of going evenly.
 */
slow_percent: number, 
/**
 * Stops that are meant.
 */
leave?: Array<IntendedStop>, };

export type Amounts = { 
/**
 * Amplitude to the right, up and ahead, centimetres.
 */
position_cm: [number, number, number], 
/**
 * Amplitude of pan, tilt and roll, degrees.
 */
rotation_deg: [number, number, number], };

export type BodyPart = "eyes" | "chest" | "feet";

export type PlaceAt = { 
/**
 * Scene time, seconds.
 */
at_s: number, 
/**
 * Place of the point, metres.
 */
place_m: [number, number, number], };

export type Target = { "at": "nearest", 
/**
 * Part of the body.
 */
part: BodyPart, } | { "at": "somebody", 
/**
 * By their number.
 */
who: PerformerId | null, 
/**
 * Part of the body.
 */
part: BodyPart, } | { "at": "piece", 
/**
 * Id of the piece in the scene.
 */
piece: PieceId | null, 
/**
 * Height over the foot of the piece, metres.
 */
up_m: number, } | { "at": "place", 
/**
 * Place of the point, metres.
 */
place_m: [number, number, number], } | { "at": "moving", 
/**
 * In order of time; it stands before the first of them, and after the last.
 */
places: Array<PlaceAt>, } | { "at": "ahead", 
/**
 * Metres along the view.
 */
distance_m: number, };

export type Turn = { 
/**
 * Scene time at which it begins to be turned to; what begins at 0 is there from the start.
 */
from_s: number, 
/**
 * Length of the turn, seconds.
 */
over_s: number, 
/**
 * Target after the turn.
 */
to: Target, };

export type Aim = { 
/**
 * Targets over time.
 */
turns: Array<Turn>, 
/**
 * Place in the frame: −1 left edge, 1 right edge.
 */
across: number, 
/**
 * Place in the frame: −1 lower edge, 1 upper edge.
 */
up: number, 
/**
 * Dead zone around that place, percent of half the frame's width.
 */
zone_percent: number, 
/**
 * Lag of the camera behind the target, seconds.
 */
lag_s: number, };

export type PresetTreatments = { 
/**
 * Name of the preset: the look of the picture.
 */
name: string, 
/**
 * Sentence about its treatments.
 */
hint: string, 
/**
 * In the order in which they work.
 */
treatments: Array<Treatment>, };

export type CorrectionKey = { 
/**
 * Scene time, seconds.
 */
at_s: number, 
/**
 * On the set: x, up, z; centimetres.
 */
move_cm: [number, number, number], 
/**
 * Pan, tilt, roll; degrees.
 */
turn_deg: [number, number, number], };

export type Pin = { 
/**
 * Scene time, seconds.
 */
at_s: number, };

export type Correction = { 
/**
 * In order of time.
 */
keys: Array<CorrectionKey>, 
/**
 * In order of time.
 */
pins: Array<Pin>, 
/**
 * Time of fading before the first key and after the last, seconds.
 */
blend_s: number, };

export type Focus = { 
/**
 * On whom or what, from when on.
 */
turns: Array<Turn>, 
/**
 * Distance by which focus lies before the target, metres.
 */
nearer_m: number, };

export type Zoom = { 
/**
 * Focal lengths, one after the other; before the first it is as it was.
 */
zooms: Array<ZoomTo>, };

export type ZoomTo = { 
/**
 * Scene time at which it begins, seconds; what begins at 0 is there from the start.
 */
at_s: number, 
/**
 * Frames until it is there; 0 is at once.
 */
frames: number, 
/**
 * Focal length afterwards, millimetres.
 */
to_mm: number, 
/**
 * Course of the zoom.
 */
way: ZoomWay, };

export type ZoomWay = "picture" | "ring" | "crash";

export type CounterZoom = { 
/**
 * Id of the performer who keeps their size; none for whoever is nearest to the middle at that time.
 */
who: PerformerId | null, 
/**
 * Scene time at which the size is taken, seconds.
 */
as_at_s: number, };

export type ShakeBy = { "by": "noise", 
/**
 * Lower edge of the noise, Hz.
 */
from_hz: number, 
/**
 * Upper edge of the noise, Hz.
 */
to_hz: number, 
/**
 * By which power of the frequency it falls: 0 not at all, 1 as hands do.
 */
falls: number, 
/**
 * Amplitude to the right, up and ahead, centimetres.
 */
position_cm: [number, number, number], 
/**
 * Amplitude of pan, tilt and roll, degrees.
 */
rotation_deg: [number, number, number], } | { "by": "own", 
/**
 * Weight over frequency, Hz: only proportions count.
 */
spectrum: Curve, 
/**
 * Amplitude to the right, up and ahead, centimetres.
 */
position_cm: [number, number, number], 
/**
 * Amplitude of pan, tilt and roll, degrees.
 */
rotation_deg: [number, number, number], } | { "by": "steps", 
/**
 * Steps a second of the operator.
 */
per_s: number, 
/**
 * Id of the performer whose steps shake the camera; none for the operator's own steps.
 */
who: PerformerId | null, 
/**
 * Amplitude to the right, up and ahead, centimetres.
 */
position_cm: [number, number, number], 
/**
 * Amplitude of pan, tilt and roll, degrees.
 */
rotation_deg: [number, number, number], } | { "by": "sampled", 
/**
 * Id of the take; none shakes nothing.
 */
take: TakeId | null, 
/**
 * Lower edge of the sampled motion, Hz.
 */
from_hz: number, 
/**
 * From where in it, seconds.
 */
starts_s: number, 
/**
 * Factors on the sampled positions and rotations.
 */
times: [number, number], } | { "by": "hit", 
/**
 * When, scene time.
 */
at_s: number, 
/**
 * Until a third of it is left.
 */
dies_s: number, 
/**
 * How quickly it swings.
 */
hz: number, 
/**
 * Amplitude to the right, up and ahead, centimetres.
 */
position_cm: [number, number, number], 
/**
 * Amplitude of pan, tilt and roll, degrees.
 */
rotation_deg: [number, number, number], };

export type Shake = { 
/**
 * Another number is another shake of the same kind.
 */
seed: number, 
/**
 * It turns about a point so far behind the lens: a shoulder.
 */
pivot_m: number, 
/**
 * It looks the same on the screen at every focal length, as it does at this one, millimetres.
 */
same_on_screen_mm: number | null, 
/**
 * Source of the shake.
 */
way: ShakeBy, };

export type CalmBy = "bell" | "low_pass";

export type CurvesOf = "axes" | "camera" | "speed" | "shake" | "distance";

export type LaneKind = { 
/**
 * Beside its curve.
 */
name: string, 
/**
 * Unit of the values.
 */
unit: string, 
/**
 * The ink it is drawn in, by the name of the axis that has it in the palette.
 */
ink: string, 
/**
 * Least range of the lane, so that a still axis looks still.
 */
least: number, 
/**
 * Never less than nothing: shown from zero on.
 */
from_zero: boolean, };

export type ShakeFigure = { 
/**
 * RMS of all seconds of the take.
 */
whole: number, 
/**
 * RMS over the second in which it is largest: a short shake in a long take is seen here.
 */
worst_second: number, 
/**
 * The middle of that second, seconds.
 */
worst_at_s: number, };

export type DeadStop = { 
/**
 * Start of the stop, seconds.
 */
from_s: number, 
/**
 * End of the stop, seconds.
 */
to_s: number, };

export type Metrics = { 
/**
 * Points measured.
 */
samples: number, 
/**
 * Points a second.
 */
rate_hz: number, 
/**
 * First to last point.
 */
duration_s: number, 
/**
 * Length of the path through all points.
 */
path_length_m: number, 
/**
 * Shake of the position; missing under 2 s, and where there are too few points a second.
 */
shake_position_cm: ShakeFigure | null, 
/**
 * Shake of the rotation, degrees.
 */
shake_rotation_deg: ShakeFigure | null, 
/**
 * Spectral arc length of the speed along the path.
 */
spectral_arc_position: number | null, 
/**
 * Spectral arc length of the turning speed.
 */
spectral_arc_rotation: number | null, 
/**
 * Log dimensionless jerk of the speed along the path, under a bell of 0.1 s.
 */
log_jerk_position: number | null, 
/**
 * Log dimensionless jerk of the turning speed, under a bell of 0.1 s.
 */
log_jerk_rotation: number | null, 
/**
 * Top speed along the path, m/s.
 */
top_speed_m_s: number, 
/**
 * Top turning speed about any axis, °/s.
 */
top_turn_deg_s: number, 
/**
 * Top speed of pan, °/s.
 */
top_pan_deg_s: number, 
/**
 * Top speed of tilt, °/s.
 */
top_tilt_deg_s: number, 
/**
 * Top speed of roll, °/s.
 */
top_roll_deg_s: number, 
/**
 * Dead stops, in order of time.
 */
dead_stops: Array<DeadStop>, 
/**
 * The longest of them; 0 without one.
 */
longest_dead_stop_s: number, };

export type Departure = { 
/**
 * Largest distance.
 */
position_cm: number, 
/**
 * Largest angle, degrees.
 */
rotation_deg: number, };

export type Verdict = "good" | "even" | "near" | "bad";

export type Figure = { 
/**
 * Name of the figure.
 */
name: string, 
/**
 * Sentence about the figure; empty where the name says it.
 */
hint: string, 
/**
 * Behind the numbers; empty for a count.
 */
unit: string, 
/**
 * Places behind the point.
 */
digits: number, 
/**
 * Value of the raw take; missing where there is none.
 */
raw: number | null, 
/**
 * After the treatments.
 */
now: number | null, 
/**
 * Bound, in the figure's unit.
 */
bound: number | null, 
/**
 * Word for the change; empty where there is nothing to say.
 */
word: string, 
/**
 * Verdict on the change.
 */
verdict: Verdict, 
/**
 * Time of the greatest value, seconds.
 */
at_s: number | null, 
/**
 * Shown only on demand.
 */
more: boolean, };

export type Entry = { 
/**
 * Id of the entry, counted up.
 */
id: number, 
/**
 * Label of the edit, a few words.
 */
label: string, };

export type History = { 
/**
 * The edit that undo would take back.
 */
undo: Entry | null, 
/**
 * The edit that redo would do again.
 */
redo: Entry | null, };

export type Op = { "op": "add", 
/**
 * Path; a new thing is called `new:1` until the answer names it.
 */
path: string, 
/**
 * New value.
 */
value: unknown, 
/**
 * In a list: the member that it comes before; at the end where missing.
 */
before?: string, } | { "op": "remove", 
/**
 * Path of the thing.
 */
path: string, } | { "op": "replace", 
/**
 * Path of the value.
 */
path: string, 
/**
 * New value.
 */
value: unknown, } | { "op": "move", 
/**
 * Path of the thing that moves.
 */
path: string, 
/**
 * The member that it comes before; at the end where missing.
 */
before?: string, } | { "op": "test", 
/**
 * Path of the value.
 */
path: string, 
/**
 * Value that must be there.
 */
value: unknown, };

export type Rating = "none" | "good" | "hold" | "no";

export type Rolled = { 
/**
 * The performance that played; 0 where that is not known.
 */
performance: PerformanceId, 
/**
 * Everybody and everything that moved in it, with a fingerprint of what they did.
 */
movers: { [key in string]: string }, 
/**
 * Seconds of the scene in a second of the floor.
 */
clock: number | null, 
/**
 * The device that moved the camera.
 */
device: string | null, 
/**
 * Holders of the wheels over time; empty where one page without a name had all of them.
 */
hands: Array<HandOn>, };

export type PassOf = { 
/**
 * Id of the take below.
 */
take: TakeId, 
/**
 * It is left out of the take.
 */
muted: boolean, 
/**
 * Name of the pass.
 */
name: string, 
/**
 * The sample of the take at which it begins.
 */
at: number, 
/**
 * The axes it records, by name.
 */
axes: Array<string>, 
/**
 * Length of the joints, seconds.
 */
blend_s: number, };

export type Take = { 
/**
 * Id of the take.
 */
id: TakeId, 
/**
 * The setup it was rolled in.
 */
setup_id: SetupId, 
/**
 * Take number on the slate, unique in the scene.
 */
number: number, 
/**
 * A name of its own, or nothing.
 */
name: string, 
/**
 * Rating by the operator.
 */
rating: Rating, 
/**
 * Note of the operator.
 */
note: string, 
/**
 * When the roll began, UTC.
 */
rolled_at: string, 
/**
 * Frames a second of the scene as it was rolled.
 */
rate: Rate, 
/**
 * Samples a second.
 */
rate_hz: number, 
/**
 * Number of samples.
 */
samples: number, 
/**
 * First to last sample.
 */
length_s: number, 
/**
 * Camera while the take rolled.
 */
camera: Camera, 
/**
 * Machine while the take rolled.
 */
rig: Rigging, 
/**
 * The names of its columns.
 */
axes: Array<string>, 
/**
 * The take it is a pass over, and how it is placed there.
 */
pass: PassOf | null, 
/**
 * Conditions of the roll.
 */
rolled: Rolled, 
/**
 * Names of performers and pieces that have changed in that performance since.
 */
changed: Array<string>, 
/**
 * Number of device packets that are kept with the take.
 */
packets: number, 
/**
 * Still being recorded.
 */
rolling: boolean, 
/**
 * Closed by a restart, not by a cut.
 */
recovered: boolean, 
/**
 * Words about what went wrong while it rolled.
 */
flags: Array<string>, 
/**
 * True for a take in the bin.
 */
binned: boolean, };

export type Setup = { 
/**
 * Id of the setup, unique in the production; a new one is given its own.
 */
id: SetupId, 
/**
 * Letter on the slate: A, B, C … A new setup is given the next.
 */
letter: string, 
/**
 * Name of the setup.
 */
name: string, 
/**
 * Sensor, frame, lens.
 */
camera: Camera, 
/**
 * The machine and where it stands.
 */
rig: Rigging, 
/**
 * Stored positions, by number.
 */
positions: Array<Position>, 
/**
 * The move that its machine runs: keyed, or following another.
 */
runs: MoveId | null, 
/**
 * The device that may move its camera.
 */
tracking: Tracking, 
/**
 * True for a setup in the bin.
 */
binned: boolean, };

export type Source = { "kind": "take", 
/**
 * Id of the take, in the scene.
 */
take: TakeId, } | { "kind": "curves" } | { "kind": "follow", 
/**
 * Id of the other move.
 */
move: MoveId, };

export type Move = { 
/**
 * Id of the move, in the scene.
 */
id: MoveId, 
/**
 * The setup it belongs to.
 */
setup_id: SetupId, 
/**
 * A name of its own, or nothing.
 */
name: string, 
/**
 * Source of the motion.
 */
source: Source, 
/**
 * The performance that it plays against; none: that of its take or of the move that it follows, else the one
 * that plays in the scene.
 */
performance: PerformanceId | null, 
/**
 * The first of its siblings; none of that one itself.
 */
variant_of: MoveId | null, 
/**
 * True for the chosen one among variants.
 */
chosen: boolean, 
/**
 * Keys, by the names of axes; axes without are left out.
 */
curves: { [axis: string]: Array<{ id: number } & CurveKey> }, 
/**
 * Treatments, in order.
 */
treatments: Array<{ id: number } & Treatment>, 
/**
 * Its own; none: that of the take, or of the setup as it stands.
 */
camera: Camera | null, 
/**
 * Its own; none: that of the take, or of the setup as it stands.
 */
rig: Rigging | null, 
/**
 * True for a move in the bin.
 */
binned: boolean, };

export type NewMove = { 
/**
 * The setup it belongs to.
 */
setup_id: SetupId, 
/**
 * A name of its own, or nothing.
 */
name?: string, 
/**
 * Source of the motion.
 */
source: Source, 
/**
 * The move that it is a variant of: it begins as a copy of its keys, treatments and camera.
 */
variant_of?: MoveId, 
/**
 * The performance that it plays against; none as in [`Move`]. A variant has that of the move it is made of.
 */
performance?: PerformanceId, 
/**
 * Keys of each axis.
 */
curves?: { [axis: string]: Array<{ id: number } & CurveKey> }, 
/**
 * The setup's machine runs it from now on.
 */
run?: boolean, };

export type Tolerance = { 
/**
 * Position, centimetres.
 */
position_cm: number, 
/**
 * Rotation, degrees.
 */
rotation_deg: number, };

export type JobState = { "state": "waiting" } | { "state": "running", 
/**
 * Share that is done, 0 to 1.
 */
share: number, } | { "state": "done", 
/**
 * Kind of the job.
 */
kind: string, 
/**
 * What was found, in words with figures.
 */
words: string, 
/**
 * It has curves to be looked at over those of the move.
 */
lanes: boolean, } | { "state": "failed", 
/**
 * Why, and what to do.
 */
sentence: string, } | { "state": "stopped" };

export type JobView = { 
/**
 * Number of the job.
 */
id: number, 
/**
 * Label, a few words.
 */
label: string, 
/**
 * The move it is about, if it is about one.
 */
move_id: MoveId | null, } & ({ "state": "waiting" } | { "state": "running", 
/**
 * Share that is done, 0 to 1.
 */
share: number, } | { "state": "done", 
/**
 * Kind of the job.
 */
kind: string, 
/**
 * What was found, in words with figures.
 */
words: string, 
/**
 * It has curves to be looked at over those of the move.
 */
lanes: boolean, } | { "state": "failed", 
/**
 * Why, and what to do.
 */
sentence: string, } | { "state": "stopped" });

export type JobKind = { 
/**
 * Name of the kind, as requests name it.
 */
name: string, 
/**
 * Heading over its parameters.
 */
word: string, 
/**
 * Word on the button that begins it.
 */
begin: string, 
/**
 * Hint on that button, a sentence.
 */
hint: string, 
/**
 * Word on the button that keeps what it made.
 */
keep: string, 
/**
 * Parameters of the kind.
 */
params: Array<Param>, 
/**
 * Its parameters with the values that are offered first.
 */
usual: { [path: string]: unknown }, };

export type JobRequest = { "kind": "keys" } & MakeKeys;

export type MakeKeys = { 
/**
 * The move.
 */
move_id: MoveId, 
/**
 * Position, centimetres.
 */
position_cm: number, 
/**
 * Rotation, degrees.
 */
rotation_deg: number, };

export type KeptView = { 
/**
 * The move that it is now, if it is one.
 */
move_id: MoveId | null, 
/**
 * What it is now, a sentence.
 */
words: string, 
/**
 * Changes of the document.
 */
changed: Changed, };

export type AssetKind = "mesh" | "image" | "clip";

export type Asset = { 
/**
 * Id of the asset, unique in the production.
 */
id: number, 
/**
 * Kind of the asset.
 */
kind: AssetKind, 
/**
 * Name from the file.
 */
name: string, };

export type Performance = { 
/**
 * Id of the performance.
 */
id: PerformanceId, 
/**
 * Name of the performance.
 */
name: string, };

export type Scene = { 
/**
 * Its id; a new one is given its own.
 */
id: SceneId, 
/**
 * Pieces, in order.
 */
pieces: Array<Piece>, 
/**
 * Performers, in order.
 */
performers: Array<Performer>, 
/**
 * Alternatives of what everybody does, in order.
 */
performances: Array<Performance>, 
/**
 * Scene number on the slate.
 */
number: string, 
/**
 * Scene name on the slate.
 */
name: string, 
/**
 * Frames a second.
 */
rate: Rate, 
/**
 * Length of the performance, seconds.
 */
length_s: number, 
/**
 * The frame of day at which the scene's timecode starts.
 */
start_frame: number, 
/**
 * Size of the stage.
 */
stage: Stage, 
/**
 * The performance that plays.
 */
performance: PerformanceId, 
/**
 * True for a scene in the bin.
 */
binned: boolean, };

export type Lists = { 
/**
 * Setups, in order, binned ones too.
 */
setups: Array<Setup>, 
/**
 * Takes in the order they were rolled, binned ones too.
 */
takes: Array<Take>, 
/**
 * Moves in the order they were made, binned ones too.
 */
moves: Array<Move>, };

export type VersionsView = { 
/**
 * Motion of everybody and everything in each performance.
 */
performances: { [key in number]: string }, 
/**
 * Solids of the set in each performance.
 */
sets: { [key in number]: string }, 
/**
 * Pictures of all machines as they stand in each performance.
 */
machines: { [key in number]: string }, 
/**
 * The performance that each move plays against.
 */
plays: { [key in number]: number }, 
/**
 * Machine of each setup, in the performance that plays.
 */
setups: { [key in number]: string }, 
/**
 * Frames, curves and figures of each move.
 */
moves: { [key in number]: string }, 
/**
 * Samples of each take with its passes.
 */
takes: { [key in number]: string }, 
/**
 * Pictures of each take.
 */
pictures: { [key in number]: string }, };

export type Document = { 
/**
 * Name of the production.
 */
production: string, 
/**
 * All of its scenes in order, binned ones too.
 */
scenes: Array<SceneLine>, 
/**
 * The scene being worked on.
 */
scene: Scene, 
/**
 * The number that the next take will have; passes share that of the take they are over.
 */
next_take: number, 
/**
 * The production's own lens sets.
 */
lens_sets: Array<LensSet>, 
/**
 * Assets: meshes, images, captured motion.
 */
assets: Array<Asset>, 
/**
 * Next steps of undo and redo.
 */
history: History, 
/**
 * Setups, in order, binned ones too.
 */
setups: Array<Setup>, 
/**
 * Takes in the order they were rolled, binned ones too.
 */
takes: Array<Take>, 
/**
 * Moves in the order they were made, binned ones too.
 */
moves: Array<Move>, };

export type Protocol = "opentrackio" | "freed";

export type SourceStatus = { 
/**
 * Its name, such as "freed 1".
 */
source: string, 
/**
 * Address of the sender.
 */
from: string, 
/**
 * Samples a second, lately.
 */
rate_hz: number, 
/**
 * Samples that came.
 */
samples: number, 
/**
 * Samples that never came, as far as the device counts them.
 */
lost: number, 
/**
 * Samples that came after a later one.
 */
late: number, 
/**
 * Silences of more than twice and a half the usual pause.
 */
gaps: number, 
/**
 * The longest of them, seconds.
 */
longest_gap_s: number, 
/**
 * Since the last sample, seconds.
 */
age_s: number, 
/**
 * Last lens data, in words.
 */
lens: string, 
/**
 * Last error in a packet.
 */
last_error: string | null, };

export type Wheel = "machine" | "head" | "lens" | "performer";

export type HandOn = { 
/**
 * Wheel that changed hands.
 */
wheel: Wheel, 
/**
 * Name of the person, or "page 3"; empty for nobody.
 */
by: string, 
/**
 * Seconds from the start of the take.
 */
from_s: number, };

export type Asking = { 
/**
 * Page that asks.
 */
page: number, 
/**
 * For which wheel; all of them where it is not said.
 */
wheel: Wheel | null, };

export type PassRequest = { 
/**
 * Name of the pass.
 */
name: string, 
/**
 * Start of the pass, scene time in seconds; before it everything plays from the take below.
 */
from_s: number, 
/**
 * Pre-roll before the start of the pass, seconds.
 */
pre_roll_s: number, 
/**
 * Length of the joints, seconds.
 */
blend_s: number, };

export type BroughtAxes = { 
/**
 * Number that the page gave the request.
 */
request: number, 
/**
 * Step of the floor before which it was done: state frames of later steps show it.
 */
step: bigint, 
/**
 * Sentences about axes that do not stand where they were asked to be.
 */
short: Array<string>, };

export type HangStatus = { 
/**
 * Name of the device.
 */
source: string, 
/**
 * Metres on set for a real metre.
 */
scale: number, 
/**
 * It has been heard lately.
 */
alive: boolean, };

export type TrackingStatus = { 
/**
 * Name of the device; empty while none is heard.
 */
source: string, 
/**
 * The camera is attached to it.
 */
attached: boolean, 
/**
 * It has been heard lately.
 */
alive: boolean, 
/**
 * How late the camera is behind the hand, ms.
 */
delay_ms: number, };

export type MoverId = { "kind": "performer", "id": PerformerId } | { "kind": "piece", "id": PieceId };

export type Command = { "do": "drive", 
/**
 * Wanted rates, one per axis, −1 to 1.
 */
rates: Array<number>, 
/**
 * Steps to add, one per axis, shown units.
 */
nudges: Array<number>, 
/**
 * Everything at a fifth of its speed, for as long as it is said.
 */
fine: boolean, } | { "do": "pads", 
/**
 * Wheel that is meant.
 */
wheel: Wheel, 
/**
 * The first axis; of a performer the turn to the right.
 */
across: number, 
/**
 * The second axis; of a performer the way ahead.
 */
ahead: number, 
/**
 * Rate of the third axis, −1 to 1.
 */
up: number, } | { "do": "shape", 
/**
 * Shaping of the hand, one per axis.
 */
axes: Array<Shaping>, } | { "do": "feel", 
/**
 * Speed dial, a factor on all rates.
 */
dial: number, 
/**
 * Scales the drag of every axis.
 */
drag: number, } | { "do": "arm", 
/**
 * Its place in the rig's list.
 */
axis: number, 
/**
 * True to record the axis.
 */
on: boolean, } | { "do": "roll", 
/**
 * Count-in before the roll, 0 to 5 s.
 */
count_in_s: number, 
/**
 * Scene time at which it is cut by itself.
 */
until_s: number | null, 
/**
 * Kept with the take.
 */
note: string, 
/**
 * How a pass lies over the take below.
 */
pass: PassRequest, } | { "do": "clock", 
/**
 * Seconds of the scene in a second.
 */
speed: number, } | { "do": "act", 
/**
 * Performer or piece to drive; none for nobody.
 */
who: MoverId | null, 
/**
 * The camera does not record meanwhile.
 */
alone: boolean, } | { "do": "walk", 
/**
 * Share of walking speed, 0 to 1.
 */
ahead: number, 
/**
 * Rate of turning, −1 to 1, positive to the right.
 */
turn: number, 
/**
 * True to run, false to walk.
 */
run: boolean, 
/**
 * Sits down, or stays seated.
 */
sit: boolean, } | { "do": "hang", 
/**
 * Name of the device; none for hands.
 */
source: string, 
/**
 * Metres on set for a real metre.
 */
scale: number, } | { "do": "attach", 
/**
 * True to attach the device.
 */
on: boolean, } | { "do": "cut" } | { "do": "run", 
/**
 * True to run the performance.
 */
on: boolean, } | { "do": "loop", 
/**
 * True to begin again.
 */
on: boolean, 
/**
 * Seconds of scene time; the beginning where missing.
 */
from_s: number | null, 
/**
 * Seconds of scene time; the end where missing.
 */
to_s: number | null, } | { "do": "seek", 
/**
 * Seconds of scene time.
 */
time_s: number, } | { "do": "return" } | { "do": "go", 
/**
 * Wanted values, one per axis; none leaves the axis alone.
 */
targets: Array<number | null>, 
/**
 * Number that the page gave this request; the status names the last one that was done.
 */
request: number, } | { "do": "go_to", 
/**
 * Number of the stored position.
 */
number: number, 
/**
 * True to drive there though the scene's time stands.
 */
drive: boolean, 
/**
 * Time to take, seconds; it drives. Without it as quickly as dial and limits allow.
 */
seconds: number | null, 
/**
 * Number that the page gave this request; the status names the last one that was done.
 */
request: number, } | { "do": "rehearse", 
/**
 * Numbers of stored positions, in order.
 */
positions: Array<number>, 
/**
 * Time from the first to the last, seconds.
 */
seconds: number, } | { "do": "level" } | { "do": "stay" } | { "do": "focus_on", 
/**
 * Id of the performer; none for nobody.
 */
performer: PerformerId | null, } | { "do": "fly", 
/**
 * True if hands fly the camera, false if hands move the axes.
 */
on: boolean, } | { "do": "discard", 
/**
 * Places of the axes in the rig's list; all of them where none is named.
 */
axes: Array<number>, } | { "do": "ask", 
/**
 * Wheel that is meant; without it all wheels.
 */
wheel: Wheel | null, } | { "do": "give" } | { "do": "keep" } | { "do": "take_back", 
/**
 * Wheel that is meant.
 */
wheel: Wheel, } | { "do": "sign", 
/**
 * Name that the person at the page gave.
 */
name: string, };

export type Status = { 
/**
 * The setup on the floor.
 */
setup_id: SetupId, 
/**
 * The page at the wheels.
 */
holder: number | null, 
/**
 * The pages whose hands are on each wheel: machine, head, lens, performer.
 */
hands: [number | null, number | null, number | null, number | null], 
/**
 * The page that asks, and for what.
 */
asking: Asking | null, 
/**
 * Names that people at pages gave, by page.
 */
names: { [key in number]: string }, 
/**
 * Number of open pages.
 */
pages: number, 
/**
 * Phase of the roll.
 */
roll: RollState, 
/**
 * Seconds of the scene in a second.
 */
clock: number, 
/**
 * The take that is laid below: what is not armed plays from it.
 */
below: TakeId | null, 
/**
 * Performer or piece that is driven.
 */
acting: MoverId | null, 
/**
 * The camera does not record meanwhile.
 */
alone: boolean, 
/**
 * The device that who is driven hangs on.
 */
hangs: HangStatus | null, 
/**
 * The device of the setup on the floor.
 */
tracking: TrackingStatus, 
/**
 * Armed axes, one flag per axis.
 */
armed: Array<boolean>, 
/**
 * Name of a pass over the armed axes, until it is given another one.
 */
pass_name: string, 
/**
 * Value of the speed dial.
 */
dial: number, 
/**
 * Fluid drag of the head.
 */
drag: number, 
/**
 * How each axis takes what hands say.
 */
shaping: Array<Shaping>, 
/**
 * Source of the camera's motion: hands, keys, a followed move or a device.
 */
lead: LeadKind, 
/**
 * The performer on whose eyes the focus stays.
 */
focus_on: PerformerId | null, 
/**
 * The axes that hands took from their keys: what they made of them no key knows.
 */
pending: Array<boolean>, 
/**
 * It is on its way to a position.
 */
sent: boolean, 
/**
 * Why its way takes longer than was asked.
 */
slowed: string | null, 
/**
 * The axes that hands touched since they were last keyed, whether or not they have keys.
 */
touched: Array<boolean>, 
/**
 * The last request of each page that brought axes somewhere.
 */
brought: { [key in number]: BroughtAxes }, 
/**
 * The performance runs.
 */
running: boolean, 
/**
 * Reason why the recorder stopped, until the next roll.
 */
trouble: string | null, };

export type LiveOutRequest = { 
/**
 * True to send.
 */
on: boolean, 
/**
 * Protocol of the packets.
 */
protocol: Protocol, 
/**
 * IP address of the receiver.
 */
address: string, 
/**
 * UDP port of the receiver.
 */
port: number, 
/**
 * The camera's number there.
 */
number: number, 
/**
 * Samples a second.
 */
rate_hz: number, 
/**
 * A move that is told over and over; none for the camera on the floor.
 */
move_id: MoveId | null, };

export type LiveOutView = { 
/**
 * Samples that went out.
 */
sent: number, 
/**
 * Samples that waited too long and were left out.
 */
dropped: number, 
/**
 * Why nothing is told.
 */
error: string | null, 
/**
 * True to send.
 */
on: boolean, 
/**
 * Protocol of the packets.
 */
protocol: Protocol, 
/**
 * IP address of the receiver.
 */
address: string, 
/**
 * UDP port of the receiver.
 */
port: number, 
/**
 * The camera's number there.
 */
number: number, 
/**
 * Samples a second.
 */
rate_hz: number, 
/**
 * A move that is told over and over; none for the camera on the floor.
 */
move_id: MoveId | null, };

export type OnShelf = { 
/**
 * Id on the shelf: the file's name without the ending.
 */
id: string, 
/**
 * Name on the slate.
 */
name: string, 
/**
 * Its scenes, as they are numbered.
 */
scenes: Array<string>, 
/**
 * Number of takes.
 */
takes: number, 
/**
 * When it was opened last, UTC; none where never.
 */
used_at: string | null, 
/**
 * Set aside: still there, and not in the way.
 */
aside: boolean, 
/**
 * Version of the picture on the shelf; none without a picture.
 */
picture: string | null, 
/**
 * Why it cannot be opened.
 */
trouble: string | null, };

export type ShelfView = { 
/**
 * The one that is open; empty where none is.
 */
open: string, 
/**
 * Productions: those used last first, those set aside at the end.
 */
productions: Array<OnShelf>, };

export type NewProduction = { 
/**
 * Name on the slate.
 */
name: string, 
/**
 * Filled with the demo production rather than with an empty stage.
 */
demo: boolean, };

export type Shelved = { 
/**
 * Id on the shelf; see [`OnShelf`].
 */
id: string, };

export type CarryThing = { 
/**
 * Kind of the thing.
 */
kind: ThingKind, 
/**
 * Its number there.
 */
id: number, };

export type CarryChoice = { "does": "along" } | { "does": "instead", 
/**
 * Its number here.
 */
with: number, } | { "does": "out" };

export type CarryRequest = { 
/**
 * Setups, pieces, performers.
 */
things: Array<CarryThing>, 
/**
 * Setups bring their takes.
 */
takes: boolean, 
/**
 * Choices for things that are referred to but not carried.
 */
choices: Array<[CarryThing, CarryChoice]>, };

export type CarryMissing = { 
/**
 * Name of the thing in its own scene.
 */
name: string, 
/**
 * Names of the things that refer to it.
 */
by: Array<string>, 
/**
 * True if those things can do without it.
 */
out: boolean, 
/**
 * Replacements in this scene: id and name.
 */
instead: Array<[number, string]>, 
/**
 * Kind of the thing.
 */
kind: ThingKind, 
/**
 * Its number there.
 */
id: number, };

export type CarryOffer = { 
/**
 * Name of the thing in its own scene.
 */
name: string, 
/**
 * Group of a piece; 0 for none, and for other kinds.
 */
group: number, 
/**
 * Number of takes of a setup; 0 for other kinds.
 */
takes: number, 
/**
 * Kind of the thing.
 */
kind: ThingKind, 
/**
 * Its number there.
 */
id: number, };

export type CarryFrom = { 
/**
 * Id of the other production on the shelf.
 */
production: string, 
/**
 * Setups, pieces, performers.
 */
things: Array<CarryThing>, 
/**
 * Setups bring their takes.
 */
takes: boolean, 
/**
 * Choices for things that are referred to but not carried.
 */
choices: Array<[CarryThing, CarryChoice]>, };

export type Carried = { 
/**
 * Number of things.
 */
count: number, 
/**
 * Changes of the document.
 */
changed: Changed, };

export type PictureOf = "scene" | "take";

export type PictureLine = { 
/**
 * Kind of thing.
 */
of: PictureOf, 
/**
 * Id of the thing.
 */
id: number, 
/**
 * Part of a take: 0 first, 1 middle, 2 last.
 */
part: number, 
/**
 * Version of what it was drawn of.
 */
made_of: string, };

export type Tell = { "tell": "you", 
/**
 * Number of the page.
 */
page: number, } | { "tell": "status", 
/**
 * Status of the floor.
 */
status: Status, } | { "tell": "changed", 
/**
 * Changes of the document.
 */
changed: Changed, } | { "tell": "jobs", 
/**
 * List of all jobs.
 */
jobs: Array<JobView>, } | { "tell": "live_out", 
/**
 * Line that names the receiver; empty for none.
 */
line: string, } | { "tell": "refused", 
/**
 * Sentence that says the reason.
 */
sentence: string, };

export type Socket = { 
/**
 * Protocol of the packets.
 */
protocol: Protocol, 
/**
 * Loopback, unless devices on the network are to get in.
 */
address: string, 
/**
 * 0 for any that is free.
 */
port: number, 
/**
 * True to listen on the socket.
 */
on: boolean, };

export type SocketView = { 
/**
 * UDP port that the socket has.
 */
open: number | null, 
/**
 * Why it does not listen.
 */
error: string | null, 
/**
 * Protocol of the packets.
 */
protocol: Protocol, 
/**
 * Loopback, unless devices on the network are to get in.
 */
address: string, 
/**
 * 0 for any that is free.
 */
port: number, 
/**
 * True to listen on the socket.
 */
on: boolean, };

export type SimulatorRequest = { 
/**
 * Protocol of the packets.
 */
protocol: Protocol, 
/**
 * "shoulder", "sweep" or "still".
 */
motion: string, 
/**
 * 1 is an ordinary hand.
 */
tremor: number, 
/**
 * Share of packets that are lost, 0 to 1.
 */
lost: number, };

export type DevicesView = { 
/**
 * Sockets that are listened on.
 */
sockets: Array<SocketView>, 
/**
 * Devices that are heard.
 */
sources: Array<SourceStatus>, 
/**
 * Senders that cannot be understood, and why.
 */
strangers: Array<[string, string]>, 
/**
 * The stand-in that runs.
 */
stand_in: SimulatorRequest | null, };

export type PhoneRequest = { 
/**
 * True to open the door.
 */
on: boolean, 
/**
 * With TLS, so that the phone's sensors can be felt.
 */
tls: boolean, 
/**
 * Its port; 0 for any that is free.
 */
port: number, };

export type PhoneView = { 
/**
 * Request that is in force.
 */
wanted: PhoneRequest, 
/**
 * Address to type into the phone; none while the door is shut.
 */
address: string | null, 
/**
 * Code to type into the phone; none while the door is shut.
 */
code: string | null, };

export type ShakeView = { 
/**
 * Id of the take, in the scene.
 */
id: number, 
/**
 * Shake of the position in the worst second, cm; none for a take that is too short.
 */
position_cm: number | null, 
/**
 * Shake of the rotation in the worst second, degrees.
 */
rotation_deg: number | null, };

export type BaseRequest = { 
/**
 * None: the next roll is a take of its own.
 */
take: TakeId | null, };

export type SolidView = { 
/**
 * The piece it belongs to; 0 is the stage itself.
 */
piece: PieceId, 
/**
 * Place of the solid, metres.
 */
position: [number, number, number], 
/**
 * Rotation as a quaternion x, y, z, w.
 */
rotation: [number, number, number, number], 
/**
 * For people and files: "arm stage 2".
 */
name: string, 
/**
 * Material of the body.
 */
material: Material, } & ({ "shape": "box", 
/**
 * Whole lengths along x, y and z.
 */
size: [number, number, number], } | { "shape": "cylinder", 
/**
 * Radius of the cylinder, metres.
 */
radius: number, 
/**
 * Height of the cylinder, metres.
 */
height: number, } | { "shape": "wedge", 
/**
 * Whole lengths along x, y and z.
 */
size: [number, number, number], } | { "shape": "ball", 
/**
 * Radius of the ball, metres.
 */
radius: number, });

export type CardView = { 
/**
 * Id of the piece in the scene.
 */
piece: PieceId, 
/**
 * Id of the image asset; 0 for none.
 */
image: ImageId, 
/**
 * Images that follow one another on it.
 */
sequence: Sequence | null, 
/**
 * The setup it turns to.
 */
toward: SetupId | null, 
/**
 * It is where the performance has it.
 */
moves: boolean, 
/**
 * Width and height.
 */
size: [number, number], 
/**
 * Place of the card's foot, metres.
 */
position: [number, number, number], 
/**
 * Turn to the right, degrees.
 */
turn_deg: number, };

export type MeshView = { 
/**
 * Id of the piece in the scene.
 */
piece: PieceId, 
/**
 * Id of the mesh asset.
 */
mesh: MeshId, 
/**
 * Scale of the mesh over its file, above 0.
 */
scale: number, 
/**
 * Place of the mesh, metres.
 */
position: [number, number, number], 
/**
 * Rotation as a quaternion x, y, z, w.
 */
rotation: [number, number, number, number], };

export type OutlineView = { 
/**
 * Id of the piece in the scene.
 */
piece: PieceId, 
/**
 * Around its foot, unturned.
 */
outline: Array<[number, number]>, };

export type SetByPiece = { 
/**
 * Pieces that are taken out for setups: which, and for which.
 */
wild: Array<[PieceId, Array<SetupId>]>, 
/**
 * The stage's floor, and every piece that is drawn.
 */
pieces: Array<PieceView>, 
/**
 * Light sources of the set.
 */
lights: Array<Light>, 
/**
 * The colour of each material, red, green, blue, linear, 0 to 1.
 */
colors: Array<[Material, [number, number, number], boolean]>, 
/**
 * Images that stand in it.
 */
cards: Array<CardView>, 
/**
 * Meshes that were brought in.
 */
meshes: Array<MeshView>, 
/**
 * Pieces on the plan, from the lowest to the topmost.
 */
plan: Array<PieceId>, 
/**
 * Outlines of pieces that move, around each one's own foot.
 */
outlines: Array<OutlineView>, };

export type PieceView = { 
/**
 * Id of the piece in the scene; 0 for the stage's floor.
 */
piece: PieceId, 
/**
 * Version of what is drawn.
 */
version: string, 
/**
 * What is drawn; none for a version that the page has.
 */
drawn: PieceDrawn | null, };

export type PieceDrawn = { 
/**
 * Everything solid; empty for a piece that is drawn with the performers.
 */
solids: Array<SolidView>, 
/**
 * The piece from above; none for the stage's floor.
 */
plan: PiecePlan | null, };

export type MoverView = { 
/**
 * Id of the performer; none for a piece.
 */
performer: PerformerId | null, 
/**
 * Id of the piece; none for a performer.
 */
piece: PieceId | null, 
/**
 * Name of the performer or piece.
 */
name: string, 
/**
 * Its parts, in the order of the performance's poses.
 */
bodies: Array<Body>, 
/**
 * The path along the floor.
 */
path: Array<[number, number, number]>, 
/**
 * Points of the path per second.
 */
path_hz: number, 
/**
 * Words for the time strip.
 */
marks: Array<[number, string]>, };

export type ClipView = { 
/**
 * Id of the clip's asset.
 */
id: number, 
/**
 * Name from the file.
 */
name: string, 
/**
 * Length, seconds.
 */
length_s: number, };

export type AxisView = { 
/**
 * Name of the axis on its strip.
 */
name: string, 
/**
 * Name of the ink that the axis is drawn in.
 */
ink: string, 
/**
 * Action of a hand on the axis; none for an axis that no hand moves.
 */
hand: string | null, 
/**
 * Hands move it while something else says where the camera goes.
 */
base: boolean, 
/**
 * "machine", "head", "lens" or "carrier".
 */
group: string, 
/**
 * The wheel that it hangs on.
 */
wheel: Wheel, 
/**
 * Behind its numbers.
 */
unit: string, 
/**
 * Lower end stop, shown units; none for an endless axis.
 */
min: number | null, 
/**
 * Upper end stop, shown units; none for an endless axis.
 */
max: number | null, 
/**
 * Top speed, shown units per second.
 */
top_speed: number, 
/**
 * A second, a second.
 */
top_acceleration: number, 
/**
 * Value at the start, shown units.
 */
start: number, };

export type LineView = { 
/**
 * Points along it.
 */
points: Array<[number, number, number]>, 
/**
 * True if the line is a ring.
 */
closed: boolean, 
/**
 * Metres along it.
 */
length_m: number, 
/**
 * Sideways push at 1 m/s, m/s².
 */
push: number, 
/**
 * How suddenly it changes at 1 m/s, m/s³.
 */
jerk: number, 
/**
 * Number of places where that is felt.
 */
rough: number, };

export type HandleView = { 
/**
 * Name of the handle.
 */
word: string, 
/**
 * Shape of the handle.
 */
look: HandleLook, };

export type DragView = { 
/**
 * Values of the axes that the drag moves, in shown units; none for every other axis.
 */
targets: Array<number | null>, 
/**
 * Place of the handle with them, metres.
 */
at: [number, number, number], 
/**
 * Metres short of where the hand is; 0 within reach.
 */
shortfall_m: number, 
/**
 * The end stops that the machine stands at when it is short.
 */
limits: Array<string>, 
/**
 * What the camera can reach from there, axis by axis.
 */
traces: Array<Trace>, };

export type HandleLook = "camera" | "bar" | "square" | "round" | "cross";

export type BuiltHandle = { 
/**
 * Name of the handle on screen.
 */
word: string, 
/**
 * Shape of the handle on screen.
 */
look: HandleLook, 
/**
 * Parameters that a drag sets.
 */
sets: Sets, };

export type Sets = { "kind": "floor", 
/**
 * Path of the place's x.
 */
x: string, 
/**
 * Path of the place's z.
 */
z: string, } | { "kind": "place", 
/**
 * Path of the list of three numbers.
 */
path: string, } | { "kind": "heading", 
/**
 * Path of the heading.
 */
path: string, 
/**
 * Path of the place's x.
 */
x: string, 
/**
 * Path of the place's z.
 */
z: string, } | { "kind": "tangent", 
/**
 * Path of the list of three numbers.
 */
path: string, 
/**
 * Path of the place's list of three numbers.
 */
from: string, };

export type Trace = { 
/**
 * Name of the axis.
 */
axis: string, 
/**
 * Points of the way, metres.
 */
points: Array<[number, number, number]>, 
/**
 * True if the axis has end stops there; false for all round.
 */
ends: boolean, };

export type MachineView = { 
/**
 * Its parts, in the order of the poses in frames.
 */
bodies: Array<Body>, 
/**
 * Indices of the parts that its own lens does not see.
 */
unseen: Array<number>, 
/**
 * Indices of the wheels that leave trails on the floor.
 */
wheels: Array<number>, 
/**
 * Axes, in the order of the samples.
 */
axes: Array<AxisView>, 
/**
 * Solids of the machine that never move: track, rail, pedestal.
 */
fixed: Array<SolidView>, 
/**
 * What never moves of it, from above.
 */
plan: Array<PlanMark>, 
/**
 * Line that the machine runs along; none for a machine without rail or track.
 */
line: LineView | null, 
/**
 * How fast a crew can push its base, metres a second, where one pushes it.
 */
pushed_m_s: number | null, 
/**
 * Parameters of the machine with the values that it has now.
 */
params: Array<Param>, 
/**
 * Handles whose drag moves axes, in the order of their places in frames.
 */
handles: Array<HandleView>, 
/**
 * Handles whose drag changes parameters.
 */
built: Array<BuiltHandle>, 
/**
 * The parameters that say where it stands, x, z and heading, if it stands in one place.
 */
placement: [string, string, string] | null, 
/**
 * The kinds of treatments that can do anything for it, by name.
 */
treatments: Array<string>, 
/**
 * The frame on the sensor, millimetres wide and high, as it lies there.
 */
frame_mm: [number, number], 
/**
 * The largest blur that still looks sharp, thousandths of a millimetre.
 */
confusion_um: number, };

export type MachineKind = { 
/**
 * Name of the machine on screen.
 */
word: string, 
/**
 * Machine with the values it starts with.
 */
rig: RigSpec, 
/**
 * Axes of the machine without head and lens, by the names of their strips.
 */
hands: Array<string>, };

export type PutThere = { 
/**
 * Kind of the machine in JSON, for example "free_camera".
 */
kind: string, 
/**
 * Place of the camera, metres.
 */
position: [number, number, number], 
/**
 * Positive to the right.
 */
pan_deg: number, 
/**
 * Tilt, degrees, positive up.
 */
tilt_deg: number, 
/**
 * Positive clockwise.
 */
roll_deg: number, 
/**
 * What the machine must stand clear of; where it is missing the camera is exactly there, whatever is in its way.
 */
clear: ClearAt | null, };

export type ClearAt = { 
/**
 * Setup of the machine: pieces that are taken out for this setup are not in its way.
 */
setup: SetupId, 
/**
 * Scene time at which people and pieces are looked at, seconds.
 */
time_s: number, };

export type RollState = "standby" | "counting" | "pre-roll" | "rolling";

export type LeadKind = "axes" | "move" | "flown" | "device";

export type Preset = { 
/**
 * Name of the preset on screen.
 */
word: string, 
/**
 * Fields that the preset sets, and their values.
 */
sets: Array<[string, number]>, };

export type ExportKind = { 
/**
 * On the command line, and in the address.
 */
name: string, 
/**
 * Label on screen.
 */
label: string, 
/**
 * Hint: the content of the file.
 */
hint: string, 
/**
 * Ending of the file's name.
 */
ending: string, 
/**
 * Media type of the file.
 */
media: string, };

export type Drawing = { 
/**
 * Gesture on the plan.
 */
by: Gesture, 
/**
 * Key of the tool; none for a tool without a key.
 */
key: string | null, 
/**
 * True for a piece as high as the stage.
 */
tall: boolean, 
/**
 * True for a piece that stands in a wall.
 */
in_wall: boolean, 
/**
 * True for a piece that runs along its longer side and is open towards the middle of the stage.
 */
faces_middle: boolean, 
/**
 * Height of the piece's foot above the floor, metres.
 */
foot_m: number, 
/**
 * Parameter that reaches from the ceiling down to the foot; none for a piece that does not hang.
 */
hangs_by: string | null, 
/**
 * Parameter that counts the parts along a line, and the spacing that is wanted, metres; none for a piece of
 * one part.
 */
repeats: [string, number] | null, };

export type Extent = { 
/**
 * The parameter that is changed where somebody asks for another length; none where nothing is.
 */
path: string | null, 
/**
 * How often that parameter counts.
 */
times: number, 
/**
 * Another parameter that it is multiplied with, and how much less of it.
 */
each: [string, number] | null, 
/**
 * Length to add, metres.
 */
plus: number, 
/**
 * Another parameter on top.
 */
plus_of: string | null, };

export type Gesture = "spot" | "line" | "area";

export type PieceKind = { 
/**
 * Name of the kind on screen.
 */
word: string, 
/**
 * Form with default values.
 */
usual: Form, 
/**
 * Parameters of the kind.
 */
params: Array<Param>, 
/**
 * Extents along the piece's own x, y and z; none where a length means nothing.
 */
extents: [Extent | null, Extent | null, Extent | null], 
/**
 * Offset of the middle from the foot along the piece's own z; none for a middle at the foot.
 */
middle_z: Extent | null, 
/**
 * How a new piece is drawn on the plan; none for a piece that comes with a file.
 */
drawing: Drawing | null, };

export type PiecePlan = { 
/**
 * The piece.
 */
piece: PieceId, 
/**
 * Marks, from the lowest to the topmost.
 */
marks: Array<PlanMark>, 
/**
 * Least x and z, greatest x and z.
 */
bounds: [number, number, number, number], 
/**
 * It hangs over people's heads: plans draw it as seen through.
 */
overhead: boolean, 
/**
 * It is taken hold of by its ink alone, and not by the box around it, which may be large.
 */
thin: boolean, 
/**
 * Place of its name.
 */
label: PlanLabel, };

export type PlanLabel = "inside" | "landmark" | "number" | "none";

export type PlanMark = { 
/**
 * What the mark stands for.
 */
role: Role, } & ({ "shape": "areas", 
/**
 * Corners of each outline.
 */
outlines: Array<Array<[number, number]>>, } | { "shape": "leaf", 
/**
 * Middle of the circle: the hinge.
 */
hinge: [number, number], 
/**
 * Where the leaf is closed.
 */
closed: [number, number], 
/**
 * Where the leaf is open, a quarter turn on.
 */
open: [number, number], 
/**
 * Radius of the circle, metres.
 */
radius_m: number, } | { "shape": "lines", 
/**
 * Points of each line.
 */
lines: Array<Array<[number, number]>>, } | { "shape": "spots", 
/**
 * Middle of each circle.
 */
places: Array<[number, number]>, 
/**
 * Radius of the circles, metres.
 */
radius_m: number, } | { "shape": "words", 
/**
 * Place of the middle of the text.
 */
at: [number, number], 
/**
 * The text.
 */
text: string, } | { "shape": "length", 
/**
 * First end of the line.
 */
from: [number, number], 
/**
 * Second end of the line.
 */
to: [number, number], });

export type MarkShape = { "shape": "areas", 
/**
 * Corners of each outline.
 */
outlines: Array<Array<[number, number]>>, } | { "shape": "leaf", 
/**
 * Middle of the circle: the hinge.
 */
hinge: [number, number], 
/**
 * Where the leaf is closed.
 */
closed: [number, number], 
/**
 * Where the leaf is open, a quarter turn on.
 */
open: [number, number], 
/**
 * Radius of the circle, metres.
 */
radius_m: number, } | { "shape": "lines", 
/**
 * Points of each line.
 */
lines: Array<Array<[number, number]>>, } | { "shape": "spots", 
/**
 * Middle of each circle.
 */
places: Array<[number, number]>, 
/**
 * Radius of the circles, metres.
 */
radius_m: number, } | { "shape": "words", 
/**
 * Place of the middle of the text.
 */
at: [number, number], 
/**
 * The text.
 */
text: string, } | { "shape": "length", 
/**
 * First end of the line.
 */
from: [number, number], 
/**
 * Second end of the line.
 */
to: [number, number], };

export type Role = "wall" | "thing" | "glass" | "rail" | "tape" | "gap" | "way" | "track" | "sleeper" | "guide" | "rough" | "machine" | "person" | "walk" | "path" | "tick" | "sight" | "dimension";

export type FollowView = { 
/**
 * The stretches of time in which it is short.
 */
gaps: Array<Stretch>, 
/**
 * The move's length.
 */
length_s: number, 
/**
 * Metres short at each frame.
 */
short_m: Array<number>, 
/**
 * Metres a second of the base at each frame.
 */
base_m_s: Array<number>, };

export type FiguresView = { 
/**
 * Figures of the raw take.
 */
raw: Metrics, 
/**
 * After the treatments.
 */
now: Metrics, 
/**
 * Departure of the treated move from the raw take.
 */
departure: Departure, 
/**
 * All of it as it is read: those that are always shown first.
 */
rows: Array<Figure>, 
/**
 * Warnings about the treated move.
 */
warnings: Array<Warning>, 
/**
 * Marks in the curves of the axes, in order of time.
 */
marks: Array<Mark>, };

export type ReachView = { 
/**
 * The carrying axes, in shown units: what does it, or what comes closest.
 */
axes: Array<number>, 
/**
 * Metres short of the wanted position; 0 within reach.
 */
shortfall_m: number, 
/**
 * Degrees by which the camera then looks elsewhere than was wanted.
 */
shortfall_deg: number, 
/**
 * The end stops it stands at when it is short.
 */
limits: Array<string>, };

export type RehearsalView = { 
/**
 * Shortest time from the first position to the last, seconds.
 */
shortest_s: number, 
/**
 * Name of the axis that needs this time; none where no axis moves.
 */
bound_by: string | null, };

export type Whole = { 
/**
 * Revision of the document.
 */
revision: number, 
/**
 * Versions of what is worked out of it.
 */
versions: VersionsView, 
/**
 * Id of the open production on the shelf; empty while none is open.
 */
on_shelf: string, 
/**
 * Name of the production.
 */
production: string, 
/**
 * All of its scenes in order, binned ones too.
 */
scenes: Array<SceneLine>, 
/**
 * The scene being worked on.
 */
scene: Scene, 
/**
 * The number that the next take will have; passes share that of the take they are over.
 */
next_take: number, 
/**
 * The production's own lens sets.
 */
lens_sets: Array<LensSet>, 
/**
 * Assets: meshes, images, captured motion.
 */
assets: Array<Asset>, 
/**
 * Next steps of undo and redo.
 */
history: History, 
/**
 * Setups, in order, binned ones too.
 */
setups: Array<Setup>, 
/**
 * Takes in the order they were rolled, binned ones too.
 */
takes: Array<Take>, 
/**
 * Moves in the order they were made, binned ones too.
 */
moves: Array<Move>, };

export type SceneLine = { 
/**
 * Id of the scene, unique in the production.
 */
id: SceneId, 
/**
 * Scene number on the slate.
 */
number: string, 
/**
 * Scene name on the slate.
 */
name: string, 
/**
 * Frames a second.
 */
rate: Rate, 
/**
 * Length of the performance, seconds.
 */
length_s: number, 
/**
 * Number of setups.
 */
setups: number, 
/**
 * Number of takes without passes.
 */
takes: number, 
/**
 * True for a scene in the bin.
 */
binned: boolean, };

export type SceneHead = { 
/**
 * Scene number on the slate.
 */
number: string, 
/**
 * Scene name on the slate.
 */
name: string, 
/**
 * Frames a second.
 */
rate: Rate, 
/**
 * Length of the performance, seconds.
 */
length_s: number, 
/**
 * The frame of day at which the scene's timecode starts.
 */
start_frame: number, 
/**
 * Size of the stage.
 */
stage: Stage, 
/**
 * The performance that plays.
 */
performance: PerformanceId, 
/**
 * True for a scene in the bin.
 */
binned: boolean, };

export type ListChange<T> = { 
/**
 * New things and changed things, each whole.
 */
changed: Array<T>, 
/**
 * Ids of all things of the list, in order.
 */
order: Array<number>, };

export type ListChanges = { 
/**
 * Pieces of the set, in order.
 */
pieces?: ListChange<Piece>, 
/**
 * Performers, in order.
 */
performers?: ListChange<Performer>, 
/**
 * Alternatives of what everybody does, in order.
 */
performances?: ListChange<Performance>, 
/**
 * Setups, in order, binned ones too.
 */
setups?: ListChange<Setup>, 
/**
 * Takes in the order they were rolled, binned ones too.
 */
takes?: ListChange<Take>, 
/**
 * Moves in the order they were made, binned ones too.
 */
moves?: ListChange<Move>, };

export type Changed = { 
/**
 * The revision it is told from; a page that has an earlier one has missed something.
 */
since: number, 
/**
 * The revision it leads to.
 */
revision: number, 
/**
 * Versions that differ.
 */
versions: VersionsView, 
/**
 * Next steps of undo and redo.
 */
history: History, 
/**
 * The other production that is open now.
 */
on_shelf?: string, 
/**
 * Name of the production.
 */
production?: string, 
/**
 * All scenes of the production.
 */
scenes?: Array<SceneLine>, 
/**
 * The other scene that is on the floor now; all lists are of it.
 */
scene_id?: SceneId, 
/**
 * The scene without its lists.
 */
scene?: SceneHead, 
/**
 * The number that the next take will have.
 */
next_take?: number, 
/**
 * All lens sets of the production.
 */
lens_sets?: Array<LensSet>, 
/**
 * All assets of the production.
 */
assets?: Array<Asset>, 
/**
 * Pieces of the set, in order.
 */
pieces?: ListChange<Piece>, 
/**
 * Performers, in order.
 */
performers?: ListChange<Performer>, 
/**
 * Alternatives of what everybody does, in order.
 */
performances?: ListChange<Performance>, 
/**
 * Setups, in order, binned ones too.
 */
setups?: ListChange<Setup>, 
/**
 * Takes in the order they were rolled, binned ones too.
 */
takes?: ListChange<Take>, 
/**
 * Moves in the order they were made, binned ones too.
 */
moves?: ListChange<Move>, };

export type Edit = { 
/**
 * Label for undo.
 */
label: string, 
/**
 * Edits in a row with the same gesture are undone together.
 */
gesture?: string, 
/**
 * The revision of the document it was made from; paths that another page wrote since are
 * refused. None: whatever is there.
 */
base: number, 
/**
 * Operations, in order.
 */
ops: Array<Op>, };

export type Edits = { 
/**
 * Any word that is the page's own.
 */
page: string, 
/**
 * The scene whose things they are.
 */
scene: SceneId, 
/**
 * Edits, in order.
 */
edits: Array<Edit>, };

export type Edited = { 
/**
 * The numbers that new things were given, by what they were called.
 */
made: { [name: string]: number }, 
/**
 * Changes of the document.
 */
changed: Changed, };

export type StepRequest = { 
/**
 * Page that asks; see [`Edits`].
 */
page: string, 
/**
 * The entry that was shown; none for whichever is next.
 */
entry?: number, };

export type Station = "set" | "takes";

export type ImportKind = { 
/**
 * Name of the kind, as requests name it.
 */
name: string, 
/**
 * Station at which it is offered.
 */
station: Station, 
/**
 * Endings of its files, with the dot, in small letters.
 */
endings: Array<string>, 
/**
 * What a file of the kind is, and what it becomes: a sentence.
 */
hint: string, 
/**
 * Parameters of the kind.
 */
params: Array<Param>, 
/**
 * Its parameters with the values that are offered first.
 */
usual: { [path: string]: unknown }, };

export type ImportedThings = { 
/**
 * Changes of the document.
 */
changed: Changed, 
/**
 * Ids of the new pieces.
 */
pieces: Array<PieceId>, 
/**
 * New performers.
 */
performers: Array<PerformerId>, 
/**
 * Id of the new take.
 */
take: TakeId | null, };

export type CardSeat = { 
/**
 * Id of the card's piece.
 */
piece: PieceId, 
/**
 * Place of the camera in the card's frame, metres.
 */
position: [number, number, number], };

export type SetupView = { 
/**
 * Id of the setup in the scene.
 */
id: number, 
/**
 * Place of the camera, metres.
 */
position: [number, number, number], 
/**
 * Rotation as a quaternion x, y, z, w.
 */
rotation: [number, number, number, number], 
/**
 * Focal length, millimetres.
 */
focal_mm: number, 
/**
 * The parts of its machine.
 */
bodies: Array<Body>, 
/**
 * Indices of the parts that its own lens does not see.
 */
unseen: Array<number>, 
/**
 * Places and rotations of the bodies, seven numbers each.
 */
poses: Array<[number, number, number, number, number, number, number]>, 
/**
 * Its track or rail.
 */
fixed: Array<SolidView>, 
/**
 * What never moves of its machine, from above.
 */
plan: Array<PlanMark>, 
/**
 * For one that stays square to a card: the card, and its pose before the card's foot.
 */
card: CardSeat | null, };

export type FrameRequest = { 
/**
 * Id of the setup that gives frame shape and lens set.
 */
setup_id: SetupId, 
/**
 * Direction from the eye to the corner at which the drag began.
 */
corner: [number, number, number], 
/**
 * Direction from the eye to the corner at which the drag ended.
 */
opposite: [number, number, number], 
/**
 * Drawn to the right.
 */
right: boolean, 
/**
 * True if the frame was drawn upwards.
 */
up: boolean, 
/**
 * The camera may roll.
 */
tilted: boolean, };

export type Offer = { 
/**
 * With that lens on.
 */
camera: Camera, 
/**
 * Directions of the frame's corners: upper left, upper right, lower right, lower left.
 */
corners: [[number, number, number], [number, number, number], [number, number, number], [number, number, number]], };

export type FrameView = { 
/**
 * Pan, degrees, positive to the right.
 */
pan_deg: number, 
/**
 * Tilt, degrees, positive up.
 */
tilt_deg: number, 
/**
 * Roll, degrees, positive clockwise.
 */
roll_deg: number, 
/**
 * With exactly the lens it takes, then with the lenses of the set next to it.
 */
offers: Array<Offer>, };
