import type { Carrier, Document, SetupId } from "../generated/types";
import { lookable } from "./looked";

/** Carriers that may carry something, and their names. */
export type Carriers = [Carrier, string][];

export const ofPieces = (pieces: Document["scene"]["pieces"]): Carriers =>
  pieces.map((p) => [{ by: "piece", id: p.id }, p.name]);

/** Machines: whatever they do, or as one move has them; but that of a setup. */
export function ofMachines(document: Document, but?: number): Carriers {
  const setups = document.setups.filter((s) => s.id !== but && !s.binned);
  const letters = new Map(document.setups.map((s) => [s.id, s.letter]));
  const moves = lookable(document).filter(({ move }) => setups.some((s) => s.id === move.setup_id));
  return [
    ...setups.map((s): Carriers[number] => [{ by: "setup", id: s.id, move: null }, `machine ${s.letter}`]),
    ...moves.map(({ move, take, title, name }): Carriers[number] => [
      { by: "setup", id: move.setup_id, move: move.id },
      `machine ${letters.get(move.setup_id)}, ${take ? title : name || title}`,
    ]),
  ];
}

/** A carrier as a word of a choice. */
export const carrierKey = (c: Carrier | null | undefined) =>
  !c ? "nothing" : c.by === "setup" ? `setup ${c.id} ${c.move ?? ""}` : `${c.by} ${c.id}`;

/** Names of the loads of a machine in the performance that plays. */
export function ridersOf({ scene }: Document, setup: SetupId): string[] {
  const on = (c: Carrier | null | undefined) => c?.by === "setup" && c.id === setup;
  const people = scene.performers.filter((p) =>
    p.parts.some((part) => part.performance === scene.performance && on(part.rides)),
  );
  return [...people, ...scene.pieces.filter((p) => on(p.rides))].map((one) => one.name);
}
