import { mixPose } from "./moves";

/** Some seconds of where everybody's bodies are; the last frame is the first of the next stretch. */
export interface Stretch {
  rate: number;
  /** Frames of the whole performance. */
  count: number;
  bodies: number;
  first: number;
  data: Float32Array;
}

export function decodeStretch(buffer: ArrayBuffer): Stretch {
  const [rate = 30, count = 0, bodies = 0, first = 0] = new Uint32Array(buffer, 0, 4);
  return { rate, count, bodies, first, data: new Float32Array(buffer, 16) };
}

/** Number of stretches that are kept: some minutes around the playhead. */
const KEPT = 30;
/** After a stretch did not come it is not asked for again at once, milliseconds. */
const AGAIN_MS = 1000;

let counted = 0;

/**
 * Where everybody is who plays, over time. It comes in stretches: the one that is looked at, the one
 * behind it, and what has been looked at of late; an hour of it is never here as a whole.
 */
export class Performance {
  readonly rate: number;
  readonly count: number;
  readonly bodies: number;
  /** A number that no other state of any performance has: with it changes what is drawn. */
  state = ++counted;
  /** Length of a stretch, seconds, from the first one; the last one is shorter. */
  private readonly stretch_s: number;
  private readonly stretches = new Map<number, Stretch>();
  private readonly asked = new Map<number, Promise<void>>();

  constructor(
    first: Stretch,
    private readonly ask: (from_s: number) => Promise<Stretch>,
  ) {
    ({ rate: this.rate, count: this.count, bodies: this.bodies } = first);
    // Where nobody moves, one stretch is all there is.
    const steps = first.data.length / (first.bodies * 7) - 1;
    this.stretch_s = steps > 0 ? steps / first.rate : Infinity;
    this.stretches.set(this.numberOf(first.first / this.rate), first);
  }

  private numberOf(time: number) {
    const last = Math.max(0, Math.ceil((this.count - 1) / (this.stretch_s * this.rate)) - 1);
    return Math.min(Math.max(Math.floor(time / this.stretch_s), 0), last);
  }

  /** Comes when it is known where everybody is at a time, or when that cannot be had. */
  there(time: number): Promise<void> {
    const number = this.numberOf(time);
    if (this.stretches.has(number)) return Promise.resolve();
    const known = this.asked.get(number);
    if (known) return known;
    const coming = this.ask(number * this.stretch_s).then(
      (stretch) => {
        this.asked.delete(number);
        // Who plays may have changed meanwhile; then another performance takes this one's place.
        if (stretch.bodies === this.bodies) this.keep(number, stretch);
      },
      () => void setTimeout(() => this.asked.delete(number), AGAIN_MS),
    );
    this.asked.set(number, coming);
    return coming;
  }

  private keep(number: number, stretch: Stretch) {
    this.stretches.set(number, stretch);
    this.state = ++counted;
    const far = (n: number) => Math.abs(n - number);
    while (this.stretches.size > KEPT) {
      this.stretches.delete([...this.stretches.keys()].reduce((a, b) => (far(b) > far(a) ? b : a)));
    }
  }

  /** Stretch around a time, or the nearest one that is known. */
  private around(time: number): Stretch {
    const number = this.numberOf(time);
    void this.there(time);
    // At its end it may begin again.
    void this.there(time + this.stretch_s > this.count / this.rate ? 0 : time + this.stretch_s);
    const far = (n: number) => Math.abs(n - number);
    const nearest = [...this.stretches.keys()].reduce((a, b) => (far(b) < far(a) ? b : a));
    return this.stretches.get(nearest)!;
  }

  /** Mixes the poses of some bodies at a time, in order. */
  private mix(time: number, from: number, to: number, out: Float32Array) {
    const { data, first } = this.around(time);
    const stride = this.bodies * 7;
    const frames = data.length / stride;
    const place = Math.min(Math.max(time * this.rate - first, 0), frames - 1);
    const i = Math.min(Math.floor(place), Math.max(frames - 2, 0));
    const a = data.subarray(i * stride);
    const b = data.subarray(Math.min(i + 1, frames - 1) * stride);
    for (let k = from; k < to; k++) mixPose(a, b, k * 7, place - i, out, (k - from) * 7);
  }

  /** Poses of everybody's bodies at a time. */
  posesAt(time: number, out: Float32Array) {
    if (this.bodies) this.mix(time, 0, this.bodies, out);
  }

  /** The pose of one body at a time. */
  poseAt(body: number, time: number): Float32Array {
    const out = new Float32Array(7);
    this.mix(time, body, body + 1, out);
    return out;
  }
}
