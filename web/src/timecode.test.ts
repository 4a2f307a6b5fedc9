import { expect, test } from "vitest";
import { timecode } from "./timecode";

// Worked values of SMPTE ST 12-1 drop-frame counting (from memory), as in the core's tests.
test.each([
  [1799, "00:00:59;29"],
  [1800, "00:01:00;02"],
  [17982, "00:10:00;00"],
  [2589407, "23:59:59;29"],
])("frame %i of 29.97 is %s", (frame, want) => {
  expect(timecode(frame, { num: 30000, den: 1001 })).toBe(want);
});

test("film counts every frame", () => {
  expect(timecode(24 * 3600 * 12 + 25, { num: 24, den: 1 })).toBe("12:00:01:01");
});
