import type { Document, Take } from "../generated/types";
import { chosenOf } from "../state/looked";
import { lookAt, useView } from "../state/view";

/** Looks at a take by the one of its moves that is chosen. */
export function lookAtTake(document: Document, take: Take, play = false) {
  const move = chosenOf(document, take.id);
  if (move) lookAt(move.id, play);
}

/** Whether a take is looked at, by whichever of its moves. */
export const useLookedTake = (document: Document, take: Take) => {
  const id = useView((s) => (s.live ? null : s.moveId));
  const source = document.moves.find((m) => m.id === id)?.source;
  return source?.kind === "take" && source.take === take.id;
};
