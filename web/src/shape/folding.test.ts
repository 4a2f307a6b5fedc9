import { expect, test } from "vitest";
import type { Lanes } from "../moves";
import { folding, movingOf, type Shown } from "./folding";

const lane = (name: string, i: number): Shown => ({
  name,
  i,
  unit: "°",
  ink: "pan",
  min: null,
  max: null,
  least: 2,
  from_zero: false,
});
const envelope = (...values: number[]) => ({ low: new Float32Array(values), high: new Float32Array(values) });
const curves = (...raw: number[][]): Lanes => ({
  samples: 3,
  rate: 120,
  start: 0,
  columns: 3,
  raw: raw.map((r) => envelope(...r)),
  now: raw.map((r) => envelope(...r)),
});
const all = [lane("pan", 0), lane("zoom", 1)];
const names = ({ drawn, folded }: ReturnType<typeof folding>) =>
  [drawn, folded].map((l) => l.map((s) => s.name));

test("what stands still is folded to its name, unless it was opened by hand", () => {
  const moving = curves([0, 3, 1], [28, 28, 28]);
  expect(names(folding(all, movingOf(all, moving), {}))).toEqual([["pan"], ["zoom"]]);
  expect(names(folding(all, movingOf(all, moving), { zoom: false }))).toEqual([["pan", "zoom"], []]);
  expect(names(folding(all, movingOf(all, moving), { pan: true, zoom: false }))).toEqual([["zoom"], ["pan"]]);
});

test("where nothing moves at all, everything is drawn", () => {
  expect(names(folding(all, movingOf(all, curves([1, 1, 1], [2, 2, 2])), {}))).toEqual([["pan", "zoom"], []]);
  // What treatments alone move is moving.
  const treated = curves([1, 1, 1], [2, 2, 2]);
  treated.now[0] = envelope(1, 2, 1);
  expect(names(folding(all, movingOf(all, treated), {}))).toEqual([["pan"], ["zoom"]]);
});
