import { expect, test } from "vitest";
import type { Param } from "../generated/types";
import { caseOf, shareOf, startOf, startOfCase, valueAt } from "./params";

const number = (path: string, start: number): Param => ({
  path,
  label: path,
  unit: "",
  hint: "",
  optional: false,
  holds: { kind: "number", min: 1, max: 400, start, step: 1, whole: true, log: true },
});
const ways: Param = {
  path: "machine",
  label: "machine",
  unit: "",
  hint: "",
  optional: true,
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
  expect(startOf([{ ...ways, optional: false }])).toEqual({ machine: { by: "binomial", passes: 100 } });
  const choice: Param = {
    ...ways,
    path: "by",
    optional: false,
    holds: { kind: "choice", options: [["a", "A"]] },
  };
  const on: Param = { ...ways, path: "on", optional: false, holds: { kind: "switch" } };
  expect(startOf([choice, on])).toEqual({ by: "a", on: false });
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
