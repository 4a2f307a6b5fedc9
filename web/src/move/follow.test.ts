import { expect, test } from "vitest";
import { framesOf } from "./follow";

test("a stretch of time names the frames it touches", () => {
  const gaps = [
    { from_s: 1, to_s: 2, short_m: 0.3 },
    { from_s: 3.01, to_s: 3.99, short_m: 0.1 },
  ];
  expect(framesOf(gaps, 24)).toEqual([
    { from: 24, to: 48, short_m: 0.3 },
    { from: 72, to: 96, short_m: 0.1 },
  ]);
});
