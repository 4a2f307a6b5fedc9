import { expect, test } from "vitest";
import type { MoverView } from "./generated/types";
import { alike, decodeLanes, decodeMove, momentOf, placeAt, spanOf, trace, valueAt } from "./moves";

/** Two frames, one axis, no bodies, a piece of one part that goes along. */
function twoFrames(first = 0, cut?: number) {
  const jumps = cut === undefined ? 0 : 8;
  const buffer = new ArrayBuffer(36 + jumps + 2 * 4 + 2 * 31 * 4);
  new Uint32Array(buffer, 0, 6).set([first, 2, 1, 0, 1, jumps / 8]);
  if (cut !== undefined) {
    new Uint32Array(buffer, 24, 1).set([1]);
    new Float32Array(buffer, 28, 1).set([cut]);
  }
  new Uint32Array(buffer, 24 + jumps, 3).set([2, 7, 1]);
  new Uint32Array(buffer, 36 + jumps, 2).set([0x0100_0017, 0x0100_0100]);
  const half = Math.SQRT1_2;
  new Float32Array(buffer, 44 + jumps).set([
    ...[0, 2, 0, 0, 0, 0, 1, 35, 5, 4, 3, 9, 0, 0, 0, 8, 0, 0, 0.5, 0.25, 0, 40, 20, 10],
    ...[3, 0, 0, 0, 0, 0, 1],
    // Turned a quarter to the left; the sign of the quaternion is free.
    ...[1, 2, 0, 0, -half, 0, -half, 50, 5, 4, 4, Infinity, -90, 0, 0, 9, 1, 2, 0.25, 0.125, 3, 30, 10, 20],
    ...[4, 0, 2, 0, 0, 0, 1],
  ]);
  return decodeMove(buffer);
}

test("a move is mixed between its frames and held outside them", () => {
  const move = twoFrames();
  const middle = momentOf(move, 24, 0.5 / 24);
  expect(middle.position).toEqual([0.5, 2, 0]);
  expect(middle.focal).toBeCloseTo(42.5);
  expect(middle.axes).toEqual([15]);
  expect(middle.movers).toEqual([
    { kind: "piece", id: 7, bodies: Float32Array.from([3.5, 0, 1, 0, 0, 0, 1]) },
  ]);
  expect(middle.halfFrame).toEqual([0.375, 0.1875]);
  expect(middle.sees).toEqual([35, 15]);
  // A frame is seen until the next one begins.
  expect(middle.timecode).toBe(0x0100_0017);
  expect(momentOf(move, 24, 1 / 24).timecode).toBe(0x0100_0100);
  expect(middle.shot).toBe("middle");
  // Half of a quarter turn to the left.
  expect(Math.abs(middle.rotation[1])).toBeCloseTo(Math.sin(Math.PI / 8), 5);
  expect(momentOf(move, 24, 0.9 / 24).far).toBe(Infinity);
  expect(momentOf(move, 24, 99).axes).toEqual([20]);
  expect(momentOf(move, 24, -1).axes).toEqual([10]);
  // One that begins later has its frames at their own times.
  expect(momentOf(twoFrames(48), 24, 2 + 0.5 / 24).axes).toEqual([15]);
});

test("two frames are never mixed across a jump", () => {
  const move = twoFrames(0, 0.6);
  const at = (place: number) => momentOf(move, 24, place / 24);
  expect([0, 0.2, 0.59].map((place) => at(place).position[0])).toEqual([0, 0, 0]);
  expect([0.61, 0.9, 1].map((place) => at(place).position[0])).toEqual([1, 1, 1]);
  expect(at(0.59).axes).toEqual([10]);
  expect(at(0.61).movers[0]!.bodies[0]).toBe(4);
});

/** 61 samples at 30 a second on three columns; of the one axis: raw, then now. */
function threeColumns() {
  const buffer = new ArrayBuffer(20 + 12 * 4);
  new Uint32Array(buffer, 0, 3).set([61, 1, 3]);
  new Float32Array(buffer, 12).set([30, 0, ...[0, 1, 2], ...[0, 9, 2], ...[0, 1, 2], ...[0, 1.5, 2]]);
  return decodeLanes(buffer);
}

test("curves are drawn from the least to the greatest of each column", () => {
  const lanes = threeColumns();
  const points: number[][] = [];
  trace(lanes.raw[0]!, (x, v) => points.push([x, v]));
  expect(points).toEqual([
    [0, 0],
    [0.5, 1],
    [0.5, 9],
    [1, 2],
  ]);
  expect(spanOf([...lanes.now, ...lanes.raw])).toEqual([0, 9]);
  expect(spanOf(lanes.now)).toEqual([0, 2]);
});

test("a curve has a value at every time, held outside", () => {
  const lanes = threeColumns();
  const at = (time: number) => valueAt(lanes, lanes.now[0]!, time);
  expect([-1, 0, 0.9, 1.6, 99].map(at)).toEqual([0, 0, 1.25, 2, 2]);
});

const path: MoverView["path"] = [
  [0, 0, 0],
  [1, 0, 2],
  [1, 0.5, 4],
];

test("somebody on a path is between its points, and at its ends before and after", () => {
  const at = (time: number) => placeAt({ path, path_hz: 2 } as MoverView, time);
  expect(at(0.25)).toEqual([0.5, 0, 1]);
  expect(at(0.75)).toEqual([1, 0.25, 3]);
  expect(at(-1)).toEqual([0, 0, 0]);
  expect(at(9)).toEqual([1, 0.5, 4]);
});

test("curves that are the same are known that are the same", () => {
  const envelope = (...low: number[]) => ({ low: Float32Array.from(low), high: Float32Array.of(5, 6) });
  expect(alike(envelope(1, 2), envelope(1, 2))).toBe(true);
  expect(alike(envelope(1, 2), envelope(1, 3))).toBe(false);
  expect(alike(envelope(1, 2), envelope(1))).toBe(false);
});
