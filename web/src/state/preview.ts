import { create } from "zustand";
import type { Move } from "../generated/types";

type Treatments = Move["treatments"];

/** Treatments of a move that are tried while a control is dragged; nothing of them is kept. */
interface Preview {
  move: number | null;
  treatments: Treatments;
}

export const usePreview = create<Preview>(() => ({ move: null, treatments: [] }));

export const tryTreatments = (move: number, treatments: Treatments) =>
  usePreview.setState({ move, treatments });

/** What was tried is over: it is kept by now, or given up. */
export const endPreview = () => usePreview.setState({ move: null, treatments: [] });

/** What is tried of a move; none while nothing is. */
export const useTried = (move: number | undefined) =>
  usePreview((s) => (s.move !== null && s.move === move ? s.treatments : null));
