// Generated from the server's types by crates/server/tests/routes/types.rs. Do not edit.

export type Rate = { 
/**
 * Frames …
 */
num: number, 
/**
 * … in this many seconds.
 */
den: number, };

export type Camera = { 
/**
 * Sensor width; 24.89 mm is 35 mm full aperture.
 */
sensor_width_mm: number, 
/**
 * Sensor height.
 */
sensor_height_mm: number, 
/**
 * How much wider an anamorphic lens sees than its focal length says; 1 is spherical.
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
 * Where the zoom stands when the camera is set up.
 */
focal_mm: number, 
/**
 * The closest distance that can be sharp.
 */
closest_focus_m: number, 
/**
 * Where the focus stands when the camera is set up.
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
 * The longer end.
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
 * 1 is spherical.
 */
squeeze: number, };

export type LensSet = { 
/**
 * As it is asked for.
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
 * Where the base stands on the floor.
 */
base_x_m: number, 
/**
 * Where the base stands on the floor.
 */
base_z_m: number, 
/**
 * Where the arm points at swing 0: 0 is −Z, positive to the right.
 */
heading_deg: number, 
/**
 * The arm's pivot over the floor.
 */
column_height_m: number, 
/**
 * How far the arm swings to each side; none for all round.
 */
swing_limit_deg: number | null, 
/**
 * Lowest boom.
 */
boom_min_deg: number, 
/**
 * Highest boom.
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
 * What the base runs on; it stands on the floor without.
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
 * Start pan.
 */
start_pan_deg: number, 
/**
 * Start tilt.
 */
start_tilt_deg: number, 
/**
 * Start roll.
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
 * At full speed.
 */
top_m_s: number, };

export type SquareToCard = { 
/**
 * The piece.
 */
card: number, 
/**
 * Middle of its foot.
 */
position: [number, number, number], 
/**
 * To the right.
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
 * Climbed.
 */
rise_m: number, } | { "piece": "curve", 
/**
 * Of the middle between the rails.
 */
radius_m: number, 
/**
 * Turned.
 */
turn_deg: number, 
/**
 * Climbed.
 */
rise_m: number, };

export type DollyTrack = { 
/**
 * Where it begins.
 */
x_m: number, 
/**
 * Where it begins.
 */
z_m: number, 
/**
 * Top of the rails there, over the floor.
 */
height_m: number, 
/**
 * Which way it begins: 0 is −Z, positive to the right.
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
 * Pivot to head.
 */
length_m: number, 
/**
 * Lens over the arm's end.
 */
head_m: number, 
/**
 * Lowest boom.
 */
boom_min_deg: number, 
/**
 * Highest boom.
 */
boom_max_deg: number, };

export type Tripod = { 
/**
 * Where it stands on the floor.
 */
base_x_m: number, 
/**
 * Where it stands on the floor.
 */
base_z_m: number, 
/**
 * Where the camera looks at pan 0: 0 is −Z, positive to the right.
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
 * Where it starts.
 */
base_x_m: number, 
/**
 * Where it starts.
 */
base_z_m: number, 
/**
 * Where it looks at the start: 0 is −Z, positive to the right.
 */
heading_deg: number, 
/**
 * Which wheels steer.
 */
steering: Steering, 
/**
 * Front axle to rear axle.
 */
wheelbase_m: number, 
/**
 * What lifts the head.
 */
arm: BoomArm, };

export type Facing = "along" | "holds" | "aims";

export type BentRail = { 
/**
 * What it is bent through.
 */
points: Array<{ id: number } & RailPoint>, 
/**
 * Goes round.
 */
closed: boolean, 
/**
 * Where the head faces.
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
follows: number | null, 
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
 * Where the base stands on the floor.
 */
base_x_m: number, 
/**
 * Where the base stands on the floor.
 */
base_z_m: number, 
/**
 * Where the arm points at swing 0: 0 is −Z, positive to the right.
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
 * Lowest boom.
 */
boom_min_deg: number, 
/**
 * Highest boom.
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
 * Where the pivot starts; measured from somebody's eyes when they are followed.
 */
pivot_m: [number, number, number], 
/**
 * Where the camera stands at swing 0, seen from the pivot: 0 is −Z, positive to the right.
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
 * Whom the pivot goes with.
 */
follows: number | null, };

export type Shoulder = { 
/**
 * Where they start.
 */
base_x_m: number, 
/**
 * Where they start.
 */
base_z_m: number, 
/**
 * Where they face at the start: 0 is −Z, positive to the right.
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
 * Where the root starts.
 */
base_x_m: number, 
/**
 * Where the root starts.
 */
base_z_m: number, 
/**
 * Where the root faces: 0 is −Z, positive to the right.
 */
heading_deg: number, 
/**
 * Where the camera starts, from the root.
 */
camera_m: [number, number, number], 
/**
 * Where the aim point starts, from the root, or from the eyes of whom it follows.
 */
aim_m: [number, number, number], 
/**
 * How far the camera turns to the aim point: 0 not at all, 1 all the way.
 */
strength: number, 
/**
 * Focus stays on the aim point.
 */
focus_follows: boolean, 
/**
 * Whom the aim point goes with.
 */
follows: number | null, };

export type TrackedCamera = { 
/**
 * Where it is before a device moves it.
 */
start_m: [number, number, number], 
/**
 * Start pan.
 */
start_pan_deg: number, 
/**
 * At full speed, by device or by hand.
 */
top_m_s: number, };

export type RigSpec = { "kind": "tripod" } & Tripod | { "kind": "track_dolly" } & TrackDolly | { "kind": "free_dolly" } & FreeDolly | { "kind": "rail" } & BentRail | { "kind": "jib" } & Jib | { "kind": "telescopic_crane" } & TelescopicCrane | { "kind": "orbit_arm" } & OrbitArm | { "kind": "shoulder" } & Shoulder | { "kind": "free_camera" } & FreeCamera | { "kind": "aim_rig" } & AimRig | { "kind": "square_to_card" } & SquareToCard | { "kind": "tracked_camera" } & TrackedCamera;

export type Carrier = { "by": "piece", 
/**
 * Of the scene.
 */
id: number, } | { "by": "performer", 
/**
 * Of the scene.
 */
id: number, } | { "by": "setup", 
/**
 * Of the scene.
 */
id: number, 
/**
 * One of its moves.
 */
move: number | null, };

export type Rigging = { 
/**
 * None: the floor.
 */
carried?: Carrier, } & ({ "kind": "tripod" } & Tripod | { "kind": "track_dolly" } & TrackDolly | { "kind": "free_dolly" } & FreeDolly | { "kind": "rail" } & BentRail | { "kind": "jib" } & Jib | { "kind": "telescopic_crane" } & TelescopicCrane | { "kind": "orbit_arm" } & OrbitArm | { "kind": "shoulder" } & Shoulder | { "kind": "free_camera" } & FreeCamera | { "kind": "aim_rig" } & AimRig | { "kind": "square_to_card" } & SquareToCard | { "kind": "tracked_camera" } & TrackedCamera);

export type Position = { 
/**
 * As it is called.
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
 * As a sentence, with the amount.
 */
what: string, 
/**
 * When.
 */
when: Stretch, };

