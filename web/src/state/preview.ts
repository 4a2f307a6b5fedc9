import { create } from "zustand";
import type { Move } from "../generated/types";
import { holdPictures } from "./now";

type Treatments = Move["treatments"];

/** Treatments of a move that are tried while a control is dragged; nothing of them is kept. */
interface Preview {
  move: number | null;
  treatments: Treatments;
}

export const usePreview = create<Preview>(() => ({ move: null, treatments: [] }));

/** How long a hand rests before pictures go on where they take long. */
const RESTS_MS = 200;
let resting: ReturnType<typeof setTimeout> | undefined;

export function tryTreatments(move: number, treatments: Treatments) {
  usePreview.setState({ move, treatments });
  holdPictures(true);
  clearTimeout(resting);
  resting = setTimeout(() => holdPictures(false), RESTS_MS);
}

/** What was tried is over: it is kept by now, or given up. */
export function endPreview() {
  usePreview.setState({ move: null, treatments: [] });
  clearTimeout(resting);
  holdPictures(false);
}

/** What is tried of a move; none while nothing is. */
export const useTried = (move: number | undefined) =>
  usePreview((s) => (s.move !== null && s.move === move ? s.treatments : null));
