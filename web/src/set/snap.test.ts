import { expect, test } from "vitest";
import { boxOf, gaps, join, snapAngle, snapMove, snapPoint } from "./snap";

const box = (left: number, top: number, right: number, bottom: number) => ({ left, top, right, bottom });

test("a moved box catches at the edges and the middle of another", () => {
  const other = box(10, 0, 12, 4);
  // Its right edge 4 cm short of the other's left edge.
  const edge = snapMove(box(0, 0, 2, 2), [1, 1], [7.96, 0.3], [other], 0.1, 0.25);
  expect(edge.by[0]).toBeCloseTo(8, 9);
  expect(edge.caught.x).toBe(10);
  expect(edge.caught.z).toBe(null);
  // Middle on middle.
  const middle = snapMove(box(0, 0, 2, 2), [1, 1], [0.1, 0.97], [other], 0.1, 0.25);
  expect(middle.by[1]).toBeCloseTo(1, 9);
});

test("without a catch the place goes to the grid, and without a grid stays free", () => {
  const far = [box(100, 100, 101, 101)];
  expect(snapMove(box(0, 0, 2, 2), [1, 1], [0.61, -0.1], far, 0.1, 0.25).by).toEqual([0.5, 0]);
  expect(snapMove(box(0, 0, 2, 2), [1, 1], [0.61, -0.1], far, 0.1, 0).by).toEqual([0.61, -0.1]);
  expect(snapPoint([3.13, -2.9], far, 0.1, 0.25)).toEqual([3.25, -3]);
});

test("lines catch at whole multiples of 15 degrees", () => {
  const [x, z] = snapAngle([0, 0], [10, 0.3]);
  expect(z).toBe(0);
  expect(x).toBeCloseTo(10.0045, 2);
  expect(snapAngle([0, 0], [10, 1.3])).toEqual([10, 1.3]);
});

test("gaps are measured to what is nearest on each side", () => {
  const stage = box(-10, -8, 10, 8);
  const found = gaps(box(0, 0, 2, 2), [box(5, -1, 6, 3), box(-4, 5, -3, 6)], stage);
  const lengths = found.map(([a, b]) => Math.hypot(a[0] - b[0], a[1] - b[1]));
  expect(lengths).toEqual([10, 3, 8, 6]);
});

test("boxes of points and of boxes", () => {
  expect(
    boxOf([
      [1, 2],
      [-1, 5],
    ]),
  ).toEqual(box(-1, 2, 1, 5));
  expect(join([box(0, 0, 1, 1), box(3, -2, 4, 0)])).toEqual(box(0, -2, 4, 1));
});
