import { enqueueSnackbar } from "notistack";
import { documentNow, edit, settled } from "../document/edit";
import { diff, isNew, newId, plain, token } from "../document/patch";
import type { KeyEdit, KeyEditRequest, Move, MoveId, Op } from "../generated/types";
import { json, send } from "../server";
import type { Looked } from "../state/looked";
import {
  countOf,
  joined,
  keysOf,
  pickKeys,
  present,
  shifter,
  usePicked,
  type Key,
  type Picks,
} from "./picked";

/** Edits of the picked keys of a move: dragging is done here, everything else by the server. */

type Curves = Move["curves"];

const pathOf = (move: MoveId, axis: string) =>
  `/moves/${move}/curves/${axis.replaceAll("~", "~0").replaceAll("/", "~1")}`;

/** The keys of a move as they now are, also those that are on their way. */
export const curvesNow = ({ move }: Looked): Curves =>
  documentNow()?.moves.find((m) => m.id === move.id)?.curves ?? move.curves;

/** Picked keys of a move. */
export const picksNow = (looked: Looked): Picks => {
  const { move, keys } = usePicked.getState();
  return move === looked.move.id ? present(keys, curvesNow(looked)) : {};
};

const label = (verb: string, looked: Looked) => `${verb}: ${looked.title}`;
const some = (count: number) => (count === 1 ? "a key" : `${count} keys`);

/** Has something done to keys, and keeps what becomes of them as one edit; what is new is picked. */
export async function editKeys(looked: Looked, verb: string, what: KeyEdit, on?: Picks) {
  // What is new has its number first: only by that it can be meant.
  if (Object.values(curvesNow(looked)).some((keys) => keys.some((k) => isNew(k.id)))) await settled();
  const before = curvesNow(looked);
  const picks = on ?? picksNow(looked);
  const wanted: KeyEditRequest = { curves: before, picked: picks, edit: what };
  let after: Curves;
  try {
    const { id } = looked.move;
    after = await json<Curves>(`moves/${id}/keys/edited`, send("POST", plain(wanted)));
  } catch (error) {
    enqueueSnackbar((error as Error).message, { variant: "error" });
    return;
  }
  const fresh: Picks = {};
  // What is put in is picked; of an ease, what it lies between stays picked too.
  const alone = what.do === "insert" || what.do === "paste" || what.do === "repeat";
  const ops = Object.entries(after).flatMap(([axis, keys]): Op[] => {
    const path = pathOf(looked.move.id, axis);
    const old = before[axis];
    if (!old) {
      fresh[axis] = keys.map((k) => k.id);
      return [{ op: "add", path, value: plain(keys) }];
    }
    const known = new Set(old.map((k) => k.id));
    const named = keys.map((key) => {
      if (known.has(key.id)) return key;
      const id = newId();
      (fresh[axis] ??= []).push(id);
      return { ...key, id };
    });
    return diff(path, old, named);
  });
  const pick = (added: Picks) => {
    if (countOf(added) > 0) pickKeys(looked.move.id, alone ? added : joined(picks, added));
  };
  // At once, under the names that they have here; then under the numbers that they are given.
  const kept = edit(label(verb, looked), ops);
  pick(fresh);
  const chosen = usePicked.getState().keys;
  const made = await kept;
  const number = (id: number) => made.get(token(id)) ?? id;
  // Unless something else has been picked meanwhile.
  if (countOf(fresh) > 0 && usePicked.getState().keys === chosen)
    pick(Object.fromEntries(Object.entries(fresh).map(([axis, ids]) => [axis, ids.map(number)])));
}

/** Number of keys on one axis from which the axis is sent as a whole. */
const MANY = 200;

/** Picked keys put at other times, and those of one axis at other values. */
export function dragOps(
  move: MoveId,
  curves: Curves,
  picks: Picks,
  by_s: number,
  axis: string,
  by: number,
): Op[] {
  return Object.entries(picks).flatMap(([of, ids]): Op[] => {
    const path = pathOf(move, of);
    const up = of === axis ? by : 0;
    const meant = new Set(ids);
    const all = curves[of] ?? [];
    if ((by_s === 0 && up === 0) || all.length === 0) return [];
    if (ids.length > MANY) {
      const moved = (k: Key) => ({ ...k, time_s: k.time_s + by_s, value: k.value + up });
      const next = all.map((k) => (meant.has(k.id) ? moved(k) : k)).sort((a, b) => a.time_s - b.time_s);
      return [{ op: "replace", path, value: plain(next) }];
    }
    return all
      .filter((k) => meant.has(k.id))
      .flatMap((k): Op[] => {
        const key = `${path}/${token(k.id)}`;
        const time: Op = { op: "replace", path: `${key}/time_s`, value: k.time_s + by_s };
        const value: Op = { op: "replace", path: `${key}/value`, value: k.value + up };
        return [...(by_s === 0 ? [] : [time]), ...(up === 0 ? [] : [value])];
      });
  });
}

export const dragKeys = (looked: Looked, ops: Op[], count: number, gesture: string) =>
  void edit(label(`move ${some(count)}`, looked), ops, gesture);

/** A side of a key as a hand draws it; the other one with it where both were one. */
export function turnSide(
  looked: Looked,
  axis: string,
  key: number,
  sides: Partial<Record<"before" | "after", { side: "free"; slope: number; length: number }>>,
  gesture: string,
) {
  const path = `${pathOf(looked.move.id, axis)}/${token(key)}`;
  const ops = Object.entries(sides).map(([side, value]): Op => {
    return { op: "replace", path: `${path}/${side}`, value };
  });
  void edit(label("turn a key", looked), ops, gesture);
}

/** Picked keys a frame, or a bit of their value, farther. */
export function nudge(looked: Looked, by_s: number, by: number, rate: number) {
  const [curves, picks] = [curvesNow(looked), picksNow(looked)];
  const moved = keysOf(picks, curves);
  if (moved.length === 0) return;
  const shift = by_s === 0 ? 0 : shifter(curves, picks, moved[0]!.key.time_s)(by_s, rate);
  const ops = Object.keys(picks).flatMap((axis, i) => [
    ...(i === 0 ? dragOps(looked.move.id, curves, picks, shift, "", 0) : []),
    ...dragOps(looked.move.id, curves, { [axis]: picks[axis]! }, 0, axis, by),
  ]);
  if (ops.length > 0) dragKeys(looked, ops, moved.length, `nudge ${JSON.stringify(picks)}`);
}

export function removeKeys(looked: Looked) {
  const picks = picksNow(looked);
  const ops = Object.entries(picks).flatMap(([axis, ids]) =>
    ids.map((id): Op => ({ op: "remove", path: `${pathOf(looked.move.id, axis)}/${token(id)}` })),
  );
  if (ops.length > 0) void edit(label(`remove ${some(ops.length)}`, looked), ops);
  pickKeys(looked.move.id, {});
}
