import { newId } from "../document/patch";
import type { BentRail, RigSpec, Rigging, TrackPiece } from "../generated/types";

export type Kind = RigSpec["kind"];
type RailPoint = BentRail["points"][number];

/** Machines in words. */
export const kindWord: Record<Kind, string> = {
  tripod: "tripod",
  track_dolly: "track dolly",
  free_dolly: "free dolly",
  rail: "rail",
  jib: "jib",
  telescopic_crane: "telescopic crane",
  orbit_arm: "orbit arm",
  shoulder: "shoulder",
  free_camera: "free camera",
  aim_rig: "aim rig",
  square_to_card: "square to a card",
  tracked_camera: "tracked camera",
};

type Fields = readonly (readonly [path: string, name: string])[];
/** A line of numbers: label, unit, and which parameters. */
type Line = readonly [label: string, unit: string, fields: Fields];

const base: Line[] = [
  [
    "base x, z",
    "m",
    [
      ["base_x_m", "Base x"],
      ["base_z_m", "Base z"],
    ],
  ],
  ["heading", "°", [["heading_deg", "Heading"]]],
];
const track: Line[] = [
  [
    "track from x, z",
    "m",
    [
      ["track.x_m", "Track x"],
      ["track.z_m", "Track z"],
    ],
  ],
  ["track heading", "°", [["track.heading_deg", "Track heading"]]],
  ["rails over floor", "m", [["track.height_m", "Height of the rails"]]],
];
const arm: Line[] = [
  [
    "arm pivot, length",
    "m",
    [
      ["arm.pivot_m", "Arm pivot"],
      ["arm.length_m", "Arm length"],
    ],
  ],
  ["lens over arm", "m", [["arm.head_m", "Lens over the arm"]]],
  [
    "boom from, to",
    "°",
    [
      ["arm.boom_min_deg", "Lowest boom"],
      ["arm.boom_max_deg", "Highest boom"],
    ],
  ],
];
const boom: Line = [
  "boom from, to",
  "°",
  [
    ["boom_min_deg", "Lowest boom"],
    ["boom_max_deg", "Highest boom"],
  ],
];
const column: Line = ["column height", "m", [["column_height_m", "Column height"]]];
const drop: Line = ["head hangs under arm", "m", [["head_drop_m", "Head drop"]]];
const triple = (path: string, name: string): Fields =>
  ["x", "y", "z"].map((axis, i) => [`${path}.${i}`, `${name} ${axis}`] as const);

/** The numbers of each machine. */
export const numbersOf: Record<Kind, Line[]> = {
  tripod: [
    ...base,
    [
      "lens from, to",
      "m",
      [
        ["height_min_m", "Lowest lens"],
        ["height_max_m", "Highest lens"],
      ],
    ],
  ],
  track_dolly: [...track, ["arm to the right of track", "°", [["arm_heading_deg", "Arm heading"]]], ...arm],
  free_dolly: [...base, ["wheelbase", "m", [["wheelbase_m", "Wheelbase"]]], ...arm],
  rail: [["lens over rail", "m", [["lens_m", "Lens over the rail"]]]],
  jib: [...base, column, ["arm", "m", [["arm_m", "Arm length"]]], boom, drop],
  telescopic_crane: [
    ...base,
    column,
    boom,
    [
      "reach from, to",
      "m",
      [
        ["reach_min_m", "Shortest reach"],
        ["reach_max_m", "Longest reach"],
      ],
    ],
    drop,
  ],
  orbit_arm: [
    ["pivot", "m", triple("pivot_m", "Pivot")],
    ["camera at swing 0", "°", [["heading_deg", "Heading"]]],
    [
      "radius from, to",
      "m",
      [
        ["radius_min_m", "Shortest radius"],
        ["radius_max_m", "Longest radius"],
      ],
    ],
  ],
  shoulder: [...base, ["lens when upright", "m", [["stands_m", "Lens when upright"]]]],
  tracked_camera: [
    ["starts at", "m", triple("start_m", "Start")],
    ["looks", "°", [["start_pan_deg", "Start pan"]]],
    ["top speed", "m/s", [["top_m_s", "Top speed"]]],
  ],
  free_camera: [
    ["starts at", "m", triple("start_m", "Start")],
    [
      "looks",
      "°",
      [
        ["start_pan_deg", "Start pan"],
        ["start_tilt_deg", "Start tilt"],
        ["start_roll_deg", "Start roll"],
      ],
    ],
    ["top speed", "m/s", [["top_m_s", "Top speed"]]],
  ],
  aim_rig: [
    ...base,
    ["camera from root", "m", triple("camera_m", "Camera")],
    ["aim point", "m", triple("aim_m", "Aim")],
    ["aim strength", "", [["strength", "Aim strength"]]],
  ],
  square_to_card: [],
};

