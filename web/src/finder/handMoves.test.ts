import { expect, test, vi } from "vitest";

vi.mock("../live/link", () => ({ link: {}, holdsWheels: () => true, useFloor: {} }));
vi.mock("../state/now", () => ({ scene: {} }));

const { putRight, wished } = await import("./handMoves");

const at = {
  position: [1, 2, 3] as [number, number, number],
  rotation: [0, 0, 0, 1],
  angles: [0, 0, 0] as [number, number, number],
};

test("the picture follows the hand: to the right the camera trucks left", () => {
  expect(wished("truck", at, [100, 50], 0.01, 5).position).toEqual([0, 2.5, 3]);
});

test("going round keeps the distance and what is looked at", () => {
  const wish = wished("orbit", at, [-300, 0], 0.01, 5);
  const middle = [1, -2];
  expect(Math.hypot(wish.position[0] - middle[0]!, wish.position[2] - middle[1]!)).toBeCloseTo(5, 9);
  expect(wish.angles).toEqual([90, 0, 0]);
  expect(wish.position[0]).toBeCloseTo(-4, 9);
});

test("a picture that is put right follows the hand: the camera turns or goes the other way", () => {
  const half = Math.tan(Math.PI / 8);
  const turned = putRight(false, at, [100, 50], half, 1000, 5);
  expect(turned.turn_deg.map((v) => Number(v.toFixed(9)))).toEqual([-4.5, 2.25, 0]);
  const moved = putRight(true, at, [100, 50], 0.5, 1000, 4);
  expect(moved.move_cm.map((v) => Number(v.toFixed(6)))).toEqual([-40, 20, 0]);
});
