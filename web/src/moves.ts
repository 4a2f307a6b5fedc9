import type { MoverView } from "./generated/types";
import { kinds, shotWords, type Acting } from "./live/wire";

/** Evaluated moves as the server sends them; the layouts are described in docs/wire.md. */

/** One frame of a move: seven numbers of the camera's pose, then these, then axes, bodies, who goes along. */
const FIXED = 23;

export interface MoveFrames {
  /** The scene's number of the first one. */
  first: number;
  frames: number;
  axes: number;
  bodies: number;
  /** Performers and pieces that go along with the machine, and their numbers of bodies. */
  riders: { kind: Acting["kind"]; id: number; bodies: number }[];
  /** Jumps: the frame from which on the camera is on the other side, and the time in frames from the first. */
  cuts: { frame: number; place: number }[];
  stride: number;
  /** Packed timecode of each frame. */
  timecodes: Uint32Array;
  data: Float32Array;
}

export function decodeMove(buffer: ArrayBuffer): MoveFrames {
  const [first = 0, frames = 0, axes = 0, bodies = 0, count = 0, jumps = 0] = new Uint32Array(buffer, 0, 6);
  const view = new DataView(buffer, 24, 8 * jumps);
  const cuts = Array.from({ length: jumps }, (_, i) => ({
    frame: view.getUint32(8 * i, true),
    place: view.getFloat32(8 * i + 4, true),
  }));
  const along = 24 + 8 * jumps;
  const riders = Array.from({ length: count }, (_, i) => {
    const [kind = 0, id = 0, bodies = 0] = new Uint32Array(buffer, along + 12 * i, 3);
    return { kind: kinds[kind] ?? "piece", id, bodies };
  });
  const start = along + 12 * count;
  const timecodes = new Uint32Array(buffer, start, frames);
  const data = new Float32Array(buffer, start + 4 * frames);
  const carried = riders.reduce((sum, r) => sum + r.bodies, 0);
  return {
    first,
    frames,
    axes,
    bodies,
    riders,
    cuts,
    stride: FIXED + axes + 7 * (bodies + carried),
    timecodes,
    data,
  };
}

/** The least and the greatest value on each column, in shown units. */
export interface Envelope {
  low: Float32Array;
  high: Float32Array;
}

/** The curves of all axes, on columns of equal width. */
export interface Lanes {
  samples: number;
  rate: number;
  /** Time of the first sample, seconds. */
  start: number;
  columns: number;
  raw: Envelope[];
  now: Envelope[];
}

export function decodeLanes(buffer: ArrayBuffer): Lanes {
  const [samples = 0, axes = 0, columns = 0] = new Uint32Array(buffer, 0, 3);
  const [rate = 120, start = 0] = new Float32Array(buffer, 12, 2);
  const bound = (i: number) => new Float32Array(buffer, 20 + i * columns * 4, columns);
  const every = (first: number) =>
    Array.from({ length: axes }, (_, i) => ({ low: bound(4 * i + first), high: bound(4 * i + first + 1) }));
  return { samples, rate, start, columns, raw: every(0), now: every(2) };
}

/** About what a curve is on the column of a time. */
export function valueAt(
  { samples, rate, start, columns }: Lanes,
  { low, high }: Envelope,
  time: number,
): number {
  const share = ((time - start) * rate) / Math.max(1, samples - 1);
  const c = Math.round(Math.min(1, Math.max(0, share)) * (columns - 1));
  return (low[c]! + high[c]!) / 2;
}

/** The least and the greatest value of several curves. */
export function spanOf(curves: Envelope[]): [number, number] {
  let [least, most] = [Infinity, -Infinity];
  for (const { low, high } of curves) {
    for (const v of low) if (v < least) least = v;
    for (const v of high) if (v > most) most = v;
  }
  // Of nothing there is no span.
  return least > most ? [0, 0] : [least, most];
}

/** True if two curves are equal. */
export const alike = (a: Envelope, b: Envelope) =>
  a.low.length === b.low.length &&
  a.low.every((v, i) => v === b.low[i]) &&
  a.high.every((v, i) => v === b.high[i]);

/** A curve as points, the columns from 0 to 1; where it is wider than a line, from its least to its greatest. */
export function trace({ low, high }: Envelope, point: (share: number, value: number) => void) {
  const last = Math.max(1, low.length - 1);
  for (let c = 0; c < low.length; c++) {
    point(c / last, low[c]!);
    if (high[c]! > low[c]!) point(c / last, high[c]!);
  }
}

/** Moment of the scene, live or played back. */
export interface Moment {
  live: boolean;
  sceneTime: number;
  position: [number, number, number];
  rotation: [number, number, number, number];
  angles: [number, number, number];
  focal: number;
  focus: number;
  stop: number;
  near: number;
  far: number;
  hyperfocal: number;
  /** The performer who is largest in the frame, by id, and how many frames high; 0 is nobody. */
  subject: number;
  share: number;
  /** Half the frame at a distance of 1: to the right, and up. */
  halfFrame: [number, number];
  /** How large the subject is, by the name that shots have. */
  shot: string;
  /** Something stands between the lens and the subject; known of the floor only. */
  covered: boolean;
  /** Packed timecode of the slate. */
  timecode: number;
  /** The angles that the frame sees across and up, degrees. */
  sees: [number, number];
  axes: number[];
  bodies: Float32Array;
  /** Movers that leave the performance: a driven performer, and loads of the machine. */
  movers: Acting[];
}

