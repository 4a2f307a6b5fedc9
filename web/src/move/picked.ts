import { create } from "zustand";
import { SAME_KEY_S } from "../generated/constants";
import type { CurveKey, Move, MoveId } from "../generated/types";

type Curves = Move["curves"];
/** The numbers of keys, axis by axis; an axis without any is left out. */
export type Picks = Record<string, number[]>;
export type Key = CurveKey & { id: number };

/** The keys of a move that are picked, and those that were copied last. */
interface Picked {
  move: MoveId | null;
  keys: Picks;
  /** With the first of them at time 0. */
  copied: Curves | null;
}
export const usePicked = create<Picked>(() => ({ move: null, keys: {}, copied: null }));

/** Picks keys of a move; those of another one are let go. */
export const pickKeys = (move: MoveId, keys: Picks) => usePicked.setState({ move, keys: without(keys) });

const without = (picks: Picks): Picks =>
  Object.fromEntries(Object.entries(picks).filter(([, ids]) => ids.length > 0));

export const isPicked = (picks: Picks, axis: string, id: number) => picks[axis]?.includes(id) ?? false;
export const countOf = (picks: Picks) => Object.values(picks).reduce((n, ids) => n + ids.length, 0);

/** Picks that are still there. */
export const present = (picks: Picks, curves: Curves): Picks =>
  without(
    Object.fromEntries(
      Object.entries(picks).map(([axis, ids]) => {
        const there = new Set(curves[axis]?.map((k) => k.id));
        return [axis, ids.filter((id) => there.has(id))];
      }),
    ),
  );

/** All keys that answer to something. */
export const picksWhere = (curves: Curves, is: (axis: string, key: Key) => boolean): Picks =>
  without(
    Object.fromEntries(
      Object.entries(curves).map(([axis, keys]) => [axis, keys.filter((k) => is(axis, k)).map((k) => k.id)]),
    ),
  );

/** Picks together with others; one that both have is let go. */
export function turned(picks: Picks, others: Picks): Picks {
  const axes = new Set([...Object.keys(picks), ...Object.keys(others)]);
  const each = [...axes].map((axis) => {
    const [a, b] = [picks[axis] ?? [], others[axis] ?? []];
    const either = [...a.filter((id) => !b.includes(id)), ...b.filter((id) => !a.includes(id))];
    return [axis, either] as [string, number[]];
  });
  return without(Object.fromEntries(each));
}

/** Picks and others. */
export const joined = (picks: Picks, others: Picks): Picks =>
  turned(
    picks,
    without(
      Object.fromEntries(
        Object.entries(others).map(([axis, ids]) => [axis, ids.filter((id) => !isPicked(picks, axis, id))]),
      ),
    ),
  );

/** The picked keys themselves, in order of time. */
export const keysOf = (picks: Picks, curves: Curves): { axis: string; key: Key }[] =>
  Object.entries(picks)
    .flatMap(([axis, ids]) => {
      const meant = new Set(ids);
      return (curves[axis] ?? []).filter((k) => meant.has(k.id)).map((key) => ({ axis, key }));
    })
    .sort((a, b) => a.key.time_s - b.key.time_s);

/** The picked keys as they are pasted: the first of them at time 0. */
export function copiedOf(picks: Picks, curves: Curves): Curves | null {
  const first = keysOf(picks, curves)[0]?.key.time_s;
  if (first === undefined) return null;
  return Object.fromEntries(
    Object.entries(picks).map(([axis, ids]) => [
      axis,
      (curves[axis] ?? [])
        .filter((k) => ids.includes(k.id))
        .map((k) => ({ ...k, id: 0, time_s: k.time_s - first })),
    ]),
  );
}

/** Way of picked keys, of which one is held, by a wish and on frames of a rate where there is one. */
export type Shifter = (wanted: number, rate: number | null) => number;

/**
 * The time nearest to a wished one by which keys can be moved, so that the held one lands on a frame, none
 * goes below 0 and none lands on a key that stays.
 */
export function shifter(curves: Curves, picks: Picks, held: number): Shifter {
  let least = -held;
  const rows = Object.entries(picks).map(([axis, ids]) => {
    const meant = new Set(ids);
    const all = curves[axis] ?? [];
    const times = (of: Key[]) => of.map((k) => k.time_s).sort((a, b) => a - b);
    const [moved, stay] = [
      times(all.filter((k) => meant.has(k.id))),
      times(all.filter((k) => !meant.has(k.id))),
    ];
    if (moved.length > 0) least = Math.max(least, -moved[0]!);
    return { moved, stay };
  });
  const beside = rows.filter(({ stay }) => stay.length > 0);
  const taken = (by: number) =>
    beside.some(({ moved, stay }) =>
      moved.some((t) => Math.abs(nearest(stay, t + by) - t - by) <= SAME_KEY_S),
    );
  return (wanted, rate) => {
    const step = rate === null ? SAME_KEY_S * 1.5 : 1 / rate;
    const onFrame = (by: number) => (rate === null ? by : Math.round((held + by) * rate) / rate - held);
    let by = Math.max(least, onFrame(wanted));
    // Back towards where it came from, until nothing is in the way.
    for (let i = 0; i < 400 && Math.abs(by) > step / 2 && taken(by); i++)
      by = onFrame(by - Math.sign(by) * step);
    return (Math.abs(by) <= step / 2 && taken(by)) || by === 0 ? 0 : by;
  };
}

/** The one of increasing times that is nearest to an instant. */
function nearest(times: number[], at: number): number {
  let [low, high] = [0, times.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (times[middle]! <= at) low = middle;
    else high = middle;
  }
  return Math.abs(times[low]! - at) <= Math.abs(times[high]! - at) ? times[low]! : times[high]!;
}

/** The previous or the next of the times at which there are keys. */
export function stepTime(curves: Curves, at: number, direction: -1 | 1): number | null {
  const times = Object.values(curves).flatMap((keys) => keys.map((k) => k.time_s));
  const beyond = times.filter((t) => (direction > 0 ? t > at + SAME_KEY_S : t < at - SAME_KEY_S));
  if (beyond.length === 0) return null;
  return direction > 0 ? Math.min(...beyond) : Math.max(...beyond);
}
