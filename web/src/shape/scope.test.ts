import { expect, test } from "vitest";
import { rangeOf, scopeWords, withAxis } from "./scope";

const all = ["swing", "boom", "pan"];

test("what a treatment works on is said in a line", () => {
  expect(scopeWords({}, 1)).toBe("every axis · always");
  const range = { from_s: 1, to_s: 3.25, ease_in_s: 0.5, ease_out_s: 0.5 };
  expect(scopeWords({ axes: ["pan"], range }, 0.5)).toBe("pan · 1.0–3.3 s · 50 %");
  expect(scopeWords({}, 0.5, false)).toBe("always · 50 %");
  expect(scopeWords({ axes: [] }, null)).toBe("no axis · always · strength over time");
});

test("an axis leaves the scope and comes back in the machine's order", () => {
  const without = withAxis({}, all, "boom");
  expect(without.axes).toEqual(["swing", "pan"]);
  expect(withAxis(without, all, "boom")).toEqual({});
  expect(withAxis({ axes: ["pan"] }, all, "swing").axes).toEqual(["swing", "pan"]);
});

test("a range goes from in to out, and its edges fit into it", () => {
  expect(rangeOf(null, null)).toEqual({ from_s: 0, to_s: 2, ease_in_s: 0.5, ease_out_s: 0.5 });
  expect(rangeOf(1, 2)).toEqual({ from_s: 1, to_s: 2, ease_in_s: 0.25, ease_out_s: 0.25 });
  expect(rangeOf(5, 1).to_s).toBe(7);
});