/** A parameter by its path. */
export function numberAt(rig: Rigging, path: string): number {
  return path
    .split(".")
    .reduce<unknown>((part, key) => (part as Record<string, unknown>)[key], rig) as number;
}

/** The machine with another value at a path. */
export function withNumber<T>(rig: T, path: string, value: number): T {
  const [first, ...rest] = path.split(".");
  const part = (rig as Record<string, unknown>)[first!];
  const inner = rest.length === 0 ? value : withNumber(part, rest.join("."), value);
  if (Array.isArray(rig)) return rig.map((v: unknown, i) => (i === Number(first) ? inner : v)) as T;
  return { ...rig, [first!]: inner };
}

type Place = [number, number];

/** Where a machine stands on the plan, if it stands in one place. */
export function baseOf(rig: Rigging): Place | null {
  switch (rig.kind) {
    case "tripod":
    case "free_dolly":
    case "jib":
    case "shoulder":
    case "aim_rig":
      return [rig.base_x_m, rig.base_z_m];
    case "telescopic_crane":
      return rig.track ? [rig.track.x_m, rig.track.z_m] : [rig.base_x_m, rig.base_z_m];
    case "track_dolly":
      return [rig.track.x_m, rig.track.z_m];
    default:
      return null;
  }
}

/** The machine, standing elsewhere. */
export function movedTo(rig: Rigging, [x, z]: Place): Rigging {
  switch (rig.kind) {
    case "tripod":
    case "free_dolly":
    case "jib":
    case "shoulder":
    case "aim_rig":
      return { ...rig, base_x_m: x, base_z_m: z };
    case "telescopic_crane":
      if (!rig.track) return { ...rig, base_x_m: x, base_z_m: z };
      return { ...rig, track: { ...rig.track, x_m: x, z_m: z } };
    case "track_dolly":
      return { ...rig, track: { ...rig.track, x_m: x, z_m: z } };
    default:
      return rig;
  }
}

const cm = (v: number) => Math.round(v * 100) / 100;

/** Where a camera is, for putting a machine there. */
export interface There {
  position: readonly [number, number, number];
  pan: number;
}

