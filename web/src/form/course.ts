import type { CurveKey } from "../generated/types";

/** A course that is drawn by keys, smooth at each of them: what its field shows and what hands do to it. */

/** Frame of a drawn course: its axis, and the range of its values. */
export interface Frame {
  from: number;
  to: number;
  /** True for a logarithmic axis. */
  log: boolean;
  min: number;
  max: number;
}

/** Two keys are at least this far apart. */
const APART = 0.02;

export const keyAt = (time_s: number, value: number): CurveKey => ({
  time_s,
  value,
  before: { side: "smooth" },
  after: { side: "smooth" },
});

export const shareOfX = ({ from, to, log }: Frame, x: number) =>
  log ? Math.log(Math.max(x, from) / from) / Math.log(to / from) : (x - from) / (to - from);

export const xOfShare = ({ from, to, log }: Frame, share: number) =>
  log ? from * (to / from) ** share : from + (to - from) * share;

export const shareOfY = ({ min, max }: Frame, y: number) => (y - min) / (max - min);

/** A key somewhere else: within the frame, and between its neighbours. */
export function moved(keys: CurveKey[], i: number, frame: Frame, x: number, y: number): CurveKey[] {
  const low = (keys[i - 1]?.time_s ?? frame.from - APART) + APART;
  const high = (keys[i + 1]?.time_s ?? Math.max(frame.to, keys[i]!.time_s) + APART) - APART;
  const time_s = Number(Math.min(high, Math.max(low, x)).toFixed(2));
  const value = Number(Math.min(frame.max, Math.max(frame.min, y)).toFixed(2));
  return keys.map((k, n) => (n === i ? { ...k, time_s, value } : k));
}

/** One more key; none where there is no room. */
export function added(keys: CurveKey[], x: number, y: number): CurveKey[] {
  const time_s = Number(x.toFixed(2));
  if (keys.some((k) => Math.abs(k.time_s - time_s) < APART)) return keys;
  return [...keys, keyAt(time_s, Number(y.toFixed(2)))].toSorted((a, b) => a.time_s - b.time_s);
}

/** Without a key; one stays. */
export const without = (keys: CurveKey[], i: number) =>
  keys.length > 1 ? keys.filter((_, n) => n !== i) : keys;

/** The slope at each key: between its neighbours' slopes without overshoot (Fritsch & Butland 1984), flat at both ends. */
function slopes(keys: CurveKey[]): number[] {
  const span = (i: number): [number, number] => {
    const [a, b] = [keys[i]!, keys[i + 1]!];
    return [b.time_s - a.time_s, (b.value - a.value) / (b.time_s - a.time_s)];
  };
  return keys.map((_, i) => {
    if (i === 0 || i === keys.length - 1) return 0;
    const [[h0, d0], [h1, d1]] = [span(i - 1), span(i)];
    if (d0 * d1 <= 0) return 0;
    const [w0, w1] = [2 * h1 + h0, h1 + 2 * h0];
    return (w0 + w1) / (w0 / d0 + w1 / d1);
  });
}

/** The value at a place; as it is at the ends outside of them. */
export function valueOn(keys: CurveKey[], x: number): number {
  const last = keys.length - 1;
  if (x <= keys[0]!.time_s) return keys[0]!.value;
  if (x >= keys[last]!.time_s) return keys[last]!.value;
  const i = keys.findLastIndex((k) => k.time_s <= x);
  const [a, b] = [keys[i]!, keys[i + 1]!];
  const [m, n] = slopes(keys).slice(i, i + 2) as [number, number];
  const h = b.time_s - a.time_s;
  const u = (x - a.time_s) / h;
  const [u2, u3] = [u * u, u * u * u];
  return (
    a.value * (2 * u3 - 3 * u2 + 1) +
    b.value * (3 * u2 - 2 * u3) +
    h * (m * (u3 - 2 * u2 + u) + n * (u3 - u2))
  );
}
