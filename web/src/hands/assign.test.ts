import { expect, test } from "vitest";
import type { AxisView } from "../generated/types";
import { assigned, sourceWord, usual, type Source } from "./assign";

const axis = (name: string, group: AxisView["group"] = "machine", hand: string | null = name): AxisView => ({
  name,
  hand,
  base: false,
  ink: name,
  group,
  wheel: group === "head" || group === "lens" ? group : "machine",
  unit: "m",
  min: 0,
  max: 1,
  top_speed: 1,
  top_acceleration: 1,
  start: 0,
});
const keys = (sources: Source[]) => sources.flatMap((s) => (s.by === "keys" ? [s.less + s.more] : []))[0];

test("each machine gets the keys that lie well, and no key twice", () => {
  const crane = usual([axis("swing"), axis("boom"), axis("reach"), axis("travel"), axis("pan", "head")]);
  expect(Object.values(crane).map((i) => keys(i.sources))).toEqual(["AD", "SW", "QE", "YU", "FH"]);
  const walker = usual([
    axis("x", "machine", "side"),
    axis("z", "machine", "ahead"),
    axis("turn"),
    axis("height"),
    axis("walked", "machine", null),
  ]);
  expect(Object.entries(walker).map(([name, i]) => `${name} ${keys(i.sources)}`)).toEqual([
    "x AD",
    "z SW",
    "turn QE",
    "height YU",
  ]);
  const many = usual("abcdefghi".split("").map((name) => axis(name)));
  expect(new Set(Object.values(many).map((i) => keys(i.sources))).size).toBe(9);
});

test("a control that is given to an axis is taken from the one that had it", () => {
  const preset = usual([axis("swing"), axis("boom"), axis("pan", "head")]);
  const after = assigned(preset, "boom", { by: "keys", less: "A", more: "B" });
  expect(keys(after.boom!.sources)).toBe("AB");
  expect(keys(after.swing!.sources)).toBeUndefined();
  const stick = assigned(preset, "boom", { by: "stick", axis: 2, flip: true });
  expect(stick.pan!.sources.some((s) => s.by === "stick")).toBe(false);
  expect(stick.boom!.sources.filter((s) => s.by === "stick")).toEqual([{ by: "stick", axis: 2, flip: true }]);
});

test("a button is called by where it is", () => {
  expect(sourceWord({ by: "buttons", less: 6, more: 7 })).toBe("pad front ↙, front ↘");
  expect(sourceWord({ by: "buttons", less: 13, more: 12 })).toBe("pad left ↓, left ↑");
  expect(sourceWord({ by: "buttons", less: 16, more: 17 })).toBe("pad button 16, button 17");
});
