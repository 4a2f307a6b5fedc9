import { createContext } from "react";

/** A change while a slider is dragged is shown; one that is done, or of a drag with its gesture, is kept. */
export type Changed = { tried: true } | { tried: false; gesture?: string };

/** The time that something added happens at; null where there is none. */
export const Now = createContext<() => number | null>(() => null);
/** How long what a form is about goes on, seconds. */
export const Long = createContext(10);
