import { expect, test } from "vitest";
import type { RigSpec, TrackPiece } from "../generated/types";
import { baseOf, circle, count, movedTo, numberAt, placed, straightened, withNumber } from "./kinds";

const jib: RigSpec = {
  kind: "jib",
  base_x_m: 0,
  base_z_m: 0,
  heading_deg: 0,
  column_height_m: 1.3,
  arm_m: 2.5,
  boom_min_deg: -25,
  boom_max_deg: 45,
  head_drop_m: 0.4,
  head: "level",
};

test("a machine is placed so that its camera stays about where it was", () => {
  const there = placed(jib, { position: [4, 1.6, 1], pan: 90 });
  expect(baseOf(there)).toEqual([1.5, 1]);
  expect(baseOf(movedTo(there, [2, 3]))).toEqual([2, 3]);
});

test("parameters are found and changed by their path, whatever they are in", () => {
  const dolly = { kind: "track_dolly", arm: { length_m: 1 }, list: [1, 2, 3] };
  expect(numberAt(withNumber(dolly, "arm.length_m", 2) as never, "arm.length_m")).toBe(2);
  expect(withNumber(dolly, "list.1", 9).list).toEqual([1, 9, 3]);
});

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
