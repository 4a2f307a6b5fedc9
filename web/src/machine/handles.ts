import { valueOf, withValue } from "../form/params";
import { LEVER_M, PULL_M } from "../generated/constants";
import type { BuiltHandle, HandleLook, MachineView, Rigging, Setup } from "../generated/types";
import type { StateFrame } from "../live/wire";

export type Vec = readonly [number, number, number];

/** Part of the machine that a hand takes hold of, where it is now. */
export interface Handle {
  id: string;
  word: string;
  look: HandleLook;
  at: Vec;
  /** The start of a base that has been moved since: drawn faint. */
  faint: boolean;
  /** It turns something level: it lies in no upright view. */
  level: boolean;
  does: Does;
}

/** Effect of a drag: axes that the server solves, or other parameters. */
export type Does =
  { kind: "axes" } | { kind: "builds"; with: (at: Vec) => Rigging; says: (at: Vec) => string };

const cm = (v: number) => Math.round(v * 100) / 100;
const cms = (at: Vec) => at.map(cm) as [number, number, number];
const added = (a: Vec, b: Vec, times: number): Vec => [
  a[0] + b[0] * times,
  a[1] + b[1] * times,
  a[2] + b[2] * times,
];
const m = (v: number) => v.toFixed(2);

/** Heading from a place on the floor to another one, degrees, in tenths. */
const turnOf = ([x, , z]: Vec, [bx, , bz]: Vec) =>
  Math.round((Math.atan2(x - bx, -(z - bz)) * 1800) / Math.PI) / 10;

/** A start that is so near to where the base is lies under it, metres. */
const SAME_M = 0.05;

/** Place of a handle that changes parameters, and its effect; null where its parameters are not there. */
function placed(rig: Rigging, { sets }: BuiltHandle): { at: Vec; does: Does } | null {
  const number = (path: string) => {
    const value = valueOf(rig, path);
    return typeof value === "number" ? value : null;
  };
  const three = (path: string) => (valueOf(rig, path) as Vec | null | undefined) ?? null;
  const builds = (change: (at: Vec) => Rigging, says: (at: Vec) => string): Does => ({
    kind: "builds",
    with: change,
    says,
  });
  switch (sets.kind) {
    case "floor": {
      const [x, z] = [number(sets.x), number(sets.z)];
      if (x === null || z === null) return null;
      const change = (to: Vec) => withValue(withValue(rig, sets.x, cm(to[0])), sets.z, cm(to[2]));
      return { at: [x, 0, z], does: builds(change, (to) => `x ${m(to[0])} · z ${m(to[2])} m`) };
    }
    case "place": {
      const at = three(sets.path);
      if (!at) return null;
      const says = (to: Vec) => `x ${m(to[0])} · z ${m(to[2])} · ${m(to[1])} m high`;
      return { at, does: builds((to) => withValue(rig, sets.path, cms(to)), says) };
    }
    case "heading": {
      const [x, z, deg] = [number(sets.x), number(sets.z), number(sets.path)];
      if (x === null || z === null || deg === null) return null;
      const foot: Vec = [x, 0, z];
      const turn = (deg * Math.PI) / 180;
      const at = added(foot, [Math.sin(turn), 0, -Math.cos(turn)], LEVER_M);
      const change = (to: Vec) => withValue(rig, sets.path, turnOf(to, foot));
      return { at, does: builds(change, (to) => `${turnOf(to, foot).toFixed(1)}°`) };
    }
    case "tangent": {
      const [from, tangent] = [three(sets.from), three(sets.path)];
      if (!from || !tangent) return null;
      const pulled = (to: Vec) => to.map((v, k) => (v - from[k]!) / PULL_M) as [number, number, number];
      const says = (to: Vec) => `length ${m(Math.hypot(...pulled(to)))}`;
      const does = builds((to) => withValue(rig, sets.path, pulled(to)), says);
      return { at: added(from, tangent, PULL_M), does };
    }
  }
}

/** True for a handle that an upright view shows: a heading lies flat and is turned on the plan. */
export const liesUpright = (handle: Handle) => !handle.level;

/** Handles of a machine: what its axes move, and what it is built of, where they are now. */
export function handlesOf(setup: Setup, machine: MachineView, frame: StateFrame | null): Handle[] {
  const axes = machine.handles.flatMap(({ word, look }, index): Handle[] => {
    const at = frame?.handles[index];
    return at
      ? [{ id: word, word, look, at, faint: false, level: word === "heading", does: { kind: "axes" } }]
      : [];
  });
  const axesOf = (word: string) => axes.find((h) => h.word === word);
  const built = machine.built.flatMap((handle): Handle[] => {
    const here = placed(setup.rig, handle);
    if (!here) return [];
    const { word, look, sets } = handle;
    const level = sets.kind === "heading";
    const moved = axesOf(word);
    if (!moved) return [{ ...here, id: word, word, look, faint: false, level }];
    // What its axes have moved is dragged where it is; its start is shown where that is elsewhere.
    const away = Math.hypot(moved.at[0] - here.at[0], moved.at[2] - here.at[2]);
    if (sets.kind !== "floor" || away < SAME_M) return [];
    return [{ ...here, id: "start", word: "start", look, faint: true, level }];
  });
  return [...axes, ...built];
}
