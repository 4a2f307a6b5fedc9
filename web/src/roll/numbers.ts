import type { Take } from "../generated/types";

/** The number that the next take will have; passes share that of the take below. */
export const nextTake = (takes: Take[]) => Math.max(0, ...takes.map((t) => t.number)) + 1;

/** A name for the next pass over a take: what its armed axes are, if that says it. */
export function passName(
  axes: { name: string; group: string; hand: string | null }[],
  armed: boolean[],
): string {
  const on = axes.filter((a, i) => a.hand !== null && armed[i]);
  const groups = new Set(on.map((a) => a.group));
  const all = axes.filter((a) => a.hand !== null);
  if (on.length === all.length) return "whole";
  if (on.length === 0) return "";
  const whole = [...groups].every(
    (g) => all.filter((a) => a.group === g).length === on.filter((a) => a.group === g).length,
  );
  const words: Record<string, string> = { machine: "arm", head: "head", lens: "lens" };
  return whole ? [...groups].map((g) => words[g] ?? g).join(" and ") : on.map((a) => a.name).join(", ");
}
