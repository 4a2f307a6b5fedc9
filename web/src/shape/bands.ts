import type { Described, Move } from "../generated/types";

type Level = Described["level"];

/** Where treatments work, in that order, and what each band is called. */
export const bands: [Level, string][] = [
  ["time", "time"],
  ["machine", "machine"],
  ["camera", "camera"],
];

const rank = (level: Level | undefined) => bands.findIndex(([of]) => of === level);

/** Treatments as a list keeps them: time, machine, camera; those of one band as they came. */
export const inOrder = <T extends { kind: string }>(treatments: T[], kinds: Described[]): T[] =>
  treatments.toSorted((a, b) => levelOf(a.kind, kinds) - levelOf(b.kind, kinds));

const levelOf = (name: string, kinds: Described[]) => rank(kinds.find((k) => k.name === name)?.level);

/** Before which treatment a new one of a kind comes: after all of its own band; undefined for the end. */
export function placeOf(
  kind: string,
  treatments: Move["treatments"],
  kinds: Described[],
): string | undefined {
  const later = treatments.find((t) => levelOf(t.kind, kinds) > levelOf(kind, kinds));
  return later && String(later.id);
}
