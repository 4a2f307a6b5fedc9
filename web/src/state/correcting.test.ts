import { expect, test } from "vitest";
import { corrected } from "./correcting";

const key = (at_s: number, pan: number) => ({
  at_s,
  move_cm: [0, 0, 0] as [number, number, number],
  turn_deg: [pan, 0, 0] as [number, number, number],
});
const by = {
  move_cm: [1, 0, 0] as [number, number, number],
  turn_deg: [2, -1, 0] as [number, number, number],
};

test("what a hand does goes into the key that is there", () => {
  const keys = corrected([key(1, 4), key(3, 0)], 1.01, by, 0.02);
  expect(keys).toEqual([{ at_s: 1, move_cm: [1, 0, 0], turn_deg: [6, -1, 0] }, key(3, 0)]);
});

test("where there is none, into a new one that begins as it stands between its neighbours", () => {
  const keys = corrected([key(1, 4), key(3, 0)], 2, by, 0.02);
  expect(keys[1]).toEqual({ at_s: 2, move_cm: [1, 0, 0], turn_deg: [4, -1, 0] });
  expect(corrected([key(1, 4)], 2, by, 0.02).map((k) => k.at_s)).toEqual([1, 2]);
  expect(corrected([], 2, by, 0.02)).toEqual([{ at_s: 2, ...by }]);
});
