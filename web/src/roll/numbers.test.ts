import { expect, test } from "vitest";
import type { Take } from "../generated/types";
import { nextTake } from "./numbers";

test("the next take follows the highest number, passes or not", () => {
  const takes = (...numbers: number[]) => numbers.map((number) => ({ number }) as Take);
  expect(nextTake([])).toBe(1);
  expect(nextTake(takes(1, 4, 4, 2))).toBe(5);
});
