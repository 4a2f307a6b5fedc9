import { expect, test } from "vitest";
import { hull, outline, turn } from "./geometry";

const quarterLeft = [0, Math.SQRT1_2, 0, Math.SQRT1_2];

test("a quarter turn to the left takes forward to the left", () => {
  const [x, y, z] = turn(quarterLeft, 0, [0, 0, -1]);
  expect([x, y, z].map((v) => Math.round(v * 1e9) / 1e9 + 0)).toEqual([-1, 0, 0]);
});

test("a hull leaves out what is inside", () => {
  expect(
    hull([
      [0, 0],
      [2, 0],
      [2, 2],
      [0, 2],
      [1, 1],
    ]),
  ).toHaveLength(4);
});

test("the outline of a turned box is as wide as the box was deep", () => {
  const body = { name: "arm", shape: "box", size: [1, 1, 4], material: "steel" } as const;
  const points = outline({ ...body, size: [1, 1, 4] }, [5, 0, 0, ...quarterLeft], 0, ([x, , z]) => [x, z]);
  const xs = points.map((p) => p[0]);
  expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(4);
});
