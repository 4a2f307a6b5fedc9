import { expect, test } from "vitest";
import type { PiecePlan } from "../generated/types";
import { paint } from "./inks";

const outlines: [number, number][][] = [
  [
    [0, 0],
    [1, 0],
    [1, 1],
  ],
];
const plan = (overhead: boolean): PiecePlan => ({
  piece: 1,
  bounds: [0, 0, 1, 1],
  overhead,
  thin: false,
  label: "inside",
  marks: [
    { role: "gap", shape: "areas", outlines },
    { role: "way", shape: "leaf", hinge: [0.5, 0], closed: [1.5, 0], open: [0.5, 1], radius_m: 1 },
  ],
});

test("each role has its ink, and a leaf swings from where it is closed to a quarter turn on", () => {
  const [gap, way] = paint(plan(false));
  expect(gap!.fill).not.toBe("none");
  expect(way).toMatchObject({ d: "M1.500,0.000A1 1 0 0 1 0.500,1.000L0.500,0.000", fill: "none" });
});

test("what hangs over people's heads is seen through", () => {
  expect(paint(plan(true)).map((mark) => mark.fill)).toEqual(["none", "none"]);
});
