import { newId } from "../document/patch";
import { valueOf } from "../form/params";
import type { BentRail, MachineView, RigSpec, Rigging, TrackPiece } from "../generated/types";

export type Kind = RigSpec["kind"];
type RailPoint = BentRail["points"][number];

/** Place x and z of a machine on the plan, if it stands in one place. */
export function baseOf(rig: Rigging, placement: MachineView["placement"]): [number, number] | null {
  if (!placement) return null;
  const [x, z] = placement.map((path) => valueOf(rig, path));
  return typeof x === "number" && typeof z === "number" ? [x, z] : null;
}

const cm = (v: number) => Math.round(v * 100) / 100;

/** Track as it comes: straight lengths of 8, 4 and 2 ft, curves of an eighth of a circle. */
export const stock: [string, TrackPiece][] = [
  ["2.44", { piece: "straight", length_m: 2.44, rise_m: 0 }],
  ["1.22", { piece: "straight", length_m: 1.22, rise_m: 0 }],
  ["0.61", { piece: "straight", length_m: 0.61, rise_m: 0 }],
  ["45° left", { piece: "curve", radius_m: 3.05, turn_deg: -45, rise_m: 0 }],
  ["45° right", { piece: "curve", radius_m: 3.05, turn_deg: 45, rise_m: 0 }],
];

/** Track pieces to bring: number of each piece. */
export function count(pieces: TrackPiece[]): string {
  const words = pieces.map((p) =>
    p.piece === "straight" ? `${p.length_m} m` : `${Math.abs(p.turn_deg)}° at ${p.radius_m} m`,
  );
  return [...new Set(words)].map((w) => `${words.filter((v) => v === w).length} × ${w}`).join(", ");
}

/** Points for a rail all round a place. */
export function circle([x, y, z]: readonly [number, number, number], radius: number): RailPoint[] {
  return Array.from({ length: 8 }, (_, i) => {
    const a = (i * Math.PI) / 4;
    return {
      id: newId(),
      position: [cm(x + radius * Math.sin(a)), cm(y), cm(z - radius * Math.cos(a))],
      tangent: null,
    } satisfies RailPoint;
  });
}

/** Every point on the straight line from the first to the last. */
export function straightened(points: RailPoint[]): RailPoint[] {
  const [a, b] = [points[0]!.position, points.at(-1)!.position];
  return points.map(({ id }, i) => {
    const s = i / (points.length - 1);
    return {
      id,
      position: a.map((v, k) => cm(v + (b[k]! - v) * s)) as RailPoint["position"],
      tangent: null,
    };
  });
}
