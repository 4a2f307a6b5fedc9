import { NEAR_M } from "../generated/constants";
import type { Clearance } from "../live/wire";
import { decimals } from "../quantity";

/** A base that goes slower than this stands. */
const STANDS_M_S = 0.05;

export interface Told {
  text: string;
  tone: "far" | "near" | "hit";
}

/** How much room there is: of what, and to whom or what. */
export function roomText(
  clearance: Clearance | null,
  nameOf: (kind: Clearance["kind"], id: number) => string,
): Told {
  if (!clearance) return { text: "", tone: "far" };
  const { metres, of, kind, id } = clearance;
  const what = nameOf(kind, id);
  if (metres === 0) return { text: `✕ ${of} hits ${what}`, tone: "hit" };
  // What is nearly nothing is still no hit.
  const text = `${of} ${decimals(Math.max(metres, 0.01), 2)} m from ${what}`;
  return metres < NEAR_M ? { text: `▲ ${text}`, tone: "near" } : { text, tone: "far" };
}

/** How fast the base goes beside what a crew can push; nothing while it stands. */
export function pushText(base: number | null, pushed: number | null): Told {
  if (base === null || pushed === null || base < STANDS_M_S) return { text: "", tone: "far" };
  const text = `base ${decimals(base, 1)} of ${decimals(pushed, 1)} m/s`;
  if (base > pushed) return { text: `✕ ${text}`, tone: "hit" };
  return { text, tone: base > 0.8 * pushed ? "near" : "far" };
}
