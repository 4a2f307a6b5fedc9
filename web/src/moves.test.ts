import { expect, test } from "vitest";
import { decodeMove, envelope, momentOf } from "./moves";

/** Two frames, one axis, no bodies. */
function twoFrames() {
  const buffer = new ArrayBuffer(12 + 2 * 22 * 4);
  new Uint32Array(buffer, 0, 3).set([2, 1, 0]);
  const half = Math.SQRT1_2;
  new Float32Array(buffer, 12).set([
    ...[0, 2, 0, 0, 0, 0, 1, 35, 5, 4, 3, 9, 0, 0, 0, 8, 0, 0, 0.5, 0.25, 0, 10],
    // Turned a quarter to the left; the sign of the quaternion is free.
    ...[1, 2, 0, 0, -half, 0, -half, 50, 5, 4, 4, Infinity, -90, 0, 0, 9, 1, 2, 0.25, 0.125, 3, 20],
  ]);
  return decodeMove(buffer);
}

test("a move is mixed between its frames and held outside them", () => {
  const move = twoFrames();
  const middle = momentOf(move, 24, 0.5 / 24);
  expect(middle.position).toEqual([0.5, 2, 0]);
  expect(middle.focal).toBeCloseTo(42.5);
  expect(middle.axes).toEqual([15]);
  expect(middle.halfFrame).toEqual([0.375, 0.1875]);
  expect(middle.shot).toBe("middle");
  // Half of a quarter turn to the left.
  expect(Math.abs(middle.rotation[1])).toBeCloseTo(Math.sin(Math.PI / 8), 5);
  expect(momentOf(move, 24, 0.9 / 24).far).toBe(Infinity);
  expect(momentOf(move, 24, 99).axes).toEqual([20]);
  expect(momentOf(move, 24, -1).axes).toEqual([10]);
});

test("a spike of one sample is seen however many samples share a pixel", () => {
  const values = new Float32Array(7201).map((_, i) => Math.sin(i / 900));
  values[3333] = 9;
  const { low, high } = envelope(values, 300);
  expect(Math.max(...high)).toBe(9);
  expect(high.every((v, c) => v >= low[c]!)).toBe(true);
  expect([low[0], high[299]]).toEqual([values[0], expect.closeTo(values[7200]!, 1)]);
  // Fewer samples than columns: what stands between them is held.
  const few = envelope(Float32Array.of(1, 2), 5);
  expect([...few.low]).toEqual([1, 1, 1, 1, 2]);
});