export type Material = "concrete" | "plaster" | "brick" | "steel" | "dark_steel" | "rail_steel" | "timber" | "glass" | "lit_glass" | "lamp_glow" | "tram_red" | "tram_cream" | "signal" | "cloth" | "uniform" | "skin" | "machine" | "machine_arm" | "camera_body" | "tape_red" | "tape_yellow" | "tape_blue" | "tape_green" | "tape_orange" | "tape_white" | "card";

export type Shape = { "shape": "box", 
/**
 * Whole lengths along x, y and z.
 */
size: [number, number, number], } | { "shape": "cylinder", 
/**
 * Half the width.
 */
radius: number, 
/**
 * Whole height.
 */
height: number, } | { "shape": "wedge", 
/**
 * Whole lengths along x, y and z.
 */
size: [number, number, number], } | { "shape": "ball", 
/**
 * Half the width.
 */
radius: number, };

export type Body = { 
/**
 * For people and files: "arm stage 2".
 */
name: string, 
/**
 * What it is made of.
 */
material: Material, } & ({ "shape": "box", 
/**
 * Whole lengths along x, y and z.
 */
size: [number, number, number], } | { "shape": "cylinder", 
/**
 * Half the width.
 */
radius: number, 
/**
 * Whole height.
 */
height: number, } | { "shape": "wedge", 
/**
 * Whole lengths along x, y and z.
 */
size: [number, number, number], } | { "shape": "ball", 
/**
 * Half the width.
 */
radius: number, });

export type Stage = { 
/**
 * Along x.
 */
width_m: number, 
/**
 * Along z.
 */
depth_m: number, 
/**
 * Clear height.
 */
height_m: number, };

export type Tape = "red" | "yellow" | "blue" | "green" | "orange" | "white";

export type Sequence = { 
/**
 * In order; the first is seen before it begins, and the last stays.
 */
images: Array<number>, 
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
 * Along x, y and z.
 */
size: [number, number, number], 
/**
 * Of all of it.
 */
material: Material, } | { "kind": "round", 
/**
 * Half the width.
 */
radius: number, 
/**
 * Whole height.
 */
height: number, 
/**
 * Of all of it.
 */
material: Material, } | { "kind": "wall", 
/**
 * Length, height, thickness.
 */
size: [number, number, number], 
/**
 * Of all of it.
 */
material: Material, } | { "kind": "opening", 
/**
 * Along the wall.
 */
width: number, 
/**
 * From its foot up.
 */
height: number, } | { "kind": "door", 
/**
 * With the frame.
 */
width: number, 
/**
 * With the frame.
 */
height: number, 
/**
 * How far the leaf stands open.
 */
open_deg: number, } | { "kind": "window", 
/**
 * With the frame.
 */
width: number, 
/**
 * With the frame.
 */
height: number, 
/**
 * Light behind it.
 */
lit: boolean, } | { "kind": "stair", 
/**
 * How many.
 */
steps: number, 
/**
 * Height of each.
 */
rise: number, 
/**
 * Depth of each.
 */
run: number, 
/**
 * Across.
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
 * How many.
 */
count: number, 
/**
 * From middle to middle.
 */
spacing: number, 
/**
 * Of each, both ways.
 */
width: number, 
/**
 * Of each.
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
 * Along x.
 */
length: number, 
/**
 * Between the rails.
 */
gauge: number, } | { "kind": "tram", 
/**
 * Along x.
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
 * Along x.
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
 * As called out.
 */
number: number, 
/**
 * Whose it is.
 */
tape: Tape, } | { "kind": "card", 
/**
 * The image.
 */
image: number, 
/**
 * Along x.
 */
width: number, 
/**
 * From its foot up.
 */
height: number, 
/**
 * The setup it always turns to, about the vertical.
 */
toward: number | null, 
/**
 * Images that follow one another on it, instead of the one.
 */
sequence?: Sequence, } | { "kind": "mesh", 
/**
 * The mesh.
 */
mesh: number, 
/**
 * Whole size at scale 1.
 */
size: [number, number, number], 
/**
 * Its footprint at scale 1.
 */
outline: Array<[number, number]>, 
/**
 * How much larger than it came.
 */
scale: number, };

export type PieceRoute = { 
/**
 * Which performance.
 */
performance: number, 
/**
 * From place to place; facings are turns of the piece.
 */
route: Route, };

export type Piece = { 
/**
 * Its id; a new one is given its own.
 */
id: number, 
/**
 * As written on the plan.
 */
name: string, 
/**
 * Its form.
 */
form: Form, 
/**
 * Metres.
 */
position: [number, number, number], 
/**
 * To the right, seen from above.
 */
turn_deg: number, 
/**
 * Pieces with the same number are picked and moved together; 0 is none.
 */
group: number, 
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
wild?: Array<number>, 
/**
 * Where it goes in each performance; without one it stands.
 */
routes?: Array<PieceRoute>, 
/**
 * The machine whose carriage it goes along with, from where it is while that is at its start.
 */
rides?: Carrier, };

export type Light = { 
/**
 * Metres.
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
 * Under the feet.
 */
position: [number, number, number], 
/**
 * Where it looks while it stays: 0 is −Z, positive to the right. Without it, as it came.
 */
facing_deg?: number | null, 
/**
 * While it stays.
 */
posture: Posture, 
/**
 * A word for the time strip.
 */
mark?: string | null, };

export type Route = { 
/**
 * At least one.
 */
waypoints: Array<{ id: number } & Waypoint>, };

export type PartMotion = { "motion": "walks", 
/**
 * The path.
 */
route: Route, } | { "motion": "captured", 
/**
 * The motion.
 */
clip: number, 
/**
 * Scene time at which it begins.
 */
start_s: number, 
/**
 * What plays of it: from, to.
 */
trim_s: [number, number], 
/**
 * Where it begins.
 */
position: [number, number, number], 
/**
 * To the right.
 */
turn_deg: number, };

export type Part = { 
/**
 * Which performance.
 */
performance: number, 
/**
 * The piece or the machine it happens on, which carries it along. On a piece, places are around its
 * foot; on a machine, where they are on the set while it is at its start.
 */
rides: Carrier | null, } & ({ "motion": "walks", 
/**
 * The path.
 */
route: Route, } | { "motion": "captured", 
/**
 * The motion.
 */
clip: number, 
/**
 * Scene time at which it begins.
 */
start_s: number, 
/**
 * What plays of it: from, to.
 */
trim_s: [number, number], 
/**
 * Where it begins.
 */
position: [number, number, number], 
/**
 * To the right.
 */
turn_deg: number, });

export type Performer = { 
/**
 * Its id; a new one is given its own.
 */
id: number, 
/**
 * Who.
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
 * What they do; a performance without a part goes on without them.
 */
parts: Array<Part>, };

export type SmoothBy = { "by": "binomial", 
/**
 * 1 to 400.
 */
passes: number, } | { "by": "gaussian", 
/**
 * Its standard deviation.
 */
sigma_s: number, } | { "by": "low_pass", 
/**
 * Where half is left.
 */
cut_hz: number, } | { "by": "polynomial", 
/**
 * How much time it goes through.
 */
window_s: number, 
/**
 * Its degree: 2 keeps peaks, 4 keeps sharper ones.
 */
degree: number, };

export type Smooth = { 
/**
 * Arm or base.
 */
machine: SmoothBy | null, 
/**
 * Pan, tilt, roll.
 */
head: SmoothBy | null, 
/**
 * Zoom, focus.
 */
lens: SmoothBy | null, };

