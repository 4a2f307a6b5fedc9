import type { Take } from "../generated/types";

/** The number that the next take will have; passes share that of the take below. */
export const nextTake = (takes: Take[]) => Math.max(0, ...takes.map((t) => t.number)) + 1;
