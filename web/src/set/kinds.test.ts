import { expect, test } from "vitest";
import type { Stage } from "../generated/types";
import { kindOf, kinds, middleOf, newPiece, numbersOf, sizeOf, switchOf, withSize, wordOf } from "./kinds";

const stage = { height_m: 6.2 } as Stage;
const drawn: [number, number] = [3.4, 1.7];

test.each(kinds.map((k) => [k.kind, k] as const))("a new %s says what can be changed of it", (_, kind) => {
  for (const form of [kind.make(stage, null), kind.make(stage, drawn)]) {
    expect(form.kind).toBe(kind.kind);
    for (const { key, whole } of numbersOf(form)) {
      const value = (form as Record<string, unknown>)[key] as number;
      expect(value).toBeTypeOf("number");
      if (whole) expect(Number.isInteger(value)).toBe(true);
    }
    const toggle = switchOf(form);
    if (toggle) expect((form as Record<string, unknown>)[toggle.key]).toBeTypeOf("boolean");
  }
  expect(kindOf(kind.kind)).toBe(kind);
  expect(wordOf(kind.kind)).toBe(kind.word);
});

test.each(kinds.map((k) => [k.kind, k] as const))("a %s given its own size stays as it is", (_, kind) => {
  const form = kind.make(stage, null);
  const size = sizeOf(form);
  if (!size) return expect(["chair", "lamp", "mark"]).toContain(form.kind);
  expect(withSize(form, size)).toEqual(form);
});

test("a size that is asked for is the size there is", () => {
  const sized = (kind: (typeof kinds)[number]["kind"], size: [number, number, number]) =>
    sizeOf(withSize(kindOf(kind)!.make(stage, null), size));
  expect(sized("wall", [7, 3, 0.2])).toEqual([7, 3, 0.2]);
  expect(sized("door", [1.1, 2.2, 9])).toEqual([1.1, 2.2, 0.3]);
  expect(sized("tram", [18, 1, 1])).toEqual([18, null, 2.4]);
  // Risers and treads share what is asked for.
  const [width, height, depth] = sized("stair", [1.5, 3.2, 4.8])!;
  expect(width).toBe(1.5);
  expect(height).toBeCloseTo(3.2, 6);
  expect(depth).toBeCloseTo(4.8, 6);
  // A cylinder follows the side that was pulled.
  expect(sized("round", [2, 1, 0.6])).toEqual([2, 1, 2]);
  expect(sized("round", [0.6, 1, 2])).toEqual([2, 1, 2]);
});

test("a row of pillars keeps about seven metres between them, and ends where it was drawn to", () => {
  const row = kindOf("pillars")!.make(stage, [20, 0]);
  if (row.kind !== "pillars") throw new Error(row.kind);
  expect(row.count).toBe(4);
  expect((row.count - 1) * row.spacing).toBeCloseTo(20, 2);
  expect(sizeOf(row)![0]).toBeCloseTo(20.5, 2);
  const wider = withSize(row, [30.5, 5, 0.5]);
  expect(wider).toMatchObject({ count: 4, spacing: 10, height: 5 });
});

test("a lamp hangs from the ceiling, and is not let down to the floor of a low stage", () => {
  for (const height_m of [2, 4, 6.2, 12]) {
    const lamp = kindOf("lamp")!;
    const form = lamp.make({ height_m } as Stage, null);
    const foot = lamp.foot!({ height_m } as Stage);
    if (form.kind !== "lamp") throw new Error(form.kind);
    expect(foot).toBeGreaterThanOrEqual(0.5);
    expect(foot + form.cord).toBeCloseTo(height_m, 6);
  }
});

test("the middle of a stair is behind its foot, everything else stands round its place", () => {
  const stair = kindOf("stair")!.make(stage, null);
  expect(middleOf(stair)).toBeCloseTo((-16 * 0.26) / 2, 9);
  expect(middleOf(kindOf("table")!.make(stage, null))).toBe(0);
});

test("a new piece is nobody's, and free", () => {
  expect(newPiece("box", kindOf("block")!.make(stage, null), [1, 0, 2], 30)).toMatchObject({
    group: 0,
    locked: false,
    hidden: false,
    routes: [],
    turn_deg: 30,
  });
});
