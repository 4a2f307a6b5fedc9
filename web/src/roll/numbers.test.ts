import { expect, test } from "vitest";
import type { Take } from "../generated/types";
import { nextTake, passName } from "./numbers";

const axes = [
  { name: "swing", group: "machine", hand: "left" },
  { name: "lift", group: "machine", hand: "left" },
  { name: "pan", group: "head", hand: "right" },
  { name: "tilt", group: "head", hand: "right" },
  { name: "focus", group: "lens", hand: "wheel" },
  // Nobody drives it.
  { name: "level", group: "machine", hand: null },
];
const named = (...armed: string[]) =>
  passName(
    axes,
    axes.map((a) => armed.includes(a.name)),
  );

test("a pass is named by what is armed: all, a group, or the axes", () => {
  expect(named("swing", "lift", "pan", "tilt", "focus")).toBe("whole");
  expect(named("swing", "lift")).toBe("arm");
  expect(named("pan", "tilt", "focus")).toBe("head and lens");
  expect(named("swing", "focus")).toBe("swing, focus");
  expect(named()).toBe("");
});

test("what nobody drives neither names a pass nor keeps it from being whole", () => {
  expect(named("level")).toBe("");
  expect(named("swing", "lift", "level")).toBe("arm");
});

test("the next take follows the highest number, passes or not", () => {
  const takes = (...numbers: number[]) => numbers.map((number) => ({ number }) as Take);
  expect(nextTake([])).toBe(1);
  expect(nextTake(takes(1, 4, 4, 2))).toBe(5);
});
