import { create } from "zustand";
import type { Point } from "../geometry";
import type { Drawn } from "./drawn";

/** What is shown of a drag on the plan while it goes on. */
export interface Shown {
  boxes: Point[][];
  dims: [Point, Point][];
  caught: { x: number | null; z: number | null };
  note: { at: Point; text: string } | null;
  /** Pieces in the hand, and how far they were taken. */
  moved: { pieces: Drawn[]; by: Point } | null;
}

export const nothing: Shown = { boxes: [], dims: [], caught: { x: null, z: null }, note: null, moved: null };

export const useShown = create<Shown>(() => nothing);
export const setShown = (shown: Shown) => useShown.setState(shown);
