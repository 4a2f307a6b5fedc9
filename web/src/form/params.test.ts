import { expect, test } from "vitest";
import type { Param } from "../generated/types";
import {
  caseOf,
  happening,
  presetOf,
  shareOf,
  startOf,
  startOfCase,
  summaryOf,
  valueAt,
  valueOf,
  withAnother,
  withValue,
  stepped,
} from "./params";

const number = (path: string, start: number): Param => ({
  path,
  label: path,
  unit: "",
  hint: "",
  of: "",
  presets: [],
  absent: null,
  holds: { kind: "number", min: 1, max: 400, start, step: 1, whole: true, log: true },
});
const ways: Param = {
  path: "machine",
  label: "machine",
  unit: "",
  hint: "",
  of: "",
  presets: [],
  absent: "as it is",
  holds: {
    kind: "variant",
    tag: "by",
    cases: [
      { name: "binomial", label: "passes", params: [number("passes", 100)] },
      { name: "gaussian", label: "bell", params: [number("sigma_s", 2)] },
    ],
  },
};

test("what is described begins as it says; what may be missing is missing", () => {
  expect(startOf([ways, number("n", 7)])).toEqual({ machine: null, n: 7 });
  expect(startOf([{ ...ways, absent: null }])).toEqual({ machine: { by: "binomial", passes: 100 } });
  const choice: Param = {
    ...ways,
    path: "by",
    absent: null,
    holds: { kind: "choice", options: [["a", "A"]] },
  };
  const on: Param = { ...ways, path: "on", absent: null, holds: { kind: "switch" } };
  expect(startOf([choice, on])).toEqual({ by: "a", on: false });
});

test("what lies deeper begins as lists and things", () => {
  const row: Param = {
    ...ways,
    path: "",
    holds: { kind: "row", params: [number("far/0", 3), number("far/1", 4), number("in/deep", 5)] },
  };
  expect(startOf([row, number("n", 7)])).toEqual({ far: [3, 4], in: { deep: 5 }, n: 7 });
});

test("a way is known by its tag, or by its only field", () => {
  if (ways.holds.kind !== "variant") throw new Error("it is one of several");
  const { cases } = ways.holds;
  expect(caseOf("by", cases, { by: "gaussian", sigma_s: 1 })?.name).toBe("gaussian");
  expect(caseOf("by", cases, null)).toBeUndefined();
  expect(caseOf(null, cases, { passes: 3 })?.name).toBe("binomial");
  expect(startOfCase(null, cases[1]!)).toEqual({ sigma_s: 2 });
  expect(startOfCase("by", cases[1]!)).toEqual({ by: "gaussian", sigma_s: 2 });
});

test.each([
  [1, 1, 400, true, 0],
  [20, 1, 400, true, 0.5],
  [400, 1, 400, true, 1],
  [0.25, 0, 1, false, 0.25],
])("%d of %d to %d stands where it is found again", (value, min, max, log, share) => {
  expect(shareOf(value, min, max, log)).toBeCloseTo(share, 9);
  expect(valueAt(share, min, max, log, max > 2)).toBeCloseTo(value, 6);
});

test("parameters are found and changed by their path, whatever they are in", () => {
  const dolly = { kind: "track_dolly", arm: { length_m: 1 }, list: [1, 2, 3], track: null };
  const longer = withValue(dolly, "arm/length_m", 2);
  expect(valueOf(longer, "arm/length_m")).toBe(2);
  expect(valueOf(dolly, "arm/length_m")).toBe(1);
  expect(withValue(dolly, "list/1", 9).list).toEqual([1, 9, 3]);
  expect(valueOf(dolly, "track/x_m")).toBeUndefined();
});

test("a row begins as its parts do, and usual values have a name", () => {
  const row: Param = {
    ...ways,
    path: "",
    holds: { kind: "row", params: [number("min", 2), number("max", 7)] },
  };
  expect(startOf([row])).toEqual({ min: 2, max: 7 });
  const presets = [
    { word: "short", sets: [["min", 1] as [string, number], ["max", 4] as [string, number]] },
    { word: "middle", sets: [["min", 2] as [string, number], ["max", 7] as [string, number]] },
  ];
  expect(presetOf(presets, { min: 2, max: 7 })).toBe("middle");
  expect(presetOf(presets, { min: 2, max: 8 })).toBeUndefined();
});

