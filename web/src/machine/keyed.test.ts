import { expect, test } from "vitest";
import { freeNumber, keyed } from "./keyed";

test("there are never two keys at one time", () => {
  const at = (time_s: number, swing: number) => ({ time_s, axes: { swing } });
  const keys = keyed(keyed(keyed([], at(2, 1)), at(0, 2)), at(2.001, 3));
  expect(keys).toEqual([at(0, 2), at(2.001, 3)]);
});

test("the next position gets the first number that is free", () => {
  const position = (number: number) => ({ number, axes: {} });
  expect(freeNumber([position(1), position(3)])).toBe(2);
});
