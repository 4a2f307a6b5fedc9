import { change, edit } from "../document/edit";
import { newId, plain, token } from "../document/patch";
import type { Camera, Document, Move, MoveId, NewMove, PerformanceId, SetupId } from "../generated/types";
import { siblings, type Looked } from "../state/looked";
import { lookAtVariant } from "../state/view";

/** What can be done to a move besides keying and treating it. */

/** A new one; its number once it is there. */
export async function addMove(label: string, move: NewMove): Promise<number | undefined> {
  const name = token(newId());
  const made = await edit(label, [{ op: "add", path: `/moves/${name}`, value: plain(move) }]);
  return made.get(name);
}

/** A variant: a copy that is shown from now on. */
export const addVariant = ({ move, title }: Looked, name: string) =>
  addMove(`make a variant of ${title}`, {
    setup_id: move.setup_id,
    source: move.source,
    variant_of: move.id,
    name,
  });

/** Looking through several in a row is one entry of the history. */
export const chooseMove = (title: string, { id }: Move) => {
  const label = `choose a variant of ${title}`;
  void edit(label, [{ op: "replace", path: `/moves/${id}/chosen`, value: true }], label);
};

/** Shows the variant after the one that is looked at, or before it, at the same instant. */
export function turnVariant(document: Document, { move, title }: Looked, by: -1 | 1) {
  const all = siblings(document, move);
  const next = all[(all.findIndex((m) => m.id === move.id) + by + all.length) % all.length];
  if (!next || next.id === move.id) return;
  lookAtVariant(next.id);
  if (!next.chosen) chooseMove(title, next);
}

export const nameMove = (title: string, { id, name }: Move, typed: string) =>
  void change(`name ${title}`, `/moves/${id}/name`, name, typed);

/** The performance that a move plays against; null for that of its take, of the move it follows, or of the scene. */
export const playAgainst = ({ move, title }: Looked, performance: PerformanceId | null) =>
  void change(
    `choose what ${title} plays against`,
    `/moves/${move.id}/performance`,
    move.performance,
    performance,
  );

export const removeMove = (title: string, { id }: Move) =>
  edit(`remove ${title}`, [{ op: "remove", path: `/moves/${id}` }]);

/** The move that a setup's machine runs. */
export const runMove = (letter: string, setup: SetupId, move: MoveId | null) =>
  edit(move === null ? `stop the moves of setup ${letter}` : `choose what setup ${letter} runs`, [
    { op: "replace", path: `/setups/${setup}/runs`, value: move },
  ]);

/** Another frame shape, stop or lens: the move has a camera of its own from then on. */
export const changeOwnCamera = ({ move, camera, title }: Looked, part: Partial<Camera>, gesture?: string) => {
  const label = `change the camera of ${title}`;
  const path = `/moves/${move.id}/camera`;
  if (move.camera) void change(label, path, move.camera, { ...camera, ...part }, gesture);
  else void edit(label, [{ op: "replace", path, value: { ...camera, ...part } }], gesture);
};

export const dropOwnCamera = ({ move, title }: Looked) =>
  void edit(`the camera of ${title} as it was`, [
    { op: "replace", path: `/moves/${move.id}/camera`, value: null },
  ]);
