import { expect, test } from "vitest";
import { readQuantity } from "./quantity";

test.each([
  ["12", "m", 12],
  ["12ft+3", "m", 12 * 0.3048 + 3],
  [`7'6"`, "m", 7.5 * 0.3048],
  ["1/48", "s", 1 / 48],
  ["-4.5", "°", -4.5],
  ["2*(3-1)", "", 4],
  ["35 mm", "mm", 35],
  ["3,5", "m", 3.5],
  ["250ms", "s", 0.25],
  [".5", "m", 0.5],
])("%s in a field of %s", (text, unit, want) => {
  expect(readQuantity(text, unit)).toBeCloseTo(want, 12);
});

test.each(["", "abc", "3 4", "1/0", "2ft", "(1", "1+", "--"])("%s is not a number here", (text) => {
  expect(readQuantity(text, "°")).toBeNull();
});
