import { expect, test } from "vitest";
import { lengthText, readQuantity } from "./quantity";

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

test("feet and inches are written to an eighth and read again", () => {
  expect(lengthText(2.286, true)).toBe("7'6\"");
  expect(lengthText(-0.3048, true)).toBe("-1'0\"");
  expect(lengthText(0, true)).toBe("0'0\"");
  expect(lengthText(-0.001, false)).toBe("0.00");
  for (const eighths of [3, 95, 96, 200, 1001]) {
    const metres = (eighths / 8) * 0.0254;
    expect(readQuantity(lengthText(metres, true), "m")).toBeCloseTo(metres, 9);
  }
  expect(readQuantity("-1'6½\"", "m")).toBeCloseTo(-18.5 * 0.0254, 9);
});

test("a field that shows feet takes plain numbers as feet, and metres when they are named", () => {
  expect(readQuantity("10", "m", 0.3048)).toBeCloseTo(3.048, 9);
  expect(readQuantity("2m", "m", 0.3048)).toBe(2);
  expect(readQuantity("5+5", "m", 0.3048)).toBeCloseTo(3.048, 9);
});