export type SteadyBy = "one_euro" | "fixed_lag";

export type Steady = { 
/**
 * Which filter.
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
 * Where the device's origin lies on the set.
 */
origin_m: [number, number, number], 
/**
 * Where its ahead points on the set, to the right of −Z.
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
 * Which device; empty where there is none.
 */
source: string, 
/**
 * What it moves.
 */
moves: SecondMoves, };

export type Tracking = { 
/**
 * Which device: its protocol and number, as [`crate::tracked`]'s sources are named.
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
 * Seconds.
 */
length_s: number, } | { "by": "speed", 
/**
 * When it begins to change, seconds.
 */
at_s: number, 
/**
 * How long it lasts, the ramps at both ends included.
 */
for_s: number, 
/**
 * How many times as fast.
 */
speed: number, 
/**
 * How long it takes to get to that speed, and back.
 */
ramp_s: number, } | { "by": "drawn", 
/**
 * How many times as fast, over the time that is seen, seconds.
 */
speed: Curve, } | { "by": "ease", 
/**
 * How long the start takes, seconds; 0 leaves it.
 */
start_s: number, 
/**
 * How long the stop takes.
 */
stop_s: number, } | { "by": "land", 
/**
 * Which, seconds.
 */
from_s: number, 
/**
 * When it is seen, seconds.
 */
at_s: number, };

export type Retime = { 
/**
 * How time goes.
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
 * How often.
 */
every: Interval, };

export type Side = { "side": "smooth" } | { "side": "straight" } | { "side": "flat" } | { "side": "hold" } | { "side": "free", 
/**
 * Units of the value a second.
 */
slope: number, 
/**
 * How far it is followed, as a share of the span; 0 to 1 does in any case.
 */
length: number, };

export type CurveKey = { 
/**
 * Seconds.
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
 * How far the start is followed in time, 0 to 1.
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
 * Seconds.
 */
time_s: number, } | { "by": "value", 
/**
 * Shown units of each axis.
 */
value: number, };

export type KeyEdit = { "do": "insert", 
/**
 * Seconds.
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
 * What it becomes.
 */
side: SideBy, } | { "do": "ease", 
/**
 * Which.
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
 * How many times as far apart in time.
 */
time: number, 
/**
 * How many times as far from the value that stays; below 0 it is turned over.
 */
value: number, 
/**
 * What stays.
 */
about: About, } | { "do": "repeat", 
/**
 * How often.
 */
times: number, } | { "do": "even" } | { "do": "close" } | { "do": "paste", 
/**
 * When the first of them is to stand, seconds.
 */
at_s: number, 
/**
 * What was copied, its first time 0.
 */
keys: { [axis: string]: Array<{ id: number } & CurveKey> }, };

export type MarkKind = "stop" | "turn" | "beyond" | "fast";

export type Mark = { 
/**
 * Whose curve.
 */
axis: string, 
/**
 * What.
 */
kind: MarkKind, 
/**
 * Seconds.
 */
from_s: number, 
/**
 * Seconds.
 */
to_s: number, 
/**
 * In words, with the amount.
 */
what: string, };

export type EaseView = { 
/**
 * Which.
 */
ease: Ease, 
/**
 * How far it is at even steps from its start to its end, 0 to 1.
 */
drawn: Array<number>, };

export type KeysWanted = { 
/**
 * The keys of the axes that are picked, and of those that the camera's way depends on.
 */
curves: { [axis: string]: Array<{ id: number } & CurveKey> }, 
/**
 * The numbers of those that are meant, axis by axis.
 */
picked: { [axis: string]: Array<number> }, 
/**
 * What is done to them.
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
 * How long it takes to come in, seconds.
 */
ease_in_s: number, 
/**
 * How long it takes to go out, seconds.
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
 * Its unit.
 */
unit: string, 
/**
 * Above 0.
 */
min: number, 
/**
 * The most.
 */
max: number, };

export type Case = { 
/**
 * In the JSON.
 */
name: string, 
/**
 * On screen.
 */
label: string, 
/**
 * What belongs to it.
 */
params: Array<Param>, };

export type Holds = { "kind": "number", 
/**
 * The least, in its unit.
 */
min: number, 
/**
 * The most.
 */
max: number, 
/**
 * What it is to begin with; where a thing describes itself, what it is.
 */
start: number, 
/**
 * What one step of an arrow key adds.
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
 * Who it is where it is nobody.
 */
nobody: string, 
/**
 * The point that is measured from their eyes while it is somebody, if there is one.
 */
point: string | null, 
/**
 * Where it is put when it is nobody, metres.
 */
alone: [number, number, number], } | { "kind": "piece", 
/**
 * What none is called.
 */
none: string, } | { "kind": "recorded", 
/**
 * What nothing is called.
 */
none: string, } | { "kind": "list", 
/**
 * What it is called where there is none; where that cannot be, there is at least one.
 */
none: string | null, 
/**
 * How many there may be.
 */
most: number, 
/**
 * What can be set of each.
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
 * The most.
 */
max: number, 
/**
 * To begin with: where, and what.
 */
start: Array<[number, number]>, } | { "kind": "variant", 
/**
 * The field that says which; none where the way's own name is the only field.
 */
tag: string | null, 
/**
 * The ways.
 */
cases: Array<Case>, };

export type Param = { 
/**
 * The field, in the JSON of the thing it belongs to: tokens with slashes. Empty for a row.
 */
path: string, 
/**
 * Whose it is, where its own label is one letter; else empty.
 */
of: string, 
/**
 * As it is called on screen.
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
 * What it is called where it is missing (null); none where it must be there.
 */
absent: string | null, 
/**
 * Values that are usual, by name.
 */
presets: Array<Preset>, 
/**
 * What it holds.
 */
holds: Holds, };

export type Described = { 
/**
 * In the JSON, and on the command line.
 */
name: string, 
/**
 * On screen.
 */
label: string, 
/**
 * What it is good for.
 */
hint: string, 
/**
 * Where it works.
 */
level: Level, 
/**
 * What can be set.
 */
params: Array<Param>, 
/**
 * As it is when somebody adds it.
 */
usual: Treatment, };

export type TreatmentKind = { "kind": "trim" } & Trim | { "kind": "retime" } & Retime | { "kind": "inner_cut" } & InnerCut | { "kind": "smooth" } & Smooth | { "kind": "steady" } & Steady | { "kind": "drift" } & Drift | { "kind": "keys" } & KeyEvery | { "kind": "aim" } & Aim | { "kind": "focus" } & Focus | { "kind": "counter_zoom" } & CounterZoom | { "kind": "correction" } & Correction | { "kind": "shake" } & Shake;

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
 * How much of it counts; all of it where missing.
 */
strength?: Strength, } & ({ "kind": "trim" } & Trim | { "kind": "retime" } & Retime | { "kind": "inner_cut" } & InnerCut | { "kind": "smooth" } & Smooth | { "kind": "steady" } & Steady | { "kind": "drift" } & Drift | { "kind": "keys" } & KeyEvery | { "kind": "aim" } & Aim | { "kind": "focus" } & Focus | { "kind": "counter_zoom" } & CounterZoom | { "kind": "correction" } & Correction | { "kind": "shake" } & Shake);

export type Meant = { 
/**
 * By name.
 */
axis: string, 
/**
 * Seconds of scene time.
 */
at_s: number, };

