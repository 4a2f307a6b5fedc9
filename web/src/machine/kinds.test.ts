import { expect, test } from "vitest";
import type { TrackPiece } from "../generated/types";
import { circle, count, straightened } from "./kinds";

test("track is counted by its pieces", () => {
  const straight: TrackPiece = { piece: "straight", length_m: 2.44, rise_m: 0 };
  const curve: TrackPiece = { piece: "curve", radius_m: 3.05, turn_deg: -45, rise_m: 0 };
  expect(count([straight, straight, curve])).toBe("2 × 2.44 m, 1 × 45° at 3.05 m");
});

test("a rail goes round somebody, or straight", () => {
  const round = circle([1, 1.2, -2], 2);
  expect(round.every((p) => Math.abs(Math.hypot(p.position[0] - 1, p.position[2] + 2) - 2) < 0.01)).toBe(
    true,
  );
  const straight = straightened([round[0]!, round[2]!, round[4]!]);
  expect(straight[1]!.position).toEqual([1, 1.2, -2]);
});
