import type { SetupId } from "../generated/types";
/** The state frame: the floor at one moment. The layout is described in docs/wire.md. */

export const flag = { rolling: 1, counting: 2, running: 4, silent: 8, preRoll: 16 } as const;
export const axisFlag = { armed: 1, atEnd: 2, nearEnd: 4, driven: 8, led: 16, past: 32 } as const;

export interface AxisState {
  value: number;
  speed: number;
  flags: number;
  /** Seconds until it reaches the end it goes to; infinite where it does not. */
  stopsIn: number;
}

/** Position (3) and rotation (x, y, z, w): seven numbers a pose. */
export type Poses = Float32Array;

export interface StateFrame {
  flags: number;
  setup: SetupId;
  step: number;
  sceneTime: number;
  /** Left of the count in, or rolled so far. */
  rollTime: number;
  focal: number;
  focus: number;
  stop: number;
  /** Nearest and farthest sharp distance; the farthest may be infinite. */
  near: number;
  far: number;
  /** From where on everything behind is sharp. */
  hyperfocal: number;
  /** The performer who is largest in the frame, by id; 0 is nobody. */
  subject: number;
  /** Height of that performer in frames. */
  share: number;
  /** Half the frame at a distance of 1: to the right, and up. */
  halfFrame: [number, number];
  /** How large that performer is, by the name that shots have. */
  shot: string;
  /** Something stands between the lens and both their eyes and their chest. */
  covered: boolean;
  /** Packed timecode of the scene (`timecodeText`). */
  timecode: number;
  /** The angles that the frame sees across and up, degrees. */
  sees: [number, number];
  /** Pan, tilt, roll, degrees. */
  angles: [number, number, number];
  position: [number, number, number];
  rotation: [number, number, number, number];
  axes: AxisState[];
  bodies: Poses;
  /** Places of the machine's handles, in the order in which the machine lists them. */
  handles: (readonly [number, number, number])[];
  /** Metres from where the camera is wanted, while something wants it somewhere. */
  short: number;
  /** How fast what carries the camera goes over the floor, metres a second; null where no crew pushes it. */
  base: number | null;
  /** Clearance of the machine; null without an obstacle near enough. */
  clearance: Clearance | null;
  /** The machines of the other setups. */
  others: Other[];
  /** Driven performer or piece, and the poses of its parts. */
  acting: Acting | null;
  /** Loads of driven machines. */
  riding: Acting[];
}

/** Metres between surfaces, 0 being a hit: of the lens or the machine, to whom or what. */
export interface Clearance {
  metres: number;
  of: "lens" | "machine";
  kind: Acting["kind"];
  id: number;
}

export interface Acting {
  kind: "performer" | "piece";
  id: number;
  bodies: Poses;
}

export interface Other {
  setup: SetupId;
  focal: number;
  bodies: Poses;
  position: [number, number, number];
  rotation: [number, number, number, number];
}

/** A packed timecode as it is read aloud: with a semicolon before the frames where numbers are dropped. */
export function timecodeText(packed: number): string {
  const two = (shift: number, mask = 0xff) => String((packed >>> shift) & mask).padStart(2, "0");
  return `${two(24, 0x7f)}:${two(16)}:${two(8)}${packed >>> 31 ? ";" : ":"}${two(0)}`;
}

const MAGIC = 0x52;
const VERSION = 9;

/** Kinds of movers by their codes on the wire. */
export const kinds: (Acting["kind"] | undefined)[] = [undefined, "performer", "piece"];

/** Sizes of shots as they are sent. */
export const shotWords = ["", "wide", "full", "middle", "tight", "very tight"];

export function decodeState(buffer: ArrayBuffer): StateFrame {
  const view = new DataView(buffer);
  if (view.getUint8(0) !== MAGIC || view.getUint8(1) !== VERSION) {
    throw new Error("this page is older than the server; reload it");
  }
  const count = view.getUint8(3);
  const f64 = (at: number) => view.getFloat64(at, true);
  const f32 = (at: number) => view.getFloat32(at, true);
  const axes: AxisState[] = [];
  let at = 172;
  for (let i = 0; i < count; i++, at += 16) {
    const stops = view.getUint16(at + 14, true);
    axes.push({
      value: f64(at),
      speed: f32(at + 8),
      flags: view.getUint8(at + 12),
      stopsIn: stops === 0xffff ? Infinity : stops / 100,
    });
  }
  /** Reads a count of poses, then seven numbers each. */
  const poses = (): Poses => {
    const list = new Float32Array(view.getUint32(at, true) * 7);
    for (let i = 0; i < list.length; i++) list[i] = f32(at + 4 + i * 4);
    at += 4 + list.length * 4;
    return list;
  };
  const bodies = poses();
  const machines = view.getUint32(at, true);
  at += 4;
  const others: Other[] = Array.from({ length: machines }, () => {
    const v = (k: number) => f32(at + 8 + k * 4);
    const other = {
      setup: view.getUint32(at, true),
      focal: f32(at + 4),
      position: [v(0), v(1), v(2)] as Other["position"],
      rotation: [v(3), v(4), v(5), v(6)] as Other["rotation"],
    };
    at += 36;
    return { ...other, bodies: poses() };
  });
  /** Reads a mover with its poses. */
  const moving = (): Acting | null => {
    const kind = kinds[view.getUint32(at, true)];
    const id = view.getUint32(at + 4, true);
    at += 8;
    const bodies = poses();
    return kind ? { kind, id, bodies } : null;
  };
  const acting = moving();
  const carried = view.getUint32(at, true);
  at += 4;
  const riding = Array.from({ length: carried }, moving).filter((one) => one !== null);
  const held = view.getUint32(at, true);
  at += 4;
  const handles = Array.from(
    { length: held },
    (_, i) => [0, 1, 2].map((k) => f32(at + (i * 3 + k) * 4)) as unknown as StateFrame["handles"][number],
  );
  const near = view.getUint8(164);
  return {
    flags: view.getUint8(2),
    setup: view.getUint32(4, true),
    step: f64(8),
    sceneTime: f64(16),
    rollTime: f32(24),
    focal: f32(28),
    focus: f32(32),
    stop: f32(36),
    near: f32(40),
    far: f32(44),
    angles: [f32(48), f32(52), f32(56)],
    hyperfocal: f32(60),
    subject: view.getUint32(120, true),
    share: f32(124),
    halfFrame: [f32(132), f32(136)],
    shot: shotWords[view.getUint8(140)] ?? "",
    covered: view.getUint8(141) === 1,
    timecode: view.getUint32(144, true),
    sees: [f32(148), f32(152)],
    position: [f64(64), f64(72), f64(80)],
    rotation: [f64(88), f64(96), f64(104), f64(112)],
    axes,
    bodies,
    handles,
    short: f32(128),
    base: f32(156) < 0 ? null : f32(156),
    clearance:
      near === 0
        ? null
        : {
            metres: f32(160),
            of: near === 1 ? "lens" : "machine",
            kind: kinds[view.getUint8(165)] ?? "piece",
            id: view.getUint32(168, true),
          },
    others,
    acting,
    riding,
  };
}
