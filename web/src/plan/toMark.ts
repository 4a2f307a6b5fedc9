import type { Vec } from "../machine/handles";
import { scene } from "../state/now";

/** A hand that is nearer to a mark means the mark, metres. */
const MEANT_M = 0.4;

/** A mark on the floor is where a base or a rail point wants to stand, unless the hand wants it free. */
export function toMark([x, y, z]: Vec, free: boolean): Vec {
  const marks = scene.document?.scene.pieces.filter((p) => p.form.kind === "mark" && !p.hidden) ?? [];
  const near = marks.find((m) => Math.hypot(m.position[0] - x, m.position[2] - z) < MEANT_M);
  return near && !free ? [near.position[0], y, near.position[2]] : [x, y, z];
}
