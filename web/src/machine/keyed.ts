import type { Key, Position } from "../generated/types";

/** Keys nearer than this to the playhead are the key at the playhead. */
const SAME_S = 1 / 240;

/** The first number that no position has. */
export const freeNumber = (positions: Position[]) =>
  Array.from({ length: 99 }, (_, i) => i + 1).find((n) => !positions.some((p) => p.number === n)) ?? 99;

/** The key that stands at a time already. */
export const keyAt = <K extends Key>(keys: K[], time_s: number): K | undefined =>
  keys.find((k) => Math.abs(k.time_s - time_s) <= SAME_S);