/** What a picture depends on of those who go otherwise than the scene has them. */
export const placesOf = (movers: Acting[]) => movers.map((m) => m.bodies.subarray(0, 7).join()).join();

/** Mixes two poses of seven numbers: straight in position, along the shorter arc in rotation. */
export function mixPose(
  a: Float32Array,
  b: Float32Array,
  from: number,
  share: number,
  out: Float32Array,
  to: number,
) {
  for (let i = 0; i < 3; i++) out[to + i] = a[from + i]! + (b[from + i]! - a[from + i]!) * share;
  let dot = 0;
  for (let i = 3; i < 7; i++) dot += a[from + i]! * b[from + i]!;
  const sign = dot < 0 ? -1 : 1;
  let length = 0;
  for (let i = 3; i < 7; i++) {
    // Neighbouring frames are close: a normalised mix is the arc to within a hair.
    const v = a[from + i]! + (sign * b[from + i]! - a[from + i]!) * share;
    out[to + i] = v;
    length += v * v;
  }
  length = Math.sqrt(length) || 1;
  for (let i = 3; i < 7; i++) out[to + i]! /= length;
}

/** Beside a jump the place of the frame on the same side of it: two frames are never mixed across one. */
function besideCuts(cuts: MoveFrames["cuts"], place: number): number {
  const cut = cuts.find(({ frame }) => place > frame - 1 && place < frame);
  if (!cut) return place;
  return place < cut.place ? cut.frame - 1 : cut.frame;
}

/** The move at a time, between frames too. */
export function momentOf(move: MoveFrames, rate: number, time: number): Moment {
  const place = besideCuts(move.cuts, Math.min(Math.max(time * rate - move.first, 0), move.frames - 1));
  const i = Math.min(Math.floor(place), Math.max(move.frames - 2, 0));
  const share = move.frames > 1 ? place - i : 0;
  const a = move.data.subarray(i * move.stride, (i + 1) * move.stride);
  const next = Math.min(i + 1, move.frames - 1);
  const b = move.data.subarray(next * move.stride, (next + 1) * move.stride);
  const mix = (k: number) => a[k]! + (b[k]! - a[k]!) * share;
  const pose = new Float32Array(7);
  mixPose(a, b, 0, share, pose, 0);
  let first = FIXED + move.axes;
  const mixed = (count: number) => {
    const poses = new Float32Array(count * 7);
    for (let k = 0; k < count; k++) mixPose(a.subarray(first), b.subarray(first), k * 7, share, poses, k * 7);
    first += count * 7;
    return poses;
  };
  const bodies = mixed(move.bodies);
  const movers = move.riders.map(({ kind, id, bodies }) => ({ kind, id, bodies: mixed(bodies) }));
  const nearest = share < 0.5 ? a : b;
  return {
    live: false,
    sceneTime: time,
    position: [pose[0]!, pose[1]!, pose[2]!],
    rotation: [pose[3]!, pose[4]!, pose[5]!, pose[6]!],
    focal: mix(7),
    focus: mix(8),
    stop: mix(9),
    near: mix(10),
    far: nearest[11]!,
    angles: [nearest[12]!, nearest[13]!, nearest[14]!],
    hyperfocal: mix(15),
    subject: nearest[16]!,
    share: nearest[17]!,
    halfFrame: [mix(18), mix(19)],
    shot: shotWords[nearest[20]!] ?? "",
    covered: false,
    timecode: move.timecodes[Math.min(Math.floor(place + 1e-6), move.frames - 1)] ?? 0,
    sees: [mix(21), mix(22)],
    axes: Array.from({ length: move.axes }, (_, k) => mix(FIXED + k)),
    bodies,
    movers,
  };
}

/** The camera's path, x y z a frame. */
export function pathOf(move: MoveFrames): Float32Array {
  const path = new Float32Array(move.frames * 3);
  for (let i = 0; i < move.frames; i++) {
    path.set(move.data.subarray(i * move.stride, i * move.stride + 3), i * 3);
  }
  return path;
}

/** Place of a performer or piece on its path at a time. */
export function placeAt({ path, path_hz }: MoverView, time: number): [number, number, number] {
  const place = Math.min(Math.max(time * path_hz, 0), path.length - 1);
  const i = Math.floor(place);
  const [a, b] = [path[i]!, path[Math.min(i + 1, path.length - 1)]!];
  const mix = (k: 0 | 1 | 2) => a[k] + (b[k] - a[k]) * (place - i);
  return [mix(0), mix(1), mix(2)];
}
