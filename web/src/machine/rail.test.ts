import { expect, test } from "vitest";
import type { BentRail, LineView } from "../generated/types";
import { inserted, midpoint } from "./rail";

type Points = BentRail["points"];
const points: Points = [
  { id: 1, position: [0, 0, 0], tangent: null },
  { id: 2, position: [4, 0, 0], tangent: null },
  { id: 3, position: [4, 0, 4], tangent: null },
];
/** The line bulges over the first stretch, and runs straight down the second. */
const line = {
  points: [
    [0, 0, 0],
    [2, 0, -0.61],
    [4, 0, 0],
    [4.4, 0, 2],
    [4, 0, 4],
  ],
} as unknown as LineView;

test("a point half way lies on the line, so that the rail stays where it is", () => {
  expect(midpoint(points, false, line, 0).map((p) => p.position)).toEqual([
    [0, 0, 0],
    [2, 0, -0.61],
    [4, 0, 0],
    [4, 0, 4],
  ]);
  expect(midpoint(points, false, null, 0)[1]!.position).toEqual([2, 0, 0]);
});

test("behind the last point an open rail takes its last stretch, a closed one the way home", () => {
  expect(midpoint(points, false, null, 2).map((p) => p.position)[2]).toEqual([4, 0, 2]);
  const round = midpoint(points, true, null, 2);
  expect(round).toHaveLength(4);
  expect(round[3]!.position).toEqual([2, 0, 2]);
});

test("a new point has a number of its own, and the others keep theirs", () => {
  const more = midpoint(points, false, line, null);
  expect(more.filter((p) => points.some((q) => q.id === p.id))).toEqual(points);
  expect(new Set(more.map((p) => p.id)).size).toBe(4);
});

test("a point put beside the line goes in where it is passed", () => {
  const order = (at: [number, number, number]) =>
    inserted(points, line, at).findIndex((p) => !points.includes(p));
  expect(order([2.1, 0, -0.7])).toBe(1);
  expect(order([4.3, 0, 2.2])).toBe(2);
  expect(inserted(points, line, [2.123, 0, -0.678])[1]!.position).toEqual([2.12, 0, -0.68]);
});
