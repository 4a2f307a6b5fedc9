import type { Key } from "../move/picked";
import { spanOf } from "../moves";
import type { Window } from "../state/window";
import type { Lane } from "./folding";
import { NAMES_WIDE } from "./time";

/** Layout of curves on their canvas: time to the right behind the names, each lane with a range of its own. */

export type Range = [number, number];

export interface Place {
  lane: Lane;
  /** Top of the drawn area in the canvas, pixels. */
  top: number;
  room: number;
  low: number;
  high: number;
}

export interface Geometry {
  width: number;
  height: number;
  window: Window;
  places: Place[];
}

export interface Layout {
  /** All curves in one lane. */
  over: boolean;
  /** Curves of one unit have one scale. */
  true_to_scale: boolean;
  /** Ranges that somebody has zoomed to, by the lanes' names. */
  zoomed: Record<string, Range>;
}

/** Range of a lane: its curves with some air, and wide enough that a still axis looks still. */
function rangeOf({ least, from_zero: fromZero, raw, now, keys }: Lane): Range {
  let [low, high] = spanOf([raw, now]);
  for (const { value } of keys) [low, high] = [Math.min(low, value), Math.max(high, value)];
  const air = Math.max((high - low) * 0.12, (least - (high - low)) / 2, least * 0.05);
  return [fromZero ? Math.min(0, low) : low - air, high + air];
}

/** Ranges of the lanes, top to bottom. */
export function rangesOf(lanes: Lane[], { true_to_scale: toScale, zoomed }: Layout): Range[] {
  const own = lanes.map(rangeOf);
  const span = (unit: string) =>
    Math.max(...lanes.map((l, i) => (l.unit === unit ? own[i]![1] - own[i]![0] : 0)));
  return lanes.map((lane, i) => {
    const [low, high] = own[i]!;
    const byHand = zoomed[lane.name];
    if (byHand) return byHand;
    const half = span(lane.unit) / 2;
    const middle = (low + high) / 2;
    if (!toScale) return [low, high];
    return lane.from_zero ? [low, low + 2 * half] : [middle - half, middle + half];
  });
}

/** Between the lanes. */
const GAP = 6;

export function geometryOf(
  lanes: Lane[],
  ranges: Range[],
  [width, height]: [number, number],
  window: Window,
  over: boolean,
): Geometry {
  const one = height / (over ? 1 : Math.max(1, lanes.length));
  const places = lanes.map((lane, i): Place => {
    const [low, high] = ranges[i]!;
    return { lane, top: (over ? 0 : i * one) + GAP, room: one - 2 * GAP, low, high };
  });
  return { width, height, window, places };
}

export const xOf = ({ width, window: [from, to] }: Geometry, time: number) =>
  NAMES_WIDE + ((time - from) / (to - from)) * (width - NAMES_WIDE);
export const timeOf = ({ width, window: [from, to] }: Geometry, x: number) =>
  from + ((x - NAMES_WIDE) / (width - NAMES_WIDE)) * (to - from);
export const yOf = ({ top, room, low, high }: Place, value: number) =>
  top + room - ((value - low) / (high - low)) * room;
export const valueOf = ({ top, room, low, high }: Place, y: number) =>
  low + ((top + room - y) / room) * (high - low);

/** The lane at a height; where all lie over one another, the first. */
export const placeAt = ({ places, height }: Geometry, y: number): Place | undefined =>
  places.find((p) => y >= p.top - GAP && y < p.top + p.room + GAP) ??
  (y < height ? places.at(-1) : undefined);

/** How near a hand has to be, pixels. */
const NEAR = 8;

/** The key under a hand. */
export function keyAt(g: Geometry, x: number, y: number): { place: Place; key: Key } | null {
  let best: { place: Place; key: Key } | null = null;
  let least = NEAR;
  for (const place of g.places)
    for (const key of place.lane.keys) {
      const dx = Math.abs(xOf(g, key.time_s) - x);
      if (dx >= least) continue;
      const away = Math.hypot(dx, yOf(place, key.value) - y);
      if (away < least) [best, least] = [{ place, key }, away];
    }
  return best;
}

/** The keys inside a box, by the names of their lanes. */
export function keysIn(g: Geometry, [x0, y0]: Range, [x1, y1]: Range): Record<string, number[]> {
  const [left, right, top, bottom] = [Math.min(x0, x1), Math.max(x0, x1), Math.min(y0, y1), Math.max(y0, y1)];
  const inside = (place: Place, key: Key) => {
    const [x, y] = [xOf(g, key.time_s), yOf(place, key.value)];
    return x >= left && x <= right && y >= top && y <= bottom;
  };
  return Object.fromEntries(
    g.places.map((p) => [p.lane.name, p.lane.keys.filter((k) => inside(p, k)).map((k) => k.id)]),
  );
}

/** The end of a free side that is held and drawn. */
export interface Handle {
  place: Place;
  key: Key;
  side: "before" | "after";
  /** Seconds from the key to its neighbour on that side. */
  span: number;
  x: number;
  y: number;
}

/** The handles of a key: its free sides that have a neighbour. */
export function handlesOf(g: Geometry, place: Place, key: Key): Handle[] {
  const at = place.lane.keys.findIndex((k) => k.id === key.id);
  const [prev, next] = [place.lane.keys[at - 1], place.lane.keys[at + 1]];
  return (["before", "after"] as const).flatMap((side) => {
    const to = side === "before" ? prev : next;
    const free = key[side];
    if (free.side !== "free" || !to) return [];
    const span = to.time_s - key.time_s;
    const time = span * free.length;
    const [x, y] = [xOf(g, key.time_s + time), yOf(place, key.value + free.slope * time)];
    return [{ place, key, side, span, x, y }];
  });
}

/** Slope and length of a side whose end is held at a place. */
export function sideAt(g: Geometry, { place, key, span }: Handle, x: number, y: number) {
  // A hand on the wrong side of its key holds it straight up.
  const share = Math.min(1, Math.max(0.02, (timeOf(g, x) - key.time_s) / span));
  return { side: "free" as const, slope: (valueOf(place, y) - key.value) / (share * span), length: share };
}

/** Values closer together, or farther apart, with one staying in its place. */
export function zoomedRange([low, high]: Range, still: number, times: number): Range {
  const span = Math.max(1e-6, (high - low) * times);
  const first = still - ((still - low) / (high - low)) * span;
  return [first, first + span];
}
