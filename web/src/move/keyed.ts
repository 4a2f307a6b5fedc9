import { token } from "../document/patch";
import { SAME_KEY_S } from "../generated/constants";
import type { Move, MoveId, Op, Position } from "../generated/types";

type Curves = Move["curves"];

/** Keys of several axes at one time. */
export interface KeyTime {
  time_s: number;
  /** Axis, the key's number, and its value in shown units. */
  keys: { axis: string; id: number; value: number }[];
}

/** The first number that no position has. */
export const freeNumber = (positions: Position[]) =>
  Array.from({ length: 99 }, (_, i) => i + 1).find((n) => !positions.some((p) => p.number === n)) ?? 99;

/** The times at which a move has keys, in order, and which. */
export function keyTimes(curves: Curves): KeyTime[] {
  const all = Object.entries(curves)
    .flatMap(([axis, keys]) => keys.map(({ id, time_s, value }) => ({ axis, id, time_s, value })))
    .sort((a, b) => a.time_s - b.time_s);
  const times: KeyTime[] = [];
  for (const { time_s, ...key } of all) {
    const last = times.at(-1);
    if (last && time_s - last.time_s <= SAME_KEY_S) last.keys.push(key);
    else times.push({ time_s, keys: [key] });
  }
  return times;
}

/** Keys of some axes at a time: those that stand there already get the value, the others are new; a key that has
 * the value already is left alone. */
export function keyOps(
  move: MoveId,
  curves: Curves,
  at: number,
  axes: Record<string, number>,
  id: () => number,
): Op[] {
  return Object.entries(axes).flatMap(([axis, value]): Op[] => {
    const path = `/moves/${move}/curves/${axis.replaceAll("~", "~0").replaceAll("/", "~1")}`;
    const keys = curves[axis];
    if (!keys) return [{ op: "add", path, value: [{ time_s: at, value }] }];
    const there = keys.find((k) => Math.abs(k.time_s - at) <= SAME_KEY_S);
    if (!there) return [{ op: "add", path: `${path}/${token(id())}`, value: { time_s: at, value } }];
    if (there.value === value) return [];
    return [{ op: "replace", path: `${path}/${token(there.id)}/value`, value }];
  });
}

/** A first key on each of some axes, smooth on both sides, for a move that is to be made. */
export const firstKeys = (axes: Record<string, number>, time_s: number): Curves => {
  const side = { side: "smooth" } as const;
  const key = (value: number) => [{ id: 0, time_s, value, before: side, after: side }];
  return Object.fromEntries(Object.entries(axes).map(([axis, value]) => [axis, key(value)]));
};

/** Every key of a time put at another one. */
export const moveOps = (move: MoveId, { keys }: KeyTime, to: number): Op[] =>
  keys.map(({ axis, id }) => ({
    op: "replace",
    path: `/moves/${move}/curves/${axis}/${token(id)}/time_s`,
    value: to,
  }));

/** Every key of a time taken away. */
export const removeOps = (move: MoveId, { keys }: KeyTime): Op[] =>
  keys.map(({ axis, id }) => ({ op: "remove", path: `/moves/${move}/curves/${axis}/${token(id)}` }));

/** A time on a frame, kept off the keys beside it, so that no two of them meet. */
export function freeTime(times: KeyTime[], mine: KeyTime, wanted: number, rate: number): number {
  const frame = (t: number) => Math.round(t * rate);
  const taken = new Set(times.filter((t) => t !== mine).map((t) => frame(t.time_s)));
  const from = frame(mine.time_s);
  let to = Math.max(0, frame(wanted));
  while (taken.has(to) && to !== from) to += to > from ? -1 : 1;
  return to === from ? mine.time_s : to / rate;
}
