import type { Described, Move } from "../generated/types";

type Level = Described["level"];

/** Where treatments work, in that order, and what each band is called. */
export const bands: [Level, string][] = [
  ["time", "time"],
  ["machine", "machine"],
  ["camera", "camera"],
];

const rank = (level: Level | undefined) => bands.findIndex(([of]) => of === level);

/** Before which treatment a new one of a kind comes: after all of its own band; undefined for the end. */
export function placeOf(
  kind: string,
  treatments: Move["treatments"],
  kinds: Described[],
): string | undefined {
  const level = (name: string) => rank(kinds.find((k) => k.name === name)?.level);
  const later = treatments.find((t) => level(t.kind) > level(kind));
  return later && String(later.id);
}