export type Becomes = "goes_on" | "turns" | "left" | "stays";

export type DriftStop = { 
/**
 * By name.
 */
axis: string, 
/**
 * When it begins, seconds.
 */
from_s: number, 
/**
 * When it ends.
 */
to_s: number, 
/**
 * What becomes of it.
 */
becomes: Becomes, };

export type FaultKind = "jolt" | "stop" | "lost" | "limit" | "near" | "covered";

export type Fault = { 
/**
 * What kind.
 */
kind: FaultKind, 
/**
 * In words.
 */
what: string, 
/**
 * When it begins, seconds.
 */
from_s: number, 
/**
 * When it ends.
 */
to_s: number, 
/**
 * Of how bad it is.
 */
unit: string, 
/**
 * How bad it is.
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
 * See [`FlatFocus`].
 */
focus: FlatFocus, };

export type Drift = { 
/**
 * How much time before and after a stop it takes: more is softer.
 */
reach_s: number, 
/**
 * How fast it goes on in the slowest, percent of going evenly.
 */
slow_percent: number, 
/**
 * Stops that are meant.
 */
leave?: Array<Meant>, };

export type Amounts = { 
/**
 * To the right, up, ahead.
 */
position_cm: [number, number, number], 
/**
 * Pan, tilt, roll.
 */
rotation_deg: [number, number, number], };

export type BodyPart = "eyes" | "chest" | "feet";

export type PlaceAt = { 
/**
 * Scene time.
 */
at_s: number, 
/**
 * Metres.
 */
place_m: [number, number, number], };

export type Target = { "at": "nearest", 
/**
 * Which part of them.
 */
part: BodyPart, } | { "at": "somebody", 
/**
 * By their number.
 */
who: number | null, 
/**
 * Which part of them.
 */
part: BodyPart, } | { "at": "piece", 
/**
 * By its number.
 */
piece: number | null, 
/**
 * So high over where it stands, metres.
 */
up_m: number, } | { "at": "place", 
/**
 * Metres.
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
 * How long the turn takes.
 */
over_s: number, 
/**
 * To whom or where.
 */
to: Target, };

export type Aim = { 
/**
 * Whom or what, from when on.
 */
turns: Array<Turn>, 
/**
 * Where in the frame: −1 left edge, 1 right edge.
 */
across: number, 
/**
 * Where in the frame: −1 lower edge, 1 upper edge.
 */
up: number, 
/**
 * How far it may wander from there, percent of half the frame's width.
 */
zone_percent: number, 
/**
 * How much later than it the camera is, seconds.
 */
lag_s: number, };

export type PresetTreatments = { 
/**
 * What the picture is like.
 */
name: string, 
/**
 * What is done to it, in a sentence.
 */
hint: string, 
/**
 * In the order in which they work.
 */
treatments: Array<Treatment>, };

export type CorrectionKey = { 
/**
 * Scene time.
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
 * Scene time.
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
 * How long it takes to come before the first key, and to go after the last.
 */
blend_s: number, };

export type Focus = { 
/**
 * On whom or what, from when on.
 */
turns: Array<Turn>, 
/**
 * How much nearer to the lens than they are.
 */
nearer_m: number, };

export type CounterZoom = { 
/**
 * Who stays as large; whoever is nearest to the middle of the picture then.
 */
who: number | null, 
/**
 * As large as they are then, scene time.
 */
as_at_s: number, };

export type ShakeBy = { "by": "noise", 
/**
 * The slowest.
 */
from_hz: number, 
/**
 * The quickest.
 */
to_hz: number, 
/**
 * By which power of the frequency it falls: 0 not at all, 1 as hands do.
 */
falls: number, 
/**
 * To the right, up, ahead.
 */
position_cm: [number, number, number], 
/**
 * Pan, tilt, roll.
 */
rotation_deg: [number, number, number], } | { "by": "own", 
/**
 * How much of it, over Hz: in proportion, whatever the greatest is.
 */
spectrum: Curve, 
/**
 * To the right, up, ahead.
 */
position_cm: [number, number, number], 
/**
 * Pan, tilt, roll.
 */
rotation_deg: [number, number, number], } | { "by": "steps", 
/**
 * Steps a second of the operator.
 */
per_s: number, 
/**
 * Whose; the operator's own.
 */
who: number | null, 
/**
 * To the right, up, ahead.
 */
position_cm: [number, number, number], 
/**
 * Pan, tilt, roll.
 */
rotation_deg: [number, number, number], } | { "by": "sampled", 
/**
 * Which take; none, and nothing shakes.
 */
take: number | null, 
/**
 * What is faster than this.
 */
from_hz: number, 
/**
 * From where in it, seconds.
 */
starts_s: number, 
/**
 * How many times as far as it did: places, and turns.
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
 * To the right, up, ahead.
 */
position_cm: [number, number, number], 
/**
 * Pan, tilt, roll.
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
 * What shakes it.
 */
way: ShakeBy, };

export type CalmBy = "bell" | "low_pass";

export type Wish = { 
/**
 * So many times less shake in its worst second than before, of position and of rotation.
 */
times: number, 
/**
 * What to smooth with.
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

export type Calmed = { 
/**
 * Shake in the worst second before.
 */
raw: number, 
/**
 * What was wished.
 */
wished: number, 
/**
 * What it is now.
 */
reached: number, 
/**
 * How far it departs.
 */
departure: number, 
/**
 * What it would take to have the wished: how far it would depart; missing where it is had.
 */
would_depart: number | null, };

export type Calm = { 
/**
 * The least that does it, or the nearest that is allowed.
 */
smooth: Smooth, 
/**
 * Missing where there is no shake to speak of.
 */
position: Calmed | null, 
/**
 * Missing where there is no shake to speak of.
 */
rotation: Calmed | null, 
/**
 * What could not be had, and what it would take; one sentence each.
 */
told: Array<string>, };

export type CurvesOf = "axes" | "camera" | "speed" | "shake" | "distance";

export type LaneKind = { 
/**
 * Beside its curve.
 */
name: string, 
/**
 * Of its values.
 */
unit: string, 
/**
 * The ink it is drawn in, by the name of the axis that has it in the palette.
 */
ink: string, 
/**
 * How much of it is shown at the least, so that what is still looks still.
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
 * Seconds.
 */
from_s: number, 
/**
 * Seconds.
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
 * Of where the camera is; missing under 2 s, and where there are too few points a second.
 */
shake_position_cm: ShakeFigure | null, 
/**
 * Of where the camera looks.
 */
shake_rotation_deg: ShakeFigure | null, 
/**
 * Of the speed along the path.
 */
spectral_arc_position: number | null, 
/**
 * Of the turning speed.
 */
spectral_arc_rotation: number | null, 
/**
 * Of the speed along the path, under a bell of 0.1 s.
 */
log_jerk_position: number | null, 
/**
 * Of the turning speed, under a bell of 0.1 s.
 */
log_jerk_rotation: number | null, 
/**
 * Along the path.
 */
top_speed_m_s: number, 
/**
 * Of all turning together.
 */
top_turn_deg_s: number, 
/**
 * Of pan.
 */
top_pan_deg_s: number, 
/**
 * Of tilt.
 */
top_tilt_deg_s: number, 
/**
 * Of roll.
 */
top_roll_deg_s: number, 
/**
 * In order.
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
 * Largest angle.
 */
rotation_deg: number, };

