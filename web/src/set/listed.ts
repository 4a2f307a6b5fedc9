import type { Piece } from "../generated/types";
import { kinds, wordOf } from "./kinds";

type Kind = Piece["form"]["kind"];

/** Pieces by kind, in the order of the palette; of what is sought, those whose name or kind has it. */
export function byKind(pieces: Piece[], sought: string): { kind: Kind; list: Piece[] }[] {
  const wanted = sought.trim().toLowerCase();
  const has = (p: Piece) =>
    p.name.toLowerCase().includes(wanted) || wordOf(p.form.kind).toLowerCase().includes(wanted);
  const order = (kind: Kind) => {
    const place = kinds.findIndex((k) => k.usual.kind === kind);
    return place < 0 ? kinds.length : place;
  };
  const found = new Map<Kind, Piece[]>();
  for (const p of pieces.filter(has)) found.set(p.form.kind, [...(found.get(p.form.kind) ?? []), p]);
  return [...found].map(([kind, list]) => ({ kind, list })).sort((a, b) => order(a.kind) - order(b.kind));
}
