import { expect, it } from "vitest";
import { nextPoint } from "./points";

it("the next point is another one, in either way", () => {
  const times = [4, 0, 2.5, 2.5, 9];
  expect([nextPoint(times, 2.5, 1), nextPoint(times, 2.5, -1)]).toEqual([4, 0]);
  expect([nextPoint(times, 2.4999, 1), nextPoint(times, 8, -1)]).toEqual([4, 4]);
  expect([nextPoint(times, 9, 1), nextPoint([], 1, 1)]).toEqual([null, null]);
});
