import { expect, test } from "vitest";
import type { Move } from "../generated/types";
import {
  curvesDrawn,
  endPreview,
  tryTreatments,
  turnAlone,
  useAlone,
  usePreview,
  withAlone,
} from "./preview";

const list = [1, 2, 3].map((id) => ({ id, on: id !== 3, kind: "smooth" })) as Move["treatments"];

test("one treatment alone is looked at as if the others were off, itself on", () => {
  const on = (alone: number | null) => withAlone(list, alone).map((t) => t.on);
  expect(on(2)).toEqual([false, true, false]);
  expect(on(3)).toEqual([false, false, true]);
  // Nobody, or one that is gone: all as they are kept.
  expect(withAlone(list, null)).toBe(list);
  expect(withAlone(list, 9)).toBe(list);
});

test("asking twice for the same is all of them again, for another one is that one", () => {
  turnAlone(5, 2);
  turnAlone(5, 3);
  expect(useAlone.getState()).toEqual({ move: 5, treatment: 3 });
  turnAlone(5, 3);
  expect(useAlone.getState().move).toBeNull();
});

test("what may wait follows the curves of what is tried, and never those of what is kept", () => {
  const drawn = () => usePreview.getState().drawn;
  curvesDrawn();
  tryTreatments(5, list);
  expect(drawn(), "no curves of it yet").toBeNull();
  curvesDrawn();
  expect(drawn()).toBe(list);
  tryTreatments(5, list.slice(1));
  expect(drawn(), "the last ones that were seen").toBe(list);
  endPreview();
  curvesDrawn();
  expect(drawn()).toBeNull();
});
