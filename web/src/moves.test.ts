import { expect, test } from "vitest";
import type { MoverView } from "./generated/types";
import {
  alike,
  decodeLanes,
  momentOf,
  momentWhenReady,
  MoveFrames,
  placeAt,
  spanOf,
  trace,
  valueAt,
} from "./moves";

const half = Math.SQRT1_2;
/** Frames with one axis, no bodies, a piece of one part that goes along; the camera is at so many metres. */
const rowAt = (x: number) => [
  x,
  2,
  0,
  0,
  0,
  0,
  1,
  35,
  5,
  4,
  3,
  9,
  0,
  0,
  0,
  8,
  0,
  0,
  0.5,
  0.25,
  0,
  40,
  20,
  10,
];
const rows = [
  [...rowAt(0), ...[3, 0, 0, 0, 0, 0, 1]],
  // Turned a quarter to the left; the sign of the quaternion is free.
  [1, 2, 0, 0, -half, 0, -half, 50, 5, 4, 4, Infinity, -90, 0, 0, 9, 1, 2, 0.25, 0.125, 3, 30, 10, 20].concat(
    [4, 0, 2, 0, 0, 0, 1],
  ),
];

/** An answer of the server: some rows of a move, the first of them at a place. */
function answer(
  sent: number[][],
  how: { first?: number; cut?: number; from?: number; of?: number; window?: number; path?: number },
) {
  const { first = 0, cut, from = 0, of = sent.length, window = 1200, path = 0 } = how;
  const jumps = cut === undefined ? 0 : 8;
  const at = 48 + jumps + 12 * of;
  const buffer = new ArrayBuffer(at + sent.length * (4 + 31 * 4));
  new Uint32Array(buffer, 0, 9).set([first, of, 1, 0, 1, jumps / 8, from, sent.length, window]);
  if (cut !== undefined) {
    new Uint32Array(buffer, 36, 1).set([1]);
    new Float32Array(buffer, 40, 1).set([cut]);
  }
  new Uint32Array(buffer, 36 + jumps, 3).set([2, 7, 1]);
  new Float32Array(buffer, 48 + jumps, 3 * of).fill(path);
  new Uint32Array(buffer, at, sent.length).set([0x0100_0017, 0x0100_0100].slice(0, sent.length));
  new Float32Array(buffer, at + 4 * sent.length).set(sent.flat());
  return buffer;
}

const nothingElse = () => Promise.reject(new Error("nothing else is asked for"));
const twoFrames = (first = 0, cut?: number) =>
  new MoveFrames(answer(rows, { first, ...(cut !== undefined && { cut }) }), nothingElse);
const at = (move: MoveFrames, time: number) => momentOf(move, 24, time)!;

test("a move is mixed between its frames and held outside them", () => {
  const move = twoFrames();
  const middle = at(move, 0.5 / 24);
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
  expect(at(move, 1 / 24).timecode).toBe(0x0100_0100);
  expect(middle.shot).toBe("middle");
  // Half of a quarter turn to the left.
  expect(Math.abs(middle.rotation[1])).toBeCloseTo(Math.sin(Math.PI / 8), 5);
  expect(at(move, 0.9 / 24).far).toBe(Infinity);
  expect(at(move, 99).axes).toEqual([20]);
  expect(at(move, -1).axes).toEqual([10]);
  // One that begins later has its frames at their own times.
  expect(at(twoFrames(48), 2 + 0.5 / 24).axes).toEqual([15]);
});

test("two frames are never mixed across a jump", () => {
  const move = twoFrames(0, 0.6);
  const beside = (place: number) => at(move, place / 24);
  expect([0, 0.2, 0.59].map((place) => beside(place).position[0])).toEqual([0, 0, 0]);
  expect([0.61, 0.9, 1].map((place) => beside(place).position[0])).toEqual([1, 1, 1]);
  expect(beside(0.59).axes).toEqual([10]);
  expect(beside(0.61).movers[0]!.bodies[0]).toBe(4);
});

test("a long move comes window by window, is mixed across their ends, and survives a window that failed", async () => {
  const all = Array.from({ length: 25 }, (_, i) => [...rowAt(i), ...[3, 0, 0, 0, 0, 0, 1]]);
  const asked: number[] = [];
  let fails = true;
  const ask = (around: number) => {
    asked.push(around);
    const from = around - 100;
    if (from === 20 && fails) return Promise.reject(new Error("the line is down"));
    return Promise.resolve(answer(all.slice(from, from + 11), { first: 100, from, of: 25, window: 10 }));
  };
  const move = new MoveFrames(answer(all.slice(0, 11), { first: 100, of: 25, window: 10 }), ask);
  const seen = (place: number) => momentOf(move, 24, (100 + place) / 24)?.position[0];
  expect(seen(5)).toBe(5);
  expect(asked).toEqual([]);
  // Near its end the next one is asked for, once, and the last step goes across.
  expect([seen(9.5), seen(9)]).toEqual([9.5, 9]);
  expect(asked).toEqual([110]);
  await move.ready(12);
  expect(seen(14.25)).toBe(14.25);
  expect(seen(24)).toBeUndefined();
  await expect(move.ready(24)).rejects.toThrow("the line is down");
  fails = false;
  expect((await momentWhenReady(move, 24, 124 / 24))!.position[0]).toBe(24);
  expect(asked).toEqual([110, 120, 120]);
});

test("a window of a move that was changed meanwhile is left out", async () => {
  const sent = (of: number, from: number) =>
    answer([...rows, ...rows].slice(0, Math.min(3, of - from)), { from, of, window: 2 });
  const move = new MoveFrames(sent(6, 0), () => Promise.resolve(sent(5, 4)));
  expect(await momentWhenReady(move, 24, 5 / 24)).toBe(null);
  // As long as it was, and another way.
  const otherWay = () => Promise.resolve(answer(rows, { from: 4, of: 6, window: 2, path: 1 }));
  expect(await momentWhenReady(new MoveFrames(sent(6, 0), otherWay), 24, 5 / 24)).toBe(null);
  const sameWay = () => Promise.resolve(answer(rows, { from: 4, of: 6, window: 2 }));
  const whole = new MoveFrames(sent(6, 0), sameWay);
  await whole.readyBetween(4, 5);
  expect(momentOf(whole, 24, 5 / 24)).not.toBe(null);
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
