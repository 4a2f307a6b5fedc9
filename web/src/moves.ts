import type { MoverView } from "./generated/types";
import { kinds, shotWords, type Acting } from "./live/wire";

/** Evaluated moves as the server sends them; the layouts are described in docs/wire.md. */

/** One frame of a move: seven numbers of the camera's pose, then these, then axes, bodies, who goes along. */
const FIXED = 23;

/** Frames of a window of a move. */
interface FrameWindow {
  /** Packed timecode of each frame. */
  timecodes: Uint32Array;
  data: Float32Array;
}

/** Numbers of a frame and its packed timecode. */
interface Numbers {
  row: Float32Array;
  timecode: number;
}

/** What an answer says of the whole move. */
interface MoveHead {
  /** The scene's number of the first frame. */
  first: number;
  frames: number;
  axes: number;
  bodies: number;
  /** Performers and pieces that go along with the machine, and their numbers of bodies. */
  riders: { kind: Acting["kind"]; id: number; bodies: number }[];
  /** Jumps: the frame from which on the camera is on the other side, and the time in frames from the first. */
  cuts: { frame: number; place: number }[];
  /** The camera's path, x y z a frame. */
  path: Float32Array;
  /** Frames of a window. */
  window: number;
}

function decodeFrames(buffer: ArrayBuffer): { head: MoveHead; from: number; frames: FrameWindow } {
  const words = new Uint32Array(buffer, 0, 9);
  const [first = 0, count = 0, axes = 0, bodies = 0, along = 0, jumps = 0] = words;
  const [from = 0, sent = 0, window = 1] = words.subarray(6);
  const view = new DataView(buffer, 36, 8 * jumps);
  const cuts = Array.from({ length: jumps }, (_, i) => ({
    frame: view.getUint32(8 * i, true),
    place: view.getFloat32(8 * i + 4, true),
  }));
  const ridersAt = 36 + 8 * jumps;
  const riders = Array.from({ length: along }, (_, i) => {
    const [kind = 0, id = 0, bodies = 0] = new Uint32Array(buffer, ridersAt + 12 * i, 3);
    return { kind: kinds[kind] ?? "piece", id, bodies };
  });
  const pathAt = ridersAt + 12 * along;
  const path = new Float32Array(buffer, pathAt, 3 * count);
  const timecodes = new Uint32Array(buffer, pathAt + 12 * count, sent);
  const data = new Float32Array(buffer, pathAt + 12 * count + 4 * sent);
  const head = { first, frames: count, axes, bodies, riders, cuts, path, window };
  return { head, from, frames: { timecodes, data } };
}

/** Asks for the frames around a frame of the scene. */
type AskFrames = (around: number) => Promise<ArrayBuffer>;

/** The part of a window, seen from its middle, beyond which the window beside it is asked for. */
const NEAR = 0.3;
/** Least time between two requests of a drawing loop for a window that fails, milliseconds. */
const AGAIN_MS = 1000;

/**
 * The frames of a move. A long move comes window by window, as its frames are shown: the first answer has one
 * window, and others are asked for when the playhead comes near.
 */
export class MoveFrames {
  readonly first: number;
  readonly frames: number;
  readonly axes: number;
  readonly bodies: number;
  readonly riders: MoveHead["riders"];
  readonly cuts: MoveHead["cuts"];
  readonly path: Float32Array;
  private readonly window: number;
  private readonly stride: number;
  private readonly known = new Map<number, FrameWindow>();
  private readonly asked = new Map<number, Promise<void>>();
  /** When a window failed last, milliseconds of the page's clock. */
  private readonly failed = new Map<number, number>();

  constructor(
    answer: ArrayBuffer,
    private readonly ask: AskFrames,
  ) {
    const { head, from, frames } = decodeFrames(answer);
    ({
      first: this.first,
      frames: this.frames,
      axes: this.axes,
      bodies: this.bodies,
      riders: this.riders,
      cuts: this.cuts,
      path: this.path,
      window: this.window,
    } = head);
    const carried = head.riders.reduce((sum, r) => sum + r.bodies, 0);
    this.stride = FIXED + head.axes + 7 * (head.bodies + carried);
    this.known.set(Math.floor(from / this.window), frames);
  }

