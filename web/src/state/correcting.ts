import type { Correction } from "../generated/types";

/** By how much a hand has moved the picture since it took hold: centimetres on the set, degrees. */
export interface By {
  move_cm: [number, number, number];
  turn_deg: [number, number, number];
}

type Keys = Correction["keys"];

/** The correction that is open. */
interface Open {
  /** Keys of the correction as they are. */
  keys: Keys;
  /** Takes what is dragged: all of it since the hand took hold, and whether the hand has let go. */
  put: (by: By, done: boolean) => void;
}

/** Open correction, which takes drags in the picture and on the plan; null where none is open. */
export const correcting = { current: null as Open | null };

/** Value at a time among keys: that of a key there, or straight between two of them. */
function valueAt(keys: Keys, at_s: number, apart_s: number): By {
  const here = keys.find((k) => Math.abs(k.at_s - at_s) < apart_s);
  const before = keys.findLast((k) => k.at_s < at_s);
  const after = keys.find((k) => k.at_s > at_s);
  const [a, b] = here ? [here, here] : [before, after];
  if (!a || !b) return { move_cm: [0, 0, 0], turn_deg: [0, 0, 0] };
  const share = a === b ? 0 : (at_s - a.at_s) / (b.at_s - a.at_s);
  const mix = (of: "move_cm" | "turn_deg") =>
    a[of].map((v, i) => v + (b[of][i]! - v) * share) as [number, number, number];
  return { move_cm: mix("move_cm"), turn_deg: mix("turn_deg") };
}

const tenth = (value: number) => Math.round(value * 100) / 100;

/** Keys with what a hand did at a time: into the key that is there, or into a new one. */
export function corrected(keys: Keys, at_s: number, by: By, apart_s: number): Keys {
  const here = keys.find((k) => Math.abs(k.at_s - at_s) < apart_s);
  const was = valueAt(keys, at_s, apart_s);
  const sum = (of: "move_cm" | "turn_deg") =>
    was[of].map((v, i) => tenth(v + by[of][i]!)) as [number, number, number];
  const key = { at_s: here?.at_s ?? at_s, move_cm: sum("move_cm"), turn_deg: sum("turn_deg") };
  return [...keys.filter((k) => k !== here), key].toSorted((a, b) => a.at_s - b.at_s);
}
