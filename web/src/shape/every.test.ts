import { expect, it } from "vitest";
import { keyTimes } from "./every";

it("has a key at the start, every so often, and at the end", () => {
  expect(keyTimes({ seconds: 0.5 }, { length_s: 2 }, 24)).toEqual([0, 0.5, 1, 1.5, 2]);
  expect(keyTimes({ frames: 24 }, { length_s: 1.5 }, 24)).toEqual([0, 1, 1.5]);
  expect(keyTimes({ seconds: 5 }, { length_s: 2 }, 24)).toEqual([0, 2]);
});
