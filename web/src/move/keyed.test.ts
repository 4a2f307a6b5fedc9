import { expect, test } from "vitest";
import type { Move } from "../generated/types";
import { freeNumber, freeTime, keyOps, keyTimes, moveOps, removeOps } from "./keyed";

const side = { side: "smooth" } as const;
const key = (id: number, time_s: number, value: number) => ({ id, time_s, value, before: side, after: side });
const curves: Move["curves"] = {
  pan: [key(1, 0, 5), key(2, 2, 9)],
  boom: [key(1, 2.001, 30), key(4, 3, 12)],
};

test("keys of several axes at one time are one time", () => {
  const times = keyTimes(curves);
  expect(times.map((t) => t.time_s)).toEqual([0, 2, 3]);
  expect(times[1]!.keys).toEqual([
    { axis: "pan", id: 2, value: 9 },
    { axis: "boom", id: 1, value: 30 },
  ]);
  expect(keyTimes({})).toEqual([]);
});

test("a key at the playhead gets the value, elsewhere it is new, and so is an axis without keys", () => {
  const ops = keyOps(7, curves, 2, { pan: 1, boom: 2, tilt: 3 }, () => -5);
  expect(ops).toEqual([
    { op: "replace", path: "/moves/7/curves/pan/2/value", value: 1 },
    { op: "replace", path: "/moves/7/curves/boom/1/value", value: 2 },
    { op: "add", path: "/moves/7/curves/tilt", value: [{ time_s: 2, value: 3 }] },
  ]);
  expect(keyOps(7, curves, 1, { pan: 1 }, () => -5)).toEqual([
    { op: "add", path: "/moves/7/curves/pan/new:5", value: { time_s: 1, value: 1 } },
  ]);
});

test("all keys of a time are moved and taken away together", () => {
  const [, second] = keyTimes(curves);
  expect(moveOps(7, second!, 2.5).map((op) => op.path)).toEqual([
    "/moves/7/curves/pan/2/time_s",
    "/moves/7/curves/boom/1/time_s",
  ]);
  expect(removeOps(7, second!)).toHaveLength(2);
});

test("a key that is dragged lands on a frame and on no other key", () => {
  const times = keyTimes(curves);
  const [, second] = times;
  expect(freeTime(times, second!, 2.49, 24)).toBeCloseTo(60 / 24);
  // On the key at 3 s: the frame before it.
  expect(freeTime(times, second!, 3, 24)).toBeCloseTo(71 / 24);
  expect(freeTime(times, second!, -1, 24)).toBeCloseTo(1 / 24);
  expect(freeTime(times, second!, 2.01, 24)).toBe(2);
});

test("the next position gets the first number that is free", () => {
  const position = (number: number) => ({ number, axes: {} });
  expect(freeNumber([position(1), position(3)])).toBe(2);
});
