import { newId } from "../document/patch";
import type { Carrier, Part, PerformanceId, Performer, Piece, Route, Waypoint } from "../generated/types";
import { placed, unplaced } from "./placed";

/** A comfortable walk, metres a second (common practice, no source). */
export const WALK = 1.35;

export const distance = (a: Waypoint, b: Waypoint) =>
  Math.hypot(...a.position.map((v, i) => v - b.position[i]!));

/** Speed from a place to the next, metres a second. */
export const speed = (a: Waypoint, b: Waypoint) => distance(a, b) / (b.time_s - a.time_s - a.stop_s);

/** The way from place `i` to the next at another speed; everything later moves along in time. */
export function withSpeed(route: Route, i: number, metresPerSecond: number): Route {
  const [a, b] = [route.waypoints[i]!, route.waypoints[i + 1]!];
  const arrives = a.time_s + a.stop_s + Math.max(0.05, distance(a, b) / Math.max(0.01, metresPerSecond));
  return shifted(route, i + 1, arrives - b.time_s);
}

/** Another stop at place `i`; everything later moves along in time. */
export function withStop(route: Route, i: number, stop_s: number): Route {
  const by = stop_s - route.waypoints[i]!.stop_s;
  const waypoints = route.waypoints.map((w, k) => (k === i ? { ...w, stop_s } : w));
  return shifted({ waypoints }, i + 1, by);
}

function shifted(route: Route, from: number, by: number): Route {
  const later = (w: Route["waypoints"][number], k: number) =>
    k >= from ? { ...w, time_s: tidy(w.time_s + by) } : w;
  return { waypoints: route.waypoints.map(later) };
}

/** A place at the end of the way, reached at a walk. */
export function extended(route: Route, position: Waypoint["position"], pace = WALK): Route {
  const last = route.waypoints.at(-1);
  const place: Route["waypoints"][number] = { id: newId(), time_s: 0, stop_s: 0, position, posture: "stand" };
  if (!last) return { waypoints: [place] };
  const way = Math.max(0.3, distance(last, place) / pace);
  return { waypoints: [...route.waypoints, { ...place, time_s: tidy(last.time_s + last.stop_s + way) }] };
}

export const tidy = (seconds: number) => Math.round(seconds * 100) / 100;

/** Frame of a performer's path: the foot of the piece that carries the performer, or the set's middle. */
export function frameOf(
  carrier: Carrier | null | undefined,
  pieces: Piece[],
): Pick<Piece, "position" | "turn_deg"> {
  const piece = carrier?.by === "piece" && pieces.find((p) => p.id === carrier.id);
  return piece || { position: [0, 0, 0], turn_deg: 0 };
}

/** Part on another carrier, at the same place on the set. */
export function carried<P extends Part>(part: P, rides: Carrier | null, pieces: Piece[]): P {
  const [from, to] = [frameOf(part.rides, pieces), frameOf(rides, pieces)];
  const turned = from.turn_deg - to.turn_deg;
  const place = ([x, y, z]: Waypoint["position"]): Waypoint["position"] => {
    const [ox, oz] = unplaced(placed([x, z], from), to);
    return [exact(ox), exact(y + from.position[1] - to.position[1]), exact(oz)];
  };
  if (part.motion === "captured")
    return { ...part, rides, position: place(part.position), turn_deg: exact(part.turn_deg + turned) };
  const waypoints = part.route.waypoints.map((w) => ({
    ...w,
    position: place(w.position),
    ...(w.facing_deg == null ? {} : { facing_deg: exact(w.facing_deg + turned) }),
  }));
  return { ...part, rides, route: { waypoints } };
}

/** Without the last digits that turning to and fro leaves. */
const exact = (v: number) => Math.round(v * 1e9) / 1e9;

/** Route of a performer in a performance. */
export function routeOf(performer: Performer | undefined, performance: PerformanceId): Route | null {
  const part = performer?.parts.find((p) => p.performance === performance);
  return part?.motion === "walks" ? part.route : null;
}

/** Performer on another route; the part is made where there was none. */
export function withRoute(performer: Performer, performance: PerformanceId, route: Route): Performer {
  const old = performer.parts.find((p) => p.performance === performance);
  const part = { performance, rides: old?.rides ?? null, motion: "walks", route } as const;
  const parts = old ? performer.parts.map((p) => (p === old ? part : p)) : [...performer.parts, part];
  return { ...performer, parts };
}

export const pieceRoute = (piece: Piece | undefined, performance: PerformanceId): Route | null =>
  piece?.routes?.find((r) => r.performance === performance)?.route ?? null;

/** Piece on another route, or standing still. */
export function withPieceRoute(piece: Piece, performance: PerformanceId, route: Route | null): Piece {
  const others = (piece.routes ?? []).filter((r) => r.performance !== performance);
  if (!route) return { ...piece, routes: others };
  const there = piece.routes?.some((r) => r.performance === performance);
  const routes = there
    ? piece.routes!.map((r) => (r.performance === performance ? { performance, route } : r))
    : [...others, { performance, route }];
  return { ...piece, routes };
}
