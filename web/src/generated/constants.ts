// Generated from core's constants by crates/server/tests/routes/types.rs. Do not edit.

/** A key nearer than this to a time is the key of that time, seconds. */
export const SAME_KEY_S = 0.004166666666666667;

/** What is nearer to a machine than this is near, metres. */
export const NEAR_M = 0.5;

/** Radius of a performer on the plan, metres. */
export const PERSON_M = 0.38;

/** Least and greatest length of what the lens is drawn to see on the plan, metres. */
export const SIGHT_M = [7.0, 30.0] as const;

/** Distance from a machine's base at which its heading is taken, metres. */
export const LEVER_M = 1.6;

/** Distance from a rail point at which its tangent of length 1 is taken, metres. */
export const PULL_M = 0.9;

/** Lists of things, by the first token of their paths: who holds each in the document, and whether it has
 * binned things as well. */
export const LISTS = {
  pieces: { of: "scene", keepsBinned: false },
  performers: { of: "scene", keepsBinned: false },
  performances: { of: "scene", keepsBinned: false },
  setups: { of: "document", keepsBinned: true },
  takes: { of: "document", keepsBinned: true },
  moves: { of: "document", keepsBinned: true },
} as const;
