import { expect, test } from "vitest";
import type { Form, Stage } from "../generated/types";
import { footOf, kindOf, kinds, middleOf, newForm, newPiece, settable, sizeOf, withSize } from "./kinds";

const stage = { height_m: 6.2 } as Stage;
const drawn: [number, number] = [3.4, 1.7];

test.each(kinds.map((k) => [k.usual.kind, k] as const))(
  "a new %s is of its kind, as long as it was drawn",
  (_, kind) => {
    for (const size of [null, drawn]) {
      const form = newForm(kind, stage, size);
      expect(form.kind).toBe(kind.usual.kind);
      const own = sizeOf(form);
      if (!own) expect(["chair", "lamp", "mark"]).toContain(form.kind);
      else {
        if (size && kind.drawing.by !== "spot") expect(Math.max(own[0], own[2])).toBeGreaterThan(3.3);
        expect(withSize(form, own)).toEqual(form);
      }
    }
  },
);

test("what a handle changes is not said twice; what a length is made of is", () => {
  const labels = (kind: Form["kind"]) => settable(newForm(kindOf(kind)!, stage, null)).map((p) => p.label);
  expect(labels("wall")).toEqual(["of"]);
  expect(labels("stair")).toEqual(["steps", "rise", "run"]);
  expect(labels("pillars")).toEqual(["count", "spacing", "thickness", "guards"]);
  expect(labels("mark")).toEqual(["number", "tape"]);
  expect(labels("chair")).toEqual([]);
});

test("a size that is asked for is the size there is", () => {
  const sized = (kind: Form["kind"], size: [number, number, number]) =>
    sizeOf(withSize(newForm(kindOf(kind)!, stage, null), size));
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
  const row = newForm(kindOf("pillars")!, stage, [20, 0]);
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
    const form = newForm(lamp, { height_m } as Stage, null);
    const foot = footOf(lamp, { height_m } as Stage);
    if (form.kind !== "lamp") throw new Error(form.kind);
    expect(foot).toBeGreaterThanOrEqual(0.5);
    expect(foot + form.cord).toBeCloseTo(height_m, 6);
  }
});

test("the middle of a stair is behind its foot, everything else stands round its place", () => {
  const stair = newForm(kindOf("stair")!, stage, null);
  expect(middleOf(stair)).toBeCloseTo((-16 * 0.26) / 2, 9);
  expect(middleOf(newForm(kindOf("table")!, stage, null))).toBe(0);
});

test("a new piece is nobody's, and free", () => {
  expect(newPiece("box", newForm(kindOf("block")!, stage, null), [1, 0, 2], 30)).toMatchObject({
    group: 0,
    locked: false,
    hidden: false,
    routes: [],
    turn_deg: 30,
  });
});
