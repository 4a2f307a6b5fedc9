import { expect, test } from "vitest";
import { trimmedTo } from "./trimmed";

test("a trim takes off what lies outside of in and out, and more the next time", () => {
  const move = { begins_s: 0, length_s: 12 };
  expect(trimmedTo({ start_s: 0, end_s: 0 }, move, 2, 9)).toEqual({ start_s: 2, end_s: 3 });
  const left = { begins_s: 2, length_s: 9 };
  expect(trimmedTo({ start_s: 2, end_s: 3 }, left, 3.5, null)).toEqual({ start_s: 3.5, end_s: 3 });
  // What is outside of the move takes nothing off, and gives nothing back but what was off.
  expect(trimmedTo({ start_s: 2, end_s: 3 }, left, 1, 40)).toEqual({ start_s: 1, end_s: 0 });
});