  /** A frame, counted from 0, and the next one, or the last one twice; null while they are on their way. */
  pair(frame: number): [Numbers, Numbers] | null {
    const k = Math.floor(frame / this.window);
    const known = this.known.get(k);
    const beside = frame / this.window - k - 0.5;
    if (Math.abs(beside) > NEAR) this.wish(k + Math.sign(beside));
    if (!known) {
      this.wish(k);
      return null;
    }
    const i = frame - k * this.window;
    // A window has the first frame of the next one, too.
    const numbers = (i: number) => ({
      row: known.data.subarray(i * this.stride, (i + 1) * this.stride),
      timecode: known.timecodes[i] ?? 0,
    });
    return [numbers(i), numbers(Math.min(i + 1, known.timecodes.length - 1))];
  }

  /** Resolves when the frame at a place between frames, and the next one, are there. */
  async ready(place: number): Promise<void> {
    await this.come(Math.floor(Math.min(Math.max(place, 0), this.frames - 1) / this.window));
  }

  /** Resolves when all frames from one to another are there, by the scene's numbers: a film keeps one version. */
  async readyBetween(from: number, to: number): Promise<void> {
    for (let i = from; i <= to; i += this.window) await this.ready(i - this.first);
    await this.ready(to - this.first);
  }

  /** Asks for a window from a drawing loop: not again at once where it failed. */
  private wish(k: number) {
    if (performance.now() - (this.failed.get(k) ?? -Infinity) > AGAIN_MS) void this.come(k);
  }

  /** Asks for a window once; one that failed is asked for again when it is wanted again. */
  private come(k: number): Promise<void> {
    if (this.known.has(k) || k < 0 || k * this.window >= this.frames) return Promise.resolve();
    const asked = this.asked.get(k);
    if (asked) return asked;
    const coming = this.ask(this.first + k * this.window)
      .then((answer) => {
        const { head, from, frames } = decodeFrames(answer);
        // The move was changed meanwhile: its new frames are on their way by themselves.
        const way = this.path;
        const same =
          head.axes === this.axes &&
          from === k * this.window &&
          head.path.length === way.length &&
          head.path.every((v, i) => v === way[i]);
        if (same) this.known.set(k, frames);
      })
      .finally(() => this.asked.delete(k));
    this.asked.set(k, coming);
    coming.catch(() => this.failed.set(k, performance.now()));
    return coming;
  }
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

/** The move at a time, between frames too; null while its frames are on their way. */
export function momentOf(move: MoveFrames, rate: number, time: number): Moment | null {
  const place = besideCuts(move.cuts, Math.min(Math.max(time * rate - move.first, 0), move.frames - 1));
  const i = Math.min(Math.floor(place), Math.max(move.frames - 2, 0));
  const share = move.frames > 1 ? place - i : 0;
  const pair = move.pair(i);
  if (!pair) return null;
  const [before, after] = pair;
  const [a, b] = [before.row, after.row];
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
    timecode: (place + 1e-6 - i >= 1 ? after : before).timecode,
    sees: [mix(21), mix(22)],
    axes: Array.from({ length: move.axes }, (_, k) => mix(FIXED + k)),
    bodies,
    movers,
  };
}

/** Position of the camera on the frame that is nearest to a time. */
export function positionAt(
  { path, frames, first }: MoveFrames,
  rate: number,
  time: number,
): [number, number, number] {
  const i = Math.min(Math.max(Math.round(time * rate) - first, 0), frames - 1);
  return [path[3 * i]!, path[3 * i + 1]!, path[3 * i + 2]!];
}

/** The move at a time, once its frames are there; null where it was changed meanwhile. */
export async function momentWhenReady(move: MoveFrames, rate: number, time: number): Promise<Moment | null> {
  await move.ready(time * rate - move.first);
  return momentOf(move, rate, time);
}

/** Place of a performer or piece on its path at a time. */
export function placeAt({ path, path_hz }: MoverView, time: number): [number, number, number] {
  const place = Math.min(Math.max(time * path_hz, 0), path.length - 1);
  const i = Math.floor(place);
  const [a, b] = [path[i]!, path[Math.min(i + 1, path.length - 1)]!];
  const mix = (k: 0 | 1 | 2) => a[k] + (b[k] - a[k]) * (place - i);
  return [mix(0), mix(1), mix(2)];
}
