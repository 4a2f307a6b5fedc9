import type { Key, Position } from "../generated/types";

/** Keys nearer than this to the playhead are the key at the playhead. */
const SAME_S = 1 / 240;

/** The first number that no position has. */
export const freeNumber = (positions: Position[]) =>
  Array.from({ length: 99 }, (_, i) => i + 1).find((n) => !positions.some((p) => p.number === n)) ?? 99;

/** The keys with one at a time; one that stands there already is replaced. */
export function keyed(keys: Key[], key: Key): Key[] {
  const others = keys.filter((k) => Math.abs(k.time_s - key.time_s) > SAME_S);
  return [...others, key].toSorted((a, b) => a.time_s - b.time_s);
}
