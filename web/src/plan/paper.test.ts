import { expect, test } from "vitest";
import type { Point } from "../geometry";
import { boxOf, rightedOnPaper, within } from "./paper";

const path: Point[] = [
  [1, 2],
  [9, 4],
];

test("a path is on the paper with room around it, whatever the paper's shape", () => {
  for (const aspect of [0.5, 1, 1.6, 4]) {
    const [x, y, width, height] = boxOf(path, 2, aspect);
    expect(width / height).toBeCloseTo(aspect);
    expect([x + width / 2, y + height / 2]).toEqual([5, 3]);
    expect(Math.min(width - 8, height - 2)).toBeGreaterThanOrEqual(4 - 1e-9);
  }
  // A camera that only turns.
  expect(boxOf([[3, 3]], 1, 2)).toEqual([-5, -1, 16, 8]);
});

test("the paper stays as it lies until the path leaves it or is lost on it", () => {
  const box = boxOf(path, 2, 1);
  expect(within(box, path, 2)).toBe(true);
  expect(within(box, [...path, [9.9, 4]], 2)).toBe(true);
  expect(within(box, [...path, [10.5, 4]], 2)).toBe(false);
  expect(within([-50, -50, 100, 100], path, 2)).toBe(false);
});

const camera = [2, 1.6, 4] as const;

test("a camera that is dragged on paper moves as far as the hand, and keeps its height", () => {
  const by = rightedOnPaper(true, camera, [2.1, 4], [2.6, 3.8]);
  expect(by.turn_deg).toEqual([0, 0, 0]);
  expect(by.move_cm.map((v) => Math.round(v))).toEqual([50, 0, -20]);
});

test("dragged round it, it turns as far, to the right where the hand goes round to the right", () => {
  const pan = (from: [number, number], to: [number, number]) =>
    rightedOnPaper(false, camera, from, to).turn_deg[0];
  // Ahead is −z, right of it +x.
  expect(pan([2, 0], [6, 4])).toBeCloseTo(90);
  expect(pan([2, 0], [2 - 1, 4 - 1])).toBeCloseTo(-45);
  // Behind the camera it is no whole turn.
  expect(pan([2 - 0.1, 8], [2 + 0.1, 8])).toBeCloseTo(-2.86, 1);
  expect(rightedOnPaper(false, camera, [2, 0], [6, 4]).move_cm).toEqual([0, 0, 0]);
});
