// Generated from the server's types by crates/server/tests/types.rs. Do not edit.

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
 * Width over height of the frame that is cut from the sensor.
 */
frame_aspect: number, 
/**
 * The shorter end of the zoom.
 */
focal_min_mm: number, 
/**
 * The longer end of the zoom.
 */
focal_max_mm: number, 
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
 * The stop.
 */
f_stop: number, };

export type HeadHang = "level" | "lean";

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
head: HeadHang, };

export type FreeCamera = { 
/**
 * Start position.
 */
start_m: [number, number, number], 
/**
 * Start pan.
 */
start_pan_deg: number, };

export type RigSpec = { "kind": "telescopic_crane" } & TelescopicCrane | { "kind": "free_camera" } & FreeCamera;

export type Material = "concrete" | "plaster" | "brick" | "steel" | "dark_steel" | "rail_steel" | "timber" | "glass" | "lit_glass" | "lamp_glow" | "tram_red" | "tram_cream" | "signal" | "cloth" | "uniform" | "skin" | "machine" | "machine_arm" | "camera_body";

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
height: number, } | { "shape": "ball", 
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
height: number, } | { "shape": "ball", 
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
material: Material, } | { "kind": "stair", 
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
width: number, } | { "kind": "gallery", 
/**
 * Along x, top over the foot, along z.
 */
size: [number, number, number], 
/**
 * Where along x the railing is open for a stair: from, to.
 */
opening: [number, number], } | { "kind": "rails", 
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
lit: boolean, } | { "kind": "workbench", 
/**
 * Along x.
 */
length: number, } | { "kind": "lamp", 
/**
 * Length of its cord.
 */
cord: number, };

export type Piece = { 
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
turn_deg: number, };

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

export type Waypoint = { 
/**
 * Seconds of scene time.
 */
time_s: number, 
/**
 * Under the feet.
 */
position: [number, number, number], 
/**
 * Where the figure looks: 0 is −Z, positive to the right. Without it, where it walks.
 */
facing_deg?: number | null, 
/**
 * A word for the time strip.
 */
mark?: string | null, };

export type Performer = { 
/**
 * Who.
 */
name: string, 
/**
 * Standing, without the cap.
 */
height_m: number, 
/**
 * What they do.
 */
waypoints: Array<Waypoint>, };

export type SmoothBy = { "by": "binomial", 
/**
 * 1 to 400.
 */
passes: number, } | { "by": "gaussian", 
/**
 * Its standard deviation.
 */
sigma_s: number, };

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

export type Kind = { "kind": "smooth" } & Smooth;

export type Treatment = { 
/**
 * Switched off, it is kept but does nothing.
 */
on: boolean, } & ({ "kind": "smooth" } & Smooth);

export type Figures = { 
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
 * See the module.
 */
shake_position_cm: number | null, 
/**
 * See the module.
 */
shake_rotation_deg: number | null, 
/**
 * Of the speed along the path.
 */
spectral_arc_position: number | null, 
/**
 * Of the turning speed.
 */
spectral_arc_rotation: number | null, 
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
 * See the module.
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

export type History = { 
/**
 * Names the edit that undo would take back.
 */
undo: string | null, 
/**
 * Names the edit that redo would do again.
 */
redo: string | null, };

export type Rating = "none" | "good";

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
rig: RigSpec, 
/**
 * The move: what is done to the take.
 */
treatments: Array<Treatment>, 
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
rig: RigSpec, 
/**
 * In the bin.
 */
binned: boolean, };

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
performers: Array<Performer>, };

export type Document = { 
/**
 * Name of the production.
 */
production: string, 
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
 * What undo and redo would do.
 */
history: History, };

export type Command = { "do": "drive", 
/**
 * One an axis.
 */
rates: Array<number>, 
/**
 * One an axis.
 */
nudges: Array<number>, } | { "do": "feel", 
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
count_in_s: number, } | { "do": "cut" } | { "do": "run", 
/**
 * Runs.
 */
on: boolean, } | { "do": "seek", 
/**
 * Seconds of scene time.
 */
time_s: number, } | { "do": "return" } | { "do": "go", 
/**
 * One an axis.
 */
targets: Array<number | null>, } | { "do": "ask" } | { "do": "give" } | { "do": "keep" };

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
 * The page that asks for them.
 */
asking: number | null, 
/**
 * How many pages are open.
 */
pages: number, 
/**
 * "standby", "counting" or "rolling".
 */
roll: string, 
/**
 * Which axes record.
 */
armed: Array<boolean>, 
/**
 * The speed dial.
 */
dial: number, 
/**
 * The fluid drag.
 */
drag: number, 
/**
 * The performance runs.
 */
running: boolean, 
/**
 * What stopped the recorder, until the next roll.
 */
trouble: string | null, };

export type Tell = { "tell": "you", 
/**
 * Its number.
 */
page: number, } | { "tell": "status", 
/**
 * Which.
 */
status: Status, } | { "tell": "revision", 
/**
 * Counts up.
 */
revision: number, } | { "tell": "refused", 
/**
 * Why.
 */
sentence: string, };

export type SolidView = { 
/**
 * The piece it belongs to, as a place in the scene's list.
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
height: number, } | { "shape": "ball", 
/**
 * Half the width.
 */
radius: number, });

export type SetView = { 
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
colors: Array<[Material, [number, number, number], boolean]>, };

export type FigureView = { 
/**
 * Who.
 */
name: string, 
/**
 * Its parts, in the order of the performance's poses.
 */
bodies: Array<Body>, 
/**
 * The path along the floor, a point every quarter second.
 */
path: Array<[number, number, number]>, 
/**
 * Words for the time strip.
 */
marks: Array<[number, string]>, };

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
 * "machine", "head" or "lens".
 */
group: string, 
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
 * Where it starts.
 */
start: number, };

export type MachineView = { 
/**
 * Its parts, in the order of the poses in frames.
 */
bodies: Array<Body>, 
/**
 * Its axes.
 */
axes: Array<AxisView>, };

export type AxisTop = { 
/**
 * Which.
 */
name: string, 
/**
 * Its unit.
 */
unit: string, 
/**
 * As rolled.
 */
raw: number, 
/**
 * After the treatments.
 */
now: number, };

export type FiguresView = { 
/**
 * As rolled.
 */
raw: Figures, 
/**
 * After the treatments.
 */
now: Figures, 
/**
 * How far apart.
 */
departure: Departure, 
/**
 * Top speed of each axis.
 */
axes: Array<AxisTop>, };

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
 * The end stops it stands at when it is short.
 */
limits: Array<string>, };

export type PatchProduction = { 
/**
 * As on the slate.
 */
name: string, };

export type PatchScene = { 
/**
 * As on the slate.
 */
number?: string, 
/**
 * As on the slate.
 */
name?: string, 
/**
 * Frames a second.
 */
rate?: Rate, };

export type PatchSetup = { 
/**
 * What it is for.
 */
name?: string, 
/**
 * Sensor, frame, lens.
 */
camera?: Camera, 
/**
 * The machine and where it stands.
 */
rig?: RigSpec, 
/**
 * Changes of one gesture are undone together.
 */
gesture?: string, };

export type PatchTake = { 
/**
 * A name of its own.
 */
name?: string, 
/**
 * What the operator thought of it.
 */
rating?: Rating, 
/**
 * A note.
 */
note?: string, 
/**
 * Into the bin, or back.
 */
binned?: boolean, 
/**
 * What is done to it.
 */
treatments?: Array<Treatment>, 
/**
 * Changes of one gesture are undone together.
 */
gesture?: string, };
