import { expect, test } from "vitest";
import type { AxisView } from "../generated/types";
import { axisFlag, type AxisState } from "../live/wire";
import { isFixed, stripOf } from "./stripState";

const axis = (part: Partial<AxisView>) => ({ unit: "m", min: 1, max: 3, ...part }) as AxisView;
const state = (part: Partial<AxisState>): AxisState => ({
  value: 2,
  speed: 0,
  flags: 0,
  stopsIn: Infinity,
  ...part,
});

test("the needle stands between the ends, and goes round where there are none", () => {
  const share = (a: Partial<AxisView>, value: number) => stripOf(axis(a), state({ value })).share;
  expect([1, 2, 3, 9].map((v) => share({}, v))).toEqual([0, 0.5, 1, 1]);
  const free = { unit: "°", min: null, max: null };
  expect([-180, 0, 90, 370, -370].map((v) => share(free, v))).toEqual([0, 0.5, 0.75, 190 / 360, 170 / 360]);
  expect(share({ min: null, max: null }, 10)).toBe(0.75);
});

test("focus stands by one over its distance, as the ring of a lens does", () => {
  const focus = axis({ name: "focus", min: 0.5, max: 100 });
  const share = (value: number) => stripOf(focus, state({ value })).share;
  expect([share(0.5), share(100)]).toEqual([0, 1]);
  expect(share(1)).toBeCloseTo((1 / 0.5 - 1) / (1 / 0.5 - 0.01), 12);
  expect(share(7)).toBeGreaterThan(0.9);
});

test("at rest it says which end, moving how fast or how soon", () => {
  const beside = (part: Partial<AxisState>) => stripOf(axis({}), state(part)).beside;
  expect(beside({})).toBe("");
  expect(beside({ flags: axisFlag.nearEnd })).toBe("near");
  expect(beside({ flags: axisFlag.atEnd })).toBe("end");
  expect(beside({ flags: axisFlag.atEnd | axisFlag.led | axisFlag.past })).toBe("past");
  expect(beside({ speed: 0.5 })).toBe("+0.50");
  expect(beside({ speed: -0.5, stopsIn: 8 })).toBe("−0.50");
  expect(beside({ speed: -0.5, stopsIn: 1.24 })).toBe("1.2 s");
});

test("its ink warns near an end, and says past where it is led farther", () => {
  const tone = (flags: number) => stripOf(axis({}), state({ flags })).tone;
  expect(tone(0)).toBe("plain");
  expect(tone(axisFlag.nearEnd)).toBe("near");
  expect(tone(axisFlag.atEnd)).toBe("near");
  expect(tone(axisFlag.atEnd | axisFlag.led)).toBe("near");
  expect(tone(axisFlag.atEnd | axisFlag.led | axisFlag.past)).toBe("past");
});

test("a prime is fixed and no zero has a sign", () => {
  const prime = axis({ unit: "mm", min: 35, max: 35 });
  expect(isFixed(prime)).toBe(true);
  const at = stripOf(prime, state({ value: 35, flags: axisFlag.atEnd }));
  expect(at).toEqual({ share: 0.5, value: "35", beside: "fixed", tone: "plain" });
  expect(stripOf(axis({ unit: "°" }), state({ value: -0.04 })).value).toBe("0.0");
});
