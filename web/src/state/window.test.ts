import { expect, test } from "vitest";
import { panned, shownOf, turned, zoomed } from "./window";

test("zooming keeps an instant where it is, and ends at all of it", () => {
  expect(zoomed(null, 20, 5, 0.5)).toEqual([2.5, 12.5]);
  // 5 s stand a quarter in, before and after.
  expect(zoomed([2.5, 12.5], 20, 5, 0.5)).toEqual([3.75, 8.75]);
  expect(zoomed([2.5, 12.5], 20, 5, 4)).toBeNull();
  expect(zoomed([2.5, 12.5], 20, 5, 1e-9)![1]).toBeCloseTo(zoomed([2.5, 12.5], 20, 5, 1e-9)![0] + 0.25, 9);
  // About an instant that is not shown: about the nearest that is.
  expect(zoomed([10, 12], 20, 0, 0.5)).toEqual([10, 11]);
});

test("a window stays within the whole", () => {
  expect(shownOf([-3, 2], 20)).toEqual([0, 5]);
  expect(shownOf([18, 24], 20)).toEqual([14, 20]);
  expect(shownOf([3, 99], 20)).toEqual([0, 20]);
  expect(shownOf(null, 20)).toEqual([0, 20]);
  expect(panned([4, 8], 20, 0.5)).toEqual([6, 10]);
  expect(panned([4, 8], 20, 9)).toEqual([16, 20]);
  expect(panned(null, 20, 1)).toBeNull();
});

test("playing turns the page ahead, and back where time goes back", () => {
  expect(turned([4, 8], 20, 8.01, 1)).toEqual([8.01, 12.01]);
  expect(turned([4, 8], 20, 3.99, -1)).toEqual([0, 4]);
  expect(turned([10, 14], 20, 9.99, -1)[1]).toBeCloseTo(9.99, 9);
  expect(turned([14, 18], 20, 18.5, 1)).toEqual([16, 20]);
});
