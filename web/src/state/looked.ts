import { create } from "zustand";
import type { Camera, Document, Move, MoveId, Rigging, Take, TakeId } from "../generated/types";

/** A move as it is looked at: with the take it comes from, if it comes from one. */
export interface Looked {
  move: Move;
  take: Take | null;
  /** Its own, or those of its take or setup. */
  camera: Camera;
  rig: Rigging;
  /** When it begins, scene time: after what a treatment takes off its start. */
  begins_s: number;
  /** When it ends, scene time. */
  length_s: number;
  /** "take 3", "keys of setup A". */
  title: string;
  /** A name of its own, of the take or of the move. */
  name: string;
}

/** Chosen move of a take. */
export const chosenOf = (document: Document, take: TakeId): Move | undefined =>
  document.moves.find((m) => m.source.kind === "take" && m.source.take === take && m.chosen && !m.binned);

const firstOf = (m: Move) => m.variant_of ?? m.id;

/** True if two moves are variants of one another, or the same. */
export function ofOne(a: Move, b: Move): boolean {
  if (a.source.kind === "take") return b.source.kind === "take" && a.source.take === b.source.take;
  return b.source.kind !== "take" && firstOf(a) === firstOf(b);
}

/** The variants of a move, it among them. */
export const siblings = (document: Document, move: Move): Move[] =>
  document.moves.filter((m) => !m.binned && ofOne(m, move));

/** Length of a move, seconds; as deep as moves may follow one another. */
function lengthOf(document: Document, move: Move, depth = 0): number {
  const { source } = move;
  if (source.kind === "take") return document.takes.find((t) => t.id === source.take)?.length_s ?? 0;
  if (source.kind === "curves" || depth > 8) return document.scene.length_s;
  const followed = document.moves.find((m) => m.id === source.move);
  return followed ? lengthOf(document, followed, depth + 1) : 0;
}

/** Title of a move. */
export function titleOf(document: Document, move: Move): string {
  const { source } = move;
  const take = source.kind === "take" && document.takes.find((t) => t.id === source.take);
  if (take) return `take ${take.number}`;
  const letter = document.setups.find((s) => s.id === move.setup_id)?.letter ?? "";
  return source.kind === "follow" ? `setup ${letter}, following` : `keys of setup ${letter}`;
}

/** A move that can be looked at; null where it is gone, binned, or its take still rolls. */
export function lookedOf(document: Document | undefined, id: number | null): Looked | null {
  const move = document?.moves.find((m) => m.id === id && !m.binned);
  const setup = document?.setups.find((s) => s.id === move?.setup_id);
  if (!document || !move || !setup) return null;
  const { source } = move;
  const take = source.kind === "take" ? (document.takes.find((t) => t.id === source.take) ?? null) : null;
  if (source.kind === "take" && (!take || take.rolling || take.binned)) return null;
  return {
    move,
    take,
    camera: move.camera ?? (take ?? setup).camera,
    rig: move.rig ?? (take ?? setup).rig,
    begins_s: 0,
    length_s: lengthOf(document, move),
    title: titleOf(document, move),
    name: take?.name || move.name,
  };
}

/** Everything that can be looked at, takes first: the chosen one of each. */
export function lookable(document: Document): Looked[] {
  const shown = document.moves
    .filter((m) => m.chosen)
    .map((m) => lookedOf(document, m.id))
    .filter((l) => l !== null);
  return [...shown.filter((l) => l.take), ...shown.filter((l) => !l.take)];
}

/** The take that was rolled last. */
export const newestTake = (document: Document) =>
  document.takes.findLast((t) => !t.rolling && !t.binned && !t.pass);

/**
 * The move to shape: of what was rolled since a move was looked at; else the one that was looked at; else
 * of the take that is good, or of the newest.
 */
export function moveToShape(document: Document, moveId: MoveId | null, seen: number): number | null {
  const newest = newestTake(document);
  const news = newest && newest.id > seen ? chosenOf(document, newest.id) : undefined;
  const there = lookable(document);
  const found =
    lookedOf(document, news?.id ?? null) ??
    lookedOf(document, moveId) ??
    there.findLast((l) => l.take?.rating === "good") ??
    there.findLast((l) => l.take) ??
    there.at(-1);
  return found?.move.id ?? null;
}

/** From when to when moves go after their treatments, by their numbers: known once their frames have come. */
export const useLengths = create<Record<number, readonly [number, number]>>(() => ({}));

/** A move as long as its frames are, where treatments made it longer or shorter than what it comes from. */
export function asLong(
  looked: Looked | null,
  known: readonly [number, number] | undefined,
  rate: number,
): Looked | null {
  if (!looked || !known) return looked;
  const [begins_s, ends_s] = known;
  const length_s = Math.abs(ends_s - looked.length_s) > 1.01 / rate ? ends_s : looked.length_s;
  return begins_s > 0 || length_s !== looked.length_s ? { ...looked, begins_s, length_s } : looked;
}
