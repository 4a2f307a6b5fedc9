import { expect, test } from "vitest";
import { freeNumber, keyAt } from "./keyed";

test("a key that stands at the playhead is found, one beside it is not", () => {
  const keys = [0, 2].map((time_s) => ({ time_s, axes: {} }));
  expect(keyAt(keys, 2.001)).toBe(keys[1]);
  expect(keyAt(keys, 1.9)).toBeUndefined();
});

test("the next position gets the first number that is free", () => {
  const position = (number: number) => ({ number, axes: {} });
  expect(freeNumber([position(1), position(3)])).toBe(2);
});