export type Verdict = "good" | "even" | "near" | "bad";

export type Figure = { 
/**
 * What is measured.
 */
name: string, 
/**
 * The same in a short sentence; empty where the name says it.
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
 * As rolled; missing where there is none.
 */
raw: number | null, 
/**
 * After the treatments.
 */
now: number | null, 
/**
 * What bounds it, in its unit.
 */
bound: number | null, 
/**
 * What became of it; empty where there is nothing to say.
 */
word: string, 
/**
 * See [`Verdict`].
 */
verdict: Verdict, 
/**
 * Where it is at its most, seconds.
 */
at_s: number | null, 
/**
 * Shown only on demand.
 */
more: boolean, };

export type Entry = { 
/**
 * Counted up.
 */
id: number, 
/**
 * What was done, in a few words.
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
 * Where; a new thing is called `new:1` until the answer names it.
 */
path: string, 
/**
 * What.
 */
value: unknown, 
/**
 * In a list: the member that it comes before; at the end where missing.
 */
before?: string, } | { "op": "remove", 
/**
 * Which.
 */
path: string, } | { "op": "replace", 
/**
 * Where.
 */
path: string, 
/**
 * What.
 */
value: unknown, } | { "op": "move", 
/**
 * Which.
 */
path: string, 
/**
 * The member that it comes before; at the end where missing.
 */
before?: string, } | { "op": "test", 
/**
 * Where.
 */
path: string, 
/**
 * What must be there.
 */
value: unknown, };

export type Rating = "none" | "good" | "hold" | "no";

export type Rolled = { 
/**
 * The performance that played; 0 where that is not known.
 */
performance: number, 
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
 * Who had which wheel, and from when on; empty where one page had all of them and gave no name.
 */
hands: Array<HandOn>, };

export type PassOf = { 
/**
 * The take below.
 */
take: number, 
/**
 * It is left out of the take.
 */
muted: boolean, 
/**
 * As it is called.
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
 * How long its joints take, seconds.
 */
blend_s: number, };

export type Take = { 
/**
 * Its id.
 */
id: number, 
/**
 * The setup it was rolled in.
 */
setup_id: number, 
/**
 * As on the slate; unique in the scene.
 */
number: number, 
/**
 * A name of its own, or nothing.
 */
name: string, 
/**
 * What the operator thought of it.
 */
rating: Rating, 
/**
 * A note.
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
 * How many samples.
 */
samples: number, 
/**
 * First to last sample.
 */
length_s: number, 
/**
 * As it was when the take was rolled.
 */
camera: Camera, 
/**
 * As it was when the take was rolled.
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
 * What it was rolled against and by what.
 */
rolled: Rolled, 
/**
 * Who or what has changed in that performance since.
 */
changed: Array<string>, 
/**
 * How many packets of a device are kept with it.
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
 * In the bin.
 */
binned: boolean, };

export type Setup = { 
/**
 * Its id.
 */
id: number, 
/**
 * As on the slate: A, B, C …
 */
letter: string, 
/**
 * What it is for.
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
 * Where it can be sent, by number.
 */
positions: Array<Position>, 
/**
 * The move that its machine runs: keyed, or following another.
 */
runs: number | null, 
/**
 * The device that may move its camera.
 */
tracking: Tracking, 
/**
 * In the bin.
 */
binned: boolean, };

export type Source = { "kind": "take", 
/**
 * Which.
 */
take: number, } | { "kind": "curves" } | { "kind": "follow", 
/**
 * The other move.
 */
move: number, };

export type Move = { 
/**
 * Its id.
 */
id: number, 
/**
 * The setup it belongs to.
 */
setup_id: number, 
/**
 * A name of its own, or nothing.
 */
name: string, 
/**
 * Where its motion comes from.
 */
source: Source, 
/**
 * The first of its siblings; none of that one itself.
 */
variant_of: number | null, 
/**
 * Of its siblings, the one that is shown.
 */
chosen: boolean, 
/**
 * Keys, by the names of axes; axes without are left out.
 */
curves: { [axis: string]: Array<{ id: number } & CurveKey> }, 
/**
 * What is done to it, in order.
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
 * In the bin.
 */
binned: boolean, };

export type NewMove = { 
/**
 * The setup it belongs to.
 */
setup_id: number, 
/**
 * A name of its own, or nothing.
 */
name?: string, 
/**
 * Where its motion comes from.
 */
source: Source, 
/**
 * The move that it is a variant of: it begins as a copy of its keys, treatments and camera.
 */
variant_of?: number, 
/**
 * Keys.
 */
curves?: { [axis: string]: Array<{ id: number } & CurveKey> }, 
/**
 * The setup's machine runs it from now on.
 */
run?: boolean, };

export type Tolerance = { 
/**
 * Centimetres.
 */
position_cm: number, 
/**
 * Degrees.
 */
rotation_deg: number, };

export type JobState = { "state": "waiting" } | { "state": "running", 
/**
 * From 0 to 1.
 */
share: number, } | { "state": "keys", 
/**
 * How many, all axes together.
 */
count: number, 
/**
 * The farthest the camera gets from where it was, centimetres.
 */
position_cm: number, 
/**
 * The most it looks elsewhere than it did, degrees.
 */
rotation_deg: number, } | { "state": "failed", 
/**
 * Why, and what to do.
 */
sentence: string, } | { "state": "stopped" };

export type JobView = { 
/**
 * Its number.
 */
id: number, 
/**
 * What is done, in a few words.
 */
label: string, 
/**
 * The move it is about, if it is about one.
 */
move_id: number | null, } & ({ "state": "waiting" } | { "state": "running", 
/**
 * From 0 to 1.
 */
share: number, } | { "state": "keys", 
/**
 * How many, all axes together.
 */
count: number, 
/**
 * The farthest the camera gets from where it was, centimetres.
 */
position_cm: number, 
/**
 * The most it looks elsewhere than it did, degrees.
 */
rotation_deg: number, } | { "state": "failed", 
/**
 * Why, and what to do.
 */
sentence: string, } | { "state": "stopped" });

export type KeptView = { 
/**
 * The new move.
 */
move_id: number, 
/**
 * Whether its setup's machine runs it: it does where it is the machine that it was made for.
 */
runs: boolean, 
/**
 * What the document has that it had not before.
 */
changed: Changed, };

export type AssetKind = "mesh" | "image" | "clip";

export type Asset = { 
/**
 * Its id.
 */
id: number, 
/**
 * What kind of thing.
 */
kind: AssetKind, 
/**
 * Of the file it came from.
 */
name: string, };

export type PerformanceName = { 
/**
 * Its id.
 */
id: number, 
/**
 * As it is called.
 */
name: string, };

export type Scene = { 
/**
 * Its id; a new one is given its own.
 */
id: number, 
/**
 * As on the slate.
 */
number: string, 
/**
 * As on the slate.
 */
name: string, 
/**
 * Frames a second.
 */
rate: Rate, 
/**
 * How long the performance is.
 */
length_s: number, 
/**
 * The frame of day at which the scene's timecode starts.
 */
start_frame: number, 
/**
 * The room.
 */
stage: Stage, 
/**
 * In order.
 */
pieces: Array<Piece>, 
/**
 * In order.
 */
performers: Array<Performer>, 
/**
 * Alternatives of what everybody does, in order.
 */
performances: Array<PerformanceName>, 
/**
 * The one that plays.
 */
performance: number, 
/**
 * In the bin.
 */
binned: boolean, };

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
 * In order.
 */
