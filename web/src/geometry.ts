import type { Body } from "./generated/types";

/** Small flat geometry for plans: outlines of posed bodies, seen along an axis. */

export type Point = [number, number];
type Vec = [number, number, number];

/** A vector turned by a quaternion at `at` in a list of poses. */
export function turn(poses: ArrayLike<number>, at: number, [x, y, z]: Vec): Vec {
  const [qx, qy, qz, qw] = [poses[at]!, poses[at + 1]!, poses[at + 2]!, poses[at + 3]!];
  const tx = 2 * (qy * z - qz * y);
  const ty = 2 * (qz * x - qx * z);
  const tz = 2 * (qx * y - qy * x);
  return [x + qw * tx + qy * tz - qz * ty, y + qw * ty + qz * tx - qx * tz, z + qw * tz + qx * ty - qy * tx];
}

/** Andrew's monotone chain. */
export function hull(points: Point[]): Point[] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const half = (list: Point[]) => {
    const chain: Point[] = [];
    for (const p of list) {
      while (chain.length > 1) {
        const [a, b] = [chain.at(-2)!, chain.at(-1)!];
        if ((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]) > 1e-12) break;
        chain.pop();
      }
      chain.push(p);
    }
    return chain.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.reverse())];
}

/** The outline of a posed body, flattened by `flatten`. */
export function outline(
  body: Body,
  poses: ArrayLike<number>,
  index: number,
  flatten: (p: Vec) => Point,
): Point[] {
  const at = index * 7;
  const half: Vec =
    body.shape === "box" || body.shape === "wedge"
      ? [body.size[0] / 2, body.size[1] / 2, body.size[2] / 2]
      : body.shape === "cylinder"
        ? [body.radius, body.height / 2, body.radius]
        : [body.radius, body.radius, body.radius];
  const corners: Point[] = [];
  for (let i = 0; i < 8; i++) {
    // A slope has no upper edge at +z.
    if (body.shape === "wedge" && i & 2 && i & 4) continue;
    const corner: Vec = [i & 1 ? half[0] : -half[0], i & 2 ? half[1] : -half[1], i & 4 ? half[2] : -half[2]];
    const [x, y, z] = turn(poses, at + 3, corner);
    corners.push(flatten([x + poses[at]!, y + poses[at + 1]!, z + poses[at + 2]!]));
  }
  return hull(corners);
}

/** Points as an SVG path, closed. */
export const closed = (points: Point[]) =>
  points.length ? `M${points.map((p) => `${p[0].toFixed(3)} ${p[1].toFixed(3)}`).join("L")}Z` : "";

/** Points as an SVG path, open. */
export const open = (points: Point[]) =>
  points.length ? `M${points.map((p) => `${p[0].toFixed(2)} ${p[1].toFixed(2)}`).join("L")}` : "";
