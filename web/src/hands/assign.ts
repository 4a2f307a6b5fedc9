import type { AxisView, Shaping } from "../generated/types";

/** Something a hand can move. */
export type Source =
  | { by: "keys"; less: string; more: string }
  | { by: "stick"; axis: number; flip: boolean }
  | { by: "buttons"; less: number; more: number }
  | { by: "mouse"; along: "x" | "y" }
  | { by: "wheel" };

/** Input of an axis: a control, and the way in which the axis takes it. */
export interface AxisInput {
  sources: Source[];
  shaping: Shaping;
}

/** Name of the speed dial among the axes: controls are given to it as to them. */
export const DIAL = "speed dial";

/** An axis' name and what drives it. */
export type Preset = Record<string, AxisInput>;

export const usualShaping: Shaping = { dead_zone: 0.08, curve: 1.6, inverted: false, speed: 1, drag: 1 };

/** Pairs of keys for what carries the head, in the order they are given out. */
const pairs = ["AD", "SW", "QE", "YU", "[]", ";'", ",.", "BP", "/\\"];

/** The pair that lies well for what a hand does. */
const liked: Record<string, string[]> = {
  swing: ["AD"],
  side: ["AD"],
  steer: ["AD"],
  travel: ["AD", "YU"],
  boom: ["SW", "QE"],
  ahead: ["SW"],
  push: ["SW"],
  height: ["SW", "YU"],
  reach: ["QE"],
  radius: ["QE"],
  up: ["QE"],
  turn: ["QE"],
  iris: [",."],
};

const headAndLens: Record<string, string> = { pan: "FH", tilt: "GT", roll: "ZX", zoom: "CV", focus: "NM" };

/** A gamepad as browsers name its controls: the stick or buttons that go with a pair of keys. */
const pad: Record<string, Source> = {
  AD: { by: "stick", axis: 0, flip: false },
  SW: { by: "stick", axis: 1, flip: true },
  QE: { by: "buttons", less: 6, more: 7 },
  YU: { by: "buttons", less: 14, more: 15 },
  "[]": { by: "buttons", less: 13, more: 12 },
  FH: { by: "stick", axis: 2, flip: false },
  GT: { by: "stick", axis: 3, flip: true },
  ZX: { by: "buttons", less: 4, more: 5 },
  CV: { by: "buttons", less: 0, more: 3 },
  NM: { by: "buttons", less: 2, more: 1 },
};

const mouse: Record<string, Source> = {
  pan: { by: "mouse", along: "x" },
  tilt: { by: "mouse", along: "y" },
  zoom: { by: "wheel" },
};

/** Default inputs of a machine. */
export function usual(axes: AxisView[]): Preset {
  const free = new Set(pairs);
  const give = (axis: AxisView) => {
    const own = headAndLens[axis.name];
    if (axis.group !== "machine" && own) return own;
    const pair = [...(liked[axis.hand ?? ""] ?? []), ...pairs].find((p) => free.has(p));
    if (pair) free.delete(pair);
    return pair;
  };
  const driven = axes.filter((a) => a.hand !== null);
  return Object.fromEntries(
    driven.map((axis) => {
      const pair = give(axis);
      const sources: Source[] = pair ? [{ by: "keys", less: pair[0]!, more: pair[1]! }] : [];
      if (pair && pad[pair]) sources.push(pad[pair]);
      if (axis.group !== "machine" && mouse[axis.name]) sources.push(mouse[axis.name]!);
      return [axis.name, { sources, shaping: usualShaping }];
    }),
  );
}

/** Buttons by where they are, as in the standard layout of the W3C's Gamepad. */
const clusters = ["right", "front", "middle", "left"] as const;
const arrows = ["↓→←↑", "↖↗↙↘", "←→", "↑↓←→"];
const places = [0, 4, 8, 12];
function button(i: number): string {
  const k = places.findLastIndex((first) => first <= i);
  const arrow = arrows[k]?.[i - places[k]!];
  return arrow ? `${clusters[k]} ${arrow}` : `button ${i}`;
}

/** A few words for a source. */
export function sourceWord(source: Source): string {
  switch (source.by) {
    case "keys":
      return `keys ${source.less} ${source.more}`;
    case "stick":
      return `${["left stick ↔", "left stick ↕", "right stick ↔", "right stick ↕"][source.axis] ?? `stick ${source.axis}`}`;
    case "buttons":
      return `pad ${button(source.less)}, ${button(source.more)}`;
    case "mouse":
      return source.along === "x" ? "mouse ↔" : "mouse ↕";
    case "wheel":
      return "wheel";
  }
}

const same = (a: Source, b: Source) => JSON.stringify(a) === JSON.stringify(b);

/** A preset in which an axis has a source more, which no other axis has then. */
export function assigned(preset: Preset, axis: string, source: Source): Preset {
  const clash = (s: Source) =>
    same(s, source) ||
    (s.by === "keys" &&
      source.by === "keys" &&
      [s.less, s.more].some((k) => k === source.less || k === source.more)) ||
    (s.by === "stick" && source.by === "stick" && s.axis === source.axis) ||
    (s.by === "buttons" &&
      source.by === "buttons" &&
      [s.less, s.more].some((k) => k === source.less || k === source.more));
  return Object.fromEntries(
    Object.entries(preset).map(([name, input]) => {
      const kept = input.sources.filter((s) => !clash(s) && !(name === axis && s.by === source.by));
      return [name, { ...input, sources: name === axis ? [...kept, source] : kept }];
    }),
  );
}
