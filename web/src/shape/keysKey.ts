import type { MachineView, Mark, SideBy } from "../generated/types";
import { curvesNow, editKeys, nudge, picksNow, removeKeys } from "../move/keyEdits";
import {
  copiedOf,
  countOf,
  joined,
  keysOf,
  picksWhere,
  pickKeys,
  stepTime,
  usePicked,
  type Picks,
} from "../move/picked";
import { SAME_KEY_S } from "../generated/constants";
import type { Looked } from "../state/looked";
import { seek } from "../state/transport";
import { clock } from "../state/view";

/** Context of the keyboard for work on keys. */
export interface Keyboard {
  looked: Looked;
  machine: MachineView;
  rate: number;
  marks: Mark[];
  mark: number;
  setMark: (mark: number) => void;
}

/** The sides that keys can have, in the order of their digits. */
export const sides: SideBy[] = ["smooth", "straight", "flat", "hold", "free"];

/** The key before or after the playhead: goes there, and picks all that stand at that time. */
export function stepKey({ looked }: Keyboard, direction: -1 | 1, more: boolean) {
  const curves = curvesNow(looked);
  const at = stepTime(curves, clock.time, direction);
  if (at === null) return;
  const there = picksWhere(curves, (_, key) => Math.abs(key.time_s - at) <= SAME_KEY_S);
  pickKeys(looked.move.id, more ? joined(picksNow(looked), there) : there);
  seek(at);
}

/** The mark before or after the one that is shown; past the last comes the first. */
export function stepMark({ marks, mark, setMark }: Keyboard, direction: -1 | 1) {
  if (marks.length === 0) return;
  const next = (Math.min(mark, marks.length - 1) + direction + marks.length) % marks.length;
  setMark(next);
  seek(marks[next]!.from_s);
}

export function copyKeys(looked: Looked) {
  const copied = copiedOf(picksNow(looked), curvesNow(looked));
  if (copied) usePicked.setState({ copied });
}

/** At the playhead, on the axes they were copied from, or on others. */
export function pasteKeys(looked: Looked, keys = usePicked.getState().copied) {
  if (keys) void editKeys(looked, "paste keys", { do: "paste", at_s: clock.time, keys }, {});
}

/** A key at the playhead on each axis that has some: those that are picked, or all. */
function addHere(looked: Looked, rate: number) {
  const axes = Object.keys(picksNow(looked));
  const on = axes.length > 0 ? axes : Object.keys(curvesNow(looked));
  if (on.length === 0) return;
  const at_s = Math.round(clock.time * rate) / rate;
  const meant: Picks = Object.fromEntries(on.map((axis) => [axis, []]));
  void editKeys(looked, "add keys", { do: "insert", at_s }, meant);
}

/** Step of an arrow in an axis' own unit. */
const stepOf = (unit: string | undefined) => (unit === "m" ? 0.01 : unit === "mm" ? 1 : 0.1);

/** Does what a key of the keyboard means for keys of the move; true if it meant something. */
export function keysKey(keyboard: Keyboard, event: KeyboardEvent, key: string): boolean {
  const { looked, machine, rate } = keyboard;
  const picks = picksNow(looked);
  const any = countOf(picks) > 0;
  if (event.altKey) return false;
  if (event.ctrlKey || event.metaKey) {
    const arrow = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (key === "A")
      pickKeys(
        looked.move.id,
        picksWhere(curvesNow(looked), () => true),
      );
    else if (key === "C" && any) copyKeys(looked);
    else if (key === "V") pasteKeys(looked);
    else if (arrow && any) {
      const axis = machine.axes.find((a) => a.name === keysOf(picks, curvesNow(looked))[0]!.axis);
      const fine = event.shiftKey ? 0.1 : 1;
      nudge(looked, arrow[0]! / rate, arrow[1]! * stepOf(axis?.unit) * fine, rate);
    } else return false;
    return true;
  }
  const side = /^[1-5]$/.test(event.key) ? sides[Number(event.key) - 1] : undefined;
  if (event.key === "," || event.key === "<") stepKey(keyboard, -1, event.shiftKey);
  else if (event.key === "." || event.key === ">") stepKey(keyboard, 1, event.shiftKey);
  else if (key === "M") stepMark(keyboard, event.shiftKey ? -1 : 1);
  else if (key === "N") addHere(looked, rate);
  else if ((event.key === "Delete" || event.key === "Backspace") && any) removeKeys(looked);
  else if (event.key === "Escape" && any) pickKeys(looked.move.id, {});
  else if (side && any) void editKeys(looked, "turn keys", { do: "sides", before: true, after: true, side });
  else return false;
  return true;
}
