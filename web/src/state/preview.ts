import { useMemo } from "react";
import { create } from "zustand";
import type { Move, MoveId } from "../generated/types";
import { holdPictures } from "./hand";

type Treatments = Move["treatments"];

/** Treatments of a move that are tried while a control is dragged; nothing of them is kept. */
interface Preview {
  move: MoveId | null;
  treatments: Treatments;
  /** Treatments whose curves are on the screen: their figures and pictures come after the curves. */
  drawn: Treatments | null;
}

const nothing: Preview = { move: null, treatments: [], drawn: null };
export const usePreview = create<Preview>(() => nothing);

/** A treatment that is looked at alone, as if all others of its move were off; only in this view. */
interface Alone {
  move: MoveId | null;
  treatment: number;
}
export const useAlone = create<Alone>(() => ({ move: null, treatment: 0 }));

/** Looks at one treatment alone, or at all of them again. */
export function turnAlone(move: MoveId, treatment: number) {
  const { move: on, treatment: which } = useAlone.getState();
  const same = on === move && which === treatment;
  useAlone.setState(same ? { move: null, treatment: 0 } : { move, treatment });
}

/** The treatments as they are looked at: one of them alone, where it is still there. */
export function withAlone(treatments: Treatments, alone: number | null): Treatments {
  const there = treatments.some((t) => t.id === alone);
  return there ? treatments.map((t) => ({ ...t, on: t.id === alone })) : treatments;
}

/** Rest of a hand before slow pictures go on, milliseconds. */
const RESTS_MS = 300;
/** Time for curves below which figures and pictures follow every step of a drag, milliseconds. */
const QUICK_MS = 50;
/** Time between figures and pictures during a drag with slow curves, milliseconds. */
const EVERY_MS = 600;

/** The drag that is under way: when it was tried last, and what is on the screen of that. */
const drag = { asked: 0, drawn: false, rested: true, followed: 0, curves: false };
let resting: ReturnType<typeof setTimeout> | undefined;

/** Curves are on the screen until the answer is called: what else changes waits for them. */
export function showCurves(): () => void {
  drag.curves = true;
  return () => {
    drag.curves = false;
    holdPictures(false);
  };
}

export function tryTreatments(move: MoveId, treatments: Treatments) {
  Object.assign(drag, { asked: performance.now(), drawn: false, rested: false });
  usePreview.setState({ move, treatments });
  if (!drag.curves) return follow();
  holdPictures(true);
  clearTimeout(resting);
  resting = setTimeout(() => {
    drag.rested = true;
    holdPictures(false);
    if (drag.drawn) follow();
  }, RESTS_MS);
}

/** Ends a trial: its treatments are kept by now, or given up. */
export function endPreview() {
  usePreview.setState(nothing);
  clearTimeout(resting);
  holdPictures(false);
}

/** The curves of what is tried have come. Of what is kept, nothing is said. */
export function curvesDrawn() {
  drag.drawn = true;
  const now = performance.now();
  if (drag.rested || now - drag.asked < QUICK_MS || now - drag.followed > EVERY_MS) follow();
}

/** Figures and pictures of what is tried are asked for. */
function follow() {
  drag.followed = performance.now();
  usePreview.setState((s) => (s.move === null ? s : { drawn: s.treatments }));
}

/**
 * What is looked at of a move instead of what is kept: what is tried, or one treatment alone; none
 * while that is nothing. What may wait gets it when its curves are drawn.
 */
export function useTried(move: Move | undefined, waits: boolean): Treatments | null {
  const tried = usePreview((s) => (move && s.move === move.id ? (waits ? s.drawn : s.treatments) : null));
  const alone = useAlone((s) => (move && s.move === move.id ? s.treatment : null));
  const kept = move?.treatments;
  return useMemo(() => {
    const shown = tried ?? (alone === null ? null : (kept ?? null));
    return shown && withAlone(shown, alone);
  }, [tried, alone, kept]);
}

/** Treatments of a move that are being tried. */
export function triedOf(move: MoveId): Treatments | null {
  const tried = usePreview.getState();
  return tried.move === move ? tried.treatments : null;
}

/** Fields of one treatment of a move that are being tried. */
export const useTriedOf = (move: MoveId, id: number) =>
  usePreview((s) => (s.move === move ? s.treatments.find((t) => t.id === id) : undefined));
