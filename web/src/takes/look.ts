import type { Document, Take } from "../generated/types";
import { chosenOf, newestTake } from "../state/looked";
import { scene } from "../state/now";
import { goLive, lookAt, useView } from "../state/view";

/** Looks at a take by the one of its moves that is chosen. */
export function lookAtTake(document: Document, take: Take, play = false) {
  const move = chosenOf(document, take.id);
  if (move) lookAt(move.id, play);
}

/** Looks at the take that was rolled last, from its start; from there, back to the floor. */
export function lookBack() {
  const { live, moveId } = useView.getState();
  const { document } = scene;
  const take = document && newestTake(document);
  const move = take && chosenOf(document, take.id);
  if (!live && move?.id === moveId) goLive();
  else if (move) lookAt(move.id, true);
}

/** Whether a take is looked at, by whichever of its moves. */
export const useLookedTake = (document: Document, take: Take) => {
  const id = useView((s) => (s.live ? null : s.moveId));
  const source = document.moves.find((m) => m.id === id)?.source;
  return source?.kind === "take" && source.take === take.id;
};
