import { expect, test } from "vitest";
import { added, keyAt, moved, shareOfX, valueOn, without, xOfShare, type Frame } from "./course";

const time: Frame = { from: 0, to: 10, log: false, min: -1, max: 2 };
const hertz: Frame = { from: 0.1, to: 10, log: true, min: 0, max: 1 };
const keys = [keyAt(1, 0), keyAt(3, 1), keyAt(5, 1), keyAt(8, 0.5)];

test("a key stays between its neighbours and within the frame", () => {
  expect(moved(keys, 1, time, 9, 7)[1]).toMatchObject({ time_s: 4.98, value: 2 });
  expect(moved(keys, 0, time, -4, -7)[0]).toMatchObject({ time_s: 0, value: -1 });
  expect(moved(keys, 3, time, 99, 0.123)[3]).toMatchObject({ time_s: 10, value: 0.12 });
});

test("keys are added in their place, not on another one, and the last one stays", () => {
  expect(added(keys, 4, 0.2).map((k) => k.time_s)).toEqual([1, 3, 4, 5, 8]);
  expect(added(keys, 3.01, 0.2)).toBe(keys);
  expect(without(keys, 1)).toHaveLength(3);
  expect(without([keys[0]!], 0)).toHaveLength(1);
});

test("the course goes through its keys without overshoot, and stands outside of them", () => {
  for (const k of keys) expect(valueOn(keys, k.time_s)).toBeCloseTo(k.value, 12);
  expect([valueOn(keys, -5), valueOn(keys, 50)]).toEqual([0, 0.5]);
  for (let x = 0; x < 10; x += 0.05) expect(valueOn(keys, x)).toBeLessThanOrEqual(1 + 1e-12);
  expect(valueOn(keys, 2)).toBeCloseTo(0.5, 12);
});

test("over frequency an octave is as wide everywhere", () => {
  expect(shareOfX(hertz, 1)).toBeCloseTo(0.5);
  expect(xOfShare(hertz, shareOfX(hertz, 3))).toBeCloseTo(3);
  expect(shareOfX(hertz, 0)).toBe(0);
});
