import { create } from "zustand";
import { newId } from "../document/patch";
import type { BentRail, LineView } from "../generated/types";

type Points = BentRail["points"];
type RailPoint = Points[number];

/** The point of the rail that is picked, on the plan and in the list. */
export const useRail = create<{ picked: number | null }>(() => ({ picked: null }));
export const setRail = useRail.setState;

const cm = (v: number) => Math.round(v * 100) / 100;
const apart = (a: readonly number[], b: readonly number[]) => Math.hypot(...a.map((v, k) => v - b[k]!));

/**
 * The points with one more on the line, half way behind the picked one (or the first), so that the
 * rail stays about where it is.
 */
export function midpoint(
  points: RailPoint[],
  closed: boolean,
  line: LineView | null,
  picked: number | null,
): RailPoint[] {
  const last = closed ? points.length - 1 : points.length - 2;
  const i = Math.min(picked ?? 0, last);
  const [a, b] = [points[i]!.position, points[(i + 1) % points.length]!.position];
  const straight = a.map((v, k) => (v + b[k]!) / 2);
  const on = line?.points.reduce((best, p) => (apart(p, straight) < apart(best, straight) ? p : best), a);
  const position = (on ?? straight).map(cm) as RailPoint["position"];
  return points.toSpliced(i + 1, 0, { id: newId(), position, tangent: null });
}

/** The points with one more at a place near the line, where it belongs in their order. */
export function inserted(
  points: RailPoint[],
  line: LineView,
  at: readonly [number, number, number],
): RailPoint[] {
  const along = (p: readonly number[]) =>
    line.points.reduce((best, q, i) => (apart(p, q) < apart(p, line.points[best]!) ? i : best), 0);
  const place = along(at);
  const after = points.findLastIndex((p, i) => i === 0 || along(p.position) <= place);
  return points.toSpliced(after + 1, 0, {
    id: newId(),
    position: at.map(cm) as RailPoint["position"],
    tangent: null,
  });
}