test("what is folded says what is set of it, and nothing of what is not", () => {
  const degrees: Param = { ...number("turn", 7), unit: "°" };
  const seconds: Param = { ...number("wide_s", 0.2), unit: "s" };
  expect(summaryOf([ways, degrees, seconds], { machine: null, turn: 12.3456, wide_s: 0.2 })).toBe(
    "12.35° · 0.2 s",
  );
  expect(summaryOf([ways, ways], { machine: { by: "binomial", passes: 60 } })).toBe("60 · 60");
  const choice: Param = { ...ways, path: "by", holds: { kind: "choice", options: [["a", "Way A"]] } };
  const on: Param = { ...ways, path: "on", label: "level", holds: { kind: "switch" } };
  expect(summaryOf([choice, on], { by: "a", on: true })).toBe("Way A · level");
  expect(summaryOf([choice, on], { by: "z", on: false })).toBe("");
  const turns: Param = {
    ...ways,
    path: "turns",
    holds: { kind: "list", none: null, most: 3, params: [ways] },
  };
  const bell = { machine: { by: "gaussian", sigma_s: 2 } };
  expect(summaryOf([turns], { turns: [bell] })).toBe("bell");
  expect(summaryOf([turns], { turns: [bell, bell] })).toBe("2");
});

const list = (of: Param[], none: string | null = null): Param => ({
  ...ways,
  path: "list",
  absent: null,
  holds: { kind: "list", none, most: 9, params: of },
});

test("a list begins with one, or with none where that has a name", () => {
  expect(startOf([list([number("n", 2)])])).toEqual({ list: [{ n: 2 }] });
  expect(startOf([list([number("n", 2)], "nothing")])).toEqual({ list: [] });
});

test("one more happens now, or a while after the last; all stay in order", () => {
  const keys = [number("at_s", 0), number("n", 5)];
  const two = [
    { at_s: 1, n: 7 },
    { at_s: 4, n: 8 },
  ];
  expect(withAnother(two, keys, 2).map((k) => [k.at_s, k.n])).toEqual([
    [1, 7],
    [2, 5],
    [4, 8],
  ]);
  expect(withAnother(two, keys, 4.001)[2]).toEqual({ at_s: 5, n: 5 });
  expect(withAnother([], keys, null)).toEqual([{ at_s: 0, n: 5 }]);
  // What begins at a time goes on as the last did.
  const turns = [number("from_s", 0), number("over_s", 1), number("n", 5)];
  expect(withAnother([{ from_s: 0, over_s: 0.5, n: 9 }], turns, 0)[1]).toEqual({
    from_s: 1.5,
    over_s: 0.5,
    n: 9,
  });
  expect(withAnother([{ n: 3 }], [number("n", 5)], 7)).toEqual([{ n: 3 }, { n: 3 }]);
});

test("what is added happens now", () => {
  expect(happening({ at_s: 0, keys: [{ at_s: 0, v: null }], as_at_s: 0 }, 3)).toEqual({
    at_s: 3,
    keys: [{ at_s: 3, v: null }],
    as_at_s: 0,
  });
});

test("a press of a key is a step of the number, never lost between two whole ones", () => {
  const holds = { kind: "number", min: 1, max: 400, step: 1, whole: true, log: true } as Param["holds"];
  expect([1, -1, 10, -500].map((steps) => stepped(40, steps, holds))).toEqual([41, 39, 50, 1]);
  const fine = { kind: "number", min: 0, max: 2, step: 0.05, whole: false, log: false } as Param["holds"];
  expect(stepped(stepped(0.1, 1, fine), -1, fine)).toBe(0.1);
  const log = { kind: "number", min: 0.01, max: 10, step: 0.01, whole: false, log: true } as Param["holds"];
  expect(stepped(1, 1, log)).toBe(1.05);
  expect(stepped(9.9, 3, log)).toBe(10);
});