/** A machine as it comes, placed so that its camera is about where one is now, looking the same way. */
export function placed(rig: RigSpec, { position: [x, y, z], pan }: There): RigSpec {
  const turn = (pan * Math.PI) / 180;
  /** So far ahead and to the right of the camera. */
  const at = (ahead: number, right: number): Place => [
    cm(x + Math.sin(turn) * ahead + Math.cos(turn) * right),
    cm(z - Math.cos(turn) * ahead + Math.sin(turn) * right),
  ];
  const standing = (behind: number) => {
    const [base_x_m, base_z_m] = at(-behind, 0);
    return { base_x_m, base_z_m, heading_deg: cm(pan) };
  };
  switch (rig.kind) {
    case "tripod":
    case "shoulder":
      return { ...rig, ...standing(0) };
    case "free_dolly":
      return { ...rig, ...standing(rig.arm.length_m) };
    case "jib":
      return { ...rig, ...standing(rig.arm_m) };
    case "telescopic_crane":
      return { ...rig, ...standing(4.1) };
    case "aim_rig":
      return { ...rig, ...standing(rig.camera_m[2]) };
    case "track_dolly": {
      const [x_m, z_m] = at(-0.9, -3.66);
      return {
        ...rig,
        arm_heading_deg: -90,
        track: { ...rig.track, x_m, z_m, heading_deg: cm(pan + 90) },
      };
    }
    case "rail": {
      const points = [-3, 0, 3].map((right, i): RailPoint => {
        const [px, pz] = at(i === 1 ? -0.6 : 0, right);
        return { id: newId(), position: [px, cm(y - rig.lens_m), pz], tangent: null };
      });
      const [ax, az] = at(4, 0);
      return { ...rig, points, heading_deg: cm(pan), aim_m: [ax, cm(y), az] };
    }
    case "orbit_arm": {
      const [px, pz] = at(2.6, 0);
      return { ...rig, pivot_m: [px, cm(y), pz], heading_deg: cm(pan + 180) };
    }
    case "free_camera":
    case "tracked_camera":
      return { ...rig, start_m: [cm(x), cm(y), cm(z)], start_pan_deg: cm(pan) };
    default:
      return rig;
  }
}

/** A free camera at a pose. */
export const freeCamera = (
  start_m: [number, number, number],
  pan: number,
  tilt: number,
  roll: number,
): RigSpec => ({
  kind: "free_camera",
  start_m,
  start_pan_deg: pan,
  start_tilt_deg: tilt,
  start_roll_deg: roll,
  along_view: false,
  floor: false,
  walls: false,
  top_m_s: 3,
});

/** Arms that are usual; lengths are common practice, no source. */
export const arms: [string, number, number][] = [
  ["short", 1.5, 4.2],
  ["middle", 2.13, 7.62],
  ["long", 3.4, 13.7],
];

/** Track as it comes: straight lengths of 8, 4 and 2 ft, curves of an eighth of a circle. */
export const stock: [string, TrackPiece][] = [
  ["2.44", { piece: "straight", length_m: 2.44, rise_m: 0 }],
  ["1.22", { piece: "straight", length_m: 1.22, rise_m: 0 }],
  ["0.61", { piece: "straight", length_m: 0.61, rise_m: 0 }],
  ["45° left", { piece: "curve", radius_m: 3.05, turn_deg: -45, rise_m: 0 }],
  ["45° right", { piece: "curve", radius_m: 3.05, turn_deg: 45, rise_m: 0 }],
];

/** What has to be brought: how many of which piece. */
export function count(pieces: TrackPiece[]): string {
  const words = pieces.map((p) =>
    p.piece === "straight" ? `${p.length_m} m` : `${Math.abs(p.turn_deg)}° at ${p.radius_m} m`,
  );
  return [...new Set(words)].map((w) => `${words.filter((v) => v === w).length} × ${w}`).join(", ");
}

/** Points for a rail all round a place. */
export function circle([x, y, z]: readonly [number, number, number], radius: number): RailPoint[] {
  return Array.from({ length: 8 }, (_, i) => {
    const a = (i * Math.PI) / 4;
    return {
      id: newId(),
      position: [cm(x + radius * Math.sin(a)), cm(y), cm(z - radius * Math.cos(a))],
      tangent: null,
    } satisfies RailPoint;
  });
}

/** Every point on the straight line from the first to the last. */
export function straightened(points: RailPoint[]): RailPoint[] {
  const [a, b] = [points[0]!.position, points.at(-1)!.position];
  return points.map(({ id }, i) => {
    const s = i / (points.length - 1);
    return {
      id,
      position: a.map((v, k) => cm(v + (b[k]! - v) * s)) as RailPoint["position"],
      tangent: null,
    };
  });
}
