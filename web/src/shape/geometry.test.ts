import { describe, expect, it } from "vitest";
import type { Lane } from "./folding";
import {
  geometryOf,
  handlesOf,
  keyAt,
  keysIn,
  placeAt,
  rangesOf,
  sideAt,
  timeOf,
  valueOf,
  xOf,
  yOf,
  zoomedRange,
  type Layout,
} from "./geometry";
import { NAMES_WIDE } from "./time";

const free = (slope: number, length = 1 / 3) => ({ side: "free", slope, length }) as const;
const smooth = { side: "smooth" } as const;
const curve = (low: number, high: number) => ({
  low: Float32Array.of(low, low),
  high: Float32Array.of(high, high),
});
const lane = (name: string, unit: string, low: number, high: number, keys: Lane["keys"] = []): Lane => ({
  name,
  unit,
  ink: "pan",
  i: 0,
  min: null,
  max: null,
  least: 2,
  from_zero: false,
  raw: curve(low, high),
  now: curve(low, high),
  keys,
});
const keys: Lane["keys"] = [
  { id: 1, time_s: 0, value: 0, before: smooth, after: smooth },
  { id: 2, time_s: 4, value: 50, before: free(10), after: free(-5, 0.5) },
  { id: 3, time_s: 10, value: 100, before: smooth, after: smooth },
];
const lanes = [lane("pan", "°", 0, 100, keys), lane("boom", "°", 0, 10), lane("reach", "m", 2, 6)];
const plain: Layout = { over: false, true_to_scale: false, zoomed: {} };
const size: [number, number] = [NAMES_WIDE + 1000, 300];
const g = geometryOf(lanes, rangesOf(lanes, plain), size, [0, 10], false);

describe("lanes", () => {
  it("have ranges of their own, one scale for a unit, or what somebody zoomed to", () => {
    expect(rangesOf(lanes, plain)[0]).toEqual([-12, 112]);
    const scaled = rangesOf(lanes, { ...plain, true_to_scale: true }).map(([low, high]) => high - low);
    expect(scaled[0]).toBeCloseTo(scaled[1]!, 9);
    expect(scaled[2]).toBeCloseTo(4.96, 9);
    expect(rangesOf(lanes, { ...plain, zoomed: { boom: [3, 4] } })[1]).toEqual([3, 4]);
    expect(zoomedRange([0, 10], 2, 0.5)).toEqual([1, 6]);
  });

  it("lie below one another, or over one another", () => {
    expect(placeAt(g, 150)?.lane.name).toBe("boom");
    const over = geometryOf(lanes, rangesOf(lanes, plain), size, [0, 10], true);
    expect(over.places.map((p) => p.top)).toEqual([6, 6, 6]);
    expect(over.places[0]!.room).toBe(288);
    const back = valueOf(g.places[1]!, yOf(g.places[1]!, 7));
    expect([timeOf(g, xOf(g, 3.5)), back]).toEqual([3.5, expect.closeTo(7, 9) as number]);
  });
});

describe("keys under a hand", () => {
  it("are found by their place, and by boxes", () => {
    const at = (t: number, v: number) => [xOf(g, t), yOf(g.places[0]!, v)] as [number, number];
    const [x, y] = at(4, 50);
    expect(keyAt(g, x + 4, y - 4)?.key.id).toBe(2);
    expect(keyAt(g, x + 9, y)).toBeNull();
    expect(keysIn(g, at(3, 110), at(11, -10))["pan"]).toEqual([2, 3]);
    expect(keysIn(g, at(11, 60), at(3, 10))["pan"]).toEqual([2]);
  });

  it("have handles on free sides, and a held one says slope and length", () => {
    const [before, after] = handlesOf(g, g.places[0]!, keys[1]!);
    expect([before!.side, after!.side, before!.span, after!.span]).toEqual(["before", "after", -4, 6]);
    for (const handle of [before!, after!]) {
      const held = sideAt(g, handle, handle.x, handle.y);
      const side = handle.key[handle.side];
      expect(held).toEqual({
        side: "free",
        slope: expect.closeTo(side.side === "free" ? side.slope : NaN, 9) as number,
        length: expect.closeTo(side.side === "free" ? side.length : NaN, 9) as number,
      });
    }
    // On the wrong side of its key it points straight up, and never past its neighbour.
    expect(sideAt(g, after!, xOf(g, 1), 0).length).toBe(0.02);
    expect(sideAt(g, after!, xOf(g, 30), 0).length).toBe(1);
    expect(handlesOf(g, g.places[0]!, keys[0]!)).toEqual([]);
  });
});