setups: Array<Setup>, 
/**
 * In the order they were rolled, binned ones too.
 */
takes: Array<Take>, 
/**
 * The number that the next take will have; passes share that of the take they are over.
 */
next_take: number, 
/**
 * What cameras do over time, in the order they were made, binned ones too.
 */
moves: Array<Move>, 
/**
 * The production's own lens sets.
 */
lens_sets: Array<LensSet>, 
/**
 * What was brought in.
 */
assets: Array<Asset>, 
/**
 * What undo and redo would do.
 */
history: History, };

export type Protocol = "opentrackio" | "freed";

export type SourceStatus = { 
/**
 * Its name, such as "freed 1".
 */
source: string, 
/**
 * From where.
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
 * What it last sent about the lens, in words.
 */
lens: string, 
/**
 * What was wrong with a packet, last.
 */
last_error: string | null, };

export type Wheel = "machine" | "head" | "lens" | "performer";

export type HandOn = { 
/**
 * Which.
 */
wheel: Wheel, 
/**
 * As they call themselves, or "page 3"; empty where nobody had it.
 */
by: string, 
/**
 * Seconds from the start of the take.
 */
from_s: number, };

export type Asking = { 
/**
 * Who asks.
 */
page: number, 
/**
 * For which wheel; all of them where it is not said.
 */
wheel: Wheel | null, };

export type PassWanted = { 
/**
 * As it will be called.
 */
name: string, 
/**
 * Where it begins, scene time; everything plays from below until then.
 */
from_s: number, 
/**
 * How long before that the playing begins.
 */
pre_roll_s: number, 
/**
 * How long its joints take.
 */
blend_s: number, };

export type HangStatus = { 
/**
 * Which.
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
 * Which device; empty while none is heard.
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

export type MoverId = { "kind": "performer", "id": number } | { "kind": "piece", "id": number };

export type Command = { "do": "drive", 
/**
 * One an axis.
 */
rates: Array<number>, 
/**
 * One an axis.
 */
nudges: Array<number>, 
/**
 * Everything at a fifth of its speed, for as long as it is said.
 */
fine: boolean, } | { "do": "pads", 
/**
 * Which.
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
 * The third axis.
 */
up: number, } | { "do": "shape", 
/**
 * One an axis.
 */
axes: Array<Shaping>, } | { "do": "feel", 
/**
 * Scales speed.
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
 * Records.
 */
on: boolean, } | { "do": "roll", 
/**
 * 0 to 5.
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
pass: PassWanted, } | { "do": "clock", 
/**
 * Seconds of the scene in a second.
 */
speed: number, } | { "do": "act", 
/**
 * Who; none for nobody.
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
 * To the right, −1 to 1.
 */
turn: number, 
/**
 * Runs.
 */
run: boolean, 
/**
 * Sits down, or stays seated.
 */
sit: boolean, } | { "do": "hang", 
/**
 * Which; none for hands.
 */
source: string, 
/**
 * Metres on set for a real metre.
 */
scale: number, } | { "do": "attach", 
/**
 * Attach.
 */
on: boolean, } | { "do": "cut" } | { "do": "run", 
/**
 * Runs.
 */
on: boolean, } | { "do": "loop", 
/**
 * Begins again.
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
 * One an axis.
 */
targets: Array<number | null>, } | { "do": "go_to", 
/**
 * Which.
 */
number: number, 
/**
 * How long it takes; as quickly as the dial and the limits allow where missing.
 */
seconds: number | null, } | { "do": "rehearse", 
/**
 * In order.
 */
positions: Array<number>, 
/**
 * From the first to the last.
 */
seconds: number, } | { "do": "level" } | { "do": "stay" } | { "do": "focus_on", 
/**
 * Whose, or nobody's.
 */
performer: number | null, } | { "do": "fly", 
/**
 * The camera.
 */
on: boolean, } | { "do": "discard" } | { "do": "ask", 
/**
 * Which; all where missing.
 */
wheel: Wheel | null, } | { "do": "give" } | { "do": "keep" } | { "do": "take_back", 
/**
 * Which.
 */
wheel: Wheel, } | { "do": "sign", 
/**
 * As they call themselves.
 */
name: string, };

export type Status = { 
/**
 * The setup on the floor.
 */
setup_id: number, 
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
 * What those who sit at pages call themselves.
 */
names: { [key in number]: string }, 
/**
 * How many pages are open.
 */
pages: number, 
/**
 * How far a roll is.
 */
roll: RollState, 
/**
 * Seconds of the scene in a second.
 */
clock: number, 
/**
 * The take that is laid below: what is not armed plays from it.
 */
below: number | null, 
/**
 * Who is driven.
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
 * Which axes record.
 */
armed: Array<boolean>, 
/**
 * What a pass is called that records what is armed, unless it is given a name.
 */
pass_name: string, 
/**
 * The speed dial.
 */
dial: number, 
/**
 * The fluid drag.
 */
drag: number, 
/**
 * How each axis takes what hands say.
 */
shaping: Array<Shaping>, 
/**
 * Who says where the camera goes.
 */
lead: LeadKind, 
/**
 * The performer on whose eyes the focus stays.
 */
focus_on: number | null, 
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
 * The performance runs.
 */
running: boolean, 
/**
 * What stopped the recorder, until the next roll.
 */
trouble: string | null, };

export type LiveOutWanted = { 
/**
 * Tells.
 */
on: boolean, 
/**
 * How.
 */
protocol: Protocol, 
/**
 * Who listens.
 */
address: string, 
/**
 * Where.
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
move_id: number | null, };

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
 * Tells.
 */
on: boolean, 
/**
 * How.
 */
protocol: Protocol, 
/**
 * Who listens.
 */
address: string, 
/**
 * Where.
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
move_id: number | null, };

export type OnShelf = { 
/**
 * What it is known by: its file's name without the ending.
 */
id: string, 
/**
 * As on the slate.
 */
name: string, 
/**
 * Its scenes, as they are numbered.
 */
scenes: Array<string>, 
/**
 * How many takes.
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
 * What its picture was drawn of; none where there is no picture.
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
 * Those used last first, those set aside at the end.
 */
productions: Array<OnShelf>, };

export type NewProduction = { 
/**
 * As on the slate.
 */
name: string, 
/**
 * Filled with the demo production rather than with an empty stage.
 */
demo: boolean, };

export type Shelved = { 
/**
 * See [`OnShelf`].
 */
id: string, };

export type CarryKind = "setup" | "piece" | "performer" | "performance" | "take" | "move";

export type CarryThing = { 
/**
 * What kind of thing.
 */
kind: CarryKind, 
/**
 * Its number there.
 */
id: number, };

export type CarryChoice = { "does": "along" } | { "does": "instead", 
/**
 * Its number here.
 */
with: number, } | { "does": "out" };

export type CarryWanted = { 
/**
 * Setups, pieces, performers.
 */
things: Array<CarryThing>, 
/**
 * Setups bring their takes.
 */
takes: boolean, 
/**
 * What becomes of what is referred to.
 */
choices: Array<[CarryThing, CarryChoice]>, };

