import type { Document, Take } from "../generated/types";
import { chosenOf } from "../state/looked";

/** Fowler, Noll and Vo's hash (FNV-1a, 32 bits), as text. */
function hash(text: string): string {
  let h = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193) >>> 0;
  return h.toString(16).padStart(8, "0");
}

/** A word for what the pictures of a take are drawn of: its shown move, and the passes that count. */
export function madeOf(document: Document, take: Take): string {
  const move = chosenOf(document, take.id);
  const passes = document.takes
    .filter((t) => t.pass?.take === take.id && !t.rolling && !t.binned && !t.pass.muted)
    .map((t) => t.id);
  return hash(JSON.stringify([move?.id, move?.treatments, move?.camera, take.samples, passes]));
}
