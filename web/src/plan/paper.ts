import type { Point } from "../geometry";
import type { By } from "../state/correcting";

/** A place in the world, metres. */
export type Vec = readonly [number, number, number];

/** A part of the paper: its left and upper edge, its width and height, metres. */
export type Box = readonly [x: number, y: number, width: number, height: number];

/** Nearer than this a plan is only larger, metres. */
const LEAST_M = 8;

/** Box around all points, with room around them, in the shape of the paper. */
export function boxOf(points: Point[], room_m: number, aspect: number): Box {
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
  const [left, right] = [Math.min(...xs) - room_m, Math.max(...xs) + room_m];
  const [top, bottom] = [Math.min(...ys) - room_m, Math.max(...ys) + room_m];
  const height = Math.max(bottom - top, (right - left) / aspect, LEAST_M);
  const width = height * aspect;
  return [(left + right - width) / 2, (top + bottom - height) / 2, width, height];
}

/** True if all points are well on the paper: not at its very edges, and not lost on it. */
export function within([x, y, width, height]: Box, points: Point[], room_m: number): boolean {
  const there = points.every(
    (p) =>
      Math.min(p[0] - x, x + width - p[0]) > room_m / 2 && Math.min(p[1] - y, y + height - p[1]) > room_m / 2,
  );
  return there && boxOf(points, room_m, width / height)[3] > height / 2;
}

/** Result of a drag on paper: with the camera its place; from anywhere else its direction. */
export function rightedOnPaper(moves: boolean, camera: Vec, from: Point, to: Point): By {
  if (moves) return { move_cm: [(to[0] - from[0]) * 100, 0, (to[1] - from[1]) * 100], turn_deg: [0, 0, 0] };
  const towards = ([x, z]: Point) => Math.atan2(x - camera[0], camera[2] - z);
  const by = ((towards(to) - towards(from)) * 180) / Math.PI;
  return { move_cm: [0, 0, 0], turn_deg: [by - 360 * Math.round(by / 360), 0, 0] };
}