export type CarryMissing = { 
/**
 * As it is called there.
 */
name: string, 
/**
 * What refers to it.
 */
by: Array<string>, 
/**
 * Whether that can do without it.
 */
out: boolean, 
/**
 * What of this scene can take its place: number and name.
 */
instead: Array<[number, string]>, 
/**
 * What kind of thing.
 */
kind: CarryKind, 
/**
 * Its number there.
 */
id: number, };

export type CarryOffer = { 
/**
 * As it is called there.
 */
name: string, 
/**
 * Of pieces: those with the same number belong together; 0 is none.
 */
group: number, 
/**
 * Of setups: how many takes.
 */
takes: number, 
/**
 * What kind of thing.
 */
kind: CarryKind, 
/**
 * Its number there.
 */
id: number, };

export type CarryFrom = { 
/**
 * What its production is known by on the shelf.
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
 * What becomes of what is referred to.
 */
choices: Array<[CarryThing, CarryChoice]>, };

export type Carried = { 
/**
 * How many things.
 */
count: number, 
/**
 * What the document has that it had not before.
 */
changed: Changed, };

export type PictureOf = "scene" | "take";

export type PictureLine = { 
/**
 * What it is of.
 */
of: PictureOf, 
/**
 * Which.
 */
id: number, 
/**
 * Of a take: 0 first, 1 middle, 2 last.
 */
part: number, 
/**
 * What it was drawn of.
 */
made_of: string, };

export type Tell = { "tell": "you", 
/**
 * Its number.
 */
page: number, } | { "tell": "status", 
/**
 * Which.
 */
status: Status, } | { "tell": "changed", 
/**
 * What.
 */
changed: Changed, } | { "tell": "jobs", 
/**
 * All of it.
 */
jobs: Array<JobView>, } | { "tell": "live_out", 
/**
 * As one line; empty for nobody.
 */
line: string, } | { "tell": "refused", 
/**
 * Why.
 */
sentence: string, };

export type Socket = { 
/**
 * What is spoken there.
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
 * Listens.
 */
on: boolean, };

export type SocketView = { 
/**
 * The port it has.
 */
open: number | null, 
/**
 * Why it does not listen.
 */
error: string | null, 
/**
 * What is spoken there.
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
 * Listens.
 */
on: boolean, };

export type StandInWanted = { 
/**
 * What it speaks.
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
 * Where they are listened for.
 */
sockets: Array<SocketView>, 
/**
 * Who is heard.
 */
sources: Array<SourceStatus>, 
/**
 * Senders that cannot be understood, and why.
 */
strangers: Array<[string, string]>, 
/**
 * The stand-in that runs.
 */
stand_in: StandInWanted | null, };

export type PhoneWanted = { 
/**
 * Open.
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
 * What was asked.
 */
wanted: PhoneWanted, 
/**
 * What to type into the phone; none while it is shut.
 */
address: string | null, 
/**
 * What to type there.
 */
code: string | null, };

export type ShakeView = { 
/**
 * Which.
 */
id: number, 
/**
 * Where the camera is, in its worst second; nothing where it is too short to have it.
 */
position_cm: number | null, 
/**
 * Where it looks, in its worst second.
 */
rotation_deg: number | null, };

export type BaseWanted = { 
/**
 * None: the next roll is a take of its own.
 */
take: number | null, };

export type SolidView = { 
/**
 * The piece it belongs to; 0 is the stage itself.
 */
piece: number, 
/**
 * Metres.
 */
position: [number, number, number], 
/**
 * x, y, z, w.
 */
rotation: [number, number, number, number], 
/**
 * Its outline from above.
 */
footprint: Array<[number, number]>, 
/**
 * For people and files: "arm stage 2".
 */
name: string, 
/**
 * What it is made of.
 */
material: Material, } & ({ "shape": "box", 
/**
 * Whole lengths along x, y and z.
 */
size: [number, number, number], } | { "shape": "cylinder", 
/**
 * Half the width.
 */
radius: number, 
/**
 * Whole height.
 */
height: number, } | { "shape": "wedge", 
/**
 * Whole lengths along x, y and z.
 */
size: [number, number, number], } | { "shape": "ball", 
/**
 * Half the width.
 */
radius: number, });

export type CardView = { 
/**
 * Of the scene.
 */
piece: number, 
/**
 * Which image; 0 is none.
 */
image: number, 
/**
 * Images that follow one another on it.
 */
sequence: Sequence | null, 
/**
 * The setup it turns to.
 */
toward: number | null, 
/**
 * It is where the performance has it.
 */
moves: boolean, 
/**
 * Width and height.
 */
size: [number, number], 
/**
 * Metres.
 */
position: [number, number, number], 
/**
 * To the right.
 */
turn_deg: number, };

export type MeshView = { 
/**
 * Of the scene.
 */
piece: number, 
/**
 * Which mesh.
 */
mesh: number, 
/**
 * How much larger than it came.
 */
scale: number, 
/**
 * Metres.
 */
position: [number, number, number], 
/**
 * x, y, z, w.
 */
rotation: [number, number, number, number], };

export type OutlineView = { 
/**
 * Of the scene.
 */
piece: number, 
/**
 * Around its foot, unturned.
 */
outline: Array<[number, number]>, };

export type SetView = { 
/**
 * Pieces that are taken out for setups: which, and for which.
 */
wild: Array<[number, Array<number>]>, 
/**
 * Everything solid.
 */
solids: Array<SolidView>, 
/**
 * What gives light.
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
 * Footprints of what has no solids, around each piece's own foot.
 */
outlines: Array<OutlineView>, };

export type MoverView = { 
/**
 * The performer.
 */
performer: number | null, 
/**
 * Or the piece.
 */
piece: number | null, 
/**
 * Who or what.
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
 * How many points of the path a second.
 */
path_hz: number, 
/**
 * Words for the time strip.
 */
marks: Array<[number, string]>, };

export type ClipView = { 
/**
 * Its id.
 */
id: number, 
/**
 * As the file called it.
 */
name: string, 
/**
 * How long it is.
 */
length_s: number, };

export type AxisView = { 
/**
 * As on its strip.
 */
name: string, 
/**
 * Whose ink it is drawn in.
 */
ink: string, 
/**
 * What a hand on it does; none where others move it.
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
 * End stop.
 */
min: number | null, 
/**
 * End stop.
 */
max: number | null, 
/**
 * A second.
 */
top_speed: number, 
/**
 * A second, a second.
 */
top_acceleration: number, 
/**
 * Where it starts.
 */
start: number, };

export type LineView = { 
/**
 * Points along it.
 */
points: Array<[number, number, number]>, 
/**
 * Goes round.
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
 * Places where that is felt: where, and how much.
 */
rough: Array<[[number, number, number], number]>, };

export type MachineView = { 
/**
 * Its parts, in the order of the poses in frames.
 */
bodies: Array<Body>, 
/**
 * Its axes.
 */
axes: Array<AxisView>, 
/**
 * What belongs to it and never moves.
 */
fixed: Array<SolidView>, 
/**
 * What it runs along.
 */
line: LineView | null, 
/**
 * How fast a crew can push its base, metres a second, where one pushes it.
 */
pushed_m_s: number | null, 
/**
 * What can be set of it, as it stands.
 */
params: Array<Param>, 
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
 * What it is called.
 */
word: string, 
/**
 * As it comes.
 */
rig: RigSpec, 
/**
 * What moves besides head and lens, and how hands call it.
 */
hands: Array<string>, };

