import { describe, expect, it } from "vitest";
import type { Move } from "../generated/types";
import { copiedOf, shifter, joined, keysOf, picksWhere, present, stepTime, turned } from "./picked";

const side = { side: "smooth" } as const;
const keys = (...of: [number, number, number][]) =>
  of.map(([id, time_s, value]) => ({ id, time_s, value, before: side, after: side }));
const curves: Move["curves"] = {
  pan: keys([1, 0, 0], [2, 1, 10], [3, 2, 20]),
  boom: keys([4, 1, 5], [6, 3, 7]),
};

describe("picked keys", () => {
  it("are turned, joined, and forgotten when they are gone", () => {
    expect(turned({ pan: [1, 2] }, { pan: [2, 3], boom: [4] })).toEqual({ pan: [1, 3], boom: [4] });
    expect(turned({ pan: [1] }, { pan: [1] })).toEqual({});
    expect(joined({ pan: [1] }, { pan: [1, 2] })).toEqual({ pan: [1, 2] });
    expect(present({ pan: [1, 9], tilt: [1] }, curves)).toEqual({ pan: [1] });
    expect(picksWhere(curves, (_, k) => k.time_s === 1)).toEqual({ pan: [2], boom: [4] });
    expect(keysOf({ pan: [3], boom: [4] }, curves).map(({ axis, key }) => [axis, key.time_s])).toEqual([
      ["boom", 1],
      ["pan", 2],
    ]);
  });

  it("are copied with the first of them at time 0", () => {
    const copied = copiedOf({ pan: [3], boom: [4] }, curves)!;
    expect(copied["pan"]!.map((k) => [k.id, k.time_s, k.value])).toEqual([[0, 1, 20]]);
    expect(copied["boom"]!.map((k) => k.time_s)).toEqual([0]);
    expect(copiedOf({}, curves)).toBeNull();
  });

  it("are moved onto frames, not below 0, and never onto a key that stays", () => {
    expect(shifter(curves, { pan: [2] }, 1)(0.49, 24)).toBeCloseTo(0.5, 9);
    expect(shifter(curves, { pan: [2] }, 1)(0.49, null)).toBe(0.49);
    expect(shifter(curves, { pan: [2] }, 1)(1, 24)).toBeCloseTo(23 / 24, 9);
    expect(shifter(curves, { pan: [2] }, 1)(-1, 24)).toBeCloseTo(-23 / 24, 9);
    expect(shifter(curves, { pan: [2, 3] }, 2)(-5, 24)).toBeCloseTo(-23 / 24, 9);
    // Past a key that stays is allowed: the order is that of time.
    expect(shifter(curves, { pan: [1] }, 0)(1.5, 24)).toBeCloseTo(1.5, 9);
    expect(shifter(curves, { pan: [1] }, 0)(-1, 24)).toBe(0);
  });

  it("are stepped through by time", () => {
    expect([stepTime(curves, 1, 1), stepTime(curves, 1, -1), stepTime(curves, 3, 1)]).toEqual([2, 0, null]);
  });
});
