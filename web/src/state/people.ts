import type { Document } from "../generated/types";
import { scene } from "../state/now";

/** Where somebody stands at a time. */
export function performerAt(
  document: Document,
  id: number,
  time: number,
): readonly [number, number, number] | null {
  const figure = scene.figures.find((f) => f.performer === id);
  if (!figure || !document.scene.performers.some((p) => p.id === id)) return null;
  const place = Math.min(time * 4, figure.path.length - 1);
  return figure.path[Math.round(place)] ?? null;
}
