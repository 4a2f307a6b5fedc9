import { expect, test, vi } from "vitest";
import type { Move } from "../generated/types";
import {
  curvesDrawn,
  endPreview,
  showCurves,
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

test("where no curves are on the screen, nothing waits for them", () => {
  tryTreatments(5, list);
  expect(usePreview.getState().drawn).toBe(list);
  endPreview();
});

test("what may wait follows the curves of what is tried, and never those of what is kept", () => {
  vi.useFakeTimers();
  const hide = showCurves();
  const drawn = () => usePreview.getState().drawn;
  curvesDrawn();
  tryTreatments(5, list);
  expect(drawn(), "no curves of it yet").toBeNull();
  vi.advanceTimersByTime(20);
  curvesDrawn();
  expect(drawn()).toBe(list);
  tryTreatments(5, list.slice(1));
  expect(drawn(), "the last ones that were seen").toBe(list);
  endPreview();
  curvesDrawn();
  expect(drawn()).toBeNull();
  hide();
  vi.useRealTimers();
});

test("where curves take long, what may wait comes when the hand rests, and now and then before", () => {
  vi.useFakeTimers();
  const hide = showCurves();
  const drawn = () => usePreview.getState().drawn;
  const steps = Array.from({ length: 8 }, (_, k) => list.slice(k % 2));
  const come: number[] = [];
  vi.advanceTimersByTime(1000);
  steps.forEach((step, k) => {
    tryTreatments(5, step);
    vi.advanceTimersByTime(120);
    const before = drawn();
    curvesDrawn();
    if (drawn() !== before) come.push(k);
  });
  expect(come, "the first after long, then every 600 ms").toEqual([0, 6]);
  vi.advanceTimersByTime(200);
  expect(drawn()).toBe(steps[7]);
  // A hand that rests before its curves have come waits for no more than those.
  tryTreatments(5, list);
  vi.advanceTimersByTime(400);
  expect(drawn()).toBe(steps[7]);
  curvesDrawn();
  expect(drawn()).toBe(list);
  endPreview();
  hide();
  vi.useRealTimers();
});