export type PutThere = { 
/**
 * As it is written: "free_camera".
 */
kind: string, 
/**
 * Metres.
 */
position: [number, number, number], 
/**
 * Positive to the right.
 */
pan_deg: number, 
/**
 * Positive up.
 */
tilt_deg: number, 
/**
 * Positive clockwise.
 */
roll_deg: number, };

export type RollState = "standby" | "counting" | "pre-roll" | "rolling";

export type LeadKind = "axes" | "move" | "flown" | "device";

export type Preset = { 
/**
 * Their name.
 */
word: string, 
/**
 * Which fields, and what they are.
 */
sets: Array<[string, number]>, };

export type ExportKind = { 
/**
 * On the command line, and in the address.
 */
name: string, 
/**
 * On screen.
 */
label: string, 
/**
 * What is in it.
 */
hint: string, 
/**
 * What its file's name ends with.
 */
ending: string, 
/**
 * Its media type.
 */
media: string, };

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
 * Metres on top.
 */
plus: number, 
/**
 * Another parameter on top.
 */
plus_of: string | null, };

export type PieceKind = { 
/**
 * What it is called.
 */
word: string, 
/**
 * One as it comes.
 */
usual: Form, 
/**
 * What can be set of it.
 */
params: Array<Param>, 
/**
 * How long it is along its own x, y and z; none where a length means nothing.
 */
extents: [Extent | null, Extent | null, Extent | null], 
/**
 * Where its middle is from its foot along its own z; none for at its foot.
 */
middle_z: Extent | null, };

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
 * As rolled.
 */
raw: Metrics, 
/**
 * After the treatments.
 */
now: Metrics, 
/**
 * How far apart.
 */
departure: Departure, 
/**
 * All of it as it is read: those that are always shown first.
 */
rows: Array<Figure>, 
/**
 * What must be told of it after the treatments.
 */
warnings: Array<Warning>, 
/**
 * What in the curves of its axes is worth a look, in order of time.
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

export type Whole = { 
/**
 * Of the document.
 */
revision: number, 
/**
 * The revision at which what moves in the scene last changed.
 */
cast: number, 
/**
 * What the open production is known by on the shelf; empty while none is open.
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
 * In order.
 */
setups: Array<Setup>, 
/**
 * In the order they were rolled, binned ones too.
 */
takes: Array<Take>, 
/**
 * The number that the next take will have; passes share that of the take they are over.
 */
next_take: number, 
/**
 * What cameras do over time, in the order they were made, binned ones too.
 */
moves: Array<Move>, 
/**
 * The production's own lens sets.
 */
lens_sets: Array<LensSet>, 
/**
 * What was brought in.
 */
assets: Array<Asset>, 
/**
 * What undo and redo would do.
 */
history: History, };

export type SceneLine = { 
/**
 * Its id.
 */
id: number, 
/**
 * As on the slate.
 */
number: string, 
/**
 * As on the slate.
 */
name: string, 
/**
 * Frames a second.
 */
rate: Rate, 
/**
 * How long the performance is.
 */
length_s: number, 
/**
 * How many setups it has.
 */
setups: number, 
/**
 * How many takes, passes not counted.
 */
takes: number, 
/**
 * In the bin.
 */
binned: boolean, };

export type SceneHead = { 
/**
 * As on the slate.
 */
number: string, 
/**
 * As on the slate.
 */
name: string, 
/**
 * Frames a second.
 */
rate: Rate, 
/**
 * How long the performance is.
 */
length_s: number, 
/**
 * The frame of day at which the scene's timecode starts.
 */
start_frame: number, 
/**
 * The room.
 */
stage: Stage, 
/**
 * The performance that plays.
 */
performance: number, 
/**
 * In the bin.
 */
binned: boolean, };

export type ListChange<T> = { 
/**
 * New ones and changed ones, whole.
 */
changed: Array<T>, 
/**
 * The ids of all of them, in order.
 */
order: Array<number>, };

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
 * See [`Whole`].
 */
cast: number, 
/**
 * What undo and redo would do now.
 */
history: History, 
/**
 * The other production that is open now.
 */
on_shelf?: string, 
/**
 * Its name.
 */
production?: string, 
/**
 * All of them.
 */
scenes?: Array<SceneLine>, 
/**
 * The other scene that is on the floor now; all lists are of it.
 */
scene_id?: number, 
/**
 * The scene without its lists.
 */
scene?: SceneHead, 
/**
 * Pieces of the set.
 */
pieces?: ListChange<Piece>, 
/**
 * Who is in it.
 */
performers?: ListChange<Performer>, 
/**
 * All of them.
 */
performances?: Array<PerformanceName>, 
/**
 * Cameras and machines.
 */
setups?: ListChange<Setup>, 
/**
 * What was recorded.
 */
takes?: ListChange<Take>, 
/**
 * The number that the next take will have.
 */
next_take?: number, 
/**
 * What cameras do over time.
 */
moves?: ListChange<Move>, 
/**
 * All of them.
 */
lens_sets?: Array<LensSet>, 
/**
 * All of them.
 */
assets?: Array<Asset>, };

export type Edit = { 
/**
 * What undo will call it.
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
 * In order.
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
scene: number, 
/**
 * In order.
 */
edits: Array<Edit>, };

export type Edited = { 
/**
 * The numbers that new things were given, by what they were called.
 */
made: { [name: string]: number }, 
/**
 * What the document has that it had not before.
 */
changed: Changed, };

export type StepWanted = { 
/**
 * See [`Edits`].
 */
page: string, 
/**
 * The entry that was shown; none for whichever is next.
 */
entry?: number, };

export type Brought = { 
/**
 * What the document has that it had not before.
 */
changed: Changed, 
/**
 * New pieces.
 */
pieces: Array<number>, 
/**
 * New performers.
 */
performers: Array<number>, 
/**
 * The new take.
 */
take: number | null, };

export type CardSeat = { 
/**
 * The piece.
 */
piece: number, 
/**
 * Metres.
 */
position: [number, number, number], };

export type SetupView = { 
/**
 * Of the scene.
 */
id: number, 
/**
 * Metres.
 */
position: [number, number, number], 
/**
 * x, y, z, w.
 */
rotation: [number, number, number, number], 
/**
 * Where its zoom stands.
 */
focal_mm: number, 
/**
 * The parts of its machine.
 */
bodies: Array<Body>, 
/**
 * Where they stand: places and turns, seven numbers each.
 */
poses: Array<[number, number, number, number, number, number, number]>, 
/**
 * Its track or rail.
 */
fixed: Array<SolidView>, 
/**
 * For one that stays square to a card: the card, and its pose before the card's foot.
 */
card: CardSeat | null, };

export type FrameWanted = { 
/**
 * Whose frame shape and lens set.
 */
setup_id: number, 
/**
 * Where the drag began.
 */
corner: [number, number, number], 
/**
 * Where it ended.
 */
opposite: [number, number, number], 
/**
 * Drawn to the right.
 */
right: boolean, 
/**
 * Drawn upwards.
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
 * To the right.
 */
pan_deg: number, 
/**
 * Up.
 */
tilt_deg: number, 
/**
 * Clockwise.
 */
roll_deg: number, 
/**
 * With exactly the lens it takes, then with the lenses of the set next to it.
 */
offers: Array<Offer>, };
