import type { Document } from "../generated/types";
import { moversNow, placeNow, scene } from "./now";

/** Where somebody stands at a time. */
export function performerAt(
  document: Document,
  id: number,
  time: number,
): readonly [number, number, number] | null {
  const figure = scene.played.figures.find((f) => f.performer === id);
  if (!figure || !document.scene.performers.some((p) => p.id === id)) return null;
  return placeNow(figure, time, moversNow());
}
